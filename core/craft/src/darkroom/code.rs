//! Recipes as scannable codes: a chain small enough for one is said in a QR code, and read back from a picture of it.
//!
//! What the code holds are the letters `VR1` and the recipe's file without white space, deflated (RFC 1951) with a text known to both
//! sides as preset dictionary (`assets/recipe-code-1.txt`, which never changes); docs/recipes.md says it in full.

use flate2::{Compress, Compression, Decompress, FlushCompress, FlushDecompress, Status};
use qrcode::{EcLevel, QrCode};
use thiserror::Error;
use vatman_photo::{Straight, resize};

use crate::darkroom::recipes::{Recipe, RecipeError};
use crate::look::scan::scanned;

/// What a code begins with: this program and the version of the format.
const BEGINS: &[u8] = b"VR1";
/// Known to whoever writes and reads codes of this version.
const KNOWN: &[u8] = include_bytes!("../../../../assets/recipe-code-1.txt");
/// Longest text of a recipe that is taken apart, in bytes.
const LONGEST: usize = 256 << 10;
/// Clear modules on every side, as the standard asks.
const QUIET: usize = 4;
/// Pixels along the longer side at which a picture is searched, one after another until a code is found.
const LOOKED: [u32; 4] = [1_000, 640, 1_600, 2_400];

/// Why a recipe does not become a code, or a picture no recipe.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum CodeError {
    /// Too much for one code.
    #[error(
        "This recipe takes {0} bytes, and a code that can be scanned holds {most}. Save it as a file instead; nothing was changed.",
        most = RecipeCode::MOST
    )]
    Long(usize),
    /// No code was found in a picture.
    #[error("No code was found in this picture. Take it again, larger and sharper; nothing was changed.")]
    NoCode,
    /// A code of something else.
    #[error("There is a code in this picture, but it holds no recipe. Nothing was changed.")]
    Other,
    /// What the code holds cannot be used.
    #[error(transparent)]
    Recipe(#[from] RecipeError),
}

/// A recipe as a code.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct RecipeCode {
    modules: Vec<bool>,
    width: usize,
    /// Bytes it holds.
    pub bytes: usize,
    /// Masks that did not fit and were left out.
    pub masks_left_out: usize,
}

impl RecipeCode {
    /// Most bytes of one code: so few that it can be read from a picture 300 pixels wide.
    pub const MOST: usize = 280;

    /// A recipe as a code; where it does not fit with its masks, without them.
    ///
    /// # Errors
    /// [`CodeError::Long`] where it does not fit without them either.
    pub fn of(recipe: &Recipe) -> Result<Self, CodeError> {
        let whole = written(recipe);
        if whole.len() <= Self::MOST {
            return Self::drawn(&whole, 0);
        }
        let mut bare = recipe.clone();
        let masks = bare.steps.iter_mut().filter_map(|step| step.mask.take()).count();
        let without = written(&bare);
        if without.len() > Self::MOST {
            return Err(CodeError::Long(without.len()));
        }
        Self::drawn(&without, masks)
    }

    fn drawn(bytes: &[u8], masks_left_out: usize) -> Result<Self, CodeError> {
        let code = QrCode::with_error_correction_level(bytes, EcLevel::M).map_err(|_| CodeError::Long(bytes.len()))?;
        let modules = code.to_colors().into_iter().map(|color| color == qrcode::Color::Dark).collect();
        Ok(Self { modules, width: code.width(), bytes: bytes.len(), masks_left_out })
    }

    /// What of the recipe it holds, in a sentence.
    #[must_use]
    pub fn says(&self) -> String {
        let (bytes, most) = (self.bytes, Self::MOST);
        match self.masks_left_out {
            0 => format!("The whole recipe is in it: {bytes} of {most} bytes."),
            1 => format!("All but one mask is in it: with that it does not fit ({bytes} of {most} bytes without)."),
            masks => {
                format!(
                    "All but its {masks} masks is in it: with those it does not fit ({bytes} of {most} bytes without)."
                )
            }
        }
    }

    /// Black on white with the clear edge codes need, about so many pixels wide: every module has the same whole number of pixels,
    /// at least one.
    #[must_use]
    pub fn picture(&self, wide: u32) -> Straight {
        let across = self.width + 2 * QUIET;
        let module = (wide as usize / across).max(1);
        let side = across * module;
        let mut data = vec![255; side * side * 4];
        for (at, pixel) in data.chunks_exact_mut(4).enumerate() {
            let (x, y) = ((at % side) / module, (at / side) / module);
            let inside = |at: usize| at.checked_sub(QUIET).filter(|at| *at < self.width);
            if let (Some(x), Some(y)) = (inside(x), inside(y))
                && self.modules[y * self.width + x]
            {
                pixel[..3].fill(0);
            }
        }
        Straight::new(side as u32, side as u32, data).unwrap_or_else(|| unreachable!("four bytes a pixel"))
    }

    /// The recipe of a code in a picture.
    ///
    /// # Errors
    /// [`CodeError`] where there is none or it cannot be used.
    pub fn read(picture: &Straight) -> Result<Recipe, CodeError> {
        let longer = picture.width().max(picture.height());
        let own = std::iter::once(longer).filter(|own| *own <= 2_400);
        let mut found = Err(CodeError::NoCode);
        for look in own.chain(LOOKED) {
            let by = f64::from(look) / f64::from(longer.max(1));
            // Larger than it is, twice at most: more only costs time.
            if by > 2.0 {
                continue;
            }
            let sized = |side: u32| ((f64::from(side) * by).round() as u32).max(1);
            let small = resize(picture, sized(picture.width()), sized(picture.height()));
            for content in scanned(&small) {
                match recipe_in(&content) {
                    Ok(recipe) => return Ok(recipe),
                    Err(error) => found = Err(error),
                }
            }
        }
        found
    }
}

/// What a code of a recipe holds.
fn written(recipe: &Recipe) -> Vec<u8> {
    let json = serde_json::to_vec(recipe).unwrap_or_default();
    let mut out = Vec::with_capacity(BEGINS.len() + json.len() + 64);
    out.extend_from_slice(BEGINS);
    let mut deflate = Compress::new(Compression::best(), false);
    // The whole of it fits the room that was made, so that one call is enough.
    if deflate.set_dictionary(KNOWN).is_ok() {
        let _ = deflate.compress_vec(&json, &mut out, FlushCompress::Finish);
    }
    out
}

fn recipe_in(content: &[u8]) -> Result<Recipe, CodeError> {
    let deflated = content.strip_prefix(BEGINS).ok_or(CodeError::Other)?;
    let mut inflate = Decompress::new(false);
    inflate.set_dictionary(KNOWN).map_err(|_| CodeError::Other)?;
    let mut json = Vec::with_capacity(LONGEST);
    let status = inflate.decompress_vec(deflated, &mut json, FlushDecompress::Finish).map_err(|_| CodeError::Other)?;
    if status != Status::StreamEnd {
        return Err(CodeError::Other);
    }
    let text = String::from_utf8(json).map_err(|_| CodeError::Other)?;
    Ok(Recipe::read(&text)?)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::darkroom::areas::blank_mask;
    use crate::darkroom::recipes::shipped_recipes;
    use vatman_document::{Area, BrushStroke, Focus, Joining, MaskArea};
    use vatman_units::Ratio;

    /// A picture of a code as a hand takes it: turned, seen from aside, on a grey table, unevenly lit.
    fn taken(code: &Straight, wide: u32, turn: f64, lean: f64) -> Straight {
        let (sin, cos) = turn.to_radians().sin_cos();
        let side = f64::from(code.width());
        let middle = f64::from(wide) / 2.0;
        let fills = 0.68 * f64::from(wide) / side;
        let mut data = Vec::new();
        for y in 0..wide {
            for x in 0..wide {
                let mut light = 0.0;
                for (dx, dy) in [(0.25, 0.25), (0.75, 0.25), (0.25, 0.75), (0.75, 0.75)] {
                    let (u, v) = (f64::from(x) + dx - middle, f64::from(y) + dy - middle);
                    let depth = 1.0 + lean * v / middle;
                    let (u, v) = (u * depth / fills, v * depth / fills);
                    let (px, py) = (u * cos + v * sin + side / 2.0, v * cos - u * sin + side / 2.0);
                    let within = |at: f64| (0.0..side).contains(&at);
                    light += if within(px) && within(py) {
                        f64::from(code.data()[(py as usize * code.width() as usize + px as usize) * 4])
                    } else {
                        130.0
                    };
                }
                let lit = 0.75 + 0.2 * f64::from(x) / f64::from(wide);
                data.extend([(light / 4.0 * lit) as u8; 3]);
                data.push(255);
            }
        }
        Straight::new(wide, wide, data).unwrap()
    }

    #[test]
    fn every_recipe_that_ships_goes_through_its_code_exactly() {
        for recipe in shipped_recipes() {
            let code = RecipeCode::of(recipe).unwrap();
            assert_eq!((code.masks_left_out, RecipeCode::read(&code.picture(300)).as_ref()), (0, Ok(recipe)));
        }
    }

    #[test]
    fn codes_are_read_askew_and_small() {
        let longest = shipped_recipes().iter().max_by_key(|recipe| recipe.written().len()).unwrap();
        let code = RecipeCode::of(longest).unwrap().picture(900);
        for (turn, lean) in [(0.0, 0.0), (7.0, 0.0), (-22.0, 0.08), (41.0, 0.0), (90.0, -0.1), (185.0, 0.12)] {
            assert_eq!(RecipeCode::read(&taken(&code, 300, turn, lean)).as_ref(), Ok(longest), "{turn} {lean}");
        }
        assert_eq!(RecipeCode::read(&taken(&code, 2_900, 12.0, 0.1)).as_ref(), Ok(longest));
    }

    #[test]
    fn masks_that_do_not_fit_are_left_out_and_counted_and_what_is_too_long_is_refused() {
        let mut recipe = shipped_recipes()[0].clone();
        let stroke = |n: usize| BrushStroke {
            points: (0..40)
                .map(|at| Focus {
                    x: Ratio::new(f64::from(at) * 0.013_7 + n as f64 * 0.001_3),
                    y: Ratio::new(f64::from(at * at) * 0.000_37),
                })
                .collect(),
            radius: Ratio::new(0.02),
            hardness: Ratio::HALF,
            strength: Ratio::ONE,
            erases: false,
        };
        for n in 0..2 {
            let area = MaskArea { area: Area::Brush { strokes: vec![stroke(n)] }, joins: Joining::Add };
            recipe.steps[n].mask.get_or_insert_with(blank_mask).areas.push(area);
        }
        let code = RecipeCode::of(&recipe).unwrap();
        assert_eq!(code.masks_left_out, 2);
        assert_eq!(RecipeCode::read(&code.picture(400)).as_ref(), Ok(&shipped_recipes()[0]));
        let mut long = shipped_recipes()[0].clone();
        long.steps = shipped_recipes().iter().flat_map(|recipe| recipe.steps.clone()).take(24).collect();
        long.name = (0..80).map(|n| char::from(33 + (n * 37 % 90) as u8)).collect();
        for (n, step) in long.steps.iter_mut().enumerate() {
            step.amount = Ratio::new(0.123_456_789 + n as f64 * 0.034_567_891);
        }
        match RecipeCode::of(&long) {
            Err(CodeError::Long(bytes)) => assert!(bytes > RecipeCode::MOST),
            other => panic!("{other:?}"),
        }
    }

    #[test]
    fn what_holds_no_recipe_is_told_apart() {
        let blank = Straight::new(200, 200, vec![255; 160_000]).unwrap();
        assert_eq!(RecipeCode::read(&blank), Err(CodeError::NoCode));
        let other = RecipeCode::drawn(b"https://celadon.example/", 0).unwrap().picture(300);
        assert_eq!(RecipeCode::read(&other), Err(CodeError::Other));
        let torn = RecipeCode::drawn(b"VR1nothing at all", 0).unwrap().picture(300);
        assert_eq!(RecipeCode::read(&torn), Err(CodeError::Other));
        let cut = written(&shipped_recipes()[0]);
        let cut = RecipeCode::drawn(&cut[..cut.len() - 9], 0).unwrap().picture(300);
        assert_eq!(RecipeCode::read(&cut), Err(CodeError::Other));
    }
}
