//! Scene to pixels.

use std::sync::Arc;

use kurbo::{Affine, BezPath, Rect, Shape as _};
use thiserror::Error;
use tiny_skia::{
    BlendMode, FillRule, FilterQuality, GradientStop, IntSize, LinearGradient, Mask, MaskType, Paint, Pixmap,
    PixmapPaint, Point, RadialGradient, Shader, SpreadMode, Stroke, StrokeDash, SweepGradient, Transform,
};
use vatman_document::{Blend, Cap, GroupId, ItemId, Join, Spread};
use vatman_photo::{Pictures, Premultiplied, Window, blur};
use vatman_scene::{
    Behind, Brush, Filter, GlyphNode, Group, ImageNode, Line, MaskNodes, Node, PathNode, Rgba, Scene, Tile,
};
use vatman_type::GlyphOutlines;

use crate::blend::{is_whole, mix};
use crate::paths::{extent, glyph_path, raster_path, scale_of};
use crate::shade::Cover;
use crate::walk::{Sink, visit, walk, walk_bunch, walk_some};

/// How pixels are made.
#[derive(Debug, Clone, Copy)]
pub struct PixelOptions {
    /// Width of the finished size in pixels.
    pub width: u32,
    /// Height of the finished size in pixels.
    pub height: u32,
    /// Whether the bleed is added around it.
    pub bleed: bool,
    /// Whether the ground is left out.
    pub clear: bool,
}

/// Why there are no pixels.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum PixelError {
    /// No extent, or too much.
    #[error("A picture of {0} by {1} pixels cannot be made; up to 20,000 a side and 150 million in all can.")]
    Size(u32, u32),
    /// A picture of the scene is not at hand.
    #[error("A picture used in the design is not at hand any more: {0}.")]
    Picture(String),
}

/// Draws a scene.
///
/// # Errors
/// [`PixelError`] for a size that cannot be made or a picture that is missing.
pub fn render_pixels(
    scene: &Scene,
    options: PixelOptions,
    outlines: &dyn GlyphOutlines,
    pictures: &Pictures,
) -> Result<Premultiplied, PixelError> {
    let (sx, sy) = (f64::from(options.width) / scene.size.width, f64::from(options.height) / scene.size.height);
    let bleed = if options.bleed { scene.bleed } else { 0.0 };
    // The whole of sheet and bleed falls on whole pixels, so that its rim is neither half covered nor a pixel too many.
    let whole = |length: f64, unit: f64, own: u32| {
        if bleed > 0.0 { ((length + 2.0 * bleed) * unit).round().clamp(1.0, 1e9) as u32 } else { own }
    };
    let (width, height) = (whole(scene.size.width, sx, options.width), whole(scene.size.height, sy, options.height));
    let (sx, sy) =
        (f64::from(width) / (scene.size.width + 2.0 * bleed), f64::from(height) / (scene.size.height + 2.0 * bleed));
    let (edge_x, edge_y) = (bleed * sx, bleed * sy);
    let wrong = || PixelError::Size(width, height);
    if width.max(height) > 20_000 || u64::from(width) * u64::from(height) > 150_000_000 {
        return Err(wrong());
    }
    // What is treated reaches in from the bleed even where that is not part of the output.
    let treated = scene.items.iter().filter_map(|item| item.behind.as_ref()).map(|behind| &behind.filter);
    let softest = treated.map(|filter| filter.reach().unwrap_or(f64::INFINITY)).fold(0.0, f64::max);
    let margin = ((scene.bleed - bleed).min(softest) * sx).ceil().max(0.0) as u32;
    let pixmap = Pixmap::new(width + 2 * margin, height + 2 * margin).ok_or_else(wrong)?;
    let to_device =
        Affine::translate((edge_x + f64::from(margin), edge_y + f64::from(margin))) * Affine::scale_non_uniform(sx, sy);
    let mut canvas = Canvas::on(Layer { pixmap, left: 0, top: 0 }, to_device, outlines, pictures);
    if let (Some(brush), false) = (&scene.ground, options.clear) {
        let sheet = scene.size.to_rect().inflate(scene.bleed, scene.bleed);
        canvas.fill(&sheet.to_path(0.01), brush)?;
    }
    walk(scene, &mut canvas)?;
    let pixmap = canvas.layers.swap_remove(0).pixmap;
    if margin == 0 {
        return Premultiplied::new(width, height, pixmap.take()).ok_or_else(wrong);
    }
    let inside = tiny_skia::IntRect::from_xywh(margin as i32, margin as i32, width, height)
        .and_then(|area| pixmap.clone_rect(area))
        .ok_or_else(wrong)?;
    Premultiplied::new(width, height, inside.take()).ok_or_else(wrong)
}

/// Pixels and where they lie, for outputs that cannot say something in vectors.
pub(crate) struct Patch {
    pub pixels: Premultiplied,
    pub area: Rect,
}

/// The outer or the inner shadows of a group, in the coordinates of its parent, at `scale` pixels a unit.
/// Nothing where there are none to be seen.
pub(crate) fn thrown(
    group: &Group,
    inner: bool,
    scale: f64,
    outlines: &dyn GlyphOutlines,
    pictures: &Pictures,
) -> Result<Option<Patch>, PixelError> {
    let bare = Group {
        opacity: 1.0,
        blend: Blend::Normal,
        shadows: group.shadows.iter().filter(|shadow| shadow.inner == inner).copied().collect(),
        ..group.clone()
    };
    let Some(area) = extent(&Node::Group(bare.clone()), Affine::IDENTITY)
        .filter(|area| !bare.shadows.is_empty() && area.area() > 0.0)
    else {
        return Ok(None);
    };
    // A pixel more on every side, so that no edge is cut.
    let (mut canvas, area) = canvas_over(area.inflate(1.0 / scale, 1.0 / scale), scale, outlines, pictures)?;
    let scale = canvas.state().transform.as_coeffs()[0];
    visit(&Node::Group(Group { shadows: Vec::new(), ..bare.clone() }), &mut canvas)?;
    let pixmap = canvas.layers.swap_remove(0).pixmap;
    let (w, h) = (pixmap.width(), pixmap.height());
    let cover = Cover::of(pixmap.data(), w);
    let mut onto = vec![0; pixmap.data().len()];
    for shadow in &bare.shadows {
        cover.shade(shadow, scale, &mut onto);
    }
    Ok(Some(Patch { pixels: Premultiplied::new(w, h, onto).ok_or(PixelError::Size(w, h))?, area }))
}

/// A group as it is put down, but for its opacity and mixing, in the coordinates around it. Nothing where nothing of it is seen.
pub(crate) fn group_patch(
    group: &Group,
    scale: f64,
    outlines: &dyn GlyphOutlines,
    pictures: &Pictures,
) -> Result<Option<Patch>, PixelError> {
    let group = Group { opacity: 1.0, blend: Blend::Normal, ..group.clone() };
    let Some(area) = extent(&Node::Group(group.clone()), Affine::IDENTITY).filter(|area| area.area() > 0.0) else {
        return Ok(None);
    };
    let (mut canvas, area) = canvas_over(area, scale, outlines, pictures)?;
    visit(&Node::Group(group), &mut canvas)?;
    canvas.patch(area).map(Some)
}

/// The part of the sheet that has to be drawn to know what lies behind an item, treated; nothing where its outline is off the sheet.
fn behind_area(behind: &Behind, scene: &Scene) -> Option<Rect> {
    let sheet = scene.size.to_rect().inflate(scene.bleed, scene.bleed);
    let wanted = kurbo::Shape::bounding_box(&behind.outline).intersect(sheet);
    let seen = wanted.width() > 0.0 && wanted.height() > 0.0;
    seen.then(|| behind.filter.reach().map_or(sheet, |reach| wanted.inflate(reach, reach).intersect(sheet)))
}

/// The part of the sheet a bunch can paint; nothing where that is off the sheet.
fn bunch_area(group: &Group, scene: &Scene) -> Option<Rect> {
    let sheet = scene.size.to_rect().inflate(scene.bleed, scene.bleed);
    let area = extent(&Node::Group(group.clone()), Affine::IDENTITY)?.intersect(sheet);
    (area.width() > 0.0 && area.height() > 0.0).then_some(area)
}

/// What lies behind an item, treated, over the box of its outline on the sheet; `below` items lie below it.
pub(crate) fn seen_behind(
    behind: &Behind,
    scene: &Scene,
    below: usize,
    scale: f64,
    outlines: &dyn GlyphOutlines,
    pictures: &Pictures,
) -> Result<Option<Patch>, PixelError> {
    let Some(area) = behind_area(behind, scene) else { return Ok(None) };
    let sheet = scene.size.to_rect().inflate(scene.bleed, scene.bleed);
    let (mut canvas, area) = canvas_over(area, scale, outlines, pictures)?;
    if let (Some(brush), true) = (&scene.ground, behind.ground) {
        canvas.fill(&sheet.to_path(0.01), brush)?;
    }
    walk_some(scene, behind.first..below, &mut canvas)?;
    let to_device = canvas.state().transform;
    let layer = canvas.layers.swap_remove(0);
    let pixels = treated(layer.pixmap, (0, 0), &behind.filter, to_device, pictures)?;
    Ok(Some(Patch { pixels, area }))
}

/// A bunch as it is put down, but for its opacity and mixing; `at` is its place among the bunches of the scene. Nothing where there is
/// nothing to be seen.
pub(crate) fn bunch_patch(
    scene: &Scene,
    at: usize,
    scale: f64,
    outlines: &dyn GlyphOutlines,
    pictures: &Pictures,
) -> Result<Option<Patch>, PixelError> {
    let group = Group { opacity: 1.0, blend: Blend::Normal, ..scene.bunched(&scene.bunches[at]) };
    let Some(area) = bunch_area(&group, scene) else { return Ok(None) };
    let (mut canvas, area) = canvas_over(area, scale, outlines, pictures)?;
    walk_bunch(scene, at, &group, &mut canvas)?;
    canvas.patch(area).map(Some)
}

/// A part of a scene as a picture for a file that cannot say it, or for the stage.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ScenePart<'a> {
    /// A group that looks its own way, as it is put down, but for its opacity and mixing.
    Bunch(&'a GroupId),
    /// What lies behind an item, treated, not yet seen through its outline.
    Behind(&'a ItemId),
}

/// Draws a part of a scene at so many pixels a unit, at most 8,000 a side, and says where it lies on the sheet. Nothing where the scene has
/// no such part, or nothing of it is seen.
///
/// # Errors
/// [`PixelError`] where a picture is missing.
pub fn render_part(
    scene: &Scene,
    part: ScenePart<'_>,
    scale: f64,
    outlines: &dyn GlyphOutlines,
    pictures: &Pictures,
) -> Result<Option<(Premultiplied, Rect)>, PixelError> {
    let patch = match part {
        ScenePart::Bunch(id) => match scene.bunches.iter().position(|bunch| bunch.id == *id) {
            Some(at) => bunch_patch(scene, at, scale, outlines, pictures)?,
            None => None,
        },
        ScenePart::Behind(id) => {
            let below = scene.items.iter().position(|item| item.id == *id);
            match below.and_then(|below| Some((below, scene.items[below].behind.as_ref()?))) {
                Some((below, behind)) => seen_behind(behind, scene, below, scale, outlines, pictures)?,
                None => None,
            }
        }
    };
    Ok(patch.map(|patch| (patch.pixels, patch.area)))
}

/// Where [`render_part`] draws at a scale; nothing where it draws nothing.
#[must_use]
pub fn part_area(scene: &Scene, part: ScenePart<'_>, scale: f64) -> Option<Rect> {
    let area = match part {
        ScenePart::Bunch(id) => {
            let bunch = scene.bunches.iter().find(|bunch| bunch.id == *id)?;
            bunch_area(&scene.bunched(bunch), scene)?
        }
        ScenePart::Behind(id) => {
            let item = scene.items.iter().find(|item| item.id == *id)?;
            behind_area(item.behind.as_ref()?, scene)?
        }
    };
    Some(whole_pixels(area, scale).0)
}

/// An area with its right and lower edges on whole pixels at about a scale, so that it can be made; that scale; and its pixels.
fn whole_pixels(area: Rect, scale: f64) -> (Rect, f64, (u32, u32)) {
    let scale = scale.min(8_000.0 / area.width().max(area.height()));
    // A hair above a whole number is that number.
    let up = |length: f64| (length * scale - 1e-6).ceil().max(1.0) as u32;
    let (w, h) = (up(area.width()), up(area.height()));
    (Rect::from_origin_size(area.origin(), (f64::from(w) / scale, f64::from(h) / scale)), scale, (w, h))
}

/// A canvas over about an area, at about a scale: in whole pixels, and not larger than can be made.
fn canvas_over<'a>(
    area: Rect,
    scale: f64,
    outlines: &'a dyn GlyphOutlines,
    pictures: &'a Pictures,
) -> Result<(Canvas<'a>, Rect), PixelError> {
    let (area, scale, (w, h)) = whole_pixels(area, scale);
    let layer = Layer { pixmap: Pixmap::new(w, h).ok_or(PixelError::Size(w, h))?, left: 0, top: 0 };
    let to_device = Affine::scale(scale) * Affine::translate(-area.origin().to_vec2());
    Ok((Canvas::on(layer, to_device, outlines, pictures), area))
}

/// What has been drawn on a layer at an offset of the whole, treated; `to_device` leads from the filter's coordinates to the whole.
fn treated(
    layer: Pixmap,
    (left, top): (i32, i32),
    filter: &Filter,
    to_device: Affine,
    pictures: &Pictures,
) -> Result<Premultiplied, PixelError> {
    let (w, h) = (layer.width(), layer.height());
    let wrong = || PixelError::Size(w, h);
    let scale = scale_of(to_device);
    if let Some(sigma) = filter.even_blur() {
        let mut data = layer.take();
        blur::<4>(&mut data, w as usize, sigma * scale);
        return Premultiplied::new(w, h, data).ok_or_else(wrong);
    }
    let field = to_device.transform_rect_bbox(filter.field);
    let window = Window {
        left: field.x0 as f32 - left as f32,
        top: field.y0 as f32 - top as f32,
        width: field.width() as f32,
        height: field.height() as f32,
        longer: filter.longer * scale,
    };
    let straight = Premultiplied::new(w, h, layer.take()).ok_or_else(wrong)?.straight();
    Ok(pictures.layer(&straight, window, &filter.treatments).premultiplied())
}

/// A drawing surface at an offset of the whole.
struct Layer {
    pixmap: Pixmap,
    left: i32,
    top: i32,
}

struct State {
    /// To device pixels of the whole.
    transform: Affine,
    /// Clip in device coordinates, nested ones already intersected, on the surface it was made for.
    clip: Option<Mask>,
    /// Whether this state has a surface of its own.
    layered: bool,
    /// Opacity handed down to a single child instead of a surface.
    fade: f64,
}

struct Canvas<'a> {
    layers: Vec<Layer>,
    states: Vec<State>,
    outlines: &'a dyn GlyphOutlines,
    pictures: &'a Pictures,
}

impl<'a> Canvas<'a> {
    fn on(base: Layer, transform: Affine, outlines: &'a dyn GlyphOutlines, pictures: &'a Pictures) -> Self {
        Self {
            layers: vec![base],
            states: vec![State { transform, clip: None, layered: false, fade: 1.0 }],
            outlines,
            pictures,
        }
    }

    /// All that has been drawn, which covers an area.
    fn patch(mut self, area: Rect) -> Result<Patch, PixelError> {
        let pixmap = self.layers.swap_remove(0).pixmap;
        let (w, h) = (pixmap.width(), pixmap.height());
        let pixels = Premultiplied::new(w, h, pixmap.take()).ok_or(PixelError::Size(w, h))?;
        Ok(Patch { pixels, area })
    }

    fn state(&self) -> &State {
        match self.states.last() {
            Some(state) => state,
            None => unreachable!("the first state is never popped"),
        }
    }

    /// The map to the pixels of the surface being drawn on.
    fn transform(&self) -> Affine {
        let (left, top) = self.layers.last().map_or((0, 0), |layer| (layer.left, layer.top));
        Affine::translate((f64::from(-left), f64::from(-top))) * self.state().transform
    }

    fn surface(&self) -> Rect {
        self.layers.last().map_or(Rect::ZERO, |layer| {
            Rect::new(0.0, 0.0, f64::from(layer.pixmap.width()), f64::from(layer.pixmap.height()))
        })
    }

    /// Fills a path in device coordinates through a clip, or through the present one.
    fn cover(&mut self, path: &tiny_skia::Path, paint: &Paint<'_>, own: Option<&Mask>) {
        self.cover_by(path, paint, own, FillRule::Winding);
    }

    fn cover_by(&mut self, path: &tiny_skia::Path, paint: &Paint<'_>, own: Option<&Mask>, rule: FillRule) {
        let clip = own.or_else(|| self.states.last().and_then(|state| state.clip.as_ref()));
        if let Some(layer) = self.layers.last_mut() {
            layer.pixmap.fill_path(path, paint, rule, Transform::identity(), clip);
        }
    }

    fn fill(&mut self, path: &BezPath, brush: &Brush) -> Result<(), PixelError> {
        self.fill_by(path, brush, FillRule::Winding)
    }

    /// Patterns and pictures fill by the non-zero rule whatever is asked.
    fn fill_by(&mut self, path: &BezPath, brush: &Brush, rule: FillRule) -> Result<(), PixelError> {
        match brush {
            Brush::Tile(tile) => self.fill_tiled(path, tile),
            Brush::Image { source, pixels, dest } => self.fill_pictured(
                path,
                &ImageNode { source: Arc::clone(source), pixels: *pixels, dest: *dest, frame: BezPath::new() },
            )?,
            Brush::Flat(_) | Brush::Linear { .. } | Brush::Radial { .. } | Brush::Conic { .. } => {
                let transform = self.transform();
                if let (Some(path), Some(paint)) =
                    (raster_path(path, transform), paint(brush, transform, self.state().fade))
                {
                    self.cover_by(&path, &paint, None, rule);
                }
            }
        }
        Ok(())
    }

    /// Every figure that can be seen, as one path clipped to what is filled: edges stay sharp at any size.
    fn fill_tiled(&mut self, path: &BezPath, tile: &Tile) {
        const MOST: f64 = 60_000.0;
        let (transform, fade) = (self.transform(), self.state().fade);
        if let (Some(ground), Some(area)) = (tile.ground, raster_path(path, transform))
            && let Some(paint) = paint(&Brush::Flat(ground), transform, fade)
        {
            self.cover(&area, &paint, None);
        }
        let to_device = transform * tile.transform;
        let seen = transform.transform_rect_bbox(path.control_box()).intersect(self.surface());
        let cells = to_device.inverse().transform_rect_bbox(seen);
        let range = |from: f64, to: f64, step: f64| ((from / step).floor(), (to / step).ceil());
        let ((left, right), (top, bottom)) =
            (range(cells.x0, cells.x1, tile.cell.width), range(cells.y0, cells.y1, tile.cell.height));
        // Figures too small to be told apart are their mean colour.
        let crowded = (right - left) * (bottom - top) > MOST;
        let mut figures = BezPath::new();
        let share = if crowded {
            figures.extend(path.iter().map(|element| transform * element));
            (tile.figure.area().abs() / tile.cell.area()).min(1.0)
        } else {
            let (mut y, mut at) = (top, Vec::new());
            while y < bottom {
                let mut x = left;
                while x < right {
                    at.push(to_device * Affine::translate((x * tile.cell.width, y * tile.cell.height)));
                    x += 1.0;
                }
                y += 1.0;
            }
            at.into_iter().for_each(|place| figures.extend(tile.figure.iter().map(|element| place * element)));
            1.0
        };
        let ink = Brush::Flat(Rgba { a: tile.ink.a * share, ..tile.ink });
        if let (Some(figures), Some(paint)) = (raster_path(&figures, Affine::IDENTITY), paint(&ink, transform, fade)) {
            let mask = self.clipped_by(path);
            self.cover(&figures, &paint, Some(&mask));
        }
    }

    fn fill_pictured(&mut self, path: &BezPath, node: &ImageNode) -> Result<(), PixelError> {
        const LARGEST: f64 = 4_096.0;
        let transform = self.transform();
        let [a, b, c, d, ..] = transform.as_coeffs();
        let (wide, high) = (a.hypot(b) * node.dest.width(), c.hypot(d) * node.dest.height());
        let shrink = (LARGEST / wide.max(high)).min(1.0);
        let size = ((wide * shrink).round().max(1.0) as u32, (high * shrink).round().max(1.0) as u32);
        let whole = [0.0, 0.0, f64::from(node.pixels.0), f64::from(node.pixels.1)];
        let pixels = self
            .pictures
            .shown(&node.source, whole, size)
            .ok_or_else(|| PixelError::Picture(node.source.asset.to_string()))?;
        let fit =
            Affine::scale_non_uniform(node.dest.width() / f64::from(size.0), node.dest.height() / f64::from(size.1));
        let place = transform * Affine::translate(node.dest.origin().to_vec2()) * fit;
        let (Some(view), Some(area)) = (
            tiny_skia::PixmapRef::from_bytes(pixels.data(), pixels.width(), pixels.height()),
            raster_path(path, transform),
        ) else {
            return Ok(());
        };
        let shader = tiny_skia::Pattern::new(
            view,
            SpreadMode::Repeat,
            FilterQuality::Bilinear,
            self.state().fade as f32,
            matrix(place),
        );
        self.cover(&area, &Paint { shader, anti_alias: true, ..Paint::default() }, None);
        Ok(())
    }

    fn stroke(&mut self, path: &BezPath, line: &Line) -> Result<(), PixelError> {
        if matches!(line.brush, Brush::Tile(_) | Brush::Image { .. }) {
            // These fill areas, so the line becomes one.
            let style = kurbo_stroke(line);
            return self.fill(&kurbo::stroke(path.iter(), &style, &kurbo::StrokeOpts::default(), 0.02), &line.brush);
        }
        let transform = self.transform();
        let fade = self.state().fade;
        let (Some(paint), Some(path)) =
            (paint(&line.brush, Affine::IDENTITY, fade), raster_path(path, Affine::IDENTITY))
        else {
            return Ok(());
        };
        let line_join = match line.join {
            Join::Mitre => tiny_skia::LineJoin::Miter,
            Join::Round => tiny_skia::LineJoin::Round,
            Join::Bevel => tiny_skia::LineJoin::Bevel,
        };
        let line_cap = match line.cap {
            Cap::Flat => tiny_skia::LineCap::Butt,
            Cap::Round => tiny_skia::LineCap::Round,
            Cap::Square => tiny_skia::LineCap::Square,
        };
        let dash = StrokeDash::new(line.dash.iter().map(|part| *part as f32).collect(), 0.0);
        let stroke = Stroke { width: line.width as f32, line_join, line_cap, dash, ..Stroke::default() };
        let clip = self.states.last().and_then(|state| state.clip.as_ref());
        if let Some(layer) = self.layers.last_mut() {
            layer.pixmap.stroke_path(&path, &paint, &stroke, matrix(transform), clip);
        }
        Ok(())
    }

    /// A fill and a line in their order.
    fn painted(
        &mut self,
        path: &BezPath,
        fill: Option<&Brush>,
        stroke: Option<&Line>,
        rule: FillRule,
    ) -> Result<(), PixelError> {
        let below = stroke.filter(|line| line.below);
        let above = stroke.filter(|line| !line.below);
        below.map_or(Ok(()), |line| self.stroke(path, line))?;
        fill.map_or(Ok(()), |brush| self.fill_by(path, brush, rule))?;
        above.map_or(Ok(()), |line| self.stroke(path, line))
    }

    fn picture(&mut self, node: &ImageNode) -> Result<(), PixelError> {
        let missing = || PixelError::Picture(node.source.asset.to_string());
        let transform = self.transform();
        let [a, b, c, d, ..] = transform.as_coeffs();
        let (full_w, full_h) = (f64::from(node.pixels.0), f64::from(node.pixels.1));
        let surface = self.surface();
        let device_area = transform.transform_rect_bbox(node.frame.control_box());
        let seen = device_area.intersect(surface).intersect(transform.transform_rect_bbox(node.dest)).expand();
        if seen.width() < 1.0 || seen.height() < 1.0 {
            return Ok(());
        }
        let upright = b.abs() < 1e-9 && c.abs() < 1e-9 && a > 0.0 && d > 0.0;
        let (pixels, place, quality) = if upright {
            // Resampled straight onto the pixel grid, only what is seen: nothing is sampled twice.
            let dest = transform.transform_rect_bbox(node.dest);
            let (kx, ky) = (full_w / dest.width(), full_h / dest.height());
            let part = [(seen.x0 - dest.x0) * kx, (seen.y0 - dest.y0) * ky, seen.width() * kx, seen.height() * ky];
            let pixels = self
                .pictures
                .shown(&node.source, part, (seen.width() as u32, seen.height() as u32))
                .ok_or_else(missing)?;
            (pixels, Affine::translate(seen.origin().to_vec2()), FilterQuality::Nearest)
        } else {
            let (wide, high) = (a.hypot(b) * node.dest.width(), c.hypot(d) * node.dest.height());
            let shrink = (20_000.0 / wide.max(high)).min(1.0);
            let size = ((wide * shrink).round().max(1.0) as u32, (high * shrink).round().max(1.0) as u32);
            let pixels = self.pictures.shown(&node.source, [0.0, 0.0, full_w, full_h], size).ok_or_else(missing)?;
            let fit = Affine::scale_non_uniform(
                node.dest.width() / f64::from(size.0),
                node.dest.height() / f64::from(size.1),
            );
            (pixels, transform * Affine::translate(node.dest.origin().to_vec2()) * fit, FilterQuality::Bilinear)
        };
        let fade = self.state().fade as f32;
        let Some(view) = tiny_skia::PixmapRef::from_bytes(pixels.data(), pixels.width(), pixels.height()) else {
            return Ok(());
        };
        let paint = Paint {
            shader: tiny_skia::Pattern::new(view, SpreadMode::Pad, quality, fade, matrix(place)),
            anti_alias: true,
            ..Paint::default()
        };
        // Where the picture covers its frame, filling the frame with it needs no mask.
        let covered = covers(node.dest, node.frame.control_box());
        let area = if covered {
            raster_path(&node.frame, transform)
        } else {
            raster_path(&node.dest.to_path(0.01), transform)
        };
        let Some(area) = area else { return Ok(()) };
        let own = if covered { None } else { Some(self.clipped_by(&node.frame)) };
        self.cover(&area, &paint, own.as_ref());
        Ok(())
    }

    /// Thins a layer out by what masks it.
    fn mask(&self, layer: &mut Layer, mask: &MaskNodes, transform: Affine) -> Result<(), PixelError> {
        let (w, h) = (layer.pixmap.width(), layer.pixmap.height());
        let base = Layer { pixmap: Pixmap::new(w, h).ok_or(PixelError::Size(w, h))?, left: 0, top: 0 };
        let to_layer = Affine::translate((f64::from(-layer.left), f64::from(-layer.top))) * transform;
        let mut canvas = Canvas::on(base, to_layer, self.outlines, self.pictures);
        mask.children.iter().try_for_each(|child| visit(child, &mut canvas))?;
        let kind = if mask.luminance { MaskType::Luminance } else { MaskType::Alpha };
        let through = Mask::from_pixmap(canvas.layers.swap_remove(0).pixmap.as_ref(), kind);
        layer.pixmap.apply_mask(&through);
        Ok(())
    }

    /// The present clip narrowed by an outline in the present coordinates.
    fn clipped_by(&self, outline: &BezPath) -> Mask {
        let (w, h) = self.layers.last().map_or((1, 1), |layer| (layer.pixmap.width(), layer.pixmap.height()));
        let path = raster_path(outline, self.transform());
        let mut mask = match (&self.state().clip, Mask::new(w, h)) {
            (Some(clip), _) => clip.clone(),
            (None, Some(mut all)) => {
                all.invert();
                all
            }
            (None, None) => unreachable!("a surface of this size exists"),
        };
        match path {
            Some(path) => mask.intersect_path(&path, FillRule::Winding, true, Transform::identity()),
            None => mask.clear(),
        }
        mask
    }
}

fn covers(outer: Rect, inner: Rect) -> bool {
    let slack = 1e-6;
    outer.x0 <= inner.x0 + slack
        && outer.y0 <= inner.y0 + slack
        && outer.x1 >= inner.x1 - slack
        && outer.y1 >= inner.y1 - slack
}

/// Whether fading the group is the same as fading what it paints: one area, painted once.
fn paints_once(group: &Group) -> bool {
    match group.children.as_slice() {
        [Node::Path(path)] => {
            (path.stroke.is_none() || path.fill.is_none()) && !matches!(path.fill, Some(Brush::Tile(_)))
        }
        [Node::Image(_)] => true,
        _ => false,
    }
}

impl Sink for Canvas<'_> {
    type Error = PixelError;

    fn begin(&mut self, group: &Group) -> Result<(), PixelError> {
        let parent = self.state();
        let transform = parent.transform * group.transform;
        let handed_down = group.blend == Blend::Normal
            && group.mask.is_none()
            && group.shadows.is_empty()
            && group.filter.is_none()
            && group.opacity < 1.0
            && paints_once(group);
        let fade = if group.needs_layer() && !handed_down { 1.0 } else { parent.fade * group.opacity };
        let inherited = parent.clip.clone();
        let mut state = State { transform, clip: inherited, layered: group.needs_layer() && !handed_down, fade };
        if state.layered {
            let whole = self.layers.first().map_or(Rect::ZERO, |base| {
                Rect::new(0.0, 0.0, f64::from(base.pixmap.width()), f64::from(base.pixmap.height()))
            });
            let parent_transform = self.state().transform;
            // What lies off the surface can still throw a shadow onto it.
            let thrown = group
                .shadows
                .iter()
                .map(|shadow| shadow.dx.abs().max(shadow.dy.abs()) + shadow.sigma * 3.0)
                .fold(0.0, f64::max);
            // Where a step depends on all there is, all of it is drawn.
            let looked = group.filter.as_ref().map_or(Some(0.0), Filter::reach);
            let reach = looked.map(|looked| (looked + thrown) * scale_of(parent_transform));
            let area = extent(&Node::Group(group.clone()), parent_transform).unwrap_or(Rect::ZERO).inflate(2.0, 2.0);
            let area = reach.map_or(area, |reach| area.intersect(whole.inflate(reach, reach))).expand();
            if area.width().max(area.height()) > 20_000.0 || area.area() > 150e6 {
                return Err(PixelError::Size(area.width() as u32, area.height() as u32));
            }
            let (w, h) = (area.width().max(1.0) as u32, area.height().max(1.0) as u32);
            let pixmap = Pixmap::new(w, h).ok_or(PixelError::Size(w, h))?;
            self.layers.push(Layer { pixmap, left: area.x0 as i32, top: area.y0 as i32 });
            state.clip = None;
        }
        self.states.push(state);
        if let Some(clip) = &group.clip {
            let mask = self.clipped_by(clip);
            if let Some(state) = self.states.last_mut() {
                state.clip = Some(mask);
            }
        }
        Ok(())
    }

    fn end(&mut self, group: &Group) -> Result<(), PixelError> {
        let Some(state) = self.states.pop() else { return Ok(()) };
        if !state.layered {
            return Ok(());
        }
        let Some(mut layer) = self.layers.pop() else { return Ok(()) };
        if let Some(mask) = &group.mask {
            self.mask(&mut layer, mask, state.transform)?;
        }
        if let Some(filter) = &group.filter {
            let (w, h) = (layer.pixmap.width(), layer.pixmap.height());
            let size = IntSize::from_wh(w, h).ok_or(PixelError::Size(w, h))?;
            let at = (layer.left, layer.top);
            let after = treated(layer.pixmap, at, filter, self.state().transform, self.pictures)?;
            layer.pixmap = Pixmap::from_vec(after.data().to_vec(), size).ok_or(PixelError::Size(w, h))?;
        }
        if !group.shadows.is_empty() {
            layer.pixmap = shaded(&layer.pixmap, group, scale_of(self.state().transform))?;
        }
        let fade = self.state().fade;
        let clip = self.states.last().and_then(|state| state.clip.as_ref());
        if let Some(below) = self.layers.last_mut() {
            if is_whole(group.blend) {
                mix(
                    &mut below.pixmap,
                    &layer.pixmap,
                    (layer.left - below.left, layer.top - below.top),
                    (group.opacity * fade) as f32,
                    clip,
                    group.blend,
                );
                return Ok(());
            }
            let blend_mode = blend_mode(group.blend);
            let paint =
                PixmapPaint { opacity: (group.opacity * fade) as f32, blend_mode, quality: FilterQuality::Nearest };
            below.pixmap.draw_pixmap(
                layer.left - below.left,
                layer.top - below.top,
                layer.pixmap.as_ref(),
                &paint,
                Transform::identity(),
                clip,
            );
        }
        Ok(())
    }

    fn path(&mut self, node: &PathNode) -> Result<(), PixelError> {
        let rule = if node.even_odd { FillRule::EvenOdd } else { FillRule::Winding };
        self.painted(&node.path, node.fill.as_ref(), node.stroke.as_ref(), rule)
    }

    fn glyphs(&mut self, node: &GlyphNode) -> Result<(), PixelError> {
        self.painted(&glyph_path(node, self.outlines), node.fill.as_ref(), node.stroke.as_ref(), FillRule::Winding)
    }

    fn behind(&mut self, behind: &Behind, scene: &Scene, _: usize) -> Result<(), PixelError> {
        let transform = self.transform();
        let sheet = transform.transform_rect_bbox(scene.size.to_rect().inflate(scene.bleed, scene.bleed));
        let wanted = transform.transform_rect_bbox(kurbo::Shape::bounding_box(&behind.outline));
        let reach = behind.filter.reach().map(|reach| reach * scale_of(transform));
        let area = reach
            .map_or(sheet, |reach| wanted.inflate(reach, reach).intersect(sheet))
            .intersect(self.surface())
            .expand()
            .intersect(self.surface());
        let area_px =
            tiny_skia::IntRect::from_xywh(area.x0 as i32, area.y0 as i32, area.width() as u32, area.height() as u32);
        let (Some(area_px), Some(outline)) = (area_px, raster_path(&behind.outline, transform)) else { return Ok(()) };
        let Some(seen) = self.layers.last().and_then(|layer| layer.pixmap.clone_rect(area_px)) else { return Ok(()) };
        let after = treated(seen, (area.x0 as i32, area.y0 as i32), &behind.filter, transform, self.pictures)?;
        let Some(view) = tiny_skia::PixmapRef::from_bytes(after.data(), after.width(), after.height()) else {
            return Ok(());
        };
        let place = Transform::from_translate(area.x0 as f32, area.y0 as f32);
        let shader =
            tiny_skia::Pattern::new(view, SpreadMode::Pad, FilterQuality::Nearest, behind.opacity as f32, place);
        let mask = self.clipped_by(&area.to_path(0.01).iter().map(|element| transform.inverse() * element).collect());
        self.cover(&outline, &Paint { shader, anti_alias: true, ..Paint::default() }, Some(&mask));
        Ok(())
    }

    fn image(&mut self, node: &ImageNode) -> Result<(), PixelError> {
        self.picture(node)
    }
}

/// A layer with its outer shadows below and its inner ones over it.
fn shaded(layer: &Pixmap, group: &Group, scale: f64) -> Result<Pixmap, PixelError> {
    let (w, h) = (layer.width(), layer.height());
    let cover = Cover::of(layer.data(), w);
    let mut onto = vec![0; layer.data().len()];
    for shadow in group.shadows.iter().filter(|shadow| !shadow.inner) {
        cover.shade(shadow, scale, &mut onto);
    }
    let size = IntSize::from_wh(w, h).ok_or(PixelError::Size(w, h))?;
    let mut below = Pixmap::from_vec(onto, size).ok_or(PixelError::Size(w, h))?;
    let mut inner = vec![0; layer.data().len()];
    for shadow in group.shadows.iter().filter(|shadow| shadow.inner) {
        cover.shade(shadow, scale, &mut inner);
    }
    let over = tiny_skia::PixmapRef::from_bytes(&inner, w, h).ok_or(PixelError::Size(w, h))?;
    for part in [layer.as_ref(), over] {
        below.draw_pixmap(0, 0, part, &PixmapPaint::default(), Transform::identity(), None);
    }
    Ok(below)
}

fn blend_mode(blend: Blend) -> BlendMode {
    match blend {
        Blend::Normal => BlendMode::SourceOver,
        Blend::Multiply => BlendMode::Multiply,
        Blend::Screen => BlendMode::Screen,
        Blend::Overlay => BlendMode::Overlay,
        Blend::Darken => BlendMode::Darken,
        Blend::Lighten => BlendMode::Lighten,
        Blend::ColorDodge => BlendMode::ColorDodge,
        Blend::ColorBurn => BlendMode::ColorBurn,
        Blend::HardLight => BlendMode::HardLight,
        Blend::SoftLight => BlendMode::SoftLight,
        Blend::Difference => BlendMode::Difference,
        Blend::Exclusion => BlendMode::Exclusion,
        Blend::Hue => BlendMode::Hue,
        Blend::Saturation => BlendMode::Saturation,
        Blend::Color => BlendMode::Color,
        Blend::Luminosity => BlendMode::Luminosity,
    }
}

fn kurbo_stroke(line: &Line) -> kurbo::Stroke {
    let join = match line.join {
        Join::Mitre => kurbo::Join::Miter,
        Join::Round => kurbo::Join::Round,
        Join::Bevel => kurbo::Join::Bevel,
    };
    let cap = match line.cap {
        Cap::Flat => kurbo::Cap::Butt,
        Cap::Round => kurbo::Cap::Round,
        Cap::Square => kurbo::Cap::Square,
    };
    kurbo::Stroke::new(line.width)
        .with_join(join)
        .with_miter_limit(4.0)
        .with_caps(cap)
        .with_dashes(0.0, line.dash.iter().copied())
}

fn matrix(affine: Affine) -> Transform {
    let [a, b, c, d, e, f] = affine.as_coeffs();
    Transform::from_row(a as f32, b as f32, c as f32, d as f32, e as f32, f as f32)
}

fn rgba(color: Rgba, fade: f64) -> tiny_skia::Color {
    let part = |value: u8| f32::from(value) / 255.0;
    tiny_skia::Color::from_rgba(part(color.r), part(color.g), part(color.b), (color.a * fade).clamp(0.0, 1.0) as f32)
        .unwrap_or(tiny_skia::Color::TRANSPARENT)
}

fn beyond(spread: Spread) -> SpreadMode {
    match spread {
        Spread::Hold => SpreadMode::Pad,
        Spread::Repeat => SpreadMode::Repeat,
        Spread::Mirror => SpreadMode::Reflect,
    }
}

fn paint(brush: &Brush, transform: Affine, fade: f64) -> Option<Paint<'static>> {
    let stops = |stops: &[vatman_scene::GradientStop]| {
        stops.iter().map(|stop| GradientStop::new(stop.at as f32, rgba(stop.color, fade))).collect::<Vec<_>>()
    };
    let point = |p: kurbo::Point| Point::from_xy(p.x as f32, p.y as f32);
    let shader = match brush {
        Brush::Flat(color) => Shader::SolidColor(rgba(*color, fade)),
        Brush::Linear { from, to, stops: list, spread } => {
            LinearGradient::new(point(*from), point(*to), stops(list), beyond(*spread), matrix(transform))?
        }
        Brush::Radial { centre, radius, matrix: own, stops: list, spread } => RadialGradient::new(
            point(*centre),
            0.0,
            point(*centre),
            *radius as f32,
            stops(list),
            beyond(*spread),
            matrix(transform * *own),
        )?,
        Brush::Conic { centre, start, stops: list, .. } => {
            // The library's zero lies to the right.
            let from_top = Affine::rotate_about(start - std::f64::consts::FRAC_PI_2, *centre);
            SweepGradient::new(point(*centre), 0.0, 360.0, stops(list), SpreadMode::Pad, matrix(transform * from_top))?
        }
        Brush::Tile(_) | Brush::Image { .. } => return None,
    };
    Some(Paint { shader, anti_alias: true, ..Paint::default() })
}
