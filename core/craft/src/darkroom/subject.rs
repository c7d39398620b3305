//! What is treated: the pictures of items, what lies behind shapes, or a group as a whole.

use vatman_document::{Command, Content, GroupId, GroupLook, ItemId, Job, Look, Side, Treatment};

use crate::edit::target::looks;
use crate::refusal::Refusal;

/// What is treated.
#[derive(Debug, Clone, Copy)]
pub enum Subject<'a> {
    /// The pictures of items, and what lies behind those that are shapes.
    Items(&'a [ItemId]),
    /// A group as a whole.
    Group(&'a GroupId),
}

impl<'a> Subject<'a> {
    /// A group where one is named, else items.
    #[must_use]
    pub fn of(items: &'a [ItemId], group: Option<&'a GroupId>) -> Self {
        group.map_or(Self::Items(items), Self::Group)
    }

    /// What is done to it, or to the first of several.
    ///
    /// # Errors
    /// [`Refusal`] where it is not there.
    pub fn steps(self, job: &Job) -> Result<Vec<Treatment>, Refusal> {
        match self {
            Self::Items(items) => {
                let first = items.first().ok_or(Refusal::NothingSelected)?;
                Ok(job.find(first)?.plain()?.look.treatments.clone())
            }
            Self::Group(group) => {
                let side = side_of(job, group)?;
                Ok(side.group_look(group).map(|look| look.treatments.clone()).unwrap_or_default())
            }
        }
    }

    /// Changes what is done to it.
    ///
    /// # Errors
    /// [`Refusal`] where it is not there or cannot be treated.
    pub(crate) fn treated(self, job: &Job, change: impl Fn(&mut Vec<Treatment>)) -> Result<Command, Refusal> {
        match self {
            Self::Items(items) => looks(job, items, |plain, look: &mut Look| {
                if !matches!(plain.content, Content::Picture { .. } | Content::Shape { .. }) {
                    return Err(Refusal::NoPicture);
                }
                change(&mut look.treatments);
                Ok(())
            }),
            Self::Group(group) => change_group(job, group, |look| change(&mut look.treatments)),
        }
    }
}

/// The side a group is on.
pub(crate) fn side_of<'a>(job: &'a Job, group: &GroupId) -> Result<&'a Side, Refusal> {
    let mut sides = job.pieces.iter().flat_map(|piece| &piece.sides);
    let found = sides.find(|side| side.items.iter().any(|item| item.groups.contains(group)));
    found.ok_or_else(|| Refusal::Missing("group", group.to_string()))
}

/// Changes how a group looks as a whole.
///
/// # Errors
/// [`Refusal`] where it is not there.
pub(crate) fn change_group(job: &Job, group: &GroupId, change: impl Fn(&mut GroupLook)) -> Result<Command, Refusal> {
    let side = side_of(job, group)?;
    let mut look = side.group_look(group).cloned().unwrap_or_else(|| GroupLook::plain(group.clone()));
    change(&mut look);
    let others = side.group_looks.iter().filter(|other| other.group != *group).cloned();
    let looks = others.chain((!look.is_plain()).then_some(look)).collect();
    Ok(Command::SetGroupLooks { side: side.id.clone(), looks })
}
