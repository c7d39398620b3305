//! Text as it is shown, and the way back to the text as typed.

use vatman_document::{RichText, RunStyle};

/// Letters to be set, each knowing where in the typed text it comes from.
pub(crate) struct Shown {
    /// What is set.
    pub text: String,
    /// Byte ranges of `text` and their styles.
    pub runs: Vec<(std::ops::Range<usize>, RunStyle)>,
    /// For every character boundary of `text`, in order: its byte offset, and the offset in the typed text in UTF-16 units.
    pub stops: Vec<(usize, usize)>,
}

impl Shown {
    pub fn new(text: &RichText, caps: bool) -> Self {
        let mut shown = Self { text: String::new(), runs: Vec::new(), stops: Vec::new() };
        let mut typed = 0;
        for run in text.runs() {
            let start = shown.text.len();
            for letter in run.text.chars() {
                shown.stops.push((shown.text.len(), typed));
                if caps { shown.text.extend(letter.to_uppercase()) } else { shown.text.push(letter) }
                typed += letter.len_utf16();
            }
            shown.runs.push((start..shown.text.len(), run.style.clone()));
        }
        shown.stops.push((shown.text.len(), typed));
        shown
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn capitals_keep_the_way_back() {
        let shown = Shown::new(&RichText::plain("straße 🏺x"), true);
        assert_eq!(shown.text, "STRASSE 🏺X");
        let back: Vec<_> = shown.stops.iter().map(|stop| stop.1).collect();
        assert_eq!(back, [0, 1, 2, 3, 4, 5, 6, 7, 9, 10]);
    }
}
