//! Lines to lay things out by. They are never part of any output.

use crate::Fault;
use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Length, Rect, Size};

/// A straight line across the sheet.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct GuideLine {
    /// Stands upright instead of lying.
    pub upright: bool,
    /// Distance from the left or the top edge.
    pub at: Length,
}

/// Margins, columns, rows and single lines of a piece.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields, rename_all = "camelCase")]
pub struct Guides {
    /// Left, top, right, bottom.
    pub margins: [Length; 4],
    /// Columns between the margins; 0 and 1 show none.
    pub columns: u8,
    /// Room between columns.
    pub column_gutter: Length,
    /// Rows between the margins; 0 and 1 show none.
    pub rows: u8,
    /// Room between rows.
    pub row_gutter: Length,
    /// Single lines.
    pub lines: Vec<GuideLine>,
    /// Width of the squares of a grid over the whole sheet; nothing is none.
    pub grid: Option<Length>,
}

impl Guides {
    /// Most single lines.
    pub const MOST_LINES: usize = 100;

    /// Why they cannot be kept on a sheet of a size, if so.
    #[must_use]
    pub fn fault(&self, sheet: Size) -> Option<Fault> {
        let [left, top, right, bottom] = self.margins;
        if self.margins.iter().any(|margin| margin.raw() < 0)
            || !(sheet.w - left - right).is_positive()
            || !(sheet.h - top - bottom).is_positive()
        {
            return Some(Fault::Margins);
        }
        if self.columns > 48 || self.rows > 48 || self.column_gutter.raw() < 0 || self.row_gutter.raw() < 0 {
            return Some(Fault::Columns);
        }
        let room =
            |count: u8, gutter: Length, whole: Length| count < 2 || gutter.raw() * i64::from(count - 1) < whole.raw();
        if !room(self.columns, self.column_gutter, sheet.w - left - right)
            || !room(self.rows, self.row_gutter, sheet.h - top - bottom)
        {
            return Some(Fault::Gutters);
        }
        if self.lines.len() > Self::MOST_LINES {
            return Some(Fault::GuideLines);
        }
        let shortest = sheet.w.max(sheet.h).raw() / 500;
        self.grid.is_some_and(|grid| grid.raw() <= 0 || grid.raw() < shortest).then_some(Fault::Grid)
    }

    /// The box between the margins.
    #[must_use]
    pub fn inside(&self, sheet: Size) -> Rect {
        let [left, top, right, bottom] = self.margins;
        Rect::new(left, top, sheet.w - left - right, sheet.h - top - bottom)
    }

    /// Where columns begin and end: width = (room - (n - 1) gutter) / n. Empty for fewer than two.
    #[must_use]
    pub fn column_edges(&self, sheet: Size) -> Vec<(Length, Length)> {
        let inside = self.inside(sheet);
        edges(inside.x, inside.w, self.columns, self.column_gutter)
    }

    /// Where rows begin and end. Empty for fewer than two.
    #[must_use]
    pub fn row_edges(&self, sheet: Size) -> Vec<(Length, Length)> {
        let inside = self.inside(sheet);
        edges(inside.y, inside.h, self.rows, self.row_gutter)
    }
}

fn edges(from: Length, room: Length, count: u8, gutter: Length) -> Vec<(Length, Length)> {
    if count < 2 {
        return Vec::new();
    }
    let n = i64::from(count);
    let free = room.raw() - gutter.raw() * (n - 1);
    // Each edge is rounded by itself, so that the last one ends exactly at the margin.
    let edge = |i: i64, extra: i64| {
        Length::from_raw(from.raw() + (free * (i + extra) + n / 2).div_euclid(n) + gutter.raw() * i)
    };
    (0..n).map(|i| (edge(i, 0), edge(i, 1))).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn three_columns_on_a4_are_as_wide_as_the_trade_reckons() {
        // (595.28 - 24 - 20) / 3 = 183.76 pt
        let sheet = Size { w: Length::mm(210.0), h: Length::mm(297.0) };
        let guides =
            Guides { margins: [Length::pt(12.0); 4], columns: 3, column_gutter: Length::pt(10.0), ..Guides::default() };
        let columns = guides.column_edges(sheet);
        assert!(columns.iter().all(|(a, b)| ((*b - *a).to_pt() - 183.76).abs() < 0.01));
    }

    proptest! {
        #[test]
        fn columns_fill_the_room_and_keep_their_gutters(w in 100i64..9_000_000, n in 2u8..48, gutter in 0i64..2_000) {
            let sheet = Size { w: Length::from_raw(w + 100_000), h: Length::inches(1.0) };
            let guides = Guides { columns: n, column_gutter: Length::from_raw(gutter), ..Guides::default() };
            let columns = guides.column_edges(sheet);
            prop_assert_eq!(columns[0].0, Length::ZERO);
            prop_assert_eq!(columns.last().unwrap().1, sheet.w);
            for pair in columns.windows(2) {
                prop_assert!(((pair[1].0 - pair[0].1).raw() - gutter).abs() <= 1);
                prop_assert!(((pair[1].1 - pair[1].0).raw() - (pair[0].1 - pair[0].0).raw()).abs() <= 1);
            }
        }
    }
}
