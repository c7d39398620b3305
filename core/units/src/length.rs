//! Exact lengths and the units people type.

use std::fmt;
use std::iter::Sum;
use std::ops::{Add, AddAssign, Neg, Sub, SubAssign};

use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A length as a whole number of 1/914,400 inch.
///
/// 914,400 is the smallest count in which a point (12,700), a CSS pixel (9,525), a millimetre
/// (36,000) and a pixel at 150, 200, 300, 600 and 1,200 per inch are all whole numbers.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize, TS)]
#[serde(transparent)]
#[ts(type = "number")]
pub struct Length(i64);

impl Length {
    /// No length.
    pub const ZERO: Self = Self(0);
    /// Fine units in one inch.
    pub const PER_INCH: i64 = 914_400;
    const PER_CSS_PX: f64 = 9_525.0;
    const PER_POINT: f64 = 12_700.0;
    const PER_MM: f64 = 36_000.0;

    /// From a count of fine units (1/914,400 inch).
    #[must_use]
    pub const fn from_raw(raw: i64) -> Self {
        Self(raw)
    }

    /// The count of fine units (1/914,400 inch).
    #[must_use]
    pub const fn raw(self) -> i64 {
        self.0
    }

    /// From CSS pixels (1/96 inch), rounded to the nearest fine unit.
    #[must_use]
    pub fn css_px(value: f64) -> Self {
        Self((value * Self::PER_CSS_PX).round() as i64)
    }

    /// In CSS pixels (1/96 inch), the unit of scenes.
    #[must_use]
    pub fn to_css_px(self) -> f64 {
        self.0 as f64 / Self::PER_CSS_PX
    }

    /// From points (1/72 inch).
    #[must_use]
    pub fn pt(value: f64) -> Self {
        Self((value * Self::PER_POINT).round() as i64)
    }

    /// In points (1/72 inch).
    #[must_use]
    pub fn to_pt(self) -> f64 {
        self.0 as f64 / Self::PER_POINT
    }

    /// From millimetres.
    #[must_use]
    pub fn mm(value: f64) -> Self {
        Self((value * Self::PER_MM).round() as i64)
    }

    /// In millimetres.
    #[must_use]
    pub fn to_mm(self) -> f64 {
        self.0 as f64 / Self::PER_MM
    }

    /// From inches.
    #[must_use]
    pub fn inches(value: f64) -> Self {
        Self((value * Self::PER_INCH as f64).round() as i64)
    }

    /// In inches.
    #[must_use]
    pub fn to_inches(self) -> f64 {
        self.0 as f64 / Self::PER_INCH as f64
    }

    /// From device pixels at a resolution.
    #[must_use]
    pub fn px(value: f64, ppi: Ppi) -> Self {
        Self::inches(value / f64::from(ppi.get()))
    }

    /// In device pixels at a resolution, not rounded.
    #[must_use]
    pub fn to_px(self, ppi: Ppi) -> f64 {
        self.to_inches() * f64::from(ppi.get())
    }

    /// In `unit`, pixels being those of `ppi`.
    #[must_use]
    pub fn to_unit(self, unit: Unit, ppi: Ppi) -> f64 {
        match unit {
            Unit::Px => self.to_px(ppi),
            Unit::Pt => self.to_pt(),
            Unit::Mm => self.to_mm(),
            Unit::Cm => self.to_mm() / 10.0,
            Unit::In => self.to_inches(),
        }
    }

    /// From a number of `unit`, pixels being those of `ppi`.
    #[must_use]
    pub fn from_unit(value: f64, unit: Unit, ppi: Ppi) -> Self {
        match unit {
            Unit::Px => Self::px(value, ppi),
            Unit::Pt => Self::pt(value),
            Unit::Mm => Self::mm(value),
            Unit::Cm => Self::mm(value * 10.0),
            Unit::In => Self::inches(value),
        }
    }

    /// Multiplied and rounded to the nearest fine unit.
    #[must_use]
    pub fn scaled(self, factor: f64) -> Self {
        Self((self.0 as f64 * factor).round() as i64)
    }

    /// Without its sign.
    #[must_use]
    pub const fn abs(self) -> Self {
        Self(self.0.saturating_abs())
    }

    /// Half, rounded towards zero.
    #[must_use]
    pub const fn half(self) -> Self {
        Self(self.0 / 2)
    }

    /// Whether it is more than nothing.
    #[must_use]
    pub const fn is_positive(self) -> bool {
        self.0 > 0
    }
}

impl Add for Length {
    type Output = Self;
    fn add(self, other: Self) -> Self {
        Self(self.0.saturating_add(other.0))
    }
}

impl AddAssign for Length {
    fn add_assign(&mut self, other: Self) {
        *self = *self + other;
    }
}

impl Sub for Length {
    type Output = Self;
    fn sub(self, other: Self) -> Self {
        Self(self.0.saturating_sub(other.0))
    }
}

impl SubAssign for Length {
    fn sub_assign(&mut self, other: Self) {
        *self = *self - other;
    }
}

impl Neg for Length {
    type Output = Self;
    fn neg(self) -> Self {
        Self(self.0.saturating_neg())
    }
}

impl Sum for Length {
    fn sum<I: Iterator<Item = Self>>(iter: I) -> Self {
        iter.fold(Self::ZERO, Add::add)
    }
}

/// Pixels per inch, 1 to 4,800.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, TS)]
#[serde(try_from = "u32", into = "u32")]
#[ts(type = "number")]
pub struct Ppi(u32);

impl Ppi {
    /// The resolution of screens: a pixel is a CSS pixel.
    pub const SCREEN: Self = Self(96);
    /// The usual resolution of pictures in print.
    pub const PRINT: Self = Self(300);

    /// A resolution from 1 to 4,800 pixels per inch, or nothing.
    #[must_use]
    pub const fn new(value: u32) -> Option<Self> {
        if value >= 1 && value <= 4_800 { Some(Self(value)) } else { None }
    }

    /// Pixels per inch.
    #[must_use]
    pub const fn get(self) -> u32 {
        self.0
    }
}

impl TryFrom<u32> for Ppi {
    type Error = String;
    fn try_from(value: u32) -> Result<Self, String> {
        Self::new(value).ok_or_else(|| format!("A resolution of {value} ppi is outside 1 to 4,800."))
    }
}

impl From<Ppi> for u32 {
    fn from(ppi: Ppi) -> Self {
        ppi.0
    }
}

/// A unit of length people type and read.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "lowercase")]
pub enum Unit {
    /// Device pixel at the resolution of the piece.
    Px,
    /// Point, 1/72 inch.
    Pt,
    /// Millimetre.
    Mm,
    /// Centimetre.
    Cm,
    /// Inch.
    In,
}

impl Unit {
    /// The unit named by what a person typed after a number, if any.
    #[must_use]
    pub fn named(word: &str) -> Option<Self> {
        Some(match word.to_ascii_lowercase().as_str() {
            "px" | "pixel" | "pixels" => Self::Px,
            "pt" | "point" | "points" => Self::Pt,
            "mm" => Self::Mm,
            "cm" => Self::Cm,
            "in" | "inch" | "inches" | "\"" | "″" => Self::In,
            _ => return None,
        })
    }

    /// Short name as shown beside numbers.
    #[must_use]
    pub const fn name(self) -> &'static str {
        match self {
            Self::Px => "px",
            Self::Pt => "pt",
            Self::Mm => "mm",
            Self::Cm => "cm",
            Self::In => "in",
        }
    }
}

impl fmt::Display for Unit {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn whole_units_are_exact() {
        assert_eq!(Length::inches(1.0).raw(), 914_400);
        assert_eq!(Length::mm(1.0).raw() * 254, Length::inches(1.0).raw() * 10);
        for ppi in [72, 96, 150, 200, 300, 600, 1_200] {
            let ppi = Ppi::new(ppi).unwrap();
            assert_eq!(Length::px(f64::from(ppi.get()), ppi), Length::inches(1.0));
        }
        assert_eq!(Length::inches(3.5) + Length::inches(0.125) + Length::inches(0.125), Length::inches(3.75));
    }

    #[test]
    fn a_sheet_of_8_5_by_11_inches_has_2550_by_3300_pixels_at_300() {
        assert_eq!(Length::inches(8.5).to_px(Ppi::PRINT), 2_550.0);
        assert_eq!(Length::inches(11.0).to_px(Ppi::PRINT), 3_300.0);
    }

    #[test]
    fn resolutions_outside_the_range_are_refused() {
        assert!(Ppi::new(0).is_none());
        assert!(serde_json::from_str::<Ppi>("4801").is_err());
        assert_eq!(serde_json::from_str::<Ppi>("300").unwrap(), Ppi::PRINT);
    }

    proptest! {
        #[test]
        fn every_unit_comes_back(value in -20_000i32..20_000, ppi in 1u32..4_800) {
            let ppi = Ppi::new(ppi).unwrap();
            for unit in [Unit::Px, Unit::Pt, Unit::Mm, Unit::Cm, Unit::In] {
                let back = Length::from_unit(f64::from(value) / 8.0, unit, ppi).to_unit(unit, ppi);
                // Half a fine unit is at most 0.0027 of a pixel at 4,800 ppi.
                prop_assert!((back - f64::from(value) / 8.0).abs() < 0.003, "{value} {unit} at {ppi:?} came back as {back}");
            }
        }
    }
}
