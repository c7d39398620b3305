//! One person's way from an empty sheet to a file.

use std::process::Command;

use serde_json::{Value, json};
use thirtyfour::prelude::*;
use vatman_journeys::{Browser, Served};

use crate::{TURN, program};

const HEADLINE: &str = ".stage g[data-item] [aria-label^='Made']";
const PICTURE: &str = ".stage g[data-item] image";

/// The place of the main picture in the first piece, as kept.
fn kept_picture(open: &Value) -> &Value {
    let kins = open["job"]["kins"].as_object().unwrap();
    let is_picture = |item: &&Value| kins[item["kin"].as_str().unwrap()]["part"] == "mainPicture";
    open["job"]["pieces"][0]["sides"][0]["items"].as_array().unwrap().iter().find(is_picture).unwrap()
}

#[tokio::test(flavor = "multi_thread")]
async fn from_an_empty_sheet_to_a_file() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let data = tempfile::tempdir().unwrap();
    let mut served = Served::start(program(), data.path(), 0);
    let browser = Browser::start(1280, 800).await?;
    let driver = browser.driver();

    // The board shows the demo jobs as pictures of their own pieces.
    driver.goto(&served.address).await?;
    browser.find(".job img").await?;
    browser.until("the board shows pictures", "return document.querySelectorAll('.job').length >= 8 && [...document.querySelectorAll('.fan img')].slice(0, 6).every((image) => image.complete && image.naturalWidth > 0)").await?;

    // Where it goes, found by plain words and by a size; what it says; a design with those very words in it.
    browser.click("header a.next").await?;
    let search = browser.find("input[aria-label='Find a place or type a size']").await?;
    search.send_keys("thumb").await?;
    browser
        .until(
            "the thumbnail is found first",
            "return document.querySelector('.list .place')?.dataset.place === 'video-thumbnail'",
        )
        .await?;
    search.send_keys(Key::Enter).await?;
    search.send_keys("2 x 8.5 in").await?;
    browser
        .until(
            "the typed size is offered",
            "return document.querySelector('.place.own small')?.textContent === '2 × 8.5 in'",
        )
        .await?;
    search.send_keys(Key::Enter).await?;
    browser.find("textarea[name=headline]").await?.send_keys("Made slow.").await?;
    browser.find("textarea[name=when]").await?.send_keys("Saturday, 10 to 1").await?;
    browser.until("every design is shown with the words", "return [...document.querySelectorAll('.design img')].every((image) => image.complete && image.naturalWidth > 0 && decodeURIComponent(image.src).includes('Made slow.'))").await?;
    browser.click("[data-design=half-and-half]").await?;
    browser.find(HEADLINE).await?;
    browser.pictures_arrive().await?;
    let id = driver.current_url().await?.path().split('/').nth(2).unwrap().to_owned();
    let open = served.get(&format!("/api/jobs/{id}"));
    assert_eq!(open["job"]["title"], "Made slow.");
    assert_eq!(
        open["job"]["pieces"][1]["format"]["size"],
        json!({ "w": 1_828_800, "h": 7_772_400 }),
        "2 x 8.5 in is exactly that"
    );

    // Words, typed on the sheet: what is typed is what is kept, and the list of words says the same.
    let (x, y) = browser.middle(HEADLINE).await?;
    browser.double_press(x, y).await?;
    browser.find("textarea.keys").await?;
    browser.hand().send_keys(Key::End).send_keys(" Used daily by people who like mugs.").perform().await?;
    let said = "Made slow. Used daily by people who like mugs.";
    browser.until("the list says what was typed", &format!("return document.querySelector('.bar .kept').textContent.startsWith('kept') && [...document.querySelectorAll('textarea[data-words]')].some((field) => field.value === '{said}')")).await?;
    browser.hand().send_keys(Key::Escape).perform().await?;
    let shown: String = driver.execute(format!("return [...document.querySelectorAll(\"{HEADLINE}\")].map((line) => line.getAttribute('aria-label')).join(' ')"), Vec::new()).await?.convert()?;
    assert!(shown.starts_with("Made"), "{shown}");
    let kept = served.get(&format!("/api/jobs/{id}"));
    assert!(kept["job"]["kins"].to_string().contains(said));

    // Undo goes back word by word, and again forward.
    let says = |text: &str| {
        format!(
            "return [...document.querySelectorAll('textarea[data-words]')].some((field) => field.value === '{text}')"
        )
    };
    let words = " Used daily by people who like mugs.".split_inclusive(' ').count();
    browser.hand().key_down(Key::Control).send_keys("z").key_up(Key::Control).perform().await?;
    browser.until("the last word is undone", &says("Made slow. Used daily by people who like ")).await?;
    for _ in 1..words {
        browser.click("button[aria-label=Undo]").await?;
    }
    browser.until("all that was typed is undone", &says("Made slow.")).await?;
    for _ in 0..words {
        browser.click("button[aria-label=Redo]").await?;
    }
    browser.until("and done again", &format!("return [...document.querySelectorAll('textarea[data-words]')].some((field) => field.value === '{said}')")).await?;

    // A picture of one's own replaces the one selected.
    driver.find(By::LinkText("Pictures")).await?.click().await?;
    let own = data.path().join("own.png");
    image::RgbImage::from_fn(900, 700, |x, y| image::Rgb([(x / 4) as u8, (y / 4) as u8, 160])).save(&own).unwrap();
    let (x, y) = browser.middle(PICTURE).await?;
    browser.hand().move_to(x, y).click().perform().await?;
    browser.find(".frames button[aria-pressed=true]").await?;
    let before: String = driver
        .execute(format!("return document.querySelector('{PICTURE}').href.baseVal"), Vec::new())
        .await?
        .convert()?;
    browser.click(".swap .el-switch").await?;
    browser.find("input[type=file]").await?.send_keys(own.to_string_lossy()).await?;
    browser
        .until(
            "the frame shows the new picture",
            &format!(
                "const link = document.querySelector('{PICTURE}')?.href.baseVal; return !!link && link !== '{before}'"
            ),
        )
        .await?;

    // Moved by hand, undone, and after a kill and a restart done again.
    let place = kept_picture(&served.get(&format!("/api/jobs/{id}")))["place"].clone();
    let percent: f64 = driver
        .execute("return parseFloat(document.querySelector('.strip .percent').textContent)", Vec::new())
        .await?
        .convert()?;
    browser.pictures_arrive().await?;
    let (x, y) = browser.middle(PICTURE).await?;
    browser.drag(&[(x, y), (x - 20, y + 10), (x - 60, y + 30)]).await?;
    browser.until("the move can be undone and is kept", "return !document.querySelector('button[aria-label=Undo]').disabled && document.querySelector('.bar .kept').textContent.startsWith('kept')").await?;
    let moved = kept_picture(&served.get(&format!("/api/jobs/{id}")))["place"].clone();
    let by = (moved["at"]["rect"]["x"].as_f64().unwrap() - place["at"]["rect"]["x"].as_f64().unwrap()) / 9_525.0;
    assert!((by - -60.0 / (percent / 100.0)).abs() < 3.0, "moved by {by} px at {percent} %");
    browser.hand().key_down(Key::Control).send_keys("z").key_up(Key::Control).perform().await?;
    browser.until("the move is undone", "return !document.querySelector('button[aria-label=Redo]').disabled").await?;
    assert_eq!(kept_picture(&served.get(&format!("/api/jobs/{id}")))["place"], place);

    let port = served.port();
    // While the program is away requests fail.
    browser.forgive("/api/");
    served.kill();
    served = Served::start(program(), data.path(), port);
    driver.refresh().await?;
    browser.find(HEADLINE).await?;
    browser.click("button[aria-label=Redo]").await?;
    browser
        .until("the move is done again", "return document.querySelector('button[aria-label=Redo]').disabled")
        .await?;
    assert_eq!(kept_picture(&served.get(&format!("/api/jobs/{id}")))["place"], moved);

    // A change from elsewhere shows by itself, and what is done here goes on from it.
    let revision = served.get(&format!("/api/jobs/{id}"))["revision"].clone();
    let elsewhere = json!({ "base": revision, "act": { "act": "setTitle", "title": "Renamed elsewhere" } });
    let _ = served.post(&format!("/api/jobs/{id}/acts"), &elsewhere);
    browser
        .until("the window follows", "return document.querySelector('.bar .title').textContent === 'Renamed elsewhere'")
        .await?;
    assert_eq!(kept_picture(&served.get(&format!("/api/jobs/{id}")))["place"], moved, "nothing was overwritten");

    // Handed over as a picture and as a PDF, and read back.
    browser.click("header .act").await?;
    browser.click("[data-kind=png]").await?;
    browser
        .until(
            "the size is known",
            "return document.querySelectorAll('.files > ul li').length === 1 && document.querySelector('.files > ul li').textContent.includes('.png') && !document.querySelector('.go').disabled",
        )
        .await?;
    browser.click(".go").await?;
    let png = browser.downloaded(".png").await;
    assert_eq!(png.file_name().unwrap().to_string_lossy(), "renamed-elsewhere_video-thumbnail_1280x720px.png");
    let picture = image::open(&png).unwrap();
    assert_eq!((picture.width(), picture.height()), (1_280, 720));
    browser.click("[data-kind=pdf]").await?;
    browser.until("the PDF is counted", "return document.querySelector('.files > ul li')?.textContent.includes('.pdf') && !document.querySelector('.go').disabled").await?;
    browser.click(".go").await?;
    let pdf = browser.downloaded(".pdf").await;
    let text = Command::new("pdftotext").arg(&pdf).arg("-").output().unwrap().stdout;
    let words = String::from_utf8_lossy(&text).split_whitespace().collect::<Vec<_>>().join(" ");
    assert!(words.contains(said), "{words}");
    Ok(())
}
