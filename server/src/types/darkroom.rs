//! What the darkroom asks and is told.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_craft::{KindCard, Tones};
use vatman_document::{Blend, Treatment};

/// Everything the darkroom offers.
#[derive(Debug, Clone, Serialize, TS)]
pub struct DarkroomCard {
    /// Kinds of steps, by wish.
    pub kinds: Vec<KindCard>,
    /// Most steps of a picture.
    pub most: usize,
    /// How colours can mix.
    pub blends: Vec<Blend>,
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
    /// Width of the original in pixels.
    pub width: u32,
    /// Height of the original in pixels.
    pub height: u32,
    /// How its tones lie.
    pub tones: Tones,
}

/// A recipe tried on a picture.
#[derive(Debug, Clone, Serialize, TS)]
pub struct RecipeCard {
    /// What it is called.
    pub name: String,
    /// Where it is seen.
    pub address: String,
}
