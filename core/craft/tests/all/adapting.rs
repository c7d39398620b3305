//! The same message in other shapes: designs, and sides made by hand from nothing.

use std::collections::BTreeMap;

use crate::common::{Counter, WORLD, adapted, by_somebody, of_designs, sheet_with, ways, words};
use proptest::prelude::*;
use vatman_craft::{
    Addition, FindingKind, Movable, adapt_piece, add_elsewhere, by_hand, change_format, duplicate_piece, everywhere,
    findings, model_for, move_by, rearrange,
};
use vatman_document::{Command, Content, Follows, ItemId, Job, Outline, Part, Piece, Place};
use vatman_units::Length;

const FATAL: [FindingKind; 6] = [
    FindingKind::Spill,
    FindingKind::BeyondTrim,
    FindingKind::WordsOnWords,
    FindingKind::OutsideSafe,
    FindingKind::Covered,
    FindingKind::TooSmall,
];

fn trouble(job: &Job) -> Vec<String> {
    let piece = job.pieces.last().unwrap();
    let entry = WORLD.place(piece.place.as_deref().unwrap());
    let found = findings(&WORLD.studio, job, piece, Some(&entry));
    found.into_iter().filter(|one| FATAL.contains(&one.kind)).map(|one| format!("{}: {}", entry.id, one.says)).collect()
}

const SHAPES: [&str; 9] = [
    "square-post",
    "story",
    "landscape-post",
    "channel-banner",
    "flyer-a5",
    "card",
    "bookmark",
    "half-page-ad",
    "large-phone-strip",
];

#[test]
fn a_side_of_no_design_is_arranged_for_every_shape() {
    let mut found = Vec::new();
    for design in ["half-and-half", "night-frame", "kiln-mark", "pinned-print"] {
        let job = by_somebody(WORLD.job(&[design], &[("video-thumbnail", 1)], &WORLD.design(design).sample));
        for place in SHAPES {
            let out = adapted(&job, place);
            let piece = out.pieces.last().unwrap();
            let part = |part: Part| piece.sides[0].items.iter().any(|item| out.plain(item).unwrap().part == part);
            assert!(part(Part::Headline), "{design} in {place}");
            found.extend(trouble(&out).into_iter().map(|says| format!("{design} in {says}")));
        }
    }
    assert!(found.is_empty(), "{}", found.join("\n"));
}

#[test]
fn a_sheet_made_of_loose_things_is_arranged_too() {
    let (mut job, made) = sheet_with(vec![
        Addition::Panel,
        Addition::Picture(None),
        Addition::Words(Part::Headline),
        Addition::Words(Part::Support),
        Addition::Shape(Outline::Star { points: 5, depth: vatman_units::Ratio::HALF }),
    ]);
    for (n, text) in [(2, "Hands in clay"), (3, "Every Saturday at ten")] {
        let target = vatman_document::Target::Shared(job.item(&made[n]).unwrap().kin.clone());
        Command::SetWords { target, text: text.into() }.apply(&mut job, &*WORLD).unwrap();
    }
    let px = Length::css_px;
    let at = |x: f64, y: f64, w: f64, h: f64| {
        Place::new(vatman_units::Placement::at(vatman_units::Rect::new(px(x), px(y), px(w), px(h))))
    };
    let boxes = [
        at(0.0, 0.0, 800.0, 800.0),
        at(60.0, 60.0, 680.0, 380.0),
        at(60.0, 470.0, 680.0, 120.0),
        at(60.0, 620.0, 680.0, 60.0),
        at(690.0, 20.0, 90.0, 90.0),
    ];
    for (id, place) in made.iter().zip(boxes) {
        let scale = job.item(id).unwrap().place.scale;
        Command::SetPlace { item: id.clone(), place: Place { scale, ..place } }.apply(&mut job, &*WORLD).unwrap();
    }
    for place in SHAPES {
        let out = adapted(&job, place);
        let piece = out.pieces.last().unwrap();
        let items = &piece.sides[0].items;
        assert!(items.len() >= 3, "{place}");
        let sheet = vatman_units::Rect::of(piece.format.size);
        let find = |n: usize| items.iter().find(|item| item.kin == job.item(&made[n]).unwrap().kin);
        // The ground covers the sheet and its bleed, and the ornament stays in its corner, as far from it as it was for its size.
        let ground = find(0).unwrap().place.at.rect;
        assert!(ground.contains(sheet.outset(piece.format.bleed - px(1.0))), "{place}: {ground:?}");
        if let Some(star) = find(4) {
            let star = star.place.at.rect;
            assert!(star.right() > sheet.w.scaled(0.5) && star.y < sheet.h.scaled(0.5), "{place}: {star:?}");
            assert!((star.w - star.h).abs() < px(1.0), "{place}: it keeps its proportion");
        }
        assert!(trouble(&out).is_empty(), "{}", trouble(&out).join("\n"));
    }
}

#[test]
fn a_job_of_a_design_takes_the_arrangement_the_design_has() {
    let job = WORLD.job(&["doorway"], &[("square-post", 1)], &words());
    for place in SHAPES {
        let entry = WORLD.place(place);
        let best = &ways(&job, &job.pieces[0], &entry)[0];
        assert_eq!(best.way, "As designed", "{place}");
        let out = adapted(&job, place);
        // Just as if it had been asked for when the job was made.
        let fresh = WORLD.job(&["doorway"], &[("square-post", 1), (place, 1)], &words());
        let rects = |job: &Job| -> BTreeMap<_, _> {
            let side = &job.pieces[1].sides[0];
            side.items.iter().map(|item| (item.kin.clone(), item.place.at.rect)).collect()
        };
        assert_eq!(rects(&out), rects(&fresh), "{place}");
        assert!(trouble(&out).is_empty(), "{}", trouble(&out).join("\n"));
    }
}

#[test]
fn words_and_look_stay_shared_and_what_has_no_room_waits() {
    let job = WORLD.job(&["doorway"], &[("flyer-a5", 1)], &WORLD.design("doorway").sample);
    let out = adapted(&job, "phone-strip");
    let (first, strip) = (&out.pieces[0], &out.pieces[1]);
    assert!(strip.sides[0].items.iter().all(|item| job.kins.contains_key(&item.kin)), "nothing new is said");
    assert!(!strip.tray.is_empty() && strip.tray.iter().all(|removed| job.kins.contains_key(&removed.item.kin)));
    let all = |piece: &Piece| piece.sides[0].items.len() + piece.tray.len();
    assert_eq!(all(first), all(strip));
    assert!(matches!(&strip.follows, Follows::Piece { piece, .. } if *piece == first.id));
    out.check().unwrap();
}

#[test]
fn the_order_in_which_formats_are_added_changes_nothing() {
    let job = by_somebody(WORLD.job(&["half-and-half"], &[("square-post", 1)], &words()));
    let add = |job: &Job, place: &str| {
        let entry = WORLD.place(place);
        let model = model_for(job, &entry, None).unwrap();
        let found = ways(job, model, &entry);
        let (command, _) =
            adapt_piece(job, &model.id, &found[0], &entry, &mut Counter(job.pieces.len() as u32 * 1_000)).unwrap();
        let mut out = job.clone();
        command.apply(&mut out, &*WORLD).unwrap();
        out
    };
    let chain = |order: &[&str]| order.iter().fold(job.clone(), |job, place| add(&job, place));
    let rects = |job: &Job| -> BTreeMap<String, Vec<_>> {
        let of = |piece: &Piece| piece.sides[0].items.iter().map(|item| (item.kin.clone(), item.place)).collect();
        job.pieces.iter().map(|piece| (piece.name.clone(), of(piece))).collect()
    };
    let forth = chain(&["story", "landscape-post", "card", "bookmark"]);
    let back = chain(&["bookmark", "card", "landscape-post", "story"]);
    assert_eq!(rects(&forth), rects(&back));
}

#[test]
fn another_format_and_back_keeps_the_arrangement() {
    for design in ["doorway", "pinned-print", "night-frame"] {
        for hand in [false, true] {
            let job = WORLD.job(&[design], &[("square-post", 1)], &WORLD.design(design).sample);
            let job = if hand { by_somebody(job) } else { job };
            let piece = job.pieces[0].id.clone();
            let mut now = job.clone();
            for place in ["story", "phone-strip", "card", "square-post"] {
                let entry = WORLD.place(place);
                let command =
                    change_format(&WORLD.studio, &now, &piece, &entry, &of_designs, &mut Counter(77_000)).unwrap();
                command.apply(&mut now, &*WORLD).unwrap();
                assert_eq!(now.pieces[0].format, entry.format);
                now.check().unwrap();
            }
            let places = |job: &Job| -> BTreeMap<_, _> {
                job.pieces[0].sides[0].items.iter().map(|item| (item.id.clone(), item.place)).collect()
            };
            let (was, is) = (places(&job), places(&now));
            for (id, place) in was {
                assert_eq!(is.get(&id), Some(&place), "{design}, by hand {hand}");
            }
        }
    }
}

#[test]
fn a_size_of_like_shape_follows_what_was_moved_by_hand() {
    let job = WORLD.job(&["doorway"], &[("square-post", 1), ("story", 1)], &words());
    let headline = |job: &Job, piece: usize| -> ItemId {
        let items = &job.pieces[piece].sides[0].items;
        items.iter().find(|item| job.plain(item).unwrap().part == Part::Headline).unwrap().id.clone()
    };
    let mut moved = job.clone();
    let id = headline(&job, 1);
    let command = move_by(&job, std::slice::from_ref(&id), Length::ZERO, Length::css_px(260.0), &WORLD.studio).unwrap();
    by_hand(&job, command).apply(&mut moved, &*WORLD).unwrap();
    assert!(moved.item(&id).unwrap().place.by_hand);
    let entry = WORLD.place("phone-background");
    let model = model_for(&moved, &entry, None).unwrap();
    assert_eq!(model.name, moved.pieces[1].name, "the one that was changed, of like shape");
    let best = &ways(&moved, model, &entry)[0];
    assert_ne!(best.way, "As designed");
    // What is unlike in shape goes on with the others.
    assert_eq!(model_for(&moved, &WORLD.place("card"), None).unwrap().id, moved.pieces[0].id);
}

#[test]
fn an_item_is_put_into_the_others_taken_off_all_and_a_piece_copied() {
    let job = WORLD.job(&["doorway"], &[("square-post", 1), ("story", 1), ("card", 1)], &words());
    let mut now = job.clone();
    let side = &job.pieces[0].sides[0];
    let (command, star) = vatman_craft::add(
        &job,
        &job.pieces[0],
        side,
        Addition::Shape(Outline::Ellipse),
        &vatman_craft::Inks::PLAIN,
        &mut Counter(500),
    );
    command.apply(&mut now, &*WORLD).unwrap();
    let entry = |piece: &Piece| WORLD.place(piece.place.as_deref().unwrap());
    add_elsewhere(&WORLD.studio, &now, &star, &entry, &mut Counter(600)).unwrap().apply(&mut now, &*WORLD).unwrap();
    let all = everywhere(&now, std::slice::from_ref(&star)).unwrap();
    assert_eq!(all.len(), 3);
    for piece in &now.pieces {
        let item = piece.sides[0].items.iter().find(|item| all.contains(&item.id)).unwrap();
        assert!(vatman_units::Rect::of(piece.format.size).contains(item.place.at.rect), "{}", piece.name);
    }
    let again = add_elsewhere(&WORLD.studio, &now, &star, &entry, &mut Counter(700)).unwrap();
    assert_eq!(again.count(), 0, "all have it");
    let (copy, id) = duplicate_piece(&now, &now.pieces[1].id, &mut Counter(800)).unwrap();
    copy.apply(&mut now, &*WORLD).unwrap();
    assert_eq!(now.pieces[2].id, id);
    let places = |n: usize| now.pieces[n].sides[0].items.iter().map(|item| (&item.kin, item.place)).collect::<Vec<_>>();
    assert_eq!(places(1), places(2));
    vatman_craft::remove(&now, &everywhere(&now, &[star]).unwrap()).unwrap().apply(&mut now, &*WORLD).unwrap();
    assert!(now.items().all(|item| !all.contains(&item.id)));
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, ..ProptestConfig::default() })]

    #[test]
    fn arranging_never_moves_what_a_hand_placed(
        design in 0usize..10,
        moved in prop::collection::btree_set(0usize..8, 0..4),
        shape in 0usize..SHAPES.len(),
    ) {
        let job = WORLD.job(&[&WORLD.designs[design % WORLD.designs.len()].id], &[("square-post", 1), (SHAPES[shape], 1)], &words());
        let mut now = job.clone();
        let items = &job.pieces[1].sides[0].items;
        let hand: Vec<ItemId> = moved.iter().filter_map(|at| items.get(*at)).map(|item| item.id.clone()).collect();
        let command = move_by(&job, &hand, Length::css_px(7.0), Length::css_px(-5.0), &WORLD.studio).unwrap();
        by_hand(&job, command).apply(&mut now, &*WORLD).unwrap();
        let (model, own) = (now.pieces[0].id.clone(), now.pieces[1].id.clone());
        let entry = WORLD.place(SHAPES[shape]);
        for plan in ways(&now, &now.pieces[0], &entry) {
            let mut arranged = now.clone();
            let change = rearrange(&now, &own, &model, &plan, Movable::NotByHand, &mut Counter(5_000)).unwrap();
            change.apply(&mut arranged, &*WORLD).unwrap();
            for id in &hand {
                prop_assert_eq!(arranged.item(id).map(|item| item.place), now.item(id).map(|item| item.place));
            }
            prop_assert!(arranged.check().is_ok());
            // Asked to, it takes them along, and they follow again.
            let all = rearrange(&now, &own, &model, &plan, Movable::All, &mut Counter(6_000)).unwrap();
            let mut together = now.clone();
            all.apply(&mut together, &*WORLD).unwrap();
            prop_assert!(hand.iter().all(|id| together.item(id).is_none_or(|item| !item.place.by_hand)));
        }
    }

    #[test]
    fn every_way_stands_on_the_sheet_and_pictures_cover_their_frames(design in 0usize..10, shape in 0usize..SHAPES.len()) {
        let design = &WORLD.designs[design % WORLD.designs.len()];
        let job = by_somebody(WORLD.job(&[&design.id], &[("square-post", 1)], &design.sample));
        let entry = WORLD.place(SHAPES[shape]);
        let sheet = vatman_units::Rect::of(entry.format.size).outset(entry.format.bleed);
        let found = ways(&job, &job.pieces[0], &entry);
        prop_assert!(!found.is_empty());
        prop_assert!(found.windows(2).all(|pair| pair[0].score >= pair[1].score));
        let (command, _) = adapt_piece(&job, &job.pieces[0].id, &found[0], &entry, &mut Counter(3_000)).unwrap();
        let mut out = job.clone();
        command.apply(&mut out, &*WORLD).unwrap();
        for item in &out.pieces[1].sides[0].items {
            let plain = out.plain(item).unwrap();
            let rect = item.place.at.rect;
            prop_assert!(rect.w.raw() >= 0 && rect.h.raw() >= 0);
            if let Content::Words { .. } = plain.content {
                prop_assert!(sheet.outset(Length::css_px(1.0)).contains(rect), "{} {rect:?}", plain.name());
            }
        }
    }
}

#[test]
fn another_design_takes_words_and_pictures_along_and_keeps_what_was_added() {
    let job = WORLD.job(&["doorway"], &[("square-post", 1), ("story", 1), ("card", 1)], &words());
    let entry = |piece: &Piece| WORLD.place(piece.place.as_deref().unwrap());
    let mut own = job.clone();
    let what = Addition::Shape(Outline::Ellipse);
    let side = &job.pieces[0].sides[0];
    let (command, added) =
        vatman_craft::add(&job, &job.pieces[0], side, what, &vatman_craft::Inks::PLAIN, &mut Counter(400));
    command.apply(&mut own, &*WORLD).unwrap();
    let said = |job: &Job| -> std::collections::BTreeSet<String> {
        let all = job.pieces.iter().flat_map(|piece| {
            let aside = piece.tray.iter().map(|removed| &removed.item);
            piece.sides[0].items.iter().chain(aside).map(|item| item.kin.clone()).collect::<Vec<_>>()
        });
        let text = |kin: vatman_document::KinId| {
            let aside = || job.pieces.iter().flat_map(|piece| &piece.tray).find(|removed| removed.item.kin == kin);
            let content = job
                .kins
                .get(&kin)
                .map(|kin| kin.content.clone())
                .or_else(|| aside().map(|one| one.kin.content.clone()))?;
            content.words().map(|words| words.text())
        };
        all.filter_map(text).collect()
    };
    for design in &WORLD.designs {
        let command = vatman_craft::redesign(&WORLD.studio, &own, design, &entry, &mut Counter(1_000)).unwrap();
        let mut now = own.clone();
        let back = command.apply(&mut now, &*WORLD).unwrap();
        now.check().unwrap();
        assert_eq!(said(&now), said(&own), "{}: nothing that was said is lost", design.id);
        assert!(now.item(&added).is_some(), "{}", design.id);
        assert_eq!(
            now.swatches[&vatman_document::SwatchId::new("ground").unwrap()].color,
            design.palette[&vatman_document::SwatchId::new("ground").unwrap()]
        );
        for piece in &now.pieces {
            let stands = piece.sides[0].items.iter().find(|item| now.plain(item).unwrap().part == Part::Headline);
            let plain = now.plain(stands.unwrap()).unwrap();
            assert_eq!(plain.look.type_look.as_ref().unwrap().family, design.types[&Part::Headline].family);
            assert_eq!(piece.follows.designs()[0], design.id);
            let found = findings(&WORLD.studio, &now, piece, Some(&entry(piece)));
            let bad: Vec<_> =
                found.iter().filter(|one| FATAL.contains(&one.kind) && one.item.as_ref() != Some(&added)).collect();
            assert!(bad.is_empty(), "{}: {bad:?}", design.id);
        }
        back.apply(&mut now, &*WORLD).unwrap();
        assert_eq!(now, own, "one undo takes all of it back");
    }
}

#[test]
fn a_way_counts_for_less_the_more_it_leaves_out() {
    let mut seen = 0;
    for design in &WORLD.designs {
        let job = WORLD.job(&[&design.id], &[("square-post", 1)], &design.sample);
        let score = |place: &str| {
            let found = ways(&job, &job.pieces[0], &WORLD.place(place));
            found.into_iter().find(|plan| plan.way == "As designed").map(|plan| (plan.score, plan.left_out(&job).len()))
        };
        let Some((whole, 0)) = score("square-post") else { continue };
        for place in ["phone-strip", "large-phone-strip", "half-page-ad", "card"] {
            let Some((small, gone)) = score(place) else { continue };
            seen += usize::from(gone > 0);
            assert!(small <= whole - 0.099 * gone as f64, "{} in {place}: {small}, {gone} left out", design.id);
        }
    }
    assert!(seen > 10, "{seen}");
}

#[test]
fn a_piece_is_arranged_anew_as_a_new_one_would_be() {
    for design in ["doorway", "night-frame", "half-and-half"] {
        let mut job = by_somebody(WORLD.job(&[design], &[("square-post", 1), ("story", 1)], &words()));
        // What is in front in one size may lie behind in another.
        std::sync::Arc::make_mut(&mut job.pieces[1]).sides[0].items.reverse();
        let entry = WORLD.place("story");
        let (from, own) = (job.pieces[0].id.clone(), job.pieces[1].id.clone());
        for plan in ways(&job, &job.pieces[0], &entry) {
            let (mut fresh, mut anew) = (job.clone(), job.clone());
            let (command, _) = adapt_piece(&job, &from, &plan, &entry, &mut Counter(5_000)).unwrap();
            command.apply(&mut fresh, &*WORLD).unwrap();
            let command = rearrange(&job, &own, &from, &plan, Movable::All, &mut Counter(6_000)).unwrap();
            command.apply(&mut anew, &*WORLD).unwrap();
            let rects = |piece: &Piece| -> BTreeMap<_, _> {
                piece.sides[0].items.iter().map(|item| (item.kin.clone(), item.place.at.rect)).collect()
            };
            let (fresh, anew) = (rects(&fresh.pieces[2]), rects(&anew.pieces[1]));
            for (kin, rect) in &fresh {
                assert!(anew.get(kin).is_none_or(|other| other == rect), "{design}, {}", plan.way);
            }
            assert!(fresh.keys().filter(|kin| anew.contains_key(*kin)).count() > 2, "{design}, {}", plan.way);
        }
    }
}

#[test]
fn words_put_into_the_others_cover_no_words_there() {
    let job = WORLD.job(&["doorway"], &[("square-post", 1), ("story", 1), ("card", 1)], &words());
    let side = &job.pieces[0].sides[0];
    let what = Addition::Words(Part::SmallPrint);
    let (command, id) =
        vatman_craft::add(&job, &job.pieces[0], side, what, &vatman_craft::Inks::PLAIN, &mut Counter(500));
    let mut now = job.clone();
    command.apply(&mut now, &*WORLD).unwrap();
    let target = vatman_document::Target::Shared(now.item(&id).unwrap().kin.clone());
    Command::SetWords { target, text: "Aprons are lent".into() }.apply(&mut now, &*WORLD).unwrap();
    // Over the headline, wherever that is.
    let headline = side.items.iter().find(|item| job.plain(item).unwrap().part == Part::Headline).unwrap();
    let own = now.item(&id).unwrap().place;
    let place = Place { at: vatman_units::Placement { rect: headline.place.at.rect, ..own.at }, ..own };
    Command::SetPlace { item: id.clone(), place }.apply(&mut now, &*WORLD).unwrap();
    let kin = now.item(&id).unwrap().kin.clone();
    let entry = |piece: &Piece| WORLD.place(piece.place.as_deref().unwrap());
    add_elsewhere(&WORLD.studio, &now, &id, &entry, &mut Counter(600)).unwrap().apply(&mut now, &*WORLD).unwrap();
    for piece in &now.pieces[1..] {
        let drawn = |item: &vatman_document::Item| WORLD.studio.drawn(&now, item);
        let items = &piece.sides[0].items;
        let own = drawn(items.iter().find(|item| item.kin == kin).unwrap());
        let says =
            |item: &&vatman_document::Item| item.kin != kin && now.plain(item).unwrap().content.words().is_some();
        for other in items.iter().filter(says).map(drawn) {
            let apart =
                own.right() <= other.x || other.right() <= own.x || own.bottom() <= other.y || other.bottom() <= own.y;
            assert!(apart, "{}: {own:?} on {other:?}", piece.name);
        }
    }
}

#[test]
fn what_is_said_is_taken_before_what_is_empty() {
    let job = WORLD.job(&["doorway"], &[("square-post", 1)], &words());
    let entry = |piece: &Piece| WORLD.place(piece.place.as_deref().unwrap());
    let headline = |job: &Job| {
        let says = |item: &&vatman_document::Item| {
            let plain = job.plain(item).unwrap();
            plain.part == Part::Headline && plain.content.words().is_some_and(|text| !text.is_blank())
        };
        job.pieces[0].sides[0].items.iter().find(says).unwrap().place
    };
    for design in &WORLD.designs {
        let anew = |job: &Job| {
            let mut now = job.clone();
            let command = vatman_craft::redesign(&WORLD.studio, job, design, &entry, &mut Counter(1_000)).unwrap();
            command.apply(&mut now, &*WORLD).unwrap();
            headline(&now)
        };
        let side = &job.pieces[0].sides[0];
        let what = Addition::Words(Part::Headline);
        let inks = vatman_craft::Inks::PLAIN;
        let (command, _) = vatman_craft::add(&job, &job.pieces[0], side, what, &inks, &mut Counter(500));
        let mut with = job.clone();
        command.apply(&mut with, &*WORLD).unwrap();
        assert_eq!(anew(&with), anew(&job), "{}", design.id);
    }
}
