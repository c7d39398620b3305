//! One message in many sizes: added, seen together, moved by hand, checked and handed over at once.

use serde_json::{Value, json};
use thirtyfour::prelude::*;

use crate::TURN;
use crate::at_bench::Bench;

const ADDED: [&str; 5] = ["landscape-post", "flyer-a5", "card", "video-thumbnail", "bookmark"];

/// The pieces as they are kept.
fn pieces(bench: &Bench) -> Vec<Value> {
    bench.kept()["job"]["pieces"].as_array().unwrap().clone()
}

/// The item of a part on the first side of a piece.
fn item(bench: &Bench, piece: usize, part: &str) -> Value {
    let kept = bench.kept();
    let kins = &kept["job"]["kins"];
    let items = kept["job"]["pieces"][piece]["sides"][0]["items"].as_array().unwrap();
    items.iter().find(|item| kins[item["kin"].as_str().unwrap()]["part"] == part).unwrap().clone()
}

fn y(item: &Value) -> f64 {
    item["place"]["at"]["rect"]["y"].as_f64().unwrap()
}

#[tokio::test(flavor = "multi_thread")]
async fn one_message_goes_to_six_places_and_leaves_for_each_as_it_takes_it() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    let driver = browser.driver();

    // Five more sizes, seen before they are added.
    driver.find(By::LinkText("Sizes")).await?.click().await?;
    browser.until("the wall stands", "return document.querySelectorAll('.piece').length === 2").await?;
    for place in ADDED {
        browser.click(&format!("[data-place={place}]")).await?;
    }
    browser.until("each is seen with its arrangement", "const all = [...document.querySelectorAll('[data-new]')]; return all.length === 5 && all.every((one) => one.querySelector('img').naturalWidth > 0 && !one.textContent.includes('…'))").await?;
    browser.click(".strip > .act").await?;
    browser.until("they are added", "return document.querySelectorAll('.piece').length === 7").await?;
    bench.settled().await?;
    let made = pieces(&bench);
    let names: Vec<&str> = made[2..].iter().map(|piece| piece["place"].as_str().unwrap()).collect();
    assert_eq!(names, ADDED);
    assert!(made[2..].iter().all(|piece| piece["follows"]["piece"].is_string()), "each remembers what it follows");

    // Words changed in one are changed in all, and the same item is outlined everywhere.
    let revision = bench.kept()["revision"].clone();
    let id = item(&bench, 0, "headline")["id"].clone();
    let path = format!("/api/jobs/{}/acts", bench.job);
    let _ = bench
        .served
        .post(&path, &json!({ "base": revision, "act": { "act": "say", "item": id, "text": "Hands in clay." } }));
    bench.settled().await?;
    browser.click("[data-piece='Square post'] .sheet").await?;
    browser.until("something is selected", "return document.querySelectorAll('.same').length > 0").await?;
    browser.until("it is outlined in every size it stands in", "return document.querySelectorAll('.piece').length - document.querySelectorAll('.piece:has(.same)').length <= 2").await?;

    // Moved by hand in the story, a size of like shape follows.
    let before = y(&item(&bench, 1, "headline"));
    driver.goto(format!("{}/jobs/{}/words", bench.served.address, bench.job)).await?;
    browser.find(".stage g[data-item]").await?;
    browser.click(".rail .sheet[aria-label='Vertical story, Front']").await?;
    browser
        .until(
            "the story is on the stage",
            "return !!document.querySelector('.rail .sheet[aria-current=true][aria-label^=Vertical]')",
        )
        .await?;
    let headline = item(&bench, 1, "headline")["id"].as_str().unwrap().to_owned();
    let css = format!(".stage g[data-item='{headline}']");
    browser.find(&css).await?;
    let (x, at) = bench.pick(&css).await?;
    browser.drag(&[(x, at), (x, at + 6), (x, at + 40)]).await?;
    bench.settled().await?;
    let moved = item(&bench, 1, "headline");
    assert!(y(&moved) > before && moved["place"]["byHand"] == true);
    browser
        .until("the card says so", "return document.querySelector('.card').textContent.includes('placed by hand here')")
        .await?;
    // Its colour is kept here only; the others do not follow it, nor it them.
    bench.choose("Sharing", "colour").await?;
    browser.click("button[aria-label^='Colour:']").await?;
    bench.enter("Colour code", "#7a2e1d").await?;
    let own = item(&bench, 1, "headline");
    assert_eq!(own["release"]["look"]["fill"]["tint"], "#7a2e1d");
    assert!(own["release"]["look"]["type"].is_null(), "its type goes on being shared: {own}");
    assert_ne!(bench.look("headline")["fill"]["tint"], "#7a2e1d");
    driver.find(By::LinkText("Sizes")).await?.click().await?;
    browser.click("[data-place=phone-background]").await?;
    browser.find("[data-new=phone-background]").await?;
    browser
        .until("its arrangement is known", "return !document.querySelector('[data-new]').textContent.includes('…')")
        .await?;
    browser.click(".strip > .act").await?;
    browser.until("it is added", "return document.querySelectorAll('.piece').length === 8").await?;
    bench.settled().await?;
    assert_eq!(pieces(&bench)[7]["follows"]["piece"], pieces(&bench)[1]["id"], "it follows what was moved");

    // Three things go wrong and are put right, each by one press.
    for (piece, part, dy) in [(2, "headline", -9_000_000), (3, "when", 9_500_000), (4, "headline", -3_000_000)] {
        let found = item(&bench, piece, part);
        let act = json!({ "act": "move", "items": [found["id"]], "dx": 0, "dy": dy });
        let _ = bench.served.post(&path, &json!({ "base": bench.kept()["revision"], "act": act }));
    }
    driver.find(By::LinkText("Check")).await?.click().await?;
    browser.until("they are found", "return document.querySelectorAll('li[data-finding]').length >= 3").await?;
    for _ in 0..12 {
        let left: usize = driver
            .execute("return document.querySelectorAll('li[data-finding] .act').length", Vec::new())
            .await?
            .convert()?;
        if left == 0 {
            break;
        }
        browser.click("li[data-finding] .act").await?;
        bench.settled().await?;
        browser
            .until(
                "it is looked at again",
                &format!("return document.querySelectorAll('li[data-finding] .act').length < {left}"),
            )
            .await?;
    }
    let left: usize = driver
        .execute("return document.querySelectorAll('li[data-finding] .act').length", Vec::new())
        .await?
        .convert()?;
    assert_eq!(left, 0);

    // All of it at once, each as its place takes it.
    driver.find(By::LinkText("Hand over")).await?.click().await?;
    browser.find("[data-kind=place]").await?;
    browser.click(".what .link").await?;
    browser
        .until(
            "eight files are made",
            "return document.querySelectorAll('.files > ul li').length === 8 && !document.querySelector('.go').disabled",
        )
        .await?;
    browser.click(".go").await?;
    let zip = browser.downloaded(".zip").await;
    let mut archive = zip::ZipArchive::new(std::fs::File::open(zip).unwrap()).unwrap();
    let mut read = |name: &str| {
        let mut bytes = Vec::new();
        std::io::Read::read_to_end(&mut archive.by_name(name).unwrap(), &mut bytes).unwrap();
        bytes
    };
    let list = String::from_utf8(read("files.tsv")).unwrap();
    assert!(image::load_from_memory(&read("contact-sheet.png")).is_ok());
    let places = bench.served.get("/api/places?q=");
    let kept = pieces(&bench);
    let mut seen = 0;
    for (line, piece) in list.lines().skip(1).zip(&kept) {
        let [name, _, _, _, kind, bytes, limit] = line.split('\t').collect::<Vec<_>>()[..] else { panic!("{line}") };
        let file = read(name);
        assert_eq!(file.len().to_string(), bytes, "{name}");
        let all = places["places"].as_array().unwrap();
        let entry = all.iter().find(|entry| entry["id"] == piece["place"]).unwrap();
        if let Some(most) = entry["most"].as_u64() {
            assert!(file.len() as u64 <= most && most.to_string() == limit, "{name} is over its limit");
        }
        if kind == "application/pdf" {
            assert!(file.starts_with(b"%PDF"));
        } else {
            let picture = image::load_from_memory(&file).unwrap();
            let pixels = |side: &str| {
                let length = piece["format"]["size"][side].as_f64().unwrap() / 914_400.0;
                (length * piece["format"]["ppi"].as_f64().unwrap()).round() as u32
            };
            assert_eq!((picture.width(), picture.height()), (pixels("w"), pixels("h")), "{name}");
        }
        seen += 1;
    }
    assert_eq!(seen, 8);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_piece_is_arranged_otherwise_made_another_size_and_brought_back() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "half-and-half").await?;
    let browser = &bench.browser;
    let driver = browser.driver();
    driver.find(By::LinkText("Sizes")).await?.click().await?;
    browser.until("the wall stands", "return document.querySelectorAll('.piece').length === 2").await?;
    browser.click("[data-piece='Square post'] .sheet").await?;
    browser
        .until("its arrangements are offered", "return document.querySelectorAll('.ways button').length > 1")
        .await?;
    let before = pieces(&bench)[0]["sides"].clone();
    browser.click(".ways button[data-way='1']").await?;
    bench.settled().await?;
    assert_ne!(pieces(&bench)[0]["sides"], before);
    bench.undo().await?;
    assert_eq!(pieces(&bench)[0]["sides"], before);
    // Another size, by its everyday word, and back again.
    for (typed, size) in [("story", "1080 × 1920 px"), ("square post", "1080 × 1080 px")] {
        bench.choose("Piece", "size").await?;
        let field = browser.find(".el-message-box input").await?;
        field.send_keys(typed).await?;
        field.send_keys(Key::Enter).await?;
        browser
            .until(
                "it has that size",
                &format!("return document.querySelector('.piece.chosen .quiet')?.textContent === '{size}'"),
            )
            .await?;
        bench.settled().await?;
    }
    assert_eq!(pieces(&bench)[0]["sides"], before, "there and back it is as it was");
    // A copy, and all like one.
    bench.choose("Piece", "copy").await?;
    browser.until("it is copied", "return document.querySelectorAll('.piece').length === 3").await?;
    bench.choose("Piece", "like").await?;
    bench.settled().await?;
    assert!(
        pieces(&bench).iter().all(|piece| piece["sides"][0]["items"].as_array().is_some_and(|items| !items.is_empty()))
    );
    Ok(())
}
