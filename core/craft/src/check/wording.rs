//! What should be looked at in the words themselves: doubled words, doubled spaces, and dates that cannot be.

use crate::check::findings::FindingKind;

/// A day of the calendar.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct Day {
    /// The year.
    pub year: i64,
    /// 1 to 12.
    pub month: u8,
    /// 1 to 31.
    pub day: u8,
}

impl Day {
    /// The day a number of days after 1 January 1970 (days from civil, H. Hinnant, "chrono-compatible low-level date algorithms").
    #[must_use]
    pub const fn from_days(days: i64) -> Self {
        let shifted = days + 719_468;
        let era = shifted.div_euclid(146_097);
        let of_era = shifted.rem_euclid(146_097);
        let year_of_era = (of_era - of_era / 1_460 + of_era / 36_524 - of_era / 146_096) / 365;
        let of_year = of_era - (365 * year_of_era + year_of_era / 4 - year_of_era / 100);
        let shifted_month = (5 * of_year + 2) / 153;
        let day = (of_year - (153 * shifted_month + 2) / 5 + 1) as u8;
        let month = if shifted_month < 10 { shifted_month + 3 } else { shifted_month - 9 } as u8;
        let year = year_of_era + era * 400 + if month <= 2 { 1 } else { 0 };
        Self { year, month, day }
    }

    /// Days after 1 January 1970.
    #[must_use]
    pub const fn to_days(self) -> i64 {
        let year = if self.month <= 2 { self.year - 1 } else { self.year };
        let era = year.div_euclid(400);
        let of_era = year.rem_euclid(400);
        let shifted = (self.month as i64 + 9) % 12;
        let of_year = (153 * shifted + 2) / 5 + self.day as i64 - 1;
        era * 146_097 + of_era * 365 + of_era / 4 - of_era / 100 + of_year - 719_468
    }

    /// 0 is Monday.
    #[must_use]
    pub const fn weekday(self) -> usize {
        (self.to_days() + 3).rem_euclid(7) as usize
    }

    fn exists(self) -> bool {
        Self::from_days(self.to_days()) == self
    }
}

const WEEKDAYS: [&str; 7] = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const MONTHS: [&str; 12] = [
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
];

/// Something the matter with words, and the whole text with it put right where that can be known.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Slip {
    pub kind: FindingKind,
    pub says: String,
    pub right: Option<String>,
}

/// What is the matter with a text on a day.
pub(crate) fn slips(text: &str, today: Day) -> Vec<Slip> {
    let mut found = Vec::new();
    if let Some((word, right)) = doubled(text) {
        let says = format!("\u{201c}{word} {word}\u{201d} says one word twice.");
        found.push(Slip { kind: FindingKind::DoubledWord, says, right: Some(right) });
    }
    if let Some(right) = single_spaced(text) {
        let says = "Two spaces stand between two words.".to_owned();
        found.push(Slip { kind: FindingKind::DoubledSpace, says, right: Some(right) });
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

/// A weekday, a day and a month beside each other that do not go together, or a day that has passed.
fn date_slip(text: &str, today: Day) -> Option<Slip> {
    let all = words(text);
    let named = |names: &[&str], word: &str| {
        let word = word.to_lowercase();
        names.iter().position(|name| {
            let name = name.to_lowercase();
            name == word || word.len() >= 3 && word.len() <= 4 && name.starts_with(&word)
        })
    };
    let number = |word: &str| -> Option<i64> {
        word.trim_end_matches(|c: char| c.is_alphabetic())
            .parse()
            .ok()
            .filter(|_| word.starts_with(|c: char| c.is_ascii_digit()))
    };
    for (at, (_, word)) in all.iter().enumerate() {
        let Some(month) = named(&MONTHS, word) else { continue };
        let beside = |index: Option<usize>| index.and_then(|index| all.get(index)).and_then(|(_, word)| number(word));
        let before = beside(at.checked_sub(1)).filter(|day| (1..=31).contains(day));
        let after = beside(Some(at + 1)).filter(|day| (1..=31).contains(day));
        let Some(day) = before.or(after) else { continue };
        let year_at = if before.is_some() { at + 1 } else { at + 2 };
        let year = beside(Some(year_at)).filter(|year| (1900..=2200).contains(year));
        let of = |year: i64| Day { year, month: month as u8 + 1, day: day as u8 };
        let first = if before.is_some() { at.saturating_sub(1) } else { at };
        // "Saturday, 13 December": the weekday stands right before.
        let weekday = first.checked_sub(1).and_then(|index| all.get(index)).and_then(|(from, word)| {
            let full = WEEKDAYS
                .iter()
                .position(|name| name.eq_ignore_ascii_case(word) || name[..3].eq_ignore_ascii_case(word));
            full.map(|weekday| (weekday, *from, word.len()))
        });
        let this = of(year.unwrap_or(today.year));
        if !this.exists() && year.is_some() || !of(2_024).exists() {
            let says = format!("There is no {day} {}.", MONTHS[month]);
            return Some(Slip { kind: FindingKind::WrongDate, says, right: None });
        }
        // Without a year the next such day is meant.
        let meant = match year {
            Some(_) => this,
            None if this < today => of(today.year + 1),
            None => this,
        };
        if let Some((weekday, from, length)) = weekday.filter(|(weekday, ..)| *weekday != meant.weekday()) {
            let right = WEEKDAYS[meant.weekday()];
            let says = format!("{day} {} {} is a {right}, not a {}.", MONTHS[month], meant.year, WEEKDAYS[weekday]);
            let short = length == 3;
            let right = if short { &right[..3] } else { right };
            let right = format!("{}{right}{}", &text[..from], &text[from + length..]);
            return Some(Slip { kind: FindingKind::WrongDate, says, right: Some(right) });
        }
        if year.is_some() && meant < today {
            let says = format!("{day} {} {} has passed.", MONTHS[month], meant.year);
            return Some(Slip { kind: FindingKind::PastDate, says, right: None });
        }
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const TODAY: Day = Day { year: 2026, month: 11, day: 27 };

    fn kinds(text: &str) -> Vec<FindingKind> {
        slips(text, TODAY).into_iter().map(|slip| slip.kind).collect()
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
            "Every Saturday, 10 to 1",
            "Very Very",
            "May 2 be with you",
            "1 March",
            "that, that",
        ] {
            assert_eq!(kinds(text), [], "{text}");
        }
    }

    #[test]
    fn days_are_those_of_the_calendar() {
        assert_eq!(Day { year: 1970, month: 1, day: 1 }.to_days(), 0);
        assert_eq!(TODAY.weekday(), 4, "a Friday");
        assert_eq!(Day { year: 2000, month: 2, day: 29 }.to_days(), 11_016);
    }

    proptest! {
        #[test]
        fn a_day_is_its_number_and_what_is_put_right_stays_right(days in -200_000i64..200_000, text in "[a-z ]{0,40}") {
            let day = Day::from_days(days);
            prop_assert_eq!(day.to_days(), days);
            prop_assert!((1..=12).contains(&day.month) && (1..=31).contains(&day.day));
            for slip in slips(&text, TODAY) {
                if let Some(right) = slip.right {
                    prop_assert!(right.len() < text.len() || right != text);
                }
            }
        }
    }
}
