//! What differs between two states of a job, for viewers that keep a copy.

use std::collections::BTreeMap;

use serde::Serialize;
use ts_rs::TS;

use crate::{Item, ItemId, Job, Kin, KinId, Piece, PieceId, SideId, Swatch, SwatchId};

/// The parts of a job that differ from an earlier state; what is absent is unchanged.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct JobDelta {
    /// New title.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub title: Option<String>,
    /// Changed kins; nothing means removed.
    pub kins: BTreeMap<KinId, Option<Kin>>,
    /// Changed swatches; nothing means removed.
    pub swatches: BTreeMap<SwatchId, Option<Swatch>>,
    /// All pieces, where pieces or sides came, went, moved, or changed in anything but their items.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub pieces: Option<Vec<Piece>>,
    /// The identities on each changed side, back to front.
    pub order: BTreeMap<SideId, Vec<ItemId>>,
    /// New and changed items.
    pub items: Vec<Item>,
    /// Pieces that may look different.
    pub touched: Vec<PieceId>,
}

impl JobDelta {
    /// What changed from `old` to `new`.
    #[must_use]
    pub fn between(old: &Job, new: &Job) -> Self {
        let mut delta = Self {
            title: (old.title != new.title).then(|| new.title.clone()),
            kins: map_delta(&old.kins, &new.kins),
            swatches: map_delta(&old.swatches, &new.swatches),
            ..Self::default()
        };
        let same_frame = |a: &Piece, b: &Piece| {
            (&a.id, &a.name, &a.place, &a.format, &a.guides, &a.tray) == (&b.id, &b.name, &b.place, &b.format, &b.guides, &b.tray)
                && a.sides.len() == b.sides.len()
                && a.sides.iter().zip(&b.sides).all(|(a, b)| (&a.id, &a.name, &a.ground, &a.stacks) == (&b.id, &b.name, &b.ground, &b.stacks))
        };
        let aligned = old.pieces.len() == new.pieces.len() && old.pieces.iter().zip(&new.pieces).all(|(a, b)| same_frame(a, b));
        for piece in &new.pieces {
            let before = old.piece(&piece.id);
            let shared = piece.sides.iter().flat_map(|side| &side.items).any(|item| delta.kins.contains_key(&item.kin));
            if before != Some(piece) || shared || !delta.swatches.is_empty() {
                delta.touched.push(piece.id.clone());
            }
        }
        if !aligned {
            delta.pieces = Some(new.pieces.clone());
            return delta;
        }
        for (before, after) in old.pieces.iter().flat_map(|p| &p.sides).zip(new.pieces.iter().flat_map(|p| &p.sides)) {
            if !before.items.iter().map(|item| &item.id).eq(after.items.iter().map(|item| &item.id)) {
                delta.order.insert(after.id.clone(), after.items.iter().map(|item| item.id.clone()).collect());
            }
            let known: BTreeMap<_, _> = before.items.iter().map(|item| (&item.id, item)).collect();
            delta.items.extend(after.items.iter().filter(|item| known.get(&item.id).is_none_or(|old| old != item)).cloned());
        }
        delta
    }
}

fn map_delta<K: Ord + Clone, V: PartialEq + Clone>(old: &BTreeMap<K, V>, new: &BTreeMap<K, V>) -> BTreeMap<K, Option<V>> {
    let gone = old.keys().filter(|key| !new.contains_key(key)).map(|key| (key.clone(), None));
    let changed = new.iter().filter(|(key, value)| old.get(key) != Some(value)).map(|(key, value)| (key.clone(), Some(value.clone())));
    gone.chain(changed).collect()
}
