//! Encoded sRGB to linear light and back (IEC 61966-2-1), extended to values below black and above white by their mirror image and
//! by the formula itself.

use std::sync::LazyLock;

use crate::develop::film::Rgb;

/// Entries of a table between 0 and 1: so few that both tables stay near the processor.
const STEPS: usize = 1_024;
/// Tables reach from 0 to this; steps carry pixels beyond white all the time.
const REACH: usize = 2;
/// Entries of a table, of which those beyond its reach are never asked for: a power of two, so that no place need be checked.
const SIZE: usize = 4_096;

/// Values at even distances, each with how much it grows from one to the next there.
type Table = [[f32; 2]; SIZE];

/// Linear light of an encoded value; the formula.
pub(crate) fn linear_of(value: f64) -> f64 {
    if value.abs() <= 0.040_45 { value / 12.92 } else { ((value.abs() + 0.055) / 1.055).powf(2.4).copysign(value) }
}

/// Encoded value of linear light; the formula.
pub(crate) fn encoded_of(value: f64) -> f64 {
    if value.abs() <= 0.003_130_8 {
        value * 12.92
    } else {
        (1.055 * value.abs().powf(1.0 / 2.4) - 0.055).copysign(value)
    }
}

fn table(value: impl Fn(f64) -> f64) -> Box<Table> {
    let at = |n: f64| value(n / STEPS as f64);
    let entry = |n: usize| {
        let n = n as f64;
        [at(n) as f32, (f64::midpoint(at(n + 1.0), -at(n - 1.0))) as f32]
    };
    let all: Vec<[f32; 2]> = (0..SIZE).map(|n| entry(n.min(REACH * STEPS))).collect();
    all.into_boxed_slice().try_into().unwrap_or_else(|_| unreachable!("as many as it has"))
}

static LINEAR: LazyLock<Box<Table>> = LazyLock::new(|| table(linear_of));
/// By the square root of light, where the curve is nearly straight.
static ENCODED: LazyLock<Box<Table>> = LazyLock::new(|| table(|root| encoded_of(root * root.abs())));

/// The value of a table at a place between 0 and its reach: from the nearest entry on by its slope.
fn looked_up(table: &Table, at: f32) -> f32 {
    /// Added to a number, what is left of it is whole, and stands in the lowest bits.
    const WHOLE: f32 = 8_388_608.0;
    let at = at * STEPS as f32;
    let whole = at + WHOLE;
    let [value, slope] = table[whole.to_bits() as usize % SIZE];
    value + slope * (at - (whole - WHOLE))
}

/// Both tables, looked up once for many pixels.
#[derive(Clone, Copy)]
pub(crate) struct Transfer {
    linear: &'static Table,
    encoded: &'static Table,
}

impl Transfer {
    pub(crate) fn new() -> Self {
        Self { linear: &LINEAR, encoded: &ENCODED }
    }

    /// Linear light, within a hundred-thousandth.
    pub(crate) fn linear(self, pixel: Rgb) -> Rgb {
        pixel.map(|value| {
            let size = value.abs();
            if size <= REACH as f32 {
                looked_up(self.linear, size).copysign(value)
            } else {
                linear_of(f64::from(value)) as f32
            }
        })
    }

    /// Encoded again, within a hundred-thousandth.
    pub(crate) fn encoded(self, pixel: Rgb) -> Rgb {
        pixel.map(|value| {
            let root = value.abs().sqrt();
            if root <= REACH as f32 {
                looked_up(self.encoded, root).copysign(value)
            } else {
                encoded_of(f64::from(value)) as f32
            }
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tables_are_the_formula_and_go_there_and_back() {
        let transfer = Transfer::new();
        for step in 0..=20_000 {
            let value = step as f32 / 20_000.0;
            let linear = transfer.linear([value; 3])[0];
            assert!((f64::from(linear) - linear_of(f64::from(value))).abs() < 2e-6, "{value}");
            let back = transfer.encoded([linear; 3])[0];
            assert!((back - value).abs() < 4e-5, "{value} came back as {back}");
        }
        for value in [-2.5f32, -0.4, -0.01, 1.2, 1.99, 2.01, 3.0] {
            let back = transfer.encoded(transfer.linear([value; 3]))[0];
            assert!((back - value).abs() < 1e-4, "{value} came back as {back}");
        }
    }
}
