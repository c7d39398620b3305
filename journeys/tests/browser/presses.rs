//! How many presses a whole job takes from the opened board, besides typing. The figures stand in docs/performance.md.

use thirtyfour::prelude::*;
use vatman_journeys::{Browser, Served};

use crate::{TURN, program};

/// A hand that counts.
struct Hand<'a> {
    browser: &'a Browser,
    presses: usize,
}

impl<'a> Hand<'a> {
    async fn at_board(browser: &'a Browser, served: &Served) -> WebDriverResult<Self> {
        browser.driver().goto(&served.address).await?;
        browser.find(".job img").await?;
        Ok(Self { browser, presses: 0 })
    }

    /// Presses the element of a selector.
    async fn press(&mut self, css: &str) -> WebDriverResult<()> {
        self.browser.click(css).await?;
        self.presses += 1;
        tokio::time::sleep(std::time::Duration::from_millis(150)).await;
        Ok(())
    }

    /// Presses where the middle of something on the sheet is.
    async fn press_at(&mut self, css: &str) -> WebDriverResult<()> {
        self.browser.find(css).await?;
        self.browser.pictures_arrive().await?;
        let (x, y) = self.browser.middle(css).await?;
        self.browser.driver().action_chain().move_to(x, y).click().perform().await?;
        self.presses += 1;
        Ok(())
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_post_from_a_design_with_own_words_and_picture_takes_eight() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::start(program(), data.path(), 0);
    let browser = Browser::start(1280, 800).await?;
    let mut hand = Hand::at_board(&browser, &served).await?;
    hand.press("header a.next").await?;
    browser.find("textarea[name=headline]").await?.send_keys("Made slow.").await?;
    hand.press("[data-design=doorway]").await?;
    hand.press(".bar a[href$='/pictures']").await?;
    hand.press_at(".stage g[data-item] image").await?;
    hand.press(".swap .el-switch").await?;
    hand.press("[data-picture]:last-child").await?;
    hand.press(".bar a[href$='/hand-over']").await?;
    browser
        .until(
            "the file is made",
            "return document.querySelectorAll('.files li').length === 1 && !document.querySelector('.go').disabled",
        )
        .await?;
    hand.press(".go").await?;
    assert!(hand.presses <= 8, "{} presses", hand.presses);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_collage_of_five_with_another_form_later_takes_ten() -> WebDriverResult<()> {
    let _turn = TURN.lock().await;
    let data = tempfile::tempdir().unwrap();
    let served = Served::start(program(), data.path(), 0);
    let browser = Browser::start(1280, 800).await?;
    let mut hand = Hand::at_board(&browser, &served).await?;
    hand.press("header a.next").await?;
    hand.press("[data-design=pictures]").await?;
    let place = "const box = document.querySelector('.pictures').getBoundingClientRect(); return Math.round(box.top)";
    browser.find(".pictures li").await?;
    let top: i64 = browser.driver().execute(place, Vec::new()).await?.convert()?;
    for number in 1..=5 {
        // All five in a row of presses: the grid stays under the pointer. Counted as one act of choosing below.
        browser.click(&format!(".pictures li:nth-child({number}) button")).await?;
        let now: i64 = browser.driver().execute(place, Vec::new()).await?.convert()?;
        assert_eq!(now, top, "the grid moved under the pointer");
    }
    hand.presses += 5;
    hand.press(".beside .arrange li:nth-child(1) button").await?;
    browser
        .until(
            "five pictures stand on the sheet",
            "return document.querySelectorAll('.stage g[data-item] image').length === 5",
        )
        .await?;
    let cells = "return [...document.querySelectorAll('.stage g[data-item]')].map((item) => { const box = item.getBoundingClientRect(); return [box.x, box.y, box.width, box.height].map(Math.round).join() }).join(' ')";
    let before: String = browser.driver().execute(cells, Vec::new()).await?.convert()?;
    // Later: they are still one group, and another form is one press away.
    browser.click(".card .arrange li:nth-child(4) button").await?;
    let at_once = hand.presses + 1;
    browser.until("they stand otherwise", &format!("{cells} !== '{before}'")).await?;
    assert!(at_once <= 10, "{at_once} presses");
    Ok(())
}
