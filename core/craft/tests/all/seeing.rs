//! Where an item can be seen: what a press means.

use crate::common::{WORLD, sheet_with};
use vatman_craft::{Addition, Sight, item_at, sight};
use vatman_document::{Color, Command, Outline, Paint, Place, Stop, Target, Tint};
use vatman_scene::Audience;
use vatman_units::{Angle, Length, Placement, Ratio, Rect};

/// The sight of a shape of an outline and an opacity, 300 by 200 px at 100, 200.
fn seen(outline: Outline, opacity: f64) -> Option<Sight> {
    seen_in(outline, Paint::Flat { tint: Tint::Own(Color::BLACK), opacity: Ratio::new(opacity) })
}

fn seen_in(outline: Outline, fill: Paint) -> Option<Sight> {
    let (mut job, ids) = sheet_with(vec![Addition::Shape(outline)]);
    let px = Length::css_px;
    let place = Place::new(Placement::at(Rect::new(px(100.0), px(200.0), px(300.0), px(200.0))));
    Command::SetPlace { item: ids[0].clone(), place }.apply(&mut job, &*WORLD).unwrap();
    let item = job.item(&ids[0]).unwrap();
    let mut look = job.plain(item).unwrap().look.into_owned();
    look.fill = Some(fill);
    Command::SetLook { target: Target::Shared(item.kin.clone()), look }.apply(&mut job, &*WORLD).unwrap();
    let piece = &job.pieces[0];
    let scene = WORLD.studio.scene(&job, piece, &piece.sides[0], Audience::Stage, None);
    sight(&WORLD.studio, &scene.items[0])
}

#[test]
fn what_is_faint_is_passed_through_and_what_is_not_is_seen() {
    assert_eq!(seen(Outline::RECT, 1.0), None, "all of it is seen");
    assert_eq!(seen(Outline::RECT, 0.3), None);
    let faint = seen(Outline::RECT, 0.1).unwrap();
    assert_eq!((faint.columns, faint.rows, faint.at), (24, 16, [100.0, 200.0, 300.0, 200.0]));
    assert!(faint.cells.len() == 24 * 16 && faint.cells.bytes().all(|cell| cell == b'.'));
}

#[test]
fn a_shade_that_fades_is_seen_where_it_is_strong() {
    let stop = |at: f64, opacity: f64| Stop {
        at: Ratio::new(at),
        tint: Tint::Own(Color::BLACK),
        opacity: Ratio::new(opacity),
    };
    let fade = Paint::Linear { angle: Angle::degrees(180.0), stops: vec![stop(0.0, 0.0), stop(1.0, 1.0)] };
    let sight = seen_in(Outline::RECT, fade).unwrap();
    let rows: Vec<&str> = (0..16).map(|row| &sight.cells[row * 24..(row + 1) * 24]).collect();
    assert!(rows[0].bytes().all(|cell| cell == b'.') && rows[15].bytes().all(|cell| cell == b'#'), "{rows:?}");
    let seen: Vec<usize> = rows.iter().map(|row| row.matches('#').count()).collect();
    assert!(seen.is_sorted(), "it only grows stronger: {seen:?}");
    for (at, is) in [((250.0, 205.0), false), ((250.0, 395.0), true), ((110.0, 390.0), true), ((390.0, 390.0), true)] {
        assert_eq!(sight.is_seen_at(at.into()), is, "{at:?}");
    }
    for beside in [(99.0, 390.0), (401.0, 390.0), (250.0, 401.0), (250.0, 199.0)] {
        assert!(!sight.is_seen_at(beside.into()), "{beside:?}");
    }
    // Nearly clear is less than 22 %: of sixteen rows the fourth passes it.
    assert_eq!(seen.iter().position(|count| *count == 24), Some(3), "{seen:?}");
    // The corners beside a round shade are clear whatever its opacity; its middle counts.
    let round = self::seen(Outline::Ellipse, 0.1).map(|sight| sight.cells.contains('#'));
    assert_eq!(round, Some(false));
}

#[test]
fn a_press_means_the_frontmost_thing_seen_there_and_not_the_ground() {
    let star = Outline::Star { points: 5, depth: Ratio::HALF };
    let (mut job, ids) = sheet_with(vec![Addition::Panel, Addition::Shape(Outline::RECT), Addition::Shape(star)]);
    let px = Length::css_px;
    for (id, [x, y, w, h]) in ids[1..].iter().zip([[100.0, 100.0, 400.0, 400.0], [200.0, 200.0, 200.0, 200.0]]) {
        let place = Place::new(Placement::at(Rect::new(px(x), px(y), px(w), px(h))));
        Command::SetPlace { item: id.clone(), place }.apply(&mut job, &*WORLD).unwrap();
    }
    let piece = &job.pieces[0];
    let at = |x: f64, y: f64| {
        item_at(&WORLD.studio, &job, piece, &piece.sides[0], vatman_units::Point { x: px(x), y: px(y) })
    };
    assert_eq!(at(300.0, 300.0).as_ref(), Some(&ids[2]), "the star");
    assert_eq!(at(205.0, 205.0).as_ref(), Some(&ids[1]), "beside its points, what lies below");
    assert_eq!(at(110.0, 490.0).as_ref(), Some(&ids[1]));
    assert_eq!(at(700.0, 700.0), None, "only the ground");
    assert_eq!(at(-10.0, 300.0), None);
}
