//! Masks: where a step applies, as areas and strokes in the coordinates of what is treated.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Angle, Ratio};

use crate::{AssetId, Focus, Tint};

/// A part of a picture.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", rename_all_fields = "camelCase", deny_unknown_fields)]
pub enum Area {
    /// From nothing at one point to all at another, and on.
    Linear {
        /// Nothing here and before.
        from: Focus,
        /// All from here on.
        to: Focus,
    },
    /// All within an ellipse.
    Radial {
        /// Its middle.
        centre: Focus,
        /// Half its width, a fraction of the longer side, up to 4.
        across: Ratio,
        /// Half its height, a fraction of the longer side.
        down: Ratio,
        /// Clockwise.
        turn: Angle,
        /// How much of it fades out, 0 to 1.
        softness: Ratio,
    },
    /// What is as light as this.
    Light {
        /// From, 0 to 1.
        from: Ratio,
        /// To, 0 to 1.
        to: Ratio,
        /// How far it fades out on both sides, 0 to 1.
        softness: Ratio,
    },
    /// What has about a colour.
    Colour {
        /// Which.
        tint: Tint,
        /// How far from it in OKLab, 0 to 1.
        reach: Ratio,
        /// How far it fades out beyond, 0 to 1.
        softness: Ratio,
    },
    /// What was found to be the subject of the picture.
    Subject {
        /// How much of each pixel is, as a grey picture of any size.
        mask: AssetId,
    },
    /// Where a brush went.
    Brush {
        /// In order.
        strokes: Vec<BrushStroke>,
    },
}

/// One stroke of a brush.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase", deny_unknown_fields)]
pub struct BrushStroke {
    /// Where it went.
    pub points: Vec<Focus>,
    /// Radius, a fraction of the longer side, up to 0.5.
    pub radius: Ratio,
    /// How much of the radius is full, 0 to 1.
    pub hardness: Ratio,
    /// 0 to 1.
    pub strength: Ratio,
    /// Takes away instead of adding.
    #[serde(default)]
    pub erases: bool,
}

impl BrushStroke {
    /// Whether all its values lie in their ranges.
    pub(crate) fn is_sound(&self) -> bool {
        self.points.iter().all(|point| inside(*point))
            && within(&[(self.radius, 0.0, 0.5)])
            && self.hardness.is_fraction()
            && self.strength.is_fraction()
    }
}

/// How an area joins those before it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Joining {
    /// Added to them.
    #[default]
    Add,
    /// Taken from them.
    Take,
    /// What both have.
    Both,
}

/// An area and how it joins.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase", deny_unknown_fields)]
pub struct MaskArea {
    /// Which.
    pub area: Area,
    /// To those before it.
    #[serde(default)]
    pub joins: Joining,
}

/// Where a step applies.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase", deny_unknown_fields)]
pub struct Mask {
    /// In order, from nothing.
    pub areas: Vec<MaskArea>,
    /// Everywhere else instead.
    #[serde(default)]
    pub inverted: bool,
    /// How strong it is where it is whole, 0 to 1.
    pub density: Ratio,
    /// Standard deviation of its softness, a fraction of the longer side, up to 0.2.
    #[serde(default)]
    pub feather: Ratio,
}

pub(crate) fn within(values: &[(Ratio, f64, f64)]) -> bool {
    values.iter().all(|(value, low, high)| (*low..=*high).contains(&value.get()))
}

pub(crate) fn sides(values: &[Ratio]) -> bool {
    values.iter().all(|value| (-1.0..=1.0).contains(&value.get()))
}

pub(crate) fn inside(point: Focus) -> bool {
    // Centres may lie beyond the picture.
    within(&[(point.x, -2.0, 3.0), (point.y, -2.0, 3.0)])
}

impl Mask {
    /// Most areas of a mask.
    pub const MOST: usize = 24;
    /// Most points of all strokes of a mask.
    pub const MOST_POINTS: usize = 6_000;

    pub(crate) fn is_sound(&self) -> bool {
        let points = |area: &MaskArea| match &area.area {
            Area::Brush { strokes } => strokes.iter().map(|stroke| stroke.points.len()).sum(),
            _ => 0,
        };
        self.areas.len() <= Self::MOST
            && self.areas.iter().map(points).sum::<usize>() <= Self::MOST_POINTS
            && self.density.is_fraction()
            && within(&[(self.feather, 0.0, 0.2)])
            && self.areas.iter().all(|area| area.area.is_sound())
    }
}

impl Area {
    pub(crate) fn is_sound(&self) -> bool {
        match self {
            Self::Linear { from, to } => inside(*from) && inside(*to),
            Self::Radial { centre, across, down, softness, .. } => {
                inside(*centre) && within(&[(*across, 0.0, 4.0), (*down, 0.0, 4.0)]) && softness.is_fraction()
            }
            Self::Light { from, to, softness } => [from, to, softness].into_iter().all(|value| value.is_fraction()),
            Self::Colour { reach, softness, .. } => reach.is_fraction() && softness.is_fraction(),
            Self::Subject { .. } => true,
            Self::Brush { strokes } => strokes.iter().all(BrushStroke::is_sound),
        }
    }
}
