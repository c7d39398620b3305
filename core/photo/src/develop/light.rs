//! Light: exposure, tones, ranges, curves, levels.

use vatman_document::Develop;

use super::Ready;
use super::curves::Curve;
use super::film::luma;
use super::row::Values;
use super::table::Table;
use super::transfer::{encoded_of, linear_of};
use crate::wide::side_by_side;

pub(super) fn ready(develop: &Develop) -> Option<Ready> {
    match develop {
        Develop::Exposure { ev } => {
            let gain = ev.get().exp2();
            // Below black light is linear, and above white the power of a product is that of its parts: both go on straight.
            let table = Table::of(|value| encoded_of(linear_of(value) * gain)).beyond(gain, gain.powf(1.0 / 2.4));
            (gain != 1.0).then(|| Ready::values(table))
        }
        Develop::Tone { brightness, contrast } => {
            let (brightness, contrast) = (brightness.get(), contrast.get());
            let table = Table::of(|value| contrasted(brightened(value, brightness), contrast));
            (brightness != 0.0 || contrast != 0.0).then(|| Ready::values(table))
        }
        Develop::Ranges { highlights, shadows, whites, blacks } => {
            let by = [*highlights, *shadows, *whites, *blacks].map(|value| value.get());
            let table = Table::of(move |value| ranged(value, by));
            (by != [0.0; 4]).then(|| {
                // Light moves by what luma does; colours keep their relation to it.
                Ready::pixel(move |pixel| {
                    let light = luma(pixel);
                    let moved = table.at(light);
                    let gain = if light > 1e-4 { (moved / light).clamp(0.0, 8.0) } else { 1.0 };
                    pixel.map(|value| value * gain + (moved - light * gain))
                })
            })
        }
        Develop::Curves { all, red, green, blue } => {
            let all = Curve::through(all);
            let own = [red, green, blue].map(|points| Curve::through(points));
            let idle = all.is_none() && own.iter().all(Option::is_none);
            (!idle).then(|| {
                Ready::Values(Box::new(move |number, channel| {
                    all.iter().chain(&own[number]).for_each(|curve| side_by_side(Values(channel, curve)));
                }))
            })
        }
        Develop::Levels { black, white, gamma, out_black, out_white } => {
            let [black, white, gamma, low, high] = [black, white, gamma, out_black, out_white].map(|value| value.get());
            let table = Table::of(move |value| {
                let stretched = ((value - black) / (white - black).max(1e-6)).clamp(0.0, 1.0);
                low + (high - low) * stretched.powf(1.0 / gamma)
            })
            .beyond(0.0, 0.0);
            let idle = (black, white, gamma, low, high) == (0.0, 1.0, 1.0, 0.0, 1.0);
            (!idle).then(|| Ready::values(table))
        }
        _ => None,
    }
}

/// A power of the value: black and white stay, the middle moves by up to a factor of two in its exponent.
fn brightened(value: f64, by: f64) -> f64 {
    value.powf((-by).exp2())
}

/// A power of the distance to black and to white, mirrored about the middle: black, middle and white stay.
fn contrasted(value: f64, by: f64) -> f64 {
    let power = (by * 1.3).exp2();
    if value < 0.5 { 0.5 * (2.0 * value).powf(power) } else { 1.0 - 0.5 * (2.0 - 2.0 * value).powf(power) }
}

/// Light by range of tones: highlights and shadows move humps over the upper and lower middle, whites and blacks the ends. At full
/// strength the curve still rises everywhere.
fn ranged(value: f64, [highlights, shadows, whites, blacks]: [f64; 4]) -> f64 {
    // Humps that are 0 and level at both ends, with a top of 1 at two and three fifths.
    let hump = |v: f64| v.powi(2) * (1.0 - v).powi(3) / 0.034_56;
    // Ends that are 1 at one end and 0 with a level tangent at the other.
    let end = |v: f64| v.powi(3);
    value
        + 0.11 * (shadows * hump(value) + highlights * hump(1.0 - value))
        + 0.12 * (whites * end(value) + blacks * end(1.0 - value))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn tones_keep_their_order(by in [-1.0f64..1.0, -1.0..1.0, -1.0..1.0, -1.0..1.0], at in 0.0f64..0.99) {
            prop_assert!(ranged(at + 0.01, by) > ranged(at, by), "{by:?} at {at}");
            prop_assert!(brightened(at + 0.01, by[0]) > brightened(at, by[0]));
            prop_assert!(contrasted(at + 0.01, by[1]) > contrasted(at, by[1]));
        }
    }

    #[test]
    fn ends_and_middle_stay_where_they_are_said_to() {
        for by in [-1.0, -0.4, 0.6, 1.0] {
            assert!(brightened(0.0, by) == 0.0 && brightened(1.0, by) == 1.0);
            for value in [0.0, 0.5, 1.0] {
                assert!((contrasted(value, by) - value).abs() < 1e-12);
            }
            // Highlights and shadows leave both ends alone.
            for value in [0.0, 1.0] {
                assert!((ranged(value, [by, by, 0.0, 0.0]) - value).abs() < 1e-12);
            }
            assert!((ranged(1.0, [0.0, 0.0, by, 0.0]) - 1.0 - 0.12 * by).abs() < 1e-12);
            assert!((ranged(0.4, [0.0, by, 0.0, 0.0]) - 0.4 - 0.11 * by).abs() < 1e-12);
        }
    }
}
