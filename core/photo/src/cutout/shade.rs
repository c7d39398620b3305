//! Shadows: the ground, but darker.

use super::passes::Fence;
use super::spread::Spread;
use super::work::{Lab3, Work};
use crate::develop::Plane;

/// How much lighter the ground is than a pixel in shadow of it, 0 to 1; nothing where it is no shadow. A shadow takes all light by the
/// same share, and OKLab is scaled by the cube root of that as a whole.
fn depth(own: &Lab3, full: &Lab3, spread: &Spread) -> Option<f32> {
    let length: f32 = full.iter().map(|value| value * value).sum();
    let share = own.iter().zip(full).map(|(a, b)| a * b).sum::<f32>() / length.max(1e-6);
    let beside = [0, 1, 2].map(|c| own[c] - full[c] * share);
    (share > 0.55 && spread.odd(&beside) < 4.0).then_some((1.0 - share).max(0.0))
}

/// What an even ground looks like in full light: as what lies open nearby.
pub(super) fn open_ground(work: &Work, fence: &Fence) -> Vec<Lab3> {
    let open = (0..work.count()).map(|at| match fence.sure(at) {
        Some(false) => [work.lab[at][0], work.lab[at][1], work.lab[at][2], 1.0],
        _ => [0.0; 4],
    });
    let open = Plane::<4>::new(work.width, work.height, open.collect());
    let longer = work.longer() as f64;
    let [near, far] = [0.02, 0.12].map(|reach| open.clone().blurred(reach * longer).data);
    let of = |at: usize| {
        let [l, a, b, weight] = if near[at][3] > 0.02 { near[at] } else { far[at] };
        if weight > 1e-4 { [l, a, b].map(|value| value / weight) } else { work.lab[at] }
    };
    (0..work.count()).map(of).collect()
}

/// Pixels of shadows on a plain ground: areas that are the ground but darker, and that come out of it softly. A grey thing has the same
/// colours, but an edge. `full` is the ground in full light, `noise` how far pixels lie from that in OKLab, and the spreads how: alone, and
/// on a texture with their neighbours; `fence` is asked what throws shadows where the light is not known well.
pub(super) fn shadows(
    work: &Work,
    full: &[Lab3],
    [spread, evenly]: [&Spread; 2],
    noise: f32,
    fence: Option<&Fence>,
) -> Vec<bool> {
    // A texture goes on in the shadow; it is looked at evenly.
    let even = Plane::<3>::new(work.width, work.height, work.lab.clone());
    let (even, noise) = if noise > 0.01 { (even.blurred(3.0).data, noise * 0.35) } else { (even.data, noise) };
    let depths: Vec<Option<f32>> = (0..work.count())
        .map(|at| {
            // What is thin and dark is even only together with what is beside it.
            depth(&work.lab[at], &full[at], spread).and_then(|_| depth(&even[at], &full[at], evenly))
        })
        .collect();
    let dark = |at: usize| depths[at].filter(|depth| *depth * work.lab[at][0].max(0.3) > 2.5 * noise);
    let mut area = vec![usize::MAX; work.count()];
    let mut out = vec![false; work.count()];
    let mut count = 0;
    for start in 0..work.count() {
        if area[start] != usize::MAX || dark(start).is_none() {
            continue;
        }
        // Pixels that follow each other without a step.
        let (mut open, mut own) = (vec![start], Vec::new());
        area[start] = count;
        while let Some(at) = open.pop() {
            own.push(at);
            let here = depths[at].unwrap_or(0.0);
            for other in work.around(at) {
                let near = dark(other).is_some_and(|there| (there - here).abs() < 0.03);
                if near && area[other] == usize::MAX {
                    area[other] = count;
                    open.push(other);
                }
            }
        }
        count += 1;
        let mut steps: Vec<f32> = own.iter().filter_map(|at| depths[*at]).collect();
        steps.sort_by(f32::total_cmp);
        let deep = steps[steps.len() * 9 / 10];
        // Most of a shadow lies on its way into the light; a thing is as dark at its rim as within.
        let light = steps.iter().filter(|step| **step < 0.6 * deep).count();
        let to_light = |at: &usize| work.around(*at).any(|other| depths[other].is_some() && dark(other).is_none());
        let edge: Vec<usize> = own.iter().copied().filter(to_light).collect();
        let rim: Vec<f32> = edge.iter().filter_map(|at| depths[*at]).collect();
        let fades = rim.len() * 12 > own.len().isqrt()
            && rim.iter().sum::<f32>() / (rim.len() as f32) < 0.5 * deep + 2.0 * noise;
        // Where the light is not known well, a shadow is what lies at the foot of something.
        let thrown = fence.is_none_or(|fence| {
            let thing = |at: usize| depths[at].is_none() && fence.sure(at) == Some(true);
            own.iter().filter(|at| work.around(**at).any(thing)).count() * 10 > edge.len()
        });
        let soft = fades && thrown && light * 5 > own.len() * 2;
        if soft {
            own.into_iter().for_each(|at| out[at] = true);
        }
    }
    out
}
