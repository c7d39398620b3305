//! Designs: ready looks and arrangements, described as data and composed for any shape.

use std::collections::BTreeMap;

use serde::Deserialize;
use thiserror::Error;
use vatman_document::{
    Align, Backing, Color, Outline, Paint, Part, Reach, Stroke, SwatchId, TextFit, Tint, TypeLook, VAlign,
};
use vatman_units::{Length, Ratio};

use crate::compose::block::PAD_HIGH;

/// Words by the part they play.
pub type Words = BTreeMap<Part, String>;

/// Why a design cannot be used.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("The design {0} cannot be read: {1}.")]
pub struct DesignError(pub String, pub String);

/// A ready look and its arrangements.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Design {
    /// Identity.
    pub id: String,
    /// Name.
    pub name: String,
    /// What it is good for, in a few words.
    pub about: String,
    /// Words it is found by.
    pub keywords: String,
    /// The groups of places it is made for first of all.
    #[serde(default, rename = "for")]
    pub made_for: Vec<String>,
    /// Colours by role; every tint of the design names one of these.
    pub palette: BTreeMap<SwatchId, Color>,
    /// What is said where nobody has said anything yet.
    pub sample: Words,
    /// How each part is set.
    #[serde(rename = "type")]
    pub types: BTreeMap<Part, PartType>,
    /// Arrangements by shape.
    pub layouts: Vec<Layout>,
}

/// How one part is set.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct PartType {
    /// Family.
    pub family: String,
    /// Weight. Default 400.
    #[serde(default = "regular")]
    pub weight: u16,
    /// Italic. Default no.
    #[serde(default)]
    pub italic: bool,
    /// Capitals. Default no.
    #[serde(default)]
    pub caps: bool,
    /// Size relative to the headline.
    pub ratio: f64,
    /// Distance of baselines in sizes. Default 1.2.
    #[serde(default = "leading")]
    pub leading: f64,
    /// Extra letter space in sizes. Default 0.
    #[serde(default)]
    pub tracking: f64,
    /// Alignment. Default start.
    #[serde(default)]
    pub align: Align,
    /// Colour. Default ink.
    #[serde(default = "ink")]
    pub tint: Tint,
    /// Opacity. Default 1.
    #[serde(default = "one")]
    pub opacity: f64,
    /// Panel around the words.
    #[serde(default)]
    pub button: Option<Button>,
}

/// A panel that fits its words.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Button {
    /// Fill.
    pub fill: Tint,
    /// Space around the words in sizes of type.
    pub pad: f64,
    /// Corner radius in sizes of type.
    pub radius: f64,
}

/// An arrangement for shapes near an aspect.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Layout {
    /// Width by height it was drawn for.
    pub aspect: f64,
    /// Under everything.
    pub ground: Option<Paint>,
    /// Back to front.
    pub parts: Vec<LayoutPart>,
}

/// Left, top, width and height as fractions of the sheet.
pub type Fractions = [f64; 4];

/// One thing in an arrangement.
#[derive(Debug, Clone, Deserialize)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum LayoutPart {
    /// A shape.
    Shape {
        /// What it is called across the arrangements of the design.
        slot: String,
        /// Where.
        at: Fractions,
        /// Outline; radii as fractions of the shorter side of the sheet.
        #[serde(default)]
        outline: DesignOutline,
        /// Fill.
        #[serde(default)]
        fill: Option<Paint>,
        /// Line, its width a fraction of the measure of the sheet.
        #[serde(default)]
        line: Option<DesignLine>,
        /// Keeps width equal to height, in the middle of its box.
        #[serde(default)]
        square: bool,
        /// Clockwise turn in degrees.
        #[serde(default)]
        turn: f64,
    },
    /// A picture in a frame.
    Picture {
        /// What it is called across the arrangements of the design.
        slot: String,
        /// Name of a sample picture.
        sample: String,
        /// Where.
        at: Fractions,
        /// Frame.
        #[serde(default)]
        outline: DesignOutline,
        /// Line along the frame.
        #[serde(default)]
        line: Option<DesignLine>,
        /// Keeps width equal to height.
        #[serde(default)]
        square: bool,
        /// Clockwise turn in degrees.
        #[serde(default)]
        turn: f64,
    },
    /// Rows of words that share one scale and fill a box together.
    Words {
        /// Parts from top to bottom; a part without words takes no room.
        rows: Vec<Part>,
        /// Where; held inside the safe area.
        at: Fractions,
        /// Where the rows stand in a box higher than they need. Default top.
        #[serde(default)]
        stand: VAlign,
        /// Largest headline as a fraction of the measure of the sheet.
        largest: f64,
        /// Space between rows in the geometric mean of their sizes. Default 0.5.
        #[serde(default = "gap")]
        gap: f64,
        /// Keeps width equal to height, in the middle of its box, as the round shape it lies in does.
        #[serde(default)]
        square: bool,
    },
}

/// An outline whose lengths are relative to the sheet.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum DesignOutline {
    /// A rectangle.
    #[default]
    Rect,
    /// With round corners.
    Round {
        /// Fraction of the measure of the sheet.
        radius: f64,
    },
    /// An ellipse.
    Ellipse,
    /// A doorway.
    Arch,
    /// A star.
    Star {
        /// Points.
        points: u8,
        /// Depth of the notches.
        depth: f64,
    },
    /// Any outline whose numbers are shares of its own box.
    Shape {
        /// Which.
        outline: Outline,
    },
    /// A drawn outline.
    Path {
        /// Path data.
        data: String,
        /// Width of its box.
        width: u32,
        /// Height of its box.
        height: u32,
    },
}

/// A line whose width is relative to the sheet.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct DesignLine {
    /// Colour.
    pub tint: Tint,
    /// Width as a fraction of the measure of the sheet.
    pub width: f64,
}

fn regular() -> u16 {
    400
}
fn leading() -> f64 {
    1.2
}
fn one() -> f64 {
    1.0
}
fn gap() -> f64 {
    0.5
}
fn ink() -> Tint {
    match SwatchId::new("ink") {
        Ok(id) => Tint::Swatch(id),
        Err(_) => Tint::Own(Color::BLACK),
    }
}

impl Design {
    /// Reads a design file.
    ///
    /// # Errors
    /// [`DesignError`] where it is not what a design must be.
    pub fn read(name: &str, json: &str) -> Result<Self, DesignError> {
        let fail = |why: String| DesignError(name.to_owned(), why);
        let design: Self = serde_json::from_str(json).map_err(|error| fail(error.to_string()))?;
        if design.layouts.is_empty() || !design.layouts.iter().all(|layout| layout.aspect > 0.0) {
            return Err(fail("it has no arrangement".into()));
        }
        for layout in &design.layouts {
            for part in &layout.parts {
                if let LayoutPart::Words { rows, .. } = part
                    && let Some(row) = rows.iter().find(|row| !design.types.contains_key(row))
                {
                    return Err(fail(format!("it does not say how {} is set", row.name())));
                }
            }
        }
        Ok(design)
    }

    /// What colour a tint is by the palette of the design; nothing for a colour it does not have.
    #[must_use]
    pub fn color(&self, tint: &Tint) -> Option<Color> {
        match tint {
            Tint::Own(color) => Some(*color),
            Tint::Swatch(id) => self.palette.get(id).copied(),
        }
    }

    /// The arrangement drawn for the nearest shape, by ratio of aspects.
    #[must_use]
    pub fn layout_for(&self, aspect: f64) -> &Layout {
        let distance = |layout: &Layout| (layout.aspect / aspect).ln().abs();
        let nearest = self.layouts.iter().min_by(|a, b| distance(a).total_cmp(&distance(b)));
        nearest.unwrap_or(&self.layouts[0])
    }
}

impl LayoutPart {
    /// What it is called across the arrangements of the design; rows of words are called by their parts.
    #[must_use]
    pub fn slot(&self) -> Option<&str> {
        match self {
            Self::Shape { slot, .. } | Self::Picture { slot, .. } => Some(slot),
            Self::Words { .. } => None,
        }
    }
}

impl Button {
    /// The panel behind words of a size: it moves with them and is as wide as they are.
    #[must_use]
    pub fn backing(&self, size: Length) -> Backing {
        Backing {
            reach: Reach::Words,
            outline: Outline::Rect { radius: size.scaled(self.radius) },
            fill: Some(Paint::flat(self.fill.clone())),
            stroke: None,
            pad_x: Ratio::new(self.pad),
            pad_y: Ratio::new(self.pad * PAD_HIGH),
        }
    }
}

impl PartType {
    /// The look of type at a size.
    #[must_use]
    pub fn look(&self, size: Length) -> TypeLook {
        let floor = Ratio::new(0.35);
        TypeLook {
            family: self.family.clone(),
            weight: self.weight,
            italic: self.italic,
            size,
            leading: Ratio::new(self.leading),
            tracking: Ratio::new(self.tracking),
            align: self.align,
            valign: VAlign::Top,
            caps: self.caps,
            underline: false,
            fit: if self.button.is_some() { TextFit::Widen { floor } } else { TextFit::Shrink { floor } },
            even: true,
            ..TypeLook::default()
        }
    }

    /// The paint of its letters.
    #[must_use]
    pub fn paint(&self) -> Paint {
        Paint::Flat { tint: self.tint.clone(), opacity: Ratio::new(self.opacity) }
    }
}

impl DesignOutline {
    /// With lengths for a sheet of a measure.
    #[must_use]
    pub fn resolve(&self, measure: Length) -> Outline {
        match self {
            Self::Rect => Outline::RECT,
            Self::Round { radius } => Outline::Rect { radius: measure.scaled(*radius) },
            Self::Ellipse => Outline::Ellipse,
            Self::Arch => Outline::Arch,
            Self::Star { points, depth } => Outline::Star { points: *points, depth: Ratio::new(*depth) },
            Self::Shape { outline } => outline.clone(),
            Self::Path { data, width, height } => Outline::Path { data: data.clone(), width: *width, height: *height },
        }
    }
}

impl DesignLine {
    /// With a width for a sheet of a measure.
    #[must_use]
    pub fn resolve(&self, measure: Length) -> Stroke {
        Stroke::solid(Paint::flat(self.tint.clone()), measure.scaled(self.width))
    }
}
