//! The even ground a logo or a drawing stands on, and what is left without it.

use rayon::prelude::*;

use crate::cutout::Cover;
use crate::develop::{lab_of_linear, transfer};
use crate::{Straight, resize};

/// Pixels along the longer side of the largest cover.
const LARGEST: u32 = 2_400;
/// Distance in OKLab up to which a pixel of the border may be of the ground.
const SAME: f32 = 0.06;
/// Share of the border that has to be.
const EVEN: f32 = 0.7;

fn sized(picture: &Straight, longer: u32) -> Straight {
    let own = picture.width().max(picture.height());
    if own <= longer {
        return picture.clone();
    }
    let side = |side: u32| ((f64::from(side) * f64::from(longer) / f64::from(own)).round() as u32).max(1);
    resize(picture, side(picture.width()), side(picture.height()))
}

fn labs(picture: &Straight) -> Vec<[f32; 3]> {
    let pixels = picture.data().par_chunks_exact(4);
    let lab = |pixel: &[u8]| {
        let lab = lab_of_linear(transfer::linear([0, 1, 2].map(|c| f32::from(pixel[c]) / 255.0)));
        [lab.l, lab.a, lab.b]
    };
    pixels.map(lab).collect()
}

fn apart(a: [f32; 3], b: [f32; 3]) -> f32 {
    ((a[0] - b[0]).powi(2) + (a[1] - b[1]).powi(2) + (a[2] - b[2]).powi(2)).sqrt()
}

fn border(width: usize, height: usize) -> impl Iterator<Item = usize> {
    let rows = (0..width).flat_map(move |x| [x, (height - 1) * width + x]);
    rows.chain((0..height).flat_map(move |y| [y * width, y * width + width - 1]))
}

/// The colour of the ground in OKLab: the middle of the border, by value, where most of the border is about that.
fn ground_of(labs: &[[f32; 3]], width: usize, height: usize) -> Option<[f32; 3]> {
    let own: Vec<[f32; 3]> = border(width, height).map(|at| labs[at]).collect();
    let middle = [0, 1, 2].map(|c| {
        let mut values: Vec<f32> = own.iter().map(|lab| lab[c]).collect();
        values.sort_by(f32::total_cmp);
        values[values.len() / 2]
    });
    let same = own.iter().filter(|lab| apart(**lab, middle) < SAME).count();
    (same as f32 >= own.len() as f32 * EVEN).then_some(middle)
}

/// Whether an opaque picture stands on an even ground.
#[must_use]
pub fn even_ground(picture: &Straight) -> bool {
    let small = sized(picture, 320);
    small.is_opaque() && ground_of(&labs(&small), small.width() as usize, small.height() as usize).is_some()
}

/// What is left of a picture without the even ground it stands on, also where that shows through holes; nothing where there is none.
///
/// A pixel whose colour is that of the ground, within its noise, is clear. Next to such, one is as opaque as its distance from the
/// ground's colour is of the largest close by: a mixture of both at an edge counts as its share. All others are opaque.
#[must_use]
pub fn clear_ground(picture: &Straight) -> Option<Cover> {
    let picture = sized(picture, LARGEST);
    let (width, height) = (picture.width() as usize, picture.height() as usize);
    let labs = labs(&picture);
    let ground = ground_of(&labs, width, height)?;
    let off: Vec<f32> = labs.par_iter().map(|lab| apart(*lab, ground)).collect();
    let mut noise: Vec<f32> = border(width, height).map(|at| off[at]).filter(|off| *off < SAME).collect();
    noise.sort_by(f32::total_cmp);
    let clear = (noise[noise.len() * 97 / 100] * 1.3).clamp(0.02, SAME);
    let reach = 2.max(width.max(height) / 600);
    let top = most_around(&off, width, height, reach);
    let near = most_around(
        &off.iter().map(|off| f32::from(u8::from(*off <= clear))).collect::<Vec<_>>(),
        width,
        height,
        reach,
    );
    let share = |at: usize| {
        let opaque = f32::from(picture.data()[at * 4 + 3]) / 255.0;
        let own = match (off[at] <= clear, near[at] > 0.0) {
            (true, _) => 0.0,
            (false, true) => ((off[at] - clear) / (top[at] * 0.94 - clear).max(1e-3)).clamp(0.0, 1.0),
            (false, false) => 1.0,
        };
        (own * opaque * 255.0 + 0.5) as u8
    };
    let data = (0..width * height).into_par_iter().map(share).collect();
    Some(Cover { width: width as u32, height: height as u32, data })
}

/// The largest value within a square around each pixel.
fn most_around(values: &[f32], width: usize, height: usize, reach: usize) -> Vec<f32> {
    let most = |slice: &[f32]| slice.iter().copied().fold(f32::MIN, f32::max);
    let across: Vec<f32> = values
        .par_chunks_exact(width)
        .flat_map_iter(|row| {
            (0..width).map(move |x| most(&row[x.saturating_sub(reach)..(x + reach + 1).min(width)])).collect::<Vec<_>>()
        })
        .collect();
    let down = |at: usize| {
        let (x, y) = (at % width, at / width);
        let rows = y.saturating_sub(reach)..(y + reach + 1).min(height);
        rows.map(|y| across[y * width + x]).fold(f32::MIN, f32::max)
    };
    (0..values.len()).into_par_iter().map(down).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A ring of a colour on a ground, with soft edges and some noise.
    fn ring(ground: [f32; 3], ink: [f32; 3], noise: f32) -> (Straight, Vec<f32>) {
        let share = |x: usize, y: usize| {
            let far = ((x as f32 - 79.5).powi(2) + (y as f32 - 79.5).powi(2)).sqrt();
            (50.5 - far).clamp(0.0, 1.0) * (far - 24.5).clamp(0.0, 1.0)
        };
        let (mut data, mut wanted) = (Vec::new(), Vec::new());
        for y in 0..160 {
            for x in 0..160 {
                let by = share(x, y);
                let grain = ((x * 31 + y * 17) % 11) as f32 / 5.0 * noise - noise;
                let mixed = [0, 1, 2].map(|c| (ground[c] + (ink[c] - ground[c]) * by + grain).clamp(0.0, 255.0) as u8);
                data.extend(mixed);
                data.push(255);
                wanted.push(by);
            }
        }
        (Straight::new(160, 160, data).unwrap(), wanted)
    }

    #[test]
    fn a_logo_on_an_even_ground_becomes_clear_around_it_and_in_its_holes() {
        let cases = [
            ([255.0; 3], [20.0, 20.0, 24.0], 0.0),
            ([255.0; 3], [220.0, 60.0, 40.0], 3.0),
            ([250.0, 248.0, 240.0], [150.0, 170.0, 160.0], 2.0),
            ([30.0, 40.0, 60.0], [240.0, 230.0, 210.0], 3.0),
        ];
        for (ground, ink, noise) in cases {
            let (picture, wanted) = ring(ground, ink, noise);
            let cover = clear_ground(&picture).unwrap();
            let off = |at: usize| (f32::from(cover.data[at]) / 255.0 - wanted[at]).abs();
            let mean = (0..wanted.len()).map(off).sum::<f32>() / wanted.len() as f32;
            assert!(mean < 0.006, "{ground:?} {ink:?}: {mean}");
            let wrong = (0..wanted.len()).filter(|at| wanted[*at] == wanted[*at].round() && off(*at) > 0.2).count();
            assert_eq!(wrong, 0, "{ground:?} {ink:?}");
        }
    }

    #[test]
    fn a_photograph_stands_on_no_even_ground() {
        let data = (0..120 * 90).flat_map(|at: u32| [(at % 120 * 2) as u8, (at / 120 * 2) as u8, 120, 255]).collect();
        let picture = Straight::new(120, 90, data).unwrap();
        assert!(!even_ground(&picture) && clear_ground(&picture).is_none());
        assert!(even_ground(&ring([255.0; 3], [0.0; 3], 2.0).0));
    }
}
