//! Colours and shared colours.

use std::fmt;
use std::sync::LazyLock;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;

use crate::SwatchId;

/// A colour in encoded sRGB with straight (not premultiplied) alpha, 8 bits each.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(try_from = "String", into = "String")]
#[ts(type = "string")]
pub struct Color {
    /// Red.
    pub r: u8,
    /// Green.
    pub g: u8,
    /// Blue.
    pub b: u8,
    /// 255 is opaque.
    pub a: u8,
}

/// Text that names no colour.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error(
    "\u{201c}{0}\u{201d} is not a colour. Type it as #2B4A8B, rgb(43 74 139), hsl(220 53% 36%), oklch(0.42 0.11 264) or cmyk(69 47 0 45)."
)]
pub struct ColorError(pub String);

impl Color {
    /// Opaque black.
    pub const BLACK: Self = Self::opaque(0, 0, 0);
    /// Opaque white.
    pub const WHITE: Self = Self::opaque(255, 255, 255);

    /// An opaque colour.
    #[must_use]
    pub const fn opaque(r: u8, g: u8, b: u8) -> Self {
        Self { r, g, b, a: 255 }
    }

    /// Relative luminance, 0 to 1, alpha ignored (WCAG 2.2, "relative luminance").
    #[must_use]
    pub fn luminance(self) -> f64 {
        let linear = |v: u8| LINEAR[usize::from(v)];
        0.2126 * linear(self.r) + 0.7152 * linear(self.g) + 0.0722 * linear(self.b)
    }

    /// The colour letters on this one have: a dark one or white, whichever has the higher contrast: 4 or more.
    #[must_use]
    pub fn letters(self) -> Self {
        let dark = Self::opaque(0x23, 0x20, 0x1d);
        if self.contrast(dark) >= self.contrast(Self::WHITE) { dark } else { Self::WHITE }
    }

    /// Contrast ratio, 1 to 21, of two opaque colours (WCAG 2.2, "contrast ratio").
    #[must_use]
    pub fn contrast(self, other: Self) -> f64 {
        let (a, b) = (self.luminance(), other.luminance());
        (a.max(b) + 0.05) / (a.min(b) + 0.05)
    }
}

/// The linear light of each encoded value of sRGB (IEC 61966-2-1), 0 to 1.
static LINEAR: LazyLock<[f64; 256]> = LazyLock::new(|| {
    std::array::from_fn(|v| {
        let v = v as f64 / 255.0;
        if v <= 0.04045 { v / 12.92 } else { ((v + 0.055) / 1.055).powf(2.4) }
    })
});

impl fmt::Display for Color {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "#{:02x}{:02x}{:02x}", self.r, self.g, self.b)?;
        if self.a < 255 { write!(f, "{:02x}", self.a) } else { Ok(()) }
    }
}

impl TryFrom<String> for Color {
    type Error = ColorError;
    fn try_from(text: String) -> Result<Self, ColorError> {
        text.parse()
    }
}

impl From<Color> for String {
    fn from(color: Color) -> Self {
        color.to_string()
    }
}

/// A colour of its own, or one shared through a swatch; written `#2b4a8b` or `@accent`.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(try_from = "String", into = "String")]
#[ts(type = "string")]
pub enum Tint {
    /// A colour used here only.
    Own(Color),
    /// The colour of a swatch of the job.
    Swatch(SwatchId),
}

impl TryFrom<String> for Tint {
    type Error = ColorError;
    fn try_from(text: String) -> Result<Self, ColorError> {
        match text.strip_prefix('@') {
            Some(id) => SwatchId::new(id).map(Self::Swatch).map_err(|_| ColorError(text)),
            None => text.parse().map(Self::Own),
        }
    }
}

impl From<Tint> for String {
    fn from(tint: Tint) -> Self {
        match tint {
            Tint::Own(color) => color.to_string(),
            Tint::Swatch(id) => format!("@{id}"),
        }
    }
}

impl From<Color> for Tint {
    fn from(color: Color) -> Self {
        Self::Own(color)
    }
}

/// A named colour of the job.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Swatch {
    /// What people call it.
    pub name: String,
    /// The colour.
    pub color: Color,
    /// What it is printed with, where somebody says so.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub ink: Option<Ink>,
}

/// What a colour is printed with.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum Ink {
    /// Of the four process inks so much each, 0 to 100 per cent.
    Process {
        /// Cyan.
        c: u8,
        /// Magenta.
        m: u8,
        /// Yellow.
        y: u8,
        /// Black.
        k: u8,
    },
    /// An ink of its own.
    Spot {
        /// How the print shop knows it.
        name: String,
    },
}

impl Swatch {
    /// A colour without a say in how it is printed.
    #[must_use]
    pub fn new(name: impl Into<String>, color: Color) -> Self {
        Self { name: name.into(), color, ink: None }
    }
}

impl Ink {
    /// Whether it can be printed.
    #[must_use]
    pub fn is_sound(&self) -> bool {
        match self {
            Self::Process { c, m, y, k } => [c, m, y, k].iter().all(|part| **part <= 100),
            Self::Spot { name } => {
                !name.trim().is_empty() && name.chars().count() <= 60 && !name.chars().any(char::is_control)
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn colours_read_and_write() {
        for (typed, written) in
            [("#2B4A8B", "#2b4a8b"), ("fff", "#ffffff"), (" #12345678 ", "#12345678"), ("#abcf", "#aabbcc")]
        {
            assert_eq!(
                typed.parse::<Color>().unwrap().to_string(),
                written.strip_suffix("ff").filter(|_| written.len() == 9).unwrap_or(written)
            );
        }
        for typed in ["", "#12", "blew", "#ggg", "#1234567", "é"] {
            assert!(typed.parse::<Color>().is_err(), "{typed}");
        }
    }

    #[test]
    fn letters_read_on_any_colour() {
        for (r, g, b) in [(0, 0, 0), (255, 255, 255), (140, 120, 130), (200, 30, 60), (30, 200, 90), (120, 120, 255)] {
            let ground = Color::opaque(r, g, b);
            assert!(ground.contrast(ground.letters()) >= 4.0, "{ground}");
        }
        assert_eq!(Color::BLACK.letters(), Color::WHITE);
        assert_ne!(Color::WHITE.letters(), Color::WHITE);
    }

    #[test]
    fn contrast_of_black_on_white_is_21() {
        assert!((Color::BLACK.contrast(Color::WHITE) - 21.0).abs() < 1e-9);
        // A published pair: #767676 on white is the darkest grey that just passes 4.5.
        let grey: Color = "#767676".parse().unwrap();
        assert!((grey.contrast(Color::WHITE) - 4.54).abs() < 0.01);
    }

    #[test]
    fn a_tint_names_a_swatch_or_a_colour() {
        let tint: Tint = serde_json::from_str("\"@accent\"").unwrap();
        assert_eq!(tint, Tint::Swatch(SwatchId::new("accent").unwrap()));
        assert_eq!(serde_json::to_string(&tint).unwrap(), "\"@accent\"");
        assert!(serde_json::from_str::<Tint>("\"@\"").is_err());
    }
}
