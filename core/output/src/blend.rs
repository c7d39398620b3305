//! The four mixings that work on a colour as a whole (W3C Compositing and Blending Level 1, "non-separable blend modes").
//!
//! Done here because the rasteriser's own clip only colours that are too bright, not those that are too dark.

use tiny_skia::{Mask, Pixmap};
use vatman_document::Blend;

/// Whether a mixing works on a colour as a whole.
pub(crate) fn is_whole(blend: Blend) -> bool {
    matches!(blend, Blend::Hue | Blend::Saturation | Blend::Color | Blend::Luminosity)
}

/// Mixes a layer, its corner at `left` and `top`, into what lies below it.
pub(crate) fn mix(
    below: &mut Pixmap,
    layer: &Pixmap,
    (left, top): (i32, i32),
    opacity: f32,
    mask: Option<&Mask>,
    blend: Blend,
) {
    let (w, h) = (below.width() as i32, below.height() as i32);
    let data = below.data_mut();
    for y in 0..layer.height() as i32 {
        for x in 0..layer.width() as i32 {
            let (bx, by) = (x + left, y + top);
            if !(0..w).contains(&bx) || !(0..h).contains(&by) {
                continue;
            }
            let from = (y as usize * layer.width() as usize + x as usize) * 4;
            let to = by as usize * w as usize + bx as usize;
            let source = &layer.data()[from..from + 4];
            let seen = mask.map_or(1.0, |mask| f32::from(mask.data()[to]) / 255.0) * opacity;
            if source[3] == 0 || seen == 0.0 {
                continue;
            }
            let pixel = &mut data[to * 4..to * 4 + 4];
            let mixed = mixed(
                std::array::from_fn(|i| f32::from(pixel[i]) / 255.0),
                std::array::from_fn(|i| f32::from(source[i]) / 255.0 * seen),
                blend,
            );
            for (value, new) in pixel.iter_mut().zip(mixed) {
                *value = (new * 255.0 + 0.5) as u8;
            }
        }
    }
}

/// Premultiplied in and out.
fn mixed(below: [f32; 4], above: [f32; 4], blend: Blend) -> [f32; 4] {
    let straight = |c: [f32; 4]| if c[3] > 0.0 { [c[0] / c[3], c[1] / c[3], c[2] / c[3]] } else { [0.0; 3] };
    let (b, a) = (straight(below), straight(above));
    let both = match blend {
        Blend::Hue => with_luminosity(with_saturation(a, saturation(b)), luminosity(b)),
        Blend::Saturation => with_luminosity(with_saturation(b, saturation(a)), luminosity(b)),
        Blend::Color => with_luminosity(a, luminosity(b)),
        Blend::Luminosity => with_luminosity(b, luminosity(a)),
        _ => a,
    };
    let alpha = above[3] + below[3] * (1.0 - above[3]);
    let part = |i: usize| above[i] * (1.0 - below[3]) + below[i] * (1.0 - above[3]) + both[i] * above[3] * below[3];
    [part(0).clamp(0.0, alpha), part(1).clamp(0.0, alpha), part(2).clamp(0.0, alpha), alpha]
}

fn luminosity(c: [f32; 3]) -> f32 {
    0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2]
}

fn least_and_most(c: [f32; 3]) -> (f32, f32) {
    (c[0].min(c[1]).min(c[2]), c[0].max(c[1]).max(c[2]))
}

fn saturation(c: [f32; 3]) -> f32 {
    let (least, most) = least_and_most(c);
    most - least
}

fn with_luminosity(c: [f32; 3], to: f32) -> [f32; 3] {
    let by = to - luminosity(c);
    let moved = c.map(|v| v + by);
    let l = luminosity(moved);
    let (least, most) = least_and_most(moved);
    let raised = if least < 0.0 { moved.map(|v| l + (v - l) * l / (l - least)) } else { moved };
    if most > 1.0 { raised.map(|v| l + (v - l) * (1.0 - l) / (most - l)) } else { raised }
}

fn with_saturation(c: [f32; 3], to: f32) -> [f32; 3] {
    let (least, most) = least_and_most(c);
    if most > least { c.map(|v| (v - least) * to / (most - least)) } else { [0.0; 3] }
}
