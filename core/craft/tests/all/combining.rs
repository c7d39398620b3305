//! Shapes and letters combined and taken apart, on a composed job.

use crate::common::{Counter, WORLD};
use kurbo::Shape as _;
use vatman_craft::{Addition, add, combine, frame_from, take_apart};
use vatman_document::{
    Combine, Content, Format, ItemId, Job, JobId, Outline, Piece, PieceId, RichText, Side, SideId, Target,
};

fn job(what: Vec<Addition>) -> (Job, Vec<ItemId>) {
    let mut job = Job::new(JobId::new("j").unwrap(), "Hang tag");
    let side = Side {
        id: SideId::new("s").unwrap(),
        name: "Front".into(),
        ground: None,
        items: Vec::new(),
        stacks: Vec::new(),
    };
    job.pieces.push(Piece::new(PieceId::new("p").unwrap(), "Square post", Format::screen(800, 800), vec![side]).into());
    let mut made = Vec::new();
    let mut ids = Counter(0);
    for one in what {
        let (command, id) =
            add(&job, &job.pieces[0], &job.pieces[0].sides[0], one, &vatman_craft::Inks::PLAIN, &mut ids);
        command.apply(&mut job, &*WORLD).unwrap();
        made.push(id);
    }
    (job, made)
}

#[test]
fn shapes_are_combined_changed_and_come_apart_where_they_were() {
    let (mut job, ids) = job(vec![Addition::Shape(Outline::RECT), Addition::Shape(Outline::Ellipse)]);
    let before: Vec<_> = job.items().map(|item| item.place.at.rect).collect();
    let mut source = Counter(100);
    let original = job.clone();
    let (command, made) = combine(&job, &ids, Combine::Subtract, &WORLD.studio.typesetter, &mut source).unwrap();
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
    let (command, _) = combine(&again, &ids, Combine::Subtract, &WORLD.studio.typesetter, &mut Counter(100)).unwrap();
    command.apply(&mut again, &*WORLD).unwrap();
    undo.apply(&mut again, &*WORLD).unwrap();
    assert_eq!(again, original);
}

#[test]
fn letters_are_cut_out_of_a_shape() {
    let (mut job, ids) = job(vec![Addition::Shape(Outline::RECT), Addition::Words(vatman_document::Part::Detail)]);
    let words = job.item(&ids[1]).unwrap().clone();
    let content = Content::Words { text: RichText::plain("KILN"), prompt: String::new() };
    vatman_document::Command::SetContent { target: Target::Shared(words.kin.clone()), content }
        .apply(&mut job, &*WORLD)
        .unwrap();
    // Into the middle of the shape.
    let rect = job.item(&ids[0]).unwrap().place.at.rect;
    let mut place = words.place;
    place.at.rect.x = rect.x;
    place.at.rect.y = rect.y + rect.h.half();
    vatman_document::Command::SetPlace { item: ids[1].clone(), place }.apply(&mut job, &*WORLD).unwrap();
    let full = rect.to_css_px().area();
    let (command, made) = combine(&job, &ids, Combine::Subtract, &WORLD.studio.typesetter, &mut Counter(100)).unwrap();
    command.apply(&mut job, &*WORLD).unwrap();
    let item = job.item(&made).unwrap();
    let Content::Shape { outline } = &job.plain(item).unwrap().content else { panic!() };
    let whole = item.place.at.rect.to_css_px();
    let left = outline.path(whole.width(), whole.height(), 1.0).area().abs();
    assert!(left < full - 200.0 && left > full * 0.5, "{left} of {full}");
    assert!(
        combine(&job, std::slice::from_ref(&made), Combine::Unite, &WORLD.studio.typesetter, &mut Counter(200))
            .is_err()
    );
}

#[test]
fn letters_become_the_frame_of_a_picture() {
    let picture = WORLD.samples.values().next().unwrap().clone();
    let (mut job, ids) = job(vec![
        Addition::Picture(Some((picture.clone(), (400, 300)))),
        Addition::Words(vatman_document::Part::Headline),
        Addition::Shape(Outline::Line),
    ]);
    let words = job.item(&ids[1]).unwrap().clone();
    let content = Content::Words { text: RichText::plain("KILN"), prompt: String::new() };
    vatman_document::Command::SetContent { target: Target::Shared(words.kin), content }
        .apply(&mut job, &*WORLD)
        .unwrap();
    let wide = job.item(&ids[0]).unwrap().place.at.rect.w;
    let before = job.clone();
    let undo = frame_from(&job, &ids[0], &ids[1], &WORLD.studio.typesetter).unwrap().apply(&mut job, &*WORLD).unwrap();
    let item = job.item(&ids[0]).unwrap();
    let Content::Picture { picture: Some(kept), frame, .. } = &job.plain(item).unwrap().content else { panic!() };
    assert_eq!((kept, item.place.at.rect.w), (&picture, wide));
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
    let (mut job, ids) =
        job(vec![Addition::Shape(Outline::Line), Addition::Shape(Outline::RECT), Addition::Shape(Outline::Ellipse)]);
    let look = |job: &Job, id: &ItemId| job.plain(job.item(id).unwrap()).unwrap().look.clone();
    assert!(look(&job, &ids[0]).fill.is_none() && look(&job, &ids[0]).stroke.is_some());
    let ink = vatman_document::Paint::flat(vatman_document::Color::BLACK);
    let (command, line) = vatman_craft::connect(&job, &ids[1], &ids[2], false, &ink, &mut Counter(50)).unwrap();
    command.apply(&mut job, &*WORLD).unwrap();
    assert!(look(&job, &line).stroke.is_some());
    let path = Outline::Line.path(200.0, 10.0, 1.0);
    assert_eq!((path.bounding_box().width(), path.bounding_box().height()), (200.0, 0.0));
}
