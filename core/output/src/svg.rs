//! Scene to SVG: for the stage, item by item, and as a file that stands alone.

use std::cell::RefCell;
use std::collections::HashMap;
use std::fmt::Write as _;
use std::sync::Arc;

use kurbo::{Affine, BezPath};
use vatman_document::{Blend, Cap, GroupId, ItemId, Join, PictureSource, Spread};
use vatman_photo::encode_png;
use vatman_scene::{
    Behind, Brush, Bunch, Filter, GlyphNode, GradientStop, Group, ImageNode, Line, MaskNodes, Node, PathNode, Reading,
    Rgba, Scene, SceneItem, Shadow, Tile,
};
use vatman_type::GlyphOutlines;

use crate::gradients::conic_pixels;
use crate::paths::{extent, glyph_path, number, path_data, scale_of};
use crate::pixels::ScenePart;
use crate::walk::{Sink, visit, walk};
use base64::Engine as _;
use base64::engine::general_purpose::STANDARD as BASE64;

/// Identity of the element that holds the ground, here and on the stage.
pub const GROUND_ID: &str = "sheet-ground";

/// Identity of the element that holds the lines along which items are to be cut.
pub const CUTTING_LINE_ID: &str = "cutting-line";

/// How an SVG refers to pictures.
pub trait PictureLinks {
    /// A link to a picture, at least `width` pixels wide where it has them.
    fn link(&self, source: &PictureSource, width: f64) -> String;
    /// A link to a picture of a part of a scene, and where that lies on the sheet; nothing where nothing of it is seen. `stamp` is another
    /// where the part looks otherwise.
    fn part(&self, scene: &Scene, part: ScenePart<'_>, stamp: u64) -> Option<(String, kurbo::Rect)>;
}

/// How an SVG file is written.
#[derive(Debug, Clone, Copy, Default)]
pub struct SvgOptions {
    /// Whether the bleed is part of the file. Default: no.
    pub bleed: bool,
    /// Whether the ground is left out. Default: no.
    pub clear: bool,
}

/// Identity of the element that holds an item, here and on the stage: what is blurred behind others refers to it.
#[must_use]
pub fn item_element(id: &ItemId) -> String {
    format!("item-{id}")
}

/// Identity of the element that holds the items of a group that looks its own way, here and on the stage.
#[must_use]
pub fn bunch_element(id: &GroupId) -> String {
    format!("bunch-{id}")
}

/// How the items of a bunch are held together on the stage.
#[derive(Debug, Clone, PartialEq)]
pub struct BunchFragments {
    /// What its look refers to.
    pub defs: String,
    /// Its look, as properties of style.
    pub style: String,
    /// A picture in the place of its items, where it is treated in a way that only pixels show.
    pub picture: Option<String>,
}

/// A bunch of a scene for the stage, which draws its items itself.
#[must_use]
pub fn bunch_fragments(
    scene: &Scene,
    bunch: &Bunch,
    outlines: &dyn GlyphOutlines,
    links: &dyn PictureLinks,
) -> BunchFragments {
    let prefix = bunch_element(&bunch.id);
    let mut writer = Writer::new(&prefix, outlines, links);
    let mut style = String::new();
    if bunch.opacity < 1.0 {
        let _ = write!(style, "opacity:{};", bunch.opacity);
    }
    if let Some(mode) = blend_name(bunch.blend) {
        let _ = write!(style, "mix-blend-mode:{mode};");
    }
    let picture = writer.bunch_picture(scene, bunch);
    if picture.is_none() {
        let group = scene.bunched(bunch);
        if let Some(id) = writer.filter(&group) {
            let _ = write!(style, "filter:url(#{id});");
        }
    }
    BunchFragments { defs: writer.out, style, picture }
}

/// One item of a scene as a fragment that holds all it refers to but the items behind it; identities begin with its own.
#[must_use]
pub fn item_fragment(
    scene: &Scene,
    item: &SceneItem,
    outlines: &dyn GlyphOutlines,
    links: &dyn PictureLinks,
) -> String {
    let mut writer = Writer::new(item.id.as_str(), outlines, links);
    if let Some(behind) = &item.behind {
        writer.seen_behind(behind, &item.id, scene);
    }
    if let Some(below) = &item.below {
        writer.draw(below);
    }
    writer.finish(&item.node)
}

/// The ground of a scene over `area` as a fragment; empty for a clear one.
#[must_use]
pub fn ground_fragment(
    scene: &Scene,
    area: kurbo::Rect,
    outlines: &dyn GlyphOutlines,
    links: &dyn PictureLinks,
) -> String {
    Writer::new("ground", outlines, links).ground(scene, area)
}

/// A whole side as an SVG file of its physical size.
#[must_use]
pub fn write_svg(
    scene: &Scene,
    title: &str,
    options: SvgOptions,
    outlines: &dyn GlyphOutlines,
    links: &dyn PictureLinks,
) -> String {
    let bleed = if options.bleed { scene.bleed } else { 0.0 };
    let page = scene.size.to_rect().inflate(bleed, bleed);
    let embedded = RefCell::default();
    let embedded = Some(&embedded);
    let mut out =
        String::from("<svg xmlns=\"http://www.w3.org/2000/svg\" xmlns:xlink=\"http://www.w3.org/1999/xlink\" width=\"");
    number(page.width(), &mut out);
    out.push_str("px\" height=\"");
    number(page.height(), &mut out);
    out.push_str("px\" viewBox=\"");
    for (i, value) in [page.x0, page.y0, page.width(), page.height()].into_iter().enumerate() {
        if i > 0 {
            out.push(' ');
        }
        number(value, &mut out);
    }
    let _ = write!(out, "\"><title>{}</title><g id=\"{GROUND_ID}\">", escape(title));
    if !options.clear {
        out.push_str(&Writer { embedded, ..Writer::new("ground", outlines, links) }.ground(scene, page));
    }
    out.push_str("</g>");
    let mut writer = Writer { out, embedded, ..Writer::new("sheet", outlines, links) };
    match walk(scene, &mut writer) {
        Ok(()) => {}
        Err(never) => match never {},
    }
    let mut out = writer.out;
    cutting_line(scene, &mut out);
    out.push_str("</svg>\n");
    out
}

/// The lines along which items are to be cut, as one group that cutters can be told to follow.
fn cutting_line(scene: &Scene, out: &mut String) {
    let mut lines = scene.items.iter().filter_map(|item| item.cut.as_ref()).peekable();
    if lines.peek().is_none() {
        return;
    }
    let _ = write!(
        out,
        "<g id=\"{CUTTING_LINE_ID}\" fill=\"none\" stroke=\"{}\" stroke-width=\"{}\">",
        crate::cutting::COLOUR,
        crate::cutting::WIDTH
    );
    lines.for_each(|line| {
        out.push_str("<path d=\"");
        path_data(line, Affine::IDENTITY, out);
        out.push_str("\"/>");
    });
    out.push_str("</g>");
}

pub(crate) fn escape(text: &str) -> String {
    let allowed = text.chars().filter(|c| !c.is_control() || *c == '\n');
    allowed.fold(String::with_capacity(text.len()), |mut out, c| {
        match c {
            '&' => out.push_str("&amp;"),
            '<' => out.push_str("&lt;"),
            '>' => out.push_str("&gt;"),
            '"' => out.push_str("&quot;"),
            other => out.push(other),
        }
        out
    })
}

struct Writer<'a> {
    out: String,
    ids: usize,
    /// What identities begin with.
    prefix: String,
    outlines: &'a dyn GlyphOutlines,
    links: &'a dyn PictureLinks,
    /// Size of one unit on the sheet, for choosing pictures.
    scale: Vec<f64>,
    /// The pictures that are in the file already, where it is one of its own.
    embedded: Option<&'a RefCell<HashMap<Arc<PictureSource>, usize>>>,
    /// The item being written, in a file of its own.
    entered: Option<ItemId>,
}

/// The box in which an embedded picture is kept, in units.
const EMBEDDED: f64 = 1_000.0;

enum Never {}

impl<'a> Writer<'a> {
    fn new(prefix: &str, outlines: &'a dyn GlyphOutlines, links: &'a dyn PictureLinks) -> Self {
        let prefix = prefix.to_owned();
        Self { out: String::new(), ids: 0, prefix, outlines, links, scale: vec![1.0], embedded: None, entered: None }
    }

    fn ground(self, scene: &Scene, area: kurbo::Rect) -> String {
        let Some(brush) = &scene.ground else { return String::new() };
        let ground = PathNode::new(kurbo::Shape::to_path(&area, 0.01), Some(brush.clone()), None);
        self.finish(&Node::Path(ground))
    }
}

impl Writer<'_> {
    fn id(&mut self) -> String {
        self.ids += 1;
        format!("{}-{}", self.prefix, self.ids)
    }

    fn attribute(&mut self, name: &str, value: f64) {
        let _ = write!(self.out, " {name}=\"");
        number(value, &mut self.out);
        self.out.push('"');
    }

    fn draw(&mut self, node: &Node) {
        match visit(node, self) {
            Ok(()) => {}
            Err(never) => match never {},
        }
    }

    fn finish(mut self, node: &Node) -> String {
        self.draw(node);
        self.out
    }

    fn matrix(&mut self, name: &str, affine: Affine) {
        let _ = write!(self.out, " {name}=\"matrix(");
        for (i, value) in affine.as_coeffs().into_iter().enumerate() {
            if i > 0 {
                self.out.push(' ');
            }
            // Six decimals: a turn must stay a turn across a large sheet.
            let _ = write!(self.out, "{}", format!("{value:.6}").trim_end_matches('0').trim_end_matches('.'));
        }
        self.out.push_str(")\"");
    }

    fn rect(&mut self, area: kurbo::Rect) {
        for (name, value) in [("x", area.x0), ("y", area.y0), ("width", area.width()), ("height", area.height())] {
            self.attribute(name, value);
        }
    }

    fn clip(&mut self, outline: &BezPath, transform: Affine) -> String {
        let id = self.id();
        let _ = write!(self.out, "<clipPath id=\"{id}\"><path d=\"");
        path_data(outline, transform, &mut self.out);
        self.out.push_str("\"/></clipPath>");
        id
    }

    /// Writes the definition a brush needs and returns the paint that refers to it, with its opacity.
    fn paint(&mut self, brush: &Brush) -> (String, f64) {
        match brush {
            Brush::Flat(c) => (hex(*c), c.a),
            Brush::Linear { from, to, stops, spread } => {
                let id = self.id();
                let _ = write!(self.out, "<linearGradient id=\"{id}\" gradientUnits=\"userSpaceOnUse\"");
                for (name, value) in [("x1", from.x), ("y1", from.y), ("x2", to.x), ("y2", to.y)] {
                    self.attribute(name, value);
                }
                self.stops(stops, *spread);
                self.out.push_str("</linearGradient>");
                (format!("url(#{id})"), 1.0)
            }
            Brush::Radial { centre, radius, matrix, stops, spread } => {
                let id = self.id();
                let _ = write!(self.out, "<radialGradient id=\"{id}\" gradientUnits=\"userSpaceOnUse\"");
                for (name, value) in [("cx", centre.x), ("cy", centre.y), ("r", *radius)] {
                    self.attribute(name, value);
                }
                if *matrix != Affine::IDENTITY {
                    self.matrix("gradientTransform", *matrix);
                }
                self.stops(stops, *spread);
                self.out.push_str("</radialGradient>");
                (format!("url(#{id})"), 1.0)
            }
            // SVG has no gradient that turns, so it is a small picture of one.
            Brush::Conic { start, stops, field, .. } => {
                let link = encode_png(&conic_pixels(*start, stops, field.width() / field.height()), 96)
                    .map(|png| format!("data:image/png;base64,{}", BASE64.encode(&png)))
                    .unwrap_or_default();
                (self.pattern_of(*field, |writer, dest| writer.link_image(dest, &link)), 1.0)
            }
            Brush::Image { source, dest, .. } => {
                let width = dest.width() * self.scale.last().copied().unwrap_or(1.0);
                (self.pattern_of(*dest, |writer, dest| writer.picture(dest, source, width)), 1.0)
            }
            Brush::Tile(tile) => (self.tile_pattern(tile), 1.0),
        }
    }

    fn stops(&mut self, stops: &[GradientStop], spread: Spread) {
        self.out.push_str(match spread {
            Spread::Hold => ">",
            Spread::Repeat => " spreadMethod=\"repeat\">",
            Spread::Mirror => " spreadMethod=\"reflect\">",
        });
        for GradientStop { at, color } in stops {
            self.out.push_str("<stop");
            self.attribute("offset", *at);
            let _ = write!(self.out, " stop-color=\"{}\"", hex(*color));
            if color.a < 1.0 {
                self.attribute("stop-opacity", color.a);
            }
            self.out.push_str("/>");
        }
    }

    fn pattern_of(&mut self, dest: kurbo::Rect, draw: impl FnOnce(&mut Self, kurbo::Rect)) -> String {
        let id = self.id();
        let _ = write!(self.out, "<pattern id=\"{id}\" patternUnits=\"userSpaceOnUse\"");
        self.rect(dest);
        self.out.push('>');
        draw(self, kurbo::Rect::from_origin_size((0.0, 0.0), dest.size()));
        self.out.push_str("</pattern>");
        format!("url(#{id})")
    }

    fn tile_pattern(&mut self, tile: &Tile) -> String {
        // Cells of one unit would lose the decimals of their figures, so they are written larger.
        const FINE: f64 = 100.0;
        let id = self.id();
        let cell = tile.cell.to_rect().scale_from_origin(FINE);
        let _ = write!(self.out, "<pattern id=\"{id}\" patternUnits=\"userSpaceOnUse\"");
        self.rect(cell);
        self.matrix("patternTransform", tile.transform * Affine::scale(1.0 / FINE));
        self.out.push('>');
        if let Some(ground) = tile.ground {
            self.painted(
                &kurbo::Shape::to_path(&cell.inflate(1.0, 1.0), 0.01),
                Some(&Brush::Flat(ground)),
                None,
                false,
                None,
            );
        }
        self.painted(&(Affine::scale(FINE) * &tile.figure), Some(&Brush::Flat(tile.ink)), None, false, None);
        self.out.push_str("</pattern>");
        format!("url(#{id})")
    }

    fn link_image(&mut self, dest: kurbo::Rect, link: &str) {
        let link = escape(link);
        self.out.push_str("<image preserveAspectRatio=\"none\"");
        self.rect(dest);
        // What is inside the file is there once, under the name that readers of SVG 1.1 know too.
        let name = if link.starts_with("data:") { "xlink:href" } else { "href" };
        let _ = write!(self.out, " {name}=\"{link}\"/>");
    }

    /// A picture over a box. In a file of its own every picture is there once, and shown from there wherever it stands.
    fn picture(&mut self, dest: kurbo::Rect, source: &Arc<PictureSource>, width: f64) {
        let Some(embedded) = self.embedded else {
            let link = self.links.link(source, width);
            return self.link_image(dest, &link);
        };
        let next = embedded.borrow().len() + 1;
        let number = *embedded.borrow_mut().entry(Arc::clone(source)).or_insert(next);
        if number == next {
            let link = self.links.link(source, width);
            let _ = write!(self.out, "<defs><g id=\"picture-{number}\">");
            self.link_image(kurbo::Rect::new(0.0, 0.0, EMBEDDED, EMBEDDED), &link);
            self.out.push_str("</g></defs>");
        }
        let _ = write!(self.out, "<use xlink:href=\"#picture-{number}\"");
        let place = Affine::translate(dest.origin().to_vec2())
            * Affine::scale_non_uniform(dest.width() / EMBEDDED, dest.height() / EMBEDDED);
        self.matrix("transform", place);
        self.out.push_str("/>");
    }

    /// What lies behind an item, treated and clipped. An even blur is said of what is drawn already, and follows when anything of it
    /// changes; anything else is a picture.
    fn seen_behind(&mut self, behind: &Behind, item: &ItemId, scene: &Scene) {
        if behind.hidden {
            return;
        }
        let outline = self.clip(&behind.outline, Affine::IDENTITY);
        let opened = |writer: &mut Self| {
            let _ = write!(writer.out, "<g class=\"behind\" clip-path=\"url(#{outline})\" aria-hidden=\"true\"");
            if behind.opacity < 1.0 {
                writer.attribute("opacity", behind.opacity);
            }
            writer.out.push('>');
        };
        let Some(sigma) = behind.filter.even_blur() else {
            if let Some((link, area)) = self.links.part(scene, ScenePart::Behind(item), behind.stamp) {
                opened(self);
                self.link_image(area, &link);
                self.out.push_str("</g>");
            }
            return;
        };
        let sheet = kurbo::Shape::to_path(&scene.size.to_rect().inflate(scene.bleed, scene.bleed), 0.01);
        let sheet = self.clip(&sheet, Affine::IDENTITY);
        let reach = sigma * 3.0;
        let filter = self.blurring(sigma, kurbo::Shape::bounding_box(&behind.outline).inflate(reach, reach));
        opened(self);
        let _ = write!(self.out, "<g filter=\"url(#{filter})\"><g clip-path=\"url(#{sheet})\">");
        let ground = behind.ground.then(|| GROUND_ID.to_owned());
        for id in ground.into_iter().chain(elements_behind(behind, item, scene)) {
            let _ = write!(self.out, "<use href=\"#{id}\" xlink:href=\"#{id}\"/>");
        }
        self.out.push_str("</g></g></g>");
    }

    fn blurring(&mut self, sigma: f64, area: kurbo::Rect) -> String {
        let id = self.id();
        let _ =
            write!(self.out, "<filter id=\"{id}\" filterUnits=\"userSpaceOnUse\" color-interpolation-filters=\"sRGB\"");
        self.rect(area);
        self.out.push_str("><feGaussianBlur");
        self.attribute("stdDeviation", sigma);
        self.out.push_str("/></filter>");
        id
    }

    /// A picture of a bunch that is treated in a way SVG cannot say.
    fn bunch_picture(&mut self, scene: &Scene, bunch: &Bunch) -> Option<String> {
        bunch.filter.as_ref().filter(|filter| filter.even_blur().is_none())?;
        let Some((link, area)) = self.links.part(scene, ScenePart::Bunch(&bunch.id), bunch.stamp) else {
            return Some(String::new());
        };
        let before = std::mem::take(&mut self.out);
        self.link_image(area, &link);
        Some(std::mem::replace(&mut self.out, before))
    }

    /// The filter that blurs a group evenly and throws its shadows, where it has any.
    fn filter(&mut self, group: &Group) -> Option<String> {
        let sigma = group.filter.as_ref().and_then(Filter::even_blur);
        if sigma.is_none() && group.shadows.is_empty() {
            return None;
        }
        let area = extent(&Node::Group(group.clone()), Affine::IDENTITY).unwrap_or_default().inflate(2.0, 2.0);
        Some(match sigma {
            Some(sigma) if group.shadows.is_empty() => self.blurring(sigma, area),
            sigma => self.shadows(&group.shadows, sigma, area),
        })
    }

    /// A filter that throws shadows; written as blur, offset, flood and merge, which every reader draws alike.
    /// They are thrown by what is there after it has been blurred, where it is.
    fn shadows(&mut self, shadows: &[Shadow], blurred: Option<f64>, area: kurbo::Rect) -> String {
        let id = self.id();
        let _ =
            write!(self.out, "<filter id=\"{id}\" filterUnits=\"userSpaceOnUse\" color-interpolation-filters=\"sRGB\"");
        self.rect(area);
        self.out.push('>');
        let (graphic, alpha) = if let Some(sigma) = blurred {
            self.out.push_str("<feGaussianBlur");
            self.attribute("stdDeviation", sigma);
            self.out.push_str(" result=\"soft\"/><feColorMatrix in=\"soft\" type=\"matrix\" ");
            self.out.push_str("values=\"0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 1 0\" result=\"softAlpha\"/>");
            ("soft", "softAlpha")
        } else {
            ("SourceGraphic", "SourceAlpha")
        };
        for (i, shadow) in shadows.iter().enumerate() {
            let _ = write!(self.out, "<feGaussianBlur in=\"{alpha}\"");
            self.attribute("stdDeviation", shadow.sigma);
            let _ = write!(self.out, " result=\"b{i}\"/><feOffset in=\"b{i}\"");
            self.attribute("dx", shadow.dx);
            self.attribute("dy", shadow.dy);
            let _ = write!(self.out, " result=\"o{i}\"/><feFlood flood-color=\"{}\"", hex(shadow.color));
            self.attribute("flood-opacity", shadow.color.a);
            let operator = if shadow.inner { "out" } else { "in" };
            let _ = write!(self.out, "/><feComposite operator=\"{operator}\" in2=\"o{i}\" result=\"s{i}\"/>");
            if shadow.inner {
                let _ = write!(self.out, "<feComposite operator=\"in\" in=\"s{i}\" in2=\"{alpha}\" result=\"s{i}\"/>");
            }
        }
        self.out.push_str("<feMerge>");
        let marked = |inner: bool| {
            shadows.iter().enumerate().filter(move |(_, shadow)| shadow.inner == inner).map(|(i, _)| format!("s{i}"))
        };
        for input in marked(false).chain(std::iter::once(graphic.to_owned())).chain(marked(true)) {
            let _ = write!(self.out, "<feMergeNode in=\"{input}\"/>");
        }
        self.out.push_str("</feMerge></filter>");
        id
    }

    fn painted(
        &mut self,
        path: &BezPath,
        fill: Option<&Brush>,
        stroke: Option<&Line>,
        even_odd: bool,
        label: Option<&str>,
    ) {
        let fill = fill.map(|brush| self.paint(brush));
        let stroke = stroke.map(|line| (self.paint(&line.brush), line));
        self.out.push_str("<path d=\"");
        path_data(path, Affine::IDENTITY, &mut self.out);
        self.out.push('"');
        match fill {
            Some((paint, opacity)) => {
                let _ = write!(self.out, " fill=\"{paint}\"");
                if opacity < 1.0 {
                    self.attribute("fill-opacity", opacity);
                }
            }
            None => self.out.push_str(" fill=\"none\""),
        }
        if even_odd {
            self.out.push_str(" fill-rule=\"evenodd\"");
        }
        if let Some(((paint, opacity), line)) = stroke {
            let _ = write!(self.out, " stroke=\"{paint}\"");
            self.attribute("stroke-width", line.width);
            if opacity < 1.0 {
                self.attribute("stroke-opacity", opacity);
            }
            self.line_style(line);
        }
        match label {
            Some(label) => {
                let _ = write!(self.out, " role=\"img\" aria-label=\"{}\"", escape(label));
            }
            None => self.out.push_str(" aria-hidden=\"true\""),
        }
        self.out.push_str("/>");
    }

    fn line_style(&mut self, line: &Line) {
        match line.join {
            Join::Mitre => {}
            Join::Round => self.out.push_str(" stroke-linejoin=\"round\""),
            Join::Bevel => self.out.push_str(" stroke-linejoin=\"bevel\""),
        }
        match line.cap {
            Cap::Flat => {}
            Cap::Round => self.out.push_str(" stroke-linecap=\"round\""),
            Cap::Square => self.out.push_str(" stroke-linecap=\"square\""),
        }
        if !line.dash.is_empty() {
            self.out.push_str(" stroke-dasharray=\"");
            for (i, part) in line.dash.iter().enumerate() {
                if i > 0 {
                    self.out.push(' ');
                }
                number(*part, &mut self.out);
            }
            self.out.push('"');
        }
        if line.below {
            self.out.push_str(" paint-order=\"stroke\"");
        }
    }
}

fn hex(c: Rgba) -> String {
    format!("#{:02x}{:02x}{:02x}", c.r, c.g, c.b)
}

fn blend_name(blend: Blend) -> Option<&'static str> {
    Some(match blend {
        Blend::Normal => return None,
        Blend::Multiply => "multiply",
        Blend::Screen => "screen",
        Blend::Overlay => "overlay",
        Blend::Darken => "darken",
        Blend::Lighten => "lighten",
        Blend::ColorDodge => "color-dodge",
        Blend::ColorBurn => "color-burn",
        Blend::HardLight => "hard-light",
        Blend::SoftLight => "soft-light",
        Blend::Difference => "difference",
        Blend::Exclusion => "exclusion",
        Blend::Hue => "hue",
        Blend::Saturation => "saturation",
        Blend::Color => "color",
        Blend::Luminosity => "luminosity",
    })
}

impl Sink for Writer<'_> {
    type Error = Never;

    fn enter(&mut self, item: &SceneItem) {
        let _ = write!(self.out, "<g id=\"{}\">", item_element(&item.id));
        (self.prefix, self.ids) = (item.id.to_string(), 0);
        self.entered = Some(item.id.clone());
    }

    fn leave(&mut self, _: &SceneItem) {
        self.out.push_str("</g>");
        self.entered = None;
    }

    fn behind(&mut self, behind: &Behind, scene: &Scene, _: usize) -> Result<(), Never> {
        if let Some(item) = self.entered.take() {
            self.seen_behind(behind, &item, scene);
            self.entered = Some(item);
        }
        Ok(())
    }

    fn bunch(&mut self, scene: &Scene, bunch: &Bunch, group: &Group) -> Result<bool, Never> {
        (self.prefix, self.ids) = (bunch_element(&bunch.id), 0);
        let Some(picture) = self.bunch_picture(scene, bunch) else { return Ok(false) };
        let _ = write!(self.out, "<g id=\"{}\"", bunch_element(&bunch.id));
        self.mixing(group);
        let said = scene.items[bunch.first..bunch.end().min(scene.items.len())].iter().filter_map(|item| {
            if let Reading::Words { lines, .. } = &item.reading { Some(lines.join(" ")) } else { None }
        });
        let said: Vec<String> = said.collect();
        if !said.is_empty() {
            let _ = write!(self.out, " role=\"img\" aria-label=\"{}\"", escape(&said.join(" ")));
        }
        let _ = write!(self.out, ">{picture}</g>");
        Ok(true)
    }

    fn begin(&mut self, group: &Group) -> Result<(), Never> {
        // Clip and shadows are in the parent's coordinates and belong outside the transform.
        let clip = group.clip.as_ref().map(|clip| self.clip(clip, group.transform));
        let thrown = self.filter(group);
        let mask = match &group.mask {
            Some(mask) => Some(self.mask(group, mask)?),
            None => None,
        };
        // Treated and lit is what is left of it after clip and mask.
        if let Some(id) = &thrown {
            let _ = write!(self.out, "<g filter=\"url(#{id})\"");
            self.mixing(group);
            self.out.push('>');
        }
        if let Some(id) = clip {
            let _ = write!(self.out, "<g clip-path=\"url(#{id})\">");
        }
        if let Some(id) = mask {
            let _ = write!(self.out, "<g mask=\"url(#{id})\">");
        }
        self.out.push_str("<g");
        if group.transform != Affine::IDENTITY {
            self.matrix("transform", group.transform);
        }
        if thrown.is_none() {
            self.mixing(group);
        }
        self.out.push('>');
        let outer = self.scale.last().copied().unwrap_or(1.0);
        self.scale.push(outer * scale_of(group.transform));
        Ok(())
    }

    fn end(&mut self, group: &Group) -> Result<(), Never> {
        self.scale.pop();
        for _ in 0..1
            + usize::from(group.clip.is_some())
            + usize::from(group.mask.is_some())
            + usize::from(has_filter(group))
        {
            self.out.push_str("</g>");
        }
        Ok(())
    }

    fn path(&mut self, node: &PathNode) -> Result<(), Never> {
        self.painted(&node.path, node.fill.as_ref(), node.stroke.as_ref(), node.even_odd, None);
        Ok(())
    }

    fn glyphs(&mut self, node: &GlyphNode) -> Result<(), Never> {
        let path = glyph_path(node, self.outlines);
        self.painted(&path, node.fill.as_ref(), node.stroke.as_ref(), false, Some(&node.run.text));
        Ok(())
    }

    fn image(&mut self, node: &ImageNode) -> Result<(), Never> {
        let width = node.dest.width() * self.scale.last().copied().unwrap_or(1.0);
        let id = self.clip(&node.frame, Affine::IDENTITY);
        let _ = write!(self.out, "<g clip-path=\"url(#{id})\">");
        self.picture(node.dest, &node.source, width);
        self.out.push_str("</g>");
        Ok(())
    }
}

/// Whether [`Writer::filter`] writes one.
fn has_filter(group: &Group) -> bool {
    !group.shadows.is_empty() || group.filter.as_ref().is_some_and(|filter| filter.even_blur().is_some())
}

/// The elements that lie behind an item, back to front: bunches as a whole.
fn elements_behind(behind: &Behind, item: &ItemId, scene: &Scene) -> Vec<String> {
    let below = scene.items.iter().position(|other| other.id == *item).unwrap_or(scene.items.len());
    let (mut at, mut out) = (behind.first, Vec::new());
    while at < below {
        let bunch = scene.bunches.iter().find(|bunch| bunch.first == at && bunch.end() <= below);
        out.push(bunch.map_or_else(|| item_element(&scene.items[at].id), |bunch| bunch_element(&bunch.id)));
        at = bunch.map_or(at + 1, Bunch::end);
    }
    out
}

impl Writer<'_> {
    /// A mask over a group, in the coordinates of its parent.
    fn mask(&mut self, group: &Group, mask: &MaskNodes) -> Result<String, Never> {
        let id = self.id();
        let area = extent(&Node::Group(Group { mask: None, ..group.clone() }), Affine::IDENTITY)
            .unwrap_or_default()
            .inflate(1.0, 1.0);
        let kind = if mask.luminance { "luminance" } else { "alpha" };
        let _ = write!(self.out, "<mask id=\"{id}\" maskUnits=\"userSpaceOnUse\" style=\"mask-type:{kind}\"");
        self.rect(area);
        self.out.push('>');
        let inside = visit(&Node::Group(Group::placed(group.transform, mask.children.clone())), self);
        self.out.push_str("</mask>");
        inside.map(|()| id)
    }

    fn mixing(&mut self, group: &Group) {
        if group.opacity < 1.0 {
            self.attribute("opacity", group.opacity);
        }
        if let Some(mode) = blend_name(group.blend) {
            let _ = write!(self.out, " style=\"mix-blend-mode:{mode}\"");
        }
    }
}
