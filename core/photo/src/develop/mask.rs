//! Masks: how much of a step is taken where, from gradients, ellipses, tones, colours and the strokes of a brush.

use rayon::prelude::*;
use vatman_document::{Area, BrushStroke, Focus, Joining, Mask};

use super::Overlays;
use super::colour::{encoded, smooth};
use super::film::{Film, luma};
use super::oklab::lab_of_linear;
use super::planes::Plane;
use super::transfer;
use crate::Straight;

/// Whether a mask depends on what the picture looks like.
pub(super) fn looks(mask: &Mask) -> bool {
    mask.areas.iter().any(|area| matches!(area.area, Area::Light { .. } | Area::Colour { .. }))
}

/// How much of a step is taken at each pixel, 0 to 1.
pub(super) fn coverage(mask: &Mask, film: &Film, pictures: Overlays<'_>) -> Vec<f32> {
    let count = film.count();
    let mut whole = vec![0.0f32; count];
    for part in &mask.areas {
        let own = area(&part.area, film, pictures);
        whole.par_iter_mut().zip(&own).for_each(|(whole, own)| {
            *whole = match part.joins {
                Joining::Add => *whole + own - *whole * own,
                Joining::Take => *whole * (1.0 - own),
                Joining::Both => *whole * own,
            };
        });
    }
    let sigma = mask.feather.get() * film.longer();
    if sigma > 0.05 {
        let soft = Plane::of(film.width, film.height, whole).blurred(sigma);
        whole = soft.data.into_iter().map(|[value]| value).collect();
    }
    let density = mask.density.get() as f32;
    whole.par_iter_mut().for_each(|value| {
        let own = if mask.inverted { 1.0 - *value } else { *value };
        *value = own.clamp(0.0, 1.0) * density;
    });
    whole
}

/// How far a mask that does not look at a picture covers each pixel of one of a size.
pub(crate) fn strokes_over(mask: &Mask, (width, height): (u32, u32)) -> Vec<f32> {
    let (w, h) = (width as usize, height as usize);
    let window = super::film::Window::whole(width, height);
    coverage(mask, &Film { width: w, height: h, pixels: Vec::new(), alpha: None, window }, &|_, _| None)
}

fn area(area: &Area, film: &Film, pictures: Overlays<'_>) -> Vec<f32> {
    let (w, longer) = (film.width, film.longer() as f32);
    let each = |value: &(dyn Fn(usize, f32, f32) -> f32 + Sync)| -> Vec<f32> {
        let all = (0..film.count()).into_par_iter();
        all.map(|at| value(at, (at % w) as f32 + 0.5, (at / w) as f32 + 0.5)).collect()
    };
    let place = |point: Focus| film.place(point);
    match area {
        Area::Linear { from, to } => {
            let (from, to) = (place(*from), place(*to));
            let way = (to.0 - from.0, to.1 - from.1);
            let square = (way.0 * way.0 + way.1 * way.1).max(1e-6);
            each(&|_, x, y| smooth(((x - from.0) * way.0 + (y - from.1) * way.1) / square))
        }
        Area::Radial { centre, across, down, turn, softness } => {
            let (cx, cy) = place(*centre);
            let (sin, cos) = (turn.to_radians() as f32).sin_cos();
            let size = [across, down].map(|value| (value.get() as f32 * longer).max(1e-3));
            let soft = (softness.get() as f32).max(0.01);
            each(&|_, x, y| {
                let (dx, dy) = (x - cx, y - cy);
                let far = ((dx * cos + dy * sin) / size[0]).hypot((dy * cos - dx * sin) / size[1]);
                1.0 - smooth((far - (1.0 - soft)) / soft)
            })
        }
        Area::Light { from, to, softness } => {
            let [from, to, soft] = [from, to, softness].map(|value| value.get() as f32);
            let soft = soft.max(0.004);
            each(&|at, _, _| {
                let light = luma(film.pixels[at]);
                smooth((light - from) / soft + 1.0) * smooth((to - light) / soft + 1.0)
            })
        }
        Area::Colour { tint, reach, softness } => {
            let wanted = lab_of_linear(transfer::linear(encoded(tint)));
            let (reach, soft) = (reach.get() as f32, (softness.get() as f32).max(0.004));
            each(&|at, _, _| {
                let own = lab_of_linear(transfer::linear(film.pixels[at]));
                // Lightness counts half: a colour in light and in shade is one.
                let far = ((own.l - wanted.l) * 0.5).hypot((own.a - wanted.a).hypot(own.b - wanted.b));
                1.0 - smooth((far - reach) / soft)
            })
        }
        Area::Subject { mask } => {
            let longest = film.window.width.max(film.window.height).ceil().clamp(1.0, 20_000.0) as u32;
            // A mask that is not there is one of nothing.
            let Some(found) = pictures(mask, longest) else { return vec![0.0; film.count()] };
            let window = film.window;
            let (across, down) = (found.width() as f32 / window.width, found.height() as f32 / window.height);
            each(&|_, x, y| grey_at(&found, (x - window.left) * across - 0.5, (y - window.top) * down - 0.5))
        }
        Area::Brush { strokes } => painted(strokes, film),
    }
}

/// How light a grey picture is between its pixels, by straight lines both ways; beyond the edge as on it.
fn grey_at(picture: &Straight, x: f32, y: f32) -> f32 {
    let held = |at: f32, most: u32| (at.max(0.0) as usize).min(most as usize - 1);
    let (left, top) = (x.floor(), y.floor());
    let at = |dx: f32, dy: f32| {
        let place = held(top + dy, picture.height()) * picture.width() as usize + held(left + dx, picture.width());
        f32::from(picture.data()[place * 4]) / 255.0
    };
    let (across, down) = (x - left, y - top);
    let line = |dy: f32| at(0.0, dy) + (at(1.0, dy) - at(0.0, dy)) * across;
    line(0.0) + (line(1.0) - line(0.0)) * down
}

/// Strokes laid on in order. Where one crosses itself it is no stronger; two add up.
pub(super) fn painted(strokes: &[BrushStroke], film: &Film) -> Vec<f32> {
    let (w, h, longer) = (film.width, film.height, film.longer() as f32);
    let mut whole = vec![0.0f32; film.count()];
    for stroke in strokes {
        let points: Vec<(f32, f32)> = stroke.points.iter().map(|point| film.place(*point)).collect();
        let radius = (stroke.radius.get() as f32 * longer).max(0.3);
        let (hard, strength) = (stroke.hardness.get() as f32, stroke.strength.get() as f32);
        let Some((left, top, right, foot)) = around(&points, radius, (w, h)) else { continue };
        let rows = whole.par_chunks_exact_mut(w).enumerate().skip(top).take(foot - top);
        rows.for_each(|(y, row)| {
            let y = y as f32 + 0.5;
            // Only what passes near this row is measured.
            let near: Vec<[(f32, f32); 2]> =
                segments(&points).filter(|[a, b]| a.1.min(b.1) - radius <= y && y <= a.1.max(b.1) + radius).collect();
            for (x, value) in row.iter_mut().enumerate().take(right).skip(left) {
                let at = (x as f32 + 0.5, y);
                let far = near.iter().map(|[a, b]| distance(at, *a, *b)).fold(f32::INFINITY, f32::min) / radius;
                if far >= 1.0 {
                    continue;
                }
                let own = strength * (1.0 - smooth((far - hard) / (1.0 - hard).max(0.02)));
                *value = if stroke.erases { *value * (1.0 - own) } else { *value + own - *value * own };
            }
        });
    }
    whole
}

fn segments(points: &[(f32, f32)]) -> impl Iterator<Item = [(f32, f32); 2]> + '_ {
    // A single press is a stroke to itself.
    let one = (points.len() == 1).then(|| [points[0], points[0]]);
    one.into_iter().chain(points.windows(2).map(|pair| [pair[0], pair[1]]))
}

fn around(points: &[(f32, f32)], radius: f32, (w, h): (usize, usize)) -> Option<(usize, usize, usize, usize)> {
    let x = |pick: fn(f32, f32) -> f32| points.iter().map(|point| point.0).reduce(pick);
    let y = |pick: fn(f32, f32) -> f32| points.iter().map(|point| point.1).reduce(pick);
    let held = |value: f32, most: usize| value.clamp(0.0, most as f32) as usize;
    let (left, right) = (held(x(f32::min)? - radius, w), held((x(f32::max)? + radius).ceil() + 1.0, w));
    let (top, foot) = (held(y(f32::min)? - radius, h), held((y(f32::max)? + radius).ceil() + 1.0, h));
    (left < right && top < foot).then_some((left, top, right, foot))
}

fn distance(at: (f32, f32), a: (f32, f32), b: (f32, f32)) -> f32 {
    let (vx, vy) = (b.0 - a.0, b.1 - a.1);
    let (px, py) = (at.0 - a.0, at.1 - a.1);
    let square = vx * vx + vy * vy;
    let along = if square > 0.0 { ((px * vx + py * vy) / square).clamp(0.0, 1.0) } else { 0.0 };
    (px - vx * along).hypot(py - vy * along)
}
