//! Developing: what the steps of a treatment do to pixels.
//!
//! A picture is developed in floating point, in the order of its steps, and cut off to bytes once, at the end. Steps that look at one
//! pixel only are done together, row by row, on all cores; the others see the whole picture. Lengths are fractions of the longer side,
//! so that a small picture of another comes out as a small picture of what comes out of it. The same picture and steps give the same
//! bytes on every machine and with any number of cores. docs/recipes.md states every formula.

mod blurring;
mod colour;
mod curves;
mod detail;
mod film;
mod finish;
mod light;
mod mask;
mod mixing;
mod noise;
pub(crate) mod oklab;
mod planes;
mod row;
mod spots;
mod table;
#[cfg(test)]
mod tests;
mod texture;
pub(crate) mod transfer;

use rayon::prelude::*;
use vatman_document::{AssetId, Develop, Treatment};

use crate::Straight;
use crate::wide::side_by_side;
use film::{Film, Rgb};
use row::{EachPixel, EachValue, Opening, Row, Values};

pub use colour::neutral_at;
pub use film::Window;
pub(crate) use mask::strokes_over;
pub(crate) use oklab::lab_of_linear;
pub(crate) use planes::{Plane, guided};
pub use spots::find_spot;

/// Where pictures come from that are laid over others: at most so many pixels along the longer side.
pub type Overlays<'a> = &'a (dyn Fn(&AssetId, u32) -> Option<std::sync::Arc<Straight>> + Sync);

/// What is done to the pixels of a row.
type RowFn = Box<dyn Fn(usize, &mut Row) + Send + Sync>;

/// What is done to the values of a channel, by its number.
type ValuesFn = Box<dyn Fn(usize, &mut [f32]) + Send + Sync>;

/// What a step does, made ready for a picture of a size.
enum Ready {
    /// Looks at each value by itself.
    Values(ValuesFn),
    /// Looks at each pixel by itself.
    Rows(RowFn),
    /// Looks at all, and then knows what to do to each row.
    Whole(Box<dyn Fn(&Film) -> RowFn + Send + Sync>),
    /// Looks at all of it made smaller: at means of squares of `by` pixels, with `room` squares of what lies on the edges beyond them.
    Small { by: usize, room: usize, looks: Box<dyn Fn(Plane<3>) -> RowFn + Send + Sync>, anew: bool },
}

impl Ready {
    /// The same to every value of every channel.
    fn values(does: impl EachValue + Send + Sync + 'static) -> Self {
        Self::Values(Box::new(move |_, channel| side_by_side(Values(channel, &does))))
    }

    /// The same to every pixel, many at once.
    fn each(does: impl EachPixel + Send + Sync + 'static) -> Self {
        Self::rows(move |_, row| row.each(&does))
    }

    fn pixel(does: impl Fn(Rgb) -> Rgb + Send + Sync + 'static) -> Self {
        Self::rows(move |_, row| row.pixels(|_, pixel| does(pixel)))
    }

    /// By column and row.
    fn placed(does: impl Fn(usize, usize, Rgb) -> Rgb + Send + Sync + 'static) -> Self {
        Self::rows(move |y, row| row.pixels(|x, pixel| does(x, y, pixel)))
    }

    fn rows(does: impl Fn(usize, &mut Row) + Send + Sync + 'static) -> Self {
        Self::Rows(Box::new(does))
    }

    /// Every pixel anew.
    fn whole(does: impl Fn(&Film) -> Vec<Rgb> + Send + Sync + 'static) -> Self {
        Self::Whole(Box::new(move |film| {
            let after = does(film);
            Box::new(move |y, row| {
                let width = row.len();
                row.take(&after[y * width..][..width]);
            })
        }))
    }

    fn small(by: usize, room: usize, looks: impl Fn(Plane<3>) -> RowFn + Send + Sync + 'static) -> Self {
        Self::Small { by, room, looks: Box::new(looks), anew: false }
    }

    /// The same where rows come from the small one alone.
    fn small_alone(by: usize, room: usize, looks: impl Fn(Plane<3>) -> RowFn + Send + Sync + 'static) -> Self {
        Self::Small { by, room, looks: Box::new(looks), anew: true }
    }

    /// What was read off the whole decides what is done to each row.
    fn looking(does: impl Fn(&Film) -> RowFn + Send + Sync + 'static) -> Self {
        Self::Whole(Box::new(does))
    }
}

/// How much of a step is taken, by pixel.
#[derive(Clone)]
struct Share {
    amount: f32,
    mask: Option<Vec<f32>>,
}

impl Share {
    fn is_whole(&self) -> bool {
        self.amount >= 1.0 && self.mask.is_none()
    }

    /// Takes its share of what became of a row.
    fn take(&self, y: usize, before: &mut Row, after: &Row) {
        let (amount, width) = (self.amount, before.len());
        match &self.mask {
            Some(mask) => {
                let mask = &mask[y * width..][..width];
                before.go_on_to(after, |x| amount * mask[x]);
            }
            None => before.go_on_to(after, |_| amount),
        }
    }
}

/// What a waiting step does: to the values of each channel by themselves, or to a row as a whole.
enum Does {
    ToValues(ValuesFn),
    ToRow(RowFn),
}

/// A step that waits for its turn with each row.
struct Waiting {
    does: Does,
    share: Share,
    /// It writes rows without looking at what was in them.
    anew: bool,
}

impl Waiting {
    fn new(does: RowFn, share: Share) -> Self {
        Self { does: Does::ToRow(does), share, anew: false }
    }

    /// What becomes of a value depends on nothing but the value.
    fn is_by_value(&self) -> bool {
        matches!(self.does, Does::ToValues(_)) && self.share.mask.is_none()
    }

    fn apply(&self, y: usize, row: &mut Row) {
        match &self.does {
            Does::ToValues(does) => {
                row.slices().into_iter().enumerate().for_each(|(number, channel)| does(number, channel));
            }
            Does::ToRow(does) => does(y, row),
        }
    }

    /// Nothing is left of what was there.
    fn replaces(&self) -> bool {
        self.anew && self.share.is_whole()
    }
}

/// Develops a picture. Steps that are off or at an amount of 0 leave every byte as it is; those whose other picture is not there are
/// left out.
#[must_use]
pub fn develop(picture: &Straight, treatments: &[Treatment], overlays: Overlays<'_>) -> Straight {
    steps(picture, Window::whole(picture.width(), picture.height()), treatments, overlays, false)
}

/// Develops what has been drawn: as a picture, but what is clear is clear paper. Steps that spread what is seen spread its edges, too.
#[must_use]
pub fn develop_layer(layer: &Straight, window: Window, treatments: &[Treatment], overlays: Overlays<'_>) -> Straight {
    steps(layer, window, treatments, overlays, true)
}

fn steps(
    picture: &Straight,
    window: Window,
    treatments: &[Treatment],
    overlays: Overlays<'_>,
    edges_spread: bool,
) -> Straight {
    let mut at_work = treatments.iter().filter(|treatment| !treatment.is_idle()).peekable();
    if at_work.peek().is_none() {
        return picture.clone();
    }
    let mut film = Film { window, ..Film::blank(picture) };
    let mut waiting: Vec<Waiting> = Vec::new();
    for treatment in at_work {
        if treatment.develop == (Develop::Clear {}) {
            if treatment.mask.as_ref().is_some_and(mask::looks) {
                run(&mut film, picture, &mut waiting);
            }
            let mask = treatment.mask.as_ref().map(|mask| mask::coverage(mask, &film, overlays));
            film.make_clear(treatment.amount.get() as f32, mask.as_deref());
            continue;
        }
        let Some(made) = ready(&treatment.develop, &film, overlays) else { continue };
        // A mask may look at the picture as it has become.
        if treatment.mask.as_ref().is_some_and(mask::looks) {
            run(&mut film, picture, &mut waiting);
        }
        let share = Share {
            amount: treatment.amount.get() as f32,
            mask: treatment.mask.as_ref().map(|mask| mask::coverage(mask, &film, overlays)),
        };
        match made {
            Ready::Values(does) => waiting.push(Waiting { does: Does::ToValues(does), share, anew: false }),
            Ready::Rows(does) => waiting.push(Waiting::new(does, share)),
            Ready::Small { by, room, looks, anew } => {
                if !waiting.is_empty() {
                    run(&mut film, picture, &mut waiting);
                }
                let does = looks(film.shrunk(picture, by, room));
                waiting.push(Waiting { anew, ..Waiting::new(does, share) });
            }
            Ready::Whole(looks) => {
                run(&mut film, picture, &mut waiting);
                let spreads = edges_spread && treatment.develop.spreads() && film.alpha.is_some();
                if !spreads {
                    waiting.push(Waiting::new(looks(&film), share));
                    continue;
                }
                if !matches!(treatment.develop, Develop::Blur { .. }) {
                    film.lend_colours();
                }
                waiting.push(Waiting::new(looks(&film), share.clone()));
                let linear = spreads_light(&treatment.develop);
                if let (Some(mut cover), Some(Ready::Whole(looks))) =
                    (film.cover(linear), ready(&without_shine(&treatment.develop), &film, overlays))
                {
                    let mut own = vec![Waiting::new(looks(&cover), share)];
                    run(&mut cover, picture, &mut own);
                    run(&mut film, picture, &mut waiting);
                    film.set_cover(&cover, linear);
                }
            }
        }
    }
    finish(film, picture, &waiting)
}

/// Whether a step that spreads what is seen does so in linear light.
fn spreads_light(develop: &Develop) -> bool {
    matches!(develop, Develop::LensBlur { .. } | Develop::Motion { .. } | Develop::Zoom { .. })
}

/// The same step where nothing outshines anything.
fn without_shine(develop: &Develop) -> Develop {
    match develop {
        Develop::LensBlur { radius, .. } => Develop::LensBlur { radius: *radius, shine: vatman_units::Ratio::ZERO },
        other => other.clone(),
    }
}

/// Does all steps that wait, row by row: each is a tight loop over memory that stays near. Pixels that were not looked at yet are taken
/// from the picture on the way.
fn run(film: &mut Film, picture: &Straight, waiting: &mut Vec<Waiting>) {
    if film.pixels.is_empty() {
        let (opening, rest) = opening(waiting);
        film.load(picture, &opening, |y, row, spare| stepped(y, row, rest, spare));
    } else if !waiting.is_empty() {
        let rows = film.pixels.par_chunks_exact_mut(film.width).enumerate();
        rows.for_each_init(Default::default, |(row, spare): &mut (Row, Row), (y, pixels)| {
            row.take(pixels);
            stepped(y, row, waiting, spare);
            row.put(pixels);
        });
    }
    waiting.clear();
}

/// The steps that wait done to one row.
fn stepped(y: usize, row: &mut Row, waiting: &[Waiting], spare: &mut Row) {
    for step in waiting {
        if step.share.is_whole() {
            step.apply(y, row);
        } else {
            spare.clone_from(row);
            step.apply(y, spare);
            step.share.take(y, row, spare);
        }
    }
}

/// Steps at the front that look at values alone are done to the 256 values of bytes once, and then to no pixel; and the steps that are
/// left.
fn opening(waiting: &[Waiting]) -> (Opening, &[Waiting]) {
    let (first, rest) = waiting.split_at(waiting.iter().take_while(|step| step.is_by_value()).count());
    let mut opening = Opening::default();
    if !first.is_empty() {
        opening.change(|row, spare| stepped(0, row, first, spare));
    }
    (opening, rest)
}

/// Does all steps that wait and goes back to bytes, each row while it is near. Where nothing ever looked at the whole, no more than a
/// row of it is held at a time.
fn finish(film: Film, picture: &Straight, waiting: &[Waiting]) -> Straight {
    let Film { width, height, pixels, alpha, .. } = film;
    let mut data = vec![0; width * height * 4];
    let alpha_of = |y: usize| alpha.as_ref().map(|alpha| &alpha[y * width..][..width]);
    let (opening, rest) = if pixels.is_empty() { opening(waiting) } else { (Opening::default(), waiting) };
    let out = data.par_chunks_exact_mut(width * 4).enumerate();
    out.for_each_init(Default::default, |(row, spare): &mut (Row, Row), (y, out)| {
        if waiting.first().is_some_and(Waiting::replaces) {
            row.resize(width);
        } else if pixels.is_empty() {
            opening.take(&picture.data()[y * width * 4..][..width * 4], row);
        } else {
            row.take(&pixels[y * width..][..width]);
        }
        stepped(y, row, rest, spare);
        row.put_bytes(alpha_of(y), out);
    });
    Straight { width: width as u32, height: height as u32, data }
}

/// Makes a step ready; nothing where it does nothing.
fn ready(develop: &Develop, film: &Film, overlays: Overlays<'_>) -> Option<Ready> {
    match develop {
        Develop::Exposure { .. }
        | Develop::Tone { .. }
        | Develop::Ranges { .. }
        | Develop::Curves { .. }
        | Develop::Levels { .. } => light::ready(develop),
        Develop::WhiteBalance { .. }
        | Develop::Colour { .. }
        | Develop::Mixer { .. }
        | Develop::SplitTone { .. }
        | Develop::Mono { .. }
        | Develop::ToneMap { .. }
        | Develop::Wash { .. } => colour::ready(develop),
        Develop::Sharpen { .. }
        | Develop::LocalContrast { .. }
        | Develop::ToneContrast { .. }
        | Develop::Denoise { .. }
        | Develop::Haze { .. } => detail::ready(develop, film),
        Develop::Blur { .. }
        | Develop::LensBlur { .. }
        | Develop::FocusSpot { .. }
        | Develop::FocusBand { .. }
        | Develop::Motion { .. }
        | Develop::Zoom { .. }
        | Develop::Pixelate { .. } => blurring::ready(develop, film),
        Develop::Grain { .. }
        | Develop::Vignette { .. }
        | Develop::Leak { .. }
        | Develop::Fade { .. }
        | Develop::Glow { .. }
        | Develop::Halftone { .. }
        | Develop::Posterise { .. } => finish::ready(develop, film),
        Develop::Texture { .. } => texture::ready(develop, film),
        Develop::Spots { spots } => spots::ready(spots),
        // It has no colours of its own.
        Develop::Clear {} => None,
        Develop::Overlay { picture, blend, centre, scale, turn } => {
            let longer = (film.longer() * scale.get()).ceil().clamp(1.0, 20_000.0) as u32;
            let over = overlays(picture, longer)?;
            Some(finish::overlay(over, *blend, *centre, (*scale, *turn), film))
        }
    }
}
