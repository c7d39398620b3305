//! Words behind the subject: the subject of a picture once more, in front.

use vatman_document::{
    AssetId, Command, Content, CutOut, IdSource, Item, ItemId, Job, LookPatch, PaintPatch, Release, Tie,
};

use crate::refusal::Refusal;

/// Puts the subject of a picture in front of everything on its side, as an item of its own that shares picture and treatment, and lies over
/// the picture however that is moved or cropped. What lies between the two is seen behind the subject.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture.
pub fn subject_in_front(
    job: &Job,
    item: &ItemId,
    mask: &AssetId,
    ids: &mut dyn IdSource,
) -> Result<(Command, ItemId), Refusal> {
    let found = job.find(item)?;
    let plain = found.plain()?;
    if !matches!(plain.content, Content::Picture { picture: Some(_), .. }) {
        return Err(Refusal::NoPicture);
    }
    let cut = CutOut { mask: Some(mask.clone()), ..CutOut::default() };
    let own = LookPatch {
        paint: PaintPatch {
            cut_out: Some(Some(cut)),
            // The line around the picture is not one around its subject.
            stroke: plain.look.stroke.is_some().then_some(None),
            ..PaintPatch::default()
        },
        ..LookPatch::default()
    };
    let front = Item {
        release: Release { look: Some(own), ..found.item.release.clone() },
        name: Some(format!("{} in front", plain.name()).chars().take(200).collect()),
        ties: vec![Tie::Over { of: item.clone() }],
        groups: Vec::new(),
        ..Item::new(ItemId::fresh(ids), found.item.kin.clone(), found.item.place)
    };
    let id = front.id.clone();
    Ok((Command::InsertItem { side: found.side.id.clone(), index: usize::MAX, item: front, kin: None }, id))
}
