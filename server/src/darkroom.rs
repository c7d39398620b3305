//! The darkroom's questions: what there is, what something looks like after some steps, and recipes tried on it.

use std::fmt::Write as _;
use std::sync::LazyLock;

use base64::Engine as _;
use base64::engine::general_purpose::STANDARD as BASE64;
use vatman_craft::{
    BrushSetting, KindCard, Print, PrintedFrom, Recipe, RecipeCode, Subject, TraceWish, kinds, print_of,
    shipped_recipes, slug, texture_name, tones_of, traced,
};
use vatman_document::{DrawnPaint, DrawnPart, GroupId, ItemId, Job, JobId, Paint, PictureSource, Texture, Treatment};
use vatman_photo::{Straight, encode_png};
use vatman_units::Ratio;

use crate::asking::Asking;
use crate::problem::Problem;
use crate::staging::{made_width, media_link};
use crate::types::{
    DarkroomCard, PrintCard, PrintPlace, PrintRequest, RecipeCard, RecipeCodeCard, TextureName, TraceCard,
};

static KINDS: LazyLock<Vec<KindCard>> = LazyLock::new(kinds);

/// Everything the darkroom offers.
#[must_use]
pub fn offered() -> DarkroomCard {
    DarkroomCard {
        kinds: KINDS.clone(),
        most: Treatment::MOST,
        blends: vatman_document::Blend::ALL.to_vec(),
        textures: Texture::ALL.map(|value| TextureName { value, name: texture_name(value) }).to_vec(),
        brush: BrushSetting::starting(),
        spot: BrushSetting::for_spots(),
        trace: TraceWish::START,
        most_colours: TraceWish::MOST,
    }
}

/// Where a print shown this wide is found. One of a picture is there for whoever asks; one of a sheet is of this moment, and is given
/// along.
fn address(print: &Print, shown: f64) -> Result<String, Problem> {
    match &print.from {
        PrintedFrom::Picture(source) => Ok(media_link(source, shown)),
        PrintedFrom::Sheet { .. } => png_address(&print.pixels),
    }
}

/// Pixels as an address that holds them.
fn png_address(pixels: &Straight) -> Result<String, Problem> {
    let png = encode_png(pixels, 96).map_err(|error| Problem::value(error.to_string()))?;
    Ok(format!("data:image/png;base64,{}", BASE64.encode(png)))
}

impl Asking {
    fn printed(&self, job: &Job, subject: Subject<'_>, steps: &[Treatment], shown: u32) -> Result<Print, Problem> {
        Ok(print_of(job, subject, steps, made_width(f64::from(shown)), &self.studio)?)
    }

    /// Where the picture of an item, what lies behind it, or the group it is in is found after some steps, and how its tones lie then.
    /// What is asked for is made at once, so that it is there when it is fetched.
    ///
    /// # Errors
    /// A problem where it is not there or cannot be seen, or a step cannot be.
    pub fn print(
        &self,
        job: &JobId,
        item: &ItemId,
        group: Option<&GroupId>,
        wish: &PrintRequest,
    ) -> Result<PrintCard, Problem> {
        if let Some(fault) = wish.steps.iter().find_map(Treatment::fault) {
            return Err(Problem::value(fault.to_string()));
        }
        let job = self.job(job)?;
        let subject = Subject::of(std::slice::from_ref(item), group);
        let print = self.printed(&job, subject, &wish.steps, wish.width)?;
        let sides = |rect: &kurbo::Rect| [rect.x0, rect.y0, rect.width(), rect.height()];
        let on_sheet = match &print.from {
            PrintedFrom::Picture(_) => None,
            PrintedFrom::Sheet { area, field, outline } => {
                Some(PrintPlace { area: sides(area), field: sides(field), outline: outline.clone() })
            }
        };
        Ok(PrintCard {
            address: address(&print, f64::from(wish.width))?,
            width: print.field.0,
            height: print.field.1,
            longer: print.longer,
            on_sheet,
            tones: tones_of(&print.pixels),
        })
    }

    /// What is done to an item or a group, as a recipe under a name.
    ///
    /// # Errors
    /// A problem where it is not there or nothing is done to it.
    pub fn recipe_of(
        &self,
        job: &JobId,
        item: &ItemId,
        group: Option<&GroupId>,
        name: &str,
    ) -> Result<Recipe, Problem> {
        let job = self.job(job)?;
        let steps = Subject::of(std::slice::from_ref(item), group).steps(&job)?;
        if steps.is_empty() {
            return Err(Problem::value("Nothing is done to this yet. Add a step first."));
        }
        let recipe = Recipe::of(name, &steps, |tint| job.color(tint));
        if recipe.steps.is_empty() {
            return Err(Problem::value(
                "What is done to this was painted by hand and means nothing for another picture. Add a step that does.",
            ));
        }
        Ok(recipe)
    }

    /// What is done to an item or a group, as a code that can be scanned.
    ///
    /// # Errors
    /// A problem where it is not there, nothing is done to it, or it does not fit.
    pub fn recipe_code(
        &self,
        job: &JobId,
        item: &ItemId,
        group: Option<&GroupId>,
        name: &str,
    ) -> Result<RecipeCodeCard, Problem> {
        let recipe = self.recipe_of(job, item, group, name)?;
        let code = RecipeCode::of(&recipe).map_err(|error| Problem::value(error.to_string()))?;
        Ok(RecipeCodeCard { address: png_address(&code.picture(720))?, says: code.says(), file: slug(&recipe.name) })
    }

    /// The picture of an item as outlines, to be looked at before it is done.
    ///
    /// # Errors
    /// A problem where it is not there, shows no picture, or nothing can be traced.
    pub fn traced(&self, job: &JobId, item: &ItemId, wish: TraceWish) -> Result<TraceCard, Problem> {
        let job = self.job(job)?;
        let drawing = traced(&job, item, wish, &self.studio)?;
        let mut svg =
            format!("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {} {}\">", drawing.width, drawing.height);
        let mut points = 0;
        for part in &drawing.parts {
            let DrawnPart::Path { data, fill: Some(DrawnPaint::Fitted { paint: Paint::Flat { tint, .. } }), .. } = part
            else {
                continue;
            };
            points += data.chars().filter(|letter| letter.is_ascii_uppercase()).count();
            let _ = write!(svg, "<path fill-rule=\"evenodd\" fill=\"{}\" d=\"{data}\"/>", job.color(tint));
        }
        svg.push_str("</svg>");
        let address = format!("data:image/svg+xml;base64,{}", BASE64.encode(svg));
        Ok(TraceCard { address, colours: drawing.parts.len(), points })
    }

    /// Every recipe there is, those kept first, on an item or a group.
    ///
    /// # Errors
    /// A problem where it is not there or cannot be seen.
    pub fn recipes(
        &self,
        job: &JobId,
        item: &ItemId,
        group: Option<&GroupId>,
        width: u32,
    ) -> Result<Vec<RecipeCard>, Problem> {
        let job = self.job(job)?;
        let subject = Subject::of(std::slice::from_ref(item), group);
        let plain = self.printed(&job, subject, &[], width)?;
        let tried = |recipe: &Recipe| {
            let steps = recipe.at_strength(Ratio::ONE);
            let address = match &plain.from {
                // It is made when it is looked at.
                PrintedFrom::Picture(source) => {
                    let treatments = PictureSource::resolved(&steps, |tint| job.color(tint));
                    media_link(&PictureSource { treatments, ..source.as_ref().clone() }, f64::from(width))
                }
                PrintedFrom::Sheet { .. } => address(&self.printed(&job, subject, &steps, width)?, f64::from(width))?,
            };
            Ok(RecipeCard { name: recipe.name.clone(), address, kept: false })
        };
        // A kept one takes the place of one of its name that ships.
        let own = self.shelves.keeping.recipes()?;
        let ships = shipped_recipes().iter().filter(|recipe| own.iter().all(|kept| kept.name != recipe.name));
        let card = |recipe, kept| tried(recipe).map(|card| RecipeCard { kept, ..card });
        own.iter().map(|recipe| card(recipe, true)).chain(ships.map(|recipe| card(recipe, false))).collect()
    }
}
