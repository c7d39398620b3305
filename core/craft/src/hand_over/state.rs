//! What a piece looks like, as a key: of two states with one key every output is the same.

use std::collections::BTreeMap;
use std::fmt::Write as _;

use serde::Serialize;
use vatman_document::{Job, Kin, KinId, Piece, Swatch, SwatchId};
use vatman_photo::content_id;

/// Everything of a job that the looks of one of its pieces depend on, beside the typefaces at hand.
#[derive(Serialize)]
struct Seen<'a> {
    piece: &'a Piece,
    kins: BTreeMap<&'a KinId, &'a Kin>,
    swatches: &'a BTreeMap<SwatchId, Swatch>,
}

/// A key of how a piece looks. Pictures are named by their content, so that they are in it too; families are not.
#[must_use]
pub fn state_key(job: &Job, piece: &Piece) -> String {
    let items = piece.sides.iter().flat_map(|side| &side.items);
    let kins = items.filter_map(|item| Some((&item.kin, job.kins.get(&item.kin)?.as_ref()))).collect();
    let seen = Seen { piece, kins, swatches: &job.swatches };
    let mut key = String::new();
    // Sound values can always be written; a key that says nothing would still be one of its own.
    let text = serde_json::to_vec(&seen).unwrap_or_default();
    let _ = write!(key, "{}", content_id(&text));
    key
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::testing::{Everything, job_with};
    use vatman_document::{Color, Command, ItemId};

    #[test]
    fn the_key_changes_with_what_is_seen_and_with_nothing_else() {
        let mut job = job_with(2);
        let mut other = job.pieces[0].as_ref().clone();
        let key = |job: &Job| state_key(job, &job.pieces[0]);
        let first = key(&job);
        Command::SetTitle { title: "Another".into() }.apply(&mut job, &Everything).unwrap();
        other.id = vatman_document::PieceId::new("other").unwrap();
        for (at, side) in other.sides.iter_mut().enumerate() {
            side.id = vatman_document::SideId::new(format!("other{at}")).unwrap();
            for item in &mut side.items {
                item.id = ItemId::new(format!("o{}", item.id)).unwrap();
            }
        }
        Command::InsertPiece { index: 1, piece: other, kins: BTreeMap::new() }.apply(&mut job, &Everything).unwrap();
        assert_eq!(key(&job), first, "neither the title nor another piece is seen on it");
        let swatch = Swatch { name: "Celadon".into(), color: Color::opaque(0x9d, 0xb8, 0xa4), ink: None };
        Command::SetSwatch { id: SwatchId::new("c").unwrap(), swatch: Some(swatch) }
            .apply(&mut job, &Everything)
            .unwrap();
        assert_ne!(key(&job), first);
    }
}
