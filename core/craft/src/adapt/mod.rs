//! Adapting: the same message arranged for another shape.
//!
//! `leaves` says what of a piece is arranged by itself, for what side or panel; `matter` reads a side into a tree of what stands on, beside and below what; `flow` lays the tree out in another shape in one of many
//! ways, `rows` the words in it, `riders` what stands on others or is held to an edge, `pointing` call-outs and lines that lead to something; `ways` says which are tried and what makes one better than another; `designed` lays it out as the design it came from would;
//! `focus` keeps what matters in a picture in its frame; `offers` puts the ways in order, `plan` makes pieces and moves of the best; `repeat` carries a move made by hand over to the other sizes.

mod designed;
mod flow;
mod focus;
mod leaves;
mod legible;
mod matter;
mod offers;
mod pieces;
mod plan;
mod pointing;
mod redesign;
mod repeat;
mod riders;
mod rows;
mod shades;
mod ways;

pub use legible::made_legible;
pub use offers::DESIGNED;
pub use pieces::{add_elsewhere, duplicate_piece, everywhere};
pub use plan::{Movable, Plan, adapt_piece, by_hand, change_format, model_for, plans, rearrange};
pub use redesign::redesign;
pub use repeat::{Repeat, repeats};
