//! What is on the stage is what leaves.

use serde_json::{Value, json};
use thirtyfour::prelude::*;
use vatman_journeys::{Browser, Served};

use crate::{TURN, program};

/// Mean absolute difference per channel over the part both pictures have, laid over white.
fn difference(a: &image::RgbaImage, b: &image::RgbaImage) -> f64 {
    let (w, h) = (a.width().min(b.width()), a.height().min(b.height()));
    let over_white = |p: &image::Rgba<u8>| [0, 1, 2].map(|i| (f64::from(p[i]) * f64::from(p[3]) + 255.0 * f64::from(255 - p[3])) / 255.0);
    let mut sum = 0.0;
    for y in 0..h {
        for x in 0..w {
            let (p, q) = (over_white(a.get_pixel(x, y)), over_white(b.get_pixel(x, y)));
            sum += (0..3).map(|i| (p[i] - q[i]).abs()).sum::<f64>();
        }
    }
    sum / f64::from(w * h * 3)
}

#[tokio::test(flavor = "multi_thread")]
async fn the_stage_shows_every_demo_piece_as_it_is_exported() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::start(program(), data.path(), 0);
    let browser = Browser::start(1280, 800).await?;
    let address = served.address.clone();
    let get = |path: &str| -> Value { ureq::get(format!("{address}{path}")).call().unwrap().body_mut().read_json().unwrap() };
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
            let mut response = ureq::post(format!("{address}/api/jobs/{id}/files")).send_json(json!({ "pieces": [piece["id"]], "kind": "png", "width": wide as u32 })).unwrap();
            let bytes = response.body_mut().with_config().limit(64 << 20).read_to_vec().unwrap();
            let sides = piece["sides"].as_array().unwrap();
            for (index, side) in sides.iter().enumerate() {
                let exported = if sides.len() == 1 { bytes.clone() } else { unpacked(&bytes, index) };
                let exported = image::load_from_memory(&exported).unwrap().to_rgba8();
                browser.resize(wide as u32, high as u32).await?;
                browser.driver().goto(format!("{address}/jobs/{id}/clean/{}?w={wide}", side["id"].as_str().unwrap())).await?;
                browser.find("svg.clean g[data-item]").await?;
                browser.pictures_arrive().await?;
                let shown = image::load_from_memory(&browser.driver().screenshot_as_png().await?).unwrap().to_rgba8();
                let covers = i64::from(shown.width()) >= wide as i64 && i64::from(shown.height()) >= (high as i64).min(1_600);
                assert!(covers, "the screenshot of {} x {} misses parts of {wide} x {high}", shown.width(), shown.height());
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
    assert!(compared >= 20, "only {compared} sides were compared");
    assert!(worst.0 <= 2.0, "{} is {:.2} of 255 off", worst.1, worst.0);
    Ok(())
}

fn unpacked(archive: &[u8], index: usize) -> Vec<u8> {
    let mut archive = zip::ZipArchive::new(std::io::Cursor::new(archive)).unwrap();
    let mut out = Vec::new();
    std::io::Read::read_to_end(&mut archive.by_index(index).unwrap(), &mut out).unwrap();
    out
}
