//! Pictures on the command line: developed by a recipe, and their colours.

use std::path::Path;
use std::sync::Arc;

use vatman_craft::{Recipe, dominant, shipped_recipes};
use vatman_document::{AssetId, PictureSource};
use vatman_photo::{
    PictureBytes, Pictures, Straight, content_id, encode_jpeg, encode_png, encode_tiff, encode_webp_lossy,
};

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
    let source = PictureSource { asset: id, treatments: recipe.steps };
    let print = pictures.developed(&Arc::new(source)).ok_or_else(|| format!("{} cannot be read.", file.display()))?;
    let bytes = written(&print, out, quality)?;
    std::fs::write(out, bytes).map_err(|error| format!("{} cannot be written: {error}.", out.display()))
}

fn written(print: &Straight, out: &Path, quality: u8) -> Result<Vec<u8>, String> {
    let ending = out.extension().and_then(|ending| ending.to_str()).unwrap_or_default().to_ascii_lowercase();
    match ending.as_str() {
        "png" => encode_png(print, 72),
        "jpg" | "jpeg" => encode_jpeg(&print.clone().premultiplied(), quality, [255; 3], 72),
        "webp" => encode_webp_lossy(print, quality),
        "tif" | "tiff" => encode_tiff(print),
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
