//! Pictures on their way out: nothing of an original leaves but what is seen.
//!
//! Files people bring say where and when they were taken, with what, and sometimes carry whole other pictures. A JPEG that is
//! upright and in sRGB keeps its very scan data without any of that; everything else is written anew from its pixels.

use img_parts::jpeg::{Jpeg, markers};
use img_parts::png::Png;
use img_parts::{Bytes, ImageEXIF as _};

use crate::{EncodeError, PictureFormat, PictureInfo, Straight, encode_opaque_jpeg, encode_png};

/// A JPEG without anything but what its scans need: no EXIF, no comments, no profile, nothing after its end. Nothing where it cannot
/// be taken apart.
#[must_use]
pub fn bare_jpeg(bytes: &[u8]) -> Option<Vec<u8>> {
    let mut jpeg = Jpeg::from_bytes(Bytes::copy_from_slice(bytes)).ok()?;
    jpeg.set_exif(None);
    let needed = |marker: u8, length: usize| match marker {
        // How colours are coded; a shorter one says nothing and confuses some readers.
        markers::APP14 => length >= 12,
        markers::APP0..=markers::APP15 | markers::COM => false,
        _ => true,
    };
    jpeg.segments_mut().retain(|segment| needed(segment.marker(), segment.contents().len()));
    let mut out = jpeg.encoder().bytes().to_vec();
    // Whatever followed the end of the picture stays behind.
    let end = out.windows(2).rposition(|pair| pair == [0xff, markers::EOI])?;
    let scan = out.windows(2).rposition(|pair| pair == [0xff, markers::SOS])?;
    let first_end = first_end_after(&out, scan).unwrap_or(end);
    out.truncate(first_end + 2);
    Some(out)
}

/// The first end-of-image marker after a start of scan: inside scan data FF is always followed by 0 or a restart marker.
fn first_end_after(bytes: &[u8], scan: usize) -> Option<usize> {
    bytes[scan..].windows(2).position(|pair| pair == [0xff, markers::EOI]).map(|at| scan + at)
}

/// A PNG with nothing but its pixels and how they are coded.
fn bare_png(bytes: &[u8]) -> Option<Vec<u8>> {
    let mut png = Png::from_bytes(Bytes::copy_from_slice(bytes)).ok()?;
    png.chunks_mut().retain(|chunk| matches!(&chunk.kind(), b"IHDR" | b"PLTE" | b"tRNS" | b"IDAT" | b"IEND" | b"sRGB"));
    Some(png.encoder().bytes().to_vec())
}

/// The bytes of a picture that may leave, and their media type: the original without what it tells about its maker where that is
/// possible without loss, else written anew from `pixels`, which are upright and in sRGB.
///
/// # Errors
/// [`EncodeError`] where it has to be written anew and cannot be.
pub fn leaving(
    bytes: &[u8],
    info: &PictureInfo,
    pixels: impl FnOnce() -> Option<std::sync::Arc<Straight>>,
) -> Result<Option<(Vec<u8>, &'static str)>, EncodeError> {
    let as_it_is = info.is_plain().then(|| match info.format {
        PictureFormat::Jpeg => bare_jpeg(bytes).map(|bytes| (bytes, "image/jpeg")),
        PictureFormat::Png => bare_png(bytes).map(|bytes| (bytes, "image/png")),
        PictureFormat::Webp | PictureFormat::Gif | PictureFormat::Tiff => None,
    });
    if let Some(Some(bare)) = as_it_is {
        return Ok(Some(bare));
    }
    written(info, pixels)
}

/// A picture written anew from its pixels, in a kind that suits what the original was.
pub(crate) fn written(
    info: &PictureInfo,
    pixels: impl FnOnce() -> Option<std::sync::Arc<Straight>>,
) -> Result<Option<(Vec<u8>, &'static str)>, EncodeError> {
    let Some(pixels) = pixels() else { return Ok(None) };
    // Photographs stay small, everything else stays exact.
    let photograph = matches!(info.format, PictureFormat::Jpeg | PictureFormat::Webp) && !info.alpha;
    Ok(Some(if photograph {
        (encode_opaque_jpeg(&pixels, 95, 72)?, "image/jpeg")
    } else {
        (encode_png(&pixels, 72)?, "image/png")
    }))
}
