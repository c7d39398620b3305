//! Mixing two pixels (W3C Compositing and Blending Level 1, sections 9.1 and 9.2), in encoded sRGB as the specification says.

use vatman_document::Blend;

use super::film::Rgb;

/// The mix of a pixel laid over another, both opaque.
pub(crate) fn mixed(blend: Blend, below: Rgb, above: Rgb) -> Rgb {
    let each = |does: fn(f32, f32) -> f32| [0, 1, 2].map(|c| does(below[c], above[c]));
    match blend {
        Blend::Normal => above,
        Blend::Multiply => each(|b, s| b * s),
        Blend::Screen => each(screen),
        Blend::Overlay => each(|b, s| hard(s, b)),
        Blend::Darken => each(f32::min),
        Blend::Lighten => each(f32::max),
        Blend::ColorDodge => each(|b, s| {
            if b <= 0.0 {
                0.0
            } else if s >= 1.0 {
                1.0
            } else {
                (b / (1.0 - s)).min(1.0)
            }
        }),
        Blend::ColorBurn => each(|b, s| {
            if b >= 1.0 {
                1.0
            } else if s <= 0.0 {
                0.0
            } else {
                1.0 - ((1.0 - b) / s).min(1.0)
            }
        }),
        Blend::HardLight => each(hard),
        Blend::SoftLight => each(soft),
        Blend::Difference => each(|b, s| (b - s).abs()),
        Blend::Exclusion => each(|b, s| b + s - 2.0 * b * s),
        Blend::Hue => with_lum(with_sat(above, sat(below)), lum(below)),
        Blend::Saturation => with_lum(with_sat(below, sat(above)), lum(below)),
        Blend::Color => with_lum(above, lum(below)),
        Blend::Luminosity => with_lum(below, lum(above)),
    }
}

fn screen(b: f32, s: f32) -> f32 {
    b + s - b * s
}

fn hard(b: f32, s: f32) -> f32 {
    if s <= 0.5 { b * (2.0 * s) } else { screen(b, 2.0 * s - 1.0) }
}

fn soft(b: f32, s: f32) -> f32 {
    if s <= 0.5 {
        b - (1.0 - 2.0 * s) * b * (1.0 - b)
    } else {
        let d = if b <= 0.25 { ((16.0 * b - 12.0) * b + 4.0) * b } else { b.max(0.0).sqrt() };
        b + (2.0 * s - 1.0) * (d - b)
    }
}

fn lum(pixel: Rgb) -> f32 {
    0.3 * pixel[0] + 0.59 * pixel[1] + 0.11 * pixel[2]
}

fn sat(pixel: Rgb) -> f32 {
    pixel[0].max(pixel[1]).max(pixel[2]) - pixel[0].min(pixel[1]).min(pixel[2])
}

fn with_lum(pixel: Rgb, wanted: f32) -> Rgb {
    let by = wanted - lum(pixel);
    let moved = pixel.map(|value| value + by);
    let light = lum(moved);
    let (low, high) = (moved[0].min(moved[1]).min(moved[2]), moved[0].max(moved[1]).max(moved[2]));
    let mut out = moved;
    if low < 0.0 {
        out = out.map(|value| light + (value - light) * light / (light - low).max(1e-9));
    }
    if high > 1.0 {
        out = out.map(|value| light + (value - light) * (1.0 - light) / (high - light).max(1e-9));
    }
    out
}

fn with_sat(pixel: Rgb, wanted: f32) -> Rgb {
    let (low, range) = (pixel[0].min(pixel[1]).min(pixel[2]), sat(pixel));
    if range <= 0.0 { [0.0; 3] } else { pixel.map(|value| (value - low) * wanted / range) }
}
