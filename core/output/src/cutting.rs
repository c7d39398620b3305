//! Lines along which items are to be cut: how they are named and seen in files that say them.

/// Name of the separation that holds them.
pub(crate) const NAME: &str = "Cutting line";
/// Where a file has no separations, or a reader does not separate.
pub(crate) const COLOUR: &str = "#e5007d";
/// The same, in encoded sRGB.
pub(crate) const RGB: [u8; 3] = [0xe5, 0x00, 0x7d];
/// A quarter of a point, in CSS pixels.
pub(crate) const WIDTH: f64 = 0.25 * 96.0 / 72.0;

#[cfg(test)]
mod tests {
    #[test]
    fn both_names_of_the_colour_agree() {
        let [r, g, b] = super::RGB;
        assert_eq!(format!("#{r:02x}{g:02x}{b:02x}"), super::COLOUR);
    }
}
