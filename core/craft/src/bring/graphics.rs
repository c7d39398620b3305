//! The shelf of vector graphics, searched by everyday words.

use std::collections::BTreeMap;
use std::io::{Cursor, Read as _};

use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;

/// Why the shelf cannot be stocked.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("The graphics that ship are damaged: {0}.")]
pub struct ShelfError(String);

/// A set as packed.
#[derive(Deserialize)]
struct Packed {
    id: String,
    name: String,
    licence: String,
    root: String,
    /// By how much finding one of them by its name is worth more than usual: what is made for sheets comes before signs.
    #[serde(default)]
    ahead: u16,
    /// Shown larger in lists: fine or wide.
    #[serde(default)]
    large: bool,
    graphics: Vec<PackedGraphic>,
}

#[derive(Deserialize)]
struct PackedGraphic {
    /// Name.
    n: String,
    /// Words it is found by besides.
    k: String,
    /// What is inside the SVG element.
    b: String,
    /// The attributes of its SVG element, where it has its own.
    #[serde(default)]
    r: Option<String>,
    /// Where words fit into it: left, top, width and height as fractions of it.
    #[serde(default)]
    o: Option<[f64; 4]>,
    /// Whether it is painted there.
    #[serde(default)]
    f: bool,
}

/// Where words fit into a graphic.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Opening {
    /// Left, top, width and height as fractions of the graphic.
    pub at: [f64; 4],
    /// Whether it is painted there, so that words take another colour than it has.
    pub painted: bool,
}

/// A graphic in lists.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct GraphicCard {
    /// Identity: its set and name.
    pub id: String,
    /// Name.
    pub name: String,
    /// Set.
    pub set: String,
    /// Whether words fit into it.
    pub framing: bool,
}

/// A set in lists.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct GraphicSet {
    /// Identity.
    pub id: String,
    /// Name.
    pub name: String,
    /// Licence, by its SPDX name.
    pub licence: String,
    /// How many graphics it holds.
    pub count: usize,
    /// Whether they are shown larger in lists: fine or wide.
    pub large: bool,
}

struct Shelved {
    set: usize,
    name: String,
    body: String,
    root: Option<String>,
    opening: Option<Opening>,
}

/// All graphics, and an index of their words.
pub struct GraphicShelf {
    sets: Vec<(GraphicSet, String)>,
    graphics: Vec<Shelved>,
    by_id: BTreeMap<String, usize>,
    /// Words in alphabetical order, each with a graphic and how much finding it by this word is worth.
    words: Vec<(String, u32, u16)>,
    synonyms: BTreeMap<String, Vec<String>>,
}

/// Worth of a word in the name, and of one beside it.
const IN_NAME: u16 = 100;
const BESIDE: u16 = 40;

impl GraphicShelf {
    /// Stocks a shelf from packed sets and a table of words that mean nearly the same.
    ///
    /// # Errors
    /// [`ShelfError`] where one cannot be unpacked.
    pub fn stock(packs: &[Vec<u8>], synonyms: &[u8]) -> Result<Self, ShelfError> {
        let synonyms = serde_json::from_slice(synonyms).map_err(|error| ShelfError(error.to_string()))?;
        let mut shelf =
            Self { sets: Vec::new(), graphics: Vec::new(), by_id: BTreeMap::new(), words: Vec::new(), synonyms };
        for pack in packs {
            shelf.add(unpack(pack)?);
        }
        shelf.words.sort_unstable();
        Ok(shelf)
    }

    fn add(&mut self, pack: Packed) {
        let set = self.sets.len();
        self.sets.push((
            GraphicSet {
                id: pack.id,
                name: pack.name,
                licence: pack.licence,
                count: pack.graphics.len(),
                large: pack.large,
            },
            pack.root,
        ));
        for graphic in pack.graphics {
            let number = self.graphics.len();
            let own: Vec<&str> = graphic.n.split_whitespace().collect();
            for (place, word) in own.iter().enumerate() {
                // The first words of a name say most; long names are special cases of shorter ones.
                let worth = IN_NAME + pack.ahead - (place.min(4) * 8) as u16 - (own.len().min(6) * 4) as u16;
                self.words.push(((*word).to_lowercase(), number as u32, worth));
            }
            self.words.extend(graphic.k.split_whitespace().map(|word| (word.to_owned(), number as u32, BESIDE)));
            self.by_id.insert(format!("{}:{}", self.sets[set].0.id, graphic.n.replace(' ', "-")), number);
            let opening = graphic.o.map(|at| Opening { at, painted: graphic.f });
            self.graphics.push(Shelved { set, name: graphic.n, body: graphic.b, root: graphic.r, opening });
        }
    }

    /// The sets.
    #[must_use]
    pub fn sets(&self) -> Vec<GraphicSet> {
        self.sets.iter().map(|(set, _)| set.clone()).collect()
    }

    /// A graphic as an SVG file, and its name.
    #[must_use]
    pub fn svg(&self, id: &str) -> Option<(String, String)> {
        let graphic = &self.graphics[*self.by_id.get(id)?];
        let root = graphic.root.as_ref().unwrap_or(&self.sets[graphic.set].1);
        Some((
            format!(
                "<svg xmlns=\"http://www.w3.org/2000/svg\" xmlns:xlink=\"http://www.w3.org/1999/xlink\" {root}>{}</svg>",
                graphic.body
            ),
            graphic.name.clone(),
        ))
    }

    fn card(&self, number: usize) -> GraphicCard {
        let graphic = &self.graphics[number];
        let set = &self.sets[graphic.set].0.id;
        GraphicCard {
            id: format!("{set}:{}", graphic.name.replace(' ', "-")),
            name: graphic.name.clone(),
            set: set.clone(),
            framing: graphic.opening.is_some(),
        }
    }

    /// Where words fit into a graphic.
    #[must_use]
    pub fn opening(&self, id: &str) -> Option<Opening> {
        self.graphics[*self.by_id.get(id)?].opening
    }

    /// Graphics that have all the words, or words that begin as they do or mean nearly the same; the best first. Without words, all
    /// in order of their names.
    #[must_use]
    pub fn search(&self, query: &str, set: Option<&str>, from: usize, count: usize) -> Vec<GraphicCard> {
        let in_set = |number: &usize| set.is_none_or(|set| self.sets[self.graphics[*number].set].0.id == set);
        let wanted: Vec<String> = query
            .to_lowercase()
            .split(|c: char| !c.is_alphanumeric())
            .filter(|word| !word.is_empty())
            .map(str::to_owned)
            .collect();
        if wanted.is_empty() {
            return (0..self.graphics.len())
                .filter(in_set)
                .skip(from)
                .take(count)
                .map(|number| self.card(number))
                .collect();
        }
        let mut found: Option<BTreeMap<u32, u32>> = None;
        for word in &wanted {
            let here = self.matches(word);
            found = Some(match found {
                None => here,
                Some(before) => before
                    .into_iter()
                    .filter_map(|(number, worth)| Some((number, worth + here.get(&number)?)))
                    .collect(),
            });
        }
        let mut all: Vec<(u32, u32)> =
            found.unwrap_or_default().into_iter().filter(|(number, _)| in_set(&(*number as usize))).collect();
        all.sort_by(|a, b| {
            b.1.cmp(&a.1)
                .then_with(|| self.graphics[a.0 as usize].name.len().cmp(&self.graphics[b.0 as usize].name.len()))
                .then_with(|| a.0.cmp(&b.0))
        });
        all.into_iter().skip(from).take(count).map(|(number, _)| self.card(number as usize)).collect()
    }

    /// What one word finds, with the most it is worth.
    fn matches(&self, word: &str) -> BTreeMap<u32, u32> {
        let mut found = BTreeMap::new();
        let stem = singular(word);
        self.collect(&stem, 10, &mut found);
        if stem != word {
            self.collect(word, 10, &mut found);
        }
        for near in self.synonyms.get(stem.as_str()).into_iter().flatten() {
            self.collect(near, 6, &mut found);
        }
        found
    }

    /// Words that begin with `start`, worth so many tenths; whole words are worth twice as much as beginnings.
    fn collect(&self, start: &str, tenths: u32, found: &mut BTreeMap<u32, u32>) {
        let first = self.words.partition_point(|(word, ..)| word.as_str() < start);
        for (word, number, worth) in self.words[first..].iter().take_while(|(word, ..)| word.starts_with(start)) {
            let whole = word == start || singular(word) == start;
            let worth = u32::from(*worth) * tenths * if whole { 2 } else { 1 };
            let kept = found.entry(*number).or_insert(0);
            *kept = (*kept).max(worth);
        }
    }
}

fn unpack(pack: &[u8]) -> Result<Packed, ShelfError> {
    let damaged = |error: &dyn std::fmt::Display| ShelfError(error.to_string());
    let mut archive = zip::ZipArchive::new(Cursor::new(pack)).map_err(|error| damaged(&error))?;
    let mut text = String::new();
    archive
        .by_name("set.json")
        .map_err(|error| damaged(&error))?
        .read_to_string(&mut text)
        .map_err(|error| damaged(&error))?;
    serde_json::from_str(&text).map_err(|error| damaged(&error))
}

/// The singular of an English plural, roughly; other words as they are.
fn singular(word: &str) -> String {
    if word.len() < 4 || word.ends_with("ss") || word.ends_with("us") {
        return word.to_owned();
    }
    if let Some(stem) = word.strip_suffix("ies") {
        return format!("{stem}y");
    }
    let hissing = ["ches", "shes", "xes", "sses", "zes"];
    if hissing.iter().any(|end| word.ends_with(end)) {
        return word[..word.len() - 2].to_owned();
    }
    if let Some(stem) = word.strip_suffix("ves") {
        return format!("{stem}f");
    }
    word.strip_suffix('s').unwrap_or(word).to_owned()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn plurals_are_found_as_singulars() {
        for (many, one) in [
            ("mugs", "mug"),
            ("berries", "berry"),
            ("brushes", "brush"),
            ("boxes", "box"),
            ("leaves", "leaf"),
            ("glass", "glass"),
            ("bus", "bus"),
            ("kiln", "kiln"),
        ] {
            assert_eq!(singular(many), one);
        }
    }
}
