//! A page as it is printed: scenes placed on paper, and what stands around them for those who cut and register it.

use std::sync::Arc;

use kurbo::{Affine, BezPath, Rect, Size};
use vatman_scene::Scene;
use vatman_type::GlyphRun;

use crate::marks;

/// A scene on a page.
#[derive(Debug, Clone)]
pub struct PlacedScene {
    /// What is drawn.
    pub scene: Arc<Scene>,
    /// From the scene to the page.
    pub at: Affine,
    /// What of it is seen, in its own coordinates; nothing means all that is on the page.
    pub seen: Option<Rect>,
}

/// Letters on a page that belong to no piece, in every ink.
#[derive(Debug, Clone)]
pub struct Lettering {
    /// Glyphs, from where `at` takes the origin.
    pub runs: Vec<GlyphRun>,
    /// To the page.
    pub at: Affine,
}

/// One page; lengths are CSS pixels from the top left corner of the paper.
#[derive(Debug, Clone)]
pub struct PrintPage {
    /// Width and height of the paper.
    pub size: Size,
    /// What is left after trimming (TrimBox).
    pub trim: Rect,
    /// What is printed of it (BleedBox).
    pub bleed: Rect,
    /// Back to front.
    pub placed: Vec<PlacedScene>,
    /// Hairlines in every ink.
    pub marks: BezPath,
    /// Dashed hairlines in every ink: where it is folded.
    pub folds: BezPath,
    /// Letters in every ink.
    pub letters: Vec<Lettering>,
    /// Resolution of what vectors cannot say, in pixels per inch at a scale of one.
    pub ppi: f64,
}

impl PrintPage {
    /// An empty sheet.
    #[must_use]
    pub fn blank(size: Size, ppi: f64) -> Self {
        let whole = size.to_rect();
        Self {
            size,
            trim: whole,
            bleed: whole,
            placed: Vec::new(),
            marks: BezPath::new(),
            folds: BezPath::new(),
            letters: Vec::new(),
            ppi,
        }
    }

    /// One side of a piece for itself: as large as its trim, or with its bleed around it.
    #[must_use]
    pub fn single(scene: Arc<Scene>, bleed: bool, ppi: f64) -> Self {
        let bleed = if bleed { scene.bleed } else { 0.0 };
        Self::around(scene, bleed, bleed, ppi)
    }

    /// One side of a piece with its bleed, crop marks around it, and a slug that begins 2 mm inside the left of the trim, about its middle.
    #[must_use]
    pub fn marked(scene: Arc<Scene>, bleed: bool, slug: Vec<GlyphRun>, ppi: f64) -> Self {
        let bleed = if bleed { scene.bleed } else { 0.0 };
        let size = scene.size;
        let room = marks::room(bleed);
        let mut page = Self::around(scene, bleed, room, ppi);
        // What hangs over the edge would be seen between the marks.
        page.placed.iter_mut().for_each(|placed| placed.seen = Some(size.to_rect().inflate(bleed, bleed)));
        page.marks = Affine::translate((room, room)) * marks::crop_marks(size, bleed);
        let at = Affine::translate((room + marks::SLUG_INSET, room + size.height + marks::slug_middle(bleed)));
        page.letters.push(Lettering { runs: slug, at });
        page
    }

    fn around(scene: Arc<Scene>, bleed: f64, room: f64, ppi: f64) -> Self {
        let trim = Rect::from_origin_size((room, room), scene.size);
        let size = Size::new(scene.size.width + 2.0 * room, scene.size.height + 2.0 * room);
        let at = Affine::translate((room, room));
        Self {
            trim,
            bleed: trim.inflate(bleed, bleed),
            placed: vec![PlacedScene { scene, at, seen: None }],
            ..Self::blank(size, ppi)
        }
    }
}
