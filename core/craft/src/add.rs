//! New items and copies: what they are, how large, and where they arrive.

use std::collections::BTreeMap;

use vatman_document::{AssetId, Color, Command, CommandError, Content, Drawing, Focus, IdSource, Item, ItemId, Job, Kin, KinId, Look, Outline, Paint, Part, PictureFit, Piece, Place, Release, RichText, Side, SideId, TypeLook};
use vatman_units::{Length, Placement, Rect, Size};

use crate::draw::inked;
use crate::group::Regrouped;

/// What can be added to a side.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Addition {
    /// A text box.
    Words,
    /// A frame with a picture of so many pixels, or an empty one.
    Picture(Option<(AssetId, (u32, u32))>),
    /// A shape.
    Shape(Outline),
    /// A vector graphic.
    Drawing(Drawing),
}

/// The command that adds something to a side, and the identity it will have. It arrives where it covers least of what is there, as near
/// the middle as that allows, in a colour that reads on the ground.
#[must_use]
pub fn add(job: &Job, piece: &Piece, side: &Side, what: Addition, ids: &mut dyn IdSource) -> (Command, ItemId) {
    let sheet = piece.format.size;
    let measure = sheet.measure();
    let ink = readable_on(job, side);
    let (part, content, look, size) = match what {
        Addition::Words => {
            let kind = TypeLook { size: measure.scaled(0.06), ..TypeLook::default() };
            let content = Content::Words { text: RichText::default(), prompt: "Your words".into() };
            let look = Look { fill: Some(Paint::flat(ink)), type_look: Some(kind), ..Look::default() };
            (Part::Detail, content, look, Size::new(sheet.w.scaled(0.6), measure.scaled(0.072)))
        }
        Addition::Picture(picture) => {
            let aspect = picture.as_ref().map_or(1.0, |(_, (w, h))| f64::from(*w) / f64::from((*h).max(1)));
            let content = Content::Picture { picture: picture.map(|(id, _)| id), focus: Focus::CENTRE, frame: Outline::RECT, fit: PictureFit::Fill };
            (Part::Picture, content, Look { fill: None, ..Look::default() }, third_of(sheet, aspect))
        }
        Addition::Drawing(drawing) => {
            let aspect = f64::from(drawing.width) / f64::from(drawing.height.max(1));
            let content = Content::Drawing { drawing: inked(drawing, &ink.into()) };
            (Part::Ornament, content, Look { fill: None, ..Look::default() }, third_of(sheet, aspect))
        }
        Addition::Shape(outline) => (Part::Ornament, Content::Shape { outline }, Look { fill: Some(Paint::flat(ink)), ..Look::default() }, third_of(sheet, 1.0)),
    };
    let rect = free_place(job, piece, side, size);
    let item = Item::new(ItemId::fresh(ids), KinId::fresh(ids), Place::new(Placement::at(rect)));
    let id = item.id.clone();
    (Command::InsertItem { side: side.id.clone(), index: usize::MAX, item, kin: Some(Kin { part, content, look }) }, id)
}

/// The place for a box that covers least of what stands on the side; of equal ones the nearest to the middle. What covers most of
/// the sheet is ground and does not count.
fn free_place(job: &Job, piece: &Piece, side: &Side, size: Size) -> Rect {
    const STEPS: i64 = 12;
    let sheet = Rect::of(piece.format.size);
    let area = |w: Length, h: Length| w.to_css_px().max(0.0) * h.to_css_px().max(0.0);
    let is_ground = |item: &&Item| {
        let shape = job.plain(item).is_none_or(|plain| plain.content.words().is_none());
        shape && area(item.place.at.rect.w, item.place.at.rect.h) > 0.35 * area(sheet.w, sheet.h)
    };
    let taken: Vec<Rect> = side.items.iter().filter(|item| !item.hidden && !is_ground(item)).map(|item| item.place.at.rect).collect();
    let common = |a: Rect, b: Rect| area(a.right().min(b.right()) - a.x.max(b.x), a.bottom().min(b.bottom()) - a.y.max(b.y));
    let edge = piece.format.safe.min((sheet.w - size.w).half()).min((sheet.h - size.h).half()).max(Length::ZERO);
    let (room_w, room_h) = (sheet.w - size.w - edge - edge, sheet.h - size.h - edge - edge);
    let at = |column: i64, row: i64| {
        let share = |room: Length, step: i64| Length::from_raw(room.raw() * step / STEPS);
        Rect::new(edge + share(room_w, column), edge + share(room_h, row), size.w, size.h)
    };
    let cost = |rect: Rect| {
        let covered: f64 = taken.iter().map(|other| common(rect, *other)).sum();
        let away = (rect.x + rect.w.half() - sheet.w.half()).to_css_px().hypot((rect.y + rect.h.half() - sheet.h.half()).to_css_px());
        covered / area(size.w, size.h).max(1e-9) + away / sheet.w.max(sheet.h).to_css_px().max(1e-9) * 0.2
    };
    let all = (0..=STEPS).flat_map(|row| (0..=STEPS).map(move |column| at(column, row)));
    all.min_by(|a, b| cost(*a).total_cmp(&cost(*b))).unwrap_or_else(|| at(STEPS / 2, STEPS / 2))
}

/// A box of an aspect with about a third of the sheet's measure a side, inside the sheet.
fn third_of(sheet: Size, aspect: f64) -> Size {
    let side = sheet.measure().scaled(0.36);
    let (w, h) = (side.scaled(aspect.sqrt()), side.scaled(1.0 / aspect.sqrt()));
    let shrink = (sheet.w.raw() as f64 * 0.9 / w.raw().max(1) as f64).min(sheet.h.raw() as f64 * 0.9 / h.raw().max(1) as f64).min(1.0);
    Size::new(w.scaled(shrink), h.scaled(shrink))
}

/// Black or white, whichever has the higher contrast with the ground.
fn readable_on(job: &Job, side: &Side) -> Color {
    let ground = side.ground.as_ref().and_then(|paint| paint.tints().next()).map_or(Color::WHITE, |tint| job.color(tint));
    let dark = Color::opaque(0x23, 0x20, 0x1d);
    if ground.contrast(dark) >= ground.contrast(Color::WHITE) { dark } else { Color::WHITE }
}

/// The command that puts copies of items just above them, moved a step; copies share nothing with what they were copied from.
#[must_use]
pub fn duplicate(job: &Job, items: &[ItemId], ids: &mut dyn IdSource) -> (Command, Vec<ItemId>) {
    let mut commands = Vec::new();
    let mut made = Vec::new();
    let mut regrouped = Regrouped::new();
    for (piece, side) in job.pieces.iter().flat_map(|piece| piece.sides.iter().map(move |side| (piece, side))) {
        let step = piece.format.size.measure().scaled(0.02);
        for item in side.items.iter().filter(|item| items.contains(&item.id)) {
            let Some(plain) = job.plain(item) else { continue };
            let kin = Kin { part: plain.part, content: plain.content.clone(), look: plain.look.clone() };
            let at = Placement { rect: item.place.at.rect.moved(step, step), ..item.place.at };
            let groups = regrouped.of(&item.groups, ids);
            let copy = Item { groups, ..Item::new(ItemId::fresh(ids), KinId::fresh(ids), Place { at, ..item.place }) };
            made.push(copy.id.clone());
            commands.push(Command::InsertItem { side: side.id.clone(), index: usize::MAX, item: copy, kin: Some(kin) });
        }
    }
    (Command::All { commands }, made)
}

/// The command that adds a side after another: blank with the same ground, or a copy of everything on it that shares nothing with it.
///
/// # Errors
/// [`CommandError`] where the side is not there.
pub fn add_side(job: &Job, after: &SideId, copy: bool, ids: &mut dyn IdSource) -> Result<(Command, SideId), CommandError> {
    let (piece, model) = job.side(after).ok_or_else(|| CommandError::Missing("side", after.to_string()))?;
    let index = piece.sides.iter().position(|side| side.id == *after).unwrap_or(0) + 1;
    let name = match (copy, piece.sides.len()) {
        (true, _) => format!("{} copy", model.name).chars().take(200).collect(),
        (false, 1) => "Back".to_owned(),
        (false, count) => format!("Side {}", count + 1),
    };
    let mut side = Side { id: SideId::fresh(ids), name, ground: model.ground.clone(), items: Vec::new() };
    let mut kins = BTreeMap::new();
    let mut regrouped = Regrouped::new();
    for item in model.items.iter().filter(|_| copy) {
        let Some(plain) = job.plain(item) else { continue };
        let kin = KinId::fresh(ids);
        kins.insert(kin.clone(), Kin { part: plain.part, content: plain.content.clone(), look: plain.look.clone() });
        let groups = regrouped.of(&item.groups, ids);
        side.items.push(Item { id: ItemId::fresh(ids), kin, release: Release::default(), groups, ..item.clone() });
    }
    let id = side.id.clone();
    Ok((Command::InsertSide { piece: piece.id.clone(), index, side, kins }, id))
}

#[cfg(test)]
mod tests {
    use super::*;
    use vatman_document::{Format, Guides, JobId, Known, PieceId};
    use vatman_units::Ratio;

    /// Rounding may put an edge a fine unit off.
    const HAIR: Length = Length::from_raw(1);

    struct Counter(u32);
    impl IdSource for Counter {
        fn fresh(&mut self) -> String {
            self.0 += 1;
            format!("n{}", self.0)
        }
    }
    struct All;
    impl Known for All {
        fn has_family(&self, _: &str) -> bool {
            true
        }
        fn has_picture(&self, _: &AssetId) -> bool {
            true
        }
    }

    #[test]
    fn new_items_arrive_inside_the_sheet_and_apart() {
        for (w, h) in [(1080, 1080), (728, 90), (300, 2400)] {
            let mut job = Job::new(JobId::new("j").unwrap(), "t");
            let side = Side { id: SideId::new("s").unwrap(), name: "Front".into(), ground: Some(Paint::flat(Color::BLACK)), items: Vec::new() };
            job.pieces.push(Piece { id: PieceId::new("p").unwrap(), name: "p".into(), place: None, format: Format::screen(w, h), sides: vec![side], guides: Guides::default(), tray: Vec::new() });
            let picture = AssetId::new("a").unwrap();
            let mut ids = Counter(0);
            for what in [Addition::Words, Addition::Words, Addition::Picture(Some((picture, (4000, 500)))), Addition::Picture(None), Addition::Shape(Outline::Ellipse)] {
                let (command, id) = add(&job, &job.pieces[0], &job.pieces[0].sides[0], what, &mut ids);
                command.apply(&mut job, &All).unwrap();
                let rect = job.item(&id).unwrap().place.at.rect;
                assert!(Rect::of(job.pieces[0].format.size).outset(HAIR).contains(rect), "{rect:?} in {w} x {h}");
            }
            let look = &job.plain(&job.pieces[0].sides[0].items[0]).unwrap().look.fill.clone().unwrap();
            assert_eq!(look, &Paint::flat(Color::WHITE), "words on black are white");
            let rects: Vec<Rect> = job.items().map(|item| item.place.at.rect).collect();
            let meet = |a: &Rect, b: &Rect| a.x < b.right() && b.x < a.right() && a.y < b.bottom() && b.y < a.bottom();
            let apart = rects.iter().enumerate().filter(|(i, a)| rects[..*i].iter().all(|b| !meet(a, b))).count();
            assert!(apart >= 3, "only {apart} of {} found free space in {w} x {h}", rects.len());
            let (command, made) = duplicate(&job, &[job.pieces[0].sides[0].items[0].id.clone()], &mut ids);
            command.apply(&mut job, &All).unwrap();
            assert_eq!(job.pieces[0].sides[0].items.len(), 6);
            assert_eq!(job.item(&made[0]).unwrap().place.scale, Ratio::ONE);
        }
    }
}
