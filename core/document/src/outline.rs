//! The outlines of shapes and frames.

use kurbo::{Affine, BezPath, Shape as _};
use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Angle, Length, Ratio};

use crate::combine::{Combine, Work, combined};
use crate::{Fault, Hand};

const TOLERANCE: f64 = 0.01;

/// The outline of a shape or of the frame of a picture, fitted to the item's box.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum Outline {
    /// A rectangle; the radius is held to half the shorter side.
    Rect {
        /// Corner radius.
        radius: Length,
    },
    /// A rectangle with a radius for each corner; radii that meet are held to the side they share.
    Corners {
        /// Upper left, upper right, lower right, lower left.
        radii: [Length; 4],
    },
    /// An ellipse touching the four sides.
    Ellipse,
    /// A doorway: upright sides and a half-round top.
    Arch,
    /// Points around an ellipse.
    Star {
        /// 3 to 120 points.
        points: u8,
        /// Depth of the notches as a fraction of the radius.
        depth: Ratio,
    },
    /// Straight sides between points around an ellipse, the first at the top.
    Polygon {
        /// 3 to 60 corners.
        points: u8,
    },
    /// A closed ring; its hole is clear.
    Ring {
        /// Width of the band as a fraction of the radius.
        thickness: Ratio,
    },
    /// Part of a ring, or with full thickness a slice.
    Sector {
        /// Where it begins, clockwise from the top.
        start: Angle,
        /// How far it goes on, more than 0 and less than 360 degrees.
        sweep: Angle,
        /// Width of the band as a fraction of the radius.
        thickness: Ratio,
    },
    /// A block arrow to the right.
    Arrow {
        /// Length of the head as a fraction of the height, held to the width.
        head: Ratio,
        /// Height of the shaft as a fraction of the height.
        shaft: Ratio,
    },
    /// A speech panel with a tail at the lower left.
    Speech {
        /// Height of the tail as a fraction of the height.
        tail: Ratio,
    },
    /// A ribbon with notched ends.
    Ribbon {
        /// Depth of the notches as a fraction of the height.
        notch: Ratio,
    },
    /// A ticket with half-round bites at its sides.
    Ticket {
        /// Radius of the bites as a fraction of the height.
        bite: Ratio,
    },
    /// A soft, uneven round; every number gives another, always the same one.
    Blob {
        /// Which.
        seed: u16,
    },
    /// A strip with torn edges above and below.
    Torn {
        /// Which tear.
        seed: u16,
        /// Depth of the tear as a fraction of the height.
        depth: Ratio,
    },
    /// Other outlines, combined. They stay what they are and can be taken apart again.
    Combined {
        /// How.
        how: Combine,
        /// 2 to 100 of them, back to front.
        parts: Vec<CombinedPart>,
    },
    /// A straight line through the middle from left to right; it has a stroke and no fill.
    Line,
    /// Lines drawn by hand.
    Hand {
        /// The lines.
        hand: Hand,
    },
    /// Drawn curves, stretched from their own box to the item's.
    Path {
        /// SVG path data.
        data: String,
        /// Width of the box the data was drawn in.
        width: u32,
        /// Height of the box the data was drawn in.
        height: u32,
    },
}

impl Outline {
    /// A plain rectangle.
    pub const RECT: Self = Self::Rect { radius: Length::ZERO };

    /// Why it cannot be drawn, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        match self {
            Self::Rect { radius } if radius.raw() < 0 => Some(Fault::NegativeRadius),
            Self::Corners { radii } if radii.iter().any(|radius| radius.raw() < 0) => Some(Fault::NegativeRadius),
            Self::Hand { hand } => hand.fault(),
            Self::Star { points, depth } if *points < 3 || *points > 120 || !depth.is_fraction() => Some(Fault::Star),
            Self::Polygon { points } if !(3..=60).contains(points) => Some(Fault::Polygon),
            Self::Sector { sweep, .. } if !(sweep.to_degrees() > 0.0 && sweep.to_degrees() < 360.0) => {
                Some(Fault::Slice)
            }
            Self::Ring { thickness: share }
            | Self::Sector { thickness: share, .. }
            | Self::Speech { tail: share }
            | Self::Ribbon { notch: share }
            | Self::Ticket { bite: share }
            | Self::Torn { depth: share, .. }
                if !share.is_fraction() =>
            {
                Some(Fault::ShapeDepth)
            }
            Self::Arrow { head, shaft } if !(0.0..=4.0).contains(&head.get()) || !shaft.is_fraction() => {
                Some(Fault::ArrowHead)
            }
            Self::Combined { parts, .. } if !(2..=100).contains(&parts.len()) => Some(Fault::CombinedCount),
            Self::Combined { parts, .. } => {
                let nested = |part: &CombinedPart| part.outline.depth() >= Self::DEEPEST;
                if parts.iter().any(nested) {
                    Some(Fault::CombinedDepth)
                } else {
                    parts.iter().find_map(|part| part.outline.fault())
                }
            }
            Self::Path { width: 0, .. } | Self::Path { height: 0, .. } => Some(Fault::DrawnBox),
            Self::Path { data, .. } if data.len() > 200_000 => Some(Fault::DrawnLength),
            Self::Path { data, .. } if BezPath::from_svg(data).is_err() => Some(Fault::DrawnData),
            _ => None,
        }
    }

    /// Deepest nesting of combined outlines.
    const DEEPEST: usize = 6;

    fn depth(&self) -> usize {
        if let Self::Combined { parts, .. } = self {
            1 + parts.iter().map(|part| part.outline.depth()).max().unwrap_or(0)
        } else {
            0
        }
    }

    /// Whether combining its parts, and theirs, takes so long that it holds up whoever waits: more than about a tenth of a second.
    #[must_use]
    pub fn is_costly(&self) -> bool {
        !self.is_within(&mut Work::MOST.clone())
    }

    fn is_within(&self, work: &mut Work) -> bool {
        /// A box of usual size, in CSS pixels: outlines are rounder in larger ones, but cross as often.
        const BOX: f64 = 600.0;
        let Self::Combined { parts, .. } = self else { return true };
        parts.iter().all(|part| part.outline.is_within(work))
            && work.takes(parts.iter().map(|part| part.path(BOX, BOX, 1.0)))
    }

    /// The outline in a box of `w` by `h` CSS pixels from the origin; `detail` scales its stored lengths.
    /// An unreadable drawn outline falls back to its box.
    #[must_use]
    pub fn path(&self, w: f64, h: f64, detail: f64) -> BezPath {
        // A box may be turned inside out by what it is placed in; then there is nothing of it.
        let (w, h) = (w.max(0.0), h.max(0.0));
        let frame = kurbo::Rect::new(0.0, 0.0, w, h);
        match self {
            Self::Combined { how, parts } => combined(*how, parts.iter().map(|part| part.path(w, h, detail))),
            Self::Rect { radius } => {
                let radius = (radius.to_css_px() * detail).clamp(0.0, w.min(h) / 2.0);
                if radius > 0.0 { frame.to_rounded_rect(radius).to_path(TOLERANCE) } else { frame.to_path(TOLERANCE) }
            }
            Self::Corners { radii } => {
                let [a, b, c, d] = radii.map(|radius| radius.to_css_px() * detail);
                // As in CSS: where two radii ask for more than the side they share, all shrink alike.
                let room = |length: f64, sum: f64| if sum > length { length / sum } else { 1.0 };
                let share = room(w, a + b).min(room(w, c + d)).min(room(h, b + c)).min(room(h, d + a));
                frame.to_rounded_rect((a * share, b * share, c * share, d * share)).to_path(TOLERANCE)
            }
            Self::Line => {
                let mut path = BezPath::new();
                path.move_to((0.0, h / 2.0));
                path.line_to((w, h / 2.0));
                path
            }
            Self::Hand { hand } => hand.path(w, h, detail),
            Self::Ellipse => kurbo::Ellipse::from_rect(frame).to_path(TOLERANCE),
            Self::Arch => {
                let rise = (w / 2.0).min(h);
                let dome =
                    kurbo::Arc::new((w / 2.0, rise), (w / 2.0, rise), std::f64::consts::PI, std::f64::consts::PI, 0.0);
                let mut path = BezPath::new();
                path.move_to((0.0, h));
                path.line_to((0.0, rise));
                path.extend(dome.append_iter(TOLERANCE));
                path.line_to((w, h));
                path.close_path();
                path
            }
            Self::Star { points, depth } => {
                let count = usize::from(*points) * 2;
                let inner = 1.0 - depth.get();
                let mut path = BezPath::new();
                for i in 0..count {
                    let angle = std::f64::consts::TAU * i as f64 / count as f64 - std::f64::consts::FRAC_PI_2;
                    let reach = if i % 2 == 0 { 1.0 } else { inner };
                    let at = (w / 2.0 * (1.0 + reach * angle.cos()), h / 2.0 * (1.0 + reach * angle.sin()));
                    if i == 0 { path.move_to(at) } else { path.line_to(at) }
                }
                path.close_path();
                path
            }
            Self::Polygon { points } => crate::shapes::polygon(w, h, *points),
            Self::Ring { thickness } => crate::shapes::ring(w, h, thickness.get()),
            Self::Sector { start, sweep, thickness } => {
                crate::shapes::sector(w, h, start.to_radians(), sweep.to_radians(), thickness.get())
            }
            Self::Arrow { head, shaft } => crate::shapes::arrow(w, h, head.get(), shaft.get()),
            Self::Speech { tail } => crate::shapes::speech(w, h, tail.get()),
            Self::Ribbon { notch } => crate::shapes::ribbon(w, h, notch.get()),
            Self::Ticket { bite } => crate::shapes::ticket(w, h, bite.get()),
            Self::Blob { seed } => crate::shapes::blob(w, h, *seed),
            Self::Torn { seed, depth } => crate::shapes::torn(w, h, *seed, depth.get()),
            Self::Path { data, width, height } => match BezPath::from_svg(data) {
                Ok(path) => {
                    Affine::scale_non_uniform(w / f64::from((*width).max(1)), h / f64::from((*height).max(1))) * path
                }
                Err(_) => frame.to_path(TOLERANCE),
            },
        }
    }
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

impl CombinedPart {
    /// Its path in a whole of `w` by `h`.
    fn path(&self, w: f64, h: f64, detail: f64) -> BezPath {
        let [x, y, pw, ph] = self.at.map(Ratio::get);
        let (x, y, pw, ph) = (x * w, y * h, pw * w, ph * h);
        let mirror = if self.flip { Affine::new([-1.0, 0.0, 0.0, 1.0, pw, 0.0]) } else { Affine::IDENTITY };
        let turn = Affine::rotate_about(self.turn.to_radians(), (pw / 2.0, ph / 2.0));
        Affine::translate((x, y)) * turn * mirror * self.outline.path(pw, ph, detail)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use kurbo::Point;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn outlines_fill_their_box(w in 1.0f64..2000.0, h in 1.0f64..2000.0, points in 3u8..60, radius in 0f64..500.0) {
            let even = points & !1;
            for outline in [Outline::Rect { radius: Length::css_px(radius) }, Outline::Ellipse, Outline::Arch, Outline::Star { points: even.max(4), depth: Ratio::HALF },
                Outline::Path { data: "M0 0H20V10H0Z".into(), width: 20, height: 10 }, Outline::Ring { thickness: Ratio::HALF }, Outline::Arrow { head: Ratio::ONE, shaft: Ratio::HALF },
                Outline::Speech { tail: Ratio::new(0.2) }, Outline::Ribbon { notch: Ratio::HALF }, Outline::Ticket { bite: Ratio::new(0.2) }, Outline::Blob { seed: u16::from(points) }, Outline::Torn { seed: u16::from(points), depth: Ratio::new(0.2) }] {
                let bounds = outline.path(w, h, 1.0).bounding_box();
                prop_assert!(bounds.x0 > -0.02 && bounds.y0 > -0.02 && bounds.x1 < w + 0.02 && bounds.y1 < h + 0.02, "{outline:?}: {bounds:?} in {w} x {h}");
                prop_assert!(bounds.height() > h * 0.98, "{outline:?}: {bounds:?} in {w} x {h}");
            }
        }
    }

    #[test]
    fn shapes_cover_what_they_should() {
        let area = |outline: &Outline| outline.path(100.0, 100.0, 1.0).area().abs();
        let circle = std::f64::consts::PI * 2_500.0;
        let near = |a: f64, b: f64| (a - b).abs() < b * 0.01;
        assert!(near(area(&Outline::Ring { thickness: Ratio::HALF }), circle * 0.75), "a ring has a hole");
        let slice = |sweep: f64, thickness: Ratio| Outline::Sector {
            start: Angle::degrees(30.0),
            sweep: Angle::degrees(sweep),
            thickness,
        };
        assert!(near(area(&slice(90.0, Ratio::ONE)), circle / 4.0));
        assert!(near(area(&slice(120.0, Ratio::HALF)), circle / 4.0));
        assert!(near(area(&Outline::Polygon { points: 4 }), 5_000.0));
        assert!(near(area(&Outline::Arrow { head: Ratio::HALF, shaft: Ratio::HALF }), 2_500.0 + 2_500.0));
        assert!(near(area(&Outline::Ribbon { notch: Ratio::HALF }), 10_000.0 - 2.0 * 2_500.0));
        assert!(near(area(&Outline::Ticket { bite: Ratio::new(0.2) }), 10_000.0 - std::f64::consts::PI * 400.0));
        assert_eq!(Outline::Blob { seed: 7 }.path(50.0, 40.0, 1.0), Outline::Blob { seed: 7 }.path(50.0, 40.0, 1.0));
        assert_ne!(Outline::Blob { seed: 7 }.path(50.0, 40.0, 1.0), Outline::Blob { seed: 8 }.path(50.0, 40.0, 1.0));
    }

    #[test]
    fn each_corner_has_its_own_radius_and_shares_the_side() {
        let corners = |radii: [f64; 4]| Outline::Corners { radii: radii.map(Length::css_px) };
        let area = |outline: &Outline| outline.path(100.0, 60.0, 1.0).area().abs();
        let cut = |radius: f64| radius * radius * (1.0 - std::f64::consts::PI / 4.0);
        assert!((area(&corners([10.0, 0.0, 20.0, 5.0])) - (6_000.0 - cut(10.0) - cut(20.0) - cut(5.0))).abs() < 1.0);
        assert!((area(&corners([200.0; 4])) - (6_000.0 - 4.0 * cut(30.0))).abs() < 1.0, "radii are held to the sides");
        assert!(corners([0.0, -1.0, 0.0, 0.0]).fault().is_some());
    }

    #[test]
    fn unsound_outlines_say_why() {
        assert!(Outline::Polygon { points: 2 }.fault().is_some());
        assert!(Outline::Ring { thickness: Ratio::new(1.2) }.fault().is_some());
        assert!(
            Outline::Sector { start: Angle::ZERO, sweep: Angle::degrees(360.0), thickness: Ratio::ONE }
                .fault()
                .is_some()
        );
        assert!(Outline::Star { points: 2, depth: Ratio::HALF }.fault().is_some());
        assert!(Outline::Path { data: "M0 0 nonsense".into(), width: 1, height: 1 }.fault().is_some());
        assert!(Outline::Path { data: "M0 0H1V1Z".into(), width: 0, height: 1 }.fault().is_some());
        assert_eq!(Outline::Arch.fault(), None);
    }

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

    fn combined_path(how: Combine, parts: Vec<CombinedPart>) -> BezPath {
        Outline::Combined { how, parts }.path(400.0, 300.0, 1.0)
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(48))]

        /// The laws of areas: what two unite is what they have alone and in common.
        #[test]
        fn areas_add_up(a in any_part(), b in any_part()) {
            let area = |how| combined_path(how, vec![a.clone(), b.clone()]).area().abs();
            let alone = |part: &CombinedPart| combined_path(Combine::Unite, vec![part.clone()]).area().abs();
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
                let own = part.path(400.0, 300.0, 1.0);
                let near = own.segments().any(|segment| kurbo::ParamCurveNearest::nearest(&segment, point, 0.01).distance_sq < 0.1);
                (own.winding(point) != 0, near)
            };
            let ((in_a, near_a), (in_b, near_b)) = (within(&a), within(&b));
            prop_assume!(!near_a && !near_b);
            let is_in = |how| combined_path(how, vec![a.clone(), b.clone()]).winding(point) != 0;
            prop_assert_eq!(is_in(Combine::Unite), in_a || in_b);
            prop_assert_eq!(is_in(Combine::Intersect), in_a && in_b);
            prop_assert_eq!(is_in(Combine::Subtract), in_a && !in_b);
            prop_assert_eq!(is_in(Combine::Exclude), in_a != in_b);
        }
    }
}
