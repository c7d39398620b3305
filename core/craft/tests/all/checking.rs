//! What is found about a job, and what puts it right.

use crate::common::{Counter, SPELLER, WORLD, sheet_with, words};
use proptest::prelude::*;
use vatman_craft::{
    Addition, Checked, Day, FileKind, FindingKind, HandOver, Reader, check_job, repair, usual, write_file,
    write_for_place,
};
use vatman_document::{Command, IdSource, Item, Job, Known, Outline, Paint, Part, Piece, Place, Target};
use vatman_units::{Length, Ratio, Rect};

const TODAY: Day = Day { year: 2026, month: 11, day: 27 };

fn reader() -> Reader<'static> {
    Reader { today: TODAY, speller: &SPELLER }
}

fn entry(piece: &Piece) -> vatman_craft::PlaceEntry {
    WORLD.place(piece.place.as_deref().unwrap())
}

fn found(job: &Job) -> Vec<Checked> {
    let known = (&*WORLD as &dyn Known, &mut Counter(40_000) as &mut dyn IdSource);
    check_job(&WORLD.studio, job, &entry, reader(), known)
}

fn job() -> Job {
    WORLD.job(&["doorway"], &[("square-post", 1), ("card", 1)], &words())
}

fn item(job: &Job, piece: usize, part: Part) -> Item {
    let items = &job.pieces[piece].sides[0].items;
    items.iter().find(|item| job.plain(item).unwrap().part == part).unwrap().clone()
}

fn put(job: &mut Job, item: &Item, change: impl Fn(Rect) -> Rect, scale: f64) {
    let mut place = item.place;
    place.at.rect = change(place.at.rect);
    place.scale = Ratio::new(place.scale.get() * scale);
    Command::SetPlace { item: item.id.clone(), place }.apply(job, &*WORLD).unwrap();
}

/// Ways to spoil a sound job, by what is found then.
fn spoilt() -> Vec<(FindingKind, Job)> {
    let px = Length::css_px;
    let mut all = Vec::new();
    let mut with = |kind, spoil: &dyn Fn(&mut Job)| {
        let mut job = job();
        spoil(&mut job);
        all.push((kind, job));
    };
    with(FindingKind::BeyondTrim, &|job| {
        let headline = item(job, 0, Part::Headline);
        put(job, &headline, |rect| rect.moved(px(-700.0), Length::ZERO), 1.0);
    });
    with(FindingKind::OutsideSafe, &|job| {
        let headline = item(job, 0, Part::When);
        put(job, &headline, |rect| Rect { y: px(2.0), ..rect }, 1.0);
    });
    with(FindingKind::WordsOnWords, &|job| {
        let (headline, when) = (item(job, 0, Part::Headline), item(job, 0, Part::When));
        put(job, &when, |rect| Rect { y: headline.place.at.rect.y + px(4.0), ..rect }, 1.0);
    });
    with(FindingKind::TooSmall, &|job| {
        let when = item(job, 0, Part::When);
        put(job, &when, |rect| rect, 0.4);
    });
    with(FindingKind::Contrast, &|job| {
        let when = item(job, 0, Part::When);
        let look = job.plain(&when).unwrap().look.into_owned();
        let fill = Some(Paint::flat(vatman_document::Color::opaque(0xe8, 0xdf, 0xd2)));
        let target = Target::Shared(when.kin.clone());
        Command::SetLook { target, look: vatman_document::Look { fill, ..look } }.apply(job, &*WORLD).unwrap();
    });
    for (kind, text) in [
        (FindingKind::DoubledWord, "Every every Saturday"),
        (FindingKind::DoubledSpace, "Every  Saturday"),
        (FindingKind::WrongDate, "Sunday, 12 December"),
        (FindingKind::Misspelt, "every mornign"),
    ] {
        with(kind, &|job| {
            let target = Target::Shared(item(job, 0, Part::When).kin);
            Command::SetWords { target, text: text.to_lowercase().replace("sunday", "Sunday") }
                .apply(job, &*WORLD)
                .unwrap();
        });
    }
    with(FindingKind::QuietHeadline, &|job| {
        let (headline, support) = (item(job, 0, Part::Headline), item(job, 0, Part::Support));
        put(job, &headline, |rect| rect, 0.4);
        put(job, &support, |rect| Rect { h: rect.h.scaled(3.0), ..rect }, 2.4);
    });
    with(FindingKind::NearlyInLine, &|job| {
        let support = item(job, 0, Part::Support);
        put(job, &support, |rect| rect.moved(px(5.0), Length::ZERO), 1.0);
    });
    with(FindingKind::NoWords, &|job| {
        let target = Target::Shared(item(job, 0, Part::Support).kin);
        Command::SetWords { target, text: String::new() }.apply(job, &*WORLD).unwrap();
    });
    with(FindingKind::StopsAtTrim, &|job| {
        let panel = job.pieces[1].sides[0].items.iter().find(|item| {
            let plain = job.plain(item).unwrap();
            plain.content.words().is_none()
        });
        let panel = panel.unwrap().clone();
        let size = job.pieces[1].format.size;
        put(job, &panel, |_| Rect::new(Length::ZERO, Length::ZERO, size.w, size.h.scaled(0.4)), 1.0);
    });
    all
}

#[test]
fn what_spoils_a_sheet_is_found_and_put_right() {
    for (kind, job) in spoilt() {
        let all = found(&job);
        let one = all.iter().find(|one| one.finding.kind == kind);
        let one = one.unwrap_or_else(|| panic!("{kind:?} is not found in {all:?}"));
        assert!(one.repair.is_some(), "{kind:?}: {}", one.finding.says);
        let at = entry(job.piece(&one.finding.piece).unwrap());
        let known = (&*WORLD as &dyn Known, &mut Counter(50_000) as &mut dyn IdSource);
        let command = repair(&WORLD.studio, &job, &one.finding, &at, reader(), known).unwrap();
        let mut now = job.clone();
        command.apply(&mut now, &*WORLD).unwrap();
        let left = found(&now);
        let same = |other: &&Checked| other.finding.kind == kind && other.finding.item == one.finding.item;
        assert!(!left.iter().any(|other| same(&other)), "{kind:?} is still there");
        let weight = |all: &[Checked]| all.iter().map(|one| u32::from(one.weight)).sum::<u32>();
        assert!(weight(&left) < weight(&all), "{kind:?}: nothing worse came of it");
    }
}

#[test]
fn a_series_is_even_or_meant_otherwise() {
    let square = |at: f64| {
        let px = Length::css_px;
        move |_: Rect| Rect::new(px(at), px(300.0), px(100.0), px(100.0))
    };
    let gaps = |gaps: &[f64]| {
        let (mut job, made) = sheet_with(vec![Addition::Shape(Outline::Ellipse); gaps.len() + 1]);
        let mut at = 60.0;
        for (i, id) in made.iter().enumerate() {
            let own = job.item(id).unwrap().clone();
            put(&mut job, &own, square(at), 1.0);
            at += 100.0 + gaps.get(i).copied().unwrap_or_default();
        }
        let place = WORLD.place("800 x 800");
        let known = (&*WORLD as &dyn Known, &mut Counter(40_000) as &mut dyn IdSource);
        let all = check_job(&WORLD.studio, &job, &|_| place.clone(), reader(), known);
        let one = all.into_iter().find(|one| one.finding.kind == FindingKind::UnevenGaps)?;
        assert!(one.repair.is_some());
        let known = (&*WORLD as &dyn Known, &mut Counter(50_000) as &mut dyn IdSource);
        let command = repair(&WORLD.studio, &job, &one.finding, &place, reader(), known).unwrap();
        command.apply(&mut job, &*WORLD).unwrap();
        let mut boxes: Vec<_> = made.iter().map(|id| job.item(id).unwrap().place.at.rect).collect();
        boxes.sort_by_key(|rect| rect.x);
        Some(boxes.windows(2).map(|pair| (pair[1].x - pair[0].right()).to_css_px()).collect::<Vec<_>>())
    };
    let even = gaps(&[40.0, 46.0, 40.0]).expect("nearly even");
    assert!(even.iter().all(|gap| (gap - 42.0).abs() < 0.01), "{even:?}");
    assert_eq!(gaps(&[40.0, 40.0, 40.0]), None, "even");
    assert_eq!(gaps(&[40.0, 41.0, 40.0]), None, "a rounding");
    assert_eq!(gaps(&[20.0, 120.0, 20.0]), None, "two pairs");
    assert_eq!(gaps(&[40.0]), None, "no series");
}

#[test]
fn a_sound_job_has_nothing_to_mend_and_the_worst_comes_first() {
    let sound: Vec<_> = found(&job()).into_iter().map(|one| one.finding.says).collect();
    assert!(sound.is_empty(), "{sound:?}");
    let mut bad = job();
    let (headline, when) = (item(&bad, 0, Part::Headline), item(&bad, 0, Part::When));
    put(&mut bad, &headline, |rect| rect.moved(Length::css_px(-700.0), Length::ZERO), 1.0);
    put(&mut bad, &when, |rect| rect, 0.4);
    let all = found(&bad);
    assert!(all.len() >= 2 && all.windows(2).all(|pair| pair[0].weight >= pair[1].weight));
    // What is set aside is last, has no repair, and comes back when its cause is another.
    let key = all[0].key.clone();
    Command::SetAside { finding: key.clone(), reason: Some("It is meant so".into()) }.apply(&mut bad, &*WORLD).unwrap();
    let now = found(&bad);
    let aside = now.iter().find(|one| one.key == key).unwrap();
    assert_eq!((aside.set_aside.as_deref(), &aside.repair), (Some("It is meant so"), &None));
    assert_eq!(now.last().unwrap().key, key);
    let small = all.iter().find(|one| one.finding.kind == FindingKind::TooSmall).unwrap();
    Command::SetAside { finding: small.key.clone(), reason: Some("ok".into()) }.apply(&mut bad, &*WORLD).unwrap();
    let when = item(&bad, 0, Part::When);
    put(&mut bad, &when, |rect| rect, 0.8);
    let again = found(&bad);
    assert!(again.iter().any(|one| one.finding.kind == FindingKind::TooSmall && one.set_aside.is_none()));
}

#[test]
fn each_place_gets_the_file_it_takes_within_its_limit() {
    let job = WORLD.job(&["three-windows"], &[("square-post", 1), ("flyer-a5", 1), ("cloth-print", 1)], &words());
    for piece in &job.pieces {
        let mut at = entry(piece);
        if at.id == "cloth-print" {
            // Made smaller, so that the test is quick.
            at.most = None;
        }
        let files = write_for_place(&WORLD.studio, &job, piece, &[], &at).unwrap();
        let first = at.files.first().copied();
        let kind =
            first.unwrap_or(if at.format.unit == vatman_units::Unit::Px { FileKind::Png } else { FileKind::Pdf });
        assert_eq!(files[0].media_type, kind.media_type(), "{}", at.id);
        assert_eq!(usual(&at).bleed, kind == FileKind::Pdf && at.format.bleed.is_positive());
    }
    // A limit that the usual file is over: the best quality under it is found, and a pixel more of quality would be over.
    let piece = &job.pieces[0];
    let whole = write_for_place(&WORLD.studio, &job, piece, &[], &entry(piece)).unwrap()[0].bytes.len();
    for (kind, share) in [(None, 0.9), (None, 0.6), (None, 0.4), (Some(FileKind::Webp), 0.2)] {
        let most = (whole as f64 * share) as u64;
        let mut at = entry(piece);
        at.most = Some(most);
        at.files = kind.map_or(at.files, |kind| vec![kind]);
        let file = &write_for_place(&WORLD.studio, &job, piece, &[], &at).unwrap()[0];
        let size = file.bytes.len() as u64;
        assert!(size <= most && size * 10 > most * 7, "{kind:?}: {size} of {most}");
        assert_eq!(file.media_type, kind.unwrap_or(FileKind::Jpeg).media_type());
        let decoded = image::load_from_memory(&file.bytes).unwrap();
        assert_eq!((decoded.width(), decoded.height()), (1_080, 1_080));
    }
    let written = |how: HandOver| {
        let file = write_file(&WORLD.studio, &job, piece, &[], how).unwrap().remove(0);
        (image::load_from_memory(&file.bytes).unwrap().to_rgb8(), file.bytes.len())
    };
    let (exact, _) = written(HandOver::of(FileKind::Png));
    let mut sizes = Vec::new();
    for (kind, quality, most) in [
        (FileKind::Webp, 100, 1e-9),
        (FileKind::Webp, 90, 2.0),
        (FileKind::Webp, 40, 6.0),
        (FileKind::Tiff, 85, 1e-9),
        (FileKind::Gif, 85, 6.0),
    ] {
        let (decoded, size) = written(HandOver { quality, ..HandOver::of(kind) });
        let apart = decoded.iter().zip(exact.iter()).map(|(a, b)| u64::from(a.abs_diff(*b))).sum::<u64>() as f64
            / exact.len() as f64;
        assert!(apart < most, "{kind:?} {quality}: {apart}");
        sizes.push(size);
    }
    assert!(sizes[0] > sizes[1] && sizes[1] > sizes[2], "less quality, smaller file: {sizes:?}");
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 20, ..ProptestConfig::default() })]

    #[test]
    fn a_repair_never_leaves_a_job_worse(at in 0usize..8, dx in -900i32..900, dy in -900i32..900, scale in 0.3f64..2.5) {
        let mut job = job();
        let items = job.pieces[0].sides[0].items.clone();
        let one = &items[at % items.len()];
        let place = Place { scale: Ratio::new(one.place.scale.get() * scale), ..one.place };
        let mut moved = one.clone();
        moved.place = place;
        put(&mut job, &moved, |rect| rect.moved(Length::css_px(f64::from(dx)), Length::css_px(f64::from(dy))), 1.0);
        let all = found(&job);
        let weight = |all: &[Checked]| all.iter().map(|one| u32::from(one.weight)).sum::<u32>();
        for one in all.iter().filter(|one| one.repair.is_some()).take(3) {
            let known = (&*WORLD as &dyn Known, &mut Counter(60_000) as &mut dyn IdSource);
            let here = entry(job.piece(&one.finding.piece).unwrap());
            let command = repair(&WORLD.studio, &job, &one.finding, &here, reader(), known).unwrap();
            let mut now = job.clone();
            command.apply(&mut now, &*WORLD).unwrap();
            prop_assert!(weight(&found(&now)) < weight(&all), "{}", one.finding.says);
        }
    }
}
