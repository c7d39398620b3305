//! The Vatman server: jobs in SQLite, the HTTP interface, and the command line.
//!
//! [`Workshop`] puts the rooms together: `store/` keeps what must not be lost, `jobs.rs` holds open jobs, `acting/` changes them,
//! `staging.rs` shows them, `asking.rs` answers about them, `handing.rs` makes what leaves, `shelves.rs` is what stands at hand,
//! `keeping.rs` what people keep for all their jobs,
//! `lanes.rs` are the threads requests run on, `worker/` reads files by strangers in a process of its own, `work.rs` runs what takes a while, `events.rs` tells every window. `api/` is the HTTP interface over them, `door.rs` guards it.

mod about;
mod acting;
pub mod api;
mod asking;
pub mod cli;
mod clock;
mod cutting;
mod darkroom;
mod demo;
mod door;
mod events;
mod handing;
mod ids;
mod jobs;
mod keeping;
mod lanes;
mod ordering;
mod picture_tasks;
mod print_shop;
mod printing;
mod problem;
mod shelves;
mod shipped;
mod staging;
mod store;
mod survey;
pub mod types;
pub mod typescript;
mod word_lists;
mod work;
mod worker;
mod workshop;

pub use door::OWN_HEADER;
pub use events::Event;
pub use lanes::Wanted;
pub use problem::Problem;
pub use shipped::{Shipped, shipped_library};
pub use store::{Store, StoreError, Tidied};
pub use workshop::Workshop;
