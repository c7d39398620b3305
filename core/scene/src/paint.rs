//! Paints, lines and shadows, resolved over the box they belong to.

use std::sync::Arc;

use kurbo::{Affine, BezPath, Circle, Point, Rect, Shape as _, Size, Vec2};
use vatman_document::{AssetId, Blend, Effect, Job, Motif, Paint, PictureSource, Spread, Stop, Stroke, StrokePlace};
use vatman_units::Length;

use crate::frame::cover;
use crate::node::{Brush, GradientStop, Group, Line, Node, PathNode, Rgba, Shadow, Tile};

/// What paints need to be resolved.
#[derive(Clone, Copy)]
pub(crate) struct Resolve<'a> {
    pub job: &'a Job,
    /// Size in pixels of a picture, where it is at hand.
    pub picture_size: &'a dyn Fn(&AssetId) -> Option<(u32, u32)>,
    /// Scale of stored lengths.
    pub scale: f64,
}

impl Resolve<'_> {
    pub fn px(&self, length: Length) -> f64 {
        length.to_css_px() * self.scale
    }

    /// A paint over a box; nothing where its picture is not at hand.
    pub fn brush(&self, paint: &Paint, field: Rect) -> Option<Brush> {
        let stops = |stops: &[Stop]| self.gradient(stops);
        Some(match paint {
            Paint::Flat { tint, opacity } => Brush::Flat(Rgba::new(self.job.color(tint), opacity.get())),
            Paint::Linear { angle, stops: list } => {
                // As long as the box is in that direction, so that the corners have the end colours.
                let (sin, cos) = angle.to_radians().sin_cos();
                let reach = (field.width() * sin.abs() + field.height() * cos.abs()) / 2.0;
                let along = Vec2::new(sin * reach, -cos * reach);
                Brush::Linear {
                    from: field.center() - along,
                    to: field.center() + along,
                    stops: stops(list),
                    spread: Spread::Hold,
                }
            }
            Paint::Radial { stops: list } => {
                let radius = Point::ORIGIN.distance(Point::new(field.width(), field.height())) / 2.0;
                Brush::Radial {
                    centre: field.center(),
                    radius,
                    matrix: Affine::IDENTITY,
                    stops: stops(list),
                    spread: Spread::Hold,
                }
            }
            Paint::Conic { angle, stops: list } => {
                Brush::Conic { centre: field.center(), start: angle.to_radians(), stops: stops(list), field }
            }
            Paint::Pattern { motif, ink, ground, size, angle } => {
                let flat = |tint| Rgba::new(self.job.color(tint), 1.0);
                let (cell, figure) = figure(*motif);
                let transform = Affine::translate(field.center().to_vec2())
                    * Affine::rotate(angle.to_radians())
                    * Affine::scale(self.px(*size));
                Brush::Tile(Box::new(Tile {
                    cell,
                    transform,
                    figure,
                    ink: flat(ink),
                    ground: ground.as_ref().map(flat),
                }))
            }
            Paint::Picture { picture, focus, zoom } => {
                let pixels = (self.picture_size)(picture)?;
                let dest = cover(field.size(), Size::new(f64::from(pixels.0), f64::from(pixels.1)), *focus, zoom.get());
                Brush::Image {
                    source: Arc::new(PictureSource::plain(picture.clone())),
                    pixels,
                    dest: dest + field.origin().to_vec2(),
                }
            }
        })
    }

    pub(crate) fn gradient(&self, stops: &[Stop]) -> Vec<GradientStop> {
        stops
            .iter()
            .map(|stop| GradientStop {
                at: stop.at.get(),
                color: Rgba::new(self.job.color(&stop.tint), stop.opacity.get()),
            })
            .collect()
    }

    /// The line of a stroke with its width times `times`; nothing where it has no width.
    fn line(&self, stroke: &Stroke, field: Rect, times: f64) -> Option<Line> {
        let width = self.px(stroke.width);
        let dash = if stroke.dash.iter().all(|part| part.get() == 0.0) {
            Vec::new()
        } else {
            stroke.dash.iter().map(|part| part.get() * width).collect()
        };
        let line = Line {
            brush: self.brush(&stroke.paint, field)?,
            width: width * times,
            join: stroke.join,
            cap: stroke.cap,
            dash,
            below: false,
        };
        (width > 0.0).then_some(line)
    }

    /// An outline with its fill and line. A line inside is twice as wide and clipped to the outline; one outside lies
    /// below an opaque fill, or is clipped to what lies around the outline.
    pub fn outlined(&self, path: BezPath, fill: Option<Brush>, stroke: Option<&Stroke>, field: Rect) -> Vec<Node> {
        let place = stroke.map_or(StrokePlace::Centre, |stroke| stroke.place);
        let times = if place == StrokePlace::Centre { 1.0 } else { 2.0 };
        let Some(mut line) = stroke.and_then(|stroke| self.line(stroke, field, times)) else {
            return vec![Node::Path(PathNode::new(path, fill, None))];
        };
        let hides = fill.as_ref().is_some_and(Brush::is_opaque);
        let clip = match place {
            StrokePlace::Centre => None,
            StrokePlace::Outside if hides => {
                line.below = true;
                None
            }
            StrokePlace::Inside => Some(path.clone()),
            StrokePlace::Outside => Some(around(&path, line.reach())),
        };
        match clip {
            None => vec![Node::Path(PathNode::new(path, fill, Some(line)))],
            Some(clip) => {
                let edge = Node::Path(PathNode::new(path.clone(), None, Some(line)));
                let body = fill.map(|fill| Node::Path(PathNode::new(path, Some(fill), None)));
                body.into_iter()
                    .chain(std::iter::once(Node::Group(Group {
                        clip: Some(clip),
                        ..Group::placed(Affine::IDENTITY, vec![edge])
                    })))
                    .collect()
            }
        }
    }

    /// The line around letters, and where it must be clipped: to the letters, or to what lies around them.
    pub fn letter_line(&self, stroke: Option<&Stroke>, opaque: bool, field: Rect) -> Option<(Line, StrokePlace)> {
        let stroke = stroke?;
        let times = if stroke.place == StrokePlace::Centre { 1.0 } else { 2.0 };
        let mut line = self.line(stroke, field, times)?;
        line.below = stroke.place == StrokePlace::Outside && opaque;
        let clip = if line.below { StrokePlace::Centre } else { stroke.place };
        Some((line, clip))
    }

    /// What effects throw, in order. A relief is two inner shadows: light along the rim that faces it, shade along the other.
    pub fn shadows(&self, effects: &[Effect]) -> Vec<Shadow> {
        let sigma = |blur: Length| self.px(blur) / 2.0;
        let mut out = Vec::new();
        for effect in effects {
            match effect {
                Effect::Shadow { dx, dy, blur, tint, opacity }
                | Effect::InnerShadow { dx, dy, blur, tint, opacity } => {
                    let inner = matches!(effect, Effect::InnerShadow { .. });
                    out.push(Shadow {
                        inner,
                        dx: self.px(*dx),
                        dy: self.px(*dy),
                        sigma: sigma(*blur),
                        color: Rgba::new(self.job.color(tint), opacity.get()),
                    });
                }
                // These lie on the ground or around it, not behind the whole.
                Effect::Cast { .. } | Effect::Contact { .. } | Effect::Reflection { .. } | Effect::Rim { .. } => {}
                Effect::Relief { light, depth, blur, strength, pressed } => {
                    let (sin, cos) = light.to_radians().sin_cos();
                    // A shadow thrown away from the light darkens or lights the rim that faces it.
                    let away = Vec2::new(-sin, cos) * self.px(*depth) * if *pressed { -1.0 } else { 1.0 };
                    let rim = |by: Vec2, white: bool| {
                        let shade = if white { 255 } else { 0 };
                        Shadow {
                            inner: true,
                            dx: by.x,
                            dy: by.y,
                            sigma: sigma(*blur),
                            color: Rgba {
                                r: shade,
                                g: shade,
                                b: shade,
                                a: strength.get() * if white { 0.7 } else { 0.55 },
                            },
                        }
                    };
                    out.extend([rim(-away, false), rim(away, true)]);
                }
            }
        }
        out
    }
}

/// Everything within `reach` of an outline that is not inside it, as a clip.
pub(crate) fn around(path: &BezPath, reach: f64) -> BezPath {
    let mut clip = path.control_box().inflate(reach + 1.0, reach + 1.0).to_path(0.01);
    let inner = if path.area() * clip.area() > 0.0 { path.reverse_subpaths() } else { path.clone() };
    clip.extend(inner);
    clip
}

/// The cell of a motif with a distance of one, and its figure.
fn figure(motif: Motif) -> (Size, BezPath) {
    let square = Size::new(1.0, 1.0);
    let mut path = BezPath::new();
    let mut add = |shape: BezPath| path.extend(shape);
    let rect = |x0: f64, y0: f64, x1: f64, y1: f64| Rect::new(x0, y0, x1, y1).to_path(1e-4);
    match motif {
        Motif::Dots => [(0.25, 0.25), (0.75, 0.75)].into_iter().for_each(|at| add(Circle::new(at, 0.15).to_path(1e-4))),
        Motif::Stripes => add(rect(0.0, 0.25, 1.0, 0.75)),
        Motif::Checks => {
            add(rect(0.0, 0.0, 0.5, 0.5));
            add(rect(0.5, 0.5, 1.0, 1.0));
        }
        Motif::Lattice => add(polygon(&[
            (0.46, 0.0),
            (0.54, 0.0),
            (0.54, 0.46),
            (1.0, 0.46),
            (1.0, 0.54),
            (0.54, 0.54),
            (0.54, 1.0),
            (0.46, 1.0),
            (0.46, 0.54),
            (0.0, 0.54),
            (0.0, 0.46),
            (0.46, 0.46),
        ])),
        Motif::Zigzag => add(polygon(&[(0.0, 0.6), (0.5, 0.1), (1.0, 0.6), (1.0, 0.9), (0.5, 0.4), (0.0, 0.9)])),
        Motif::Scales => {
            for (x, y, from, to) in [(0.5, 0.0, 0.0, 180.0), (0.0, 0.5, 0.0, 90.0), (1.0, 0.5, 90.0, 180.0)] {
                add(band(Point::new(x, y), 0.5, 0.42, from, to));
            }
        }
        Motif::Crosses => add(polygon(&[
            (0.45, 0.3),
            (0.55, 0.3),
            (0.55, 0.45),
            (0.7, 0.45),
            (0.7, 0.55),
            (0.55, 0.55),
            (0.55, 0.7),
            (0.45, 0.7),
            (0.45, 0.55),
            (0.3, 0.55),
            (0.3, 0.45),
            (0.45, 0.45),
        ])),
    }
    (square, path)
}

fn polygon(points: &[(f64, f64)]) -> BezPath {
    let mut path = BezPath::new();
    for (i, point) in points.iter().enumerate() {
        if i == 0 { path.move_to(*point) } else { path.line_to(*point) }
    }
    path.close_path();
    path
}

/// Part of a ring between two angles in degrees, clockwise from the right.
fn band(centre: Point, outer: f64, inner: f64, from: f64, to: f64) -> BezPath {
    let at = |radius: f64, degrees: f64| {
        let (sin, cos) = degrees.to_radians().sin_cos();
        (centre.x + radius * cos, centre.y + radius * sin)
    };
    let steps = 24;
    let angle = |i: usize| from + (to - from) * i as f64 / steps as f64;
    let rim = (0..=steps).map(|i| at(outer, angle(i)));
    let back = (0..=steps).rev().map(|i| at(inner, angle(i)));
    polygon(&rim.chain(back).collect::<Vec<_>>())
}

impl Brush {
    /// Whether it hides everything below.
    #[must_use]
    pub fn is_opaque(&self) -> bool {
        match self {
            Self::Flat(color) => color.a >= 1.0,
            Self::Linear { stops, .. } | Self::Radial { stops, .. } | Self::Conic { stops, .. } => {
                stops.iter().all(|stop| stop.color.a >= 1.0)
            }
            Self::Tile(tile) => tile.ground.is_some_and(|ground| ground.a >= 1.0),
            // A picture may be clear in places.
            Self::Image { .. } => false,
        }
    }
}

impl Group {
    /// Whether it must be drawn apart and then mixed in.
    #[must_use]
    pub fn needs_layer(&self) -> bool {
        self.opacity < 1.0
            || self.blend != Blend::Normal
            || self.mask.is_some()
            || self.filter.is_some()
            || !self.shadows.is_empty()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn figures_lie_in_their_cell() {
        for motif in
            [Motif::Dots, Motif::Stripes, Motif::Checks, Motif::Lattice, Motif::Zigzag, Motif::Scales, Motif::Crosses]
        {
            let (cell, path) = figure(motif);
            let bounds = path.bounding_box();
            assert!(
                !path.is_empty() && cell.to_rect().inflate(1e-6, 1e-6).contains_rect(bounds),
                "{motif:?} reaches {bounds:?}"
            );
        }
    }

    #[test]
    fn around_an_outline_is_everything_but_its_inside() {
        let ring = {
            let mut path = Circle::new((50.0, 50.0), 40.0).to_path(0.01);
            path.extend(Circle::new((50.0, 50.0), 20.0).to_path(0.01).reverse_subpaths());
            path
        };
        for path in [ring.clone(), ring.reverse_subpaths()] {
            let clip = around(&path, 5.0);
            for (point, outside) in
                [((50.0, 20.0), false), ((50.0, 50.0), true), ((6.0, 50.0), true), ((85.0, 50.0), false)]
            {
                assert_eq!(clip.winding(point.into()) != 0, outside, "at {point:?}");
            }
        }
    }
}
