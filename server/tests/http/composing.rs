//! Composing over the interface: ties, stacks, call-outs, lines by hand, palettes, fonts of one's own.

use super::*;

/// Does something and returns the answer with its revision.
macro_rules! act {
    ($app:expr, $id:expr, $base:expr, $act:expr) => {
        ok!($app, post(&format!("/api/jobs/{}/acts", $id), &json!({ "base": $base, "act": $act })))
    };
}

macro_rules! blank_job {
    ($app:expr) => {{
        let wish = json!({ "design": null, "places": ["square-post"], "words": {} });
        let id = ok!($app, post("/api/jobs", &wish))["id"].as_str().unwrap().to_owned();
        let open = ok!($app, get(&format!("/api/jobs/{id}")));
        let side = first_side(&open)["id"].as_str().unwrap().to_owned();
        (id, side)
    }};
}

fn items(open: &Value) -> &Vec<Value> {
    first_side(open)["items"].as_array().unwrap()
}

fn rect<'a>(open: &'a Value, id: &str) -> &'a Value {
    &items(open).iter().find(|item| item["id"] == id).unwrap()["place"]["at"]["rect"]
}

fn made(answer: &Value, index: usize) -> String {
    answer["made"][index].as_str().unwrap().to_owned()
}

#[actix_web::test]
async fn what_follows_a_change_is_undone_with_it() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, side) = blank_job!(app);
    let shape = |outline: Value| json!({ "act": "add", "side": side, "what": { "kind": "shape", "outline": outline } });
    let a = made(&act!(app, id, 1, shape(json!({ "kind": "rect", "radius": 0 }))), 0);
    let b = made(&act!(app, id, 2, shape(json!({ "kind": "ellipse" }))), 0);
    let tie = json!({ "tie": "gap", "edge": "left", "of": { "item": a }, "gap": 95_250 });
    let answer = act!(app, id, 3, json!({ "act": "tie", "item": b, "tie": tie }));
    assert!(answer["delta"]["items"].as_array().unwrap().iter().any(|item| item["id"] == b.as_str()));
    // A distance begins as it is; by number it becomes what was wished for.
    act!(app, id, 4, json!({ "act": "setTieLength", "item": b, "index": 0, "length": 95_250 }));
    let before = ok!(app, get(&format!("/api/jobs/{id}")));
    let beside = |open: &Value| {
        rect(open, &b)["x"].as_i64().unwrap()
            - rect(open, &a)["x"].as_i64().unwrap()
            - rect(open, &a)["w"].as_i64().unwrap()
    };
    assert!((beside(&before) - 95_250).abs() < 100, "{}", beside(&before));
    // The first is dragged in one gesture of several moves; the second goes along each time.
    for step in 1..=3_i64 {
        let to = json!({ "x": 900_000 * step, "y": 200_000, "w": 1_000_000, "h": 1_000_000 });
        let resize = json!({ "act": "resize", "item": a, "to": to, "grip": { "h": 1, "v": 1 } });
        let request = json!({ "base": 4 + step, "gesture": "drag", "act": resize });
        ok!(app, post(&format!("/api/jobs/{id}/acts"), &request));
        let open = ok!(app, get(&format!("/api/jobs/{id}")));
        assert!((beside(&open) - 95_250).abs() < 100);
    }
    act!(app, id, 8, json!({ "act": "undo" }));
    let after = ok!(app, get(&format!("/api/jobs/{id}")));
    assert_eq!(after["job"], before["job"], "one step takes the whole gesture and all that followed back");
    act!(app, id, 9, json!({ "act": "redo" }));
    let again = ok!(app, get(&format!("/api/jobs/{id}")));
    assert_eq!(rect(&again, &a)["x"], 2_700_000);
    assert!((beside(&again) - 95_250).abs() < 100);
    // A gesture in which ever more follows is still one step.
    act!(app, id, 10, json!({ "act": "undo" }));
}

#[actix_web::test]
async fn contact_lines_call_outs_and_copies_in_a_step() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, side) = blank_job!(app);
    let lines = json!(["hello@mossback.example", "+44 1632 960 018"]);
    let answer = act!(app, id, 1, json!({ "act": "addContacts", "side": side, "lines": lines }));
    assert_eq!(answer["made"].as_array().unwrap().len(), 4, "two signs and two lines");
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    let stack = first_side(&open)["stacks"].as_array().unwrap().last().unwrap()["group"].clone();
    act!(app, id, 2, json!({ "act": "addContacts", "side": side, "stack": stack, "lines": ["@mossback.kiln"] }));
    problem!(
        app,
        post(
            &format!("/api/jobs/{id}/acts"),
            &json!({ "base": 3, "act": { "act": "addContacts", "side": side, "lines": [" "] } })
        ),
        StatusCode::UNPROCESSABLE_ENTITY
    );

    let picture = shop.shelves.samples().values().next().unwrap().to_string();
    let frame = made(
        &act!(app, id, 3, json!({ "act": "add", "side": side, "what": { "kind": "picture", "picture": picture } })),
        0,
    );
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    let at = rect(&open, &frame);
    let middle = |length: &str, start: &str| at[start].as_i64().unwrap() + at[length].as_i64().unwrap() / 2;
    let point = json!({ "x": middle("w", "x"), "y": middle("h", "y") });
    let answer = act!(app, id, 4, json!({ "act": "callOut", "picture": frame, "at": point }));
    assert_eq!(answer["made"].as_array().unwrap().len(), 3);
    let dot = made(&answer, 1);
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    let dot_rect = rect(&open, &dot);
    assert!(
        (dot_rect["x"].as_i64().unwrap() + dot_rect["w"].as_i64().unwrap() / 2 - point["x"].as_i64().unwrap()).abs()
            < 200
    );
    let words = made(&answer, 0);
    problem!(
        app,
        post(
            &format!("/api/jobs/{id}/acts"),
            &json!({ "base": 5, "act": { "act": "callOut", "picture": words, "at": point } })
        ),
        StatusCode::UNPROCESSABLE_ENTITY
    );

    let answer =
        act!(app, id, 5, json!({ "act": "duplicate", "items": [dot], "step": { "x": 95_250, "y": 0 }, "times": 3 }));
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    let last = rect(&open, &made(&answer, 0));
    assert_eq!(last["x"].as_i64().unwrap(), rect(&open, &dot)["x"].as_i64().unwrap() + 3 * 95_250);
    problem!(
        app,
        post(
            &format!("/api/jobs/{id}/acts"),
            &json!({ "base": 6, "act": { "act": "duplicate", "items": [dot], "times": 5_000 } })
        ),
        StatusCode::UNPROCESSABLE_ENTITY
    );
}

#[actix_web::test]
async fn lines_by_hand_what_is_alike_and_what_comes_instead() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, side) = blank_job!(app);
    let line: Vec<Value> = (0..20).map(|i| json!({ "at": { "x": 1_000_000 + i * 60_000, "y": 2_000_000 + (i % 3) * 20_000 }, "press": 100 + i * 5 })).collect();
    let hand = |lines: Value| json!({ "act": "add", "side": side, "what": { "kind": "hand", "lines": lines, "thickness": 50_000, "smoothing": 3, "thinning": 50 } });
    let drawn = made(&act!(app, id, 1, hand(json!([line]))), 0);
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    assert_eq!(rect(&open, &drawn)["x"], 1_000_000);
    problem!(
        app,
        post(&format!("/api/jobs/{id}/acts"), &json!({ "base": 2, "act": hand(json!([])) })),
        StatusCode::UNPROCESSABLE_ENTITY
    );

    let other = made(
        &act!(
            app,
            id,
            2,
            json!({ "act": "add", "side": side, "what": { "kind": "shape", "outline": { "kind": "ellipse" } } })
        ),
        0,
    );
    let words = made(
        &act!(app, id, 3, json!({ "act": "add", "side": side, "what": { "kind": "words", "part": "headline" } })),
        0,
    );
    let alike = ok!(app, get(&format!("/api/jobs/{id}/items/{drawn}/alike?by=kind")));
    assert_eq!(alike, json!([drawn, other]));
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}/items/{drawn}/alike?by=words"))), json!([words]));
    problem!(app, get(&format!("/api/jobs/{id}/items/nobody/alike?by=kind")), StatusCode::NOT_FOUND);

    // Removed, replaced, and still to be had back.
    let place = rect(&ok!(app, get(&format!("/api/jobs/{id}"))), &other).clone();
    act!(app, id, 4, json!({ "act": "remove", "items": [other] }));
    let piece = ok!(app, get(&format!("/api/jobs/{id}")))["job"]["pieces"][0]["id"].clone();
    let instead = made(
        &act!(
            app,
            id,
            5,
            json!({ "act": "replaceRemoved", "piece": piece, "item": other, "what": { "kind": "picture", "picture": null } })
        ),
        0,
    );
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    assert_eq!(rect(&open, &instead), &place);
    assert_eq!(items(&open)[1]["id"], instead.as_str());
    act!(app, id, 6, json!({ "act": "putBack", "piece": piece, "item": other }));

    // A name of its own, and behind what it covers.
    act!(app, id, 7, json!({ "act": "nameItem", "item": drawn, "name": "  Wave  " }));
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    assert_eq!(items(&open).iter().find(|item| item["id"] == drawn.as_str()).unwrap()["name"], "Wave");
    act!(app, id, 8, json!({ "act": "reorder", "items": [words], "order": "behind" }));
}

#[actix_web::test]
async fn palettes_and_linked_colours_change_everything_that_has_them() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, _) = new_job!(app);
    let picture = shop.shelves.samples().values().next().unwrap();
    let read = ok!(app, get(&format!("/api/pictures/{picture}/colours")));
    assert!(
        read.as_array().is_some_and(|colours| (3..=8).contains(&colours.len())
            && colours.iter().all(|colour| colour.as_str().unwrap().len() == 7)),
        "{read}"
    );
    problem!(app, get("/api/pictures/nobody/colours"), StatusCode::NOT_FOUND);
    let palettes = ok!(app, get("/api/palettes"));
    assert!(palettes.as_array().unwrap().len() >= 12);
    let night = &palettes.as_array().unwrap()[1];
    act!(app, id, 1, json!({ "act": "applyPalette", "name": night["name"] }));
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    assert_eq!(open["job"]["swatches"]["ground"]["color"], night["colours"][0]);
    problem!(
        app,
        post(
            &format!("/api/jobs/{id}/acts"),
            &json!({ "base": 2, "act": { "act": "applyPalette", "name": "Nobody's" } })
        ),
        StatusCode::NOT_FOUND
    );
    let words: Vec<String> = items(&open)
        .iter()
        .filter(|item| open["job"]["kins"][item["kin"].as_str().unwrap()]["content"]["kind"] == "words")
        .map(|item| item["id"].as_str().unwrap().to_owned())
        .collect();
    act!(app, id, 2, json!({ "act": "linkColour", "items": [words[0]], "to": words[1] }));
    act!(app, id, 3, json!({ "act": "swapColours", "items": [words[0]] }));
}

#[actix_web::test]
async fn a_font_of_ones_own_is_set_kept_and_taken_off_the_shelf_when_nobody_uses_it() {
    let folder = tempfile::tempdir().unwrap();
    let upload = |bytes: Vec<u8>| {
        TestRequest::post()
            .uri("/api/families")
            .insert_header((header::HOST, "127.0.0.1:7420"))
            .insert_header((OWN_HEADER, "1"))
            .set_payload(bytes)
    };
    let ttf = std::fs::read(concat!(env!("CARGO_MANIFEST_DIR"), "/../assets/fonts/rye/Rye_400Regular.ttf")).unwrap();
    let (id, side, item);
    {
        let shop = workshop(&folder);
        let app = app!(shop);
        problem!(app, upload(b"no font at all".to_vec()), StatusCode::UNPROCESSABLE_ENTITY);
        problem!(app, upload(ttf[..ttf.len() / 2].to_vec()), StatusCode::UNPROCESSABLE_ENTITY);
        let family = ok!(app, upload(ttf.clone()));
        assert_eq!(
            (family["family"].as_str(), family["own"].as_str()),
            (Some("Rye (own)"), Some("free")),
            "a family that ships keeps its name"
        );
        (id, side) = blank_job!(app);
        item = made(
            &act!(app, id, 1, json!({ "act": "add", "side": side, "what": { "kind": "words", "part": "headline" } })),
            0,
        );
        act!(app, id, 2, json!({ "act": "changeType", "items": [item], "change": { "family": "Rye (own)" } }));
        act!(app, id, 3, json!({ "act": "say", "item": item, "text": "Fired twice" }));
        let file = family["faces"][0]["file"].as_str().unwrap();
        let bytes = read_body(call_service(&app, get(&format!("/type/{file}")).to_request()).await).await;
        assert_eq!(bytes.as_ref(), ttf.as_slice());
        let refused = problem!(
            app,
            TestRequest::delete()
                .uri("/api/families/Rye%20(own)")
                .insert_header((header::HOST, "127.0.0.1:7420"))
                .insert_header((OWN_HEADER, "1")),
            StatusCode::UNPROCESSABLE_ENTITY
        );
        assert!(refused["detail"].as_str().unwrap().contains("is used in"));
    }
    // The program is started again: the font is still there, and so is the setting.
    let shop = workshop(&folder);
    let app = app!(shop);
    let stage = ok!(app, get(&format!("/api/jobs/{id}/sides/{side}")));
    assert_eq!(stage["items"][0]["findings"], json!([]));
    let with_it = stage["items"][0]["svg"].clone();
    // Gone from under the job it is found missing, and a stand-in is shown.
    shop.store.remove_family("Rye (own)").unwrap();
    drop(app);
    let shop = workshop(&folder);
    let app = app!(shop);
    let stage = ok!(app, get(&format!("/api/jobs/{id}/sides/{side}")));
    let finding = &stage["items"][0]["findings"][0];
    assert_eq!(finding["kind"], "missingFamily");
    assert!(finding["says"].as_str().unwrap().contains("Rye (own), which is not at hand"), "{finding}");
    assert_ne!(stage["items"][0]["svg"], with_it);
    // Brought again, everything is as it was, on a stage that is open with whatever changes next; unused, it can go.
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    ok!(app, upload(ttf));
    let shape = json!({ "act": "add", "side": side, "what": { "kind": "shape", "outline": { "kind": "ellipse" } } });
    let watched = json!({ "base": open["revision"], "watch": side, "act": shape });
    let answer = ok!(app, post(&format!("/api/jobs/{id}/acts"), &watched));
    let redrawn = answer["stage"]["items"].as_array().unwrap().iter().find(|drawn| drawn["id"] == item.as_str());
    assert_eq!(redrawn.map(|drawn| &drawn["svg"]), Some(&with_it), "the words are drawn anew: {answer}");
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}/sides/{side}")))["items"][0]["svg"], with_it);
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    let lora = json!({ "act": "changeType", "items": [item], "change": { "family": "Lora" } });
    act!(app, id, open["revision"], lora);
    let gone = call_service(
        &app,
        TestRequest::delete()
            .uri("/api/families/Rye%20(own)")
            .insert_header((header::HOST, "127.0.0.1:7420"))
            .insert_header((OWN_HEADER, "1"))
            .to_request(),
    )
    .await;
    assert_eq!(gone.status(), StatusCode::NO_CONTENT);
    // Undoing brings the family back into the job, where it is found missing, and loses nothing.
    act!(app, id, open["revision"].as_u64().unwrap() + 1, json!({ "act": "undo" }));
    let stage = ok!(app, get(&format!("/api/jobs/{id}/sides/{side}")));
    assert_eq!(
        (stage["items"][0]["id"].as_str(), &stage["items"][0]["findings"][0]["kind"]),
        (Some(item.as_str()), &json!("missingFamily"))
    );
}
