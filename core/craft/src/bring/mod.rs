//! Bringing things in: the shelf of graphics, SVG files, and the words in them.

pub(crate) mod graphics;
pub(crate) mod svg_import;
pub(crate) mod svg_limits;
pub(crate) mod svg_shadows;
pub(crate) mod svg_words;

pub use graphics::{GraphicCard, GraphicSet, GraphicShelf, Opening, ShelfError};
pub use svg_import::{Imported, SVG_BYTES, SvgError, import_svg};
pub use svg_limits::SvgLimit;
pub use svg_words::{FileWords, Layer, add_layers};
