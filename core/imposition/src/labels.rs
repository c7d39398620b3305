//! Stock of labels that are cut already.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Length, Rect, Size};

use crate::paper::SheetError;
use crate::spot::Spot;

/// Where the labels of a sheet lie, as its packet says.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct LabelStock {
    /// Labels side by side.
    pub columns: u32,
    /// Labels below each other.
    pub rows: u32,
    /// Width and height of a label.
    pub label: Size,
    /// From the left edge of the paper to the first label.
    pub left: Length,
    /// From its top edge.
    pub top: Length,
    /// From the left edge of one label to that of the next.
    pub across: Length,
    /// From the top edge of one label to that of the next.
    pub down: Length,
}

impl LabelStock {
    /// The places of a piece on the labels, row by row: in the middle of each, turned by a quarter where it lies the other way.
    ///
    /// # Errors
    /// [`SheetError`] for labels that leave the paper or lie on each other.
    pub fn spots(&self, paper: Size, piece: Size) -> Result<Vec<Spot>, SheetError> {
        let Self { columns, rows, label, left, top, across, down } = *self;
        let at = |from: Length, step: Length, index: u32| from + Length::from_raw(step.raw() * i64::from(index));
        let sound = (1..=100).contains(&columns)
            && (1..=100).contains(&rows)
            && label.w.is_positive()
            && label.h.is_positive()
            && left.raw() >= 0
            && top.raw() >= 0
            && (columns == 1 || across >= label.w)
            && (rows == 1 || down >= label.h)
            && at(left, across, columns - 1) + label.w <= paper.w
            && at(top, down, rows - 1) + label.h <= paper.h;
        if !sound {
            return Err(SheetError::Labels);
        }
        let turned = (label.w > label.h) != (piece.w > piece.h) && piece.w != piece.h;
        let own = if turned { piece.turned() } else { piece };
        let make = if turned { Spot::turned } else { Spot::upright };
        let spot = |row: u32, column: u32| {
            let place = Rect::new(at(left, across, column), at(top, down, row), label.w, label.h);
            make(place.x + (place.w - own.w).half(), place.y + (place.h - own.h).half(), piece)
        };
        Ok((0..rows).flat_map(|row| (0..columns).map(move |column| spot(row, column))).collect())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn labels_lie_where_the_packet_says() {
        let inch = Length::inches;
        let letter = Size::new(inch(8.5), inch(11.0));
        let label = Size::new(inch(2.625), inch(1.0));
        let stock = LabelStock {
            columns: 3,
            rows: 10,
            label,
            left: inch(0.1875),
            top: inch(0.5),
            across: inch(2.75),
            down: inch(1.0),
        };
        let spots = stock.spots(letter, label).unwrap();
        assert_eq!(spots.len(), 30);
        assert_eq!(spots[29].trim, Rect::new(inch(5.6875), inch(9.5), label.w, label.h));
        // A piece that is smaller stands in the middle, one that lies the other way is turned.
        let small = stock.spots(letter, Size::new(inch(0.9), inch(2.5))).unwrap();
        assert_eq!(small[0].quarters, 1);
        assert_eq!(small[0].trim, Rect::new(inch(0.25), inch(0.55), inch(2.5), inch(0.9)));
        for wrong in [
            LabelStock { columns: 4, ..stock },
            LabelStock { rows: 11, ..stock },
            LabelStock { rows: 0, ..stock },
            LabelStock { across: inch(2.6), ..stock },
            LabelStock { down: inch(0.9), ..stock },
            LabelStock { left: inch(-0.1), ..stock },
        ] {
            assert_eq!(wrong.spots(letter, label), Err(SheetError::Labels), "{wrong:?}");
        }
        assert!(LabelStock { columns: 1, across: Length::ZERO, ..stock }.spots(letter, label).is_ok());
    }
}
