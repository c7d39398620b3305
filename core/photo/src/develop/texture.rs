//! Paper, cloth, walls and wear, worked out from numbers: the same number gives the same surface at every size of a picture.

use vatman_document::{Develop, Texture};

use super::Ready;
use super::colour::{encoded, smooth};
use super::film::Film;

pub(super) fn ready(develop: &Develop, film: &Film) -> Option<Ready> {
    let Develop::Texture { texture, size, strength, tint, number } = develop else { return None };
    let (texture, seed) = (*texture, number.wrapping_mul(0x9e37_79b9));
    let strength = strength.get() as f32;
    let tint = encoded(tint);
    let (left, top) = film.place(vatman_document::Focus { x: vatman_units::Ratio::ZERO, y: vatman_units::Ratio::ZERO });
    let unit = 1.0 / (size.get() as f32 * film.longer() as f32).max(1.0);
    let ratio = (film.window.width * unit, film.window.height * unit);
    // Finer than a pixel is seen as its mean.
    let pixel = unit;
    (strength > 0.0).then(|| {
        Ready::placed(move |x, y, own| {
            let (u, v) = ((x as f32 + 0.5 - left) * unit, (y as f32 + 0.5 - top) * unit);
            let height = surface(texture, Ground { u, v, seed, pixel, ratio }) * strength;
            // Hollows take on the colour of what lies in them, ridges catch light.
            if height < 0.0 {
                let by = (-height).min(1.0);
                [0, 1, 2].map(|c| own[c] * (1.0 + (tint[c] - 1.0) * by))
            } else {
                let by = height.min(1.0) * 0.75;
                own.map(|value| value + (1.0 - value) * by)
            }
        })
    })
}

/// A place on a surface, in units of its size, with the number it comes from.
#[derive(Clone, Copy)]
struct Ground {
    u: f32,
    v: f32,
    seed: u32,
    /// A pixel in units.
    pixel: f32,
    /// Width and height of the whole in units.
    ratio: (f32, f32),
}

fn hash(x: i32, y: i32, seed: u32) -> f32 {
    let mut h = (x as u32).wrapping_mul(0x85eb_ca6b) ^ (y as u32).wrapping_mul(0xc2b2_ae35) ^ seed;
    h = (h ^ (h >> 15)).wrapping_mul(0x2c1b_3c6d);
    h = (h ^ (h >> 12)).wrapping_mul(0x297a_2d39);
    h ^= h >> 15;
    h as f32 / u32::MAX as f32
}

impl Ground {
    fn seeded(self, by: u32) -> Self {
        Self { seed: self.seed.wrapping_add(by.wrapping_mul(0x27d4_eb2f)), ..self }
    }

    /// Turned, and drawn out across.
    fn turned(self, degrees: f32, stretch: f32) -> Self {
        let (sin, cos) = degrees.to_radians().sin_cos();
        Self { u: (self.u * cos + self.v * sin) / stretch, v: self.v * cos - self.u * sin, ..self }
    }

    /// Moved about by clouds of a size.
    fn warped(self, cell: f32, by: f32) -> Self {
        let (a, b) = (self.seeded(71).cloud(cell), self.seeded(72).cloud(cell));
        Self { u: self.u + a * by, v: self.v + b * by, ..self }
    }

    /// Smooth numbers from -1 to 1 on cells of a size; gone where a cell is smaller than a pixel.
    fn cloud(self, cell: f32) -> f32 {
        let (x, y) = (self.u / cell, self.v / cell);
        let (i, j) = (x.floor(), y.floor());
        let (s, t) = (smooth(x - i), smooth(y - j));
        let (i, j) = (i as i32, j as i32);
        let at = |i, j| hash(i, j, self.seed);
        let top = at(i, j) + (at(i + 1, j) - at(i, j)) * s;
        let foot = at(i, j + 1) + (at(i + 1, j + 1) - at(i, j + 1)) * s;
        (top + (foot - top) * t) * self.seen(cell) * 2.0 - self.seen(cell)
    }

    fn seen(self, cell: f32) -> f32 {
        (cell / self.pixel - 0.5).clamp(0.0, 1.0)
    }

    /// Clouds on clouds half as large.
    fn clouds(self, cell: f32, times: u32) -> f32 {
        (0..times)
            .map(|n| self.seeded(n).cloud(cell / f32::powi(2.0, n as i32)) / f32::powi(2.0, n as i32))
            .sum::<f32>()
            * 0.6
    }

    /// Ridges where clouds pass through the middle: 1 on them, 0 away from them.
    fn ridges(self, cell: f32, wide: f32) -> f32 {
        let own = self.cloud(cell).abs() / wide.max(self.pixel / cell);
        (1.0 - own).max(0.0)
    }

    /// Distance to the nearest and second nearest of scattered points, and a number of the nearest.
    fn points(self, cell: f32) -> (f32, f32, f32) {
        let (x, y) = (self.u / cell, self.v / cell);
        let (i, j) = (x.floor() as i32, y.floor() as i32);
        let (mut near, mut next, mut which) = (9.0f32, 9.0f32, 0.0);
        for dj in -1..=1 {
            for di in -1..=1 {
                let (ci, cj) = (i + di, j + dj);
                let (px, py) = (ci as f32 + hash(ci, cj, self.seed), cj as f32 + hash(ci, cj, self.seed ^ 0x55));
                let far = (x - px).hypot(y - py);
                if far < near {
                    (near, next, which) = (far, near, hash(ci, cj, self.seed ^ 0xaa));
                } else if far < next {
                    next = far;
                }
            }
        }
        (near, next, which)
    }

    /// Dots around some of scattered points: 1 in their middle.
    fn dots(self, cell: f32, share: f32, radius: f32) -> f32 {
        let (near, _, which) = self.points(cell);
        if which > share {
            return 0.0;
        }
        let radius = radius * (0.3 + 0.7 * which / share);
        let soft = (self.pixel / cell).max(radius * 0.25);
        ((radius - near) / soft + 0.5).clamp(0.0, 1.0) * self.seen(cell * radius * 2.0).max(0.15)
    }

    /// Fine lines in one direction, some of them.
    fn scratches(self, cell: f32, degrees: f32, share: f32) -> f32 {
        let along = self.warped(cell * 6.0, cell * 0.4).turned(degrees, 14.0);
        let row = (along.v / cell).floor() as i32;
        let place = along.v / cell - row as f32;
        let middle = 0.2 + 0.6 * hash(row, 3, self.seed);
        let there = smooth((Self { v: row as f32 * 7.7, ..along }.cloud(cell) - (1.0 - 2.0 * share)) / 0.2);
        let wide = (0.06f32).max(0.6 * self.pixel / cell);
        ((1.0 - (place - middle).abs() / wide).max(0.0) * there * (0.06 / wide).min(1.0)).min(1.0)
    }

    /// Waves in one direction.
    fn waves(self, length: f32, degrees: f32) -> f32 {
        (self.turned(degrees, 1.0).v / length * std::f32::consts::TAU).sin() * self.seen(length)
    }

    /// How near the edge of the whole: 0 inside, 1 on it, over a width, unevenly.
    fn rim(self, wide: f32, uneven: f32) -> f32 {
        let to = self.u.min(self.v).min(self.ratio.0 - self.u).min(self.ratio.1 - self.v);
        smooth(1.0 - (to + uneven * self.clouds(wide * 1.6, 4)) / wide)
    }
}

/// The height of a surface, about -1 to 1: hollows below 0, ridges above.
#[allow(clippy::too_many_lines, reason = "one entry for each surface")]
fn surface(texture: Texture, g: Ground) -> f32 {
    match texture {
        Texture::FinePaper => 0.35 * g.clouds(0.006, 3) + 0.12 * g.clouds(0.09, 2),
        Texture::LaidPaper => {
            0.22 * g.waves(0.011, 0.0) + 0.2 * g.waves(0.16, 90.0).powi(9).min(0.0) + 0.2 * g.clouds(0.008, 3)
        }
        Texture::Watercolour => {
            let bumps = g.warped(0.02, 0.012).turned(31.0, 1.0).clouds(0.018, 4);
            0.75 * bumps + 0.25 * bumps.abs()
        }
        Texture::Cardboard => {
            0.25 * g.clouds(0.012, 4) + 0.3 * g.turned(0.0, 9.0).clouds(0.01, 2) + 0.25 * g.dots(0.035, 0.35, 0.12)
                - 0.2 * g.seeded(5).dots(0.045, 0.3, 0.1)
        }
        Texture::Recycled => {
            let fibre = |n: u32| g.seeded(n).warped(0.06, 0.03).scratches(0.05, 40.0 + 67.0 * n as f32, 0.22);
            0.2 * g.clouds(0.01, 3) - 0.6 * (fibre(1) + fibre(2) + fibre(3)).min(1.0) - 0.5 * g.dots(0.05, 0.25, 0.08)
        }
        Texture::Crumpled => {
            let facet = |n: u32, cell: f32| {
                let (near, next, which) = g.seeded(n).warped(cell, cell * 0.25).points(cell);
                (which - 0.5) * 0.8 + 0.5 * (1.0 - ((next - near) / 0.09).min(1.0))
            };
            0.5 * facet(1, 0.26) + 0.35 * facet(2, 0.12) + 0.12 * g.clouds(0.02, 3)
        }
        Texture::Folded => {
            let crease = |at: f32, length: f32| {
                let off = at / length - (at / length).round();
                let far = off.abs() * length / 0.012;
                let side = if off > 0.0 { 0.12 } else { -0.12 };
                side * smooth(1.0 - (off.abs() * length / 0.14).min(1.0))
                    - 0.6 * smooth(1.0 - far.min(1.0)) * (0.5 + 0.5 * g.clouds(0.02, 3))
            };
            let w = g.warped(0.2, 0.006);
            crease(w.u + 0.001, g.ratio.0 / 2.0) + crease(w.v + 0.001, g.ratio.1 / 3.0) + 0.14 * g.clouds(0.01, 3)
        }
        Texture::Tissue => {
            let fold = |n: u32, turn: f32| g.seeded(n).warped(0.12, 0.06).turned(turn, 3.0).ridges(0.11, 0.12);
            0.5 * (fold(1, 20.0) + fold(2, 75.0) + fold(3, 130.0)).min(1.0) + 0.25 * g.clouds(0.03, 3)
        }
        Texture::Linen => {
            let thread = |turn: f32, n: u32| {
                g.seeded(n).warped(0.05, 0.002).waves(0.009, turn)
                    * (0.6 + 0.4 * g.seeded(n).turned(turn, 12.0).cloud(0.012))
            };
            0.35 * (thread(0.0, 1) + thread(90.0, 2)) + 0.15 * g.clouds(0.06, 2)
        }
        Texture::Canvas => {
            let (a, b) = (g.waves(0.018, 0.0), g.waves(0.018, 90.0));
            0.5 * a.max(b) - 0.25 + 0.2 * g.clouds(0.006, 2)
        }
        Texture::Felt => 0.3 * g.warped(0.02, 0.02).clouds(0.012, 4) + 0.25 * g.turned(33.0, 4.0).clouds(0.014, 3),
        Texture::Plaster => {
            let trowel = g.warped(0.2, 0.12).turned(25.0, 5.0).clouds(0.09, 4);
            0.5 * trowel + 0.2 * g.clouds(0.012, 3)
        }
        Texture::Concrete => {
            0.45 * g.clouds(0.22, 6) - 0.6 * g.dots(0.07, 0.3, 0.09) - 0.4 * g.seeded(8).dots(0.03, 0.25, 0.12)
        }
        Texture::Stone => 0.5 * g.warped(0.3, 0.2).clouds(0.16, 6) - 0.5 * g.warped(0.2, 0.15).ridges(0.4, 0.03),
        Texture::Wood => {
            let grain = g.warped(0.5, 0.06).turned(0.0, 16.0);
            let rings = (grain.clouds(0.11, 2) * 26.0 + grain.v * 60.0).sin();
            0.28 * rings + 0.35 * grain.clouds(0.01, 3)
        }
        Texture::BrushedMetal => 0.55 * g.turned(0.0, 60.0).clouds(0.006, 3) + 0.2 * g.turned(0.0, 30.0).cloud(0.08),
        Texture::Dust => 0.8 * g.dots(0.02, 0.14, 0.14) + 0.7 * g.seeded(3).dots(0.06, 0.2, 0.06),
        Texture::Scratches => {
            let of = |n: u32, turn: f32, cell: f32| g.seeded(n).scratches(cell, turn, 0.34);
            (of(1, 84.0, 0.03) + of(2, 97.0, 0.05) + 0.8 * of(3, 12.0, 0.08) + 0.8 * of(4, 61.0, 0.09)).min(1.0)
        }
        Texture::Specks => -0.9 * (g.dots(0.03, 0.2, 0.12) + g.seeded(4).dots(0.011, 0.12, 0.16)).min(1.0),
        Texture::Stains => {
            let (near, _, which) = g.warped(0.12, 0.09).points(0.55);
            let radius = 0.16 + 0.3 * which;
            let ring = (1.0 - ((near - radius).abs() / 0.03).min(1.0)) * 0.5;
            if which < 0.55 { -(smooth((radius - near) / 0.05) * 0.22 + ring) } else { 0.08 * g.clouds(0.05, 3) }
        }
        Texture::TideMarks => {
            let line = g.warped(0.3, 0.22).clouds(0.5, 3) * 5.0;
            let off = (line - line.round()).abs();
            -0.55 * (1.0 - (off / 0.07).min(1.0)) - 0.18 * smooth(line - line.floor()) + 0.05
        }
        Texture::Crackle => {
            let crack = |cell: f32, n: u32, wide: f32| {
                let (near, next, _) = g.seeded(n).warped(cell * 0.6, cell * 0.18).points(cell);
                1.0 - ((next - near) / wide.max(2.0 * g.pixel / cell)).min(1.0)
            };
            -0.9 * (crack(0.1, 1, 0.045) + 0.6 * crack(0.035, 2, 0.05)).min(1.0) + 0.12 * g.clouds(0.02, 3)
        }
        Texture::WornEdges => {
            let rim = g.rim(0.09, 0.09);
            1.1 * rim * smooth(0.55 + g.clouds(0.03, 4)) + 0.3 * g.dots(0.04, 0.12, 0.1)
        }
        Texture::Rubbed => {
            let patch = smooth((g.warped(0.25, 0.2).clouds(0.3, 5) - 0.12) / 0.2);
            patch * smooth((g.clouds(0.02, 4) + 0.1) / 0.25)
        }
        Texture::InkWash => {
            let pool = g.warped(0.4, 0.3).clouds(0.35, 6);
            -0.5 * smooth(pool + 0.5) - 0.35 * (1.0 - (pool.abs() / 0.05).min(1.0)) + 0.12
        }
        Texture::Grit => 0.7 * g.clouds(0.005, 2) * smooth(0.5 + g.clouds(0.08, 4)),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Straight;
    use crate::develop::develop;
    use vatman_document::{Color, Tint, Treatment};
    use vatman_units::Ratio;

    fn on_grey(texture: Texture, number: u32, side: u32) -> Vec<f32> {
        let grey = Straight::new(side, side, [150, 150, 150, 255].repeat((side * side) as usize)).unwrap();
        let step = Develop::Texture {
            texture,
            size: Ratio::ONE,
            strength: Ratio::ONE,
            tint: Tint::Own(Color::opaque(60, 45, 30)),
            number,
        };
        let out = develop(&grey, &[Treatment::new(step)], &|_, _| None);
        out.data().chunks_exact(4).map(|pixel| f32::from(pixel[1])).collect()
    }

    fn spread(values: &[f32]) -> f32 {
        let mean = values.iter().sum::<f32>() / values.len() as f32;
        (values.iter().map(|value| (value - mean).powi(2)).sum::<f32>() / values.len() as f32).sqrt()
    }

    fn apart(a: &[f32], b: &[f32]) -> f32 {
        a.iter().zip(b).map(|(a, b)| (a - b).abs()).sum::<f32>() / a.len() as f32
    }

    #[test]
    fn every_surface_is_seen_is_its_own_and_comes_again_by_its_number() {
        let all: Vec<Vec<f32>> = Texture::ALL.iter().map(|texture| on_grey(*texture, 7, 240)).collect();
        assert!(all.len() >= 24);
        for (n, own) in all.iter().enumerate() {
            let texture = Texture::ALL[n];
            assert!(spread(own) > 2.0, "{texture:?} is hardly seen: {}", spread(own));
            let mean = own.iter().sum::<f32>() / own.len() as f32;
            assert!((70.0..225.0).contains(&mean), "{texture:?} leaves no picture: {mean}");
            assert_eq!(*own, on_grey(texture, 7, 240), "{texture:?} comes again");
            assert!(apart(own, &on_grey(texture, 8, 240)) > 0.3, "{texture:?} has other numbers");
            for (m, other) in all.iter().enumerate().skip(n + 1) {
                assert!(apart(own, other) > 0.4, "{texture:?} and {:?} are one", Texture::ALL[m]);
            }
        }
    }

    /// Greens of each surface of number 7 at sixteen places, as they have been since it was there: a look can be had again.
    #[rustfmt::skip]
    const KEPT: [[u8; 16]; 26] = [
        [148, 136, 155, 133, 160, 130, 151, 148, 156, 155, 155, 139, 140, 141, 152, 152],
        [154, 159, 125, 150, 157, 126, 132, 168, 147, 135, 167, 149, 131, 173, 148, 130],
        [137, 179, 147, 175, 186, 177, 150, 146, 127, 144, 141, 157, 160, 148, 141, 166],
        [170, 166, 151, 157, 150, 151, 163, 135, 153, 159, 159, 143, 138, 156, 145, 147],
        [155, 146, 141, 152, 147, 152, 151, 153, 155, 157, 158, 155, 144, 154, 153, 153],
        [147, 165, 181, 163, 134, 124, 166, 173, 145, 150, 140, 150, 181, 142, 159, 155],
        [162, 138, 144, 151, 152, 157, 155, 158, 152, 150, 144, 155, 147, 153, 137, 141],
        [146, 153, 154, 169, 181, 162, 154, 178, 170, 145, 161, 132, 157, 137, 147, 143],
        [172, 143, 92, 161, 117, 138, 116, 120, 140, 109, 141, 178, 138, 177, 166, 157],
        [116, 118, 171, 81, 160, 161, 166, 163, 170, 137, 175, 124, 161, 161, 160, 169],
        [149, 153, 136, 156, 153, 170, 140, 149, 138, 149, 146, 161, 128, 167, 160, 151],
        [152, 153, 159, 141, 147, 157, 153, 148, 124, 145, 152, 139, 152, 131, 146, 131],
        [134, 151, 139, 122, 122, 155, 147, 126, 151, 156, 135, 156, 151, 148, 137, 157],
        [127, 134, 114, 110, 139, 143, 159, 152, 144, 170, 155, 164, 125, 147, 122, 137],
        [167, 156, 156, 172, 147, 173, 141, 183, 128, 155, 151, 115, 123, 165, 177, 152],
        [117, 146, 167, 160, 154, 152, 140, 150, 154, 158, 129, 154, 153, 156, 166, 176],
        [150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150],
        [150, 150, 150, 150, 150, 150, 150, 150, 161, 150, 150, 150, 168, 150, 150, 150],
        [150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150],
        [150, 150, 150, 150, 150, 123, 150, 150, 123, 152, 123, 150, 152, 150, 148, 150],
        [137, 151, 141, 148, 147, 137, 143, 153, 149, 141, 138, 152, 134, 137, 135, 135],
        [141, 85, 147, 90, 125, 150, 62, 146, 93, 147, 148, 153, 103, 103, 114, 85],
        [174, 160, 150, 150, 150, 150, 150, 150, 158, 150, 150, 150, 150, 150, 187, 174],
        [150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 150, 152, 150],
        [148, 153, 153, 149, 157, 128, 159, 159, 155, 154, 159, 158, 145, 156, 142, 102],
        [148, 150, 150, 162, 152, 157, 148, 150, 141, 156, 157, 142, 149, 157, 147, 150],
    ];

    #[test]
    fn what_was_had_once_looks_the_same_in_later_versions() {
        for (texture, kept) in Texture::ALL.into_iter().zip(KEPT) {
            let own = on_grey(texture, 7, 240);
            for (n, kept) in kept.into_iter().enumerate() {
                let now = own[(n * 15 + 6) * 240 + (n * 83 + 31) % 240];
                assert!((now - f32::from(kept)).abs() <= 2.0, "{texture:?}, place {n}: {now}, it was {kept}");
            }
        }
    }

    #[test]
    fn a_smaller_picture_has_the_same_surface() {
        for texture in Texture::ALL {
            let (large, small) = (on_grey(texture, 3, 480), on_grey(texture, 3, 240));
            // Means of four pixels each.
            let halved: Vec<f32> = (0..240 * 240)
                .map(|at| {
                    let (x, y) = (at % 240 * 2, at / 240 * 2);
                    (large[y * 480 + x]
                        + large[y * 480 + x + 1]
                        + large[(y + 1) * 480 + x]
                        + large[(y + 1) * 480 + x + 1])
                        / 4.0
                })
                .collect();
            let off = apart(&halved, &small);
            assert!(off < 3.0 + 0.45 * spread(&small), "{texture:?}: {off} apart, spread {}", spread(&small));
        }
    }
}
