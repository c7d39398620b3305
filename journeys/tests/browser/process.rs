//! The program as people run it: the command line, being killed in the middle of work, and how much memory it takes.

use std::process::{Command, Output};
use std::sync::Arc;
use std::sync::atomic::{AtomicI64, Ordering};

use serde_json::{Value, json};
use vatman_journeys::{Served, handed, try_post};

use crate::program;

fn run(arguments: &[&str]) -> Output {
    Command::new(program()).args(arguments).output().unwrap()
}

fn text(bytes: &[u8]) -> String {
    String::from_utf8_lossy(bytes).into_owned()
}

#[test]
fn a_kill_in_the_middle_of_editing_loses_no_acknowledged_edit() {
    let folder = tempfile::tempdir().unwrap();
    let mut served = Served::bare(program(), folder.path());
    let id = served.post("/api/jobs", &json!({ "design": "label", "places": ["card"], "words": { "headline": "0" } }))
        ["id"]
        .as_str()
        .unwrap()
        .to_owned();
    for round in 1..=3 {
        let path = format!("/api/jobs/{id}/acts");
        let start = served.get(&format!("/api/jobs/{id}"))["revision"].as_i64().unwrap();
        let acknowledged = Arc::new(AtomicI64::new(start));
        let writer = std::thread::spawn({
            let (address, acknowledged) = (served.address.clone(), Arc::clone(&acknowledged));
            move || {
                for base in start.. {
                    let edit =
                        json!({ "base": base, "act": { "act": "setTitle", "title": format!("at {}", base + 1) } });
                    let Some(answer) = try_post(&address, &path, &edit) else { return };
                    acknowledged.store(answer["revision"].as_i64().unwrap(), Ordering::SeqCst);
                }
            }
        });
        while acknowledged.load(Ordering::SeqCst) < start + 15 * round {
            std::thread::yield_now();
        }
        served.kill();
        writer.join().unwrap();
        let last = acknowledged.load(Ordering::SeqCst);
        served = Served::bare(program(), folder.path());
        let open = served.get(&format!("/api/jobs/{id}"));
        let kept = open["revision"].as_i64().unwrap();
        // One more may have been kept whose answer the kill cut off.
        assert!(kept == last || kept == last + 1, "acknowledged {last}, kept {kept}");
        assert_eq!(open["job"]["title"], format!("at {kept}"));
        let undone = served.post(&format!("/api/jobs/{id}/acts"), &json!({ "base": kept, "act": { "act": "undo" } }));
        assert_eq!(undone["delta"]["title"], format!("at {}", kept - 1), "the history was kept with the edit");
        let _ = served.post(&format!("/api/jobs/{id}/acts"), &json!({ "base": kept + 1, "act": { "act": "redo" } }));
    }
}

#[test]
fn an_address_others_can_reach_is_refused_with_the_reason() {
    let folder = tempfile::tempdir().unwrap();
    for address in ["0.0.0.0:7420", "192.168.1.5:80", "[::]:7420"] {
        let out = run(&["serve", "--bind", address, "--data", &folder.path().to_string_lossy()]);
        assert_eq!(out.status.code(), Some(2));
        assert!(text(&out.stderr).contains("no accounts yet"), "{}", text(&out.stderr));
    }
}

#[test]
fn jobs_are_listed_and_exported_as_the_server_does() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("data");
    let data_text = data.to_string_lossy().into_owned();
    let served = Served::start(program(), &data, 0);
    let listed = run(&["jobs", "--data", &data_text]);
    assert!(listed.status.success());
    let lines: Vec<_> = text(&listed.stdout).lines().map(str::to_owned).collect();
    assert!(lines.len() >= 8 && lines.iter().all(|line| line.split('\t').count() == 3), "{lines:?}");
    let id =
        lines.iter().find(|line| line.ends_with("\tBusiness card")).unwrap().split('\t').next().unwrap().to_owned();

    let open = served.get(&format!("/api/jobs/{id}"));
    let piece = open["job"]["pieces"][0]["id"].as_str().unwrap();
    let by_server = handed(&served.address, &id, &json!({ "pieces": [piece], "kind": "pdf" }));
    let out = folder.path().join("card.pdf");
    let exported = run(&[
        "export",
        "--data",
        &data_text,
        "--job",
        "business CARD",
        "--piece",
        "Card",
        "--as",
        "pdf",
        "--out",
        &out.to_string_lossy(),
    ]);
    assert!(exported.status.success(), "{}", text(&exported.stderr));
    assert!(std::fs::read(&out).unwrap() == by_server, "the two files differ");

    let several = folder.path().join("all");
    let exported =
        run(&["export", "--data", &data_text, "--job", &id, "--as", "png", "--out", &several.to_string_lossy()]);
    assert!(exported.status.success(), "{}", text(&exported.stderr));
    assert_eq!(std::fs::read_dir(&several).unwrap().count(), 2, "front and back");
}

#[test]
fn mistakes_in_a_call_say_what_is_meant() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().to_string_lossy().into_owned();
    let out = folder.path().join("x.png").to_string_lossy().into_owned();
    let missing = run(&["jobs", "--data", &data]);
    assert_eq!((missing.status.code(), text(&missing.stderr).contains("no data file")), (Some(2), true));
    drop(Served::start(program(), folder.path(), 0));
    for (arguments, said) in [
        (vec!["export", "--data", &data, "--job", "Nothing", "--as", "png", "--out", &out], "There is no job"),
        (
            vec![
                "export",
                "--data",
                &data,
                "--job",
                "Business card",
                "--piece",
                "Poster",
                "--as",
                "png",
                "--out",
                &out,
            ],
            "It has: Card.",
        ),
        (vec!["export", "--data", &data, "--job", "Business card", "--as", "bmp", "--out", &out], "possible values"),
        (vec!["serve", "--bind", "nowhere"], "invalid value"),
    ] {
        let refused = run(&arguments);
        assert_eq!(refused.status.code(), Some(2), "{arguments:?}");
        assert!(text(&refused.stderr).contains(said), "{}", text(&refused.stderr));
    }
    let unwritable =
        run(&["export", "--data", &data, "--job", "Business card", "--as", "pdf", "--out", "/nowhere/at/all.pdf"]);
    assert_eq!(unwritable.status.code(), Some(1));
    assert!(text(&unwritable.stderr).contains("cannot be written"));
}

#[test]
fn a_damaged_data_file_is_refused_in_plain_words() {
    let folder = tempfile::tempdir().unwrap();
    std::fs::write(
        folder.path().join("vatman.sqlite"),
        b"this is not a database, not at all, but it is long enough to be looked at as one",
    )
    .unwrap();
    let out = run(&["jobs", "--data", &folder.path().to_string_lossy()]);
    assert_eq!(out.status.code(), Some(1));
    let said = text(&out.stderr);
    assert!(said.contains("is damaged") && said.contains("vatman.sqlite") && said.contains("copy of it"), "{said}");
}

#[test]
fn what_would_be_left_out_is_said_on_export() {
    let folder = tempfile::tempdir().unwrap();
    {
        let served = Served::bare(program(), folder.path());
        let id = served.post("/api/jobs", &json!({ "design": null, "places": ["square-post"], "words": {} }))["id"]
            .as_str()
            .unwrap()
            .to_owned();
        let side = served.get(&format!("/api/jobs/{id}"))["job"]["pieces"][0]["sides"][0]["id"].clone();
        let add = |base: u64, what: Value| {
            served.post(
                &format!("/api/jobs/{id}/acts"),
                &json!({ "base": base, "act": { "act": "add", "side": side, "what": what } }),
            )
        };
        add(1, json!({ "kind": "picture", "picture": null }));
        add(2, json!({ "kind": "words", "part": "headline" }));
    }
    let out = folder.path().join("post.png");
    let data = folder.path().to_string_lossy().into_owned();
    let export =
        run(&["export", "--data", &data, "--job", "New square post", "--as", "png", "--out", &out.to_string_lossy()]);
    assert!(export.status.success() && out.exists(), "{}", text(&export.stderr));
    let said = text(&export.stderr);
    assert!(
        said.contains("Note: ") && said.contains("is empty and will not leave") && said.contains("has no words yet"),
        "{said}"
    );
}

#[test]
fn a_second_server_on_the_same_folder_is_refused_with_the_reason() {
    let folder = tempfile::tempdir().unwrap();
    let mut first = Served::bare(program(), folder.path());
    let data = folder.path().to_string_lossy().into_owned();
    let second = run(&["serve", "--bind", "127.0.0.1:0", "--data", &data]);
    assert_eq!(second.status.code(), Some(1));
    let said = text(&second.stderr);
    assert!(said.contains("Another Vatman is running") && said.contains(&data), "{said}");
    // Looking at the jobs and exporting them is not serving.
    assert!(run(&["jobs", "--data", &data]).status.success());
    // A server that was killed does not keep the folder.
    first.kill();
    drop(Served::bare(program(), folder.path()));
}

#[test]
fn a_folder_that_cannot_be_used_is_named_with_what_to_do() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("a-file");
    std::fs::write(&file, "x").unwrap();
    let inside = folder.path().join("taken");
    std::fs::create_dir_all(inside.join("vatman.sqlite")).unwrap();
    for (path, why) in [(&file, "it is a file, not a folder"), (&inside, "is a folder, not a file")] {
        let out = run(&["serve", "--bind", "127.0.0.1:0", "--data", &path.to_string_lossy()]);
        assert_eq!(out.status.code(), Some(1));
        let said = text(&out.stderr);
        assert!(said.contains(why) && said.contains(&*path.to_string_lossy()) && said.contains("--data"), "{said}");
    }
}

#[test]
fn any_loopback_address_that_is_bound_also_answers() {
    let folder = tempfile::tempdir().unwrap();
    let served = Served::at(program(), folder.path(), "127.0.0.2:0", false);
    assert_eq!(served.get("/api/jobs"), json!([]));
}

/// The most memory a process has held so far, in bytes.
fn most_memory(process: u32) -> u64 {
    let status = std::fs::read_to_string(format!("/proc/{process}/status")).unwrap();
    let line = status.lines().find_map(|line| line.strip_prefix("VmHWM:")).unwrap();
    line.trim().trim_end_matches(" kB").trim().parse::<u64>().unwrap() * 1_024
}

#[test]
fn four_large_pictures_at_once_stay_within_the_budget() {
    let folder = tempfile::tempdir().unwrap();
    let served = Served::bare(program(), folder.path());
    let uploads: Vec<_> = (0..4u8)
        .map(|number| {
            // 100 megapixels, each picture another.
            let pixels = image::GrayImage::from_fn(10_000, 10_000, |x, y| {
                image::Luma([((x / 500 + y / 700) as u8).wrapping_mul(17).wrapping_add(number)])
            });
            let mut jpeg = std::io::Cursor::new(Vec::new());
            pixels.write_to(&mut jpeg, image::ImageFormat::Jpeg).unwrap();
            let address = format!("{}/api/pictures?name=large-{number}.jpg", served.address);
            std::thread::spawn(move || {
                ureq::post(address)
                    .header(vatman_server::OWN_HEADER, "1")
                    .send(jpeg.into_inner())
                    .map(|answer| answer.status())
            })
        })
        .collect();
    for upload in uploads {
        assert!(upload.join().unwrap().unwrap().is_success());
    }
    let shelf = served.get("/api/pictures");
    let large = shelf.as_array().unwrap().iter().filter(|picture| picture["width"] == 10_000);
    assert_eq!(large.count(), 4);
    let most = most_memory(served.process());
    assert!(most < 1 << 30, "{} MiB", most >> 20);
}

#[test]
fn pictures_are_developed_by_a_recipe_on_the_command_line() {
    let folder = tempfile::tempdir().unwrap();
    let path = |name: &str| folder.path().join(name).to_str().unwrap().to_owned();
    let mut picture = image::RgbImage::new(90, 60);
    for (x, y, pixel) in picture.enumerate_pixels_mut() {
        *pixel = image::Rgb([(x * 2) as u8, 90, 200 - y as u8]);
    }
    picture.save(path("in.png")).unwrap();
    let develop = |recipe: &str, out: &str| run(&["develop", &path("in.png"), "--recipe", recipe, "--out", &path(out)]);
    let done = develop("plain grey", "grey.jpg");
    assert!(done.status.success(), "{}", text(&done.stderr));
    let grey = image::open(path("grey.jpg")).unwrap().to_rgb8();
    assert_eq!(grey.dimensions(), (90, 60));
    assert!(grey.pixels().all(|p| p[0].abs_diff(p[2]) < 10));
    // A file of one's own; the original stays as it is, and the same again is the same.
    let recipe = r#"{"recipe":1,"name":"Half as light","steps":[{"develop":{"kind":"exposure","ev":-1000000000},"amount":1000000000,"on":true}]}"#;
    std::fs::write(path("own.json"), recipe).unwrap();
    let before = std::fs::read(path("in.png")).unwrap();
    for out in ["one.png", "two.png"] {
        assert!(develop(&path("own.json"), out).status.success());
    }
    assert_eq!(std::fs::read(path("one.png")).unwrap(), std::fs::read(path("two.png")).unwrap());
    assert_eq!(std::fs::read(path("in.png")).unwrap(), before);
    let dark = image::open(path("one.png")).unwrap().to_rgb8();
    assert!(dark.get_pixel(80, 10)[0] < picture.get_pixel(80, 10)[0]);
    let palette = run(&["palette", &path("in.png"), "-n", "3"]);
    let colors = text(&palette.stdout);
    assert!(colors.lines().count() <= 3 && colors.lines().all(|line| line.starts_with('#')), "{colors}");
    // What cannot be done is said in a sentence.
    std::fs::write(path("newer.json"), recipe.replace("\"recipe\":1", "\"recipe\":9")).unwrap();
    for (recipe, out, says) in [
        (path("newer.json"), "x.png", "newer version"),
        (path("none.json"), "x.png", "cannot be read"),
        (path("own.json"), "x.txt", "should end in"),
        (path("in.png"), "x.png", "cannot be read"),
    ] {
        let failed = develop(&recipe, out);
        assert_eq!(failed.status.code(), Some(1), "{recipe}");
        assert!(text(&failed.stderr).contains(says), "{}", text(&failed.stderr));
    }
}

#[test]
fn a_recipe_goes_through_a_code_on_the_command_line() {
    let folder = tempfile::tempdir().unwrap();
    let path = |name: &str| folder.path().join(name).to_str().unwrap().to_owned();
    let recipe = r#"{"recipe":1,"name":"Mine","steps":[{"develop":{"kind":"exposure","ev":-700000000},"amount":1000000000,"on":true}]}"#;
    std::fs::write(path("own.json"), recipe).unwrap();
    let said = run(&["recipe", "--to-code", &path("own.json"), "--out", &path("code.png")]);
    assert!(
        said.status.success() && text(&said.stdout).contains("The whole recipe is in it"),
        "{}",
        text(&said.stdout)
    );
    // As a camera leaves it: smaller, and as a JPEG.
    let code = image::open(path("code.png")).unwrap().resize(300, 300, image::imageops::FilterType::Triangle);
    code.to_rgb8().save(path("taken.jpg")).unwrap();
    let read = run(&["recipe", "--from-code", &path("taken.jpg"), "--out", &path("back.json")]);
    assert!(read.status.success(), "{}", text(&read.stderr));
    let [was, is] = ["own.json", "back.json"].map(|name| std::fs::read_to_string(path(name)).unwrap());
    let value = |json: &str| serde_json::from_str::<Value>(json).unwrap();
    assert_eq!(value(&is), value(&was));
    image::RgbImage::from_pixel(80, 60, image::Rgb([200, 190, 180])).save(path("even.png")).unwrap();
    let none = run(&["recipe", "--from-code", &path("even.png"), "--out", &path("x.json")]);
    assert!(
        none.status.code() == Some(1) && text(&none.stderr).contains("No code was found"),
        "{}",
        text(&none.stderr)
    );
    assert_eq!(run(&["recipe", "--out", &path("x.json")]).status.code(), Some(2), "neither was asked");
}

#[test]
fn the_subject_of_a_picture_is_cut_out_on_the_command_line() {
    let folder = tempfile::tempdir().unwrap();
    let path = |name: &str| folder.path().join(name).to_str().unwrap().to_owned();
    // A dark disc with a hole, and a small one beside it, on a ground that gets lighter.
    let disc = |x: u32, y: u32, cx: f64, cy: f64| (f64::from(x) - cx).hypot(f64::from(y) - cy);
    let inside = |x: u32, y: u32| (20.0..60.0).contains(&disc(x, y, 120.0, 100.0));
    let picture = image::RgbImage::from_fn(260, 200, |x, y| {
        if inside(x, y) {
            image::Rgb([150, 60, 40])
        } else {
            image::Rgb([190 + (x / 8) as u8, 205, 200 + (y / 8) as u8])
        }
    });
    picture.save(path("in.png")).unwrap();
    let done = run(&["cutout", &path("in.png"), "--out", &path("out.png"), "--mask-out", &path("mask.png")]);
    assert!(done.status.success(), "{}", text(&done.stderr));
    let out = image::open(path("out.png")).unwrap().to_rgba8();
    let mask = image::open(path("mask.png")).unwrap().to_luma8();
    assert_eq!((out.dimensions(), mask.dimensions()), ((260, 200), (260, 200)));
    let right = mask.enumerate_pixels().filter(|(x, y, value)| (value.0[0] > 127) == inside(*x, *y)).count();
    assert!(right * 100 > 99 * 260 * 200, "{right} of {} pixels", 260 * 200);
    assert!(out.get_pixel(120, 100)[3] == 0 && out.get_pixel(160, 100)[3] == 255 && out.get_pixel(5, 5)[3] == 0);
    // A place that is named belongs to it.
    let kept = run(&["cutout", &path("in.png"), "--out", &path("kept.png"), "--keep", "230,30"]);
    assert!(kept.status.success(), "{}", text(&kept.stderr));
    assert_eq!(image::open(path("kept.png")).unwrap().to_rgba8().get_pixel(230, 30)[3], 255);
    image::RgbImage::from_pixel(80, 60, image::Rgb([200, 190, 180])).save(path("even.png")).unwrap();
    for (args, says) in [
        (vec!["cutout", &path("even.png"), "--out", &path("x.png")], "No subject was found"),
        (vec!["cutout", &path("in.png"), "--out", &path("x.png"), "--keep", "900,3"], "no place in the picture"),
        (vec!["cutout", &path("none.png"), "--out", &path("x.png")], "cannot be read"),
    ] {
        let failed = run(&args);
        assert_eq!(failed.status.code(), Some(1), "{args:?}");
        assert!(text(&failed.stderr).contains(says), "{}", text(&failed.stderr));
    }
}
