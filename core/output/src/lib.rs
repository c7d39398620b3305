//! From a scene to what leaves: SVG, pixels and PDF. One walk, one sink each.

mod paths;
mod pdf;
mod pixels;
mod svg;
mod walk;

pub use paths::rect_path;
pub use pdf::{PdfError, PdfOptions, PdfPage, write_pdf};
pub use pixels::{PixelError, PixelOptions, render_pixels};
pub use svg::{PictureLinks, SvgOptions, item_fragment, write_svg};
pub use walk::{Sink, walk};
