//! Words that were read keep being read: where a picture is cut differently, the shade over it becomes as strong as it has to be.

use vatman_document::{Command, IdSource, Job, Known, Piece, PieceId, Side, Target};

use crate::check::contrast::{Ground, Reading, Repair, doubtful};
use crate::studio::Studio;

/// The changes after which the words of a piece that `job` already has read as those of the piece it was arranged from did, or, where it was
/// arranged from none, as words have to. What they change is this piece alone. Words that did not read there are left to whoever made
/// them so.
#[must_use]
pub fn made_legible(
    studio: &Studio,
    job: &Job,
    piece: &PieceId,
    from: Option<&PieceId>,
    known: &dyn Known,
    ids: &mut dyn IdSource,
) -> Vec<Command> {
    let mut trial = job.clone();
    let mut commands = Vec::new();
    let sides = job.piece(piece).map_or(0, |piece| piece.sides.len());
    for at in 0..sides {
        let Some((own, side)) = side_of(&trial, piece, at) else { continue };
        for id in doubtful(studio, &trial, own, side) {
            let Some((own, side)) = side_of(&trial, piece, at) else { break };
            let Some(item) = side.items.iter().find(|item| item.id == id) else { continue };
            let ground = Ground { job: &trial, piece: own, side, item };
            let Some(reading) = ground.measure(studio).ok().filter(fails) else { continue };
            if from.is_some_and(|from| failed_before(studio, job, from, &item.kin)) {
                continue;
            }
            let wanted = [Repair::Shade, Repair::Recolour];
            let Some(repair) = wanted.into_iter().find(|repair| reading.repairs.contains(repair)) else { continue };
            let Ok(command) = ground.repair(studio, repair, ids) else { continue };
            let command = here_only(own, command, &id);
            if command.apply(&mut trial, known).is_ok() {
                commands.push(command);
            }
        }
    }
    commands
}

fn side_of<'j>(job: &'j Job, piece: &PieceId, at: usize) -> Option<(&'j Piece, &'j Side)> {
    let own = job.piece(piece)?;
    Some((own, own.sides.get(at)?))
}

fn fails(reading: &Reading) -> bool {
    reading.ratio < reading.wanted
}

fn failed_before(studio: &Studio, job: &Job, from: &PieceId, kin: &vatman_document::KinId) -> bool {
    let Some(piece) = job.piece(from) else { return false };
    piece.sides.iter().any(|side| {
        side.items
            .iter()
            .filter(|item| item.kin == *kin)
            .any(|item| Ground { job, piece, side, item }.measure(studio).is_ok_and(|reading| fails(&reading)))
    })
}

/// A change of a shared look as one of the items in this piece alone.
fn here_only(piece: &Piece, command: Command, words: &vatman_document::ItemId) -> Command {
    match command {
        Command::SetLook { target: Target::Shared(kin), look } => {
            let items = || piece.sides.iter().flat_map(|side| &side.items);
            let own = items().find(|item| item.id == *words && item.kin == kin);
            let item = own.or_else(|| items().find(|item| item.kin == kin));
            let target = item.map_or(Target::Shared(kin), |item| Target::Only(item.id.clone()));
            Command::SetLook { target, look }
        }
        Command::All { commands } => {
            Command::All { commands: commands.into_iter().map(|command| here_only(piece, command, words)).collect() }
        }
        other => other,
    }
}
