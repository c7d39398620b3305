//! What hands do all day on the sheet: press again for what lies below, let go of pictures, fill frames, exchange cells, type.

use serde_json::{Value, json};
use thirtyfour::prelude::*;

use crate::TURN;
use crate::at_bench::{Bench, HEADLINE, PICTURE, PX};

/// Lets something of the shelf go over the stage, as a browser reports it: first over the place, then let go there.
const LET_GO: &str = "
const [kind, value, x, y, drop] = arguments;
const data = new DataTransfer(); data.setData(kind, value);
const stage = document.querySelector('.stage');
for (const type of drop ? ['dragenter', 'dragover', 'drop'] : ['dragenter', 'dragover']) stage.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: data, clientX: x, clientY: y }));";

async fn shelf_picture(bench: &Bench, at: usize) -> WebDriverResult<String> {
    let script = "return [...document.querySelectorAll('[data-picture]')][arguments[0]].dataset.picture";
    bench.browser.find("[data-picture]").await?;
    bench.browser.driver().execute(script, vec![at.into()]).await?.convert()
}

fn shown(bench: &Bench, item: &Value) -> Value {
    bench.kept()["job"]["kins"][item["kin"].as_str().unwrap()]["content"]["picture"].clone()
}

fn rect(item: &Value) -> [f64; 4] {
    ["x", "y", "w", "h"].map(|side| item["place"]["at"]["rect"][side].as_f64().unwrap() / PX)
}

async fn title(bench: &Bench) -> WebDriverResult<String> {
    bench.browser.text(".card h2").await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_second_press_in_the_same_place_picks_what_lies_below() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "whole-picture").await?;
    let driver = bench.browser.driver();
    let (x, y) = bench.pick(HEADLINE).await?;
    assert_eq!(title(&bench).await?, "Headline");
    bench.browser.rest().await;
    // A single press keeps the words and outlines what another would pick.
    driver.action_chain().move_to(x, y).click().perform().await?;
    assert_eq!(title(&bench).await?, "Headline");
    bench.browser.find(".stage g.hover").await?;
    bench.browser.rest().await;
    // Two shapes over each other: the second press goes to the lower one.
    driver.action_chain().send_keys(Key::Escape + "").perform().await?;
    let base = bench.kept();
    let side = base["job"]["pieces"][0]["sides"][0]["id"].clone();
    let mut made = Vec::new();
    for kind in ["rect", "ellipse"] {
        let outline = if kind == "rect" { json!({ "kind": "rect", "radius": 0 }) } else { json!({ "kind": kind }) };
        let act = json!({ "act": "add", "side": side, "what": { "kind": "shape", "outline": outline } });
        let answer = bench
            .served
            .post(&format!("/api/jobs/{}/acts", bench.job), &json!({ "base": bench.kept()["revision"], "act": act }));
        let id = answer["made"][0].as_str().unwrap().to_owned();
        let place = json!({ "act": "setBox", "item": id, "numbers": { "point": [0, 0], "x": 3810000, "y": 4762500, "w": 2857500, "h": 2857500 } });
        let _ = bench
            .served
            .post(&format!("/api/jobs/{}/acts", bench.job), &json!({ "base": bench.kept()["revision"], "act": place }));
        made.push(id);
    }
    let css = format!(".stage g[data-item='{}']", made[1]);
    bench.browser.find(&css).await?;
    bench.settled().await?;
    bench.pick(&css).await?;
    bench.browser.rest().await;
    let (x, y) = bench.browser.middle(&css).await?;
    bench.browser.double_press(x, y).await?;
    bench.browser.find(&format!(".chosen[data-chosen='{}']", made[0])).await?;
    // Whoever deletes at once means what was selected before.
    bench.browser.rest().await;
    // What is selected now is removed: it was the one below.
    bench.keys(None, Key::Delete + "").await?;
    let left: Vec<Value> = bench.items().iter().map(|item| item["id"].clone()).collect();
    assert!(left.contains(&json!(made[1])) && !left.contains(&json!(made[0])), "the lower one was picked");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn pictures_land_where_they_are_let_go_and_fill_only_the_frame_that_is_lit() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    bench.step("pictures").await?;
    let picture = shelf_picture(&bench, 3).await?;
    let before = bench.item("mainPicture");
    assert_ne!(shown(&bench, &before), json!(picture));
    // Beside every frame it stands on its own, its middle where it was let go.
    let scale = bench.scale().await?;
    let sheet: (f64, f64) = browser.driver().execute("const box = document.querySelector('.stage svg.sheet > g > rect').getBoundingClientRect(); return [box.x, box.y]", Vec::new()).await?.convert()?;
    assert!(sheet.0 > 0.0, "the sheet is found");
    let at = (sheet.0 + 300.0 * scale, sheet.1 + 780.0 * scale);
    let count = bench.items().len();
    browser
        .driver()
        .execute(
            LET_GO,
            vec!["application/x-shelf-picture".into(), picture.clone().into(), at.0.into(), at.1.into(), true.into()],
        )
        .await?;
    browser
        .until(
            "it stands there",
            &format!("return document.querySelectorAll('.stage g[data-item]').length === {}", count + 1),
        )
        .await?;
    bench.settled().await?;
    let items = bench.items();
    let new = items.iter().find(|item| shown(&bench, item) == json!(picture)).unwrap();
    let [x, y, w, h] = rect(new);
    assert!((x + w / 2.0 - 300.0).abs() < 12.0 && (y + h / 2.0 - 780.0).abs() < 12.0, "{:?}", rect(new));
    bench.undo().await?;
    // Over a frame, the frame is outlined; let go there it is filled, and nothing else changes.
    let (x, y) = browser.middle(PICTURE).await?;
    browser
        .driver()
        .execute(
            LET_GO,
            vec!["application/x-shelf-picture".into(), picture.clone().into(), x.into(), y.into(), false.into()],
        )
        .await?;
    browser.find(".stage g.hover").await?;
    browser
        .driver()
        .execute(
            LET_GO,
            vec!["application/x-shelf-picture".into(), picture.clone().into(), x.into(), y.into(), true.into()],
        )
        .await?;
    bench.settled().await?;
    browser.until("it is filled", "return document.querySelector('.card h2')?.textContent === 'Main picture'").await?;
    assert_eq!(bench.items().len(), count);
    assert_eq!(shown(&bench, &bench.item("mainPicture")), json!(picture));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn several_selected_frames_are_filled_in_their_order() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "three-windows").await?;
    let browser = &bench.browser;
    bench.step("pictures").await?;
    let (first, second) = (shelf_picture(&bench, 4).await?, shelf_picture(&bench, 5).await?);
    let frames: Vec<String> = browser.driver().execute("return [...document.querySelectorAll('.stage g[data-item]:has(image)')].map((frame) => frame.dataset.item)", Vec::new()).await?.convert()?;
    assert_eq!(frames.len(), 3);
    bench.pick(&format!(".stage g[data-item='{}']", frames[0])).await?;
    let (x, y) = browser.middle(&format!(".stage g[data-item='{}']", frames[1])).await?;
    browser.hand().key_down(Key::Shift).move_to(x, y).click().key_up(Key::Shift).perform().await?;
    browser.until("two are selected", "return document.querySelector('.card h2')?.textContent === '2 items'").await?;
    for picture in [&first, &second] {
        browser.click(&format!("[data-picture='{picture}']")).await?;
        bench.settled().await?;
    }
    let items = bench.items();
    let of = |id: &str| shown(&bench, items.iter().find(|item| item["id"] == id).unwrap());
    assert_eq!((of(&frames[0]), of(&frames[1])), (json!(first), json!(second)));
    assert_eq!(items.len(), bench.items().len());
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn cells_change_places_by_dragging_and_gaps_are_remembered() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    let path = format!("/api/jobs/{}/acts", bench.job);
    let side = bench.kept()["job"]["pieces"][0]["sides"][0]["id"].clone();
    let shelf = bench.served.get("/api/pictures");
    let pictures: Vec<Value> = shelf.as_array().unwrap().iter().take(4).map(|card| card["id"].clone()).collect();
    let room = json!({ "gap": 190500, "margin": 571500, "radius": 0 });
    let act = json!({ "act": "arrangePictures", "side": side, "pictures": pictures, "room": room, "number": 0 });
    let made = bench.served.post(&path, &json!({ "base": bench.kept()["revision"], "act": act }))["made"].clone();
    let cell = |n: usize| format!(".stage g[data-item='{}']", made[n].as_str().unwrap());
    browser.find(&cell(0)).await?;
    browser.pictures_arrive().await?;
    bench.settled().await?;
    // Its gap and its margin are read from what stands there.
    bench.pick(&cell(0)).await?;
    browser.until("it says what it is", "const of = (label) => document.querySelector(`.card .arrange input[aria-label='${label} in percent']`)?.value; return of('Gap')?.startsWith('1.9') && of('Margin')?.startsWith('5.6')").await?;
    bench.enter("Gap in percent", "4").await?;
    let items = bench.items();
    let rects: Vec<[f64; 4]> =
        made.as_array().unwrap().iter().map(|id| rect(items.iter().find(|item| item["id"] == *id).unwrap())).collect();
    let mut gaps = Vec::new();
    for (n, a) in rects.iter().enumerate() {
        for b in &rects[n + 1..] {
            let (across, down) =
                ((b[0] - a[0] - a[2]).max(a[0] - b[0] - b[2]), (b[1] - a[1] - a[3]).max(a[1] - b[1] - b[3]));
            gaps.push(across.max(down));
        }
    }
    let least = gaps.iter().copied().fold(f64::INFINITY, f64::min);
    assert!((least - 43.2).abs() < 0.2, "{gaps:?}");
    // One double press reaches a cell; dragged onto another the two exchange their pictures.
    let (from, to) = (browser.middle(&cell(0)).await?, browser.middle(&cell(2)).await?);
    browser.double_press(from.0, from.1).await?;
    browser.hand().send_keys(Key::Escape + "").perform().await?;
    browser.rest().await;
    let before: Vec<Value> = [0, 2]
        .iter()
        .map(|n| shown(&bench, bench.items().iter().find(|item| item["id"] == made[*n]).unwrap()))
        .collect();
    browser.drag(&[from, (from.0 + 10, from.1 + 6), to, (to.0 + 2, to.1 + 2)]).await?;
    bench.settled().await?;
    let items = bench.items();
    let after: Vec<Value> =
        [0, 2].iter().map(|n| shown(&bench, items.iter().find(|item| item["id"] == made[*n]).unwrap())).collect();
    assert_eq!((&after[0], &after[1]), (&before[1], &before[0]));
    let now: Vec<[f64; 4]> =
        made.as_array().unwrap().iter().map(|id| rect(items.iter().find(|item| item["id"] == *id).unwrap())).collect();
    assert_eq!(now, rects, "the cells stay where they are");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn new_words_widen_about_their_middle_and_break_last() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    bench.choose("Add a text", "headline").await?;
    browser.find("textarea.keys").await?;
    let kept = bench.kept();
    let side = kept["job"]["pieces"][0]["sides"][0]["id"].as_str().unwrap().to_owned();
    let id = bench.items().last().unwrap()["id"].clone();
    // Middle, width and height of what is seen.
    let frame = || {
        let stage = bench.served.get(&format!("/api/jobs/{}/sides/{side}", bench.job));
        let item = stage["items"].as_array().unwrap().iter().find(|item| item["id"] == id).unwrap().clone();
        let [x, w, h] = ["x", "w", "h"].map(|part| item["frame"][part].as_f64().unwrap());
        (x + w / 2.0, w, h)
    };
    let mut seen: Vec<(f64, f64, f64)> = Vec::new();
    for part in ["Hands", " in clay", " by ten", " every Saturday", " in spring and in the autumn"] {
        bench.keys(None, part).await?;
        seen.push(frame());
    }
    assert!(seen.iter().all(|now| (now.0 - seen[0].0).abs() < 1.5), "{seen:?}");
    assert!(seen[1].1 > seen[0].1 + 20.0 && (seen[1].2 - seen[0].2).abs() < 1.0, "it widens in one line: {seen:?}");
    assert!(seen[4].2 > seen[3].2, "it breaks in the end: {seen:?}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn letters_styles_menus_and_colours_by_hand() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    let driver = browser.driver();
    // Of words that are selected as a whole all letters change, and change back.
    let (x, y) = bench.pick(HEADLINE).await?;
    let styles = |bench: &Bench| {
        let item = bench.item("headline");
        bench.kept()["job"]["kins"][item["kin"].as_str().unwrap()]["content"]["text"].clone()
    };
    let plain = styles(&bench);
    bench.keys(Some(Key::Control), "i").await?;
    assert!(styles(&bench).as_array().unwrap().iter().all(|run| run["style"]["italic"] == true), "{}", styles(&bench));
    bench.keys(Some(Key::Control), "i").await?;
    assert!(
        styles(&bench).as_array().unwrap().iter().all(|run| run["style"]["italic"] != true)
            && plain[0]["text"] == styles(&bench)[0]["text"]
    );
    // The right button: what applies to what lies there.
    driver.action_chain().move_to(x, y).context_click().perform().await?;
    browser.until("the menu is open", "return [...document.querySelectorAll('.el-dropdown-menu__item')].some((one) => one.checkVisibility() && one.dataset.value === 'lock')").await?;
    driver.execute("[...document.querySelectorAll('.el-dropdown-menu__item')].find((one) => one.checkVisibility() && one.dataset.value === 'lock').click()", Vec::new()).await?;
    bench.settled().await?;
    assert_eq!(bench.item("headline")["locked"], true);
    bench.undo().await?;
    // A colour that is dragged is one step, and undone it is the colour before.
    driver.action_chain().send_keys(Key::Escape + "").perform().await?;
    bench.pick(HEADLINE).await?;
    let fill = |bench: &Bench| bench.look("headline")["fill"].clone();
    let before = fill(&bench);
    browser.click("button[aria-label^='Colour:']").await?;
    browser.find(".el-color-svpanel, .el-color-picker-panel").await?;
    let (x, y) = browser.middle(".el-color-svpanel").await?;
    let path: Vec<(i64, i64)> = (0..12).map(|n| (x - 30 + n * 6, y - 20 + n * 4)).collect();
    browser.drag(&path).await?;
    bench.settled().await?;
    assert_ne!(fill(&bench), before);
    driver.action_chain().send_keys(Key::Escape + "").perform().await?;
    bench.undo().await?;
    assert_eq!(fill(&bench), before);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn nothing_is_forgotten_on_the_way_to_the_files_and_back() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    bench.step("layout").await?;
    bench.pick(HEADLINE).await?;
    browser.hand().key_down(Key::Shift).send_keys("+").key_up(Key::Shift).perform().await?;
    let zoom = bench.scale().await?;
    browser.click(".bar a[href$='/hand-over']").await?;
    browser.find(".files > ul li").await?;
    browser.click("a.back").await?;
    browser.find(HEADLINE).await?;
    browser.until("the step is as it was", "return document.querySelector('#layout-title') !== null").await?;
    browser
        .until("so is what is selected", "return document.querySelector('.card h2')?.textContent === 'Headline'")
        .await?;
    assert!((bench.scale().await? - zoom).abs() < 1e-6);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn pieces_change_places_and_a_side_leaves_alone() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    let names = |bench: &Bench| -> Vec<String> {
        bench.kept()["job"]["pieces"]
            .as_array()
            .unwrap()
            .iter()
            .map(|piece| piece["name"].as_str().unwrap().to_owned())
            .collect()
    };
    assert_eq!(names(&bench), ["Square post", "Vertical story"]);
    bench.choose("Sides and piece", "pieceLater").await?;
    assert_eq!(names(&bench), ["Vertical story", "Square post"]);
    bench.choose("Sides and piece", "copy").await?;
    browser.click(".bar a[href$='/hand-over']").await?;
    let files = |count: usize| {
        format!(
            "return document.querySelectorAll('.files > ul li span').length === {count} && document.querySelector('.files ul').getAttribute('aria-busy') === 'false'"
        )
    };
    browser.until("both sides would leave", &files(2)).await?;
    browser.click(".of label:first-of-type").await?;
    browser.until("one side leaves", &files(1)).await?;
    assert!(
        browser.text(".files > ul li span").await?.contains("copy"),
        "{}",
        browser.text(".files > ul li span").await?
    );
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_shape_cuts_a_picture_or_gives_its_frame_and_a_first_picture_covers_the_sheet() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    let driver = browser.driver();
    let path = format!("/api/jobs/{}/acts", bench.job);
    let act = |act: Value| bench.served.post(&path, &json!({ "base": bench.kept()["revision"], "act": act }));
    let side = bench.kept()["job"]["pieces"][0]["sides"][0]["id"].clone();
    let star = json!({ "kind": "shape", "outline": { "kind": "star", "points": 8, "depth": 400_000_000 } });
    let made = act(json!({ "act": "add", "side": side, "what": star }))["made"][0].as_str().unwrap().to_owned();
    // Half over the right edge of the picture.
    let [x, y, w, h] = bench.rect("mainPicture");
    let fine = |px: f64| (px * PX).round() as i64;
    let numbers = json!({ "point": [0, 0], "x": fine(x + w - 100.0), "y": fine(y + h * 0.4), "w": fine(200.0), "h": fine(200.0) });
    let _ = act(json!({ "act": "setBox", "item": made, "numbers": numbers }));
    let css = format!(".stage g[data-item='{made}']");
    browser.find(&css).await?;
    bench.settled().await?;
    let frame = || {
        let kept = bench.kept();
        let kins = kept["job"]["kins"].as_object().unwrap().clone();
        kins.values().find(|kin| kin["part"] == "mainPicture").unwrap()["content"]["frame"]["kind"].clone()
    };
    let before = frame();
    bench.pick(PICTURE).await?;
    let (x, y) = browser.middle(&css).await?;
    driver.action_chain().key_down(Key::Shift).move_to(x, y).click().key_up(Key::Shift).perform().await?;
    browser.click(".combine button[aria-label='Keep what they share']").await?;
    bench.settled().await?;
    assert_eq!(frame(), "combined");
    bench.undo().await?;
    assert_eq!(frame(), before);
    // The outline of the star becomes the frame, and the star is gone.
    driver.action_chain().send_keys(Key::Escape).perform().await?;
    bench.pick(PICTURE).await?;
    bench.press("Frame from an item…").await?;
    let (x, y) = browser.middle(&css).await?;
    driver.action_chain().move_to(x, y).click().perform().await?;
    browser.until("the star is gone", &format!("return !document.querySelector(\"{css}\")")).await?;
    bench.settled().await?;
    assert_eq!(frame(), "star");

    // The first picture of an empty sheet covers it.
    let wish = json!({ "design": null, "places": ["square-post"], "words": {} });
    let blank = bench.served.post("/api/jobs", &wish)["id"].as_str().unwrap().to_owned();
    driver.goto(format!("{}/jobs/{blank}/pictures", bench.served.address)).await?;
    browser.click("[data-picture]:nth-of-type(1)").await?;
    browser.find(".stage g[data-item] image").await?;
    let kept = bench.served.get(&format!("/api/jobs/{blank}"));
    let rect = &kept["job"]["pieces"][0]["sides"][0]["items"][0]["place"]["at"]["rect"];
    let size = &kept["job"]["pieces"][0]["format"]["size"];
    assert_eq!((&rect["x"], &rect["y"], &rect["w"], &rect["h"]), (&json!(0), &json!(0), &size["w"], &size["h"]));
    Ok(())
}
