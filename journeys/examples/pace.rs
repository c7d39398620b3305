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

    let fresh = served.post("/api/jobs", &wish);
    let page = format!("{}/jobs/{}/words", served.address, fresh["id"].as_str().unwrap_or_default());
    opening(&browser, &tools, &page).await?;
    contrast(&served.address)
}

/// From the address to the sheet on the stage, and from the press to what there is to choose from.
async fn opening(browser: &Browser, tools: &ChromeDevTools, page: &str) -> Result<(), Box<dyn std::error::Error>> {
    let watch = "window.opened = 0; const look = () => { if (document.querySelector('.stage g[data-item] path')) window.opened = performance.now(); else requestAnimationFrame(look) }; requestAnimationFrame(look)";
    tools.execute_cdp_with_params("Page.addScriptToEvaluateOnNewDocument", json!({ "source": watch })).await?;
    let mut opened = Vec::new();
    for _ in 0..12 {
        browser.driver().goto(page).await?;
        browser.until("the bench is open", "return window.opened > 0").await?;
        opened.push(browser.driver().execute("return window.opened", Vec::new()).await?.convert::<f64>()?);
    }
    report("the bench opens", &opened);
    let chosen = "const [css, shown, done] = arguments; const from = performance.now(); document.querySelector(css).click(); const look = () => document.querySelector(shown) ? done(performance.now() - from) : requestAnimationFrame(look); look()";
    for (what, button, shown) in [
        ("families to choose from", "button[aria-label^='Family']", ".chooser [data-family]"),
        ("blocks to choose from", "button.blocks", ".chooser li svg path"),
    ] {
        let mut times = Vec::new();
        for _ in 0..12 {
            browser.driver().goto(page).await?;
            browser.find(".stage g[data-item] [aria-label^='Made']").await?;
            let (x, y) = browser.middle(".stage g[data-item] [aria-label^='Made']").await?;
            browser.driver().action_chain().move_to(x, y).click().perform().await?;
            browser.find(".card .common").await?;
            browser.driver().execute("if (!document.querySelector('button.blocks')) document.querySelector('[data-fold=type] .heading').click()", Vec::new()).await?;
            browser.find("button.blocks").await?;
            tokio::time::sleep(Duration::from_millis(400)).await;
            let time = browser.driver().execute_async(chosen, vec![button.into(), shown.into()]).await?;
            times.push(time.convert::<f64>()?);
        }
        report(what, &times);
    }
    Ok(())
}

/// The contrast of words on a picture of 12 megapixels: after their colour changes, and after the picture moves behind them.
fn contrast(address: &str) -> Result<(), Box<dyn std::error::Error>> {
    let grain = image::RgbImage::from_fn(4_000, 3_000, |x, y| {
        let value = ((x / 7) ^ (y / 5)) as u8;
        image::Rgb([value, value.wrapping_mul(3), (x / 16) as u8])
    });
    let mut bytes = std::io::Cursor::new(Vec::new());
    grain.write_to(&mut bytes, image::ImageFormat::Jpeg)?;
    let picture: Value = ureq::post(format!("{address}/api/pictures?name=large.jpg"))
        .header(vatman_server::OWN_HEADER, "1")
        .send(bytes.get_ref().as_slice())?
        .body_mut()
        .read_json()?;
    let wish = json!({ "design": "whole-picture", "places": ["square-post"], "words": { "headline": "Made slow." } });
    let id = post(address, "/api/jobs", &wish)["id"].as_str().unwrap_or_default().to_owned();
    let ask = |path: &str| -> Result<Value, ureq::Error> {
        ureq::get(format!("{address}{path}")).call()?.body_mut().read_json()
    };
    let open = ask(&format!("/api/jobs/{id}"))?;
    let items = open["job"]["pieces"][0]["sides"][0]["items"].as_array().cloned().unwrap_or_default();
    let part = |part: &str| {
        let is = |item: &&Value| open["job"]["kins"][item["kin"].as_str().unwrap_or_default()]["part"] == part;
        items.iter().find(is).map(|item| item["id"].clone()).unwrap_or_default()
    };
    let (words, frame) = (part("headline"), part("mainPicture"));
    let mut base = open["revision"].as_i64().unwrap_or(1);
    let mut act = |act: Value| {
        let answer = post(address, &format!("/api/jobs/{id}/acts"), &json!({ "base": base, "act": act }));
        base = answer["revision"].as_i64().unwrap_or(base);
    };
    act(json!({ "act": "show", "item": frame, "picture": picture["id"] }));
    let reading = format!("/api/jobs/{id}/items/{}/reading", words.as_str().unwrap_or_default());
    let (mut coloured, mut moved) = (Vec::new(), Vec::new());
    for n in 0..40 {
        let tint = format!("#{:02x}{:02x}{:02x}", n * 6, 255 - n * 5, 128);
        act(
            json!({ "act": "setFill", "items": [words], "fill": { "kind": "flat", "tint": tint, "opacity": 1_000_000_000 } }),
        );
        let start = Instant::now();
        ask(&reading)?;
        coloured.push(start.elapsed().as_secs_f64() * 1_000.0);
        act(json!({ "act": "crop", "item": frame, "dx": 95_250, "dy": 0, "factor": 1.01 }));
        let start = Instant::now();
        ask(&reading)?;
        moved.push(start.elapsed().as_secs_f64() * 1_000.0);
    }
    report("contrast on 12 megapixels, another colour", &coloured);
    report("contrast on 12 megapixels, the picture moved", &moved);
    Ok(())
}

async fn typing(browser: &Browser, page: &str) -> WebDriverResult<Vec<f64>> {
    browser.driver().goto(page).await?;
    browser.find(".stage g[data-item] [aria-label^='Made']").await?;
    let (x, y) = browser.middle(".stage g[data-item] [aria-label^='Made']").await?;
    browser.double_press(x, y).await?;
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
