//! SVG files as drawings whose parts can be edited.

use kurbo::{Affine, BezPath, Point};
use thiserror::Error;
use usvg::tiny_skia_path::{PathSegment, Transform};
use vatman_document::{Blend, Cap, Color, Drawing, DrawnMask, DrawnPaint, DrawnPart, DrawnStroke, Join, Paint, Stop};
use vatman_output::svg_path_data;
use vatman_type::FontLibrary;
use vatman_units::Ratio;

use crate::bring::svg_words::{Layer, words_of};

/// Largest SVG file, in bytes.
pub const SVG_BYTES: usize = 8 << 20;
/// Length of the longer side of a drawing, in its own units.
const SPAN: f64 = 1_000.0;

/// Why an SVG file is not taken.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum SvgError {
    /// Too large.
    #[error("An SVG file holds at most 8 MB. Simplify it; nothing else was changed.")]
    TooLarge,
    /// It declares entities, which can blow a small file up without bounds.
    #[error(
        "This SVG file declares entities, which are not taken. Save it anew without them; nothing else was changed."
    )]
    Entities,
    /// Not readable.
    #[error("This SVG file cannot be read: {0}. Nothing else was changed.")]
    Unreadable(String),
    /// Nothing in it can be drawn.
    #[error("There is nothing in this SVG file that can be drawn.")]
    Empty,
}

/// A drawing, and what was left out or changed on the way, in plain sentences.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Imported {
    /// All of it as one drawing, words as outlines.
    pub drawing: Drawing,
    /// The same in layers, where it has words that stay words; else empty.
    pub layers: Vec<Layer>,
    /// For the person who brought it.
    pub notes: Vec<String>,
}

/// Reads an SVG file. Scripts, references to other files and raster pictures are left out and said; words are outlines in the drawing, and words in its layers where their
/// family is at hand.
///
/// # Errors
/// [`SvgError`] with a sentence that can be shown.
pub fn import_svg(bytes: &[u8], name: &str, library: &FontLibrary) -> Result<Imported, SvgError> {
    if bytes.len() > SVG_BYTES {
        return Err(SvgError::TooLarge);
    }
    let text = std::str::from_utf8(bytes).map_err(|_| SvgError::Unreadable("it is not text".into()))?;
    let lower = text.to_ascii_lowercase();
    if lower.contains("<!entity") {
        return Err(SvgError::Entities);
    }
    let mut options = usvg::Options {
        // Neither files nor addresses are ever followed; pictures inside the file are not taken either.
        image_href_resolver: usvg::ImageHrefResolver {
            resolve_data: Box::new(|_, _, _| None),
            resolve_string: Box::new(|_, _| None),
        },
        resources_dir: None,
        ..usvg::Options::default()
    };
    if lower.contains("<text") {
        for family in library.families() {
            for face in &family.faces {
                if let Some(data) = library.file(&face.file) {
                    options.fontdb_mut().load_font_data(data.to_vec());
                }
            }
        }
        options.font_family = FontLibrary::STAND_IN.to_owned();
        options.fontdb_mut().set_sans_serif_family(FontLibrary::STAND_IN);
        options.fontdb_mut().set_serif_family(FontLibrary::STAND_IN);
    }
    let tree = usvg::Tree::from_str(text, &options).map_err(|error| SvgError::Unreadable(error.to_string()))?;
    let (w, h) = (f64::from(tree.size().width()), f64::from(tree.size().height()));
    let scale = SPAN / w.max(h);
    let mut reader = Reader { to_drawing: Affine::scale(scale), notes: Notes::default() };
    reader.notes.about(&lower);
    let parts = reader.group(tree.root());
    if parts.is_empty() {
        return Err(SvgError::Empty);
    }
    let side = |length: f64| (length * scale).round().max(1.0) as u32;
    let name: String = name.trim().trim_end_matches(".svg").chars().take(80).collect();
    let whole = Drawing { name, width: side(w), height: side(h), parts };
    let mut layers = Vec::new();
    if lower.contains("<text") {
        let mut split = Split {
            library,
            whole: &whole,
            reader: &mut reader,
            gathered: Vec::new(),
            layers: Vec::new(),
            outlined: false,
        };
        split.group(tree.root());
        split.close();
        let (found, outlined) = (split.layers, split.outlined);
        if outlined {
            reader.notes.say("Some words became outlines: their family is not at hand, or they are set in a way that cannot be kept.");
        }
        if found.iter().any(|layer| matches!(layer, Layer::Words { .. })) {
            layers = found;
        }
    }
    Ok(Imported { drawing: whole, layers, notes: reader.notes.0 })
}

#[derive(Default)]
struct Notes(Vec<String>);

impl Notes {
    fn say(&mut self, note: &str) {
        if !self.0.iter().any(|said| said == note) {
            self.0.push(note.to_owned());
        }
    }

    fn about(&mut self, lower: &str) {
        let handlers = ["onload=", "onclick=", "onmouseover=", "onbegin=", "onerror="];
        if lower.contains("<script")
            || handlers.iter().any(|handler| lower.contains(handler))
            || lower.contains("javascript:")
        {
            self.say("Scripts were left out.");
        }
        if lower.contains("<image") || lower.contains("<feimage") {
            self.say("Pictures inside the file were left out. Bring them as pictures.");
        }
        if lower.contains("<foreignobject") {
            self.say("Parts in another language than SVG were left out.");
        }
        if lower.contains("<animate") || lower.contains("<set ") {
            self.say("Movement was left out; the drawing is as it begins.");
        }
    }
}

/// A file taken apart into layers, so that its words can stay words between what lies below and above them.
struct Split<'a> {
    library: &'a FontLibrary,
    whole: &'a Drawing,
    reader: &'a mut Reader,
    gathered: Vec<DrawnPart>,
    layers: Vec<Layer>,
    outlined: bool,
}

impl Split<'_> {
    fn group(&mut self, group: &usvg::Group) {
        let plain = group.filters().is_empty()
            && group.clip_path().is_none()
            && group.mask().is_none()
            && group.opacity().get() >= 1.0
            && group.blend_mode() == usvg::BlendMode::Normal;
        if !plain {
            // Words seen through something belong to it.
            self.outlined |= has_text(group);
            let parts = self.reader.group(group);
            self.gathered.extend(parts);
            return;
        }
        for node in group.children() {
            match node {
                usvg::Node::Group(inner) => self.group(inner),
                usvg::Node::Text(text) => match words_of(text, self.reader.to_drawing, self.library) {
                    Some(lines) => {
                        self.close();
                        self.layers.extend(lines.into_iter().map(|words| Layer::Words { words }));
                    }
                    None => {
                        self.outlined = true;
                        let parts = self.reader.node(node);
                        self.gathered.extend(parts);
                    }
                },
                usvg::Node::Path(_) | usvg::Node::Image(_) => {
                    let parts = self.reader.node(node);
                    self.gathered.extend(parts);
                }
            }
        }
    }

    /// What has been gathered becomes a layer.
    fn close(&mut self) {
        if !self.gathered.is_empty() {
            let parts = std::mem::take(&mut self.gathered);
            self.layers.push(Layer::Drawing { drawing: Drawing { parts, ..self.whole.clone() } });
        }
    }
}

fn has_text(group: &usvg::Group) -> bool {
    group.children().iter().any(|node| match node {
        usvg::Node::Group(inner) => has_text(inner),
        usvg::Node::Text(_) => true,
        usvg::Node::Path(_) | usvg::Node::Image(_) => false,
    })
}

struct Reader {
    to_drawing: Affine,
    notes: Notes,
}

impl Reader {
    fn group(&mut self, group: &usvg::Group) -> Vec<DrawnPart> {
        let mut parts: Vec<DrawnPart> = group.children().iter().flat_map(|node| self.node(node)).collect();
        if !group.filters().is_empty() {
            self.notes.say("Filters were left out.");
        }
        if parts.is_empty() {
            return parts;
        }
        let to_group = self.to_drawing * affine(group.abs_transform());
        let mut wrap = |clip: Option<String>, mask: Option<DrawnMask>, opacity: f32, blend: Blend| {
            let inside = std::mem::take(&mut parts);
            parts = vec![DrawnPart::Group {
                opacity: Ratio::new(f64::from(opacity)).clamped(),
                blend,
                clip,
                mask,
                parts: inside,
            }];
        };
        let mut next = group.clip_path();
        while let Some(clip) = next {
            let (path, mask) = self.clip(clip, to_group);
            wrap(path, mask, 1.0, Blend::Normal);
            next = clip.clip_path();
        }
        let mut next = group.mask();
        while let Some(mask) = next {
            let parts = self.group(mask.root());
            wrap(
                None,
                Some(DrawnMask { luminance: mask.kind() == usvg::MaskType::Luminance, parts }),
                1.0,
                Blend::Normal,
            );
            next = mask.mask();
        }
        if group.opacity().get() < 1.0 || group.blend_mode() != usvg::BlendMode::Normal {
            wrap(None, None, group.opacity().get(), blend(group.blend_mode()));
        }
        parts
    }

    fn node(&mut self, node: &usvg::Node) -> Vec<DrawnPart> {
        match node {
            usvg::Node::Group(group) => self.group(group),
            usvg::Node::Path(path) if path.is_visible() => self.path(path),
            usvg::Node::Text(text) => self.group(text.flattened()),
            usvg::Node::Path(_) | usvg::Node::Image(_) => Vec::new(),
        }
    }

    /// One simple outline is a clip; anything else is seen through as a mask.
    fn clip(&mut self, clip: &usvg::ClipPath, to_group: Affine) -> (Option<String>, Option<DrawnMask>) {
        let transform = to_group * affine(clip.transform());
        let mut outlines = Vec::new();
        gather(clip.root(), &mut outlines);
        match outlines.as_slice() {
            [(path, false)] => (Some(svg_path_data(&(transform * path.clone()))), None),
            _ => {
                let part = |(path, even_odd): &(BezPath, bool)| DrawnPart::Path {
                    data: svg_path_data(&(transform * path.clone())),
                    even_odd: *even_odd,
                    fill: Some(DrawnPaint::flat(Color::BLACK)),
                    stroke: None,
                };
                (None, Some(DrawnMask { luminance: false, parts: outlines.iter().map(part).collect() }))
            }
        }
    }

    fn path(&mut self, path: &usvg::Path) -> Vec<DrawnPart> {
        let transform = self.to_drawing * affine(path.abs_transform());
        let data = svg_path_data(&(transform * curves(path.data())));
        let fill = path.fill().and_then(|fill| {
            Some((self.paint(fill.paint(), fill.opacity().get(), transform)?, fill.rule() == usvg::FillRule::EvenOdd))
        });
        let line = path.stroke().and_then(|stroke| self.stroke(path, stroke, transform));
        let even_odd = fill.as_ref().is_some_and(|(_, even_odd)| *even_odd);
        let fill = fill.map(|(fill, _)| fill);
        let bare = |fill, stroke| DrawnPart::Path { data: data.clone(), even_odd, fill, stroke };
        match (line, path.paint_order()) {
            (None, _) if fill.is_none() => Vec::new(),
            (None, _) => vec![bare(fill, None)],
            (Some(Line::Kept(stroke)), usvg::PaintOrder::FillAndStroke) => vec![bare(fill, Some(stroke))],
            (Some(Line::Kept(stroke)), usvg::PaintOrder::StrokeAndFill) => {
                [bare(None, Some(stroke))].into_iter().chain(fill.map(|fill| bare(Some(fill), None))).collect()
            }
            (Some(Line::Outlined(part)), order) => {
                let body = fill.map(|fill| bare(Some(fill), None));
                if order == usvg::PaintOrder::FillAndStroke {
                    body.into_iter().chain([part]).collect()
                } else {
                    [part].into_iter().chain(body).collect()
                }
            }
        }
    }

    fn stroke(&mut self, path: &usvg::Path, stroke: &usvg::Stroke, transform: Affine) -> Option<Line> {
        let paint = self.paint(stroke.paint(), stroke.opacity().get(), transform)?;
        let [a, b, c, d, ..] = transform.as_coeffs();
        let (x, y) = (a.hypot(b), c.hypot(d));
        // A pen that is no longer round, or dashes that begin elsewhere, cannot be said as a line of one width.
        if (x - y).abs() > 1e-3 * x.max(y) || (a * c + b * d).abs() > 1e-3 * x * y || stroke.dashoffset() != 0.0 {
            let mut pen = stroke.to_tiny_skia();
            let dashed = pen.dash.take().and_then(|dash| path.data().dash(&dash, 1.0));
            let outline = dashed.as_ref().unwrap_or(path.data()).stroke(&pen, 4.0)?;
            let data = svg_path_data(&(transform * curves(&outline)));
            return Some(Line::Outlined(DrawnPart::Path { data, even_odd: false, fill: Some(paint), stroke: None }));
        }
        let ratio = |length: f32| Ratio::new(f64::from(length) * x);
        let join = match stroke.linejoin() {
            usvg::LineJoin::Miter | usvg::LineJoin::MiterClip => Join::Mitre,
            usvg::LineJoin::Round => Join::Round,
            usvg::LineJoin::Bevel => Join::Bevel,
        };
        let cap = match stroke.linecap() {
            usvg::LineCap::Butt => Cap::Flat,
            usvg::LineCap::Round => Cap::Round,
            usvg::LineCap::Square => Cap::Square,
        };
        let dash = stroke.dasharray().unwrap_or_default().iter().map(|part| ratio(*part)).collect();
        Some(Line::Kept(DrawnStroke { paint, width: ratio(stroke.width().get()), join, cap, dash }))
    }

    fn paint(&mut self, paint: &usvg::Paint, opacity: f32, transform: Affine) -> Option<DrawnPaint> {
        let whole = Ratio::new(f64::from(opacity)).clamped();
        match paint {
            usvg::Paint::Color(color) => Some(DrawnPaint::Fitted {
                paint: Paint::Flat { tint: Color::opaque(color.red, color.green, color.blue).into(), opacity: whole },
            }),
            usvg::Paint::LinearGradient(gradient) => {
                let stops = self.stops(gradient, opacity);
                let place = transform * affine(gradient.transform());
                let (from, to) = straightened(
                    place,
                    (f64::from(gradient.x1()), f64::from(gradient.y1())).into(),
                    (f64::from(gradient.x2()), f64::from(gradient.y2())).into(),
                )?;
                Some(DrawnPaint::Linear { from: ratios(from), to: ratios(to), stops })
            }
            usvg::Paint::RadialGradient(gradient) => {
                let stops = self.stops(gradient, opacity);
                let matrix = (transform * affine(gradient.transform())).as_coeffs().map(Ratio::new);
                let centre = ratios(Point::new(f64::from(gradient.cx()), f64::from(gradient.cy())));
                Some(DrawnPaint::Radial { centre, radius: Ratio::new(f64::from(gradient.r().get())), matrix, stops })
            }
            usvg::Paint::Pattern(_) => {
                self.notes.say("Patterns were left out.");
                None
            }
        }
    }

    fn stops(&mut self, gradient: &usvg::BaseGradient, opacity: f32) -> Vec<Stop> {
        if gradient.spread_method() != usvg::SpreadMethod::Pad {
            self.notes.say("Gradients that repeat are drawn once.");
        }
        let stop = |stop: &usvg::Stop| Stop {
            at: Ratio::new(f64::from(stop.offset().get())).clamped(),
            tint: Color::opaque(stop.color().red, stop.color().green, stop.color().blue).into(),
            opacity: Ratio::new(f64::from(stop.opacity().get() * opacity)).clamped(),
        };
        gradient.stops().iter().map(stop).collect()
    }
}

enum Line {
    Kept(DrawnStroke),
    Outlined(DrawnPart),
}

/// A linear gradient under any affine map is one again: its value is affine in the point, and falls off along its slope.
fn straightened(place: Affine, from: Point, to: Point) -> Option<(Point, Point)> {
    let along = to - from;
    let length = along.hypot2();
    if length == 0.0 || place.determinant().abs() < 1e-12 {
        return None;
    }
    let back = place.inverse();
    let value = |p: Point| (back * p - from).dot(along) / length;
    let origin = value(Point::ORIGIN);
    let slope = kurbo::Vec2::new(value(Point::new(1.0, 0.0)) - origin, value(Point::new(0.0, 1.0)) - origin);
    let start = place * from;
    (slope.hypot2() > 0.0).then(|| (start, start + slope / slope.hypot2()))
}

fn gather(group: &usvg::Group, out: &mut Vec<(BezPath, bool)>) {
    for node in group.children() {
        match node {
            usvg::Node::Group(inner) => gather(inner, out),
            usvg::Node::Path(path) => {
                let even_odd = path.fill().is_some_and(|fill| fill.rule() == usvg::FillRule::EvenOdd);
                out.push((affine(path.abs_transform()) * curves(path.data()), even_odd));
            }
            usvg::Node::Text(text) => gather(text.flattened(), out),
            usvg::Node::Image(_) => {}
        }
    }
}

fn ratios(point: Point) -> [Ratio; 2] {
    [Ratio::new(point.x), Ratio::new(point.y)]
}

fn affine(t: Transform) -> Affine {
    Affine::new([t.sx, t.ky, t.kx, t.sy, t.tx, t.ty].map(f64::from))
}

fn curves(path: &usvg::tiny_skia_path::Path) -> BezPath {
    let point = |p: usvg::tiny_skia_path::Point| Point::new(f64::from(p.x), f64::from(p.y));
    let mut out = BezPath::new();
    for segment in path.segments() {
        match segment {
            PathSegment::MoveTo(p) => out.move_to(point(p)),
            PathSegment::LineTo(p) => out.line_to(point(p)),
            PathSegment::QuadTo(a, p) => out.quad_to(point(a), point(p)),
            PathSegment::CubicTo(a, b, p) => out.curve_to(point(a), point(b), point(p)),
            PathSegment::Close => out.close_path(),
        }
    }
    out
}

fn blend(mode: usvg::BlendMode) -> Blend {
    match mode {
        usvg::BlendMode::Normal => Blend::Normal,
        usvg::BlendMode::Multiply => Blend::Multiply,
        // Adding light has no equal here; screen comes nearest.
        usvg::BlendMode::Screen | usvg::BlendMode::PlusLighter => Blend::Screen,
        usvg::BlendMode::Overlay => Blend::Overlay,
        usvg::BlendMode::Darken => Blend::Darken,
        usvg::BlendMode::Lighten => Blend::Lighten,
        usvg::BlendMode::ColorDodge => Blend::ColorDodge,
        usvg::BlendMode::ColorBurn => Blend::ColorBurn,
        usvg::BlendMode::HardLight => Blend::HardLight,
        usvg::BlendMode::SoftLight => Blend::SoftLight,
        usvg::BlendMode::Difference => Blend::Difference,
        usvg::BlendMode::Exclusion => Blend::Exclusion,
        usvg::BlendMode::Hue => Blend::Hue,
        usvg::BlendMode::Saturation => Blend::Saturation,
        usvg::BlendMode::Color => Blend::Color,
        usvg::BlendMode::Luminosity => Blend::Luminosity,
    }
}
