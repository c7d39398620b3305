//! Steps against the formulas that are published or that docs/recipes.md states, in double precision.

use std::sync::Arc;

use vatman_document::AssetId;

use super::*;
use crate::develop::transfer::{encoded_of, linear_of};

/// A pixel: encoded values, 0 to 1, and where its middle lies as shares of width and height.
type At = ([f64; 3], [f64; 2]);

/// Asserts that a step does to each pixel what a formula says, whose results are cut off at the end.
fn assert_formula(step: &Develop, formula: impl Fn(At) -> [f64; 3]) {
    let whole = picture(160, 120);
    let got = done(&whole, std::slice::from_ref(step));
    let (mut sum, mut most) = (0.0, 0.0f64);
    for (n, (got, pixel)) in got.data().chunks_exact(4).zip(whole.data().chunks_exact(4)).enumerate() {
        let place = [((n % 160) as f64 + 0.5) / 160.0, ((n / 160) as f64 + 0.5) / 120.0];
        let wanted = formula(([0, 1, 2].map(|c| f64::from(pixel[c]) / 255.0), place));
        for (got, wanted) in got.iter().zip(wanted) {
            let off = (f64::from(*got) - wanted.clamp(0.0, 1.0) * 255.0).abs();
            (sum, most) = (sum + off, most.max(off));
        }
    }
    let mean = sum / (160.0 * 120.0 * 3.0);
    // Rounding to bytes alone is a quarter of a level on average.
    assert!(mean < 0.3 && most < 2.0, "{step:?}: {mean} on average, {most} at most");
}

fn luma([r, g, b]: [f64; 3]) -> f64 {
    0.2126 * r + 0.7152 * g + 0.0722 * b
}

fn smooth(t: f64) -> f64 {
    let t = t.clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}

#[test]
fn published_definitions_hold() {
    for ev in [-1.5, 0.7, 2.0] {
        assert_formula(&Develop::Exposure { ev: r(ev) }, |(p, _)| {
            p.map(linear_of).map(|value| encoded_of(value * ev.exp2()))
        });
    }
    assert_formula(&Develop::Mono { red: r(0.2126), green: r(0.7152), blue: r(0.0722) }, |(p, _)| [luma(p); 3]);
    assert_formula(
        &Develop::Levels { black: r(0.1), white: r(0.85), gamma: r(1.4), out_black: r(0.05), out_white: r(0.95) },
        |(p, _)| p.map(|value| 0.05 + 0.9 * ((value - 0.1) / 0.75).clamp(0.0, 1.0).powf(1.0 / 1.4)),
    );
    assert_formula(
        &Develop::ToneMap {
            stops: vec![
                ToneStop { at: r(0.0), tint: own(10, 20, 30) },
                ToneStop { at: r(1.0), tint: own(250, 200, 100) },
            ],
        },
        |(p, _)| [(10.0, 250.0), (20.0, 200.0), (30.0, 100.0)].map(|(a, b)| (a + (b - a) * luma(p)) / 255.0),
    );
}

#[test]
fn colours_mix_as_the_specification_says() {
    use crate::develop::mixing::mixed;
    let ramp: Vec<f32> = (0..=8).map(|at| at as f32 / 8.0).collect();
    for below in &ramp {
        for above in &ramp {
            let (b, s) = (*below, *above);
            let is = |blend, wanted: f32| {
                let got = mixed(blend, [b; 3], [s; 3])[1];
                assert!((got - wanted).abs() < 1e-5, "{blend:?} of {s} over {b}: {got}, not {wanted}");
            };
            is(Blend::Multiply, b * s);
            is(Blend::Screen, 1.0 - (1.0 - b) * (1.0 - s));
            is(Blend::Overlay, if b <= 0.5 { 2.0 * b * s } else { 1.0 - 2.0 * (1.0 - b) * (1.0 - s) });
            is(Blend::HardLight, if s <= 0.5 { 2.0 * b * s } else { 1.0 - 2.0 * (1.0 - b) * (1.0 - s) });
            is(Blend::Darken, b.min(s));
            is(Blend::Lighten, b.max(s));
            let (b64, s64) = (f64::from(b), f64::from(s));
            let d = if b64 <= 0.25 { ((16.0 * b64 - 12.0) * b64 + 4.0) * b64 } else { b64.sqrt() };
            let soft = if s64 <= 0.5 {
                b64 - (1.0 - 2.0 * s64) * b64 * (1.0 - b64)
            } else {
                b64 + (2.0 * s64 - 1.0) * (d - b64)
            };
            is(Blend::SoftLight, soft as f32);
            is(
                Blend::ColorDodge,
                if b == 0.0 {
                    0.0
                } else if s == 1.0 {
                    1.0
                } else {
                    (b / (1.0 - s)).min(1.0)
                },
            );
            is(
                Blend::ColorBurn,
                if b == 1.0 {
                    1.0
                } else if s == 0.0 {
                    0.0
                } else {
                    1.0 - ((1.0 - b) / s).min(1.0)
                },
            );
            is(Blend::Difference, (b - s).abs());
            is(Blend::Exclusion, b + s - 2.0 * b * s);
            // Greys have neither hue nor saturation: only lightness is left to take.
            is(Blend::Hue, b);
            is(Blend::Saturation, b);
            is(Blend::Color, b);
            is(Blend::Luminosity, s);
        }
    }
    // Lightness, then what of a colour leaves what can be shown pulled towards it.
    let lum = |p: [f64; 3]| 0.3 * p[0] + 0.59 * p[1] + 0.11 * p[2];
    let ends = |p: [f64; 3]| (p[0].min(p[1]).min(p[2]), p[0].max(p[1]).max(p[2]));
    let set_lum = |p: [f64; 3], to: f64| {
        let mut p = p.map(|value| value + to - lum(p));
        let (low, high) = ends(p);
        if low < 0.0 {
            p = p.map(|value| to + (value - to) * to / (to - low));
        }
        if high > 1.0 {
            p = p.map(|value| to + (value - to) * (1.0 - to) / (high - to));
        }
        p
    };
    let sat = |p: [f64; 3]| ends(p).1 - ends(p).0;
    // The middle one in proportion between the ends, which become 0 and what is asked.
    let set_sat = |p: [f64; 3], to: f64| p.map(|value| (value - ends(p).0) * to / sat(p));
    let colors: [[f32; 3]; 5] =
        [[0.2, 0.7, 0.4], [0.9, 0.3, 0.1], [0.02, 0.05, 0.98], [1.0, 0.9, 0.2], [0.0, 0.6, 0.1]];
    for below in colors {
        for above in colors {
            let (b, s) = (below.map(f64::from), above.map(f64::from));
            for (blend, wanted) in [
                (Blend::Hue, set_lum(set_sat(s, sat(b)), lum(b))),
                (Blend::Saturation, set_lum(set_sat(b, sat(s)), lum(b))),
                (Blend::Color, set_lum(s, lum(b))),
                (Blend::Luminosity, set_lum(b, lum(s))),
            ] {
                let got = mixed(blend, below, above);
                for c in 0..3 {
                    assert!(
                        (f64::from(got[c]) - wanted[c]).abs() < 1e-4,
                        "{blend:?} of {above:?} over {below:?}: {got:?}, not {wanted:?}"
                    );
                }
            }
        }
    }
}

#[test]
fn tones_move_as_it_is_stated() {
    for (brightness, contrast) in [(0.4, 0.0), (-0.3, 0.5), (0.2, -0.6)] {
        assert_formula(&Develop::Tone { brightness: r(brightness), contrast: r(contrast) }, |(p, _)| {
            let q = (1.3 * contrast).exp2();
            p.map(|value| value.powf((-brightness).exp2())).map(|value| {
                if value < 0.5 { 0.5 * (2.0 * value).powf(q) } else { 1.0 - 0.5 * (2.0 - 2.0 * value).powf(q) }
            })
        });
    }
    let hump = |v: f64| v * v * (1.0 - v).powi(3) / 0.034_56;
    for [highlights, shadows, whites, blacks] in [[-0.6, 0.5, 0.0, 0.0], [0.3, 0.0, -0.5, 0.4]] {
        let step =
            Develop::Ranges { highlights: r(highlights), shadows: r(shadows), whites: r(whites), blacks: r(blacks) };
        assert_formula(&step, |(p, _)| {
            let v = luma(p);
            let moved = v
                + 0.11 * (shadows * hump(v) + highlights * hump(1.0 - v))
                + 0.12 * (whites * v.powi(3) + blacks * (1.0 - v).powi(3));
            p.map(|value| value * (moved / v).clamp(0.0, 8.0))
        });
    }
}

#[test]
fn finishing_is_what_is_stated() {
    for (strength, reach, softness) in [(-0.6, 0.3, 0.8), (0.4, 0.1, 0.5), (-0.3, 0.6, 0.01)] {
        let step = Develop::Vignette { strength: r(strength), reach: r(reach), softness: r(softness) };
        assert_formula(&step, |(p, [x, y])| {
            let far = ((x - 0.5) * 160.0).hypot((y - 0.5) * 120.0) / 100.0;
            let share = smooth((far - reach) / (softness * (1.0 - reach)).max(0.02));
            p.map(|value| encoded_of(linear_of(value) * (2.5 * strength * share).exp2()))
        });
    }
    for strength in [0.3, 1.0] {
        assert_formula(&Develop::Fade { strength: r(strength) }, |(p, _)| {
            let light = luma(p);
            p.map(|value| (value + (light - value) * 0.25 * strength) * (1.0 - 0.24 * strength) + 0.17 * strength)
        });
    }
    for levels in [2u8, 5, 12] {
        let steps = f64::from(levels) - 1.0;
        let whole = picture(160, 120);
        let got = done(&whole, &[Develop::Posterise { levels }]);
        for (got, from) in got.data().iter().zip(whole.data()) {
            let at = f64::from(*from) / 255.0 * steps;
            // Halfway either is right.
            let near = [(at - 1e-3).round(), (at + 1e-3).round()].map(|at| (at / steps * 255.0).round() as u8);
            assert!(near.contains(got), "{from} became {got} of {levels}");
        }
    }
}

/// A red, a green, a blue and a white quarter; as wide as said, and half as high.
fn quarters(width: u32) -> Straight {
    let height = width / 2;
    let pixel = |n: u32| match (n % width * 2 / width, n / width * 2 / height) {
        (0, 0) => [255, 0, 0, 255],
        (1, 0) => [0, 255, 0, 255],
        (0, _) => [0, 0, 255, 255],
        _ => [255, 255, 255, 255],
    };
    Straight::new(width, height, (0..width * height).flat_map(pixel).collect()).unwrap()
}

#[test]
fn a_picture_laid_over_lies_where_it_is_put_as_large_and_turned_as_it_is_said() {
    let ground = Straight::new(200, 160, [90, 90, 90, 255].repeat(200 * 160)).unwrap();
    let step = |blend, centre, scale, turn| {
        Treatment::new(Develop::Overlay {
            picture: AssetId::new("over").unwrap(),
            blend,
            centre,
            scale: r(scale),
            turn: Angle::degrees(turn),
        })
    };
    let over = |_: &AssetId, _: u32| Some(Arc::new(quarters(80)));
    let laid = |steps: &[Treatment]| develop(&ground, steps, &over);
    let [red, green, blue, white, grey] = [[255, 0, 0], [0, 255, 0], [0, 0, 255], [255, 255, 255], [90, 90, 90]];
    let color =
        |out: &Straight, x: usize, y: usize| -> [u8; 3] { out.data()[(y * 200 + x) * 4..][..3].try_into().unwrap() };
    // Half as wide as the picture is long: 100 by 50 pixels about its place.
    let upright = laid(&[step(Blend::Normal, at(0.4, 0.6), 0.5, 0.0)]);
    for (x, y, wanted) in [
        (33, 74, red),
        (77, 93, red),
        (83, 74, green),
        (127, 93, green),
        (33, 99, blue),
        (77, 118, blue),
        (127, 118, white),
        (27, 96, grey),
        (132, 96, grey),
        (80, 68, grey),
        (80, 123, grey),
    ] {
        assert_eq!(color(&upright, x, y), wanted, "at {x}, {y}");
    }
    // A quarter of a turn clockwise: what was on the left is at the top.
    let turned = laid(&[step(Blend::Normal, at(0.4, 0.6), 0.5, 90.0)]);
    for (x, y, wanted) in
        [(70, 60, blue), (95, 60, red), (70, 130, white), (95, 130, green), (50, 96, grey), (80, 40, grey)]
    {
        assert_eq!(color(&turned, x, y), wanted, "turned, at {x}, {y}");
    }
    // Mixed as the mode says, and by its share.
    let multiplied = laid(&[step(Blend::Multiply, at(0.4, 0.6), 0.5, 0.0)]);
    assert_eq!([color(&multiplied, 40, 80), color(&multiplied, 120, 110)], [[90, 0, 0], grey]);
    let half = laid(&[Treatment { amount: r(0.5), ..step(Blend::Normal, at(0.4, 0.6), 0.5, 0.0) }]);
    assert!(color(&half, 40, 80)[0].abs_diff(172) < 2 && color(&half, 40, 80)[1] == 45);
    // One that is not there leaves the picture as it is.
    assert_eq!(develop(&ground, &[step(Blend::Normal, at(0.5, 0.5), 1.0, 0.0)], &none), ground);
}
