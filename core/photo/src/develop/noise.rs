//! Numbers at many places of a row, worked out side by side, and the noise surfaces are made of.

use std::ops::{Add, Div, Mul, Neg, Sub};

use pulp::NullaryFnOnce;

use super::colour::smooth;
use crate::wide::side_by_side;

/// How many places are worked out at a time.
pub(super) const PLACES: usize = 64;

/// A number for each of so many places.
#[derive(Debug, Clone, Copy)]
pub(super) struct Many(pub [f32; PLACES]);

impl Many {
    pub(super) const fn all(value: f32) -> Self {
        Self([value; PLACES])
    }

    /// By the number of the place.
    #[inline]
    pub(super) fn of(does: impl Fn(usize) -> f32) -> Self {
        let mut out = Self::all(0.0);
        for (n, out) in out.0.iter_mut().enumerate() {
            *out = does(n);
        }
        out
    }

    #[inline]
    pub(super) fn map(mut self, does: impl Fn(f32) -> f32) -> Self {
        for own in &mut self.0 {
            *own = does(*own);
        }
        self
    }

    #[inline]
    pub(super) fn with(mut self, other: Self, does: impl Fn(f32, f32) -> f32) -> Self {
        for (own, other) in self.0.iter_mut().zip(other.0) {
            *own = does(*own, other);
        }
        self
    }

    pub(super) fn abs(self) -> Self {
        self.map(f32::abs)
    }

    pub(super) fn min(self, most: f32) -> Self {
        self.map(|own| own.min(most))
    }

    pub(super) fn lesser(self, other: Self) -> Self {
        self.with(other, f32::min)
    }

    pub(super) fn greater(self, other: Self) -> Self {
        self.with(other, f32::max)
    }

    pub(super) fn smooth(self) -> Self {
        self.map(smooth)
    }

    /// How far from the next whole number, with its sign.
    pub(super) fn off_whole(self) -> Self {
        let mut out = self;
        side_by_side(Each(&mut out.0, |value: f32| value - (value + 0.5).floor()));
        out
    }

    pub(super) fn floor(self) -> Self {
        let mut out = self;
        side_by_side(Each(&mut out.0, f32::floor));
        out
    }

    /// The sine of an angle in radians, right to 4e-6.
    pub(super) fn sin(self) -> Self {
        let mut out = self;
        side_by_side(Each(&mut out.0, sine));
        out
    }
}

/// The sine by its series, of the nearest angle that has the same one: the same on every machine, and many side by side.
#[inline(always)]
fn sine(angle: f32) -> f32 {
    let turns = angle * (1.0 / std::f32::consts::TAU);
    let part = turns - (turns + 0.5).floor();
    let half = 0.5f32.copysign(part);
    let part = if part.abs() > 0.25 { half - part } else { part };
    let x = part * std::f32::consts::TAU;
    let square = x * x;
    x * (1.0 - square / 6.0 * (1.0 - square / 20.0 * (1.0 - square / 42.0 * (1.0 - square / 72.0))))
}

/// The same to each of many values.
struct Each<'a, F>(&'a mut [f32; PLACES], F);

impl<F: Fn(f32) -> f32> NullaryFnOnce for Each<'_, F> {
    type Output = ();

    #[inline(always)]
    fn call(self) {
        for value in self.0 {
            *value = (self.1)(*value);
        }
    }
}

macro_rules! operators {
    ($($name:ident, $method:ident, $does:tt;)*) => {$(
        impl $name for Many {
            type Output = Self;

            #[inline]
            fn $method(self, other: Self) -> Self {
                self.with(other, |a, b| a $does b)
            }
        }

        impl $name<f32> for Many {
            type Output = Self;

            #[inline]
            fn $method(self, other: f32) -> Self {
                self.map(|a| a $does other)
            }
        }

        impl $name<Many> for f32 {
            type Output = Many;

            #[inline]
            fn $method(self, other: Many) -> Many {
                other.map(|b| self $does b)
            }
        }
    )*};
}

operators! {
    Add, add, +;
    Sub, sub, -;
    Mul, mul, *;
    Div, div, /;
}

impl Neg for Many {
    type Output = Self;

    #[inline]
    fn neg(self) -> Self {
        self.map(|own| -own)
    }
}

/// Places on a surface, in units of its size, with the number it comes from.
#[derive(Clone, Copy)]
pub(super) struct Ground {
    pub u: Many,
    pub v: Many,
    pub seed: u32,
    /// A pixel in units.
    pub pixel: f32,
    /// Width and height of the whole in units.
    pub ratio: (f32, f32),
}

#[inline(always)]
fn hash(x: i32, y: i32, seed: u32) -> f32 {
    let mut h = (x as u32).wrapping_mul(0x85eb_ca6b) ^ (y as u32).wrapping_mul(0xc2b2_ae35) ^ seed;
    h = (h ^ (h >> 15)).wrapping_mul(0x2c1b_3c6d);
    h = (h ^ (h >> 12)).wrapping_mul(0x297a_2d39);
    h ^= h >> 15;
    h as f32 / u32::MAX as f32
}

/// Value noise: smooth numbers from 0 to 1 between those at whole places.
struct Cloud<'a> {
    u: &'a Many,
    v: &'a Many,
    cell: f32,
    seed: u32,
}

impl NullaryFnOnce for Cloud<'_> {
    type Output = Many;

    #[inline(always)]
    fn call(self) -> Many {
        let Self { u, v, cell, seed } = self;
        let mut out = Many::all(0.0);
        for ((out, u), v) in out.0.iter_mut().zip(&u.0).zip(&v.0) {
            let (x, y) = (u / cell, v / cell);
            let (i, j) = (x.floor(), y.floor());
            let (s, t) = (x - i, y - j);
            let (s, t) = (s * s * (3.0 - 2.0 * s), t * t * (3.0 - 2.0 * t));
            let (i, j) = (i as i32, j as i32);
            let (right, lower) = (i.wrapping_add(1), j.wrapping_add(1));
            let (a, b) = (hash(i, j, seed), hash(right, j, seed));
            let (c, d) = (hash(i, lower, seed), hash(right, lower, seed));
            let (top, foot) = (a + (b - a) * s, c + (d - c) * s);
            *out = top + (foot - top) * t;
        }
        out
    }
}

/// Scattered points, one in each cell: how far the nearest and the second nearest are, in cells, and a number of the nearest.
struct Points<'a> {
    u: &'a Many,
    v: &'a Many,
    cell: f32,
    seed: u32,
}

impl NullaryFnOnce for Points<'_> {
    type Output = (Many, Many, Many);

    #[inline(always)]
    fn call(self) -> (Many, Many, Many) {
        let Self { u, v, cell, seed } = self;
        let mut out = (Many::all(0.0), Many::all(0.0), Many::all(0.0));
        let all = out.0.0.iter_mut().zip(&mut out.1.0).zip(&mut out.2.0).zip(&u.0).zip(&v.0);
        for ((((to_near, to_next), number), u), v) in all {
            let (x, y) = (u / cell, v / cell);
            let (i, j) = (x.floor() as i32, y.floor() as i32);
            let (mut near, mut next, mut at) = (81.0f32, 81.0f32, (0, 0));
            for dj in -1..=1i32 {
                for di in -1..=1i32 {
                    let (ci, cj) = (i.wrapping_add(di), j.wrapping_add(dj));
                    let across = x - (ci as f32 + hash(ci, cj, seed));
                    let down = y - (cj as f32 + hash(ci, cj, seed ^ 0x55));
                    let far = across * across + down * down;
                    let nearer = far < near;
                    next = if nearer {
                        near
                    } else if far < next {
                        far
                    } else {
                        next
                    };
                    at = if nearer { (ci, cj) } else { at };
                    near = if nearer { far } else { near };
                }
            }
            (*to_near, *to_next, *number) = (near.sqrt(), next.sqrt(), hash(at.0, at.1, seed ^ 0xaa));
        }
        out
    }
}

impl Ground {
    pub(super) fn seeded(self, by: u32) -> Self {
        Self { seed: self.seed.wrapping_add(by.wrapping_mul(0x27d4_eb2f)), ..self }
    }

    /// Turned, and drawn out across.
    pub(super) fn turned(self, degrees: f32, stretch: f32) -> Self {
        let (sin, cos) = degrees.to_radians().sin_cos();
        Self { u: (self.u * cos + self.v * sin) / stretch, v: self.v * cos - self.u * sin, ..self }
    }

    /// Moved about by clouds of a size.
    pub(super) fn warped(self, cell: f32, by: f32) -> Self {
        let (a, b) = (self.seeded(71).cloud(cell), self.seeded(72).cloud(cell));
        Self { u: self.u + a * by, v: self.v + b * by, ..self }
    }

    /// Smooth numbers from -1 to 1 on cells of a size; gone where a cell is smaller than a pixel.
    pub(super) fn cloud(self, cell: f32) -> Many {
        let seen = self.seen(cell);
        if seen <= 0.0 {
            return Many::all(0.0);
        }
        side_by_side(Cloud { u: &self.u, v: &self.v, cell, seed: self.seed }) * (2.0 * seen) - seen
    }

    fn seen(&self, cell: f32) -> f32 {
        (cell / self.pixel - 0.5).clamp(0.0, 1.0)
    }

    /// Clouds on clouds half as large.
    pub(super) fn clouds(self, cell: f32, times: u32) -> Many {
        (0..times).fold(Many::all(0.0), |sum, n| {
            let finer = f32::powi(2.0, n as i32);
            sum + self.seeded(n).cloud(cell / finer) / finer
        }) * 0.6
    }

    /// Ridges where clouds pass through the middle: 1 on them, 0 away from them.
    pub(super) fn ridges(self, cell: f32, wide: f32) -> Many {
        let wide = wide.max(self.pixel / cell);
        self.cloud(cell).map(|own| (1.0 - own.abs() / wide).max(0.0))
    }

    /// Distance to the nearest and second nearest of scattered points, in cells, and a number of the nearest.
    pub(super) fn points(self, cell: f32) -> (Many, Many, Many) {
        side_by_side(Points { u: &self.u, v: &self.v, cell, seed: self.seed })
    }

    /// Dots around some of scattered points: 1 in their middle.
    pub(super) fn dots(self, cell: f32, share: f32, radius: f32) -> Many {
        let (near, _, which) = self.points(cell);
        let pixel = self.pixel / cell;
        near.with(which, |near, which| {
            let radius = radius * (0.3 + 0.7 * which / share);
            let soft = pixel.max(radius * 0.25);
            let seen = (radius * 2.0 / pixel - 0.5).clamp(0.15, 1.0);
            if which > share { 0.0 } else { ((radius - near) / soft + 0.5).clamp(0.0, 1.0) * seen }
        })
    }

    /// Fine lines in one direction, some of them.
    pub(super) fn scratches(self, cell: f32, degrees: f32, share: f32) -> Many {
        let along = self.warped(cell * 6.0, cell * 0.4).turned(degrees, 14.0);
        let across = along.v / cell;
        let row = across.floor();
        let place = across - row;
        let middle = row.map(|row| 0.2 + 0.6 * hash(row as i32, 3, self.seed));
        let there = ((Self { v: row * 7.7, ..along }.cloud(cell) - (1.0 - 2.0 * share)) / 0.2).smooth();
        let wide = 0.06f32.max(0.6 * self.pixel / cell);
        let faint = (0.06 / wide).min(1.0);
        let line = place.with(middle, |place, middle| (1.0 - (place - middle).abs() / wide).max(0.0) * faint);
        (line * there).min(1.0)
    }

    /// Waves in one direction.
    pub(super) fn waves(self, length: f32, degrees: f32) -> Many {
        (self.turned(degrees, 1.0).v / length * std::f32::consts::TAU).sin() * self.seen(length)
    }

    /// How near the edge of the whole: 0 inside, 1 on it, over a width, unevenly.
    pub(super) fn rim(self, wide: f32, uneven: f32) -> Many {
        let (width, height) = self.ratio;
        let to = self.u.lesser(self.v).lesser(width - self.u).lesser(height - self.v);
        (1.0 - (to + uneven * self.clouds(wide * 1.6, 4)) / wide).smooth()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_series_is_the_sine() {
        for n in -4_000..4_000 {
            let angle = n as f32 * 0.013;
            assert!((sine(angle) - angle.sin()).abs() < 2e-5, "{angle}: {} for {}", sine(angle), angle.sin());
        }
    }

    #[test]
    fn points_are_the_nearest_of_all_around() {
        let of = |n: usize| n as f32 * 0.37 - 5.0;
        let ground =
            Ground { u: Many::of(of), v: Many::of(|n| of(n) * -0.61), seed: 9, pixel: 0.001, ratio: (1.0, 1.0) };
        let (near, next, _) = ground.points(0.5);
        for n in 0..PLACES {
            let (x, y) = (ground.u.0[n] / 0.5, ground.v.0[n] / 0.5);
            let (i, j) = (x.floor() as i32, y.floor() as i32);
            let mut all: Vec<f32> = (-1..=1)
                .flat_map(|dj| (-1..=1).map(move |di| (i + di, j + dj)))
                .map(|(i, j)| (x - i as f32 - hash(i, j, 9)).hypot(y - j as f32 - hash(i, j, 9 ^ 0x55)))
                .collect();
            all.sort_by(f32::total_cmp);
            assert!((near.0[n] - all[0]).abs() < 1e-5 && (next.0[n] - all[1]).abs() < 1e-5, "place {n}");
        }
    }
}
