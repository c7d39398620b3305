//! What is done to a printed piece beside trimming: what a hand changes of it, and how it begins.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{Command, Finish, Folds, Format, Hole, Job, PieceId};
use vatman_units::{Length, Point, Size};

use crate::refusal::Refusal;

/// A hole begins so wide, its middle so far from the top; nearer to it on what is low.
const HOLE: Length = Length::from_raw(36_000 * 4);
const FROM_TOP: Length = Length::from_raw(36_000 * 8);

/// A change of what is done to a piece.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(tag = "change", rename_all = "camelCase", deny_unknown_fields)]
pub enum FinishChange {
    /// Rounds its corners.
    Corners {
        /// Radius.
        radius: Length,
    },
    /// Punches a hole in the middle near the top.
    Punch,
    /// Moves a hole, gives it another width or ring, or takes it away.
    Hole {
        /// As it becomes.
        hole: Option<Hole>,
    },
    /// Folds it so many times, all panels alike.
    Folds {
        /// How many folds.
        count: u8,
        /// Whether they run from left to right.
        level: bool,
    },
    /// Moves a fold.
    Fold {
        /// Which, from the left or the top of the front.
        index: usize,
        /// Where it becomes.
        at: Length,
    },
}

impl FinishChange {
    fn of(self, finish: Finish, size: Size) -> Finish {
        match self {
            Self::Corners { radius } => Finish { corners: radius, ..finish },
            Self::Punch => {
                let at = Point { x: size.w.half(), y: FROM_TOP.min(size.h.scaled(0.25)) };
                Finish { hole: Some(Hole { at, across: HOLE, eyelet: None }), ..finish }
            }
            Self::Hole { hole } => Finish { hole, ..finish },
            Self::Folds { count, level } => {
                let whole = if level { size.h } else { size.w };
                let share = |fold: u8| whole.scaled(f64::from(fold) / f64::from(count.saturating_add(1)));
                let at: Vec<Length> = (1..=count).map(share).collect();
                Finish { folds: Folds::new(level, &at), ..finish }
            }
            Self::Fold { index, at } => {
                let folds = finish.folds;
                let moved = |(own, line): (usize, &Length)| if own == index { at } else { *line };
                let lines: Vec<Length> = folds.lines().iter().enumerate().map(moved).collect();
                Finish { folds: Folds::new(folds.is_level(), &lines), ..finish }
            }
        }
    }
}

/// Changes what is done to a piece beside trimming.
///
/// # Errors
/// [`Refusal`] where it is not there, or it cannot be done to it.
pub fn change_finish(job: &Job, piece: &PieceId, change: FinishChange) -> Result<Command, Refusal> {
    let own = job.piece(piece).ok_or_else(|| Refusal::Missing("piece", piece.to_string()))?;
    let format = Format { finish: change.of(own.format.finish, own.format.size), ..own.format };
    Ok(Command::SetFormat { piece: piece.clone(), format, place: own.place.clone(), first: own.first.clone() })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn folds_begin_even_are_moved_one_by_one_and_a_hole_near_the_top() {
        let size = Size::new(Length::mm(90.0), Length::mm(60.0));
        let folded = FinishChange::Folds { count: 2, level: false }.of(Finish::default(), size);
        assert_eq!(folded.folds.lines(), [Length::mm(30.0), Length::mm(60.0)]);
        let moved = FinishChange::Fold { index: 1, at: Length::mm(61.0) }.of(folded, size);
        assert_eq!(moved.folds.lines(), [Length::mm(30.0), Length::mm(61.0)]);
        assert!(FinishChange::Folds { count: 0, level: false }.of(moved, size).folds.is_none());
        let punched = FinishChange::Punch.of(moved, size);
        assert_eq!(punched.check(size), Ok(()));
        assert_eq!(punched.hole.map(|hole| hole.at), Some(Point { x: Length::mm(45.0), y: Length::mm(8.0) }));
        let low = Size::new(Length::mm(90.0), Length::mm(20.0));
        assert_eq!(FinishChange::Punch.of(Finish::default(), low).check(low), Ok(()));
        assert_eq!(FinishChange::Hole { hole: None }.of(punched, size), moved);
        assert_eq!(FinishChange::Corners { radius: Length::mm(3.0) }.of(moved, size).corners, Length::mm(3.0));
    }
}
