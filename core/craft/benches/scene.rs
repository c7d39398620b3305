//! What a person waits for: an edit to its scene, a scene to pixels, pixels to a file, words to lines.
//!
//! `cargo bench -p vatman-craft`; the figures stand in docs/performance.md.

#![allow(clippy::unwrap_used, missing_docs, reason = "a failed step is a failed measurement; the macros write no docs")]

use std::hint::black_box;

use criterion::{BatchSize, Criterion, criterion_group, criterion_main};
use vatman_craft::{adapt_piece, made_legible, plans};
use vatman_document::{
    Command, Content, IdSource, Item, ItemId, Job, Kin, KinId, Look, Outline, Paint, Part, Place, RichText, Target,
    TypeLook,
};
use vatman_output::{PictureLinks, PixelOptions, item_fragment};
use vatman_photo::encode_png;
use vatman_scene::{Audience, Scene};
use vatman_type::TextBox;
use vatman_units::{Length, Placement, Rect};

#[path = "../tests/all/common.rs"]
#[allow(dead_code, reason = "a bench needs less of it than the tests")]
mod common;
use common::{Counter, WORLD, words};

/// A post with a picture, the words of a design, and panels and lines of text up to sixty items.
fn crowded(place: &str) -> Job {
    let mut job = WORLD.job(&["whole-picture"], &[(place, 1)], &words());
    let size = job.pieces[0].format.size;
    let side = job.pieces[0].sides[0].id.clone();
    let mut ids = Counter(10_000);
    for i in job.pieces[0].sides[0].items.len()..60 {
        let (column, row) = ((i % 8) as f64 / 8.0, (i / 8) as f64 / 8.0);
        let at = Rect::new(size.w.scaled(column), size.h.scaled(row), size.w.scaled(0.11), size.h.scaled(0.05));
        let content = if i % 3 == 0 {
            Content::Shape { outline: if i % 2 == 0 { Outline::Ellipse } else { Outline::Arch } }
        } else {
            Content::Words { text: RichText::plain("Made slow. Used daily."), prompt: String::new() }
        };
        let type_look = TypeLook { size: size.measure().scaled(0.012), ..TypeLook::default() };
        let fill = job.swatches.keys().nth(i % 4).map(|id| Paint::flat(vatman_document::Tint::Swatch(id.clone())));
        let kin = Kin::new(Part::Detail, content, Look { fill, type_look: Some(type_look), ..Look::default() });
        let item = Item::new(
            ItemId::new(ids.fresh()).unwrap(),
            KinId::new(ids.fresh()).unwrap(),
            Place::new(Placement::at(at)),
        );
        Command::InsertItem { side: side.clone(), index: usize::MAX, item, kin: Some(kin) }
            .apply(&mut job, &*WORLD)
            .unwrap();
    }
    job
}

fn scene(job: &Job) -> Scene {
    WORLD.studio.scene(job, &job.pieces[0], &job.pieces[0].sides[0], Audience::Stage, None)
}

struct Links;
impl PictureLinks for Links {
    fn link(&self, source: &vatman_document::PictureSource, _: f64) -> String {
        format!("/media/{}", source.asset)
    }
    fn part(&self, _: &vatman_scene::Scene, _: vatman_output::ScenePart<'_>, _: u64) -> Option<(String, kurbo::Rect)> {
        None
    }
}

fn editing(c: &mut Criterion) {
    let job = crowded("square-post");
    let headline = job.kins.iter().find(|(_, kin)| kin.part == Part::Headline).unwrap().0.clone();
    let item = job.items().find(|item| item.kin == headline).unwrap().clone();
    let library = &WORLD.studio.typesetter.library();
    let mut n = 0u32;
    c.bench_function("edit to scene, 60 items, new words", |b| {
        b.iter_batched(
            || {
                n += 1;
                (
                    job.clone(),
                    Command::SetWords {
                        target: Target::Shared(headline.clone()),
                        text: format!("Hands in clay by ten. {n}"),
                    },
                )
            },
            |(mut job, command)| {
                command.apply(&mut job, &*WORLD).unwrap();
                let scene = scene(&job);
                let changed = scene.items.iter().find(|drawn| drawn.id == item.id).unwrap();
                item_fragment(&scene, changed, library.as_ref(), &Links)
            },
            BatchSize::SmallInput,
        );
    });
    c.bench_function("edit to scene, 60 items, moved", |b| {
        b.iter_batched(
            || {
                let rect = item.place.at.rect.moved(Length::css_px(7.0), Length::css_px(3.0));
                (
                    job.clone(),
                    Command::SetPlace {
                        item: item.id.clone(),
                        place: Place { at: Placement { rect, ..item.place.at }, ..item.place },
                    },
                )
            },
            |(mut job, command)| {
                command.apply(&mut job, &*WORLD).unwrap();
                let scene = scene(&job);
                let changed = scene.items.iter().find(|drawn| drawn.id == item.id).unwrap();
                item_fragment(&scene, changed, library.as_ref(), &Links)
            },
            BatchSize::SmallInput,
        );
    });
}

fn pixels(c: &mut Criterion) {
    let mut group = c.benchmark_group("scene to pixels, 60 items, warm");
    group.sample_size(20);
    for (place, width, height) in [("square-post", 1080, 1080), ("8.5 x 11 in", 2550, 3300)] {
        let job = crowded(place);
        let scene = scene(&job);
        let options = PixelOptions { width, height, bleed: false, clear: false };
        let once = WORLD.studio.pixels(&scene, options).unwrap();
        group.bench_function(format!("{width} x {height}"), |b| {
            b.iter(|| WORLD.studio.pixels(black_box(&scene), options).unwrap())
        });
        group.bench_function(format!("{width} x {height}, PNG written"), |b| {
            b.iter_batched(
                || once.clone().straight(),
                |pixels| encode_png(&pixels, 96).unwrap(),
                BatchSize::LargeInput,
            );
        });
    }
}

fn lines(c: &mut Criterion) {
    let text = "We throw and glaze mugs, bowls, planters and lidded jars in a shed by the river. Every Saturday from ten to one we open the doors, wedge the clay and put six beginners at six wheels. You will centre, open and pull a wall, and you may keep two good pots of the morning. Aprons and tea are on us.";
    let text = RichText::plain(text);
    assert_eq!(text.text().split_whitespace().count(), 60);
    let look = TypeLook { family: "Lora".into(), size: Length::css_px(18.0), ..TypeLook::default() };
    let within = TextBox { width: 480.0, height: 0.0, scale: 1.0 };
    c.bench_function("layout of 60 words, warm", |b| {
        b.iter(|| WORLD.studio.typesetter.set(black_box(&text), &look, within, false))
    });
}

/// The places most messages go to, of every shape.
const TWELVE: [&str; 12] = [
    "portrait-post",
    "story",
    "link-picture",
    "video-thumbnail",
    "flyer-a5",
    "poster-a3",
    "card",
    "bookmark",
    "mail-header",
    "board-picture",
    "jar-label",
    "leaflet-three",
];

/// Twelve sizes of one message, said in other words each time, so that nothing of it was set before.
fn sizes(c: &mut Criterion) {
    let entries: Vec<_> = TWELVE.iter().map(|id| WORLD.place(id)).collect();
    let known = |id: &str| WORLD.designs.iter().find(|design| design.id == id);
    let mut group = c.benchmark_group(format!("{} sizes", entries.len()));
    group.sample_size(10);
    let mut said = 0;
    for design in ["doorway", "whole-picture", "plain-words"] {
        for (what, legible) in [("arranged", false), ("arranged and made to read", true)] {
            let mut new_job = || {
                said += 1;
                let mut words = words();
                words.values_mut().for_each(|text| text.push_str(&format!(" {said}")));
                WORLD.job(&[design], &[("square-post", 1)], &words)
            };
            group.bench_function(format!("{design}, {what}"), |b| {
                b.iter_batched(
                    &mut new_job,
                    |job| {
                        for entry in &entries {
                            let found = plans(&WORLD.studio, &job, &job.pieces[0], entry, &known);
                            let from = job.pieces[0].id.clone();
                            let (command, id) =
                                adapt_piece(&job, &from, &found[0], entry, &mut Counter(9_000)).unwrap();
                            if legible {
                                let mut out = job.clone();
                                command.apply(&mut out, &*WORLD).unwrap();
                                black_box(made_legible(
                                    &WORLD.studio,
                                    &out,
                                    &id,
                                    Some(&from),
                                    &*WORLD,
                                    &mut Counter(9),
                                ));
                            }
                        }
                    },
                    BatchSize::LargeInput,
                );
            });
        }
    }
}

criterion_group!(benches, editing, pixels, lines, sizes);
criterion_main!(benches);
