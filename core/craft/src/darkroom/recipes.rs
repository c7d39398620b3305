//! Recipes: named chains of steps, those that ship and those in files.

use std::sync::LazyLock;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;
use vatman_document::{Area, Color, Develop, Tint, Treatment};
use vatman_units::Ratio;

/// Why a recipe cannot be used.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum RecipeError {
    /// No recipe at all.
    #[error("This is no recipe: {0}. Nothing was changed.")]
    Unreadable(String),
    /// A later version of the format.
    #[error("This recipe was written by a newer version (format {0}; this one reads 1). Nothing was changed.")]
    Newer(u32),
    /// A step outside its ranges.
    #[error("Step {0} of this recipe has a value outside its range. Nothing was changed.")]
    Step(usize),
    /// Too many steps.
    #[error("A recipe has at most 24 steps; this one has {0}. Nothing was changed.")]
    Long(usize),
    /// More than a recipe can say.
    #[error("A recipe file holds at most 1 MB, and its name 80 letters. Nothing was changed.")]
    TooLarge,
}

/// A chain of steps under a name; a file of it is this as JSON.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Recipe {
    /// Version of the format: 1.
    #[serde(rename = "recipe")]
    pub version: u32,
    /// Plain name.
    pub name: String,
    /// In order.
    pub steps: Vec<Treatment>,
}

impl Recipe {
    /// The version this program writes.
    pub const VERSION: u32 = 1;
    /// Longest name in letters.
    const NAME: usize = 80;
    /// Largest file in bytes.
    const BYTES: usize = 1 << 20;

    /// A recipe of steps. Colours shared in a job become their own, so that it means the same elsewhere; what was painted by
    /// hand is of one picture and stays behind.
    #[must_use]
    pub fn of(name: &str, steps: &[Treatment], color: impl Fn(&Tint) -> Color) -> Self {
        let own = |step: &Treatment| {
            let mut step = step.clone();
            for tint in step.tints_mut() {
                *tint = Tint::Own(color(tint));
            }
            if let Some(mask) = &mut step.mask {
                mask.areas.retain(|area| !matches!(area.area, Area::Brush { .. }));
            }
            step.mask = step.mask.filter(|mask| !mask.areas.is_empty());
            step
        };
        Self {
            version: Self::VERSION,
            name: name.chars().take(Self::NAME).collect(),
            steps: steps.iter().map(own).filter(|step| !of_one_picture(step)).collect(),
        }
    }

    /// From a file.
    ///
    /// # Errors
    /// [`RecipeError`] where it is none, was written by a newer version, or cannot be done.
    pub fn read(json: &str) -> Result<Self, RecipeError> {
        #[derive(Deserialize)]
        struct Version {
            recipe: u32,
        }
        if json.len() > Self::BYTES {
            return Err(RecipeError::TooLarge);
        }
        let unreadable = |error: serde_json::Error| RecipeError::Unreadable(error.to_string());
        let Version { recipe } = serde_json::from_str(json).map_err(unreadable)?;
        if recipe != Self::VERSION {
            return Err(RecipeError::Newer(recipe));
        }
        let own: Self = serde_json::from_str(json).map_err(unreadable)?;
        if own.steps.len() > Treatment::MOST {
            return Err(RecipeError::Long(own.steps.len()));
        }
        if own.name.chars().count() > Self::NAME {
            return Err(RecipeError::TooLarge);
        }
        match own.steps.iter().position(|step| step.fault().is_some()) {
            Some(at) => Err(RecipeError::Step(at + 1)),
            None => Ok(own),
        }
    }

    /// As a file.
    #[must_use]
    pub fn written(&self) -> String {
        serde_json::to_string_pretty(self).unwrap_or_default()
    }

    /// Its steps, each taken by a share of what it is, 0 to 1.
    #[must_use]
    pub fn at_strength(&self, share: Ratio) -> Vec<Treatment> {
        let weaker = |step: &Treatment| Treatment {
            amount: Ratio::new(step.amount.get() * share.clamped().get()),
            ..step.clone()
        };
        self.steps.iter().map(weaker).collect()
    }
}

/// Whether a step says something about one picture alone; also where parts are made clear of which no rule is left.
fn of_one_picture(step: &Treatment) -> bool {
    step.is_of_one_picture() || (step.develop == Develop::Clear {} && step.mask.is_none())
}

static SHIPPED: LazyLock<Vec<Recipe>> =
    LazyLock::new(|| serde_json::from_str(include_str!("../../../../assets/recipes.json")).unwrap_or_default());

/// The recipes that ship, in the order they are offered.
#[must_use]
pub fn shipped_recipes() -> &'static [Recipe] {
    &SHIPPED
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::BTreeSet;

    #[test]
    fn the_recipes_that_ship_are_sound_differ_and_go_through_their_file() {
        let all = shipped_recipes();
        assert_eq!(all.len(), 32);
        let names: BTreeSet<&str> = all.iter().map(|recipe| recipe.name.as_str()).collect();
        assert_eq!(names.len(), 32);
        for recipe in all {
            assert_eq!(Recipe::read(&recipe.written()).as_ref(), Ok(recipe), "{}", recipe.name);
            assert!(all.iter().filter(|other| other.steps == recipe.steps).count() == 1, "{} twice", recipe.name);
            assert_eq!(recipe.at_strength(Ratio::ONE), recipe.steps);
            assert!(recipe.at_strength(Ratio::ZERO).iter().all(Treatment::is_idle));
        }
    }

    #[test]
    fn what_is_no_recipe_is_refused_with_a_sentence() {
        let read = |json: &str| Recipe::read(json).unwrap_err();
        assert!(matches!(read("[]"), RecipeError::Unreadable(_)));
        assert!(matches!(read("{\"recipe\":1,\"name\":\"x\"}"), RecipeError::Unreadable(_)));
        assert_eq!(read("{\"recipe\":2,\"name\":\"x\",\"steps\":{}}"), RecipeError::Newer(2));
        let mut long = shipped_recipes()[0].clone();
        long.steps = vec![long.steps[0].clone(); 25];
        assert_eq!(read(&long.written()), RecipeError::Long(25));
        let json = shipped_recipes()[0].written().replacen("\"amount\": 1000000000", "\"amount\": 2000000000", 1);
        assert_eq!(read(&json), RecipeError::Step(1));
    }
}
