//! Words that widen into the room there is, and what happens when they are moved, resized or typed larger.

use crate::common::{WORLD, sheet_with};
use proptest::prelude::*;
use vatman_craft::{Addition, BoxNumbers, Grip, move_by, resize, say, set_box, set_flags, set_type_size};
use vatman_document::{ItemId, Job, Part, TextFit};
use vatman_units::{Length, Rect};

fn px(v: f64) -> Length {
    Length::css_px(v)
}

/// What is seen of the words, the size of their type in CSS pixels, and how many lines they have.
fn seen(job: &Job, id: &ItemId) -> (kurbo::Rect, f64, usize) {
    let piece = &job.pieces[0];
    let scene = WORLD.studio.scene(job, piece, &piece.sides[0], vatman_scene::Audience::Stage, None);
    let drawn = scene.items.iter().find(|drawn| drawn.id == *id).unwrap();
    let lines = WORLD.studio.baselines(job, job.item(id).unwrap()).len();
    (drawn.frame.upright().to_css_px(), drawn.type_size, lines)
}

fn written(text: &str) -> (Job, ItemId) {
    let (mut job, ids) = sheet_with(vec![Addition::Words(Part::Headline)]);
    say(&job, &ids[0], text, &WORLD.studio).unwrap().apply(&mut job, &*WORLD).unwrap();
    (job, ids[0].clone())
}

#[test]
fn new_words_widen_then_shrink_then_break_and_stay_about_their_middle() {
    let (mut job, id) = written("");
    let set = job.plain(job.item(&id).unwrap()).unwrap().look.type_look.clone().unwrap().size.to_css_px();
    let safe = Rect::of(job.pieces[0].format.size).outset(-job.pieces[0].format.safe).to_css_px();
    let (mut widths, mut sizes, mut lines) = (Vec::new(), Vec::new(), Vec::new());
    let whole = "Hands in clay by ten every Saturday morning in spring";
    for (end, _) in whole.char_indices().chain([(whole.len(), ' ')]).skip(1) {
        say(&job, &id, &whole[..end], &WORLD.studio).unwrap().apply(&mut job, &*WORLD).unwrap();
        let (rect, size, count) = seen(&job, &id);
        assert!((rect.center().x - 400.0).abs() < 0.6, "{rect:?} after {:?}", &whole[..end]);
        assert!(rect.x0 >= safe.x0 - 0.6 && rect.x1 <= safe.x1 + 0.6);
        if count > 1 {
            assert!((size / set - 0.6).abs() < 1e-3, "lines break only at the floor");
        }
        (widths, sizes, lines) =
            ([widths, vec![rect.width()]].concat(), [sizes, vec![size]].concat(), [lines, vec![count]].concat());
    }
    assert!((sizes[8] - set).abs() < 0.01 && widths[8] > widths[2], "short words widen at their own size");
    assert!(
        sizes.iter().zip(&lines).any(|(size, lines)| *size < set - 1.0 && *lines == 1),
        "longer ones shrink in one line"
    );
    assert!(*lines.last().unwrap() > 1, "the longest break");
    assert!(sizes.windows(2).all(|pair| pair[1] <= pair[0] + 1e-6));
}

#[test]
fn what_is_locked_stays_when_several_are_moved() {
    let (mut job, ids) = sheet_with(vec![
        Addition::Shape(vatman_document::Outline::RECT),
        Addition::Shape(vatman_document::Outline::RECT),
    ]);
    set_flags(&job, &ids[1..], Some(true), None).unwrap().apply(&mut job, &*WORLD).unwrap();
    let before = ids.iter().map(|id| job.item(id).unwrap().place).collect::<Vec<_>>();
    move_by(&job, &ids, px(5.0), px(-3.0), &WORLD.studio).unwrap().apply(&mut job, &*WORLD).unwrap();
    assert_eq!(job.item(&ids[0]).unwrap().place.at.rect, before[0].at.rect.moved(px(5.0), px(-3.0)));
    assert_eq!(job.item(&ids[1]).unwrap().place, before[1]);
    assert!(!job.item(&ids[1]).unwrap().hidden);
}

#[test]
fn a_corner_scales_the_type_and_an_edge_makes_a_column() {
    let (job, id) = written("Made slow.");
    let (was, size, _) = seen(&job, &id);
    let after = |to: kurbo::Rect, grip: Grip| {
        let mut job = job.clone();
        let to = Rect::new(px(to.x0), px(to.y0), px(to.width()), px(to.height()));
        resize(&job, &id, to, (grip, false), &WORLD.studio).unwrap().apply(&mut job, &*WORLD).unwrap();
        let fit = job.plain(job.item(&id).unwrap()).unwrap().look.type_look.clone().unwrap().fit;
        (seen(&job, &id), fit)
    };
    let half = kurbo::Rect::from_origin_size(was.origin(), was.size() * 0.5);
    let ((rect, now, _), fit) = after(half, Grip { h: 1, v: 1 });
    assert!(
        (now / size - 0.5).abs() < 1e-3 && (rect.x0 - half.x0).abs() < 0.6 && (rect.width() - half.width()).abs() < 0.6
    );
    assert!(matches!(fit, TextFit::Widen { .. }));
    let narrow = kurbo::Rect::new(was.x0, was.y0, was.x0 + was.width() * 0.7, was.y1);
    let ((rect, now, lines), fit) = after(narrow, Grip { h: 1, v: 0 });
    assert_eq!((fit, lines), (TextFit::Grow, 2));
    assert!((now - size).abs() < 1e-6 && (rect.width() - narrow.width()).abs() < 0.1);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    /// Moving words never changes their size or their lines, by hand or by number.
    #[test]
    fn moved_words_are_as_they_were(count in 1usize..7, dx in -300.0f64..300.0, dy in -300.0f64..300.0) {
        let all = ["Hands", "in", "clay", "by", "ten", "every", "Saturday"];
        let (mut job, id) = written(&all[..count].join(" "));
        let (was, size, lines) = seen(&job, &id);
        move_by(&job, std::slice::from_ref(&id), px(dx), px(dy), &WORLD.studio).unwrap().apply(&mut job, &*WORLD).unwrap();
        let (now, moved_size, moved_lines) = seen(&job, &id);
        prop_assert!((now.x0 - was.x0 - dx).abs() < 0.6 && (now.y0 - was.y0 - dy).abs() < 0.1, "{was:?} {now:?}");
        prop_assert!((moved_size - size).abs() < 0.05 && moved_lines == lines);
        // Typing goes on in the room there is about the new place.
        say(&job, &id, &all[..count].join(" "), &WORLD.studio).unwrap().apply(&mut job, &*WORLD).unwrap();
        let (again, ..) = seen(&job, &id);
        prop_assert!((again.x0 - now.x0).abs() < 1.2);
        let numbers = BoxNumbers { x: Some(px(40.0)), y: Some(px(50.0)), ..BoxNumbers::default() };
        set_box(&job, &id, &numbers, &WORLD.studio).unwrap().apply(&mut job, &*WORLD).unwrap();
        let (put, ..) = seen(&job, &id);
        prop_assert!((put.x0 - 40.0).abs() < 0.6 && (put.y0 - 50.0).abs() < 0.1, "{put:?}");
    }
}

#[test]
fn a_size_asked_for_is_the_size_there_is() {
    let (mut job, id) = written("Hands in clay by ten every Saturday");
    set_type_size(&job, &id, px(120.0), &WORLD.studio.typesetter).unwrap().apply(&mut job, &*WORLD).unwrap();
    let (rect, size, lines) = seen(&job, &id);
    assert!((size - 120.0).abs() < 0.01 && lines == 1);
    assert!(
        (rect.center().x - 400.0).abs() < 1.0 && rect.width() > 800.0,
        "it may leave the sheet, and that is a finding"
    );
}
