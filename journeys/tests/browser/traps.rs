//! What a hand that presses, drags and types would trip over: each of these once did.

use serde_json::{Value, json};
use thirtyfour::prelude::*;

use crate::TURN;
use crate::at_bench::{Bench, HEADLINE, PICTURE};

/// What is selected, by identity.
async fn selected(bench: &Bench) -> WebDriverResult<usize> {
    bench.browser.driver().execute("return document.querySelectorAll('g.chosen').length", Vec::new()).await?.convert()
}

/// Does something to the job as another window would, and waits until this one shows it.
async fn elsewhere(bench: &Bench, act: Value) -> WebDriverResult<Vec<String>> {
    let base = bench.kept()["revision"].clone();
    let answer = bench.served.post(&format!("/api/jobs/{}/acts", bench.job), &json!({ "base": base, "act": act }));
    let made: Vec<String> =
        answer["made"].as_array().unwrap().iter().map(|id| id.as_str().unwrap().to_owned()).collect();
    for id in &made {
        bench.browser.find(&format!(".stage g[data-item='{id}']")).await?;
    }
    bench.settled().await?;
    Ok(made)
}

fn side(bench: &Bench) -> Value {
    bench.kept()["job"]["pieces"][0]["sides"][0]["id"].clone()
}

fn rect_of(bench: &Bench, id: &str) -> [f64; 4] {
    let items = bench.items();
    let item = items.iter().find(|item| item["id"] == id).unwrap();
    ["x", "y", "w", "h"].map(|part| item["place"]["at"]["rect"][part].as_f64().unwrap() / crate::at_bench::PX)
}

async fn card_title(bench: &Bench) -> WebDriverResult<String> {
    bench.browser.text(".card h2").await
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_selected_stays_until_a_deliberate_second_press() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    // A ring, selected, over everything else of the sheet.
    let ring = json!({ "act": "add", "side": side(&bench), "what": { "kind": "shape", "outline": { "kind": "ring", "thickness": 200_000_000 } } });
    let made = elsewhere(&bench, ring).await?;
    let ring = made[0].clone();
    let css = format!(".stage g[data-item='{ring}']");
    let (x, y) = browser.middle(&css).await?;
    let scale = bench.scale().await?;
    let [_, _, w, _] = rect_of(&bench, &ring);
    let rim = (x - (w / 2.0 * scale * 0.9) as i64, y);
    browser.hand().move_to(rim.0, rim.1).click().perform().await?;
    browser.find(".chosen").await?;
    assert_eq!(card_title(&bench).await?, "Ornament");
    // Pressed once more after a while it stays; what a second press would pick is outlined.
    browser.rest().await;
    browser.hand().move_to(rim.0, rim.1).click().perform().await?;
    assert_eq!(selected(&bench).await?, 1);
    // Dragged through its hole it is the ring that moves, not what is seen through it.
    let before = rect_of(&bench, &ring);
    browser.rest().await;
    browser.drag(&[(x, y), (x + 12, y + 9), (x + 40, y + 30)]).await?;
    bench.settled().await?;
    let after = rect_of(&bench, &ring);
    assert!((after[0] - before[0] - 40.0 / scale).abs() < 12.0 / scale, "{before:?} to {after:?}");
    // Removed right after a press, without a word.
    let items = bench.items().len();
    browser
        .driver()
        .action_chain()
        .move_to(rim.0 + 40, rim.1 + 30)
        .click()
        .send_keys(Key::Delete + "")
        .perform()
        .await?;
    bench.settled().await?;
    assert_eq!(bench.items().len(), items - 1);
    browser.until("nothing went wrong", "return !document.querySelector('.notices.el-message--error')").await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_press_through_a_faint_shade_means_what_is_seen() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    let shade = elsewhere(&bench, json!({ "act": "add", "side": side(&bench), "what": { "kind": "shape", "outline": { "kind": "rect", "radius": 0 } } })).await?;
    let whole = json!({ "act": "setBox", "item": shade[0], "numbers": { "point": [0, 0], "x": 0, "y": 0, "w": 1080 * 9_525, "h": 1080 * 9_525 } });
    elsewhere(&bench, whole).await?;
    let fill = |opacity: u64| json!({ "act": "setFill", "items": [shade[0]], "fill": { "kind": "flat", "tint": "#000000", "opacity": opacity } });
    elsewhere(&bench, fill(120_000_000)).await?;
    bench.pick(PICTURE).await?;
    assert_eq!(card_title(&bench).await?, "Main picture");
    browser.hand().send_keys(Key::Escape).perform().await?;
    // A strong one is what is seen, and what is picked.
    elsewhere(&bench, fill(800_000_000)).await?;
    bench.pick(PICTURE).await?;
    assert_eq!(card_title(&bench).await?, "Ornament");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn keys_belong_to_the_words_while_they_are_edited() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    let driver = browser.driver();
    let says = |bench: &Bench| {
        let kept = bench.kept();
        let headline =
            kept["job"]["kins"].as_object().unwrap().values().find(|kin| kin["part"] == "headline").unwrap().clone();
        headline["content"]["text"]
            .as_array()
            .unwrap()
            .iter()
            .map(|run| run["text"].as_str().unwrap())
            .collect::<String>()
    };
    let (x, y) = browser.middle(HEADLINE).await?;
    browser.double_press(x, y).await?;
    browser.find("textarea.keys").await?;
    bench.keys(None, Key::End + " Used").await?;
    // A press on a tool of the card, a choice from a list: typing goes on where it was.
    browser.click(".card button[aria-label=Underline]").await?;
    bench.settled().await?;
    bench.keys(None, " daily").await?;
    bench.choose("Weight", "400").await?;
    browser.drawn().await?;
    bench.keys(None, ".").await?;
    assert_eq!(says(&bench), "Made slow. Used daily.");
    // Delete takes a letter, never the item, also after a press beside the words.
    let items = bench.items().len();
    browser.click(".card h2").await?;
    bench.keys(None, Key::Delete + "").await?;
    bench.keys(None, Key::Backspace + "").await?;
    assert_eq!(bench.items().len(), items);
    assert!(says(&bench).starts_with("Made slow. Used daily"));
    // A double press selects a word, a triple one all of the paragraph.
    let selection = "const field = document.querySelector('textarea.keys'); return field.value.slice(field.selectionStart, field.selectionEnd)";
    let (x, y) = browser.middle(HEADLINE).await?;
    browser.rest().await;
    browser.hand().move_to(x, y).click().click().perform().await?;
    let word: String = driver.execute(selection, Vec::new()).await?.convert()?;
    assert!(!word.is_empty() && !word.contains(' ') && says(&bench).contains(&word), "{word}");
    browser.rest().await;
    browser.hand().move_to(x, y).click().click().click().perform().await?;
    let paragraph: String = driver.execute(selection, Vec::new()).await?.convert()?;
    assert_eq!(paragraph, says(&bench));
    // Undo goes back while the words stay open, and typing goes on.
    bench.keys(Some(Key::Control), "z").await?;
    browser.find("textarea.keys").await?;
    bench.keys(None, Key::End + "!").await?;
    assert!(says(&bench).ends_with('!'), "{}", says(&bench));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_band_takes_the_letters_that_are_seen_inside_it() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    // The letters are narrower than their box.
    let script = "const box = document.querySelector(arguments[0]).getBoundingClientRect(); return [box.left, box.top, box.right, box.bottom].map(Math.round)";
    let ink: (i64, i64, i64, i64) = {
        let css = ".stage g[data-item]:has([aria-label^='Made'])";
        let (l, t, r, b) = browser.driver().execute(script, vec![css.into()]).await?.convert()?;
        (l, t, r, b)
    };
    let stage: (i64, i64, i64, i64) = browser.driver().execute(script, vec![".stage".into()]).await?.convert()?;
    browser.drag(&[(stage.0 + 6, ink.1 - 8), (ink.0 + 20, ink.1 + 10), (ink.2 + 14, ink.3 + 8)]).await?;
    browser.find(".chosen").await?;
    assert_eq!(selected(&bench).await?, 1, "the headline alone");
    assert_eq!(card_title(&bench).await?, "Headline");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_typed_width_keeps_the_proportion_of_a_picture_unless_it_is_let_free() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    bench.pick(PICTURE).await?;
    let [_, _, w, h] = bench.rect("mainPicture");
    bench.enter("Width", "300 px").await?;
    let now = bench.rect("mainPicture");
    assert!((now[2] - 300.0).abs() < 0.01 && (now[3] - 300.0 * h / w).abs() < 0.05, "{now:?}");
    bench.press("Proportion").await?;
    bench.enter("Width", "500 px").await?;
    let free = bench.rect("mainPicture");
    assert!((free[2] - 500.0).abs() < 0.01 && (free[3] - now[3]).abs() < 0.01, "{free:?}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn letters_beyond_the_sheet_are_told_at_once() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    bench.pick(HEADLINE).await?;
    browser.until("nothing is the matter", "return !document.querySelector('.finding')").await?;
    bench.enter("From the left", "-300 px").await?;
    browser.until("it is told on the sheet and in the list", "return document.querySelector('.finding title')?.textContent.includes('cut off') && document.querySelector('.panel .wrong')?.textContent.includes('beyond the edge')").await?;
    bench.undo().await?;
    browser.until("nothing is the matter any more", "return !document.querySelector('.finding')").await
}
