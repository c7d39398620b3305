//! Outlines in other libraries' terms, and the extent of nodes.

use kurbo::{Affine, BezPath, PathEl, Rect, Shape as _};
use vatman_scene::{Filter, GlyphNode, Line, Node, Shadow};
use vatman_type::GlyphOutlines;

/// The outlines of a run of glyphs as one path.
pub(crate) fn glyph_path(node: &GlyphNode, outlines: &dyn GlyphOutlines) -> BezPath {
    let mut path = BezPath::new();
    for glyph in &node.run.glyphs {
        let place = glyph.transform(node.run.size);
        path.extend(outlines.glyph(node.run.face, glyph.id).iter().map(|element| place * element));
    }
    path
}

/// A path for the rasteriser; nothing where it has no extent.
pub(crate) fn raster_path(path: &BezPath, transform: Affine) -> Option<tiny_skia::Path> {
    let mut out = tiny_skia::PathBuilder::new();
    for element in path.iter().map(|element| transform * element) {
        match element {
            PathEl::MoveTo(p) => out.move_to(p.x as f32, p.y as f32),
            PathEl::LineTo(p) => out.line_to(p.x as f32, p.y as f32),
            PathEl::QuadTo(a, p) => out.quad_to(a.x as f32, a.y as f32, p.x as f32, p.y as f32),
            PathEl::CurveTo(a, b, p) => {
                out.cubic_to(a.x as f32, a.y as f32, b.x as f32, b.y as f32, p.x as f32, p.y as f32)
            }
            PathEl::ClosePath => out.close(),
        }
    }
    out.finish()
}

/// A path for PDF; nothing where it has no extent.
pub(crate) fn pdf_path(path: &BezPath) -> Option<krilla::geom::Path> {
    let mut out = krilla::geom::PathBuilder::new();
    for element in path {
        match element {
            PathEl::MoveTo(p) => out.move_to(p.x as f32, p.y as f32),
            PathEl::LineTo(p) => out.line_to(p.x as f32, p.y as f32),
            PathEl::QuadTo(a, p) => out.quad_to(a.x as f32, a.y as f32, p.x as f32, p.y as f32),
            PathEl::CurveTo(a, b, p) => {
                out.cubic_to(a.x as f32, a.y as f32, b.x as f32, b.y as f32, p.x as f32, p.y as f32)
            }
            PathEl::ClosePath => out.close(),
        }
    }
    out.finish()
}

/// The factor by which a transform scales lengths, on the mean of both directions.
pub(crate) fn scale_of(transform: Affine) -> f64 {
    transform.determinant().abs().sqrt()
}

/// A box around everything a node can paint, in the coordinates `transform` leads to.
pub(crate) fn extent(node: &Node, transform: Affine) -> Option<Rect> {
    let reach = |line: &Option<Line>| line.as_ref().map_or(0.0, Line::reach);
    match node {
        Node::Group(group) => {
            let inner = transform * group.transform;
            let all = group.children.iter().filter_map(|child| extent(child, inner)).reduce(|a, b| a.union(b))?;
            let seen =
                group.clip.as_ref().map_or(all, |clip| all.intersect(inner.transform_rect_bbox(clip.control_box())));
            let spread = group.filter.as_ref().map_or(0.0, Filter::spread);
            let thrown = (group.shadows.iter().map(Shadow::reach).fold(0.0, f64::max) + spread) * scale_of(transform);
            Some(seen.inflate(thrown, thrown))
        }
        Node::Path(path) => Some(
            transform.transform_rect_bbox(path.path.control_box().inflate(reach(&path.stroke), reach(&path.stroke))),
        ),
        Node::Glyphs(glyphs) => {
            let first = glyphs.run.glyphs.first()?;
            let start = Rect::new(first.x, first.y, first.x, first.y);
            let origins = glyphs
                .run
                .glyphs
                .iter()
                .fold(start, |all, g| all.union(Rect::new(g.x, g.y, g.x + g.advance.max(0.0), g.y)));
            // No letter of a text face reaches two sizes from its origin line.
            let margin = glyphs.run.size * 2.0 + reach(&glyphs.stroke);
            Some(transform.transform_rect_bbox(origins.inflate(margin, margin)))
        }
        Node::Image(image) => Some(transform.transform_rect_bbox(image.dest.intersect(image.frame.control_box()))),
    }
}

/// The box around what a node paints, letters by their very outlines, shadows left out; nothing where it paints nothing.
#[must_use]
pub fn painted_box(node: &Node, outlines: &dyn GlyphOutlines) -> Option<Rect> {
    painted(node, Affine::IDENTITY, outlines)
}

fn painted(node: &Node, transform: Affine, outlines: &dyn GlyphOutlines) -> Option<Rect> {
    match node {
        Node::Group(group) => {
            let inner = transform * group.transform;
            let all =
                group.children.iter().filter_map(|child| painted(child, inner, outlines)).reduce(|a, b| a.union(b))?;
            Some(group.clip.as_ref().map_or(all, |clip| all.intersect((inner * clip.clone()).bounding_box())))
        }
        Node::Glyphs(glyphs) => {
            let path = transform * glyph_path(glyphs, outlines);
            (!path.elements().is_empty()).then(|| path.bounding_box())
        }
        Node::Path(path) if path.fill.is_none() && path.stroke.is_none() => None,
        Node::Path(_) | Node::Image(_) => extent(node, transform),
    }
}

/// The area of all letters a node paints, by their very outlines.
#[must_use]
pub fn ink_area(node: &Node, outlines: &dyn GlyphOutlines) -> f64 {
    inked(node, Affine::IDENTITY, outlines)
}

fn inked(node: &Node, transform: Affine, outlines: &dyn GlyphOutlines) -> f64 {
    match node {
        Node::Group(group) => {
            group.children.iter().map(|child| inked(child, transform * group.transform, outlines)).sum()
        }
        Node::Glyphs(glyphs) => {
            let each = glyphs.run.glyphs.iter().map(|glyph| {
                let own: BezPath = outlines.glyph(glyphs.run.face, glyph.id).iter().collect();
                own.area().abs()
            });
            each.sum::<f64>() * glyphs.run.size.powi(2) * transform.determinant().abs()
        }
        Node::Path(_) | Node::Image(_) => 0.0,
    }
}

/// SVG path data with coordinates to a thousandth.
#[must_use]
pub fn svg_path_data(path: &BezPath) -> String {
    let mut out = String::new();
    path_data(path, Affine::IDENTITY, &mut out);
    out
}

/// SVG path data with coordinates to a thousandth of a CSS pixel.
pub(crate) fn path_data(path: &BezPath, transform: Affine, out: &mut String) {
    for element in path.iter().map(|element| transform * element) {
        let (letter, points): (char, &[kurbo::Point]) = match &element {
            PathEl::MoveTo(p) => ('M', &[*p]),
            PathEl::LineTo(p) => ('L', &[*p]),
            PathEl::QuadTo(a, p) => ('Q', &[*a, *p]),
            PathEl::CurveTo(a, b, p) => ('C', &[*a, *b, *p]),
            PathEl::ClosePath => ('Z', &[]),
        };
        out.push(letter);
        for (i, point) in points.iter().enumerate() {
            if i > 0 {
                out.push(' ');
            }
            number(point.x, out);
            out.push(' ');
            number(point.y, out);
        }
    }
}

/// A number to three decimals, without trailing zeros; the same on every machine.
pub(crate) fn number(value: f64, out: &mut String) {
    let thousandths = (value * 1_000.0).round() as i64;
    if thousandths < 0 {
        out.push('-');
    }
    let size = thousandths.unsigned_abs();
    let (whole, part) = (size / 1_000, size % 1_000);
    out.push_str(&whole.to_string());
    if part > 0 {
        out.push('.');
        out.push_str(format!("{part:03}").trim_end_matches('0'));
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_are_short_and_exact_to_three_decimals() {
        for (value, written) in
            [(0.0, "0"), (-0.0004, "0"), (1.5, "1.5"), (-12.3456, "-12.346"), (100.0, "100"), (0.05, "0.05")]
        {
            let mut out = String::new();
            number(value, &mut out);
            assert_eq!(out, written);
        }
    }
}
