//! How long developing takes: a chain on 12 megapixels, and what is shown while a slider moves.

#![allow(missing_docs, reason = "the macros write none")]

use criterion::{BatchSize, Criterion, criterion_group, criterion_main};
use std::hint::black_box;
use vatman_document::{CurvePoint, Develop, Treatment};
use vatman_photo::{Straight, develop, resize};
use vatman_units::{Angle, Ratio};

fn photograph(width: u32, height: u32) -> Straight {
    let mut data = Vec::with_capacity(width as usize * height as usize * 4);
    let mut noise = 1u32;
    for y in 0..height {
        for x in 0..width {
            noise = noise.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
            let grain = ((noise >> 24) as i32 - 128) / 12;
            let tone = |by: u32| ((x * by / 900 + y / 14) % 230) as i32 + grain;
            data.extend([tone(7), tone(5), tone(3)].map(|value| value.clamp(0, 255) as u8));
            data.push(255);
        }
    }
    Straight::new(width, height, data).unwrap_or_else(|| unreachable!("sizes match"))
}

fn chain() -> Vec<Treatment> {
    let r = Ratio::new;
    let points = [(0.0, 0.0), (0.25, 0.2), (0.75, 0.8), (1.0, 1.0)];
    let curve: Vec<CurvePoint> = points.iter().map(|(x, y)| CurvePoint { x: r(*x), y: r(*y) }).collect();
    [
        Develop::Exposure { ev: r(0.3) },
        Develop::Curves { all: curve, red: vec![], green: vec![], blue: vec![] },
        Develop::WhiteBalance { kelvin: 5_400, tint: r(0.05) },
        Develop::Colour { saturation: r(0.15), vibrance: r(0.2), hue: Angle::ZERO },
        Develop::ToneContrast {
            shadows: r(0.3),
            middles: r(0.3),
            lights: r(0.2),
            protect_shadows: r(0.5),
            protect_lights: r(0.5),
        },
        Develop::Grain { size: r(0.0022), strength: r(0.4), roughness: r(0.4), number: 1 },
    ]
    .into_iter()
    .map(Treatment::new)
    .collect()
}

fn developing(c: &mut Criterion) {
    let whole = photograph(4_000, 3_000);
    let small = resize(&whole, 1_280, 960);
    let steps = chain();
    let none = |_: &vatman_document::AssetId, _: u32| None;
    let mut group = c.benchmark_group("develop");
    group.sample_size(10);
    group.bench_function("six steps on 12 megapixels", |b| {
        b.iter_batched(|| (), |()| black_box(develop(&whole, &steps, &none)), BatchSize::PerIteration);
    });
    group.bench_function("six steps at 1,280 pixels", |b| {
        b.iter_batched(|| (), |()| black_box(develop(&small, &steps, &none)), BatchSize::PerIteration);
    });
    for step in &steps {
        let name = format!("{:?}", step.develop);
        let name = format!("{} alone on 12 megapixels", name.split([' ', '{']).next().unwrap_or_default());
        let one = [step.clone()];
        group.bench_function(name, |b| {
            b.iter_batched(|| (), |()| black_box(develop(&whole, &one, &none)), BatchSize::PerIteration);
        });
    }
    for (name, step) in [
        ("gaussian sigma 20 on 12 megapixels", Develop::Blur { radius: Ratio::new(0.005) }),
        ("gaussian sigma 2 on 12 megapixels", Develop::Blur { radius: Ratio::new(0.000_5) }),
    ] {
        let step = [Treatment::new(step)];
        group.bench_function(name, |b| {
            b.iter_batched(|| (), |()| black_box(develop(&whole, &step, &none)), BatchSize::PerIteration);
        });
    }
    let two = [chain()[1].clone(), chain()[3].clone()];
    group.bench_function("curves and saturation on 12 megapixels", |b| {
        b.iter_batched(|| (), |()| black_box(develop(&whole, &two, &none)), BatchSize::PerIteration);
    });
    group.bench_function("12 megapixels made smaller, to 1,080 pixels", |b| {
        b.iter_batched(|| (), |()| black_box(resize(&whole, 1_080, 810)), BatchSize::PerIteration);
    });
    group.finish();
}

criterion_group!(benches, developing);
criterion_main!(benches);
