//! Printing on sheets, and from lists.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_craft::{BadRow, FileKind, Filling, ListColumn, ListField, SheetKind, SheetSetup};
use vatman_document::PieceId;
use vatman_imposition::PaperKind;

use crate::print_shop::{OrderState, ShopPaper};

/// So many copies of a piece.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct PrintCopies {
    /// Which.
    pub piece: PieceId,
    /// How many; without a number one sheet is filled.
    #[serde(default)]
    #[ts(optional)]
    pub count: Option<u32>,
}

/// What is to be printed.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct PrintWish {
    /// Which pieces.
    pub pieces: Vec<PrintCopies>,
    /// How they are laid on sheets.
    pub setup: SheetSetup,
    /// Once for each row of the list of the first.
    #[serde(default)]
    #[ts(as = "Option<bool>", optional)]
    pub list: bool,
}

/// A sheet layout kept under a name.
#[derive(Debug, Clone, Serialize, TS)]
pub struct KeptSetup {
    /// Its name.
    pub name: String,
    /// The layout.
    pub setup: SheetSetup,
}

/// What can be laid of a piece.
#[derive(Debug, Clone, Serialize, TS)]
pub struct KindOffer {
    /// As it begins.
    pub kind: SheetKind,
    /// Its name.
    pub name: &'static str,
}

/// What sheets begin with.
#[derive(Debug, Clone, Serialize, TS)]
pub struct SheetStart {
    /// For this piece.
    pub setup: SheetSetup,
    /// What can be laid of it.
    pub kinds: Vec<KindOffer>,
    /// Papers people know by name.
    pub papers: Vec<PaperKind>,
    /// Layouts kept.
    pub kept: Vec<KeptSetup>,
}

/// A good row of a list.
#[derive(Debug, Clone, Serialize, TS)]
pub struct ListRow {
    /// Its line in the file.
    #[ts(type = "number")]
    pub line: u64,
    /// What it says first.
    pub says: String,
}

/// The list of a piece.
#[derive(Debug, Clone, Serialize, TS)]
pub struct ListCard {
    /// Name of the file.
    pub name: String,
    /// Its columns.
    pub columns: Vec<ListColumn>,
    /// What columns can fill.
    pub fields: Vec<ListField>,
    /// Which fills which.
    pub fillings: Vec<Filling>,
    /// The first of the good rows.
    pub rows: Vec<ListRow>,
    /// How many good rows there are.
    pub good: usize,
    /// Rows from which nothing is made.
    pub bad: Vec<BadRow>,
    /// Rows whose words do not fit.
    pub spills: Vec<BadRow>,
}

/// Which column fills which part.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct ListWish {
    /// Each with its column.
    pub fillings: Vec<Filling>,
}

/// Files made from a list.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct ListedFiles {
    /// One PDF with a page for each row, instead of a file for each.
    pub together: bool,
    /// Kind of the files.
    pub kind: FileKind,
    /// With the bleed.
    #[serde(default)]
    #[ts(as = "Option<bool>", optional)]
    pub bleed: bool,
}

/// A print shop.
#[derive(Debug, Clone, Serialize, TS)]
pub struct ShopCard {
    /// Its name.
    pub name: String,
    /// What it prints on.
    pub papers: Vec<ShopPaper>,
    /// How many an order begins with.
    pub count: u32,
}

/// What an order costs.
#[derive(Debug, Clone, Serialize, TS)]
pub struct QuoteCard {
    /// In hundredths.
    #[ts(type = "number")]
    pub price: u64,
    /// What it is for.
    pub says: String,
}

/// An order.
#[derive(Debug, Clone, Serialize, TS)]
pub struct OrderCard {
    /// Identity.
    pub id: String,
    /// Name of the piece.
    pub piece: String,
    /// The revision of the job that was printed.
    #[ts(type = "number")]
    pub revision: i64,
    /// When it was placed, in milliseconds since 1970 UTC.
    #[ts(type = "number")]
    pub at: i64,
    /// On which paper.
    pub paper: String,
    /// How many.
    pub count: u32,
    /// What it costs, in hundredths.
    #[ts(type = "number")]
    pub price: u64,
    /// Where it is.
    pub state: OrderState,
    /// Why it was sent back, where it was.
    pub reasons: Vec<String>,
}
