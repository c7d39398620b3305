//! What stands on the shelves: designs, pictures, graphics, drawings brought.

use serde::Serialize;
use ts_rs::TS;
use vatman_craft::{GraphicCard, GraphicSet, Layer};
use vatman_document::Drawing;

/// A design in lists.
#[derive(Debug, Clone, Serialize, TS)]
pub struct DesignCard {
    /// Identity.
    pub id: String,
    /// Name.
    pub name: String,
    /// What it is good for.
    pub about: String,
    /// Words it is found by.
    pub keywords: String,
}

/// A picture on the shelf.
#[derive(Debug, Clone, Serialize, TS)]
pub struct PictureCard {
    /// Identity.
    pub id: String,
    /// Name.
    pub name: String,
    /// Width in pixels.
    pub width: i32,
    /// Height in pixels.
    pub height: i32,
    /// Whether it shipped with the program.
    pub sample: bool,
}

/// An SVG file as read.
#[derive(Debug, Clone, Serialize, TS)]
pub struct DrawingCard {
    /// The drawing.
    pub drawing: Drawing,
    /// The same in layers, where it has words that stay words; else empty.
    pub layers: Vec<Layer>,
    /// What was left out or changed, in plain sentences.
    pub notes: Vec<String>,
}

/// Graphics found on the shelf.
#[derive(Debug, Clone, Serialize, TS)]
pub struct GraphicsFound {
    /// The sets there are.
    pub sets: Vec<GraphicSet>,
    /// What was found, best first.
    pub graphics: Vec<GraphicCard>,
}
