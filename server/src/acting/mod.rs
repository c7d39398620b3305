//! Acting: what a person does becomes one change of the job, kept before it is answered.

mod commands;
mod pieces;

pub(crate) use pieces::MOST as MOST_PLACES;

use std::sync::Arc;

use vatman_craft::{Repeat, Studio, by_hand, focused, repeats, settle, too_costly};
use vatman_document::{AssetId, Command, ItemId, Job, JobDelta, JobId, Known, Piece, PieceId};

use crate::jobs::{Change, Held, Jobs};
use crate::problem::Problem;
use crate::shelves::Shelves;
use crate::staging::{Stages, Watch};
use crate::types::{Act, ActRequest, ActResponse, SinceQuery};

/// Carries out acts.
pub struct Acting {
    pub(crate) jobs: Arc<Jobs>,
    pub(crate) shelves: Arc<Shelves>,
    pub(crate) stages: Arc<Stages>,
    pub(crate) studio: Arc<Studio>,
}

/// What was there can be there again, even where a family has gone in the meantime: it is substituted and found.
pub(crate) struct Undoing;

impl Known for Undoing {
    fn has_family(&self, _: &str) -> bool {
        true
    }
    fn has_picture(&self, _: &AssetId) -> bool {
        true
    }
}

impl Acting {
    /// Carries out an act and keeps it.
    ///
    /// # Errors
    /// A problem where it is stale, senseless, or cannot be kept; then nothing has changed.
    pub fn act(&self, id: &JobId, request: &ActRequest) -> Result<ActResponse, Problem> {
        let (old, new, made) = self.jobs.change(id, |old| {
            if request.base != old.revision {
                return Err(Problem::stale(old.revision));
            }
            match &request.act {
                Act::Undo => self.step(id, old, false),
                Act::Redo => self.step(id, old, true),
                act => {
                    let (command, made) = self.meant(id, &old.job, act)?;
                    let (job, inverse) = self.carry_out(&old.job, &command)?;
                    Ok((Change { job, inverse, gesture: request.gesture.clone(), mark: None }, made))
                }
            }
        })?;
        Ok(self.response(&old, &new, true, made, Watch::of(request.watch.as_ref(), request.carets.as_ref())))
    }

    /// Undoes the last step, or does the last undone one again.
    fn step(&self, id: &JobId, old: &Held, again: bool) -> Result<(Change, Vec<ItemId>), Problem> {
        let nothing = if again { "There is nothing to do again." } else { "There is nothing to undo." };
        let step = self.jobs.next_step(id, again)?.ok_or_else(|| Problem::value(nothing))?;
        let mut job = old.job.as_ref().clone();
        let inverse = step.command.apply(&mut job, &Undoing)?;
        Ok((Change { job, inverse, gesture: None, mark: Some((step.number, !again)) }, Vec::new()))
    }

    /// What an act would lead to, without keeping it.
    ///
    /// # Errors
    /// A problem where it is stale or senseless.
    pub fn rehearse(&self, id: &JobId, request: &ActRequest) -> Result<ActResponse, Problem> {
        let old = self.jobs.load(id)?;
        if request.base != old.revision {
            return Err(Problem::stale(old.revision));
        }
        let (command, made) = self.meant(id, &old.job, &request.act)?;
        let (job, _) = self.carry_out(&old.job, &command)?;
        let new = Held { job: Arc::new(job), ..old.clone() };
        Ok(self.response(&old, &new, false, made, Watch::of(request.watch.as_ref(), request.carets.as_ref())))
    }

    /// What changed since a revision somebody has; nothing where that is too long ago to be told.
    ///
    /// # Errors
    /// A problem where the job is not there.
    pub fn since(&self, id: &JobId, revision: i64, query: &SinceQuery) -> Result<Option<ActResponse>, Problem> {
        let new = self.jobs.load(id)?;
        let Some(job) = self.jobs.past(id, revision) else { return Ok(None) };
        let old = Held { job, revision, ..new.clone() };
        Ok(Some(self.response(&old, &new, true, Vec::new(), Watch::of(query.watch.as_ref(), query.carets.as_ref()))))
    }

    /// The change an act leads to; what a hand placed is marked so.
    fn meant(&self, id: &JobId, job: &Job, act: &Act) -> Result<(Command, Vec<ItemId>), Problem> {
        let (command, made) = match act {
            Act::RepeatMove { pieces } => (self.repeated(id, job, pieces)?, Vec::new()),
            act => self.command(job, act)?,
        };
        let command = if act.brings_pictures() { focused(&self.studio.pictures, command) } else { command };
        Ok((if act.places_by_hand() { by_hand(job, command) } else { command }, made))
    }

    /// Where the last move means the same.
    ///
    /// # Errors
    /// A problem where the data file fails.
    pub(crate) fn repeats(&self, id: &JobId, job: &Job) -> Result<Vec<Repeat>, Problem> {
        let Some(step) = self.jobs.next_step(id, false)? else { return Ok(Vec::new()) };
        let entries = |piece: &Piece| self.shelves.entry_of(piece);
        Ok(repeats(&self.studio, job, &step.command, &entries, self.shelves.as_ref()))
    }

    /// The change that repeats the last move in pieces.
    pub(crate) fn repeated(&self, id: &JobId, job: &Job, pieces: &[PieceId]) -> Result<Command, Problem> {
        let found = self.repeats(id, job)?;
        let wanted = found.into_iter().filter(|repeat| pieces.contains(&repeat.piece));
        let commands: Vec<_> = wanted.map(|repeat| repeat.command).collect();
        if commands.len() < pieces.len() || commands.is_empty() {
            return Err(Problem::value("That move cannot be repeated there any more. Nothing was moved."));
        }
        Ok(Command::All { commands })
    }

    /// Carries a change out and lets what is tied take its places, as one change with one inverse.
    fn carry_out(&self, old: &Job, command: &Command) -> Result<(Job, Command), Problem> {
        let mut new = old.clone();
        let inverse = command.apply(&mut new, self.shelves.as_ref())?;
        if let Some(refusal) = too_costly(old, &new, &self.studio) {
            return Err(refusal.into());
        }
        let moves = settle(old, &new, &self.studio);
        if moves.is_empty() {
            return Ok((new, inverse));
        }
        let back = Command::All { commands: moves }.apply(&mut new, self.shelves.as_ref())?;
        Ok((new, back.then(inverse)))
    }

    fn response(&self, old: &Held, new: &Held, kept: bool, made: Vec<ItemId>, watch: Option<Watch<'_>>) -> ActResponse {
        let stage = watch.and_then(|watch| self.stages.change(&old.job, &new.job, &watch, kept));
        let stage = stage.map(|stage| crate::types::StageDelta { revision: new.revision, ..stage });
        let (can_undo, can_redo) = new.can_step;
        let delta = JobDelta::between(&old.job, &new.job);
        ActResponse { revision: new.revision, kept_at: new.kept_at, delta, stage, made, can_undo, can_redo }
    }
}
