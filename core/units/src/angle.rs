//! Exact angles.

use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// An angle in whole millionths of a degree, clockwise on the sheet.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize, TS)]
#[serde(transparent)]
#[ts(type = "number")]
pub struct Angle(i64);

impl Angle {
    /// Upright.
    pub const ZERO: Self = Self(0);
    const PER_DEGREE: f64 = 1_000_000.0;
    const TURN: i64 = 360_000_000;

    /// From degrees clockwise.
    #[must_use]
    pub fn degrees(value: f64) -> Self {
        Self((value * Self::PER_DEGREE).round() as i64)
    }

    /// In degrees clockwise.
    #[must_use]
    pub fn to_degrees(self) -> f64 {
        self.0 as f64 / Self::PER_DEGREE
    }

    /// In radians clockwise.
    #[must_use]
    pub fn to_radians(self) -> f64 {
        self.to_degrees().to_radians()
    }

    /// The same direction within -180 (not included) to 180 degrees.
    #[must_use]
    pub fn normalised(self) -> Self {
        let turned = self.0.rem_euclid(Self::TURN);
        Self(if turned > Self::TURN / 2 { turned - Self::TURN } else { turned })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn directions_have_one_form() {
        assert_eq!(Angle::degrees(540.0).normalised(), Angle::degrees(180.0));
        assert_eq!(Angle::degrees(-190.0).normalised(), Angle::degrees(170.0));
        assert_eq!(Angle::degrees(-90.0).normalised().to_degrees(), -90.0);
    }
}
