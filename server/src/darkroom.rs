//! The darkroom's questions: what there is, what a picture looks like after some steps, and recipes tried on it.

use std::sync::LazyLock;

use vatman_craft::{KindCard, Recipe, kinds, shipped_recipes, source_of, tones_of};
use vatman_document::{ItemId, JobId, Treatment};
use vatman_output::PictureLinks;
use vatman_units::Ratio;

use crate::asking::Asking;
use crate::problem::Problem;
use crate::staging::StageLinks;
use crate::types::{DarkroomCard, PrintCard, PrintRequest, RecipeCard};

static KINDS: LazyLock<Vec<KindCard>> = LazyLock::new(kinds);

/// Everything the darkroom offers.
#[must_use]
pub fn offered() -> DarkroomCard {
    DarkroomCard { kinds: KINDS.clone(), most: Treatment::MOST, blends: vatman_document::Blend::ALL.to_vec() }
}

impl Asking {
    /// Where the picture of an item is found after some steps, and how its tones lie then. What is asked for is made at once, so that it
    /// is there when it is fetched.
    ///
    /// # Errors
    /// A problem where the item is not there or shows no picture, or a step cannot be.
    pub fn print(&self, job: &JobId, item: &ItemId, wish: &PrintRequest) -> Result<PrintCard, Problem> {
        if let Some(fault) = wish.steps.iter().find_map(Treatment::fault) {
            return Err(Problem::value(fault.to_string()));
        }
        let job = self.job(job)?;
        let source = source_of(&job, &job.find(item)?.plain()?, &wish.steps)?;
        let gone = || Problem::not_found("That picture is not on the shelf any more.");
        let info = self.studio.pictures.info(&source.asset).ok_or_else(gone)?;
        let address = StageLinks.link(&source, f64::from(wish.width));
        let width = StageLinks::width(f64::from(wish.width)).min(info.width);
        let height = ((f64::from(info.height) * f64::from(width) / f64::from(info.width)).round() as u32).max(1);
        let print = self.studio.pictures.print(&source, (width, height)).ok_or_else(gone)?;
        Ok(PrintCard { address, width: info.width, height: info.height, tones: tones_of(&print) })
    }

    /// What is done to the picture of an item, as a recipe under a name.
    ///
    /// # Errors
    /// A problem where the item is not there or nothing is done to it.
    pub fn recipe_of(&self, job: &JobId, item: &ItemId, name: &str) -> Result<Recipe, Problem> {
        let job = self.job(job)?;
        let steps = &job.find(item)?.plain()?.look.treatments;
        if steps.is_empty() {
            return Err(Problem::value("Nothing is done to this picture yet. Add a step first."));
        }
        Ok(Recipe::of(name, steps, |tint| job.color(tint)))
    }

    /// Every recipe that ships on the picture of an item.
    ///
    /// # Errors
    /// A problem where the item is not there or shows no picture.
    pub fn recipes(&self, job: &JobId, item: &ItemId, width: u32) -> Result<Vec<RecipeCard>, Problem> {
        let job = self.job(job)?;
        let plain = job.find(item)?.plain()?;
        let tried = |recipe: &Recipe| {
            let source = source_of(&job, &plain, &recipe.at_strength(Ratio::ONE))?;
            let address = StageLinks.link(&source, f64::from(width));
            Ok(RecipeCard { name: recipe.name.clone(), address })
        };
        shipped_recipes().iter().map(tried).collect()
    }
}
