//! Jobs, kept in parts: an edit writes the rows of what it changed.

use std::collections::BTreeMap;

use diesel::dsl::sql;
use diesel::prelude::*;
use diesel::sql_types::Binary;
use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{
    CURRENT_VERSION, Job, JobId, PieceId, SideId, StoredError, StoredPart, changed_parts, join_parts, join_text,
    write_job,
};

use crate::store::history::{StepChange, keep_state, write_step};
use crate::store::schema::{jobs, parts};
use crate::store::{Store, StoreError};

/// A side as lists show it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct SheetCard {
    /// The piece.
    pub piece: PieceId,
    /// The side.
    pub side: SideId,
    /// Name of the piece.
    pub name: String,
    /// Width by height.
    pub aspect: f64,
}

fn sheets(job: &Job) -> Vec<SheetCard> {
    let card = |piece: &vatman_document::Piece, side: &vatman_document::Side| SheetCard {
        piece: piece.id.clone(),
        side: side.id.clone(),
        name: piece.name.clone(),
        aspect: piece.format.size.aspect(),
    };
    job.pieces.iter().flat_map(|piece| piece.sides.iter().map(move |side| card(piece, side))).collect()
}

/// A text of a row as bytes: a row that was damaged may hold anything, and must not harm those beside it.
fn raw(column: &str) -> diesel::expression::SqlLiteral<Binary> {
    sql::<Binary>(&format!("CAST({column} AS BLOB)"))
}

/// A text of a row, and whether it was one.
fn text(bytes: Vec<u8>) -> (String, bool) {
    match String::from_utf8(bytes) {
        Ok(text) => (text, true),
        Err(error) => (String::from_utf8_lossy(error.as_bytes()).into_owned(), false),
    }
}

/// A job in lists, as its row says it: nothing of the document is read.
#[derive(Debug, Clone)]
pub struct JobRow {
    /// Identity.
    pub id: String,
    /// Title.
    pub title: String,
    /// Revision.
    pub revision: i64,
    /// When it last changed, in milliseconds since 1970 UTC.
    pub changed_at: i64,
    /// Its sides, as JSON.
    sheets: String,
    /// Whether the row says what it should.
    pub sound: bool,
}

impl JobRow {
    /// Its sides in order; none where the row does not say.
    #[must_use]
    pub fn sheets(&self) -> Vec<SheetCard> {
        serde_json::from_str(&self.sheets).unwrap_or_default()
    }
}

/// A job as it is kept.
#[derive(Debug, Clone)]
pub struct Kept {
    /// The job.
    pub job: Job,
    /// Its revision.
    pub revision: i64,
    /// When it last changed.
    pub kept_at: i64,
}

/// The rows of a job as they are, also where they cannot be read.
#[derive(Debug, Clone)]
pub struct RawJob {
    /// Whether all of it is text.
    sound: bool,
    form: i64,
    heading: String,
    revision: i64,
    kept_at: i64,
    pieces: BTreeMap<String, String>,
    kins: BTreeMap<String, String>,
}

impl RawJob {
    fn read(&self) -> Result<Job, StoredError> {
        if !self.sound {
            return Err(StoredError::Damaged("a part of it is no text".into()));
        }
        let form = u64::try_from(self.form).unwrap_or_default();
        join_parts(form, &self.heading, &self.pieces, &self.kins)
    }

    /// The job file, put together as far as it can be.
    #[must_use]
    pub fn text(&self) -> String {
        let form = u64::try_from(self.form).unwrap_or_default();
        join_text(form, &self.heading, &self.pieces, &self.kins).unwrap_or_else(|_| self.heading.clone())
    }
}

impl Store {
    /// Jobs that have not been removed, last changed first.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn jobs(&self) -> Result<Vec<JobRow>, StoreError> {
        let rows = jobs::table.filter(jobs::removed_at.is_null()).order(jobs::changed_at.desc());
        let columns = (jobs::id, raw("title"), jobs::revision, jobs::changed_at, raw("sheets"));
        type Raw = (String, Vec<u8>, i64, i64, Vec<u8>);
        let found: Vec<Raw> = rows.select(columns).load(&mut *self.read()?)?;
        let row = |(id, title, revision, changed_at, sheets): Raw| {
            let ((title, titled), (sheets, listed)) = (text(title), text(sheets));
            JobRow { id, title, revision, changed_at, sheets, sound: titled && listed }
        };
        Ok(found.into_iter().map(row).collect())
    }

    /// The rows of a job; nothing where there is none or it has been removed.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn raw_job(&self, id: &JobId) -> Result<Option<RawJob>, StoreError> {
        // Heading and parts are of the same moment.
        self.read()?.transaction(|connection| {
            let row: Option<(i64, Vec<u8>, i64, i64)> = jobs::table
                .find(id.as_str())
                .filter(jobs::removed_at.is_null())
                .select((jobs::form, raw("heading"), jobs::revision, jobs::changed_at))
                .first(connection)
                .optional()?;
            let Some((form, heading, revision, kept_at)) = row else { return Ok(None) };
            let rows: Vec<(String, Vec<u8>, Vec<u8>)> = parts::table
                .filter(parts::job_id.eq(id.as_str()))
                .select((parts::kind, raw("id"), raw("document")))
                .load(connection)?;
            let (mut pieces, mut kins) = (BTreeMap::new(), BTreeMap::new());
            let (heading, mut sound) = text(heading);
            for (kind, id, document) in rows {
                let ((id, named), (document, written)) = (text(id), text(document));
                sound &= named && written;
                if kind == "piece" { &mut pieces } else { &mut kins }.insert(id, document);
            }
            Ok(Some(RawJob { sound, form, heading, revision, kept_at, pieces, kins }))
        })
    }

    /// A job, its revision and when it last changed.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails or the job cannot be read.
    pub fn job(&self, id: &JobId) -> Result<Option<Kept>, StoreError> {
        let Some(raw) = self.raw_job(id)? else { return Ok(None) };
        Ok(Some(Kept { job: raw.read()?, revision: raw.revision, kept_at: raw.kept_at }))
    }

    /// Keeps a new job.
    ///
    /// # Errors
    /// [`StoreError`] where it is not kept.
    pub fn insert_job(&self, job: &Job, now: i64) -> Result<(), StoreError> {
        let changed = changed_parts(None, job)?;
        self.transaction(|connection| {
            let values = (
                jobs::id.eq(job.id.as_str()),
                jobs::title.eq(&job.title),
                jobs::revision.eq(1),
                jobs::form.eq(CURRENT_VERSION as i64),
                jobs::heading.eq(""),
                jobs::sheets.eq(sheets_text(job)?),
                jobs::created_at.eq(now),
                jobs::changed_at.eq(now),
            );
            diesel::insert_into(jobs::table).values(values).execute(connection)?;
            write_parts(connection, job.id.as_str(), changed)?;
            // From its first minute there is something to go back to.
            keep_state(connection, job.id.as_str(), 1, now, &write_job(job))
        })?;
        self.prove(job, 1);
        Ok(())
    }

    /// Removes a job from the lists, or brings it back. Whether there was one.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn set_removed(&self, id: &JobId, removed_at: Option<i64>) -> Result<bool, StoreError> {
        let change = diesel::update(jobs::table.find(id.as_str())).set(jobs::removed_at.eq(removed_at));
        Ok(change.execute(&mut *self.write()?)? == 1)
    }

    /// Keeps what changed of a job and its step together, and returns the new revision.
    ///
    /// # Errors
    /// [`StoreError::Stale`] unless the job is at revision `base`; others where it is not kept.
    pub fn keep(&self, old: &Job, new: &Job, base: i64, step: &StepChange<'_>, now: i64) -> Result<i64, StoreError> {
        let changed = changed_parts(Some(old), new)?;
        let headed = changed.iter().any(|part| matches!(part, StoredPart::Heading(_)));
        let sheets = (headed || sheets(old) != sheets(new)).then(|| sheets_text(new)).transpose()?;
        let id = new.id.as_str();
        self.transaction(|connection| {
            let target = jobs::table.find(id).filter(jobs::revision.eq(base));
            let values = (
                jobs::title.eq(&new.title),
                jobs::revision.eq(base + 1),
                jobs::form.eq(CURRENT_VERSION as i64),
                jobs::changed_at.eq(now),
                sheets.as_ref().map(|sheets| jobs::sheets.eq(sheets)),
            );
            if diesel::update(target).set(values).execute(connection)? != 1 {
                return Err(StoreError::Stale);
            }
            write_parts(connection, id, changed)?;
            if write_step(connection, id, step, now)? {
                keep_state(connection, id, base + 1, now, &write_job(new))?;
            }
            Ok(())
        })?;
        self.prove(new, base + 1);
        Ok(base + 1)
    }

    /// Puts a whole document in the place of one that cannot be read, and returns its revision. Its steps lead nowhere any more and
    /// are given up.
    ///
    /// # Errors
    /// [`StoreError`] where it is not kept.
    pub fn replace_job(&self, job: &Job, now: i64) -> Result<i64, StoreError> {
        use crate::store::schema::steps;
        let changed = changed_parts(None, job)?;
        let id = job.id.as_str();
        let sheets = sheets_text(job)?;
        self.transaction(|connection| {
            diesel::delete(parts::table.filter(parts::job_id.eq(id))).execute(connection)?;
            diesel::delete(steps::table.filter(steps::job_id.eq(id))).execute(connection)?;
            let values = (
                jobs::title.eq(&job.title),
                jobs::revision.eq(jobs::revision + 1),
                jobs::form.eq(CURRENT_VERSION as i64),
                jobs::changed_at.eq(now),
                jobs::sheets.eq(sheets),
            );
            diesel::update(jobs::table.find(id)).set(values).execute(connection)?;
            write_parts(connection, id, changed)?;
            Ok(jobs::table.find(id).select(jobs::revision).first(connection)?)
        })
    }

    /// In debug builds and tests: what was written is what is read.
    fn prove(&self, job: &Job, revision: i64) {
        if cfg!(debug_assertions) {
            let read = self.job(&job.id);
            debug_assert!(!matches!(read, Err(StoreError::Stored(_))), "what is kept can be read back: {read:?}");
            // Somebody else may have written since; then there is nothing to compare.
            if let Some(kept) = read.ok().flatten().filter(|kept| kept.revision == revision) {
                debug_assert!(kept.job == *job, "what is read is what was kept");
            }
        }
    }
}

fn sheets_text(job: &Job) -> Result<String, StoreError> {
    serde_json::to_string(&sheets(job)).map_err(|error| StoreError::Database(error.to_string()))
}

fn write_parts(connection: &mut SqliteConnection, job: &str, changed: Vec<StoredPart>) -> Result<(), StoreError> {
    let mut write = |kind: &str, id: &str, document: Option<String>| -> Result<(), StoreError> {
        match document {
            Some(document) => {
                let values =
                    (parts::job_id.eq(job), parts::kind.eq(kind), parts::id.eq(id), parts::document.eq(document));
                diesel::replace_into(parts::table).values(values).execute(connection)?;
            }
            None => {
                diesel::delete(parts::table.find((job, kind, id))).execute(connection)?;
            }
        }
        Ok(())
    };
    let mut heading = None;
    for part in changed {
        match part {
            StoredPart::Heading(text) => heading = Some(text),
            StoredPart::Piece(id, text) => write("piece", id.as_str(), text)?,
            StoredPart::Kin(id, text) => write("kin", id.as_str(), text)?,
        }
    }
    if let Some(heading) = heading {
        diesel::update(jobs::table.find(job)).set(jobs::heading.eq(heading)).execute(connection)?;
    }
    Ok(())
}
