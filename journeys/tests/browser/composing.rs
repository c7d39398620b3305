//! What is drawn, tied, pointed at and taken from the sheet, by hand and by key.

use serde_json::{Value, json};
use thirtyfour::extensions::cdp::ChromeDevTools;
use thirtyfour::prelude::*;

use crate::TURN;
use crate::at_bench::{Bench, HEADLINE, PICTURE, PX};

#[tokio::test(flavor = "multi_thread")]
async fn ties_hold_stacks_space_themselves_and_rows_can_be_pointed_at() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    browser.click(".bar a[href$='/layout']").await?;
    bench.pick(PICTURE).await?;
    bench.choose("Tie it", "middleAcross").await?;
    bench.enter("Width", "300").await?;
    let centre = |rect: [f64; 4]| rect[0] + rect[2] / 2.0;
    assert!(
        (centre(bench.rect("mainPicture")) - 540.0).abs() < 0.1,
        "it stays in the middle: {:?}",
        bench.rect("mainPicture")
    );
    // Tied to words by pointing at them; then to them by their row, as the keyboard can.
    bench.choose("Tie it", "item-bottom").await?;
    let (x, y) = browser.middle(HEADLINE).await?;
    browser.hand().move_to(x, y).click().perform().await?;
    bench.settled().await?;
    let ties = bench.item("mainPicture")["ties"].clone();
    assert_eq!(
        (ties.as_array().unwrap().len(), ties[1]["of"]["item"].as_str()),
        (2, bench.item("headline")["id"].as_str())
    );
    bench.choose("Tie it", "wide").await?;
    browser
        .driver()
        .execute(
            "[...document.querySelectorAll('ol li .row')].find((row) => row.textContent.includes('Made slow')).click()",
            Vec::new(),
        )
        .await?;
    bench.settled().await?;
    assert_eq!(bench.item("mainPicture")["ties"][2]["tie"], "asLong");
    // A distance by number, and let go.
    bench.enter("Distance", "40").await?;
    assert!(
        bench.item("mainPicture")["ties"].as_array().unwrap().iter().any(|tie| tie["gap"] == 381_000),
        "{}",
        bench.item("mainPicture")["ties"]
    );
    browser.click("button[aria-label^='Let go']").await?;
    bench.settled().await?;
    assert_eq!(bench.item("mainPicture")["ties"].as_array().unwrap().len(), 2);

    // The same once more in the opposite corner, linked.
    bench.choose("Linked with it", "corner").await?;
    let (twin, first) = (
        bench.items().into_iter().find(|item| item["ties"][0]["tie"] == "opposite").unwrap(),
        bench.item("mainPicture"),
    );
    assert_eq!(twin["kin"], first["kin"]);

    // Contact lines come as a stack; a further one goes under it.
    browser.click(".bar a[href$='/words']").await?;
    bench.press("Contact lines").await?;
    browser.click(".contacts textarea").await?;
    browser
        .driver()
        .action_chain()
        .send_keys("hello@mossback.example")
        .send_keys(Key::Enter)
        .send_keys("+44 1632 960 018")
        .perform()
        .await?;
    bench.press("Add as a stack").await?;
    let stacks = || bench.kept()["job"]["pieces"][0]["sides"][0]["stacks"].as_array().unwrap().len();
    assert_eq!(stacks(), 3, "two rows and what holds them");
    let words = |text: &str| {
        let kept = bench.kept();
        let kins = &kept["job"]["kins"];
        let found = bench
            .items()
            .into_iter()
            .find(|item| kins[item["kin"].as_str().unwrap()]["content"]["text"][0]["text"] == text);
        found.map(|item| ["x", "y"].map(|side| item["place"]["at"]["rect"][side].as_f64().unwrap() / PX)).unwrap()
    };
    let apart = words("+44 1632 960 018")[1] - words("hello@mossback.example")[1];
    bench.enter("Gap of the stack", "60").await?;
    assert!(words("+44 1632 960 018")[1] - words("hello@mossback.example")[1] > apart, "the stack spaces itself anew");
    bench.press("Space freely again").await?;
    assert_eq!(stacks(), 2);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn lines_by_hand_call_outs_and_the_colour_of_one_pixel() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    let count = bench.items().len();
    // Two lines in one go become one group.
    browser.click(".bar a[href$='/layout']").await?;
    browser.click("button[aria-label='Draw by hand']").await?;
    bench.enter("Smoothing, 0 to 10", "5").await?;
    let (x, y) = browser.middle(".stage").await?;
    for down in [0, 40] {
        browser
            .drag(&[
                (x - 120, y + down),
                (x - 60, y + down + 20),
                (x, y + down),
                (x + 60, y + down + 20),
                (x + 120, y + down),
            ])
            .await?;
        browser
            .until(
                "the line is there",
                &format!(
                    "return document.querySelectorAll('.stage g[data-item]').length === {}",
                    count + 1 + usize::from(down > 0)
                ),
            )
            .await?;
    }
    bench.press("Done").await?;
    let drawn: Vec<Value> = bench.items().into_iter().skip(count).collect();
    assert!(
        drawn.len() == 2
            && drawn[0]["groups"] == drawn[1]["groups"]
            && drawn[0]["groups"].as_array().unwrap().len() == 1
    );
    let kept = bench.kept();
    let outline = &kept["job"]["kins"][drawn[0]["kin"].as_str().unwrap()]["content"]["outline"];
    assert_eq!((outline["kind"].as_str(), outline["hand"]["smoothing"].as_u64()), (Some("hand"), Some(5)));
    bench.keys(None, Key::Delete + "").await?;

    // A call-out, and what it says.
    let (x, y) = bench.pick(PICTURE).await?;
    bench.press("Call-out on a spot\u{2026}").await?;
    browser.hand().move_to(x, y).click().perform().await?;
    browser.find("textarea.keys").await?;
    browser.hand().send_keys("The lip").perform().await?;
    bench.keys(None, Key::Escape + "").await?;
    let kept = bench.kept();
    let said = bench
        .items()
        .into_iter()
        .any(|item| kept["job"]["kins"][item["kin"].as_str().unwrap()]["content"]["text"][0]["text"] == "The lip");
    assert!(
        said && bench.items().iter().any(|item| item["ties"][0]["tie"] == "spot")
            && bench.items().iter().any(|item| item["ties"][0]["tie"] == "between")
    );

    // The loupe takes exactly the pixel that is exported.
    bench.pick(HEADLINE).await?;
    browser.click("button[aria-label^='Colour:']").await?;
    bench.press("From the sheet, by the pixel").await?;
    browser.find(".layer figure canvas").await?;
    let (at_x, at_y) = (x + 31, y - 22);
    browser.hand().move_to(at_x, at_y).perform().await?;
    let shown = browser.text(".layer figcaption").await?;
    browser.hand().move_to(at_x, at_y).click().perform().await?;
    bench.settled().await?;
    let taken = bench.look("headline")["fill"]["tint"].as_str().unwrap().to_owned();
    assert_eq!(taken, shown);
    let script = "const box = document.querySelector('.stage').getBoundingClientRect(); const [x, y, scale] = document.querySelector('.stage svg > g').getAttribute('transform').match(/-?[0-9.]+/g).map(Number); return [(arguments[0] - box.left - x) / scale, (arguments[1] - box.top - y) / scale]";
    let at: (f64, f64) = browser.driver().execute(script, vec![at_x.into(), at_y.into()]).await?.convert()?;
    bench.undo().await?;
    let side = kept["job"]["pieces"][0]["sides"][0]["id"].as_str().unwrap();
    let png = ureq::get(format!("{}/api/jobs/{}/sides/{side}/picture?w=1080", bench.served.address, bench.job))
        .call()
        .unwrap()
        .body_mut()
        .read_to_vec()
        .unwrap();
    let pixel = image::load_from_memory(&png).unwrap().to_rgb8().get_pixel(at.0.floor() as u32, at.1.floor() as u32).0;
    assert_eq!(taken, format!("#{:02x}{:02x}{:02x}", pixel[0], pixel[1], pixel[2]));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn rows_are_named_and_reordered_and_what_is_removed_is_replaced() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    browser.click(".bar a[href$='/layout']").await?;
    // A name by F2.
    browser.driver().execute("const row = [...document.querySelectorAll('ol li .row')].find((row) => row.textContent.includes('Main picture')); row.click(); row.focus()", Vec::new()).await?;
    bench.keys(None, Key::F2 + "").await?;
    browser.find("input[aria-label='Name of the item']").await?;
    browser
        .driver()
        .action_chain()
        .key_down(Key::Control)
        .send_keys("a")
        .key_up(Key::Control)
        .send_keys("The pot")
        .send_keys(Key::Enter)
        .perform()
        .await?;
    bench.settled().await?;
    assert_eq!(bench.item("mainPicture")["name"], "The pot");

    // To the front and back by key, by list, and by dragging its row.
    let place = || bench.items().iter().position(|item| item["name"] == "The pot").unwrap();
    let (start, last) = (place(), bench.items().len() - 1);
    bench.keys(Some(Key::Shift), Key::PageUp + "").await?;
    assert_eq!(place(), last);
    bench.keys(None, Key::PageDown + "").await?;
    assert_eq!(place(), last - 1);
    bench.choose("Order", "bottom").await?;
    assert_eq!(place(), 0);
    let script = "const rows = [...document.querySelectorAll('ol li')]; const from = rows.find((row) => row.textContent.includes('The pot')); from.scrollIntoView({ block: 'nearest' }); const middle = (row) => { const box = row.getBoundingClientRect(); return [Math.round(box.x + 60), Math.round(box.y + box.height / 2)] }; return [middle(from), middle(rows[0])]";
    let (from, onto): ((i64, i64), (i64, i64)) = browser.driver().execute(script, Vec::new()).await?.convert()?;
    let steps = (0..=12).map(|n| (from.0, from.1 + (onto.1 - 12 - from.1) * n / 12));
    browser.drag(&steps.collect::<Vec<_>>()).await?;
    bench.settled().await?;
    assert_eq!(place(), last, "dropped above the first row it lies in front");
    for _ in 0..4 {
        bench.undo().await?;
    }
    assert_eq!(place(), start);

    // What is alike, and copies that go on in the same step.
    bench.pick(HEADLINE).await?;
    bench.choose("Select what is alike", "words").await?;
    browser.until("all words are selected", "return document.querySelectorAll('g.chosen').length >= 3").await?;
    bench.pick(PICTURE).await?;
    let before = bench.rect("mainPicture");
    bench.keys(Some(Key::Control), "d").await?;
    bench.keys(Some(Key::Shift), Key::Right + "").await?;
    bench.keys(Some(Key::Control), "d").await?;
    let left = |item: &Value| item["place"]["at"]["rect"]["x"].as_f64().unwrap() / PX;
    let copies: Vec<f64> = bench.items().iter().filter(|item| item["name"] == "The pot").map(left).collect();
    assert!(copies.len() == 3 && (copies[2] - copies[1] - (copies[1] - before[0])).abs() < 0.01, "{copies:?}");
    for _ in 0..3 {
        bench.undo().await?;
    }

    // Removed, and something else in its place.
    let box_before = bench.rect("mainPicture");
    bench.pick(PICTURE).await?;
    bench.keys(None, Key::Delete + "").await?;
    bench.press("Replace with\u{2026}").await?;
    browser.click(".pictures li:nth-child(3) button").await?;
    bench.settled().await?;
    let instead = bench.items()[start].clone();
    let rect = ["x", "y", "w", "h"].map(|side| instead["place"]["at"]["rect"][side].as_f64().unwrap() / PX);
    assert_eq!(rect, box_before, "the same box in the same layer");
    assert_eq!(bench.kept()["job"]["pieces"][0]["tray"].as_array().unwrap().len(), 1);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn numbers_from_any_corner_radii_colours_and_palettes() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    browser.click(".bar a[href$='/layout']").await?;
    browser.click("button[aria-label='Add: Rectangle']").await?;
    bench.settled().await?;
    let shape = || bench.items().last().unwrap().clone();
    let rect = || ["x", "y", "w", "h"].map(|side| shape()["place"]["at"]["rect"][side].as_f64().unwrap() / PX);
    // Measured at its lower right corner, that corner stays when it grows.
    browser.click(".points label:has(input[value='22'])").await?;
    let before = rect();
    bench.enter("Width", "200").await?;
    let after = rect();
    assert!(
        (after[0] + after[2] - before[0] - before[2]).abs() < 0.01 && (after[2] - 200.0).abs() < 0.01,
        "{before:?} to {after:?}"
    );
    bench.enter("From the left", "900").await?;
    assert!((rect()[0] + rect()[2] - 900.0).abs() < 0.01);
    browser.click(".points label:has(input[value='00'])").await?;
    // Corners of their own.
    bench.press("Each its own").await?;
    bench.enter("Upper right corner", "30").await?;
    bench.enter("Lower left corner", "twenty").await?;
    let outline = || bench.kept()["job"]["kins"][shape()["kin"].as_str().unwrap()]["content"]["outline"].clone();
    assert_eq!(outline()["radii"], json!([0, 285_750, 0, 0]));
    // The colour of the words, and linked with it.
    bench.press("Same as\u{2026}").await?;
    let (x, y) = browser.middle(HEADLINE).await?;
    browser.hand().move_to(x, y).click().perform().await?;
    bench.settled().await?;
    let fill = || bench.kept()["job"]["kins"][shape()["kin"].as_str().unwrap()]["look"]["fill"]["tint"].clone();
    assert_eq!(fill(), bench.look("headline")["fill"]["tint"]);
    // Copies in a step.
    let count = bench.items().len();
    bench.enter("Step to the right", "0").await?;
    bench.enter("Step down", "50").await?;
    bench.enter("How many copies", "a dozen").await?;
    browser.until("the reason is told in the field", "return [...document.querySelectorAll('.times .wrong')].some((line) => line.textContent.includes('whole number from 1 to 200'))").await?;
    bench.enter("How many copies", "4").await?;
    bench.press("Make copies").await?;
    assert_eq!(bench.items().len(), count + 4);
    // Colours read from any picture become shared ones; a palette changes the roles.
    browser.click(".bar a[href$='/look']").await?;
    let swatches = || bench.kept()["job"]["swatches"].as_object().unwrap().len();
    let had = swatches();
    browser.click("button[data-menu='Read colours from a picture']").await?;
    browser.until("pictures are offered", "const found = [...document.querySelectorAll('.el-dropdown-menu__item')].filter((one) => one.checkVisibility()); found[2]?.click(); return !!found[2]").await?;
    browser.click(".drops button:nth-child(2)").await?;
    bench.settled().await?;
    assert_eq!(swatches(), had + 1);
    bench.undo().await?;
    browser.click("button[aria-label='Palette Kiln night']").await?;
    bench.settled().await?;
    assert_eq!(bench.kept()["job"]["swatches"]["ground"]["color"], "#1c1a22");
    bench.undo().await?;
    assert_ne!(bench.kept()["job"]["swatches"]["ground"]["color"], "#1c1a22");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn fingers_drag_pinch_and_pan() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    browser.alter();
    let tools = ChromeDevTools::new(browser.driver().handle.clone());
    tools
        .execute_cdp_with_params("Emulation.setTouchEmulationEnabled", json!({ "enabled": true, "maxTouchPoints": 2 }))
        .await?;
    let touch = async |kind: &str, points: &[(i64, i64)]| {
        let points: Vec<Value> =
            points.iter().enumerate().map(|(id, (x, y))| json!({ "x": x, "y": y, "id": id })).collect();
        tools.execute_cdp_with_params("Input.dispatchTouchEvent", json!({ "type": kind, "touchPoints": points })).await
    };
    let (x, y) = browser.middle(PICTURE).await?;
    // One finger takes hold of an item and moves it.
    let before = bench.rect("mainPicture");
    touch("touchStart", &[(x, y)]).await?;
    for step in 1..=6 {
        touch("touchMove", &[(x + step * 9, y + step * 4)]).await?;
    }
    touch("touchEnd", &[]).await?;
    bench.settled().await?;
    let after = bench.rect("mainPicture");
    assert!(after[0] > before[0] + 20.0, "{before:?} to {after:?}");
    // Two fingers zoom and pan, and move nothing.
    let scale = bench.scale().await?;
    touch("touchStart", &[(x - 40, y)]).await?;
    touch("touchStart", &[(x - 40, y), (x + 40, y)]).await?;
    for step in 1..=6 {
        touch("touchMove", &[(x - 40 - step * 6, y), (x + 40 + step * 6, y)]).await?;
    }
    touch("touchEnd", &[]).await?;
    bench.settled().await?;
    assert!(bench.scale().await? > scale * 1.5, "{scale} to {}", bench.scale().await?);
    assert_eq!(bench.rect("mainPicture"), after);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_font_of_ones_own_is_brought_and_words_are_divided() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    bench.pick(HEADLINE).await?;
    browser.click("button[aria-label^='Family']").await?;
    browser.find("[data-family]").await?;
    // What goes with the family there is comes first; a search narrows it to what is called so.
    let near: usize = browser.driver().find_all(By::Css("[data-near]")).await?.len();
    assert!(near >= 2, "{near} families go with it");
    let font = std::path::Path::new(env!("CARGO_MANIFEST_DIR"))
        .join("../assets/fonts/rye/Rye_400Regular.ttf")
        .canonicalize()
        .unwrap();
    browser.find("input[aria-label='Bring font files']").await?.send_keys(font.to_string_lossy()).await?;
    browser
        .until(
            "it is set in the new family",
            "return document.querySelector(\"button[aria-label^='Family']\").textContent.includes('Rye (own)')",
        )
        .await?;
    bench.settled().await?;
    assert_eq!(bench.look("headline")["type"]["family"], "Rye (own)");
    // What is no font is refused, and the words stay as they are.
    browser.forgive("/api/families");
    let no_font = bench.data.path().join("notes.ttf");
    std::fs::write(&no_font, "not a font").unwrap();
    browser.find("input[aria-label='Bring font files']").await?.send_keys(no_font.to_string_lossy()).await?;
    browser.until("it is told", "return [...document.querySelectorAll('.notices.el-message--error')].some((notice) => notice.textContent.includes('not a font file'))").await?;
    assert_eq!(bench.look("headline")["type"]["family"], "Rye (own)");
    browser.click("button[aria-label^='Family']").await?;
    bench.choose("Line ends", "german").await?;
    assert_eq!(bench.look("headline")["type"]["hyphens"], "german");
    bench.choose("Line ends", "none").await?;
    assert!(bench.look("headline")["type"]["hyphens"].is_null());
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn cells_move_their_edges_together_and_letters_become_a_frame() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    browser.click(".bar a[href$='/pictures']").await?;
    bench.press("Arrange several").await?;
    for n in 1..=2 {
        browser.click(&format!(".pictures li:nth-child({n}) button")).await?;
    }
    browser.click(".arrange li:nth-child(1) button").await?;
    bench.settled().await?;
    let cells = || {
        let items = bench.items();
        let rect =
            |item: &Value| ["x", "y", "w", "h"].map(|side| item["place"]["at"]["rect"][side].as_f64().unwrap() / PX);
        let kins = bench.kept()["job"]["kins"].clone();
        let is_cell = |item: &&Value| {
            item["groups"].as_array().is_some_and(|groups| !groups.is_empty())
                && kins[item["kin"].as_str().unwrap()]["content"]["kind"] == "picture"
        };
        items
            .iter()
            .filter(is_cell)
            .map(|item| (item["id"].as_str().unwrap().to_owned(), rect(item)))
            .collect::<Vec<_>>()
    };
    let before = cells();
    // One of the two is entered and its edge towards the other dragged: the gap between them stays.
    let across = (before[0].1[1] - before[1].1[1]).abs() < 1.0;
    // Words lie over the pictures: the upper edge of the cell is free of them. Of a cell only its box is known, not what is clipped off.
    let script = "const box = document.querySelector('.stage').getBoundingClientRect(); const [x, y, scale] = document.querySelector('.stage svg > g').getAttribute('transform').match(/-?[0-9.]+/g).map(Number); return [box.left + x + arguments[0] * scale, box.top + y + arguments[1] * scale]";
    let cell = before[0].1;
    let at: (f64, f64) = browser
        .driver()
        .execute(script, vec![(cell[0] + cell[2] / 2.0).into(), (cell[1] + 14.0 / bench.scale().await?).into()])
        .await?
        .convert()?;
    let (x, y) = (at.0.round() as i64, at.1.round() as i64);
    browser.double_press(x, y).await?;
    // The same double press reaches the picture in the cell; Escape leads back to the cell.
    browser.find(".hint").await?;
    browser.hand().send_keys(Key::Escape).perform().await?;
    browser
        .until(
            "one cell is chosen",
            "return document.querySelectorAll('g.chosen').length === 1 && !!document.querySelector('[data-grip]')",
        )
        .await?;
    let (gx, gy) = browser.middle(if across { "[data-grip='1,0']" } else { "[data-grip='0,1']" }).await?;
    let (dx, dy) = if across { (-40, 0) } else { (0, -40) };
    browser.drag(&[(gx, gy), (gx + dx / 2, gy + dy / 2), (gx + dx, gy + dy)]).await?;
    bench.settled().await?;
    let after = cells();
    let (start, length) = if across { (0, 2) } else { (1, 3) };
    let gap = |cells: &[(String, [f64; 4])]| cells[1].1[start] - cells[0].1[start] - cells[0].1[length];
    assert!((gap(&after) - gap(&before)).abs() < 0.1, "{before:?} to {after:?}");
    assert!(
        after[0].1[length] < before[0].1[length] - 10.0 && after[1].1[length] > before[1].1[length] + 10.0,
        "{before:?} to {after:?}"
    );
    bench.undo().await?;
    bench.undo().await?;

    // The letters of the headline become the frame of the picture.
    bench.keys(None, Key::Escape + "").await?;
    bench.pick(PICTURE).await?;
    bench.press("Frame from an item\u{2026}").await?;
    let (x, y) = browser.middle(HEADLINE).await?;
    browser.hand().move_to(x, y).click().perform().await?;
    bench.settled().await?;
    let kept = bench.kept();
    let frame = &kept["job"]["kins"][bench.item("mainPicture")["kin"].as_str().unwrap()]["content"]["frame"];
    assert_eq!(frame["kind"], "path");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_should_be_looked_at_is_told_before_it_leaves() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    browser.driver().goto(format!("{}/jobs/{}/hand-over", bench.served.address, bench.job)).await?;
    browser.find(".files > ul li").await?;
    assert!(browser.driver().find_all(By::Css(".look li")).await?.is_empty(), "a design has nothing to look at");
    bench.step("pictures").await?;
    bench.press("Empty frame").await?;
    browser.driver().goto(format!("{}/jobs/{}/hand-over", bench.served.address, bench.job)).await?;
    browser
        .until(
            "the empty frame is told",
            "return [...document.querySelectorAll('.look li')].some((line) => line.textContent.includes('empty'))",
        )
        .await?;
    browser.click(".look li button").await?;
    browser
        .until(
            "it is shown on the bench",
            "return location.pathname.endsWith('/pictures') && document.querySelectorAll('g.chosen').length === 1",
        )
        .await?;
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn the_loupe_goes_by_key_and_a_sheet_is_seen_as_large_as_it_is_printed() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("flyer-a5", "doorway").await?;
    let browser = &bench.browser;
    bench.pick(HEADLINE).await?;
    browser.click("button[aria-label^='Colour:']").await?;
    bench.press("From the sheet, by the pixel").await?;
    browser.find(".layer figure canvas").await?;
    let shown = async || browser.text(".layer figcaption").await;
    browser
        .until(
            "it stands in the middle",
            "return document.querySelector('.layer figcaption').textContent.startsWith('#')",
        )
        .await?;
    let before = bench.look("headline")["fill"].clone();
    browser
        .driver()
        .action_chain()
        .key_down(Key::Shift)
        .send_keys(Key::Up + "")
        .send_keys(Key::Up + "")
        .key_up(Key::Shift)
        .perform()
        .await?;
    let colour = shown().await?;
    browser.hand().send_keys(Key::Enter).perform().await?;
    bench.settled().await?;
    assert_eq!(bench.look("headline")["fill"]["tint"], colour.as_str());
    bench.undo().await?;
    assert_eq!(bench.look("headline")["fill"], before);
    // Escape takes nothing.
    browser.click("button[aria-label^='Colour:']").await?;
    bench.press("From the sheet, by the pixel").await?;
    browser.find(".layer figure canvas").await?;
    browser.hand().send_keys(Key::Escape).perform().await?;
    browser.until("the loupe is away", "return !document.querySelector('.layer figure')").await?;
    assert_eq!(bench.look("headline")["fill"], before);

    // On a display measured at 400 px to 100 mm, a sheet 148 mm wide is 592 px wide.
    browser.driver().execute("localStorage.setItem('vatman-display', '400')", Vec::new()).await?;
    bench.step("layout").await?;
    browser.click("button[aria-label='As large as it is printed']").await?;
    bench.press("Show as large as it is printed").await?;
    browser
        .until(
            "it is as large",
            "return Math.abs(document.querySelector('.stage svg > g > rect').getBoundingClientRect().width - 592) < 2",
        )
        .await?;
    Ok(())
}
