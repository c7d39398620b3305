//! What is on the stage is what leaves.

use serde_json::{Value, json};
use thirtyfour::prelude::*;
use vatman_journeys::{Browser, Served, handed};

use crate::treated::treated;
use crate::{TURN, program};

/// Mean absolute difference per channel over the part both pictures have, laid over white.
fn difference(a: &image::RgbaImage, b: &image::RgbaImage) -> f64 {
    let (w, h) = (a.width().min(b.width()), a.height().min(b.height()));
    let over_white = |p: &image::Rgba<u8>| {
        [0, 1, 2].map(|i| (f64::from(p[i]) * f64::from(p[3]) + 255.0 * f64::from(255 - p[3])) / 255.0)
    };
    let mut sum = 0.0;
    for y in 0..h {
        for x in 0..w {
            let (p, q) = (over_white(a.get_pixel(x, y)), over_white(b.get_pixel(x, y)));
            sum += (0..3).map(|i| (p[i] - q[i]).abs()).sum::<f64>();
        }
    }
    sum / f64::from(w * h * 3)
}

/// Opens every side of every job and holds what the browser shows against the PNG it leaves as; the worst difference and how many.
async fn compare(browser: &Browser, address: &str) -> WebDriverResult<(f64, String, usize)> {
    let get =
        |path: &str| -> Value { ureq::get(format!("{address}{path}")).call().unwrap().body_mut().read_json().unwrap() };
    let mut worst: (f64, String) = (0.0, String::new());
    let mut compared = 0;
    for card in get("/api/jobs").as_array().unwrap() {
        let id = card["id"].as_str().unwrap();
        let open = get(&format!("/api/jobs/{id}"));
        for piece in open["job"]["pieces"].as_array().unwrap() {
            let size = &piece["format"]["size"];
            // 9,525 fine units are a CSS pixel; large sheets are compared at 1,200 px, as a stage shows them.
            let wide = (size["w"].as_f64().unwrap() / 9_525.0).round().min(1_200.0);
            let high = (wide * size["h"].as_f64().unwrap() / size["w"].as_f64().unwrap()).round();
            let wish = json!({ "pieces": [piece["id"]], "kind": "png", "width": wide as u32 });
            let bytes = handed(address, id, &wish);
            let sides = piece["sides"].as_array().unwrap();
            for (index, side) in sides.iter().enumerate() {
                let exported = if sides.len() == 1 { bytes.clone() } else { unpacked(&bytes, index) };
                let exported = image::load_from_memory(&exported).unwrap().to_rgba8();
                browser.resize(wide as u32, high as u32).await?;
                browser
                    .driver()
                    .goto(format!("{address}/jobs/{id}/clean/{}?w={wide}", side["id"].as_str().unwrap()))
                    .await?;
                browser.find("svg.clean g[data-item]").await?;
                browser.pictures_arrive().await?;
                let shown = image::load_from_memory(&browser.driver().screenshot_as_png().await?).unwrap().to_rgba8();
                let covers =
                    i64::from(shown.width()) >= wide as i64 && i64::from(shown.height()) >= (high as i64).min(1_600);
                assert!(
                    covers,
                    "the screenshot of {} x {} misses parts of {wide} x {high}",
                    shown.width(),
                    shown.height()
                );
                let off = difference(&shown, &exported);
                let name = format!("{}, {} {}", open["job"]["title"], piece["name"], side["name"]);
                println!("{off:.2}  {name}");
                if off > 2.0 {
                    let folder = std::env::temp_dir().join("vatman-stage-differences");
                    std::fs::create_dir_all(&folder).unwrap();
                    shown.save(folder.join(format!("{compared}-stage.png"))).unwrap();
                    exported.save(folder.join(format!("{compared}-export.png"))).unwrap();
                }
                compared += 1;
                if off > worst.0 {
                    worst = (off, name);
                }
            }
        }
    }
    Ok((worst.0, worst.1, compared))
}

#[tokio::test(flavor = "multi_thread")]
async fn the_stage_shows_every_demo_piece_as_it_is_exported() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::start(program(), data.path(), 0);
    let browser = Browser::start(1280, 800).await?;
    let (off, name, compared) = compare(&browser, &served.address).await?;
    assert!(compared >= 20, "only {compared} sides were compared");
    assert!(off <= 2.0, "{name} is {off:.2} of 255 off");
    Ok(())
}

/// Puts the gallery and every step of the darkroom into a data file that has no jobs, so that no demo is added to it. Returns on how many
/// walls they hang.
fn hang_gallery(data: &std::path::Path) -> usize {
    let text = std::fs::read_to_string(concat!(env!("CARGO_MANIFEST_DIR"), "/gallery/job.json")).unwrap();
    let job = vatman_document::read_job(&text).unwrap();
    let store = vatman_server::Store::open(data).unwrap();
    // Opening the workshop puts the shipped pictures in place.
    let shop = vatman_server::Workshop::new(store).unwrap();
    shop.store.insert_job(&job, 1).unwrap();
    let (treated, walls) = treated();
    shop.store.insert_job(&treated, 2).unwrap();
    job.pieces.len() + walls
}

#[tokio::test(flavor = "multi_thread")]
async fn the_stage_shows_all_of_the_gallery_as_it_is_exported() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let hung = hang_gallery(data.path());
    let served = Served::start(program(), data.path(), 0);
    let browser = Browser::start(1280, 800).await?;
    let (off, name, compared) = compare(&browser, &served.address).await?;
    assert_eq!(compared, hung);
    assert!(off <= 2.0, "{name} is {off:.2} of 255 off");
    svg_alike(&browser, &served.address, data.path()).await?;
    Ok(())
}

/// The SVG files of the gallery look the same in the browser and in librsvg as the PNG, and its PDF keeps words and vectors.
async fn svg_alike(browser: &Browser, address: &str, folder: &std::path::Path) -> WebDriverResult<()> {
    let open: Value = ureq::get(format!("{address}/api/jobs/gallery")).call().unwrap().body_mut().read_json().unwrap();
    let file = |piece: &Value, kind: &str, width: Option<u32>| {
        let mut wish = json!({ "pieces": [piece["id"]], "kind": kind });
        if let Some(width) = width {
            wish["width"] = width.into();
        }
        handed(address, "gallery", &wish)
    };
    let mut worst = Vec::new();
    for piece in open["job"]["pieces"].as_array().unwrap() {
        let size = &piece["format"]["size"];
        let (wide, high) = (size["w"].as_f64().unwrap() / 9_525.0, size["h"].as_f64().unwrap() / 9_525.0);
        let png = image::load_from_memory(&file(piece, "png", Some(wide.round() as u32))).unwrap().to_rgba8();
        let name = piece["id"].as_str().unwrap();
        let svg = folder.join(format!("{name}.svg"));
        std::fs::write(&svg, file(piece, "svg", None)).unwrap();
        browser.resize(wide.round() as u32, high.round() as u32).await?;
        browser.driver().goto(format!("file://{}", svg.display())).await?;
        let shown = image::load_from_memory(&browser.driver().screenshot_as_png().await?).unwrap().to_rgba8();
        let other = folder.join(format!("{name}-rsvg.png"));
        let made = std::process::Command::new("rsvg-convert")
            .args(["-w", &wide.round().to_string(), "--unlimited"])
            .arg(&svg)
            .arg("-o")
            .arg(&other)
            .output()
            .unwrap();
        assert!(made.status.success(), "{}", String::from_utf8_lossy(&made.stderr));
        let other = image::open(&other).unwrap().to_rgba8();
        let pdf = folder.join(format!("{name}.pdf"));
        std::fs::write(&pdf, file(piece, "pdf", None)).unwrap();
        let stem = folder.join(format!("{name}-poppler"));
        let made = std::process::Command::new("pdftoppm")
            .args(["-png", "-singlefile", "-r", "96"])
            .arg(&pdf)
            .arg(&stem)
            .output()
            .unwrap();
        assert!(made.status.success(), "{}", String::from_utf8_lossy(&made.stderr));
        let printed = image::open(stem.with_extension("png")).unwrap().to_rgba8();
        for (reader, picture) in [("browser", &shown), ("librsvg", &other), ("poppler", &printed)] {
            let off = difference(picture, &png);
            println!("{off:.2}  {name} in {reader}");
            // poppler rounds the cells of patterns to pixels and mixes saturation in its own way.
            if off > if reader == "poppler" { 4.5 } else { 3.0 } {
                let keep = std::env::temp_dir().join("vatman-stage-differences");
                std::fs::create_dir_all(&keep).unwrap();
                picture.save(keep.join(format!("{name}-{reader}.png"))).unwrap();
                png.save(keep.join(format!("{name}-export.png"))).unwrap();
                worst.push(format!("{name} in {reader}: {off:.2}"));
            }
        }
    }
    assert!(worst.is_empty(), "{worst:?}");
    let words = open["job"]["pieces"].as_array().unwrap().iter().find(|piece| piece["id"] == "words").unwrap();
    let pdf = folder.join("words.pdf");
    std::fs::write(&pdf, file(words, "pdf", None)).unwrap();
    let read = |program: &str, args: &[&str]| {
        let out = std::process::Command::new(program)
            .args(args)
            .arg(&pdf)
            .args(if program == "pdftotext" { &["-"][..] } else { &[] })
            .output()
            .unwrap();
        assert!(out.status.success(), "{program}: {}", String::from_utf8_lossy(&out.stderr));
        String::from_utf8_lossy(&out.stdout).into_owned()
    };
    let text = read("pdftotext", &["-raw"]);
    for line in ["Book a wheel", "Largest that fits", "Bring an apron", "1.", "Both edges of these lines are even"] {
        assert!(text.contains(line), "{line} is not in the text of the PDF: {text}");
    }
    assert!(read("pdfimages", &["-list"]).lines().count() <= 4, "only the one shadow and its mask are pixels");
    read("qpdf", &["--check"]);
    let scripts = open["job"]["pieces"].as_array().unwrap().iter().find(|piece| piece["id"] == "scripts").unwrap();
    std::fs::write(&pdf, file(scripts, "pdf", None)).unwrap();
    let text = read("pdftotext", &["-raw"]);
    for word in [
        "\u{adf8}\u{b987}",
        "\u{624b}\u{5de5}\u{9676}\u{5668}",
        "\u{3ba}\u{3b5}\u{3c1}\u{3b1}\u{3bc}\u{3b9}\u{3ba}\u{3ac}",
        "Samstagvormittag",
    ] {
        assert!(text.contains(word), "{word} is not in the text of the PDF: {text}");
    }
    Ok(())
}

fn unpacked(archive: &[u8], index: usize) -> Vec<u8> {
    let mut archive = zip::ZipArchive::new(std::io::Cursor::new(archive)).unwrap();
    let mut out = Vec::new();
    std::io::Read::read_to_end(&mut archive.by_index(index).unwrap(), &mut out).unwrap();
    out
}
