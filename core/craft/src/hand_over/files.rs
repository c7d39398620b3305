//! Handing over: a piece as files of a kind, and several as one archive.

use std::collections::BTreeMap;
use std::io::{Cursor, Write as _};
use std::sync::Arc;

use base64::Engine as _;
use base64::engine::general_purpose::STANDARD as BASE64;
use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;
use vatman_document::{Color, Ink, Job, PictureSource, Piece, RichText, Side, SideId, TextFit, TypeLook};
use vatman_output::{
    PdfColours, PdfError, PdfOptions, PictureLinks, PixelError, PixelOptions, PrintPage, ScenePart, SvgOptions,
    render_part, write_pdf, write_svg,
};
use vatman_photo::{
    EncodeError, Premultiplied, encode_gif, encode_jpeg, encode_png, encode_tiff, encode_webp, encode_webp_lossy,
};
use vatman_scene::{Audience, Scene};
use vatman_type::{FontLibrary, Setting, TextBox};
use vatman_units::{Length, Ratio};

use crate::check::Day;
use crate::compose::PlaceEntry;
use crate::hand_over::language::language;
use crate::hand_over::naming::{FileParts, NamePattern};
use crate::studio::Studio;

/// The kinds of files a piece can leave as.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "lowercase")]
pub enum FileKind {
    /// Pixels without loss, with transparency.
    Png,
    /// Pixels, small.
    Jpeg,
    /// Pixels without loss, with transparency, for web pages.
    Webp,
    /// Pixels of few colours, for old readers.
    Gif,
    /// Pixels without loss, for print and archives.
    Tiff,
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
            Self::Webp => "webp",
            Self::Gif => "gif",
            Self::Tiff => "tif",
            Self::Pdf => "pdf",
            Self::Svg => "svg",
        }
    }

    /// Whether it holds pixels.
    #[must_use]
    pub const fn is_pixels(self) -> bool {
        !matches!(self, Self::Pdf | Self::Svg)
    }

    /// Whether what is clear stays clear in it.
    #[must_use]
    pub const fn may_be_clear(self) -> bool {
        !matches!(self, Self::Jpeg | Self::Pdf)
    }

    /// Media type.
    #[must_use]
    pub const fn media_type(self) -> &'static str {
        match self {
            Self::Png => "image/png",
            Self::Jpeg => "image/jpeg",
            Self::Webp => "image/webp",
            Self::Gif => "image/gif",
            Self::Tiff => "image/tiff",
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
    /// 1 to 100. JPEG and WebP only; a WebP of 100 is without loss. Default 85.
    pub quality: u8,
    /// Leaves the ground out. PNG and SVG only. Default no.
    pub clear: bool,
    /// Adds the bleed. Default no.
    pub bleed: bool,
    /// Adds crop marks and a slug around the bleed. PDF only. Default no.
    pub marks: bool,
    /// Colours in the four process inks. PDF only. Default no.
    pub process: bool,
    /// For archives, written on this day (PDF/A-2b). PDF only. Default no.
    pub lasting: Option<Day>,
}

impl HandOver {
    /// The usual file of a kind.
    #[must_use]
    pub const fn of(kind: FileKind) -> Self {
        Self { kind, width: None, quality: 85, clear: false, bleed: false, marks: false, process: false, lasting: None }
    }
}

/// A file to be handed over.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct OutputFile {
    /// Name, without a folder.
    pub name: String,
    /// What it holds, as a name may tell.
    pub about: FileParts,
    /// Media type.
    pub media_type: &'static str,
    /// Content.
    pub bytes: Vec<u8>,
}

impl OutputFile {
    /// A file of a piece, with the usual name.
    fn of(about: FileParts, media_type: &'static str, bytes: Vec<u8>) -> Self {
        Self { name: NamePattern::default().name(&about, Day::from_days(0), 1), about, media_type, bytes }
    }

    /// A file that lies beside those of the pieces.
    #[must_use]
    pub fn beside(name: &str, media_type: &'static str, bytes: Vec<u8>) -> Self {
        Self { name: name.to_owned(), about: FileParts::default(), media_type, bytes }
    }
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

/// What a print shop reads below a sheet: title, piece, size and side, in small letters that stay within the width of the piece.
fn slug_line(studio: &Studio, job: &Job, piece: &Piece, side: &Side) -> Setting {
    let mut parts = vec![job.title.as_str(), &piece.name];
    let size = piece.format.label();
    parts.push(&size);
    if piece.sides.len() > 1 {
        parts.push(&side.name);
    }
    let look = TypeLook {
        family: FontLibrary::STAND_IN.to_owned(),
        size: Length::pt(SLUG_SIZE),
        fit: TextFit::Shrink { floor: Ratio::new(0.3) },
        ..TypeLook::default()
    };
    let size = Length::pt(SLUG_SIZE).to_css_px();
    let within =
        TextBox { width: (piece.format.size.w - Length::mm(4.0)).to_css_px().max(1.0), height: 1.5 * size, scale: 1.0 };
    let mut setting = studio.typesetter.set(&RichText::plain(&parts.join("  \u{b7}  ")), &look, within, false);
    let baseline = setting.lines.first().map_or(0.0, |line| line.baseline) - setting.size * 0.35;
    for glyph in setting.runs.iter_mut().flat_map(|run| &mut run.glyphs) {
        glyph.y -= baseline;
    }
    setting
}

/// Size of the letters of a slug, in points.
const SLUG_SIZE: f64 = 6.0;

/// The colours of a job that are printed with an ink somebody said.
pub(crate) fn own_inks(job: &Job) -> Vec<(Color, Ink)> {
    job.swatches.values().filter_map(|swatch| Some((swatch.color, swatch.ink.clone()?))).collect()
}

/// Writes a piece: one PDF with its sides, or one file a side; of the sides named those, without any named all. Prompts and empty frames
/// stay behind.
///
/// # Errors
/// [`HandOverError`] with a sentence that can be shown.
pub fn write_file(
    studio: &Studio,
    job: &Job,
    piece: &Piece,
    only: &[SideId],
    how: HandOver,
) -> Result<Vec<OutputFile>, HandOverError> {
    let named = |side: &&Side| only.contains(&side.id);
    let any = piece.sides.iter().any(|side| named(&side));
    let scenes: Vec<(&Side, Scene)> = piece
        .sides
        .iter()
        .filter(|side| !any || named(side))
        .map(|side| (side, studio.scene(job, piece, side, Audience::Output, None)))
        .collect();
    let (extension, media_type) = (how.kind.extension(), how.kind.media_type());
    let size = match (how.kind, how.width) {
        (kind, Some(width)) if kind.is_pixels() && width != piece.format.pixels_at(piece.format.ppi).0 => {
            format!("{width}px")
        }
        _ => piece.format.label(),
    };
    if how.kind == FileKind::Pdf {
        let language = language(job, piece, &scenes.iter().map(|(_, scene)| scene).collect::<Vec<_>>());
        let inks = own_inks(job);
        let options = PdfOptions {
            title: &job.title,
            language: &language,
            colours: if how.process { PdfColours::Process } else { PdfColours::Screen },
            inks: &inks,
            lasting: how.lasting.map(|day| (u16::try_from(day.year).unwrap_or(2000), day.month, day.day)),
        };
        let ppi = f64::from(piece.format.ppi.get());
        let pages = scenes.iter().map(|(side, scene)| {
            let scene = Arc::new(scene.clone());
            Ok::<_, PdfError>(if how.marks {
                PrintPage::marked(scene, how.bleed, slug_line(studio, job, piece, side).runs, ppi)
            } else {
                PrintPage::single(scene, how.bleed, ppi)
            })
        });
        let bytes = write_pdf(pages, options, &studio.typesetter.library(), &studio.pictures)?;
        let sides = scenes.iter().map(|(side, _)| side.name.as_str());
        let named = if scenes.len() < piece.sides.len() {
            std::iter::once(piece.name.as_str()).chain(sides).collect::<Vec<_>>().join(" ")
        } else {
            piece.name.clone()
        };
        let about = FileParts { job: job.title.clone(), piece: named, size, extension };
        return Ok(vec![OutputFile::of(about, media_type, bytes)]);
    }
    let mut files = Vec::new();
    for (side, scene) in &scenes {
        let named = if piece.sides.len() > 1 { format!("{} {}", piece.name, side.name) } else { piece.name.clone() };
        let bytes = if how.kind == FileKind::Svg {
            let options = SvgOptions { bleed: how.bleed, clear: how.clear };
            let links = Embedded { studio, scale: f64::from(piece.format.ppi.get()) / 96.0 };
            write_svg(scene, &job.title, options, studio.typesetter.library().as_ref(), &links).into_bytes()
        } else {
            write_pixels(studio, piece, scene, how)?
        };
        let about = FileParts { job: job.title.clone(), piece: named, size: size.clone(), extension };
        files.push(OutputFile::of(about, media_type, bytes));
    }
    Ok(files)
}

fn write_pixels(studio: &Studio, piece: &Piece, scene: &Scene, how: HandOver) -> Result<Vec<u8>, HandOverError> {
    Ok(encode(&draw(studio, piece, scene, how)?, how)?)
}

/// The pixels of a side as they leave, and their resolution in pixels an inch.
struct Drawn {
    pixels: Premultiplied,
    ppi: f64,
}

fn draw(studio: &Studio, piece: &Piece, scene: &Scene, how: HandOver) -> Result<Drawn, HandOverError> {
    let (own_width, own_height) = piece.format.pixels_at(piece.format.ppi);
    let width = how.width.unwrap_or(own_width);
    let scale = f64::from(width) / f64::from(own_width);
    let height = (f64::from(own_height) * scale).round().max(1.0) as u32;
    let clear = how.clear && how.kind.may_be_clear();
    let pixels = studio.pixels(scene, PixelOptions { width, height, bleed: how.bleed, clear })?;
    Ok(Drawn { pixels, ppi: (f64::from(piece.format.ppi.get()) * scale).round() })
}

fn encode(drawn: &Drawn, how: HandOver) -> Result<Vec<u8>, EncodeError> {
    let straight = || drawn.pixels.clone().straight();
    match how.kind {
        FileKind::Jpeg => {
            let white = Color::WHITE;
            let ppi = drawn.ppi.clamp(1.0, 65_535.0) as u16;
            encode_jpeg(&drawn.pixels, how.quality, [white.r, white.g, white.b], ppi)
        }
        FileKind::Webp if how.quality < 100 => encode_webp_lossy(&straight(), how.quality),
        FileKind::Webp => encode_webp(&straight()),
        FileKind::Gif => encode_gif(&straight()),
        FileKind::Tiff => encode_tiff(&straight(), drawn.ppi.max(1.0) as u32),
        FileKind::Png | FileKind::Pdf | FileKind::Svg => encode_png(&straight(), drawn.ppi.max(1.0) as u32),
    }
}

/// Best and least quality of a JPEG or WebP for a place, and of the first try.
const QUALITIES: std::ops::RangeInclusive<u8> = 30..=92;

/// Writes a piece as the place it goes to takes it: in its usual kind of file, paper with the bleed, and pictures in the best quality
/// that keeps each file within its limit, found by trying. Where no quality does, the smallest is written; the file is then over the
/// limit, and said to be.
///
/// # Errors
/// [`HandOverError`] with a sentence that can be shown.
pub fn write_for_place(
    studio: &Studio,
    job: &Job,
    piece: &Piece,
    only: &[SideId],
    entry: &PlaceEntry,
) -> Result<Vec<OutputFile>, HandOverError> {
    let how = usual(entry);
    let files = write_file(studio, job, piece, only, how)?;
    let Some(most) = entry.most.map(|most| usize::try_from(most).unwrap_or(usize::MAX)) else { return Ok(files) };
    if files.iter().all(|file| file.bytes.len() <= most) || !how.kind.is_pixels() {
        return Ok(files);
    }
    let takes = |kind: &FileKind| entry.files.is_empty() || entry.files.contains(kind);
    // What it is already, where that knows loss; what is clear stays clear where it can.
    let order = if how.clear { [FileKind::Webp, FileKind::Jpeg] } else { [FileKind::Jpeg, FileKind::Webp] };
    let lossy = order.into_iter().find(|kind| *kind == how.kind).or_else(|| order.into_iter().find(takes));
    let Some(kind) = lossy else { return Ok(files) };
    let sides = piece.sides.iter().filter(|side| only.is_empty() || only.contains(&side.id));
    let mut out = Vec::new();
    for side in sides {
        let how = HandOver { kind, ..how };
        let scene = studio.scene(job, piece, side, Audience::Output, None);
        let drawn = draw(studio, piece, &scene, how)?;
        let at = |quality: u8| encode(&drawn, HandOver { quality, ..how });
        let (mut low, mut high) = (*QUALITIES.start(), *QUALITIES.end());
        let mut best = at(low)?;
        // The best quality that fits, by halving.
        while low < high {
            let middle = low + (high - low).div_ceil(2);
            let tried = at(middle)?;
            if tried.len() <= most {
                (low, best) = (middle, tried);
            } else {
                high = middle - 1;
            }
        }
        let mut files =
            write_file(studio, job, piece, std::slice::from_ref(&side.id), HandOver { quality: low, ..how })?;
        if let Some(file) = files.first_mut() {
            file.bytes = best;
        }
        out.extend(files);
    }
    Ok(out)
}

/// The usual file of a place: its first kind, else pixels for screens and pages for paper.
#[must_use]
pub fn usual(entry: &PlaceEntry) -> HandOver {
    let screen = entry.format.unit == vatman_units::Unit::Px;
    let kind = entry.files.first().copied().unwrap_or(if screen { FileKind::Png } else { FileKind::Pdf });
    let bleed = kind == FileKind::Pdf && entry.format.bleed.is_positive();
    HandOver {
        kind,
        width: None,
        // Without loss where the kind can be.
        quality: if kind == FileKind::Webp { 100 } else { *QUALITIES.end() },
        clear: entry.clear && kind.may_be_clear(),
        bleed,
        ..HandOver::of(kind)
    }
}

/// Pictures inside the file, with nothing but what is seen of them.
struct Embedded<'a> {
    studio: &'a Studio,
    /// Pixels in a unit of what only pixels can show.
    scale: f64,
}

impl PictureLinks for Embedded<'_> {
    fn link(&self, source: &PictureSource, _: f64) -> String {
        match self.studio.pictures.leaving(source) {
            Ok(Some((bytes, media_type))) => format!("data:{media_type};base64,{}", BASE64.encode(bytes)),
            // A picture that is not there is found before anything leaves.
            Ok(None) | Err(_) => String::new(),
        }
    }

    fn part(&self, scene: &Scene, part: ScenePart<'_>, _: u64) -> Option<(String, kurbo::Rect)> {
        let library = self.studio.typesetter.library();
        let (pixels, area) = render_part(scene, part, self.scale, library.as_ref(), &self.studio.pictures).ok()??;
        let png = encode_png(&pixels.straight(), 96).ok()?;
        Some((format!("data:image/png;base64,{}", BASE64.encode(png)), area))
    }
}

/// The names of files given so far.
#[derive(Debug, Clone, Default)]
pub struct Names(BTreeMap<String, usize>);

impl Names {
    /// A name that no file has yet: of several equal ones, all but the first get a number before their ending.
    pub fn tell_apart(&mut self, name: &str) -> String {
        let count = self.0.entry(name.to_owned()).or_default();
        *count += 1;
        match (*count, name.rsplit_once('.')) {
            (1, _) => name.to_owned(),
            (n, Some((stem, end))) => format!("{stem}_{n}.{end}"),
            (n, None) => format!("{name}_{n}"),
        }
    }
}

/// Puts files into one ZIP; equal names are told apart by a number.
///
/// # Errors
/// [`HandOverError`] where the archive cannot be written.
pub fn zip_files(files: &[OutputFile]) -> Result<Vec<u8>, HandOverError> {
    let mut archive = zip::ZipWriter::new(Cursor::new(Vec::new()));
    // Pixels and PDF are compressed already.
    let options = zip::write::SimpleFileOptions::default()
        .compression_method(zip::CompressionMethod::Stored)
        .last_modified_time(zip::DateTime::default());
    let mut names = Names::default();
    for file in files {
        archive.start_file(names.tell_apart(&file.name), options)?;
        archive.write_all(&file.bytes)?;
    }
    Ok(archive.finish()?.into_inner())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn equal_names_are_told_apart_in_an_archive() {
        let file = |bytes: &[u8]| OutputFile::beside("card.png", "image/png", bytes.to_vec());
        let bytes = zip_files(&[file(b"one"), file(b"two")]).unwrap();
        let mut archive = zip::ZipArchive::new(Cursor::new(bytes)).unwrap();
        let names: Vec<_> = (0..archive.len()).map(|i| archive.by_index(i).unwrap().name().to_owned()).collect();
        assert_eq!(names, ["card.png", "card_2.png"]);
    }
}
