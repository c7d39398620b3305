//! Where words may be divided, by the patterns of their language (F. M. Liang, "Word Hy-phen-a-tion by Com-put-er", 1983).

use hypher::{Lang, hyphenate};
use vatman_document::Hyphens;

/// A place where a word may be divided; it shows only as the hyphen at the end of a line.
pub(crate) const SOFT: char = '\u{ad}';

const fn language(of: Hyphens) -> Lang {
    match of {
        Hyphens::English => Lang::English,
        Hyphens::German => Lang::German,
        Hyphens::French => Lang::French,
        Hyphens::Spanish => Lang::Spanish,
        Hyphens::Italian => Lang::Italian,
        Hyphens::Portuguese => Lang::Portuguese,
        Hyphens::Dutch => Lang::Dutch,
        Hyphens::Polish => Lang::Polish,
        Hyphens::Swedish => Lang::Swedish,
        Hyphens::Finnish => Lang::Finnish,
        Hyphens::Hungarian => Lang::Hungarian,
        Hyphens::Turkish => Lang::Turkish,
        Hyphens::Ukrainian => Lang::Ukrainian,
    }
}

/// Byte offsets in a text before which a word may be divided. Words of fewer than five letters stay whole, and so does what holds
/// figures, an address or a handle, which nobody could type off otherwise.
pub(crate) fn divisions(text: &str, of: Hyphens) -> Vec<usize> {
    let mut out = Vec::new();
    let mut offset = 0;
    for token in text.split_inclusive(char::is_whitespace) {
        let whole = token.contains(['@', '/', '_', SOFT])
            || token.chars().any(|c| c.is_ascii_digit())
            || token.trim_end().trim_end_matches(['.', '!', '?', '\u{2026}']).contains('.');
        if !whole {
            let mut start = None;
            for (at, letter) in token.char_indices().chain([(token.len(), ' ')]) {
                match (start, letter.is_alphabetic()) {
                    (None, true) => start = Some(at),
                    (Some(from), false) => {
                        divide(&token[from..at], offset + from, of, &mut out);
                        start = None;
                    }
                    _ => {}
                }
            }
        }
        offset += token.len();
    }
    out
}

fn divide(word: &str, offset: usize, of: Hyphens, out: &mut Vec<usize>) {
    if word.chars().count() < 5 {
        return;
    }
    // The patterns are written in small letters; a word whose small form has another length is left whole.
    let small = word.to_lowercase();
    if small.len() != word.len() {
        return;
    }
    let mut at = 0;
    let syllables: Vec<&str> = hyphenate(&small, language(of)).collect();
    for syllable in &syllables[..syllables.len().saturating_sub(1)] {
        at += syllable.len();
        out.push(offset + at);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn divided(text: &str, of: Hyphens) -> String {
        let mut out = text.to_owned();
        for at in divisions(text, of).into_iter().rev() {
            out.insert(at, '-');
        }
        out
    }

    #[test]
    fn words_divide_by_their_language() {
        assert_eq!(divided("extensive", Hyphens::English), "ex-ten-sive");
        assert_eq!(divided("Gartenhaus", Hyphens::German), "Gar-ten-haus");
        assert_ne!(divided("photographie", Hyphens::French), divided("photographie", Hyphens::English));
    }

    #[test]
    fn short_words_figures_and_addresses_stay_whole() {
        let text = "open 10:30 to-day at mira@mossbackkiln.example and www.mossbackkiln.example/workshops";
        assert_eq!(divided(text, Hyphens::English), text);
        assert_eq!(divided("extensive! (extensive)", Hyphens::English), "ex-ten-sive! (ex-ten-sive)");
    }
}
