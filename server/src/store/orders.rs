//! Orders at a print shop.

use diesel::prelude::*;
use vatman_document::JobId;

use crate::store::schema::orders;
use crate::store::{Store, StoreError};

/// An order without what was printed.
#[derive(Debug, Clone, PartialEq, Eq, Queryable)]
pub struct OrderRow {
    /// Identity.
    pub id: String,
    /// Name of the piece.
    pub piece: String,
    /// The revision of the job that was printed.
    pub revision: i64,
    /// What was ordered and what the shop said, as JSON.
    pub said: String,
    /// When, in milliseconds since 1970 UTC.
    pub placed_at: i64,
}

/// What is kept of an order beside its row.
pub struct Printed<'a> {
    /// The job as it was.
    pub document: &'a str,
    /// The file that was sent.
    pub pdf: &'a [u8],
}

impl Store {
    /// Keeps an order.
    ///
    /// # Errors
    /// [`StoreError`] where it is not kept.
    pub fn keep_order(&self, job: &JobId, row: &OrderRow, printed: &Printed<'_>) -> Result<(), StoreError> {
        let values = (
            orders::id.eq(&row.id),
            orders::job_id.eq(job.as_str()),
            orders::piece.eq(&row.piece),
            orders::revision.eq(row.revision),
            orders::document.eq(printed.document),
            orders::pdf.eq(printed.pdf),
            orders::said.eq(&row.said),
            orders::placed_at.eq(row.placed_at),
        );
        diesel::insert_into(orders::table).values(values).execute(&mut *self.write()?)?;
        Ok(())
    }

    /// The orders of a job, newest first.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn orders(&self, job: &JobId) -> Result<Vec<OrderRow>, StoreError> {
        let rows = orders::table.filter(orders::job_id.eq(job.as_str())).order(orders::placed_at.desc());
        let columns = (orders::id, orders::piece, orders::revision, orders::said, orders::placed_at);
        Ok(rows.select(columns).load(&mut *self.read()?)?)
    }

    /// What was sent with an order.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn ordered_file(&self, id: &str) -> Result<Option<Vec<u8>>, StoreError> {
        Ok(orders::table.find(id).select(orders::pdf).first(&mut *self.read()?).optional()?)
    }
}
