//! What colours become on paper: separation into four process inks, and how those look when they are printed.
//!
//! Paper and inks are those of a profile (ICC.1:2001-04, `A2B0`) of coated offset paper that ships. It tells what a mixture of inks looks
//! like; which mixture looks like a colour is found here, with the black ink taking over as much of the grey part as it can
//! (grey component replacement), and with no more ink in all than the paper takes. Colours are matched relative to the paper, black to the
//! blackest that can be printed (black point compensation).

use std::sync::LazyLock;

use moxcms::{ColorProfile, Layout, RenderingIntent, TransformOptions};

use crate::develop::oklab::lab_of_linear;
use crate::develop::transfer::{encoded_of, linear_of};

/// The profile, as it ships.
const PROFILE: &[u8] = include_bytes!("../../../assets/profiles/offset-coated.icc");
/// Steps of each ink in the grid of printed mixtures, and of each channel in that of separations.
const PRINTED: usize = 9;
const SEPARATED: usize = 17;
/// How much of the grey part black takes over in the middle tones.
const BLACK: f32 = 0.75;

/// Shares of cyan, magenta, yellow and black, 0 to 1.
pub type Mixture = [f32; 4];

/// Four process inks on a paper.
pub struct Inks {
    /// Linear light of every mixture of the grid, black point compensated.
    printed: Vec<[f32; 3]>,
    /// The mixture for every colour of the grid of encoded sRGB.
    separated: Vec<Mixture>,
}

static COATED: LazyLock<Option<Inks>> = LazyLock::new(Inks::read);

impl Inks {
    /// Most ink in all, of 4, that the paper takes.
    pub const MOST: f32 = 3.0;

    /// Coated paper printed in offset, as the profile that ships says. Nothing where that cannot be used, which a test rules out.
    #[must_use]
    pub fn coated() -> Option<&'static Self> {
        COATED.as_ref()
    }

    /// The profile itself.
    #[must_use]
    pub const fn profile() -> &'static [u8] {
        PROFILE
    }

    fn read() -> Option<Self> {
        let profile = ColorProfile::new_from_slice(PROFILE).ok()?;
        // The one table the profile has; it is relative to the paper.
        let options = TransformOptions { rendering_intent: RenderingIntent::Perceptual, ..TransformOptions::default() };
        let to_srgb =
            profile.create_transform_16bit(Layout::Rgba, &ColorProfile::new_srgb(), Layout::Rgb, options).ok()?;
        let step = |at: usize| (at as f32 / (PRINTED - 1) as f32 * 65_535.0).round() as u16;
        let mut mixtures = Vec::with_capacity(PRINTED.pow(4) * 4);
        for at in 0..PRINTED.pow(4) {
            let digit = |place: u32| at / PRINTED.pow(place) % PRINTED;
            mixtures.extend([step(digit(3)), step(digit(2)), step(digit(1)), step(digit(0))]);
        }
        let mut seen = vec![0u16; PRINTED.pow(4) * 3];
        to_srgb.transform(&mixtures, &mut seen).ok()?;
        let linear = |value: u16| linear_of(f64::from(value) / 65_535.0) as f32;
        let mut printed: Vec<[f32; 3]> =
            seen.chunks_exact(3).map(|rgb| [linear(rgb[0]), linear(rgb[1]), linear(rgb[2])]).collect();
        // The blackest within the limit is as dark as a colour can be wanted.
        let luminance = |rgb: &[f32; 3]| 0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2];
        let within = |at: usize| {
            let sum: f32 = mixtures[at * 4..at * 4 + 4].iter().map(|ink| f32::from(*ink) / 65_535.0).sum();
            sum <= Self::MOST
        };
        let darkest = (0..printed.len()).filter(|at| within(*at)).map(|at| luminance(&printed[at]));
        let black = darkest.fold(1.0_f32, f32::min);
        let lift = |value: f32| ((value - black) / (1.0 - black)).clamp(0.0, 1.0);
        printed.iter_mut().for_each(|rgb| *rgb = rgb.map(lift));
        let mut inks = Self { printed, separated: Vec::new() };
        inks.separated = inks.all_separated();
        Some(inks)
    }

    /// Linear light of a mixture.
    fn light(&self, mixture: Mixture) -> [f32; 3] {
        let places = mixture.map(|share| {
            let at = share.clamp(0.0, 1.0) * (PRINTED - 1) as f32;
            let low = (at as usize).min(PRINTED - 2);
            (low, at - low as f32)
        });
        let mut sum = [0.0_f32; 3];
        for corner in 0..16_usize {
            let (mut index, mut weight) = (0, 1.0_f32);
            for (bit, (low, part)) in places.iter().enumerate() {
                let up = corner >> bit & 1;
                index = index * PRINTED + low + up;
                weight *= if up == 1 { *part } else { 1.0 - part };
            }
            if weight > 0.0 {
                let rgb = self.printed[index];
                (0..3).for_each(|i| sum[i] += rgb[i] * weight);
            }
        }
        sum
    }

    /// How a mixture looks when it is printed, in encoded sRGB relative to the paper.
    #[must_use]
    pub fn printed(&self, mixture: Mixture) -> [u8; 3] {
        self.light(mixture).map(|value| (encoded_of(f64::from(value)) * 255.0).round().clamp(0.0, 255.0) as u8)
    }

    /// The mixture that looks most like a colour of encoded sRGB.
    #[must_use]
    pub fn separate(&self, rgb: [u8; 3]) -> Mixture {
        let places = rgb.map(|value| {
            let at = f32::from(value) / 255.0 * (SEPARATED - 1) as f32;
            let low = (at as usize).min(SEPARATED - 2);
            (low, at - low as f32)
        });
        let mut sum = [0.0_f32; 4];
        for corner in 0..8_usize {
            let (mut index, mut weight) = (0, 1.0_f32);
            for (bit, (low, part)) in places.iter().enumerate() {
                let up = corner >> bit & 1;
                index = index * SEPARATED + low + up;
                weight *= if up == 1 { *part } else { 1.0 - part };
            }
            let mixture = self.separated[index];
            (0..4).for_each(|i| sum[i] += mixture[i] * weight);
        }
        // Rounding may put a share a hair beyond.
        sum.map(|share| share.clamp(0.0, 1.0))
    }

    /// How a colour of encoded sRGB looks when it is printed.
    #[must_use]
    pub fn proof(&self, rgb: [u8; 3]) -> [u8; 3] {
        self.printed(self.separate(rgb))
    }

    fn all_separated(&self) -> Vec<Mixture> {
        let linear = |at: usize| linear_of(at as f64 / (SEPARATED - 1) as f64) as f32;
        let colour = |at: usize| [at / SEPARATED.pow(2), at / SEPARATED % SEPARATED, at % SEPARATED].map(linear);
        (0..SEPARATED.pow(3)).map(|at| self.matched(colour(at))).collect()
    }

    /// The mixture for a colour of linear light: of those that look most like it, the one with as much black as is wanted, within the limit.
    fn matched(&self, target: [f32; 3]) -> Mixture {
        let want = oklab(target);
        let away = |mixture: Mixture| {
            let lab = oklab(self.light(mixture));
            (0..3).map(|i| (lab[i] - want[i]).powi(2)).sum::<f32>().sqrt()
        };
        let solved: Vec<(Mixture, f32)> = (0..=12)
            .map(|step| {
                let mixture = self.with_black(want, step as f32 / 12.0);
                (mixture, away(mixture))
            })
            .collect();
        let allowed = |(mixture, _): &&(Mixture, f32)| mixture.iter().sum::<f32>() <= Self::MOST + 1e-3;
        let best = solved.iter().filter(allowed).map(|(_, off)| *off).fold(f32::INFINITY, f32::min);
        // What no eye tells apart is as good as the best.
        let good = |(_, off): &&(Mixture, f32)| *off <= best + 0.004;
        let most = solved.iter().filter(allowed).filter(good).map(|(mixture, _)| mixture[3]).fold(0.0, f32::max);
        // In the dark black takes all it can, in light tones little, so that they stay smooth.
        let dark = (1.0 - want[0]).clamp(0.0, 1.0);
        let wanted = most * (BLACK * dark.powf(0.6) + (1.0 - BLACK) * dark.powi(3)).clamp(0.0, 1.0);
        let near = solved
            .iter()
            .filter(allowed)
            .filter(good)
            .min_by(|a, b| (a.0[3] - wanted).abs().total_cmp(&(b.0[3] - wanted).abs()));
        near.map_or([0.0, 0.0, 0.0, 1.0], |(mixture, _)| *mixture)
    }

    /// Cyan, magenta and yellow beside a share of black that look most like a colour of OKLab: Gauss-Newton steps within 0 to 1, damped.
    fn with_black(&self, want: [f32; 3], black: f32) -> Mixture {
        const NUDGE: f32 = 0.02;
        let mut mixture = [0.5, 0.5, 0.5, black];
        for _ in 0..10 {
            let here = oklab(self.light(mixture));
            let off = [want[0] - here[0], want[1] - here[1], want[2] - here[2]];
            let mut slopes = [[0.0_f32; 3]; 3];
            for (ink, slope) in slopes.iter_mut().enumerate() {
                let by = if mixture[ink] > 0.5 { -NUDGE } else { NUDGE };
                let mut other = mixture;
                other[ink] += by;
                let there = oklab(self.light(other));
                *slope = std::array::from_fn(|i| (there[i] - here[i]) / by);
            }
            // (JᵀJ + damping) step = Jᵀ off
            let dot = |a: &[f32; 3], b: &[f32; 3]| a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
            let mut matrix = [[0.0_f32; 3]; 3];
            for (row, a) in slopes.iter().enumerate() {
                for (column, b) in slopes.iter().enumerate() {
                    matrix[row][column] = dot(a, b) + if row == column { 1e-4 } else { 0.0 };
                }
            }
            let step = solve(matrix, std::array::from_fn(|ink| dot(&slopes[ink], &off)));
            (0..3).for_each(|ink| mixture[ink] = (mixture[ink] + step[ink].clamp(-0.3, 0.3)).clamp(0.0, 1.0));
        }
        mixture
    }
}

/// OKLab of linear light.
fn oklab(light: [f32; 3]) -> [f32; 3] {
    let lab = lab_of_linear(light);
    [lab.l, lab.a, lab.b]
}

/// Cramer's rule.
fn solve(m: [[f32; 3]; 3], v: [f32; 3]) -> [f32; 3] {
    let det = |a: [f32; 3], b: [f32; 3], c: [f32; 3]| {
        a[0] * (b[1] * c[2] - b[2] * c[1]) - b[0] * (a[1] * c[2] - a[2] * c[1]) + c[0] * (a[1] * b[2] - a[2] * b[1])
    };
    let column = |i: usize| [m[0][i], m[1][i], m[2][i]];
    let (a, b, c) = (column(0), column(1), column(2));
    let whole = det(a, b, c);
    if whole.abs() < 1e-12 {
        return [0.0; 3];
    }
    [det(v, b, c) / whole, det(a, v, c) / whole, det(a, b, v) / whole]
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::difference::delta_e2000;
    use proptest::prelude::*;

    fn inks() -> &'static Inks {
        Inks::coated().unwrap()
    }

    #[test]
    fn paper_is_white_and_each_ink_has_its_colour() {
        assert_eq!(inks().proof([255, 255, 255]), [255, 255, 255]);
        assert!(inks().separate([255, 255, 255]).iter().all(|share| *share < 0.01));
        let [cyan, magenta, yellow, black] =
            [[1.0, 0.0, 0.0, 0.0], [0.0, 1.0, 0.0, 0.0], [0.0, 0.0, 1.0, 0.0], [0.0, 0.0, 0.0, 1.0]]
                .map(|m| inks().printed(m));
        assert!(cyan[2] > 150 && cyan[0] < 80, "{cyan:?}");
        assert!(magenta[0] > 180 && magenta[1] < 80, "{magenta:?}");
        assert!(yellow[0] > 220 && yellow[2] < 90, "{yellow:?}");
        assert!(black.iter().all(|value| *value < 60), "{black:?}");
        assert!(inks().proof([0, 0, 0]).iter().all(|value| *value < 14));
        assert!(inks().separate([0, 0, 0])[3] > 0.8);
    }

    #[test]
    fn colours_of_paper_come_back_and_those_of_light_alone_do_not() {
        // Muted colours can be printed: clay, celadon, cobalt in its shade, skin, slate.
        for rgb in [
            [0x8c, 0x5a, 0x3c],
            [0x9d, 0xb8, 0xa4],
            [0xd8, 0xc3, 0xb0],
            [0x60, 0x6a, 0x70],
            [0xf4, 0xef, 0xe6],
            [90, 90, 90],
        ] {
            let off = delta_e2000(rgb, inks().proof(rgb));
            assert!(off < 2.5, "{rgb:?}: {off}");
        }
        for rgb in [[0, 0, 255], [0, 255, 0], [255, 0, 255]] {
            let off = delta_e2000(rgb, inks().proof(rgb));
            assert!(off > 10.0, "{rgb:?}: {off}");
        }
    }

    proptest! {
        #[test]
        fn no_colour_takes_more_ink_than_the_paper(r: u8, g: u8, b: u8) {
            let mixture = inks().separate([r, g, b]);
            prop_assert!(mixture.iter().sum::<f32>() <= Inks::MOST + 0.01);
            prop_assert!(mixture.iter().all(|share| (0.0..=1.0).contains(share)));
        }

        /// A greyer colour is never printed further from itself than the whole gamut is wide, and greys stay grey.
        #[test]
        fn greys_stay_grey(v: u8) {
            let [r, g, b] = inks().proof([v, v, v]);
            prop_assert!(r.abs_diff(g) <= 9 && g.abs_diff(b) <= 9, "{v}: {r} {g} {b}");
            prop_assert!(delta_e2000([v, v, v], [r, g, b]) < 4.0);
        }
    }
}
