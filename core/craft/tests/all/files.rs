//! What is handed over, read back by programs that are not ours.

use crate::common::{Counter, Shelf, WORLD, difference, run, words};
use vatman_craft::{FileKind, FindingKind, HandOver, OutputFile, Words, findings, write_file};
use vatman_document::{Command, Content, Job, Part, Place, RichText, Target};
use vatman_output::{PdfError, PdfOptions, PrintPage, write_pdf};
use vatman_photo::{Pictures, Straight, content_id, encode_jpeg, encode_png};
use vatman_scene::{Audience, ImageNode, Node};
use vatman_units::Placement;

const PLACES: [(&str, u32, u32); 7] = [
    ("square-post", 1080, 1080),
    ("story", 1080, 1920),
    ("video-thumbnail", 1280, 720),
    ("flyer-a5", 1748, 2480),
    ("card", 1050, 600),
    ("medium-rectangle", 300, 250),
    ("2 x 8.5 in", 600, 2550),
];

fn job(place: &str) -> Job {
    WORLD.job(&["doorway"], &[(place, 1)], &words())
}

fn files(job: &Job, how: HandOver) -> Vec<OutputFile> {
    write_file(&WORLD.studio, job, &job.pieces[0], &[], how).unwrap()
}

fn file(job: &Job, how: HandOver) -> OutputFile {
    files(job, how).remove(0)
}

/// Writes a file where other programs can read it.
fn on_disk(folder: &tempfile::TempDir, file: &OutputFile) -> String {
    let path = folder.path().join(&file.name);
    std::fs::write(&path, &file.bytes).unwrap();
    path.to_string_lossy().into_owned()
}

#[test]
fn pictures_have_exactly_the_pixels_of_their_place() {
    for (place, width, height) in PLACES {
        let job = job(place);
        for (times, kind) in [(1, FileKind::Png), (2, FileKind::Png), (1, FileKind::Jpeg)] {
            if width * height * times * times > 9_000_000 {
                continue;
            }
            let how = HandOver { width: Some(width * times), ..HandOver::of(kind) };
            let picture = image::load_from_memory(&file(&job, how).bytes).unwrap();
            let off = (i64::from(picture.height()) - i64::from(height * times)).abs();
            assert!(
                picture.width() == width * times && off <= 1,
                "{place}: {} x {}",
                picture.width(),
                picture.height()
            );
        }
        let own = image::load_from_memory(&file(&job, HandOver::of(FileKind::Png)).bytes).unwrap();
        assert_eq!((own.width(), own.height()), (width, height), "{place}");
    }
}

#[test]
fn a_clear_picture_is_clear_where_nothing_stands_and_a_full_one_is_not() {
    let job = WORLD.job(&["kiln-mark"], &[("square-post", 1)], &words());
    let clear = image::load_from_memory(&file(&job, HandOver { clear: true, ..HandOver::of(FileKind::Png) }).bytes)
        .unwrap()
        .to_rgba8();
    let full = image::load_from_memory(&file(&job, HandOver::of(FileKind::Png)).bytes).unwrap().to_rgba8();
    assert_eq!(clear.get_pixel(2, 2)[3], 0);
    assert!(clear.pixels().any(|pixel| pixel[3] == 255), "nothing is left of the mark");
    assert!(full.pixels().all(|pixel| pixel[3] == 255));
    // Laid over the ground again it is the full picture.
    let ground = *full.get_pixel(2, 2);
    let mut relaid = clear.clone();
    for pixel in relaid.pixels_mut() {
        let a = u32::from(pixel[3]);
        for i in 0..3 {
            pixel[i] = ((u32::from(pixel[i]) * a + u32::from(ground[i]) * (255 - a) + 127) / 255) as u8;
        }
        pixel[3] = 255;
    }
    assert!(difference(&relaid, &full) < 0.5);
}

#[test]
fn a_jpeg_of_less_quality_is_smaller_and_further_off() {
    let job = WORLD.job(&["whole-picture"], &[("square-post", 1)], &words());
    let png = image::load_from_memory(&file(&job, HandOver::of(FileKind::Png)).bytes).unwrap().to_rgba8();
    let (mut last_size, mut last_off) = (usize::MAX, 0.0);
    for quality in [95, 80, 50, 25] {
        let bytes = file(&job, HandOver { quality, ..HandOver::of(FileKind::Jpeg) }).bytes;
        let off = difference(&image::load_from_memory(&bytes).unwrap().to_rgba8(), &png);
        assert!(bytes.len() < last_size && off > last_off, "quality {quality}: {} bytes, off by {off}", bytes.len());
        (last_size, last_off) = (bytes.len(), off);
    }
    assert!(last_off < 6.0);
}

/// A box of a page in points, as poppler reads it: left, bottom, right, top.
fn page_box(info: &str, name: &str) -> Vec<f64> {
    let line = info.lines().find(|line| line.starts_with(name)).unwrap_or_else(|| panic!("no {name} in {info}"));
    line[name.len()..].split_whitespace().map(|number| number.parse().unwrap()).collect()
}

#[test]
fn a_pdf_has_its_physical_size_its_boxes_and_its_words_in_embedded_subsets() {
    let folder = tempfile::tempdir().unwrap();
    for (place, width, height) in
        [("card", 252.0, 144.0), ("flyer-a5", 419.528, 595.276), ("square-post", 810.0, 810.0)]
    {
        let job = job(place);
        let plain = on_disk(&folder, &file(&job, HandOver::of(FileKind::Pdf)));
        run("qpdf", &["--check", &plain]);
        let info = run("pdfinfo", &["-box", &plain]);
        let close = |a: &[f64], b: [f64; 4]| a.iter().zip(b).all(|(a, b)| (a - b).abs() < 0.01);
        assert!(close(&page_box(&info, "MediaBox:"), [0.0, 0.0, width, height]), "{place}: {info}");

        let text = run("pdftotext", &["-layout", &plain, "-"]);
        let joined = |text: &str| text.split_whitespace().collect::<Vec<_>>().join(" ").to_lowercase();
        for copy in words().values() {
            assert!(joined(&text).contains(&joined(copy)), "{place}: {copy:?} is not in {text:?}");
        }
        let fonts = run("pdffonts", &[&plain]);
        let rows: Vec<_> = fonts.lines().skip(2).collect();
        assert!(!rows.is_empty());
        for row in rows {
            let marks: Vec<_> = row.split_whitespace().filter(|word| ["yes", "no"].contains(word)).collect();
            assert_eq!(marks, ["yes", "yes", "yes"], "not embedded, subset and readable: {row}");
        }
    }
    let card = job("card");
    let with_bleed = on_disk(&folder, &file(&card, HandOver { bleed: true, ..HandOver::of(FileKind::Pdf) }));
    let info = run("pdfinfo", &["-box", &with_bleed]);
    assert_eq!(page_box(&info, "MediaBox:"), [0.0, 0.0, 270.0, 162.0]);
    assert_eq!(page_box(&info, "TrimBox:"), [9.0, 9.0, 261.0, 153.0]);
}

#[test]
fn marks_stand_outside_the_bleed_in_line_with_the_trim_and_the_slug_names_the_sheet() {
    let folder = tempfile::tempdir().unwrap();
    let card = WORLD.job(&["doorway", "contact-side"], &[("card", 2)], &words());
    let drawn = |how: HandOver| {
        let pdf = on_disk(&folder, &file(&card, how));
        run("qpdf", &["--check", &pdf]);
        run("pdftoppm", &["-png", "-r", "288", "-f", "1", "-l", "1", "-singlefile", &pdf, &pdf]);
        (image::open(format!("{pdf}.png")).unwrap().to_rgba8(), run("pdfinfo", &["-box", &pdf]), pdf)
    };
    let (plain, ..) = drawn(HandOver { bleed: true, ..HandOver::of(FileKind::Pdf) });
    let (marked, info, pdf) = drawn(HandOver { bleed: true, marks: true, ..HandOver::of(FileKind::Pdf) });
    let (media, bleed, trim) =
        (page_box(&info, "MediaBox:"), page_box(&info, "BleedBox:"), page_box(&info, "TrimBox:"));
    assert!((trim[2] - trim[0] - 252.0).abs() < 0.01 && (trim[3] - trim[1] - 144.0).abs() < 0.01, "{info}");
    assert!((trim[0] - bleed[0] - 9.0).abs() < 0.01 && bleed[0] - media[0] > 14.0, "{info}");
    // The piece with its bleed is as it was, but for the pixels its edge shares.
    let pixel = |points: f64| (points * 4.0).round() as u32;
    let (x, y) = (pixel(bleed[0]), pixel(bleed[0]));
    let same = |dx: u32, dy: u32| {
        let (a, b) = (marked.get_pixel(x + dx, y + dy), plain.get_pixel(dx, dy));
        a.0.iter().zip(b.0).all(|(a, b)| a.abs_diff(b) < 40)
    };
    let inner = (4..plain.height() - 4).flat_map(|dy| (4..plain.width() - 4).map(move |dx| (dx, dy)));
    let (all, alike) = inner.fold((0, 0), |(all, alike), (dx, dy)| (all + 1, alike + u32::from(same(dx, dy))));
    assert!(f64::from(alike) > 0.99 * f64::from(all), "{alike} of {all}");
    // A dark line stands in line with each edge of the trim, outside the bleed, and nothing between it and the bleed.
    let dark = |x: f64, y: f64| {
        let near = |dx, dy| marked.get_pixel(pixel(x) + dx - 1, pixel(y) + dy - 1)[0];
        (0..3).flat_map(|dx| (0..3).map(move |dy| (dx, dy))).any(|(dx, dy)| near(dx, dy) < 160)
    };
    let out = bleed[0] - 5.0;
    for edge in [trim[0], trim[2]] {
        assert!(dark(edge, out) && dark(edge, media[3] - out) && !dark(edge + 4.0, out), "at {edge}");
    }
    for edge in [media[3] - trim[3], media[3] - trim[1]] {
        assert!(dark(out, edge) && dark(media[2] - out, edge) && !dark(out, edge + 4.0), "at {edge}");
    }
    let text = run("pdftotext", &["-layout", &pdf, "-"]);
    let size = card.pieces[0].format.label();
    let sides = &card.pieces[0].sides;
    for side in sides {
        let mut parts = vec!["Saturday wheel class", &card.pieces[0].name, &size];
        parts.extend((sides.len() > 1).then_some(side.name.as_str()));
        assert!(text.lines().any(|line| parts.iter().all(|part| line.contains(part))), "{}: {text}", side.name);
    }
}

#[test]
fn both_sides_of_a_card_leave_as_one_pdf_and_two_pictures() {
    let job = WORLD.job(&["contact-side", "label"], &[("card", 2)], &words());
    let folder = tempfile::tempdir().unwrap();
    let pdf = files(&job, HandOver::of(FileKind::Pdf));
    assert_eq!(pdf.len(), 1);
    assert!(run("pdfinfo", &[&on_disk(&folder, &pdf[0])]).contains("Pages:           2"));
    let names: Vec<_> = files(&job, HandOver::of(FileKind::Png)).into_iter().map(|file| file.name).collect();
    assert_eq!(names, ["saturday-wheel-class_card-front_3.5x2in.png", "saturday-wheel-class_card-back_3.5x2in.png"]);
}

#[test]
fn other_programs_draw_our_svg_and_pdf_as_we_draw_pixels() {
    let folder = tempfile::tempdir().unwrap();
    for design in &WORLD.designs {
        let job = WORLD.job(&[&design.id], &[("square-post", 1)], &words());
        let ours = image::load_from_memory(&file(&job, HandOver::of(FileKind::Png)).bytes).unwrap().to_rgba8();

        let svg = on_disk(&folder, &file(&job, HandOver::of(FileKind::Svg)));
        let drawn = format!("{svg}.png");
        run("rsvg-convert", &["-o", &drawn, &svg]);
        let off = difference(&image::open(&drawn).unwrap().to_rgba8(), &ours);
        assert!(off < 3.0, "{}: librsvg draws the SVG {off:.2} off", design.id);

        let pdf = on_disk(&folder, &file(&job, HandOver::of(FileKind::Pdf)));
        run("pdftoppm", &["-png", "-r", "96", "-singlefile", &pdf, &pdf]);
        let off = difference(&image::open(format!("{pdf}.png")).unwrap().to_rgba8(), &ours);
        assert!(off < 3.0, "{}: poppler draws the PDF {off:.2} off", design.id);
    }
}

#[test]
fn prompts_never_leave() {
    let folder = tempfile::tempdir().unwrap();
    for design in &WORLD.designs {
        let job = WORLD.job(&[&design.id], &[("flyer-a5", 1)], &Words::new());
        assert!(job.kins.values().any(|kin| kin.content.words().is_some()), "{} has nothing to say", design.id);
        let pdf = on_disk(&folder, &file(&job, HandOver::of(FileKind::Pdf)));
        let text = run("pdftotext", &[&pdf, "-"]);
        assert_eq!(text.trim(), "", "{}: a prompt left", design.id);
    }
}

#[test]
fn the_same_job_leaves_as_the_same_bytes() {
    let words: Words = [(Part::Headline, "Made slow. Used daily.".to_owned())].into();
    let one = WORLD.job(&["night-frame"], &[("portrait-post", 1)], &words);
    let two = WORLD.job(&["night-frame"], &[("portrait-post", 1)], &words);
    for kind in [FileKind::Png, FileKind::Jpeg, FileKind::Pdf, FileKind::Svg] {
        assert!(file(&one, HandOver::of(kind)) == file(&two, HandOver::of(kind)), "{kind:?} differs");
    }
}

#[test]
fn names_tell_the_size_and_the_bleed_is_extra_pixels() {
    let card = job("card");
    let name = |how: HandOver| file(&card, how).name;
    assert_eq!(name(HandOver::of(FileKind::Pdf)), "saturday-wheel-class_card_3.5x2in.pdf");
    assert_eq!(
        name(HandOver { width: Some(1050), ..HandOver::of(FileKind::Png) }),
        "saturday-wheel-class_card_3.5x2in.png",
        "its own pixels are its own size"
    );
    assert_eq!(
        name(HandOver { width: Some(700), ..HandOver::of(FileKind::Jpeg) }),
        "saturday-wheel-class_card_700px.jpg"
    );
    let size = |how: HandOver| {
        let picture = image::load_from_memory(&file(&card, how).bytes).unwrap();
        (picture.width(), picture.height())
    };
    // An eighth of an inch at 300 per inch is 37.5 px on each side: the whole is covered exactly.
    assert_eq!(size(HandOver { bleed: true, ..HandOver::of(FileKind::Png) }), (1050 + 75, 600 + 75));
}

#[test]
fn a_size_beyond_all_memory_is_refused() {
    let job = job("square-post");
    let refused = write_file(
        &WORLD.studio,
        &job,
        &job.pieces[0],
        &[],
        HandOver { width: Some(19_999), ..HandOver::of(FileKind::Png) },
    );
    assert!(refused.unwrap_err().to_string().contains("cannot be made"));
}

/// Words and panels at the edges of a card with a safe area and bleed.
#[test]
fn what_comes_too_near_an_edge_or_stops_at_it_is_found() {
    let job = WORLD.job(&["label"], &[("card", 1)], &words());
    let piece = &job.pieces[0];
    let (size, safe, bleed) = (piece.format.size, piece.format.safe, piece.format.bleed);
    assert!(safe.is_positive() && bleed.is_positive());
    let head =
        job.items().find(|item| job.plain(item).is_some_and(|plain| plain.part == Part::Headline)).unwrap().clone();
    let kinds = |job: &Job, item: &vatman_document::ItemId| {
        let all = findings(&WORLD.studio, job, &job.pieces[0], None);
        all.into_iter().filter(|found| found.item.as_ref() == Some(item)).map(|found| found.kind).collect::<Vec<_>>()
    };
    let placed = |item: &vatman_document::Item, rect: vatman_units::Rect| {
        let mut moved = job.clone();
        let place = Place::new(Placement::at(rect));
        Command::SetPlace { item: item.id.clone(), place }.apply(&mut moved, &*WORLD).unwrap();
        kinds(&moved, &item.id)
    };
    let rect = head.place.at.rect;
    assert!(!placed(&head, rect).contains(&FindingKind::BeyondTrim));
    let beyond = vatman_units::Rect { x: size.w - rect.w.scaled(0.3), ..rect };
    assert!(placed(&head, beyond).contains(&FindingKind::BeyondTrim));
    let (shape, id) = {
        let (piece, side) = (piece.as_ref(), &piece.sides[0]);
        let what = vatman_craft::Addition::Shape(vatman_document::Outline::RECT);
        let mut ids = Counter(1_000);
        vatman_craft::add(&job, piece, side, what, &vatman_craft::Inks::PLAIN, &mut ids)
    };
    let mut with = job.clone();
    shape.apply(&mut with, &*WORLD).unwrap();
    let at = |rect: vatman_units::Rect| {
        let mut moved = with.clone();
        Command::SetPlace { item: id.clone(), place: Place::new(Placement::at(rect)) }
            .apply(&mut moved, &*WORLD)
            .unwrap();
        kinds(&moved, &id)
    };
    let whole = vatman_units::Rect::of(size);
    assert_eq!(at(whole), [FindingKind::StopsAtTrim]);
    assert_eq!(at(whole.outset(bleed)), []);
    assert_eq!(at(whole.outset(-safe)), [], "well inside it is nobody's matter");
    let left = vatman_units::Rect { w: size.w.half(), ..whole.outset(bleed) };
    assert_eq!(at(left), [], "in the middle of the sheet it may stop");
}

#[test]
fn what_would_be_left_out_or_cut_is_said_before() {
    let mut job = job("square-post");
    assert!(
        findings(&WORLD.studio, &job, &job.pieces[0], None).is_empty(),
        "a design with its words and picture has nothing to look at"
    );
    let item = |job: &Job, part: Part| job.items().find(|item| job.kins[&item.kin].part == part).unwrap().clone();
    let (head, when, picture) = (item(&job, Part::Headline), item(&job, Part::When), item(&job, Part::MainPicture));
    let words = |text: &str| Content::Words { text: RichText::plain(text), prompt: "When".into() };
    let mut set = |target: &vatman_document::Item, content: Content| {
        Command::SetContent { target: Target::Shared(target.kin.clone()), content }
            .apply(&mut job, &*WORLD)
            .map(|_| ())
            .unwrap()
    };
    set(&when, words(""));
    set(&head, words(&format!("\u{16a0} {}", "Hands in clay by ten, every Saturday of the year. ".repeat(40))));
    set(
        &picture,
        Content::Picture {
            picture: None,
            focus: vatman_document::Focus::CENTRE,
            frame: vatman_document::Outline::RECT,
            fit: vatman_document::PictureFit::Fill,
        },
    );
    let mut found: Vec<_> = findings(&WORLD.studio, &job, &job.pieces[0], None)
        .into_iter()
        .map(|finding| (finding.item.unwrap(), finding.kind))
        .collect();
    found.sort_by_key(|(_, kind)| format!("{kind:?}"));
    assert_eq!(
        found,
        [
            (head.id.clone(), FindingKind::BeyondTrim),
            (picture.id, FindingKind::EmptyFrame),
            (head.id.clone(), FindingKind::MissingLetters),
            (when.id.clone(), FindingKind::NoWords),
            (head.id.clone(), FindingKind::Spill)
        ]
    );
    let at_once = |kind: &FindingKind| kind.is_shown_at_once();
    assert_eq!(found.iter().filter(|(_, kind)| at_once(kind)).count(), 3, "what is still to be filled is seen anyway");
    // What is hidden does not leave anyway.
    for id in [head.id, when.id] {
        Command::SetFlags { item: id, locked: false, hidden: true }.apply(&mut job, &*WORLD).unwrap();
    }
    assert_eq!(findings(&WORLD.studio, &job, &job.pieces[0], None).len(), 1);
}

#[test]
fn an_upright_jpeg_keeps_its_scans_in_a_pdf_and_nothing_else_of_it_leaves() {
    let pixels = (0..96 * 64).flat_map(|i: u32| [(i * 7 % 251) as u8, (i % 96 * 2) as u8, (i / 96 * 3) as u8, 255]);
    let straight = Straight::new(96, 64, pixels.collect()).unwrap();
    let jpeg = encode_jpeg(&straight.clone().premultiplied(), 90, [255; 3], 300).unwrap();
    let held = |orientation: u8| {
        let exif = [
            b"\xff\xe1\x00\x32Exif\0\0II*\0\x08\0\0\0\x01\0".as_slice(),
            &[0x12, 0x01, 0x03, 0, 1, 0, 0, 0, orientation, 0, 0, 0, 0, 0, 0, 0],
            b"taken at home   ",
        ];
        let mut file = jpeg.clone();
        file.splice(2..2, exif.concat());
        file
    };
    let png = encode_png(&straight, 300).unwrap();
    let folder = tempfile::tempdir().unwrap();
    for (name, original, kept) in [("upright", held(1), true), ("turned", held(6), false), ("png", png, false)] {
        let asset = content_id(&original);
        let shelf = Shelf::of([(asset.clone(), original.clone().into())].into());
        let pictures = Pictures::new(Box::new(shelf), 1 << 24);
        let info = pictures.info(&asset).unwrap();
        let dest = kurbo::Rect::new(0.0, 0.0, 96.0, 96.0);
        let node = Node::Image(ImageNode {
            source: vatman_document::PictureSource::plain(asset).into(),
            pixels: (info.width, info.height),
            dest,
            frame: kurbo::Shape::to_path(&dest, 0.01),
        });
        let job = job("square-post");
        let piece = &job.pieces[0];
        let mut scene = WORLD.studio.scene(&job, piece, &piece.sides[0], Audience::Output, None);
        scene.items.truncate(1);
        scene.items[0].node = std::sync::Arc::new(node);
        let page = PrintPage::single(std::sync::Arc::new(scene), false, 96.0);
        let library = WORLD.studio.typesetter.library();
        let bytes = write_pdf([Ok::<_, PdfError>(page)], PdfOptions::default(), &library, &pictures).unwrap();
        assert!(!bytes.windows(13).any(|part| part == b"taken at home"), "{name} tells where it was taken");
        let path = folder.path().join(format!("{name}.pdf")).to_string_lossy().into_owned();
        std::fs::write(&path, bytes).unwrap();
        let list = run("pdfimages", &["-list", &path]);
        let row: Vec<&str> = list.lines().nth(2).unwrap().split_whitespace().collect();
        assert_eq!(row[8] == "jpeg", kept, "{name}: {list}");
        assert_eq!((row[3], row[4]), if name == "turned" { ("64", "96") } else { ("96", "64") }, "{name}: {list}");
        if kept {
            let out = folder.path().join("out").to_string_lossy().into_owned();
            run("pdfimages", &["-all", &path, &out]);
            let extracted = std::fs::read(format!("{out}-000.jpg")).unwrap();
            let scans = &original[original.len() / 2..];
            assert!(extracted.ends_with(scans), "the scans were written anew");
        }
    }
}
