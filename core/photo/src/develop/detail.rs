//! Detail: sharpening, local contrast, noise, haze. Light moves, colour differences stay.

use rayon::prelude::*;
use vatman_document::Develop;

use super::Ready;
use super::colour::smooth;
use super::film::{Film, Rgb, luma};
use super::planes::{Guided, Plane, guided};
use super::row::EachBeside;

pub(super) fn ready(develop: &Develop, film: &Film) -> Option<Ready> {
    match develop {
        Develop::Sharpen { radius, strength, threshold } => {
            let [radius, strength, threshold] = [radius, strength, threshold].map(|value| value.get());
            (radius > 0.0 && strength > 0.0).then(|| {
                Ready::looking(move |film| {
                    let soft = light_of(film).blurred(radius * film.longer());
                    let sharper = Sharper { strength: strength as f32, threshold: threshold as f32 };
                    Box::new(move |y, row| {
                        let soft = soft.data[y * row.len()..][..row.len()].as_flattened();
                        row.beside([soft], &sharper);
                    })
                })
            })
        }
        Develop::LocalContrast { fine, broad } => {
            let (fine, broad) = (fine.get() as f32, broad.get() as f32);
            (fine != 0.0 || broad != 0.0).then(|| {
                Ready::looking(move |film| {
                    let (light, longer) = (light_of(film), film.longer());
                    let small = Guided::of(&light, &light, longer * FINE, 0.08);
                    let even = guided(&light, &light, longer * FINE, 0.08);
                    let large = Guided::of(&even, &even, longer * BROAD, 0.16);
                    Box::new(move |y, row| {
                        let ([slopes, rests], [wide_slopes, wide_rests]) = (small.row(y), large.row(y));
                        row.beside([&slopes, &rests, &wide_slopes, &wide_rests], &Local { fine, broad });
                    })
                })
            })
        }
        Develop::ToneContrast { shadows, middles, lights, protect_shadows, protect_lights } => {
            let [shadows, middles, lights, keep_dark, keep_light] =
                [shadows, middles, lights, protect_shadows, protect_lights].map(|value| value.get() as f32);
            let by_tone = ByTone { shadows, middles, lights, keep_dark, keep_light };
            let (width, sigma) = (film.width, film.longer() * MIDDLING);
            let by = Guided::by(sigma, width, film.height);
            ([shadows, middles, lights] != [0.0; 3]).then(|| {
                Ready::small(by, 0, move |small| {
                    let light = small.data.iter().map(|pixel| luma(*pixel)).collect();
                    let light = Plane::of(small.width, small.height, light);
                    let even = Guided::of_small(&light, &light, by, width, sigma, 0.12);
                    Box::new(move |y, row| {
                        let [slopes, rests] = even.row(y);
                        row.beside([&slopes, &rests], &by_tone);
                    })
                })
            })
        }
        Develop::Denoise { light, colour } => {
            let (light, colour) = (light.get() as f32, colour.get() as f32);
            (light > 0.0 || colour > 0.0).then(|| Ready::whole(move |film| denoised(film, light, colour)))
        }
        Develop::Haze { strength } => {
            let strength = strength.get() as f32;
            (strength != 0.0).then(|| Ready::whole(move |film| dehazed(film, strength)))
        }
        _ => None,
    }
}

/// Light moved on from what is soft beside it.
struct Sharper {
    strength: f32,
    threshold: f32,
}

impl EachBeside<1> for Sharper {
    #[inline(always)]
    fn pixel(&self, pixel: Rgb, [soft]: [f32; 1]) -> Rgb {
        let by = luma(pixel) - soft;
        // Differences at the threshold begin to count, at twice it they count whole.
        let counts = if self.threshold > 0.0 { smooth(by.abs() / self.threshold - 1.0) } else { 1.0 };
        moved(pixel, by * self.strength * counts)
    }
}

/// Light moved on from lines that say what is even nearby and far around.
struct Local {
    fine: f32,
    broad: f32,
}

impl EachBeside<4> for Local {
    #[inline(always)]
    fn pixel(&self, pixel: Rgb, [slope, rest, wide_slope, wide_rest]: [f32; 4]) -> Rgb {
        let light = luma(pixel);
        let even = slope * light + rest;
        let wide = wide_slope * even + wide_rest;
        moved(pixel, 1.6 * self.fine * (light - even) + 1.2 * self.broad * (even - wide))
    }
}

/// Light moved on from a line that says what is even around, as much as its tone says.
#[derive(Clone, Copy)]
struct ByTone {
    shadows: f32,
    middles: f32,
    lights: f32,
    keep_dark: f32,
    keep_light: f32,
}

impl EachBeside<2> for ByTone {
    #[inline(always)]
    fn pixel(&self, pixel: Rgb, [slope, rest]: [f32; 2]) -> Rgb {
        let light = luma(pixel);
        let tone = slope * light + rest;
        let (dark, bright) = (smooth(1.0 - tone / 0.5), smooth((tone - 0.5) / 0.5));
        let by = self.shadows * dark + self.lights * bright + self.middles * (1.0 - dark - bright);
        let kept = (1.0 - self.keep_dark * (1.0 - smooth(tone / 0.16)))
            * (1.0 - self.keep_light * smooth((tone - 0.84) / 0.16));
        moved(pixel, 2.0 * by * kept * (light - tone))
    }
}

/// Deviations of what is called fine, middling and broad, as fractions of the longer side.
const FINE: f64 = 0.004;
const MIDDLING: f64 = 0.012;
const BROAD: f64 = 0.03;

fn light_of(film: &Film) -> Plane<1> {
    Plane::of(film.width, film.height, film.lightness())
}

/// Light moved, all channels alike.
#[inline(always)]
fn moved([red, green, blue]: Rgb, by: f32) -> Rgb {
    [red + by, green + by, blue + by]
}

/// Light smoothed but for its edges; colour differences smoothed but for the edges of light.
fn denoised(film: &Film, light: f32, colour: f32) -> Vec<Rgb> {
    let own = light_of(film);
    let longer = film.longer();
    let quiet = if light > 0.0 { own.without_texture(longer * 0.0016, 0.02 + 0.10 * light) } else { own.clone() };
    let share = |strength: f32| (strength * 2.0).min(1.0);
    let mut out: Vec<Rgb> = film.pixels.clone();
    if colour > 0.0 {
        for c in 0..3 {
            let difference = film.pixels.par_iter().zip(&own.data).map(|(pixel, [light])| pixel[c] - light).collect();
            let difference = Plane::of(film.width, film.height, difference);
            let smooth = guided(&quiet, &difference, longer * (0.002 + 0.004 * f64::from(colour)), 0.06);
            out.par_iter_mut().zip(&difference.data).zip(&smooth.data).for_each(|((pixel, [was]), [now])| {
                pixel[c] += (now - was) * share(colour);
            });
        }
    }
    out.par_iter_mut().zip(&own.data).zip(&quiet.data).for_each(|((pixel, [was]), [now])| {
        let by = (now - was) * share(light);
        *pixel = pixel.map(|value| value + by);
    });
    out
}

/// Pixels along the longer side at which haze is looked for.
const LOOKED: usize = 480;

/// Haze by its dark channel (K. He, J. Sun, X. Tang, "Single image haze removal using dark channel prior", 2011), with the guided
/// filter for its edges; below 0 haze of the same light is laid over, evenly.
fn dehazed(film: &Film, strength: f32) -> Vec<Rgb> {
    let whole = Plane::new(film.width, film.height, film.pixels.clone());
    let small = whole.shrunk((film.width.max(film.height)).div_ceil(LOOKED));
    let longer = small.width.max(small.height);
    let dark = least_around(&small, |pixel| pixel[0].min(pixel[1]).min(pixel[2]), longer / 60 + 1);
    // The light of the haze: the mean of the pixels whose surroundings are darkest least.
    let mut order: Vec<usize> = (0..dark.len()).collect();
    order.sort_by(|a, b| dark[*b].total_cmp(&dark[*a]).then(a.cmp(b)));
    let few = &order[..(order.len() / 1_000).max(1)];
    let air: Rgb =
        [0, 1, 2].map(|c| (few.iter().map(|at| small.data[*at][c]).sum::<f32>() / few.len() as f32).clamp(0.2, 1.0));
    if strength < 0.0 {
        let share = -strength * 0.7;
        return film.pixels.par_iter().map(|pixel| [0, 1, 2].map(|c| pixel[c] + (air[c] - pixel[c]) * share)).collect();
    }
    let hazy = least_around(
        &small,
        |pixel| (pixel[0] / air[0]).min(pixel[1] / air[1]).min(pixel[2] / air[2]),
        longer / 60 + 1,
    );
    let through: Vec<f32> = hazy.iter().map(|dark| (1.0 - 0.95 * strength * dark).clamp(0.0, 1.0)).collect();
    let light = small.data.iter().map(|pixel| luma(*pixel)).collect();
    let light = Plane::of(small.width, small.height, light);
    let through = guided(&light, &Plane::of(small.width, small.height, through), longer as f64 * 0.02, 0.05);
    let by = (film.width.max(film.height)).div_ceil(LOOKED);
    let through = if by > 1 { through.grown(by, film.width, film.height) } else { through };
    film.pixels
        .par_iter()
        .zip(&through.data)
        .map(|(pixel, [through])| [0, 1, 2].map(|c| (pixel[c] - air[c]) / through.max(0.15) + air[c]))
        .collect()
}

/// The least of a value within `reach` pixels across and down.
fn least_around(plane: &Plane<3>, value: impl Fn(Rgb) -> f32, reach: usize) -> Vec<f32> {
    let (w, h) = (plane.width, plane.height);
    let own: Vec<f32> = plane.data.iter().map(|pixel| value(*pixel)).collect();
    let around = |at: usize, count: usize| at.saturating_sub(reach)..(at + reach + 1).min(count);
    let across: Vec<f32> =
        (0..w * h).map(|at| around(at % w, w).map(|x| own[at / w * w + x]).fold(f32::INFINITY, f32::min)).collect();
    (0..w * h).map(|at| around(at / w, h).map(|y| across[y * w + at % w]).fold(f32::INFINITY, f32::min)).collect()
}
