//! Scene to pixels.

use kurbo::{Affine, BezPath, Rect, Shape as _};
use thiserror::Error;
use tiny_skia::{BlendMode, FillRule, FilterQuality, GradientStop, LinearGradient, Mask, Paint, Pixmap, PixmapPaint, Point, RadialGradient, Shader, SpreadMode, Stroke, Transform};
use vatman_document::Blend;
use vatman_photo::{Pictures, Premultiplied};
use vatman_scene::{Brush, GlyphNode, Group, ImageNode, Line, Node, PathNode, Rgba, Scene};
use vatman_type::GlyphOutlines;

use crate::paths::{extent, glyph_path, raster_path};
use crate::walk::{Sink, walk};

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
pub fn render_pixels(scene: &Scene, options: PixelOptions, outlines: &dyn GlyphOutlines, pictures: &Pictures) -> Result<Premultiplied, PixelError> {
    let (sx, sy) = (f64::from(options.width) / scene.size.width, f64::from(options.height) / scene.size.height);
    let bleed = if options.bleed { scene.bleed } else { 0.0 };
    let (edge_x, edge_y) = ((bleed * sx).round(), (bleed * sy).round());
    let (width, height) = (options.width.saturating_add(edge_x as u32 * 2), options.height.saturating_add(edge_y as u32 * 2));
    let wrong = || PixelError::Size(width, height);
    if width.max(height) > 20_000 || u64::from(width) * u64::from(height) > 150_000_000 {
        return Err(wrong());
    }
    let base = Layer { pixmap: Pixmap::new(width, height).ok_or_else(wrong)?, left: 0, top: 0 };
    let to_device = Affine::translate((edge_x, edge_y)) * Affine::scale_non_uniform(sx, sy);
    let mut canvas = Canvas { layers: vec![base], states: vec![State { transform: to_device, clip: None, layered: false, fade: 1.0 }], outlines, pictures };
    if let (Some(brush), false) = (&scene.ground, options.clear) {
        let sheet = scene.size.to_rect().inflate(scene.bleed, scene.bleed);
        canvas.fill(&sheet.to_path(0.01), brush);
    }
    walk(scene, &mut canvas)?;
    let pixmap = canvas.layers.swap_remove(0).pixmap;
    Premultiplied::new(width, height, pixmap.take()).ok_or_else(wrong)
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

impl Canvas<'_> {
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

    fn fill(&mut self, path: &BezPath, brush: &Brush) {
        let transform = self.transform();
        let fade = self.state().fade;
        let (Some(path), Some(paint)) = (raster_path(path, transform), paint(brush, transform, fade)) else { return };
        let clip = self.states.last().and_then(|state| state.clip.as_ref());
        if let Some(layer) = self.layers.last_mut() {
            layer.pixmap.fill_path(&path, &paint, FillRule::Winding, Transform::identity(), clip);
        }
    }

    fn stroke(&mut self, path: &BezPath, line: &Line, round: bool) {
        let transform = self.transform();
        let fade = self.state().fade;
        let Some(paint) = paint(&line.brush, Affine::IDENTITY, fade) else { return };
        let Some(path) = raster_path(path, Affine::IDENTITY) else { return };
        let join = if round { tiny_skia::LineJoin::Round } else { tiny_skia::LineJoin::Miter };
        let stroke = Stroke { width: line.width as f32, line_join: join, ..Stroke::default() };
        let clip = self.states.last().and_then(|state| state.clip.as_ref());
        if let Some(layer) = self.layers.last_mut() {
            layer.pixmap.stroke_path(&path, &paint, &stroke, matrix(transform), clip);
        }
    }

    fn picture(&mut self, node: &ImageNode) -> Result<(), PixelError> {
        let missing = || PixelError::Picture(node.asset.to_string());
        let transform = self.transform();
        let [a, b, c, d, ..] = transform.as_coeffs();
        let (full_w, full_h) = (f64::from(node.pixels.0), f64::from(node.pixels.1));
        let Some(layer) = self.layers.last() else { return Ok(()) };
        let surface = Rect::new(0.0, 0.0, f64::from(layer.pixmap.width()), f64::from(layer.pixmap.height()));
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
            let pixels = self.pictures.part(&node.asset, part, (seen.width() as u32, seen.height() as u32)).ok_or_else(missing)?;
            (pixels, Affine::translate(seen.origin().to_vec2()), FilterQuality::Nearest)
        } else {
            let (wide, high) = (a.hypot(b) * node.dest.width(), c.hypot(d) * node.dest.height());
            let shrink = (20_000.0 / wide.max(high)).min(1.0);
            let size = ((wide * shrink).round().max(1.0) as u32, (high * shrink).round().max(1.0) as u32);
            let pixels = self.pictures.part(&node.asset, [0.0, 0.0, full_w, full_h], size).ok_or_else(missing)?;
            let fit = Affine::scale_non_uniform(node.dest.width() / f64::from(size.0), node.dest.height() / f64::from(size.1));
            (pixels, transform * Affine::translate(node.dest.origin().to_vec2()) * fit, FilterQuality::Bilinear)
        };
        let fade = self.state().fade as f32;
        let Some(view) = tiny_skia::PixmapRef::from_bytes(pixels.data(), pixels.width(), pixels.height()) else { return Ok(()) };
        let paint = Paint { shader: tiny_skia::Pattern::new(view, SpreadMode::Pad, quality, fade, matrix(place)), anti_alias: true, ..Paint::default() };
        // Where the picture covers its frame, filling the frame with it needs no mask.
        let covered = covers(node.dest, node.frame.control_box());
        let area = if covered { raster_path(&node.frame, transform) } else { raster_path(&node.dest.to_path(0.01), transform) };
        let Some(area) = area else { return Ok(()) };
        let own = if covered { None } else { Some(self.clipped_by(&node.frame)) };
        let clip = own.as_ref().or_else(|| self.states.last().and_then(|state| state.clip.as_ref()));
        if let Some(layer) = self.layers.last_mut() {
            layer.pixmap.fill_path(&area, &paint, FillRule::Winding, Transform::identity(), clip);
        }
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
    outer.x0 <= inner.x0 + slack && outer.y0 <= inner.y0 + slack && outer.x1 >= inner.x1 - slack && outer.y1 >= inner.y1 - slack
}

/// Whether fading the group is the same as fading what it paints: one area, painted once.
fn paints_once(group: &Group) -> bool {
    match group.children.as_slice() {
        [Node::Path(path)] => path.stroke.is_none() || path.fill.is_none(),
        [Node::Image(_)] => true,
        _ => false,
    }
}

impl Sink for Canvas<'_> {
    type Error = PixelError;

    fn begin(&mut self, group: &Group) -> Result<(), PixelError> {
        let parent = self.state();
        let transform = parent.transform * group.transform;
        let handed_down = group.blend == Blend::Normal && group.opacity < 1.0 && paints_once(group);
        let fade = if group.needs_layer() && !handed_down { 1.0 } else { parent.fade * group.opacity };
        let inherited = parent.clip.clone();
        let mut state = State { transform, clip: inherited, layered: group.needs_layer() && !handed_down, fade };
        if state.layered {
            let whole = self.layers.first().map_or(Rect::ZERO, |base| Rect::new(0.0, 0.0, f64::from(base.pixmap.width()), f64::from(base.pixmap.height())));
            let parent_transform = self.state().transform;
            let area = extent(&Node::Group(group.clone()), parent_transform).unwrap_or(Rect::ZERO).inflate(2.0, 2.0).intersect(whole).expand();
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
        let Some(layer) = self.layers.pop() else { return Ok(()) };
        let fade = self.state().fade;
        let clip = self.states.last().and_then(|state| state.clip.as_ref());
        if let Some(below) = self.layers.last_mut() {
            let blend_mode = match group.blend {
                Blend::Normal => BlendMode::SourceOver,
                Blend::Multiply => BlendMode::Multiply,
                Blend::Screen => BlendMode::Screen,
                Blend::Overlay => BlendMode::Overlay,
            };
            let paint = PixmapPaint { opacity: (group.opacity * fade) as f32, blend_mode, quality: FilterQuality::Nearest };
            below.pixmap.draw_pixmap(layer.left - below.left, layer.top - below.top, layer.pixmap.as_ref(), &paint, Transform::identity(), clip);
        }
        Ok(())
    }

    fn path(&mut self, node: &PathNode) -> Result<(), PixelError> {
        if let Some(brush) = &node.fill {
            self.fill(&node.path, brush);
        }
        if let Some(line) = &node.stroke {
            self.stroke(&node.path, line, false);
        }
        Ok(())
    }

    fn glyphs(&mut self, node: &GlyphNode) -> Result<(), PixelError> {
        let path = glyph_path(node, self.outlines);
        if let Some(line) = &node.stroke {
            self.stroke(&path, line, true);
        }
        if let Some(brush) = &node.fill {
            self.fill(&path, brush);
        }
        Ok(())
    }

    fn image(&mut self, node: &ImageNode) -> Result<(), PixelError> {
        self.picture(node)
    }
}

fn matrix(affine: Affine) -> Transform {
    let [a, b, c, d, e, f] = affine.as_coeffs();
    Transform::from_row(a as f32, b as f32, c as f32, d as f32, e as f32, f as f32)
}

fn rgba(color: Rgba, fade: f64) -> tiny_skia::Color {
    let part = |value: u8| f32::from(value) / 255.0;
    tiny_skia::Color::from_rgba(part(color.r), part(color.g), part(color.b), (color.a * fade).clamp(0.0, 1.0) as f32).unwrap_or(tiny_skia::Color::TRANSPARENT)
}

fn paint(brush: &Brush, transform: Affine, fade: f64) -> Option<Paint<'static>> {
    let stops = |stops: &[vatman_scene::GradientStop]| stops.iter().map(|stop| GradientStop::new(stop.at as f32, rgba(stop.color, fade))).collect::<Vec<_>>();
    let point = |p: kurbo::Point| Point::from_xy(p.x as f32, p.y as f32);
    let shader = match brush {
        Brush::Flat(color) => Shader::SolidColor(rgba(*color, fade)),
        Brush::Linear { from, to, stops: list } => LinearGradient::new(point(*from), point(*to), stops(list), SpreadMode::Pad, matrix(transform))?,
        Brush::Radial { centre, radius, stops: list } => RadialGradient::new(point(*centre), 0.0, point(*centre), *radius as f32, stops(list), SpreadMode::Pad, matrix(transform))?,
    };
    Some(Paint { shader, anti_alias: true, ..Paint::default() })
}
