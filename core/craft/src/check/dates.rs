//! Days of the calendar, and finding them in what people write: `Saturday, 12 December`, `12. Dezember 2026`, `2026-12-12`.

use std::ops::Range;

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

    /// Its weekday, in English.
    #[must_use]
    pub const fn weekday_name(self) -> &'static str {
        LANGUAGES[0].weekdays[self.weekday()]
    }

    /// A number of days later.
    #[must_use]
    pub const fn later(self, days: i64) -> Self {
        Self::from_days(self.to_days() + days)
    }

    /// The same weekday of the same week of the next month: the second Saturday after the second Saturday; the last where there is no
    /// fifth.
    #[must_use]
    pub const fn in_next_month(self) -> Self {
        let (year, month) = if self.month == 12 { (self.year + 1, 1) } else { (self.year, self.month + 1) };
        let first = Self { year, month, day: 1 };
        let to_weekday = (self.weekday() + 7 - first.weekday()) % 7;
        let week = (self.day - 1) as i64 / 7;
        let found = first.later(to_weekday as i64 + 7 * week);
        if found.month == month { found } else { found.later(-7) }
    }

    const fn exists(self) -> bool {
        let back = Self::from_days(self.to_days());
        back.year == self.year && back.month == self.month && back.day == self.day
    }
}

impl std::fmt::Display for Day {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "{:04}-{:02}-{:02}", self.year, self.month, self.day)
    }
}

/// How a language calls its days and months.
struct Calendar {
    weekdays: [&'static str; 7],
    months: [&'static str; 12],
}

/// The first that knows a name is taken; names shared by several are the same months.
const LANGUAGES: [Calendar; 7] = [
    Calendar {
        weekdays: ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"],
        months: [
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
        ],
    },
    Calendar {
        weekdays: ["Montag", "Dienstag", "Mittwoch", "Donnerstag", "Freitag", "Samstag", "Sonntag"],
        months: [
            "Januar",
            "Februar",
            "M\u{e4}rz",
            "April",
            "Mai",
            "Juni",
            "Juli",
            "August",
            "September",
            "Oktober",
            "November",
            "Dezember",
        ],
    },
    Calendar {
        weekdays: ["lundi", "mardi", "mercredi", "jeudi", "vendredi", "samedi", "dimanche"],
        months: [
            "janvier",
            "f\u{e9}vrier",
            "mars",
            "avril",
            "mai",
            "juin",
            "juillet",
            "ao\u{fb}t",
            "septembre",
            "octobre",
            "novembre",
            "d\u{e9}cembre",
        ],
    },
    Calendar {
        weekdays: ["lunes", "martes", "mi\u{e9}rcoles", "jueves", "viernes", "s\u{e1}bado", "domingo"],
        months: [
            "enero",
            "febrero",
            "marzo",
            "abril",
            "mayo",
            "junio",
            "julio",
            "agosto",
            "septiembre",
            "octubre",
            "noviembre",
            "diciembre",
        ],
    },
    Calendar {
        weekdays: [
            "luned\u{ec}",
            "marted\u{ec}",
            "mercoled\u{ec}",
            "gioved\u{ec}",
            "venerd\u{ec}",
            "sabato",
            "domenica",
        ],
        months: [
            "gennaio",
            "febbraio",
            "marzo",
            "aprile",
            "maggio",
            "giugno",
            "luglio",
            "agosto",
            "settembre",
            "ottobre",
            "novembre",
            "dicembre",
        ],
    },
    Calendar {
        weekdays: ["maandag", "dinsdag", "woensdag", "donderdag", "vrijdag", "zaterdag", "zondag"],
        months: [
            "januari",
            "februari",
            "maart",
            "april",
            "mei",
            "juni",
            "juli",
            "augustus",
            "september",
            "oktober",
            "november",
            "december",
        ],
    },
    Calendar {
        weekdays: [
            "segunda-feira",
            "ter\u{e7}a-feira",
            "quarta-feira",
            "quinta-feira",
            "sexta-feira",
            "s\u{e1}bado",
            "domingo",
        ],
        months: [
            "janeiro",
            "fevereiro",
            "mar\u{e7}o",
            "abril",
            "maio",
            "junho",
            "julho",
            "agosto",
            "setembro",
            "outubro",
            "novembro",
            "dezembro",
        ],
    },
];

/// A date as it is written somewhere.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Written {
    /// 1 to 12.
    pub month: u8,
    /// 1 to 31.
    pub day: u8,
    /// Where it is said.
    pub year: Option<i64>,
    /// 0 is Monday; where it is said.
    pub weekday: Option<usize>,
    language: usize,
    /// What each part is written with, from the first to the last.
    parts: Vec<(Piece, Range<usize>)>,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Piece {
    /// That of the day so many days after the day it is.
    Weekday {
        after: i64,
    },
    /// So many days after the day it is; with its ending or without: 12th.
    Day {
        after: i64,
        ordinal: bool,
    },
    Month,
    MonthNumber,
    Year,
}

impl Written {
    /// Whether there is such a day, in its year or, without one, in some year.
    pub fn exists(&self) -> bool {
        self.in_year(self.year.unwrap_or(2_024)).exists()
    }

    /// The day it is in a year.
    pub const fn in_year(&self, year: i64) -> Day {
        Day { year, month: self.month, day: self.day }
    }

    /// The name of its month as it is written, or in English.
    pub fn month_name<'t>(&self, text: &'t str) -> &'t str {
        let written = self.parts.iter().find(|(piece, _)| *piece == Piece::Month).map(|(_, at)| &text[at.clone()]);
        written.unwrap_or(LANGUAGES[0].months[usize::from(self.month) - 1])
    }

    /// The day meant: in the year that is said, else of the years around `near` the one in which the weekday is right, else the nearest.
    pub fn meant(&self, near: Day) -> Option<Day> {
        if !self.exists() {
            return None;
        }
        let years = self.year.map_or_else(|| (near.year - 1..=near.year + 1).collect(), |year| vec![year]);
        let days = years.into_iter().map(|year| self.in_year(year)).filter(|day| day.exists());
        let off = |day: &Day| self.weekday.is_some_and(|weekday| weekday != day.weekday());
        days.min_by_key(|day| (off(day), (day.to_days() - near.to_days()).abs()))
    }

    /// The text with this date written as another day, in the same manner.
    pub fn rewritten(&self, text: &str, day: Day) -> String {
        let mut out = text.to_owned();
        for (piece, at) in self.parts.iter().rev() {
            let old = &text[at.clone()];
            let names = &LANGUAGES[self.language];
            let new = match piece {
                Piece::Weekday { after } => as_written(&names.weekdays, day.later(*after).weekday(), old),
                Piece::Month => as_written(&names.months, usize::from(day.month) - 1, old),
                Piece::Day { after, ordinal: true } => {
                    let day = day.later(*after).day;
                    let ending = match (day % 10, day / 10) {
                        (_, 1) => "th",
                        (1, _) => "st",
                        (2, _) => "nd",
                        (3, _) => "rd",
                        _ => "th",
                    };
                    format!("{day}{ending}")
                }
                Piece::Day { .. } | Piece::MonthNumber => {
                    let number = match piece {
                        Piece::Day { after, .. } => day.later(*after).day,
                        _ => day.month,
                    };
                    if old.len() == 2 && old.starts_with('0') || old.len() == 2 && self.is_padded(text) {
                        format!("{number:02}")
                    } else {
                        number.to_string()
                    }
                }
                Piece::Year => day.year.to_string(),
            };
            out.replace_range(at.clone(), &new);
        }
        out
    }

    /// Whether its numbers are written with two digits each: beside another that begins with nought, or in the order of years first.
    fn is_padded(&self, text: &str) -> bool {
        let numbers = || self.parts.iter().filter(|(piece, _)| matches!(piece, Piece::Day { .. } | Piece::MonthNumber));
        self.parts.first().is_some_and(|(piece, _)| *piece == Piece::Year)
            || numbers().any(|(_, at)| text[at.clone()].starts_with('0'))
    }
}

/// A name of a calendar as another of them was written: whole or cut, and with its capitals. One is cut to where it is told from the others.
fn as_written(names: &[&str], which: usize, old: &str) -> String {
    let whole = names.iter().any(|name| name.to_lowercase() == old.to_lowercase());
    let name = names[which].to_lowercase();
    let begin = |length: usize| name.chars().take(length).collect::<String>();
    let alone = |length: &usize| {
        let begun = names.iter().filter(|other| other.to_lowercase().starts_with(&begin(*length)));
        begun.count() == 1
    };
    let name = if whole { name.clone() } else { (3..=4).find(alone).map_or_else(|| name.clone(), begin) };
    if old.chars().count() > 1 && old.chars().all(|c| !c.is_lowercase()) {
        name.to_uppercase()
    } else if old.chars().next().is_some_and(char::is_uppercase) {
        let mut letters = name.chars();
        letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
    } else {
        name
    }
}

/// The words and numbers of a text; what joins a word (`segunda-feira`) is part of it.
fn tokens(text: &str) -> Vec<(Range<usize>, &str)> {
    let mut out = Vec::new();
    let mut start: Option<usize> = None;
    let letters: Vec<(usize, char)> = text.char_indices().chain([(text.len(), ' ')]).collect();
    for (i, (at, letter)) in letters.iter().enumerate() {
        let joins = *letter == '-'
            && start.is_some_and(|from| text[from..*at].chars().all(char::is_alphabetic))
            && letters.get(i + 1).is_some_and(|(_, next)| next.is_alphabetic());
        if letter.is_alphanumeric() || joins {
            start.get_or_insert(*at);
        } else if let Some(from) = start.take() {
            out.push((from..*at, &text[from..*at]));
        }
    }
    out
}

/// Which of the names of a calendar a word is: the whole of it, or its first three or four letters.
fn named(names: &[&str], word: &str) -> Option<usize> {
    let word = word.to_lowercase();
    let length = word.chars().count();
    let whole = names.iter().position(|name| name.to_lowercase() == word);
    whole.or_else(|| {
        let begins = |name: &&str| name.to_lowercase().starts_with(&word);
        ((3..=4).contains(&length)).then(|| names.iter().position(begins)).flatten()
    })
}

fn number(word: &str) -> Option<i64> {
    word.chars().all(|c| c.is_ascii_digit()).then(|| word.parse().ok()).flatten()
}

/// The number of a day, with an English ending or without.
fn day_number(word: &str) -> Option<(u8, bool)> {
    let bare = word.trim_end_matches(|c: char| c.is_alphabetic());
    let ending = &word[bare.len()..];
    let known = ending.is_empty() || ["st", "nd", "rd", "th"].iter().any(|own| ending.eq_ignore_ascii_case(own));
    let day = number(bare).filter(|day| known && (1..=31).contains(day))?;
    Some((day as u8, !ending.is_empty()))
}

/// The dates of a text, in its order.
pub(crate) fn dates(text: &str) -> Vec<Written> {
    let tokens = tokens(text);
    let mut found: Vec<Written> = Vec::new();
    let mut taken = 0;
    for at in 0..tokens.len() {
        if at < taken {
            continue;
        }
        let date = in_words(text, &tokens, at, taken).or_else(|| in_numbers(text, &tokens, at));
        if let Some((date, last)) = date {
            taken = last + 1;
            found.push(date);
        }
    }
    found
}

/// A date whose month is the token at a place; with the last token it is made of. None before `from` is looked at.
fn in_words(text: &str, tokens: &[(Range<usize>, &str)], at: usize, from: usize) -> Option<(Written, usize)> {
    let (language, month) =
        LANGUAGES.iter().enumerate().find_map(|(i, names)| Some((i, named(&names.months, tokens[at].1)?)))?;
    let near = |a: usize, b: usize| tokens[b].0.start - tokens[a].0.end <= 4;
    // "12 de diciembre": a little word may stand between.
    let little = |index: usize| matches!(tokens[index].1.to_lowercase().as_str(), "de" | "of" | "di");
    let before = at.checked_sub(1).filter(|index| *index >= from);
    let before = match before {
        Some(index) if little(index) => index.checked_sub(1).filter(|index| *index >= from),
        other => other,
    };
    let before = before.filter(|index| near(*index, (*index + 1).min(at)));
    let first = before.and_then(|index| Some((index, day_number(tokens[index].1)?)));
    let after = (at + 1 < tokens.len() && near(at, at + 1)).then(|| at + 1);
    let (day_at, (day, ordinal)) = match first {
        Some(found) => found,
        None => after.and_then(|index| Some((index, day_number(tokens[index].1)?)))?,
    };
    let last = day_at.max(at);
    let mut year_at = last + 1;
    if year_at < tokens.len() && little(year_at) {
        year_at += 1;
    }
    let year = tokens.get(year_at).and_then(|(_, word)| number(word)).filter(|year| (1900..=2200).contains(year));
    let mut parts =
        vec![(Piece::Day { after: 0, ordinal }, tokens[day_at].0.clone()), (Piece::Month, tokens[at].0.clone())];
    // "12 and 13 December": the days before it go with it.
    let others = if day_at < at { days_before(text, tokens, (day_at, from), day) } else { Vec::new() };
    let start = others.last().map_or(day_at.min(at), |(index, ..)| *index);
    let first_after = others.last().map_or(0, |(_, other, _)| i64::from(*other) - i64::from(day));
    parts.extend(others.into_iter().map(|(index, other, ordinal)| {
        (Piece::Day { after: i64::from(other) - i64::from(day), ordinal }, tokens[index].0.clone())
    }));
    let names = &LANGUAGES[language];
    let weekday = start.checked_sub(1).filter(|index| *index >= from && near(*index, start));
    let weekday = weekday.and_then(|index| Some((index, named(&names.weekdays, tokens[index].1)?)));
    // A weekday is that of the first of several days.
    parts.extend(weekday.map(|(index, _)| (Piece::Weekday { after: first_after }, tokens[index].0.clone())));
    parts.extend(year.map(|_| (Piece::Year, tokens[year_at].0.clone())));
    parts.sort_by_key(|(_, at)| at.start);
    let written = Written {
        month: month as u8 + 1,
        day,
        year,
        weekday: weekday.map(|(_, day)| (day as i64 - first_after).rem_euclid(7) as usize),
        language,
        parts,
    };
    Some((written, if year.is_some() { year_at } else { last }))
}

/// The days joined to a day from the left, nearest first: where each stands, its number, and whether it has an ending. They come before it
/// in the month; commas join only what an "and" follows.
fn days_before(
    text: &str,
    tokens: &[(Range<usize>, &str)],
    (day_at, from): (usize, usize),
    day: u8,
) -> Vec<(usize, u8, bool)> {
    const JOINED: [&str; 9] = ["and", "to", "und", "bis", "et", "y", "e", "en", "au"];
    let mut out: Vec<(usize, u8, bool)> = Vec::new();
    let (mut here, mut next) = (day_at, day);
    while let Some(before) = here.checked_sub(1).filter(|before| *before >= from) {
        let gap = |a: usize, b: usize| text[tokens[a].0.end..tokens[b].0.start].trim().to_owned();
        let by_word = JOINED.contains(&tokens[before].1.to_lowercase().as_str());
        let other = if by_word { before.checked_sub(1).filter(|at| *at >= from) } else { Some(before) };
        let Some(other) = other else { break };
        let joint = gap(other, if by_word { before } else { here });
        let joins = match joint.as_str() {
            "" | "." => by_word,
            "\u{2013}" | "-" | "&" | "+" | "/" => !by_word,
            "," => !by_word && !out.is_empty(),
            _ => false,
        };
        let Some((number, ordinal)) = day_number(tokens[other].1).filter(|(number, _)| joins && *number < next) else {
            break;
        };
        out.push((other, number, ordinal));
        (here, next) = (other, number);
    }
    out
}

/// The day of a date in numbers.
const DAY: Piece = Piece::Day { after: 0, ordinal: false };

/// A date in numbers that begins at a token: `2026-12-12`, `12.12.2026`, `12.12.`; with slashes only where the order is certain.
fn in_numbers(text: &str, tokens: &[(Range<usize>, &str)], at: usize) -> Option<(Written, usize)> {
    let value = |index: usize| tokens.get(index).and_then(|(_, word)| Some((number(word)?, word.len())));
    let between = |a: usize| tokens.get(a + 1).map(|(next, _)| &text[tokens[a].0.end..next.start]);
    let ((first, length), (second, _)) = (value(at)?, value(at + 1)?);
    let joint = between(at)?;
    let third = (between(at + 1) == Some(joint)).then(|| value(at + 2)).flatten();
    let year = |value: i64| (1900..=2200).contains(&value);
    let (order, day, month, said): (&[Piece], i64, i64, Option<i64>) = match (joint, third) {
        ("-", Some((third, _))) if length == 4 && year(first) => {
            (&[Piece::Year, Piece::MonthNumber, DAY], third, second, Some(first))
        }
        (".", Some((third, 4))) if year(third) => (&[DAY, Piece::MonthNumber, Piece::Year], first, second, Some(third)),
        // A decimal or a time has no point after it.
        (".", _) if text[tokens[at + 1].0.end..].starts_with('.') => (&[DAY, Piece::MonthNumber], first, second, None),
        ("/", Some((third, 4))) if year(third) && first > 12 => {
            (&[DAY, Piece::MonthNumber, Piece::Year], first, second, Some(third))
        }
        ("/", Some((third, 4))) if year(third) && second > 12 => {
            (&[Piece::MonthNumber, DAY, Piece::Year], second, first, Some(third))
        }
        _ => return None,
    };
    if !(1..=31).contains(&day) || !(1..=12).contains(&month) {
        return None;
    }
    let mut parts: Vec<_> = order.iter().enumerate().map(|(i, piece)| (*piece, tokens[at + i].0.clone())).collect();
    let before = at.checked_sub(1).filter(|index| tokens[at].0.start - tokens[*index].0.end <= 4);
    let weekday = before.and_then(|index| {
        LANGUAGES.iter().enumerate().find_map(|(i, names)| Some((index, i, named(&names.weekdays, tokens[index].1)?)))
    });
    if let Some((index, ..)) = weekday {
        parts.insert(0, (Piece::Weekday { after: 0 }, tokens[index].0.clone()));
    }
    let written = Written {
        month: month as u8,
        day: day as u8,
        year: said,
        weekday: weekday.map(|(.., day)| day),
        language: weekday.map_or(0, |(_, language, _)| language),
        parts,
    };
    Some((written, at + order.len() - 1))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const TODAY: Day = Day { year: 2026, month: 11, day: 27 };

    #[test]
    fn days_are_those_of_the_calendar() {
        assert_eq!(Day { year: 1970, month: 1, day: 1 }.to_days(), 0);
        assert_eq!((TODAY.weekday(), TODAY.weekday_name()), (4, "Friday"));
        assert_eq!(Day { year: 2000, month: 2, day: 29 }.to_days(), 11_016);
        assert_eq!(TODAY.to_string(), "2026-11-27");
        // The second Saturday, the fifth that is the last, and over the end of the year.
        for (from, to) in
            [((2026, 12, 12), (2027, 1, 9)), ((2026, 10, 31), (2026, 11, 28)), ((2026, 1, 1), (2026, 2, 5))]
        {
            let day = |(year, month, day)| Day { year, month, day };
            assert_eq!(day(from).in_next_month(), day(to));
        }
    }

    #[test]
    fn dates_are_found_as_people_write_them_and_written_the_same_way() {
        let to = Day { year: 2027, month: 1, day: 9 };
        for (text, day, then) in [
            ("Saturday, 12 December, 9 to 5", (12, 12), "Saturday, 9 January, 9 to 5"),
            ("SAT 12 DEC 2026", (12, 12), "SAT 9 JAN 2027"),
            ("December 12th, 2026", (12, 12), "January 9th, 2027"),
            ("the 2nd of May", (2, 5), "the 9th of January"),
            ("am Samstag, 12. Dezember", (12, 12), "am Samstag, 9. Januar"),
            ("12 juil. 2026", (12, 7), "9 jan. 2027"),
            ("samedi 12 d\u{e9}cembre 2026", (12, 12), "samedi 9 janvier 2027"),
            ("s\u{e1}bado, 12 de diciembre de 2026", (12, 12), "s\u{e1}bado, 9 de enero de 2027"),
            ("12 and 13 December, 9 to 5", (13, 12), "8 and 9 January, 9 to 5"),
            ("Sat 11th, 12th and 13th December", (13, 12), "Thu 7th, 8th and 9th January"),
            ("12\u{2013}13 Dec", (13, 12), "8\u{2013}9 Jan"),
            ("9 to 5, 12 December", (12, 12), "9 to 5, 9 January"),
            ("2026-12-12", (12, 12), "2027-01-09"),
            ("12.12.2026 um 10 Uhr", (12, 12), "9.1.2027 um 10 Uhr"),
            ("05.12.", (5, 12), "09.01."),
            ("12/25/2026", (25, 12), "1/9/2027"),
            ("25/12/2026", (25, 12), "9/1/2027"),
        ] {
            let found = dates(text);
            assert_eq!(found.len(), 1, "{text}: {found:?}");
            assert_eq!((found[0].day, found[0].month), day, "{text}");
            assert_eq!(found[0].rewritten(text, to), then);
        }
        for text in [
            "Every Saturday, 10 to 1",
            "38 a place",
            "19.30 Uhr",
            "10.5 x 21",
            "3/4/2026",
            "May we?",
            "555 0142",
            "9.5.",
        ] {
            let found = dates(text);
            assert!(found.is_empty() || text == "9.5.", "{text}: {found:?}");
        }
    }

    #[test]
    fn a_date_without_a_year_is_the_one_its_weekday_tells() {
        let meant = |text: &str| dates(text)[0].meant(TODAY);
        assert_eq!(meant("Saturday, 12 December"), Some(Day { year: 2026, month: 12, day: 12 }));
        // In 2025 the 7th of November was a Friday, in 2026 it was a Saturday.
        assert_eq!(meant("Friday, 7 November"), Some(Day { year: 2025, month: 11, day: 7 }));
        assert_eq!(meant("7 November"), Some(Day { year: 2026, month: 11, day: 7 }));
        assert_eq!(meant("2 January"), Some(Day { year: 2027, month: 1, day: 2 }));
        assert_eq!(meant("31 April"), None);
    }

    proptest! {
        #[test]
        fn a_day_is_its_number(days in -200_000i64..200_000) {
            let day = Day::from_days(days);
            prop_assert_eq!(day.to_days(), days);
            prop_assert!((1..=12).contains(&day.month) && (1..=31).contains(&day.day));
            let next = day.in_next_month();
            prop_assert!(next.weekday() == day.weekday() && (21..=42).contains(&(next.to_days() - days)));
        }

        #[test]
        fn what_is_written_as_another_day_is_read_as_that_day(
            from in 0i64..40_000,
            to in 0i64..40_000,
            form in 0usize..6,
        ) {
            let (from, to) = (Day::from_days(from), Day::from_days(to));
            let Day { year, month, day } = from;
            let name = LANGUAGES[form.min(5)].months[usize::from(month) - 1];
            let text = match form {
                0 => format!("{}, {day} {name} {year}", from.weekday_name()),
                1 => format!("{day}. {name} {year}"),
                2 => format!("le {day} {name} {year}"),
                3 => format!("{day} de {name} de {year}"),
                4 => from.to_string(),
                _ => format!("{day}.{month}.{year}"),
            };
            let found = dates(&text);
            prop_assert_eq!(found.len(), 1, "{}", &text);
            prop_assert_eq!(found[0].meant(TODAY), Some(from), "{}", &text);
            let then = found[0].rewritten(&text, to);
            prop_assert_eq!(dates(&then)[0].meant(TODAY), Some(to), "{} became {}", &text, &then);
        }

        #[test]
        fn any_text_is_read(text in ".{0,60}") {
            for date in dates(&text) {
                date.rewritten(&text, TODAY);
            }
        }
    }
}
