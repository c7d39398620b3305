//! What the trade knows: places and their formats, designs and how they are composed for any shape and
//! any words, reading order, names of files, and handing over.

mod add;
mod align;
mod alike;
mod arrange;
mod block;
mod clip;
mod colours;
mod combining;
mod connect;
mod contrast;
mod copied;
mod demo;
mod design;
mod findings;
mod draw;
mod graphics;
mod group;
mod handover;
mod lay_out;
mod mosaic;
mod naming;
mod palettes;
mod place;
mod reading;
mod settle;
mod snap;
mod order;
mod stacks;
mod studio;
mod svg_import;
mod svg_words;
#[cfg(test)]
mod testing;
mod together;
mod tray;

pub use add::{Addition, Inks, Step, add, add_side, duplicate, free_place, replace_removed};
pub use align::{AlignEdge, AlignError, AlignTo, Alike, Axis, Boxes, align, around, distribute, match_size, tidy};
pub use alike::{Likeness, alike, link_colour, swap_colours};
pub use arrange::{crop_by, set_type_size, show_picture};
pub use clip::{Clipped, Clipping, clip, paste, paste_look};
pub use colours::{SideColours, UsedColour, dominant, replace_colour, side_colours, steps};
pub use combining::{combine, frame_from, take_apart};
pub use connect::{call_out, connect, opposite};
pub use contrast::{ContrastError, Ground, Reading, Repair, Verdict};
pub use demo::{DemoJob, DemoPiece};
pub use design::{Design, DesignError, Words};
pub use findings::{Finding, FindingKind, findings};
pub use draw::{inked, map_to_palette, repaint, swap_drawing};
pub use graphics::{GraphicCard, GraphicSet, GraphicShelf, ShelfError};
pub use group::{group, ungroup};
pub use handover::{FileKind, HandOver, HandOverError, OutputFile, write_file, zip_files};
pub use lay_out::{Composed, compose_job, compose_side};
pub use mosaic::{Mosaic, MosaicRoom, arrange_pictures, mosaics, move_edge, swap_pictures};
pub use naming::{file_name, slug};
pub use order::{Order, reorder};
pub use palettes::{Palette, apply_palette, palettes};
pub use place::{OwnSize, PlaceCatalogue, PlaceEntry, PlaceFound};
pub use reading::{CopyLine, copy_in_order};
pub use settle::{settle, tie};
pub use stacks::{ContactKind, ContactLine, add_contacts, stack};
pub use studio::Studio;
pub use svg_import::{Imported, SVG_BYTES, SvgError, import_svg};
pub use svg_words::{FileWords, Layer, add_layers};
pub use together::{scale_together, turn_together};
pub use tray::{put_back, remove};
pub use snap::{Baselines, GuideMark, SnapRange, SnapReason, SnapStop, SnapStops, SnapStretch, guide_marks, stops};

/// Every type the front end sees.
#[must_use]
pub fn type_declarations() -> Vec<(String, String)> {
    use ts_rs::TS;
    macro_rules! declare { ($($t:ty),* $(,)?) => { vec![$((<$t as TS>::name(), <$t as TS>::decl())),*] } }
    declare![Order, Finding, FindingKind, Likeness, Palette, FileWords, Layer, Mosaic, MosaicRoom, Clipped, Clipping, GraphicCard, GraphicSet, PlaceEntry, PlaceFound, CopyLine, FileKind, AlignEdge, AlignTo, Axis, Alike, SnapReason, GuideMark, SnapStretch, SnapRange, SnapStop, SnapStops, Verdict, Repair, Reading, UsedColour, SideColours]
}
