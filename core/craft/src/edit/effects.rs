//! Lines, shadows, relief, panels and blur: what an item may be given, with the values each starts from, and their changes.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{
    Backing, Command, Content, Effect, Item, ItemId, Job, Join, Look, Outline, Paint, Plain, Reach, Stroke,
    StrokePlace, Tint,
};
use vatman_units::{Angle, Length, Ratio};

use crate::edit::painting::kept;
use crate::edit::target::looks;
use crate::look::sight::lowest;
use crate::refusal::Refusal;
use crate::studio::Studio;

/// Something an item may be given.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Gift {
    /// A line along its outline.
    Line,
    /// A shadow on what lies behind.
    Shadow,
    /// A shadow inward.
    InnerShadow,
    /// Raised edges.
    Relief,
    /// A shadow cast on the ground.
    Cast,
    /// The shadow right under it.
    Contact,
    /// Its image in the ground.
    Reflection,
    /// A rim around what is seen of it.
    Rim,
    /// A panel behind each line.
    Highlight,
    /// A panel that goes with the words.
    Button,
    /// A blur of what lies behind.
    Frost,
}

impl Gift {
    /// All of them, in the order they are offered.
    pub const ALL: [Self; 11] = [
        Self::Line,
        Self::Shadow,
        Self::InnerShadow,
        Self::Relief,
        Self::Contact,
        Self::Cast,
        Self::Reflection,
        Self::Rim,
        Self::Highlight,
        Self::Button,
        Self::Frost,
    ];

    fn fits(self, content: &Content, look: &Look) -> bool {
        let words = matches!(content, Content::Words { .. });
        let room = look.effects.len() < Effect::MOST;
        match self {
            Self::Line => look.stroke.is_none() && !matches!(content, Content::Drawing { .. } | Content::Code { .. }),
            Self::Shadow | Self::InnerShadow | Self::Cast | Self::Rim => room,
            Self::Contact => room && !look.effects.iter().any(|effect| matches!(effect, Effect::Contact { .. })),
            Self::Reflection => room && !look.effects.iter().any(|effect| matches!(effect, Effect::Reflection { .. })),
            Self::Relief => room && !look.effects.iter().any(|effect| matches!(effect, Effect::Relief { .. })),
            Self::Highlight | Self::Button => words && look.backing.is_none(),
            Self::Frost => look.frost.is_none(),
        }
    }
}

/// What an item may still be given.
#[must_use]
pub fn gifts(content: &Content, look: &Look) -> Vec<Gift> {
    Gift::ALL.into_iter().filter(|gift| gift.fits(content, look)).collect()
}

/// The length new effects start as a share of, so that they can be seen on a card and on a poster: the size of type as set, or four
/// tenths of the shorter side.
fn measure(job: &Job, item: &ItemId, studio: &Studio) -> Result<Length, Refusal> {
    let found = job.find(item)?;
    let scene = studio.scene(job, found.piece, found.side, vatman_scene::Audience::Stage, None);
    let drawn = scene.items.iter().find(|drawn| drawn.id == *item);
    let words = drawn.map(|drawn| drawn.type_size).filter(|size| *size > 0.0);
    let rect = found.item.place.at.rect;
    Ok(words.map_or_else(|| rect.w.min(rect.h).scaled(0.4), Length::css_px))
}

/// A shared colour on which the letters read, else any they do not have, else white or black.
fn panel_tint(job: &Job, look: &Look) -> Tint {
    let own = look.fill.as_ref().and_then(|fill| fill.tints().next());
    let ink = own.map(|tint| job.color(tint));
    let shared = || job.swatches.iter().map(|(id, swatch)| (Tint::Swatch(id.clone()), swatch.color));
    let ratio = |color: vatman_document::Color| ink.map_or(21.0, |ink| ink.contrast(color));
    let reads = shared().filter(|(_, color)| ratio(*color) >= 4.5).max_by(|a, b| ratio(a.1).total_cmp(&ratio(b.1)));
    let best = |color: vatman_document::Color| {
        let (white, black) = (vatman_document::Color::WHITE, vatman_document::Color::BLACK);
        if color.contrast(white) >= color.contrast(black) { white } else { black }
    };
    reads.map(|(tint, _)| tint).unwrap_or_else(|| ink.map_or(vatman_document::Color::WHITE, best).into())
}

/// Gives items something, with starting values that suit the size of the first.
///
/// # Errors
/// [`Refusal`] where one is not there.
pub fn give(job: &Job, items: &[ItemId], gift: Gift, studio: &Studio) -> Result<Command, Refusal> {
    let first = items.first().ok_or(Refusal::NothingSelected)?;
    let measure = measure(job, first, studio)?;
    let stands = matches!(gift, Gift::Cast | Gift::Contact | Gift::Reflection);
    looks(job, items, |plain, look| {
        if gift.fits(plain.content, look) {
            let ground = if stands { foot(job, plain.item, studio)? } else { Ratio::ONE };
            given(job, plain, look, gift, (kept(plain, measure), ground));
        }
        Ok(())
    })
}

/// Where the lowest of what is seen of an item ends, as a share of its height: that is where it stands.
fn foot(job: &Job, item: &Item, studio: &Studio) -> Result<Ratio, Refusal> {
    let found = job.find(&item.id)?;
    let scene = studio.scene(job, found.piece, found.side, vatman_scene::Audience::Stage, None);
    let drawn = scene.items.iter().find(|drawn| drawn.id == item.id).ok_or_else(|| Refusal::no_item(&item.id))?;
    Ok(Ratio::new(lowest(studio, drawn)))
}

fn given(job: &Job, plain: &Plain<'_>, look: &mut Look, gift: Gift, (measure, ground): (Length, Ratio)) {
    let part = |share: f64| measure.scaled(share).max(Length::from_raw(1));
    let black = || Tint::Own(vatman_document::Color::BLACK);
    let words = matches!(plain.content, Content::Words { .. });
    let panel = |reach, radius, pad_x, pad_y| Backing {
        reach,
        outline: Outline::Rect { radius },
        fill: Some(Paint::flat(panel_tint(job, look))),
        stroke: None,
        pad_x: Ratio::new(pad_x),
        pad_y: Ratio::new(pad_y),
    };
    match gift {
        Gift::Line => {
            let ink = vatman_document::Color::opaque(0x23, 0x20, 0x1d);
            look.stroke = Some(Stroke {
                place: if words { StrokePlace::Outside } else { StrokePlace::Centre },
                join: if words { Join::Round } else { Join::Mitre },
                ..Stroke::solid(Paint::flat(ink), part(if words { 0.06 } else { 0.05 }))
            });
        }
        Gift::Shadow => look.effects.push(plain_shadow(measure)),
        Gift::Rim => look.effects.push(Effect::Rim {
            width: part(0.06),
            tint: Tint::Own(vatman_document::Color::WHITE),
            opacity: Ratio::ONE,
            cut: false,
        }),
        Gift::InnerShadow => look.effects.push(Effect::InnerShadow {
            dx: part(0.03),
            dy: part(0.05),
            blur: part(0.08),
            tint: black(),
            opacity: Ratio::new(0.6),
        }),
        Gift::Relief => look.effects.push(Effect::Relief {
            light: Angle::degrees(-45.0),
            depth: part(0.03),
            blur: part(0.05),
            strength: Ratio::new(0.8),
            pressed: false,
        }),
        Gift::Cast => look.effects.push(Effect::Cast {
            turn: Angle::degrees(62.0),
            length: Ratio::new(0.55),
            blur: part(0.07),
            tint: black(),
            opacity: Ratio::new(0.32),
            ground,
        }),
        Gift::Contact => {
            look.effects.push(Effect::Contact { blur: part(0.06), tint: black(), opacity: Ratio::new(0.5), ground })
        }
        Gift::Reflection => look.effects.push(Effect::Reflection {
            gap: Length::ZERO,
            reach: Ratio::new(0.35),
            blur: part(0.01),
            opacity: Ratio::new(0.4),
            ground,
        }),
        Gift::Highlight => look.backing = Some(panel(Reach::Lines, Length::ZERO, 0.2, 0.0)),
        Gift::Button => look.backing = Some(panel(Reach::Words, part(0.4), 0.7, 0.35)),
        Gift::Frost => {
            look.frost = Some(part(0.3));
            // A panel that blurs has to be seen through.
            if let (Content::Shape { .. }, Some(Paint::Flat { opacity, .. })) = (plain.content, &mut look.fill) {
                *opacity = Ratio::new(0.3);
            }
        }
    }
}

/// A shadow as it starts on what measures so much.
pub(crate) fn plain_shadow(measure: Length) -> Effect {
    let part = |share: f64| measure.scaled(share).max(Length::from_raw(1));
    Effect::Shadow {
        dx: Length::ZERO,
        dy: part(0.08),
        blur: part(0.16),
        tint: Tint::Own(vatman_document::Color::BLACK),
        opacity: Ratio::new(0.4),
    }
}

/// What changes about an effect; what is absent, or what an effect of its kind does not have, stays.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields)]
#[ts(optional_fields)]
pub struct EffectChange {
    /// To the right, as seen in the piece.
    pub dx: Option<Length>,
    /// Down, as seen in the piece.
    pub dy: Option<Length>,
    /// Softness, as seen in the piece.
    pub blur: Option<Length>,
    /// Colour.
    pub tint: Option<Tint>,
    /// 0 to 1.
    pub strength: Option<Ratio>,
    /// Where the light comes from, clockwise from above.
    pub light: Option<Angle>,
    /// Width of the rim, as seen in the piece.
    pub depth: Option<Length>,
    /// Whether the edge of a rim leaves as a cutting line.
    pub cut: Option<bool>,
    /// Pressed in instead of raised.
    pub pressed: Option<bool>,
    /// Where a shadow falls, clockwise from away from who looks.
    pub turn: Option<Angle>,
    /// How long a shadow is, or how much of an image is seen, as a ratio of the height.
    pub length: Option<Ratio>,
    /// Where the ground is, as a share of the height from the top.
    pub ground: Option<Ratio>,
}

impl EffectChange {
    /// Changes an effect; `kept` says how lengths as seen are kept.
    pub(crate) fn apply(&self, kept: &dyn Fn(Length) -> Length, effect: &mut Effect) {
        let seen = |held: &mut Length, new: Option<Length>| *held = new.map_or(*held, kept);
        match effect {
            Effect::Shadow { dx, dy, blur, tint, opacity } | Effect::InnerShadow { dx, dy, blur, tint, opacity } => {
                seen(dx, self.dx);
                seen(dy, self.dy);
                seen(blur, self.blur);
                if let Some(new) = &self.tint {
                    *tint = new.clone();
                }
                *opacity = self.strength.unwrap_or(*opacity);
            }
            Effect::Cast { turn, length, blur, tint, opacity, ground } => {
                *turn = self.turn.unwrap_or(*turn);
                *length = self.length.unwrap_or(*length);
                seen(blur, self.blur);
                if let Some(new) = &self.tint {
                    *tint = new.clone();
                }
                *opacity = self.strength.unwrap_or(*opacity);
                *ground = self.ground.unwrap_or(*ground);
            }
            Effect::Contact { blur, tint, opacity, ground } => {
                seen(blur, self.blur);
                if let Some(new) = &self.tint {
                    *tint = new.clone();
                }
                *opacity = self.strength.unwrap_or(*opacity);
                *ground = self.ground.unwrap_or(*ground);
            }
            Effect::Reflection { gap, reach, blur, opacity, ground } => {
                seen(gap, self.dy);
                *reach = self.length.unwrap_or(*reach);
                seen(blur, self.blur);
                *opacity = self.strength.unwrap_or(*opacity);
                *ground = self.ground.unwrap_or(*ground);
            }
            Effect::Rim { width, tint, opacity, cut } => {
                seen(width, self.depth);
                if let Some(new) = &self.tint {
                    *tint = new.clone();
                }
                *opacity = self.strength.unwrap_or(*opacity);
                *cut = self.cut.unwrap_or(*cut);
            }
            Effect::Relief { light, depth, blur, strength, pressed } => {
                *light = self.light.unwrap_or(*light);
                seen(depth, self.depth);
                seen(blur, self.blur);
                *strength = self.strength.unwrap_or(*strength);
                *pressed = self.pressed.unwrap_or(*pressed);
            }
        }
    }
}

/// The place of the same effect in another look: the one of its kind that has as many of that kind before it.
fn same_effect(model: &[Effect], index: usize, other: &[Effect]) -> Option<usize> {
    let kind = std::mem::discriminant(model.get(index)?);
    let alike = |effect: &&Effect| std::mem::discriminant(*effect) == kind;
    let ordinal = model[..index].iter().filter(alike).count();
    let mut found = other.iter().enumerate().filter(|(_, effect)| alike(effect)).map(|(at, _)| at);
    found.nth(ordinal)
}

fn effects_of(job: &Job, items: &[ItemId], index: usize) -> Result<Vec<Effect>, Refusal> {
    let first = items.first().ok_or(Refusal::NothingSelected)?;
    let effects = job.find(first)?.plain()?.look.effects.clone();
    if index < effects.len() { Ok(effects) } else { Err(Refusal::Missing("effect", index.to_string())) }
}

/// Changes the effect that the first item has at a place of its list, and the same effect of the others; their other effects stay.
///
/// # Errors
/// [`Refusal`] where an item or the effect is not there.
pub fn change_effect(job: &Job, items: &[ItemId], index: usize, change: &EffectChange) -> Result<Command, Refusal> {
    let model = effects_of(job, items, index)?;
    looks(job, items, |plain, look| {
        if let Some(at) = same_effect(&model, index, &look.effects) {
            change.apply(&|seen| kept(plain, seen), &mut look.effects[at]);
        }
        Ok(())
    })
}

/// Takes away the effect that the first item has at a place of its list, and the same effect of the others.
///
/// # Errors
/// [`Refusal`] where an item or the effect is not there.
pub fn drop_effect(job: &Job, items: &[ItemId], index: usize) -> Result<Command, Refusal> {
    let model = effects_of(job, items, index)?;
    looks(job, items, |_, look| {
        if let Some(at) = same_effect(&model, index, &look.effects) {
            look.effects.remove(at);
        }
        Ok(())
    })
}

/// What changes about a panel behind words; what is absent stays.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(default, rename_all = "camelCase", deny_unknown_fields)]
#[ts(optional_fields)]
pub struct BackingChange {
    /// What it reaches around.
    pub reach: Option<Reach>,
    /// Its shape.
    pub outline: Option<Outline>,
    /// Radius of its corners, where it is a rectangle, as seen in the piece.
    pub radius: Option<Length>,
    /// Its fill.
    #[serde(deserialize_with = "crate::edit::target::given")]
    #[ts(optional, type = "Paint | null")]
    pub fill: Option<Option<Paint>>,
    /// Clear space left and right of the words, in sizes of the type.
    pub pad_x: Option<Ratio>,
    /// Clear space above and below the words, in sizes of the type.
    pub pad_y: Option<Ratio>,
}

/// Changes the panels of those items that have one; nothing takes them away.
///
/// # Errors
/// [`Refusal`] where one is not there.
pub fn change_backing(job: &Job, items: &[ItemId], change: Option<&BackingChange>) -> Result<Command, Refusal> {
    looks(job, items, |plain, look| {
        let Some(change) = change else {
            look.backing = None;
            return Ok(());
        };
        if let Some(backing) = &mut look.backing {
            backing.reach = change.reach.unwrap_or(backing.reach);
            if let Some(outline) = &change.outline {
                backing.outline = outline.clone();
            }
            if let Some(radius) = change.radius {
                backing.outline = Outline::Rect { radius: kept(plain, radius) };
            }
            if let Some(fill) = &change.fill {
                backing.fill.clone_from(fill);
            }
            backing.pad_x = change.pad_x.unwrap_or(backing.pad_x);
            backing.pad_y = change.pad_y.unwrap_or(backing.pad_y);
        }
        Ok(())
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::testing::{Everything, job_with};
    use vatman_document::Target;

    fn shadow(dx: f64) -> Effect {
        let px = Length::css_px;
        Effect::Shadow {
            dx: px(dx),
            dy: px(1.0),
            blur: px(2.0),
            tint: vatman_document::Color::BLACK.into(),
            opacity: Ratio::HALF,
        }
    }

    fn relief() -> Effect {
        let px = Length::css_px;
        Effect::Relief { light: Angle::ZERO, depth: px(1.0), blur: px(1.0), strength: Ratio::ONE, pressed: false }
    }

    #[test]
    fn an_effect_of_several_items_is_changed_and_nothing_else_of_them() {
        let mut job = job_with(3);
        let id = |n: usize| ItemId::new(format!("i{n}")).unwrap();
        let all = [id(0), id(1), id(2)];
        let lists =
            [vec![shadow(1.0), relief(), shadow(2.0)], vec![relief(), shadow(7.0), shadow(8.0)], vec![shadow(9.0)]];
        for (n, effects) in lists.iter().enumerate() {
            let look = Look { effects: effects.clone(), ..Look::default() };
            let target = Target::Shared(job.find(&id(n)).unwrap().item.kin.clone());
            Command::SetLook { target, look }.apply(&mut job, &Everything).unwrap();
        }
        let effects = |job: &Job, n: usize| job.find(&id(n)).unwrap().plain().unwrap().look.effects.clone();
        let change = EffectChange { dx: Some(Length::css_px(5.0)), ..EffectChange::default() };
        change_effect(&job, &all, 2, &change).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!(effects(&job, 0), [shadow(1.0), relief(), shadow(5.0)]);
        assert_eq!(effects(&job, 1), [relief(), shadow(7.0), shadow(5.0)], "its own second shadow");
        assert_eq!(effects(&job, 2), [shadow(9.0)], "it has no second shadow");
        drop_effect(&job, &all, 1).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!([0, 1, 2].map(|n| effects(&job, n).len()), [2, 2, 1]);
        assert!(change_effect(&job, &all, 9, &change).is_err());
    }

    #[test]
    fn lengths_are_those_seen_in_the_piece() {
        let mut job = job_with(1);
        let item = ItemId::new("i0").unwrap();
        std::sync::Arc::make_mut(&mut job.pieces[0]).sides[0].items[0].place.scale = Ratio::new(2.0);
        let target = Target::Shared(job.find(&item).unwrap().item.kin.clone());
        let look = Look { effects: vec![shadow(1.0)], ..Look::default() };
        Command::SetLook { target, look }.apply(&mut job, &Everything).unwrap();
        let change = EffectChange { dx: Some(Length::css_px(10.0)), ..EffectChange::default() };
        change_effect(&job, std::slice::from_ref(&item), 0, &change).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!(job.find(&item).unwrap().plain().unwrap().look.effects, [shadow(5.0)]);
    }

    #[test]
    fn only_what_fits_is_offered() {
        let shape = Content::Shape { outline: Outline::RECT };
        let words = Content::Words { text: vatman_document::RichText::plain("Made slow."), prompt: String::new() };
        let plain = Look::default();
        assert_eq!(gifts(&words, &plain), Gift::ALL);
        assert!(!gifts(&shape, &plain).contains(&Gift::Button));
        let full = Look { effects: vec![relief(); Effect::MOST], frost: Some(Length::mm(1.0)), ..Look::default() };
        assert_eq!(gifts(&shape, &full), [Gift::Line]);
    }
}
