//! Pictures set upright: resampled through a map of the plane, and how far one leans.

use kurbo::Point;
use rayon::prelude::*;
use vatman_document::Upright;

use crate::Straight;
use crate::resize::resize;

/// Samples across each pixel, each way.
const SAMPLES: usize = 2;

/// A picture, made from an original of a size, set upright at a size of `to` pixels. What would lie beyond it is clear.
///
/// Every pixel is the mean of four samples, each between the four pixels around it by a straight line both ways, weighted by alpha.
pub(crate) fn set_upright(picture: &Straight, upright: &Upright, original: (u32, u32), to: (u32, u32)) -> Straight {
    let map = upright.into_original(original);
    let (w, h) = (f64::from(picture.width()), f64::from(picture.height()));
    let (to_w, to_h) = (to.0.max(1) as usize, to.1.max(1) as usize);
    let mut data = vec![0; to_w * to_h * 4];
    data.par_chunks_exact_mut(to_w * 4).enumerate().for_each(|(y, row)| {
        for (x, out) in row.chunks_exact_mut(4).enumerate() {
            let mut sum = [0.0f32; 4];
            for sample in 0..SAMPLES * SAMPLES {
                let within = |at: usize| (at as f64 + 0.5) / SAMPLES as f64;
                let u = (x as f64 + within(sample % SAMPLES)) / to_w as f64;
                let v = (y as f64 + within(sample / SAMPLES)) / to_h as f64;
                let at = map.at(Point::new(u, v));
                add(picture, at.x * w - 0.5, at.y * h - 0.5, &mut sum);
            }
            let alpha = sum[3] / (SAMPLES * SAMPLES) as f32;
            if alpha > 0.0 {
                for c in 0..3 {
                    out[c] = (sum[c] / sum[3] + 0.5) as u8;
                }
            }
            out[3] = (alpha * 255.0 + 0.5) as u8;
        }
    });
    Straight { width: to_w as u32, height: to_h as u32, data }
}

/// Adds the colour at a place, times its alpha, and the alpha. What lies up to a pixel beyond the edge is as the edge.
fn add(picture: &Straight, x: f64, y: f64, sum: &mut [f32; 4]) {
    let (w, h) = (picture.width() as usize, picture.height() as usize);
    if !(x > -1.5 && y > -1.5 && x < w as f64 + 0.5 && y < h as f64 + 0.5) {
        return;
    }
    let (left, top) = (x.floor(), y.floor());
    let (across, down) = ((x - left) as f32, (y - top) as f32);
    let held = |at: f64, most: usize| (at.max(0.0) as usize).min(most - 1);
    for (dx, dy, weight) in [
        (0.0, 0.0, (1.0 - across) * (1.0 - down)),
        (1.0, 0.0, across * (1.0 - down)),
        (0.0, 1.0, (1.0 - across) * down),
        (1.0, 1.0, across * down),
    ] {
        let at = (held(top + dy, h) * w + held(left + dx, w)) * 4;
        let alpha = f32::from(picture.data[at + 3]) / 255.0 * weight;
        for (sum, value) in sum.iter_mut().zip(&picture.data[at..at + 3]) {
            *sum += f32::from(*value) * alpha;
        }
        sum[3] += alpha;
    }
}

/// By how many degrees a picture should be turned clockwise so that its long edges lie level and upright; 0 where it has none that agree.
///
/// Edges vote for their directions by how strong and how long they are: gradients (Scharr) of a copy of 480 pixels are gathered by
/// direction, a tenth of a degree each, in the Hough plane (R. O. Duda, P. E. Hart, 1972) of lines at most 15 degrees from level or
/// upright; a direction counts by the squares of its lines, so that one long line weighs more than many short ones.
#[must_use]
pub fn level(picture: &Straight) -> f64 {
    /// Pixels along the longer side that are looked at.
    const LOOKED: f64 = 480.0;
    /// Furthest lean that is mended, in degrees.
    const FURTHEST: f64 = 15.0;
    /// Directions, a tenth of a degree apart.
    const STEP: f64 = 0.1;
    let by = (LOOKED / f64::from(picture.width().max(picture.height()))).min(1.0);
    let sized = |side: u32| ((f64::from(side) * by).round() as u32).max(1);
    let small = resize(picture, sized(picture.width()), sized(picture.height()));
    let (w, h) = (small.width() as usize, small.height() as usize);
    if w < 16 || h < 16 {
        return 0.0;
    }
    let luma = |x: usize, y: usize| {
        let pixel = &small.data()[(y * w + x) * 4..];
        0.2126 * f64::from(pixel[0]) + 0.7152 * f64::from(pixel[1]) + 0.0722 * f64::from(pixel[2])
    };
    let steps = (2.0 * FURTHEST / STEP) as usize + 1;
    // Directions whose votes are kept apart: lines nearly level, and lines nearly upright.
    let reach = w + h;
    let mut votes = vec![0.0f64; 2 * steps * 2 * reach];
    for y in 1..h - 1 {
        for x in 1..w - 1 {
            let side = |dx: usize| 3.0 * luma(dx, y - 1) + 10.0 * luma(dx, y) + 3.0 * luma(dx, y + 1);
            let end = |dy: usize| 3.0 * luma(x - 1, dy) + 10.0 * luma(x, dy) + 3.0 * luma(x + 1, dy);
            let (gx, gy) = ((side(x + 1) - side(x - 1)) / 16.0, (end(y + 1) - end(y - 1)) / 16.0);
            let strength = gx.hypot(gy);
            if strength < 12.0 {
                continue;
            }
            let upright = gx.abs() > gy.abs();
            // How far the edge itself leans, clockwise.
            let lean = if upright { (gy / gx).atan() } else { (-gx / gy).atan() }.to_degrees();
            if lean.abs() > FURTHEST {
                continue;
            }
            // A gradient is that of a step of a slanting edge as often as that of the edge: all directions are tried, and the line decides.
            for at in 0..steps {
                let turn = (at as f64 * STEP - FURTHEST).to_radians();
                let (sin, cos) = turn.sin_cos();
                let (px, py) = (x as f64 - w as f64 / 2.0, y as f64 - h as f64 / 2.0);
                let off = if upright { px * cos + py * sin } else { py * cos - px * sin };
                // A vote is shared by the two lines it lies between.
                let place = off + reach as f64;
                let (bin, part) = (place as usize, place.fract());
                let line = ((usize::from(upright) * steps) + at) * 2 * reach;
                let vote = strength.min(60.0);
                votes[line + bin.min(2 * reach - 1)] += vote * (1.0 - part);
                votes[line + (bin + 1).min(2 * reach - 1)] += vote * part;
            }
        }
    }
    let weight = |at: usize| {
        let lines = |kind: usize| &votes[(kind * steps + at) * 2 * reach..][..2 * reach];
        // Lines shorter than an eighth of the side say little.
        let least = 30.0 * w.min(h) as f64 / 8.0;
        (0..2).flat_map(lines).filter(|line| **line > least).map(|line| line * line).sum::<f64>()
    };
    let weights: Vec<f64> = (0..steps).map(weight).collect();
    let Some((best, most)) = weights.iter().copied().enumerate().max_by(|a, b| a.1.total_cmp(&b.1)) else { return 0.0 };
    let mean = weights.iter().sum::<f64>() / steps as f64;
    if most <= 0.0 || most < mean * 1.6 {
        return 0.0;
    }
    // Between directions: the middle of the top.
    let high = |at: &usize| weights[*at] > most * 0.75;
    let around = (0..best).rev().take_while(high).chain((best..steps).take_while(high));
    let (sum, all) = around.fold((0.0, 0.0), |(sum, all), at| (sum + weights[at] * at as f64, all + weights[at]));
    let lean = sum / all * STEP - FURTHEST;
    if lean.abs() < 0.15 { 0.0 } else { -lean }
}

#[cfg(test)]
mod tests {
    use super::*;
    use vatman_document::Focus;
    use vatman_units::{Angle, Ratio};

    /// A shelf on a wall, with its edges turned clockwise by some degrees.
    fn shelf(turn: f64) -> Straight {
        let (w, h) = (360u32, 240u32);
        let (sin, cos) = turn.to_radians().sin_cos();
        let mut data = Vec::new();
        for y in 0..h {
            for x in 0..w {
                let mut light = 0.0;
                for (dx, dy) in [(0.25, 0.25), (0.75, 0.25), (0.25, 0.75), (0.75, 0.75)] {
                    let (px, py) = (f64::from(x) + dx - 180.0, f64::from(y) + dy - 120.0);
                    let (u, v) = (px * cos + py * sin, py * cos - px * sin);
                    light += if (20.0..34.0).contains(&v) {
                        70.0
                    } else if (-60.0..20.0).contains(&v) && (u.rem_euclid(90.0) - 40.0).abs() < 16.0 {
                        150.0
                    } else {
                        215.0
                    };
                }
                let grain = f64::from((x * 7 + y * 13) % 9) - 4.0;
                data.extend([(light / 4.0 + grain) as u8; 3]);
                data.push(255);
            }
        }
        Straight::new(w, h, data).unwrap()
    }

    #[test]
    fn a_leaning_picture_is_found_to_lean_and_set_upright_it_does_not() {
        for turn in [-8.0, -3.3, -0.6, 0.0, 1.2, 4.7, 11.0] {
            let picture = shelf(turn);
            let found = level(&picture);
            assert!((found + turn).abs() < 0.25, "{turn}: {found}");
            let upright = Upright { turn: Angle::degrees(found), corners: None };
            let size = (picture.width(), picture.height());
            let mended = set_upright(&picture, &upright, size, upright.size(size));
            assert!(level(&mended).abs() < 0.25, "{turn}: {} is left", level(&mended));
            assert!(mended.is_opaque(), "nothing is empty");
        }
    }

    #[test]
    fn what_has_no_lines_does_not_lean() {
        let noise = |at: u32| (at.wrapping_mul(2_654_435_761) >> 24) as u8;
        let data = (0..200 * 200).flat_map(|at| [noise(at), noise(at + 7), noise(at + 13), 255]).collect();
        assert_eq!(level(&Straight::new(200, 200, data).unwrap()), 0.0);
        assert_eq!(level(&Straight::new(100, 100, vec![200; 40_000]).unwrap()), 0.0);
        assert_eq!(level(&Straight::new(4, 4, vec![200; 64]).unwrap()), 0.0);
    }

    #[test]
    fn a_surface_seen_from_aside_is_seen_from_straight_ahead() {
        // Four fields of colour in a quadrilateral; set upright each takes a quarter.
        let focus = |x: f64, y: f64| Focus { x: Ratio::new(x), y: Ratio::new(y) };
        let corners = [focus(0.2, 0.1), focus(0.8, 0.25), focus(0.9, 0.8), focus(0.1, 0.95)];
        let upright = Upright { corners: Some(corners), ..Upright::NONE };
        let map = upright.into_original((300, 300));
        let colours = [[200u8, 40, 40], [40, 200, 40], [40, 40, 200], [220, 200, 60]];
        let mut data = [10u8, 10, 10, 255].repeat(300 * 300);
        for v in 0..1_200 {
            for u in 0..1_200 {
                let at = map.at(Point::new(f64::from(u) / 1_200.0, f64::from(v) / 1_200.0));
                let pixel = ((at.y * 300.0) as usize * 300 + (at.x * 300.0) as usize) * 4;
                data[pixel..pixel + 3].copy_from_slice(&colours[usize::from(u >= 600) + 2 * usize::from(v >= 600)]);
            }
        }
        let picture = Straight::new(300, 300, data).unwrap();
        let size = upright.size((300, 300));
        let out = set_upright(&picture, &upright, (300, 300), size);
        let at = |x: f64, y: f64| {
            let (x, y) = ((x * f64::from(size.0)) as usize, (y * f64::from(size.1)) as usize);
            <[u8; 3]>::try_from(&out.data()[(y * size.0 as usize + x) * 4..][..3]).unwrap()
        };
        for (n, (x, y)) in [(0.25, 0.25), (0.75, 0.25), (0.25, 0.75), (0.75, 0.75)].into_iter().enumerate() {
            assert_eq!(at(x, y), colours[n]);
            assert_eq!(
                at(if x < 0.5 { 0.04 } else { 0.96 }, if y < 0.5 { 0.04 } else { 0.96 }),
                colours[n],
                "near the corner"
            );
        }
    }

    #[test]
    fn beyond_the_picture_it_is_clear() {
        let focus = |x: f64, y: f64| Focus { x: Ratio::new(x), y: Ratio::new(y) };
        let corners = [focus(-0.5, 0.0), focus(0.5, 0.0), focus(0.5, 1.0), focus(-0.5, 1.0)];
        let upright = Upright { corners: Some(corners), ..Upright::NONE };
        let out = set_upright(&Straight::new(40, 40, vec![255; 6_400]).unwrap(), &upright, (40, 40), (40, 40));
        let alpha = |x: usize| out.data()[(20 * 40 + x) * 4 + 3];
        assert_eq!((alpha(5), alpha(35)), (0, 255));
    }
}
