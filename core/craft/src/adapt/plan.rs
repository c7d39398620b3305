//! Pieces and moves made of a way that was found.

use std::collections::BTreeMap;

use vatman_document::{
    Anchor, BoxEdge, Command, FirstShape, Follows, IdSource, Item, ItemId, Job, Kin, KinId, LookPatch, Paint,
    PaintPatch, Piece, PieceId, Place, Release, Removed, Side, SideId, Stack, Stop, Tie,
};
use vatman_units::{Angle, Ratio};

use crate::adapt::designed::{Designed, designed, placement};
use crate::adapt::flow::Set;
use crate::adapt::focus::crop_at;
use crate::adapt::matter::Matter;
use crate::adapt::ways::{Tried, tried};
use crate::arrange::copied::Copied;
use crate::compose::design::Design;
use crate::compose::place::PlaceEntry;
use crate::refusal::Refusal;
use crate::studio::Studio;

/// One way a piece can be arranged for a place: a function of what the job says and shows, the place and the arrangement, without
/// identities of its own.
#[derive(Debug, Clone)]
pub struct Plan {
    /// What it is like, in a few words.
    pub way: String,
    /// Larger is better.
    pub score: f64,
    /// Every word can be read and stands in its field.
    pub fits: bool,
    sides: Vec<PlannedSide>,
}

#[derive(Debug, Clone)]
struct PlannedSide {
    /// The side of the source.
    of: SideId,
    ground: Option<Paint>,
    /// Back to front.
    entries: Vec<Entry>,
    /// How much larger lengths are than in the source.
    scale: f64,
}

/// One item of a planned side.
#[derive(Debug, Clone)]
pub(crate) struct Entry {
    pub what: What,
    pub place: Place,
    /// There is room for it; otherwise it waits in the tray.
    pub stands: bool,
    /// A look of its own in this shape.
    pub look: Option<LookPatch>,
}

/// What an entry is.
#[derive(Debug, Clone)]
pub(crate) enum What {
    /// An item of the source.
    Kept(ItemId),
    /// What the design has in this shape alone, with its kin where the job has none.
    Fresh(KinId, Option<Box<Kin>>),
}

impl Plan {
    /// What there is no room for, by the names its items have in lists.
    #[must_use]
    pub fn left_out(&self, job: &Job) -> Vec<String> {
        let entries = self.sides.iter().flat_map(|side| &side.entries).filter(|entry| !entry.stands);
        let named = entries.filter_map(|entry| match &entry.what {
            What::Kept(id) => job.item(id).and_then(|item| job.plain(item)).map(|plain| plain.name()),
            What::Fresh(..) => None,
        });
        named.collect()
    }
}

/// The ways in which a piece can be arranged for a place, the best first. `designs` knows the designs by their identities.
#[must_use]
pub fn plans<'d>(
    studio: &Studio,
    job: &Job,
    piece: &Piece,
    entry: &PlaceEntry,
    designs: &dyn Fn(&str) -> Option<&'d Design>,
) -> Vec<Plan> {
    let mut each: Vec<Vec<Offer>> = Vec::new();
    for (at, side) in piece.sides.iter().enumerate() {
        let scale = entry.format.size.measure().to_css_px() / piece.format.size.measure().to_css_px().max(1e-6);
        let own = |(ground, entries)| PlannedSide { of: side.id.clone(), ground, entries, scale };
        let mut found: Vec<Offer> = Vec::new();
        let known = piece.follows.designs();
        let design = known.get(at.min(known.len().saturating_sub(1))).and_then(|id| designs(id));
        if let Some(Designed { entries, ground, score }) =
            design.and_then(|design| designed(studio, job, (piece, side), design, entry))
        {
            found.push((DESIGNED.to_owned(), score, true, own((ground, entries))));
        }
        let ground = if entry.clear { None } else { side.ground.clone() };
        for Tried { name, score, fits, places } in tried(studio, job, piece, side, entry) {
            let visible = side.items.iter().filter(|item| !item.hidden);
            let visible = visible.filter(|item| job.plain(item).is_some());
            let entries = visible.zip(&places).map(|(item, set)| entry_of(job, item, set.as_ref()));
            found.push((name.to_owned(), score, fits, own((ground.clone(), entries.collect()))));
        }
        found.sort_by(|a, b| b.1.total_cmp(&a.1));
        each.push(each_once(found));
    }
    for (_, _, _, side) in each.iter_mut().flatten() {
        for entry in &mut side.entries {
            if let What::Kept(id) = &entry.what
                && let Some(item) = job.item(id)
            {
                entry.place.crop = crop_at(studio, job, item, &entry.place);
            }
        }
    }
    let Some((first, rest)) = each.split_first() else { return Vec::new() };
    first
        .iter()
        .map(|(way, score, fits, side)| {
            let others = rest.iter().filter_map(|found| found.first());
            Plan {
                way: way.clone(),
                score: *score,
                fits: *fits && others.clone().all(|other| other.2),
                sides: std::iter::once(side.clone()).chain(others.map(|other| other.3.clone())).collect(),
            }
        })
        .collect()
}

type Offer = (String, f64, bool, PlannedSide);

/// What is composed well has about this score, however it came to be.
const COMPOSED: f64 = 1.0;
/// What falls further behind the best than this is not worth offering.
const BEHIND: f64 = 0.7;

/// Arrangements that come to the same are offered once, under the name of the design where it is one of them; those that fall far behind the
/// first not at all.
fn each_once(found: Vec<Offer>) -> Vec<Offer> {
    let mut out: Vec<Offer> = Vec::new();
    for offer in found {
        match out.iter_mut().find(|other| same_places(&other.3, &offer.3)) {
            Some(other) if offer.0 == DESIGNED => other.0 = offer.0,
            Some(_) => {}
            None => out.push(offer),
        }
    }
    let best = out.first().map_or(0.0, |offer| offer.1.min(COMPOSED));
    out.retain(|offer| offer.1 >= best - BEHIND);
    out
}

fn same_places(a: &PlannedSide, b: &PlannedSide) -> bool {
    let standing = |side: &PlannedSide| -> Vec<(ItemId, vatman_units::Rect)> {
        let entries = side.entries.iter().filter(|entry| entry.stands);
        let kept = entries.filter_map(|entry| match &entry.what {
            What::Kept(id) => Some((id.clone(), entry.place.at.rect)),
            What::Fresh(..) => None,
        });
        let mut kept: Vec<_> = kept.collect();
        kept.sort_by(|a, b| a.0.cmp(&b.0));
        kept
    };
    let (a, b) = (standing(a), standing(b));
    let near = |a: vatman_units::Rect, b: vatman_units::Rect| {
        let slight = vatman_units::Length::css_px(2.0).max(a.size().measure().scaled(0.02));
        [a.x - b.x, a.y - b.y, a.right() - b.right(), a.bottom() - b.bottom()].iter().all(|by| by.abs() <= slight)
    };
    a.len() == b.len() && a.iter().zip(&b).all(|(a, b)| a.0 == b.0 && near(a.1, b.1))
}

/// What the arrangement of a design is called.
pub const DESIGNED: &str = "As designed";

fn entry_of(job: &Job, item: &Item, set: Option<&Set>) -> Entry {
    let place = set.map_or(item.place, |set| set_place(item, set));
    let (turn, reach) = set.map_or((0.0, 1.0), |set| (set.shade, set.reach));
    let look = job.plain(item).filter(|_| turn != 0.0 || reach != 1.0).and_then(|plain| match &plain.look.fill {
        Some(Paint::Linear { angle, stops }) => {
            let angle = Angle::degrees((angle.to_degrees() + turn).rem_euclid(360.0));
            Some(filled(Some(Paint::Linear { angle, stops: reaching(stops, reach) })))
        }
        _ => None,
    });
    Entry { what: What::Kept(item.id.clone()), place, stands: set.is_some(), look }
}

/// A fill of its own, and nothing else.
pub(crate) fn filled(fill: Option<Paint>) -> LookPatch {
    LookPatch { paint: PaintPatch { fill: Some(fill), ..PaintPatch::default() }, ..LookPatch::default() }
}

/// The stops of a shade that reaches further from where it is strongest.
fn reaching(stops: &[Stop], by: f64) -> Vec<Stop> {
    let from_end = stops.first().zip(stops.last()).is_some_and(|(first, last)| first.opacity < last.opacity);
    let at = |at: f64| if from_end { 1.0 - ((1.0 - at) * by).min(1.0) } else { (at * by).min(1.0) };
    stops.iter().map(|stop| Stop { at: Ratio::new(at(stop.at.get())), ..stop.clone() }).collect()
}

/// Where an item comes to stand.
pub(crate) fn place_of(one: &Matter<'_>, set: &Set) -> Place {
    set_place(one.item, set)
}

fn set_place(item: &Item, set: &Set) -> Place {
    Place {
        at: placement(set.rect, item.place.at),
        scale: Ratio::new((item.place.scale.get() * set.scale).clamp(1e-3, 1e3)),
        crop: item.place.crop,
        by_hand: false,
    }
}

/// The command that adds a piece for a place, arranged as planned.
///
/// # Errors
/// [`Refusal`] where the piece it comes from is not there.
pub fn adapt_piece(
    job: &Job,
    from: &PieceId,
    plan: &Plan,
    entry: &PlaceEntry,
    ids: &mut dyn IdSource,
) -> Result<(Command, PieceId), Refusal> {
    let source = job.piece(from).ok_or_else(|| Refusal::Missing("piece", from.to_string()))?;
    let mut kins = BTreeMap::new();
    let (mut sides, mut tray) = (Vec::new(), Vec::new());
    for planned in &plan.sides {
        let Some(was) = source.sides.iter().find(|side| side.id == planned.of) else { continue };
        let (side, left) = side_of(job, was, planned, entry, (&mut kins, ids));
        tray.extend(left);
        sides.push(side);
    }
    let id = PieceId::fresh(ids);
    let follows = following(source, plan);
    let piece = Piece {
        place: Some(entry.id.clone()),
        tray,
        follows,
        ..Piece::new(id.clone(), entry.name.clone(), entry.format, sides)
    };
    Ok((Command::InsertPiece { index: usize::MAX, piece, kins }, id))
}

fn side_of(
    job: &Job,
    was: &Side,
    planned: &PlannedSide,
    entry: &PlaceEntry,
    (kins, ids): (&mut BTreeMap<KinId, Kin>, &mut dyn IdSource),
) -> (Side, Vec<Removed>) {
    let mut copied = Copied::of(was.items.iter().map(|item| &item.id), ids);
    let side = SideId::fresh(ids);
    let (mut items, mut left) = (Vec::new(), Vec::new());
    for Entry { what, place, stands, look } in &planned.entries {
        let item = match what {
            What::Kept(of) => {
                let (Some(model), Some(id)) = (was.items.iter().find(|item| item.id == *of), copied.item(of)) else {
                    continue;
                };
                let groups = copied.groups(&model.groups, ids);
                let ties = copied.ties(&model.ties, true);
                let ties = ties.into_iter().map(|tie| measured(tie, place, entry, planned.scale)).collect();
                let release =
                    Release { look: look.clone().or_else(|| model.release.look.clone()), ..model.release.clone() };
                Item { id, place: *place, groups, ties, release, ..model.clone() }
            }
            What::Fresh(kin, fresh) => {
                if let Some(fresh) = fresh {
                    kins.entry(kin.clone()).or_insert_with(|| fresh.as_ref().clone());
                }
                let release = Release { look: look.clone(), content: None };
                Item { release, ..Item::new(ItemId::fresh(ids), kin.clone(), *place) }
            }
        };
        if *stands {
            items.push(item);
        } else if let Some(kin) = job.kins.get(&item.kin) {
            left.push(Removed { kin: kin.as_ref().clone(), side: side.clone(), index: items.len(), item });
        }
    }
    // Groups of which one alone stands are none.
    let stacks = copied.stacks(&was.stacks);
    let stacks = stacks
        .into_iter()
        .filter(|stack| items.iter().any(|item| item.groups.contains(&stack.group)))
        .map(|stack| Stack { gap: stack.gap.scaled(planned.scale), ..stack })
        .collect();
    let group_looks = copied.group_looks(&was.group_looks);
    (Side { id: side, name: was.name.clone(), ground: planned.ground.clone(), items, stacks, group_looks }, left)
}

/// A tie that holds where its item was put: distances to the sheet as they are now, others as much larger as the sheet.
fn measured(tie: Tie, place: &Place, entry: &PlaceEntry, scale: f64) -> Tie {
    let (rect, size) = (place.at.rect, entry.format.size);
    match tie {
        Tie::Gap { edge, of: Anchor::Sheet, .. } => {
            let gap = match edge {
                BoxEdge::Left => rect.x,
                BoxEdge::Top => rect.y,
                BoxEdge::Right => size.w - rect.right(),
                BoxEdge::Bottom => size.h - rect.bottom(),
            };
            Tie::Gap { edge, of: Anchor::Sheet, gap }
        }
        Tie::Gap { edge, of, gap } => Tie::Gap { edge, of, gap: gap.scaled(scale) },
        Tie::AsLong { direction, of, extra } => Tie::AsLong { direction, of, extra: extra.scaled(scale) },
        other => other,
    }
}

fn following(source: &Piece, plan: &Plan) -> Follows {
    Follows::Piece { piece: source.id.clone(), way: plan.way.clone(), designs: source.follows.designs().to_vec() }
}

/// What an arrangement may move.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Movable<'a> {
    /// Everything but what was placed by hand.
    NotByHand,
    /// Everything.
    All,
    /// These items alone.
    Only(&'a [ItemId]),
}

impl Movable<'_> {
    fn allows(self, item: &Item) -> bool {
        !item.locked
            && match self {
                Self::NotByHand => !item.place.by_hand,
                Self::All => true,
                Self::Only(items) => items.contains(&item.id),
            }
    }
}

/// The command that arranges a piece as planned from a piece. Items are known by their kin, so that a plan made from another piece is
/// one for this.
///
/// # Errors
/// [`Refusal`] where a piece is not there.
pub fn rearrange(
    job: &Job,
    piece: &PieceId,
    from: &PieceId,
    plan: &Plan,
    movable: Movable<'_>,
    ids: &mut dyn IdSource,
) -> Result<Command, Refusal> {
    let missing = |id: &PieceId| Refusal::Missing("piece", id.to_string());
    let own = job.piece(piece).ok_or_else(|| missing(piece))?;
    let source = job.piece(from).ok_or_else(|| missing(from))?;
    let alone = matches!(movable, Movable::Only(_));
    let (mut commands, mut back) = (Vec::new(), Vec::new());
    for (at, planned) in plan.sides.iter().enumerate() {
        let (Some(side), Some(was)) = (own.sides.get(at), source.sides.iter().find(|side| side.id == planned.of))
        else {
            continue;
        };
        let mut taken: Vec<&ItemId> = Vec::new();
        for Entry { what, place, stands, look } in &planned.entries {
            let kin = match what {
                What::Kept(of) => was.items.iter().find(|item| item.id == *of).map(|item| &item.kin),
                What::Fresh(kin, _) => Some(kin),
            };
            let Some(kin) = kin else { continue };
            let same = |item: &&Item| item.kin == *kin && !taken.contains(&&item.id);
            // A piece arranged from itself knows its items; from another, the same item is the one of the same kin.
            let itself = |item: &&Item| matches!(what, What::Kept(of) if *of == item.id);
            let item = side.items.iter().find(itself).or_else(|| side.items.iter().find(same));
            let Some(item) = item else {
                let waits = own.tray.iter().position(|removed| removed.item.kin == *kin);
                match waits.filter(|_| *stands && !alone) {
                    Some(at) if !back.iter().any(|(taken, _)| *taken == at) => back.push((at, *place)),
                    Some(_) => {}
                    None if *stands && !alone => commands.extend(arriving(job, side, kin, (what, *place, look), ids)),
                    None => {}
                }
                continue;
            };
            taken.push(&item.id);
            if !movable.allows(item) {
                continue;
            }
            if !*stands {
                commands.push(crate::arrange::remove(job, std::slice::from_ref(&item.id))?);
                continue;
            }
            if let Some(look) = look {
                let release = Release { look: Some(look.clone()), ..item.release.clone() };
                commands.push(Command::SetRelease { item: item.id.clone(), release });
            }
            commands.push(Command::SetPlace { item: item.id.clone(), place: *place });
        }
        // What somebody gave this side stays; a side that had the ground of the source goes on with it.
        if !alone && side.ground == was.ground && side.ground != planned.ground && side.ground.is_some() {
            commands.push(Command::SetGround { side: side.id.clone(), ground: planned.ground.clone() });
        }
    }
    // What waits in the tray was taken away here, or there was no room for it before; the newest first, as taking moves what lies above.
    back.sort_by_key(|(at, _)| std::cmp::Reverse(*at));
    let mut returned = Vec::new();
    for (at, place) in back {
        let item = &own.tray[at].item.id;
        returned.push(crate::arrange::put_back(job, piece, item)?);
        returned.push(Command::SetPlace { item: item.clone(), place });
    }
    let mut commands = returned.into_iter().chain(commands).collect::<Vec<_>>();
    if !alone && piece != from {
        let follows = following(source, plan);
        if follows != own.follows {
            commands.push(Command::Follow { piece: piece.clone(), follows });
        }
    }
    Ok(Command::All { commands })
}

/// The command that makes a piece one for another place and arranges it anew. It is arranged from the shape it had before its format
/// was changed for the first time, unless something was placed by hand since; back in that shape all is as it was.
///
/// # Errors
/// [`Refusal`] where the piece is not there, or nothing on it can be arranged.
pub fn change_format<'d>(
    studio: &Studio,
    job: &Job,
    piece: &PieceId,
    entry: &PlaceEntry,
    designs: &dyn Fn(&str) -> Option<&'d Design>,
    ids: &mut dyn IdSource,
) -> Result<Command, Refusal> {
    let at = job.pieces.iter().position(|own| own.id == *piece);
    let at = at.ok_or_else(|| Refusal::Missing("piece", piece.to_string()))?;
    let own = job.pieces[at].as_ref();
    let items = || own.sides.iter().flat_map(|side| &side.items);
    let first = match &own.first {
        Some(first) if !items().any(|item| item.place.by_hand) => first.as_ref().clone(),
        _ => FirstShape {
            format: own.format,
            place: own.place.clone(),
            places: items().map(|item| (item.id.clone(), item.place)).collect(),
        },
    };
    let to = |first: Option<FirstShape>| Command::SetFormat {
        piece: piece.clone(),
        format: entry.format,
        place: Some(entry.id.clone()),
        first: first.map(Box::new),
    };
    if entry.format == first.format {
        let mut commands = vec![to(None)];
        let waiting = |id: &ItemId| own.tray.iter().position(|removed| removed.item.id == *id);
        let mut back: Vec<&ItemId> = first.places.keys().filter(|id| waiting(id).is_some()).collect();
        // The newest first: what is taken off the tray moves what lies above it.
        back.sort_by_key(|id| std::cmp::Reverse(waiting(id)));
        for id in back {
            commands.push(crate::arrange::put_back(job, piece, id)?);
        }
        let there = |id: &ItemId| waiting(id).is_some() || items().any(|item| item.id == *id);
        let placed = first.places.iter().filter(|(id, _)| there(id));
        commands.extend(placed.map(|(id, place)| Command::SetPlace { item: id.clone(), place: *place }));
        return Ok(Command::All { commands });
    }
    let mut before = job.clone();
    let mut shape = own.clone();
    shape.format = first.format;
    for item in shape.sides.iter_mut().flat_map(|side| &mut side.items) {
        item.place = first.places.get(&item.id).copied().unwrap_or(item.place);
    }
    before.pieces[at] = shape.into();
    let found = plans(studio, &before, &before.pieces[at], entry, designs);
    let arranged = match found.first() {
        Some(plan) => rearrange(job, piece, piece, plan, Movable::All, ids)?,
        None => Command::All { commands: Vec::new() },
    };
    Ok(to(Some(first)).then(arranged))
}

/// The piece that one for a place is arranged like: of those somebody made or moved something in, the one whose shape is nearest.
#[must_use]
pub fn model_for<'j>(job: &'j Job, entry: &PlaceEntry, but: Option<&PieceId>) -> Option<&'j Piece> {
    let by_hand = |piece: &Piece| piece.sides.iter().flat_map(|side| &side.items).any(|item| item.place.by_hand);
    let made = |piece: &&Piece| !matches!(piece.follows, Follows::Piece { .. }) || by_hand(piece);
    let far = |piece: &Piece| {
        let shape = (piece.format.size.aspect() / entry.format.size.aspect()).ln().abs();
        let measure = |size: vatman_units::Size| size.measure().to_css_px().max(1e-6);
        let size = (measure(piece.format.size) / measure(entry.format.size)).ln().abs();
        shape + size * 0.02 - if by_hand(piece) { LEARNT } else { 0.0 }
    };
    let all = || job.pieces.iter().map(AsRef::as_ref).filter(|piece| Some(&piece.id) != but);
    let nearest = |a: &&Piece, b: &&Piece| far(a).total_cmp(&far(b));
    all().filter(made).min_by(nearest).or_else(|| all().min_by(nearest))
}

/// How much further away in shape a piece may be to be followed because something was moved in it, as a difference of logarithms.
const LEARNT: f64 = 0.2;

/// The same change, with what it places marked as placed by hand.
#[must_use]
pub fn by_hand(job: &Job, command: Command) -> Command {
    match command {
        Command::SetPlace { item, place } => {
            let moved = job.item(&item).is_none_or(|own| own.place != place);
            let place = Place { by_hand: place.by_hand || moved, ..place };
            Command::SetPlace { item, place }
        }
        Command::All { commands } => {
            Command::All { commands: commands.into_iter().map(|command| by_hand(job, command)).collect() }
        }
        other => other,
    }
}

/// What the plan has and neither the piece nor its tray: a new item of the same kin.
fn arriving(
    job: &Job,
    side: &Side,
    kin: &KinId,
    (what, place, look): (&What, Place, &Option<LookPatch>),
    ids: &mut dyn IdSource,
) -> Option<Command> {
    let fresh = match what {
        What::Fresh(_, fresh) if !job.kins.contains_key(kin) => Some(fresh.as_deref()?.clone()),
        _ => None,
    };
    let release = Release { look: look.clone(), content: None };
    let item = Item { release, ..Item::new(ItemId::fresh(ids), kin.clone(), place) };
    Some(Command::InsertItem { side: side.id.clone(), index: usize::MAX, item, kin: fresh })
}
