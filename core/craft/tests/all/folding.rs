//! What is folded: composed panel by panel, and adapted from and to what is flat.

use std::collections::BTreeSet;

use crate::common::{Counter, SPELLER, WORLD, adapted, by_somebody, of_designs, ways, words};
use vatman_craft::{
    Addition, Baselines, DESIGNED, Day, FindingKind, Inks, Reader, SnapReason, add, change_format, findings,
    made_legible, redesign, repair, sheet_at, sheets, stops,
};
use vatman_document::{Command, Job, KinId, Outline, Part, Piece, Target};
use vatman_output::PixelOptions;
use vatman_scene::Audience;
use vatman_units::{Length, Rect};

const FOLDED: [&str; 7] =
    ["card-folded", "card-quarters", "leaflet-three", "leaflet-zigzag", "leaflet-letter", "menu-folded", "tent"];

/// What nobody wants to see on paper.
const WRONG: [FindingKind; 9] = [
    FindingKind::OnFold,
    FindingKind::EmptySide,
    FindingKind::Spill,
    FindingKind::BeyondTrim,
    FindingKind::WordsOnWords,
    FindingKind::OutsideSafe,
    FindingKind::Covered,
    FindingKind::TooSmall,
    FindingKind::Contrast,
];

fn wrong(job: &Job, piece: &Piece) -> Vec<String> {
    let entry = WORLD.place(piece.place.as_deref().unwrap());
    let found = findings(&WORLD.studio, job, piece, Some(&entry));
    let wrong = found.into_iter().filter(|one| WRONG.contains(&one.kind));
    wrong.map(|one| format!("{}: {:?} {}", entry.id, one.kind, one.says)).collect()
}

/// The job with its first piece made to read, as every new one is.
fn read(mut job: Job) -> Job {
    let piece = job.pieces[0].id.clone();
    for repair in made_legible(&WORLD.studio, &job, &piece, None, &*WORLD, &mut Counter(29_000)) {
        repair.apply(&mut job, &*WORLD).unwrap();
    }
    job
}

fn kins(piece: &Piece) -> BTreeSet<&KinId> {
    piece.sides.iter().flat_map(|side| &side.items).map(|item| &item.kin).collect()
}

#[test]
fn designs_are_composed_panel_by_panel() {
    let mut all = Vec::new();
    for place in FOLDED {
        for design in &WORLD.designs {
            for said in [&words(), &design.sample] {
                let job = read(WORLD.job(&[&design.id], &[(place, 1)], said));
                all.extend(wrong(&job, &job.pieces[0]).iter().map(|wrong| format!("{} {wrong}", design.id)));
            }
        }
    }
    assert_eq!(all, [] as [String; 0]);
}

#[test]
fn a_flat_piece_is_parted_among_panels_and_a_folded_one_brought_together() {
    for design in ["plain-words", "doorway"] {
        for by_hand in [false, true] {
            let job = WORLD.job(&[design], &[("square-post", 1)], &words());
            let job = if by_hand { by_somebody(job) } else { job };
            for place in FOLDED {
                let folded = adapted(&job, place);
                assert_eq!(wrong(&folded, &folded.pieces[1]), [] as [String; 0], "{design} {by_hand}");
                let lost: Vec<_> =
                    kins(&folded.pieces[0]).difference(&kins(&folded.pieces[1])).copied().cloned().collect();
                assert_eq!(lost, [] as [KinId; 0], "{design} {by_hand} {place}");
            }
            for place in FOLDED {
                let folded = WORLD.job(&[design], &[(place, 1)], &words());
                let folded = if by_hand { by_somebody(folded) } else { folded };
                let flat = adapted(&folded, "flyer-a5");
                assert_eq!(wrong(&flat, &flat.pieces[1]), [] as [String; 0], "{design} {by_hand} {place}");
                let lost: Vec<_> = kins(&flat.pieces[0]).difference(&kins(&flat.pieces[1])).copied().cloned().collect();
                assert_eq!(lost, [] as [KinId; 0], "{design} {by_hand} {place}");
            }
        }
    }
}

#[test]
fn what_is_folded_alike_stands_alike() {
    let job = WORLD.job(&["doorway"], &[("card-folded", 1)], &words());
    for (job, place) in
        [(job.clone(), "card-quarters"), (by_somebody(job.clone()), "menu-folded"), (job, "card-folded")]
    {
        let again = adapted(&job, place);
        let (was, now) = (&again.pieces[0], &again.pieces[1]);
        assert_eq!(wrong(&again, now), [] as [String; 0]);
        for (was, now) in was.sides.iter().zip(&now.sides) {
            let of = |side: &vatman_document::Side| -> BTreeSet<KinId> {
                side.items.iter().map(|item| item.kin.clone()).collect()
            };
            assert_eq!(of(was), of(now));
        }
    }
}

#[test]
fn a_tent_says_on_its_head_what_it_says_below() {
    let made = WORLD.job(&["doorway"], &[("tent", 1)], &words());
    let flat = WORLD.job(&["doorway"], &[("square-post", 1)], &words());
    for job in [made, adapted(&flat, "tent"), adapted(&by_somebody(flat), "tent")] {
        let piece = job.pieces.last().unwrap();
        let options = PixelOptions { width: 300, height: 840, bleed: false, clear: false };
        let scene = WORLD.studio.scene(&job, piece, &piece.sides[0], Audience::Output, None);
        let sheet = WORLD.studio.pixels(&scene, options).unwrap().straight();
        let pixels: Vec<&[u8]> = sheet.data().chunks(4).collect();
        let below = pixels.iter().rev();
        let apart = pixels.iter().zip(below).take(pixels.len() / 2);
        let apart: f64 = apart.flat_map(|(a, b)| a.iter().zip(*b)).map(|(a, b)| f64::from(a.abs_diff(*b))).sum();
        let mean = apart / (pixels.len() * 2) as f64;
        assert!(mean < 0.6, "{mean}");
        let headline = piece.sides[0].items.iter().filter(|item| job.plain(item).unwrap().part == Part::Headline);
        assert_eq!(headline.map(|item| item.place.at.turn.to_degrees().round() as i64).collect::<Vec<_>>(), [0, 180]);
    }
}

#[test]
fn there_and_back_again_a_piece_is_as_it_was() {
    let job = WORLD.job(&["doorway"], &[("card-folded", 1), ("square-post", 1)], &words());
    let mut now = job.clone();
    let piece = now.pieces[0].id.clone();
    for place in ["flyer-a5", "leaflet-three", "card-folded"] {
        let entry = WORLD.place(place);
        let change = change_format(&WORLD.studio, &now, &piece, &entry, &of_designs, &mut Counter(77_000)).unwrap();
        change.apply(&mut now, &*WORLD).unwrap();
        now.check().unwrap();
    }
    let places = |job: &Job| -> Vec<_> {
        job.pieces[0].sides.iter().flat_map(|side| &side.items).map(|item| (item.id.clone(), item.place)).collect()
    };
    assert_eq!(places(&now), places(&job));
}
#[test]
fn another_design_sets_every_panel_anew() {
    for (was, now) in [("plain-words", "doorway"), ("doorway", "whole-picture")] {
        for place in ["card-folded", "leaflet-three", "tent"] {
            let mut job = WORLD.job(&[was], &[(place, 1)], &words());
            let entry = |piece: &Piece| WORLD.place(piece.place.as_deref().unwrap());
            let design = WORLD.design(now);
            let change = redesign(&WORLD.studio, &job, design, &entry, &mut Counter(40_000)).unwrap();
            change.apply(&mut job, &*WORLD).unwrap();
            let job = read(job);
            assert_eq!(wrong(&job, &job.pieces[0]), [] as [String; 0], "{was} {now}");
            for item in job.pieces[0].sides.iter().flat_map(|side| &side.items) {
                let plain = job.plain(item).unwrap();
                let Some(look) = plain.look.type_look.as_ref() else { continue };
                assert_eq!(look.family, design.types[&plain.part].family, "{was} {now} {place} {}", plain.name());
            }
        }
    }
}

#[test]
fn what_looks_alike_is_offered_once() {
    let job = WORLD.job(&["doorway"], &[("card-folded", 1)], &words());
    let found = ways(&job, &job.pieces[0], &WORLD.place("card-folded").with_sides(&job.pieces[0]));
    let names: Vec<&str> = found.iter().map(|plan| plan.way.as_str()).collect();
    assert_eq!(names[0], DESIGNED, "as it is and as designed are the same: {names:?}");
    assert!(!names.contains(&"As it is"), "{names:?}");
}

/// A leaflet of three panels without anything on it.
fn leaflet() -> Job {
    let mut job = WORLD.job(&["plain-words"], &[("leaflet-three", 1)], &words());
    let all: Vec<_> = job.items().map(|item| item.id.clone()).collect();
    vatman_craft::remove(&job, &all).unwrap().apply(&mut job, &*WORLD).unwrap();
    job
}

#[test]
fn what_is_added_stands_on_one_panel_and_lines_up_with_it() {
    let mut job = leaflet();
    let mut ids = Counter(50_000);
    for side in 0..2 {
        for n in 0..4 {
            let what = if n % 2 == 0 { Addition::Words(Part::Headline) } else { Addition::Shape(Outline::Ellipse) };
            let (piece, own) = (&job.pieces[0], &job.pieces[0].sides[side]);
            let inks = Inks { drawn: &|item| WORLD.studio.drawn(&job, item), ..Inks::PLAIN };
            let (command, id) = add(&job, piece, own, what, &inks, &mut ids);
            let mut now = job.clone();
            command.apply(&mut now, &*WORLD).unwrap();
            let rect = now.item(&id).unwrap().place.at.rect;
            let panels = sheets(piece, &own.id);
            assert_eq!(panels.len(), 3);
            let home = panels.iter().filter(|panel| panel.contains(rect)).count();
            assert_eq!(home, 1, "side {side}: {rect:?} in {panels:?}");
            assert_eq!(sheet_at(piece, &own.id, rect).w, panels.iter().find(|panel| panel.contains(rect)).unwrap().w);
            job = now;
        }
    }
    let piece = &job.pieces[0];
    let panels = sheets(piece, &piece.sides[0].id);
    assert_eq!(panels[0].right(), piece.format.size.w, "the front is the right panel of the outside");
    let moving = Rect::new(Length::ZERO, Length::ZERO, Length::mm(20.0), Length::mm(10.0));
    let stops = stops(moving, &[], &panels, piece.format.safe, &[], &Baselines::default());
    for panel in &panels {
        let middle = panel.x + panel.w.half() - moving.w.half();
        for left in [middle, panel.x, panel.right() - moving.w, panel.x + piece.format.safe] {
            assert!(stops.left.iter().any(|stop| (stop.at - left).abs() <= Length::from_raw(1)), "{left:?}");
        }
    }
    let edges = stops.top.iter().filter(|stop| stop.at == Length::ZERO && stop.reason == SnapReason::SheetEdge).count();
    assert_eq!(edges, 1, "what panels have in common is said once");
}

#[test]
fn words_across_a_fold_come_back_to_the_panel_they_are_most_on() {
    let mut job = leaflet();
    let entry = WORLD.place("leaflet-three");
    let (piece, side) = (job.pieces[0].clone(), job.pieces[0].sides[1].clone());
    let (command, id) = add(&job, &piece, &side, Addition::Words(Part::Headline), &Inks::PLAIN, &mut Counter(60_000));
    command.apply(&mut job, &*WORLD).unwrap();
    let text = "Winter market".to_owned();
    let kin = job.item(&id).unwrap().kin.clone();
    Command::SetWords { target: Target::Shared(kin), text }.apply(&mut job, &*WORLD).unwrap();
    for over in [-8.0, 8.0] {
        let mut job = job.clone();
        let fold = piece.format.finish.folds.panels(piece.format.size, true)[1];
        let drawn = WORLD.studio.drawn(&job, job.item(&id).unwrap());
        let dx = fold.x + Length::mm(over) - drawn.x - drawn.w.half();
        let mut place = job.item(&id).unwrap().place;
        place.at.rect = place.at.rect.moved(dx, Length::ZERO);
        Command::SetPlace { item: id.clone(), place }.apply(&mut job, &*WORLD).unwrap();
        let found = findings(&WORLD.studio, &job, &job.pieces[0], Some(&entry));
        let found = found.into_iter().find(|one| one.kind == FindingKind::OnFold).expect("it runs across the fold");
        let (reader, ids) =
            (Reader { speller: &SPELLER, today: Day { year: 2026, month: 11, day: 2 } }, &mut Counter(61_000));
        let mended = repair(&WORLD.studio, &job, &found, &entry, reader, (&*WORLD, ids)).expect("it can be mended");
        mended.apply(&mut job, &*WORLD).unwrap();
        let at = WORLD.studio.drawn(&job, job.item(&id).unwrap());
        assert_eq!(at.x >= fold.x, over > 0.0);
        assert!(!wrong(&job, &job.pieces[0]).iter().any(|wrong| wrong.contains("OnFold")));
    }
}
