//! The rows of a list as what pieces say.

use serde::Serialize;
use ts_rs::TS;
use vatman_document::{AssetId, Color, Content, Job, Paint, Part, Piece, Record, RichText};

use crate::check::{FindingKind, findings};
use crate::list::fields::{Filling, Fills};
use crate::list::table::Table;
use crate::studio::Studio;

/// A row from which no piece is made.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct BadRow {
    /// Its line in the file, counted from 1.
    #[ts(type = "number")]
    pub line: u64,
    /// Why, in plain words.
    pub says: String,
}

/// What a list comes to.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Filled {
    /// One for each good row, in their order.
    pub records: Vec<Record>,
    /// The lines they come from.
    pub lines: Vec<u64>,
    /// Rows that are left out.
    pub bad: Vec<BadRow>,
}

/// Fills parts of a piece from the rows of a table. A row that cannot fill them is told with its line and the reason; the others go on.
/// `picture` knows pictures by the name of their file.
#[must_use]
pub fn fill_rows(
    job: &Job,
    piece: &Piece,
    table: &Table,
    fillings: &[Filling],
    picture: &dyn Fn(&str) -> Option<AssetId>,
) -> Filled {
    let mut filled = Filled::default();
    let needed = needed(job, fillings);
    for row in &table.rows {
        let wide = table.columns.len();
        let extra = row.cells.iter().skip(wide).any(|cell| !cell.is_empty());
        let outcome = if row.cells.len() < wide && fillings.iter().any(|filling| filling.column >= row.cells.len()) {
            Err(format!("It has {} of {wide} cells; a separator may be missing.", row.cells.len()))
        } else if extra {
            Err(format!(
                "It has {} cells and the list {wide} columns; quote what has a separator in it.",
                row.cells.len()
            ))
        } else {
            record(job, piece, (table, &row.cells), fillings, needed, picture)
        };
        match outcome {
            Ok(record) => {
                filled.records.push(record);
                filled.lines.push(row.line);
            }
            Err(says) => filled.bad.push(BadRow { line: row.line, says }),
        }
    }
    filled
}

/// The column no row may leave empty: that of the headline, or the first that fills words.
fn needed(job: &Job, fillings: &[Filling]) -> Option<usize> {
    let words = || fillings.iter().filter(|filling| filling.fills == Fills::Words);
    let headline = words().find(|filling| job.kins.get(&filling.kin).is_some_and(|kin| kin.part == Part::Headline));
    headline.or_else(|| words().next()).or(fillings.first()).map(|filling| filling.column)
}

fn record(
    job: &Job,
    piece: &Piece,
    (table, cells): (&Table, &[String]),
    fillings: &[Filling],
    needed: Option<usize>,
    picture: &dyn Fn(&str) -> Option<AssetId>,
) -> Result<Record, String> {
    let mut record = Record::default();
    for filling in fillings {
        let cell = cells.get(filling.column).map_or("", String::as_str);
        let column = table.columns.get(filling.column).map_or("", String::as_str);
        if cell.is_empty() && needed == Some(filling.column) {
            return Err(format!("\u{201c}{column}\u{201d} is empty."));
        }
        let Some(now) = now(job, piece, filling) else { continue };
        match (filling.fills, now) {
            (Fills::Words, Content::Words { text, prompt }) => {
                if cell.len() > Content::LONGEST_TEXT {
                    return Err(format!("\u{201c}{column}\u{201d} is longer than a text can be."));
                }
                let content = Content::Words { text: said(text, cell), prompt: prompt.clone() };
                record.contents.insert(filling.kin.clone(), content);
            }
            (Fills::Picture, Content::Picture { focus, frame, fit, .. }) => {
                let found = if cell.is_empty() {
                    None
                } else {
                    let missing = || format!("There is no picture \u{201c}{cell}\u{201d} on the shelf.");
                    Some(picture(cell).ok_or_else(missing)?)
                };
                let content = Content::Picture { picture: found, focus: *focus, frame: frame.clone(), fit: *fit };
                record.contents.insert(filling.kin.clone(), content);
            }
            (Fills::Code, Content::Code { code }) => {
                let code = vatman_document::Code { says: code.says.with(cell), ..code.clone() };
                if let Some(fault) = code.fault() {
                    return Err(fault.to_string());
                }
                record.contents.insert(filling.kin.clone(), Content::Code { code });
            }
            (Fills::Colour, Content::Shape { .. }) if !cell.is_empty() => {
                let color: Color = cell.parse().map_err(|_| format!("\u{201c}{cell}\u{201d} is not a colour."))?;
                record.fills.insert(filling.kin.clone(), Paint::flat(color));
            }
            _ => {}
        }
    }
    Ok(record)
}

/// What the part says in this piece now.
fn now<'a>(job: &'a Job, piece: &'a Piece, filling: &Filling) -> Option<&'a Content> {
    let item = piece.sides.iter().flat_map(|side| &side.items).find(|item| item.kin == filling.kin)?;
    job.plain(item).map(|plain| plain.content)
}

/// New words in the style the old ones begin with.
fn said(text: &RichText, cell: &str) -> RichText {
    match text.runs().first() {
        Some(first) if !cell.is_empty() => {
            vec![vatman_document::Run { text: cell.to_owned(), style: first.style.clone() }].into()
        }
        _ => RichText::plain(cell),
    }
}

/// Of some records those in which words do not fit, or have letters nothing can set: their index and what is the matter.
#[must_use]
pub fn spilling(studio: &Studio, job: &Job, piece: &Piece, records: &[Record]) -> Vec<(usize, String)> {
    let lost = |kind| matches!(kind, FindingKind::Spill | FindingKind::BeyondTrim | FindingKind::MissingLetters);
    let mut out = Vec::new();
    for (at, record) in records.iter().enumerate() {
        let filled = job.filled(record);
        let Some(own) = filled.piece(&piece.id) else { continue };
        let found = findings(studio, &filled, own, None).into_iter().filter(|finding| lost(finding.kind));
        out.extend(found.map(|finding| (at, finding.says)).next());
    }
    out
}
