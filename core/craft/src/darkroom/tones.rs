//! What is read off a picture: how its tones lie, and what would stretch them or take the colour of its light out.

use serde::Serialize;
use ts_rs::TS;
use vatman_document::{Develop, Treatment};
use vatman_photo::{Straight, neutral_at};
use vatman_units::Ratio;

/// How many pixels have each of 64 tones, in thousandths of the fullest, and how many are cut off.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct Tones {
    /// Luma.
    pub light: Vec<u16>,
    /// Red.
    pub red: Vec<u16>,
    /// Green.
    pub green: Vec<u16>,
    /// Blue.
    pub blue: Vec<u16>,
    /// Percent of the pixels with a channel at black.
    pub black: f64,
    /// Percent of the pixels with a channel at white.
    pub white: f64,
}

/// Tones that are told apart.
const BINS: usize = 64;

/// The tones of the pixels that are seen.
#[must_use]
pub fn tones_of(picture: &Straight) -> Tones {
    let mut counts = [[0u64; BINS]; 4];
    let (mut all, mut black, mut white) = (0u64, 0u64, 0u64);
    for pixel in picture.data().chunks_exact(4).filter(|pixel| pixel[3] > 127) {
        all += 1;
        black += u64::from(pixel[..3].contains(&0));
        white += u64::from(pixel[..3].contains(&255));
        counts[0][luma(pixel) as usize * BINS / 256] += 1;
        for c in 0..3 {
            counts[c + 1][pixel[c] as usize * BINS / 256] += 1;
        }
    }
    // The ends hold what was cut off and would hide everything else.
    let inner = counts.iter().flat_map(|channel| &channel[1..BINS - 1]).copied().max().unwrap_or(0).max(1);
    let [light, red, green, blue] = counts
        .map(|channel| channel.iter().map(|count| (count * 1_000 / inner).min(1_000) as u16).collect::<Vec<u16>>());
    let percent = |count: u64| (count as f64 / all.max(1) as f64 * 1_000.0).round() / 10.0;
    Tones { light, red, green, blue, black: percent(black), white: percent(white) }
}

fn luma(pixel: &[u8]) -> u8 {
    ((u32::from(pixel[0]) * 2_126 + u32::from(pixel[1]) * 7_152 + u32::from(pixel[2]) * 722 + 5_000) / 10_000) as u8
}

/// Share of the pixels that may be cut off at either end.
const CUT: f64 = 0.004;

/// Levels that stretch the tones of a picture over the whole range and bring its middle halfway to grey; nothing where it has one tone
/// only.
#[must_use]
pub fn auto_levels(picture: &Straight) -> Option<Treatment> {
    let mut counts = [0u64; 256];
    for pixel in picture.data().chunks_exact(4).filter(|pixel| pixel[3] > 127) {
        counts[luma(pixel) as usize] += 1;
    }
    let all: u64 = counts.iter().sum();
    let at = |share: f64| {
        let mut before = 0;
        (0..256).find(|tone| {
            before += counts[*tone];
            before as f64 > all as f64 * share
        })
    };
    let (low, middle, high) = (at(CUT)? as f64 / 255.0, at(0.5)? as f64 / 255.0, at(1.0 - CUT)? as f64 / 255.0);
    // No more than a third is ever cut away at either end: a picture of fog stays one.
    let (low, high) = (low.min(0.33), high.max(0.67));
    let middle = ((middle - low) / (high - low)).clamp(0.02, 0.98);
    let wanted = middle + (0.46 - middle) * 0.5;
    let gamma = (middle.ln() / wanted.ln()).clamp(0.5, 2.0);
    let shown = |value: f64| Ratio::new((value * 1_000.0).round() / 1_000.0);
    (low < high).then(|| {
        Treatment::new(Develop::Levels {
            black: shown(low),
            white: shown(high),
            gamma: shown(gamma),
            out_black: Ratio::ZERO,
            out_white: Ratio::ONE,
        })
    })
}

/// White balance that makes a colour of the picture grey.
#[must_use]
pub fn balance_for(color: [u8; 3]) -> Treatment {
    let (kelvin, tint) = neutral_at(color.map(|value| f64::from(value) / 255.0));
    Treatment::new(Develop::WhiteBalance {
        kelvin: kelvin.clamp(2_000, 20_000),
        tint: Ratio::new((tint * 1_000.0).round() / 1_000.0),
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use vatman_photo::develop;

    fn ramp(from: u8, to: u8) -> Straight {
        let tone = |x: u32| from + ((u32::from(to - from) * x) / 199) as u8;
        Straight::new(200, 4, (0..800).flat_map(|at| [tone(at % 200), tone(at % 200), tone(at % 200), 255]).collect())
            .unwrap()
    }

    #[test]
    fn levels_found_stretch_what_is_dull() {
        let dull = ramp(70, 170);
        let step = auto_levels(&dull).unwrap();
        let out = develop(&dull, &[step], &|_, _| None);
        let tones: Vec<u8> = out.data().chunks_exact(4).map(|pixel| pixel[0]).collect();
        assert!(*tones.iter().min().unwrap() < 4 && *tones.iter().max().unwrap() > 251);
        assert!(auto_levels(&ramp(90, 90)).is_some_and(|step| step.fault().is_none()), "one tone is a tone too");
    }

    #[test]
    fn tones_are_counted_and_what_is_cut_off_is_said() {
        let tones = tones_of(&ramp(0, 255));
        assert_eq!(tones.light.len(), BINS);
        assert!(tones.light.iter().all(|count| *count > 500), "{:?}", tones.light);
        assert!((tones.black - 0.5).abs() < 0.6 && (tones.white - 0.5).abs() < 0.6);
        let half = tones_of(&ramp(0, 120));
        assert!(half.light[40..].iter().all(|count| *count == 0) && half.white < 1e-9);
    }

    #[test]
    fn a_colour_said_to_be_neutral_comes_out_so() {
        let cast = Straight::new(2, 1, vec![186, 160, 128, 255, 90, 80, 70, 255]).unwrap();
        let out = develop(&cast, &[balance_for([186, 160, 128])], &|_, _| None);
        let pixel = &out.data()[..3];
        assert!(pixel.iter().max().unwrap() - pixel.iter().min().unwrap() <= 2, "{pixel:?}");
    }
}
