//! Handing over: a piece as files of a kind, and several as one archive.

use std::io::{Cursor, Write as _};
use std::sync::Arc;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;
use vatman_document::{AssetId, Color, Focus, Item, ItemId, Job, Piece, Side};
use vatman_output::{PdfError, PdfOptions, PdfPage, PictureLinks, PixelError, PixelOptions, SvgOptions, base64, render_pixels, write_pdf, write_svg};
use vatman_photo::{EncodeError, Pictures, Premultiplied, encode_jpeg, encode_png};
use vatman_scene::{Audience, Before, Means, Scene, baselines, compose, recompose, spot_at};
use vatman_type::Typesetter;
use vatman_units::{Length, Point, Rect};

use crate::naming::file_name;

/// Type and pictures at hand: all that composing and output need from outside a job.
pub struct Studio {
    /// Sets words.
    pub typesetter: Arc<Typesetter>,
    /// Knows pictures.
    pub pictures: Arc<Pictures>,
}

impl Studio {
    /// The scene of a side.
    #[must_use]
    pub fn scene(&self, job: &Job, piece: &Piece, side: &Side, audience: Audience, carets: Option<&ItemId>) -> Scene {
        let picture_size = |id: &AssetId| self.pictures.info(id).map(|info| (info.width, info.height));
        compose(job, piece, side, &Means { typesetter: &self.typesetter, picture_size: &picture_size, audience, carets })
    }

    /// The scene of a side on the stage, with what nothing has changed about taken over from before.
    #[must_use]
    pub fn stage_scene(&self, job: &Job, piece: &Piece, side: &Side, carets: Option<&ItemId>, before: Option<Before<'_>>) -> Scene {
        let picture_size = |id: &AssetId| self.pictures.info(id).map(|info| (info.width, info.height));
        recompose(job, piece, side, &Means { typesetter: &self.typesetter, picture_size: &picture_size, audience: Audience::Stage, carets }, before)
    }

    /// The spot of the picture of an item that lies at a point of the sheet; nothing where it shows no picture.
    #[must_use]
    pub fn spot_at(&self, job: &Job, item: &Item, point: Point) -> Option<Focus> {
        let picture_size = |id: &AssetId| self.pictures.info(id).map(|info| (info.width, info.height));
        spot_at(job, item, kurbo::Point::new(point.x.to_css_px(), point.y.to_css_px()), &Means { typesetter: &self.typesetter, picture_size: &picture_size, audience: Audience::Stage, carets: None })
    }

    /// The baselines of the words of an item: where they lie, and from where to where.
    #[must_use]
    pub fn baselines(&self, job: &Job, item: &Item) -> Vec<(Length, Length, Length)> {
        let picture_size = |id: &AssetId| self.pictures.info(id).map(|info| (info.width, info.height));
        let px = Length::css_px;
        let found = baselines(job, item, &Means { typesetter: &self.typesetter, picture_size: &picture_size, audience: Audience::Stage, carets: None });
        found.into_iter().map(|(at, from, to)| (px(at), px(from), px(to))).collect()
    }

    /// The mean colour of what is seen on a side within a box; nothing where it cannot be drawn or is clear there.
    #[must_use]
    pub fn seen_in(&self, job: &Job, piece: &Piece, side: &Side, rect: Rect) -> Option<Color> {
        const WIDE: u32 = 120;
        let scene = self.scene(job, piece, side, Audience::Output, None);
        let unit = f64::from(WIDE) / scene.size.width;
        let height = ((scene.size.height * unit).round() as u32).clamp(1, 1_200);
        let pixels = self.pixels(&scene, PixelOptions { width: WIDE, height, bleed: false, clear: false }).ok()?.straight();
        let area = rect.to_css_px();
        let span = |from: f64, to: f64, most: u32| ((from * unit).floor().clamp(0.0, f64::from(most - 1)) as u32, (to * unit).ceil().clamp(1.0, f64::from(most)) as u32);
        let ((x0, x1), (y0, y1)) = (span(area.x0, area.x1, WIDE), span(area.y0, area.y1, height));
        let (mut sum, mut weight) = ([0u64; 3], 0u64);
        for y in y0..y1.max(y0 + 1) {
            for x in x0..x1.max(x0 + 1) {
                let from = (y * WIDE + x) as usize * 4;
                let Some(&[r, g, b, a]) = pixels.data().get(from..from + 4) else { continue };
                for (sum, value) in sum.iter_mut().zip([r, g, b]) {
                    *sum += u64::from(value) * u64::from(a);
                }
                weight += u64::from(a);
            }
        }
        let [r, g, b] = sum.map(|sum| (sum / weight.max(1)) as u8);
        (weight > 0).then(|| Color::opaque(r, g, b))
    }

    /// A side as pixels.
    ///
    /// # Errors
    /// [`PixelError`] for a size that cannot be made or a missing picture.
    pub fn pixels(&self, scene: &Scene, options: PixelOptions) -> Result<Premultiplied, PixelError> {
        render_pixels(scene, options, self.typesetter.library().as_ref(), &self.pictures)
    }
}

/// The kinds of files a piece can leave as.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "lowercase")]
pub enum FileKind {
    /// Pixels without loss, with transparency.
    Png,
    /// Pixels, small.
    Jpeg,
    /// Pages of exact size.
    Pdf,
    /// Vectors for other programs.
    Svg,
}

impl FileKind {
    /// Ending of file names.
    #[must_use]
    pub const fn extension(self) -> &'static str {
        match self {
            Self::Png => "png",
            Self::Jpeg => "jpg",
            Self::Pdf => "pdf",
            Self::Svg => "svg",
        }
    }

    /// Media type.
    #[must_use]
    pub const fn media_type(self) -> &'static str {
        match self {
            Self::Png => "image/png",
            Self::Jpeg => "image/jpeg",
            Self::Pdf => "application/pdf",
            Self::Svg => "image/svg+xml",
        }
    }
}

/// How a piece is handed over.
#[derive(Debug, Clone, Copy)]
pub struct HandOver {
    /// Kind of file.
    pub kind: FileKind,
    /// Width of the finished size in pixels; nothing means the format's own. PNG and JPEG only.
    pub width: Option<u32>,
    /// 1 to 100. JPEG only. Default 85.
    pub quality: u8,
    /// Leaves the ground out. PNG and SVG only. Default no.
    pub clear: bool,
    /// Adds the bleed. Default no.
    pub bleed: bool,
}

impl HandOver {
    /// The usual file of a kind.
    #[must_use]
    pub const fn of(kind: FileKind) -> Self {
        Self { kind, width: None, quality: 85, clear: false, bleed: false }
    }
}

/// A file to be handed over.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct OutputFile {
    /// Name, without a folder.
    pub name: String,
    /// Media type.
    pub media_type: &'static str,
    /// Content.
    pub bytes: Vec<u8>,
}

/// Why a file cannot be handed over.
#[derive(Debug, Error)]
pub enum HandOverError {
    /// No pixels.
    #[error(transparent)]
    Pixels(#[from] PixelError),
    /// Not encoded.
    #[error(transparent)]
    Encode(#[from] EncodeError),
    /// No PDF.
    #[error(transparent)]
    Pdf(#[from] PdfError),
    /// No archive.
    #[error("The archive could not be written: {0}.")]
    Archive(#[from] zip::result::ZipError),
    /// No archive.
    #[error("The archive could not be written: {0}.")]
    Write(#[from] std::io::Error),
}

/// Writes a piece: one PDF with all its sides, or one file a side. Prompts and empty frames stay behind.
///
/// # Errors
/// [`HandOverError`] with a sentence that can be shown.
pub fn write_file(studio: &Studio, job: &Job, piece: &Piece, how: HandOver) -> Result<Vec<OutputFile>, HandOverError> {
    let scenes: Vec<(&Side, Scene)> = piece.sides.iter().map(|side| (side, studio.scene(job, piece, side, Audience::Output, None))).collect();
    let (extension, media_type) = (how.kind.extension(), how.kind.media_type());
    let size = match (how.kind, how.width) {
        (FileKind::Png | FileKind::Jpeg, Some(width)) if width != piece.format.pixels_at(piece.format.ppi).0 => format!("{width}px"),
        _ => piece.format.label(),
    };
    if how.kind == FileKind::Pdf {
        let pages: Vec<_> = scenes.iter().map(|(_, scene)| PdfPage { scene, ppi: f64::from(piece.format.ppi.get()) }).collect();
        let bytes = write_pdf(&pages, &job.title, PdfOptions { bleed: how.bleed }, &studio.typesetter.library(), &studio.pictures)?;
        return Ok(vec![OutputFile { name: file_name(&job.title, &piece.name, &size, extension), media_type, bytes }]);
    }
    let mut files = Vec::new();
    for (side, scene) in &scenes {
        let named = if scenes.len() > 1 { format!("{} {}", piece.name, side.name) } else { piece.name.clone() };
        let bytes = if how.kind == FileKind::Svg {
            let options = SvgOptions { bleed: how.bleed, clear: how.clear };
            write_svg(scene, &job.title, options, studio.typesetter.library().as_ref(), &Embedded(&studio.pictures)).into_bytes()
        } else {
            write_pixels(studio, piece, scene, how)?
        };
        files.push(OutputFile { name: file_name(&job.title, &named, &size, extension), media_type, bytes });
    }
    Ok(files)
}

fn write_pixels(studio: &Studio, piece: &Piece, scene: &Scene, how: HandOver) -> Result<Vec<u8>, HandOverError> {
    let (own_width, own_height) = piece.format.pixels_at(piece.format.ppi);
    let width = how.width.unwrap_or(own_width);
    let scale = f64::from(width) / f64::from(own_width);
    let height = (f64::from(own_height) * scale).round().max(1.0) as u32;
    let pixels = studio.pixels(scene, PixelOptions { width, height, bleed: how.bleed, clear: how.clear && how.kind == FileKind::Png })?;
    let ppi = (f64::from(piece.format.ppi.get()) * scale).round();
    Ok(match how.kind {
        FileKind::Jpeg => {
            let white = Color::WHITE;
            encode_jpeg(&pixels, how.quality, [white.r, white.g, white.b], ppi.clamp(1.0, 65_535.0) as u16)?
        }
        _ => encode_png(&pixels.straight(), ppi.max(1.0) as u32)?,
    })
}

/// Pictures inside the file, as they were brought.
struct Embedded<'a>(&'a Pictures);

impl PictureLinks for Embedded<'_> {
    fn link(&self, id: &AssetId, _: f64) -> String {
        let (Some(info), Some(bytes)) = (self.0.info(id), self.0.bytes(id)) else { return String::new() };
        format!("data:{};base64,{}", info.format.media_type(), base64(&bytes))
    }
}

/// Puts files into one ZIP; equal names are told apart by a number.
///
/// # Errors
/// [`HandOverError`] where the archive cannot be written.
pub fn zip_files(files: &[OutputFile]) -> Result<Vec<u8>, HandOverError> {
    let mut archive = zip::ZipWriter::new(Cursor::new(Vec::new()));
    // Pixels and PDF are compressed already.
    let options = zip::write::SimpleFileOptions::default().compression_method(zip::CompressionMethod::Stored).last_modified_time(zip::DateTime::default());
    let mut used = std::collections::BTreeMap::<&str, usize>::new();
    for file in files {
        let count = used.entry(&file.name).or_default();
        *count += 1;
        let name = match (*count, file.name.rsplit_once('.')) {
            (1, _) => file.name.clone(),
            (n, Some((stem, end))) => format!("{stem}_{n}.{end}"),
            (n, None) => format!("{}_{n}", file.name),
        };
        archive.start_file(name, options)?;
        archive.write_all(&file.bytes)?;
    }
    Ok(archive.finish()?.into_inner())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn equal_names_are_told_apart_in_an_archive() {
        let file = |bytes: &[u8]| OutputFile { name: "card.png".into(), media_type: "image/png", bytes: bytes.to_vec() };
        let bytes = zip_files(&[file(b"one"), file(b"two")]).unwrap();
        let mut archive = zip::ZipArchive::new(Cursor::new(bytes)).unwrap();
        let names: Vec<_> = (0..archive.len()).map(|i| archive.by_index(i).unwrap().name().to_owned()).collect();
        assert_eq!(names, ["card.png", "card_2.png"]);
    }
}
