//! What a thing does to the ground it stands on: the shadow it casts, the one right under it, and its image in the ground.

use kurbo::{Affine, Point, Rect, Shape as _, Size};
use vatman_document::{Effect, Spread};

use crate::filter::Filter;
use crate::node::{Brush, GradientStop, Group, MaskNodes, Node, PathNode, Rgba};
use crate::paint::Resolve;

/// How high the shadow right under a thing is, of its height.
const FLAT: f64 = 0.05;

/// The nodes below a thing for those of its effects that lie on the ground, back to front. `transform` leads from the thing to the sheet.
pub(crate) fn on_the_ground(
    effects: &[Effect],
    children: &[Node],
    size: Size,
    transform: Affine,
    resolve: Resolve<'_>,
) -> Vec<Node> {
    effects.iter().filter_map(|effect| one(effect, children, size, transform, resolve)).collect()
}

fn one(effect: &Effect, children: &[Node], size: Size, transform: Affine, resolve: Resolve<'_>) -> Option<Node> {
    // As if the ground were the line y = 0 and the thing stood above it.
    let standing = |ground: f64, by: Affine| {
        let line = Affine::translate((0.0, ground * size.height));
        transform * line * by * line.inverse()
    };
    let blurred = |blur: f64| (blur > 0.0).then(|| Filter::blurring(blur / 2.0));
    // More than the thing can reach: its outline decides what is seen.
    let room = size.to_rect().inflate(size.width, size.height);
    let silhouette = |color: Rgba, opacity: f64, place: Affine, blur: f64| {
        let paint = PathNode::new(room.to_path(0.01), Some(Brush::Flat(color)), None);
        let mask = MaskNodes { luminance: false, children: children.to_vec() };
        Node::Group(Group {
            opacity,
            mask: Some(Box::new(mask)),
            filter: blurred(blur),
            ..Group::placed(place, vec![Node::Path(paint)])
        })
    };
    match effect {
        Effect::Cast { turn, length, blur, tint, opacity, ground } => {
            let (sin, cos) = turn.to_radians().sin_cos();
            let long = length.get();
            // A point h above the ground throws its shadow `length` times h away from it.
            let by = Affine::new([1.0, 0.0, -sin * long, cos * long, 0.0, 0.0]);
            let color = Rgba::new(resolve.job.color(tint), 1.0);
            Some(silhouette(color, opacity.get(), standing(ground.get(), by), resolve.px(*blur)))
        }
        Effect::Contact { blur, tint, opacity, ground } => {
            let by = Affine::new([1.0, 0.0, 0.0, FLAT, 0.0, 0.0]);
            let color = Rgba::new(resolve.job.color(tint), 1.0);
            Some(silhouette(color, opacity.get(), standing(ground.get(), by), resolve.px(*blur)))
        }
        Effect::Reflection { gap, reach, blur, opacity, ground } => {
            let by = Affine::translate((0.0, resolve.px(*gap))) * Affine::new([1.0, 0.0, 0.0, -1.0, 0.0, 0.0]);
            let line = ground.get() * size.height;
            let end = line - reach.get().max(0.01) * size.height;
            let stop = |at, a| GradientStop { at, color: Rgba { r: 0, g: 0, b: 0, a } };
            let fading = Brush::Linear {
                from: Point::new(0.0, line),
                to: Point::new(0.0, end),
                stops: vec![stop(0.0, 1.0), stop(1.0, 0.0)],
                spread: Spread::Hold,
            };
            let seen = Rect::new(room.x0, end, room.x1, line.max(end));
            let fade = Node::Path(PathNode::new(seen.to_path(0.01), Some(fading), None));
            Some(Node::Group(Group {
                opacity: opacity.get(),
                mask: Some(Box::new(MaskNodes { luminance: false, children: vec![fade] })),
                filter: blurred(resolve.px(*blur)),
                ..Group::placed(standing(ground.get(), by), children.to_vec())
            }))
        }
        Effect::Shadow { .. } | Effect::InnerShadow { .. } | Effect::Relief { .. } | Effect::Rim { .. } => None,
    }
}
