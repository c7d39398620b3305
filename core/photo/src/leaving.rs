//! Pictures on their way out: nothing of an original leaves but what is seen.
//!
//! Files people bring say where and when they were taken, with what, and sometimes carry whole other pictures. A JPEG that is
//! upright and in sRGB keeps its very scan data without any of that; everything else is written anew from its pixels.

use img_parts::Bytes;
use img_parts::png::Png;

use crate::{EncodeError, PictureFormat, PictureInfo, Straight, encode_opaque_jpeg, encode_png};

/// Markers of a JPEG (ITU-T T.81, table B.1).
mod marker {
    pub(super) const SOI: u8 = 0xd8;
    pub(super) const EOI: u8 = 0xd9;
    pub(super) const SOS: u8 = 0xda;
    pub(super) const APP14: u8 = 0xee;
}

/// A JPEG without anything but what its scans need: no EXIF, no comments, no profile, nothing between its scans or after its end, be it
/// another picture. Restart markers are counted anew, as readers do. Nothing where it cannot be taken apart or is cut short.
#[must_use]
pub fn bare_jpeg(bytes: &[u8]) -> Option<Vec<u8>> {
    let mut rest = bytes.strip_prefix(&[0xff, marker::SOI])?;
    let mut out = Vec::with_capacity(bytes.len());
    out.extend([0xff, marker::SOI]);
    let mut scanned = false;
    loop {
        // Readers pass over whatever is not a marker where one should be; several FF are one.
        let at = rest.windows(2).position(|pair| pair[0] == 0xff && !matches!(pair[1], 0 | 0xff))?;
        let kind = rest[at + 1];
        rest = &rest[at + 2..];
        match kind {
            marker::EOI => {
                out.extend([0xff, marker::EOI]);
                return scanned.then_some(out);
            }
            // A picture within another is not part of it.
            marker::SOI => return None,
            // These stand alone.
            0x01 | 0xd0..=0xd7 => continue,
            _ => {}
        }
        let length = usize::from(u16::from_be_bytes([*rest.first()?, *rest.get(1)?]));
        let content = rest.get(2..length)?;
        rest = &rest[length..];
        if let Some(needed) = needed(kind, content) {
            out.extend([0xff, kind]);
            out.extend(u16::try_from(needed.len() + 2).ok()?.to_be_bytes());
            out.extend(needed);
        }
        if kind == marker::SOS {
            scanned = true;
            let end = scan_end(rest)?;
            copy_scan(&rest[..end], &mut out);
            rest = &rest[end..];
        }
    }
}

/// What the segment begins with that says how colours are coded.
const CODED: [u8; 5] = [0x41, 0x64, 0x6f, 0x62, 0x65];

/// What readers need of a segment; nothing where that is nothing.
fn needed(kind: u8, content: &[u8]) -> Option<&[u8]> {
    match kind {
        // How colours are coded: twelve bytes that begin with a name. A shorter one says nothing and confuses some readers.
        marker::APP14 => content.get(..12).filter(|content| content.starts_with(&CODED)),
        // Tables, frames and scans; not the applications' own, comments, and what is reserved.
        0xc0..=0xcf | marker::SOS..=0xdd => Some(content),
        _ => None,
    }
}

/// Where the data of a scan ends: at the first marker that is neither a zero, which FF in the data is followed by, nor a restart.
fn scan_end(data: &[u8]) -> Option<usize> {
    memchr::memchr_iter(0xff, data).find(|at| !matches!(data.get(at + 1), None | Some(0 | 0xd0..=0xd7 | 0xff)))
}

fn copy_scan(data: &[u8], out: &mut Vec<u8>) {
    let from = out.len();
    out.extend_from_slice(data);
    let mut count = 0_u8;
    for at in memchr::memchr_iter(0xff, data) {
        if matches!(data.get(at + 1), Some(0xd0..=0xd7)) {
            out[from + at + 1] = 0xd0 + count % 8;
            count = count.wrapping_add(1);
        }
    }
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
