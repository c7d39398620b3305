//! Threads for what people ask: acts and reads never wait for what takes long, and whoever asks for much does not hold up the others.
//!
//! What is handed to a lane runs on one of its threads. Those who ask take turns; what nobody waits for any more is not begun, and work
//! that looks at its [`Wanted`] ends early.

use std::collections::{HashMap, VecDeque};
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Condvar, Mutex, MutexGuard, PoisonError};

use tokio::sync::oneshot;

use crate::problem::Problem;

/// Who asks: a window, or whatever tells one apart from the others.
pub(crate) type Asker = u64;

/// How much less of the processor the threads of what takes long get, where others want it (`nice`).
const BEHIND: i32 = 10;

/// What waits, by who asked for it; they take turns.
struct Turns<T> {
    /// Whose turn is next; each once.
    order: VecDeque<Asker>,
    waiting: HashMap<Asker, VecDeque<T>>,
}

impl<T> Turns<T> {
    fn new() -> Self {
        Self { order: VecDeque::new(), waiting: HashMap::new() }
    }

    fn push(&mut self, asker: Asker, work: T) {
        let own = self.waiting.entry(asker).or_default();
        if own.is_empty() {
            self.order.push_back(asker);
        }
        own.push_back(work);
    }

    fn pop(&mut self) -> Option<T> {
        let asker = self.order.pop_front()?;
        let own = self.waiting.get_mut(&asker)?;
        let work = own.pop_front();
        if own.is_empty() {
            self.waiting.remove(&asker);
        } else {
            self.order.push_back(asker);
        }
        work
    }
}

/// Whether somebody still waits for work.
#[derive(Clone, Default)]
pub struct Wanted(Arc<AtomicBool>);

impl Wanted {
    /// Whether it is still worth going on.
    #[must_use]
    pub fn is_wanted(&self) -> bool {
        !self.0.load(Ordering::Relaxed)
    }
}

/// Tells work that who waited for it has gone: held by the one who waits.
struct Waiting(Wanted);

impl Drop for Waiting {
    fn drop(&mut self) {
        self.0.0.store(true, Ordering::Relaxed);
    }
}

type Work = Box<dyn FnOnce() + Send>;

struct Inner {
    turns: Mutex<Turns<(Wanted, Work)>>,
    wake: Condvar,
    closing: AtomicBool,
}

fn locked<T>(mutex: &Mutex<T>) -> MutexGuard<'_, T> {
    mutex.lock().unwrap_or_else(PoisonError::into_inner)
}

impl Inner {
    fn run(&self) {
        loop {
            let (wanted, work) = {
                let mut turns = locked(&self.turns);
                loop {
                    if self.closing.load(Ordering::Relaxed) {
                        return;
                    }
                    if let Some(next) = turns.pop() {
                        break next;
                    }
                    turns = self.wake.wait(turns).unwrap_or_else(PoisonError::into_inner);
                }
            };
            if wanted.is_wanted() {
                work();
            }
        }
    }
}

/// Threads with a queue.
pub(crate) struct Lane(Arc<Inner>);

impl Lane {
    /// So many threads.
    fn new(threads: usize, behind: bool) -> Self {
        let inner =
            Arc::new(Inner { turns: Mutex::new(Turns::new()), wake: Condvar::new(), closing: AtomicBool::new(false) });
        for _ in 0..threads {
            let inner = Arc::clone(&inner);
            std::thread::spawn(move || {
                if behind {
                    stand_behind();
                }
                inner.run();
            });
        }
        Self(inner)
    }

    /// Runs blocking work when its turn comes; it is told whether it is still wanted.
    pub(crate) async fn run<T: Send + 'static>(
        &self,
        asker: Asker,
        work: impl FnOnce(&Wanted) -> Result<T, Problem> + Send + 'static,
    ) -> Result<T, Problem> {
        let wanted = Wanted::default();
        let waiting = Waiting(wanted.clone());
        let (tell, told) = oneshot::channel();
        let given = wanted.clone();
        let work = move || {
            // A fault in one request must not take a thread from the others.
            let outcome = std::panic::catch_unwind(std::panic::AssertUnwindSafe(|| work(&given)))
                .unwrap_or_else(|_| Err(Problem::internal(&"a request ended in a fault")));
            let _ = tell.send(outcome);
        };
        locked(&self.0.turns).push(asker, (wanted, Box::new(work)));
        self.0.wake.notify_one();
        let outcome = told.await.map_err(|error| Problem::internal(&error))?;
        drop(waiting);
        outcome
    }
}

impl Drop for Lane {
    fn drop(&mut self) {
        self.0.closing.store(true, Ordering::Relaxed);
        self.0.wake.notify_all();
    }
}

/// Lets the others go first on this thread, and on what it starts.
pub(crate) fn stand_behind() {
    #[cfg(target_os = "linux")]
    {
        // On Linux a priority is a thread's own. Where it cannot be lowered, work is as it was.
        let _ = rustix::process::setpriority_process(Some(rustix::thread::gettid()), BEHIND);
    }
}

/// The lanes of a server.
pub(crate) struct Lanes {
    /// Acts, and what is read in a moment.
    pub(crate) quick: Lane,
    /// What is drawn or worked out.
    pub(crate) slow: Lane,
    /// Files by strangers, each in a process of its own.
    pub(crate) strangers: Lane,
}

impl Lanes {
    /// Acts wait for the disk, so there are more of them than cores; of what takes long there is one for each core.
    pub(crate) fn new() -> Self {
        let cores = std::thread::available_parallelism().map_or(2, std::num::NonZero::get).clamp(2, 8);
        Self { quick: Lane::new(4, false), slow: Lane::new(cores, true), strangers: Lane::new(cores, true) }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::time::Duration;

    #[test]
    fn those_who_ask_take_turns() {
        let mut turns = Turns::new();
        for at in 0..5 {
            turns.push(1, (1, at));
        }
        turns.push(2, (2, 0));
        turns.push(3, (3, 0));
        turns.push(2, (2, 1));
        let order: Vec<_> = std::iter::from_fn(|| turns.pop()).collect();
        assert_eq!(order, [(1, 0), (2, 0), (3, 0), (1, 1), (2, 1), (1, 2), (1, 3), (1, 4)]);
        assert!(turns.waiting.is_empty() && turns.order.is_empty());
    }

    #[actix_web::test]
    async fn what_nobody_waits_for_is_not_begun_and_a_fault_stays_alone() {
        let lane = Arc::new(Lane::new(1, false));
        let (go, held) = std::sync::mpsc::channel::<()>();
        let own = Arc::clone(&lane);
        let first = async move {
            let work = move |wanted: &Wanted| {
                held.recv().ok();
                Ok(wanted.is_wanted())
            };
            own.run(1, work).await
        };
        let (began, seen) = (Arc::new(AtomicBool::new(false)), Arc::new(AtomicBool::new(false)));
        let mark = Arc::clone(&began);
        let second = lane.run(1, move |_| {
            mark.store(true, Ordering::Relaxed);
            Ok(())
        });
        // Both are handed over; the second is let go of while it waits.
        let first = actix_web::rt::spawn(first);
        tokio::task::yield_now().await;
        let second = tokio::time::timeout(Duration::from_millis(50), second).await;
        assert!(second.is_err());
        go.send(()).unwrap();
        assert!(first.await.unwrap().unwrap());
        assert!(lane.run::<()>(1, |_| panic!("on purpose")).await.is_err());
        let mark = Arc::clone(&seen);
        lane.run(2, move |_| {
            mark.store(true, Ordering::Relaxed);
            Ok(())
        })
        .await
        .unwrap();
        assert!(!began.load(Ordering::Relaxed) && seen.load(Ordering::Relaxed));
    }
}
