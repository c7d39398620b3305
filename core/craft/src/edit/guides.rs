//! The lines a piece is laid out by.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{Command, GuideLine, Guides, Job, Piece, PieceId};
use vatman_units::Length;

use crate::refusal::Refusal;

/// What changes about margins, columns, rows and grid; what is absent stays.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(default, rename_all = "camelCase", deny_unknown_fields)]
#[ts(optional_fields)]
pub struct GuideChange {
    /// One margin: 0 left, 1 top, 2 right, 3 bottom.
    pub margin: Option<(usize, Length)>,
    /// How many columns.
    pub columns: Option<u8>,
    /// Gutter between columns.
    pub column_gutter: Option<Length>,
    /// How many rows.
    pub rows: Option<u8>,
    /// Gutter between rows.
    pub row_gutter: Option<Length>,
    /// Squares of a grid; 0 for none.
    pub grid: Option<Length>,
}

fn piece<'a>(job: &'a Job, id: &PieceId) -> Result<&'a Piece, Refusal> {
    job.piece(id).ok_or_else(|| Refusal::Missing("piece", id.to_string()))
}

fn set(piece: &Piece, guides: Guides) -> Command {
    Command::SetGuides { piece: piece.id.clone(), guides }
}

/// Changes margins, columns, rows or grid of a piece.
///
/// # Errors
/// [`Refusal`] where the piece or the margin is not there.
pub fn change_guides(job: &Job, id: &PieceId, change: &GuideChange) -> Result<Command, Refusal> {
    let piece = piece(job, id)?;
    let mut guides = piece.guides.clone();
    if let Some((side, margin)) = change.margin {
        let held = guides.margins.get_mut(side).ok_or_else(|| Refusal::Missing("margin", side.to_string()))?;
        *held = margin;
    }
    guides.columns = change.columns.unwrap_or(guides.columns);
    guides.rows = change.rows.unwrap_or(guides.rows);
    guides.column_gutter = change.column_gutter.unwrap_or(guides.column_gutter);
    guides.row_gutter = change.row_gutter.unwrap_or(guides.row_gutter);
    if let Some(grid) = change.grid {
        guides.grid = grid.is_positive().then_some(grid);
    }
    Ok(set(piece, guides))
}

/// Whether a line at a distance lies on the sheet.
fn on_sheet(piece: &Piece, line: GuideLine) -> bool {
    let most = if line.upright { piece.format.size.w } else { piece.format.size.h };
    line.at >= Length::ZERO && line.at <= most
}

/// Adds a line, in the middle of the sheet where no place is given. One let go beside the sheet is not added.
///
/// # Errors
/// [`Refusal`] where the piece is not there.
pub fn add_guide(job: &Job, id: &PieceId, upright: bool, at: Option<Length>) -> Result<Command, Refusal> {
    let piece = piece(job, id)?;
    let middle = if upright { piece.format.size.w } else { piece.format.size.h }.half();
    let line = GuideLine { upright, at: at.unwrap_or(middle) };
    let mut guides = piece.guides.clone();
    guides.lines.extend(on_sheet(piece, line).then_some(line));
    Ok(set(piece, guides))
}

/// Moves a line; beside the sheet, or nowhere, it is taken away.
///
/// # Errors
/// [`Refusal`] where piece or line are not there.
pub fn move_guide(job: &Job, id: &PieceId, index: usize, at: Option<Length>) -> Result<Command, Refusal> {
    let piece = piece(job, id)?;
    let mut guides = piece.guides.clone();
    let line = *guides.lines.get(index).ok_or_else(|| Refusal::Missing("line", index.to_string()))?;
    match at.map(|at| GuideLine { at, ..line }).filter(|line| on_sheet(piece, *line)) {
        Some(line) => guides.lines[index] = line,
        None => drop(guides.lines.remove(index)),
    }
    Ok(set(piece, guides))
}

/// The guides of a piece in every piece they fit.
///
/// # Errors
/// [`Refusal`] where the piece is not there.
pub fn spread_guides(job: &Job, id: &PieceId) -> Result<Command, Refusal> {
    let guides = &piece(job, id)?.guides;
    let others = job.pieces.iter().filter(|other| other.id != *id && guides.fault(other.format.size).is_none());
    Ok(Command::All { commands: others.map(|other| set(other, guides.clone())).collect() })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::testing::{Everything, job_with};

    #[test]
    fn lines_are_added_moved_and_let_go_beside_the_sheet() {
        let mut job = job_with(0);
        let id = job.pieces[0].id.clone();
        let px = Length::css_px;
        let lines = |job: &Job| job.pieces[0].guides.lines.iter().map(|line| line.at).collect::<Vec<_>>();
        for (upright, at) in [(true, None), (false, Some(px(30.0))), (true, Some(px(2_000.0)))] {
            add_guide(&job, &id, upright, at).unwrap().apply(&mut job, &Everything).unwrap();
        }
        assert_eq!(lines(&job), [px(540.0), px(30.0)], "what is beside the sheet is not added");
        move_guide(&job, &id, 1, Some(px(40.0))).unwrap().apply(&mut job, &Everything).unwrap();
        move_guide(&job, &id, 0, Some(px(-1.0))).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!(lines(&job), [px(40.0)]);
        assert!(move_guide(&job, &id, 5, None).is_err());
        let change = GuideChange {
            margin: Some((2, px(20.0))),
            columns: Some(3),
            grid: Some(Length::ZERO),
            ..GuideChange::default()
        };
        change_guides(&job, &id, &change).unwrap().apply(&mut job, &Everything).unwrap();
        let guides = &job.pieces[0].guides;
        assert_eq!((guides.margins[2], guides.columns, guides.grid, guides.lines.len()), (px(20.0), 3, None, 1));
        assert!(
            change_guides(&job, &id, &GuideChange { margin: Some((4, px(1.0))), ..GuideChange::default() }).is_err()
        );
    }
}
