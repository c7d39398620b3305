//! From a scene to what leaves: SVG, pixels and PDF. One walk, one sink each.

mod blend;
mod cutting;
mod marks;
mod paths;
mod pdf;
mod pixels;
mod reading;
mod shade;
mod svg;
mod walk;

pub use paths::{ink_area, painted_box, svg_path_data};
pub use pdf::{PdfError, PdfOptions, PdfPage, write_pdf};
pub use pixels::{PixelError, PixelOptions, ScenePart, part_area, render_part, render_pixels};
pub use svg::{
    BunchFragments, CUTTING_LINE_ID, GROUND_ID, PictureLinks, SvgOptions, bunch_element, bunch_fragments,
    ground_fragment, item_element, item_fragment, write_svg,
};
pub use walk::{Sink, walk};
