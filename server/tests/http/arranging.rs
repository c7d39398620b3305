//! What stands where and how it looks: lined up, grouped, coloured, mended.

use super::*;

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
