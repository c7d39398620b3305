//! Lock-ups: a short phrase set as a block whose lines reach the same width, with contrast between them.
//!
//! The arrangements are numbered and always give the same block for the same words. Lines are stacked by the ink of their letters,
//! not by the metrics of their faces, so that gaps look equal.

use vatman_document::{Curve, RichText, TypeLook};
use vatman_units::Angle;

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
    /// How lines stand to each other.
    pub(crate) form: Form,
    /// What is drawn besides letters.
    pub(crate) rules: Rules,
    /// Gap between lines as a share of the block's width.
    pub(crate) gap: f64,
    /// Extra room between letters of small lines, in their size.
    small_tracking: f64,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Caps {
    All,
    First,
    Own,
}

/// How the lines of a block stand to each other.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Form {
    /// Every full line as wide as the block.
    Stack,
    /// All lines in one size, the widest as wide as the block.
    Steady(Stand),
    /// The longest word as wide as the block, what comes before and after it small.
    Loud,
    /// The first letter as high as all the rest beside it.
    Initial,
    /// Two columns of full lines with a rule between.
    Columns,
    /// The first line bent over the others.
    Arch,
}

/// Where lines of one size stand in the block.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Stand {
    Left,
    Middle,
    Right,
    /// From the left edge to the right one, step by step.
    Stairs,
}

/// Lines besides the letters.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Rules {
    None,
    /// Above and below the block.
    Around,
    /// Between full lines.
    Between,
    /// On both sides of small words.
    Beside,
    /// All around, once or twice.
    Frame,
    DoubleFrame,
    /// The corners of a frame.
    Corners,
    /// Upright, at the left of the block.
    Bar,
    /// A short one below the block.
    Under,
    /// Three small squares between lines.
    Dots,
    /// A panel under the whole block.
    Panel,
    /// A ribbon under each full line.
    Ribbon,
}

const PLAIN: Arrangement = Arrangement {
    letters: 9.0,
    small_words: false,
    second: None,
    second_weight: 700,
    italic: false,
    caps: Caps::Own,
    form: Form::Stack,
    rules: Rules::None,
    gap: 0.035,
    small_tracking: 0.0,
};

/// All arrangements; number 1 is the first.
pub const ARRANGEMENTS: [Arrangement; 32] = [
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
    Arrangement { letters: 10.0, form: Form::Steady(Stand::Left), rules: Rules::Bar, gap: 0.03, ..PLAIN },
    Arrangement { letters: 8.0, form: Form::Steady(Stand::Stairs), caps: Caps::All, gap: 0.03, ..PLAIN },
    Arrangement { letters: 11.0, form: Form::Steady(Stand::Right), italic: true, rules: Rules::Under, ..PLAIN },
    Arrangement { form: Form::Loud, caps: Caps::All, gap: 0.045, small_tracking: 0.18, ..PLAIN },
    Arrangement {
        form: Form::Loud,
        second: Some("Pacifico"),
        second_weight: 400,
        caps: Caps::First,
        gap: 0.03,
        small_tracking: 0.24,
        ..PLAIN
    },
    Arrangement { letters: 9.0, form: Form::Initial, gap: 0.03, ..PLAIN },
    Arrangement {
        letters: 12.0,
        form: Form::Initial,
        second: Some("Barlow Condensed"),
        second_weight: 600,
        caps: Caps::All,
        gap: 0.03,
        ..PLAIN
    },
    Arrangement { letters: 6.0, form: Form::Columns, caps: Caps::All, gap: 0.03, ..PLAIN },
    Arrangement { letters: 8.0, caps: Caps::All, rules: Rules::Frame, gap: 0.03, ..PLAIN },
    Arrangement { letters: 10.0, small_words: true, italic: true, rules: Rules::DoubleFrame, ..PLAIN },
    Arrangement { letters: 12.0, form: Form::Steady(Stand::Middle), rules: Rules::Corners, gap: 0.03, ..PLAIN },
    Arrangement {
        letters: 13.0,
        form: Form::Steady(Stand::Middle),
        caps: Caps::All,
        rules: Rules::Dots,
        gap: 0.05,
        ..PLAIN
    },
    Arrangement { letters: 8.0, caps: Caps::All, rules: Rules::Panel, gap: 0.035, ..PLAIN },
    Arrangement { form: Form::Loud, caps: Caps::All, rules: Rules::Ribbon, gap: 0.04, small_tracking: 0.14, ..PLAIN },
    Arrangement { letters: 12.0, form: Form::Arch, caps: Caps::All, gap: 0.03, ..PLAIN },
    Arrangement {
        letters: 12.0,
        form: Form::Arch,
        second: Some("Kaushan Script"),
        second_weight: 400,
        caps: Caps::First,
        gap: 0.035,
        ..PLAIN
    },
];

/// How far the first line of an arch bends, in degrees.
const ARCH: f64 = 44.0;

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
        self.rules == Rules::None && self.form != Form::Columns
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
    let as_typed = typed.trim().contains('\n');
    let ranges = match arrangement.form {
        _ if as_typed => typed_lines(&typed),
        Form::Loud => loud(&typed),
        Form::Initial => initial(&typed, arrangement),
        _ => broken(&typed, arrangement),
    };
    let longest = ranges.iter().map(|range| letters(&typed[range.clone()])).max().unwrap_or(0);
    let mut full = 0;
    let mut first = true;
    ranges
        .into_iter()
        .map(|range| {
            let line = &typed[range.clone()];
            let small = match arrangement.form {
                // Of lines as they were typed the longest is the loud one; else it is the word alone.
                Form::Loud => !(if as_typed { letters(line) == longest } else { is_loud(&typed, &range) }),
                _ => {
                    arrangement.small_words
                        && line.split_whitespace().all(|word| JOINING.contains(&word.to_lowercase().as_str()))
                }
            };
            let second = match arrangement.form {
                Form::Loud => !small,
                Form::Initial => !std::mem::take(&mut first),
                _ => !small && full % 2 == 1,
            };
            // A single line bends; of several the first bends over the others.
            let bent = arrangement.form == Form::Arch && full == 0 && !small;
            full += usize::from(!small);
            let mut own = TypeLook {
                curve: bent.then(|| Curve::Arc { bend: Angle::degrees(ARCH) }),
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

fn letters(text: &str) -> usize {
    text.chars().filter(|letter| letter.is_alphanumeric()).count()
}

/// The words of a text, as byte ranges.
fn words(text: &str) -> Vec<std::ops::Range<usize>> {
    let range = |word: &str| {
        let start = word.as_ptr() as usize - text.as_ptr() as usize;
        start..start + word.len()
    };
    text.split_whitespace().map(range).collect()
}

/// The word that is set largest: the longest that is no joining word, the first of equals.
fn loudest(text: &str) -> Option<std::ops::Range<usize>> {
    let weight = |range: &std::ops::Range<usize>| {
        let word = &text[range.clone()];
        if JOINING.contains(&word.to_lowercase().as_str()) { 0 } else { letters(word) }
    };
    let all = words(text);
    let most = all.iter().map(weight).max()?;
    all.into_iter().find(|range| weight(range) == most)
}

fn is_loud(text: &str, range: &std::ops::Range<usize>) -> bool {
    loudest(text).as_ref() == Some(range)
}

/// The loudest word on a line of its own, with what comes before and after it.
fn loud(text: &str) -> Vec<std::ops::Range<usize>> {
    let (Some(loud), all) = (loudest(text), words(text)) else { return Vec::new() };
    let joined = |part: Vec<&std::ops::Range<usize>>| Some(part.first()?.start..part.last()?.end);
    let before = joined(all.iter().filter(|range| range.end <= loud.start).collect());
    let after = joined(all.iter().filter(|range| range.start >= loud.end).collect());
    before.into_iter().chain([loud]).chain(after).collect()
}

/// The first letter by itself, and the rest in lines.
fn initial(text: &str, arrangement: &Arrangement) -> Vec<std::ops::Range<usize>> {
    let start = text.len() - text.trim_start().len();
    let Some(letter) = text[start..].chars().next() else { return Vec::new() };
    let rest = start + letter.len_utf8();
    let lines = broken(&text[rest..], arrangement);
    // Beside a single line an initial is only a letter that strayed.
    if lines.len() < 2 {
        return broken(text, arrangement);
    }
    std::iter::once(start..rest).chain(lines.into_iter().map(|line| line.start + rest..line.end + rest)).collect()
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
    let words = words(text);
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
    fn there_are_enough_to_choose_from_and_their_numbers_begin_at_one() {
        assert!(ARRANGEMENTS.len() >= 24 && ARRANGEMENTS.iter().filter(|one| one.is_plain()).count() >= 6);
        assert!(Arrangement::numbered(0).is_none() && Arrangement::numbered(Arrangement::COUNT + 1).is_none());
    }

    #[test]
    fn the_longest_word_is_the_loud_one_and_an_initial_stands_alone() {
        let loud = 20;
        assert_eq!(ARRANGEMENTS[loud - 1].form, Form::Loud);
        assert_eq!(lines("hands in clay by ten", loud as u8), ["hands", "in clay by ten"]);
        assert_eq!(lines("made for everyday use", loud as u8), ["made for", "everyday", "use"]);
        let initial = ARRANGEMENTS.iter().position(|one| one.form == Form::Initial).unwrap() as u8 + 1;
        assert_eq!(lines("made slow for all of us", initial)[0], "m");
        assert_eq!(lines("made slow", initial), ["made slow"], "not beside a single line");
    }

    proptest! {
        #[test]
        fn every_letter_is_in_exactly_one_line(text in "[a-z]{1,9}( [a-z]{1,9}){0,9}", number in 1..=Arrangement::COUNT) {
            // An initial is parted from its own word.
            prop_assert_eq!(lines(&text, number).concat().replace(' ', ""), text.replace(' ', ""));
        }
    }
}
