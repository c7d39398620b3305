//! Words no word list has. A word list is read when a text of its language first comes up; words people keep as their own are right in all of
//! them.

use std::collections::{BTreeMap, BTreeSet};
use std::io::Read as _;
use std::sync::{Arc, Mutex, PoisonError, RwLock};

use spellbook::Dictionary;
use vatman_document::Job;

use crate::hand_over::language_of;

/// Where the word lists come from.
pub trait WordLists: Send + Sync {
    /// A list of a language (`en`, `en-gb`, `fr`); nothing where there is none.
    fn list(&self, language: &str) -> Option<WordList>;
}

/// A list of words and the rules by which they change, as openly licensed ones are written.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WordList {
    rules: String,
    words: String,
}

impl WordList {
    /// Most bytes of a list that was not made for this program.
    const MOST: usize = 24 << 20;

    /// From an archive with `list.aff` and `list.dic`; nothing where these are not in it.
    #[must_use]
    pub fn from_archive(archive: &[u8]) -> Option<Self> {
        let text = |name| archived_text(archive, name);
        Some(Self { rules: text("list.aff")?, words: text("list.dic")? })
    }

    /// From two files, in the encoding the first of them names (`SET`); nothing where that is not known or they are too large.
    #[must_use]
    pub fn from_files(rules: &[u8], words: &[u8]) -> Option<Self> {
        if rules.len() + words.len() > Self::MOST {
            return None;
        }
        let named = rules.split(|byte| *byte == b'\n').find_map(|line| line.strip_prefix(b"SET "));
        let name = String::from_utf8_lossy(named.unwrap_or(b"ISO8859-1")).trim().to_ascii_lowercase();
        let encoding = encoding_rs::Encoding::for_label(name.replace("iso8859", "iso-8859").as_bytes())?;
        let text = |bytes: &[u8]| encoding.decode(bytes).0.into_owned();
        Some(Self { rules: text(rules), words: text(words) })
    }
}

/// A text in an archive of a list; nothing where it is not there.
#[must_use]
pub fn archived_text(archive: &[u8], name: &str) -> Option<String> {
    let mut archive = zip::ZipArchive::new(std::io::Cursor::new(archive)).ok()?;
    let mut out = String::new();
    archive.by_name(name).ok()?.read_to_string(&mut out).ok()?;
    Some(out)
}

/// Knows which words there are.
pub struct Speller {
    source: Box<dyn WordLists>,
    read: Mutex<BTreeMap<String, Option<Arc<Dictionary>>>>,
    own: RwLock<BTreeSet<String>>,
}

/// A word no list has.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Misspelt {
    /// Where it begins, in bytes.
    pub at: usize,
    pub word: String,
    /// What is likely meant.
    pub meant: Option<String>,
}

/// A text of which more than this share of the words is unknown is in another language than was thought.
const FOREIGN: f64 = 0.4;
/// A word of so many letters is still known with two of them wrong.
const LONG: usize = 7;
/// Letters of a text whose language is looked for by itself.
const TELLING: usize = 60;

impl Speller {
    /// One that reads its lists from somewhere.
    #[must_use]
    pub fn new(source: Box<dyn WordLists>) -> Self {
        Self { source, read: Mutex::new(BTreeMap::new()), own: RwLock::new(BTreeSet::new()) }
    }

    /// The words that are right because somebody said so; how they are capitalised does not matter.
    pub fn set_own(&self, words: impl IntoIterator<Item = String>) {
        let words = words.into_iter().map(|word| word.to_lowercase()).collect();
        *self.own.write().unwrap_or_else(PoisonError::into_inner) = words;
    }

    /// The lists of a language: any of them may have a word.
    fn lists(&self, language: &str) -> Vec<Arc<Dictionary>> {
        let names: &[&str] = if language == "en" { &["en", "en-gb"] } else { &[language] };
        names.iter().filter_map(|name| self.list(name)).collect()
    }

    fn list(&self, name: &str) -> Option<Arc<Dictionary>> {
        let mut read = self.read.lock().unwrap_or_else(PoisonError::into_inner);
        read.entry(name.to_owned())
            .or_insert_with(|| {
                let WordList { rules, words } = self.source.list(name)?;
                Dictionary::new(&rules, &words).ok().map(Arc::new)
            })
            .clone()
    }

    /// The words of a text no list of its language has; `usual` is the language of what stands around it.
    pub(crate) fn misspelt(&self, text: &str, usual: &str) -> Vec<Misspelt> {
        let own_language = if text.chars().count() >= TELLING { language_of(text) } else { None };
        let lists = self.lists(own_language.unwrap_or(usual));
        if lists.is_empty() {
            return Vec::new();
        }
        let own = self.own.read().unwrap_or_else(PoisonError::into_inner);
        let words: Vec<_> = words(text).collect();
        let has = |word: &str| {
            own.contains(&word.to_lowercase())
                || lists.iter().any(|list| list.check(word) || list.check(&capitalised(&word.to_lowercase())))
                || own.contains(word.trim_end_matches("'s"))
        };
        let unknown: Vec<_> = words.iter().filter(|(_, word)| !has(word)).collect();
        if unknown.len() as f64 > words.len() as f64 * FOREIGN && unknown.len() > 1 {
            return Vec::new();
        }
        let found = unknown.into_iter().filter_map(|(at, word)| {
            let meant = meant(&lists, word);
            // A name is not in any list: it is doubted only where a word is likely meant.
            let named = word.chars().next().is_some_and(char::is_uppercase);
            (!named || meant.is_some()).then(|| Misspelt { at: *at, word: word.clone(), meant })
        });
        found.collect()
    }
}

fn capitalised(word: &str) -> String {
    let mut letters = word.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}

/// The words of a text that can be misspelt, with apostrophes as the lists write them: no addresses, handles, codes or numbers.
fn words(text: &str) -> impl Iterator<Item = (usize, String)> + '_ {
    let mut at = 0;
    text.split_inclusive(char::is_whitespace).flat_map(move |piece| {
        let start = at;
        at += piece.len();
        let address = piece.contains(['@', '#', '/', '_', '\\'])
            || piece.trim_end().trim_end_matches(['.', '!', '?', ',', ':', ';', '\u{2026}']).contains('.')
            || piece.chars().any(|letter| letter.is_ascii_digit());
        let mut out = Vec::new();
        let mut from = None;
        for (here, letter) in piece.char_indices().chain([(piece.len(), ' ')]) {
            let inside = letter.is_alphabetic() || matches!(letter, '\'' | '\u{2019}') || letter == '\u{ad}';
            if inside {
                from.get_or_insert(here);
            } else if let Some(first) = from.take() {
                out.push((start + first, &piece[first..here]));
            }
        }
        if address {
            out.clear();
        }
        out.into_iter().filter_map(|(at, word)| {
            let inner = word.trim_matches(['\'', '\u{2019}']);
            let at = at + word.find(inner)?;
            let plain: String =
                inner.chars().filter(|c| *c != '\u{ad}').map(|c| if c == '\u{2019}' { '\'' } else { c }).collect();
            (plain.chars().count() > 2).then_some((at, plain))
        })
    })
}

/// The likeliest word that differs by one letter too many, too few, other or swapped.
fn meant(lists: &[Arc<Dictionary>], word: &str) -> Option<String> {
    let low = word.to_lowercase();
    let all_caps = word.chars().count() > 1 && word.chars().all(|letter| !letter.is_lowercase());
    let capital = word.chars().next().is_some_and(char::is_uppercase);
    let letters = low.chars().count();
    let mut found = Vec::new();
    for list in lists {
        list.suggest(&low, &mut found);
        list.suggest(&capitalised(&low), &mut found);
    }
    let near = found.into_iter().filter(|other| {
        let other = other.to_lowercase();
        other != low
            && other.chars().next() == low.chars().next()
            && other.chars().all(|c| c.is_alphabetic() || c == '\'')
            && (one_off(&low, &other) || !capital && letters >= LONG && edits(&low, &other) <= 2)
    });
    // A letter is left out or two are swapped more often than one is said too much.
    let near = near.min_by_key(|other| {
        let shorter = other.chars().count() < letters;
        (!one_off(&low, &other.to_lowercase()), shorter)
    })?;
    // A list may name the same word with a capital.
    let plain = near.to_lowercase();
    let near = if lists.iter().any(|list| list.check(&plain)) { plain } else { near };
    Some(if all_caps {
        near.to_uppercase()
    } else if capital {
        capitalised(&near)
    } else {
        near
    })
}

/// Whether a word becomes another by one letter more, less, other, or two beside each other swapped (Damerau, "A technique for computer
/// detection and correction of spelling errors", 1964).
fn one_off(a: &str, b: &str) -> bool {
    let (a, b): (Vec<char>, Vec<char>) = (a.chars().collect(), b.chars().collect());
    let (short, long) = if a.len() <= b.len() { (&a, &b) } else { (&b, &a) };
    let same = short.iter().zip(long.iter()).take_while(|(a, b)| a == b).count();
    match long.len() - short.len() {
        1 => short[same..] == long[same + 1..],
        0 => {
            let rest = |skip: usize| short.get(same + skip..) == long.get(same + skip..);
            let swapped = same + 1 < short.len() && short[same] == long[same + 1] && short[same + 1] == long[same];
            rest(1) || swapped && rest(2)
        }
        _ => false,
    }
}

/// How many letters have to be added, left out or changed (Levenshtein, "Binary codes capable of correcting deletions, insertions, and
/// reversals", 1966).
fn edits(a: &str, b: &str) -> usize {
    let b: Vec<char> = b.chars().collect();
    let mut row: Vec<usize> = (0..=b.len()).collect();
    for (i, x) in a.chars().enumerate() {
        let mut before = i;
        row[0] = i + 1;
        for (j, y) in b.iter().enumerate() {
            let here = if x == *y { before } else { 1 + before.min(row[j]).min(row[j + 1]) };
            before = row[j + 1];
            row[j + 1] = here;
        }
    }
    row[b.len()]
}

/// The language most of what a job says is in.
pub(crate) fn usual_language(job: &Job) -> &'static str {
    let texts = job.kins.values().filter_map(|kin| kin.content.words().map(|words| words.text()));
    let all = texts.collect::<Vec<_>>().join("\n");
    // A few words tell no language.
    if all.chars().count() < TELLING { "en" } else { language_of(&all).unwrap_or("en") }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    struct Shelf;
    impl WordLists for Shelf {
        fn list(&self, language: &str) -> Option<WordList> {
            let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../assets/words");
            WordList::from_archive(&std::fs::read(folder.join(format!("{language}.zip"))).ok()?)
        }
    }

    fn found(speller: &Speller, text: &str, usual: &str) -> Vec<(String, Option<String>)> {
        speller.misspelt(text, usual).into_iter().map(|one| (one.word, one.meant)).collect()
    }

    #[test]
    fn a_list_of_the_system_is_read_in_the_encoding_it_names() {
        let rules = b"SET ISO8859-1\nSFX S Y 1\nSFX S 0 n .\n";
        struct System(Option<WordList>);
        impl WordLists for System {
            fn list(&self, _: &str) -> Option<WordList> {
                self.0.clone()
            }
        }
        let list = WordList::from_files(rules, b"4\nT\xf6pfe/S\nKaffee\nund\nKuchen\n");
        let speller = Speller::new(Box::new(System(list)));
        let wrong = vec![("Kaffe".to_owned(), Some("Kaffee".to_owned()))];
        assert_eq!(found(&speller, "T\u{f6}pfen und Kaffe und Kuchen", "de"), wrong);
        assert!(WordList::from_files(b"SET no such thing\n", b"").is_none());
        assert!(WordList::from_files(&vec![b' '; WordList::MOST], b"1").is_none());
    }

    #[test]
    fn words_no_list_has_are_found_with_what_is_meant() {
        let speller = Speller::new(Box::new(Shelf));
        let one = |text: &str, usual: &str| found(&speller, text, usual);
        let wrong = |word: &str, meant: &str| vec![(word.to_owned(), Some(meant.to_owned()))];
        assert_eq!(one("A first mornign at the wheel", "en"), wrong("mornign", "morning"));
        assert_eq!(one("Every Saturdya, 10 to 1", "en"), wrong("Saturdya", "Saturday"));
        assert_eq!(one("For begginers and others", "en"), wrong("begginers", "beginners"));
        assert_eq!(one("TICKTES AT THE DOOR", "en"), wrong("TICKTES", "TICKETS"));
        assert_eq!(one("Todos los s\u{e1}bados en el jadr\u{ed}n", "es"), wrong("jadr\u{ed}n", "jard\u{ed}n"));
        assert_eq!(one("Tous les samedis dans le jadrin", "fr"), wrong("jadrin", "jardin"));
        for right in [
            "Colour and color, gray and grey",
            "Mossback Kiln, Harrowmere",
            "mossback.example, @mossbackkiln, A5, 2nd, 10am",
            "It\u{2019}s the potter\u{2019}s wheel",
            "HANDS IN CLAY BY TEN.",
        ] {
            assert_eq!(one(right, "en"), [], "{right}");
        }
        // Another language than was thought: nothing is said rather than everything.
        assert_eq!(one("Jeden Samstag im Garten mit Kuchen", "en"), []);
        assert_eq!(one("K\u{e4}det savessa kymmenelt\u{e4}", "fi"), [], "no list");
    }

    #[test]
    fn what_is_kept_as_ones_own_is_right() {
        let speller = Speller::new(Box::new(Shelf));
        assert_eq!(
            found(&speller, "The best raku and sgraffitto bowls here", "en").len(),
            2 - usize::from(found(&speller, "raku bowls", "en").is_empty())
        );
        speller.set_own(["Sgraffitto".to_owned(), "raku".to_owned()]);
        assert_eq!(found(&speller, "The best raku and sgraffitto bowls here", "en"), []);
    }

    #[test]
    fn every_list_that_ships_can_be_read() {
        let speller = Speller::new(Box::new(Shelf));
        for (language, word) in [
            ("en", "house"),
            ("fr", "maison"),
            ("es", "casa"),
            ("pt", "casa"),
            ("nl", "huis"),
            ("pl", "dom"),
            ("sv", "hus"),
            ("hu", "h\u{e1}z"),
            ("tr", "ev"),
        ] {
            let lists = speller.lists(language);
            assert!(!lists.is_empty() && lists.iter().all(|list| list.check(word)), "{language}");
        }
    }

    proptest! {
        #[test]
        fn one_letter_is_one_off_and_words_lie_where_they_are_said_to(word in "[a-z]{3,9}", at in 0usize..9, letter in "[a-z]", text in "[a-zA-Z' .,!]{0,60}") {
            let at = at.min(word.len());
            let mut more = word.clone();
            more.insert_str(at, &letter);
            prop_assert!(one_off(&word, &more) && one_off(&more, &word));
            more.push_str("zz");
            prop_assert!(!one_off(&word, &more));
            prop_assert_eq!((edits(&word, &more), edits(&more, &word), edits(&word, &word)), (3, 3, 0));
            for (at, word) in words(&text) {
                prop_assert!(text[at..].starts_with(&word));
            }
        }
    }
}
