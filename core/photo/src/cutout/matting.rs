//! The edge of a subject: how much of each pixel along it is subject. Where the colours of both sides are known nearby, by how far a
//! pixel lies between them; smoothed along edges by a guided filter (K. He, J. Sun, X. Tang, "Guided Image Filtering", 2010).

use rayon::prelude::*;

use super::ground::Ground;
use super::subject::{Subject, oddness};
use super::work::{Lab3, Work};
use crate::develop::{Plane, guided};

/// How much of each pixel of a picture is subject, 0 to 1. `coarse` is the picture the subject was found in.
pub(super) fn matte(work: &Work, coarse: &Work, subject: &Subject) -> Vec<f32> {
    let label = grown(work, coarse, &subject.inside);
    let inside: Vec<bool> = label.iter().map(|share| *share > 0.5).collect();
    let unit = work.longer() as f32 / 1_000.0;
    // Pixels between a surely outside and a surely inside: wide enough for the step between the two sizes.
    let step = work.longer() as f32 / coarse.longer() as f32;
    let band = (3.0 * unit).max(1.5 * step).max(2.0);
    let near = softened(work, &inside, f64::from(band));
    let sure = |at: usize| {
        if near[at] > 0.97 {
            Some(true)
        } else if near[at] < 0.03 {
            Some(false)
        } else {
            None
        }
    };
    let kinds: Vec<Option<bool>> = (0..work.count()).map(sure).collect();
    let fore = around(work, |at| kinds[at] == Some(true));
    let back = match &subject.ground {
        Some(ground) => (0..work.count()).map(|at| Some(ground.at(work.place(at)))).collect(),
        None => around(work, |at| kinds[at] == Some(false)),
    };
    // On a texture a pixel alone says less.
    let alone = match &subject.ground {
        Some(ground) if ground.is_textured() => 0.4,
        Some(_) => 0.75,
        None => 0.0,
    };
    let far = reach(work, subject, &inside, f64::from(unit));
    let mut cover: Vec<f32> = (0..work.count())
        .into_par_iter()
        .map(|at| {
            let spread = far[at];
            if kinds[at].is_some() && !spread {
                return if kinds[at] == Some(true) { 1.0 } else { 0.0 };
            }
            let (Some(fore), Some(back)) = (fore[at], back[at]) else { return near[at] };
            between(&work.lab[at], &fore, &back, near[at], spread)
        })
        .collect();
    // Along edges, and without grain.
    let light: Vec<f32> = work.lab.iter().map(|lab| lab[0]).collect();
    let (light, own) = (Plane::of(work.width, work.height, light), Plane::of(work.width, work.height, cover.clone()));
    let even = guided(&light, &own, f64::from(band * 0.5).max(1.0), 0.02);
    for at in 0..work.count() {
        if kinds[at].is_none() || far[at] {
            let own = alone * cover[at] + (1.0 - alone) * even.data[at][0];
            cover[at] = ((own - 0.05) / 0.9).clamp(0.0, 1.0);
        }
    }
    cover
}

/// How much of a pixel is of one side, by where its colour lies between both; where the two are alike, by how near it is.
fn between(own: &Lab3, fore: &Lab3, back: &Lab3, near: f32, spread: bool) -> f32 {
    let way: f32 = (0..3).map(|c| (fore[c] - back[c]).powi(2)).sum();
    let along: f32 = (0..3).map(|c| (own[c] - back[c]) * (fore[c] - back[c])).sum::<f32>() / way.max(1e-6);
    let by_colour = along.clamp(0.0, 1.0);
    // Two sides closer than this cannot be told apart by colour.
    let trust = way / (way + 0.004);
    let by_place = if spread { near.max(0.0) } else { ((near - 0.5) * 1.8 + 0.5).clamp(0.0, 1.0) };
    trust * by_colour + (1.0 - trust) * by_place
}

/// Pixels farther out than the edge that may still be of the subject, such as hair: on a plain ground whatever is near and not of it.
fn reach(work: &Work, subject: &Subject, inside: &[bool], unit: f64) -> Vec<bool> {
    let Some(ground) = subject.ground.as_ref().filter(|ground| !ground.is_textured()) else {
        return vec![false; work.count()];
    };
    let near = softened(work, inside, 16.0 * unit);
    (0..work.count())
        .map(|at| !inside[at] && near[at] > 0.002 && oddness(ground, work, at) > 4.0 && !shaded(work, ground, at))
        .collect()
}

/// Whether a pixel may be the ground in shadow.
fn shaded(work: &Work, ground: &Ground, at: usize) -> bool {
    let (own, full) = (work.lab[at], ground.at(work.place(at)));
    let length: f32 = full.iter().map(|value| value * value).sum();
    let share = own.iter().zip(&full).map(|(a, b)| a * b).sum::<f32>() / length.max(1e-6);
    let beside: f32 = own.iter().zip(&full).map(|(a, b)| (a - b * share).powi(2)).sum::<f32>().sqrt();
    (0.7..1.0).contains(&share) && beside < 0.02
}

/// The labels of a smaller picture at the size of a larger one, between 0 and 1 where they change.
pub(super) fn grown(work: &Work, coarse: &Work, inside: &[bool]) -> Vec<f32> {
    let (w, h) = (coarse.width, coarse.height);
    let value = |x: usize, y: usize| if inside[y * w + x] { 1.0f32 } else { 0.0 };
    (0..work.count())
        .into_par_iter()
        .map(|at| {
            let at_coarse = |at: usize, from: usize, to: usize| {
                ((at as f32 + 0.5) * to as f32 / from as f32 - 0.5).clamp(0.0, (to - 1) as f32)
            };
            let (x, y) = (at_coarse(at % work.width, work.width, w), at_coarse(at / work.width, work.height, h));
            let (x0, y0) = (x as usize, y as usize);
            let (x1, y1) = ((x0 + 1).min(w - 1), (y0 + 1).min(h - 1));
            let (u, v) = (x - x0 as f32, y - y0 as f32);
            let top = value(x0, y0) + (value(x1, y0) - value(x0, y0)) * u;
            let foot = value(x0, y1) + (value(x1, y1) - value(x0, y1)) * u;
            top + (foot - top) * v
        })
        .collect()
}

/// How much of what lies around each pixel is inside.
pub(super) fn softened(work: &Work, inside: &[bool], sigma: f64) -> Vec<f32> {
    let values = inside.iter().map(|inside| if *inside { 1.0 } else { 0.0 }).collect();
    let soft = Plane::of(work.width, work.height, values).blurred(sigma);
    soft.data.into_iter().map(|[value]| value).collect()
}

/// The mean colour of chosen pixels near each pixel: of the nearest there are.
fn around(work: &Work, chosen: impl Fn(usize) -> bool + Sync) -> Vec<Option<Lab3>> {
    let weighted: Vec<[f32; 4]> = (0..work.count())
        .into_par_iter()
        .map(|at| if chosen(at) { [work.lab[at][0], work.lab[at][1], work.lab[at][2], 1.0] } else { [0.0; 4] })
        .collect();
    // Colours nearby change slowly: a third of the size says as much.
    const BY: usize = 3;
    let small = Plane::<4>::new(work.width, work.height, weighted).shrunk(BY);
    let unit = work.longer() as f64 / 1_000.0 / BY as f64;
    let mut found: Vec<Option<Lab3>> = vec![None; small.data.len()];
    for sigma in [4.0 * unit, 16.0 * unit, 64.0 * unit] {
        let soft = small.clone().blurred(sigma.max(0.7));
        found.par_iter_mut().zip(&soft.data).for_each(|(found, [l, a, b, weight])| {
            if found.is_none() && *weight > 0.02 {
                *found = Some([l / weight, a / weight, b / weight]);
            }
        });
    }
    (0..work.count()).map(|at| found[(at / work.width / BY) * small.width + at % work.width / BY]).collect()
}
