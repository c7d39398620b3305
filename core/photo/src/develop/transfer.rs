//! Encoded sRGB to linear light and back (IEC 61966-2-1), extended to values below black and above white by their mirror image and
//! by the formula itself.
//!
//! Powers are polynomials of fourth roots, so that the processor works them out for many pixels side by side; the coefficients are
//! least in their largest error, found by weighting again and again (C. L. Lawson, 1961).

use crate::develop::film::Rgb;

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

/// The value of a polynomial of eight coefficients from the constant on, in pairs of pairs, which wait less for each other (G. Estrin,
/// 1960).
#[inline(always)]
fn polynomial([a, b, c, d, e, f, g, h]: [f32; 8], at: f32) -> f32 {
    let square = at * at;
    let low = (a + b * at) + (c + d * at) * square;
    let high = (e + f * at) + (g + h * at) * square;
    low + high * (square * square)
}

/// `value` to the power of 2.4, from 0.06 to 64 and as there above it.
#[inline(always)]
fn to_2_4(value: f32) -> f32 {
    // Beyond twice white a whole number of doublings is taken out, and put back by its own power.
    let (by, back) = if value > 2.0 { (1.0 / 32.0, 4_096.0) } else { (1.0, 1.0) };
    let value = value.min(64.0) * by;
    let root = value.sqrt().sqrt();
    // The root to the power of 1.6, from 0.5 to 1.19.
    let rest = polynomial(
        [-0.015_270_139, 0.263_418_8, 1.003_127_9, -0.357_053_9, 0.127_397_66, -0.021_621_055, 0.0, 0.0],
        root,
    );
    value * value * rest * back
}

/// `value` to the power of 1 / 2.4, from 0.001 to 1,024 and as there above it.
#[inline(always)]
fn to_1_in_2_4(value: f32) -> f32 {
    let (by, back) = if value > 4.0 { (1.0 / 256.0, 10.079_368) } else { (1.0, 1.0) };
    let root = (value.min(1_024.0) * by).sqrt().sqrt();
    // The root to the power of five thirds, from 0.177 to 1.414.
    back * polynomial(
        [
            -0.003_538_448,
            0.122_781_36,
            1.343_300_6,
            -0.942_830_2,
            0.844_261_45,
            -0.520_946_25,
            0.185_380_05,
            -0.028_403_77,
        ],
        root,
    )
}

/// Linear light of one value, within a hundred-thousandth of itself where it is above 1.
#[inline(always)]
pub(crate) fn linear_value(value: f32) -> f32 {
    let size = value.abs();
    let power = to_2_4((size + 0.055) * (1.0 / 1.055));
    (if size <= 0.040_45 { size * (1.0 / 12.92) } else { power }).copysign(value)
}

/// One value encoded again, within three hundred-thousandths of itself where it is above 1.
#[inline(always)]
pub(crate) fn encoded_value(value: f32) -> f32 {
    let size = value.abs();
    let power = 1.055 * to_1_in_2_4(size) - 0.055;
    (if size <= 0.003_130_8 { size * 12.92 } else { power }).copysign(value)
}

/// Linear light of a pixel.
#[inline(always)]
pub(crate) fn linear(pixel: Rgb) -> Rgb {
    [linear_value(pixel[0]), linear_value(pixel[1]), linear_value(pixel[2])]
}

/// A pixel encoded again.
#[inline(always)]
pub(crate) fn encoded(pixel: Rgb) -> Rgb {
    [encoded_value(pixel[0]), encoded_value(pixel[1]), encoded_value(pixel[2])]
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn powers_are_the_formula_and_go_there_and_back() {
        for step in 0..=20_000 {
            let value = step as f32 / 20_000.0;
            let linear = linear_value(value);
            assert!((f64::from(linear) - linear_of(f64::from(value))).abs() < 2e-6, "{value}");
            let back = encoded_value(linear);
            assert!((back - value).abs() < 4e-5, "{value} came back as {back}");
        }
        for value in [-2.5f32, -0.4, -0.01, 1.2, 1.99, 2.01, 3.0, 12.0] {
            let linear = linear_value(value);
            let wanted = linear_of(f64::from(value));
            assert!((f64::from(linear) - wanted).abs() < 1e-5 * wanted.abs(), "{value} is {linear}, not {wanted}");
            let back = encoded_value(linear);
            assert!((back - value).abs() < 3e-5 * value.abs().max(1.0), "{value} came back as {back}");
        }
    }
}
