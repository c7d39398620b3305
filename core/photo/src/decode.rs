//! Reading picture files that people bring: checked before they are unpacked.

use std::io::Cursor;

use image::metadata::Orientation;
use image::{DynamicImage, ImageDecoder, ImageFormat, ImageReader};
use thiserror::Error;

use crate::Straight;
use crate::profile::{self, Profile};

/// How large a picture may be.
#[derive(Debug, Clone, Copy)]
pub struct Limits {
    /// Most pixels in all. Default 100 million.
    pub pixels: u64,
    /// Most pixels a side. Default 20,000.
    pub side: u32,
}

impl Default for Limits {
    fn default() -> Self {
        Self { pixels: 100_000_000, side: 20_000 }
    }
}

/// The picture formats that can be read.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum PictureFormat {
    /// PNG.
    Png,
    /// JPEG.
    Jpeg,
    /// WebP.
    Webp,
    /// GIF, of which the first frame is used.
    Gif,
    /// TIFF, of which the first page is used.
    Tiff,
}

impl PictureFormat {
    /// Media type.
    #[must_use]
    pub const fn media_type(self) -> &'static str {
        match self {
            Self::Png => "image/png",
            Self::Jpeg => "image/jpeg",
            Self::Webp => "image/webp",
            Self::Gif => "image/gif",
            Self::Tiff => "image/tiff",
        }
    }
}

/// What a picture file holds, learnt from its head.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct PictureInfo {
    /// Format.
    pub format: PictureFormat,
    /// Width as seen, camera rotation applied.
    pub width: u32,
    /// Height as seen, camera rotation applied.
    pub height: u32,
    /// Whether the format holds alpha here.
    pub alpha: bool,
    /// How the camera was held, as EXIF numbers it: 1 is upright, 2 to 8 are turned or mirrored.
    pub orientation: u8,
    /// Whether its colours are those of a profile other than sRGB; they are brought to sRGB when it is unpacked.
    pub profiled: bool,
}

impl PictureInfo {
    /// Whether the pixels of the file are upright and in sRGB as they are.
    #[must_use]
    pub const fn is_plain(&self) -> bool {
        self.orientation == 1 && !self.profiled
    }

    /// Memory that unpacking it takes at most, in bytes: as the file has it, and as RGBA.
    #[must_use]
    pub const fn memory(&self) -> u64 {
        self.width as u64 * self.height as u64 * 7
    }
}

/// Why a picture cannot be used.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum PictureError {
    /// None of the formats.
    #[error("This is not a picture that can be read here. Bring a PNG, JPEG, WebP, GIF or TIFF file.")]
    Unknown,
    /// Larger than the limits.
    #[error(
        "The picture is {width} by {height} pixels; up to {limit} million pixels and 20,000 a side can be used. Bring a smaller copy."
    )]
    TooLarge {
        /// Width.
        width: u32,
        /// Height.
        height: u32,
        /// Limit in millions of pixels.
        limit: u64,
    },
    /// Cut short or damaged.
    #[error("The picture file is damaged or cut short ({0}). Save or download it again and bring the new file.")]
    Damaged(String),
}

fn damaged(error: &image::ImageError) -> PictureError {
    PictureError::Damaged(error.to_string().chars().take(120).collect())
}

/// A file at its start, checked against the limits.
struct Opened<'a> {
    decoder: Box<dyn ImageDecoder + 'a>,
    format: PictureFormat,
    orientation: Orientation,
    profile: Option<Profile>,
}

fn open(bytes: &[u8], limits: Limits) -> Result<Opened<'_>, PictureError> {
    let format = match image::guess_format(bytes) {
        Ok(ImageFormat::Png) => PictureFormat::Png,
        Ok(ImageFormat::Jpeg) => PictureFormat::Jpeg,
        Ok(ImageFormat::WebP) => PictureFormat::Webp,
        Ok(ImageFormat::Gif) => PictureFormat::Gif,
        Ok(ImageFormat::Tiff) => PictureFormat::Tiff,
        _ => return Err(PictureError::Unknown),
    };
    let mut reader = ImageReader::new(Cursor::new(bytes)).with_guessed_format().map_err(|_| PictureError::Unknown)?;
    let mut allowed = image::Limits::default();
    // Twice the pixels at four bytes, for decoders that keep a second copy.
    allowed.max_alloc = Some(limits.pixels * 8);
    reader.limits(allowed);
    let mut decoder = reader.into_decoder().map_err(|error| damaged(&error))?;
    let (width, height) = decoder.dimensions();
    if width > limits.side || height > limits.side || u64::from(width) * u64::from(height) > limits.pixels {
        return Err(PictureError::TooLarge { width, height, limit: limits.pixels / 1_000_000 });
    }
    if width == 0 || height == 0 {
        return Err(PictureError::Damaged("it has no pixels".into()));
    }
    let orientation = orientation(&mut decoder);
    let profile = profile::read(decoder.icc_profile().ok().flatten());
    Ok(Opened { decoder: Box::new(decoder), format, orientation, profile })
}

/// How the camera was held. Some programs put the prefix of JPEG before the EXIF data of other formats, and some leave it out.
fn orientation(decoder: &mut impl ImageDecoder) -> Orientation {
    let exif = decoder.exif_metadata().ok().flatten();
    let bare = exif.as_deref().map(|exif| exif.strip_prefix(b"Exif\0\0").unwrap_or(exif));
    let told = bare.and_then(Orientation::from_exif_chunk);
    told.or_else(|| decoder.orientation().ok()).unwrap_or(Orientation::NoTransforms)
}

/// Reads the head of a picture file.
///
/// # Errors
/// [`PictureError`] where it is no picture or too large.
pub fn inspect(bytes: &[u8], limits: Limits) -> Result<PictureInfo, PictureError> {
    match inspect_as_it_is(bytes, limits) {
        Err(PictureError::Damaged(why)) => {
            let mended = mended_jpeg(bytes).ok_or(PictureError::Damaged(why))?;
            inspect_as_it_is(&mended, limits)
        }
        other => other,
    }
}

fn inspect_as_it_is(bytes: &[u8], limits: Limits) -> Result<PictureInfo, PictureError> {
    let Opened { decoder, format, orientation, profile } = open(bytes, limits)?;
    let (w, h) = decoder.dimensions();
    let lying = matches!(
        orientation,
        Orientation::Rotate90 | Orientation::Rotate270 | Orientation::Rotate90FlipH | Orientation::Rotate270FlipH
    );
    let (width, height) = if lying { (h, w) } else { (w, h) };
    let alpha = decoder.color_type().has_alpha();
    Ok(PictureInfo { format, width, height, alpha, orientation: orientation.to_exif(), profiled: profile.is_some() })
}

/// Unpacks a picture file, upright as the camera meant it and in sRGB. The first frame of an animation is used. A JPEG with odd
/// markers is read as browsers read it.
///
/// # Errors
/// [`PictureError`] where it is no picture, too large, damaged or cut short. Nothing large is allocated before the size is checked.
pub fn decode(bytes: &[u8], limits: Limits) -> Result<Straight, PictureError> {
    match decode_as_it_is(bytes, limits) {
        Err(PictureError::Damaged(why)) => {
            let mended = mended_jpeg(bytes).ok_or(PictureError::Damaged(why))?;
            decode_as_it_is(&mended, limits)
        }
        other => other,
    }
}

fn decode_as_it_is(bytes: &[u8], limits: Limits) -> Result<Straight, PictureError> {
    let Opened { decoder, format, orientation, profile } = open(bytes, limits)?;
    // The JPEG reader fills what is missing with grey instead of reporting it.
    if format == PictureFormat::Jpeg && crate::bare_jpeg(bytes).is_none() {
        return Err(PictureError::Damaged("it ends before the picture does".into()));
    }
    let mut picture = if format == PictureFormat::Jpeg && has_separate_scans(bytes) {
        decode_separate_scans(bytes)?
    } else {
        DynamicImage::from_decoder(decoder).map_err(|error| damaged(&error))?
    };
    picture.apply_orientation(orientation);
    let rgba = match profile {
        Some(profile) => profile.to_srgb(picture),
        None => picture.into_rgba8(),
    };
    let (width, height) = rgba.dimensions();
    Straight::new(width, height, rgba.into_raw()).ok_or_else(|| PictureError::Damaged("it has no pixels".into()))
}

/// A JPEG with segments no reader needs taken out and restart markers that were lost put back; nothing for other files.
fn mended_jpeg(bytes: &[u8]) -> Option<Vec<u8>> {
    crate::bare_jpeg(bytes).filter(|mended| mended != bytes)
}

/// Whether a sequential JPEG keeps each colour component in a scan of its own. The usual reader loses subsampled colour then.
fn has_separate_scans(bytes: &[u8]) -> bool {
    let mut at = 2;
    let mut sequential = false;
    while let Some(&[0xff, marker, high, low]) = bytes.get(at..at + 4) {
        match marker {
            0xc0 | 0xc1 => sequential = true,
            // The number of components in the first scan.
            0xda => return sequential && bytes.get(at + 4) == Some(&1),
            _ => {}
        }
        at += 2 + usize::from(u16::from_be_bytes([high, low]));
    }
    false
}

fn decode_separate_scans(bytes: &[u8]) -> Result<DynamicImage, PictureError> {
    let mut decoder = jpeg_decoder::Decoder::new(bytes);
    let data = decoder.decode().map_err(|error| PictureError::Damaged(error.to_string()))?;
    let info = decoder.info().ok_or_else(|| PictureError::Damaged("it has no head".into()))?;
    let (width, height) = (u32::from(info.width), u32::from(info.height));
    let picture = match info.pixel_format {
        jpeg_decoder::PixelFormat::L8 => image::GrayImage::from_raw(width, height, data).map(DynamicImage::from),
        jpeg_decoder::PixelFormat::RGB24 => image::RgbImage::from_raw(width, height, data).map(DynamicImage::from),
        jpeg_decoder::PixelFormat::L16 | jpeg_decoder::PixelFormat::CMYK32 => None,
    };
    picture.ok_or_else(|| PictureError::Damaged("its colours are kept in a way that cannot be read here".into()))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{encode_jpeg, encode_png};

    fn card() -> Straight {
        let data = (0..48 * 32).flat_map(|i| [(i % 48 * 5) as u8, (i / 48 * 8) as u8, 90, 255]).collect();
        Straight::new(48, 32, data).unwrap()
    }

    fn jpeg() -> Vec<u8> {
        encode_jpeg(&card().premultiplied(), 90, [255; 3], 300).unwrap()
    }

    #[test]
    fn written_pictures_are_read_back() {
        let png = encode_png(&card(), 300).unwrap();
        assert_eq!(decode(&png, Limits::default()).unwrap(), card());
        let back = decode(&jpeg(), Limits::default()).unwrap();
        let off: u32 = back.data().iter().zip(card().data()).map(|(a, b)| u32::from(a.abs_diff(*b))).sum();
        assert!(off / (48 * 32 * 4) < 3);
        assert_eq!(
            inspect(&jpeg(), Limits::default()).unwrap(),
            PictureInfo {
                format: PictureFormat::Jpeg,
                width: 48,
                height: 32,
                alpha: false,
                orientation: 1,
                profiled: false
            }
        );
    }

    #[test]
    fn colour_in_scans_of_its_own_is_read_as_colour() {
        let mut file = Vec::new();
        let mut encoder = jpeg_encoder::Encoder::new(&mut file, 90);
        encoder.set_sampling_factor(jpeg_encoder::SamplingFactor::F_2_2);
        encoder.set_optimized_huffman_tables(true);
        encoder.encode(&card().premultiplied().flattened([255; 3]), 48, 32, jpeg_encoder::ColorType::Rgb).unwrap();
        assert!(has_separate_scans(&file) && !has_separate_scans(&jpeg()));
        let back = decode(&file, Limits::default()).unwrap();
        let off: u32 = back.data().iter().zip(card().data()).map(|(a, b)| u32::from(a.abs_diff(*b))).sum();
        assert!(off / (48 * 32 * 4) < 4, "{}", off / (48 * 32 * 4));
    }

    #[test]
    fn camera_rotation_is_honoured() {
        // An EXIF segment with orientation 6 (turn a quarter clockwise), TIFF 6.0 little-endian with one entry.
        let exif = [
            b"\xff\xe1\x00\x22Exif\0\0II*\0\x08\0\0\0\x01\0".as_slice(),
            b"\x12\x01\x03\0\x01\0\0\0\x06\0\0\0\0\0\0\0",
        ]
        .concat();
        let mut turned = jpeg();
        turned.splice(2..2, exif);
        let info = inspect(&turned, Limits::default()).unwrap();
        assert_eq!((info.width, info.height), (32, 48));
        let picture = decode(&turned, Limits::default()).unwrap();
        // The top left of the file is now at the top right.
        let corner = &picture.data()[31 * 4..31 * 4 + 3];
        assert!(corner[0] < 20 && corner[1] < 20, "{corner:?}");
    }

    #[test]
    fn files_cut_anywhere_are_refused_and_never_panic() {
        let png = encode_png(&card(), 72).unwrap();
        for file in [jpeg(), png] {
            for length in (0..file.len() - 2).step_by(7) {
                assert!(
                    decode(&file[..length], Limits::default()).is_err(),
                    "{length} of {} bytes were taken for a picture",
                    file.len()
                );
            }
        }
        assert_eq!(decode(b"%PDF-1.7 not a picture", Limits::default()), Err(PictureError::Unknown));
    }

    #[test]
    fn a_bomb_is_refused_before_it_is_unpacked() {
        // A PNG head that claims 30,000 by 30,000 pixels, with no data behind it.
        let mut bomb = encode_png(&card(), 72).unwrap();
        bomb[16..20].copy_from_slice(&30_000u32.to_be_bytes());
        bomb[20..24].copy_from_slice(&30_000u32.to_be_bytes());
        let crc = crc(&bomb[12..29]);
        bomb[29..33].copy_from_slice(&crc.to_be_bytes());
        assert_eq!(
            decode(&bomb, Limits::default()),
            Err(PictureError::TooLarge { width: 30_000, height: 30_000, limit: 100 })
        );
    }

    /// CRC-32 of ISO 3309, as PNG uses it.
    fn crc(bytes: &[u8]) -> u32 {
        !bytes.iter().fold(!0u32, |crc, byte| {
            (0..8).fold(crc ^ u32::from(*byte), |c, _| if c & 1 == 1 { (c >> 1) ^ 0xedb8_8320 } else { c >> 1 })
        })
    }
}
