//! Writing picture files.

use thiserror::Error;

use crate::{Premultiplied, Straight};

/// A picture could not be written.
#[derive(Debug, Error)]
#[error("The picture could not be written: {0}.")]
pub struct EncodeError(String);

impl EncodeError {
    /// For what has no pixels.
    #[must_use]
    pub fn of_nothing() -> Self {
        Self("there is nothing on it".into())
    }
}

/// Writes a PNG with alpha where there is any, and its resolution in pixels per inch.
///
/// # Errors
/// [`EncodeError`] where the encoder fails, which it does not for sound buffers.
pub fn encode_png(pixels: &Straight, ppi: u32) -> Result<Vec<u8>, EncodeError> {
    let fail = |error: png::EncodingError| EncodeError(error.to_string());
    let opaque = pixels.is_opaque();
    let mut out = Vec::with_capacity(pixels.data().len() / 3);
    let mut encoder = png::Encoder::new(&mut out, pixels.width(), pixels.height());
    encoder.set_color(if opaque { png::ColorType::Rgb } else { png::ColorType::Rgba });
    encoder.set_depth(png::BitDepth::Eight);
    encoder.set_compression(png::Compression::Fast);
    encoder.set_source_srgb(png::SrgbRenderingIntent::Perceptual);
    let per_metre = (f64::from(ppi) / 0.0254).round() as u32;
    encoder.set_pixel_dims(Some(png::PixelDimensions { xppu: per_metre, yppu: per_metre, unit: png::Unit::Meter }));
    let mut writer = encoder.write_header().map_err(fail)?;
    if opaque {
        let rgb: Vec<u8> = pixels.data().chunks_exact(4).flat_map(|pixel| [pixel[0], pixel[1], pixel[2]]).collect();
        writer.write_image_data(&rgb).map_err(fail)?;
    } else {
        writer.write_image_data(pixels.data()).map_err(fail)?;
    }
    writer.finish().map_err(fail)?;
    Ok(out)
}

/// Writes a JPEG of `quality` 1 to 100 over an opaque colour, with its resolution in pixels per inch.
///
/// # Errors
/// [`EncodeError`] where a side is over 65,535 pixels.
pub fn encode_jpeg(pixels: &Premultiplied, quality: u8, over: [u8; 3], ppi: u16) -> Result<Vec<u8>, EncodeError> {
    jpeg(&pixels.flattened(over), jpeg_encoder::ColorType::Rgb, (pixels.width(), pixels.height()), quality, ppi)
}

/// As [`encode_jpeg`], of a picture that is opaque: its alpha is not looked at.
///
/// # Errors
/// [`EncodeError`] where a side is over 65,535 pixels.
pub fn encode_opaque_jpeg(pixels: &Straight, quality: u8, ppi: u16) -> Result<Vec<u8>, EncodeError> {
    jpeg(pixels.data(), jpeg_encoder::ColorType::Rgba, (pixels.width(), pixels.height()), quality, ppi)
}

fn jpeg(
    data: &[u8],
    kind: jpeg_encoder::ColorType,
    (width, height): (u32, u32),
    quality: u8,
    ppi: u16,
) -> Result<Vec<u8>, EncodeError> {
    let side =
        |side: u32| u16::try_from(side).map_err(|_| EncodeError("a JPEG holds at most 65,535 pixels a side".into()));
    let (width, height) = (side(width)?, side(height)?);
    // Most photographs of this quality need no more.
    let mut out = Vec::with_capacity(data.len() / 8);
    let mut encoder = jpeg_encoder::Encoder::new(&mut out, quality.clamp(1, 100));
    // One interleaved scan: some readers take subsampled colour in scans of its own for grey.
    encoder.set_optimized_huffman_tables(false);
    if let Some(srgb) = crate::profile::srgb() {
        encoder.add_icc_profile(&srgb).map_err(|error| EncodeError(error.to_string()))?;
    }
    encoder
        .set_density(jpeg_encoder::PixelDensity { density: (ppi, ppi), unit: jpeg_encoder::PixelDensityUnit::Inches });
    encoder.set_sampling_factor(if quality >= 90 {
        jpeg_encoder::SamplingFactor::F_1_1
    } else {
        jpeg_encoder::SamplingFactor::F_2_2
    });
    encoder.encode(data, width, height, kind).map_err(|error| EncodeError(error.to_string()))?;
    Ok(out)
}

/// Writes a WebP without loss, with alpha where there is any.
///
/// # Errors
/// [`EncodeError`] where a side is over 16,384 pixels.
pub fn encode_webp(pixels: &Straight) -> Result<Vec<u8>, EncodeError> {
    let mut out = Vec::new();
    let encoder = image::codecs::webp::WebPEncoder::new_lossless(&mut out);
    let (width, height) = (pixels.width(), pixels.height());
    encoder
        .encode(pixels.data(), width, height, image::ExtendedColorType::Rgba8)
        .map_err(|error| EncodeError(error.to_string()))?;
    Ok(out)
}

/// Writes a WebP of `quality` 1 to 99, with alpha, which itself is kept without loss.
///
/// # Errors
/// [`EncodeError`] where a side is over 16,383 pixels.
pub fn encode_webp_lossy(pixels: &Straight, quality: u8) -> Result<Vec<u8>, EncodeError> {
    let encoder = webp::Encoder::from_rgba(pixels.data(), pixels.width(), pixels.height());
    let encoded = encoder.encode_simple(false, f32::from(quality.clamp(1, 99)));
    encoded.map(|bytes| bytes.to_vec()).map_err(|error| EncodeError(format!("{error:?}")))
}

/// Writes a GIF of at most 256 colours; what is half clear becomes clear or opaque.
///
/// # Errors
/// [`EncodeError`] where a side is over 65,535 pixels.
pub fn encode_gif(pixels: &Straight) -> Result<Vec<u8>, EncodeError> {
    let mut out = Vec::new();
    {
        let mut encoder = image::codecs::gif::GifEncoder::new_with_speed(&mut out, 10);
        encoder
            .encode(pixels.data(), pixels.width(), pixels.height(), image::ExtendedColorType::Rgba8)
            .map_err(|error| EncodeError(error.to_string()))?;
    }
    Ok(out)
}

/// Writes a TIFF without loss, with alpha.
///
/// # Errors
/// [`EncodeError`] where the encoder fails, which it does not for sound buffers.
pub fn encode_tiff(pixels: &Straight, ppi: u32) -> Result<Vec<u8>, EncodeError> {
    let wrong = |error: tiff::TiffError| EncodeError(error.to_string());
    let mut out = std::io::Cursor::new(Vec::new());
    let mut encoder = tiff::encoder::TiffEncoder::new(&mut out).map_err(wrong)?;
    let mut picture =
        encoder.new_image::<tiff::encoder::colortype::RGBA8>(pixels.width(), pixels.height()).map_err(wrong)?;
    picture.resolution(tiff::tags::ResolutionUnit::Inch, tiff::encoder::Rational { n: ppi, d: 1 });
    picture.write_data(pixels.data()).map_err(wrong)?;
    Ok(out.into_inner())
}
