//! Items on their way between sides, pieces and jobs.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{
    Command, Content, GroupLook, IdSource, Item, ItemId, Job, Kin, KinId, Look, Place, SideId, Stack, Tie, Tint,
};
use vatman_units::Placement;

use crate::arrange::copied::Copied;
use crate::edit::target::look_change;
use crate::refusal::Refusal;

/// Copies of items with all they need elsewhere: colours are no longer shared, words and looks are their own.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Clipping {
    /// Back to front.
    pub items: Vec<Clipped>,
    /// Groups of them that space themselves.
    #[serde(default)]
    pub stacks: Vec<Stack>,
    /// Groups of them that look their own way.
    #[serde(default)]
    pub group_looks: Vec<GroupLook>,
}

/// One item of a clipping.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Clipped {
    /// Part, content and look.
    pub kin: Kin,
    /// Where it stood.
    pub place: Place,
    /// Groups it was in.
    #[serde(default)]
    pub groups: Vec<vatman_document::GroupId>,
    /// Which item it was.
    pub was: ItemId,
    /// What its maker called it.
    #[serde(default)]
    pub name: Option<String>,
    /// What it was tied to.
    #[serde(default)]
    pub ties: Vec<Tie>,
}

/// Copies items of a job in the order they lie.
///
/// # Errors
/// [`Refusal`] where none of them is there.
pub fn clip(job: &Job, items: &[ItemId]) -> Result<Clipping, Refusal> {
    let own = |tint: &mut Tint| *tint = Tint::Own(job.color(tint));
    let clipped = |item: &Item| {
        let plain = job.plain(item)?;
        let mut kin = Kin::new(plain.part, plain.content.clone(), plain.look.as_ref().clone());
        kin.look.tints_mut().for_each(own);
        unshare(&mut kin.content, own);
        Some(Clipped {
            kin,
            place: item.place,
            groups: item.groups.clone(),
            was: item.id.clone(),
            name: item.name.clone(),
            ties: item.ties.clone(),
        })
    };
    let sides = job
        .pieces
        .iter()
        .flat_map(|piece| &piece.sides)
        .filter(|side| side.items.iter().any(|item| items.contains(&item.id)));
    let stacks = sides.clone().flat_map(|side| side.stacks.clone()).collect();
    let group_looks = sides.flat_map(|side| &side.group_looks).map(|look| {
        let mut look = look.clone();
        look.tints_mut().for_each(own);
        look
    });
    let group_looks = group_looks.collect();
    let items: Vec<Clipped> = job.items().filter(|item| items.contains(&item.id)).filter_map(clipped).collect();
    if items.is_empty() {
        return Err(Refusal::NothingToCopy);
    }
    Ok(Clipping { items, stacks, group_looks })
}

fn unshare(content: &mut Content, own: impl Fn(&mut Tint)) {
    match content {
        Content::Words { text, .. } => {
            let runs = text.runs().iter().cloned().map(|mut run| {
                run.style.tint.iter_mut().for_each(&own);
                run
            });
            *text = runs.collect::<Vec<_>>().into();
        }
        Content::Drawing { drawing } => drawing.recolour(own),
        Content::Code { code } => code.ground.iter_mut().for_each(own),
        Content::Picture { .. } | Content::Shape { .. } => {}
    }
}

/// Puts a clipping down on a side: in its place where that side does not show the same there already, else a step aside. On another
/// sheet places are those of the same part of the sheet.
///
/// # Errors
/// [`Refusal`] where the side is not there.
pub fn paste(
    job: &Job,
    side: &SideId,
    clipping: &Clipping,
    ids: &mut dyn IdSource,
) -> Result<(Command, Vec<ItemId>), Refusal> {
    let (piece, found) = job.side(side).ok_or_else(|| Refusal::Missing("side", side.to_string()))?;
    let taken = |place: &Place| found.items.iter().any(|item| item.place.at == place.at);
    let step = piece.format.size.measure().scaled(0.02);
    let aside = (0..20).find(|n| !clipping.items.iter().any(|one| taken(&moved(&one.place, step, *n)))).unwrap_or(0);
    let (mut commands, mut made) = (Vec::new(), Vec::new());
    let mut copied = Copied::of(clipping.items.iter().map(|one| &one.was), ids);
    for one in &clipping.items {
        let place = moved(&one.place, step, aside);
        let Some(id) = copied.item(&one.was) else { continue };
        let (groups, ties) = (copied.groups(&one.groups, ids), copied.ties(&one.ties, aside == 0));
        let item = Item { groups, ties, name: one.name.clone(), ..Item::new(id, KinId::fresh(ids), place) };
        made.push(item.id.clone());
        commands.push(Command::InsertItem { side: side.clone(), index: usize::MAX, item, kin: Some(one.kin.clone()) });
    }
    let stacks = copied.stacks(&clipping.stacks);
    if !stacks.is_empty() {
        commands.push(Command::SetStacks {
            side: side.clone(),
            stacks: found.stacks.iter().cloned().chain(stacks).collect(),
        });
    }
    let looks = copied.group_looks(&clipping.group_looks);
    if !looks.is_empty() {
        let looks = found.group_looks.iter().cloned().chain(looks).collect();
        commands.push(Command::SetGroupLooks { side: side.clone(), looks });
    }
    Ok((Command::All { commands }, made))
}

fn moved(place: &Place, step: vatman_units::Length, times: i32) -> Place {
    let by = step.scaled(f64::from(times));
    Place { at: Placement { rect: place.at.rect.moved(by, by), ..place.at }, ..*place }
}

/// Gives items the look of the first clipped one: paints, lines, light, mixing, and for words their type. Sizes of type stay.
///
/// # Errors
/// [`Refusal`] where an item is not there or the clipping is empty.
pub fn paste_look(job: &Job, items: &[ItemId], clipping: &Clipping) -> Result<Command, Refusal> {
    let from = &clipping.items.first().ok_or(Refusal::NothingCopied)?.kin.look;
    let (mut commands, mut done) = (Vec::new(), Vec::new());
    for id in items {
        let item = job.item(id).ok_or_else(|| Refusal::no_item(id))?;
        let plain = job.plain(item).ok_or_else(|| Refusal::Missing("part", item.kin.to_string()))?;
        let type_look = match (&plain.look.type_look, &from.type_look) {
            (Some(own), Some(given)) => {
                Some(vatman_document::TypeLook { size: own.size, fit: own.fit, ..given.clone() })
            }
            (own, _) => own.clone(),
        };
        let fill = if matches!(plain.content, Content::Picture { .. } | Content::Drawing { .. }) {
            plain.look.fill.clone()
        } else {
            from.fill.clone()
        };
        commands.extend(look_change(job, &plain, &Look { type_look, fill, ..from.clone() }, &mut done));
    }
    Ok(Command::All { commands })
}

#[cfg(test)]
mod tests {
    use std::sync::Arc;

    use super::*;
    use crate::testing::{Everything, Numbered, job_with};
    use vatman_document::{Color, Paint, Swatch, SwatchId};

    #[test]
    fn a_clipping_needs_nothing_of_the_job_it_came_from() {
        let mut job = job_with(3);
        let clay = SwatchId::new("clay").unwrap();
        let color = Color::opaque(0x8c, 0x5a, 0x3c);
        job.swatches.insert(clay.clone(), Swatch { name: "Wet clay".into(), color, ink: None });
        let first = job.pieces[0].sides[0].items[0].clone();
        Arc::make_mut(job.kins.get_mut(&first.kin).unwrap()).look.fill = Some(Paint::flat(Tint::Swatch(clay)));
        let clipping = clip(&job, std::slice::from_ref(&first.id)).unwrap();
        let mut other = job_with(0);
        let side = other.pieces[0].sides[0].id.clone();
        let (command, made) = paste(&other, &side, &clipping, &mut Numbered::default()).unwrap();
        command.apply(&mut other, &Everything).unwrap();
        let put = other.item(&made[0]).unwrap();
        assert_eq!(
            (put.place, other.plain(put).unwrap().look.fill.clone()),
            (first.place, Some(Paint::flat(color))),
            "in place, with its colour"
        );
        // Put down again it stands a step aside.
        let (again, made) = paste(&other, &side, &clipping, &mut Numbered(40)).unwrap();
        again.apply(&mut other, &Everything).unwrap();
        assert_ne!(other.item(&made[0]).unwrap().place, first.place);
        assert!(clip(&job, &[]).is_err());
    }

    #[test]
    fn a_look_is_given_and_nothing_else_changes() {
        let mut job = job_with(2);
        let ids: Vec<ItemId> = job.items().map(|item| item.id.clone()).collect();
        let kin = job.item(&ids[0]).unwrap().kin.clone();
        Arc::make_mut(job.kins.get_mut(&kin).unwrap()).look.fill = Some(Paint::flat(Color::WHITE));
        let clipping = clip(&job, &ids[..1]).unwrap();
        let before = job.clone();
        let undo = paste_look(&job, &ids[1..], &clipping).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!(job.plain(job.item(&ids[1]).unwrap()).unwrap().look.fill, Some(Paint::flat(Color::WHITE)));
        undo.apply(&mut job, &Everything).unwrap();
        assert_eq!(job, before);
    }
}
