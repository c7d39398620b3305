//! Reading colours as people type them: all that CSS Color 4 writes, hexadecimal digits without their sign, and cmyk().

use color::{Srgb, parse_color};

use std::str::FromStr;

use crate::color::{Color, ColorError};

impl FromStr for Color {
    type Err = ColorError;
    fn from_str(text: &str) -> Result<Self, ColorError> {
        read(text)
    }
}

/// Reads `#2B4A8B`, `2b4a8b80`, `teal`, `rgb(43 74 139)`, `rgba(43, 74, 139, 0.5)`, `hsl(220 53% 36%)`, `oklch(0.42 0.11 264)` and
/// the other ways of CSS Color 4, or `cmyk(69 47 0 45)`. What lies outside sRGB is brought to its edge. CMYK is converted without a
/// press profile: each ink takes its share of light.
fn read(text: &str) -> Result<Color, ColorError> {
    let bad = || ColorError(text.chars().take(40).collect());
    let trimmed = text.trim().to_ascii_lowercase();
    if let Some(inks) = trimmed.strip_prefix("cmyk(").and_then(|rest| rest.strip_suffix(')')) {
        return cmyk(inks).ok_or_else(bad);
    }
    let digits = !trimmed.is_empty() && trimmed.bytes().all(|b| b.is_ascii_hexdigit());
    let written = if digits { format!("#{trimmed}") } else { trimmed };
    let read = parse_color(&written).map_err(|_| bad())?;
    let color = read.to_alpha_color::<Srgb>();
    if color.components.iter().any(|part| !part.is_finite()) {
        return Err(bad());
    }
    let [r, g, b, a] = color.to_rgba8().to_u8_array();
    Ok(Color { r, g, b, a })
}

/// Four inks in shares or in percent; one of more than 1 makes percent of all.
fn cmyk(inks: &str) -> Option<Color> {
    let parts: Vec<&str> = inks.split([',', ' ', '\t']).filter(|part| !part.is_empty()).collect();
    let number = |part: &&str| part.strip_suffix('%').unwrap_or(part).parse::<f64>().ok().filter(|v| v.is_finite());
    let numbers: Vec<f64> = parts.iter().map(number).collect::<Option<_>>()?;
    let percent = parts.iter().any(|part| part.ends_with('%')) || numbers.iter().any(|v| *v > 1.0);
    let shares: Vec<f64> = numbers.iter().map(|v| if percent { v / 100.0 } else { *v }).collect();
    let [c, m, y, k] = *<&[f64; 4]>::try_from(shares.as_slice()).ok()?;
    if ![c, m, y, k].iter().all(|share| (0.0..=1.0).contains(share)) {
        return None;
    }
    let light = |ink: f64| (255.0 * (1.0 - ink) * (1.0 - k)).round() as u8;
    Some(Color::opaque(light(c), light(m), light(y)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn the_usual_ways_of_writing_a_colour_mean_the_same() {
        let cobalt = Color::opaque(0x2b, 0x4a, 0x8b);
        for typed in [
            "#2B4A8B",
            "2b4a8b",
            " rgb(43 74 139) ",
            "rgb(43, 74, 139)",
            "RGB(16.9%, 29%, 54.5%)",
            "rgb(43 74 139 / 1)",
            "hsl(220.6deg 52.7% 35.7%)",
        ] {
            let read = read(typed).unwrap();
            let off = [read.r.abs_diff(cobalt.r), read.g.abs_diff(cobalt.g), read.b.abs_diff(cobalt.b)];
            assert!(off.iter().all(|off| *off <= 1), "{typed} is {read}");
        }
        assert_eq!(read("rgba(0, 0, 0, 50%)").unwrap().a, 128);
        assert_eq!(read("cmyk(0 0 0 100)").unwrap(), Color::BLACK);
        assert_eq!(read("cmyk(0, 100%, 100%, 0)").unwrap(), Color::opaque(255, 0, 0));
        assert_eq!(read("hsl(120 100% 50%)").unwrap(), Color::opaque(0, 255, 0));
        assert_eq!(read("oklch(0.62796 0.25768 29.234)").unwrap(), Color::opaque(255, 0, 0));
    }

    #[test]
    fn names_and_what_a_screen_cannot_show_are_read_as_browsers_do() {
        assert_eq!(read("White").unwrap(), Color::WHITE);
        assert_eq!(read("teal").unwrap(), Color::opaque(0, 128, 128));
        assert_eq!(read("rgb(300 -20 0)").unwrap(), Color::opaque(255, 0, 0));
        assert_eq!(read("transparent").unwrap().a, 0);
    }

    #[test]
    fn what_is_no_colour_is_refused() {
        for typed in [
            "",
            "bluish",
            "#12",
            "#ggg",
            "rgb(1 2)",
            "rgb(1 2 3 4 5)",
            "cmyk(1 2 3)",
            "cmyk(0 0 0 120)",
            "rgb(nan 0 0)",
        ] {
            assert!(read(typed).is_err(), "{typed} was taken for {:?}", read(typed));
        }
    }

    proptest! {
        #[test]
        fn anything_typed_is_read_or_refused(text in "(rgb|hsl|oklch|cmyk|#)?\\(?[0-9a-f%.,/ -]{0,24}\\)?") {
            let _ = read(&text);
        }

        #[test]
        fn rgb_is_exact(r: u8, g: u8, b: u8) {
            prop_assert_eq!(read(&format!("rgb({r}, {g}, {b})")).unwrap(), Color::opaque(r, g, b));
        }
    }
}
