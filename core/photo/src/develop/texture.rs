//! Paper, cloth, walls and wear, worked out from numbers: the same number gives the same surface at every size of a picture.

use vatman_document::{Develop, Texture};

use super::Ready;
use super::colour::encoded;
use super::film::Film;
use super::noise::{Ground, Many, PLACES};

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
        Ready::rows(move |y, row| {
            let v = Many::all((y as f32 + 0.5 - top) * unit);
            let width = row.len();
            let mut channels = row.slices();
            for from in (0..width).step_by(PLACES) {
                let u = Many::of(|n| ((from + n) as f32 + 0.5 - left) * unit);
                let height = surface(texture, Ground { u, v, seed, pixel, ratio }) * strength;
                let to = width.min(from + PLACES);
                for (channel, tint) in channels.iter_mut().zip(tint) {
                    for (value, height) in channel[from..to].iter_mut().zip(height.0) {
                        *value = lit(*value, height, tint);
                    }
                }
            }
        })
    })
}

/// What a channel becomes at a height: hollows take on the colour of what lies in them, ridges catch light.
#[inline]
fn lit(value: f32, height: f32, tint: f32) -> f32 {
    let (down, up) = ((-height).clamp(0.0, 1.0), height.clamp(0.0, 1.0) * 0.75);
    let lower = value * (1.0 + (tint - 1.0) * down);
    lower + (1.0 - lower) * up
}

/// The height of a surface, about -1 to 1: hollows below 0, ridges above.
#[allow(clippy::too_many_lines, reason = "one entry for each surface")]
fn surface(texture: Texture, g: Ground) -> Many {
    match texture {
        Texture::FinePaper => 0.35 * g.clouds(0.006, 3) + 0.12 * g.clouds(0.09, 2),
        Texture::LaidPaper => {
            0.22 * g.waves(0.011, 0.0)
                + 0.2 * g.waves(0.16, 90.0).map(|wave| wave.powi(9).min(0.0))
                + 0.2 * g.clouds(0.008, 3)
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
            let soft = 0.5 + 0.5 * g.clouds(0.02, 3);
            let crease = |at: Many, length: f32| {
                let off = (at / length).off_whole();
                let far = off.abs() * length;
                let side = off.map(|off| if off > 0.0 { 0.12 } else { -0.12 });
                side * (1.0 - (far / 0.14).min(1.0)).smooth() - 0.6 * (1.0 - (far / 0.012).min(1.0)).smooth() * soft
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
            0.5 * a.greater(b) - 0.25 + 0.2 * g.clouds(0.006, 2)
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
            let stain = -(((radius - near) / 0.05).smooth() * 0.22 + ring);
            let clean = which.map(|which| if which < 0.55 { 0.0 } else { 0.08 });
            stain.with(clean, |stain, clean| if clean > 0.0 { 0.0 } else { stain }) + clean * g.clouds(0.05, 3)
        }
        Texture::TideMarks => {
            let line = g.warped(0.3, 0.22).clouds(0.5, 3) * 5.0;
            let off = line.off_whole().abs();
            -0.55 * (1.0 - (off / 0.07).min(1.0)) - 0.18 * (line - line.floor()).smooth() + 0.05
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
            1.1 * rim * (0.55 + g.clouds(0.03, 4)).smooth() + 0.3 * g.dots(0.04, 0.12, 0.1)
        }
        Texture::Rubbed => {
            let patch = ((g.warped(0.25, 0.2).clouds(0.3, 5) - 0.12) / 0.2).smooth();
            patch * ((g.clouds(0.02, 4) + 0.1) / 0.25).smooth()
        }
        Texture::InkWash => {
            let pool = g.warped(0.4, 0.3).clouds(0.35, 6);
            -0.5 * (pool + 0.5).smooth() - 0.35 * (1.0 - (pool.abs() / 0.05).min(1.0)) + 0.12
        }
        Texture::Grit => 0.7 * g.clouds(0.005, 2) * (0.5 + g.clouds(0.08, 4)).smooth(),
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
