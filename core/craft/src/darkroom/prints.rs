//! Prints: what something looks like after some steps, at a size.

use std::sync::Arc;

use kurbo::Rect;
use vatman_document::{Content, Develop, Focus, Job, PictureSource, Plain, Tint, Treatment};
use vatman_output::{ScenePart, render_part, svg_path_data};
use vatman_photo::Straight;
use vatman_scene::{Audience, Scene, bunch_of};
use vatman_units::Ratio;

use crate::arrange::group::side_with;
use crate::darkroom::steps::set_steps;
use crate::darkroom::subject::Subject;
use crate::refusal::Refusal;
use crate::studio::Studio;

/// Pixels across at which tones and colours are read.
pub(crate) const READ: u32 = 640;

/// What something looks like after some steps.
#[derive(Debug, Clone)]
pub struct Print {
    /// The pixels.
    pub pixels: Arc<Straight>,
    /// What places in the steps are fractions of, in pixels of the original or units of the sheet: width and height.
    pub field: (f64, f64),
    /// What lengths in the steps are fractions of, in the same units.
    pub longer: f64,
    /// Where it is found at every size, where it is a picture; else where the pixels lie.
    pub from: PrintedFrom,
}

/// What a print is of.
#[derive(Debug, Clone)]
pub enum PrintedFrom {
    /// A picture.
    Picture(Arc<PictureSource>),
    /// A part of a sheet.
    Sheet {
        /// What the pixels cover, in CSS pixels of the sheet.
        area: Rect,
        /// What places in the steps are fractions of.
        field: Rect,
        /// The outline it is seen through, as SVG path data; empty where it is seen whole.
        outline: String,
    },
}

impl Print {
    /// Where a place in the steps lies in the pixels, from the left and the top.
    fn place(&self, at: Focus) -> (f64, f64) {
        let (w, h) = (f64::from(self.pixels.width()), f64::from(self.pixels.height()));
        match &self.from {
            PrintedFrom::Picture(_) => (at.x.get() * w, at.y.get() * h),
            PrintedFrom::Sheet { area, field, .. } => (
                (field.x0 + at.x.get() * field.width() - area.x0) / area.width() * w,
                (field.y0 + at.y.get() * field.height() - area.y0) / area.height() * h,
            ),
        }
    }

    /// The colour at a place, on the mean of 5 by 5 pixels; nothing where it is clear.
    #[must_use]
    pub fn colour_at(&self, at: Focus) -> Option<[u8; 3]> {
        let (x, y) = self.place(at);
        let middle = |at: f64, whole: u32| at.clamp(0.0, f64::from(whole - 1)) as u32;
        let (x, y) = (middle(x, self.pixels.width()), middle(y, self.pixels.height()));
        let around = |at: u32| (at.saturating_sub(2), at + 3);
        self.pixels.mean(around(x), around(y))
    }
}

/// What a subject looks like after some steps, about so many pixels across.
///
/// # Errors
/// [`Refusal`] where it is not there, or shows no picture that can be read.
pub fn print_of(
    job: &Job,
    subject: Subject<'_>,
    steps: &[Treatment],
    wide: u32,
    studio: &Studio,
) -> Result<Print, Refusal> {
    if let Subject::Items(items) = subject {
        let plain = job.find(items.first().ok_or(Refusal::NothingSelected)?)?.plain()?;
        if matches!(plain.content, Content::Picture { .. }) {
            return picture_print(job, &plain, steps, wide, studio);
        }
    }
    sheet_print(job, subject, steps, wide, studio)
}

fn picture_print(
    job: &Job,
    plain: &Plain<'_>,
    steps: &[Treatment],
    wide: u32,
    studio: &Studio,
) -> Result<Print, Refusal> {
    let source = source_of(job, plain, steps)?;
    let info = studio.pictures.info(&source.asset).ok_or(Refusal::NoPicture)?;
    let by = (f64::from(wide) / f64::from(info.width)).min(1.0);
    let scaled = |side: u32| ((f64::from(side) * by).round() as u32).max(1);
    let pixels = studio.pictures.print(&source, (scaled(info.width), scaled(info.height))).ok_or(Refusal::NoPicture)?;
    let (w, h) = (f64::from(info.width), f64::from(info.height));
    Ok(Print { pixels, field: (w, h), longer: w.max(h), from: PrintedFrom::Picture(source) })
}

fn sheet_print(
    job: &Job,
    subject: Subject<'_>,
    steps: &[Treatment],
    wide: u32,
    studio: &Studio,
) -> Result<Print, Refusal> {
    // Where nothing is done, it is all the same drawn as if something were.
    let nothing = [Treatment::new(Develop::Tone { brightness: Ratio::ZERO, contrast: Ratio::ZERO })];
    let steps = if steps.iter().all(Treatment::is_idle) { &nothing } else { steps };
    let mut now = job.clone();
    set_steps(job, subject, steps)?.apply(&mut now, studio)?;
    let (piece, side) = match subject {
        Subject::Items(items) => {
            let found = now.find(items.first().ok_or(Refusal::NothingSelected)?)?;
            (found.piece, found.side)
        }
        Subject::Group(group) => {
            let side = side_with(&now, group)?.id.clone();
            now.side(&side).ok_or_else(|| Refusal::Missing("side", side.to_string()))?
        }
    };
    let scene = studio.scene(&now, piece, side, Audience::Stage, None);
    let alone;
    let part = match subject {
        Subject::Items(items) => {
            let first = items.first().ok_or(Refusal::NothingSelected)?;
            if matches!(now.find(first)?.plain()?.content, Content::Shape { .. }) {
                ScenePart::Behind(first)
            } else {
                alone = bunch_of(first).ok_or(Refusal::NotSeen)?;
                ScenePart::Bunch(&alone)
            }
        }
        Subject::Group(group) => ScenePart::Bunch(group),
    };
    let (field, outline) = field_of(&scene, part).ok_or(Refusal::NotSeen)?;
    let area = vatman_output::part_area(&scene, part, 1.0).ok_or(Refusal::NotSeen)?;
    let library = studio.typesetter.library();
    let scale = f64::from(wide) / area.width();
    let drawn = render_part(&scene, part, scale, library.as_ref(), &studio.pictures).map_err(|_| Refusal::NotSeen)?;
    let (pixels, area) = drawn.ok_or(Refusal::NotSeen)?;
    Ok(Print {
        pixels: Arc::new(pixels.straight()),
        field: (field.width(), field.height()),
        longer: scene.size.width.max(scene.size.height),
        from: PrintedFrom::Sheet { area, field, outline },
    })
}

/// What places in the steps of a part are fractions of, and the outline it is seen through.
fn field_of(scene: &Scene, part: ScenePart<'_>) -> Option<(Rect, String)> {
    match part {
        ScenePart::Bunch(id) => {
            let bunch = scene.bunches.iter().find(|bunch| bunch.id == *id)?;
            Some((bunch.filter.as_ref()?.field, String::new()))
        }
        ScenePart::Behind(id) => {
            let behind = scene.items.iter().find(|item| item.id == *id)?.behind.as_ref()?;
            Some((behind.filter.field, svg_path_data(&behind.outline)))
        }
    }
}

/// The picture of an item with what is done to it, as it lies before it is set upright: places in its steps are places of the original.
///
/// # Errors
/// [`Refusal`] where it shows none.
pub fn source_of(job: &Job, plain: &Plain<'_>, steps: &[Treatment]) -> Result<Arc<PictureSource>, Refusal> {
    let picture = plain.content.picture().ok_or(Refusal::NoPicture)?;
    let color = |tint: &Tint| job.color(tint);
    let own = PictureSource::of(picture.clone(), &plain.look, color);
    Ok(Arc::new(PictureSource { treatments: PictureSource::resolved(steps, color), upright: None, ..own }))
}
