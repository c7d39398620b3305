//! Ornaments that ship, and words in the frames among them.

use crate::common::{Counter, GRAPHICS, WORLD, sheet_with};
use vatman_craft::{Addition, GraphicCard, Inks, Opening, frame_around, frame_with_words, import_svg};
use vatman_document::{Command, Drawing, Job, Part, Target};
use vatman_output::painted_box;
use vatman_scene::Audience;
use vatman_units::Length;

fn ornaments() -> Vec<GraphicCard> {
    GRAPHICS.search("", Some("ornament"), 0, 1_000)
}

fn read(id: &str) -> Drawing {
    let (svg, name) = GRAPHICS.svg(id).unwrap();
    let read = import_svg(svg.as_bytes(), &name, &WORLD.studio.typesetter.library()).unwrap();
    assert!(read.notes.is_empty() && read.pictures.is_empty(), "{id}: {:?}", read.notes);
    read.drawing
}

fn framing() -> Vec<(String, Drawing, Opening)> {
    let all = ornaments().into_iter();
    all.filter_map(|card| Some((card.id.clone(), read(&card.id), GRAPHICS.opening(&card.id)?))).collect()
}

#[test]
fn there_are_many_and_each_is_drawn_within_its_box_in_one_colour() {
    let all = ornaments();
    assert!(all.len() >= 150, "{}", all.len());
    let mut beyond = Vec::new();
    for card in &all {
        let (svg, _) = GRAPHICS.svg(&card.id).unwrap();
        let tree = resvg::usvg::Tree::from_str(&svg, &resvg::usvg::Options::default()).unwrap();
        let (size, ink) = (tree.size(), tree.root().abs_stroke_bounding_box());
        let inside = ink.left() >= -1.0 && ink.top() >= -1.0;
        if !inside || ink.right() > size.width() + 1.0 || ink.bottom() > size.height() + 1.0 {
            beyond.push((&card.id, ink));
        }
        assert!(ink.width() > size.width() * 0.3, "{}: {ink:?}", card.id);
        let drawing = read(&card.id);
        let tints = drawing.tints();
        assert!(tints.windows(2).all(|pair| pair[0] == pair[1]), "{}: {tints:?}", card.id);
    }
    assert!(beyond.is_empty(), "{beyond:?}");
}

#[test]
fn everyday_words_find_them_before_other_signs() {
    for (typed, word) in [
        ("divider", "divider"),
        ("wreath", "wreath"),
        ("border", "border"),
        ("corner", "corner"),
        ("badge", "badge"),
        ("ribbon", "ribbon"),
        ("sunburst", "sunburst"),
        ("laurel", "laurel"),
    ] {
        let found = GRAPHICS.search(typed, None, 0, 12);
        let own = found.iter().take(8).filter(|card| card.set == "ornament").count();
        assert!(own >= 1 && found[..2].iter().any(|card| card.set == "ornament"), "{typed} ({word}): {found:?}");
    }
}

/// The letters of the only words of a job, and the opening of its only graphic, in CSS pixels.
fn stands(job: &Job, opening: Opening) -> (kurbo::Rect, kurbo::Rect) {
    let piece = &job.pieces[0];
    let side = &piece.sides[0];
    let scene = WORLD.studio.scene(job, piece, side, Audience::Output, None);
    let words = side.items.iter().find(|item| job.plain(item).unwrap().content.words().is_some()).unwrap();
    let graphic = side.items.iter().find(|item| item.id != words.id).unwrap();
    let drawn = scene.items.iter().find(|drawn| drawn.id == words.id).unwrap();
    let frame = graphic.place.at.rect.to_css_px();
    let [x, y, w, h] = opening.at;
    let open = kurbo::Rect::new(
        frame.x0 + frame.width() * x,
        frame.y0 + frame.height() * y,
        frame.x0 + frame.width() * (x + w),
        frame.y0 + frame.height() * (y + h),
    );
    assert_eq!(words.groups, graphic.groups);
    assert!(words.groups.len() == 1);
    (painted_box(&drawn.node, WORLD.studio.typesetter.library().as_ref()).unwrap(), open)
}

#[test]
fn words_stand_in_the_opening_of_every_frame() {
    let all = framing();
    assert!(all.len() >= 60, "{}", all.len());
    for (id, drawing, opening) in all {
        // Around words that are there already, short or long.
        for text in ["Open", "Hands in clay by ten, every Saturday in the yard"] {
            let (mut job, made) = sheet_with(vec![Addition::Words(Part::Headline)]);
            let kin = job.item(&made[0]).unwrap().kin.clone();
            Command::SetWords { target: Target::Shared(kin), text: text.into() }.apply(&mut job, &*WORLD).unwrap();
            let piece = job.pieces[0].clone();
            let (side, words) = (&piece.sides[0], &piece.sides[0].items[0]);
            let (command, graphic) = frame_around(
                &WORLD.studio,
                &job,
                (&piece, side, words),
                (drawing.clone(), opening),
                &Inks::PLAIN,
                &mut Counter(700),
            );
            command.apply(&mut job, &*WORLD).unwrap();
            assert_eq!(job.pieces[0].sides[0].items[0].id, graphic, "right below the words");
            let (letters, open) = stands(&job, opening);
            let room = open.inflate(1.5, 1.5);
            assert!(holds(room, letters), "{id} around {text}: {letters:?} in {open:?}");
            let frame = job.item(&graphic).unwrap().place.at.rect;
            let px = |length: Length| length.to_css_px();
            assert!(px(frame.x) > 0.0 && px(frame.right()) < 800.0 && px(frame.bottom()) < 800.0, "{id}: {frame:?}");
            reads(&job, &id, opening);
        }
        // With words of its own.
        let (mut job, _) = sheet_with(Vec::new());
        let piece = job.pieces[0].clone();
        let (command, words) = frame_with_words(
            &job,
            (&piece, &piece.sides[0]),
            (drawing, opening),
            None,
            &Inks::PLAIN,
            &mut Counter(700),
        );
        command.apply(&mut job, &*WORLD).unwrap();
        let kin = job.item(&words).unwrap().kin.clone();
        Command::SetWords { target: Target::Shared(kin), text: "Made slow. Used daily.".into() }
            .apply(&mut job, &*WORLD)
            .unwrap();
        let (letters, open) = stands(&job, opening);
        assert!(holds(open.inflate(2.0, 2.0), letters), "{id}: {letters:?} in {open:?}");
        reads(&job, &id, opening);
    }
}

/// Words have another colour than what is painted in the opening.
fn reads(job: &Job, id: &str, opening: Opening) {
    let items = &job.pieces[0].sides[0].items;
    let tint = |words: bool| {
        let item = items.iter().find(|item| job.plain(item).unwrap().content.words().is_some() == words).unwrap();
        let plain = job.plain(item).unwrap();
        match plain.content {
            vatman_document::Content::Drawing { drawing } => drawing.tints()[0].clone(),
            _ => plain.look.fill.as_ref().unwrap().tints().next().unwrap().clone(),
        }
    };
    let (ink, ground) = (job.color(&tint(true)), job.color(&tint(false)));
    assert_eq!(ink.contrast(ground) >= 4.5, opening.painted, "{id}");
}

fn holds(room: kurbo::Rect, other: kurbo::Rect) -> bool {
    room.union(other).area() <= room.area() + 1e-6
}
