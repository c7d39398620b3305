//! Items that are picked and moved as one.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{Blend, Command, Effect, GroupId, GroupLook, IdSource, Item, ItemId, Job, Side};
use vatman_units::{Length, Ratio};

use crate::edit::effects::{EffectChange, plain_shadow};
use crate::refusal::Refusal;

fn side_of<'a>(job: &'a Job, items: &[ItemId]) -> Result<(&'a Side, Vec<&'a Item>), Refusal> {
    let first = items.first().ok_or(Refusal::NothingSelected)?;
    let side = job.find(first)?.side;
    let found: Vec<&Item> = side.items.iter().filter(|item| items.contains(&item.id)).collect();
    if found.len() < items.len() {
        return Err(Refusal::SeveralSides);
    }
    Ok((side, found))
}

/// What several lists of groups have in common from the outermost in.
fn common<'a>(mut lists: impl Iterator<Item = &'a [GroupId]>) -> Vec<GroupId> {
    let first = lists.next().unwrap_or_default().to_vec();
    lists.fold(first, |kept, list| kept.iter().zip(list).take_while(|(a, b)| a == b).map(|(a, _)| a.clone()).collect())
}

/// Puts items of one side into a new group, inside the groups they all share. They come to lie next to each other, where the
/// topmost lay. Groups they were in stay whole inside the new one.
///
/// # Errors
/// [`Refusal`] for fewer than two items, or items of several sides.
pub fn group(job: &Job, items: &[ItemId], ids: &mut dyn IdSource) -> Result<Command, Refusal> {
    let (side, found) = side_of(job, items)?;
    if found.len() < 2 {
        return Err(Refusal::GroupOfOne);
    }
    let shared = common(found.iter().map(|item| item.groups.as_slice()));
    let id = GroupId::fresh(ids);
    // A group of which only some are picked is left by those: it could not lie together both inside and outside the new one.
    let whole = |group: &&GroupId| {
        side.items.iter().filter(|item| item.groups.contains(group)).all(|item| items.contains(&item.id))
    };
    let mut commands: Vec<Command> = found
        .iter()
        .map(|item| {
            let inner = item.groups[shared.len()..].iter().filter(whole);
            let groups = shared.iter().chain([&id]).chain(inner).cloned().collect();
            Command::SetGroups { item: item.id.clone(), groups }
        })
        .collect();
    commands.extend(gathered(side, &found));
    Ok(Command::All { commands })
}

/// Moves that bring items next to each other, up to where the topmost lies, in their order.
fn gathered(side: &Side, found: &[&Item]) -> Vec<Command> {
    let top = side.items.iter().rposition(|item| found.iter().any(|other| other.id == item.id)).unwrap_or(0);
    // Each item taken from below moves the rest down by one, so all go to the same place in turn.
    let below = |item: &&&Item| side.items.iter().position(|other| other.id == item.id).is_some_and(|at| at < top);
    found
        .iter()
        .filter(below)
        .chain(found.last())
        .map(|item| Command::MoveItem { item: item.id.clone(), index: top })
        .collect()
}

/// The side a group is on.
pub(crate) fn side_with<'a>(job: &'a Job, group: &GroupId) -> Result<&'a Side, Refusal> {
    let mut sides = job.pieces.iter().flat_map(|piece| &piece.sides);
    let found = sides.find(|side| side.items.iter().any(|item| item.groups.contains(group)));
    found.ok_or_else(|| Refusal::Missing("group", group.to_string()))
}

/// Changes how a group looks as a whole.
///
/// # Errors
/// [`Refusal`] where it is not there.
pub(crate) fn change_group(job: &Job, group: &GroupId, change: impl Fn(&mut GroupLook)) -> Result<Command, Refusal> {
    let side = side_with(job, group)?;
    let mut look = side.group_look(group).cloned().unwrap_or_else(|| GroupLook::plain(group.clone()));
    change(&mut look);
    let others = side.group_looks.iter().filter(|other| other.group != *group).cloned();
    let looks = others.chain((!look.is_plain()).then_some(look)).collect();
    Ok(Command::SetGroupLooks { side: side.id.clone(), looks })
}

/// What happens to the light on a group as a whole.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(tag = "what", rename_all = "camelCase", deny_unknown_fields)]
pub enum GroupLight {
    /// It throws a shadow as a whole.
    Give,
    /// One of what light does to it changes.
    Change {
        /// Its place in the list.
        index: usize,
        /// How.
        change: EffectChange,
    },
    /// One is taken away.
    Drop {
        /// Its place in the list.
        index: usize,
    },
}

/// Changes what light does to a group as a whole.
///
/// # Errors
/// [`Refusal`] where the group or what is changed is not there.
pub fn light_group(job: &Job, group: &GroupId, light: &GroupLight) -> Result<Command, Refusal> {
    let side = side_with(job, group)?;
    let held = side.group_look(group).map_or(0, |look| look.effects.len());
    if let GroupLight::Change { index, .. } | GroupLight::Drop { index } = light
        && *index >= held
    {
        return Err(Refusal::Missing("effect", index.to_string()));
    }
    let boxes = side.items.iter().filter(|item| item.groups.contains(group)).map(|item| item.place.at.rect.to_css_px());
    let whole = boxes.reduce(|all, own| all.union(own)).unwrap_or_default();
    let shorter = Length::css_px(whole.width().min(whole.height()));
    change_group(job, group, |look| match light {
        GroupLight::Give if look.effects.len() < Effect::MOST => look.effects.push(plain_shadow(shorter.scaled(0.4))),
        GroupLight::Give => {}
        GroupLight::Change { index, change } => change.apply(&|seen| seen, &mut look.effects[*index]),
        GroupLight::Drop { index } => {
            look.effects.remove(*index);
        }
    })
}

/// What changes about how a group looks as a whole; what is absent stays.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields)]
#[ts(optional_fields)]
pub struct GroupChange {
    /// Of all of it together; 1 is opaque.
    pub opacity: Option<Ratio>,
    /// Mixing of all of it together with what lies below.
    pub blend: Option<Blend>,
}

/// Changes how a group looks as a whole.
///
/// # Errors
/// [`Refusal`] where it is not there.
pub fn change_group_look(job: &Job, group: &GroupId, change: GroupChange) -> Result<Command, Refusal> {
    change_group(job, group, |look| {
        look.opacity = change.opacity.unwrap_or(look.opacity);
        look.blend = change.blend.unwrap_or(look.blend);
    })
}

/// Dissolves the outermost group the items do not all have around them; what was grouped inside stays so.
///
/// # Errors
/// [`Refusal`] where none of them is in a group.
pub fn ungroup(job: &Job, items: &[ItemId]) -> Result<Command, Refusal> {
    let (side, found) = side_of(job, items)?;
    // Of items picked inside an entered group, the group they share is the one meant.
    let gone: Vec<&GroupId> = found.iter().filter_map(|item| item.groups.first()).collect();
    if gone.is_empty() {
        return Err(Refusal::NotGrouped);
    }
    let freed = side.items.iter().filter(|item| item.groups.iter().any(|group| gone.contains(&group)));
    let mut commands: Vec<Command> = freed
        .map(|item| Command::SetGroups {
            item: item.id.clone(),
            groups: item.groups.iter().filter(|group| !gone.contains(group)).cloned().collect(),
        })
        .collect();
    if side.stacks.iter().any(|stack| gone.contains(&&stack.group)) {
        let stacks = side.stacks.iter().filter(|stack| !gone.contains(&&stack.group)).cloned().collect();
        commands.push(Command::SetStacks { side: side.id.clone(), stacks });
    }
    if side.group_looks.iter().any(|look| gone.contains(&&look.group)) {
        let looks = side.group_looks.iter().filter(|look| !gone.contains(&&look.group)).cloned().collect();
        commands.push(Command::SetGroupLooks { side: side.id.clone(), looks });
    }
    Ok(Command::All { commands })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::testing::{Everything, Numbered, job_with};
    use proptest::prelude::*;

    fn ids(side: &Side) -> Vec<&str> {
        side.items.iter().map(|item| item.id.as_str()).collect()
    }

    #[test]
    fn a_group_lies_together_where_its_topmost_lay() {
        let mut job = job_with(6);
        let picked: Vec<ItemId> = ["i0", "i2", "i4"].map(|id| ItemId::new(id).unwrap()).to_vec();
        group(&job, &picked, &mut Numbered::default()).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!(ids(&job.pieces[0].sides[0]), ["i1", "i3", "i0", "i2", "i4", "i5"]);
    }

    #[test]
    fn a_group_of_a_group_and_another_keeps_the_inner_one() {
        let mut job = job_with(4);
        let mut source = Numbered::default();
        let pick = |names: &[&str]| names.iter().map(|id| ItemId::new(*id).unwrap()).collect::<Vec<_>>();
        group(&job, &pick(&["i0", "i1"]), &mut source).unwrap().apply(&mut job, &Everything).unwrap();
        group(&job, &pick(&["i0", "i1", "i2"]), &mut source).unwrap().apply(&mut job, &Everything).unwrap();
        let depth = |job: &Job, id: &str| job.item(&ItemId::new(id).unwrap()).unwrap().groups.len();
        assert_eq!((depth(&job, "i0"), depth(&job, "i2"), depth(&job, "i3")), (2, 1, 0));
        ungroup(&job, &pick(&["i2"])).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!((depth(&job, "i0"), depth(&job, "i1"), depth(&job, "i2")), (1, 1, 0));
        assert!(group(&job, &pick(&["i3"]), &mut source).is_err() && ungroup(&job, &pick(&["i3"])).is_err());
    }

    proptest! {
        #[test]
        fn members_are_neighbours_and_all_is_undone(picked in prop::collection::btree_set(0usize..9, 2..6), more in prop::collection::btree_set(0usize..9, 2..6)) {
            let mut job = job_with(9);
            let before = job.clone();
            let mut source = Numbered::default();
            let mut undo = Vec::new();
            for set in [picked, more] {
                let items: Vec<ItemId> = set.iter().map(|i| ItemId::new(format!("i{i}")).unwrap()).collect();
                undo.push(group(&job, &items, &mut source).unwrap().apply(&mut job, &Everything).unwrap());
                let side = &job.pieces[0].sides[0];
                let at: Vec<usize> = items.iter().filter_map(|id| side.items.iter().position(|item| item.id == *id)).collect();
                let (low, high) = (at.iter().min().unwrap(), at.iter().max().unwrap());
                prop_assert_eq!(high - low + 1, items.len());
            }
            for step in undo.iter().rev() {
                step.apply(&mut job, &Everything).unwrap();
            }
            prop_assert_eq!(job, before);
        }
    }
}
