//! How an item looks, apart from where it sits.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Length, Ratio};

use crate::{Color, Paint};

/// How lines stand in their box.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Align {
    /// At the start of the reading direction.
    #[default]
    Start,
    /// In the middle.
    Centre,
    /// At the end of the reading direction.
    End,
    /// Both edges even.
    Justified,
}

/// Where the lines stand in a box higher than they need.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum VAlign {
    /// At the top.
    #[default]
    Top,
    /// In the middle.
    Middle,
    /// At the bottom.
    Bottom,
}

/// How text and its box agree.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum TextFit {
    /// Lines wrap at the width of the box; its height follows.
    Grow,
    /// The type shrinks until the text fits the box, to no less than `floor` of its size; then it spills, and that is reported.
    Shrink {
        /// Least share of the set size.
        floor: Ratio,
    },
    /// The largest type that fits the box, to no less than `floor` of its size.
    Fill {
        /// Least share of the set size.
        floor: Ratio,
    },
}

/// How type is set.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields, rename_all = "camelCase")]
pub struct TypeLook {
    /// Family.
    pub family: String,
    /// Weight, 1 to 1,000.
    pub weight: u16,
    /// Italic.
    pub italic: bool,
    /// Size at a place scale of one.
    pub size: Length,
    /// Distance of baselines as a ratio of the size.
    pub leading: Ratio,
    /// Extra distance between letters as a ratio of the size.
    pub tracking: Ratio,
    /// Lines in the box.
    pub align: Align,
    /// Block in the box.
    pub valign: VAlign,
    /// Shown in capitals; the typed text is kept.
    pub caps: bool,
    /// Underlined throughout.
    pub underline: bool,
    /// Text and box.
    pub fit: TextFit,
    /// Lines of like length instead of lines as full as they go.
    #[serde(default)]
    pub even: bool,
}

impl Default for TypeLook {
    fn default() -> Self {
        Self {
            family: "Work Sans".into(),
            weight: 400,
            italic: false,
            size: Length::css_px(32.0),
            leading: Ratio::new(1.2),
            tracking: Ratio::ZERO,
            align: Align::Start,
            valign: VAlign::Top,
            caps: false,
            underline: false,
            fit: TextFit::Grow,
            even: false,
        }
    }
}

/// A line along an outline, centred on it.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Stroke {
    /// What it is drawn with.
    pub paint: Paint,
    /// Width at a place scale of one.
    pub width: Length,
}

/// How an item mixes with what lies below it (W3C Compositing and Blending Level 1).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Blend {
    /// Covers.
    #[default]
    Normal,
    /// Darkens.
    Multiply,
    /// Lightens.
    Screen,
    /// Darkens the dark and lightens the light.
    Overlay,
}

/// How an item looks.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Look {
    /// Fill of shapes and letters.
    pub fill: Option<Paint>,
    /// Line along the outline.
    pub stroke: Option<Stroke>,
    /// Of the whole item; 1 is opaque.
    pub opacity: Ratio,
    /// Mixing with what lies below.
    pub blend: Blend,
    /// How its words are set.
    #[serde(rename = "type")]
    pub type_look: Option<TypeLook>,
}

impl Default for Look {
    fn default() -> Self {
        Self { fill: Some(Paint::flat(Color::BLACK)), stroke: None, opacity: Ratio::ONE, blend: Blend::Normal, type_look: None }
    }
}

impl Look {
    /// Why it cannot be kept, if so.
    #[must_use]
    pub fn problem(&self) -> Option<String> {
        let longest = Length::inches(100.0);
        if !self.opacity.is_fraction() {
            return Some("Opacity lies between 0 and 100 %.".into());
        }
        if !self.paints().all(Paint::is_sound) {
            return Some("A gradient needs 2 to 32 stops in rising order.".into());
        }
        if self.stroke.as_ref().is_some_and(|stroke| stroke.width.raw() < 0 || stroke.width > longest) {
            return Some("A line is 0 to 100 in wide.".into());
        }
        let kind = self.type_look.as_ref()?;
        let floor = match kind.fit {
            TextFit::Grow => Ratio::ONE,
            TextFit::Shrink { floor } | TextFit::Fill { floor } => floor,
        };
        if !(1..=1_000).contains(&kind.weight) {
            Some("A weight lies between 1 and 1,000.".into())
        } else if !kind.size.is_positive() || kind.size > longest {
            Some("Type is more than 0 and at most 100 in high.".into())
        } else if !(0.3..=5.0).contains(&kind.leading.get()) || !(-0.5..=5.0).contains(&kind.tracking.get()) {
            Some("Leading lies between 30 and 500 %, letter spacing between -50 and 500 % of the size.".into())
        } else if !(0.01..=1.0).contains(&floor.get()) {
            Some("Type may shrink to between 1 and 100 % of its size.".into())
        } else if kind.family.is_empty() || kind.family.len() > 100 {
            Some("A family has a name of up to 100 letters.".into())
        } else {
            None
        }
    }

    /// All paints of the look.
    pub fn paints(&self) -> impl Iterator<Item = &Paint> {
        self.fill.iter().chain(self.stroke.iter().map(|stroke| &stroke.paint))
    }
}
