//! Lengths, ratios, angles and the plane figures made of them.
//!
//! Everything stored is a whole number of a fine unit, so that adding, undoing and saving never
//! drift. Floating point appears only when a value leaves for layout or drawing.

mod angle;
mod expression;
mod length;
mod plane;
mod ratio;

pub use angle::Angle;
pub use expression::{Measure, MeasureError, parse_length, parse_size};
pub use length::{Length, Ppi, Unit};
pub use plane::{Placement, Point, Rect, Size};
pub use ratio::Ratio;
