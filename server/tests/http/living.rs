//! What goes on while several windows are open: events, following, work in the background, and what every answer carries.

use std::time::Duration;

use actix_web::http::header::HeaderMap;

use super::*;

/// Three jobs' worth of header checks on one answer.
fn guarded(headers: &HeaderMap) {
    let text = |name: &str| headers.get(name).and_then(|value| value.to_str().ok()).unwrap_or_default().to_owned();
    let policy = text("content-security-policy");
    let scripts = policy.split(';').find(|part| part.trim_start().starts_with("script-src")).unwrap();
    assert!(!scripts.contains("unsafe") && policy.contains("frame-ancestors 'none'"), "{policy}");
    assert_eq!(text("x-content-type-options"), "nosniff");
    assert_eq!(text("referrer-policy"), "no-referrer");
}

#[actix_web::test]
async fn every_answer_carries_its_limits() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    for path in ["/", "/api/jobs", "/api/nothing", "/assets/gone-1234.js", "/media/nothing?w=9", "/somewhere/else"] {
        let response = call_service(&app, get(path).to_request()).await;
        guarded(response.headers());
    }
    let foreign = TestRequest::get().uri("/").insert_header((header::HOST, "mossback.example"));
    let response = call_service(&app, foreign.to_request()).await;
    assert_eq!(response.status(), StatusCode::FORBIDDEN);
    guarded(response.headers());
}

#[actix_web::test]
async fn changes_without_a_word_of_where_they_come_from_are_refused() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, _) = new_job!(app);
    let bare = || {
        TestRequest::post()
            .uri(&format!("/api/jobs/{id}/acts"))
            .insert_header((header::HOST, "127.0.0.1:7420"))
            .set_json(title(1, "From elsewhere"))
    };
    problem!(app, bare(), StatusCode::FORBIDDEN);
    problem!(
        app,
        bare().insert_header((OWN_HEADER, "1")).insert_header(("sec-fetch-site", "cross-site")),
        StatusCode::FORBIDDEN
    );
    problem!(app, bare().insert_header((header::ORIGIN, "http://mossback.example")), StatusCode::FORBIDDEN);
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}")))["revision"], 1);
    assert_eq!(ok!(app, bare().insert_header((header::ORIGIN, "http://127.0.0.1:7420")))["revision"], 2);
}

#[actix_web::test]
async fn files_of_another_version_are_not_found_and_texts_are_compressed() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    problem!(app, get("/assets/index-00000000.js"), StatusCode::NOT_FOUND);
    let packed = get("/api/families").insert_header((header::ACCEPT_ENCODING, "gzip"));
    let response = call_service(&app, packed.to_request()).await;
    assert_eq!(response.headers().get(header::CONTENT_ENCODING).unwrap(), "gzip");
    let small = read_body(response).await.len();
    let whole = read_body(call_service(&app, get("/api/families").to_request()).await).await.len();
    assert!(small * 2 < whole, "{small} of {whole}");
}

/// The events that have arrived since, as JSON.
fn arrived(listener: &mut tokio::sync::broadcast::Receiver<vatman_server::Event>) -> Vec<Value> {
    std::iter::from_fn(|| listener.try_recv().ok()).map(|event| serde_json::to_value(event).unwrap()).collect()
}

#[actix_web::test]
async fn every_window_is_told_and_follows() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let side = first_side(&open)["id"].as_str().unwrap().to_owned();
    let item = item_with(&open, &kin_of(&open, "headline"));
    let mut listener = shop.events.listen();
    let acts = format!("/api/jobs/{id}/acts");
    ok!(app, post(&acts, &json!({ "base": 1, "act": { "act": "say", "item": item, "text": "Made slow." } })));
    ok!(app, post(&acts, &title(2, "Renamed")));
    ok!(app, upload(small_picture()));
    let told = arrived(&mut listener);
    assert_eq!(told[0], json!({ "event": "job", "job": id, "revision": 2 }));
    assert_eq!(told.last().unwrap(), &json!({ "event": "shelf" }));
    // A window that stands at the first revision is brought up to date with what changed since, and no more.
    let since = ok!(app, get(&format!("/api/jobs/{id}/since/1?watch={side}")));
    assert_eq!((since["revision"].as_i64(), since["delta"]["title"].as_str()), (Some(3), Some("Renamed")));
    assert_eq!(since["stage"]["items"].as_array().unwrap().len(), 1);
    assert_eq!(since["stage"]["revision"], 3);
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}/since/3")))["delta"]["touched"], json!([]));
    // Too long ago to be told, the window opens the job anew.
    for base in 3..40 {
        ok!(app, post(&acts, &title(base, &format!("Title {base}"))));
    }
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}/since/1"))), Value::Null);
}

#[actix_web::test]
async fn a_rehearsal_of_another_window_leaves_the_stage_of_the_first_alone() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let side = first_side(&open)["id"].clone();
    let item = item_with(&open, &kin_of(&open, "headline"));
    let shown = |answer: &Value| answer["stage"]["items"].as_array().unwrap().len();
    let act = |base: u64, x: i64| json!({ "base": base, "watch": side, "act": { "act": "move", "items": [item], "dx": x, "dy": 0 } });
    assert_eq!(shown(&ok!(app, post(&format!("/api/jobs/{id}/rehearse"), &act(1, 95_250)))), 1);
    assert_eq!(shown(&ok!(app, post(&format!("/api/jobs/{id}/acts"), &act(1, 95_250)))), 1);
    problem!(app, post(&format!("/api/jobs/{id}/rehearse"), &act(1, 5)), StatusCode::CONFLICT);
}

#[actix_web::test]
async fn an_answer_costs_what_changed() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let path = format!("/api/jobs/{id}/acts");
    let item = item_with(&open, &kin_of(&open, "headline"));
    let side = first_side(&open)["id"].clone();
    let removed =
        ok!(app, post(&path, &json!({ "base": 1, "watch": side, "act": { "act": "remove", "items": [item] } })));
    let delta = &removed["delta"];
    assert!(delta.get("pieces").is_none() && delta["frames"] == json!([]), "{delta}");
    let tray = delta["trays"].as_object().unwrap().values().next().unwrap();
    assert_eq!((tray["at"].as_i64(), tray["put"].as_array().unwrap().len()), (Some(0), 1));
    let piece = open["job"]["pieces"][0]["id"].clone();
    let guided =
        ok!(app, post(&path, &json!({ "base": 2, "act": { "act": "addGuide", "piece": piece, "upright": true } })));
    assert_eq!(guided["delta"]["frames"].as_array().unwrap().len(), 1);
    assert!(guided["delta"]["items"] == json!([]) && guided["delta"]["trays"] == json!({}), "{guided}");
    assert!(guided.to_string().len() < 4_000);
}

#[actix_web::test]
async fn what_takes_a_while_shows_how_far_it_is_and_can_be_given_up() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let places = ["square-post", "story", "flyer-a5", "poster-a3", "video-thumbnail", "card"];
    let wish = json!({ "design": "doorway", "places": places, "words": { "headline": "Hands in clay by ten." } });
    let id = ok!(app, post("/api/jobs", &wish))["id"].as_str().unwrap().to_owned();
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    let pieces: Vec<_> = open["job"]["pieces"].as_array().unwrap().iter().map(|piece| piece["id"].clone()).collect();
    let mut listener = shop.events.listen();
    let wish = json!({ "pieces": pieces, "kind": "png" });
    let work = made!(app, id, wish);
    let steps: Vec<i64> = arrived(&mut listener)
        .iter()
        .filter(|event| event["event"] == "work" && event["work"]["state"]["is"] == "running")
        .map(|event| event["work"]["done"].as_i64().unwrap())
        .collect();
    assert!(steps.is_sorted() && steps.contains(&(places.len() as i64)) && steps.len() > places.len(), "{steps:?}");
    assert_eq!(ok!(app, get(&format!("/api/work/{work}/files"))).as_array().unwrap().len(), places.len());
    // Made once: the same wish is answered from what was made, and a change of one piece makes that one again.
    let start = std::time::Instant::now();
    let again = made!(app, id, wish);
    assert_ne!(again, work);
    let second = start.elapsed();
    assert!(second < Duration::from_secs(5), "{second:?}");
    // Given up, it ends between two files and has no result.
    let larger = json!({ "pieces": pieces, "kind": "png", "times": 2 });
    let work = ok!(app, post(&format!("/api/jobs/{id}/files"), &larger))["id"].as_str().unwrap().to_owned();
    let gone = TestRequest::delete()
        .uri(&format!("/api/work/{work}"))
        .insert_header((header::HOST, "localhost"))
        .insert_header((OWN_HEADER, "1"));
    assert_eq!(call_service(&app, gone.to_request()).await.status(), StatusCode::NO_CONTENT);
    loop {
        let card = ok!(app, get(&format!("/api/work/{work}")));
        match card["state"]["is"].as_str().unwrap() {
            "cancelled" => break,
            "waiting" | "running" => std::thread::sleep(Duration::from_millis(20)),
            _ => panic!("{card}"),
        }
    }
    problem!(app, get(&format!("/api/work/{work}/file")), StatusCode::UNPROCESSABLE_ENTITY);
    problem!(app, get("/api/work/unknown"), StatusCode::NOT_FOUND);
}

#[actix_web::test]
async fn a_small_picture_is_sent_again_only_where_it_changed() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let side = first_side(&open)["id"].as_str().unwrap().to_owned();
    let path = format!("/api/jobs/{id}/sides/{side}/picture?w=120");
    let tag =
        |response: &ServiceResponse<_>| response.headers().get(header::ETAG).unwrap().to_str().unwrap().to_owned();
    let first = call_service(&app, get(&path).to_request()).await;
    let known = tag(&first);
    let same = get(&path).insert_header((header::IF_NONE_MATCH, known.clone()));
    assert_eq!(call_service(&app, same.to_request()).await.status(), StatusCode::NOT_MODIFIED);
    ok!(app, post(&format!("/api/jobs/{id}/acts"), &title(1, "Another title")));
    let same = get(&path).insert_header((header::IF_NONE_MATCH, known.clone()));
    assert_eq!(
        call_service(&app, same.to_request()).await.status(),
        StatusCode::NOT_MODIFIED,
        "the title is not on it"
    );
    // A font that comes may change what is drawn.
    let ttf =
        std::fs::read(std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../assets/fonts/rye/Rye_400Regular.ttf"));
    shop.shelves.take_font(&ttf.unwrap(), &Wanted::default()).unwrap();
    let anew = get(&path).insert_header((header::IF_NONE_MATCH, known.clone()));
    let anew = call_service(&app, anew.to_request()).await;
    assert_eq!(anew.status(), StatusCode::OK);
    assert_ne!(tag(&anew), known);
}

#[actix_web::test]
async fn the_arrangements_of_a_phrase_come_with_names_of_their_own() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let item = item_with(&open, &kin_of(&open, "headline"));
    let cards = ok!(app, get(&format!("/api/jobs/{id}/items/{item}/lock-ups")));
    let cards = cards.as_array().unwrap();
    assert!(cards.len() >= 16 && cards.iter().any(|card| card["plain"] == true));
    let pictures: std::collections::BTreeSet<_> = cards.iter().map(|card| card["svg"].as_str().unwrap()).collect();
    assert_eq!(pictures.len(), cards.len(), "no two look the same");
    assert!(pictures.iter().all(|svg| !svg.contains(&item)));
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}")))["job"], open["job"]);
}
