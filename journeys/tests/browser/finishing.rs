//! Finishing several sizes by hand: the same move in others, one beside another, removed everywhere, words and frames put right.

use serde_json::Value;
use thirtyfour::prelude::*;

use crate::TURN;
use crate::at_bench::{Bench, HEADLINE, PICTURE};

/// The item of a part in a piece.
fn item(bench: &Bench, piece: usize, part: &str) -> Option<Value> {
    let kept = bench.kept();
    let kins = &kept["job"]["kins"];
    let items = kept["job"]["pieces"][piece]["sides"][0]["items"].as_array().unwrap();
    items.iter().find(|item| kins[item["kin"].as_str().unwrap()]["part"] == part).cloned()
}

fn y(bench: &Bench, piece: usize) -> f64 {
    item(bench, piece, "headline").unwrap()["place"]["at"]["rect"]["y"].as_f64().unwrap()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_move_is_seen_in_the_other_size_before_it_is_repeated_there() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("shop-picture", "doorway").await?;
    let browser = &bench.browser;
    let before = (y(&bench, 0), y(&bench, 1));
    let (x, at) = bench.pick(HEADLINE).await?;
    browser.drag(&[(x, at), (x, at - 4), (x, at - 9)]).await?;
    bench.settled().await?;
    assert!(y(&bench, 0) < before.0);
    bench.press("The same in others\u{2026}").await?;
    browser
        .until(
            "it is seen there",
            "return document.querySelector('[data-repeat=\"Vertical story\"] img')?.naturalWidth > 0",
        )
        .await?;
    assert!((y(&bench, 1) - before.1).abs() < 1.0, "nothing was moved yet");
    browser.click(".chooser > .act").await?;
    bench.settled().await?;
    assert!(y(&bench, 1) < before.1);
    bench.undo().await?;
    assert!((y(&bench, 1) - before.1).abs() < 1.0);
    assert!(y(&bench, 0) < before.0, "one step took back the other size alone");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn another_size_stands_beside_and_what_is_removed_is_offered_everywhere() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    browser.click(".rail [aria-label^='Show \u{201c}Vertical story']").await?;
    browser.find(".beside [data-piece='Vertical story'] img").await?;
    // What is selected is outlined there too; a press there goes over to it, and the two change places.
    bench.pick(HEADLINE).await?;
    browser.find(".beside .same").await?;
    browser.click(".beside .sheet").await?;
    browser.find(".beside [data-piece='Square post']").await?;
    browser.find(".rail .sheet[aria-current=true][aria-label^=Vertical]").await?;
    browser.click("[aria-label='Close what is beside']").await?;
    browser.until("it is gone", "return !document.querySelector('.beside')").await?;
    // Removed here, it still stands in the other, and goes there too when that is asked for.
    bench.step("words").await?;
    bench.pick(HEADLINE).await?;
    bench.keys(None, Key::Delete + "").await?;
    assert!(item(&bench, 0, "headline").is_none() && item(&bench, 1, "headline").is_some());
    bench.press("Remove in all sizes").await?;
    assert!(item(&bench, 1, "headline").is_none());
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_word_no_list_has_is_put_right_or_kept_as_ones_own() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    let path = format!("/api/jobs/{}/acts", bench.job);
    let say = |part: &str, text: &str| {
        let found = item(&bench, 0, part).unwrap();
        let act = serde_json::json!({ "act": "say", "item": found["id"], "text": text });
        let _ = bench.served.post(&path, &serde_json::json!({ "base": bench.kept()["revision"], "act": act }));
    };
    say("headline", "Made slow in the mornign.");
    say("when", "saturday sgraffitto workshop for beginners");
    browser.driver().goto(format!("{}/jobs/{}/check", bench.served.address, bench.job)).await?;
    browser.until("both are found", "return document.querySelectorAll('[data-finding=misspelt]').length === 2").await?;
    // One is a slip, with what is meant; the other a word of the trade.
    let press = "const all = [...document.querySelectorAll('[data-finding=misspelt]')].find((one) => one.textContent.includes(arguments[0])); [...all.querySelectorAll('button')].find((one) => one.textContent.trim() === arguments[1]).click()";
    browser.driver().execute(press, vec!["mornign".into(), "Write it so".into()]).await?;
    browser
        .until("it is put right", "return document.querySelectorAll('[data-finding=misspelt]').length === 1")
        .await?;
    bench.settled().await?;
    let kept = bench.kept().to_string();
    assert!(kept.contains("Made slow in the morning."), "{kept}");
    browser.driver().execute(press, vec!["sgraffitto".into(), "It is a word".into()]).await?;
    browser.until("it is a word", "return document.querySelectorAll('[data-finding=misspelt]').length === 0").await?;
    let words = bench.served.get("/api/kept")["words"].clone();
    assert!(words.as_array().unwrap().contains(&serde_json::json!("sgraffitto")), "{words}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_frame_is_put_around_words_and_what_matters_in_a_picture_is_pointed_at() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "half-and-half").await?;
    let browser = &bench.browser;
    let before = bench.items().len();
    // What matters: pointed at near the left edge of the picture.
    bench.step("pictures").await?;
    bench.pick(PICTURE).await?;
    bench.press("What matters\u{2026}").await?;
    let (x, at) = browser.middle(PICTURE).await?;
    browser.hand().move_to(x - 60, at).click().perform().await?;
    bench.settled().await?;
    let kept = bench.kept();
    let kin = bench.item("mainPicture")["kin"].as_str().unwrap().to_owned();
    let focus = &kept["job"]["kins"][&kin]["content"]["focus"];
    assert!(focus["x"].as_f64().unwrap() < 495_000_000.0, "{focus}");
    // A frame around the headline.
    bench.pick(HEADLINE).await?;
    browser.driver().execute("[...document.querySelectorAll('.panel [role=radio], .panel .el-segmented__item, .panel button')].find((one) => one.textContent.trim() === 'Graphics')?.click()", Vec::new()).await?;
    let field = browser.find("[aria-label='Find a graphic']").await?;
    field.send_keys("badge").await?;
    browser.find(".graphic[aria-label='scalloped badge']").await?;
    let headline = bench.item("headline");
    browser.click(".graphic[aria-label='scalloped badge']").await?;
    bench.settled().await?;
    let items = bench.items();
    assert_eq!(items.len(), before + 1);
    let words = items.iter().position(|item| item["id"] == headline["id"]).unwrap();
    let (frame, words) = (&items[words - 1], &items[words]);
    assert_eq!(frame["groups"], words["groups"]);
    let rect = |item: &Value, side: &str| item["place"]["at"]["rect"][side].as_f64().unwrap();
    assert!(rect(frame, "w") > rect(words, "w") * 0.4 && rect(frame, "x") < rect(words, "x") + rect(words, "w"));
    bench.undo().await?;
    assert_eq!(bench.items().len(), before);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn another_design_is_tried_on_the_sheet_and_taken() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    bench.step("look").await?;
    bench.press("Another design").await?;
    let any = "return document.querySelectorAll('[data-design] img').length > 10";
    browser.until("designs are offered", any).await?;
    let family = bench.look("headline")["type"]["family"].clone();
    let taken: String = browser
        .driver()
        .execute("const all = [...document.querySelectorAll('[data-design]')].filter((one) => one.dataset.design !== 'doorway'); all[4].click(); return all[4].dataset.design", Vec::new())
        .await?
        .convert()?;
    bench.settled().await?;
    let kept = bench.kept();
    assert!(
        kept["job"]["pieces"].as_array().unwrap().iter().all(|piece| piece["follows"]["designs"][0] == taken.as_str()),
        "{taken}"
    );
    assert!(bench.item("headline")["id"].is_string(), "what it says is still said");
    bench.undo().await?;
    assert_eq!(bench.look("headline")["type"]["family"], family);
    Ok(())
}
