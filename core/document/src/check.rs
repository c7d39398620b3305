//! The rules a job obeys, all of them in one place.

use std::collections::{BTreeMap, BTreeSet, HashSet};
use std::sync::Arc;

use imbl::ordmap::DiffItem;

use crate::gather::lies_together;
use crate::{
    AssetId, Content, Fault, GroupLook, Item, Job, Kin, Known, Look, Paint, Piece, Release, Removed, Side, Stack, Tie,
    Tint,
};

/// Everything is at hand.
struct Anything;

impl Known for Anything {
    fn has_family(&self, _: &str) -> bool {
        true
    }
    fn has_picture(&self, _: &AssetId) -> bool {
        true
    }
}

impl Job {
    /// Most pieces of a job.
    pub const MOST_PIECES: usize = 200;

    /// Checks every rule of the model.
    ///
    /// # Errors
    /// The first rule that is not kept.
    pub fn check(&self) -> Result<(), Fault> {
        let nothing = Self::new(self.id.clone(), "");
        Check { old: &nothing, job: self, known: &Anything }.all()
    }

    /// Checks every rule of the model as far as it could have come to be broken since an earlier state that kept them, and that what
    /// is newly used is at hand.
    ///
    /// # Errors
    /// The first rule that is not kept.
    pub fn check_since(&self, old: &Self, known: &dyn Known) -> Result<(), Fault> {
        Check { old, job: self, known }.all()
    }
}

struct Check<'a> {
    old: &'a Job,
    job: &'a Job,
    known: &'a dyn Known,
}

/// Names are tidied before they are kept, so a kept one is neither empty nor too long.
fn name(name: &str, what: &'static str) -> Result<(), Fault> {
    let sound = !name.trim().is_empty() && name.chars().count() <= 200 && !name.chars().any(char::is_control);
    if sound { Ok(()) } else { Err(Fault::Name(what)) }
}

fn fault(found: Option<Fault>) -> Result<(), Fault> {
    found.map_or(Ok(()), Err)
}

fn at_most(count: usize, most: usize, otherwise: Fault) -> Result<(), Fault> {
    if count <= most { Ok(()) } else { Err(otherwise) }
}

fn once<'a, T: Ord + ToString + 'a>(ids: impl Iterator<Item = &'a T>, what: &'static str) -> Result<(), Fault> {
    let mut seen = BTreeSet::new();
    for id in ids {
        if !seen.insert(id) {
            return Err(Fault::Twice(what, id.to_string()));
        }
    }
    Ok(())
}

impl<'a> Check<'a> {
    fn all(&self) -> Result<(), Fault> {
        let Self { old, job, .. } = self;
        if old.title != job.title {
            name(&job.title, "A job")?;
        }
        for (id, swatch) in &job.swatches {
            if old.swatches.get(id) != Some(swatch) {
                name(&swatch.name, "A colour")?;
                if swatch.ink.as_ref().is_some_and(|ink| !ink.is_sound()) {
                    return Err(Fault::Ink);
                }
            }
        }
        if old.set_aside != job.set_aside {
            let sound = |reason: &String| {
                !reason.trim().is_empty() && reason.chars().count() <= 500 && !reason.chars().any(char::is_control)
            };
            if job.set_aside.len() > Job::MOST_SET_ASIDE || !job.set_aside.values().all(sound) {
                return Err(Fault::SetAside);
            }
        }
        at_most(job.pieces.len(), Job::MOST_PIECES, Fault::PieceCount)?;
        let changed: Vec<(Option<&Piece>, &Piece)> = self.changed_pieces().collect();
        let same_pieces = changed.is_empty() && old.pieces.len() == job.pieces.len();
        if !same_pieces {
            self.identities(&changed)?;
        }
        for (before, piece) in &changed {
            self.piece(*before, piece)?;
        }
        self.kins(&changed, same_pieces)
    }

    fn changed_pieces(&self) -> impl Iterator<Item = (Option<&'a Piece>, &'a Piece)> {
        let (old, job) = (self.old, self.job);
        job.pieces.iter().enumerate().filter_map(move |(at, piece)| {
            let beside = old.pieces.get(at).filter(|before| before.id == piece.id);
            let before = beside.or_else(|| old.pieces.iter().find(|before| before.id == piece.id));
            match before {
                Some(before) if Arc::ptr_eq(before, piece) => None,
                before => Some((before.map(Arc::as_ref), piece.as_ref())),
            }
        })
    }

    /// Identities are given once.
    fn identities(&self, changed: &[(Option<&Piece>, &Piece)]) -> Result<(), Fault> {
        once(self.job.pieces.iter().map(|piece| &piece.id), "piece")?;
        let sides = |piece: &'a Piece| piece.sides.iter().map(|side| &side.id);
        once(self.job.pieces.iter().flat_map(|piece| sides(piece)), "side")?;
        let alike = |before: &Piece, piece: &Piece| {
            let ids = |piece: &'_ Piece| {
                piece.sides.iter().flat_map(|side| &side.items).map(|item| item.id.clone()).collect::<Vec<_>>()
            };
            ids(before) == ids(piece)
        };
        if changed.iter().all(|(before, piece)| before.is_some_and(|before| alike(before, piece))) {
            return Ok(());
        }
        let mut seen = HashSet::new();
        match self.job.items().find(|item| !seen.insert(item.id.as_str())) {
            Some(item) => Err(Fault::Twice("item", item.id.to_string())),
            None => Ok(()),
        }
    }

    /// What is shared is sound, there, and used.
    fn kins(&self, changed: &[(Option<&Piece>, &Piece)], same_pieces: bool) -> Result<(), Fault> {
        let (old, job) = (self.old, self.job);
        let mut other_kind = false;
        let mut same_keys = true;
        for change in old.kins.diff(&job.kins) {
            match change {
                DiffItem::Update { old: (_, before), new: (_, kin) } => {
                    self.kin(kin)?;
                    other_kind |= !same_kind(&before.content, &kin.content);
                }
                DiffItem::Add(_, kin) => {
                    self.kin(kin)?;
                    same_keys = false;
                }
                DiffItem::Remove(..) => same_keys = false,
            }
        }
        same_keys &= !other_kind;
        if same_pieces && same_keys {
            return Ok(());
        }
        let used = |piece: &Piece| -> BTreeMap<String, usize> {
            let mut used = BTreeMap::new();
            for item in piece.sides.iter().flat_map(|side| &side.items) {
                *used.entry(item.kin.to_string()).or_default() += 1;
            }
            used
        };
        let as_before = old.pieces.len() == job.pieces.len()
            && changed.iter().all(|(before, piece)| before.is_some_and(|before| used(before) == used(piece)));
        if same_keys && as_before {
            return Ok(());
        }
        let mut unused: HashSet<&str> = job.kins.keys().map(|id| id.as_str()).collect();
        for item in job.items() {
            let kin = job.kins.get(&item.kin).ok_or_else(|| Fault::Missing("part", item.kin.to_string()))?;
            unused.remove(item.kin.as_str());
            if other_kind {
                release_kind(&item.release, kin)?;
            }
        }
        unused.into_iter().min().map_or(Ok(()), |id| Err(Fault::Unused(id.to_owned())))
    }

    fn kin(&self, kin: &Kin) -> Result<(), Fault> {
        self.content(&kin.content)?;
        self.look(&kin.look)
    }

    fn piece(&self, before: Option<&Piece>, piece: &Piece) -> Result<(), Fault> {
        name(&piece.name, "A piece")?;
        if before.is_none_or(|before| before.format != piece.format) {
            piece.format.check()?;
        }
        fault(piece.guides.fault(piece.format.size))?;
        let known = before.and_then(|before| before.first.as_ref());
        if let Some(first) = piece.first.as_ref().filter(|first| known != Some(*first)) {
            first.format.check()?;
            fault(first.places.values().find_map(crate::Place::fault))?;
        }
        if piece.sides.is_empty() {
            return Err(Fault::SideCount);
        }
        at_most(piece.sides.len(), Piece::MOST_SIDES, Fault::SideCount)?;
        at_most(piece.tray.len(), Piece::MOST_ASIDE, Fault::TrayCount)?;
        for side in &piece.sides {
            let was = before.and_then(|before| before.sides.iter().find(|was| was.id == side.id));
            if was != Some(side) {
                self.side(was, side)?;
            }
        }
        let known: &[Removed] = before.map_or(&[], |before| &before.tray);
        for removed in piece.tray.iter().filter(|removed| !known.contains(removed)) {
            self.kin(&removed.kin)?;
            self.item(&removed.item, &removed.kin)?;
        }
        Ok(())
    }

    fn side(&self, before: Option<&Side>, side: &Side) -> Result<(), Fault> {
        name(&side.name, "A side")?;
        at_most(side.items.len(), Side::MOST_ITEMS, Fault::ItemCount)?;
        at_most(side.stacks.len(), Stack::MOST, Fault::StackCount)?;
        once(side.stacks.iter().map(|stack| &stack.group), "group").map_err(|_| Fault::StackCount)?;
        fault(side.stacks.iter().find_map(Stack::fault))?;
        at_most(side.group_looks.len(), GroupLook::MOST, Fault::GroupLookCount)?;
        once(side.group_looks.iter().map(|look| &look.group), "group").map_err(|_| Fault::GroupLookCount)?;
        for look in &side.group_looks {
            fault(look.fault())?;
            look.tints().try_for_each(|tint| self.tint(tint))?;
            look.pictures().try_for_each(|id| self.picture(id))?;
        }
        side.ground.as_ref().map_or(Ok(()), |paint| self.paint(paint))?;
        // Most items are in the place they were in; only what changed is looked at.
        let known: BTreeMap<_, _> =
            before.iter().flat_map(|before| &before.items).map(|item| (&item.id, item)).collect();
        for item in &side.items {
            if known.get(&item.id) != Some(&item) {
                let kin = self.job.kins.get(&item.kin).ok_or_else(|| Fault::Missing("part", item.kin.to_string()))?;
                self.item(item, kin)?;
            }
        }
        if lies_together(side) { Ok(()) } else { Err(Fault::GroupApart) }
    }

    fn item(&self, item: &Item, kin: &Kin) -> Result<(), Fault> {
        fault(item.place.fault())?;
        let twice = item.groups.iter().enumerate().any(|(at, group)| item.groups[..at].contains(group));
        if twice || item.groups.len() > Item::DEEPEST_GROUP {
            return Err(Fault::GroupDepth);
        }
        at_most(item.ties.len(), Tie::MOST, Fault::TieCount)?;
        fault(item.ties.iter().find_map(|tie| tie.fault(&item.id)))?;
        item.name.as_deref().map_or(Ok(()), |text| name(text, "An item"))?;
        release_kind(&item.release, kin)?;
        item.release.content.as_ref().map_or(Ok(()), |content| self.content(content))?;
        item.release.look.as_ref().map_or(Ok(()), |own| self.look(&own.over(&kin.look)))
    }

    fn content(&self, content: &Content) -> Result<(), Fault> {
        fault(content.fault())?;
        content.pictures().try_for_each(|id| self.picture(id))?;
        content.tints().try_for_each(|tint| self.tint(tint))?;
        let runs = content.words().into_iter().flat_map(|text| text.runs());
        runs.filter_map(|run| run.style.family.as_deref()).try_for_each(|family| self.family(family))
    }

    fn look(&self, look: &Look) -> Result<(), Fault> {
        fault(look.fault())?;
        look.tints().try_for_each(|tint| self.tint(tint))?;
        look.pictures().try_for_each(|id| self.picture(id))?;
        look.type_look.as_ref().map_or(Ok(()), |kind| self.family(&kind.family))
    }

    fn paint(&self, paint: &Paint) -> Result<(), Fault> {
        fault(paint.fault())?;
        paint.picture().map_or(Ok(()), |id| self.picture(id))?;
        paint.tints().try_for_each(|tint| self.tint(tint))
    }

    fn tint(&self, tint: &Tint) -> Result<(), Fault> {
        match tint {
            Tint::Swatch(id) if !self.job.swatches.contains_key(id) => Err(Fault::Missing("colour", id.to_string())),
            _ => Ok(()),
        }
    }

    fn picture(&self, id: &AssetId) -> Result<(), Fault> {
        if self.known.has_picture(id) { Ok(()) } else { Err(Fault::UnknownPicture(id.to_string())) }
    }

    /// A family the job is already set in stays usable when it is not at hand any more.
    fn family(&self, name: &str) -> Result<(), Fault> {
        if self.known.has_family(name) || self.old.uses_family(name) {
            Ok(())
        } else {
            Err(Fault::UnknownFamily(name.to_owned()))
        }
    }
}

fn same_kind(a: &Content, b: &Content) -> bool {
    std::mem::discriminant(a) == std::mem::discriminant(b)
}

/// Words stay words, also where they have been released.
fn release_kind(release: &Release, kin: &Kin) -> Result<(), Fault> {
    match &release.content {
        Some(content) if !same_kind(content, &kin.content) => Err(Fault::KindChanged),
        _ => Ok(()),
    }
}
