//! Which pixels belong to the subject: seeds from the border and from what stands out, then the least costly division by mixtures of what
//! pixels look like, refitted in turn (after C. Rother, V. Kolmogorov, A. Blake, "Interactive Foreground Extraction Using Iterated Graph
//! Cuts", 2004), with shadows told from what throws them.

use rayon::prelude::*;

use super::border::trusted;
use super::flow::Grid;
use super::ground::Ground;
use super::mixture::{Feature, Mixture};
use super::passes::{Fence, otsu, steepness};
use super::room::{roomier, rooms};
use super::shade::{open_ground, shadows};
use super::spread::{NOISE, Spread};
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
/// So much more room than the border of a busy ground is that of a subject.
const ROOMY: f32 = 0.2;
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
    let steep = steepness(work);
    let rooms = rooms(work, &steep, &ring);
    let trusted = trusted(work, &ring, &rooms, plain.as_ref());
    let plain = plain.map(|ground| checked(work, ground)).filter(|ground| ground.noise < PLAIN);
    let fence = Fence::of(work, &steep, |at| trusted[at]);
    // What looks like the texture of an even ground is how far it is off.
    let plain = plain.filter(|ground| !ground.is_textured() || fence.even < 0.5);
    if !watch(0.15) {
        return None;
    }
    let busy = plain.as_ref().map_or(1.0, |ground| (ground.noise / PLAIN).min(1.0));
    let odd = plain.as_ref().map(|ground| Oddness::of(work, ground, &trusted));
    // How unlike the border each pixel is, where the ground is not plain.
    let mut unlike = vec![0.5; work.count()];
    let mut guess: Vec<Option<bool>> = match &odd {
        Some(odd) => (0..work.count()).map(|at| Some(odd.weight(at) > 4.0)).collect(),
        None => {
            let found = first_guess(work, &features, &fence, &rooms, &trusted);
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
            let evenly = odd.as_ref().map_or(ground.spread, |odd| odd.evenly);
            Some(shadows(work, &full, [&ground.spread, &evenly], ground.noise.max(NOISE), None))
        }
        None => (fence.even > 0.5).then(|| {
            let even = Spread::even(NOISE);
            shadows(work, &open_ground(work, &fence), [&even; 2], NOISE, Some(&fence))
        }),
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
    ground.at_least_uneven((middle / 1.4).max(NOISE * 0.5));
    ground
}

/// How far a pixel lies from a plain ground, in deviations of its noise.
pub(super) fn oddness(ground: &Ground, work: &Work, at: usize) -> f32 {
    ground.odd(work.place(at), &work.lab[at])
}

/// How unlike a plain ground pixels are, by themselves and with their neighbours: a texture is uneven, and even on the whole.
struct Oddness {
    own: Vec<f32>,
    /// None where the ground has no texture.
    around: Option<Vec<f32>>,
    /// How pixels with their neighbours lie about the ground.
    evenly: Spread,
}

impl Oddness {
    fn of(work: &Work, ground: &Ground, trusted: &[bool]) -> Self {
        let own = (0..work.count()).map(|at| oddness(ground, work, at)).collect();
        if !ground.is_textured() {
            return Self { own, around: None, evenly: ground.spread };
        }
        let even = Plane::<3>::new(work.width, work.height, work.lab.clone()).blurred(2.5);
        let off: Vec<Lab3> = (0..work.count()).map(|at| ground.off(work.place(at), &even.data[at])).collect();
        // What is left of the unevenness is seen along the border.
        let rim: Vec<Lab3> = (0..work.count()).filter(|at| trusted[*at]).map(|at| off[at]).collect();
        let spread = Spread::of(&rim, 0.5 * NOISE);
        let around = Some(off.iter().map(|off| spread.odd(off)).collect());
        Self { own, around, evenly: Spread::of(&rim, NOISE) }
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

/// What surely is the subject and what surely is not, where the ground is not plain: what stands out and looks unlike the border, and what
/// does neither.
fn first_guess(
    work: &Work,
    features: &[Feature],
    fence: &Fence,
    rooms: &[f32],
    trusted: &[bool],
) -> (Vec<Option<bool>>, Vec<f32>) {
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
    let out = &fence.level;
    // What is even in front of a pattern, and is fenced in at all, is no part of that.
    let room: Vec<f32> = if fence.even < 0.5 {
        roomier(work, rooms, trusted).iter().zip(out).map(|(room, level)| room.min(4.0 * level)).collect()
    } else {
        vec![0.0; work.count()]
    };
    let unlike: Vec<f32> = scaled(&unlike).iter().zip(&room).map(|(unlike, room)| unlike.max(*room)).collect();
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
        if score[at] > cut * 1.25 || room[at] > ROOMY {
            Some(true)
        } else if score[at] < cut * 0.75 || trusted[at] {
            Some(false)
        } else {
            None
        }
    };
    ((0..work.count()).map(sure).collect(), unlike)
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
pub(super) fn pieces(work: &Work, inside: &[bool], wanted: bool) -> Vec<Vec<usize>> {
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
            for other in work.around(at) {
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
