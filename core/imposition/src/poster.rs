//! A piece larger than the paper, over several sheets that are put together.

use vatman_units::{Length, Rect, Size};

use crate::paper::{Paper, SheetError};

/// The part of a piece that one sheet shows.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Tile {
    /// From the left, 0.
    pub column: usize,
    /// From the top, 0.
    pub row: usize,
    /// What of the piece is on it, from its top left corner; the last ones reach only as far as the piece.
    pub part: Rect,
}

/// Most sheets of a poster.
const MOST: usize = 400;

/// The sheets over which a piece of a size is spread, row by row, each over the next by `overlap`, so that there is something to glue.
///
/// # Errors
/// [`SheetError`] where the overlap leaves nothing of the sheet or there would be too many.
pub fn poster(paper: &Paper, size: Size, overlap: Length) -> Result<Vec<Tile>, SheetError> {
    let area = paper.printable();
    let step = Size::new(area.w - overlap, area.h - overlap);
    if step.w < Length::mm(20.0) || step.h < Length::mm(20.0) || overlap.raw() < 0 {
        return Err(SheetError::Margins);
    }
    let count = |length: Length, step: Length| {
        let rest = (length - overlap).raw().max(1);
        usize::try_from((rest + step.raw() - 1) / step.raw()).unwrap_or(usize::MAX)
    };
    let (columns, rows) = (count(size.w, step.w), count(size.h, step.h));
    if columns.saturating_mul(rows) > MOST {
        return Err(SheetError::TooMany(MOST as u32));
    }
    let at = |index: usize, step: Length| Length::from_raw(step.raw() * i64::try_from(index).unwrap_or(0));
    let tile = |row: usize, column: usize| {
        let (x, y) = (at(column, step.w), at(row, step.h));
        Tile { column, row, part: Rect::new(x, y, area.w.min(size.w - x), area.h.min(size.h - y)) }
    };
    Ok((0..rows).flat_map(|row| (0..columns).map(move |column| tile(row, column))).collect())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::paper::Margins;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn the_sheets_cover_the_piece_and_lie_over_each_other(w in 100i64..1500, h in 100i64..1500, overlap in 0i64..25, margin in 0i64..15) {
            let mm = |v: i64| Length::mm(v as f64);
            let paper = Paper::new(Size::new(mm(210), mm(297)), Margins::all(mm(margin))).unwrap();
            let size = Size::new(mm(w), mm(h));
            let tiles = poster(&paper, size, mm(overlap)).unwrap();
            let (columns, rows) = (tiles.iter().map(|t| t.column).max().unwrap() + 1, tiles.iter().map(|t| t.row).max().unwrap() + 1);
            prop_assert_eq!(tiles.len(), columns * rows);
            for tile in &tiles {
                prop_assert!(tile.part.w.is_positive() && tile.part.h.is_positive() && Rect::of(size).contains(tile.part));
                prop_assert!(tile.part.w <= paper.printable().w && tile.part.h <= paper.printable().h);
                let at = |row: usize, column: usize| tiles.iter().find(|t| (t.row, t.column) == (row, column)).unwrap().part;
                if tile.column + 1 < columns {
                    prop_assert_eq!(tile.part.right() - at(tile.row, tile.column + 1).x, mm(overlap));
                } else {
                    prop_assert_eq!(tile.part.right(), size.w);
                }
                if tile.row + 1 < rows {
                    prop_assert_eq!(tile.part.bottom() - at(tile.row + 1, tile.column).y, mm(overlap));
                } else {
                    prop_assert_eq!(tile.part.bottom(), size.h);
                }
            }
            // One sheet fewer would not do.
            prop_assert!(columns == 1 || tiles.iter().all(|t| t.column + 1 < columns || t.part.w > mm(overlap)));
        }
    }

    #[test]
    fn senseless_posters_are_refused() {
        let paper = Paper::new(Size::new(Length::mm(210.0), Length::mm(297.0)), Margins::default()).unwrap();
        let metre = Size::new(Length::mm(1_000.0), Length::mm(1_000.0));
        assert_eq!(poster(&paper, metre, Length::mm(191.0)), Err(SheetError::Margins));
        assert_eq!(poster(&paper, metre, Length::mm(-1.0)), Err(SheetError::Margins));
        let two = Size::new(metre.w + metre.w, metre.h + metre.h);
        assert_eq!(poster(&paper, two, Length::mm(180.0)), Err(SheetError::TooMany(400)));
        assert_eq!(poster(&paper, paper.size, Length::ZERO).unwrap().len(), 1);
    }
}
