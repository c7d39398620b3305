//! What lies over what.

use std::collections::BTreeSet;

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{Command, Item, ItemId, Job, Side};
use vatman_units::Rect;

use crate::refusal::Refusal;

/// Where items go among what lies over each other.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Order {
    /// Above everything.
    Front,
    /// One further up.
    Forward,
    /// One further down.
    Back,
    /// Below everything.
    Bottom,
    /// Right below the lowest of what they cover, or below everything where they cover nothing.
    Behind,
}

/// Brings items of a side forward or back. Among themselves they stay as they are; the first or last of them that can go no further
/// holds the others up. A group is passed as a whole, and members of a group whose other members stay move only among them.
///
/// # Errors
/// [`Refusal`] where nothing is named, or the first is not there.
pub fn reorder(job: &Job, items: &[ItemId], order: Order) -> Result<Command, Refusal> {
    let first = items.first().ok_or(Refusal::NothingSelected)?;
    let side = job.find(first)?.side;
    let picked: BTreeSet<&ItemId> = side.items.iter().map(|item| &item.id).filter(|id| items.contains(id)).collect();
    let covered = (order == Order::Behind).then(|| lowest_covered(side, items)).flatten();
    let all: Vec<&Item> = side.items.iter().collect();
    let wanted = ordered(&all, 0, &Picked { ids: &picked, covered, order });
    // Put in their places from the back on, everything else is where it should be already.
    let mut now: Vec<&ItemId> = side.items.iter().map(|item| &item.id).collect();
    let mut commands = Vec::new();
    for (to, id) in wanted.into_iter().enumerate() {
        let Some(from) = now.iter().position(|other| *other == id) else { continue };
        if from != to {
            let moved = now.remove(from);
            now.insert(to, moved);
            commands.push(Command::MoveItem { item: id.clone(), index: to });
        }
    }
    Ok(Command::All { commands })
}

/// Puts an item right below another of its side, or in front of everything where none is named. What stands between the members of
/// a group goes below the group.
///
/// # Errors
/// [`Refusal`] where one is not there.
pub fn put_below(job: &Job, item: &ItemId, other: Option<&ItemId>) -> Result<Command, Refusal> {
    let found = job.find(item)?;
    let Some(other) = other else { return Ok(Command::MoveItem { item: item.clone(), index: usize::MAX }) };
    let above = found.side.items.iter().position(|held| held.id == *other).ok_or_else(|| Refusal::no_item(other))?;
    // Taken out first, everything above it comes one down.
    Ok(Command::MoveItem { item: item.clone(), index: if above > found.index { above - 1 } else { above } })
}

struct Picked<'a> {
    ids: &'a BTreeSet<&'a ItemId>,
    /// The lowest of what they cover.
    covered: Option<&'a ItemId>,
    order: Order,
}

/// What moves as one among its neighbours: an item, or all of a group.
struct Block<'a> {
    members: Vec<&'a Item>,
    picked: bool,
}

/// The identities of some neighbours from the back, after what is picked among them has moved.
fn ordered<'a>(items: &[&'a Item], level: usize, picked: &Picked<'_>) -> Vec<&'a ItemId> {
    let mut blocks: Vec<Block<'a>> = Vec::new();
    for item in items {
        let group = item.groups.get(level);
        match blocks.last_mut().filter(|block| group.is_some() && block.members[0].groups.get(level) == group) {
            Some(block) => block.members.push(item),
            None => blocks.push(Block { members: vec![item], picked: false }),
        }
    }
    for block in &mut blocks {
        block.picked = block.members.iter().all(|item| picked.ids.contains(&item.id));
    }
    let partly = |block: &Block<'_>| !block.picked && block.members.iter().any(|item| picked.ids.contains(&item.id));
    // Where some members of one group are picked and others not, they move inside it.
    let within = |block: Block<'a>| {
        if partly(&block) {
            ordered(&block.members, level + 1, picked)
        } else {
            block.members.into_iter().map(|item| &item.id).collect()
        }
    };
    moved(blocks, picked).into_iter().flat_map(within).collect()
}

fn moved<'a>(mut blocks: Vec<Block<'a>>, picked: &Picked<'_>) -> Vec<Block<'a>> {
    let last = blocks.len().saturating_sub(1);
    match picked.order {
        Order::Forward => {
            for at in (0..last).rev() {
                if blocks[at].picked && !blocks[at + 1].picked {
                    blocks.swap(at, at + 1);
                }
            }
            blocks
        }
        Order::Back => {
            for at in 1..=last {
                if blocks[at].picked && !blocks[at - 1].picked {
                    blocks.swap(at, at - 1);
                }
            }
            blocks
        }
        Order::Front | Order::Bottom | Order::Behind => {
            let (up, mut others): (Vec<_>, Vec<_>) = blocks.into_iter().partition(|block| block.picked);
            let holds =
                |block: &Block<'_>| picked.covered.is_some_and(|id| block.members.iter().any(|item| item.id == *id));
            let at = match picked.order {
                Order::Front => others.len(),
                Order::Behind => others.iter().position(holds).unwrap_or(0),
                _ => 0,
            };
            others.splice(at..at, up);
            others
        }
    }
}

/// The lowest item that some of these cover. What covers one of them whole is its ground, not what it goes behind.
fn lowest_covered<'a>(side: &'a Side, items: &[ItemId]) -> Option<&'a ItemId> {
    let meets = |a: Rect, b: Rect| a.x < b.right() && b.x < a.right() && a.y < b.bottom() && b.y < a.bottom();
    let others = side.items.iter().filter(|item| !items.contains(&item.id));
    let own = || side.items.iter().filter(|item| items.contains(&item.id)).map(|item| item.place.at.rect);
    let mut covered = others
        .filter(|other| own().any(|rect| meets(rect, other.place.at.rect) && !other.place.at.rect.contains(rect)));
    covered.next().map(|item| &item.id)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::arrange::group;
    use crate::testing::{Everything, Numbered, job_with};
    use proptest::prelude::*;
    use vatman_document::Place;
    use vatman_units::{Length, Placement};

    fn names(job: &Job) -> Vec<&str> {
        job.items().map(|item| item.id.as_str()).collect()
    }

    fn after(count: usize, picked: &[usize], order: Order) -> Vec<usize> {
        let mut job = job_with(count);
        let items: Vec<ItemId> = picked.iter().map(|i| ItemId::new(format!("i{i}")).unwrap()).collect();
        let before = job.clone();
        let undo = reorder(&job, &items, order).unwrap().apply(&mut job, &Everything).unwrap();
        let found = names(&job).iter().map(|name| name[1..].parse().unwrap()).collect();
        undo.apply(&mut job, &Everything).unwrap();
        assert_eq!(job, before);
        found
    }

    #[test]
    fn several_go_together_and_wait_for_each_other_at_the_end() {
        assert_eq!(after(5, &[1, 3], Order::Forward), [0, 2, 1, 4, 3]);
        assert_eq!(after(5, &[1, 3], Order::Back), [1, 0, 3, 2, 4]);
        assert_eq!(after(5, &[0, 2], Order::Front), [1, 3, 4, 0, 2]);
        assert_eq!(after(5, &[2, 4], Order::Bottom), [2, 4, 0, 1, 3]);
        assert_eq!(after(4, &[2, 3], Order::Forward), [0, 1, 2, 3]);
        assert_eq!(after(4, &[0, 1], Order::Back), [0, 1, 2, 3]);
        assert!(reorder(&job_with(2), &[], Order::Front).is_err());
    }

    #[test]
    fn what_is_placed_behind_lies_below_what_it_covered() {
        let mut job = job_with(4);
        let px = Length::css_px;
        let id = ItemId::new("i3").unwrap();
        let over = Place::new(Placement::at(Rect::new(px(150.0), px(20.0), px(140.0), px(40.0))));
        Command::SetPlace { item: id.clone(), place: over }.apply(&mut job, &Everything).unwrap();
        reorder(&job, &[id], Order::Behind).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!(
            names(&job),
            ["i0", "i3", "i1", "i2"],
            "below the second, which it covered, and above the first, which it did not"
        );
    }

    #[test]
    fn an_item_goes_right_below_the_one_it_is_put_on() {
        let id = |n: usize| ItemId::new(format!("i{n}")).unwrap();
        let after = |item: usize, other: Option<usize>| {
            let mut job = job_with(4);
            put_below(&job, &id(item), other.map(id).as_ref()).unwrap().apply(&mut job, &Everything).unwrap();
            names(&job).join(" ")
        };
        assert_eq!(after(0, Some(3)), "i1 i2 i0 i3");
        assert_eq!(after(3, Some(1)), "i0 i3 i1 i2");
        assert_eq!(after(1, None), "i0 i2 i3 i1");
        assert_eq!(after(2, Some(2)), "i0 i1 i2 i3");
        assert!(put_below(&job_with(2), &id(0), Some(&id(9))).is_err());
    }

    #[test]
    fn groups_are_passed_whole_and_members_stay_inside() {
        let id = |n: usize| ItemId::new(format!("i{n}")).unwrap();
        let mut job = job_with(5);
        group(&job, &[id(1), id(2)], &mut Numbered::default()).unwrap().apply(&mut job, &Everything).unwrap();
        let go = |job: &Job, picked: &[usize], order| {
            let mut job = job.clone();
            let items: Vec<ItemId> = picked.iter().map(|n| id(*n)).collect();
            reorder(&job, &items, order).unwrap().apply(&mut job, &Everything).unwrap();
            job.check().unwrap();
            names(&job).join(" ")
        };
        assert_eq!(go(&job, &[0], Order::Forward), "i1 i2 i0 i3 i4", "past the whole group, not into it");
        assert_eq!(go(&job, &[3], Order::Back), "i0 i3 i1 i2 i4");
        assert_eq!(go(&job, &[1], Order::Forward), "i0 i2 i1 i3 i4", "a member moves among the members");
        assert_eq!(go(&job, &[1], Order::Front), "i0 i2 i1 i3 i4");
        assert_eq!(go(&job, &[1, 2], Order::Front), "i0 i3 i4 i1 i2", "all of them are the group");
    }

    proptest! {
        /// Whoever goes where: nothing is lost, and both the picked and the others keep their order.
        #[test]
        fn the_picked_and_the_others_keep_their_order(picked in prop::collection::btree_set(0usize..7, 1..6), which in 0usize..5) {
            let order = [Order::Front, Order::Forward, Order::Back, Order::Bottom, Order::Behind][which];
            let picked: Vec<usize> = picked.into_iter().collect();
            let found = after(7, &picked, order);
            let of = |own: bool| found.iter().copied().filter(|i| picked.contains(i) == own).collect::<Vec<_>>();
            prop_assert_eq!(of(true), picked.clone());
            prop_assert_eq!(of(false), (0..7).filter(|i| !picked.contains(i)).collect::<Vec<_>>());
        }
    }
}
