//! Takes the pictures of `docs/screenshots/` from the demo data:
//! `cargo run --package motilis-tests-browser --bin screenshots [FOLDER]`.

use motilis_tests_browser::{Size, Visit, blank, demo, sailing};
use std::path::{Path, PathBuf};
use std::time::Duration;
use thirtyfour::prelude::*;

#[tokio::main]
async fn main() {
    let folder = std::env::args().nth(1).map_or_else(
        || PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../docs/screenshots"),
        PathBuf::from,
    );
    blank(Size::Desk, async |visit| {
        visit.go("/").await?;
        visit.find("h1").await?;
        visit.picture(&folder.join("start.png")).await
    })
    .await;
    for (size, suffix) in [(Size::Desk, ""), (Size::Phone, "-phone")] {
        demo(size, async |visit| {
            let screens = ["today", "spread", "log", "tank"];
            // The tank is for the desk.
            let shown = if size == Size::Desk { 4 } else { 3 };
            for screen in &screens[..shown] {
                visit.go(&format!("/{screen}")).await?;
                visit.find("h1").await?;
                let name = format!("{screen}{suffix}.png");
                visit.picture(&folder.join(name)).await?;
            }
            let more: &[(&str, &str)] = if size == Size::Desk { &DESK } else { &[] };
            for (path, name) in more {
                visit.go(path).await?;
                visit.find("h1").await?;
                visit.picture(&folder.join(format!("{name}.png"))).await?;
            }
            if size == Size::Desk {
                // The salmon spread in S-turns, half way.
                visit.go("/spread/2").await?;
                visit.fill("#bend", "240").await?;
                visit.click("#set-off").await?;
                visit.find("#motion-done[data-ready]").await?;
                let half = "const slider = document.getElementById('replay-at'); slider.value = 90; \
                    slider.dispatchEvent(new Event('input', {bubbles: true}))";
                visit.browser.execute(half, vec![]).await?;
                visit.picture(&folder.join("motion.png")).await?;
            }
            Ok(())
        })
        .await;
    }
    sailing(Size::Phone, 20, async |visit| {
        by_thumb(visit, &folder).await
    })
    .await;
    sailing(Size::Tablet, 20, async |visit| {
        visit.set_out_all().await?;
        // Half an hour of soundings.
        tokio::time::sleep(Duration::from_secs(95)).await;
        visit.picture(&folder.join("boat-landscape.png")).await
    })
    .await;
}

/// The phone by day and by night, what comes told, beside each other in one picture.
async fn by_thumb(visit: &Visit, folder: &Path) -> WebDriverResult<()> {
    visit.set_out_all().await?;
    visit
        .until_within("#line-text", "touch", Duration::from_mins(4))
        .await?;
    let day = visit.browser.screenshot_as_png_base64().await?;
    visit.click("#theme").await?;
    visit.find("[data-bs-theme=dark] #boat").await?;
    let night = visit.browser.screenshot_as_png_base64().await?;
    visit.browser.goto("about:blank").await?;
    let both = format!(
        "document.body.style.cssText = 'margin:0;display:flex;gap:20px;background:#777'; \
         document.body.innerHTML = '<img src=\"data:image/png;base64,{day}\"><img src=\"data:image/png;base64,{night}\">'"
    );
    visit.browser.execute(&both, vec![]).await?;
    visit.resize(800, 844).await?;
    visit.picture(&folder.join("boat.png")).await
}

/// Pages of the desk and the names of their pictures, beside the four of the water.
const DESK: [(&str, &str); 8] = [
    ("/column?hour=700", "column"),
    ("/waters/2", "waters"),
    ("/data", "data-file"),
    ("/bench/1?at=2", "bench"),
    (
        "/river/best?run=1&rig=17&stand_along=30&lie=mark-0",
        "river",
    ),
    ("/evidence", "evidence"),
    ("/log/track", "track"),
    ("/box", "box"),
];
