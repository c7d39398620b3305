//! Cutting out by hand: what is kept and removed when the subject is found, what a brush hides or brings back, and the edge.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{AssetId, BrushStroke, Command, Content, CutOut, Focus, ItemId, Job, Look};
use vatman_units::Ratio;

use crate::darkroom::areas::BrushSetting;
use crate::edit::target::looks;
use crate::refusal::Refusal;

/// What a stroke over a picture says.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum CutStroke {
    /// This belongs to the subject; it is to be found anew.
    Keep,
    /// This does not; it is to be found anew.
    Remove,
    /// This is not shown.
    Hide,
    /// This is shown again.
    Show,
}

/// What changes about a cut-out; what is absent stays.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields)]
#[ts(optional_fields)]
pub struct CutChange {
    /// Standard deviation by which the edge is softened.
    pub softness: Option<Ratio>,
    /// How far the edge is moved outward.
    pub shift: Option<Ratio>,
}

fn cut(
    job: &Job,
    item: &ItemId,
    change: impl Fn(&mut Option<CutOut>) -> Result<(), Refusal>,
) -> Result<Command, Refusal> {
    looks(job, std::slice::from_ref(item), |plain, look: &mut Look| {
        if !matches!(plain.content, Content::Picture { picture: Some(_), .. }) {
            return Err(Refusal::NoPicture);
        }
        change(&mut look.cut_out)
    })
}

/// Shows only what a mask says of the picture of an item; strokes and edge stay as they are.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture.
pub fn cut_out_by(job: &Job, item: &ItemId, mask: &AssetId) -> Result<Command, Refusal> {
    cut(job, item, |cut| {
        cut.get_or_insert_default().mask = Some(mask.clone());
        Ok(())
    })
}

/// Shows all of the picture of an item again.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture.
pub fn show_whole(job: &Job, item: &ItemId) -> Result<Command, Refusal> {
    cut(job, item, |cut| {
        *cut = None;
        Ok(())
    })
}

/// Adds a stroke to the cut-out of an item.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture.
pub fn cut_stroke(
    job: &Job,
    item: &ItemId,
    kind: CutStroke,
    brush: BrushSetting,
    way: &[Focus],
) -> Result<Command, Refusal> {
    let BrushSetting { radius, hardness, strength, .. } = brush;
    let stroke = |strength, erases| BrushStroke { points: way.to_vec(), radius, hardness, strength, erases };
    cut(job, item, |cut| {
        let cut = cut.get_or_insert_default();
        // What was said to the contrary holds only where nothing newer is said.
        let (said, contrary) = match kind {
            CutStroke::Keep => (&mut cut.keep, &mut cut.remove),
            CutStroke::Remove => (&mut cut.remove, &mut cut.keep),
            CutStroke::Hide | CutStroke::Show => {
                cut.painted.push(stroke(strength, kind == CutStroke::Show));
                return Ok(());
            }
        };
        said.push(stroke(Ratio::ONE, false));
        if !contrary.is_empty() {
            contrary.push(stroke(Ratio::ONE, true));
        }
        Ok(())
    })
}

/// Changes the edge of the cut-out of an item.
///
/// # Errors
/// [`Refusal`] where the item is not there or is not cut out.
pub fn change_cut(job: &Job, item: &ItemId, change: CutChange) -> Result<Command, Refusal> {
    cut(job, item, |cut| {
        let cut = cut.as_mut().ok_or(Refusal::NotCutOut)?;
        cut.softness = change.softness.unwrap_or(cut.softness);
        cut.shift = change.shift.unwrap_or(cut.shift);
        Ok(())
    })
}
