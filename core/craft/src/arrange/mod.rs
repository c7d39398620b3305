//! Arranging items on a side: what is added, moved, ordered, grouped and tied.
//!
//! Each file is a function from the job to one command. `add.rs` and `clip.rs` bring items, `framing.rs` graphics with words in them, `tray.rs` takes them away for a while;
//! `align.rs`, `snap.rs` and `together.rs` move them by rule; `order.rs` and `group.rs` say what lies over what and goes with what;
//! `stacks.rs` and `connect.rs` make what keeps holding, and `settle.rs` keeps it; `combining.rs` makes one outline of several.

pub(crate) mod add;
pub(crate) mod align;
pub(crate) mod clip;
pub(crate) mod combining;
pub(crate) mod connect;
pub(crate) mod copied;
pub(crate) mod framing;
pub(crate) mod group;
pub(crate) mod order;
pub(crate) mod settle;
pub(crate) mod snap;
pub(crate) mod stacks;
pub(crate) mod together;
pub(crate) mod tray;

pub use add::{
    Addition, Inks, Step, add, add_back, add_side, duplicate, free_place, pen_thickness, put_at, replace_removed,
};
pub use align::{AlignEdge, AlignError, AlignTo, Alike, Axis, Boxes, align, around, distribute, match_size, tidy};
pub use clip::{Clipped, Clipping, clip, paste, paste_look};
pub use combining::{combine, combine_otherwise, frame_from, take_apart};
pub use connect::{call_out, connect, opposite};
pub use framing::{frame_around, frame_with_words};
pub use group::{GroupChange, GroupLight, change_group_look, group, light_group, ungroup};
pub use order::{Order, put_below, reorder};
pub use settle::{settle, tie};
pub use snap::{Baselines, GuideMark, SnapRange, SnapReason, SnapStop, SnapStops, SnapStretch, guide_marks, stops};
pub use stacks::{ContactKind, ContactLine, NewLines, StackChange, add_contacts, change_stack, stack};
pub use together::{scale_together, turn_together};
pub use tray::{put_back, remove};
