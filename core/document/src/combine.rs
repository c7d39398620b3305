//! Outlines made of others: united, subtracted, intersected or excluded, and still made of them.

use i_overlay::core::fill_rule::FillRule;
use i_overlay::core::overlay_rule::OverlayRule;
use i_overlay::float::single::SingleFloatOverlay as _;
use kurbo::{Affine, BezPath, PathEl, Point};
use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Angle, Ratio};

use crate::Outline;

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

/// One of the outlines that are combined.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct CombinedPart {
    /// Its outline.
    pub outline: Outline,
    /// Left, top, width and height of its box as fractions of the whole.
    pub at: [Ratio; 4],
    /// Clockwise turn about its middle.
    pub turn: Angle,
    /// Mirrored left to right.
    pub flip: bool,
}

/// A contour as corners.
type Contour = Vec<[f64; 2]>;

/// The outline of parts combined, in a box of `w` by `h` from the origin. Curves become corners a fiftieth of a pixel from them.
pub(crate) fn path(how: Combine, parts: &[CombinedPart], w: f64, h: f64, detail: f64) -> BezPath {
    let mut all = parts.iter().map(|part| contours(&placed(part, w, h, detail)));
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

fn placed(part: &CombinedPart, w: f64, h: f64, detail: f64) -> BezPath {
    let [x, y, pw, ph] = part.at.map(Ratio::get);
    let (x, y, pw, ph) = (x * w, y * h, pw * w, ph * h);
    let mirror = if part.flip { Affine::new([-1.0, 0.0, 0.0, 1.0, pw, 0.0]) } else { Affine::IDENTITY };
    let turn = Affine::rotate_about(part.turn.to_radians(), (pw / 2.0, ph / 2.0));
    Affine::translate((x, y)) * turn * mirror * part.outline.path(pw, ph, detail)
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
    use kurbo::Shape as _;
    use proptest::prelude::*;

    fn part(outline: Outline, at: [f64; 4], turn: f64) -> CombinedPart {
        CombinedPart { outline, at: at.map(Ratio::new), turn: Angle::degrees(turn), flip: false }
    }

    fn any_part() -> impl Strategy<Value = CombinedPart> {
        let outline = prop_oneof![
            Just(Outline::RECT),
            Just(Outline::Ellipse),
            Just(Outline::Star { points: 7, depth: Ratio::HALF }),
            Just(Outline::Ring { thickness: Ratio::HALF }),
            Just(Outline::Blob { seed: 3 })
        ];
        (outline, 0.0f64..0.5, 0.0f64..0.5, 0.2f64..0.5, 0.2f64..0.5, 0.0f64..360.0)
            .prop_map(|(outline, x, y, w, h, turn)| part(outline, [x, y, w, h], turn))
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(48))]

        /// The laws of areas: what two unite is what they have alone and in common.
        #[test]
        fn areas_add_up(a in any_part(), b in any_part()) {
            let area = |how| path(how, &[a.clone(), b.clone()], 400.0, 300.0, 1.0).area().abs();
            let alone = |part: &CombinedPart| path(Combine::Unite, std::slice::from_ref(part), 400.0, 300.0, 1.0).area().abs();
            let (unite, common, less, odd) = (area(Combine::Unite), area(Combine::Intersect), area(Combine::Subtract), area(Combine::Exclude));
            prop_assert!((unite - (alone(&a) + alone(&b) - common)).abs() < 2.0);
            prop_assert!((less - (alone(&a) - common)).abs() < 2.0);
            prop_assert!((odd - (unite - common)).abs() < 2.0);
        }

        /// A point is in the result as the two say.
        #[test]
        fn points_are_where_the_parts_say(a in any_part(), b in any_part(), x in 1.0f64..399.0, y in 1.0f64..299.0) {
            let point = Point::new(x, y);
            let within = |part: &CombinedPart| {
                let own = placed(part, 400.0, 300.0, 1.0);
                let near = own.segments().any(|segment| kurbo::ParamCurveNearest::nearest(&segment, point, 0.01).distance_sq < 0.1);
                (own.winding(point) != 0, near)
            };
            let ((in_a, near_a), (in_b, near_b)) = (within(&a), within(&b));
            prop_assume!(!near_a && !near_b);
            let is_in = |how| path(how, &[a.clone(), b.clone()], 400.0, 300.0, 1.0).winding(point) != 0;
            prop_assert_eq!(is_in(Combine::Unite), in_a || in_b);
            prop_assert_eq!(is_in(Combine::Intersect), in_a && in_b);
            prop_assert_eq!(is_in(Combine::Subtract), in_a && !in_b);
            prop_assert_eq!(is_in(Combine::Exclude), in_a != in_b);
        }
    }
}
