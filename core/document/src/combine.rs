//! Areas made of others: united, subtracted, intersected or excluded.

use i_overlay::core::fill_rule::FillRule;
use i_overlay::core::overlay_rule::OverlayRule;
use i_overlay::float::single::SingleFloatOverlay as _;
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

/// A contour as corners.
type Contour = Vec<[f64; 2]>;

/// Paths combined. Curves become corners a fiftieth of a pixel from them.
pub(crate) fn combined(how: Combine, paths: impl Iterator<Item = BezPath>) -> BezPath {
    let mut all = paths.map(|path| contours(&path));
    let Some(first) = all.next() else { return BezPath::new() };
    let rule = match how {
        Combine::Unite => OverlayRule::Union,
        Combine::Subtract => OverlayRule::Difference,
        Combine::Intersect => OverlayRule::Intersect,
        Combine::Exclude => OverlayRule::Xor,
    };
    // Alone, an outline is cleaned of its own overlaps.
    let mut result = flat(first.overlay(&Vec::<Contour>::new(), OverlayRule::Subject, FillRule::NonZero));
    for next in all {
        let clean = flat(next.overlay(&Vec::<Contour>::new(), OverlayRule::Subject, FillRule::NonZero));
        result = flat(result.overlay(&clean, rule, FillRule::EvenOdd));
    }
    let mut out = BezPath::new();
    for contour in result {
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
