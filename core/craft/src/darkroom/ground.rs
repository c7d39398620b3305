//! A cut-out put on a ground of its own, as large in its frame as shops show goods.

use std::sync::Arc;

use kurbo::Shape as _;
use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{
    AssetId, Color, Command, Content, Crop, Focus, GroupId, IdSource, Item, ItemId, Job, Kin, KinId, Look, Paint, Part,
    PictureFit, PictureSource, Place, Stop, Tint,
};
use vatman_units::{Angle, Ratio};

use crate::refusal::Refusal;
use crate::studio::Studio;

/// What a cut-out is put on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum PutOn {
    /// White.
    White,
    /// A colour of the job, or any.
    Colour {
        /// Which.
        tint: Tint,
    },
    /// A colour that grows lighter upward.
    Gradient {
        /// Which.
        tint: Tint,
    },
    /// Another picture.
    Picture {
        /// Which.
        picture: AssetId,
    },
}

/// How much of its frame the subject takes up, across or down: the rest is the margin shops ask for.
const FILLS: f64 = 0.85;

/// Puts the cut-out of an item on a ground of the shape of its frame, right below it, and shows it so large that a margin is left all
/// around. Both are grouped, unless the item is in a group already.
///
/// # Errors
/// [`Refusal`] where the item is not there, shows no picture, or nothing of it is cut out.
pub fn put_on(
    job: &Job,
    item: &ItemId,
    on: &PutOn,
    studio: &Studio,
    ids: &mut dyn IdSource,
) -> Result<(Command, ItemId), Refusal> {
    let found = job.find(item)?;
    let plain = found.plain()?;
    let Content::Picture { picture: Some(picture), frame, .. } = plain.content else { return Err(Refusal::NoPicture) };
    let source = Arc::new(PictureSource::of(picture.clone(), &plain.look, |tint| job.color(tint)));
    let contour = studio.pictures.contour(&source).ok_or(Refusal::NotCutOut)?;
    let (w, h) = studio.pictures.size(&source).ok_or(Refusal::NoPicture)?;
    let seen = contour.bounding_box();
    if seen.width() <= 0.0 || seen.height() <= 0.0 {
        return Err(Refusal::NotCutOut);
    }
    let rect = found.item.place.at.rect.to_css_px();
    let base = (rect.width() / f64::from(w)).max(rect.height() / f64::from(h));
    let fit = (rect.width() / (seen.width() * f64::from(w))).min(rect.height() / (seen.height() * f64::from(h)));
    let crop = Crop {
        centre: Focus { x: Ratio::new(seen.center().x), y: Ratio::new(seen.center().y) },
        zoom: Ratio::new((fit * FILLS / base).clamp(0.05, 100.0)),
        turn: Angle::ZERO,
        flip: found.item.place.crop.is_some_and(|crop| crop.flip),
    };
    let below = |content, look| Kin::new(Part::Panel, content, look);
    let flat = |tint: &Tint, opacity| Stop { at: Ratio::ZERO, tint: tint.clone(), opacity };
    let panel =
        |paint: Paint| below(Content::Shape { outline: frame.clone() }, Look { fill: Some(paint), ..Look::default() });
    let kin = match on {
        PutOn::White => panel(Paint::flat(Color::WHITE)),
        PutOn::Colour { tint } => panel(Paint::Flat { tint: tint.clone(), opacity: Ratio::ONE }),
        PutOn::Gradient { tint } => {
            let own = vatman_document::Oklab::from(job.color(tint));
            let light = vatman_document::Oklab { l: own.l + (1.0 - own.l) * 0.55, a: own.a * 0.6, b: own.b * 0.6 };
            let top = Tint::Own(light.to_color());
            let stops = vec![flat(tint, Ratio::ONE), Stop { at: Ratio::ONE, ..flat(&top, Ratio::ONE) }];
            panel(Paint::Linear { angle: Angle::ZERO, stops })
        }
        PutOn::Picture { picture } => below(
            Content::Picture {
                picture: Some(picture.clone()),
                focus: Focus::CENTRE,
                frame: frame.clone(),
                fit: PictureFit::Fill,
            },
            Look { fill: None, ..Look::default() },
        ),
    };
    let mut groups = found.item.groups.clone();
    let mut commands = Vec::new();
    if groups.is_empty() {
        groups.push(GroupId::fresh(ids));
    }
    let ground = Item {
        name: Some(format!("Ground of {}", plain.name()).chars().take(200).collect()),
        groups: groups.clone(),
        ..Item::new(ItemId::fresh(ids), KinId::fresh(ids), Place { crop: None, ..found.item.place })
    };
    let made = ground.id.clone();
    let index = found.side.items.iter().position(|other| other.id == *item).unwrap_or(usize::MAX);
    if found.item.groups.is_empty() {
        // One of two, so that neither is ever alone in it.
        commands.push(Command::InsertItem {
            side: found.side.id.clone(),
            index,
            item: Item { groups: Vec::new(), ..ground },
            kin: Some(kin),
        });
        commands.push(Command::SetGroups { item: item.clone(), groups: groups.clone() });
        commands.push(Command::SetGroups { item: made.clone(), groups });
    } else {
        commands.push(Command::InsertItem { side: found.side.id.clone(), index, item: ground, kin: Some(kin) });
    }
    commands.push(Command::SetPlace { item: item.clone(), place: Place { crop: Some(crop), ..found.item.place } });
    Ok((Command::All { commands }, made))
}
