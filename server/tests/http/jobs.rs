//! Jobs and edits: what is kept, undone, refused and never lost.

use super::*;

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
async fn a_full_disk_still_hands_out_what_is_finished() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let work = made!(app, id, json!({ "pieces": [open["job"]["pieces"][0]["id"]], "kind": "png" }));
    shop.store.pragma("PRAGMA max_page_count = 1").unwrap();
    assert!(bytes!(app, get(&format!("/api/work/{work}/file"))).starts_with(b"\x89PNG"));
    assert!(bytes!(app, get(&format!("/api/work/{work}/files/0"))).starts_with(b"\x89PNG"));
    shop.store.pragma("PRAGMA max_page_count = 4294967294").unwrap();
    bytes!(app, get(&format!("/api/work/{work}/file")));
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}/handed"))).as_array().unwrap().len(), 1);
}

#[actix_web::test]
async fn head_is_answered_like_get_and_reads_are_guarded_however_they_are_written() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, _) = new_job!(app);
    let head = |path: &str| {
        TestRequest::default()
            .method(actix_web::http::Method::HEAD)
            .uri(path)
            .insert_header((header::HOST, "localhost"))
    };
    for path in ["/api/jobs", &format!("/api/jobs/{id}"), "/api/jobs/gone", "/"] {
        let (asked, got) =
            (call_service(&app, head(path).to_request()).await, call_service(&app, get(path).to_request()).await);
        assert_eq!(asked.status(), got.status(), "{path}");
        assert_eq!(asked.headers().get(header::CONTENT_TYPE), got.headers().get(header::CONTENT_TYPE), "{path}");
    }
    for path in ["/api/jobs", "/%61pi/jobs", "/ap%69/jobs"] {
        let elsewhere = get(path).insert_header(("sec-fetch-site", "cross-site"));
        assert_eq!(call_service(&app, elsewhere.to_request()).await.status(), StatusCode::FORBIDDEN, "{path}");
    }
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
