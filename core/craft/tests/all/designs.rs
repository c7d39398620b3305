//! Every shipped design in every shipped place.

use crate::common::{WORLD, words};
use proptest::prelude::*;
use vatman_craft::Words;
use vatman_document::{Content, Part};
use vatman_scene::Audience;
use vatman_units::{Length, Rect, Unit};

/// What stands on the first side of a job: words outside the safe area, spilled words, and type too small to read.
fn trouble(design: &str, place: &str, words: &Words) -> Vec<String> {
    let job = WORLD.job(&[design], &[(place, 1)], words);
    let piece = &job.pieces[0];
    let side = &piece.sides[0];
    let scene = WORLD.studio.scene(&job, piece, side, Audience::Output, None);
    let safe = Rect::of(piece.format.size).outset(-piece.format.safe).outset(Length::css_px(0.6));
    let mut out = Vec::new();
    for item in &side.items {
        let plain = job.plain(item).unwrap();
        let Content::Words { text, .. } = plain.content else { continue };
        let drawn = scene.items.iter().find(|drawn| drawn.id == item.id).unwrap();
        let rect = item.place.at.rect;
        if !safe.contains(rect) {
            out.push(format!("{design} in {place}: {:?} lies outside the safe area", text.text()));
        }
        let entry = WORLD.place(place);
        for cover in &entry.covers {
            let over = Rect::of(piece.format.size).part(cover.at[0], cover.at[1], cover.at[2], cover.at[3]);
            let over = over.outset(-Length::css_px(0.6));
            if rect.x < over.right() && over.x < rect.right() && rect.y < over.bottom() && over.y < rect.bottom() {
                out.push(format!("{design} in {place}: {:?} is covered by {}", text.text(), cover.by));
            }
        }
        if drawn.spills {
            out.push(format!("{design} in {place}: {:?} spills", text.text()));
        }
        if piece.format.unit != Unit::Px && drawn.type_size < Length::pt(4.0).to_css_px() {
            out.push(format!("{design} in {place}: {:?} is {:.1} px high", text.text(), drawn.type_size));
        }
    }
    out
}

#[test]
fn words_stay_inside_and_readable_in_every_place() {
    let mut found = Vec::new();
    for design in &WORLD.designs {
        for place in WORLD.places.all() {
            found.extend(trouble(&design.id, &place.id, &words()));
        }
    }
    assert!(found.is_empty(), "{} findings:\n{}", found.len(), found.join("\n"));
}

#[test]
fn where_there_is_not_room_for_all_what_matters_least_waits_in_the_tray() {
    for (design, place) in [("doorway", "phone-strip"), ("big-type", "landscape-ad"), ("label", "medium-rectangle")] {
        let said = &WORLD.design(design).sample;
        let job = WORLD.job(&[design], &[(place, 1)], said);
        let piece = &job.pieces[0];
        let part = |item: &vatman_document::Item| job.plain(item).unwrap().part;
        let stand: Vec<Part> = piece.sides[0].items.iter().map(part).collect();
        let waits: Vec<Part> = piece.tray.iter().map(|removed| removed.kin.part).collect();
        assert!(stand.contains(&Part::Headline), "{design} in {place}");
        assert!(waits.iter().all(|part| !stand.contains(part)) && job.check().is_ok());
        if place == "phone-strip" {
            assert!(waits.contains(&Part::Contact) && !waits.contains(&Part::Headline), "{waits:?}");
        }
        for removed in &piece.tray {
            let mut back = job.clone();
            let put = vatman_craft::put_back(&job, &piece.id, &removed.item.id).unwrap();
            put.apply(&mut back, &*WORLD).unwrap();
            assert!(back.item(&removed.item.id).is_some() && back.pieces[0].tray.len() + 1 == piece.tray.len());
        }
    }
    // Where there is room nothing is left out.
    let job = WORLD.job(&["doorway"], &[("flyer-a5", 1)], &WORLD.design("doorway").sample);
    assert!(job.pieces[0].tray.is_empty());
}

#[test]
fn the_headline_is_the_largest_words() {
    for design in &WORLD.designs {
        for place in ["square-post", "story", "video-thumbnail", "flyer-a5"] {
            let job = WORLD.job(&[&design.id], &[(place, 1)], &words());
            let side = &job.pieces[0].sides[0];
            let scene = WORLD.studio.scene(&job, &job.pieces[0], side, Audience::Output, None);
            let size = |part: Part| {
                let is_part = |item: &&vatman_document::Item| job.plain(item).unwrap().part == part;
                side.items
                    .iter()
                    .find(is_part)
                    .and_then(|item| scene.items.iter().find(|drawn| drawn.id == item.id))
                    .map_or(0.0, |drawn| drawn.type_size)
            };
            let largest =
                [Part::Support, Part::When, Part::Where, Part::Action].map(size).into_iter().fold(0.0, f64::max);
            assert!(size(Part::Headline) > largest, "{} in {place}", design.id);
        }
    }
}

/// What is on a phone feed is seen about 400 pixels wide: supporting words are at least 10 of them high.
#[test]
fn supporting_words_can_be_read_on_a_phone_feed() {
    let mut small = Vec::new();
    for design in &WORLD.designs {
        for place in WORLD.places.all().iter().filter(|place| place.group == "On a feed") {
            for words in [words(), design.sample.clone()] {
                let job = WORLD.job(&[&design.id], &[(&place.id, 1)], &words);
                let side = &job.pieces[0].sides[0];
                let scene = WORLD.studio.scene(&job, &job.pieces[0], side, Audience::Output, None);
                let width = place.format.size.w.min(place.format.size.h.scaled(1.25)).to_css_px();
                let least = scene.items.iter().map(|item| item.type_size).filter(|size| *size > 0.0);
                let least = least.fold(f64::INFINITY, f64::min);
                if least < width * 0.026 - 0.01 {
                    small.push(format!("{} in {}: {:.2} %", design.id, place.id, least / width * 100.0));
                }
            }
        }
    }
    assert!(small.is_empty(), "{}", small.join("\n"));
}

/// Lines around words: letters keep clear of them in every shape.
#[test]
fn words_never_run_into_their_frame() {
    let library = WORLD.studio.typesetter.library();
    let mut found = Vec::new();
    for design in &WORLD.designs {
        for place in WORLD.places.all() {
            for words in [words(), design.sample.clone()] {
                let job = WORLD.job(&[&design.id], &[(&place.id, 1)], &words);
                let side = &job.pieces[0].sides[0];
                let scene = WORLD.studio.scene(&job, &job.pieces[0], side, Audience::Output, None);
                let frames = side.items.iter().filter_map(|item| {
                    let look = job.plain(item)?.look;
                    let line = look.stroke.as_ref().filter(|_| look.fill.is_none())?;
                    Some(item.place.at.rect.outset(-line.width.scaled(item.place.scale.get())).to_css_px())
                });
                for frame in frames {
                    for drawn in &scene.items {
                        let item = side.items.iter().find(|item| item.id == drawn.id).unwrap();
                        let Content::Words { text, .. } = job.plain(item).unwrap().content else { continue };
                        let Some(ink) = vatman_output::painted_box(&drawn.node, library.as_ref()) else { continue };
                        if frame.contains(ink.center()) && !frame.contains_rect(ink) {
                            found.push(format!("{} in {}: {:?}", design.id, place.id, text.text()));
                        }
                    }
                }
            }
        }
    }
    assert!(found.is_empty(), "{} run into their frame:\n{}", found.len(), found.join("\n"));
}

#[test]
fn one_job_shares_words_and_looks_between_its_places() {
    let job = WORLD.job(&["doorway"], &[("flyer-a5", 1), ("square-post", 1), ("story", 1)], &words());
    let kins = |piece: usize| {
        job.pieces[piece].sides[0].items.iter().map(|item| &item.kin).collect::<std::collections::BTreeSet<_>>()
    };
    let shared = kins(0).intersection(&kins(1)).count();
    assert!(shared >= 5, "only {shared} items are the same in both");
    assert!(kins(1).contains(job.kins.iter().find(|(_, kin)| kin.part == Part::Headline).unwrap().0));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]
    #[test]
    fn long_and_short_headlines_never_run_out_of_their_sheet(design in 0usize..10, place in 0usize..20, count in 1usize..14, seed in 0usize..1000) {
        let vocabulary = ["clay", "wheel", "Harrowmere", "glaze", "kiln", "Saturday", "a", "mug", "planter", "winter", "market", "slow", "daily"];
        let headline: Vec<_> = (0..count).map(|i| vocabulary[(seed + i * 7) % vocabulary.len()]).collect();
        let words: Words = [(Part::Headline, headline.join(" ")), (Part::When, "Saturday".into())].into();
        let design = &WORLD.designs[design % WORLD.designs.len()].id;
        let place = &WORLD.places.all()[place % WORLD.places.all().len()].id;
        let found = trouble(design, place, &words);
        prop_assert!(found.iter().all(|line| !line.contains("outside")), "{found:?}");
    }
}
