//! What people keep for all their jobs: words of their own, sets of places, formats, and how files are named.

use std::sync::{Arc, PoisonError, RwLock};

use vatman_craft::{
    NamePattern, OwnFormat, PlaceCatalogue, PlaceEntry, Reader, Recipe, Refusal, SheetSetup, Speller, shipped_recipes,
};

use crate::clock::{now, today};
use crate::events::{Event, Events};
use crate::problem::Problem;
use crate::shipped::Shipped;
use crate::store::Store;
use crate::types::{Kept, KeptSetup, PlaceSet};
use crate::word_lists::Lists;

/// What is kept, by kind.
mod kind {
    pub const WORD: &str = "word";
    pub const SET: &str = "set";
    pub const FORMAT: &str = "format";
    pub const NAMES: &str = "names";
    pub const RECIPE: &str = "recipe";
    pub const SHEETS: &str = "sheets";
}

/// Letters of a name under which something is kept.
const LONGEST_NAME: usize = 60;
/// Recipes of one's own.
const MOST_RECIPES: usize = 200;
/// Places of a set.
const MOST_PLACES: usize = 40;

/// Keeps what is for all jobs.
pub struct Keeping {
    store: Arc<Store>,
    events: Events,
    shipped: PlaceCatalogue,
    /// The places that ship and those kept.
    places: RwLock<Arc<PlaceCatalogue>>,
    speller: Speller,
}

/// A name that something can be kept under.
fn named(name: &str) -> Result<&str, Problem> {
    let name = name.trim();
    if name.is_empty() || name.chars().count() > LONGEST_NAME || name.chars().any(char::is_control) {
        return Err(Problem::value("A name has 1 to 60 letters."));
    }
    Ok(name)
}

impl Keeping {
    /// What is kept in a data file.
    ///
    /// # Errors
    /// A sentence saying what is missing or damaged.
    pub fn new(store: Arc<Store>, events: Events) -> Result<Self, String> {
        let shipped = Shipped.places()?;
        let keeping = Self {
            places: RwLock::new(Arc::new(shipped.clone())),
            shipped,
            speller: Speller::new(Box::new(Lists::beside(Some(store.folder())))),
            store,
            events,
        };
        keeping.read_again().map_err(|problem| problem.detail)?;
        Ok(keeping)
    }

    /// Takes up what is in the file. A format that makes no sense any more is left out, so that the others stay within reach.
    fn read_again(&self) -> Result<(), Problem> {
        let own = self.store.kept(kind::FORMAT)?.into_iter().filter_map(|(name, document)| {
            let read = serde_json::from_str::<OwnFormat>(&document).ok().and_then(|format| format.entry(&name).ok());
            if read.is_none() {
                tracing::warn!("the format {name} is left out");
            }
            read
        });
        let places = Arc::new(self.shipped.with(own.collect()));
        *self.places.write().unwrap_or_else(PoisonError::into_inner) = places;
        self.speller.set_own(self.store.kept(kind::WORD)?.into_iter().map(|(word, _)| word));
        Ok(())
    }

    fn changed(&self) -> Result<(), Problem> {
        self.read_again()?;
        self.events.send(Event::Kept);
        Ok(())
    }

    /// The places there are.
    #[must_use]
    pub fn places(&self) -> Arc<PlaceCatalogue> {
        Arc::clone(&self.places.read().unwrap_or_else(PoisonError::into_inner))
    }

    /// With what words are read.
    #[must_use]
    pub fn reader(&self) -> Reader<'_> {
        Reader { today: today(), speller: &self.speller }
    }

    /// How files are named.
    ///
    /// # Errors
    /// A problem where the file fails.
    pub fn names(&self) -> Result<NamePattern, Problem> {
        let kept = self.store.kept(kind::NAMES)?;
        Ok(kept.first().and_then(|(_, text)| NamePattern::read(text).ok()).unwrap_or_default())
    }

    /// All that is kept.
    ///
    /// # Errors
    /// A problem where the file fails.
    pub fn all(&self) -> Result<Kept, Problem> {
        let places = self.places();
        // A set names only what there still is.
        let known = |id: &String| places.get(id).cloned().or_else(|| own_size(id));
        let sets = self.store.kept(kind::SET)?.into_iter().map(|(name, document)| PlaceSet {
            places: serde_json::from_str::<Vec<String>>(&document)
                .unwrap_or_default()
                .iter()
                .filter_map(known)
                .collect(),
            name,
        });
        Ok(Kept {
            sets: sets.collect(),
            formats: {
                let names = self.store.kept(kind::FORMAT)?.into_iter();
                names.filter_map(|(name, _)| places.get(&OwnFormat::id(&name)).cloned()).collect()
            },
            at_once: crate::acting::MOST_PLACES,
            words: self.store.kept(kind::WORD)?.into_iter().map(|(word, _)| word).collect(),
            names: self.names()?,
        })
    }

    /// Keeps a set of places under a name.
    ///
    /// # Errors
    /// A problem for a name or a place that cannot be.
    pub fn keep_set(&self, name: &str, places: &[String]) -> Result<(), Problem> {
        let name = named(name)?;
        if places.is_empty() || places.len() > MOST_PLACES {
            return Err(Problem::value(format!("A set holds 1 to {MOST_PLACES} places.")));
        }
        let known = self.places();
        if let Some(unknown) = places.iter().find(|id| known.get(id).is_none() && own_size(id).is_none()) {
            return Err(Problem::value(format!("There is no place \u{201c}{unknown}\u{201d}. The set was not kept.")));
        }
        self.keep(kind::SET, name, &places)
    }

    /// Keeps a format under a name.
    ///
    /// # Errors
    /// A problem for a name or a measure that cannot be.
    pub fn keep_format(&self, name: &str, format: &OwnFormat) -> Result<PlaceEntry, Problem> {
        let name = named(name)?;
        let entry = format.entry(name)?;
        self.keep(kind::FORMAT, name, format)?;
        Ok(entry)
    }

    /// Keeps a word as right.
    ///
    /// # Errors
    /// A problem for what is no word.
    pub fn keep_word(&self, word: &str) -> Result<(), Problem> {
        let word = named(word)?;
        if word.contains(char::is_whitespace) {
            return Err(Problem::value("A word has no spaces in it."));
        }
        self.keep(kind::WORD, word, &())
    }

    /// Keeps how files are named.
    ///
    /// # Errors
    /// A problem for a pattern that names nothing.
    pub fn keep_names(&self, pattern: &str) -> Result<(), Problem> {
        let pattern = NamePattern::read(pattern).map_err(|why| Problem::value(why.to_string()))?;
        self.store.put_by(kind::NAMES, "", pattern.text(), now())?;
        self.changed()
    }

    /// Keeps how pieces are laid on sheets under a name.
    ///
    /// # Errors
    /// A problem for a name that cannot be.
    pub fn keep_setup(&self, name: &str, setup: &SheetSetup) -> Result<(), Problem> {
        self.keep(kind::SHEETS, named(name)?, setup)
    }

    /// The sheet layouts kept, by name; one that cannot be read any more is left out.
    ///
    /// # Errors
    /// A problem where the file fails.
    pub fn setups(&self) -> Result<Vec<KeptSetup>, Problem> {
        let kept = self.store.kept(kind::SHEETS)?.into_iter();
        let read = |(name, document): (String, String)| {
            serde_json::from_str(&document).ok().map(|setup| KeptSetup { name, setup })
        };
        Ok(kept.filter_map(read).collect())
    }

    /// Keeps a recipe under its name.
    ///
    /// # Errors
    /// A problem for a name that cannot be, or where there are too many.
    pub fn keep_recipe(&self, recipe: &Recipe) -> Result<(), Problem> {
        let name = named(&recipe.name)?;
        let kept = self.store.kept(kind::RECIPE)?;
        if kept.len() >= MOST_RECIPES && kept.iter().all(|(own, _)| own != name) {
            return Err(Problem::value(format!(
                "{MOST_RECIPES} recipes are kept already. Let go of one first, or save this one as a file."
            )));
        }
        self.keep(kind::RECIPE, name, recipe)
    }

    /// The recipes kept, by name; one that cannot be read any more is left out.
    ///
    /// # Errors
    /// A problem where the file fails.
    pub fn recipes(&self) -> Result<Vec<Recipe>, Problem> {
        let kept = self.store.kept(kind::RECIPE)?.into_iter();
        Ok(kept.filter_map(|(_, document)| Recipe::read(&document).ok()).collect())
    }

    /// The recipe of a name: one kept, else one that ships.
    ///
    /// # Errors
    /// A problem where there is none.
    pub fn recipe(&self, name: &str) -> Result<Recipe, Problem> {
        let own = self.recipes()?.into_iter().find(|recipe| recipe.name == name);
        let shipped = || shipped_recipes().iter().find(|recipe| recipe.name == name).cloned();
        own.or_else(shipped).ok_or_else(|| Refusal::Missing("recipe", name.to_owned()).into())
    }

    fn keep(&self, kind: &str, name: &str, what: &impl serde::Serialize) -> Result<(), Problem> {
        let document = serde_json::to_string(what).map_err(|error| Problem::internal(&error))?;
        self.store.put_by(kind, name, &document, now())?;
        self.changed()
    }

    /// Lets go of a set, a format, a word or a recipe.
    ///
    /// # Errors
    /// A problem where it is not kept.
    pub fn let_go(&self, kind: &str, name: &str) -> Result<(), Problem> {
        let kind = match kind {
            "sets" => kind::SET,
            "formats" => kind::FORMAT,
            "words" => kind::WORD,
            "recipes" => kind::RECIPE,
            "sheets" => kind::SHEETS,
            _ => return Err(Problem::not_found("Nothing of that kind is kept.")),
        };
        if !self.store.let_go(kind, name)? {
            return Err(Problem::not_found("That is not kept any more."));
        }
        self.changed()
    }
}

/// A place that is only a size.
fn own_size(id: &str) -> Option<PlaceEntry> {
    PlaceCatalogue::own_size(id.strip_prefix("own ").unwrap_or(id)).ok()
}
