//! Text as typed, with ranges that differ from the style of the whole.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::Ratio;

use crate::Tint;

/// Height of a range of text relative to its line.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Script {
    /// Raised and smaller.
    Superscript,
    /// Lowered and smaller.
    Subscript,
}

/// What a range of text has different from the whole.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields, rename_all = "camelCase")]
#[ts(optional_fields)]
pub struct RunStyle {
    /// Family.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub family: Option<String>,
    /// Weight, 1 to 1,000.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub weight: Option<u16>,
    /// Italic.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub italic: Option<bool>,
    /// Size as a ratio of the size of the whole.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub size: Option<Ratio>,
    /// Colour.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub tint: Option<Tint>,
    /// Underline.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub underline: Option<bool>,
    /// Struck through.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub strike: Option<bool>,
    /// Extra distance between letters as a ratio of the size.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub tracking: Option<Ratio>,
    /// Shown in capitals.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub caps: Option<bool>,
    /// Raised or lowered.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub script: Option<Script>,
}

impl RunStyle {
    /// This style with what another says instead; what the other leaves open stays.
    #[must_use]
    pub fn changed(&self, by: &StyleChange) -> Self {
        let keep = |change: &Option<bool>, own: Option<bool>| change.map_or(own, Some);
        let base = if by.clear { Self::default() } else { self.clone() };
        let more = &by.set;
        Self {
            family: more.family.clone().or(base.family),
            weight: more.weight.or(base.weight),
            italic: keep(&more.italic, base.italic),
            size: more.size.or(base.size),
            tint: more.tint.clone().or(base.tint),
            underline: keep(&more.underline, base.underline),
            strike: keep(&more.strike, base.strike),
            tracking: more.tracking.or(base.tracking),
            caps: keep(&more.caps, base.caps),
            script: if by.level { None } else { more.script.or(base.script) },
        }
    }
}

/// A change of style of a range of text.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields)]
pub struct StyleChange {
    /// What is set; the rest stays.
    pub set: RunStyle,
    /// First takes away everything the range has different from the whole.
    pub clear: bool,
    /// Puts the range back on the line.
    pub level: bool,
}

/// A stretch of text in one style.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Run {
    /// The letters; a line feed ends a paragraph.
    pub text: String,
    /// What differs from the whole.
    #[serde(default)]
    pub style: RunStyle,
}

/// Text as runs in reading order. No run is empty and no two neighbours share a style.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(from = "Vec<Run>", into = "Vec<Run>")]
#[ts(type = "Array<Run>")]
pub struct RichText {
    runs: Vec<Run>,
}

/// Whether a character can be written in XML 1.0 (section 2.2), and so in every file that leaves. Others are left out on entry.
pub(crate) fn is_written(c: char) -> bool {
    matches!(c, '\t' | '\n' | '\r' | '\u{20}'..='\u{d7ff}' | '\u{e000}'..='\u{fffd}' | '\u{10000}'..)
}

/// Letters as they are kept: line ends of other systems as line feeds, nothing that cannot be written.
fn kept(text: &str) -> String {
    text.replace("\r\n", "\n").replace('\r', "\n").chars().filter(|c| is_written(*c)).collect()
}

impl From<Vec<Run>> for RichText {
    fn from(runs: Vec<Run>) -> Self {
        let mut out = Self::default();
        for run in runs {
            let clean = run.text.chars().all(|c| is_written(c) && c != '\r');
            out.push(if clean { run } else { Run { text: kept(&run.text), ..run } });
        }
        out
    }
}

impl From<RichText> for Vec<Run> {
    fn from(text: RichText) -> Self {
        text.runs
    }
}

impl RichText {
    /// Text without ranges of its own; line ends of other systems become line feeds.
    #[must_use]
    pub fn plain(text: &str) -> Self {
        vec![Run { text: kept(text), style: RunStyle::default() }].into()
    }

    fn push(&mut self, run: Run) {
        if run.text.is_empty() {
            return;
        }
        match self.runs.last_mut() {
            Some(last) if last.style == run.style => last.text.push_str(&run.text),
            _ => self.runs.push(run),
        }
    }

    /// The runs in order.
    #[must_use]
    pub fn runs(&self) -> &[Run] {
        &self.runs
    }

    /// The letters alone.
    #[must_use]
    pub fn text(&self) -> String {
        self.runs.iter().map(|run| run.text.as_str()).collect()
    }

    /// Whether there is nothing but white space.
    #[must_use]
    pub fn is_blank(&self) -> bool {
        self.runs.iter().all(|run| run.text.trim().is_empty())
    }

    /// The same styles around new letters: what both texts begin and end with keeps its style, and what
    /// is typed between takes the style of the letter before it.
    #[must_use]
    pub fn with_text(&self, new: &str) -> Self {
        let new = kept(new);
        let old = self.text();
        let head: usize = old.chars().zip(new.chars()).take_while(|(a, b)| a == b).map(|(a, _)| a.len_utf8()).sum();
        let tail: usize = old[head..]
            .chars()
            .rev()
            .zip(new[head..].chars().rev())
            .take_while(|(a, b)| a == b)
            .map(|(a, _)| a.len_utf8())
            .sum();
        let typed = Run { text: new[head..new.len() - tail].to_owned(), style: self.style_before(head) };
        let mut out = Self::default();
        for run in self.slice(0, head) {
            out.push(run);
        }
        out.push(typed);
        for run in self.slice(old.len() - tail, old.len()) {
            out.push(run);
        }
        out
    }

    /// A change of style of the letters from one offset to another, in UTF-16 units; offsets beyond the end mean the end.
    #[must_use]
    pub fn styled(&self, from: usize, to: usize, change: &StyleChange) -> Self {
        let text = self.text();
        let byte = |at: usize| {
            let mut units = 0;
            text.char_indices()
                .find(|(_, c)| {
                    let here = units >= at;
                    units += c.len_utf16();
                    here
                })
                .map_or(text.len(), |(i, _)| i)
        };
        let (from, to) = (byte(from.min(to)), byte(from.max(to)));
        let mut out = Self::default();
        for run in self.slice(0, from) {
            out.push(run);
        }
        for run in self.slice(from, to) {
            out.push(Run { style: run.style.changed(change), ..run });
        }
        for run in self.slice(to, text.len()) {
            out.push(run);
        }
        out
    }

    /// What the letter after an offset, in UTF-16 units, has different from the whole; beyond the end, what the last letter has.
    #[must_use]
    pub fn style_at(&self, offset: usize) -> RunStyle {
        let mut end = 0;
        for run in &self.runs {
            end += run.text.encode_utf16().count();
            if end > offset {
                return run.style.clone();
            }
        }
        self.runs.last().map(|run| run.style.clone()).unwrap_or_default()
    }

    fn style_before(&self, offset: usize) -> RunStyle {
        let mut end = 0;
        for run in &self.runs {
            end += run.text.len();
            if end >= offset.max(1) {
                return run.style.clone();
            }
        }
        RunStyle::default()
    }

    /// The text between two byte offsets on character boundaries.
    #[must_use]
    pub fn part(&self, range: std::ops::Range<usize>) -> Self {
        self.slice(range.start, range.end).into()
    }

    /// The runs between two byte offsets on character boundaries.
    fn slice(&self, from: usize, to: usize) -> Vec<Run> {
        let mut out = Vec::new();
        let mut start = 0;
        for run in &self.runs {
            let end = start + run.text.len();
            let (a, b) = (from.max(start), to.min(end));
            if a < b {
                out.push(Run { text: run.text[a - start..b - start].to_owned(), style: run.style.clone() });
            }
            start = end;
        }
        out
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn bold(text: &str) -> Run {
        Run { text: text.into(), style: RunStyle { weight: Some(700), ..RunStyle::default() } }
    }

    #[test]
    fn typing_inside_a_range_continues_it() {
        let text = RichText::from(vec![
            Run { text: "made ".into(), ..Run::default() },
            bold("slow"),
            Run { text: " daily".into(), ..Run::default() },
        ]);
        let longer = text.with_text("made slower daily");
        assert_eq!(longer.runs()[1], bold("slower"));
        assert_eq!(longer.text(), "made slower daily");
        let gone = text.with_text("made  daily");
        assert_eq!(gone.runs().len(), 1);
    }

    proptest! {
        #[test]
        fn a_style_reaches_exactly_its_range(a in "[aé🏺\\n]{0,9}", b in "[aé🏺]{0,9}", from in 0usize..24, to in 0usize..24) {
            let text = RichText::from(vec![Run { text: a, ..Run::default() }, bold(&b)]);
            let change = StyleChange { set: RunStyle { strike: Some(true), ..RunStyle::default() }, ..StyleChange::default() };
            let out = text.styled(from, to, &change);
            prop_assert_eq!(out.text(), text.text());
            let mut at = 0;
            for run in out.runs() {
                for letter in run.text.chars() {
                    let inside = at >= from.min(to) && at < from.max(to);
                    // An offset inside a letter of two units means its end.
                    let split = letter.len_utf16() == 2 && (at + 1 == from.min(to) || at + 1 == from.max(to));
                    prop_assert!(split || run.style.strike.is_some() == inside);
                    at += letter.len_utf16();
                }
            }
            let cleared = out.styled(0, 99, &StyleChange { clear: true, ..StyleChange::default() });
            prop_assert!(cleared.runs().len() <= 1);
        }

        #[test]
        fn new_letters_are_what_was_typed(a in "[abé\\n]{0,12}", b in "[abé]{0,12}", c in "[abé\\n]{0,20}") {
            let text = RichText::from(vec![Run { text: a, ..Run::default() }, bold(&b)]);
            let out = text.with_text(&c);
            prop_assert_eq!(out.text(), c);
            prop_assert!(out.runs().iter().all(|run| !run.text.is_empty()));
            prop_assert!(out.runs().windows(2).all(|pair| pair[0].style != pair[1].style));
        }
    }
}
