//! Marks on a sheet by which it is cut and its sides are registered: always outside of what is printed.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Length, Point, Rect};

use crate::paper::Paper;

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
/// What stays clear at the edge of the paper, also where a printer reaches it.
const EDGE: Length = Length::from_raw(36_000 / 2);

/// Where marks can be printed: what the printer reaches of a paper, and not its very edge.
#[must_use]
pub fn marked_area(paper: &Paper) -> Rect {
    let (area, sheet) = (paper.printable(), Rect::of(paper.size).outset(-EDGE));
    let (x, y) = (area.x.max(sheet.x), area.y.max(sheet.y));
    Rect::new(x, y, area.right().min(sheet.right()) - x, area.bottom().min(sheet.bottom()) - y)
}

/// A straight mark.
pub type Stroke = (Point, Point);

/// A line across a piece: which piece, whether the line runs from top to bottom, and where it is on the sheet.
pub type Across = (usize, bool, Length);

/// Crop marks in line with the edges of pieces that carry so much bleed: outside the bleed of every piece, within `reach` (what of the
/// paper is printed on), each once.
#[must_use]
pub fn crop_marks(reach: Rect, trims: &[Rect], bleed: Length) -> Vec<Stroke> {
    let edges = trims.iter().enumerate().flat_map(|(at, trim)| {
        [(at, true, trim.x), (at, true, trim.right()), (at, false, trim.y), (at, false, trim.bottom())]
    });
    marks_at(reach, trims, bleed, &edges.collect::<Vec<_>>())
}

/// Marks in line with lines across pieces, such as their folds, as crop marks stand in line with edges.
#[must_use]
pub fn marks_at(reach: Rect, trims: &[Rect], bleed: Length, lines: &[Across]) -> Vec<Stroke> {
    let mut out: Vec<Stroke> = Vec::new();
    let offset = bleed.max(OFFSET);
    let held: Vec<Rect> = trims.iter().map(|trim| trim.outset(bleed)).collect();
    let sideways = |rect: &Rect| (rect.x, rect.right());
    let down = |rect: &Rect| (rect.y, rect.bottom());
    for (piece, upright, at) in lines {
        let Some(trim) = trims.get(*piece) else { continue };
        let ((near, far), (first, last)) =
            if *upright { (down(trim), down(&reach)) } else { (sideways(trim), sideways(&reach)) };
        let (least, most) = if *upright { sideways(&reach) } else { down(&reach) };
        if !(least..=most).contains(at) {
            continue;
        }
        for (from, direction, limit) in [(near - offset, -1, first), (far + offset, 1, last)] {
            let room = if *upright {
                free(*at, (from, direction, limit), &held, sideways, down)
            } else {
                free(*at, (from, direction, limit), &held, down, sideways)
            };
            let Some(to) = room else { continue };
            out.push(if *upright {
                ordered(Point { x: *at, y: from }, Point { x: *at, y: to })
            } else {
                ordered(Point { x: from, y: *at }, Point { x: to, y: *at })
            });
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
    (from, direction, limit): (Length, i64, Length),
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

/// The middles of registration marks: in the middle of each edge of `reach` (what of the paper is printed on) beside which there is room for
/// one of a width, so that both sides and all inks can be laid over each other by eye.
#[must_use]
pub fn registration(reach: Rect, trims: &[Rect], bleed: Length, width: Length) -> Vec<Point> {
    let held: Vec<Rect> = trims.iter().map(|trim| trim.outset(bleed)).collect();
    let half = width.half();
    let (middle, centre) = (reach.x + reach.w.half(), reach.y + reach.h.half());
    let at = |x, y| Point { x, y };
    let places = [
        at(reach.x + half, centre),
        at(reach.right() - half, centre),
        at(middle, reach.y + half),
        at(middle, reach.bottom() - half),
    ];
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
    use crate::paper::Margins;
    use proptest::prelude::*;
    use vatman_units::Size;

    fn mm(value: f64) -> Length {
        Length::mm(value)
    }

    /// A printer that reaches all of a sheet.
    fn all_of(paper: Size) -> Rect {
        marked_area(&Paper::new(paper, Margins::default()).unwrap())
    }

    #[test]
    fn a_single_piece_has_eight_marks_and_pieces_side_by_side_share_theirs() {
        let a4 = Size::new(mm(210.0), mm(297.0));
        let card = Rect::new(mm(15.0), mm(50.0), mm(85.0), mm(55.0));
        let marks = crop_marks(all_of(a4), &[card], mm(3.0));
        assert_eq!(marks.len(), 8);
        assert!(marks.iter().all(|(from, to)| (to.x - from.x).max(to.y - from.y) == mm(5.0)));
        let beside = card.moved(card.w, Length::ZERO);
        assert_eq!(crop_marks(all_of(a4), &[card, beside], Length::ZERO).len(), 10);
        assert_eq!(cut_lines(&[card, beside]).len(), 7);
        // Where the gutter is as wide as both bleeds, no mark fits into it.
        let gutter = card.moved(card.w + mm(6.0), Length::ZERO);
        assert_eq!(crop_marks(all_of(a4), &[card, gutter], mm(3.0)).len(), 12);
        // Near the edge of the paper a mark is shorter, and gone where it would be a dot.
        let corner = Rect::new(mm(4.0), mm(2.0), mm(50.0), mm(50.0));
        let marks = crop_marks(all_of(a4), &[corner], Length::ZERO);
        assert_eq!(marks.len(), 6, "{marks:?}");
        assert!(marks.contains(&(Point { x: mm(0.5), y: mm(2.0) }, Point { x: mm(3.0), y: mm(2.0) })));
    }

    #[test]
    fn registration_marks_stand_where_nothing_is_printed() {
        let a4 = Size::new(mm(210.0), mm(297.0));
        let sheet = Rect::of(a4).outset(mm(-20.0));
        assert_eq!(registration(all_of(a4), &[sheet], mm(3.0), mm(6.0)).len(), 4);
        assert_eq!(registration(all_of(a4), &[Rect::of(a4)], mm(3.0), mm(6.0)).len(), 0);
        assert_eq!(
            registration(all_of(a4), &[Rect::new(mm(3.0), mm(20.0), mm(187.0), mm(257.0))], Length::ZERO, mm(6.0))
                .len(),
            3
        );
    }

    #[test]
    fn marks_of_folds_stand_where_the_folds_are() {
        let a4 = Size::new(mm(210.0), mm(297.0));
        let card = Rect::new(mm(20.0), mm(50.0), mm(150.0), mm(100.0));
        let marks = marks_at(all_of(a4), &[card], mm(3.0), &[(0, true, mm(95.0)), (7, true, mm(1.0))]);
        let at = |y: f64| Point { x: mm(95.0), y: mm(y) };
        assert_eq!(marks, [(at(42.0), at(47.0)), (at(153.0), at(158.0))]);
    }

    proptest! {
        #[test]
        fn no_mark_lies_on_what_is_printed(w in 20i64..90, h in 20i64..90, gap in 0i64..12, bleed in 0i64..4, inset in 0i64..15, margin in 0i64..8) {
            let mm = |v: i64| Length::mm(v as f64);
            let paper = Size::new(mm(210), mm(297));
            let room = Room::new(Rect::of(paper).outset(mm(-inset)), mm(gap), mm(bleed), Turning::Either);
            let trims: Vec<Rect> = fill(&room, Size::new(mm(w), mm(h))).iter().map(|spot| spot.trim).collect();
            let reach = marked_area(&Paper::new(paper, Margins::all(mm(margin.min(inset)))).unwrap());
            for (from, to) in crop_marks(reach, &trims, room.bleed) {
                prop_assert!(from.x >= reach.x && to.x <= reach.right() && from.y >= reach.y && to.y <= reach.bottom());
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
