//! The places a message can go, and finding them by plain words or by size.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;
use vatman_document::{Finish, Folds, Format, FormatError, Hole, Piece};
use vatman_units::{Length, Measure, MeasureError, Point, Ppi, Rect, Size, Unit, parse_length, parse_size};

use crate::compose::asking::{Ask, asks};
use crate::compose::design::Fractions;
use crate::hand_over::FileKind;

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
    /// How wide it appears where people meet it, where that is known.
    pub seen: Option<Length>,
    /// What the place itself lays over it: nothing important stands there.
    pub covers: Vec<Cover>,
    /// Whether only the circle in its middle is shown.
    pub round: bool,
    /// The kinds of files it takes, the usual one first; without any all.
    pub files: Vec<FileKind>,
    /// The largest file it takes, in bytes.
    #[ts(type = "number | null")]
    pub most: Option<u64>,
    /// How many parts of a message it has room for.
    pub copy: u8,
    /// What its sides are called, where it has more than a front.
    pub sides: Vec<String>,
    #[serde(skip)]
    #[ts(skip)]
    pub(crate) words: Vec<String>,
}

/// A part of a sheet that the place lays something over.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Cover {
    /// Left, top, width and height as fractions of the sheet.
    pub at: Fractions,
    /// What lies there.
    pub by: String,
}

impl PlaceEntry {
    /// A place of which nothing but its size is known.
    #[must_use]
    pub fn of_size(name: &str, format: Format) -> Self {
        Self {
            id: format!("own {}", format.label()),
            name: name.to_owned(),
            group: "Own size".into(),
            size: format.label(),
            format,
            clear: false,
            asks: asks("", "Own size"),
            seen: (format.unit != Unit::Px).then_some(format.size.w),
            covers: Vec::new(),
            round: false,
            files: Vec::new(),
            most: None,
            copy: all_parts(),
            sides: Vec::new(),
            words: Vec::new(),
        }
    }

    /// The same place with the sides a piece has.
    #[must_use]
    pub fn with_sides(&self, piece: &Piece) -> Self {
        Self { sides: piece.sides.iter().map(|side| side.name.clone()).collect(), ..self.clone() }
    }

    /// A part of the sheet without what is covered or beyond the circle that is shown: of the ways to keep clear of each cover the one
    /// that leaves most.
    #[must_use]
    pub fn clear_of_covers(&self, field: Rect) -> Rect {
        let sheet = Rect::of(self.format.size);
        let mut field = field;
        if self.round {
            // The square inside the circle.
            let side = sheet.w.min(sheet.h).scaled(std::f64::consts::FRAC_1_SQRT_2);
            let inside = Rect::new((sheet.w - side).half(), (sheet.h - side).half(), side, side);
            field = meet(field, inside);
        }
        for Cover { at, .. } in &self.covers {
            let cover = sheet.part(at[0], at[1], at[2], at[3]);
            let beside = cover.right() <= field.x || field.right() <= cover.x;
            if beside || cover.bottom() <= field.y || field.bottom() <= cover.y {
                continue;
            }
            let least = Length::from_raw(1);
            let cut = |x: Length, y: Length, right: Length, bottom: Length| {
                Rect::new(x, y, (right - x).max(least), (bottom - y).max(least))
            };
            let Rect { x, y, .. } = field;
            let (right, bottom) = (field.right(), field.bottom());
            let ways = [
                cut(cover.right(), y, right, bottom),
                cut(x, y, cover.x, bottom),
                cut(x, cover.bottom(), right, bottom),
                cut(x, y, right, cover.y),
            ];
            let area = |rect: &Rect| rect.w.to_css_px() * rect.h.to_css_px();
            field = ways.into_iter().max_by(|a, b| area(a).total_cmp(&area(b))).unwrap_or(field);
        }
        field
    }
}

/// What two boxes have in common, at least a hair of it.
pub(crate) fn meet(a: Rect, b: Rect) -> Rect {
    let (x, y) = (a.x.max(b.x), a.y.max(b.y));
    let least = Length::from_raw(1);
    Rect::new(x, y, (a.right().min(b.right()) - x).max(least), (a.bottom().min(b.bottom()) - y).max(least))
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
#[serde(deny_unknown_fields)]
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
    #[serde(default)]
    seen: Option<String>,
    #[serde(default)]
    covers: Vec<Cover>,
    #[serde(default)]
    round: bool,
    #[serde(default)]
    files: Vec<FileKind>,
    #[serde(default)]
    most: Option<u64>,
    #[serde(default = "all_parts")]
    copy: u8,
    /// Radius of its corners.
    #[serde(default)]
    corners: Option<String>,
    /// Middle, from the left and the top, and width of a hole, and of a ring around it.
    #[serde(default)]
    hole: Vec<String>,
    /// Whether folds run from left to right.
    #[serde(default)]
    level: bool,
    /// Where it is folded, from the left or the top of the front.
    #[serde(default)]
    folds: Vec<String>,
    /// What its sides are called.
    #[serde(default)]
    sides: Vec<String>,
}

/// Room for a whole message.
const fn all_parts() -> u8 {
    8
}

/// A format somebody keeps under a name, as it was typed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct OwnFormat {
    /// Width and height with their unit.
    pub size: String,
    /// Bleed; without one as for any size of that unit.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub bleed: Option<String>,
    /// How far words keep from the edge; without it as for any size.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub safe: Option<String>,
    /// Pixels an inch; without it as for any size.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub ppi: Option<Ppi>,
}

impl OwnFormat {
    /// The group its places stand in.
    const GROUP: &str = "Kept by you";

    /// The identity of a format kept under a name.
    #[must_use]
    pub fn id(name: &str) -> String {
        format!("kept {name}")
    }

    /// The place it makes.
    ///
    /// # Errors
    /// [`OwnSize`] with a sentence that can be shown.
    pub fn entry(&self, name: &str) -> Result<PlaceEntry, OwnSize> {
        let mut entry = PlaceCatalogue::own_size(&self.size)?;
        let format = &mut entry.format;
        if let Some(ppi) = self.ppi {
            // Pixels stay as many as were typed: their measure changes with their resolution.
            if format.unit == Unit::Px {
                format.size = parse_size(&self.size, Unit::Px, ppi)?.0;
            }
            format.ppi = ppi;
        }
        let measure = Measure { unit: format.unit, ppi: format.ppi, whole: None };
        let typed = |text: &Option<String>| {
            text.as_deref().filter(|text| !text.trim().is_empty()).map(|text| parse_length(text, measure)).transpose()
        };
        format.bleed = typed(&self.bleed)?.unwrap_or(format.bleed);
        format.safe = typed(&self.safe)?.unwrap_or(format.safe);
        format.check()?;
        let words = name.to_lowercase().split_whitespace().map(str::to_owned).collect();
        let seen = (format.unit != Unit::Px).then_some(format.size.w);
        let size = format.label();
        Ok(PlaceEntry {
            id: Self::id(name),
            name: name.to_owned(),
            group: Self::GROUP.into(),
            size,
            seen,
            words,
            ..entry
        })
    }
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

    /// This catalogue with places of somebody's own before it.
    #[must_use]
    pub fn with(&self, own: Vec<PlaceEntry>) -> Self {
        Self { places: own.into_iter().chain(self.places.iter().cloned()).collect() }
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
            finish: Finish::default(),
        };
        // What is printed large is seen from afar: it has as many pixels as can be made.
        let coarser = || [200, 150, 100, 72].into_iter().filter_map(Ppi::new).map(|ppi| Format { ppi, ..format });
        let format = match format.check() {
            Err(_) if unit != Unit::Px => coarser().find(|format| format.check().is_ok()).unwrap_or(format),
            _ => format,
        };
        format.check()?;
        Ok(PlaceEntry::of_size(&format!("Own size {}", format.label()), format))
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

/// The words of what was typed, each as it is and without a plural.
pub(crate) fn typed_words(typed: &str) -> impl Iterator<Item = (&str, &str)> {
    let words = typed.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty());
    words.map(|word| (word, word.strip_suffix('s').filter(|stem| stem.len() > 2).unwrap_or(word)))
}

/// Every typed word must begin a word of the place, at least after taking off a plural; whole words and names count more.
fn score(place: &PlaceEntry, typed: &str) -> Option<u32> {
    /// Little words say nothing about a place.
    const LITTLE: [&str; 7] = ["a", "an", "the", "for", "of", "and", "my"];
    let mut total = 1;
    let telling = |(word, _): &(&str, &str)| !LITTLE.contains(word);
    for (word, single) in typed_words(typed).filter(telling) {
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
    let typed = |text: &str| parse_length(text, Measure { unit, ppi, whole: None }).map_err(|error| error.to_string());
    let length = |text: &Option<String>| text.as_deref().map(typed).transpose();
    // What is printed is met at its own size.
    let real = Measure { unit: Unit::Mm, ppi, whole: None };
    let seen = row.seen.as_deref().map(|text| parse_length(text, real).map_err(|error| error.to_string()));
    let seen = seen.transpose()?.or((unit != Unit::Px).then_some(size.w));
    if row.covers.iter().any(|cover| cover.at.iter().any(|part| !(0.0..=1.0).contains(part))) {
        return Err("a cover lies beside the sheet".into());
    }
    let safe = length(&row.safe)?.unwrap_or_else(|| size.w.min(size.h).scaled(0.045));
    let each = |list: &[String]| list.iter().map(|text| typed(text)).collect::<Result<Vec<_>, _>>();
    let hole = match each(&row.hole)?.as_slice() {
        [] => None,
        [x, y, across] => Some(Hole { at: Point { x: *x, y: *y }, across: *across, eyelet: None }),
        [x, y, across, ring] => Some(Hole { at: Point { x: *x, y: *y }, across: *across, eyelet: Some(*ring) }),
        _ => return Err("a hole has a middle, a width and perhaps that of a ring".into()),
    };
    let finish = Finish {
        corners: length(&row.corners)?.unwrap_or(Length::ZERO),
        hole,
        folds: Folds::new(row.level, &each(&row.folds)?),
    };
    let bleed = length(&row.bleed)?.unwrap_or(Length::ZERO);
    let format = Format { size: Size::new(size.w, size.h), unit, ppi, bleed, safe, finish };
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
        seen,
        covers: row.covers.clone(),
        round: row.round,
        files: row.files.clone(),
        most: row.most,
        copy: row.copy,
        sides: row.sides.clone(),
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
            ("channel art", "channel-banner"),
            ("feed ad", "feed-ad"),
            ("cover photo", "page-cover"),
            ("product photo", "shop-picture"),
            ("save the date", "invitation"),
            ("tshirt", "cloth-print"),
            ("letterhead", "sheet-letter"),
        ] {
            let found = catalogue.search(typed);
            assert_eq!(found.places.first().map(|place| place.id.as_str()), Some(first), "{typed}");
        }
        assert!(catalogue.search("zeppelin").places.is_empty());
        assert_eq!(catalogue.search("").places.len(), catalogue.all().len());
    }

    #[test]
    fn the_catalogue_is_whole_and_every_place_is_found_by_its_own_words() {
        let catalogue = shipped();
        assert!(catalogue.all().len() >= 60);
        let ids: std::collections::BTreeSet<_> = catalogue.all().iter().map(|place| &place.id).collect();
        assert_eq!(ids.len(), catalogue.all().len());
        for place in catalogue.all() {
            let found = catalogue.search(&place.name);
            assert!(found.places.iter().take(3).any(|other| other.id == place.id), "{}", place.name);
            assert!((1..=10).contains(&place.copy) && place.most.is_none_or(|most| most >= 100_000), "{}", place.id);
            assert!(place.covers.iter().all(|cover| !cover.by.is_empty()
                && cover.at[0] + cover.at[2] <= 1.0 + 1e-9
                && cover.at[1] + cover.at[3] <= 1.0 + 1e-9));
            // What is not covered is where most of the sheet is, and holds words.
            let field = place.clear_of_covers(Rect::of(place.format.size).outset(-place.format.safe));
            let share = field.w.to_css_px() * field.h.to_css_px()
                / (place.format.size.w.to_css_px() * place.format.size.h.to_css_px());
            assert!(share > 0.15, "{}: {share}", place.id);
            assert!(place.format.unit == Unit::Px || place.seen == Some(place.format.size.w));
        }
    }

    #[test]
    fn words_keep_clear_of_what_a_place_covers() {
        let thumbnail = shipped().get("video-thumbnail").cloned().unwrap();
        let sheet = Rect::of(thumbnail.format.size);
        // The corner with the running time costs a part of the field that reaches into it, and nothing of one that does not.
        let upper = Rect::new(sheet.x, sheet.y, sheet.w, sheet.h.half());
        assert_eq!(thumbnail.clear_of_covers(upper), upper);
        let cut = thumbnail.clear_of_covers(sheet);
        let cover = sheet.part(0.84, 0.85, 0.16, 0.15);
        assert!(cut.bottom() <= cover.y || cut.right() <= cover.x);
        let picture = shipped().get("profile-picture").cloned().unwrap();
        let inside = picture.clear_of_covers(Rect::of(picture.format.size));
        let middle = picture.format.size.w.half().to_css_px();
        let corner = inside.to_css_px().origin().distance(kurbo::Point::new(middle, middle));
        assert!(corner <= middle + 0.1, "its corners lie on the circle that is shown");
    }

    #[test]
    fn a_format_of_ones_own_is_found_beside_the_others() {
        let wish = |size: &str, bleed: &str| OwnFormat {
            size: size.into(),
            bleed: (!bleed.is_empty()).then(|| bleed.into()),
            safe: None,
            ppi: None,
        };
        let label = wish("60 x 40 mm", "2").entry("Jar label").unwrap();
        assert_eq!((label.format.bleed, label.format.size.w), (Length::mm(2.0), Length::mm(60.0)));
        assert_eq!(label.format.safe, PlaceCatalogue::own_size("60 x 40 mm").unwrap().format.safe);
        let catalogue = shipped().with(vec![label.clone()]);
        assert_eq!(catalogue.search("jar").places.first(), Some(&label));
        assert_eq!(catalogue.get(&OwnFormat::id("Jar label")), Some(&label));
        assert_eq!(catalogue.all().len(), shipped().all().len() + 1);
        let fine = OwnFormat { ppi: Ppi::new(192), ..wish("800 x 600", "") }.entry("Screen").unwrap();
        assert_eq!(fine.format.pixels_at(fine.format.ppi), (800, 600));
        assert!(wish("60 x 40 mm", "9 birds").entry("x").is_err() && wish("60", "").entry("x").is_err());
    }

    #[test]
    fn a_typed_size_is_exactly_that() {
        let own = shipped().search("2 x 8.5 in").own.unwrap();
        assert_eq!(own.format.size, Size::new(Length::inches(2.0), Length::inches(8.5)));
        assert_eq!(own.format.pixels_at(own.format.ppi), (600, 2_550));
        let screen = PlaceCatalogue::own_size("1280 x 720").unwrap();
        assert_eq!(screen.format.pixels_at(Ppi::SCREEN), (1_280, 720));
        let banner = PlaceCatalogue::own_size("850 x 2000 mm").unwrap();
        assert_eq!((banner.format.ppi.get(), banner.format.size.h), (200, Length::mm(2_000.0)));
        assert!(PlaceCatalogue::own_size("9 x 9 m").is_err() && PlaceCatalogue::own_size("300 x 300 in").is_err());
        assert!(shipped().search("30000 x 30000 px").problem.unwrap().contains("too large"));
        assert!(shipped().search("0x0").problem.is_some());
        assert_eq!(shipped().search("9 birds").problem, None);
    }
}
