//! The grids of [`Inks`], worked out from the profile: what ships is held against this.

use moxcms::{ColorProfile, Layout, RenderingIntent, TransformOptions};

use super::{GRIDS, Inks, Mixture, PRINTED, PROFILE, SEPARATED};
use crate::develop::oklab::lab_of_linear;
use crate::develop::transfer::linear_of;

/// How much of the grey part black takes over in the middle tones.
const BLACK: f32 = 0.75;

impl Inks {
    /// Grids worked out from the profile.
    fn solved() -> Option<Self> {
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

#[test]
fn the_grids_that_ship_are_those_of_the_profile() {
    let inks = Inks::solved().unwrap();
    let values = || inks.printed.iter().flatten().chain(inks.separated.iter().flatten()).copied();
    if std::env::var_os("VATMAN_WRITE_GRIDS").is_some() {
        let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../assets/profiles/offset-coated.grids");
        std::fs::write(path, values().flat_map(f32::to_le_bytes).collect::<Vec<u8>>()).unwrap();
        return;
    }
    let shipped = Inks::unpacked(GRIDS).unwrap();
    assert_eq!(values().count() * 4, GRIDS.len());
    // Machines round powers differently in the last place, which steps of the search enlarge a little.
    for (fresh, kept) in inks.printed.iter().flatten().zip(shipped.printed.iter().flatten()) {
        assert!((fresh - kept).abs() < 1e-5, "{fresh} {kept}");
    }
    for (fresh, kept) in inks.separated.iter().zip(&shipped.separated) {
        let off = (0..3).map(|i| (shipped.light(*fresh)[i] - shipped.light(*kept)[i]).abs()).fold(0.0, f32::max);
        assert!(off < 0.01, "{fresh:?} {kept:?}");
    }
}
