//! Takes the pictures of `docs/screenshots/` from the demo data:
//! `cargo run --package motilis-tests-browser --bin screenshots [FOLDER]`.

use motilis_tests_browser::{Size, blank, demo};
use std::path::PathBuf;

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
            // On the phone the tank gives way to the river.
            let second = if size == Size::Desk { "tank" } else { "river" };
            for screen in ["today", second, "spread", "log"] {
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
                visit.click("#theme").await?;
                visit.go("/today").await?;
                visit.find("[data-bs-theme=dark] h1").await?;
                visit.picture(&folder.join("today-night.png")).await?;
            }
            Ok(())
        })
        .await;
    }
}

/// Pages of the desk and the names of their pictures, beside the four of the water.
const DESK: [(&str, &str); 8] = [
    ("/column?hour=700", "column"),
    ("/waters/2", "waters"),
    ("/today/card", "call-sheet"),
    ("/bench/1?at=2", "bench"),
    (
        "/river/best?run=1&rig=17&stand_along=30&lie=mark-0",
        "river",
    ),
    ("/evidence", "evidence"),
    ("/log/track", "track"),
    ("/box", "box"),
];
