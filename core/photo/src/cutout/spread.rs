//! How unevenly a ground is coloured.

use super::mixture::{cholesky, inverse};
use super::work::Lab3;

/// Steps of OKLab that noise of a sensor and of packing makes at least.
pub(super) const NOISE: f32 = 0.0055;
/// Pixels that lie farther out than so many deviations are strangers.
const STRANGE: f32 = 6.0;

/// How pixels lie about a ground: a weave is uneven in lightness and even in hue. Their covariance on the axes of OKLab, as the inverse of
/// its lower Cholesky factor.
#[derive(Debug, Clone, Copy)]
pub(super) struct Spread([[f32; 3]; 3]);

impl Spread {
    /// Of how far pixels lie off on each axis, all but a few of which are of the ground: from round to round strangers count less. `least`
    /// is what noise makes at least, in steps of OKLab.
    pub(super) fn of(off: &[Lab3], least: f32) -> Self {
        let floor = least * least;
        let mut own: Option<Self> = None;
        for _ in 0..4 {
            let mut sum = [[0.0f32; 3]; 3];
            let mut all = 0.0f32;
            for off in off {
                let weight = own.map_or(1.0, |own| own.weight(off));
                all += weight;
                for row in 0..3 {
                    for column in 0..=row {
                        sum[row][column] += weight * off[row] * off[column];
                    }
                }
            }
            for (row, values) in sum.iter_mut().enumerate() {
                values.iter_mut().for_each(|value| *value /= all.max(1.0));
                values[row] += floor;
            }
            own = Some(Self(inverse(&cholesky(&sum))));
        }
        own.map_or(Self::even(least), |own| own.scaled(off))
    }

    /// The same on each axis.
    pub(super) fn even(noise: f32) -> Self {
        let mut out = [[0.0; 3]; 3];
        (0..3).for_each(|at| out[at][at] = 1.0 / noise);
        Self(out)
    }

    /// How much a pixel counts (J. W. Tukey's biweight).
    fn weight(&self, off: &Lab3) -> f32 {
        let share = self.odd(off) / STRANGE;
        if share < 1.0 { (1.0 - share * share).powi(2) } else { 0.0 }
    }

    /// Wider, where pixels lie farther out than those of a normal spread would.
    fn scaled(self, off: &[Lab3]) -> Self {
        let mut odd: Vec<f32> = off.iter().map(|off| self.odd(off)).filter(|odd| *odd < STRANGE).collect();
        odd.sort_by(f32::total_cmp);
        let share = |part: usize| odd.get(odd.len() * part / 50).copied().unwrap_or(0.0);
        // Half of a normal spread on three axes lies within 1.54 deviations, and one in fifty farther out than 3.1.
        self.wider((share(25) / 1.54).max(share(49) / 3.1).max(1.0))
    }

    /// So many times as wide.
    pub(super) fn wider(self, by: f32) -> Self {
        Self(self.0.map(|row| row.map(|value| value / by)))
    }

    /// How far off a pixel is, in deviations (P. C. Mahalanobis, 1936).
    pub(super) fn odd(&self, off: &Lab3) -> f32 {
        let along = |row: &[f32; 3]| (0..3).map(|c| row[c] * off[c]).sum::<f32>();
        self.0.iter().map(|row| along(row).powi(2)).sum::<f32>().sqrt()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A weave: uneven in lightness, a little in one hue with it, and even in the other.
    fn weave(count: usize) -> Vec<Lab3> {
        let part = |n: usize, by: usize| ((n * by) % 997) as f32 / 997.0 - 0.5;
        (0..count)
            .map(|n| [0.08 * part(n, 331), 0.02 * part(n, 331) + 0.004 * part(n, 577), 0.002 * part(n, 71)])
            .collect()
    }

    #[test]
    fn what_is_usual_in_lightness_is_odd_in_hue() {
        let own = Spread::of(&weave(900), NOISE);
        assert!(own.odd(&[0.03, 0.0075, 0.0]) < 2.0 && own.odd(&[0.0, 0.0, 0.03]) > 4.0, "{own:?}");
        assert!(own.odd(&[0.03, -0.0075, 0.0]) > own.odd(&[0.03, 0.0075, 0.0]) + 0.5, "against its slant");
        assert!((own.wider(2.0).odd(&[0.0, 0.0, 0.03]) * 2.0 - own.odd(&[0.0, 0.0, 0.03])).abs() < 1e-4);
    }

    #[test]
    fn a_few_strangers_do_not_move_it_and_noise_is_its_least() {
        let mut pixels = weave(900);
        let before = Spread::of(&pixels, NOISE);
        pixels.extend([[-0.3, 0.1, -0.2]; 60]);
        let after = Spread::of(&pixels, NOISE);
        for off in [[0.03, 0.0, 0.0], [0.0, 0.02, 0.0], [0.0, 0.0, 0.02]] {
            assert!((after.odd(&off) / before.odd(&off) - 1.0).abs() < 0.15, "{off:?}");
        }
        let still = Spread::of(&[[0.0; 3]; 50], NOISE);
        assert!(
            (still.odd(&[0.0, NOISE, 0.0]) - 1.0).abs() < 1e-3 && Spread::of(&[], NOISE).odd(&[NOISE, 0.0, 0.0]) > 0.9
        );
    }

    #[test]
    fn one_in_fifty_of_its_pixels_lies_beyond_three_deviations_at_most() {
        let pixels = weave(900);
        let own = Spread::of(&pixels, NOISE);
        let out = pixels.iter().filter(|off| own.odd(off) > 3.15).count();
        assert!(out * 45 < pixels.len(), "{out}");
    }
}
