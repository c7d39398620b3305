//! Scene to PDF: vectors stay vectors, words stay words in embedded subset fonts.

use std::collections::HashMap;
use std::sync::Arc;

use krilla::Data;
use krilla::SerializeSettings;
use krilla::blend::BlendMode;
use krilla::color::rgb;
use krilla::color::separation::{self, SeparationColorant, SeparationSpace};
use krilla::geom::{Point, Rect, Size, Transform};
use krilla::image::Image;
use krilla::mask::{Mask, MaskType};
use krilla::metadata::Metadata;
use krilla::num::NormalizedF32;
use krilla::page::PageSettings;
use krilla::paint::{
    Fill, FillRule, LineCap, LineJoin, LinearGradient, Paint, Pattern, RadialGradient, SpreadMethod, Stop, Stroke,
    StrokeDash, SweepGradient,
};
use krilla::surface::Surface;
use krilla::tagging::{ArtifactType, TagTree};
use krilla::text::{Font, GlyphId, KrillaGlyph};
use kurbo::{Affine, Shape as _};
use thiserror::Error;
use vatman_document::{Blend, Cap, Join, PictureSource, Spread};
use vatman_photo::{PictureFormat, Pictures, bare_jpeg};
use vatman_scene::{
    Behind, Brush, Bunch, GlyphNode, Group, ImageNode, Line, MaskNodes, Node, PathNode, Rgba, Scene, SceneItem, Tile,
};
use vatman_type::{FaceId, FontLibrary, GlyphRun};

use crate::paths::{pdf_path, scale_of};
use crate::pixels::{Patch, PixelError, bunch_patch, group_patch, seen_behind, thrown};
use crate::reading::PageReading;
use crate::walk::{Sink, visit, walk, walk_bunch, walk_some};
use crate::{cutting, marks};

/// Points in a CSS pixel.
const POINTS: f64 = 0.75;

/// How a PDF is written.
#[derive(Debug, Clone, Copy, Default)]
pub struct PdfOptions<'a> {
    /// Title of the document.
    pub title: &'a str,
    /// Language of what it says, as in BCP 47; empty where it is not known.
    pub language: &'a str,
    /// Whether pages carry their bleed around the trim box. Default: no.
    pub bleed: bool,
}

/// One page.
pub struct PdfPage<'a> {
    /// What is on it.
    pub scene: &'a Scene,
    /// Crop marks around it, with the letters of a slug below, placed from 2 mm inside the left of the trim and about their middle.
    pub slug: Option<&'a [GlyphRun]>,
    /// Resolution of what vectors cannot say, in pixels per inch.
    pub ppi: f64,
}

/// Why there is no PDF.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum PdfError {
    /// A picture is missing or cannot be embedded.
    #[error("A picture used in the design cannot be put into the PDF: {0}.")]
    Picture(String),
    /// A face cannot be embedded.
    #[error("A typeface used in the design cannot be embedded.")]
    Font,
    /// Shadows or what is blurred behind a panel could not be drawn.
    #[error(transparent)]
    Pixels(#[from] PixelError),
    /// The writer refused.
    #[error("The PDF could not be written: {0}.")]
    Writer(String),
}

/// Writes pages of their exact physical size: words read in order, headings and pictures named in the document's structure.
///
/// # Errors
/// [`PdfError`] where a picture or face cannot be embedded.
pub fn write_pdf(
    pages: &[PdfPage<'_>],
    options: PdfOptions<'_>,
    library: &FontLibrary,
    pictures: &Pictures,
) -> Result<Vec<u8>, PdfError> {
    let mut document =
        krilla::Document::new_with(SerializeSettings { enable_tagging: true, ..SerializeSettings::default() });
    let metadata = Metadata::new().title(options.title.to_owned()).creator("Vatman".to_owned());
    document.set_metadata(match options.language {
        "" => metadata,
        language => metadata.language(language.to_owned()),
    });
    let mut shared = Shared::default();
    let mut tree = TagTree::new();
    for page in pages {
        let scene = page.scene;
        let bleed = if options.bleed { scene.bleed } else { 0.0 };
        let room = if page.slug.is_some() { marks::room(bleed) } else { bleed };
        let (width, height) = ((scene.size.width + 2.0 * room) * POINTS, (scene.size.height + 2.0 * room) * POINTS);
        let unmade = || PdfError::Writer("a page has no size".into());
        let within = |edge: f64| {
            let edge = (edge * POINTS) as f32;
            Rect::from_ltrb(edge, edge, width as f32 - edge, height as f32 - edge)
        };
        let settings = PageSettings::from_wh(width as f32, height as f32)
            .ok_or_else(unmade)?
            .with_trim_box(within(room))
            .with_bleed_box(within(room - bleed));
        let mut target = document.start_page_with(settings);
        let surface = target.surface();
        let mut sink = Writer {
            surface,
            pushes: Vec::new(),
            scales: vec![page.ppi / 96.0],
            library,
            pictures,
            shared: &mut shared,
            reading: Some(PageReading::default()),
            only_said: false,
        };
        let outcome = sink.page(page, bleed, room);
        let reading = sink.reading.take();
        drop(sink);
        target.finish();
        outcome?;
        if let Some(reading) = reading {
            reading.into_tree(&mut tree);
        }
    }
    document.set_tag_tree(tree);
    document.finish().map_err(|error| PdfError::Writer(format!("{error:?}").chars().take(200).collect()))
}

/// What the pages of a document share.
#[derive(Default)]
struct Shared {
    fonts: HashMap<FaceId, Font>,
    images: HashMap<(Arc<PictureSource>, u32), Image>,
}

struct Writer<'a, 's> {
    surface: Surface<'s>,
    /// How many pushes each open group made; the surface must be popped as often.
    pushes: Vec<usize>,
    /// Pixels in a unit of the coordinates outside each open group, for what becomes pixels.
    scales: Vec<f64>,
    library: &'a FontLibrary,
    pictures: &'a Pictures,
    shared: &'a mut Shared,
    /// None where no mark reaches.
    reading: Option<PageReading>,
    /// Whether things are drawn already, as pixels, and only their words are still to be there.
    only_said: bool,
}

impl Writer<'_, '_> {
    fn page(&mut self, page: &PdfPage<'_>, bleed: f64, room: f64) -> Result<(), PdfError> {
        let scene = page.scene;
        self.surface.push_transform(&matrix(Affine::scale(POINTS) * Affine::translate((room, room))));
        // What hangs over the edge would be seen between the marks.
        let seen = page.slug.and_then(|_| pdf_path(&scene.size.to_rect().inflate(bleed, bleed).to_path(0.01)));
        if let Some(seen) = &seen {
            self.surface.push_clip_path(seen, &FillRule::NonZero);
        }
        let drawn = self.sheet(scene);
        self.cutting_lines(scene);
        if seen.is_some() {
            self.surface.pop();
        }
        let outcome = drawn.and_then(|()| match page.slug {
            Some(slug) => self.marks(scene, bleed, slug),
            None => Ok(()),
        });
        self.mark(|reading, surface| reading.close(surface));
        self.surface.pop();
        outcome
    }

    /// The lines along which items are to be cut, in a separation of their own.
    fn cutting_lines(&mut self, scene: &Scene) {
        let paths: Vec<_> = scene.items.iter().filter_map(|item| pdf_path(item.cut.as_ref()?)).collect();
        if paths.is_empty() {
            return;
        }
        self.mark(|reading, surface| reading.unread(surface, ArtifactType::Layout));
        let [r, g, b] = cutting::RGB;
        let space =
            SeparationSpace::new(SeparationColorant::Custom(cutting::NAME.into()), rgb::Color::new(r, g, b).into());
        let paint = krilla::color::Color::from(separation::Color::new(255, space)).into();
        self.surface.set_fill(None);
        self.surface.set_stroke(Some(Stroke { paint, width: cutting::WIDTH as f32, ..Stroke::default() }));
        paths.iter().for_each(|path| self.surface.draw_path(path));
        self.surface.set_stroke(None);
    }

    /// Crop marks and slug, in every ink there is.
    fn marks(&mut self, scene: &Scene, bleed: f64, slug: &[GlyphRun]) -> Result<(), PdfError> {
        self.mark(|reading, surface| reading.unread(surface, ArtifactType::Page));
        let every = SeparationSpace::new(SeparationColorant::AllColorants, rgb::Color::black().into());
        let ink: Paint = krilla::color::Color::from(separation::Color::new(255, every)).into();
        self.surface.set_fill(None);
        self.surface.set_stroke(Some(Stroke { paint: ink.clone(), width: marks::THICK as f32, ..Stroke::default() }));
        if let Some(path) = pdf_path(&marks::crop_marks(scene.size, bleed)) {
            self.surface.draw_path(&path);
        }
        let down = scene.size.height + marks::slug_middle(bleed);
        self.surface.push_transform(&matrix(Affine::translate((marks::SLUG_INSET, down))));
        self.surface.set_stroke(None);
        self.surface.set_fill(Some(Fill { paint: ink, ..Fill::default() }));
        let outcome = slug.iter().try_for_each(|run| self.show(run, false));
        self.surface.pop();
        outcome
    }

    fn mark(&mut self, change: impl FnOnce(&mut PageReading, &mut Surface<'_>)) {
        if let Some(reading) = &mut self.reading {
            change(reading, &mut self.surface);
        }
    }

    fn sheet(&mut self, scene: &Scene) -> Result<(), PdfError> {
        self.mark(|reading, surface| reading.unread(surface, ArtifactType::Layout));
        let outcome = match &scene.ground {
            Some(brush) => {
                let sheet = scene.size.to_rect().inflate(scene.bleed, scene.bleed);
                self.path(&PathNode::new(sheet.to_path(0.01), Some(brush.clone()), None))
            }
            None => Ok(()),
        };
        outcome.and_then(|()| walk(scene, self))
    }

    fn brush(&mut self, brush: &Brush) -> Result<(Paint, NormalizedF32), PdfError> {
        match brush {
            Brush::Tile(tile) => Ok((self.tiled(tile), NormalizedF32::ONE)),
            Brush::Image { source, dest, .. } => Ok((self.pictured(source, *dest)?, NormalizedF32::ONE)),
            Brush::Flat(_) | Brush::Linear { .. } | Brush::Radial { .. } | Brush::Conic { .. } => Ok(paint(brush)),
        }
    }

    fn tiled(&mut self, tile: &Tile) -> Paint {
        let mut builder = self.surface.stream_builder();
        let mut surface = builder.surface();
        let mut area = |path: kurbo::BezPath, color: Rgba| {
            let (paint, opacity) = paint(&Brush::Flat(color));
            surface.set_stroke(None);
            surface.set_fill(Some(Fill { paint, opacity, rule: FillRule::NonZero }));
            if let Some(path) = pdf_path(&path) {
                surface.draw_path(&path);
            }
        };
        if let Some(ground) = tile.ground {
            area(tile.cell.to_rect().to_path(0.01), ground);
        }
        area(tile.figure.clone(), tile.ink);
        surface.finish();
        let stream = builder.finish();
        Pattern {
            stream,
            transform: matrix(tile.transform),
            width: tile.cell.width as f32,
            height: tile.cell.height as f32,
        }
        .into()
    }

    /// Draws letters as they are painted just now.
    fn show(&mut self, run: &GlyphRun, outlined: bool) -> Result<(), PdfError> {
        let Some(first) = run.glyphs.first() else { return Ok(()) };
        let font = match self.shared.fonts.get(&run.face) {
            Some(font) => font.clone(),
            None => {
                let data = Data::from(self.library.face_data(run.face).to_vec());
                let font = Font::new(data, 0).ok_or(PdfError::Font)?;
                self.shared.fonts.insert(run.face, font.clone());
                font
            }
        };
        let size = run.size as f32;
        let straight = run.glyphs.iter().all(|glyph| glyph.turn == 0.0);
        let next = run
            .glyphs
            .iter()
            .skip(1)
            .map(|glyph| glyph.x)
            .chain(std::iter::once(run.glyphs.last().map_or(0.0, |last| last.x + last.advance)));
        let text = run.text.as_str();
        let glyphs: Vec<KrillaGlyph> = run
            .glyphs
            .iter()
            .zip(next)
            .map(|(glyph, next)| {
                let (advance, lift) = if straight {
                    ((next - glyph.x) / run.size, (first.y - glyph.y) / run.size)
                } else {
                    (glyph.advance / run.size, 0.0)
                };
                let range = glyph.text.clone();
                KrillaGlyph::new(GlyphId::new(glyph.id), advance as f32, 0.0, lift as f32, 0.0, range, None)
            })
            .collect();
        if !straight {
            return self.show_turned(run, &glyphs, &font);
        }
        let start = Point::from_xy(first.x as f32, first.y as f32);
        if run.spaced && !outlined {
            let glyphs = self.spelt(&glyphs, &font, run);
            self.surface.draw_glyphs(start, &glyphs, font, text, size, false);
        } else {
            self.surface.draw_glyphs(start, &glyphs, font, text, size, outlined);
        }
        Ok(())
    }

    /// Letters so far apart that readers take the gaps for spaces: the run says as a whole what it spells.
    fn spelt(&mut self, glyphs: &[KrillaGlyph], font: &Font, run: &GlyphRun) -> Vec<KrillaGlyph> {
        // The font learns what each letter means before they all mean the whole; this stream goes nowhere.
        let mut apart = self.surface.stream_builder();
        let mut surface = apart.surface();
        surface.draw_glyphs(Point::default(), glyphs, font.clone(), &run.text, run.size as f32, false);
        surface.finish();
        drop(apart.finish());
        glyphs.iter().map(|glyph| KrillaGlyph { text_range: 0..run.text.len(), ..glyph.clone() }).collect()
    }

    /// Letters on a curve are outlines, each in its turn; what they say stands unseen across their middle.
    fn show_turned(&mut self, run: &GlyphRun, glyphs: &[KrillaGlyph], font: &Font) -> Result<(), PdfError> {
        let size = run.size as f32;
        let origin = Point::from_xy(0.0, 0.0);
        let mut area: Option<kurbo::Rect> = None;
        for (glyph, place) in glyphs.iter().zip(&run.glyphs) {
            let turn = Affine::translate((place.x, place.y)) * Affine::rotate(place.turn);
            self.surface.push_transform(&matrix(turn));
            self.surface.draw_glyphs(origin, std::slice::from_ref(glyph), font.clone(), &run.text, size, true);
            self.surface.pop();
            let middle = turn * kurbo::Point::new(place.advance / 2.0, -run.size * 0.35);
            area = Some(area.map_or(kurbo::Rect::from_points(middle, middle), |area| area.union_pt(middle)));
        }
        let Some(middle) = area.map(|area| area.center()) else { return Ok(()) };
        let length: f64 = run.glyphs.iter().map(|glyph| glyph.advance).sum();
        let (fill, stroke) = (self.surface.get_fill().cloned(), self.surface.get_stroke().cloned());
        self.unseen();
        let start = Point::from_xy((middle.x - length / 2.0) as f32, (middle.y + run.size * 0.35) as f32);
        let glyphs = if run.spaced { self.spelt(glyphs, font, run) } else { glyphs.to_vec() };
        self.surface.draw_glyphs(start, &glyphs, font.clone(), &run.text, size, false);
        self.surface.set_fill(fill);
        self.surface.set_stroke(stroke);
        Ok(())
    }

    /// Paints nothing; words drawn so can be read all the same.
    fn unseen(&mut self) {
        self.surface.set_stroke(None);
        self.surface.set_fill(Some(Fill { opacity: NormalizedF32::ZERO, ..Fill::default() }));
    }

    fn pictured(&mut self, source: &Arc<PictureSource>, dest: kurbo::Rect) -> Result<Paint, PdfError> {
        let image = self.embedded(source, dest.width())?;
        let (w, h) = (dest.width() as f32, dest.height() as f32);
        let size = Size::from_wh(w, h).ok_or_else(|| PdfError::Picture(source.asset.to_string()))?;
        let mut builder = self.surface.stream_builder();
        let mut surface = builder.surface();
        surface.draw_image(image, size);
        surface.finish();
        let stream = builder.finish();
        Ok(Pattern {
            stream,
            transform: Transform::from_translate(dest.x0 as f32, dest.y0 as f32),
            width: w,
            height: h,
        }
        .into())
    }

    fn set_paint(&mut self, fill: Option<&Brush>, stroke: Option<&Line>, rule: FillRule) -> Result<(), PdfError> {
        let fill = fill.map(|brush| self.brush(brush)).transpose()?;
        let stroke = stroke.map(|line| Ok::<_, PdfError>((self.brush(&line.brush)?, line))).transpose()?;
        self.surface.set_fill(fill.map(|(paint, opacity)| Fill { paint, opacity, rule }));
        self.surface.set_stroke(stroke.map(|((paint, opacity), line)| {
            Stroke {
                paint,
                opacity,
                width: line.width as f32,
                line_join: match line.join {
                    Join::Mitre => LineJoin::Miter,
                    Join::Round => LineJoin::Round,
                    Join::Bevel => LineJoin::Bevel,
                },
                line_cap: match line.cap {
                    Cap::Flat => LineCap::Butt,
                    Cap::Round => LineCap::Round,
                    Cap::Square => LineCap::Square,
                },
                miter_limit: 4.0,
                dash: (!line.dash.is_empty())
                    .then(|| StrokeDash { array: line.dash.iter().map(|part| *part as f32).collect(), offset: 0.0 }),
            }
        }));
        Ok(())
    }

    /// Draws pixels where they belong, in the present coordinates.
    fn patch(&mut self, patch: Option<Patch>) {
        let Some(Patch { pixels, area }) = patch else { return };
        let Some(size) = Size::from_wh(area.width() as f32, area.height() as f32) else { return };
        let pixels = pixels.straight();
        let image = Image::from_rgba8(pixels.data().to_vec(), pixels.width(), pixels.height());
        self.surface.push_transform(&Transform::from_translate(area.x0 as f32, area.y0 as f32));
        self.surface.draw_image(image, size);
        self.surface.pop();
    }

    fn scale(&self) -> f64 {
        self.scales.last().copied().unwrap_or(1.0)
    }

    /// Fill and line of something drawn by `draw`, in their order.
    fn painted(
        &mut self,
        fill: Option<&Brush>,
        stroke: Option<&Line>,
        rule: FillRule,
        mut draw: impl FnMut(&mut Self, bool),
    ) -> Result<(), PdfError> {
        match stroke {
            Some(line) if line.below => {
                self.set_paint(None, Some(line), rule)?;
                draw(self, true);
                if let Some(brush) = fill {
                    self.set_paint(Some(brush), None, rule)?;
                    draw(self, false);
                }
            }
            _ if fill.is_none() && stroke.is_none() => {}
            _ => {
                self.set_paint(fill, stroke, rule)?;
                draw(self, false);
            }
        }
        Ok(())
    }

    /// A picture that is shown so wide. An untreated one is embedded as it came, a treated one with the pixels its place asks for.
    fn embedded(&mut self, source: &Arc<PictureSource>, shown: f64) -> Result<Image, PdfError> {
        let wide = if source.is_plain() { 0 } else { (shown * self.scale()).ceil().clamp(1.0, 1e6) as u32 };
        let key = (Arc::clone(source), wide);
        if let Some(image) = self.shared.images.get(&key) {
            return Ok(image.clone());
        }
        let missing = || PdfError::Picture(source.asset.to_string());
        let id = &source.asset;
        let info = self.pictures.info(id).ok_or_else(missing)?;
        let bytes = self.pictures.bytes(id).ok_or_else(missing)?;
        // An upright JPEG in sRGB keeps its scans, without what it tells about its maker; the reader of the PDF decodes it.
        let direct = (source.is_plain() && info.format == PictureFormat::Jpeg && info.is_plain())
            .then(|| bare_jpeg(&bytes).and_then(|bare| Image::from_jpeg(Data::from(bare), false).ok()))
            .flatten();
        let image = match direct.filter(|image| image.size() == (info.width, info.height)) {
            Some(image) => image,
            None => {
                let (w, h) = self.pictures.size(source).ok_or_else(missing)?;
                let by = if wide == 0 { 1.0 } else { (f64::from(wide) / f64::from(w)).min(1.0) };
                let scaled = |side: u32| ((f64::from(side) * by).round() as u32).max(1);
                let pixels = self.pictures.print(source, (scaled(w), scaled(h))).ok_or_else(missing)?;
                Image::from_rgba8(pixels.data().to_vec(), pixels.width(), pixels.height())
            }
        };
        self.shared.images.insert(key, image.clone());
        Ok(image)
    }
}

impl Sink for Writer<'_, '_> {
    type Error = PdfError;

    fn enter(&mut self, item: &SceneItem) {
        self.mark(|reading, surface| reading.enter(surface, item));
    }

    fn leave(&mut self, item: &SceneItem) {
        self.mark(|reading, surface| reading.leave(surface, item));
    }

    fn behind(&mut self, behind: &Behind, scene: &Scene, below: usize) -> Result<(), PdfError> {
        let Some(outline) = pdf_path(&behind.outline).filter(|_| !self.only_said) else { return Ok(()) };
        let patch = seen_behind(behind, scene, below, self.scale(), self.library, self.pictures)?;
        self.surface.push_clip_path(&outline, &FillRule::NonZero);
        self.surface.push_opacity(share(behind.opacity));
        self.patch(patch);
        self.surface.pop();
        self.surface.pop();
        Ok(())
    }

    /// Soft things, and words once more: pixels say them, and nothing is read twice.
    fn below(&mut self, node: &Node) -> Result<(), PdfError> {
        let Node::Group(group) = node else { return visit(node, self) };
        if self.only_said {
            return Ok(());
        }
        let patch = group_patch(group, self.scale(), self.library, self.pictures)?;
        self.mixed(group, |writer| writer.patch(patch));
        Ok(())
    }

    fn bunch(&mut self, scene: &Scene, bunch: &Bunch, group: &Group) -> Result<bool, PdfError> {
        let Some(at) = scene.bunches.iter().position(|other| other.id == bunch.id) else { return Ok(false) };
        let items = &scene.items[bunch.first..bunch.end().min(scene.items.len())];
        if self.only_said {
            return Ok(false);
        }
        if bunch.filter.is_none() {
            // What is drawn by itself is out of reach of marks: all it says is one text.
            self.mark(|reading, surface| reading.enter_bunch(surface, items));
            let reading = self.reading.take();
            let outcome = walk_bunch(scene, at, group, self);
            self.reading = reading;
            self.mark(|reading, surface| reading.leave_bunch(surface, items));
            return outcome.map(|()| true);
        }
        let patch = bunch_patch(scene, at, self.scale(), self.library, self.pictures)?;
        self.mark(|reading, surface| reading.unread(surface, ArtifactType::Layout));
        self.mixed(group, |writer| writer.patch(patch));
        // What it says is there all the same.
        self.only_said = true;
        let outcome = walk_some(scene, bunch.first..bunch.end(), self);
        self.only_said = false;
        outcome.map(|()| true)
    }

    fn whole(&mut self, group: &Group) -> Result<bool, PdfError> {
        if group.filter.is_none() || self.only_said {
            return Ok(false);
        }
        let patch = group_patch(group, self.scale(), self.library, self.pictures)?;
        self.mixed(group, |writer| writer.patch(patch));
        Ok(true)
    }

    fn begin(&mut self, group: &Group) -> Result<(), PdfError> {
        if self.only_said {
            self.surface.push_transform(&matrix(group.transform));
            self.pushes.push(1);
            return Ok(());
        }
        let mut pushes = 0;
        // In this order: an isolated group outside would hide from the blend what lies below.
        if let Some(mode) = blend_mode(group.blend) {
            self.surface.push_blend_mode(mode);
            pushes += 1;
        }
        if group.opacity < 1.0 {
            self.surface.push_opacity(share(group.opacity));
            pushes += 1;
        }
        if group.needs_layer() {
            self.surface.push_isolated();
            pushes += 1;
        }
        let below = thrown(group, false, self.scale(), self.library, self.pictures)?;
        self.patch(below);
        if let Some(mask) = &group.mask {
            let mask = self.mask(group, mask)?;
            self.surface.push_mask(mask);
            pushes += 1;
        }
        self.surface.push_transform(&matrix(group.transform));
        let mut inside = 1;
        if let Some(clip) = group.clip.as_ref().and_then(pdf_path) {
            self.surface.push_clip_path(&clip, &FillRule::NonZero);
            inside += 1;
        }
        self.pushes.push(pushes);
        self.pushes.push(inside);
        self.scales.push(self.scale() * scale_of(group.transform));
        Ok(())
    }

    fn end(&mut self, group: &Group) -> Result<(), PdfError> {
        if self.only_said {
            self.pop_group();
            return Ok(());
        }
        self.scales.pop();
        self.pop_group();
        let over = thrown(group, true, self.scale(), self.library, self.pictures);
        if let Ok(over) = &over {
            self.patch(over.as_ref().map(|patch| Patch { pixels: patch.pixels.clone(), area: patch.area }));
        }
        self.pop_group();
        over.map(drop).map_err(PdfError::from)
    }

    fn path(&mut self, node: &PathNode) -> Result<(), PdfError> {
        let Some(path) = pdf_path(&node.path).filter(|_| !self.only_said) else { return Ok(()) };
        let rule = if node.even_odd { FillRule::EvenOdd } else { FillRule::NonZero };
        self.painted(node.fill.as_ref(), node.stroke.as_ref(), rule, |writer, _| writer.surface.draw_path(&path))
    }

    fn glyphs(&mut self, node: &GlyphNode) -> Result<(), PdfError> {
        self.mark(|reading, surface| reading.letters(surface, &node.run));
        if self.only_said {
            self.unseen();
            return self.show(&node.run, false);
        }
        let mut outcome = Ok(());
        // The line below letters is an outline, so that the words are in the file once.
        self.painted(node.fill.as_ref(), node.stroke.as_ref(), FillRule::NonZero, |writer, outlined| {
            let shown = writer.show(&node.run, outlined);
            outcome = std::mem::replace(&mut outcome, Ok(())).and(shown);
        })?;
        outcome?;
        if node.fill.is_none() && node.stroke.as_ref().is_none_or(|line| line.below) {
            // Only outlines are seen; the words are there all the same.
            self.unseen();
            self.show(&node.run, false)?;
        }
        Ok(())
    }

    fn image(&mut self, node: &ImageNode) -> Result<(), PdfError> {
        if self.only_said {
            return Ok(());
        }
        let image = self.embedded(&node.source, node.dest.width())?;
        let (Some(frame), Some(size)) =
            (pdf_path(&node.frame), Size::from_wh(node.dest.width() as f32, node.dest.height() as f32))
        else {
            return Ok(());
        };
        self.surface.push_clip_path(&frame, &FillRule::NonZero);
        self.surface.push_transform(&Transform::from_translate(node.dest.x0 as f32, node.dest.y0 as f32));
        self.surface.draw_image(image, size);
        self.surface.pop();
        self.surface.pop();
        Ok(())
    }
}

impl Writer<'_, '_> {
    fn mask(&mut self, group: &Group, mask: &MaskNodes) -> Result<Mask, PdfError> {
        let mut builder = self.surface.stream_builder();
        let drawn = {
            let surface = builder.surface();
            let mut inner = Writer {
                surface,
                pushes: Vec::new(),
                scales: self.scales.clone(),
                library: self.library,
                pictures: self.pictures,
                shared: &mut *self.shared,
                reading: None,
                only_said: false,
            };
            let drawn =
                visit(&vatman_scene::Node::Group(Group::placed(group.transform, mask.children.clone())), &mut inner);
            inner.surface.finish();
            drawn
        };
        drawn?;
        Ok(Mask::new(builder.finish(), if mask.luminance { MaskType::Luminosity } else { MaskType::Alpha }))
    }

    /// Draws something at the opacity and with the mixing of a group.
    fn mixed(&mut self, group: &Group, draw: impl FnOnce(&mut Self)) {
        let mode = blend_mode(group.blend);
        if let Some(mode) = mode {
            self.surface.push_blend_mode(mode);
        }
        self.surface.push_opacity(share(group.opacity));
        draw(self);
        self.surface.pop();
        if mode.is_some() {
            self.surface.pop();
        }
    }

    fn pop_group(&mut self) {
        for _ in 0..self.pushes.pop().unwrap_or(0) {
            self.surface.pop();
        }
    }
}

fn blend_mode(blend: Blend) -> Option<BlendMode> {
    Some(match blend {
        Blend::Normal => return None,
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
    })
}

fn matrix(affine: Affine) -> Transform {
    let [a, b, c, d, e, f] = affine.as_coeffs();
    Transform::from_row(a as f32, b as f32, c as f32, d as f32, e as f32, f as f32)
}

fn share(value: f64) -> NormalizedF32 {
    NormalizedF32::new(value.clamp(0.0, 1.0) as f32).unwrap_or(NormalizedF32::ONE)
}

fn color(rgba: Rgba) -> rgb::Color {
    rgb::Color::new(rgba.r, rgba.g, rgba.b)
}

fn beyond(spread: Spread) -> SpreadMethod {
    match spread {
        Spread::Hold => SpreadMethod::Pad,
        Spread::Repeat => SpreadMethod::Repeat,
        Spread::Mirror => SpreadMethod::Reflect,
    }
}

fn paint(brush: &Brush) -> (Paint, NormalizedF32) {
    let stops = |stops: &[vatman_scene::GradientStop]| {
        stops
            .iter()
            .map(|stop| Stop { offset: share(stop.at), color: color(stop.color).into(), opacity: share(stop.color.a) })
            .collect()
    };
    match brush {
        Brush::Flat(flat) => (color(*flat).into(), share(flat.a)),
        Brush::Linear { from, to, stops: list, spread } => {
            let gradient = LinearGradient {
                x1: from.x as f32,
                y1: from.y as f32,
                x2: to.x as f32,
                y2: to.y as f32,
                transform: Transform::identity(),
                spread_method: beyond(*spread),
                stops: stops(list),
                anti_alias: false,
            };
            (gradient.into(), NormalizedF32::ONE)
        }
        Brush::Conic { centre, start, stops: list, .. } => {
            let from_top = Affine::rotate_about(start - std::f64::consts::FRAC_PI_2, *centre);
            let gradient = SweepGradient {
                cx: centre.x as f32,
                cy: centre.y as f32,
                start_angle: 0.0,
                end_angle: 360.0,
                transform: matrix(from_top),
                spread_method: SpreadMethod::Pad,
                stops: stops(list),
                anti_alias: false,
            };
            (gradient.into(), NormalizedF32::ONE)
        }
        Brush::Radial { centre, radius, matrix: own, stops: list, spread } => {
            let gradient = RadialGradient {
                fx: centre.x as f32,
                fy: centre.y as f32,
                fr: 0.0,
                cx: centre.x as f32,
                cy: centre.y as f32,
                cr: *radius as f32,
                transform: matrix(*own),
                spread_method: beyond(*spread),
                stops: stops(list),
                anti_alias: false,
            };
            (gradient.into(), NormalizedF32::ONE)
        }
        // Repeated paints need the surface; these are drawn by their writer.
        Brush::Tile(tile) => (color(tile.ink).into(), share(tile.ink.a)),
        Brush::Image { .. } => (rgb::Color::new(128, 128, 128).into(), NormalizedF32::ONE),
    }
}
