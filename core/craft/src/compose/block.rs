//! Rows of words that fill a box together: the largest common scale at which all of them fit.

use vatman_document::{Part, RichText, TypeLook, VAlign};
use vatman_type::Typesetter;
use vatman_units::{Length, Rect, Size};

use crate::compose::lay_out::Said;

/// A row to be placed.
#[derive(Clone)]
pub(crate) struct Row {
    pub part: Part,
    /// How much larger than usual its type has to be to be read.
    pub low: f64,
    pub said: Said,
}

/// A row in its place.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct PlacedRow {
    pub part: Part,
    /// Box of the words; of a button the room it may widen into, less its padding.
    pub rect: Rect,
    /// Size of the type.
    pub size: Length,
}

/// The padding of a button above and below its words, as a share of that beside them.
pub(crate) const PAD_HIGH: f64 = 0.55;

/// How much larger than the least size a headline is at least.
pub(crate) const HEADLINE: f64 = 1.4;

/// What limits a block.
pub(crate) struct BlockLimits {
    /// Largest size of the headline.
    pub largest: Length,
    /// Least size of a row in a usual family: smaller than this nobody reads.
    pub least: Length,
    /// Space between two rows, in the geometric mean of their sizes.
    pub gap: f64,
    pub stand: VAlign,
}

/// What matters most comes first: where there is not room for all, what comes last here is left out first.
pub(crate) const WEIGHT: [Part; 10] = [
    Part::Headline,
    Part::Price,
    Part::When,
    Part::Action,
    Part::Where,
    Part::Support,
    Part::Contact,
    Part::Mark,
    Part::Detail,
    Part::SmallPrint,
];

/// Places rows in a box, and leaves out the least important ones where there is not room for all at sizes that can be read. Returns
/// the rows that stand, and the places in `rows` of those left out.
pub(crate) fn place_most(
    rows: &[Row],
    within: Rect,
    limits: &BlockLimits,
    typesetter: &Typesetter,
) -> (Vec<PlacedRow>, Vec<usize>) {
    let weight = |at: usize| importance(rows[at].part);
    let mut kept: Vec<usize> = (0..rows.len()).collect();
    loop {
        let these: Vec<Row> = kept.iter().map(|at| rows[*at].clone()).collect();
        let (placed, fits) = place_rows(&these, within, limits, typesetter);
        if fits || kept.len() < 2 {
            return (placed, (0..rows.len()).filter(|at| !kept.contains(at)).collect());
        }
        // Of two of one part the later goes first.
        let least = kept.iter().copied().max_by_key(|at| (weight(*at), *at));
        kept.retain(|at| Some(*at) != least);
    }
}

/// Places rows in a box, and whether they fit at sizes that can be read. Where even the least sizes do not fit, they give way too, down
/// to a third: what cannot be read can be seen and shortened, what has run off the sheet cannot.
fn place_rows(rows: &[Row], within: Rect, limits: &BlockLimits, typesetter: &Typesetter) -> (Vec<PlacedRow>, bool) {
    let measure = |scale: f64| measure_rows(rows, within, limits, typesetter, scale);
    let fits = |rows: &Measured| rows.inside && rows.height <= within.h;
    let (mut low, mut high) = (0.0, 1.0);
    let mut best = measure(1.0);
    let mut readable = true;
    if !fits(&best) {
        // Twelve halvings find the scale to a four-thousandth of the largest size.
        for _ in 0..12 {
            let middle = f64::midpoint(low, high);
            let tried = measure(middle);
            if fits(&tried) {
                (low, best) = (middle, tried);
            } else {
                high = middle;
            }
        }
        if low == 0.0 {
            readable = fits(&measure(0.0));
            let smaller = |share: f64| {
                measure_rows(
                    rows,
                    within,
                    &BlockLimits { least: limits.least.scaled(share), ..*limits },
                    typesetter,
                    0.0,
                )
            };
            best = (0..=20)
                .map(|step| smaller(1.0 - f64::from(step) / 30.0))
                .find(fits)
                .unwrap_or_else(|| smaller(1.0 / 3.0));
        }
    }
    let spare = (within.h - best.height).max(Length::ZERO);
    let down = match limits.stand {
        VAlign::Top => Length::ZERO,
        VAlign::Middle => spare.half(),
        VAlign::Bottom => spare,
    };
    for row in &mut best.rows {
        row.rect = row.rect.moved(Length::ZERO, down);
    }
    (best.rows, readable)
}

struct Measured {
    rows: Vec<PlacedRow>,
    height: Length,
    /// No word is wider than the box.
    inside: bool,
}

fn measure_rows(rows: &[Row], within: Rect, limits: &BlockLimits, typesetter: &Typesetter, scale: f64) -> Measured {
    let mut out = Measured { rows: Vec::new(), height: Length::ZERO, inside: true };
    let mut above = Length::ZERO;
    for (index, row) in rows.iter().enumerate() {
        // What matters most is larger than the rest also where all of it is small.
        let least = limits.least.scaled(if row.part == Part::Headline { row.low.max(HEADLINE) } else { row.low });
        let size = limits.largest.scaled(scale * row.said.ratio).max(least.min(limits.largest));
        let pad = row.said.pad.map_or(Length::ZERO, |pad| size.scaled(pad));
        let width = (within.w - pad - pad).max(Length::from_raw(1));
        let set = set_row(row, size, width, typesetter);
        out.inside &= set.0;
        if index > 0 {
            out.height += Size::new(size, above).measure().scaled(limits.gap);
        }
        above = size;
        let top = within.y + out.height;
        let high = pad.scaled(PAD_HIGH);
        let rect = Rect::new(within.x + pad, top + high, within.w - pad - pad, set.1);
        out.height += set.1 + high + high;
        out.rows.push(PlacedRow { part: row.part, rect, size });
    }
    out
}

/// How far down the list of what matters a part stands; what is not on it comes last.
pub(crate) fn importance(part: Part) -> usize {
    WEIGHT.iter().position(|other| *other == part).unwrap_or(WEIGHT.len())
}

fn set_row(row: &Row, size: Length, width: Length, typesetter: &Typesetter) -> (bool, Length) {
    set_text(&row.said.text, &row.said.look, size, width, typesetter)
}

/// Whether every word fits a width, and the height of all lines.
pub(crate) fn set_text(
    text: &RichText,
    look: &TypeLook,
    size: Length,
    width: Length,
    typesetter: &Typesetter,
) -> (bool, Length) {
    let unit = size.to_css_px().max(1e-6);
    let taken = typesetter.measured(text, look, width.to_css_px() / unit);
    let inside = taken.inside && Length::css_px(taken.width * unit) <= width + Length::css_px(0.5);
    (inside, Length::css_px(taken.height * unit))
}
