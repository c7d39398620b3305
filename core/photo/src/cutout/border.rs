//! What lies along the border of a picture: nearly all of it is ground, but where a subject crosses it.

use super::ground::Ground;
use super::subject::oddness;
use super::work::{Lab3, Work, far};

/// Which pixels of the border are surely not of a subject that crosses it: those near a plain ground, else those that look like what
/// lies along the other edges.
pub(super) fn trusted(work: &Work, ring: &[usize], rooms: &[f32], plain: Option<&Ground>) -> Vec<bool> {
    let mut out = vec![false; work.count()];
    if let Some(ground) = plain {
        for at in ring {
            out[*at] = oddness(ground, work, *at) < 4.5;
        }
        return out;
    }
    let edge = |at: usize| {
        let (x, y) = (at % work.width, at / work.width);
        let to = [y, work.width - 1 - x, work.height - 1 - y, x];
        (0..4).min_by_key(|side| to[*side]).unwrap_or(0)
    };
    // Colours by boxes, softly, along each edge.
    let cell = |at: usize| {
        let lab = work.lab[at];
        let part = |value: f32, from: f32, wide: f32| (((value - from) / wide * 10.0) as usize).min(9);
        (part(lab[0], 0.0, 1.0) * 10 + part(lab[1], -0.2, 0.4)) * 10 + part(lab[2], -0.2, 0.4)
    };
    let mut counts = vec![[0.0f32; 4]; 1_000];
    let mut lengths = [0.0f32; 4];
    for at in ring {
        counts[cell(*at)][edge(*at)] += 1.0;
        lengths[edge(*at)] += 1.0;
    }
    let near = |cell: usize, side: usize| {
        let (l, a, b) = (cell / 100, cell / 10 % 10, cell % 10);
        let range = |v: usize| v.saturating_sub(1)..=(v + 1).min(9);
        let mut sum = 0.0;
        for l in range(l) {
            for a in range(a) {
                for b in range(b) {
                    sum += counts[(l * 10 + a) * 10 + b][side];
                }
            }
        }
        sum / lengths[side].max(1.0)
    };
    // Beside a stretch lies its rim.
    let wide = work.longer().div_ceil(48);
    let crossing = crossings(work, ring, rooms, edge);
    let mut kept = 0;
    for at in ring {
        let own = edge(*at);
        let elsewhere = (0..4).filter(|side| *side != own).map(|side| near(cell(*at), side)).fold(0.0, f32::max);
        // A colour that fills much of one edge, and is rare along the others, is that of a subject that crosses it.
        let here = near(cell(*at), own);
        let crosses = crossing[own].as_ref().is_some_and(|stretch| {
            let along = if own % 2 == 0 { *at % work.width } else { *at / work.width };
            stretch.places.contains(&along) && far(&stretch.color, &work.lab[*at]) < ALIKE
                || along.abs_diff(stretch.places.start).min(along.abs_diff(stretch.places.end)) < wide
        });
        out[*at] = !crosses && elsewhere > 0.02 && !(here > 0.12 && here > 5.0 * elsewhere);
        kept += usize::from(out[*at]);
    }
    // Where the edges have little in common, all of the border is taken.
    if kept * 2 < ring.len() {
        ring.iter().for_each(|at| out[*at] = true);
    }
    out
}

/// A stretch of an edge, and its colour.
struct Stretch {
    places: std::ops::Range<usize>,
    color: Lab3,
}

/// Pixels of a stretch lie no farther from its mean, in OKLab.
const ALIKE: f32 = 0.1;

/// For the edge at the top, right, foot and left, a long stretch with twice the room that there is along any other: a subject crosses it
/// there.
fn crossings(work: &Work, ring: &[usize], rooms: &[f32], edge: impl Fn(usize) -> usize) -> [Option<Stretch>; 4] {
    let mut most = [1.0f32; 4];
    for at in ring {
        most[edge(*at)] = most[edge(*at)].max(rooms[*at]);
    }
    std::array::from_fn(|own| {
        let others = (0..4).filter(|other| *other != own).map(|other| most[other]).fold(1.0, f32::max);
        let roomy = || ring.iter().filter(|at| edge(**at) == own && rooms[**at] > 2.0 * others);
        let (mut sum, mut count) = ([0.0f32; 3], 0.0f32);
        for at in roomy() {
            (0..3).for_each(|c| sum[c] += work.lab[*at][c]);
            count += 1.0;
        }
        let along = || roomy().map(|at| if own % 2 == 0 { at % work.width } else { at / work.width });
        let (first, last) = (along().min()?, along().max()?);
        let long = (last - first) * 6 > work.longer();
        long.then(|| Stretch { places: first..last + 1, color: sum.map(|sum| sum / count) })
    })
}
