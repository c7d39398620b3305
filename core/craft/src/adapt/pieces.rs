//! Pieces as a whole: copies of them, and items that are to stand in all of them or in none.

use vatman_document::{Command, IdSource, Item, ItemId, Job, Piece, PieceId, Place, Release, Side, SideId};

use crate::adapt::designed::beside;
use crate::adapt::flow::Target;
use crate::adapt::matter::Source;
use crate::arrange::copied::Copied;
use crate::arrange::free_place;
use crate::compose::place::PlaceEntry;
use crate::refusal::Refusal;
use crate::studio::Studio;

/// The command that adds a copy of a piece after it. It shares with the others what the piece shares.
///
/// # Errors
/// [`Refusal`] where the piece is not there.
pub fn duplicate_piece(job: &Job, piece: &PieceId, ids: &mut dyn IdSource) -> Result<(Command, PieceId), Refusal> {
    let at = job.pieces.iter().position(|own| own.id == *piece);
    let at = at.ok_or_else(|| Refusal::Missing("piece", piece.to_string()))?;
    let model = job.pieces[at].as_ref();
    let sides = model.sides.iter().map(|side| {
        let mut copied = Copied::of(side.items.iter().map(|item| &item.id), ids);
        let id = SideId::fresh(ids);
        let items = side.items.iter().filter_map(|item| {
            let id = copied.item(&item.id)?;
            let (groups, ties) = (copied.groups(&item.groups, ids), copied.ties(&item.ties, true));
            Some(Item { id, groups, ties, ..item.clone() })
        });
        let items: Vec<Item> = items.collect();
        let stacks = copied.stacks(&side.stacks);
        let group_looks = copied.group_looks(&side.group_looks);
        Side { id, items, stacks, group_looks, ..side.clone() }
    });
    let sides = sides.collect();
    let id = PieceId::fresh(ids);
    let name: String = format!("{} copy", model.name).chars().take(200).collect();
    let copy = Piece { id: id.clone(), name, sides, tray: Vec::new(), first: None, ..model.clone() };
    let kins = std::collections::BTreeMap::new();
    Ok((Command::InsertPiece { index: at + 1, piece: copy, kins }, id))
}

/// The command that puts an item of one piece into every other that has it nowhere, at its distance from the edges it is near, or where
/// there is room. `entries` says where each piece is for.
///
/// # Errors
/// [`Refusal`] where the item is not there.
pub fn add_elsewhere(
    studio: &Studio,
    job: &Job,
    item: &ItemId,
    entries: &dyn Fn(&Piece) -> PlaceEntry,
    ids: &mut dyn IdSource,
) -> Result<Command, Refusal> {
    let found = job.find(item)?;
    let source = Source::read(studio, job, found.piece, found.side);
    let front = found.piece.sides.iter().position(|side| side.id == found.side.id).unwrap_or(0);
    let mut commands = Vec::new();
    for piece in &job.pieces {
        let has = piece.sides.iter().flat_map(|side| &side.items).any(|other| other.kin == found.item.kin);
        let Some(side) = piece.sides.get(front).filter(|_| !has) else { continue };
        let Some(one) = source.matter.iter().find(|one| one.item.id == *item) else { continue };
        let place = beside(one, &source, &Target::of(&entries(piece), &source));
        let place = kept_clear(studio, job, (piece, side), place, one.is_words());
        let release = Release::default();
        let copy = Item { release, groups: Vec::new(), ties: Vec::new(), ..found.item.clone() };
        let copy = Item { id: ItemId::fresh(ids), place, ..copy };
        // As far from the front as it is here.
        let index = side.items.len().saturating_sub(found.side.items.len() - 1 - found.index);
        commands.push(Command::InsertItem { side: side.id.clone(), index, item: copy, kin: None });
    }
    Ok(Command::All { commands })
}

/// A place that covers no words: as it is where it covers none, else the nearest free one of its size.
fn kept_clear(studio: &Studio, job: &Job, (piece, side): (&Piece, &Side), place: Place, words: bool) -> Place {
    let own = place.at.rect;
    let meets = |item: &Item| {
        let other = studio.drawn(job, item);
        own.x < other.right() && other.x < own.right() && own.y < other.bottom() && other.y < own.bottom()
    };
    let said = |item: &&Item| job.plain(item).is_some_and(|plain| plain.content.words().is_some());
    if !words || !side.items.iter().filter(said).any(meets) {
        return place;
    }
    let rect = free_place(job, (piece, side), own.size(), &|item| studio.drawn(job, item));
    Place { at: vatman_units::Placement { rect, ..place.at }, ..place }
}

/// Every item of the job that is the same as one of these: what goes when they go everywhere.
///
/// # Errors
/// [`Refusal`] where one is not there.
pub fn everywhere(job: &Job, items: &[ItemId]) -> Result<Vec<ItemId>, Refusal> {
    let kins: Vec<_> = items.iter().map(|id| Ok(&job.find(id)?.item.kin)).collect::<Result<_, Refusal>>()?;
    Ok(job.items().filter(|item| kins.contains(&&item.kin)).map(|item| item.id.clone()).collect())
}
