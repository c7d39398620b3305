//! What setting text comes to: glyphs where they stand, in runs and lines, and the places of the caret.

use std::ops::Range;

use kurbo::Affine;
use serde::Serialize;
use ts_rs::TS;
use vatman_document::Tint;

use crate::FaceId;

/// A positioned glyph.
#[derive(Debug, Clone, PartialEq)]
pub struct Glyph {
    /// Index in the face.
    pub id: u32,
    /// Origin.
    pub x: f64,
    /// Baseline.
    pub y: f64,
    /// Distance to the next glyph, spacing included.
    pub advance: f64,
    /// Turn about its origin, radians clockwise; 0 but on a curve.
    pub turn: f64,
    /// The bytes of [`GlyphRun::text`] it stands for; empty where another glyph of its cluster already does.
    pub text: Range<usize>,
}

impl Glyph {
    /// From outlines of a size of one to where this glyph of a size stands.
    #[must_use]
    pub fn transform(&self, size: f64) -> Affine {
        Affine::translate((self.x, self.y)) * Affine::rotate(self.turn) * Affine::scale(size)
    }
}

/// Glyphs of one face, size and colour on one line, in visual order.
#[derive(Debug, Clone, PartialEq)]
pub struct GlyphRun {
    /// Face.
    pub face: FaceId,
    /// Size.
    pub size: f64,
    /// Colour of its own, if the range has one.
    pub tint: Option<Tint>,
    /// Whether it stands on a panel of the words' own colour: what is drawn there reads on that.
    pub on_panel: bool,
    /// Index in [`crate::Setting::says`] of the line it stands on.
    pub line: usize,
    /// Whether its letters are set so far apart that the gaps could be taken for spaces.
    pub spaced: bool,
    /// The letters, as shown.
    pub text: String,
    /// The glyphs.
    pub glyphs: Vec<Glyph>,
    /// Lines under or through the letters: distance of the top below the baseline, and thickness.
    pub bars: Vec<(f64, f64)>,
}

/// A line of text.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Line {
    /// Left edge of its letters.
    pub x: f64,
    /// Width of its letters without trailing space.
    pub width: f64,
    /// Top.
    pub top: f64,
    /// Baseline.
    pub baseline: f64,
    /// Bottom.
    pub bottom: f64,
}

/// A place where the caret can stand.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, TS)]
pub struct Caret {
    /// Offset in the typed text, in UTF-16 units.
    pub at: usize,
    /// From the left of the item's box, CSS pixels.
    pub x: f64,
    /// Top.
    pub top: f64,
    /// Bottom.
    pub bottom: f64,
    /// Turn about its middle, degrees clockwise.
    pub turn: f64,
}
