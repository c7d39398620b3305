//! Sheets, read back by programs that are not ours.

use crate::common::{Counter, WORLD, difference, run, sheet_with, words};
use vatman_craft::{
    Addition, Backs, CodeChange, Copies, HandOverError, Inks, PrintPlan, Printed, Refusal, SheetKind, SheetSetup, add,
    change_code, plan_card, plan_sheets, sheet_picture, sheet_positions, write_guide, write_sheets,
};
use vatman_document::{CodeWords, Color, Command, Folds, Format, Job, Paint, Side, SideId};
use vatman_imposition::{Margins, Marks, PaperTurn};
use vatman_output::PdfError;
use vatman_photo::{Premultiplied, Straight, encode_png};
use vatman_units::{Length, Ratio, Rect, Size};

fn job(place: &str, sides: usize) -> Job {
    WORLD.job(&["doorway", "contact-side"][..sides.min(2)], &[(place, sides)], &words())
}

fn plan_of(job: &Job, count: Option<u32>, setup: &SheetSetup) -> Result<PrintPlan, Refusal> {
    let copies: Vec<Copies> = job.pieces.iter().map(|piece| Copies { piece: piece.id.clone(), count }).collect();
    plan_sheets(&Printed { job, copies: &copies, records: None }, setup)
}

fn on_disk(folder: &tempfile::TempDir, job: &Job, plan: &PrintPlan, setup: &SheetSetup) -> String {
    let bytes = write_sheets::<PdfError>(&WORLD.studio, (job, &[]), plan, setup, |_| Ok(())).unwrap();
    let path = folder.path().join("sheets.pdf").to_string_lossy().into_owned();
    std::fs::write(&path, bytes).unwrap();
    run("qpdf", &["--check", &path]);
    path
}

/// A page as poppler draws it.
fn page(path: &str, number: usize, dpi: u32) -> image::RgbaImage {
    let out = format!("{path}-{number}");
    let (number, dpi) = (number.to_string(), dpi.to_string());
    run("pdftoppm", &["-png", "-singlefile", "-r", &dpi, "-f", &number, "-l", &number, path, &out]);
    image::open(format!("{out}.png")).unwrap().to_rgba8()
}

fn picture(pixels: Premultiplied) -> image::RgbaImage {
    image::load_from_memory(&encode_png(&pixels.straight(), 96).unwrap()).unwrap().to_rgba8()
}

fn face(job: &Job, plan: &PrintPlan, setup: &SheetSetup, at: usize, width: u32) -> image::RgbaImage {
    picture(sheet_picture(&WORLD.studio, (job, &[]), plan, setup, (at, width)).unwrap().unwrap())
}

#[test]
fn five_bookmarks_lie_where_a_ruler_puts_them() {
    let job = job("2.1 x 7.4 in", 1);
    let margins = Margins::sides_and_ends(Length::inches(0.25), Length::inches(0.55));
    let setup = SheetSetup { paper: "letter".into(), margins, marks: Marks::None, ..SheetSetup::default() };
    let plan = plan_of(&job, None, &setup).unwrap();
    let positions = sheet_positions(&job, &plan);
    let placed = positions["sheets"][0]["front"].as_array().unwrap();
    let left: Vec<f64> = placed.iter().map(|side| side["x"]["in"].as_f64().unwrap()).collect();
    assert_eq!(left, [0.25, 2.35, 4.45, 6.55, 8.65]);
    assert!(placed.iter().all(|side| side["y"]["in"] == 0.55 && side["turned"] == 0 && side["width"]["in"] == 2.1));
    assert_eq!(positions["paper"]["width"]["in"], 11.0);
}

/// The same page by us and by poppler, and its boxes by poppler.
#[test]
fn a_sheet_is_the_same_as_pdf_and_as_pixels() {
    let folder = tempfile::tempdir().unwrap();
    let job = job("card-85x55", 2);
    let setup = SheetSetup {
        backs: Some(Backs::default()),
        bleed: true,
        registration: true,
        ..SheetSetup::for_piece(&job.pieces[0])
    };
    let plan = plan_of(&job, None, &setup).unwrap();
    assert_eq!((plan.up, plan.sheets.len(), plan.has_backs()), (9, 1, true));
    let path = on_disk(&folder, &job, &plan, &setup);
    for (number, at) in [(1, 0), (2, 1)] {
        let theirs = page(&path, number, 200);
        let ours = face(&job, &plan, &setup, at, theirs.width());
        let height = theirs.height().min(ours.height());
        let crop = |all: &image::RgbaImage| image::imageops::crop_imm(all, 0, 0, all.width(), height).to_image();
        let off = difference(&crop(&theirs), &crop(&ours));
        assert!(off < 3.0, "page {number}: {off}");
    }
    let text = run("pdftotext", &["-f", "1", "-l", "1", &path, "-"]);
    assert_eq!(text.matches("in clay").count(), 9, "{text}");
    let fonts = run("pdffonts", &[&path]);
    assert!(fonts.lines().skip(2).all(|line| line.contains("yes yes")), "{fonts}");
}

/// Sheets as they are turned: marks of both sides fall on each other, within a tenth of a millimetre.
#[test]
fn fronts_and_backs_fall_on_each_other_when_the_sheet_is_turned() {
    let folder = tempfile::tempdir().unwrap();
    let mut job = job("hang-tag", 2);
    // Marks alone: a dark corner on the front, and exactly behind it one on the back.
    let format = job.pieces[0].format;
    for (side, x) in [(0, 0.0), (1, 0.75)] {
        let id = job.pieces[0].sides[side].id.clone();
        let items: Vec<_> = job.pieces[0].sides[side].items.iter().map(|item| item.id.clone()).collect();
        for item in items {
            Command::RemoveItem { item }.apply(&mut job, &*WORLD).unwrap();
        }
        Command::SetGround { side: id, ground: None }.apply(&mut job, &*WORLD).unwrap();
        let own = Addition::Shape(vatman_document::Outline::RECT);
        let piece = job.pieces[0].clone();
        let (command, item) =
            add(&job, &piece, &piece.sides[side], own, &Inks::PLAIN, &mut Counter(900 + side as u32 * 50));
        command.apply(&mut job, &*WORLD).unwrap();
        let mut place = job.item(&item).unwrap().place;
        place.at.rect = Rect::of(format.size).part(x, 0.0, 0.25, 0.4);
        Command::SetPlace { item, place }.apply(&mut job, &*WORLD).unwrap();
    }
    for (turn, lying) in [
        (PaperTurn::LongEdge, false),
        (PaperTurn::LongEdge, true),
        (PaperTurn::ShortEdge, false),
        (PaperTurn::ShortEdge, true),
    ] {
        let backs = Some(Backs::turned(turn));
        let setup = SheetSetup {
            backs,
            lying: Some(lying),
            marks: Marks::Lines,
            paper: "letter".into(),
            ..SheetSetup::for_piece(&job.pieces[0])
        };
        let plan = plan_of(&job, None, &setup).unwrap();
        let path = on_disk(&folder, &job, &plan, &setup);
        let (front, back) = (page(&path, 1, 254), page(&path, 2, 254));
        let sideways = lying == (turn == PaperTurn::ShortEdge);
        let turned =
            if sideways { image::imageops::flip_horizontal(&back) } else { image::imageops::flip_vertical(&back) };
        // A tenth of a millimetre is a pixel: every dark one has a dark one within it.
        let dark = |all: &image::RgbaImage, x: u32, y: u32| all.get_pixel(x, y)[0] < 128;
        let mut seen = 0;
        for (one, other) in [(&front, &turned), (&turned, &front)] {
            for y in 1..one.height() - 1 {
                for x in 1..one.width() - 1 {
                    if dark(one, x, y) {
                        seen += 1;
                        let near = (x - 1..=x + 1).any(|x| (y - 1..=y + 1).any(|y| dark(other, x, y)));
                        assert!(near, "{turn:?} {lying}: {x} {y}");
                    }
                }
            }
        }
        assert!(seen > 100_000, "there was something to compare: {seen}");
    }
}

#[test]
fn the_shift_of_a_printer_is_taken_back() {
    let job = job("card", 2);
    let mut setup = SheetSetup { backs: Some(Backs::default()), ..SheetSetup::for_piece(&job.pieces[0]) };
    let straight = plan_of(&job, None, &setup).unwrap();
    let off = vatman_units::Point { x: Length::mm(1.5), y: Length::mm(-0.5) };
    setup.backs = Some(Backs { off, ..Backs::default() });
    let moved = plan_of(&job, None, &setup).unwrap();
    assert_eq!(moved.sheets[0].front, straight.sheets[0].front);
    let (a, b) = (&straight.sheets[0].back.as_ref().unwrap()[0], &moved.sheets[0].back.as_ref().unwrap()[0]);
    assert_eq!(b.trim, a.trim.moved(Length::mm(-1.5), Length::mm(0.5)));
    assert!((b.at.as_coeffs()[4] - a.at.as_coeffs()[4] + Length::mm(1.5).to_css_px()).abs() < 1e-9);
}

#[test]
fn a_count_is_printed_exactly_and_what_it_takes_is_said() {
    let job = job("card", 2);
    let setup = SheetSetup {
        paper: "letter".into(),
        backs: Some(Backs::default()),
        price: 12,
        ..SheetSetup::for_piece(&job.pieces[0])
    };
    let plan = plan_of(&job, Some(20), &setup).unwrap();
    assert_eq!((plan.up, plan.pieces(), plan.sheets.len()), (9, 20, 3));
    let card = plan_card(&WORLD.studio, &job, &plan, &setup);
    assert_eq!((card.sheets, card.faces, card.cost), (3, 6, Some(36)));
    assert_eq!(card.says, "20 pieces on 3 sheets of Letter, upright");
    assert!(
        card.notes.iter().any(|says| says == "Without bleed a sheet would hold 12 instead of 9."),
        "{:?}",
        card.notes
    );
    assert!(card.instructions.iter().any(|says| says == "Print on both sides, turned on the long edge."));
    assert!(!card.steps.is_empty() && card.steps[0].says.starts_with("Cut at "), "{:?}", card.steps);
    assert!(card.tight.iter().all(|tight| (500..1_000).contains(&tight.scale)));
    // At the size that is offered, one more does stand there.
    for tight in &card.tight {
        let closer = SheetSetup { scale: tight.scale, ..setup.clone() };
        let closer = plan_of(&job, None, &closer).unwrap();
        assert!(closer.up > plan.up, "{}", tight.says);
    }
}

#[test]
fn pieces_share_sheets() {
    let job = WORLD.job(&["doorway"], &[("card-85x55", 1), ("flyer-a6", 1)], &words());
    let setup = SheetSetup::default();
    let copies = [
        Copies { piece: job.pieces[0].id.clone(), count: Some(12) },
        Copies { piece: job.pieces[1].id.clone(), count: Some(2) },
    ];
    let plan = plan_sheets(&Printed { job: &job, copies: &copies, records: None }, &setup).unwrap();
    assert_eq!(plan.sheets.len(), 2);
    let of = |at: usize| {
        plan.sheets.iter().flat_map(|sheet| &sheet.front).filter(|side| side.piece == job.pieces[at].id).count()
    };
    assert_eq!((of(0), of(1)), (12, 2));
    assert!(plan_of(&job, Some(1), &SheetSetup { paper: "10 x 10 cm".into(), ..SheetSetup::default() }).is_err());
}

/// A piece of so many blank sides, each in a tone of its own.
fn toned(format: Format, sides: usize) -> Job {
    let (mut job, _) = sheet_with(Vec::new());
    let piece = job.pieces[0].id.clone();
    Command::SetFormat { piece: piece.clone(), format, place: None, first: None }.apply(&mut job, &*WORLD).unwrap();
    for at in 0..sides {
        let tone = Color::opaque(20 + 25 * at as u8, 60, 200);
        if at == 0 {
            let side = job.pieces[0].sides[0].id.clone();
            Command::SetGround { side, ground: Some(Paint::flat(tone)) }.apply(&mut job, &*WORLD).unwrap();
        } else {
            let side = Side::blank(
                SideId::new(format!("t{at}")).unwrap(),
                format!("Page {}", at + 1),
                Some(Paint::flat(tone)),
            );
            Command::InsertSide { piece: piece.clone(), index: at, side, kins: Default::default() }
                .apply(&mut job, &*WORLD)
                .unwrap();
        }
    }
    job
}

fn paper_format(w: f64, h: f64) -> Format {
    let size = Size::new(Length::mm(w), Length::mm(h));
    Format {
        size,
        unit: vatman_units::Unit::Mm,
        ppi: vatman_units::Ppi::PRINT,
        bleed: Length::ZERO,
        safe: Length::mm(3.0),
        ..Format::screen(100, 100)
    }
}

#[test]
fn a_booklet_lies_in_the_order_binders_know() {
    let job = toned(paper_format(148.0, 210.0), 8);
    let backs = Some(Backs::turned(PaperTurn::ShortEdge));
    let setup = SheetSetup {
        kind: SheetKind::Booklet { thickness: Length::ZERO },
        lying: Some(true),
        backs,
        ..SheetSetup::default()
    };
    let plan = plan_of(&job, None, &setup).unwrap();
    assert_eq!((plan.sheets.len(), plan.scale), (2, 1.0));
    let tone = |all: &image::RgbaImage, x: f64| {
        (f64::from(all.get_pixel((f64::from(all.width()) * x) as u32, all.height() / 2)[0]) - 20.0) / 25.0
    };
    let faces: Vec<(f64, f64)> =
        (0..4).map(|at| face(&job, &plan, &setup, at, 594)).map(|all| (tone(&all, 0.25), tone(&all, 0.75))).collect();
    assert_eq!(faces, [(7.0, 0.0), (1.0, 6.0), (5.0, 2.0), (3.0, 4.0)]);
    // Without a say the paper lies, as the pages are larger so.
    let free = SheetSetup { lying: None, ..setup.clone() };
    let plan = plan_of(&job, None, &free).unwrap();
    assert!(plan.scale == 1.0 && plan.paper.size.w > plan.paper.size.h);
    // Turned about the other edge the inner sides stand on their heads: what was left is right.
    let setup = SheetSetup { backs: Some(Backs::turned(PaperTurn::LongEdge)), ..setup };
    let plan = plan_of(&job, None, &setup).unwrap();
    let all = face(&job, &plan, &setup, 1, 594);
    assert_eq!((tone(&all, 0.25), tone(&all, 0.75)), (6.0, 1.0));
    assert_eq!(plan.sheets[0].back.as_ref().unwrap()[0].quarters, 2);
}

#[test]
fn a_single_piece_stands_in_the_middle_and_marks_out_of_reach_are_told() {
    let setup = SheetSetup { marks: Marks::Crop, ..SheetSetup::default() };
    let large = toned(paper_format(190.0, 270.0), 1);
    let plan = plan_of(&large, Some(1), &setup).unwrap();
    let (paper, trim) = (plan.paper.size, plan.sheets[0].front[0].trim);
    assert!((trim.x + trim.right() - paper.w).abs() < Length::mm(0.1), "{trim:?}");
    assert!((trim.y + trim.bottom() - paper.h).abs() < Length::mm(0.1), "{trim:?}");
    // So large that no mark has room where the printer reaches.
    let full = toned(paper_format(200.0, 287.0), 1);
    let plan = plan_of(&full, Some(1), &setup).unwrap();
    let card = plan_card(&WORLD.studio, &full, &plan, &setup);
    assert!(
        card.notes.iter().any(|note| note.contains("crop marks") && note.contains("does not reach")),
        "{:?}",
        card.notes
    );
    let reaching = SheetSetup { margins: Margins::default(), ..setup };
    let plan = plan_of(&full, Some(1), &reaching).unwrap();
    let card = plan_card(&WORLD.studio, &full, &plan, &reaching);
    assert!(!card.notes.iter().any(|note| note.contains("crop marks")), "{:?}", card.notes);
}

#[test]
fn a_card_folded_twice_has_its_inside_above_on_its_head() {
    let flat = Format {
        finish: vatman_document::Finish { folds: Folds::new(false, &[Length::mm(105.0)]), ..Default::default() },
        ..paper_format(210.0, 148.5)
    };
    let job = toned(flat, 2);
    let setup = SheetSetup { kind: SheetKind::Quarters, lying: Some(false), ..SheetSetup::default() };
    let plan = plan_of(&job, None, &setup).unwrap();
    let sheet = &plan.sheets[0];
    assert_eq!((sheet.front.len(), sheet.back.is_none(), plan.scale), (4, true, 1.0));
    // Front below right, back below left, both upright; inside left above right, inside right above left, both turned by a half.
    let corners: Vec<_> = sheet
        .front
        .iter()
        .map(|side| (side.trim.x.to_mm(), side.trim.y.to_mm(), side.quarters, side.seen.x.to_mm()))
        .collect();
    assert_eq!(corners, [(105.0, 148.5, 0, 105.0), (0.0, 148.5, 0, 0.0), (105.0, 0.0, 2, 0.0), (0.0, 0.0, 2, 105.0)]);
    let sides: Vec<_> = sheet.front.iter().map(|side| side.side == job.pieces[0].sides[0].id).collect();
    assert_eq!(sides, [true, true, false, false]);
    assert!(matches!(plan_of(&toned(paper_format(100.0, 100.0), 2), None, &setup), Err(Refusal::NotFolded)));
    assert!(plan_of(&toned(paper_format(100.0, 100.0), 4), None, &setup).is_ok());
    // Panels higher or wider than a quarter of the sheet are printed as much smaller as they have to be.
    for (w, h, scale) in [(105.0, 297.0, 0.5), (420.0, 148.5, 0.25), (50.0, 50.0, 1.0)] {
        let plan = plan_of(&toned(paper_format(w, h), 4), None, &setup).unwrap();
        assert!((plan.scale - scale).abs() < 1e-6, "{w} x {h}: {}", plan.scale);
    }
}

#[test]
fn a_poster_comes_together_from_its_sheets() {
    let job = job("poster-a3", 1);
    let setup = SheetSetup {
        kind: SheetKind::Poster { overlap: Length::mm(10.0) },
        marks: Marks::None,
        ..SheetSetup::default()
    };
    let plan = plan_of(&job, None, &setup).unwrap();
    let whole = {
        let piece = &job.pieces[0];
        let scene = WORLD.studio.scene(&job, piece, &piece.sides[0], vatman_scene::Audience::Output, None);
        let options = vatman_output::PixelOptions { width: 594, height: 840, bleed: false, clear: false };
        picture(WORLD.studio.pixels(&scene, options).unwrap())
    };
    // Two pixels a millimetre: each sheet put where it belongs over the last gives the whole.
    let mut glued = image::RgbaImage::new(594, 840);
    for (at, sheet) in plan.sheets.iter().enumerate() {
        let placed = &sheet.front[0];
        let all = face(&job, &plan, &setup, at, (plan.paper.size.w.to_mm() * 2.0).round() as u32);
        let px = |length: Length| (length.to_mm() * 2.0).round() as u32;
        let part =
            image::imageops::crop_imm(&all, px(placed.trim.x), px(placed.trim.y), px(placed.trim.w), px(placed.trim.h))
                .to_image();
        image::imageops::replace(&mut glued, &part, i64::from(px(placed.seen.x)), i64::from(px(placed.seen.y)));
    }
    let off = difference(&glued, &whole);
    assert!(off < 2.5, "{off}");
    assert!(plan.sheets.len() >= 4 && plan.sheets[1].label.starts_with("Row 1"));
}

#[test]
fn a_back_that_would_stand_on_its_head_is_told() {
    use vatman_imposition::BackStands;
    // A card that is turned like a page, and a tent that opens upwards.
    for (level, wrong) in [(false, BackStands::HeadToFoot), (true, BackStands::HeadToHead)] {
        let lines: &[Length] = if level { &[Length::mm(45.0)] } else { &[] };
        let folds = Folds::new(level, lines);
        let finish = vatman_document::Finish { folds, ..Default::default() };
        let job = toned(Format { finish, ..paper_format(60.0, 90.0) }, 2);
        for stands in [BackStands::HeadToHead, BackStands::HeadToFoot] {
            let setup = SheetSetup { backs: Some(Backs { stands, ..Backs::default() }), ..SheetSetup::default() };
            let plan = plan_of(&job, Some(1), &setup).unwrap();
            let notes = plan_card(&WORLD.studio, &job, &plan, &setup).notes;
            let told = notes.iter().any(|note| note.contains("on its head"));
            assert_eq!(told, stands == wrong, "level {level}, {stands:?}: {notes:?}");
        }
    }
}

#[test]
fn what_becomes_pixels_on_a_sheet_has_the_resolution_of_its_piece_and_words_their_language() {
    let folder = tempfile::tempdir().unwrap();
    let (mut job, made) = sheet_with(vec![
        Addition::Words(vatman_document::Part::Headline),
        Addition::Shape(vatman_document::Outline::RECT),
    ]);
    let piece = job.pieces[0].id.clone();
    let format = paper_format(85.0, 55.0);
    Command::SetFormat { piece, format, place: None, first: None }.apply(&mut job, &*WORLD).unwrap();
    let target = job.find(&made[0]).unwrap().plain().unwrap().content_target();
    let text = "Every Saturday the kiln is opened and everybody takes home what they have made".into();
    Command::SetWords { target, text }.apply(&mut job, &*WORLD).unwrap();
    let mut place = job.item(&made[1]).unwrap().place;
    place.at.rect = Rect::new(Length::mm(50.0), Length::mm(30.0), Length::mm(20.0), Length::mm(10.0));
    Command::SetPlace { item: made[1].clone(), place }.apply(&mut job, &*WORLD).unwrap();
    let standing = job.find(&made[1]).unwrap().plain().unwrap();
    let shadow = vatman_document::Effect::Shadow {
        dx: Length::mm(1.0),
        dy: Length::mm(1.0),
        blur: Length::mm(1.0),
        tint: Color::BLACK.into(),
        opacity: Ratio::new(0.5),
    };
    let look = vatman_document::Look { effects: vec![shadow], ..standing.look.as_ref().clone() };
    let target = standing.content_target();
    Command::SetLook { target, look }.apply(&mut job, &*WORLD).unwrap();
    let setup = SheetSetup::default();
    let plan = plan_of(&job, Some(1), &setup).unwrap();
    let path = on_disk(&folder, &job, &plan, &setup);
    // Columns of poppler's list: the horizontal resolution is the thirteenth.
    let listed = run("pdfimages", &["-list", &path]);
    let sharp: Vec<u32> =
        listed.lines().skip(2).filter_map(|line| line.split_whitespace().nth(12)?.parse().ok()).collect();
    assert!(!sharp.is_empty() && sharp.iter().all(|ppi| (290..=310).contains(ppi)), "{listed}");
    let plain = folder.path().join("plain.pdf").to_string_lossy().into_owned();
    run("qpdf", &["--qdf", "--object-streams=disable", &path, &plain]);
    let text = String::from_utf8_lossy(&std::fs::read(&plain).unwrap()).into_owned();
    assert!(text.contains("/Lang (en)"), "the sheet says its language");
}

#[test]
fn a_transfer_is_mirrored() {
    let job = job("card", 1);
    let setup = SheetSetup { marks: Marks::None, ..SheetSetup::for_piece(&job.pieces[0]) };
    let plan = plan_of(&job, Some(1), &setup).unwrap();
    let mirrored = SheetSetup { mirrored: true, ..setup.clone() };
    let other = plan_of(&job, Some(1), &mirrored).unwrap();
    let (a, b) = (face(&job, &plan, &setup, 0, 850), face(&job, &other, &mirrored, 0, 850));
    assert!(difference(&image::imageops::flip_horizontal(&a), &b) < 1.0);
    assert!(difference(&a, &b) > 2.0);
}

#[test]
fn the_guide_says_how_to_print_and_measures_what_it_says() {
    let folder = tempfile::tempdir().unwrap();
    let job = job("card", 2);
    let setup = SheetSetup {
        backs: Some(Backs { by_hand: true, ..Backs::default() }),
        ..SheetSetup::for_piece(&job.pieces[0])
    };
    let plan = plan_of(&job, Some(30), &setup).unwrap();
    let path = folder.path().join("guide.pdf").to_string_lossy().into_owned();
    std::fs::write(&path, write_guide(&WORLD.studio, "Saturday wheel class", &plan, &setup).unwrap()).unwrap();
    run("qpdf", &["--check", &path]);
    let text = run("pdftotext", &["-layout", &path, "-"]);
    for says in ["Saturday wheel class", "Letter, upright", "100 %", "turn the stack about its long", "Front.", "Back."]
    {
        assert!(text.contains(says), "{says}: {text}");
    }
    // The square is 20 mm wide: its edges, found as dark columns.
    let all = page(&path, 1, 254);
    let dark = |x: u32, y: u32| all.get_pixel(x, y)[0] < 160;
    let squares = (0..all.height()).filter(|y| (150..500).filter(|x| dark(*x, *y)).count() >= 195).collect::<Vec<_>>();
    let (first, last) = (
        squares.iter().max().unwrap(),
        squares.iter().rev().find(|y| **y + 150 < *squares.iter().max().unwrap()).unwrap(),
    );
    assert!((f64::from(first - last) - 200.0).abs() <= 2.0, "{squares:?}");
    // Somewhere below the line of the ruler only its centimetres reach: ten and more marks, 10 mm from each to the next.
    let ruled = (0..all.height()).any(|y| {
        let marks: Vec<u32> = (1..all.width()).filter(|x| dark(*x, y) && !dark(x - 1, y)).collect();
        marks.windows(2).filter(|pair| (99..=101).contains(&(pair[1] - pair[0]))).count() >= 10
    });
    assert!(ruled, "there is a ruler");
}

#[test]
fn codes_are_read_by_others_at_the_size_they_are_printed() {
    let folder = tempfile::tempdir().unwrap();
    let mark = WORLD.samples.values().next().cloned();
    let contact = CodeWords::Contact {
        name: "Ines Vardal".into(),
        firm: "Mossback Kiln".into(),
        phone: "555 0142".into(),
        mail: "hello@mossback.example".into(),
        web: "mossback.example".into(),
    };
    let network = CodeWords::Network { name: "Kiln guests".into(), password: "made slow".into() };
    let address = |text: &str| CodeWords::Address { address: text.into() };
    for (at, (says, mm, marked)) in [
        (address("mossback.example"), 12.0, false),
        (address("mossback.example/classes/saturday-wheel?from=card"), 18.0, false),
        (contact, 32.0, false),
        (network, 20.0, false),
        (CodeWords::Plain { text: "Hände in Ton um zehn.".into() }, 16.0, false),
        (address("mossback.example"), 25.0, true),
    ]
    .into_iter()
    .enumerate()
    {
        let (mut job, made) = sheet_with(vec![Addition::Code(says.clone())]);
        let format = paper_format(85.0, 55.0);
        let piece = job.pieces[0].id.clone();
        Command::SetFormat { piece, format, place: None, first: None }.apply(&mut job, &*WORLD).unwrap();
        let side = job.pieces[0].sides[0].id.clone();
        let ground = Some(Paint::flat(Color::opaque(0x9d, 0xb8, 0xa4)));
        Command::SetGround { side, ground }.apply(&mut job, &*WORLD).unwrap();
        let mut place = job.item(&made[0]).unwrap().place;
        place.at.rect = Rect::new(Length::mm(20.0), Length::mm(10.0), Length::mm(mm), Length::mm(mm));
        Command::SetPlace { item: made[0].clone(), place }.apply(&mut job, &*WORLD).unwrap();
        if marked {
            change_code(&job, &made[0], &CodeChange { mark: Some(mark.clone()), ..CodeChange::default() })
                .unwrap()
                .apply(&mut job, &*WORLD)
                .unwrap();
        }
        let setup = SheetSetup { marks: Marks::None, ..SheetSetup::default() };
        let plan = plan_of(&job, Some(1), &setup).unwrap();
        let path = on_disk(&folder, &job, &plan, &setup);
        let out = folder.path().join(format!("code-{at}")).to_string_lossy().into_owned();
        run("pdftoppm", &["-png", "-singlefile", "-r", "300", &path, &out]);
        let read = run("zbarimg", &["-q", "--raw", &format!("{out}.png")]);
        assert_eq!(read.trim_end(), says.written(), "{at} at {mm} mm");
    }
}

#[test]
fn what_cannot_be_drawn_is_told() {
    let mut job = job("card", 1);
    let plan = plan_of(&job, None, &SheetSetup::default()).unwrap();
    job.pieces.clear();
    let nothing: Result<Vec<u8>, HandOverError> =
        write_sheets(&WORLD.studio, (&job, &[]), &plan, &SheetSetup::default(), |_| Err(PdfError::Font.into()));
    assert!(nothing.is_err(), "what gives up is heard");
}

/// Faults of print, each planted once, and the same piece without any.
#[test]
fn what_is_wrong_with_a_printed_piece_is_found_and_nothing_else() {
    use vatman_craft::{FindingKind, check_job};
    let found = |job: &Job| -> Vec<FindingKind> {
        let reader = vatman_craft::Reader {
            today: vatman_craft::Day { year: 2026, month: 3, day: 5 },
            speller: &crate::common::SPELLER,
        };
        let entry = |piece: &vatman_document::Piece| vatman_craft::PlaceEntry::of_size("Tag", piece.format);
        let all = check_job(&WORLD.studio, job, &entry, reader, (&*WORLD, &mut Counter(5_000)));
        all.into_iter().map(|one| one.finding.kind).collect()
    };
    let clean = || {
        let (mut job, made) = sheet_with(vec![
            Addition::Code(CodeWords::Address { address: "mossback.example".into() }),
            Addition::Shape(vatman_document::Outline::RECT),
        ]);
        let piece = job.pieces[0].id.clone();
        let finish = vatman_document::Finish {
            folds: Folds::new(false, &[Length::mm(60.0)]),
            hole: Some(vatman_document::Hole {
                at: vatman_units::Point { x: Length::mm(110.0), y: Length::mm(8.0) },
                across: Length::mm(5.0),
                eyelet: None,
            }),
            ..Default::default()
        };
        let format = Format { finish, ..paper_format(120.0, 60.0) };
        Command::SetFormat { piece, format, place: None, first: None }.apply(&mut job, &*WORLD).unwrap();
        let side = job.pieces[0].sides[0].id.clone();
        Command::SetGround { side, ground: Some(Paint::flat(Color::opaque(0xf4, 0xef, 0xe6))) }
            .apply(&mut job, &*WORLD)
            .unwrap();
        at(&mut job, &made[0], (10.0, 10.0, 24.0, 24.0));
        at(&mut job, &made[1], (70.0, 30.0, 20.0, 10.0));
        (job, made)
    };
    fn at(job: &mut Job, item: &vatman_document::ItemId, (x, y, w, h): (f64, f64, f64, f64)) {
        let mut place = job.item(item).unwrap().place;
        place.at.rect = Rect::new(Length::mm(x), Length::mm(y), Length::mm(w), Length::mm(h));
        Command::SetPlace { item: item.clone(), place }.apply(job, &*WORLD).unwrap();
    }
    let dressed = |job: &mut Job, item: &vatman_document::ItemId, dress: &dyn Fn(&mut vatman_document::Look)| {
        let standing = job.find(item).unwrap();
        let plain = standing.plain().unwrap();
        let mut look = plain.look.as_ref().clone();
        dress(&mut look);
        let target = plain.content_target();
        Command::SetLook { target, look }.apply(job, &*WORLD).unwrap();
    };
    let said = |job: &mut Job, place: (f64, f64, f64, f64), size: f64| {
        let (piece, mut ids) = (job.pieces[0].clone(), Counter(700));
        let words = Addition::Words(vatman_document::Part::Detail);
        let (command, words) = add(job, &piece, &piece.sides[0], words, &Inks::PLAIN, &mut ids);
        command.apply(job, &*WORLD).unwrap();
        let target = job.find(&words).unwrap().plain().unwrap().content_target();
        Command::SetWords { target, text: "Every Saturday".into() }.apply(job, &*WORLD).unwrap();
        at(job, &words, place);
        dressed(job, &words, &|look| {
            look.fill = Some(Paint::flat(Color::BLACK));
            look.type_look.as_mut().unwrap().size = Length::pt(size);
        });
        words
    };
    let (job, _) = clean();
    assert_eq!(found(&job), []);
    let with = |kind: FindingKind, plant: &dyn Fn(&mut Job, &[vatman_document::ItemId])| {
        let (mut job, made) = clean();
        plant(&mut job, &made);
        assert_eq!(found(&job), [kind]);
    };
    with(FindingKind::CodeUnread, &|job, made| at(job, &made[0], (10.0, 10.0, 3.5, 3.5)));
    with(FindingKind::OnFold, &|job, made| at(job, &made[0], (48.0, 10.0, 24.0, 24.0)));
    with(FindingKind::InHole, &|job, made| at(job, &made[0], (92.0, 6.0, 24.0, 24.0)));
    with(FindingKind::ThinLine, &|job, made| {
        dressed(job, &made[1], &|look| {
            let paint = Paint::flat(Color::BLACK);
            look.stroke = Some(vatman_document::Stroke::solid(paint, Length::pt(0.1)));
        });
    });
    with(FindingKind::SmallInInks, &|job, made| {
        // The lightest of the colours that take much of several inks.
        let inks = vatman_photo::Inks::coated().unwrap();
        let steps = [0x14_u8, 0x34, 0x48, 0x5c];
        let all = (0..64).map(|at: usize| [steps[at / 16], steps[at / 4 % 4], steps[at % 4]]);
        let heavy = |rgb: &[u8; 3]| inks.separate(*rgb).iter().sum::<f32>() > 2.05 && *rgb.iter().max().unwrap() > 0x33;
        let near = |rgb: &[u8; 3]| vatman_photo::delta_e2000(*rgb, inks.proof(*rgb)) < 8.0;
        let rgb = all.filter(heavy).find(near).expect("dark colours are heavy");
        let words = said(job, (70.0, 45.0, 40.0, 6.0), 6.6);
        dressed(job, &words, &|look| look.fill = Some(Paint::flat(Color::opaque(rgb[0], rgb[1], rgb[2]))));
        let _ = made;
    });
    with(FindingKind::TooSmall, &|job, _| drop(said(job, (70.0, 45.0, 40.0, 6.0), 4.0)));
    with(FindingKind::OutsideSafe, &|job, _| drop(said(job, (70.0, 54.5, 40.0, 5.0), 8.0)));
    with(FindingKind::BeyondTrim, &|job, _| drop(said(job, (70.0, 58.8, 40.0, 5.0), 8.0)));
    with(FindingKind::StopsAtTrim, &|job, made| {
        let piece = job.pieces[0].id.clone();
        let format = Format { bleed: Length::mm(3.0), ..job.pieces[0].format };
        Command::SetFormat { piece, format, place: None, first: None }.apply(job, &*WORLD).unwrap();
        at(job, &made[1], (100.0, 30.0, 20.0, 10.0));
    });
    with(FindingKind::Duller, &|job, made| {
        dressed(job, &made[1], &|look| look.fill = Some(Paint::flat(Color::opaque(0, 0, 255))))
    });
    with(FindingKind::TooMuchInk, &|job, made| {
        let id = vatman_document::SwatchId::new("deep").unwrap();
        let ink = Some(vatman_document::Ink::Process { c: 90, m: 90, y: 90, k: 90 });
        let swatch = Some(vatman_document::Swatch { name: "Deep".into(), color: Color::opaque(10, 10, 30), ink });
        Command::SetSwatch { id: id.clone(), swatch }.apply(job, &*WORLD).unwrap();
        dressed(job, &made[1], &|look| look.fill = Some(Paint::flat(vatman_document::Tint::Swatch(id.clone()))));
    });
    with(FindingKind::WhiteLost, &|job, made| {
        dressed(job, &made[1], &|look| {
            look.fill = Some(Paint::flat(Color::WHITE));
            look.blend = vatman_document::Blend::Multiply;
        });
    });
    // As much of four inks as the paper takes is no fault, whichever they are.
    for (c, m, y, k) in [(100, 70, 70, 60), (60, 70, 70, 100), (0, 100, 100, 100), (100, 100, 100, 0)] {
        let (mut job, made) = clean();
        let id = vatman_document::SwatchId::new("deep").unwrap();
        let ink = Some(vatman_document::Ink::Process { c, m, y, k });
        let swatch = Some(vatman_document::Swatch { name: "Deep".into(), color: Color::opaque(10, 10, 30), ink });
        Command::SetSwatch { id: id.clone(), swatch }.apply(&mut job, &*WORLD).unwrap();
        dressed(&mut job, &made[1], &|look| look.fill = Some(Paint::flat(vatman_document::Tint::Swatch(id.clone()))));
        assert_eq!(found(&job), [], "{c} {m} {y} {k}");
    }
    with(FindingKind::SpotMixed, &|job, made| {
        let id = vatman_document::SwatchId::new("gold").unwrap();
        let ink = Some(vatman_document::Ink::Spot { name: "Warm gold".into() });
        let swatch = Some(vatman_document::Swatch { name: "Gold".into(), color: Color::opaque(176, 141, 60), ink });
        Command::SetSwatch { id: id.clone(), swatch }.apply(job, &*WORLD).unwrap();
        dressed(job, &made[1], &|look| {
            look.fill = Some(Paint::flat(vatman_document::Tint::Swatch(id.clone())));
            look.opacity = Ratio::new(0.6);
        });
    });
    for (ppi, kind) in
        [(250.0, FindingKind::SoftPicture), (199.0, FindingKind::SoftPicture), (150.0, FindingKind::FewPixels)]
    {
        with(kind, &|job, _| {
            let plain = Straight::new(200, 80, [120, 140, 130, 255].repeat(16_000)).unwrap();
            let shown = (WORLD.keep(encode_png(&plain, 72).unwrap()), (200, 80));
            let (piece, mut ids) = (job.pieces[0].clone(), Counter(900));
            let (command, item) =
                add(job, &piece, &piece.sides[0], Addition::Picture(Some(shown)), &Inks::PLAIN, &mut ids);
            command.apply(job, &*WORLD).unwrap();
            let across = 200.0 / ppi * 25.4;
            at(job, &item, (66.0, 12.0, across, across * 0.4));
        });
    }
    with(FindingKind::EmptySide, &|job, _| {
        let side = Side::blank(SideId::new("back").unwrap(), "Inside", None);
        let piece = job.pieces[0].id.clone();
        Command::InsertSide { piece, index: 1, side, kins: Default::default() }.apply(job, &*WORLD).unwrap();
    });
}

#[test]
fn a_proof_says_by_figure_what_printing_changes() {
    let plain = Straight::new(200, 80, [120, 140, 130, 255].repeat(16_000)).unwrap();
    let shown = || Addition::Picture(Some((WORLD.keep(encode_png(&plain, 72).unwrap()), (200, 80))));
    let (mut job, made) = sheet_with(vec![Addition::Shape(vatman_document::Outline::RECT), shown(), shown()]);
    let piece = job.pieces[0].id.clone();
    let format = paper_format(120.0, 60.0);
    Command::SetFormat { piece, format, place: None, first: None }.apply(&mut job, &*WORLD).unwrap();
    let mut put = |at: usize, (x, y, w, h): (f64, f64, f64, f64)| {
        let mut place = job.item(&made[at]).unwrap().place;
        place.at.rect = Rect::new(Length::mm(x), Length::mm(y), Length::mm(w), Length::mm(h));
        Command::SetPlace { item: made[at].clone(), place }.apply(&mut job, &*WORLD).unwrap();
    };
    put(0, (10.0, 10.0, 30.0, 40.0));
    // At 250 pixels an inch, and a smaller one that nobody sees.
    put(1, (60.0, 10.0, 20.32, 8.128));
    put(2, (60.0, 30.0, 10.16, 4.064));
    Command::SetFlags { item: made[2].clone(), locked: false, hidden: true }.apply(&mut job, &*WORLD).unwrap();
    let dress = |job: &mut Job, opacity: f64| {
        let plain = job.find(&made[0]).unwrap().plain().unwrap();
        let fill = Some(Paint::flat(Color::opaque(0, 0, 255)));
        let look = vatman_document::Look { fill, opacity: Ratio::new(opacity), ..plain.look.as_ref().clone() };
        let target = plain.content_target();
        Command::SetLook { target, look }.apply(job, &*WORLD).unwrap();
    };
    dress(&mut job, 1.0);
    let card =
        |job: &Job| vatman_craft::proof_card(&WORLD.studio, job, &job.pieces[0], &job.pieces[0].sides[0]).unwrap();
    let own = card(&job);
    let pictures: Vec<_> = own.pictures.iter().map(|picture| (picture.ppi, picture.holds)).collect();
    assert_eq!(pictures, [(250, [17, 25])]);
    let loudest = &own.colours[0];
    assert_eq!((loudest.seen, loudest.dull), (Color::opaque(0, 0, 255), true));
    assert!(loudest.off > 10.0 && loudest.printed != loudest.seen, "{loudest:?}");
    assert!(own.colours.windows(2).all(|pair| pair[0].off >= pair[1].off));
    // The blue covers a sixth of the side, and nothing else is dull.
    assert!((own.dull - 1.0 / 6.0).abs() < 0.02, "{}", own.dull);
    assert!(own.limit == 300 && own.most_ink <= own.limit && own.most_ink >= 150, "{} %", own.most_ink);
    assert_eq!(own.through, None);
    dress(&mut job, 0.5);
    let through = card(&job).through.unwrap();
    assert!(through.contains("is seen through") && !through.contains(" and "), "{through}");
}

#[test]
fn process_colours_and_lasting_files_are_what_they_say() {
    use vatman_craft::{FileKind, HandOver, write_file};
    let folder = tempfile::tempdir().unwrap();
    let mut job = job("card-85x55", 1);
    let (id, swatch) = job.swatches.iter().map(|(id, swatch)| (id.clone(), swatch.clone())).next().unwrap();
    let write = |job: &Job, how: HandOver| {
        let file = write_file(&WORLD.studio, job, &job.pieces[0], &[], how).unwrap().remove(0);
        let path = folder.path().join("card.pdf").to_string_lossy().into_owned();
        std::fs::write(&path, &file.bytes).unwrap();
        run("qpdf", &["--check", &path]);
        (path, file.bytes)
    };
    let plain = HandOver::of(FileKind::Pdf);
    let (path, _) = write(&job, plain);
    let screen = page(&path, 1, 100);
    let (path, _) = write(&job, HandOver { process: true, ..plain });
    let printed = page(&path, 1, 100);
    let expanded = format!("{path}.qdf");
    run("qpdf", &["--qdf", "--object-streams=disable", &path, &expanded]);
    let text = String::from_utf8_lossy(&std::fs::read(&expanded).unwrap()).into_owned();
    assert!(text.contains("/N 4"), "colours name a profile of four inks");
    assert!(!text.lines().any(|line| line.ends_with(" rg") || line.ends_with(" RG")), "nothing is painted in light");
    // What a reader makes of the inks is what is shown as the proof, but for what two ways of drawing differ by.
    let (piece, side, width) = (&job.pieces[0], &job.pieces[0].sides[0], printed.width());
    let proof = vatman_craft::soft_proof(&WORLD.studio, &job, piece, side, width).unwrap();
    let proof = image::load_from_memory(&encode_png(&proof, 96).unwrap()).unwrap().to_rgba8();
    let scene = WORLD.studio.scene(&job, piece, side, vatman_scene::Audience::Output, None);
    let (width, height) = proof.dimensions();
    let options = vatman_output::PixelOptions { width, height, bleed: false, clear: false };
    let seen = picture(WORLD.studio.pixels(&scene, options).unwrap());
    let height = height.min(printed.height());
    let crop = |all: &image::RgbaImage| image::imageops::crop_imm(all, 0, 0, width, height).to_image();
    let drawn = difference(&crop(&seen), &crop(&screen));
    let off = difference(&crop(&proof), &crop(&printed));
    assert!(off < drawn + 2.0, "{off}, and {drawn} by the drawing alone");
    let day = vatman_craft::Day { year: 2026, month: 11, day: 28 };
    let (path, _) = write(&job, HandOver { lasting: Some(day), ..plain });
    let info = run("pdfinfo", &["-meta", &path]);
    assert!(info.contains("pdfaid:part") && info.contains(">2<") && info.contains(">B<"), "{info}");
    run("qpdf", &["--qdf", "--object-streams=disable", &path, &expanded]);
    let text = String::from_utf8_lossy(&std::fs::read(&expanded).unwrap()).into_owned();
    assert!(text.contains("/OutputIntents") && text.contains("GTS_PDFA1"), "what its colours mean is said");
    // In inks it says that it is meant for these, and everything blends in them.
    let (_, bytes) = write(&job, HandOver { process: true, lasting: Some(day), ..plain });
    let pdf = lopdf::Document::load_mem(&bytes).unwrap();
    let inks = |profile: &lopdf::Object| {
        let stream = pdf.dereference(profile).unwrap().1.as_stream().unwrap();
        stream.dict.get(b"N").unwrap().as_i64().unwrap()
    };
    let dictionaries = pdf.objects.values().filter_map(|object| match object {
        lopdf::Object::Dictionary(own) => Some(own),
        lopdf::Object::Stream(stream) => Some(&stream.dict),
        _ => None,
    });
    let (mut intents, mut groups) = (0, 0);
    for own in dictionaries {
        if let Ok(profile) = own.get(b"DestOutputProfile") {
            assert_eq!(inks(profile), 4);
            intents += 1;
        }
        let group = own.get(b"Group").ok().map(|group| pdf.dereference(group).unwrap().1.as_dict().unwrap());
        if let Some(space) = group.and_then(|group| group.get(b"CS").ok()) {
            assert_eq!(inks(&pdf.dereference(space).unwrap().1.as_array().unwrap()[1]), 4);
            groups += 1;
        }
    }
    assert!(intents == 1 && groups >= 1, "{intents} {groups}");
    // An ink of its own is a separation by its name.
    let ink = Some(vatman_document::Ink::Spot { name: "Celadon No. 9".into() });
    Command::SetSwatch { id, swatch: Some(vatman_document::Swatch { ink, ..swatch }) }
        .apply(&mut job, &*WORLD)
        .unwrap();
    let (path, _) = write(&job, plain);
    run("qpdf", &["--qdf", "--object-streams=disable", &path, &expanded]);
    let text = String::from_utf8_lossy(&std::fs::read(&expanded).unwrap()).into_owned();
    assert!(text.contains("/Separation") && text.contains("Celadon"), "the ink is named");
}

#[test]
fn artwork_is_judged_on_the_cloth_it_is_printed_on() {
    use vatman_craft::{cloth_card, goods, worn_picture};
    let (mut job, made) = sheet_with(vec![Addition::Shape(vatman_document::Outline::RECT)]);
    let side = job.pieces[0].sides[0].id.clone();
    Command::SetGround { side, ground: None }.apply(&mut job, &*WORLD).unwrap();
    let mut place = job.item(&made[0]).unwrap().place;
    place.at.rect = Rect::of(job.pieces[0].format.size).part(0.1, 0.1, 0.8, 0.8);
    Command::SetPlace { item: made[0].clone(), place }.apply(&mut job, &*WORLD).unwrap();
    let standing = job.find(&made[0]).unwrap().plain().unwrap();
    let look = vatman_document::Look {
        fill: Some(Paint::flat(Color::opaque(0x1d, 0x1b, 0x18))),
        ..standing.look.as_ref().clone()
    };
    let target = standing.content_target();
    Command::SetLook { target, look }.apply(&mut job, &*WORLD).unwrap();
    let tee = goods().iter().find(|good| good.id == "tee").unwrap();
    let of = (job.pieces[0].as_ref(), &job.pieces[0].sides[0]);
    let card = |cloth| cloth_card(&WORLD.studio, &job, of, &tee.areas[0], cloth).unwrap();
    let (light, dark) = (card(Color::WHITE), card(Color::opaque(0x23, 0x20, 0x1d)));
    assert!(light.seen > 0.99 && light.says.is_empty(), "{:?}", light.says);
    assert!(dark.seen < 0.05 && dark.says[0].contains("lost on this colour"), "{:?}", dark.says);
    assert_eq!(light.size, [305.0, 305.0]);
    let png =
        worn_picture(&WORLD.studio, &job, of, (tee, &tee.areas[0]), (Color::opaque(0x2b, 0x4a, 0x8b), 400)).unwrap();
    let all = image::load_from_memory(&png).unwrap().to_rgba8();
    assert_eq!((all.width(), all.height()), (400, 440));
    // All of what is half clear is told, also along its rim.
    let standing = job.find(&made[0]).unwrap().plain().unwrap();
    let look = vatman_document::Look { opacity: Ratio::new(0.5), ..standing.look.as_ref().clone() };
    let target = standing.content_target();
    Command::SetLook { target, look }.apply(&mut job, &*WORLD).unwrap();
    let of = (job.pieces[0].as_ref(), &job.pieces[0].sides[0]);
    let soft = cloth_card(&WORLD.studio, &job, of, &tee.areas[0], Color::WHITE).unwrap();
    assert!(
        soft.soft > 0.999 && soft.says.iter().any(|says| says.starts_with("100 % of it is half clear")),
        "{:?}",
        soft.says
    );
    // The artwork on the chest, cloth at the hem.
    assert!(all.get_pixel(200, 180)[2] < 60 && all.get_pixel(200, 405)[2] > 110);
}

#[test]
fn artwork_is_printed_as_large_as_its_area_holds() {
    use vatman_craft::{cloth_card, goods, worn_picture};
    let tee = goods().iter().find(|good| good.id == "tee").unwrap();
    let plain = Straight::new(200, 200, [40, 60, 90, 255].repeat(40_000)).unwrap();
    let shown = || Addition::Picture(Some((WORLD.keep(encode_png(&plain, 72).unwrap()), (200, 200))));
    for (w, h) in [(40.0, 160.0), (160.0, 40.0), (80.0, 80.0)] {
        let (mut job, made) = sheet_with(vec![shown(), Addition::Shape(vatman_document::Outline::RECT)]);
        let piece = job.pieces[0].id.clone();
        let format = paper_format(w, h);
        Command::SetFormat { piece, format, place: None, first: None }.apply(&mut job, &*WORLD).unwrap();
        for (item, side) in made.iter().zip([20.0, 10.0]) {
            let mut place = job.item(item).unwrap().place;
            place.at.rect = Rect::new(Length::mm(5.0), Length::mm(5.0), Length::mm(side), Length::mm(side));
            Command::SetPlace { item: item.clone(), place }.apply(&mut job, &*WORLD).unwrap();
        }
        let standing = job.find(&made[1]).unwrap().plain().unwrap();
        let stroke = vatman_document::Stroke::solid(Paint::flat(Color::BLACK), Length::mm(0.1));
        let look = vatman_document::Look { stroke: Some(stroke), ..standing.look.as_ref().clone() };
        let target = standing.content_target();
        Command::SetLook { target, look }.apply(&mut job, &*WORLD).unwrap();
        for area in &tee.areas {
            let of = (job.pieces[0].as_ref(), &job.pieces[0].sides[0]);
            let card = cloth_card(&WORLD.studio, &job, of, area, Color::WHITE).unwrap();
            let [across, down] = card.size;
            let by = across / w;
            assert!((down / h - by).abs() < 1e-6, "its shape stays: {:?}", card.size);
            let (room, left) = (area.size[0] - across, area.size[1] - down);
            assert!(room > -1e-6 && left > -1e-6 && room.min(left) < 1e-6, "{:?} in {:?}", card.size, area.size);
            // Lines and pixels grow with it.
            assert!((card.thinnest.unwrap() - 0.1 * by).abs() < 1e-3, "{:?}", card.thinnest);
            assert!((card.ppi.unwrap() - 200.0 / (20.0 / 25.4) / by).abs() < 0.5, "{:?}", card.ppi);
            assert!(card.soft < 1e-9, "edges are sharp");
        }
        // On the picture it lies where and as large as it is printed; a ground shows all of it.
        let side = job.pieces[0].sides[0].id.clone();
        let ground = Some(Paint::flat(Color::opaque(200, 20, 20)));
        Command::SetGround { side, ground }.apply(&mut job, &*WORLD).unwrap();
        let of = (job.pieces[0].as_ref(), &job.pieces[0].sides[0]);
        for area in &tee.areas {
            let card = cloth_card(&WORLD.studio, &job, of, area, Color::WHITE).unwrap();
            let png = worn_picture(&WORLD.studio, &job, of, (tee, area), (Color::WHITE, 800)).unwrap();
            let seen = image::load_from_memory(&png).unwrap().to_rgba8();
            let red = seen.enumerate_pixels().filter(|(_, _, p)| p[0] > 150 && p[1] < 80).map(|(x, y, _)| (x, y));
            let all: Vec<(u32, u32)> = red.collect();
            let (left, right) =
                (all.iter().map(|at| at.0).min().unwrap(), all.iter().map(|at| at.0).max().unwrap() + 1);
            let (top, foot) = (all.iter().map(|at| at.1).min().unwrap(), all.iter().map(|at| at.1).max().unwrap() + 1);
            let unit = area.at[2] / area.size[0] * 800.0 / tee.view[0];
            let near = |seen: u32, wanted: f64| (f64::from(seen) - wanted).abs() < 3.0;
            assert!(
                near(right - left, card.size[0] * unit) && near(foot - top, card.size[1] * unit),
                "{w} {h}: {left} {right} {top} {foot}"
            );
            let middle = (area.at[0] + area.at[2] / 2.0) * 800.0 / tee.view[0];
            assert!(near((left + right) / 2, middle), "in the middle of its area");
            let begins = area.at[1] * 800.0 / tee.view[0];
            assert!(f64::from(top) > begins - 3.0 && f64::from(foot) < begins + area.size[1] * unit + 3.0);
        }
    }
}

#[test]
fn the_size_of_a_piece_follows_from_how_many_shall_fit() {
    use vatman_craft::fitted_size;
    let job = job("bookmark", 1);
    let margins = Margins::sides_and_ends(Length::inches(0.25), Length::inches(0.55));
    let setup = SheetSetup { paper: "letter".into(), margins, ..SheetSetup::default() };
    let fitted = fitted_size(&job.pieces[0], &setup, 5, 1).unwrap();
    assert_eq!(
        (fitted.size, fitted.typed.as_str()),
        (Size::new(Length::inches(2.1), Length::inches(7.4)), "2.1 x 7.4 in")
    );
    assert_eq!(fitted_size(&job.pieces[0], &setup, 90, 1), Err(Refusal::NoSizeLeft));
}

#[test]
fn a_back_says_who_made_it() {
    use vatman_craft::add_back;
    let mut job = job("card", 1);
    let front = job.pieces[0].sides[0].id.clone();
    let (command, id) = add_back(&job, &front, &mut Counter(7_000)).unwrap();
    command.apply(&mut job, &*WORLD).unwrap();
    let (piece, side) = job.side(&id).unwrap();
    assert_eq!((piece.sides.len(), side.name.as_str()), (2, "Back"));
    assert!(!side.items.is_empty());
    for item in &side.items {
        assert!(Rect::of(piece.format.size).contains(item.place.at.rect));
        assert!(piece.sides[0].items.iter().any(|other| other.kin == item.kin), "shared with the front");
    }
    let (bare, _) = sheet_with(Vec::new());
    let side = bare.pieces[0].sides[0].id.clone();
    assert!(matches!(add_back(&bare, &side, &mut Counter(1)), Err(Refusal::NoDetails)));
}
