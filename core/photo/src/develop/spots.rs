//! Spots filled from their surroundings: what is copied from where is found once (A. Criminisi, P. Pérez, K. Toyama, "Region filling
//! and object removal by exemplar-based image inpainting", 2004), and copied at every size. What is left of a difference along the
//! edge is spread over the spot from coarse to fine (pull-push, S. J. Gortler et al., "The lumigraph", 1996).

use rayon::prelude::*;
use vatman_document::{BrushStroke, Focus, SpotCopy, SpotPatch};
use vatman_units::Ratio;

use super::film::{Film, Rgb};
use super::mask::painted;
use super::{Ready, RowFn};
use crate::Straight;
use crate::resize::resize_part;

/// Radius of the brush, in pixels, in the copy in which sources are looked for.
const RADIUS: f64 = 10.0;
/// Half the side of the squares there.
const HALF: usize = 4;
/// How far around the stroke sources are looked for, in radii.
const AROUND: f64 = 7.0;
/// Differences of encoded values up to about this are those of light.
const ALIKE: f32 = 0.08;
/// Pixels along the longer side of the largest such copy.
const LARGEST: f64 = 420.0;

/// What fills the places a stroke covers.
///
/// The next square is filled where most around it is known and an edge runs into the hole; it is taken from where the known part of it
/// differs least (squares of encoded values), a nearer place being preferred among equals. A stroke that covers all there is, or
/// nothing, gets no squares.
#[must_use]
pub fn find_spot(picture: &Straight, stroke: BrushStroke) -> SpotPatch {
    let (w, h) = (f64::from(picture.width()), f64::from(picture.height()));
    let longer = w.max(h);
    let radius = (stroke.radius.get() * longer).max(0.5);
    let mut out = SpotPatch { stroke, reach: Ratio::ZERO, copies: Vec::new() };
    let Some(area) = around(&out.stroke, (w, h), radius * (1.0 + AROUND)) else { return out };
    let scale = (RADIUS / radius).min(1.0).min(LARGEST / area[2].max(area[3]));
    let sized = |side: f64| ((side * scale).round() as u32).max(1);
    let (wide, high) = (sized(area[2]), sized(area[3]));
    let small = resize_part(picture, area, wide, high);
    // Whole pixels do not fit exactly: each way has a scale of its own.
    let (across, down) = (f64::from(wide) / area[2], f64::from(high) / area[3]);
    let mut film = Film::of(&small);
    film.window = super::Window {
        left: (-area[0] * across) as f32,
        top: (-area[1] * down) as f32,
        width: (w * across) as f32,
        height: (h * down) as f32,
        longer: longer * scale,
    };
    let hole: Vec<bool> = painted(std::slice::from_ref(&out.stroke), &film).iter().map(|own| *own > 0.0).collect();
    let mut work = Work::new(film.pixels, hole, wide as usize, high as usize);
    out.reach = Ratio::new((HALF as f64 + 0.75) / scale / longer);
    let place = |(x, y): (usize, usize)| Focus {
        x: Ratio::new(((x as f64 + 0.5) / across + area[0]) / w).clamped(),
        y: Ratio::new(((y as f64 + 0.5) / down + area[1]) / h).clamped(),
    };
    while let Some(to) = work.next() {
        let Some(from) = work.source(to) else { break };
        work.copy(from, to);
        out.copies.push(SpotCopy { to: place(to), from: place(from) });
        if out.copies.len() == SpotPatch::MOST_COPIES {
            break;
        }
    }
    out
}

/// Left, top, width and height of the part of a picture around a stroke.
fn around(stroke: &BrushStroke, (w, h): (f64, f64), room: f64) -> Option<[f64; 4]> {
    let ends = |values: &mut dyn Iterator<Item = f64>, most: f64| {
        let (low, high) = values.fold((f64::MAX, f64::MIN), |(low, high), at| (low.min(at), high.max(at)));
        let (low, high) = ((low - room).max(0.0), (high + room).min(most));
        (high - low >= 1.0).then_some((low, high))
    };
    let (left, right) = ends(&mut stroke.points.iter().map(|point| point.x.get() * w), w)?;
    let (top, foot) = ends(&mut stroke.points.iter().map(|point| point.y.get() * h), h)?;
    Some([left, top, right - left, foot - top])
}

struct Work {
    width: usize,
    height: usize,
    pixels: Vec<Rgb>,
    /// Not filled yet.
    open: Vec<bool>,
    /// How sure what is known is.
    sure: Vec<f32>,
    /// Middles of squares of which all was known from the start.
    sources: Vec<(usize, usize)>,
}

impl Work {
    fn new(pixels: Vec<Rgb>, hole: Vec<bool>, width: usize, height: usize) -> Self {
        let whole = |x: usize, y: usize| {
            (y - HALF..=y + HALF).all(|row| (x - HALF..=x + HALF).all(|column| !hole[row * width + column]))
        };
        let rows = HALF..height.saturating_sub(HALF);
        let sources = rows
            .into_par_iter()
            .flat_map_iter(|y| {
                (HALF..width.saturating_sub(HALF))
                    .filter(move |x| whole(*x, y))
                    .map(move |x| (x, y))
                    .collect::<Vec<_>>()
            })
            .collect();
        let sure = hole.iter().map(|open| if *open { 0.0 } else { 1.0 }).collect();
        Self { width, height, pixels, open: hole, sure, sources }
    }

    fn square(&self, (x, y): (usize, usize)) -> impl Iterator<Item = (usize, isize, isize)> + use<> {
        let (width, height) = (self.width as isize, self.height as isize);
        let half = HALF as isize;
        (-half..=half).flat_map(move |dy| (-half..=half).map(move |dx| (dx, dy))).filter_map(move |(dx, dy)| {
            let (x, y) = (x as isize + dx, y as isize + dy);
            ((0..width).contains(&x) && (0..height).contains(&y)).then_some(((y * width + x) as usize, dx, dy))
        })
    }

    /// The open pixel at the edge that is to be filled next.
    fn next(&self) -> Option<(usize, usize)> {
        let near = |x: usize, y: usize, dx: isize, dy: isize| {
            let (x, y) = (x.checked_add_signed(dx)?, y.checked_add_signed(dy)?);
            (x < self.width && y < self.height).then_some(y * self.width + x)
        };
        let wish = |at: usize| {
            let (x, y) = (at % self.width, at / self.width);
            let sides = [(-1, 0), (1, 0), (0, -1), (0, 1)];
            let known = |(dx, dy): (isize, isize)| near(x, y, dx, dy).is_some_and(|other| !self.open[other]);
            if !self.open[at] || !sides.into_iter().any(known) {
                return None;
            }
            let (mut sure, mut count) = (0.0, 0.0);
            let (mut edge, mut normal) = ([0.0f32; 2], [0.0f32; 2]);
            for (other, dx, dy) in self.square((x, y)) {
                count += 1.0;
                if self.open[other] {
                    normal[0] += dx as f32;
                    normal[1] += dy as f32;
                    continue;
                }
                sure += self.sure[other];
                let light =
                    |at: usize| self.pixels[at][0] * 0.21 + self.pixels[at][1] * 0.72 + self.pixels[at][2] * 0.07;
                let (ox, oy) = (other % self.width, other / self.width);
                let step = |dx: isize, dy: isize| {
                    near(ox, oy, dx, dy).filter(|next| !self.open[*next]).map_or(0.0, |next| light(next) - light(other))
                };
                let own = [step(1, 0), step(0, 1)];
                if own[0].hypot(own[1]) > edge[0].hypot(edge[1]) {
                    edge = own;
                }
            }
            let long = normal[0].hypot(normal[1]).max(1e-6);
            // An edge runs across its gradient: how much of that goes into the hole.
            let into = (edge[0] * normal[1] - edge[1] * normal[0]).abs() / long;
            Some(sure / count * (0.06 + into))
        };
        let edges = (0..self.open.len()).into_par_iter().filter_map(|at| wish(at).map(|wish| (wish, at)));
        let best = edges.max_by(|a, b| a.0.total_cmp(&b.0).then(b.1.cmp(&a.1)))?;
        Some((best.1 % self.width, best.1 / self.width))
    }

    /// From where a square is taken.
    fn source(&self, to: (usize, usize)) -> Option<(usize, usize)> {
        let known: Vec<(usize, isize, isize)> = self.square(to).filter(|(at, ..)| !self.open[*at]).collect();
        let cost = |(x, y): (usize, usize), most: f32| {
            let far = (x as f32 - to.0 as f32).hypot(y as f32 - to.1 as f32);
            let mut sum = far * 2e-4 * known.len() as f32;
            for (at, dx, dy) in &known {
                let other = (y as isize + dy) as usize * self.width + (x as isize + dx) as usize;
                let (a, b) = (self.pixels[*at], self.pixels[other]);
                sum += (0..3).map(|c| (a[c] - b[c]) * (a[c] - b[c])).sum::<f32>();
                if sum > most {
                    return f32::MAX;
                }
            }
            sum
        };
        let chunks = self.sources.par_chunks(512).enumerate().filter_map(|(chunk, sources)| {
            let mut best: Option<(f32, usize)> = None;
            for (at, source) in sources.iter().enumerate() {
                let own = cost(*source, best.map_or(f32::MAX, |best| best.0));
                if best.is_none_or(|best| own < best.0) {
                    best = Some((own, chunk * 512 + at));
                }
            }
            best
        });
        let best = chunks.min_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)))?;
        Some(self.sources[best.1])
    }

    fn copy(&mut self, from: (usize, usize), to: (usize, usize)) {
        let square: Vec<_> = self.square(to).collect();
        let sure = square.iter().map(|(at, ..)| self.sure[*at]).sum::<f32>() / square.len() as f32;
        for (at, dx, dy) in square {
            if self.open[at] {
                let other = (from.1 as isize + dy) as usize * self.width + (from.0 as isize + dx) as usize;
                self.pixels[at] = self.pixels[other];
                self.open[at] = false;
                self.sure[at] = sure;
            }
        }
    }
}

/// Fills spots.
pub(super) fn ready(spots: &[SpotPatch]) -> Option<Ready> {
    let spots: Vec<SpotPatch> = spots.iter().filter(|spot| !spot.copies.is_empty()).cloned().collect();
    (!spots.is_empty()).then(|| {
        Ready::looking(move |film| {
            let mut after = film.clone();
            spots.iter().for_each(|spot| fill(&mut after, spot));
            let whole: RowFn = Box::new(move |y, row| {
                let width = row.len();
                row.take(&after.pixels[y * width..][..width]);
            });
            whole
        })
    })
}

/// A part of a picture that is worked on.
struct Field {
    left: usize,
    top: usize,
    width: usize,
    height: usize,
}

fn fill(film: &mut Film, spot: &SpotPatch) {
    // What the hand covered is filled to its edge, and a little softer than that beyond.
    let stroke = BrushStroke { hardness: Ratio::new(0.8), strength: Ratio::ONE, erases: false, ..spot.stroke.clone() };
    let cover = painted(std::slice::from_ref(&stroke), film);
    let reach = (spot.reach.get() * film.longer()) as f32;
    let places: Vec<[(f32, f32); 2]> =
        spot.copies.iter().map(|copy| [film.place(copy.to), film.place(copy.from)]).collect();
    let Some(field) = field_of(&places, reach, film) else { return };
    let mut sum = vec![[0.0f32; 4]; field.width * field.height];
    for [to, from] in &places {
        let held = |at: f32, low: usize, count: usize| (at.max(low as f32) as usize).min(low + count);
        let (x0, x1) = (held(to.0 - reach, field.left, field.width), held(to.0 + reach + 1.0, field.left, field.width));
        let (y0, y1) = (held(to.1 - reach, field.top, field.height), held(to.1 + reach + 1.0, field.top, field.height));
        for y in y0..y1 {
            for x in x0..x1 {
                let (dx, dy) = (x as f32 + 0.5 - to.0, y as f32 + 0.5 - to.1);
                if dx.abs() > reach || dy.abs() > reach {
                    continue;
                }
                // Squares fade into each other, the middle of each counting by far the most: means of several would be soft.
                let near = (1.02 - dx.abs() / reach) * (1.02 - dy.abs() / reach);
                let weight = (near * near * near) * (near * near * near);
                let own = between(film, from.0 + dx - 0.5, from.1 + dy - 0.5);
                let sum = &mut sum[(y - field.top) * field.width + x - field.left];
                (0..3).for_each(|c| sum[c] += own[c] * weight);
                sum[3] += weight;
            }
        }
    }
    let at = |n: usize| (field.top + n / field.width) * film.width + field.left + n % field.width;
    let made = |n: usize| (sum[n][3] > 0.0).then(|| [0, 1, 2].map(|c| sum[n][c] / sum[n][3]));
    // The difference along the edge, known where squares reach beyond the spot.
    let known = |n: usize| {
        let own = film.pixels[at(n)];
        match made(n) {
            Some(made) if cover[at(n)] <= 0.0 => {
                let off = [own[0] - made[0], own[1] - made[1], own[2] - made[2]];
                // Where an edge does not meet its copy the difference says nothing about light.
                let far = off.iter().map(|off| off * off).sum::<f32>() / (ALIKE * ALIKE);
                [off[0], off[1], off[2], 1.0 / (1.0 + far * far)]
            }
            _ => [0.0; 4],
        }
    };
    let spread = spread(&(0..sum.len()).map(known).collect::<Vec<_>>(), field.width, field.height);
    for n in 0..sum.len() {
        let (Some(made), share) = (made(n), cover[at(n)]) else { continue };
        if share > 0.0 {
            let pixel = &mut film.pixels[at(n)];
            (0..3).for_each(|c| pixel[c] += (made[c] + spread[n][c] - pixel[c]) * share);
        }
    }
}

fn field_of(places: &[[(f32, f32); 2]], reach: f32, film: &Film) -> Option<Field> {
    let ends = |pick: fn((f32, f32)) -> f32, most: usize| {
        let all = places.iter().map(|[to, _]| pick(*to));
        let (low, high) = all.fold((f32::MAX, f32::MIN), |(low, high), at| (low.min(at), high.max(at)));
        let (low, high) =
            ((low - reach).floor().max(0.0) as usize, ((high + reach).ceil() + 1.0).clamp(0.0, most as f32) as usize);
        (low < high).then_some((low, high - low))
    };
    let (left, width) = ends(|place| place.0, film.width)?;
    let (top, height) = ends(|place| place.1, film.height)?;
    Some(Field { left, top, width, height })
}

/// The colour between pixels, by straight lines both ways; beyond the edge as on it.
fn between(film: &Film, x: f32, y: f32) -> Rgb {
    let held = |at: f32, most: usize| (at.max(0.0) as usize).min(most - 1);
    let (left, top) = (x.floor(), y.floor());
    let (across, down) = (x - left, y - top);
    let at = |dx: f32, dy: f32| film.pixels[held(top + dy, film.height) * film.width + held(left + dx, film.width)];
    let (a, b, c, d) = (at(0.0, 0.0), at(1.0, 0.0), at(0.0, 1.0), at(1.0, 1.0));
    [0, 1, 2].map(|n| {
        let upper = a[n] + (b[n] - a[n]) * across;
        let lower = c[n] + (d[n] - c[n]) * across;
        upper + (lower - upper) * down
    })
}

/// Known values (those with a fourth above 0, which is their weight) carried over all others: from means of ever larger squares, back to single pixels.
fn spread(known: &[[f32; 4]], width: usize, height: usize) -> Vec<[f32; 3]> {
    if width <= 1 && height <= 1 || known.iter().all(|own| own[3] >= 1.0) {
        return known.iter().map(|own| [own[0], own[1], own[2]]).collect();
    }
    let (half_w, half_h) = (width.div_ceil(2), height.div_ceil(2));
    let coarse = |at: usize| {
        let mut sum = [0.0f32; 4];
        for (dx, dy) in [(0, 0), (1, 0), (0, 1), (1, 1)] {
            let (x, y) = (at % half_w * 2 + dx, at / half_w * 2 + dy);
            if x < width && y < height {
                let own = known[y * width + x];
                (0..3).for_each(|c| sum[c] += own[c] * own[3]);
                sum[3] += own[3];
            }
        }
        if sum[3] > 0.0 { [sum[0] / sum[3], sum[1] / sum[3], sum[2] / sum[3], sum[3].min(1.0)] } else { [0.0; 4] }
    };
    let filled = spread(&(0..half_w * half_h).map(coarse).collect::<Vec<_>>(), half_w, half_h);
    let finer = |at: usize| {
        let own = known[at];
        if own[3] >= 1.0 {
            return [own[0], own[1], own[2]];
        }
        let place = |at: usize, most: usize| {
            let along = (at as f32 - 0.5) / 2.0;
            let low = along.floor().max(0.0) as usize;
            (low.min(most - 1), (low + 1).min(most - 1), (along - along.floor()).clamp(0.0, 1.0))
        };
        let (left, right, across) = place(at % width, half_w);
        let (top, foot, down) = place(at / width, half_h);
        [0, 1, 2].map(|c| {
            let line = |row: usize| {
                let (a, b) = (filled[row * half_w + left][c], filled[row * half_w + right][c]);
                a + (b - a) * across
            };
            let coarser = line(top) + (line(foot) - line(top)) * down;
            coarser + (own[c] - coarser) * own[3]
        })
    };
    (0..known.len()).map(finer).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{develop, resize};
    use vatman_document::{Develop, Treatment};

    /// A striped cloth that grows lighter to the right.
    fn cloth(side: u32) -> Straight {
        let mut data = Vec::new();
        for y in 0..side {
            for x in 0..side {
                let (u, v) = (f64::from(x) / f64::from(side), f64::from(y) / f64::from(side));
                let stripe = 24.0 * (v * 90.0 + u * 6.0).sin();
                let base = 90.0 + 70.0 * u;
                data.extend([base + stripe, base * 0.8 + stripe, base * 0.6].map(|value| value as u8));
                data.push(255);
            }
        }
        Straight::new(side, side, data).unwrap()
    }

    fn stroke(points: &[(f64, f64)], radius: f64) -> BrushStroke {
        BrushStroke {
            points: points.iter().map(|(x, y)| Focus { x: Ratio::new(*x), y: Ratio::new(*y) }).collect(),
            radius: Ratio::new(radius),
            hardness: Ratio::ONE,
            strength: Ratio::ONE,
            erases: false,
        }
    }

    fn soiled(clean: &Straight, way: &[(f64, f64)], radius: f64) -> Straight {
        let mut out = clean.clone();
        let (w, h) = (clean.width() as usize, clean.height() as usize);
        for (at, pixel) in out.data.chunks_exact_mut(4).enumerate() {
            let (x, y) = ((at % w) as f64 / w as f64, (at / w) as f64 / h as f64);
            let on_way = |(a, b): ((f64, f64), (f64, f64))| {
                (0..=50).any(|n| {
                    let t = f64::from(n) / 50.0;
                    (x - a.0 - (b.0 - a.0) * t).hypot(y - a.1 - (b.1 - a.1) * t) < radius
                })
            };
            let mut ways = way.windows(2).map(|pair| (pair[0], pair[1]));
            if ways.any(on_way) {
                pixel[..3].copy_from_slice(&[230, 20, 20]);
            }
        }
        out
    }

    fn off(a: &Straight, b: &Straight) -> (f64, f64) {
        let all = a.data().iter().zip(b.data()).map(|(a, b)| f64::from(a.abs_diff(*b)));
        let (sum, most, count) =
            all.fold((0.0, 0.0f64, 0.0), |(sum, most, count), own| (sum + own, most.max(own), count + 1.0));
        (sum / count, most)
    }

    fn patched(picture: &Straight, spot: &SpotPatch) -> Straight {
        let step = Treatment::new(Develop::Spots { spots: vec![spot.clone()] });
        assert_eq!(step.fault(), None);
        develop(picture, &[step], &|_, _| None)
    }

    #[test]
    fn a_scratch_over_cloth_is_gone_and_nothing_else_changes() {
        let clean = cloth(500);
        let way = [(0.3, 0.35), (0.5, 0.5), (0.7, 0.48)];
        let dirty = soiled(&clean, &way, 0.012);
        let spot = find_spot(&dirty, stroke(&way, 0.022));
        assert!(spot.copies.len() > 10);
        let mended = patched(&dirty, &spot);
        let (before, after) = (off(&clean, &dirty), off(&clean, &mended));
        assert!(after.0 < before.0 / 8.0 && after.1 < 60.0, "{before:?} became {after:?}");
        for (at, (a, b)) in dirty.data().chunks_exact(4).zip(mended.data().chunks_exact(4)).enumerate() {
            let (x, y) = ((at % 500) as f64 / 500.0, (at / 500) as f64 / 500.0);
            if !(0.27..0.73).contains(&x) || !(0.32..0.53).contains(&y) {
                assert_eq!(a, b, "at {x}, {y}");
            }
        }
    }

    #[test]
    fn a_spot_looks_the_same_at_every_size() {
        let clean = cloth(900);
        let way = [(0.45, 0.6), (0.55, 0.62)];
        let dirty = soiled(&clean, &way, 0.01);
        let spot = find_spot(&dirty, stroke(&way, 0.02));
        let large = resize(&patched(&dirty, &spot), 450, 450);
        let small = patched(&resize(&dirty, 450, 450), &spot);
        let (mean, most) = off(&large, &small);
        assert!(mean < 0.05 && most < 16.0, "{mean} {most}");
    }

    #[test]
    fn a_smooth_ground_stays_smooth_to_the_edge_of_the_picture() {
        let mut data = Vec::new();
        for y in 0..300u32 {
            for x in 0..300u32 {
                data.extend([(60 + x / 2) as u8, (80 + y / 3) as u8, 140, 255]);
            }
        }
        let clean = Straight::new(300, 300, data).unwrap();
        for way in [[(0.5, 0.5), (0.52, 0.5)], [(0.02, 0.4), (0.01, 0.5)], [(0.98, 0.99), (0.99, 0.98)]] {
            let dirty = soiled(&clean, &way, 0.03);
            let spot = find_spot(&dirty, stroke(&way, 0.045));
            let (mean, most) = off(&clean, &patched(&dirty, &spot));
            assert!(mean < 0.2 && most < 14.0, "{way:?}: {mean} {most}");
        }
    }

    #[test]
    fn what_is_known_is_carried_over_all_else() {
        let (w, h) = (23, 17);
        let known: Vec<[f32; 4]> = (0..w * h)
            .map(|at| match at % w {
                0 => [10.0, -4.0, 1.0, 1.0],
                22 => [30.0, -4.0, 0.0, 1.0],
                _ => [0.0; 4],
            })
            .collect();
        let out = spread(&known, w, h);
        for row in out.chunks_exact(w) {
            assert_eq!((row[0], row[22]), ([10.0, -4.0, 1.0], [30.0, -4.0, 0.0]), "what is known stays");
            assert!(row.iter().all(|own| (10.0..=30.0).contains(&own[0]) && (own[1] + 4.0).abs() < 1e-4), "{row:?}");
            assert!(
                row[3][0] < 14.0 && row[19][0] > 26.0 && row[11][0] > row[3][0] && row[19][0] > row[11][0],
                "{row:?}"
            );
        }
        // What is half known lies halfway between what it is and what lies around it.
        let mut half = vec![[2.0, 2.0, 2.0, 1.0]; 16];
        half[5] = [6.0, 2.0, 2.0, 0.5];
        let out = spread(&half, 4, 4);
        assert!((3.5..4.6).contains(&out[5][0]) && out[5][1] == 2.0, "{:?}", out[5]);
    }

    #[test]
    fn what_has_no_surroundings_is_left_as_it_is() {
        let clean = cloth(60);
        let all = find_spot(&clean, stroke(&[(0.0, 0.5), (1.0, 0.5)], 0.5));
        assert!(all.copies.is_empty());
        assert!(find_spot(&clean, stroke(&[], 0.1)).copies.is_empty());
        let step = Treatment::new(Develop::Spots { spots: vec![all] });
        assert_eq!(develop(&clean, &[step], &|_, _| None).data(), clean.data());
    }
}
