//! The steps of a job that can be undone and done again, and whole states of earlier moments.

use diesel::dsl::exists;
use diesel::prelude::*;
use vatman_document::{Command, Job, JobId, read_job};

use crate::store::schema::{states, steps};
use crate::store::{Store, StoreError};

/// Steps that are kept for undoing.
const STEPS: i64 = 1_000;
/// A whole state is kept every so many steps, and after the first few.
const STATE_EVERY: i64 = 250;
const EARLY: [i64; 3] = [10, 50, 120];
/// States that are kept.
const STATES: i64 = 24;
/// Changes in one step, after which a gesture that goes on begins another.
const LONGEST_STEP: usize = 4_000;

/// A step that can be undone or done again.
#[derive(Debug, Clone)]
pub struct Step {
    /// Number within the job.
    pub number: i64,
    /// What undoes it, or does it again.
    pub command: Command,
}

/// What a change does to the steps of a job.
#[derive(Debug, Clone)]
pub enum StepChange<'a> {
    /// A new step; steps waiting to be done again are given up. Joined to the last one where the gesture goes on.
    New {
        /// What takes it back.
        inverse: &'a Command,
        /// The gesture it belongs to.
        gesture: Option<&'a str>,
    },
    /// A step was undone or done again.
    Mark {
        /// Which.
        number: i64,
        /// Undone or done again.
        undone: bool,
        /// What takes that back.
        back: &'a Command,
    },
}

/// A whole state of an earlier moment.
#[derive(Debug, Clone, Queryable)]
pub struct StateRow {
    /// The revision it had.
    pub revision: i64,
    /// When it was kept, in milliseconds since 1970 UTC.
    pub kept_at: i64,
}

fn text(command: &Command) -> Result<String, StoreError> {
    serde_json::to_string(command).map_err(|error| StoreError::Database(error.to_string()))
}

fn command(text: &str) -> Result<Command, StoreError> {
    serde_json::from_str(text)
        .map_err(|error| StoreError::Database(format!("a step of the history is damaged: {error}")))
}

impl Store {
    /// Whether there is something to undo, and something to do again. No step is read.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn can_step(&self, id: &JobId) -> Result<(bool, bool), StoreError> {
        let mut connection = self.read()?;
        let mut any = |undone: bool| {
            let of_job = steps::table.filter(steps::job_id.eq(id.as_str())).filter(steps::undone.eq(undone));
            diesel::select(exists(of_job)).get_result(&mut *connection)
        };
        Ok((any(false)?, any(true)?))
    }

    /// The step that would be undone (`undone` false) or done again (true) next.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails or the step cannot be read.
    pub fn next_step(&self, id: &JobId, undone: bool) -> Result<Option<Step>, StoreError> {
        let of_job = steps::table.filter(steps::job_id.eq(id.as_str())).filter(steps::undone.eq(undone)).into_boxed();
        let ordered = if undone { of_job.order(steps::number.asc()) } else { of_job.order(steps::number.desc()) };
        let mut connection = self.read()?;
        let row: Option<(i64, Option<String>)> = if undone {
            ordered.select((steps::number, steps::forward)).first(&mut *connection).optional()?
        } else {
            let row: Option<(i64, String)> =
                ordered.select((steps::number, steps::inverse)).first(&mut *connection).optional()?;
            row.map(|(number, text)| (number, Some(text)))
        };
        row.map(|(number, text)| Ok(Step { number, command: command(&text.unwrap_or_default())? })).transpose()
    }

    /// The whole states kept of a job, newest first.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn states(&self, id: &JobId) -> Result<Vec<StateRow>, StoreError> {
        let rows = states::table.filter(states::job_id.eq(id.as_str())).order(states::revision.desc());
        Ok(rows.select((states::revision, states::kept_at)).load(&mut *self.read()?)?)
    }

    /// A whole state kept of a job.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails or the state cannot be read.
    pub fn state(&self, id: &JobId, revision: i64) -> Result<Option<Job>, StoreError> {
        let row: Option<String> = states::table
            .find((id.as_str(), revision))
            .select(states::document)
            .first(&mut *self.read()?)
            .optional()?;
        Ok(row.map(|document| read_job(&document)).transpose()?)
    }
}

/// Writes a step; whether a whole state should be kept beside it.
pub(super) fn write_step(
    connection: &mut SqliteConnection,
    id: &str,
    step: &StepChange<'_>,
    now: i64,
) -> Result<bool, StoreError> {
    match step {
        StepChange::Mark { number, undone, back } => {
            let target = steps::table.find((id, number));
            let back = text(back)?;
            if *undone {
                diesel::update(target).set((steps::undone.eq(true), steps::forward.eq(back))).execute(connection)?;
            } else {
                diesel::update(target).set((steps::undone.eq(false), steps::inverse.eq(back))).execute(connection)?;
            }
            Ok(false)
        }
        StepChange::New { inverse, gesture } => {
            diesel::delete(steps::table.filter(steps::job_id.eq(id)).filter(steps::undone.eq(true)))
                .execute(connection)?;
            new_step(connection, id, inverse, *gesture, now)
        }
    }
}

fn new_step(
    connection: &mut SqliteConnection,
    id: &str,
    inverse: &Command,
    gesture: Option<&str>,
    now: i64,
) -> Result<bool, StoreError> {
    let last: Option<(i64, Option<String>)> = steps::table
        .filter(steps::job_id.eq(id))
        .order(steps::number.desc())
        .select((steps::number, steps::gesture))
        .first(connection)
        .optional()?;
    if let (Some((number, Some(before))), Some(gesture)) = (&last, gesture)
        && before == gesture
    {
        let step = steps::table.find((id, number));
        let earlier: String = step.select(steps::inverse).first(connection)?;
        let joined = command(&earlier)?.taking_back_also(inverse.clone());
        if joined.count() <= LONGEST_STEP {
            diesel::update(step).set(steps::inverse.eq(text(&joined)?)).execute(connection)?;
            return Ok(false);
        }
    }
    let number = last.map_or(1, |(number, _)| number + 1);
    let values = (
        steps::job_id.eq(id),
        steps::number.eq(number),
        steps::gesture.eq(gesture),
        steps::inverse.eq(text(inverse)?),
        steps::undone.eq(false),
        steps::made_at.eq(now),
    );
    diesel::insert_into(steps::table).values(values).execute(connection)?;
    // The oldest steps go; what they led away from stays within reach as whole states.
    let old = steps::table.filter(steps::job_id.eq(id)).filter(steps::number.le(number - STEPS));
    diesel::delete(old).execute(connection)?;
    // A job kept by an older program may have none yet.
    let first =
        states::table.filter(states::job_id.eq(id)).select(states::revision).first::<i64>(connection).optional()?;
    Ok(number % STATE_EVERY == 0 || EARLY.contains(&number) || first.is_none())
}

/// Keeps a whole state; of those there are, the newest stay.
pub(super) fn keep_state(
    connection: &mut SqliteConnection,
    id: &str,
    revision: i64,
    now: i64,
    document: &str,
) -> Result<(), StoreError> {
    let values =
        (states::job_id.eq(id), states::revision.eq(revision), states::kept_at.eq(now), states::document.eq(document));
    diesel::replace_into(states::table).values(values).execute(connection)?;
    let surplus: Option<i64> = states::table
        .filter(states::job_id.eq(id))
        .order(states::revision.desc())
        .offset(STATES)
        .select(states::revision)
        .first(connection)
        .optional()?;
    if let Some(oldest) = surplus {
        let old = states::table.filter(states::job_id.eq(id)).filter(states::revision.le(oldest));
        diesel::delete(old).execute(connection)?;
    }
    Ok(())
}
