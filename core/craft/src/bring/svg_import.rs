//! SVG files as drawings whose parts can be edited.

use std::borrow::Cow;

use kurbo::{Affine, BezPath, Point, Shape};
use thiserror::Error;
use usvg::tiny_skia_path::{PathSegment, Transform};
use vatman_document::{
    AssetId, Blend, Cap, Color, Drawing, DrawnGroup, DrawnMask, DrawnPaint, DrawnPart, DrawnShadow, DrawnStroke, Fault,
    Join, Paint, Spread, Stop,
};
use vatman_output::svg_path_data;
use vatman_photo::content_id;
use vatman_type::FontLibrary;
use vatman_units::Ratio;

use crate::bring::svg_limits::{FILTER_WORK, PicturesInside, SvgLimit, filter_work, parsed, unpacked};
use crate::bring::svg_shadows::{blur_of, shadows_of};
use crate::bring::svg_words::{Layer, missing_families, words_of};

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
    /// More than a drawing holds.
    #[error("{0} This SVG file has more; simplify it. Nothing else was changed.")]
    TooMuch(Fault),
    /// Not readable.
    #[error("This SVG file cannot be read: {0}. Nothing else was changed.")]
    Unreadable(String),
    /// More than a file by a stranger may ask for.
    #[error("This SVG file asks for too much. {0}; simplify it. Nothing else was changed.")]
    Beyond(SvgLimit),
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
    /// Pictures the drawing shows: identity and PNG file.
    pub pictures: Vec<(AssetId, Vec<u8>)>,
    /// For the person who brought it.
    pub notes: Vec<String>,
}

/// Reads an SVG file. Shapes stay shapes and shadows shadows; pictures and other filters are drawn into pictures where they stand. Scripts and references to other files are left out and said. Words are outlines in the drawing, and words in its layers
/// where their family is at hand.
///
/// # Errors
/// [`SvgError`] with a sentence that can be shown.
pub fn import_svg(bytes: &[u8], name: &str, library: &FontLibrary) -> Result<Imported, SvgError> {
    let bytes = unpacked(bytes)?;
    let text = text_of(&bytes);
    let text = text.as_ref();
    let document = parsed(text)?;
    let lower = text.to_ascii_lowercase();
    let inside = PicturesInside::default();
    let mut options =
        usvg::Options { image_href_resolver: inside.resolver(), resources_dir: None, ..usvg::Options::default() };
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
    let tree =
        usvg::Tree::from_xmltree(&document, &options).map_err(|error| SvgError::Unreadable(error.to_string()))?;
    if inside.is_beyond() {
        return Err(SvgError::Beyond(SvgLimit::Pictures));
    }
    let (w, h) = (f64::from(tree.size().width()), f64::from(tree.size().height()));
    let (scale, width, height) = units_of(w, h);
    let mut reader = Reader {
        to_drawing: Affine::scale(scale),
        detail: (DETAIL / w.max(h)).clamp(0.5, 2.0),
        pictures: Vec::new(),
        notes: Notes::default(),
        beyond: None,
    };
    reader.notes.about(&lower);
    for family in replaced(tree.root(), library) {
        let family: String = family.chars().filter(|c| !c.is_control()).take(60).collect();
        reader
            .notes
            .say(&format!("The typeface \u{201c}{family}\u{201d} is not at hand; its words are drawn in another."));
    }
    let parts = reader.group(tree.root());
    if let Some(limit) = reader.beyond {
        return Err(SvgError::Beyond(limit));
    }
    if parts.is_empty() {
        return Err(SvgError::Empty);
    }
    let name: String = name.trim().trim_end_matches(".svg").trim_end_matches(".svgz").chars().take(80).collect();
    let whole = Drawing { name, width, height, parts }.flattened();
    whole.fault().map_or(Ok(()), |fault| Err(SvgError::TooMuch(fault)))?;
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
    reader.pictures.sort();
    reader.pictures.dedup();
    Ok(Imported { drawing: whole, layers, pictures: reader.pictures, notes: reader.notes.0 })
}

/// The text of a file in UTF-8, UTF-16 or, failing these, Latin-1, as browsers read it.
fn text_of(bytes: &[u8]) -> Cow<'_, str> {
    let wide = |unit: fn([u8; 2]) -> u16| {
        let units: Vec<u16> = bytes[2..].chunks_exact(2).map(|pair| unit([pair[0], pair[1]])).collect();
        Cow::Owned(String::from_utf16_lossy(&units))
    };
    match bytes {
        [0xff, 0xfe, ..] => wide(u16::from_le_bytes),
        [0xfe, 0xff, ..] => wide(u16::from_be_bytes),
        [0xef, 0xbb, 0xbf, rest @ ..] => String::from_utf8_lossy(rest),
        _ => match std::str::from_utf8(bytes) {
            Ok(text) => Cow::Borrowed(text),
            Err(_) => Cow::Owned(bytes.iter().map(|byte| char::from(*byte)).collect()),
        },
    }
}

/// Units a file of this size is kept in: how many to one of its own, and the whole width and height, chosen so that rounding to whole
/// units does not bend its proportions.
fn units_of(w: f64, h: f64) -> (f64, u32, u32) {
    let (long, short) = (w.max(h), w.min(h));
    let off = |span: u32| {
        let other = f64::from(span) * short / long;
        (other - other.round()).abs() / other.max(1e-9)
    };
    let span = (SPAN as u32..SPAN as u32 * 5 / 4).min_by(|a, b| off(*a).total_cmp(&off(*b))).unwrap_or(SPAN as u32);
    let other = (f64::from(span) * short / long).round().max(1.0) as u32;
    let scale = f64::from(span) / long;
    if w >= h { (scale, span, other) } else { (scale, other, span) }
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
        if lower.contains("<image") && !lower.contains("data:image") {
            self.say("Pictures that are not inside the file were left out. Bring them as pictures.");
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
                usvg::Node::Group(inner) if inner.filters().is_empty() => self.group(inner),
                usvg::Node::Group(inner) => {
                    self.outlined |= has_text(inner);
                    let parts = self.reader.node(node, group.abs_transform());
                    self.gathered.extend(parts);
                }
                usvg::Node::Text(text) => match words_of(text, self.reader.to_drawing, self.library) {
                    Some(lines) => {
                        self.close();
                        self.layers.extend(lines.into_iter().map(|words| Layer::Words { words }));
                    }
                    None => {
                        self.outlined = true;
                        let parts = self.reader.node(node, group.abs_transform());
                        self.gathered.extend(parts);
                    }
                },
                usvg::Node::Path(_) | usvg::Node::Image(_) => {
                    let parts = self.reader.node(node, group.abs_transform());
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

/// Families that words of a group ask for and that are not at hand, each once.
fn replaced(group: &usvg::Group, library: &FontLibrary) -> Vec<String> {
    let mut found: Vec<String> = group
        .children()
        .iter()
        .flat_map(|node| match node {
            usvg::Node::Group(inner) => replaced(inner, library),
            usvg::Node::Text(text) => missing_families(text, library),
            usvg::Node::Path(_) | usvg::Node::Image(_) => Vec::new(),
        })
        .collect();
    found.sort();
    found.dedup();
    found.truncate(8);
    found
}

fn has_text(group: &usvg::Group) -> bool {
    group.children().iter().any(|node| match node {
        usvg::Node::Group(inner) => has_text(inner),
        usvg::Node::Text(_) => true,
        usvg::Node::Path(_) | usvg::Node::Image(_) => false,
    })
}

/// What the filters of a group do to it.
#[derive(Debug, Default, PartialEq)]
struct Lit {
    shadows: Vec<DrawnShadow>,
    blur: Ratio,
}

/// Whether everything in a group is painted in one colour.
fn is_of_one_colour(group: &usvg::Group) -> bool {
    fn gather(group: &usvg::Group, found: &mut Vec<Option<usvg::Color>>) {
        let flat = |paint: &usvg::Paint| if let usvg::Paint::Color(color) = paint { Some(*color) } else { None };
        for node in group.children() {
            match node {
                usvg::Node::Group(inner) => gather(inner, found),
                usvg::Node::Path(path) => {
                    found.extend(path.fill().map(|fill| flat(fill.paint())));
                    found.extend(path.stroke().map(|stroke| flat(stroke.paint())));
                }
                usvg::Node::Text(text) => gather(text.flattened(), found),
                usvg::Node::Image(_) => found.push(None),
            }
        }
    }
    let mut found = Vec::new();
    gather(group, &mut found);
    found.iter().all(|color| color.is_some() && *color == found[0])
}

struct Reader {
    to_drawing: Affine,
    /// Pixels to a unit of the file, for what is drawn into pictures.
    detail: f64,
    pictures: Vec<(AssetId, Vec<u8>)>,
    notes: Notes,
    /// What it asks too much of.
    beyond: Option<SvgLimit>,
}

/// Pixels of the longer side of a file whose whole is drawn into a picture; small files have two pixels to a unit at most, as fine screens show them.
const DETAIL: f64 = 2_000.0;
/// Most tiles a pattern is kept as; more are drawn into a picture.
const MOST_TILES: f64 = 400.0;
/// Most pixels of one such picture, and along a side.
const MOST_PIXELS: f64 = 16e6;
const MOST_SIDE: f64 = 8_000.0;
/// Least pixels to a unit of the file; what takes too long also then is refused.
const COARSEST: f64 = 0.25;

impl Reader {
    fn group(&mut self, group: &usvg::Group) -> Vec<DrawnPart> {
        let mut parts: Vec<DrawnPart> =
            group.children().iter().flat_map(|node| self.node(node, group.abs_transform())).collect();
        if parts.is_empty() {
            return parts;
        }
        let to_group = self.to_drawing * affine(group.abs_transform());
        // Filters come before what the group is seen through.
        if let Some((lit, region)) = self.lit(group).filter(|(lit, _)| *lit != Lit::default()) {
            let Lit { shadows, blur } = lit;
            let thrown = DrawnPart::Group(DrawnGroup { shadows, blur, ..DrawnGroup::of(parts) });
            parts = vec![DrawnPart::Group(DrawnGroup { clip: Some(region), ..DrawnGroup::of(vec![thrown]) })];
        }
        let mut wrap = |clip: Option<String>, mask: Option<DrawnMask>, opacity: f32, blend: Blend| {
            let inside = std::mem::take(&mut parts);
            let opacity = Ratio::new(f64::from(opacity)).clamped();
            parts = vec![DrawnPart::Group(DrawnGroup { opacity, blend, clip, mask, ..DrawnGroup::of(inside) })];
        };
        let mut next = group.clip_path();
        while let Some(clip) = next {
            let (path, mask) = self.clip(clip, to_group);
            wrap(path, mask, 1.0, Blend::Normal);
            next = clip.clip_path();
        }
        let mut next = group.mask();
        while let Some(mask) = next {
            // What a mask holds is placed where the group it is on stands.
            let outside = std::mem::replace(&mut self.to_drawing, to_group);
            let parts = self.group(mask.root());
            self.to_drawing = outside;
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

    fn node(&mut self, node: &usvg::Node, parent: Transform) -> Vec<DrawnPart> {
        match node {
            usvg::Node::Group(group) if !group.filters().is_empty() && self.lit(group).is_none() => {
                let picture = self.pixels(node, parent, "Filters");
                if group.blend_mode() == usvg::BlendMode::Normal {
                    return picture.into_iter().collect();
                }
                let blend = blend(group.blend_mode());
                let wrap = |part| DrawnPart::Group(DrawnGroup { blend, ..DrawnGroup::of(vec![part]) });
                picture.map(wrap).into_iter().collect()
            }
            usvg::Node::Group(group) => self.group(group),
            usvg::Node::Path(path) if !path.is_visible() => Vec::new(),
            usvg::Node::Path(path) if is_beyond_outlines(path) => {
                if let Some(tiled) = self.tiled(path) {
                    return tiled;
                }
                self.pixels(node, parent, "Patterns and gradients from one circle to another").into_iter().collect()
            }
            usvg::Node::Path(path) => self.path(path),
            usvg::Node::Text(text) => self.group(text.flattened()),
            usvg::Node::Image(image) if image.is_visible() => {
                self.pixels(node, parent, "Pictures inside the file").into_iter().collect()
            }
            usvg::Node::Image(_) => Vec::new(),
        }
    }

    /// A shape filled with a pattern: the tiles that touch it, seen through the shape. None where the tiles are too many, or more
    /// than the fill needs them.
    fn tiled(&mut self, path: &usvg::Path) -> Option<Vec<DrawnPart>> {
        let fill = path.fill().filter(|_| path.stroke().is_none())?;
        let usvg::Paint::Pattern(pattern) = fill.paint() else { return None };
        let inner = affine(path.abs_transform()) * affine(pattern.transform());
        if inner.determinant().abs() < 1e-12 {
            return None;
        }
        let rect = pattern.rect();
        let (x, y, w, h) = (rect.x(), rect.y(), rect.width(), rect.height());
        let (x, y, w, h) = (f64::from(x), f64::from(y), f64::from(w), f64::from(h));
        let body = affine(path.abs_transform()) * curves(path.data());
        let reach = (inner.inverse() * body.clone()).bounding_box();
        let first = (((reach.x0 - x) / w).floor(), ((reach.y0 - y) / h).floor());
        let last = (((reach.x1 - x) / w).ceil(), ((reach.y1 - y) / h).ceil());
        let tiles = (last.0 - first.0) * (last.1 - first.1);
        if !tiles.is_finite() || tiles > MOST_TILES {
            return None;
        }
        let outside = self.to_drawing;
        let mut tiles = Vec::new();
        for row in first.1 as i64..last.1 as i64 {
            for column in first.0 as i64..last.0 as i64 {
                let step = Affine::translate((column as f64 * w, row as f64 * h));
                self.to_drawing = outside * inner * step;
                let clip = self.to_drawing * kurbo::Rect::new(x, y, x + w, y + h).to_path(0.1);
                let parts = self.group(pattern.root());
                let clip = Some(svg_path_data(&clip));
                tiles.push(DrawnPart::Group(DrawnGroup { clip, ..DrawnGroup::of(parts) }));
            }
        }
        self.to_drawing = outside;
        let data = svg_path_data(&(outside * body));
        let even_odd = fill.rule() == usvg::FillRule::EvenOdd;
        let shape = DrawnPart::Path { data, even_odd, fill: Some(DrawnPaint::flat(Color::BLACK)), stroke: None };
        let mask = Some(DrawnMask { luminance: false, parts: vec![shape] });
        let opacity = Ratio::new(f64::from(fill.opacity().get())).clamped();
        Some(vec![DrawnPart::Group(DrawnGroup { opacity, mask, ..DrawnGroup::of(tiles) })])
    }

    /// The shadows the filters of a group throw or the blur they are, and the region that is seen in; nothing where they do more than
    /// that, or the group is stretched more one way than the other. Without filters, none.
    fn lit(&self, group: &usvg::Group) -> Option<(Lit, String)> {
        let [filter] = group.filters() else { return group.filters().is_empty().then(Default::default) };
        let to_group = self.to_drawing * affine(group.abs_transform());
        let region = filter.rect();
        let (x, y) = (f64::from(region.x()), f64::from(region.y()));
        let (w, h) = (f64::from(region.width()), f64::from(region.height()));
        let outline = to_group * kurbo::Rect::new(x, y, x + w, y + h).to_path(0.1);
        let lit = match blur_of(filter, to_group, is_of_one_colour(group)) {
            Some(sigma) => Lit { blur: Ratio::new(sigma), ..Lit::default() },
            None => Lit { shadows: shadows_of(filter, to_group)?, ..Lit::default() },
        };
        Some((lit, svg_path_data(&outline)))
    }

    /// Draws what cannot be kept as outlines into a picture where it stands, and says so.
    fn pixels(&mut self, node: &usvg::Node, parent: Transform, what: &str) -> Option<DrawnPart> {
        let seen = node.abs_layer_bounding_box()?;
        let area = seen.to_rect().outset(1.0, 1.0)?;
        let (w, h) = (f64::from(area.width()), f64::from(area.height()));
        let mut detail = self.detail.min((MOST_PIXELS / (w * h)).sqrt()).min(MOST_SIDE / w.max(h));
        if let usvg::Node::Group(group) = node {
            while filter_work(group, w * h * detail * detail, detail) > FILTER_WORK {
                detail /= std::f64::consts::SQRT_2;
                if detail < COARSEST {
                    self.beyond = Some(SvgLimit::Filters);
                    return None;
                }
            }
        }
        let (wide, high) = ((w * detail).ceil().max(1.0), (h * detail).ceil().max(1.0));
        let mut pixmap = resvg::tiny_skia::Pixmap::new(wide as u32, high as u32)?;
        // The library moves what it draws to its own corner, and knows nothing of the groups around it.
        let place = Transform::from_scale((wide / w) as f32, (high / h) as f32)
            .pre_translate(-area.x(), -area.y())
            .pre_concat(parent)
            .pre_translate(seen.x(), seen.y());
        resvg::render_node(node, place, &mut pixmap.as_mut())?;
        let png = pixmap.encode_png().ok()?;
        let picture = content_id(&png);
        self.pictures.push((picture.clone(), png));
        self.notes.say(&format!("{what} were drawn into pictures, which do not get sharper when they are enlarged."));
        let corner = self.to_drawing * Point::new(f64::from(area.x()), f64::from(area.y()));
        let [a, b, c, d, ..] = self.to_drawing.as_coeffs();
        let (x, y) = (a.hypot(b), c.hypot(d));
        Some(DrawnPart::Picture { picture, at: [corner.x, corner.y, w * x, h * y].map(Ratio::new) })
    }

    /// One simple outline is a clip; anything else is seen through as a mask.
    fn clip(&self, clip: &usvg::ClipPath, to_group: Affine) -> (Option<String>, Option<DrawnMask>) {
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

    fn path(&self, path: &usvg::Path) -> Vec<DrawnPart> {
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

    fn stroke(&self, path: &usvg::Path, stroke: &usvg::Stroke, transform: Affine) -> Option<Line> {
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

    fn paint(&self, paint: &usvg::Paint, opacity: f32, transform: Affine) -> Option<DrawnPaint> {
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
                Some(DrawnPaint::Linear { from: ratios(from), to: ratios(to), stops, spread: spread(gradient) })
            }
            usvg::Paint::RadialGradient(gradient) => {
                let stops = self.stops(gradient, opacity);
                let matrix = (transform * affine(gradient.transform())).as_coeffs().map(Ratio::new);
                let centre = ratios(Point::new(f64::from(gradient.cx()), f64::from(gradient.cy())));
                let radius = Ratio::new(f64::from(gradient.r().get()));
                Some(DrawnPaint::Radial { centre, radius, matrix, stops, spread: spread(gradient) })
            }
            // Paths with patterns are drawn into pictures.
            usvg::Paint::Pattern(_) => None,
        }
    }

    fn stops(&self, gradient: &usvg::BaseGradient, opacity: f32) -> Vec<Stop> {
        let stop = |stop: &usvg::Stop| Stop {
            at: Ratio::new(f64::from(stop.offset().get())).clamped(),
            tint: Color::opaque(stop.color().red, stop.color().green, stop.color().blue).into(),
            opacity: Ratio::new(f64::from(stop.opacity().get() * opacity)).clamped(),
        };
        gradient.stops().iter().map(stop).collect()
    }
}

fn spread(gradient: &usvg::BaseGradient) -> Spread {
    match gradient.spread_method() {
        usvg::SpreadMethod::Pad => Spread::Hold,
        usvg::SpreadMethod::Repeat => Spread::Repeat,
        usvg::SpreadMethod::Reflect => Spread::Mirror,
    }
}

/// Whether a path is painted with what no outline can be.
fn is_beyond_outlines(path: &usvg::Path) -> bool {
    let beyond = |paint: &usvg::Paint| match paint {
        usvg::Paint::Color(_) | usvg::Paint::LinearGradient(_) => false,
        // Circles about different middles make a cone, which no fill here has.
        usvg::Paint::RadialGradient(gradient) => (gradient.cx(), gradient.cy()) != (gradient.fx(), gradient.fy()),
        usvg::Paint::Pattern(_) => true,
    };
    path.fill().is_some_and(|fill| beyond(fill.paint())) || path.stroke().is_some_and(|line| beyond(line.paint()))
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
