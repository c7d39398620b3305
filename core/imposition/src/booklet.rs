//! Pages in the order of a booklet stapled through its fold.

use vatman_units::Length;

/// One side of a sheet of a booklet: the pages on its left and right, counted from 0; nothing is a blank page.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Leaf {
    /// Which sheet, from the outermost, 0.
    pub sheet: usize,
    /// Whether it is the inner side of the sheet.
    pub inner: bool,
    /// The page left of the fold.
    pub left: Option<usize>,
    /// The page right of the fold.
    pub right: Option<usize>,
    /// By how much both pages are moved towards the fold, so that what the outer edges lose in trimming is the same on every page.
    pub creep: Length,
}

/// The sides of the sheets of a booklet of so many pages, outermost first, outer side before inner. Pages are filled up to a multiple of
/// four. `thickness` is that of the paper: each sheet inside pushes what lies in it out by as much.
#[must_use]
pub fn booklet(pages: usize, thickness: Length) -> Vec<Leaf> {
    let all = pages.div_ceil(4) * 4;
    let page = |at: usize| (at < pages).then_some(at);
    (0..all / 4)
        .flat_map(|sheet| {
            let creep = Length::from_raw(thickness.raw() * i64::try_from(sheet).unwrap_or(0));
            let (first, last) = (2 * sheet, all - 1 - 2 * sheet);
            [
                Leaf { sheet, inner: false, left: page(last), right: page(first), creep },
                Leaf { sheet, inner: true, left: page(first + 1), right: page(last - 1), creep },
            ]
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn eight_pages_lie_as_binders_know_them() {
        let sides: Vec<_> = booklet(8, Length::ZERO).iter().map(|leaf| (leaf.left, leaf.right)).collect();
        let pages = |left: usize, right: usize| (Some(left - 1), Some(right - 1));
        assert_eq!(sides, [pages(8, 1), pages(2, 7), pages(6, 3), pages(4, 5)]);
        assert_eq!(booklet(5, Length::ZERO)[0].left, None);
        assert!(booklet(0, Length::ZERO).is_empty());
    }

    proptest! {
        /// Folding the sheets into each other and leafing through gives the pages in order, each once.
        #[test]
        fn leafing_through_reads_in_order(pages in 1usize..70, thickness in 0i64..9_000) {
            let sides = booklet(pages, Length::from_raw(thickness));
            let mut read = Vec::new();
            let sheets = sides.len() / 2;
            // The right half of each sheet, outermost first: its outer side, then its inner one; then the left halves the other way round.
            for sheet in 0..sheets {
                read.extend([sides[2 * sheet].right, sides[2 * sheet + 1].left]);
            }
            for sheet in (0..sheets).rev() {
                read.extend([sides[2 * sheet + 1].right, sides[2 * sheet].left]);
            }
            let want: Vec<_> = (0..sheets * 4).map(|at| (at < pages).then_some(at)).collect();
            prop_assert_eq!(read, want);
            for (at, leaf) in sides.iter().enumerate() {
                prop_assert_eq!((leaf.sheet, leaf.inner), (at / 2, at % 2 == 1));
                prop_assert_eq!(leaf.creep.raw(), thickness * (at / 2) as i64);
            }
        }
    }
}
