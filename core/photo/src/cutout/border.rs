//! What lies along the border of a picture: nearly all of it is ground, but where a subject crosses it.

use super::ground::Ground;
use super::subject::oddness;
use super::work::{Lab3, Work, far};

/// Which pixels of the border are surely not of a subject that crosses it: those near a plain ground, else those that look like what
/// lies along the other edges.
pub(super) fn trusted(work: &Work, ring: &[usize], plain: Option<&Ground>) -> Vec<bool> {
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
    let crossing = crossings(work);
    let mut kept = 0;
    for at in ring {
        let own = edge(*at);
        let elsewhere = (0..4).filter(|side| *side != own).map(|side| near(cell(*at), side)).fold(0.0, f32::max);
        // A colour that fills much of one edge, and is rare along the others, is that of a subject that crosses it.
        let here = near(cell(*at), own);
        let crosses = crossing[own].as_ref().is_some_and(|run| {
            let along = if own % 2 == 0 { *at % work.width } else { *at / work.width };
            run.places.contains(&along) && far(&run.color, &work.lab[*at]) < 2.0 * ALIKE
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

/// A stretch of an edge of one colour.
struct Run {
    places: std::ops::Range<usize>,
    color: Lab3,
}

/// Colours of a stretch lie no farther from its mean, in OKLab.
const ALIKE: f32 = 0.05;

/// For the edge at the top, right, foot and left, a stretch of one colour that no other edge has the like of: a subject crosses it there.
fn crossings(work: &Work) -> [Option<Run>; 4] {
    let (width, height) = (work.width, work.height);
    let row = |y: usize| (0..width).map(|x| y * width + x).collect::<Vec<_>>();
    let column = |x: usize| (0..height).map(|y| y * width + x).collect::<Vec<_>>();
    let edges = [
        row(1.min(height - 1)),
        column(width.saturating_sub(2)),
        row(height.saturating_sub(2)),
        column(1.min(width - 1)),
    ];
    let longest = edges.map(|places| {
        let mut best = Run { places: 0..0, color: [0.0; 3] };
        let mut run = Run { places: 0..0, color: [0.0; 3] };
        for (along, at) in places.iter().enumerate() {
            let own = work.lab[*at];
            if run.places.is_empty() || far(&run.color, &own) > ALIKE {
                run = Run { places: along..along, color: own };
            }
            run.places.end = along + 1;
            let share = 1.0 / run.places.len() as f32;
            run.color = [0, 1, 2].map(|c| run.color[c] + (own[c] - run.color[c]) * share);
            if run.places.len() > best.places.len() {
                best = Run { places: run.places.clone(), color: run.color };
            }
        }
        best
    });
    let long: Vec<usize> = longest.iter().map(|run| run.places.len()).collect();
    let mut side = 0..;
    longest.map(|run| {
        let own = side.next();
        let others = (0..4).filter(|other| Some(*other) != own).map(|other| long[other]).max().unwrap_or(0);
        (run.places.len() * 8 > work.longer() && run.places.len() > 2 * others).then_some(run)
    })
}
