//! Pictures and graphics: brought, shown, arranged, and leaving as files.

use super::*;

fn asked(request: TestRequest, path: &str) -> TestRequest {
    request.uri(path).insert_header((header::HOST, "127.0.0.1:7420")).insert_header((OWN_HEADER, "1"))
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
async fn graphics_are_found_added_swapped_and_recoloured() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let found = ok!(app, get("/api/graphics?q=rakes"));
    assert_eq!((found["graphics"][0]["name"].as_str(), found["sets"].as_array().unwrap().len()), (Some("rake"), 4));
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

#[actix_web::test]
async fn a_picture_is_treated_seen_at_an_address_of_its_own_and_as_it_came_again() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let picture = ok!(app, upload(small_picture()))["id"].as_str().unwrap().to_owned();
    let kin = kin_of(&open, "mainPicture");
    let side = first_side(&open)["id"].as_str().unwrap().to_owned();
    let items = first_side(&open)["items"].as_array().unwrap();
    let item = items.iter().find(|item| item["kin"] == kin.as_str()).unwrap()["id"].as_str().unwrap().to_owned();
    let path = format!("/api/jobs/{id}/acts");
    let act = |base: u64, act: Value| json!({ "base": base, "watch": side, "act": act });
    ok!(app, post(&path, &act(1, json!({ "act": "show", "item": item, "picture": picture }))));
    let grey = ok!(app, post(&path, &act(2, json!({ "act": "addStep", "items": [item], "kind": "mono" }))));
    let svg = grey["stage"]["items"].as_array().unwrap().iter().find(|one| one["id"] == item.as_str()).unwrap()["svg"]
        .as_str()
        .unwrap();
    let address = svg.split("href=\"").nth(1).unwrap().split('"').next().unwrap().replace("&amp;", "&");
    assert!(address.contains("&as="), "{address}");
    let seen = |bytes: &[u8]| image::load_from_memory(bytes).unwrap().to_rgb8();
    let treated = seen(&read_body(call_service(&app, get(&address).to_request()).await).await);
    assert!(treated.pixels().all(|p| p[0].abs_diff(p[2]) < 8), "it is grey");
    let plain = seen(&read_body(call_service(&app, get(&format!("/media/{picture}?w=64")).to_request()).await).await);
    assert!(plain.pixels().any(|p| p[0].abs_diff(p[2]) > 40), "the original is as it came");

    // What is only tried is seen at the very address it will have.
    let steps = json!([{ "develop": { "kind": "mono", "red": 212_600_000, "green": 715_200_000, "blue": 72_200_000 }, "amount": 1_000_000_000, "on": true }]);
    let prints = format!("/api/jobs/{id}/items/{item}/print");
    let print = ok!(app, post(&prints, &json!({ "steps": steps, "width": 640 })));
    assert_eq!((print["width"].as_f64(), print["height"].as_f64()), (Some(64.0), Some(40.0)));
    assert_eq!(print["tones"]["light"].as_array().unwrap().len(), 64);
    let tried = seen(&read_body(call_service(&app, get(print["address"].as_str().unwrap()).to_request()).await).await);
    assert_eq!(tried.dimensions(), (64, 40));
    let wild =
        json!([{ "develop": { "kind": "exposure", "ev": 90_000_000_000_i64 }, "amount": 1_000_000_000, "on": true }]);
    problem!(app, post(&prints, &json!({ "steps": wild, "width": 640 })), StatusCode::UNPROCESSABLE_ENTITY);
    problem!(app, get(&format!("/media/{picture}?w=64&as=nonsense")), StatusCode::UNPROCESSABLE_ENTITY);

    // Recipes are seen on it and taken; one step back it is grey again.
    let recipes = ok!(app, get(&format!("/api/jobs/{id}/items/{item}/recipes?w=160")));
    assert_eq!(recipes.as_array().unwrap().len(), 32);
    let name = recipes[3]["name"].clone();
    let whole = 1_000_000_000;
    let take = json!({ "act": "takeRecipe", "items": [item], "name": name, "strength": whole });
    let taken = ok!(app, post(&path, &act(3, take)));
    assert_eq!(taken["revision"], 4);
    let none = json!({ "act": "takeRecipe", "items": [item], "name": "No such", "strength": whole });
    problem!(app, post(&path, &act(4, none)), StatusCode::NOT_FOUND);
    // What is done to it is kept as a recipe of one's own, offered first, taken by its name, and let go.
    let own = format!("/api/jobs/{id}/items/{item}/recipe?name=My%20own");
    assert_eq!(call_service(&app, asked(TestRequest::put(), &own).to_request()).await.status(), StatusCode::NO_CONTENT);
    let recipes = ok!(app, get(&format!("/api/jobs/{id}/items/{item}/recipes?w=160")));
    assert_eq!((recipes.as_array().unwrap().len(), &recipes[0]["name"]), (33, &json!("My own")));
    assert_eq!((&recipes[0]["kept"], &recipes[1]["kept"]), (&json!(true), &json!(false)));
    let mine = json!({ "act": "takeRecipe", "items": [item], "name": "My own", "strength": whole });
    ok!(app, post(&format!("/api/jobs/{id}/rehearse"), &act(4, mine)));
    let gone = call_service(&app, asked(TestRequest::delete(), "/api/kept/recipes/My%20own").to_request()).await;
    assert_eq!(gone.status(), StatusCode::NO_CONTENT);
    problem!(app, asked(TestRequest::delete(), "/api/kept/recipes/My%20own"), StatusCode::NOT_FOUND);
    // As a code it goes through a picture and back.
    let code = ok!(app, get(&format!("/api/jobs/{id}/items/{item}/recipe/code?name=Mine")));
    assert!(code["says"].as_str().unwrap().starts_with("The whole recipe is in it"), "{code}");
    ok!(app, post(&path, &act(4, json!({ "act": "undo" }))));
    let offered = ok!(app, get("/api/darkroom"));
    assert!(offered["kinds"].as_array().unwrap().len() > 28);
    ok!(app, post(&path, &act(5, json!({ "act": "autoLevels", "item": item }))));
    let at = json!({ "x": 300_000_000, "y": 500_000_000 });
    ok!(app, post(&path, &act(6, json!({ "act": "makeNeutral", "item": item, "at": at }))));
    let steps = ok!(app, get(&format!("/api/jobs/{id}")))["job"]["kins"][&kin]["look"]["treatments"].clone();
    let kinds: Vec<_> =
        steps.as_array().unwrap().iter().map(|step| step["develop"]["kind"].as_str().unwrap()).collect();
    assert_eq!(kinds, ["whiteBalance", "mono", "levels"]);
    // The recipe leaves as a file and comes back as the same steps; what is none is refused.
    let file = call_service(&app, get(&format!("/api/jobs/{id}/items/{item}/recipe?name=Mine")).to_request()).await;
    assert_eq!(file.headers().get(header::CONTENT_DISPOSITION).unwrap(), "attachment; filename=\"mine.recipe.json\"");
    let text = String::from_utf8(read_body(file).await.to_vec()).unwrap();
    let read = |text: String| post("/api/recipes/read", &json!(text));
    let back = ok!(app, read(text));
    assert_eq!((back["name"].as_str(), &back["steps"]), (Some("Mine"), &steps));
    problem!(app, read("{}".to_owned()), StatusCode::UNPROCESSABLE_ENTITY);
}

#[actix_web::test]
async fn the_subject_of_a_picture_is_found_seen_alone_and_put_in_front() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let pixels = image::RgbImage::from_fn(240, 160, |x, y| {
        let far = (f64::from(x) - 120.0).hypot(f64::from(y) - 80.0);
        if far < 50.0 { image::Rgb([160, 50, 40]) } else { image::Rgb([220, 225, 215 + (x / 16) as u8]) }
    });
    let mut png = std::io::Cursor::new(Vec::new());
    pixels.write_to(&mut png, image::ImageFormat::Png).unwrap();
    let picture = ok!(app, upload(png.into_inner()))["id"].as_str().unwrap().to_owned();
    let kin = kin_of(&open, "mainPicture");
    let side = first_side(&open)["id"].as_str().unwrap().to_owned();
    let items = first_side(&open)["items"].as_array().unwrap();
    let item = items.iter().find(|item| item["kin"] == kin.as_str()).unwrap()["id"].as_str().unwrap().to_owned();
    let path = format!("/api/jobs/{id}/acts");
    let act = |base: u64, act: Value| post(&path, &json!({ "base": base, "watch": side, "act": act }));
    ok!(app, act(1, json!({ "act": "show", "item": item, "picture": picture })));
    let card = ok!(app, post(&format!("/api/jobs/{id}/items/{item}/subject"), &json!(null)));
    let work = format!("/api/work/{}", card["id"].as_str().unwrap());
    let mut tries = 0;
    while ok!(app, get(&work))["state"]["is"] != "done" {
        tries += 1;
        assert!(tries < 600, "it is not found");
        actix_web::rt::time::sleep(std::time::Duration::from_millis(50)).await;
    }
    let found = ok!(app, get(&format!("{work}/subject")));
    let share = found["share"].as_f64().unwrap();
    assert!((share - 20.5).abs() < 1.0, "a disc of a fifth of the picture: {share}");
    // The mask is no picture people look for.
    let shelf = ok!(app, get("/api/pictures"));
    assert!(shelf.as_array().unwrap().iter().all(|one| one["id"] != found["mask"]));
    let cut = ok!(app, act(2, json!({ "act": "cutOut", "item": item, "mask": found["mask"] })));
    let svg = cut["stage"]["items"].as_array().unwrap().iter().find(|one| one["id"] == item.as_str()).unwrap()["svg"]
        .as_str()
        .unwrap();
    let address = svg.split("href=\"").nth(1).unwrap().split('"').next().unwrap().replace("&amp;", "&");
    let seen = read_body(call_service(&app, get(&address).to_request()).await).await;
    let seen = image::load_from_memory(&seen).unwrap().to_rgba8();
    let (w, h) = seen.dimensions();
    assert!(seen.get_pixel(w / 2, h / 2)[3] == 255 && seen.get_pixel(2, 2)[3] == 0);
    let softer = json!({ "act": "changeCut", "item": item, "change": { "softness": 5_000_000 } });
    ok!(app, act(3, softer));
    problem!(
        app,
        act(4, json!({ "act": "changeCut", "item": item, "change": { "softness": 500_000_000 } })),
        StatusCode::UNPROCESSABLE_ENTITY
    );
    ok!(app, act(4, json!({ "act": "showWhole", "item": item })));
    let front = ok!(app, act(5, json!({ "act": "subjectInFront", "item": item, "mask": found["mask"] })));
    assert_eq!(front["made"].as_array().unwrap().len(), 1);
    // Words have no subject.
    let words = items.iter().find(|item| item["kin"] != kin.as_str()).unwrap()["id"].as_str().unwrap().to_owned();
    problem!(
        app,
        post(&format!("/api/jobs/{id}/items/{words}/subject"), &json!(null)),
        StatusCode::UNPROCESSABLE_ENTITY
    );
}

#[actix_web::test]
async fn a_group_and_what_lies_behind_a_shape_are_treated_and_their_pictures_are_fetched() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let side = first_side(&open)["id"].as_str().unwrap().to_owned();
    let items: Vec<Value> =
        first_side(&open)["items"].as_array().unwrap().iter().map(|item| item["id"].clone()).collect();
    let path = format!("/api/jobs/{id}/acts");
    let act = |base: u64, act: Value| post(&path, &json!({ "base": base, "watch": side, "act": act }));
    ok!(app, act(1, json!({ "act": "group", "items": &items[items.len() - 2..] })));
    let now = ok!(app, get(&format!("/api/jobs/{id}")));
    let group = first_side(&now)["items"].as_array().unwrap().last().unwrap()["groups"][0].clone();
    let last = items.last().unwrap().as_str().unwrap().to_owned();
    let faded =
        ok!(app, act(2, json!({ "act": "changeGroupLook", "group": group, "change": { "opacity": 500_000_000 } })));
    let bunch = &faded["stage"]["bunches"][0];
    assert_eq!((&bunch["group"], bunch["style"].as_str()), (&group, Some("opacity:0.5;")));
    assert!(bunch["picture"].is_null() && bunch["parts"].is_null());
    let treated = ok!(app, act(3, json!({ "act": "addStep", "items": [last], "group": group, "kind": "pixelate" })));
    let part = treated["stage"]["bunches"][0]["parts"][0].as_str().unwrap().to_owned();
    let fetched = call_service(&app, get(&part).to_request()).await;
    assert_eq!(fetched.headers().get("cache-control").unwrap(), "private, max-age=31536000");
    let shown = image::load_from_memory(&read_body(fetched).await).unwrap().to_rgba8();
    assert!(shown.pixels().any(|pixel| pixel[3] > 90) && shown.width() >= 100);
    // Something changes in it: another address, and what is found at the old one is not kept.
    let bolder = json!({ "act": "changeType", "items": [last], "change": { "weight": 900 } });
    let changed = ok!(app, act(4, bolder));
    assert_ne!(changed["stage"]["bunches"][0]["parts"][0], part.as_str());
    let stale = call_service(&app, get(&part).to_request()).await;
    assert_eq!(stale.headers().get("cache-control").unwrap(), "no-store");
    // Over everything.
    let over = ok!(app, act(5, json!({ "act": "addOver", "side": side })));
    let lens = over["made"][0].clone();
    let grey = ok!(app, act(6, json!({ "act": "addStep", "items": [lens], "kind": "mono" })));
    let drawn = grey["stage"]["items"].as_array().unwrap().iter().find(|one| one["id"] == lens).unwrap().clone();
    let seen = read_body(call_service(&app, get(drawn["parts"][0].as_str().unwrap()).to_request()).await).await;
    let seen = image::load_from_memory(&seen).unwrap().to_rgb8();
    assert!(seen.pixels().all(|pixel| pixel[0].abs_diff(pixel[2]) < 3), "all of it is grey");
    // Prints of both say where they lie.
    let item = lens.as_str().unwrap();
    let print = ok!(app, post(&format!("/api/jobs/{id}/items/{item}/print"), &json!({ "steps": [], "width": 320 })));
    assert!(print["address"].as_str().unwrap().starts_with("data:image/png"));
    assert_eq!(print["on_sheet"]["field"].as_array().unwrap().len(), 4);
    let of_group = format!("/api/jobs/{id}/items/{last}/print?group={}", group.as_str().unwrap());
    let print = ok!(app, post(&of_group, &json!({ "steps": [], "width": 320 })));
    assert_eq!(print["on_sheet"]["outline"], "");
    assert_eq!(ok!(app, get(&format!("/api/jobs/{id}/items/{item}/recipes?w=160"))).as_array().unwrap().len(), 32);
    problem!(app, get(&format!("/api/jobs/{id}/sides/{side}/parts/bunch/none?w=64&stamp=1")), StatusCode::NOT_FOUND);
}
