//! What keeps holding between items: lasting constraints of one item, and stacks that space themselves.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::Length;

use crate::{Fault, Focus, GroupId, ItemId};

/// What an item is tied to.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase", deny_unknown_fields)]
pub enum Anchor {
    /// The sheet.
    Sheet,
    /// Another item of the same side.
    Item(ItemId),
}

impl Anchor {
    /// The item, if it is one.
    #[must_use]
    pub const fn item(&self) -> Option<&ItemId> {
        if let Self::Item(id) = self { Some(id) } else { None }
    }
}

/// A direction of the sheet.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Direction {
    /// From left to right.
    Across,
    /// From top to bottom.
    Down,
}

/// A side of a box.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum BoxEdge {
    /// Left.
    Left,
    /// Top.
    Top,
    /// Right.
    Right,
    /// Bottom.
    Bottom,
}

impl BoxEdge {
    /// The direction its distance is measured in.
    #[must_use]
    pub const fn direction(self) -> Direction {
        match self {
            Self::Left | Self::Right => Direction::Across,
            Self::Top | Self::Bottom => Direction::Down,
        }
    }

    /// Whether it is the one nearer the origin.
    #[must_use]
    pub const fn is_first(self) -> bool {
        matches!(self, Self::Left | Self::Top)
    }
}

/// One lasting constraint of an item.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(tag = "tie", rename_all = "camelCase", deny_unknown_fields)]
pub enum Tie {
    /// Its middle stays on the middle of the anchor.
    Centre {
        /// In which direction.
        direction: Direction,
        /// Of what.
        of: Anchor,
    },
    /// One of its edges keeps its distance: to the same edge of the sheet, or to the facing edge of another item.
    Gap {
        /// Which of its own edges.
        edge: BoxEdge,
        /// To what.
        of: Anchor,
        /// Positive inside the sheet, or away from the other item.
        gap: Length,
    },
    /// It stands in the opposite place of the sheet, as large and as turned as the other.
    Opposite {
        /// The other.
        of: ItemId,
        /// Left and right change places.
        across: bool,
        /// Top and bottom change places.
        down: bool,
        /// It is mirrored as well, not only moved.
        mirrored: bool,
    },
    /// As wide (or high) as another item's words or box.
    AsLong {
        /// In which direction.
        direction: Direction,
        /// The other.
        of: ItemId,
        /// More than the other, shared out between both ends.
        extra: Length,
    },
    /// Its middle stays on a spot of a picture, however that is framed.
    Spot {
        /// The picture.
        of: ItemId,
        /// The spot, in fractions of the picture.
        at: Focus,
    },
    /// It reaches from the edge of one item to the edge of another, as a line does.
    Between {
        /// Where it begins.
        from: ItemId,
        /// Where it ends.
        to: ItemId,
    },
    /// It lies exactly over another item: as large, as turned, and showing the same part of the same picture.
    Over {
        /// The other.
        of: ItemId,
    },
}

impl Tie {
    /// Most ties of one item.
    pub const MOST: usize = 8;

    /// The items it depends on.
    #[must_use]
    pub fn others(&self) -> Vec<&ItemId> {
        match self {
            Self::Centre { of, .. } | Self::Gap { of, .. } => of.item().into_iter().collect(),
            Self::Opposite { of, .. } | Self::AsLong { of, .. } | Self::Spot { of, .. } | Self::Over { of } => vec![of],
            Self::Between { from, to } => vec![from, to],
        }
    }

    /// The same with other items in the place of those it names; nothing where one has no counterpart.
    #[must_use]
    pub fn renamed(&self, other: &dyn Fn(&ItemId) -> Option<ItemId>) -> Option<Self> {
        let anchor = |of: &Anchor| match of {
            Anchor::Sheet => Some(Anchor::Sheet),
            Anchor::Item(id) => other(id).map(Anchor::Item),
        };
        Some(match self {
            Self::Centre { direction, of } => Self::Centre { direction: *direction, of: anchor(of)? },
            Self::Gap { edge, of, gap } => Self::Gap { edge: *edge, of: anchor(of)?, gap: *gap },
            Self::Opposite { of, across, down, mirrored } => {
                Self::Opposite { of: other(of)?, across: *across, down: *down, mirrored: *mirrored }
            }
            Self::AsLong { direction, of, extra } => {
                Self::AsLong { direction: *direction, of: other(of)?, extra: *extra }
            }
            Self::Spot { of, at } => Self::Spot { of: other(of)?, at: *at },
            Self::Between { from, to } => Self::Between { from: other(from)?, to: other(to)? },
            Self::Over { of } => Self::Over { of: other(of)? },
        })
    }

    /// Why an item cannot have it, if so.
    #[must_use]
    pub fn fault(&self, own: &ItemId) -> Option<Fault> {
        let far = Length::inches(1_000.0);
        if self.others().contains(&own) {
            return Some(Fault::TiedToItself);
        }
        match self {
            Self::Gap { gap: length, .. } | Self::AsLong { extra: length, .. } if length.abs() > far => {
                Some(Fault::TieLength)
            }
            Self::Opposite { across: false, down: false, .. } => Some(Fault::TieOpposite),
            Self::Spot { at, .. } if !at.x.is_fraction() || !at.y.is_fraction() => Some(Fault::TieSpot),
            Self::Between { from, to } if from == to => Some(Fault::TieEnds),
            _ => None,
        }
    }
}

/// Where the rows of a stack stand across its direction.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum StackAlign {
    /// At the left or the top.
    First,
    /// In the middle.
    Middle,
    /// At the right or the bottom.
    Last,
}

/// A group whose members stand one after another with equal gaps. Members that share an inner group are one row.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Stack {
    /// The group.
    pub group: GroupId,
    /// The direction its members follow each other in.
    pub direction: Direction,
    /// Room between them.
    pub gap: Length,
    /// Where they stand across that direction.
    pub align: StackAlign,
}

impl Stack {
    /// Most stacks of a side.
    pub const MOST: usize = 500;

    /// Why it cannot be kept, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        (self.gap.abs() > Length::inches(1_000.0)).then_some(Fault::StackGap)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use vatman_units::Ratio;

    fn id(text: &str) -> ItemId {
        ItemId::new(text).unwrap()
    }

    #[test]
    fn a_tie_that_makes_no_sense_says_so() {
        let own = id("a");
        assert!(
            Tie::Centre { direction: Direction::Across, of: Anchor::Item(own.clone()) }.fault(&own)
                == Some(Fault::TiedToItself)
        );
        assert!(Tie::Between { from: id("b"), to: id("b") }.fault(&own).is_some());
        assert!(Tie::Opposite { of: id("b"), across: false, down: false, mirrored: true }.fault(&own).is_some());
        assert!(Tie::Spot { of: id("b"), at: Focus { x: Ratio::new(1.2), y: Ratio::ONE } }.fault(&own).is_some());
        assert!(
            Tie::Gap { edge: BoxEdge::Left, of: Anchor::Sheet, gap: Length::inches(2_000.0) }.fault(&own).is_some()
        );
        assert_eq!(Tie::Gap { edge: BoxEdge::Left, of: Anchor::Sheet, gap: Length::mm(5.0) }.fault(&own), None);
    }

    #[test]
    fn copies_are_tied_to_copies_and_never_to_what_stayed_behind() {
        let copied = |name: &ItemId| (name.as_str() == "b").then(|| id("b2"));
        assert_eq!(
            Tie::Centre { direction: Direction::Down, of: Anchor::Sheet }.renamed(&copied),
            Some(Tie::Centre { direction: Direction::Down, of: Anchor::Sheet })
        );
        assert_eq!(
            Tie::AsLong { direction: Direction::Across, of: id("b"), extra: Length::ZERO }.renamed(&copied),
            Some(Tie::AsLong { direction: Direction::Across, of: id("b2"), extra: Length::ZERO })
        );
        assert_eq!(Tie::Between { from: id("b"), to: id("c") }.renamed(&copied), None);
    }
}
