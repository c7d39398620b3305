//! What is kept for all jobs, what was handed over, and the next of a series.

use actix_web::http::Method;

use super::*;

fn send(method: Method, path: &str) -> TestRequest {
    let request = TestRequest::default().method(method).uri(path);
    request.insert_header((header::HOST, "127.0.0.1:7420")).insert_header((OWN_HEADER, "1"))
}

macro_rules! done {
    ($app:expr, $request:expr) => {{
        let response = call_service(&$app, $request.to_request()).await;
        let status = response.status();
        let body = read_body(response).await;
        assert!(status.is_success(), "{status}: {}", String::from_utf8_lossy(&body));
    }};
}

#[actix_web::test]
async fn sets_formats_words_and_names_are_kept_for_all_jobs_and_let_go() {
    let folder = tempfile::tempdir().unwrap();
    {
        let app = app!(workshop(&folder));
        done!(app, send(Method::PUT, "/api/kept/sets/My%20usual%20two").set_json(json!(["story", "own 90 x 50 mm"])));
        let label = json!({ "size": "60 x 40 mm", "bleed": "2 mm", "ppi": 600 });
        let kept = ok!(app, send(Method::PUT, "/api/kept/formats/Glaze%20label").set_json(label));
        assert_eq!((kept["name"].as_str(), kept["format"]["ppi"].as_u64()), (Some("Glaze label"), Some(600)));
        done!(app, send(Method::PUT, "/api/kept/words/sgraffitto"));
        done!(app, send(Method::PUT, "/api/kept/names").set_json("[date]-[piece]"));
    }
    // After a restart it is all there, and used.
    let app = app!(workshop(&folder));
    let kept = ok!(app, get("/api/kept"));
    assert_eq!(kept["sets"][0]["name"], "My usual two");
    assert_eq!(kept["sets"][0]["places"].as_array().unwrap().len(), 2);
    assert_eq!((&kept["words"], &kept["names"]), (&json!(["sgraffitto"]), &json!("[date]-[piece]")));
    let found = ok!(app, get("/api/places?q=glaze"));
    assert_eq!(found["places"][0]["id"], kept["formats"][0]["id"]);
    let wish = json!({ "design": "doorway", "places": [found["places"][0]["id"]], "words": { "headline": "Three large sgraffitto bowls for the table" } });
    let id = ok!(app, post("/api/jobs", &wish))["id"].as_str().unwrap().to_owned();
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    assert_eq!(open["job"]["pieces"][0]["format"]["ppi"], 600);
    let says = ok!(app, get(&format!("/api/jobs/{id}/check")));
    assert!(!says.to_string().contains("sgraffitto"), "a word of one's own: {says}");
    // A job goes on without the format it was made for.
    done!(app, send(Method::DELETE, "/api/kept/formats/Glaze%20label"));
    done!(app, send(Method::DELETE, "/api/kept/sets/My%20usual%20two"));
    done!(app, send(Method::DELETE, "/api/kept/words/sgraffitto"));
    let says = ok!(app, get(&format!("/api/jobs/{id}/check")));
    assert!(says.as_array().unwrap().iter().any(|one| one["finding"]["word"] == "sgraffitto"), "{says}");
    let kept = ok!(app, get("/api/kept"));
    assert_eq!(kept["sets"].as_array().unwrap().len() + kept["formats"].as_array().unwrap().len(), 0);
}

#[actix_web::test]
async fn what_cannot_be_kept_is_told_and_leaves_the_rest() {
    let folder = tempfile::tempdir().unwrap();
    let app = app!(workshop(&folder));
    let refused = StatusCode::UNPROCESSABLE_ENTITY;
    problem!(app, send(Method::PUT, "/api/kept/sets/x").set_json(json!([])), refused);
    problem!(app, send(Method::PUT, "/api/kept/sets/x").set_json(json!(["nowhere"])), refused);
    problem!(app, send(Method::PUT, "/api/kept/sets/%20").set_json(json!(["story"])), refused);
    problem!(app, send(Method::PUT, "/api/kept/formats/x").set_json(json!({ "size": "0 x 9 mm" })), refused);
    problem!(app, send(Method::PUT, "/api/kept/words/two%20words"), refused);
    problem!(app, send(Method::PUT, "/api/kept/names").set_json("[colour]"), refused);
    problem!(app, send(Method::PUT, "/api/kept/names").set_json("[job]"), refused);
    problem!(app, send(Method::DELETE, "/api/kept/words/gone"), StatusCode::NOT_FOUND);
    problem!(app, send(Method::DELETE, "/api/kept/others/gone"), StatusCode::NOT_FOUND);
    let kept = ok!(app, get("/api/kept"));
    assert_eq!(kept["sets"].as_array().unwrap().len() + kept["words"].as_array().unwrap().len(), 0);
}

#[actix_web::test]
async fn what_was_handed_over_is_remembered_until_it_looks_otherwise() {
    let folder = tempfile::tempdir().unwrap();
    let app = app!(workshop(&folder));
    let (id, open) = new_job!(app);
    let pieces: Vec<Value> =
        open["job"]["pieces"].as_array().unwrap().iter().map(|piece| piece["id"].clone()).collect();
    done!(app, send(Method::PUT, "/api/kept/names").set_json("[number] [piece]"));
    let work = made!(app, id, json!({ "pieces": pieces }));
    let handed = |body: &Value| -> Vec<(Value, bool)> {
        body.as_array().unwrap().iter().map(|one| (one["piece"].clone(), one["same"].as_bool().unwrap())).collect()
    };
    assert_eq!(handed(&ok!(app, get(&format!("/api/jobs/{id}/handed")))), [], "made is not handed over");
    // One of the files, then all.
    let file = call_service(&app, get(&format!("/api/work/{work}/files/1")).to_request()).await;
    let name = file.headers().get(header::CONTENT_DISPOSITION).unwrap().to_str().unwrap().to_owned();
    assert!(name.contains("02-vertical-story"), "{name}");
    assert!(image::load_from_memory(&read_body(file).await).is_ok());
    assert_eq!(handed(&ok!(app, get(&format!("/api/jobs/{id}/handed")))), [(pieces[1].clone(), true)]);
    problem!(app, get(&format!("/api/work/{work}/files/9")), StatusCode::NOT_FOUND);
    done!(app, get(&format!("/api/work/{work}/file")));
    let all = ok!(app, get(&format!("/api/jobs/{id}/handed")));
    assert_eq!(all.as_array().unwrap().len(), 2);
    assert!(
        all.as_array().unwrap().iter().all(|one| one["same"] == true && one["files"].as_array().unwrap().len() == 1)
    );
    // Another title changes no picture; a move in one piece changes that one alone.
    let act = |base: u64, act: Value| post(&format!("/api/jobs/{id}/acts"), &json!({ "base": base, "act": act }));
    ok!(app, act(1, json!({ "act": "setTitle", "title": "Another" })));
    let headline = item_with(&open, &kin_of(&open, "headline"));
    ok!(app, act(2, json!({ "act": "move", "items": [headline], "dx": 914_400, "dy": 0 })));
    let now = handed(&ok!(app, get(&format!("/api/jobs/{id}/handed"))));
    let same = |piece: &Value| now.iter().find(|one| one.0 == *piece).unwrap().1;
    assert!(!same(&pieces[0]) && same(&pieces[1]), "{now:?}");
}

#[actix_web::test]
async fn the_next_of_a_series_asks_for_what_changes_and_keeps_the_rest() {
    let folder = tempfile::tempdir().unwrap();
    let app = app!(workshop(&folder));
    let words = json!({ "headline": "Winter market", "when": "Saturday, 12 December 2026, 9 to 5", "price": "From 12", "where": "Harrowmere" });
    let wish = json!({ "design": "doorway", "places": ["square-post", "story"], "words": words });
    let id = ok!(app, post("/api/jobs", &wish))["id"].as_str().unwrap().to_owned();
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    // Words nobody would take for a date can be marked.
    let place = item_with(&open, &kin_of(&open, "where"));
    let mark = json!({ "base": 1, "act": { "act": "askNextTime", "item": place, "asked": true } });
    ok!(app, post(&format!("/api/jobs/{id}/acts"), &mark));
    let next = ok!(app, get(&format!("/api/jobs/{id}/next?step=month")));
    let asked: Vec<(&str, &str)> = next["next"]["words"]
        .as_array()
        .unwrap()
        .iter()
        .map(|one| (one["why"].as_str().unwrap(), one["next"].as_str().unwrap()))
        .collect();
    assert!(asked.contains(&("date", "Saturday, 9 January 2027, 9 to 5")), "{asked:?}");
    assert!(asked.contains(&("price", "From 12")) && asked.contains(&("marked", "Harrowmere")), "{asked:?}");
    assert_eq!((asked.len(), next["steps"].as_array().unwrap().len()), (3, 4));
    let when = kin_of(&open, "when");
    let wish = json!({ "title": "January market", "words": { when.clone(): "Saturday, 9 January 2027, 9 to 5" } });
    let made = ok!(app, post(&format!("/api/jobs/{id}/next"), &wish))["id"].as_str().unwrap().to_owned();
    let new = ok!(app, get(&format!("/api/jobs/{made}")));
    assert_eq!(new["job"]["title"], "January market");
    assert_eq!(new["job"]["kins"][&when]["content"]["text"][0]["text"], "Saturday, 9 January 2027, 9 to 5");
    assert_eq!(
        first_side(&new)["items"].as_array().unwrap().len(),
        first_side(&open)["items"].as_array().unwrap().len()
    );
    // The first is as it was, and the two are apart.
    let again = ok!(app, get(&format!("/api/jobs/{id}")));
    assert_eq!(again["job"]["kins"][&when], open["job"]["kins"][&when]);
    problem!(app, post(&format!("/api/jobs/{id}/next"), &json!({ "title": "" })), StatusCode::UNPROCESSABLE_ENTITY);
    problem!(app, post("/api/jobs/gone/next", &json!({ "title": "x" })), StatusCode::NOT_FOUND);
    assert_eq!(ok!(app, get("/api/jobs")).as_array().unwrap().len(), 2);
}

#[actix_web::test]
async fn the_last_move_is_repeated_where_it_means_the_same() {
    let folder = tempfile::tempdir().unwrap();
    let app = app!(workshop(&folder));
    let wish = json!({ "design": "doorway", "places": ["square-post", "shop-picture", "story"], "words": { "headline": "Hands in clay by ten." } });
    let id = ok!(app, post("/api/jobs", &wish))["id"].as_str().unwrap().to_owned();
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    let headline = item_with(&open, &kin_of(&open, "headline"));
    let act = |base: u64, act: Value| post(&format!("/api/jobs/{id}/acts"), &json!({ "base": base, "act": act }));
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}/repeats"))), json!([]), "nothing was moved");
    ok!(app, act(1, json!({ "act": "move", "items": [headline], "dx": 0, "dy": -200_000 })));
    let offered = ok!(app, get(&format!("/api/jobs/{id}/repeats")));
    let pieces: Vec<Value> = offered.as_array().unwrap().iter().map(|one| one["piece"].clone()).collect();
    assert!(!pieces.is_empty(), "{offered}");
    let first = pieces[0].as_str().unwrap();
    let picture = call_service(&app, get(&format!("/api/jobs/{id}/repeats/{first}/picture?w=200")).to_request()).await;
    assert!(image::load_from_memory(&read_body(picture).await).is_ok());
    let y = |open: &Value, piece: &Value| {
        let kin = kin_of(open, "headline");
        let piece = open["job"]["pieces"].as_array().unwrap().iter().find(|one| one["id"] == *piece).unwrap().clone();
        let items = piece["sides"][0]["items"].as_array().unwrap().clone();
        let item = items.into_iter().find(|item| item["kin"] == kin.as_str()).unwrap();
        (item["place"]["at"]["rect"]["y"].as_i64().unwrap(), item["place"]["byHand"] == true)
    };
    ok!(app, act(2, json!({ "act": "repeatMove", "pieces": pieces })));
    let now = ok!(app, get(&format!("/api/jobs/{id}")));
    for piece in &pieces {
        let (was, is) = (y(&open, piece), y(&now, piece));
        assert!(is.0 < was.0 && is.1, "{was:?} {is:?}");
    }
    // What was repeated is not repeated again, and one step takes it back.
    problem!(app, act(3, json!({ "act": "repeatMove", "pieces": ["gone"] })), StatusCode::UNPROCESSABLE_ENTITY);
    ok!(app, act(3, json!({ "act": "undo" })));
    let back = ok!(app, get(&format!("/api/jobs/{id}")));
    assert!(pieces.iter().all(|piece| y(&back, piece) == y(&open, piece)));
}
