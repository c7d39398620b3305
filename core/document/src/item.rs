//! An item on a side, and what it shares with the same item in other pieces.

use std::borrow::Cow;

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Angle, Length, Placement, Ratio};

use crate::{Content, Fault, Focus, GroupId, ItemId, KinId, Look, LookPatch, Part, SideId, Target, Tie};

/// What the same item in several pieces has in common.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Kin {
    /// The part it plays.
    pub part: Part,
    /// What it says or shows.
    pub content: Content,
    /// How it looks.
    pub look: Look,
    /// What it is called in every arrangement of the design it came with.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub slot: Option<String>,
    /// Whether its words are asked for when the next of a series is made.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    #[ts(as = "Option<bool>", optional)]
    pub asked: bool,
}

impl Kin {
    /// What was made by hand: no design has a place for it.
    #[must_use]
    pub const fn new(part: Part, content: Content, look: Look) -> Self {
        Self { part, content, look, slot: None, asked: false }
    }
}

/// How a picture sits in its frame in one piece.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Crop {
    /// The point of the picture at the centre of the frame.
    pub centre: Focus,
    /// Size of the picture relative to just covering the frame (or, fitted, to just lying inside it).
    pub zoom: Ratio,
    /// Clockwise turn of the picture inside its frame.
    #[serde(default)]
    pub turn: Angle,
    /// Whether the picture is mirrored left to right inside its frame.
    #[serde(default)]
    pub flip: bool,
}

impl Crop {
    /// Upright and at the size that just covers or fits, about a point.
    #[must_use]
    pub const fn about(centre: Focus) -> Self {
        Self { centre, zoom: Ratio::ONE, turn: Angle::ZERO, flip: false }
    }
}

/// Where an item sits in one piece.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Place {
    /// Box, turn and mirroring.
    pub at: Placement,
    /// Every length of the shared look (type size, line width, radius) times this.
    pub scale: Ratio,
    /// Framing of a picture; without one the focus is kept in view and the frame covered.
    pub crop: Option<Crop>,
    /// Put there by hand since the piece was composed: arranging it anew leaves it alone unless asked.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    #[ts(as = "Option<bool>", optional, rename = "byHand")]
    #[serde(rename = "byHand")]
    pub by_hand: bool,
}

impl Place {
    /// Upright, at the look's own lengths.
    #[must_use]
    pub const fn new(at: Placement) -> Self {
        Self { at, scale: Ratio::ONE, crop: None, by_hand: false }
    }

    /// Why it cannot be kept, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        let far = Length::inches(1_000.0);
        let r = self.at.rect;
        if r.w.raw() < 0 || r.h.raw() < 0 {
            return Some(Fault::NegativeSize);
        }
        if [r.x, r.y, r.w, r.h].iter().any(|length| length.abs() > far) {
            return Some(Fault::FarAway);
        }
        if !(1e-4..=1e4).contains(&self.scale.get()) {
            return Some(Fault::PlaceScale);
        }
        match self.crop {
            Some(crop) if !(0.01..=100.0).contains(&crop.zoom.get()) => Some(Fault::CropZoom),
            Some(crop) if [crop.centre.x, crop.centre.y].iter().any(|v| v.get().abs() > 100.0) => {
                Some(Fault::CropCentre)
            }
            _ => None,
        }
    }
}

/// What an item has released from sharing.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields)]
pub struct Release {
    /// Words or picture of its own.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub content: Option<Content>,
    /// What of its look is its own.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub look: Option<LookPatch>,
}

/// One item on one side.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Item {
    /// Its identity within the job.
    pub id: ItemId,
    /// What it shares with the same item elsewhere.
    pub kin: KinId,
    /// Where it sits here.
    pub place: Place,
    /// What it has released from sharing.
    #[serde(default)]
    pub release: Release,
    /// Cannot be picked or moved on the stage.
    #[serde(default)]
    pub locked: bool,
    /// Neither shown nor exported.
    #[serde(default)]
    pub hidden: bool,
    /// The groups it is in, outermost first. Items of a group lie next to each other.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<GroupId>>", optional)]
    pub groups: Vec<GroupId>,
    /// What its maker calls it; without one it is called after its words or its part.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub name: Option<String>,
    /// What keeps holding between it and others.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<Tie>>", optional)]
    pub ties: Vec<Tie>,
}

impl Item {
    /// Deepest nesting of groups.
    pub const DEEPEST_GROUP: usize = 8;

    /// An item that shares everything and is neither locked nor hidden nor grouped.
    #[must_use]
    pub fn new(id: ItemId, kin: KinId, place: Place) -> Self {
        Self {
            id,
            kin,
            place,
            release: Release::default(),
            locked: false,
            hidden: false,
            groups: Vec::new(),
            name: None,
            ties: Vec::new(),
        }
    }
}

/// An item taken off its side and kept aside, with all it needs to be put back.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Removed {
    /// The item as it was.
    pub item: Item,
    /// What it shared at the time.
    pub kin: Kin,
    /// Where it lay.
    pub side: SideId,
    /// Its place from the back.
    pub index: usize,
}

/// An item with sharing resolved: the plain sum of kin, release and place.
#[derive(Debug, Clone)]
pub struct Plain<'a> {
    /// The item.
    pub item: &'a Item,
    /// The part it plays.
    pub part: Part,
    /// What it says or shows here.
    pub content: &'a Content,
    /// How it looks here.
    pub look: Cow<'a, Look>,
}

impl Plain<'_> {
    /// Where an edit of what it says or shows goes: to all that share it, or to this item where it has released it.
    #[must_use]
    pub fn content_target(&self) -> Target {
        self.target(self.item.release.content.is_some())
    }

    /// What of its look is its own.
    #[must_use]
    pub fn own_look(&self) -> LookPatch {
        self.item.release.look.clone().unwrap_or_default()
    }

    fn target(&self, released: bool) -> Target {
        if released { Target::Only(self.item.id.clone()) } else { Target::Shared(self.item.kin.clone()) }
    }

    /// Name for lists: its own, the beginning of its words, what belongs there, or its part.
    #[must_use]
    pub fn name(&self) -> String {
        name_of(self.item, self.part, self.content)
    }
}

impl Removed {
    /// Name for lists, as it had when it was taken away.
    #[must_use]
    pub fn name(&self) -> String {
        name_of(&self.item, self.kin.part, self.item.release.content.as_ref().unwrap_or(&self.kin.content))
    }
}

fn name_of(item: &Item, part: Part, content: &Content) -> String {
    if let Some(name) = &item.name {
        return name.clone();
    }
    match content {
        Content::Words { text, .. } if !text.is_blank() => {
            text.text().split_whitespace().collect::<Vec<_>>().join(" ").chars().take(40).collect()
        }
        Content::Words { prompt, .. } if !prompt.is_empty() => prompt.clone(),
        Content::Drawing { drawing } if !drawing.name.is_empty() => drawing.name.clone(),
        Content::Code { code } if !code.says.is_blank() => {
            format!("Code: {}", code.says.said()).chars().take(40).collect()
        }
        Content::Code { .. } => "Code".into(),
        Content::Shape { .. } if part == Part::Ornament => "Shape".into(),
        _ => part.name().to_owned(),
    }
}
