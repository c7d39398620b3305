//! The small changes a job is made of, each with its inverse.

use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;

use crate::gather::gather;
use crate::words::is_written;
use crate::{
    AssetId, Content, Fault, FirstShape, Follows, Format, GroupId, GroupLook, Guides, Item, ItemId, Job, Kin, KinId,
    Look, LookPatch, Paint, Piece, PieceId, Place, Release, Removed, Side, SideId, Stack, StyleChange, Swatch,
    SwatchId, Tie,
};

/// Which level an edit of words or look means.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase", deny_unknown_fields)]
pub enum Target {
    /// All items of the kin that have not been released.
    Shared(KinId),
    /// This item alone, which is thereby released from sharing.
    Only(ItemId),
}

/// One change to a job.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[allow(clippy::large_enum_variant, reason = "commands are few at a time, and boxes would show in every pattern")]
#[serde(tag = "do", rename_all = "camelCase", deny_unknown_fields)]
pub enum Command {
    /// Renames the job.
    SetTitle {
        /// 1 to 200 letters.
        title: String,
    },
    /// New letters, keeping the styles around them.
    SetWords {
        /// Shared or alone.
        target: Target,
        /// The whole text.
        text: String,
    },
    /// Changes the style of some of the letters.
    StyleWords {
        /// Shared or alone.
        target: Target,
        /// Where it begins, in UTF-16 units of the typed text.
        from: usize,
        /// Where it ends.
        to: usize,
        /// What changes.
        change: StyleChange,
    },
    /// Replaces what is said or shown.
    SetContent {
        /// Shared or alone.
        target: Target,
        /// The new content, of the same kind as the old.
        content: Content,
    },
    /// Replaces how it looks.
    SetLook {
        /// Shared or alone.
        target: Target,
        /// The new look.
        look: Look,
    },
    /// Whether words are asked for when the next of a series is made.
    SetAsked {
        /// What shares them.
        kin: KinId,
        /// Whether so.
        asked: bool,
    },
    /// Sets what an item has released from sharing; an empty release shares everything again.
    SetRelease {
        /// The item.
        item: ItemId,
        /// What is its own.
        release: Release,
    },
    /// Moves, resizes, turns or crops.
    SetPlace {
        /// The item.
        item: ItemId,
        /// Where it sits from now on.
        place: Place,
    },
    /// Locks or hides.
    SetFlags {
        /// The item.
        item: ItemId,
        /// Cannot be picked on the stage.
        locked: bool,
        /// Neither shown nor exported.
        hidden: bool,
    },
    /// Puts an item into groups or takes it out of them.
    SetGroups {
        /// The item.
        item: ItemId,
        /// Outermost first.
        groups: Vec<GroupId>,
    },
    /// Gives an item a name for lists, or (with nothing) the one of its words or part.
    NameItem {
        /// The item.
        item: ItemId,
        /// 1 to 200 letters.
        name: Option<String>,
    },
    /// Sets what keeps holding between an item and others of its side. A tie to what is not there rests until it is back.
    SetTies {
        /// The item.
        item: ItemId,
        /// In the order they are seen to.
        ties: Vec<Tie>,
    },
    /// Sets which groups of a side space themselves.
    SetStacks {
        /// The side.
        side: SideId,
        /// Inner ones before those around them.
        stacks: Vec<Stack>,
    },
    /// Sets which groups of a side look their own way.
    SetGroupLooks {
        /// The side.
        side: SideId,
        /// In any order, each of another group.
        looks: Vec<GroupLook>,
    },
    /// Sets the lines to lay things out by.
    SetGuides {
        /// The piece.
        piece: PieceId,
        /// All of them.
        guides: Guides,
    },
    /// Makes a piece another size, for another place. What is on it stays where it is.
    SetFormat {
        /// The piece.
        piece: PieceId,
        /// Its size, resolution, bleed and safe area from now on.
        format: Format,
        /// The catalogue entry of that place, if any.
        place: Option<String>,
        /// How it was arranged before its format was changed for the first time, if that is to be remembered.
        #[serde(default)]
        first: Option<Box<FirstShape>>,
    },
    /// Says what the arrangement of a piece came from.
    Follow {
        /// The piece.
        piece: PieceId,
        /// From what.
        follows: Follows,
    },
    /// Keeps something aside of a piece.
    PutAside {
        /// The piece.
        piece: PieceId,
        /// Its place in the tray; 0 is the oldest, beyond the end means the newest.
        index: usize,
        /// What is kept.
        removed: Box<Removed>,
    },
    /// Gives up something kept aside.
    TakeAside {
        /// The piece.
        piece: PieceId,
        /// Its place in the tray.
        index: usize,
    },
    /// Sets the whole of what is kept aside. Only steps of a history written before form 2 hold it.
    SetTray {
        /// The piece.
        piece: PieceId,
        /// All of it, oldest first; beyond 500 the oldest go.
        tray: Vec<Removed>,
    },
    /// Puts an item on a side.
    InsertItem {
        /// The side.
        side: SideId,
        /// 0 is the very back; beyond the end means the very front.
        index: usize,
        /// The item.
        item: Item,
        /// Its kin, where the job does not have it yet.
        kin: Option<Kin>,
    },
    /// Takes an item away, and its kin with the last of them.
    RemoveItem {
        /// The item.
        item: ItemId,
    },
    /// Changes what lies over what.
    MoveItem {
        /// The item.
        item: ItemId,
        /// Its new place from the back.
        index: usize,
    },
    /// Sets what lies under everything on a side.
    SetGround {
        /// The side.
        side: SideId,
        /// Nothing makes the sheet transparent.
        ground: Option<Paint>,
    },
    /// Sets, adds or (with nothing) removes a shared colour.
    SetSwatch {
        /// Which.
        id: SwatchId,
        /// Name and colour.
        swatch: Option<Swatch>,
    },
    /// Adds a side to a piece.
    InsertSide {
        /// The piece.
        piece: PieceId,
        /// Position among its sides.
        index: usize,
        /// The side.
        side: Side,
        /// Kins the job does not have yet.
        kins: BTreeMap<KinId, Kin>,
    },
    /// Takes a side away, and the kins only it used.
    RemoveSide {
        /// Which.
        side: SideId,
    },
    /// Changes the order of the sides of a piece.
    MoveSide {
        /// Which.
        side: SideId,
        /// Its new position.
        index: usize,
    },
    /// Renames a side.
    RenameSide {
        /// Which.
        side: SideId,
        /// 1 to 200 letters.
        name: String,
    },
    /// Adds a piece.
    InsertPiece {
        /// Position among the pieces.
        index: usize,
        /// The piece.
        piece: Piece,
        /// Kins the job does not have yet.
        kins: BTreeMap<KinId, Kin>,
    },
    /// Takes a piece away, and the kins only it used.
    RemovePiece {
        /// Which.
        piece: PieceId,
    },
    /// Changes the order of the pieces.
    MovePiece {
        /// Which.
        piece: PieceId,
        /// Its new position.
        index: usize,
    },
    /// Renames a piece.
    RenamePiece {
        /// Which.
        piece: PieceId,
        /// 1 to 200 letters.
        name: String,
    },
    /// Lets a finding be as it is, or (without a reason) be said again.
    SetAside {
        /// What names the finding and its cause.
        finding: String,
        /// Why it may stay: 1 to 500 letters.
        reason: Option<String>,
    },
    /// Several changes that stand or fall together.
    All {
        /// In order.
        commands: Vec<Command>,
    },
}

/// Why a command cannot be carried out; the job is as it was.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[non_exhaustive]
pub enum CommandError {
    /// It names something the job does not have.
    #[error("That {0} is not in this job any more; it may have been removed elsewhere.")]
    Missing(&'static str, String),
    /// What would come of it breaks a rule of the model.
    #[error(transparent)]
    Unsound(#[from] Fault),
    /// A swatch still in use.
    #[error("The colour \u{201c}{0}\u{201d} is still used and cannot be removed.")]
    SwatchInUse(String),
    /// The last side of a piece.
    #[error("A piece keeps at least one side. Remove the piece instead.")]
    LastSide,
    /// The last piece of a job.
    #[error("A job keeps at least one piece. Remove the job instead.")]
    LastPiece,
}

/// What is at hand outside the job.
pub trait Known {
    /// Whether a family can be set.
    fn has_family(&self, name: &str) -> bool;
    /// Whether a picture can be shown.
    fn has_picture(&self, id: &AssetId) -> bool;
}

type Outcome = Result<Command, CommandError>;

impl Command {
    /// Deepest nesting of [`Command::All`].
    const DEEPEST: usize = 4;
    /// Most changes in one [`Command::All`].
    const MOST: usize = 100_000;

    /// Carries the change out and returns the change that takes it back. Groups come to lie together again as part of it. On an
    /// error the job is untouched.
    ///
    /// # Errors
    /// A [`CommandError`] whose text says what is wrong.
    pub fn apply(&self, job: &mut Job, known: &dyn Known) -> Outcome {
        let mut trial = job.clone();
        let inverse = self.apply_in_place(&mut trial, 0)?;
        let inverse = inverse.after(gather(job, &mut trial));
        trial.check_since(job, known)?;
        debug_assert_eq!(trial.check(), Ok(()), "a change that was checked leads to a sound job");
        *job = trial;
        Ok(inverse)
    }

    /// One change after another as one; changes made of several are joined, not nested.
    #[must_use]
    pub fn then(self, next: Self) -> Self {
        let mut commands = self.into_list();
        commands.extend(next.into_list());
        Self::All { commands }
    }

    /// This change with others before it.
    fn after(self, first: Vec<Self>) -> Self {
        if first.is_empty() { self } else { Self::All { commands: first }.then(self) }
    }

    /// The changes it is made of, in order.
    #[must_use]
    pub fn into_list(self) -> Vec<Self> {
        match self {
            Self::All { commands } => commands,
            one => vec![one],
        }
    }

    /// How many changes it is made of.
    #[must_use]
    pub fn count(&self) -> usize {
        if let Self::All { commands } = self { commands.iter().map(Self::count).sum() } else { 1 }
    }

    /// What takes two changes back that were done one after the other, `self` being what takes the first one back. Of several
    /// values set in the same place only the one that was there first is kept, so that a long gesture stays short.
    #[must_use]
    pub fn taking_back_also(self, later: Self) -> Self {
        let earlier = self.into_list();
        let mut set: Vec<Setting<'_>> = Vec::new();
        for command in &earlier {
            // What adds or removes may depend on a value set before it: beyond it nothing is left out.
            let Some(setting) = command.setting() else { break };
            set.push(setting);
        }
        let mut later = later.into_list();
        let tail = later.iter().rposition(|command| command.setting().is_none()).map_or(0, |at| at + 1);
        let mut at = 0;
        later.retain(|command| {
            at += 1;
            at <= tail || !command.setting().is_some_and(|setting| set.contains(&setting))
        });
        later.extend(earlier);
        Self::All { commands: later }
    }

    /// The place of which this sets the whole value; nothing for what adds, removes or depends on what was there.
    fn setting(&self) -> Option<Setting<'_>> {
        Some(match self {
            Self::SetTitle { .. } => Setting::Title,
            Self::SetContent { target, .. } => Setting::Content(target),
            Self::SetLook { target, .. } => Setting::Look(target),
            Self::SetAsked { kin, .. } => Setting::Asked(kin),
            Self::SetRelease { item, .. } => Setting::Release(item),
            Self::SetPlace { item, .. } => Setting::Place(item),
            Self::SetFlags { item, .. } => Setting::Flags(item),
            Self::NameItem { item, .. } => Setting::Name(item),
            Self::SetTies { item, .. } => Setting::Ties(item),
            Self::SetStacks { side, .. } => Setting::Stacks(side),
            Self::SetGroupLooks { side, .. } => Setting::GroupLooks(side),
            Self::SetGuides { piece, .. } => Setting::Guides(piece),
            Self::SetFormat { piece, .. } => Setting::Format(piece),
            Self::Follow { piece, .. } => Setting::Follows(piece),
            Self::SetGround { side, .. } => Setting::Ground(side),
            Self::RenameSide { side, .. } => Setting::SideName(side),
            Self::RenamePiece { piece, .. } => Setting::PieceName(piece),
            Self::SetSwatch { id, swatch: Some(_) } => Setting::Swatch(id),
            Self::SetAside { finding, .. } => Setting::Aside(finding),
            _ => return None,
        })
    }

    fn apply_in_place(&self, job: &mut Job, depth: usize) -> Outcome {
        match self {
            Self::SetTitle { title } => {
                Ok(Self::SetTitle { title: std::mem::replace(&mut job.title, tidy_name(title)) })
            }
            Self::SetWords { target, text } => {
                let Content::Words { text: old, prompt } = content_of(job, target)? else {
                    return Err(Fault::NoWords.into());
                };
                let content = Content::Words { text: old.with_text(text), prompt: prompt.clone() };
                set_content(job, target, content)
            }
            Self::StyleWords { target, from, to, change } => {
                let Content::Words { text, prompt } = content_of(job, target)? else {
                    return Err(Fault::NoWords.into());
                };
                let content = Content::Words { text: text.styled(*from, *to, change), prompt: prompt.clone() };
                set_content(job, target, content)
            }
            Self::SetContent { target, content } => set_content(job, target, content.clone()),
            Self::SetLook { target, look } => set_look(job, target, look),
            Self::SetAsked { kin, asked } => {
                let asked = std::mem::replace(&mut kin_mut(job, kin)?.asked, *asked);
                Ok(Self::SetAsked { kin: kin.clone(), asked })
            }
            Self::SetRelease { item, release } => {
                let found = find_item(job, item)?;
                let release = std::mem::replace(&mut found.release, release.clone());
                Ok(Self::SetRelease { item: item.clone(), release })
            }
            Self::SetPlace { item, place } => {
                let found = find_item(job, item)?;
                let place = std::mem::replace(&mut found.place, *place);
                Ok(Self::SetPlace { item: item.clone(), place })
            }
            Self::SetFlags { item, locked, hidden } => {
                let found = find_item(job, item)?;
                let inverse = Self::SetFlags { item: item.clone(), locked: found.locked, hidden: found.hidden };
                (found.locked, found.hidden) = (*locked, *hidden);
                Ok(inverse)
            }
            Self::SetGroups { item, groups } => {
                let found = find_item(job, item)?;
                let groups = std::mem::replace(&mut found.groups, groups.clone());
                Ok(Self::SetGroups { item: item.clone(), groups })
            }
            Self::NameItem { item, name } => {
                let found = find_item(job, item)?;
                let name = std::mem::replace(&mut found.name, name.as_deref().map(tidy_name));
                Ok(Self::NameItem { item: item.clone(), name })
            }
            Self::SetTies { item, ties } => {
                let found = find_item(job, item)?;
                Ok(Self::SetTies { item: item.clone(), ties: std::mem::replace(&mut found.ties, ties.clone()) })
            }
            Self::SetStacks { side, stacks } => {
                let found = find_side(job, side)?;
                Ok(Self::SetStacks { side: side.clone(), stacks: std::mem::replace(&mut found.stacks, stacks.clone()) })
            }
            Self::SetGroupLooks { side, looks } => {
                let found = find_side(job, side)?;
                let looks = std::mem::replace(&mut found.group_looks, looks.clone());
                Ok(Self::SetGroupLooks { side: side.clone(), looks })
            }
            Self::SetAside { finding, reason } => {
                let before = match reason.as_deref().map(tidy_name) {
                    Some(reason) => job.set_aside.insert(finding.clone(), reason),
                    None => job.set_aside.remove(finding),
                };
                Ok(Self::SetAside { finding: finding.clone(), reason: before })
            }
            Self::SetFormat { piece, format, place, first } => {
                let found = find_piece(job, piece)?;
                let (was, first) = (found.place.take(), std::mem::replace(&mut found.first, first.clone()));
                let inverse = Self::SetFormat { piece: piece.clone(), format: found.format, place: was, first };
                (found.format, found.place) = (*format, place.clone());
                Ok(inverse)
            }
            Self::Follow { piece, follows } => {
                let found = find_piece(job, piece)?;
                let follows = std::mem::replace(&mut found.follows, follows.clone());
                Ok(Self::Follow { piece: piece.clone(), follows })
            }
            Self::SetGuides { piece, guides } => {
                let guides = std::mem::replace(&mut find_piece(job, piece)?.guides, guides.clone());
                Ok(Self::SetGuides { piece: piece.clone(), guides })
            }
            Self::PutAside { piece, index, removed } => {
                let tray = &mut find_piece(job, piece)?.tray;
                let index = (*index).min(tray.len());
                tray.insert(index, removed.as_ref().clone());
                Ok(Self::TakeAside { piece: piece.clone(), index })
            }
            Self::TakeAside { piece, index } => {
                let tray = &mut find_piece(job, piece)?.tray;
                if *index >= tray.len() {
                    return Err(missing("item kept aside", index));
                }
                let removed = Box::new(tray.remove(*index));
                Ok(Self::PutAside { piece: piece.clone(), index: *index, removed })
            }
            Self::SetTray { piece, tray } => {
                let kept = tray.get(tray.len().saturating_sub(Piece::MOST_ASIDE)..).unwrap_or_default().to_vec();
                let tray = std::mem::replace(&mut find_piece(job, piece)?.tray, kept);
                Ok(Self::SetTray { piece: piece.clone(), tray })
            }
            Self::InsertItem { side, index, item, kin } => {
                absent(job, &[], &[&item.id])?;
                if let Some(kin) = kin {
                    add_kin(job, &item.kin, kin)?;
                }
                let found = find_side(job, side)?;
                found.items.insert((*index).min(found.items.len()), item.clone());
                Ok(Self::RemoveItem { item: item.id.clone() })
            }
            Self::RemoveItem { item } => remove_item(job, item),
            Self::MoveItem { item, index } => {
                let side = side_with(job, item)?;
                let from = side.items.iter().position(|other| other.id == *item).unwrap_or(0);
                let moved = side.items.remove(from);
                let to = (*index).min(side.items.len());
                side.items.insert(to, moved);
                Ok(Self::MoveItem { item: item.clone(), index: from })
            }
            Self::SetGround { side, ground } => {
                let ground = std::mem::replace(&mut find_side(job, side)?.ground, ground.clone());
                Ok(Self::SetGround { side: side.clone(), ground })
            }
            Self::SetSwatch { id, swatch } => set_swatch(job, id, swatch.as_ref()),
            Self::InsertSide { piece, index, side, kins } => {
                absent(job, &[side], &[])?;
                for (id, kin) in kins {
                    add_kin(job, id, kin)?;
                }
                let sides = &mut find_piece(job, piece)?.sides;
                sides.insert((*index).min(sides.len()), side.clone());
                Ok(Self::RemoveSide { side: side.id.clone() })
            }
            Self::RemoveSide { side } => remove_side(job, side),
            Self::MoveSide { side, index } => {
                let sides = &mut piece_with(job, side)?.sides;
                let from = sides.iter().position(|other| other.id == *side).unwrap_or(0);
                let moved = sides.remove(from);
                sides.insert((*index).min(sides.len()), moved);
                Ok(Self::MoveSide { side: side.clone(), index: from })
            }
            Self::RenameSide { side, name } => {
                let name = std::mem::replace(&mut find_side(job, side)?.name, tidy_name(name));
                Ok(Self::RenameSide { side: side.clone(), name })
            }
            Self::InsertPiece { index, piece, kins } => {
                if job.piece(&piece.id).is_some() {
                    return Err(Fault::Twice("piece", piece.id.to_string()).into());
                }
                absent(job, &piece.sides.iter().collect::<Vec<_>>(), &[])?;
                for (id, kin) in kins {
                    add_kin(job, id, kin)?;
                }
                job.pieces.insert((*index).min(job.pieces.len()), Arc::new(piece.clone()));
                Ok(Self::RemovePiece { piece: piece.id.clone() })
            }
            Self::RemovePiece { piece } => remove_piece(job, piece),
            Self::MovePiece { piece, index } => {
                let from =
                    job.pieces.iter().position(|other| other.id == *piece).ok_or_else(|| missing("piece", piece))?;
                let moved = job.pieces.remove(from);
                job.pieces.insert((*index).min(job.pieces.len()), moved);
                Ok(Self::MovePiece { piece: piece.clone(), index: from })
            }
            Self::RenamePiece { piece, name } => {
                let name = std::mem::replace(&mut find_piece(job, piece)?.name, tidy_name(name));
                Ok(Self::RenamePiece { piece: piece.clone(), name })
            }
            Self::All { commands } => {
                if depth >= Self::DEEPEST || commands.len() > Self::MOST {
                    return Err(Fault::TooManyCommands.into());
                }
                let mut inverses = commands
                    .iter()
                    .map(|command| command.apply_in_place(job, depth + 1))
                    .collect::<Result<Vec<_>, _>>()?;
                inverses.reverse();
                Ok(Self::All { commands: inverses })
            }
        }
    }
}

/// A place of the job that one command sets as a whole.
#[derive(PartialEq, Eq)]
enum Setting<'a> {
    Title,
    Content(&'a Target),
    Look(&'a Target),
    Asked(&'a KinId),
    Release(&'a ItemId),
    Place(&'a ItemId),
    Flags(&'a ItemId),
    Name(&'a ItemId),
    Ties(&'a ItemId),
    Stacks(&'a SideId),
    GroupLooks(&'a SideId),
    Guides(&'a PieceId),
    Format(&'a PieceId),
    Follows(&'a PieceId),
    Ground(&'a SideId),
    SideName(&'a SideId),
    PieceName(&'a PieceId),
    Swatch(&'a SwatchId),
    Aside(&'a str),
}

fn missing(what: &'static str, id: &impl ToString) -> CommandError {
    CommandError::Missing(what, id.to_string())
}

/// What is put into a job is not there yet: of two of one identity, what comes later in the same change could not be told apart.
fn absent(job: &Job, sides: &[&Side], items: &[&ItemId]) -> Result<(), CommandError> {
    let twice = |what, id: String| Err(Fault::Twice(what, id).into());
    if let Some(side) = sides.iter().find(|side| job.side(&side.id).is_some()) {
        return twice("side", side.id.to_string());
    }
    let new: BTreeSet<&ItemId> =
        sides.iter().flat_map(|side| &side.items).map(|item| &item.id).chain(items.iter().copied()).collect();
    let known = job.items().find(|item| new.contains(&item.id));
    known.map_or(Ok(()), |item| twice("item", item.id.to_string()))
}

/// A name as it is kept: on one line, without space around it.
fn tidy_name(name: &str) -> String {
    let name: String = name.chars().map(|c| if c.is_control() { ' ' } else { c }).filter(|c| is_written(*c)).collect();
    name.trim().to_owned()
}

fn find_item<'a>(job: &'a mut Job, id: &ItemId) -> Result<&'a mut Item, CommandError> {
    job.item_mut(id).ok_or_else(|| missing("item", id))
}

fn find_side<'a>(job: &'a mut Job, id: &SideId) -> Result<&'a mut Side, CommandError> {
    job.side_mut(id).ok_or_else(|| missing("side", id))
}

fn find_piece<'a>(job: &'a mut Job, id: &PieceId) -> Result<&'a mut Piece, CommandError> {
    job.piece_mut(|piece| piece.id == *id).ok_or_else(|| missing("piece", id))
}

fn piece_with<'a>(job: &'a mut Job, id: &SideId) -> Result<&'a mut Piece, CommandError> {
    job.piece_mut(|piece| piece.sides.iter().any(|side| side.id == *id)).ok_or_else(|| missing("side", id))
}

fn side_with<'a>(job: &'a mut Job, id: &ItemId) -> Result<&'a mut Side, CommandError> {
    let side = job.find(id)?.side.id.clone();
    find_side(job, &side)
}

fn content_of<'a>(job: &'a Job, target: &Target) -> Result<&'a Content, CommandError> {
    match target {
        Target::Shared(kin) => Ok(&job.kins.get(kin).ok_or_else(|| missing("part", kin))?.content),
        Target::Only(id) => Ok(job.find(id)?.plain()?.content),
    }
}

fn kin_mut<'a>(job: &'a mut Job, id: &KinId) -> Result<&'a mut Kin, CommandError> {
    job.kins.get_mut(id).map(Arc::make_mut).ok_or_else(|| missing("part", id))
}

fn set_content(job: &mut Job, target: &Target, content: Content) -> Outcome {
    if std::mem::discriminant(content_of(job, target)?) != std::mem::discriminant(&content) {
        return Err(Fault::KindChanged.into());
    }
    match target {
        Target::Shared(id) => {
            let content = std::mem::replace(&mut kin_mut(job, id)?.content, content);
            Ok(Command::SetContent { target: target.clone(), content })
        }
        Target::Only(id) => {
            let item = find_item(job, id)?;
            let release = Release { content: Some(content), ..item.release.clone() };
            let release = std::mem::replace(&mut item.release, release);
            Ok(Command::SetRelease { item: id.clone(), release })
        }
    }
}

fn set_look(job: &mut Job, target: &Target, look: &Look) -> Outcome {
    match target {
        Target::Shared(id) => {
            let look = std::mem::replace(&mut kin_mut(job, id)?.look, look.clone());
            Ok(Command::SetLook { target: target.clone(), look })
        }
        Target::Only(id) => {
            let (shared, was) = {
                let plain = job.find(id)?.plain()?;
                let kin = job.kins.get(&plain.item.kin).ok_or_else(|| missing("part", &plain.item.kin))?;
                (kin.look.clone(), plain.own_look())
            };
            // What was its own stays so, and so does what differs now.
            let own = LookPatch::between(&shared, look).then(&LookPatch::all(look).shared_with(&was, true));
            let item = find_item(job, id)?;
            let release = Release { look: (!own.is_empty()).then_some(own), ..item.release.clone() };
            let release = std::mem::replace(&mut item.release, release);
            Ok(Command::SetRelease { item: id.clone(), release })
        }
    }
}

fn add_kin(job: &mut Job, id: &KinId, kin: &Kin) -> Result<(), CommandError> {
    if job.kins.contains_key(id) {
        return Err(Fault::Twice("part", id.to_string()).into());
    }
    job.kins.insert(id.clone(), Arc::new(kin.clone()));
    Ok(())
}

/// Removes those of some kins that no item uses, and returns them.
fn drop_unused_kins(job: &mut Job, of: BTreeSet<KinId>) -> BTreeMap<KinId, Kin> {
    let mut unused = of;
    for item in job.items() {
        unused.remove(&item.kin);
    }
    unused.into_iter().filter_map(|id| job.kins.remove(&id).map(|kin| (id, Arc::unwrap_or_clone(kin)))).collect()
}

fn kins_of<'a>(items: impl IntoIterator<Item = &'a Item>) -> BTreeSet<KinId> {
    items.into_iter().map(|item| item.kin.clone()).collect()
}

fn remove_item(job: &mut Job, id: &ItemId) -> Outcome {
    let side = side_with(job, id)?;
    let index = side.items.iter().position(|item| item.id == *id).unwrap_or(0);
    let item = side.items.remove(index);
    let side = side.id.clone();
    let kin = drop_unused_kins(job, kins_of([&item])).into_values().next();
    Ok(Command::InsertItem { side, index, item, kin })
}

fn set_swatch(job: &mut Job, id: &SwatchId, swatch: Option<&Swatch>) -> Outcome {
    let old = match swatch {
        Some(swatch) => {
            let swatch = Swatch { name: tidy_name(&swatch.name), ..swatch.clone() };
            job.swatches.insert(id.clone(), swatch)
        }
        None => {
            let old = job.swatches.remove(id);
            if let Some(swatch) = &old
                && job.uses_swatch(id)
            {
                return Err(CommandError::SwatchInUse(swatch.name.clone()));
            }
            old
        }
    };
    Ok(Command::SetSwatch { id: id.clone(), swatch: old })
}

fn remove_side(job: &mut Job, id: &SideId) -> Outcome {
    let found = piece_with(job, id)?;
    if found.sides.len() == 1 {
        return Err(CommandError::LastSide);
    }
    let piece = found.id.clone();
    let index = found.sides.iter().position(|side| side.id == *id).unwrap_or(0);
    let side = found.sides.remove(index);
    let kins = drop_unused_kins(job, kins_of(&side.items));
    Ok(Command::InsertSide { piece, index, side, kins })
}

fn remove_piece(job: &mut Job, id: &PieceId) -> Outcome {
    let index = job.pieces.iter().position(|piece| piece.id == *id).ok_or_else(|| missing("piece", id))?;
    if job.pieces.len() == 1 {
        return Err(CommandError::LastPiece);
    }
    let piece = Arc::unwrap_or_clone(job.pieces.remove(index));
    let kins = drop_unused_kins(job, kins_of(piece.sides.iter().flat_map(|side| &side.items)));
    Ok(Command::InsertPiece { index, piece, kins })
}

#[cfg(test)]
#[path = "command_test.rs"]
mod tests;
