//! Spots of a picture filled from their surroundings, where a hand paints over them.

use vatman_document::{BrushStroke, Command, Develop, Focus, ItemId, Job, SpotPatch};
use vatman_photo::find_spot;
use vatman_units::Ratio;

use crate::darkroom::areas::BrushSetting;
use crate::darkroom::prints::{PrintedFrom, print_of};
use crate::darkroom::steps::{model, set_step};
use crate::darkroom::subject::Subject;
use crate::refusal::Refusal;
use crate::studio::Studio;

/// Pixels across in which what fills a spot is looked for.
const LOOKED: u32 = 2_000;

/// Fills what a stroke covers, as the picture is before the step; a spot painted over again is filled anew.
///
/// # Errors
/// [`Refusal`] where the step is not there or fills no spots, the item shows no picture, or there is nothing around the stroke it
/// could be filled from.
pub fn paint_spot(
    job: &Job,
    item: &ItemId,
    at: usize,
    (brush, way): (BrushSetting, &[Focus]),
    studio: &Studio,
) -> Result<Command, Refusal> {
    let subject = Subject::Items(std::slice::from_ref(item));
    let steps = model(job, subject, at)?;
    let mut step = steps[at].clone();
    let Develop::Spots { spots } = &mut step.develop else {
        return Err(Refusal::Missing("step", (at + 1).to_string()));
    };
    // What was filled before is part of what this is filled from.
    let print = print_of(job, subject, &steps[..=at], LOOKED, studio)?;
    if !matches!(print.from, PrintedFrom::Picture(_)) {
        return Err(Refusal::NoPicture);
    }
    let stroke = BrushStroke {
        points: way.to_vec(),
        radius: brush.radius,
        hardness: Ratio::ONE,
        strength: Ratio::ONE,
        erases: false,
    };
    let spot: SpotPatch = find_spot(&print.pixels, stroke);
    if spot.copies.is_empty() {
        return Err(Refusal::NoSurroundings);
    }
    spots.push(spot);
    set_step(job, subject, at, &step)
}

/// Takes back the spot that was filled last.
///
/// # Errors
/// [`Refusal`] where the step is not there or fills no spots.
pub fn drop_spot(job: &Job, item: &ItemId, at: usize) -> Result<Command, Refusal> {
    let subject = Subject::Items(std::slice::from_ref(item));
    let mut step = model(job, subject, at)?[at].clone();
    let Develop::Spots { spots } = &mut step.develop else {
        return Err(Refusal::Missing("step", (at + 1).to_string()));
    };
    spots.pop();
    set_step(job, subject, at, &step)
}
