//! Taking items away without losing them, and putting them back in their place.

use vatman_document::{Command, CommandError, ItemId, Job, Kin, Piece, PieceId, Removed, Side};

/// Takes items off their sides and keeps them in the trays of their pieces.
///
/// # Errors
/// [`CommandError`] where one is not there.
pub fn remove(job: &Job, items: &[ItemId]) -> Result<Command, CommandError> {
    let mut commands = Vec::new();
    if let Some(gone) = items.iter().find(|id| job.item(id).is_none()) {
        return Err(CommandError::Missing("item", gone.to_string()));
    }
    for piece in &job.pieces {
        let mut tray = piece.tray.clone();
        for side in &piece.sides {
            let aside = aside(piece, side);
            for (index, item) in side.items.iter().enumerate().filter(|(_, item)| items.contains(&item.id)) {
                let plain = job.plain(item).ok_or_else(|| CommandError::Missing("part", item.kin.to_string()))?;
                let shared = job.kins.get(&item.kin).unwrap_or(&Kin { part: plain.part, content: plain.content.clone(), look: plain.look.clone() }).clone();
                // Counted as if nothing of the side had ever been taken away.
                let index = aside.iter().fold(index, |index, gone| index + usize::from(*gone <= index));
                tray.push(Removed { item: item.clone(), kin: shared, side: side.id.clone(), index });
                commands.push(Command::RemoveItem { item: item.id.clone() });
            }
        }
        if tray.len() > piece.tray.len() {
            commands.insert(0, Command::SetTray { piece: piece.id.clone(), tray });
        }
    }
    Ok(Command::All { commands })
}

/// Puts something from the tray back where it was: on its side, or the first one where that is gone, between the same neighbours as
/// far as they are still there. It shares again with what it shared with, where that is still in the job.
///
/// # Errors
/// [`CommandError`] where it is not in the tray.
pub fn put_back(job: &Job, piece: &PieceId, item: &ItemId) -> Result<Command, CommandError> {
    let piece = job.piece(piece).ok_or_else(|| CommandError::Missing("piece", piece.to_string()))?;
    let at = piece.tray.iter().rposition(|removed| removed.item.id == *item).ok_or_else(|| CommandError::Missing("item", item.to_string()))?;
    let removed = &piece.tray[at];
    let mut tray = piece.tray.clone();
    tray.remove(at);
    let side = piece.sides.iter().find(|side| side.id == removed.side).or_else(|| piece.sides.first()).ok_or_else(|| CommandError::Missing("side", removed.side.to_string()))?;
    let kin = (!job.kins.contains_key(&removed.item.kin)).then(|| removed.kin.clone());
    let insert = Command::InsertItem { side: side.id.clone(), index: position(piece, removed).min(side.items.len()), item: removed.item.clone(), kin };
    Ok(Command::All { commands: vec![Command::SetTray { piece: piece.id.clone(), tray }, insert] })
}

/// Where the items taken from a side lay, rising.
fn aside(piece: &Piece, side: &Side) -> Vec<usize> {
    let mut all: Vec<usize> = piece.tray.iter().filter(|removed| removed.side == side.id).map(|removed| removed.index).collect();
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
            for part in [then, first] {
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
