//! What is done to a printed piece beside trimming: rounded corners, a hole, folds.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Length, Point, Rect, Size};

use crate::FormatError;

/// A round hole, with or without a ring around it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Hole {
    /// Its middle, on the front.
    pub at: Point,
    /// Its width.
    pub across: Length,
    /// Width of the ring pressed around it; nothing without one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub eyelet: Option<Length>,
}

impl Hole {
    /// The box of what is gone or covered.
    #[must_use]
    pub fn covers(&self) -> Rect {
        let wide = self.eyelet.unwrap_or(self.across);
        Rect::new(self.at.x - wide.half(), self.at.y - wide.half(), wide, wide)
    }
}

/// Parallel folds.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
struct WrittenFolds {
    #[serde(default)]
    level: bool,
    at: Vec<Length>,
}

/// Folds across a piece, all one way; at most as many as leaflets have.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(try_from = "WrittenFolds", into = "WrittenFolds")]
#[ts(type = "{ level: boolean, at: number[] }")]
pub struct Folds {
    level: bool,
    at: [Length; Self::MOST],
}

impl Folds {
    /// Most folds.
    pub const MOST: usize = 5;

    /// Folds from top to bottom, or `level` from left to right, at distances from the left or the top of the front. Those beyond the most
    /// are left out.
    #[must_use]
    pub fn new(level: bool, at: &[Length]) -> Self {
        let mut all = [Length::ZERO; Self::MOST];
        all.iter_mut().zip(at).for_each(|(own, at)| *own = *at);
        Self { level, at: all }
    }

    /// Whether there are none.
    #[must_use]
    pub fn is_none(&self) -> bool {
        self.lines().is_empty()
    }

    /// Whether they run from left to right.
    #[must_use]
    pub const fn is_level(&self) -> bool {
        self.level
    }

    /// Where they are on the front, from its left or its top.
    #[must_use]
    pub fn lines(&self) -> &[Length] {
        let count = self.at.iter().take_while(|at| at.is_positive()).count();
        &self.at[..count]
    }

    /// The panels of a side from left to right, or from top to bottom. The back of a sheet is seen the other way round: its panels have
    /// the widths of the front mirrored where folds run from top to bottom.
    #[must_use]
    pub fn panels(&self, size: Size, back: bool) -> Vec<Rect> {
        let whole = if self.level { size.h } else { size.w };
        let mut lines: Vec<Length> = self.lines().to_vec();
        if back && !self.level {
            lines = lines.into_iter().rev().map(|at| whole - at).collect();
        }
        let starts = std::iter::once(Length::ZERO).chain(lines.iter().copied());
        let ends = lines.iter().copied().chain([whole]);
        let panel = |(from, to): (Length, Length)| {
            if self.level {
                Rect::new(Length::ZERO, from, size.w, to - from)
            } else {
                Rect::new(from, Length::ZERO, to - from, size.h)
            }
        };
        starts.zip(ends).map(panel).collect()
    }
}

impl From<Folds> for WrittenFolds {
    fn from(folds: Folds) -> Self {
        Self { level: folds.level, at: folds.lines().to_vec() }
    }
}

impl TryFrom<WrittenFolds> for Folds {
    type Error = FormatError;
    fn try_from(written: WrittenFolds) -> Result<Self, FormatError> {
        let sound = written.at.len() <= Self::MOST && written.at.iter().all(|at| at.is_positive());
        if sound { Ok(Self::new(written.level, &written.at)) } else { Err(FormatError::Folds) }
    }
}

/// What is done to a printed piece beside trimming.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Finish {
    /// Radius of its corners.
    #[serde(default, skip_serializing_if = "is_nothing")]
    #[ts(as = "Option<Length>", optional)]
    pub corners: Length,
    /// A hole.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub hole: Option<Hole>,
    /// Folds.
    #[serde(default, skip_serializing_if = "Folds::is_none")]
    #[ts(as = "Option<Folds>", optional)]
    pub folds: Folds,
}

fn is_nothing(length: &Length) -> bool {
    *length == Length::ZERO
}

impl Finish {
    /// The narrowest panel that can be folded.
    const LEAST_PANEL: Length = Length::from_raw(36_000 * 8);

    /// Whether it is only trimmed.
    #[must_use]
    pub fn is_none(&self) -> bool {
        *self == Self::default()
    }

    /// Checks that it can be done to a piece of a size.
    ///
    /// # Errors
    /// A [`FormatError`] whose text can be shown.
    pub fn check(&self, size: Size) -> Result<(), FormatError> {
        if self.corners.raw() < 0 || self.corners > size.w.min(size.h).half() {
            return Err(FormatError::Corners);
        }
        if let Some(hole) = &self.hole {
            let ring = hole.eyelet.is_none_or(|ring| ring > hole.across);
            if hole.across < Length::mm(1.0) || !ring || !Rect::of(size).contains(hole.covers()) {
                return Err(FormatError::Hole);
            }
        }
        let across = |panel: &Rect| if self.folds.level { panel.h } else { panel.w };
        let wide = self.folds.is_none()
            || self.folds.panels(size, false).iter().all(|panel| across(panel) >= Self::LEAST_PANEL);
        if wide { Ok(()) } else { Err(FormatError::Folds) }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_panels_of_the_back_are_those_of_the_front_seen_from_behind() {
        let mm = Length::mm;
        let size = Size::new(mm(297.0), mm(210.0));
        let folds = Folds::new(false, &[mm(97.0), mm(197.0)]);
        let widths = |back| folds.panels(size, back).iter().map(|panel| panel.w.to_mm()).collect::<Vec<_>>();
        assert_eq!((widths(false), widths(true)), (vec![97.0, 100.0, 100.0], vec![100.0, 100.0, 97.0]));
        let tent = Folds::new(true, &[mm(70.0)]);
        assert_eq!(tent.panels(size, true), tent.panels(size, false));
        assert_eq!(tent.panels(size, true)[1].h, mm(140.0));
        assert_eq!(Folds::default().panels(size, false), [Rect::of(size)]);
    }

    #[test]
    fn folds_are_written_as_a_list_and_read_again() {
        let folds = Folds::new(false, &[Length::mm(97.0), Length::mm(197.0)]);
        let text = serde_json::to_string(&folds).unwrap();
        assert_eq!(text, r#"{"level":false,"at":[3492000,7092000]}"#);
        assert_eq!(serde_json::from_str::<Folds>(&text).unwrap(), folds);
        assert!(serde_json::from_str::<Folds>(r#"{"at":[1,2,3,4,5,6]}"#).is_err());
        assert!(serde_json::from_str::<Folds>(r#"{"at":[0]}"#).is_err());
    }

    #[test]
    fn what_cannot_be_done_to_paper_is_refused() {
        let mm = Length::mm;
        let size = Size::new(mm(50.0), mm(90.0));
        let hole = |x: f64, across: f64, eyelet: Option<f64>| Finish {
            hole: Some(Hole { at: Point { x: mm(x), y: mm(8.0) }, across: mm(across), eyelet: eyelet.map(mm) }),
            ..Finish::default()
        };
        assert_eq!(hole(25.0, 4.0, Some(8.0)).check(size), Ok(()));
        for wrong in
            [hole(2.0, 5.0, None), hole(25.0, 0.5, None), hole(25.0, 6.0, Some(6.0)), hole(25.0, 6.0, Some(17.0))]
        {
            assert_eq!(wrong.check(size), Err(FormatError::Hole));
        }
        let corners = |by: f64| Finish { corners: mm(by), ..Finish::default() }.check(size);
        assert_eq!(
            (corners(25.0), corners(25.1), corners(-1.0)),
            (Ok(()), Err(FormatError::Corners), Err(FormatError::Corners))
        );
        let folds = |at: &[f64]| {
            let at: Vec<Length> = at.iter().copied().map(mm).collect();
            Finish { folds: Folds::new(false, &at), ..Finish::default() }.check(size)
        };
        assert_eq!(folds(&[25.0]), Ok(()));
        for wrong in [&[5.0][..], &[45.0], &[30.0, 20.0], &[60.0]] {
            assert_eq!(folds(wrong), Err(FormatError::Folds));
        }
    }
}
