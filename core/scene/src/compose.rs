//! From a side of a job to its scene.

use std::sync::Arc;

use kurbo::{Affine, BezPath, Point, Rect, Shape as _, Size};
use vatman_document::{AssetId, Blend, Color, Content, Focus, Item, ItemId, Job, Look, Outline, Paint, Piece, Place, Plain, RichText, Side, TextFit};
use vatman_type::{TextBox, Typesetter};

use crate::frame::picture_box;
use crate::node::{Brush, Frame, GlyphNode, GradientStop, Group, ImageNode, Line, Node, PathNode, Rgba, Scene, SceneItem};

/// Who looks at a scene.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Audience {
    /// The maker: empty frames and prompts are shown.
    Stage,
    /// Everyone else: only what leaves.
    Output,
}

/// What composing needs from outside the job.
pub struct Means<'a> {
    /// Sets the words.
    pub typesetter: &'a Typesetter,
    /// Size in pixels of a picture, where it is at hand.
    pub picture_size: &'a dyn Fn(&AssetId) -> Option<(u32, u32)>,
    /// Who looks.
    pub audience: Audience,
    /// The item whose places of the caret are wanted.
    pub carets: Option<&'a ItemId>,
}

/// Composes one side.
#[must_use]
pub fn compose(job: &Job, piece: &Piece, side: &Side, means: &Means<'_>) -> Scene {
    let size = Size::new(piece.format.size.w.to_css_px(), piece.format.size.h.to_css_px());
    let bleed = piece.format.bleed.to_css_px();
    let sheet = size.to_rect().inflate(bleed, bleed);
    let items = side.items.iter().filter(|item| !item.hidden).filter_map(|item| compose_item(job, item, means)).collect();
    Scene { size, bleed, ground: side.ground.as_ref().map(|paint| brush(job, paint, sheet)), items }
}

fn compose_item(job: &Job, item: &Item, means: &Means<'_>) -> Option<SceneItem> {
    let plain = job.plain(item)?;
    let place = item.place;
    let local = Size::new(place.at.rect.w.to_css_px(), place.at.rect.h.to_css_px());
    let mut out = Drawn { children: Vec::new(), height: local.height, spills: false, type_size: 0.0, carets: Vec::new(), faded: 1.0 };
    match plain.content {
        Content::Words { text, prompt } => out.words(job, &plain, text, prompt, local, means),
        Content::Picture { picture, focus, frame } => out.picture(job, &plain, picture.as_ref(), *focus, frame, local, means),
        Content::Shape { outline } => out.children.push(shape(job, plain.look, outline.path(local.width, local.height, place.scale.get()), local, place)),
    }
    let rect = place.at.rect.to_css_px();
    // Text that grows keeps its top edge, so it turns about the middle of its lines.
    let grown = Rect::from_origin_size(rect.origin(), (rect.width(), out.height));
    let group = Group {
        transform: place_on_sheet(place, grown),
        opacity: plain.look.opacity.get() * out.faded,
        blend: plain.look.blend,
        clip: None,
        children: out.children,
    };
    Some(SceneItem {
        id: item.id.clone(),
        frame: Frame { x: grown.x0, y: grown.y0, w: grown.width(), h: grown.height(), turn: place.at.turn.to_degrees() },
        node: Arc::new(Node::Group(group)),
        spills: out.spills,
        type_size: out.type_size,
        carets: out.carets,
    })
}

fn place_on_sheet(place: Place, rect: Rect) -> Affine {
    let about = rect.size().to_vec2() / 2.0;
    let mirror = if place.at.flip { Affine::new([-1.0, 0.0, 0.0, 1.0, rect.width(), 0.0]) } else { Affine::IDENTITY };
    Affine::translate(rect.origin().to_vec2() + about) * Affine::rotate(place.at.turn.to_radians()) * Affine::translate(-about) * mirror
}

/// What drawing one item gathers.
struct Drawn {
    children: Vec<Node>,
    height: f64,
    spills: bool,
    type_size: f64,
    carets: Vec<vatman_type::Caret>,
    faded: f64,
}

impl Drawn {
    fn words(&mut self, job: &Job, plain: &Plain<'_>, text: &RichText, prompt: &str, local: Size, means: &Means<'_>) {
        let kind = plain.look.type_look.clone().unwrap_or_default();
        let within = TextBox { width: local.width, height: local.height, scale: plain.item.place.scale.get() };
        let wants_carets = means.carets == Some(&plain.item.id);
        let own = means.typesetter.set_cached(text, &kind, within, wants_carets);
        self.spills = own.spills;
        self.type_size = own.size;
        self.carets.clone_from(&own.carets);
        let shown = if text.is_blank() && means.audience == Audience::Stage {
            // The prompt stands in, faded, and never leaves.
            self.faded = 0.4;
            means.typesetter.set_cached(&RichText::plain(prompt), &kind, within, false)
        } else {
            Arc::clone(&own)
        };
        if matches!(kind.fit, TextFit::Grow) {
            self.height = shown.height;
        }
        let field = Rect::new(0.0, 0.0, local.width, self.height.max(1.0));
        let scale = plain.item.place.scale.get();
        for run in &shown.runs {
            let fill = match &run.tint {
                Some(tint) => Some(Brush::Flat(Rgba::new(job.color(tint), 1.0))),
                None => plain.look.fill.as_ref().map(|paint| brush(job, paint, field)),
            };
            if let (Some((below, thick)), Some(first), Some(last)) = (run.underline, run.glyphs.first(), run.glyphs.last()) {
                let bar = Rect::new(first.x, first.y + below, last.x + last.advance, first.y + below + thick);
                self.children.push(Node::Path(PathNode { path: bar.to_path(0.01), fill: fill.clone(), stroke: None }));
            }
            let stroke = stroke(job, plain.look, field, scale);
            self.children.push(Node::Glyphs(Box::new(GlyphNode { run: run.clone(), fill, stroke })));
        }
    }

    #[allow(clippy::too_many_arguments, reason = "one call site; the arguments are the fields of a picture")]
    fn picture(&mut self, job: &Job, plain: &Plain<'_>, picture: Option<&AssetId>, focus: Focus, frame: &Outline, local: Size, means: &Means<'_>) {
        let scale = plain.item.place.scale.get();
        let path = frame.path(local.width, local.height, scale);
        let sized = picture.and_then(|id| Some((id, (means.picture_size)(id)?)));
        match sized {
            Some((id, pixels)) => {
                let dest = picture_box(local, Size::new(f64::from(pixels.0), f64::from(pixels.1)), focus, plain.item.place.crop);
                self.children.push(Node::Image(ImageNode { asset: id.clone(), pixels, dest, frame: path.clone() }));
            }
            None if means.audience == Audience::Stage => self.children.extend(empty_frame(&path, local)),
            None => {}
        }
        if picture.is_some() && let Some(line) = stroke(job, plain.look, local.to_rect(), scale) {
            self.children.push(Node::Path(PathNode { path, fill: None, stroke: Some(line) }));
        }
    }
}

/// A quiet stand-in for a frame without a picture: a tone, and a diagonal so that it is not taken for a panel.
fn empty_frame(path: &BezPath, local: Size) -> [Node; 2] {
    let grey = |alpha| Brush::Flat(Rgba::new(Color::opaque(120, 116, 110), alpha));
    let mut cross = BezPath::new();
    cross.move_to((0.0, local.height));
    cross.line_to((local.width, 0.0));
    let tone = Node::Path(PathNode { path: path.clone(), fill: Some(grey(0.28)), stroke: None });
    let line = Node::Path(PathNode { path: cross, fill: None, stroke: Some(Line { brush: grey(0.6), width: 1.0 }) });
    [tone, Node::Group(Group { clip: Some(path.clone()), ..Group::placed(Affine::IDENTITY, vec![line]) })]
}

fn shape(job: &Job, look: &Look, path: BezPath, local: Size, place: Place) -> Node {
    let field = local.to_rect();
    Node::Path(PathNode { path, fill: look.fill.as_ref().map(|paint| brush(job, paint, field)), stroke: stroke(job, look, field, place.scale.get()) })
}

fn stroke(job: &Job, look: &Look, field: Rect, scale: f64) -> Option<Line> {
    let stroke = look.stroke.as_ref()?;
    let width = stroke.width.to_css_px() * scale;
    (width > 0.0).then(|| Line { brush: brush(job, &stroke.paint, field), width })
}

/// Resolves a paint over a box.
fn brush(job: &Job, paint: &Paint, field: Rect) -> Brush {
    let stops = |stops: &[vatman_document::Stop]| {
        stops.iter().map(|stop| GradientStop { at: stop.at.get(), color: Rgba::new(job.color(&stop.tint), stop.opacity.get()) }).collect()
    };
    match paint {
        Paint::Flat { tint, opacity } => Brush::Flat(Rgba::new(job.color(tint), opacity.get())),
        Paint::Linear { angle, stops: list } => {
            // As long as the box is in that direction, so that the corners have the end colours.
            let (sin, cos) = angle.to_radians().sin_cos();
            let reach = (field.width() * sin.abs() + field.height() * cos.abs()) / 2.0;
            let along = kurbo::Vec2::new(sin * reach, -cos * reach);
            Brush::Linear { from: field.center() - along, to: field.center() + along, stops: stops(list) }
        }
        Paint::Radial { stops: list } => {
            let radius = Point::ORIGIN.distance(Point::new(field.width(), field.height())) / 2.0;
            Brush::Radial { centre: field.center(), radius, stops: stops(list) }
        }
    }
}

impl Brush {
    /// Whether it hides everything below.
    #[must_use]
    pub fn is_opaque(&self) -> bool {
        match self {
            Self::Flat(color) => color.a >= 1.0,
            Self::Linear { stops, .. } | Self::Radial { stops, .. } => stops.iter().all(|stop| stop.color.a >= 1.0),
        }
    }
}

impl Group {
    /// Whether it must be drawn apart and then mixed in.
    #[must_use]
    pub fn needs_layer(&self) -> bool {
        self.opacity < 1.0 || self.blend != Blend::Normal
    }
}
