//! Taking items away without losing them, and putting them back in their place.

use vatman_document::{Command, ItemId, Job, Piece, PieceId, Removed, Side};

use crate::refusal::Refusal;

/// Takes items off their sides and keeps them in the trays of their pieces; where a tray is full its oldest go.
///
/// # Errors
/// [`Refusal`] where nothing is named, or one is not there.
pub fn remove(job: &Job, items: &[ItemId]) -> Result<Command, Refusal> {
    if items.is_empty() {
        return Err(Refusal::NothingSelected);
    }
    items.iter().try_for_each(|id| job.find(id).map(|_| ()))?;
    let mut commands = Vec::new();
    for piece in &job.pieces {
        let mut kept = Vec::new();
        for side in &piece.sides {
            let aside = aside(piece, side);
            for (index, item) in side.items.iter().enumerate().filter(|(_, item)| items.contains(&item.id)) {
                let kin = job.kins.get(&item.kin).ok_or_else(|| Refusal::Missing("part", item.kin.to_string()))?;
                // Counted as if nothing of the side had ever been taken away.
                let index = aside.iter().fold(index, |index, gone| index + usize::from(*gone <= index));
                kept.push(Removed { item: item.clone(), kin: kin.as_ref().clone(), side: side.id.clone(), index });
            }
        }
        let taken: Vec<ItemId> = kept.iter().map(|removed| removed.item.id.clone()).collect();
        // Of more than a tray holds, the first are not kept at all.
        let kept = kept.split_off(kept.len().saturating_sub(Piece::MOST_ASIDE));
        let surplus = (piece.tray.len() + kept.len()).saturating_sub(Piece::MOST_ASIDE);
        commands.extend((0..surplus).map(|_| Command::TakeAside { piece: piece.id.clone(), index: 0 }));
        commands.extend(kept.into_iter().map(|removed| Command::PutAside {
            piece: piece.id.clone(),
            index: usize::MAX,
            removed: Box::new(removed),
        }));
        commands.extend(taken.into_iter().map(|item| Command::RemoveItem { item }));
    }
    Ok(Command::All { commands })
}

/// Puts something from the tray back where it was: on its side, or the first one where that is gone, between the same neighbours as
/// far as they are still there. It shares again with what it shared with, where that is still in the job.
///
/// # Errors
/// [`Refusal`] where it is not in the tray.
pub fn put_back(job: &Job, piece: &PieceId, item: &ItemId) -> Result<Command, Refusal> {
    let piece = job.piece(piece).ok_or_else(|| Refusal::Missing("piece", piece.to_string()))?;
    let at = piece
        .tray
        .iter()
        .rposition(|removed| removed.item.id == *item)
        .ok_or_else(|| Refusal::Missing("item", item.to_string()))?;
    let removed = &piece.tray[at];
    let side = piece
        .sides
        .iter()
        .find(|side| side.id == removed.side)
        .or_else(|| piece.sides.first())
        .ok_or_else(|| Refusal::Missing("side", removed.side.to_string()))?;
    let kin = (!job.kins.contains_key(&removed.item.kin)).then(|| removed.kin.clone());
    let insert = Command::InsertItem {
        side: side.id.clone(),
        index: position(piece, removed).min(side.items.len()),
        item: removed.item.clone(),
        kin,
    };
    Ok(Command::All { commands: vec![Command::TakeAside { piece: piece.id.clone(), index: at }, insert] })
}

/// Where the items taken from a side lay, rising.
fn aside(piece: &Piece, side: &Side) -> Vec<usize> {
    let mut all: Vec<usize> =
        piece.tray.iter().filter(|removed| removed.side == side.id).map(|removed| removed.index).collect();
    all.sort_unstable();
    all
}

/// Its place from the back among what is there now.
fn position(piece: &Piece, removed: &Removed) -> usize {
    let missing = piece.tray.iter().filter(|other| other.side == removed.side && other.index < removed.index).count();
    removed.index.saturating_sub(missing)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::testing::{Everything, job_with};
    use proptest::prelude::*;

    #[test]
    fn a_full_tray_keeps_the_newest() {
        let mut job = job_with(3);
        let piece = job.pieces[0].clone();
        let id = |name: &str| ItemId::new(name).unwrap();
        let before = job.clone();
        let mut undo = vec![remove(&job, &[id("i0")]).unwrap().apply(&mut job, &Everything).unwrap()];
        let first = job.pieces[0].tray[0].clone();
        let more = (1..Piece::MOST_ASIDE).map(|n| {
            let item = vatman_document::Item { id: id(&format!("t{n}")), ..first.item.clone() };
            let removed = Box::new(Removed { item, ..first.clone() });
            Command::PutAside { piece: piece.id.clone(), index: usize::MAX, removed }
        });
        undo.push(Command::All { commands: more.collect() }.apply(&mut job, &Everything).unwrap());
        undo.push(remove(&job, &[id("i1"), id("i2")]).unwrap().apply(&mut job, &Everything).unwrap());
        let tray = &job.pieces[0].tray;
        assert_eq!((tray.len(), tray[0].item.id.as_str()), (Piece::MOST_ASIDE, "t2"), "the two oldest went");
        assert_eq!(tray.iter().rev().map(|removed| removed.item.id.as_str()).take(2).collect::<Vec<_>>(), ["i2", "i1"]);
        for step in undo.iter().rev() {
            step.apply(&mut job, &Everything).unwrap();
        }
        assert_eq!(job, before);
    }

    #[test]
    fn nothing_and_the_unknown_are_not_removed() {
        let job = job_with(2);
        assert_eq!(remove(&job, &[]), Err(Refusal::NothingSelected));
        let gone = ItemId::new("gone").unwrap();
        assert_eq!(remove(&job, std::slice::from_ref(&gone)), Err(Refusal::Missing("item", gone.to_string())));
    }

    proptest! {
        /// In whatever order things are put back, everything is where it was.
        #[test]
        fn what_is_put_back_is_where_it_was(taken in prop::collection::btree_set(0usize..7, 1..6), cut in 0usize..6, seed in any::<u64>()) {
            let mut job = job_with(7);
            let before = job.clone();
            let items: Vec<ItemId> = taken.iter().map(|i| ItemId::new(format!("i{i}")).unwrap()).collect();
            // In two goes, later ones first.
            let (first, then) = items.split_at(cut.min(items.len()));
            let mut undo = Vec::new();
            for part in [then, first].into_iter().filter(|part| !part.is_empty()) {
                undo.push(remove(&job, part).unwrap().apply(&mut job, &Everything).unwrap());
            }
            prop_assert_eq!(job.pieces[0].tray.len(), items.len());
            prop_assert_eq!(job.kins.len(), 7 - items.len());
            let mut undone = job.clone();
            for step in undo.iter().rev() {
                step.apply(&mut undone, &Everything).unwrap();
            }
            prop_assert_eq!(&undone, &before);
            let mut order = items.clone();
            order.rotate_left(seed as usize % items.len());
            if seed % 2 == 0 {
                order.reverse();
            }
            for id in &order {
                put_back(&job, &before.pieces[0].id, id).unwrap().apply(&mut job, &Everything).unwrap();
            }
            prop_assert_eq!(job, before);
        }
    }
}
