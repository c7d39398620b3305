//! What holds for every step.

use proptest::prelude::*;
use vatman_document::{
    Area, Blend, BrushStroke, Color, CurvePoint, Develop, Focus, Joining, Mask, MaskArea, Oklab, Tint, ToneStop,
    Treatment,
};
use vatman_units::{Angle, Ratio};

use super::*;
use crate::resize;

mod stated;

fn r(value: f64) -> Ratio {
    Ratio::new(value)
}

fn own(red: u8, green: u8, blue: u8) -> Tint {
    Tint::Own(Color::opaque(red, green, blue))
}

fn at(x: f64, y: f64) -> Focus {
    Focus { x: r(x), y: r(y) }
}

/// A picture with even parts, gradients, edges, fine texture and loud colours, as photographs have.
fn picture(width: u32, height: u32) -> Straight {
    let mut data = Vec::new();
    for y in 0..height {
        for x in 0..width {
            let (u, v) = (f64::from(x) / f64::from(width), f64::from(y) / f64::from(height));
            let wave = ((u * 31.0).sin() * (v * 23.0).cos() * 0.5 + 0.5) * 0.18;
            let disc = if (u - 0.35).hypot((v - 0.55) * 0.8) < 0.18 { 0.35 } else { 0.0 };
            let value = [
                0.12 + 0.7 * u + wave - disc * 0.4,
                0.2 + 0.5 * v + wave * 0.6 + disc,
                0.75 - 0.55 * u * v - wave + disc * 0.2,
            ];
            data.extend(value.map(|value| (value.clamp(0.0, 1.0) * 255.0) as u8));
            data.push(255);
        }
    }
    Straight::new(width, height, data).unwrap()
}

fn none(_: &vatman_document::AssetId, _: u32) -> Option<std::sync::Arc<Straight>> {
    None
}

fn done(picture: &Straight, steps: &[Develop]) -> Straight {
    let steps: Vec<Treatment> = steps.iter().cloned().map(Treatment::new).collect();
    assert!(steps.iter().all(|step| step.fault().is_none()), "{steps:?}");
    develop(picture, &steps, &none)
}

/// One of each kind, at a strength that is clearly seen.
fn every_kind() -> Vec<Develop> {
    let line = |y: f64| {
        vec![
            CurvePoint { x: r(0.0), y: r(0.0) },
            CurvePoint { x: r(0.5), y: r(y) },
            CurvePoint { x: r(1.0), y: r(1.0) },
        ]
    };
    vec![
        Develop::Exposure { ev: r(0.8) },
        Develop::Tone { brightness: r(0.3), contrast: r(0.5) },
        Develop::Ranges { highlights: r(-0.7), shadows: r(0.8), whites: r(0.3), blacks: r(-0.4) },
        Develop::Curves { all: line(0.6), red: line(0.45), green: vec![], blue: line(0.55) },
        Develop::Levels { black: r(0.1), white: r(0.9), gamma: r(1.3), out_black: r(0.02), out_white: r(0.98) },
        Develop::WhiteBalance { kelvin: 4_200, tint: r(0.2) },
        Develop::Colour { saturation: r(-0.4), vibrance: r(0.6), hue: Angle::degrees(20.0) },
        Develop::Mixer { hue: [r(0.4); 8], saturation: [r(-0.5); 8], lightness: [r(0.3); 8] },
        Develop::SplitTone { shadows: own(20, 60, 90), lights: own(240, 190, 110), balance: r(0.1) },
        Develop::Mono { red: r(0.3), green: r(0.5), blue: r(0.2) },
        Develop::ToneMap {
            stops: vec![
                ToneStop { at: r(0.0), tint: own(20, 10, 60) },
                ToneStop { at: r(1.0), tint: own(255, 240, 200) },
            ],
        },
        Develop::Wash { tint: own(140, 79, 50), blend: Blend::SoftLight },
        Develop::Sharpen { radius: r(0.012), strength: r(1.0), threshold: r(0.01) },
        Develop::LocalContrast { fine: r(0.5), broad: r(0.5) },
        Develop::ToneContrast {
            shadows: r(0.6),
            middles: r(0.5),
            lights: r(0.4),
            protect_shadows: r(0.5),
            protect_lights: r(0.5),
        },
        Develop::Denoise { light: r(0.5), colour: r(0.6) },
        Develop::Haze { strength: r(0.5) },
        Develop::Blur { radius: r(0.02) },
        Develop::LensBlur { radius: r(0.02), shine: r(0.3) },
        Develop::FocusSpot {
            centre: at(0.4, 0.5),
            across: r(0.3),
            down: r(0.2),
            turn: Angle::degrees(20.0),
            softness: r(0.5),
            radius: r(0.02),
        },
        Develop::FocusBand {
            centre: at(0.5, 0.5),
            reach: r(0.2),
            turn: Angle::degrees(10.0),
            softness: r(0.5),
            radius: r(0.02),
        },
        Develop::Motion { length: r(0.05), turn: Angle::degrees(30.0) },
        Develop::Zoom { centre: at(0.5, 0.5), length: r(0.1) },
        Develop::Pixelate { size: r(0.05) },
        Develop::Grain { size: r(0.012), strength: r(0.5), roughness: r(0.5), number: 7 },
        Develop::Vignette { strength: r(-0.6), reach: r(0.3), softness: r(0.8) },
        Develop::Leak { tint: own(255, 120, 40), turn: Angle::degrees(30.0), reach: r(0.6) },
        Develop::Fade { strength: r(0.6) },
        Develop::Glow { radius: r(0.03), strength: r(0.5), threshold: r(0.4) },
        Develop::Halftone { size: r(0.03), turn: Angle::degrees(45.0), ink: own(0, 0, 0), paper: own(255, 255, 255) },
        Develop::Posterise { levels: 4 },
    ]
}

/// The mean distance of two pictures, in levels of 255.
fn apart(a: &Straight, b: &Straight) -> f64 {
    assert_eq!((a.width(), a.height()), (b.width(), b.height()));
    let sum: u64 = a.data().iter().zip(b.data()).map(|(a, b)| u64::from(a.abs_diff(*b))).sum();
    sum as f64 / (a.data().len() as f64 * 0.75)
}

#[test]
fn every_kind_does_something_and_at_nothing_leaves_every_byte() {
    let whole = picture(96, 70);
    for step in every_kind() {
        let name = format!("{step:?}");
        assert!(apart(&done(&whole, std::slice::from_ref(&step)), &whole) > 0.4, "{name} does nothing");
        let full = Treatment::new(step);
        let nowhere = Mask { areas: vec![], inverted: false, density: r(1.0), feather: r(0.0) };
        let thin = Mask { areas: vec![], inverted: true, density: r(0.0), feather: r(0.0) };
        for idle in [
            Treatment { amount: Ratio::ZERO, ..full.clone() },
            Treatment { on: false, ..full.clone() },
            Treatment { mask: Some(nowhere), ..full.clone() },
            Treatment { mask: Some(thin), ..full.clone() },
        ] {
            assert_eq!(develop(&whole, &[idle], &none), whole, "{name}");
        }
    }
}

#[test]
fn half_of_a_step_lies_halfway() {
    let whole = picture(80, 60);
    for step in every_kind() {
        let full = done(&whole, std::slice::from_ref(&step));
        let half = develop(&whole, &[Treatment { amount: Ratio::HALF, ..Treatment::new(step.clone()) }], &none);
        for ((before, all), some) in whole.data().iter().zip(full.data()).zip(half.data()) {
            let middle = f64::midpoint(f64::from(*before), f64::from(*all));
            // What is cut off at black and white was cut off after mixing.
            let cut = *all == 0 || *all == 255;
            assert!(cut || (f64::from(*some) - middle).abs() <= 1.01, "{step:?}: {before} {some} {all}");
        }
    }
}

#[test]
fn a_small_picture_comes_out_as_the_large_one_made_small() {
    let large = picture(1_200, 900);
    for step in every_kind() {
        let wanted = resize(&done(&large, std::slice::from_ref(&step)), 600, 450);
        let got = done(&resize(&large, 600, 450), std::slice::from_ref(&step));
        let far = apart(&wanted, &got);
        // Dots and squares have edges that fall between pixels.
        let allowed = match step {
            Develop::Halftone { .. } | Develop::Posterise { .. } | Develop::Pixelate { .. } => 6.0,
            _ => 2.0,
        };
        assert!(far <= allowed, "{step:?}: {far:.2} levels apart");
    }
}

#[test]
fn any_number_of_cores_gives_the_same_bytes() {
    let whole = picture(300, 170);
    let all = every_kind();
    let with = |threads: usize| {
        let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).build().unwrap();
        pool.install(|| all.iter().map(|step| done(&whole, std::slice::from_ref(step))).collect::<Vec<_>>())
    };
    assert_eq!(with(1), with(3));
}

#[test]
fn what_is_clear_stays_clear_and_lends_no_colour() {
    let mut clear = picture(90, 60);
    for (at, pixel) in clear.data.chunks_exact_mut(4).enumerate() {
        if at % 90 < 45 {
            pixel.copy_from_slice(&[255, 0, 255, 0]);
        }
    }
    for step in every_kind() {
        let out = done(&clear, std::slice::from_ref(&step));
        assert!(out.data().chunks_exact(4).zip(clear.data().chunks_exact(4)).all(|(a, b)| a[3] == b[3]), "{step:?}");
    }
    // A blur of an even grey beside clear magenta stays grey.
    let mut grey = clear.clone();
    for pixel in grey.data.chunks_exact_mut(4).filter(|pixel| pixel[3] > 0) {
        pixel[..3].copy_from_slice(&[120, 120, 120]);
    }
    let out = done(&grey, &[Develop::Blur { radius: r(0.05) }]);
    assert!(out.data().chunks_exact(4).filter(|p| p[3] > 0).all(|p| p[..3].iter().all(|v| v.abs_diff(120) <= 1)));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    #[test]
    fn a_chain_is_its_steps_in_order(chosen in proptest::collection::vec(0usize..12, 2..4)) {
        let whole = picture(64, 48);
        let kinds = every_kind();
        let steps: Vec<Develop> = chosen.iter().map(|at| kinds[*at].clone()).collect();
        let together = done(&whole, &steps);
        // Between the steps bytes are rounded, which steps may stretch, and cut off; only what was never cut off is compared.
        let mut cut = vec![false; (whole.width() * whole.height()) as usize];
        let apart_steps = steps.iter().fold(whole, |now, step| {
            let next = done(&now, std::slice::from_ref(step));
            for (cut, pixel) in cut.iter_mut().zip(next.data().chunks_exact(4)) {
                *cut |= pixel[..3].iter().any(|value| *value < 2 || *value > 253);
            }
            next
        });
        let pairs = together.data().chunks_exact(4).zip(apart_steps.data().chunks_exact(4)).zip(&cut);
        let far: Vec<u8> = pairs
            .filter(|(_, cut)| !**cut)
            .map(|((a, b), _)| (0..3).map(|c| a[c].abs_diff(b[c])).max().unwrap_or(0))
            .collect();
        let mean = far.iter().map(|far| f64::from(*far)).sum::<f64>() / (far.len() as f64).max(1.0);
        prop_assert!(mean < 2.0, "{steps:?}: {mean} over {} pixels", far.len());
    }
}

#[test]
fn less_colour_keeps_lightness_and_hue() {
    let whole = picture(120, 90);
    let out = done(&whole, &[Develop::Colour { saturation: r(-0.5), vibrance: r(0.0), hue: Angle::ZERO }]);
    for (before, after) in whole.data().chunks_exact(4).zip(out.data().chunks_exact(4)) {
        let lab = |p: &[u8]| Oklab::from(Color::opaque(p[0], p[1], p[2]));
        let (before, after) = (lab(before), lab(after));
        assert!((before.l - after.l).abs() < 0.006, "{before:?} became {after:?}");
        assert!((after.chroma() - before.chroma() * 0.5).abs() < 0.008, "{before:?} became {after:?}");
    }
}

#[test]
fn hues_are_turned_by_what_is_said_and_nothing_else_is() {
    // Quiet colours, which stay in what can be shown whichever way they are turned.
    let quiet = |at: u32| [110 + at % 7 * 5, 105 + at / 7 % 7 * 5, 108 + at / 49 * 5, 255].map(|value| value as u8);
    let whole = Straight::new(49, 7, (0..343).flat_map(quiet).collect()).unwrap();
    for degrees in [90.0, -60.0, 180.0] {
        let turned = Develop::Colour { saturation: r(0.0), vibrance: r(0.0), hue: Angle::degrees(degrees) };
        let out = done(&whole, &[turned]);
        let (sin, cos) = degrees.to_radians().sin_cos();
        for (before, after) in whole.data().chunks_exact(4).zip(out.data().chunks_exact(4)) {
            let lab = |p: &[u8]| Oklab::from(Color::opaque(p[0], p[1], p[2]));
            let (before, after) = (lab(before), lab(after));
            let wanted = Oklab { a: before.a * cos - before.b * sin, b: before.a * sin + before.b * cos, ..before };
            assert!(
                [wanted.l - after.l, wanted.a - after.a, wanted.b - after.b].iter().all(|off| off.abs() < 0.005),
                "{before:?} became {after:?} at {degrees}"
            );
        }
    }
}

/// Means of what is seen within a box, given by its left, top, width and height in shares.
fn mean_in(picture: &Straight, [left, top, wide, high]: [f64; 4]) -> [f64; 3] {
    let (w, h) = (f64::from(picture.width()), f64::from(picture.height()));
    let span = |from: f64, long: f64, whole: f64| ((from * whole) as u32, ((from + long) * whole) as u32);
    picture.mean(span(left, wide, w), span(top, high, h)).unwrap().map(f64::from)
}

fn flat(size: u32, value: u8) -> Straight {
    Straight::new(size, size, (0..size * size).flat_map(|_| [value, value, value, 255]).collect()).unwrap()
}

#[test]
fn what_is_in_focus_lies_where_it_was_put() {
    // A fine pattern, which is gone where it is out of focus.
    let pixel =
        |n: u32| if (n % 120 / 2 + n / 120 / 2).is_multiple_of(2) { [200, 200, 200, 255] } else { [60, 60, 60, 255] };
    let whole = Straight::new(120, 120, (0..14_400).flat_map(pixel).collect()).unwrap();
    let (across, down) = (r(0.15), r(0.1));
    let spot = |x, y, turn| Develop::FocusSpot {
        centre: at(x, y),
        across,
        down,
        turn: Angle::degrees(turn),
        softness: r(0.05),
        radius: r(0.05),
    };
    let uneven = |picture: &Straight, x: f64, y: f64| {
        let (x, y) = ((x * 120.0) as usize, (y * 120.0) as usize);
        let near = (y - 3..y + 3).flat_map(|y| (x - 3..x + 3).map(move |x| (y * 120 + x) * 4));
        let values: Vec<f64> = near.map(|at| f64::from(picture.data()[at])).collect();
        values.iter().fold(0.0, |most: f64, value| most.max((value - values[0]).abs()))
    };
    for (x, y) in [(0.25, 0.25), (0.75, 0.25), (0.25, 0.7)] {
        let out = done(&whole, &[spot(x, y, 0.0)]);
        assert!(uneven(&out, x, y) > 120.0 && uneven(&out, x + 0.1, y) > 120.0);
        for (x, y) in [(1.0 - x, y), (x, 1.0 - y), (x, y + 0.15)] {
            assert!(uneven(&out, x, y) < 20.0, "beside it at {x}, {y}");
        }
    }
    let turned = done(&whole, &[spot(0.5, 0.5, 90.0)]);
    assert!(uneven(&turned, 0.5, 0.6) > 120.0 && uneven(&turned, 0.63, 0.5) < 20.0);
    // Far out it is as soft as asked, no more and no less.
    let scene = picture(200, 150);
    let Develop::FocusSpot { centre, across, down, turn, softness, radius } = spot(0.2, 0.2, 0.0) else {
        unreachable!()
    };
    let spotted = done(&scene, &[Develop::FocusSpot { centre, across, down, turn, softness, radius }]);
    let blurred = done(&scene, &[Develop::Blur { radius }]);
    for (x, y) in [(0.8, 0.8), (0.6, 0.75), (0.9, 0.3)] {
        let place = [x, y, 0.05, 0.05];
        let (got, wanted) = (mean_in(&spotted, place), mean_in(&blurred, place));
        assert!((0..3).all(|c| (got[c] - wanted[c]).abs() < 1.5), "{x}, {y}: {got:?}, not {wanted:?}");
    }
    // On the way out of focus the pattern fades evenly, and nothing leaves its tones.
    let Develop::FocusSpot { centre, across, down, turn, radius, .. } = spot(0.2, 0.5, 0.0) else { unreachable!() };
    let soft = done(&whole, &[Develop::FocusSpot { centre, across, down, turn, radius, softness: r(0.6) }]);
    assert!(soft.data().chunks_exact(4).all(|pixel| (59..=201).contains(&pixel[0])));
    let way: Vec<f64> = (0..6).map(|n| uneven(&soft, 0.3 + 0.1 * f64::from(n), 0.5)).collect();
    assert!(way.windows(2).all(|pair| pair[1] <= pair[0] + 6.0) && way[0] > way[5] + 60.0, "{way:?}");
}

#[test]
fn a_light_is_spread_to_a_disc_of_the_radius_that_was_asked_also_where_it_is_worked_out_small() {
    for radius in [6.0, 17.0, 31.0] {
        let mut lamp = flat(400, 0);
        for n in (196..204).flat_map(|y| (196..204).map(move |x| y * 400 + x)) {
            lamp.data[n * 4..n * 4 + 3].fill(255);
        }
        let out = done(&lamp, &[Develop::LensBlur { radius: r(radius / 400.0), shine: r(1.0) }]);
        let most = out.data().chunks_exact(4).map(|pixel| pixel[0]).max().unwrap();
        let lit = out.data().chunks_exact(4).filter(|pixel| pixel[0] > most / 2).count() as f64;
        let seen = (lit / std::f64::consts::PI).sqrt();
        // The lamp itself is eight pixels wide.
        assert!((radius..radius + 6.0).contains(&seen), "{radius} is seen as {seen}");
    }
}

#[test]
fn a_leak_comes_in_where_it_is_turned_to_and_is_turned_as_a_whole() {
    let leak = |degrees| Develop::Leak { tint: own(250, 160, 80), turn: Angle::degrees(degrees), reach: r(0.6) };
    let [right, below] = [0.0, 90.0].map(|degrees| done(&flat(120, 40), &[leak(degrees)]));
    for (picture, near, far) in
        [(&right, [0.9, 0.0, 0.1, 1.0], [0.0, 0.0, 0.3, 1.0]), (&below, [0.0, 0.9, 1.0, 0.1], [0.0, 0.0, 1.0, 0.3])]
    {
        let (near, far) = (mean_in(picture, near), mean_in(picture, far));
        assert!(near[0] > 150.0 && near[0] > near[2] + 40.0 && far[0] < 45.0, "{near:?} {far:?}");
    }
    // A quarter turn of the light is a quarter turn of the picture.
    let turned = (0..14_400).map(|n| (119 - n % 120) * 120 + n / 120);
    let off = turned.enumerate().map(|(n, from)| below.data()[n * 4].abs_diff(right.data()[from * 4]));
    assert!(off.max().unwrap() <= 1);
}

#[test]
fn grain_is_strongest_in_middle_tones_and_as_coarse_as_it_is_rough() {
    let spread = |value: u8, roughness: f64| {
        let grain = Develop::Grain { size: r(0.006), strength: r(0.3), roughness: r(roughness), number: 5 };
        let out = done(&flat(300, value), &[grain]);
        let values: Vec<f64> = out.data().chunks_exact(4).map(|pixel| f64::from(pixel[0])).collect();
        let mean = values.iter().sum::<f64>() / values.len() as f64;
        (values.iter().map(|own| (own - mean).powi(2)).sum::<f64>() / values.len() as f64).sqrt()
    };
    let [dark, middle, light] = [38, 128, 217].map(|value| spread(value, 0.0));
    // By the formula: a quarter and three times what light times shade is.
    let share = |value: f64| 0.25 + 3.0 * (value / 255.0) * (1.0 - value / 255.0);
    for (seen, value) in [(dark, 38.0), (light, 217.0)] {
        assert!((seen / middle - share(value) / share(128.0)).abs() < 0.04, "{seen} of {middle} at {value}");
    }
    assert!(middle > 4.0 && spread(128, 1.0) > 1.2 * middle);
}

/// The mixes of the specification against those of the drawing library, which was written by others.
fn masked(areas: Vec<Area>, change: impl Fn(&mut Mask)) -> Vec<f32> {
    let areas = areas.into_iter().map(|area| MaskArea { area, joins: Joining::Add }).collect();
    let mut mask = Mask { areas, inverted: false, density: r(1.0), feather: r(0.0) };
    change(&mut mask);
    super::mask::coverage(&mask, &Film::of(&picture(100, 80)), &|_, _| None)
}

#[test]
fn a_step_can_be_for_a_subject_alone_and_a_missing_mask_is_one_of_nothing() {
    let grey = picture(90, 60);
    // Any size does: here the right half, in a mask of 6 x 4 pixels.
    let half = (0..24).flat_map(|n| [if n % 6 < 3 { 0 } else { 255 }; 3].into_iter().chain([255])).collect();
    let half = std::sync::Arc::new(Straight::new(6, 4, half).unwrap());
    let id = AssetId::new("m").unwrap();
    let area = MaskArea { area: Area::Subject { mask: id.clone() }, joins: Joining::Add };
    let mask = Mask { areas: vec![area], inverted: false, density: r(1.0), feather: r(0.0) };
    let step = Treatment { mask: Some(mask), ..Treatment::new(Develop::Exposure { ev: r(1.0) }) };
    assert_eq!(step.pictures().collect::<Vec<_>>(), [&id]);
    let steps = [step];
    let out = develop(&grey, &steps, &|wanted, _| (*wanted == id).then(|| half.clone()));
    let whole = develop(&grey, &[Treatment::new(Develop::Exposure { ev: r(1.0) })], &|_, _| None);
    let pixel = |picture: &Straight, x: usize| picture.data()[(30 * 90 + x) * 4..][..3].to_vec();
    assert_eq!((pixel(&out, 20), pixel(&out, 70)), (pixel(&grey, 20), pixel(&whole, 70)));
    assert_eq!(develop(&grey, &steps, &|_, _| None).data(), grey.data());
}

#[test]
fn what_is_made_clear_is_clear_where_the_mask_says_and_keeps_its_colours() {
    let own = picture(100, 80);
    let area = MaskArea { area: Area::Linear { from: at(0.2, 0.5), to: at(0.8, 0.5) }, joins: Joining::Add };
    let mask = Mask { areas: vec![area], inverted: false, density: r(1.0), feather: r(0.0) };
    let step = Treatment { mask: Some(mask), amount: r(0.8), ..Treatment::new(Develop::Clear {}) };
    let out = develop(&own, std::slice::from_ref(&step), &|_, _| None);
    let alpha = |x: usize| out.data()[(40 * 100 + x) * 4 + 3];
    assert_eq!((alpha(5), alpha(95)), (255, 51));
    assert!(out.data().chunks_exact(4).zip(own.data().chunks_exact(4)).all(|(a, b)| a[..3] == b[..3]));
    // Twice is less of what is left.
    let twice = develop(&own, &[step.clone(), step], &|_, _| None);
    assert_eq!(twice.data()[(40 * 100 + 95) * 4 + 3], 10);
}

#[test]
fn masks_cover_what_they_say() {
    let value = |all: &[f32], x: usize, y: usize| all[y * 100 + x];
    let linear = masked(vec![Area::Linear { from: at(0.2, 0.5), to: at(0.8, 0.5) }], |_| {});
    assert!(value(&linear, 10, 40) == 0.0 && value(&linear, 90, 10) == 1.0);
    assert!((value(&linear, 50, 70) - 0.5).abs() < 0.02, "halfway");
    let spot = Area::Radial { centre: at(0.5, 0.5), across: r(0.2), down: r(0.1), turn: Angle::ZERO, softness: r(0.0) };
    let radial = masked(vec![spot.clone()], |_| {});
    assert!(value(&radial, 65, 40) == 1.0 && value(&radial, 50, 55) == 0.0, "wider than high");
    let inverted = masked(vec![spot.clone()], |mask| mask.inverted = true);
    assert!(radial.iter().zip(&inverted).all(|(a, b)| (a + b - 1.0).abs() < 1e-6));
    let thin = masked(vec![spot.clone()], |mask| mask.density = r(0.3));
    assert!((value(&thin, 50, 40) - 0.3).abs() < 1e-6);
    let soft = masked(vec![spot.clone()], |mask| mask.feather = r(0.05));
    assert!(value(&soft, 70, 40) > 0.2 && value(&soft, 70, 40) < 0.8, "its edge is soft");
    let light = masked(vec![Area::Light { from: r(0.6), to: r(1.0), softness: r(0.0) }], |_| {});
    let film = Film::of(&picture(100, 80));
    for (covered, light) in light.iter().zip(film.lightness()) {
        assert!((light - 0.6).abs() < 0.01 || (*covered > 0.5) == (light > 0.6), "{light} has {covered}");
    }
    let stroke = |erases| BrushStroke {
        points: vec![at(0.1, 0.5), at(0.9, 0.5), at(0.1, 0.5)],
        radius: r(0.1),
        hardness: r(0.8),
        strength: r(0.6),
        erases,
    };
    let painted = masked(vec![Area::Brush { strokes: vec![stroke(false)] }], |_| {});
    assert!((value(&painted, 50, 40) - 0.6).abs() < 0.01, "crossing itself it is no stronger");
    assert!(value(&painted, 50, 20) == 0.0 && value(&painted, 99, 40) < 0.6);
    let twice = masked(vec![Area::Brush { strokes: vec![stroke(false), stroke(false)] }], |_| {});
    assert!((value(&twice, 50, 40) - 0.84).abs() < 0.01, "two strokes add up");
    let wiped = masked(vec![Area::Brush { strokes: vec![stroke(false), stroke(true)] }], |_| {});
    assert!((value(&wiped, 50, 40) - 0.24).abs() < 0.01, "one takes away");
}

#[test]
fn areas_join_as_they_say() {
    let spot = Area::Radial { centre: at(0.4, 0.5), across: r(0.2), down: r(0.2), turn: Angle::ZERO, softness: r(0.0) };
    let other =
        Area::Radial { centre: at(0.6, 0.5), across: r(0.2), down: r(0.2), turn: Angle::ZERO, softness: r(0.0) };
    let joined = |joins| masked(vec![spot.clone(), other.clone()], |mask| mask.areas[1].joins = joins);
    // Left only, both, right only.
    for (joins, wanted) in
        [(Joining::Add, [1.0, 1.0, 1.0]), (Joining::Take, [1.0, 0.0, 0.0]), (Joining::Both, [0.0, 1.0, 0.0])]
    {
        let all = joined(joins);
        assert_eq!([25, 50, 75].map(|x| all[40 * 100 + x]), wanted, "{joins:?}");
    }
}

#[test]
fn a_mask_means_the_same_at_every_size() {
    let stroke = BrushStroke {
        points: vec![at(0.2, 0.3), at(0.6, 0.7), at(0.8, 0.4)],
        radius: r(0.06),
        hardness: r(0.4),
        strength: r(1.0),
        erases: false,
    };
    let areas = vec![MaskArea { area: Area::Brush { strokes: vec![stroke] }, joins: Joining::Add }];
    let mask = Mask { areas, inverted: false, density: r(1.0), feather: r(0.01) };
    let step = Treatment { mask: Some(mask), ..Treatment::new(Develop::Exposure { ev: r(-2.0) }) };
    let large = picture(800, 600);
    let wanted = resize(&develop(&large, std::slice::from_ref(&step), &none), 400, 300);
    let got = develop(&resize(&large, 400, 300), &[step], &none);
    assert!(apart(&wanted, &got) < 0.5);
}
