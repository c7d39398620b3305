//! Pieces and moves made of a way that was found.

use std::collections::{BTreeMap, BTreeSet};

use vatman_document::{
    Anchor, BoxEdge, Command, FirstShape, Follows, IdSource, Item, ItemId, Job, Kin, KinId, LookPatch, Paint, Piece,
    PieceId, Place, Release, Removed, Side, SideId, Stack, Tie,
};

use crate::adapt::leaves::{How, Leaf, in_a_column, leaves, loudest};
use crate::adapt::offers::{Entry, Offer, What, offers};
use crate::arrange::copied::Copied;
use crate::compose::design::Design;
use crate::compose::panels::{panels_of, seen_first};
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
    /// The side of the source whose place it takes.
    of: SideId,
    /// What it is called.
    name: String,
    ground: Option<Paint>,
    /// Back to front.
    entries: Vec<Entry>,
    /// How much larger lengths are than in the source.
    scale: f64,
}

impl Plan {
    /// What there is no room for, by the names its items have in lists.
    #[must_use]
    pub fn left_out(&self, job: &Job) -> Vec<String> {
        let entries = self.sides.iter().flat_map(|side| &side.entries).filter(|entry| !entry.stands);
        let named = entries.filter_map(|entry| match &entry.what {
            What::Kept(id) | What::Loose(id) => job.item(id).and_then(|item| job.plain(item)).map(|plain| plain.name()),
            What::Again(_) | What::Fresh(..) => None,
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
    let leaves = leaves(job, piece, entry);
    let each: Vec<Vec<Offer>> = leaves.iter().map(|leaf| offers(studio, job, (piece, leaf), designs)).collect();
    let Some((lead, first)) = each.iter().enumerate().find(|(_, found)| !found.is_empty()) else { return Vec::new() };
    let loudest = loudest(job, piece);
    let made = first.iter().map(|offer| {
        let others = each.iter().enumerate().filter(|(at, _)| *at != lead);
        let fits = offer.fits && others.filter_map(|(_, found)| found.first()).all(|other| other.fits);
        let mut sides = blank_sides(piece, entry, &leaves);
        for (at, leaf) in leaves.iter().enumerate() {
            let best = if at == lead { Some(offer) } else { each[at].first() };
            let (side, panel) = leaf.onto;
            let Some(planned) = sides.get_mut(side) else { continue };
            if let (How::Arranged, Some(best)) = (leaf.how, best) {
                planned.ground.clone_from(&best.ground);
                planned.scale = best.scale;
            } else if leaf.how == How::Column && planned.entries.is_empty() {
                planned.ground.clone_from(&offer.ground);
            }
            let entries = match (leaf.how, &panel) {
                (How::Arranged, _) => best.map(|best| best.entries.clone()).unwrap_or_default(),
                (How::Again, _) => offer.entries.iter().filter_map(again).collect(),
                (How::Column, Some(panel)) => in_a_column(studio, job, (leaf, panel), loudest, planned.ground.as_ref()),
                (How::Column, None) => Vec::new(),
            };
            let on_side = |one: Entry| {
                let place = panel.map_or(one.place, |panel| panel.on_side(one.place, &entry.format));
                let what = match one.what {
                    What::Kept(id) if leaf.loose.contains(&id) => What::Loose(id),
                    other => other,
                };
                Entry { what, place, ..one }
            };
            planned.entries.extend(entries.into_iter().map(on_side));
        }
        Plan { way: offer.way.clone(), score: offer.score, fits, sides }
    });
    made.collect()
}

/// The sides of a new piece without anything on them.
fn blank_sides(piece: &Piece, entry: &PlaceEntry, leaves: &[Leaf]) -> Vec<PlannedSide> {
    let folded = leaves.iter().any(|leaf| leaf.onto.1.is_some());
    let used = leaves.iter().map(|leaf| leaf.onto.0 + 1).max().unwrap_or(0);
    let count = if folded { entry.sides.len().max(used) } else { used };
    let side = |at: usize| {
        let of = piece.sides.get(at).or_else(|| piece.sides.last())?;
        let name = entry.sides.get(at).filter(|_| folded).cloned();
        let name = name.unwrap_or_else(|| of.name.clone());
        let ground = if entry.clear { None } else { of.ground.clone() };
        Some(PlannedSide { of: of.id.clone(), name, ground, entries: Vec::new(), scale: 1.0 })
    };
    (0..count).filter_map(side).collect()
}

/// What is said once more beside what is kept.
fn again(entry: &Entry) -> Option<Entry> {
    let what = match &entry.what {
        What::Kept(id) | What::Loose(id) | What::Again(id) => What::Again(id.clone()),
        fresh @ What::Fresh(..) => fresh.clone(),
    };
    entry.stands.then(|| Entry { what, ..entry.clone() })
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
    let items = source.sides.iter().flat_map(|side| &side.items);
    let mut copied = Copied::of(items.map(|item| &item.id), ids);
    for planned in &plan.sides {
        let (side, left) = side_of(job, source, planned, entry, (&mut copied, &mut kins, ids));
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
    source: &Piece,
    planned: &PlannedSide,
    entry: &PlaceEntry,
    (copied, kins, ids): (&mut Copied, &mut BTreeMap<KinId, Kin>, &mut dyn IdSource),
) -> (Side, Vec<Removed>) {
    let model = |of: &ItemId| source.sides.iter().flat_map(|side| &side.items).find(|item| item.id == *of);
    let here: BTreeSet<&ItemId> = planned.entries.iter().filter_map(|entry| entry.what.kept()).collect();
    let side = SideId::fresh(ids);
    let (mut items, mut left) = (Vec::new(), Vec::new());
    for Entry { what, place, stands, look } in &planned.entries {
        let released = |model: &Item| Release {
            look: look.clone().or_else(|| model.release.look.clone()),
            ..model.release.clone()
        };
        let item = match what {
            What::Kept(of) | What::Loose(of) => {
                let (Some(model), Some(id)) = (model(of), copied.item(of)) else { continue };
                let groups = match what {
                    What::Kept(_) => copied.groups(&model.groups, ids),
                    _ => Vec::new(),
                };
                // A tie holds where both ends stand on one side.
                let ties: Vec<Tie> = model
                    .ties
                    .iter()
                    .filter(|tie| tie.others().iter().all(|other| here.contains(other)))
                    .cloned()
                    .collect();
                let ties = copied.ties(&ties, true);
                let ties = ties.into_iter().map(|tie| measured(tie, place, entry, planned.scale)).collect();
                Item { id, place: *place, groups, ties, release: released(model), ..model.clone() }
            }
            What::Again(of) => {
                let Some(model) = model(of) else { continue };
                let id = ItemId::fresh(ids);
                Item {
                    id,
                    place: *place,
                    groups: Vec::new(),
                    ties: Vec::new(),
                    release: released(model),
                    ..model.clone()
                }
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
    let stands_here = |group: &vatman_document::GroupId| items.iter().any(|item| item.groups.contains(group));
    let stacks = source.sides.iter().flat_map(|side| copied.stacks(&side.stacks));
    let stacks = stacks
        .filter(|stack| stands_here(&stack.group))
        .map(|stack| Stack { gap: stack.gap.scaled(planned.scale), ..stack })
        .collect();
    let group_looks = source.sides.iter().flat_map(|side| copied.group_looks(&side.group_looks));
    let group_looks = group_looks.filter(|look| stands_here(&look.group)).collect();
    let name = planned.name.clone();
    (Side { id: side, name, ground: planned.ground.clone(), items, stacks, group_looks }, left)
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
    let folded = !panels_of(own).is_empty();
    let (mut commands, mut back) = (Vec::new(), Vec::new());
    for (at, planned) in plan.sides.iter().enumerate() {
        let (Some(side), Some(was)) = (own.sides.get(at), source.sides.iter().find(|side| side.id == planned.of))
        else {
            continue;
        };
        let mut taken: Vec<&ItemId> = Vec::new();
        for Entry { what, place, stands, look } in &planned.entries {
            let of_source = |of: &ItemId| source.sides.iter().flat_map(|side| &side.items).find(|item| item.id == *of);
            let kin = match what {
                What::Kept(of) | What::Loose(of) | What::Again(of) => of_source(of).map(|item| &item.kin),
                What::Fresh(kin, _) => Some(kin),
            };
            let Some(kin) = kin else { continue };
            let same = |item: &&Item| item.kin == *kin && !taken.contains(&&item.id);
            // A piece arranged from itself knows its items; from another, the same item is the one of the same kin.
            let itself = |item: &&Item| what.kept() == Some(&item.id);
            let item = side.items.iter().find(itself).or_else(|| side.items.iter().find(same));
            let Some(item) = item else {
                // What a folded piece says on another side stays there.
                let elsewhere = || own.sides.iter().any(|side| side.items.iter().any(|item| item.kin == *kin));
                if folded && what.kept().is_some() && elsewhere() {
                    continue;
                }
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
    // It keeps the sides it has.
    let found = plans(studio, &before, &before.pieces[at], &entry.with_sides(own), designs);
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
        let own = seen_first(&piece.format, piece.sides.len());
        let wanted = seen_first(&entry.format, entry.sides.len().max(1));
        let shape = (own.aspect() / wanted.aspect()).ln().abs();
        let measure = |size: vatman_units::Size| size.measure().to_css_px().max(1e-6);
        let size = (measure(own) / measure(wanted)).ln().abs();
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
