//! What people type into a number field: numbers with units, sums, products and percentages.
//!
//! ```text
//! sum     = product (("+" | "-") product)*
//! product = signed (("*" | "x" | "/") signed)*      "x" multiplies only between a number and a length
//! signed  = "-"? atom
//! atom    = number unit? | number "%" | "(" sum ")"
//! ```
//! A bare number in a sum of lengths is read in the field's own unit.

use thiserror::Error;

use crate::{Length, Ppi, Size, Unit};

/// What a number field needs to know to read what was typed.
#[derive(Debug, Clone, Copy)]
pub struct Measure {
    /// The unit of bare numbers.
    pub unit: Unit,
    /// What a pixel is.
    pub ppi: Ppi,
    /// What 100 % is, where the field allows percentages.
    pub whole: Option<Length>,
}

/// Why something typed is no length.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum MeasureError {
    /// Nothing was typed.
    #[error("Type a number, with a unit if you like: 2.5 in, 60 mm, 1080 px.")]
    Empty,
    /// Something that is neither number, unit nor sign.
    #[error("\u{201c}{0}\u{201d} is not a number or a unit. Units are px, pt, mm, cm and in.")]
    Unreadable(String),
    /// The text stops where a number is wanted.
    #[error("A number is missing at the end.")]
    Unfinished,
    /// A length times a length, or a number divided by a length.
    #[error("A length can be multiplied or divided by a plain number only.")]
    Dimension,
    /// A division by zero.
    #[error("Nothing can be divided by zero.")]
    ZeroDivision,
    /// A percentage where there is no whole.
    #[error("A percentage has no meaning in this field.")]
    NoWhole,
    /// Larger than anything that can be made.
    #[error("That is larger than anything that can be made here.")]
    TooLarge,
    /// Not of the form width x height.
    #[error("Type a width and a height, such as 2 x 8.5 in.")]
    NotASize,
}

#[derive(Debug, Clone, PartialEq)]
enum Token {
    Number(f64),
    Unit(Unit),
    Sign(char),
}

fn tokens(text: &str) -> Result<Vec<Token>, MeasureError> {
    let mut out = Vec::new();
    let mut rest = text.trim_start();
    while let Some(first) = rest.chars().next() {
        let taken = if first.is_ascii_digit() || first == '.' || first == ',' {
            let end = rest.find(|c: char| !(c.is_ascii_digit() || c == '.' || c == ',')).unwrap_or(rest.len());
            out.push(Token::Number(number(&rest[..end])?));
            end
        } else if "+-*/()%−×·".contains(first) {
            out.push(Token::Sign(match first {
                '−' => '-',
                '×' | '·' => '*',
                other => other,
            }));
            first.len_utf8()
        } else {
            let end = rest.find(|c: char| !c.is_alphabetic()).unwrap_or(rest.len()).max(first.len_utf8());
            let word = &rest[..end];
            if word.eq_ignore_ascii_case("x") {
                out.push(Token::Sign('*'));
            } else {
                out.push(Token::Unit(Unit::named(word).ok_or_else(|| MeasureError::Unreadable(word.to_owned()))?));
            }
            end
        };
        rest = rest[taken..].trim_start();
    }
    Ok(out)
}

/// "1,080" groups thousands; "8,5" is a decimal comma.
fn number(text: &str) -> Result<f64, MeasureError> {
    let grouped = text.split(',').skip(1).all(|group| group.split('.').next().is_some_and(|digits| digits.len() == 3))
        && text.split(',').next().is_some_and(|head| (1..=3).contains(&head.len()) && head != "0");
    let plain = if grouped { text.replace(',', "") } else { text.replace(',', ".") };
    plain.parse().map_err(|_| MeasureError::Unreadable(text.to_owned()))
}

/// A value with a dimension: `power` is 0 for a plain number, 1 for a length in inches.
#[derive(Clone, Copy)]
struct Value {
    amount: f64,
    power: u8,
}

struct Reader<'a> {
    tokens: &'a [Token],
    at: usize,
    depth: u8,
    measure: Measure,
}

impl Reader<'_> {
    fn sign(&mut self, any: &str) -> Option<char> {
        match self.tokens.get(self.at) {
            Some(Token::Sign(sign)) if any.contains(*sign) => {
                self.at += 1;
                Some(*sign)
            }
            _ => None,
        }
    }

    fn bare_to_length(&self, value: Value) -> Value {
        if value.power == 1 {
            return value;
        }
        let per_inch = match self.measure.unit {
            Unit::Px => f64::from(self.measure.ppi.get()),
            Unit::Pt => 72.0,
            Unit::Mm => 25.4,
            Unit::Cm => 2.54,
            Unit::In => 1.0,
        };
        Value { amount: value.amount / per_inch, power: 1 }
    }

    fn sum(&mut self) -> Result<Value, MeasureError> {
        let mut left = self.product()?;
        while let Some(sign) = self.sign("+-") {
            let mut right = self.product()?;
            if left.power != right.power {
                left = self.bare_to_length(left);
                right = self.bare_to_length(right);
            }
            left.amount += if sign == '+' { right.amount } else { -right.amount };
        }
        Ok(left)
    }

    fn product(&mut self) -> Result<Value, MeasureError> {
        let mut left = self.signed()?;
        while let Some(sign) = self.sign("*/") {
            let right = self.signed()?;
            left = match (sign, left.power, right.power) {
                ('*', a, b) if a + b <= 1 => Value { amount: left.amount * right.amount, power: a + b },
                ('/', _, 0) if right.amount == 0.0 => return Err(MeasureError::ZeroDivision),
                ('/', a, 0) => Value { amount: left.amount / right.amount, power: a },
                _ => return Err(MeasureError::Dimension),
            };
        }
        Ok(left)
    }

    fn signed(&mut self) -> Result<Value, MeasureError> {
        let negative = self.sign("-").is_some();
        let value = self.atom()?;
        Ok(if negative { Value { amount: -value.amount, ..value } } else { value })
    }

    fn atom(&mut self) -> Result<Value, MeasureError> {
        if self.sign("(").is_some() {
            self.depth += 1;
            if self.depth > 32 {
                return Err(MeasureError::TooLarge);
            }
            let value = self.sum()?;
            self.sign(")").ok_or(MeasureError::Unfinished)?;
            self.depth -= 1;
            return Ok(value);
        }
        let Some(Token::Number(amount)) = self.tokens.get(self.at) else {
            return Err(MeasureError::Unfinished);
        };
        self.at += 1;
        if self.sign("%").is_some() {
            let whole = self.measure.whole.ok_or(MeasureError::NoWhole)?;
            return Ok(Value { amount: amount / 100.0 * whole.to_inches(), power: 1 });
        }
        if let Some(Token::Unit(unit)) = self.tokens.get(self.at) {
            self.at += 1;
            let own = Measure { unit: *unit, ..self.measure };
            return Ok(Reader { tokens: &[], at: 0, depth: 0, measure: own }
                .bare_to_length(Value { amount: *amount, power: 0 }));
        }
        Ok(Value { amount: *amount, power: 0 })
    }
}

/// Reads a length such as `3.5in+2*0.125in`, `50%` or `1080`.
///
/// # Errors
/// A [`MeasureError`] whose text can be shown beside the field.
pub fn parse_length(text: &str, measure: Measure) -> Result<Length, MeasureError> {
    let tokens = tokens(text)?;
    if tokens.is_empty() {
        return Err(MeasureError::Empty);
    }
    let mut reader = Reader { tokens: &tokens, at: 0, depth: 0, measure };
    let value = reader.sum()?;
    if reader.at != tokens.len() {
        return Err(MeasureError::Unreadable(text.trim().to_owned()));
    }
    let inches = reader.bare_to_length(value).amount;
    if !inches.is_finite() || inches.abs() > 1_000_000.0 {
        return Err(MeasureError::TooLarge);
    }
    Ok(Length::inches(inches))
}

/// Reads a size such as `2 x 8.5 in`, `1080 × 1350 px` or `90mm by 50mm`; a unit at the end serves both numbers.
/// Without any unit the numbers are in `unit`; the unit understood is returned.
///
/// # Errors
/// [`MeasureError::NotASize`] unless there are exactly two lengths, or why one of them is none.
pub fn parse_size(text: &str, unit: Unit, ppi: Ppi) -> Result<(Size, Unit), MeasureError> {
    // "px" contains the letter that separates, so it stands aside while the text is split.
    const PIXEL: &str = "\u{1}";
    let lower = text
        .to_lowercase()
        .replace(" by ", "x")
        .replace(['×', '*'], "x")
        .replace("pixels", PIXEL)
        .replace("pixel", PIXEL)
        .replace("px", PIXEL);
    let (left, right) =
        lower.split_once('x').filter(|(_, right)| !right.contains('x')).ok_or(MeasureError::NotASize)?;
    let (left, right) = (left.replace(PIXEL, "px"), right.replace(PIXEL, "px"));
    let last_unit =
        |side: &str| tokens(side).ok()?.iter().rev().find_map(|t| if let Token::Unit(u) = t { Some(*u) } else { None });
    let shared = last_unit(&right).or_else(|| last_unit(&left)).unwrap_or(unit);
    let measure = Measure { unit: shared, ppi, whole: None };
    Ok((Size::new(parse_length(&left, measure)?, parse_length(&right, measure)?), shared))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const MM: Measure = Measure { unit: Unit::Mm, ppi: Ppi::PRINT, whole: Some(Length::from_raw(914_400)) };

    #[test]
    fn sums_products_and_percentages() {
        for (typed, inches) in [
            ("3.5in+2*0.125in", 3.75),
            ("3.5in + 0.125in x 2", 3.75),
            ("50%", 0.5),
            ("25.4", 1.0),
            ("(1in - 0.5in) / 2", 0.25),
            ("300 px", 1.0),
            ("72pt", 1.0),
            ("-2,54 cm", -1.0),
            ("2,550px", 8.5),
            ("1in+25.4", 2.0),
            ("3″", 3.0),
            ("3\"", 3.0),
            (".5 in", 0.5),
            (",5 in", 0.5),
            ("0,500 in", 0.5),
            ("1234,500 px", 1234.5 / 300.0),
        ] {
            assert_eq!(parse_length(typed, MM), Ok(Length::inches(inches)), "{typed}");
        }
        let four = Measure { whole: Some(Length::inches(4.0)), ..MM };
        assert_eq!(parse_length("25% + 12.5% * 2", four), Ok(Length::inches(2.0)), "of what is whole");
    }

    #[test]
    fn nonsense_is_refused_with_a_reason() {
        for (typed, reason) in [
            ("", MeasureError::Empty),
            ("2in*3in", MeasureError::Dimension),
            ("5/0", MeasureError::ZeroDivision),
            ("2 +", MeasureError::Unfinished),
            ("7 furlongs", MeasureError::Unreadable("furlongs".into())),
            ("9999999999 in", MeasureError::TooLarge),
            ("1..2", MeasureError::Unreadable("1..2".into())),
        ] {
            assert_eq!(parse_length(typed, MM), Err(reason), "{typed}");
        }
        assert_eq!(parse_length("5%", Measure { whole: None, ..MM }), Err(MeasureError::NoWhole));
    }

    #[test]
    fn the_largest_and_the_deepest_are_still_read() {
        assert_eq!(parse_length("-1000000 in", MM), Ok(Length::inches(-1_000_000.0)));
        assert_eq!(parse_length("1000001 in", MM), Err(MeasureError::TooLarge));
        let nested = |deep: usize| format!("{}2in{}", "(".repeat(deep), ")".repeat(deep));
        assert_eq!(parse_length(&nested(32), MM), Ok(Length::inches(2.0)));
        assert_eq!(parse_length(&nested(33), MM), Err(MeasureError::TooLarge));
        assert_eq!(parse_length(&format!("{0}+{0}", nested(32)), MM), Ok(Length::inches(4.0)), "one after the other");
    }

    #[test]
    fn sizes_as_people_type_them() {
        let inch = |w, h| Size::new(Length::inches(w), Length::inches(h));
        let px = |w, h| Size::new(Length::px(w, Ppi::SCREEN), Length::px(h, Ppi::SCREEN));
        for (typed, size, unit) in [
            ("2 x 8.5 in", inch(2.0, 8.5), Unit::In),
            ("3.75in×2.25in", inch(3.75, 2.25), Unit::In),
            ("1080x1350", px(1080.0, 1350.0), Unit::Px),
            ("1080 px x 1350 px", px(1080.0, 1350.0), Unit::Px),
            ("1,280 by 720 px", px(1280.0, 720.0), Unit::Px),
            ("2 in * 8.5 in", inch(2.0, 8.5), Unit::In),
        ] {
            assert_eq!(parse_size(typed, Unit::Px, Ppi::SCREEN), Ok((size, unit)), "{typed}");
        }
        assert_eq!(parse_size("flyer", Unit::Px, Ppi::SCREEN), Err(MeasureError::NotASize));
        assert_eq!(parse_size("card", Unit::Px, Ppi::SCREEN), Err(MeasureError::NotASize));
    }

    proptest! {
        #[test]
        fn whatever_is_typed_never_panics(text in "\\PC{0,40}") {
            let _ = parse_length(&text, MM);
            let _ = parse_size(&text, Unit::Px, Ppi::SCREEN);
        }

        #[test]
        fn a_sum_is_the_sum(a in 0u32..10_000, b in 0u32..10_000) {
            let both = parse_length(&format!("{a}mm + {b}pt"), MM).unwrap();
            let apart = Length::mm(f64::from(a)) + Length::pt(f64::from(b));
            prop_assert!((both - apart).abs().raw() <= 1);
        }
    }
}
