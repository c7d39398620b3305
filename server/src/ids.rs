//! Fresh identities.

use vatman_document::IdSource;

/// Fresh identities that sort by time.
pub(crate) struct Ids;

impl IdSource for Ids {
    fn fresh(&mut self) -> String {
        uuid::Uuid::now_v7().simple().to_string()
    }
}
