//! An edit in process with the flush to disk, on a job of one piece and on one of fifty such: what is not touched may not cost.
//! `cargo bench -p vatman-server --bench edit`.

use std::io::Write as _;
use std::sync::Arc;
use std::time::{Duration, Instant};

use serde_json::json;
use vatman_document::TypeLook;
use vatman_document::{
    Content, Item, ItemId, Job, JobId, Kin, KinId, Look, Part, Piece, PieceId, Place, RichText, SideId,
};
use vatman_server::types::{Act, ActRequest};
use vatman_server::{Store, Workshop};
use vatman_units::{Length, Placement, Rect};

const ITEMS: usize = 40;

/// A name, the act at each turn, and the gesture it belongs to.
type Measured<'a> = (&'a str, &'a dyn Fn(usize) -> Act, Option<&'a str>);

/// A job of pieces of forty items each: every second item shared by all pieces, the others the piece's own.
fn job(start: &Job, pieces: usize) -> Job {
    let mut job = start.clone();
    let first = Piece::clone(&job.pieces[0]);
    job.id = JobId::new(format!("job-of-{pieces}")).expect("an id");
    job.kins.clear();
    job.pieces.clear();
    for number in 0..pieces {
        let mut piece = first.clone();
        piece.id = PieceId::new(format!("piece-{number}")).expect("an id");
        piece.sides[0].id = SideId::new(format!("side-{number}")).expect("an id");
        piece.sides[0].items.clear();
        for row in 0..ITEMS {
            let name = if row % 2 == 0 { format!("kin-{row}") } else { format!("kin-{row}-{number}") };
            let kin = KinId::new(name).expect("an id");
            job.kins.entry(kin.clone()).or_insert_with(|| {
                let text = RichText::plain(&format!("Hands in clay by ten, row {row}"));
                let content = Content::Words { text, prompt: "Words".into() };
                let look = Look { type_look: Some(TypeLook::default()), ..Look::default() };
                Arc::new(Kin::new(Part::Detail, content, look))
            });
            let px = |value: usize| Length::css_px(value as f64);
            let place = Place::new(Placement::at(Rect::new(px(20), px(12 * row), px(400), px(40))));
            piece.sides[0].items.push(Item::new(
                ItemId::new(format!("item-{row}-{number}")).expect("an id"),
                kin,
                place,
            ));
        }
        job.pieces.push(Arc::new(piece));
    }
    job
}

/// Times of acts in order, and the largest answer in bytes.
fn acts(shop: &Workshop, id: &JobId, make: impl Fn(usize) -> Act, gesture: Option<&str>) -> (Vec<Duration>, usize) {
    let mut base = shop.jobs.load(id).expect("the job").revision;
    let mut times = Vec::new();
    let mut largest = 0;
    for turn in 0..320 {
        let watch = Some(SideId::new("side-0").expect("an id"));
        let request = ActRequest { base, act: make(turn), gesture: gesture.map(str::to_owned), watch, carets: None };
        let begun = Instant::now();
        let answer = shop.acting.act(id, &request).expect("an answer");
        let bytes = serde_json::to_vec(&answer).expect("JSON").len();
        if turn >= 20 {
            times.push(begun.elapsed());
            largest = largest.max(bytes);
        }
        base = answer.revision;
    }
    times.sort();
    (times, largest)
}

fn main() {
    let folder = tempfile::tempdir().expect("a folder");
    let shop = Workshop::new(Store::open(folder.path()).expect("a data file")).expect("a workshop");
    let wish = json!({ "design": "doorway", "places": ["square-post"], "words": { "headline": "Made slow." } });
    let start = shop.start(&serde_json::from_value(wish).expect("a wish")).expect("a job");
    let start = Job::clone(&shop.jobs.load(&start).expect("the job").job);
    let jobs = [1, 50].map(|pieces| {
        let job = job(&start, pieces);
        shop.jobs.insert(&job, 0).expect("room");
        job.id
    });
    let item = |row: usize| ItemId::new(format!("item-{row}-0")).expect("an id");
    let moved = |_| Act::Move { items: vec![item(1)], dx: Length::css_px(1.0), dy: Length::ZERO };
    let own = |turn| Act::Say { item: item(1), text: format!("Hands in clay by ten. {turn}") };
    let shared = |turn| Act::Say { item: item(2), text: format!("Hands in clay by ten. {turn}") };
    let kinds: [Measured<'_>; 3] = [
        ("move", &moved, None),
        ("words of one piece", &own, Some("own")),
        ("words of every piece", &shared, Some("shared")),
    ];
    for (name, make, gesture) in kinds {
        let [(one, _), (fifty, bytes)] = [0, 1].map(|at: usize| acts(&shop, &jobs[at], make, gesture));
        let at =
            |times: &[Duration], share: f64| times[((times.len() - 1) as f64 * share) as usize].as_secs_f64() * 1e3;
        let _ = writeln!(
            std::io::stdout(),
            "{name:<22} 1 piece p50 {:5.2} p95 {:5.2} ms   50 pieces p50 {:5.2} p95 {:5.2} ms   ratio {:4.2}   answer {bytes} bytes",
            at(&one, 0.5),
            at(&one, 0.95),
            at(&fifty, 0.5),
            at(&fifty, 0.95),
            at(&fifty, 0.5) / at(&one, 0.5),
        );
    }
}
