//! What differs between two states of a job, for viewers that keep a copy.

use std::collections::BTreeMap;
use std::sync::Arc;

use imbl::OrdMap;
use imbl::ordmap::DiffItem;
use serde::Serialize;
use ts_rs::TS;

use crate::{
    FirstShape, Follows, Format, GroupLook, Guides, Item, ItemId, Job, Kin, KinId, Paint, Piece, PieceId, Removed,
    Side, SideId, Stack, Swatch, SwatchId,
};

/// A side without its items.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct SideFrame {
    /// Its identity.
    pub id: SideId,
    /// "Front", "Back"...
    pub name: String,
    /// What lies under everything.
    pub ground: Option<Paint>,
    /// Groups that space themselves.
    pub stacks: Vec<Stack>,
    /// Groups that look their own way.
    pub group_looks: Vec<GroupLook>,
}

impl SideFrame {
    fn of(side: &Side) -> Self {
        let Side { id, name, ground, items: _, stacks, group_looks } = side;
        Self {
            id: id.clone(),
            name: name.clone(),
            ground: ground.clone(),
            stacks: stacks.clone(),
            group_looks: group_looks.clone(),
        }
    }
}

/// A piece without its items and its tray.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct PieceFrame {
    /// Its identity.
    pub id: PieceId,
    /// What it is, in plain words.
    pub name: String,
    /// The catalogue entry it was made from, if any.
    pub place: Option<String>,
    /// Size, resolution, bleed and safe area.
    pub format: Format,
    /// Lines to lay things out by.
    pub guides: Guides,
    /// What its arrangement came from.
    pub follows: Follows,
    /// How it was arranged before its format was changed.
    pub first: Option<Box<FirstShape>>,
    /// Its sides in their order.
    pub sides: Vec<SideFrame>,
}

impl PieceFrame {
    fn of(piece: &Piece) -> Self {
        let Piece { id, name, place, format, sides, guides, tray: _, follows, first } = piece;
        Self {
            id: id.clone(),
            name: name.clone(),
            place: place.clone(),
            format: *format,
            guides: guides.clone(),
            follows: follows.clone(),
            first: first.clone(),
            sides: sides.iter().map(SideFrame::of).collect(),
        }
    }
}

/// What changed in a tray: from a place on, some were taken and others put.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct TrayDelta {
    /// Where the change begins.
    pub at: usize,
    /// How many of what was there are gone.
    pub taken: usize,
    /// What is there instead.
    pub put: Vec<Removed>,
}

impl TrayDelta {
    fn between(old: &[Removed], new: &[Removed]) -> Option<Self> {
        if old == new {
            return None;
        }
        let at = old.iter().zip(new).take_while(|(a, b)| a == b).count();
        let tail = old[at..].iter().rev().zip(new[at..].iter().rev()).take_while(|(a, b)| a == b).count();
        Some(Self { at, taken: old.len() - tail - at, put: new[at..new.len() - tail].to_vec() })
    }
}

/// The parts of a job that differ from an earlier state; what is absent is unchanged.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct JobDelta {
    /// New title.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub title: Option<String>,
    /// All findings that are set aside, where these changed.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub set_aside: Option<BTreeMap<String, String>>,
    /// Changed kins; nothing means removed.
    pub kins: BTreeMap<KinId, Option<Kin>>,
    /// Changed swatches; nothing means removed.
    pub swatches: BTreeMap<SwatchId, Option<Swatch>>,
    /// The pieces in their order, where pieces came, went or moved.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub pieces: Option<Vec<PieceId>>,
    /// New pieces, and those that changed in anything but their items and their tray.
    pub frames: Vec<PieceFrame>,
    /// What changed in the trays.
    pub trays: BTreeMap<PieceId, TrayDelta>,
    /// The identities on each changed side, back to front.
    pub order: BTreeMap<SideId, Vec<ItemId>>,
    /// New and changed items.
    pub items: Vec<Item>,
    /// Pieces that may look different.
    pub touched: Vec<PieceId>,
}

impl JobDelta {
    /// What changed from `old` to `new`. Costs what changed: pieces the two share are not looked into.
    #[must_use]
    pub fn between(old: &Job, new: &Job) -> Self {
        let mut delta = Self {
            title: (old.title != new.title).then(|| new.title.clone()),
            set_aside: (old.set_aside != new.set_aside).then(|| new.set_aside.clone()),
            kins: kin_delta(&old.kins, &new.kins),
            swatches: swatch_delta(&old.swatches, &new.swatches),
            ..Self::default()
        };
        if !old.piece_ids().eq(new.piece_ids()) {
            delta.pieces = Some(new.piece_ids().cloned().collect());
        }
        for (at, piece) in new.pieces.iter().enumerate() {
            let beside = old.pieces.get(at).filter(|before| before.id == piece.id);
            let before = beside.or_else(|| old.pieces.iter().find(|before| before.id == piece.id));
            let same = before.is_some_and(|before| Arc::ptr_eq(before, piece) || before == piece);
            let shared = || {
                let items = piece.sides.iter().flat_map(|side| &side.items);
                !delta.kins.is_empty() && items.into_iter().any(|item| delta.kins.contains_key(&item.kin))
            };
            if !same || !delta.swatches.is_empty() || shared() {
                delta.touched.push(piece.id.clone());
            }
            if !same {
                delta.piece(before.map(Arc::as_ref), piece);
            }
        }
        delta
    }

    fn piece(&mut self, before: Option<&Piece>, piece: &Piece) {
        let frame = PieceFrame::of(piece);
        if before.is_none_or(|before| PieceFrame::of(before) != frame) {
            self.frames.push(frame);
        }
        if let Some(tray) = TrayDelta::between(before.map_or(&[], |before| &before.tray), &piece.tray) {
            self.trays.insert(piece.id.clone(), tray);
        }
        for side in &piece.sides {
            let was: &[Item] = before
                .and_then(|before| before.sides.iter().find(|was| was.id == side.id))
                .map_or(&[], |was| &was.items);
            if !was.iter().map(|item| &item.id).eq(side.items.iter().map(|item| &item.id)) {
                self.order.insert(side.id.clone(), side.items.iter().map(|item| item.id.clone()).collect());
            }
            let known: BTreeMap<_, _> = was.iter().map(|item| (&item.id, item)).collect();
            self.items.extend(side.items.iter().filter(|item| known.get(&item.id) != Some(item)).cloned());
        }
    }
}

fn kin_delta(old: &OrdMap<KinId, Arc<Kin>>, new: &OrdMap<KinId, Arc<Kin>>) -> BTreeMap<KinId, Option<Kin>> {
    let changes = old.diff(new).map(|change| match change {
        DiffItem::Add(id, kin) | DiffItem::Update { new: (id, kin), .. } => (id.clone(), Some(kin.as_ref().clone())),
        DiffItem::Remove(id, _) => (id.clone(), None),
    });
    changes.collect()
}

fn swatch_delta(
    old: &BTreeMap<SwatchId, Swatch>,
    new: &BTreeMap<SwatchId, Swatch>,
) -> BTreeMap<SwatchId, Option<Swatch>> {
    let gone = old.keys().filter(|id| !new.contains_key(id)).map(|id| (id.clone(), None));
    let changed = new.iter().filter(|(id, swatch)| old.get(id) != Some(swatch));
    gone.chain(changed.map(|(id, swatch)| (id.clone(), Some(swatch.clone())))).collect()
}
