//! Pictures and fonts people brought.

use std::sync::Arc;

use diesel::prelude::*;
use vatman_document::AssetId;
use vatman_photo::{PictureBytes, PictureInfo, content_id};
use vatman_type::OwnFace;

use crate::store::schema::{fonts, jobs, parts, pictures};
use crate::store::{Store, StoreError};

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

/// How a picture came.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Origin {
    /// With the program.
    Shipped,
    /// Somebody brought it.
    Brought,
    /// It was made for a job, and nobody looks for it.
    Made,
}

impl Store {
    /// Keeps a picture; one already there stays as it is, unless its file was damaged since.
    ///
    /// # Errors
    /// [`StoreError`] where it is not kept.
    pub fn insert_picture(
        &self,
        id: &AssetId,
        name: &str,
        (info, bytes): (PictureInfo, &[u8]),
        origin: Origin,
        now: i64,
    ) -> Result<(), StoreError> {
        let values = (
            pictures::id.eq(id.as_str()),
            pictures::name.eq(name),
            pictures::media_type.eq(info.format.media_type()),
            pictures::width.eq(info.width as i32),
            pictures::height.eq(info.height as i32),
            pictures::bytes.eq(bytes),
            pictures::sample.eq(origin == Origin::Shipped),
            pictures::shelved.eq(origin != Origin::Made),
            pictures::added_at.eq(now),
            pictures::orientation.eq(i32::from(info.orientation)),
            pictures::profiled.eq(info.profiled),
        );
        self.transaction(|connection| {
            if diesel::insert_or_ignore_into(pictures::table).values(values).execute(connection)? == 0 {
                let damaged = pictures::table.find(id.as_str()).filter(pictures::bytes.ne(bytes));
                diesel::update(damaged).set(pictures::bytes.eq(bytes)).execute(connection)?;
            }
            Ok(())
        })
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
        diesel::insert_or_ignore_into(fonts::table).values(values).execute(&mut *self.write()?)?;
        Ok(())
    }

    /// All fonts somebody brought, oldest first: identity, family and bytes.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn fonts(&self) -> Result<Vec<(String, String, Vec<u8>)>, StoreError> {
        Ok(fonts::table
            .order((fonts::added_at.asc(), fonts::id.asc()))
            .select((fonts::id, fonts::family, fonts::bytes))
            .load(&mut *self.read()?)?)
    }

    /// Removes the fonts of a family. Whether there were any.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn remove_family(&self, family: &str) -> Result<bool, StoreError> {
        Ok(diesel::delete(fonts::table.filter(fonts::family.eq(family))).execute(&mut *self.write()?)? > 0)
    }

    /// All pictures people look for, newest first, samples last.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn pictures(&self) -> Result<Vec<PictureRow>, StoreError> {
        let rows = pictures::table.filter(pictures::shelved.eq(true)).order((
            pictures::sample.asc(),
            pictures::added_at.desc(),
            pictures::name.asc(),
        ));
        Ok(rows
            .select((pictures::id, pictures::name, pictures::width, pictures::height, pictures::sample))
            .load(&mut *self.read()?)?)
    }

    /// Whether a picture is kept.
    #[must_use]
    pub fn has_picture(&self, id: &AssetId) -> bool {
        let Ok(mut connection) = self.read() else { return false };
        let found: QueryResult<Option<String>> =
            pictures::table.find(id.as_str()).select(pictures::id).first(&mut *connection).optional();
        found.is_ok_and(|found| found.is_some())
    }

    /// The title of a job with words in a family, if there is one: in its pieces, its trays, or what it shares. Documents are searched
    /// as they are, so that one that cannot be read does not hide the others.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails.
    pub fn job_in_family(&self, family: &str) -> Result<Option<String>, StoreError> {
        let name = serde_json::to_string(family).map_err(|error| StoreError::Database(error.to_string()))?;
        let pattern = like(&format!("\"family\":{name}"));
        let rows = jobs::table
            .inner_join(parts::table.on(parts::job_id.eq(jobs::id)))
            .filter(jobs::removed_at.is_null())
            .filter(parts::document.like(pattern).escape('\\'));
        Ok(rows.select(jobs::title).first(&mut *self.read()?).optional()?)
    }

    /// The bytes of a picture; nothing where they are not those that were brought.
    #[must_use]
    pub fn picture_bytes(&self, id: &AssetId) -> Option<Arc<[u8]>> {
        let found: Option<Vec<u8>> =
            pictures::table.find(id.as_str()).select(pictures::bytes).first(&mut *self.read().ok()?).optional().ok()?;
        let found = found?;
        if content_id(&found) != *id {
            tracing::warn!("the file of the picture {id} is damaged; bring it again");
            return None;
        }
        Some(found.into())
    }
}

/// A pattern that matches text anywhere, as it is.
pub(super) fn like(text: &str) -> String {
    let mut out = String::from("%");
    for c in text.chars() {
        if matches!(c, '%' | '_' | '\\') {
            out.push('\\');
        }
        out.push(c);
    }
    out + "%"
}

/// The pictures of a data file as a source of bytes.
pub struct StoredPictures(pub Arc<Store>);

impl PictureBytes for StoredPictures {
    fn bytes(&self, id: &AssetId) -> Option<Arc<[u8]>> {
        self.0.picture_bytes(id)
    }
}
