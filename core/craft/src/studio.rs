//! Type and pictures at hand, and what can be seen and measured with them.

use std::sync::Arc;

use quick_cache::Weighter;
use quick_cache::sync::Cache;
use vatman_document::{AssetId, Color, Focus, Item, ItemId, Job, Known, Look, PictureSource, Piece, Side};
use vatman_output::{PixelError, PixelOptions, render_pixels};
use vatman_photo::{Pictures, Premultiplied};
use vatman_scene::{Audience, Before, Means, Scene, baselines, recompose, spot_at, spot_on_sheet};
use vatman_type::Typesetter;
use vatman_units::{Length, Point, Rect};

/// All that composing and output need from outside a job.
pub struct Studio {
    /// Sets words.
    pub typesetter: Arc<Typesetter>,
    /// Knows pictures.
    pub pictures: Arc<Pictures>,
    /// What words stand on, as it was last drawn to be measured.
    pub(crate) grounds: Grounds,
}

/// Drawn grounds by the name of what is on them, within a budget.
pub(crate) struct Grounds(Cache<AssetId, Arc<Premultiplied>, ByBytes>);

#[derive(Clone)]
struct ByBytes;

impl Weighter<AssetId, Arc<Premultiplied>> for ByBytes {
    fn weight(&self, _: &AssetId, pixels: &Arc<Premultiplied>) -> u64 {
        pixels.data().len() as u64
    }
}

impl Grounds {
    /// Bytes that are kept.
    const BUDGET: u64 = 48 << 20;

    pub(crate) fn get_or_insert_with<E>(
        &self,
        name: &AssetId,
        draw: impl FnOnce() -> Result<Arc<Premultiplied>, E>,
    ) -> Result<Arc<Premultiplied>, E> {
        self.0.get_or_insert_with(name, draw)
    }
}

impl Known for Studio {
    fn has_family(&self, name: &str) -> bool {
        self.typesetter.library().has(name)
    }

    fn has_picture(&self, id: &AssetId) -> bool {
        self.pictures.info(id).is_some()
    }
}

impl Studio {
    /// A studio with what is at hand.
    #[must_use]
    pub fn new(typesetter: Arc<Typesetter>, pictures: Arc<Pictures>) -> Self {
        Self { typesetter, pictures, grounds: Grounds(Cache::with_weighter(64, Grounds::BUDGET, ByBytes)) }
    }

    /// Does something with the means of composing.
    pub(crate) fn with_means<T>(
        &self,
        audience: Audience,
        carets: Option<&ItemId>,
        work: impl FnOnce(&Means<'_>) -> T,
    ) -> T {
        let picture_size = |id: &AssetId| self.pictures.info(id).map(|info| (info.width, info.height));
        let contours = |source: &Arc<PictureSource>| self.pictures.contour(source);
        let (typesetter, picture_size, contours) = (&self.typesetter, &picture_size, &contours);
        work(&Means { typesetter, picture_size, contours, audience, carets })
    }

    /// The size in pixels of a picture as a look shows it; nothing where it is not at hand.
    #[must_use]
    pub fn picture_size(&self, picture: &AssetId, look: &Look) -> Option<(u32, u32)> {
        let info = self.pictures.info(picture)?;
        let original = (info.width, info.height);
        Some(look.upright.map_or(original, |upright| upright.size(original)))
    }

    /// The scene of a side.
    #[must_use]
    pub fn scene(&self, job: &Job, piece: &Piece, side: &Side, audience: Audience, carets: Option<&ItemId>) -> Scene {
        self.with_means(audience, carets, |means| recompose(job, piece, side, means, None))
    }

    /// The scene of a side on the stage, with what nothing has changed about taken over from before.
    #[must_use]
    pub fn stage_scene(
        &self,
        job: &Job,
        piece: &Piece,
        side: &Side,
        carets: Option<&ItemId>,
        before: Option<Before<'_>>,
    ) -> Scene {
        self.with_means(Audience::Stage, carets, |means| recompose(job, piece, side, means, before))
    }

    /// The spot of the picture of an item that lies at a point of the sheet; nothing where it shows no picture.
    #[must_use]
    pub fn spot_at(&self, job: &Job, item: &Item, point: Point) -> Option<Focus> {
        let point = kurbo::Point::new(point.x.to_css_px(), point.y.to_css_px());
        self.with_means(Audience::Stage, None, |means| spot_at(job, item, point, means))
    }

    /// Where a spot of the picture of an item lies on the sheet, in CSS pixels; nothing where it shows no picture.
    pub(crate) fn spot_on_sheet(&self, job: &Job, item: &Item, at: Focus) -> Option<kurbo::Point> {
        self.with_means(Audience::Stage, None, |means| spot_on_sheet(job, item, at, means))
    }

    /// The box an item is drawn in, before it is turned; its place where it is not drawn.
    #[must_use]
    pub fn drawn(&self, job: &Job, item: &Item) -> Rect {
        let frame = self.with_means(Audience::Stage, None, |means| vatman_scene::item_frame(job, item, means));
        let px = Length::css_px;
        frame.map_or(item.place.at.rect, |frame| Rect::new(px(frame.x), px(frame.y), px(frame.w), px(frame.h)))
    }

    /// The upright box around the lines of an item before its turn, in CSS pixels; its whole box where it has none.
    pub(crate) fn letters(&self, job: &Job, item: &Item) -> kurbo::Rect {
        let found = self.with_means(Audience::Stage, None, |means| vatman_scene::letter_box(job, item, means));
        found.unwrap_or_else(|| item.place.at.rect.to_css_px())
    }

    /// The baselines of the words of an item: where they lie, and from where to where.
    #[must_use]
    pub fn baselines(&self, job: &Job, item: &Item) -> Vec<(Length, Length, Length)> {
        let px = Length::css_px;
        let found = self.with_means(Audience::Stage, None, |means| baselines(job, item, means));
        found.into_iter().map(|(at, from, to)| (px(at), px(from), px(to))).collect()
    }

    /// The mean colour of what is seen on a side within a box; nothing where it cannot be drawn or is clear there.
    #[must_use]
    pub fn seen_in(&self, job: &Job, piece: &Piece, side: &Side, rect: Rect) -> Option<Color> {
        self.mean_in(&self.scene(job, piece, side, Audience::Output, None), rect)
    }

    /// The mean colour of what lies below an item of a side within a box; nothing where it is clear there.
    #[must_use]
    pub fn seen_below(&self, job: &Job, piece: &Piece, side: &Side, item: &ItemId, rect: Rect) -> Option<Color> {
        let mut scene = self.scene(job, piece, side, Audience::Output, None);
        let below = scene.items.iter().position(|drawn| drawn.id == *item)?;
        scene.items.truncate(below);
        self.mean_in(&scene, rect)
    }

    fn mean_in(&self, scene: &Scene, rect: Rect) -> Option<Color> {
        const WIDE: u32 = 120;
        let unit = f64::from(WIDE) / scene.size.width;
        let high = ((scene.size.height * unit).round() as u32).clamp(1, 1_200);
        let pixels =
            self.pixels(scene, PixelOptions { width: WIDE, height: high, bleed: false, clear: false }).ok()?.straight();
        // At least one pixel, however small the box.
        let span = |from: f64, to: f64, most: u32| {
            let first = (from * unit).floor().clamp(0.0, f64::from(most - 1)) as u32;
            (first, ((to * unit).ceil() as u32).clamp(first + 1, most))
        };
        let area = rect.to_css_px();
        let [r, g, b] = pixels.mean(span(area.x0, area.x1, WIDE), span(area.y0, area.y1, high))?;
        Some(Color::opaque(r, g, b))
    }

    /// A side as pixels.
    ///
    /// # Errors
    /// [`PixelError`] for a size that cannot be made or a missing picture.
    pub fn pixels(&self, scene: &Scene, options: PixelOptions) -> Result<Premultiplied, PixelError> {
        render_pixels(scene, options, self.typesetter.library().as_ref(), &self.pictures)
    }
}
