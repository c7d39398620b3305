//! Setting pictures upright: by hand, by four corners, and by their own long edges.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{Command, Content, Focus, ItemId, Job, PictureSource, Upright};
use vatman_units::Angle;

use crate::darkroom::prints::READ;
use crate::edit::target::{given, looks};
use crate::refusal::Refusal;
use crate::studio::Studio;

/// What changes about how a picture is set upright; what is absent stays.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields)]
#[ts(optional_fields)]
pub struct UprightChange {
    /// Turned clockwise by.
    pub turn: Option<Angle>,
    /// The places of the original that become the corners, from the top left on clockwise; nothing for its own corners.
    #[serde(deserialize_with = "given")]
    #[ts(optional, type = "[Focus, Focus, Focus, Focus] | null")]
    pub corners: Option<Option<[Focus; 4]>>,
}

/// Changes how the picture of an item is set upright.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture, or the corners have no sense.
pub fn set_upright(job: &Job, item: &ItemId, change: UprightChange) -> Result<Command, Refusal> {
    looks(job, std::slice::from_ref(item), |plain, look| {
        if !matches!(plain.content, Content::Picture { picture: Some(_), .. }) {
            return Err(Refusal::NoPicture);
        }
        let mut upright = look.upright.unwrap_or(Upright::NONE);
        upright.turn = change.turn.unwrap_or(upright.turn);
        upright.corners = change.corners.unwrap_or(upright.corners);
        look.upright = (!upright.is_idle()).then_some(upright);
        Ok(())
    })
}

/// Turns the picture of an item so that its long edges lie level and upright; corners set by hand stay.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture, or nothing in it says how it should stand.
pub fn level_picture(job: &Job, item: &ItemId, studio: &Studio) -> Result<Command, Refusal> {
    let plain = job.find(item)?.plain()?;
    let picture = plain.content.picture().ok_or(Refusal::NoPicture)?;
    let corners = plain.look.upright.and_then(|upright| upright.corners);
    let upright = corners.map(|corners| Upright { turn: Angle::ZERO, corners: Some(corners) });
    let source = std::sync::Arc::new(PictureSource { upright, ..PictureSource::plain(picture.clone()) });
    let (w, h) = studio.pictures.size(&source).ok_or(Refusal::NoPicture)?;
    let by = (f64::from(READ) / f64::from(w.max(h))).min(1.0);
    let sized = |side: u32| ((f64::from(side) * by).round() as u32).max(1);
    let print = studio.pictures.print(&source, (sized(w), sized(h))).ok_or(Refusal::NoPicture)?;
    let turn = Angle::degrees((vatman_photo::level(&print) * 10.0).round() / 10.0);
    let own = plain.look.upright.map_or(Angle::ZERO, |upright| upright.turn);
    if turn == own {
        return Err(Refusal::Level);
    }
    set_upright(job, item, UprightChange { turn: Some(turn), ..UprightChange::default() })
}
