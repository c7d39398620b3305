//! The next of a series: what of a job's words changes from one to the next, and the job that comes of it.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{Command, CommandError, Job, JobId, KinId, Known, Part, Release, Target};

use crate::check::Day;
use crate::check::dates::dates;
use crate::look::copy_in_order;

/// From one of a series to the next.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Pace {
    /// Seven days.
    Week,
    /// Fourteen days.
    Fortnight,
    /// The same weekday of the same week of the month after.
    Month,
    /// 52 weeks: the same weekday about a year later.
    Year,
}

impl Pace {
    /// All of them, with what each is called.
    pub const ALL: [(Self, &'static str); 4] = [
        (Self::Week, "A week later"),
        (Self::Fortnight, "Two weeks later"),
        (Self::Month, "Next month, same weekday"),
        (Self::Year, "A year later"),
    ];

    /// The day after so many steps that is not before a day.
    #[must_use]
    pub fn from(self, day: Day, not_before: Day) -> Day {
        let next = |day: Day| match self {
            Self::Week => day.later(7),
            Self::Fortnight => day.later(14),
            Self::Month => day.in_next_month(),
            Self::Year => day.later(364),
        };
        let mut found = next(day);
        while found < not_before {
            found = next(found);
        }
        found
    }
}

/// Why words are asked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Asked {
    /// There is a date in them.
    Date,
    /// There is a time in them, or they say when.
    Time,
    /// There is a price in them.
    Price,
    /// Somebody said that they change.
    Marked,
}

/// Words that change from one of a series to the next.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct Changing {
    /// What shares them.
    pub kin: KinId,
    /// The part they play.
    pub part: Part,
    /// Why they are asked for.
    pub why: Asked,
    /// As they are.
    pub now: String,
    /// As they are likely to be.
    pub next: String,
}

/// What the next of a series is made from.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct NextOf {
    /// Its title as it is likely to be.
    pub title: String,
    /// The words that change, in reading order.
    pub words: Vec<Changing>,
}

/// The words of a job that change from one of a series to the next, with those that are likely. Dates move by a step until they are not
/// past; a weekday that is right stays right.
#[must_use]
pub fn next_of(job: &Job, step: Pace, today: Day) -> NextOf {
    let moved = |text: &str| {
        let mut out = text.to_owned();
        for date in dates(text).iter().rev() {
            if let Some(day) = date.meant(today) {
                out = date.rewritten(&out, step.from(day, today));
            }
        }
        out
    };
    let mut words: Vec<Changing> = Vec::new();
    for piece in &job.pieces {
        for side in &piece.sides {
            for line in copy_in_order(job, side) {
                let Some(item) = side.items.iter().find(|item| item.id == line.item) else { continue };
                let Some(kin) = job.kins.get(&item.kin) else { continue };
                let Some(text) = kin.content.words().map(|text| text.text()) else { continue };
                if words.iter().any(|one| one.kin == item.kin) || text.trim().is_empty() {
                    continue;
                }
                let Some(why) = why(kin.asked, kin.part, &text) else { continue };
                words.push(Changing { kin: item.kin.clone(), part: kin.part, why, next: moved(&text), now: text });
            }
        }
    }
    NextOf { title: moved(&job.title), words }
}

fn why(asked: bool, part: Part, text: &str) -> Option<Asked> {
    if asked {
        Some(Asked::Marked)
    } else if !dates(text).is_empty() {
        Some(Asked::Date)
    } else if part == Part::When || has_time(text) {
        Some(Asked::Time)
    } else if part == Part::Price || has_price(text) {
        Some(Asked::Price)
    } else {
        None
    }
}

fn digits(text: &str) -> impl Iterator<Item = (&str, &str)> {
    let start = |(at, c): (usize, char)| {
        (c.is_ascii_digit() && !text[..at].ends_with(|c: char| c.is_ascii_digit())).then_some(at)
    };
    text.char_indices().filter_map(start).map(|at| {
        let end = text[at..].find(|c: char| !c.is_ascii_digit()).map_or(text.len(), |length| at + length);
        (&text[at..end], &text[end..])
    })
}

/// A clock time: `10:30`, `10 am`, `19 Uhr`, `18h30`.
fn has_time(text: &str) -> bool {
    digits(text).any(|(number, rest)| {
        let hour = number.len() <= 2 && number.parse::<u8>().is_ok_and(|hour| hour <= 24);
        let low = rest.trim_start().to_lowercase();
        let minutes = rest.starts_with(':') && rest[1..].chars().take(2).filter(char::is_ascii_digit).count() == 2;
        let word = ["am", "pm", "a.m.", "p.m.", "uhr", "o\u{2019}clock", "o'clock", "h"]
            .iter()
            .any(|word| low.strip_prefix(word).is_some_and(|rest| !rest.starts_with(|c: char| c.is_alphabetic())));
        hour && (minutes || word)
    })
}

/// An amount of money: a number beside the sign or the code of a currency.
fn has_price(text: &str) -> bool {
    let sign = |c: char| matches!(c, '$' | '\u{20ac}' | '\u{a3}' | '\u{a5}' | '\u{20b4}' | '\u{20ba}' | '\u{20b9}');
    let code = |word: &str| {
        let word: String = word.chars().take_while(|c| c.is_ascii_alphabetic()).collect();
        ["EUR", "USD", "GBP", "CHF", "SEK", "PLN", "HUF"].contains(&word.as_str())
    };
    text.chars().any(sign) && text.chars().any(|c| c.is_ascii_digit())
        || digits(text).any(|(_, rest)| code(rest.trim_start_matches([' ', '\u{a0}'])))
}

/// What an exact copy of a job is called until somebody says otherwise.
#[must_use]
pub fn copy_title(title: &str) -> String {
    format!("{title}, copy")
}

/// A job that is the same but for its title and some of its words; what of the old ones was set aside is said anew.
///
/// # Errors
/// [`CommandError`] where words or title cannot be so; then nothing is made.
pub fn next_job(
    job: &Job,
    id: JobId,
    title: &str,
    words: &BTreeMap<KinId, String>,
    known: &dyn Known,
) -> Result<Job, CommandError> {
    let mut next = job.clone();
    next.id = id;
    let mut commands = vec![Command::SetTitle { title: title.to_owned() }];
    for (kin, text) in words {
        let now = job.kins.get(kin).and_then(|kin| kin.content.words()).map(|words| words.text());
        if now.as_ref().is_none_or(|now| now != text) {
            commands.push(Command::SetWords { target: Target::Shared(kin.clone()), text: text.clone() });
            // What one size says for itself was said of the old: it says what all say.
            let items = job.pieces.iter().flat_map(|piece| &piece.sides).flat_map(|side| &side.items);
            commands.extend(items.filter(|item| item.kin == *kin && item.release.content.is_some()).map(|item| {
                let release = Release { content: None, ..item.release.clone() };
                Command::SetRelease { item: item.id.clone(), release }
            }));
        }
    }
    commands.extend(job.set_aside.keys().map(|finding| Command::SetAside { finding: finding.clone(), reason: None }));
    Command::All { commands }.apply(&mut next, known)?;
    Ok(next)
}

#[cfg(test)]
mod tests {
    use super::*;

    const TODAY: Day = Day { year: 2026, month: 11, day: 27 };

    #[test]
    fn times_and_prices_are_told_from_other_numbers() {
        for text in ["10:30", "10 am to 1 pm", "19 Uhr", "18h", "at 7 o\u{2019}clock"] {
            assert!(has_time(text), "{text}");
        }
        for text in ["A5", "10 mugs", "555 0142", "24 hours a day", "3:1", "99 am"] {
            assert!(!has_time(text), "{text}");
        }
        for text in ["\u{20ac} 32", "32 EUR a place", "$5", "from \u{a3}12"] {
            assert!(has_price(text), "{text}");
        }
        for text in ["32 each", "A5", "EUROPE 1", "$", "5 EUROS"] {
            assert!(!has_price(text), "{text}");
        }
    }

    #[test]
    fn a_step_goes_on_until_it_is_not_past() {
        let day = |year, month, day| Day { year, month, day };
        assert_eq!(Pace::Week.from(day(2026, 11, 28), TODAY), day(2026, 12, 5));
        assert_eq!(Pace::Week.from(day(2026, 9, 5), TODAY), day(2026, 11, 28));
        assert_eq!(Pace::Month.from(day(2026, 12, 12), TODAY), day(2027, 1, 9));
        assert_eq!(Pace::Year.from(day(2026, 12, 12), TODAY), day(2027, 12, 11));
        for (step, _) in Pace::ALL {
            for from in 0..60 {
                let from = TODAY.later(-40).later(from);
                let to = step.from(from, TODAY);
                assert!(to >= TODAY && to > from && to.weekday() == from.weekday());
            }
        }
    }
}
