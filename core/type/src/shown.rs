//! Text as it is shown, and the way back to the text as typed.

use std::ops::Range;

use vatman_document::{RichText, RunStyle, TypeLook};

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
        shown
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
    fn capitals_keep_the_way_back() {
        let shown = Shown::new(&RichText::plain("straße 🏺x"), &TypeLook { caps: true, ..TypeLook::default() });
        assert_eq!(shown.text, "STRASSE 🏺X");
        let back: Vec<_> = shown.stops.iter().map(|stop| stop.1).collect();
        assert_eq!(back, [0, 1, 2, 3, 4, 5, 6, 7, 9, 10]);
    }
}
