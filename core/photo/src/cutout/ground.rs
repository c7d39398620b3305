//! What lies behind a subject: its colour where that changes slowly, fitted to the border.

use super::spread::{NOISE, Spread};
use super::work::{Lab3, far};

/// A colour that changes evenly over a picture: a quadratic surface for each axis of OKLab.
#[derive(Debug, Clone)]
pub(super) struct Ground {
    /// Six factors for each axis, of 1, x, y, x², xy and y², both from -1 to 1.
    factors: [[f64; 3]; 6],
    /// How far the pixels it was fitted to lie from it: a standard deviation that a few strangers do not move, larger where the pixels
    /// of a texture reach farther out than those of noise would.
    pub noise: f32,
    /// The share of the pixels it was fitted to that lie near it.
    pub share: f32,
    /// How those that lie near it lie about it.
    pub spread: Spread,
}

const TERMS: usize = 6;

fn terms(x: f64, y: f64) -> [f64; TERMS] {
    [1.0, x, y, x * x, x * y, y * y]
}

impl Ground {
    /// Whether it is uneven from pixel to pixel, as cloth is: what a pixel alone says of it is little.
    pub fn is_textured(&self) -> bool {
        self.noise > 0.01
    }

    /// The surface through pixels, each by its place (from -1 to 1) and colour; those far from the rest do not count (Tukey's biweight,
    /// refitted in turn). Nothing where there are too few.
    pub(super) fn of(pixels: &[((f32, f32), Lab3)]) -> Option<Self> {
        if pixels.len() < 4 * TERMS {
            return None;
        }
        // A subject that crosses one edge must not bend it from the start: each edge is once left out.
        let edge = |(x, y): (f32, f32)| if x.abs() > y.abs() { usize::from(x > 0.0) } else { 2 + usize::from(y > 0.0) };
        let starts = std::iter::once(None).chain((0..4).map(Some)).map(|left| {
            pixels.iter().map(|(place, _)| if left == Some(edge(*place)) { 0.0 } else { 1.0 }).collect::<Vec<f64>>()
        });
        let fits = starts.filter_map(|weights| Self::refitted(pixels, weights));
        let (mut ground, weights) = fits.min_by(|a, b| a.0.noise.total_cmp(&b.0.noise))?;
        let mut own: Vec<f32> = pixels
            .iter()
            .zip(&weights)
            .filter(|(_, weight)| **weight > 0.0)
            .map(|((place, color), _)| ground.far(*place, color))
            .collect();
        own.sort_by(f32::total_cmp);
        // Of normal noise on three axes, one pixel in fifty lies farther out than 3.1 deviations.
        ground.noise = ground.noise.max(own.get(own.len() * 49 / 50).copied().unwrap_or(0.0) / 3.1);
        ground.share = own.len() as f32 / pixels.len() as f32;
        let near = pixels.iter().zip(&weights).filter(|(_, weight)| **weight > 0.0);
        let off: Vec<Lab3> = near.map(|((place, color), _)| ground.off(*place, color)).collect();
        ground.spread = Spread::of(&off, NOISE);
        Some(ground)
    }

    /// The surface found from first weights, and the last ones.
    fn refitted(pixels: &[((f32, f32), Lab3)], mut weights: Vec<f64>) -> Option<(Self, Vec<f64>)> {
        let mut ground = Self { factors: [[0.0; 3]; TERMS], noise: 0.0, share: 1.0, spread: Spread::even(NOISE) };
        for round in 0..6 {
            ground.factors = fitted(pixels, &weights)?;
            let far: Vec<f32> = pixels.iter().map(|(place, color)| ground.far(*place, color)).collect();
            let mut sorted = far.clone();
            sorted.sort_by(f32::total_cmp);
            // The middle of the distances of a normal spread on three axes is 1.54 deviations.
            ground.noise = sorted[sorted.len() / 2] / 1.54;
            let cut = f64::from(ground.noise).max(0.004) * if round == 0 { 8.0 } else { 4.7 };
            for (weight, far) in weights.iter_mut().zip(&far) {
                let share = f64::from(*far) / cut;
                *weight = if share < 1.0 { (1.0 - share * share).powi(2) } else { 0.0 };
            }
        }
        Some((ground, weights))
    }

    /// Its colour at a place.
    pub(super) fn at(&self, (x, y): (f32, f32)) -> Lab3 {
        let terms = terms(f64::from(x), f64::from(y));
        let mut out = [0.0f32; 3];
        for (term, factors) in terms.iter().zip(&self.factors) {
            for c in 0..3 {
                out[c] += (term * factors[c]) as f32;
            }
        }
        out
    }

    /// What a colour is off on each axis.
    pub(super) fn off(&self, place: (f32, f32), color: &Lab3) -> Lab3 {
        let own = self.at(place);
        [0, 1, 2].map(|c| color[c] - own[c])
    }

    /// How odd a colour is there, in deviations.
    pub(super) fn odd(&self, place: (f32, f32), color: &Lab3) -> f32 {
        self.spread.odd(&self.off(place, color))
    }

    /// Makes it as uneven as that, if it is less.
    pub(super) fn at_least_uneven(&mut self, noise: f32) {
        let noise = noise.max(self.noise);
        self.spread = self.spread.wider(noise.max(NOISE) / self.noise.max(NOISE));
        self.noise = noise;
    }

    /// How far a colour lies from it.
    pub(super) fn far(&self, place: (f32, f32), color: &Lab3) -> f32 {
        far(&self.at(place), color)
    }
}

/// Least squares by the normal equations, with a hair of weight on small factors so that a few pixels in a row still have an answer.
fn fitted(pixels: &[((f32, f32), Lab3)], weights: &[f64]) -> Option<[[f64; 3]; TERMS]> {
    let mut left = [[0.0f64; TERMS]; TERMS];
    let mut right = [[0.0f64; 3]; TERMS];
    for (((x, y), color), weight) in pixels.iter().zip(weights) {
        let terms = terms(f64::from(*x), f64::from(*y));
        for row in 0..TERMS {
            for column in 0..TERMS {
                left[row][column] += terms[row] * terms[column] * weight;
            }
            for c in 0..3 {
                right[row][c] += terms[row] * f64::from(color[c]) * weight;
            }
        }
    }
    let all: f64 = weights.iter().sum();
    for (at, row) in left.iter_mut().enumerate().skip(1) {
        row[at] += all * 1e-5;
    }
    solved(left, right)
}

/// Gauss's elimination with the largest pivot.
fn solved(mut left: [[f64; TERMS]; TERMS], mut right: [[f64; 3]; TERMS]) -> Option<[[f64; 3]; TERMS]> {
    for at in 0..TERMS {
        let best = (at..TERMS).max_by(|a, b| left[*a][at].abs().total_cmp(&left[*b][at].abs()))?;
        if left[best][at].abs() < 1e-12 {
            return None;
        }
        left.swap(at, best);
        right.swap(at, best);
        for row in (0..TERMS).filter(|row| *row != at) {
            let share = left[row][at] / left[at][at];
            let (pivot, own) = (left[at], right[at]);
            left[row].iter_mut().zip(pivot).for_each(|(value, pivot)| *value -= share * pivot);
            right[row].iter_mut().zip(own).for_each(|(value, own)| *value -= share * own);
        }
    }
    for at in 0..TERMS {
        right[at] = right[at].map(|value| value / left[at][at]);
    }
    Some(right)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_subject_across_a_third_of_the_border_does_not_bend_it() {
        let color = |x: f32, y: f32| [0.6 + 0.1 * x - 0.05 * y * y, 0.02 * x * y, 0.03];
        let mut pixels = Vec::new();
        for n in 0..400 {
            let along = (n % 100) as f32 / 50.0 - 1.0;
            let (x, y) = [(along, -1.0), (1.0, along), (along, 1.0), (-1.0, along)][n / 100];
            let subject = n / 100 == 2 && along > -0.7;
            pixels.push(((x, y), if subject { [0.3, 0.1, -0.1] } else { color(x, y) }));
        }
        let ground = Ground::of(&pixels).unwrap();
        for (x, y) in [(0.0, -1.0), (-0.9, -1.0), (1.0, 0.5), (1.0, 0.0)] {
            assert!(ground.far((x, y), &color(x, y)) < 0.012, "at {x}, {y}: {:?}", ground.at((x, y)));
        }
        assert!(ground.noise < 0.004, "{}", ground.noise);
        assert!(Ground::of(&pixels[..10]).is_none());
    }
}
