//! Handing over: the files of a piece and their names.

pub(crate) mod contact_sheet;
pub(crate) mod files;
pub(crate) mod language;
pub(crate) mod naming;
pub(crate) mod state;

pub(crate) use language::language_of;

pub use contact_sheet::ContactSheet;
pub use files::{FileKind, HandOver, HandOverError, Names, OutputFile, usual, write_file, write_for_place, zip_files};
pub use naming::{FileParts, NamePattern, PatternError, file_name, slug};
pub use state::state_key;
