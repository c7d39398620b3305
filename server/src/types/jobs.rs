//! Jobs in lists and how they start.

use serde::{Deserialize, Serialize};
use ts_rs::TS;

use crate::store::SheetCard;

/// An earlier moment a job can be put back to.
#[derive(Debug, Clone, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct StateCard {
    /// The revision it had.
    #[ts(type = "number")]
    pub revision: i64,
    /// When it was kept, in milliseconds since 1970 UTC.
    #[ts(type = "number")]
    pub kept_at: i64,
}

/// A job on the board.
#[derive(Debug, Clone, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct JobCard {
    /// Identity.
    pub id: String,
    /// Title.
    pub title: String,
    /// Revision, which changes with every picture of it.
    #[ts(type = "number")]
    pub revision: i64,
    /// When it last changed.
    #[ts(type = "number")]
    pub changed_at: i64,
    /// Why it cannot be read, where it was found that it cannot.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub damaged: Option<String>,
    /// Its sides in order.
    pub sheets: Vec<SheetCard>,
}

/// A wish for a new job.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct StartRequest {
    /// With a back, where a place is on paper and has one side.
    #[serde(default)]
    #[ts(as = "Option<bool>", optional)]
    pub backs: bool,
    /// The design; nothing means a blank sheet.
    pub design: Option<String>,
    /// Catalogue entries or sizes as typed.
    pub places: Vec<String>,
    /// The lines a blank sheet begins with.
    #[serde(default)]
    #[ts(optional)]
    pub grid: Option<vatman_craft::Grid>,
    /// Words by part.
    #[ts(type = "Partial<Record<Part, string>>")]
    pub words: vatman_craft::Words,
}

/// A wish for a copy of a job, or the next of its series.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct NextRequest {
    /// Its title; without one it is a copy, and is called so.
    #[serde(default)]
    #[ts(optional)]
    pub title: Option<String>,
    /// What is said anew, by what shares it.
    #[serde(default)]
    #[ts(type = "Record<string, string>")]
    pub words: std::collections::BTreeMap<vatman_document::KinId, String>,
}

/// A step from one of a series to the next.
#[derive(Debug, Clone, Serialize, TS)]
pub struct StepCard {
    /// Which.
    pub step: vatman_craft::Pace,
    /// What it is called.
    pub name: &'static str,
}

/// What the next of a series is made from, and how far the next can be.
#[derive(Debug, Clone, Serialize, TS)]
pub struct NextCard {
    /// The steps there are.
    pub steps: Vec<StepCard>,
    /// Title and words.
    pub next: vatman_craft::NextOf,
}

/// A grid a blank sheet can begin with.
#[derive(Debug, Clone, Serialize, TS)]
pub struct GridCard {
    /// Which.
    pub grid: vatman_craft::Grid,
    /// What it is called.
    pub name: &'static str,
    /// The size of the sheet that was asked for.
    pub size: vatman_units::Size,
    /// Its lines on that sheet.
    pub marks: Vec<vatman_craft::GuideMark>,
}
