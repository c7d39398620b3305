//! Sheets of paper as they lie in front of one, and what of them a printer can reach.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;
use vatman_units::{Length, Ppi, Rect, Size, Unit, parse_size};

/// Why nothing can be laid on a sheet.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum SheetError {
    /// Not a paper anybody names, and not a size.
    #[error(
        "There is no paper \u{201c}{0}\u{201d}. Name one such as A4 or Letter, or type its size, such as 320 x 450 mm."
    )]
    Unknown(String),
    /// Too small or too large to be a sheet.
    #[error("A sheet measures 40 mm to 2 m a side.")]
    Size,
    /// Margins that leave nothing.
    #[error("The margins leave less than 10 mm of the sheet. Make them smaller or take larger paper.")]
    Margins,
    /// A piece larger than what can be printed on; across and down.
    #[error(
        "A piece of {0} does not fit on what can be printed of this paper, {1}. Take larger paper or smaller margins."
    )]
    TooLarge(String, String),
    /// More than can be laid out.
    #[error("That is more than can be laid out at once: at most {0}.")]
    TooMany(u32),
    /// Labels that leave their sheet or lie on each other.
    #[error("The labels do not lie beside each other on this paper. Look at rows, columns and their distance.")]
    Labels,
}

/// A paper people know by name.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, TS)]
pub struct PaperKind {
    /// How it is named in files and calls.
    pub id: &'static str,
    /// How people call it.
    pub name: &'static str,
    /// Upright.
    pub size: Size,
}

const fn mm(w: i64, h: i64) -> Size {
    Size::new(Length::from_raw(w * 36_000), Length::from_raw(h * 36_000))
}

/// Of hundredths of an inch.
const fn inches(w: i64, h: i64) -> Size {
    Size::new(Length::from_raw(w * 9_144), Length::from_raw(h * 9_144))
}

/// Papers people know by name, upright: those of printers at home first.
pub const PAPERS: [PaperKind; 10] = [
    PaperKind { id: "a4", name: "A4", size: mm(210, 297) },
    PaperKind { id: "letter", name: "Letter", size: inches(850, 1_100) },
    PaperKind { id: "legal", name: "Legal", size: inches(850, 1_400) },
    PaperKind { id: "a3", name: "A3", size: mm(297, 420) },
    PaperKind { id: "a5", name: "A5", size: mm(148, 210) },
    PaperKind { id: "tabloid", name: "11 \u{d7} 17 in", size: inches(1_100, 1_700) },
    PaperKind { id: "12x18", name: "12 \u{d7} 18 in", size: inches(1_200, 1_800) },
    PaperKind { id: "13x19", name: "13 \u{d7} 19 in", size: inches(1_300, 1_900) },
    PaperKind { id: "sra3", name: "SRA3", size: mm(320, 450) },
    PaperKind { id: "a2", name: "A2", size: mm(420, 594) },
];

/// The size of a paper by its name, or as it was typed: `a4`, `Letter`, `320 x 450 mm`, `12x18`. Numbers without a unit are inches where
/// both are below 60, else millimetres. A size that is typed lies as it is typed; a name is upright.
///
/// # Errors
/// [`SheetError`] with a sentence that can be shown.
pub fn paper_named(text: &str) -> Result<Size, SheetError> {
    let plain: String = text.to_lowercase().chars().filter(|c| !c.is_whitespace()).collect();
    if let Some(kind) = PAPERS.iter().find(|kind| kind.id == plain) {
        return Ok(kind.size);
    }
    let unknown = || SheetError::Unknown(text.trim().to_owned());
    let (bare, _) = parse_size(text, Unit::In, Ppi::SCREEN).map_err(|_| unknown())?;
    let small = bare.w.max(bare.h) < Length::inches(60.0);
    let size = if small { bare } else { parse_size(text, Unit::Mm, Ppi::SCREEN).map_err(|_| unknown())?.0 };
    let (least, most) = (Length::mm(40.0), Length::mm(2_000.0));
    if size.w.min(size.h) < least || size.w.max(size.h) > most { Err(SheetError::Size) } else { Ok(size) }
}

/// What a printer cannot reach, from each edge of the paper.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Margins {
    /// From the top.
    pub top: Length,
    /// From the right.
    pub right: Length,
    /// From the bottom.
    pub bottom: Length,
    /// From the left.
    pub left: Length,
}

impl Margins {
    /// The same all round.
    #[must_use]
    pub const fn all(by: Length) -> Self {
        Self { top: by, right: by, bottom: by, left: by }
    }

    /// At the sides, and at top and bottom.
    #[must_use]
    pub const fn sides_and_ends(sides: Length, ends: Length) -> Self {
        Self { top: ends, right: sides, bottom: ends, left: sides }
    }
}

/// A sheet as it lies in front of one.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Paper {
    /// Width and height.
    pub size: Size,
    /// What of it is out of reach.
    pub margins: Margins,
}

impl Paper {
    /// A sheet on which something can be laid.
    ///
    /// # Errors
    /// [`SheetError`] for a size or margins that make no sense.
    pub fn new(size: Size, margins: Margins) -> Result<Self, SheetError> {
        let paper = Self { size, margins };
        if size.w.min(size.h) < Length::mm(40.0) || size.w.max(size.h) > Length::mm(2_000.0) {
            return Err(SheetError::Size);
        }
        let Margins { top, right, bottom, left } = margins;
        let area = paper.printable();
        let bad = [top, right, bottom, left].iter().any(|margin| margin.raw() < 0);
        if bad || area.w.min(area.h) < Length::mm(10.0) { Err(SheetError::Margins) } else { Ok(paper) }
    }

    /// What can be printed on.
    #[must_use]
    pub fn printable(&self) -> Rect {
        let Margins { top, right, bottom, left } = self.margins;
        Rect::new(left, top, self.size.w - left - right, self.size.h - top - bottom)
    }

    /// Turned by a quarter; margins stay those of the sides and ends as they are seen.
    #[must_use]
    pub const fn turned(self) -> Self {
        Self { size: self.size.turned(), margins: self.margins }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn papers_are_known_by_name_and_by_size() {
        let inch = |w: f64, h: f64| Size::new(Length::inches(w), Length::inches(h));
        assert_eq!(paper_named("Letter"), Ok(inch(8.5, 11.0)));
        assert_eq!(paper_named("12 x 18"), Ok(inch(12.0, 18.0)));
        assert_eq!(paper_named("12 x 18 in"), Ok(inch(12.0, 18.0)));
        assert_eq!(paper_named(" A4 "), Ok(mm(210, 297)));
        assert_eq!(paper_named("297 x 210 mm"), Ok(mm(297, 210)));
        assert_eq!(paper_named("320x450"), Ok(mm(320, 450)));
        assert_eq!(paper_named("foolscap"), Err(SheetError::Unknown("foolscap".into())));
        assert_eq!(paper_named("10 x 10 mm"), Err(SheetError::Size));
        assert_eq!(paper_named("59 x 59"), Ok(inch(59.0, 59.0)));
        assert_eq!(paper_named("60 x 60"), Ok(mm(60, 60)));
        for kind in PAPERS {
            assert_eq!(paper_named(kind.id), Ok(kind.size));
            assert!(kind.size.w < kind.size.h, "{} stands upright", kind.name);
        }
    }

    #[test]
    fn margins_leave_something() {
        let a4 = PAPERS[0].size;
        let paper = Paper::new(a4, Margins::sides_and_ends(Length::mm(5.0), Length::mm(10.0))).unwrap();
        assert_eq!(
            paper.printable(),
            Rect::new(Length::mm(5.0), Length::mm(10.0), Length::mm(200.0), Length::mm(277.0))
        );
        assert_eq!(paper.turned().printable().w, Length::mm(287.0));
        assert_eq!(Paper::new(a4, Margins::all(Length::mm(100.1))), Err(SheetError::Margins));
        assert!(Paper::new(a4, Margins::all(Length::mm(100.0))).is_ok());
        assert_eq!(Paper::new(a4, Margins::all(Length::mm(-1.0))), Err(SheetError::Margins));
        assert_eq!(Paper::new(mm(39, 100), Margins::default()), Err(SheetError::Size));
        assert_eq!(Paper::new(mm(100, 2_001), Margins::default()), Err(SheetError::Size));
    }
}
