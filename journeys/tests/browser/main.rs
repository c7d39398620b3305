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

use std::path::Path;

/// One browser at a time: two would only wait for each other.
static TURN: tokio::sync::Mutex<()> = tokio::sync::Mutex::const_new(());

fn program() -> &'static Path {
    Path::new(env!("CARGO_BIN_EXE_vatman_under_test"))
}
