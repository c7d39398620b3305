//! Where items sit: moved, resized, turned and mirrored, by hand and by number.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{Align, BoxEdge, Command, Content, Curve, Item, ItemId, Job, Place, Plain, Standing, TextFit};
use vatman_units::{Angle, Length, Placement, Ratio, Rect};

use crate::compose::sheet_at;
use crate::edit::target::looks;
use crate::pictures::move_edge;
use crate::refusal::Refusal;
use crate::studio::Studio;

/// Which handle is dragged: -1 left or top, 0 middle, 1 right or bottom.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Grip {
    /// Across.
    #[ts(type = "-1 | 0 | 1")]
    pub h: i8,
    /// Down.
    #[ts(type = "-1 | 0 | 1")]
    pub v: i8,
}

impl Grip {
    const fn is_corner(self) -> bool {
        self.h != 0 && self.v != 0
    }

    /// The edge it drags, where it drags one alone.
    const fn edge(self) -> Option<BoxEdge> {
        match (self.h, self.v) {
            (-1, 0) => Some(BoxEdge::Left),
            (1, 0) => Some(BoxEdge::Right),
            (0, -1) => Some(BoxEdge::Top),
            (0, 1) => Some(BoxEdge::Bottom),
            _ => None,
        }
    }
}

/// The handles an item has.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Handles {
    /// Corners and edges.
    All,
    /// Corners and the edges left and right: its height follows.
    Sides,
    /// Corners alone.
    Corners,
}

/// The handles of an item: words that grow are as high as their lines, and words on a circle stay round.
#[must_use]
pub fn handles(plain: &Plain<'_>) -> Handles {
    let Content::Words { .. } = plain.content else { return Handles::All };
    let Some(look) = &plain.look.type_look else { return Handles::Sides };
    match (&look.curve, look.fit) {
        (Some(Curve::Circle { .. }), _) | (_, TextFit::AsTyped) => Handles::Corners,
        (Some(_), _) | (_, TextFit::Grow | TextFit::Widen { .. }) => Handles::Sides,
        _ => Handles::All,
    }
}

fn put(item: &Item, rect: Rect) -> Place {
    Place { at: Placement { rect, ..item.place.at }, ..item.place }
}

fn set(item: &Item, place: Place) -> Command {
    Command::SetPlace { item: item.id.clone(), place }
}

/// How the words of an item stand that widen as they are typed: where their lines stand in the room there is.
fn widens(plain: &Plain<'_>) -> Option<Align> {
    let look = plain.look.type_look.as_ref()?;
    let free = matches!(look.fit, TextFit::Widen { .. }) && look.curve.is_none() && look.lock_up.is_none();
    (free && matches!(plain.content, Content::Words { .. }) && plain.item.place.at.turn == Angle::ZERO)
        .then_some(look.align)
}

/// The room words have to widen into, from what is drawn of them to the edges of the safe area of a sheet, or of the panel they stand on: from
/// where it begins, how wide.
#[must_use]
pub fn room_for_words(safe: Rect, seen: Rect, align: Align) -> (Length, Length) {
    let left = safe.x.min(seen.x);
    let right = safe.right().max(seen.right());
    match align {
        Align::Start | Align::Justified => (seen.x, right - seen.x),
        Align::End => (left, seen.right() - left),
        Align::Centre => {
            let middle = seen.x + seen.w.half();
            let half = (middle - left).min(right - middle);
            (middle - half, half + half)
        }
    }
}

/// The safe area of what a box of a side stands on.
fn safe_at(found: &Standing<'_>, seen: Rect) -> Rect {
    sheet_at(found.piece, &found.side.id, seen).outset(-found.piece.format.safe)
}

/// The places of words that are about to change: where they came too near the edge of the safe area, they have less room to widen.
pub(crate) fn kept_in_room(job: &Job, id: &ItemId, studio: &Studio) -> Result<Vec<Command>, Refusal> {
    let found = job.find(id)?;
    let kin = &found.item.kin;
    let mut commands = Vec::new();
    // Only words that widen anywhere are looked for everywhere.
    if !matches!(found.plain()?.look.type_look.as_ref().map(|look| look.fit), Some(TextFit::Widen { .. })) {
        return Ok(commands);
    }
    for item in job.items().filter(|item| item.kin == *kin && !item.locked) {
        let found = job.find(&item.id)?;
        let Some(align) = widens(&found.plain()?) else { continue };
        let seen = studio.drawn(job, item);
        let (x, w) = room_for_words(safe_at(&found, seen), seen, align);
        let rect = item.place.at.rect;
        // Rounding alone changes nothing.
        if rect.w - w > Length::css_px(0.5) {
            commands.push(set(item, put(item, Rect { x, w, ..rect })));
        }
    }
    Ok(commands)
}

/// The place of an item moved to the right and down. Words that widen have the room there is where they come to lie, unless they
/// take up all they have.
fn moved(found: &Standing<'_>, dx: Length, dy: Length, studio: &Studio) -> Result<Command, Refusal> {
    let item = found.item;
    let mut rect = item.place.at.rect.moved(dx, dy);
    if let Some(align) = widens(&found.plain()?) {
        let seen = studio.drawn(found.job, item);
        if seen.w + Length::css_px(0.5) < rect.w {
            let seen = seen.moved(dx, dy);
            let (x, w) = room_for_words(safe_at(found, seen), seen, align);
            rect = Rect { x, w, ..rect };
        }
    }
    Ok(set(item, put(item, rect)))
}

/// Moves items to the right and down; locked ones stay.
///
/// # Errors
/// [`Refusal`] where one is not there.
pub fn move_by(job: &Job, items: &[ItemId], dx: Length, dy: Length, studio: &Studio) -> Result<Command, Refusal> {
    let mut commands = Vec::new();
    for id in items {
        let found = job.find(id)?;
        if !found.item.locked {
            commands.push(moved(&found, dx, dy, studio)?);
        }
    }
    Ok(Command::All { commands })
}

/// The box an item is seen in, before its turn: words as wide as their lines lie in a part of their place.
fn seen(found: &Standing<'_>, studio: &Studio) -> Result<Rect, Refusal> {
    let plain = found.plain()?;
    let drawn = matches!(handles(&plain), Handles::Sides | Handles::Corners);
    Ok(if drawn { studio.drawn(found.job, found.item) } else { found.item.place.at.rect })
}

/// Resizes an item by a handle to a box of the sheet, before its turn about the middle. Type grows with a corner; an edge only
/// changes where lines break. An edge of a cell of an arrangement of pictures takes its neighbours along, unless it is to go `apart`.
///
/// # Errors
/// [`Refusal`] where it is not there, or a cell would lose all its width or height.
pub fn resize(
    job: &Job,
    id: &ItemId,
    to: Rect,
    (grip, apart): (Grip, bool),
    studio: &Studio,
) -> Result<Command, Refusal> {
    let found = job.find(id)?;
    let item = found.item;
    if let Some(edge) = grip.edge().filter(|_| !apart && is_cell(&found)) {
        let was = item.place.at.rect;
        let by = match edge {
            BoxEdge::Left => to.x - was.x,
            BoxEdge::Right => to.right() - was.right(),
            BoxEdge::Top => to.y - was.y,
            BoxEdge::Bottom => to.bottom() - was.bottom(),
        };
        return move_edge(job, id, edge, by);
    }
    let plain = found.plain()?;
    let Content::Words { .. } = plain.content else { return Ok(set(item, put(item, to))) };
    let (place, seen) = (item.place.at.rect, seen(&found, studio)?);
    if !grip.is_corner() {
        let widens = widens(&plain).is_some();
        let resized = set(item, put(item, Rect { h: if widens { place.h } else { to.h }, ..to }));
        return Ok(if widens { wrapped(job, id)?.then(resized) } else { resized });
    }
    let factor = to.w.raw() as f64 / seen.w.raw().max(1) as f64;
    // What is not seen of the place grows with what is.
    let rect = Rect::new(
        to.x - (seen.x - place.x).scaled(factor),
        to.y - (seen.y - place.y).scaled(factor),
        place.w.scaled(factor),
        if handles(&plain) == Handles::All { to.h } else { place.h.scaled(factor) },
    );
    let scale = Ratio::new(item.place.scale.get() * factor);
    Ok(set(item, Place { scale, ..put(item, rect) }))
}

/// Words whose width is set by hand break at it from then on.
fn wrapped(job: &Job, id: &ItemId) -> Result<Command, Refusal> {
    looks(job, std::slice::from_ref(id), |_, look| {
        if let Some(look) = &mut look.type_look {
            look.fit = TextFit::Grow;
        }
        Ok(())
    })
}

/// Whether an item is an upright picture that shares an arrangement with others.
fn is_cell(found: &Standing<'_>) -> bool {
    let picture =
        |item: &Item| found.job.plain(item).is_some_and(|plain| matches!(plain.content, Content::Picture { .. }));
    let Some(group) = found.item.groups.last() else { return false };
    let cells = found.side.items.iter().filter(|other| other.groups.last() == Some(group) && picture(other));
    picture(found.item) && found.item.place.at.turn == Angle::ZERO && cells.count() >= 2
}

/// Sets position or size by number. Positions are those of a point of the box, given in halves of its width and height; that point
/// stays where it is when the size changes. A picture or a graphic keeps its proportion where one length is typed, unless it is `free`.
///
/// # Errors
/// [`Refusal`] where the item is not there.
pub fn set_box(job: &Job, id: &ItemId, numbers: &BoxNumbers, studio: &Studio) -> Result<Command, Refusal> {
    let found = job.find(id)?;
    let (item, rect) = (found.item, seen(&found, studio)?);
    // Words that grow are as high as they are drawn.
    let drawn = matches!(handles(&found.plain()?), Handles::Sides | Handles::Corners);
    let high = rect.h;
    let half = |length: Length, halves: u8| Length::from_raw(length.raw() * i64::from(halves.min(2)) / 2);
    let [across, down] = numbers.point;
    let x = numbers.x.unwrap_or(rect.x + half(rect.w, across));
    let y = numbers.y.unwrap_or(rect.y + half(high, down));
    let plain = found.plain()?;
    let type_look = plain.look.type_look.as_ref();
    if numbers.w.is_none() && type_look.is_some_and(|look| look.fit.hugs()) && item.place.at.turn == Angle::ZERO {
        return moved(&found, x - half(rect.w, across) - rect.x, y - half(high, down) - rect.y, studio);
    }
    let bound = !numbers.free && keeps_proportion(&found.plain()?) && rect.w.is_positive() && rect.h.is_positive();
    let along = |length: Length, own: Length, other: Length| {
        Length::from_raw((length.raw() as f64 * other.raw() as f64 / own.raw() as f64).round() as i64)
    };
    let (w, h) = match (numbers.w, numbers.h) {
        (Some(w), None) if bound => (w, along(w, rect.w, rect.h)),
        (None, Some(h)) if bound => (along(h, rect.h, rect.w), h),
        (w, h) => (w.unwrap_or(rect.w), h.unwrap_or(high)),
    };
    let kept = if numbers.h.is_some() || bound || !drawn { h } else { item.place.at.rect.h };
    let resized = set(item, put(item, Rect::new(x - half(w, across), y - half(h, down), w, kept)));
    Ok(if widens(&found.plain()?).is_some() { wrapped(job, id)?.then(resized) } else { resized })
}

/// Whether an item looks wrong when only its width or its height changes: a picture or a graphic.
#[must_use]
pub fn keeps_proportion(plain: &Plain<'_>) -> bool {
    matches!(plain.content, Content::Picture { .. } | Content::Drawing { .. } | Content::Code { .. })
}

/// Position and size as typed; what is absent stays.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields)]
#[ts(optional_fields)]
pub struct BoxNumbers {
    /// The point that is measured, in halves across and down: 0, 1 or 2.
    pub point: [u8; 2],
    /// From the left edge of the sheet.
    pub x: Option<Length>,
    /// From the top edge.
    pub y: Option<Length>,
    /// Width.
    pub w: Option<Length>,
    /// Height.
    pub h: Option<Length>,
    /// Width and height of a picture or a graphic each by itself, instead of in proportion.
    pub free: bool,
}

/// Turns one item to an angle, clockwise.
///
/// # Errors
/// [`Refusal`] where it is not there.
pub fn turn_to(job: &Job, id: &ItemId, turn: Angle) -> Result<Command, Refusal> {
    let item = job.find(id)?.item;
    Ok(set(item, Place { at: Placement { turn, ..item.place.at }, ..item.place }))
}

/// Mirrors items in their places.
///
/// # Errors
/// [`Refusal`] where one is not there.
pub fn mirror(job: &Job, items: &[ItemId]) -> Result<Command, Refusal> {
    let mut commands = Vec::new();
    for id in items {
        let item = job.find(id)?.item;
        commands.push(set(item, Place { at: Placement { flip: !item.place.at.flip, ..item.place.at }, ..item.place }));
    }
    Ok(Command::All { commands })
}

/// Locks, frees, hides or shows items; what is absent stays.
///
/// # Errors
/// [`Refusal`] where one is not there.
pub fn set_flags(job: &Job, items: &[ItemId], locked: Option<bool>, hidden: Option<bool>) -> Result<Command, Refusal> {
    let mut commands = Vec::new();
    for id in items {
        let item = job.find(id)?.item;
        let (locked, hidden) = (locked.unwrap_or(item.locked), hidden.unwrap_or(item.hidden));
        commands.push(Command::SetFlags { item: id.clone(), locked, hidden });
    }
    Ok(Command::All { commands })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::testing::{Everything, job_with};

    fn id(n: usize) -> ItemId {
        ItemId::new(format!("i{n}")).unwrap()
    }

    #[test]
    fn mirrored_twice_is_as_it_was() {
        let mut job = job_with(1);
        let before = job.clone();
        mirror(&job, &[id(0)]).unwrap().apply(&mut job, &Everything).unwrap();
        assert!(job.find(&id(0)).unwrap().item.place.at.flip);
        mirror(&job, &[id(0)]).unwrap().apply(&mut job, &Everything).unwrap();
        turn_to(&job, &id(0), Angle::ZERO).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!(job, before);
    }
}
