//! Jobs for the tests of this crate.

use std::sync::Arc;

use vatman_document::{
    AssetId, Content, Format, IdSource, Item, ItemId, Job, JobId, Kin, KinId, Known, Look, Outline, Part, Piece,
    PieceId, Place, Side, SideId,
};
use vatman_units::{Length, Placement, Rect};

/// Has every family and every picture.
pub(crate) struct Everything;
impl Known for Everything {
    fn has_family(&self, _: &str) -> bool {
        true
    }
    fn has_picture(&self, _: &AssetId) -> bool {
        true
    }
}

/// Identities n1, n2, n3...
#[derive(Default)]
pub(crate) struct Numbered(pub usize);
impl IdSource for Numbered {
    fn fresh(&mut self) -> String {
        self.0 += 1;
        format!("n{}", self.0)
    }
}

/// One square piece with squares i0, i1... that share nothing, each 100 px wide and 110 px to the right of the last.
pub(crate) fn job_with(count: usize) -> Job {
    let mut job = Job::new(JobId::new("j").unwrap(), "Hang tags");
    let px = Length::css_px;
    let mut side = Side {
        id: SideId::new("s").unwrap(),
        name: "Front".into(),
        ground: None,
        items: Vec::new(),
        stacks: Vec::new(),
        group_looks: Vec::new(),
    };
    for i in 0..count {
        let kin = KinId::new(format!("k{i}")).unwrap();
        job.kins.insert(
            kin.clone(),
            Arc::new(Kin::new(Part::Panel, Content::Shape { outline: Outline::RECT }, Look::default())),
        );
        let rect = Rect::new(px(i as f64 * 110.0), px(0.0), px(100.0), px(100.0));
        side.items.push(Item::new(ItemId::new(format!("i{i}")).unwrap(), kin, Place::new(Placement::at(rect))));
    }
    job.pieces
        .push(Piece::new(PieceId::new("p").unwrap(), "Square post", Format::screen(1_080, 1_080), vec![side]).into());
    job
}
