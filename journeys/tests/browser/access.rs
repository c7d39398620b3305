//! Every screen can be used by everyone: axe-core finds nothing serious.

use serde_json::Value;
use thirtyfour::prelude::*;
use vatman_journeys::{Browser, Served};

use crate::{TURN, program};

/// What axe-core calls serious or critical on the page, in a line each: of all it knows, or of colours alone.
async fn violations(browser: &Browser, colours: bool) -> WebDriverResult<Vec<String>> {
    if browser.driver().execute("return window.axe === undefined", Vec::new()).await?.convert()? {
        let axe = concat!(env!("CARGO_MANIFEST_DIR"), "/../web/node_modules/axe-core/axe.min.js");
        let axe = std::fs::read_to_string(axe).expect("npm packages are installed by `make test`");
        browser.driver().execute(axe, Vec::new()).await?;
    }
    let script = "const done = arguments[arguments.length - 1]; const only = arguments[0] ? { runOnly: { type: 'rule', values: ['color-contrast', 'link-in-text-block'] } } : {}; axe.run(document, { resultTypes: ['violations'], ...only }).then((found) => done(found.violations.filter((v) => ['serious', 'critical'].includes(v.impact))))";
    let found: Value = browser.driver().execute_async(script, vec![colours.into()]).await?.json().clone();
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
    // Each view in both lights, which differ in colours alone.
    let mut look = async |name: &str| -> WebDriverResult<()> {
        for light in ["paper", "dark"] {
            // Colours on their way from one light to the other are neither.
            let set = "document.documentElement.dataset.light = arguments[0]; if (!document.querySelector('#at-once')) document.head.insertAdjacentHTML('beforeend', '<style id=at-once>*, *::before, *::after { transition: none !important }</style>')";
            browser.driver().execute(set, vec![light.into()]).await?;
            browser.drawn().await?;
            found.extend(
                violations(&browser, light == "dark").await?.into_iter().map(|line| format!("{name}, {light}: {line}")),
            );
        }
        Ok(())
    };
    browser.driver().goto(&served.address).await?;
    browser.find(".job img").await?;
    look("board").await?;
    browser.driver().goto(format!("{}/start", served.address)).await?;
    browser.find(".design img").await?;
    browser.click("[data-place=card]").await?;
    browser.click("[data-place=story]").await?;
    look("start").await?;
    browser.click(".shapes button:last-child").await?;
    browser.find(".every img").await?;
    look("start, every shape").await?;
    browser.driver().goto(&served.address).await?;
    browser.click(".job a").await?;
    browser.find(".stage g[data-item] path").await?;
    let job = browser.driver().current_url().await?;
    let words = ".stage g[data-item] [aria-label^='Hands']";
    let press = async |css: &str| -> WebDriverResult<()> {
        browser.find(css).await?;
        let (x, y) = browser.middle(css).await?;
        browser.hand().move_to(x, y).click().perform().await
    };
    for step in ["words", "pictures", "layout", "look"] {
        browser.driver().goto(format!("{job}/{step}")).await?;
        browser.find(".stage g[data-item] path").await?;
        look(step).await?;
        press(words).await?;
        browser.find(".card .chip").await?;
        look(&format!("{step}, words selected")).await?;
    }
    browser.click("[data-fold=type] .heading").await?;
    browser.driver().execute("[...document.querySelectorAll('.card button')].find((one) => one.textContent.trim() === 'Arrange as one block').click()", Vec::new()).await?;
    browser.find(".chooser li svg").await?;
    look("blocks").await?;
    browser.driver().goto(format!("{job}/words")).await?;
    press(words).await?;
    let (x, y) = browser.middle(words).await?;
    browser.hand().move_to(x, y).context_click().perform().await?;
    browser
        .until(
            "the menu is open",
            "return [...document.querySelectorAll('.el-dropdown-menu__item')].some((one) => one.checkVisibility())",
        )
        .await?;
    look("menu of an item").await?;
    browser.driver().goto(format!("{job}/layout")).await?;
    press(".stage g[data-item] image").await?;
    browser.find("[data-fold=ties]").await?;
    look("picture selected").await?;
    browser.click("button[aria-label='Draw by hand']").await?;
    browser.find(".pen").await?;
    look("pen taken up").await?;
    browser.driver().goto(format!("{job}/pictures")).await?;
    browser.click(".what label:nth-of-type(2)").await?;
    browser.find("button.graphic").await?;
    look("graphics").await?;
    browser.click(".what label:nth-of-type(1)").await?;
    browser.driver().execute("[...document.querySelectorAll('.panel .act')].find((one) => one.textContent.includes('Arrange several')).click()", Vec::new()).await?;
    for number in 1..=3 {
        browser.click(&format!(".pictures li:nth-child({number}) button")).await?;
    }
    browser.find(".forms .arrange li img").await?;
    look("arrangements").await?;
    browser.driver().goto(format!("{job}/words")).await?;
    press(words).await?;
    browser.click("button[aria-label^='Colour:']").await?;
    browser.find(".choose").await?;
    look("colours").await?;
    browser.click("button[aria-label^='Colour:']").await?;
    browser.until("the colours are away", "return !document.querySelector('.choose')?.checkVisibility()").await?;
    browser.click("button[aria-label^='Family']").await?;
    browser.find("[data-family]").await?;
    look("families").await?;
    browser.driver().goto(format!("{job}/hand-over")).await?;
    browser.find(".files > ul li").await?;
    look("hand over").await?;
    for (way, there) in
        [("sheets", "[data-plan], .refused"), ("list", ".columns"), ("shop", ".orders"), ("cloth", "[data-fine]")]
    {
        browser.driver().goto(format!("{job}/hand-over/{way}")).await?;
        browser.find(there).await?;
        look(&format!("hand over, {way}")).await?;
    }
    browser.driver().goto(format!("{job}/sizes")).await?;
    browser.find("img").await?;
    look("sizes").await?;
    browser.driver().goto(format!("{job}/check")).await?;
    browser.find(".check .list h2, .check .list .head").await?;
    look("check").await?;
    browser.driver().goto(format!("{job}/pictures")).await?;
    press(".stage g[data-item] image").await?;
    browser.driver().execute("[...document.querySelectorAll('.card button')].find((one) => one.textContent.includes('Darkroom')).click()", Vec::new()).await?;
    browser.find(".darkroom .strip img").await?;
    browser.click(".adding > button").await?;
    browser.find("[data-kind=curves]").await?;
    look("darkroom, steps to add").await?;
    browser.click("[data-kind=curves]").await?;
    browser.find("[data-step=curves] .curves").await?;
    look("darkroom, curves").await?;
    assert!(found.is_empty(), "{} barriers:\n{}", found.len(), found.join("\n"));
    Ok(())
}

/// Everything that can be pressed or filled in on a page, and what Tab comes to: those it never comes to, by name. Of a group of which
/// one is chosen the arrows reach the rest.
const UNREACHED: &str = "
const one = (node) => node.getAttribute('aria-label') ?? (node.textContent.trim().slice(0, 30) || node.outerHTML.slice(0, 120));
const grouped = (node) => node.matches('[type=radio]') || !!node.closest('[role=radiogroup], [role=slider]') || node.tabIndex < 0;
const all = [...document.querySelectorAll('button, a[href], input, textarea, [tabindex]')].filter((node) => node.checkVisibility() && !node.disabled && !grouped(node));
return all.filter((node) => !window.come.has(node)).map(one);";

#[tokio::test(flavor = "multi_thread")]
async fn keys_alone_reach_everything() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = crate::at_bench::Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    let mut found = Vec::new();
    for step in ["words", "pictures", "layout", "look", "hand-over"] {
        if step == "hand-over" {
            browser.driver().goto(format!("{}/jobs/{}/hand-over", bench.served.address, bench.job)).await?;
            browser.until("the files are made", "return document.querySelectorAll('.files > ul li').length === 1 && !document.querySelector('.go').disabled").await?;
        } else {
            bench.step(step).await?;
            bench.pick(crate::at_bench::HEADLINE).await?;
            browser
                .until("the contrast is measured", "return document.querySelector('.contrast p b') !== null")
                .await?;
        }
        browser.driver().execute("window.come = new Set(); addEventListener('focusin', (event) => come.add(event.target)); document.activeElement.blur(); document.body.focus()", Vec::new()).await?;
        let mut missed: Vec<String> = Vec::new();
        for _ in 0..20 {
            let mut chain = browser.hand();
            for _ in 0..20 {
                chain = chain.send_keys(Key::Tab + "");
            }
            chain.perform().await?;
            missed = browser.driver().execute(UNREACHED, Vec::new()).await?.convert()?;
            if missed.is_empty() {
                break;
            }
        }
        let count: usize = browser.driver().execute("return come.size", Vec::new()).await?.convert()?;
        assert!(count > 15, "{step}: only {count} had the focus");
        found.extend(missed.into_iter().map(|name| format!("{step}: {name}")));
    }
    assert!(found.is_empty(), "{} are never reached:\n{}", found.len(), found.join("\n"));
    Ok(())
}
