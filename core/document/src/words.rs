//! Text as typed, with ranges that differ from the style of the whole.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::Ratio;

use crate::Tint;

/// What a range of text has different from the whole.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields, rename_all = "camelCase")]
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

impl From<Vec<Run>> for RichText {
    fn from(runs: Vec<Run>) -> Self {
        let mut out = Self::default();
        for run in runs {
            out.push(run);
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
        vec![Run { text: text.replace("\r\n", "\n").replace('\r', "\n"), style: RunStyle::default() }].into()
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
        let new = new.replace("\r\n", "\n").replace('\r', "\n");
        let old = self.text();
        let head: usize = old.chars().zip(new.chars()).take_while(|(a, b)| a == b).map(|(a, _)| a.len_utf8()).sum();
        let tail: usize = old[head..].chars().rev().zip(new[head..].chars().rev()).take_while(|(a, b)| a == b).map(|(a, _)| a.len_utf8()).sum();
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
        let text = RichText::from(vec![Run { text: "made ".into(), ..Run::default() }, bold("slow"), Run { text: " daily".into(), ..Run::default() }]);
        let longer = text.with_text("made slower daily");
        assert_eq!(longer.runs()[1], bold("slower"));
        assert_eq!(longer.text(), "made slower daily");
        let gone = text.with_text("made  daily");
        assert_eq!(gone.runs().len(), 1);
    }

    proptest! {
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
