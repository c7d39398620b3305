//! Mixtures of normal distributions over what pixels look like, fitted by k-means and the covariance of each part.

/// What a pixel looks like: OKLab lightness and opponent axes, and how uneven it is around at two scales.
pub(super) type Feature = [f32; 5];
const N: usize = 5;

/// Least variance along any axis: noise of a sensor and steps of 8 bits.
const LEAST: f32 = 2.5e-5;
/// Most pixels a mixture is fitted to.
const MOST: usize = 6_000;

/// One normal distribution.
#[derive(Debug, Clone)]
struct Part {
    mean: Feature,
    /// The inverse of the lower Cholesky factor of its covariance.
    inverse: [[f32; N]; N],
    /// The negative logarithm of its weight over the root of the determinant.
    fixed: f32,
}

/// A mixture.
#[derive(Debug, Clone)]
pub(super) struct Mixture(Vec<Part>);

impl Mixture {
    /// A mixture of at most so many parts fitted to pixels; nothing without any.
    pub(super) fn of(pixels: &[Feature], parts: usize) -> Option<Self> {
        let step = pixels.len().div_ceil(MOST).max(1);
        let some: Vec<Feature> = pixels.iter().step_by(step).copied().collect();
        let mut centres = spread(&some, parts)?;
        let mut member = vec![0; some.len()];
        for _ in 0..8 {
            for (member, pixel) in member.iter_mut().zip(&some) {
                *member = nearest(&centres, pixel);
            }
            for (at, centre) in centres.iter_mut().enumerate() {
                let own = some.iter().zip(&member).filter(|(_, member)| **member == at).map(|(pixel, _)| pixel);
                if let Some(mean) = mean(own) {
                    *centre = mean;
                }
            }
        }
        let part = |at: usize| {
            let own: Vec<&Feature> =
                some.iter().zip(&member).filter(|(_, member)| **member == at).map(|(pixel, _)| pixel).collect();
            Part::of(&own, some.len())
        };
        Some(Self((0..centres.len()).filter_map(part).collect())).filter(|mixture| !mixture.0.is_empty())
    }

    /// How unlikely a pixel is: the negative logarithm of its density under the part that explains it best.
    pub(super) fn unlikely(&self, pixel: &Feature) -> f32 {
        self.0.iter().map(|part| part.unlikely(pixel)).fold(f32::INFINITY, f32::min)
    }
}

/// First centres: pixels, each drawn by the square of how far it lies from those there are (D. Arthur, S. Vassilvitskii, "k-means++: the
/// advantages of careful seeding", 2007). The same pixels give the same centres.
fn spread(pixels: &[Feature], parts: usize) -> Option<Vec<Feature>> {
    let mut centres = vec![mean(pixels.iter())?];
    let mut far: Vec<f32> = pixels.iter().map(|pixel| distance(&centres[0], pixel)).collect();
    let mut drawn = 0x2545_f491u32;
    while centres.len() < parts {
        let all: f64 = far.iter().map(|far| f64::from(*far)).sum();
        if all < 1e-5 * pixels.len() as f64 * 0.01 {
            break;
        }
        drawn = drawn.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
        let mut left = all * f64::from(drawn >> 8) / f64::from(1u32 << 24);
        let at = far.iter().position(|far| {
            left -= f64::from(*far);
            left < 0.0
        });
        let next = pixels[at.unwrap_or(pixels.len() - 1)];
        far.iter_mut().zip(pixels).for_each(|(far, pixel)| *far = far.min(distance(&next, pixel)));
        centres.push(next);
    }
    Some(centres)
}

fn nearest(centres: &[Feature], pixel: &Feature) -> usize {
    let mut best = (0, f32::INFINITY);
    for (at, centre) in centres.iter().enumerate() {
        let far = distance(centre, pixel);
        if far < best.1 {
            best = (at, far);
        }
    }
    best.0
}

fn distance(a: &Feature, b: &Feature) -> f32 {
    a.iter().zip(b).map(|(a, b)| (a - b) * (a - b)).sum()
}

fn mean<'a>(pixels: impl Iterator<Item = &'a Feature>) -> Option<Feature> {
    let (mut sum, mut count) = ([0.0f32; N], 0.0f32);
    for pixel in pixels {
        for c in 0..N {
            sum[c] += pixel[c];
        }
        count += 1.0;
    }
    (count > 0.0).then(|| sum.map(|sum| sum / count))
}

impl Part {
    fn of(pixels: &[&Feature], all: usize) -> Option<Self> {
        let mean = mean(pixels.iter().copied())?;
        let mut spread = [[0.0f32; N]; N];
        for pixel in pixels {
            for row in 0..N {
                for column in 0..=row {
                    spread[row][column] += (pixel[row] - mean[row]) * (pixel[column] - mean[column]);
                }
            }
        }
        let count = pixels.len() as f32;
        for (row, values) in spread.iter_mut().enumerate() {
            values.iter_mut().for_each(|value| *value /= count);
            values[row] += LEAST;
        }
        let lower = cholesky(&spread);
        let determinant: f32 = (0..N).map(|at| lower[at][at].ln()).sum();
        let fixed = determinant - (count / all as f32).ln();
        Some(Self { mean, inverse: inverse(&lower), fixed })
    }

    fn unlikely(&self, pixel: &Feature) -> f32 {
        let mut off = [0.0f32; N];
        for c in 0..N {
            off[c] = pixel[c] - self.mean[c];
        }
        let mut square = 0.0;
        for row in 0..N {
            let sum: f32 = self.inverse[row][..=row].iter().zip(&off).map(|(factor, off)| factor * off).sum();
            square += sum * sum;
        }
        self.fixed + 0.5 * square
    }
}

/// The lower factor of a symmetric matrix of which the lower half is given.
pub(super) fn cholesky<const N: usize>(from: &[[f32; N]; N]) -> [[f32; N]; N] {
    let mut lower = [[0.0f32; N]; N];
    for row in 0..N {
        for column in 0..=row {
            let sum: f32 = (0..column).map(|at| lower[row][at] * lower[column][at]).sum();
            let left = from[row][column] - sum;
            lower[row][column] =
                if row == column { left.max(LEAST * 0.1).sqrt() } else { left / lower[column][column] };
        }
    }
    lower
}

/// The inverse of a lower matrix.
pub(super) fn inverse<const N: usize>(lower: &[[f32; N]; N]) -> [[f32; N]; N] {
    let mut out = [[0.0f32; N]; N];
    for column in 0..N {
        out[column][column] = 1.0 / lower[column][column];
        for row in column + 1..N {
            let sum: f32 = (column..row).map(|at| lower[row][at] * out[at][column]).sum();
            out[row][column] = -sum / lower[row][row];
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_it_was_fitted_to_is_likelier_than_what_it_was_not() {
        let cloud = |middle: f32, slope: f32| {
            (0..400).map(move |at| {
                let (u, v) = ((at % 20) as f32 / 200.0, (at / 20) as f32 / 200.0);
                [middle + u, u * slope + v * 0.1, v, 0.0, 0.0]
            })
        };
        let two = Mixture::of(&cloud(0.2, 1.0).chain(cloud(0.7, -1.0)).collect::<Vec<_>>(), 5).unwrap();
        for inside in cloud(0.2, 1.0).chain(cloud(0.7, -1.0)) {
            assert!(two.unlikely(&inside) < two.unlikely(&[0.45, 0.0, 0.05, 0.0, 0.0]), "{inside:?}");
        }
        // Along the slope of a cloud is likelier than as far across it.
        let one = Mixture::of(&cloud(0.5, 1.0).collect::<Vec<_>>(), 5).unwrap();
        assert!(one.unlikely(&[0.62, 0.12, 0.05, 0.0, 0.0]) < one.unlikely(&[0.62, -0.02, 0.05, 0.0, 0.0]));
        assert!(Mixture::of(&[], 5).is_none() && Mixture::of(&[[0.5; 5]], 5).is_some());
    }
}
