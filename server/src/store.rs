//! Everything that must not be lost, in one SQLite file.

use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

use diesel::connection::{AnsiTransactionManager, SimpleConnection, TransactionManager};
use diesel::prelude::*;
use diesel::result::Error as DbError;
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};
use thiserror::Error;
use vatman_document::{AssetId, Command, Job, JobId, StoredError, read_job, write_job};
use vatman_photo::{PictureBytes, PictureInfo};
use vatman_type::OwnFace;

const MIGRATIONS: EmbeddedMigrations = embed_migrations!("migrations");

diesel::table! {
    jobs (id) {
        id -> Text,
        title -> Text,
        revision -> BigInt,
        document -> Text,
        created_at -> BigInt,
        changed_at -> BigInt,
        removed_at -> Nullable<BigInt>,
    }
}

diesel::table! {
    steps (job_id, number) {
        job_id -> Text,
        number -> BigInt,
        gesture -> Nullable<Text>,
        forward -> Text,
        inverse -> Text,
        undone -> Bool,
        made_at -> BigInt,
    }
}

diesel::table! {
    fonts (id) {
        id -> Text,
        family -> Text,
        weight -> Integer,
        italic -> Bool,
        bytes -> Binary,
        added_at -> BigInt,
    }
}

diesel::table! {
    pictures (id) {
        id -> Text,
        name -> Text,
        media_type -> Text,
        width -> Integer,
        height -> Integer,
        bytes -> Binary,
        sample -> Bool,
        added_at -> BigInt,
    }
}

/// Why something could not be kept or read.
#[derive(Debug, Error)]
pub enum StoreError {
    /// The disk is full.
    #[error("The disk is full. Everything kept before is still there; this last change is not. Free some space and do it again.")]
    Full,
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
        if text.contains("disk is full") { Self::Full } else { Self::Database(text) }
    }
}

/// A job in lists.
#[derive(Debug, Clone, Queryable)]
pub struct JobRow {
    /// Identity.
    pub id: String,
    /// Title.
    pub title: String,
    /// Revision.
    pub revision: i64,
    /// When it last changed, in milliseconds since 1970 UTC.
    pub changed_at: i64,
}

/// A picture in lists.
#[derive(Debug, Clone, Queryable)]
pub struct PictureRow {
    /// Identity.
    pub id: String,
    /// Name of the file it came from.
    pub name: String,
    /// Width in pixels.
    pub width: i32,
    /// Height in pixels.
    pub height: i32,
    /// Whether it shipped with the program.
    pub sample: bool,
}

/// A step that can be undone or redone.
#[derive(Debug, Clone)]
pub struct Step {
    /// Number within the job.
    pub number: i64,
    /// What was done.
    pub forward: Command,
    /// What takes it back.
    pub inverse: Command,
}

/// What a change does to the steps of a job.
#[derive(Debug, Clone)]
pub enum StepChange<'a> {
    /// A new step; steps waiting to be redone are given up. Joined to the last one where the gesture goes on.
    New {
        /// What was done.
        forward: &'a Command,
        /// What takes it back.
        inverse: &'a Command,
        /// The gesture it belongs to.
        gesture: Option<&'a str>,
    },
    /// A step was undone or redone.
    Mark {
        /// Which.
        number: i64,
        /// Undone or redone.
        undone: bool,
    },
}

/// The data file. One connection; each call is one short transaction.
pub struct Store {
    path: PathBuf,
    connection: Mutex<SqliteConnection>,
}

impl Store {
    /// Opens or makes the data file in a folder and brings it up to date.
    ///
    /// # Errors
    /// [`StoreError`] where the folder cannot be used.
    pub fn open(folder: &Path) -> Result<Self, StoreError> {
        let fail = |error: &dyn std::fmt::Display| StoreError::Database(error.to_string());
        std::fs::create_dir_all(folder).map_err(|error| fail(&error))?;
        let path = folder.join("vatman.sqlite");
        let mut connection = connect(&path)?;
        connection.run_pending_migrations(MIGRATIONS).map_err(|error| fail(&error))?;
        Ok(Self { path, connection: Mutex::new(connection) })
    }

    fn lock(&self) -> MutexGuard<'_, SqliteConnection> {
        self.connection.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// A failed write (a full disk, say) can end the transaction under the library's feet, which then refuses the connection: a new
    /// one takes its place.
    fn mend(&self) {
        let mut connection = self.lock();
        if AnsiTransactionManager::is_broken_transaction_manager(&mut *connection)
            && let Ok(fresh) = connect(&self.path)
        {
            *connection = fresh;
        }
    }

    /// Runs SQL for tests of a full disk and the like.
    #[doc(hidden)]
    pub fn pragma(&self, sql: &str) -> Result<(), StoreError> {
        Ok(self.lock().batch_execute(sql)?)
    }

    /// Jobs that have not been removed, last changed first.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn jobs(&self) -> Result<Vec<JobRow>, StoreError> {
        let rows = jobs::table.filter(jobs::removed_at.is_null()).order(jobs::changed_at.desc());
        Ok(rows.select((jobs::id, jobs::title, jobs::revision, jobs::changed_at)).load(&mut *self.lock())?)
    }

    /// A job, its revision and when it last changed.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails or the job cannot be read.
    pub fn job(&self, id: &JobId) -> Result<Option<(Job, i64, i64)>, StoreError> {
        let row: Option<(String, i64, i64)> =
            jobs::table.find(id.as_str()).filter(jobs::removed_at.is_null()).select((jobs::document, jobs::revision, jobs::changed_at)).first(&mut *self.lock()).optional()?;
        row.map(|(document, revision, at)| Ok((read_job(&document)?, revision, at))).transpose()
    }

    /// Keeps a new job.
    ///
    /// # Errors
    /// [`StoreError`] where it is not kept.
    pub fn insert_job(&self, job: &Job, now: i64) -> Result<(), StoreError> {
        let values = (
            jobs::id.eq(job.id.as_str()),
            jobs::title.eq(&job.title),
            jobs::revision.eq(1),
            jobs::document.eq(write_job(job)),
            jobs::created_at.eq(now),
            jobs::changed_at.eq(now),
        );
        diesel::insert_into(jobs::table).values(values).execute(&mut *self.lock())?;
        Ok(())
    }

    /// Removes a job from the lists, or brings it back. Whether there was one.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn set_removed(&self, id: &JobId, removed_at: Option<i64>) -> Result<bool, StoreError> {
        let changed = diesel::update(jobs::table.find(id.as_str())).set(jobs::removed_at.eq(removed_at)).execute(&mut *self.lock())?;
        Ok(changed == 1)
    }

    /// Keeps a changed job and its step together, and returns the new revision.
    ///
    /// # Errors
    /// [`StoreError::Stale`] unless the job is at revision `base`; others where it is not kept.
    pub fn keep(&self, job: &Job, base: i64, step: &StepChange<'_>, now: i64) -> Result<i64, StoreError> {
        let document = write_job(job);
        // When the disk is full SQLite ends the transaction itself, and the library then reports that it cannot take it back.
        let mut full = false;
        let kept = self.lock().immediate_transaction(|connection| {
            let outcome = write_step(connection, job, document, base, step, now);
            full = matches!(outcome, Err(StoreError::Full));
            outcome
        });
        if kept.is_err() {
            self.mend();
        }
        if full { Err(StoreError::Full) } else { kept }
    }

    /// The step that would be undone (`undone` false) or redone (true) next.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn next_step(&self, id: &JobId, undone: bool) -> Result<Option<Step>, StoreError> {
        let of_job = steps::table.filter(steps::job_id.eq(id.as_str())).filter(steps::undone.eq(undone)).select((steps::number, steps::forward, steps::inverse)).into_boxed();
        let ordered = if undone { of_job.order(steps::number.asc()) } else { of_job.order(steps::number.desc()) };
        let row: Option<(i64, String, String)> = ordered.first(&mut *self.lock()).optional()?;
        let command = |text: &str| serde_json::from_str(text).map_err(|error| StoreError::Database(format!("a step of the history is damaged: {error}")));
        row.map(|(number, forward, inverse)| Ok(Step { number, forward: command(&forward)?, inverse: command(&inverse)? })).transpose()
    }

    /// Keeps a picture; one already there stays as it is.
    ///
    /// # Errors
    /// [`StoreError`] where it is not kept.
    pub fn insert_picture(&self, id: &AssetId, name: &str, info: PictureInfo, bytes: &[u8], sample: bool, now: i64) -> Result<(), StoreError> {
        let values = (
            pictures::id.eq(id.as_str()),
            pictures::name.eq(name),
            pictures::media_type.eq(info.format.media_type()),
            pictures::width.eq(info.width as i32),
            pictures::height.eq(info.height as i32),
            pictures::bytes.eq(bytes),
            pictures::sample.eq(sample),
            pictures::added_at.eq(now),
        );
        diesel::insert_or_ignore_into(pictures::table).values(values).execute(&mut *self.lock())?;
        Ok(())
    }

    /// Keeps a font; one already there stays as it is.
    ///
    /// # Errors
    /// [`StoreError`] where it is not kept.
    pub fn insert_font(&self, id: &str, font: &OwnFace, now: i64) -> Result<(), StoreError> {
        let values = (
            fonts::id.eq(id),
            fonts::family.eq(&font.family),
            fonts::weight.eq(i32::from(font.weight)),
            fonts::italic.eq(font.italic),
            fonts::bytes.eq(&font.bytes),
            fonts::added_at.eq(now),
        );
        diesel::insert_or_ignore_into(fonts::table).values(values).execute(&mut *self.lock())?;
        Ok(())
    }

    /// All fonts somebody brought, oldest first: identity, family and bytes.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn fonts(&self) -> Result<Vec<(String, String, Vec<u8>)>, StoreError> {
        Ok(fonts::table.order((fonts::added_at.asc(), fonts::id.asc())).select((fonts::id, fonts::family, fonts::bytes)).load(&mut *self.lock())?)
    }

    /// Removes the fonts of a family. Whether there were any.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn remove_family(&self, family: &str) -> Result<bool, StoreError> {
        Ok(diesel::delete(fonts::table.filter(fonts::family.eq(family))).execute(&mut *self.lock())? > 0)
    }

    /// All pictures, newest first, samples last.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn pictures(&self) -> Result<Vec<PictureRow>, StoreError> {
        let rows = pictures::table.order((pictures::sample.asc(), pictures::added_at.desc(), pictures::name.asc()));
        Ok(rows.select((pictures::id, pictures::name, pictures::width, pictures::height, pictures::sample)).load(&mut *self.lock())?)
    }

    /// Whether a picture is kept.
    #[must_use]
    pub fn has_picture(&self, id: &AssetId) -> bool {
        let found: Result<Option<String>, _> = pictures::table.find(id.as_str()).select(pictures::id).first(&mut *self.lock()).optional();
        found.is_ok_and(|found| found.is_some())
    }

    /// The bytes of a picture.
    #[must_use]
    pub fn picture_bytes(&self, id: &AssetId) -> Option<Arc<[u8]>> {
        let found: Option<Vec<u8>> = pictures::table.find(id.as_str()).select(pictures::bytes).first(&mut *self.lock()).optional().ok()?;
        found.map(Into::into)
    }
}

fn write_step(connection: &mut SqliteConnection, job: &Job, document: String, base: i64, step: &StepChange<'_>, now: i64) -> Result<i64, StoreError> {
    let id = job.id.as_str();
    let target = jobs::table.find(id).filter(jobs::revision.eq(base));
    let values = (jobs::title.eq(&job.title), jobs::revision.eq(base + 1), jobs::document.eq(document), jobs::changed_at.eq(now));
    if diesel::update(target).set(values).execute(connection)? != 1 {
        return Err(StoreError::Stale);
    }
    match step {
        StepChange::Mark { number, undone } => {
            diesel::update(steps::table.find((id, number))).set(steps::undone.eq(undone)).execute(connection)?;
        }
        StepChange::New { forward, inverse, gesture } => {
            diesel::delete(steps::table.filter(steps::job_id.eq(id)).filter(steps::undone.eq(true))).execute(connection)?;
            new_step(connection, id, forward, inverse, *gesture, now)?;
        }
    }
    Ok(base + 1)
}

fn connect(path: &Path) -> Result<SqliteConnection, StoreError> {
    let mut connection = SqliteConnection::establish(&path.to_string_lossy()).map_err(|error| StoreError::Database(error.to_string()))?;
    // FULL: what has been acknowledged is on the disk.
    connection.batch_execute("PRAGMA busy_timeout=5000; PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON;")?;
    Ok(connection)
}

fn new_step(connection: &mut SqliteConnection, id: &str, forward: &Command, inverse: &Command, gesture: Option<&str>, now: i64) -> Result<(), StoreError> {
    let text = |command: &Command| serde_json::to_string(command).map_err(|error| StoreError::Database(error.to_string()));
    let last: Option<(i64, Option<String>, String, String)> =
        steps::table.filter(steps::job_id.eq(id)).order(steps::number.desc()).select((steps::number, steps::gesture, steps::forward, steps::inverse)).first(connection).optional()?;
    if let (Some((number, Some(before), earlier, back)), Some(gesture)) = (&last, gesture)
        && before == gesture
        && let (Ok(earlier), Ok(back)) = (serde_json::from_str::<Command>(earlier), serde_json::from_str::<Command>(back))
    {
        let step = steps::table.find((id, number));
        if forward.replaces(&earlier) {
            // The first inverse still leads back to where the gesture began.
            diesel::update(step).set(steps::forward.eq(text(forward)?)).execute(connection)?;
        } else {
            let (forward, inverse) = (earlier.then(forward), inverse.clone().then(&back));
            diesel::update(step).set((steps::forward.eq(text(&forward)?), steps::inverse.eq(text(&inverse)?))).execute(connection)?;
        }
        return Ok(());
    }
    let values = (
        steps::job_id.eq(id),
        steps::number.eq(last.map_or(1, |(number, ..)| number + 1)),
        steps::gesture.eq(gesture),
        steps::forward.eq(text(forward)?),
        steps::inverse.eq(text(inverse)?),
        steps::undone.eq(false),
        steps::made_at.eq(now),
    );
    diesel::insert_into(steps::table).values(values).execute(connection)?;
    Ok(())
}

/// The pictures of a data file as a source of bytes.
pub struct StoredPictures(pub Arc<Store>);

impl PictureBytes for StoredPictures {
    fn bytes(&self, id: &AssetId) -> Option<Arc<[u8]>> {
        self.0.picture_bytes(id)
    }
}
