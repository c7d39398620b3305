//! From a side of a job to its scene.

use std::collections::HashMap;
use std::sync::Arc;

use kurbo::{Affine, BezPath, Rect, Shape as _, Size};
use vatman_document::{
    AssetId, Code, Color, Content, Curve, Develop, Focus, GroupLook, Item, ItemId, Job, Outline, Part, PictureFit,
    PictureSource, Piece, Place, Plain, Reach, RichText, Side, StrokePlace, Tint, Treatment,
};
use vatman_type::{GlyphOutlines as _, GlyphRun, Setting, TextBox, Typesetter};
use vatman_units::Ratio;

use crate::code::code_grid;
use crate::draw::drawn;
use crate::filter::{Behind, Bunch, Filter, bunch_of};
use crate::frame::{Shown, picture_place};
use crate::node::{Brush, Frame, GlyphNode, Group, ImageNode, Line, Node, PathNode, Reading, Rgba, Scene, SceneItem};
use crate::paint::{Resolve, around};
use crate::rim::{Rims, rims};
use crate::standing::on_the_ground;

/// Who looks at a scene.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Audience {
    /// The maker: empty frames and prompts are shown.
    Stage,
    /// Everyone else: only what leaves.
    Output,
}

/// The outline of what is seen of a picture, in fractions of its width and height, by the non-zero rule; nothing where all of it is.
pub type Contours<'a> = &'a dyn Fn(&Arc<PictureSource>) -> Option<Arc<BezPath>>;

/// What composing needs from outside the job.
pub struct Means<'a> {
    /// Sets the words.
    pub typesetter: &'a Typesetter,
    /// Size in pixels of a picture, where it is at hand.
    pub picture_size: &'a dyn Fn(&AssetId) -> Option<(u32, u32)>,
    /// What is seen of a picture that is clear in parts.
    pub contours: Contours<'a>,
    /// Who looks.
    pub audience: Audience,
    /// The item whose places of the caret are wanted.
    pub carets: Option<&'a ItemId>,
}

/// A side as it was composed before.
#[derive(Clone, Copy)]
pub struct Before<'a> {
    /// The job then.
    pub job: &'a Job,
    /// The side then.
    pub side: &'a Side,
    /// Its scene, composed with the same means but for the places of the caret.
    pub scene: &'a Scene,
}

/// Composes one side.
#[must_use]
pub fn compose(job: &Job, piece: &Piece, side: &Side, means: &Means<'_>) -> Scene {
    recompose(job, piece, side, means, None)
}

/// Composes one side, and takes over what nothing has changed about since it was composed before.
#[must_use]
pub fn recompose(job: &Job, piece: &Piece, side: &Side, means: &Means<'_>, before: Option<Before<'_>>) -> Scene {
    let size = Size::new(piece.format.size.w.to_css_px(), piece.format.size.h.to_css_px());
    let before = before.filter(|before| before.job.swatches == job.swatches && before.scene.size == size);
    let known: HashMap<&ItemId, &Item> =
        before.iter().flat_map(|before| &before.side.items).map(|item| (&item.id, item)).collect();
    let drawn_before: HashMap<&ItemId, &SceneItem> =
        before.iter().flat_map(|before| &before.scene.items).map(|item| (&item.id, item)).collect();
    let as_before = |item: &Item| {
        let old = drawn_before.get(&item.id)?;
        let same = known.get(&item.id).is_some_and(|old| *old == item)
            && before.is_some_and(|before| before.job.kins.get(&item.kin) == job.kins.get(&item.kin));
        (same && old.carets.is_empty() && means.carets != Some(&item.id)).then(|| (*old).clone())
    };
    let bleed = piece.format.bleed.to_css_px();
    let sheet = size.to_rect().inflate(bleed, bleed);
    let resolve = Resolve { job, picture_size: means.picture_size, scale: 1.0 };
    let ground = side.ground.as_ref().and_then(|paint| resolve.brush(paint, sheet));
    let mut scene = Scene { size, bleed, ground, items: Vec::new(), bunches: Vec::new() };
    // The groups being drawn that look their own way, from the outermost in, by their places among the bunches.
    let mut open: Vec<usize> = Vec::new();
    let mut treated: Vec<Vec<Treatment>> = Vec::new();
    let resolved = |steps: &[Treatment]| PictureSource::resolved(steps, |tint| job.color(tint));
    for item in side.items.iter().filter(|item| !item.hidden) {
        let Some(mut drawn) = as_before(item).or_else(|| compose_item(job, item, size, means)) else { continue };
        open.retain(|at| item.groups.contains(&scene.bunches[*at].id));
        for look in item.groups.iter().filter_map(|group| side.group_look(group)).filter(|look| !look.is_plain()) {
            if open.iter().all(|at| scene.bunches[*at].id != look.group) {
                open.push(scene.bunches.len());
                scene.bunches.push(bunch(look, scene.items.len(), resolve));
                treated.push(resolved(&look.treatments));
            }
        }
        open.iter().for_each(|at| scene.bunches[*at].count += 1);
        if let Some(behind) = &mut drawn.behind {
            let from = open.last().map_or(0, |at| scene.bunches[*at].first);
            behind.hidden = false;
            behind.first = from;
            behind.ground = open.is_empty();
            behind.items = scene.items[from..].iter().map(|below| below.id.clone()).collect();
            behind.stamp = if behind.filter.even_blur().is_none() {
                scene.stamp(from..scene.items.len(), behind.ground)
            } else {
                0
            };
        }
        if let Some(plain) = job.plain(item).filter(treated_alone)
            && let Some(id) = bunch_of(&item.id)
        {
            let look = GroupLook { blend: plain.look.blend, ..GroupLook::plain(id) };
            scene.bunches.push(Bunch { count: 1, ..bunch(&look, scene.items.len(), resolve) });
            treated.push(resolved(&plain.look.treatments));
        }
        scene.items.push(drawn);
    }
    for (at, steps) in treated.into_iter().enumerate() {
        treat(&mut scene, at, steps);
    }
    scene.hide_covered();
    scene
}

/// A group that looks its own way, without its members and what is done to all of them.
fn bunch(look: &GroupLook, first: usize, resolve: Resolve<'_>) -> Bunch {
    Bunch {
        id: look.group.clone(),
        first,
        count: 0,
        opacity: look.opacity.get(),
        blend: look.blend,
        shadows: resolve.shadows(&look.effects),
        filter: None,
        stamp: 0,
    }
}

/// Whether an item is treated as it is drawn: words and drawings are, as pictures are developed and shapes treat what lies behind them.
fn treated_alone(plain: &Plain<'_>) -> bool {
    matches!(plain.content, Content::Words { .. } | Content::Drawing { .. })
        && plain.look.treatments.iter().any(|step| !step.is_idle())
}

/// Says how the members of a bunch are treated, now that they are there.
fn treat(scene: &mut Scene, at: usize, treatments: Vec<Treatment>) {
    let bunch = &scene.bunches[at];
    if treatments.is_empty() {
        return;
    }
    let boxes = scene.items[bunch.first..bunch.end()].iter().map(|item| item.frame.upright().to_css_px());
    let field = boxes.reduce(|all, own| all.union(own)).unwrap_or_else(|| scene.size.to_rect());
    let filter = Filter { treatments: Arc::new(treatments), field, longer: scene.size.width.max(scene.size.height) };
    let stamp = if filter.even_blur().is_none() { scene.stamp(bunch.first..bunch.end(), false) } else { 0 };
    let bunch = &mut scene.bunches[at];
    (bunch.filter, bunch.stamp) = (Some(filter), stamp);
}

/// An item on a sheet of a size.
pub(crate) fn compose_item(job: &Job, item: &Item, sheet: Size, means: &Means<'_>) -> Option<SceneItem> {
    let plain = job.plain(item)?;
    let place = item.place;
    let local = Size::new(place.at.rect.w.to_css_px(), place.at.rect.h.to_css_px());
    let resolve = Resolve { job, picture_size: means.picture_size, scale: place.scale.get() };
    let library = means.typesetter.library();
    let mut out = Drawn {
        resolve,
        plain: plain.clone(),
        means,
        children: Vec::new(),
        left: 0.0,
        size: local,
        outline: BezPath::new(),
        reading: Reading::Silent,
        spills: false,
        missing: Vec::new(),
        blanks: 0,
        type_size: 0.0,
        carets: Vec::new(),
        faded: 1.0,
    };
    match plain.content {
        Content::Words { text, prompt } => out.words(text, prompt),
        Content::Picture { picture, focus, frame, fit } => out.picture(picture.as_ref(), *focus, frame, *fit),
        Content::Shape { outline } => out.shape(outline),
        Content::Drawing { drawing } => {
            out.outline = out.size.to_rect().to_path(0.01);
            out.children.push(drawn(drawing, out.size, resolve));
        }
        Content::Code { code } => out.code(code),
    }
    let rect = place.at.rect.to_css_px();
    // Text that grows keeps its top edge (broken as typed, the edge its lines stand at) and turns about the middle of its lines.
    let grown = Rect::from_origin_size((rect.x0 + out.left, rect.y0), out.size);
    let transform = place_on_sheet(place, grown);
    let opacity = plain.look.opacity.get() * out.faded;
    let longer = sheet.width.max(sheet.height);
    let behind = treated_behind(&plain, resolve, longer).filter(|_| !out.outline.is_empty()).map(|treatments| Behind {
        outline: transform * out.outline,
        opacity,
        filter: Filter { treatments: Arc::new(treatments), field: sheet.to_rect(), longer },
        items: Vec::new(),
        first: 0,
        ground: true,
        stamp: 0,
        hidden: false,
    });
    let Rims { nodes, cut } = rims(&plain.look.effects, &out.children, resolve, (means.contours, library.as_ref()));
    out.children.splice(0..0, nodes);
    let below = on_the_ground(&plain.look.effects, &out.children, out.size, transform, resolve);
    let group = Group {
        transform,
        opacity,
        blend: plain.look.blend,
        clip: None,
        mask: None,
        shadows: resolve.shadows(&plain.look.effects),
        filter: None,
        children: out.children,
    };
    Some(SceneItem {
        id: item.id.clone(),
        frame: Frame {
            x: grown.x0,
            y: grown.y0,
            w: grown.width(),
            h: grown.height(),
            turn: place.at.turn.to_degrees(),
        },
        node: Arc::new(Node::Group(group)),
        below: (!below.is_empty())
            .then(|| Arc::new(Node::Group(Group { opacity, ..Group::placed(Affine::IDENTITY, below) }))),
        behind,
        cut: cut.map(|path| transform * path),
        reading: out.reading,
        spills: out.spills,
        missing: out.missing,
        blanks: out.blanks,
        type_size: out.type_size,
        carets: out.carets,
    })
}

/// What an item does to what lies behind it: the blur of its look, and, where it is a shape, the steps it treats with.
fn treated_behind(plain: &Plain<'_>, resolve: Resolve<'_>, longer: f64) -> Option<Vec<Treatment>> {
    let blur = plain.look.frost.filter(|blur| blur.is_positive()).map(|blur| {
        let sigma = blur.to_css_px() * resolve.scale / 2.0;
        Treatment::new(Develop::Blur { radius: Ratio::new(sigma / longer) })
    });
    let own = match plain.content {
        Content::Shape { .. } => PictureSource::resolved(&plain.look.treatments, |tint| resolve.job.color(tint)),
        Content::Words { .. } | Content::Picture { .. } | Content::Drawing { .. } | Content::Code { .. } => Vec::new(),
    };
    let all: Vec<Treatment> = blur.into_iter().chain(own).collect();
    (!all.is_empty()).then_some(all)
}

pub(crate) fn place_on_sheet(place: Place, rect: Rect) -> Affine {
    let about = rect.size().to_vec2() / 2.0;
    let mirror = if place.at.flip { Affine::new([-1.0, 0.0, 0.0, 1.0, rect.width(), 0.0]) } else { Affine::IDENTITY };
    Affine::translate(rect.origin().to_vec2() + about)
        * Affine::rotate(place.at.turn.to_radians())
        * Affine::translate(-about)
        * mirror
}

/// What drawing one item needs and gathers.
struct Drawn<'a> {
    resolve: Resolve<'a>,
    plain: Plain<'a>,
    means: &'a Means<'a>,
    children: Vec<Node>,
    /// Left edge of what is drawn relative to the item's box.
    left: f64,
    /// Size of what is drawn.
    size: Size,
    /// Its outline, for what is seen through it.
    outline: BezPath,
    reading: Reading,
    spills: bool,
    missing: Vec<String>,
    blanks: usize,
    type_size: f64,
    carets: Vec<vatman_type::Caret>,
    faded: f64,
}

impl Drawn<'_> {
    fn shape(&mut self, outline: &Outline) {
        let (look, field) = (self.plain.look.clone(), self.size.to_rect());
        self.outline = outline.path(self.size.width, self.size.height, self.resolve.scale);
        let fill = look.fill.as_ref().and_then(|paint| self.resolve.brush(paint, field));
        self.children = self.resolve.outlined(self.outline.clone(), fill, look.stroke.as_ref(), field);
    }

    /// A code stands square in the middle of its box, in its fill on its ground.
    fn code(&mut self, code: &Code) {
        let side = self.size.width.min(self.size.height);
        let corner = Affine::translate(((self.size.width - side) / 2.0, (self.size.height - side) / 2.0));
        let square = corner * Rect::new(0.0, 0.0, side, side).to_path(0.01);
        self.outline.clone_from(&square);
        let grid = Some(code.says.written()).filter(|_| !code.says.is_blank());
        let Some(grid) = grid.and_then(|words| code_grid(&words, side, code.mark.is_some())) else {
            if self.means.audience == Audience::Stage {
                self.children.extend(empty_frame(&square, self.size));
            }
            return;
        };
        if let Some(tint) = &code.ground {
            let ground = Brush::Flat(Rgba::new(self.resolve.job.color(tint), 1.0));
            self.children.push(Node::Path(PathNode::new(square, Some(ground), None)));
        }
        let look = self.plain.look.clone();
        let fill = match &look.fill {
            Some(paint) => self.resolve.brush(paint, self.size.to_rect()),
            None => Some(Brush::Flat(Rgba::new(Color::BLACK, 1.0))),
        };
        let mark = code.mark.as_ref().and_then(|mark| Some((mark, (self.means.picture_size)(mark)?)));
        let modules = corner * grid.path(side, mark.is_some());
        self.children.push(Node::Path(PathNode::new(modules, fill, None)));
        if let Some((mark, pixels)) = mark {
            let module = grid.module(side);
            let room = corner.transform_rect_bbox(grid.middle(side).inflate(-module, -module));
            let (wide, high) = (f64::from(pixels.0), f64::from(pixels.1));
            let scale = (room.width() / wide).min(room.height() / high);
            let dest = Rect::from_center_size(room.center(), (wide * scale, high * scale));
            let source = Arc::new(PictureSource::plain(mark.clone()));
            self.children.push(Node::Image(ImageNode { source, pixels, dest, frame: dest.to_path(0.01) }));
        }
        self.reading = Reading::Figure("Code to scan");
    }

    fn words(&mut self, text: &RichText, prompt: &str) {
        let kind = self.plain.look.type_look.clone().unwrap_or_default();
        let within = TextBox { width: self.size.width, height: self.size.height, scale: self.resolve.scale };
        let wants_carets = self.means.carets == Some(&self.plain.item.id);
        let own = self.means.typesetter.set_cached(text, &kind, within, wants_carets);
        self.spills = own.spills;
        self.missing = self.means.typesetter.missing(text, &kind);
        self.blanks = own.runs.iter().flat_map(|run| &run.glyphs).filter(|glyph| glyph.id == 0).count();
        self.type_size = own.size;
        self.carets.clone_from(&own.carets);
        let blank = text.is_blank();
        let shown = if blank && self.means.audience == Audience::Stage {
            // The prompt stands in, faded, and never leaves.
            self.faded = 0.4;
            self.means.typesetter.set_cached(&RichText::plain(prompt), &kind, within, false)
        } else {
            Arc::clone(&own)
        };
        if !blank {
            self.reading = Reading::Words { heading: self.plain.part == Part::Headline, lines: own.says.clone() };
        }
        match (kind.fit, kind.curve) {
            (fit, _) if fit.grows() && kind.lock_up.is_some() => self.size.height = shown.height,
            _ if kind.lock_up.is_some() => {}
            (_, Some(Curve::Circle { .. })) => {}
            (fit, None) if fit.hugs() => {
                (self.left, self.size) = (shown.left, Size::new(shown.width.max(1.0), shown.height))
            }
            (fit, _) if fit.grows() => self.size.height = shown.height,
            _ => {}
        }
        self.outline = self.size.to_rect().to_path(0.01);
        if !blank || self.means.audience == Audience::Stage {
            self.backing(&shown);
        }
        for panel in &shown.panels {
            let fill = self.plain.look.fill.as_ref().and_then(|paint| self.resolve.brush(paint, self.size.to_rect()));
            self.children.push(Node::Path(PathNode::new(panel.clone(), fill, None)));
        }
        for rule in &shown.rules {
            let fill = self.plain.look.fill.as_ref().and_then(|paint| self.resolve.brush(paint, self.size.to_rect()));
            self.children.push(Node::Path(PathNode::new(rule.to_path(0.01), fill, None)));
        }
        for run in &shown.runs {
            self.letters(run);
        }
    }

    /// The shape behind the words, as it follows them.
    fn backing(&mut self, shown: &Setting) {
        let Some(backing) = &self.plain.look.backing else { return };
        let (pad_x, pad_y) = (backing.pad_x.get() * shown.size, backing.pad_y.get() * shown.size);
        let whole = self.size.to_rect();
        let lines = shown
            .lines
            .iter()
            .filter(|line| line.width > 0.0)
            .map(|line| Rect::new(line.x, line.top, line.x + line.width, line.bottom));
        let boxes: Vec<Rect> = match backing.reach {
            Reach::Box => vec![whole],
            Reach::Words => lines.reduce(|a, b| a.union(b)).into_iter().collect(),
            Reach::Lines => lines.collect(),
        };
        let mut all = BezPath::new();
        for area in boxes
            .into_iter()
            .map(|area| area.inflate(pad_x, pad_y))
            .filter(|area| area.width() > 0.0 && area.height() > 0.0)
        {
            let path = Affine::translate(area.origin().to_vec2())
                * backing.outline.path(area.width(), area.height(), self.resolve.scale);
            let fill = backing.fill.as_ref().and_then(|paint| self.resolve.brush(paint, area));
            all.extend(path.iter());
            self.children.extend(self.resolve.outlined(path, fill, backing.stroke.as_ref(), area));
        }
        self.outline = all;
    }

    fn letters(&mut self, run: &GlyphRun) {
        let (look, field) =
            (self.plain.look.clone(), Rect::from_origin_size((0.0, 0.0), (self.size.width, self.size.height.max(1.0))));
        let fill = match &run.tint {
            Some(tint) => Some(Brush::Flat(Rgba::new(self.resolve.job.color(tint), 1.0))),
            None if run.on_panel => {
                let own = look.fill.as_ref().and_then(|fill| fill.tints().next());
                own.map(|tint| Brush::Flat(Rgba::new(self.resolve.job.color(tint).letters(), 1.0)))
            }
            None => look.fill.as_ref().and_then(|paint| self.resolve.brush(paint, field)),
        };
        for (below, thick) in &run.bars {
            let path = bar(run, *below, *thick);
            self.children.push(Node::Path(PathNode::new(path, fill.clone(), None)));
        }
        let opaque = fill.as_ref().is_some_and(Brush::is_opaque);
        let line = self.resolve.letter_line(look.stroke.as_ref(), opaque, field);
        let (stroke, clipped) = match line {
            Some((line, StrokePlace::Centre)) => (Some(line), None),
            Some((line, place)) => (None, Some((line, place))),
            None => (None, None),
        };
        self.children.push(Node::Glyphs(Box::new(GlyphNode { run: run.clone(), fill, stroke })));
        if let Some((line, place)) = clipped {
            let letters = self.letter_path(run);
            let clip = if place == StrokePlace::Inside { letters.clone() } else { around(&letters, line.reach()) };
            let edge = Node::Path(PathNode::new(letters, None, Some(line)));
            self.children.push(Node::Group(Group { clip: Some(clip), ..Group::placed(Affine::IDENTITY, vec![edge]) }));
        }
    }

    fn letter_path(&self, run: &GlyphRun) -> BezPath {
        let library = self.means.typesetter.library();
        let mut path = BezPath::new();
        for glyph in &run.glyphs {
            let place = glyph.transform(run.size);
            path.extend(library.glyph(run.face, glyph.id).iter().map(|element| place * element));
        }
        path
    }

    fn picture(&mut self, picture: Option<&AssetId>, focus: Focus, frame: &Outline, fit: PictureFit) {
        let local = self.size;
        let path = frame.path(local.width, local.height, self.resolve.scale);
        self.outline.clone_from(&path);
        let color = |tint: &Tint| self.resolve.job.color(tint);
        let source = picture.map(|id| Arc::new(PictureSource::of(id.clone(), &self.plain.look, color)));
        let sized = source.and_then(|source| {
            let pixels = source.size((self.means.picture_size)(&source.asset)?);
            Some((source, pixels))
        });
        match sized {
            Some((source, pixels)) => {
                let shown = Shown { focus, crop: self.plain.item.place.crop, fit };
                let place = picture_place(local, Size::new(f64::from(pixels.0), f64::from(pixels.1)), shown);
                let node = match fit {
                    PictureFit::Tile => Node::Path(PathNode::new(
                        place.inward * path.clone(),
                        Some(Brush::Image { source, pixels, dest: place.dest }),
                        None,
                    )),
                    PictureFit::Fill | PictureFit::Fit => {
                        Node::Image(ImageNode { source, pixels, dest: place.dest, frame: place.inward * path.clone() })
                    }
                };
                let upright = place.outward == Affine::IDENTITY;
                self.children.push(if upright { node } else { Node::Group(Group::placed(place.outward, vec![node])) });
            }
            None if self.means.audience == Audience::Stage => self.children.extend(empty_frame(&path, local)),
            None => {}
        }
        if picture.is_some() {
            self.reading = Reading::Figure(self.plain.part.name());
        }
        if picture.is_some() && self.plain.look.stroke.is_some() {
            let edge = self.resolve.outlined(path, None, self.plain.look.stroke.as_ref(), local.to_rect());
            self.children.extend(edge);
        }
    }
}

/// A line along a run of letters, under or through them; on a curve it follows them letter by letter.
fn bar(run: &GlyphRun, below: f64, thick: f64) -> BezPath {
    let piece = |x: f64, y: f64, turn: f64, length: f64| {
        Affine::translate((x, y)) * Affine::rotate(turn) * Rect::new(0.0, below, length, below + thick).to_path(0.01)
    };
    let straight = run.glyphs.iter().all(|glyph| glyph.turn == 0.0);
    match (run.glyphs.first(), run.glyphs.last()) {
        (Some(first), Some(last)) if straight => piece(first.x, first.y, 0.0, last.x + last.advance - first.x),
        _ => run.glyphs.iter().flat_map(|glyph| piece(glyph.x, glyph.y, glyph.turn, glyph.advance)).collect(),
    }
}

/// A quiet stand-in for a frame without a picture: a tone, and a diagonal so that it is not taken for a panel.
fn empty_frame(path: &BezPath, local: Size) -> [Node; 2] {
    let grey = |alpha| Brush::Flat(Rgba::new(Color::opaque(120, 116, 110), alpha));
    let mut cross = BezPath::new();
    cross.move_to((0.0, local.height));
    cross.line_to((local.width, 0.0));
    let tone = Node::Path(PathNode::new(path.clone(), Some(grey(0.28)), None));
    let line = Node::Path(PathNode::new(cross, None, Some(Line::solid(grey(0.6), 1.0))));
    [tone, Node::Group(Group { clip: Some(path.clone()), ..Group::placed(Affine::IDENTITY, vec![line]) })]
}
