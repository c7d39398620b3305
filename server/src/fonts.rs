//! Fonts somebody brought: kept in the data file and set beside those that ship.

use std::sync::Arc;

use vatman_photo::content_id;
use vatman_type::{Family, FontLibrary, OwnFace};

use crate::problem::Problem;
use crate::store::Store;
use crate::workshop::{Workshop, now};

/// The families of a library and those kept in a data file. A font that cannot be read any more is left out, so that the rest of the work
/// stays within reach.
///
/// # Errors
/// A sentence where the file fails.
pub(crate) fn with_own(library: &FontLibrary, store: &Store) -> Result<FontLibrary, String> {
    let kept = store.fonts().map_err(|error| error.to_string())?;
    let read = |(id, family, bytes): (String, String, Vec<u8>)| match OwnFace::read(&bytes) {
        Ok(font) => Some((format!("own/{id}"), OwnFace { family, ..font })),
        Err(why) => {
            tracing::warn!("the font {id} is left out: {why}");
            None
        }
    };
    Ok(library.with_own(kept.into_iter().filter_map(read).collect()))
}

impl Workshop {
    /// Keeps a font somebody brought and sets in it from now on. A family named like one that ships gets a name of its own.
    ///
    /// # Errors
    /// A problem where it is no font, too large or damaged; then nothing is kept.
    pub fn take_font(&self, file: &[u8]) -> Result<Family, Problem> {
        let mut font = OwnFace::read(file)?;
        let _one_at_a_time = self.one_at_a_time();
        let library = self.studio.typesetter.library();
        if library.families().iter().any(|family| family.family == font.family && family.own.is_none()) {
            font.family = format!("{} (own)", font.family);
        }
        let named = |library: &FontLibrary| library.families().iter().find(|family| family.family == font.family).cloned();
        let file = format!("own/{}", content_id(&font.bytes));
        if let Some(family) = named(&library) {
            if family.faces.iter().any(|face| face.file == file) {
                return Ok(family);
            }
            if family.faces.iter().any(|face| (face.weight, face.italic) == (font.weight, font.italic)) {
                return Err(Problem::value(format!("There is a font of \u{201c}{}\u{201d} in this weight already. Take the family off the shelf first; nothing was added.", font.family)));
            }
        }
        let renewed = library.with_own(vec![(file, font.clone())]);
        let family = named(&renewed).ok_or_else(|| Problem::value("This font cannot be set. Nothing was added."))?;
        self.store.insert_font(content_id(&font.bytes).as_str(), &font, now())?;
        self.studio.typesetter.set_library(Arc::new(renewed));
        Ok(family)
    }

    /// Takes a family somebody brought off the shelf, unless a job is set in it.
    ///
    /// # Errors
    /// A problem where it is in use or not there; then nothing changes.
    pub fn drop_family(&self, family: &str) -> Result<(), Problem> {
        let _one_at_a_time = self.one_at_a_time();
        for row in self.store.jobs()? {
            let job = self.job(&vatman_document::JobId::new(row.id)?)?;
            if job.uses_family(family) {
                return Err(Problem::value(format!("\u{201c}{family}\u{201d} is used in the job \u{201c}{}\u{201d}. Set its words in another family first; nothing was changed.", job.title)));
            }
        }
        if !self.store.remove_family(family)? {
            return Err(Problem::not_found("There is no such family among those you brought."));
        }
        self.studio.typesetter.set_library(Arc::new(self.studio.typesetter.library().without(family)));
        Ok(())
    }
}
