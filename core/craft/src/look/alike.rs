//! Finding what is like something: for selecting, and for colours that are to stay the same.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{
    Command, Content, IdSource, Item, ItemId, Job, Look, Paint, Plain, Side, Swatch, SwatchId, Tint,
};
use vatman_units::Rect;

use crate::edit::target::look_change;
use crate::refusal::Refusal;

/// In what respect items are alike.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Likeness {
    /// Words, pictures, shapes or drawings.
    Kind,
    /// The same first colour.
    Colour,
    /// All words, whatever was chosen.
    Words,
    /// The same family.
    Family,
}

/// The colour an item is known by: of its fill, its line, or its drawing.
fn colour(job: &Job, item: &Item) -> Option<Tint> {
    let plain = job.plain(item)?;
    let own = |look: &Look| {
        look.fill
            .iter()
            .chain(look.stroke.iter().map(|stroke| &stroke.paint))
            .find_map(|paint| paint.tints().next().cloned())
    };
    match plain.content {
        Content::Drawing { drawing } => drawing.colours().into_iter().next(),
        _ => own(&plain.look),
    }
}

/// The items of a side that are like one of them, back to front; locked and hidden ones are left out.
#[must_use]
pub fn alike(job: &Job, side: &Side, item: &ItemId, by: Likeness) -> Vec<ItemId> {
    let Some(model) = side.items.iter().find(|other| other.id == *item) else { return Vec::new() };
    let Some(plain) = job.plain(model) else { return Vec::new() };
    let tint = colour(job, model).map(|tint| job.color(&tint));
    let is = |other: &&Item| {
        let Some(own) = job.plain(other) else { return false };
        match by {
            Likeness::Kind => std::mem::discriminant(own.content) == std::mem::discriminant(plain.content),
            Likeness::Colour => tint.is_some() && colour(job, other).map(|tint| job.color(&tint)) == tint,
            Likeness::Words => own.content.words().is_some(),
            Likeness::Family => {
                own.content.words().is_some()
                    && own.look.type_look.as_ref().map(|kind| &kind.family)
                        == plain.look.type_look.as_ref().map(|kind| &kind.family)
            }
        }
    };
    side.items.iter().filter(|other| !other.locked && !other.hidden).filter(is).map(|item| item.id.clone()).collect()
}

fn plain_of<'a>(job: &'a Job, id: &ItemId) -> Result<Plain<'a>, Refusal> {
    Ok(job.find(id)?.plain()?)
}

/// The change that gives an item another look.
fn looking(job: &Job, plain: &Plain<'_>, look: &Look) -> Command {
    Command::All { commands: look_change(job, plain, look, &mut Vec::new()) }
}

fn colour_command(job: &Job, id: &ItemId, tint: &Tint) -> Result<Command, Refusal> {
    let plain = plain_of(job, id)?;
    if matches!(plain.content, Content::Picture { .. } | Content::Drawing { .. }) {
        return Err(Refusal::NoSingleColour);
    }
    let look = Look { fill: Some(Paint::flat(tint.clone())), ..plain.look.as_ref().clone() };
    Ok(looking(job, &plain, &look))
}

/// Gives items the colour of another and keeps them linked: all of them take it from one shared colour from then on. A colour that is
/// not shared yet becomes so, named after the item it came from.
///
/// # Errors
/// [`Refusal`] where one is not there, or has no colour.
pub fn link_colour(job: &Job, items: &[ItemId], to: &ItemId, ids: &mut dyn IdSource) -> Result<Command, Refusal> {
    let model = plain_of(job, to)?.item;
    let tint = colour(job, model).ok_or(Refusal::PointedColourless)?;
    let mut commands = Vec::new();
    let shared = match tint {
        Tint::Swatch(_) => tint,
        Tint::Own(color) => {
            let known = job.swatches.iter().find(|(_, swatch)| swatch.color == color).map(|(id, _)| id.clone());
            let id = known.unwrap_or_else(|| {
                let id = SwatchId::fresh(ids);
                let name: String = format!("As {}", job.plain(model).map_or_else(String::new, |plain| plain.name()))
                    .chars()
                    .take(60)
                    .collect();
                commands.push(Command::SetSwatch { id: id.clone(), swatch: Some(Swatch::new(name, color)) });
                id
            });
            let shared = Tint::Swatch(id);
            if let Ok(command) = colour_command(job, to, &shared) {
                commands.push(command);
            }
            shared
        }
    };
    for id in items.iter().filter(|id| *id != to) {
        commands.push(colour_command(job, id, &shared)?);
    }
    Ok(Command::All { commands })
}

/// Exchanges the colour of words with that of what they stand on: their own backing, the topmost shape around them, or the ground of the
/// side. Two selected items exchange theirs.
///
/// # Errors
/// [`Refusal`] where there is nothing to exchange with.
pub fn swap_colours(job: &Job, items: &[ItemId]) -> Result<Command, Refusal> {
    let nothing = || Refusal::NoTwoColours;
    let paint = |id: &ItemId, paint: Option<Paint>| {
        let plain = plain_of(job, id)?;
        Ok::<_, Refusal>(looking(job, &plain, &Look { fill: paint, ..plain.look.as_ref().clone() }))
    };
    match items {
        [a, b] => {
            let (one, other) = (plain_of(job, a)?.look.fill.clone(), plain_of(job, b)?.look.fill.clone());
            if one.is_none() || other.is_none() {
                return Err(nothing());
            }
            Ok(Command::All { commands: vec![paint(a, other)?, paint(b, one)?] })
        }
        [id] => {
            let plain = plain_of(job, id)?;
            let (item, look) = (plain.item, plain.look.as_ref());
            if let Some(backing) = &look.backing
                && backing.fill.is_some()
            {
                let backing = vatman_document::Backing { fill: look.fill.clone(), ..backing.clone() };
                let fill = look.backing.as_ref().and_then(|backing| backing.fill.clone());
                return Ok(looking(job, &plain, &Look { fill, backing: Some(backing), ..look.clone() }));
            }
            let vatman_document::Standing { side, index, .. } = job.find(id)?;
            let below = side.items[..index].iter();
            let behind =
                below.filter(|other| !other.hidden && around(other.place.at.rect, item.place.at.rect)).rfind(|other| {
                    job.plain(other).is_some_and(|plain| {
                        matches!(plain.content, Content::Shape { .. }) && plain.look.fill.is_some()
                    })
                });
            match behind {
                Some(panel) => swap_colours(job, &[id.clone(), panel.id.clone()]),
                None => {
                    let own = look.fill.clone().ok_or_else(nothing)?;
                    let ground = side.ground.clone().ok_or_else(nothing)?;
                    Ok(Command::All {
                        commands: vec![
                            paint(id, Some(ground))?,
                            Command::SetGround { side: side.id.clone(), ground: Some(own) },
                        ],
                    })
                }
            }
        }
        _ => Err(nothing()),
    }
}

/// Whether the middle of a box lies in another.
fn around(outer: Rect, inner: Rect) -> bool {
    let (x, y) = (inner.x + inner.w.half(), inner.y + inner.h.half());
    x > outer.x && x < outer.right() && y > outer.y && y < outer.bottom()
}

#[cfg(test)]
mod tests {
    use std::sync::Arc;

    use super::*;
    use crate::testing::{Everything, Numbered, job_with};
    use vatman_document::Color;

    fn painted(count: usize) -> (Job, Vec<ItemId>) {
        let mut job = job_with(count);
        let ids: Vec<ItemId> = job.items().map(|item| item.id.clone()).collect();
        for (i, id) in ids.iter().enumerate() {
            let kin = job.item(id).unwrap().kin.clone();
            Arc::make_mut(job.kins.get_mut(&kin).unwrap()).look.fill =
                Some(Paint::flat(Color::opaque(if i % 2 == 0 { 200 } else { 20 }, 0, 0)));
        }
        (job, ids)
    }

    fn fill(job: &Job, id: &ItemId) -> Color {
        job.color(job.plain(job.item(id).unwrap()).unwrap().look.fill.as_ref().unwrap().tints().next().unwrap())
    }

    #[test]
    fn the_same_colour_is_found() {
        let (job, ids) = painted(5);
        let side = &job.pieces[0].sides[0];
        assert_eq!(alike(&job, side, &ids[0], Likeness::Colour), [ids[0].clone(), ids[2].clone(), ids[4].clone()]);
        assert_eq!(alike(&job, side, &ids[0], Likeness::Kind).len(), 5);
        assert!(alike(&job, side, &ids[0], Likeness::Words).is_empty());
    }

    #[test]
    fn linked_colours_change_together() {
        let (mut job, ids) = painted(3);
        link_colour(&job, &ids[..1], &ids[1], &mut Numbered::default()).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!(fill(&job, &ids[0]), fill(&job, &ids[1]));
        let (swatch, old) = job.swatches.iter().next().map(|(id, swatch)| (id.clone(), swatch.clone())).unwrap();
        Command::SetSwatch { id: swatch, swatch: Some(Swatch { color: Color::WHITE, ..old }) }
            .apply(&mut job, &Everything)
            .unwrap();
        assert_eq!((fill(&job, &ids[0]), fill(&job, &ids[1])), (Color::WHITE, Color::WHITE));
        assert_ne!(fill(&job, &ids[2]), Color::WHITE);
        // Linked once more, nothing new is needed.
        let before = job.swatches.len();
        link_colour(&job, &ids[2..], &ids[1], &mut Numbered(9)).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!(job.swatches.len(), before);
    }

    #[test]
    fn colours_change_places_and_back() {
        let (mut job, ids) = painted(2);
        let before = job.clone();
        swap_colours(&job, &ids).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!(fill(&job, &ids[0]), fill(&before, &ids[1]));
        swap_colours(&job, &ids).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!(job, before);
        assert!(swap_colours(&job, &ids[..1]).is_err(), "there is no ground to change places with");
        assert!(swap_colours(&job, &[]).is_err());
    }
}
