//! Areas made of others: united, subtracted, intersected or excluded.

use i_overlay::core::fill_rule::FillRule;
use i_overlay::core::overlay_rule::OverlayRule;
use i_overlay::float::single::SingleFloatOverlay as _;
use i_overlay::mesh::outline::offset::OutlineOffset as _;
use i_overlay::mesh::style::{LineJoin, OutlineStyle};
use kurbo::{BezPath, PathEl, Point};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// How outlines are combined.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Combine {
    /// Everything that is in any of them.
    Unite,
    /// The first without the others.
    Subtract,
    /// What is in all of them.
    Intersect,
    /// What is in an odd number of them.
    Exclude,
}

/// What is in any of some outlines, by the non-zero rule. Curves become corners a fiftieth of a pixel from them.
#[must_use]
pub fn united(paths: impl Iterator<Item = BezPath>) -> BezPath {
    combined(Combine::Unite, paths)
}

/// What is in both of two outlines, by the non-zero rule.
#[must_use]
pub fn common(a: &BezPath, b: &BezPath) -> BezPath {
    combined(Combine::Intersect, [a.clone(), b.clone()].into_iter())
}

/// An outline grown on all sides by a distance above 0, its corners rounded: all that is no further from its inside than that.
#[must_use]
pub fn grown(path: &BezPath, by: f64) -> BezPath {
    /// Length of the corners of which a round one is made, in radii.
    const ROUND: f64 = 0.08;
    let clean = contours(path).overlay(&NONE, OverlayRule::Subject, FillRule::NonZero);
    path_of(flat(clean.outline(&OutlineStyle::new(by).line_join(LineJoin::Round(ROUND)))))
}

/// A contour as corners.
type Contour = Vec<[f64; 2]>;

/// Paths combined. Curves become corners a fiftieth of a pixel from them.
pub(crate) fn combined(how: Combine, paths: impl Iterator<Item = BezPath>) -> BezPath {
    // Alone, an outline is cleaned of its own overlaps, and its holes run the other way round.
    let clean = |path: BezPath| flat(contours(&path).overlay(&NONE, OverlayRule::Subject, FillRule::NonZero));
    let mut all = paths.map(clean);
    let Some(first) = all.next() else { return BezPath::new() };
    // All at once where the rule allows it: one after the other, each would be gone through again with all after it.
    let together = |parts: Vec<Contour>, rule| flat(parts.overlay(&NONE, OverlayRule::Subject, rule));
    path_of(match how {
        Combine::Unite => together(first.into_iter().chain(all.flatten()).collect(), FillRule::NonZero),
        Combine::Exclude => together(first.into_iter().chain(all.flatten()).collect(), FillRule::EvenOdd),
        Combine::Subtract => {
            let rest: Vec<Contour> = all.flatten().collect();
            flat(first.overlay(&rest, OverlayRule::Difference, FillRule::NonZero))
        }
        Combine::Intersect => {
            all.fold(first, |both, next| flat(both.overlay(&next, OverlayRule::Intersect, FillRule::NonZero)))
        }
    })
}

const NONE: Vec<Contour> = Vec::new();

/// Work that combining may still take.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Work {
    /// Edges between the corners of all outlines.
    pub(crate) edges: usize,
    /// Where edges cross each other.
    pub(crate) crossings: usize,
    /// Pairs of edges that are looked at.
    pub(crate) pairs: usize,
}

impl Work {
    /// What combining takes at most a tenth of a second for.
    pub(crate) const MOST: Self = Self { edges: 30_000, crossings: 40_000, pairs: 30_000_000 };

    /// Takes off what combining these paths is; whether there was so much.
    pub(crate) fn takes(&mut self, paths: impl Iterator<Item = BezPath>) -> bool {
        self.counted(paths).is_some()
    }

    fn counted(&mut self, paths: impl Iterator<Item = BezPath>) -> Option<()> {
        let mut edges: Vec<[[f64; 2]; 2]> = Vec::new();
        for contour in paths.flat_map(|path| contours(&path)) {
            self.edges = self.edges.checked_sub(contour.len())?;
            edges.extend((0..contour.len()).map(|at| [contour[at], contour[(at + 1) % contour.len()]]));
        }
        // From left to right, only those are compared that lie beside each other.
        edges.sort_by(|a, b| left(a).total_cmp(&left(b)));
        for (at, edge) in edges.iter().enumerate() {
            let right = edge[0][0].max(edge[1][0]);
            for other in edges[at + 1..].iter().take_while(|other| left(other) <= right) {
                self.pairs = self.pairs.checked_sub(1)?;
                self.crossings = self.crossings.checked_sub(usize::from(cross(edge, other)))?;
            }
        }
        Some(())
    }
}

fn left(edge: &[[f64; 2]; 2]) -> f64 {
    edge[0][0].min(edge[1][0])
}

/// Whether two edges cross within both.
fn cross(a: &[[f64; 2]; 2], b: &[[f64; 2]; 2]) -> bool {
    let side = |edge: &[[f64; 2]; 2], p: [f64; 2]| {
        (edge[1][0] - edge[0][0]) * (p[1] - edge[0][1]) - (edge[1][1] - edge[0][1]) * (p[0] - edge[0][0])
    };
    side(a, b[0]) * side(a, b[1]) < 0.0 && side(b, a[0]) * side(b, a[1]) < 0.0
}

fn path_of(contours: Vec<Contour>) -> BezPath {
    let mut out = BezPath::new();
    for contour in contours {
        for (i, [x, y]) in contour.into_iter().enumerate() {
            let point = Point::new(x, y);
            if i == 0 { out.move_to(point) } else { out.line_to(point) }
        }
        out.close_path();
    }
    out
}

fn flat(shapes: Vec<Vec<Contour>>) -> Vec<Contour> {
    shapes.into_iter().flatten().collect()
}

fn contours(path: &BezPath) -> Vec<Contour> {
    let mut out: Vec<Contour> = Vec::new();
    kurbo::flatten(path.iter(), 0.02, |element| match element {
        PathEl::MoveTo(p) => out.push(vec![[p.x, p.y]]),
        PathEl::LineTo(p) => {
            if let Some(contour) = out.last_mut() {
                contour.push([p.x, p.y]);
            }
        }
        PathEl::QuadTo(..) | PathEl::CurveTo(..) | PathEl::ClosePath => {}
    });
    out.retain(|contour| contour.len() >= 3);
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use kurbo::{Circle, ParamCurveNearest as _, Rect, Shape as _};

    #[test]
    fn what_is_grown_reaches_as_far_on_all_sides_and_small_holes_close() {
        let mut ring = Circle::new((50.0, 50.0), 30.0).to_path(0.01);
        ring.extend(Circle::new((50.0, 50.0), 4.0).to_path(0.01).reverse_subpaths());
        let wide = grown(&ring, 6.0);
        assert!((wide.area().abs() - std::f64::consts::PI * 36.0 * 36.0).abs() < 25.0, "{}", wide.area());
        let box_ = Rect::new(0.0, 0.0, 40.0, 20.0);
        let wide = grown(&box_.to_path(0.01), 5.0);
        let rounded = 50.0 * 30.0 - (4.0 - std::f64::consts::PI) * 25.0;
        assert!((wide.area().abs() - rounded).abs() < 2.0, "{}", wide.area());
        for at in wide.segments().map(|segment| kurbo::ParamCurve::eval(&segment, 0.5)) {
            let far =
                box_.to_path(0.01).segments().map(|edge| edge.nearest(at, 1e-6).distance_sq).fold(f64::MAX, f64::min);
            assert!((far.sqrt() - 5.0).abs() < 0.05, "{at:?} is {} away", far.sqrt());
        }
    }

    #[test]
    fn what_is_united_is_in_any() {
        let a = Rect::new(0.0, 0.0, 10.0, 10.0).to_path(0.01);
        let both = united([a.clone(), Rect::new(5.0, 5.0, 15.0, 15.0).to_path(0.01)].into_iter());
        assert!((both.area().abs() - 175.0).abs() < 1e-3);
        assert!((united(std::iter::once(a)).area().abs() - 100.0).abs() < 1e-3);
    }
}
