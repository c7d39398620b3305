//! A place on a sheet, and the place of what is printed on its back.

use kurbo::Affine;
use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Length, Rect, Size};

/// How a sheet comes to have its other side printed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum PaperTurn {
    /// Turned about its long edge, like a leaf of a book that stands upright.
    #[default]
    LongEdge,
    /// Turned about its short edge, like a leaf of a pad.
    ShortEdge,
}

/// How the back of a piece stands to its front.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum BackStands {
    /// Upright after the piece is turned about its left or right edge, like a card.
    #[default]
    HeadToHead,
    /// Upright after it is turned about its top or bottom edge, like a leaf of a pad.
    HeadToFoot,
}

/// Where a piece lies on a sheet.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Spot {
    /// Its trim, on the sheet.
    pub trim: Rect,
    /// Quarters by which it is turned clockwise, 0 to 3.
    pub quarters: u8,
}

impl Spot {
    /// Upright at a corner.
    #[must_use]
    pub const fn upright(x: Length, y: Length, size: Size) -> Self {
        Self { trim: Rect::new(x, y, size.w, size.h), quarters: 0 }
    }

    /// Turned clockwise by a quarter, its box at a corner.
    #[must_use]
    pub const fn turned(x: Length, y: Length, size: Size) -> Self {
        Self { trim: Rect::new(x, y, size.h, size.w), quarters: 1 }
    }

    /// Moved.
    #[must_use]
    pub fn moved(self, dx: Length, dy: Length) -> Self {
        Self { trim: self.trim.moved(dx, dy), ..self }
    }

    /// The size of the piece before it was turned.
    #[must_use]
    pub const fn size(&self) -> Size {
        let size = self.trim.size();
        if self.quarters % 2 == 1 { size.turned() } else { size }
    }

    /// From the trim of the piece, in CSS pixels from its top left corner, to the sheet.
    #[must_use]
    pub fn place(&self) -> Affine {
        let trim = self.trim.to_css_px();
        let (x, y, w, h) = (trim.x0, trim.y0, trim.width(), trim.height());
        Affine::new(match self.quarters % 4 {
            0 => [1.0, 0.0, 0.0, 1.0, x, y],
            1 => [0.0, 1.0, -1.0, 0.0, x + w, y],
            2 => [-1.0, 0.0, 0.0, -1.0, x + w, y + h],
            _ => [0.0, -1.0, 1.0, 0.0, x, y + h],
        })
    }

    /// Where the back of the piece lies on the other side of a sheet of a size, as that is seen: exactly behind the front.
    #[must_use]
    pub fn back(&self, paper: Size, turn: PaperTurn, stands: BackStands) -> Self {
        // A sheet that stands upright has its long edges left and right; one that lies has them above and below.
        let sideways = (paper.w <= paper.h) == (turn == PaperTurn::LongEdge);
        let mut trim = self.trim;
        if sideways {
            trim.x = paper.w - self.trim.right();
        } else {
            trim.y = paper.h - self.trim.bottom();
        }
        // Two mirrors make a turn: by none where both are about the same axis, else by a half; what was turned turns the other way.
        let half = if sideways == (stands == BackStands::HeadToHead) { 0 } else { 2 };
        Self { trim, quarters: (4 - self.quarters % 4 + half) % 4 }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use kurbo::Point as Dot;
    use proptest::prelude::*;

    proptest! {
        /// A pin through the sheet: what it meets of the front lies exactly behind what it meets of the back, seen through the paper.
        #[test]
        fn a_pin_through_the_sheet_meets_the_same_place_of_front_and_back(
            x in 0i64..400, y in 0i64..400, w in 10i64..200, h in 10i64..200, quarters in 0u8..4,
            (sheet_w, sheet_h) in prop_oneof![Just((800, 600)), Just((600, 800)), Just((700, 700))],
            long: bool, foot: bool, u in 0.0f64..1.0, v in 0.0f64..1.0,
        ) {
            let px = |v: i64| Length::css_px(v as f64);
            let spot = Spot { trim: Rect::new(px(x), px(y), px(w), px(h)), quarters };
            let paper = Size::new(px(sheet_w), px(sheet_h));
            let turn = if long { PaperTurn::LongEdge } else { PaperTurn::ShortEdge };
            let stands = if foot { BackStands::HeadToFoot } else { BackStands::HeadToHead };
            let back = spot.back(paper, turn, stands);
            prop_assert_eq!(back.size(), spot.size());
            // A place of the piece, from the top left corner of its front.
            let (pw, ph) = (spot.size().w.to_css_px(), spot.size().h.to_css_px());
            let on_front = Dot::new(u * pw, v * ph);
            let on_back = if foot { Dot::new(u * pw, (1.0 - v) * ph) } else { Dot::new((1.0 - u) * pw, v * ph) };
            let seen = spot.place() * on_front;
            let behind = back.place() * on_back;
            let upright = sheet_w <= sheet_h;
            let through = if upright == long { Dot::new(sheet_w as f64 - behind.x, behind.y) } else { Dot::new(behind.x, sheet_h as f64 - behind.y) };
            prop_assert!(seen.distance(through) < 1e-6, "{seen:?} {through:?}");
            prop_assert_eq!(back.back(paper, turn, stands), Spot { quarters: quarters % 4, ..spot });
        }

        #[test]
        fn a_piece_fills_its_trim_however_it_is_turned(w in 1i64..500, h in 1i64..500, quarters in 0u8..4) {
            let trim = Rect::new(Length::css_px(7.0), Length::css_px(9.0), Length::css_px(w as f64), Length::css_px(h as f64));
            let spot = Spot { trim, quarters };
            let size = spot.size();
            let area = kurbo::Rect::new(0.0, 0.0, size.w.to_css_px(), size.h.to_css_px());
            let laid = spot.place().transform_rect_bbox(area);
            let want = trim.to_css_px();
            prop_assert!((laid.x0 - want.x0).abs() + (laid.y1 - want.y1).abs() + (laid.x1 - want.x1).abs() < 1e-9);
            prop_assert!(spot.place().determinant() > 0.0);
        }
    }

    #[test]
    fn the_back_of_the_kth_card_in_a_row_is_in_the_mirrored_column() {
        let inch = Length::inches;
        let paper = Size::new(inch(11.0), inch(8.5));
        let card = Size::new(inch(2.0), inch(3.5));
        let fronts: Vec<Spot> =
            (0..5).map(|k| Spot::upright(inch(0.5 + 2.0 * f64::from(k)), inch(0.5), card)).collect();
        // Turned about the short edge, which of a sheet that lies stands left and right.
        for (k, front) in fronts.iter().enumerate() {
            let back = front.back(paper, PaperTurn::ShortEdge, BackStands::HeadToHead);
            assert_eq!((back.trim, back.quarters), (fronts[4 - k].trim, 0));
            assert_eq!(front.back(paper, PaperTurn::LongEdge, BackStands::HeadToHead).quarters, 2);
        }
        let turned = Spot::turned(inch(1.0), inch(1.0), card);
        assert_eq!(turned.trim.size(), card.turned());
        assert_eq!(turned.back(paper, PaperTurn::ShortEdge, BackStands::HeadToHead).quarters, 3);
        assert_eq!(turned.moved(inch(1.0), inch(2.0)).trim.y, inch(3.0));
    }
}
