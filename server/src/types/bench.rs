//! What the bench is shown: the open job, its stage, and what an act changed about them.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_craft::{Gift, GuideMark, Handles, ItemFinding, MosaicRoom, Sight};
use vatman_document::{AssetId, Color, GroupId, ItemId, Job, JobDelta, PieceId, Property, SideId, Tint};
use vatman_scene::Frame;
use vatman_type::Caret;
use vatman_units::{Length, Ppi, Unit};

/// An arrangement of a phrase, as it would look.
#[derive(Debug, Clone, Serialize, TS)]
pub struct LockUpCard {
    /// Its number.
    pub number: u8,
    /// Whether there is nothing in it but letters.
    pub plain: bool,
    /// What is drawn, as an SVG fragment with identities of its own.
    pub svg: String,
    /// Its box.
    pub frame: Frame,
    /// The colour it stands on.
    pub ground: Color,
}

/// How wide a piece appears where it is met.
#[derive(Debug, Clone, Serialize, TS)]
pub struct SeenCard {
    /// Which.
    pub piece: PieceId,
    /// Its width there.
    pub width: Length,
}

/// One way a piece can be arranged for a place.
#[derive(Debug, Clone, Serialize, TS)]
pub struct WayCard {
    /// Its number, for asking for it.
    pub number: usize,
    /// What it is like, in a few words.
    pub name: String,
    /// Every word can be read and stands in its field.
    pub fits: bool,
    /// What there is no room for.
    pub left: Vec<String>,
}

/// A piece in which the last move means the same.
#[derive(Debug, Clone, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct RepeatCard {
    /// Which.
    pub piece: PieceId,
    /// Whether something of it was placed by hand there.
    pub by_hand: bool,
}

/// Which arrangements are asked for.
#[derive(Debug, Clone, Deserialize)]
pub struct WaysQuery {
    /// An entry of the catalogue, or a size as typed.
    pub place: String,
    /// The piece they are made from.
    pub from: Option<PieceId>,
    /// The number of the one to be shown.
    pub way: Option<usize>,
    /// How wide it is to be shown, in pixels.
    pub w: Option<u32>,
}

/// What changed since a revision somebody has.
#[derive(Debug, Clone, Deserialize)]
pub struct SinceQuery {
    /// The side on the stage.
    pub watch: Option<SideId>,
    /// The item being typed in.
    pub carets: Option<ItemId>,
}

/// A job as opened.
#[derive(Debug, Clone, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct OpenJob {
    /// The job.
    pub job: Job,
    /// Its revision.
    #[ts(type = "number")]
    pub revision: i64,
    /// When it was last kept.
    #[ts(type = "number")]
    pub kept_at: i64,
    /// Whether something can be undone.
    pub can_undo: bool,
    /// Whether something can be redone.
    pub can_redo: bool,
}

/// An item on the stage.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct StageItem {
    /// Which.
    pub id: ItemId,
    /// What of its look is its own here.
    pub own: Vec<Property>,
    /// What is drawn, as an SVG fragment.
    pub svg: String,
    /// Where the pictures are found that have to be there before it is shown.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<String>>", optional)]
    pub parts: Vec<String>,
    /// Its box.
    pub frame: Frame,
    /// The box around its very letters: left, top, width and height; nothing for what has none.
    pub ink: Option<[f64; 4]>,
    /// What should be looked at, shown on the sheet at once.
    pub findings: Vec<ItemFinding>,
    /// Where it is nearly clear, so that a press means what lies below.
    pub sight: Option<Sight>,
    /// Size of its type as set, in CSS pixels; 0 without words.
    pub type_size: f64,
    /// The handles it has.
    pub handles: Handles,
    /// Whether it looks wrong when only its width or its height changes.
    pub bound: bool,
    /// What it may still be given.
    pub gifts: Vec<Gift>,
    /// Of a drawing: its colours in the order they are first drawn, each of which can become another.
    pub colours: Vec<Tint>,
    /// Places of the caret, where asked for.
    pub carets: Vec<Caret>,
}

/// What changed on the stage.
#[derive(Debug, Clone, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct StageDelta {
    /// The side.
    pub side: SideId,
    /// The revision of the job it is of.
    #[ts(type = "number")]
    pub revision: i64,
    /// Finished width in CSS pixels.
    pub width: f64,
    /// Finished height in CSS pixels.
    pub height: f64,
    /// Bleed in CSS pixels.
    pub bleed: f64,
    /// How thick a line drawn by hand begins.
    pub pen: Length,
    /// The ground as an SVG fragment, where it changed; empty for a clear sheet.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub ground: Option<String>,
    /// New and changed items.
    pub items: Vec<StageItem>,
    /// All items shown, back to front, where that changed.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub order: Option<Vec<ItemId>>,
    /// The groups that are drawn by themselves, by their first item, those around others before them, where any of that changed.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub bunches: Option<Vec<StageBunch>>,
    /// What the items of the side and of the tray of its piece are called, where that changed; nothing for one that is gone.
    pub names: BTreeMap<ItemId, Option<String>>,
    /// Items with words, in reading order, where that changed.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub reading: Option<Vec<ItemId>>,
    /// The lines to lay things out by, where they changed.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub guides: Option<Vec<GuideMark>>,
    /// The arrangements of pictures, each as its frames, where they changed.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub arrangements: Option<Vec<Vec<ItemId>>>,
}

/// A group that is drawn by itself and then put down as a whole.
#[derive(Debug, Clone, Serialize, TS)]
pub struct StageBunch {
    /// The group.
    pub group: GroupId,
    /// Its first item, counted in the order of the stage.
    pub first: usize,
    /// How many items it has there.
    pub count: usize,
    /// What its look refers to, as an SVG fragment.
    pub defs: String,
    /// Its look, as properties of style.
    pub style: String,
    /// A picture in the place of its items, as an SVG fragment, where it is treated in a way that only pixels show.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub picture: Option<String>,
    /// Where the pictures are found that have to be there before it is shown.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<String>>", optional)]
    pub parts: Vec<String>,
}

/// The state after an act.
#[derive(Debug, Clone, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct ActResponse {
    /// The new revision.
    #[ts(type = "number")]
    pub revision: i64,
    /// When it was kept, in milliseconds since 1970 UTC.
    #[ts(type = "number")]
    pub kept_at: i64,
    /// What changed in the job.
    pub delta: JobDelta,
    /// What changed on the stage.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub stage: Option<StageDelta>,
    /// Items that were made.
    pub made: Vec<ItemId>,
    /// Whether something can be undone.
    pub can_undo: bool,
    /// Whether something can be redone.
    pub can_redo: bool,
}

/// A wish for arrangements of pictures.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct MosaicRequest {
    /// Which.
    pub of: MosaicOf,
    /// Gaps, margin and corners; nothing means as they are, or those to begin with.
    #[serde(default)]
    #[ts(optional)]
    pub room: Option<MosaicRoom>,
}

/// What is arranged.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(rename_all = "camelCase", deny_unknown_fields)]
pub enum MosaicOf {
    /// Pictures of the shelf, in their order.
    Pictures(Vec<AssetId>),
    /// Frames that are arranged already, in their order.
    Items(Vec<ItemId>),
}

/// What was typed, as it was read. That it cannot be read is an answer, too: nothing has failed.
#[derive(Debug, Clone, Serialize, TS)]
#[serde(untagged)]
pub enum Typed<T> {
    /// What it means.
    Read {
        /// The value.
        value: T,
    },
    /// Why it means nothing.
    Unread {
        /// In a sentence.
        says: String,
    },
}

impl<T> Typed<T> {
    /// From what reading came to.
    pub fn of(read: Result<T, impl std::fmt::Display>) -> Self {
        match read {
            Ok(value) => Self::Read { value },
            Err(why) => Self::Unread { says: why.to_string() },
        }
    }
}

/// A number field as typed.
#[derive(Debug, Clone, Deserialize, TS)]
pub struct MeasureRequest {
    /// What was typed.
    pub text: String,
    /// Unit of bare numbers.
    pub unit: Unit,
    /// What a pixel is.
    pub ppi: Ppi,
    /// What 100 % is.
    #[ts(optional)]
    pub whole: Option<Length>,
}
