//! A picture of few colours turned into outlines that can be recoloured and scaled.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{
    Color, Command, Content, Drawing, DrawnPaint, DrawnPart, IdSource, Item, ItemId, Job, Kin, KinId, Look, Place,
    Release,
};
use vatman_output::svg_path_data;
use vatman_photo::trace;
use vatman_scene::Audience;
use vatman_units::{Placement, Ratio};

use crate::arrange::tray::remove;
use crate::look::sight::drawn_alone;
use crate::refusal::Refusal;
use crate::studio::Studio;

/// How a picture is traced.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct TraceWish {
    /// Most colours, 1 to 12.
    pub colours: u8,
    /// How much of small corners and specks is given up, 0 to 1.
    pub smooth: Ratio,
}

impl TraceWish {
    /// Most colours there can be.
    pub const MOST: u8 = 12;
    /// As it starts.
    pub const START: Self = Self { colours: 4, smooth: Ratio::thousandths(250) };
}

/// Pixels along the longer side in which a picture is traced.
const LOOKED: f64 = 1_600.0;

/// What is seen of the picture of an item, as outlines.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture, or nothing of it can be traced.
pub fn traced(job: &Job, item: &ItemId, wish: TraceWish, studio: &Studio) -> Result<Drawing, Refusal> {
    let found = job.find(item)?;
    let plain = found.plain()?;
    if !matches!(plain.content, Content::Picture { picture: Some(_), .. }) {
        return Err(Refusal::NoPicture);
    }
    let scene = studio.scene(job, found.piece, found.side, Audience::Output, None);
    let drawn = scene.items.iter().find(|drawn| drawn.id == *item).ok_or(Refusal::NotSeen)?;
    // Upright: what is traced is turned again with its new item.
    let mut straight = job.clone();
    let place = Place {
        at: Placement { turn: vatman_units::Angle::ZERO, flip: false, ..found.item.place.at },
        ..found.item.place
    };
    let drawn = if place.at == found.item.place.at {
        drawn.clone()
    } else {
        Command::SetPlace { item: item.clone(), place }.apply(&mut straight, studio)?;
        let found = straight.find(item)?;
        let scene = studio.scene(&straight, found.piece, found.side, Audience::Output, None);
        scene.items.iter().find(|drawn| drawn.id == *item).ok_or(Refusal::NotSeen)?.clone()
    };
    // Larger than twice its own pixels it would say no more.
    let own = plain.content.picture().and_then(|id| studio.picture_size(id, &plain.look));
    let most = own.map_or(LOOKED, |(w, h)| (f64::from(w.max(h)) * 2.0).min(LOOKED));
    let by = most / drawn.frame.w.max(drawn.frame.h).max(1e-3);
    let sized = |side: f64| ((side * by).round() as u32).clamp(1, LOOKED as u32);
    let pixels = drawn_alone(studio, &drawn, (sized(drawn.frame.w), sized(drawn.frame.h))).ok_or(Refusal::NotSeen)?;
    let found = trace(&pixels, usize::from(wish.colours.clamp(1, TraceWish::MOST)), wish.smooth.clamped().get());
    let part = |layer: &vatman_photo::TracedLayer| {
        let [r, g, b] = layer.color;
        DrawnPart::Path {
            data: svg_path_data(&layer.outline),
            even_odd: true,
            fill: Some(DrawnPaint::flat(Color::opaque(r, g, b))),
            stroke: None,
        }
    };
    let name = format!("{} in outlines", plain.name()).chars().take(200).collect();
    let drawing =
        Drawing { name, width: found.width, height: found.height, parts: found.layers.iter().map(part).collect() };
    if drawing.parts.is_empty() || drawing.fault().is_some() {
        return Err(Refusal::NotTraceable);
    }
    Ok(drawing)
}

/// Puts what is seen of the picture of an item in its place as outlines; the picture goes to the tray of the piece.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture, or nothing of it can be traced.
pub fn trace_picture(
    job: &Job,
    item: &ItemId,
    wish: TraceWish,
    studio: &Studio,
    ids: &mut dyn IdSource,
) -> Result<(Command, ItemId), Refusal> {
    let drawing = traced(job, item, wish, studio)?;
    let found = job.find(item)?;
    let plain = found.plain()?;
    let index = found.side.items.iter().position(|other| other.id == *item).unwrap_or(usize::MAX);
    let look = Look {
        opacity: plain.look.opacity,
        blend: plain.look.blend,
        effects: plain.look.effects.clone(),
        ..Look::default()
    };
    let kin = Kin::new(plain.part, Content::Drawing { drawing }, look);
    let made = Item {
        groups: found.item.groups.clone(),
        release: Release::default(),
        ..Item::new(ItemId::fresh(ids), KinId::fresh(ids), Place { crop: None, ..found.item.place })
    };
    let id = made.id.clone();
    let insert = Command::InsertItem { side: found.side.id.clone(), index, item: made, kin: Some(kin) };
    let removed = remove(job, std::slice::from_ref(item))?;
    Ok((Command::All { commands: vec![removed, insert] }, id))
}
