//! Members of a group lie next to each other, whatever was moved.

use std::sync::Arc;

use crate::{Command, GroupId, Item, ItemId, Job, Side};

/// Brings the members of every group of the changed sides together, up to where the topmost of them lies, and returns what takes
/// that back, in the order it is to be done. Empty where everything lay together.
pub(crate) fn gather(old: &Job, job: &mut Job) -> Vec<Command> {
    let mut inverse = Vec::new();
    for (at, piece) in job.pieces.iter_mut().enumerate() {
        let before = old.pieces.get(at).filter(|before| before.id == piece.id);
        if before.is_some_and(|before| Arc::ptr_eq(before, piece)) || piece.sides.iter().all(lies_together) {
            continue;
        }
        for side in &mut Arc::make_mut(piece).sides {
            inverse.extend(gather_side(side));
        }
    }
    inverse.reverse();
    inverse
}

/// Whether the members of every group of a side lie next to each other, in paths that agree.
pub(crate) fn lies_together(side: &Side) -> bool {
    let mut closed: Vec<&GroupId> = Vec::new();
    let mut open: &[GroupId] = &[];
    side.items.iter().all(|item| {
        let shared = open.iter().zip(&item.groups).take_while(|(a, b)| a == b).count();
        closed.extend(&open[shared..]);
        let sound = !item.groups[shared..].iter().any(|group| closed.contains(&group));
        open = &item.groups;
        sound
    })
}

fn gather_side(side: &mut Side) -> Vec<Command> {
    if lies_together(side) {
        return Vec::new();
    }
    let wanted: Vec<ItemId> = {
        let front_first: Vec<&Item> = side.items.iter().rev().collect();
        let mut order = Vec::new();
        order_at(&front_first, 0, &mut order);
        order.into_iter().rev().cloned().collect()
    };
    let mut inverse = Vec::new();
    for (to, id) in wanted.into_iter().enumerate() {
        let Some(from) = side.items.iter().position(|item| item.id == id) else { continue };
        if from != to {
            let moved = side.items.remove(from);
            side.items.insert(to, moved);
            inverse.push(Command::MoveItem { item: id, index: from });
        }
    }
    inverse
}

/// The items from the front to the back, each group of a level taken together where its first member comes.
fn order_at<'a>(items: &[&'a Item], level: usize, order: &mut Vec<&'a ItemId>) {
    let mut done: Vec<&GroupId> = Vec::new();
    for item in items {
        match item.groups.get(level) {
            None => order.push(&item.id),
            Some(group) if done.contains(&group) => {}
            Some(group) => {
                done.push(group);
                let members: Vec<&Item> =
                    items.iter().copied().filter(|other| other.groups.get(level) == Some(group)).collect();
                order_at(&members, level + 1, order);
            }
        }
    }
}
