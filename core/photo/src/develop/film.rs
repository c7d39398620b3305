//! A picture while it is developed: floating-point encoded sRGB, three values a pixel, and its alpha beside it.

use rayon::prelude::*;

use crate::Straight;

/// One pixel: encoded red, green and blue; 0 is black, 1 white, and nothing is cut off before the end.
pub(crate) type Rgb = [f32; 3];

/// Weights of the channels in luminance (Rec. 709), here of encoded values: luma.
pub(crate) const LUMA: Rgb = [0.2126, 0.7152, 0.0722];

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
}

impl Film {
    pub(crate) fn of(picture: &Straight) -> Self {
        let pixels = picture.data().par_chunks_exact(4);
        let alpha = (!picture.is_opaque()).then(|| picture.data().par_chunks_exact(4).map(|pixel| pixel[3]).collect());
        Self {
            width: picture.width() as usize,
            height: picture.height() as usize,
            pixels: pixels.map(|pixel| [0, 1, 2].map(|c| f32::from(pixel[c]) * (1.0 / 255.0))).collect(),
            alpha,
        }
    }

    /// Back to bytes; what lies beyond black and white is cut off.
    pub(crate) fn straight(self) -> Straight {
        let mut data = vec![255; self.pixels.len() * 4];
        let byte = |value: f32| (value * 255.0 + 0.5) as u8;
        data.par_chunks_exact_mut(4).zip(&self.pixels).for_each(|(out, pixel)| {
            for c in 0..3 {
                out[c] = byte(pixel[c]);
            }
        });
        if let Some(alpha) = &self.alpha {
            data.chunks_exact_mut(4).zip(alpha).for_each(|(out, alpha)| out[3] = *alpha);
        }
        Straight { width: self.width as u32, height: self.height as u32, data }
    }

    /// Pixels of the longer side: what lengths are fractions of.
    pub(crate) fn longer(&self) -> f64 {
        self.width.max(self.height) as f64
    }

    /// The luma of every pixel.
    pub(crate) fn lightness(&self) -> Vec<f32> {
        self.pixels.par_iter().map(|pixel| luma(*pixel)).collect()
    }
}
