//! Text as it is shown, and the way back to the text as typed.

use std::ops::Range;

use vatman_document::{RichText, RunStyle, TypeLook};

use crate::hyphens::{SOFT, divisions};

/// Letters to be set, each knowing where in the typed text it comes from.
pub(crate) struct Shown {
    /// What is set.
    pub text: String,
    /// Byte ranges of `text` and their styles.
    pub runs: Vec<(Range<usize>, RunStyle)>,
    /// For every character boundary of `text`, in order: its byte offset, and the offset in the typed text in UTF-16 units.
    pub stops: Vec<(usize, usize)>,
    /// Byte ranges of the paragraphs, without their line feeds.
    pub paragraphs: Vec<Range<usize>>,
}

impl Shown {
    /// On a curve everything is one line, so line feeds are shown as spaces.
    pub fn new(text: &RichText, look: &TypeLook) -> Self {
        let mut shown = Self { text: String::new(), runs: Vec::new(), stops: Vec::new(), paragraphs: Vec::new() };
        let (mut typed, mut paragraph) = (0, 0);
        for run in text.runs() {
            let start = shown.text.len();
            let caps = run.style.caps.unwrap_or(look.caps);
            for letter in run.text.chars() {
                shown.stops.push((shown.text.len(), typed));
                match letter {
                    '\n' if look.curve.is_some() => shown.text.push(' '),
                    '\n' => {
                        shown.paragraphs.push(paragraph..shown.text.len());
                        shown.text.push('\n');
                        paragraph = shown.text.len();
                    }
                    _ if caps => shown.text.extend(letter.to_uppercase()),
                    _ => shown.text.push(letter),
                }
                typed += letter.len_utf16();
            }
            shown.runs.push((start..shown.text.len(), run.style.clone()));
        }
        shown.stops.push((shown.text.len(), typed));
        shown.paragraphs.push(paragraph..shown.text.len());
        match look.hyphens {
            Some(language) if look.curve.is_none() && look.lock_up.is_none() => {
                let at = divisions(&shown.text, language);
                shown.divided(&at)
            }
            _ => shown,
        }
    }

    /// The same with soft hyphens where words may be divided; each belongs to the letters before it.
    fn divided(self, at: &[usize]) -> Self {
        let moved = |byte: usize| byte + SOFT.len_utf8() * at.partition_point(|place| *place <= byte);
        let mut text = String::with_capacity(moved(self.text.len()));
        let mut from = 0;
        for place in at {
            text.push_str(&self.text[from..*place]);
            text.push(SOFT);
            from = *place;
        }
        text.push_str(&self.text[from..]);
        let range = |range: &Range<usize>| moved(range.start)..moved(range.end);
        Self {
            runs: self.runs.iter().map(|(bytes, style)| (range(bytes), style.clone())).collect(),
            stops: self.stops.iter().map(|(byte, typed)| (moved(*byte), *typed)).collect(),
            paragraphs: self.paragraphs.iter().map(range).collect(),
            text,
        }
    }

    /// Byte ranges of the soft hyphens.
    pub fn soft(&self) -> impl Iterator<Item = Range<usize>> {
        self.text.match_indices(SOFT).map(|(at, _)| at..at + SOFT.len_utf8())
    }

    /// The paragraph a byte offset lies in.
    pub fn paragraph_at(&self, byte: usize) -> usize {
        self.paragraphs.partition_point(|paragraph| paragraph.end < byte)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn divided_words_keep_the_way_back() {
        let shown = Shown::new(
            &RichText::plain("Quite extensive\nranges"),
            &TypeLook { hyphens: Some(vatman_document::Hyphens::English), ..TypeLook::default() },
        );
        assert_eq!(shown.text.replace(SOFT, "-"), "Quite ex-ten-sive\nranges");
        assert_eq!(shown.stops.iter().map(|stop| stop.1).collect::<Vec<_>>(), (0..=22).collect::<Vec<_>>());
        let letter = |stop: usize| shown.text[shown.stops[stop].0..].chars().next();
        assert_eq!((letter(6), letter(8), letter(11), letter(16)), (Some('e'), Some('t'), Some('s'), Some('r')));
        assert_eq!(shown.paragraphs.len(), 2);
        assert_eq!(&shown.text[shown.paragraphs[1].clone()], "ranges");
    }

    #[test]
    fn capitals_keep_the_way_back() {
        let shown = Shown::new(&RichText::plain("straße 🏺x"), &TypeLook { caps: true, ..TypeLook::default() });
        assert_eq!(shown.text, "STRASSE 🏺X");
        let back: Vec<_> = shown.stops.iter().map(|stop| stop.1).collect();
        assert_eq!(back, [0, 1, 2, 3, 4, 5, 6, 7, 9, 10]);
    }
}
