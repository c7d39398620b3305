//! Changing what is done to the pictures of items.

use std::sync::Arc;

use vatman_document::{Command, Content, Develop, Focus, ItemId, Job, Look, PictureSource, Plain, Treatment};
use vatman_photo::Straight;

use crate::darkroom::kinds::kinds;
use crate::darkroom::tones::{auto_levels, balance_for};
use crate::edit::target::looks;
use crate::refusal::Refusal;
use crate::studio::Studio;

/// A step of a kind as it starts; nothing where there is no such kind.
#[must_use]
pub fn starting(kind: &str) -> Option<Treatment> {
    kinds().into_iter().find(|card| card.kind == kind).map(|card| Treatment::new(card.start))
}

fn treated(job: &Job, items: &[ItemId], change: impl Fn(&mut Vec<Treatment>)) -> Result<Command, Refusal> {
    if items.is_empty() {
        return Err(Refusal::NothingSelected);
    }
    looks(job, items, |plain, look: &mut Look| {
        if !matches!(plain.content, Content::Picture { .. }) {
            return Err(Refusal::NoPicture);
        }
        change(&mut look.treatments);
        Ok(())
    })
}

/// Adds a step at the end of the lists of pictures.
///
/// # Errors
/// [`Refusal`] where an item is not there or shows no picture, or there is no such kind.
pub fn add_step(job: &Job, items: &[ItemId], kind: &str) -> Result<Command, Refusal> {
    let step = starting(kind).ok_or_else(|| Refusal::Missing("step", kind.to_owned()))?;
    treated(job, items, |list| list.push(step.clone()))
}

/// Where the step is in a list that the first item has at a place of its own: the same kind, counted from the front.
fn same(model: &[Treatment], at: usize, list: &[Treatment]) -> Option<usize> {
    let kind = |step: &Treatment| std::mem::discriminant::<Develop>(&step.develop);
    let wanted = kind(model.get(at)?);
    let before = model[..at].iter().filter(|step| kind(step) == wanted).count();
    let alike = list.iter().enumerate().filter(|(_, step)| kind(step) == wanted);
    alike.map(|(at, _)| at).nth(before)
}

fn model(job: &Job, items: &[ItemId], at: usize) -> Result<Vec<Treatment>, Refusal> {
    let first = items.first().ok_or(Refusal::NothingSelected)?;
    let list = job.find(first)?.plain()?.look.treatments.clone();
    if at < list.len() { Ok(list) } else { Err(Refusal::Missing("step", (at + 1).to_string())) }
}

/// Puts another step in the place of one that the first item has, and in that of the same step of the others.
///
/// # Errors
/// [`Refusal`] where an item or the step is not there.
pub fn set_step(job: &Job, items: &[ItemId], at: usize, step: &Treatment) -> Result<Command, Refusal> {
    let model = model(job, items, at)?;
    treated(job, items, |list| {
        if let Some(at) = same(&model, at, list) {
            list[at] = step.clone();
        }
    })
}

/// Takes out a step.
///
/// # Errors
/// [`Refusal`] where an item or the step is not there.
pub fn drop_step(job: &Job, items: &[ItemId], at: usize) -> Result<Command, Refusal> {
    let model = model(job, items, at)?;
    treated(job, items, |list| {
        if let Some(at) = same(&model, at, list) {
            list.remove(at);
        }
    })
}

/// Moves a step to another place of the list.
///
/// # Errors
/// [`Refusal`] where an item or the step is not there.
pub fn move_step(job: &Job, items: &[ItemId], at: usize, to: usize) -> Result<Command, Refusal> {
    let model = model(job, items, at)?;
    treated(job, items, |list| {
        if let Some(at) = same(&model, at, list) {
            let step = list.remove(at);
            list.insert(to.min(list.len()), step);
        }
    })
}

/// Treats pictures in exactly these steps.
///
/// # Errors
/// [`Refusal`] where an item is not there or shows no picture.
pub fn set_steps(job: &Job, items: &[ItemId], steps: &[Treatment]) -> Result<Command, Refusal> {
    treated(job, items, |list| *list = steps.to_vec())
}

/// Treats other pictures as one is: those of its side, or of the whole job.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture, or there is no other picture.
pub fn treat_alike(job: &Job, item: &ItemId, whole_job: bool) -> Result<Command, Refusal> {
    let found = job.find(item)?;
    let steps = found.plain()?.look.treatments.clone();
    let sides = job.pieces.iter().flat_map(|piece| &piece.sides);
    let sides = sides.filter(|side| whole_job || side.id == found.side.id);
    let shows = |id: &ItemId| {
        let plain = job.find(id).ok()?.plain().ok()?;
        plain.content.picture().map(|_| ())
    };
    let others: Vec<ItemId> = sides
        .flat_map(|side| &side.items)
        .filter(|other| other.id != *item && !other.locked && shows(&other.id).is_some())
        .map(|other| other.id.clone())
        .collect();
    if others.is_empty() {
        return Err(Refusal::NoPicture);
    }
    set_steps(job, &others, &steps)
}

/// Pixels along the longer side at which tones and colours are read off a picture.
const READ: f64 = 640.0;

/// A picture of an item as it is shown after some steps, small.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture that can be read.
pub fn print_of(job: &Job, item: &ItemId, steps: &[Treatment], studio: &Studio) -> Result<Arc<Straight>, Refusal> {
    let source = source_of(job, &job.find(item)?.plain()?, steps)?;
    let info = studio.pictures.info(&source.asset).ok_or(Refusal::NoPicture)?;
    let by = (READ / f64::from(info.width.max(info.height))).min(1.0);
    let scaled = |side: u32| ((f64::from(side) * by).round() as u32).max(1);
    studio.pictures.print(&source, (scaled(info.width), scaled(info.height))).ok_or(Refusal::NoPicture)
}

/// The picture of an item with what is done to it.
///
/// # Errors
/// [`Refusal`] where it shows none.
pub fn source_of(job: &Job, plain: &Plain<'_>, steps: &[Treatment]) -> Result<Arc<PictureSource>, Refusal> {
    let picture = plain.content.picture().ok_or(Refusal::NoPicture)?;
    Ok(Arc::new(PictureSource::treated(picture.clone(), steps, |tint| job.color(tint))))
}

/// Levels found for a picture as it is, put in the place of its levels, else at the end.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture.
pub fn auto_step(job: &Job, item: &ItemId, studio: &Studio) -> Result<Command, Refusal> {
    let steps = job.find(item)?.plain()?.look.treatments.clone();
    let at = steps.iter().position(|step| matches!(step.develop, Develop::Levels { .. })).unwrap_or(steps.len());
    let print = print_of(job, item, &steps[..at], studio)?;
    let found = auto_levels(&print).ok_or(Refusal::NoPicture)?;
    placed(job, item, at, &found)
}

/// White balance that makes what is seen at a point of a picture grey, put in the place of its white balance, else first: light is put
/// right before anything else is done.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture.
pub fn neutral_step(job: &Job, item: &ItemId, at: Focus, studio: &Studio) -> Result<Command, Refusal> {
    let steps = job.find(item)?.plain()?.look.treatments.clone();
    let own = steps.iter().position(|step| matches!(step.develop, Develop::WhiteBalance { .. }));
    let place = own.unwrap_or(0);
    let print = print_of(job, item, &steps[..place], studio)?;
    let middle = |share: f64, whole: u32| (share * f64::from(whole)).clamp(0.0, f64::from(whole - 1)) as u32;
    let (x, y) = (middle(at.x.get(), print.width()), middle(at.y.get(), print.height()));
    let around = |at: u32| (at.saturating_sub(2), at + 3);
    let color = print.mean(around(x), around(y)).ok_or(Refusal::NoPicture)?;
    let found = balance_for(color);
    if own.is_some() {
        placed(job, item, place, &found)
    } else {
        let mut all = steps;
        all.insert(0, found);
        set_steps(job, std::slice::from_ref(item), &all)
    }
}

fn placed(job: &Job, item: &ItemId, at: usize, step: &Treatment) -> Result<Command, Refusal> {
    treated(job, std::slice::from_ref(item), |list| {
        if at < list.len() { list[at] = step.clone() } else { list.push(step.clone()) }
    })
}
