//! Handing over: the files of a piece and their names.

pub(crate) mod files;
pub(crate) mod language;
pub(crate) mod naming;
pub(crate) mod state;

pub use files::{FileKind, HandOver, HandOverError, OutputFile, write_file, zip_files};
pub use naming::{file_name, slug};
pub use state::state_key;
