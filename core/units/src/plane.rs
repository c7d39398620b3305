//! Points, sizes and rectangles of exact lengths.

use kurbo::Affine;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

use crate::{Angle, Length};

/// A point; y runs downward from the top of the sheet.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
pub struct Point {
    /// From the left edge of the finished sheet.
    pub x: Length,
    /// From the top edge of the finished sheet.
    pub y: Length,
}

/// Width and height.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
pub struct Size {
    /// Width.
    pub w: Length,
    /// Height.
    pub h: Length,
}

impl Size {
    /// From width and height.
    #[must_use]
    pub const fn new(w: Length, h: Length) -> Self {
        Self { w, h }
    }

    /// Width divided by height; 1 where there is no height.
    #[must_use]
    pub fn aspect(self) -> f64 {
        if self.h.is_positive() { self.w.raw() as f64 / self.h.raw() as f64 } else { 1.0 }
    }

    /// The side of the square of equal area: the one measure by which sheets of any shape compare.
    #[must_use]
    pub fn measure(self) -> Length {
        Length::from_raw((self.w.raw().max(0) as f64 * self.h.raw().max(0) as f64).sqrt().round() as i64)
    }

    /// Turned by a quarter.
    #[must_use]
    pub const fn turned(self) -> Self {
        Self { w: self.h, h: self.w }
    }
}

/// An upright rectangle.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
pub struct Rect {
    /// Left edge.
    pub x: Length,
    /// Top edge.
    pub y: Length,
    /// Width.
    pub w: Length,
    /// Height.
    pub h: Length,
}

impl Rect {
    /// From the left and top edge, width and height.
    #[must_use]
    pub const fn new(x: Length, y: Length, w: Length, h: Length) -> Self {
        Self { x, y, w, h }
    }

    /// The rectangle of a size at the origin.
    #[must_use]
    pub const fn of(size: Size) -> Self {
        Self { x: Length::ZERO, y: Length::ZERO, w: size.w, h: size.h }
    }

    /// Its size.
    #[must_use]
    pub const fn size(self) -> Size {
        Size { w: self.w, h: self.h }
    }

    /// Right edge.
    #[must_use]
    pub fn right(self) -> Length {
        self.x + self.w
    }

    /// Bottom edge.
    #[must_use]
    pub fn bottom(self) -> Length {
        self.y + self.h
    }

    /// Grown by `by` on every side; shrunk where it is negative.
    #[must_use]
    pub fn outset(self, by: Length) -> Self {
        Self { x: self.x - by, y: self.y - by, w: self.w + by + by, h: self.h + by + by }
    }

    /// The part of `self` at fractions of its width and height.
    #[must_use]
    pub fn part(self, x: f64, y: f64, w: f64, h: f64) -> Self {
        Self { x: self.x + self.w.scaled(x), y: self.y + self.h.scaled(y), w: self.w.scaled(w), h: self.h.scaled(h) }
    }

    /// Moved.
    #[must_use]
    pub fn moved(self, dx: Length, dy: Length) -> Self {
        Self { x: self.x + dx, y: self.y + dy, ..self }
    }

    /// Whether `other` lies within, edges included.
    #[must_use]
    pub fn contains(self, other: Self) -> bool {
        other.x >= self.x && other.y >= self.y && other.right() <= self.right() && other.bottom() <= self.bottom()
    }

    /// As a drawing rectangle in CSS pixels.
    #[must_use]
    pub fn to_css_px(self) -> kurbo::Rect {
        kurbo::Rect::from_origin_size(
            (self.x.to_css_px(), self.y.to_css_px()),
            (self.w.to_css_px(), self.h.to_css_px()),
        )
    }
}

/// An upright rectangle and how it is turned about its centre.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
pub struct Placement {
    /// The rectangle before turning.
    pub rect: Rect,
    /// Clockwise turn about the centre of the rectangle.
    pub turn: Angle,
    /// Mirrored left to right before turning.
    pub flip: bool,
}

impl Placement {
    /// Upright at a rectangle.
    #[must_use]
    pub const fn at(rect: Rect) -> Self {
        Self { rect, turn: Angle::ZERO, flip: false }
    }

    /// The map from the item's own box, in CSS pixels from its top left corner, to the sheet.
    #[must_use]
    pub fn transform(self) -> Affine {
        let r = self.rect.to_css_px();
        let about = kurbo::Vec2::new(r.width() / 2.0, r.height() / 2.0);
        let mirror = if self.flip { Affine::new([-1.0, 0.0, 0.0, 1.0, r.width(), 0.0]) } else { Affine::IDENTITY };
        Affine::translate(r.origin().to_vec2() + about)
            * Affine::rotate(self.turn.to_radians())
            * Affine::translate(-about)
            * mirror
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use kurbo::Point as Dot;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn turning_keeps_the_centre_and_the_size(x in -5000i64..5000, y in -5000i64..5000, w in 1i64..5000, h in 1i64..5000, turn in -720f64..720.0, flip: bool) {
            let px = |v: i64| Length::css_px(v as f64);
            let rect = Rect::new(px(x), px(y), px(w), px(h));
            let map = Placement { rect, turn: Angle::degrees(turn), flip }.transform();
            let centre = map * Dot::new(w as f64 / 2.0, h as f64 / 2.0);
            prop_assert!((centre - rect.to_css_px().center()).hypot() < 1e-6);
            let corners = (map * Dot::ZERO, map * Dot::new(w as f64, 0.0));
            prop_assert!(((corners.1 - corners.0).hypot() - w as f64).abs() < 1e-6);
            let side = if flip { -1.0 } else { 1.0 };
            prop_assert!((map.determinant() - side).abs() < 1e-9);
        }

        #[test]
        fn outset_and_back_is_the_same(x in -5000i64..5000, w in 0i64..5000, by in -900i64..900) {
            let raw = Length::from_raw;
            let rect = Rect::new(raw(x), raw(-x), raw(w), raw(w + 7));
            prop_assert_eq!(rect.outset(raw(by)).outset(raw(-by)), rect);
        }
    }

    #[test]
    fn measure_is_the_side_of_the_equal_square() {
        let size = Size::new(Length::inches(2.0), Length::inches(8.0));
        assert_eq!(size.measure(), Length::inches(4.0));
        assert_eq!(size.turned().aspect(), 4.0);
    }
}
