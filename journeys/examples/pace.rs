//! How fast the bench answers the hand: frame intervals while dragging on a side of 200 items, the edit that follows, graphics found
//! while typing, and letters from the key to the screen. `pace PROGRAM` drives a program of your choice, best the release build.

#![allow(clippy::print_stdout, reason = "a report is what it is for")]

use std::path::PathBuf;
use std::time::{Duration, Instant};

use serde_json::{Value, json};
use thirtyfour::extensions::cdp::ChromeDevTools;
use thirtyfour::prelude::*;
use vatman_journeys::{Browser, Served, post};

fn percentile(mut values: Vec<f64>, share: f64) -> f64 {
    values.sort_by(f64::total_cmp);
    values.get(((values.len().saturating_sub(1)) as f64 * share).round() as usize).copied().unwrap_or(0.0)
}

fn report(what: &str, values: &[f64]) {
    println!(
        "{what}: median {:.1} ms, p95 {:.1} ms, of {}",
        percentile(values.to_vec(), 0.5),
        percentile(values.to_vec(), 0.95),
        values.len()
    );
}

/// Fills a side with small shapes until it has 200 items.
fn fill(address: &str, job: &str) -> Result<String, Box<dyn std::error::Error>> {
    let ask = |path: &str| -> Result<Value, ureq::Error> {
        ureq::get(format!("{address}{path}")).call()?.body_mut().read_json()
    };
    let open = ask(&format!("/api/jobs/{job}"))?;
    let side = &open["job"]["pieces"][0]["sides"][0];
    let had = side["items"].as_array().map_or(0, Vec::len);
    let mut base = open["revision"].as_i64().unwrap_or(1);
    let mut act = |act: Value| -> Result<Value, Box<dyn std::error::Error>> {
        let answer = post(address, &format!("/api/jobs/{job}/acts"), &json!({ "base": base, "act": act }));
        base = answer["revision"].as_i64().unwrap_or(base);
        Ok(answer)
    };
    for i in had..200 {
        let outline = if i % 3 == 0 {
            json!({ "kind": "ellipse" })
        } else {
            json!({ "kind": "star", "points": 5 + i % 7, "depth": 400_000_000 })
        };
        let made =
            act(json!({ "act": "add", "side": side["id"], "what": { "kind": "shape", "outline": outline } }))?["made"]
                [0]
            .clone();
        let (column, row) = (i % 20, i / 20);
        let numbers = json!({ "point": [0, 0], "x": 300_000 + column * 480_000, "y": 300_000 + row * 900_000, "w": 380_000, "h": 600_000 });
        act(json!({ "act": "setBox", "item": made, "numbers": numbers }))?;
        let fill = json!({ "kind": "flat", "tint": format!("#{:02x}60{:02x}", (i * 7) % 256, (i * 13) % 256), "opacity": 1_000_000_000 });
        act(json!({ "act": "setFill", "items": [made], "fill": fill }))?;
    }
    Ok(job.to_owned())
}

async fn numbers(browser: &Browser, script: &str) -> WebDriverResult<Vec<f64>> {
    browser.driver().execute(script, Vec::new()).await?.convert()
}

#[tokio::main]
async fn main() -> Result<(), Box<dyn std::error::Error>> {
    let program = PathBuf::from(std::env::args().nth(1).ok_or("pace PROGRAM")?);
    let data = tempfile::tempdir()?;
    let served = Served::start(&program, data.path(), 0);
    let wish = json!({ "design": "doorway", "places": ["square-post"], "words": { "headline": "Made slow.", "when": "Saturday" } });
    let made = served.post("/api/jobs", &wish);
    let job = fill(&served.address, made["id"].as_str().unwrap_or_default())?;
    let browser = Browser::start(1280, 800).await?;
    browser.driver().goto(format!("{}/jobs/{job}/layout", served.address)).await?;
    browser.find(".stage g[data-item]:nth-child(150)").await?;
    browser.pictures_arrive().await?;
    let tools = ChromeDevTools::new(browser.driver().handle.clone());
    let mouse = async |kind: &str, x: f64, y: f64| {
        tools
            .execute_cdp_with_params(
                "Input.dispatchMouseEvent",
                json!({ "type": kind, "x": x, "y": y, "button": "left", "buttons": 1, "clickCount": 1 }),
            )
            .await
    };

    // Thirty drags of one item among 200.
    let (x, y) = browser.middle(".stage g[data-item]:nth-child(150)").await?;
    let (mut x, mut y) = (x as f64, y as f64);
    let record = "window.frames = []; let last = 0; const tick = (now) => { if (last && window.dragging) window.frames.push(now - last); last = now; requestAnimationFrame(tick) }; requestAnimationFrame(tick)";
    browser.driver().execute(record, Vec::new()).await?;
    performance_clear(&browser).await?;
    for drag in 0..30 {
        mouse("mousePressed", x, y).await?;
        browser.driver().execute("window.dragging = true", Vec::new()).await?;
        let direction = if drag % 2 == 0 { 1.0 } else { -1.0 };
        for _ in 0..25 {
            x += 3.0 * direction;
            y += 1.3 * direction;
            mouse("mouseMoved", x, y).await?;
            tokio::time::sleep(Duration::from_millis(7)).await;
        }
        browser.driver().execute("window.dragging = false", Vec::new()).await?;
        mouse("mouseReleased", x, y).await?;
        tokio::time::sleep(Duration::from_millis(120)).await;
    }
    report("frame interval while dragging, 200 items", &numbers(&browser, "return window.frames").await?);
    let edits = "return performance.getEntriesByType('resource').filter((entry) => entry.name.endsWith('/acts')).map((entry) => entry.responseEnd - entry.startTime)";
    report("the released edit, request to answer", &numbers(&browser, edits).await?);

    // Letters from the key to the screen, on a side of 200 items and on one as designs make them.
    let plain = served.post("/api/jobs", &wish);
    for (job, what) in
        [(job.as_str(), "200 items"), (plain["id"].as_str().unwrap_or_default(), "the items of a design")]
    {
        let letters = typing(&browser, &format!("{}/jobs/{job}/words", served.address)).await?;
        report(&format!("from the key to the painted letter, {what}"), &letters);
    }

    // Graphics by every prefix of everyday words.
    let mut found = Vec::new();
    for word in ["rake", "coffee cup", "flower", "bicycle", "camera", "star", "house plant", "shopping"] {
        for end in 1..=word.len() {
            let start = Instant::now();
            let address = format!("{}/api/graphics?q={}&from=0", served.address, word[..end].replace(' ', "%20"));
            let _: Value = ureq::get(address).call()?.body_mut().read_json()?;
            found.push(start.elapsed().as_secs_f64() * 1_000.0);
        }
    }
    found.remove(0);
    report("graphics found, over HTTP", &found);
    Ok(())
}

async fn typing(browser: &Browser, page: &str) -> WebDriverResult<Vec<f64>> {
    browser.driver().goto(page).await?;
    browser.find(".stage g[data-item] [aria-label^='Made']").await?;
    let (x, y) = browser.middle(".stage g[data-item] [aria-label^='Made']").await?;
    browser.driver().action_chain().move_to(x, y).double_click().perform().await?;
    browser.find("textarea.keys").await?;
    let watch = "window.typed = []; let pressed = 0; document.addEventListener('keydown', () => { pressed = performance.now() }, true);
        new MutationObserver(() => { const at = pressed; if (at) { pressed = 0; requestAnimationFrame(() => setTimeout(() => window.typed.push(performance.now() - at))) } }).observe(document.querySelector('.stage svg.sheet'), { subtree: true, childList: true, characterData: true, attributes: true, attributeFilter: ['d', 'aria-label'] })";
    browser.driver().execute(watch, Vec::new()).await?;
    for letter in "wheel thrown cups and bowls for every table".chars() {
        browser.driver().action_chain().send_keys(letter.to_string()).perform().await?;
        tokio::time::sleep(Duration::from_millis(110)).await;
    }
    numbers(browser, "return window.typed").await
}

async fn performance_clear(browser: &Browser) -> WebDriverResult<()> {
    browser
        .driver()
        .execute("performance.clearResourceTimings(); performance.setResourceTimingBufferSize(2000)", Vec::new())
        .await?;
    Ok(())
}
