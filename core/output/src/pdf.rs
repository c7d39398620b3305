//! Scene to PDF: vectors stay vectors, words stay words in embedded subset fonts.

use std::collections::HashMap;

use kurbo::{Affine, Shape as _};
use krilla::Data;
use krilla::blend::BlendMode;
use krilla::color::rgb;
use krilla::geom::{Point, Rect, Size, Transform};
use krilla::image::Image;
use krilla::metadata::Metadata;
use krilla::num::NormalizedF32;
use krilla::page::PageSettings;
use krilla::paint::{Fill, FillRule, LineJoin, LinearGradient, Paint, RadialGradient, SpreadMethod, Stop, Stroke};
use krilla::surface::Surface;
use krilla::text::{Font, GlyphId, KrillaGlyph};
use thiserror::Error;
use vatman_document::{AssetId, Blend};
use vatman_photo::{PictureFormat, Pictures};
use vatman_scene::{Brush, GlyphNode, Group, ImageNode, Line, PathNode, Rgba, Scene};
use vatman_type::{FaceId, FontLibrary};

use crate::paths::pdf_path;
use crate::walk::{Sink, walk};

/// Points in a CSS pixel.
const POINTS: f64 = 0.75;

/// How a PDF is written.
#[derive(Debug, Clone, Copy, Default)]
pub struct PdfOptions {
    /// Whether pages carry their bleed around the trim box. Default: no.
    pub bleed: bool,
}

/// One page.
pub struct PdfPage<'a> {
    /// What is on it.
    pub scene: &'a Scene,
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
    /// The writer refused.
    #[error("The PDF could not be written: {0}.")]
    Writer(String),
}

/// Writes pages of their exact physical size.
///
/// # Errors
/// [`PdfError`] where a picture or face cannot be embedded.
pub fn write_pdf(pages: &[PdfPage<'_>], title: &str, options: PdfOptions, library: &FontLibrary, pictures: &Pictures) -> Result<Vec<u8>, PdfError> {
    let mut document = krilla::Document::new();
    document.set_metadata(Metadata::new().title(title.to_owned()).creator("Vatman".to_owned()));
    let (mut fonts, mut images) = (HashMap::new(), HashMap::new());
    for page in pages {
        let scene = page.scene;
        let bleed = if options.bleed { scene.bleed } else { 0.0 };
        let (width, height) = ((scene.size.width + 2.0 * bleed) * POINTS, (scene.size.height + 2.0 * bleed) * POINTS);
        let unmade = || PdfError::Writer("a page has no size".into());
        let edge = (bleed * POINTS) as f32;
        let trim = Rect::from_ltrb(edge, edge, width as f32 - edge, height as f32 - edge);
        let settings = PageSettings::from_wh(width as f32, height as f32).ok_or_else(unmade)?.with_trim_box(trim).with_bleed_box(Rect::from_xywh(0.0, 0.0, width as f32, height as f32));
        let mut target = document.start_page_with(settings);
        let surface = target.surface();
        let mut sink = Writer { surface, pushes: Vec::new(), library, pictures, fonts: &mut fonts, images: &mut images };
        let outcome = sink.page(scene, bleed);
        drop(sink);
        target.finish();
        outcome?;
    }
    document.finish().map_err(|error| PdfError::Writer(format!("{error:?}").chars().take(200).collect()))
}

struct Writer<'a, 's> {
    surface: Surface<'s>,
    /// How many pushes each open group made; the surface must be popped as often.
    pushes: Vec<usize>,
    library: &'a FontLibrary,
    pictures: &'a Pictures,
    fonts: &'a mut HashMap<FaceId, Font>,
    images: &'a mut HashMap<AssetId, Image>,
}

impl Writer<'_, '_> {
    fn page(&mut self, scene: &Scene, bleed: f64) -> Result<(), PdfError> {
        self.surface.push_transform(&matrix(Affine::scale(POINTS) * Affine::translate((bleed, bleed))));
        let outcome = match &scene.ground {
            Some(brush) => {
                let sheet = scene.size.to_rect().inflate(scene.bleed, scene.bleed);
                self.path(&PathNode { path: sheet.to_path(0.01), fill: Some(brush.clone()), stroke: None })
            }
            None => Ok(()),
        };
        let outcome = outcome.and_then(|()| walk(scene, self));
        self.surface.pop();
        outcome
    }

    fn set_paint(&mut self, fill: Option<&Brush>, stroke: Option<&Line>, round: bool) {
        self.surface.set_fill(fill.map(|brush| {
            let (paint, opacity) = paint(brush);
            Fill { paint, opacity, rule: FillRule::NonZero }
        }));
        self.surface.set_stroke(stroke.map(|line| {
            let (paint, opacity) = paint(&line.brush);
            Stroke { paint, opacity, width: line.width as f32, line_join: if round { LineJoin::Round } else { LineJoin::Miter }, miter_limit: 4.0, ..Stroke::default() }
        }));
    }

    fn embedded(&mut self, id: &AssetId) -> Result<Image, PdfError> {
        if let Some(image) = self.images.get(id) {
            return Ok(image.clone());
        }
        let missing = || PdfError::Picture(id.to_string());
        let info = self.pictures.info(id).ok_or_else(missing)?;
        let bytes = self.pictures.bytes(id).ok_or_else(missing)?;
        // An upright JPEG is passed through untouched; the reader of the PDF decodes it.
        let direct = (info.format == PictureFormat::Jpeg).then(|| Image::from_jpeg(Data::from(bytes.to_vec()), false).ok()).flatten();
        let image = match direct.filter(|image| image.size() == (info.width, info.height)) {
            Some(image) if !is_turned(&bytes) => image,
            _ => {
                let pixels = self.pictures.pixels(id).ok_or_else(missing)?;
                Image::from_rgba8(pixels.data().to_vec(), pixels.width(), pixels.height())
            }
        };
        self.images.insert(id.clone(), image.clone());
        Ok(image)
    }
}

/// Whether a JPEG asks to be turned in a way that keeps its size (mirrored or upside down).
fn is_turned(bytes: &[u8]) -> bool {
    bytes.windows(6).take(200_000).any(|window| window == b"Exif\0\0")
}

impl Sink for Writer<'_, '_> {
    type Error = PdfError;

    fn begin(&mut self, group: &Group) -> Result<(), PdfError> {
        self.surface.push_transform(&matrix(group.transform));
        let mut pushes = 1;
        if let Some(clip) = group.clip.as_ref().and_then(pdf_path) {
            self.surface.push_clip_path(&clip, &FillRule::NonZero);
            pushes += 1;
        }
        // In this order: an isolated group outside would hide from the blend what lies below.
        let mode = match group.blend {
            Blend::Normal => None,
            Blend::Multiply => Some(BlendMode::Multiply),
            Blend::Screen => Some(BlendMode::Screen),
            Blend::Overlay => Some(BlendMode::Overlay),
        };
        if let Some(mode) = mode {
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
        self.pushes.push(pushes);
        Ok(())
    }

    fn end(&mut self, _: &Group) -> Result<(), PdfError> {
        for _ in 0..self.pushes.pop().unwrap_or(0) {
            self.surface.pop();
        }
        Ok(())
    }

    fn path(&mut self, node: &PathNode) -> Result<(), PdfError> {
        if let Some(path) = pdf_path(&node.path) {
            self.set_paint(node.fill.as_ref(), node.stroke.as_ref(), false);
            self.surface.draw_path(&path);
        }
        Ok(())
    }

    fn glyphs(&mut self, node: &GlyphNode) -> Result<(), PdfError> {
        let run = &node.run;
        let Some(first) = run.glyphs.first() else { return Ok(()) };
        let font = match self.fonts.get(&run.face) {
            Some(font) => font.clone(),
            None => {
                let data = Data::from(self.library.face_data(run.face).to_vec());
                let font = Font::new(data, 0).ok_or(PdfError::Font)?;
                self.fonts.insert(run.face, font.clone());
                font
            }
        };
        let next = run.glyphs.iter().skip(1).map(|glyph| glyph.x).chain(std::iter::once(run.glyphs.last().map_or(0.0, |last| last.x + last.advance)));
        let glyphs: Vec<KrillaGlyph> = run
            .glyphs
            .iter()
            .zip(next)
            .map(|(glyph, next)| {
                let advance = (next - glyph.x) / run.size;
                KrillaGlyph::new(GlyphId::new(glyph.id), advance as f32, 0.0, ((glyph.y - first.y) / run.size) as f32, 0.0, glyph.text.clone(), None)
            })
            .collect();
        let start = Point::from_xy(first.x as f32, first.y as f32);
        // The line around letters lies below their fill and is an outline, so that the words are in the file once.
        if let Some(line) = &node.stroke {
            self.set_paint(None, Some(line), true);
            self.surface.draw_glyphs(start, &glyphs, font.clone(), &run.text, run.size as f32, true);
        }
        if let Some(brush) = &node.fill {
            self.set_paint(Some(brush), None, false);
            self.surface.draw_glyphs(start, &glyphs, font, &run.text, run.size as f32, false);
        }
        Ok(())
    }

    fn image(&mut self, node: &ImageNode) -> Result<(), PdfError> {
        let image = self.embedded(&node.asset)?;
        let (Some(frame), Some(size)) = (pdf_path(&node.frame), Size::from_wh(node.dest.width() as f32, node.dest.height() as f32)) else { return Ok(()) };
        self.surface.push_clip_path(&frame, &FillRule::NonZero);
        self.surface.push_transform(&Transform::from_translate(node.dest.x0 as f32, node.dest.y0 as f32));
        self.surface.draw_image(image, size);
        self.surface.pop();
        self.surface.pop();
        Ok(())
    }
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

fn paint(brush: &Brush) -> (Paint, NormalizedF32) {
    let stops = |stops: &[vatman_scene::GradientStop]| stops.iter().map(|stop| Stop { offset: share(stop.at), color: color(stop.color).into(), opacity: share(stop.color.a) }).collect();
    match brush {
        Brush::Flat(flat) => (color(*flat).into(), share(flat.a)),
        Brush::Linear { from, to, stops: list } => {
            let gradient = LinearGradient {
                x1: from.x as f32,
                y1: from.y as f32,
                x2: to.x as f32,
                y2: to.y as f32,
                transform: Transform::identity(),
                spread_method: SpreadMethod::Pad,
                stops: stops(list),
                anti_alias: false,
            };
            (gradient.into(), NormalizedF32::ONE)
        }
        Brush::Radial { centre, radius, stops: list } => {
            let gradient = RadialGradient {
                fx: centre.x as f32,
                fy: centre.y as f32,
                fr: 0.0,
                cx: centre.x as f32,
                cy: centre.y as f32,
                cr: *radius as f32,
                transform: Transform::identity(),
                spread_method: SpreadMethod::Pad,
                stops: stops(list),
                anti_alias: false,
            };
            (gradient.into(), NormalizedF32::ONE)
        }
    }
}
