//! Out of focus, in its ways.

use rayon::prelude::*;
use vatman_document::{Develop, Focus};
use vatman_units::{Angle, Ratio};

use super::Ready;
use super::colour::smooth;
use super::film::{Film, Rgb, luma};
use super::planes::{Plane, Smaller};
use super::transfer;

pub(super) fn ready(develop: &Develop, film: &Film) -> Option<Ready> {
    match develop {
        Develop::Blur { radius } => {
            let radius = radius.get();
            // Nothing clear lends its colour to what is seen where nothing is clear.
            let small = Smaller::for_blur(radius * film.longer(), film.width, film.height);
            (radius > 0.0).then(|| match small.filter(|_| film.alpha.is_none()) {
                Some(Smaller { by, room, sigma }) => Ready::small_alone(by, room, move |cells| {
                    let soft = cells.convolved(sigma);
                    Box::new(move |y, row| soft.grow_row(by, room, y, row.slices()))
                }),
                None => Ready::whole(move |film| blurred(film, radius * film.longer())),
            })
        }
        Develop::LensBlur { radius, shine } => {
            let (radius, shine) = (radius.get(), shine.get() as f32);
            (radius > 0.0).then(|| Ready::whole(move |film| through_lens(film, radius * film.longer(), shine)))
        }
        Develop::FocusSpot { centre, across, down, turn, softness, radius } => {
            let spot = (*centre, *across, *down, *turn);
            let (softness, radius) = (softness.get() as f32, radius.get());
            (radius > 0.0)
                .then(|| Ready::whole(move |film| beside(film, radius, |x, y| outside(film, spot, softness, (x, y)))))
        }
        Develop::FocusBand { centre, reach, turn, softness, radius } => {
            let (centre, turn) = (*centre, *turn);
            let (reach, softness, radius) = (reach.get() as f32, softness.get() as f32, radius.get());
            (radius > 0.0).then(|| {
                Ready::whole(move |film| {
                    let (sin, cos) = (turn.to_radians() as f32).sin_cos();
                    beside(film, radius, |x, y| {
                        let (dx, dy) = from_point(film, centre, (x, y));
                        let far = (dy * cos - dx * sin).abs();
                        faded(far / reach.max(1e-4), softness)
                    })
                })
            })
        }
        Develop::Motion { length, turn } => {
            let (length, turn) = (length.get(), turn.to_radians());
            (length > 0.0).then(|| {
                Ready::whole(move |film| {
                    let far = (length * film.longer()) as f32;
                    let (sin, cos) = (turn as f32).sin_cos();
                    drawn_out(film, far, |x, y, part| (x + cos * far * part, y + sin * far * part))
                })
            })
        }
        Develop::Zoom { centre, length } => {
            let (centre, length) = (*centre, length.get() as f32);
            (length > 0.0).then(|| {
                Ready::whole(move |film| {
                    let (cx, cy) = film.place(centre);
                    let far = length * (film.longer() as f32);
                    drawn_out(film, far, |x, y, part| {
                        let by = 1.0 + length * part;
                        (cx + (x - cx) * by, cy + (y - cy) * by)
                    })
                })
            })
        }
        Develop::Pixelate { size } => {
            let size = size.get();
            (size > 0.0).then(|| {
                Ready::whole(move |film| {
                    let by = ((size * film.longer()).round() as usize).max(1);
                    let cells = plane(film).shrunk(by);
                    let at = |at: usize| cells.data[(at / film.width / by) * cells.width + at % film.width / by];
                    (0..film.pixels.len()).into_par_iter().map(at).collect()
                })
            })
        }
        _ => None,
    }
}

fn plane(film: &Film) -> Plane<3> {
    Plane::new(film.width, film.height, film.pixels.clone())
}

/// Blurred by a Gaussian; what is clear lends no colour to what is seen.
pub(super) fn blurred(film: &Film, sigma: f64) -> Vec<Rgb> {
    let Some(alpha) = &film.alpha else { return plane(film).blurred(sigma).data };
    let weighted = film.pixels.par_iter().zip(alpha).map(|(pixel, alpha)| {
        let share = f32::from(*alpha) / 255.0;
        [pixel[0] * share, pixel[1] * share, pixel[2] * share, share]
    });
    let soft = Plane::<4>::new(film.width, film.height, weighted.collect()).blurred(sigma);
    let own = film.pixels.par_iter().zip(&soft.data);
    own.map(|(pixel, [r, g, b, share])| if *share > 1e-3 { [r, g, b].map(|value| value / share) } else { *pixel })
        .collect()
}

impl Film {
    /// Gives what is clear the colours of what is seen nearby, so that nothing else shows where it is spread over it.
    pub(super) fn lend_colours(&mut self) {
        // What lies nearest has the last word.
        for share in [0.1, 0.02, 0.004] {
            let soft = blurred(self, (share * self.longer()).max(1.0));
            let Some(alpha) = &self.alpha else { return };
            let clear = self.pixels.par_iter_mut().zip(alpha).zip(&soft).filter(|((_, alpha), _)| **alpha == 0);
            clear.for_each(|((pixel, _), soft)| *pixel = *soft);
        }
    }
}

/// From a point, in longer sides.
fn from_point(film: &Film, point: Focus, (x, y): (usize, usize)) -> (f32, f32) {
    let (longer, (left, top)) = (film.longer() as f32, film.place(point));
    ((x as f32 + 0.5 - left) / longer, (y as f32 + 0.5 - top) / longer)
}

/// 0 within, 1 without, from a distance of which 1 is the edge.
fn faded(far: f32, softness: f32) -> f32 {
    let width = softness.max(0.01);
    smooth((far - (1.0 - width)) / width)
}

/// How far outside an ellipse a pixel lies, 0 to 1.
fn outside(
    film: &Film,
    (centre, across, down, turn): (Focus, Ratio, Ratio, Angle),
    softness: f32,
    at: (usize, usize),
) -> f32 {
    let (dx, dy) = from_point(film, centre, at);
    let (sin, cos) = (turn.to_radians() as f32).sin_cos();
    let (u, v) = (dx * cos + dy * sin, dy * cos - dx * sin);
    let far = (u / (across.get() as f32).max(1e-4)).hypot(v / (down.get() as f32).max(1e-4));
    faded(far, softness)
}

/// Sharp where `share` is 0, blurred where it is 1; between lies a lesser blur, so that nothing is seen double.
fn beside(film: &Film, radius: f64, share: impl Fn(usize, usize) -> f32 + Sync) -> Vec<Rgb> {
    let sigma = radius * film.longer();
    let (some, all) = (blurred(film, sigma * 0.4), blurred(film, sigma));
    (0..film.pixels.len())
        .into_par_iter()
        .map(|at| {
            let share = share(at % film.width, at / film.width);
            let (from, to, by) = if share < 0.5 {
                (film.pixels[at], some[at], share * 2.0)
            } else {
                (some[at], all[at], share * 2.0 - 1.0)
            };
            [0, 1, 2].map(|c| from[c] + (to[c] - from[c]) * by)
        })
        .collect()
}

/// The mean along a way through every pixel, in linear light. Each doubling puts two copies of what there is half as far apart, so
/// that many samples cost few passes.
fn drawn_out(film: &Film, far: f32, place: impl Fn(f32, f32, f32) -> (f32, f32) + Sync) -> Vec<Rgb> {
    let (w, h) = (film.width, film.height);
    let mut now: Vec<Rgb> = film.pixels.par_iter().map(|pixel| transfer::linear(*pixel)).collect();
    let passes = far.max(1.0).log2().ceil().clamp(1.0, 9.0) as i32;
    for pass in 1..=passes {
        let part = 0.5f32.powi(pass + 1);
        let read = &now;
        let next = (0..w * h).into_par_iter().map(|at| {
            let (x, y) = ((at % w) as f32, (at / w) as f32);
            let (a, b) = (place(x, y, -part), place(x, y, part));
            let (a, b) = (sampled(read, (w, h), a), sampled(read, (w, h), b));
            [0, 1, 2].map(|c| (a[c] + b[c]) * 0.5)
        });
        now = next.collect();
    }
    now.par_iter().map(|pixel| transfer::encoded(*pixel)).collect()
}

/// Between four pixels; beyond the edges lies what lies on them.
pub(super) fn sampled(pixels: &[Rgb], (w, h): (usize, usize), (x, y): (f32, f32)) -> Rgb {
    let (x, y) = (x.clamp(0.0, (w - 1) as f32), y.clamp(0.0, (h - 1) as f32));
    let (x0, y0) = (x as usize, y as usize);
    let (x1, y1) = ((x0 + 1).min(w - 1), (y0 + 1).min(h - 1));
    let (u, v) = (x - x0 as f32, y - y0 as f32);
    let (a, b, c, d) = (pixels[y0 * w + x0], pixels[y0 * w + x1], pixels[y1 * w + x0], pixels[y1 * w + x1]);
    [0, 1, 2].map(|i| {
        let (top, foot) = (a[i] + (b[i] - a[i]) * u, c[i] + (d[i] - c[i]) * u);
        top + (foot - top) * v
    })
}

/// The largest disc that is worked out, in pixels; wider ones on a smaller plane.
const DISC: f64 = 12.0;

/// Means over discs, in linear light, lights brightened first as film is by them.
fn through_lens(film: &Film, radius: f64, shine: f32) -> Vec<Rgb> {
    let lit = film.pixels.par_iter().map(|pixel| {
        let over = 1.0 + shine * 9.0 * smooth((luma(*pixel) - 0.7) / 0.3);
        transfer::linear(*pixel).map(|value| value * over)
    });
    let by = ((radius / DISC).ceil() as usize).clamp(1, (film.width.min(film.height) / 4).max(1));
    let whole = Plane::new(film.width, film.height, lit.collect());
    let small = if by > 1 { whole.shrunk(by) } else { whole };
    let radius = (radius / by as f64) as f32;
    let reach = radius.ceil() as isize;
    let (w, h) = (small.width, small.height);
    // Sums along rows: a span of any width costs two readings.
    let sums: Vec<[f64; 3]> = (0..h)
        .into_par_iter()
        .flat_map_iter(|y| {
            let mut sum = [0.0f64; 3];
            let row: Vec<[f64; 3]> = std::iter::once([0.0; 3])
                .chain(small.data[y * w..(y + 1) * w].iter().map(|pixel| {
                    for c in 0..3 {
                        sum[c] += f64::from(pixel[c]);
                    }
                    sum
                }))
                .collect();
            row
        })
        .collect();
    let spans: Vec<(isize, isize)> = (-reach..=reach)
        .filter_map(|dy| {
            let half = (radius * radius - (dy * dy) as f32).sqrt();
            half.is_finite().then_some((dy, half.round() as isize))
        })
        .collect();
    let soft = (0..w * h).into_par_iter().map(|at| {
        let (x, y) = ((at % w) as isize, (at / w) as isize);
        let (mut sum, mut count) = ([0.0f64; 3], 0.0);
        for (dy, half) in &spans {
            let row = (y + dy).clamp(0, h as isize - 1) as usize * (w + 1);
            let (from, to) = ((x - half).max(0) as usize, (x + half + 1).min(w as isize) as usize);
            for c in 0..3 {
                sum[c] += sums[row + to][c] - sums[row + from][c];
            }
            count += (to - from) as f64;
        }
        sum.map(|value| (value / count.max(1.0)) as f32)
    });
    let soft = Plane::<3>::new(w, h, soft.collect());
    let soft = if by > 1 { soft.grown(by, film.width, film.height) } else { soft };
    soft.data.par_iter().map(|pixel| transfer::encoded(*pixel)).collect()
}
