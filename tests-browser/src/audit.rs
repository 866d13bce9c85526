//! What a careful reader would check on every page: contrast, targets, console, requests.

use thirtyfour::prelude::*;

/// Errors on the console, and requests to any other host than the demo's.
pub(crate) async fn troubles(browser: &WebDriver, address: &str) -> Vec<String> {
    let mut troubles = Vec::new();
    for entry in browser
        .get_log("browser")
        .await
        .expect("the console can be read")
    {
        // A refused form is answered with 422, which the browser notes as a failed resource.
        if entry.level == "SEVERE" && !entry.message.contains("status of 422") {
            troubles.push(format!("console: {}", entry.message));
        }
    }
    let mut asked = 0;
    for entry in browser
        .get_log("performance")
        .await
        .expect("the requests can be read")
    {
        let Some((_, rest)) = entry.message.split_once("\"Network.requestWillBeSent\"") else {
            continue;
        };
        for url in rest
            .split("\"url\":\"")
            .skip(1)
            .filter_map(|rest| rest.split('"').next())
        {
            asked += 1;
            // A script that a test runs has no address.
            let ours = url.is_empty() || url.starts_with(address) || url.starts_with("data:");
            if !ours {
                troubles.push(format!("asked another host: {url}"));
            }
        }
    }
    assert!(
        asked > 0,
        "the log of requests holds none, so it proves nothing"
    );
    troubles
}

/// What axe-core finds wrong with a page in a theme, with some options of its own: rule, how often, the first element.
///
/// # Errors
/// When the browser cannot run the check.
pub(crate) async fn unheard(
    browser: &WebDriver,
    theme: &str,
    options: &str,
) -> WebDriverResult<Vec<String>> {
    let script = format!(
        "document.documentElement.dataset.bsTheme = '{theme}'; if (!window.axe) {{ {} }}",
        include_str!("../assets/axe.min.js")
    );
    browser.execute(script, vec![]).await?;
    let run = format!(
        "const done = arguments[arguments.length - 1]; \
         axe.run(document, {{ resultTypes: ['violations'], preload: false, ...{options} }}).then((found) => \
         done(found.violations.map((one) => `${{one.id}} (${{one.nodes.length}}): ${{one.nodes[0].html.slice(0, 160)}}`)))"
    );
    let found = browser.execute_async(run, vec![]).await?;
    found.convert()
}

/// Texts whose contrast against what lies behind them is below a ratio (WCAG 2.2, 1.4.3).
///
/// # Errors
/// When the browser cannot run the check.
pub async fn contrast_below(browser: &WebDriver, ratio: f64) -> WebDriverResult<Vec<String>> {
    let found = browser
        .execute(include_str!("contrast.js"), vec![ratio.into()])
        .await?;
    found.convert()
}

/// Things to tap that are smaller than so many pixels either way.
///
/// # Errors
/// When the browser cannot run the check.
pub async fn targets_below(browser: &WebDriver, pixels: u32) -> WebDriverResult<Vec<String>> {
    let script = r"
        const small = [];
        for (const element of document.querySelectorAll('a, button, input:not([type=hidden]), select, summary')) {
            if (!element.checkVisibility() || element.closest('.visually-hidden, .skip, dialog')) continue;
            if (element.classList.contains('visually-hidden')) continue;
            // A box to tick is hit with its label.
            const box = (element.closest('label') ?? element).getBoundingClientRect();
            if (box.width < arguments[0] - 0.5 || box.height < arguments[0] - 0.5)
                small.push(`${element.outerHTML.slice(0, 90)} ${Math.round(box.width)}x${Math.round(box.height)}`);
        }
        return small;";
    browser
        .execute(script, vec![pixels.into()])
        .await?
        .convert()
}
