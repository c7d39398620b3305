//! The shelves: places, designs, pictures, graphics and fonts, those that ship and those people bring.

use std::collections::BTreeMap;
use std::sync::{Arc, Mutex, PoisonError};

use quick_cache::Weighter;
use quick_cache::sync::Cache;
use vatman_craft::{
    Brief, ContactKind, Design, GraphicShelf, Imported, PlaceCatalogue, PlaceEntry, Studio, Supplies, Words,
    compose_job, dominant, import_svg, made_legible, unpacked,
};
use vatman_document::{AssetId, Color, Drawing, Job, JobId, Known, PictureSource, Piece};
use vatman_output::PixelOptions;
use vatman_photo::{Cover, Limits, content_id, encode_opaque_jpeg, encode_png, inspect};
use vatman_scene::{Audience, Scene};
use vatman_type::{Family, FontLibrary, OwnFace};

use crate::clock::now;
use crate::events::{Event, Events};
use crate::ids::Ids;
use crate::keeping::Keeping;
use crate::lanes::Wanted;
use crate::problem::Problem;
use crate::shipped::Shipped;
use crate::store::{Origin, Store};
use crate::worker::Workers;

/// Bytes of small pictures kept in memory.
const SMALL_PICTURES: u64 = 64 << 20;

/// Counts the bytes of what is kept.
#[derive(Clone)]
pub(crate) struct ByBytes;

impl<K> Weighter<K, Arc<Vec<u8>>> for ByBytes {
    fn weight(&self, _: &K, value: &Arc<Vec<u8>>) -> u64 {
        value.len() as u64 + 64
    }
}

/// Everything that stands at hand.
pub struct Shelves {
    store: Arc<Store>,
    studio: Arc<Studio>,
    events: Events,
    /// What people keep for all their jobs.
    pub keeping: Arc<Keeping>,
    /// The designs.
    pub designs: Vec<Design>,
    /// Sample pictures by name.
    samples: BTreeMap<String, AssetId>,
    /// Small pictures of designs and of the shelf, by what they show.
    small: Cache<String, Arc<Vec<u8>>, ByBytes>,
    /// Reads files by strangers.
    pub(crate) workers: Workers,
    /// One at a time takes or gives a font.
    fonts: Mutex<()>,
}

impl Known for Shelves {
    fn has_family(&self, name: &str) -> bool {
        self.studio.typesetter.library().has(name)
    }
    fn has_picture(&self, id: &AssetId) -> bool {
        self.store.has_picture(id)
    }
}

/// The families of a library and those kept in a data file. A font that cannot be read any more is left out, so that the rest of the
/// work stays within reach.
///
/// # Errors
/// A sentence where the file fails.
pub(crate) fn with_own(library: &FontLibrary, store: &Store) -> Result<FontLibrary, String> {
    let kept = store.fonts().map_err(|error| error.to_string())?;
    let read = |(id, family, bytes): (String, String, Vec<u8>)| match OwnFace::read(&bytes) {
        Ok(font) => Some((format!("own/{id}"), OwnFace { family, ..font })),
        Err(why) => {
            tracing::warn!("the font {id} is left out: {why}");
            None
        }
    };
    Ok(library.with_own(kept.into_iter().filter_map(read).collect()))
}

impl Shelves {
    /// The shelves on a data file. Sample pictures that ship are put into it.
    ///
    /// # Errors
    /// A sentence saying what is missing or damaged.
    pub fn new(store: Arc<Store>, studio: Arc<Studio>, events: Events, keeping: Arc<Keeping>) -> Result<Self, String> {
        let mut samples = BTreeMap::new();
        for (name, bytes) in Shipped.pictures() {
            let id = content_id(&bytes);
            if !store.has_picture(&id) {
                let info = inspect(&bytes, Limits::default()).map_err(|error| format!("{name}: {error}"))?;
                store
                    .insert_picture(&id, &name, (info, &bytes), Origin::Shipped, now())
                    .map_err(|error| error.to_string())?;
            }
            samples.insert(name, id);
        }
        Ok(Self {
            store,
            studio,
            events,
            keeping,
            designs: Shipped.designs()?,
            samples,
            small: Cache::with_weighter(4_096, SMALL_PICTURES, ByBytes),
            workers: Workers::default(),
            fonts: Mutex::default(),
        })
    }

    /// The sample pictures by name.
    #[must_use]
    pub fn samples(&self) -> &BTreeMap<String, AssetId> {
        &self.samples
    }

    /// Every place of the catalogue.
    #[must_use]
    pub fn places(&self) -> Vec<PlaceEntry> {
        self.keeping.places().all().to_vec()
    }

    /// Every design.
    #[must_use]
    pub fn designs(&self) -> &[Design] {
        &self.designs
    }

    /// A place by identity in the catalogue or as a typed size.
    ///
    /// # Errors
    /// A problem that says what is wrong with the size.
    pub fn place(&self, id: &str) -> Result<PlaceEntry, Problem> {
        if let Some(place) = self.keeping.places().get(id) {
            return Ok(place.clone());
        }
        Ok(PlaceCatalogue::own_size(id.strip_prefix("own ").unwrap_or(id))?)
    }

    /// Where a piece goes: its entry of the catalogue while that has its size, else its size alone; with the sides it has.
    #[must_use]
    pub fn entry_of(&self, piece: &Piece) -> PlaceEntry {
        let places = self.keeping.places();
        let listed = piece.place.as_deref().and_then(|id| places.get(id)).filter(|entry| entry.format == piece.format);
        let entry = listed.cloned().unwrap_or_else(|| PlaceEntry::of_size(&piece.name, piece.format));
        entry.with_sides(piece)
    }

    /// A design by identity.
    ///
    /// # Errors
    /// A problem where there is none.
    pub fn design(&self, id: &str) -> Result<&Design, Problem> {
        self.designs.iter().find(|design| design.id == id).ok_or_else(|| Problem::not_found("There is no such design."))
    }

    /// A design in the shape of a place, with somebody's words or, where there are none, its own; as PNG.
    ///
    /// # Errors
    /// A problem where design or place make no sense.
    pub fn design_picture(
        &self,
        design: &str,
        place: &str,
        words: &Words,
        width: u32,
    ) -> Result<Arc<Vec<u8>>, Problem> {
        let key = format!("{design}/{place}/{words:?}/{width}/{}", self.studio.typesetter.library().stamp());
        self.small.get_or_insert_with(&key, || {
            let design = self.design(design)?;
            let place = self.place(place)?;
            let words = if words.values().all(|text| text.trim().is_empty()) { &design.sample } else { words };
            let brief = Brief { title: "", designs: &[design], places: &[(place, 1)], words };
            let job = self.compose_to_read(JobId::fresh(&mut Ids), &brief)?;
            let piece = &job.pieces[0];
            let scene = self.studio.scene(&job, piece, &piece.sides[0], Audience::Output, None);
            Ok(Arc::new(picture_of(&self.studio, &scene, width)?))
        })
    }

    /// A small picture kept by the name of all it depends on.
    pub(crate) fn small_picture(
        &self,
        key: &str,
        draw: impl FnOnce() -> Result<Vec<u8>, Problem>,
    ) -> Result<Arc<Vec<u8>>, Problem> {
        self.small.get_or_insert_with(key, || Ok(Arc::new(draw()?)))
    }

    pub(crate) fn compose(
        &self,
        id: JobId,
        brief: &Brief<'_>,
        swapped: &BTreeMap<String, String>,
    ) -> Result<Job, Problem> {
        let pictures = |name: &str| self.samples.get(swapped.get(name).map_or(name, String::as_str)).cloned();
        let mut ids = Ids;
        let mut supplies =
            Supplies { ids: &mut ids, typesetter: &self.studio.typesetter, pictures: &pictures, known: self };
        Ok(compose_job(id, brief, &mut supplies)?)
    }

    /// As [`Self::compose`], with every word made to read: what is said may reach further up a picture than the shade over it was drawn for.
    pub(crate) fn compose_to_read(&self, id: JobId, brief: &Brief<'_>) -> Result<Job, Problem> {
        let mut job = self.compose(id, brief, &BTreeMap::new())?;
        let pieces: Vec<_> = job.pieces.iter().map(|piece| piece.id.clone()).collect();
        for piece in &pieces {
            for command in made_legible(&self.studio, &job, piece, None, self, &mut Ids) {
                command.apply(&mut job, self)?;
            }
        }
        Ok(job)
    }

    /// Keeps a picture somebody brought.
    ///
    /// # Errors
    /// A problem where it is no picture, too large or damaged.
    pub fn take_picture(&self, name: &str, bytes: &[u8], wanted: &Wanted) -> Result<(AssetId, u32, u32), Problem> {
        // Unpacked once now, so that a damaged file is refused here and not found at export.
        let (width, height) = self.workers.picture(bytes, wanted)?;
        let info = inspect(bytes, Limits::default())?;
        let id = content_id(bytes);
        let name: String = name.chars().filter(|c| !c.is_control()).take(120).collect();
        self.store.insert_picture(&id, &name, (info, bytes), Origin::Brought, now())?;
        self.events.send(Event::Shelf);
        Ok((id, width, height))
    }

    /// Keeps a mask that was made for a job.
    ///
    /// # Errors
    /// A problem where it is not kept.
    pub(crate) fn take_mask(&self, cover: &Cover) -> Result<AssetId, Problem> {
        let png = encode_png(&cover.picture(), 96)?;
        let (id, info) = (content_id(&png), inspect(&png, Limits::default())?);
        self.store.insert_picture(&id, "Mask", (info, &png), Origin::Made, now())?;
        Ok(id)
    }

    /// The main colours of a picture of the shelf.
    ///
    /// # Errors
    /// A problem where it is not there.
    pub fn picture_colours(&self, id: &AssetId) -> Result<Vec<Color>, Problem> {
        self.studio
            .pictures
            .info(id)
            .ok_or_else(|| Problem::not_found("That picture is not on the shelf any more."))?;
        Ok(dominant(&self.studio.pictures, id, 8))
    }

    /// A picture as it is shown, at a width, as JPEG, or PNG where it has transparency.
    ///
    /// # Errors
    /// A problem where it is not there, or `treated` is not what was packed into an address.
    pub fn media(
        &self,
        id: &AssetId,
        treated: Option<&str>,
        width: u32,
    ) -> Result<(Arc<Vec<u8>>, &'static str), Problem> {
        let missing = || Problem::not_found("That picture is not on the shelf any more.");
        let info = self.studio.pictures.info(id).ok_or_else(missing)?;
        let source = match treated {
            Some(text) => {
                unpacked(id.clone(), text).ok_or_else(|| Problem::value("That is no treatment of a picture."))?
            }
            None => PictureSource::plain(id.clone()),
        };
        let (full_w, full_h) = source.size((info.width, info.height));
        let width = width.clamp(16, 4_096).min(full_w);
        let clear = info.alpha || source.may_be_clear();
        let media_type = if clear { "image/png" } else { "image/jpeg" };
        let bytes = self.small.get_or_insert_with(&format!("{id}/{width}/{}", treated.unwrap_or_default()), || {
            let height = ((f64::from(full_h) * f64::from(width) / f64::from(full_w)).round() as u32).max(1);
            let pixels = self.studio.pictures.print(&Arc::new(source), (width, height)).ok_or_else(missing)?;
            let bytes = if clear { encode_png(&pixels, 96)? } else { encode_opaque_jpeg(&pixels, 90, 96)? };
            Ok::<_, Problem>(Arc::new(bytes))
        })?;
        Ok((bytes, media_type))
    }

    /// A small picture of a side, as PNG; `key` says everything it depends on.
    ///
    /// # Errors
    /// A problem where it cannot be drawn.
    pub(crate) fn thumbnail(
        &self,
        key: &str,
        scene: impl FnOnce() -> Scene,
        width: u32,
    ) -> Result<Arc<Vec<u8>>, Problem> {
        self.small.get_or_insert_with(key, || Ok(Arc::new(picture_of(&self.studio, &scene(), width)?)))
    }

    /// A graphic of the shelf as a drawing.
    pub(crate) fn graphic(&self, id: &str) -> Result<Drawing, Problem> {
        let (svg, name) =
            self.graphics()?.svg(id).ok_or_else(|| Problem::not_found("There is no such graphic on the shelf."))?;
        Ok(import_svg(svg.as_bytes(), &name, &self.studio.typesetter.library())?.drawing)
    }

    /// The sign of a line of contact.
    pub(crate) fn sign(&self, kind: ContactKind) -> Result<Option<Drawing>, Problem> {
        let found = self.graphics()?.search(kind.sign(), Some("line"), 0, 1);
        found.first().map(|card| self.graphic(&card.id)).transpose()
    }

    /// The shelf of vector graphics.
    ///
    /// # Errors
    /// A problem where it is damaged.
    pub fn graphics(&self) -> Result<&'static GraphicShelf, Problem> {
        Shipped.graphics().map_err(|why| Problem::internal(&why))
    }

    /// Reads an SVG file by a stranger; pictures that are made of parts of it are kept.
    ///
    /// # Errors
    /// A problem with the reason where it is not taken.
    pub fn read_drawing(&self, svg: &[u8], name: &str, wanted: &Wanted) -> Result<Imported, Problem> {
        let own = self.store.fonts()?.into_iter().map(|(_, family, bytes)| (family, bytes)).collect::<Vec<_>>();
        let read = self.workers.drawing(svg, name, &own, wanted)?;
        for (id, png) in &read.pictures {
            let info = inspect(png, Limits::default())?;
            self.store.insert_picture(
                id,
                &format!("From {}", read.drawing.name),
                (info, png),
                Origin::Brought,
                now(),
            )?;
        }
        if !read.pictures.is_empty() {
            self.events.send(Event::Shelf);
        }
        Ok(read)
    }

    /// Keeps a font somebody brought and sets in it from now on. A family named like one that ships gets a name of its own.
    ///
    /// # Errors
    /// A problem where it is no font, too large or damaged; then nothing is kept.
    pub fn take_font(&self, file: &[u8], wanted: &Wanted) -> Result<Family, Problem> {
        let mut font = self.workers.font(file, wanted)?;
        let _one_at_a_time = self.fonts.lock().unwrap_or_else(PoisonError::into_inner);
        let library = self.studio.typesetter.library();
        if library.families().iter().any(|family| family.family == font.family && family.own.is_none()) {
            font.family = format!("{} (own)", font.family);
        }
        let named =
            |library: &FontLibrary| library.families().iter().find(|family| family.family == font.family).cloned();
        let file = format!("own/{}", content_id(&font.bytes));
        if let Some(family) = named(&library) {
            if family.faces.iter().any(|face| face.file == file) {
                return Ok(family);
            }
            if family.faces.iter().any(|face| (face.weight, face.italic) == (font.weight, font.italic)) {
                return Err(Problem::value(format!(
                    "There is a font of \u{201c}{}\u{201d} in this weight already. Take the family off the shelf first; nothing was added.",
                    font.family
                )));
            }
        }
        let renewed = library.with_own(vec![(file, font.clone())]);
        let family = named(&renewed).ok_or_else(|| Problem::value("This font cannot be set. Nothing was added."))?;
        self.store.insert_font(content_id(&font.bytes).as_str(), &font, now())?;
        self.studio.typesetter.set_library(Arc::new(renewed));
        self.events.send(Event::Families);
        Ok(family)
    }

    /// Takes a family somebody brought off the shelf, unless a job is set in it.
    ///
    /// # Errors
    /// A problem where it is in use or not there; then nothing changes.
    pub fn drop_family(&self, family: &str) -> Result<(), Problem> {
        let _one_at_a_time = self.fonts.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(title) = self.store.job_in_family(family)? {
            return Err(Problem::value(format!(
                "\u{201c}{family}\u{201d} is used in the job \u{201c}{title}\u{201d}. Set its words in another family first; nothing was changed."
            )));
        }
        if !self.store.remove_family(family)? {
            return Err(Problem::not_found("There is no such family among those you brought."));
        }
        self.studio.typesetter.set_library(Arc::new(self.studio.typesetter.library().without(family)));
        self.events.send(Event::Families);
        Ok(())
    }
}

pub(crate) fn picture_of(studio: &Studio, scene: &Scene, width: u32) -> Result<Vec<u8>, Problem> {
    let width = width.clamp(16, 2_000);
    let height = ((f64::from(width) * scene.size.height / scene.size.width).round() as u32).clamp(1, 8_000);
    let pixels = studio.pixels(scene, PixelOptions { width, height, bleed: false, clear: false })?;
    Ok(encode_png(&pixels.straight(), 96)?)
}
