//! OKLab (B. Ottosson, "A perceptual color space for image processing", 2020) in single precision, for pixels.

use pulp::NullaryFnOnce;

use super::film::Rgb;
use super::row::{LANES, Row};
use super::transfer::{encoded_value, linear_value};
use crate::wide::side_by_side;

/// Lightness and the two opponent axes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Lab {
    pub l: f32,
    pub a: f32,
    pub b: f32,
}

impl Lab {
    #[inline(always)]
    pub(crate) fn chroma(self) -> f32 {
        (self.a * self.a + self.b * self.b).sqrt()
    }
}

/// One channel of as many pixels.
type Lanes<const N: usize = LANES> = [f32; N];

#[inline(always)]
fn each<const N: usize>(values: Lanes<N>, does: impl Fn(f32) -> f32) -> Lanes<N> {
    let mut out = [0.0; N];
    for n in 0..N {
        out[n] = does(values[n]);
    }
    out
}

/// Three channels mixed into three others.
#[inline(always)]
fn mixed<const N: usize>(weights: &[[f32; 3]; 3], [a, b, c]: &[Lanes<N>; 3]) -> [Lanes<N>; 3] {
    let mut out = [[0.0; N]; 3];
    for (out, [x, y, z]) in out.iter_mut().zip(weights) {
        for n in 0..N {
            out[n] = x * a[n] + y * b[n] + z * c[n];
        }
    }
    out
}

/// A cube root by two steps of Halley's method from a guess by bits: within a millionth.
#[inline(always)]
fn cube_root(value: f32) -> f32 {
    /// So little that it changes no root but that of 0, which is 0.
    const TINY: f32 = 1e-30;
    let size = value.abs();
    let mut root = f32::from_bits(size.to_bits() / 3 + 0x2a51_19f2);
    for _ in 0..2 {
        let cube = root * root * root;
        root *= (cube + size + size) / (cube + cube + size + TINY);
    }
    root.copysign(value)
}

/// Linear light to cone responses.
const TO_CONES: [[f32; 3]; 3] = [
    [0.412_221_47, 0.536_332_55, 0.051_445_995],
    [0.211_903_5, 0.680_699_5, 0.107_396_96],
    [0.088_302_46, 0.281_718_85, 0.629_978_7],
];
/// Their cube roots to OKLab.
const TO_LAB: [[f32; 3]; 3] = [
    [0.210_454_26, 0.793_617_8, -0.004_072_047],
    [1.977_998_5, -2.428_592_2, 0.450_593_7],
    [0.025_904_037, 0.782_771_77, -0.808_675_77],
];
/// OKLab to the cube roots of cone responses.
const FROM_LAB: [[f32; 3]; 3] =
    [[1.0, 0.396_337_78, 0.215_803_76], [1.0, -0.105_561_346, -0.063_854_17], [1.0, -0.089_484_18, -1.291_485_5]];
/// Cone responses to linear light.
const FROM_CONES: [[f32; 3]; 3] = [
    [4.076_741_7, -3.307_711_6, 0.230_969_94],
    [-1.268_438, 2.609_757_4, -0.341_319_38],
    [-0.004_196_086_3, -0.703_418_6, 1.707_614_7],
];

/// The same to three channels.
#[inline(always)]
fn all<const N: usize>([a, b, c]: [Lanes<N>; 3], does: impl Fn(f32) -> f32 + Copy) -> [Lanes<N>; 3] {
    [each(a, does), each(b, does), each(c, does)]
}

#[inline(always)]
fn squared(value: f32) -> f32 {
    value * value
}

#[inline(always)]
fn cubed(value: f32) -> f32 {
    value * value * value
}

/// Colours in linear light in OKLab: lightness and the two axes.
#[inline(always)]
fn labs_of_linear<const N: usize>(pixels: &[Lanes<N>; 3]) -> [Lanes<N>; 3] {
    mixed(&TO_LAB, &all(mixed(&TO_CONES, pixels), cube_root))
}

#[inline(always)]
fn linear_of_labs<const N: usize>(labs: &[Lanes<N>; 3]) -> [Lanes<N>; 3] {
    mixed(&FROM_CONES, &all(mixed(&FROM_LAB, labs), cubed))
}

pub(crate) fn lab_of_linear([red, green, blue]: Rgb) -> Lab {
    let [[l], [a], [b]] = labs_of_linear(&[[red], [green], [blue]]);
    Lab { l, a, b }
}

/// What is done to every colour.
pub(crate) trait EachLab {
    /// What becomes of a colour; to be inlined always.
    fn lab(&self, lab: Lab) -> Lab;
}

#[inline(always)]
fn turned<S: EachLab>(pixels: [Lanes; 3], does: &S) -> [Lanes; 3] {
    let [mut l, mut a, mut b] = labs_of_linear(&all(pixels, linear_value));
    for n in 0..LANES {
        let lab = does.lab(Lab { l: l[n], a: a[n], b: b[n] });
        (l[n], a[n], b[n]) = (lab.l, lab.a, lab.b);
    }
    shown([l, a, b])
}

struct Labs<'a, S>(&'a mut Row, &'a S);

impl<S: EachLab> NullaryFnOnce for Labs<'_, S> {
    type Output = ();

    #[inline(always)]
    fn call(self) {
        let Self(row, does) = self;
        let [red, green, blue] = row.blocks();
        for ((red, green), blue) in red.iter_mut().zip(green).zip(blue) {
            [*red, *green, *blue] = turned([*red, *green, *blue], does);
        }
    }
}

/// What becomes of encoded pixels by what becomes of them in OKLab; a colour that cannot be shown is brought to what can.
pub(crate) fn through_lab(row: &mut Row, does: &impl EachLab) {
    side_by_side(Labs(row, does));
}

/// How far beyond 0 and 1 linear light lies that is not seen to.
const UNSEEN: f32 = 1e-4;

/// Colours in encoded sRGB. The chroma of what cannot be shown is scaled down towards grey of the same lightness until it can: no
/// channel is cut off, so no hue turns.
#[inline(always)]
fn shown<const N: usize>(labs: [Lanes<N>; 3]) -> [Lanes<N>; 3] {
    let mut linear = linear_of_labs(&labs);
    let [red, green, blue] = &linear;
    let [l, a, b] = labs;
    let mut outside = [0u32; N];
    for n in 0..N {
        let low = red[n].min(green[n]).min(blue[n]);
        let high = red[n].max(green[n]).max(blue[n]);
        outside[n] = u32::from((low < -UNSEEN) | (high > 1.0 + UNSEEN)) & u32::from((l[n] >= 0.0) & (l[n] <= 1.0));
    }
    if outside.iter().fold(0, |any, own| any | own) != 0 {
        let most = most_chroma(&labs);
        let (mut quiet_a, mut quiet_b) = (a, b);
        for n in 0..N {
            let by = if outside[n] == 0 { 1.0 } else { most[n] };
            quiet_a[n] *= by;
            quiet_b[n] *= by;
        }
        linear = linear_of_labs(&[l, quiet_a, quiet_b]);
    }
    all(linear, encoded_value)
}

/// The value of a channel at a share of the chroma of a colour: a cubic, which starts at the grey of the colour's lightness.
#[inline(always)]
fn cubic(third: f32, second: f32, first: f32, l: f32, share: f32) -> f32 {
    ((third * share + 3.0 * l * second) * share + 3.0 * l * l * first) * share + l * l * l
}

/// The largest share of its chroma, 0 to 1, at which no channel of a colour leaves 0 to 1; for colours of which one does at 1.
///
/// Where the first leaves is found by halving and, when it lies between two near places, by a straight line.
#[inline(always)]
fn most_chroma<const N: usize>([l, a, b]: &[Lanes<N>; 3]) -> Lanes<N> {
    let cones = mixed(&FROM_LAB, &[[0.0; N], *a, *b]);
    let first = mixed(&FROM_CONES, &cones);
    let second = mixed(&FROM_CONES, &all(cones, squared));
    let third = mixed(&FROM_CONES, &all(cones, cubed));
    let (mut low, mut high) = ([0.0; N], [1.0; N]);
    for _ in 0..8 {
        for n in 0..N {
            let middle = (low[n] + high[n]) * 0.5;
            let x = cubic(third[0][n], second[0][n], first[0][n], l[n], middle);
            let y = cubic(third[1][n], second[1][n], first[1][n], l[n], middle);
            let z = cubic(third[2][n], second[2][n], first[2][n], l[n], middle);
            let inside = (x.min(y).min(z) >= 0.0) & (x.max(y).max(z) <= 1.0);
            low[n] = if inside { middle } else { low[n] };
            high[n] = if inside { high[n] } else { middle };
        }
    }
    let mut out = high;
    for c in 0..3 {
        for n in 0..N {
            let from = cubic(third[c][n], second[c][n], first[c][n], l[n], low[n]);
            let to = cubic(third[c][n], second[c][n], first[c][n], l[n], high[n]);
            let edge = to.clamp(0.0, 1.0);
            let share = if to == edge { 1.0 } else { (edge - from) / (to - from) };
            let at = low[n] + (high[n] - low[n]) * share.clamp(0.0, 1.0);
            out[n] = if at < out[n] { at } else { out[n] };
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::develop::transfer;
    use vatman_document::{Color, Oklab};

    fn shown_alone(lab: Lab) -> Rgb {
        shown([[lab.l], [lab.a], [lab.b]]).map(|[value]| value)
    }

    fn linear_alone(lab: Lab) -> Rgb {
        linear_of_labs(&[[lab.l], [lab.a], [lab.b]]).map(|[value]| value)
    }

    #[test]
    fn it_is_the_one_of_the_document_and_goes_there_and_back() {
        for (r, g, b) in [(0, 0, 0), (255, 255, 255), (200, 30, 60), (10, 90, 250), (120, 121, 119), (255, 220, 0)] {
            let pixel = [r, g, b].map(|value: u8| f32::from(value) / 255.0);
            let lab = lab_of_linear(transfer::linear(pixel));
            let wanted = Oklab::from(Color::opaque(r, g, b));
            for (got, wanted) in [(lab.l, wanted.l), (lab.a, wanted.a), (lab.b, wanted.b)] {
                assert!((f64::from(got) - wanted).abs() < 2e-4, "{r} {g} {b}: {lab:?} for {wanted:?}");
            }
            let back = transfer::encoded(linear_alone(lab));
            assert!(back.iter().zip(pixel).all(|(a, b)| (a - b).abs() < 5e-4), "{back:?} for {pixel:?}");
        }
    }

    #[test]
    fn whatever_is_too_loud_comes_to_the_edge_of_what_can_be_shown() {
        for n in 0..4_000u32 {
            let part = |k: u32| {
                (n.wrapping_mul(2_654_435_761).wrapping_add(k.wrapping_mul(0x9e37_79b9)) >> 8) as f32
                    / (1u32 << 24) as f32
            };
            let (turn, chroma) = (part(1) * std::f32::consts::TAU, 0.05 + part(3) * 0.5);
            let lab = Lab { l: 0.03 + part(2) * 0.95, a: chroma * turn.cos(), b: chroma * turn.sin() };
            let whole = linear_alone(lab);
            let pixel = transfer::linear(shown_alone(lab));
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
        let loud = Lab { l: 0.6, a: 0.5, b: 0.2 };
        let pixel = shown_alone(loud);
        assert!(pixel.iter().all(|value| (-2e-3..=1.002).contains(value)), "{pixel:?}");
        let lab = lab_of_linear(transfer::linear(pixel));
        assert!((lab.l - 0.6).abs() < 3e-3 && (lab.b.atan2(lab.a) - 0.2f32.atan2(0.5)).abs() < 5e-3, "{lab:?}");
    }
}
