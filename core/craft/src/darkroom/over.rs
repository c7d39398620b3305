//! Over everything: an item that treats all that lies below it.

use vatman_document::{Command, Content, IdSource, Item, ItemId, Job, Kin, KinId, Look, Outline, Part, Place, SideId};
use vatman_units::{Length, Placement, Rect};

use crate::refusal::Refusal;

/// What such an item is called until it is given another name.
const NAME: &str = "Over everything";

/// Puts an item over a whole side, bleed included, that paints nothing and can treat all that lies below it. It cannot be picked on the
/// stage, so that it is in nobody's way.
///
/// # Errors
/// [`Refusal`] where the side is not there.
pub fn over_everything(job: &Job, side: &SideId, ids: &mut dyn IdSource) -> Result<(Command, ItemId), Refusal> {
    let (piece, _) = job.side(side).ok_or_else(|| Refusal::Missing("side", side.to_string()))?;
    let (size, bleed) = (piece.format.size, piece.format.bleed);
    let rect = Rect::new(-bleed, -bleed, size.w + bleed + bleed, size.h + bleed + bleed);
    let content = Content::Shape { outline: Outline::Rect { radius: Length::ZERO } };
    let kin = Kin::new(Part::Ornament, content, Look { fill: None, ..Look::default() });
    let item = Item {
        locked: true,
        name: Some(NAME.to_owned()),
        ..Item::new(ItemId::fresh(ids), KinId::fresh(ids), Place::new(Placement::at(rect)))
    };
    let id = item.id.clone();
    Ok((Command::InsertItem { side: side.clone(), index: usize::MAX, item, kin: Some(kin) }, id))
}
