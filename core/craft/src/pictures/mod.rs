//! Pictures and drawings where they stand: in a frame, in an arrangement of several, recoloured part by part.

pub(crate) mod arranged;
pub(crate) mod draw;
pub(crate) mod frame;
pub(crate) mod mosaic;
pub(crate) mod traced;

pub use arranged::{Arranged, Arrangements, arranged, arrangements, room_to_begin};
pub use draw::{inked, map_to_palette, repaint, swap_drawing};
pub use frame::{crop_by, cut_to, focused, refit, set_fit, set_focus, show_picture, turn_picture};
pub use mosaic::{Mosaic, MosaicRoom, arrange_pictures, mosaics, move_edge, swap_pictures};
pub use traced::{TraceWish, trace_picture, traced};
