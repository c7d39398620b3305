//! Words along a circle or an arc.

use std::f64::consts::{PI, TAU};

use kurbo::{Point, Vec2};
use vatman_document::Curve;

use crate::glyphs::{Caret, GlyphRun};

/// Measures of the straight line that is bent.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Straight {
    /// Length of the line.
    pub length: f64,
    /// Height of letters above the baseline.
    pub ascent: f64,
    /// Depth below it.
    pub descent: f64,
}

/// A curve ready to place letters on.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Bent {
    centre: Point,
    /// Of the baseline.
    radius: f64,
    /// Angle of the middle of the words, clockwise from the top.
    middle: f64,
    /// Letters stand with their heads to the centre, and run the other way.
    inward: bool,
    straight: Straight,
    /// Height of the box the bent line takes up.
    pub height: f64,
    /// Whether it is longer than there is room.
    pub spills: bool,
}

impl Bent {
    /// Bends a line in a box of `width` by `height` from the origin.
    pub fn new(curve: Curve, straight: Straight, width: f64, height: f64) -> Self {
        match curve {
            Curve::Circle { at, inward } => {
                let reach = width.min(height) / 2.0;
                // The letters stay inside the circle that the box holds.
                let radius = (reach - if inward { straight.descent } else { straight.ascent }).max(1e-3);
                let spills = straight.length > TAU * radius + 0.01;
                Self {
                    centre: Point::new(width / 2.0, height / 2.0),
                    radius,
                    middle: at.to_radians(),
                    inward,
                    straight,
                    height,
                    spills,
                }
            }
            Curve::Arc { bend } => {
                let bend = bend.to_radians();
                // Less than a hundredth of a degree is as good as straight, and keeps the radius finite.
                let turn = bend.abs().max(1e-4);
                let radius = straight.length.max(1e-3) / turn;
                let rise = radius * (1.0 - (turn / 2.0).min(PI).cos());
                let wide = 2.0 * radius * (turn / 2.0).min(PI / 2.0).sin();
                let body = straight.ascent + straight.descent;
                let centre = if bend >= 0.0 { straight.ascent + radius } else { straight.ascent + rise - radius };
                let middle = if bend >= 0.0 { 0.0 } else { PI };
                Self {
                    centre: Point::new(width / 2.0, centre),
                    radius,
                    middle,
                    inward: bend < 0.0,
                    straight,
                    height: body + rise,
                    spills: wide > width + 0.5,
                }
            }
        }
    }

    /// Where a point of the straight line at `s` from its beginning lies, and how far the line is turned there (radians, clockwise).
    fn at(&self, s: f64) -> (Point, f64) {
        let along = (s - self.straight.length / 2.0) / self.radius;
        let around = if self.inward { self.middle - along } else { self.middle + along };
        let point = self.centre + Vec2::new(around.sin(), -around.cos()) * self.radius;
        (point, if self.inward { around - PI } else { around })
    }

    /// Moves the glyphs of a line that begins at `x` with its baseline at `y` onto the curve.
    pub fn place(&self, runs: &mut [GlyphRun], x: f64, y: f64) {
        for glyph in runs.iter_mut().flat_map(|run| &mut run.glyphs) {
            let half = glyph.advance / 2.0;
            let (middle, turn) = self.at(glyph.x - x + half);
            let above = glyph.y - y;
            let (sin, cos) = turn.sin_cos();
            let origin = middle + Vec2::new(-half * cos - above * sin, -half * sin + above * cos);
            (glyph.x, glyph.y, glyph.turn) = (origin.x, origin.y, turn);
        }
    }

    /// A place of the caret that stood at `caret.x` in a line that begins at `x`.
    pub fn caret(&self, caret: Caret, x: f64) -> Caret {
        let (foot, turn) = self.at(caret.x - x);
        let lift = (self.straight.ascent - self.straight.descent) / 2.0;
        let middle = foot + Vec2::new(turn.sin(), -turn.cos()) * lift;
        let half = (self.straight.ascent + self.straight.descent) / 2.0;
        Caret { at: caret.at, x: middle.x, top: middle.y - half, bottom: middle.y + half, turn: turn.to_degrees() }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use vatman_units::Angle;

    proptest! {
        /// Whatever the bend, neighbouring places stay as far apart along the curve as they were along the line.
        #[test]
        fn lengths_along_the_curve_are_kept(bend in -330.0f64..330.0, length in 10.0f64..900.0, s in 0.0f64..1.0) {
            let straight = Straight { length, ascent: 20.0, descent: 5.0 };
            let bent = Bent::new(Curve::Arc { bend: Angle::degrees(bend) }, straight, 400.0, 300.0);
            let step = length / 1_000.0;
            let (a, turn) = bent.at(s * length);
            let (b, _) = bent.at(s * length + step);
            prop_assert!((a.distance(b) - step).abs() < step * 1e-2);
            // The line runs where its letters look: to their right.
            let along = (b - a).normalize();
            prop_assert!((along.x - turn.cos()).abs() < 0.02 && (along.y - turn.sin()).abs() < 0.02);
        }

        /// Heads of letters reach the circle of the box and no letter leaves it.
        #[test]
        fn words_stay_inside_their_circle(at in -180.0f64..180.0, inward: bool, s in 0.0f64..1.0) {
            let straight = Straight { length: 300.0, ascent: 20.0, descent: 5.0 };
            let bent = Bent::new(Curve::Circle { at: Angle::degrees(at), inward }, straight, 240.0, 200.0);
            let (foot, turn) = bent.at(s * 300.0);
            let up = Vec2::new(turn.sin(), -turn.cos());
            let centre = Point::new(120.0, 100.0);
            let far = (foot + up * 20.0).distance(centre).max((foot - up * 5.0).distance(centre));
            prop_assert!((far - 100.0).abs() < 1e-6);
        }
    }
}
