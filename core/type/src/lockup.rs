//! Lock-ups: a short phrase set as a block whose lines reach the same width, with contrast between them.
//!
//! The arrangements are numbered and always give the same block for the same words. Lines are stacked by the ink of their letters,
//! not by the metrics of their faces, so that gaps look equal.

use kurbo::{Rect, Shape as _};
use vatman_document::{RichText, TypeLook};

/// How the lines of an arrangement come about and differ.
#[derive(Debug, Clone, Copy)]
pub struct Arrangement {
    /// Letters a full line should have, about.
    letters: f64,
    /// Joining words (and, of, by...) stand small on a line of their own.
    small_words: bool,
    /// Family of every second full line; the item's own where there is none.
    second: Option<&'static str>,
    /// Weight of every second full line.
    second_weight: u16,
    /// Italic in every second full line and in small ones.
    italic: bool,
    /// Capitals: in all lines, in the first kind only, in none, or as the item says.
    caps: Caps,
    /// What is drawn besides letters.
    rules: Rules,
    /// Gap between lines as a share of the block's width.
    gap: f64,
    /// Extra room between letters of small lines, in their size.
    small_tracking: f64,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Caps {
    All,
    First,
    Own,
}

/// Lines besides the letters.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Rules {
    None,
    /// Above and below the block.
    Around,
    /// Between full lines.
    Between,
    /// On both sides of small words.
    Beside,
}

const PLAIN: Arrangement = Arrangement {
    letters: 9.0,
    small_words: false,
    second: None,
    second_weight: 700,
    italic: false,
    caps: Caps::Own,
    rules: Rules::None,
    gap: 0.035,
    small_tracking: 0.0,
};

/// All arrangements; number 1 is the first.
pub const ARRANGEMENTS: [Arrangement; 16] = [
    PLAIN,
    Arrangement { caps: Caps::All, ..PLAIN },
    Arrangement { letters: 6.0, caps: Caps::All, gap: 0.028, ..PLAIN },
    Arrangement { small_words: true, italic: true, ..PLAIN },
    Arrangement { small_words: true, caps: Caps::All, rules: Rules::Beside, small_tracking: 0.2, ..PLAIN },
    Arrangement { second: Some("Caveat"), caps: Caps::First, gap: 0.03, ..PLAIN },
    Arrangement {
        second: Some("Barlow Condensed"),
        second_weight: 600,
        caps: Caps::All,
        rules: Rules::Between,
        gap: 0.03,
        ..PLAIN
    },
    Arrangement { letters: 14.0, caps: Caps::All, rules: Rules::Around, ..PLAIN },
    Arrangement { second: Some("Playfair Display"), second_weight: 400, italic: true, ..PLAIN },
    Arrangement {
        small_words: true,
        second: Some("Pacifico"),
        second_weight: 400,
        caps: Caps::First,
        rules: Rules::Beside,
        ..PLAIN
    },
    Arrangement { letters: 6.0, second: Some("Anton"), second_weight: 400, caps: Caps::All, gap: 0.03, ..PLAIN },
    Arrangement {
        letters: 12.0,
        small_words: true,
        second: Some("Space Mono"),
        second_weight: 400,
        rules: Rules::Around,
        small_tracking: 0.3,
        ..PLAIN
    },
    Arrangement { second: Some("Abril Fatface"), second_weight: 400, ..PLAIN },
    Arrangement {
        letters: 7.0,
        small_words: true,
        second: Some("League Gothic"),
        second_weight: 400,
        caps: Caps::All,
        rules: Rules::Between,
        ..PLAIN
    },
    Arrangement {
        second: Some("Kaushan Script"),
        second_weight: 400,
        caps: Caps::First,
        rules: Rules::Around,
        ..PLAIN
    },
    Arrangement { letters: 18.0, small_words: true, italic: true, rules: Rules::Beside, ..PLAIN },
];

impl Arrangement {
    /// How many there are; they are numbered from 1.
    pub const COUNT: u8 = ARRANGEMENTS.len() as u8;

    /// The arrangement of a number from 1.
    #[must_use]
    pub fn numbered(number: u8) -> Option<&'static Self> {
        ARRANGEMENTS.get(usize::from(number).checked_sub(1)?)
    }

    /// Whether there is nothing in it but letters.
    #[must_use]
    pub fn is_plain(&self) -> bool {
        self.rules == Rules::None
    }
}

const JOINING: [&str; 26] = [
    "a", "an", "and", "as", "at", "by", "for", "from", "in", "is", "it", "of", "on", "or", "our", "the", "to", "up",
    "with", "your", "&", "+", "per", "but", "so", "my",
];

/// A line before it is set.
#[derive(Debug, Clone)]
pub(crate) struct Planned {
    /// Byte range of the typed text.
    pub range: std::ops::Range<usize>,
    /// Small, or reaching the full width.
    pub small: bool,
    /// How it is set.
    pub look: TypeLook,
}

/// The lines of a phrase. Line feeds that were typed are kept and none is added to them.
pub(crate) fn plan(
    text: &RichText,
    look: &TypeLook,
    arrangement: &Arrangement,
    has: impl Fn(&str) -> bool,
) -> Vec<Planned> {
    let typed = text.text();
    let ranges = if typed.trim().contains('\n') { typed_lines(&typed) } else { broken(&typed, arrangement) };
    let mut full = 0;
    ranges
        .into_iter()
        .map(|range| {
            let small = arrangement.small_words
                && typed[range.clone()].split_whitespace().all(|word| JOINING.contains(&word.to_lowercase().as_str()));
            let second = !small && full % 2 == 1;
            full += usize::from(!small);
            let mut own = TypeLook {
                curve: None,
                lock_up: None,
                fit: vatman_document::TextFit::AsTyped,
                even: false,
                list: vatman_document::ListMark::None,
                ..look.clone()
            };
            own.caps = match arrangement.caps {
                Caps::All => true,
                Caps::First => !second && !small,
                Caps::Own => look.caps,
            };
            if second {
                if let Some(family) = arrangement.second.filter(|family| has(family)) {
                    own.family = family.to_owned();
                    own.weight = arrangement.second_weight;
                    own.tracking = vatman_units::Ratio::ZERO;
                }
                own.italic = arrangement.italic || look.italic;
            }
            if small {
                own.italic = arrangement.italic || look.italic;
                own.weight = look.weight.min(500);
                own.tracking = vatman_units::Ratio::new(arrangement.small_tracking);
            }
            Planned { range, small, look: own }
        })
        .collect()
}

fn typed_lines(text: &str) -> Vec<std::ops::Range<usize>> {
    let mut out = Vec::new();
    let mut start = 0;
    for line in text.split_inclusive('\n') {
        let end = start + line.trim_end_matches('\n').len();
        if !text[start..end].trim().is_empty() {
            out.push(start..end);
        }
        start += line.len();
    }
    out
}

/// Breaks between words so that full lines have about as many letters as the arrangement wants, as evenly as can be.
fn broken(text: &str, arrangement: &Arrangement) -> Vec<std::ops::Range<usize>> {
    let words: Vec<std::ops::Range<usize>> = text
        .split_whitespace()
        .map(|word| {
            let start = word.as_ptr() as usize - text.as_ptr() as usize;
            start..start + word.len()
        })
        .collect();
    let joins = |i: usize| arrangement.small_words && JOINING.contains(&text[words[i].clone()].to_lowercase().as_str());
    // Joining words stand alone, except at the very end, where they would dangle.
    let mut lines = Vec::new();
    let mut from = 0;
    let mut i = 0;
    while i < words.len() {
        let last = i + 1 == words.len();
        if joins(i) && !last {
            lines.extend(even(&words, from, i, arrangement.letters));
            let mut end = i + 1;
            while end + 1 < words.len() && joins(end) {
                end += 1;
            }
            lines.push(words[i].start..words[end - 1].end);
            from = end;
            i = end;
        } else {
            i += 1;
        }
    }
    lines.extend(even(&words, from, words.len(), arrangement.letters));
    lines
}

/// Words `from..to` in lines with the least sum of squared distances from the wanted length.
fn even(words: &[std::ops::Range<usize>], from: usize, to: usize, letters: f64) -> Vec<std::ops::Range<usize>> {
    let n = to.saturating_sub(from);
    if n == 0 {
        return Vec::new();
    }
    let total = (words[to - 1].end - words[from].start) as f64;
    let wanted = total / (total / letters).round().max(1.0);
    let mut best = vec![(f64::INFINITY, 0); n + 1];
    best[0] = (0.0, 0);
    for end in 1..=n {
        for start in 0..end {
            let length = (words[from + end - 1].end - words[from + start].start) as f64;
            let cost = best[start].0 + (length - wanted).powi(2);
            if cost < best[end].0 {
                best[end] = (cost, start);
            }
        }
    }
    let mut out = Vec::new();
    let mut end = n;
    while end > 0 {
        let start = best[end].1;
        out.push(words[from + start].start..words[from + end - 1].end);
        end = start;
    }
    out.reverse();
    out
}

/// Ink and natural width of a line at its own size, before it is scaled.
pub(crate) struct Measured {
    pub ink: Rect,
    pub small: bool,
}

/// Where a line goes: its scale, and the place of its ink's left and top.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Stacked {
    pub scale: f64,
    pub left: f64,
    pub top: f64,
}

/// Stacks lines into a block of `width`. Places, rules and the height.
pub(crate) fn stacked(lines: &[Measured], arrangement: &Arrangement, width: f64) -> (Vec<Stacked>, Vec<Rect>, f64) {
    let gap = arrangement.gap * width;
    let thick = width * 0.008;
    // A line of one or two letters would tower over the rest.
    let tallest = width * 0.55;
    let full = |line: &Measured| (width / line.ink.width().max(1e-6)).min(tallest / line.ink.height().max(1e-6));
    let heights: Vec<f64> =
        lines.iter().filter(|line| !line.small).map(|line| full(line) * line.ink.height()).collect();
    let least = heights.iter().copied().fold(f64::INFINITY, f64::min);
    let small_height = if least.is_finite() { (least * 0.45).min(width * 0.1) } else { width * 0.1 };
    let (mut places, mut rules) = (Vec::new(), Vec::new());
    let mut y = 0.0;
    let bar = |y: f64| Rect::new(0.0, y, width, y + thick);
    if arrangement.rules == Rules::Around {
        rules.push(bar(0.0));
        y = thick + gap * 1.3;
    }
    for (i, line) in lines.iter().enumerate() {
        let scale = if line.small {
            (small_height / line.ink.height().max(1e-6)).min(width / line.ink.width().max(1e-6))
        } else {
            full(line)
        };
        let (w, h) = (line.ink.width() * scale, line.ink.height() * scale);
        if i > 0 {
            y += gap;
            if arrangement.rules == Rules::Between && !line.small && !lines[i - 1].small {
                rules.push(bar(y));
                y += thick + gap;
            }
        }
        let left = (width - w) / 2.0;
        if line.small && arrangement.rules == Rules::Beside && left > width * 0.06 {
            let middle = y + h / 2.0;
            let thick = thick.min(h);
            for (from, to) in [(0.0, left - width * 0.03), (left + w + width * 0.03, width)] {
                rules.push(Rect::new(from, middle - thick / 2.0, to, middle + thick / 2.0));
            }
        }
        places.push(Stacked { scale, left, top: y });
        y += h;
    }
    if arrangement.rules == Rules::Around {
        y += gap * 1.3;
        rules.push(bar(y));
        y += thick;
    }
    (places, rules, y)
}

/// The box of what a path paints.
pub(crate) fn ink(path: &kurbo::BezPath) -> Rect {
    path.bounding_box()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn lines(text: &str, number: u8) -> Vec<String> {
        let planned =
            plan(&RichText::plain(text), &TypeLook::default(), Arrangement::numbered(number).unwrap(), |_| true);
        planned.into_iter().map(|line| text[line.range].to_owned()).collect()
    }

    #[test]
    fn joining_words_stand_alone_but_never_at_the_end() {
        assert_eq!(lines("hands in clay by ten", 4), ["hands", "in", "clay", "by", "ten"]);
        assert_eq!(lines("come on by", 4).last().unwrap(), "by");
        assert_eq!(lines("hands in\nclay by ten", 4), ["hands in", "clay by ten"]);
        assert!(lines("made slow used daily", 1).len() >= 2);
    }

    #[test]
    fn there_are_twelve_and_more_and_some_are_plain() {
        assert!(ARRANGEMENTS.len() >= 12 && ARRANGEMENTS.iter().filter(|one| one.is_plain()).count() >= 6);
        assert!(Arrangement::numbered(0).is_none() && Arrangement::numbered(17).is_none());
    }

    proptest! {
        #[test]
        fn every_word_is_in_exactly_one_line(text in "[a-z]{1,9}( [a-z]{1,9}){0,9}", number in 1u8..=16) {
            prop_assert_eq!(lines(&text, number).join(" "), text);
        }

        #[test]
        fn no_line_is_wider_than_the_block(sizes in prop::collection::vec((1.0f64..400.0, 1.0f64..60.0, any::<bool>()), 1..6), number in 1u8..=16) {
            let measured: Vec<_> = sizes.iter().map(|(w, h, small)| Measured { ink: Rect::new(0.0, 0.0, *w, *h), small: *small }).collect();
            let (places, rules, height) = stacked(&measured, Arrangement::numbered(number).unwrap(), 500.0);
            let mut bottom = 0.0;
            for (place, line) in places.iter().zip(&measured) {
                prop_assert!(place.left >= -1e-6 && place.left + line.ink.width() * place.scale <= 500.0 + 1e-6);
                prop_assert!(place.top >= bottom - 1e-6, "lines do not overlap");
                bottom = place.top + line.ink.height() * place.scale;
            }
            prop_assert!(bottom <= height + 1e-6 && rules.iter().all(|rule| rule.y1 <= height + 1e-6 && rule.x0 >= 0.0 && rule.x1 <= 500.0));
        }
    }
}
