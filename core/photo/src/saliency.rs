//! Where a picture draws the eye.

use vatman_document::{Color, Oklab};

use crate::Premultiplied;

/// How far from the middle what draws the eye still counts fully, as a share of the shorter side (standard deviation): people put what
/// matters near the middle.
const MIDDLE: f64 = 0.55;

/// The point of a picture that draws the eye, each way from 0 to 1; nothing where it is alike all over.
///
/// A pixel is as salient as its blurred colour is far from the mean of the whole (frequency-tuned salient region detection, R. Achanta et
/// al., 2009), here in OKLab; of what is more than twice the mean, the centre of mass. Meant for a small copy, about 100 pixels wide.
#[must_use]
pub fn salient_point(pixels: &Premultiplied) -> Option<(f64, f64)> {
    let (width, height) = (pixels.width() as usize, pixels.height() as usize);
    if width < 3 || height < 3 {
        return None;
    }
    let lab: Vec<Oklab> = pixels
        .data()
        .chunks_exact(4)
        .map(|pixel| {
            // What is clear is seen as white, as on most sheets.
            let over = |channel: u8| channel.saturating_add(255 - pixel[3]);
            Oklab::from(Color::opaque(over(pixel[0]), over(pixel[1]), over(pixel[2])))
        })
        .collect();
    let count = lab.len() as f64;
    let mean = lab.iter().fold((0.0, 0.0, 0.0), |sum, one| (sum.0 + one.l, sum.1 + one.a, sum.2 + one.b));
    let mean = Oklab { l: mean.0 / count, a: mean.1 / count, b: mean.2 / count };
    let blurred = blurred(&lab, width, height);
    let short = width.min(height) as f64;
    let salience: Vec<f64> = blurred
        .iter()
        .enumerate()
        .map(|(at, colour)| {
            let (x, y) = ((at % width) as f64 + 0.5, (at / width) as f64 + 0.5);
            let off = ((x - width as f64 / 2.0) / short, (y - height as f64 / 2.0) / short);
            let far = (off.0 * off.0 + off.1 * off.1) / (2.0 * MIDDLE * MIDDLE);
            let d = colour.distance(mean);
            d * d * (-far).exp()
        })
        .collect();
    let usual = salience.iter().sum::<f64>() / count;
    // Alike all over: the noise of a plain wall draws no eye.
    if usual < 1e-5 {
        return None;
    }
    let (mut sum, mut x, mut y) = (0.0, 0.0, 0.0);
    for (at, weight) in salience.iter().enumerate().filter(|(_, weight)| **weight > usual * 2.0) {
        sum += weight;
        x += weight * ((at % width) as f64 + 0.5);
        y += weight * ((at / width) as f64 + 0.5);
    }
    (sum > 0.0).then(|| (x / sum / width as f64, y / sum / height as f64))
}

/// Each value as the binomial mean of five by five, edges repeated.
fn blurred(values: &[Oklab], width: usize, height: usize) -> Vec<Oklab> {
    const KERNEL: [f64; 5] = [1.0 / 16.0, 4.0 / 16.0, 6.0 / 16.0, 4.0 / 16.0, 1.0 / 16.0];
    let along = |values: &[Oklab], step: usize, length: usize, position: &dyn Fn(usize) -> usize| -> Vec<Oklab> {
        (0..values.len())
            .map(|at| {
                let here = position(at);
                KERNEL.iter().enumerate().fold(Oklab { l: 0.0, a: 0.0, b: 0.0 }, |sum, (k, weight)| {
                    let other = (here + k).saturating_sub(2).min(length - 1);
                    let one = values[at + other * step - here * step];
                    Oklab { l: sum.l + one.l * weight, a: sum.a + one.a * weight, b: sum.b + one.b * weight }
                })
            })
            .collect()
    };
    let across = along(values, 1, width, &|at| at % width);
    along(&across, width, height, &|at| at / width)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn picture(width: u32, height: u32, colour: impl Fn(f64, f64) -> [u8; 3]) -> Premultiplied {
        let data = (0..height)
            .flat_map(|y| (0..width).map(move |x| (x, y)))
            .flat_map(|(x, y)| {
                let [r, g, b] = colour(f64::from(x) + 0.5, f64::from(y) + 0.5);
                [r, g, b, 255]
            })
            .collect();
        crate::Straight::new(width, height, data).unwrap().premultiplied()
    }

    #[test]
    fn what_is_alike_all_over_draws_no_eye() {
        assert_eq!(salient_point(&picture(60, 40, |_, _| [140, 90, 60])), None);
        assert_eq!(salient_point(&picture(2, 2, |x, _| [(x * 90.0) as u8, 0, 0])), None);
    }

    proptest! {
        #[test]
        fn a_thing_on_a_plain_ground_is_found_where_it_is(
            (width, height) in (60u32..120, 60u32..120),
            (x, y) in (0.2f64..0.8, 0.2f64..0.8),
            light in any::<bool>(),
        ) {
            let (cx, cy) = (x * f64::from(width), y * f64::from(height));
            let (ground, thing) = if light { ([235, 230, 220], [60, 90, 70]) } else { ([30, 32, 36], [200, 120, 80]) };
            let made = picture(width, height, |px, py| if (px - cx).hypot(py - cy) < 9.0 { thing } else { ground });
            let (fx, fy) = salient_point(&made).unwrap();
            prop_assert!((fx - x).abs() < 0.06 && (fy - y).abs() < 0.06, "{fx} {fy}");
            // Mirrored, it is found on the other side.
            let mirrored = picture(width, height, |px, py| {
                if (f64::from(width) - px - cx).hypot(py - cy) < 9.0 { thing } else { ground }
            });
            let (mx, my) = salient_point(&mirrored).unwrap();
            prop_assert!((mx - (1.0 - fx)).abs() < 1e-6 && (my - fy).abs() < 1e-6);
        }
    }
}
