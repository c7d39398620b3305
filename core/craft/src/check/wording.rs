//! What should be looked at in the words themselves: doubled words and spaces, dates that cannot be, words no list has, and what was left to be
//! filled in.

use crate::check::dates::{Day, dates};
use crate::check::findings::FindingKind;
use crate::check::spelling::Speller;
use vatman_document::Part;

/// Something the matter with words, and the whole text with it put right where that can be known.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Slip {
    pub kind: FindingKind,
    pub says: String,
    pub right: Option<String>,
    /// The word it is about.
    pub word: Option<String>,
}

impl Slip {
    const fn new(kind: FindingKind, says: String, right: Option<String>) -> Self {
        Self { kind, says, right, word: None }
    }
}

/// With what words are read.
#[derive(Clone, Copy)]
pub struct Reader<'r> {
    /// The day it is.
    pub today: Day,
    /// What knows which words there are.
    pub speller: &'r Speller,
}

/// What is the matter with a text, in a job whose language is usually `usual`.
pub(crate) fn slips(text: &str, reader: Reader<'_>, usual: &str) -> Vec<Slip> {
    let Reader { today, speller } = reader;
    let mut found = Vec::new();
    if let Some(says) = left_over(text) {
        found.push(Slip::new(FindingKind::LeftOver, says, None));
    }
    for one in speller.misspelt(text, usual) {
        let says = match &one.meant {
            Some(meant) => {
                format!("\u{201c}{}\u{201d} is in no word list. Is \u{201c}{meant}\u{201d} meant?", one.word)
            }
            None => format!("\u{201c}{}\u{201d} is in no word list.", one.word),
        };
        // Found by where it lies, not by its letters: those may stand in a longer word before.
        let right = one.meant.map(|meant| {
            let end = text[one.at..]
                .char_indices()
                .find(|(_, c)| !c.is_alphabetic() && !matches!(c, '\'' | '\u{2019}' | '\u{ad}'));
            let end = end.map_or(text.len(), |(length, _)| one.at + length);
            format!("{}{meant}{}", &text[..one.at], &text[end..])
        });
        found.push(Slip { word: Some(one.word), ..Slip::new(FindingKind::Misspelt, says, right) });
    }
    if let Some((word, right)) = doubled(text) {
        let says = format!("\u{201c}{word} {word}\u{201d} says one word twice.");
        found.push(Slip::new(FindingKind::DoubledWord, says, Some(right)));
    }
    if let Some(right) = single_spaced(text) {
        let says = "Two spaces stand between two words.".to_owned();
        found.push(Slip::new(FindingKind::DoubledSpace, says, Some(right)));
    }
    found.extend(date_slip(text, today));
    found
}

fn words(text: &str) -> Vec<(usize, &str)> {
    let mut out = Vec::new();
    let mut start = None;
    for (at, letter) in text.char_indices().chain([(text.len(), ' ')]) {
        if letter.is_alphanumeric() || letter == '\'' || letter == '\u{2019}' {
            start.get_or_insert(at);
        } else if let Some(from) = start.take() {
            out.push((from, &text[from..at]));
        }
    }
    out
}

/// Words that are said twice on purpose are left alone: short exclamations and names do that, articles and the like do not.
fn doubled(text: &str) -> Option<(String, String)> {
    let all = words(text);
    let pair = all.windows(2).find(|pair| {
        let ((from, word), (next, again)) = (pair[0], pair[1]);
        let between = &text[from + word.len()..next];
        word.to_lowercase() == again.to_lowercase()
            && word.chars().all(char::is_alphabetic)
            && !between.is_empty()
            && between.chars().all(char::is_whitespace)
            && !(word.chars().next().is_some_and(char::is_uppercase)
                && again.chars().next().is_some_and(char::is_uppercase))
    })?;
    let ((from, word), (next, again)) = (pair[0], pair[1]);
    let right = format!("{}{}", &text[..from + word.len()], &text[next + again.len()..]);
    Some((again.to_lowercase(), right))
}

fn single_spaced(text: &str) -> Option<String> {
    let has = |text: &str| text.trim().contains("  ");
    if !text.lines().any(has) {
        return None;
    }
    let line = |line: &str| line.split(' ').filter(|part| !part.is_empty()).collect::<Vec<_>>().join(" ");
    Some(text.lines().map(line).collect::<Vec<_>>().join("\n"))
}

/// Words that stand for others: fields in brackets, filler, and what designs write where nobody has written yet.
fn left_over(text: &str) -> Option<String> {
    const FILLER: [&str; 8] =
        ["lorem ipsum", "your text", "text here", "headline here", "your name", "insert ", "to be announced", "tbd"];
    let low = text.to_lowercase();
    let bracketed = |open: char, close: char| {
        text.find(open)
            .and_then(|from| text[from..].find(close).map(|to| text[from..from + to + close.len_utf8()].to_owned()))
    };
    let whole = |part: &str| text.trim() == part;
    let field = bracketed('[', ']').or_else(|| bracketed('{', '}')).or_else(|| bracketed('<', '>'));
    let blank = words(&low)
        .iter()
        .find(|(_, word)| word.len() > 2 && word.chars().all(|c| c == 'x'))
        .map(|(_, word)| (*word).to_owned());
    let filler = FILLER.iter().find(|filler| low.contains(*filler)).map(|filler| filler.trim().to_owned());
    let prompt = Part::ALL.iter().find(|part| whole(part.name())).map(|part| part.name().to_owned());
    let left = field.or(filler).or(prompt).or(blank)?;
    Some(format!("\u{201c}{left}\u{201d} still stands for words to come."))
}

/// A date whose weekday is another, a day there is not, or one that has passed.
fn date_slip(text: &str, today: Day) -> Option<Slip> {
    for date in dates(text) {
        let (month, year) = (date.month_name(text), date.year);
        if !date.exists() {
            let says = format!("There is no {} {month}.", date.day);
            return Some(Slip::new(FindingKind::WrongDate, says, None));
        }
        let this = date.in_year(year.unwrap_or(today.year));
        // Without a year the next such day is meant.
        let meant = if year.is_none() && this < today { date.in_year(today.year + 1) } else { this };
        if date.weekday.is_some_and(|weekday| weekday != meant.weekday()) {
            let right = date.rewritten(text, meant);
            let says = format!("{} {month} {} is a {}, not what is said.", date.day, meant.year, meant.weekday_name());
            return Some(Slip::new(FindingKind::WrongDate, says, Some(right)));
        }
        if year.is_some() && meant < today {
            let says = format!("{} {month} {} has passed.", date.day, meant.year);
            return Some(Slip::new(FindingKind::PastDate, says, None));
        }
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const TODAY: Day = Day { year: 2026, month: 11, day: 27 };

    struct NoLists;
    impl crate::check::spelling::WordLists for NoLists {
        fn list(&self, _: &str) -> Option<crate::check::spelling::WordList> {
            None
        }
    }

    fn slips(text: &str, today: Day) -> Vec<Slip> {
        super::slips(text, Reader { today, speller: &Speller::new(Box::new(NoLists)) }, "en")
    }

    fn kinds(text: &str) -> Vec<FindingKind> {
        slips(text, TODAY).into_iter().map(|slip| slip.kind).collect()
    }

    #[test]
    fn what_was_to_be_filled_in_is_left_over() {
        for text in ["[date], 10 to 1", "Lorem ipsum dolor", "{name}", "Headline", "Call xxx", "Price TBD"] {
            assert_eq!(kinds(text), [FindingKind::LeftOver], "{text}");
        }
        for text in ["Extra", "A Headline for the fair", "5 < 6", "xx", "When we fire"] {
            assert_eq!(kinds(text), [], "{text}");
        }
    }

    #[test]
    fn what_is_wrong_with_words_is_told_and_put_right() {
        for (text, kind, right) in [
            ("Bring the the clay", FindingKind::DoubledWord, Some("Bring the clay")),
            ("Bring  old clothes", FindingKind::DoubledSpace, Some("Bring old clothes")),
            // In 2026 the 12th of December is a Saturday.
            ("Sunday, 12 December, 9 to 5", FindingKind::WrongDate, Some("Saturday, 12 December, 9 to 5")),
            ("Sun 12 Dec 2026", FindingKind::WrongDate, Some("Sat 12 Dec 2026")),
            ("31 April", FindingKind::WrongDate, None),
            ("29 February 2027", FindingKind::WrongDate, None),
            ("1 May 2024", FindingKind::PastDate, None),
        ] {
            let found = slips(text, TODAY);
            assert_eq!(found.len(), 1, "{text}: {found:?}");
            assert_eq!((found[0].kind, found[0].right.as_deref()), (kind, right), "{text}");
        }
        for text in [
            "Saturday, 12 December",
            "Sat 12 and 13 December 2026",
            "Every Saturday, 10 to 1",
            "Very Very",
            "May 2 be with you",
            "1 March",
            "that, that",
        ] {
            assert_eq!(kinds(text), [], "{text}");
        }
    }

    proptest! {
        #[test]
        fn what_is_put_right_is_another_text(text in "[a-z ]{0,40}") {
            for slip in slips(&text, TODAY) {
                if let Some(right) = slip.right {
                    prop_assert!(right.len() < text.len() || right != text);
                }
            }
        }
    }
}
