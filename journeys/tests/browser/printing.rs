//! Paper: sheets with backs, a list with bad rows, a card from one sheet, an order sent back and taken, and the same from the command line.

use std::path::Path;
use std::process::Command;

use serde_json::{Value, json};
use thirtyfour::prelude::*;
use vatman_journeys::{Browser, Served};

use crate::{TURN, program};

fn run(program: &Path, arguments: &[&str]) -> String {
    let out = Command::new(program).args(arguments).output().unwrap();
    assert!(out.status.success(), "{arguments:?}: {}", String::from_utf8_lossy(&out.stderr));
    String::from_utf8_lossy(&out.stdout).into_owned()
}

fn pages(pdf: &Path) -> usize {
    run(Path::new("qpdf"), &["--show-npages", &pdf.to_string_lossy()]).trim().parse().unwrap()
}

/// Chooses one of a choice by its value.
async fn choose(browser: &Browser, field: &str, value: &str) -> WebDriverResult<()> {
    browser.click(&format!("[data-field='{field}'] .el-select__wrapper")).await?;
    // The list slides open; what it holds is there at once.
    let pick = format!(
        "[...document.querySelectorAll(\".el-select-dropdown__item[data-value='{value}']\")].find((one) => one.checkVisibility()).click()"
    );
    browser.driver().execute(pick, Vec::new()).await.map(drop)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_two_sided_card_from_blank_is_printed_with_its_backs() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::bare(program(), data.path());
    let browser = Browser::start(1280, 800).await?;
    let driver = browser.driver();
    driver.goto(format!("{}/start", served.address)).await?;
    browser.click("[data-place=card]").await?;
    browser.click("[data-field=backs] .el-checkbox__label").await?;
    browser.click("[data-design=blank]").await?;
    browser
        .until("both sides are on the rail", "return document.querySelectorAll('.rail .sheet').length === 2")
        .await?;
    // A code on the front, which says where the workshop is.
    browser
        .until(
            "the sheet is there",
            "return document.body.getAttribute('aria-busy') !== 'true' && !!document.querySelector('.stage svg.sheet')",
        )
        .await?;
    browser.click("[data-menu='Add a text']").await?;
    let entry = "[...document.querySelectorAll('.el-dropdown-menu__item[data-value=code]')].find((one) => one.checkVisibility())";
    browser.until("the menu is open", &format!("return !!{entry}")).await?;
    browser.driver().execute(format!("{entry}.click()"), Vec::new()).await?;
    let field = browser.find("[data-code=address]").await?;
    field.send_keys("mossback.example").await?;
    browser
        .until("the code is drawn", "return document.querySelectorAll('.stage g[data-item] path').length >= 2 && document.querySelector('.kept').dataset.saving === '0'")
        .await?;
    // Both sides beside each other; a press on one goes over to it.
    browser.click("[data-menu='Show']").await?;
    let entry = "[...document.querySelectorAll('.el-dropdown-menu__item[data-value=sides]')].find((one) => one.checkVisibility())";
    browser.until("the menu is open", &format!("return !!{entry}")).await?;
    browser.driver().execute(format!("{entry}.click()"), Vec::new()).await?;
    browser.until("both are there", "return document.querySelectorAll('.beside .sheet img').length === 2").await?;
    browser.click(".beside .sheet:nth-child(2)").await?;
    let pressed =
        "return document.querySelector('.beside .sheet:nth-child(2)').getAttribute('aria-pressed') === 'true'";
    browser.until("the back is worked on", pressed).await?;
    browser.click(".act.next").await?;
    browser.click("[data-way=sheets]").await?;
    browser.until("nine of them on a sheet", "return document.querySelector('[data-up]')?.textContent === '9'").await?;
    browser.until("with backs", "return document.querySelector('[data-face]')?.textContent.includes('front')").await?;
    choose(&browser, "backs", "shortEdge").await?;
    browser.until("it is said how", "return document.body.textContent.includes('turned on the short edge')").await?;
    browser.click(".deeds .next").await?;
    let pdf = browser.downloaded(".pdf").await;
    assert_eq!(pages(&pdf), 2);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn twelve_names_with_two_bad_rows_become_badges() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::bare(program(), data.path());
    let words = json!({ "headline": "Your name", "support": "Class" });
    let wish = json!({ "design": "plain-words", "places": ["name-badge"], "words": words });
    let id = served.post("/api/jobs", &wish)["id"].as_str().unwrap().to_owned();
    let browser = Browser::start(1280, 800).await?;
    browser.driver().goto(format!("{}/jobs/{id}/hand-over/list", served.address)).await?;
    let mut rows: Vec<String> = (1..=10).map(|at| format!("Guest {at:02}, Wheel")).collect();
    rows.insert(3, ", Glaze".into());
    rows.insert(7, "Only a name".into());
    let field = browser.find("[aria-label='Pasted table']").await?;
    field.send_keys(format!("Name, Class\n{}\n", rows.join("\n"))).await?;
    browser.click(".columns .act").await?;
    browser
        .until("ten go on", "return document.querySelector('[data-good]')?.textContent === '10 rows, 2 left out'")
        .await?;
    let bad = browser.text(".bad").await?;
    assert!(bad.contains("Line 5") && bad.contains("is empty") && bad.contains("Line 9"), "{bad}");
    browser.click("[aria-label='Next row']").await?;
    browser
        .until(
            "every row can be seen",
            "return document.querySelector('[data-row]').textContent.includes('Row 2 of 10: Guest 02')",
        )
        .await?;
    browser.pictures_arrive().await?;
    browser.click(".deeds .next").await?;
    browser
        .until("ten of them", "return document.querySelector('[data-plan]')?.textContent.startsWith('10 pieces')")
        .await?;
    browser.click(".deeds .next").await?;
    let pdf = browser.downloaded(".pdf").await;
    let text = run(Path::new("pdftotext"), &["-raw", &pdf.to_string_lossy(), "-"]);
    assert_eq!(text.matches("Guest").count(), 10, "{text}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_greeting_card_is_folded_from_one_sheet_and_ordered_once_it_can_be() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::bare(program(), data.path());
    let wish = json!({ "design": "plain-words", "places": ["card-quarters"], "words": { "headline": "Made slow. Used daily." } });
    let id = served.post("/api/jobs", &wish)["id"].as_str().unwrap().to_owned();
    let browser = Browser::start(1280, 800).await?;
    let driver = browser.driver();
    driver.goto(format!("{}/jobs/{id}/hand-over/sheets", served.address)).await?;
    browser.find("[data-plan]").await?;
    choose(&browser, "kind", "quarters").await?;
    browser.until("one card", "return document.querySelector('[data-plan]')?.textContent.startsWith('1 card')").await?;
    assert!(browser.text(".plan").await?.contains("Fold the sheet from head to foot"));
    browser.click(".deeds .next").await?;
    assert_eq!(pages(&browser.downloaded(".pdf").await), 1);
    // The shop sends it back, as it has no bleed, and takes it in a size that has.
    browser.click("[data-way=shop]").await?;
    browser.find("[data-price]").await?;
    browser.click(".wish .next").await?;
    browser
        .until(
            "it is sent back",
            "return document.querySelector('[data-order=rejected]')?.textContent.includes('bleed')",
        )
        .await?;
    let open = served.get(&format!("/api/jobs/{id}"));
    let piece = open["job"]["pieces"][0]["id"].clone();
    let act =
        json!({ "base": open["revision"], "act": { "act": "changeFormat", "piece": piece, "place": "card-folded" } });
    let _ = served.post(&format!("/api/jobs/{id}/acts"), &act);
    browser.until("the window knows", "return document.body.textContent.includes('10 × 7 in')").await?;
    browser.until("it can be ordered", "return !document.querySelector('.wish .next').disabled").await?;
    browser.click(".wish .next").await?;
    browser.find("[data-order=accepted], [data-order=printing]").await?;
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn colours_are_seen_as_printed_and_artwork_on_cloth() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::start(program(), data.path(), 0);
    let browser = Browser::start(1280, 800).await?;
    let jobs = served.get("/api/jobs");
    let of = |title: &str| {
        jobs.as_array().unwrap().iter().find(|job| job["title"] == title).unwrap()["id"].as_str().unwrap().to_owned()
    };
    let driver = browser.driver();
    driver.goto(format!("{}/jobs/{}/check", served.address, of("Business card"))).await?;
    browser.find(".check .list .head label").await?;
    driver.execute("[...document.querySelectorAll('.head label')].find((one) => one.textContent.includes('As printed')).click()", Vec::new()).await?;
    browser.until("both are shown", "return document.querySelectorAll('.proof figure img').length === 2 && document.querySelectorAll('.proof tbody tr').length > 1").await?;
    browser.pictures_arrive().await?;
    driver.goto(format!("{}/jobs/{}/hand-over/cloth", served.address, of("Kiln tee and tote"))).await?;
    browser.until("it is weighed on every colour", "return [...document.querySelectorAll('[data-cloth] span')].filter((one) => one.textContent.includes('seen')).length >= 4").await?;
    browser.click("[data-cloth='#23201d']").await?;
    browser.until("and said", "return document.querySelector('[data-fine]').textContent.includes('mm')").await?;
    browser.pictures_arrive().await?;
    Ok(())
}

#[test]
fn the_command_line_imposes_and_merges() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("data");
    let id = {
        let served = Served::bare(program(), &data);
        let wish =
            json!({ "design": "plain-words", "places": ["2.1 x 7.4 in"], "words": { "headline": "Made slow." } });
        served.post("/api/jobs", &wish)["id"].as_str().unwrap().to_owned()
    };
    let (data, out) = (data.to_string_lossy().into_owned(), folder.path().join("sheets.pdf"));
    let piece = "Own size 2.1 \u{d7} 7.4 in";
    let target = out.to_string_lossy().into_owned();
    let said = run(
        program(),
        &[
            "impose",
            "--data",
            &data,
            "--job",
            &id,
            "--piece",
            piece,
            "--paper",
            "letter",
            "--margin",
            "0.25in,0.55in",
            "--turn",
            "short",
            "--marks",
            "--count",
            "7",
            "--out",
            &target,
            "--json",
        ],
    );
    let positions: Value = serde_json::from_str(&said).unwrap();
    let left: Vec<f64> = positions["sheets"][0]["front"]
        .as_array()
        .unwrap()
        .iter()
        .map(|side| side["x"]["in"].as_f64().unwrap())
        .collect();
    assert_eq!(left, [0.25, 2.35, 4.45, 6.55, 8.65]);
    assert_eq!((positions["sheets"].as_array().unwrap().len(), pages(&out)), (2, 2));
    run(Path::new("qpdf"), &["--check", &target]);
    let csv = folder.path().join("names.csv");
    std::fs::write(&csv, "Name\nInes\nTobin\nZo\u{eb}\n").unwrap();
    let csv = csv.to_string_lossy().into_owned();
    let said =
        run(program(), &["merge", "--data", &data, "--job", &id, "--piece", piece, "--csv", &csv, "--out", &target]);
    assert!(said.contains("3 rows, 0 left out") && pages(&out) == 3, "{said}");
    let said = run(
        program(),
        &["merge", "--data", &data, "--job", &id, "--piece", piece, "--csv", &csv, "--out", &target, "--impose", "a4"],
    );
    assert!(said.contains("3 rows") && pages(&out) == 1);
    let each = folder.path().join("each").to_string_lossy().into_owned();
    run(program(), &["merge", "--data", &data, "--job", &id, "--piece", piece, "--csv", &csv, "--out", &each]);
    assert_eq!(std::fs::read_dir(&each).unwrap().count(), 3);
    let wrong = Command::new(program())
        .args(["impose", "--data", &data, "--job", &id, "--piece", "Nothing", "--paper", "a4", "--out", &target])
        .output()
        .unwrap();
    assert_eq!(wrong.status.code(), Some(2));
}
