//! The HTTP interface over a real data file.

#![allow(clippy::unwrap_used, reason = "a failed step is a failed test")]

use actix_web::body::MessageBody;
use actix_web::dev::ServiceResponse;
use actix_web::http::StatusCode;
use actix_web::test::{TestRequest, call_service, init_service, read_body};
use actix_web::web::Data;
use actix_web::{App, http::header};
use serde_json::{Value, json};
use tempfile::TempDir;
use vatman_server::{OWN_HEADER, Store, Workshop, api};

fn workshop(folder: &TempDir) -> Data<Workshop> {
    let workshop = Workshop::new(Store::open(folder.path()).unwrap()).unwrap();
    Data::new(workshop)
}

/// The real routes on a workshop.
macro_rules! app {
    ($shop:expr) => {
        init_service(App::new().app_data($shop.clone()).configure(api::configure)).await
    };
}

fn get(path: &str) -> TestRequest {
    TestRequest::get().uri(path).insert_header((header::HOST, "127.0.0.1:7420"))
}

fn post(path: &str, body: &Value) -> TestRequest {
    TestRequest::post()
        .uri(path)
        .insert_header((header::HOST, "127.0.0.1:7420"))
        .insert_header((OWN_HEADER, "1"))
        .set_json(body)
}

async fn json_of(response: ServiceResponse<impl MessageBody>) -> Value {
    let body = read_body(response).await;
    serde_json::from_slice(&body).unwrap_or_else(|_| panic!("not JSON: {}", String::from_utf8_lossy(&body)))
}

macro_rules! ok {
    ($app:expr, $request:expr) => {{
        let response = call_service(&$app, $request.to_request()).await;
        let status = response.status();
        let body = json_of(response).await;
        assert!(status.is_success(), "{status}: {body}");
        body
    }};
}

/// A problem report: its status, media type and sentence are checked.
macro_rules! problem {
    ($app:expr, $request:expr, $status:expr) => {{
        let response = call_service(&$app, $request.to_request()).await;
        assert_eq!(response.status(), $status);
        assert_eq!(response.headers().get(header::CONTENT_TYPE).unwrap(), "application/problem+json");
        let body = json_of(response).await;
        let sentence = body["detail"].as_str().unwrap();
        assert!(sentence.ends_with('.') && sentence.contains(' '), "no plain sentence: {sentence}");
        assert_eq!(body["status"], $status.as_u16());
        body
    }};
}

macro_rules! new_job {
    ($app:expr) => {{
        let wish = json!({ "design": "doorway", "places": ["square-post", "story"], "words": { "headline": "Hands in clay by ten.", "when": "Saturday, 10 to 1" } });
        let id = ok!($app, post("/api/jobs", &wish))["id"].as_str().unwrap().to_owned();
        let open = ok!($app, get(&format!("/api/jobs/{id}")));
        (id, open)
    }};
}

/// Starts a hand-over and waits until it is made; its identity.
macro_rules! made {
    ($app:expr, $id:expr, $wish:expr) => {{
        let work = ok!($app, post(&format!("/api/jobs/{}/files", $id), &$wish))["id"].as_str().unwrap().to_owned();
        loop {
            let card = ok!($app, get(&format!("/api/work/{work}")));
            match card["state"]["is"].as_str().unwrap() {
                "done" => break,
                "waiting" | "running" => std::thread::sleep(std::time::Duration::from_millis(10)),
                _ => panic!("{card}"),
            }
        }
        work
    }};
}

mod composing;
mod living;

fn title(base: u64, title: &str) -> Value {
    json!({ "base": base, "act": { "act": "setTitle", "title": title } })
}

fn kin_of(open: &Value, part: &str) -> String {
    open["job"]["kins"].as_object().unwrap().iter().find(|(_, kin)| kin["part"] == part).unwrap().0.clone()
}

/// The item of the first side that has a kin.
fn item_with(open: &Value, kin: &str) -> String {
    let items = first_side(open)["items"].as_array().unwrap();
    items.iter().find(|item| item["kin"] == kin).unwrap()["id"].as_str().unwrap().to_owned()
}

fn first_side(open: &Value) -> &Value {
    &open["job"]["pieces"][0]["sides"][0]
}

#[actix_web::test]
async fn a_job_is_named_from_its_headline_and_says_what_was_asked() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (_, open) = new_job!(app);
    assert_eq!(open["job"]["title"], "Hands in clay by ten.");
    assert_eq!(open["job"]["pieces"].as_array().unwrap().len(), 2);
    let kin = kin_of(&open, "headline");
    assert_eq!(open["job"]["kins"][&kin]["content"]["text"][0]["text"], "Hands in clay by ten.");
}

#[actix_web::test]
async fn an_edit_answers_with_the_changed_nodes_only_and_both_pieces_say_the_new_words() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let (kin, side) = (kin_of(&open, "headline"), first_side(&open)["id"].clone());
    let item = item_with(&open, &kin);
    let request = json!({ "base": 1, "watch": side, "act": { "act": "say", "item": item, "text": "Made slow." } });
    let answer = ok!(app, post(&format!("/api/jobs/{id}/acts"), &request));
    assert_eq!(answer["revision"], 2);
    assert_eq!(answer["stage"]["items"].as_array().unwrap().len(), 1, "one item changed");
    assert_eq!(answer["delta"]["touched"].as_array().unwrap().len(), 2, "both pieces say it");
    let svg = answer["stage"]["items"][0]["svg"].as_str().unwrap();
    assert!(svg.contains("aria-label=\"Made slow.\"") && svg.contains("<path d=\"M"), "{svg}");
}

#[actix_web::test]
async fn undo_and_redo_outlive_the_program() {
    let folder = tempfile::tempdir().unwrap();
    let (id, before) = {
        let shop = workshop(&folder);
        let app = app!(shop);
        let (id, open) = new_job!(app);
        for (base, name) in [(1, "One"), (2, "Two"), (3, "Three")] {
            ok!(app, post(&format!("/api/jobs/{id}/acts"), &title(base, name)));
        }
        let undone = ok!(app, post(&format!("/api/jobs/{id}/acts"), &json!({ "base": 4, "act": { "act": "undo" } })));
        assert_eq!((undone["delta"]["title"].as_str(), undone["canRedo"].as_bool()), (Some("Two"), Some(true)));
        (id, open["job"].clone())
    };
    let shop = workshop(&folder);
    let app = app!(shop);
    let path = format!("/api/jobs/{id}/acts");
    assert_eq!(ok!(app, post(&path, &json!({ "base": 5, "act": { "act": "redo" } })))["delta"]["title"], "Three");
    for base in 6..9 {
        ok!(app, post(&path, &json!({ "base": base, "act": { "act": "undo" } })));
    }
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    assert_eq!(open["job"], before, "everything undone is the job as it began");
    assert_eq!(open["canUndo"], false);
    problem!(app, post(&path, &json!({ "base": 9, "act": { "act": "undo" } })), StatusCode::UNPROCESSABLE_ENTITY);
    // A new act gives up what waited to be redone.
    let answer = ok!(app, post(&path, &title(9, "Four")));
    assert_eq!((answer["canUndo"].as_bool(), answer["canRedo"].as_bool()), (Some(true), Some(false)));
}

#[actix_web::test]
async fn what_is_typed_in_one_go_is_undone_in_one_go() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let (kin, path) = (kin_of(&open, "headline"), format!("/api/jobs/{id}/acts"));
    for (base, text) in [(1, "M"), (2, "Ma"), (3, "Made")] {
        let item = item_with(&open, &kin);
        let request = json!({ "base": base, "gesture": "g", "act": { "act": "say", "item": item, "text": text } });
        ok!(app, post(&path, &request));
    }
    let undone = ok!(app, post(&path, &json!({ "base": 4, "act": { "act": "undo" } })));
    assert_eq!(undone["delta"]["kins"][&kin]["content"]["text"][0]["text"], "Hands in clay by ten.");
    assert_eq!(undone["canUndo"], false);
}

#[actix_web::test]
async fn a_stale_window_is_told_and_overwrites_nothing() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, _) = new_job!(app);
    let path = format!("/api/jobs/{id}/acts");
    ok!(app, post(&path, &title(1, "From the first window")));
    let told = problem!(app, post(&path, &title(1, "From the stale window")), StatusCode::CONFLICT);
    assert_eq!((told["type"].as_str(), told["revision"].as_i64()), (Some("stale"), Some(2)));
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}")))["job"]["title"], "From the first window");
}

#[actix_web::test]
async fn senseless_requests_are_told_why_and_change_nothing() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let acts = format!("/api/jobs/{id}/acts");
    let act = |act: Value| json!({ "base": 1, "act": act });
    let kin = kin_of(&open, "headline");
    let headline = item_with(&open, &kin);
    let item = first_side(&open)["items"][0].clone();
    let wide = |w: i64| json!({ "act": "setBox", "item": item["id"], "numbers": { "point": [0, 0], "w": w } });
    let unprocessable = StatusCode::UNPROCESSABLE_ENTITY;
    let cases = [
        (act(json!({ "act": "changeType", "items": [headline], "change": { "family": "Unheard Of" } })), unprocessable),
        (act(wide(-5)), unprocessable),
        (act(json!({ "act": "move", "items": [item["id"]], "dx": i64::MIN, "dy": 0 })), unprocessable),
        (act(json!({ "act": "setTitle", "title": "   " })), unprocessable),
        (act(json!({ "act": "remove", "items": ["nobody"] })), StatusCode::NOT_FOUND),
        (act(json!({ "act": "remove", "items": [] })), unprocessable),
        (act(json!({ "act": "duplicate", "items": ["nobody"] })), StatusCode::NOT_FOUND),
        (act(json!({ "act": "duplicate", "items": [] })), unprocessable),
        (act(json!({ "act": "say", "item": headline, "text": "x".repeat(20_001) })), unprocessable),
        (act(json!({ "act": "say", "item": item["id"], "text": "x" })), unprocessable),
        (act(json!({ "act": "edit", "command": { "do": "removePiece", "piece": "p" } })), StatusCode::BAD_REQUEST),
        (act(json!({ "act": "dance" })), StatusCode::BAD_REQUEST),
        (json!({ "act": { "act": "undo" } }), StatusCode::BAD_REQUEST),
        (json!({ "base": 1, "act": { "act": "show", "item": "nobody", "picture": "nothing" } }), StatusCode::NOT_FOUND),
        (json!({ "base": 1, "act": { "act": "typeSize", "item": item["id"], "size": 0 } }), unprocessable),
        (
            json!({ "base": 1, "act": { "act": "crop", "item": item["id"], "dx": 0, "dy": 0, "factor": 1 } }),
            unprocessable,
        ),
    ];
    for (request, status) in &cases {
        problem!(app, post(&acts, request), *status);
    }
    let raw = |body: &'static str| {
        TestRequest::post()
            .uri(&acts)
            .insert_header((header::HOST, "localhost"))
            .insert_header((OWN_HEADER, "1"))
            .insert_header((header::CONTENT_TYPE, "application/json"))
            .set_payload(body)
    };
    problem!(app, raw("{ \"base\": 1, "), StatusCode::BAD_REQUEST);
    problem!(app, raw(""), StatusCode::BAD_REQUEST);
    for wish in [
        json!({ "design": null, "places": [], "words": {} }),
        json!({ "design": null, "places": ["0 x 0 px"], "words": {} }),
        json!({ "design": null, "places": ["-3 x 5 in"], "words": {} }),
        json!({ "design": null, "places": ["30000 x 30000 px"], "words": {} }),
        json!({ "design": null, "places": ["birds"], "words": {} }),
    ] {
        problem!(app, post("/api/jobs", &wish), unprocessable);
    }
    problem!(
        app,
        post("/api/jobs", &json!({ "design": "nothing", "places": ["card"], "words": {} })),
        StatusCode::NOT_FOUND
    );
    problem!(app, get("/api/jobs/nothing"), StatusCode::NOT_FOUND);
    problem!(app, get(&format!("/api/jobs/{id}/sides/nothing")), StatusCode::NOT_FOUND);
    problem!(app, get("/api/nothing"), StatusCode::NOT_FOUND);
    problem!(app, get("/media/nothing?w=100"), StatusCode::NOT_FOUND);
    let read = |text: &str| post("/api/measure", &json!({ "text": text, "unit": "mm", "ppi": 300 }));
    assert_eq!(ok!(app, read("2*3"))["value"], 6 * 36_000);
    assert!(ok!(app, read("3 birds"))["says"].as_str().unwrap().contains("birds"));

    let after = ok!(app, get(&format!("/api/jobs/{id}")));
    assert_eq!((&after["job"], &after["revision"]), (&open["job"], &open["revision"]), "something changed");
}

#[actix_web::test]
async fn requests_from_elsewhere_are_refused() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let from = |host: &str, origin: Option<&str>| {
        let request = TestRequest::get().uri("/api/jobs").insert_header((header::HOST, host.to_owned()));
        match origin {
            Some(origin) => request.insert_header((header::ORIGIN, origin.to_owned())),
            None => request,
        }
    };
    problem!(app, from("mossback.example", None), StatusCode::FORBIDDEN);
    problem!(app, from("127.0.0.1:7420", Some("http://mossback.example")), StatusCode::FORBIDDEN);
    problem!(app, from("127.0.0.1:7420", Some("http://127.0.0.1:9999")), StatusCode::FORBIDDEN);
    problem!(app, from("127.0.0.1:7420", Some("null")), StatusCode::FORBIDDEN);
    ok!(app, from("127.0.0.1:7420", Some("http://127.0.0.1:7420")));
}

fn upload(bytes: Vec<u8>) -> TestRequest {
    TestRequest::post()
        .uri("/api/pictures?name=pot.jpg")
        .insert_header((header::HOST, "localhost"))
        .insert_header((OWN_HEADER, "1"))
        .set_payload(bytes)
}

fn picture_as(format: image::ImageFormat) -> Vec<u8> {
    let picture = image::RgbImage::from_fn(64, 40, |x, y| image::Rgb([x as u8 * 3, y as u8 * 5, 90]));
    let mut out = std::io::Cursor::new(Vec::new());
    picture.write_to(&mut out, format).unwrap();
    out.into_inner()
}

fn small_picture() -> Vec<u8> {
    picture_as(image::ImageFormat::Jpeg)
}

#[actix_web::test]
async fn the_usual_kinds_of_pictures_are_taken_and_shown_again() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    for format in [image::ImageFormat::Png, image::ImageFormat::Jpeg, image::ImageFormat::WebP, image::ImageFormat::Gif]
    {
        let card = ok!(app, upload(picture_as(format)));
        let shown = read_body(
            call_service(&app, get(&format!("/media/{}?w=32", card["id"].as_str().unwrap())).to_request()).await,
        )
        .await;
        let shown = image::load_from_memory(&shown).unwrap().to_rgb8();
        assert_eq!(shown.dimensions(), (32, 20), "{format:?}");
        let corner = shown.get_pixel(1, 1);
        assert!(corner[0] < 30 && corner[2].abs_diff(90) < 30, "{format:?}: {corner:?}");
    }
}

#[actix_web::test]
async fn pictures_that_cannot_be_used_are_refused_and_the_shelf_stays() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let before = ok!(app, get("/api/pictures"));
    let whole = small_picture();
    let half = whole[..whole.len() / 2].to_vec();
    problem!(app, upload(half), StatusCode::UNPROCESSABLE_ENTITY);
    problem!(app, upload(b"not a picture at all".to_vec()), StatusCode::UNSUPPORTED_MEDIA_TYPE);
    problem!(app, upload(Vec::new()), StatusCode::UNSUPPORTED_MEDIA_TYPE);
    assert_eq!(ok!(app, get("/api/pictures")), before);

    let card = ok!(app, upload(whole.clone()));
    assert_eq!(
        (card["width"].as_i64(), card["height"].as_i64(), card["name"].as_str()),
        (Some(64), Some(40), Some("pot.jpg"))
    );
    assert_eq!(ok!(app, upload(whole))["id"], card["id"], "the same bytes are the same picture");
    assert_eq!(ok!(app, get("/api/pictures")).as_array().unwrap().len(), before.as_array().unwrap().len() + 1);
}

#[actix_web::test]
async fn a_picture_fills_its_frame_and_moves_inside_it() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let picture = ok!(app, upload(small_picture()))["id"].clone();
    let kin = kin_of(&open, "mainPicture");
    let side = first_side(&open)["id"].as_str().unwrap().to_owned();
    let item = first_side(&open)["items"].as_array().unwrap().iter().find(|item| item["kin"] == kin.as_str()).unwrap()
        ["id"]
        .clone();
    let path = format!("/api/jobs/{id}/acts");
    let act = |base: u64, act: Value| json!({ "base": base, "watch": side, "act": act });
    let shown = ok!(app, post(&path, &act(1, json!({ "act": "show", "item": item, "picture": picture }))));
    assert_eq!(shown["delta"]["kins"][&kin]["content"]["picture"], picture);
    assert_eq!(shown["delta"]["touched"].as_array().unwrap().len(), 2, "the other piece shows it too");

    let place = |answer: &Value| answer["delta"]["items"][0]["place"]["crop"].clone();
    let zoomed =
        place(&ok!(app, post(&path, &act(2, json!({ "act": "crop", "item": item, "dx": 0, "dy": 0, "factor": 2 })))));
    assert_eq!(zoomed["zoom"], 2_000_000_000u64);
    // Pulled far to the right, the left edge of the picture stops at the left edge of the frame.
    let pulled = place(&ok!(
        app,
        post(&path, &act(3, json!({ "act": "crop", "item": item, "dx": 90_000_000, "dy": 0, "factor": 1 })))
    ));
    let (was, now) = (zoomed["centre"]["x"].as_f64().unwrap(), pulled["centre"]["x"].as_f64().unwrap());
    assert!(now > 0.0 && now < was, "{was} to {now}");
    let again = place(&ok!(
        app,
        post(&path, &act(4, json!({ "act": "crop", "item": item, "dx": 90_000_000, "dy": 9_525, "factor": 1 })))
    ));
    assert_eq!(again["centre"]["x"], pulled["centre"]["x"], "it cannot leave the frame uncovered");
    // Another picture fills the frame afresh.
    let anew = ok!(
        app,
        post(
            &path,
            &act(5, json!({ "act": "show", "item": item, "picture": open["job"]["kins"][&kin]["content"]["picture"] }))
        )
    );
    assert!(anew["delta"]["items"][0]["place"]["crop"].is_null());
}

#[actix_web::test]
async fn several_pieces_leave_as_one_archive_with_the_sizes_that_were_promised() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let pieces: Vec<_> = open["job"]["pieces"].as_array().unwrap().iter().map(|piece| piece["id"].clone()).collect();
    // A piece named twice leaves once.
    let twice: Vec<_> = pieces.iter().chain(&pieces).cloned().collect();
    let wish = json!({ "pieces": twice, "kind": "jpeg", "quality": 70 });
    let work = made!(app, id, wish);
    let promised = ok!(app, get(&format!("/api/work/{work}/files")));
    let response = call_service(&app, get(&format!("/api/work/{work}/file")).to_request()).await;
    assert_eq!(
        response.headers().get(header::CONTENT_DISPOSITION).unwrap(),
        "attachment; filename=\"hands-in-clay-by-ten.zip\""
    );
    let mut archive = zip::ZipArchive::new(std::io::Cursor::new(read_body(response).await)).unwrap();
    assert_eq!(archive.len(), 2);
    for i in 0..2 {
        let file = archive.by_index(i).unwrap();
        assert_eq!(
            (file.name(), file.size()),
            (promised[i]["name"].as_str().unwrap(), promised[i]["bytes"].as_u64().unwrap())
        );
    }
    problem!(
        app,
        post(&format!("/api/jobs/{id}/files"), &json!({ "pieces": pieces, "kind": "png", "width": 25_000 })),
        StatusCode::UNPROCESSABLE_ENTITY
    );
    problem!(
        app,
        post(&format!("/api/jobs/{id}/files"), &json!({ "pieces": ["gone"], "kind": "png" })),
        StatusCode::NOT_FOUND
    );
}

#[actix_web::test]
async fn a_removed_job_comes_back_as_it_was() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let path = format!("/api/jobs/{id}");
    let gone =
        TestRequest::delete().uri(&path).insert_header((header::HOST, "localhost")).insert_header((OWN_HEADER, "1"));
    assert_eq!(call_service(&app, gone.to_request()).await.status(), StatusCode::NO_CONTENT);
    assert_eq!(ok!(app, get("/api/jobs")), json!([]));
    problem!(app, get(&path), StatusCode::NOT_FOUND);
    assert_eq!(
        call_service(&app, post(&format!("{path}/restore"), &json!({})).to_request()).await.status(),
        StatusCode::NO_CONTENT
    );
    assert_eq!(ok!(app, get(&path))["job"], open["job"]);
}

#[actix_web::test]
async fn a_full_disk_is_reported_and_loses_nothing() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let (kin, path) = (kin_of(&open, "headline"), format!("/api/jobs/{id}/acts"));
    shop.store.pragma("PRAGMA max_page_count = 1").unwrap();
    let item = item_with(&open, &kin);
    let long = json!({ "base": 1, "act": { "act": "say", "item": item, "text": "clay ".repeat(3_900) } });
    let told = problem!(app, post(&path, &long), StatusCode::INSUFFICIENT_STORAGE);
    assert_eq!(told["type"], "disk-full", "{told}");
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}")))["job"], open["job"]);
    shop.store.pragma("PRAGMA max_page_count = 4294967294").unwrap();
    assert_eq!(ok!(app, post(&path, &long))["revision"], 2);
}

#[actix_web::test]
async fn every_design_is_shown_with_somebodys_words_in_the_chosen_shape() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let designs = ok!(app, get("/api/designs"));
    assert!(designs.as_array().unwrap().len() >= 8);
    for design in designs.as_array().unwrap() {
        let id = design["id"].as_str().unwrap();
        let picture = |words: &str| format!("/api/designs/{id}/picture?place=3.5%20x%202%20in&w=350&words={words}");
        let own =
            read_body(call_service(&app, get(&picture("%7B%22headline%22%3A%22Zigzag%22%7D")).to_request()).await)
                .await;
        let sample = read_body(call_service(&app, get(&picture("")).to_request()).await).await;
        assert!(own != sample, "{id} does not show the words");
        let decoded = image::load_from_memory(&own).unwrap();
        assert_eq!((decoded.width(), decoded.height()), (350, 200));
    }
}

#[actix_web::test]
async fn items_are_lined_up_as_drawn_and_undone_in_one_step() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let items: Vec<_> = first_side(&open)["items"].as_array().unwrap().iter().map(|item| item["id"].clone()).collect();
    let path = format!("/api/jobs/{id}/acts");
    let act = |base: u64, act: Value| json!({ "base": base, "act": act });
    let left = ok!(
        app,
        post(&path, &act(1, json!({ "act": "align", "items": items, "edge": "left", "to": { "kind": "sheet" } })))
    );
    assert!(left["delta"]["items"].as_array().unwrap().iter().all(|item| item["place"]["at"]["rect"]["x"] == 0));
    ok!(app, post(&path, &act(2, json!({ "act": "distribute", "items": items, "axis": "down", "gap": 95_250 }))));
    ok!(app, post(&path, &act(3, json!({ "act": "tidy", "items": items }))));
    ok!(app, post(&path, &act(4, json!({ "act": "matchSize", "items": items, "key": items[0], "alike": "width" }))));
    for base in 5..9 {
        ok!(app, post(&path, &act(base, json!({ "act": "undo" }))));
    }
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}")))["job"], open["job"]);
    let few = problem!(
        app,
        post(&path, &act(9, json!({ "act": "distribute", "items": [items[0]], "axis": "down", "gap": null }))),
        StatusCode::UNPROCESSABLE_ENTITY
    );
    assert!(few["detail"].as_str().unwrap().contains("at least 3"));
    problem!(
        app,
        post(&path, &act(9, json!({ "act": "align", "items": [], "edge": "left", "to": { "kind": "sheet" } }))),
        StatusCode::UNPROCESSABLE_ENTITY
    );
}

#[actix_web::test]
async fn a_drag_knows_where_things_fall_into_place() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let headline = kin_of(&open, "headline");
    let item = first_side(&open)["items"]
        .as_array()
        .unwrap()
        .iter()
        .find(|item| item["kin"] == headline.as_str())
        .unwrap()
        .clone();
    let stops = ok!(app, post(&format!("/api/jobs/{id}/stops"), &json!([item["id"]])));
    let middle = stops["left"].as_array().unwrap().iter().find(|stop| stop["reason"] == "sheetCentre").unwrap()["at"]
        .as_i64()
        .unwrap();
    let width = item["place"]["at"]["rect"]["w"].as_i64().unwrap();
    // 1,080 px are 10,287,000 fine units.
    assert!((middle + width / 2 - 5_143_500).abs() <= 1, "{middle}");
    assert!(stops["top"].as_array().unwrap().iter().any(|stop| stop["reason"] == "safe"));
    problem!(app, post(&format!("/api/jobs/{id}/stops"), &json!(["gone"])), StatusCode::NOT_FOUND);
    problem!(app, post(&format!("/api/jobs/{id}/stops"), &json!([])), StatusCode::UNPROCESSABLE_ENTITY);
}

#[actix_web::test]
async fn a_rehearsal_shows_what_would_be_and_keeps_nothing() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let item = first_side(&open)["items"][0].clone();
    let wide = json!({ "act": "setBox", "item": item["id"], "numbers": { "point": [0, 0], "w": 1_000_000 } });
    let request = json!({ "base": 1, "watch": first_side(&open)["id"], "act": wide });
    let shown = ok!(app, post(&format!("/api/jobs/{id}/rehearse"), &request));
    assert_eq!((shown["revision"].as_i64(), shown["stage"]["items"][0]["id"].clone()), (Some(1), item["id"].clone()));
    let after = ok!(app, get(&format!("/api/jobs/{id}")));
    assert_eq!((&after["job"], after["canUndo"].as_bool()), (&open["job"], Some(false)));
    problem!(
        app,
        post(&format!("/api/jobs/{id}/rehearse"), &json!({ "base": 1, "act": { "act": "undo" } })),
        StatusCode::UNPROCESSABLE_ENTITY
    );
}

/// Two writers that always retry after a conflict: every edit that was acknowledged is in the history, none twice.
#[actix_web::test]
async fn no_edit_of_two_eager_writers_is_lost() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, _) = new_job!(app);
    let id = vatman_document::JobId::new(id).unwrap();
    let writers: Vec<_> = (0..2)
        .map(|writer| {
            let (shop, id) = (shop.clone(), id.clone());
            std::thread::spawn(move || {
                let mut base = 1;
                let mut done = 0;
                while done < 25 {
                    let request = serde_json::from_value(title(base, &format!("{writer}-{done}"))).unwrap();
                    match shop.acting.act(&id, &request) {
                        Ok(answer) => {
                            base = u64::try_from(answer.revision).unwrap();
                            done += 1;
                        }
                        Err(problem) => {
                            base = u64::try_from(problem.revision.expect("only conflicts happen here")).unwrap()
                        }
                    }
                }
            })
        })
        .collect();
    for writer in writers {
        writer.join().unwrap();
    }
    assert_eq!(shop.open_job(&id).unwrap().revision, 51);
    let mut seen = Vec::new();
    for base in 51..101 {
        seen.push(shop.jobs.load(&id).unwrap().job.title.clone());
        shop.acting
            .act(&id, &serde_json::from_value(json!({ "base": base, "act": { "act": "undo" } })).unwrap())
            .unwrap();
    }
    seen.sort();
    seen.dedup();
    assert_eq!(seen.len(), 50);
}

#[actix_web::test]
async fn colours_are_read_as_people_write_them() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    for (typed, read) in [
        ("2b4a8b", "#2b4a8b"),
        ("rgb(43 74 139)", "#2b4a8b"),
        ("hsl(0 100% 50%)", "#ff0000"),
        ("cmyk(0 0 0 100)", "#000000"),
        ("rgba(0,0,0,0.5)", "#00000080"),
    ] {
        assert_eq!(ok!(app, post("/api/colour", &json!(typed)))["value"], read);
    }
    let told = ok!(app, post("/api/colour", &json!("bluish")));
    assert!(told["says"].as_str().unwrap().contains("bluish"));
}

#[actix_web::test]
async fn sides_come_blank_or_copied_and_go() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let path = format!("/api/jobs/{id}/acts");
    let side = first_side(&open)["id"].clone();
    macro_rules! sides {
        ($base:expr, $act:expr) => {{
            ok!(app, post(&path, &json!({ "base": $base, "act": $act })));
            let open = ok!(app, get(&format!("/api/jobs/{id}")));
            open["job"]["pieces"][0]["sides"].as_array().unwrap().clone()
        }};
    }
    let blank = sides!(1, json!({ "act": "addSide", "after": side, "copy": false }));
    assert_eq!(
        (blank.len(), blank[1]["name"].as_str(), blank[1]["items"].as_array().unwrap().len()),
        (2, Some("Back"), 0)
    );
    assert_eq!(blank[1]["ground"], blank[0]["ground"]);
    let copied = sides!(2, json!({ "act": "addSide", "after": side, "copy": true }));
    assert_eq!(copied[1]["name"], "Front copy");
    let (first, copy) = (copied[0]["items"].as_array().unwrap(), copied[1]["items"].as_array().unwrap());
    assert!(
        first.len() == copy.len()
            && first
                .iter()
                .zip(copy)
                .all(|(a, b)| a["place"] == b["place"] && a["id"] != b["id"] && a["kin"] != b["kin"])
    );
    let copy = copied[1]["id"].clone();
    assert_eq!(sides!(3, json!({ "act": "moveSide", "side": copy, "index": 0 }))[0]["id"], copy);
    assert_eq!(sides!(4, json!({ "act": "renameSide", "side": copy, "name": "Inside" }))[0]["name"], "Inside");
    assert_eq!(sides!(5, json!({ "act": "removeSide", "side": copy })).len(), 2);
    for base in 6..11 {
        ok!(app, post(&path, &json!({ "base": base, "act": { "act": "undo" } })));
    }
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}")))["job"], open["job"]);
    let last = problem!(
        app,
        post(&path, &json!({ "base": 11, "act": { "act": "removeSide", "side": side } })),
        StatusCode::UNPROCESSABLE_ENTITY
    );
    assert!(last["detail"].as_str().unwrap().contains("at least one side"));
}

#[actix_web::test]
async fn words_that_cannot_be_read_are_mended_in_one_undoable_step() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let kin = kin_of(&open, "headline");
    let item = first_side(&open)["items"].as_array().unwrap().iter().find(|item| item["kin"] == kin.as_str()).unwrap()
        ["id"]
        .as_str()
        .unwrap()
        .to_owned();
    let path = format!("/api/jobs/{id}/acts");
    let pale = json!({ "kind": "flat", "tint": "#e0d8c8", "opacity": 1_000_000_000 });
    ok!(app, post(&path, &json!({ "base": 1, "act": { "act": "setFill", "items": [item], "fill": pale } })));
    let reading = |id: &str| get(&format!("/api/jobs/{id}/items/{item}/reading"));
    let before = ok!(app, reading(&id));
    assert_eq!((before["verdict"].as_str(), before["ratio"].as_f64().unwrap() < 2.0), (Some("poor"), true), "{before}");
    ok!(app, post(&path, &json!({ "base": 2, "act": { "act": "mend", "item": item, "repair": "recolour" } })));
    assert_eq!(ok!(app, reading(&id))["verdict"], "good");
    ok!(app, post(&path, &json!({ "base": 3, "act": { "act": "undo" } })));
    assert_eq!(ok!(app, reading(&id)), before);
    let picture = kin_of(&open, "mainPicture");
    let frame = first_side(&open)["items"]
        .as_array()
        .unwrap()
        .iter()
        .find(|item| item["kin"] == picture.as_str())
        .unwrap()["id"]
        .as_str()
        .unwrap()
        .to_owned();
    // Where there are no letters there is nothing to be read, which is no error.
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}/items/{frame}/reading"))), Value::Null);
}

#[actix_web::test]
async fn colours_of_a_side_are_at_hand_and_one_is_replaced_everywhere() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let side = first_side(&open)["id"].as_str().unwrap().to_owned();
    let at_hand = ok!(app, get(&format!("/api/jobs/{id}/sides/{side}/colours?of=%232b4a8b")));
    let used: Vec<_> = at_hand["used"].as_array().unwrap().iter().map(|used| used["tint"].as_str().unwrap()).collect();
    assert!(used.contains(&"@ground") && used.contains(&"@ink"), "{used:?}");
    assert!(!at_hand["pictures"].as_array().unwrap().is_empty() && at_hand["steps"].as_array().unwrap().len() == 4);
    problem!(app, get(&format!("/api/jobs/{id}/sides/{side}/colours?of=bluish")), StatusCode::BAD_REQUEST);
    let replaced = ok!(
        app,
        post(
            &format!("/api/jobs/{id}/acts"),
            &json!({ "base": 1, "act": { "act": "replaceColour", "from": "@ink", "to": "#102030" } })
        )
    );
    assert!(!replaced["delta"]["kins"].to_string().contains("@ink"));
    ok!(app, post(&format!("/api/jobs/{id}/acts"), &json!({ "base": 2, "act": { "act": "undo" } })));
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}")))["job"], open["job"]);
    problem!(
        app,
        post(
            &format!("/api/jobs/{id}/acts"),
            &json!({ "base": 3, "act": { "act": "replaceColour", "from": "@ink", "to": "@nothing" } })
        ),
        StatusCode::NOT_FOUND
    );
}

/// The acts that bring things together, take them away and bring them back, each undone in one step.
#[actix_web::test]
async fn items_are_grouped_turned_scaled_removed_and_put_back() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let items: Vec<_> = first_side(&open)["items"].as_array().unwrap().iter().map(|item| item["id"].clone()).collect();
    let path = format!("/api/jobs/{id}/acts");
    let mut base = 1;
    let mut act = |act: Value| {
        base += 1;
        post(&path, &json!({ "base": base - 1, "act": act }))
    };
    let grouped = ok!(app, act(json!({ "act": "group", "items": [items[0], items[2]] })));
    let groups: Vec<_> =
        grouped["delta"]["items"].as_array().unwrap().iter().map(|item| item["groups"].clone()).collect();
    assert!(groups.len() == 2 && groups[0] == groups[1] && groups[0].as_array().unwrap().len() == 1);
    let point = json!({ "x": 0, "y": 0 });
    let scaled = ok!(app, act(json!({ "act": "scale", "items": [items[0], items[2]], "about": point, "factor": 0.5 })));
    assert!(
        scaled["delta"]["items"]
            .as_array()
            .unwrap()
            .iter()
            .all(|item| item["place"]["scale"].as_i64().unwrap() < 1_000_000_000)
    );
    let turned = ok!(app, act(json!({ "act": "turn", "items": [items[2]], "about": point, "by": 30_000_000 })));
    assert_eq!(turned["delta"]["items"][0]["place"]["at"]["turn"], 30_000_000);
    let removed = ok!(app, act(json!({ "act": "remove", "items": [items[1]] })));
    let piece = open["job"]["pieces"][0]["id"].as_str().unwrap();
    assert_eq!(removed["delta"]["trays"][piece]["put"][0]["item"]["id"], items[1]);
    let back = ok!(app, act(json!({ "act": "putBack", "piece": piece, "item": items[1] })));
    let tray = &back["delta"]["trays"][piece];
    assert_eq!((tray["taken"].as_i64(), &tray["put"], &back["made"][0]), (Some(1), &json!([]), &items[1]));
    ok!(app, act(json!({ "act": "ungroup", "items": [items[0]] })));
    for _ in 0..6 {
        ok!(app, act(json!({ "act": "undo" })));
    }
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}")))["job"], open["job"]);
    let refused = problem!(
        app,
        post(&path, &json!({ "base": 13, "act": { "act": "group", "items": [items[0]] } })),
        StatusCode::UNPROCESSABLE_ENTITY
    );
    assert!(refused["detail"].as_str().unwrap().contains("at least two"));
    problem!(
        app,
        post(&path, &json!({ "base": 13, "act": { "act": "ungroup", "items": [items[0]] } })),
        StatusCode::UNPROCESSABLE_ENTITY
    );
    problem!(
        app,
        post(
            &path,
            &json!({ "base": 13, "act": { "act": "scale", "items": [items[0]], "about": point, "factor": 0.0 } })
        ),
        StatusCode::UNPROCESSABLE_ENTITY
    );
}

#[actix_web::test]
async fn graphics_are_found_added_swapped_and_recoloured() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let found = ok!(app, get("/api/graphics?q=rakes"));
    assert_eq!((found["graphics"][0]["name"].as_str(), found["sets"].as_array().unwrap().len()), (Some("rake"), 3));
    let rake = found["graphics"][0]["id"].clone();
    let picture = call_service(&app, get(&format!("/api/graphics/{}", rake.as_str().unwrap())).to_request()).await;
    assert_eq!(picture.headers().get(header::CONTENT_TYPE).unwrap(), "image/svg+xml");
    let path = format!("/api/jobs/{id}/acts");
    let act = |base: u64, act: Value| post(&path, &json!({ "base": base, "act": act }));
    let added = ok!(
        app,
        act(
            1,
            json!({ "act": "add", "side": first_side(&open)["id"], "what": { "kind": "graphic", "graphic": rake } })
        )
    );
    let item = added["made"][0].clone();
    let kin = added["delta"]["items"][0]["kin"].as_str().unwrap();
    let drawing = |answer: &Value| answer["delta"]["kins"][kin]["content"]["drawing"].clone();
    assert_eq!(drawing(&added)["name"], "rake");
    let swapped = ok!(app, act(2, json!({ "act": "swapGraphic", "item": item, "graphic": "colour:potted-plant" })));
    assert_eq!(drawing(&swapped)["name"], "potted plant");
    let mapped = ok!(app, act(3, json!({ "act": "mapColours", "item": item })));
    let fills: Vec<String> = drawing(&mapped)["parts"]
        .as_array()
        .unwrap()
        .iter()
        .filter_map(|part| Some(part["fill"]["paint"]["tint"].as_str()?.to_owned()))
        .collect();
    assert!(!fills.is_empty() && fills.iter().all(|tint| tint.starts_with('@')), "{fills:?}");
    let gradient = json!({ "kind": "linear", "angle": 0, "stops": [{ "at": 0, "tint": "#8c5a3c", "opacity": 1_000_000_000 }, { "at": 1_000_000_000, "tint": "#2b4a8b", "opacity": 1_000_000_000 }] });
    let painted = ok!(app, act(4, json!({ "act": "repaint", "item": item, "from": fills[0], "to": gradient })));
    assert!(drawing(&painted)["parts"].to_string().contains("linear"));
    problem!(
        app,
        act(5, json!({ "act": "swapGraphic", "item": item, "graphic": "line:no-such" })),
        StatusCode::NOT_FOUND
    );
    problem!(app, get("/api/graphics/line:no-such"), StatusCode::NOT_FOUND);

    let svg = |body: &str| {
        TestRequest::post()
            .uri("/api/drawings?name=mark.svg")
            .insert_header((header::HOST, "127.0.0.1:7420"))
            .insert_header((OWN_HEADER, "1"))
            .set_payload(format!("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'>{body}</svg>"))
    };
    let read = ok!(app, svg("<script/><circle r='4' cx='4' cy='4'/>"));
    assert_eq!((read["drawing"]["name"].as_str(), read["notes"].as_array().unwrap().len()), (Some("mark"), 1));
    ok!(
        app,
        act(
            5,
            json!({ "act": "add", "side": first_side(&open)["id"], "what": { "kind": "drawing", "drawing": read["drawing"] } })
        )
    );
    problem!(app, svg(""), StatusCode::UNPROCESSABLE_ENTITY);
}

#[actix_web::test]
async fn pictures_are_arranged_exchanged_and_everything_is_copied_elsewhere() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let side = first_side(&open)["id"].clone();
    let shelf = ok!(app, get("/api/pictures"));
    let pictures: Vec<Value> = shelf.as_array().unwrap().iter().take(5).map(|card| card["id"].clone()).collect();
    let room = json!({ "gap": 95_250, "margin": 190_500, "radius": 0 });
    let wish = |pictures: &[Value]| {
        post(
            &format!("/api/jobs/{id}/sides/{}/arrangements", side.as_str().unwrap()),
            &json!({ "of": { "pictures": pictures }, "room": room }),
        )
    };
    let found = ok!(app, wish(&pictures));
    assert_eq!(found["room"], room);
    let found = found["forms"].as_array().unwrap();
    assert!(found.len() >= 6 && found.iter().all(|mosaic| mosaic["cells"].as_array().unwrap().len() == 5));
    problem!(app, wish(&pictures[..1]), StatusCode::UNPROCESSABLE_ENTITY);
    let path = format!("/api/jobs/{id}/acts");
    let act = |base: u64, act: Value| post(&path, &json!({ "base": base, "act": act }));
    let made = ok!(
        app,
        act(1, json!({ "act": "arrangePictures", "side": side, "pictures": pictures, "room": room, "number": 2 }))
    )["made"]
        .clone();
    let items = |open: &Value| first_side(open)["items"].as_array().unwrap().clone();
    // As it stands it says what it was made with, and which form it is.
    let as_it_is = ok!(
        app,
        post(
            &format!("/api/jobs/{id}/sides/{}/arrangements", side.as_str().unwrap()),
            &json!({ "of": { "items": made } })
        )
    );
    assert_eq!((&as_it_is["room"], &as_it_is["form"]), (&room, &json!(2)));
    let stage = ok!(app, get(&format!("/api/jobs/{id}/sides/{}", side.as_str().unwrap())));
    assert_eq!(stage["arrangements"], json!([made]));
    let now = ok!(app, get(&format!("/api/jobs/{id}")));
    let rects = |open: &Value| -> Value {
        let rect =
            |id: &Value| items(open).iter().find(|item| item["id"] == *id).unwrap()["place"]["at"]["rect"].clone();
        made.as_array().unwrap().iter().map(rect).collect()
    };
    assert_eq!(rects(&now), found[2]["cells"], "frames stand where the cells were shown");
    problem!(
        app,
        act(2, json!({ "act": "arrangePictures", "side": side, "pictures": pictures, "room": room, "number": 99 })),
        StatusCode::UNPROCESSABLE_ENTITY
    );

    let shown = |open: &Value, item: &Value| {
        let kin = items(open).iter().find(|other| other["id"] == *item).unwrap()["kin"].as_str().unwrap().to_owned();
        open["job"]["kins"][&kin]["content"]["picture"].clone()
    };
    ok!(app, act(2, json!({ "act": "swapPictures", "a": made[0], "b": made[1] })));
    let now = ok!(app, get(&format!("/api/jobs/{id}")));
    assert_eq!((shown(&now, &made[0]), shown(&now, &made[1])), (pictures[1].clone(), pictures[0].clone()));

    // Another form, and back: nothing but places changes.
    let other = json!({ "act": "rearrange", "items": made, "room": room, "number": 1 });
    ok!(app, act(3, other));
    let now = ok!(app, get(&format!("/api/jobs/{id}")));
    let shown_now: Vec<Value> = made.as_array().unwrap().iter().map(|item| shown(&now, item)).collect();
    let forms = ok!(app, wish(&shown_now));
    assert_eq!((rects(&now), &shown_now[0]), (forms["forms"][1]["cells"].clone(), &pictures[1]));
    // Other gaps in the same form.
    let wide = json!({ "gap": 190_500, "margin": 190_500, "radius": 0 });
    ok!(app, act(4, json!({ "act": "rearrange", "items": made, "room": wide, "number": null })));
    let all = &json!({ "of": { "items": made } });
    let wider = ok!(app, post(&format!("/api/jobs/{id}/sides/{}/arrangements", side.as_str().unwrap()), all));
    assert!((wider["room"]["gap"].as_i64().unwrap() - 190_500).abs() < 20, "{}", wider["room"]);
    let bad = json!({ "act": "rearrange", "items": made, "room": room, "number": 99 });
    problem!(app, act(5, bad), StatusCode::UNPROCESSABLE_ENTITY);

    let clipping = ok!(app, post(&format!("/api/jobs/{id}/clipping"), &made));
    assert!(!clipping.to_string().contains("\"@"), "no colour is shared any more");
    let (other, elsewhere) = new_job!(app);
    let pasted = ok!(
        app,
        post(
            &format!("/api/jobs/{other}/acts"),
            &json!({ "base": 1, "act": { "act": "paste", "side": first_side(&elsewhere)["id"], "clipping": clipping } })
        )
    );
    assert_eq!(pasted["made"].as_array().unwrap().len(), 5);
    problem!(app, post(&format!("/api/jobs/{id}/clipping"), &json!([])), StatusCode::UNPROCESSABLE_ENTITY);
    let words = items(&now)
        .iter()
        .find(|item| now["job"]["kins"][item["kin"].as_str().unwrap()]["part"] == "headline")
        .unwrap()["id"]
        .clone();
    let looked = ok!(app, act(5, json!({ "act": "pasteLook", "items": [words], "clipping": clipping })));
    assert_eq!(looked["delta"]["kins"].as_object().unwrap().len(), 1);
}
