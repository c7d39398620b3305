//! Resampling.

use fast_image_resize::images::{Image, ImageRef};
use fast_image_resize::pixels::U8x4;
use fast_image_resize::{FilterType, PixelType, ResizeAlg, ResizeOptions, Resizer};
use rayon::prelude::*;

use crate::{Premultiplied, Straight};

/// Resamples to `width` by `height` pixels with a Lanczos window of three lobes, colour weighted by alpha.
#[must_use]
pub fn resize(pixels: &Straight, width: u32, height: u32) -> Straight {
    let whole = [0.0, 0.0, f64::from(pixels.width()), f64::from(pixels.height())];
    resize_part(pixels, whole, width, height)
}

/// As [`resize`], of a part given as left, top, width and height in pixels, which may be fractions; held inside the picture.
/// Pixels beside the part weigh in at its edges, so that parts of one picture meet without a seam.
#[must_use]
pub(crate) fn resize_part(pixels: &Straight, part: [f64; 4], width: u32, height: u32) -> Straight {
    let (width, height) = (width.max(1), height.max(1));
    let (full_w, full_h) = (f64::from(pixels.width()), f64::from(pixels.height()));
    let left = part[0].clamp(0.0, full_w - 1e-3);
    let top = part[1].clamp(0.0, full_h - 1e-3);
    let (w, h) = (part[2].clamp(1e-3, full_w - left), part[3].clamp(1e-3, full_h - top));
    if (w, h) == (full_w, full_h) && (width, height) == (pixels.width(), pixels.height()) {
        return pixels.clone();
    }
    let clear = !pixels.is_opaque();
    let weighted = clear.then(|| pixels.clone().premultiplied());
    let from = weighted.as_ref().map_or(pixels.data(), Premultiplied::data);
    let mut data = vec![0; width as usize * height as usize * 4];
    // The same bands on every machine, so that the result is; of one height, so that no core waits for another.
    let band = height.div_ceil(height.div_ceil(BAND));
    data.par_chunks_mut(band as usize * width as usize * 4).enumerate().for_each(|(n, out)| {
        let rows = out.len() as u32 / (width * 4);
        let share = |rows: u32| h * f64::from(rows) / f64::from(height);
        let part = [left, top + share(n as u32 * band), w, share(rows)];
        // The resizer refuses only buffers and parts of the wrong size, which none of these is.
        let _ = convolved((from, pixels.width(), pixels.height()), part, (out, width, rows));
    });
    let resized = if clear {
        Premultiplied::new(width, height, data).map(Premultiplied::straight)
    } else {
        Straight::new(width, height, data)
    };
    resized.unwrap_or_else(|| pixels.clone())
}

/// Rows of the result that are made at a time, at most: for each band the weights along a row are worked out anew.
const BAND: u32 = 160;

/// A part of pixels of four bytes at another size; each with its width and height.
fn convolved(
    (from, full_w, full_h): (&[u8], u32, u32),
    [left, top, w, h]: [f64; 4],
    (out, width, height): (&mut [u8], u32, u32),
) -> Option<()> {
    // Of one kind of pixel: for all there are, the resizer is ten times as long to compile.
    let source = ImageRef::new(full_w, full_h, from, PixelType::U8x4).ok()?;
    let mut target = Image::from_slice_u8(width, height, out, PixelType::U8x4).ok()?;
    let h = h.min(f64::from(full_h) - top);
    let options = ResizeOptions::new()
        .resize_alg(ResizeAlg::Convolution(FilterType::Lanczos3))
        .use_alpha(false)
        .crop(left, top, w, h);
    let (source, mut target) = (source.typed_image::<U8x4>()?, target.typed_image_mut::<U8x4>()?);
    Resizer::new().resize_typed(&source, &mut target, &options).ok()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn clear_pixels_do_not_bleed_into_opaque_ones() {
        let data = (0..64 * 64).flat_map(|i| if i % 64 < 32 { [200, 40, 40, 255] } else { [0, 255, 0, 0] }).collect();
        let small = resize(&Straight::new(64, 64, data).unwrap(), 16, 16);
        assert_eq!((small.width(), small.height()), (16, 16));
        for pixel in small.data().chunks_exact(4).filter(|pixel| pixel[3] > 8) {
            assert!(pixel[0].abs_diff(200) < 12 && pixel[1].abs_diff(40) < 12, "{pixel:?}");
        }
    }

    #[test]
    fn a_part_is_that_part() {
        let data =
            (0..60u32 * 20).flat_map(|i| if i % 60 < 30 { [255, 0, 0, 255] } else { [0, 0, 255, 255] }).collect();
        let right = resize_part(&Straight::new(60, 20, data).unwrap(), [45.0, 2.0, 14.0, 9.5], 7, 5);
        assert!(right.data().chunks_exact(4).all(|pixel| pixel == [0, 0, 255, 255]));
    }
}
