//! A smooth curve through points that never overshoots between them.

use vatman_document::CurvePoint;

use super::row::EachValue;
use super::table::Table;

/// A curve from 0 to 1, as a table. Monotone cubic interpolation (F. N. Fritsch and R. E. Carlson, "Monotone piecewise cubic
/// interpolation", 1980, with the tangents limited as they say); flat before its first point and after its last.
#[derive(Debug, Clone)]
pub(crate) struct Curve(Table);

impl Curve {
    /// Nothing where there are fewer than two points, which change nothing.
    pub(crate) fn through(points: &[CurvePoint]) -> Option<Self> {
        if points.len() < 2 {
            return None;
        }
        let points: Vec<(f64, f64)> = points.iter().map(|point| (point.x.get(), point.y.get())).collect();
        let tangents = tangents(&points);
        let mut part = 0;
        Some(Self(Table::of(|x| {
            while part + 2 < points.len() && x > points[part + 1].0 {
                part += 1;
            }
            between(points[part], points[part + 1], (tangents[part], tangents[part + 1]), x)
        })))
    }
}

/// What goes out for what comes in. Beyond 0 and 1 it goes on by what lies beyond.
impl EachValue for Curve {
    #[inline(always)]
    fn value(&self, value: f32) -> f32 {
        self.0.at(value)
    }
}

fn between(a: (f64, f64), b: (f64, f64), (m0, m1): (f64, f64), x: f64) -> f64 {
    let h = b.0 - a.0;
    let t = ((x - a.0) / h).clamp(0.0, 1.0);
    let (t2, t3) = (t * t, t * t * t);
    (2.0 * t3 - 3.0 * t2 + 1.0) * a.1 + (t3 - 2.0 * t2 + t) * h * m0 + (-2.0 * t3 + 3.0 * t2) * b.1 + (t3 - t2) * h * m1
}

fn tangents(points: &[(f64, f64)]) -> Vec<f64> {
    let slopes: Vec<f64> = points.windows(2).map(|pair| (pair[1].1 - pair[0].1) / (pair[1].0 - pair[0].0)).collect();
    let mut out: Vec<f64> = (0..points.len())
        .map(|at| match at {
            0 => slopes[0],
            at if at == points.len() - 1 => slopes[at - 1],
            at if slopes[at - 1] * slopes[at] <= 0.0 => 0.0,
            at => f64::midpoint(slopes[at - 1], slopes[at]),
        })
        .collect();
    for (at, slope) in slopes.iter().enumerate() {
        if *slope == 0.0 {
            (out[at], out[at + 1]) = (0.0, 0.0);
            continue;
        }
        let (a, b) = (out[at] / slope, out[at + 1] / slope);
        let far = a.hypot(b);
        if far > 3.0 {
            (out[at], out[at + 1]) = (3.0 / far * a * slope, 3.0 / far * b * slope);
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use vatman_units::Ratio;

    fn point(x: f64, y: f64) -> CurvePoint {
        CurvePoint { x: Ratio::new(x), y: Ratio::new(y) }
    }

    proptest! {
        #[test]
        fn it_goes_through_its_points_and_stays_between_neighbours(ys in proptest::collection::vec(0.0f64..1.0, 2..9)) {
            let last = (ys.len() - 1) as f64;
            let points: Vec<CurvePoint> = ys.iter().enumerate().map(|(at, y)| point(at as f64 / last, *y)).collect();
            let curve = Curve::through(&points).unwrap();
            for (at, y) in ys.iter().enumerate() {
                prop_assert!((f64::from(curve.value((at as f64 / last) as f32)) - y).abs() < 2e-3);
            }
            for pair in points.windows(2) {
                let (low, high) = (pair[0].y.min(pair[1].y).get() - 1e-4, pair[0].y.max(pair[1].y).get() + 1e-4);
                for step in 1..40 {
                    let x = pair[0].x.get() + (pair[1].x.get() - pair[0].x.get()) * f64::from(step) / 40.0;
                    let y = f64::from(curve.value(x as f32));
                    prop_assert!((low..=high).contains(&y), "{y} between {low} and {high}");
                }
            }
        }
    }

    #[test]
    fn a_straight_one_changes_nothing_and_ends_are_flat() {
        let straight = Curve::through(&[point(0.0, 0.0), point(0.3, 0.3), point(1.0, 1.0)]).unwrap();
        for value in [-0.2f32, 0.0, 0.11, 0.5, 1.0, 1.4] {
            assert!((straight.value(value) - value).abs() < 1e-5, "{value}");
        }
        let short = Curve::through(&[point(0.2, 0.1), point(0.8, 0.9)]).unwrap();
        assert!((short.value(0.05) - 0.1).abs() < 1e-6 && (short.value(0.95) - 0.9).abs() < 1e-6);
        assert!(Curve::through(&[point(0.5, 0.5)]).is_none());
    }
}
