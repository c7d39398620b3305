//! The Vatman server: jobs in SQLite, the HTTP interface, and the command line.

mod acts;
pub mod api;
pub mod cli;
mod demo;
mod fonts;
mod guard;
mod problem;
mod shipped;
mod store;
pub mod types;
pub mod typescript;
mod workshop;

pub use problem::Problem;
pub use shipped::{Shipped, shipped_library};
pub use store::Store;
pub use workshop::Workshop;
