//! Work that takes longer than a moment: queued, bounded to the cores, with progress, cancel, and results kept until they are fetched.

use std::collections::{BTreeMap, VecDeque};
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};
use std::sync::{Arc, Condvar, Mutex, MutexGuard, PoisonError};

use serde::Serialize;
use ts_rs::TS;

use crate::clock::now;
use crate::events::{Event, Events};
use crate::lanes::stand_behind;
use crate::problem::Problem;

/// Results that are kept at most.
const KEPT: usize = 24;
/// How long a result waits to be fetched, in milliseconds.
const KEPT_FOR: i64 = 30 * 60 * 1_000;
/// Work that may wait.
const QUEUE: usize = 64;

/// How far work has come.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "camelCase", tag = "is")]
pub enum WorkState {
    /// It waits for others.
    Waiting,
    /// It goes on.
    Running,
    /// It is done and its result waits.
    Done,
    /// It was given up.
    Cancelled,
    /// It could not be done.
    Failed {
        /// Why.
        says: String,
    },
}

/// Work as it is shown.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct WorkCard {
    /// Its identity.
    pub id: String,
    /// How far it is.
    pub state: WorkState,
    /// Parts done.
    pub done: usize,
    /// Parts in all.
    pub of: usize,
}

/// Given to work while it goes on: tells how far it is, and whether it is still wanted.
pub struct Progress {
    id: String,
    cancelled: AtomicBool,
    done: AtomicUsize,
    of: AtomicUsize,
    inner: Arc<Inner>,
}

impl Progress {
    /// Whether it was given up; work looks between its parts.
    #[must_use]
    pub fn is_cancelled(&self) -> bool {
        self.cancelled.load(Ordering::Relaxed)
    }

    /// How many parts it has.
    pub fn of(&self, count: usize) {
        self.of.store(count, Ordering::Relaxed);
        self.tell();
    }

    /// One more part is done.
    ///
    /// # Errors
    /// [`Problem`] where it was given up.
    pub fn step(&self) -> Result<(), Problem> {
        self.done.fetch_add(1, Ordering::Relaxed);
        self.tell();
        self.go_on()
    }

    /// Ends the work where it was given up.
    ///
    /// # Errors
    /// [`Problem`] then.
    pub fn go_on(&self) -> Result<(), Problem> {
        if self.is_cancelled() { Err(Problem::cancelled()) } else { Ok(()) }
    }

    fn tell(&self) {
        if let Some(card) = self.inner.card(&self.id) {
            self.inner.events.send(Event::Work { work: card });
        }
    }
}

type Outcome = Arc<dyn std::any::Any + Send + Sync>;

struct Entry {
    progress: Arc<Progress>,
    state: WorkState,
    result: Option<Outcome>,
    ended_at: i64,
}

struct Inner {
    entries: Mutex<BTreeMap<String, Entry>>,
    queue: Mutex<VecDeque<Task>>,
    wake: Condvar,
    events: Events,
    closing: AtomicBool,
}

type Task = (Arc<Progress>, Box<dyn FnOnce(&Progress) -> Result<Outcome, Problem> + Send>);

fn locked<T>(mutex: &Mutex<T>) -> MutexGuard<'_, T> {
    mutex.lock().unwrap_or_else(PoisonError::into_inner)
}

impl Inner {
    fn card(&self, id: &str) -> Option<WorkCard> {
        let entries = locked(&self.entries);
        let entry = entries.get(id)?;
        Some(WorkCard {
            id: id.to_owned(),
            state: entry.state.clone(),
            done: entry.progress.done.load(Ordering::Relaxed),
            of: entry.progress.of.load(Ordering::Relaxed),
        })
    }

    fn set(&self, id: &str, state: WorkState, result: Option<Outcome>) {
        if let Some(entry) = locked(&self.entries).get_mut(id) {
            entry.state = state;
            entry.result = result;
            entry.ended_at = now();
        }
        if let Some(card) = self.card(id) {
            self.events.send(Event::Work { work: card });
        }
    }

    fn run(&self) {
        loop {
            let task = {
                let mut queue = locked(&self.queue);
                loop {
                    if self.closing.load(Ordering::Relaxed) {
                        return;
                    }
                    if let Some(task) = queue.pop_front() {
                        break task;
                    }
                    queue = self.wake.wait(queue).unwrap_or_else(PoisonError::into_inner);
                }
            };
            let (progress, work) = task;
            if progress.is_cancelled() {
                continue;
            }
            self.set(&progress.id, WorkState::Running, None);
            // A fault in one piece of work must not take the others with it.
            let outcome = std::panic::catch_unwind(std::panic::AssertUnwindSafe(|| work(&progress)))
                .unwrap_or_else(|_| Err(Problem::internal(&"work in the background ended in a fault")));
            match outcome {
                _ if progress.is_cancelled() => self.set(&progress.id, WorkState::Cancelled, None),
                Ok(result) => self.set(&progress.id, WorkState::Done, Some(result)),
                Err(problem) => self.set(&progress.id, WorkState::Failed { says: problem.detail }, None),
            }
        }
    }
}

/// The work of a server.
pub struct Works(Arc<Inner>);

impl Works {
    /// Starts as many workers as there are cores, at most four.
    #[must_use]
    pub fn new(events: Events) -> Self {
        let inner = Arc::new(Inner {
            entries: Mutex::default(),
            queue: Mutex::default(),
            wake: Condvar::new(),
            events,
            closing: AtomicBool::new(false),
        });
        let cores = std::thread::available_parallelism().map_or(1, std::num::NonZero::get).min(4);
        for _ in 0..cores {
            let inner = Arc::clone(&inner);
            std::thread::spawn(move || {
                stand_behind();
                inner.run();
            });
        }
        Self(inner)
    }

    /// Queues work; its card.
    ///
    /// # Errors
    /// [`Problem`] where too much waits already.
    pub fn start<T: Send + Sync + 'static>(
        &self,
        id: &str,
        work: impl FnOnce(&Progress) -> Result<T, Problem> + Send + 'static,
    ) -> Result<WorkCard, Problem> {
        self.let_go();
        let mut queue = locked(&self.0.queue);
        if queue.len() >= QUEUE {
            return Err(Problem::busy());
        }
        let progress = Arc::new(Progress {
            id: id.to_owned(),
            cancelled: AtomicBool::new(false),
            done: AtomicUsize::new(0),
            of: AtomicUsize::new(0),
            inner: Arc::clone(&self.0),
        });
        let entry = Entry { progress: Arc::clone(&progress), state: WorkState::Waiting, result: None, ended_at: now() };
        locked(&self.0.entries).insert(id.to_owned(), entry);
        queue.push_back((progress, Box::new(move |progress| work(progress).map(|result| Arc::new(result) as Outcome))));
        drop(queue);
        self.0.wake.notify_one();
        self.card(id)
    }

    /// Lets go of the oldest results nobody fetched.
    fn let_go(&self) {
        let mut entries = locked(&self.0.entries);
        let ended = |entry: &Entry| !matches!(entry.state, WorkState::Waiting | WorkState::Running);
        let old = now() - KEPT_FOR;
        entries.retain(|_, entry| !ended(entry) || entry.ended_at > old);
        while entries.values().filter(|entry| ended(entry)).count() > KEPT {
            let oldest = entries.iter().filter(|(_, entry)| ended(entry)).min_by_key(|(_, entry)| entry.ended_at);
            let Some(id) = oldest.map(|(id, _)| id.clone()) else { break };
            entries.remove(&id);
        }
    }

    /// How far work is.
    ///
    /// # Errors
    /// [`Problem`] where it is not known any more.
    pub fn card(&self, id: &str) -> Result<WorkCard, Problem> {
        self.0.card(id).ok_or_else(unknown)
    }

    /// Gives work up.
    ///
    /// # Errors
    /// [`Problem`] where it is not known any more.
    pub fn cancel(&self, id: &str) -> Result<(), Problem> {
        let waiting = {
            let entries = locked(&self.0.entries);
            let entry = entries.get(id).ok_or_else(unknown)?;
            entry.progress.cancelled.store(true, Ordering::Relaxed);
            entry.state == WorkState::Waiting
        };
        if waiting {
            self.0.set(id, WorkState::Cancelled, None);
        }
        Ok(())
    }

    /// The result of work that is done.
    ///
    /// # Errors
    /// [`Problem`] where it is not known, not done, or of another kind.
    pub fn result<T: Send + Sync + 'static>(&self, id: &str) -> Result<Arc<T>, Problem> {
        let entries = locked(&self.0.entries);
        let entry = entries.get(id).ok_or_else(unknown)?;
        let result = entry
            .result
            .clone()
            .ok_or_else(|| Problem::value("This is not done yet. Wait for it, or start it again."))?;
        result.downcast().map_err(|_| unknown())
    }
}

fn unknown() -> Problem {
    Problem::not_found("This was done a while ago and has been let go of. Start it again.")
}

impl Drop for Works {
    fn drop(&mut self) {
        self.0.closing.store(true, Ordering::Relaxed);
        for entry in locked(&self.0.entries).values() {
            entry.progress.cancelled.store(true, Ordering::Relaxed);
        }
        self.0.wake.notify_all();
    }
}
