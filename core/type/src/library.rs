//! The catalogue of families and their faces.

use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};

use kurbo::BezPath;
use parley::fontique::{Blob, Collection, CollectionOptions, FontInfoOverride, FontStyle, FontWeight, GenericFamily, SourceCache};
use serde::{Deserialize, Serialize};
use skrifa::instance::{LocationRef, Size as FontSize};
use skrifa::outline::{DrawSettings, OutlinePen};
use skrifa::{FontRef, GlyphId, MetadataProvider};
use thiserror::Error;
use ts_rs::TS;

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

pub(crate) struct LoadedFace {
    pub(crate) data: Blob<u8>,
    pub(crate) units_per_em: f64,
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
        let families: Vec<Family> = serde_json::from_slice(&catalogue).map_err(|error| FontError::Catalogue(error.to_string()))?;
        let mut collection = Collection::new(CollectionOptions { shared: false, system_fonts: false });
        let (mut faces, mut by_blob, mut by_file) = (Vec::new(), HashMap::new(), HashMap::new());
        for family in &families {
            for face in &family.faces {
                let broken = || FontError::Face(face.file.clone());
                let data = Blob::from(source.face(&face.file).ok_or_else(broken)?);
                let units_per_em = f64::from(FontRef::new(data.data()).map_err(|_| broken())?.metrics(FontSize::unscaled(), LocationRef::default()).units_per_em);
                let named = FontInfoOverride {
                    family_name: Some(&family.family),
                    weight: Some(FontWeight::new(f32::from(face.weight))),
                    style: Some(if face.italic { FontStyle::Italic } else { FontStyle::Normal }),
                    ..FontInfoOverride::default()
                };
                if collection.register_fonts(data.clone(), Some(named)).is_empty() {
                    return Err(broken());
                }
                let id = FaceId(faces.len() as u32);
                by_blob.insert(data.id(), id);
                by_file.insert(face.file.clone(), id);
                faces.push(LoadedFace { data, units_per_em });
            }
        }
        // Without a generic at the end of the stack a missing family would make text vanish.
        let first = families.first().ok_or_else(|| FontError::Catalogue("it is empty".into()))?;
        if let Some(id) = collection.family_id(&first.family) {
            collection.set_generic_families(GenericFamily::SansSerif, std::iter::once(id));
        }
        let outlines = Mutex::new(HashMap::new());
        Ok(Self { families, faces, by_blob, by_file, collection, outlines })
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
