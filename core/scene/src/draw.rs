//! Drawings as nodes.

use std::sync::Arc;

use kurbo::{Affine, BezPath, Point, Rect, Shape as _, Size};
use vatman_document::{Drawing, DrawnGroup, DrawnMask, DrawnPaint, DrawnPart, DrawnShadow, DrawnStroke, PictureSource};
use vatman_units::Ratio;

use crate::filter::Filter;
use crate::node::{Brush, Group, ImageNode, Line, MaskNodes, Node, PathNode, Rgba, Shadow};
use crate::paint::Resolve;

/// A drawing stretched to a box at the origin.
pub(crate) fn drawn(drawing: &Drawing, size: Size, resolve: Resolve<'_>) -> Node {
    let stretch = Affine::scale_non_uniform(
        size.width / f64::from(drawing.width.max(1)),
        size.height / f64::from(drawing.height.max(1)),
    );
    // Lengths inside are units of the drawing, whatever the scale of the item.
    let resolve = Resolve { scale: 1.0, ..resolve };
    Node::Group(Group::placed(stretch, parts(&drawing.parts, resolve)))
}

fn parts(list: &[DrawnPart], resolve: Resolve<'_>) -> Vec<Node> {
    list.iter().map(|part| one(part, resolve)).collect()
}

fn outline(data: &str) -> BezPath {
    BezPath::from_svg(data).unwrap_or_default()
}

fn one(part: &DrawnPart, resolve: Resolve<'_>) -> Node {
    match part {
        DrawnPart::Path { data, even_odd, fill, stroke } => {
            let path = outline(data);
            let field = path.bounding_box();
            let fill = fill.as_ref().and_then(|paint| brush(paint, field, resolve));
            let stroke = stroke.as_ref().and_then(|stroke| line(stroke, field, resolve));
            Node::Path(PathNode { even_odd: *even_odd, ..PathNode::new(path, fill, stroke) })
        }
        DrawnPart::Picture { picture, at } => {
            let [x, y, w, h] = at.map(Ratio::get);
            let dest = Rect::new(x, y, x + w, y + h);
            match (resolve.picture_size)(picture) {
                Some(pixels) => Node::Image(ImageNode {
                    source: Arc::new(PictureSource::plain(picture.clone())),
                    pixels,
                    dest,
                    frame: dest.to_path(0.01),
                }),
                // A picture that is gone leaves its place empty, and is a finding.
                None => Node::Group(Group::placed(Affine::IDENTITY, Vec::new())),
            }
        }
        DrawnPart::Group(DrawnGroup { opacity, blend, clip, mask, shadows, blur, parts: list }) => {
            let mask = mask.as_ref().map(|DrawnMask { luminance, parts: list }| {
                Box::new(MaskNodes { luminance: *luminance, children: parts(list, resolve) })
            });
            Node::Group(Group {
                opacity: opacity.get(),
                blend: *blend,
                clip: clip.as_deref().map(outline),
                mask,
                shadows: shadows.iter().map(|shadow| thrown(shadow, resolve)).collect(),
                filter: (blur.get() > 0.0).then(|| Filter::blurring(blur.get())),
                ..Group::placed(Affine::IDENTITY, parts(list, resolve))
            })
        }
    }
}

fn thrown(shadow: &DrawnShadow, resolve: Resolve<'_>) -> Shadow {
    let color = Rgba::new(resolve.job.color(&shadow.tint), shadow.opacity.get());
    Shadow { inner: false, dx: shadow.dx.get(), dy: shadow.dy.get(), sigma: shadow.sigma.get(), color }
}

fn brush(paint: &DrawnPaint, field: Rect, resolve: Resolve<'_>) -> Option<Brush> {
    let point = |at: &[Ratio; 2]| Point::new(at[0].get(), at[1].get());
    match paint {
        DrawnPaint::Fitted { paint } => resolve.brush(paint, field),
        DrawnPaint::Linear { from, to, stops, spread } => {
            Some(Brush::Linear { from: point(from), to: point(to), stops: resolve.gradient(stops), spread: *spread })
        }
        DrawnPaint::Radial { centre, radius, matrix, stops, spread } => Some(Brush::Radial {
            centre: point(centre),
            radius: radius.get(),
            matrix: Affine::new(matrix.map(Ratio::get)),
            stops: resolve.gradient(stops),
            spread: *spread,
        }),
    }
}

fn line(stroke: &DrawnStroke, field: Rect, resolve: Resolve<'_>) -> Option<Line> {
    let brush = brush(&stroke.paint, field, resolve)?;
    let width = stroke.width.get();
    (width > 0.0).then(|| Line {
        brush,
        width,
        join: stroke.join,
        cap: stroke.cap,
        dash: stroke.dash.iter().map(|part| part.get()).collect(),
        below: false,
    })
}
