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

/// How long a page may take to show something.
const PATIENCE: Duration = Duration::from_secs(6);

/// A screen to look through.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Size {
    /// 1280 × 800.
    Desk,
    /// 390 × 844.
    Phone,
}

impl Size {
    fn pixels(self) -> (u32, u32) {
        match self {
            Self::Desk => (1280, 800),
            Self::Phone => (390, 844),
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
        loop {
            match self.find(css).await?.text().await {
                // Swapped away between finding and reading: the new one is meant.
                Err(error) if is_stale(&error) => (),
                done => return done,
            }
        }
    }

    /// Waits until an element's words hold a text; says what they were when they never do.
    pub async fn until(&self, css: &str, wanted: &str) -> WebDriverResult<()> {
        let mut last = String::new();
        let started = Instant::now();
        while started.elapsed() < PATIENCE {
            // An element may be swapped away between finding and reading it.
            if let Some(element) = self.browser.find_all(By::Css(css)).await?.first() {
                last = element.text().await.unwrap_or_default();
                if last.contains(wanted) {
                    return Ok(());
                }
            }
            tokio::time::sleep(Duration::from_millis(40)).await;
        }
        let trouble = format!("{css} should say {wanted:?} and says {last:?}");
        Err(WebDriverError::RequestFailed(trouble))
    }

    /// Puts a text in place of what stands in a field, and leaves the field.
    pub async fn fill(&self, css: &str, text: &str) -> WebDriverResult<()> {
        let field = self.find(css).await?;
        field.send_keys(Key::Control + "a").await?;
        field.send_keys(text).await?;
        field.send_keys(Key::Tab).await
    }

    /// Clicks or taps an element, scrolled clear of the rule at the foot of a phone.
    pub async fn click(&self, css: &str) -> WebDriverResult<()> {
        loop {
            match self.click_once(css).await {
                // Swapped away between finding and clicking: the new one is meant.
                Err(error) if is_stale(&error) => (),
                done => return done,
            }
        }
    }

    async fn click_once(&self, css: &str) -> WebDriverResult<()> {
        let element = self.find(css).await?;
        let script = "arguments[0].scrollIntoView({block: 'center'})";
        self.browser
            .execute(script, vec![element.to_json()?])
            .await?;
        element.click().await
    }

    /// Presses keys where the focus is.
    pub async fn press(&self, keys: impl Into<thirtyfour::TypingData>) -> WebDriverResult<()> {
        self.browser.active_element().await?.send_keys(keys).await
    }

    /// Prints the page as the browser would, rendered at a resolution.
    pub async fn printed(&self, dpi: u32) -> WebDriverResult<Vec<Page>> {
        let how = serde_json::json!({ "printBackground": true, "preferCSSPageSize": true });
        let answer = self.browser.cdp().send_raw("Page.printToPDF", how).await?;
        let pdf = answer["data"].as_str().unwrap_or_default();
        Ok(paper::render(pdf, dpi))
    }

    /// Writes a picture of the window.
    pub async fn picture(&self, path: &std::path::Path) -> WebDriverResult<()> {
        self.browser.screenshot(path).await
    }
}

/// Whether an element was swapped away between finding it and using it.
fn is_stale(error: &WebDriverError) -> bool {
    matches!(
        error.as_inner(),
        WebDriverErrorInner::StaleElementReference(_)
    )
}

/// Starts a fresh demo and a fresh browser window, and runs a script on them.
///
/// # Panics
/// When the script fails, or when the browser wrote an error on its console or asked another host.
pub async fn demo<F, T>(size: Size, script: F)
where
    F: AsyncFnOnce(&Visit) -> WebDriverResult<T>,
{
    let demo = Demo::start();
    let browser = Driver::shared()
        .window(size.pixels())
        .await
        .expect("a browser window");
    let visit = Visit { browser, demo };
    let outcome = script(&visit).await;
    let troubles = audit::troubles(&visit.browser, visit.demo.address()).await;
    let closed = visit.browser.clone().quit().await;
    outcome.expect("the script runs");
    closed.expect("the window closes");
    assert!(troubles.is_empty(), "{troubles:#?}");
}

pub use audit::{contrast_below, targets_below};
