//! Colour as it is seen: the OKLab space and its polar form.
//!
//! Björn Ottosson, "A perceptual color space for image processing" (2020), as the library has it.

use color::ColorSpace as _;

use crate::Color;

/// A colour in OKLab.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Oklab {
    /// Lightness, 0 black to 1 white.
    pub l: f64,
    /// Green (negative) to red, about -0.4 to 0.4.
    pub a: f64,
    /// Blue (negative) to yellow, about -0.4 to 0.4.
    pub b: f64,
}

impl Oklab {
    /// From lightness, chroma (0 is grey, about 0.37 the most a screen shows) and hue in degrees (about 29 is red).
    #[must_use]
    pub fn from_polar(l: f64, chroma: f64, hue: f64) -> Self {
        let (sin, cos) = hue.to_radians().sin_cos();
        Self { l, a: chroma * cos, b: chroma * sin }
    }

    /// Distance from grey.
    #[must_use]
    pub fn chroma(self) -> f64 {
        self.a.hypot(self.b)
    }

    /// Hue in degrees, 0 to 360.
    #[must_use]
    pub fn hue(self) -> f64 {
        self.b.atan2(self.a).to_degrees().rem_euclid(360.0)
    }

    /// How different two colours look; 0.02 is just noticeable side by side.
    #[must_use]
    pub fn distance(self, other: Self) -> f64 {
        ((self.l - other.l).powi(2) + (self.a - other.a).powi(2) + (self.b - other.b).powi(2)).sqrt()
    }

    fn to_linear(self) -> [f32; 3] {
        color::Oklab::to_linear_srgb([self.l as f32, self.a as f32, self.b as f32])
    }

    /// The nearest opaque colour a screen shows: lightness and hue stay, chroma gives way.
    #[must_use]
    pub fn to_color(self) -> Color {
        let l = self.l.clamp(0.0, 1.0);
        let at = |share: f64| Self { l, a: self.a * share, b: self.b * share }.to_linear();
        // A hair of tolerance, so that colours that came from sRGB go back as they came.
        let shown = |rgb: [f32; 3]| rgb.iter().all(|v| (-1e-4..=1.0 + 1e-4).contains(v));
        let (mut low, mut high) = (0.0, 1.0);
        if shown(at(1.0)) {
            low = 1.0;
        } else {
            for _ in 0..20 {
                let middle = f64::midpoint(low, high);
                if shown(at(middle)) { low = middle } else { high = middle }
            }
        }
        let encoded = color::Srgb::from_linear_srgb(at(low).map(|v| v.clamp(0.0, 1.0)));
        let [r, g, b] = encoded.map(|v| (v * 255.0).round() as u8);
        Color::opaque(r, g, b)
    }
}

impl From<Color> for Oklab {
    /// Alpha is ignored.
    fn from(color: Color) -> Self {
        let encoded = [color.r, color.g, color.b].map(|v| f32::from(v) / 255.0);
        let [l, a, b] = color::Oklab::from_linear_srgb(color::Srgb::to_linear_srgb(encoded)).map(f64::from);
        Self { l, a, b }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn every_colour_comes_back(r: u8, g: u8, b: u8) {
            let color = Color::opaque(r, g, b);
            prop_assert_eq!(Oklab::from(color).to_color(), color);
        }

        #[test]
        fn what_a_screen_cannot_show_keeps_lightness_and_hue(l in 0.3f64..0.9, chroma in 0.0f64..0.5, hue in 0f64..360.0) {
            let wanted = Oklab::from_polar(l, chroma, hue);
            let shown = Oklab::from(wanted.to_color());
            prop_assert!((shown.l - l).abs() < 0.01, "{:?} for {:?}", shown, wanted);
            prop_assert!(shown.chroma() <= chroma + 0.01);
            if shown.chroma() > 0.05 {
                let turn = (shown.hue() - hue).rem_euclid(360.0);
                prop_assert!(turn.min(360.0 - turn) < 4.0, "{:?} for {:?}", shown, wanted);
            }
        }
    }

    #[test]
    fn published_values() {
        // Red, from CSS Color 4, section on OKLCH: oklch(0.62796 0.25768 29.234).
        let red = Oklab::from(Color::opaque(255, 0, 0));
        assert!(
            (red.l - 0.62796).abs() < 1e-4
                && (red.chroma() - 0.25768).abs() < 1e-4
                && (red.hue() - 29.234).abs() < 0.01
        );
        assert!((Oklab::from(Color::WHITE).l - 1.0).abs() < 1e-6 && Oklab::from(Color::WHITE).chroma() < 1e-6);
    }
}
