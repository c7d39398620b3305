//! Where jobs are worked on: opening, acting, composing, drawing. Everything here blocks; handlers call it off the async workers.

use std::collections::{BTreeMap, HashMap};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::{SystemTime, UNIX_EPOCH};

use vatman_craft::{Baselines, Boxes, Clipping, Design, FileKind, Finding, Ground, GraphicShelf, GuideMark, HandOver, Imported, Likeness, Mosaic, MosaicRoom, OutputFile, PlaceCatalogue, PlaceEntry, Reading, SideColours, SnapRange, SnapStops, Studio, Words, alike, around, clip, compose_job, copy_in_order, dominant, findings, guide_marks, import_svg, mosaics, settle, side_colours, stops, write_file};
use vatman_document::{AssetId, Color, Command, Drawing, Guides, IdSource, Item, ItemId, Job, JobDelta, JobId, Known, Paint, Piece, PieceId, Side, SideId};
use vatman_output::{PictureLinks, PixelOptions, ground_fragment, item_fragment};
use vatman_photo::{Limits, Pictures, content_id, decode, encode_jpeg, encode_png, inspect};
use vatman_scene::{Audience, Before, Scene};
use vatman_type::{FontLibrary, Typesetter};
use vatman_units::Rect;

use crate::fonts::with_own;
use crate::problem::Problem;
use crate::shipped::{Shipped, shipped_library};
use crate::store::{StepChange, Store, StoreError, StoredPictures};
use crate::types::{Act, ActRequest, ActResponse, HandOverRequest, JobCard, MosaicRequest, OpenJob, SheetCard, StageDelta, StageItem, StartRequest};

/// Bytes of decoded and of resampled pictures kept in memory.
const PICTURE_BUDGET: usize = 512 << 20;

struct Held {
    job: Arc<Job>,
    revision: i64,
    kept_at: i64,
}

/// A side as it was last composed for the stage.
#[derive(Clone)]
struct Staged {
    side: SideId,
    job: Arc<Job>,
    scene: Arc<Scene>,
    /// Items with words, in reading order.
    reading: Vec<ItemId>,
    guides: Vec<GuideMark>,
    /// The families it was set in.
    library: Arc<FontLibrary>,
}

/// Sides whose scenes are kept for the next act on them.
const STAGED: usize = 8;

/// The store, the studio and what ships, together.
pub struct Workshop {
    /// The data file.
    pub store: Arc<Store>,
    /// Type and pictures.
    pub studio: Studio,
    /// The places.
    pub places: PlaceCatalogue,
    /// The designs.
    pub designs: Vec<Design>,
    /// Sample pictures by name.
    pub samples: BTreeMap<String, AssetId>,
    held: Mutex<HashMap<JobId, Held>>,
    /// The sides last shown on a stage, newest last.
    staged: Mutex<Vec<Staged>>,
    /// One act at a time, so that no act is lost between reading and keeping.
    acting: Mutex<()>,
}

/// Fresh identities that sort by time.
pub(crate) struct Ids;

impl IdSource for Ids {
    fn fresh(&mut self) -> String {
        uuid::Uuid::now_v7().simple().to_string()
    }
}

impl Known for Workshop {
    fn has_family(&self, name: &str) -> bool {
        self.studio.typesetter.library().has(name)
    }
    fn has_picture(&self, id: &AssetId) -> bool {
        self.store.has_picture(id)
    }
}

/// What was there can be there again, even where a family has gone in the meantime: it is substituted and found.
struct Undoing;

impl Known for Undoing {
    fn has_family(&self, _: &str) -> bool {
        true
    }
    fn has_picture(&self, _: &AssetId) -> bool {
        true
    }
}

/// Links of the stage: pictures at the next of a few widths, so that few versions are made.
struct StageLinks;

impl PictureLinks for StageLinks {
    fn link(&self, id: &AssetId, width: f64) -> String {
        let wide = [160, 320, 640, 1_280, 1_920].into_iter().find(|step| f64::from(*step) >= width).unwrap_or(2_560);
        format!("/media/{id}?w={wide}")
    }
}

/// Milliseconds since 1970 UTC.
pub(crate) fn now() -> i64 {
    SystemTime::now().duration_since(UNIX_EPOCH).map_or(0, |since| since.as_millis() as i64)
}

impl Workshop {
    /// A workshop on a data file. Sample pictures that ship are put into it.
    ///
    /// # Errors
    /// A sentence saying what is missing or damaged.
    pub fn new(store: Store) -> Result<Self, String> {
        let store = Arc::new(store);
        let library = Arc::new(shipped_library().map_err(|error| error.to_string())?);
        let pictures = Arc::new(Pictures::new(Box::new(StoredPictures(Arc::clone(&store))), PICTURE_BUDGET));
        let mut samples = BTreeMap::new();
        for (name, bytes) in Shipped.pictures() {
            let id = content_id(&bytes);
            let info = inspect(&bytes, Limits::default()).map_err(|error| format!("{name}: {error}"))?;
            if !store.has_picture(&id) {
                store.insert_picture(&id, &name, info, &bytes, true, now()).map_err(|error| error.to_string())?;
            }
            samples.insert(name, id);
        }
        let library = Arc::new(with_own(&library, &store)?);
        Ok(Self {
            store,
            studio: Studio { typesetter: Arc::new(Typesetter::new(library)), pictures },
            places: Shipped.places()?,
            designs: Shipped.designs()?,
            samples,
            held: Mutex::new(HashMap::new()),
            staged: Mutex::new(Vec::new()),
            acting: Mutex::new(()),
        })
    }

    /// Held while something is read, changed and kept, so that nothing comes in between.
    pub(crate) fn one_at_a_time(&self) -> MutexGuard<'_, ()> {
        self.acting.lock().unwrap_or_else(PoisonError::into_inner)
    }

    fn load(&self, id: &JobId) -> Result<(Arc<Job>, i64, i64), Problem> {
        if let Some(held) = self.held.lock().unwrap_or_else(PoisonError::into_inner).get(id) {
            return Ok((Arc::clone(&held.job), held.revision, held.kept_at));
        }
        let (job, revision, kept_at) = self.store.job(id)?.ok_or_else(|| Problem::not_found("There is no such job; it may have been removed."))?;
        let job = Arc::new(job);
        self.hold(&job, revision, kept_at);
        Ok((job, revision, kept_at))
    }

    fn hold(&self, job: &Arc<Job>, revision: i64, kept_at: i64) {
        self.held.lock().unwrap_or_else(PoisonError::into_inner).insert(job.id.clone(), Held { job: Arc::clone(job), revision, kept_at });
    }

    /// Lets go of a job held in memory, so that it is read again.
    pub fn forget(&self, id: &JobId) {
        self.held.lock().unwrap_or_else(PoisonError::into_inner).remove(id);
    }

    /// A job as it is now.
    ///
    /// # Errors
    /// A problem where it is not there or cannot be read.
    pub fn job(&self, id: &JobId) -> Result<Arc<Job>, Problem> {
        Ok(self.load(id)?.0)
    }

    /// A job for the bench.
    ///
    /// # Errors
    /// A problem where it is not there or cannot be read.
    pub fn open(&self, id: &JobId) -> Result<OpenJob, Problem> {
        let (job, revision, kept_at) = self.load(id)?;
        let (can_undo, can_redo) = self.steps(id)?;
        Ok(OpenJob { job: job.as_ref().clone(), revision, kept_at, can_undo, can_redo })
    }

    fn steps(&self, id: &JobId) -> Result<(bool, bool), Problem> {
        Ok((self.store.next_step(id, false)?.is_some(), self.store.next_step(id, true)?.is_some()))
    }

    /// The jobs on the board.
    ///
    /// # Errors
    /// A problem where the file fails.
    pub fn board(&self) -> Result<Vec<JobCard>, Problem> {
        let mut cards = Vec::new();
        for row in self.store.jobs()? {
            let id = JobId::new(row.id.clone())?;
            let job = self.job(&id)?;
            let sheets = job.pieces.iter().flat_map(|piece| {
                piece.sides.iter().map(|side| SheetCard { piece: piece.id.clone(), side: side.id.clone(), name: piece.name.clone(), aspect: piece.format.size.aspect() })
            });
            cards.push(JobCard { id: row.id, title: row.title, revision: row.revision, changed_at: row.changed_at, sheets: sheets.collect() });
        }
        Ok(cards)
    }

    /// Carries out an act and keeps it.
    ///
    /// # Errors
    /// A problem where it is stale, senseless, or cannot be kept; then nothing has changed.
    pub fn act(&self, id: &JobId, request: &ActRequest) -> Result<ActResponse, Problem> {
        let _one_at_a_time = self.one_at_a_time();
        let (old, revision, _) = self.load(id)?;
        if request.base != revision {
            return Err(Problem::stale(revision));
        }
        let mut new = old.as_ref().clone();
        let (forward, inverse, made, mark);
        match &request.act {
            Act::Undo | Act::Redo => {
                let redo = matches!(request.act, Act::Redo);
                let step = self.store.next_step(id, redo)?.ok_or_else(|| Problem::value(if redo { "There is nothing to do again." } else { "There is nothing to undo." }))?;
                let command = if redo { step.forward } else { step.inverse };
                command.apply(&mut new, &Undoing)?;
                mark = Some((step.number, !redo));
                (forward, inverse, made) = (command.clone(), command, Vec::new());
            }
            act => {
                let (command, items) = self.command(&old, act)?;
                (forward, inverse) = self.carry_out(&old, &mut new, command)?;
                (made, mark) = (items, None);
            }
        }
        let step = match mark {
            Some((number, undone)) => StepChange::Mark { number, undone },
            None => StepChange::New { forward: &forward, inverse: &inverse, gesture: request.gesture.as_deref() },
        };
        let kept_at = now();
        let new = Arc::new(new);
        let kept = self.store.keep(&new, revision, &step, kept_at);
        let revision = match kept {
            Ok(revision) => revision,
            Err(StoreError::Stale) => {
                // Another process wrote to the same file: look again.
                self.forget(id);
                return Err(Problem::stale(self.load(id)?.1));
            }
            Err(error) => return Err(error.into()),
        };
        self.hold(&new, revision, kept_at);
        self.response(&old, &new, true, (revision, kept_at), made, request)
    }

    /// What an act would lead to, without keeping it.
    ///
    /// # Errors
    /// A problem where it is stale or senseless.
    pub fn rehearse(&self, id: &JobId, request: &ActRequest) -> Result<ActResponse, Problem> {
        let (old, revision, kept_at) = self.load(id)?;
        if request.base != revision {
            return Err(Problem::stale(revision));
        }
        let mut new = old.as_ref().clone();
        let (command, made) = self.command(&old, &request.act)?;
        self.carry_out(&old, &mut new, command)?;
        self.response(&old, &Arc::new(new), false, (revision, kept_at), made, request)
    }

    /// Carries a change out and lets what is tied take its places, as one change with one inverse.
    fn carry_out(&self, old: &Job, new: &mut Job, command: Command) -> Result<(Command, Command), Problem> {
        let inverse = command.apply(new, self)?;
        let moves = settle(old, new, &self.studio);
        if moves.is_empty() {
            return Ok((command, inverse));
        }
        let settled = Command::All { commands: moves };
        let back = settled.apply(new, self)?;
        Ok((command.then(&settled), back.then(&inverse)))
    }

    /// A graphic of the shelf as a drawing.
    pub(crate) fn graphic(&self, id: &str) -> Result<Drawing, Problem> {
        let (svg, name) = self.graphics()?.svg(id).ok_or_else(|| Problem::not_found("There is no such graphic on the shelf."))?;
        Ok(self.read_drawing(svg.as_bytes(), &name)?.drawing)
    }

    /// The shelf of vector graphics.
    ///
    /// # Errors
    /// A problem where it is damaged.
    pub fn graphics(&self) -> Result<&'static GraphicShelf, Problem> {
        Shipped.graphics().map_err(|why| Problem::internal(&why))
    }

    /// Reads an SVG file.
    ///
    /// # Errors
    /// A problem with the reason where it is not taken.
    pub fn read_drawing(&self, svg: &[u8], name: &str) -> Result<Imported, Problem> {
        Ok(import_svg(svg, name, &self.studio.typesetter.library())?)
    }

    /// The piece the first item stands in, and the upright boxes of all items of its side as drawn.
    pub(crate) fn boxes<'a>(&self, job: &'a Job, items: &[ItemId]) -> Result<(&'a Piece, Boxes), Problem> {
        let first = items.first().ok_or_else(|| Problem::value("Nothing is selected. Select items on the sheet first."))?;
        let mut sides = job.pieces.iter().flat_map(|piece| piece.sides.iter().map(move |side| (piece, side)));
        let found = sides.find(|(_, side)| side.items.iter().any(|item| item.id == *first));
        let (piece, side) = found.ok_or_else(|| Problem::not_found("An item that was selected is not in the job any more."))?;
        let scene = self.studio.scene(job, piece, side, Audience::Stage, None);
        Ok((piece, scene.items.iter().map(|item| (item.id.clone(), item.frame.upright())).collect()))
    }

    /// How the words of an item read on what lies behind them.
    ///
    /// # Errors
    /// A problem where there are none.
    pub fn reading(&self, id: &JobId, item: &ItemId) -> Result<Reading, Problem> {
        let job = self.job(id)?;
        let (piece, side, item) = find_item(&job, item)?;
        Ok(Ground { job: &job, piece, side, item }.measure(&self.studio)?)
    }

    /// The items of the same side that are like one of them.
    ///
    /// # Errors
    /// A problem where it is not there.
    pub fn alike(&self, id: &JobId, item: &ItemId, by: Likeness) -> Result<Vec<ItemId>, Problem> {
        let job = self.job(id)?;
        let (_, side, _) = find_item(&job, item)?;
        Ok(alike(&job, side, item, by))
    }

    /// What should be looked at before pieces leave.
    ///
    /// # Errors
    /// A problem where the job is not there.
    pub fn findings(&self, id: &JobId) -> Result<Vec<Finding>, Problem> {
        let job = self.job(id)?;
        Ok(job.pieces.iter().flat_map(|piece| findings(&self.studio, &job, piece)).collect())
    }

    /// Colours for a choice on a side; `of` is the one being changed.
    ///
    /// # Errors
    /// A problem where the side is not there.
    pub fn colours(&self, id: &JobId, side: &SideId, of: Option<Color>) -> Result<SideColours, Problem> {
        let job = self.job(id)?;
        let (_, side) = find_side(&job, side)?;
        Ok(side_colours(&job, side, &self.studio.pictures, of))
    }

    pub(crate) fn mosaics_of(&self, job: &Job, side: &SideId, pictures: &[AssetId], room: MosaicRoom) -> Result<Vec<Mosaic>, Problem> {
        let (piece, _) = find_side(job, side)?;
        let aspect = |id: &AssetId| self.studio.pictures.info(id).map(|info| f64::from(info.width) / f64::from(info.height.max(1)));
        let aspects: Option<Vec<f64>> = pictures.iter().map(aspect).collect();
        Ok(mosaics(piece.format.size, &aspects.ok_or_else(|| Problem::not_found("A picture is not on the shelf any more."))?, room)?)
    }

    /// Arrangements of pictures for a side, the one that shows most of them first.
    ///
    /// # Errors
    /// A problem for too few or too many pictures, or where there is no room.
    pub fn mosaics(&self, id: &JobId, side: &SideId, wish: &MosaicRequest) -> Result<Vec<Mosaic>, Problem> {
        self.mosaics_of(self.job(id)?.as_ref(), side, &wish.pictures, wish.room)
    }

    /// Copies of items that need nothing of the job they came from.
    ///
    /// # Errors
    /// A problem where none of them is there.
    pub fn clipping(&self, id: &JobId, items: &[ItemId]) -> Result<Clipping, Problem> {
        Ok(clip(self.job(id)?.as_ref(), items)?)
    }

    /// Where items fall into place while they are dragged together.
    ///
    /// # Errors
    /// A problem where they are not there.
    pub fn stops(&self, id: &JobId, items: &[ItemId]) -> Result<SnapStops, Problem> {
        let job = self.job(id)?;
        let (piece, boxes) = self.boxes(&job, items)?;
        let moving = around(items.iter().filter_map(|id| boxes.get(id).copied()));
        let sheet = Rect::of(piece.format.size);
        // What covers the sheet lines up with everything and says nothing.
        let others: Vec<Rect> = boxes.iter().filter(|(id, rect)| !items.contains(id) && !rect.contains(sheet)).map(|(_, rect)| *rect).collect();
        let side = piece.sides.iter().find(|side| side.items.iter().any(|item| items.contains(&item.id)));
        let mut baselines = Baselines::default();
        for item in side.into_iter().flat_map(|side| &side.items).filter(|item| !item.hidden) {
            let found = self.studio.baselines(&job, item);
            if items.contains(&item.id) {
                baselines.own.extend(found.into_iter().map(|(at, ..)| at - moving.y));
            } else {
                baselines.others.extend(found.into_iter().map(|(at, from, to)| (at, SnapRange { from, to })));
            }
        }
        Ok(stops(moving, &others, sheet, piece.format.safe, &guide_marks(&piece.guides, piece.format.size), &baselines))
    }

    fn response(&self, old: &Arc<Job>, new: &Arc<Job>, kept: bool, (revision, kept_at): (i64, i64), made: Vec<ItemId>, request: &ActRequest) -> Result<ActResponse, Problem> {
        let stage = request.watch.as_ref().and_then(|id| new.side(id)).map(|(piece, side)| {
            let carets = request.carets.as_ref();
            let before = old.side(&side.id).map(|(piece, side)| (side, self.staged(old, piece, side)));
            let known = before.as_ref().map(|(side, staged)| Before { job: old, side, scene: &staged.scene });
            let now = self.stage_now(new, piece, side, carets, known);
            let delta = self.stage_delta(&now, before.as_ref().map(|(_, staged)| staged), carets);
            if kept {
                self.keep_staged(now);
            }
            delta
        });
        let (can_undo, can_redo) = self.steps(&new.id)?;
        Ok(ActResponse { revision, kept_at, delta: JobDelta::between(old, new), stage, made, can_undo, can_redo })
    }

    /// A side as it is on the stage now, with what nothing has changed about taken over from before.
    fn stage_now(&self, job: &Arc<Job>, piece: &Piece, side: &Side, carets: Option<&ItemId>, before: Option<Before<'_>>) -> Staged {
        Staged {
            side: side.id.clone(),
            job: Arc::clone(job),
            scene: Arc::new(self.studio.stage_scene(job, piece, side, carets, before)),
            reading: copy_in_order(job, side).into_iter().map(|line| line.item).collect(),
            guides: guide_marks(&piece.guides, piece.format.size),
            library: self.studio.typesetter.library(),
        }
    }

    /// A side as it was last composed for this very state of the job, or composed now.
    fn staged(&self, job: &Arc<Job>, piece: &Piece, side: &Side) -> Staged {
        let library = self.studio.typesetter.library();
        let kept = self.staged.lock().unwrap_or_else(PoisonError::into_inner);
        let found = kept.iter().find(|staged| staged.side == side.id && Arc::ptr_eq(&staged.job, job) && Arc::ptr_eq(&staged.library, &library)).cloned();
        drop(kept);
        found.unwrap_or_else(|| {
            let staged = self.stage_now(job, piece, side, None, None);
            self.keep_staged(staged.clone());
            staged
        })
    }

    fn keep_staged(&self, staged: Staged) {
        let mut kept = self.staged.lock().unwrap_or_else(PoisonError::into_inner);
        kept.retain(|old| old.side != staged.side || old.job.id != staged.job.id);
        kept.push(staged);
        let surplus = kept.len().saturating_sub(STAGED);
        kept.drain(..surplus);
    }

    fn stage_delta(&self, now: &Staged, before: Option<&Staged>, carets: Option<&ItemId>) -> StageDelta {
        let library = self.studio.typesetter.library();
        let outlines = library.as_ref();
        let scene = now.scene.as_ref();
        let old: HashMap<_, _> = before.iter().flat_map(|before| &before.scene.items).map(|item| (&item.id, item)).collect();
        let changed = scene.items.iter().filter(|item| carets == Some(&item.id) || old.get(&item.id).is_none_or(|old| !item.is_as(old)));
        let item = |item: &vatman_scene::SceneItem| StageItem {
            id: item.id.clone(),
            svg: item_fragment(scene, item, outlines, &StageLinks),
            frame: item.frame,
            spills: item.spills,
            missing: item.missing.clone(),
            blanks: item.blanks,
            type_size: item.type_size,
            carets: item.carets.clone(),
        };
        let ground = (before.map(|before| &before.scene.ground) != Some(&scene.ground)).then(|| {
            let sheet = scene.size.to_rect().inflate(scene.bleed, scene.bleed);
            ground_fragment(scene, sheet, outlines, &StageLinks)
        });
        let same_order = before.is_some_and(|before| before.scene.items.iter().map(|item| &item.id).eq(scene.items.iter().map(|item| &item.id)));
        StageDelta {
            side: now.side.clone(),
            width: scene.size.width,
            height: scene.size.height,
            bleed: scene.bleed,
            ground,
            items: changed.map(item).collect(),
            order: (!same_order).then(|| scene.items.iter().map(|item| item.id.clone()).collect()),
            reading: before.is_none_or(|before| before.reading != now.reading).then(|| now.reading.clone()),
            guides: before.is_none_or(|before| before.guides != now.guides).then(|| now.guides.clone()),
        }
    }

    /// A whole side for the stage.
    ///
    /// # Errors
    /// A problem where it is not there.
    pub fn stage(&self, id: &JobId, side: &SideId, carets: Option<&ItemId>) -> Result<StageDelta, Problem> {
        let job = self.job(id)?;
        let (piece, side) = find_side(&job, side)?;
        let now = self.stage_now(&job, piece, side, carets, None);
        let delta = self.stage_delta(&now, None, carets);
        self.keep_staged(now);
        Ok(delta)
    }

    /// A small picture of a side, as PNG.
    ///
    /// # Errors
    /// A problem where it is not there or cannot be drawn.
    pub fn thumbnail(&self, id: &JobId, side: &SideId, width: u32) -> Result<Vec<u8>, Problem> {
        let job = self.job(id)?;
        let (piece, side) = find_side(&job, side)?;
        let scene = self.studio.scene(&job, piece, side, Audience::Output, None);
        self.picture_of(&scene, width)
    }

    fn picture_of(&self, scene: &Scene, width: u32) -> Result<Vec<u8>, Problem> {
        let width = width.clamp(16, 2_000);
        let height = ((f64::from(width) * scene.size.height / scene.size.width).round() as u32).clamp(1, 8_000);
        let pixels = self.studio.pixels(scene, PixelOptions { width, height, bleed: false, clear: false })?;
        Ok(encode_png(&pixels.straight(), 96)?)
    }

    /// A place by identity in the catalogue or as a typed size.
    ///
    /// # Errors
    /// A problem that says what is wrong with the size.
    pub fn place(&self, id: &str) -> Result<PlaceEntry, Problem> {
        if let Some(place) = self.places.get(id) {
            return Ok(place.clone());
        }
        Ok(PlaceCatalogue::own_size(id.strip_prefix("own ").unwrap_or(id))?)
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
    pub fn design_picture(&self, design: &str, place: &str, words: &Words, width: u32) -> Result<Vec<u8>, Problem> {
        let design = self.design(design)?;
        let place = self.place(place)?;
        let words = if words.values().all(|text| text.trim().is_empty()) { &design.sample } else { words };
        let job = self.compose(JobId::fresh(&mut Ids), "", &[design], &[(place, 1)], words, &BTreeMap::new())?;
        let piece = &job.pieces[0];
        let scene = self.studio.scene(&job, piece, &piece.sides[0], Audience::Output, None);
        self.picture_of(&scene, width)
    }

    pub(crate) fn compose(&self, id: JobId, title: &str, designs: &[&Design], places: &[(PlaceEntry, usize)], words: &Words, swapped: &BTreeMap<String, String>) -> Result<Job, Problem> {
        let pictures = |name: &str| self.samples.get(swapped.get(name).map_or(name, String::as_str)).cloned();
        Ok(compose_job(id, title, designs, places, words, &mut Ids, &self.studio.typesetter, &pictures, self)?)
    }

    /// Makes and keeps a job. It is named from its headline, or from its first place.
    ///
    /// # Errors
    /// A problem where design or places make no sense; then nothing is made.
    pub fn start(&self, wish: &StartRequest) -> Result<JobId, Problem> {
        if wish.places.is_empty() || wish.places.len() > 40 {
            return Err(Problem::value("Choose 1 to 40 places for the job."));
        }
        let places = wish.places.iter().map(|id| Ok((self.place(id)?, 1))).collect::<Result<Vec<_>, Problem>>()?;
        if wish.words.values().any(|text| text.chars().count() > 2_000) {
            return Err(Problem::value("One part holds at most 2,000 letters to start with."));
        }
        let headline = wish.words.get(&vatman_document::Part::Headline).map(|text| text.split_whitespace().collect::<Vec<_>>().join(" ")).unwrap_or_default();
        let title: String = if headline.is_empty() { format!("New {}", places[0].0.name.to_lowercase()) } else { headline.chars().take(80).collect() };
        let id = JobId::fresh(&mut Ids);
        let job = match &wish.design {
            Some(design) => self.compose(id, &title, &[self.design(design)?], &places, &wish.words, &BTreeMap::new())?,
            None => blank(id, &title, &places, self)?,
        };
        self.store.insert_job(&job, now())?;
        Ok(job.id)
    }

    /// Keeps a picture somebody brought.
    ///
    /// # Errors
    /// A problem where it is no picture, too large or damaged.
    pub fn take_picture(&self, name: &str, bytes: &[u8]) -> Result<(AssetId, u32, u32), Problem> {
        let info = inspect(bytes, Limits::default())?;
        // Unpacked once now, so that a damaged file is refused here and not found at export.
        let pixels = decode(bytes, Limits::default())?;
        let id = content_id(bytes);
        let name: String = name.chars().filter(|c| !c.is_control()).take(120).collect();
        self.store.insert_picture(&id, &name, info, bytes, false, now())?;
        Ok((id, pixels.width(), pixels.height()))
    }

    /// The main colours of a picture of the shelf.
    ///
    /// # Errors
    /// A problem where it is not there.
    pub fn picture_colours(&self, id: &AssetId) -> Result<Vec<Color>, Problem> {
        self.studio.pictures.info(id).ok_or_else(|| Problem::not_found("That picture is not on the shelf any more."))?;
        Ok(dominant(&self.studio.pictures, id, 8))
    }

    /// A picture at a width, as JPEG, or PNG where it has transparency.
    ///
    /// # Errors
    /// A problem where it is not there.
    pub fn media(&self, id: &AssetId, width: u32) -> Result<(Vec<u8>, &'static str), Problem> {
        let missing = || Problem::not_found("That picture is not on the shelf any more.");
        let info = self.studio.pictures.info(id).ok_or_else(missing)?;
        let width = width.clamp(16, 4_096).min(info.width);
        let height = ((f64::from(info.height) * f64::from(width) / f64::from(info.width)).round() as u32).max(1);
        let whole = [0.0, 0.0, f64::from(info.width), f64::from(info.height)];
        let pixels = self.studio.pictures.part(id, whole, (width, height)).ok_or_else(missing)?;
        if info.alpha {
            Ok((encode_png(&pixels.as_ref().clone().straight(), 96)?, "image/png"))
        } else {
            Ok((encode_jpeg(&pixels, 90, [255; 3], 96)?, "image/jpeg"))
        }
    }

    /// The files of a hand-over.
    ///
    /// # Errors
    /// A problem where a piece is not there or a file cannot be made.
    pub fn hand_over(&self, id: &JobId, wish: &HandOverRequest) -> Result<Vec<OutputFile>, Problem> {
        let job = self.job(id)?;
        let mut files = Vec::new();
        if wish.pieces.is_empty() {
            return Err(Problem::value("Choose at least one piece to hand over."));
        }
        for piece in &wish.pieces {
            let piece = find_piece(&job, piece)?;
            files.extend(write_file(&self.studio, &job, piece, how(piece, wish)?)?);
        }
        Ok(files)
    }
}

fn how(piece: &Piece, wish: &HandOverRequest) -> Result<HandOver, Problem> {
    let quality = wish.quality.unwrap_or(85);
    if !(1..=100).contains(&quality) {
        return Err(Problem::value("Quality lies between 1 and 100."));
    }
    let own = f64::from(piece.format.pixels_at(piece.format.ppi).0);
    let width = match (wish.kind, wish.width, wish.times) {
        (FileKind::Pdf | FileKind::Svg, ..) | (_, None, None) => None,
        (_, Some(width), _) => Some(width),
        (_, None, Some(times)) if times > 0.0 && times <= 16.0 => Some((own * times).round() as u32),
        _ => return Err(Problem::value("A design can leave at up to 16 times its own pixels.")),
    };
    if width.is_some_and(|width| !(1..=20_000).contains(&width)) {
        return Err(Problem::value("The width of a picture lies between 1 and 20,000 px."));
    }
    Ok(HandOver { kind: wish.kind, width, quality, clear: wish.clear, bleed: wish.bleed })
}

pub(crate) fn find_side<'a>(job: &'a Job, id: &SideId) -> Result<(&'a Piece, &'a Side), Problem> {
    job.side(id).ok_or_else(|| Problem::not_found("That side is not in the job any more."))
}

pub(crate) fn find_item<'a>(job: &'a Job, id: &ItemId) -> Result<(&'a Piece, &'a Side, &'a Item), Problem> {
    let mut all = job.pieces.iter().flat_map(|piece| piece.sides.iter().flat_map(move |side| side.items.iter().map(move |item| (piece, side, item))));
    all.find(|(_, _, item)| item.id == *id).ok_or_else(|| Problem::not_found("That item is not in the job any more."))
}

pub(crate) fn find_piece<'a>(job: &'a Job, id: &PieceId) -> Result<&'a Piece, Problem> {
    job.piece(id).ok_or_else(|| Problem::not_found("That piece is not in the job any more."))
}

/// White sheets without anything on them; clear where the place is made without a ground.
fn blank(id: JobId, title: &str, places: &[(PlaceEntry, usize)], known: &dyn Known) -> Result<Job, Problem> {
    let mut job = Job::new(id, title);
    for (place, _) in places {
        let ground = (!place.clear).then(|| Paint::flat(Color::WHITE));
        let side = Side { id: SideId::fresh(&mut Ids), name: "Front".into(), ground, items: Vec::new(), stacks: Vec::new() };
        let piece = Piece { id: PieceId::fresh(&mut Ids), name: place.name.clone(), place: Some(place.id.clone()), format: place.format, sides: vec![side], guides: Guides::default(), tray: Vec::new() };
        Command::InsertPiece { index: usize::MAX, piece, kins: BTreeMap::new() }.apply(&mut job, known)?;
    }
    Ok(job)
}
