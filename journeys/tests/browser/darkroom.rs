//! The darkroom: a picture treated where it lies, step by step, on a part of it, by recipe, and as it came again.

use serde_json::Value;
use thirtyfour::prelude::*;

use crate::TURN;
use crate::at_bench::{Bench, PICTURE};

fn steps(bench: &Bench) -> Vec<Value> {
    bench.look("mainPicture")["treatments"].as_array().cloned().unwrap_or_default()
}

async fn in_darkroom() -> WebDriverResult<Bench> {
    let bench = Bench::open("square-post", "half-and-half").await?;
    bench.step("pictures").await?;
    bench.pick(PICTURE).await?;
    bench.press("Darkroom\u{2026}").await?;
    bench.browser.until("its tones are seen", "return !!document.querySelector('.darkroom .tones polygon')").await?;
    Ok(bench)
}

/// Where a share of the picture lies in the window.
async fn on_picture(bench: &Bench, x: f64, y: f64) -> WebDriverResult<(i64, i64)> {
    let script = "const r = document.querySelector('.darkroom [data-treated] image').getBoundingClientRect(); const v = document.querySelector('.darkroom .view').getBoundingClientRect();
        const box = [Math.max(r.left, v.left), Math.max(r.top, v.top), Math.min(r.right, v.right), Math.min(r.bottom, v.bottom)]; return box";
    let found = bench.browser.driver().execute(script, Vec::new()).await?;
    let at: Vec<f64> = found.json().as_array().unwrap().iter().map(|v| v.as_f64().unwrap()).collect();
    Ok(((at[0] + (at[2] - at[0]) * x) as i64, (at[1] + (at[3] - at[1]) * y) as i64))
}

const SHOWN: &str = "document.querySelector('.darkroom [data-treated] image').getAttribute('href')";

#[tokio::test(flavor = "multi_thread")]
async fn a_picture_is_treated_step_by_step_and_the_sheet_shows_it() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = in_darkroom().await?;
    let browser = &bench.browser;
    // Found by what one wants to see; the first that fits is taken by Enter.
    bench.press("Add a step").await?;
    browser.find(".adding input").await?.send_keys("clarity" + Key::Enter).await?;
    bench.settled().await?;
    bench.press("Add a step").await?;
    browser.click("[data-kind=exposure]").await?;
    bench.settled().await?;
    let names = |bench: &Bench| -> Vec<String> {
        steps(bench).iter().map(|step| step["develop"]["kind"].as_str().unwrap().to_owned()).collect()
    };
    assert_eq!(names(&bench), ["localContrast", "exposure"]);
    // The new step is open: its slider by the keys.
    browser.find("[data-step=exposure] [role=slider]").await?.send_keys(Key::Right + Key::Right).await?;
    bench.settled().await?;
    assert_eq!(steps(&bench)[1]["develop"]["ev"], 600_000_000);
    browser.until("what is shown is treated", &format!("return {SHOWN}.includes('&as=')")).await?;
    // While 0 is held it is as it came.
    let key = "const e = new KeyboardEvent(arguments[0], { key: '0', bubbles: true }); document.querySelector('.darkroom').dispatchEvent(e)";
    browser.driver().execute(key, vec!["keydown".into()]).await?;
    browser.until("it is seen as it came", &format!("return !{SHOWN}.includes('&as=')")).await?;
    browser.driver().execute(key, vec!["keyup".into()]).await?;
    browser.until("and as it is", &format!("return {SHOWN}.includes('&as=')")).await?;
    // Order, switch, undo without leaving.
    browser.click("[aria-label=Earlier]").await?;
    bench.settled().await?;
    assert_eq!(names(&bench), ["exposure", "localContrast"]);
    browser.click("[data-step=localContrast] .el-switch").await?;
    bench.settled().await?;
    assert_eq!(steps(&bench)[1]["on"], false);
    bench.keys(Some(Key::Control), "z").await?;
    assert_eq!(steps(&bench)[1]["on"], true);
    bench.press("Done").await?;
    browser.until("the sheet shows it", "return !document.querySelector('.darkroom') && [...document.querySelectorAll('[data-item] image')].some((one) => one.getAttribute('href').includes('&as='))").await?;
    browser.pictures_arrive().await?;
    assert!(browser.complaints().is_empty(), "{:?}", browser.complaints());
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_step_is_painted_on_a_part_and_a_curve_is_drawn() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = in_darkroom().await?;
    let browser = &bench.browser;
    bench.press("Add a step").await?;
    browser.click("[data-kind=curves]").await?;
    bench.settled().await?;
    let (x, y) = browser.middle(".curves svg").await?;
    browser.drag(&[(x, y), (x, y - 20), (x, y - 40)]).await?;
    bench.settled().await?;
    let curve = steps(&bench)[0]["develop"]["all"].as_array().unwrap().clone();
    assert_eq!(curve.len(), 3);
    assert!(curve[1]["y"].as_i64() > curve[1]["x"].as_i64(), "drawn up it is lighter");
    bench.choose("Only on a part", "Painted").await?;
    let mut way = Vec::new();
    for share in [0.3, 0.4, 0.5, 0.6] {
        way.push(on_picture(&bench, share, 0.5).await?);
    }
    browser.drag(&way).await?;
    bench.settled().await?;
    let stroke = steps(&bench)[0]["mask"]["areas"][0]["area"]["strokes"][0].clone();
    assert!(stroke["points"].as_array().unwrap().len() > 2, "{stroke}");
    browser.find(".marks .stroke").await?;
    bench.press("Done painting").await?;
    bench.choose("Only on a part", "From here to there").await?;
    let line =
        [on_picture(&bench, 0.2, 0.2).await?, on_picture(&bench, 0.5, 0.5).await?, on_picture(&bench, 0.8, 0.8).await?];
    browser.drag(&line).await?;
    bench.settled().await?;
    let areas = steps(&bench)[0]["mask"]["areas"].as_array().unwrap().clone();
    assert_eq!((areas.len(), areas[1]["area"]["kind"].as_str()), (2, Some("linear")));
    browser.click(".mask > .el-checkbox").await?;
    bench.settled().await?;
    assert_eq!(steps(&bench)[0]["mask"]["inverted"], true);
    browser.click("[aria-label^='Without the part']").await?;
    bench.settled().await?;
    browser.click("[aria-label^='Without the part']").await?;
    bench.settled().await?;
    assert!(steps(&bench)[0].get("mask").is_none(), "without any part it is everywhere again");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_recipe_is_taken_weakened_and_left_and_grey_is_pointed_at() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = in_darkroom().await?;
    let browser = &bench.browser;
    browser.click(".strip li:nth-child(4) button").await?;
    bench.settled().await?;
    let whole = steps(&bench);
    assert!(whole.len() > 1);
    // How much of it is one slider.
    browser.find(".strength [role=slider]").await?.send_keys(Key::Home + Key::Right).await?;
    bench.settled().await?;
    assert_eq!(steps(&bench).len(), whole.len());
    assert!(steps(&bench)[0]["amount"].as_i64() < whole[0]["amount"].as_i64());
    bench.press("Beside").await?;
    browser.find(".divider").await?;
    bench.choose("Whole picture", "As it came").await?;
    assert!(steps(&bench).is_empty());
    bench.choose("Whole picture", "Point at what is grey").await?;
    let (x, y) = on_picture(&bench, 0.3, 0.3).await?;
    browser.drag(&[(x, y), (x, y)]).await?;
    bench.settled().await?;
    assert_eq!(steps(&bench)[0]["develop"]["kind"], "whiteBalance");
    bench.choose("Whole picture", "Stretch the tones").await?;
    assert_eq!(steps(&bench).last().unwrap()["develop"]["kind"], "levels");
    bench.keys(None, Key::Escape + "").await?;
    browser.until("Escape leaves it", "return !document.querySelector('.darkroom')").await?;
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_picture_is_set_upright_mended_and_its_recipe_becomes_a_code() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = in_darkroom().await?;
    let browser = &bench.browser;
    browser.click("[data-fold=upright] .heading").await?;
    bench.press("Four corners\u{2026}").await?;
    let (x, y) = browser.middle("[aria-label='Top left corner']").await?;
    browser.drag(&[(x, y), (x + 20, y + 12), (x + 40, y + 30)]).await?;
    bench.settled().await?;
    let corners = bench.look("mainPicture")["upright"]["corners"].clone();
    assert!(corners[0]["x"].as_i64() > Some(0) && corners[1]["x"].as_i64() == Some(1_000_000_000), "{corners}");
    // By the keys, too.
    browser.find("[aria-label='Bottom right corner']").await?.send_keys(Key::Left + "").await?;
    bench.settled().await?;
    assert_eq!(bench.look("mainPicture")["upright"]["corners"][2]["x"], 995_000_000);
    bench.press("As it came").await?;
    assert!(bench.look("mainPicture").get("upright").is_none());
    bench.press("Add a step").await?;
    browser.click("[data-kind=spots]").await?;
    bench.settled().await?;
    let spots = |bench: &Bench| steps(bench)[0]["develop"]["spots"].as_array().unwrap().len();
    for share in [0.3, 0.6] {
        let (x, y) = on_picture(&bench, share, 0.5).await?;
        browser.drag(&[(x, y), (x + 6, y)]).await?;
        bench.settled().await?;
    }
    assert_eq!(spots(&bench), 2);
    bench.press("Take the last back").await?;
    assert_eq!(spots(&bench), 1);
    bench.press("Done painting").await?;
    // A spot is of this picture alone; of the rest a code is made.
    bench.press("Add a step").await?;
    browser.click("[data-kind=exposure]").await?;
    bench.settled().await?;
    bench.choose("Whole picture", "Recipe as a code to scan\u{2026}").await?;
    browser
        .until(
            "the code is seen",
            "const i = document.querySelector('.el-dialog img[alt^=\"Code of\"]'); return !!i && i.naturalWidth > 300",
        )
        .await?;
    assert!(browser.text(".el-dialog p").await?.contains("The whole recipe is in it"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_cut_out_gets_a_ground_a_picture_is_traced_and_words_are_treated() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "half-and-half").await?;
    let browser = &bench.browser;
    bench.step("pictures").await?;
    bench.pick(PICTURE).await?;
    let before = bench.items().len();
    bench.choose("Cut out", "On white, with a margin").await?;
    browser
        .until(
            "the subject is found and put on white",
            &format!("return document.querySelectorAll('.stage g[data-item]').length > {before}"),
        )
        .await?;
    bench.settled().await?;
    assert!(bench.look("mainPicture")["cut_out"]["mask"].is_string());
    bench.pick(PICTURE).await?;
    bench.choose("Cut out", "Trace into outlines\u{2026}").await?;
    browser.until("it is seen traced", "return !!document.querySelector('.el-dialog .seen img')").await?;
    bench.press("Use the outlines").await?;
    browser.until("the outlines take its place", "return !document.querySelector('.stage g[data-item] image')").await?;
    let gone = "document.querySelector('.card')?.textContent.includes('in outlines') && ![...document.querySelectorAll('.el-overlay')].some((one) => one.checkVisibility())";
    browser.until("they are selected, and the dialog is gone", &format!("return {gone}")).await?;
    bench.pick(crate::at_bench::HEADLINE).await?;
    browser
        .until("the headline is selected", "return document.querySelector('.card h2')?.textContent === 'Headline'")
        .await?;
    bench.press("Darkroom\u{2026}").await?;
    bench.press("Add a step").await?;
    browser.click("[data-kind=blur]").await?;
    bench.settled().await?;
    assert_eq!(bench.look("headline")["treatments"][0]["develop"]["kind"], "blur");
    bench.press("Done").await?;
    bench.settled().await?;
    assert!(browser.complaints().is_empty(), "{:?}", browser.complaints());
    Ok(())
}
