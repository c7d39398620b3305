//! Every screen can be used by everyone: axe-core finds nothing serious.

use serde_json::Value;
use thirtyfour::prelude::*;
use vatman_journeys::{Browser, Served};

use crate::{TURN, program};

/// What axe-core calls serious or critical on the page, in a line each.
async fn violations(browser: &Browser) -> WebDriverResult<Vec<String>> {
    let axe = std::fs::read_to_string(concat!(env!("CARGO_MANIFEST_DIR"), "/../web/node_modules/axe-core/axe.min.js"))
        .expect("npm packages are installed by `make test`");
    browser.driver().execute(axe, Vec::new()).await?;
    let script = "const done = arguments[arguments.length - 1]; axe.run(document, { resultTypes: ['violations'] }).then((found) => done(found.violations.filter((v) => ['serious', 'critical'].includes(v.impact))))";
    let found: Value = browser.driver().execute_async(script, Vec::new()).await?.json().clone();
    let line = |violation: &Value| {
        let nodes = violation["nodes"].as_array().unwrap();
        format!("{}: {} ({} places, first {})", violation["id"], violation["help"], nodes.len(), nodes[0]["html"])
    };
    Ok(found.as_array().unwrap().iter().map(line).collect())
}

#[tokio::test(flavor = "multi_thread")]
async fn no_screen_has_a_serious_barrier() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::start(program(), data.path(), 0);
    let browser = Browser::start(1280, 800).await?;
    let mut found = Vec::new();
    let mut look = async |name: &str| -> WebDriverResult<()> {
        found.extend(violations(&browser).await?.into_iter().map(|line| format!("{name}: {line}")));
        Ok(())
    };
    browser.driver().goto(&served.address).await?;
    browser.find(".job img").await?;
    look("board").await?;
    browser.driver().execute("document.documentElement.dataset.light = 'dark'", Vec::new()).await?;
    look("board, dark").await?;
    browser.driver().goto(format!("{}/start", served.address)).await?;
    browser.find(".design img").await?;
    browser.click("[data-place=card]").await?;
    look("start").await?;
    browser.driver().goto(&served.address).await?;
    browser.click(".job a").await?;
    browser.find(".stage g[data-item] path").await?;
    let job = browser.driver().current_url().await?;
    for step in ["words", "pictures", "layout", "look"] {
        browser.driver().goto(format!("{job}/{step}")).await?;
        browser.find(".stage g[data-item] path").await?;
        look(step).await?;
        let (x, y) = browser.middle(".stage g[data-item] [aria-label^='Hands']").await?;
        browser.driver().action_chain().move_to(x, y).click().perform().await?;
        browser.find(".card .chip").await?;
        look(&format!("{step}, words selected")).await?;
    }
    browser.driver().goto(format!("{job}/layout")).await?;
    browser.find(".stage g[data-item] image").await?;
    let (x, y) = browser.middle(".stage g[data-item] image").await?;
    browser.driver().action_chain().move_to(x, y).click().perform().await?;
    browser.find("[data-fold=ties]").await?;
    look("picture selected").await?;
    browser.click("button[aria-label='Draw by hand']").await?;
    browser.find(".pen").await?;
    look("pen taken up").await?;
    browser.driver().execute("document.documentElement.dataset.light = 'dark'", Vec::new()).await?;
    look("bench, dark").await?;
    browser.driver().goto(format!("{job}/pictures")).await?;
    browser.click(".what label:nth-of-type(2)").await?;
    browser.find("button.graphic").await?;
    look("graphics").await?;
    browser.find(".stage g[data-item] [aria-label^='Hands']").await?;
    let (x, y) = browser.middle(".stage g[data-item] [aria-label^='Hands']").await?;
    browser.driver().action_chain().move_to(x, y).click().perform().await?;
    browser.click("button[aria-label^='Colour:']").await?;
    browser.find(".choose").await?;
    look("colours").await?;
    browser.click("button[aria-label^='Colour:']").await?;
    browser.until("the colours are away", "return !document.querySelector('.choose')?.checkVisibility()").await?;
    browser.click("button[aria-label^='Family']").await?;
    browser.find("[data-family]").await?;
    look("families").await?;
    browser.driver().goto(format!("{job}/hand-over")).await?;
    browser.find(".files li").await?;
    look("hand over").await?;
    assert!(found.is_empty(), "{} barriers:\n{}", found.len(), found.join("\n"));
    Ok(())
}
