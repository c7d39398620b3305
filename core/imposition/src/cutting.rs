//! In what order a sheet is cut, as a guillotine cuts: always through the whole of what lies in it.

use serde::Serialize;
use ts_rs::TS;
use vatman_units::{Length, Point, Rect, Size};

/// Cuts in one direction through parts that are alike.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct Cuts {
    /// Whether the knife goes from top to bottom of the sheet as it was printed, instead of from left to right.
    pub upright: bool,
    /// Where on the sheet the alike parts lay that are cut so; they can be laid on each other.
    pub parts: Vec<Point>,
    /// Width and height of each.
    pub size: Size,
    /// Where, from the left or the top of the part.
    pub at: Vec<Length>,
}

/// The steps by which a sheet is cut into its pieces. Parts that no straight cut through the whole can divide are left as they are.
#[must_use]
pub fn cutting_steps(paper: Size, trims: &[Rect]) -> Vec<Cuts> {
    let mut steps = Vec::new();
    part(paper, trims, &[Point::default()], &mut steps);
    steps
}

/// Where a part can be cut through without touching a piece: at the edges of its pieces, from `near` and `far` of each.
fn lines(trims: &[Rect], span: Length, edges: impl Fn(&Rect) -> (Length, Length)) -> Vec<Length> {
    let mut at: Vec<Length> = trims.iter().flat_map(|trim| <[_; 2]>::from(edges(trim))).collect();
    at.sort_unstable();
    at.dedup();
    at.retain(|line| {
        *line > Length::ZERO
            && *line < span
            && trims.iter().all(|trim| {
                let (near, far) = edges(trim);
                *line <= near || *line >= far
            })
    });
    at
}

fn part(size: Size, trims: &[Rect], parts: &[Point], steps: &mut Vec<Cuts>) {
    let across = lines(trims, size.w, |trim| (trim.x, trim.right()));
    let down = lines(trims, size.h, |trim| (trim.y, trim.bottom()));
    // The direction with fewer cuts first: strips are long, and lie on each other for the others.
    let upright = !across.is_empty() && (down.is_empty() || across.len() <= down.len());
    let at = if upright { across } else { down };
    if at.is_empty() {
        return;
    }
    steps.push(Cuts { upright, parts: parts.to_vec(), size, at: at.clone() });
    let end = if upright { size.w } else { size.h };
    let mut alike: Vec<(Size, Vec<Rect>, Vec<Point>)> = Vec::new();
    let mut from = Length::ZERO;
    for to in at.into_iter().chain([end]) {
        let inside = |trim: &&Rect| {
            let (near, far) = if upright { (trim.x, trim.right()) } else { (trim.y, trim.bottom()) };
            near >= from && far <= to
        };
        let moved = |trim: &Rect| {
            if upright { trim.moved(-from, Length::ZERO) } else { trim.moved(Length::ZERO, -from) }
        };
        let own: Vec<Rect> = trims.iter().filter(inside).map(moved).collect();
        let begin = |part: &Point| {
            if upright { Point { x: part.x + from, ..*part } } else { Point { y: part.y + from, ..*part } }
        };
        let begins: Vec<Point> = parts.iter().map(begin).collect();
        let size = if upright { Size::new(to - from, size.h) } else { Size::new(size.w, to - from) };
        from = to;
        if own.is_empty() {
            continue;
        }
        match alike.iter_mut().find(|(other, trims, _)| *other == size && *trims == own) {
            Some((_, _, all)) => all.extend(begins),
            None => alike.push((size, own, begins)),
        }
    }
    for (size, own, begins) in alike {
        part(size, &own, &begins, steps);
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fill::{Room, Turning, fill};
    use proptest::prelude::*;

    #[test]
    fn ten_cards_take_two_steps() {
        let inch = Length::inches;
        let letter = Size::new(inch(8.5), inch(11.0));
        let room = Room::new(Rect::of(letter).outset(inch(-0.25)), Length::ZERO, Length::ZERO, Turning::Upright);
        let trims: Vec<Rect> = fill(&room, Size::new(inch(3.5), inch(2.0))).iter().map(|spot| spot.trim).collect();
        let steps = cutting_steps(letter, &trims);
        assert_eq!(steps.len(), 2);
        assert_eq!(
            (steps[0].upright, steps[0].parts.len(), steps[0].at.clone()),
            (true, 1, vec![inch(0.25), inch(3.75), inch(7.25)])
        );
        assert_eq!((steps[1].upright, steps[1].parts.len(), steps[1].at.len()), (false, 2, 6));
        assert_eq!(steps[1].size, Size::new(inch(3.5), inch(11.0)));
    }

    #[test]
    fn parts_of_one_size_with_different_pieces_are_cut_each_for_itself() {
        let mm = |v: i64| Length::mm(v as f64);
        let trims = [Rect::new(mm(0), mm(0), mm(50), mm(30)), Rect::new(mm(50), mm(0), mm(50), mm(60))];
        let steps = cutting_steps(Size::new(mm(100), mm(100)), &trims);
        let said: Vec<_> = steps.iter().map(|step| (step.upright, step.parts.len(), step.at.clone())).collect();
        assert_eq!(said, [(true, 1, vec![mm(50)]), (false, 1, vec![mm(30)]), (false, 1, vec![mm(60)])]);
    }

    proptest! {
        /// Doing the steps one by one, blindly, leaves every piece cut out and none cut through.
        #[test]
        fn the_steps_cut_every_piece_out(w in 30i64..90, h in 30i64..90, gap in 0i64..3, inset in 0i64..8) {
            let mm = |v: i64| Length::mm(v as f64);
            let paper = Size::new(mm(210), mm(297));
            let room = Room::new(Rect::of(paper).outset(mm(-inset)), mm(gap), Length::ZERO, Turning::Either);
            let trims: Vec<Rect> = fill(&room, Size::new(mm(w), mm(h))).iter().map(|spot| spot.trim).collect();
            let mut parts = vec![Rect::of(paper)];
            for step in cutting_steps(paper, &trims) {
                let (now, rest): (Vec<Rect>, Vec<Rect>) = parts.into_iter().partition(|part| {
                    part.size() == step.size && trims.iter().any(|trim| part.contains(*trim) && part != trim) && fits(part, &trims, &step)
                });
                let mut lay: Vec<_> = now.iter().map(|part| (part.x, part.y)).collect();
                let mut said: Vec<_> = step.parts.iter().map(|part| (part.x, part.y)).collect();
                lay.sort_unstable();
                said.sort_unstable();
                prop_assert_eq!(lay, said);
                parts = rest;
                for part in now {
                    let mut from = Length::ZERO;
                    let end = if step.upright { part.w } else { part.h };
                    for to in step.at.iter().copied().chain([end]) {
                        parts.push(if step.upright {
                            Rect::new(part.x + from, part.y, to - from, part.h)
                        } else {
                            Rect::new(part.x, part.y + from, part.w, to - from)
                        });
                        from = to;
                    }
                }
            }
            for trim in &trims {
                prop_assert!(parts.contains(trim), "{trim:?}");
            }
        }
    }

    /// Whether a step is one for a part: each of its cuts runs along an edge of a piece on it and through none.
    fn fits(part: &Rect, trims: &[Rect], step: &Cuts) -> bool {
        let own: Vec<&Rect> = trims.iter().filter(|trim| part.contains(**trim)).collect();
        step.at.iter().all(|at| {
            let edges = |trim: &Rect| {
                if step.upright {
                    (trim.x - part.x, trim.right() - part.x)
                } else {
                    (trim.y - part.y, trim.bottom() - part.y)
                }
            };
            own.iter().any(|trim| edges(trim).0 == *at || edges(trim).1 == *at)
                && own.iter().all(|trim| *at <= edges(trim).0 || *at >= edges(trim).1)
        })
    }
}
