//! Contrast on the real pixels, and repairs that really mend it.

use crate::common::{Counter, WORLD, words};
use proptest::prelude::*;
use vatman_craft::{ContrastError, Ground, Repair, Verdict};
use vatman_document::{Color, Command, Item, Job, Look, Paint, Part, Target};

fn of_part(job: &Job, part: Part) -> Item {
    job.pieces[0].sides[0].items.iter().find(|item| job.plain(item).unwrap().part == part).unwrap().clone()
}

fn ground<'a>(job: &'a Job, item: &'a Item) -> Ground<'a> {
    Ground { job, piece: &job.pieces[0], side: &job.pieces[0].sides[0], item }
}

fn painted(mut job: Job, part: Part, color: Color) -> Job {
    let item = of_part(&job, part);
    let look = Look { fill: Some(Paint::flat(color)), ..job.plain(&item).unwrap().look.into_owned() };
    Command::SetLook { target: Target::Shared(item.kin), look }.apply(&mut job, &*WORLD).unwrap();
    job
}

fn on_flat(ground: Color, letters: Color) -> Job {
    let mut job = WORLD.job(&["label"], &[("square-post", 1)], &words());
    let side = job.pieces[0].sides[0].id.clone();
    Command::SetGround { side, ground: Some(Paint::flat(ground)) }.apply(&mut job, &*WORLD).unwrap();
    painted(job, Part::Headline, letters)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(12))]

    /// On one flat colour the figure is the ratio of the two colours.
    #[test]
    fn on_a_flat_ground_it_is_the_ratio_of_two_colours(a: [u8; 3], b: [u8; 3]) {
        let (a, b) = (Color::opaque(a[0], a[1], a[2]), Color::opaque(b[0], b[1], b[2]));
        let job = on_flat(a, b);
        let item = of_part(&job, Part::Headline);
        let reading = ground(&job, &item).measure(&WORLD.studio).unwrap();
        prop_assert!((reading.ratio - a.contrast(b)).abs() < 0.05, "{} for {}", reading.ratio, a.contrast(b));
    }

    /// Every repair that is offered leads to words that read.
    #[test]
    fn repairs_mend(a: [u8; 3], design in 0usize..10) {
        let design = &WORLD.designs[design].id;
        let job = painted(WORLD.job(&[design], &[("square-post", 1)], &words()), Part::Headline, Color::opaque(a[0], a[1], a[2]));
        let item = of_part(&job, Part::Headline);
        let reading = ground(&job, &item).measure(&WORLD.studio).unwrap();
        for repair in &reading.repairs {
            let mut mended = job.clone();
            let command = ground(&job, &item).repair(&WORLD.studio, *repair, &mut Counter(5_000)).unwrap();
            let inverse = command.apply(&mut mended, &*WORLD).unwrap();
            let after = ground(&mended, mended.item(&item.id).unwrap()).measure(&WORLD.studio).unwrap();
            prop_assert!(after.ratio >= 4.3, "{:?} leads from {} to {} in {}", repair, reading.ratio, after.ratio, design);
            inverse.apply(&mut mended, &*WORLD).unwrap();
            prop_assert_eq!(&mended, &job);
        }
    }
}

#[test]
fn words_half_on_light_and_half_on_dark_are_judged_by_the_worse_half() {
    let mut job = on_flat(Color::WHITE, Color::BLACK);
    let item = of_part(&job, Part::Headline);
    assert_eq!(ground(&job, &item).measure(&WORLD.studio).unwrap().verdict, Verdict::Good);
    // A black strip under a third of the words.
    let rect = item.place.at.rect;
    let strip = vatman_units::Rect { w: rect.w.scaled(0.5), ..rect };
    let (command, id) = {
        let piece = &job.pieces[0];
        vatman_craft::add(
            &job,
            piece,
            &piece.sides[0],
            vatman_craft::Addition::Shape(vatman_document::Outline::RECT),
            &vatman_craft::Inks::PLAIN,
            &mut Counter(9_000),
        )
    };
    command.apply(&mut job, &*WORLD).unwrap();
    let kin = job.item(&id).unwrap().kin.clone();
    Command::SetLook { target: Target::Shared(kin), look: Look::default() }.apply(&mut job, &*WORLD).unwrap();
    Command::SetPlace { item: id.clone(), place: vatman_document::Place::new(vatman_units::Placement::at(strip)) }
        .apply(&mut job, &*WORLD)
        .unwrap();
    Command::MoveItem { item: id, index: 0 }.apply(&mut job, &*WORLD).unwrap();
    let reading = ground(&job, &item).measure(&WORLD.studio).unwrap();
    assert!(reading.ratio < 1.2 && reading.verdict == Verdict::Poor, "{reading:?}");
}

#[test]
fn what_stands_above_the_words_does_not_count() {
    let job = on_flat(Color::WHITE, Color::BLACK);
    let item = of_part(&job, Part::Headline);
    let before = ground(&job, &item).measure(&WORLD.studio).unwrap();
    let mut covered = job.clone();
    let (command, id) = vatman_craft::add(
        &covered,
        &covered.pieces[0],
        &covered.pieces[0].sides[0],
        vatman_craft::Addition::Shape(vatman_document::Outline::RECT),
        &vatman_craft::Inks::PLAIN,
        &mut Counter(9_000),
    );
    command.apply(&mut covered, &*WORLD).unwrap();
    Command::SetPlace { item: id, place: item.place }.apply(&mut covered, &*WORLD).unwrap();
    assert_eq!(ground(&covered, &item).measure(&WORLD.studio).unwrap(), before);
}

#[test]
fn pictures_have_no_letters() {
    let job = WORLD.job(&["doorway"], &[("square-post", 1)], &words());
    let item = of_part(&job, Part::MainPicture);
    assert!(matches!(ground(&job, &item).measure(&WORLD.studio), Err(ContrastError::NoWords)));
}

#[test]
fn a_panel_stands_off_the_words_by_a_little_less_than_half_their_size() {
    let grey = Color::opaque(0x80, 0x80, 0x80);
    let offs = ["square-post", "profile-picture"].map(|format| {
        let mut job = WORLD.job(&["label"], &[(format, 1)], &words());
        let side = job.pieces[0].sides[0].id.clone();
        Command::SetGround { side, ground: Some(Paint::flat(grey)) }.apply(&mut job, &*WORLD).unwrap();
        let job = painted(job, Part::Headline, grey);
        let item = of_part(&job, Part::Headline);
        let command = ground(&job, &item).repair(&WORLD.studio, Repair::Panel, &mut Counter(5_000)).unwrap();
        let mut mended = job.clone();
        command.apply(&mut mended, &*WORLD).unwrap();
        let was = |other: &Item| job.pieces[0].sides[0].items.iter().any(|item| item.id == other.id);
        let panel = mended.pieces[0].sides[0].items.iter().find(|item| !was(item)).unwrap();
        let scene =
            WORLD.studio.scene(&job, &job.pieces[0], &job.pieces[0].sides[0], vatman_scene::Audience::Output, None);
        let size = scene.items.iter().find(|drawn| drawn.id == item.id).unwrap().type_size;
        let off = (panel.place.at.rect.w.to_css_px() - item.place.at.rect.w.to_css_px()) / 2.0;
        assert!((off / size - 0.45).abs() < 0.01, "{off} for {size}");
        size
    });
    assert!(offs[0] > 1.3 * offs[1], "of two sizes: {offs:?}");
}
