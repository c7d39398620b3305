//! The edge of a subject once more, at a size at which it can be seen: what was found in a small copy is a few pixels off there. Pixels
//! near the edge are divided again, by what the two sides look like nearby.

use rayon::prelude::*;

use super::flow::Grid;
use super::matting::{grown, softened};
use super::mixture::{Feature, Mixture};
use super::subject::{MOST, Subject, Ties, UNIT, oddness};
use super::work::Work;

/// How far off the edge of the small copy may be, in its pixels.
const OFF: f32 = 1.6;
/// How far from the edge pixels say what its sides look like, in longer sides.
const NEARBY: f32 = 0.06;
/// What it costs to part two pixels that are the same.
const TIE: f32 = 3.0;
/// How much of what lies around a pixel has to be subject for it to be looked at.
const REACH: f32 = 0.002;
/// So much likelier of the subject than not is what leads away from it, twice that where the ground is not known.
const STRAND: f32 = 2.5;
/// What holds a pixel where it is.
const HELD: i32 = 1 << 20;

/// The subject at the size of `work`, found in `coarse`.
pub(super) fn sharpened(work: &Work, coarse: &Work, subject: &Subject) -> Vec<bool> {
    let label = grown(work, coarse, &subject.inside);
    let inside: Vec<bool> = label.iter().map(|share| *share > 0.5).collect();
    let step = work.longer() as f32 / coarse.longer() as f32;
    let near = softened(work, &inside, f64::from(OFF * step));
    // Half a deviation beyond the edge it is 0.31, one 0.16.
    let edge = |at: usize| (0.06..0.94).contains(&near[at]);
    let nearby = softened(work, &inside, f64::from(NEARBY * work.longer() as f32));
    let look = |at: usize| -> Feature { [work.lab[at][0], work.lab[at][1] * 1.8, work.lab[at][2] * 1.8, 0.0, 0.0] };
    let is = |at: usize, wanted: bool| !edge(at) && inside[at] == wanted && (0.03..0.97).contains(&nearby[at]);
    let looks = |wanted: bool| -> Vec<Feature> { (0..work.count()).filter(|at| is(*at, wanted)).map(look).collect() };
    let own = looks(true);
    let Some(fore) = Mixture::of(&own, 6) else { return inside };
    let Some(back) = Mixture::of(&unlike(looks(false), &own, &fore), 8) else { return inside };
    let by_look: Vec<f32> = (0..work.count())
        .into_par_iter()
        .map(|at| {
            let asked = edge(at) || !inside[at] && nearby[at] >= REACH;
            let own = look(at);
            if asked { (back.unlikely(&own) - fore.unlikely(&own)).clamp(-MOST, MOST) } else { -MOST }
        })
        .collect();
    // What is thin and leads away from the subject was lost in the small copy.
    let strand = if subject.ground.is_some() { STRAND } else { 2.0 * STRAND };
    let open = |at: usize| edge(at) || !inside[at] && by_look[at] > strand;
    let plain = subject.ground.as_ref().filter(|ground| !ground.is_textured());
    let ties = Ties::of(work, TIE);
    let ends: Vec<i32> = (0..work.count())
        .into_par_iter()
        .map(|at| {
            if !open(at) {
                // What lies next to where is looked stays as it is; what lies beyond takes no part.
                let side = if inside[at] { HELD } else { -HELD };
                return if work.around(at).any(open) { side } else { 0 };
            }
            let mut weight = by_look[at];
            if let Some(ground) = plain {
                let odd = oddness(ground, work, at);
                weight = 0.5 * weight + 0.5 * (odd * odd * 0.5 - 5.0).clamp(-6.0, MOST);
            }
            // Where it was found to lie counts, too.
            ((weight + 4.0 * (near[at] - 0.5)) * UNIT) as i32
        })
        .collect();
    let tie = |a: usize, b: usize| if open(a) || open(b) { ties.between(a, b) } else { 0 };
    let divided = Grid::new((work.width, work.height), ends, tie).divided();
    let found: Vec<bool> = (0..work.count()).map(|at| if open(at) { divided[at] } else { inside[at] }).collect();
    joined(work, &found, &inside)
}

/// Of what lies beside a subject what does not look like it: strands of it that were not found yet. All, where that is little.
fn unlike(beside: Vec<Feature>, own: &[Feature], mixture: &Mixture) -> Vec<Feature> {
    let mut usual: Vec<f32> = own.iter().map(|look| mixture.unlikely(look)).collect();
    usual.sort_by(f32::total_cmp);
    let Some(most) = usual.get(usual.len() * 19 / 20) else { return beside };
    let left: Vec<Feature> = beside.iter().filter(|look| mixture.unlikely(look) > *most).copied().collect();
    if left.len() * 4 > beside.len() * 3 { left } else { beside }
}

/// What of `found` hangs together with what lies in `core`.
fn joined(work: &Work, found: &[bool], core: &[bool]) -> Vec<bool> {
    let mut out: Vec<bool> = found.iter().zip(core).map(|(found, core)| *found && *core).collect();
    let mut open: Vec<usize> = (0..out.len()).filter(|at| out[*at]).collect();
    while let Some(at) = open.pop() {
        for other in work.around(at) {
            if found[other] && !out[other] {
                out[other] = true;
                open.push(other);
            }
        }
    }
    out
}
