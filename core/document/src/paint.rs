//! What areas are filled with.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Angle, Length, Ratio};

use crate::{AssetId, Fault, Focus, Tint};

/// A colour at a place along a gradient.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Stop {
    /// 0 at the start to 1 at the end.
    pub at: Ratio,
    /// The colour there.
    pub tint: Tint,
    /// 0 is clear, 1 is as opaque as the colour itself.
    pub opacity: Ratio,
}

/// A figure that is repeated.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Motif {
    /// Dots in staggered rows.
    Dots,
    /// Straight bands.
    Stripes,
    /// A board of squares.
    Checks,
    /// Lines both ways.
    Lattice,
    /// Bands that turn at right angles.
    Zigzag,
    /// Half rounds like tiles on a roof.
    Scales,
    /// Small crosses.
    Crosses,
}

/// What an area is filled with.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum Paint {
    /// One colour.
    Flat {
        /// The colour.
        tint: Tint,
        /// 0 is clear, 1 is as opaque as the colour itself.
        opacity: Ratio,
    },
    /// Colours along a straight line across the box.
    Linear {
        /// Direction the colours run: 0 upward, 90 degrees to the right.
        angle: Angle,
        /// Two or more stops in rising order.
        stops: Vec<Stop>,
    },
    /// Colours from the centre of the box to its corners.
    Radial {
        /// Two or more stops in rising order.
        stops: Vec<Stop>,
    },
    /// Colours around the centre of the box.
    Conic {
        /// Where the first stop lies, clockwise from the top.
        angle: Angle,
        /// Two or more stops in rising order.
        stops: Vec<Stop>,
    },
    /// A repeated figure.
    Pattern {
        /// Which.
        motif: Motif,
        /// Colour of the figure.
        ink: Tint,
        /// Colour behind it; nothing is clear.
        ground: Option<Tint>,
        /// Distance of the figures at a place scale of one.
        size: Length,
        /// Turn of the whole, clockwise.
        angle: Angle,
    },
    /// A picture that covers the box.
    Picture {
        /// Which.
        picture: AssetId,
        /// The point that stays in view.
        focus: Focus,
        /// Size relative to just covering the box.
        zoom: Ratio,
    },
}

impl Paint {
    /// An opaque fill of one colour.
    #[must_use]
    pub fn flat(tint: impl Into<Tint>) -> Self {
        Self::Flat { tint: tint.into(), opacity: Ratio::ONE }
    }

    /// The colours it uses, in order.
    pub fn tints(&self) -> impl Iterator<Item = &Tint> {
        let (one, two, stops): (_, _, &[Stop]) = match self {
            Self::Flat { tint, .. } => (Some(tint), None, &[]),
            Self::Linear { stops, .. } | Self::Radial { stops } | Self::Conic { stops, .. } => (None, None, stops),
            Self::Pattern { ink, ground, .. } => (ground.as_ref(), Some(ink), &[]),
            Self::Picture { .. } => (None, None, &[]),
        };
        one.into_iter().chain(two).chain(stops.iter().map(|stop| &stop.tint))
    }

    /// The colours it uses, to be changed.
    pub fn tints_mut(&mut self) -> impl Iterator<Item = &mut Tint> {
        let (one, two, stops): (_, _, &mut [Stop]) = match self {
            Self::Flat { tint, .. } => (Some(tint), None, &mut []),
            Self::Linear { stops, .. } | Self::Radial { stops } | Self::Conic { stops, .. } => (None, None, stops),
            Self::Pattern { ink, ground, .. } => (ground.as_mut(), Some(ink), &mut []),
            Self::Picture { .. } => (None, None, &mut []),
        };
        one.into_iter().chain(two).chain(stops.iter_mut().map(|stop| &mut stop.tint))
    }

    /// The picture it shows, if any.
    #[must_use]
    pub fn picture(&self) -> Option<&AssetId> {
        if let Self::Picture { picture, .. } = self { Some(picture) } else { None }
    }

    /// Why it cannot be drawn, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        match self {
            Self::Flat { opacity, .. } => (!opacity.is_fraction()).then_some(Fault::Opacity),
            Self::Linear { stops, .. } | Self::Radial { stops } | Self::Conic { stops, .. } => {
                let sound = (2..=32).contains(&stops.len())
                    && stops.iter().all(|stop| stop.at.is_fraction() && stop.opacity.is_fraction())
                    && stops.is_sorted_by_key(|stop| stop.at);
                (!sound).then_some(Fault::Gradient)
            }
            Self::Pattern { size, .. } => {
                (*size < Length::css_px(0.5) || *size > Length::inches(100.0)).then_some(Fault::Pattern)
            }
            Self::Picture { focus, zoom, .. } => {
                let sound = focus.x.is_fraction() && focus.y.is_fraction() && (1.0..=100.0).contains(&zoom.get());
                (!sound).then_some(Fault::PictureFill)
            }
        }
    }
}
