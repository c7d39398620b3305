//! A picture set upright: straightened by an angle, and a leaning surface in it seen from straight ahead. No pixel of the original is
//! changed, and whatever is said about places of the picture is said about the original.

use kurbo::Point;
use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Angle, Ratio};

use crate::{Fault, Focus};

/// How a picture is set upright.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Upright {
    /// Turned clockwise by, -45 to 45 degrees; what would be empty then is cut off, at the proportions there were.
    pub turn: Angle,
    /// The places of the original that become the corners, from the top left on clockwise; its own corners without them.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub corners: Option<[Focus; 4]>,
}

/// A map of a plane that keeps straight lines straight, as the rows of its matrix.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Homography([[f64; 3]; 3]);

impl Homography {
    /// The map from the unit square, its corners taken from the top left on clockwise, onto four points (P. S. Heckbert, "Fundamentals
    /// of texture mapping and image warping", 1989, section 2.2.3).
    #[must_use]
    pub fn onto([p0, p1, p2, p3]: [Point; 4]) -> Self {
        let (d1, d2, s) = (p1 - p2, p3 - p2, (p0 - p1) + (p2 - p3));
        let whole = d1.cross(d2);
        let (g, h) = (s.cross(d2) / whole, d1.cross(s) / whole);
        Self([
            [p1.x - p0.x + g * p1.x, p3.x - p0.x + h * p3.x, p0.x],
            [p1.y - p0.y + g * p1.y, p3.y - p0.y + h * p3.y, p0.y],
            [g, h, 1.0],
        ])
    }

    /// Where a point comes to lie.
    #[must_use]
    pub fn at(&self, point: Point) -> Point {
        let [x, y, w] = self.0.map(|[a, b, c]| a * point.x + b * point.y + c);
        Point::new(x / w, y / w)
    }
}

impl Upright {
    /// Nothing changed.
    pub const NONE: Self = Self { turn: Angle::ZERO, corners: None };
    /// Furthest turn, in degrees.
    pub const FURTHEST: f64 = 45.0;

    /// Whether it changes nothing.
    #[must_use]
    pub fn is_idle(&self) -> bool {
        *self == Self::NONE
    }

    /// Why it cannot be done, if so: corners lie in or near the picture, go around clockwise without a dent, and no side is nearly
    /// nothing.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        let near = |value: Ratio| (-0.5..=1.5).contains(&value.get());
        let corners = self.corners.is_none_or(|corners| {
            let point = |at: usize| Point::new(corners[at % 4].x.get(), corners[at % 4].y.get());
            let bend = |at: usize| (point(at + 1) - point(at)).cross(point(at + 2) - point(at + 1));
            corners.iter().all(|corner| near(corner.x) && near(corner.y))
                && (0..4).all(|at| bend(at) > 1e-3 && point(at).distance(point(at + 1)) > 0.02)
        });
        let turn = self.turn.to_degrees().abs() <= Self::FURTHEST;
        (!(corners && turn)).then_some(Fault::Upright)
    }

    /// Width and height in pixels of a picture of a size once it is upright, at least one each way.
    #[must_use]
    pub fn size(&self, original: (u32, u32)) -> (u32, u32) {
        let (w, h) = self.shown(original);
        (w.round().max(1.0) as u32, h.round().max(1.0) as u32)
    }

    /// The size before the turn: the mean lengths of opposite sides of what becomes the picture.
    fn squared(&self, (w, h): (u32, u32)) -> (f64, f64) {
        let (w, h) = (f64::from(w), f64::from(h));
        let Some(corners) = self.corners else { return (w, h) };
        let [a, b, c, d] = corners.map(|corner| Point::new(corner.x.get() * w, corner.y.get() * h));
        (f64::midpoint(a.distance(b), d.distance(c)), f64::midpoint(a.distance(d), b.distance(c)))
    }

    fn shown(&self, original: (u32, u32)) -> (f64, f64) {
        let (w, h) = self.squared(original);
        let (sin, cos) = self.turn.to_radians().abs().sin_cos();
        // The largest box of the same proportions in the middle of the turned one.
        let by = 1.0 / (cos + sin * (w / h).max(h / w));
        (w * by, h * by)
    }

    /// From fractions of the upright picture to fractions of the original, for one of a size.
    #[must_use]
    pub fn into_original(&self, original: (u32, u32)) -> Homography {
        let (w, h) = self.squared(original);
        let (own_w, own_h) = self.shown(original);
        let turned = kurbo::Affine::rotate(-self.turn.to_radians());
        let unit = [(-0.5, -0.5), (0.5, -0.5), (0.5, 0.5), (-0.5, 0.5)];
        // Corners of what is seen, in fractions of the squared picture, and from there into the original.
        let seen = unit.map(|(x, y)| {
            let point = turned * Point::new(x * own_w, y * own_h);
            Point::new(point.x / w + 0.5, point.y / h + 0.5)
        });
        match self.corners {
            None => Homography::onto(seen),
            Some(corners) => {
                let square = Homography::onto(corners.map(|corner| Point::new(corner.x.get(), corner.y.get())));
                Homography::onto(seen.map(|point| square.at(point)))
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn focus(x: f64, y: f64) -> Focus {
        Focus { x: Ratio::new(x), y: Ratio::new(y) }
    }

    proptest! {
        #[test]
        fn corners_become_the_corners_and_lines_stay_straight(
            dx in prop::array::uniform4(-0.2f64..0.2), dy in prop::array::uniform4(-0.2f64..0.2), t in 0.0f64..1.0,
        ) {
            let unit = [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)];
            let corners = [0, 1, 2, 3].map(|n| focus(unit[n].0 + dx[n], unit[n].1 + dy[n]));
            let upright = Upright { corners: Some(corners), ..Upright::NONE };
            prop_assert_eq!(upright.fault(), None);
            let map = upright.into_original((400, 300));
            for (n, (x, y)) in unit.into_iter().enumerate() {
                let wanted = Point::new(corners[n].x.get(), corners[n].y.get());
                prop_assert!(map.at(Point::new(x, y)).distance(wanted) < 1e-6);
            }
            let (a, b) = (Point::new(0.1, 0.9), Point::new(0.8, 0.2));
            let (from, to, on) = (map.at(a), map.at(b), map.at(a.lerp(b, t)));
            prop_assert!((to - from).cross(on - from).abs() < 1e-9, "a line bends");
        }

        #[test]
        fn turned_it_keeps_its_proportions_shows_nothing_empty_and_cannot_be_larger(
            turn in -45.0f64..45.0, w in 40u32..4_000, h in 40u32..4_000,
        ) {
            let upright = Upright { turn: Angle::degrees(turn), corners: None };
            let (own_w, own_h) = upright.shown((w, h));
            prop_assert!((own_w / own_h - f64::from(w) / f64::from(h)).abs() < 1e-6);
            let map = upright.into_original((w, h));
            let corners = [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)].map(|(x, y)| map.at(Point::new(x, y)));
            let reach = corners.iter().flat_map(|p| [p.x - 0.5, p.y - 0.5]).fold(0.0, |most: f64, at| most.max(at.abs()));
            prop_assert!((reach - 0.5).abs() < 1e-6, "a corner reaches {reach}");
            // A point to the right of the middle is turned up by a turn to the left of the picture, and the other way about.
            let right = map.at(Point::new(1.0, 0.5));
            prop_assert!((right.y - 0.5) * turn <= 1e-9, "{right:?} {turn}");
        }
    }

    #[test]
    fn what_has_no_sense_is_refused() {
        let corners = |all: [(f64, f64); 4]| Upright { corners: Some(all.map(|(x, y)| focus(x, y))), ..Upright::NONE };
        assert_eq!(corners([(0.1, 0.1), (0.9, 0.0), (1.0, 1.0), (0.0, 0.8)]).fault(), None);
        for bad in [
            [(0.1, 0.1), (0.0, 0.8), (1.0, 1.0), (0.9, 0.0)],
            [(0.0, 0.0), (1.0, 0.0), (0.2, 0.2), (0.0, 1.0)],
            [(0.0, 0.0), (1.0, 1.0), (1.0, 0.0), (0.0, 1.0)],
            [(0.0, 0.0), (0.0, 0.0), (1.0, 1.0), (0.0, 1.0)],
            [(-0.9, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)],
        ] {
            assert_eq!(corners(bad).fault(), Some(Fault::Upright), "{bad:?}");
        }
        assert!(Upright { turn: Angle::degrees(46.0), corners: None }.fault().is_some());
        let poster = corners([(0.3, 0.1), (0.7, 0.2), (0.7, 0.8), (0.3, 0.9)]);
        let (w, h) = poster.size((1_000, 1_000));
        assert!(h > w, "{w} x {h}: what stands upright does so whatever the shape of the photograph");
        assert_eq!(Upright::NONE.size((640, 480)), (640, 480));
    }
}
