//! Files that are larger than their place takes.

use vatman_document::Piece;

use crate::check::findings::{Finding, FindingKind};
use crate::compose::place::PlaceEntry;

/// What is to be said where the lightest file of a piece that can be made, of this many bytes, is more than its place takes. Its first
/// item stands for the piece; an empty one has nothing to say.
#[must_use]
pub fn too_heavy(piece: &Piece, place: &PlaceEntry, bytes: u64) -> Option<Finding> {
    let most = place.most.filter(|most| bytes > *most)?;
    let (side, item) = piece.sides.iter().find_map(|side| Some((side.id.clone(), side.items.first()?.id.clone())))?;
    let says = format!(
        "\u{201c}{}\u{201d} makes a file of {} at least; its place takes {} at most. Use fewer or calmer pictures.",
        piece.name,
        read_as(bytes),
        read_as(most)
    );
    Some(Finding { kind: FindingKind::FileTooLarge, piece: piece.id.clone(), side, item: Some(item), says, word: None })
}

/// A size of a file as people read it.
fn read_as(bytes: u64) -> String {
    if bytes < 1_000_000 { format!("{} kB", bytes.div_ceil(1_000)) } else { format!("{:.1} MB", bytes as f64 / 1e6) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::testing::job_with;

    #[test]
    fn a_file_is_too_heavy_only_beyond_what_its_place_takes() {
        let job = job_with(1);
        let piece = &job.pieces[0];
        let taking = |most| {
            let mut place = PlaceEntry::of_size("a post", piece.format);
            place.most = most;
            place
        };
        let place = taking(Some(150_000));
        assert!(too_heavy(piece, &place, 150_000).is_none());
        let found = too_heavy(piece, &place, 150_001).unwrap();
        assert!(found.says.contains("151 kB at least") && found.says.contains("150 kB at most"), "{}", found.says);
        assert!(too_heavy(piece, &place, 2_340_000).unwrap().says.contains("2.3 MB"));
        assert!(too_heavy(piece, &taking(None), 9_000_000).is_none());
        assert!(too_heavy(&job_with(0).pieces[0], &taking(Some(1)), 2).is_none());
    }
}
