//! OKLab (B. Ottosson, "A perceptual color space for image processing", 2020) in single precision, for pixels.

use super::film::Rgb;
use super::transfer::Transfer;

/// Lightness and the two opponent axes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Lab {
    pub l: f32,
    pub a: f32,
    pub b: f32,
}

impl Lab {
    pub(crate) fn chroma(self) -> f32 {
        (self.a * self.a + self.b * self.b).sqrt()
    }

    /// With its opponent axes scaled.
    pub(crate) fn scaled(self, by: f32) -> Self {
        Self { a: self.a * by, b: self.b * by, ..self }
    }
}

/// A cube root by two steps of Halley's method from a guess by bits: within a millionth.
fn cube_root(value: f32) -> f32 {
    if value == 0.0 {
        return 0.0;
    }
    let size = value.abs();
    let mut root = f32::from_bits(size.to_bits() / 3 + 0x2a51_19f2);
    for _ in 0..2 {
        let cube = root * root * root;
        root *= (cube + size + size) / (cube + cube + size);
    }
    root.copysign(value)
}

pub(crate) fn lab_of_linear([r, g, b]: Rgb) -> Lab {
    let l = cube_root(0.412_221_47 * r + 0.536_332_55 * g + 0.051_445_995 * b);
    let m = cube_root(0.211_903_5 * r + 0.680_699_5 * g + 0.107_396_96 * b);
    let s = cube_root(0.088_302_46 * r + 0.281_718_85 * g + 0.629_978_7 * b);
    Lab {
        l: 0.210_454_26 * l + 0.793_617_8 * m - 0.004_072_047 * s,
        a: 1.977_998_5 * l - 2.428_592_2 * m + 0.450_593_7 * s,
        b: 0.025_904_037 * l + 0.782_771_77 * m - 0.808_675_77 * s,
    }
}

pub(crate) fn linear_of_lab(lab: Lab) -> Rgb {
    let l = lab.l + 0.396_337_78 * lab.a + 0.215_803_76 * lab.b;
    let m = lab.l - 0.105_561_346 * lab.a - 0.063_854_17 * lab.b;
    let s = lab.l - 0.089_484_18 * lab.a - 1.291_485_5 * lab.b;
    let (l, m, s) = (l * l * l, m * m * m, s * s * s);
    [
        4.076_741_7 * l - 3.307_711_6 * m + 0.230_969_94 * s,
        -1.268_438 * l + 2.609_757_4 * m - 0.341_319_38 * s,
        -0.004_196_086_3 * l - 0.703_418_6 * m + 1.707_614_7 * s,
    ]
}

/// The chroma a colour can have at most, scaled down towards grey of the same lightness until it can be shown: no channel is cut off,
/// so no hue turns.
pub(crate) fn shown(transfer: Transfer, lab: Lab) -> Rgb {
    let whole = linear_of_lab(lab);
    let fits = (whole[0] >= -1e-4)
        & (whole[1] >= -1e-4)
        & (whole[2] >= -1e-4)
        & (whole[0] <= 1.0001)
        & (whole[1] <= 1.0001)
        & (whole[2] <= 1.0001);
    if fits || !(0.0..=1.0).contains(&lab.l) {
        return transfer.encoded(whole);
    }
    transfer.encoded(linear_of_lab(lab.scaled(most_chroma(lab, whole))))
}

/// The largest share of its chroma, 0 to 1, at which no channel of a colour leaves 0 to 1. `whole` is the colour in linear light.
///
/// In that share each channel is a cubic that starts at the grey of the colour's lightness; where it first leaves is found by the
/// method of false position (its Illinois variant; M. Dowell, P. Jarratt, 1971).
fn most_chroma(lab: Lab, whole: Rgb) -> f32 {
    let grey = lab.l * lab.l * lab.l;
    let mut most = 1.0f32;
    for (c, value) in whole.into_iter().enumerate() {
        let edge = if value < 0.0 { 0.0 } else { 1.0 };
        if (0.0..=1.0).contains(&value) {
            continue;
        }
        let off = |share: f32| linear_of_lab(lab.scaled(share))[c] - edge;
        let (mut low, mut high) = ((0.0, grey - edge), (most, off(most)));
        if (high.1 > 0.0) == (low.1 > 0.0) {
            // It is inside already at what the channels before left.
            continue;
        }
        let mut side = 0;
        for _ in 0..9 {
            let at = (low.0 * high.1 - high.0 * low.1) / (high.1 - low.1);
            let own = off(at);
            if own.abs() < 1e-4 {
                low = (at, own);
                break;
            }
            if (own > 0.0) == (high.1 > 0.0) {
                high = (at, own);
                low.1 *= if side == 1 { 0.5 } else { 1.0 };
                side = 1;
            } else {
                low = (at, own);
                high.1 *= if side == -1 { 0.5 } else { 1.0 };
                side = -1;
            }
        }
        most = low.0;
    }
    most
}

#[cfg(test)]
mod tests {
    use super::*;
    use vatman_document::{Color, Oklab};

    #[test]
    fn it_is_the_one_of_the_document_and_goes_there_and_back() {
        let transfer = Transfer::new();
        for (r, g, b) in [(0, 0, 0), (255, 255, 255), (200, 30, 60), (10, 90, 250), (120, 121, 119), (255, 220, 0)] {
            let pixel = [r, g, b].map(|value: u8| f32::from(value) / 255.0);
            let lab = lab_of_linear(transfer.linear(pixel));
            let wanted = Oklab::from(Color::opaque(r, g, b));
            for (got, wanted) in [(lab.l, wanted.l), (lab.a, wanted.a), (lab.b, wanted.b)] {
                assert!((f64::from(got) - wanted).abs() < 2e-4, "{r} {g} {b}: {lab:?} for {wanted:?}");
            }
            let back = transfer.encoded(linear_of_lab(lab));
            assert!(back.iter().zip(pixel).all(|(a, b)| (a - b).abs() < 5e-4), "{back:?} for {pixel:?}");
        }
    }

    #[test]
    fn a_colour_too_loud_to_be_shown_keeps_its_lightness_and_hue() {
        let transfer = Transfer::new();
        let loud = Lab { l: 0.6, a: 0.5, b: 0.2 };
        let pixel = shown(transfer, loud);
        assert!(pixel.iter().all(|value| (-2e-3..=1.002).contains(value)), "{pixel:?}");
        let lab = lab_of_linear(transfer.linear(pixel));
        assert!((lab.l - 0.6).abs() < 3e-3 && (lab.b.atan2(lab.a) - 0.2f32.atan2(0.5)).abs() < 5e-3, "{lab:?}");
    }
}
