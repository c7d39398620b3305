//! What an item says or shows, and the part it plays.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::Ratio;

use crate::{AssetId, Code, Drawing, Fault, Outline, RichText, Tint};

/// The part an item plays in the message.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Part {
    /// What matters most.
    Headline,
    /// A line that carries the headline further.
    Support,
    /// Day and hour.
    When,
    /// Place.
    Where,
    /// Any other fact.
    Detail,
    /// Price.
    Price,
    /// What the reader should do next.
    Action,
    /// How to reach the maker.
    Contact,
    /// Conditions and notes.
    SmallPrint,
    /// The maker's mark or name.
    Mark,
    /// The picture that carries the piece.
    MainPicture,
    /// Any other picture.
    Picture,
    /// A flat area behind other parts.
    Panel,
    /// Decoration.
    Ornament,
}

impl Part {
    /// All of them.
    pub const ALL: [Self; 14] = [
        Self::Headline,
        Self::Support,
        Self::When,
        Self::Where,
        Self::Detail,
        Self::Price,
        Self::Action,
        Self::Contact,
        Self::SmallPrint,
        Self::Mark,
        Self::MainPicture,
        Self::Picture,
        Self::Panel,
        Self::Ornament,
    ];

    /// Plain name, as shown to people.
    #[must_use]
    pub const fn name(self) -> &'static str {
        match self {
            Self::Headline => "Headline",
            Self::Support => "Second line",
            Self::When => "When",
            Self::Where => "Where",
            Self::Detail => "Detail",
            Self::Price => "Price",
            Self::Action => "Call to action",
            Self::Contact => "Contact",
            Self::SmallPrint => "Small print",
            Self::Mark => "Mark",
            Self::MainPicture => "Main picture",
            Self::Picture => "Picture",
            Self::Panel => "Panel",
            Self::Ornament => "Ornament",
        }
    }
}

/// The point of a picture that must stay in view, as fractions of its width and height.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Focus {
    /// 0 is the left edge.
    pub x: Ratio,
    /// 0 is the top edge.
    pub y: Ratio,
}

impl Focus {
    /// The middle of the picture.
    pub const CENTRE: Self = Self { x: Ratio::HALF, y: Ratio::HALF };
}

/// How a picture takes up its frame.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum PictureFit {
    /// Covers it; what is left over is cut off.
    #[default]
    Fill,
    /// Lies whole inside it.
    Fit,
    /// Repeats over it; the zoom is the share of the frame's width one copy takes.
    Tile,
}

/// What an item says or shows.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum Content {
    /// Words.
    Words {
        /// The text; while it is blank the prompt is shown on the stage and nothing is exported.
        text: RichText,
        /// What belongs here, in plain words.
        prompt: String,
    },
    /// A frame and the picture in it.
    Picture {
        /// The picture; an empty frame is shown on the stage and not exported.
        picture: Option<AssetId>,
        /// The point that stays in view.
        focus: Focus,
        /// The outline of the frame.
        frame: Outline,
        /// How the picture takes it up.
        #[serde(default)]
        fit: PictureFit,
    },
    /// A shape.
    Shape {
        /// Its outline.
        outline: Outline,
    },
    /// A vector graphic.
    Drawing {
        /// The graphic.
        drawing: Drawing,
    },
    /// A scannable code.
    Code {
        /// What it says and how.
        code: Code,
    },
}

impl Content {
    /// Longest text of one item, in bytes.
    pub const LONGEST_TEXT: usize = 20_000;

    /// Why it cannot be kept, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        match self {
            Self::Words { text, prompt } if text.text().len() > Self::LONGEST_TEXT || prompt.len() > 500 => {
                Some(Fault::TextLength)
            }
            Self::Words { text, .. } => text.runs().iter().find_map(|run| {
                let weight_ok = run.style.weight.is_none_or(|w| (1..=1_000).contains(&w));
                let size_ok = run.style.size.is_none_or(|s| (0.05..=20.0).contains(&s.get()));
                (!weight_ok || !size_ok).then_some(Fault::RangeStyle)
            }),
            Self::Picture { focus, frame, .. } => {
                if focus.x.is_fraction() && focus.y.is_fraction() {
                    frame.fault()
                } else {
                    Some(Fault::PictureFocus)
                }
            }
            Self::Shape { outline } => outline.fault(),
            Self::Drawing { drawing } => drawing.fault(),
            Self::Code { code } => code.fault(),
        }
    }

    /// The words, if it has any.
    #[must_use]
    pub fn words(&self) -> Option<&RichText> {
        if let Self::Words { text, .. } = self { Some(text) } else { None }
    }

    /// The colours it brings with it.
    pub fn tints(&self) -> impl Iterator<Item = &Tint> {
        let words = self.words().into_iter().flat_map(RichText::runs).filter_map(|run| run.style.tint.as_ref());
        let drawn = match self {
            Self::Drawing { drawing } => drawing.tints(),
            Self::Code { code } => code.ground.iter().collect(),
            Self::Words { .. } | Self::Picture { .. } | Self::Shape { .. } => Vec::new(),
        };
        words.chain(drawn)
    }

    /// Every picture it needs: the one it shows, or those inside its drawing.
    pub fn pictures(&self) -> impl Iterator<Item = &AssetId> {
        let drawn = match self {
            Self::Drawing { drawing } => drawing.pictures(),
            Self::Code { code } => code.mark.iter().collect(),
            Self::Words { .. } | Self::Picture { .. } | Self::Shape { .. } => Vec::new(),
        };
        self.picture().into_iter().chain(drawn)
    }

    /// The picture, if it shows one.
    #[must_use]
    pub fn picture(&self) -> Option<&AssetId> {
        if let Self::Picture { picture, .. } = self { picture.as_ref() } else { None }
    }
}
