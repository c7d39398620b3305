//! Changing what is done to pictures, to what lies behind shapes, and to groups.

use vatman_document::{Area, AssetId, Command, Develop, Focus, ItemId, Job, Joining, Mask, MaskArea, Treatment};
use vatman_units::Ratio;

use crate::darkroom::areas::blank_mask;
use crate::darkroom::kinds::kinds;
use crate::darkroom::prints::{READ, print_of};
use crate::darkroom::subject::Subject;
use crate::darkroom::tones::{auto_levels, balance_for};
use crate::refusal::Refusal;
use crate::studio::Studio;

/// A step of a kind as it starts; nothing where there is no such kind.
#[must_use]
pub fn starting(kind: &str) -> Option<Treatment> {
    let card = kinds().into_iter().find(|card| card.kind == kind)?;
    // What is made clear fades out downwards: clear everywhere, it would be gone.
    let fades = matches!(card.start, Develop::Clear {}).then(|| {
        let at = |y: f64| Focus { x: Ratio::HALF, y: Ratio::new(y) };
        let area = Area::Linear { from: at(0.45), to: at(0.95) };
        Mask { areas: vec![MaskArea { area, joins: Joining::Add }], ..blank_mask() }
    });
    Some(Treatment { mask: fades, ..Treatment::new(card.start) })
}

/// Adds a step at the end of the lists of pictures.
///
/// # Errors
/// [`Refusal`] where an item is not there, there is no such kind, or it wants a picture, which [`lay_over`] takes.
pub fn add_step(job: &Job, subject: Subject<'_>, kind: &str) -> Result<Command, Refusal> {
    let step = starting(kind).ok_or_else(|| Refusal::Missing("step", kind.to_owned()))?;
    match (&step.develop, subject) {
        (Develop::Overlay { .. }, _) => return Err(Refusal::NoOverlay),
        (Develop::Spots { .. }, Subject::Group(_)) => return Err(Refusal::NoPicture),
        (Develop::Spots { .. }, Subject::Items(items)) => {
            for item in items {
                job.find(item)?.plain()?.content.picture().ok_or(Refusal::NoPicture)?;
            }
        }
        _ => {}
    }
    subject.treated(job, |list| list.push(step.clone()))
}

/// Lays another picture over, as the last step.
///
/// # Errors
/// [`Refusal`] where an item is not there.
pub fn lay_over(job: &Job, subject: Subject<'_>, over: &AssetId) -> Result<Command, Refusal> {
    let mut step = starting("overlay").ok_or(Refusal::NoOverlay)?;
    if let Develop::Overlay { picture, .. } = &mut step.develop {
        picture.clone_from(over);
    }
    subject.treated(job, |list| list.push(step.clone()))
}

/// Where the step is in a list that the first item has at a place of its own: the same kind, counted from the front.
fn same(model: &[Treatment], at: usize, list: &[Treatment]) -> Option<usize> {
    let kind = |step: &Treatment| std::mem::discriminant::<Develop>(&step.develop);
    let wanted = kind(model.get(at)?);
    let before = model[..at].iter().filter(|step| kind(step) == wanted).count();
    let alike = list.iter().enumerate().filter(|(_, step)| kind(step) == wanted);
    alike.map(|(at, _)| at).nth(before)
}

pub(crate) fn model(job: &Job, subject: Subject<'_>, at: usize) -> Result<Vec<Treatment>, Refusal> {
    let list = subject.steps(job)?;
    if at < list.len() { Ok(list) } else { Err(Refusal::Missing("step", (at + 1).to_string())) }
}

/// Puts another step in the place of one that the first item has, and in that of the same step of the others.
///
/// # Errors
/// [`Refusal`] where an item or the step is not there.
pub fn set_step(job: &Job, subject: Subject<'_>, at: usize, step: &Treatment) -> Result<Command, Refusal> {
    let model = model(job, subject, at)?;
    subject.treated(job, |list| {
        if let Some(at) = same(&model, at, list) {
            list[at] = step.clone();
        }
    })
}

/// Takes out a step.
///
/// # Errors
/// [`Refusal`] where an item or the step is not there.
pub fn drop_step(job: &Job, subject: Subject<'_>, at: usize) -> Result<Command, Refusal> {
    let model = model(job, subject, at)?;
    subject.treated(job, |list| {
        if let Some(at) = same(&model, at, list) {
            list.remove(at);
        }
    })
}

/// Moves a step to another place of the list.
///
/// # Errors
/// [`Refusal`] where an item or the step is not there.
pub fn move_step(job: &Job, subject: Subject<'_>, at: usize, to: usize) -> Result<Command, Refusal> {
    let model = model(job, subject, at)?;
    subject.treated(job, |list| {
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
pub fn set_steps(job: &Job, subject: Subject<'_>, steps: &[Treatment]) -> Result<Command, Refusal> {
    subject.treated(job, |list| *list = steps.to_vec())
}

/// Treats other pictures as one is: those of its side, or of the whole job.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture, or there is no other picture.
pub fn treat_alike(job: &Job, item: &ItemId, whole_job: bool) -> Result<Command, Refusal> {
    let found = job.find(item)?;
    let mut steps = found.plain()?.look.treatments.clone();
    // Spots and subjects are of this picture alone.
    steps.retain(|step| !step.is_of_one_picture());
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
    set_steps(job, Subject::Items(&others), &steps)
}

/// Levels found for a picture as it is, put in the place of its levels, else at the end.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture.
pub fn auto_step(job: &Job, subject: Subject<'_>, studio: &Studio) -> Result<Command, Refusal> {
    let steps = subject.steps(job)?;
    let at = steps.iter().position(|step| matches!(step.develop, Develop::Levels { .. })).unwrap_or(steps.len());
    let print = print_of(job, subject, &steps[..at], READ, studio)?;
    let found = auto_levels(&print.pixels).ok_or(Refusal::NoPicture)?;
    placed(job, subject, at, &found)
}

/// White balance that makes what is seen at a point of a picture grey, put in the place of its white balance, else first: light is put
/// right before anything else is done.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture.
pub fn neutral_step(job: &Job, subject: Subject<'_>, at: Focus, studio: &Studio) -> Result<Command, Refusal> {
    let steps = subject.steps(job)?;
    let own = steps.iter().position(|step| matches!(step.develop, Develop::WhiteBalance { .. }));
    let place = own.unwrap_or(0);
    let color = print_of(job, subject, &steps[..place], READ, studio)?.colour_at(at).ok_or(Refusal::NoPicture)?;
    let found = balance_for(color);
    if own.is_some() {
        placed(job, subject, place, &found)
    } else {
        let mut all = steps;
        all.insert(0, found);
        set_steps(job, subject, &all)
    }
}

fn placed(job: &Job, subject: Subject<'_>, at: usize, step: &Treatment) -> Result<Command, Refusal> {
    subject.treated(job, |list| if at < list.len() { list[at] = step.clone() } else { list.push(step.clone()) })
}
