//! Shapes and letters combined and taken apart, on a composed job.

use crate::common::{Counter, WORLD, sheet_with};
use kurbo::Shape as _;
use vatman_craft::{Addition, combine, combine_otherwise, frame_from, take_apart};
use vatman_document::{Combine, Content, ItemId, Job, Outline, Place, RichText, Target};
use vatman_scene::Audience;
use vatman_units::{Length, Placement, Rect};

#[test]
fn shapes_are_combined_changed_and_come_apart_where_they_were() {
    let (mut job, ids) = sheet_with(vec![Addition::Shape(Outline::RECT), Addition::Shape(Outline::Ellipse)]);
    let before: Vec<_> = job.items().map(|item| item.place.at.rect).collect();
    let mut source = Counter(100);
    let original = job.clone();
    let (command, made) = combine(&job, &ids, Combine::Subtract, &WORLD.studio, &mut source).unwrap();
    let undo = command.apply(&mut job, &*WORLD).unwrap();
    assert_eq!(job.items().count(), 1);
    let (command, parts) = take_apart(&job, &made, &mut source).unwrap();
    command.apply(&mut job, &*WORLD).unwrap();
    assert_eq!(parts.len(), 2);
    for (item, rect) in job.items().zip(&before) {
        let (a, b) = (item.place.at.rect.to_css_px(), rect.to_css_px());
        assert!((a.x0 - b.x0).abs() < 0.01 && (a.y1 - b.y1).abs() < 0.01);
    }
    assert!(take_apart(&job, &parts[0], &mut source).is_err());
    let mut again = original.clone();
    let (command, _) = combine(&again, &ids, Combine::Subtract, &WORLD.studio, &mut Counter(100)).unwrap();
    command.apply(&mut again, &*WORLD).unwrap();
    undo.apply(&mut again, &*WORLD).unwrap();
    assert_eq!(again, original);
}

#[test]
fn letters_are_cut_out_of_a_shape() {
    let (mut job, ids) =
        sheet_with(vec![Addition::Shape(Outline::RECT), Addition::Words(vatman_document::Part::Detail)]);
    let words = job.item(&ids[1]).unwrap().clone();
    let content = Content::Words { text: RichText::plain("KILN"), prompt: String::new() };
    vatman_document::Command::SetContent { target: Target::Shared(words.kin.clone()), content }
        .apply(&mut job, &*WORLD)
        .unwrap();
    // Into the middle of the shape.
    let rect = job.item(&ids[0]).unwrap().place.at.rect;
    let mut place = words.place;
    (place.at.rect.x, place.at.rect.w) = (rect.x, rect.w);
    place.at.rect.y = rect.y + rect.h.half();
    vatman_document::Command::SetPlace { item: ids[1].clone(), place }.apply(&mut job, &*WORLD).unwrap();
    let full = rect.to_css_px().area();
    let (command, made) = combine(&job, &ids, Combine::Subtract, &WORLD.studio, &mut Counter(100)).unwrap();
    command.apply(&mut job, &*WORLD).unwrap();
    let item = job.item(&made).unwrap();
    let Content::Shape { outline } = &job.plain(item).unwrap().content else { panic!() };
    let whole = item.place.at.rect.to_css_px();
    let left = outline.path(whole.width(), whole.height(), 1.0).area().abs();
    assert!(left < full - 200.0 && left > full * 0.5, "{left} of {full}");
    assert!(combine(&job, std::slice::from_ref(&made), Combine::Unite, &WORLD.studio, &mut Counter(200)).is_err());
}

#[test]
fn letters_become_the_frame_of_a_picture() {
    let picture = WORLD.samples.values().next().unwrap().clone();
    let (mut job, ids) = sheet_with(vec![
        Addition::Picture(Some((picture.clone(), (400, 300)))),
        Addition::Words(vatman_document::Part::Headline),
        Addition::Shape(Outline::Line),
    ]);
    let words = job.item(&ids[1]).unwrap().clone();
    let content = Content::Words { text: RichText::plain("KILN"), prompt: String::new() };
    vatman_document::Command::SetContent { target: Target::Shared(words.kin), content }
        .apply(&mut job, &*WORLD)
        .unwrap();
    let letters = job.item(&ids[1]).unwrap().place.at.rect;
    let before = job.clone();
    let undo = frame_from(&job, &ids[0], &ids[1], &WORLD.studio.typesetter).unwrap().apply(&mut job, &*WORLD).unwrap();
    let item = job.item(&ids[0]).unwrap();
    let Content::Picture { picture: Some(kept), frame, .. } = &job.plain(item).unwrap().content else { panic!() };
    assert_eq!(kept, &picture);
    assert!(letters.outset(Length::css_px(20.0)).contains(item.place.at.rect), "it lands where the letters were");
    assert!(job.item(&ids[1]).is_none() && job.pieces[0].tray.len() == 1, "they wait in the tray");
    let rect = item.place.at.rect.to_css_px();
    assert!(rect.width() / rect.height() > 2.0, "four letters are wider than high: {rect:?}");
    let area = frame.path(rect.width(), rect.height(), 1.0).area().abs();
    assert!(area > rect.area() * 0.2 && area < rect.area() * 0.8, "{area} of {}", rect.area());
    undo.apply(&mut job, &*WORLD).unwrap();
    assert_eq!(job, before);
    assert!(frame_from(&job, &ids[1], &ids[0], &WORLD.studio.typesetter).is_err(), "words are no frame");
    assert!(frame_from(&job, &ids[0], &ids[2], &WORLD.studio.typesetter).is_err(), "a line encloses nothing");
}

#[test]
fn a_plain_line_is_stroked_and_a_connector_is_one() {
    let (mut job, ids) = sheet_with(vec![
        Addition::Shape(Outline::Line),
        Addition::Shape(Outline::RECT),
        Addition::Shape(Outline::Ellipse),
    ]);
    let look = |job: &Job, id: &ItemId| job.plain(job.item(id).unwrap()).unwrap().look.into_owned();
    assert!(look(&job, &ids[0]).fill.is_none() && look(&job, &ids[0]).stroke.is_some());
    let ink = vatman_document::Paint::flat(vatman_document::Color::BLACK);
    let (command, line) = vatman_craft::connect(&job, &ids[1], &ids[2], false, &ink, &mut Counter(50)).unwrap();
    command.apply(&mut job, &*WORLD).unwrap();
    assert!(look(&job, &line).stroke.is_some());
    let path = Outline::Line.path(200.0, 10.0, 1.0);
    assert_eq!((path.bounding_box().width(), path.bounding_box().height()), (200.0, 0.0));
}

/// The pixels of the first side of a job, in steps of one CSS pixel.
fn pixels(job: &Job) -> vatman_photo::Straight {
    let piece = &job.pieces[0];
    let scene = WORLD.studio.scene(job, piece, &piece.sides[0], Audience::Output, None);
    let options = vatman_output::PixelOptions { width: 800, height: 800, bleed: false, clear: true };
    WORLD.studio.pixels(&scene, options).unwrap().straight()
}

fn dot(pixels: &vatman_photo::Straight, x: usize, y: usize) -> [u8; 4] {
    let at = (y * 800 + x) * 4;
    pixels.data()[at..at + 4].try_into().unwrap()
}

#[test]
fn a_shape_cuts_the_frame_of_a_picture_and_the_picture_stays() {
    let picture = WORLD.samples["wheel"].clone();
    let info = WORLD.studio.pictures.info(&picture).unwrap();
    // The shape lies below the picture: it is the picture that is cut all the same.
    for upside_down in [false, true] {
        let mut what = vec![
            Addition::Picture(Some((picture.clone(), (info.width, info.height)))),
            Addition::Shape(Outline::Ellipse),
        ];
        if upside_down {
            what.reverse();
        }
        let (mut job, ids) = sheet_with(what);
        let (photo, shape) = if upside_down { (&ids[1], &ids[0]) } else { (&ids[0], &ids[1]) };
        let px = Length::css_px;
        let at = |x, y, w, h| Place::new(Placement::at(Rect::new(px(x), px(y), px(w), px(h))));
        for (id, place) in [(photo, at(100.0, 100.0, 600.0, 500.0)), (shape, at(500.0, 200.0, 300.0, 200.0))] {
            vatman_document::Command::SetPlace { item: id.clone(), place }.apply(&mut job, &*WORLD).unwrap();
        }
        let whole = pixels(&job);
        let (command, made) = combine(&job, &ids, Combine::Subtract, &WORLD.studio, &mut Counter(100)).unwrap();
        command.apply(&mut job, &*WORLD).unwrap();
        assert_eq!((job.items().count(), &made), (1, photo));
        let plain = job.plain(job.item(photo).unwrap()).unwrap();
        assert_eq!(plain.content.picture(), Some(&picture));
        let cut = pixels(&job);
        assert_eq!(dot(&cut, 600, 300)[3], 0, "a hole where the shape was");
        assert_eq!(dot(&cut, 200, 300), dot(&whole, 200, 300), "beside it the picture lies as it did");
        // United, the frame reaches out and the picture covers it.
        combine_otherwise(&job, photo, Combine::Unite).unwrap().apply(&mut job, &*WORLD).unwrap();
        assert_eq!(dot(&pixels(&job), 600, 300)[3], 255);
        let (apart, parts) = take_apart(&job, photo, &mut Counter(300)).unwrap();
        apart.apply(&mut job, &*WORLD).unwrap();
        assert_eq!((parts.len(), job.items().count(), &parts[0]), (2, 2, photo));
    }
    let two = Addition::Picture(Some((picture, (info.width, info.height))));
    let (job, ids) = sheet_with(vec![two.clone(), two]);
    assert!(combine(&job, &ids, Combine::Subtract, &WORLD.studio, &mut Counter(100)).is_err(), "one would vanish");
}

#[test]
fn a_frame_that_shows_a_picture_stays_when_its_outline_is_taken() {
    let job = WORLD.job(&["three-windows"], &[("square-post", 1)], &crate::common::words());
    let pictures: Vec<&vatman_document::Item> =
        job.items().filter(|item| matches!(job.plain(item).unwrap().content, Content::Picture { .. })).collect();
    let (frame, other) = (pictures[0], pictures[1]);
    let command = frame_from(&job, &frame.id, &other.id, &WORLD.studio.typesetter).unwrap();
    let mut now = job.clone();
    command.apply(&mut now, &*WORLD).unwrap();
    assert_eq!(now.item(&frame.id).unwrap().place.at.rect, other.place.at.rect);
    let kept = now.item(&other.id).expect("it shows a picture of its own");
    assert_eq!(now.plain(kept).unwrap().content, job.plain(other).unwrap().content);
}
