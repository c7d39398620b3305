//! What a side made by hand keeps of itself in another shape, whichever way it is arranged.

use std::collections::BTreeMap;
use std::sync::Arc;

use kurbo::Rect;
use vatman_craft::Addition;
use vatman_document::{Align, Command, Content, Job, KinId, Outline, Part, Place, Target};
use vatman_units::{Length, Placement};

use crate::common::{WORLD, arranged_in_each_way, by_somebody, sheet_with};

/// A thing on a sheet of 800 by 800 pixels, and where; words say something.
pub struct Thing(Addition, [f64; 4], &'static str);

pub fn panel(at: [f64; 4]) -> Thing {
    Thing(Addition::Shape(Outline::Rect { radius: Length::ZERO }), at, "")
}

pub fn picture(at: [f64; 4]) -> Thing {
    let id = WORLD.samples.values().next().unwrap().clone();
    let info = WORLD.studio.pictures.info(&id).unwrap();
    Thing(Addition::Picture(Some((id, (info.width, info.height)))), at, "")
}

fn star(at: [f64; 4]) -> Thing {
    Thing(Addition::Shape(Outline::Star { points: 5, depth: vatman_units::Ratio::HALF }), at, "")
}

pub fn words(part: Part, at: [f64; 4], says: &'static str) -> Thing {
    Thing(Addition::Words(part), at, says)
}

/// A sheet with things, its words in the middle of their boxes.
pub fn sheet(things: Vec<Thing>) -> (Job, Vec<KinId>) {
    let px = Length::css_px;
    let (what, rest): (Vec<_>, Vec<_>) = things.into_iter().map(|Thing(what, at, says)| (what, (at, says))).unzip();
    let (mut job, made) = sheet_with(what);
    let mut kins = Vec::new();
    for (id, ([x, y, w, h], says)) in made.iter().zip(rest) {
        let item = job.item(id).unwrap();
        let (kin, scale) = (item.kin.clone(), item.place.scale);
        let place = Place { scale, ..Place::new(Placement::at(vatman_units::Rect::new(px(x), px(y), px(w), px(h)))) };
        Command::SetPlace { item: id.clone(), place }.apply(&mut job, &*WORLD).unwrap();
        if !says.is_empty() {
            Command::SetWords { target: Target::Shared(kin.clone()), text: says.into() }
                .apply(&mut job, &*WORLD)
                .unwrap();
            let own = Arc::make_mut(job.kins.get_mut(&kin).unwrap());
            own.look.type_look.as_mut().unwrap().align = Align::Centre;
        }
        kins.push(kin);
    }
    (by_somebody(job), kins)
}

/// In what way, and where what stands does, in pixels.
type Arranged = (String, BTreeMap<KinId, Rect>);

/// Every way in which a job is arranged on a sheet of so many pixels.
fn arranged(job: &Job, size: (u32, u32)) -> Vec<Arranged> {
    let places = |out: &Job| {
        let items = out.pieces.last().unwrap().sides[0].items.iter();
        items.map(|item| (item.kin.clone(), item.place.at.rect.to_css_px())).collect()
    };
    arranged_in_each_way(job, size).into_iter().map(|(way, out)| (way, places(&out))).collect()
}

fn near(a: &Rect, b: &Rect, by: f64) -> bool {
    [a.x0 - b.x0, a.y0 - b.y0, a.x1 - b.x1, a.y1 - b.y1].iter().all(|off| off.abs() <= by)
}

fn assert_near(a: &Rect, b: &Rect, by: f64, says: &str) {
    assert!(near(a, b, by), "{says}: {a:?} and {b:?}");
}

/// Sides as people make them: what stands where, named for what is said.
fn sides() -> Vec<(&'static str, Vec<Thing>)> {
    let three = |x: f64, y: f64| {
        vec![
            words(Part::Headline, [x, y, 280.0, 90.0], "Open house"),
            words(Part::Support, [x, y + 110.0, 280.0, 60.0], "Kilns, glazes and tea"),
            words(Part::When, [x, y + 200.0, 280.0, 40.0], "Saturday at ten"),
        ]
    };
    let with = |first: Vec<Thing>, more: Vec<Thing>| first.into_iter().chain(more).collect::<Vec<_>>();
    vec![
        (
            "a panel beside a picture",
            with(vec![panel([0.0, 0.0, 360.0, 800.0]), picture([360.0, 0.0, 440.0, 800.0])], three(40.0, 280.0)),
        ),
        (
            "a picture over a panel",
            with(vec![picture([0.0, 0.0, 800.0, 420.0]), panel([0.0, 420.0, 800.0, 380.0])], three(300.0, 480.0)),
        ),
        (
            "a picture inset with a star in the corner and one at its side",
            with(
                vec![
                    picture([60.0, 60.0, 680.0, 380.0]),
                    star([690.0, 20.0, 90.0, 90.0]),
                    star([20.0, 180.0, 100.0, 100.0]),
                ],
                three(180.0, 480.0),
            ),
        ),
        ("a star that hangs out of the foot", with(vec![star([300.0, 690.0, 200.0, 200.0])], three(180.0, 60.0))),
        (
            "two shapes apart",
            with(vec![star([60.0, 60.0, 300.0, 300.0]), star([440.0, 60.0, 300.0, 300.0])], three(180.0, 420.0)),
        ),
        (
            "a picture between words",
            vec![
                picture([200.0, 170.0, 400.0, 400.0]),
                words(Part::Headline, [100.0, 40.0, 600.0, 90.0], "Open house"),
                words(Part::When, [200.0, 610.0, 400.0, 50.0], "Saturday at ten"),
                words(Part::Action, [200.0, 690.0, 400.0, 50.0], "Come and throw"),
            ],
        ),
        (
            "a panel in a corner of a picture",
            with(vec![picture([0.0, 0.0, 800.0, 800.0]), panel([40.0, 400.0, 360.0, 360.0])], three(80.0, 450.0)),
        ),
    ]
}

const SIZES: [(u32, u32); 5] = [(800, 1200), (1200, 800), (700, 1500), (1600, 700), (1000, 1000)];

#[test]
fn words_above_and_below_a_picture_stand_together_beside_it_where_it_is_wide() {
    for (within, on) in [("the sheet", None), ("a panel", Some(panel([0.0, 0.0, 800.0, 800.0])))] {
        let things = vec![
            picture([200.0, 170.0, 400.0, 400.0]),
            words(Part::Headline, [100.0, 40.0, 600.0, 90.0], "Open house"),
            words(Part::When, [200.0, 610.0, 400.0, 50.0], "Saturday at ten"),
            words(Part::Action, [200.0, 690.0, 400.0, 50.0], "Come and throw"),
        ];
        let lead = usize::from(on.is_some());
        let (job, kins) = sheet(on.into_iter().chain(things).collect());
        for (w, h) in [(1600, 700), (1500, 500), (1280, 640)] {
            let found = arranged(&job, (w, h));
            let (way, places) = &found[0];
            let says = format!("on {within}, {w} x {h}, {way}");
            let own = places[&kins[lead]];
            let said: Vec<Rect> = kins[lead + 1..].iter().map(|kin| places[kin]).collect();
            let beside = |rect: &Rect| rect.x1 <= own.x0 + 0.5 || rect.x0 >= own.x1 - 0.5;
            assert!(said.iter().all(beside), "{says}: {said:?} and {own:?}");
            let side = |rect: &Rect| rect.center().x < own.center().x;
            assert!(said.iter().all(|rect| side(rect) == side(&said[0])), "{says}: on one side");
            assert!(said.windows(2).all(|pair| pair[0].y1 <= pair[1].y0 + 0.5), "{says}: in their order");
            assert!(own.height() > f64::from(h) * 0.6, "{says}: the picture takes the height, {own:?}");
            // The other side is offered as well.
            let other = |(_, places): &Arranged| {
                let own = places[&kins[lead]];
                kins[lead + 1..]
                    .iter()
                    .all(|kin| places.get(kin).is_some_and(|rect| (rect.center().x < own.center().x) != side(&said[0])))
            };
            assert!(found.iter().any(other), "{says}");
        }
        // Where it is not wide they stay above and below.
        let (_, places) = &arranged(&job, (800, 1000))[0];
        let y = |at: usize| places[&kins[lead + at]].center().y;
        assert!(y(1) < y(0) && y(0) < y(2) && y(2) < y(3), "on {within}");
    }
}

#[test]
fn what_lies_over_everything_goes_on_doing_so_and_parts_nothing() {
    let said = |y: f64| {
        vec![
            picture([150.0, 380.0, 500.0, 380.0]),
            words(Part::Headline, [150.0, 60.0, 500.0, 90.0], "Open house"),
            words(Part::Support, [150.0, 190.0, 500.0, 50.0], "Kilns, glazes and tea"),
            // It reaches into the picture.
            words(Part::When, [150.0, y, 500.0, 40.0], "Saturday at ten"),
        ]
    };
    let (plain, _) = sheet(said(330.0));
    let (job, kins) = sheet(said(352.0).into_iter().chain([panel([0.0, 0.0, 800.0, 800.0])]).collect());
    for (w, h) in SIZES {
        let found = arranged(&job, (w, h));
        for (way, places) in &found {
            let says = format!("on {w} x {h}, {way}");
            let sheet = Rect::new(0.0, 0.0, f64::from(w), f64::from(h));
            assert_near(&places[&kins[4]], &sheet, 1.0, &says);
            let words: Vec<&Rect> = kins[1..4].iter().filter_map(|kin| places.get(kin)).collect();
            for (at, one) in words.iter().enumerate() {
                assert!(words[..at].iter().all(|other| one.intersect(**other).area() < 1.0), "{says}: words on words");
            }
        }
        // Words keep together as they do without it.
        let names = |found: &[Arranged]| found.first().map(|(way, _)| way.clone());
        assert_eq!(names(&found), names(&arranged(&plain, (w, h))), "on {w} x {h}");
        let y = |at: usize| found[0].1[&kins[at]].center().y;
        assert!(y(1) < y(2) && y(2) < y(3), "on {w} x {h}: in their order");
    }
}

#[test]
fn words_at_the_head_and_at_the_foot_stay_there() {
    let (job, kins) = sheet(vec![
        words(Part::Headline, [100.0, 40.0, 600.0, 90.0], "Open house"),
        words(Part::When, [200.0, 710.0, 400.0, 50.0], "Saturday at ten"),
    ]);
    for (w, h) in [(700, 1500), (800, 1200), (1000, 1000)] {
        let (way, places) = &arranged(&job, (w, h))[0];
        let (head, foot) = (places[&kins[0]], places[&kins[1]]);
        let high = f64::from(h);
        assert!(head.y0 < high * 0.15 && foot.y1 > high * 0.85, "on {w} x {h}, {way}: {head:?}, {foot:?}");
    }
}

#[test]
fn a_panel_that_comes_to_lie_on_its_picture_lies_on_its_own_side() {
    let said = |x: f64| {
        vec![
            words(Part::Headline, [x, 280.0, 280.0, 90.0], "Open house"),
            words(Part::When, [x, 400.0, 280.0, 50.0], "Saturday at ten"),
        ]
    };
    let mut seen = 0;
    for (at, other) in [(0.0, 360.0), (440.0, 0.0)] {
        let own = [panel([at, 0.0, 360.0, 800.0]), picture([other, 0.0, 440.0, 800.0])];
        let (job, kins) = sheet(own.into_iter().chain(said(at + 40.0)).collect());
        for (w, h) in [(1200, 800), (1600, 1000), (1000, 800)] {
            let found = arranged(&job, (w, h));
            let over = found.iter().filter(|(_, places)| {
                let (panel, picture) = (places[&kins[0]], places[&kins[1]]);
                panel.intersect(picture).area() > panel.area() * 0.9
            });
            for (way, places) in over {
                seen += 1;
                let left = places[&kins[0]].center().x < f64::from(w) / 2.0;
                assert_eq!(left, at < other, "on {w} x {h}, {way}");
            }
        }
    }
    assert!(seen >= 4, "{seen}");
}

#[test]
fn twice_the_sheet_is_twice_the_arrangement() {
    for (name, things) in sides() {
        let (job, _) = sheet(things);
        for (w, h) in SIZES {
            let (one, two) = (arranged(&job, (w, h)), arranged(&job, (2 * w, 2 * h)));
            assert_eq!(one.len(), two.len(), "{name} on {w} x {h}");
            for ((way, one), (_, two)) in one.iter().zip(&two) {
                assert!(one.keys().eq(two.keys()), "{name} on {w} x {h}, {way}");
                for (kin, rect) in one {
                    assert_near(&rect.scale_from_origin(2.0), &two[kin], 6.0, &format!("{name} on {w} x {h}, {way}"));
                }
            }
        }
    }
}

#[test]
fn a_side_seen_in_a_mirror_is_arranged_as_its_mirror() {
    let mut seen = 0;
    for ((name, things), (_, mirrored)) in sides().into_iter().zip(sides()) {
        let mirrored =
            mirrored.into_iter().map(|Thing(what, [x, y, w, h], says)| Thing(what, [800.0 - x - w, y, w, h], says));
        let ((job, kins), (other, others)) = (sheet(things), sheet(mirrored.collect()));
        for (w, h) in SIZES {
            let (one, two) = (arranged(&job, (w, h)), arranged(&other, (w, h)));
            let wide = f64::from(w);
            let mirrors = |a: &Arranged, b: &Arranged| {
                kins.iter().zip(&others).all(|(kin, other)| match (a.1.get(kin), b.1.get(other)) {
                    (Some(a), Some(b)) => near(a, &Rect::new(wide - b.x1, b.y0, wide - b.x0, b.y1), 4.0),
                    (a, b) => a.is_some() == b.is_some(),
                })
            };
            // What was turned reads from left to right in both.
            let was: Vec<Rect> = kins.iter().map(|kin| place_of(&job, kin)).collect();
            for way in one.iter().filter(|way| keeps_order(&kins, &was, way)) {
                seen += 1;
                assert!(two.iter().any(|other| mirrors(way, other)), "{name} on {w} x {h}: {way:?}");
            }
        }
    }
    assert!(seen > 40, "{seen}");
}

fn place_of(job: &Job, kin: &KinId) -> Rect {
    let items = &job.pieces[0].sides[0].items;
    items.iter().find(|item| item.kin == *kin).unwrap().place.at.rect.to_css_px()
}

/// Whether what was left of something or above it still is.
fn keeps_order(kins: &[KinId], was: &[Rect], way: &Arranged) -> bool {
    let pairs = kins.iter().zip(was).flat_map(|one| kins.iter().zip(was).map(move |other| (one, other)));
    pairs.into_iter().all(|((one, a), (other, b))| {
        let (Some(now), Some(there)) = (way.1.get(one), way.1.get(other)) else { return true };
        (a.x1 > b.x0 || now.x1 <= there.x0 + 1.0) && (a.y1 > b.y0 || now.y1 <= there.y0 + 1.0)
    })
}

#[test]
fn a_shade_lies_where_its_picture_does() {
    for design in &WORLD.designs {
        let job = by_somebody(WORLD.job(&[&design.id], &[("square-post", 1)], &design.sample));
        let side = &job.pieces[0].sides[0];
        let at = |picture: bool| {
            let kind = |item: &&vatman_document::Item| {
                let plain = job.plain(item).unwrap();
                match plain.content {
                    Content::Picture { .. } => picture,
                    Content::Shape { .. } => !picture && is_shade(&plain.look),
                    _ => false,
                }
            };
            side.items.iter().filter(kind).map(|item| (item.kin.clone(), item.place.at.rect)).collect::<Vec<_>>()
        };
        let (pictures, shades) = (at(true), at(false));
        for (picture, own) in &pictures {
            for (shade, _) in shades.iter().filter(|(_, rect)| rect == own) {
                for size in SIZES {
                    for (way, found) in arranged(&job, size) {
                        let (Some(picture), Some(shade)) = (found.get(picture), found.get(shade)) else { continue };
                        assert_near(picture, shade, 1.0, &format!("{} on {size:?}, {way}", design.id));
                    }
                }
            }
        }
    }
}

fn is_shade(look: &vatman_document::Look) -> bool {
    match &look.fill {
        Some(vatman_document::Paint::Flat { opacity, .. }) => opacity.get() < 0.95,
        other => other.is_some(),
    }
}

#[test]
fn a_short_line_in_the_middle_has_all_the_width_of_its_column() {
    let (job, kins) = sheet(vec![
        words(Part::Headline, [100.0, 200.0, 600.0, 90.0], "Open house at the kiln"),
        words(Part::Support, [250.0, 310.0, 300.0, 60.0], "Tea and glazes"),
    ]);
    for size in SIZES {
        for (way, found) in arranged(&job, size).into_iter().filter(|(way, _)| way != "As it is") {
            let [Some(head), Some(line)] = [found.get(&kins[0]), found.get(&kins[1])] else { continue };
            let (head, line) = ((head.x0, head.x1), (line.x0, line.x1));
            assert!(
                (head.0 - line.0).abs() < 1.0 && (head.1 - line.1).abs() < 1.0,
                "{size:?}, {way}: {head:?} {line:?}"
            );
        }
    }
}

#[test]
fn a_picture_takes_more_where_there_is_more_room() {
    let (job, kins) = sheet(vec![
        picture([0.0, 0.0, 800.0, 420.0]),
        panel([0.0, 420.0, 800.0, 380.0]),
        words(Part::Headline, [100.0, 500.0, 600.0, 120.0], "Open house"),
    ]);
    let (way, found) = &arranged(&job, (800, 1600))[0];
    let (shown, below) = (found[&kins[0]], found[&kins[1]]);
    assert_near(&Rect::new(0.0, 0.0, 800.0, 1600.0), &shown.union(below), 1.0, way);
    assert!((shown.y1 - below.y0).abs() < 1.0, "{way}: no gap opens between them");
    // What is over is shared between the two: each has far more than it needs.
    assert!(shown.height() > 700.0 && below.height() > 700.0, "{way}: {shown:?} {below:?}");
}

#[test]
fn a_picture_of_half_the_width_stays_one() {
    let (job, kins) = sheet(vec![
        picture([200.0, 60.0, 400.0, 400.0]),
        words(Part::Headline, [100.0, 500.0, 600.0, 120.0], "Open house"),
    ]);
    let (way, found) = &arranged(&job, (800, 1000))[0];
    let shown = found[&kins[0]];
    assert!((shown.width() - 400.0).abs() < 60.0 && (shown.center().x - 400.0).abs() < 2.0, "{way}: {shown:?}");
}

#[test]
fn a_panel_beside_a_picture_may_lie_on_it_whichever_stood_first() {
    for first in [true, false] {
        let (left, right) = ([0.0, 0.0, 360.0, 800.0], [360.0, 0.0, 440.0, 800.0]);
        let mut things = if first { vec![panel(left), picture(right)] } else { vec![picture(right), panel(left)] };
        things.push(words(Part::Headline, [40.0, 280.0, 280.0, 90.0], "Open house"));
        let mirrored =
            things.iter().map(|Thing(what, [x, y, w, h], says)| Thing(what.clone(), [800.0 - x - w, *y, *w, *h], says));
        for things in [mirrored.collect(), things] {
            let (job, kins) = sheet(things);
            let (shown, below) = if first { (&kins[1], &kins[0]) } else { (&kins[0], &kins[1]) };
            let lies = |(_, found): &Arranged| {
                let (shown, below) = (found[shown], found[below]);
                near(&shown, &Rect::new(0.0, 0.0, 700.0, 1_500.0), 1.0) && below.area() < shown.area() * 0.9
            };
            assert!(arranged(&job, (700, 1_500)).iter().any(lies), "first {first}");
        }
    }
}

#[test]
fn what_hangs_out_of_an_edge_hangs_out_of_it_again() {
    let edges = [
        [300.0, 690.0, 200.0, 200.0],
        [300.0, -90.0, 200.0, 200.0],
        [-90.0, 300.0, 200.0, 200.0],
        [690.0, 300.0, 200.0, 200.0],
    ];
    for (n, at) in edges.into_iter().enumerate() {
        let (job, kins) = sheet(vec![
            star(at),
            words(Part::Headline, [180.0, 300.0, 440.0, 90.0], "Open house"),
            words(Part::When, [180.0, 420.0, 440.0, 60.0], "Saturday at ten"),
        ]);
        for (w, h) in SIZES {
            for (way, found) in arranged(&job, (w, h)) {
                let Some(own) = found.get(&kins[0]) else { continue };
                let out = [own.y1 - f64::from(h), -own.y0, -own.x0, own.x1 - f64::from(w)][n];
                let share = out / own.width();
                assert!((0.3..0.6).contains(&share), "edge {n} on {w} x {h}, {way}: {own:?}");
            }
        }
    }
}

#[test]
fn words_keep_off_the_edges_of_their_panel() {
    let (job, kins) = sheet(vec![
        panel([100.0, 100.0, 600.0, 600.0]),
        words(Part::Headline, [140.0, 140.0, 520.0, 120.0], "Open house"),
        words(Part::When, [140.0, 600.0, 520.0, 60.0], "Saturday at ten"),
    ]);
    for (w, h) in SIZES {
        let scale = f64::from(w * h).sqrt() / 800.0;
        for (way, found) in arranged(&job, (w, h)) {
            let (under, head) = (found[&kins[0]], found[&kins[1]]);
            let off = (head.y0 - under.y0) / scale;
            assert!(off > 15.0, "{w} x {h}, {way}: {off} of 40");
        }
    }
}
