//! Starting a job and handing it over: the two ends of the way.

use thirtyfour::prelude::*;
use vatman_journeys::{Browser, Served};

use crate::at_bench::Bench;
use crate::{TURN, program};

/// The identity of the job on the bench.
async fn job_on_bench(browser: &Browser) -> WebDriverResult<String> {
    browser.find(".bar .title").await?;
    Ok(browser.driver().current_url().await?.path().split('/').nth(2).unwrap().to_owned())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_answer_that_comes_late_is_not_taken_for_the_newest() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::start(program(), data.path(), 0);
    let browser = Browser::start(1280, 800).await?;
    let driver = browser.driver();
    driver.goto(format!("{}/start", served.address)).await?;
    browser.find(".list .place").await?;
    // What is asked of birthdays comes two seconds late.
    driver
        .execute(
            "const own = window.fetch; window.late = 0;
             window.fetch = async (...asked) => {
               const birthdays = String(asked[0]?.url ?? asked[0]).includes('birthday');
               window.asked ||= birthdays;
               const answer = await own(...asked);
               if (!birthdays) return answer;
               await new Promise((done) => setTimeout(done, 2000));
               window.late += 1;
               return answer;
             };",
            Vec::new(),
        )
        .await?;
    let search = browser.find("input[aria-label='Find a place or type a size']").await?;
    search.send_keys("birthday").await?;
    browser.until("birthdays are asked for", "return window.asked === true").await?;
    search.send_keys(Key::Control + "a").await?;
    search.send_keys("120 x 40 mm").await?;
    browser
        .until("the size is found at once", "return !!document.querySelector('.place.own') && window.late === 0")
        .await?;
    browser.until("the late answer came", "return window.late === 1").await?;
    browser.drawn().await?;
    assert!(driver.find(By::Css(".place.own")).await.is_ok(), "the size is still what is found");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn places_are_found_and_chosen_and_a_blank_sheet_is_blank() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::start(program(), data.path(), 0);
    let browser = Browser::start(1280, 800).await?;
    let driver = browser.driver();
    driver.goto(format!("{}/start", served.address)).await?;
    browser.find(".design img").await?;

    let search = browser.find("input[aria-label='Find a place or type a size']").await?;
    for (typed, first) in
        [("birthday", "greeting-card"), ("tee", "cloth-print"), ("flyers", "flyer-a5"), ("logo", "mark")]
    {
        search.send_keys(Key::Control + "a").await?;
        search.send_keys(typed).await?;
        browser
            .until(typed, &format!("return document.querySelector('.list .place')?.dataset.place === '{first}'"))
            .await?;
    }
    search.send_keys(Key::Control + "a").await?;
    search.send_keys("zeppelin").await?;
    browser
        .until(
            "nothing is found and a size is suggested",
            "return document.querySelector('.none')?.textContent.includes('90 x 50 mm')",
        )
        .await?;
    search.send_keys(Key::Control + "a").await?;
    search.send_keys("30000 x 30000 px").await?;
    browser
        .until(
            "an impossible size is told",
            "return document.querySelector('.where .wrong')?.textContent.includes('too large')",
        )
        .await?;
    search.send_keys(Key::Control + "a").await?;
    search.send_keys("120 x 40 mm").await?;
    browser.click(".place.own").await?;
    search.send_keys(Key::Control + "a").await?;
    search.send_keys(Key::Delete + "").await?;
    browser.click("[data-place=card]").await?;
    browser.click("[data-place=story]").await?;
    // Left out again by its chip.
    browser.click("button[aria-label='Leave out Card']").await?;
    browser.until("two places are chosen", "return document.querySelectorAll('.chosen li').length === 2").await?;

    // Every design is shown in the shape that is looked at.
    browser.driver().find(By::XPath("//span[@class='shapes']/button[contains(., '120')]")).await?.click().await?;
    browser.until("designs are shown wide", "return [...document.querySelectorAll('.design img')].every((image) => image.complete && Math.abs(image.naturalWidth / image.naturalHeight - 3) < 0.05)").await?;

    browser.click("[data-design=blank]").await?;
    let id = job_on_bench(&browser).await?;
    let job = served.get(&format!("/api/jobs/{id}"))["job"].clone();
    let pieces = job["pieces"].as_array().unwrap();
    assert_eq!(pieces.len(), 2);
    assert_eq!(pieces[0]["format"]["size"], serde_json::json!({ "w": 4_320_000, "h": 1_440_000 }), "120 x 40 mm");
    assert!(pieces.iter().all(|piece| piece["sides"][0]["items"].as_array().unwrap().is_empty()));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn files_have_the_kind_size_and_quality_that_were_chosen() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::start(program(), data.path(), 0);
    let browser = Browser::start(1280, 800).await?;
    let driver = browser.driver();
    driver.goto(&served.address).await?;
    browser.click(".job a").await?;
    let id = job_on_bench(&browser).await?;
    driver.goto(format!("{}/jobs/{id}/hand-over", served.address)).await?;
    let counted = "document.querySelector('.go') && !document.querySelector('.files ul')?.matches('[aria-busy=true]') && !document.querySelector('.go').disabled";
    browser
        .until(
            "the first piece is counted",
            &format!("return {counted} && document.querySelectorAll('.files > ul li').length === 1"),
        )
        .await?;

    // All pieces as JPEG; less quality is fewer bytes, and the sizes are told before anything is written.
    browser.click(".link").await?;
    browser.click("[data-kind=jpeg]").await?;
    browser.until("four files are counted", &format!("return {counted} && document.querySelectorAll('.files > ul li').length === 4 && document.querySelector('.files').textContent.includes('.jpg')")).await?;
    let total = || async { browser.text(".total").await };
    let before = total().await?;
    assert!(before.starts_with("4 files in one ZIP"), "{before}");
    let slider = browser.find(".quality [role=slider]").await?;
    slider.click().await?;
    for _ in 0..40 {
        browser.hand().send_keys(Key::Left).perform().await?;
    }
    browser
        .until(
            "the total has changed",
            &format!("return {counted} && document.querySelector('.total').textContent !== {before:?}"),
        )
        .await?;
    browser.click(".go").await?;
    let bytes = std::fs::read(browser.downloaded(".zip").await).unwrap();
    let mut archive = zip::ZipArchive::new(std::io::Cursor::new(bytes)).unwrap();
    assert_eq!(archive.len(), 4);
    for i in 0..4 {
        let mut file = archive.by_index(i).unwrap();
        let mut bytes = Vec::new();
        std::io::Read::read_to_end(&mut file, &mut bytes).unwrap();
        assert!(image::load_from_memory(&bytes).is_ok(), "{} cannot be read", file.name());
    }

    // One piece at exact pixels; what makes no sense is refused and the last good width stays.
    browser.click(".link").await?;
    browser.click("[data-piece='Square post']").await?;
    browser.click("[data-kind=png]").await?;
    let width = browser.find("input[aria-label='Exact width in pixels']").await?;
    width.click().await?;
    driver
        .action_chain()
        .key_down(Key::Control)
        .send_keys("a")
        .key_up(Key::Control)
        .send_keys("500")
        .send_keys(Key::Enter)
        .perform()
        .await?;
    browser
        .until(
            "it is counted at 500 px",
            &format!(
                "return {counted} && document.querySelector('.files > ul li')?.textContent.includes('_500px.png')"
            ),
        )
        .await?;
    width.click().await?;
    driver
        .action_chain()
        .key_down(Key::Control)
        .send_keys("a")
        .key_up(Key::Control)
        .send_keys("wide")
        .send_keys(Key::Enter)
        .perform()
        .await?;
    browser
        .until("it is told", "return document.querySelector('.notices')?.textContent.includes('last good width')")
        .await?;
    assert_eq!(width.prop("value").await?.as_deref(), Some("500 px"));
    // Nothing chosen, nothing to write.
    browser.click("[data-piece='Square post']").await?;
    browser.find(".go:disabled").await?;
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn two_windows_show_the_same_state() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::start(program(), data.path(), 0);
    let browser = Browser::start(1280, 800).await?;
    let driver = browser.driver();
    driver.goto(&served.address).await?;
    browser.click(".job a").await?;
    let id = job_on_bench(&browser).await?;
    let first = driver.window().await?;
    let second = driver.new_tab().await?;
    driver.switch_to_window(second).await?;
    driver.goto(format!("{}/jobs/{id}", served.address)).await?;
    let field = browser.find("textarea[data-words]").await?;
    field.click().await?;
    field.send_keys(Key::Control + Key::End).await?;
    field.send_keys(" and tea").await?;
    browser.until("it is kept", "return document.querySelector('.bar .kept').textContent.startsWith('kept') && document.querySelector('textarea[data-words]').value.endsWith(' and tea')").await?;
    driver.switch_to_window(first).await?;
    browser.until("the first window shows it", "return [...document.querySelectorAll('textarea[data-words]')].some((field) => field.value.endsWith(' and tea'))").await?;
    // Going on in the first window builds on the newest state.
    let field = browser.find("textarea[data-words]").await?;
    field.click().await?;
    field.send_keys(Key::Control + Key::End).await?;
    field.send_keys(" too").await?;
    browser.drawn().await?;
    browser.until("it is kept", "const kept = document.querySelector('.bar .kept'); return kept.dataset.saving === '0' && kept.textContent.startsWith('kept')").await?;
    assert!(served.get(&format!("/api/jobs/{id}"))["job"]["kins"].to_string().contains(" and tea too"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_old_page_says_that_a_new_version_is_here_and_loses_nothing() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let bench = Bench::open("square-post", "doorway").await?;
    let browser = &bench.browser;
    let driver = browser.driver();
    // The page listens to a program of another version from some moment on.
    browser.alter();
    let tools = thirtyfour::extensions::cdp::ChromeDevTools::new(driver.handle.clone());
    let listen = "const Real = EventSource; window.EventSource = class extends Real { constructor(...all) { super(...all); window.heard = this } }";
    tools
        .execute_cdp_with_params("Page.addScriptToEvaluateOnNewDocument", serde_json::json!({ "source": listen }))
        .await?;
    bench.step("words").await?;
    let field = browser.find("textarea[data-words]").await?;
    field.click().await?;
    field.send_keys(Key::Control + Key::End).await?;
    field.send_keys(" At the").await?;
    let hello = "window.here = true; window.heard.dispatchEvent(new MessageEvent('message', { data: JSON.stringify({ event: 'hello', version: arguments[0] }) })); return document.querySelectorAll('.notices').length";
    driver.execute(hello, vec!["of-tomorrow".into()]).await?;
    browser.until("it is said", "return document.body.innerText.includes('A new version is here.')").await?;
    field.send_keys(" wheel").await?;
    bench.press("Show it").await?;
    browser.until("the page is another", "return window.here === undefined && [...document.querySelectorAll('textarea[data-words]')].some((field) => field.value.endsWith('At the wheel'))").await?;
    assert!(bench.kept()["job"]["kins"].to_string().contains("At the wheel"), "what was typed last is kept too");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn designs_that_suit_come_first_are_found_by_words_and_shown_in_every_shape() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::start(program(), data.path(), 0);
    let browser = Browser::start(1280, 800).await?;
    browser.driver().goto(format!("{}/start", served.address)).await?;
    browser.find(".design img").await?;
    let order = "return [...document.querySelectorAll('[data-design]')].map((card) => card.dataset.design)";
    browser.click("[data-place=mark]").await?;
    browser
        .until(
            "the design for marks is first",
            "return document.querySelector('[data-design]').dataset.design === 'kiln-mark'",
        )
        .await?;
    browser.click("[data-place=story]").await?;
    browser.click("[data-place=card]").await?;
    let all: Vec<String> = browser.driver().execute(order, Vec::new()).await?.convert()?;
    assert_eq!(all.len(), 26, "twenty-four designs, a blank sheet and pictures: {all:?}");
    browser
        .driver()
        .execute(
            "[...document.querySelectorAll('.shapes button')].find((one) => one.textContent === 'All of them').click()",
            Vec::new(),
        )
        .await?;
    browser.until("each is shown in three shapes", "return document.querySelectorAll('[data-design] .every').length === 24 && document.querySelector('[data-design] .every').querySelectorAll('img').length === 3").await?;
    browser.pictures_arrive().await?;
    let shapes: Vec<f64> = browser.driver().execute("return [...document.querySelector('.every').querySelectorAll('img')].map((one) => one.naturalWidth / one.naturalHeight)", Vec::new()).await?.convert()?;
    for (shape, wanted) in shapes.iter().zip([1.0, 0.5625, 1.75]) {
        assert!((shape / wanted - 1.0).abs() < 0.03, "{shapes:?}");
    }
    browser.find("input[aria-label='Find a design']").await?.send_keys("business cards").await?;
    browser.until("only what is found is left", "return [...document.querySelectorAll('[data-design]')].map((card) => card.dataset.design).join() === 'contact-side,blank,pictures'").await?;
    Ok(())
}
