//! Colour: the light's colour taken out, saturation, ranges of hue, tints, grey, gradients of tones.

use vatman_document::{Develop, Tint, ToneStop};
use vatman_units::Ratio;

use super::Ready;
use super::film::{Rgb, luma};
use super::mixing;
use super::oklab::{EachLab, Lab, through_lab};
use super::row::EachPixel;
use super::transfer;

pub(super) fn ready(develop: &Develop) -> Option<Ready> {
    match develop {
        Develop::WhiteBalance { kelvin, tint } => {
            if *kelvin == NEUTRAL && *tint == Ratio::ZERO {
                return None;
            }
            let m = balance(f64::from(*kelvin), tint.get()).map(|row| row.map(|value| value as f32));
            Some(Ready::each(Balanced(m)))
        }
        Develop::Colour { saturation, vibrance, hue } => {
            let (saturation, vibrance) = (1.0 + saturation.get() as f32, vibrance.get() as f32);
            let (sin, cos) = (hue.to_radians() as f32).sin_cos();
            let idle = saturation == 1.0 && vibrance == 0.0 && (sin, cos) == (0.0, 1.0);
            (!idle).then(|| {
                let louder = Louder { saturation, vibrance, turn: (sin, cos) };
                Ready::rows(move |_, row| through_lab(row, &louder))
            })
        }
        Develop::Mixer { hue, saturation, lightness } => {
            let by = [hue, saturation, lightness].map(|all| all.map(|value| value.get() as f32));
            (by != [[0.0; 8]; 3]).then(|| Ready::rows(move |_, row| through_lab(row, &ByHue(by))))
        }
        Develop::SplitTone { shadows, lights, balance } => {
            let tints = [shadows, lights].map(encoded);
            let edge = 0.5 - 0.4 * balance.get() as f32;
            Some(Ready::pixel(move |pixel| {
                let light = luma(pixel).clamp(0.0, 1.0);
                let share = smooth((light - edge) / 0.5 + 0.5);
                let tint = [0, 1, 2].map(|c| tints[0][c] + (tints[1][c] - tints[0][c]) * share);
                // The tint's colour at the lightness of the pixel, half laid over.
                let laid = mixing::mixed(vatman_document::Blend::Color, pixel, tint);
                [0, 1, 2].map(|c| pixel[c] + (laid[c] - pixel[c]) * 0.5)
            }))
        }
        Develop::Mono { red, green, blue } => {
            let weights = [red, green, blue].map(|weight| weight.get() as f32);
            Some(Ready::pixel(move |pixel| [weights[0] * pixel[0] + weights[1] * pixel[1] + weights[2] * pixel[2]; 3]))
        }
        Develop::ToneMap { stops } => {
            let stops: Vec<(f32, Rgb)> =
                stops.iter().map(|ToneStop { at, tint }| (at.get() as f32, encoded(tint))).collect();
            Some(Ready::pixel(move |pixel| along(&stops, luma(pixel))))
        }
        Develop::Wash { tint, blend } => {
            let (tint, blend) = (encoded(tint), *blend);
            Some(Ready::pixel(move |pixel| mixing::mixed(blend, pixel.map(|value| value.clamp(0.0, 1.0)), tint)))
        }
        _ => None,
    }
}

/// Linear light mixed anew.
struct Balanced([[f32; 3]; 3]);

impl EachPixel for Balanced {
    #[inline(always)]
    fn pixel(&self, pixel: Rgb) -> Rgb {
        let [r, g, b] = transfer::linear(pixel);
        let [red, green, blue] = &self.0;
        transfer::encoded([
            red[0] * r + red[1] * g + red[2] * b,
            green[0] * r + green[1] * g + green[2] * b,
            blue[0] * r + blue[1] * g + blue[2] * b,
        ])
    }
}

/// Chroma scaled, that of quiet colours more, and hues turned.
struct Louder {
    saturation: f32,
    vibrance: f32,
    /// Sine and cosine.
    turn: (f32, f32),
}

impl EachLab for Louder {
    #[inline(always)]
    fn lab(&self, lab: Lab) -> Lab {
        let (sin, cos) = self.turn;
        let quiet = (1.0 - lab.chroma() / LOUD).clamp(0.0, 1.0);
        let by = self.saturation * (1.0 + self.vibrance * quiet);
        Lab { l: lab.l, a: (lab.a * cos - lab.b * sin) * by, b: (lab.a * sin + lab.b * cos) * by }
    }
}

/// Hue, saturation and lightness moved by range of hue.
struct ByHue([[f32; 8]; 3]);

impl EachLab for ByHue {
    fn lab(&self, lab: Lab) -> Lab {
        by_hue(lab, &self.0)
    }
}

/// Chroma from which colours are as loud as they get, for vibrance.
const LOUD: f32 = 0.25;

/// A colour as a pixel; colours are resolved before a picture is developed.
pub(super) fn encoded(tint: &Tint) -> Rgb {
    let Tint::Own(color) = tint else { return [0.5; 3] };
    [color.r, color.g, color.b].map(|value| f32::from(value) / 255.0)
}

#[inline(always)]
pub(super) fn smooth(value: f32) -> f32 {
    let t = value.clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}

fn along(stops: &[(f32, Rgb)], light: f32) -> Rgb {
    let Some(after) = stops.iter().position(|stop| stop.0 >= light) else {
        return stops.last().map_or([light; 3], |stop| stop.1);
    };
    let Some(before) = after.checked_sub(1) else { return stops[after].1 };
    let (a, b) = (&stops[before], &stops[after]);
    let share = (light - a.0) / (b.0 - a.0).max(1e-6);
    [0, 1, 2].map(|c| a.1[c] + (b.1[c] - a.1[c]) * share)
}

/// Hues of the eight ranges in OKLCh, in degrees: red, orange, yellow, green, cyan, blue, violet, magenta.
const HUES: [f32; 8] = [29.0, 60.0, 105.0, 145.0, 195.0, 260.0, 300.0, 345.0];

fn by_hue(lab: Lab, [hue, saturation, lightness]: &[[f32; 8]; 3]) -> Lab {
    let chroma = lab.chroma();
    let at = lab.b.atan2(lab.a).to_degrees().rem_euclid(360.0);
    // Each hue lies between two ranges and takes its share of both.
    let after = HUES.iter().position(|own| *own > at).unwrap_or(0);
    let before = (after + 7) % 8;
    let span = (HUES[after] - HUES[before]).rem_euclid(360.0);
    let share = smooth((at - HUES[before]).rem_euclid(360.0) / span);
    let of = |all: &[f32; 8]| all[before] + (all[after] - all[before]) * share;
    // Grey has no hue: what is nearly grey is moved less.
    let colourful = smooth(chroma / 0.06);
    let turn = (of(hue) * 30.0 * colourful).to_radians();
    let (sin, cos) = turn.sin_cos();
    let by = 1.0 + of(saturation) * colourful;
    let l = lab.l + of(lightness) * 0.18 * colourful;
    Lab { l, a: (lab.a * cos - lab.b * sin) * by, b: (lab.a * sin + lab.b * cos) * by }
}

/// The temperature of the light for which sRGB is made, as it is set.
const NEUTRAL: u32 = 6_504;

/// Linear sRGB to XYZ and back (IEC 61966-2-1).
const TO_XYZ: [[f64; 3]; 3] = [
    [0.412_456_4, 0.357_576_1, 0.180_437_5],
    [0.212_672_9, 0.715_152_2, 0.072_175_0],
    [0.019_333_9, 0.119_192_0, 0.950_304_1],
];
const FROM_XYZ: [[f64; 3]; 3] = [
    [3.240_454_2, -1.537_138_5, -0.498_531_4],
    [-0.969_266_0, 1.876_010_8, 0.041_556_0],
    [0.055_643_4, -0.204_025_9, 1.057_225_2],
];
/// XYZ to the cone responses of Bradford (Lam, "Metamerism and colour constancy", 1985) and back.
const TO_CONES: [[f64; 3]; 3] = [[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]];
const FROM_CONES: [[f64; 3]; 3] = [
    [0.986_992_9, -0.147_054_3, 0.159_962_7],
    [0.432_305_3, 0.518_360_3, 0.049_291_2],
    [-0.008_528_7, 0.040_042_8, 0.968_486_7],
];

fn times(a: [[f64; 3]; 3], b: [[f64; 3]; 3]) -> [[f64; 3]; 3] {
    [0, 1, 2].map(|i| [0, 1, 2].map(|j| (0..3).map(|k| a[i][k] * b[k][j]).sum()))
}

fn applied(m: [[f64; 3]; 3], v: [f64; 3]) -> [f64; 3] {
    m.map(|row| row[0] * v[0] + row[1] * v[1] + row[2] * v[2])
}

/// What takes the colour of a light out of linear sRGB: the light's white becomes that of sRGB, adapted after Bradford.
fn balance(kelvin: f64, tint: f64) -> [[f64; 3]; 3] {
    let to = applied(TO_CONES, white_of(f64::from(NEUTRAL), 0.0));
    let from = applied(TO_CONES, white_of(kelvin, tint));
    let scale = [0, 1, 2].map(|i| [0, 1, 2].map(|j| if i == j { to[i] / from[i] } else { 0.0 }));
    times(times(FROM_XYZ, times(FROM_CONES, times(scale, TO_CONES))), TO_XYZ)
}

/// XYZ of the light of a temperature, Y being 1: of the daylight of the CIE from 4,000 K, of a black body below (Kim et al.,
/// US 7,024,034). The tint moves it across by up to 0.03 of Duv in CIE 1960.
fn white_of(kelvin: f64, tint: f64) -> [f64; 3] {
    let t = kelvin.clamp(1_667.0, 25_000.0);
    let (x, y) = if t >= 4_000.0 {
        let x = if t <= 7_000.0 {
            -4.607_0e9 / t.powi(3) + 2.967_8e6 / t.powi(2) + 0.099_11e3 / t + 0.244_063
        } else {
            -2.006_4e9 / t.powi(3) + 1.901_8e6 / t.powi(2) + 0.247_48e3 / t + 0.237_040
        };
        (x, -3.0 * x * x + 2.87 * x - 0.275)
    } else {
        let x = -0.266_123_9e9 / t.powi(3) - 0.234_358_9e6 / t.powi(2) + 0.877_695_6e3 / t + 0.179_910;
        let y = if t < 2_222.0 {
            -1.106_381_4 * x.powi(3) - 1.348_110_2 * x * x + 2.185_558_32 * x - 0.202_196_83
        } else {
            -0.954_947_6 * x.powi(3) - 1.374_185_93 * x * x + 2.091_370_15 * x - 0.167_488_67
        };
        (x, y)
    };
    let (u, v) = (4.0 * x / (-2.0 * x + 12.0 * y + 3.0), 6.0 * y / (-2.0 * x + 12.0 * y + 3.0));
    let v = v + tint * 0.03;
    let (x, y) = (3.0 * u / (2.0 * u - 8.0 * v + 4.0), 2.0 * v / (2.0 * u - 8.0 * v + 4.0));
    [x / y, 1.0, (1.0 - x - y) / y]
}

/// The temperature and tint at which a colour comes out grey: the inverse of white balance, for picking what is neutral.
///
/// `color` is encoded sRGB, 0 to 1. Found by search over what can be set; the nearest where none fits.
#[must_use]
pub fn neutral_at(color: [f64; 3]) -> (u32, f64) {
    let linear = color.map(super::transfer::linear_of);
    let off = |kelvin: f64, tint: f64| {
        let out = applied(balance(kelvin, tint), linear);
        let mean = (out[0] + out[1] + out[2]) / 3.0;
        out.iter().map(|value| (value - mean).powi(2)).sum::<f64>() / (mean * mean).max(1e-9)
    };
    // By mired, in which steps look even; coarse, then ever finer about the best.
    let (mut best, mut span) = ((1e6 / f64::from(NEUTRAL), 0.0), (180.0, 0.9));
    for _ in 0..40 {
        let around = (-2..=2).flat_map(|i| (-2..=2).map(move |j| (f64::from(i) / 2.0, f64::from(j) / 2.0)));
        let tried =
            around.map(|(i, j)| ((best.0 + i * span.0).clamp(50.0, 500.0), (best.1 + j * span.1).clamp(-1.0, 1.0)));
        best = tried.min_by(|a, b| off(1e6 / a.0, a.1).total_cmp(&off(1e6 / b.0, b.1))).unwrap_or(best);
        span = (span.0 * 0.75, span.1 * 0.75);
    }
    ((1e6 / best.0).round() as u32, best.1)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_light_srgb_is_made_for_changes_nothing() {
        let m = balance(f64::from(NEUTRAL), 0.0);
        for (i, row) in m.iter().enumerate() {
            for (j, value) in row.iter().enumerate() {
                assert!((value - f64::from(u8::from(i == j))).abs() < 1e-5, "{m:?}");
            }
        }
        // Its white is that of D65 within what the formula of the daylight says.
        let [x, _, z] = white_of(6_504.0, 0.0);
        assert!((x - 0.9505).abs() < 2e-3 && (z - 1.0890).abs() < 4e-3, "{x} {z}");
    }

    #[test]
    fn a_warm_light_taken_out_leaves_blue_and_what_was_its_white_grey() {
        for kelvin in [2_400.0, 3_200.0, 4_400.0, 9_000.0] {
            for tint in [-0.5, 0.0, 0.7] {
                let white = applied(FROM_XYZ, white_of(kelvin, tint));
                let out = applied(balance(kelvin, tint), white);
                assert!(out.iter().all(|value| (value - 1.0).abs() < 2e-3), "{kelvin} {tint}: {out:?}");
            }
        }
        let grey = applied(balance(3_200.0, 0.0), [0.4; 3]);
        assert!(grey[2] > grey[1] && grey[1] > grey[0], "{grey:?}");
    }

    #[test]
    fn what_is_picked_as_neutral_comes_out_grey() {
        for color in [[0.7, 0.6, 0.5], [0.5, 0.55, 0.62], [0.4, 0.42, 0.36], [0.8, 0.8, 0.8]] {
            let (kelvin, tint) = neutral_at(color);
            let out = applied(balance(f64::from(kelvin), tint), color.map(crate::develop::transfer::linear_of));
            let mean = out.iter().sum::<f64>() / 3.0;
            assert!(out.iter().all(|value| (value - mean).abs() < mean * 0.01), "{color:?}: {kelvin} {tint} {out:?}");
        }
    }
}
