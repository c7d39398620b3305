//! Scene to SVG: for the stage, item by item, and as a file that stands alone.

use std::cell::RefCell;
use std::collections::HashMap;
use std::fmt::Write as _;
use std::sync::Arc;

use kurbo::{Affine, BezPath};
use vatman_document::{Blend, Cap, Join, PictureSource, Spread};
use vatman_photo::{Straight, encode_png};
use vatman_scene::{
    Brush, Frost, GlyphNode, GradientStop, Group, ImageNode, Line, MaskNodes, Node, PathNode, Rgba, Scene, SceneItem,
    Shadow, Tile,
};
use vatman_type::GlyphOutlines;

use crate::paths::{extent, glyph_path, number, path_data, scale_of};
use crate::walk::{Sink, visit};
use base64::Engine as _;
use base64::engine::general_purpose::STANDARD as BASE64;

/// Identity of the element that holds the ground, here and on the stage.
pub const GROUND_ID: &str = "sheet-ground";

/// How an SVG refers to pictures.
pub trait PictureLinks {
    /// A link to a picture, at least `width` pixels wide where it has them.
    fn link(&self, source: &PictureSource, width: f64) -> String;
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
pub fn item_element(id: &vatman_document::ItemId) -> String {
    format!("item-{id}")
}

/// One item of a scene as a fragment that holds all it refers to but the items behind it; identities begin with its own.
#[must_use]
pub fn item_fragment(
    scene: &Scene,
    item: &SceneItem,
    outlines: &dyn GlyphOutlines,
    links: &dyn PictureLinks,
) -> String {
    let prefix = item.id.to_string();
    Writer::new(&prefix, outlines, links).item(scene, item)
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
    for item in &scene.items {
        let _ = write!(out, "<g id=\"{}\">", item_element(&item.id));
        let prefix = item.id.to_string();
        out.push_str(&Writer { embedded, ..Writer::new(&prefix, outlines, links) }.item(scene, item));
        out.push_str("</g>");
    }
    out.push_str("</svg>\n");
    out
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
    prefix: &'a str,
    outlines: &'a dyn GlyphOutlines,
    links: &'a dyn PictureLinks,
    /// Size of one unit on the sheet, for choosing pictures.
    scale: Vec<f64>,
    /// The pictures that are in the file already, where it is one of its own.
    embedded: Option<&'a RefCell<HashMap<Arc<PictureSource>, usize>>>,
}

/// The box in which an embedded picture is kept, in units.
const EMBEDDED: f64 = 1_000.0;

enum Never {}

impl<'a> Writer<'a> {
    fn new(prefix: &'a str, outlines: &'a dyn GlyphOutlines, links: &'a dyn PictureLinks) -> Self {
        Self { out: String::new(), ids: 0, prefix, outlines, links, scale: vec![1.0], embedded: None }
    }

    fn item(mut self, scene: &Scene, item: &SceneItem) -> String {
        if let Some(frost) = &item.frost {
            self.frosted(frost, scene);
        }
        self.finish(&item.node)
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

    fn finish(mut self, node: &Node) -> String {
        match visit(node, &mut self) {
            Ok(()) => self.out,
            Err(never) => match never {},
        }
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

    /// What lies behind, again, blurred and clipped: it follows when anything behind it changes.
    fn frosted(&mut self, frost: &Frost, scene: &Scene) {
        let outline = self.clip(&frost.outline, Affine::IDENTITY);
        let sheet = kurbo::Shape::to_path(&scene.size.to_rect().inflate(scene.bleed, scene.bleed), 0.01);
        let sheet = self.clip(&sheet, Affine::IDENTITY);
        let filter = self.id();
        let reach = frost.sigma * 3.0;
        let _ = write!(
            self.out,
            "<filter id=\"{filter}\" filterUnits=\"userSpaceOnUse\" color-interpolation-filters=\"sRGB\""
        );
        self.rect(kurbo::Shape::bounding_box(&frost.outline).inflate(reach, reach));
        self.out.push_str("><feGaussianBlur");
        self.attribute("stdDeviation", frost.sigma);
        self.out.push_str("/></filter>");
        let _ = write!(self.out, "<g clip-path=\"url(#{outline})\" aria-hidden=\"true\"");
        if frost.opacity < 1.0 {
            self.attribute("opacity", frost.opacity);
        }
        let _ = write!(self.out, "><g filter=\"url(#{filter})\"><g clip-path=\"url(#{sheet})\">");
        for id in std::iter::once(GROUND_ID.to_owned()).chain(frost.behind.iter().map(item_element)) {
            let _ = write!(self.out, "<use href=\"#{id}\" xlink:href=\"#{id}\"/>");
        }
        self.out.push_str("</g></g></g>");
    }

    /// A filter that throws shadows; written as blur, offset, flood and merge, which every reader draws alike.
    fn shadows(&mut self, shadows: &[Shadow], area: kurbo::Rect) -> String {
        let id = self.id();
        let _ =
            write!(self.out, "<filter id=\"{id}\" filterUnits=\"userSpaceOnUse\" color-interpolation-filters=\"sRGB\"");
        self.rect(area);
        self.out.push('>');
        for (i, shadow) in shadows.iter().enumerate() {
            self.out.push_str("<feGaussianBlur in=\"SourceAlpha\"");
            self.attribute("stdDeviation", shadow.sigma);
            let _ = write!(self.out, " result=\"b{i}\"/><feOffset in=\"b{i}\"");
            self.attribute("dx", shadow.dx);
            self.attribute("dy", shadow.dy);
            let _ = write!(self.out, " result=\"o{i}\"/><feFlood flood-color=\"{}\"", hex(shadow.color));
            self.attribute("flood-opacity", shadow.color.a);
            let operator = if shadow.inner { "out" } else { "in" };
            let _ = write!(self.out, "/><feComposite operator=\"{operator}\" in2=\"o{i}\" result=\"s{i}\"/>");
            if shadow.inner {
                let _ =
                    write!(self.out, "<feComposite operator=\"in\" in=\"s{i}\" in2=\"SourceAlpha\" result=\"s{i}\"/>");
            }
        }
        self.out.push_str("<feMerge>");
        let marked = |inner: bool| {
            shadows.iter().enumerate().filter(move |(_, shadow)| shadow.inner == inner).map(|(i, _)| format!("s{i}"))
        };
        for input in marked(false).chain(std::iter::once("SourceGraphic".to_owned())).chain(marked(true)) {
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

/// A gradient turning about the middle of a box of an aspect, from `start` (radians clockwise from the top).
fn conic_pixels(start: f64, stops: &[GradientStop], aspect: f64) -> Straight {
    const LONG: f64 = 640.0;
    let (w, h) = if aspect >= 1.0 { (LONG, LONG / aspect) } else { (LONG * aspect, LONG) };
    let (w, h) = (w.round().max(1.0) as u32, h.round().max(1.0) as u32);
    let mut data = Vec::with_capacity(w as usize * h as usize * 4);
    for y in 0..h {
        for x in 0..w {
            // The box may be narrow, so the direction is taken in its own units.
            let across = (f64::from(x) + 0.5) / f64::from(w) - 0.5;
            let down = (f64::from(y) + 0.5) / f64::from(h) - 0.5;
            let turn = (across * aspect).atan2(-down) - start;
            let color = along(stops, turn.rem_euclid(std::f64::consts::TAU) / std::f64::consts::TAU);
            data.extend(color.map(|value| (value + 0.5) as u8));
        }
    }
    match Straight::new(w, h, data) {
        Some(pixels) => pixels,
        None => unreachable!("four bytes a pixel were written"),
    }
}

/// The colour at a place along stops: red, green, blue and alpha, 0 to 255, mixed premultiplied as all our gradients are.
fn along(stops: &[GradientStop], at: f64) -> [f64; 4] {
    let parts = |c: Rgba| [f64::from(c.r), f64::from(c.g), f64::from(c.b), c.a * 255.0];
    let next = stops.iter().position(|stop| stop.at > at);
    match next {
        Some(0) => parts(stops[0].color),
        None => stops.last().map_or([0.0; 4], |stop| parts(stop.color)),
        Some(i) => {
            let (a, b) = (&stops[i - 1], &stops[i]);
            let share = (at - a.at) / (b.at - a.at);
            let (from, to) = (parts(a.color), parts(b.color));
            std::array::from_fn(|c| from[c] + (to[c] - from[c]) * share)
        }
    }
}

impl Sink for Writer<'_> {
    type Error = Never;

    fn frost(&mut self, frost: &Frost, scene: &Scene, _: usize) -> Result<(), Never> {
        self.frosted(frost, scene);
        Ok(())
    }

    fn begin(&mut self, group: &Group) -> Result<(), Never> {
        // Clip and shadows are in the parent's coordinates and belong outside the transform.
        let clip = group.clip.as_ref().map(|clip| self.clip(clip, group.transform));
        let thrown = (!group.shadows.is_empty()).then(|| {
            let area = extent(&Node::Group(group.clone()), Affine::IDENTITY).unwrap_or_default().inflate(2.0, 2.0);
            self.shadows(&group.shadows, area)
        });
        let mask = match &group.mask {
            Some(mask) => Some(self.mask(group, mask)?),
            None => None,
        };
        if let Some(id) = clip {
            let _ = write!(self.out, "<g clip-path=\"url(#{id})\">");
        }
        if let Some(id) = mask {
            let _ = write!(self.out, "<g mask=\"url(#{id})\">");
        }
        if let Some(id) = &thrown {
            let _ = write!(self.out, "<g filter=\"url(#{id})\"");
            self.mixing(group);
            self.out.push('>');
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
            + usize::from(!group.shadows.is_empty())
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
