//! A picture of which only a part is shown.

use std::sync::Arc;

use rayon::prelude::*;
use vatman_document::{BrushStroke, CutOut};

use super::painted_over;
use crate::Straight;
use crate::develop::Plane;
use crate::resize::resize;

/// What a cut-out leaves of a picture, with the colours of the ground taken out of its edge. `mask` is the one the cut-out names, where
/// that is at hand.
pub(crate) fn cut(picture: &Straight, mask: Option<&Arc<Straight>>, cut: &CutOut) -> Straight {
    let (w, h) = (picture.width(), picture.height());
    let longer = f64::from(w.max(h));
    let mut cover: Vec<f32> = match mask {
        Some(mask) => {
            let sized =
                if (mask.width(), mask.height()) == (w, h) { mask.as_ref().clone() } else { resize(mask, w, h) };
            sized.data().par_chunks_exact(4).map(|pixel| f32::from(pixel[0]) / 255.0).collect()
        }
        None => vec![1.0; w as usize * h as usize],
    };
    if mask.is_some() {
        cover = moved(cover, (w, h), cut.shift.get() * longer);
        cover = soft(cover, (w, h), cut.softness.get() * longer);
    }
    let mut out = picture.clone();
    if mask.is_some() {
        decontaminate(&mut out, &cover);
    }
    let found = (mask.is_some() && cut.painted.iter().any(|stroke| stroke.erases)).then(|| cover.clone());
    by_hand(&mut cover, &cut.painted, (w, h));
    if let Some(found) = found {
        brought_back(&mut out, picture, &found, &cover);
    }
    out.data.par_chunks_exact_mut(4).zip(&cover).for_each(|(pixel, cover)| {
        pixel[3] = (f32::from(pixel[3]) * cover.clamp(0.0, 1.0) + 0.5) as u8;
    });
    out
}

/// What a hand has brought back has the colours it came with: there is no ground to be taken out of it.
fn brought_back(out: &mut Straight, picture: &Straight, found: &[f32], cover: &[f32]) {
    let pixels = out.data.par_chunks_exact_mut(4).zip(picture.data.par_chunks_exact(4));
    pixels.zip(found.par_iter().zip(cover)).for_each(|((out, came), (found, cover))| {
        let share = ((cover - found) / (1.0 - found).max(1e-3)).clamp(0.0, 1.0);
        for (value, came) in out.iter_mut().zip(came).take(3) {
            *value = (f32::from(*value) + (f32::from(*came) - f32::from(*value)) * share + 0.5) as u8;
        }
    });
}

/// The edge moved outward by a length in pixels, inward below 0. An edge blurred by its deviation passes one deviation out at 0.16, and
/// one in at 0.84.
fn moved(cover: Vec<f32>, (w, h): (u32, u32), by: f64) -> Vec<f32> {
    if by.abs() < 0.05 {
        return cover;
    }
    let sigma = by.abs().max(0.8);
    let far = (by / sigma) as f32;
    let soft = Plane::of(w as usize, h as usize, cover).blurred(sigma);
    // The normal distribution at that many deviations, and its slope there (A. Abramowitz, I. Stegun, 26.2.19 to two digits).
    let at = 0.5 - 0.3413 * far;
    let slope = 0.399 * (-0.5 * far * far).exp() / sigma as f32;
    soft.data.into_par_iter().map(|[value]| ((value - at) / slope.max(1e-3) + 0.5).clamp(0.0, 1.0)).collect()
}

fn soft(cover: Vec<f32>, (w, h): (u32, u32), sigma: f64) -> Vec<f32> {
    if sigma < 0.05 {
        return cover;
    }
    Plane::of(w as usize, h as usize, cover).blurred(sigma).data.into_iter().map(|[value]| value).collect()
}

/// Strokes that hide or bring back, in order; those of a kind that follow each other at once.
fn by_hand(cover: &mut [f32], strokes: &[BrushStroke], size: (u32, u32)) {
    for run in strokes.chunk_by(|a, b| a.erases == b.erases) {
        let plain: Vec<BrushStroke> =
            run.iter().map(|stroke| BrushStroke { erases: false, ..stroke.clone() }).collect();
        let over = painted_over(&plain, size);
        let back = run[0].erases;
        cover.par_iter_mut().zip(&over).for_each(|(cover, over)| {
            *cover = if back { *cover + (1.0 - *cover) * over } else { *cover * (1.0 - over) };
        });
    }
}

/// Takes what lies behind out of the colours of pixels of which only a share is subject: a pixel is a mixture of both by its share.
fn decontaminate(picture: &mut Straight, cover: &[f32]) {
    let (w, h) = (picture.width as usize, picture.height as usize);
    const BY: usize = 3;
    let behind: Vec<[f32; 4]> = picture
        .data
        .par_chunks_exact(4)
        .zip(cover)
        .map(|(pixel, cover)| {
            if *cover < 0.02 && pixel[3] > 0 {
                [f32::from(pixel[0]), f32::from(pixel[1]), f32::from(pixel[2]), 1.0]
            } else {
                [0.0; 4]
            }
        })
        .collect();
    let small = Plane::<4>::new(w, h, behind).shrunk(BY);
    let unit = w.max(h) as f64 / 1_000.0 / BY as f64;
    let near = small.clone().blurred((3.0 * unit).max(0.8));
    let far = small.blurred((16.0 * unit).max(2.0));
    let width = near.width;
    picture.data.par_chunks_exact_mut(4).enumerate().for_each(|(at, pixel)| {
        let share = cover[at];
        if !(0.03..0.985).contains(&share) {
            return;
        }
        let place = (at / w / BY) * width + at % w / BY;
        let (near, far) = (near.data[place], far.data[place]);
        let [r, g, b, weight] = if near[3] > 0.01 { near } else { far };
        if weight < 1e-4 {
            return;
        }
        for (value, behind) in pixel.iter_mut().zip([r, g, b]) {
            let own = (f32::from(*value) - (1.0 - share) * behind / weight) / share;
            // A share that is a little off would turn colours loud.
            let held = own.clamp(f32::from(*value) - 140.0, f32::from(*value) + 140.0);
            *value = (held.clamp(0.0, 255.0) + 0.5) as u8;
        }
    });
}

#[cfg(test)]
mod tests {
    use super::*;
    use vatman_document::{AssetId, Focus};
    use vatman_units::Ratio;

    /// A red square of 40 pixels on white, its edge half and half, and its mask.
    fn square() -> (Straight, Arc<Straight>) {
        let share = |x: usize, y: usize| {
            let inside = |v: usize| {
                if (31..69).contains(&v) {
                    1.0
                } else if v == 30 || v == 69 {
                    0.5
                } else {
                    0.0
                }
            };
            inside(x) * inside(y)
        };
        let pixel = |at: usize| {
            let by = share(at % 100, at / 100);
            [255.0 - 35.0 * by, 255.0 - 225.0 * by, 255.0 - 225.0 * by].map(|value: f32| value as u8)
        };
        let picture = (0..10_000).flat_map(|at| [pixel(at).as_slice(), &[255]].concat()).collect();
        let mask = (0..10_000)
            .flat_map(|at| [(share(at % 100, at / 100) * 255.0) as u8; 3].into_iter().chain([255]))
            .collect();
        (Straight::new(100, 100, picture).unwrap(), Arc::new(Straight::new(100, 100, mask).unwrap()))
    }

    fn pixel(picture: &Straight, x: usize, y: usize) -> [u8; 4] {
        picture.data()[(y * 100 + x) * 4..][..4].try_into().unwrap()
    }

    fn masked() -> CutOut {
        CutOut { mask: Some(AssetId::new("m").unwrap()), ..CutOut::default() }
    }

    #[test]
    fn what_is_cut_out_has_no_colour_of_the_ground_at_its_edge() {
        let (picture, mask) = square();
        let out = cut(&picture, Some(&mask), &masked());
        assert_eq!((pixel(&out, 50, 50), pixel(&out, 10, 10)[3]), ([220, 30, 30, 255], 0));
        let [r, g, b, a] = pixel(&out, 30, 50);
        assert!(
            a.abs_diff(127) <= 1 && r.abs_diff(220) <= 6 && g.abs_diff(30) <= 6 && b.abs_diff(30) <= 6,
            "{r} {g} {b} {a}"
        );
    }

    #[test]
    fn an_edge_is_moved_and_softened_by_what_was_asked() {
        let (picture, mask) = square();
        let reach = |cut_out: &CutOut| {
            let out = cut(&picture, Some(&mask), cut_out);
            (0..50).map(|x| f64::from(pixel(&out, x, 50)[3]) / 255.0).sum::<f64>()
        };
        let own = reach(&masked());
        for by in [-0.02, -0.01, 0.01, 0.02] {
            let moved = reach(&CutOut { shift: Ratio::new(by), ..masked() });
            assert!((moved - own - by * 100.0).abs() < 0.35, "{by}: {own} to {moved}");
        }
        let soft = CutOut { softness: Ratio::new(0.02), ..masked() };
        assert!((reach(&soft) - own).abs() < 0.3);
        let out = cut(&picture, Some(&mask), &soft);
        assert!(pixel(&out, 28, 50)[3] > 20 && pixel(&out, 32, 50)[3] < 240);
    }

    #[test]
    fn a_hand_hides_and_brings_back_in_turn() {
        let (picture, mask) = square();
        let stroke = |x: f64, erases: bool| BrushStroke {
            points: vec![Focus { x: Ratio::new(x), y: Ratio::HALF }],
            radius: Ratio::new(0.1),
            hardness: Ratio::ONE,
            strength: Ratio::ONE,
            erases,
        };
        let painted = vec![stroke(0.5, false), stroke(0.5, true), stroke(0.35, false), stroke(0.1, true)];
        let out = cut(&picture, Some(&mask), &CutOut { painted: painted.clone(), ..masked() });
        assert_eq!([50, 35, 10, 90].map(|x| pixel(&out, x, 50)[3]), [255, 0, 255, 0]);
        // What is brought back at the edge has the colours it came with.
        let edge = CutOut { painted: vec![stroke(0.3, true)], ..masked() };
        let [was, now] = [&picture, &cut(&picture, Some(&mask), &edge)].map(|picture| pixel(picture, 30, 50));
        assert_eq!(now, was);
        // Without a mask all is there but what is hidden.
        let out = cut(&picture, None, &CutOut { painted: painted[2..3].to_vec(), ..CutOut::default() });
        assert_eq!([35, 50, 90].map(|x| pixel(&out, x, 50)[3]), [0, 255, 255]);
    }
}
