//! A picture while its subject is looked for: small, in OKLab, with what its pixels look like.

use rayon::prelude::*;

use super::flow::AROUND;
use super::mixture::Feature;
use crate::Straight;
use crate::develop::{Plane, lab_of_linear, transfer};
use crate::resize::resize;

/// Lightness and the two opponent axes of OKLab.
pub(super) type Lab3 = [f32; 3];

/// How far two colours lie apart.
pub(super) fn far(a: &Lab3, b: &Lab3) -> f32 {
    (0..3).map(|c| (a[c] - b[c]) * (a[c] - b[c])).sum::<f32>().sqrt()
}

/// A picture at the size it is looked at.
pub(super) struct Work {
    pub width: usize,
    pub height: usize,
    pub lab: Vec<Lab3>,
    /// How opaque it came, 0 to 1.
    pub opaque: Vec<f32>,
}

impl Work {
    /// A picture with at most so many pixels along its longer side.
    pub(super) fn of(picture: &Straight, longer: u32) -> Self {
        let by = (f64::from(longer) / f64::from(picture.width().max(picture.height()))).min(1.0);
        let scaled = |side: u32| ((f64::from(side) * by).round() as u32).max(1);
        let small =
            if by < 1.0 { resize(picture, scaled(picture.width()), scaled(picture.height())) } else { picture.clone() };
        let lab = |pixel: &[u8]| {
            let lab = lab_of_linear(transfer::linear([0, 1, 2].map(|c| f32::from(pixel[c]) / 255.0)));
            [lab.l, lab.a, lab.b]
        };
        Self {
            width: small.width() as usize,
            height: small.height() as usize,
            lab: small.data().par_chunks_exact(4).map(lab).collect(),
            opaque: small.data().chunks_exact(4).map(|pixel| f32::from(pixel[3]) / 255.0).collect(),
        }
    }

    pub(super) fn count(&self) -> usize {
        self.lab.len()
    }

    pub(super) fn longer(&self) -> usize {
        self.width.max(self.height)
    }

    /// Where a pixel lies, from -1 to 1 each way.
    pub(super) fn place(&self, at: usize) -> (f32, f32) {
        let (x, y) = ((at % self.width) as f32 + 0.5, (at / self.width) as f32 + 0.5);
        (x / self.width as f32 * 2.0 - 1.0, y / self.height as f32 * 2.0 - 1.0)
    }

    /// How far from the nearest edge of the picture a pixel lies, in pixels.
    pub(super) fn edge_distance(&self, at: usize) -> usize {
        let (x, y) = (at % self.width, at / self.width);
        x.min(y).min(self.width - 1 - x).min(self.height - 1 - y)
    }

    /// The pixels beside one, above and below.
    pub(super) fn sides(&self, at: usize) -> impl Iterator<Item = usize> {
        let (x, y) = (at % self.width, at / self.width);
        let across = [(x > 0).then(|| at - 1), (x + 1 < self.width).then_some(at + 1)];
        let down = [(y > 0).then(|| at - self.width), (y + 1 < self.height).then_some(at + self.width)];
        across.into_iter().chain(down).flatten()
    }

    /// The pixels around one.
    pub(super) fn around(&self, at: usize) -> impl Iterator<Item = usize> + use<> {
        let (x, y) = ((at % self.width) as isize, (at / self.width) as isize);
        let (width, height) = (self.width as isize, self.height as isize);
        AROUND.iter().filter_map(move |(dx, dy)| {
            let (x, y) = (x + dx, y + dy);
            (x >= 0 && y >= 0 && x < width && y < height).then(|| (y * width + x) as usize)
        })
    }

    /// What every pixel looks like: its colour, and the deviation of colours around it at a fine and a broad scale.
    pub(super) fn features(&self) -> Vec<Feature> {
        let uneven = |sigma: f64| {
            let both = |lab: &Lab3| {
                let own = [lab[0], lab[1] * 1.8, lab[2] * 1.8];
                [own[0], own[1], own[2], own.iter().map(|value| value * value).sum()]
            };
            let soft = Plane::<4>::new(self.width, self.height, self.lab.par_iter().map(both).collect()).blurred(sigma);
            let deviation = |[l, a, b, square]: [f32; 4]| (square - l * l - a * a - b * b).max(0.0).sqrt();
            soft.data.into_par_iter().map(deviation).collect::<Vec<f32>>()
        };
        let unit = self.longer() as f64 / 400.0;
        let (fine, broad) = (uneven(1.4 * unit), uneven(4.5 * unit));
        let own = self.lab.par_iter().zip(&fine).zip(&broad);
        // Opponent axes are narrower than lightness, and weigh more.
        own.map(|((lab, fine), broad)| [lab[0], lab[1] * 1.8, lab[2] * 1.8, fine * 0.15, broad * 0.15]).collect()
    }
}
