//! Spots of a picture that are filled from their surroundings, as what is copied from where.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::Ratio;

use crate::mask::within;
use crate::{BrushStroke, Focus};

/// A square of a picture copied to another place of it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct SpotCopy {
    /// The middle of where it goes.
    pub to: Focus,
    /// The middle of where it comes from.
    pub from: Focus,
}

/// A spot and what fills it. What comes from where was found once, when it was painted, so that the spot looks the same at every size.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct SpotPatch {
    /// What is filled: where a hard brush went.
    pub stroke: BrushStroke,
    /// Half the side of the squares, a fraction of the longer side, up to 0.1.
    pub reach: Ratio,
    /// Squares that together cover it.
    pub copies: Vec<SpotCopy>,
}

impl SpotPatch {
    /// Most spots of one step.
    pub const MOST: usize = 60;
    /// Most squares of all of them.
    pub const MOST_COPIES: usize = 3_000;
    /// Most points of all their strokes.
    const MOST_POINTS: usize = 6_000;

    pub(crate) fn are_sound(spots: &[Self]) -> bool {
        let sum = |count: fn(&Self) -> usize| spots.iter().map(count).sum::<usize>();
        let fraction = |at: &Focus| at.x.is_fraction() && at.y.is_fraction();
        let sound = |spot: &Self| {
            spot.stroke.is_sound()
                && within(&[(spot.reach, 0.0, 0.1)])
                && spot.copies.iter().all(|copy| fraction(&copy.to) && fraction(&copy.from))
        };
        spots.len() <= Self::MOST
            && sum(|spot| spot.copies.len()) <= Self::MOST_COPIES
            && sum(|spot| spot.stroke.points.len()) <= Self::MOST_POINTS
            && spots.iter().all(sound)
    }
}
