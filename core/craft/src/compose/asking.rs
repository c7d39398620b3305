//! What is asked before composing: the parts of a message that a kind of place needs.

use serde::Serialize;
use ts_rs::TS;
use vatman_document::Part;

/// A part of the message that is asked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, TS)]
pub struct Ask {
    /// Which part.
    pub part: Part,
    /// The question, in plain words.
    pub label: &'static str,
    /// An answer for example.
    pub hint: &'static str,
}

const fn ask(part: Part, label: &'static str, hint: &'static str) -> Ask {
    Ask { part, label, hint }
}

/// Everything that can be asked for, in the order it is asked.
const ALL: [Ask; 7] = [
    ask(Part::Headline, "What matters most", "Hands in clay by ten."),
    ask(Part::Support, "A second line", "A first morning at the wheel"),
    ask(Part::When, "When", "Saturday, 10 to 1"),
    ask(Part::Where, "Where", "Mossback Kiln, Harrowmere"),
    ask(Part::Price, "Price", "38 a place"),
    ask(Part::Action, "What to do next", "Book a wheel"),
    ask(Part::Contact, "How to reach you", "mossback.example"),
];

const MARK: [Ask; 2] =
    [ask(Part::Headline, "Name", "Mossback Kiln"), ask(Part::Support, "A line under it", "Thrown and glazed by hand")];
const CARD: [Ask; 4] = [
    ask(Part::Headline, "Name", "Mossback Kiln"),
    ask(Part::Support, "What you do", "Thrown and glazed by hand"),
    ask(Part::Where, "Where", "Harrowmere"),
    ask(Part::Contact, "How to reach you", "mossback.example"),
];
const AD: [Ask; 3] = [
    ask(Part::Headline, "The offer", "Mugs, thrown by hand"),
    ask(Part::Price, "Price", "32 each"),
    ask(Part::Action, "What to do next", "See the shelf"),
];
const COVER: [Ask; 2] =
    [ask(Part::Headline, "What it is about", "Centering clay"), ask(Part::Support, "A second line", "in five minutes")];

/// What is asked for a place of a group.
pub(crate) fn asks(id: &str, group: &str) -> Vec<Ask> {
    match (id, group) {
        ("card" | "hang-tag", _) => CARD.to_vec(),
        (_, "As a mark" | "On cloth and things") => MARK.to_vec(),
        (_, "As an ad") => AD.to_vec(),
        (_, "On a video page") => COVER.to_vec(),
        _ => ALL.to_vec(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_place_is_asked_for_what_matters_first_and_nothing_twice() {
        for (id, group) in [
            ("card", "On paper"),
            ("mark", "As a mark"),
            ("half-page-ad", "As an ad"),
            ("x", "Own size"),
            ("video-thumbnail", "On a video page"),
        ] {
            let found = asks(id, group);
            assert_eq!(found[0].part, Part::Headline);
            assert!(found.iter().enumerate().all(|(at, one)| found[..at].iter().all(|other| other.part != one.part)));
        }
        assert_eq!(asks("mark", "As a mark").len(), 2);
        assert!(asks("card", "On paper").iter().all(|ask| ask.part != Part::When));
        assert_eq!(asks("flyer-a5", "On paper").len(), ALL.len());
    }
}
