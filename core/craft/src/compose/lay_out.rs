//! Composing a design for a place with somebody's words.

use std::collections::BTreeMap;
use std::sync::Arc;

use vatman_document::{
    AssetId, Color, Command, Content, Focus, Follows, Format, Guides, IdSource, Item, ItemId, Job, JobId, Kin, KinId,
    Known, Look, LookPatch, Outline, Paint, PaintPatch, Part, PictureFit, Piece, PieceId, Place, Removed, RichText,
    Side, SideId, Swatch, SwatchId, Tint, TypeLook,
};
use vatman_type::Typesetter;
use vatman_units::{Angle, Length, Placement, Ratio, Rect};

use crate::compose::block::{BlockLimits, PlacedRow, Row, place_most};
use crate::compose::design::{Design, DesignLine, Fractions, LayoutPart, Words};
use crate::compose::least_type::{LeastType, lowness};
use crate::compose::panels::{Panel, Role, column, panels, readable_on, shares};
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

/// What an arrangement places, without any identity: what it is called there, what it is, and where.
pub(crate) struct Placed<'a> {
    /// What it is called in every arrangement of the design.
    pub slot: String,
    /// A shape, a frame or words.
    pub what: Slotted<'a>,
    /// Where.
    pub place: Place,
    /// There is room for it; otherwise it waits in the tray.
    pub stands: bool,
    /// A look of its own there.
    pub own: Option<LookPatch>,
}

/// What stands in a slot.
pub(crate) enum Slotted<'a> {
    /// A shape or a frame of the design.
    Drawn(&'a LayoutPart),
    /// The words of a part, in a size of type.
    Words(Part, Length),
}

/// The words of a part and how they are set, for a block.
#[derive(Clone)]
pub(crate) struct Said {
    /// The words.
    pub text: RichText,
    /// How they are set, but for their size.
    pub look: TypeLook,
    /// Size relative to the headline.
    pub ratio: f64,
    /// Padding of the panel around them in sizes of type, where they have one.
    pub pad: Option<f64>,
}

/// Places the parts of a design in the arrangement nearest to the shape of a place: a function of the words, the place and the design.
/// What `says` has no words for takes no room.
pub(crate) fn place_layout<'a>(
    design: &'a Design,
    entry: &PlaceEntry,
    says: &dyn Fn(Part) -> Option<Said>,
    typesetter: &Typesetter,
) -> Vec<Placed<'a>> {
    let format = &entry.format;
    let measure = format.size.measure();
    let mut out = Vec::new();
    for part in &design.layout_for(format.size.aspect()).parts {
        match part {
            LayoutPart::Shape { slot, at, square, turn, .. } => {
                let place = boxed(*at, format, *square, *turn);
                // Full-sheet panels are ground by another name and stay off clear sheets.
                if !(entry.clear && place.at.rect.contains(Rect::of(format.size))) {
                    out.push(Placed { slot: slot.clone(), what: Slotted::Drawn(part), place, stands: true, own: None });
                }
            }
            LayoutPart::Picture { slot, at, square, turn, .. } => {
                let place = boxed(*at, format, *square, *turn);
                out.push(Placed { slot: slot.clone(), what: Slotted::Drawn(part), place, stands: true, own: None });
            }
            LayoutPart::Words { rows, at, stand, largest, gap, square } => {
                let limits = BlockLimits {
                    largest: measure.scaled(*largest),
                    least: LeastType::at(entry).usual(),
                    gap: *gap,
                    stand: *stand,
                };
                let said: Vec<Row> = rows
                    .iter()
                    .filter_map(|part| {
                        let said = says(*part)?;
                        Some(Row { part: *part, low: lowness(&said.look, typesetter), said })
                    })
                    .collect();
                let within = within(*at, format, *square);
                out.extend(place_words(&said, within, &limits, entry, typesetter));
            }
        }
    }
    out
}

fn place_words<'a>(
    rows: &[Row],
    within: Rect,
    limits: &BlockLimits,
    entry: &PlaceEntry,
    typesetter: &Typesetter,
) -> Vec<Placed<'a>> {
    let format = &entry.format;
    let safe = Rect::of(format.size).outset(-format.safe);
    let field = entry.clear_of_covers(meet(within, safe));
    let (placed, left_out) = place_most(rows, field, limits, typesetter);
    let standing = placed.into_iter().map(|row| (row, true));
    // What there is not room for waits in the tray, in a box of its own in the field.
    let waiting = left_out.iter().map(|row| {
        let rect = Rect { h: limits.least.scaled(1.5).min(field.h), ..field };
        (PlacedRow { part: rows[*row].part, rect, size: limits.least }, false)
    });
    let placed = |(row, stands): (PlacedRow, bool)| Placed {
        slot: words_slot(row.part),
        what: Slotted::Words(row.part, row.size),
        place: Place::new(Placement::at(row.rect)),
        stands,
        own: None,
    };
    standing.chain(waiting).map(placed).collect()
}

/// What the words of a part are called in every arrangement.
pub(crate) fn words_slot(part: Part) -> String {
    format!("words-{part:?}").to_lowercase()
}

/// A shape of a design as nobody has changed it yet; nothing for frames and words.
pub(crate) fn fresh_shape(placed: &Placed<'_>, entry: &PlaceEntry) -> Option<Kin> {
    let Slotted::Drawn(part @ LayoutPart::Shape { .. }) = &placed.what else { return None };
    let kin = drawn(part, entry, &|_| None);
    Some(Kin { slot: Some(placed.slot.clone()), ..kin })
}

/// A fill of its own, and nothing else.
pub(crate) fn filled(fill: Option<Paint>) -> LookPatch {
    LookPatch { paint: PaintPatch { fill: Some(fill), ..PaintPatch::default() }, ..LookPatch::default() }
}

/// A shape or a frame of a design.
fn drawn(part: &LayoutPart, entry: &PlaceEntry, pictures: &dyn Fn(&str) -> Option<AssetId>) -> Kin {
    let measure = entry.format.size.measure();
    let line = |line: &Option<DesignLine>| line.as_ref().map(|line| line.resolve(measure));
    match part {
        LayoutPart::Shape { outline, fill, line: edge, .. } => {
            let part = if edge.is_some() && fill.is_none() { Part::Ornament } else { Part::Panel };
            let look = Look { fill: fill.clone(), stroke: line(edge), ..Look::default() };
            Kin::new(part, Content::Shape { outline: outline.resolve(measure) }, look)
        }
        LayoutPart::Picture { slot, sample, outline, line: edge, .. } => {
            let content = Content::Picture {
                picture: pictures(sample),
                focus: Focus::CENTRE,
                frame: outline.resolve(measure),
                fit: PictureFit::Fill,
            };
            let part = if slot == "main" { Part::MainPicture } else { Part::Picture };
            Kin::new(part, content, Look { fill: None, stroke: line(edge), ..Look::default() })
        }
        LayoutPart::Words { .. } => Kin::new(Part::Detail, Content::Shape { outline: Outline::RECT }, Look::default()),
    }
}

/// What stands in a slot of a design that nobody has changed yet.
fn fresh(placed: &Placed<'_>, brief: &Fresh<'_>) -> Kin {
    let kin = match &placed.what {
        Slotted::Drawn(part) => drawn(part, brief.entry, brief.pictures),
        Slotted::Words(part, size) => {
            let kind = &brief.design.types[part];
            let text = brief.words.get(part).map_or("", |text| text.trim());
            let content = Content::Words { text: RichText::plain(text), prompt: part.name().to_owned() };
            let look = Look {
                fill: Some(kind.paint()),
                type_look: Some(kind.look(*size)),
                backing: kind.button.as_ref().map(|button| button.backing(*size)),
                ..Look::default()
            };
            Kin::new(*part, content, look)
        }
    };
    Kin { slot: Some(placed.slot.clone()), ..kin }
}

/// What a side is made of when nothing of it is there yet.
struct Fresh<'a> {
    design: &'a Design,
    entry: &'a PlaceEntry,
    words: &'a Words,
    pictures: &'a dyn Fn(&str) -> Option<AssetId>,
}

/// What a design is asked to say: with no words at all every part stands with a prompt, so that the design can be judged; otherwise parts
/// without words are left out, and what remains closes up.
fn said(design: &Design, words: &Words, part: Part) -> Option<Said> {
    let nothing_said = words.values().all(|text| text.trim().is_empty());
    let own = words.get(&part).map(|text| text.trim()).filter(|text| !text.is_empty());
    let text = if nothing_said { Some(part.name()) } else { own }?;
    let kind = design.types.get(&part)?;
    let pad = kind.button.as_ref().map(|button| button.pad);
    Some(Said { text: RichText::plain(text), look: kind.look(Length::pt(12.0)), ratio: kind.ratio, pad })
}

/// Composes one side of a format.
fn compose_side(design: &Design, entry: &PlaceEntry, words: &Words, supplies: &mut Supplies<'_>) -> Composed {
    let mut out = Composed::blank(design, entry, "Front", supplies);
    let placed = place_layout(design, entry, &|part| said(design, words, part), supplies.typesetter);
    out.take(&placed, &Fresh { design, entry, words, pictures: supplies.pictures }, None, supplies.ids);
    out
}

impl Composed {
    /// A side with the ground a design has for a place.
    fn blank(design: &Design, entry: &PlaceEntry, name: &str, supplies: &mut Supplies<'_>) -> Self {
        let layout = design.layout_for(entry.format.size.aspect());
        let ground = if entry.clear { None } else { layout.ground.clone() };
        let side = Side { ground, ..Side::blank(SideId::fresh(supplies.ids), name, None) };
        Self { side, kins: BTreeMap::new(), left_out: Vec::new() }
    }

    /// Takes what was placed, on a panel where that is only a part of the side.
    fn take(
        &mut self,
        placed: &[Placed<'_>],
        fresh_of: &Fresh<'_>,
        panel: Option<(&Panel, &Format)>,
        ids: &mut dyn IdSource,
    ) {
        for placed in placed {
            let Ok(id) = KinId::new(format!("{}-{}", fresh_of.design.id, placed.slot)) else { continue };
            let place = panel.map_or(placed.place, |(panel, whole)| panel.on_side(placed.place, whole));
            let mut item = Item::new(ItemId::fresh(ids), id.clone(), place);
            item.release.look = placed.own.clone();
            self.kins.entry(id).or_insert_with(|| fresh(placed, fresh_of));
            if placed.stands { self.side.items.push(item) } else { self.left_out.push(item) }
        }
    }
}

/// What colour a tint is.
pub(crate) type ColorOf<'c> = &'c dyn Fn(&Tint) -> Color;

/// Places words in a column on a panel, as a design sets them, in colours that read on a ground.
pub(crate) fn place_column<'a>(
    design: &Design,
    rows: &[(Part, Said)],
    panel: (&Panel, &PlaceEntry),
    (ground, color): (Option<&Paint>, ColorOf<'_>),
    typesetter: &Typesetter,
) -> Vec<Placed<'a>> {
    let placed = |((part, _), (rect, size, stands)): (&(Part, Said), (Rect, Length, bool))| Placed {
        slot: words_slot(*part),
        what: Slotted::Words(*part, size),
        place: Place::new(Placement::at(rect)),
        stands,
        own: design
            .types
            .get(part)
            .filter(|kind| kind.button.is_none())
            .and_then(|kind| readable_on(ground, &kind.paint(), color))
            .map(|paint| filled(Some(paint))),
    };
    rows.iter().zip(column(rows, panel, typesetter)).map(placed).collect()
}

/// Composes the sides of what is folded: the design on the front, and what there is no room for there, or no reason, as plain columns of
/// words on the other panels.
fn compose_folded(
    design: &Design,
    (place, panels): (&PlaceEntry, &[Panel]),
    words: &Words,
    supplies: &mut Supplies<'_>,
) -> Vec<Composed> {
    let Some(front) = panels.first() else { return Vec::new() };
    let front_entry = front.entry(place);
    let ground = design.layout_for(front_entry.format.size.aspect()).ground.as_ref().filter(|_| !place.clear);
    let parts: Vec<Part> = Part::ALL.into_iter().filter(|part| said(design, words, *part).is_some()).collect();
    let shares = shares(panels, &parts, place.copy);
    let count = 1 + panels.iter().map(|panel| panel.side).max().unwrap_or(0);
    let mut out: Vec<Composed> = (0..count).map(|_| Composed::blank(design, &front_entry, "Front", supplies)).collect();
    let color = |tint: &Tint| design.color(tint).unwrap_or(Color::BLACK);
    let of_parts = |at: usize| shares[at].iter().map(|one| parts[*one]).collect::<Vec<Part>>();
    for (at, panel) in panels.iter().enumerate() {
        let entry = panel.entry(place);
        let fresh_of = Fresh { design, entry: &entry, words, pictures: supplies.pictures };
        let placed = match panel.role {
            Role::Front | Role::Again => {
                let own = of_parts(0);
                let says = |part: Part| said(design, words, part).filter(|_| own.contains(&part));
                place_layout(design, &entry, &says, supplies.typesetter)
            }
            Role::Inside | Role::Back | Role::Flap => {
                let rows: Vec<(Part, Said)> =
                    of_parts(at).into_iter().filter_map(|part| Some((part, said(design, words, part)?))).collect();
                place_column(design, &rows, (panel, &entry), (ground, &color), supplies.typesetter)
            }
        };
        out[panel.side].take(&placed, &fresh_of, Some((panel, &place.format)), supplies.ids);
    }
    out
}

/// What a colour of a design is called until somebody says otherwise: its role.
pub(crate) fn role_name(id: &SwatchId) -> String {
    let name = id.as_str().replace('-', " ");
    let mut letters = name.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}

/// A part of the sheet, or the square in its middle.
fn within(at: Fractions, format: &Format, square: bool) -> Rect {
    let rect = Rect::of(format.size).part(at[0], at[1], at[2], at[3]);
    if !square {
        return rect;
    }
    let side = rect.w.min(rect.h);
    Rect::new(rect.x + (rect.w - side).half(), rect.y + (rect.h - side).half(), side, side)
}

/// A box at fractions of the sheet; an edge that lies on the edge of the sheet goes out to the bleed.
fn boxed(at: Fractions, format: &Format, square: bool, turn: f64) -> Place {
    let mut rect = within(at, format, square);
    let near = |a: f64, b: f64| (a - b).abs() < 1e-6;
    if !square && turn == 0.0 {
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
            job.swatches.entry(swatch.clone()).or_insert_with(|| Swatch::new(role_name(swatch), *color));
        }
    }
    for (place, sides) in *places {
        let mut kins = BTreeMap::new();
        let (mut made, mut tray) = (Vec::new(), Vec::new());
        let panels = panels(place.format.finish.folds, place.format.size, place.sides.len().max(1));
        let composed = match designs.first() {
            Some(design) if !panels.is_empty() => compose_folded(design, (place, &panels), words, supplies),
            _ => {
                let designs = designs.iter().take((*sides).max(1));
                designs.map(|design| compose_side(design, place, words, supplies)).collect()
            }
        };
        for (index, mut composed) in composed.into_iter().enumerate() {
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
        // Sides the place has by name, and the designs do not fill.
        for (index, name) in place.sides.iter().enumerate() {
            match made.get_mut(index) {
                Some(side) => side.name.clone_from(name),
                None => {
                    let ground = made.first().and_then(|side: &Side| side.ground.clone());
                    made.push(Side::blank(SideId::fresh(supplies.ids), name.clone(), ground));
                }
            }
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
            follows: Follows::Design { designs: designs.iter().map(|design| design.id.clone()).collect() },
            first: None,
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
            item.release.look = Some(LookPatch::between(&shared.look, &own.look));
            continue;
        }
        item.place.scale = Ratio::new(detail(own) / detail(shared));
    }
}

/// Whether two looks have the same paints, whatever their lengths.
pub(crate) fn paints_alike(a: &Kin, b: &Kin) -> bool {
    let line = |kin: &Kin| kin.look.stroke.as_ref().map(|stroke| stroke.paint.clone());
    (&a.look.fill, line(a), a.look.opacity) == (&b.look.fill, line(b), b.look.opacity)
}

/// The length that tells how large a look is: its type, its line or the corner of its outline, in CSS pixels.
pub(crate) fn detail(kin: &Kin) -> f64 {
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
