//! What is tied stays tied: stacks, distances, mirrors, call-outs and lines, after any change.

use crate::common::{Counter, WORLD};
use proptest::prelude::*;
use vatman_craft::{
    Addition, ContactKind, ContactLine, NewLines, add, add_contacts, call_out, connect, group, settle, stack,
};
use vatman_document::{
    Anchor, BoxEdge, Command, Content, Crop, Direction, Focus, Format, Item, ItemId, Job, JobId, Outline, Paint, Part,
    Piece, PieceId, Place, RichText, Side, SideId, Target, TextFit, Tie,
};
use vatman_scene::Audience;
use vatman_units::{Angle, Length, Placement, Point, Ratio, Rect};

const HAIR: f64 = 0.1;

fn px(value: f64) -> Length {
    Length::css_px(value)
}

/// A blank sheet of 800 by 600 pixels.
struct Sheet {
    job: Job,
    ids: Counter,
}

impl Sheet {
    fn new() -> Self {
        let mut job = Job::new(JobId::new("j").unwrap(), "Studio card");
        let side = Side::blank(SideId::new("s").unwrap(), "Front", None);
        job.pieces.push(Piece::new(PieceId::new("p").unwrap(), "Card", Format::screen(800, 600), vec![side]).into());
        Self { job, ids: Counter(0) }
    }

    /// Carries a change out as the server does: the change, then what has to follow.
    fn does(&mut self, command: &Command) {
        let old = self.job.clone();
        let inverse = command.apply(&mut self.job, &*WORLD).unwrap();
        let settled = Command::All { commands: settle(&old, &self.job, &WORLD.studio) };
        let back = settled.apply(&mut self.job, &*WORLD).unwrap();
        // Whatever followed, all of it is taken back as one.
        let mut undone = self.job.clone();
        back.then(inverse).apply(&mut undone, &*WORLD).unwrap();
        assert_eq!(undone, old);
        // And what is settled stays settled.
        assert!(settle(&self.job, &self.job, &WORLD.studio).is_empty());
    }

    fn put(&mut self, what: Addition, rect: [f64; 4]) -> ItemId {
        let (command, id) = add(
            &self.job,
            &self.job.pieces[0],
            &self.job.pieces[0].sides[0],
            what,
            &vatman_craft::Inks::PLAIN,
            &mut self.ids,
        );
        self.does(&command);
        self.place(&id, rect, 0.0);
        id
    }

    fn words(&mut self, text: &str, rect: [f64; 4], fit: TextFit) -> ItemId {
        let id = self.put(Addition::Words(Part::Detail), rect);
        let kin = self.job.item(&id).unwrap().kin.clone();
        let mut look = self.job.kins[&kin].look.clone();
        look.type_look.as_mut().unwrap().fit = fit;
        self.does(&Command::SetLook { target: Target::Shared(kin.clone()), look });
        self.does(&Command::SetWords { target: Target::Shared(kin), text: text.into() });
        id
    }

    fn place(&mut self, id: &ItemId, [x, y, w, h]: [f64; 4], turn: f64) {
        let place = self.job.item(id).unwrap().place;
        let at = Placement { rect: Rect::new(px(x), px(y), px(w), px(h)), turn: Angle::degrees(turn), flip: false };
        self.does(&Command::SetPlace { item: id.clone(), place: Place { at, ..place } });
    }

    fn say(&mut self, id: &ItemId, text: &str) {
        let kin = self.job.item(id).unwrap().kin.clone();
        self.does(&Command::SetWords { target: Target::Shared(kin), text: text.into() });
    }

    fn tie(&mut self, id: &ItemId, ties: Vec<Tie>) {
        self.does(&Command::SetTies { item: id.clone(), ties });
    }

    fn item(&self, id: &ItemId) -> &Item {
        self.job.item(id).unwrap()
    }

    /// The upright box of an item as drawn, in CSS pixels.
    fn rect(&self, id: &ItemId) -> kurbo::Rect {
        let piece = &self.job.pieces[0];
        let scene = WORLD.studio.scene(&self.job, piece, &piece.sides[0], Audience::Stage, None);
        scene.items.iter().find(|item| item.id == *id).unwrap().frame.upright().to_css_px()
    }

    fn boxes(&self) -> vatman_craft::Boxes {
        let piece = &self.job.pieces[0];
        let scene = WORLD.studio.scene(&self.job, piece, &piece.sides[0], Audience::Stage, None);
        scene.items.iter().map(|item| (item.id.clone(), item.frame.upright())).collect()
    }
}

fn near(a: f64, b: f64) -> bool {
    (a - b).abs() < HAIR
}

#[test]
fn a_stack_closes_up_reorders_and_makes_room() {
    let mut sheet = Sheet::new();
    let rows: Vec<ItemId> = (0..3)
        .map(|i| sheet.words("One line", [100.0, 100.0 + 60.0 * f64::from(i), 300.0, 30.0], TextFit::Grow))
        .collect();
    let boxes = sheet.boxes();
    let command = stack(&sheet.job, &boxes, &rows, Direction::Down, &mut sheet.ids).unwrap();
    sheet.does(&command);
    let gap = sheet.rect(&rows[1]).y0 - sheet.rect(&rows[0]).y1;
    let even = |sheet: &Sheet, order: &[&ItemId]| {
        order.windows(2).all(|pair| near(sheet.rect(pair[1]).y0 - sheet.rect(pair[0]).y1, gap))
    };
    assert!(even(&sheet, &[&rows[0], &rows[1], &rows[2]]));
    // Words that need more lines push the rest down.
    sheet.say(&rows[1], "Now this row needs several lines because it says so much more than the others do, on and on");
    assert!(sheet.rect(&rows[1]).height() > sheet.rect(&rows[0]).height() * 1.8);
    assert!(even(&sheet, &[&rows[0], &rows[1], &rows[2]]) && near(sheet.rect(&rows[0]).y0, 100.0));
    // A row dragged above the first becomes the first, where the stack began.
    sheet.place(&rows[2], [130.0, 40.0, 300.0, 30.0], 0.0);
    assert!(
        even(&sheet, &[&rows[2], &rows[0], &rows[1]])
            && near(sheet.rect(&rows[2]).y0, 100.0)
            && near(sheet.rect(&rows[2]).x0, 100.0)
    );
    // What is taken away leaves no hole.
    sheet.does(&Command::RemoveItem { item: rows[2].clone() });
    assert!(even(&sheet, &[&rows[0], &rows[1]]) && near(sheet.rect(&rows[0]).y0, 100.0));
    // Moved as a whole it stays where it was put.
    let moved: Vec<Command> = rows[..2]
        .iter()
        .map(|id| (id, sheet.item(id).place))
        .map(|(id, place)| Command::SetPlace {
            item: id.clone(),
            place: Place { at: Placement { rect: place.at.rect.moved(px(50.0), px(70.0)), ..place.at }, ..place },
        })
        .collect();
    sheet.does(&Command::All { commands: moved });
    assert!(
        near(sheet.rect(&rows[0]).y0, 170.0)
            && near(sheet.rect(&rows[0]).x0, 150.0)
            && even(&sheet, &[&rows[0], &rows[1]])
    );
}

#[test]
fn rows_of_a_stack_stay_in_line_as_they_were() {
    for middle in [true, false] {
        let mut sheet = Sheet::new();
        let rows: Vec<ItemId> = [300.0, 200.0, 240.0]
            .iter()
            .enumerate()
            .map(|(i, wide)| {
                let left = if middle { 250.0 - wide / 2.0 } else { 400.0 - wide };
                sheet.words("One line", [left, 100.0 + 60.0 * i as f64, *wide, 30.0], TextFit::Grow)
            })
            .collect();
        let boxes = sheet.boxes();
        let command = stack(&sheet.job, &boxes, &rows, Direction::Down, &mut sheet.ids).unwrap();
        sheet.does(&command);
        // A row put elsewhere comes back into the line.
        sheet.place(&rows[2], [520.0, 130.0, 240.0, 30.0], 0.0);
        for id in &rows {
            let rect = sheet.rect(id);
            let (at, wanted) = if middle { (rect.center().x, 250.0) } else { (rect.x1, 400.0) };
            assert!(near(at, wanted), "{at} for {wanted}");
        }
    }
}

#[test]
fn contact_lines_come_as_rows_of_sign_and_words() {
    let mut sheet = Sheet::new();
    let sign = |sheet: &Sheet| {
        let _ = sheet;
        let svg = br##"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24"><path d="M2 6h20v12H2z"/></svg>"##;
        vatman_craft::import_svg(svg, "mail", &WORLD.studio.typesetter.library()).unwrap().drawing
    };
    let line = |text: &str, sheet: &Sheet| ContactLine { text: text.into(), sign: Some(sign(sheet)) };
    let side = sheet.job.pieces[0].sides[0].id.clone();
    let at = Rect::new(px(60.0), px(80.0), px(400.0), px(40.0));
    let ink = Paint::flat(vatman_document::Color::BLACK);
    let lines = vec![line("hello@mossbackkiln.example", &sheet), line("+44 1632 960 018", &sheet)];
    let (command, made) =
        add_contacts(&sheet.job, &side, None, NewLines { lines, at, ink: ink.clone() }, &mut sheet.ids).unwrap();
    sheet.does(&command);
    assert_eq!(made.len(), 4);
    let rows = |sheet: &Sheet, made: &[ItemId]| {
        for pair in made.chunks(2) {
            let (sign, words) = (sheet.rect(&pair[0]), sheet.rect(&pair[1]));
            assert!(sign.x1 < words.x0 && near(sign.center().y, words.center().y), "{sign:?} beside {words:?}");
        }
    };
    rows(&sheet, &made);
    assert!(near(sheet.rect(&made[0]).x0, sheet.rect(&made[2]).x0));
    let stack = sheet.job.pieces[0].sides[0].stacks.last().unwrap().clone();
    let more = vec![line("www.mossbackkiln.example", &sheet)];
    let (command, new) =
        add_contacts(&sheet.job, &side, Some(&stack.group), NewLines { lines: more, at, ink }, &mut sheet.ids).unwrap();
    sheet.does(&command);
    rows(&sheet, &new);
    let gap = |a: &ItemId, b: &ItemId| sheet.rect(b).y0 - sheet.rect(a).y1;
    assert!(
        near(gap(&made[0], &made[2]), gap(&made[2], &new[0])),
        "{} and {}",
        gap(&made[0], &made[2]),
        gap(&made[2], &new[0])
    );
    assert_eq!(ContactKind::of("www.mossbackkiln.example"), ContactKind::Web);
}

#[test]
fn distances_and_middles_hold_when_words_change() {
    let mut sheet = Sheet::new();
    let head = sheet.words("Clay", [100.0, 50.0, 400.0, 40.0], TextFit::AsTyped);
    let rule = sheet.put(Addition::Shape(Outline::RECT), [10.0, 10.0, 30.0, 4.0]);
    let of = Anchor::Item(head.clone());
    sheet.tie(
        &rule,
        vec![
            Tie::AsLong { direction: Direction::Across, of: head.clone(), extra: px(20.0) },
            Tie::Gap { edge: BoxEdge::Top, of: of.clone(), gap: px(8.0) },
        ],
    );
    sheet.tie(&head, vec![Tie::Centre { direction: Direction::Across, of: Anchor::Sheet }]);
    for text in ["Clay", "Hands in clay by ten", "Hands\nin clay"] {
        sheet.say(&head, text);
        let (head, rule) = (sheet.rect(&head), sheet.rect(&rule));
        assert!(near(head.center().x, 400.0), "{text:?}: {head:?}");
        assert!(
            near(rule.y0, head.y1 + 8.0)
                && near(rule.width(), head.width() + 20.0)
                && near(rule.center().x, head.center().x),
            "{text:?}: {rule:?} under {head:?}"
        );
    }
    // Moved by hand, a distance is a new distance.
    let rect = sheet.rect(&rule);
    sheet.place(&rule, [rect.x0, rect.y0 + 12.0, rect.width(), 4.0], 0.0);
    sheet.say(&head, "Again\nand again\nand again");
    assert!(near(sheet.rect(&rule).y0, sheet.rect(&head).y1 + 20.0));
    // Tied to both edges it is as wide as the room between.
    sheet.tie(
        &rule,
        vec![
            Tie::Gap { edge: BoxEdge::Left, of: Anchor::Sheet, gap: px(30.0) },
            Tie::Gap { edge: BoxEdge::Right, of: Anchor::Sheet, gap: px(50.0) },
        ],
    );
    assert!(near(sheet.rect(&rule).x0, 30.0) && near(sheet.rect(&rule).x1, 750.0));
}

#[test]
fn the_opposite_corner_follows() {
    let mut sheet = Sheet::new();
    let flower = sheet.put(Addition::Shape(Outline::Arch), [20.0, 30.0, 80.0, 120.0]);
    for (across, down, mirrored, turn) in
        [(true, true, false, 10.0), (true, false, true, -10.0), (false, true, true, 170.0), (true, true, true, -170.0)]
    {
        let other = sheet.put(Addition::Shape(Outline::Arch), [300.0, 300.0, 10.0, 10.0]);
        sheet.place(&flower, [20.0, 30.0, 80.0, 120.0], 10.0);
        sheet.tie(&other, vec![Tie::Opposite { of: flower.clone(), across, down, mirrored }]);
        let (a, b) = (sheet.rect(&flower), sheet.rect(&other));
        let wanted = (
            if across { 800.0 - a.center().x } else { a.center().x },
            if down { 600.0 - a.center().y } else { a.center().y },
        );
        assert!(near(b.center().x, wanted.0) && near(b.center().y, wanted.1) && near(b.width(), a.width()));
        assert!((sheet.item(&other).place.at.turn.to_degrees() - turn).abs() < 0.01);
        assert_eq!(sheet.item(&other).place.at.flip, mirrored && !(across && down));
        sheet.place(&flower, [60.0, 10.0, 100.0, 90.0], 0.0);
        assert!(near(sheet.rect(&other).width(), 100.0));
        sheet.does(&Command::RemoveItem { item: other });
    }
}

#[test]
fn a_call_out_stays_on_its_spot_however_the_picture_is_framed() {
    let mut sheet = Sheet::new();
    let id = WORLD.samples.values().next().unwrap().clone();
    let info = WORLD.studio.pictures.info(&id).unwrap();
    let frame = sheet.put(Addition::Picture(Some((id, (info.width, info.height)))), [100.0, 100.0, 400.0, 300.0]);
    let spot = Point { x: px(250.0), y: px(300.0) };
    let at = WORLD.studio.spot_at(&sheet.job, sheet.item(&frame), spot).unwrap();
    let (command, made) = call_out(&sheet.job, &frame, at, spot, &vatman_craft::Inks::PLAIN, &mut sheet.ids).unwrap();
    sheet.does(&command);
    let [label, dot, leader] = [&made[0], &made[1], &made[2]];
    assert!(near(sheet.rect(dot).center().x, 250.0) && near(sheet.rect(dot).center().y, 300.0));
    let same_spot = |sheet: &Sheet| {
        let c = sheet.rect(dot).center();
        let now = WORLD.studio.spot_at(&sheet.job, sheet.item(&frame), Point { x: px(c.x), y: px(c.y) }).unwrap();
        (now.x.get() - at.x.get()).abs() < 1e-3 && (now.y.get() - at.y.get()).abs() < 1e-3
    };
    // Moved, reframed and turned, the dot stays on the same spot of the picture.
    sheet.place(&frame, [150.0, 60.0, 400.0, 300.0], 0.0);
    assert!(near(sheet.rect(dot).center().x, 300.0) && near(sheet.rect(dot).center().y, 260.0));
    let place = sheet.item(&frame).place;
    let crop = Crop { zoom: Ratio::new(1.6), turn: Angle::degrees(12.0), flip: true, ..Crop::about(Focus::CENTRE) };
    sheet.does(&Command::SetPlace { item: frame.clone(), place: Place { crop: Some(crop), ..place } });
    assert!(same_spot(&sheet));
    sheet.place(&frame, [150.0, 60.0, 300.0, 300.0], 30.0);
    assert!(same_spot(&sheet));
    // The line reaches from the dot to the label, wherever that goes.
    let reaches = |sheet: &Sheet| {
        let place = sheet.item(leader).place.at;
        let rect = place.rect.to_css_px();
        let along = kurbo::Vec2::from_angle(place.turn.to_radians()) * rect.width() / 2.0;
        let (start, end) = (rect.center() - along, rect.center() + along);
        let inside = |rect: kurbo::Rect, p: kurbo::Point| rect.inflate(0.3, 0.3).contains(p);
        inside(sheet.rect(dot), start) && inside(sheet.rect(label), end)
    };
    assert!(reaches(&sheet));
    sheet.place(label, [600.0, 500.0, 100.0, 20.0], 0.0);
    assert!(reaches(&sheet));
    sheet.say(label, "The lip, thrown thin");
    assert!(reaches(&sheet));
    // Without the picture the call-out rests where it is.
    let was = sheet.rect(dot);
    sheet.does(&Command::RemoveItem { item: frame });
    assert_eq!(sheet.rect(dot), was);
}

#[test]
fn copies_of_tied_items_are_tied_to_each_other() {
    let mut sheet = Sheet::new();
    let a = sheet.put(Addition::Shape(Outline::RECT), [50.0, 50.0, 60.0, 60.0]);
    let b = sheet.put(Addition::Shape(Outline::RECT), [300.0, 50.0, 60.0, 60.0]);
    let (command, line) =
        connect(&sheet.job, &a, &b, true, &Paint::flat(vatman_document::Color::BLACK), &mut sheet.ids).unwrap();
    sheet.does(&command);
    assert!(near(sheet.rect(&line).x0, 110.0) && near(sheet.rect(&line).x1, 300.0));
    let command = group(&sheet.job, &[a.clone(), b.clone(), line.clone()], &mut sheet.ids).unwrap();
    sheet.does(&command);
    let (command, made) = vatman_craft::duplicate(
        &sheet.job,
        &[a, b, line],
        &vatman_craft::Step::By(px(0.0), px(200.0)),
        1,
        &mut sheet.ids,
    )
    .unwrap();
    sheet.does(&command);
    let [a2, b2, line2] = [&made[0], &made[1], &made[2]];
    assert_eq!(sheet.item(line2).ties, [Tie::Between { from: a2.clone(), to: b2.clone() }]);
    sheet.place(b2, [500.0, 250.0, 60.0, 60.0], 0.0);
    assert!(near(sheet.rect(line2).x1, 500.0));
}

#[test]
fn ties_in_a_circle_come_to_rest_or_are_left() {
    let mut sheet = Sheet::new();
    let a = sheet.put(Addition::Shape(Outline::RECT), [50.0, 50.0, 60.0, 60.0]);
    let b = sheet.put(Addition::Shape(Outline::RECT), [300.0, 50.0, 60.0, 60.0]);
    let gap = |of: &ItemId| vec![Tie::Gap { edge: BoxEdge::Left, of: Anchor::Item(of.clone()), gap: px(10.0) }];
    Command::SetTies { item: a.clone(), ties: gap(&b) }.apply(&mut sheet.job, &*WORLD).unwrap();
    let old = sheet.job.clone();
    Command::SetTies { item: b.clone(), ties: gap(&a) }.apply(&mut sheet.job, &*WORLD).unwrap();
    for command in settle(&old, &sheet.job, &WORLD.studio) {
        command.apply(&mut sheet.job, &*WORLD).unwrap();
    }
    assert!(sheet.job.items().all(|item| item.place.fault().is_none()));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]
    #[test]
    fn a_chain_of_distances_holds_wherever_its_beginning_goes(x in 0.0f64..700.0, y in 0.0f64..500.0, gaps in prop::collection::vec(-20.0f64..60.0, 1..5), turn in -40.0f64..40.0) {
        let mut sheet = Sheet::new();
        let mut chain = vec![sheet.put(Addition::Shape(Outline::RECT), [50.0, 50.0, 60.0, 60.0])];
        for gap in &gaps {
            let next = sheet.put(Addition::Shape(Outline::Ellipse), [400.0, 300.0, 20.0, 30.0]);
            let of = Anchor::Item(chain.last().unwrap().clone());
            sheet.tie(&next, vec![Tie::Gap { edge: BoxEdge::Left, of: of.clone(), gap: px(*gap) }, Tie::Centre { direction: Direction::Down, of }]);
            chain.push(next);
        }
        sheet.place(&chain[0], [x, y, 90.0, 40.0], turn);
        for (pair, gap) in chain.windows(2).zip(&gaps) {
            let (a, b) = (sheet.rect(&pair[0]), sheet.rect(&pair[1]));
            prop_assert!(near(b.x0 - a.x1, *gap) && near(a.center().y, b.center().y), "{a:?} and {b:?}");
        }
    }
}

#[test]
fn words_without_ties_are_left_alone() {
    let mut sheet = Sheet::new();
    let id = sheet.words("Clay", [100.0, 50.0, 400.0, 40.0], TextFit::Grow);
    let old = sheet.job.clone();
    Command::SetWords { target: Target::Only(id.clone()), text: "More".into() }.apply(&mut sheet.job, &*WORLD).unwrap();
    assert!(settle(&old, &sheet.job, &WORLD.studio).is_empty());
    assert_eq!(
        sheet.job.plain(sheet.item(&id)).unwrap().content,
        &Content::Words { text: RichText::plain("More"), prompt: "Your words".into() }
    );
}

#[test]
fn a_new_tie_begins_as_things_are_and_takes_the_place_of_its_rivals() {
    let mut sheet = Sheet::new();
    let a = sheet.put(Addition::Shape(Outline::RECT), [50.0, 50.0, 60.0, 60.0]);
    let b = sheet.put(Addition::Shape(Outline::RECT), [300.0, 90.0, 60.0, 60.0]);
    let tied = |sheet: &mut Sheet, wanted: Tie| {
        let command = vatman_craft::tie(&sheet.job, &sheet.job.pieces[0], &sheet.boxes(), &b, &wanted).unwrap();
        let before = sheet.rect(&b);
        sheet.does(&command);
        (before, sheet.rect(&b), sheet.item(&b).ties.clone())
    };
    let gap = |edge, of: Anchor| Tie::Gap { edge, of, gap: Length::ZERO };
    let (before, after, ties) = tied(&mut sheet, gap(BoxEdge::Left, Anchor::Item(a.clone())));
    assert_eq!(
        (before, &ties),
        (after, &vec![Tie::Gap { edge: BoxEdge::Left, of: Anchor::Item(a.clone()), gap: px(190.0) }]),
        "nothing moves when a distance is kept"
    );
    let (before, after, ties) = tied(&mut sheet, gap(BoxEdge::Bottom, Anchor::Sheet));
    assert!(
        before == after
            && ties.len() == 2
            && ties[1] == Tie::Gap { edge: BoxEdge::Bottom, of: Anchor::Sheet, gap: px(450.0) },
        "{ties:?}"
    );
    let (_, after, ties) = tied(&mut sheet, Tie::Centre { direction: Direction::Across, of: Anchor::Sheet });
    assert!(
        near(after.center().x, 400.0) && ties.len() == 2,
        "the middle takes the place of the distance across, and leaves the one down: {ties:?}"
    );
    let (_, _, ties) = tied(&mut sheet, Tie::AsLong { direction: Direction::Across, of: a.clone(), extra: px(10.0) });
    assert_eq!(ties.len(), 3, "a length is held beside a place");
    let (_, _, ties) = tied(&mut sheet, Tie::Opposite { of: a.clone(), across: true, down: true, mirrored: false });
    assert_eq!(ties.len(), 2, "what holds the place altogether leaves only the length: {ties:?}");
    let lost = ItemId::new("lost").unwrap();
    assert!(
        vatman_craft::tie(
            &sheet.job,
            &sheet.job.pieces[0],
            &sheet.boxes(),
            &b,
            &gap(BoxEdge::Left, Anchor::Item(lost))
        )
        .is_err()
    );
}

/// Any tie between two of five items.
fn any_tie() -> impl Strategy<Value = (usize, Tie)> {
    let direction = prop_oneof![Just(Direction::Across), Just(Direction::Down)];
    let edge = prop_oneof![Just(BoxEdge::Left), Just(BoxEdge::Top), Just(BoxEdge::Right), Just(BoxEdge::Bottom)];
    let id = |i: usize| ItemId::new(format!("t{i}")).unwrap();
    let anchor = (0usize..6).prop_map(move |i| if i < 5 { Anchor::Item(id(i)) } else { Anchor::Sheet });
    let share = 0.0f64..1.0;
    let tie = prop_oneof![
        (direction.clone(), anchor.clone()).prop_map(|(direction, of)| Tie::Centre { direction, of }),
        (edge, anchor, -80.0f64..80.0).prop_map(|(edge, of, gap)| Tie::Gap { edge, of, gap: px(gap) }),
        (0usize..5, any::<bool>(), any::<bool>()).prop_map(move |(i, across, mirrored)| Tie::Opposite {
            of: id(i),
            across,
            down: !across,
            mirrored
        }),
        (direction, 0usize..5, -40.0f64..40.0).prop_map(move |(direction, i, extra)| Tie::AsLong {
            direction,
            of: id(i),
            extra: px(extra)
        }),
        (0usize..5, share.clone(), share)
            .prop_map(move |(i, x, y)| Tie::Spot { of: id(i), at: Focus { x: Ratio::new(x), y: Ratio::new(y) } }),
        (0usize..5, 0usize..5).prop_map(move |(i, j)| Tie::Between { from: id(i), to: id(j) }),
    ];
    (0usize..5, tie)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]
    /// Whatever is tied to whatever, nothing ends up where it could not be kept, and all of it is taken back as one.
    #[test]
    fn no_ties_lead_out_of_what_can_be_kept(ties in prop::collection::vec(any_tie(), 1..9), moved in 0usize..5, x in -300.0f64..900.0, y in -300.0f64..900.0) {
        let mut sheet = Sheet::new();
        let picture = WORLD.samples.values().next().unwrap().clone();
        let kinds = [Addition::Shape(Outline::RECT), Addition::Shape(Outline::Line), Addition::Picture(Some((picture, (300, 200)))), Addition::Words(Part::Headline), Addition::Shape(Outline::Ellipse)];
        for (i, what) in kinds.into_iter().enumerate() {
            let (command, made) = add(&sheet.job, &sheet.job.pieces[0], &sheet.job.pieces[0].sides[0], what, &vatman_craft::Inks::PLAIN, &mut sheet.ids);
            let Command::InsertItem { side, index, item, kin } = command else { panic!("something is put on the side, not {made}") };
            let item = Item { id: ItemId::new(format!("t{i}")).unwrap(), ..item };
            Command::InsertItem { side, index, item, kin }.apply(&mut sheet.job, &*WORLD).unwrap();
        }
        for (i, tie) in ties {
            let id = ItemId::new(format!("t{i}")).unwrap();
            let mut all = sheet.item(&id).ties.clone();
            all.push(tie);
            // What makes no sense, such as a tie to itself, is refused and changes nothing.
            let _ = Command::SetTies { item: id, ties: all }.apply(&mut sheet.job, &*WORLD);
        }
        let old = sheet.job.clone();
        let id = ItemId::new(format!("t{moved}")).unwrap();
        let place = sheet.item(&id).place;
        let rect = Rect::new(px(x), px(y), place.at.rect.w, place.at.rect.h);
        let inverse = Command::SetPlace { item: id, place: Place { at: Placement { rect, ..place.at }, ..place } }.apply(&mut sheet.job, &*WORLD).unwrap();
        let back = Command::All { commands: settle(&old, &sheet.job, &WORLD.studio) }.apply(&mut sheet.job, &*WORLD).unwrap();
        prop_assert!(sheet.job.items().all(|item| item.place.fault().is_none()));
        back.then(inverse).apply(&mut sheet.job, &*WORLD).unwrap();
        prop_assert_eq!(sheet.job, old);
    }

    /// The rows of a stack never overlap and keep its gap, whatever they say.
    #[test]
    fn rows_of_any_words_keep_their_gap(texts in prop::collection::vec("[a-z]{1,9}( [a-z]{1,9}){0,12}", 2..6), gap in 0.0f64..40.0) {
        let mut sheet = Sheet::new();
        let rows: Vec<ItemId> = (0..texts.len()).map(|i| sheet.words("One", [60.0, 20.0 + 40.0 * i as f64, 200.0, 20.0], TextFit::Grow)).collect();
        let boxes = sheet.boxes();
        let command = stack(&sheet.job, &boxes, &rows, Direction::Down, &mut sheet.ids).unwrap();
        sheet.does(&command);
        let side = sheet.job.pieces[0].sides[0].clone();
        let stacks = side.stacks.iter().map(|stack| vatman_document::Stack { gap: px(gap), ..stack.clone() }).collect();
        sheet.does(&Command::SetStacks { side: side.id, stacks });
        for (id, text) in rows.iter().zip(&texts) {
            sheet.say(id, text);
        }
        for pair in rows.windows(2) {
            let (a, b) = (sheet.rect(&pair[0]), sheet.rect(&pair[1]));
            prop_assert!(near(b.y0 - a.y1, gap), "{a:?} and {b:?}, {gap} apart");
        }
    }
}
