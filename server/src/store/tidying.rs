//! Letting go of what nobody wants any more: jobs removed a while ago, and pictures no job shows.

use diesel::prelude::*;

use crate::store::schema::{jobs, kept, parts, pictures, states, steps};
use crate::store::shelf::like;
use crate::store::{Store, StoreError};

/// What was let go of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Tidied {
    /// Jobs that had been removed.
    pub jobs: usize,
    /// Pictures no job shows.
    pub pictures: usize,
}

impl Store {
    /// Lets go for good of jobs removed before a moment, and of pictures brought before it that no job shows any more, be it in a
    /// tray, in its history or in an earlier state.
    ///
    /// # Errors
    /// [`StoreError`] where the file fails; then everything is still there.
    pub fn tidy(&self, before: i64) -> Result<Tidied, StoreError> {
        self.transaction(|connection| {
            let jobs = diesel::delete(jobs::table.filter(jobs::removed_at.lt(before))).execute(connection)?;
            let old: Vec<String> = pictures::table
                .filter(pictures::sample.eq(false))
                .filter(pictures::added_at.lt(before))
                .select(pictures::id)
                .load(connection)?;
            let mut gone = 0;
            for id in old {
                if !shown(connection, &id)? {
                    gone += diesel::delete(pictures::table.find(&id)).execute(connection)?;
                }
            }
            // Lists go with the jobs they were for.
            let left: Vec<String> = jobs::table.select(jobs::id).load(connection)?;
            let lists: Vec<String> = kept::table.filter(kept::kind.eq("list")).select(kept::name).load(connection)?;
            for name in lists {
                if !left.iter().any(|id| name.split('/').next() == Some(id)) {
                    diesel::delete(kept::table.find(("list", &name))).execute(connection)?;
                }
            }
            Ok(Tidied { jobs, pictures: gone })
        })
    }
}

/// Whether the identity of a picture stands anywhere in what is kept of jobs.
fn shown(connection: &mut SqliteConnection, id: &str) -> Result<bool, StoreError> {
    let pattern = like(&format!("\"{id}\""));
    let in_parts = parts::table.filter(parts::document.like(&pattern).escape('\\'));
    let in_headings = jobs::table.filter(jobs::heading.like(&pattern).escape('\\'));
    let in_steps = steps::table.filter(
        steps::inverse
            .like(&pattern)
            .escape('\\')
            .or(steps::forward.is_not_null().and(steps::forward.assume_not_null().like(&pattern).escape('\\'))),
    );
    let in_states = states::table.filter(states::document.like(&pattern).escape('\\'));
    use diesel::dsl::{exists, select};
    Ok(select(exists(in_parts)).get_result::<bool>(connection)?
        || select(exists(in_headings)).get_result::<bool>(connection)?
        || select(exists(in_steps)).get_result::<bool>(connection)?
        || select(exists(in_states)).get_result::<bool>(connection)?)
}
