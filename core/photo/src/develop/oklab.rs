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

/// Cube roots by two steps of Halley's method from a guess by bits: within a millionth. Of several at once, so that the processor works
/// on them side by side.
fn cube_roots<const N: usize>(values: [f32; N]) -> [f32; N] {
    /// So little that it changes no root but that of 0, which is 0.
    const TINY: f32 = 1e-30;
    let sizes = values.map(f32::abs);
    let mut roots = sizes.map(|size| f32::from_bits(size.to_bits() / 3 + 0x2a51_19f2));
    for _ in 0..2 {
        for n in 0..N {
            let cube = roots[n] * roots[n] * roots[n];
            roots[n] *= (cube + sizes[n] + sizes[n]) / (cube + cube + sizes[n] + TINY);
        }
    }
    for n in 0..N {
        roots[n] = roots[n].copysign(values[n]);
    }
    roots
}

/// Several colours in linear light in OKLab.
pub(crate) fn labs_of_linear<const N: usize>(pixels: &[Rgb; N]) -> [Lab; N] {
    let mixed = |r: f32, g: f32, b: f32| {
        let mut out = [0.0; N];
        for n in 0..N {
            out[n] = r * pixels[n][0] + g * pixels[n][1] + b * pixels[n][2];
        }
        cube_roots(out)
    };
    let l = mixed(0.412_221_47, 0.536_332_55, 0.051_445_995);
    let m = mixed(0.211_903_5, 0.680_699_5, 0.107_396_96);
    let s = mixed(0.088_302_46, 0.281_718_85, 0.629_978_7);
    std::array::from_fn(|n| Lab {
        l: 0.210_454_26 * l[n] + 0.793_617_8 * m[n] - 0.004_072_047 * s[n],
        a: 1.977_998_5 * l[n] - 2.428_592_2 * m[n] + 0.450_593_7 * s[n],
        b: 0.025_904_037 * l[n] + 0.782_771_77 * m[n] - 0.808_675_77 * s[n],
    })
}

pub(crate) fn lab_of_linear(pixel: Rgb) -> Lab {
    labs_of_linear(&[pixel])[0]
}

/// What becomes of encoded pixels by what becomes of them in OKLab; a colour that cannot be shown is brought to what can.
pub(crate) fn through_lab(row: &mut [Rgb], transfer: Transfer, does: impl Fn(Lab) -> Lab) {
    const SIDE_BY_SIDE: usize = 8;
    let (eights, rest) = row.as_chunks_mut::<SIDE_BY_SIDE>();
    for pixels in eights {
        let labs = labs_of_linear(&pixels.map(|pixel| transfer.linear(pixel)));
        *pixels = labs.map(|lab| shown(transfer, does(lab)));
    }
    for pixel in rest {
        *pixel = shown(transfer, does(lab_of_linear(transfer.linear(*pixel))));
    }
}

/// The cube roots of cone responses.
fn cones_of(lab: Lab) -> [f32; 3] {
    [
        lab.l + 0.396_337_78 * lab.a + 0.215_803_76 * lab.b,
        lab.l - 0.105_561_346 * lab.a - 0.063_854_17 * lab.b,
        lab.l - 0.089_484_18 * lab.a - 1.291_485_5 * lab.b,
    ]
}

pub(crate) fn linear_of_lab(lab: Lab) -> Rgb {
    let cubes = cones_of(lab).map(|cone| cone * cone * cone);
    FROM_CONES.map(|weights| weights[0] * cubes[0] + weights[1] * cubes[1] + weights[2] * cubes[2])
}

/// The chroma a colour can have at most, scaled down towards grey of the same lightness until it can be shown: no channel is cut off,
/// so no hue turns.
pub(crate) fn shown(transfer: Transfer, lab: Lab) -> Rgb {
    let whole = linear_of_lab(lab);
    if fits(whole) || !(0.0..=1.0).contains(&lab.l) {
        return transfer.encoded(whole);
    }
    transfer.encoded(linear_of_lab(lab.scaled(most_chroma(lab, whole))))
}

/// What the cubes of cone responses make of linear light, by channel.
const FROM_CONES: [[f32; 3]; 3] = [
    [4.076_741_7, -3.307_711_6, 0.230_969_94],
    [-1.268_438, 2.609_757_4, -0.341_319_38],
    [-0.004_196_086_3, -0.703_418_6, 1.707_614_7],
];

/// The largest share of its chroma, 0 to 1, at which no channel of a colour leaves 0 to 1. `whole` is the colour in linear light.
///
/// In that share each channel is a cubic that starts at the grey of the colour's lightness; where it first leaves is found by the
/// method of false position (its Illinois variant; M. Dowell, P. Jarratt, 1971).
fn most_chroma(lab: Lab, whole: Rgb) -> f32 {
    let cones = cones_of(Lab { l: 0.0, ..lab });
    let (mut most, mut now) = (1.0f32, whole);
    // A channel may leave, come back and leave again: what is found is looked at once more.
    for _ in 0..4 {
        for (value, weights) in now.into_iter().zip(FROM_CONES) {
            if !(0.0..=1.0).contains(&value) {
                most = inside(lab.l, cones, weights, most, if value < 0.0 { 0.0 } else { 1.0 });
            }
        }
        now = linear_of_lab(lab.scaled(most));
        if fits(now) {
            break;
        }
    }
    most
}

/// The share up to `most` at which a channel reaches an edge beyond which it lies there.
fn inside(l: f32, cones: [f32; 3], weights: [f32; 3], most: f32, edge: f32) -> f32 {
    let sum = |power: fn(f32) -> f32| (0..3).map(|n| weights[n] * power(cones[n])).sum::<f32>();
    let (first, second, third) = (3.0 * l * l * sum(|c| c), 3.0 * l * sum(|c| c * c), sum(|c| c * c * c));
    let grey = l * l * l;
    let off = |share: f32| ((third * share + second) * share + first) * share + grey - edge;
    let (mut low, mut high) = ((0.0, grey - edge), (most, off(most)));
    if (high.1 > 0.0) == (low.1 > 0.0) {
        // It is inside already at what other channels left.
        return most;
    }
    let mut side = 0;
    for _ in 0..9 {
        let at = (low.0 * high.1 - high.0 * low.1) / (high.1 - low.1);
        let own = off(at);
        if own.abs() < 1e-4 {
            return at;
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
    low.0
}

/// Whether no channel of linear light leaves 0 to 1 by more than is seen.
fn fits(pixel: Rgb) -> bool {
    pixel.iter().all(|value| (-1e-4..=1.0001).contains(value))
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
    fn whatever_is_too_loud_comes_to_the_edge_of_what_can_be_shown() {
        let transfer = Transfer::new();
        for n in 0..4_000u32 {
            let part = |k: u32| {
                (n.wrapping_mul(2_654_435_761).wrapping_add(k.wrapping_mul(0x9e37_79b9)) >> 8) as f32
                    / (1u32 << 24) as f32
            };
            let (turn, chroma) = (part(1) * std::f32::consts::TAU, 0.05 + part(3) * 0.5);
            let lab = Lab { l: 0.03 + part(2) * 0.95, a: chroma * turn.cos(), b: chroma * turn.sin() };
            let whole = linear_of_lab(lab);
            let pixel = transfer.linear(shown(transfer, lab));
            assert!(pixel.iter().all(|value| (-4e-4..=1.0004).contains(value)), "{lab:?}: {pixel:?}");
            if whole.iter().any(|value| !(-1e-3..=1.001).contains(value)) {
                let edge = pixel.iter().map(|value| value.abs().min((1.0 - value).abs())).fold(f32::MAX, f32::min);
                assert!(edge < 2e-3, "{lab:?} could be louder: {pixel:?}");
                let now = lab_of_linear(pixel);
                assert!((now.l - lab.l).abs() < 4e-3, "{lab:?} became {now:?}");
            }
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
