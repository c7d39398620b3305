//! What the trade knows: places and their formats, designs and how they are composed for any shape and
//! any words, reading order, names of files, and handing over.

mod add;
mod align;
mod arrange;
mod block;
mod clip;
mod colours;
mod combining;
mod contrast;
mod demo;
mod design;
mod draw;
mod graphics;
mod group;
mod handover;
mod lay_out;
mod mosaic;
mod naming;
mod place;
mod reading;
mod snap;
mod svg_import;
#[cfg(test)]
mod testing;
mod together;
mod tray;

pub use add::{Addition, add, add_side, duplicate};
pub use align::{AlignEdge, AlignError, AlignTo, Alike, Axis, Boxes, align, around, distribute, match_size, tidy};
pub use arrange::{crop_by, set_type_size, show_picture};
pub use clip::{Clipped, Clipping, clip, paste, paste_look};
pub use colours::{SideColours, UsedColour, dominant, replace_colour, side_colours, steps};
pub use combining::{combine, take_apart};
pub use contrast::{ContrastError, Ground, Reading, Repair, Verdict};
pub use demo::{DemoJob, DemoPiece};
pub use design::{Design, DesignError, Words};
pub use draw::{inked, map_to_palette, repaint, swap_drawing};
pub use graphics::{GraphicCard, GraphicSet, GraphicShelf, ShelfError};
pub use group::{group, ungroup};
pub use handover::{FileKind, HandOver, HandOverError, OutputFile, Studio, write_file, zip_files};
pub use lay_out::{Composed, compose_job, compose_side};
pub use mosaic::{Mosaic, MosaicRoom, arrange_pictures, mosaics, swap_pictures};
pub use naming::{file_name, slug};
pub use place::{OwnSize, PlaceCatalogue, PlaceEntry, PlaceFound};
pub use reading::{CopyLine, copy_in_order};
pub use svg_import::{Imported, SVG_BYTES, SvgError, import_svg};
pub use together::{scale_together, turn_together};
pub use tray::{put_back, remove};
pub use snap::{GuideMark, SnapRange, SnapReason, SnapStop, SnapStops, SnapStretch, guide_marks, stops};

/// Every type the front end sees.
#[must_use]
pub fn type_declarations() -> Vec<(String, String)> {
    use ts_rs::TS;
    macro_rules! declare { ($($t:ty),* $(,)?) => { vec![$((<$t as TS>::name(), <$t as TS>::decl())),*] } }
    declare![Mosaic, MosaicRoom, Clipped, Clipping, GraphicCard, GraphicSet, PlaceEntry, PlaceFound, CopyLine, FileKind, AlignEdge, AlignTo, Axis, Alike, SnapReason, GuideMark, SnapStretch, SnapRange, SnapStop, SnapStops, Verdict, Repair, Reading, UsedColour, SideColours]
}
