//! Several pieces, so many of each, over few sheets.

use vatman_units::{Length, Rect, Size};

use crate::fill::{Room, Turning, fill};
use crate::paper::SheetError;
use crate::spot::Spot;

/// So many of a piece.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Wanted {
    /// Its trimmed size.
    pub size: Size,
    /// How many.
    pub count: u32,
}

/// Most copies that are laid out at once.
const MOST: u32 = 50_000;
/// Copies that are tried in every order; more of a kind fill whole sheets by themselves first.
const TRIED: u32 = 600;

/// Sheets that hold so many of each piece; every place names its piece by its index. There are never more sheets than the pieces need
/// when each is printed for itself, and never fewer than their areas ask for; of several plans the one with the fewest sheets is taken.
///
/// What is not of whole sheets is laid by the guillotine method of free rectangles (Jylanki 2010, "A Thousand Ways to Pack the Bin"), in
/// several orders and ways of parting what is left.
///
/// # Errors
/// [`SheetError`] where a piece does not fit the room, or there are too many.
pub fn fill_mixed(room: &Room, wanted: &[Wanted]) -> Result<Vec<Vec<(usize, Spot)>>, SheetError> {
    let all = wanted.iter().try_fold(0u32, |sum, want| sum.checked_add(want.count)).filter(|all| *all <= MOST);
    all.ok_or(SheetError::TooMany(MOST))?;
    let patterns: Vec<Vec<Spot>> = wanted.iter().map(|want| fill(room, want.size)).collect();
    if let Some(at) = (0..wanted.len()).find(|at| patterns[*at].is_empty() && wanted[*at].count > 0) {
        let label = |size: Size| format!("{:.1} \u{d7} {:.1} mm", size.w.to_mm(), size.h.to_mm());
        return Err(SheetError::TooLarge(label(wanted[at].size), label(room.area.size())));
    }
    let mut sheets = Vec::new();
    let mut left: Vec<u32> = wanted.iter().map(|want| want.count).collect();
    let fits: Vec<u32> = patterns.iter().map(|spots| u32::try_from(spots.len()).unwrap_or(MOST).max(1)).collect();
    // Whole sheets of what there is most of, until what is left can be tried in every order.
    while left.iter().sum::<u32>() > TRIED {
        let Some(at) = (0..left.len()).filter(|at| left[*at] >= fits[*at]).max_by_key(|at| left[*at]) else { break };
        sheets.push(patterns[at].iter().map(|spot| (at, *spot)).collect());
        left[at] -= fits[at];
    }
    // Each for itself: whole sheets, and what is left of each on the sheets of all that is left.
    let mut apart = Vec::new();
    let mut rest = left.clone();
    for at in 0..rest.len() {
        while rest[at] >= fits[at] {
            apart.push(patterns[at].iter().map(|spot| (at, *spot)).collect());
            rest[at] -= fits[at];
        }
    }
    let alone = || -> Vec<Vec<(usize, Spot)>> {
        let some = |at: usize| patterns[at].iter().take(rest[at] as usize).map(|spot| (at, *spot)).collect::<Vec<_>>();
        (0..rest.len()).map(some).filter(|sheet| !sheet.is_empty()).collect()
    };
    let packed = packed(room, wanted, &rest);
    apart.extend(if packed.len() <= alone().len() { packed } else { alone() });
    let together = self::packed(room, wanted, &left);
    sheets.extend(if together.len() < apart.len() { together } else { apart });
    Ok(sheets)
}

/// In what order pieces are laid.
const ORDERS: [fn(Size) -> i128; 4] = [
    |size| area(size),
    |size| i128::from(size.w.raw().max(size.h.raw())),
    |size| i128::from(size.h.raw()),
    |size| i128::from(size.w.raw().min(size.h.raw())),
];

fn area(size: Size) -> i128 {
    i128::from(size.w.raw()) * i128::from(size.h.raw())
}

/// How what is left of a free part is parted.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Parting {
    /// So that one part is as large as can be.
    LargePart,
    /// Along the row that was begun.
    Rows,
    /// Along the column.
    Columns,
}

fn packed(room: &Room, wanted: &[Wanted], counts: &[u32]) -> Vec<Vec<(usize, Spot)>> {
    let mut best: Option<Vec<Vec<(usize, Spot)>>> = None;
    for order in ORDERS {
        let mut kinds: Vec<usize> = (0..wanted.len()).filter(|at| counts[*at] > 0).collect();
        kinds.sort_by_key(|at| std::cmp::Reverse(order(wanted[*at].size)));
        for parting in [Parting::LargePart, Parting::Rows, Parting::Columns] {
            let mut packing = Packing { room, sheets: Vec::new(), parting };
            for at in &kinds {
                for _ in 0..counts[*at] {
                    packing.lay(*at, wanted[*at].size);
                }
            }
            if best.as_ref().is_none_or(|best| packing.sheets.len() < best.len()) {
                best = Some(packing.sheets.into_iter().map(|sheet| sheet.laid).collect());
            }
        }
    }
    let mut sheets = best.unwrap_or_default();
    sheets.iter_mut().for_each(|sheet| sheet.sort_by_key(|(_, spot)| (spot.trim.y, spot.trim.x)));
    sheets
}

struct Sheet {
    laid: Vec<(usize, Spot)>,
    /// Parts that nothing lies on; pieces and parts carry the gap to their right and below.
    free: Vec<Rect>,
}

struct Packing<'r> {
    room: &'r Room,
    sheets: Vec<Sheet>,
    parting: Parting,
}

impl Packing<'_> {
    fn lay(&mut self, piece: usize, size: Size) {
        let gap = self.room.gap;
        let with_gap = Size::new(size.w + gap, size.h + gap);
        let may_turn = self.room.turning == Turning::Either;
        let fit = |free: &Rect, size: Size| {
            let (across, down) = ((free.w - size.w).raw(), (free.h - size.h).raw());
            (across >= 0 && down >= 0).then(|| across.min(down))
        };
        // On the first sheet with room, where it leaves the thinnest rest.
        let find = |sheet: &Sheet| {
            let ways = sheet.free.iter().enumerate().flat_map(|(at, free)| {
                let turned = may_turn.then(|| fit(free, with_gap.turned())).flatten();
                [(false, fit(free, with_gap)), (true, turned)]
                    .into_iter()
                    .filter_map(move |(turned, rest)| Some((rest?, turned, at)))
            });
            ways.min()
        };
        let found = self.sheets.iter().enumerate().find_map(|(on, sheet)| find(sheet).map(|found| (on, found)));
        let (on, (_, turned, at)) = found.unwrap_or_else(|| {
            let field = self.room.trims();
            let free = vec![Rect::new(field.x, field.y, field.w + gap, field.h + gap)];
            self.sheets.push(Sheet { laid: Vec::new(), free });
            let upright = fit(&self.sheets[self.sheets.len() - 1].free[0], with_gap).is_some();
            (self.sheets.len() - 1, (0, !upright, 0))
        });
        let sheet = &mut self.sheets[on];
        let free = sheet.free.swap_remove(at);
        let make = if turned { Spot::turned } else { Spot::upright };
        sheet.laid.push((piece, make(free.x, free.y, size)));
        let taken = if turned { with_gap.turned() } else { with_gap };
        let (across, down) = (free.w - taken.w, free.h - taken.h);
        let rows = match self.parting {
            Parting::Rows => true,
            Parting::Columns => false,
            // The wider rest gets the whole of its side.
            Parting::LargePart => area(Size::new(free.w, down)) >= area(Size::new(across, free.h)),
        };
        let (beside, below) = if rows { (taken.h, free.w) } else { (free.h, taken.w) };
        let parts =
            [Rect::new(free.x + taken.w, free.y, across, beside), Rect::new(free.x, free.y + taken.h, below, down)];
        sheet.free.extend(parts.into_iter().filter(|part| part.w > Length::ZERO && part.h > Length::ZERO));
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn mm(w: f64, h: f64) -> Size {
        Size::new(Length::mm(w), Length::mm(h))
    }

    fn room() -> Room {
        Room::new(
            Rect::new(Length::mm(5.0), Length::mm(5.0), Length::mm(200.0), Length::mm(287.0)),
            Length::mm(2.0),
            Length::ZERO,
            Turning::Either,
        )
    }

    #[test]
    fn twelve_of_this_and_eight_of_that_share_sheets() {
        let wanted = [Wanted { size: mm(85.0, 55.0), count: 12 }, Wanted { size: mm(50.0, 90.0), count: 8 }];
        let sheets = fill_mixed(&room(), &wanted).unwrap();
        assert_eq!(sheets.len(), 2);
        let too_large = [Wanted { size: mm(300.0, 210.0), count: 1 }];
        assert!(fill_mixed(&room(), &too_large).unwrap_err().to_string().contains("300.0"));
        assert_eq!(
            fill_mixed(&room(), &[Wanted { size: mm(10.0, 10.0), count: MOST + 1 }]),
            Err(SheetError::TooMany(MOST))
        );
        assert_eq!(fill_mixed(&room(), &[Wanted { size: mm(300.0, 300.0), count: 0 }]), Ok(Vec::new()));
    }

    #[test]
    fn many_of_one_fill_whole_sheets() {
        let sheets = fill_mixed(&room(), &[Wanted { size: mm(85.0, 55.0), count: 10_001 }]).unwrap();
        assert_eq!(sheets.len(), 910);
        assert!(sheets[..909].iter().all(|sheet| sheet.len() == 11));
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(96))]

        /// All there, nothing on another or off the room, never more sheets than each for itself, never fewer than the areas ask for.
        #[test]
        fn sheets_hold_what_was_wanted_and_are_few(
            kinds in prop::collection::vec((20i64..120, 20i64..120, 0u32..14), 1..5), gap in 0i64..5, turn: bool,
        ) {
            let turning = if turn { Turning::Either } else { Turning::Upright };
            let room = Room { gap: Length::mm(gap as f64), turning, ..room() };
            let wanted: Vec<Wanted> =
                kinds.iter().map(|(w, h, count)| Wanted { size: mm(*w as f64, *h as f64), count: *count }).collect();
            let sheets = fill_mixed(&room, &wanted).unwrap();
            for (at, want) in wanted.iter().enumerate() {
                let laid: Vec<&Spot> = sheets.iter().flatten().filter(|(piece, _)| *piece == at).map(|(_, spot)| spot).collect();
                prop_assert_eq!(laid.len(), want.count as usize);
                prop_assert!(laid.iter().all(|spot| spot.size() == want.size && (turn || spot.quarters == 0)));
            }
            for sheet in &sheets {
                prop_assert!(!sheet.is_empty());
                for (at, (_, spot)) in sheet.iter().enumerate() {
                    prop_assert!(room.area.contains(spot.trim));
                    for (_, other) in &sheet[at + 1..] {
                        let (a, b) = (spot.trim, other.trim);
                        let across = (b.x - a.right()).max(a.x - b.right());
                        let down = (b.y - a.bottom()).max(a.y - b.bottom());
                        prop_assert!(across.max(down) >= room.gap);
                    }
                }
            }
            let alone: usize = wanted.iter().map(|want| (want.count as usize).div_ceil(fill(&room, want.size).len())).sum();
            prop_assert!(sheets.len() <= alone);
            let used: i128 = wanted.iter().map(|want| area(want.size) * i128::from(want.count)).sum();
            prop_assert!(sheets.len() as i128 * area(room.area.size()) >= used);
        }
    }
}
