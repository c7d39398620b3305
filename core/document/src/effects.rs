//! Lines along outlines, mixing, and the effects an item can carry.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Angle, Length, Ratio};

use crate::{Fault, Outline, Paint, Tint};

/// Where a line lies relative to the outline it follows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum StrokePlace {
    /// Half inside, half outside.
    #[default]
    Centre,
    /// Wholly inside.
    Inside,
    /// Wholly outside.
    Outside,
}

/// How a line turns a corner.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Join {
    /// Pointed, to four times half the width.
    #[default]
    Mitre,
    /// Round.
    Round,
    /// Cut off.
    Bevel,
}

/// How a line or a dash ends.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Cap {
    /// At its end.
    #[default]
    Flat,
    /// Half round beyond its end.
    Round,
    /// Half its width beyond its end.
    Square,
}

/// A line along an outline.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Stroke {
    /// What it is drawn with.
    pub paint: Paint,
    /// Width at a place scale of one.
    pub width: Length,
    /// Side of the outline.
    #[serde(default)]
    pub place: StrokePlace,
    /// Corners.
    #[serde(default)]
    pub join: Join,
    /// Ends.
    #[serde(default)]
    pub cap: Cap,
    /// Lengths of dashes and gaps in turn, in widths of the line; empty for an unbroken line.
    #[serde(default)]
    pub dash: Vec<Ratio>,
}

impl Stroke {
    /// An unbroken line of a width, centred on its outline.
    #[must_use]
    pub fn solid(paint: Paint, width: Length) -> Self {
        Self { paint, width, place: StrokePlace::Centre, join: Join::Mitre, cap: Cap::Flat, dash: Vec::new() }
    }

    /// Why it cannot be drawn, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        if self.width.raw() < 0 || self.width > Length::inches(100.0) {
            return Some(Fault::LineWidth);
        }
        if let Some(problem) = self.paint.fault() {
            return Some(problem);
        }
        let dashes_ok = self.dash.len() <= 8
            && self.dash.len().is_multiple_of(2)
            && self.dash.iter().all(|part| (0.0..=100.0).contains(&part.get()));
        // Dashes of no length are dots where ends reach out, and nothing where they do not.
        let seen =
            self.dash.is_empty() || self.cap != Cap::Flat || self.dash.iter().step_by(2).any(|part| part.get() > 0.05);
        (!dashes_ok || !seen).then_some(Fault::Dashes)
    }
}

/// How an item mixes with what lies below it (W3C Compositing and Blending Level 1).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Blend {
    /// Covers.
    #[default]
    Normal,
    /// Multiplies: darkens.
    Multiply,
    /// Multiplies the complements: lightens.
    Screen,
    /// Darkens the dark below and lightens the light below.
    Overlay,
    /// The darker of each channel.
    Darken,
    /// The lighter of each channel.
    Lighten,
    /// Brightens what lies below by the colour.
    ColorDodge,
    /// Darkens what lies below by the colour.
    ColorBurn,
    /// Darkens or lightens by the colour.
    HardLight,
    /// As hard light, gently.
    SoftLight,
    /// The distance of each channel.
    Difference,
    /// As difference, with less contrast.
    Exclusion,
    /// Hue of the item, saturation and luminosity of what lies below.
    Hue,
    /// Saturation of the item.
    Saturation,
    /// Hue and saturation of the item.
    Color,
    /// Luminosity of the item.
    Luminosity,
}

impl Blend {
    /// All of them.
    pub const ALL: [Self; 16] = [
        Self::Normal,
        Self::Multiply,
        Self::Screen,
        Self::Overlay,
        Self::Darken,
        Self::Lighten,
        Self::ColorDodge,
        Self::ColorBurn,
        Self::HardLight,
        Self::SoftLight,
        Self::Difference,
        Self::Exclusion,
        Self::Hue,
        Self::Saturation,
        Self::Color,
        Self::Luminosity,
    ];
}

/// Something light does to an item. Lengths are at a place scale of one; a blur is twice the standard deviation of the
/// Gaussian it stands for.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum Effect {
    /// A shadow on what lies behind.
    Shadow {
        /// To the right.
        dx: Length,
        /// Down.
        dy: Length,
        /// Softness.
        blur: Length,
        /// Colour.
        tint: Tint,
        /// 0 to 1.
        opacity: Ratio,
    },
    /// A shadow the edges throw inward, as if cut out.
    InnerShadow {
        /// To the right.
        dx: Length,
        /// Down.
        dy: Length,
        /// Softness.
        blur: Length,
        /// Colour.
        tint: Tint,
        /// 0 to 1.
        opacity: Ratio,
    },
    /// Raised or pressed edges: light and shade along the rim.
    Relief {
        /// Where the light comes from, clockwise from above.
        light: Angle,
        /// Width of the lit rim.
        depth: Length,
        /// Softness of the rim.
        blur: Length,
        /// 0 to 1.
        strength: Ratio,
        /// Pressed in instead of raised.
        pressed: bool,
    },
    /// A shadow cast on the ground it stands on.
    Cast {
        /// Where it falls, clockwise from away from who looks.
        turn: Angle,
        /// How long it is, as a ratio of the height, 0.02 to 4.
        length: Ratio,
        /// Softness.
        blur: Length,
        /// Colour.
        tint: Tint,
        /// 0 to 1.
        opacity: Ratio,
        /// Where the ground is, as a share of the height from the top, -1 to 2.
        ground: Ratio,
    },
    /// The shadow right under it.
    Contact {
        /// Softness.
        blur: Length,
        /// Colour.
        tint: Tint,
        /// 0 to 1.
        opacity: Ratio,
        /// Where the ground is, as a share of the height from the top.
        ground: Ratio,
    },
    /// Its image in a ground that shines.
    Reflection {
        /// Between it and its image.
        gap: Length,
        /// How much of the height is seen until it has faded out, 0 to 1.
        reach: Ratio,
        /// Softness.
        blur: Length,
        /// Where it is strongest, 0 to 1.
        opacity: Ratio,
        /// Where the ground is, as a share of the height from the top.
        ground: Ratio,
    },
    /// A rim around what is seen of it, like that of a sticker.
    Rim {
        /// How wide it is.
        width: Length,
        /// Colour.
        tint: Tint,
        /// 0 to 1.
        opacity: Ratio,
        /// Whether its outer edge leaves as a cutting line where files can say one.
        cut: bool,
    },
}

impl Effect {
    /// Most effects of one item.
    pub const MOST: usize = 12;

    /// Why it cannot be drawn, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        let far = Length::inches(20.0);
        let standing = |ground: &Ratio| (-1.0..=2.0).contains(&ground.get());
        let stands = match self {
            Self::Cast { length, ground, .. } => standing(ground) && (0.02..=4.0).contains(&length.get()),
            Self::Contact { ground, .. } => standing(ground),
            Self::Reflection { reach, ground, .. } => standing(ground) && reach.is_fraction(),
            Self::Shadow { .. } | Self::InnerShadow { .. } | Self::Relief { .. } | Self::Rim { .. } => true,
        };
        if !stands {
            return Some(Fault::Ground);
        }
        let (lengths, blur, share) = match self {
            Self::Cast { blur, opacity, .. } | Self::Contact { blur, opacity, .. } => {
                ([Length::ZERO; 2], *blur, *opacity)
            }
            Self::Reflection { gap, blur, opacity, .. } => ([*gap, Length::ZERO], *blur, *opacity),
            Self::Shadow { dx, dy, blur, opacity, .. } | Self::InnerShadow { dx, dy, blur, opacity, .. } => {
                ([*dx, *dy], *blur, *opacity)
            }
            Self::Relief { depth, blur, strength, .. } => ([*depth, Length::ZERO], *blur, *strength),
            Self::Rim { width, opacity, .. } => ([Length::ZERO; 2], *width, *opacity),
        };
        if lengths.iter().any(|length| length.abs() > far) || blur.raw() < 0 || blur > far {
            return Some(Fault::ShadowReach);
        }
        if matches!(self, Self::Relief { depth, .. } if depth.raw() < 0) {
            return Some(Fault::ReliefDepth);
        }
        (!share.is_fraction()).then_some(Fault::EffectStrength)
    }

    /// Its colour, if it has one of its own.
    #[must_use]
    pub fn tint(&self) -> Option<&Tint> {
        match self {
            Self::Shadow { tint, .. }
            | Self::InnerShadow { tint, .. }
            | Self::Cast { tint, .. }
            | Self::Contact { tint, .. }
            | Self::Rim { tint, .. } => Some(tint),
            Self::Relief { .. } | Self::Reflection { .. } => None,
        }
    }

    /// Its colour, to be changed.
    pub fn tint_mut(&mut self) -> Option<&mut Tint> {
        match self {
            Self::Shadow { tint, .. }
            | Self::InnerShadow { tint, .. }
            | Self::Cast { tint, .. }
            | Self::Contact { tint, .. }
            | Self::Rim { tint, .. } => Some(tint),
            Self::Relief { .. } | Self::Reflection { .. } => None,
        }
    }
}

/// What a backing reaches around.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Reach {
    /// Each line by itself.
    Lines,
    /// All lines together, closely: grows and shrinks with the words.
    Words,
    /// The whole box.
    Box,
}

/// A shape behind words that follows them: a highlight, a panel, a button.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields, rename_all = "camelCase")]
pub struct Backing {
    /// What it reaches around.
    pub reach: Reach,
    /// Its shape.
    pub outline: Outline,
    /// Its fill.
    pub fill: Option<Paint>,
    /// Its line.
    pub stroke: Option<Stroke>,
    /// Clear space left and right of the words, in sizes of the type.
    pub pad_x: Ratio,
    /// Clear space above and below the words, in sizes of the type.
    pub pad_y: Ratio,
}

impl Backing {
    /// Why it cannot be drawn, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        if ![self.pad_x, self.pad_y].iter().all(|pad| (-1.0..=20.0).contains(&pad.get())) {
            return Some(Fault::BackingRoom);
        }
        self.outline.fault().or_else(|| self.fill.as_ref()?.fault()).or_else(|| self.stroke.as_ref()?.fault())
    }
}

/// A line words run along instead of a straight one. Words on a curve are one line.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum Curve {
    /// Around the circle that the box holds.
    Circle {
        /// The middle of the words, clockwise from the top.
        at: Angle,
        /// Read from the middle of the circle: the words stand inside it, running the other way.
        inward: bool,
    },
    /// Bent so that the line turns through an angle from its beginning to its end; negative sags.
    Arc {
        /// -330 to 330 degrees.
        bend: Angle,
    },
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{Color, Look, Stop, TypeLook};

    fn shadow(blur: f64, opacity: f64) -> Effect {
        Effect::Shadow {
            dx: Length::ZERO,
            dy: Length::ZERO,
            blur: Length::css_px(blur),
            tint: Color::BLACK.into(),
            opacity: Ratio::new(opacity),
        }
    }

    #[test]
    fn senseless_looks_are_refused_with_a_sentence() {
        let stroke = |width: f64, dash: &[f64]| Stroke {
            dash: dash.iter().map(|part| Ratio::new(*part)).collect(),
            ..Stroke::solid(Paint::flat(Color::BLACK), Length::css_px(width))
        };
        let stop = |at: f64| Stop { at: Ratio::new(at), tint: Color::BLACK.into(), opacity: Ratio::ONE };
        let bad: Vec<(&str, Look)> = vec![
            ("opacity", Look { opacity: Ratio::new(1.5), ..Look::default() }),
            ("negative blur", Look { effects: vec![shadow(-1.0, 0.5)], ..Look::default() }),
            ("strength", Look { effects: vec![shadow(1.0, 1.5)], ..Look::default() }),
            ("too many", Look { effects: vec![shadow(1.0, 0.5); 13], ..Look::default() }),
            ("frost", Look { frost: Some(Length::css_px(-1.0)), ..Look::default() }),
            ("negative line", Look { stroke: Some(stroke(-2.0, &[])), ..Look::default() }),
            ("odd dashes", Look { stroke: Some(stroke(2.0, &[1.0, 2.0, 3.0])), ..Look::default() }),
            ("unseen dashes", Look { stroke: Some(stroke(2.0, &[0.0, 2.0])), ..Look::default() }),
            (
                "falling stops",
                Look { fill: Some(Paint::Radial { stops: vec![stop(0.6), stop(0.2)] }), ..Look::default() },
            ),
            (
                "one stop",
                Look { fill: Some(Paint::Conic { angle: Angle::ZERO, stops: vec![stop(0.6)] }), ..Look::default() },
            ),
            (
                "endless pattern",
                Look {
                    fill: Some(Paint::Pattern {
                        motif: crate::Motif::Dots,
                        ink: Color::BLACK.into(),
                        ground: None,
                        size: Length::ZERO,
                        angle: Angle::ZERO,
                    }),
                    ..Look::default()
                },
            ),
            (
                "bend",
                Look {
                    type_look: Some(TypeLook {
                        curve: Some(Curve::Arc { bend: Angle::degrees(400.0) }),
                        ..TypeLook::default()
                    }),
                    ..Look::default()
                },
            ),
            (
                "arrangement 0",
                Look { type_look: Some(TypeLook { lock_up: Some(0), ..TypeLook::default() }), ..Look::default() },
            ),
        ];
        for (what, look) in bad {
            let sentence = look.fault().unwrap_or_else(|| panic!("{what} was taken")).to_string();
            assert!(sentence.ends_with('.') && sentence.contains(' '), "{what}: {sentence}");
        }
        let good = Look {
            effects: vec![shadow(4.0, 0.5)],
            stroke: Some(stroke(2.0, &[3.0, 2.0])),
            frost: Some(Length::css_px(9.0)),
            ..Look::default()
        };
        assert_eq!(good.fault(), None);
    }

    #[test]
    fn every_colour_of_a_look_is_found_and_changed() {
        let colors = [10u8, 20, 30, 40].map(|v| Color::opaque(v, v, v));
        let backing = Backing {
            reach: Reach::Words,
            outline: Outline::RECT,
            fill: Some(Paint::flat(colors[2])),
            stroke: None,
            pad_x: Ratio::ZERO,
            pad_y: Ratio::ZERO,
        };
        let effect = Effect::InnerShadow {
            dx: Length::ZERO,
            dy: Length::ZERO,
            blur: Length::ZERO,
            tint: colors[3].into(),
            opacity: Ratio::ONE,
        };
        let mut look = Look {
            fill: Some(Paint::flat(colors[0])),
            stroke: Some(Stroke::solid(Paint::flat(colors[1]), Length::css_px(1.0))),
            backing: Some(backing),
            effects: vec![effect],
            ..Look::default()
        };
        assert_eq!(look.tints().cloned().collect::<Vec<_>>(), colors.map(Tint::Own));
        look.tints_mut().for_each(|tint| *tint = Color::WHITE.into());
        assert!(look.tints().all(|tint| *tint == Tint::Own(Color::WHITE)) && look.tints().count() == 4);
    }
}
