//! A picture while it is developed: floating-point encoded sRGB, three values a pixel, and its alpha beside it.

use rayon::prelude::*;

use vatman_document::Focus;

use super::planes::Plane;
use super::row::{Opening, Row};
use super::transfer;
use crate::Straight;
use crate::wide::side_by_side;

/// What the places and lengths of steps are fractions of, in pixels of what is developed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Window {
    /// Left edge of the box of which places are fractions.
    pub left: f32,
    /// Its top edge.
    pub top: f32,
    /// Its width.
    pub width: f32,
    /// Its height.
    pub height: f32,
    /// What lengths are fractions of.
    pub longer: f64,
}

impl Window {
    /// All of a picture of a size.
    pub(crate) fn whole(width: u32, height: u32) -> Self {
        Self { left: 0.0, top: 0.0, width: width as f32, height: height as f32, longer: f64::from(width.max(height)) }
    }
}

/// One pixel: encoded red, green and blue; 0 is black, 1 white, and nothing is cut off before the end.
pub(crate) type Rgb = [f32; 3];

/// Weights of the channels in luminance (Rec. 709), here of encoded values: luma.
pub(crate) const LUMA: Rgb = [0.2126, 0.7152, 0.0722];

#[inline(always)]
pub(crate) fn luma(pixel: Rgb) -> f32 {
    pixel[0] * LUMA[0] + pixel[1] * LUMA[1] + pixel[2] * LUMA[2]
}

/// A picture in floating point.
#[derive(Debug, Clone)]
pub(crate) struct Film {
    pub width: usize,
    pub height: usize,
    pub pixels: Vec<Rgb>,
    /// Nothing where every pixel is opaque.
    pub alpha: Option<Vec<u8>>,
    /// What places and lengths are fractions of.
    pub window: Window,
}

impl Film {
    pub(crate) fn of(picture: &Straight) -> Self {
        let mut film = Self::blank(picture);
        film.load(picture, &Opening::default(), |_, _, _| {});
        film
    }

    /// A picture whose pixels are not looked at yet: those are empty until they are loaded.
    pub(crate) fn blank(picture: &Straight) -> Self {
        let clear = !picture.is_opaque();
        let alpha = clear.then(|| picture.data().par_chunks_exact(4).map(|pixel| pixel[3]).collect());
        Self {
            width: picture.width() as usize,
            height: picture.height() as usize,
            pixels: Vec::new(),
            alpha,
            window: Window::whole(picture.width(), picture.height()),
        }
    }

    /// Takes the pixels of a picture, each row after something was done to it.
    pub(crate) fn load(
        &mut self,
        picture: &Straight,
        opening: &Opening,
        done: impl Fn(usize, &mut Row, &mut Row) + Sync,
    ) {
        let width = self.width;
        self.pixels = vec![[0.0; 3]; self.count()];
        let rows = self.pixels.par_chunks_exact_mut(width).zip(picture.data().par_chunks_exact(width * 4));
        rows.enumerate().for_each_init(Default::default, |(row, spare): &mut (Row, Row), (y, (out, bytes))| {
            opening.take(bytes, row);
            done(y, row, spare);
            row.put(out);
        });
    }

    /// Means of squares of `by` pixels, with `room` squares beyond each edge of what lies on it. Pixels that were not looked at yet are
    /// read from the picture and not kept.
    pub(crate) fn shrunk(&self, picture: &Straight, by: usize, room: usize) -> Plane<3> {
        if self.pixels.is_empty() {
            Plane::of_bytes(picture, by, room)
        } else {
            Plane::cells(self.width, self.height, by, room, |y, sums: &mut [Rgb]| {
                let row = &self.pixels[y * self.width..][..self.width];
                for (sum, value) in sums.as_flattened_mut().iter_mut().zip(row.as_flattened()) {
                    *sum += value;
                }
            })
        }
    }

    /// Pixels in all.
    pub(crate) fn count(&self) -> usize {
        self.width * self.height
    }

    /// How opaque it is, as greys that stay in proportion: where a step works in linear light, such as are so there.
    pub(crate) fn cover(&self, linear: bool) -> Option<Self> {
        let grey = |alpha: &u8| {
            let share = f32::from(*alpha) / 255.0;
            if linear { [transfer::encoded_value(share); 3] } else { [share; 3] }
        };
        let pixels = self.alpha.as_ref()?.par_iter().map(grey).collect();
        Some(Self { pixels, alpha: None, ..*self })
    }

    /// Takes back what [`Self::cover`] gave, as a step left it.
    pub(crate) fn set_cover(&mut self, cover: &Self, linear: bool) {
        let share = |pixel: &Rgb| if linear { transfer::linear_value(pixel[1]) } else { pixel[1] };
        self.alpha = Some(cover.pixels.par_iter().map(|pixel| (share(pixel) * 255.0 + 0.5) as u8).collect());
    }

    /// Takes away so much of how opaque it is, at each pixel as much of that as `mask` says.
    pub(crate) fn make_clear(&mut self, amount: f32, mask: Option<&[f32]>) {
        let count = self.count();
        let alpha = self.alpha.get_or_insert_with(|| vec![255; count]);
        alpha.par_iter_mut().enumerate().for_each(|(at, alpha)| {
            let left = 1.0 - amount * mask.map_or(1.0, |mask| mask[at]);
            *alpha = (f32::from(*alpha) * left + 0.5) as u8;
        });
    }

    /// Pixels of the longer side: what lengths are fractions of.
    pub(crate) fn longer(&self) -> f64 {
        self.window.longer
    }

    /// Where a place lies, in pixels.
    pub(crate) fn place(&self, point: Focus) -> (f32, f32) {
        let Window { left, top, width, height, .. } = self.window;
        (left + point.x.get() as f32 * width, top + point.y.get() as f32 * height)
    }

    /// The luma of every pixel.
    pub(crate) fn lightness(&self) -> Vec<f32> {
        let mut out = vec![0.0; self.count()];
        out.par_chunks_mut(self.width).zip(self.pixels.par_chunks(self.width)).for_each(|(out, row)| {
            side_by_side(|| out.iter_mut().zip(row).for_each(|(out, pixel)| *out = luma(*pixel)));
        });
        out
    }
}
