//! Nothing moves under the pointer and nobody is thrown back: everything on the bench is pressed once, what was pressed stays where it
//! was, and something always has the focus.

use thirtyfour::prelude::*;

use crate::TURN;
use crate::at_bench::{Bench, HEADLINE, PICTURE};

/// Presses every button that is shown in the panel, the card and the bars, one after the other, and says which of them were no longer
/// under the pointer afterwards. What goes away with its press was not moved; rows that are told to move are meant to.
const PRESS_ALL: &str = "
const done = arguments[arguments.length - 1];
const rest = (ms) => new Promise((go) => setTimeout(go, ms));
const settled = async () => { for (let i = 0; i < 80; i++) { await rest(25); if (document.querySelector('.bar .kept')?.dataset.saving === '0') break } await rest(90) };
const name = (one) => one.getAttribute('aria-label') ?? one.textContent.trim().slice(0, 40);
const all = () => [...document.querySelectorAll('.panel button, .card button, .strip button, .rail button, .bar button')].filter((one) => one.checkVisibility() && !one.disabled && !one.closest('.tools, [data-leaves]'));
(async () => {
  const pressed = new Set(), moved = [], lost = [];
  for (let round = 0; round < 160; round++) {
    const next = all().find((one) => !pressed.has(name(one)));
    if (!next) break;
    pressed.add(name(next));
    next.scrollIntoView({ block: 'nearest' });
    await rest(20);
    const before = next.getBoundingClientRect();
    next.focus();
    next.click();
    await settled();
    if (document.activeElement === document.body) lost.push(name(next));
    const now = next.isConnected ? next.getBoundingClientRect() : null;
    if (now && now.width && (Math.abs(now.x - before.x) > 0.5 || Math.abs(now.y - before.y) > 0.5)) moved.push(name(next) + ' by ' + [now.x - before.x, now.y - before.y].map(Math.round));
    document.activeElement?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }));
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }));
    document.body.dispatchEvent(new PointerEvent('pointerdown', { bubbles: true }));
    document.body.click();
    document.querySelector('.el-message-box__close, .el-message-box .el-button:not(.el-button--primary)')?.click();
    await rest(30);
  }
  return [pressed.size, moved, lost];
})().then(done, (error) => done([0, [String(error)], []]))";

#[tokio::test(flavor = "multi_thread")]
async fn what_is_pressed_stays_under_the_pointer() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let driver = bench.browser.driver();
    driver.set_script_timeout(std::time::Duration::from_mins(3)).await?;
    let (mut pressed, mut moved, mut lost) = (0, Vec::new(), Vec::new());
    for (step, item) in
        [("words", Some(HEADLINE)), ("pictures", Some(PICTURE)), ("layout", None), ("look", Some(HEADLINE))]
    {
        bench.step(step).await?;
        if let Some(item) = item {
            bench.pick(item).await?;
        }
        let found = driver.execute_async(PRESS_ALL, Vec::new()).await?;
        let (count, names, gone): (usize, Vec<String>, Vec<String>) = found.convert()?;
        pressed += count;
        lost.extend(gone.into_iter().map(|name| format!("{step}: {name}")));
        moved.extend(names.into_iter().map(|name| format!("{step}: {name}")));
        // Whatever the presses did to the job is taken back: the next view begins as this one did.
        for _ in 0..200 {
            if driver
                .execute("return document.querySelector('button[aria-label=Undo]').disabled", Vec::new())
                .await?
                .json()
                .as_bool()
                == Some(true)
            {
                break;
            }
            bench.undo().await?;
        }
    }
    println!("{pressed} buttons pressed");
    assert!(pressed > 100, "only {pressed} were pressed");
    assert!(lost.is_empty(), "after {} presses nothing had the focus:\n{}", lost.len(), lost.join("\n"));
    assert!(moved.is_empty(), "{} moved:\n{}", moved.len(), moved.join("\n"));
    Ok(())
}

/// What somebody changes nearly every time is on the card without scrolling, and the bars above the sheet never run into each other.
#[tokio::test(flavor = "multi_thread")]
async fn cards_and_bars_fit_their_windows() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let driver = bench.browser.driver();
    let side = bench.kept()["job"]["pieces"][0]["sides"][0]["id"].clone();
    let add = |what: serde_json::Value| {
        let act = serde_json::json!({ "act": "add", "side": side, "what": what });
        let wish = serde_json::json!({ "base": bench.kept()["revision"], "act": act });
        bench.served.post(&format!("/api/jobs/{}/acts", bench.job), &wish)["made"][0].as_str().unwrap().to_owned()
    };
    let graphic = bench.served.get("/api/graphics?q=leaf&from=0")["graphics"][0]["id"].clone();
    let star =
        add(serde_json::json!({ "kind": "shape", "outline": { "kind": "star", "points": 12, "depth": 300_000_000 } }));
    let leaf = add(serde_json::json!({ "kind": "graphic", "graphic": graphic }));
    driver.execute("localStorage.setItem('vatman-open', '[]')", Vec::new()).await?;
    let of = |id: &str| format!(".stage g[data-item='{id}']");
    for (width, height) in [(1280, 800), (1024, 700)] {
        bench.browser.resize(width, height).await?;
        bench.step("layout").await?;
        for item in [HEADLINE, PICTURE, &of(&star), &of(&leaf)] {
            driver.execute("document.querySelector('.stage').focus()", Vec::new()).await?;
            bench.keys(None, Key::Escape + "").await?;
            bench.pick(item).await?;
            bench.browser.find(".card .common").await?;
            bench.browser.drawn().await?;
            let fits = "const card = document.querySelector('.card'), common = document.querySelector('.card .common').getBoundingClientRect(), bar = [...document.querySelectorAll('.selection > *')].at(-1).getBoundingClientRect(); return [card.scrollTop === 0 && common.bottom <= card.getBoundingClientRect().bottom, bar.right <= document.querySelector('.strip .view').getBoundingClientRect().left, card.scrollWidth <= card.clientWidth]";
            let (card, bars, wide): (bool, bool, bool) = driver.execute(fits, Vec::new()).await?.convert()?;
            assert!(bars && wide, "{item} at {width} x {height}");
            assert!(card || height < 800, "{item}: its common settings do not fit the card");
        }
        // Several at once have most to choose from.
        bench.keys(Some(Key::Control), "a").await?;
        let fits = "const bar = [...document.querySelectorAll('.selection > *')].filter((one) => one.checkVisibility()).at(-1).getBoundingClientRect(); return bar.right <= document.querySelector('.strip .view').getBoundingClientRect().left";
        bench.browser.until("the bars keep apart", fits).await?;
    }
    Ok(())
}
