//! Lines drawn by hand: points with pressure, smoothed into an outline of varying thickness.

use crate::Fault;
use kurbo::{BezPath, Point, Vec2};
use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Length, Rect};

/// A point of a line drawn by hand.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct HandPoint {
    /// In ten-thousandths of the width of the item's box.
    pub x: u16,
    /// In ten-thousandths of its height.
    pub y: u16,
    /// How hard it was pressed, 0 to 255.
    pub press: u8,
}

/// What is drawn by hand in one go: one or more lines.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Hand {
    /// The lines, each from its beginning to its end.
    pub lines: Vec<Vec<HandPoint>>,
    /// Thickness where it was pressed hardest.
    pub thickness: Length,
    /// How far unevenness is smoothed away, 0 to 10.
    pub smoothing: u8,
    /// How far light pressure thins the line, 0 to 100 %.
    pub thinning: u8,
}

const FULL: f64 = 10_000.0;

#[derive(Clone, Copy)]
struct Node {
    at: Point,
    half: f64,
}

/// A point of a line as the pen made it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct PenPoint {
    /// Where on the sheet.
    pub at: vatman_units::Point,
    /// How hard it was pressed, 0 to 255.
    pub press: u8,
}

impl Hand {
    /// Lines as the pen made them, and the box around them on the sheet; nothing without a point.
    #[must_use]
    pub fn drawn(lines: &[Vec<PenPoint>], thickness: Length, smoothing: u8, thinning: u8) -> Option<(Self, Rect)> {
        let all = || lines.iter().flatten().map(|point| point.at);
        let (left, right) = (all().map(|p| p.x).min()?, all().map(|p| p.x).max()?);
        let (top, bottom) = (all().map(|p| p.y).min()?, all().map(|p| p.y).max()?);
        // A straight line or a tap still needs a box that can be taken hold of.
        let least = thickness.max(Length::from_raw(1));
        let grown = |first: Length, last: Length| {
            if last - first < least { (first - (least - (last - first)).half(), least) } else { (first, last - first) }
        };
        let ((x, w), (y, h)) = (grown(left, right), grown(top, bottom));
        let share = |value: Length, first: Length, length: Length| {
            ((value - first).raw() as f64 / length.raw().max(1) as f64 * FULL).round().clamp(0.0, FULL) as u16
        };
        let point =
            |point: &PenPoint| HandPoint { x: share(point.at.x, x, w), y: share(point.at.y, y, h), press: point.press };
        let lines = lines.iter().filter(|line| !line.is_empty()).map(|line| line.iter().map(point).collect()).collect();
        Some((Self { lines, thickness, smoothing, thinning }, Rect::new(x, y, w, h)))
    }

    /// Most points of all lines together.
    pub const MOST_POINTS: usize = 20_000;

    /// Why it cannot be drawn, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        let count: usize = self.lines.iter().map(Vec::len).sum();
        if count == 0 || count > Self::MOST_POINTS || self.lines.iter().any(Vec::is_empty) {
            return Some(Fault::HandPoints);
        }
        if !self.thickness.is_positive()
            || self.thickness > Length::inches(50.0)
            || self.smoothing > 10
            || self.thinning > 100
        {
            return Some(Fault::HandLine);
        }
        let outside = |point: &HandPoint| point.x > FULL as u16 || point.y > FULL as u16;
        self.lines.iter().flatten().any(outside).then_some(Fault::HandBox)
    }

    /// The outline in a box of `w` by `h` CSS pixels; `detail` scales its thickness.
    #[must_use]
    pub fn path(&self, w: f64, h: f64, detail: f64) -> BezPath {
        let mut path = BezPath::new();
        let most = self.thickness.to_css_px() * detail / 2.0;
        let thin = f64::from(self.thinning) / 100.0;
        for line in &self.lines {
            let node = |point: &HandPoint| Node {
                at: Point::new(f64::from(point.x) / FULL * w, f64::from(point.y) / FULL * h),
                half: most * (1.0 - thin * (1.0 - f64::from(point.press) / 255.0)).max(0.02),
            };
            let nodes = smoothed(line.iter().map(node).collect(), self.smoothing);
            path.extend(stroke(&nodes));
        }
        path
    }
}

/// Every point moves towards the mean of its neighbours, again and again; the ends stay.
fn smoothed(mut nodes: Vec<Node>, times: u8) -> Vec<Node> {
    for _ in 0..u32::from(times) * 2 {
        let before = nodes.clone();
        for i in 1..nodes.len().saturating_sub(1) {
            let (a, b, c) = (before[i - 1], before[i], before[i + 1]);
            nodes[i] = Node {
                at: (b.at.to_vec2() * 0.5 + (a.at.to_vec2() + c.at.to_vec2()) * 0.25).to_point(),
                half: b.half * 0.5 + (a.half + c.half) * 0.25,
            };
        }
    }
    nodes
}

/// A closed outline around nodes of varying thickness: both flanks as smooth curves, the ends round.
fn stroke(nodes: &[Node]) -> BezPath {
    let mut kept: Vec<Node> = Vec::new();
    for node in nodes {
        if kept.last().is_none_or(|last| last.at.distance(node.at) > 0.05) {
            kept.push(*node);
        }
    }
    let (Some(first), Some(last)) = (kept.first(), kept.last()) else { return BezPath::new() };
    if kept.len() == 1 {
        use kurbo::Shape as _;
        return kurbo::Circle::new(first.at, first.half).to_path(0.01);
    }
    let along = |i: usize| {
        let (a, b) = (kept[i.saturating_sub(1)].at, kept[(i + 1).min(kept.len() - 1)].at);
        let d = b - a;
        if d.hypot() > 1e-9 { d / d.hypot() } else { Vec2::new(1.0, 0.0) }
    };
    let side = |i: usize, sign: f64| {
        let d = along(i);
        kept[i].at + Vec2::new(-d.y, d.x) * kept[i].half * sign
    };
    let left: Vec<Point> = (0..kept.len()).map(|i| side(i, -1.0)).collect();
    let right: Vec<Point> = (0..kept.len()).rev().map(|i| side(i, 1.0)).collect();
    let mut path = BezPath::new();
    path.move_to(left[0]);
    through(&mut path, &left);
    round_end(&mut path, last.at, along(kept.len() - 1), last.half);
    through(&mut path, &right);
    round_end(&mut path, first.at, -along(0), first.half);
    path.close_path();
    path
}

/// Goes on through points as a Catmull-Rom spline, of which the first is where the path stands.
fn through(path: &mut BezPath, points: &[Point]) {
    for i in 0..points.len() - 1 {
        let before = points[i.saturating_sub(1)];
        let (a, b) = (points[i], points[i + 1]);
        let after = points[(i + 2).min(points.len() - 1)];
        path.curve_to(a + (b - before) / 6.0, b - (after - a) / 6.0, b);
    }
}

/// Half a circle around an end, from the left flank to the right as one looks along `out`.
fn round_end(path: &mut BezPath, end: Point, out: Vec2, half: f64) {
    const HANDLE: f64 = 0.552_284_75;
    let across = Vec2::new(-out.y, out.x) * half;
    let (from, tip, to) = (end - across, end + out * half, end + across);
    let reach = out * half * HANDLE;
    path.curve_to(from + reach, tip - across * HANDLE, tip);
    path.curve_to(tip + across * HANDLE, to + reach, to);
}

#[cfg(test)]
mod tests {
    use super::*;
    use kurbo::Shape as _;
    use proptest::prelude::*;

    fn hand(points: &[(u16, u16, u8)]) -> Hand {
        let line = points.iter().map(|&(x, y, press)| HandPoint { x, y, press }).collect();
        Hand { lines: vec![line], thickness: Length::css_px(20.0), smoothing: 0, thinning: 100 }
    }

    #[test]
    fn a_straight_line_has_the_area_of_its_thickness() {
        let path = hand(&[(0, 5_000, 255), (5_000, 5_000, 255), (10_000, 5_000, 255)]).path(400.0, 100.0, 1.0);
        let wanted = 400.0 * 20.0 + std::f64::consts::PI * 100.0;
        assert!((path.area().abs() - wanted).abs() < wanted * 0.01, "{} instead of {wanted}", path.area());
        assert!((path.bounding_box().height() - 20.0).abs() < 0.1);
    }

    #[test]
    fn light_pressure_thins_and_a_tap_is_a_dot() {
        let strong = hand(&[(0, 0, 255), (10_000, 0, 255)]).path(100.0, 100.0, 1.0).area().abs();
        let light = hand(&[(0, 0, 60), (10_000, 0, 60)]).path(100.0, 100.0, 1.0).area().abs();
        assert!(light < strong * 0.4, "{light} against {strong}");
        let dot = hand(&[(5_000, 5_000, 255)]).path(100.0, 100.0, 1.0);
        assert!((dot.area().abs() - std::f64::consts::PI * 100.0).abs() < 2.0);
    }

    #[test]
    fn a_line_of_the_pen_lies_in_its_box_where_it_was_drawn() {
        let px = Length::css_px;
        let pen = |x: f64, y: f64| PenPoint { at: vatman_units::Point { x: px(x), y: px(y) }, press: 255 };
        let (hand, rect) =
            Hand::drawn(&[vec![pen(100.0, 50.0), pen(200.0, 50.0), pen(300.0, 50.0)]], px(6.0), 2, 0).unwrap();
        assert_eq!((rect.x, rect.w, rect.y, rect.h), (px(100.0), px(200.0), px(47.0), px(6.0)));
        assert_eq!(hand.lines[0][1], HandPoint { x: 5_000, y: 5_000, press: 255 });
        assert_eq!(hand.fault(), None);
        assert!(Hand::drawn(&[Vec::new()], px(6.0), 2, 0).is_none());
    }

    #[test]
    fn smoothing_takes_a_shake_out_and_keeps_the_ends() {
        let shaken: Vec<_> = (0..=40).map(|i| (i * 250, if i % 2 == 0 { 5_000 } else { 5_600 }, 255)).collect();
        let rough = Hand { thickness: Length::css_px(2.0), ..hand(&shaken) };
        let smooth = Hand { smoothing: 6, ..rough.clone() };
        let height = |hand: &Hand| hand.path(1_000.0, 1_000.0, 1.0).bounding_box().height();
        assert!(height(&rough) > 58.0 && height(&smooth) < 45.0, "{} then {}", height(&rough), height(&smooth));
        let boxed = smooth.path(1_000.0, 1_000.0, 1.0).bounding_box();
        assert!(boxed.x0 < 1.0 && boxed.x1 > 999.0);
    }

    proptest! {
        #[test]
        fn any_line_becomes_a_finite_outline_near_its_points(points in proptest::collection::vec((0u16..=10_000, 0u16..=10_000, 0u8..=255), 1..60), smoothing in 0u8..=10) {
            let drawn = Hand { smoothing, ..hand(&points) };
            prop_assert_eq!(drawn.fault(), None);
            let path = drawn.path(300.0, 200.0, 1.0);
            prop_assert!(path.is_finite());
            let bounds = path.bounding_box();
            // The spline may swing out beyond its points by a share of their distance.
            prop_assert!(bounds.x0 > -80.0 && bounds.y0 > -80.0 && bounds.x1 < 380.0 && bounds.y1 < 280.0, "{bounds:?}");
        }
    }
}
