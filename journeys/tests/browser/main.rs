//! The program as people meet it: the real interface in a headless browser, and the process itself.

#![allow(clippy::unwrap_used, clippy::print_stdout, reason = "a failed step is a failed test")]

mod access;
mod at_bench;
mod bench;
mod composing;
mod darkroom;
mod finishing;
mod hands;
mod journey;
mod presses;
mod printing;
mod process;
mod series;
mod sizes;
mod stage;
mod start;
mod still;
mod traps;
mod treated;

use std::path::Path;

use tokio::sync::{Semaphore, SemaphorePermit};

/// How many browsers there are at a time: most of what one does is wait.
const SEATS: u32 = 2;

/// Whose turn it is to drive a browser.
struct Turns(Semaphore);

static TURN: Turns = Turns(Semaphore::const_new(SEATS as usize));

impl Turns {
    async fn lock(&self) -> SemaphorePermit<'_> {
        self.0.acquire().await.unwrap()
    }

    /// With no other browser beside it: for what depends on how fast a hand is.
    async fn alone(&self) -> SemaphorePermit<'_> {
        self.0.acquire_many(SEATS).await.unwrap()
    }
}

fn program() -> &'static Path {
    Path::new(env!("CARGO_BIN_EXE_vatman_under_test"))
}
