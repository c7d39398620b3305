//! The kinds of things a scene is made of. A new kind is a compile error in every output until handled.

use std::sync::Arc;

use kurbo::{Affine, BezPath, Point, Rect, Size};
use serde::Serialize;
use ts_rs::TS;
use vatman_document::{Blend, Cap, Color, ItemId, Join, PictureSource, Spread};
use vatman_type::{Caret, GlyphRun};

use crate::filter::{Behind, Bunch, Filter};

/// Encoded sRGB with straight alpha.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Rgba {
    /// Red.
    pub r: u8,
    /// Green.
    pub g: u8,
    /// Blue.
    pub b: u8,
    /// 0 to 1.
    pub a: f64,
}

impl Rgba {
    /// A colour at an opacity of 0 to 1.
    #[must_use]
    pub fn new(color: Color, opacity: f64) -> Self {
        Self { r: color.r, g: color.g, b: color.b, a: f64::from(color.a) / 255.0 * opacity }
    }
}

/// A colour along a gradient.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct GradientStop {
    /// 0 to 1.
    pub at: f64,
    /// The colour.
    pub color: Rgba,
}

/// What an area is painted with, in the coordinates of what it paints.
#[derive(Debug, Clone, PartialEq)]
pub enum Brush {
    /// One colour.
    Flat(Rgba),
    /// Along a line.
    Linear {
        /// Where the first stop lies.
        from: Point,
        /// Where the last stop lies.
        to: Point,
        /// Two or more, rising.
        stops: Vec<GradientStop>,
        /// Beyond its ends.
        spread: Spread,
    },
    /// Around a point.
    Radial {
        /// Where the first stop lies.
        centre: Point,
        /// How far out the last stop lies.
        radius: f64,
        /// From the coordinates of centre and radius to those of what is painted.
        matrix: Affine,
        /// Two or more, rising.
        stops: Vec<GradientStop>,
        /// Beyond the circle.
        spread: Spread,
    },
    /// Turning about a point, clockwise.
    Conic {
        /// The point.
        centre: Point,
        /// Where the first stop lies, radians clockwise from the top.
        start: f64,
        /// Two or more, rising; the last lies a whole turn after an imagined first at 0.
        stops: Vec<GradientStop>,
        /// The box it is meant for.
        field: Rect,
    },
    /// A figure repeated over the plane.
    Tile(Box<Tile>),
    /// A picture repeated over the plane.
    Image {
        /// Which, and what is done to it.
        source: Arc<PictureSource>,
        /// Its size in pixels.
        pixels: (u32, u32),
        /// Where one copy lies.
        dest: Rect,
    },
}

/// A figure that is repeated.
#[derive(Debug, Clone, PartialEq)]
pub struct Tile {
    /// Width and height of one cell from the origin; the figure lies inside it.
    pub cell: Size,
    /// From the cells to the coordinates of what is painted.
    pub transform: Affine,
    /// The figure.
    pub figure: BezPath,
    /// Its colour.
    pub ink: Rgba,
    /// Colour behind it.
    pub ground: Option<Rgba>,
}

/// A line along an outline, centred on it; a mitre reaches at most four times half its width.
#[derive(Debug, Clone, PartialEq)]
pub struct Line {
    /// Paint.
    pub brush: Brush,
    /// Width.
    pub width: f64,
    /// Corners.
    pub join: Join,
    /// Ends.
    pub cap: Cap,
    /// Lengths of dashes and gaps in turn; empty for an unbroken line.
    pub dash: Vec<f64>,
    /// Whether it lies below the fill instead of above it.
    pub below: bool,
}

impl Line {
    /// An unbroken line with mitred corners.
    #[must_use]
    pub fn solid(brush: Brush, width: f64) -> Self {
        Self { brush, width, join: Join::Mitre, cap: Cap::Flat, dash: Vec::new(), below: false }
    }

    /// How far it can reach from its outline.
    #[must_use]
    pub fn reach(&self) -> f64 {
        match self.join {
            Join::Mitre => self.width * 2.0,
            Join::Round | Join::Bevel => self.width * 0.75,
        }
    }
}

/// What an item throws behind itself, or its edges throw into it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Shadow {
    /// Falls inward, onto the item itself.
    pub inner: bool,
    /// To the right.
    pub dx: f64,
    /// Down.
    pub dy: f64,
    /// Standard deviation of the blur.
    pub sigma: f64,
    /// Colour.
    pub color: Rgba,
}

impl Shadow {
    /// How far it can reach beyond what throws it.
    #[must_use]
    pub fn reach(&self) -> f64 {
        if self.inner { 0.0 } else { self.dx.abs().max(self.dy.abs()) + self.sigma * 3.0 }
    }
}

/// A filled and stroked outline.
#[derive(Debug, Clone, PartialEq)]
pub struct PathNode {
    /// Outline.
    pub path: BezPath,
    /// Fill.
    pub fill: Option<Brush>,
    /// Stroke.
    pub stroke: Option<Line>,
    /// Filled by the even-odd rule instead of the non-zero one.
    pub even_odd: bool,
}

impl PathNode {
    /// Filled by the non-zero rule.
    #[must_use]
    pub fn new(path: BezPath, fill: Option<Brush>, stroke: Option<Line>) -> Self {
        Self { path, fill, stroke, even_odd: false }
    }
}

/// Nodes through which others are seen.
#[derive(Debug, Clone, PartialEq)]
pub struct MaskNodes {
    /// By how light they are (the luminance of their encoded colours times their alpha), instead of by their alpha.
    pub luminance: bool,
    /// Back to front, in the coordinates of the group they mask.
    pub children: Vec<Node>,
}

/// Glyphs of one face and colour.
#[derive(Debug, Clone, PartialEq)]
pub struct GlyphNode {
    /// Glyphs, positioned in the group's coordinates.
    pub run: GlyphRun,
    /// Fill.
    pub fill: Option<Brush>,
    /// Stroke around the letters.
    pub stroke: Option<Line>,
}

/// A picture stretched over a rectangle and seen through an outline.
#[derive(Debug, Clone, PartialEq)]
pub struct ImageNode {
    /// Which, and what is done to it.
    pub source: Arc<PictureSource>,
    /// Its size in pixels.
    pub pixels: (u32, u32),
    /// Where the whole picture lies.
    pub dest: Rect,
    /// Outline it is seen through, by the non-zero rule.
    pub frame: BezPath,
}

/// Nodes that are placed, clipped, mixed and faded together.
#[derive(Debug, Clone, PartialEq)]
pub struct Group {
    /// From the group's coordinates to its parent's.
    pub transform: Affine,
    /// 0 to 1, of the group as a whole.
    pub opacity: f64,
    /// Mixing of the group as a whole with what lies below.
    pub blend: Blend,
    /// Clip, in the group's coordinates, by the non-zero rule.
    pub clip: Option<BezPath>,
    /// What it is seen through besides.
    pub mask: Option<Box<MaskNodes>>,
    /// Thrown by all of it together, lengths in the parent's coordinates: outer ones behind it, inner ones over it, in order.
    pub shadows: Vec<Shadow>,
    /// How all of it together is treated, before it throws shadows.
    pub filter: Option<Filter>,
    /// Back to front.
    pub children: Vec<Node>,
}

impl Group {
    /// A group that only places its children.
    #[must_use]
    pub fn placed(transform: Affine, children: Vec<Node>) -> Self {
        Self {
            transform,
            opacity: 1.0,
            blend: Blend::Normal,
            clip: None,
            mask: None,
            shadows: Vec::new(),
            filter: None,
            children,
        }
    }
}

/// One thing drawn.
#[derive(Debug, Clone, PartialEq)]
pub enum Node {
    /// Several together.
    Group(Group),
    /// An outline.
    Path(PathNode),
    /// Letters.
    Glyphs(Box<GlyphNode>),
    /// A picture.
    Image(ImageNode),
}

/// The box of an item on the sheet, for picking and handles.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, TS)]
pub struct Frame {
    /// Left edge before turning, CSS pixels.
    pub x: f64,
    /// Top edge before turning.
    pub y: f64,
    /// Width.
    pub w: f64,
    /// Height; that of the lines for text that grows.
    pub h: f64,
    /// Clockwise turn about the centre, degrees.
    pub turn: f64,
}

impl Frame {
    /// The upright box around it, as exact lengths.
    #[must_use]
    pub fn upright(&self) -> vatman_units::Rect {
        let about = kurbo::Point::new(self.x + self.w / 2.0, self.y + self.h / 2.0);
        let turned = Affine::rotate_about(self.turn.to_radians(), about)
            .transform_rect_bbox(Rect::from_origin_size((self.x, self.y), (self.w, self.h)));
        let px = vatman_units::Length::css_px;
        vatman_units::Rect::new(px(turned.x0), px(turned.y0), px(turned.width()), px(turned.height()))
    }
}

/// How an item is read by those who do not see it.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub enum Reading {
    /// It says nothing.
    #[default]
    Silent,
    /// Words, line by line in the order they are read; [`vatman_type::GlyphRun::line`] is an index into them.
    Words {
        /// Whether they are the headline.
        heading: bool,
        /// The lines.
        lines: Vec<String>,
    },
    /// A picture, with what stands for it.
    Figure(&'static str),
}

/// An item as drawn.
#[derive(Debug, Clone, PartialEq)]
pub struct SceneItem {
    /// Which.
    pub id: ItemId,
    /// Its box.
    pub frame: Frame,
    /// What is drawn.
    pub node: Arc<Node>,
    /// Drawn below it: what it does to the ground it stands on.
    pub below: Option<Arc<Node>>,
    /// Drawn before it, where it treats what lies behind.
    pub behind: Option<Behind>,
    /// The line along which it is to be cut, on the sheet, where it has one.
    pub cut: Option<BezPath>,
    /// What it says.
    pub reading: Reading,
    /// Whether its text is larger than its box.
    pub spills: bool,
    /// Families it asks for that are not at hand.
    pub missing: Vec<String>,
    /// Letters no family at hand has.
    pub blanks: usize,
    /// Size of its type as set, in CSS pixels; 0 without words.
    pub type_size: f64,
    /// Places of the caret, where asked for.
    pub carets: Vec<Caret>,
}

impl SceneItem {
    /// Whether it looks and stands as another; one taken over from before is known at once.
    #[must_use]
    pub fn is_as(&self, other: &Self) -> bool {
        (Arc::ptr_eq(&self.node, &other.node)
            && self.frame == other.frame
            && self.behind == other.behind
            && self.below == other.below
            && self.cut == other.cut
            && self.carets == other.carets)
            || self == other
    }
}

/// What is drawn on one side.
#[derive(Debug, Clone, PartialEq)]
pub struct Scene {
    /// Finished size.
    pub size: Size,
    /// Bleed on every side, beyond the finished size.
    pub bleed: f64,
    /// Under everything, bleed included; nothing is transparent.
    pub ground: Option<Brush>,
    /// Back to front, hidden ones left out.
    pub items: Vec<SceneItem>,
    /// Those of the items that are drawn by themselves, by their first; those around others before them.
    pub bunches: Vec<Bunch>,
}
