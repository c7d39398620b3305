//! Where a moving box falls into place, and why.
//!
//! For one drag all places are worked out at once; whoever drags only picks the nearest within reach.

use serde::Serialize;
use ts_rs::TS;
use vatman_document::Guides;
use vatman_units::{Length, Rect, Size};

use crate::arrange::align::around;

/// Why something falls into place there.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum SnapReason {
    /// The middle of the sheet.
    SheetCentre,
    /// An edge of the sheet.
    SheetEdge,
    /// The edge of the safe area.
    Safe,
    /// A margin.
    Margin,
    /// The edge of a column or row.
    Column,
    /// A single line.
    Guide,
    /// A line of the grid.
    Grid,
    /// The middle of another item.
    ItemCentre,
    /// An edge of another item.
    ItemEdge,
    /// The baseline of other words.
    Baseline,
    /// The same gap as between two others.
    EqualGap,
    /// The same size as another.
    EqualSize,
}

/// A stretch shown as the reason, along the axis or across it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, TS)]
pub struct SnapStretch {
    /// Where it begins.
    pub from: Length,
    /// Where it ends.
    pub to: Length,
    /// Where it lies on the other axis.
    pub across: Length,
}

/// A place on one axis.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct SnapStop {
    /// Where the moving edge lies when in place.
    pub at: Length,
    /// Why.
    pub reason: SnapReason,
    /// The line it lies on: its position, and how far its cause reaches on the other axis.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub line: Option<SnapStretch>,
    /// Equal gaps, along the axis.
    pub gaps: Vec<SnapStretch>,
    /// Counts only while the moving box overlaps this range of the other axis.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub within: Option<SnapRange>,
}

/// A range of one axis.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, TS)]
pub struct SnapRange {
    /// Start.
    pub from: Length,
    /// End.
    pub to: Length,
}

/// All places for one drag.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct SnapStops {
    /// For the left edge of a box moved as a whole.
    pub left: Vec<SnapStop>,
    /// For the top edge of a box moved as a whole.
    pub top: Vec<SnapStop>,
    /// For a left or right edge that is dragged.
    pub upright: Vec<SnapStop>,
    /// For a top or bottom edge that is dragged.
    pub level: Vec<SnapStop>,
    /// Widths others have.
    pub widths: Vec<Length>,
    /// Heights others have.
    pub heights: Vec<Length>,
}

/// A box seen along one axis: start, size, and its range on the other axis.
#[derive(Debug, Clone, Copy)]
struct Span {
    start: Length,
    size: Length,
    cross: SnapRange,
}

impl Span {
    fn across(rect: Rect) -> Self {
        Self { start: rect.x, size: rect.w, cross: SnapRange { from: rect.y, to: rect.bottom() } }
    }

    fn down(rect: Rect) -> Self {
        Self { start: rect.y, size: rect.h, cross: SnapRange { from: rect.x, to: rect.right() } }
    }

    fn end(self) -> Length {
        self.start + self.size
    }

    fn middle(self) -> Length {
        self.start + self.size.half()
    }
}

/// A line of the guides of a piece.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, TS)]
pub struct GuideMark {
    /// Stands upright instead of lying.
    pub upright: bool,
    /// Distance from the left or the top edge.
    pub at: Length,
    /// What it is.
    pub reason: SnapReason,
    /// Which of the single lines, if it is one.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub line: Option<usize>,
}

/// All lines of the guides on a sheet of a size, the coarsest first.
#[must_use]
pub fn guide_marks(guides: &Guides, sheet: Size) -> Vec<GuideMark> {
    let mut out = Vec::new();
    let mut add = |upright: bool, at: Length, reason: SnapReason, line: Option<usize>| {
        out.push(GuideMark { upright, at, reason, line })
    };
    let inside = guides.inside(sheet);
    let [left, top, right, bottom] = guides.margins;
    for (upright, margin, at) in [
        (true, left, inside.x),
        (true, right, inside.right()),
        (false, top, inside.y),
        (false, bottom, inside.bottom()),
    ] {
        if margin.is_positive() {
            add(upright, at, SnapReason::Margin, None);
        }
    }
    for (upright, edges) in [(true, guides.column_edges(sheet)), (false, guides.row_edges(sheet))] {
        edges.into_iter().flat_map(|(from, to)| [from, to]).for_each(|at| add(upright, at, SnapReason::Column, None));
    }
    for (number, line) in guides.lines.iter().enumerate() {
        add(line.upright, line.at, SnapReason::Guide, Some(number));
    }
    if let Some(step) = guides.grid.filter(|step| step.is_positive()) {
        for (upright, room) in [(true, sheet.w), (false, sheet.h)] {
            (1..=room.raw() / step.raw())
                .for_each(|n| add(upright, Length::from_raw(step.raw() * n), SnapReason::Grid, None));
        }
    }
    out
}

/// Baselines of words, which line up with each other.
#[derive(Debug, Clone, Default)]
pub struct Baselines {
    /// Of what moves, from the top of the moving box.
    pub own: Vec<Length>,
    /// Of others: where they lie, and from where to where.
    pub others: Vec<(Length, SnapRange)>,
}

impl SnapStretch {
    /// The stretch along both of two on one line.
    fn joined(self, other: Self) -> Self {
        Self { from: self.from.min(other.from), to: self.to.max(other.to), ..self }
    }
}

/// Works out all places for `moving` among `others` on a sheet, or on the panels of one, with a safe area inside each, and guides over it.
#[must_use]
pub fn stops(
    moving: Rect,
    others: &[Rect],
    sheets: &[Rect],
    safe: Length,
    guides: &[GuideMark],
    baselines: &Baselines,
) -> SnapStops {
    let whole = around(sheets.iter().copied());
    let axis = |span: fn(Rect) -> Span, upright: bool| {
        let others: Vec<Span> = others.iter().map(|rect| span(*rect)).collect();
        let mut lines = lines(&others);
        for sheet in sheets {
            let inner = safe.is_positive().then(|| span(sheet.outset(-safe)));
            for (stop, meets) in sheet_lines(span(*sheet), inner) {
                // What panels have in common is one line along all of them.
                let same = |(known, how): &&mut (SnapStop, Meets)| {
                    (known.at, known.reason, *how) == (stop.at, stop.reason, meets)
                };
                match lines.iter_mut().find(same) {
                    Some((known, _)) => known.line = known.line.zip(stop.line).map(|(a, b)| a.joined(b)),
                    None => lines.push((stop, meets)),
                }
            }
        }
        for mark in guides.iter().filter(|mark| mark.upright == upright) {
            let cross = span(whole).cross;
            let line = Some(SnapStretch { from: cross.from, to: cross.to, across: mark.at });
            let stop = SnapStop { at: mark.at, reason: mark.reason, line, gaps: Vec::new(), within: None };
            lines.push((stop.clone(), Meets::Edges));
            if mark.reason == SnapReason::Guide {
                lines.push((stop, Meets::Middle));
            }
        }
        (whole_box(span(moving).size, &lines, &others), lines)
    };
    let (left, upright) = axis(Span::across, true);
    let (mut top, level) = axis(Span::down, false);
    for (at, reach) in &baselines.others {
        let line = Some(SnapStretch { from: reach.from, to: reach.to, across: *at });
        top.extend(baselines.own.iter().map(|own| SnapStop {
            at: *at - *own,
            reason: SnapReason::Baseline,
            line,
            gaps: Vec::new(),
            within: None,
        }));
    }
    let sizes = |size: fn(&Rect) -> Length| {
        let mut all: Vec<Length> = others.iter().map(size).filter(|length| length.is_positive()).collect();
        all.sort();
        all.dedup();
        all
    };
    SnapStops {
        left,
        top,
        upright: upright.into_iter().map(|(stop, _)| stop).collect(),
        level: level.into_iter().map(|(stop, _)| stop).collect(),
        widths: sizes(|rect| rect.w),
        heights: sizes(|rect| rect.h),
    }
}

/// Which lines of a moving box may come to lie on a line.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Meets {
    Edges,
    Middle,
}

fn line(at: Length, reason: SnapReason, cause: Span, meets: Meets) -> (SnapStop, Meets) {
    let line = Some(SnapStretch { from: cause.cross.from, to: cause.cross.to, across: at });
    (SnapStop { at, reason, line, gaps: Vec::new(), within: None }, meets)
}

/// The lines of a sheet and of the safe area inside it.
fn sheet_lines(sheet: Span, safe: Option<Span>) -> Vec<(SnapStop, Meets)> {
    let mut out = vec![
        line(sheet.middle(), SnapReason::SheetCentre, sheet, Meets::Middle),
        line(sheet.start, SnapReason::SheetEdge, sheet, Meets::Edges),
        line(sheet.end(), SnapReason::SheetEdge, sheet, Meets::Edges),
    ];
    if let Some(safe) = safe {
        out.push(line(safe.start, SnapReason::Safe, safe, Meets::Edges));
        out.push(line(safe.end(), SnapReason::Safe, safe, Meets::Edges));
    }
    out
}

fn lines(others: &[Span]) -> Vec<(SnapStop, Meets)> {
    let mut out = Vec::new();
    for other in others {
        out.push(line(other.start, SnapReason::ItemEdge, *other, Meets::Edges));
        out.push(line(other.end(), SnapReason::ItemEdge, *other, Meets::Edges));
        out.push(line(other.middle(), SnapReason::ItemCentre, *other, Meets::Middle));
    }
    out
}

/// Places of the start of a box of a size, from lines its edges or middle can lie on and from equal gaps.
fn whole_box(size: Length, lines: &[(SnapStop, Meets)], others: &[Span]) -> Vec<SnapStop> {
    let mut out = Vec::new();
    for (stop, meets) in lines {
        let shifts: &[Length] = match meets {
            Meets::Edges => &[Length::ZERO, size],
            Meets::Middle => &[size.half()],
        };
        out.extend(shifts.iter().map(|shift| SnapStop { at: stop.at - *shift, ..stop.clone() }));
    }
    for (i, a) in others.iter().enumerate() {
        // The neighbour after it on the axis that stands beside it on the other.
        let beside = |b: &&Span| b.start >= a.end() && b.cross.from < a.cross.to && a.cross.from < b.cross.to;
        let next =
            others.iter().enumerate().filter(|(j, _)| *j != i).map(|(_, b)| b).filter(beside).min_by_key(|b| b.start);
        let Some(b) = next else { continue };
        let gap = b.start - a.end();
        let within = SnapRange { from: a.cross.from.max(b.cross.from), to: a.cross.to.min(b.cross.to) };
        let across = within.from + (within.to - within.from).half();
        let mut put = |at: Length, gaps: [(Length, Length); 2]| {
            let gaps = gaps.map(|(from, to)| SnapStretch { from, to, across }).to_vec();
            out.push(SnapStop { at, reason: SnapReason::EqualGap, line: None, gaps, within: Some(within) });
        };
        if gap.is_positive() {
            put(b.end() + gap, [(a.end(), b.start), (b.end(), b.end() + gap)]);
            put(a.start - gap - size, [(a.start - gap, a.start), (a.end(), b.start)]);
        }
        if gap > size {
            let each = (gap - size).half();
            put(a.end() + each, [(a.end(), a.end() + each), (b.start - each, b.start)]);
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn any_rect() -> impl Strategy<Value = Rect> {
        (0i64..900, 0i64..900, 1i64..300, 1i64..300).prop_map(|(x, y, w, h)| {
            let px = |v: i64| Length::css_px(v as f64);
            Rect::new(px(x), px(y), px(w), px(h))
        })
    }

    proptest! {
        /// In place, a line of the moving box lies on the line shown, or the gaps shown are equal.
        #[test]
        fn what_is_shown_is_true(moving in any_rect(), others in prop::collection::vec(any_rect(), 0..8)) {
            let sheet = Rect::new(Length::ZERO, Length::ZERO, Length::css_px(1_000.0), Length::css_px(1_000.0));
            let found = stops(moving, &others, &[sheet], Length::css_px(40.0), &[], &Baselines::default());
            for (stops, size) in [(&found.left, moving.w), (&found.top, moving.h)] {
                for stop in stops {
                    if let Some(line) = stop.line {
                        let lines = [stop.at, stop.at + size.half(), stop.at + size];
                        prop_assert!(lines.contains(&line.across), "{stop:?}");
                    }
                    if let [a, b] = stop.gaps.as_slice() {
                        let off = ((a.to - a.from) - (b.to - b.from)).abs();
                        prop_assert!(off.raw() <= 1 && (a.to - a.from).is_positive(), "{stop:?}");
                        // One of the gaps ends at the moving box.
                        let edges = [stop.at, stop.at + size];
                        prop_assert!([a.from, a.to, b.from, b.to].iter().any(|edge| edges.iter().any(|own| (*own - *edge).abs().raw() <= 1)), "{stop:?}");
                    }
                }
            }
        }

        /// Every edge is a place for both edges of the moving box and every middle for its middle, and nothing else is.
        #[test]
        fn every_line_is_a_place_for_what_can_lie_on_it(moving in any_rect(), others in prop::collection::vec(any_rect(), 0..6)) {
            let px = |value: f64| Length::css_px(value);
            let sheet = Rect::new(Length::ZERO, Length::ZERO, px(1_000.0), px(800.0));
            let guides = [
                GuideMark { upright: true, at: px(333.0), reason: SnapReason::Guide, line: Some(0) },
                GuideMark { upright: false, at: px(222.0), reason: SnapReason::Column, line: None },
            ];
            let reach = SnapRange { from: px(1.0), to: px(9.0) };
            let baselines = Baselines { own: vec![px(12.0), px(40.0)], others: vec![(px(300.0), reach)] };
            let found = stops(moving, &others, &[sheet], px(40.0), &guides, &baselines);
            let mut left = vec![(px(500.0) - moving.w.half(), SnapReason::SheetCentre), (px(333.0) - moving.w.half(), SnapReason::Guide)];
            let mut top = vec![(px(400.0) - moving.h.half(), SnapReason::SheetCentre)];
            top.extend(baselines.own.iter().map(|own| (px(300.0) - *own, SnapReason::Baseline)));
            let both = |out: &mut Vec<(Length, SnapReason)>, at: Length, size: Length, reason| out.extend([(at, reason), (at - size, reason)]);
            for (at, reason) in [(0.0, SnapReason::SheetEdge), (1_000.0, SnapReason::SheetEdge), (40.0, SnapReason::Safe), (960.0, SnapReason::Safe), (333.0, SnapReason::Guide)] {
                both(&mut left, px(at), moving.w, reason);
            }
            for (at, reason) in [(0.0, SnapReason::SheetEdge), (800.0, SnapReason::SheetEdge), (40.0, SnapReason::Safe), (760.0, SnapReason::Safe), (222.0, SnapReason::Column)] {
                both(&mut top, px(at), moving.h, reason);
            }
            for other in &others {
                both(&mut left, other.x, moving.w, SnapReason::ItemEdge);
                both(&mut left, other.right(), moving.w, SnapReason::ItemEdge);
                left.push((other.x + other.w.half() - moving.w.half(), SnapReason::ItemCentre));
                both(&mut top, other.y, moving.h, SnapReason::ItemEdge);
                both(&mut top, other.bottom(), moving.h, SnapReason::ItemEdge);
                top.push((other.y + other.h.half() - moving.h.half(), SnapReason::ItemCentre));
            }
            for (mut wanted, found) in [(left, &found.left), (top, &found.top)] {
                let mut found: Vec<_> = found.iter().filter(|stop| stop.reason != SnapReason::EqualGap).map(|stop| (stop.at, stop.reason)).collect();
                wanted.sort();
                found.sort();
                prop_assert_eq!(found, wanted);
            }
            let sorted = |mut all: Vec<Length>| { all.sort(); all.dedup(); all };
            prop_assert_eq!(&found.widths, &sorted(others.iter().map(|other| other.w).collect()));
            prop_assert_eq!(&found.heights, &sorted(others.iter().map(|other| other.h).collect()));
        }

        /// Of two boxes side by side: after the second, before the first and, where there is room, in the middle between them.
        #[test]
        fn two_boxes_make_three_places_with_equal_gaps(first in any_rect(), gap in 1i64..400, second in (1i64..300, 1i64..300), down in -400i64..400, size in 1i64..500) {
            let px = |value: i64| Length::css_px(value as f64);
            let (w, h) = (px(second.0), px(second.1));
            let other = Rect::new(first.right() + px(gap), first.y + px(down), w, h);
            let moving = Rect::new(Length::ZERO, Length::ZERO, px(size), px(10));
            let sheet = Rect::new(Length::ZERO, Length::ZERO, px(1_000), px(1_000));
            let found = stops(moving, &[first, other], &[sheet], Length::ZERO, &[], &Baselines::default());
            let beside = other.y < first.bottom() && first.y < other.bottom();
            let mut wanted = Vec::new();
            if beside {
                wanted.extend([other.right() + px(gap), first.x - px(gap) - px(size)]);
                wanted.extend((gap > size).then(|| first.right() + (px(gap) - px(size)).half()));
            }
            let mut places: Vec<Length> = found.left.iter().filter(|stop| stop.reason == SnapReason::EqualGap).map(|stop| stop.at).collect();
            wanted.sort();
            places.sort();
            prop_assert_eq!(places, wanted);
            for stop in found.left.iter().filter(|stop| stop.reason == SnapReason::EqualGap) {
                let within = stop.within.unwrap();
                prop_assert_eq!((within.from, within.to), (first.y.max(other.y), first.bottom().min(other.bottom())));
                prop_assert!(stop.gaps.iter().all(|gap| gap.across >= within.from && gap.across <= within.to));
            }
        }

        #[test]
        fn the_middle_of_the_sheet_is_always_a_place(moving in any_rect(), others in prop::collection::vec(any_rect(), 0..5)) {
            let sheet = Rect::new(Length::ZERO, Length::ZERO, Length::css_px(1_000.0), Length::css_px(700.0));
            let found = stops(moving, &others, &[sheet], Length::ZERO, &[], &Baselines::default());
            let centred = found.left.iter().find(|stop| stop.reason == SnapReason::SheetCentre).unwrap().at;
            prop_assert!((centred + moving.w.half() - sheet.w.half()).raw() == 0);
            prop_assert!(found.left.iter().all(|stop| stop.reason != SnapReason::Safe));
        }
    }

    fn guides() -> Guides {
        let px = Length::css_px;
        let lines = vec![
            vatman_document::GuideLine { upright: true, at: px(333.0) },
            vatman_document::GuideLine { upright: false, at: px(77.0) },
        ];
        Guides {
            margins: [px(50.0), px(60.0), px(50.0), px(60.0)],
            columns: 3,
            column_gutter: px(30.0),
            rows: 2,
            row_gutter: px(20.0),
            lines,
            grid: Some(px(250.0)),
        }
    }

    #[test]
    fn guides_say_what_each_line_is() {
        let px = Length::css_px;
        let marks = guide_marks(&guides(), Size::new(px(1_000.0), px(700.0)));
        let at = |upright: bool, reason: SnapReason| {
            marks
                .iter()
                .filter(|mark| mark.upright == upright && mark.reason == reason)
                .map(|mark| mark.at.to_css_px().round() as i64)
                .collect::<Vec<_>>()
        };
        assert_eq!((at(true, SnapReason::Margin), at(false, SnapReason::Margin)), (vec![50, 950], vec![60, 640]));
        // (900 - 2 x 30) / 3 = 280
        assert_eq!(at(true, SnapReason::Column), [50, 330, 360, 640, 670, 950]);
        assert_eq!(at(false, SnapReason::Column), [60, 340, 360, 640]);
        assert_eq!((at(true, SnapReason::Guide), at(false, SnapReason::Guide)), (vec![333], vec![77]));
        assert_eq!(
            (at(true, SnapReason::Grid), at(false, SnapReason::Grid)),
            (vec![250, 500, 750, 1_000], vec![250, 500])
        );
        assert_eq!(marks.iter().filter_map(|mark| mark.line).collect::<Vec<_>>(), [0, 1]);
        assert!(guide_marks(&Guides::default(), Size::new(px(1_000.0), px(700.0))).is_empty());
    }

    #[test]
    fn a_box_falls_onto_columns_by_its_edges_and_onto_lines_by_its_middle_too() {
        let px = Length::css_px;
        let sheet = Rect::new(Length::ZERO, Length::ZERO, px(1_000.0), px(700.0));
        let marks = guide_marks(&guides(), sheet.size());
        let found = stops(
            Rect::new(px(1.0), px(1.0), px(100.0), px(40.0)),
            &[],
            &[sheet],
            Length::ZERO,
            &marks,
            &Baselines::default(),
        );
        let lefts = |reason: SnapReason| {
            found
                .left
                .iter()
                .filter(|stop| stop.reason == reason)
                .map(|stop| stop.at.to_css_px().round() as i64)
                .collect::<Vec<_>>()
        };
        assert!(
            lefts(SnapReason::Column).contains(&360) && lefts(SnapReason::Column).contains(&230),
            "by its left and by its right edge"
        );
        assert!(!lefts(SnapReason::Column).contains(&280), "not by its middle");
        assert_eq!(lefts(SnapReason::Guide), [333, 233, 283]);
        assert!(
            found.upright.iter().any(|stop| stop.reason == SnapReason::Grid)
                && found.level.iter().any(|stop| stop.reason == SnapReason::Margin)
        );
    }

    #[test]
    fn a_third_item_finds_the_gap_of_the_other_two() {
        let px = |v: f64| Length::css_px(v);
        let row = |x: f64| Rect::new(px(x), px(100.0), px(80.0), px(50.0));
        let sheet = Rect::new(Length::ZERO, Length::ZERO, px(1_000.0), px(1_000.0));
        let found = stops(row(500.0), &[row(100.0), row(200.0)], &[sheet], Length::ZERO, &[], &Baselines::default());
        let gaps: Vec<_> = found
            .left
            .iter()
            .filter(|stop| stop.reason == SnapReason::EqualGap)
            .map(|stop| stop.at.to_css_px())
            .collect();
        assert_eq!(gaps, [300.0, 0.0]);
    }

    #[test]
    fn words_come_to_stand_on_the_baseline_of_others() {
        let px = Length::css_px;
        let sheet = Rect::new(px(0.0), px(0.0), px(1_000.0), px(1_000.0));
        let baselines = Baselines {
            own: vec![px(30.0), px(70.0)],
            others: vec![(px(412.0), SnapRange { from: px(100.0), to: px(300.0) })],
        };
        let found =
            stops(Rect::new(px(500.0), px(390.0), px(200.0), px(80.0)), &[], &[sheet], Length::ZERO, &[], &baselines);
        let at: Vec<Length> =
            found.top.iter().filter(|stop| stop.reason == SnapReason::Baseline).map(|stop| stop.at).collect();
        assert_eq!(at, [px(382.0), px(342.0)], "with its first line, or with its last");
        assert!(found.left.iter().all(|stop| stop.reason != SnapReason::Baseline));
    }
}
