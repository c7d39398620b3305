//! Where pieces lie on paper: how many fit, over how few sheets, where their backs go, and how the sheets are cut.
//!
//! Nothing here knows what is on a piece. All is exact: lengths are whole numbers of a fine unit, turns are quarters.

mod booklet;
mod cutting;
mod fill;
mod labels;
mod marks;
mod mixed;
mod paper;
mod poster;
mod spot;

pub use booklet::{Leaf, booklet};
pub use cutting::{Cuts, cutting_steps};
pub use fill::{Room, Turning, fill, one_more, size_for};
pub use labels::LabelStock;
pub use marks::{Across, Marks, Stroke, crop_marks, cut_lines, marked_area, marks_at, registration};
pub use mixed::{Wanted, fill_mixed};
pub use paper::{Margins, PAPERS, Paper, PaperKind, SheetError, paper_named};
pub use poster::{Tile, poster};
pub use spot::{BackStands, PaperTurn, Spot};
