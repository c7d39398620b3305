//! Type: the families at hand, and text laid out in them once for every output.
//!
//! Everything here is in CSS pixels, from the top left of the text's own box, y downward.

mod blocks;
mod curve;
mod fit;
mod glyphs;
mod hyphens;
mod library;
mod lockup;
mod measure;
mod own;
mod setting;
mod shown;

pub use glyphs::{Caret, Glyph, GlyphRun, Line};
pub use library::{FaceId, Family, FontError, FontLibrary, FontSource, GlyphOutlines};
pub use lockup::{ARRANGEMENTS, Arrangement};
pub use measure::LinesTaken;
pub use own::{Embedding, OwnFace, OwnFontError};
pub use setting::{Setting, TextBox, Typesetter};

/// Every type the front end sees.
#[must_use]
pub fn type_declarations() -> Vec<(String, String)> {
    use ts_rs::TS;
    vec![(Embedding::name(), Embedding::decl()), (Family::name(), Family::decl()), (Caret::name(), Caret::decl())]
}
