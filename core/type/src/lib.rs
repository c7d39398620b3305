//! Type: the families at hand, and text laid out in them once for every output.
//!
//! Everything here is in CSS pixels, from the top left of the text's own box, y downward.

mod curve;
mod fit;
mod library;
mod lockup;
mod setting;
mod shown;

pub use library::{FaceId, Family, FontError, FontLibrary, FontSource, GlyphOutlines};
pub use lockup::{ARRANGEMENTS, Arrangement};
pub use setting::{Caret, Glyph, GlyphRun, Line, Setting, TextBox, Typesetter};

/// Every type the front end sees.
#[must_use]
pub fn type_declarations() -> Vec<(String, String)> {
    use ts_rs::TS;
    vec![(Family::name(), Family::decl()), (Caret::name(), Caret::decl())]
}
