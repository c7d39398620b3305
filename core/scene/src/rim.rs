//! Rims: what is seen of an item, grown on all sides, like the edge of a sticker.

use std::sync::Arc;

use kurbo::{Affine, BezPath, Shape as _, StrokeOpts};
use vatman_document::{Effect, common, grown, united};
use vatman_type::GlyphOutlines;

use crate::compose::Contours;
use crate::node::{Brush, Line, Node, PathNode, Rgba};
use crate::paint::Resolve;

/// The rims of an item, the widest first, and the one along which it is to be cut, if any.
pub(crate) struct Rims {
    pub nodes: Vec<Node>,
    pub cut: Option<BezPath>,
}

/// The rims `effects` give to what `children` draw.
pub(crate) fn rims(
    effects: &[Effect],
    children: &[Node],
    resolve: Resolve<'_>,
    (contours, letters): (Contours<'_>, &dyn GlyphOutlines),
) -> Rims {
    let wanted = effects.iter().filter_map(|effect| match effect {
        Effect::Rim { width, tint, opacity, cut } => {
            Some((resolve.px(*width), Rgba::new(resolve.job.color(tint), opacity.get()), *cut))
        }
        _ => None,
    });
    let mut wanted: Vec<(f64, Rgba, bool)> = wanted.filter(|(width, ..)| *width > 0.0).collect();
    if wanted.is_empty() {
        return Rims { nodes: Vec::new(), cut: None };
    }
    wanted.sort_by(|a, b| b.0.total_cmp(&a.0));
    let mut seen = Vec::new();
    let silhouette = Silhouette { contours, letters };
    children.iter().for_each(|child| silhouette.gather(child, Affine::IDENTITY, &mut seen));
    let whole = united(seen.into_iter());
    let mut out = Rims { nodes: Vec::new(), cut: None };
    for (width, color, cut) in wanted {
        let path = grown(&whole, width);
        if cut {
            out.cut.get_or_insert_with(|| path.clone());
        }
        out.nodes.push(Node::Path(PathNode::new(path, Some(Brush::Flat(color)), None)));
    }
    out
}

/// Gathers the outlines of what is seen.
struct Silhouette<'a> {
    contours: Contours<'a>,
    letters: &'a dyn GlyphOutlines,
}

impl Silhouette<'_> {
    fn gather(&self, node: &Node, by: Affine, out: &mut Vec<BezPath>) {
        match node {
            Node::Group(group) => {
                let by = by * group.transform;
                let mut inside = Vec::new();
                group.children.iter().for_each(|child| self.gather(child, by, &mut inside));
                match &group.clip {
                    Some(clip) => out.push(common(&united(inside.into_iter()), &(by * clip.clone()))),
                    None => out.append(&mut inside),
                }
            }
            Node::Path(path) => {
                if path.fill.is_some() {
                    out.push(by * path.path.clone());
                }
                out.extend(path.stroke.as_ref().map(|line| by * stroked(&path.path, line)));
            }
            Node::Glyphs(glyphs) => {
                let mut path = BezPath::new();
                for glyph in &glyphs.run.glyphs {
                    let place = glyph.transform(glyphs.run.size);
                    path.extend(self.letters.glyph(glyphs.run.face, glyph.id).iter().map(|element| place * element));
                }
                out.extend(glyphs.stroke.as_ref().map(|line| by * stroked(&path, line)));
                out.push(by * path);
            }
            Node::Image(image) => {
                let unit = Affine::translate(image.dest.origin().to_vec2())
                    * Affine::scale_non_uniform(image.dest.width(), image.dest.height());
                let seen = match (self.contours)(&image.source) {
                    Some(contour) => common(&(unit * contour.as_ref().clone()), &image.frame),
                    None => common(&image.frame, &image.dest.to_path(0.01)),
                };
                out.push(by * seen);
            }
        }
    }
}

/// What a line covers.
fn stroked(path: &BezPath, line: &Line) -> BezPath {
    kurbo::stroke(path.iter(), &kurbo::Stroke::new(line.width), &StrokeOpts::default(), 0.05)
}

/// What is seen of pictures that are shown whole.
#[must_use]
pub fn whole_pictures(_: &Arc<vatman_document::PictureSource>) -> Option<Arc<BezPath>> {
    None
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::node::{Group, ImageNode};
    use kurbo::Rect;
    use vatman_document::{AssetId, Color, Job, JobId, PictureSource};
    use vatman_type::FaceId;
    use vatman_units::{Length, Ratio};

    struct NoLetters;
    impl GlyphOutlines for NoLetters {
        fn glyph(&self, _: FaceId, _: u32) -> Arc<BezPath> {
            Arc::default()
        }
    }

    fn rim(width: f64, cut: bool) -> Effect {
        Effect::Rim { width: Length::css_px(width), tint: Color::WHITE.into(), opacity: Ratio::ONE, cut }
    }

    #[test]
    fn a_rim_goes_around_what_is_seen_through_its_frame() {
        let job = Job::new(JobId::new("j").unwrap(), "Job");
        let resolve = Resolve { job: &job, picture_size: &|_| None, scale: 1.0 };
        let image = ImageNode {
            source: Arc::new(PictureSource::plain(AssetId::new("a").unwrap())),
            pixels: (10, 10),
            dest: Rect::new(0.0, 0.0, 200.0, 100.0),
            frame: Rect::new(0.0, 0.0, 100.0, 100.0).to_path(0.01),
        };
        let moved = Node::Group(Group::placed(Affine::translate((50.0, 0.0)), vec![Node::Image(image)]));
        // Its right half is seen, of which the frame shows the left.
        let right_half = |_: &Arc<PictureSource>| Some(Arc::new(Rect::new(0.25, 0.0, 1.0, 1.0).to_path(0.01)));
        let made = rims(&[rim(3.0, false), rim(9.0, true)], &[moved], resolve, (&right_half, &NoLetters));
        let boxes: Vec<Rect> = made
            .nodes
            .iter()
            .map(|node| if let Node::Path(path) = node { path.path.bounding_box() } else { panic!("no path") })
            .collect();
        let about = |rect: Rect, wanted: Rect| {
            [rect.x0 - wanted.x0, rect.y0 - wanted.y0, rect.x1 - wanted.x1, rect.y1 - wanted.y1]
                .iter()
                .all(|off| off.abs() < 0.05)
        };
        let seen = Rect::new(100.0, 0.0, 150.0, 100.0);
        assert!(about(boxes[0], seen.inflate(9.0, 9.0)) && about(boxes[1], seen.inflate(3.0, 3.0)), "{boxes:?}");
        assert!(about(made.cut.unwrap().bounding_box(), seen.inflate(9.0, 9.0)));
        assert!(rims(&[rim(0.0, true)], &[], resolve, (&right_half, &NoLetters)).cut.is_none());
    }
}
