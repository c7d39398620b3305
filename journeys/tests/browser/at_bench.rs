//! One job on the bench, as the tests take hold of it.

use serde_json::Value;
use thirtyfour::prelude::*;
use vatman_journeys::{Browser, Served};

use crate::program;

pub const PX: f64 = 9_525.0;

/// One job of one design on the bench.
pub struct Bench {
    // The browser ends first: the program never leaves it alone.
    pub browser: Browser,
    pub served: Served,
    pub job: String,
    pub data: tempfile::TempDir,
}

impl Bench {
    pub async fn open(place: &str, design: &str) -> WebDriverResult<Self> {
        let data = tempfile::tempdir().unwrap();
        let served = Served::start(program(), data.path(), 0);
        let wish = serde_json::json!({ "design": design, "places": [place, "story"], "words": { "headline": "Made slow.", "when": "Saturday", "action": "Book a wheel" } });
        let made = served.post("/api/jobs", &wish);
        let job = made["id"].as_str().unwrap().to_owned();
        let browser = Browser::start(1280, 800).await?;
        // All groups of the card are open, as they are left by somebody who needs them all.
        browser.driver().goto(format!("{}/api/jobs", served.address)).await?;
        browser.driver().execute("localStorage.setItem('vatman-open', JSON.stringify(['type', 'frame', 'colour', 'light', 'place', 'ties', 'guides']))", Vec::new()).await?;
        let bench = Self { served, browser, job, data };
        bench.step("words").await?;
        Ok(bench)
    }

    pub async fn step(&self, step: &str) -> WebDriverResult<()> {
        self.browser.driver().goto(format!("{}/jobs/{}/{step}", self.served.address, self.job)).await?;
        self.browser.find(".stage g[data-item] [aria-label^='Made']").await?;
        self.browser.pictures_arrive().await
    }

    pub fn kept(&self) -> Value {
        ureq::get(format!("{}/api/jobs/{}", self.served.address, self.job))
            .call()
            .unwrap()
            .body_mut()
            .read_json()
            .unwrap()
    }

    /// The item of a part on the first side of the first piece.
    pub fn item(&self, part: &str) -> Value {
        let kept = self.kept();
        let kins = &kept["job"]["kins"];
        let is = |item: &&Value| kins[item["kin"].as_str().unwrap()]["part"] == part;
        kept["job"]["pieces"][0]["sides"][0]["items"]
            .as_array()
            .unwrap()
            .iter()
            .find(is)
            .unwrap_or_else(|| panic!("no {part}"))
            .clone()
    }

    /// Left, top, width and height in CSS pixels.
    pub fn rect(&self, part: &str) -> [f64; 4] {
        let item = self.item(part);
        ["x", "y", "w", "h"].map(|side| item["place"]["at"]["rect"][side].as_f64().unwrap() / PX)
    }

    pub fn look(&self, part: &str) -> Value {
        let kept = self.kept();
        kept["job"]["kins"].as_object().unwrap().values().find(|kin| kin["part"] == part).unwrap()["look"].clone()
    }

    pub async fn scale(&self) -> WebDriverResult<f64> {
        let percent: f64 = self
            .browser
            .driver()
            .execute("return parseFloat(document.querySelector('.strip .percent').textContent)", Vec::new())
            .await?
            .convert()?;
        Ok(percent / 100.0)
    }

    /// Waits until everything done so far is kept, and the page shows what is kept.
    pub async fn settled(&self) -> WebDriverResult<()> {
        self.browser.drawn().await?;
        self.browser.until("everything is kept", "const kept = document.querySelector('.bar .kept'); return kept.dataset.saving === '0' && kept.textContent.startsWith('kept') && document.body.getAttribute('aria-busy') !== 'true'").await?;
        let newest = self.kept()["revision"].clone();
        let script = format!("return document.querySelector('.bar .kept').dataset.revision === String({newest})");
        self.browser.until("the newest state is shown", &script).await?;
        self.browser.drawn().await
    }

    pub async fn pick(&self, css: &str) -> WebDriverResult<(i64, i64)> {
        let (x, y) = self.browser.middle(css).await?;
        self.browser.hand().move_to(x, y).click().perform().await?;
        self.browser.find(".chosen").await?;
        Ok((x, y))
    }

    pub async fn keys(&self, modifier: Option<Key>, keys: impl Into<TypingData>) -> WebDriverResult<()> {
        let mut chain = self.browser.hand();
        if let Some(key) = modifier.clone() {
            chain = chain.key_down(key);
        }
        chain = chain.send_keys(keys);
        if let Some(key) = modifier {
            chain = chain.key_up(key);
        }
        chain.perform().await?;
        self.settled().await
    }

    pub async fn undo(&self) -> WebDriverResult<()> {
        self.browser.click("button[aria-label=Undo]").await?;
        self.settled().await
    }

    /// Chooses an entry of a list or a menu on the page by its value or name.
    pub async fn choose(&self, label: &str, entry: &str) -> WebDriverResult<()> {
        let control = format!("button[data-menu='{label}'], [aria-label='{label}'][role=combobox]");
        self.browser.find(&control).await?;
        let open = "const found = document.querySelector(arguments[0]); (found.closest('.el-select__wrapper') ?? found).click()";
        self.browser.driver().execute(open, vec![control.into()]).await?;
        let script = "const shown = [...document.querySelectorAll('.el-select-dropdown__item, .el-dropdown-menu__item')].filter((one) => one.checkVisibility()); const found = shown.find((one) => one.dataset.value === arguments[0] || (one.querySelector('.does') ?? one).textContent.trim() === arguments[0]); found?.click(); return !!found";
        for _ in 0..100 {
            if self.browser.driver().execute(script, vec![entry.into()]).await?.json().as_bool() == Some(true) {
                return self.settled().await;
            }
            tokio::time::sleep(std::time::Duration::from_millis(50)).await;
        }
        panic!("{label} has no entry {entry}");
    }

    /// Presses the button that says something.
    pub async fn press(&self, text: &str) -> WebDriverResult<()> {
        let script = "const found = [...document.querySelectorAll('button')].find((button) => button.textContent.trim() === arguments[0]); found?.click(); return !!found";
        for _ in 0..100 {
            if self.browser.driver().execute(script, vec![text.into()]).await?.json().as_bool() == Some(true) {
                return self.settled().await;
            }
            tokio::time::sleep(std::time::Duration::from_millis(50)).await;
        }
        panic!("no button says {text}");
    }

    /// All items of the first side of the first piece, back to front.
    pub fn items(&self) -> Vec<Value> {
        self.kept()["job"]["pieces"][0]["sides"][0]["items"].as_array().unwrap().clone()
    }

    /// Types into a field of the card.
    pub async fn enter(&self, label: &str, text: &str) -> WebDriverResult<()> {
        self.browser.click(&format!("input[aria-label='{label}']")).await?;
        self.browser
            .driver()
            .action_chain()
            .key_down(Key::Control)
            .send_keys("a")
            .key_up(Key::Control)
            .send_keys(text)
            .send_keys(Key::Enter)
            .perform()
            .await?;
        self.settled().await
    }
}

pub const HEADLINE: &str = ".stage g[data-item] [aria-label^='Made']";
pub const PICTURE: &str = ".stage g[data-item] image";
