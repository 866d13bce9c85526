//! Drives the real program in a real browser: a demo server on a free port, one `ChromeDriver` for all.
//!
//! [`demo`] starts both and hands a [`Visit`] to a script. Build the program first
//! (`cargo build --workspace`), or name one with `MOTILIS_BIN`.

mod audit;
mod paper;
mod server;

pub use paper::Page;
pub use server::{Demo, Driver};

use std::time::{Duration, Instant};
use thirtyfour::error::WebDriverErrorInner;
use thirtyfour::prelude::*;

/// How long a page may take to show something, on a machine that does other things besides.
const PATIENCE: Duration = Duration::from_secs(20);

/// A screen to look through.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Size {
    /// 1280 × 800.
    Desk,
    /// 390 × 844.
    Phone,
    /// 1024 × 768.
    Tablet,
}

impl Size {
    fn pixels(self) -> (u32, u32) {
        match self {
            Self::Desk => (1280, 800),
            Self::Phone => (390, 844),
            Self::Tablet => (1024, 768),
        }
    }
}

/// One visitor on a fresh demo.
pub struct Visit {
    /// The browser.
    pub browser: WebDriver,
    demo: Demo,
}

impl Visit {
    /// Where the program is.
    pub fn address(&self) -> &str {
        self.demo.address()
    }

    /// Ends the program under the page.
    pub fn stop_program(&self) {
        self.demo.stop();
    }

    /// Cuts the link between this window and the program, or mends it.
    ///
    /// # Errors
    /// When the browser does not answer.
    pub async fn cut_link(&self, cut: bool) -> WebDriverResult<()> {
        let link = serde_json::json!({
            "offline": cut, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1
        });
        let cdp = self.browser.cdp();
        cdp.send_raw("Network.enable", serde_json::json!({}))
            .await?;
        cdp.send_raw("Network.emulateNetworkConditions", link)
            .await
            .map(drop)
    }

    /// Begins an outing on the boat and lets out the demo's four rods by the assistant, one after the other.
    ///
    /// # Errors
    /// When the browser does not answer, or a rod is not in.
    pub async fn set_out_all(&self) -> WebDriverResult<()> {
        self.go("/boat").await?;
        self.until("#line-text", "No outing goes on").await?;
        self.click("#line-act").await?;
        self.click(".boat-ways a[href='/boat/set-out']").await?;
        for number in 1..=4 {
            let done = format!("{} of 4 in", number - 1);
            self.until("#set-out-head", &done).await?;
            self.until(".set-out-line", "let out").await?;
            self.click("#in").await?;
        }
        self.until(".set-out-done", "All rods are in").await?;
        self.click(".set-out-done a").await?;
        for number in 1..=4 {
            let row = format!("#rod-{number} .boat-fish");
            self.until(&row, "Fish on").await?;
        }
        Ok(())
    }

    /// Waits until nothing waits in the browser any more.
    ///
    /// # Errors
    /// When something still waits, or the browser does not answer.
    pub async fn all_sent(&self) -> WebDriverResult<()> {
        let waiting = "return JSON.parse(localStorage.getItem('motilis-outbox') || '[]').length";
        let started = Instant::now();
        while started.elapsed() < PATIENCE {
            let waiting: u64 = self.browser.execute(waiting, vec![]).await?.convert()?;
            if waiting == 0 {
                return Ok(());
            }
            tokio::time::sleep(Duration::from_millis(50)).await;
        }
        Err(WebDriverError::RequestFailed(
            "something still waits".into(),
        ))
    }

    /// Starts it again on the same file.
    pub fn start_program_again(&self) {
        self.demo.start_again();
    }

    /// Forgets what stands on the console: a script that breaks the link, or asks for what is not there, expects it.
    ///
    /// # Errors
    /// When the console cannot be read.
    pub async fn forget_console(&self) -> WebDriverResult<()> {
        self.browser.get_log("browser").await.map(drop)
    }

    /// Opens everything on the page that is folded, and keeps it open through swaps.
    ///
    /// # Errors
    /// When the browser does not answer.
    pub async fn unfold(&self) -> WebDriverResult<()> {
        self.find("h1").await?;
        let open =
            "for (const fold of document.querySelectorAll('details[data-keep]')) fold.open = true";
        self.browser.execute(open, vec![]).await.map(drop)
    }

    /// What axe-core finds wrong with the page in a theme, with options of its own (a script's object).
    ///
    /// # Errors
    /// When the browser cannot run it.
    pub async fn unheard(&self, theme: &str, options: &str) -> WebDriverResult<Vec<String>> {
        // A part of the page that is swapped away while it is looked at has no colours.
        self.settled().await?;
        audit::unheard(&self.browser, theme, options).await
    }

    /// Waits until every part that the page fetches for itself has come.
    async fn settled(&self) -> WebDriverResult<()> {
        let open = "return document.querySelectorAll('.htmx-request, .htmx-swapping, .htmx-settling, [hx-trigger=load]').length";
        let started = Instant::now();
        while started.elapsed() < PATIENCE {
            let open: u64 = self.browser.execute(open, vec![]).await?.convert()?;
            if open == 0 {
                return Ok(());
            }
            tokio::time::sleep(Duration::from_millis(40)).await;
        }
        Err(WebDriverError::RequestFailed(
            "a part of the page never came".into(),
        ))
    }

    /// Goes to a path.
    pub async fn go(&self, path: &str) -> WebDriverResult<()> {
        self.browser
            .goto(format!("{}{path}", self.demo.address()))
            .await
    }

    /// The first element of a selector, waited for.
    pub async fn find(&self, css: &str) -> WebDriverResult<WebElement> {
        self.browser
            .query(By::Css(css))
            .wait(PATIENCE, Duration::from_millis(40))
            .first()
            .await
    }

    /// The words of an element, waited for.
    pub async fn text(&self, css: &str) -> WebDriverResult<String> {
        again(async || self.find(css).await?.text().await).await
    }

    /// What stands in a field.
    pub async fn value(&self, css: &str) -> WebDriverResult<String> {
        let value = again(async || self.find(css).await?.prop("value").await).await?;
        Ok(value.unwrap_or_default())
    }

    /// What an attribute of an element says.
    pub async fn attr(&self, css: &str, name: &str) -> WebDriverResult<String> {
        let value = again(async || self.find(css).await?.attr(name).await).await?;
        Ok(value.unwrap_or_default())
    }

    /// Presses keys in an element, which gets the focus by it.
    pub async fn keys(
        &self,
        css: &str,
        keys: impl Into<thirtyfour::TypingData>,
    ) -> WebDriverResult<()> {
        let typed: String = keys.into().as_vec().iter().collect();
        again(async || self.find(css).await?.send_keys(typed.as_str()).await).await
    }

    /// The id of what has the focus; empty where it has none.
    pub async fn focused(&self) -> WebDriverResult<String> {
        let id = again(async || self.browser.active_element().await?.id().await).await?;
        Ok(id.unwrap_or_default())
    }

    /// Waits until an element's words hold a text; says what they were when they never do.
    pub async fn until(&self, css: &str, wanted: &str) -> WebDriverResult<()> {
        self.until_within(css, wanted, PATIENCE).await
    }

    /// The same with a patience of one's own.
    pub async fn until_within(
        &self,
        css: &str,
        wanted: &str,
        patience: Duration,
    ) -> WebDriverResult<()> {
        let mut last = String::new();
        let started = Instant::now();
        while started.elapsed() < patience {
            let words = again(async || {
                let all = self.browser.find_all(By::Css(css)).await?;
                match all.first() {
                    Some(element) => element.text().await.map(Some),
                    None => Ok(None),
                }
            });
            if let Some(words) = words.await? {
                if words.contains(wanted) {
                    return Ok(());
                }
                last = words;
            }
            tokio::time::sleep(Duration::from_millis(40)).await;
        }
        let trouble = format!("{css} should say {wanted:?} and says {last:?}");
        Err(WebDriverError::RequestFailed(trouble))
    }

    /// Puts a text in place of what stands in a field, and leaves the field.
    pub async fn fill(&self, css: &str, text: &str) -> WebDriverResult<()> {
        again(async || {
            let field = self.find(css).await?;
            field.send_keys(Key::Control + "a").await?;
            field.send_keys(text).await?;
            field.send_keys(Key::Tab).await
        })
        .await
    }

    /// Clicks or taps an element, scrolled clear of the rule at the foot of a phone.
    pub async fn click(&self, css: &str) -> WebDriverResult<()> {
        let script = "arguments[0].scrollIntoView({block: 'center'})";
        again(async || {
            let element = self.find(css).await?;
            let where_it_is = vec![element.to_json()?];
            self.browser.execute(script, where_it_is).await?;
            element.click().await
        })
        .await
    }

    /// Wishes for drawings that move ("no-preference") or stand still ("reduce"), as a machine's settings do.
    pub async fn wishing_motion(&self, wish: &str) -> WebDriverResult<()> {
        let features = serde_json::json!({
            "features": [{ "name": "prefers-reduced-motion", "value": wish }]
        });
        let cdp = self.browser.cdp();
        cdp.send_raw("Emulation.setEmulatedMedia", features)
            .await
            .map(drop)
    }

    /// Presses keys where the focus is.
    pub async fn press(&self, keys: impl Into<thirtyfour::TypingData>) -> WebDriverResult<()> {
        // What was swapped away under it has its focus again a moment later.
        let typed: String = keys.into().as_vec().iter().collect();
        tokio::time::sleep(Duration::from_millis(20)).await;
        let press = async || {
            let focused = self.browser.active_element().await?;
            focused.send_keys(typed.as_str()).await
        };
        again(press).await
    }

    /// Prints the page as the browser would, rendered at a resolution.
    pub async fn printed(&self, dpi: u32) -> WebDriverResult<Vec<Page>> {
        let how = serde_json::json!({ "printBackground": true, "preferCSSPageSize": true });
        let answer = self.browser.cdp().send_raw("Page.printToPDF", how).await?;
        let pdf = answer["data"].as_str().unwrap_or_default();
        Ok(paper::render(pdf, dpi))
    }

    /// Makes the window another size.
    pub async fn resize(&self, width: u32, height: u32) -> WebDriverResult<()> {
        let metrics = serde_json::json!({
            "width": width, "height": height, "deviceScaleFactor": 1, "mobile": false
        });
        let cdp = self.browser.cdp();
        cdp.send_raw("Emulation.setDeviceMetricsOverride", metrics)
            .await
            .map(drop)
    }

    /// Writes a picture of the window.
    pub async fn picture(&self, path: &std::path::Path) -> WebDriverResult<()> {
        self.browser.screenshot(path).await
    }
}

/// Does something with an element once more while it is swapped or moved away under it: a person looks again, too.
async fn again<T>(act: impl AsyncFn() -> WebDriverResult<T>) -> WebDriverResult<T> {
    let started = Instant::now();
    loop {
        match act().await {
            Err(error) if is_stale(&error) && started.elapsed() < PATIENCE => (),
            done => return done,
        }
    }
}

fn is_stale(error: &WebDriverError) -> bool {
    matches!(
        error.as_inner(),
        WebDriverErrorInner::StaleElementReference(_)
            // What was scrolled to moved on while its page was put in place.
            | WebDriverErrorInner::ElementClickIntercepted(_)
            // What was found was swapped away before a key came to it: what is not on the page takes no focus.
            | WebDriverErrorInner::ElementNotInteractable(_)
    )
}

/// Starts a fresh demo, takes a blank browser window, and runs a script on them.
///
/// # Panics
/// When the script fails, or when the browser wrote an error on its console or asked another host.
pub async fn demo<F, T>(size: Size, script: F)
where
    F: AsyncFnOnce(&Visit) -> WebDriverResult<T>,
{
    visit(Demo::start(), size, script).await;
}

/// The same with the simulated boat so many times as fast as life.
///
/// # Panics
/// As [`demo`].
pub async fn sailing<F, T>(size: Size, pace: u8, script: F)
where
    F: AsyncFnOnce(&Visit) -> WebDriverResult<T>,
{
    visit(Demo::sailing(pace), size, script).await;
}

/// The same on an empty data file.
///
/// # Panics
/// As [`demo`].
pub async fn blank<F, T>(size: Size, script: F)
where
    F: AsyncFnOnce(&Visit) -> WebDriverResult<T>,
{
    visit(Demo::blank(), size, script).await;
}

/// The same, asking everybody for a pass phrase.
///
/// # Panics
/// As [`demo`].
pub async fn asking<F, T>(size: Size, phrase: &str, script: F)
where
    F: AsyncFnOnce(&Visit) -> WebDriverResult<T>,
{
    visit(Demo::asking(phrase), size, script).await;
}

async fn visit<F, T>(demo: Demo, size: Size, script: F)
where
    F: AsyncFnOnce(&Visit) -> WebDriverResult<T>,
{
    let browser = Driver::shared()
        .window(size.pixels())
        .await
        .expect("a browser window");
    let visit = Visit { browser, demo };
    let outcome = script(&visit).await;
    let troubles = audit::troubles(&visit.browser, visit.demo.address()).await;
    outcome.expect("the script runs");
    let back = Driver::shared().take_back(visit.browser).await;
    back.expect("the window is blank again");
    assert!(troubles.is_empty(), "{troubles:#?}");
}

pub use audit::{contrast_below, targets_below};
