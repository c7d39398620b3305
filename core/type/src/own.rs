//! Font files somebody brings: checked, unpacked, and read for what they are.

use serde::{Deserialize, Serialize};
use skrifa::instance::{LocationRef, Size};
use skrifa::outline::{DrawSettings, OutlinePen};
use skrifa::raw::TableProvider as _;
use skrifa::string::StringId;
use skrifa::{FontRef, MetadataProvider as _, Tag};
use thiserror::Error;
use ts_rs::TS;

/// What the maker of a font allows to be done with it in documents (`fsType` of the OpenType table OS/2), from the least strict to the strictest.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Embedding {
    /// No limits.
    Free,
    /// In documents that can be viewed and printed, and edited.
    Editable,
    /// In documents that are only viewed and printed.
    PrintOnly,
    /// Not without the maker's permission.
    Restricted,
}

/// A font file as it was read.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct OwnFace {
    /// Its family.
    pub family: String,
    /// Weight, 1 to 1,000.
    pub weight: u16,
    /// Italic or slanted.
    pub italic: bool,
    /// What its maker allows.
    pub embedding: Embedding,
    /// How many letters it has forms for.
    pub letters: usize,
    /// The font, unpacked (TrueType or OpenType).
    pub bytes: Vec<u8>,
}

/// Why a font file cannot be used.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[non_exhaustive]
pub enum OwnFontError {
    /// Some other kind of file.
    #[error("This is not a font file. TTF, OTF, WOFF and WOFF2 can be read. Nothing was added.")]
    NotAFont,
    /// Several fonts in one file.
    #[error("This file is a collection of fonts. Bring its fonts one by one. Nothing was added.")]
    Collection,
    /// A font that cannot be read to its end.
    #[error("This font file is damaged: {0}. Nothing was added; try to get the file again.")]
    Damaged(&'static str),
    /// Larger than what is taken.
    #[error("This font is larger than 30 MB. Nothing was added.")]
    TooLarge,
}

/// Most bytes of a font, packed or unpacked.
const MOST_BYTES: usize = 30 << 20;

impl OwnFace {
    /// Reads a TTF, OTF, WOFF or WOFF2 file and checks that letters can be drawn with it.
    ///
    /// # Errors
    /// [`OwnFontError`] saying what is wrong with the file.
    pub fn read(file: &[u8]) -> Result<Self, OwnFontError> {
        if file.len() > MOST_BYTES {
            return Err(OwnFontError::TooLarge);
        }
        let bytes = unpacked(file)?;
        let font = FontRef::new(&bytes).map_err(|_| OwnFontError::Damaged("its tables cannot be read"))?;
        check(&font)?;
        let name = |id| font.localized_strings(id).english_or_first().map(|name| name.to_string());
        let family =
            name(StringId::TYPOGRAPHIC_FAMILY_NAME).or_else(|| name(StringId::FAMILY_NAME)).unwrap_or_default();
        let family: String = family.chars().filter(|c| !c.is_control()).take(80).collect::<String>().trim().to_owned();
        if family.is_empty() {
            return Err(OwnFontError::Damaged("it has no family name"));
        }
        let attributes = font.attributes();
        let letters = font.charmap().mappings().count();
        let weight = (attributes.weight.value().round() as u16).clamp(1, 1_000);
        let italic = attributes.style != skrifa::attribute::Style::Normal;
        let embedding = font.os2().map_or(Embedding::Free, |os2| embedding(os2.fs_type()));
        Ok(Self { family, weight, italic, embedding, letters, bytes })
    }
}

/// Of several permissions the least strict holds, as the specification of OS/2 has it.
fn embedding(fs_type: u16) -> Embedding {
    match fs_type & 0x000f {
        0 => Embedding::Free,
        kind if kind & 0x8 != 0 => Embedding::Editable,
        kind if kind & 0x4 != 0 => Embedding::PrintOnly,
        _ => Embedding::Restricted,
    }
}

fn unpacked(file: &[u8]) -> Result<Vec<u8>, OwnFontError> {
    // The size a packed font says it will have is checked before it is unpacked.
    let announced =
        |at: usize| file.get(at..at + 4).map_or(0, |b| u32::from_be_bytes([b[0], b[1], b[2], b[3]]) as usize);
    let guarded = |unpack: fn(&[u8]) -> Result<Vec<u8>, ()>| {
        if announced(16) > MOST_BYTES {
            return Err(OwnFontError::TooLarge);
        }
        // The reader is not ours, and no file may bring the server down.
        let unpacked = std::panic::catch_unwind(|| unpack(file)).ok().and_then(Result::ok);
        unpacked.filter(|bytes| bytes.len() <= MOST_BYTES).ok_or(OwnFontError::Damaged("it cannot be unpacked"))
    };
    match file.get(..4) {
        Some(b"wOF2") => guarded(|file| wuff::decompress_woff2(file).map_err(|_| ())),
        Some(b"wOFF") => guarded(|file| wuff::decompress_woff1(file).map_err(|_| ())),
        Some(b"ttcf") => Err(OwnFontError::Collection),
        Some([0, 1, 0, 0] | b"OTTO" | b"true") => Ok(file.to_vec()),
        _ => Err(OwnFontError::NotAFont),
    }
}

/// Draws every letter once, so that damage is found now and not in somebody's design.
fn check(font: &FontRef<'_>) -> Result<(), OwnFontError> {
    if font.table_data(Tag::new(b"glyf")).is_none()
        && font.table_data(Tag::new(b"CFF ")).is_none()
        && font.table_data(Tag::new(b"CFF2")).is_none()
    {
        return Err(OwnFontError::Damaged("it has no outlines"));
    }
    let units = font.metrics(Size::unscaled(), LocationRef::default()).units_per_em;
    if !(16..=16_384).contains(&units) {
        return Err(OwnFontError::Damaged("its measures make no sense"));
    }
    let outlines = font.outline_glyphs();
    let mut drawn = 0;
    for (_, glyph) in font.charmap().mappings().take(70_000) {
        let mut pen = Seen(false);
        let outline = outlines.get(glyph).ok_or(OwnFontError::Damaged("a letter is missing"))?;
        outline
            .draw(DrawSettings::unhinted(Size::unscaled(), LocationRef::default()), &mut pen)
            .map_err(|_| OwnFontError::Damaged("a letter cannot be drawn"))?;
        drawn += usize::from(pen.0);
    }
    if drawn == 0 { Err(OwnFontError::Damaged("it has no letters")) } else { Ok(()) }
}

/// Whether anything is drawn.
struct Seen(bool);

impl OutlinePen for Seen {
    fn move_to(&mut self, _: f32, _: f32) {}
    fn line_to(&mut self, _: f32, _: f32) {
        self.0 = true;
    }
    fn quad_to(&mut self, _: f32, _: f32, _: f32, _: f32) {
        self.0 = true;
    }
    fn curve_to(&mut self, _: f32, _: f32, _: f32, _: f32, _: f32, _: f32) {
        self.0 = true;
    }
    fn close(&mut self) {}
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_least_strict_permission_holds() {
        assert_eq!(embedding(0), Embedding::Free);
        assert_eq!(embedding(0x0002), Embedding::Restricted);
        assert_eq!(embedding(0x0004), Embedding::PrintOnly);
        assert_eq!(embedding(0x0008 | 0x0004), Embedding::Editable);
        // Subsetting and bitmap flags do not change who may embed.
        assert_eq!(embedding(0x0100), Embedding::Free);
    }

    #[test]
    fn what_is_no_font_is_refused_with_the_reason() {
        assert_eq!(OwnFace::read(b"GIF89a"), Err(OwnFontError::NotAFont));
        assert_eq!(OwnFace::read(b""), Err(OwnFontError::NotAFont));
        assert_eq!(OwnFace::read(b"ttcf\0\0\0\0"), Err(OwnFontError::Collection));
        assert!(matches!(
            OwnFace::read(b"wOF2 and then nothing of sense"),
            Err(OwnFontError::Damaged(_) | OwnFontError::TooLarge)
        ));
        assert!(matches!(OwnFace::read(&[0, 1, 0, 0, 0, 0]), Err(OwnFontError::Damaged(_))));
        let mut bomb = b"wOF2".to_vec();
        bomb.extend([0; 12]);
        bomb.extend(u32::MAX.to_be_bytes());
        assert_eq!(OwnFace::read(&bomb), Err(OwnFontError::TooLarge));
    }
}
