//! Scene to SVG: for the stage, item by item, and as a file that stands alone.

use std::fmt::Write as _;

use kurbo::{Affine, BezPath};
use vatman_document::{AssetId, Blend};
use vatman_scene::{Brush, GlyphNode, GradientStop, Group, ImageNode, Line, Node, PathNode, Scene};
use vatman_type::GlyphOutlines;

use crate::paths::{glyph_path, number, path_data};
use crate::walk::{Sink, visit};

/// How an SVG refers to pictures.
pub trait PictureLinks {
    /// A link to a picture, at least `width` pixels wide where it has them.
    fn link(&self, id: &AssetId, width: f64) -> String;
}

/// How an SVG file is written.
#[derive(Debug, Clone, Copy, Default)]
pub struct SvgOptions {
    /// Whether the bleed is part of the file. Default: no.
    pub bleed: bool,
    /// Whether the ground is left out. Default: no.
    pub clear: bool,
}

/// One item as a fragment: a `<g>` that holds all it refers to, with identities beginning with `prefix`.
#[must_use]
pub fn item_fragment(node: &Node, prefix: &str, outlines: &dyn GlyphOutlines, links: &dyn PictureLinks) -> String {
    let mut writer = Writer { out: String::new(), ids: 0, prefix, outlines, links, scale: vec![1.0] };
    match visit(node, &mut writer) {
        Ok(()) => writer.out,
        Err(never) => match never {},
    }
}

/// A whole side as an SVG file of its physical size.
#[must_use]
pub fn write_svg(scene: &Scene, title: &str, options: SvgOptions, outlines: &dyn GlyphOutlines, links: &dyn PictureLinks) -> String {
    let bleed = if options.bleed { scene.bleed } else { 0.0 };
    let page = scene.size.to_rect().inflate(bleed, bleed);
    let mut out = String::from("<svg xmlns=\"http://www.w3.org/2000/svg\" xmlns:xlink=\"http://www.w3.org/1999/xlink\" width=\"");
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
    let _ = write!(out, "\"><title>{}</title>", escape(title));
    if let (Some(brush), false) = (&scene.ground, options.clear) {
        let ground = PathNode { path: kurbo::Shape::to_path(&page, 0.01), fill: Some(brush.clone()), stroke: None };
        out.push_str(&item_fragment(&Node::Path(ground), "ground", outlines, links));
    }
    for (i, item) in scene.items.iter().enumerate() {
        out.push_str(&item_fragment(&item.node, &format!("i{i}"), outlines, links));
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
}

enum Never {}

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

    /// Writes the definition a brush needs and returns the paint that refers to it, with its opacity.
    fn paint(&mut self, brush: &Brush) -> (String, f64) {
        let stops = match brush {
            Brush::Flat(c) => return (format!("#{:02x}{:02x}{:02x}", c.r, c.g, c.b), c.a),
            Brush::Linear { stops, .. } | Brush::Radial { stops, .. } => stops,
        };
        let id = self.id();
        let element = match brush {
            Brush::Radial { centre, radius, .. } => {
                let _ = write!(self.out, "<radialGradient id=\"{id}\" gradientUnits=\"userSpaceOnUse\"");
                self.attribute("cx", centre.x);
                self.attribute("cy", centre.y);
                self.attribute("r", *radius);
                "radialGradient"
            }
            Brush::Linear { from, to, .. } => {
                let _ = write!(self.out, "<linearGradient id=\"{id}\" gradientUnits=\"userSpaceOnUse\"");
                self.attribute("x1", from.x);
                self.attribute("y1", from.y);
                self.attribute("x2", to.x);
                self.attribute("y2", to.y);
                "linearGradient"
            }
            Brush::Flat(_) => unreachable!("returned above"),
        };
        self.out.push('>');
        for GradientStop { at, color } in stops {
            self.out.push_str("<stop");
            self.attribute("offset", *at);
            let _ = write!(self.out, " stop-color=\"#{:02x}{:02x}{:02x}\"", color.r, color.g, color.b);
            if color.a < 1.0 {
                self.attribute("stop-opacity", color.a);
            }
            self.out.push_str("/>");
        }
        let _ = write!(self.out, "</{element}>");
        (format!("url(#{id})"), 1.0)
    }

    fn painted(&mut self, path: &BezPath, fill: Option<&Brush>, stroke: Option<&Line>, stroke_first: bool, label: Option<&str>) {
        let fill = fill.map(|brush| self.paint(brush));
        let stroke = stroke.map(|line| (self.paint(&line.brush), line.width));
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
        if let Some(((paint, opacity), width)) = stroke {
            let _ = write!(self.out, " stroke=\"{paint}\"");
            self.attribute("stroke-width", width);
            if opacity < 1.0 {
                self.attribute("stroke-opacity", opacity);
            }
            if stroke_first {
                self.out.push_str(" paint-order=\"stroke\" stroke-linejoin=\"round\"");
            }
        }
        match label {
            Some(label) => {
                let _ = write!(self.out, " role=\"img\" aria-label=\"{}\"", escape(label));
            }
            None => self.out.push_str(" aria-hidden=\"true\""),
        }
        self.out.push_str("/>");
    }
}

impl Sink for Writer<'_> {
    type Error = Never;

    fn begin(&mut self, group: &Group) -> Result<(), Never> {
        let clip = group.clip.as_ref().map(|clip| {
            let id = self.id();
            let _ = write!(self.out, "<clipPath id=\"{id}\"><path d=\"");
            path_data(clip, group.transform, &mut self.out);
            self.out.push_str("\"/></clipPath>");
            id
        });
        // The clip is written in the parent's coordinates and belongs outside the transform.
        if let Some(id) = clip {
            let _ = write!(self.out, "<g clip-path=\"url(#{id})\">");
        }
        self.out.push_str("<g");
        if group.transform != Affine::IDENTITY {
            self.out.push_str(" transform=\"matrix(");
            for (i, value) in group.transform.as_coeffs().into_iter().enumerate() {
                if i > 0 {
                    self.out.push(' ');
                }
                // Six decimals: a turn must stay a turn across a large sheet.
                let _ = write!(self.out, "{}", format!("{value:.6}").trim_end_matches('0').trim_end_matches('.'));
            }
            self.out.push_str(")\"");
        }
        if group.opacity < 1.0 {
            self.attribute("opacity", group.opacity);
        }
        let mode = match group.blend {
            Blend::Normal => "",
            Blend::Multiply => "multiply",
            Blend::Screen => "screen",
            Blend::Overlay => "overlay",
        };
        if !mode.is_empty() {
            let _ = write!(self.out, " style=\"mix-blend-mode:{mode}\"");
        }
        self.out.push('>');
        let outer = self.scale.last().copied().unwrap_or(1.0);
        self.scale.push(outer * group.transform.determinant().abs().sqrt());
        Ok(())
    }

    fn end(&mut self, group: &Group) -> Result<(), Never> {
        self.scale.pop();
        self.out.push_str(if group.clip.is_some() { "</g></g>" } else { "</g>" });
        Ok(())
    }

    fn path(&mut self, node: &PathNode) -> Result<(), Never> {
        self.painted(&node.path, node.fill.as_ref(), node.stroke.as_ref(), false, None);
        Ok(())
    }

    fn glyphs(&mut self, node: &GlyphNode) -> Result<(), Never> {
        let path = glyph_path(node, self.outlines);
        self.painted(&path, node.fill.as_ref(), node.stroke.as_ref(), true, Some(&node.run.text));
        Ok(())
    }

    fn image(&mut self, node: &ImageNode) -> Result<(), Never> {
        let width = node.dest.width() * self.scale.last().copied().unwrap_or(1.0);
        let id = self.id();
        let _ = write!(self.out, "<clipPath id=\"{id}\"><path d=\"");
        path_data(&node.frame, Affine::IDENTITY, &mut self.out);
        let _ = write!(self.out, "\"/></clipPath><g clip-path=\"url(#{id})\">");
        let link = escape(&self.links.link(&node.asset, width));
        self.out.push_str("<image preserveAspectRatio=\"none\"");
        self.attribute("x", node.dest.x0);
        self.attribute("y", node.dest.y0);
        self.attribute("width", node.dest.width());
        self.attribute("height", node.dest.height());
        // Both names: readers of SVG 1.1 know only the second.
        let _ = write!(self.out, " href=\"{link}\"");
        if link.starts_with("data:") {
            self.out.push_str(" xlink:href=\"");
            self.out.push_str(&link);
            self.out.push('"');
        }
        self.out.push_str("/></g>");
        Ok(())
    }
}
