//! Composing a design for a place with somebody's words.

use std::collections::BTreeMap;
use std::sync::Arc;

use vatman_document::{
    AssetId, Command, Content, Focus, Format, Guides, IdSource, Item, ItemId, Job, JobId, Kin, KinId, Known, Look,
    Outline, Part, PictureFit, Piece, PieceId, Place, Removed, RichText, Side, SideId, Swatch,
};
use vatman_type::Typesetter;
use vatman_units::{Angle, Length, Placement, Ratio, Rect, Unit};

use crate::compose::block::{BlockLimits, PlacedRow, Row, place_most};
use crate::compose::design::{Design, DesignLine, Fractions, LayoutPart, Words};
use crate::compose::place::{PlaceEntry, meet};
use crate::refusal::Refusal;

/// A side and the kins it needs.
#[derive(Debug, Clone, PartialEq)]
struct Composed {
    /// The side.
    side: Side,
    /// What its items share with other pieces of the same design.
    kins: BTreeMap<KinId, Kin>,
    /// What there was not room for.
    left_out: Vec<Item>,
}

/// What is to be composed.
#[derive(Debug, Clone, Copy)]
pub struct Brief<'a> {
    /// Name of the job.
    pub title: &'a str,
    /// One for each side.
    pub designs: &'a [&'a Design],
    /// Where it goes, and how many sides there.
    pub places: &'a [(PlaceEntry, usize)],
    /// What it says.
    pub words: &'a Words,
}

/// What composing needs from outside.
pub struct Supplies<'a> {
    /// Gives identities.
    pub ids: &'a mut dyn IdSource,
    /// Sets words.
    pub typesetter: &'a Typesetter,
    /// Finds a sample picture by name.
    pub pictures: &'a dyn Fn(&str) -> Option<AssetId>,
    /// Says what is at hand.
    pub known: &'a dyn Known,
}

struct Composer<'a, 'b> {
    design: &'a Design,
    place: &'a PlaceEntry,
    words: &'a Words,
    supplies: &'a mut Supplies<'b>,
    out: Composed,
}

/// Composes one side of a format. With no words at all every part of the design stands with a prompt; otherwise
/// parts without words are left out, and what remains closes up.
fn compose_side(design: &Design, place: &PlaceEntry, words: &Words, supplies: &mut Supplies<'_>) -> Composed {
    let layout = design.layout_for(place.format.size.aspect());
    let side = SideId::fresh(supplies.ids);
    let side = Side {
        id: side,
        name: "Front".into(),
        ground: if place.clear { None } else { layout.ground.clone() },
        items: Vec::new(),
        stacks: Vec::new(),
    };
    let out = Composed { side, kins: BTreeMap::new(), left_out: Vec::new() };
    let mut composer = Composer { design, place, words, supplies, out };
    for part in &layout.parts {
        composer.part(part);
    }
    composer.out
}

impl Composer<'_, '_> {
    fn part(&mut self, part: &LayoutPart) {
        let format = &self.place.format;
        let measure = format.size.measure();
        match part {
            LayoutPart::Shape { slot, at, outline, fill, line, square, turn } => {
                let place = boxed(*at, format, *square, *turn);
                // Full-sheet panels are ground by another name and stay off clear sheets.
                if self.place.clear && place.at.rect.contains(Rect::of(format.size)) {
                    return;
                }
                let look = Look {
                    fill: fill.clone(),
                    stroke: line.as_ref().map(|line| line.resolve(measure)),
                    ..Look::default()
                };
                let kin = Kin {
                    part: if line.is_some() && fill.is_none() { Part::Ornament } else { Part::Panel },
                    content: Content::Shape { outline: outline.resolve(measure) },
                    look,
                };
                self.put(slot, kin, place);
            }
            LayoutPart::Picture { slot, sample, at, outline, line, square, turn } => {
                let look = Look {
                    fill: None,
                    stroke: line.as_ref().map(|line: &DesignLine| line.resolve(measure)),
                    ..Look::default()
                };
                let content = Content::Picture {
                    picture: (self.supplies.pictures)(sample),
                    focus: Focus::CENTRE,
                    frame: outline.resolve(measure),
                    fit: PictureFit::Fill,
                };
                let part = if slot == "main" { Part::MainPicture } else { Part::Picture };
                self.put(slot, Kin { part, content, look }, boxed(*at, format, *square, *turn));
            }
            LayoutPart::Words { rows, at, stand, largest, gap } => {
                let limits = BlockLimits {
                    largest: measure.scaled(*largest),
                    least: least_type(self.place),
                    gap: *gap,
                    stand: *stand,
                };
                self.words(rows, *at, &limits);
            }
        }
    }

    fn words(&mut self, rows: &[Part], at: Fractions, limits: &BlockLimits) {
        let (design, format, words) = (self.design, &self.place.format, self.words);
        let nothing_said = words.values().all(|text| text.trim().is_empty());
        let said = |part: &Part| words.get(part).map(|text| text.trim()).filter(|text| !text.is_empty());
        // Without any words the prompts take the room, so that the design can be judged.
        let shown: Vec<Row<'_>> = rows
            .iter()
            .filter_map(|part| {
                let text = if nothing_said { Some(part.name()) } else { said(part) };
                Some(Row { part: *part, text: text?, kind: design.types.get(part)? })
            })
            .collect();
        let safe = Rect::of(format.size).outset(-format.safe);
        let field = self.place.clear_of_covers(meet(Rect::of(format.size).part(at[0], at[1], at[2], at[3]), safe));
        let (placed, left_out) = place_most(&shown, field, limits, self.supplies.typesetter);
        let stands = (0..shown.len()).filter(|row| !left_out.contains(row));
        let standing = stands.zip(placed).map(|(row, placed)| (row, placed, true));
        // What there is not room for waits in the tray, in a box of its own in the field.
        let waiting = left_out.iter().map(|row| {
            let part = shown[*row].part;
            let rect = Rect { h: limits.least.scaled(1.5).min(field.h), ..field };
            (*row, PlacedRow { part, rect, size: limits.least }, false)
        });
        for (row, placed, stands) in standing.chain(waiting) {
            let row = &shown[row];
            let slot = format!("words-{:?}", placed.part).to_lowercase();
            let text = if nothing_said { RichText::default() } else { RichText::plain(row.text) };
            let look = Look {
                fill: Some(row.kind.paint()),
                type_look: Some(row.kind.look(placed.size)),
                backing: row.kind.button.as_ref().map(|button| button.backing(placed.size)),
                ..Look::default()
            };
            let kin = Kin {
                part: placed.part,
                content: Content::Words { text, prompt: placed.part.name().to_owned() },
                look,
            };
            let place = Place::new(Placement::at(placed.rect));
            if stands {
                self.put(&slot, kin, place);
            } else {
                self.leave_out(&slot, kin, place);
            }
        }
    }

    fn put(&mut self, slot: &str, kin: Kin, place: Place) {
        let Some(item) = self.made(slot, kin, place) else { return };
        self.out.side.items.push(item);
    }

    fn leave_out(&mut self, slot: &str, kin: Kin, place: Place) {
        let item = self.made(slot, kin, place);
        self.out.left_out.extend(item);
    }

    fn made(&mut self, slot: &str, kin: Kin, place: Place) -> Option<Item> {
        let id = KinId::new(format!("{}-{}", self.design.id, slot)).ok()?;
        self.out.kins.entry(id.clone()).or_insert(kin);
        Some(Item::new(ItemId::fresh(self.supplies.ids), id, place))
    }
}

/// 6 points in print, and on a screen 2.6 % of the width: more than 10 pixels where the sheet is seen 400 pixels wide, as on a phone.
/// What is wider than that for its height is seen larger; what is met at about its own size, as ads are, has letters of 1.8 mm.
fn least_type(place: &PlaceEntry) -> Length {
    let Format { size, unit, .. } = &place.format;
    if *unit != Unit::Px {
        return Length::pt(6.0);
    }
    let own_size = place.seen.is_some_and(|seen| (seen - size.w).abs() < size.w.scaled(0.2));
    let at_least = if own_size { Length::mm(1.8) } else { size.measure().scaled(0.021) };
    size.w.min(size.h.scaled(1.25)).scaled(0.026).max(at_least)
}

/// A box at fractions of the sheet; an edge that lies on the edge of the sheet goes out to the bleed.
fn boxed(at: Fractions, format: &Format, square: bool, turn: f64) -> Place {
    let sheet = Rect::of(format.size);
    let mut rect = sheet.part(at[0], at[1], at[2], at[3]);
    let near = |a: f64, b: f64| (a - b).abs() < 1e-6;
    if square {
        let side = rect.w.min(rect.h);
        rect = Rect::new(rect.x + (rect.w - side).half(), rect.y + (rect.h - side).half(), side, side);
    } else if turn == 0.0 {
        let out = |touches: bool| if touches { format.bleed } else { Length::ZERO };
        let (left, top) = (out(near(at[0], 0.0)), out(near(at[1], 0.0)));
        let (right, bottom) = (out(near(at[0] + at[2], 1.0)), out(near(at[1] + at[3], 1.0)));
        rect = Rect::new(rect.x - left, rect.y - top, rect.w + left + right, rect.h + top + bottom);
    }
    Place::new(Placement { rect, turn: Angle::degrees(turn), flip: false })
}

/// Makes a job of one design in several places. The first place gives the shared looks their lengths; the others scale them.
///
/// # Errors
/// [`Refusal`] where the design uses what is not at hand.
pub fn compose_job(id: JobId, brief: &Brief<'_>, supplies: &mut Supplies<'_>) -> Result<Job, Refusal> {
    let Brief { title, designs, places, words } = brief;
    let mut job = Job::new(id, *title);
    for design in *designs {
        for (swatch, color) in &design.palette {
            let mut name = swatch.as_str().replace('-', " ");
            name[..1].make_ascii_uppercase();
            job.swatches.entry(swatch.clone()).or_insert(Swatch { name, color: *color });
        }
    }
    for (place, sides) in *places {
        let mut kins = BTreeMap::new();
        let (mut made, mut tray) = (Vec::new(), Vec::new());
        for (index, design) in designs.iter().enumerate().take((*sides).max(1)) {
            let mut composed = compose_side(design, place, words, supplies);
            composed.side.name = if index == 0 { "Front".into() } else { "Back".into() };
            share(&mut composed, &job, &mut kins);
            let left = std::mem::take(&mut composed.left_out);
            let aside = |item: Item| Removed {
                kin: composed.kins[&item.kin].clone(),
                side: composed.side.id.clone(),
                index: usize::MAX,
                item,
            };
            tray.extend(left.into_iter().map(aside));
            made.push(composed.side);
        }
        let name = place.name.clone();
        let piece = Piece {
            id: PieceId::fresh(supplies.ids),
            name,
            place: Some(place.id.clone()),
            format: place.format,
            sides: made,
            guides: Guides::default(),
            tray,
        };
        Command::InsertPiece { index: usize::MAX, piece, kins }.apply(&mut job, supplies.known)?;
    }
    Ok(job)
}

/// Joins a freshly composed side to a job: what the job knows already is shared and scaled to this piece.
fn share(composed: &mut Composed, job: &Job, kins: &mut BTreeMap<KinId, Kin>) {
    for item in &mut composed.side.items {
        let Some(own) = composed.kins.get(&item.kin) else { continue };
        let Some(shared) = job.kins.get(&item.kin).map(Arc::as_ref).or_else(|| kins.get(&item.kin)) else {
            kins.insert(item.kin.clone(), own.clone());
            continue;
        };
        // What is drawn differently for this shape, such as a shade from another side, cannot be shared.
        if !paints_alike(own, shared) {
            item.release.look = Some(own.look.clone());
            continue;
        }
        item.place.scale = Ratio::new(detail(own) / detail(shared));
    }
}

/// Whether two looks have the same paints, whatever their lengths.
fn paints_alike(a: &Kin, b: &Kin) -> bool {
    let line = |kin: &Kin| kin.look.stroke.as_ref().map(|stroke| stroke.paint.clone());
    (&a.look.fill, line(a), a.look.opacity) == (&b.look.fill, line(b), b.look.opacity)
}

/// The length that tells how large a look is: its type, its line or the corner of its outline, in CSS pixels.
fn detail(kin: &Kin) -> f64 {
    let radius = match &kin.content {
        Content::Shape { outline: Outline::Rect { radius } }
        | Content::Picture { frame: Outline::Rect { radius }, .. }
            if radius.is_positive() =>
        {
            Some(*radius)
        }
        _ => None,
    };
    let length = kin
        .look
        .type_look
        .as_ref()
        .map(|kind| kind.size)
        .or_else(|| kin.look.stroke.as_ref().map(|stroke| stroke.width))
        .or(radius);
    length.filter(|length| length.is_positive()).map_or(1.0, Length::to_css_px)
}
