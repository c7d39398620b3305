//! What people keep for all their jobs, and what of a job was fetched last.

use diesel::prelude::*;
use vatman_document::JobId;

use crate::store::schema::{handed, kept};
use crate::store::{Store, StoreError};

/// What was fetched of a piece.
#[derive(Debug, Clone, PartialEq, Eq, Queryable)]
pub struct HandedRow {
    /// Which piece.
    pub piece: String,
    /// The key of how it looked.
    pub looked: String,
    /// The names of its files as a JSON list.
    pub files: String,
    /// When, in milliseconds since 1970 UTC.
    pub at: i64,
}

impl Store {
    /// What is kept of a kind, by name: name and document.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn kept(&self, kind: &str) -> Result<Vec<(String, String)>, StoreError> {
        let rows = kept::table.filter(kept::kind.eq(kind)).order(kept::name.asc());
        Ok(rows.select((kept::name, kept::document)).load(&mut *self.read()?)?)
    }

    /// What is kept of a kind under one name.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn kept_by(&self, kind: &str, name: &str) -> Result<Option<String>, StoreError> {
        let row = kept::table.find((kind, name)).select(kept::document);
        Ok(row.first(&mut *self.read()?).optional()?)
    }

    /// Keeps something under a name, in place of what had it before.
    ///
    /// # Errors
    /// [`StoreError`] where it is not kept.
    pub fn put_by(&self, kind: &str, name: &str, document: &str, now: i64) -> Result<(), StoreError> {
        let values = (kept::kind.eq(kind), kept::name.eq(name), kept::document.eq(document), kept::kept_at.eq(now));
        diesel::replace_into(kept::table).values(values).execute(&mut *self.write()?)?;
        Ok(())
    }

    /// Lets go of something kept. Whether it was there.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn let_go(&self, kind: &str, name: &str) -> Result<bool, StoreError> {
        Ok(diesel::delete(kept::table.find((kind, name))).execute(&mut *self.write()?)? > 0)
    }

    /// Remembers what was fetched of pieces of a job.
    ///
    /// # Errors
    /// [`StoreError`] where it is not kept.
    pub fn remember_handed(&self, job: &JobId, rows: &[HandedRow]) -> Result<(), StoreError> {
        self.transaction(|connection| {
            for row in rows {
                let values = (
                    handed::job_id.eq(job.as_str()),
                    handed::piece_id.eq(&row.piece),
                    handed::looked.eq(&row.looked),
                    handed::files.eq(&row.files),
                    handed::handed_at.eq(row.at),
                );
                diesel::replace_into(handed::table).values(values).execute(connection)?;
            }
            Ok(())
        })
    }

    /// What was fetched of a job last, piece by piece.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn handed(&self, job: &JobId) -> Result<Vec<HandedRow>, StoreError> {
        let rows = handed::table.filter(handed::job_id.eq(job.as_str())).order(handed::piece_id.asc());
        Ok(rows
            .select((handed::piece_id, handed::looked, handed::files, handed::handed_at))
            .load(&mut *self.read()?)?)
    }
}
