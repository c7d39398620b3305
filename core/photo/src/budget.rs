//! Memory for unpacking pictures, shared by everyone who unpacks.

use std::sync::{Condvar, Mutex, PoisonError};

/// So many bytes for unpacking at the same time; who asks for more than is left waits.
#[derive(Debug)]
pub struct DecodeBudget {
    left: Mutex<u64>,
    whole: u64,
    freed: Condvar,
}

/// A share of the budget, given back when dropped.
#[derive(Debug)]
pub struct Share<'a> {
    budget: &'a DecodeBudget,
    bytes: u64,
}

impl DecodeBudget {
    /// A budget of so many bytes.
    #[must_use]
    pub const fn new(bytes: u64) -> Self {
        Self { left: Mutex::new(bytes), whole: bytes, freed: Condvar::new() }
    }

    /// Takes a share, once there is enough left. More than the whole budget is given alone.
    pub fn take(&self, bytes: u64) -> Share<'_> {
        let bytes = bytes.min(self.whole);
        let mut left = self.left.lock().unwrap_or_else(PoisonError::into_inner);
        while *left < bytes {
            left = self.freed.wait(left).unwrap_or_else(PoisonError::into_inner);
        }
        *left -= bytes;
        Share { budget: self, bytes }
    }
}

impl Drop for Share<'_> {
    fn drop(&mut self) {
        *self.budget.left.lock().unwrap_or_else(PoisonError::into_inner) += self.bytes;
        self.budget.freed.notify_all();
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::sync::Arc;
    use std::sync::atomic::{AtomicU64, Ordering};

    #[test]
    fn no_more_than_the_budget_is_out_at_any_time() {
        let budget = Arc::new(DecodeBudget::new(100));
        let (out, most) = (Arc::new(AtomicU64::new(0)), Arc::new(AtomicU64::new(0)));
        let workers: Vec<_> = (0..6_u64)
            .map(|n| {
                let (budget, out, most) = (Arc::clone(&budget), Arc::clone(&out), Arc::clone(&most));
                std::thread::spawn(move || {
                    for round in 0..40 {
                        let wanted = 10 + (n * 17 + round * 7) % 120;
                        let share = budget.take(wanted);
                        let now = out.fetch_add(wanted.min(100), Ordering::SeqCst) + wanted.min(100);
                        most.fetch_max(now, Ordering::SeqCst);
                        std::thread::yield_now();
                        out.fetch_sub(wanted.min(100), Ordering::SeqCst);
                        drop(share);
                    }
                })
            })
            .collect();
        workers.into_iter().for_each(|worker| worker.join().unwrap());
        assert!(most.load(Ordering::SeqCst) <= 100, "{most:?}");
        assert_eq!(*budget.left.lock().unwrap(), 100);
    }
}
