//! The finished size of a piece and what belongs to it.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;
use vatman_units::{Length, Ppi, Size, Unit};

use crate::Finish;

/// Finished size, resolution, bleed and safe area of a piece.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Format {
    /// Finished (trimmed) size.
    pub size: Size,
    /// The unit people think of it in.
    pub unit: Unit,
    /// Resolution of pixel output, and what a pixel is.
    pub ppi: Ppi,
    /// Extra all round that the knife takes away.
    pub bleed: Length,
    /// Distance from the edge within which nothing important may stand.
    pub safe: Length,
    /// What is done to it beside trimming.
    #[serde(default, skip_serializing_if = "Finish::is_none")]
    #[ts(as = "Option<Finish>", optional)]
    pub finish: Finish,
}

/// A format nothing can be made in.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum FormatError {
    /// No extent.
    #[error("A sheet needs a width and a height above 0.")]
    Empty,
    /// Too small to hold a pixel, or a hair's breadth.
    #[error("The smallest sheet is 8 px, 2 mm or a sixteenth of an inch a side.")]
    TooSmall,
    /// Beyond 200 inches, the largest page a PDF can hold, or too many pixels to hold in memory.
    #[error(
        "{0} by {1} px is too large. A sheet may be up to 200 in and 16,000 px a side, and 130 million pixels in all. Lower the resolution or the size."
    )]
    TooLarge(i64, i64),
    /// Bleed or safe area that is negative or eats the sheet.
    #[error("Bleed and safe area are at least 0 and less than half the shorter side.")]
    Edges,
    /// Corners rounder than round.
    #[error("The radius of corners is at least 0 and at most half the shorter side.")]
    Corners,
    /// A hole beside the sheet, or a ring that is no wider than its hole.
    #[error("A hole is at least 1 mm wide and lies whole on the sheet, and its ring is wider than it.")]
    Hole,
    /// Panels nothing can be folded to.
    #[error("A sheet has up to five folds, from left to right or from top to bottom in order, at least 8 mm apart.")]
    Folds,
}

impl Format {
    /// A screen format of so many pixels.
    #[must_use]
    pub fn screen(w: u32, h: u32) -> Self {
        let size = Size::new(Length::px(f64::from(w), Ppi::SCREEN), Length::px(f64::from(h), Ppi::SCREEN));
        Self {
            size,
            unit: Unit::Px,
            ppi: Ppi::SCREEN,
            bleed: Length::ZERO,
            safe: size.w.min(size.h).scaled(0.04),
            finish: Finish::default(),
        }
    }

    /// Width and height of the finished size in whole pixels at `ppi`, at least 1.
    #[must_use]
    pub fn pixels_at(&self, ppi: Ppi) -> (u32, u32) {
        let whole = |length: Length| length.to_px(ppi).round().clamp(1.0, f64::from(u32::MAX)) as u32;
        (whole(self.size.w), whole(self.size.h))
    }

    /// Checks that something can be made in it.
    ///
    /// # Errors
    /// A [`FormatError`] whose text can be shown.
    pub fn check(&self) -> Result<(), FormatError> {
        let (w, h) = (self.size.w, self.size.h);
        if !w.is_positive() || !h.is_positive() {
            return Err(FormatError::Empty);
        }
        let (px_w, px_h) = (w.to_px(self.ppi).round() as i64, h.to_px(self.ppi).round() as i64);
        if w.min(h) < Length::inches(1.0 / 16.0) || px_w.min(px_h) < 8 {
            return Err(FormatError::TooSmall);
        }
        if w.max(h) > Length::inches(200.0) || px_w.max(px_h) > 16_000 || px_w.saturating_mul(px_h) > 130_000_000 {
            return Err(FormatError::TooLarge(px_w, px_h));
        }
        let most = w.min(h).half();
        if self.bleed.raw() < 0 || self.safe.raw() < 0 || self.bleed >= most || self.safe >= most {
            return Err(FormatError::Edges);
        }
        self.finish.check(self.size)
    }

    /// The size in its own unit, as shown: `1080 × 1350 px`, `3.5 × 2 in`.
    #[must_use]
    pub fn label(&self) -> String {
        let show = |length: Length| {
            let value = format!("{:.3}", length.to_unit(self.unit, self.ppi));
            value.trim_end_matches('0').trim_end_matches('.').to_owned()
        };
        format!("{} × {} {}", show(self.size.w), show(self.size.h), self.unit)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_card_with_bleed_is_a_quarter_inch_larger() {
        let card = Format {
            size: Size::new(Length::inches(3.5), Length::inches(2.0)),
            unit: Unit::In,
            ppi: Ppi::PRINT,
            bleed: Length::inches(0.125),
            safe: Length::inches(0.125),
            finish: Finish::default(),
        };
        card.check().unwrap();
        let page = vatman_units::Rect::of(card.size).outset(card.bleed);
        assert_eq!(page.size(), Size::new(Length::inches(3.75), Length::inches(2.25)));
        assert_eq!(card.label(), "3.5 × 2 in");
        assert_eq!(card.pixels_at(card.ppi), (1_050, 600));
    }

    #[test]
    fn senseless_sizes_are_refused() {
        let px = |w: f64, h: f64| {
            Format {
                size: Size::new(Length::px(w, Ppi::SCREEN), Length::px(h, Ppi::SCREEN)),
                ..Format::screen(100, 100)
            }
            .check()
        };
        assert_eq!(px(0.0, 0.0), Err(FormatError::Empty));
        assert_eq!(px(-100.0, 50.0), Err(FormatError::Empty));
        assert_eq!(px(3.0, 500.0), Err(FormatError::TooSmall));
        assert_eq!(px(30_000.0, 30_000.0), Err(FormatError::TooLarge(30_000, 30_000)));
        assert!(px(1e15, 1e15).unwrap_err().to_string().contains("too large"));
        assert_eq!(Format { bleed: Length::inches(-1.0), ..Format::screen(100, 100) }.check(), Err(FormatError::Edges));
        assert!(Format::screen(4_500, 5_400).check().is_ok());
    }
}
