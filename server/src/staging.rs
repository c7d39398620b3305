//! Sides on the stage: composed once, and sent as what changed about them.

use std::cell::RefCell;
use std::collections::{BTreeMap, HashMap};
use std::sync::{Arc, Mutex, PoisonError};

use vatman_craft::{
    GuideMark, Studio, arrangements, copy_in_order, gifts, guide_marks, handles, item_findings, keeps_proportion,
    packed, pen_thickness, sight,
};
use vatman_document::{Content, Format, ItemId, Job, JobId, PictureSource, Piece, Plain, Removed, Side, SideId, Tint};
use vatman_output::{
    PictureLinks, ScenePart, bunch_fragments, ground_fragment, item_fragment, painted_box, part_area, render_part,
};
use vatman_photo::Premultiplied;
use vatman_scene::{Before, Scene, SceneItem};
use vatman_type::FontLibrary;
use vatman_units::Length;

use crate::types::{StageBunch, StageDelta, StageItem};

/// Sides whose scenes are kept for the next act on them.
const STAGED: usize = 16;
/// Colours of a drawing that are listed: more are recoloured as a whole.
const LISTED: usize = 24;

/// The width at which a picture is made that is shown this wide: one of a few, so that few versions are made.
pub(crate) fn made_width(shown: f64) -> u32 {
    [160, 320, 640, 960, 1_280, 1_920].into_iter().find(|step| f64::from(*step) >= shown).unwrap_or(2_560)
}

/// Where a picture is found that is shown this wide.
pub(crate) fn media_link(source: &PictureSource, shown: f64) -> String {
    let (id, wide) = (&source.asset, made_width(shown));
    if source.is_plain() {
        format!("/media/{id}?w={wide}")
    } else {
        // What is done to it is in the address: the same address is the same picture, whoever asks and whenever.
        format!("/media/{id}?w={wide}&as={}", packed(source))
    }
}

/// Links of the stage of a side.
pub(crate) struct StageLinks<'a> {
    job: &'a JobId,
    side: &'a SideId,
    /// Pictures of parts that were linked since they were last taken.
    parts: RefCell<Vec<String>>,
}

impl<'a> StageLinks<'a> {
    pub(crate) fn new(job: &'a JobId, side: &'a SideId) -> Self {
        Self { job, side, parts: RefCell::default() }
    }
}

impl PictureLinks for StageLinks<'_> {
    fn link(&self, source: &PictureSource, width: f64) -> String {
        media_link(source, width)
    }

    fn part(&self, scene: &Scene, part: ScenePart<'_>, stamp: u64) -> Option<(String, kurbo::Rect)> {
        let width = made_width(part_area(scene, part, 1.0)?.width()).min(PART);
        let area = part_area(scene, part, part_scale(scene, part, width)?)?;
        let (kind, id) = match part {
            ScenePart::Bunch(id) => ("bunch", id.as_str()),
            ScenePart::Behind(id) => ("behind", id.as_str()),
        };
        let (job, side) = (self.job, self.side);
        let link = format!("/api/jobs/{job}/sides/{side}/parts/{kind}/{id}?w={width}&stamp={stamp:x}");
        self.parts.borrow_mut().push(link.clone());
        Some((link, area))
    }
}

/// Pixels across of the largest picture of a part of a sheet: it is drawn anew whenever anything in it changes.
const PART: u32 = 1_280;

/// Pixels in a unit of the sheet for a part of a scene to be so many pixels wide.
pub(crate) fn part_scale(scene: &Scene, part: ScenePart<'_>, width: u32) -> Option<f64> {
    // At a very fine scale, the area is what it is.
    Some(f64::from(width) / part_area(scene, part, 1_000.0)?.width())
}

/// A side as it was last composed for the stage.
#[derive(Clone)]
pub(crate) struct Staged {
    side: SideId,
    job: Arc<Job>,
    scene: Arc<Scene>,
    /// Items with words, in reading order.
    reading: Vec<ItemId>,
    guides: Vec<GuideMark>,
    arrangements: Vec<Vec<ItemId>>,
    pen: Length,
    names: BTreeMap<ItemId, String>,
    /// The families it was set in.
    library: Arc<FontLibrary>,
}

/// The stages of all windows.
pub struct Stages {
    studio: Arc<Studio>,
    /// The sides last shown on a stage, newest last.
    kept: Mutex<Vec<Staged>>,
}

/// What is asked for of a stage.
pub(crate) struct Watch<'a> {
    pub(crate) side: &'a SideId,
    /// The item being typed in, whose places of the caret are wanted.
    pub(crate) carets: Option<&'a ItemId>,
}

impl<'a> Watch<'a> {
    /// A side that is watched, if any is.
    pub(crate) fn of(side: Option<&'a SideId>, carets: Option<&'a ItemId>) -> Option<Self> {
        side.map(|side| Self { side, carets })
    }
}

impl Stages {
    /// Stages without anything on them.
    #[must_use]
    pub fn new(studio: Arc<Studio>) -> Self {
        Self { studio, kept: Mutex::default() }
    }

    /// A whole side.
    pub(crate) fn whole(&self, job: &Arc<Job>, piece: &Piece, side: &Side, carets: Option<&ItemId>) -> StageDelta {
        let now = self.compose(job, piece, side, carets, None);
        let delta = self.delta(job, piece.format, &now, None, carets);
        self.keep(now);
        delta
    }

    /// What changed about a side from one state of its job to another; nothing where it is not there any more. What is only
    /// rehearsed is not kept for the next act.
    pub(crate) fn change(&self, old: &Arc<Job>, new: &Arc<Job>, watch: &Watch<'_>, kept: bool) -> Option<StageDelta> {
        let (piece, side) = new.side(watch.side)?;
        let before = old.side(&side.id).map(|(piece, side)| (side, self.staged(old, piece, side)));
        // What was set in other families is drawn anew, and what looks different then is sent.
        let library = self.studio.typesetter.library();
        let known = before
            .as_ref()
            .filter(|(_, staged)| Arc::ptr_eq(&staged.library, &library))
            .map(|(side, staged)| Before { job: old, side, scene: &staged.scene });
        let now = self.compose(new, piece, side, watch.carets, known);
        let delta = self.delta(new, piece.format, &now, before.as_ref().map(|(_, staged)| staged), watch.carets);
        if kept {
            self.keep(now);
        }
        Some(delta)
    }

    /// A picture of a part of a side, so many pixels wide, and whether it is the one a stamp names; nothing where it is not there or
    /// cannot be drawn.
    pub(crate) fn part(
        &self,
        job: &Arc<Job>,
        side: &SideId,
        part: ScenePart<'_>,
        (width, stamp): (u32, u64),
    ) -> Option<(Premultiplied, bool)> {
        let (piece, side) = job.side(side)?;
        let scene = self.staged(job, piece, side).scene;
        let now = match part {
            ScenePart::Bunch(id) => scene.bunches.iter().find(|bunch| bunch.id == *id)?.stamp,
            ScenePart::Behind(id) => scene.items.iter().find(|item| item.id == *id)?.behind.as_ref()?.stamp,
        };
        let scale = part_scale(&scene, part, width)?;
        let library = self.studio.typesetter.library();
        let (pixels, _) = render_part(&scene, part, scale, library.as_ref(), &self.studio.pictures).ok()??;
        Some((pixels, now == stamp))
    }

    /// A side as it is on the stage now, with what nothing has changed about taken over from before.
    fn compose(
        &self,
        job: &Arc<Job>,
        piece: &Piece,
        side: &Side,
        carets: Option<&ItemId>,
        before: Option<Before<'_>>,
    ) -> Staged {
        Staged {
            side: side.id.clone(),
            job: Arc::clone(job),
            scene: Arc::new(self.studio.stage_scene(job, piece, side, carets, before)),
            reading: copy_in_order(job, side).into_iter().map(|line| line.item).collect(),
            guides: guide_marks(&piece.guides, piece.format.size),
            arrangements: arrangements(job, side),
            pen: pen_thickness(piece.format.size),
            names: names(job, piece, side),
            library: self.studio.typesetter.library(),
        }
    }

    /// A side as it was last composed for this very state of the job, or composed now.
    fn staged(&self, job: &Arc<Job>, piece: &Piece, side: &Side) -> Staged {
        let kept = self.kept.lock().unwrap_or_else(PoisonError::into_inner);
        let is = |staged: &&Staged| staged.side == side.id && Arc::ptr_eq(&staged.job, job);
        let found = kept.iter().find(is).cloned();
        drop(kept);
        found.unwrap_or_else(|| {
            let staged = self.compose(job, piece, side, None, None);
            self.keep(staged.clone());
            staged
        })
    }

    fn keep(&self, staged: Staged) {
        let mut kept = self.kept.lock().unwrap_or_else(PoisonError::into_inner);
        kept.retain(|old| old.side != staged.side || old.job.id != staged.job.id);
        kept.push(staged);
        let surplus = kept.len().saturating_sub(STAGED);
        kept.drain(..surplus);
    }

    fn delta(
        &self,
        job: &Job,
        format: Format,
        now: &Staged,
        before: Option<&Staged>,
        carets: Option<&ItemId>,
    ) -> StageDelta {
        let library = self.studio.typesetter.library();
        let outlines = library.as_ref();
        let scene = now.scene.as_ref();
        let old: HashMap<_, _> =
            before.iter().flat_map(|before| &before.scene.items).map(|item| (&item.id, item)).collect();
        let changed = scene
            .items
            .iter()
            .filter(|item| carets == Some(&item.id) || old.get(&item.id).is_none_or(|old| !item.is_as(old)));
        let links = StageLinks::new(&job.id, &now.side);
        let item = |item: &SceneItem| {
            let plain = job.find(&item.id).and_then(|found| found.plain()).ok();
            stage_item(&self.studio, &links, (scene, item), format, plain.as_ref())
        };
        let same_bunches = before.is_some_and(|before| {
            // Where the look of one depends on its members, it changes with them.
            before.scene.bunches == scene.bunches
                && scene.bunches.iter().all(|bunch| {
                    let members = &scene.items[bunch.first..bunch.end()];
                    members.iter().all(|item| old.get(&item.id).is_some_and(|old| item.is_as(old)))
                })
        });
        let bunches = || {
            let bunch = |bunch: &vatman_scene::Bunch| {
                let vatman_output::BunchFragments { defs, style, picture } =
                    bunch_fragments(scene, bunch, outlines, &links);
                let parts = links.parts.take();
                StageBunch {
                    group: bunch.id.clone(),
                    first: bunch.first,
                    count: bunch.count,
                    defs,
                    style,
                    picture,
                    parts,
                }
            };
            scene.bunches.iter().map(bunch).collect()
        };
        let ground = (before.map(|before| &before.scene.ground) != Some(&scene.ground)).then(|| {
            let sheet = scene.size.to_rect().inflate(scene.bleed, scene.bleed);
            ground_fragment(scene, sheet, outlines, &links)
        });
        let same_order = before.is_some_and(|before| {
            before.scene.items.iter().map(|item| &item.id).eq(scene.items.iter().map(|item| &item.id))
        });
        StageDelta {
            side: now.side.clone(),
            revision: 0,
            width: scene.size.width,
            height: scene.size.height,
            bleed: scene.bleed,
            pen: now.pen,
            ground,
            items: changed.map(item).collect(),
            order: (!same_order).then(|| scene.items.iter().map(|item| item.id.clone()).collect()),
            bunches: (!same_bunches).then(bunches),
            names: changed_names(before.map(|before| &before.names), &now.names),
            reading: before.is_none_or(|before| before.reading != now.reading).then(|| now.reading.clone()),
            guides: before.is_none_or(|before| before.guides != now.guides).then(|| now.guides.clone()),
            arrangements: before
                .is_none_or(|before| before.arrangements != now.arrangements)
                .then(|| now.arrangements.clone()),
        }
    }
}

fn stage_item(
    studio: &Studio,
    links: &StageLinks<'_>,
    (scene, item): (&Scene, &SceneItem),
    format: Format,
    plain: Option<&Plain<'_>>,
) -> StageItem {
    let library = studio.typesetter.library();
    let outlines = library.as_ref();
    let is_words = plain.is_some_and(|plain| matches!(plain.content, Content::Words { .. }));
    let mut findings = plain.map_or_else(Vec::new, |plain| item_findings(studio, format, plain, item));
    findings.retain(|finding| finding.kind.is_shown_at_once());
    let svg = item_fragment(scene, item, outlines, links);
    StageItem {
        id: item.id.clone(),
        svg,
        parts: links.parts.take(),
        frame: item.frame,
        ink: is_words
            .then(|| painted_box(&item.node, outlines))
            .flatten()
            .map(|ink| [ink.x0, ink.y0, ink.width(), ink.height()]),
        findings,
        sight: sight(studio, item),
        type_size: item.type_size,
        handles: plain.map_or(vatman_craft::Handles::All, handles),
        bound: plain.is_some_and(keeps_proportion),
        own: plain.as_ref().map_or_else(Vec::new, |plain| plain.own_look().properties()),
        gifts: plain.map_or_else(Vec::new, |plain| gifts(plain.content, &plain.look)),
        colours: plain.map_or_else(Vec::new, |plain| colours(plain.content)),
        carets: item.carets.clone(),
    }
}

fn colours(content: &Content) -> Vec<Tint> {
    let Content::Drawing { drawing } = content else { return Vec::new() };
    drawing.colours().into_iter().take(LISTED).collect()
}

/// What the items of a side, and those kept aside of its piece, are called.
fn names(job: &Job, piece: &Piece, side: &Side) -> BTreeMap<ItemId, String> {
    let here = side.items.iter().filter_map(|item| Some((item.id.clone(), job.plain(item)?.name())));
    piece.tray.iter().map(|removed| (removed.item.id.clone(), Removed::name(removed))).chain(here).collect()
}

fn changed_names(
    old: Option<&BTreeMap<ItemId, String>>,
    new: &BTreeMap<ItemId, String>,
) -> BTreeMap<ItemId, Option<String>> {
    let gone =
        old.into_iter().flat_map(BTreeMap::keys).filter(|id| !new.contains_key(*id)).map(|id| (id.clone(), None));
    let changed = new.iter().filter(|(id, name)| old.and_then(|old| old.get(*id)) != Some(name));
    gone.chain(changed.map(|(id, name)| (id.clone(), Some(name.clone())))).collect()
}
