//! Names of files people receive.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;

use crate::check::Day;

/// What a file holds, as its name tells.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct FileParts {
    /// Title of the job.
    pub job: String,
    /// Name of the piece, and of the side where there are several.
    pub piece: String,
    /// Its size.
    pub size: String,
    /// Ending of the name.
    pub extension: &'static str,
}

/// How files are named: words of one's own with fields in brackets, `[job]_[piece]_[size]`.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(transparent)]
pub struct NamePattern(String);

/// A pattern that names nothing.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum PatternError {
    /// No such field.
    #[error("There is no field [{0}]. Fields are [job], [piece], [size], [date] and [number].")]
    Field(String),
    /// A bracket that is not closed.
    #[error("A bracket is not closed. Fields are written like [piece].")]
    Open,
    /// All files would have one name.
    #[error("Put [piece] or [number] into it, so that each file has a name of its own.")]
    Same,
    /// Too long.
    #[error("That is longer than a name can be. Use at most 120 letters.")]
    Long,
}

/// What a pattern is made of.
enum Part<'p> {
    Words(&'p str),
    Field(&'p str),
}

impl Default for NamePattern {
    fn default() -> Self {
        Self("[job]_[piece]_[size]".into())
    }
}

impl NamePattern {
    const FIELDS: [&str; 5] = ["job", "piece", "size", "date", "number"];
    const LONGEST: usize = 120;

    /// Reads a pattern.
    ///
    /// # Errors
    /// [`PatternError`] with a sentence that can be shown.
    pub fn read(text: &str) -> Result<Self, PatternError> {
        if text.chars().count() > Self::LONGEST {
            return Err(PatternError::Long);
        }
        let mut tells_apart = false;
        for part in parts(text)? {
            if let Part::Field(field) = part {
                if !Self::FIELDS.contains(&field) {
                    return Err(PatternError::Field(field.to_owned()));
                }
                tells_apart |= matches!(field, "piece" | "number");
            }
        }
        if tells_apart { Ok(Self(text.trim().to_owned())) } else { Err(PatternError::Same) }
    }

    /// The pattern as it was written.
    #[must_use]
    pub fn text(&self) -> &str {
        &self.0
    }

    /// The name of the `number`th file, counted from one: plain letters, digits and what joins them.
    #[must_use]
    pub fn name(&self, of: &FileParts, day: Day, number: usize) -> String {
        let mut out = String::new();
        for part in parts(&self.0).unwrap_or_default() {
            match part {
                Part::Words(words) => out.push_str(&plain(words)),
                Part::Field("job") => out.push_str(&slug(&of.job)),
                Part::Field("piece") => out.push_str(&slug(&of.piece)),
                Part::Field("size") => out.push_str(&plain_size(&of.size)),
                Part::Field("date") => out.push_str(&day.to_string()),
                Part::Field(_) => out.push_str(&format!("{number:02}")),
            }
        }
        // A field with nothing in it leaves no joint behind.
        for joint in ["-", "_"] {
            while out.contains(&joint.repeat(2)) {
                out = out.replace(&joint.repeat(2), joint);
            }
        }
        let out = out.trim_matches(['_', '-', '.', ' ']);
        format!("{}.{}", if out.is_empty() { "design" } else { out }, of.extension)
    }
}

fn parts(text: &str) -> Result<Vec<Part<'_>>, PatternError> {
    let mut out = Vec::new();
    let mut rest = text.trim();
    while let Some((before, after)) = rest.split_once('[') {
        let (field, after) = after.split_once(']').ok_or(PatternError::Open)?;
        out.extend((!before.is_empty()).then_some(Part::Words(before)));
        out.push(Part::Field(field));
        rest = after;
    }
    out.extend((!rest.is_empty()).then_some(Part::Words(rest)));
    Ok(out)
}

/// Words of a pattern in letters any system takes, with their joints.
fn plain(words: &str) -> String {
    let joint = |c: char| matches!(c, '_' | '-' | '.');
    let letters = deunicode::deunicode(words);
    letters.chars().map(|c| if c.is_ascii_alphanumeric() || joint(c) { c } else { '-' }).collect()
}

fn plain_size(size: &str) -> String {
    size.replace('\u{d7}', "x").chars().filter(|c| c.is_ascii_alphanumeric() || *c == '.').collect()
}

/// A name for a file from its parts: `saturday-wheel-class_a5-flyer_148x210mm.pdf`.
#[must_use]
pub fn file_name(job: &str, piece: &str, size: &str, extension: &'static str) -> String {
    let parts = FileParts { job: job.into(), piece: piece.into(), size: size.into(), extension };
    NamePattern::default().name(&parts, Day::from_days(0), 1)
}

/// Lower-case letters and digits joined by hyphens, at most 60; other scripts are written in Latin letters, the rest is left out.
#[must_use]
pub fn slug(text: &str) -> String {
    let mut out = String::new();
    // An apostrophe joins what stands around it.
    for letter in deunicode::deunicode(text).chars().filter(|c| *c != '\'') {
        match letter {
            c if c.is_ascii_alphanumeric() => out.push(c.to_ascii_lowercase()),
            _ if out.ends_with('-') || out.is_empty() => {}
            _ => out.push('-'),
        }
    }
    let cut: String = out.chars().take(60).collect();
    cut.trim_matches('-').to_owned()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_follow_a_pattern() {
        let day = Day { year: 2026, month: 3, day: 5 };
        let of = FileParts {
            job: "Winter market".into(),
            piece: "Board picture".into(),
            size: "1000 \u{d7} 1500 px".into(),
            extension: "png",
        };
        let name = |pattern: &str| NamePattern::read(pattern).map(|pattern| pattern.name(&of, day, 7));
        assert_eq!(name("[date] [piece]").as_deref(), Ok("2026-03-05-board-picture.png"));
        assert_eq!(name("Spring/[number]_[size]").as_deref(), Ok("Spring-07_1000x1500px.png"));
        assert_eq!(name("[piece]_[job]").as_deref(), Ok("board-picture_winter-market.png"));
        assert_eq!(name("[job]"), Err(PatternError::Same));
        assert_eq!(name("[piece"), Err(PatternError::Open));
        assert_eq!(name("[piece][colour]"), Err(PatternError::Field("colour".into())));
        assert_eq!(name(&"[piece]".repeat(20)), Err(PatternError::Long));
        let nameless = FileParts { job: String::new(), ..of.clone() };
        assert_eq!(NamePattern::default().name(&nameless, day, 1), "board-picture_1000x1500px.png");
    }

    proptest::proptest! {
        #[test]
        fn a_name_never_leaves_its_folder(pattern in ".{0,30}\\[piece\\].{0,10}", piece in ".{0,30}") {
            if let Ok(pattern) = NamePattern::read(&pattern) {
                let of = FileParts { job: "x".into(), piece, size: "1 px".into(), extension: "png" };
                let name = pattern.name(&of, Day::from_days(20_000), 1);
                proptest::prop_assert!(name.ends_with(".png") && !name.contains(['/', '\\', ':']) && !name.starts_with('.'));
                proptest::prop_assert!(name.is_ascii());
            }
        }
    }

    #[test]
    fn names_are_plain_and_tell_what_is_inside() {
        assert_eq!(
            file_name("Ines’ Töpfer-Kurs!", "A5 flyer", "148 × 210 mm", "pdf"),
            "ines-topfer-kurs_a5-flyer_148x210mm.pdf"
        );
        assert_eq!(file_name("../../etc", "", "3.5 × 2 in", "png"), "etc_3.5x2in.png");
        assert_eq!(file_name("陶器", "", "", "png"), "tao-qi.png");
        assert_eq!(file_name("?!", "", "", "png"), "design.png");
    }
}
