//! Where jobs are worked on: the rooms of the server, put together. Everything in them blocks; handlers call it off the async workers.

use std::collections::BTreeMap;
use std::path::Path;
use std::sync::Arc;

use vatman_craft::{
    Brief, Checked, Grid, Pace, PlaceEntry, Plan, Studio, copy_title, next_job, next_of, state_key, title_of, untitled,
    weighed,
};
use vatman_document::{Color, Command, ItemId, Job, JobId, Known, Paint, Piece, PieceId, Side, SideId};
use vatman_output::ScenePart;
use vatman_photo::Pictures;
use vatman_photo::Premultiplied;
use vatman_scene::Audience;
use vatman_type::Typesetter;

use crate::acting::Acting;
use crate::asking::{Asking, find_piece, find_side};
use crate::clock::{now, today};
use crate::events::Events;
use crate::handing::Handing;
use crate::ids::Ids;
use crate::jobs::Jobs;
use crate::keeping::Keeping;
use crate::lanes::Lanes;
use crate::ordering::Ordering;
use crate::print_shop::LowMeadowPress;
use crate::printing::Printing;
use crate::problem::Problem;
use crate::shelves::{Shelves, picture_of, with_own};
use crate::shipped::shipped_library;
use crate::staging::Stages;
use crate::store::{Store, StoredPictures};
use crate::types::{
    NextCard, NextRequest, OpenJob, PlaceWish, RepeatCard, StageDelta, StartRequest, StepCard, WayCard, WaysQuery,
};
use crate::work::Works;

/// Bytes of decoded and of resampled pictures kept in memory.
const PICTURE_BUDGET: usize = 512 << 20;
/// How long removed jobs and unused pictures are kept, in milliseconds.
const REMOVED_FOR: i64 = 30 * 24 * 60 * 60 * 1_000;

/// The rooms of the server.
pub struct Workshop {
    /// The data file.
    pub store: Arc<Store>,
    /// What open windows are told.
    pub events: Events,
    /// Jobs, open and on the board.
    pub jobs: Arc<Jobs>,
    /// What stands at hand.
    pub shelves: Arc<Shelves>,
    /// Sides on the stage.
    pub stages: Arc<Stages>,
    /// What people do.
    pub acting: Acting,
    /// What they ask.
    pub asking: Asking,
    /// What leaves.
    pub handing: Arc<Handing>,
    /// What is ordered at a print shop.
    pub ordering: Arc<Ordering>,
    /// What is laid on sheets.
    pub printing: Arc<Printing>,
    /// Work in the background.
    pub works: Works,
    /// Threads for requests.
    pub(crate) lanes: Lanes,
    /// Type and pictures.
    pub studio: Arc<Studio>,
}

/// How many arrangements are offered for a place.
const MOST_WAYS: usize = 6;

impl Workshop {
    /// A workshop on a data file.
    ///
    /// # Errors
    /// A sentence saying what is missing or damaged.
    pub fn new(store: Store) -> Result<Self, String> {
        let store = Arc::new(store);
        let events = Events::default();
        let library = shipped_library().map_err(|error| error.to_string())?;
        let library = Arc::new(with_own(&library, &store)?);
        let pictures = Pictures::new(Box::new(StoredPictures(Arc::clone(&store))), PICTURE_BUDGET);
        let studio = Arc::new(Studio::new(Arc::new(Typesetter::new(library)), Arc::new(pictures)));
        let jobs = Arc::new(Jobs::new(Arc::clone(&store), events.clone()));
        let keeping = Arc::new(Keeping::new(Arc::clone(&store), events.clone())?);
        let shelves = Arc::new(Shelves::new(Arc::clone(&store), Arc::clone(&studio), events.clone(), keeping)?);
        let stages = Arc::new(Stages::new(Arc::clone(&studio)));
        Ok(Self {
            acting: Acting {
                jobs: Arc::clone(&jobs),
                shelves: Arc::clone(&shelves),
                stages: Arc::clone(&stages),
                studio: Arc::clone(&studio),
            },
            asking: Asking { jobs: Arc::clone(&jobs), studio: Arc::clone(&studio), shelves: Arc::clone(&shelves) },
            handing: Arc::new(Handing::new(
                Arc::clone(&store),
                Arc::clone(&jobs),
                Arc::clone(&studio),
                Arc::clone(&shelves),
            )),
            ordering: Arc::new(Ordering::new(
                Arc::clone(&store),
                Arc::clone(&jobs),
                Arc::clone(&studio),
                Box::new(LowMeadowPress),
            )),
            printing: Arc::new(Printing::new(
                Arc::clone(&store),
                Arc::clone(&jobs),
                Arc::clone(&studio),
                Arc::clone(&shelves),
            )),
            works: Works::new(events.clone()),
            lanes: Lanes::new(),
            store,
            events,
            jobs,
            shelves,
            stages,
            studio,
        })
    }

    /// A workshop for a server, which has its data folder to itself.
    ///
    /// # Errors
    /// A sentence saying what is missing, damaged or taken.
    pub fn open(folder: &Path) -> Result<Self, String> {
        Self::new(Store::open(folder).map_err(|error| error.to_string())?)
    }

    /// Lets go for good of what was removed more than 30 days ago. What cannot be let go of stays and is told to the log.
    pub fn tidy(&self) {
        match self.store.tidy(now() - REMOVED_FOR) {
            Ok(gone) => tracing::info!("{} jobs and {} pictures were let go of", gone.jobs, gone.pictures),
            Err(error) => tracing::warn!("nothing was let go of: {error}"),
        }
    }

    /// A job for the bench.
    ///
    /// # Errors
    /// A problem where it is not there or cannot be read.
    pub fn open_job(&self, id: &JobId) -> Result<OpenJob, Problem> {
        let held = self.jobs.load(id)?;
        let (can_undo, can_redo) = held.can_step;
        Ok(OpenJob {
            job: held.job.as_ref().clone(),
            revision: held.revision,
            kept_at: held.kept_at,
            can_undo,
            can_redo,
        })
    }

    /// A whole side for the stage.
    ///
    /// # Errors
    /// A problem where it is not there.
    pub fn stage(&self, id: &JobId, side: &SideId, carets: Option<&ItemId>) -> Result<StageDelta, Problem> {
        let held = self.jobs.load(id)?;
        let (piece, side) = find_side(&held.job, side)?;
        Ok(StageDelta { revision: held.revision, ..self.stages.whole(&held.job, piece, side, carets) })
    }

    /// What a small picture of a side depends on: of two pictures with one key everything is the same.
    ///
    /// # Errors
    /// A problem where the side is not there.
    pub fn thumbnail_key(&self, id: &JobId, side: &SideId, width: u32) -> Result<String, Problem> {
        let job = self.jobs.load(id)?.job;
        let (piece, side) = find_side(&job, side)?;
        Ok(format!("{}/{}/{width}/{}", state_key(&job, piece), side.id, self.studio.typesetter.library().stamp()))
    }

    /// A picture of a part of a side that only pixels can show, so many pixels wide, and whether it is the one a stamp names.
    ///
    /// # Errors
    /// A problem where the job is not there.
    pub fn part(
        &self,
        id: &JobId,
        side: &SideId,
        part: ScenePart<'_>,
        wanted: (u32, u64),
    ) -> Result<Option<(Premultiplied, bool)>, Problem> {
        let job = self.jobs.load(id)?.job;
        Ok(self.stages.part(&job, side, part, wanted))
    }

    /// A small picture of a side, as PNG.
    ///
    /// # Errors
    /// A problem where it is not there or cannot be drawn.
    pub fn thumbnail(&self, id: &JobId, side: &SideId, width: u32) -> Result<Arc<Vec<u8>>, Problem> {
        let key = self.thumbnail_key(id, side, width)?;
        let job = self.jobs.load(id)?.job;
        let (piece, side) = find_side(&job, side)?;
        self.shelves.thumbnail(&key, || self.studio.scene(&job, piece, side, Audience::Output, None), width)
    }

    /// The ways in which a piece for a place can be arranged, the best first.
    ///
    /// # Errors
    /// A problem where the job or the place is not there.
    pub fn ways(&self, id: &JobId, query: &WaysQuery) -> Result<Vec<WayCard>, Problem> {
        let job = self.jobs.load(id)?.job;
        let entry = self.shelves.place(&query.place)?;
        let (_, found) = self.acting.ways(&job, &entry, query.from.as_ref())?;
        let card = |(number, plan): (usize, &Plan)| WayCard {
            number,
            name: plan.way.clone(),
            fits: plan.fits,
            left: plan.left_out(&job),
        };
        Ok(found.iter().take(MOST_WAYS).enumerate().map(card).collect())
    }

    /// A piece for a place as it would be, as PNG.
    ///
    /// # Errors
    /// A problem where the job, the place or the way is not there.
    pub fn way_picture(&self, id: &JobId, query: &WaysQuery) -> Result<Arc<Vec<u8>>, Problem> {
        let held = self.jobs.load(id)?;
        let WaysQuery { place, from, way, w } = query;
        let (way, width) = (way.unwrap_or(0), w.unwrap_or(320));
        let library = self.studio.typesetter.library().stamp();
        let key = format!("way/{id}/{}/{place}/{from:?}/{way}/{width}/{library}", held.revision);
        self.shelves.small_picture(&key, || {
            let wish = PlaceWish { place: place.clone(), way: Some(way) };
            let mut job = held.job.as_ref().clone();
            let before = job.pieces.len();
            let (command, _) = self.acting.added(&job, &wish, from.as_ref())?;
            command.apply(&mut job, self.shelves.as_ref())?;
            let piece = job.pieces.get(before).ok_or_else(|| Problem::value("Nothing came of it."))?;
            let scene = self.studio.scene(&job, piece, &piece.sides[0], Audience::Stage, None);
            picture_of(&self.studio, &scene, width)
        })
    }

    /// A piece of a job in another design, as PNG.
    ///
    /// # Errors
    /// A problem where the job, the design or the piece is not there.
    pub fn redesigned_picture(
        &self,
        id: &JobId,
        design: &str,
        piece: &PieceId,
        width: u32,
    ) -> Result<Arc<Vec<u8>>, Problem> {
        let held = self.jobs.load(id)?;
        let library = self.studio.typesetter.library().stamp();
        let key = format!("design/{id}/{}/{design}/{piece}/{width}/{library}", held.revision);
        self.shelves.small_picture(&key, || {
            let mut job = held.job.as_ref().clone();
            let (command, _) = self.acting.redesign(&job, design)?;
            command.apply(&mut job, self.shelves.as_ref())?;
            let piece = find_piece(&job, piece)?;
            let scene = self.studio.scene(&job, piece, &piece.sides[0], Audience::Stage, None);
            picture_of(&self.studio, &scene, width)
        })
    }

    /// The pieces in which the last move of a job means the same.
    ///
    /// # Errors
    /// A problem where the job is not there.
    pub fn repeats(&self, id: &JobId) -> Result<Vec<RepeatCard>, Problem> {
        let held = self.jobs.load(id)?;
        let found = self.acting.repeats(id, &held.job)?.into_iter();
        Ok(found.map(|repeat| RepeatCard { piece: repeat.piece, by_hand: repeat.by_hand }).collect())
    }

    /// A piece with the last move repeated in it, as PNG.
    ///
    /// # Errors
    /// A problem where the job or the piece is not there, or the move means nothing in it.
    pub fn repeated_picture(&self, id: &JobId, piece: &PieceId, width: u32) -> Result<Arc<Vec<u8>>, Problem> {
        let held = self.jobs.load(id)?;
        let key = format!("repeat/{id}/{}/{piece}/{width}", held.revision);
        self.shelves.small_picture(&key, || {
            let mut job = held.job.as_ref().clone();
            self.acting.repeated(id, &job, std::slice::from_ref(piece))?.apply(&mut job, self.shelves.as_ref())?;
            let piece = find_piece(&job, piece)?;
            let scene = self.studio.scene(&job, piece, &piece.sides[0], Audience::Stage, None);
            picture_of(&self.studio, &scene, width)
        })
    }

    /// Makes and keeps a job. It is named from its headline, or from its first place.
    ///
    /// # Errors
    /// A problem where design or places make no sense; then nothing is made.
    pub fn start(&self, wish: &StartRequest) -> Result<JobId, Problem> {
        if wish.places.is_empty() || wish.places.len() > 40 {
            return Err(Problem::value("Choose 1 to 40 places for the job."));
        }
        let chosen = |id: &String| {
            let mut place = self.shelves.place(id)?;
            if wish.backs && place.sides.is_empty() && place.format.unit != vatman_units::Unit::Px {
                place.sides = vec!["Front".to_owned(), "Back".to_owned()];
            }
            Ok((place, 1))
        };
        let places = wish.places.iter().map(chosen).collect::<Result<Vec<_>, Problem>>()?;
        if wish.words.values().any(|text| text.chars().count() > 2_000) {
            return Err(Problem::value("One part holds at most 2,000 letters to start with."));
        }
        let headline = wish.words.get(&vatman_document::Part::Headline);
        let title = headline.and_then(|text| title_of(text)).unwrap_or_else(|| untitled(&places[0].0.name));
        let id = JobId::fresh(&mut Ids);
        let job = match &wish.design {
            Some(design) => {
                let designs = [self.shelves.design(design)?];
                let brief = Brief { title: &title, designs: &designs, places: &places, words: &wish.words };
                self.shelves.compose_to_read(id, &brief)?
            }
            None => blank(id, &title, &places, (wish.grid, self.shelves.as_ref()))?,
        };
        self.jobs.insert(&job, now())?;
        Ok(job.id)
    }
}

impl Workshop {
    /// Pieces whose files are larger than their places take. Every such file is made for this, unless it was before.
    ///
    /// # Errors
    /// A problem where the job is not there or a file cannot be made.
    pub fn check_files(&self, id: &JobId) -> Result<Vec<Checked>, Problem> {
        let found = self.handing.too_large(id)?;
        Ok(weighed(&self.jobs.load(id)?.job, found))
    }

    /// What the next of a job's series is made from.
    ///
    /// # Errors
    /// A problem where the job is not there.
    pub fn next(&self, id: &JobId, step: Pace) -> Result<NextCard, Problem> {
        let job = self.jobs.load(id)?.job;
        let steps = Pace::ALL.into_iter().map(|(step, name)| StepCard { step, name }).collect();
        Ok(NextCard { steps, next: next_of(&job, step, today()) })
    }

    /// Makes and keeps the next of a job's series, or a copy of it.
    ///
    /// # Errors
    /// A problem where the job is not there or cannot say that; then nothing is made.
    pub fn make_next(&self, id: &JobId, wish: &NextRequest) -> Result<JobId, Problem> {
        let job = self.jobs.load(id)?.job;
        let title = wish.title.clone().unwrap_or_else(|| copy_title(&job.title));
        let next = next_job(&job, JobId::fresh(&mut Ids), &title, &wish.words, self.shelves.as_ref())?;
        self.jobs.insert(&next, now())?;
        Ok(next.id)
    }
}

/// White sheets without anything on them; clear where the place is made without a ground.
fn blank(
    id: JobId,
    title: &str,
    places: &[(PlaceEntry, usize)],
    (grid, known): (Option<Grid>, &dyn Known),
) -> Result<Job, Problem> {
    let mut job = Job::new(id, title);
    for (place, _) in places {
        let ground = (!place.clear).then(|| Paint::flat(Color::WHITE));
        let names = if place.sides.is_empty() { vec!["Front".to_owned()] } else { place.sides.clone() };
        let sides = names.into_iter().map(|name| Side::blank(SideId::fresh(&mut Ids), name, ground.clone()));
        let piece = Piece::new(PieceId::fresh(&mut Ids), place.name.clone(), place.format, sides.collect());
        let guides = grid.map(|grid| grid.guides(&place.format)).unwrap_or_default();
        let piece = Piece { place: Some(place.id.clone()), guides, ..piece };
        Command::InsertPiece { index: usize::MAX, piece, kins: BTreeMap::new() }.apply(&mut job, known)?;
    }
    Ok(job)
}
