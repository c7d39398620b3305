//! Pictures on the command line: developed by a recipe, cut out, and their colours.

use std::path::Path;
use std::sync::Arc;

use vatman_craft::{Recipe, RecipeCode, dominant, shipped_recipes};
use vatman_document::{AssetId, BrushStroke, Focus, PictureSource};
use vatman_photo::{
    CutHints, PictureBytes, Pictures, Straight, content_id, cut_out, encode_jpeg, encode_png, encode_tiff,
    encode_webp_lossy,
};
use vatman_units::Ratio;

/// The bytes of one file.
struct One(AssetId, Arc<[u8]>);

impl PictureBytes for One {
    fn bytes(&self, id: &AssetId) -> Option<Arc<[u8]>> {
        (*id == self.0).then(|| Arc::clone(&self.1))
    }
}

/// Bytes of pixels kept: one of the largest pictures that are taken.
const BUDGET: usize = 800 << 20;

fn opened(file: &Path) -> Result<(Pictures, AssetId), String> {
    let bytes = std::fs::read(file).map_err(|error| format!("{} cannot be read: {error}.", file.display()))?;
    let id = content_id(&bytes);
    let pictures = Pictures::new(Box::new(One(id.clone(), bytes.into())), BUDGET);
    // What is wrong with a file is said once, here.
    pictures
        .unpack(&pictures.bytes(&id).unwrap_or_default())
        .map_err(|error| format!("{}: {error}", file.display()))?;
    Ok((pictures, id))
}

/// The recipe of a file, or one that ships, by its name.
fn recipe_of(recipe: &str) -> Result<Recipe, String> {
    if let Some(shipped) = shipped_recipes().iter().find(|shipped| shipped.name.eq_ignore_ascii_case(recipe)) {
        return Ok(shipped.clone());
    }
    let json = std::fs::read_to_string(recipe).map_err(|error| format!("{recipe} cannot be read: {error}."))?;
    Recipe::read(&json).map_err(|error| format!("{recipe}: {error}"))
}

/// Develops a picture by a recipe into a file whose ending says its kind.
///
/// # Errors
/// A sentence where a file cannot be read or written, or is no picture or recipe.
pub fn develop(file: &Path, recipe: &str, out: &Path, quality: u8) -> Result<(), String> {
    let recipe = recipe_of(recipe)?;
    let (pictures, id) = opened(file)?;
    let source = PictureSource { treatments: recipe.steps, ..PictureSource::plain(id) };
    let print = pictures.developed(&Arc::new(source)).ok_or_else(|| format!("{} cannot be read.", file.display()))?;
    let bytes = written(&print, out, quality)?;
    std::fs::write(out, bytes).map_err(|error| format!("{} cannot be written: {error}.", out.display()))
}

/// Cuts out the subject of a picture into a PNG of its own size; `keep` are places that belong to it, as "x,y" in pixels.
///
/// # Errors
/// A sentence where a file cannot be read or written, a place is none, or there is no subject.
pub fn cutout(file: &Path, out: &Path, mask_out: Option<&Path>, keep: &[String]) -> Result<(), String> {
    let (pictures, id) = opened(file)?;
    let pixels = pictures.pixels(&id).ok_or_else(|| format!("{} cannot be read.", file.display()))?;
    let place = |text: &String| {
        let (x, y) = text.split_once(',')?;
        let (x, y): (f64, f64) = (x.trim().parse().ok()?, y.trim().parse().ok()?);
        let (w, h) = (f64::from(pixels.width()), f64::from(pixels.height()));
        ((0.0..w).contains(&x) && (0.0..h).contains(&y)).then(|| BrushStroke {
            points: vec![Focus { x: Ratio::new(x / w), y: Ratio::new(y / h) }],
            radius: Ratio::new(0.012),
            hardness: Ratio::ONE,
            strength: Ratio::ONE,
            erases: false,
        })
    };
    let strokes = keep.iter().map(|text| place(text).ok_or_else(|| format!("{text} is no place in the picture.")));
    let keep: Vec<BrushStroke> = strokes.collect::<Result<_, _>>()?;
    let found = cut_out(&pixels, CutHints { keep: &keep, remove: &[] }, &|_| true);
    let found = found.filter(vatman_photo::Cover::is_seen);
    let found = found
        .ok_or_else(|| format!("No subject was found in {}. Name a place of it with --keep X,Y.", file.display()))?;
    let save = |picture: &Straight, to: &Path| {
        let bytes = encode_png(picture, 72).map_err(|error| error.to_string())?;
        std::fs::write(to, bytes).map_err(|error| format!("{} cannot be written: {error}.", to.display()))
    };
    save(&found.cut(&pixels), out)?;
    mask_out.map_or(Ok(()), |to| save(&found.sized(pixels.width(), pixels.height()), to))
}

/// Writes a recipe as a picture of a code that can be scanned, and says what had to be left out.
///
/// # Errors
/// A sentence where the recipe cannot be read or is too long, or the file cannot be written.
pub fn recipe_to_code(recipe: &str, out: &Path) -> Result<String, String> {
    let code = RecipeCode::of(&recipe_of(recipe)?).map_err(|error| error.to_string())?;
    let bytes = encode_png(&code.picture(CODE), 300).map_err(|error| error.to_string())?;
    std::fs::write(out, bytes).map_err(|error| format!("{} cannot be written: {error}.", out.display()))?;
    Ok(code.says())
}

/// Writes the recipe of a code in a picture as a file.
///
/// # Errors
/// A sentence where the picture cannot be read or holds no recipe, or the file cannot be written.
pub fn recipe_from_code(picture: &Path, out: &Path) -> Result<(), String> {
    let (pictures, id) = opened(picture)?;
    let pixels = pictures.pixels(&id).ok_or_else(|| format!("{} cannot be read.", picture.display()))?;
    let recipe = RecipeCode::read(&pixels).map_err(|error| format!("{}: {error}", picture.display()))?;
    std::fs::write(out, recipe.written()).map_err(|error| format!("{} cannot be written: {error}.", out.display()))
}

/// About how many pixels across a code is written.
const CODE: u32 = 900;

fn written(print: &Straight, out: &Path, quality: u8) -> Result<Vec<u8>, String> {
    let ending = out.extension().and_then(|ending| ending.to_str()).unwrap_or_default().to_ascii_lowercase();
    match ending.as_str() {
        "png" => encode_png(print, 72),
        "jpg" | "jpeg" => encode_jpeg(&print.clone().premultiplied(), quality, [255; 3], 72),
        "webp" => encode_webp_lossy(print, quality),
        "tif" | "tiff" => encode_tiff(print, 300),
        _ => return Err(format!("{} should end in .png, .jpg, .webp or .tif.", out.display())),
    }
    .map_err(|error| error.to_string())
}

/// The main colours of a picture, one a line.
///
/// # Errors
/// A sentence where the file cannot be read or is no picture.
pub fn palette(file: &Path, most: usize) -> Result<Vec<String>, String> {
    let (pictures, id) = opened(file)?;
    Ok(dominant(&pictures, &id, most).into_iter().map(|color| color.to_string()).collect())
}
