//! How words are set: all of an item, or some of its letters.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{
    Align, Command, Curve, Forms, Hyphens, ItemId, Job, ListMark, Place, RunStyle, StyleChange, TextFit, TypeLook,
    VAlign,
};
use vatman_type::FontLibrary;
use vatman_units::{Angle, Placement, Ratio, Rect};

use crate::edit::target::looks;
use crate::refusal::Refusal;

/// How text and box go together.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum FitKind {
    /// The box grows with the lines.
    Grow,
    /// Lines as typed.
    AsTyped,
    /// The box widens with the words, up to the room there is.
    Widen,
    /// The type shrinks to fit its box.
    Shrink,
    /// As large as fits its box.
    Fill,
}

/// The line words run along.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum CurveKind {
    /// Straight.
    None,
    /// Bent.
    Arc,
    /// Round a circle.
    Circle,
}

/// What changes about how words are set; what is absent stays.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(default, rename_all = "camelCase", deny_unknown_fields)]
#[ts(optional_fields)]
pub struct TypeChange {
    /// Family; weight and slope go to the nearest it has.
    pub family: Option<String>,
    /// Weight, 1 to 1,000.
    pub weight: Option<u16>,
    /// Italic.
    pub italic: Option<bool>,
    /// Distance of baselines as a ratio of the size.
    pub leading: Option<Ratio>,
    /// Extra distance between letters as a ratio of the size.
    pub tracking: Option<Ratio>,
    /// Lines in the box.
    pub align: Option<Align>,
    /// Block in the box.
    pub valign: Option<VAlign>,
    /// Shown in capitals.
    pub caps: Option<bool>,
    /// Underlined.
    pub underline: Option<bool>,
    /// Struck through.
    pub strike: Option<bool>,
    /// Text and box.
    pub fit: Option<FitKind>,
    /// Extra distance between paragraphs as a ratio of the size.
    pub paragraph_gap: Option<Ratio>,
    /// Mark before each paragraph.
    pub list: Option<ListMark>,
    /// Forms of letters and figures.
    pub forms: Option<Forms>,
    /// Another kind of line the words run along, as it begins.
    pub curve: Option<CurveKind>,
    /// How far a bent line bends.
    pub bend: Option<Angle>,
    /// Where the middle of words on a circle lies.
    pub at: Option<Angle>,
    /// Whether words on a circle stand inside it, running the other way; they go to the opposite end then.
    pub inward: Option<bool>,
    /// The number of the arrangement in which the words become one block; nothing sets them plainly.
    #[serde(deserialize_with = "crate::edit::target::given")]
    #[ts(optional, type = "number | null")]
    pub lock_up: Option<Option<u8>>,
    /// The language whose words may be divided; nothing keeps words whole.
    #[serde(deserialize_with = "crate::edit::target::given")]
    #[ts(optional, type = "Hyphens | null")]
    pub hyphens: Option<Option<Hyphens>>,
}

/// How new words stand: they widen, then shrink to this share of their size, and break only then.
pub(crate) const WIDEN: TextFit = TextFit::Widen { floor: Ratio::thousandths(600) };
/// The least share of its size to which fitted type shrinks.
const FLOOR: f64 = 0.35;
/// How far a line bends at first, in degrees.
const BEND: f64 = 60.0;

/// The weight of a family nearest to a wanted one; the wanted one where the family is not at hand.
fn nearest_weight(library: &FontLibrary, family: &str, wanted: u16) -> u16 {
    let weights = library.weights(family);
    weights.into_iter().min_by_key(|weight| (weight.abs_diff(wanted), *weight)).unwrap_or(wanted)
}

impl TypeChange {
    fn apply(&self, look: &mut TypeLook, library: &FontLibrary) {
        if let Some(family) = &self.family {
            look.weight = nearest_weight(library, family, look.weight);
            look.italic &= library.has_italic(family);
            look.family.clone_from(family);
        }
        look.weight = self.weight.unwrap_or(look.weight);
        look.italic = self.italic.unwrap_or(look.italic);
        look.leading = self.leading.unwrap_or(look.leading);
        look.tracking = self.tracking.unwrap_or(look.tracking);
        look.align = self.align.unwrap_or(look.align);
        look.valign = self.valign.unwrap_or(look.valign);
        look.caps = self.caps.unwrap_or(look.caps);
        look.underline = self.underline.unwrap_or(look.underline);
        look.strike = self.strike.unwrap_or(look.strike);
        look.paragraph_gap = self.paragraph_gap.unwrap_or(look.paragraph_gap);
        look.list = self.list.unwrap_or(look.list);
        look.forms = self.forms.unwrap_or(look.forms);
        let floor = Ratio::new(FLOOR);
        if let Some(fit) = self.fit {
            look.fit = match fit {
                FitKind::Grow => TextFit::Grow,
                FitKind::AsTyped => TextFit::AsTyped,
                FitKind::Widen => WIDEN,
                FitKind::Shrink => TextFit::Shrink { floor },
                FitKind::Fill => TextFit::Fill { floor },
            };
        }
        if let Some(curve) = self.curve {
            look.curve = match curve {
                CurveKind::None => None,
                CurveKind::Arc => Some(Curve::Arc { bend: Angle::degrees(BEND) }),
                CurveKind::Circle => Some(Curve::Circle { at: Angle::ZERO, inward: false }),
            };
        }
        match &mut look.curve {
            Some(Curve::Arc { bend }) => *bend = self.bend.unwrap_or(*bend),
            Some(Curve::Circle { at, inward }) => {
                if let Some(turned) = self.inward {
                    *inward = turned;
                    *at = if turned { Angle::degrees(180.0) } else { Angle::ZERO };
                }
                *at = self.at.unwrap_or(*at);
            }
            None => {}
        }
        if let Some(number) = self.lock_up {
            look.lock_up = number;
            // A block stands straight.
            look.curve = look.curve.filter(|_| number.is_none());
        }
        look.hyphens = self.hyphens.unwrap_or(look.hyphens);
    }
}

/// Changes how the words of items are set. Words that come to run round a circle get a box as high as it is wide.
///
/// # Errors
/// [`Refusal`] where one is not there.
pub fn change_type(
    job: &Job,
    items: &[ItemId],
    change: &TypeChange,
    library: &FontLibrary,
) -> Result<Command, Refusal> {
    let looks = looks(job, items, |_, look| {
        if let Some(look) = &mut look.type_look {
            change.apply(look, library);
        }
        Ok(())
    })?;
    if change.curve != Some(CurveKind::Circle) {
        return Ok(looks);
    }
    let mut commands = Vec::new();
    for id in items {
        let item = job.find(id)?.item;
        let rect = item.place.at.rect;
        let long = rect.w.max(rect.h);
        let at = Placement { rect: Rect { w: long, h: long, ..rect }, ..item.place.at };
        commands.push(Command::SetPlace { item: id.clone(), place: Place { at, ..item.place } });
    }
    Ok(Command::All { commands }.then(looks))
}

/// A style of letters that is on or off.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum LetterStyle {
    /// Bold.
    Bold,
    /// Italic.
    Italic,
    /// Underlined.
    Underline,
}

/// Changes the style of the letters from one offset to another, in UTF-16 units; a family takes the weight nearest to theirs.
///
/// # Errors
/// [`Refusal`] where the item is not there or holds no words.
pub fn style_letters(
    job: &Job,
    item: &ItemId,
    (from, to): (usize, usize),
    change: &StyleChange,
    library: &FontLibrary,
) -> Result<Command, Refusal> {
    let plain = job.find(item)?.plain()?;
    let text = plain.content.words().ok_or(Refusal::NoWords)?;
    let mut change = change.clone();
    if let (Some(family), None) = (&change.set.family, change.set.weight) {
        let own = text.style_at(from).weight.or(plain.look.type_look.as_ref().map(|look| look.weight));
        change.set.weight = Some(nearest_weight(library, family, own.unwrap_or(400)));
    }
    Ok(Command::StyleWords { target: plain.content_target(), from, to, change })
}

/// Turns a style of letters over: on where the first of them does not have it, else off.
///
/// # Errors
/// [`Refusal`] where the item is not there or holds no words.
pub fn toggle_letters(
    job: &Job,
    item: &ItemId,
    (from, to): (usize, usize),
    style: LetterStyle,
) -> Result<Command, Refusal> {
    let plain = job.find(item)?.plain()?;
    let own = plain.content.words().ok_or(Refusal::NoWords)?.style_at(from);
    let look = plain.look.type_look.clone().unwrap_or_default();
    let set = match style {
        LetterStyle::Bold => {
            let bold = own.weight.unwrap_or(look.weight) >= 600;
            RunStyle { weight: Some(if bold { 400 } else { 700 }), ..RunStyle::default() }
        }
        LetterStyle::Italic => RunStyle { italic: Some(!own.italic.unwrap_or(look.italic)), ..RunStyle::default() },
        LetterStyle::Underline => {
            RunStyle { underline: Some(!own.underline.unwrap_or(look.underline)), ..RunStyle::default() }
        }
    };
    let change = StyleChange { set, ..StyleChange::default() };
    Ok(Command::StyleWords { target: plain.content_target(), from, to, change })
}
