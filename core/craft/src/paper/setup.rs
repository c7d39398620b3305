//! How pieces are to be laid on sheets: everything somebody decides, kept under a name and used again.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_imposition::{BackStands, LabelStock, Margins, Marks, Paper, PaperTurn, SheetError, Turning, paper_named};
use vatman_units::{Length, Point, Size};

/// What is laid on sheets how.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum SheetKind {
    /// As many pieces on each sheet as there is room for.
    #[default]
    Fill,
    /// On labels that are cut already.
    Labels {
        /// Where they lie.
        stock: LabelStock,
    },
    /// Sides as the pages of a booklet, stapled through its fold.
    Booklet {
        /// Of a sheet of its paper.
        thickness: Length,
    },
    /// A piece larger than the paper over several sheets.
    Poster {
        /// How far sheets lie over each other.
        overlap: Length,
    },
    /// A card whose four panels are printed on one face of a sheet that is folded twice.
    Quarters,
}

impl SheetKind {
    /// What can be laid of a piece, by name, each as it begins.
    #[must_use]
    pub fn offered(piece: &vatman_document::Piece) -> Vec<(Self, &'static str)> {
        let (sides, folds) = (piece.sides.len(), piece.format.finish.folds);
        let inch = Length::inches;
        // Thirty address labels on a Letter sheet, as packets have them.
        let stock = LabelStock {
            columns: 3,
            rows: 10,
            label: Size::new(inch(2.625), inch(1.0)),
            left: inch(0.1875),
            top: inch(0.5),
            across: inch(2.75),
            down: inch(1.0),
        };
        let mut offered = vec![(Self::Fill, "As many as fit"), (Self::Labels { stock }, "On labels")];
        if sides > 2 {
            offered.push((Self::Booklet { thickness: Length::mm(0.1) }, "As a booklet"));
        }
        if (folds.lines().len() == 1 && !folds.is_level() && sides > 1) || (folds.is_none() && sides > 3) {
            offered.push((Self::Quarters, "A card, folded twice"));
        }
        offered.push((Self::Poster { overlap: Length::mm(10.0) }, "Over several sheets"));
        offered
    }
}

/// The backs of sheets.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Backs {
    /// How the paper is turned.
    pub turn: PaperTurn,
    /// Whether somebody turns it and puts it in again, instead of the printer.
    #[serde(default)]
    pub by_hand: bool,
    /// How the backs stand to their fronts.
    #[serde(default)]
    pub stands: BackStands,
    /// By how much the printer misses on backs, as read off the test sheet: what it prints too far right and down is moved back.
    #[serde(default)]
    pub off: Point,
}

/// How pieces are to be laid on sheets.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct SheetSetup {
    /// A paper by its name, or its size as typed.
    pub paper: String,
    /// Whether it lies; without a say whichever way holds more.
    #[serde(default)]
    pub lying: Option<bool>,
    /// What the printer cannot reach, as seen.
    pub margins: Margins,
    /// Between pieces.
    #[serde(default)]
    pub gap: Length,
    /// Whether pieces carry their bleed.
    #[serde(default)]
    pub bleed: bool,
    /// How cuts are marked.
    #[serde(default)]
    pub marks: Marks,
    /// Whether registration marks stand in the margins.
    #[serde(default)]
    pub registration: bool,
    /// Whether the pieces stand in the middle of the paper, instead of in its upper left.
    #[serde(default)]
    pub middle: bool,
    /// Which way pieces may lie.
    #[serde(default)]
    pub turning: Turning,
    /// Mirrored, as for transfers that are ironed on.
    #[serde(default)]
    pub mirrored: bool,
    /// The backs; nothing prints fronts alone.
    #[serde(default)]
    pub backs: Option<Backs>,
    /// What is laid how.
    #[serde(default)]
    pub kind: SheetKind,
    /// Colours in the four process inks.
    #[serde(default)]
    pub process: bool,
    /// Hundredths of what a sheet costs; 0 where that is not known.
    #[serde(default)]
    pub price: u32,
    /// Pieces are printed at so much of their size, in thousandths; 1,000 is as they are.
    #[serde(default = "whole")]
    pub scale: u32,
}

const fn whole() -> u32 {
    1_000
}

impl Default for SheetSetup {
    fn default() -> Self {
        Self {
            paper: "a4".into(),
            lying: None,
            // What nearly every printer at home reaches.
            margins: Margins::all(Length::mm(5.0)),
            gap: Length::ZERO,
            bleed: false,
            marks: Marks::Crop,
            registration: false,
            middle: false,
            turning: Turning::Either,
            mirrored: false,
            backs: None,
            kind: SheetKind::Fill,
            process: false,
            price: 0,
            scale: whole(),
        }
    }
}

impl SheetSetup {
    /// As for paper a piece is thought of in: inches or millimetres, and with its bleed and backs where it has them.
    #[must_use]
    pub fn for_piece(piece: &vatman_document::Piece) -> Self {
        let inches = piece.format.unit == vatman_units::Unit::In;
        Self {
            paper: if inches { "letter" } else { "a4" }.into(),
            margins: if inches { Margins::all(Length::inches(0.25)) } else { Margins::all(Length::mm(5.0)) },
            bleed: piece.format.bleed.is_positive(),
            backs: (piece.sides.len() > 1).then(Backs::default),
            ..Self::default()
        }
    }

    /// How much of their size pieces are printed at.
    #[must_use]
    pub fn factor(&self) -> f64 {
        f64::from(self.scale.clamp(100, 4_000)) / 1_000.0
    }

    /// The papers to try, upright first where either will do.
    ///
    /// # Errors
    /// [`SheetError`] for a paper or margins that make no sense.
    pub(crate) fn papers(&self) -> Result<Vec<Paper>, SheetError> {
        let named = paper_named(&self.paper)?;
        let known = vatman_imposition::PAPERS.iter().any(|kind| kind.size == named);
        let ways = match self.lying {
            // A size that was typed lies as it was typed.
            None if !known => vec![named],
            None => vec![named, named.turned()],
            Some(lying) => vec![if lying == (named.w > named.h) { named } else { named.turned() }],
        };
        ways.into_iter().map(|size| Paper::new(size, self.margins)).collect()
    }
}
