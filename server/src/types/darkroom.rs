//! What the darkroom asks and is told.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_craft::{BrushSetting, KindCard, Tones, TraceWish};
use vatman_document::{Blend, Texture, Treatment};

/// Everything the darkroom offers.
#[derive(Debug, Clone, Serialize, TS)]
pub struct DarkroomCard {
    /// Kinds of steps, by wish.
    pub kinds: Vec<KindCard>,
    /// Most steps of a picture.
    pub most: usize,
    /// How colours can mix.
    pub blends: Vec<Blend>,
    /// Surfaces, and what they are called.
    pub textures: Vec<TextureName>,
    /// How the brush that paints masks starts.
    pub brush: BrushSetting,
    /// How the brush that patches spots starts.
    pub spot: BrushSetting,
    /// How tracing starts.
    pub trace: TraceWish,
    /// Most colours in which a picture is traced.
    pub most_colours: u8,
}

/// A surface and what it is called.
#[derive(Debug, Clone, Copy, Serialize, TS)]
pub struct TextureName {
    /// Which.
    pub value: Texture,
    /// What it is called.
    pub name: &'static str,
}

/// A wish to see a picture after some steps.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct PrintRequest {
    /// In order.
    pub steps: Vec<Treatment>,
    /// How wide it is shown, in pixels.
    pub width: u32,
}

/// A picture after some steps.
#[derive(Debug, Clone, Serialize, TS)]
pub struct PrintCard {
    /// Where it is found.
    pub address: String,
    /// Width of what places in the steps are fractions of.
    pub width: f64,
    /// Its height.
    pub height: f64,
    /// What lengths in the steps are fractions of, in the same units.
    pub longer: f64,
    /// Where it lies on the sheet, where it is no picture of an item.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub on_sheet: Option<PrintPlace>,
    /// How its tones lie.
    pub tones: Tones,
}

/// Where a print of a part of a sheet lies, in CSS pixels of the sheet.
#[derive(Debug, Clone, Serialize, TS)]
pub struct PrintPlace {
    /// Left, top, width and height of what the print covers.
    pub area: [f64; 4],
    /// The same of what places in the steps are fractions of.
    pub field: [f64; 4],
    /// The outline it is seen through, as SVG path data; empty where it is seen whole.
    pub outline: String,
}

/// A recipe tried on a picture.
#[derive(Debug, Clone, Serialize, TS)]
pub struct RecipeCard {
    /// What it is called.
    pub name: String,
    /// Where it is seen.
    pub address: String,
    /// Whether it was kept by hand, and can be let go.
    pub kept: bool,
}

/// A recipe as a code that can be scanned.
#[derive(Debug, Clone, Serialize, TS)]
pub struct RecipeCodeCard {
    /// Where it is seen.
    pub address: String,
    /// What of the recipe is in it.
    pub says: String,
    /// Name for a file, without its ending.
    pub file: String,
}

/// A picture as outlines, as it would be.
#[derive(Debug, Clone, Serialize, TS)]
pub struct TraceCard {
    /// Where it is seen.
    pub address: String,
    /// Its colours.
    pub colours: usize,
    /// Points of all its outlines.
    pub points: usize,
}
