//! Marks on a sheet by which it is cut and its sides are registered: always outside of what is printed.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Length, Point, Rect, Size};

/// What a sheet is marked with.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Marks {
    /// Nothing.
    None,
    /// Short lines in line with the edges, in the margins and wherever there is room between pieces.
    #[default]
    Crop,
    /// A hairline around every piece.
    Lines,
}

/// A crop mark is so long where there is room, and so far from the trim at least.
const LENGTH: Length = Length::from_raw(5 * 36_000);
const OFFSET: Length = Length::from_raw(36_000);
/// Shorter than this a mark is of no use.
const LEAST: Length = Length::from_raw(36_000 * 3 / 2);
/// What stays clear at the edge of the paper.
const EDGE: Length = Length::from_raw(36_000 / 2);

/// A straight mark.
pub type Stroke = (Point, Point);

/// Crop marks in line with the edges of pieces that carry so much bleed: outside the bleed of every piece, within the paper, each once.
#[must_use]
pub fn crop_marks(paper: Size, trims: &[Rect], bleed: Length) -> Vec<Stroke> {
    let mut out: Vec<Stroke> = Vec::new();
    let offset = bleed.max(OFFSET);
    let held: Vec<Rect> = trims.iter().map(|trim| trim.outset(bleed)).collect();
    for trim in trims {
        for at in [trim.x, trim.right()] {
            // Above and below.
            for (from, out_to) in [(trim.y - offset, -1), (trim.bottom() + offset, 1)] {
                let limit = if out_to < 0 { EDGE } else { paper.h - EDGE };
                let room = free(at, from, out_to, limit, &held, |rect| (rect.x, rect.right()), |rect| (rect.y, rect.bottom()));
                if let Some(to) = room {
                    out.push(ordered(Point { x: at, y: from }, Point { x: at, y: to }));
                }
            }
        }
        for at in [trim.y, trim.bottom()] {
            for (from, out_to) in [(trim.x - offset, -1), (trim.right() + offset, 1)] {
                let limit = if out_to < 0 { EDGE } else { paper.w - EDGE };
                let room = free(at, from, out_to, limit, &held, |rect| (rect.y, rect.bottom()), |rect| (rect.x, rect.right()));
                if let Some(to) = room {
                    out.push(ordered(Point { x: from, y: at }, Point { x: to, y: at }));
                }
            }
        }
    }
    out.sort_by_key(|(from, to)| (from.x, from.y, to.x, to.y));
    out.dedup();
    out
}

/// Where a mark ends that begins at `from` and goes up or down an axis, before it meets what is held by a piece; nothing where it would be
/// too short.
fn free(
    at: Length,
    from: Length,
    direction: i64,
    limit: Length,
    held: &[Rect],
    across: impl Fn(&Rect) -> (Length, Length),
    along: impl Fn(&Rect) -> (Length, Length),
) -> Option<Length> {
    let mut to = from + Length::from_raw(LENGTH.raw() * direction);
    to = if direction < 0 { to.max(limit) } else { to.min(limit) };
    for rect in held {
        let (low, high) = across(rect);
        // A line along the edge of what is printed would be printed on, too.
        if at < low || at > high {
            continue;
        }
        let (near, far) = along(rect);
        if direction < 0 && near < from && far > to {
            to = to.max(far);
        } else if direction > 0 && far > from && near < to {
            to = to.min(near);
        }
    }
    ((to - from).raw() * direction >= LEAST.raw()).then_some(to)
}

fn ordered(a: Point, b: Point) -> Stroke {
    if (a.x, a.y) <= (b.x, b.y) { (a, b) } else { (b, a) }
}

/// The edges of pieces, each once: pieces that lie against each other share theirs.
#[must_use]
pub fn cut_lines(trims: &[Rect]) -> Vec<Stroke> {
    let mut out: Vec<Stroke> = trims
        .iter()
        .flat_map(|trim| {
            let (left, top, right, bottom) = (trim.x, trim.y, trim.right(), trim.bottom());
            let at = |x, y| Point { x, y };
            [
                (at(left, top), at(right, top)),
                (at(left, bottom), at(right, bottom)),
                (at(left, top), at(left, bottom)),
                (at(right, top), at(right, bottom)),
            ]
        })
        .collect();
    out.sort_by_key(|(from, to)| (from.x, from.y, to.x, to.y));
    out.dedup();
    out
}

/// The middles of registration marks: in the middle of each margin that has room for one of a width, so that both sides and all inks can
/// be laid over each other by eye.
#[must_use]
pub fn registration(paper: Size, trims: &[Rect], bleed: Length, width: Length) -> Vec<Point> {
    let held: Vec<Rect> = trims.iter().map(|trim| trim.outset(bleed)).collect();
    let half = width.half() + EDGE;
    let (middle, centre) = (paper.w.half(), paper.h.half());
    let at = |x, y| Point { x, y };
    let places = [at(half, centre), at(paper.w - half, centre), at(middle, half), at(middle, paper.h - half)];
    let clear = |place: &Point| {
        let own = Rect::new(place.x - width.half(), place.y - width.half(), width, width);
        held.iter().all(|rect| {
            rect.right() <= own.x || rect.x >= own.right() || rect.bottom() <= own.y || rect.y >= own.bottom()
        })
    };
    places.into_iter().filter(clear).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fill::{Room, Turning, fill};
    use proptest::prelude::*;

    fn mm(value: f64) -> Length {
        Length::mm(value)
    }

    #[test]
    fn a_single_piece_has_eight_marks_and_pieces_side_by_side_share_theirs() {
        let a4 = Size::new(mm(210.0), mm(297.0));
        let card = Rect::new(mm(15.0), mm(50.0), mm(85.0), mm(55.0));
        let marks = crop_marks(a4, &[card], mm(3.0));
        assert_eq!(marks.len(), 8);
        assert!(marks.iter().all(|(from, to)| (to.x - from.x).max(to.y - from.y) == mm(5.0)));
        let beside = card.moved(card.w, Length::ZERO);
        assert_eq!(crop_marks(a4, &[card, beside], Length::ZERO).len(), 10);
        assert_eq!(cut_lines(&[card, beside]).len(), 7);
        // Where the gutter is as wide as both bleeds, no mark fits into it.
        let gutter = card.moved(card.w + mm(6.0), Length::ZERO);
        assert_eq!(crop_marks(a4, &[card, gutter], mm(3.0)).len(), 12);
        // Near the edge of the paper a mark is shorter, and gone where it would be a dot.
        let corner = Rect::new(mm(4.0), mm(2.0), mm(50.0), mm(50.0));
        let marks = crop_marks(a4, &[corner], Length::ZERO);
        assert_eq!(marks.len(), 6, "{marks:?}");
        assert!(marks.contains(&(Point { x: mm(0.5), y: mm(2.0) }, Point { x: mm(3.0), y: mm(2.0) })));
    }

    #[test]
    fn registration_marks_stand_where_nothing_is_printed() {
        let a4 = Size::new(mm(210.0), mm(297.0));
        let sheet = Rect::of(a4).outset(mm(-20.0));
        assert_eq!(registration(a4, &[sheet], mm(3.0), mm(6.0)).len(), 4);
        assert_eq!(registration(a4, &[Rect::of(a4)], mm(3.0), mm(6.0)).len(), 0);
        assert_eq!(registration(a4, &[Rect::new(mm(3.0), mm(20.0), mm(187.0), mm(257.0))], Length::ZERO, mm(6.0)).len(), 3);
    }

    proptest! {
        #[test]
        fn no_mark_lies_on_what_is_printed(w in 20i64..90, h in 20i64..90, gap in 0i64..12, bleed in 0i64..4, inset in 0i64..15) {
            let mm = |v: i64| Length::mm(v as f64);
            let paper = Size::new(mm(210), mm(297));
            let room = Room::new(Rect::of(paper).outset(mm(-inset)), mm(gap), mm(bleed), Turning::Either);
            let trims: Vec<Rect> = fill(&room, Size::new(mm(w), mm(h))).iter().map(|spot| spot.trim).collect();
            for (from, to) in crop_marks(paper, &trims, room.bleed) {
                prop_assert!(from.x >= Length::ZERO && to.x <= paper.w && from.y >= Length::ZERO && to.y <= paper.h);
                for trim in &trims {
                    let held = trim.outset(room.bleed);
                    // Touching the very edge of what is printed is what a mark without bleed does in the worst case: not even that.
                    let off = to.x < held.x || from.x > held.right() || to.y <= held.y || from.y >= held.bottom();
                    let off = off || to.y < held.y || from.y > held.bottom() || to.x <= held.x || from.x >= held.right();
                    prop_assert!(off, "{from:?} {to:?} {held:?}");
                }
            }
        }
    }
}
