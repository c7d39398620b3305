//! Fresh identities for copies: what belonged together stays together, apart from what it was copied from.

use std::collections::BTreeMap;

use vatman_document::{Anchor, GroupId, GroupLook, IdSource, ItemId, Stack, Tie};

/// Which new identity stands for which old one.
#[derive(Debug, Default)]
pub(crate) struct Copied {
    groups: BTreeMap<GroupId, GroupId>,
    items: BTreeMap<ItemId, ItemId>,
}

impl Copied {
    /// Fresh identities for items.
    pub fn of<'a>(items: impl Iterator<Item = &'a ItemId>, ids: &mut dyn IdSource) -> Self {
        Self { groups: BTreeMap::new(), items: items.map(|id| (id.clone(), ItemId::fresh(ids))).collect() }
    }

    /// The identity of the copy of an item.
    pub fn item(&self, id: &ItemId) -> Option<ItemId> {
        self.items.get(id).cloned()
    }

    /// The groups of a copy.
    pub fn groups(&mut self, groups: &[GroupId], ids: &mut dyn IdSource) -> Vec<GroupId> {
        groups
            .iter()
            .map(|group| self.groups.entry(group.clone()).or_insert_with(|| GroupId::fresh(ids)).clone())
            .collect()
    }

    /// The ties of a copy: those to other copies, and those to the sheet where the copy stands in the same place.
    pub fn ties(&self, ties: &[Tie], in_place: bool) -> Vec<Tie> {
        let to_sheet =
            |tie: &Tie| matches!(tie, Tie::Centre { of: Anchor::Sheet, .. } | Tie::Gap { of: Anchor::Sheet, .. });
        ties.iter()
            .filter(|tie| in_place || !to_sheet(tie))
            .filter_map(|tie| tie.renamed(&|id| self.item(id)))
            .collect()
    }

    /// The stacks of copied groups.
    pub fn stacks(&self, stacks: &[Stack]) -> Vec<Stack> {
        stacks
            .iter()
            .filter_map(|stack| Some(Stack { group: self.groups.get(&stack.group)?.clone(), ..stack.clone() }))
            .collect()
    }

    /// The looks of copied groups.
    pub fn group_looks(&self, looks: &[GroupLook]) -> Vec<GroupLook> {
        looks
            .iter()
            .filter_map(|look| Some(GroupLook { group: self.groups.get(&look.group)?.clone(), ..look.clone() }))
            .collect()
    }
}
