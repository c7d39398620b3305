//! Copy in the order it is read.

use serde::Serialize;
use ts_rs::TS;
use vatman_document::{Content, Item, ItemId, Job, KinId, Part, Side};

/// A piece of copy in the list of words.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct CopyLine {
    /// The item that holds it on this side.
    pub item: ItemId,
    /// What it shares with other pieces.
    pub kin: KinId,
    /// The part it plays.
    pub part: Part,
    /// Name of the part.
    pub name: String,
    /// The letters.
    pub text: String,
    /// Whether it is this item's own and not shared.
    pub own: bool,
}

/// The copy of a side: top to bottom, and left to right where lines stand side by side.
#[must_use]
pub fn copy_in_order(job: &Job, side: &Side) -> Vec<CopyLine> {
    let mut items: Vec<&Item> = side.items.iter().filter(|item| !item.hidden).collect();
    items.sort_by_key(|item| (item.place.at.rect.y, item.place.at.rect.x));
    // A row is what begins above the middle of its first member; rows are read from left to right.
    let mut rows: Vec<Vec<&Item>> = Vec::new();
    for item in items {
        match rows.last_mut() {
            Some(row)
                if item.place.at.rect.y < row[0].place.at.rect.y + row[0].place.at.rect.h.half()
                    && row[0].place.at.rect.right() <= item.place.at.rect.x =>
            {
                row.push(item)
            }
            _ => rows.push(vec![item]),
        }
    }
    let line = |item: &Item| {
        let plain = job.plain(item)?;
        let Content::Words { text, .. } = plain.content else { return None };
        Some(CopyLine {
            item: item.id.clone(),
            kin: item.kin.clone(),
            part: plain.part,
            name: plain.part.name().to_owned(),
            text: text.text(),
            own: item.release.content.is_some(),
        })
    };
    rows.into_iter().flatten().filter_map(line).collect()
}
