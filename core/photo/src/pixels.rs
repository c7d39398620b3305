//! Buffers of pixels.

use rayon::prelude::*;

use crate::wide::side_by_side;

/// Encoded sRGB with straight alpha, four bytes a pixel, row by row.
#[derive(Clone, PartialEq, Eq)]
pub struct Straight {
    pub(crate) width: u32,
    pub(crate) height: u32,
    pub(crate) data: Vec<u8>,
}

/// Encoded sRGB multiplied by alpha, four bytes a pixel, row by row.
#[derive(Clone, PartialEq, Eq)]
pub struct Premultiplied {
    width: u32,
    height: u32,
    data: Vec<u8>,
}

macro_rules! buffer {
    ($name:ident) => {
        impl $name {
            /// Wraps bytes; nothing unless there are four a pixel and at least one pixel.
            #[must_use]
            pub fn new(width: u32, height: u32, data: Vec<u8>) -> Option<Self> {
                let fits = width > 0 && height > 0 && data.len() as u64 == u64::from(width) * u64::from(height) * 4;
                fits.then_some(Self { width, height, data })
            }

            /// Width in pixels, at least 1.
            #[must_use]
            pub fn width(&self) -> u32 {
                self.width
            }

            /// Height in pixels, at least 1.
            #[must_use]
            pub fn height(&self) -> u32 {
                self.height
            }

            /// The bytes.
            #[must_use]
            pub fn data(&self) -> &[u8] {
                &self.data
            }
        }

        impl std::fmt::Debug for $name {
            fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
                write!(f, concat!(stringify!($name), "({} x {})"), self.width, self.height)
            }
        }
    };
}

buffer!(Straight);
buffer!(Premultiplied);

impl Straight {
    /// Whether every pixel is opaque.
    #[must_use]
    pub fn is_opaque(&self) -> bool {
        /// Bytes that are looked at before it is asked whether another already was clear.
        const NEAR: usize = 1 << 14;
        self.data.par_chunks(NEAR).all(|near| {
            let pixels = near.as_chunks::<4>().0;
            side_by_side(|| pixels.iter().fold(u32::MAX, |all, pixel| all & u32::from_le_bytes(*pixel))) >> 24 == 0xff
        })
    }

    /// The mean colour of the pixels from `x0` to `x1` and `y0` to `y1`, ends not included, weighted by alpha; nothing where all are
    /// clear or outside.
    #[must_use]
    pub fn mean(&self, (x0, x1): (u32, u32), (y0, y1): (u32, u32)) -> Option<[u8; 3]> {
        let (x1, y1) = (x1.min(self.width), y1.min(self.height));
        let (mut sum, mut weight) = ([0u64; 3], 0u64);
        for y in y0..y1 {
            let row = |x: u32| (y as usize * self.width as usize + x as usize) * 4;
            for pixel in self.data[row(x0.min(x1))..row(x1)].chunks_exact(4) {
                let alpha = u64::from(pixel[3]);
                for (sum, value) in sum.iter_mut().zip(pixel) {
                    *sum += u64::from(*value) * alpha;
                }
                weight += alpha;
            }
        }
        (weight > 0).then(|| sum.map(|sum| (sum / weight) as u8))
    }

    /// Multiplied by alpha.
    #[must_use]
    pub fn premultiplied(mut self) -> Premultiplied {
        for pixel in self.data.chunks_exact_mut(4) {
            let alpha = u32::from(pixel[3]);
            if alpha < 255 {
                for value in &mut pixel[..3] {
                    *value = ((u32::from(*value) * alpha + 127) / 255) as u8;
                }
            }
        }
        Premultiplied { width: self.width, height: self.height, data: self.data }
    }
}

impl Premultiplied {
    /// Divided by alpha; clear pixels become clear black.
    #[must_use]
    pub fn straight(mut self) -> Straight {
        for pixel in self.data.chunks_exact_mut(4) {
            let alpha = u32::from(pixel[3]);
            if alpha > 0 && alpha < 255 {
                for value in &mut pixel[..3] {
                    *value = ((u32::from(*value) * 255 + alpha / 2) / alpha).min(255) as u8;
                }
            }
        }
        Straight { width: self.width, height: self.height, data: self.data }
    }

    /// Three bytes a pixel, laid over an opaque colour.
    #[must_use]
    pub fn flattened(&self, over: [u8; 3]) -> Vec<u8> {
        let mut out = Vec::with_capacity(self.data.len() / 4 * 3);
        for pixel in self.data.chunks_exact(4) {
            let clear = 255 - u32::from(pixel[3]);
            out.extend((0..3).map(|i| (u32::from(pixel[i]) + (u32::from(over[i]) * clear + 127) / 255).min(255) as u8));
        }
        out
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_mean_counts_what_is_seen_and_never_reaches_outside() {
        let pixels =
            Straight::new(2, 2, vec![10, 0, 0, 255, 30, 0, 0, 255, 200, 200, 200, 0, 50, 40, 20, 255]).unwrap();
        assert_eq!(pixels.mean((0, 2), (0, 1)), Some([20, 0, 0]));
        assert_eq!(pixels.mean((0, 9), (1, 9)), Some([50, 40, 20]), "a clear pixel does not count");
        assert_eq!(pixels.mean((0, 1), (1, 2)), None);
        assert_eq!(pixels.mean((5, 9), (0, 2)), None);
    }
}
