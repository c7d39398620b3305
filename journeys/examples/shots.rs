//! Takes the pictures of the main views that the README shows. Usage: shots FOLDER [WIDTH HEIGHT] [dark]

use std::path::PathBuf;

use thirtyfour::prelude::*;
use vatman_journeys::{Browser, Served};

#[tokio::main(flavor = "multi_thread")]
async fn main() -> WebDriverResult<()> {
    let folder = PathBuf::from(std::env::args().nth(1).expect("a folder for the pictures"));
    std::fs::create_dir_all(&folder).expect("the folder can be made");
    let here = std::env::current_exe().expect("this program has a path");
    let program = here
        .parent()
        .and_then(|examples| examples.parent())
        .expect("it lies in the target folder")
        .join("vatman_under_test");
    let data = tempfile::tempdir().expect("a folder for the data");
    let served = Served::start(&program, data.path(), 0);
    let sizes: Vec<u32> = std::env::args().skip(2).filter_map(|word| word.parse().ok()).collect();
    let (width, height) = if let [width, height] = sizes[..] { (width, height) } else { (1280, 800) };
    let browser = Browser::start(width, height).await?;
    let driver = browser.driver();
    if std::env::args().any(|word| word == "dark") {
        driver.goto(&served.address).await?;
        driver.execute("localStorage.setItem('light', 'dark')", Vec::new()).await?;
    }
    let shoot = async |name: &str| -> WebDriverResult<()> {
        browser.pictures_arrive().await?;
        tokio::time::sleep(std::time::Duration::from_millis(700)).await;
        driver.screenshot(&folder.join(format!("{name}.png"))).await
    };

    driver.goto(&served.address).await?;
    browser.find(".job img").await?;
    shoot("board").await?;

    driver.goto(format!("{}/start", served.address)).await?;
    browser.click("[data-place=square-post]").await?;
    browser.click("[data-place=flyer-a5]").await?;
    browser.click("[data-place=square-post]").await?;
    browser.click("[data-place=square-post]").await?;
    browser.find("textarea[name=headline]").await?.send_keys("Raku firing by lantern light").await?;
    browser.find("textarea[name=when]").await?.send_keys("Friday 20 November, from 6").await?;
    browser.find("textarea[name=action]").await?.send_keys("Bring a pot").await?;
    tokio::time::sleep(std::time::Duration::from_millis(2_500)).await;
    shoot("start").await?;

    driver.goto(&served.address).await?;
    browser.click(".job a").await?;
    browser.find(".stage g[data-item] [aria-label^='Hands']").await?;
    let job = driver.current_url().await?;
    let (x, y) = browser.middle(".stage g[data-item] [aria-label^='Hands']").await?;
    driver.action_chain().move_to(x, y).click().perform().await?;
    shoot("bench").await?;

    driver.goto(format!("{job}/pictures")).await?;
    browser.find(".stage g[data-item] image").await?;
    let (x, y) = browser.middle(".stage g[data-item] image").await?;
    driver.action_chain().move_to(x, y).click().perform().await?;
    let press = "const text = arguments[0]; [...document.querySelectorAll('button, .el-dropdown-menu__item')].find((one) => one.checkVisibility() && one.textContent.trim().startsWith(text)).click()";
    driver.execute(press, vec!["Darkroom".into()]).await?;
    browser.find(".darkroom .strip img").await?;
    browser.click(".adding > button").await?;
    browser.click("[data-kind=curves]").await?;
    browser.find(".curves svg").await?;
    let (x, y) = browser.middle(".curves svg").await?;
    browser.drag(&[(x - 60, y + 60), (x - 60, y + 70), (x - 60, y + 82)]).await?;
    browser.drag(&[(x + 60, y - 60), (x + 60, y - 70), (x + 60, y - 84)]).await?;
    shoot("darkroom").await?;
    // The part a step is for, painted.
    let choose = async |menu: &str, entry: &str| -> WebDriverResult<()> {
        let control = format!("button[data-menu='{menu}']");
        browser.find(&control).await?;
        driver.execute(format!("document.querySelector(\"{control}\").click()"), Vec::new()).await?;
        tokio::time::sleep(std::time::Duration::from_millis(600)).await;
        driver.execute(press, vec![entry.into()]).await.map(drop)
    };
    choose("Only on a part", "Painted").await?;
    browser.find(".marks").await?;
    let (x, y) = browser.middle(".darkroom .view").await?;
    browser.drag(&[(x - 120, y - 110), (x - 60, y - 60), (x, y - 70), (x + 60, y - 60), (x + 120, y - 110)]).await?;
    browser.drag(&[(x - 70, y - 10), (x, y + 20), (x + 70, y - 10), (x, y + 60)]).await?;
    tokio::time::sleep(std::time::Duration::from_secs(1)).await;
    shoot("mask").await?;
    browser.click(".darkroom header .next").await?;

    driver.goto(format!("{job}/look")).await?;
    browser.find(".stage g[data-item] image").await?;
    let (x, y) = browser.middle(".stage g[data-item] [aria-label^='Hands']").await?;
    driver.action_chain().move_to(x, y).click().perform().await?;
    browser.click("button[aria-label^='Colour:']").await?;
    browser.find(".choose .group").await?;
    shoot("look").await?;

    // A call-out that stays on its spot, and what ties it.
    driver.goto(format!("{job}/layout")).await?;
    browser.find(".stage g[data-item] image").await?;
    let (x, y) = browser.middle(".stage g[data-item] image").await?;
    driver.action_chain().move_to(x, y).click().perform().await?;
    browser.click("[data-fold=ties] .el-collapse-item__header").await?;
    driver.execute(press, vec!["Call-out".into()]).await?;
    driver.action_chain().move_to(x + 42, y - 40).click().perform().await?;
    browser.find("textarea.keys").await?;
    driver.action_chain().send_keys("The lip, thrown thin").send_keys(Key::Escape).perform().await?;
    driver
        .execute(
            "[...document.querySelectorAll('ol li .row')].find((row) => row.textContent.includes('Dot')).click()",
            Vec::new(),
        )
        .await?;
    tokio::time::sleep(std::time::Duration::from_millis(500)).await;
    driver.execute("document.querySelector('aside.card').scrollTop = 2000", Vec::new()).await?;
    shoot("layout").await?;

    // Large specimens beside the stage; the one pointed at is tried on the sheet.
    driver.goto(format!("{job}/words")).await?;
    browser.find(".stage g[data-item] image").await?;
    let (x, y) = browser.middle(".stage g[data-item] [aria-label^='Hands']").await?;
    driver.action_chain().move_to(x, y).click().perform().await?;
    browser.click("[data-fold=type] .el-collapse-item__header").await?;
    driver.execute(press, vec!["Arrange as one block".into()]).await?;
    browser.find("button[aria-label='Arrangement 6']").await?;
    driver
        .execute(
            "document.querySelector(\"button[aria-label='Arrangement 6']\").scrollIntoView({ block: 'center' })",
            Vec::new(),
        )
        .await?;
    let (x, y) = browser.middle("button[aria-label='Arrangement 6']").await?;
    driver.action_chain().move_to(x, y).perform().await?;
    shoot("blocks").await?;

    // More sizes, seen before they are added, then all of them on the wall.
    driver.goto(format!("{job}/sizes")).await?;
    browser.find(".piece img").await?;
    for place in ["landscape-post", "card", "video-thumbnail", "bookmark"] {
        browser.click(&format!("[data-place={place}]")).await?;
    }
    browser.until("they are seen", "const all = [...document.querySelectorAll('[data-new]')]; return all.length === 4 && all.every((one) => one.querySelector('img').naturalWidth > 0 && !one.textContent.includes('…'))").await?;
    shoot("adding").await?;
    browser.click(".strip > .act").await?;
    browser.until("they are added", "return document.querySelectorAll('.piece').length === 8").await?;
    browser.click("[data-piece='Square post'] .sheet").await?;
    browser.until("its arrangements are there", "return [...document.querySelectorAll('.piece img, .ways img')].every((image) => image.complete && image.naturalWidth > 0)").await?;
    tokio::time::sleep(std::time::Duration::from_secs(7)).await;
    shoot("sizes").await?;

    // Words behind a subject that was cut out, on a flyer with a frosted panel.
    let jobs = served.get("/api/jobs");
    let flyer =
        jobs.as_array().expect("a list").iter().find(|job| job["title"] == "June at the kiln").expect("it ships");
    driver.goto(format!("{}/jobs/{}/pictures", served.address, flyer["id"].as_str().expect("an identity"))).await?;
    browser.find(".stage g[data-item] image").await?;
    let (x, y) = browser.middle(".stage").await?;
    driver.action_chain().move_to(x, y).click().perform().await?;
    shoot("front").await?;

    // A subject on white, standing on its ground.
    let of = |title: &str| {
        let all = jobs.as_array().expect("a list");
        let job = all.iter().find(|job| job["title"] == title).expect("it ships");
        job["id"].as_str().expect("an identity").to_owned()
    };
    driver.goto(format!("{}/jobs/{}/pictures", served.address, of("New glazes on the shelf"))).await?;
    browser.find(".stage g[data-item] image").await?;
    let (x, y) = browser.middle(".stage g[data-item] image").await?;
    driver.action_chain().move_to(x, y).click().perform().await?;
    browser.click(".swap .el-switch").await?;
    browser.click("[data-picture][title^='cobalt-jar']").await?;
    browser
        .until("the jar is there", "return document.querySelector('.card').textContent.includes('cobalt-jar')")
        .await?;
    choose("Cut out", "On white").await?;
    browser.until("it stands on white", "return document.querySelectorAll('.stage g[data-item]').length > 6").await?;
    browser.click("[data-fold=light] .el-collapse-item__header").await?;
    for gift in ["Shadow on the ground", "Image in the ground"] {
        choose("Give it", gift).await?;
    }
    let up = "document.querySelectorAll('*').forEach((one) => { if (one.scrollTop) one.scrollTop = 0 })";
    driver.execute(up, Vec::new()).await?;
    shoot("subject").await?;

    // Something goes wrong and is found; every size as it is met.
    driver.goto(format!("{job}/words")).await?;
    browser.find(".stage g[data-item] image").await?;
    let (x, y) = browser.middle(".stage g[data-item] [aria-label^='Hands']").await?;
    browser.drag(&[(x, y), (x - 40, y), (x - 150, y)]).await?;
    driver.goto(format!("{job}/check")).await?;
    browser.find("li[data-finding]").await?;
    tokio::time::sleep(std::time::Duration::from_secs(1)).await;
    shoot("check").await?;
    driver.goto(format!("{job}/hand-over")).await?;
    browser.click(".link").await?;
    browser.find(".files > ul li").await?;
    tokio::time::sleep(std::time::Duration::from_secs(4)).await;
    shoot("hand-over").await?;

    // Paper: a tag with its hole and both sides, sheets with the step of cutting pointed at, a list with bad rows, the proof, cloth.
    let (stall, card, tee) = (of("Winter market stall"), of("Business card"), of("Kiln tee and tote"));
    let open = served.get(&format!("/api/jobs/{stall}"));
    let pieces = open["job"]["pieces"].as_array().expect("pieces");
    let tag = &pieces.iter().find(|piece| piece["name"] == "Hang tag").expect("it ships")["id"];
    let hole = serde_json::json!({ "at": { "x": 914_400, "y": 252_000 }, "across": 144_000, "eyelet": 288_000 });
    let corners = serde_json::json!({ "change": "corners", "radius": 108_000 });
    for change in [corners, serde_json::json!({ "change": "hole", "hole": hole })] {
        let base = &served.get(&format!("/api/jobs/{stall}"))["revision"];
        let act = serde_json::json!({ "act": "changeFinish", "piece": tag, "change": change });
        let _ = served.post(&format!("/api/jobs/{stall}/acts"), &serde_json::json!({ "base": base, "act": act }));
    }
    driver.goto(format!("{}/jobs/{stall}/layout", served.address)).await?;
    browser.click("[aria-label='Hang tag, Front']").await?;
    browser.click("[data-menu=Show]").await?;
    tokio::time::sleep(std::time::Duration::from_millis(600)).await;
    let entry = "[...document.querySelectorAll('.el-dropdown-menu__item[data-value=cut]')].find((one) => one.checkVisibility()).click()";
    driver.execute(entry, Vec::new()).await?;
    tokio::time::sleep(std::time::Duration::from_secs(1)).await;
    shoot("cut").await?;
    driver.goto(format!("{}/jobs/{card}/hand-over/sheets", served.address)).await?;
    browser.find("[data-plan]").await?;
    tokio::time::sleep(std::time::Duration::from_secs(1)).await;
    let (x, y) = browser.middle(".steps li:nth-child(2)").await?;
    driver.action_chain().move_to(x, y).perform().await?;
    shoot("sheets").await?;
    let table = "Name, Role, Mail\nInes Vardal, Potter, ines@mossback.example\nTobin Ashgrove, Kiln and glaze, tobin@mossback.example\n, Studio cat,\nMaud Penrose, Saturday classes\nZo\u{eb} \u{c5}kesson, Packing, zoe@mossback.example\n";
    driver.goto(format!("{}/jobs/{card}/hand-over/list", served.address)).await?;
    browser.find("[aria-label='Pasted table']").await?.send_keys(table).await?;
    browser.click(".columns .act").await?;
    browser.find("[data-bad]").await?;
    tokio::time::sleep(std::time::Duration::from_secs(1)).await;
    shoot("list").await?;
    driver.goto(format!("{}/jobs/{card}/check", served.address)).await?;
    browser.find(".check .list .head label").await?;
    driver.execute("[...document.querySelectorAll('.head label')].find((one) => one.textContent.includes('As printed')).click()", Vec::new()).await?;
    browser.find(".proof tbody tr").await?;
    tokio::time::sleep(std::time::Duration::from_secs(2)).await;
    shoot("proof").await?;
    driver.goto(format!("{}/jobs/{tee}/hand-over/cloth", served.address)).await?;
    browser.find("[data-fine]").await?;
    browser.click("[data-cloth='#23201d']").await?;
    tokio::time::sleep(std::time::Duration::from_secs(2)).await;
    shoot("cloth").await
}
