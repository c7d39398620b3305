//! How an item looks, apart from where it sits.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Length, Ratio};

use crate::{AssetId, Backing, Blend, Color, Curve, CutOut, Effect, Fault, Paint, Stroke, Tint, Treatment, Upright};

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
    /// Lines break only where typed; width and height follow, from the edge the lines stand at.
    AsTyped,
    /// As typed while the lines are no wider than the box; then the type shrinks, to no less than `floor` of its size; then lines
    /// wrap. Width and height follow, from the edge the lines stand at: the box is the room there is.
    Widen {
        /// Least share of the set size.
        floor: Ratio,
    },
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

impl TextFit {
    /// Whether what is drawn is as wide as its lines, whatever the width of the box.
    #[must_use]
    pub const fn hugs(self) -> bool {
        matches!(self, Self::AsTyped | Self::Widen { .. })
    }

    /// Whether what is drawn is as high as its lines, whatever the height of the box.
    #[must_use]
    pub const fn grows(self) -> bool {
        matches!(self, Self::Grow | Self::AsTyped | Self::Widen { .. })
    }
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
    /// Struck through throughout.
    #[serde(default)]
    pub strike: bool,
    /// Extra distance between paragraphs as a ratio of the size.
    #[serde(default)]
    pub paragraph_gap: Ratio,
    /// Mark before each paragraph.
    #[serde(default)]
    pub list: ListMark,
    /// Forms of letters and figures.
    #[serde(default)]
    pub forms: Forms,
    /// The line the words run along, where it is not straight.
    #[serde(default)]
    pub curve: Option<Curve>,
    /// The number of the arrangement in which a short phrase becomes one block, if it does: its lines are broken and scaled to
    /// the width of the box.
    #[serde(default)]
    pub lock_up: Option<u8>,
    /// The language whose words may be divided at the end of a line, if any may.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub hyphens: Option<Hyphens>,
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
            strike: false,
            paragraph_gap: Ratio::ZERO,
            list: ListMark::None,
            forms: Forms::default(),
            curve: None,
            lock_up: None,
            hyphens: None,
        }
    }
}

/// A language with rules for dividing words.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Hyphens {
    /// English.
    English,
    /// German.
    German,
    /// French.
    French,
    /// Spanish.
    Spanish,
    /// Italian.
    Italian,
    /// Portuguese.
    Portuguese,
    /// Dutch.
    Dutch,
    /// Polish.
    Polish,
    /// Swedish.
    Swedish,
    /// Finnish.
    Finnish,
    /// Hungarian.
    Hungarian,
    /// Turkish.
    Turkish,
    /// Ukrainian.
    Ukrainian,
}

/// A mark before each paragraph.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum ListMark {
    /// None.
    #[default]
    None,
    /// A bullet.
    Bullet,
    /// 1., 2., 3.
    Number,
}

/// Forms of letters and figures a face may offer (OpenType features).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields, rename_all = "camelCase")]
pub struct Forms {
    /// Small capitals for small letters (`smcp`).
    pub small_caps: bool,
    /// Figures of one width (`tnum`).
    pub tabular: bool,
    /// Figures with ascenders and descenders (`onum`).
    pub old_figures: bool,
    /// Letters stay apart (`liga` and `clig` off).
    pub no_ligatures: bool,
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
    /// What light does to it, in order.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<Effect>>", optional)]
    pub effects: Vec<Effect>,
    /// A shape behind its words.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub backing: Option<Backing>,
    /// Blurs what lies behind it, seen through its own paint; twice the standard deviation, at a place scale of one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub frost: Option<Length>,
    /// How the picture it shows is treated, in order.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<Treatment>>", optional)]
    pub treatments: Vec<Treatment>,
    /// What of the picture it shows is seen.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub cut_out: Option<CutOut>,
    /// How the picture it shows is set upright.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub upright: Option<Upright>,
}

impl Default for Look {
    fn default() -> Self {
        Self {
            fill: Some(Paint::flat(Color::BLACK)),
            stroke: None,
            opacity: Ratio::ONE,
            blend: Blend::Normal,
            type_look: None,
            effects: Vec::new(),
            backing: None,
            frost: None,
            treatments: Vec::new(),
            cut_out: None,
            upright: None,
        }
    }
}

impl Look {
    /// Why it cannot be kept, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        if !self.opacity.is_fraction() {
            return Some(Fault::Opacity);
        }
        if self.effects.len() > Effect::MOST {
            return Some(Fault::EffectCount);
        }
        if self.treatments.len() > Treatment::MOST {
            return Some(Fault::TreatmentCount);
        }
        if self.frost.is_some_and(|frost| frost.raw() < 0 || frost > Length::inches(10.0)) {
            return Some(Fault::Frost);
        }
        let parts = self
            .fill
            .as_ref()
            .and_then(Paint::fault)
            .or_else(|| self.stroke.as_ref()?.fault())
            .or_else(|| self.backing.as_ref()?.fault());
        let parts = parts.or_else(|| self.treatments.iter().find_map(Treatment::fault));
        let parts = parts.or_else(|| self.cut_out.as_ref()?.fault()).or_else(|| self.upright.as_ref()?.fault());
        parts.or_else(|| self.effects.iter().find_map(Effect::fault)).or_else(|| self.type_look.as_ref()?.fault())
    }

    /// All paints of the look.
    pub fn paints(&self) -> impl Iterator<Item = &Paint> {
        let backing = self
            .backing
            .iter()
            .flat_map(|backing| backing.fill.iter().chain(backing.stroke.iter().map(|stroke| &stroke.paint)));
        self.fill.iter().chain(self.stroke.iter().map(|stroke| &stroke.paint)).chain(backing)
    }

    /// All colours of the look.
    pub fn tints(&self) -> impl Iterator<Item = &Tint> {
        let treated = self.treatments.iter().flat_map(Treatment::tints);
        self.paints().flat_map(Paint::tints).chain(self.effects.iter().filter_map(Effect::tint)).chain(treated)
    }

    /// All colours of the look, to be changed.
    pub fn tints_mut(&mut self) -> impl Iterator<Item = &mut Tint> {
        let backing = self.backing.iter_mut().flat_map(|backing| {
            backing.fill.iter_mut().chain(backing.stroke.iter_mut().map(|stroke| &mut stroke.paint))
        });
        let paints = self.fill.iter_mut().chain(self.stroke.iter_mut().map(|stroke| &mut stroke.paint)).chain(backing);
        let treated = self.treatments.iter_mut().flat_map(Treatment::tints_mut);
        paints.flat_map(Paint::tints_mut).chain(self.effects.iter_mut().filter_map(Effect::tint_mut)).chain(treated)
    }

    /// The pictures its paints show and its treatments lay over.
    pub fn pictures(&self) -> impl Iterator<Item = &AssetId> {
        let mask = self.cut_out.iter().filter_map(|cut| cut.mask.as_ref());
        self.paints().filter_map(Paint::picture).chain(self.treatments.iter().flat_map(Treatment::pictures)).chain(mask)
    }
}

impl TypeLook {
    fn fault(&self) -> Option<Fault> {
        let floor = match self.fit {
            TextFit::Grow | TextFit::AsTyped => Ratio::ONE,
            TextFit::Widen { floor } | TextFit::Shrink { floor } | TextFit::Fill { floor } => floor,
        };
        let bend = if let Some(Curve::Arc { bend }) = self.curve { bend.to_degrees().abs() } else { 0.0 };
        if !(1..=1_000).contains(&self.weight) {
            Some(Fault::Weight)
        } else if !self.size.is_positive() || self.size > Length::inches(100.0) {
            Some(Fault::TypeSize)
        } else if !(0.3..=5.0).contains(&self.leading.get())
            || !(-0.5..=5.0).contains(&self.tracking.get())
            || !(0.0..=10.0).contains(&self.paragraph_gap.get())
        {
            Some(Fault::TypeSpacing)
        } else if !(0.01..=1.0).contains(&floor.get()) {
            Some(Fault::TypeFloor)
        } else if self.family.is_empty() || self.family.len() > 100 {
            Some(Fault::FamilyName)
        } else {
            (bend > 330.0 || self.lock_up == Some(0)).then_some(Fault::Bend)
        }
    }
}
