//! Reading colours as people type them: hex, rgb(), hsl(), oklch() and cmyk().

use crate::{Color, ColorError, Oklab};

/// Reads `#2B4A8B`, `2b4a8b80`, `rgb(43 74 139)`, `rgba(43, 74, 139, 0.5)`, `hsl(220 53% 36%)`, `oklch(0.42 0.11 264)` or
/// `cmyk(69 47 0 45)`. CMYK is converted without a press profile: each ink takes its share of light.
pub(crate) fn read(text: &str) -> Result<Color, ColorError> {
    let bad = || ColorError(text.chars().take(40).collect());
    let trimmed = text.trim().to_ascii_lowercase();
    let Some((name, rest)) = trimmed.split_once('(') else {
        return hex(&trimmed).ok_or_else(bad);
    };
    let inside = rest.trim_end().strip_suffix(')').ok_or_else(bad)?;
    let values: Vec<Value> = inside
        .split([',', '/', ' ', '\t'])
        .filter(|part| !part.is_empty())
        .map(Value::read)
        .collect::<Option<_>>()
        .ok_or_else(bad)?;
    let color = match (name.trim(), values.as_slice()) {
        ("rgb" | "rgba", [r, g, b, alpha @ ..]) => {
            let part = |value: &Value| value.of(255.0, 1.0).filter(|v| (0.0..=255.0).contains(v));
            with_alpha(Color::opaque(byte(part(r)), byte(part(g)), byte(part(b))), alpha)
                .filter(|_| [r, g, b].into_iter().all(|value| part(value).is_some()))
        }
        ("hsl" | "hsla", [h, s, l, alpha @ ..]) => hsl(h, s, l).and_then(|color| with_alpha(color, alpha)),
        ("oklch", [l, c, h, alpha @ ..]) => oklch(l, c, h).and_then(|color| with_alpha(color, alpha)),
        ("cmyk", [c, m, y, k]) => cmyk([c, m, y, k]),
        _ => None,
    };
    color.ok_or_else(bad)
}

fn hex(text: &str) -> Option<Color> {
    let digits = text.strip_prefix('#').unwrap_or(text);
    if !digits.bytes().all(|b| b.is_ascii_hexdigit()) {
        return None;
    }
    let long = match digits.len() {
        3 | 4 => digits.chars().flat_map(|c| [c, c]).collect(),
        6 | 8 => digits.to_owned(),
        _ => return None,
    };
    let value = |i: usize| u8::from_str_radix(long.get(i..i + 2)?, 16).ok();
    Some(Color { r: value(0)?, g: value(2)?, b: value(4)?, a: if long.len() == 8 { value(6)? } else { 255 } })
}

/// A number, and whether it was a percentage.
struct Value {
    number: f64,
    percent: bool,
}

impl Value {
    fn read(text: &str) -> Option<Self> {
        let plain = text.strip_suffix("deg").unwrap_or(text);
        let (digits, percent) = plain.strip_suffix('%').map_or((plain, false), |digits| (digits, true));
        digits.parse().ok().filter(|number: &f64| number.is_finite()).map(|number| Self { number, percent })
    }

    /// As an amount of which 100 % are `whole`; a plain number counts `unit` each.
    fn of(&self, whole: f64, unit: f64) -> Option<f64> {
        let value = if self.percent { self.number / 100.0 * whole } else { self.number * unit };
        value.is_finite().then_some(value)
    }

    /// A share from 0 to 1; a plain number above 1 is taken for percent.
    fn share(&self) -> Option<f64> {
        let share = if self.percent || self.number > 1.0 { self.number / 100.0 } else { self.number };
        (0.0..=1.0).contains(&share).then_some(share)
    }
}

fn byte(value: Option<f64>) -> u8 {
    value.unwrap_or(0.0).round().clamp(0.0, 255.0) as u8
}

fn with_alpha(color: Color, alpha: &[Value]) -> Option<Color> {
    match alpha {
        [] => Some(color),
        [alpha] => {
            Some(Color { a: byte(Some(alpha.of(1.0, 1.0).filter(|a| (0.0..=1.0).contains(a))? * 255.0)), ..color })
        }
        _ => None,
    }
}

fn hsl(h: &Value, s: &Value, l: &Value) -> Option<Color> {
    let (h, s, l) = (h.number.rem_euclid(360.0), s.share()?, l.share()?);
    // CSS Color 4, section 7.1.
    let part = |n: f64| {
        let k = (n + h / 30.0) % 12.0;
        l - s * l.min(1.0 - l) * (k - 3.0).min(9.0 - k).clamp(-1.0, 1.0)
    };
    let [r, g, b] = [0.0, 8.0, 4.0].map(|n| byte(Some(part(n) * 255.0)));
    Some(Color::opaque(r, g, b))
}

fn oklch(l: &Value, c: &Value, h: &Value) -> Option<Color> {
    let lightness = l.of(1.0, 1.0).filter(|l| (0.0..=1.0).contains(l))?;
    let chroma = c.of(0.4, 1.0).filter(|c| (0.0..=0.6).contains(c))?;
    Some(Oklab::from_polar(lightness, chroma, h.number).to_color())
}

fn cmyk(inks: [&Value; 4]) -> Option<Color> {
    let whole = inks.iter().any(|ink| ink.percent || ink.number > 1.0);
    let share = |ink: &Value| {
        Some(if whole { ink.number / 100.0 } else { ink.number }).filter(|share| (0.0..=1.0).contains(share))
    };
    let k = share(inks[3])?;
    let part = |ink: &Value| Some(byte(Some(255.0 * (1.0 - share(ink)?) * (1.0 - k))));
    Some(Color::opaque(part(inks[0])?, part(inks[1])?, part(inks[2])?))
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
    fn what_is_no_colour_is_refused() {
        for typed in [
            "",
            "bluish",
            "#12",
            "#ggg",
            "rgb(1 2)",
            "rgb(1 2 3 4 5)",
            "rgb(300 0 0)",
            "rgb(-1 0 0)",
            "rgb(1 2 3",
            "hsl(20 200% 50%)",
            "oklch(2 0 0)",
            "cmyk(1 2 3)",
            "cmyk(0 0 0 120)",
            "lab(1 2 3)",
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
