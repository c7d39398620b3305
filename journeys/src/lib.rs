//! Driving the real interface: the program as a process, and headless browsers with fresh profiles.

use std::ffi::OsString;
use std::io::{BufRead as _, BufReader};
use std::net::{TcpListener, TcpStream};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Mutex, OnceLock, PoisonError};
use std::time::{Duration, Instant};

use serde_json::Value;
use thirtyfour::SessionId;
use thirtyfour::action_chain::ActionChain;
use thirtyfour::error::WebDriverErrorInner;
use thirtyfour::prelude::*;
use thirtyfour::session::handle::SessionHandle;
use vatman_server::OWN_HEADER;

/// The program, serving a data folder; killed when dropped.
pub struct Served {
    child: Child,
    /// `http://127.0.0.1:PORT`.
    pub address: String,
}

impl Served {
    /// Starts the program at `port`, or at any free one where it is 0.
    #[must_use]
    pub fn start(program: &Path, data: &Path, port: u16) -> Self {
        Self::at(program, data, &format!("127.0.0.1:{port}"), true)
    }

    /// Starts the program at any free port, without the demo.
    #[must_use]
    pub fn bare(program: &Path, data: &Path) -> Self {
        Self::at(program, data, "127.0.0.1:0", false)
    }

    /// Starts the program at an address. Where the demo is wanted in an empty folder, it is laid there ready made.
    #[must_use]
    pub fn at(program: &Path, data: &Path, bind: &str, demo: bool) -> Self {
        if demo && data.read_dir().is_ok_and(|mut entries| entries.next().is_none()) {
            for (name, bytes) in ready_made(program) {
                std::fs::write(data.join(name), bytes).expect("the data folder takes files");
            }
        }
        Self::started(program, data, bind, demo)
    }

    fn started(program: &Path, data: &Path, bind: &str, demo: bool) -> Self {
        let mut command = Command::new(program);
        command.args(["serve", "--bind", bind, "--data"]).arg(data);
        if demo {
            command.arg("--demo");
        }
        let mut child = command.stdout(Stdio::piped()).spawn().expect("the program starts");
        let mut line = String::new();
        let out = child.stdout.take().expect("it has an output");
        BufReader::new(out).read_line(&mut line).expect("it prints its address");
        let address = line
            .trim()
            .strip_prefix("Vatman is at ")
            .unwrap_or_else(|| panic!("no address in {line:?}"))
            .trim_end_matches('/')
            .to_owned();
        Self { child, address }
    }

    /// What it answers at a path.
    #[must_use]
    pub fn get(&self, path: &str) -> Value {
        self::get(&self.address, path)
    }

    /// Sends it something that changes something.
    #[must_use]
    pub fn post(&self, path: &str, body: &Value) -> Value {
        self::post(&self.address, path, body)
    }

    /// The number of its process.
    #[must_use]
    pub fn process(&self) -> u32 {
        self.child.id()
    }

    /// The port it listens on.
    #[must_use]
    pub fn port(&self) -> u16 {
        self.address.rsplit(':').next().and_then(|port| port.parse().ok()).expect("an address ends in a port")
    }

    /// Ends it with SIGKILL.
    pub fn kill(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

impl Drop for Served {
    fn drop(&mut self) {
        self.kill();
    }
}

/// The files of a data folder in which the program made its demo: to make it takes longer than much of what is tried with it.
fn ready_made(program: &Path) -> &'static [(OsString, Vec<u8>)] {
    static FILES: OnceLock<Vec<(OsString, Vec<u8>)>> = OnceLock::new();
    FILES.get_or_init(|| {
        let folder = tempfile::tempdir().expect("a folder for the demo");
        drop(Served::started(program, folder.path(), "127.0.0.1:0", true));
        let entries = folder.path().read_dir().expect("the folder is there");
        let files = entries.map(|entry| entry.expect("an entry")).filter(|entry| entry.path().is_file());
        files.map(|entry| (entry.file_name(), std::fs::read(entry.path()).expect("a file that can be read"))).collect()
    })
}

/// What a served program answers at a path.
#[must_use]
pub fn get(address: &str, path: &str) -> Value {
    let mut response = ureq::get(format!("{address}{path}")).call().expect("an answer");
    response.body_mut().with_config().limit(64 << 20).read_json().expect("JSON")
}

/// Sends a served program something that changes something, as a program on the same machine may.
#[must_use]
pub fn post(address: &str, path: &str, body: &Value) -> Value {
    try_post(address, path, body).expect("an answer")
}

/// The same, where it may be gone; then nothing.
#[must_use]
pub fn try_post(address: &str, path: &str, body: &Value) -> Option<Value> {
    let request = ureq::post(format!("{address}{path}")).header(OWN_HEADER, "1");
    request.send_json(body).ok()?.body_mut().read_json().ok()
}

/// The file of a hand-over, once it is made.
///
/// # Panics
/// Where it fails, or takes longer than five minutes.
#[must_use]
pub fn handed(address: &str, job: &str, wish: &Value) -> Vec<u8> {
    let work = post(address, &format!("/api/jobs/{job}/files"), wish)["id"].as_str().expect("work").to_owned();
    let limit = Instant::now() + Duration::from_secs(300);
    loop {
        let state = get(address, &format!("/api/work/{work}"))["state"].clone();
        match state["is"].as_str() {
            Some("done") => break,
            Some("waiting" | "running") if Instant::now() < limit => std::thread::sleep(Duration::from_millis(20)),
            _ => panic!("the files of {job} were not made: {state}"),
        }
    }
    let mut response = ureq::get(format!("{address}/api/work/{work}/file")).call().expect("a file");
    response.body_mut().with_config().limit(256 << 20).read_to_vec().expect("its bytes")
}

/// A headless browser with its driver, in processes of their own. They end when this is dropped, or with the process that started them.
struct Engine {
    /// Holds both for as long as its input is open.
    keeper: Child,
    /// Where its driver answers.
    address: String,
    session: SessionId,
    /// Where it puts downloads.
    downloads: PathBuf,
}

/// Browsers nobody drives at the moment: to start one takes as long as much of what is tried with it.
static IDLE: Mutex<Vec<Engine>> = Mutex::new(Vec::new());

/// Runs a driver in a group of processes of its own until the input ends, and removes the folder of its browser.
const KEEPER: &str = r#"set -m
chromedriver --port="$1" --log-level=OFF >/dev/null 2>&1 &
read -r _
kill -KILL -- "-$!"
wait
rm -rf "$0""#;

impl Engine {
    /// Starts one with a fresh profile.
    async fn start(width: u32, height: u32) -> WebDriverResult<Self> {
        let folder = tempfile::tempdir().expect("a folder for the profile").keep();
        let downloads = folder.join("downloads");
        std::fs::create_dir_all(&downloads).expect("a folder for downloads");
        let mut wanted = DesiredCapabilities::chrome();
        for argument in [
            "--headless=new",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--hide-scrollbars",
            "--force-device-scale-factor=1",
            "--force-color-profile=srgb",
            "--force-prefers-reduced-motion",
        ] {
            wanted.add_arg(argument)?;
        }
        wanted.add_arg(&format!("--user-data-dir={}", folder.join("profile").display()))?;
        wanted.add_arg(&format!("--window-size={width},{height}"))?;
        wanted.set_base_capability("goog:loggingPrefs", serde_json::json!({ "browser": "ALL" }))?;
        wanted.add_experimental_option(
            "prefs",
            serde_json::json!({ "download.default_directory": downloads, "download.prompt_for_download": false }),
        )?;
        let port = free_port();
        #[allow(clippy::zombie_processes, reason = "waited for when the engine is dropped")]
        let keeper = Command::new("bash")
            .args(["-c", KEEPER])
            .arg(&folder)
            .arg(port.to_string())
            .stdin(Stdio::piped())
            .stdout(Stdio::null())
            .stderr(Stdio::null())
            .spawn()
            .expect("a shell starts");
        for _ in 0..200 {
            if TcpStream::connect(("127.0.0.1", port)).is_ok() {
                break;
            }
            tokio::time::sleep(Duration::from_millis(50)).await;
        }
        let address = format!("http://127.0.0.1:{port}");
        let first = WebDriver::new(&address, wanted).await?;
        let session = first.handle.session_id().clone();
        first.leak().expect("the session has just begun");
        Ok(Self { keeper, address, session, downloads })
    }

    /// A hand on its session. Connections belong to whoever awaits them, and every test awaits by itself.
    fn driver(&self) -> WebDriverResult<WebDriver> {
        let client = Arc::new(reqwest::Client::new());
        let handle = SessionHandle::new(client, self.address.as_str(), self.session.clone())?;
        Ok(WebDriver { handle: Arc::new(handle) })
    }

    /// Asks the driver; nothing where it refuses.
    fn ask(&self, what: Ask<'_>, path: &str) -> Option<Value> {
        let url = format!("{}/session/{}/{path}", self.address, self.session);
        let mut answer = match what {
            Ask::Get => ureq::get(url).call(),
            Ask::Delete => ureq::delete(url).call(),
            Ask::Post(body) => ureq::post(url).send_json(body),
        }
        .ok()?;
        let answer: Value = answer.body_mut().with_config().limit(64 << 20).read_json().ok()?;
        Some(answer["value"].clone())
    }

    /// Leaves nothing behind for whoever drives it next; nothing where that cannot be.
    fn clear(&self) -> Option<()> {
        let windows = self.ask(Ask::Get, "window/handles")?;
        let (first, others) = windows.as_array()?.split_first()?;
        for other in others {
            self.ask(Ask::Post(&serde_json::json!({ "handle": other })), "window")?;
            self.ask(Ask::Delete, "window")?;
        }
        self.ask(Ask::Post(&serde_json::json!({ "handle": first })), "window")?;
        self.ask(Ask::Delete, "actions")?;
        let forget = serde_json::json!({ "script": "localStorage.clear(); sessionStorage.clear()", "args": [] });
        self.ask(Ask::Post(&forget), "execute/sync")?;
        self.ask(Ask::Post(&serde_json::json!({ "url": "about:blank" })), "url")?;
        self.complaints()?;
        for entry in self.downloads.read_dir().ok()? {
            std::fs::remove_file(entry.ok()?.path()).ok()?;
        }
        Some(())
    }

    /// What pages complained about since this was last asked.
    fn complaints(&self) -> Option<Vec<String>> {
        let entries = self.ask(Ask::Post(&serde_json::json!({ "type": "browser" })), "se/log")?;
        let severe = |entry: &&Value| entry["level"] == "SEVERE";
        let all = entries.as_array()?.iter().filter(severe);
        Some(all.map(|entry| entry["message"].as_str().unwrap_or_default().to_owned()).collect())
    }
}

/// How a driver is asked.
#[derive(Clone, Copy)]
enum Ask<'b> {
    Get,
    Delete,
    Post(&'b Value),
}

impl Drop for Engine {
    fn drop(&mut self) {
        drop(self.keeper.stdin.take());
        let _ = self.keeper.wait();
    }
}

/// A headless browser that is driven by one test at a time. It is used again once nothing of the last test is left in it.
pub struct Browser {
    /// Nothing only while being dropped.
    engine: Option<Engine>,
    /// Nothing only while being dropped.
    session: Option<WebDriver>,
    /// Where it puts downloads.
    pub downloads: PathBuf,
    /// What complaints of the page may be about, because it is part of what is tried.
    forgiven: Mutex<Vec<String>>,
    altered: AtomicBool,
}

impl Browser {
    /// One with a window of `width` by `height` CSS pixels inside.
    ///
    /// # Errors
    /// Where browser or driver do not start.
    pub async fn start(width: u32, height: u32) -> WebDriverResult<Self> {
        let idle = IDLE.lock().unwrap_or_else(PoisonError::into_inner).pop();
        let engine = match idle {
            Some(engine) => engine,
            None => Engine::start(width, height).await?,
        };
        let browser = Self {
            session: Some(engine.driver()?),
            downloads: engine.downloads.clone(),
            engine: Some(engine),
            forgiven: Mutex::default(),
            altered: AtomicBool::new(false),
        };
        browser.resize(width, height).await?;
        Ok(browser)
    }

    /// A hand at its mouse and its keys. It gets from one place to another in 60 ms, in a few moves.
    #[must_use]
    pub fn hand(&self) -> ActionChain {
        self.driver().action_chain_with_delay(None, Some(Duration::from_millis(60)))
    }

    /// It is changed in a way that outlives its page, and ends with this test.
    pub fn alter(&self) {
        self.altered.store(true, Ordering::Relaxed);
    }

    /// The browser.
    ///
    /// # Panics
    /// Never while it is alive.
    #[must_use]
    pub fn driver(&self) -> &WebDriver {
        self.session.as_ref().expect("the session lives as long as the browser")
    }

    /// The page may complain about this: it is part of what is tried.
    pub fn forgive(&self, what: &str) {
        self.forgiven.lock().unwrap_or_else(PoisonError::into_inner).push(what.to_owned());
    }

    /// What the page complained about since this was last asked: errors in scripts, and requests that failed.
    #[must_use]
    pub fn complaints(&self) -> Vec<String> {
        self.engine.as_ref().and_then(Engine::complaints).unwrap_or_default()
    }

    /// Makes the page `width` by `height` CSS pixels.
    ///
    /// # Errors
    /// Where the browser does not answer.
    pub async fn resize(&self, width: u32, height: u32) -> WebDriverResult<()> {
        let inside =
            self.driver().execute("return [outerWidth - innerWidth, outerHeight - innerHeight]", Vec::new()).await?;
        let frame: (i64, i64) = inside.convert()?;
        let outer = |length: u32, frame: i64| u32::try_from(i64::from(length) + frame).unwrap_or(length);
        self.driver().set_window_rect(0, 0, outer(width, frame.0), outer(height, frame.1)).await
    }

    /// Presses at the first point, moves through the others and lets go at the last; CSS pixels of the page.
    ///
    /// # Errors
    /// Where the browser does not answer.
    pub async fn drag(&self, points: &[(i64, i64)]) -> WebDriverResult<()> {
        let mut chain = self.hand();
        for (i, (x, y)) in points.iter().enumerate() {
            chain = chain.move_to(*x, *y);
            if i == 0 {
                chain = chain.click_and_hold();
            }
        }
        chain.release().perform().await
    }

    /// Presses twice at a point, after a press that selects what is there: the first time something is selected the page builds its card,
    /// and a driver that waits for it would press the second time too late.
    ///
    /// # Errors
    /// Where the browser does not answer.
    pub async fn double_press(&self, x: i64, y: i64) -> WebDriverResult<()> {
        self.hand().move_to(x, y).click().perform().await?;
        self.rest().await;
        self.hand().move_to(x, y).double_click().perform().await
    }

    /// The hand rests for so long that what it presses next is no second press: what tells the two apart is time alone.
    pub async fn rest(&self) {
        tokio::time::sleep(Duration::from_millis(700)).await;
    }

    /// Waits until the page has drawn what it knows: two frames, as what watches sizes is told once a frame and may ask for another.
    ///
    /// # Errors
    /// Where the browser does not answer.
    pub async fn drawn(&self) -> WebDriverResult<()> {
        let script = "
            const done = arguments[arguments.length - 1];
            requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done, 0)));
            // One that is not shown has no frames.
            setTimeout(done, 500);";
        self.driver().execute_async(script, Vec::new()).await?;
        Ok(())
    }

    /// The download that ends in `ending`, once all of it has arrived.
    ///
    /// # Panics
    /// Where there is none within 30 seconds.
    pub async fn downloaded(&self, ending: &str) -> PathBuf {
        for _ in 0..600 {
            let files: Vec<PathBuf> = std::fs::read_dir(&self.downloads)
                .expect("the folder of downloads")
                .flatten()
                .map(|entry| entry.path())
                .collect();
            let named = |path: &&PathBuf, ending: &str| path.to_string_lossy().ends_with(ending);
            let under_way = files.iter().any(|path| named(&path, ".crdownload"));
            // The name is taken before the bytes are there.
            let whole = |path: &&PathBuf| path.metadata().is_ok_and(|found| found.len() > 0);
            if let Some(path) = files.iter().find(|path| named(path, ending) && whole(path)).filter(|_| !under_way) {
                return path.clone();
            }
            tokio::time::sleep(Duration::from_millis(50)).await;
        }
        panic!("no {ending} was downloaded");
    }

    /// The middle of the first element of a selector once it keeps still, in CSS pixels of the page: what is just being laid out is no
    /// place for a press.
    ///
    /// # Errors
    /// Where there is none.
    pub async fn middle(&self, css: &str) -> WebDriverResult<(i64, i64)> {
        // What watches sizes is told once a frame, so a frame passes first; one that is not shown has none.
        let script = "
            const done = arguments[arguments.length - 1];
            const tell = () => {
                const box = document.querySelector(arguments[0]).getBoundingClientRect();
                done([Math.round(box.x + box.width / 2), Math.round(box.y + box.height / 2)]);
            };
            let told = false;
            const once = () => told || (told = true, tell());
            requestAnimationFrame(() => requestAnimationFrame(once));
            setTimeout(once, 500);";
        let now = || async { self.driver().execute_async(script, vec![css.into()]).await?.convert::<(i64, i64)>() };
        let mut at = now().await?;
        for _ in 0..100 {
            tokio::time::sleep(Duration::from_millis(50)).await;
            let later = now().await?;
            if later == at {
                break;
            }
            at = later;
        }
        Ok(at)
    }

    /// The element of a selector, waiting for it.
    ///
    /// # Errors
    /// Where it does not appear.
    pub async fn find(&self, css: &str) -> WebDriverResult<WebElement> {
        self.driver().query(By::Css(css)).wait(Duration::from_secs(20), Duration::from_millis(30)).first().await
    }

    /// Clicks the element of a selector, waiting for it.
    ///
    /// # Errors
    /// Where it does not appear or cannot be clicked.
    pub async fn click(&self, css: &str) -> WebDriverResult<()> {
        for _ in 0..5 {
            // The page may draw the element anew between finding and clicking it.
            match self.find(css).await?.click().await {
                Err(error) if matches!(error.as_inner(), WebDriverErrorInner::StaleElementReference(_)) => {}
                // What moves to another place is pressed there.
                Err(error) if matches!(error.as_inner(), WebDriverErrorInner::ElementClickIntercepted(_)) => {
                    self.drawn().await?;
                }
                outcome => return outcome,
            }
        }
        self.find(css).await?.click().await
    }

    /// The text of the first element of a selector, waiting for it.
    ///
    /// # Errors
    /// Where it does not appear.
    pub async fn text(&self, css: &str) -> WebDriverResult<String> {
        self.find(css).await?;
        self.driver()
            .execute("return document.querySelector(arguments[0])?.textContent ?? ''", vec![css.into()])
            .await?
            .convert()
    }

    /// Runs a script that returns whether something holds, until it does.
    ///
    /// # Panics
    /// Where it does not hold within 20 seconds.
    ///
    /// # Errors
    /// Where the script fails.
    pub async fn until(&self, what: &str, script: &str) -> WebDriverResult<()> {
        for _ in 0..400 {
            if self.driver().execute(script, Vec::new()).await?.json().as_bool() == Some(true) {
                return Ok(());
            }
            tokio::time::sleep(Duration::from_millis(50)).await;
        }
        let picture = std::env::temp_dir().join(format!("vatman-in-vain-{}.png", std::process::id()));
        self.driver().screenshot(&picture).await?;
        let said =
            self.driver().execute("return document.querySelector('.notices')?.innerText ?? ''", Vec::new()).await?;
        panic!("waited in vain until {what}; the page says {}; see {}", said.json(), picture.display());
    }

    /// Waits until every picture of the page has arrived.
    ///
    /// # Errors
    /// Where the browser does not answer.
    pub async fn pictures_arrive(&self) -> WebDriverResult<()> {
        let script = "
            const links = [...document.querySelectorAll('svg image')].map((image) => image.href.baseVal);
            // What the browser does not list any more is asked for once more, from its cache.
            window.asked ??= {};
            const here = (link) => (window.asked[link] ??= Object.assign(new Image(), { src: link })).complete;
            const loaded = performance.getEntriesByType('resource').filter((entry) => entry.responseEnd > 0).map((entry) => new URL(entry.name).pathname + new URL(entry.name).search);
            return document.fonts.status === 'loaded' && [...document.images].every((image) => image.complete || image.loading === 'lazy') && links.every((link) => link.startsWith('data:') || loaded.includes(link) || here(link));";
        self.until("all pictures arrive", script).await?;
        self.drawn().await
    }
}

/// A port nobody listens on at the moment.
fn free_port() -> u16 {
    TcpListener::bind(("127.0.0.1", 0))
        .and_then(|listener| listener.local_addr())
        .map(|address| address.port())
        .expect("a free port")
}

impl Drop for Browser {
    fn drop(&mut self) {
        let forgiven = std::mem::take(&mut *self.forgiven.lock().unwrap_or_else(PoisonError::into_inner));
        let mut complaints = self.complaints();
        complaints.retain(|said| !forgiven.iter().any(|what| said.contains(what)));
        // The small picture of a side may be asked for in the very moment in which undoing takes the side away.
        complaints.retain(|said| !(said.contains("/picture?w=") && said.contains(" 404 ")));
        // What is shown while a hand moves may be overtaken by the act it leads to; then it is not shown.
        complaints.retain(|said| !(said.contains("/rehearse ") && said.contains(" 409 ")));
        // The session outlives its hand.
        let _ = self.session.take().map(WebDriver::leak);
        let whole = !std::thread::panicking() && !self.altered.load(Ordering::Relaxed);
        if let Some(engine) = self.engine.take().filter(|engine| whole && engine.clear().is_some()) {
            IDLE.lock().unwrap_or_else(PoisonError::into_inner).push(engine);
        }
        // No journey is normal use that leaves an error behind. Where it failed already, that is said instead.
        assert!(complaints.is_empty() || std::thread::panicking(), "the page complained:\n{}", complaints.join("\n"));
    }
}
