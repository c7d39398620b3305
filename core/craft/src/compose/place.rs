//! The places a message can go, and finding them by plain words or by size.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;
use vatman_document::{Format, FormatError};
use vatman_units::{Length, Measure, MeasureError, Ppi, Size, Unit, parse_length, parse_size};

use crate::compose::asking::{Ask, asks};

/// A place as shown in lists.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct PlaceEntry {
    /// Identity in the catalogue.
    pub id: String,
    /// Plain name.
    pub name: String,
    /// The kind of place.
    pub group: String,
    /// Size, resolution, bleed and safe area.
    pub format: Format,
    /// Size with its unit, for reading.
    pub size: String,
    /// Whether it is made without a ground.
    pub clear: bool,
    /// What is asked for it before it is composed.
    pub asks: Vec<Ask>,
    #[serde(skip)]
    #[ts(skip)]
    words: Vec<String>,
}

/// What a search of places found.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct PlaceFound {
    /// Matching places, best first.
    pub places: Vec<PlaceEntry>,
    /// The size typed, where what was typed is one.
    pub own: Option<PlaceEntry>,
    /// Why what looks like a size is none, where so.
    pub problem: Option<String>,
}

/// A size of one's own that cannot be made.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum OwnSize {
    /// Not a size.
    #[error(transparent)]
    Measure(#[from] MeasureError),
    /// A size nothing can be made in.
    #[error(transparent)]
    Format(#[from] FormatError),
}

#[derive(Deserialize)]
struct Row {
    id: String,
    name: String,
    group: String,
    words: String,
    size: String,
    #[serde(default)]
    ppi: Option<Ppi>,
    #[serde(default)]
    bleed: Option<String>,
    #[serde(default)]
    safe: Option<String>,
    #[serde(default)]
    clear: bool,
}

/// The catalogue of places.
#[derive(Debug, Clone)]
pub struct PlaceCatalogue {
    places: Vec<PlaceEntry>,
}

impl PlaceCatalogue {
    /// Reads the catalogue that ships.
    ///
    /// # Errors
    /// A sentence naming the entry that is wrong.
    pub fn read(json: &str) -> Result<Self, String> {
        let rows: Vec<Row> =
            serde_json::from_str(json).map_err(|error| format!("The catalogue of places cannot be read: {error}."))?;
        let places = rows
            .into_iter()
            .map(|row| entry(&row).map_err(|why| format!("{}: {why}", row.id)))
            .collect::<Result<_, _>>()?;
        Ok(Self { places })
    }

    /// All places in their order.
    #[must_use]
    pub fn all(&self) -> &[PlaceEntry] {
        &self.places
    }

    /// A place by identity.
    #[must_use]
    pub fn get(&self, id: &str) -> Option<&PlaceEntry> {
        self.places.iter().find(|place| place.id == id)
    }

    /// A place for a size somebody typed: `2 x 8.5 in`, `1080x1350`. Physical sizes get print resolution and bleed.
    ///
    /// # Errors
    /// [`OwnSize`] with a sentence that can be shown.
    pub fn own_size(text: &str) -> Result<PlaceEntry, OwnSize> {
        let (_, unit) = parse_size(text, Unit::Px, Ppi::SCREEN)?;
        let ppi = if unit == Unit::Px { Ppi::SCREEN } else { Ppi::PRINT };
        let (size, _) = parse_size(text, unit, ppi)?;
        let short = size.w.min(size.h);
        let bleed = if unit == Unit::Px { Length::ZERO } else { Length::mm(3.0).min(short.scaled(0.2)) };
        let format = Format {
            size,
            unit,
            ppi,
            bleed,
            safe: if unit == Unit::Px { short.scaled(0.04) } else { Length::mm(5.0).min(short.scaled(0.12)) },
        };
        format.check()?;
        let label = format.label();
        Ok(PlaceEntry {
            id: format!("own {label}"),
            name: format!("Own size {label}"),
            group: "Own size".into(),
            size: label,
            format,
            clear: false,
            asks: asks("", "Own size"),
            words: Vec::new(),
        })
    }

    /// Places for what somebody typed: words or their beginnings in any order, plurals too, or a size.
    #[must_use]
    pub fn search(&self, typed: &str) -> PlaceFound {
        let typed = typed.trim().to_lowercase();
        let looks_like_size = typed.starts_with(|c: char| c.is_ascii_digit()) && typed.contains(['x', '×', '*']);
        let (own, problem) = match (looks_like_size, Self::own_size(&typed)) {
            (_, Ok(own)) => (Some(own), None),
            (true, Err(why)) => (None, Some(why.to_string())),
            (false, Err(_)) => (None, None),
        };
        // Pixels are compared as pixels: 4500 × 5400 px is the same sheet at any resolution.
        let pixels = |format: &Format| (format.unit == Unit::Px).then(|| format.pixels_at(format.ppi));
        let is_own = |place: &PlaceEntry| {
            own.as_ref().is_some_and(|own| {
                own.format.size == place.format.size
                    || (pixels(&own.format).is_some() && pixels(&own.format) == pixels(&place.format))
            })
        };
        let mut scored: Vec<(u32, usize)> = Vec::new();
        for (index, place) in self.places.iter().enumerate() {
            let score = if is_own(place) { Some(100) } else { score(place, &typed) };
            scored.extend(score.map(|score| (score, index)));
        }
        scored.sort_by_key(|&(score, index)| (std::cmp::Reverse(score), index));
        PlaceFound { places: scored.into_iter().map(|(_, index)| self.places[index].clone()).collect(), own, problem }
    }
}

/// Every typed word must begin a word of the place, at least after taking off a plural; whole words and names count more.
fn score(place: &PlaceEntry, typed: &str) -> Option<u32> {
    let mut total = 1;
    for word in typed.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty()) {
        let single = word.strip_suffix('s').filter(|stem| stem.len() > 2).unwrap_or(word);
        let best = place.words.iter().enumerate().filter_map(|(i, own)| {
            let named = if i < 8 { 1 } else { 0 };
            if own == word || own == single {
                Some(10 + named)
            } else if own.starts_with(single) {
                Some(4 + named)
            } else {
                None
            }
        });
        total += best.max()?;
    }
    Some(total)
}

fn entry(row: &Row) -> Result<PlaceEntry, String> {
    let ppi = row.ppi.unwrap_or(Ppi::SCREEN);
    let (size, unit) = parse_size(&row.size, Unit::Px, ppi).map_err(|error| error.to_string())?;
    let length = |text: &Option<String>| {
        let measure = Measure { unit, ppi, whole: None };
        text.as_deref().map(|text| parse_length(text, measure).map_err(|error| error.to_string())).transpose()
    };
    let safe = length(&row.safe)?.unwrap_or_else(|| size.w.min(size.h).scaled(0.045));
    let format =
        Format { size: Size::new(size.w, size.h), unit, ppi, bleed: length(&row.bleed)?.unwrap_or(Length::ZERO), safe };
    format.check().map_err(|error| error.to_string())?;
    let own = row.name.to_lowercase();
    let words = own.split_whitespace().chain(row.words.split_whitespace()).map(str::to_owned).collect();
    Ok(PlaceEntry {
        id: row.id.clone(),
        name: row.name.clone(),
        group: row.group.clone(),
        size: format.label(),
        format,
        clear: row.clear,
        asks: asks(&row.id, &row.group),
        words,
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn shipped() -> PlaceCatalogue {
        PlaceCatalogue::read(include_str!("../../../../assets/places.json")).unwrap()
    }

    #[test]
    fn places_are_found_by_everyday_words() {
        let catalogue = shipped();
        for (typed, first) in [
            ("thumb", "video-thumbnail"),
            ("card", "card"),
            ("A5", "flyer-a5"),
            ("flyers", "flyer-a5"),
            ("birthday card", "greeting-card"),
            ("tee", "cloth-print"),
            ("logo", "mark"),
            ("story", "story"),
            ("2 x 6 in", "bookmark"),
            ("poster", "poster-a3"),
        ] {
            let found = catalogue.search(typed);
            assert_eq!(found.places.first().map(|place| place.id.as_str()), Some(first), "{typed}");
        }
        assert!(catalogue.search("zeppelin").places.is_empty());
        assert_eq!(catalogue.search("").places.len(), catalogue.all().len());
    }

    #[test]
    fn a_typed_size_is_exactly_that() {
        let own = shipped().search("2 x 8.5 in").own.unwrap();
        assert_eq!(own.format.size, Size::new(Length::inches(2.0), Length::inches(8.5)));
        assert_eq!(own.format.pixels_at(own.format.ppi), (600, 2_550));
        let screen = PlaceCatalogue::own_size("1280 x 720").unwrap();
        assert_eq!(screen.format.pixels_at(Ppi::SCREEN), (1_280, 720));
        assert!(shipped().search("30000 x 30000 px").problem.unwrap().contains("too large"));
        assert!(shipped().search("0x0").problem.is_some());
        assert_eq!(shipped().search("9 birds").problem, None);
    }
}
