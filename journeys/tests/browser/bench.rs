//! The hands: everything that is done to items on the stage, by pointer, key and number, and what is kept of it.

use thirtyfour::prelude::*;

use crate::TURN;
use crate::at_bench::{Bench, HEADLINE, PICTURE, PX};

#[tokio::test(flavor = "multi_thread")]
async fn handles_resize_and_turn_about_what_stays() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "half-and-half").await?;
    let browser = &bench.browser;
    let scale = bench.scale().await?;
    bench.pick(PICTURE).await?;
    let before = bench.rect("mainPicture");
    assert!(browser.driver().find_all(By::Css(".grip")).await?.len() == 8, "eight handles");

    for (grip, dx, dy) in [("1,0", 30, 0), ("0,-1", 0, 24), ("-1,0", 20, 0), ("0,1", 0, -22)] {
        let (x, y) = browser.middle(&format!("[data-grip='{grip}']")).await?;
        // Held free, so that the amounts are exact.
        let chain = browser
            .driver()
            .action_chain()
            .move_to(x, y)
            .key_down(Key::Alt)
            .click_and_hold()
            .move_to(x + dx / 2, y + dy / 2)
            .move_to(x + dx, y + dy)
            .release()
            .key_up(Key::Alt);
        chain.perform().await?;
        bench.settled().await?;
        let after = bench.rect("mainPicture");
        let near = |a: f64, b: f64| (a - b).abs() < 1.5 / scale;
        let (sx, sy) = (dx as f64 / scale, dy as f64 / scale);
        let want = match grip {
            "1,0" => [before[0], before[1], before[2] + sx, before[3]],
            "-1,0" => [before[0] + sx, before[1], before[2] - sx, before[3]],
            "0,1" => [before[0], before[1], before[2], before[3] + sy],
            _ => [before[0], before[1] + sy, before[2], before[3] - sy],
        };
        assert!(after.iter().zip(want).all(|(a, b)| near(*a, b)), "{grip}: {before:?} to {after:?}, not {want:?}");
        bench.undo().await?;
        assert_eq!(bench.rect("mainPicture"), before);
    }

    // Corners keep the proportion; Shift frees it.
    let (x, y) = browser.middle("[data-grip='-1,-1']").await?;
    browser.drag(&[(x, y), (x + 30, y + 5), (x + 60, y + 10)]).await?;
    bench.settled().await?;
    let kept = bench.rect("mainPicture");
    assert!((kept[2] / kept[3] - before[2] / before[3]).abs() < 0.01 && kept[2] < before[2], "{before:?} to {kept:?}");
    assert!((kept[0] + kept[2] - before[0] - before[2]).abs() < 0.1, "the opposite corner stays");
    bench.undo().await?;
    let (x, y) = browser.middle("[data-grip='-1,-1']").await?;
    let chain = browser
        .driver()
        .action_chain()
        .key_down(Key::Shift)
        .key_down(Key::Alt)
        .move_to(x, y)
        .click_and_hold()
        .move_to(x + 30, y + 5)
        .move_to(x + 60, y + 10)
        .release()
        .key_up(Key::Alt)
        .key_up(Key::Shift);
    chain.perform().await?;
    bench.settled().await?;
    let freed = bench.rect("mainPicture");
    assert!((freed[2] / freed[3] - before[2] / before[3]).abs() > 0.02, "{before:?} to {freed:?}");
    bench.undo().await?;

    // Turned by its handle about its middle, and by number.
    let (x, y) = browser.middle("[data-turn]").await?;
    let (cx, cy) = browser.middle(".pin").await?;
    browser.drag(&[(x, y), (cx - 100, cy + 60), (cx - (y - cy), cy)]).await?;
    bench.settled().await?;
    let item = bench.item("mainPicture");
    assert_eq!(item["place"]["at"]["turn"], 90_000_000, "a quarter, caught exactly");
    assert_eq!(bench.rect("mainPicture"), before, "the middle stays");
    bench.enter("Turn in degrees", "-12.5").await?;
    assert_eq!(bench.item("mainPicture")["place"]["at"]["turn"], -12_500_000);
    bench.enter("Turn in degrees", "a lot").await?;
    assert_eq!(bench.item("mainPicture")["place"]["at"]["turn"], -12_500_000, "what makes no sense changes nothing");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn keys_move_copy_remove_and_bring_back() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    bench.pick(PICTURE).await?;
    let start = bench.rect("mainPicture");
    bench.keys(None, Key::Right + Key::Right).await?;
    bench.keys(Some(Key::Shift), Key::Down + "").await?;
    let nudged = bench.rect("mainPicture");
    assert_eq!((nudged[0] - start[0], nudged[1] - start[1]), (2.0, 10.0));

    let count = |bench: &Bench| bench.kept()["job"]["pieces"][0]["sides"][0]["items"].as_array().unwrap().len();
    let items = count(&bench);
    bench.keys(Some(Key::Control), "d").await?;
    assert_eq!(count(&bench), items + 1);
    bench.keys(None, Key::Delete + "").await?;
    assert_eq!(count(&bench), items);
    bench.keys(Some(Key::Control), "z").await?;
    bench.keys(Some(Key::Control), "z").await?;
    bench.keys(Some(Key::Control), "z").await?;
    assert_eq!((count(&bench), bench.rect("mainPicture")), (items, start), "strokes in quick succession are one step");
    bench.keys(Some(Key::Control), "y").await?;
    assert_eq!(bench.rect("mainPicture"), nudged);

    // A text box scales its type by a corner and re-breaks by a side.
    let type_size = |bench: &Bench| bench.item("headline")["place"]["scale"].as_f64().unwrap();
    bench.pick(HEADLINE).await?;
    let before = type_size(&bench);
    let (x, y) = browser.middle("[data-grip='1,1']").await?;
    browser.drag(&[(x, y), (x - 20, y - 5), (x - 60, y - 14)]).await?;
    bench.settled().await?;
    assert!(type_size(&bench) < before * 0.95);
    bench.undo().await?;
    let (x, y) = browser.middle("[data-grip='1,0']").await?;
    browser.drag(&[(x, y), (x - 40, y), (x - 120, y)]).await?;
    bench.settled().await?;
    assert_eq!(type_size(&bench), before);

    // View: zoomed about the middle, panned, fitted; nothing of it is an edit.
    let revision = bench.kept()["revision"].clone();
    let fitted = bench.scale().await?;
    browser.click("button[aria-label=Larger]").await?;
    assert!(bench.scale().await? > fitted * 1.2);
    browser.hand().send_keys("1").perform().await?;
    assert_eq!(bench.scale().await?, 1.0);
    browser.click("button[aria-label='Fit the sheet']").await?;
    assert_eq!(bench.scale().await?, fitted);
    bench.choose("Show", "outside").await?;
    browser.find("[data-value=outside] .tick.off").await?;
    browser.hand().send_keys(Key::Escape).perform().await?;
    assert_eq!(bench.kept()["revision"], revision);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn things_fall_into_place_and_line_up() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "half-and-half").await?;
    let browser = &bench.browser;
    bench.step("layout").await?;
    browser.click("button[aria-label='Add: Ellipse']").await?;
    bench.settled().await?;
    // Pushed a little off the middle, it falls back into it; the reason is shown while it is held.
    let (cx, cy) = browser.middle(".sheet > g > rect").await?;
    let (x, y) = browser.middle(".pin").await?;
    browser.drag(&[(x, y), (cx + 60, cy + 50), (cx + 90, cy + 83)]).await?;
    bench.settled().await?;
    let aside = bench.rect("ornament");
    let (x, y) = browser.middle(".pin").await?;
    browser.hand().move_to(x, y).click_and_hold().move_to(x - 50, y - 50).perform().await?;
    browser.drawn().await?;
    browser.hand().move_to(cx + 1, cy + 1).perform().await?;
    let reasons = browser.text(".snap").await?;
    assert!(reasons.contains("middle of the sheet"), "{reasons}");
    browser.hand().release().perform().await?;
    bench.settled().await?;
    let centred = bench.rect("ornament");
    assert_ne!(aside, centred);
    assert!(
        (centred[0] + centred[2] / 2.0 - 540.0).abs() < 0.01 && (centred[1] + centred[3] / 2.0 - 540.0).abs() < 0.01,
        "{centred:?}"
    );

    // By button: to the sheet, to each other, even gaps of an exact amount.
    browser.click("button[aria-label='Align: Left edges']").await?;
    bench.settled().await?;
    assert_eq!(bench.rect("ornament")[0], 0.0);
    let rows = browser.driver().find_all(By::Css(".row")).await?.len();
    assert!(rows >= 5);
    browser.driver().execute("for (const row of [...document.querySelectorAll('li .row')].slice(0, 3)) row.dispatchEvent(new MouseEvent('click', { bubbles: true, shiftKey: true }))", Vec::new()).await?;
    browser.find("input[aria-label='Exact gap']").await?.send_keys("10 px").await?;
    bench.choose("Space evenly", "down").await?;
    bench.settled().await?;
    assert!(bench.kept()["canUndo"].as_bool().unwrap());
    browser.find("input[aria-label='Exact gap']").await?.send_keys(" and a bit").await?;
    let revision = bench.kept()["revision"].clone();
    bench.choose("Space evenly", "down").await?;
    browser
        .until("it is told", "return document.querySelector('.notices')?.textContent.includes('Nothing was moved')")
        .await?;
    assert_eq!(bench.kept()["revision"], revision);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn colour_type_and_numbers_are_set_on_the_card() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("flyer-a5", "doorway").await?;
    let browser = &bench.browser;
    bench.pick(HEADLINE).await?;

    browser.click("button[aria-label^='Family']").await?;
    browser.find("input[aria-label='Find a family by name or mood']").await?.send_keys("hand").await?;
    browser.click("[data-family='Caveat']").await?;
    bench.settled().await?;
    assert_eq!(bench.look("headline")["type"]["family"], "Caveat");
    browser.click("button[aria-label='At the right']").await?;
    bench.settled().await?;
    assert_eq!(bench.look("headline")["type"]["align"], "end");

    // Size in points; the box grows with it, and nonsense is refused with the last good value kept.
    bench.enter("Size of type", "0.5in + 4").await?;
    let size = bench.item("headline")["place"]["scale"].as_f64().unwrap() / 1e9
        * bench.look("headline")["type"]["size"].as_f64().unwrap();
    assert!((size / 12_700.0 - 40.0).abs() < 0.01, "{} pt", size / 12_700.0);
    bench.enter("Size of type", "large").await?;
    let refused = browser.text(".measure .wrong").await?;
    assert!(refused.contains("last good value stays"), "{refused}");
    assert_eq!(
        bench.item("headline")["place"]["scale"].as_f64().unwrap() / 1e9
            * bench.look("headline")["type"]["size"].as_f64().unwrap(),
        size
    );

    // Place by sums and percentages of the sheet.
    bench.enter("From the left", "10mm + 5%").await?;
    assert!((bench.rect("headline")[0] * PX / 36_000.0 - 17.4).abs() < 0.001);

    // A shared colour, then one of its own.
    browser.click("button[aria-label^='Colour:']").await?;
    browser.click(".choose button[aria-label=Accent]").await?;
    bench.settled().await?;
    assert_eq!(bench.look("headline")["fill"]["tint"], "@accent");
    browser.click("button[aria-label^='Colour:']").await?;
    bench.enter("Colour code", "#2B4A8B").await?;
    assert_eq!(bench.look("headline")["fill"]["tint"], "#2b4a8b");
    bench.enter("Colour code", "bluish").await?;
    browser.find(".choose .wrong").await?;
    assert_eq!(bench.look("headline")["fill"]["tint"], "#2b4a8b");

    // Released, it changes alone.
    bench.step("words").await?;
    bench.pick(HEADLINE).await?;
    bench.choose("Sharing", "all").await?;
    browser.click("button[aria-label='Capitals, typed text kept']").await?;
    bench.settled().await?;
    assert_eq!(bench.look("headline")["type"]["caps"], false, "the shared look is as it was");
    assert_eq!(bench.item("headline")["release"]["look"]["type"]["caps"], true);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn unreadable_words_are_told_and_mended_and_sides_added() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("card", "doorway").await?;
    let browser = &bench.browser;
    bench.pick(HEADLINE).await?;
    browser
        .until(
            "the contrast is shown",
            "return document.querySelector('.contrast.good')?.textContent.includes('reads well')",
        )
        .await?;
    browser.click("button[aria-label^='Colour:']").await?;
    bench.enter("Colour code", "hsl(40 30% 88%)").await?;
    browser.hand().send_keys(Key::Escape).perform().await?;
    browser
        .until(
            "poor contrast is told",
            "return document.querySelector('.contrast.poor')?.textContent.includes('hard to read')",
        )
        .await?;
    browser.click(".repairs .act").await?;
    browser.until("and mended", "return !!document.querySelector('.contrast.good')").await?;

    let sides = |bench: &Bench| bench.kept()["job"]["pieces"][0]["sides"].as_array().unwrap().len();
    bench.choose("Sides and piece", "copy").await?;
    browser.until("the copy is on the stage", "return document.querySelectorAll('.rail .sheet').length === 3 && document.querySelector(\".rail [aria-label='Card, Front copy']\")?.getAttribute('aria-current') === 'true'").await?;
    assert_eq!(sides(&bench), 2);
    bench.choose("Sides and piece", "removeSide").await?;
    browser.until("the side is gone", "return document.querySelectorAll('.rail .sheet').length === 2").await?;
    bench.settled().await?;
    assert_eq!(sides(&bench), 1);

    // Every shape of the shelf arrives, is selected and can be seen.
    bench.step("layout").await?;
    let buttons = browser.driver().find_all(By::Css(".shapes button[aria-label^='Add:']")).await?;
    assert!(buttons.len() >= 14);
    for button in buttons {
        button.click().await?;
        bench.settled().await?;
        browser.until("the shape is selected and drawn", "const box = document.querySelector('.chosen .over')?.getBoundingClientRect(); return !!box && box.width > 20").await?;
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn colours_are_offered_in_one_order_and_replaced_everywhere() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    bench.step("look").await?;
    bench.pick(HEADLINE).await?;
    browser.click("button[aria-label^='Colour:']").await?;
    browser
        .until("colours of the pictures are offered", "return document.querySelectorAll('.choose .group').length >= 3")
        .await?;
    let names: Vec<String> = browser
        .driver()
        .execute(
            "return [...document.querySelectorAll('.choose .group h3')].map((name) => name.textContent)",
            Vec::new(),
        )
        .await?
        .convert()?;
    let order =
        ["Used on this side", "Colours of this job", "From the pictures here", "Suggested", "Darker and lighter"];
    let places: Vec<_> = names
        .iter()
        .map(|name| order.iter().position(|known| known == name).unwrap_or_else(|| panic!("{name} is new")))
        .collect();
    assert!(places.is_sorted(), "{names:?}");
    let picked: String = browser
        .driver()
        .execute("const group = [...document.querySelectorAll('.choose .group')].find((entry) => entry.textContent.includes('From the pictures')); const button = group.querySelector('button'); button.click(); return button.getAttribute('aria-label')", Vec::new())
        .await?
        .convert()?;
    bench.settled().await?;
    assert_eq!(bench.look("headline")["fill"]["tint"], picked.as_str());

    // Now it is used here and no shared colour: it can be replaced wherever it stands.
    let chip = format!(".single button[aria-label$='{picked}']");
    browser.click(&chip).await?;
    browser.click(".choose button[aria-label=Accent]").await?;
    bench.settled().await?;
    assert_eq!(bench.look("headline")["fill"]["tint"], "@accent");
    assert!(!bench.kept().to_string().contains(&picked));
    bench.undo().await?;
    assert_eq!(bench.look("headline")["fill"]["tint"], picked.as_str());
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn the_panels_change_the_same_job() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("card", "doorway").await?;
    let browser = &bench.browser;

    // Words: both pieces follow.
    let field = browser.find("textarea[data-words]").await?;
    field.click().await?;
    field.send_keys(" Used daily.").await?;
    bench.settled().await?;
    assert!(bench.kept()["job"]["kins"].to_string().contains("Used daily."));
    bench.choose("Add a text", "detail").await?;
    browser.find("textarea.keys").await?;
    browser.hand().send_keys("Kiln fresh").send_keys(Key::Escape).perform().await?;
    bench.settled().await?;
    assert!(bench.kept()["job"]["kins"].to_string().contains("Kiln fresh"));

    // Layout: order, lock and hide.
    bench.step("layout").await?;
    let order = |bench: &Bench| {
        bench.kept()["job"]["pieces"][0]["sides"][0]["items"]
            .as_array()
            .unwrap()
            .iter()
            .map(|item| item["id"].clone())
            .collect::<Vec<_>>()
    };
    let before = order(&bench);
    browser.click("li .row").await?;
    browser.click("li.chosen button[aria-label^='Back:']").await?;
    bench.settled().await?;
    let mut want = before.clone();
    let last = want.len() - 1;
    want.swap(last, last - 1);
    assert_eq!(order(&bench), want);
    browser.click("li.chosen button[aria-label^='Hide:']").await?;
    bench.settled().await?;
    browser.click("li.chosen button[aria-label^='Lock:']").await?;
    bench.settled().await?;
    let kept = bench.kept();
    let item = &kept["job"]["pieces"][0]["sides"][0]["items"][last - 1];
    assert_eq!((item["hidden"].as_bool(), item["locked"].as_bool()), (Some(true), Some(true)));

    // Look: a shared colour changed once is changed everywhere; the ground can be clear.
    bench.step("look").await?;
    browser.click("button[aria-label^='Ground:']").await?;
    browser.click(".choose .none").await?;
    bench.settled().await?;
    assert!(bench.kept()["job"]["pieces"][0]["sides"][0]["ground"].is_null());
    bench.enter("Name of Accent", "Iron red").await?;
    assert_eq!(bench.kept()["job"]["swatches"]["accent"]["name"], "Iron red");

    // The job is renamed in the bar.
    browser.click(".bar .title").await?;
    bench.enter("Name of the job", "Cards for spring").await?;
    assert_eq!(bench.kept()["job"]["title"], "Cards for spring");

    // Put away on the board, and brought back.
    browser.driver().goto(&bench.served.address).await?;
    browser.click("button[aria-label='Put “Cards for spring” away']").await?;
    browser.click(".notices .do").await?;
    browser.find("button[aria-label='Put “Cards for spring” away']").await?;
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn pictures_are_pasted_dropped_and_moved_in_their_frame() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    bench.step("pictures").await?;
    let shown = |bench: &Bench| {
        let kept = bench.kept();
        kept["job"]["kins"].as_object().unwrap().values().find(|kin| kin["part"] == "mainPicture").unwrap()["content"]["picture"].clone()
    };
    let make = "
        const canvas = new OffscreenCanvas(300, 200); const paint = canvas.getContext('2d'); paint.fillStyle = arguments[0]; paint.fillRect(0, 0, 300, 200);
        const done = arguments[arguments.length - 1];
        canvas.convertToBlob({ type: 'image/png' }).then((blob) => {
            const data = new DataTransfer(); data.items.add(new File([blob], 'made.png', { type: 'image/png' }));
            const stage = document.querySelector('.stage'); const box = document.querySelector('.stage image').getBoundingClientRect();
            const at = { clientX: box.x + box.width / 2, clientY: box.y + box.height / 2 };
            if (arguments[1] === 'paste') window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
            else stage.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true, ...at }));
            setTimeout(done, 900);
        });";
    // Dropped on a frame, it fills that frame.
    let first = shown(&bench);
    browser.driver().execute_async(make, vec!["#9db8a4".into(), "drop".into()]).await?;
    bench.settled().await?;
    let dropped = shown(&bench);
    assert_ne!(first, dropped);
    // Pasted, it stands on its own, whatever is selected.
    let items = |bench: &Bench| bench.kept()["job"]["pieces"][0]["sides"][0]["items"].as_array().unwrap().len();
    let before = items(&bench);
    browser.driver().execute_async(make, vec!["#8c5a3c".into(), "paste".into()]).await?;
    bench.settled().await?;
    assert_eq!((items(&bench), shown(&bench)), (before + 1, dropped.clone()));
    bench.keys(None, Key::Delete + "").await?;

    // Chosen from the shelf one after the other, each is an item of its own.
    for more in 1..=2 {
        browser.click("[data-picture]:last-child").await?;
        bench.settled().await?;
        assert_eq!((items(&bench), shown(&bench)), (before + more, dropped.clone()));
    }
    bench.undo().await?;
    bench.undo().await?;
    // In the place of the selected one where that is asked for, then moved and scaled inside it.
    bench.pick(PICTURE).await?;
    browser.click(".swap .el-switch").await?;
    browser.click("[data-picture]:last-child").await?;
    bench.settled().await?;
    assert_eq!(items(&bench), before);
    assert_ne!(shown(&bench), dropped);
    browser.pictures_arrive().await?;
    let (x, y) = browser.middle(PICTURE).await?;
    browser.double_press(x, y).await?;
    browser.find(".hint").await?;
    browser.click("button[aria-label='Scale the picture up in its frame']").await?;
    bench.settled().await?;
    let zoomed = bench.item("mainPicture")["place"]["crop"].clone();
    assert!((zoomed["zoom"].as_f64().unwrap() / 1e9 - 1.1).abs() < 0.01, "{zoomed}");
    let frame = bench.rect("mainPicture");
    browser.drag(&[(x, y), (x - 4, y - 3), (x - 8, y - 6)]).await?;
    bench.settled().await?;
    let moved = bench.item("mainPicture")["place"]["crop"].clone();
    assert!(moved["centre"]["x"].as_f64().unwrap() > zoomed["centre"]["x"].as_f64().unwrap());
    assert_eq!(bench.rect("mainPicture"), frame, "the frame stays");
    browser.hand().send_keys(Key::Escape).perform().await?;
    // What is no picture is told, and everything stays.
    let revision = bench.kept()["revision"].clone();
    browser.forgive("notes.txt");
    let wrong = bench.data.path().join("notes.txt");
    std::fs::write(&wrong, "clay, wheel, bucket").unwrap();
    browser.find("input[type=file]").await?.send_keys(wrong.to_string_lossy()).await?;
    browser
        .until(
            "it is told",
            "return document.querySelector('.notices.el-message--error')?.textContent.includes('not a picture')",
        )
        .await?;
    assert_eq!(bench.kept()["revision"], revision);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn items_are_given_light_and_backings_and_lose_them_again() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    bench.pick(HEADLINE).await?;
    let before = bench.look("headline");
    for offer in ["Line", "Shadow", "Relief", "Button"] {
        bench.choose("Give it", offer).await?;
    }
    let look = bench.look("headline");
    assert_eq!(
        (look["effects"].as_array().unwrap().len(), &look["stroke"]["place"], &look["backing"]["reach"]),
        (2, &"outside".into(), &"words".into())
    );
    bench.enter("Down", "12 px").await?;
    let here = bench.item("headline")["place"]["scale"].as_f64().unwrap() / 1e9;
    let dy = bench.look("headline")["effects"][0]["dy"].as_f64().unwrap() * here / PX;
    assert!((dy - 12.0).abs() < 0.01, "a shadow of 12 px in this piece, not {dy}");
    bench.choose("Mixes by", "multiply").await?;
    bench.choose("Fit", "asTyped").await?;
    assert_eq!(
        (bench.look("headline")["blend"].as_str(), bench.look("headline")["type"]["fit"]["kind"].as_str()),
        (Some("multiply"), Some("asTyped"))
    );
    bench.browser.click("button[aria-label='Take away: Shadow']").await?;
    bench.settled().await?;
    bench.browser.click("button[aria-label='Take away what lies behind the words']").await?;
    bench.settled().await?;
    let look = bench.look("headline");
    assert!(look["effects"].as_array().unwrap().len() == 1 && look.get("backing").is_none());
    for _ in 0..9 {
        bench.undo().await?;
    }
    assert_eq!(bench.look("headline"), before);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_phrase_becomes_a_block_and_letters_get_styles_of_their_own() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    bench.pick(HEADLINE).await?;
    bench.press("Arrange as one block").await?;
    browser.until("the arrangements are shown", "return document.querySelectorAll('.chooser li').length >= 16").await?;
    browser.click("button[aria-label='Arrangement 3']").await?;
    bench.settled().await?;
    assert_eq!(bench.look("headline")["type"]["lockUp"], 3);
    bench.keys(None, Key::Escape + "").await?;
    bench.undo().await?;

    // Two letters in another colour and weight, on the sheet.
    let (x, y) = browser.middle(HEADLINE).await?;
    browser.double_press(x, y).await?;
    browser.find("textarea.keys").await?;
    browser.driver().execute("const field = document.querySelector('textarea.keys'); field.focus(); field.setSelectionRange(5, 9); field.dispatchEvent(new Event('select'))", Vec::new()).await?;
    bench.keys(Some(Key::Control), "u").await?;
    let runs = |bench: &Bench| {
        let kept = bench.kept();
        kept["job"]["kins"].as_object().unwrap().values().find(|kin| kin["part"] == "headline").unwrap()["content"]["text"].clone()
    };
    let text = runs(&bench);
    assert_eq!(
        (text[0]["text"].as_str(), text[1]["text"].as_str(), text[1]["style"]["underline"].as_bool()),
        (Some("Made "), Some("slow"), Some(true)),
        "{text}"
    );
    browser.click("button[aria-label='Raised']").await?;
    bench.settled().await?;
    assert_eq!(runs(&bench)[1]["style"]["script"], "superscript");
    browser.click("button[aria-label='Like the rest again']").await?;
    bench.settled().await?;
    assert_eq!(runs(&bench).as_array().unwrap().len(), 1);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn groups_move_as_one_and_what_is_removed_waits_in_the_tray() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    let (x, y) = bench.pick(PICTURE).await?;
    let (hx, hy) = browser.middle(HEADLINE).await?;
    browser.hand().move_to(hx, hy).key_down(Key::Shift).click().key_up(Key::Shift).perform().await?;
    bench.keys(Some(Key::Control), "g").await?;
    let groups = |part: &str| bench.item(part)["groups"].clone();
    assert!(
        groups("headline").as_array().is_some_and(|list| list.len() == 1)
            && groups("headline") == groups("mainPicture")
    );
    bench.keys(None, Key::Escape + "").await?;

    // One click takes both; a drag moves both.
    let before = (bench.rect("headline"), bench.rect("mainPicture"));
    bench.pick(PICTURE).await?;
    assert_eq!(browser.driver().find_all(By::Css("g.chosen")).await?.len(), 2);
    let chain = browser
        .driver()
        .action_chain()
        .move_to(x, y)
        .key_down(Key::Alt)
        .click_and_hold()
        .move_to(x + 20, y + 10)
        .move_to(x + 40, y + 12)
        .release()
        .key_up(Key::Alt);
    chain.perform().await?;
    bench.settled().await?;
    let after = (bench.rect("headline"), bench.rect("mainPicture"));
    let moved = (after.0[0] - before.0[0], after.1[0] - before.1[0]);
    assert!(moved.0 > 10.0 && (moved.0 - moved.1).abs() < 0.01, "{moved:?}");
    // A corner of the box around them scales both.
    let (gx, gy) = browser.middle("[data-grip='1,1']").await?;
    browser.drag(&[(gx, gy), (gx - 20, gy - 20), (gx - 60, gy - 60)]).await?;
    bench.settled().await?;
    assert!(bench.rect("mainPicture")[2] < after.1[2] - 5.0 && bench.rect("headline")[2] < after.0[2] - 5.0);
    bench.undo().await?;
    bench.undo().await?;
    bench.keys(Some(Key::Control), "g").await?;

    bench.keys(None, Key::Delete + "").await?;
    let pieces = || bench.kept()["job"]["pieces"][0].clone();
    assert_eq!(pieces()["tray"].as_array().unwrap().len(), 2);
    browser.click(".bar a[href$='/layout']").await?;
    for _ in 0..2 {
        browser.click("button[aria-label^='Put back']").await?;
        bench.settled().await?;
    }
    assert!(pieces()["tray"].as_array().unwrap().is_empty());
    assert_eq!((bench.rect("headline"), bench.rect("mainPicture")), before);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn graphics_are_found_while_typing_and_swapped_in_place() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    browser.click(".bar a[href$='/pictures']").await?;
    browser.click(".what label:nth-of-type(2)").await?;
    browser.click("input[aria-label='Find a graphic']").await?;
    browser.hand().send_keys("rakes").perform().await?;
    browser.click("button.graphic[aria-label='rake']").await?;
    bench.settled().await?;
    let drawing = || {
        let kept = bench.kept();
        kept["job"]["kins"].as_object().unwrap().values().find(|kin| kin["content"]["kind"] == "drawing").unwrap()["content"]["drawing"].clone()
    };
    assert_eq!(drawing()["name"], "rake");
    browser.click(".swap .el-switch").await?;
    browser.driver().execute("const field = document.querySelector(\"input[aria-label='Find a graphic']\"); field.value = 'potted plant'; field.dispatchEvent(new Event('input'))", Vec::new()).await?;
    browser.click("button.graphic[aria-label='potted plant']").await?;
    bench.settled().await?;
    assert_eq!(drawing()["name"], "potted plant");
    assert!(bench.browser.text(".card h3").await?.contains("potted plant"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn guides_pictures_and_copies_are_at_hand_by_number_and_key() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    browser.click(".bar a[href$='/layout']").await?;
    bench.enter("Margin: Left", "1in/2").await?;
    bench.enter("Columns", "3").await?;
    bench.enter("Gutter between columns", "20").await?;
    bench.enter("Columns", "a few").await?;
    let guides = || bench.kept()["job"]["pieces"][0]["guides"].clone();
    assert_eq!(
        (guides()["margins"][0].as_i64(), guides()["columns"].as_i64(), guides()["columnGutter"].as_i64()),
        (Some(457_200), Some(3), Some(190_500))
    );
    // A line pulled out of a ruler, and away again.
    bench.choose("Show", "rulers").await?;
    browser.hand().send_keys(Key::Escape).perform().await?;
    browser
        .until(
            "the menu is away",
            "return ![...document.querySelectorAll('.act-menu')].some((menu) => menu.checkVisibility())",
        )
        .await?;
    let (x, y) = browser.middle(".stage").await?;
    let top: f64 = browser
        .driver()
        .execute("return document.querySelector('.stage').getBoundingClientRect().top", Vec::new())
        .await?
        .convert()?;
    browser.drag(&[(x, top as i64 + 8), (x, y - 20), (x, y)]).await?;
    bench.settled().await?;
    assert!(guides()["lines"].as_array().is_some_and(|lines| lines.len() == 1 && lines[0]["upright"] == false));
    browser.click("button[aria-label='Take away line 1']").await?;
    bench.settled().await?;
    assert!(guides()["lines"].as_array().unwrap().is_empty());

    // Several pictures as one group.
    browser.click(".bar a[href$='/pictures']").await?;
    let count = || bench.kept()["job"]["pieces"][0]["sides"][0]["items"].as_array().unwrap().len();
    let before = count();
    browser.driver().execute("[...document.querySelectorAll('.row .act')].find((button) => button.textContent.includes('Arrange several')).click()", Vec::new()).await?;
    for n in 1..=3 {
        browser.click(&format!(".pictures li:nth-child({n}) button")).await?;
    }
    browser.click(".arrange li:nth-child(2) button").await?;
    bench.settled().await?;
    assert_eq!((count(), browser.driver().find_all(By::Css("g.chosen")).await?.len()), (before + 3, 3));

    // Copied and pasted to the other piece by key, as the system's clipboard does it.
    let clipboard = "const event = new ClipboardEvent(arguments[0], { bubbles: true, cancelable: true, clipboardData: window.vatmanClip ??= new DataTransfer() }); document.querySelector('.stage').dispatchEvent(event)";
    browser.driver().execute(clipboard, vec!["copy".into()]).await?;
    browser
        .until("the copies are at hand", "return (localStorage.getItem('vatman-clipping') ?? '').includes('items')")
        .await?;
    browser.driver().execute("[...document.querySelectorAll('.rail li')].find((piece) => piece.textContent.toLowerCase().includes('story')).querySelector('.sheet').click()", Vec::new()).await?;
    browser.until("the other piece is shown", "return document.querySelector('.sheet[role=img]').getAttribute('aria-label').toLowerCase().includes('story')").await?;
    let there = || bench.kept()["job"]["pieces"][1]["sides"][0]["items"].as_array().unwrap().len();
    let had = there();
    browser.driver().execute(clipboard, vec!["paste".into()]).await?;
    bench.settled().await?;
    assert_eq!(there(), had + 3);
    Ok(())
}
