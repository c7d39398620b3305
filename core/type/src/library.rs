//! The catalogue of families and their faces.

use std::collections::HashMap;
use std::hash::{Hash as _, Hasher as _};
use std::sync::{Arc, Mutex, PoisonError};

use kurbo::BezPath;
use parley::fontique::{
    Blob, Collection, CollectionOptions, FontInfoOverride, FontStyle, FontWeight, GenericFamily, Script, SourceCache,
};
use serde::{Deserialize, Serialize};
use skrifa::instance::{LocationRef, Size as FontSize};
use skrifa::outline::{DrawSettings, OutlinePen};
use skrifa::{FontRef, GlyphId, MetadataProvider};
use thiserror::Error;
use ts_rs::TS;

use crate::own::{Embedding, OwnFace};

/// Where font files come from.
pub trait FontSource {
    /// The catalogue: a JSON array of [`Family`].
    fn catalogue(&self) -> Option<Vec<u8>>;
    /// The bytes of a face named in the catalogue.
    fn face(&self, file: &str) -> Option<Vec<u8>>;
}

/// One face of a family in the catalogue.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
pub struct Face {
    /// File, relative to the catalogue.
    pub file: String,
    /// Weight, 1 to 1,000.
    pub weight: u16,
    /// Italic.
    pub italic: bool,
}

/// A family at hand.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
pub struct Family {
    /// Name.
    pub family: String,
    /// Words people look for it by; the first is its kind.
    pub moods: Vec<String>,
    /// SPDX identifier of its licence.
    pub licence: String,
    /// Scripts (ISO 15924) it stands in for where the chosen family has no letters.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(skip)]
    pub scripts: Vec<String>,
    /// Families it goes well with.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<String>>", optional)]
    pub pairs: Vec<String>,
    /// What its maker allows, where somebody brought it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub own: Option<Embedding>,
    /// Faces.
    #[ts(inline)]
    pub faces: Vec<Face>,
}

/// Why the families cannot be loaded.
#[derive(Debug, Error)]
pub enum FontError {
    /// No catalogue, or one that cannot be read.
    #[error("The font catalogue cannot be read: {0}.")]
    Catalogue(String),
    /// A face that is missing or not a font.
    #[error("The font file {0} is missing or damaged.")]
    Face(String),
}

/// A face at hand, by its place in the library.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct FaceId(pub(crate) u32);

#[derive(Clone)]
pub(crate) struct LoadedFace {
    pub(crate) data: Blob<u8>,
    pub(crate) units_per_em: f64,
    x_height: f64,
}

/// Height of the letter x over the baseline as a share of the em: drawn, else as the font says, else half an em.
fn x_height(font: &FontRef<'_>) -> f64 {
    let metrics = font.metrics(FontSize::unscaled(), LocationRef::default());
    let drawn = font
        .charmap()
        .map('x')
        .and_then(|glyph| font.glyph_metrics(FontSize::unscaled(), LocationRef::default()).bounds(glyph))
        .map(|bounds| bounds.y_max);
    let high = drawn.or(metrics.x_height).filter(|high| *high > 0.0);
    high.map_or(0.5, |high| f64::from(high) / f64::from(metrics.units_per_em))
}

/// The families at hand; shared, immutable, made once.
pub struct FontLibrary {
    families: Vec<Family>,
    faces: Vec<LoadedFace>,
    by_blob: HashMap<u64, FaceId>,
    by_file: HashMap<String, FaceId>,
    collection: Collection,
    outlines: Mutex<HashMap<(FaceId, u32), Arc<BezPath>>>,
}

impl FontLibrary {
    /// Loads every family of a source.
    ///
    /// # Errors
    /// [`FontError`] where the catalogue or a face cannot be read.
    pub fn load(source: &dyn FontSource) -> Result<Self, FontError> {
        let catalogue = source.catalogue().ok_or_else(|| FontError::Catalogue("it is missing".into()))?;
        let families: Vec<Family> =
            serde_json::from_slice(&catalogue).map_err(|error| FontError::Catalogue(error.to_string()))?;
        let collection = Collection::new(CollectionOptions { shared: false, system_fonts: false });
        let mut library = Self {
            families: Vec::new(),
            faces: Vec::new(),
            by_blob: HashMap::new(),
            by_file: HashMap::new(),
            collection,
            outlines: Mutex::default(),
        };
        for family in families {
            for face in &family.faces {
                let broken = || FontError::Face(face.file.clone());
                library.take_face(&family.family, face, source.face(&face.file).ok_or_else(broken)?)?;
            }
            library.families.push(family);
        }
        if library.families.is_empty() {
            return Err(FontError::Catalogue("it is empty".into()));
        }
        library.stand_ins();
        Ok(library)
    }

    fn take_face(&mut self, family: &str, face: &Face, bytes: Vec<u8>) -> Result<(), FontError> {
        let broken = || FontError::Face(face.file.clone());
        let data = Blob::from(bytes);
        let font = FontRef::new(data.data()).map_err(|_| broken())?;
        let units_per_em = f64::from(font.metrics(FontSize::unscaled(), LocationRef::default()).units_per_em);
        let x_height = x_height(&font);
        let id = FaceId(self.faces.len() as u32);
        self.by_blob.insert(data.id(), id);
        self.by_file.insert(face.file.clone(), id);
        self.faces.push(LoadedFace { data, units_per_em, x_height });
        if self.register(family, face, id) { Ok(()) } else { Err(broken()) }
    }

    /// Makes a face of the library findable by the name of its family.
    fn register(&mut self, family: &str, face: &Face, id: FaceId) -> bool {
        let named = FontInfoOverride {
            family_name: Some(family),
            weight: Some(FontWeight::new(f32::from(face.weight))),
            style: Some(if face.italic { FontStyle::Italic } else { FontStyle::Normal }),
            ..FontInfoOverride::default()
        };
        let data = self.faces[id.0 as usize].data.clone();
        !self.collection.register_fonts(data, Some(named)).is_empty()
    }

    /// What stands in for a family that is missing, and for letters the chosen one does not have. Without a generic family at the end
    /// of every list a missing one would make text vanish.
    fn stand_ins(&mut self) {
        let plain = self
            .families
            .iter()
            .find(|family| family.family == Self::STAND_IN)
            .or(self.families.first())
            .map(|family| family.family.clone());
        let plain = plain.and_then(|name| self.collection.family_id(&name));
        self.collection.set_generic_families(GenericFamily::SansSerif, plain.into_iter());
        for family in &self.families {
            let Some(id) = self.collection.family_id(&family.family) else { continue };
            for script in &family.scripts {
                if let Ok(tag) = <[u8; 4]>::try_from(script.as_bytes()) {
                    self.collection.append_fallbacks(Script::from_bytes(tag), std::iter::once(id));
                }
            }
        }
    }

    /// The family that stands in for one that is not at hand.
    pub const STAND_IN: &'static str = "Work Sans";

    /// The same families and others that somebody brought, each font with the name of its file. Identities of faces stay as they are.
    /// A font that cannot be taken is left out.
    #[must_use]
    pub fn with_own(&self, own: Vec<(String, OwnFace)>) -> Self {
        let mut library = Self {
            families: self.families.clone(),
            faces: self.faces.clone(),
            by_blob: self.by_blob.clone(),
            by_file: self.by_file.clone(),
            collection: self.collection.clone(),
            outlines: Mutex::default(),
        };
        for (file, font) in own {
            let face = Face { file, weight: font.weight, italic: font.italic };
            if library.take_face(&font.family, &face, font.bytes).is_err() {
                continue;
            }
            match library.families.iter_mut().find(|family| family.family == font.family && family.own.is_some()) {
                Some(family) => {
                    family.faces.push(face);
                    // The strictest of its faces speaks for a family.
                    family.own = family.own.max(Some(font.embedding));
                }
                None => library.families.push(Family {
                    family: font.family,
                    moods: vec!["own".into()],
                    licence: "own".into(),
                    scripts: Vec::new(),
                    pairs: Vec::new(),
                    own: Some(font.embedding),
                    faces: vec![face],
                }),
            }
        }
        library
    }

    /// The same without a family somebody brought. Identities of faces stay as they are, so that what is being drawn can be finished.
    #[must_use]
    pub fn without(&self, family: &str) -> Self {
        let mut library = self.with_own(Vec::new());
        library.families.retain(|own| own.own.is_none() || own.family != family);
        // Faces cannot be taken out of a collection: another one is made of those that stay.
        library.collection = Collection::new(CollectionOptions { shared: false, system_fonts: false });
        for family in library.families.clone() {
            for face in &family.faces {
                if let Some(id) = library.by_file.get(&face.file).copied() {
                    library.register(&family.family, face, id);
                }
            }
        }
        library.stand_ins();
        library
    }

    /// A number that differs between libraries of different faces: what was drawn with one may look different with the other.
    #[must_use]
    pub fn stamp(&self) -> u64 {
        let mut hasher = std::hash::DefaultHasher::new();
        for family in &self.families {
            family.family.hash(&mut hasher);
            family.faces.iter().for_each(|face| face.file.hash(&mut hasher));
        }
        hasher.finish()
    }

    /// The weights of a family, rising; none where it is not at hand.
    #[must_use]
    pub fn weights(&self, family: &str) -> Vec<u16> {
        let faces = self.families.iter().filter(|own| own.family == family).flat_map(|own| &own.faces);
        let mut weights: Vec<u16> = faces.map(|face| face.weight).collect();
        weights.sort_unstable();
        weights.dedup();
        weights
    }

    /// Whether a family has an italic face.
    #[must_use]
    pub fn has_italic(&self, family: &str) -> bool {
        let mut faces = self.families.iter().filter(|own| own.family == family).flat_map(|own| &own.faces);
        faces.any(|face| face.italic)
    }

    /// Height of the small letters of a family as a share of the em, in its face nearest to the regular one; of a family that is not at
    /// hand that of its stand-in.
    #[must_use]
    pub fn x_height(&self, family: &str) -> f64 {
        let own = |name: &str| self.families.iter().find(|own| own.family == name);
        let faces = own(family).or_else(|| own(Self::STAND_IN)).map_or(&[][..], |own| &own.faces[..]);
        let regular = faces.iter().min_by_key(|face| (face.italic, face.weight.abs_diff(400)));
        let face = regular.and_then(|face| self.by_file.get(&face.file));
        face.map_or(0.5, |id| self.faces[id.0 as usize].x_height)
    }

    /// The families, in catalogue order.
    #[must_use]
    pub fn families(&self) -> &[Family] {
        &self.families
    }

    /// Whether a family of this exact name is at hand.
    #[must_use]
    pub fn has(&self, name: &str) -> bool {
        self.families.iter().any(|family| family.family == name)
    }

    /// The bytes of a face file, by its name in the catalogue.
    #[must_use]
    pub fn file(&self, name: &str) -> Option<&[u8]> {
        Some(self.face_data(*self.by_file.get(name)?))
    }

    /// The bytes of a face.
    #[must_use]
    pub fn face_data(&self, id: FaceId) -> &[u8] {
        self.faces[id.0 as usize].data.data()
    }

    /// How many pieces of outline the letters of a text come to in a family, each as it stands alone; those the family lacks in another.
    /// What is set may be less, never much more.
    #[must_use]
    pub fn outline_pieces(&self, family: &str, text: &str) -> usize {
        let mut counts: HashMap<char, usize> = HashMap::new();
        for letter in text.chars() {
            *counts.entry(letter).or_default() += 1;
        }
        let own = self.families.iter().filter(|own| own.family == family);
        let faces: Vec<FaceId> = own
            .chain(self.families.iter().filter(|own| own.family != family))
            .flat_map(|family| family.faces.first())
            .filter_map(|face| self.by_file.get(&face.file).copied())
            .collect();
        let pieces = |letter: char| {
            let found = faces.iter().find_map(|face| Some((*face, self.glyph_alone(*face, letter)?)));
            found.map_or(0, |(face, glyph)| self.glyph(face, glyph).elements().len())
        };
        counts.into_iter().map(|(letter, count)| pieces(letter).saturating_mul(count)).sum()
    }

    /// The glyph a face shows a letter with where it stands alone; nothing where it has none.
    fn glyph_alone(&self, id: FaceId, letter: char) -> Option<u32> {
        let font = FontRef::new(self.faces.get(id.0 as usize)?.data.data()).ok()?;
        font.charmap().map(letter).map(GlyphId::to_u32)
    }

    /// The hyphen of a face: its glyph, and its advance at a size of one.
    pub(crate) fn hyphen(&self, id: FaceId) -> Option<(u32, f64)> {
        let loaded = self.faces.get(id.0 as usize)?;
        let font = FontRef::new(loaded.data.data()).ok()?;
        let glyph = font.charmap().map('\u{2010}').or_else(|| font.charmap().map('-'))?;
        let advance = font.glyph_metrics(FontSize::unscaled(), LocationRef::default()).advance_width(glyph)?;
        Some((glyph.to_u32(), f64::from(advance) / loaded.units_per_em))
    }

    pub(crate) fn face_of(&self, blob: u64) -> Option<FaceId> {
        self.by_blob.get(&blob).copied()
    }

    pub(crate) fn context(&self) -> parley::FontContext {
        parley::FontContext { collection: self.collection.clone(), source_cache: SourceCache::default() }
    }
}

/// Where the outlines of glyphs come from.
pub trait GlyphOutlines {
    /// The outline of a glyph for a size of one, y downward from the baseline; empty for a space.
    fn glyph(&self, face: FaceId, glyph: u32) -> Arc<BezPath>;
}

impl GlyphOutlines for FontLibrary {
    fn glyph(&self, face: FaceId, glyph: u32) -> Arc<BezPath> {
        let mut cache = self.outlines.lock().unwrap_or_else(PoisonError::into_inner);
        Arc::clone(cache.entry((face, glyph)).or_insert_with(|| {
            let loaded = &self.faces[face.0 as usize];
            let mut pen = Pen { path: BezPath::new(), scale: 1.0 / loaded.units_per_em };
            if let Ok(font) = FontRef::new(loaded.data.data())
                && let Some(outline) = font.outline_glyphs().get(GlyphId::new(glyph))
            {
                // A glyph that cannot be drawn stays empty, as a missing one does.
                let _ = outline.draw(DrawSettings::unhinted(FontSize::unscaled(), LocationRef::default()), &mut pen);
            }
            Arc::new(pen.path)
        }))
    }
}

struct Pen {
    path: BezPath,
    scale: f64,
}

impl Pen {
    fn at(&self, x: f32, y: f32) -> kurbo::Point {
        kurbo::Point::new(f64::from(x) * self.scale, -f64::from(y) * self.scale)
    }
}

impl OutlinePen for Pen {
    fn move_to(&mut self, x: f32, y: f32) {
        self.path.move_to(self.at(x, y));
    }
    fn line_to(&mut self, x: f32, y: f32) {
        self.path.line_to(self.at(x, y));
    }
    fn quad_to(&mut self, cx: f32, cy: f32, x: f32, y: f32) {
        self.path.quad_to(self.at(cx, cy), self.at(x, y));
    }
    fn curve_to(&mut self, ax: f32, ay: f32, bx: f32, by: f32, x: f32, y: f32) {
        self.path.curve_to(self.at(ax, ay), self.at(bx, by), self.at(x, y));
    }
    fn close(&mut self) {
        self.path.close_path();
    }
}
