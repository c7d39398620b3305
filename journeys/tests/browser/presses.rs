//! How many presses a whole job takes from the opened board, besides typing. The figures stand in docs/performance.md.

use thirtyfour::prelude::*;
use vatman_journeys::{Browser, Served};

use crate::{TURN, program};

/// A hand that counts, at the board of a program of its own.
struct Hand {
    // The browser ends first: the program never leaves it alone.
    browser: Browser,
    _served: Served,
    _data: tempfile::TempDir,
    presses: usize,
}

impl Hand {
    async fn at_board() -> WebDriverResult<Self> {
        let data = tempfile::tempdir().unwrap();
        let served = Served::start(program(), data.path(), 0);
        let browser = Browser::start(1280, 800).await?;
        browser.driver().goto(&served.address).await?;
        browser.find(".job img").await?;
        Ok(Self { browser, _served: served, _data: data, presses: 0 })
    }

    /// Presses the element of a selector.
    async fn press(&mut self, css: &str) -> WebDriverResult<()> {
        self.browser.click(css).await?;
        self.presses += 1;
        self.browser.drawn().await
    }

    /// Presses where the middle of something on the sheet is.
    async fn press_at(&mut self, css: &str) -> WebDriverResult<()> {
        self.browser.find(css).await?;
        self.browser.pictures_arrive().await?;
        let (x, y) = self.browser.middle(css).await?;
        self.browser.hand().move_to(x, y).click().perform().await?;
        self.presses += 1;
        Ok(())
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_post_from_a_design_with_own_words_and_picture_takes_eight() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let mut hand = Hand::at_board().await?;
    hand.press("header a.next").await?;
    hand.browser.find("textarea[name=headline]").await?.send_keys("Made slow.").await?;
    hand.press("[data-design=doorway]").await?;
    hand.press(".bar a[href$='/pictures']").await?;
    hand.press_at(".stage g[data-item] image").await?;
    hand.press(".swap .el-switch").await?;
    hand.press("[data-picture]:last-child").await?;
    hand.press(".bar a[href$='/hand-over']").await?;
    hand.browser
        .until(
            "the file is made",
            "return document.querySelectorAll('.files > ul li').length === 1 && !document.querySelector('.go').disabled",
        )
        .await?;
    hand.press(".go").await?;
    assert!(hand.presses <= 8, "{} presses", hand.presses);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_collage_of_five_with_another_form_later_takes_ten() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let mut hand = Hand::at_board().await?;
    hand.press("header a.next").await?;
    hand.press("[data-design=pictures]").await?;
    let place = "const box = document.querySelector('.pictures').getBoundingClientRect(); return Math.round(box.top)";
    hand.browser.find(".pictures li").await?;
    let top: i64 = hand.browser.driver().execute(place, Vec::new()).await?.convert()?;
    for number in 1..=5 {
        // All five in a row of presses: the grid stays under the pointer. Counted as one act of choosing below.
        hand.browser.click(&format!(".pictures li:nth-child({number}) button")).await?;
        let now: i64 = hand.browser.driver().execute(place, Vec::new()).await?.convert()?;
        assert_eq!(now, top, "the grid moved under the pointer");
    }
    hand.presses += 5;
    hand.press(".forms .arrange li:nth-child(1) button").await?;
    hand.browser
        .until(
            "five pictures stand on the sheet",
            "return document.querySelectorAll('.stage g[data-item] image').length === 5",
        )
        .await?;
    let cells = "return [...document.querySelectorAll('.stage g[data-item]')].map((item) => { const box = item.getBoundingClientRect(); return [box.x, box.y, box.width, box.height].map(Math.round).join() }).join(' ')";
    let before: String = hand.browser.driver().execute(cells, Vec::new()).await?.convert()?;
    // Later: they are still one group, and another form is one press away.
    hand.browser.click(".card .arrange li:nth-child(4) button").await?;
    let at_once = hand.presses + 1;
    hand.browser.until("they stand otherwise", &format!("{cells} !== '{before}'")).await?;
    assert!(at_once <= 10, "{at_once} presses");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_quotation_that_reads_on_a_photograph_takes_ten() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let mut hand = Hand::at_board().await?;
    hand.press("header a.next").await?;
    hand.press("[data-design=blank]").await?;
    hand.press(".bar a[href$='/pictures']").await?;
    hand.press("[data-picture]:nth-of-type(1)").await?;
    hand.browser.find(".stage g[data-item] image").await?;
    hand.press(".bar a[href$='/words']").await?;
    hand.press("button[data-menu='Add a text']").await?;
    hand.press(".el-dropdown-menu__item[data-value=headline]").await?;
    hand.browser.find("textarea.keys").await?;
    hand.browser.hand().send_keys("Slow hands make still water.").perform().await?;
    hand.browser.hand().send_keys(Key::Escape + "").perform().await?;
    hand.browser.until("the contrast is measured", "return document.querySelector('.contrast p b') !== null").await?;
    // The ground is darkened where it does not read yet; where it does there is nothing to press. Words just typed may still be set anew
    // and measured again: it reads when it goes on doing so.
    let state = "const line = document.querySelector('.contrast'); const shade = line?.querySelector(\"[data-repair='shade']\"); return line?.classList.contains('good') ? 'good' : shade && !shade.disabled ? 'offered' : ''";
    let mut good = 0;
    for _ in 0..80 {
        let now = hand.browser.driver().execute(state, Vec::new()).await?.json().clone();
        good = if now == "good" { good + 1 } else { 0 };
        if good > 3 {
            break;
        }
        if now == "offered" {
            hand.press(".contrast [data-repair='shade']").await?;
        }
        tokio::time::sleep(std::time::Duration::from_millis(200)).await;
    }
    assert!(good > 3, "it never read well");
    assert!(hand.presses <= 10, "{} presses", hand.presses);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_card_with_two_sides_and_contact_lines_takes_fourteen() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let mut hand = Hand::at_board().await?;
    hand.press("header a.next").await?;
    hand.press("[data-place=card]").await?;
    hand.browser.find("textarea[name=headline]").await?.send_keys("Ines Carrow").await?;
    hand.browser.find("textarea[name=support]").await?.send_keys("Thrown and glazed by hand").await?;
    hand.press("[data-design=label]").await?;
    hand.press("button[data-menu='Sides and piece']").await?;
    hand.press(".el-dropdown-menu__item[data-value=blank]").await?;
    hand.browser.until("the back is shown", "return document.querySelectorAll('.rail .sheet').length === 2").await?;
    hand.press(".contacts .act").await?;
    hand.browser
        .find(".contacts textarea")
        .await?
        .send_keys("ines@mossback.example\nmossback.example\n12 Kiln Lane, Harrowmere")
        .await?;
    hand.press(".contacts .act").await?;
    hand.browser
        .until("three lines with a sign each", "return document.querySelectorAll('.stage g[data-item]').length === 6")
        .await?;
    hand.press(".bar a[href$='/hand-over']").await?;
    hand.press("[data-kind=pdf]").await?;
    let made = "const files = [...document.querySelectorAll('.files > ul li span')].map((file) => file.textContent); return files.length === 1 && files[0].endsWith('.pdf') && !document.querySelector('.go').disabled";
    hand.browser.until("the file is made", made).await?;
    hand.press(".go").await?;
    assert!(hand.presses <= 14, "{} presses", hand.presses);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_mark_of_a_name_and_a_graphic_as_two_files_takes_twelve() -> WebDriverResult<()> {
    let _turn = TURN.alone().await;
    let mut hand = Hand::at_board().await?;
    hand.press("header a.next").await?;
    hand.press("[data-place=mark]").await?;
    hand.browser.find("textarea[name=headline]").await?.send_keys("Mossback Kiln").await?;
    hand.press("[data-design=kiln-mark]").await?;
    hand.press(".bar a[href$='/pictures']").await?;
    hand.press(".what label:nth-of-type(2)").await?;
    hand.browser.find("input[aria-label='Find a graphic']").await?.send_keys("leaf").await?;
    hand.browser.until("leaves are found", "return document.querySelectorAll('button.graphic').length > 0 && !document.querySelector('button.graphic').disabled").await?;
    hand.browser.drawn().await?;
    hand.press("button.graphic").await?;
    hand.press(".bar a[href$='/hand-over']").await?;
    for kind in ["png", "svg"] {
        if kind == "svg" {
            hand.press("[data-kind=svg]").await?;
        }
        let made = format!(
            "const files = [...document.querySelectorAll('.files > ul li span')].map((file) => file.textContent); return files.length === 1 && files[0].endsWith('.{kind}') && !document.querySelector('.go').disabled"
        );
        hand.browser.until("the file is made", &made).await?;
        hand.press(".go").await?;
        let path = hand.browser.downloaded(&format!(".{kind}")).await;
        if kind == "png" {
            let picture = image::open(&path).unwrap().to_rgba8();
            assert_eq!(picture.get_pixel(2, 2)[3], 0, "a mark is clear where nothing stands");
        } else {
            assert!(std::fs::read_to_string(&path).unwrap().contains("<svg"));
        }
    }
    assert!(hand.presses <= 12, "{} presses", hand.presses);
    Ok(())
}
