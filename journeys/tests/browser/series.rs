//! From one job to the next: sets of places, the next of a series, and only what changed.

use serde_json::json;
use thirtyfour::prelude::*;
use vatman_journeys::{Browser, Served};

use crate::{TURN, program};

#[tokio::test(flavor = "multi_thread")]
async fn a_set_is_kept_a_job_made_and_its_next_asks_for_the_date() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::bare(program(), data.path());
    let browser = Browser::start(1280, 800).await?;
    let driver = browser.driver();

    // Two places, kept as a set.
    driver.goto(format!("{}/start", served.address)).await?;
    for place in ["square-post", "card"] {
        browser.click(&format!("[data-place={place}]")).await?;
    }
    browser.click(".link.foot").await?;
    let field = browser.find(".el-message-box input").await?;
    field.send_keys("My usual two").await?;
    field.send_keys(Key::Enter).await?;
    browser.find("[data-set='My usual two'][aria-pressed=true]").await?;
    // Left out, and chosen again by one press.
    browser.click("[data-set='My usual two']").await?;
    browser.until("none is chosen", "return !document.querySelector('.chosen li')").await?;
    browser.click("[data-set='My usual two']").await?;
    browser.until("both are chosen", "return document.querySelectorAll('.chosen li').length === 2").await?;

    // A size of one's own under a name.
    let find = browser.find("[aria-label='Find a place or type a size']").await?;
    find.send_keys("60 x 40 mm").await?;
    browser.click(".link.keep").await?;
    let name = browser.find("[name=format-name]").await?;
    name.send_keys("Glaze label").await?;
    browser.find("[name=format-bleed]").await?.send_keys("2 mm").await?;
    browser.click(".format [type=submit]").await?;
    browser
        .until(
            "it stands among the places",
            "return [...document.querySelectorAll('.place b')].some((one) => one.textContent === 'Glaze label')",
        )
        .await?;
    let kept = served.get("/api/kept");
    assert_eq!(kept["formats"][0]["format"]["bleed"], 72_000, "{kept}");

    // The job, and the next of its series from the board.
    let words = json!({ "headline": "Winter market", "when": "Saturday, 12 December 2026, 9 to 5" });
    let job =
        served.post("/api/jobs", &json!({ "design": "doorway", "places": ["square-post", "card"], "words": words }));
    let id = job["id"].as_str().unwrap().to_owned();
    driver.goto(format!("{}/", served.address)).await?;
    browser.click("[aria-label='Make the next of \u{201c}Winter market\u{201d}']").await?;
    browser.until("the next date is filled in", "return document.querySelector('.next-job textarea[name=when]')?.value === 'Saturday, 9 January 2027, 9 to 5'").await?;
    browser.find(".next-job [name=title]").await?.send_keys(", the second").await?;
    driver.execute("[...document.querySelectorAll('.next-job label.el-radio-button')].find((one) => one.textContent.includes('A week later')).querySelector('input').click()", Vec::new()).await?;
    browser.until("a week later", "return document.querySelector('.next-job textarea[name=when]').value === 'Saturday, 19 December 2026, 9 to 5'").await?;
    browser
        .until(
            "what was typed stays",
            "return document.querySelector('.next-job [name=title]').value === 'Winter market, the second'",
        )
        .await?;
    browser.click(".next-job [type=submit]").await?;
    browser.until("it is on the bench", "return document.querySelectorAll('.stage g[data-item]').length > 2").await?;
    let board = served.get("/api/jobs");
    assert_eq!(board.as_array().unwrap().len(), 2);
    let made = board.as_array().unwrap().iter().find(|one| one["id"] != id.as_str()).unwrap()["id"].clone();
    let open = served.get(&format!("/api/jobs/{}", made.as_str().unwrap()));
    assert!(open.to_string().contains("Saturday, 19 December 2026, 9 to 5"));

    // Handed over; after a change in one piece only that one is chosen.
    driver.goto(format!("{}/jobs/{}/hand-over", served.address, id)).await?;
    browser.find("[data-kind=place]").await?;
    browser.click(".what .line .link").await?;
    browser
        .until("both are made", "return document.querySelectorAll('.files > ul li').length === 2 && !document.querySelector('.go').disabled")
        .await?;
    browser.click(".go").await?;
    let zip = browser.downloaded(".zip").await;
    assert!(zip::ZipArchive::new(std::fs::File::open(zip).unwrap()).unwrap().len() >= 4);
    browser.until("that is remembered", "return document.querySelectorAll('[data-handed]').length === 2").await?;
    let open = served.get(&format!("/api/jobs/{id}"));
    let item = open["job"]["pieces"][1]["sides"][0]["items"][1]["id"].clone();
    let act = json!({ "base": open["revision"], "act": { "act": "move", "items": [item], "dx": 90_000, "dy": 0 } });
    let _ = served.post(&format!("/api/jobs/{id}/acts"), &act);
    browser.click("[data-changed]").await?;
    browser.until("one file is made", "const chosen = [...document.querySelectorAll('.piece[aria-checked=true]')].map((one) => one.dataset.piece); return chosen.length === 1 && chosen[0] === 'Card' && document.querySelectorAll('.files > ul li').length === 1").await?;
    Ok(())
}
