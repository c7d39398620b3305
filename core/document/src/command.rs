//! The small changes a job is made of, each with its inverse.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;

use crate::{AssetId, Content, FormatError, GroupId, Guides, Item, ItemId, Job, Kin, KinId, Look, Paint, Piece, PieceId, Place, Release, Removed, Side, SideId, Stack, StyleChange, Swatch, SwatchId, Tie, Tint};

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
    /// Sets the lines to lay things out by.
    SetGuides {
        /// The piece.
        piece: PieceId,
        /// All of them.
        guides: Guides,
    },
    /// Sets what is kept aside of a piece.
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
    /// Renames a piece.
    RenamePiece {
        /// Which.
        piece: PieceId,
        /// 1 to 200 letters.
        name: String,
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
    #[error("The {0} \u{201c}{1}\u{201d} is not in this job; it may have been removed elsewhere.")]
    Missing(&'static str, String),
    /// It adds something the job already has.
    #[error("The {0} \u{201c}{1}\u{201d} is already in this job.")]
    Twice(&'static str, String),
    /// A value outside its range.
    #[error("{0}")]
    Value(String),
    /// A size nothing can be made in.
    #[error(transparent)]
    Format(#[from] FormatError),
    /// A typeface that is not at hand.
    #[error("The family \u{201c}{0}\u{201d} is not at hand. Choose one from the list.")]
    UnknownFamily(String),
    /// A picture that is not at hand.
    #[error("The picture \u{201c}{0}\u{201d} is not at hand. Upload it first.")]
    UnknownPicture(String),
    /// A swatch still in use.
    #[error("The colour \u{201c}{0}\u{201d} is still used and cannot be removed.")]
    SwatchInUse(String),
    /// The last side or piece of its kind.
    #[error("{0}")]
    LastOne(&'static str),
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
    /// Most items on one side.
    const MOST_ITEMS: usize = 2_000;
    /// Most items kept aside of one piece.
    const MOST_ASIDE: usize = 500;

    /// Carries the change out and returns the change that takes it back. On an error the job is untouched.
    ///
    /// # Errors
    /// A [`CommandError`] whose text says what is wrong.
    pub fn apply(&self, job: &mut Job, known: &dyn Known) -> Outcome {
        let mut trial = job.clone();
        let inverse = self.apply_in_place(&mut trial, known, 0)?;
        *job = trial;
        Ok(inverse)
    }

    /// Whether this change of the same gesture makes an earlier one's result irrelevant, so that both are undone as one.
    #[must_use]
    pub fn replaces(&self, earlier: &Self) -> bool {
        match (self, earlier) {
            (Self::SetTitle { .. }, Self::SetTitle { .. }) => true,
            (Self::SetWords { target: a, .. }, Self::SetWords { target: b, .. })
            | (Self::SetContent { target: a, .. }, Self::SetContent { target: b, .. })
            | (Self::SetLook { target: a, .. }, Self::SetLook { target: b, .. }) => a == b,
            (Self::SetPlace { item: a, .. }, Self::SetPlace { item: b, .. }) => a == b,
            (Self::StyleWords { target: a, from: c, to: d, .. }, Self::StyleWords { target: b, from: e, to: f, .. }) => (a, c, d) == (b, e, f),
            (Self::SetGuides { piece: a, .. }, Self::SetGuides { piece: b, .. }) => a == b,
            (Self::SetTies { item: a, .. }, Self::SetTies { item: b, .. }) | (Self::NameItem { item: a, .. }, Self::NameItem { item: b, .. }) => a == b,
            (Self::SetStacks { side: a, .. }, Self::SetStacks { side: b, .. }) => a == b,
            (Self::SetGround { side: a, .. }, Self::SetGround { side: b, .. }) => a == b,
            (Self::SetSwatch { id: a, .. }, Self::SetSwatch { id: b, .. }) => a == b,
            (Self::All { commands: a }, Self::All { commands: b }) => a.len() == b.len() && a.iter().zip(b).all(|(a, b)| a.replaces(b)),
            _ => false,
        }
    }

    /// One change after another as one; changes made of several are joined, not nested.
    #[must_use]
    pub fn then(self, next: &Self) -> Self {
        let parts = |command: Self| match command {
            Self::All { commands } => commands,
            one => vec![one],
        };
        let mut commands = parts(self);
        commands.extend(parts(next.clone()));
        Self::All { commands }
    }

    fn apply_in_place(&self, job: &mut Job, known: &dyn Known, depth: usize) -> Outcome {
        match self {
            Self::SetTitle { title } => {
                let title = named(title, "A job")?;
                Ok(Self::SetTitle { title: std::mem::replace(&mut job.title, title) })
            }
            Self::SetWords { target, text } => {
                let Content::Words { text: old, prompt } = content_of(job, target)? else {
                    return Err(CommandError::Value("This item holds no words.".into()));
                };
                let content = Content::Words { text: old.with_text(text), prompt: prompt.clone() };
                set_content(job, target, content, known)
            }
            Self::StyleWords { target, from, to, change } => {
                let Content::Words { text, prompt } = content_of(job, target)? else {
                    return Err(CommandError::Value("This item holds no words.".into()));
                };
                if let Some(tint) = &change.set.tint {
                    check_tint(job, tint)?;
                }
                let content = Content::Words { text: text.styled(*from, *to, change), prompt: prompt.clone() };
                set_content(job, target, content, known)
            }
            Self::SetContent { target, content } => set_content(job, target, content.clone(), known),
            Self::SetLook { target, look } => set_look(job, target, look, known),
            Self::SetRelease { item, release } => {
                if let Some(content) = &release.content {
                    check_content(job, content, known)?;
                }
                if let Some(look) = &release.look {
                    check_look(job, look, known)?;
                }
                let found = find_item(job, item)?;
                let release = std::mem::replace(&mut found.release, release.clone());
                Ok(Self::SetRelease { item: item.clone(), release })
            }
            Self::SetPlace { item, place } => {
                problem(place.problem())?;
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
                check_groups(groups)?;
                let found = find_item(job, item)?;
                let groups = std::mem::replace(&mut found.groups, groups.clone());
                Ok(Self::SetGroups { item: item.clone(), groups })
            }
            Self::NameItem { item, name } => {
                let name = name.as_deref().map(|name| named(name, "An item")).transpose()?;
                let found = find_item(job, item)?;
                Ok(Self::NameItem { item: item.clone(), name: std::mem::replace(&mut found.name, name) })
            }
            Self::SetTies { item, ties } => {
                check_ties(item, ties)?;
                let found = find_item(job, item)?;
                Ok(Self::SetTies { item: item.clone(), ties: std::mem::replace(&mut found.ties, ties.clone()) })
            }
            Self::SetStacks { side, stacks } => {
                check_stacks(stacks)?;
                let found = job.side_mut(side).ok_or_else(|| missing("side", side))?;
                Ok(Self::SetStacks { side: side.clone(), stacks: std::mem::replace(&mut found.stacks, stacks.clone()) })
            }
            Self::SetGuides { piece, guides } => {
                let found = find_piece(job, piece)?;
                problem(guides.problem(found.format.size))?;
                let guides = std::mem::replace(&mut found.guides, guides.clone());
                Ok(Self::SetGuides { piece: piece.clone(), guides })
            }
            Self::SetTray { piece, tray } => {
                for removed in tray {
                    check_kin(job, &removed.kin, known)?;
                    problem(removed.item.place.problem())?;
                }
                let kept = tray.get(tray.len().saturating_sub(Self::MOST_ASIDE)..).unwrap_or_default().to_vec();
                let tray = std::mem::replace(&mut find_piece(job, piece)?.tray, kept);
                Ok(Self::SetTray { piece: piece.clone(), tray })
            }
            Self::InsertItem { side, index, item, kin } => insert_item(job, side, *index, item, kin.as_ref(), known),
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
                if let Some(paint) = ground {
                    check_paint(job, paint, known)?;
                }
                let found = job.side_mut(side).ok_or_else(|| missing("side", side))?;
                let ground = std::mem::replace(&mut found.ground, ground.clone());
                Ok(Self::SetGround { side: side.clone(), ground })
            }
            Self::SetSwatch { id, swatch } => set_swatch(job, id, swatch.as_ref()),
            Self::InsertSide { piece, index, side, kins } => insert_side(job, piece, *index, side, kins, known),
            Self::RemoveSide { side } => remove_side(job, side),
            Self::MoveSide { side, index } => {
                let sides = &mut piece_with(job, side)?.sides;
                let from = sides.iter().position(|other| other.id == *side).unwrap_or(0);
                let moved = sides.remove(from);
                sides.insert((*index).min(sides.len()), moved);
                Ok(Self::MoveSide { side: side.clone(), index: from })
            }
            Self::RenameSide { side, name } => {
                let name = named(name, "A side")?;
                let found = job.side_mut(side).ok_or_else(|| missing("side", side))?;
                Ok(Self::RenameSide { side: side.clone(), name: std::mem::replace(&mut found.name, name) })
            }
            Self::InsertPiece { index, piece, kins } => insert_piece(job, *index, piece, kins, known),
            Self::RemovePiece { piece } => remove_piece(job, piece),
            Self::RenamePiece { piece, name } => {
                let name = named(name, "A piece")?;
                let found = find_piece(job, piece)?;
                Ok(Self::RenamePiece { piece: piece.clone(), name: std::mem::replace(&mut found.name, name) })
            }
            Self::All { commands } => {
                if depth >= Self::DEEPEST || commands.len() > 10_000 {
                    return Err(CommandError::Value("That is too many changes at once.".into()));
                }
                let mut inverses = commands.iter().map(|command| command.apply_in_place(job, known, depth + 1)).collect::<Result<Vec<_>, _>>()?;
                inverses.reverse();
                Ok(Self::All { commands: inverses })
            }
        }
    }
}

fn missing(what: &'static str, id: &impl ToString) -> CommandError {
    CommandError::Missing(what, id.to_string())
}

fn problem(found: Option<String>) -> Result<(), CommandError> {
    found.map_or(Ok(()), |text| Err(CommandError::Value(text)))
}

fn named(name: &str, what: &str) -> Result<String, CommandError> {
    let name: String = name.chars().map(|c| if c.is_control() { ' ' } else { c }).collect();
    let name = name.trim();
    if name.is_empty() || name.chars().count() > 200 {
        return Err(CommandError::Value(format!("{what} needs a name of 1 to 200 letters.")));
    }
    Ok(name.to_owned())
}

fn find_item<'a>(job: &'a mut Job, id: &ItemId) -> Result<&'a mut Item, CommandError> {
    job.item_mut(id).ok_or_else(|| missing("item", id))
}

fn find_piece<'a>(job: &'a mut Job, id: &PieceId) -> Result<&'a mut Piece, CommandError> {
    job.pieces.iter_mut().find(|piece| piece.id == *id).ok_or_else(|| missing("piece", id))
}

fn check_groups(groups: &[GroupId]) -> Result<(), CommandError> {
    let twice = groups.iter().enumerate().any(|(i, group)| groups[..i].contains(group));
    if twice || groups.len() > Item::DEEPEST_GROUP {
        return Err(CommandError::Value("Groups lie at most eight deep in each other, and none in itself.".into()));
    }
    Ok(())
}

fn check_ties(item: &ItemId, ties: &[Tie]) -> Result<(), CommandError> {
    if ties.len() > Tie::MOST {
        return Err(CommandError::Value("An item has at most 8 ties.".into()));
    }
    problem(ties.iter().find_map(|tie| tie.problem(item)))
}

fn check_stacks(stacks: &[Stack]) -> Result<(), CommandError> {
    let twice = stacks.iter().enumerate().any(|(i, stack)| stacks[..i].iter().any(|other| other.group == stack.group));
    if twice || stacks.len() > Stack::MOST {
        return Err(CommandError::Value("A side has at most 500 stacks, each of another group.".into()));
    }
    problem(stacks.iter().find_map(Stack::problem))
}

fn side_with<'a>(job: &'a mut Job, id: &ItemId) -> Result<&'a mut Side, CommandError> {
    let sides = job.pieces.iter_mut().flat_map(|piece| &mut piece.sides);
    sides.into_iter().find(|side| side.items.iter().any(|item| item.id == *id)).ok_or_else(|| missing("item", id))
}

fn content_of<'a>(job: &'a Job, target: &Target) -> Result<&'a Content, CommandError> {
    match target {
        Target::Shared(kin) => Ok(&job.kins.get(kin).ok_or_else(|| missing("part", kin))?.content),
        Target::Only(id) => {
            let item = job.item(id).ok_or_else(|| missing("item", id))?;
            Ok(job.plain(item).ok_or_else(|| missing("part", &item.kin))?.content)
        }
    }
}

fn set_content(job: &mut Job, target: &Target, content: Content, known: &dyn Known) -> Outcome {
    check_content(job, &content, known)?;
    let old = content_of(job, target)?;
    if std::mem::discriminant(old) != std::mem::discriminant(&content) {
        return Err(CommandError::Value("Words stay words, pictures stay pictures and shapes stay shapes; replace the item instead.".into()));
    }
    match target {
        Target::Shared(id) => {
            let kin = job.kins.get_mut(id).ok_or_else(|| missing("part", id))?;
            let content = std::mem::replace(&mut kin.content, content);
            Ok(Command::SetContent { target: target.clone(), content })
        }
        Target::Only(id) => {
            let item = find_item(job, id)?;
            let release = Release { content: Some(content), ..item.release.clone() };
            Ok(Command::SetRelease { item: id.clone(), release: std::mem::replace(&mut item.release, release) })
        }
    }
}

fn set_look(job: &mut Job, target: &Target, look: &Look, known: &dyn Known) -> Outcome {
    check_look(job, look, known)?;
    match target {
        Target::Shared(id) => {
            let kin = job.kins.get_mut(id).ok_or_else(|| missing("part", id))?;
            let look = std::mem::replace(&mut kin.look, look.clone());
            Ok(Command::SetLook { target: target.clone(), look })
        }
        Target::Only(id) => {
            let item = find_item(job, id)?;
            let release = Release { look: Some(look.clone()), ..item.release.clone() };
            Ok(Command::SetRelease { item: id.clone(), release: std::mem::replace(&mut item.release, release) })
        }
    }
}

fn check_content(job: &Job, content: &Content, known: &dyn Known) -> Result<(), CommandError> {
    problem(content.problem())?;
    content.picture().map_or(Ok(()), |id| check_picture(id, known))?;
    content.tints().try_for_each(|tint| check_tint(job, tint))?;
    let families = content.words().into_iter().flat_map(|text| text.runs()).filter_map(|run| run.style.family.as_deref());
    for family in families {
        if !known.has_family(family) && !job.uses_family(family) {
            return Err(CommandError::UnknownFamily(family.to_owned()));
        }
    }
    Ok(())
}

fn check_tint(job: &Job, tint: &Tint) -> Result<(), CommandError> {
    match tint {
        Tint::Swatch(id) if !job.swatches.contains_key(id) => Err(missing("colour", id)),
        _ => Ok(()),
    }
}

fn check_picture(id: &AssetId, known: &dyn Known) -> Result<(), CommandError> {
    if known.has_picture(id) { Ok(()) } else { Err(CommandError::UnknownPicture(id.to_string())) }
}

fn check_paint(job: &Job, paint: &Paint, known: &dyn Known) -> Result<(), CommandError> {
    problem(paint.problem())?;
    paint.picture().map_or(Ok(()), |id| check_picture(id, known))?;
    paint.tints().try_for_each(|tint| check_tint(job, tint))
}

fn check_look(job: &Job, look: &Look, known: &dyn Known) -> Result<(), CommandError> {
    problem(look.problem())?;
    look.tints().try_for_each(|tint| check_tint(job, tint))?;
    look.pictures().try_for_each(|id| check_picture(id, known))?;
    match &look.type_look {
        Some(kind) if !known.has_family(&kind.family) && !job.uses_family(&kind.family) => Err(CommandError::UnknownFamily(kind.family.clone())),
        _ => Ok(()),
    }
}

fn check_kin(job: &Job, kin: &Kin, known: &dyn Known) -> Result<(), CommandError> {
    check_content(job, &kin.content, known)?;
    check_look(job, &kin.look, known)
}

fn check_item(job: &Job, item: &Item, known: &dyn Known) -> Result<(), CommandError> {
    if job.item(&item.id).is_some() {
        return Err(CommandError::Twice("item", item.id.to_string()));
    }
    if !job.kins.contains_key(&item.kin) {
        return Err(missing("part", &item.kin));
    }
    problem(item.place.problem())?;
    check_groups(&item.groups)?;
    check_ties(&item.id, &item.ties)?;
    if let Some(name) = &item.name {
        named(name, "An item")?;
    }
    if let Some(content) = &item.release.content {
        check_content(job, content, known)?;
    }
    item.release.look.as_ref().map_or(Ok(()), |look| check_look(job, look, known))
}

fn add_kin(job: &mut Job, id: &KinId, kin: &Kin, known: &dyn Known) -> Result<(), CommandError> {
    check_kin(job, kin, known)?;
    if job.kins.contains_key(id) {
        return Err(CommandError::Twice("part", id.to_string()));
    }
    job.kins.insert(id.clone(), kin.clone());
    Ok(())
}

/// Removes the kins no item uses, and returns them.
fn drop_unused_kins(job: &mut Job, of: impl Iterator<Item = KinId>) -> BTreeMap<KinId, Kin> {
    let mut dropped = BTreeMap::new();
    for id in of {
        if !job.items().any(|item| item.kin == id)
            && let Some(kin) = job.kins.remove(&id)
        {
            dropped.insert(id, kin);
        }
    }
    dropped
}

fn insert_item(job: &mut Job, side: &SideId, index: usize, item: &Item, kin: Option<&Kin>, known: &dyn Known) -> Outcome {
    if let Some(kin) = kin {
        add_kin(job, &item.kin, kin, known)?;
    }
    check_item(job, item, known)?;
    let found = job.side_mut(side).ok_or_else(|| missing("side", side))?;
    if found.items.len() >= Command::MOST_ITEMS {
        return Err(CommandError::Value("A side holds at most 2,000 items.".into()));
    }
    found.items.insert(index.min(found.items.len()), item.clone());
    Ok(Command::RemoveItem { item: item.id.clone() })
}

fn remove_item(job: &mut Job, id: &ItemId) -> Outcome {
    let side = side_with(job, id)?;
    let index = side.items.iter().position(|item| item.id == *id).unwrap_or(0);
    let item = side.items.remove(index);
    let side = side.id.clone();
    let kin = drop_unused_kins(job, std::iter::once(item.kin.clone())).into_values().next();
    Ok(Command::InsertItem { side, index, item, kin })
}

fn set_swatch(job: &mut Job, id: &SwatchId, swatch: Option<&Swatch>) -> Outcome {
    let old = match swatch {
        Some(swatch) => {
            named(&swatch.name, "A colour")?;
            job.swatches.insert(id.clone(), swatch.clone())
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

fn piece_with<'a>(job: &'a mut Job, id: &SideId) -> Result<&'a mut Piece, CommandError> {
    job.pieces.iter_mut().find(|piece| piece.sides.iter().any(|side| side.id == *id)).ok_or_else(|| missing("side", id))
}

fn insert_side(job: &mut Job, piece: &PieceId, index: usize, side: &Side, kins: &BTreeMap<KinId, Kin>, known: &dyn Known) -> Outcome {
    named(&side.name, "A side")?;
    if job.side(&side.id).is_some() {
        return Err(CommandError::Twice("side", side.id.to_string()));
    }
    check_stacks(&side.stacks)?;
    side.ground.as_ref().map_or(Ok(()), |paint| check_paint(job, paint, known))?;
    for (id, kin) in kins {
        add_kin(job, id, kin, known)?;
    }
    let found = find_piece(job, piece)?;
    if found.sides.len() >= 100 {
        return Err(CommandError::Value("A piece has 1 to 100 sides.".into()));
    }
    found.sides.insert(index.min(found.sides.len()), Side { items: Vec::new(), ..side.clone() });
    for item in &side.items {
        insert_item(job, &side.id, usize::MAX, item, None, known)?;
    }
    Ok(Command::RemoveSide { side: side.id.clone() })
}

fn remove_side(job: &mut Job, id: &SideId) -> Outcome {
    let found = piece_with(job, id)?;
    if found.sides.len() == 1 {
        return Err(CommandError::LastOne("A piece keeps at least one side. Remove the piece instead."));
    }
    let piece = found.id.clone();
    let index = found.sides.iter().position(|side| side.id == *id).unwrap_or(0);
    let side = found.sides.remove(index);
    let mut used: Vec<_> = side.items.iter().map(|item| item.kin.clone()).collect();
    used.sort();
    used.dedup();
    let kins = drop_unused_kins(job, used.into_iter());
    Ok(Command::InsertSide { piece, index, side, kins })
}

fn insert_piece(job: &mut Job, index: usize, piece: &Piece, kins: &BTreeMap<KinId, Kin>, known: &dyn Known) -> Outcome {
    piece.format.check()?;
    named(&piece.name, "A piece")?;
    if job.piece(&piece.id).is_some() {
        return Err(CommandError::Twice("piece", piece.id.to_string()));
    }
    if piece.sides.is_empty() || piece.sides.len() > 100 || job.pieces.len() >= 200 {
        return Err(CommandError::Value("A piece has 1 to 100 sides, and a job up to 200 pieces.".into()));
    }
    for (id, kin) in kins {
        add_kin(job, id, kin, known)?;
    }
    problem(piece.guides.problem(piece.format.size))?;
    let bare = Piece { sides: piece.sides.iter().map(|side| Side { items: Vec::new(), ..side.clone() }).collect(), ..piece.clone() };
    for side in &bare.sides {
        if job.side(&side.id).is_some() || bare.sides.iter().filter(|other| other.id == side.id).count() > 1 {
            return Err(CommandError::Twice("side", side.id.to_string()));
        }
        check_stacks(&side.stacks)?;
        side.ground.as_ref().map_or(Ok(()), |paint| check_paint(job, paint, known))?;
    }
    job.pieces.insert(index.min(job.pieces.len()), bare);
    for side in &piece.sides {
        for item in &side.items {
            insert_item(job, &side.id, usize::MAX, item, None, known)?;
        }
    }
    Ok(Command::RemovePiece { piece: piece.id.clone() })
}

fn remove_piece(job: &mut Job, id: &PieceId) -> Outcome {
    let index = job.pieces.iter().position(|piece| piece.id == *id).ok_or_else(|| missing("piece", id))?;
    if job.pieces.len() == 1 {
        return Err(CommandError::LastOne("A job keeps at least one piece. Remove the job instead."));
    }
    let piece = job.pieces.remove(index);
    let mut used: Vec<_> = piece.sides.iter().flat_map(|side| &side.items).map(|item| item.kin.clone()).collect();
    used.sort();
    used.dedup();
    let kins = drop_unused_kins(job, used.into_iter());
    Ok(Command::InsertPiece { index, piece, kins })
}

#[cfg(test)]
#[path = "command_test.rs"]
mod tests;
