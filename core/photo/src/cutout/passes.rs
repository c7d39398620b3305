//! How well a pixel is fenced in: the steepest step that the easiest way from it to the border has to take (the pass value of flooding;
//! S. Beucher, F. Meyer, "The morphological approach to segmentation: the watershed transformation", 1993). Light that falls off, and the
//! line where a wall meets a table, fence nothing in, however far their colours lie apart.

use std::cmp::Reverse;
use std::collections::BinaryHeap;

use rayon::prelude::*;

use super::work::Work;
use crate::develop::Plane;

/// How steep the picture is at a fine and at a broad scale, in pixels of a copy 380 pixels long: sharp edges, and soft ones.
const SCALES: [f64; 2] = [1.0, 2.2];

/// How each pixel is fenced in.
pub(super) struct Fence {
    /// How well, 0 to 1: what lies open, and what is fenced in by steps twenty times as steep.
    pub level: Vec<f32>,
    /// The same if gaps of the fence were closed.
    pub closed: Vec<f32>,
    /// The levels that part those two best.
    pub cuts: [f32; 2],
    /// How even what lies open is: 1 where its steps are those of light that falls off, 0 where they are those of a pattern.
    pub even: f32,
}

/// Steps of OKLab a pixel that are those of a pattern, and how much less those of an even ground are.
const PATTERN: f32 = 0.008;
const EVENER: f32 = 0.003;
/// Half the width of gaps that are closed, in longer sides: those of noise, and those where a thing looks like what is behind it.
const GAPS: [f32; 2] = [0.005, 0.024];

impl Fence {
    /// From pixels that are seeds of what lies open.
    pub(super) fn of(work: &Work, steep: &[f32], seed: impl Fn(usize) -> bool) -> Self {
        let seeds: Vec<usize> = (0..work.count()).filter(|at| seed(*at)).collect();
        let even = ((PATTERN - usual(&passes(work, steep, &seeds))) / EVENER).clamp(0.0, 1.0);
        let found = GAPS.map(|gap| {
            let reach = (work.longer() as f32 * gap).round() as usize;
            passes(work, &closed(work, steep, reach), &seeds)
        });
        let [open, usual_closed] = [usual(&found[0]), usual(&found[1])];
        let [level, closed] = [levels(&found[0], open), levels(&found[1], usual_closed)];
        Self { cuts: [otsu(&level), otsu(&closed)], level, closed, even }
    }

    /// What it weighs for a pixel to be fenced in, from -1 to 1; nothing for what is but for gaps.
    pub(super) fn weight(&self, at: usize) -> f32 {
        let [own, closed] = [(self.level[at], self.cuts[0]), (self.closed[at], self.cuts[1])]
            .map(|(level, cut)| ((level - cut) / 0.15).clamp(-1.0, 1.0));
        0.5 * (own + closed)
    }

    /// Whether a pixel surely is fenced in, or surely not.
    pub(super) fn sure(&self, at: usize) -> Option<bool> {
        let [own, closed] = [self.level[at] - self.cuts[0], self.closed[at] - self.cuts[1]];
        if own > 0.05 && closed > 0.0 { Some(true) } else { (closed < 0.0).then_some(false) }
    }
}

/// Steps by how much steeper they are than usual.
fn levels(steps: &[f32], usual: f32) -> Vec<f32> {
    steps.iter().map(|step| ((step / usual).max(1e-3).log2() / 4.5).clamp(0.0, 1.0)).collect()
}

/// The value that parts values from 0 to 1 into two with the least spread within (N. Otsu, 1979).
pub(super) fn otsu(values: &[f32]) -> f32 {
    const BINS: usize = 128;
    let mut counts = [0.0f64; BINS];
    for value in values {
        counts[((value.clamp(0.0, 1.0) * (BINS - 1) as f32) as usize).min(BINS - 1)] += 1.0;
    }
    let all: f64 = counts.iter().sum();
    let sum: f64 = counts.iter().enumerate().map(|(at, count)| at as f64 * count).sum();
    let (mut below, mut sum_below, mut best) = (0.0, 0.0, (0.0, 0usize));
    for (at, count) in counts.iter().enumerate() {
        below += count;
        sum_below += at as f64 * count;
        let above = all - below;
        if below == 0.0 || above == 0.0 {
            continue;
        }
        let between = below * above * (sum_below / below - (sum - sum_below) / above).powi(2);
        if between > best.0 {
            best = (between, at);
        }
    }
    (best.1 as f32 + 0.5) / (BINS - 1) as f32
}

/// The pass of most of what lies open.
fn usual(passes: &[f32]) -> f32 {
    let mut sorted = passes.to_vec();
    sorted.sort_by(f32::total_cmp);
    sorted[(sorted.len() - 1) * 3 / 10].max(1e-4)
}

/// The pass of each pixel in steps of OKLab a pixel, from seeds.
fn passes(work: &Work, steep: &[f32], seeds: &[usize]) -> Vec<f32> {
    let mut out = vec![f32::INFINITY; work.count()];
    // Numbers that are not below 0 lie in the order of their bits.
    let mut open: BinaryHeap<Reverse<(u32, usize)>> = BinaryHeap::new();
    for at in seeds {
        out[*at] = 0.0;
        open.push(Reverse((0, *at)));
    }
    while let Some(Reverse((bits, at))) = open.pop() {
        let here = f32::from_bits(bits);
        if here > out[at] {
            continue;
        }
        for other in work.sides(at) {
            let pass = here.max(steep[other]);
            if pass < out[other] {
                out[other] = pass;
                open.push(Reverse((pass.to_bits(), other)));
            }
        }
    }
    out.iter_mut().for_each(|pass| *pass = if pass.is_finite() { *pass } else { 0.0 });
    out
}

/// What is lower than all around it within a square of `reach` pixels to each side is filled up (a closing).
fn closed(work: &Work, values: &[f32], reach: usize) -> Vec<f32> {
    let (width, height) = (work.width, work.height);
    let most = |values: &[f32], pick: fn(f32, f32) -> f32| -> Vec<f32> {
        let window = |at: usize, count: usize| at.saturating_sub(reach)..(at + reach + 1).min(count);
        let over = |at: usize, range: std::ops::Range<usize>, place: &dyn Fn(usize) -> usize, values: &[f32]| {
            range.map(|n| values[place(n)]).fold(values[at], pick)
        };
        let row = |at: usize| over(at, window(at % width, width), &|x| at / width * width + x, values);
        let across: Vec<f32> = (0..values.len()).into_par_iter().map(row).collect();
        let column = |at: usize| over(at, window(at / width, height), &|y| y * width + at % width, &across);
        (0..values.len()).into_par_iter().map(column).collect()
    };
    most(&most(values, f32::max), f32::min)
}

/// How steep the picture is at each pixel, in steps of OKLab a pixel.
pub(super) fn steepness(work: &Work) -> Vec<f32> {
    let unit = work.longer() as f64 / 380.0;
    let weighted: Vec<[f32; 3]> = work.lab.iter().map(|lab| [lab[0], lab[1] * 1.8, lab[2] * 1.8]).collect();
    let (width, height) = (work.width, work.height);
    let at_scale = |scale: f64| -> Vec<f32> {
        let soft = Plane::<3>::new(width, height, weighted.clone()).blurred(scale * unit).data;
        let far = |a: usize, b: usize| (0..3).map(|c| (soft[a][c] - soft[b][c]).powi(2)).sum::<f32>();
        let scale = (scale * unit).sqrt() as f32;
        (0..work.count())
            .into_par_iter()
            .map(|at| {
                let (x, y) = (at % width, at / width);
                let across = far(at - usize::from(x > 0), at + usize::from(x + 1 < width));
                let down = far(at - width * usize::from(y > 0), at + width * usize::from(y + 1 < height));
                0.5 * (across + down).sqrt() * scale
            })
            .collect()
    };
    let [fine, broad] = SCALES.map(at_scale);
    fine.into_iter().zip(broad).map(|(fine, broad)| fine.max(broad)).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Straight;

    /// A disc before a wall that darkens to one side, over a table; `gap` opens its rim: there it has the colour of the wall.
    fn staged(gap: f32) -> Work {
        let (w, h) = (190usize, 140usize);
        let pixel = |at: usize| {
            let (x, y) = ((at % w) as f32, (at / w) as f32);
            let lamp = 1.0 - 0.5 * x / w as f32;
            let behind = if y < 90.0 { [200.0, 198.0, 190.0] } else { [150.0, 120.0, 90.0] };
            let (dx, dy) = (x - 95.0, y - 60.0);
            let inside = dx.hypot(dy) < 30.0 && !(dx > 10.0 && dy.abs() < gap / 2.0);
            let own = if inside { [40.0, 80.0, 170.0] } else { behind.map(|value: f32| value * lamp) };
            [own[0] as u8, own[1] as u8, own[2] as u8, 255]
        };
        let data = (0..w * h).flat_map(pixel).collect();
        Work::of(&Straight::new(w as u32, h as u32, data).unwrap(), 380)
    }

    #[test]
    fn what_is_fenced_in_is_told_from_light_that_falls_off() {
        for gap in [0.0, 4.0] {
            let work = staged(gap);
            let fence = Fence::of(&work, &steepness(&work), |at| work.edge_distance(at) == 0);
            assert!(fence.even > 0.9, "{}", fence.even);
            for (x, y, wanted) in [(95, 60, true), (80, 45, true), (20, 20, false), (170, 20, false), (100, 125, false)]
            {
                assert_eq!(fence.sure(y * work.width + x), Some(wanted), "at {x}, {y} with a gap of {gap}");
            }
            assert!(fence.weight(60 * work.width + 85) > 0.9 && fence.weight(20 * work.width + 20) < -0.5);
        }
    }

    #[test]
    fn the_pass_is_the_steepest_step_of_the_easiest_way() {
        let (w, h) = (40usize, 30usize);
        let data = (0..w * h).flat_map(|_| [90, 90, 90, 255]).collect();
        let work = Work::of(&Straight::new(w as u32, h as u32, data).unwrap(), 380);
        // Two rings, the outer one lower in one place.
        let ring = |x: usize, y: usize| x.abs_diff(20).max(y.abs_diff(15));
        let steep: Vec<f32> = (0..w * h)
            .map(|at| match ring(at % w, at / w) {
                10 => {
                    if at % w == 10 {
                        0.2
                    } else {
                        0.7
                    }
                }
                5 => 0.4,
                _ => 0.01,
            })
            .collect();
        let found = passes(&work, &steep, &[0]);
        assert_eq!([2 * w + 3, 15 * w + 12, 15 * w + 20].map(|at| found[at]), [0.01, 0.2, 0.4]);
        // A gap as narrow as twice the reach is closed, and nothing is made lower.
        let gap: Vec<f32> =
            (0..w * h).map(|at| if at % w == 20 && !(13..17).contains(&(at / w)) { 0.5 } else { 0.0 }).collect();
        let shut = closed(&work, &gap, 2);
        assert_eq!([shut[14 * w + 20], shut[14 * w + 10]], [0.5, 0.0]);
        assert!(
            closed(&work, &gap, 1)[14 * w + 20] < 0.5 && shut.iter().zip(&gap).all(|(after, before)| after >= before)
        );
    }
}
