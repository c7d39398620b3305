//! The scene: a closed, resolved list of what is drawn on one side.
//!
//! Coordinates are CSS pixels (1/96 in) from the top left of the finished sheet, y downward. Nothing
//! relative is left: colours are resolved, text is positioned glyphs, pictures have a box.

mod code;
mod compose;
mod draw;
mod filter;
mod frame;
mod measure;
mod node;
mod paint;
mod rim;
mod standing;

pub use code::{CodeGrid, Correction, code_grid};
pub use compose::{Audience, Before, Contours, Means, compose, recompose};
pub use filter::{Behind, Bunch, Filter, bunch_of};
pub use frame::{PicturePlace, Shown, picture_box, picture_place};
pub use measure::{baselines, item_frame, letter_box, spot_at, spot_on_sheet};
pub use node::{
    Brush, Frame, GlyphNode, GradientStop, Group, ImageNode, Line, MaskNodes, Node, PathNode, Reading, Rgba, Scene,
    SceneItem, Shadow, Tile,
};
pub use rim::whole_pictures;

/// Every type the front end sees.
#[must_use]
pub fn type_declarations() -> Vec<(String, String)> {
    use ts_rs::TS;
    vec![(Frame::name(), Frame::decl())]
}
