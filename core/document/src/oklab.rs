//! Colour as it is seen: the OKLab space and its polar form.
//!
//! Björn Ottosson, "A perceptual color space for image processing" (2020); matrices as given there for linear sRGB and D65.

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

fn linear(value: u8) -> f64 {
    let v = f64::from(value) / 255.0;
    if v <= 0.04045 { v / 12.92 } else { ((v + 0.055) / 1.055).powf(2.4) }
}

fn encoded(v: f64) -> f64 {
    if v <= 0.003_130_8 { v * 12.92 } else { 1.055 * v.powf(1.0 / 2.4) - 0.055 }
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

    fn to_linear(self) -> [f64; 3] {
        let l = (self.l + 0.396_337_777_4 * self.a + 0.215_803_757_3 * self.b).powi(3);
        let m = (self.l - 0.105_561_345_8 * self.a - 0.063_854_172_8 * self.b).powi(3);
        let s = (self.l - 0.089_484_177_5 * self.a - 1.291_485_548 * self.b).powi(3);
        [
            4.076_741_662_1 * l - 3.307_711_591_3 * m + 0.230_969_929_2 * s,
            -1.268_438_004_6 * l + 2.609_757_401_1 * m - 0.341_319_396_5 * s,
            -0.004_196_086_3 * l - 0.703_418_614_7 * m + 1.707_614_701 * s,
        ]
    }

    /// The nearest opaque colour a screen shows: lightness and hue stay, chroma gives way.
    #[must_use]
    pub fn to_color(self) -> Color {
        let l = self.l.clamp(0.0, 1.0);
        let at = |share: f64| Self { l, a: self.a * share, b: self.b * share }.to_linear();
        // A hair of tolerance, so that colours that came from sRGB go back as they came.
        let shown = |rgb: [f64; 3]| rgb.iter().all(|v| (-1e-4..=1.0 + 1e-4).contains(v));
        let (mut low, mut high) = (0.0, 1.0);
        if shown(at(1.0)) {
            low = 1.0;
        } else {
            for _ in 0..20 {
                let middle = f64::midpoint(low, high);
                if shown(at(middle)) { low = middle } else { high = middle }
            }
        }
        let [r, g, b] = at(low).map(|v| (encoded(v.clamp(0.0, 1.0)) * 255.0).round() as u8);
        Color::opaque(r, g, b)
    }
}

impl From<Color> for Oklab {
    /// Alpha is ignored.
    fn from(color: Color) -> Self {
        let (r, g, b) = (linear(color.r), linear(color.g), linear(color.b));
        let l = (0.412_221_470_8 * r + 0.536_332_536_3 * g + 0.051_445_992_9 * b).cbrt();
        let m = (0.211_903_498_2 * r + 0.680_699_545_1 * g + 0.107_396_956_6 * b).cbrt();
        let s = (0.088_302_461_9 * r + 0.281_718_837_6 * g + 0.629_978_700_5 * b).cbrt();
        Self {
            l: 0.210_454_255_3 * l + 0.793_617_785 * m - 0.004_072_046_8 * s,
            a: 1.977_998_495_1 * l - 2.428_592_205 * m + 0.450_593_709_9 * s,
            b: 0.025_904_037_1 * l + 0.782_771_766_2 * m - 0.808_675_766 * s,
        }
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
