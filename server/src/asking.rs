//! Questions about an open job that change nothing: where things snap, how words read, what should be looked at.

use std::sync::Arc;

use vatman_craft::{
    Arrangements, Baselines, Boxes, Checked, Clipping, ContrastError, Finding, Ground, Likeness, Mosaic, MosaicRoom,
    Reading, SideColours, SnapRange, SnapStops, Studio, alike, around, arranged, check_job, clip, findings,
    guide_marks, item_at, mosaics, room_to_begin, sheets, side_colours, stops,
};
use vatman_document::{AssetId, Color, IdSource, ItemId, Job, JobId, Known, Piece, SideId};
use vatman_output::{item_fragment, painted_box};
use vatman_scene::{Audience, Before, Frame};
use vatman_type::Arrangement;
use vatman_units::{Point, Rect};

use crate::ids::Ids;
use crate::jobs::Jobs;
use crate::problem::Problem;
use crate::shelves::Shelves;
use crate::staging::StageLinks;
use crate::types::{LockUpCard, MosaicOf, MosaicRequest, SeenCard};

/// Answers questions.
pub struct Asking {
    pub(crate) jobs: Arc<Jobs>,
    pub(crate) studio: Arc<Studio>,
    pub(crate) shelves: Arc<Shelves>,
}

/// The piece the first item stands in, and the upright boxes of all items of its side as drawn.
pub(crate) fn boxes<'a>(studio: &Studio, job: &'a Job, items: &[ItemId]) -> Result<(&'a Piece, Boxes), Problem> {
    let first = items.first().ok_or_else(|| Problem::value("Nothing is selected. Select items on the sheet first."))?;
    let found = job.find(first)?;
    let scene = studio.scene(job, found.piece, found.side, Audience::Stage, None);
    let frames = scene.items.iter().map(|item| (item.id.clone(), item.frame.upright()));
    Ok((found.piece, frames.collect()))
}

/// Arrangements of pictures of the shelf for an area.
pub(crate) fn mosaics_of(
    studio: &Studio,
    area: Rect,
    pictures: &[AssetId],
    room: MosaicRoom,
) -> Result<Vec<Mosaic>, Problem> {
    let aspect =
        |id: &AssetId| studio.pictures.info(id).map(|info| f64::from(info.width) / f64::from(info.height.max(1)));
    let aspects: Option<Vec<f64>> = pictures.iter().map(aspect).collect();
    let aspects = aspects.ok_or_else(|| Problem::not_found("A picture is not on the shelf any more."))?;
    Ok(mosaics(area, &aspects, room)?)
}

/// The pictures that frames show.
pub(crate) fn shown_in(job: &Job, items: &[ItemId]) -> Result<Vec<AssetId>, Problem> {
    let shown = |id: &ItemId| Ok(job.find(id)?.plain()?.content.picture().cloned());
    let pictures = items.iter().map(shown).collect::<Result<Option<Vec<_>>, Problem>>()?;
    pictures.ok_or_else(|| Problem::value("A frame among these is empty. Put a picture into it first."))
}

/// A side and its piece.
pub(crate) fn find_side<'a>(job: &'a Job, id: &SideId) -> Result<(&'a Piece, &'a vatman_document::Side), Problem> {
    job.side(id).ok_or_else(|| Problem::not_found("That side is not in the job any more."))
}

/// A piece.
pub(crate) fn find_piece<'a>(job: &'a Job, id: &vatman_document::PieceId) -> Result<&'a Piece, Problem> {
    job.piece(id).ok_or_else(|| Problem::not_found("That piece is not in the job any more."))
}

impl Asking {
    pub(crate) fn job(&self, id: &JobId) -> Result<Arc<Job>, Problem> {
        Ok(self.jobs.load(id)?.job)
    }

    /// How the words of an item read on what lies behind them; nothing where there are no letters.
    ///
    /// # Errors
    /// A problem where the item is not there or its ground cannot be drawn.
    pub fn reading(&self, id: &JobId, item: &ItemId) -> Result<Option<Reading>, Problem> {
        let job = self.job(id)?;
        let found = job.find(item)?;
        let ground = Ground { job: &job, piece: found.piece, side: found.side, item: found.item };
        match ground.measure(&self.studio) {
            Err(ContrastError::NoWords) => Ok(None),
            reading => Ok(Some(reading?)),
        }
    }

    /// The items of the same side that are like one of them.
    ///
    /// # Errors
    /// A problem where it is not there.
    pub fn alike(&self, id: &JobId, item: &ItemId, by: Likeness) -> Result<Vec<ItemId>, Problem> {
        let job = self.job(id)?;
        Ok(alike(&job, job.find(item)?.side, item, by))
    }

    /// What should be looked at before pieces leave, the worst first.
    ///
    /// # Errors
    /// A problem where the job is not there.
    pub fn findings(&self, id: &JobId) -> Result<Vec<Finding>, Problem> {
        let job = self.job(id)?;
        let of = |piece: &Piece| findings(&self.studio, &job, piece, Some(&self.shelves.entry_of(piece)));
        let mut found: Vec<Finding> = job.pieces.iter().flat_map(|piece| of(piece)).collect();
        found.sort_by_key(|finding| std::cmp::Reverse(finding.kind.weight()));
        Ok(found)
    }

    /// Everything that should be looked at, the worst first, with what would put it right.
    ///
    /// # Errors
    /// A problem where the job is not there.
    pub fn check(&self, id: &JobId) -> Result<Vec<Checked>, Problem> {
        let job = self.job(id)?;
        let entries = |piece: &Piece| self.shelves.entry_of(piece);
        let known = (self.shelves.as_ref() as &dyn Known, &mut Ids as &mut dyn IdSource);
        Ok(check_job(&self.studio, &job, &entries, self.shelves.keeping.reader(), known))
    }

    /// How wide each piece appears where it is met.
    ///
    /// # Errors
    /// A problem where the job is not there.
    pub fn seen(&self, id: &JobId) -> Result<Vec<SeenCard>, Problem> {
        let job = self.job(id)?;
        let card = |piece: &Arc<Piece>| SeenCard {
            piece: piece.id.clone(),
            // What is not known is taken to be met as on a telephone.
            width: self.shelves.entry_of(piece).seen.unwrap_or(vatman_units::Length::mm(64.0)),
        };
        Ok(job.pieces.iter().map(card).collect())
    }

    /// The frontmost item seen at a point of a side; nothing where there is only its ground.
    ///
    /// # Errors
    /// A problem where the side is not there.
    pub fn item_at(&self, id: &JobId, side: &SideId, point: Point) -> Result<Option<ItemId>, Problem> {
        let job = self.job(id)?;
        let (piece, side) = find_side(&job, side)?;
        Ok(item_at(&self.studio, &job, piece, side, point))
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

    /// Arrangements of pictures for a side, the one that shows most of them first.
    ///
    /// # Errors
    /// A problem for too few or too many pictures, or where there is no room.
    pub fn mosaics(&self, id: &JobId, side: &SideId, wish: &MosaicRequest) -> Result<Arrangements, Problem> {
        let job = self.job(id)?;
        match &wish.of {
            MosaicOf::Pictures(pictures) => {
                let sheet = find_side(&job, side)?.0.format.size;
                let room = wish.room.unwrap_or_else(|| room_to_begin(sheet.w.min(sheet.h)));
                Ok(Arrangements { room, forms: mosaics_of(&self.studio, Rect::of(sheet), pictures, room)?, form: None })
            }
            MosaicOf::Items(items) => {
                let now = arranged(&job, items)?;
                let pictures = shown_in(&job, items)?;
                let form = now.form(&mosaics_of(&self.studio, now.area, &pictures, now.room).unwrap_or_default());
                let room = wish.room.unwrap_or(now.room);
                Ok(Arrangements { room, forms: mosaics_of(&self.studio, now.area, &pictures, room)?, form })
            }
        }
    }

    /// Copies of items that need nothing of the job they came from.
    ///
    /// # Errors
    /// A problem where none of them is there.
    pub fn clipping(&self, id: &JobId, items: &[ItemId]) -> Result<Clipping, Problem> {
        Ok(clip(self.job(id)?.as_ref(), items)?)
    }

    /// The words of an item in every arrangement there is.
    ///
    /// # Errors
    /// A problem where the item is not there or holds no words.
    pub fn lock_ups(&self, id: &JobId, item: &ItemId) -> Result<Vec<LockUpCard>, Problem> {
        let job = self.job(id)?;
        let found = job.find(item)?;
        let library = self.studio.typesetter.library();
        // Only the item itself is set anew for each.
        let base = self.studio.stage_scene(&job, found.piece, found.side, None, None);
        let before = Before { job: &job, side: found.side, scene: &base };
        let rect = found.item.place.at.rect;
        let ground = self.studio.seen_below(&job, found.piece, found.side, item, rect).unwrap_or(Color::WHITE);
        let mut cards = Vec::new();
        let mut shown: Vec<Arc<vatman_scene::Node>> = Vec::new();
        let links = StageLinks::new(&job.id, &found.side.id);
        for number in 1..=Arrangement::COUNT {
            let change =
                vatman_craft::TypeChange { lock_up: Some(Some(number)), ..vatman_craft::TypeChange::default() };
            let command = vatman_craft::change_type(&job, std::slice::from_ref(item), &change, &library)?;
            let mut tried = job.as_ref().clone();
            command.apply(&mut tried, &crate::acting::Undoing)?;
            let (piece, side) = find_side(&tried, &found.side.id)?;
            let scene = self.studio.stage_scene(&tried, piece, side, None, Some(before));
            let Some(drawn) = scene.items.iter().find(|drawn| drawn.id == *item) else { continue };
            // Of a single word many arrangements are the same: each is offered once.
            if shown.contains(&drawn.node) {
                continue;
            }
            shown.push(Arc::clone(&drawn.node));
            // The same item is on the stage too: what names it here has a name of its own.
            let own = vatman_scene::SceneItem { id: ItemId::new(format!("try{number}"))?, ..drawn.clone() };
            cards.push(LockUpCard {
                number,
                plain: Arrangement::numbered(number).is_some_and(Arrangement::is_plain),
                svg: item_fragment(&scene, &own, library.as_ref(), &links),
                frame: painted_box(&drawn.node, library.as_ref()).map_or(drawn.frame, |ink| Frame {
                    x: ink.x0,
                    y: ink.y0,
                    w: ink.width(),
                    h: ink.height(),
                    turn: 0.0,
                }),
                ground,
            });
        }
        Ok(cards)
    }

    /// Where items fall into place while they are dragged together.
    ///
    /// # Errors
    /// A problem where they are not there.
    pub fn stops(&self, id: &JobId, items: &[ItemId]) -> Result<SnapStops, Problem> {
        let job = self.job(id)?;
        let (piece, boxes) = boxes(&self.studio, &job, items)?;
        let moving = around(items.iter().filter_map(|id| boxes.get(id).copied()));
        let sheet = Rect::of(piece.format.size);
        // What covers the sheet lines up with everything and says nothing.
        let others: Vec<Rect> = boxes
            .iter()
            .filter(|(id, rect)| !items.contains(id) && !rect.contains(sheet))
            .map(|(_, rect)| *rect)
            .collect();
        let side = items.first().and_then(|first| job.find(first).ok()).map(|found| found.side);
        let mut baselines = Baselines::default();
        for item in side.into_iter().flat_map(|side| &side.items).filter(|item| !item.hidden) {
            let found = self.studio.baselines(&job, item);
            if items.contains(&item.id) {
                baselines.own.extend(found.into_iter().map(|(at, ..)| at - moving.y));
            } else {
                baselines.others.extend(found.into_iter().map(|(at, from, to)| (at, SnapRange { from, to })));
            }
        }
        let marks = guide_marks(&piece.guides, piece.format.size);
        let parts = side.map_or_else(|| vec![sheet], |side| sheets(piece, &side.id));
        Ok(stops(moving, &others, &parts, piece.format.safe, &marks, &baselines))
    }
}
