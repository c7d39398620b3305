//! From a scene to what leaves: SVG, pixels and PDF. One walk, one sink each.

mod blend;
mod cutting;
mod gradients;
mod marks;
mod page;
mod paths;
mod pdf;
mod pdf_inks;
mod pixels;
mod reading;
mod shade;
mod sheet_pixels;
mod svg;
mod walk;

pub use page::{Lettering, PlacedScene, PrintPage};
pub use paths::{ink_area, painted_box, svg_path_data};
pub use pdf::{PdfColours, PdfError, PdfOptions, write_pdf};
pub use pixels::{PixelError, PixelOptions, ScenePart, part_area, render_part, render_pixels};
pub use sheet_pixels::render_page;
pub use svg::{
    BunchFragments, CUTTING_LINE_ID, GROUND_ID, PictureLinks, SvgOptions, bunch_element, bunch_fragments,
    ground_fragment, item_element, item_fragment, write_svg,
};
pub use walk::{Sink, walk};
