//! SVG files in, drawings out; the shelf of graphics.

use std::process::Command as Process;
use std::sync::Arc;

use crate::common::{Counter, GRAPHICS, Shelf, WORLD};
use kurbo::Size;
use vatman_craft::{Imported, Layer, Studio, SvgError, SvgLimit, import_svg};
use vatman_document::{
    Content, Format, Item, ItemId, Job, JobId, Kin, KinId, Look, Part, Piece, PieceId, Place, Side, SideId,
};
use vatman_output::PixelOptions;
use vatman_photo::Pictures;
use vatman_scene::Audience;
use vatman_units::{Length, Placement, Rect};

/// A file as read on a white sheet of its own size, as pixels laid over white.
fn drawn(read: Imported, size: Size) -> Vec<u8> {
    let Imported { drawing, pictures, .. } = read;
    let shelf = pictures.into_iter().map(|(id, png)| (id, png.into())).collect();
    let studio = Studio::new(
        Arc::clone(&WORLD.studio.typesetter),
        Arc::new(Pictures::new(Box::new(Shelf::of(shelf)), 64 << 20)),
    );
    let (w, h) = (size.width.round() as u32, size.height.round() as u32);
    // Another reader rounds the height of the picture up, not that of what is in it.
    let high = f64::from(w) * f64::from(drawing.height) / f64::from(drawing.width.max(1));
    let high = if (high - f64::from(h)).abs() < 1.0 { high } else { f64::from(h) };
    let mut job = Job::new(JobId::new("j").unwrap(), "t");
    let kin = KinId::new("k").unwrap();
    job.kins.insert(
        kin.clone(),
        Kin::new(Part::Ornament, Content::Drawing { drawing }, Look { fill: None, ..Look::default() }).into(),
    );
    let px = Length::css_px;
    let rect = Rect::new(px(0.0), px(0.0), px(f64::from(w)), px(high));
    let item = Item::new(ItemId::new("i").unwrap(), kin, Place::new(Placement::at(rect)));
    let side = Side {
        id: SideId::new("s").unwrap(),
        name: "Front".into(),
        ground: None,
        items: vec![item],
        stacks: Vec::new(),
        group_looks: Vec::new(),
    };
    job.pieces.push(Piece::new(PieceId::new("p").unwrap(), "p", Format::screen(w, h), vec![side]).into());
    let scene = studio.scene(&job, &job.pieces[0], &job.pieces[0].sides[0], Audience::Output, None);
    let pixels = studio.pixels(&scene, PixelOptions { width: w, height: h, bleed: false, clear: false }).unwrap();
    pixels.flattened([255, 255, 255])
}

fn by_librsvg(svg: &str, folder: &std::path::Path, width: u32) -> image::RgbImage {
    let (from, to) = (folder.join("in.svg"), folder.join("out.png"));
    std::fs::write(&from, svg).unwrap();
    let made = Process::new("rsvg-convert")
        .args(["-w", &width.to_string(), "-b", "white"])
        .arg(&from)
        .arg("-o")
        .arg(&to)
        .output()
        .unwrap();
    assert!(made.status.success(), "{}", String::from_utf8_lossy(&made.stderr));
    image::open(&to).unwrap().to_rgb8()
}

fn difference(svg: &str, folder: &std::path::Path) -> f64 {
    difference_from(svg, svg, folder)
}

/// The same, from what librsvg makes of another file that says the same.
fn difference_from(svg: &str, same: &str, folder: &std::path::Path) -> f64 {
    let drawing = import_svg(svg.as_bytes(), "t", &WORLD.studio.typesetter.library()).unwrap();
    let other = by_librsvg(same, folder, 300);
    let own = drawn(drawing, Size::new(300.0, f64::from(other.height())));
    if std::env::var_os("VATMAN_KEEP_DIFFERENCES").is_some() {
        let (w, h) = (300, other.height());
        image::RgbImage::from_raw(w, h, own.clone())
            .unwrap()
            .save(std::env::temp_dir().join("vatman-own.png"))
            .unwrap();
        other.save(std::env::temp_dir().join("vatman-other.png")).unwrap();
    }
    let sum: f64 = own.iter().zip(other.as_raw()).map(|(a, b)| f64::from(a.abs_diff(*b))).sum();
    sum / own.len() as f64
}

#[test]
fn graphics_of_every_set_are_drawn_as_another_reader_draws_them() {
    let folder = tempfile::tempdir().unwrap();
    let mut worst = (0.0, String::new());
    let mut compared = 0;
    for set in GRAPHICS.sets() {
        for from in (0..set.count).step_by(set.count / 22) {
            let card = GRAPHICS.search("", Some(&set.id), from, 1).remove(0);
            let off = difference(&GRAPHICS.svg(&card.id).unwrap().0, folder.path());
            compared += 1;
            if off > worst.0 {
                worst = (off, card.id);
            }
        }
    }
    assert!(compared >= 60 && worst.0 <= 3.0, "{worst:?} of {compared}");
}

#[test]
fn groups_clips_masks_gradients_and_crooked_pens_are_drawn_alike() {
    let files = [
        // Clips: simple, and of several outlines. (librsvg passes over clips of clips.)
        r##"<defs><clipPath id="a"><circle cx="50" cy="50" r="40"/></clipPath><clipPath id="b"><rect x="0" y="0" width="50" height="100"/><rect x="60" y="20" width="30" height="60"/></clipPath></defs><g clip-path="url(#a)"><rect width="100" height="100" fill="#2b4a8b" clip-path="url(#b)"/></g>"##,
        // Masks by light and by alpha.
        r##"<defs><linearGradient id="g"><stop offset="0" stop-color="#fff"/><stop offset="1" stop-color="#000"/></linearGradient><mask id="m"><rect width="100" height="100" fill="url(#g)"/></mask><mask id="n" style="mask-type:alpha"><circle cx="30" cy="70" r="20" fill-opacity="0.5"/></mask></defs><rect width="100" height="60" fill="#8c5a3c" mask="url(#m)"/><rect y="40" width="100" height="60" fill="#23201d" mask="url(#n)"/>"##,
        // Gradients: box units, turned, skewed, of rings. (Rings are in units of the file: librsvg and the browser differ on mapped ones, and we draw as the browser does.)
        r##"<defs><linearGradient id="a" gradientTransform="rotate(30) skewX(20)"><stop offset="0" stop-color="#9db8a4"/><stop offset="1" stop-color="#2b4a8b" stop-opacity="0.4"/></linearGradient><radialGradient id="b" gradientUnits="userSpaceOnUse" cx="50" cy="72" r="30"><stop offset="0.2" stop-color="#f4efe6"/><stop offset="1" stop-color="#8c5a3c"/></radialGradient></defs><g transform="rotate(10 50 50)"><rect x="5" y="5" width="90" height="40" fill="url(#a)"/><ellipse cx="50" cy="72" rx="40" ry="22" fill="url(#b)" stroke="url(#a)" stroke-width="4"/></g>"##,
        // Faded and mixed groups, even-odd, use, styles.
        r##"<style>.c{fill:#9db8a4}</style><defs><path id="s" d="M10 10h40v40h-40zM20 20h20v20h-20z"/></defs><use href="#s" class="c" fill-rule="evenodd"/><g opacity="0.5"><use href="#s" x="30" y="30" fill="#2b4a8b" fill-rule="evenodd"/><circle cx="70" cy="30" r="20" fill="#8c5a3c"/></g><circle cx="45" cy="60" r="24" fill="#9db8a4" style="mix-blend-mode:multiply"/>"##,
        // Lines: dashes that begin elsewhere, pens made crooked, joins and ends.
        r##"<g fill="none" stroke="#23201d" stroke-width="6"><path d="M10 20H90" stroke-dasharray="12 6" stroke-dashoffset="7"/><circle cx="30" cy="30" r="18" transform="translate(0 30) scale(1.6 0.7)"/><path d="M60 60L75 90L90 60" stroke-linejoin="round" stroke-linecap="square" stroke-width="5"/></g>"##,
    ];
    let folder = tempfile::tempdir().unwrap();
    for (number, body) in files.iter().enumerate() {
        let svg = format!(
            r#"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="100" height="100">{body}</svg>"#
        );
        let off = difference(&svg, folder.path());
        assert!(off <= 3.0, "file {number} is {off:.2} of 255 off");
    }
}

/// Red and blue squares in a file of their own, as a link inside another.
fn squares() -> String {
    use base64::Engine as _;
    let pixels = image::RgbImage::from_fn(40, 40, |x, y| {
        if (x / 10 + y / 10) % 2 == 0 { image::Rgb([140, 90, 60]) } else { image::Rgb([43, 74, 139]) }
    });
    let mut png = std::io::Cursor::new(Vec::new());
    pixels.write_to(&mut png, image::ImageFormat::Png).unwrap();
    format!("data:image/png;base64,{}", base64::engine::general_purpose::STANDARD.encode(png.into_inner()))
}

#[test]
fn what_no_outline_can_be_is_drawn_where_it_stands_and_said() {
    let picture = squares();
    let files = [
        // A mask on a group that is moved and turned.
        (r##"<defs><mask id="m"><circle cx="40" cy="40" r="30" fill="#fff"/></mask></defs><g transform="translate(20 10) rotate(12) scale(0.8)"><g mask="url(#m)"><rect width="90" height="90" fill="#2b4a8b"/></g></g>"##.to_owned(), ""),
        // A symbol that is moved where it is made and where it is used.
        (r##"<defs><symbol id="s" viewBox="0 0 10 10"><rect x="1" y="1" width="8" height="8" fill="#8c5a3c"/></symbol></defs><use href="#s" x="10" y="20" width="40" height="40" transform="rotate(15 30 40)"/><use href="#s" x="55" y="55" width="30" height="30"/>"##.to_owned(), ""),
        (r##"<defs><pattern id="p" width="12" height="12" patternUnits="userSpaceOnUse" patternTransform="rotate(20)"><rect width="6" height="6" fill="#9db8a4"/><circle cx="9" cy="9" r="3" fill="#23201d"/></pattern></defs><g transform="scale(0.9)"><rect x="8" y="8" width="80" height="80" fill="url(#p)"/></g>"##.to_owned(), ""),
        // A blur stays what it is; what only pixels show is drawn.
        (r##"<defs><filter id="b" x="-30%" y="-30%" width="160%" height="160%"><feGaussianBlur stdDeviation="3"/></filter></defs><g transform="translate(10 0)"><circle cx="40" cy="45" r="25" fill="#2b4a8b" filter="url(#b)"/></g><rect x="70" y="70" width="20" height="20" fill="#8c5a3c"/>"##.to_owned(), ""),
        (r##"<defs><filter id="b" x="-30%" y="-30%" width="160%" height="160%"><feMorphology operator="dilate" radius="2"/></filter></defs><g transform="translate(10 0)"><circle cx="40" cy="45" r="25" fill="#2b4a8b" filter="url(#b)"/></g><rect x="70" y="70" width="20" height="20" fill="#8c5a3c"/>"##.to_owned(), "Filters"),
        (format!(r##"<g transform="translate(10 20) rotate(-8) scale(1.2 0.9)"><image x="5" y="5" width="50" height="50" href="{picture}"/></g><circle cx="80" cy="20" r="12" fill="#9db8a4"/>"##), "Pictures"),
    ];
    let folder = tempfile::tempdir().unwrap();
    let mut worst = (0.0, 0);
    for (number, (body, note)) in files.iter().enumerate() {
        let svg = format!(
            r#"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="100" height="100">{body}</svg>"#
        );
        let read = import_svg(svg.as_bytes(), "t", &WORLD.studio.typesetter.library()).unwrap();
        assert_eq!(
            read.notes.iter().any(|said| said.contains(note)),
            !note.is_empty() || !read.notes.is_empty(),
            "file {number}: {:?}",
            read.notes
        );
        assert_eq!(read.pictures.is_empty(), note.is_empty(), "file {number}");
        let off = difference(&svg, folder.path());
        worst = if off > worst.0 { (off, number) } else { worst };
    }
    assert!(worst.0 <= 3.0, "file {} is {:.2} of 255 off", worst.1, worst.0);
}

#[test]
fn shadows_stay_shadows_and_gradients_that_repeat_repeat() {
    let shadow = |steps: &str| {
        format!(
            r##"<defs><filter id="s" x="-30%" y="-30%" width="160%" height="160%">{steps}</filter></defs><g transform="rotate(5)"><g filter="url(#s)" opacity="0.8"><rect x="20" y="20" width="50" height="40" fill="#f4efe6"/><circle cx="60" cy="60" r="14" fill="#8c5a3c"/></g></g>"##
        )
    };
    let gradient = |kind: &str, beyond: &str| {
        format!(
            r##"<defs><{kind} spreadMethod="{beyond}"><stop offset="0" stop-color="#f4efe6"/><stop offset="1" stop-color="#2b4a8b"/></{}></defs><rect x="5" y="5" width="90" height="90" rx="9" fill="url(#g)"/>"##,
            &kind[..14]
        )
    };
    let straight = r#"linearGradient id="g" gradientUnits="userSpaceOnUse" x1="10" y1="0" x2="30" y2="10""#;
    let round = r#"radialGradient id="g" gradientUnits="userSpaceOnUse" cx="40" cy="50" r="18""#;
    let files = [
        shadow(r#"<feGaussianBlur in="SourceAlpha" stdDeviation="2"/><feOffset dx="4" dy="5"/><feMerge><feMergeNode/><feMergeNode in="SourceGraphic"/></feMerge>"#),
        shadow(r#"<feColorMatrix in="SourceAlpha" values="0 0 0 0 0.2 0 0 0 0 0.1 0 0 0 0 0.05 0 0 0 0.5 0"/><feOffset dy="4"/><feGaussianBlur stdDeviation="2"/><feBlend in="SourceGraphic"/>"#),
        shadow(r##"<feFlood flood-color="#8c5a3c" flood-opacity="0.7" result="ink"/><feOffset in="SourceAlpha" dx="6" result="moved"/><feComposite in="ink" in2="moved" operator="in" result="first"/><feGaussianBlur in="SourceAlpha" stdDeviation="3"/><feComponentTransfer result="second"><feFuncA type="linear" slope="0.4"/></feComponentTransfer><feMerge><feMergeNode in="second"/><feMergeNode in="first"/><feMergeNode in="SourceGraphic"/></feMerge>"##),
        // Most of this shadow lies outside the region of its filter.
        r##"<defs><filter id="s" x="0" y="0" width="1.1" height="1"><feOffset in="SourceAlpha" dx="9" dy="9"/><feMerge><feMergeNode/><feMergeNode in="SourceGraphic"/></feMerge></filter></defs><rect x="20" y="20" width="50" height="40" fill="#9db8a4" filter="url(#s)"/>"##.to_owned(),
        gradient(straight, "reflect"),
        gradient(straight, "repeat"),
        gradient(round, "reflect"),
        gradient(round, "repeat"),
    ];
    // The short way to write a shadow, which librsvg does not read before 2.55.
    let short =
        shadow(r##"<feDropShadow dx="-3" dy="4" stdDeviation="1.5" flood-color="#2b4a8b" flood-opacity="0.6"/>"##);
    let long = shadow(
        r##"<feGaussianBlur in="SourceAlpha" stdDeviation="1.5"/><feOffset dx="-3" dy="4" result="moved"/><feFlood flood-color="#2b4a8b" flood-opacity="0.6"/><feComposite in2="moved" operator="in"/><feMerge><feMergeNode/><feMergeNode in="SourceGraphic"/></feMerge>"##,
    );
    let folder = tempfile::tempdir().unwrap();
    let whole = |body: &str| {
        format!(
            r#"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="100" height="100">{body}</svg>"#
        )
    };
    assert!(difference_from(&whole(&short), &whole(&long), folder.path()) <= 2.0);
    for (number, body) in files.iter().enumerate() {
        let svg = whole(body);
        let read = import_svg(svg.as_bytes(), "t", &WORLD.studio.typesetter.library()).unwrap();
        assert!(read.notes.is_empty() && read.pictures.is_empty(), "file {number}: {:?}", read.notes);
        let off = difference(&svg, folder.path());
        assert!(off <= 2.0, "file {number} is {off:.2} of 255 off");
    }
}

#[test]
fn our_own_files_come_back_whole() {
    let job = WORLD.job(&["doorway"], &[("square-post", 1)], &crate::common::words());
    let files = vatman_craft::write_file(
        &WORLD.studio,
        &job,
        &job.pieces[0],
        &[],
        vatman_craft::HandOver::of(vatman_craft::FileKind::Svg),
    )
    .unwrap();
    let svg = String::from_utf8(files[0].bytes.clone()).unwrap();
    let read = import_svg(svg.as_bytes(), "t", &WORLD.studio.typesetter.library()).unwrap();
    assert!(!read.pictures.is_empty());
    let scene = WORLD.studio.scene(&job, &job.pieces[0], &job.pieces[0].sides[0], Audience::Output, None);
    let ours =
        WORLD.studio.pixels(&scene, PixelOptions { width: 540, height: 540, bleed: false, clear: false }).unwrap();
    let back = drawn(read, Size::new(540.0, 540.0));
    let ours = ours.flattened([255, 255, 255]);
    let off = ours.iter().zip(&back).map(|(a, b)| f64::from(a.abs_diff(*b))).sum::<f64>() / back.len() as f64;
    assert!(off <= 3.0, "{off:.2} of 255 off");
}

#[test]
fn files_are_read_in_the_letters_they_are_written_in() {
    let svg = r##"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 30 10"><desc>Töpferei</desc><rect id="größe" width="30" height="10" fill="#8c5a3c"/></svg>"##;
    let library = WORLD.studio.typesetter.library();
    let plain = import_svg(svg.as_bytes(), "t", &library).unwrap();
    let latin: Vec<u8> = svg.chars().map(|c| u8::try_from(u32::from(c)).unwrap()).collect();
    let little: Vec<u8> = [0xfe_ff_u16].into_iter().chain(svg.encode_utf16()).flat_map(u16::to_le_bytes).collect();
    let big: Vec<u8> = [0xfe_ff_u16].into_iter().chain(svg.encode_utf16()).flat_map(u16::to_be_bytes).collect();
    for (name, bytes) in [("Latin-1", latin), ("UTF-16, little end first", little), ("UTF-16, big end first", big)] {
        assert_eq!(import_svg(&bytes, "t", &library).unwrap(), plain, "{name}");
    }
    let circular = br##"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><g id="a"><rect width="5" height="5"/><use href="#a" x="2"/></g></svg>"##;
    assert_eq!(import_svg(circular, "t", &library).unwrap().drawing.parts.len(), 1, "what uses itself is drawn once");
    // Proportions are kept, whatever the size of the file.
    for (w, h) in [(17.3, 9.91), (1.0, 3.0), (640.0, 479.0)] {
        let svg = format!(
            r#"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {w} {h}"><rect width="1" height="1"/></svg>"#
        );
        let drawing = import_svg(svg.as_bytes(), "t", &library).unwrap().drawing;
        let ratio = f64::from(drawing.width) / f64::from(drawing.height);
        assert!((ratio / (w / h) - 1.0).abs() < 1e-4, "{w} by {h} became {} by {}", drawing.width, drawing.height);
    }
}

#[test]
fn what_could_do_harm_is_left_out_or_refused() {
    let read = |body: &str| {
        import_svg(format!(r#"<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 9 9">{body}</svg>"#).as_bytes(), "t", &WORLD.studio.typesetter.library())
    };
    let kept = read(r##"<script>alert(1)</script><rect width="9" height="9" onclick="x()"/><image href="file:///etc/passwd" width="9" height="9"/><foreignObject/>"##).unwrap();
    assert_eq!(kept.notes.len(), 3, "{:?}", kept.notes);
    assert_eq!(kept.drawing.parts.len(), 1);
    let bomb = br#"<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg"><text>&b;</text></svg>"#;
    assert!(import_svg(bomb, "t", &WORLD.studio.typesetter.library()).is_ok(), "a few entities harm nobody");
    let more: String = (b'b'..=b'k')
        .map(|c| format!("<!ENTITY {0} \"{1}\">", c as char, format!("&{};", (c - 1) as char).repeat(12)))
        .collect();
    let laughs = format!(
        r#"<!DOCTYPE svg [<!ENTITY a "aaaa">{more}]><svg xmlns="http://www.w3.org/2000/svg"><text>&k;</text></svg>"#
    );
    assert!(matches!(
        import_svg(laughs.as_bytes(), "t", &WORLD.studio.typesetter.library()),
        Err(SvgError::Beyond(SvgLimit::Unfolded))
    ));
    assert!(matches!(read("<rect"), Err(SvgError::Unreadable(_))));
    assert_eq!(read(r##"<image href="http://pots.example/a.png" width="9" height="9"/>"##), Err(SvgError::Empty));
    assert!(matches!(import_svg(&[0xff, 0xfe], "t", &WORLD.studio.typesetter.library()), Err(SvgError::Unreadable(_))));
    assert_eq!(
        import_svg(&vec![b' '; vatman_craft::SVG_BYTES + 1], "t", &WORLD.studio.typesetter.library()),
        Err(SvgError::TooLarge)
    );
    let words = read(r##"<text x="1" y="5" font-family="Lora" font-size="3">jar</text>"##).unwrap();
    assert!(words.notes.is_empty() && words.layers.len() == 1, "{:?}", words.notes);
    let lost = read(r##"<text x="1" y="5" font-family="Unheard Of" font-size="3">jar</text>"##).unwrap();
    assert!(lost.layers.is_empty() && lost.notes[0].contains("\u{201c}Unheard Of\u{201d}"), "{:?}", lost.notes);
    assert!(lost.notes[1].contains("outlines"), "{:?}", lost.notes);
}

#[test]
fn words_of_a_file_stay_words_where_they_stood() {
    let svg = br##"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300">
        <rect width="400" height="300" fill="#f4efe6"/>
        <text x="30" y="60" font-family="Lora" font-size="36" fill="#8c5a3c">Hands in <tspan font-weight="700" fill="#2b4a8b">clay</tspan></text>
        <text x="200" y="120" text-anchor="middle" font-family="jost" font-size="24">by ten</text>
        <circle cx="330" cy="70" r="40" fill="#9db8a4"/>
        <text x="370" y="180" text-anchor="end" font-family="Work Sans" font-size="20" letter-spacing="3">Harrowmere</text>
        <g transform="rotate(-20 100 250)"><text x="60" y="250" font-family="Oswald" font-size="30">Open studio</text></g>
        <g opacity="0.5"><text x="250" y="260" font-family="Lora" font-size="30">faded</text></g>
    </svg>"##;
    let read = import_svg(svg, "poster", &WORLD.studio.typesetter.library()).unwrap();
    let said: Vec<String> = read
        .layers
        .iter()
        .filter_map(|layer| if let Layer::Words { words } = layer { Some(words.text.text()) } else { None })
        .collect();
    assert_eq!(said, ["Hands in clay", "by ten", "Harrowmere", "Open studio"]);
    assert!(
        read.notes.iter().any(|note| note.contains("Some words")),
        "what is seen through something became an outline: {:?}",
        read.notes
    );
    // Both ways of taking the file in look the same.
    let picture = |layered: bool| {
        let mut job = Job::new(JobId::new("j").unwrap(), "t");
        job.pieces.push(
            Piece::new(
                PieceId::new("p").unwrap(),
                "p",
                Format::screen(800, 800),
                vec![Side::blank(SideId::new("s").unwrap(), "Front", None)],
            )
            .into(),
        );
        let mut ids = Counter(0);
        let command = if layered {
            let size = (read.drawing.width, read.drawing.height);
            vatman_craft::add_layers(
                &job,
                &job.pieces[0],
                &job.pieces[0].sides[0],
                (&read.layers, size),
                &WORLD.studio,
                &mut ids,
            )
            .0
        } else {
            vatman_craft::add(
                &job,
                &job.pieces[0],
                &job.pieces[0].sides[0],
                vatman_craft::Addition::Drawing(read.drawing.clone()),
                &vatman_craft::Inks::PLAIN,
                &mut ids,
            )
            .0
        };
        command.apply(&mut job, &*WORLD).unwrap();
        let scene = WORLD.studio.scene(&job, &job.pieces[0], &job.pieces[0].sides[0], Audience::Output, None);
        let pixels =
            WORLD.studio.pixels(&scene, PixelOptions { width: 800, height: 800, bleed: false, clear: false }).unwrap();
        let straight = pixels.straight();
        image::load_from_memory(&vatman_photo::encode_png(&straight, 96).unwrap()).unwrap().to_rgba8()
    };
    let off = crate::common::difference(&picture(true), &picture(false));
    assert!(off <= 0.3, "{off:.3} of 255 off");
}

#[test]
fn graphics_are_found_by_everyday_words() {
    assert!(GRAPHICS.sets().iter().map(|set| set.count).sum::<usize>() >= 5_000);
    let names = |query: &str| GRAPHICS.search(query, None, 0, 60).into_iter().map(|card| card.name).collect::<Vec<_>>();
    assert_eq!(names("rake")[0], "rake");
    assert_eq!(names("rakes")[0], "rake");
    for (typed, wanted) in [
        ("mug", "cup"),
        ("telephone", "phone"),
        ("mails", "mail"),
        ("pottery", "amphora"),
        ("leaves", "leaf"),
        ("shop", "store"),
        ("potted pl", "potted plant"),
    ] {
        assert!(names(typed).iter().any(|name| name.contains(wanted)), "{typed}: {:?}", names(typed));
    }
    assert!(names("zzyzx").is_empty());
    // Every further letter keeps what had the whole word.
    for end in 1..=4 {
        assert!(!names(&"rake"[..end]).is_empty());
    }
    let page = GRAPHICS.search("", Some("line"), 60, 60);
    assert!(page.len() == 60 && page.iter().all(|card| card.set == "line"));
}
