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
use vatman_server::{OWN_HEADER, Store, Wanted, Workshop, api};

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

/// The bytes of an answer.
macro_rules! bytes {
    ($app:expr, $request:expr) => {{
        let response = call_service(&$app, $request.to_request()).await;
        let status = response.status();
        let body = read_body(response).await;
        assert!(status.is_success(), "{status}: {}", String::from_utf8_lossy(&body));
        body
    }};
}

/// A printed file, once it is made.
macro_rules! waited {
    ($app:expr, $request:expr) => {{
        let work = ok!($app, $request)["id"].as_str().unwrap().to_owned();
        loop {
            let card = ok!($app, get(&format!("/api/work/{work}")));
            match card["state"]["is"].as_str().unwrap() {
                "done" => break,
                "waiting" | "running" => std::thread::sleep(std::time::Duration::from_millis(10)),
                _ => panic!("{card}"),
            }
        }
        bytes!($app, get(&format!("/api/work/{work}/printed")))
    }};
}

mod arranging;
mod composing;
mod jobs;
mod keeping;
mod living;
mod pictures;
mod printing;
mod strangers;

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
