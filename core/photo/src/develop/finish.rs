//! Finish: grain, corners, light leaks, fading, glow, dots, few tones, and other pictures laid over.

use std::sync::Arc;

use rayon::prelude::*;
use vatman_document::{Blend, Develop, Focus};
use vatman_units::{Angle, Ratio};

use super::Ready;
use super::blurring::blurred;
use super::colour::{encoded, smooth};
use super::film::{Film, Rgb, Window, luma};
use super::mixing;
use super::row::EachBeside;
use super::transfer;
use crate::Straight;
use crate::wide::side_by_side;

pub(super) fn ready(develop: &Develop, film: &Film) -> Option<Ready> {
    let longer = film.longer() as f32;
    let Window { left, top, width, height, .. } = film.window;
    match develop {
        Develop::Grain { size, strength, roughness, number } => {
            let (strength, roughness, number) = (strength.get() as f32, roughness.get() as f32, *number);
            let cell = (size.get() as f32 * longer).max(1e-3);
            // Grains smaller than a pixel are seen as their mean.
            let seen = 0.32 * strength * cell.min(1.0);
            (strength > 0.0 && size.get() > 0.0).then(|| {
                Ready::rows(move |y, row| {
                    let fine = noise_along(row.len(), y, cell.max(1.0), number);
                    let coarse = noise_along(row.len(), y, cell.max(1.0) * 2.6, number ^ 0x9e37_79b9);
                    row.beside([&fine, &coarse], &Grains { seen, roughness });
                })
            })
        }
        Develop::Vignette { strength, reach, softness } => {
            let [strength, reach, softness] = [strength, reach, softness].map(|value| value.get() as f32);
            (strength != 0.0).then(|| {
                Ready::placed(move |x, y, pixel| {
                    let (dx, dy) = (x as f32 + 0.5 - left - width / 2.0, y as f32 + 0.5 - top - height / 2.0);
                    let far = dx.hypot(dy) / (width.hypot(height) / 2.0);
                    let share = smooth((far - reach) / (softness * (1.0 - reach)).max(0.02));
                    if share == 0.0 {
                        return pixel;
                    }
                    let gain = (2.5 * strength * share).exp2();
                    transfer::encoded(transfer::linear(pixel).map(|value| value * gain))
                })
            })
        }
        Develop::Leak { tint, turn, reach } => {
            let (tint, reach) = (encoded(tint), reach.get() as f32);
            let (sin, cos) = (turn.to_radians() as f32).sin_cos();
            (reach > 0.0).then(|| {
                Ready::placed(move |x, y, pixel| {
                    let (dx, dy) = ((x as f32 + 0.5 - left) / width - 0.5, (y as f32 + 0.5 - top) / height - 0.5);
                    // From 0 at the edge it comes in at to 1 at the other.
                    let along = 0.5 - (dx * cos + dy * sin) / (cos.abs() + sin.abs());
                    let beside = (dy * cos - dx * sin) / (cos.abs() + sin.abs());
                    let waved = along + 0.06 * (beside * 7.0).sin() + 0.04 * (beside * 17.0 + 1.3).sin();
                    let share = (1.0 - waved / reach).clamp(0.0, 1.0).powi(2);
                    let light = tint.map(|value| value * share);
                    mixing::mixed(Blend::Screen, pixel, light)
                })
            })
        }
        Develop::Fade { strength } => {
            let strength = strength.get() as f32;
            (strength > 0.0).then(|| {
                Ready::pixel(move |pixel| {
                    let light = luma(pixel);
                    pixel.map(|value| {
                        let quiet = value + (light - value) * 0.25 * strength;
                        quiet * (1.0 - 0.24 * strength) + 0.17 * strength
                    })
                })
            })
        }
        Develop::Glow { radius, strength, threshold } => {
            let (radius, strength, threshold) = (radius.get(), strength.get() as f32, threshold.get() as f32);
            (radius > 0.0 && strength > 0.0).then(|| {
                Ready::whole(move |film| {
                    let bright = film.pixels.par_iter().map(|pixel| {
                        let share = smooth((luma(*pixel) - threshold) / (1.0 - threshold).max(0.02));
                        pixel.map(|value| value.clamp(0.0, 1.0) * share)
                    });
                    let bright = Film { pixels: bright.collect(), alpha: film.alpha.clone(), ..*film };
                    let soft = blurred(&bright, radius * film.longer());
                    let own = film.pixels.par_iter().zip(&soft);
                    own.map(|(pixel, glow)| mixing::mixed(Blend::Screen, *pixel, glow.map(|value| value * strength)))
                        .collect()
                })
            })
        }
        Develop::Halftone { size, turn, ink, paper } => {
            let cell = (size.get() as f32 * longer).max(2.0);
            let (sin, cos) = (turn.to_radians() as f32).sin_cos();
            let (ink, paper) = (encoded(ink), encoded(paper));
            (size.get() > 0.0).then(|| {
                Ready::placed(move |x, y, pixel| {
                    let (x, y) = (x as f32 + 0.5, y as f32 + 0.5);
                    let (u, v) = ((x * cos + y * sin) / cell, (y * cos - x * sin) / cell);
                    let turn = std::f32::consts::TAU;
                    // The spot function of round dots: 1 in the middle of a dot, 0 in the middle between four.
                    let spot = ((u * turn).cos() + (v * turn).cos()) / 4.0 + 0.5;
                    let covered = ((spot - luma(pixel)) * cell * 0.5 + 0.5).clamp(0.0, 1.0);
                    [0, 1, 2].map(|c| paper[c] + (ink[c] - paper[c]) * covered)
                })
            })
        }
        Develop::Posterise { levels } => {
            let steps = f32::from(*levels - 1).max(1.0);
            Some(Ready::pixel(move |pixel| pixel.map(|value| (value * steps).round() / steps)))
        }
        _ => None,
    }
}

/// Light moved by grains, most in the middle tones.
struct Grains {
    seen: f32,
    roughness: f32,
}

impl EachBeside<2> for Grains {
    #[inline(always)]
    fn pixel(&self, pixel: Rgb, [fine, coarse]: [f32; 2]) -> Rgb {
        let light = luma(pixel).clamp(0.0, 1.0);
        let by = self.seen * (fine + self.roughness * coarse) * (0.25 + 3.0 * light * (1.0 - light));
        [pixel[0] + by, pixel[1] + by, pixel[2] + by]
    }
}

/// A number from -1 to 1 for a point of a lattice.
fn hashed(x: i32, y: i32, number: u32) -> f32 {
    let mut h =
        (x as u32).wrapping_mul(0x85eb_ca6b) ^ (y as u32).wrapping_mul(0xc2b2_ae35) ^ number.wrapping_mul(0x27d4_eb2f);
    h = (h ^ (h >> 15)).wrapping_mul(0x2c1b_3c6d);
    h = (h ^ (h >> 12)).wrapping_mul(0x297a_2d39);
    h ^= h >> 15;
    h as f32 / (u32::MAX as f32 / 2.0) - 1.0
}

/// Value noise along a row of pixels: random numbers on a lattice of cells of so many pixels, smoothly joined. Down a row each number of
/// the lattice is needed once.
fn noise_along(width: usize, y: usize, cell: f32, number: u32) -> Vec<f32> {
    let down = (y as f32 + 0.5) / cell;
    let (j, v) = (down.floor() as i32, smooth(down.fract()));
    let columns = (width as f32 / cell) as i32 + 2;
    let lattice: Vec<f32> = (0..=columns)
        .map(|i| {
            let (above, below) = (hashed(i, j, number), hashed(i, j + 1, number));
            above + (below - above) * v
        })
        .collect();
    let mut out = vec![0.0; width];
    side_by_side(|| {
        let per = 1.0 / cell;
        for (x, out) in out.iter_mut().enumerate() {
            let along = (x as i32 as f32 + 0.5) * per;
            let i = along as i32;
            let u = smooth(along - i as f32);
            let [from, to] = [0, 1].map(|n| lattice[(i + n) as usize]);
            *out = from + (to - from) * u;
        }
    });
    out
}

/// A picture laid over another of a size in pixels.
pub(super) fn overlay(
    over: Arc<Straight>,
    blend: Blend,
    centre: Focus,
    (scale, turn): (Ratio, Angle),
    film: &Film,
) -> Ready {
    let longer = film.longer() as f32;
    let (w, h) = (over.width() as f32, over.height() as f32);
    // Pixels of the one laid over for each of the other.
    let by = w.max(h) / (scale.get() as f32 * longer).max(1e-3);
    let (sin, cos) = (turn.to_radians() as f32).sin_cos();
    let (cx, cy) = film.place(centre);
    Ready::placed(move |x, y, pixel| {
        let (dx, dy) = (x as f32 + 0.5 - cx, y as f32 + 0.5 - cy);
        let (u, v) = ((dx * cos + dy * sin) * by + w / 2.0, (dy * cos - dx * sin) * by + h / 2.0);
        let [r, g, b, a] = laid(&over, (u - 0.5, v - 0.5));
        if a <= 0.0 {
            return pixel;
        }
        let above = [r / a, g / a, b / a];
        let mixed = mixing::mixed(blend, pixel.map(|value| value.clamp(0.0, 1.0)), above);
        [0, 1, 2].map(|c| pixel[c] + (mixed[c] - pixel[c]) * a)
    })
}

/// Between four pixels, weighted by their alpha; beyond the edges all is clear.
fn laid(over: &Straight, (x, y): (f32, f32)) -> [f32; 4] {
    let (x0, y0) = (x.floor(), y.floor());
    let (u, v) = (x - x0, y - y0);
    let mut out = [0.0; 4];
    for (dx, dy, share) in [(0, 0, (1.0 - u) * (1.0 - v)), (1, 0, u * (1.0 - v)), (0, 1, (1.0 - u) * v), (1, 1, u * v)]
    {
        let (px, py) = (x0 as i64 + dx, y0 as i64 + dy);
        if px < 0 || py < 0 || px >= i64::from(over.width()) || py >= i64::from(over.height()) {
            continue;
        }
        let at = (py as usize * over.width() as usize + px as usize) * 4;
        let pixel = &over.data()[at..at + 4];
        let alpha = f32::from(pixel[3]) / 255.0 * share;
        for c in 0..3 {
            out[c] += f32::from(pixel[c]) / 255.0 * alpha;
        }
        out[3] += alpha;
    }
    out
}
