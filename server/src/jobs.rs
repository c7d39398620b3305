//! The jobs that are open: read once, changed one act at a time each, and never put back to an older state in memory.

use std::collections::{BTreeMap, HashMap, VecDeque};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

use vatman_document::{Job, JobId};

use crate::clock::now;
use crate::events::{Event, Events};
use crate::problem::Problem;
use crate::store::{StepChange, Store, StoreError};
use crate::types::{JobCard, StateCard};

/// Jobs held in memory; the ones used longest ago are read again when they are wanted.
const HELD: usize = 40;
/// Earlier states of a held job that windows can be brought up to date from.
const PAST: usize = 24;

/// A job at a revision.
#[derive(Debug, Clone)]
pub struct Held {
    /// The job.
    pub job: Arc<Job>,
    /// Its revision.
    pub revision: i64,
    /// When it was last kept.
    pub kept_at: i64,
    /// Whether something can be undone, and done again.
    pub can_step: (bool, bool),
}

#[derive(Default)]
struct Memory {
    now: Option<Held>,
    /// Earlier states, oldest first.
    past: VecDeque<(i64, Arc<Job>)>,
    used: u64,
}

/// One job: what is held of it, and the lock under which it is changed.
#[derive(Default)]
struct Slot {
    acting: Mutex<()>,
    memory: Mutex<Memory>,
}

fn locked<T>(mutex: &Mutex<T>) -> MutexGuard<'_, T> {
    mutex.lock().unwrap_or_else(PoisonError::into_inner)
}

/// All jobs of a data file.
pub struct Jobs {
    store: Arc<Store>,
    events: Events,
    slots: Mutex<HashMap<JobId, Arc<Slot>>>,
    /// Jobs that could not be read, and why.
    damaged: Mutex<BTreeMap<JobId, String>>,
    clock: Mutex<u64>,
}

impl Jobs {
    /// The jobs of a data file.
    #[must_use]
    pub fn new(store: Arc<Store>, events: Events) -> Self {
        Self { store, events, slots: Mutex::default(), damaged: Mutex::default(), clock: Mutex::default() }
    }

    fn slot(&self, id: &JobId) -> Arc<Slot> {
        let mut slots = locked(&self.slots);
        if !slots.contains_key(id) && slots.len() >= HELD {
            // Who is in the middle of an act holds its slot besides this list.
            let idle = slots.iter().filter(|(_, slot)| Arc::strong_count(slot) == 1);
            let oldest = idle.min_by_key(|(_, slot)| locked(&slot.memory).used).map(|(id, _)| id.clone());
            oldest.and_then(|oldest| slots.remove(&oldest));
        }
        Arc::clone(slots.entry(id.clone()).or_default())
    }

    fn tick(&self) -> u64 {
        let mut clock = locked(&self.clock);
        *clock += 1;
        *clock
    }

    fn load_into(&self, slot: &Slot, id: &JobId) -> Result<Held, Problem> {
        let tick = self.tick();
        {
            let mut memory = locked(&slot.memory);
            memory.used = tick;
            if let Some(held) = &memory.now {
                return Ok(held.clone());
            }
        }
        let kept = match self.store.job(id) {
            Ok(Some(kept)) => kept,
            Ok(None) => return Err(Problem::not_found("There is no such job; it may have been removed.")),
            Err(error) => {
                self.mark(id, &error);
                return Err(error.into());
            }
        };
        let can_step = self.store.can_step(id)?;
        let held = Held { job: Arc::new(kept.job), revision: kept.revision, kept_at: kept.kept_at, can_step };
        hold(slot, held.clone());
        Ok(held)
    }

    /// Marks a job that cannot be read.
    fn mark(&self, id: &JobId, error: &StoreError) {
        let why = match error {
            StoreError::Stored(why) => why.to_string(),
            StoreError::Damaged(_) => error.to_string(),
            _ => return,
        };
        if locked(&self.damaged).insert(id.clone(), why).is_none() {
            self.events.send(Event::Board);
        }
    }

    /// Reads every job once, so that those that are damaged are marked before somebody needs them.
    ///
    /// # Errors
    /// A problem where the board cannot be read.
    pub fn look_through(&self) -> Result<(), Problem> {
        for id in self.store.jobs()?.into_iter().filter_map(|row| JobId::new(row.id).ok()) {
            if let Err(error) = self.store.job(&id) {
                self.mark(&id, &error);
            }
        }
        Ok(())
    }

    /// A job as it is now.
    ///
    /// # Errors
    /// A problem where it is not there or cannot be read.
    pub fn load(&self, id: &JobId) -> Result<Held, Problem> {
        self.load_into(&self.slot(id), id)
    }

    /// A job as it was at a revision, if that is still in memory.
    #[must_use]
    pub fn past(&self, id: &JobId, revision: i64) -> Option<Arc<Job>> {
        let slot = self.slot(id);
        let memory = locked(&slot.memory);
        memory.past.iter().find(|(at, _)| *at == revision).map(|(_, job)| Arc::clone(job))
    }

    /// Lets go of a job held in memory, so that it is read again.
    pub fn forget(&self, id: &JobId) {
        let slot = self.slot(id);
        *locked(&slot.memory) = Memory::default();
    }

    /// Does something to a job. `work` is given the job as it is and says what it becomes. It holds nobody up: what it leads to is kept
    /// only where the job is still the one it was given.
    ///
    /// # Errors
    /// A problem where it is not there, somebody changed it meanwhile, or the change cannot be kept; then it is as it was.
    pub fn change<T>(
        &self,
        id: &JobId,
        work: impl FnOnce(&Held) -> Result<(Change, T), Problem>,
    ) -> Result<(Held, Held, T), Problem> {
        let slot = self.slot(id);
        let old = self.load_into(&slot, id)?;
        let (change, more) = work(&old)?;
        let _one_at_a_time = locked(&slot.acting);
        let current = self.load_into(&slot, id)?.revision;
        if current != old.revision {
            return Err(Problem::stale(current));
        }
        let kept_at = now();
        let kept = self.store.keep(&old.job, &change.job, old.revision, &change.step(), kept_at);
        let revision = match kept {
            Ok(revision) => revision,
            Err(StoreError::Stale) => {
                // Another program wrote to the same file: look again.
                *locked(&slot.memory) = Memory::default();
                return Err(Problem::stale(self.load_into(&slot, id)?.revision));
            }
            Err(error) => return Err(error.into()),
        };
        let can_step = match change.mark {
            None => (true, false),
            Some(_) => self.store.can_step(id)?,
        };
        let new = Held { job: Arc::new(change.job), revision, kept_at, can_step };
        hold(&slot, new.clone());
        self.events.send(Event::Job { job: id.clone(), revision });
        Ok((old, new, more))
    }

    /// The step that would be undone (`again` false) or done again (true) next.
    ///
    /// # Errors
    /// A problem where the file fails or the step cannot be read.
    pub fn next_step(&self, id: &JobId, again: bool) -> Result<Option<crate::store::Step>, Problem> {
        Ok(self.store.next_step(id, again)?)
    }

    /// The jobs on the board, told from their rows alone.
    ///
    /// # Errors
    /// A problem where the file fails.
    pub fn board(&self) -> Result<Vec<JobCard>, Problem> {
        let damaged = locked(&self.damaged).clone();
        let card = |row: crate::store::JobRow| JobCard {
            damaged: JobId::new(row.id.clone())
                .ok()
                .and_then(|id| damaged.get(&id).cloned())
                .or_else(|| (!row.sound).then(|| "Its row in the data file is damaged.".to_owned())),
            sheets: row.sheets(),
            id: row.id,
            title: row.title,
            revision: row.revision,
            changed_at: row.changed_at,
        };
        Ok(self.store.jobs()?.into_iter().map(card).collect())
    }

    /// Keeps a new job.
    ///
    /// # Errors
    /// A problem where it cannot be kept.
    pub fn insert(&self, job: &Job, at: i64) -> Result<(), Problem> {
        self.store.insert_job(job, at)?;
        self.events.send(Event::Board);
        Ok(())
    }

    /// Removes a job from the board, or brings it back.
    ///
    /// # Errors
    /// A problem where there is none, or the file fails.
    pub fn set_removed(&self, id: &JobId, removed: bool) -> Result<(), Problem> {
        let slot = self.slot(id);
        let _one_at_a_time = locked(&slot.acting);
        let found = self.store.set_removed(id, removed.then(now))?;
        *locked(&slot.memory) = Memory::default();
        self.events.send(Event::Board);
        if found { Ok(()) } else { Err(Problem::not_found("There is no such job.")) }
    }

    /// Earlier moments a job can be put back to, newest first.
    ///
    /// # Errors
    /// A problem where the file fails.
    pub fn states(&self, id: &JobId) -> Result<Vec<StateCard>, Problem> {
        let card = |row: crate::store::StateRow| StateCard { revision: row.revision, kept_at: row.kept_at };
        Ok(self.store.states(id)?.into_iter().map(card).collect())
    }

    /// Puts a job that cannot be read back to an earlier moment.
    ///
    /// # Errors
    /// A problem where the job can be read, or the moment was not kept; then nothing changes.
    pub fn put_back(&self, id: &JobId, revision: i64) -> Result<(), Problem> {
        let slot = self.slot(id);
        let _one_at_a_time = locked(&slot.acting);
        if self.load_into(&slot, id).is_ok() {
            return Err(Problem::value("This job can be read. Undo leads back step by step; nothing was changed."));
        }
        let job = self.store.state(id, revision)?;
        let job = job.ok_or_else(|| Problem::not_found("There is no such earlier state. Nothing was changed."))?;
        self.store.replace_job(&job, now())?;
        locked(&self.damaged).remove(id);
        *locked(&slot.memory) = Memory::default();
        self.events.send(Event::Board);
        Ok(())
    }

    /// The job file as it is kept, also where it cannot be read.
    ///
    /// # Errors
    /// A problem where there is none.
    pub fn document(&self, id: &JobId) -> Result<String, Problem> {
        let raw = self.store.raw_job(id)?.ok_or_else(|| Problem::not_found("There is no such job."))?;
        Ok(raw.text())
    }
}

/// Holds a state, unless a newer one is held already.
fn hold(slot: &Slot, held: Held) {
    let mut memory = locked(&slot.memory);
    if memory.now.as_ref().is_some_and(|now| now.revision > held.revision) {
        return;
    }
    memory.past.retain(|(revision, _)| *revision != held.revision);
    memory.past.push_back((held.revision, Arc::clone(&held.job)));
    while memory.past.len() > PAST {
        memory.past.pop_front();
    }
    memory.now = Some(held);
}

/// What a job becomes.
pub struct Change {
    /// The job as it will be.
    pub job: Job,
    /// What takes the change back.
    pub inverse: vatman_document::Command,
    /// The gesture it belongs to.
    pub gesture: Option<String>,
    /// Where it is a step of the history undone or done again: which, and whether undone.
    pub mark: Option<(i64, bool)>,
}

impl Change {
    fn step(&self) -> StepChange<'_> {
        match self.mark {
            Some((number, undone)) => StepChange::Mark { number, undone, back: &self.inverse },
            None => StepChange::New { inverse: &self.inverse, gesture: self.gesture.as_deref() },
        }
    }
}
