//! Sheets, lists, orders and proofs.

use actix_web::http::Method;

use super::*;

fn send(method: Method, path: &str) -> TestRequest {
    let request = TestRequest::default().method(method).uri(path);
    request.insert_header((header::HOST, "127.0.0.1:7420")).insert_header((OWN_HEADER, "1"))
}

/// A job of one place on paper, with the identity of its piece.
macro_rules! paper_job {
    ($app:expr, $place:expr, $backs:expr) => {{
        let words = json!({ "headline": "Ines Vardal", "support": "Potter", "contact": "hello@mossback.example" });
        let wish = json!({ "design": "plain-words", "places": [$place], "words": words, "backs": $backs });
        let id = ok!($app, post("/api/jobs", &wish))["id"].as_str().unwrap().to_owned();
        let open = ok!($app, get(&format!("/api/jobs/{id}")));
        let piece = open["job"]["pieces"][0]["id"].as_str().unwrap().to_owned();
        (id, piece, open)
    }};
}

#[actix_web::test]
async fn sheets_are_planned_seen_and_written() {
    let folder = tempfile::tempdir().unwrap();
    let app = app!(workshop(&folder));
    let (id, piece, open) = paper_job!(app, "card", true);
    assert_eq!(open["job"]["pieces"][0]["sides"].as_array().unwrap().len(), 2, "it has a back from the start");
    let begin = ok!(app, get(&format!("/api/jobs/{id}/pieces/{piece}/sheets")));
    assert_eq!((&begin["setup"]["paper"], &begin["setup"]["bleed"]), (&json!("letter"), &json!(true)));
    let wish = json!({ "pieces": [{ "piece": piece, "count": 20 }], "setup": begin["setup"] });
    let card = ok!(app, post(&format!("/api/jobs/{id}/sheets/plan"), &wish));
    assert_eq!((card["up"].as_u64(), card["sheets"].as_u64(), card["faces"].as_u64()), (Some(9), Some(3), Some(6)));
    let seen = bytes!(app, post(&format!("/api/jobs/{id}/sheets/picture?face=1&w=300"), &wish));
    assert_eq!(image::load_from_memory(&seen).unwrap().width(), 300);
    problem!(app, post(&format!("/api/jobs/{id}/sheets/picture?face=6&w=300"), &wish), StatusCode::NOT_FOUND);
    let pdf = waited!(app, post(&format!("/api/jobs/{id}/sheets/file"), &wish));
    assert!(pdf.starts_with(b"%PDF"));
    assert!(bytes!(app, post(&format!("/api/jobs/{id}/sheets/guide"), &wish)).starts_with(b"%PDF"));
    let mut tiny = wish.clone();
    tiny["setup"]["paper"] = json!("50 x 50 mm");
    let why = problem!(app, post(&format!("/api/jobs/{id}/sheets/plan"), &tiny), StatusCode::UNPROCESSABLE_ENTITY);
    assert!(why["detail"].as_str().unwrap().contains("does not fit"));
    // A layout is kept for every job.
    bytes!(app, send(Method::PUT, "/api/kept/sheets/On%20my%20printer").set_json(&begin["setup"]));
    let begin = ok!(app, get(&format!("/api/jobs/{id}/pieces/{piece}/sheets")));
    assert_eq!(begin["kept"][0]["name"], "On my printer");
    bytes!(app, send(Method::DELETE, "/api/kept/sheets/On%20my%20printer"));
}

#[actix_web::test]
async fn a_list_is_taken_matched_by_hand_and_made() {
    let folder = tempfile::tempdir().unwrap();
    let (id, piece);
    {
        let app = app!(workshop(&folder));
        let open;
        (id, piece, open) = paper_job!(app, "name-badge", false);
        assert_eq!(open["job"]["pieces"][0]["format"]["finish"]["corners"], 108_000);
        let path = format!("/api/jobs/{id}/pieces/{piece}/list");
        assert_eq!(ok!(app, get(&path)), Value::Null);
        problem!(app, send(Method::POST, &path).set_payload("\n"), StatusCode::UNPROCESSABLE_ENTITY);
        let text = "Who;Seat\nInes Vardal;A\n;B\nTobin Ashgrove;C\n";
        let card = ok!(app, send(Method::POST, &format!("{path}?name=guests.csv")).set_payload(text));
        assert_eq!((card["good"].as_u64(), card["bad"][0]["line"].as_u64()), (Some(2), Some(3)), "{card}");
        // Seats are for the second line, says a hand.
        let support = card["fields"].as_array().unwrap().iter().find(|field| field["name"] == "Second line").unwrap();
        let mut fillings: Vec<Value> =
            card["fillings"].as_array().unwrap().iter().filter(|f| f["column"] == 0).cloned().collect();
        fillings.push(json!({ "column": 1, "kin": support["kin"], "fills": "words" }));
        let card = ok!(app, send(Method::PUT, &path).set_json(json!({ "fillings": fillings })));
        assert_eq!(card["fillings"].as_array().unwrap().len(), 2);
    }
    // All of it is there after a restart.
    let app = app!(workshop(&folder));
    let path = format!("/api/jobs/{id}/pieces/{piece}/list");
    assert_eq!(ok!(app, get(&path))["name"], "guests.csv");
    let seen = bytes!(app, get(&format!("{path}/picture?row=1&w=200")));
    assert_eq!(image::load_from_memory(&seen).unwrap().width(), 200);
    problem!(app, get(&format!("{path}/picture?row=2&w=200")), StatusCode::NOT_FOUND);
    let zip = waited!(app, post(&format!("{path}/files"), &json!({ "together": false, "kind": "png" })));
    let mut zip = zip::ZipArchive::new(std::io::Cursor::new(zip)).unwrap();
    let names: Vec<String> = (0..zip.len()).map(|at| zip.by_index(at).unwrap().name().to_owned()).collect();
    assert!(names.len() == 2 && names[0].contains("ines-vardal") && names[1].contains("tobin-ashgrove"), "{names:?}");
    let setup = ok!(app, get(&format!("/api/jobs/{id}/pieces/{piece}/sheets")))["setup"].clone();
    let wish = json!({ "pieces": [{ "piece": piece }], "setup": setup, "list": true });
    let plan = ok!(app, post(&format!("/api/jobs/{id}/sheets/plan"), &wish));
    assert_eq!((plan["pieces"].as_u64(), plan["positions"][1]["says"].as_str()), (Some(2), Some("Name badge, row 2")));
    bytes!(app, send(Method::DELETE, &path));
    assert_eq!(ok!(app, get(&path)), Value::Null);
    problem!(app, post(&format!("/api/jobs/{id}/sheets/plan"), &wish), StatusCode::NOT_FOUND);
}

#[actix_web::test]
async fn the_shop_looks_at_the_file_and_orders_keep_what_was_printed() {
    let folder = tempfile::tempdir().unwrap();
    let app = app!(workshop(&folder));
    let shop = ok!(app, get("/api/shop"));
    let paper = shop["papers"][0]["id"].clone();
    // Without bleed it is sent back.
    let (id, piece, _) = paper_job!(app, "card-quarters", false);
    let wish = json!({ "paper": paper, "count": 100 });
    let path = format!("/api/jobs/{id}/pieces/{piece}");
    assert!(ok!(app, post(&format!("{path}/quote"), &wish))["price"].as_u64().unwrap() > 0);
    let order = ok!(app, post(&format!("{path}/orders"), &wish));
    assert_eq!(order["state"], "rejected");
    assert!(order["reasons"][0].as_str().unwrap().contains("bleed"), "{order}");
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    let act =
        json!({ "base": open["revision"], "act": { "act": "changeFormat", "piece": piece, "place": "card-folded" } });
    let _ = ok!(app, post(&format!("/api/jobs/{id}/acts"), &act));
    let order = ok!(app, post(&format!("{path}/orders"), &wish));
    assert_eq!((&order["state"], &order["reasons"]), (&json!("accepted"), &json!([])));
    let orders = ok!(app, get(&format!("/api/jobs/{id}/orders")));
    assert_eq!(orders.as_array().unwrap().len(), 2);
    assert!(orders[0]["revision"].as_i64() > orders[1]["revision"].as_i64());
    // What was printed stays as it was, whatever becomes of the job.
    let file = format!("/api/orders/{}/file", order["id"].as_str().unwrap());
    let before = bytes!(app, get(&file));
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    let _ = ok!(app, post(&format!("/api/jobs/{id}/acts"), &title(open["revision"].as_u64().unwrap(), "Another name")));
    assert_eq!(before, bytes!(app, get(&file)));
    assert!(before.starts_with(b"%PDF"));
    problem!(
        app,
        post(&format!("{path}/orders"), &json!({ "paper": "vellum", "count": 100 })),
        StatusCode::UNPROCESSABLE_ENTITY
    );
    problem!(app, get("/api/orders/none/file"), StatusCode::NOT_FOUND);
}

#[actix_web::test]
async fn proofs_goods_codes_and_finishes_answer() {
    let folder = tempfile::tempdir().unwrap();
    let app = app!(workshop(&folder));
    let (id, piece, open) = paper_job!(app, "card", false);
    let side = open["job"]["pieces"][0]["sides"][0]["id"].as_str().unwrap().to_owned();
    let proof = ok!(app, get(&format!("/api/jobs/{id}/sides/{side}/proof")));
    assert!(proof["most_ink"].as_u64().unwrap() <= proof["limit"].as_u64().unwrap() + 1);
    assert!(!proof["colours"].as_array().unwrap().is_empty());
    let seen = bytes!(app, get(&format!("/api/jobs/{id}/sides/{side}/proof/picture?w=120")));
    assert_eq!(image::load_from_memory(&seen).unwrap().width(), 120);
    let goods = ok!(app, get("/api/goods"));
    let worn = format!("/api/jobs/{id}/sides/{side}/worn");
    let query = format!("good={}&area=0&colour=%2323201d", goods[0]["id"].as_str().unwrap());
    assert!(ok!(app, get(&format!("{worn}?{query}")))["seen"].as_f64().unwrap() <= 1.0);
    bytes!(app, get(&format!("{worn}/picture?{query}&w=200")));
    problem!(app, get(&format!("{worn}?good=hat&colour=%23ffffff")), StatusCode::NOT_FOUND);
    let act = |base: &Value, act: Value| post(&format!("/api/jobs/{id}/acts"), &json!({ "base": base, "act": act }));
    let code = json!({ "act": "add", "side": side, "what": { "kind": "code", "says": { "kind": "address", "address": "mossback.example" } } });
    let made = ok!(app, act(&open["revision"], code));
    let item = made["made"][0].clone();
    let change = json!({ "act": "changeCode", "item": item, "change": { "ground": null } });
    let changed = ok!(app, act(&made["revision"], change));
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    let code = open["job"]["kins"].as_object().unwrap().values().find(|kin| kin["content"]["kind"] == "code").unwrap();
    assert_eq!(
        (&code["content"]["code"]["ground"], &code["content"]["code"]["says"]["address"]),
        (&Value::Null, &json!("mossback.example"))
    );
    let finish =
        json!({ "act": "changeFinish", "piece": piece, "change": { "change": "folds", "count": 1, "level": false } });
    let done = ok!(app, act(&changed["revision"], finish));
    let wrong = json!({ "act": "changeFinish", "piece": piece, "change": { "change": "fold", "index": 0, "at": 10 } });
    problem!(app, act(&done["revision"], wrong), StatusCode::UNPROCESSABLE_ENTITY);
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    assert_eq!(open["job"]["pieces"][0]["format"]["finish"]["folds"]["at"], json!([1_600_200]));
}
