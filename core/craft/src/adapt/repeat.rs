//! The same move in other sizes: what was moved, resized or turned in one, repeated where the item stands in a like relation to its sheet.

use vatman_document::{Command, ItemId, Job, Known, Piece, PieceId, Place};
use vatman_units::{Angle, Length, Placement, Point, Ratio, Rect, Size};

use crate::check::{Finding, findings};
use crate::compose::PlaceEntry;
use crate::studio::Studio;

/// A move that means the same in another piece.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Repeat {
    /// Where.
    pub piece: PieceId,
    /// Whether something of it was placed by hand there: it is not moved without being asked.
    pub by_hand: bool,
    /// The change.
    pub command: Command,
}

/// Nearer to an edge than this share of the side, a thing is tied to that edge by its distance.
const NEAR: f64 = 0.2;
/// Wider than this share of the side, a thing is tied to both edges.
const ACROSS: f64 = 0.9;

/// The places that taking a change back would give, by item: where what it moved stood before.
#[must_use]
pub fn places_before(inverse: &Command) -> Vec<(ItemId, Place)> {
    let mut out: Vec<(ItemId, Place)> = Vec::new();
    let mut of = |command: &Command| {
        if let Command::SetPlace { item, place } = command {
            out.retain(|(id, _)| id != item);
            out.push((item.clone(), *place));
        }
    };
    fn each(command: &Command, of: &mut dyn FnMut(&Command)) {
        match command {
            Command::All { commands } => commands.iter().for_each(|command| each(command, of)),
            command => of(command),
        }
    }
    each(inverse, &mut of);
    out
}

/// Where a box of one sheet lies on another: near an edge as far from it, by the shorter side; else at the same share of the way.
fn mapped(rect: Rect, from: Size, to: Size) -> Rect {
    let unit = to.w.min(to.h).to_css_px() / from.w.min(from.h).to_css_px();
    let along = |start: f64, length: f64, from: f64, to: f64| {
        let (before, after) = (start, from - start - length);
        let scaled = length * unit;
        if length >= from * ACROSS {
            (before * unit, to - (before + after) * unit)
        } else if before.min(after) < from * NEAR && (before - after).abs() > from * 0.02 {
            if before < after { (before * unit, scaled) } else { (to - after * unit - scaled, scaled) }
        } else {
            let middle = (start + length / 2.0) / from * to;
            (middle - scaled / 2.0, scaled)
        }
    };
    let px = Length::to_css_px;
    let (x, w) = along(px(rect.x), px(rect.w), px(from.w), px(to.w));
    let (y, h) = along(px(rect.y), px(rect.h), px(from.h), px(to.h));
    let px = Length::css_px;
    Rect::new(px(x), px(y), px(w), px(h))
}

fn middle(rect: Rect) -> Point {
    Point { x: rect.x + rect.w.half(), y: rect.y + rect.h.half() }
}

/// Where an item of another piece goes when one of its kin went from a place to another: as far as the kin would have gone there, larger
/// and turned by as much. On a sheet of the same size, from the same place, it goes to exactly the same place.
fn moved_alike(own: Place, (before, after): (Place, Place), from: Size, to: Size) -> Place {
    let (old, new) = (mapped(before.at.rect, from, to), mapped(after.at.rect, from, to));
    let (start, end) = (middle(old), middle(new));
    let by = |now: Length, before: Length| now.to_css_px() / before.to_css_px().max(1e-6);
    let (wider, higher) = (by(after.at.rect.w, before.at.rect.w), by(after.at.rect.h, before.at.rect.h));
    let rect = own.at.rect;
    let size = Size::new(rect.w.scaled(wider), rect.h.scaled(higher));
    let centre = middle(rect);
    let (x, y) = (centre.x + (end.x - start.x), centre.y + (end.y - start.y));
    let scale = Ratio::new((own.scale.get() * after.scale.get() / before.scale.get().max(1e-9)).clamp(1e-3, 1e3));
    Place {
        at: Placement {
            rect: Rect::new(x - size.w.half(), y - size.h.half(), size.w, size.h),
            turn: Angle::degrees(own.at.turn.to_degrees() + after.at.turn.to_degrees() - before.at.turn.to_degrees())
                .normalised(),
            ..own.at
        },
        scale,
        crop: if after.crop == before.crop { own.crop } else { after.crop },
        ..own
    }
}

/// The pieces in which the last move of a job means the same, each with the change that repeats it: items of the same kin stand there, it
/// moves them visibly, and nothing comes of it that would have to be mended. `inverse` is what takes the move back.
#[must_use]
pub fn repeats(
    studio: &Studio,
    job: &Job,
    inverse: &Command,
    entries: &dyn Fn(&Piece) -> PlaceEntry,
    known: &dyn Known,
) -> Vec<Repeat> {
    let before = places_before(inverse);
    let moved: Vec<_> = before
        .iter()
        .filter_map(|(id, before)| {
            let found = job.find(id).ok()?;
            let same = Place { by_hand: false, ..*before } == Place { by_hand: false, ..found.item.place };
            (!same).then_some((found.piece, found.item, *before))
        })
        .collect();
    let Some((source, ..)) = moved.first() else { return Vec::new() };
    if moved.iter().any(|(piece, ..)| piece.id != source.id) {
        return Vec::new();
    }
    let others = job.pieces.iter().filter(|piece| piece.id != source.id);
    let repeat = |piece: &std::sync::Arc<Piece>| {
        let (from, to) = (source.format.size, piece.format.size);
        let mut commands = Vec::new();
        let mut by_hand = false;
        for side in &piece.sides {
            for item in side.items.iter().filter(|item| !item.locked && !item.hidden) {
                let Some((_, kin, before)) = moved.iter().find(|(_, kin, _)| kin.kin == item.kin) else { continue };
                let place = moved_alike(item.place, (*before, kin.place), from, to);
                if place != item.place {
                    by_hand |= item.place.by_hand;
                    commands.push(Command::SetPlace { item: item.id.clone(), place });
                }
            }
        }
        if commands.is_empty() {
            return None;
        }
        let command = Command::All { commands };
        let mut tried = job.clone();
        command.apply(&mut tried, known).ok()?;
        let entry = entries(piece);
        let found = |job: &Job| {
            let piece = job.piece(&piece.id);
            piece.map_or_else(Vec::new, |piece| findings(studio, job, piece, Some(&entry)))
        };
        let weight = |found: &[Finding]| found.iter().map(|one| u32::from(one.kind.weight())).sum::<u32>();
        (weight(&found(&tried)) <= weight(&found(job))).then(|| Repeat { piece: piece.id.clone(), by_hand, command })
    };
    others.filter_map(repeat).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn place(x: f64, y: f64, w: f64, h: f64) -> Place {
        let px = Length::css_px;
        Place::new(Placement::at(Rect::new(px(x), px(y), px(w), px(h))))
    }

    fn sheet(w: f64, h: f64) -> Size {
        Size::new(Length::css_px(w), Length::css_px(h))
    }

    proptest! {
        #[test]
        fn on_a_sheet_of_the_same_size_it_goes_to_the_same_place(
            (x, y, w, h) in (0.0f64..700.0, 0.0f64..700.0, 20.0f64..900.0, 20.0f64..300.0),
            (to_x, to_y, larger) in (0.0f64..700.0, 0.0f64..700.0, 0.5f64..2.0),
        ) {
            let size = sheet(1_000.0, 800.0);
            let before = place(x, y, w, h);
            let after = Place { scale: Ratio::new(larger), ..place(to_x, to_y, w * larger, h * larger) };
            let moved = moved_alike(before, (before, after), size, size);
            let off = |a: Length, b: Length| (a - b).abs().to_css_px();
            prop_assert!(off(moved.at.rect.x, after.at.rect.x) < 0.01 && off(moved.at.rect.w, after.at.rect.w) < 0.01);
            prop_assert!(off(moved.at.rect.y, after.at.rect.y) < 0.01);
            prop_assert!((moved.scale.get() - larger).abs() < 1e-3);
        }

        #[test]
        fn nothing_moves_where_nothing_was_moved(own in (0.0f64..900.0, 0.0f64..900.0), at in (0.0f64..700.0, 0.0f64..700.0)) {
            let still = place(at.0, at.1, 100.0, 60.0);
            let own = place(own.0, own.1, 80.0, 40.0);
            prop_assert_eq!(moved_alike(own, (still, still), sheet(1_000.0, 800.0), sheet(400.0, 1_400.0)), own);
        }
    }

    #[test]
    fn what_is_near_an_edge_keeps_its_distance_by_the_shorter_side() {
        let (square, wide) = (sheet(1_000.0, 1_000.0), sheet(1_600.0, 500.0));
        let at = |rect: Rect| (rect.x.to_css_px().round(), rect.y.to_css_px().round());
        let on = |x, y| at(mapped(place(x, y, 200.0, 100.0).at.rect, square, wide));
        assert_eq!(on(40.0, 60.0), (20.0, 30.0), "upper left");
        assert_eq!(on(760.0, 860.0), (1_480.0, 430.0), "lower right");
        assert_eq!(on(400.0, 450.0), (750.0, 225.0), "the middle");
        let across = mapped(place(20.0, 0.0, 960.0, 100.0).at.rect, square, wide);
        assert_eq!((across.x.to_css_px().round(), across.w.to_css_px().round()), (10.0, 1_580.0));
    }

    #[test]
    fn the_place_before_is_the_one_that_is_given_last() {
        let id = |name: &str| ItemId::new(name).unwrap();
        let set = |name: &str, x| Command::SetPlace { item: id(name), place: place(x, 0.0, 1.0, 1.0) };
        let inverse = Command::All {
            commands: vec![set("a", 3.0), set("b", 1.0), Command::All { commands: vec![set("a", 2.0)] }],
        };
        let found = places_before(&inverse);
        assert_eq!(found, [(id("b"), place(1.0, 0.0, 1.0, 1.0)), (id("a"), place(2.0, 0.0, 1.0, 1.0))]);
    }
}
