//! What would take too long to draw, found when it is asked for: everybody who looks at it would wait.

use std::sync::Arc;

use vatman_document::{Content, Job, KinId, Outline, Plain};

use crate::refusal::Refusal;
use crate::studio::Studio;

/// Most pieces of outline of the letters of one item: what is drawn within a moment.
const MOST_PIECES: usize = 1_000_000;
/// Bytes of a text that is never looked at for that.
const SHORT: usize = 1_000;

/// Why a change leads to something that takes too long to draw, if it does: thousands of one elaborate sign, outlines that cross
/// thousands of times. What was there before is not looked at.
#[must_use]
pub fn too_costly(old: &Job, new: &Job, studio: &Studio) -> Option<Refusal> {
    let same_kin = |kin: &KinId| match (old.kins.get(kin), new.kins.get(kin)) {
        (Some(before), Some(now)) => Arc::ptr_eq(before, now),
        _ => false,
    };
    new.pieces.iter().find_map(|piece| {
        let same_piece = old.pieces.iter().any(|before| Arc::ptr_eq(before, piece));
        let items = piece.sides.iter().flat_map(|side| &side.items);
        items.filter(|item| !same_piece || !same_kin(&item.kin)).find_map(|item| {
            let plain = new.plain(item)?;
            let before = old.find(&item.id).ok().and_then(|found| found.plain().ok());
            let known =
                |outline: &Outline| before.as_ref().is_some_and(|before| outlines(before).any(|old| old == outline));
            if outlines(&plain).any(|outline| !known(outline) && outline.is_costly()) {
                return Some(Refusal::TooCostly);
            }
            has_costly_words(&plain, studio).then_some(Refusal::TooManyCurves)
        })
    })
}

/// The outlines an item is drawn with.
fn outlines<'a>(plain: &'a Plain<'_>) -> impl Iterator<Item = &'a Outline> {
    let own = match plain.content {
        Content::Shape { outline } | Content::Picture { frame: outline, .. } => Some(outline),
        Content::Words { .. } | Content::Drawing { .. } | Content::Code { .. } => None,
    };
    own.into_iter().chain(plain.look.backing.iter().map(|backing| &backing.outline))
}

fn has_costly_words(plain: &Plain<'_>, studio: &Studio) -> bool {
    let Some(text) = plain.content.words().map(|words| words.text()).filter(|text| text.len() > SHORT) else {
        return false;
    };
    let family = plain.look.type_look.as_ref().map_or("", |look| look.family.as_str());
    studio.typesetter.library().outline_pieces(family, &text) > MOST_PIECES
}
