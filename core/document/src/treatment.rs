//! How a picture is treated: an ordered list of steps, each with a strength, a switch and a mask, that never touch the original.
//!
//! Places in a picture are fractions of its width and height, lengths fractions of its longer side, so that they mean the same for
//! every size of it. What each step does to a pixel is said by the photo crate; docs/recipes.md has the formulas.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Angle, Ratio};

use crate::mask::{inside, sides, within};
use crate::{Area, AssetId, Blend, Fault, Focus, Mask, SpotPatch, Tint};

/// A point of a curve: what comes in, and what goes out, 0 to 1.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct CurvePoint {
    /// Encoded value that comes in.
    pub x: Ratio,
    /// Encoded value that goes out.
    pub y: Ratio,
}

/// A colour along a gradient of tones.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct ToneStop {
    /// 0 is black, 1 white.
    pub at: Ratio,
    /// What such tones become.
    pub tint: Tint,
}

/// A surface that is worked out from a number.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Texture {
    /// Smooth paper.
    FinePaper,
    /// Paper with the lines of its mould.
    LaidPaper,
    /// Rough paper for watercolours.
    Watercolour,
    /// Brown board.
    Cardboard,
    /// Paper with fibres and specks.
    Recycled,
    /// Crumpled paper.
    Crumpled,
    /// A sheet that was folded.
    Folded,
    /// Thin paper with soft folds.
    Tissue,
    /// Fine cloth.
    Linen,
    /// Coarse cloth.
    Canvas,
    /// Felt.
    Felt,
    /// A plastered wall.
    Plaster,
    /// Concrete.
    Concrete,
    /// Stone with veins.
    Stone,
    /// A board along its grain.
    Wood,
    /// Metal brushed one way.
    BrushedMetal,
    /// Dust on a negative.
    Dust,
    /// Scratches.
    Scratches,
    /// Dark specks.
    Specks,
    /// Rings and spots of what was spilt.
    Stains,
    /// Edges where water dried.
    TideMarks,
    /// Cracked paint or glaze.
    Crackle,
    /// Edges rubbed bare.
    WornEdges,
    /// Patches rubbed bare.
    Rubbed,
    /// Pools of thin ink.
    InkWash,
    /// Fine grit in patches.
    Grit,
}

impl Texture {
    /// All of them.
    pub const ALL: [Self; 26] = [
        Self::FinePaper,
        Self::LaidPaper,
        Self::Watercolour,
        Self::Cardboard,
        Self::Recycled,
        Self::Crumpled,
        Self::Folded,
        Self::Tissue,
        Self::Linen,
        Self::Canvas,
        Self::Felt,
        Self::Plaster,
        Self::Concrete,
        Self::Stone,
        Self::Wood,
        Self::BrushedMetal,
        Self::Dust,
        Self::Scratches,
        Self::Specks,
        Self::Stains,
        Self::TideMarks,
        Self::Crackle,
        Self::WornEdges,
        Self::Rubbed,
        Self::InkWash,
        Self::Grit,
    ];
}

/// What a step does. Strengths without another range lie between -1 and 1 and do nothing at 0.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", rename_all_fields = "camelCase", deny_unknown_fields)]
pub enum Develop {
    /// More or less light, as if exposed longer or shorter.
    Exposure {
        /// Stops, -5 to 5.
        ev: Ratio,
    },
    /// Lighter or darker, with more or less contrast.
    Tone {
        /// Lighter.
        brightness: Ratio,
        /// Light and dark further apart.
        contrast: Ratio,
    },
    /// Light by range of tones.
    Ranges {
        /// The light parts.
        highlights: Ratio,
        /// The dark parts.
        shadows: Ratio,
        /// Where white begins.
        whites: Ratio,
        /// Where black begins.
        blacks: Ratio,
    },
    /// Curves through points, of all channels and of each; fewer than two points leave a channel as it is.
    Curves {
        /// All channels.
        all: Vec<CurvePoint>,
        /// Red, after that of all.
        red: Vec<CurvePoint>,
        /// Green.
        green: Vec<CurvePoint>,
        /// Blue.
        blue: Vec<CurvePoint>,
    },
    /// The range of tones stretched over another.
    Levels {
        /// Becomes the darkest, 0 to 1.
        black: Ratio,
        /// Becomes the lightest, 0 to 1.
        white: Ratio,
        /// Exponent of the middle, 0.1 to 10; more than 1 is lighter.
        gamma: Ratio,
        /// The darkest there is, 0 to 1.
        out_black: Ratio,
        /// The lightest there is, 0 to 1.
        out_white: Ratio,
    },
    /// The colour of the light taken out.
    WhiteBalance {
        /// Colour temperature of the light in kelvin, 2,000 to 20,000; 6,504 changes nothing.
        kelvin: u32,
        /// Across it, green to magenta.
        tint: Ratio,
    },
    /// More or less colour.
    Colour {
        /// Of all colours.
        saturation: Ratio,
        /// Of quiet colours more than of loud ones.
        vibrance: Ratio,
        /// All hues turned.
        hue: Angle,
    },
    /// Eight ranges of hue by themselves: red, orange, yellow, green, cyan, blue, violet, magenta.
    Mixer {
        /// Turned, 1 being 30 degrees.
        hue: [Ratio; 8],
        /// Saturation.
        saturation: [Ratio; 8],
        /// Lightness.
        lightness: [Ratio; 8],
    },
    /// Dark and light parts tinted differently.
    SplitTone {
        /// Of the dark parts.
        shadows: Tint,
        /// Of the light parts.
        lights: Tint,
        /// Where the two meet, towards the light.
        balance: Ratio,
    },
    /// Grey, from channels by weight.
    Mono {
        /// Weight of red, -2 to 3.
        red: Ratio,
        /// Weight of green.
        green: Ratio,
        /// Weight of blue.
        blue: Ratio,
    },
    /// Tones become the colours of a gradient; two of them make a duotone.
    ToneMap {
        /// 2 to 12, rising.
        stops: Vec<ToneStop>,
    },
    /// A colour laid over.
    Wash {
        /// Which.
        tint: Tint,
        /// How it mixes.
        blend: Blend,
    },
    /// Edges made clearer.
    Sharpen {
        /// Standard deviation, a fraction of the longer side, up to 0.02.
        radius: Ratio,
        /// How much, 0 to 3.
        strength: Ratio,
        /// Differences below this are left alone, 0 to 0.5.
        threshold: Ratio,
    },
    /// Contrast of neighbouring parts, without halos at edges.
    LocalContrast {
        /// Of small things.
        fine: Ratio,
        /// Of large ones.
        broad: Ratio,
    },
    /// Local contrast of dark, middle and light tones by themselves.
    ToneContrast {
        /// Of dark tones.
        shadows: Ratio,
        /// Of middle tones.
        middles: Ratio,
        /// Of light tones.
        lights: Ratio,
        /// How far the darkest keep what they have, 0 to 1.
        protect_shadows: Ratio,
        /// How far the lightest keep what they have, 0 to 1.
        protect_lights: Ratio,
    },
    /// Grain of the sensor taken out.
    Denoise {
        /// Of lightness, 0 to 1.
        light: Ratio,
        /// Of colour, 0 to 1.
        colour: Ratio,
    },
    /// Haze taken out, or laid over.
    Haze {
        /// How much.
        strength: Ratio,
    },
    /// Evenly out of focus.
    Blur {
        /// Standard deviation, a fraction of the longer side, up to 0.2.
        radius: Ratio,
    },
    /// Out of focus as through a lens: lights become discs.
    LensBlur {
        /// Radius of the disc, a fraction of the longer side, up to 0.1.
        radius: Ratio,
        /// How much lights outshine the rest, 0 to 1.
        shine: Ratio,
    },
    /// Blurred outside an ellipse.
    FocusSpot {
        /// Its middle.
        centre: Focus,
        /// Half its width, a fraction of the longer side, up to 2.
        across: Ratio,
        /// Half its height, a fraction of the longer side.
        down: Ratio,
        /// Clockwise.
        turn: Angle,
        /// How much of it lies between sharp and blurred, 0 to 1.
        softness: Ratio,
        /// Standard deviation, a fraction of the longer side, up to 0.2.
        radius: Ratio,
    },
    /// Blurred beside a band.
    FocusBand {
        /// A point in its middle.
        centre: Focus,
        /// Half its width, a fraction of the longer side, up to 2.
        reach: Ratio,
        /// Of the band, clockwise from level.
        turn: Angle,
        /// How much of it lies between sharp and blurred, 0 to 1.
        softness: Ratio,
        /// Standard deviation, a fraction of the longer side, up to 0.2.
        radius: Ratio,
    },
    /// Drawn out along a line.
    Motion {
        /// Length, a fraction of the longer side, up to 0.5.
        length: Ratio,
        /// Clockwise from level.
        turn: Angle,
    },
    /// Drawn out from a point.
    Zoom {
        /// The point.
        centre: Focus,
        /// Length at the far edge, a fraction of the way to it, up to 0.8.
        length: Ratio,
    },
    /// Squares of one colour.
    Pixelate {
        /// Side of a square, a fraction of the longer side, up to 0.25.
        size: Ratio,
    },
    /// Film grain, the same for the same number.
    Grain {
        /// Size of a grain, a fraction of the longer side, up to 0.02.
        size: Ratio,
        /// How strong, 0 to 1.
        strength: Ratio,
        /// Uneven grains, 0 to 1.
        roughness: Ratio,
        /// Which grain.
        number: u32,
    },
    /// Darker or lighter towards the corners.
    Vignette {
        /// Below 0 darker, above 0 lighter.
        strength: Ratio,
        /// Where it begins, a fraction of the way to the corners, 0 to 1.
        reach: Ratio,
        /// How soft it begins, 0 to 1.
        softness: Ratio,
    },
    /// Light that fell in at an edge.
    Leak {
        /// Its colour.
        tint: Tint,
        /// From where, clockwise from the right.
        turn: Angle,
        /// How far it reaches, 0 to 1.
        reach: Ratio,
    },
    /// Blacks become grey, as prints fade.
    Fade {
        /// How much, 0 to 1.
        strength: Ratio,
    },
    /// Lights shine beyond their edges.
    Glow {
        /// Standard deviation, a fraction of the longer side, up to 0.1.
        radius: Ratio,
        /// How strong, 0 to 1.
        strength: Ratio,
        /// What is light enough, 0 to 1.
        threshold: Ratio,
    },
    /// Dots of one ink.
    Halftone {
        /// Distance of dots, a fraction of the longer side, up to 0.1.
        size: Ratio,
        /// Of the rows, clockwise.
        turn: Angle,
        /// Ink.
        ink: Tint,
        /// Paper.
        paper: Tint,
    },
    /// Few tones.
    Posterise {
        /// How many of each channel, 2 to 32.
        levels: u8,
    },
    /// A surface of paper, cloth or wear.
    Texture {
        /// Which.
        texture: Texture,
        /// How large, 1 being as large as the longer side, 0.1 to 4.
        size: Ratio,
        /// How strong, 0 to 1.
        strength: Ratio,
        /// The colour of its hollows.
        tint: Tint,
        /// Which of its kind.
        number: u32,
    },
    /// Another picture laid over.
    Overlay {
        /// Which.
        picture: AssetId,
        /// How it mixes.
        blend: Blend,
        /// Where its middle lies.
        centre: Focus,
        /// Its longer side as a fraction of that of the picture below, 0.01 to 10.
        scale: Ratio,
        /// Clockwise.
        turn: Angle,
    },
    /// Spots filled from their surroundings.
    Spots {
        /// In order.
        spots: Vec<SpotPatch>,
    },
    /// What is made clear, so that what lies below is seen.
    Clear {},
}

/// One step of a treatment.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase", deny_unknown_fields)]
pub struct Treatment {
    /// What it does.
    pub develop: Develop,
    /// How much of it, 0 to 1.
    pub amount: Ratio,
    /// Whether it is switched on.
    pub on: bool,
    /// Where; everywhere without one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub mask: Option<Mask>,
}

fn curve_sound(points: &[CurvePoint]) -> bool {
    points.len() <= 24
        && points.iter().all(|point| point.x.is_fraction() && point.y.is_fraction())
        && points.windows(2).all(|pair| pair[0].x < pair[1].x)
}

impl Develop {
    /// Whether all its values lie in their ranges.
    fn is_sound(&self) -> bool {
        let fractions = |values: &[Ratio]| values.iter().all(|value| value.is_fraction());
        match self {
            Self::Exposure { ev } => within(&[(*ev, -5.0, 5.0)]),
            Self::Tone { brightness, contrast } => sides(&[*brightness, *contrast]),
            Self::Ranges { highlights, shadows, whites, blacks } => sides(&[*highlights, *shadows, *whites, *blacks]),
            Self::Curves { all, red, green, blue } => {
                [all, red, green, blue].into_iter().all(|curve| curve_sound(curve))
            }
            Self::Levels { black, white, gamma, out_black, out_white } => {
                fractions(&[*black, *white, *out_black, *out_white]) && black < white && within(&[(*gamma, 0.1, 10.0)])
            }
            Self::WhiteBalance { kelvin, tint } => (2_000..=20_000).contains(kelvin) && sides(&[*tint]),
            Self::Colour { saturation, vibrance, .. } => sides(&[*saturation, *vibrance]),
            Self::Mixer { hue, saturation, lightness } => sides(hue) && sides(saturation) && sides(lightness),
            Self::SplitTone { balance, .. } => sides(&[*balance]),
            Self::Mono { red, green, blue } => within(&[(*red, -2.0, 3.0), (*green, -2.0, 3.0), (*blue, -2.0, 3.0)]),
            Self::ToneMap { stops } => {
                (2..=12).contains(&stops.len())
                    && stops.iter().all(|stop| stop.at.is_fraction())
                    && stops.windows(2).all(|pair| pair[0].at < pair[1].at)
            }
            Self::Wash { .. } => true,
            Self::Sharpen { radius, strength, threshold } => {
                within(&[(*radius, 0.0, 0.02), (*strength, 0.0, 3.0), (*threshold, 0.0, 0.5)])
            }
            Self::LocalContrast { fine, broad } => sides(&[*fine, *broad]),
            Self::ToneContrast { shadows, middles, lights, protect_shadows, protect_lights } => {
                sides(&[*shadows, *middles, *lights]) && fractions(&[*protect_shadows, *protect_lights])
            }
            Self::Denoise { light, colour } => fractions(&[*light, *colour]),
            Self::Haze { strength } => sides(&[*strength]),
            Self::Blur { radius } => within(&[(*radius, 0.0, 0.2)]),
            Self::LensBlur { radius, shine } => within(&[(*radius, 0.0, 0.1)]) && shine.is_fraction(),
            Self::FocusSpot { centre, across, down, softness, radius, .. } => {
                inside(*centre)
                    && within(&[(*across, 0.0, 2.0), (*down, 0.0, 2.0), (*radius, 0.0, 0.2)])
                    && softness.is_fraction()
            }
            Self::FocusBand { centre, reach, softness, radius, .. } => {
                inside(*centre) && within(&[(*reach, 0.0, 2.0), (*radius, 0.0, 0.2)]) && softness.is_fraction()
            }
            Self::Motion { length, .. } => within(&[(*length, 0.0, 0.5)]),
            Self::Zoom { centre, length } => inside(*centre) && within(&[(*length, 0.0, 0.8)]),
            Self::Pixelate { size } => within(&[(*size, 0.0, 0.25)]),
            Self::Grain { size, strength, roughness, .. } => {
                within(&[(*size, 0.0, 0.02)]) && fractions(&[*strength, *roughness])
            }
            Self::Vignette { strength, reach, softness } => sides(&[*strength]) && fractions(&[*reach, *softness]),
            Self::Leak { reach, .. } => reach.is_fraction(),
            Self::Fade { strength } => strength.is_fraction(),
            Self::Glow { radius, strength, threshold } => {
                within(&[(*radius, 0.0, 0.1)]) && fractions(&[*strength, *threshold])
            }
            Self::Halftone { size, .. } => within(&[(*size, 0.0, 0.1)]),
            Self::Posterise { levels } => (2..=32).contains(levels),
            Self::Texture { size, strength, .. } => within(&[(*size, 0.1, 4.0)]) && strength.is_fraction(),
            Self::Overlay { centre, scale, .. } => inside(*centre) && within(&[(*scale, 0.01, 10.0)]),
            Self::Spots { spots } => SpotPatch::are_sound(spots),
            Self::Clear {} => true,
        }
    }

    /// Its colours.
    fn tints(&self) -> Vec<&Tint> {
        match self {
            Self::SplitTone { shadows, lights, .. } => vec![shadows, lights],
            Self::ToneMap { stops } => stops.iter().map(|stop| &stop.tint).collect(),
            Self::Wash { tint, .. } | Self::Leak { tint, .. } | Self::Texture { tint, .. } => vec![tint],
            Self::Halftone { ink, paper, .. } => vec![ink, paper],
            _ => Vec::new(),
        }
    }

    fn tints_mut(&mut self) -> Vec<&mut Tint> {
        match self {
            Self::SplitTone { shadows, lights, .. } => vec![shadows, lights],
            Self::ToneMap { stops } => stops.iter_mut().map(|stop| &mut stop.tint).collect(),
            Self::Wash { tint, .. } | Self::Leak { tint, .. } | Self::Texture { tint, .. } => vec![tint],
            Self::Halftone { ink, paper, .. } => vec![ink, paper],
            _ => Vec::new(),
        }
    }
}

impl Develop {
    /// Whether it carries what is seen to places beside it.
    #[must_use]
    pub const fn spreads(&self) -> bool {
        matches!(
            self,
            Self::Blur { .. }
                | Self::LensBlur { .. }
                | Self::FocusSpot { .. }
                | Self::FocusBand { .. }
                | Self::Motion { .. }
                | Self::Zoom { .. }
                | Self::Pixelate { .. }
        )
    }

    /// How far it looks or carries, as a fraction of what its lengths are fractions of; nothing where it depends on all there is.
    #[must_use]
    pub fn reach(&self) -> Option<f64> {
        match self {
            Self::Exposure { .. }
            | Self::Tone { .. }
            | Self::Ranges { .. }
            | Self::Curves { .. }
            | Self::Levels { .. }
            | Self::WhiteBalance { .. }
            | Self::Colour { .. }
            | Self::Mixer { .. }
            | Self::SplitTone { .. }
            | Self::Mono { .. }
            | Self::ToneMap { .. }
            | Self::Wash { .. }
            | Self::Fade { .. }
            | Self::Clear {}
            | Self::Posterise { .. } => Some(0.0),
            Self::Blur { radius } | Self::Sharpen { radius, .. } => Some(3.0 * radius.get()),
            Self::LensBlur { radius, .. } => Some(radius.get()),
            _ => None,
        }
    }
}

impl Treatment {
    /// Most steps of one picture.
    pub const MOST: usize = 24;

    /// A step at full strength, everywhere.
    #[must_use]
    pub fn new(develop: Develop) -> Self {
        Self { develop, amount: Ratio::ONE, on: true, mask: None }
    }

    /// Why it cannot be done, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        let mask = self.mask.as_ref().is_none_or(Mask::is_sound);
        (!(self.amount.is_fraction() && self.develop.is_sound() && mask)).then_some(Fault::Treatment)
    }

    /// Its colours.
    pub fn tints(&self) -> impl Iterator<Item = &Tint> {
        let areas = self.mask.iter().flat_map(|mask| &mask.areas);
        let masked = areas.filter_map(|area| match &area.area {
            Area::Colour { tint, .. } => Some(tint),
            _ => None,
        });
        self.develop.tints().into_iter().chain(masked)
    }

    /// Its colours, to be changed.
    pub fn tints_mut(&mut self) -> impl Iterator<Item = &mut Tint> {
        let areas = self.mask.iter_mut().flat_map(|mask| &mut mask.areas);
        let masked = areas.filter_map(|area| match &mut area.area {
            Area::Colour { tint, .. } => Some(tint),
            _ => None,
        });
        self.develop.tints_mut().into_iter().chain(masked)
    }

    /// The pictures it needs: the one it lays over, and those that say what a subject is.
    pub fn pictures(&self) -> impl Iterator<Item = &AssetId> {
        let over = if let Develop::Overlay { picture, .. } = &self.develop { Some(picture) } else { None };
        over.into_iter().chain(self.subjects())
    }

    /// The masks of subjects it looks at.
    fn subjects(&self) -> impl Iterator<Item = &AssetId> {
        let areas = self.mask.iter().flat_map(|mask| &mask.areas);
        areas.filter_map(|area| if let Area::Subject { mask } = &area.area { Some(mask) } else { None })
    }

    /// Whether it says something about one picture alone: spots filled in it, or what is its subject.
    #[must_use]
    pub fn is_of_one_picture(&self) -> bool {
        matches!(self.develop, Develop::Spots { .. }) || self.subjects().next().is_some()
    }

    /// Whether it leaves every pixel as it is.
    #[must_use]
    pub fn is_idle(&self) -> bool {
        !self.on
            || self.amount == Ratio::ZERO
            || self.mask.as_ref().is_some_and(|mask| mask.density == Ratio::ZERO && !mask.inverted)
    }
}
