//! Exact fractions of a whole.

use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A fraction of a whole, as a whole number of thousand-millionths.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize, TS)]
#[serde(transparent)]
#[ts(type = "number")]
pub struct Ratio(i64);

impl Ratio {
    /// Nothing.
    pub const ZERO: Self = Self(0);
    /// The whole.
    pub const ONE: Self = Self(Self::WHOLE);
    /// One half.
    pub const HALF: Self = Self(Self::WHOLE / 2);
    /// Parts in the whole.
    pub const WHOLE: i64 = 1_000_000_000;

    /// From a fraction, 1.0 being the whole; NaN is refused as nothing by the caller's range check.
    #[must_use]
    pub fn new(value: f64) -> Self {
        Self((value * Self::WHOLE as f64).round() as i64)
    }

    /// In thousandths of the whole.
    #[must_use]
    pub const fn thousandths(value: i64) -> Self {
        Self(value * Self::WHOLE / 1_000)
    }

    /// In percent of the whole.
    #[must_use]
    pub fn percent(value: f64) -> Self {
        Self::new(value / 100.0)
    }

    /// As a fraction, 1.0 being the whole.
    #[must_use]
    pub fn get(self) -> f64 {
        self.0 as f64 / Self::WHOLE as f64
    }

    /// Held between nothing and the whole.
    #[must_use]
    pub fn clamped(self) -> Self {
        Self(self.0.clamp(0, Self::WHOLE))
    }

    /// Whether it lies between nothing and the whole.
    #[must_use]
    pub fn is_fraction(self) -> bool {
        (0..=Self::WHOLE).contains(&self.0)
    }
}
