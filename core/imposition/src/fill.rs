//! As many pieces of one size on a sheet as there is room for.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Length, Rect, Size};

use crate::spot::Spot;

/// Which way pieces may lie.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Turning {
    /// Upright, turned, or some of both: whatever holds most.
    #[default]
    Either,
    /// All upright, as paper with a grain or a pattern asks for.
    Upright,
}

/// Room for pieces on a sheet.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Room {
    /// What can be printed on.
    pub area: Rect,
    /// Between the trims of two pieces.
    pub gap: Length,
    /// What each piece has around its trim, which lies within the area too.
    pub bleed: Length,
    /// Which way pieces may lie.
    pub turning: Turning,
}

impl Room {
    /// Room on a sheet for pieces with a bleed: two that lie side by side never share it, so that the gap is at least twice as wide.
    #[must_use]
    pub fn new(area: Rect, gap: Length, bleed: Length, turning: Turning) -> Self {
        Self { area, gap: gap.max(bleed + bleed), bleed, turning }
    }

    /// The room the trims of pieces and the gaps between them have.
    pub(crate) fn trims(&self) -> Rect {
        self.area.outset(-self.bleed)
    }

    /// How many pieces of a length stand in a row that is so long.
    fn row(&self, length: Length, along: Length) -> i64 {
        let pitch = (length + self.gap).raw();
        if pitch <= 0 { 0 } else { ((along + self.gap).raw() / pitch).max(0) }
    }

    /// Columns and rows of pieces that all lie one way.
    #[must_use]
    pub fn grid(&self, size: Size) -> (i64, i64) {
        let field = self.trims();
        (self.row(size.w, field.w), self.row(size.h, field.h))
    }
}

/// Most pieces on one sheet.
const MOST: i64 = 5_000;
/// Most lengths that rows of pieces can come to before only two fields of rows are tried instead of every cutting plan.
const MOST_LENGTHS: usize = 140;

/// The places of as many pieces of a size as the room holds, row by row. The number is the largest of any plan that a guillotine can cut;
/// of plans with as many the one with the fewest cuts is taken, and of those the one with more pieces upright.
#[must_use]
pub fn fill(room: &Room, size: Size) -> Vec<Spot> {
    let field = room.trims();
    let (w, h) = ((size.w + room.gap).raw(), (size.h + room.gap).raw());
    let (wide, high) = ((field.w + room.gap).raw(), (field.h + room.gap).raw());
    if size.w.raw() <= 0 || size.h.raw() <= 0 || wide <= 0 || high <= 0 || (wide / w) * (high / h) > MOST {
        return Vec::new();
    }
    let upright = room.turning == Turning::Upright;
    let lengths = if upright { vec![0] } else { lengths(w, h, wide.max(high)) };
    let mut out = Vec::new();
    if lengths.len() <= MOST_LENGTHS && !upright {
        Plans::of(w, h, &lengths).lay(wide, high, &mut out);
    } else {
        let plan = if upright { Fields::all_upright(w, h, wide, high) } else { Fields::best(w, h, wide, high) };
        plan.lay(&mut out);
    }
    let raw = Length::from_raw;
    let mut spots: Vec<Spot> = out
        .into_iter()
        .map(|Block { x, y, turned }| {
            let make = if turned { Spot::turned } else { Spot::upright };
            make(field.x + raw(x), field.y + raw(y), size)
        })
        .collect();
    spots.sort_by_key(|spot| (spot.trim.y, spot.trim.x));
    spots
}

/// A piece, with the gap to its right and below, in the field.
struct Block {
    x: i64,
    y: i64,
    turned: bool,
}

/// Every length up to `most` that pieces laid in a row, some of them turned, come to.
fn lengths(w: i64, h: i64, most: i64) -> Vec<i64> {
    let mut all = Vec::new();
    let mut across = 0;
    while across <= most {
        let mut length = across;
        while length <= most {
            all.push(length);
            if all.len() > 100_000 {
                return all;
            }
            length += h;
        }
        across += w;
    }
    all.sort_unstable();
    all.dedup();
    all
}

/// How a part of the field is taken up.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum How {
    Grid {
        turned: bool,
    },
    /// Parted left and right by the length of an index.
    Beside(usize),
    /// Parted above and below.
    Above(usize),
}

/// The best plan for a part: more pieces, then fewer cuts, then fewer turned ones.
#[derive(Debug, Clone, Copy)]
struct Plan {
    count: i64,
    cost: i64,
    how: How,
}

impl Plan {
    fn better(self, other: Self) -> bool {
        (self.count, -self.cost) > (other.count, -other.cost)
    }
}

/// The best plans for every part whose sides are lengths of rows: dynamic programming over guillotine cuts at such lengths, which are
/// enough (Herz 1972, "Recursive computational procedure for two-dimensional stock cutting").
struct Plans<'l> {
    w: i64,
    h: i64,
    lengths: &'l [i64],
    plans: Vec<Plan>,
}

impl<'l> Plans<'l> {
    fn of(w: i64, h: i64, lengths: &'l [i64]) -> Self {
        let mut all = Self { w, h, lengths, plans: Vec::with_capacity(lengths.len() * lengths.len()) };
        for across in 0..lengths.len() {
            for down in 0..lengths.len() {
                let plan = all.best(across, down);
                all.plans.push(plan);
            }
        }
        all
    }

    /// The index of the longest row that is no longer.
    fn within(&self, length: i64) -> usize {
        self.lengths.partition_point(|own| *own <= length).saturating_sub(1)
    }

    fn at(&self, across: usize, down: usize) -> Plan {
        self.plans[across * self.lengths.len() + down]
    }

    fn best(&self, across: usize, down: usize) -> Plan {
        let (wide, high) = (self.lengths[across], self.lengths[down]);
        let grid = |w: i64, h: i64, turned: bool| {
            let (columns, rows) = (wide / w, high / h);
            let count = columns * rows;
            // A plan without pieces needs no cut; a turned piece costs a little, so that upright ones come first.
            Plan {
                count,
                cost: if count == 0 { 0 } else { (columns + rows) * 1_000 + i64::from(turned) * count },
                how: How::Grid { turned },
            }
        };
        let mut best = grid(self.w, self.h, false);
        let mut offer = |plan: Plan| {
            if plan.better(best) {
                best = plan;
            }
        };
        offer(grid(self.h, self.w, true));
        let both = |a: Plan, b: Plan, how: How| Plan { count: a.count + b.count, cost: a.cost + b.cost + 1_000, how };
        for at in (1..across).take_while(|at| self.lengths[*at] * 2 <= wide) {
            offer(both(self.at(at, down), self.at(self.within(wide - self.lengths[at]), down), How::Beside(at)));
        }
        for at in (1..down).take_while(|at| self.lengths[*at] * 2 <= high) {
            offer(both(self.at(across, at), self.at(across, self.within(high - self.lengths[at])), How::Above(at)));
        }
        best
    }

    fn lay(&self, wide: i64, high: i64, out: &mut Vec<Block>) {
        self.lay_part(self.within(wide), self.within(high), (0, 0), out);
    }

    fn lay_part(&self, across: usize, down: usize, (x, y): (i64, i64), out: &mut Vec<Block>) {
        let (wide, high) = (self.lengths[across], self.lengths[down]);
        match self.at(across, down).how {
            How::Grid { turned } => lay_grid(self.w, self.h, turned, (x, y), (wide, high), out),
            // The larger part first, so that what is mixed in lies at the end.
            How::Beside(at) => {
                let rest = self.within(wide - self.lengths[at]);
                self.lay_part(rest, down, (x, y), out);
                self.lay_part(at, down, (x + self.lengths[rest], y), out);
            }
            How::Above(at) => {
                let rest = self.within(high - self.lengths[at]);
                self.lay_part(across, rest, (x, y), out);
                self.lay_part(across, at, (x, y + self.lengths[rest]), out);
            }
        }
    }
}

fn lay_grid(w: i64, h: i64, turned: bool, (x, y): (i64, i64), (wide, high): (i64, i64), out: &mut Vec<Block>) {
    let (w, h) = if turned { (h, w) } else { (w, h) };
    for row in 0..high / h {
        for column in 0..wide / w {
            out.push(Block { x: x + column * w, y: y + row * h, turned });
        }
    }
}

/// A field: its corner, its extent, and whether its pieces are turned.
type Field = ((i64, i64), (i64, i64), bool);

/// Two fields, one of upright and one of turned pieces: for pieces so small that every cutting plan is too much to try.
struct Fields {
    w: i64,
    h: i64,
    /// They lie beside or above each other.
    fields: Vec<Field>,
}

impl Fields {
    fn all_upright(w: i64, h: i64, wide: i64, high: i64) -> Self {
        Self { w, h, fields: vec![((0, 0), (wide, high), false)] }
    }

    fn count(&self) -> i64 {
        let one = |(_, (wide, high), turned): &(_, (i64, i64), bool)| {
            let (w, h) = if *turned { (self.h, self.w) } else { (self.w, self.h) };
            (wide / w) * (high / h)
        };
        self.fields.iter().map(one).sum()
    }

    fn best(w: i64, h: i64, wide: i64, high: i64) -> Self {
        let mut best = Self::all_upright(w, h, wide, high);
        let mut offer = |fields| {
            let other = Self { w, h, fields };
            if other.count() > best.count() {
                best = other;
            }
        };
        offer(vec![((0, 0), (wide, high), true)]);
        for columns in 1..=wide / w {
            let x = columns * w;
            offer(vec![((0, 0), (x, high), false), ((x, 0), (wide - x, high), true)]);
        }
        for rows in 1..=high / h {
            let y = rows * h;
            offer(vec![((0, 0), (wide, y), false), ((0, y), (wide, high - y), true)]);
        }
        best
    }

    fn lay(&self, out: &mut Vec<Block>) {
        for (corner, extent, turned) in &self.fields {
            lay_grid(self.w, self.h, *turned, *corner, *extent, out);
        }
    }
}

/// The largest size of which so many fit across and down: what is left of the room after the gaps, shared evenly. Nothing where nothing is
/// left.
#[must_use]
pub fn size_for(room: &Room, across: u32, down: u32) -> Option<Size> {
    let field = room.trims();
    let share = |length: Length, count: u32| {
        let count = i64::from(count.max(1));
        Length::from_raw((length.raw() - (count - 1) * room.gap.raw()) / count)
    };
    let size = Size::new(share(field.w, across), share(field.h, down));
    (size.w.is_positive() && size.h.is_positive()).then_some(size)
}

/// What a piece has to be scaled by so that one more stands across, or down, than in a grid of upright ones; nothing where it is more than
/// it can lose (to less than seven tenths).
#[must_use]
pub fn one_more(room: &Room, size: Size, across: bool) -> Option<f64> {
    let (columns, rows) = room.grid(size);
    let count = |n: i64| u32::try_from(n).ok();
    let want = if across {
        size_for(room, count(columns + 1)?, count(rows.max(1))?)?
    } else {
        size_for(room, count(columns.max(1))?, count(rows + 1)?)?
    };
    let scale =
        if across { want.w.raw() as f64 / size.w.raw() as f64 } else { want.h.raw() as f64 / size.h.raw() as f64 };
    (0.7..1.0).contains(&scale).then_some(scale)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::paper::{Margins, PAPERS, Paper, paper_named};
    use proptest::prelude::*;

    fn inch(value: f64) -> Length {
        Length::inches(value)
    }

    fn room(paper: &str, turned: bool, margins: Margins, gap: Length, bleed: Length) -> Room {
        let paper = Paper::new(paper_named(paper).unwrap(), margins).unwrap();
        let paper = if turned { paper.turned() } else { paper };
        Room::new(paper.printable(), gap, bleed, Turning::Either)
    }

    #[test]
    fn five_bookmarks_across_a_letter_sheet_lie_where_they_are_known_to() {
        let margins = Margins::sides_and_ends(inch(0.25), inch(0.55));
        let room = room("letter", true, margins, Length::ZERO, Length::ZERO);
        let size = size_for(&room, 5, 1).unwrap();
        assert_eq!(size, Size::new(inch(2.1), inch(7.4)));
        let spots = fill(&room, size);
        let left: Vec<f64> = spots.iter().map(|spot| (spot.trim.x - inch(0.25)).to_inches()).collect();
        assert_eq!(left, [0.0, 2.1, 4.2, 6.3, 8.4]);
        assert!(spots.iter().all(|spot| spot.trim.y == inch(0.55) && spot.quarters == 0));
    }

    #[test]
    fn known_numbers_of_cards_on_known_papers() {
        let card = Size::new(inch(3.5), inch(2.0));
        let metric = Size::new(Length::mm(85.0), Length::mm(55.0));
        let quarter = Margins::all(inch(0.25));
        let five = Margins::all(Length::mm(5.0));
        let count = |room: &Room, size| fill(room, size).len();
        // Printable 8 x 10.5 in: two columns of five upright are fewer than three rows of four turned.
        assert_eq!(count(&room("letter", false, quarter, Length::ZERO, Length::ZERO), card), 12);
        let half = Margins::sides_and_ends(inch(0.75), inch(0.5));
        assert_eq!(count(&room("letter", false, half, Length::ZERO, Length::ZERO), card), 10);
        // With an eighth of bleed, and so a quarter between them: three turned above three rows of two.
        assert_eq!(count(&room("letter", false, quarter, Length::ZERO, inch(0.125)), card), 9);
        // 200 x 287 mm: a column of five upright and two of three turned, for both sizes of card.
        let plain = room("a4", false, five, Length::ZERO, Length::ZERO);
        assert_eq!((count(&plain, card), count(&plain, metric)), (11, 11));
        assert_eq!((plain.grid(metric), plain.grid(metric.turned())), ((2, 5), (3, 3)));
        assert_eq!(count(&room("a4", false, five, Length::mm(2.0), Length::ZERO), metric), 11);
        // 3 mm of bleed: 91 x 61 mm each, three rows of three turned.
        assert_eq!(count(&room("a4", false, five, Length::ZERO, Length::mm(3.0)), metric), 9);
        assert_eq!(count(&room("a4", false, five, Length::mm(14.0), Length::mm(3.0)), metric), 8);
        assert!(fill(&plain, Size::new(Length::mm(300.0), Length::mm(300.0))).is_empty());
        assert!(fill(&plain, Size::default()).is_empty());
    }

    #[test]
    fn pieces_that_must_not_be_turned_are_not() {
        let room = Room {
            turning: Turning::Upright,
            ..room("a4", false, Margins::all(Length::mm(5.0)), Length::ZERO, Length::ZERO)
        };
        let tag = Size::new(Length::mm(60.0), Length::mm(60.5));
        let spots = fill(&room, tag);
        assert_eq!(spots.len(), 12);
        assert!(spots.iter().all(|spot| spot.quarters == 0));
    }

    #[test]
    fn scaling_down_a_little_makes_room_for_one_more() {
        let room = room("letter", false, Margins::all(inch(0.25)), inch(0.1), Length::ZERO);
        let card = Size::new(inch(3.0), inch(2.0));
        assert_eq!(room.grid(card), (2, 5));
        let by = one_more(&room, card, true).unwrap();
        let smaller = Size::new(card.w.scaled(by), card.h.scaled(by));
        assert!((by - (8.0 - 0.2) / 9.0).abs() < 1e-6);
        assert_eq!(room.grid(Size::new(smaller.w - Length::from_raw(1), smaller.h)).0, 3);
        let by = one_more(&room, card, false).unwrap();
        assert!((by - (10.5 - 0.5) / 12.0).abs() < 1e-6);
        assert_eq!(one_more(&room, Size::new(inch(8.0), inch(2.0)), true), None, "to half");
        assert_eq!(size_for(&room, 100, 1), None);
    }

    /// The most that any guillotine cutting holds, by trying every cut at every whole unit: no cleverness, small fields only.
    fn brute(w: usize, h: usize, wide: usize, high: usize) -> i64 {
        let mut best = vec![vec![0_i64; high + 1]; wide + 1];
        for x in 1..=wide {
            for y in 1..=high {
                let mut most = i64::from((x >= w && y >= h) || (x >= h && y >= w));
                for at in 1..=x / 2 {
                    most = most.max(best[at][y] + best[x - at][y]);
                }
                for at in 1..=y / 2 {
                    most = most.max(best[x][at] + best[x][y - at]);
                }
                best[x][y] = most;
            }
        }
        best[wide][high]
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(192))]

        /// The number is that of every guillotine plan tried one by one; nothing overlaps, gaps are kept and nothing leaves the room.
        #[test]
        fn as_many_as_brute_force_finds(w in 2i64..14, h in 2i64..14, wide in 5i64..44, high in 5i64..44, gap in 0i64..3, bleed in 0i64..2, dx in 0i64..9) {
            let raw = |v: i64| Length::from_raw(v * 100);
            let room = Room::new(Rect::new(raw(dx), raw(3), raw(wide), raw(high)), raw(gap), raw(bleed), Turning::Either);
            let size = Size::new(raw(w), raw(h));
            let spots = fill(&room, size);
            let gap = gap.max(2 * bleed);
            let field = |length: i64| usize::try_from((length - 2 * bleed + gap).max(0)).unwrap_or(0);
            let side = |length: i64| usize::try_from(length + gap).unwrap_or(1);
            prop_assert_eq!(i64::try_from(spots.len()).unwrap(), brute(side(w), side(h), field(wide), field(high)));
            for (at, spot) in spots.iter().enumerate() {
                prop_assert_eq!(spot.size(), size);
                prop_assert!(room.area.contains(spot.trim.outset(room.bleed)));
                for other in &spots[at + 1..] {
                    prop_assert!(apart(spot.trim, other.trim) >= room.gap, "{spot:?} {other:?}");
                }
            }
        }

        #[test]
        fn small_pieces_on_large_sheets_lie_apart_too(w in 11i64..60, h in 11i64..60, gap in 0i64..4) {
            let area = Rect::of(PAPERS[3].size).outset(Length::mm(-5.0));
            let room = Room::new(area, Length::mm(gap as f64 / 2.0), Length::ZERO, Turning::Either);
            let size = Size::new(Length::mm(w as f64), Length::mm(h as f64 + 0.37));
            let spots = fill(&room, size);
            let (a, b) = (room.grid(size), room.grid(size.turned()));
            prop_assert!(spots.len() as i64 >= (a.0 * a.1).max(b.0 * b.1));
            for (at, spot) in spots.iter().enumerate() {
                prop_assert!(room.area.contains(spot.trim));
                prop_assert!(spots[at + 1..].iter().all(|other| apart(spot.trim, other.trim) >= room.gap));
            }
        }
    }

    /// How far two boxes lie apart, across or down; negative where they overlap.
    fn apart(a: Rect, b: Rect) -> Length {
        let across = (b.x - a.right()).max(a.x - b.right());
        let down = (b.y - a.bottom()).max(a.y - b.bottom());
        across.max(down)
    }
}
