//! New items and copies: what they are, how large, and where they arrive.

use std::collections::BTreeMap;

use vatman_document::{
    Align, AssetId, Cap, Code, CodeWords, Color, Command, Content, Drawing, Focus, IdSource, Item, ItemId, Job, Join,
    Kin, KinId, Look, Outline, Paint, Part, PictureFit, Piece, Place, Release, RichText, Side, SideId, Stroke,
    StrokePlace, Tint, TypeLook,
};
use vatman_units::{Length, Placement, Point, Rect, Size};

use crate::arrange::align::around;
use crate::arrange::copied::Copied;
use crate::compose::{sheet_at, sheets};
use crate::edit::{WIDEN, room_for_words};
use crate::pictures::draw::{fitted, inked};
use crate::refusal::Refusal;

/// What can be added to a side.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Addition {
    /// A text box for a part of the message, which gives it its size and weight.
    Words(Part),
    /// A frame with a picture of so many pixels, or an empty one.
    Picture(Option<(AssetId, (u32, u32))>),
    /// A shape.
    Shape(Outline),
    /// A panel over the whole sheet, below everything else.
    Panel,
    /// Lines drawn by hand where they were drawn.
    Drawn(Outline, Rect),
    /// A vector graphic.
    Drawing(Drawing),
    /// A vector graphic somebody brought, in the colours it has.
    Brought(Drawing),
    /// A scannable code.
    Code(CodeWords),
}

/// What new items find on a side: they are coloured by it, and keep clear of it.
pub struct Inks<'a> {
    /// The colour last chosen.
    pub last: Option<&'a Tint>,
    /// What is seen at a place of the side now, on the mean; where that cannot be told, the ground of the side counts.
    pub under: &'a dyn Fn(Rect) -> Option<Color>,
    /// The box an item of the side is drawn in.
    pub drawn: &'a dyn Fn(&Item) -> Rect,
}

impl Inks<'_> {
    /// Nothing chosen, and nothing seen but the ground of the side.
    pub const PLAIN: Inks<'static> = Inks { last: None, under: &|_| None, drawn: &|item| item.place.at.rect };

    /// The colour last chosen where it reads at a place (a contrast of 3 or more), else a dark one or white.
    #[must_use]
    pub fn at(&self, job: &Job, side: &Side, rect: Rect) -> Tint {
        let ground = (self.under)(rect).unwrap_or_else(|| {
            side.ground.as_ref().and_then(|paint| paint.tints().next()).map_or(Color::WHITE, |tint| job.color(tint))
        });
        let known = |tint: &&Tint| !matches!(tint, Tint::Swatch(id) if !job.swatches.contains_key(id));
        let reads = |tint: &&Tint| job.color(tint).contrast(ground) >= 3.0;
        self.last.filter(known).filter(reads).cloned().unwrap_or_else(|| ground.letters().into())
    }
}

/// The command that adds something to a side, and the identity it will have. It arrives where it covers least of what is there, as near
/// the middle as that allows, in the colour last used where that reads on the ground, else in one that does.
#[must_use]
pub fn add(
    job: &Job,
    piece: &Piece,
    side: &Side,
    what: Addition,
    inks: &Inks<'_>,
    ids: &mut dyn IdSource,
) -> (Command, ItemId) {
    // What is folded is filled panel by panel.
    let panels = sheets(piece, &side.id);
    let first = panels.first().copied().unwrap_or_else(|| Rect::of(piece.format.size));
    let sheet = first.size();
    let measure = sheet.measure();
    let (size, own_place) = match &what {
        Addition::Words(part) => (Size::new(sheet.w.scaled(0.6), measure.scaled(role_of(*part).0 * 1.2)), None),
        // The first picture of an empty sheet is what the sheet is about: it covers it, bleed and all.
        Addition::Picture(Some(_)) if side.items.is_empty() => (sheet, Some(bleeding(piece, first))),
        Addition::Picture(picture) => {
            (third_of(sheet, picture.as_ref().map_or(1.0, |(_, (w, h))| f64::from(*w) / f64::from((*h).max(1)))), None)
        }
        Addition::Drawing(drawing) | Addition::Brought(drawing) => {
            (third_of(sheet, f64::from(drawing.width) / f64::from(drawing.height.max(1))), None)
        }
        Addition::Shape(Outline::Line) => (Size::new(measure.scaled(0.36), measure.scaled(0.02)), None),
        Addition::Shape(_) => (third_of(sheet, 1.0), None),
        // As wide as is scanned from the hand, and never more than a third of the sheet.
        Addition::Code(_) => {
            let side = third_of(sheet, 1.0).w.min(Length::mm(32.0).max(measure.scaled(0.2)));
            (Size::new(side, side), None)
        }
        // Over the edge by the bleed, so that no white shows where the sheet is cut.
        Addition::Panel => (sheet, Some(Rect::of(piece.format.size).outset(piece.format.bleed))),
        Addition::Drawn(_, rect) => (rect.size(), Some(*rect)),
    };
    let rect = own_place.unwrap_or_else(|| free_place(job, (piece, side), size, inks.drawn));
    // Words stand about the middle of their place and may widen from there.
    let rect = if matches!(what, Addition::Words(_)) { roomy(piece, &side.id, rect) } else { rect };
    let ink = inks.at(job, side, rect);
    let index = if what == Addition::Panel { 0 } else { usize::MAX };
    let inked_look = Look { fill: Some(Paint::flat(ink.clone())), ..Look::default() };
    let (part, content, look) = match what {
        Addition::Words(part) => {
            let (share, weight) = role_of(part);
            let kind = TypeLook {
                size: measure.scaled(share),
                weight,
                family: family_for(job, part),
                align: Align::Centre,
                fit: WIDEN,
                ..TypeLook::default()
            };
            let prompt = if part == Part::Detail { "Your words" } else { part.name() };
            let content = Content::Words { text: RichText::default(), prompt: prompt.into() };
            (part, content, Look { type_look: Some(kind), ..inked_look })
        }
        Addition::Picture(picture) => {
            let content = Content::Picture {
                picture: picture.map(|(id, _)| id),
                focus: Focus::CENTRE,
                frame: Outline::RECT,
                fit: PictureFit::Fill,
            };
            (Part::Picture, content, Look { fill: None, ..Look::default() })
        }
        Addition::Drawing(drawing) => {
            (Part::Ornament, Content::Drawing { drawing: inked(drawing, &ink) }, Look { fill: None, ..Look::default() })
        }
        // What somebody brings keeps the colours it has.
        Addition::Brought(drawing) => {
            (Part::Ornament, Content::Drawing { drawing }, Look { fill: None, ..Look::default() })
        }
        Addition::Shape(Outline::Line) => (
            Part::Ornament,
            Content::Shape { outline: Outline::Line },
            line_look(&Paint::flat(ink), measure.scaled(0.005)),
        ),
        Addition::Shape(outline) | Addition::Drawn(outline, _) => {
            (Part::Ornament, Content::Shape { outline }, inked_look)
        }
        // Dark on light is what every reader reads.
        Addition::Code(says) => (
            Part::Action,
            Content::Code { code: Code { says, ground: Some(Color::WHITE.into()), mark: None } },
            Look { fill: Some(Paint::flat(Color::opaque(0x1d, 0x1b, 0x18))), ..Look::default() },
        ),
        Addition::Panel => (Part::Panel, Content::Shape { outline: Outline::RECT }, inked_look),
    };
    let item = Item::new(ItemId::fresh(ids), KinId::fresh(ids), Place::new(Placement::at(rect)));
    let id = item.id.clone();
    (Command::InsertItem { side: side.id.clone(), index, item, kin: Some(Kin::new(part, content, look)) }, id)
}

/// A part of a side with the bleed beyond it where it ends at the trim.
fn bleeding(piece: &Piece, part: Rect) -> Rect {
    let (whole, bleed) = (piece.format.size, piece.format.bleed);
    let out = |at_trim: bool| if at_trim { bleed } else { Length::ZERO };
    let (left, top) = (out(part.x == Length::ZERO), out(part.y == Length::ZERO));
    let (right, bottom) = (out(part.right() == whole.w), out(part.bottom() == whole.h));
    Rect::new(part.x - left, part.y - top, part.w + left + right, part.h + top + bottom)
}

/// A box about the same middle, as wide as the safe area lets it be.
fn roomy(piece: &Piece, side: &SideId, rect: Rect) -> Rect {
    let middle = Rect::new(rect.x + rect.w.half(), rect.y, Length::from_raw(0), rect.h);
    let sheet = sheet_at(piece, side, middle);
    let (x, w) = room_for_words(sheet.outset(-piece.format.safe), middle, Align::Centre);
    // Beside the safe area there is no room to speak of, and words are wanted there all the same.
    let least = rect.w.min(sheet.w.scaled(0.3));
    if w < least { Rect { x: middle.x - least.half(), w: least, ..rect } } else { Rect { x, w, ..rect } }
}

/// The same addition with the middle of all it adds at a point, kept on the sheet as far as it fits.
#[must_use]
pub fn put_at(command: Command, piece: &Piece, at: Option<Point>) -> Command {
    let Some(at) = at else { return command };
    let sheet = piece.format.size;
    let widens = |kin: &Kin| kin.look.type_look.as_ref().is_some_and(|look| look.fit == WIDEN);
    match command {
        Command::InsertItem { side, index, mut item, kin: Some(kin) } if widens(&kin) => {
            let rect = item.place.at.rect;
            let y = (at.y - rect.h.half()).min(sheet.h - rect.h).max(Length::ZERO);
            let x = at.x.max(Length::ZERO).min(sheet.w) - rect.w.half();
            item.place.at.rect = roomy(piece, &side, Rect { x, y, ..rect });
            Command::InsertItem { side, index, item, kin: Some(kin) }
        }
        command => put_within(command, sheet, at),
    }
}

fn put_within(command: Command, sheet: Size, at: Point) -> Command {
    let mut commands = command.into_list();
    let all = around(commands.iter().filter_map(|command| match command {
        Command::InsertItem { item, .. } => Some(item.place.at.rect),
        _ => None,
    }));
    let within = |from: Length, length: Length, room: Length| {
        if length > room { from } else { from.max(Length::ZERO).min(room - length) }
    };
    let dx = within(at.x - all.w.half(), all.w, sheet.w) - all.x;
    let dy = within(at.y - all.h.half(), all.h, sheet.h) - all.y;
    for command in &mut commands {
        if let Command::InsertItem { item, .. } = command {
            item.place.at.rect = item.place.at.rect.moved(dx, dy);
        }
    }
    match <[Command; 1]>::try_from(commands) {
        Ok([one]) => one,
        Err(commands) => Command::All { commands },
    }
}

/// How thick a line drawn by hand begins on a sheet.
#[must_use]
pub fn pen_thickness(sheet: Size) -> Length {
    sheet.w.min(sheet.h).scaled(0.008)
}

/// The place for a box that covers least of what stands on the side; of equal ones the nearest to the middle. What covers most of
/// the sheet is ground and does not count.
#[must_use]
pub fn free_place(job: &Job, (piece, side): (&Piece, &Side), size: Size, drawn: &dyn Fn(&Item) -> Rect) -> Rect {
    const STEPS: i64 = 12;
    let sheets = sheets(piece, &side.id);
    let whole = piece.format.size;
    let area = |w: Length, h: Length| w.to_css_px().max(0.0) * h.to_css_px().max(0.0);
    let is_ground = |item: &&Item| {
        let shape = job.plain(item).is_none_or(|plain| plain.content.words().is_none());
        shape
            && area(item.place.at.rect.w, item.place.at.rect.h)
                > 0.35 * area(whole.w, whole.h) / sheets.len().max(1) as f64
    };
    let taken: Vec<Rect> = side.items.iter().filter(|item| !item.hidden && !is_ground(item)).map(drawn).collect();
    let common =
        |a: Rect, b: Rect| area(a.right().min(b.right()) - a.x.max(b.x), a.bottom().min(b.bottom()) - a.y.max(b.y));
    let at = |sheet: Rect, column: i64, row: i64| {
        let edge = piece.format.safe.min((sheet.w - size.w).half()).min((sheet.h - size.h).half()).max(Length::ZERO);
        let (room_w, room_h) = (sheet.w - size.w - edge - edge, sheet.h - size.h - edge - edge);
        let share = |room: Length, step: i64| Length::from_raw(room.raw() * step / STEPS);
        Rect::new(sheet.x + edge + share(room_w, column), sheet.y + edge + share(room_h, row), size.w, size.h)
    };
    let cost = |sheet: Rect, rect: Rect| {
        let covered: f64 = taken.iter().map(|other| common(rect, *other)).sum();
        let away = (rect.x + rect.w.half() - sheet.x - sheet.w.half())
            .to_css_px()
            .hypot((rect.y + rect.h.half() - sheet.y - sheet.h.half()).to_css_px());
        covered / area(size.w, size.h).max(1e-9) + away / sheet.w.max(sheet.h).to_css_px().max(1e-9) * 0.2
    };
    let steps = || (0..=STEPS).flat_map(|row| (0..=STEPS).map(move |column| (column, row)));
    let all = sheets
        .iter()
        .flat_map(|sheet| steps().map(|(column, row)| at(*sheet, column, row)).map(|rect| (cost(*sheet, rect), rect)));
    all.min_by(|a, b| a.0.total_cmp(&b.0)).map_or_else(|| at(Rect::of(whole), STEPS / 2, STEPS / 2), |(_, rect)| rect)
}

/// A box of an aspect with about a third of the sheet's measure a side, inside the sheet.
pub(crate) fn third_of(sheet: Size, aspect: f64) -> Size {
    let side = sheet.measure().scaled(0.36);
    let (w, h) = (side.scaled(aspect.sqrt()), side.scaled(1.0 / aspect.sqrt()));
    let shrink = (sheet.w.raw() as f64 * 0.9 / w.raw().max(1) as f64)
        .min(sheet.h.raw() as f64 * 0.9 / h.raw().max(1) as f64)
        .min(1.0);
    Size::new(w.scaled(shrink), h.scaled(shrink))
}

/// The look of a plain line.
pub(crate) fn line_look(ink: &Paint, width: Length) -> Look {
    Look {
        fill: None,
        stroke: Some(Stroke {
            paint: ink.clone(),
            width,
            place: StrokePlace::Centre,
            join: Join::Mitre,
            cap: Cap::Flat,
            dash: Vec::new(),
        }),
        ..Look::default()
    }
}

/// The size of new words as a share of the sheet's measure, and their weight.
const fn role_of(part: Part) -> (f64, u16) {
    match part {
        Part::Headline => (0.11, 700),
        Part::Support | Part::Price => (0.065, 600),
        Part::SmallPrint => (0.024, 400),
        Part::Action => (0.045, 600),
        _ => (0.04, 400),
    }
}

/// The family words of this part have in the job already, or any of its words; a plain one where there are none.
pub(super) fn family_for(job: &Job, part: Part) -> String {
    let family = |kin: &std::sync::Arc<Kin>| {
        kin.content.words().and(kin.look.type_look.as_ref()).map(|kind| kind.family.clone())
    };
    let same = job.kins.values().filter(|kin| kin.part == part).find_map(family);
    let quiet =
        job.kins.values().filter(|kin| (kin.part == Part::Headline) == (part == Part::Headline)).find_map(family);
    same.or(quiet).unwrap_or_else(|| TypeLook::default().family)
}

/// How copies stand to what they are copied from.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Step {
    /// A little to the right and below.
    Aside,
    /// As far from it as the first item is from another: what was copied and then moved goes on in the same step.
    As(ItemId),
    /// By so much.
    By(Length, Length),
}

/// Most copies made at once.
const MOST_COPIES: u16 = 200;

/// The command that puts copies of items above them, each a step from the one before; copies share nothing with what they were copied
/// from. Returns the identities of the last copies.
///
/// # Errors
/// [`Refusal`] where the item the step is taken from is gone, or for 0 or more than 200 copies.
pub fn duplicate(
    job: &Job,
    items: &[ItemId],
    step: &Step,
    times: u16,
    ids: &mut dyn IdSource,
) -> Result<(Command, Vec<ItemId>), Refusal> {
    if times == 0 || times > MOST_COPIES {
        return Err(Refusal::CopyCount);
    }
    if items.is_empty() {
        return Err(Refusal::NothingSelected);
    }
    items.iter().try_for_each(|id| job.find(id).map(|_| ()))?;
    let rect = |id: &ItemId| job.find(id).map(|found| found.item.place.at.rect);
    let mut commands = Vec::new();
    let mut made = Vec::new();
    for (piece, side) in job.pieces.iter().flat_map(|piece| piece.sides.iter().map(move |side| (piece, side))) {
        let picked: Vec<&Item> = side.items.iter().filter(|item| items.contains(&item.id)).collect();
        if picked.is_empty() {
            continue;
        }
        let aside = piece.format.size.measure().scaled(0.02);
        let (dx, dy) = match step {
            Step::Aside => (aside, aside),
            Step::By(dx, dy) => (*dx, *dy),
            Step::As(other) => {
                let first = items.first().ok_or(Refusal::NothingSelected)?;
                let (now, before) = (rect(first)?, rect(other)?);
                (now.x - before.x, now.y - before.y)
            }
        };
        let (mut stacks, mut looks) = (side.stacks.clone(), side.group_looks.clone());
        for time in 1..=i32::from(times) {
            let mut copied = Copied::of(picked.iter().map(|item| &item.id), ids);
            made.clear();
            for item in &picked {
                let (Some(plain), Some(id)) = (job.plain(item), copied.item(&item.id)) else { continue };
                let kin = Kin::new(plain.part, plain.content.clone(), plain.look.as_ref().clone());
                let by = |length: Length| length.scaled(f64::from(time));
                let at = Placement { rect: item.place.at.rect.moved(by(dx), by(dy)), ..item.place.at };
                let (groups, ties) = (copied.groups(&item.groups, ids), copied.ties(&item.ties, false));
                let copy = Item {
                    groups,
                    ties,
                    name: item.name.clone(),
                    ..Item::new(id, KinId::fresh(ids), Place { at, ..item.place })
                };
                made.push(copy.id.clone());
                commands.push(Command::InsertItem {
                    side: side.id.clone(),
                    index: usize::MAX,
                    item: copy,
                    kin: Some(kin),
                });
            }
            stacks.extend(copied.stacks(&side.stacks));
            looks.extend(copied.group_looks(&side.group_looks));
        }
        if looks.len() > side.group_looks.len() {
            commands.push(Command::SetGroupLooks { side: side.id.clone(), looks });
        }
        if stacks.len() > side.stacks.len() {
            commands.push(Command::SetStacks { side: side.id.clone(), stacks });
        }
    }
    Ok((Command::All { commands }, made))
}

/// The command that puts something new in the place of what was taken away: in its box, its layer and its groups. What was taken away
/// stays in the tray.
///
/// # Errors
/// [`Refusal`] where it is not in the tray.
pub fn replace_removed(
    job: &Job,
    piece: &Piece,
    removed: &ItemId,
    what: Addition,
    inks: &Inks<'_>,
    ids: &mut dyn IdSource,
) -> Result<(Command, ItemId), Refusal> {
    let gone = piece
        .tray
        .iter()
        .rfind(|one| one.item.id == *removed)
        .ok_or_else(|| Refusal::Missing("item", removed.to_string()))?;
    let side = piece
        .sides
        .iter()
        .find(|side| side.id == gone.side)
        .or_else(|| piece.sides.first())
        .ok_or_else(|| Refusal::Missing("side", gone.side.to_string()))?;
    let (command, id) = add(job, piece, side, what, inks, ids);
    let Command::InsertItem { side, item, kin, .. } = command else { return Ok((command, id)) };
    let own = item.place.at.rect;
    let rect = match kin.as_ref().map(|kin| &kin.content) {
        // What has proportions of its own lies in the box; anything else fills it.
        Some(Content::Code { .. }) => fitted(gone.item.place.at.rect, 1.0),
        Some(Content::Drawing { .. }) => {
            fitted(gone.item.place.at.rect, own.w.raw() as f64 / own.h.raw().max(1) as f64)
        }
        _ => gone.item.place.at.rect,
    };
    let at = Placement { rect, turn: gone.item.place.at.turn, flip: false };
    let item = Item { groups: gone.item.groups.clone(), place: Place { at, ..item.place }, ..item };
    Ok((Command::InsertItem { side, index: gone.index, item, kin }, id))
}

/// The command that adds a side after another: blank with the same ground, or a copy of everything on it that shares nothing with it.
///
/// # Errors
/// [`Refusal`] where the side is not there.
pub fn add_side(job: &Job, after: &SideId, copy: bool, ids: &mut dyn IdSource) -> Result<(Command, SideId), Refusal> {
    let (piece, model) = job.side(after).ok_or_else(|| Refusal::Missing("side", after.to_string()))?;
    let index = piece.sides.iter().position(|side| side.id == *after).unwrap_or(0) + 1;
    let name = match (copy, piece.sides.len()) {
        (true, _) => format!("{} copy", model.name).chars().take(200).collect(),
        (false, 1) => "Back".to_owned(),
        (false, count) => format!("Side {}", count + 1),
    };
    let mut side = Side::blank(SideId::fresh(ids), name, model.ground.clone());
    let mut kins = BTreeMap::new();
    let mut copied = Copied::of(model.items.iter().map(|item| &item.id), ids);
    for item in model.items.iter().filter(|_| copy) {
        let (Some(plain), Some(id)) = (job.plain(item), copied.item(&item.id)) else { continue };
        let kin = KinId::fresh(ids);
        kins.insert(kin.clone(), Kin::new(plain.part, plain.content.clone(), plain.look.as_ref().clone()));
        let (groups, ties) = (copied.groups(&item.groups, ids), copied.ties(&item.ties, true));
        side.items.push(Item { id, kin, release: Release::default(), groups, ties, ..item.clone() });
    }
    side.stacks = copied.stacks(&model.stacks);
    side.group_looks = copied.group_looks(&model.group_looks);
    let id = side.id.clone();
    Ok((Command::InsertSide { piece: piece.id.clone(), index, side, kins }, id))
}

/// The command that adds a back after a side with what the front says about its maker: mark, address and contact, shared with it, below each
/// other in the middle of the same ground.
///
/// # Errors
/// [`Refusal`] where the side is not there, or says nothing of that.
pub fn add_back(job: &Job, after: &SideId, ids: &mut dyn IdSource) -> Result<(Command, SideId), Refusal> {
    let (piece, model) = job.side(after).ok_or_else(|| Refusal::Missing("side", after.to_string()))?;
    let about = |part: Part| matches!(part, Part::Mark | Part::Contact | Part::Where);
    let of_house: Vec<&Item> = model
        .items
        .iter()
        .filter(|item| !item.hidden && job.plain(item).is_some_and(|plain| about(plain.part)))
        .take(5)
        .collect();
    if of_house.is_empty() {
        return Err(Refusal::NoDetails);
    }
    let (command, id) = add_side(job, after, false, ids)?;
    let Command::InsertSide { piece: of, index, mut side, kins } = command else { return Ok((command, id)) };
    let sheet = piece.format.size;
    let gap = sheet.h.scaled(0.04);
    let high = of_house.iter().map(|item| item.place.at.rect.h).sum::<Length>()
        + Length::from_raw(gap.raw() * (of_house.len() as i64 - 1));
    let mut top = (sheet.h - high).half();
    for item in of_house {
        let own = item.place.at.rect;
        let rect = Rect::new((sheet.w - own.w).half(), top, own.w, own.h);
        top = rect.bottom() + gap;
        let place = Place { at: Placement { rect, turn: vatman_units::Angle::ZERO, flip: false }, ..item.place };
        let id = ItemId::fresh(ids);
        let (groups, ties, release) = (Vec::new(), Vec::new(), item.release.clone());
        side.items.push(Item { id, groups, ties, release, place, ..item.clone() });
    }
    Ok((Command::InsertSide { piece: of, index, side, kins }, id))
}

#[cfg(test)]
mod tests {
    use super::*;
    use vatman_document::{Format, JobId, Known, PieceId};
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

    /// Words take up the middle of the room they may widen into.
    fn seen(job: &Job, item: &Item) -> Rect {
        let rect = item.place.at.rect;
        let words = job.plain(item).is_some_and(|plain| plain.content.words().is_some());
        if words { Rect { x: rect.x + rect.w.scaled(0.3), w: rect.w.scaled(0.4), ..rect } } else { rect }
    }

    #[test]
    fn new_items_arrive_inside_the_sheet_and_apart() {
        for (w, h) in [(1080, 1080), (728, 90), (300, 2400)] {
            let mut job = Job::new(JobId::new("j").unwrap(), "t");
            let side = Side::blank(SideId::new("s").unwrap(), "Front", Some(Paint::flat(Color::BLACK)));
            job.pieces.push(Piece::new(PieceId::new("p").unwrap(), "p", Format::screen(w, h), vec![side]).into());
            let picture = AssetId::new("a").unwrap();
            let mut ids = Counter(0);
            for what in [
                Addition::Words(Part::Headline),
                Addition::Words(Part::Detail),
                Addition::Picture(Some((picture, (4000, 500)))),
                Addition::Picture(None),
                Addition::Shape(Outline::Ellipse),
            ] {
                let drawn = |item: &Item| seen(&job, item);
                let inks = Inks { drawn: &drawn, ..Inks::PLAIN };
                let (command, id) = add(&job, &job.pieces[0], &job.pieces[0].sides[0], what, &inks, &mut ids);
                command.apply(&mut job, &All).unwrap();
                let rect = job.item(&id).unwrap().place.at.rect;
                assert!(Rect::of(job.pieces[0].format.size).outset(HAIR).contains(rect), "{rect:?} in {w} x {h}");
            }
            let look = &job.plain(&job.pieces[0].sides[0].items[0]).unwrap().look.fill.clone().unwrap();
            assert_eq!(look, &Paint::flat(Color::WHITE), "words on black are white");
            let rects: Vec<Rect> = job.items().map(|item| seen(&job, item)).collect();
            let meet = |a: &Rect, b: &Rect| a.x < b.right() && b.x < a.right() && a.y < b.bottom() && b.y < a.bottom();
            let apart = rects.iter().enumerate().filter(|(i, a)| rects[..*i].iter().all(|b| !meet(a, b))).count();
            assert!(apart >= 3, "only {apart} of {} found free space in {w} x {h}", rects.len());
            let (command, made) =
                duplicate(&job, &[job.pieces[0].sides[0].items[0].id.clone()], &Step::Aside, 1, &mut ids).unwrap();
            command.apply(&mut job, &All).unwrap();
            assert_eq!(job.pieces[0].sides[0].items.len(), 6);
            assert_eq!(job.item(&made[0]).unwrap().place.scale, Ratio::ONE);
        }
    }

    fn squares(count: usize) -> (Job, Vec<ItemId>) {
        let job = crate::testing::job_with(count);
        let ids = job.items().map(|item| item.id.clone()).collect();
        (job, ids)
    }

    #[test]
    fn copies_go_on_in_the_step_that_was_made_by_hand() {
        let (mut job, ids) = squares(1);
        let mut source = Counter(0);
        let (command, made) = duplicate(&job, &ids, &Step::Aside, 1, &mut source).unwrap();
        command.apply(&mut job, &All).unwrap();
        let px = Length::css_px;
        let moved = Place::new(Placement::at(Rect::new(px(130.0), px(40.0), px(100.0), px(100.0))));
        Command::SetPlace { item: made[0].clone(), place: moved }.apply(&mut job, &All).unwrap();
        let (command, again) = duplicate(&job, &made, &Step::As(ids[0].clone()), 2, &mut source).unwrap();
        command.apply(&mut job, &All).unwrap();
        assert_eq!(job.items().count(), 4);
        assert_eq!(job.item(&again[0]).unwrap().place.at.rect, Rect::new(px(390.0), px(120.0), px(100.0), px(100.0)));
        assert!(duplicate(&job, &ids, &Step::Aside, 0, &mut source).is_err());
    }

    #[test]
    fn a_panel_goes_to_the_bottom_and_the_last_colour_only_where_it_reads() {
        let (mut job, _) = squares(2);
        let (piece, side) = (job.pieces[0].clone(), job.pieces[0].sides[0].clone());
        let (pale, red) = (Tint::Own(Color::opaque(250, 250, 240)), Tint::Own(Color::opaque(150, 0, 0)));
        let (command, id) =
            add(&job, &piece, &side, Addition::Panel, &Inks { last: Some(&red), ..Inks::PLAIN }, &mut Counter(0));
        command.apply(&mut job, &All).unwrap();
        assert_eq!(job.pieces[0].sides[0].items[0].id, id);
        assert_eq!(job.plain(job.item(&id).unwrap()).unwrap().look.fill, Some(Paint::flat(red)));
        let rect = Rect::of(piece.format.size);
        let at = |last: &Tint, under: &dyn Fn(Rect) -> Option<Color>| {
            Inks { last: Some(last), under, ..Inks::PLAIN }.at(&job, &side, rect)
        };
        assert_ne!(at(&pale, &|_| None), pale, "pale on white cannot be read");
        assert_eq!(at(&pale, &|_| Some(Color::BLACK)), pale, "but over something dark it can");
        let lost = Tint::Swatch(vatman_document::SwatchId::new("gone").unwrap());
        assert_ne!(at(&lost, &|_| None), lost);
    }

    #[test]
    fn what_comes_instead_takes_the_box_and_the_layer() {
        let (mut job, ids) = squares(3);
        let old = job.item(&ids[1]).unwrap().clone();
        crate::arrange::tray::remove(&job, &ids[1..2]).unwrap().apply(&mut job, &All).unwrap();
        let piece = job.pieces[0].clone();
        let (command, made) =
            replace_removed(&job, &piece, &ids[1], Addition::Shape(Outline::Ellipse), &Inks::PLAIN, &mut Counter(0))
                .unwrap();
        command.apply(&mut job, &All).unwrap();
        assert_eq!(job.pieces[0].sides[0].items[1].id, made);
        assert_eq!(job.item(&made).unwrap().place.at.rect, old.place.at.rect);
        assert_eq!(job.pieces[0].tray.len(), 1, "what was taken away can still be put back");
    }
}
