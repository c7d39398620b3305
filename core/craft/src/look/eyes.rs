//! How a sheet looks to other eyes: without colour, and to those who lack one of the three kinds of cones.

use serde::Serialize;
use ts_rs::TS;

/// A kind of sight, as what it makes of red, green and blue in linear light.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct Eyes {
    /// What it is called.
    pub name: String,
    /// Three rows for red, green and blue, each of what it takes of red, green and blue.
    pub matrix: [[f64; 3]; 3],
}

/// The kinds of sight that are shown beside each other. Those of colour-blind people are by Machado, Oliveira and Fernandes, "A
/// Physiologically-based Model for Simulation of Color Vision Deficiency" (2009), at full severity; grey is the luminance of Rec. 709.
#[must_use]
pub fn eyes() -> Vec<Eyes> {
    let of = |name: &str, matrix| Eyes { name: name.to_owned(), matrix };
    let luminance = [0.2126, 0.7152, 0.0722];
    vec![
        of("As most see it", [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]]),
        of("In grey", [luminance; 3]),
        of(
            "Without red (protanopia)",
            [
                [0.152_286, 1.052_583, -0.204_868],
                [0.114_503, 0.786_281, 0.099_216],
                [-0.003_882, -0.048_116, 1.051_998],
            ],
        ),
        of(
            "Without green (deuteranopia)",
            [[0.367_322, 0.860_646, -0.227_968], [0.280_085, 0.672_501, 0.047_413], [-0.011_820, 0.042_940, 0.968_881]],
        ),
        of(
            "Without blue (tritanopia)",
            [
                [1.255_528, -0.076_749, -0.178_779],
                [-0.078_411, 0.930_809, 0.147_602],
                [0.004_733, 0.691_367, 0.303_900],
            ],
        ),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn white_stays_white_to_all_eyes() {
        for Eyes { name, matrix } in eyes() {
            assert!(matrix.iter().all(|row| (row.iter().sum::<f64>() - 1.0).abs() < 1e-3), "{name}");
        }
    }
}
