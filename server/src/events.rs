//! What every open window is told as it happens.

use serde::Serialize;
use tokio::sync::broadcast;
use ts_rs::TS;
use vatman_document::JobId;

use crate::work::WorkCard;

/// Something happened.
#[derive(Debug, Clone, Serialize, TS)]
#[serde(tag = "event", rename_all = "camelCase")]
pub enum Event {
    /// The first of every connection.
    Hello {
        /// The pages this program serves; a page of another version reloads.
        version: String,
    },
    /// Some events were missed: look at everything again.
    Missed,
    /// A job is at a revision.
    Job {
        /// Which.
        job: JobId,
        /// The revision.
        #[ts(type = "number")]
        revision: i64,
    },
    /// Jobs came, went or turned out to be unreadable.
    Board,
    /// What is kept for all jobs changed: words, sets of places, formats, names of files.
    Kept,
    /// Pictures came or went.
    Shelf,
    /// Families came or went: everything may look different.
    Families,
    /// Work in the background went on.
    Work {
        /// How far it is.
        work: WorkCard,
    },
}

/// Sends events to all who listen.
#[derive(Debug, Clone)]
pub struct Events(broadcast::Sender<Event>);

impl Default for Events {
    fn default() -> Self {
        Self(broadcast::channel(256).0)
    }
}

impl Events {
    /// Tells everyone.
    pub fn send(&self, event: Event) {
        // Nobody listening is no failure.
        let _ = self.0.send(event);
    }

    /// Listens from now on.
    #[must_use]
    pub fn listen(&self) -> broadcast::Receiver<Event> {
        self.0.subscribe()
    }
}
