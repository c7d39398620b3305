//! Scene to PDF: vectors stay vectors, words stay words in embedded subset fonts.

use std::collections::HashMap;
use std::hash::{Hash, Hasher};
use std::sync::Arc;

use krilla::Data;
use krilla::SerializeSettings;
use krilla::blend::BlendMode;
use krilla::color::separation::{self, SeparationColorant, SeparationSpace};
use krilla::color::{RegularColor, cmyk, rgb};
use krilla::configure::{Archival, Configuration, ConfigurationBuilder};
use krilla::geom::{Point, Rect, Size, Transform};
use krilla::icc::ICCProfile;
use krilla::image::{BitsPerComponent, CustomImage, Image, ImageColorspace};
use krilla::mask::{Mask, MaskType};
use krilla::metadata::{DateTime, Metadata};
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
use vatman_document::{Blend, Cap, Color, Ink, Join, PictureSource, Spread};
use vatman_photo::{Inks, PictureFormat, Pictures, bare_jpeg, content_id};
use vatman_scene::{
    Behind, Brush, Bunch, GlyphNode, GradientStop, Group, ImageNode, Line, MaskNodes, Node, PathNode, Rgba, Scene,
    SceneItem, Tile,
};
use vatman_type::{FaceId, FontLibrary, GlyphRun};

use crate::gradients::conic_fan;
use crate::page::{PlacedScene, PrintPage};
use crate::paths::{pdf_path, scale_of};
use crate::pdf_inks::mixed_in_inks;
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
    /// In what colours are written. Default: those of screens.
    pub colours: PdfColours,
    /// Colours printed with an ink of their own.
    pub inks: &'a [(Color, Ink)],
    /// The day it is written, as year, month and day, for a file that can be read for ever (PDF/A-2b); nothing for an ordinary one.
    pub lasting: Option<(u16, u8, u8)>,
}

/// In what colours a PDF is written.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum PdfColours {
    /// Encoded sRGB.
    #[default]
    Screen,
    /// The four process inks of [`Inks::coated`], which the file carries as a profile. What is mixed with what lies below is mixed in these
    /// inks too, and a file that is to last says that it is meant for them.
    Process,
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

/// Writes pages of their exact physical size: words read in order, headings and pictures named in the document's structure. Pages are
/// taken one by one, so that what is on them needs not all be in memory at once.
///
/// # Errors
/// [`PdfError`] where a picture or face cannot be embedded, and whatever kept a page from being made.
pub fn write_pdf<E: From<PdfError>>(
    pages: impl IntoIterator<Item = Result<PrintPage, E>>,
    options: PdfOptions<'_>,
    library: &FontLibrary,
    pictures: &Pictures,
) -> Result<Vec<u8>, E> {
    let process = match options.colours {
        PdfColours::Screen => None,
        PdfColours::Process => {
            Some(Inks::coated().ok_or_else(|| PdfError::Writer("the profile of inks is damaged".into()))?)
        }
    };
    let mut document = krilla::Document::new_with(settings(process.is_some(), options.lasting.is_some())?);
    let mut metadata = Metadata::new().title(options.title.to_owned()).creator("Vatman".to_owned());
    if !options.language.is_empty() {
        metadata = metadata.language(options.language.to_owned());
    }
    if let Some((year, month, day)) = options.lasting {
        metadata = metadata.creation_date(DateTime::new(year).month(month).day(day));
    }
    document.set_metadata(metadata);
    let colours = Colours { process, own: options.inks };
    let mut shared = Shared::default();
    let mut tree = TagTree::new();
    for page in pages {
        let page = page?;
        let unmade = || PdfError::Writer("a page has no size".into());
        let (width, height) = (page.size.width * POINTS, page.size.height * POINTS);
        let within = |area: kurbo::Rect| {
            let points = |value: f64| (value * POINTS) as f32;
            Rect::from_ltrb(points(area.x0), points(area.y0), points(area.x1), points(area.y1))
        };
        let settings = PageSettings::from_wh(width as f32, height as f32)
            .ok_or_else(unmade)?
            .with_trim_box(within(page.trim))
            .with_bleed_box(within(page.bleed));
        let mut target = document.start_page_with(settings);
        let surface = target.surface();
        shared.patches.clear();
        let mut sink = Writer {
            surface,
            pushes: Vec::new(),
            scales: vec![page.ppi / 96.0],
            library,
            pictures,
            shared: &mut shared,
            reading: None,
            only_said: false,
            walked: None,
            colours,
            letters: false,
            lasting: options.lasting.is_some(),
        };
        let outcome = sink.page(&page, &mut tree);
        drop(sink);
        target.finish();
        outcome?;
    }
    document.set_tag_tree(tree);
    let written = document.finish();
    let written = written.map_err(|error| PdfError::Writer(format!("{error:?}").chars().take(200).collect()))?;
    Ok(if process.is_some() { mixed_in_inks(&written)? } else { written })
}

/// What the pages of a document share.
#[derive(Default)]
struct Shared {
    fonts: HashMap<FaceId, Font>,
    images: HashMap<(Arc<PictureSource>, u32), Image>,
    /// What was drawn as pixels on this page: by the scene, the how manieth of it, and the scale. A piece that lies on a page several times
    /// is drawn once.
    patches: HashMap<(usize, usize, u64), Option<(Image, kurbo::Rect)>>,
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
    /// The scene that is walked, and how many patches of it there were so far.
    walked: Option<(usize, usize)>,
    colours: Colours<'a>,
    /// Whether letters are painted just now.
    letters: bool,
    /// Whether the file is to last.
    lasting: bool,
}

/// What becomes of the colours of a scene.
#[derive(Clone, Copy)]
struct Colours<'a> {
    process: Option<&'static Inks>,
    own: &'a [(Color, Ink)],
}

/// As dark and as grey as this letters are black: printed with black alone, so that they stay sharp where inks miss each other.
const BLACK_LETTERS: (u8, u8) = (0x30, 0x0a);

impl Colours<'_> {
    /// A colour by itself.
    fn solid(self, rgba: Rgba, letters: bool) -> krilla::color::Color {
        let rgb = [rgba.r, rgba.g, rgba.b];
        let own = self.own.iter().find(|(color, _)| [color.r, color.g, color.b] == rgb).map(|(_, ink)| ink);
        match own {
            Some(Ink::Spot { name }) => {
                let space = SeparationSpace::new(SeparationColorant::Custom(name.clone()), self.mixed(rgb));
                separation::Color::new(255, space).into()
            }
            Some(Ink::Process { c, m, y, k }) if self.process.is_some() => {
                let full = |share: &u8| (f32::from((*share).min(100)) * 2.55).round() as u8;
                cmyk::Color::new(full(c), full(m), full(y), full(k)).into()
            }
            _ => {
                let (most, least) = (rgb[0].max(rgb[1]).max(rgb[2]), rgb[0].min(rgb[1]).min(rgb[2]));
                let black = letters && most <= BLACK_LETTERS.0 && most - least <= BLACK_LETTERS.1;
                if black && self.process.is_some() {
                    cmyk::Color::new(0, 0, 0, 255 - most / 3).into()
                } else {
                    self.mixed(rgb).into()
                }
            }
        }
    }

    /// A colour among others, as in gradients.
    fn mixed(self, rgb: [u8; 3]) -> RegularColor {
        match self.process {
            Some(inks) => {
                let [c, m, y, k] = inks.separate(rgb).map(|share| (share * 255.0).round() as u8);
                cmyk::Color::new(c, m, y, k).into()
            }
            None => rgb::Color::new(rgb[0], rgb[1], rgb[2]).into(),
        }
    }

    /// Pixels as an image of the file.
    fn image(self, pixels: &vatman_photo::Straight) -> Image {
        let (width, height) = (pixels.width(), pixels.height());
        let Some(inks) = self.process else { return Image::from_rgba8(pixels.data().to_vec(), width, height) };
        let opaque = pixels.is_opaque();
        let mut colour = Vec::with_capacity(pixels.data().len());
        let mut alpha = Vec::new();
        let mut last = ([255, 255, 255], [0_u8; 4]);
        for pixel in pixels.data().chunks_exact(4) {
            let rgb = [pixel[0], pixel[1], pixel[2]];
            if rgb != last.0 {
                last = (rgb, inks.separate(rgb).map(|share| (share * 255.0).round() as u8));
            }
            colour.extend(last.1);
            if !opaque {
                alpha.push(pixel[3]);
            }
        }
        let named = content_id(pixels.data()).to_string();
        let own = ProcessPixels { named, width, height, colour: colour.into(), alpha: (!opaque).then(|| alpha.into()) };
        Image::from_custom(own, false).unwrap_or_else(|_| Image::from_rgba8(pixels.data().to_vec(), width, height))
    }
}

/// Pixels in process inks; known by what they were before.
#[derive(Clone)]
struct ProcessPixels {
    named: String,
    width: u32,
    height: u32,
    colour: Arc<[u8]>,
    alpha: Option<Arc<[u8]>>,
}

impl Hash for ProcessPixels {
    fn hash<H: Hasher>(&self, state: &mut H) {
        (&self.named, self.width, self.height).hash(state);
    }
}

impl CustomImage for ProcessPixels {
    fn color_channel(&self) -> &[u8] {
        &self.colour
    }
    fn alpha_channel(&self) -> Option<&[u8]> {
        self.alpha.as_deref()
    }
    fn bits_per_component(&self) -> BitsPerComponent {
        BitsPerComponent::Eight
    }
    fn size(&self) -> (u32, u32) {
        (self.width, self.height)
    }
    fn icc_profile(&self) -> Option<&[u8]> {
        None
    }
    fn color_space(&self) -> ImageColorspace {
        ImageColorspace::Cmyk
    }
}

fn settings(process: bool, lasting: bool) -> Result<SerializeSettings, PdfError> {
    let wrong = || PdfError::Writer("the profile of inks is damaged".into());
    let cmyk_profile = if process { Some(ICCProfile::new(Inks::profile()).ok_or_else(wrong)?) } else { None };
    let configuration = if lasting {
        let builder = ConfigurationBuilder::new().with_archival_validator(Archival::A2_B);
        builder.finish().map_err(|error| PdfError::Writer(format!("{error:?}")))?
    } else {
        Configuration::default()
    };
    let base = SerializeSettings::default();
    Ok(SerializeSettings {
        enable_tagging: true,
        no_device_cs: process || lasting,
        cmyk_profile,
        configuration,
        ..base
    })
}

impl Writer<'_, '_> {
    fn page(&mut self, page: &PrintPage, tree: &mut TagTree) -> Result<(), PdfError> {
        self.surface.push_transform(&matrix(Affine::scale(POINTS)));
        let outcome = page.placed.iter().try_for_each(|placed| self.placed(placed, tree));
        let outcome = outcome.and_then(|()| self.marks(page, tree));
        self.surface.pop();
        outcome
    }

    /// What one placed scene says is read as a whole before the next begins.
    fn placed(&mut self, placed: &PlacedScene, tree: &mut TagTree) -> Result<(), PdfError> {
        let scene = placed.scene.as_ref();
        self.surface.push_transform(&matrix(placed.at));
        let seen = placed.seen.and_then(|seen| pdf_path(&seen.to_path(0.01)));
        if let Some(seen) = &seen {
            self.surface.push_clip_path(seen, &FillRule::NonZero);
        }
        self.scales.push(self.scale() * scale_of(placed.at));
        self.reading = Some(PageReading::default());
        self.walked = Some((std::ptr::from_ref(scene) as usize, 0));
        let outcome = self.sheet(scene);
        self.walked = None;
        self.cutting_lines(scene);
        self.mark(|reading, surface| reading.close(surface));
        if let Some(reading) = self.reading.take() {
            reading.into_tree(tree);
        }
        self.scales.pop();
        if seen.is_some() {
            self.surface.pop();
        }
        self.surface.pop();
        outcome
    }

    /// Draws what is made of pixels, where it was drawn before on this page from what was kept of it.
    fn patched(&mut self, draw: impl FnOnce(&Self) -> Result<Option<Patch>, PixelError>) -> Result<(), PdfError> {
        let scale = self.scale();
        let key = self.walked.as_mut().map(|(scene, count)| {
            *count += 1;
            (*scene, *count, scale.to_bits())
        });
        if let Some(known) = key.as_ref().and_then(|key| self.shared.patches.get(key)).cloned() {
            self.patch(known);
            return Ok(());
        }
        let image = draw(self)?.map(|Patch { pixels, area }| (self.colours.image(&pixels.straight()), area));
        if let Some(key) = key {
            self.shared.patches.insert(key, image.clone());
        }
        self.patch(image);
        Ok(())
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

    /// Marks and letters beside the pieces, in every ink there is.
    fn marks(&mut self, page: &PrintPage, tree: &mut TagTree) -> Result<(), PdfError> {
        if page.marks.is_empty() && page.folds.is_empty() && page.letters.is_empty() {
            return Ok(());
        }
        let mut reading = PageReading::default();
        reading.unread(&mut self.surface, ArtifactType::Page);
        let every = SeparationSpace::new(SeparationColorant::AllColorants, rgb::Color::black().into());
        let ink: Paint = krilla::color::Color::from(separation::Color::new(255, every)).into();
        self.surface.set_fill(None);
        for (lines, dashed) in [(&page.marks, false), (&page.folds, true)] {
            let dash = dashed.then(|| StrokeDash { array: marks::DASH.map(|part| part as f32).to_vec(), offset: 0.0 });
            let width = marks::THICK as f32;
            self.surface.set_stroke(Some(Stroke { paint: ink.clone(), width, dash, ..Stroke::default() }));
            if let Some(path) = pdf_path(lines) {
                self.surface.draw_path(&path);
            }
        }
        self.surface.set_stroke(None);
        let mut outcome = Ok(());
        for lettering in &page.letters {
            self.surface.push_transform(&matrix(lettering.at));
            self.surface.set_fill(Some(Fill { paint: ink.clone(), ..Fill::default() }));
            outcome = outcome.and_then(|()| lettering.runs.iter().try_for_each(|run| self.show(run, false)));
            self.surface.pop();
        }
        reading.close(&mut self.surface);
        reading.into_tree(tree);
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
        let Some(covered) = scene.covered_by() else { return outcome.and_then(|()| walk(scene, self)) };
        // What lies below is in the picture of it; what it says is there all the same.
        self.only_said = true;
        let said = outcome.and_then(|()| walk_some(scene, 0..covered, self));
        self.only_said = false;
        said.and_then(|()| walk_some(scene, covered..scene.items.len(), self))
    }

    fn brush(&mut self, brush: &Brush) -> Result<(Paint, NormalizedF32), PdfError> {
        match brush {
            Brush::Tile(tile) => Ok((self.tiled(tile), NormalizedF32::ONE)),
            Brush::Image { source, dest, .. } => Ok((self.pictured(source, *dest)?, NormalizedF32::ONE)),
            Brush::Conic { centre, start, stops, field } if self.lasting => {
                Ok((self.fanned(*centre, *start, stops, *field), NormalizedF32::ONE))
            }
            Brush::Flat(_) | Brush::Linear { .. } | Brush::Radial { .. } | Brush::Conic { .. } => {
                Ok(paint(brush, self.colours, self.letters))
            }
        }
    }

    /// A gradient that turns, as wedges: the format has it as a program, which files that are to last may not hold.
    fn fanned(&mut self, centre: kurbo::Point, start: f64, stops: &[GradientStop], field: kurbo::Rect) -> Paint {
        // A line about the box is painted as well.
        let around = field.width().max(field.height()) / 2.0;
        let cell = field.inflate(around, around);
        let reach = cell.size().to_vec2().hypot();
        let colours = self.colours;
        let mut builder = self.surface.stream_builder();
        let mut surface = builder.surface();
        for (path, color) in conic_fan(centre - cell.origin().to_vec2(), start, stops, reach) {
            let rgb = [color.r, color.g, color.b];
            surface.set_fill(Some(Fill {
                paint: krilla::color::Color::from(colours.mixed(rgb)).into(),
                opacity: share(color.a),
                rule: FillRule::NonZero,
            }));
            if let Some(path) = pdf_path(&path) {
                surface.draw_path(&path);
            }
        }
        surface.finish();
        let stream = builder.finish();
        let transform = Transform::from_translate(cell.x0 as f32, cell.y0 as f32);
        Pattern { stream, transform, width: cell.width() as f32, height: cell.height() as f32 }.into()
    }

    fn tiled(&mut self, tile: &Tile) -> Paint {
        let colours = self.colours;
        let mut builder = self.surface.stream_builder();
        let mut surface = builder.surface();
        let mut area = |path: kurbo::BezPath, color: Rgba| {
            let (paint, opacity) = paint(&Brush::Flat(color), colours, false);
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
        let Some(area) = area else { return Ok(()) };
        let length: f64 = run.glyphs.iter().map(|glyph| glyph.advance).sum();
        let (fill, stroke) = (self.surface.get_fill().cloned(), self.surface.get_stroke().cloned());
        self.unseen();
        // No wider than the curve is: what begins beside the sheet is not read.
        let by = (area.width().max(area.height()) / length.max(1e-6)).clamp(0.02, 1.0);
        let middle = area.center();
        let start = Point::from_xy((middle.x - length * by / 2.0) as f32, (middle.y + run.size * by * 0.35) as f32);
        let glyphs = if run.spaced { self.spelt(glyphs, font, run) } else { glyphs.to_vec() };
        self.surface.draw_glyphs(start, &glyphs, font.clone(), &run.text, (run.size * by) as f32, false);
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
    fn patch(&mut self, patch: Option<(Image, kurbo::Rect)>) {
        let Some((image, area)) = patch else { return };
        let Some(size) = Size::from_wh(area.width() as f32, area.height() as f32) else { return };
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
        let direct = (self.colours.process.is_none()
            && source.is_plain()
            && info.format == PictureFormat::Jpeg
            && info.is_plain())
        .then(|| bare_jpeg(&bytes).and_then(|bare| Image::from_jpeg(Data::from(bare), false).ok()))
        .flatten();
        let image = match direct.filter(|image| image.size() == (info.width, info.height)) {
            Some(image) => image,
            None => {
                let (w, h) = self.pictures.size(source).ok_or_else(missing)?;
                let by = if wide == 0 { 1.0 } else { (f64::from(wide) / f64::from(w)).min(1.0) };
                let scaled = |side: u32| ((f64::from(side) * by).round() as u32).max(1);
                let pixels = self.pictures.print(source, (scaled(w), scaled(h))).ok_or_else(missing)?;
                self.colours.image(&pixels)
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
        self.surface.push_clip_path(&outline, &FillRule::NonZero);
        self.surface.push_opacity(share(behind.opacity));
        let outcome =
            self.patched(|writer| seen_behind(behind, scene, below, writer.scale(), writer.library, writer.pictures));
        self.surface.pop();
        self.surface.pop();
        outcome
    }

    /// Soft things, and words once more: pixels say them, and nothing is read twice.
    fn below(&mut self, node: &Node) -> Result<(), PdfError> {
        let Node::Group(group) = node else { return visit(node, self) };
        if self.only_said {
            return Ok(());
        }
        self.mixed(group, |writer| {
            writer.patched(|writer| group_patch(group, writer.scale(), writer.library, writer.pictures))
        })
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
        self.mark(|reading, surface| reading.unread(surface, ArtifactType::Layout));
        self.mixed(group, |writer| {
            writer.patched(|writer| bunch_patch(scene, at, writer.scale(), writer.library, writer.pictures))
        })?;
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
        self.mixed(group, |writer| {
            writer.patched(|writer| group_patch(group, writer.scale(), writer.library, writer.pictures))
        })?;
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
        if !group.shadows.is_empty() {
            self.patched(|writer| thrown(group, false, writer.scale(), writer.library, writer.pictures))?;
        }
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
        let over = if group.shadows.is_empty() {
            Ok(())
        } else {
            self.patched(|writer| thrown(group, true, writer.scale(), writer.library, writer.pictures))
        };
        self.pop_group();
        over
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
        self.letters = true;
        // The line below letters is an outline, so that the words are in the file once.
        let painted = self.painted(node.fill.as_ref(), node.stroke.as_ref(), FillRule::NonZero, |writer, outlined| {
            let shown = writer.show(&node.run, outlined);
            outcome = std::mem::replace(&mut outcome, Ok(())).and(shown);
        });
        self.letters = false;
        painted?;
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
                walked: None,
                colours: self.colours,
                letters: false,
                lasting: self.lasting,
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
    fn mixed(&mut self, group: &Group, draw: impl FnOnce(&mut Self) -> Result<(), PdfError>) -> Result<(), PdfError> {
        let mode = blend_mode(group.blend);
        if let Some(mode) = mode {
            self.surface.push_blend_mode(mode);
        }
        self.surface.push_opacity(share(group.opacity));
        let outcome = draw(self);
        self.surface.pop();
        if mode.is_some() {
            self.surface.pop();
        }
        outcome
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

fn beyond(spread: Spread) -> SpreadMethod {
    match spread {
        Spread::Hold => SpreadMethod::Pad,
        Spread::Repeat => SpreadMethod::Repeat,
        Spread::Mirror => SpreadMethod::Reflect,
    }
}

fn paint(brush: &Brush, colours: Colours<'_>, letters: bool) -> (Paint, NormalizedF32) {
    let stops = |stops: &[vatman_scene::GradientStop]| {
        stops
            .iter()
            .map(|stop| {
                let color = colours.mixed([stop.color.r, stop.color.g, stop.color.b]);
                Stop { offset: share(stop.at), color: color.into(), opacity: share(stop.color.a) }
            })
            .collect()
    };
    match brush {
        Brush::Flat(flat) => (colours.solid(*flat, letters).into(), share(flat.a)),
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
        Brush::Tile(tile) => (colours.solid(tile.ink, false).into(), share(tile.ink.a)),
        Brush::Image { .. } => (krilla::color::Color::from(rgb::Color::new(128, 128, 128)).into(), NormalizedF32::ONE),
    }
}
