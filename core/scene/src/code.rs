//! Scannable codes as outlines.

use kurbo::{BezPath, Rect, Shape as _};
use qrcode::bits::Bits;
use qrcode::{Color, EcLevel, QrCode, Version};

/// A printed module is at least so wide where a higher correction could be had by making them narrower, in CSS pixels: half a millimetre.
const LEAST_MODULE: f64 = 0.5 * 96.0 / 25.4;
/// Clear modules all round (ISO/IEC 18004, quiet zone of a QR code).
const QUIET: usize = 4;
/// Share of the width of a code that what stands in its middle covers, with what is kept clear around it: a fourteenth of the area, of
/// which the highest correction (some 30 % of the words of the code) can make up several times.
const MIDDLE: f64 = 0.27;

/// How much of a code may be lost and still be read.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Correction {
    /// About 7 %.
    Low,
    /// About 15 %.
    Medium,
    /// About 25 %.
    Quarter,
    /// About 30 %.
    High,
}

impl Correction {
    const ALL: [Self; 4] = [Self::High, Self::Quarter, Self::Medium, Self::Low];

    const fn level(self) -> EcLevel {
        match self {
            Self::Low => EcLevel::L,
            Self::Medium => EcLevel::M,
            Self::Quarter => EcLevel::Q,
            Self::High => EcLevel::H,
        }
    }
}

/// The modules of a code.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct CodeGrid {
    /// Modules side by side, without the quiet zone.
    pub wide: usize,
    /// How much of it may be lost.
    pub correction: Correction,
    dark: Vec<bool>,
}

/// The modules of a code that is so wide with its quiet zone, in CSS pixels: with the highest correction at which its modules stay wide
/// enough to be printed, at least the lowest. What has something in its middle has the highest. Nothing for what is too long.
#[must_use]
pub fn code_grid(words: &str, side: f64, marked: bool) -> Option<CodeGrid> {
    let made = |correction: Correction| {
        let code = encoded(words, correction.level())?;
        let dark = code.to_colors().into_iter().map(|color| color == Color::Dark).collect();
        Some(CodeGrid { wide: code.width(), correction, dark })
    };
    if marked {
        return made(Correction::High);
    }
    let mut coarsest = None;
    for correction in Correction::ALL {
        let Some(grid) = made(correction) else { continue };
        if grid.module(side) >= LEAST_MODULE {
            return Some(grid);
        }
        coarsest = Some(grid);
    }
    coarsest
}

/// The smallest code of some words. What is more than plain Latin letters says that it is UTF-8 (ISO/IEC 18004, ECI 26): without that
/// readers guess.
fn encoded(words: &str, level: EcLevel) -> Option<QrCode> {
    if words.is_ascii() {
        return QrCode::with_error_correction_level(words.as_bytes(), level).ok();
    }
    (1..=40).map(Version::Normal).find_map(|version| {
        let mut bits = Bits::new(version);
        bits.push_eci_designator(26).ok()?;
        bits.push_byte_data(words.as_bytes()).ok()?;
        bits.push_terminator(level).ok()?;
        QrCode::with_bits(bits, level).ok()
    })
}

impl CodeGrid {
    /// Width of a module of a code that is so wide with its quiet zone.
    #[must_use]
    pub fn module(&self, side: f64) -> f64 {
        side / (self.wide + 2 * QUIET) as f64
    }

    /// The box in the middle, in the coordinates of a square of a side at the origin, in which something else may stand, on whole modules.
    #[must_use]
    pub fn middle(&self, side: f64) -> Rect {
        // As odd as the width of every code is.
        let covers = ((self.wide as f64 * MIDDLE) as usize).max(3) | 1;
        let module = self.module(side);
        let from = (QUIET + (self.wide - covers.min(self.wide)) / 2) as f64 * module;
        Rect::new(from, from, from + covers as f64 * module, from + covers as f64 * module)
    }

    /// The outline of the dark modules in a square of a side at the origin; without those in the middle where something else stands there.
    #[must_use]
    pub fn path(&self, side: f64, marked: bool) -> BezPath {
        let module = self.module(side);
        let middle = self.middle(side);
        let mut path = BezPath::new();
        let at = |index: usize| (QUIET + index) as f64 * module;
        for row in 0..self.wide {
            let free = |column: usize| {
                let centre = kurbo::Point::new(at(column) + module / 2.0, at(row) + module / 2.0);
                self.dark[row * self.wide + column] && !(marked && middle.contains(centre))
            };
            let mut column = 0;
            while column < self.wide {
                let run = (column..self.wide).take_while(|at| free(*at)).count();
                if run > 0 {
                    path.extend(Rect::new(at(column), at(row), at(column + run), at(row + 1)).path_elements(0.01));
                }
                column += run.max(1);
            }
        }
        path
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn small_codes_correct_less_and_marked_ones_most() {
        let words = "https://mossback.example/classes/saturday";
        let large = code_grid(words, 200.0, false).unwrap();
        let small = code_grid(words, 74.0, false).unwrap();
        assert_eq!(large.correction, Correction::High);
        assert!(small.correction < Correction::High && small.module(74.0) >= LEAST_MODULE);
        assert_eq!(code_grid(words, 20.0, false).unwrap().correction, Correction::Low);
        assert_eq!(code_grid(words, 20.0, true).unwrap().correction, Correction::High);
        assert!(code_grid(&"x".repeat(4_000), 500.0, false).is_none());
    }

    #[test]
    fn dark_modules_cover_what_they_should_and_keep_clear_of_the_edge_and_the_middle() {
        let grid = code_grid("mossback.example", 290.0, false).unwrap();
        let module = grid.module(290.0);
        let dark = grid.dark.iter().filter(|dark| **dark).count() as f64;
        let path = grid.path(290.0, false);
        assert!((path.area().abs() - dark * module * module).abs() < 1e-6);
        let bounds = path.bounding_box();
        assert!((bounds.x0 - 4.0 * module).abs() < 1e-9 && (290.0 - bounds.y1 - 4.0 * module).abs() < 1e-9);
        let middle = grid.middle(290.0);
        assert!((middle.center().x - 145.0).abs() < 1e-6 && (middle.width() / module).round() % 2.0 == 1.0);
        let open = grid.path(290.0, true);
        assert!(open.area().abs() < path.area().abs());
        assert_eq!(open.winding(middle.center()), 0);
        assert!(middle.area() / (grid.wide as f64 * module).powi(2) < 0.08);
    }
}
