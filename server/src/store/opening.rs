//! Finding the data file, guarding it against a second server, and bringing it up to date with a way back.

use std::fs::{File, TryLockError};
use std::path::Path;

use diesel::connection::SimpleConnection as _;
use diesel::migration::{Migration as _, MigrationSource as _, MigrationVersion};
use diesel::prelude::*;
use diesel::r2d2::{ConnectionManager, CustomizeConnection, Pool};
use diesel::sqlite::Sqlite;
use diesel_migrations::{EmbeddedMigrations, MigrationHarness as _, embed_migrations};

use crate::store::{Connections, Store, StoreError};

const MIGRATIONS: EmbeddedMigrations = embed_migrations!("migrations");
/// The data file in its folder.
pub(crate) const DATA_FILE: &str = "vatman.sqlite";
/// Connections that read at the same time.
const READERS: u32 = 3;

/// Held as long as a server uses a data folder.
#[derive(Debug)]
pub struct FolderLock(#[allow(dead_code, reason = "what counts is that it is open")] File);

/// Every connection is set up alike. FULL: what has been acknowledged is on the disk.
#[derive(Debug)]
struct SetUp;

const SET_UP: &str =
    "PRAGMA busy_timeout=5000; PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON;";

impl CustomizeConnection<SqliteConnection, diesel::r2d2::Error> for SetUp {
    fn on_acquire(&self, connection: &mut SqliteConnection) -> Result<(), diesel::r2d2::Error> {
        connection.batch_execute(SET_UP).map_err(diesel::r2d2::Error::QueryError)
    }
}

fn folder(path: &Path, why: impl std::fmt::Display) -> StoreError {
    StoreError::Folder(path.display().to_string(), format!("{why}. Choose another with \u{201c}--data\u{201d}."))
}

impl Store {
    /// Opens or makes the data file in a folder and brings it up to date. What was there is copied beside it before that.
    ///
    /// # Errors
    /// [`StoreError`] where the folder or the file cannot be used; then nothing has changed.
    pub fn open(path: &Path) -> Result<Self, StoreError> {
        make_folder(path)?;
        let file = path.join(DATA_FILE);
        if file.is_dir() {
            return Err(folder(path, format!("{DATA_FILE} in it is a folder, not a file")));
        }
        let there = file.exists();
        let mut connection =
            SqliteConnection::establish(&file.to_string_lossy()).map_err(|error| folder(path, error))?;
        connection.batch_execute(SET_UP).map_err(|error| opening(path, &error))?;
        if there {
            refuse_newer(&mut connection, &file)?;
            back_up(&mut connection, &file)?;
        }
        connection.run_pending_migrations(MIGRATIONS).map_err(|error| StoreError::Database(error.to_string()))?;
        drop(connection);
        Ok(Self { folder: path.to_owned(), readers: pool(&file, READERS)?, writer: pool(&file, 1)? })
    }

    /// Opens the data file of a folder that a running server holds, to read from.
    ///
    /// # Errors
    /// [`StoreError`] where the file cannot be used, or is not of this version of the program; then nothing has changed.
    pub fn open_beside(path: &Path) -> Result<Self, StoreError> {
        let file = path.join(DATA_FILE);
        let mut connection =
            SqliteConnection::establish(&file.to_string_lossy()).map_err(|error| folder(path, error))?;
        connection.batch_execute(SET_UP).map_err(|error| opening(path, &error))?;
        refuse_newer(&mut connection, &file)?;
        if connection.has_pending_migration(MIGRATIONS).unwrap_or(true) {
            return Err(StoreError::Older(path.display().to_string()));
        }
        Ok(Self { folder: path.to_owned(), readers: pool(&file, READERS)?, writer: pool(&file, 1)? })
    }

    /// Takes a data folder for a server, until the lock is dropped or the process ends.
    ///
    /// # Errors
    /// [`StoreError::Taken`] where another server has it.
    pub fn lock(path: &Path) -> Result<FolderLock, StoreError> {
        make_folder(path)?;
        let file = File::options().create(true).truncate(false).write(true).open(path.join("vatman.lock"));
        let file = file.map_err(|error| folder(path, error))?;
        match file.try_lock() {
            Ok(()) => Ok(FolderLock(file)),
            Err(TryLockError::WouldBlock) => Err(StoreError::Taken(path.display().to_string())),
            Err(TryLockError::Error(error)) => Err(folder(path, error)),
        }
    }
}

fn make_folder(path: &Path) -> Result<(), StoreError> {
    if path.exists() && !path.is_dir() {
        return Err(folder(path, "it is a file, not a folder"));
    }
    std::fs::create_dir_all(path).map_err(|error| folder(path, error))
}

fn opening(path: &Path, error: &diesel::result::Error) -> StoreError {
    let text = error.to_string();
    if text.contains("not a database") || text.contains("malformed") {
        let file = path.join(DATA_FILE);
        return StoreError::Database(format!(
            "{} is damaged ({text}). Put a copy of it in its place, or start with another folder",
            file.display()
        ));
    }
    if text.contains("readonly") || text.contains("unable to open") {
        return folder(path, "it cannot be written to");
    }
    StoreError::Database(text)
}

fn pool(file: &Path, size: u32) -> Result<Connections, StoreError> {
    Pool::builder()
        .max_size(size)
        .connection_customizer(Box::new(SetUp))
        .build(ConnectionManager::new(file.to_string_lossy()))
        .map_err(|error| StoreError::Database(error.to_string()))
}

fn known() -> Result<Vec<MigrationVersion<'static>>, StoreError> {
    let all: Vec<Box<dyn diesel::migration::Migration<Sqlite>>> =
        MIGRATIONS.migrations().map_err(|error| StoreError::Database(error.to_string()))?;
    Ok(all.iter().map(|migration| migration.name().version().as_owned()).collect())
}

/// A file with a step this program does not know is left alone.
fn refuse_newer(connection: &mut SqliteConnection, file: &Path) -> Result<(), StoreError> {
    let known = known()?;
    // A file without the table of steps is new or foreign, and gets them all.
    let applied = connection.applied_migrations().map_err(|error| StoreError::Database(error.to_string()))?;
    if applied.iter().all(|version| known.contains(version)) {
        Ok(())
    } else {
        Err(StoreError::Newer(file.display().to_string()))
    }
}

/// Copies the file as it is, under the number of the last step it has, where steps are to follow.
fn back_up(connection: &mut SqliteConnection, file: &Path) -> Result<(), StoreError> {
    let fail = |error: &dyn std::fmt::Display| {
        StoreError::Database(format!("it could not be copied before the upgrade: {error}"))
    };
    let pending = connection.has_pending_migration(MIGRATIONS).map_err(|error| fail(&error))?;
    let applied = connection.applied_migrations().map_err(|error| fail(&error))?;
    let Some(last) = applied.iter().max().filter(|_| pending) else { return Ok(()) };
    let copy = file.with_extension(format!("before-{last}.sqlite"));
    if copy.exists() {
        // The first copy is the one of before; it is never written over.
        return Ok(());
    }
    diesel::sql_query("VACUUM INTO ?")
        .bind::<diesel::sql_types::Text, _>(copy.to_string_lossy().into_owned())
        .execute(connection)
        .map_err(|error| fail(&error))?;
    Ok(())
}
