//! Which level an edit means, and the same edit of several items.

use serde::{Deserialize, Deserializer};
use vatman_document::{Command, Content, ItemId, Job, KinId, Look, LookPatch, Plain, Property, Release, Target};

use crate::refusal::Refusal;

/// Reads a field that may be absent (it stays), nothing (it is taken away) or something.
pub(crate) fn given<'de, T: Deserialize<'de>, D: Deserializer<'de>>(from: D) -> Result<Option<Option<T>>, D::Error> {
    Option::deserialize(from).map(Some)
}

/// Changes the look of items, wherever each keeps it; what two of them share is changed once.
pub(crate) fn looks(
    job: &Job,
    items: &[ItemId],
    mut change: impl FnMut(&Plain<'_>, &mut Look) -> Result<(), Refusal>,
) -> Result<Command, Refusal> {
    if items.is_empty() {
        return Err(Refusal::NothingSelected);
    }
    let (mut commands, mut done) = (Vec::new(), Vec::new());
    for id in items {
        let plain = job.find(id)?.plain()?;
        let mut look = plain.look.as_ref().clone();
        change(&plain, &mut look)?;
        commands.extend(look_change(job, &plain, &look, &mut done));
    }
    Ok(Command::All { commands })
}

/// The changes that give an item a look: what it keeps for itself is changed here, everything else for all that share it. What was
/// shared and `done` already is not done again.
pub(crate) fn look_change(job: &Job, plain: &Plain<'_>, look: &Look, done: &mut Vec<KinId>) -> Vec<Command> {
    let Some(kin) = job.kins.get(&plain.item.kin) else { return Vec::new() };
    let own = plain.own_look();
    let changed = LookPatch::between(&plain.look, look);
    let (here, shared) = (changed.shared_with(&own, true), changed.shared_with(&own, false));
    let mut commands = Vec::new();
    if !shared.is_empty() && !done.contains(&plain.item.kin) {
        done.push(plain.item.kin.clone());
        let target = Target::Shared(plain.item.kin.clone());
        commands.push(Command::SetLook { target, look: shared.over(&kin.look) });
    }
    if !here.is_empty() {
        let release = Release { look: Some(own.then(&here)), ..plain.item.release.clone() };
        commands.push(Command::SetRelease { item: plain.item.id.clone(), release });
    }
    commands
}

/// Lets an item keep a property of its look for itself from now on, or share it again.
///
/// # Errors
/// [`Refusal`] where it is not there.
pub fn keep_property(job: &Job, item: &ItemId, property: Property, own: bool) -> Result<Command, Refusal> {
    let plain = job.find(item)?.plain()?;
    let now = plain.own_look();
    let patch = if own { now.then(&LookPatch::all(&plain.look).only(property)) } else { now.without(property) };
    let release = Release { look: (!patch.is_empty()).then_some(patch), ..plain.item.release.clone() };
    Ok(Command::SetRelease { item: item.clone(), release })
}

/// Lets an item keep what it says or shows for itself from now on, or share it again.
///
/// # Errors
/// [`Refusal`] where it is not there.
pub fn keep_content(job: &Job, item: &ItemId, own: bool) -> Result<Command, Refusal> {
    let plain = job.find(item)?.plain()?;
    let release = Release { content: own.then(|| plain.content.clone()), ..plain.item.release.clone() };
    Ok(Command::SetRelease { item: item.clone(), release })
}

/// Changes what one item says or shows, wherever it keeps it.
pub(crate) fn content(
    job: &Job,
    item: &ItemId,
    change: impl FnOnce(Content) -> Result<Content, Refusal>,
) -> Result<Command, Refusal> {
    let plain = job.find(item)?.plain()?;
    Ok(Command::SetContent { target: plain.content_target(), content: change(plain.content.clone())? })
}

/// Lets an item keep what it says and how it looks for itself from now on, or share both again.
///
/// # Errors
/// [`Refusal`] where it is not there.
pub fn release(job: &Job, item: &ItemId, own: bool) -> Result<Command, Refusal> {
    let plain = job.find(item)?.plain()?;
    let release = if own {
        Release { content: Some(plain.content.clone()), look: Some(LookPatch::all(&plain.look)) }
    } else {
        Release::default()
    };
    Ok(Command::SetRelease { item: item.clone(), release })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::edit::set_opacity;
    use crate::testing::{Everything, job_with};
    use vatman_units::Ratio;

    #[test]
    fn what_is_released_is_changed_alone_and_what_is_shared_once() {
        let mut job = job_with(3);
        let id = |n: usize| ItemId::new(format!("i{n}")).unwrap();
        let opacity = |job: &Job, n: usize| job.find(&id(n)).unwrap().plain().unwrap().look.opacity;
        // The third shares with the first.
        std::sync::Arc::make_mut(&mut job.pieces[0]).sides[0].items[2].kin = job.find(&id(0)).unwrap().item.kin.clone();
        job.kins.remove(&vatman_document::KinId::new("k2").unwrap());
        release(&job, &id(1), true).unwrap().apply(&mut job, &Everything).unwrap();
        let change = set_opacity(&job, &[id(0), id(2)], Ratio::HALF).unwrap();
        assert_eq!(change.count(), 1, "one look, changed once");
        change.apply(&mut job, &Everything).unwrap();
        set_opacity(&job, &[id(1)], Ratio::ZERO).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!([0, 1, 2].map(|n| opacity(&job, n)), [Ratio::HALF, Ratio::ZERO, Ratio::HALF]);
        assert_eq!(
            job.kins[&job.find(&id(1)).unwrap().item.kin].look.opacity,
            Ratio::ONE,
            "the shared look is as it was"
        );
        release(&job, &id(1), false).unwrap().apply(&mut job, &Everything).unwrap();
        assert_eq!(opacity(&job, 1), Ratio::ONE);
        assert_eq!(set_opacity(&job, &[], Ratio::ONE), Err(Refusal::NothingSelected));
    }
}
