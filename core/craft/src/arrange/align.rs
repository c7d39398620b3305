//! Lining items up: to each other, to the sheet or its safe area; even gaps; like sizes.
//!
//! Turned items are aligned by the upright box around them. Lines are computed from boxes as drawn, so that text counts with the
//! height of its lines.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;
use vatman_document::{Command, ItemId, Job, Piece, Place};
use vatman_units::{Length, Placement, Rect};

use crate::compose::sheet_at;

/// The edge or middle items are aligned by.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum AlignEdge {
    /// Left edges.
    Left,
    /// Vertical middle lines.
    Centre,
    /// Right edges.
    Right,
    /// Top edges.
    Top,
    /// Horizontal middle lines.
    Middle,
    /// Bottom edges.
    Bottom,
}

/// What items are aligned to.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum AlignTo {
    /// The box around them all.
    Selection,
    /// The finished sheet.
    Sheet,
    /// The safe area.
    Safe,
    /// The margins of the piece.
    Margins,
    /// One of them, which stays where it is.
    Item {
        /// Which.
        item: ItemId,
    },
}

/// Across or down.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Axis {
    /// From left to right.
    Across,
    /// From top to bottom.
    Down,
}

/// Which measures are made alike.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Alike {
    /// Widths.
    Width,
    /// Heights.
    Height,
    /// Both.
    Both,
}

/// Why items cannot be lined up.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum AlignError {
    /// Too few for what was asked.
    #[error("Select at least {0} items for that.")]
    Few(usize),
    /// Something not on the side any more.
    #[error("An item that was selected is not on this side any more.")]
    Missing,
}

/// Upright boxes of items as drawn.
pub type Boxes = BTreeMap<ItemId, Rect>;

fn boxed(boxes: &Boxes, items: &[ItemId]) -> Result<Vec<(ItemId, Rect)>, AlignError> {
    items.iter().map(|id| Ok((id.clone(), *boxes.get(id).ok_or(AlignError::Missing)?))).collect()
}

/// The box around boxes; an empty one at the origin for none.
#[must_use]
pub fn around(boxes: impl IntoIterator<Item = Rect>) -> Rect {
    let join = |a: Rect, b: Rect| {
        let (x, y) = (a.x.min(b.x), a.y.min(b.y));
        Rect::new(x, y, a.right().max(b.right()) - x, a.bottom().max(b.bottom()) - y)
    };
    boxes.into_iter().reduce(join).unwrap_or_default()
}

fn moves(job: &Job, by: impl IntoIterator<Item = (ItemId, Length, Length)>) -> Command {
    let place = |(id, dx, dy): (ItemId, Length, Length)| {
        let item = job.item(&id).filter(|item| !item.locked && (dx, dy) != (Length::ZERO, Length::ZERO))?;
        let at = Placement { rect: item.place.at.rect.moved(dx, dy), ..item.place.at };
        Some(Command::SetPlace { item: id, place: Place { at, ..item.place } })
    };
    Command::All { commands: by.into_iter().filter_map(place).collect() }
}

/// Moves items so that an edge or middle agrees. Locked items stay.
///
/// # Errors
/// [`AlignError`] where there are too few items or one is missing.
pub fn align(
    job: &Job,
    piece: &Piece,
    boxes: &Boxes,
    items: &[ItemId],
    edge: AlignEdge,
    to: &AlignTo,
) -> Result<Command, AlignError> {
    let chosen = boxed(boxes, items)?;
    let least = if matches!(to, AlignTo::Sheet | AlignTo::Safe | AlignTo::Margins) { 1 } else { 2 };
    if chosen.len() < least {
        return Err(AlignError::Few(least));
    }
    let whole = Rect::of(piece.format.size);
    let all = around(chosen.iter().map(|(_, rect)| *rect));
    let side = piece.sides.iter().find(|side| side.items.iter().any(|item| items.contains(&item.id)));
    let sheet = side.map_or(whole, |side| sheet_at(piece, &side.id, all));
    let target = match to {
        AlignTo::Selection => all,
        AlignTo::Sheet => sheet,
        AlignTo::Safe => sheet.outset(-piece.format.safe),
        AlignTo::Margins => {
            let [left, top, right, bottom] = piece.guides.margins;
            Rect::new(left, top, whole.w - left - right, whole.h - top - bottom)
        }
        AlignTo::Item { item } => *boxes.get(item).ok_or(AlignError::Missing)?,
    };
    let by = chosen.into_iter().map(|(id, rect)| {
        let (dx, dy) = match edge {
            AlignEdge::Left => (target.x - rect.x, Length::ZERO),
            AlignEdge::Centre => (target.x + target.w.half() - rect.x - rect.w.half(), Length::ZERO),
            AlignEdge::Right => (target.right() - rect.right(), Length::ZERO),
            AlignEdge::Top => (Length::ZERO, target.y - rect.y),
            AlignEdge::Middle => (Length::ZERO, target.y + target.h.half() - rect.y - rect.h.half()),
            AlignEdge::Bottom => (Length::ZERO, target.bottom() - rect.bottom()),
        };
        (id, dx, dy)
    });
    Ok(moves(job, by))
}

/// Makes the gaps between items equal: as they share the room between the outermost, `gap = (span - sum of sizes) / (n - 1)`, or
/// exactly `gap`, the first staying where it is. Their order is that of their middles.
///
/// # Errors
/// [`AlignError`] where there are fewer than three items (two for an exact gap) or one is missing.
pub fn distribute(
    job: &Job,
    boxes: &Boxes,
    items: &[ItemId],
    axis: Axis,
    gap: Option<Length>,
) -> Result<Command, AlignError> {
    let mut chosen = boxed(boxes, items)?;
    let least = if gap.is_some() { 2 } else { 3 };
    if chosen.len() < least {
        return Err(AlignError::Few(least));
    }
    let start = |rect: &Rect| if axis == Axis::Across { rect.x } else { rect.y };
    let size = |rect: &Rect| if axis == Axis::Across { rect.w } else { rect.h };
    chosen.sort_by_key(|(_, rect)| (start(rect) + size(rect).half(), start(rect)));
    let whole = around(chosen.iter().map(|(_, rect)| *rect));
    let total: Length = chosen.iter().map(|(_, rect)| size(rect)).sum();
    let spare = size(&whole) - total;
    let spaces = chosen.len() as i64 - 1;
    let mut used = Length::ZERO;
    let by: Vec<_> = chosen
        .iter()
        .enumerate()
        .map(|(i, (id, rect))| {
            // Each gap is measured from the start, so that rounding does not add up.
            let before = gap.map_or_else(
                || Length::from_raw(spare.raw() * i as i64 / spaces),
                |gap| Length::from_raw(gap.raw() * i as i64),
            );
            let shift = start(&whole) + used + before - start(rect);
            used += size(rect);
            if axis == Axis::Across { (id.clone(), shift, Length::ZERO) } else { (id.clone(), Length::ZERO, shift) }
        })
        .collect();
    Ok(moves(job, by))
}

/// Gives items the width, height or both of one of them, keeping their middles.
///
/// # Errors
/// [`AlignError`] where there are fewer than two items or one is missing.
pub fn match_size(job: &Job, items: &[ItemId], key: &ItemId, alike: Alike) -> Result<Command, AlignError> {
    if items.len() < 2 {
        return Err(AlignError::Few(2));
    }
    let model = job.item(key).ok_or(AlignError::Missing)?.place.at.rect;
    let resize = |id: &ItemId| {
        let item = job.item(id).ok_or(AlignError::Missing)?;
        let old = item.place.at.rect;
        let w = if alike == Alike::Height { old.w } else { model.w };
        let h = if alike == Alike::Width { old.h } else { model.h };
        let rect = Rect::new(old.x + (old.w - w).half(), old.y + (old.h - h).half(), w, h);
        let at = Placement { rect, ..item.place.at };
        Ok((!item.locked && rect != old)
            .then(|| Command::SetPlace { item: id.clone(), place: Place { at, ..item.place } }))
    };
    let commands = items.iter().map(resize).collect::<Result<Vec<_>, _>>()?;
    Ok(Command::All { commands: commands.into_iter().flatten().collect() })
}

/// Sets items out in rows and columns: those whose middles lie within half a height of each other are a row; rows and the items in
/// them get one gap, the mean of the gaps there were, held to at least nothing.
///
/// # Errors
/// [`AlignError`] where there are fewer than two items or one is missing.
pub fn tidy(job: &Job, boxes: &Boxes, items: &[ItemId]) -> Result<Command, AlignError> {
    let mut chosen = boxed(boxes, items)?;
    if chosen.len() < 2 {
        return Err(AlignError::Few(2));
    }
    chosen.sort_by_key(|(_, rect)| (rect.y + rect.h.half(), rect.x));
    let mut rows: Vec<Vec<(ItemId, Rect)>> = Vec::new();
    for (id, rect) in chosen {
        let middle = rect.y + rect.h.half();
        match rows.last_mut() {
            Some(row) if (middle - (row[0].1.y + row[0].1.h.half())).abs() <= row[0].1.h.half() => row.push((id, rect)),
            _ => rows.push(vec![(id, rect)]),
        }
    }
    for row in &mut rows {
        row.sort_by_key(|(_, rect)| rect.x);
    }
    let whole = around(rows.iter().flatten().map(|(_, rect)| *rect));
    let between = |a: &Rect, b: &Rect, down: bool| if down { b.y - a.bottom() } else { b.x - a.right() };
    let row_box = |row: &[(ItemId, Rect)]| around(row.iter().map(|(_, rect)| *rect));
    let across: Vec<Length> =
        rows.iter().flat_map(|row| row.windows(2).map(|pair| between(&pair[0].1, &pair[1].1, false))).collect();
    let down: Vec<Length> = rows.windows(2).map(|pair| between(&row_box(&pair[0]), &row_box(&pair[1]), true)).collect();
    let mean = |gaps: &[Length]| {
        if gaps.is_empty() {
            Length::ZERO
        } else {
            Length::from_raw(gaps.iter().copied().sum::<Length>().raw() / gaps.len() as i64)
        }
    };
    let (gap_x, gap_y) = (mean(&across).max(Length::ZERO), mean(&down).max(Length::ZERO));
    let mut by = Vec::new();
    let mut top = whole.y;
    for row in &rows {
        let high = row.iter().map(|(_, rect)| rect.h).max().unwrap_or_default();
        let mut left = whole.x;
        for (id, rect) in row {
            by.push((id.clone(), left - rect.x, top + (high - rect.h).half() - rect.y));
            left += rect.w + gap_x;
        }
        top += high + gap_y;
    }
    Ok(moves(job, by))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use vatman_document::{
        AssetId, Content, Format, Item, JobId, Kin, KinId, Known, Look, Outline, Part, PieceId, Side, SideId,
    };

    struct All;
    impl Known for All {
        fn has_family(&self, _: &str) -> bool {
            true
        }
        fn has_picture(&self, _: &AssetId) -> bool {
            true
        }
    }

    fn px(v: i64) -> Length {
        Length::css_px(v as f64)
    }

    fn job(rects: &[Rect]) -> (Job, Boxes, Vec<ItemId>) {
        let mut job = Job::new(JobId::new("j").unwrap(), "t");
        let kin = KinId::new("k").unwrap();
        job.kins.insert(
            kin.clone(),
            Kin::new(Part::Panel, Content::Shape { outline: Outline::Ellipse }, Look::default()).into(),
        );
        let items: Vec<Item> = rects
            .iter()
            .enumerate()
            .map(|(i, rect)| {
                Item::new(ItemId::new(format!("i{i}")).unwrap(), kin.clone(), Place::new(Placement::at(*rect)))
            })
            .collect();
        let ids = items.iter().map(|item| item.id.clone()).collect();
        let boxes = items.iter().map(|item| (item.id.clone(), item.place.at.rect)).collect();
        let side = Side { items, ..Side::blank(SideId::new("s").unwrap(), "Front", None) };
        job.pieces.push(Piece::new(PieceId::new("p").unwrap(), "p", Format::screen(1_000, 800), vec![side]).into());
        (job, boxes, ids)
    }

    fn after(job: &Job, command: &Command) -> Vec<Rect> {
        let mut job = job.clone();
        command.apply(&mut job, &All).unwrap();
        job.items().map(|item| item.place.at.rect).collect()
    }

    fn any_rects(least: usize) -> impl Strategy<Value = Vec<Rect>> {
        prop::collection::vec(
            (0i64..900, 0i64..700, 1i64..300, 1i64..300).prop_map(|(x, y, w, h)| Rect::new(px(x), px(y), px(w), px(h))),
            least..8,
        )
    }

    proptest! {
        /// What stood roughly in rows stands in those rows, each in the order it had.
        #[test]
        fn what_stood_roughly_in_rows_is_tidied_into_those_rows(columns in 2usize..5, jitter in prop::collection::vec((-14i64..14, -19i64..19), 12)) {
            let spot = |row: usize, column: usize| {
                let (dx, dy) = jitter[row * 4 + column];
                Rect::new(px(60 + 150 * column as i64 + dx), px(80 + 190 * row as i64 + dy), px(100), px(80))
            };
            let rects: Vec<Rect> = (0..3).flat_map(|row| (0..columns).map(move |column| (row, column))).map(|(row, column)| spot(row, column)).collect();
            let (job, boxes, ids) = job(&rects);
            let tidied = after(&job, &tidy(&job, &boxes, &ids).unwrap());
            let middle = |rect: &Rect| rect.y + rect.h.half();
            for row in tidied.chunks(columns) {
                prop_assert!(row.iter().all(|rect| (middle(rect) - middle(&row[0])).abs() <= Length::from_raw(1)), "{row:?}");
                prop_assert!(row.windows(2).all(|pair| pair[0].right() <= pair[1].x), "{row:?}");
            }
            // One gap across and one down: the mean of those there were.
            let mean = |gaps: Vec<Length>| gaps.iter().copied().sum::<Length>().raw() / gaps.len() as i64;
            let across = |all: &[Rect]| all.chunks(columns).flat_map(|row| row.windows(2).map(|pair| pair[1].x - pair[0].right()).collect::<Vec<_>>()).collect::<Vec<_>>();
            let wanted = mean(across(&rects)).max(0);
            prop_assert!(across(&tidied).iter().all(|gap| (gap.raw() - wanted).abs() <= 1), "{wanted} {:?}", across(&tidied));
            let rows = |all: &[Rect]| all.chunks(columns).map(|row| around(row.iter().copied())).collect::<Vec<_>>();
            let down = |all: &[Rect]| rows(all).windows(2).map(|pair| pair[1].y - pair[0].bottom()).collect::<Vec<_>>();
            let wanted = mean(down(&rects)).max(0);
            prop_assert!(down(&tidied).iter().all(|gap| (gap.raw() - wanted).abs() <= 1), "{wanted} {:?}", down(&tidied));
        }

        #[test]
        fn aligned_edges_agree(rects in any_rects(2)) {
            let (job, boxes, ids) = job(&rects);
            let sheet = Rect::of(job.pieces[0].format.size);
            type Line = (AlignEdge, fn(&Rect) -> Length);
            let line: [Line; 6] = [
                (AlignEdge::Left, |r| r.x), (AlignEdge::Centre, |r| r.x + r.w.half()), (AlignEdge::Right, |r| r.right()),
                (AlignEdge::Top, |r| r.y), (AlignEdge::Middle, |r| r.y + r.h.half()), (AlignEdge::Bottom, |r| r.bottom()),
            ];
            for (edge, at) in line {
                for (to, target) in [(AlignTo::Selection, around(rects.iter().copied())), (AlignTo::Sheet, sheet), (AlignTo::Item { item: ids[0].clone() }, rects[0])] {
                    let out = after(&job, &align(&job, &job.pieces[0], &boxes, &ids, edge, &to).unwrap());
                    for rect in &out {
                        prop_assert_eq!(at(rect), at(&target), "{:?} to {:?}", edge, to);
                    }
                    prop_assert!(out.iter().zip(&rects).all(|(a, b)| a.size() == b.size()));
                }
            }
        }

        #[test]
        fn gaps_are_equal_and_the_outermost_stay(rects in any_rects(3), exact in 0i64..60) {
            let (job, boxes, ids) = job(&rects);
            for axis in [Axis::Across, Axis::Down] {
                for gap in [None, Some(px(exact))] {
                    let mut out = after(&job, &distribute(&job, &boxes, &ids, axis, gap).unwrap());
                    let start = |r: &Rect| if axis == Axis::Across { r.x } else { r.y };
                    let end = |r: &Rect| if axis == Axis::Across { r.right() } else { r.bottom() };
                    // In the order they were set out: by their middles before.
                    let mut order: Vec<usize> = (0..rects.len()).collect();
                    order.sort_by_key(|i| (start(&rects[*i]) + (end(&rects[*i]) - start(&rects[*i])).half(), start(&rects[*i])));
                    out = order.iter().map(|i| out[*i]).collect();
                    let gaps: Vec<i64> = out.windows(2).map(|pair| (start(&pair[1]) - end(&pair[0])).raw()).collect();
                    let spread = gaps.iter().max().unwrap() - gaps.iter().min().unwrap();
                    prop_assert!(spread <= 1, "{gaps:?}");
                    let before = around(rects.iter().copied());
                    prop_assert_eq!(start(&out[0]), start(&before));
                    match gap {
                        Some(gap) => prop_assert!(gaps.iter().all(|found| *found == gap.raw())),
                        None => prop_assert_eq!(end(out.last().unwrap()), end(&before)),
                    }
                }
            }
        }

        #[test]
        fn like_sizes_keep_their_middles(rects in any_rects(2)) {
            let (job, _, ids) = job(&rects);
            let out = after(&job, &match_size(&job, &ids, &ids[0], Alike::Both).unwrap());
            for (new, old) in out.iter().zip(&rects) {
                prop_assert_eq!(new.size(), rects[0].size());
                prop_assert!(((new.x + new.w.half()) - (old.x + old.w.half())).abs().raw() <= 1);
                prop_assert!(((new.y + new.h.half()) - (old.y + old.h.half())).abs().raw() <= 1);
            }
            for (alike, w, h) in [(Alike::Width, true, false), (Alike::Height, false, true)] {
                let out = after(&job, &match_size(&job, &ids, &ids[0], alike).unwrap());
                for (new, old) in out.iter().zip(&rects) {
                    prop_assert_eq!(new.w, if w { rects[0].w } else { old.w });
                    prop_assert_eq!(new.h, if h { rects[0].h } else { old.h });
                }
            }
        }

        #[test]
        fn tidied_items_do_not_overlap(rects in any_rects(2)) {
            let (job, boxes, ids) = job(&rects);
            let out = after(&job, &tidy(&job, &boxes, &ids).unwrap());
            for (i, a) in out.iter().enumerate() {
                for b in &out[i + 1..] {
                    let apart = a.right() <= b.x || b.right() <= a.x || a.bottom() <= b.y || b.bottom() <= a.y;
                    prop_assert!(apart, "{a:?} and {b:?}");
                }
            }
        }
    }

    #[test]
    fn too_few_items_are_told() {
        let (job, boxes, ids) = job(&[Rect::new(px(1), px(2), px(3), px(4))]);
        assert_eq!(
            align(&job, &job.pieces[0], &boxes, &ids, AlignEdge::Left, &AlignTo::Selection),
            Err(AlignError::Few(2))
        );
        assert!(align(&job, &job.pieces[0], &boxes, &ids, AlignEdge::Left, &AlignTo::Sheet).is_ok());
        assert_eq!(distribute(&job, &boxes, &ids, Axis::Down, None), Err(AlignError::Few(3)));
        let gone = [ItemId::new("gone").unwrap(), ids[0].clone()];
        assert_eq!(
            align(&job, &job.pieces[0], &boxes, &gone, AlignEdge::Left, &AlignTo::Selection),
            Err(AlignError::Missing)
        );
    }
}
