//! What lies over what.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{Command, CommandError, Item, ItemId, Job, Side};
use vatman_units::Rect;

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
/// holds the others up.
///
/// # Errors
/// [`CommandError`] where the first is not there.
pub fn reorder(job: &Job, items: &[ItemId], order: Order) -> Result<Command, CommandError> {
    let first = items.first().ok_or_else(|| CommandError::Value("Select something first.".into()))?;
    let mut sides = job.pieces.iter().flat_map(|piece| &piece.sides);
    let side = sides.find(|side| side.items.iter().any(|item| item.id == *first)).ok_or_else(|| CommandError::Missing("item", first.to_string()))?;
    let picked: Vec<(usize, &Item)> = side.items.iter().enumerate().filter(|(_, item)| items.contains(&item.id)).collect();
    let (count, last) = (picked.len(), side.items.len() - 1);
    let moved = |item: &Item, index: usize| Command::MoveItem { item: item.id.clone(), index };
    // Each goes before the next would be in its way: upward the topmost first, downward the lowest.
    let commands: Vec<Command> = match order {
        Order::Front => picked.iter().rev().enumerate().map(|(n, (_, item))| moved(item, last - n)).collect(),
        Order::Forward => picked.iter().rev().enumerate().map(|(n, (index, item))| moved(item, (index + 1).min(last - n))).collect(),
        Order::Back => picked.iter().enumerate().map(|(n, (index, item))| moved(item, index.saturating_sub(1).max(n))).collect(),
        Order::Bottom => picked.iter().enumerate().map(|(n, (_, item))| moved(item, n)).collect(),
        Order::Behind => {
            let below = lowest_covered(side, items).unwrap_or(0);
            debug_assert!(below + count <= side.items.len());
            picked.iter().enumerate().map(|(n, (_, item))| moved(item, below + n)).collect()
        }
    };
    Ok(Command::All { commands })
}

/// The place of the lowest item that some of these cover. What covers one of them whole is its ground, not what it goes behind.
fn lowest_covered(side: &Side, items: &[ItemId]) -> Option<usize> {
    let meets = |a: Rect, b: Rect| a.x < b.right() && b.x < a.right() && a.y < b.bottom() && b.y < a.bottom();
    let others = side.items.iter().filter(|item| !items.contains(&item.id)).enumerate();
    let own = || side.items.iter().filter(|item| items.contains(&item.id)).map(|item| item.place.at.rect);
    let mut covered = others.filter(|(_, other)| own().any(|rect| meets(rect, other.place.at.rect) && !other.place.at.rect.contains(rect)));
    covered.next().map(|(index, _)| index)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::testing::{Everything, job_with};
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
        assert_eq!(names(&job), ["i0", "i3", "i1", "i2"], "below the second, which it covered, and above the first, which it did not");
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
