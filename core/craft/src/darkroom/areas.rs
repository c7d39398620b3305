//! Masks by hand: what a press, a drag or a stroke makes of a mask.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{
    Area, AssetId, BrushStroke, Color, Command, Focus, ItemId, Job, Joining, Mask, MaskArea, Tint, Treatment,
};
use vatman_units::{Angle, Ratio};

use crate::darkroom::prints::{READ, print_of};
use crate::darkroom::steps::{model, set_step};
use crate::darkroom::subject::Subject;
use crate::refusal::Refusal;
use crate::studio::Studio;

/// A kind of area a hand can add to a mask.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum AreaKind {
    /// From nothing at one point to all at another: a drag between them.
    Linear,
    /// An ellipse: a drag from its middle outwards.
    Radial,
    /// Tones, starting with the light ones.
    Light,
    /// A colour: a press on it.
    Colour,
}

/// How a brush that paints masks is set.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct BrushSetting {
    /// Radius, a fraction of the longer side.
    pub radius: Ratio,
    /// How much of the radius is full, 0 to 1.
    pub hardness: Ratio,
    /// 0 to 1.
    pub strength: Ratio,
    /// Takes away instead of adding.
    pub erases: bool,
}

impl BrushSetting {
    /// As it starts.
    #[must_use]
    pub fn starting() -> Self {
        Self { radius: Ratio::new(0.06), hardness: Ratio::new(0.4), strength: Ratio::ONE, erases: false }
    }

    /// As it starts where it patches spots.
    #[must_use]
    pub fn for_spots() -> Self {
        Self { radius: Ratio::new(0.015), hardness: Ratio::ONE, ..Self::starting() }
    }
}

/// A drag shorter than this fraction of the longer side is a press.
const PRESS: f64 = 0.01;

/// A mask of nothing.
#[must_use]
pub fn blank_mask() -> Mask {
    Mask { areas: Vec::new(), inverted: false, density: Ratio::ONE, feather: Ratio::ZERO }
}

/// An area as a drag over a field of a size makes it (`longer` is what lengths are fractions of, in its units); nothing where it went
/// nowhere.
fn area_of(kind: AreaKind, way: &[Focus], (width, height): (f64, f64), longer: f64) -> Option<Area> {
    let (from, to) = (*way.first()?, *way.last()?);
    let across = (to.x.get() - from.x.get()).abs() * width / longer;
    let down = (to.y.get() - from.y.get()).abs() * height / longer;
    let moved = across.hypot(down) >= PRESS;
    match kind {
        AreaKind::Linear => moved.then_some(Area::Linear { from, to }),
        // A drag straight across or down still makes an ellipse.
        AreaKind::Radial => moved.then(|| Area::Radial {
            centre: from,
            across: Ratio::new(across.max(down * 0.2)),
            down: Ratio::new(down.max(across * 0.2)),
            turn: Angle::ZERO,
            softness: Ratio::HALF,
        }),
        AreaKind::Light => Some(Area::Light { from: Ratio::new(0.6), to: Ratio::ONE, softness: Ratio::new(0.15) }),
        AreaKind::Colour => None,
    }
}

/// Adds an area to the mask of a step, which gets one if it has none. A drag that went nowhere changes nothing.
///
/// # Errors
/// [`Refusal`] where the step is not there, or a colour is wanted where nothing is seen.
pub fn add_area(
    job: &Job,
    subject: Subject<'_>,
    at: usize,
    (kind, way): (AreaKind, &[Focus]),
    studio: &Studio,
) -> Result<Command, Refusal> {
    let steps = model(job, subject, at)?;
    let area = if kind == AreaKind::Colour {
        // A mask looks at the picture as it is before its step: that is where the colour is read.
        let print = print_of(job, subject, &steps[..at], READ, studio)?;
        let [r, g, b] = way.last().and_then(|at| print.colour_at(*at)).ok_or(Refusal::NoPicture)?;
        let tint = Tint::Own(Color::opaque(r, g, b));
        Some(Area::Colour { tint, reach: Ratio::new(0.08), softness: Ratio::new(0.06) })
    } else {
        let print = print_of(job, subject, &[], READ, studio)?;
        area_of(kind, way, print.field, print.longer)
    };
    let Some(area) = area else { return Ok(Command::All { commands: Vec::new() }) };
    let mut step = steps[at].clone();
    step.mask.get_or_insert_with(blank_mask).areas.push(MaskArea { area, joins: Joining::Add });
    set_step(job, subject, at, &step)
}

/// Adds what was found to be the subject to the mask of a step of a picture.
///
/// # Errors
/// [`Refusal`] where the step is not there or the item shows no picture.
pub fn add_subject(job: &Job, item: &ItemId, at: usize, found: &AssetId) -> Result<Command, Refusal> {
    let subject = Subject::Items(std::slice::from_ref(item));
    job.find(item)?.plain()?.content.picture().ok_or(Refusal::NoPicture)?;
    let mut step = model(job, subject, at)?[at].clone();
    let area = Area::Subject { mask: found.clone() };
    step.mask.get_or_insert_with(blank_mask).areas.push(MaskArea { area, joins: Joining::Add });
    set_step(job, subject, at, &step)
}

/// Paints a stroke into the mask of a step: into the painted area that is last, else into a new one.
///
/// # Errors
/// [`Refusal`] where the step is not there.
pub fn paint_mask(
    job: &Job,
    subject: Subject<'_>,
    at: usize,
    way: &[Focus],
    brush: BrushSetting,
) -> Result<Command, Refusal> {
    let mut step: Treatment = model(job, subject, at)?[at].clone();
    let BrushSetting { radius, hardness, strength, erases } = brush;
    let stroke = BrushStroke { points: way.to_vec(), radius, hardness, strength, erases };
    let areas = &mut step.mask.get_or_insert_with(blank_mask).areas;
    match areas.last_mut() {
        Some(MaskArea { area: Area::Brush { strokes }, .. }) => strokes.push(stroke),
        _ => areas.push(MaskArea { area: Area::Brush { strokes: vec![stroke] }, joins: Joining::Add }),
    }
    set_step(job, subject, at, &step)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn spot(x: f64, y: f64) -> Focus {
        Focus { x: Ratio::new(x), y: Ratio::new(y) }
    }

    #[test]
    fn a_drag_makes_an_area_of_its_size_whatever_the_shape_of_the_picture() {
        let way = [spot(0.5, 0.5), spot(0.7, 0.4)];
        let Some(Area::Radial { across, down, centre, .. }) = area_of(AreaKind::Radial, &way, (200.0, 100.0), 200.0)
        else {
            panic!("no ellipse")
        };
        assert_eq!((across, down, centre), (Ratio::new(0.2), Ratio::new(0.05), way[0]));
        let flat = [spot(0.5, 0.5), spot(0.9, 0.5)];
        let Some(Area::Radial { across, down, .. }) = area_of(AreaKind::Radial, &flat, (100.0, 100.0), 100.0) else {
            panic!("no ellipse")
        };
        assert_eq!((across, down), (Ratio::new(0.4), Ratio::new(0.08)));
    }

    #[test]
    fn a_press_is_no_drag() {
        let press = [spot(0.5, 0.5), spot(0.505, 0.5)];
        assert_eq!(area_of(AreaKind::Linear, &press, (100.0, 100.0), 100.0), None);
        assert_eq!(area_of(AreaKind::Radial, &press, (100.0, 100.0), 100.0), None);
        assert!(area_of(AreaKind::Linear, &[spot(0.5, 0.5), spot(0.515, 0.5)], (100.0, 100.0), 100.0).is_some());
        assert!(area_of(AreaKind::Light, &press, (100.0, 100.0), 100.0).is_some());
    }
}
