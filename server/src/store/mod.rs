//! Everything that must not be lost, in one SQLite file.
//!
//! `opening.rs` finds, guards and upgrades the file; `jobs.rs` keeps jobs in parts, `history.rs` their steps and earlier states,
//! `shelf.rs` pictures and fonts, `keeping.rs` what people keep for all
//! their jobs, `orders.rs` what was ordered at a print shop, `tidying.rs` lets go of what nobody wants any more. One connection writes, a few read; every call
//! is one short transaction.

mod history;
mod jobs;
mod keeping;
mod opening;
mod orders;
mod schema;
mod shelf;
mod tidying;

use diesel::connection::SimpleConnection as _;
use diesel::prelude::*;
use diesel::r2d2::{ConnectionManager, Pool, PooledConnection};
use diesel::result::Error as DbError;
use thiserror::Error;
use vatman_document::StoredError;

pub use history::{StateRow, Step, StepChange};
pub use jobs::{JobRow, SheetCard};
pub use keeping::HandedRow;
pub use opening::FolderLock;
pub use orders::{OrderRow, Printed};
pub use shelf::{Origin, PictureRow, StoredPictures};
pub use tidying::Tidied;

/// Why something could not be kept or read.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum StoreError {
    /// The disk is full.
    #[error(
        "The disk is full. Everything kept before is still there; this last change is not. Free some space and do it again."
    )]
    Full,
    /// The folder cannot be used.
    #[error("The data folder {0} cannot be used: {1}")]
    Folder(String, String),
    /// A program that came later wrote the file.
    #[error(
        "The data file {0} was kept by a later version of this program. Update the program, or use another folder; nothing was changed."
    )]
    Newer(String),
    /// A server of an older program has the file.
    #[error(
        "The data folder {0} is held by an older version of this program that is running. Stop that first; nothing was changed."
    )]
    Older(String),
    /// Another server has the folder.
    #[error(
        "Another Vatman is running on the data folder {0}. Use that one, or stop it first; two at once could lose work."
    )]
    Taken(String),
    /// A part of the file cannot be read.
    #[error(
        "The data file is damaged, and this cannot be read ({0}). What else is in it can be used. Stop the program, make a copy of the folder, and put back a copy of before if there is one."
    )]
    Damaged(String),
    /// The database failed.
    #[error("The data file could not be read or written: {0}.")]
    Database(String),
    /// A job in the file cannot be read.
    #[error(transparent)]
    Stored(#[from] StoredError),
    /// Another change came first.
    #[error("The job was changed in the meantime.")]
    Stale,
}

impl From<DbError> for StoreError {
    fn from(error: DbError) -> Self {
        let text = error.to_string();
        if text.contains("disk is full") {
            Self::Full
        } else if text.contains("malformed") || text.contains("not a database") {
            Self::Damaged(text)
        } else {
            Self::Database(text)
        }
    }
}

type Connections = Pool<ConnectionManager<SqliteConnection>>;
type Held = PooledConnection<ConnectionManager<SqliteConnection>>;

/// The data file.
pub struct Store {
    folder: std::path::PathBuf,
    readers: Connections,
    writer: Connections,
}

impl Store {
    /// The folder the data file is in.
    #[must_use]
    pub fn folder(&self) -> &std::path::Path {
        &self.folder
    }

    fn read(&self) -> Result<Held, StoreError> {
        self.readers.get().map_err(|error| StoreError::Database(error.to_string()))
    }

    fn write(&self) -> Result<Held, StoreError> {
        self.writer.get().map_err(|error| StoreError::Database(error.to_string()))
    }

    /// Carries out one transaction that writes. A failed write (a full disk, say) can end the transaction under the library's feet;
    /// what it then reports is not the reason, and the connection is replaced when it comes back to its pool.
    fn transaction<T>(
        &self,
        work: impl FnOnce(&mut SqliteConnection) -> Result<T, StoreError>,
    ) -> Result<T, StoreError> {
        let mut full = false;
        let outcome = self.write()?.immediate_transaction(|connection| {
            let outcome = work(connection);
            full = matches!(outcome, Err(StoreError::Full));
            outcome
        });
        if full { Err(StoreError::Full) } else { outcome }
    }

    /// Runs SQL on the writing connection, for tests of a full disk and the like.
    #[doc(hidden)]
    pub fn pragma(&self, sql: &str) -> Result<(), StoreError> {
        Ok(self.write()?.batch_execute(sql)?)
    }

    /// A setting of the writing connection, for tests.
    #[doc(hidden)]
    pub fn setting(&self, name: &str) -> Result<i64, StoreError> {
        #[derive(QueryableByName)]
        struct Setting {
            #[diesel(sql_type = diesel::sql_types::BigInt)]
            value: i64,
        }
        let sql = format!("SELECT * FROM pragma_{name}");
        let row: Setting =
            diesel::sql_query(sql.replace('*', &format!("{name} AS value"))).get_result(&mut *self.write()?)?;
        Ok(row.value)
    }
}
