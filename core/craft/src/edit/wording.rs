//! What items say, and the ties of one item by their number.

use vatman_document::{Command, ItemId, Job, Tie};
use vatman_units::Length;

use crate::compose::title::renamed;
use crate::edit::placing::kept_in_room;
use crate::refusal::Refusal;
use crate::studio::Studio;

/// Says something else, keeping the styles around what changed. A job without a name is named by it. Words that widen do so only as
/// far as the safe area reaches from where they stand.
///
/// # Errors
/// [`Refusal`] where the item is not there or holds no words.
pub fn say(job: &Job, item: &ItemId, text: &str, studio: &Studio) -> Result<Command, Refusal> {
    let plain = job.find(item)?.plain()?;
    let old = plain.content.words().ok_or(Refusal::NoWords)?;
    let words = Command::SetWords { target: plain.content_target(), text: text.to_owned() };
    let words = kept_in_room(job, item, studio)?.into_iter().fold(words, Command::then);
    Ok(match renamed(job, &old.text(), text) {
        Some(title) => words.then(Command::SetTitle { title }),
        None => words,
    })
}

fn ties_of(job: &Job, item: &ItemId, index: usize) -> Result<Vec<Tie>, Refusal> {
    let ties = job.find(item)?.item.ties.clone();
    if index < ties.len() { Ok(ties) } else { Err(Refusal::Missing("tie", index.to_string())) }
}

/// Lets go of the tie at a place of the list.
///
/// # Errors
/// [`Refusal`] where item or tie are not there.
pub fn drop_tie(job: &Job, item: &ItemId, index: usize) -> Result<Command, Refusal> {
    let mut ties = ties_of(job, item, index)?;
    ties.remove(index);
    Ok(Command::SetTies { item: item.clone(), ties })
}

/// Sets the distance or the surplus a tie holds.
///
/// # Errors
/// [`Refusal`] where item or tie are not there, or the tie holds no length.
pub fn set_tie_length(job: &Job, item: &ItemId, index: usize, length: Length) -> Result<Command, Refusal> {
    let mut ties = ties_of(job, item, index)?;
    match &mut ties[index] {
        Tie::Gap { gap: held, .. } | Tie::AsLong { extra: held, .. } => *held = length,
        Tie::Centre { .. } | Tie::Opposite { .. } | Tie::Spot { .. } | Tie::Between { .. } | Tie::Over { .. } => {
            return Err(Refusal::TieWithoutLength);
        }
    }
    Ok(Command::SetTies { item: item.clone(), ties })
}
