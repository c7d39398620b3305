//! Grids a blank sheet can begin with, in proportion to its format.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{Format, GuideLine, Guides};
use vatman_units::Length;

/// A grid to lay things out by.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Grid {
    /// Margins alone.
    Margins,
    /// Lines at a third and two thirds each way.
    Thirds,
    /// Columns between margins, more of them the wider the sheet is for its height.
    Columns,
    /// Columns and rows whose fields are nearly square.
    Fields,
}

/// A margin is this share of the shorter side, and never less than the safe area.
const MARGIN: f64 = 0.07;
/// The gutter between columns, as a share of the margin.
const GUTTER: f64 = 0.4;

impl Grid {
    /// All of them, with what each is called.
    pub const ALL: [(Self, &'static str); 4] = [
        (Self::Margins, "Margins"),
        (Self::Thirds, "Thirds"),
        (Self::Columns, "Columns"),
        (Self::Fields, "Columns and rows"),
    ];

    /// Its lines on a sheet of a format.
    #[must_use]
    pub fn guides(self, format: &Format) -> Guides {
        let size = format.size;
        let short = size.w.min(size.h);
        let margin = short.scaled(MARGIN).max(format.safe).min(short.scaled(0.3));
        let margins = [margin; 4];
        let gutter = margin.scaled(GUTTER);
        let across = match size.aspect() {
            aspect if aspect < 0.5 => 2,
            aspect if aspect < 0.85 => 4,
            aspect if aspect < 1.5 => 6,
            aspect if aspect < 3.0 => 8,
            _ => 12,
        };
        match self {
            Self::Margins => Guides { margins, ..Guides::default() },
            Self::Thirds => {
                let third = |whole: Length, n: f64| whole.scaled(n / 3.0);
                let lines = [1.0, 2.0].into_iter().flat_map(|n| {
                    [
                        GuideLine { upright: true, at: third(size.w, n) },
                        GuideLine { upright: false, at: third(size.h, n) },
                    ]
                });
                Guides { lines: lines.collect(), ..Guides::default() }
            }
            Self::Columns => Guides { margins, columns: across, column_gutter: gutter, ..Guides::default() },
            Self::Fields => {
                let columns = across.div_ceil(2).max(2);
                let inside = |whole: Length| (whole - margin - margin).to_css_px();
                let gap = gutter.to_css_px();
                let field = (inside(size.w) - gap * f64::from(columns - 1)) / f64::from(columns);
                let rows = ((inside(size.h) + gap) / (field + gap)).round().clamp(1.0, 24.0) as u8;
                Guides { margins, columns, column_gutter: gutter, rows, row_gutter: gutter, ..Guides::default() }
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::compose::PlaceCatalogue;

    #[test]
    fn every_grid_stands_on_every_sheet() {
        let shipped = PlaceCatalogue::read(include_str!("../../../../assets/places.json")).unwrap();
        for place in shipped.all() {
            for (grid, name) in Grid::ALL {
                let guides = grid.guides(&place.format);
                assert_eq!(guides.fault(place.format.size), None, "{name} on {}", place.id);
                let inside = guides.inside(place.format.size);
                let keeps = inside.x >= place.format.safe || grid == Grid::Thirds;
                assert!(keeps || place.format.safe > place.format.size.measure().scaled(0.3), "{name} on {}", place.id);
                let marks = crate::arrange::guide_marks(&guides, place.format.size);
                assert!(marks.len() >= 4, "{name} on {}", place.id);
            }
            // Fields are about as wide as high.
            let guides = Grid::Fields.guides(&place.format);
            let (columns, rows) = (guides.column_edges(place.format.size), guides.row_edges(place.format.size));
            if let (Some(column), Some(row)) = (columns.first(), rows.first()) {
                let ratio = (column.1 - column.0).to_css_px() / (row.1 - row.0).to_css_px();
                assert!((0.4..2.5).contains(&ratio), "{}: {ratio}", place.id);
            }
        }
        let square = PlaceCatalogue::own_size("900x900").unwrap().format;
        let thirds: Vec<f64> = Grid::Thirds.guides(&square).lines.iter().map(|line| line.at.to_css_px()).collect();
        assert_eq!(thirds, [300.0, 300.0, 600.0, 600.0]);
    }
}
