//! Finding the subject of a picture: work with progress, whose result is a mask.

use std::sync::Arc;

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{AssetId, CutOut, ItemId, JobId};
use vatman_photo::{CutHints, clear_ground, cut_out};

use crate::ids::Ids;
use crate::problem::Problem;
use crate::work::WorkCard;
use crate::workshop::Workshop;

/// What was found of a picture.
#[derive(Debug, Clone, Serialize, TS)]
pub struct FoundSubject {
    /// How much of each pixel is subject, as a grey picture.
    pub mask: AssetId,
    /// Percent of the picture that is.
    pub share: f64,
}

/// What is looked for in a picture.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "camelCase")]
pub enum Sought {
    /// Its subject.
    #[default]
    Subject,
    /// What is left without an even ground.
    WithoutGround,
}

/// Parts of the work that are told.
const PARTS: usize = 20;

impl Workshop {
    /// Starts to find the subject of the picture of an item, by what strokes have said so far; or what is left of it without the even
    /// ground it stands on.
    ///
    /// # Errors
    /// A problem where the item is not there or shows no picture, or too much waits.
    pub fn find_subject(self: &Arc<Self>, id: &JobId, item: &ItemId, of: Sought) -> Result<WorkCard, Problem> {
        let job = self.jobs.load(id)?.job;
        let plain = job.find(item)?.plain()?;
        let missing = || Problem::value("This item shows no picture whose subject could be found.");
        let picture = plain.content.picture().cloned().ok_or_else(missing)?;
        let CutOut { keep, remove, .. } = plain.look.cut_out.clone().unwrap_or_default();
        let shop = Arc::clone(self);
        self.works.start(JobId::fresh(&mut Ids).as_str(), move |progress| {
            progress.of(PARTS);
            let pixels = shop.studio.pictures.pixels(&picture).ok_or_else(missing)?;
            let told = std::cell::Cell::new(0);
            let watch = |share: f32| {
                while (told.get() as f32) < share * PARTS as f32 {
                    told.set(told.get() + 1);
                    if progress.step().is_err() {
                        return false;
                    }
                }
                !progress.is_cancelled()
            };
            let found = match of {
                Sought::Subject => cut_out(&pixels, CutHints { keep: &keep, remove: &remove }, &watch),
                Sought::WithoutGround => Some(clear_ground(&pixels).ok_or_else(|| {
                    Problem::value("This picture does not stand on an even ground. Look for its subject instead; nothing was changed.")
                })?),
            };
            let found = found.ok_or_else(Problem::cancelled)?;
            let share = found.share() * 100.0;
            if share < 0.02 {
                return Err(Problem::value(
                    "No subject was found in this picture. Paint over a part of it with “keep”, and it is looked for there.",
                ));
            }
            Ok(FoundSubject { mask: shop.shelves.take_mask(&found)?, share: (share * 10.0).round() / 10.0 })
        })
    }
}
