//! A job: shared content and look, and its pieces.

use std::borrow::Cow;
use std::collections::BTreeMap;
use std::sync::Arc;

use imbl::OrdMap;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

use crate::{
    AssetId, Color, CommandError, Content, Format, GroupId, GroupLook, Guides, Item, ItemId, JobId, Kin, KinId, Look,
    Paint, PieceId, Place, Plain, Removed, SideId, Stack, Swatch, SwatchId, Tint,
};

/// What differs in one of many pieces made from a list.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Record {
    /// What is said or shown, by kin.
    pub contents: BTreeMap<KinId, Content>,
    /// What is filled otherwise, by kin.
    pub fills: BTreeMap<KinId, Paint>,
}

/// One side of a piece.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Side {
    /// Its identity.
    pub id: SideId,
    /// "Front", "Back"...
    pub name: String,
    /// What lies under everything; nothing means a transparent sheet.
    pub ground: Option<Paint>,
    /// Back to front.
    pub items: Vec<Item>,
    /// Groups that space themselves, inner ones before those around them.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<Stack>>", optional)]
    pub stacks: Vec<Stack>,
    /// Groups that look their own way as a whole.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<GroupLook>>", optional)]
    pub group_looks: Vec<GroupLook>,
}

impl Side {
    /// Most items on one side.
    pub const MOST_ITEMS: usize = 2_000;

    /// A side without anything on it.
    #[must_use]
    pub fn blank(id: SideId, name: impl Into<String>, ground: Option<Paint>) -> Self {
        Self { id, name: name.into(), ground, items: Vec::new(), stacks: Vec::new(), group_looks: Vec::new() }
    }

    /// How a group looks as a whole, where that is its own.
    #[must_use]
    pub fn group_look(&self, group: &GroupId) -> Option<&GroupLook> {
        self.group_looks.iter().find(|look| look.group == *group)
    }

    /// The colours of the side itself: of its ground and its groups.
    fn tints(&self) -> impl Iterator<Item = &Tint> {
        self.ground.iter().flat_map(Paint::tints).chain(self.group_looks.iter().flat_map(GroupLook::tints))
    }

    /// The pictures of the side itself: of its ground and its groups.
    fn pictures(&self) -> impl Iterator<Item = &AssetId> {
        self.ground.iter().filter_map(Paint::picture).chain(self.group_looks.iter().flat_map(GroupLook::pictures))
    }
}

/// One place the message goes: a format and its sides.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Piece {
    /// Its identity.
    pub id: PieceId,
    /// What it is, in plain words.
    pub name: String,
    /// The catalogue entry it was made from, if any.
    #[serde(default)]
    pub place: Option<String>,
    /// Size, resolution, bleed and safe area.
    pub format: Format,
    /// One or more.
    pub sides: Vec<Side>,
    /// Lines to lay things out by.
    #[serde(default)]
    pub guides: Guides,
    /// Items taken away in the life of the piece, oldest first.
    #[serde(default)]
    pub tray: Vec<Removed>,
    /// What its arrangement came from.
    #[serde(default, skip_serializing_if = "Follows::is_hand")]
    #[ts(as = "Option<Follows>", optional)]
    pub follows: Follows,
    /// How it was arranged before its format was changed, if it was.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub first: Option<Box<FirstShape>>,
}

/// What the arrangement of a piece came from.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(tag = "from", rename_all = "camelCase", deny_unknown_fields)]
pub enum Follows {
    /// Somebody made it.
    #[default]
    Hand,
    /// Designs, one for each side.
    Design {
        /// Which, by their identities.
        designs: Vec<String>,
    },
    /// Another piece of the job, in an arrangement that was found for this shape.
    Piece {
        /// Which.
        piece: PieceId,
        /// What the arrangement is called.
        way: String,
        /// The designs that piece came from, one for each side; none where somebody made it.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        #[ts(as = "Option<Vec<String>>", optional)]
        designs: Vec<String>,
    },
}

/// How a piece was arranged before its format was changed for the first time: every other format is arranged from it, so that going
/// there and back changes nothing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct FirstShape {
    /// Its size, resolution, bleed and safe area.
    pub format: Format,
    /// The catalogue entry it was for, if any.
    pub place: Option<String>,
    /// Where its items stood.
    pub places: BTreeMap<ItemId, Place>,
}

impl Follows {
    const fn is_hand(&self) -> bool {
        matches!(self, Self::Hand)
    }

    /// The designs it came from in the end, one for each side.
    #[must_use]
    pub fn designs(&self) -> &[String] {
        match self {
            Self::Hand => &[],
            Self::Design { designs } | Self::Piece { designs, .. } => designs,
        }
    }
}

impl Piece {
    /// Most sides of a piece.
    pub const MOST_SIDES: usize = 100;
    /// Most items kept aside of a piece.
    pub const MOST_ASIDE: usize = 500;

    /// Whether a side is the back of the one before it, on the same paper.
    #[must_use]
    pub fn is_back(&self, side: &SideId) -> bool {
        self.sides.iter().position(|other| other.id == *side).is_some_and(|at| at % 2 == 1)
    }

    /// A piece of no place of the catalogue, without guides and with an empty tray.
    #[must_use]
    pub fn new(id: PieceId, name: impl Into<String>, format: Format, sides: Vec<Side>) -> Self {
        Self {
            id,
            name: name.into(),
            place: None,
            format,
            sides,
            guides: Guides::default(),
            tray: Vec::new(),
            follows: Follows::Hand,
            first: None,
        }
    }
}

/// An item and where it stands.
#[derive(Debug, Clone, Copy)]
pub struct Standing<'a> {
    /// The job.
    pub job: &'a Job,
    /// The piece it belongs to.
    pub piece: &'a Piece,
    /// The side it is on.
    pub side: &'a Side,
    /// Its place from the back.
    pub index: usize,
    /// The item.
    pub item: &'a Item,
}

impl<'a> Standing<'a> {
    /// What it says and how it looks here, with sharing resolved.
    ///
    /// # Errors
    /// [`CommandError`] where its kin is missing, which a checked job never has.
    pub fn plain(&self) -> Result<Plain<'a>, CommandError> {
        let missing = || CommandError::Missing("part", self.item.kin.to_string());
        self.job.plain(self.item).ok_or_else(missing)
    }
}

/// One message in all the sizes it is needed in.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Job {
    /// Its identity.
    pub id: JobId,
    /// Name in lists and file names.
    pub title: String,
    /// Shared colours.
    pub swatches: BTreeMap<SwatchId, Swatch>,
    /// What items share across pieces. States of a job have what they have in common only once, so that a copy costs nothing and
    /// a comparison what differs.
    #[ts(as = "BTreeMap<KinId, Arc<Kin>>")]
    pub kins: OrdMap<KinId, Arc<Kin>>,
    /// The pieces, in the order they are shown.
    pub pieces: Vec<Arc<Piece>>,
    /// Findings that were looked at and are to stay as they are, by what names them and their cause, each with the reason given.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    #[ts(as = "Option<BTreeMap<String, String>>", optional)]
    pub set_aside: BTreeMap<String, String>,
}

impl Job {
    /// Most findings that are set aside.
    pub const MOST_SET_ASIDE: usize = 1_000;

    /// A job without pieces.
    #[must_use]
    pub fn new(id: JobId, title: impl Into<String>) -> Self {
        Self {
            id,
            title: title.into(),
            swatches: BTreeMap::new(),
            kins: OrdMap::new(),
            pieces: Vec::new(),
            set_aside: BTreeMap::new(),
        }
    }

    /// The identities of the pieces, in their order.
    pub fn piece_ids(&self) -> impl Iterator<Item = &PieceId> {
        self.pieces.iter().map(|piece| &piece.id)
    }

    /// The piece of an identity.
    #[must_use]
    pub fn piece(&self, id: &PieceId) -> Option<&Piece> {
        self.pieces.iter().map(Arc::as_ref).find(|piece| piece.id == *id)
    }

    /// An item and where it stands: the one way to find its side.
    ///
    /// # Errors
    /// [`CommandError::Missing`] where it is not in the job.
    pub fn find(&self, id: &ItemId) -> Result<Standing<'_>, CommandError> {
        let found = self.pieces.iter().find_map(|piece| {
            piece.sides.iter().find_map(|side| {
                let index = side.items.iter().position(|item| item.id == *id)?;
                Some(Standing { job: self, piece: piece.as_ref(), side, index, item: &side.items[index] })
            })
        });
        found.ok_or_else(|| CommandError::Missing("item", id.to_string()))
    }

    /// The piece that something is true of, to be changed; only that one is copied.
    pub(crate) fn piece_mut(&mut self, is: impl Fn(&Piece) -> bool) -> Option<&mut Piece> {
        self.pieces.iter_mut().find(|piece| is(piece)).map(Arc::make_mut)
    }

    /// A side and the piece it belongs to.
    #[must_use]
    pub fn side(&self, id: &SideId) -> Option<(&Piece, &Side)> {
        self.pieces
            .iter()
            .map(Arc::as_ref)
            .find_map(|piece| piece.sides.iter().find(|side| side.id == *id).map(|side| (piece, side)))
    }

    pub(crate) fn side_mut(&mut self, id: &SideId) -> Option<&mut Side> {
        let piece = self.piece_mut(|piece| piece.sides.iter().any(|side| side.id == *id))?;
        piece.sides.iter_mut().find(|side| side.id == *id)
    }

    /// Every item of the job.
    pub fn items(&self) -> impl Iterator<Item = &Item> {
        self.pieces.iter().flat_map(|piece| &piece.sides).flat_map(|side| &side.items)
    }

    /// The item of an identity.
    #[must_use]
    pub fn item(&self, id: &ItemId) -> Option<&Item> {
        self.items().find(|item| item.id == *id)
    }

    pub(crate) fn item_mut(&mut self, id: &ItemId) -> Option<&mut Item> {
        let side = self.find(id).ok()?.side.id.clone();
        self.side_mut(&side)?.items.iter_mut().find(|item| item.id == *id)
    }

    /// Resolves what an item shares and what it has released. Nothing where its kin is missing,
    /// which a checked job never has.
    #[must_use]
    pub fn plain<'a>(&'a self, item: &'a Item) -> Option<Plain<'a>> {
        let kin = self.kins.get(&item.kin)?;
        Some(Plain {
            item,
            part: kin.part,
            content: item.release.content.as_ref().unwrap_or(&kin.content),
            look: match &item.release.look {
                Some(own) => Cow::Owned(own.over(&kin.look)),
                None => Cow::Borrowed(&kin.look),
            },
        })
    }

    /// The job as one of many made from a list: what a record says stands in the place of what its kins say. All else is shared.
    #[must_use]
    pub fn filled(&self, record: &Record) -> Self {
        let mut job = self.clone();
        for (id, content) in &record.contents {
            if let Some(kin) = job.kins.get_mut(id) {
                Arc::make_mut(kin).content = content.clone();
            }
        }
        for (id, paint) in &record.fills {
            if let Some(kin) = job.kins.get_mut(id) {
                Arc::make_mut(kin).look.fill = Some(paint.clone());
            }
        }
        // What says something of its own in one piece says the record's there, too.
        let own = |item: &Item| item.release.content.is_some() && record.contents.contains_key(&item.kin);
        for piece in &mut job.pieces {
            if piece.sides.iter().any(|side| side.items.iter().any(own)) {
                let items = Arc::make_mut(piece).sides.iter_mut().flat_map(|side| &mut side.items);
                items.filter(|item| own(item)).for_each(|item| item.release.content = None);
            }
        }
        job
    }

    /// The colour a tint stands for; a missing swatch is a mid grey, which a checked job never has.
    #[must_use]
    pub fn color(&self, tint: &Tint) -> Color {
        match tint {
            Tint::Own(color) => *color,
            Tint::Swatch(id) => self.swatches.get(id).map_or(Color::opaque(128, 128, 128), |swatch| swatch.color),
        }
    }

    /// Every content and look of the job, shared, released, or kept aside.
    fn held(&self) -> impl Iterator<Item = (Option<&Content>, Option<Cow<'_, Look>>)> {
        let aside = self.pieces.iter().flat_map(|piece| &piece.tray);
        let kins = self
            .kins
            .values()
            .map(Arc::as_ref)
            .chain(aside.clone().map(|removed| &removed.kin))
            .map(|kin| (Some(&kin.content), Some(Cow::Borrowed(&kin.look))));
        let own = self
            .items()
            .chain(aside.map(|removed| &removed.item))
            .map(|item| (item.release.content.as_ref(), item.release.look.as_ref().map(|own| Cow::Owned(own.alone()))));
        kins.chain(own)
    }

    /// Whether a swatch is used anywhere in the job.
    #[must_use]
    pub fn uses_swatch(&self, id: &SwatchId) -> bool {
        let is = |tint: &Tint| matches!(tint, Tint::Swatch(other) if other == id);
        self.held().any(|(content, look)| {
            content.is_some_and(|content| content.tints().any(is)) || look.is_some_and(|look| look.tints().any(is))
        }) || self.pieces.iter().flat_map(|piece| &piece.sides).flat_map(Side::tints).any(is)
    }

    /// Whether words of the job are set in a family, here or aside.
    #[must_use]
    pub fn uses_family(&self, name: &str) -> bool {
        let ranges = |content: &Content| {
            content.words().is_some_and(|text| text.runs().iter().any(|run| run.style.family.as_deref() == Some(name)))
        };
        self.held().any(|(content, look)| {
            look.is_some_and(|look| look.type_look.as_ref().is_some_and(|kind| kind.family == name))
                || content.is_some_and(ranges)
        })
    }

    /// The pictures it uses, each once, in order of identity.
    #[must_use]
    pub fn pictures(&self) -> Vec<AssetId> {
        let held = self.held().flat_map(|(content, look)| {
            let shown = content.into_iter().flat_map(Content::pictures).cloned();
            let painted: Vec<AssetId> = look.iter().flat_map(|look| look.pictures().cloned()).collect();
            shown.chain(painted)
        });
        let sides = self.pieces.iter().flat_map(|piece| &piece.sides).flat_map(Side::pictures);
        let mut all: Vec<_> = held.chain(sides.cloned()).collect();
        all.sort();
        all.dedup();
        all
    }
}
