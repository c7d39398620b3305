//! Arrangements of several pictures on one sheet, each cell near the proportions of its picture.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{
    AssetId, BoxEdge, Command, Content, Direction, Focus, GroupId, IdSource, Item, ItemId, Job, Kin, KinId, Look,
    Outline, Part, PictureFit, Place, SideId, Standing,
};
use vatman_units::{Length, Placement, Rect};

use crate::refusal::Refusal;

/// Fewest and most pictures of one arrangement.
pub const MOSAIC_COUNT: std::ops::RangeInclusive<usize> = 2..=12;

/// Room between and around cells, and their corners, all at once.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct MosaicRoom {
    /// Between cells.
    pub gap: Length,
    /// Around all of them.
    pub margin: Length,
    /// Corner radius.
    pub radius: Length,
}

/// An arrangement: where the cell of each picture lies, and how much of the pictures it shows.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct Mosaic {
    /// One for each picture, in their order.
    pub cells: Vec<Rect>,
    /// The share of the pictures that is seen, 0 to 1, on the mean.
    pub shown: f64,
}

/// A cell in fractions of the room there is, and the gaps that lie before it and within its extent.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Cell {
    x: f64,
    y: f64,
    w: f64,
    h: f64,
}

const WHOLE: Cell = Cell { x: 0.0, y: 0.0, w: 1.0, h: 1.0 };

/// All arrangements for pictures of these aspects (width / height) in an area: rows, columns, grids, one large with the rest beside
/// it, and ones cut again and again. The ones that show most of the pictures come first; none comes twice.
///
/// # Errors
/// [`Refusal`] for fewer than 2 or more than 12 pictures, or where gaps and margins leave no room.
pub fn mosaics(area: Rect, aspects: &[f64], room: MosaicRoom) -> Result<Vec<Mosaic>, Refusal> {
    let sheet = area.size();
    if !MOSAIC_COUNT.contains(&aspects.len()) {
        return Err(Refusal::MosaicCount);
    }
    if room.gap.raw() < 0 || room.margin.raw() < 0 || room.radius.raw() < 0 {
        return Err(Refusal::NegativeGap);
    }
    let (w, h) = (sheet.w - room.margin - room.margin, sheet.h - room.margin - room.margin);
    if w.raw() < room.gap.raw() * 12 + 100_000 || h.raw() < room.gap.raw() * 12 + 100_000 {
        return Err(Refusal::MosaicRoom);
    }
    let aspect = w.to_css_px() / h.to_css_px();
    let n = aspects.len();
    let mut plans: Vec<Vec<Cell>> = Vec::new();
    for lines in 1..=n.min(5) {
        plans.push(rows(aspects, lines, aspect));
        plans.push(turned(rows(&aspects.iter().map(|a| 1.0 / a).collect::<Vec<_>>(), lines, 1.0 / aspect)));
        plans.push(grid(n, lines));
    }
    for share in [0.5, 0.62] {
        for side in 0..4 {
            plans.push(one_large(aspects, share, side));
        }
    }
    for first in [true, false] {
        let mut cells = vec![WHOLE; n];
        cut(aspects, &mut cells, WHOLE, aspect, first, 0);
        plans.push(cells);
    }
    let mut out: Vec<Mosaic> = Vec::new();
    for plan in plans {
        let cells: Vec<Rect> = plan.iter().map(|cell| placed(*cell, room, w, h).moved(area.x, area.y)).collect();
        let near = |a: &Rect, b: &Rect| {
            [a.x - b.x, a.y - b.y, a.w - b.w, a.h - b.h].iter().all(|d| d.abs().raw() < w.raw() / 100)
        };
        let usable = cells.iter().all(|cell| cell.w.raw() > w.raw() / 40 && cell.h.raw() > h.raw() / 40);
        if usable && !out.iter().any(|other| other.cells.iter().zip(&cells).all(|(a, b)| near(a, b))) {
            let seen = |(cell, aspect): (&Rect, &f64)| {
                let own = cell.w.to_css_px() / cell.h.to_css_px();
                (own / aspect).min(aspect / own)
            };
            let shown = cells.iter().zip(aspects).map(seen).sum::<f64>() / n as f64;
            out.push(Mosaic { cells, shown });
        }
    }
    out.sort_by(|a, b| b.shown.total_cmp(&a.shown));
    Ok(out)
}

/// A cell with half a gap taken off where it meets others: so all gaps are the same and the outer edges lie on the margin.
fn placed(cell: Cell, room: MosaicRoom, w: Length, h: Length) -> Rect {
    let edge = |at: f64, whole: Length, start: bool| {
        let outer = if start { at < 1e-6 } else { at > 1.0 - 1e-6 };
        let by = if outer { Length::ZERO } else { room.gap.half() };
        let at = whole.scaled(at);
        room.margin + if start { at + by } else { at - by }
    };
    let (left, right) = (edge(cell.x, w, true), edge(cell.x + cell.w, w, false));
    let (top, bottom) = (edge(cell.y, h, true), edge(cell.y + cell.h, h, false));
    Rect::new(left, top, right - left, bottom - top)
}

/// Pictures in their order in so many rows of like height: each row as high as its pictures together want, all scaled to the room.
fn rows(aspects: &[f64], lines: usize, aspect: f64) -> Vec<Cell> {
    let breaks = partition(aspects, lines);
    let heights: Vec<f64> = breaks.iter().map(|row| aspect / aspects[row.clone()].iter().sum::<f64>()).collect();
    let total: f64 = heights.iter().sum();
    let mut out = Vec::new();
    let mut y = 0.0;
    for (row, height) in breaks.into_iter().zip(heights) {
        let sum: f64 = aspects[row.clone()].iter().sum();
        let mut x = 0.0;
        for a in &aspects[row] {
            let w = a / sum;
            out.push(Cell { x, y, w, h: height / total });
            x += w;
        }
        y += height / total;
    }
    out
}

/// Ranges in order with the smallest largest sum.
fn partition(values: &[f64], parts: usize) -> Vec<std::ops::Range<usize>> {
    let n = values.len();
    let mut best = vec![vec![(f64::INFINITY, 0); n + 1]; parts + 1];
    best[0][0] = (0.0, 0);
    for part in 1..=parts {
        for end in part..=n {
            for start in part - 1..end {
                let cost = best[part - 1][start].0.max(values[start..end].iter().sum());
                if cost < best[part][end].0 {
                    best[part][end] = (cost, start);
                }
            }
        }
    }
    let mut out = Vec::new();
    let mut end = n;
    for part in (1..=parts).rev() {
        let start = best[part][end].1;
        out.push(start..end);
        end = start;
    }
    out.reverse();
    out
}

fn turned(cells: Vec<Cell>) -> Vec<Cell> {
    cells.into_iter().map(|c| Cell { x: c.y, y: c.x, w: c.h, h: c.w }).collect()
}

/// Equal cells in so many rows; the last row's are wider where it has fewer.
fn grid(n: usize, lines: usize) -> Vec<Cell> {
    let across = n.div_ceil(lines);
    let full = n.div_ceil(across);
    (0..n)
        .map(|i| {
            let row = i / across;
            let here = if row + 1 == full { n - across * row } else { across };
            let w = 1.0 / here as f64;
            Cell { x: (i % across) as f64 * w, y: row as f64 / full as f64, w, h: 1.0 / full as f64 }
        })
        .collect()
}

/// The first picture large at one side, the rest in a line along the other.
fn one_large(aspects: &[f64], share: f64, side: usize) -> Vec<Cell> {
    let rest = &aspects[1..];
    let upright = side < 2;
    let mut out = vec![Cell { w: share, ..WHOLE }];
    let wants: Vec<f64> = rest.iter().map(|a| if upright { 1.0 / a } else { *a }).collect();
    let sum: f64 = wants.iter().sum();
    let mut y = 0.0;
    for want in wants {
        out.push(Cell { x: share, y, w: 1.0 - share, h: want / sum });
        y += want / sum;
    }
    let out = if upright { out } else { turned(out) };
    let flip = |c: Cell| if upright { Cell { x: 1.0 - c.x - c.w, ..c } } else { Cell { y: 1.0 - c.y - c.h, ..c } };
    if side % 2 == 1 { out.into_iter().map(flip).collect() } else { out }
}

/// Cuts a cell in two again and again, across its longer side (or first the other way), in shares that the pictures want.
fn cut(aspects: &[f64], cells: &mut [Cell], area: Cell, aspect: f64, longer: bool, depth: usize) {
    if aspects.len() == 1 {
        cells[0] = area;
        return;
    }
    let middle = aspects.len().div_ceil(2);
    let wide = area.w / area.h * aspect > 1.0;
    let across = if depth == 0 && !longer { !wide } else { wide };
    let want = |part: &[f64]| part.iter().map(|a| if across { *a } else { 1.0 / a }).sum::<f64>().sqrt();
    let share = want(&aspects[..middle]) / (want(&aspects[..middle]) + want(&aspects[middle..]));
    let (a, b) = if across {
        (Cell { w: area.w * share, ..area }, Cell { x: area.x + area.w * share, w: area.w * (1.0 - share), ..area })
    } else {
        (Cell { h: area.h * share, ..area }, Cell { y: area.y + area.h * share, h: area.h * (1.0 - share), ..area })
    };
    let (front, back) = cells.split_at_mut(middle);
    cut(&aspects[..middle], front, a, aspect, longer, depth + 1);
    cut(&aspects[middle..], back, b, aspect, longer, depth + 1);
}

/// The command that puts pictures on a side in an arrangement, as one group of frames below all words.
///
/// # Errors
/// [`Refusal`] where the side is not there or the arrangement does not have a cell for each picture.
pub fn arrange_pictures(
    job: &Job,
    side: &SideId,
    pictures: &[AssetId],
    mosaic: &Mosaic,
    radius: Length,
    ids: &mut dyn IdSource,
) -> Result<(Command, Vec<ItemId>), Refusal> {
    let (_, found) = job.side(side).ok_or_else(|| Refusal::Missing("side", side.to_string()))?;
    let is_words = |item: &Item| job.plain(item).is_some_and(|plain| plain.content.words().is_some());
    let below = found.items.iter().position(is_words).unwrap_or(found.items.len());
    if pictures.len() != mosaic.cells.len() {
        return Err(Refusal::MosaicCells);
    }
    let group = GroupId::fresh(ids);
    let (mut commands, mut made) = (Vec::new(), Vec::new());
    for (at, (picture, cell)) in pictures.iter().zip(&mosaic.cells).enumerate() {
        let content = Content::Picture {
            picture: Some(picture.clone()),
            focus: Focus::CENTRE,
            frame: Outline::Rect { radius },
            fit: PictureFit::Fill,
        };
        let kin = Kin::new(Part::Picture, content, Look { fill: None, ..Look::default() });
        let item = Item {
            groups: vec![group.clone()],
            ..Item::new(ItemId::fresh(ids), KinId::fresh(ids), Place::new(Placement::at(*cell)))
        };
        made.push(item.id.clone());
        commands.push(Command::InsertItem { side: side.clone(), index: below + at, item, kin: Some(kin) });
    }
    Ok((Command::All { commands }, made))
}

/// Moves an edge of a cell, and with it the edges of the cells of the same group that meet there, so that the gaps stay.
///
/// # Errors
/// [`Refusal`] where the item is in no group, or a cell would lose all its width or height.
pub fn move_edge(job: &Job, item: &ItemId, edge: BoxEdge, by: Length) -> Result<Command, Refusal> {
    let Standing { side, item: own, .. } = job.find(item)?;
    let group = own.groups.last().ok_or(Refusal::NoCell)?;
    let cells: Vec<&Item> = side
        .items
        .iter()
        .filter(|other| other.groups.last() == Some(group) && other.place.at.turn == vatman_units::Angle::ZERO)
        .collect();
    let across = edge.direction() == Direction::Across;
    let span = |rect: Rect| {
        if across {
            (rect.x, rect.right(), rect.y, rect.bottom())
        } else {
            (rect.y, rect.bottom(), rect.x, rect.right())
        }
    };
    let near = |a: Length, b: Length, room: Length| (a - b).abs() <= room;
    let rect = own.place.at.rect;
    let line = if edge.is_first() { span(rect).0 } else { span(rect).1 };
    // The gap of the arrangement: to the nearest cell across the edge, beside this one.
    let facing = |other: &&&Item| {
        other.id != *item && {
            let (o, r) = (span(other.place.at.rect), span(rect));
            o.2 < r.3 && r.2 < o.3
        }
    };
    let apart = |other: &&Item| {
        if edge.is_first() { line - span(other.place.at.rect).1 } else { span(other.place.at.rect).0 - line }
    };
    let hair = Length::css_px(1.0);
    let gap = cells.iter().filter(facing).map(apart).filter(|gap| gap.raw() > -hair.raw()).min();
    let far = gap.map(|gap| if edge.is_first() { line - gap } else { line + gap });
    let mut commands = Vec::new();
    for cell in cells {
        let (start, end, ..) = span(cell.place.at.rect);
        let on = |value: Length, at: Length| near(value, at, hair);
        // Cells on this side of the line end where this one does; those on the other begin where its neighbour does.
        let (starts, ends) = if edge.is_first() {
            (on(start, line), far.is_some_and(|far| on(end, far)))
        } else {
            (far.is_some_and(|far| on(start, far)), on(end, line))
        };
        let (start_by, end_by) = (if starts { by } else { Length::ZERO }, if ends { by } else { Length::ZERO });
        if !starts && !ends {
            continue;
        }
        let (start, end) = (start + start_by, end + end_by);
        if end - start < Length::css_px(4.0) {
            return Err(Refusal::CellGone);
        }
        let old = cell.place.at.rect;
        let rect = if across {
            Rect::new(start, old.y, end - start, old.h)
        } else {
            Rect::new(old.x, start, old.w, end - start)
        };
        commands.push(Command::SetPlace {
            item: cell.id.clone(),
            place: Place { at: Placement { rect, ..cell.place.at }, ..cell.place },
        });
    }
    Ok(Command::All { commands })
}

/// Exchanges the pictures of two frames; each fills its new frame.
///
/// # Errors
/// [`Refusal`] where one is no frame.
pub fn swap_pictures(job: &Job, a: &ItemId, b: &ItemId) -> Result<Command, Refusal> {
    let picture = |id: &ItemId| {
        let item = job.item(id).ok_or_else(|| Refusal::no_item(id))?;
        let content = job.plain(item).ok_or_else(|| Refusal::Missing("part", item.kin.to_string()))?.content;
        let Content::Picture { picture, focus, .. } = content else {
            return Err(Refusal::NoFrames);
        };
        Ok((item, content.clone(), picture.clone(), *focus))
    };
    let (a, b) = (picture(a)?, picture(b)?);
    let mut commands = BTreeMap::new();
    for ((item, content, ..), (_, _, picture, focus)) in [(&a, &b), (&b, &a)] {
        let Content::Picture { frame, fit, .. } = content else { continue };
        let content = Content::Picture { picture: picture.clone(), focus: *focus, frame: frame.clone(), fit: *fit };
        let target = if item.release.content.is_some() {
            vatman_document::Target::Only(item.id.clone())
        } else {
            vatman_document::Target::Shared(item.kin.clone())
        };
        commands.insert(
            item.id.clone(),
            vec![
                Command::SetContent { target, content },
                Command::SetPlace { item: item.id.clone(), place: Place { crop: None, ..item.place } },
            ],
        );
    }
    Ok(Command::All { commands: commands.into_values().flatten().collect() })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::pictures::arranged::arranged;
    use proptest::prelude::*;

    fn sheet_of(w: Length, h: Length) -> Rect {
        Rect::new(Length::ZERO, Length::ZERO, w, h)
    }

    fn area(rect: &Rect) -> f64 {
        rect.w.to_css_px() * rect.h.to_css_px()
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(64))]

        /// Cells never overlap, gaps are as wide as asked, the outer edges lie on the margin, and without gaps all is covered.
        #[test]
        fn cells_share_out_the_sheet(aspects in prop::collection::vec(0.4f64..2.6, 2..12), w in 500.0f64..2_000.0, h in 500.0f64..2_000.0, gap in 0.0f64..12.0, margin in 0.0f64..40.0) {
            let px = Length::css_px;
            let sheet = Rect::new(px(7.0), px(-3.0), px(w), px(h));
            let found = mosaics(sheet, &aspects, MosaicRoom { gap: px(gap), margin: px(margin), radius: Length::ZERO }).unwrap();
            prop_assert!(found.len() >= 3, "{} arrangements", found.len());
            for mosaic in &found {
                prop_assert_eq!(mosaic.cells.len(), aspects.len());
                let inside = sheet.outset(-px(margin)).outset(Length::from_raw(2));
                prop_assert!(mosaic.cells.iter().all(|cell| inside.contains(*cell)));
                for (i, a) in mosaic.cells.iter().enumerate() {
                    for b in &mosaic.cells[i + 1..] {
                        let apart = |a0: Length, a1: Length, b0: Length, b1: Length| (b0 - a1).max(a0 - b1).raw() >= px(gap).raw() - 4;
                        prop_assert!(apart(a.x, a.right(), b.x, b.right()) || apart(a.y, a.bottom(), b.y, b.bottom()), "{a:?} and {b:?}");
                    }
                }
            }
            let tight = mosaics(sheet, &aspects, MosaicRoom { gap: Length::ZERO, margin: Length::ZERO, radius: Length::ZERO }).unwrap();
            for mosaic in tight {
                let covered: f64 = mosaic.cells.iter().map(area).sum();
                prop_assert!((covered / (w * h) - 1.0).abs() < 1e-3, "{covered} of {}", w * h);
            }
        }

        #[test]
        fn the_first_shows_most(aspects in prop::collection::vec(0.4f64..2.6, 2..12)) {
            let px = Length::css_px;
            let found = mosaics(sheet_of(px(1_080.0), px(1_080.0)), &aspects, MosaicRoom { gap: px(8.0), margin: px(20.0), radius: Length::ZERO }).unwrap();
            prop_assert!(found.windows(2).all(|pair| pair[0].shown >= pair[1].shown) && found[0].shown > 0.5);
        }
    }

    #[test]
    fn too_many_pictures_and_too_wide_gaps_are_told() {
        let px = Length::css_px;
        let room = |gap| MosaicRoom { gap: px(gap), margin: Length::ZERO, radius: Length::ZERO };
        assert!(mosaics(sheet_of(px(800.0), px(800.0)), &[1.0], room(0.0)).is_err());
        assert!(mosaics(sheet_of(px(800.0), px(800.0)), &[1.0; 13], room(0.0)).is_err());
        assert!(mosaics(sheet_of(px(800.0), px(800.0)), &[1.0; 4], room(90.0)).is_err());
    }

    #[test]
    fn pictures_lie_below_words_and_take_another_form_without_losing_anything() {
        use crate::testing::{Everything, Numbered, job_with};
        use vatman_document::RichText;
        let mut job = job_with(2);
        // The upper square becomes words.
        let words = job.pieces[0].sides[0].items[1].kin.clone();
        let content = Content::Words { text: RichText::plain("Five bowls"), prompt: "Words".into() };
        std::sync::Arc::make_mut(job.kins.get_mut(&words).unwrap()).content = content;
        let side = job.pieces[0].sides[0].id.clone();
        let px = Length::css_px;
        let room = |radius| MosaicRoom { gap: px(8.0), margin: px(20.0), radius: px(radius) };
        let forms = mosaics(sheet_of(px(1_000.0), px(1_000.0)), &[1.5, 1.0, 0.7], room(0.0)).unwrap();
        let pictures: Vec<AssetId> = ["a", "b", "c"].map(|name| AssetId::new(name).unwrap()).to_vec();
        let mut ids = Numbered(0);
        let (command, made) = arrange_pictures(&job, &side, &pictures, &forms[0], px(0.0), &mut ids).unwrap();
        command.apply(&mut job, &Everything).unwrap();
        let order: Vec<ItemId> = job.pieces[0].sides[0].items.iter().map(|item| item.id.clone()).collect();
        assert_eq!(order[1..4], made[..], "above the panel and below the words");
        let as_it_is = arranged(&job, &made).unwrap();
        assert_eq!(as_it_is.room, room(0.0), "what it was given can be read back");
        assert_eq!(as_it_is.form(&forms), Some(0));
        as_it_is.rearrange(&job, Some(&forms[1]), room(12.0)).unwrap().apply(&mut job, &Everything).unwrap();
        let rects: Vec<Rect> = made.iter().map(|id| job.item(id).unwrap().place.at.rect).collect();
        assert_eq!(rects, forms[1].cells);
        let shown: Vec<AssetId> = made
            .iter()
            .map(|id| job.plain(job.item(id).unwrap()).unwrap().content.picture().unwrap().clone())
            .collect();
        assert_eq!(shown, pictures);
        let round = |id: &ItemId| matches!(job.plain(job.item(id).unwrap()).unwrap().content, Content::Picture { frame: Outline::Rect { radius }, .. } if *radius == px(12.0));
        assert!(made.iter().all(round));
        let part = arranged(&job, &made[1..]).unwrap();
        assert!(part.rearrange(&job, Some(&forms[1]), room(0.0)).is_err());
        // Other gaps and margins leave the form, as they would have been there from the first.
        let wider = MosaicRoom { gap: px(20.0), margin: px(60.0), radius: px(12.0) };
        let as_it_is = arranged(&job, &made).unwrap();
        as_it_is.rearrange(&job, None, wider).unwrap().apply(&mut job, &Everything).unwrap();
        let again = mosaics(sheet_of(px(1_000.0), px(1_000.0)), &[1.5, 1.0, 0.7], wider).unwrap();
        let close = |form: &Mosaic| {
            form.cells.iter().zip(&made).all(|(cell, id)| {
                let rect = job.item(id).unwrap().place.at.rect;
                [cell.x - rect.x, cell.y - rect.y, cell.right() - rect.right(), cell.bottom() - rect.bottom()]
                    .iter()
                    .all(|d| d.abs() < px(1.0))
            })
        };
        let gap = |a: &ItemId, b: &ItemId| {
            let (a, b) = (job.item(a).unwrap().place.at.rect, job.item(b).unwrap().place.at.rect);
            (b.x - a.right()).max(b.y - a.bottom()).max(a.x - b.right()).max(a.y - b.bottom())
        };
        assert!(
            (gap(&made[0], &made[1]) - px(20.0)).abs() < px(0.1)
                || (gap(&made[1], &made[2]) - px(20.0)).abs() < px(0.1)
        );
        let read = arranged(&job, &made).unwrap();
        assert!(
            (read.room.gap - wider.gap).abs() < px(0.1) && (read.room.margin - wider.margin).abs() < px(0.1),
            "{read:?}"
        );
        assert!(again.iter().any(close) || read.form(&again).is_none());
        let nothing = MosaicRoom { gap: px(900.0), ..wider };
        assert!(arranged(&job, &made).unwrap().rearrange(&job, None, nothing).is_err(), "no room is left");
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(48))]

        /// What an arrangement was made with is read from its frames, wherever it lies.
        #[test]
        fn an_arrangement_says_what_it_is(aspects in prop::collection::vec(0.5f64..2.0, 2..9), form in 0usize..6, gap in 0.5f64..10.0, margin in 0.0f64..40.0) {
            use crate::testing::{Everything, Numbered, job_with};
            let mut job = job_with(0);
            let sheet = job.pieces[0].format.size;
            let side = job.pieces[0].sides[0].id.clone();
            let px = Length::css_px;
            let room = MosaicRoom { gap: px(gap), margin: px(margin), radius: px(3.0) };
            let forms = mosaics(Rect::of(sheet), &aspects, room).unwrap();
            let form = form % forms.len();
            let pictures: Vec<AssetId> = (0..aspects.len()).map(|n| AssetId::new(format!("a{n}")).unwrap()).collect();
            let (command, made) = arrange_pictures(&job, &side, &pictures, &forms[form], room.radius, &mut Numbered::default()).unwrap();
            command.apply(&mut job, &Everything).unwrap();
            let read = arranged(&job, &made).unwrap();
            let near = |a: Length, b: Length| (a - b).abs() < px(0.01);
            prop_assert!(near(read.room.gap, room.gap) && near(read.room.margin, room.margin) && read.room.radius == room.radius, "{read:?}");
            prop_assert!(near(read.area.w, sheet.w) && near(read.area.h, sheet.h));
            prop_assert_eq!(read.form(&forms), Some(form));
            // The same room again moves nothing.
            read.rearrange(&job, None, read.room).unwrap().apply(&mut job, &Everything).unwrap();
            for (cell, id) in forms[form].cells.iter().zip(&made) {
                let rect = job.item(id).unwrap().place.at.rect;
                prop_assert!([cell.x - rect.x, cell.y - rect.y, cell.w - rect.w, cell.h - rect.h].iter().all(|d| d.abs() < px(0.05)));
            }
        }
    }

    #[test]
    fn a_moved_edge_takes_its_neighbours_along() {
        use crate::testing::{Everything, Numbered, job_with};
        let mut job = job_with(0);
        let side = job.pieces[0].sides[0].id.clone();
        let px = Length::css_px;
        let cell = |x: f64, y: f64, w: f64, h: f64| Rect::new(px(x), px(y), px(w), px(h));
        // One tall cell on the left, two on the right, 10 px apart.
        let mosaic = Mosaic {
            cells: vec![cell(0.0, 0.0, 100.0, 210.0), cell(110.0, 0.0, 200.0, 100.0), cell(110.0, 110.0, 200.0, 100.0)],
            shown: 1.0,
        };
        let pictures: Vec<AssetId> = ["a", "b", "c"].map(|id| AssetId::new(id).unwrap()).to_vec();
        let (command, made) =
            arrange_pictures(&job, &side, &pictures, &mosaic, Length::ZERO, &mut Numbered::default()).unwrap();
        command.apply(&mut job, &Everything).unwrap();
        let rects = |job: &Job| made.iter().map(|id| job.item(id).unwrap().place.at.rect).collect::<Vec<_>>();
        move_edge(&job, &made[0], BoxEdge::Right, px(30.0)).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!(
            rects(&job),
            [cell(0.0, 0.0, 130.0, 210.0), cell(140.0, 0.0, 170.0, 100.0), cell(140.0, 110.0, 170.0, 100.0)]
        );
        move_edge(&job, &made[2], BoxEdge::Top, px(-20.0)).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!(
            rects(&job),
            [cell(0.0, 0.0, 130.0, 210.0), cell(140.0, 0.0, 170.0, 80.0), cell(140.0, 90.0, 170.0, 120.0)]
        );
        assert!(move_edge(&job, &made[0], BoxEdge::Right, px(170.0)).is_err());
    }
}
