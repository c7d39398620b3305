//! Which pixels belong to the subject: seeds from the border and from what stands out, then the least costly division by mixtures of what
//! pixels look like, refitted in turn (after C. Rother, V. Kolmogorov, A. Blake, "Interactive Foreground Extraction Using Iterated Graph
//! Cuts", 2004), with shadows told from what throws them.

use rayon::prelude::*;

use super::flow::{AROUND, Grid};
use super::ground::Ground;
use super::mixture::{Feature, Mixture};
use super::passes::Fence;
use super::work::{Lab3, Work};
use crate::develop::Plane;

/// What is known beforehand of each pixel.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Hint {
    Unknown,
    Keep,
    Remove,
}

/// The subject of a picture.
pub(super) struct Subject {
    pub inside: Vec<bool>,
    /// The ground, where its colour changes so slowly that it is known everywhere.
    pub ground: Option<Ground>,
}

/// Steps of OKLab that noise of a sensor and of packing makes at least.
const NOISE: f32 = 0.0055;
/// A border more uneven than this is no plain ground.
const PLAIN: f32 = 0.036;
/// Less of the border than this on a surface, and it is none.
const SHARE: f32 = 0.72;
/// Costs are whole numbers of this part.
pub(super) const UNIT: f32 = 64.0;
/// Most that one pixel can weigh.
pub(super) const MOST: f32 = 12.0;
/// What it weighs, either way, how unlike the border of a busy ground a pixel is.
const LIKENESS: f32 = 4.0;
/// What it weighs, either way, how a pixel is fenced in: on a pattern, which fences in parts of itself, and on an even ground; and what is
/// left of that from round to round.
const STAND: f32 = 0.7;
const STAND_EVEN: f32 = 6.0;
const FADE_EVEN: f32 = 0.6;
/// Rounds of fitting and dividing.
const ROUNDS: usize = 6;

/// Finds the subject; `watch` is told how far that is, and says whether to go on.
pub(super) fn find(work: &Work, hints: &[Hint], watch: &dyn Fn(f32) -> bool) -> Option<Subject> {
    let features = work.features();
    let wide = (work.width.min(work.height) as f32 * 0.025).ceil().max(2.0) as usize;
    let ring: Vec<usize> =
        (0..work.count()).filter(|at| work.edge_distance(*at) < wide && hints[*at] != Hint::Keep).collect();
    let places: Vec<_> = ring.iter().map(|at| (work.place(*at), work.lab[*at])).collect();
    let ground = Ground::of(&places);
    let plain = ground.filter(|ground| ground.noise < PLAIN && ground.share > SHARE);
    let trusted = trusted(work, &ring, plain.as_ref());
    let plain = plain.map(|ground| checked(work, ground)).filter(|ground| ground.noise < PLAIN);
    let fence = Fence::of(work, |at| trusted[at]);
    // What looks like the texture of an even ground is how far it is off.
    let plain = plain.filter(|ground| !ground.is_textured() || fence.even < 0.5);
    if !watch(0.15) {
        return None;
    }
    let busy = plain.as_ref().map_or(1.0, |ground| (ground.noise / PLAIN).min(1.0));
    let odd = plain.as_ref().map(|ground| Oddness::of(work, ground));
    // How unlike the border each pixel is, where the ground is not plain.
    let mut unlike = vec![0.5; work.count()];
    let mut guess: Vec<Option<bool>> = match &odd {
        Some(odd) => (0..work.count()).map(|at| Some(odd.weight(at) > 4.0)).collect(),
        None => {
            let found = first_guess(work, &features, &fence, &trusted);
            unlike = found.1;
            found.0
        }
    };
    for (guess, hint) in guess.iter_mut().zip(hints) {
        match hint {
            Hint::Unknown => {}
            Hint::Keep => *guess = Some(true),
            Hint::Remove => *guess = Some(false),
        }
    }
    let mut inside: Vec<bool> = guess.iter().map(|guess| *guess == Some(true)).collect();
    let shade = match &plain {
        Some(ground) => {
            let full: Vec<Lab3> = (0..work.count()).map(|at| ground.at(work.place(at))).collect();
            Some(shadows(work, &full, ground.noise.max(NOISE), None))
        }
        None => (fence.even > 0.5).then(|| shadows(work, &open_ground(work, &fence), NOISE, Some(&fence))),
    };
    if let Some(shade) = shade.as_ref().filter(|_| plain.is_none()) {
        for at in (0..work.count()).filter(|at| shade[*at] && hints[*at] == Hint::Unknown) {
            (guess[at], inside[at]) = (Some(false), false);
        }
    }
    if !watch(0.3) {
        return None;
    }
    let steps = edges(work);
    // Thin things on a plain ground are sure; in a busy one what is alone is rarely meant.
    let tie = plain.as_ref().map_or(12.0 + 8.0 * fence.even, |ground| 2.5 + 3.0 * (ground.noise / PLAIN).powi(2));
    let ties = Ties { work, tie, spread: 1.0 / (2.0 * steps.max(1e-6)) };
    let apart = |a: usize, b: usize| ties.between(a, b);
    // How far a plain ground is believed over a mixture.
    let belief = 0.8 - 0.4 * busy;
    // What is fenced in by an even ground is the subject, until it is known what that looks like.
    let (stand, fade) = (STAND + (STAND_EVEN - STAND) * fence.even, 1.0 - (1.0 - FADE_EVEN) * fence.even);
    for round in 0..ROUNDS {
        // Unevenness is seen around a pixel, not in it: it says where to look, and colour alone where the edge is.
        let look = |feature: &Feature| -> Feature {
            let share = if round < 2 { 0.3 } else { 0.0 };
            [feature[0], feature[1], feature[2], feature[3] * share, feature[4] * share]
        };
        // At first only what is sure says what either side looks like.
        let is = |at: usize, wanted: bool| if round == 0 { guess[at] == Some(wanted) } else { inside[at] == wanted };
        let of = |wanted: bool| -> Vec<Feature> {
            (0..work.count()).filter(|at| is(*at, wanted)).map(|at| look(&features[at])).collect()
        };
        let (Some(subject), Some(around)) =
            (Mixture::of(&of(true), 5), Mixture::of(&of(false), if busy < 0.5 { 5 } else { 9 }))
        else {
            break;
        };
        let ends: Vec<i32> = (0..work.count())
            .into_par_iter()
            .map(|at| {
                let own = look(&features[at]);
                let by_look = (around.unlikely(&own) - subject.unlikely(&own)).clamp(-MOST, MOST);
                let mut weight = match &odd {
                    // A plain ground is known better than any mixture of it.
                    Some(odd) => belief * odd.weight(at) + (1.0 - belief) * by_look,
                    None => {
                        by_look
                            + stand * fade.powi(round as i32) * fence.weight(at)
                            + LIKENESS * (1.0 - fence.even) * (2.0 * unlike[at] - 1.0)
                    }
                };
                if shade.as_ref().is_some_and(|shade| shade[at]) {
                    weight = weight.min(-4.0);
                }
                if trusted[at] && work.edge_distance(at) < wide {
                    weight = weight.min(-MOST);
                }
                match hints[at] {
                    Hint::Unknown => (weight * UNIT) as i32,
                    Hint::Keep => 1 << 20,
                    Hint::Remove => -(1 << 20),
                }
            })
            .collect();
        let now = Grid::new((work.width, work.height), ends, apart).divided();
        let changed = now.iter().zip(&inside).filter(|(a, b)| a != b).count();
        let none = now.iter().filter(|inside| **inside).count() * 500 < now.len();
        if none {
            break;
        }
        inside = now;
        if !watch(0.3 + 0.4 * (round + 1) as f32 / ROUNDS as f32) {
            return None;
        }
        if round > 2 && changed * 400 < work.count() {
            break;
        }
    }
    without_crumbs(work, &mut inside, hints, busy);
    Some(Subject { inside, ground: plain })
}

/// A ground with its noise as it is a little inside the border.
fn checked(work: &Work, mut ground: Ground) -> Ground {
    let wide = work.width.min(work.height) / 7;
    let mut near: Vec<f32> = (0..work.count())
        .filter(|at| (wide / 2..wide).contains(&work.edge_distance(*at)))
        .map(|at| ground.far(work.place(at), &work.lab[at]))
        .collect();
    near.sort_by(f32::total_cmp);
    let middle = near.get(near.len() / 2).copied().unwrap_or(0.0);
    ground.noise = ground.noise.max(middle / 1.4).max(NOISE * 0.5);
    ground
}

/// How far a pixel lies from a plain ground, in deviations of its noise.
pub(super) fn oddness(ground: &Ground, work: &Work, at: usize) -> f32 {
    ground.far(work.place(at), &work.lab[at]) / ground.noise.max(NOISE)
}

/// How unlike a plain ground pixels are, by themselves and with their neighbours: a texture is uneven, and even on the whole.
struct Oddness {
    own: Vec<f32>,
    /// None where the ground has no texture.
    around: Option<Vec<f32>>,
}

impl Oddness {
    fn of(work: &Work, ground: &Ground) -> Self {
        let own = (0..work.count()).map(|at| oddness(ground, work, at)).collect();
        let around = ground.is_textured().then(|| {
            let even = Plane::<3>::new(work.width, work.height, work.lab.clone()).blurred(2.5);
            // What is left of the noise is seen along the border.
            let far: Vec<f32> = (0..work.count()).map(|at| ground.far(work.place(at), &even.data[at])).collect();
            let mut rim: Vec<f32> =
                (0..work.count()).filter(|at| work.edge_distance(*at) < 6).map(|at| far[at]).collect();
            rim.sort_by(f32::total_cmp);
            let noise = (rim[rim.len() * 3 / 5] / 1.7).max(ground.noise * 0.25);
            far.into_iter().map(|far| far / noise).collect()
        });
        Self { own, around }
    }

    /// What it weighs for a pixel to be of the subject.
    fn weight(&self, at: usize) -> f32 {
        let own = (self.own[at] * self.own[at] * 0.5 - 5.0).clamp(-6.0, MOST);
        let around = |around: &Vec<f32>| (around[at] * around[at] * 0.5 - 7.0).clamp(-6.0, MOST);
        self.around.as_ref().map_or(own, |values| 0.4 * own + 0.6 * around(values))
    }
}

/// What it costs to part neighbours: less, the less they are alike.
pub(super) struct Ties<'w> {
    work: &'w Work,
    tie: f32,
    spread: f32,
}

impl<'w> Ties<'w> {
    /// `tie` is what it costs where they are the same.
    pub(super) fn of(work: &'w Work, tie: f32) -> Self {
        Self { work, tie, spread: 1.0 / (2.0 * edges(work).max(1e-6)) }
    }

    /// What it costs to part two neighbours.
    pub(super) fn between(&self, a: usize, b: usize) -> i32 {
        let Self { work, tie, spread } = self;
        let far: f32 = (0..3).map(|c| (work.lab[a][c] - work.lab[b][c]).powi(2)).sum();
        let (dx, dy) = (a % work.width != b % work.width, a / work.width != b / work.width);
        let near = if dx && dy { std::f32::consts::FRAC_1_SQRT_2 } else { 1.0 };
        (tie * near * (0.06 + 0.94 * (-far * spread).exp()) * UNIT) as i32
    }
}

/// The mean square of the step between neighbours.
fn edges(work: &Work) -> f32 {
    let mut sum = 0.0f64;
    let mut count = 0.0f64;
    for y in 0..work.height {
        for x in 1..work.width {
            let at = y * work.width + x;
            sum += (0..3).map(|c| f64::from(work.lab[at][c] - work.lab[at - 1][c]).powi(2)).sum::<f64>();
            count += 1.0;
        }
    }
    (sum / count.max(1.0)) as f32
}

/// Which pixels of the border are surely not of a subject that crosses it: those near a plain ground, else those that look like what
/// lies along the other edges.
fn trusted(work: &Work, ring: &[usize], plain: Option<&Ground>) -> Vec<bool> {
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
            run.places.contains(&along) && distance(&run.color, &work.lab[*at]) < 2.0 * ALIKE
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
            if run.places.is_empty() || distance(&run.color, &own) > ALIKE {
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
    let mut side = 0;
    longest.map(|run| {
        let others = (0..4).filter(|other| *other != side).map(|other| long[other]).max().unwrap_or(0);
        side += 1;
        (run.places.len() * 8 > work.longer() && run.places.len() > 2 * others).then_some(run)
    })
}

fn distance(a: &Lab3, b: &Lab3) -> f32 {
    (0..3).map(|c| (a[c] - b[c]).powi(2)).sum::<f32>().sqrt()
}

/// What surely is the subject and what surely is not, where the ground is not plain: what stands out and looks unlike the border, and what
/// does neither.
fn first_guess(work: &Work, features: &[Feature], fence: &Fence, trusted: &[bool]) -> (Vec<Option<bool>>, Vec<f32>) {
    let border: Vec<Feature> = (0..work.count()).filter(|at| trusted[*at]).map(|at| features[at]).collect();
    let Some(around) = Mixture::of(&border, 9) else { return (vec![None; work.count()], vec![0.5; work.count()]) };
    let unlike: Vec<f32> = features.par_iter().map(|feature| around.unlikely(feature)).collect();
    let share = |values: &[f32], part: f32| {
        let mut sorted = values.to_vec();
        sorted.sort_by(f32::total_cmp);
        sorted[((sorted.len() - 1) as f32 * part) as usize]
    };
    let scaled = |values: &[f32]| -> Vec<f32> {
        let (low, high) = (share(values, 0.05), share(values, 0.98));
        values.iter().map(|value| ((value - low) / (high - low).max(1e-6)).clamp(0.0, 1.0)).collect()
    };
    let (unlike, out) = (scaled(&unlike), &fence.level);
    let score: Vec<f32> = (0..work.count())
        .map(|at| {
            let (x, y) = work.place(at);
            let middle = (-(x * x + y * y) / 0.9).exp();
            (0.2 + 0.8 * unlike[at]) * (0.2 + 0.8 * out[at]) * (0.4 + 0.6 * middle)
        })
        .collect();
    let cut = otsu(&score);
    let sure = |at: usize| {
        if fence.even > 0.5 {
            return fence.sure(at);
        }
        if score[at] > cut * 1.25 {
            Some(true)
        } else if score[at] < cut * 0.75 || trusted[at] {
            Some(false)
        } else {
            None
        }
    };
    ((0..work.count()).map(sure).collect(), unlike)
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

/// How much lighter the ground is than a pixel in shadow of it, 0 to 1; nothing where it is no shadow. A shadow takes all light by the
/// same share, and OKLab is scaled by the cube root of that as a whole.
fn depth(own: &Lab3, full: &Lab3, noise: f32) -> Option<f32> {
    let length: f32 = full.iter().map(|value| value * value).sum();
    let share = own.iter().zip(full).map(|(a, b)| a * b).sum::<f32>() / length.max(1e-6);
    let beside: f32 = own.iter().zip(full).map(|(a, b)| (a - b * share).powi(2)).sum::<f32>().sqrt();
    (share > 0.55 && beside < 3.0 * noise + 0.006).then_some((1.0 - share).max(0.0))
}

/// What an even ground looks like in full light: as what lies open nearby.
fn open_ground(work: &Work, fence: &Fence) -> Vec<Lab3> {
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
/// colours, but an edge.
fn shadows(work: &Work, full: &[Lab3], own: f32, fence: Option<&Fence>) -> Vec<bool> {
    let noise = own;
    // A texture goes on in the shadow; it is looked at evenly.
    let even = Plane::<3>::new(work.width, work.height, work.lab.clone());
    let (even, noise) = if noise > 0.01 { (even.blurred(3.0).data, noise * 0.35) } else { (even.data, noise) };
    let depths: Vec<Option<f32>> = (0..work.count())
        .map(|at| {
            // What is thin and dark is even only together with what is beside it.
            depth(&work.lab[at], &full[at], own).and_then(|_| depth(&even[at], &full[at], noise))
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
            for other in beside(work, at) {
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
        let to_light = |at: &usize| beside(work, *at).any(|other| depths[other].is_some() && dark(other).is_none());
        let edge: Vec<usize> = own.iter().copied().filter(to_light).collect();
        let rim: Vec<f32> = edge.iter().filter_map(|at| depths[*at]).collect();
        let fades = rim.len() * 12 > own.len().isqrt()
            && rim.iter().sum::<f32>() / (rim.len() as f32) < 0.5 * deep + 2.0 * noise;
        // Where the light is not known well, a shadow is what lies at the foot of something.
        let thrown = fence.is_none_or(|fence| {
            let thing = |at: usize| depths[at].is_none() && fence.sure(at) == Some(true);
            own.iter().filter(|at| beside(work, **at).any(thing)).count() * 10 > edge.len()
        });
        let soft = fades && thrown && light * 5 > own.len() * 2;
        if soft {
            own.into_iter().for_each(|at| out[at] = true);
        }
    }
    out
}

/// The pixels around one.
pub(super) fn beside(work: &Work, at: usize) -> impl Iterator<Item = usize> {
    let (x, y) = ((at % work.width) as isize, (at / work.width) as isize);
    let (width, height) = (work.width as isize, work.height as isize);
    AROUND.iter().filter_map(move |(dx, dy)| {
        let (x, y) = (x + dx, y + dy);
        (x >= 0 && y >= 0 && x < width && y < height).then(|| (y * width + x) as usize)
    })
}

/// Takes away small pieces beside the subject, and closes pinholes in it.
///
/// `busy`: how uneven the ground is, 0 to 1.
fn without_crumbs(work: &Work, inside: &mut [bool], hints: &[Hint], busy: f32) {
    for wanted in [true, false] {
        let pieces = pieces(work, inside, wanted);
        let largest = pieces.iter().map(Vec::len).max().unwrap_or(0);
        let least = if wanted {
            ((work.count() / 4_000) as f32).max(largest as f32 * (1.0 / 400.0 + busy * busy / 8.0)) as usize
        } else {
            work.count() / 8_000
        };
        for piece in pieces.iter().filter(|piece| piece.len() < least) {
            if piece.iter().all(|at| hints[*at] == Hint::Unknown) {
                piece.iter().for_each(|at| inside[*at] = !wanted);
            }
        }
    }
}

/// Areas of one kind that hang together by sides or corners.
fn pieces(work: &Work, inside: &[bool], wanted: bool) -> Vec<Vec<usize>> {
    let mut seen = vec![false; work.count()];
    let mut out = Vec::new();
    for start in 0..work.count() {
        if seen[start] || inside[start] != wanted {
            continue;
        }
        let (mut open, mut own) = (vec![start], Vec::new());
        seen[start] = true;
        while let Some(at) = open.pop() {
            own.push(at);
            for other in beside(work, at) {
                if !seen[other] && inside[other] == wanted {
                    seen[other] = true;
                    open.push(other);
                }
            }
        }
        out.push(own);
    }
    out
}
