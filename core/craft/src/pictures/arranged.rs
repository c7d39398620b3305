//! An arrangement of pictures that stands on a sheet, read from its frames: its area, gaps, margin, corners and form. Nothing is
//! remembered beside the frames, so that what was moved by hand is never contradicted.

use serde::Serialize;
use ts_rs::TS;
use vatman_document::{Command, Content, GroupId, Item, ItemId, Job, Outline, Place, Side};
use vatman_units::{Angle, Length, Placement, Rect};

use crate::pictures::mosaic::{MOSAIC_COUNT, Mosaic, MosaicRoom};
use crate::refusal::Refusal;

/// An arrangement as it stands.
#[derive(Debug, Clone, PartialEq)]
pub struct Arranged {
    /// What it takes up, its margin included.
    pub area: Rect,
    /// Its gaps, margin and corners.
    pub room: MosaicRoom,
    /// The frames, and where they are.
    cells: Vec<(ItemId, Rect)>,
}

/// The arrangements there are for pictures, and how they stand now.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct Arrangements {
    /// Gaps, margin and corners: as asked for, as they are, or to begin with.
    pub room: MosaicRoom,
    /// The arrangements, the best first.
    pub forms: Vec<Mosaic>,
    /// The number of the one the pictures stand in, where it is one of these.
    pub form: Option<usize>,
}

/// Gaps, margin and corners to begin with on a sheet whose shorter side is given.
#[must_use]
pub fn room_to_begin(shorter: Length) -> MosaicRoom {
    MosaicRoom { gap: shorter.scaled(0.015), margin: shorter.scaled(0.04), radius: Length::ZERO }
}

/// The arrangements on a side, each as its frames from the back: groups of 2 to 12 upright pictures and nothing else.
#[must_use]
pub fn arrangements(job: &Job, side: &Side) -> Vec<Vec<ItemId>> {
    let mut groups: Vec<(&GroupId, Vec<&Item>)> = Vec::new();
    for item in &side.items {
        for group in &item.groups {
            match groups.iter_mut().find(|(known, _)| *known == group) {
                Some((_, members)) => members.push(item),
                None => groups.push((group, vec![item])),
            }
        }
    }
    let cell = |item: &Item, group: &GroupId| {
        item.groups.last() == Some(group)
            && item.place.at.turn == Angle::ZERO
            && job.plain(item).is_some_and(|plain| plain.content.picture().is_some())
    };
    let found = groups.into_iter().filter(|(group, members)| {
        MOSAIC_COUNT.contains(&members.len()) && members.iter().all(|item| cell(item, group))
    });
    found.map(|(_, members)| members.into_iter().map(|item| item.id.clone()).collect()).collect()
}

/// Reads an arrangement from its frames.
///
/// # Errors
/// [`Refusal`] where a frame is not there, or they are too few or too many.
pub fn arranged(job: &Job, items: &[ItemId]) -> Result<Arranged, Refusal> {
    let first = job.find(items.first().ok_or(Refusal::NothingSelected)?)?;
    let cells: Vec<(ItemId, Rect)> =
        items.iter().map(|id| Ok((id.clone(), job.find(id)?.item.place.at.rect))).collect::<Result<_, Refusal>>()?;
    if !MOSAIC_COUNT.contains(&cells.len()) {
        return Err(Refusal::MosaicCount);
    }
    let all = crate::arrange::align::around(cells.iter().map(|(_, rect)| *rect));
    let sheet = first.piece.format.size;
    let margin = all.x.min(all.y).min(sheet.w - all.right()).min(sheet.h - all.bottom()).max(Length::ZERO);
    let radius = match first.plain()?.content {
        Content::Picture { frame: Outline::Rect { radius }, .. } => radius.scaled(first.item.place.scale.get()),
        _ => Length::ZERO,
    };
    let room = MosaicRoom { gap: gap_of(&cells), margin, radius };
    Ok(Arranged { area: all.outset(margin), room, cells })
}

/// The least distance between two cells that face each other.
fn gap_of(cells: &[(ItemId, Rect)]) -> Length {
    let faces = |a0: Length, a1: Length, b0: Length, b1: Length| a0 < b1 && b0 < a1;
    let mut least: Option<Length> = None;
    for (n, (_, a)) in cells.iter().enumerate() {
        for (_, b) in &cells[n + 1..] {
            let beside = faces(a.y, a.bottom(), b.y, b.bottom());
            let over = faces(a.x, a.right(), b.x, b.right());
            let gap = match (beside, over) {
                (true, false) => (b.x - a.right()).max(a.x - b.right()),
                (false, true) => (b.y - a.bottom()).max(a.y - b.bottom()),
                _ => continue,
            };
            least = Some(least.map_or(gap, |least| least.min(gap)));
        }
    }
    least.unwrap_or(Length::ZERO)
}

impl Arranged {
    /// The number of the form it stands in.
    #[must_use]
    pub fn form(&self, forms: &[Mosaic]) -> Option<usize> {
        let hair = self.area.w.max(self.area.h).scaled(0.002);
        let near = |a: &Rect, b: &Rect| {
            [a.x - b.x, a.y - b.y, a.right() - b.right(), a.bottom() - b.bottom()].iter().all(|d| d.abs() <= hair)
        };
        forms.iter().position(|form| {
            form.cells.len() == self.cells.len() && form.cells.iter().zip(&self.cells).all(|(a, (_, b))| near(a, b))
        })
    }

    /// The command that gives the frames the cells of a form, or other gaps, margin and corners in the form they have. Pictures,
    /// crops and everything else about them stay; frames that are rectangles get the radius.
    ///
    /// # Errors
    /// [`Refusal`] where the form does not have a cell for each, or a cell would lose all its width or height.
    pub fn rearrange(&self, job: &Job, form: Option<&Mosaic>, room: MosaicRoom) -> Result<Command, Refusal> {
        if form.is_some_and(|form| form.cells.len() != self.cells.len()) {
            return Err(Refusal::MosaicCells);
        }
        let mut commands = Vec::new();
        for (at, (id, own)) in self.cells.iter().enumerate() {
            let cell = form.map_or_else(|| self.with_room(*own, room), |form| form.cells[at]);
            if cell.w < Length::css_px(4.0) || cell.h < Length::css_px(4.0) {
                return Err(Refusal::CellGone);
            }
            let found = job.find(id)?;
            let place = Place { at: Placement::at(cell), ..found.item.place };
            commands.push(Command::SetPlace { item: id.clone(), place });
            let plain = found.plain()?;
            let Content::Picture { picture, focus, frame: Outline::Rect { radius: own }, fit } = plain.content else {
                continue;
            };
            let radius = room.radius.scaled(1.0 / found.item.place.scale.get());
            if *own != radius {
                let frame = Outline::Rect { radius };
                let content = Content::Picture { picture: picture.clone(), focus: *focus, frame, fit: *fit };
                commands.push(Command::SetContent { target: plain.content_target(), content });
            }
        }
        Ok(Command::All { commands })
    }

    /// A cell as it would be with other gaps and another margin: the line in the middle of each gap keeps its share of the area.
    fn with_room(&self, cell: Rect, room: MosaicRoom) -> Rect {
        let (was, now) = (self.area.outset(-self.room.margin), self.area.outset(-room.margin));
        let hair = Length::css_px(0.5);
        let edge = |at: Length, (from, length): (Length, Length), (to, next): (Length, Length), first: bool| {
            let outer = if first { at - from <= hair } else { from + length - at <= hair };
            let (own, new) = if outer { (Length::ZERO, Length::ZERO) } else { (self.room.gap.half(), room.gap.half()) };
            let line = if first { at - own } else { at + own };
            let share = (line - from).raw() as f64 / length.raw().max(1) as f64;
            let line = to + next.scaled(share);
            if first { line + new } else { line - new }
        };
        let (across, down) = (((was.x, was.w), (now.x, now.w)), ((was.y, was.h), (now.y, now.h)));
        let (left, right) = (edge(cell.x, across.0, across.1, true), edge(cell.right(), across.0, across.1, false));
        let (top, bottom) = (edge(cell.y, down.0, down.1, true), edge(cell.bottom(), down.0, down.1, false));
        Rect::new(left, top, right - left, bottom - top)
    }
}
