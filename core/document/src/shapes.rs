//! The outlines of the shapes on the shelf, each in a box of `w` by `h` from the origin.

use std::f64::consts::{FRAC_PI_2, PI, TAU};

use kurbo::{Affine, Arc, BezPath, Circle, Point, Shape as _};

const TOLERANCE: f64 = 0.01;

/// From the circle of radius 1 about the origin to the ellipse of the box.
fn fitted(w: f64, h: f64) -> Affine {
    Affine::translate((w / 2.0, h / 2.0)) * Affine::scale_non_uniform(w / 2.0, h / 2.0)
}

/// Fine enough for the ellipse of the box when drawn on the circle of radius 1.
fn unit_tolerance(w: f64, h: f64) -> f64 {
    TOLERANCE / w.max(h).max(1.0)
}

fn closed(points: impl IntoIterator<Item = (f64, f64)>) -> BezPath {
    let mut path = BezPath::new();
    for (i, point) in points.into_iter().enumerate() {
        if i == 0 { path.move_to(point) } else { path.line_to(point) }
    }
    path.close_path();
    path
}

pub(crate) fn polygon(w: f64, h: f64, points: u8) -> BezPath {
    let corner = |i: u8| {
        let angle = TAU * f64::from(i) / f64::from(points.max(1)) - FRAC_PI_2;
        (w / 2.0 * (1.0 + angle.cos()), h / 2.0 * (1.0 + angle.sin()))
    };
    closed((0..points).map(corner))
}

pub(crate) fn ring(w: f64, h: f64, thickness: f64) -> BezPath {
    let tolerance = unit_tolerance(w, h);
    let mut path = Circle::new(Point::ORIGIN, 1.0).to_path(tolerance);
    let inner = 1.0 - thickness;
    if inner > 0.0 {
        // The other way round, so that the non-zero rule leaves a hole.
        path.extend(Circle::new(Point::ORIGIN, inner).to_path(tolerance).reverse_subpaths());
    }
    fitted(w, h) * path
}

pub(crate) fn sector(w: f64, h: f64, start: f64, sweep: f64, thickness: f64) -> BezPath {
    let from = start - FRAC_PI_2;
    let tolerance = unit_tolerance(w, h);
    let outer = Arc::new(Point::ORIGIN, (1.0, 1.0), from, sweep, 0.0);
    let on = |radius: f64, angle: f64| Point::new(radius * angle.cos(), radius * angle.sin());
    let inner = 1.0 - thickness;
    let mut path = BezPath::new();
    path.move_to(on(1.0, from));
    path.extend(outer.append_iter(tolerance));
    path.line_to(on(inner, from + sweep));
    if inner > 0.0 {
        path.extend(Arc::new(Point::ORIGIN, (inner, inner), from + sweep, -sweep, 0.0).append_iter(tolerance));
    }
    path.close_path();
    fitted(w, h) * path
}

pub(crate) fn arrow(w: f64, h: f64, head: f64, shaft: f64) -> BezPath {
    let neck = w - (head * h).min(w);
    let (top, bottom) = (h * (1.0 - shaft) / 2.0, h * (1.0 + shaft) / 2.0);
    closed([(0.0, top), (neck, top), (neck, 0.0), (w, h / 2.0), (neck, h), (neck, bottom), (0.0, bottom)])
}

pub(crate) fn speech(w: f64, h: f64, tail: f64) -> BezPath {
    let foot = h * (1.0 - tail);
    let radius = (foot.min(w) * 0.16).max(0.0);
    let corner = |path: &mut BezPath, x: f64, y: f64, start: f64| {
        path.extend(Arc::new((x, y), (radius, radius), start, FRAC_PI_2, 0.0).append_iter(TOLERANCE))
    };
    let mut path = BezPath::new();
    path.move_to((0.0, radius));
    corner(&mut path, radius, radius, PI);
    path.line_to((w - radius, 0.0));
    corner(&mut path, w - radius, radius, -FRAC_PI_2);
    path.line_to((w, foot - radius));
    corner(&mut path, w - radius, foot - radius, 0.0);
    path.line_to((w * 0.34, foot));
    path.line_to((w * 0.16, h));
    path.line_to((w * 0.18, foot));
    path.line_to((radius, foot));
    corner(&mut path, radius, foot - radius, FRAC_PI_2);
    path.close_path();
    path
}

pub(crate) fn ribbon(w: f64, h: f64, notch: f64) -> BezPath {
    let deep = (notch * h).min(w / 2.0);
    closed([(0.0, 0.0), (w, 0.0), (w - deep, h / 2.0), (w, h), (0.0, h), (deep, h / 2.0)])
}

pub(crate) fn ticket(w: f64, h: f64, bite: f64) -> BezPath {
    let radius = (bite * h).min(h / 2.0).min(w / 2.0);
    let mut path = BezPath::new();
    path.move_to((0.0, 0.0));
    path.line_to((w, 0.0));
    path.line_to((w, h / 2.0 - radius));
    path.extend(Arc::new((w, h / 2.0), (radius, radius), -FRAC_PI_2, -PI, 0.0).append_iter(TOLERANCE));
    path.line_to((w, h));
    path.line_to((0.0, h));
    path.line_to((0.0, h / 2.0 + radius));
    path.extend(Arc::new((0.0, h / 2.0), (radius, radius), FRAC_PI_2, -PI, 0.0).append_iter(TOLERANCE));
    path.close_path();
    path
}

/// A small repeatable source of numbers from 0 to 1 (xorshift, Marsaglia 2003).
struct Chance(u32);

impl Chance {
    fn new(seed: u16) -> Self {
        Self(u32::from(seed).wrapping_mul(2_654_435_761) | 1)
    }

    fn next(&mut self) -> f64 {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 17;
        self.0 ^= self.0 << 5;
        f64::from(self.0) / f64::from(u32::MAX)
    }
}

/// A closed smooth curve through points (Catmull-Rom as cubic Bezier curves).
fn smooth(points: &[Point]) -> BezPath {
    let at = |i: usize| points[i % points.len()];
    let mut path = BezPath::new();
    path.move_to(at(0));
    for i in 0..points.len() {
        let (before, from, to, after) = (at(i + points.len() - 1), at(i), at(i + 1), at(i + 2));
        path.curve_to(from + (to - before) / 6.0, to - (after - from) / 6.0, to);
    }
    path.close_path();
    path
}

pub(crate) fn blob(w: f64, h: f64, seed: u16) -> BezPath {
    let mut chance = Chance::new(seed);
    let count = 6 + seed as usize % 4;
    let shift = chance.next() * TAU;
    let points: Vec<Point> = (0..count)
        .map(|i| {
            let angle = shift + TAU * (i as f64 + 0.5 * (chance.next() - 0.5)) / count as f64;
            let reach = 0.68 + 0.32 * chance.next();
            Point::new(reach * angle.cos(), reach * angle.sin())
        })
        .collect();
    let path = smooth(&points);
    // Stretched to touch its box on all sides.
    let bounds = path.bounding_box();
    let fit = Affine::scale_non_uniform(w / bounds.width(), h / bounds.height())
        * Affine::translate((-bounds.x0, -bounds.y0));
    fit * path
}

pub(crate) fn torn(w: f64, h: f64, seed: u16, depth: f64) -> BezPath {
    let mut chance = Chance::new(seed);
    let deep = depth * h / 2.0;
    let steps = ((w / h.max(1.0) * 18.0).round() as usize).clamp(12, 160);
    let mut edge = |base: f64, inward: f64| -> Vec<(f64, f64)> {
        let mut level = 0.5;
        let points = (0..=steps).map(|i| {
            // A slow wander and a quick tremble; it reaches its edge somewhere, for certain at one place.
            level = (level + (chance.next() - 0.5) * 0.5).clamp(0.0, 1.0);
            let share = if i == steps / 3 { 0.0 } else { (level * 0.75 + chance.next() * 0.25).clamp(0.0, 1.0) };
            (w * i as f64 / steps as f64, base + inward * deep * share)
        });
        points.collect()
    };
    let top = edge(0.0, 1.0);
    let bottom = edge(h, -1.0);
    closed(top.into_iter().chain(bottom.into_iter().rev()))
}
