//! Composing designs: the places a message goes, the designs that say it, and fitting one to the other.
//!
//! A place (`place.rs`) is a format with the everyday words people call it by; a design (`design.rs`) is palette, type and a few
//! arrangements; `lay_out.rs` puts words and pictures into the nearest arrangement, with `block.rs` finding the largest common scale
//! at which the rows of words fit and `least_type.rs` the least size that is read; what is folded is composed panel by panel (`panels.rs`). `grid.rs` has the lines a blank sheet can begin with,
//! `ranking.rs` says which come first, `series.rs` what changes from one job to the next of its kind. `demo.rs` describes the jobs that
//! ship.

pub(crate) mod asking;
pub(crate) mod block;
pub(crate) mod demo;
pub(crate) mod design;
pub(crate) mod grid;
pub(crate) mod lay_out;
pub(crate) mod least_type;
pub(crate) mod panels;
pub(crate) mod place;
pub(crate) mod ranking;
pub(crate) mod series;
pub(crate) mod title;

pub use asking::Ask;
pub use demo::{DemoJob, DemoPiece};
pub use design::{Design, DesignError, Words};
pub use grid::Grid;
pub use lay_out::{Brief, Supplies, compose_job};
pub use panels::{sheet_at, sheets};
pub use place::{Cover, OwnFormat, OwnSize, PlaceCatalogue, PlaceEntry, PlaceFound};
pub use ranking::ranked;
pub use series::{Asked, Changing, NextOf, Pace, copy_title, next_job, next_of};
pub use title::{title_of, untitled};
