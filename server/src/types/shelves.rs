//! What stands on the shelves: designs, pictures, graphics, drawings brought, and what people keep for all their jobs.

use serde::Serialize;
use ts_rs::TS;
use vatman_craft::{GraphicCard, GraphicSet, Layer, NamePattern, PlaceEntry};
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

/// Places that are chosen together.
#[derive(Debug, Clone, Serialize, TS)]
pub struct PlaceSet {
    /// Its name.
    pub name: String,
    /// Those of them there still are.
    pub places: Vec<PlaceEntry>,
}

/// What is kept for all jobs.
#[derive(Debug, Clone, Serialize, TS)]
pub struct Kept {
    /// Sets of places.
    pub sets: Vec<PlaceSet>,
    /// Formats of one's own.
    pub formats: Vec<PlaceEntry>,
    /// Words that are right.
    pub words: Vec<String>,
    /// How files are named.
    pub names: NamePattern,
    /// How many places are added in one act at most.
    pub at_once: usize,
}
