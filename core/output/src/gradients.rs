//! Gradients that turn about a point, where a kind of file has none: as pixels, or as a fan of flat wedges.

use std::f64::consts::TAU;

use kurbo::{BezPath, Point, Vec2};
use vatman_document::Color;
use vatman_photo::Straight;
use vatman_scene::{GradientStop, Rgba};

/// Wedges of a whole turn.
const WEDGES: u32 = 360;
/// How far a wedge reaches below the next, in turns, so that no gap is seen between them.
const UNDER: f64 = 0.000_6;

/// A gradient turning about the middle of a box of an aspect, from `start` (radians clockwise from the top).
pub(crate) fn conic_pixels(start: f64, stops: &[GradientStop], aspect: f64) -> Straight {
    const LONG: f64 = 640.0;
    let (w, h) = if aspect >= 1.0 { (LONG, LONG / aspect) } else { (LONG * aspect, LONG) };
    let (w, h) = (w.round().max(1.0) as u32, h.round().max(1.0) as u32);
    let mut data = Vec::with_capacity(w as usize * h as usize * 4);
    for y in 0..h {
        for x in 0..w {
            // The box may be narrow, so the direction is taken in its own units.
            let across = (f64::from(x) + 0.5) / f64::from(w) - 0.5;
            let down = (f64::from(y) + 0.5) / f64::from(h) - 0.5;
            let turn = (across * aspect).atan2(-down) - start;
            let color = along(stops, turn.rem_euclid(std::f64::consts::TAU) / std::f64::consts::TAU);
            data.extend(color.map(|value| (value + 0.5) as u8));
        }
    }
    match Straight::new(w, h, data) {
        Some(pixels) => pixels,
        None => unreachable!("four bytes a pixel were written"),
    }
}

/// The colour at a place along stops: red, green, blue and alpha, 0 to 255, mixed premultiplied as all our gradients are.
fn along(stops: &[GradientStop], at: f64) -> [f64; 4] {
    let parts = |c: Rgba| [f64::from(c.r), f64::from(c.g), f64::from(c.b), c.a * 255.0];
    let next = stops.iter().position(|stop| stop.at > at);
    match next {
        Some(0) => parts(stops[0].color),
        None => stops.last().map_or([0.0; 4], |stop| parts(stop.color)),
        Some(i) => {
            let (a, b) = (&stops[i - 1], &stops[i]);
            let share = (at - a.at) / (b.at - a.at);
            let (from, to) = (parts(a.color), parts(b.color));
            std::array::from_fn(|c| from[c] + (to[c] - from[c]) * share)
        }
    }
}

/// A gradient turning about a point as wedges that reach so far, from `start` (radians clockwise from the top). A hard edge between two stops
/// is one of the fan.
pub(crate) fn conic_fan(centre: Point, start: f64, stops: &[GradientStop], reach: f64) -> Vec<(BezPath, Rgba)> {
    let steps = (0..=WEDGES).map(|step| f64::from(step) / f64::from(WEDGES));
    let mut turns: Vec<f64> = steps.chain(stops.iter().map(|stop| stop.at.clamp(0.0, 1.0))).collect();
    turns.sort_by(f64::total_cmp);
    turns.dedup();
    let wedge = |pair: &[f64]| {
        let [r, g, b, a] = along(stops, (pair[0] + pair[1]) / 2.0);
        let byte = |value: f64| (value + 0.5).clamp(0.0, 255.0) as u8;
        let color = Rgba::new(Color::opaque(byte(r), byte(g), byte(b)), (a / 255.0).clamp(0.0, 1.0));
        // What lets through would be seen twice where wedges lie over each other.
        let under = if color.a >= 1.0 && pair[1] < 1.0 { UNDER } else { 0.0 };
        let rim = |turn: f64| {
            let angle = start + turn * TAU;
            centre + Vec2::new(angle.sin(), -angle.cos()) * reach
        };
        let mut path = BezPath::new();
        path.move_to(centre);
        path.line_to(rim(pair[0]));
        path.line_to(rim(pair[1] + under));
        path.close_path();
        (path, color)
    };
    turns.windows(2).map(wedge).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use kurbo::Shape as _;

    fn stops() -> Vec<GradientStop> {
        let stop = |at: f64, r: u8, b: u8| GradientStop { at, color: Rgba::new(Color::opaque(r, 90, b), 1.0) };
        vec![stop(0.0, 250, 10), stop(0.3, 40, 10), stop(0.3, 40, 220), stop(1.0, 250, 10)]
    }

    #[test]
    fn a_fan_shows_what_the_pixels_show() {
        let (start, size) = (0.7, 64.0);
        let pixels = conic_pixels(start, &stops(), 1.0);
        let step = size / f64::from(pixels.width());
        let centre = Point::new(size / 2.0, size / 2.0);
        let fan = conic_fan(centre, start, &stops(), size);
        for at in (0..pixels.width() * pixels.height()).step_by(997) {
            let (x, y) = (at % pixels.width(), at / pixels.width());
            let point = Point::new((f64::from(x) + 0.5) * step, (f64::from(y) + 0.5) * step);
            let seen = fan.iter().rev().find(|(path, _)| path.contains(point)).map(|(_, color)| *color).unwrap();
            let want = &pixels.data()[at as usize * 4..][..4];
            // Next to the hard edge a wedge may reach below the next by a hair.
            let off = [seen.r, seen.g, seen.b].iter().zip(want).map(|(a, b)| a.abs_diff(*b)).max().unwrap();
            assert!(off <= 3 || point.distance(centre) < 1.0, "{point:?}: {seen:?} {want:?}");
        }
    }
}
