//! What is treated: the pictures of items, what lies behind shapes, words and drawings as they are drawn, or a group as a whole.

use vatman_document::{Command, GroupId, ItemId, Job, Look, Treatment};

use crate::arrange::group::{change_group, side_with};
use crate::edit::target::looks;
use crate::refusal::Refusal;

/// What is treated.
#[derive(Debug, Clone, Copy)]
pub enum Subject<'a> {
    /// The pictures of items, what lies behind those that are shapes, and what is drawn of all others.
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
                let side = side_with(job, group)?;
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
            Self::Items(items) => looks(job, items, |_, look: &mut Look| {
                change(&mut look.treatments);
                Ok(())
            }),
            Self::Group(group) => change_group(job, group, |look| change(&mut look.treatments)),
        }
    }
}
