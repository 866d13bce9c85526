//! Takes the pictures of `docs/screenshots/` from the demo data:
//! `cargo run --package motilis-tests-browser --bin screenshots [FOLDER]`.

use motilis_tests_browser::{Size, demo};
use std::path::PathBuf;

#[tokio::main]
async fn main() {
    let folder = std::env::args().nth(1).map_or_else(
        || PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../docs/screenshots"),
        PathBuf::from,
    );
    for (size, suffix) in [(Size::Desk, ""), (Size::Phone, "-phone")] {
        demo(size, async |visit| {
            for screen in ["today", "tank", "log"] {
                visit.go(&format!("/{screen}")).await?;
                visit.find("h1").await?;
                visit
                    .picture(&folder.join(format!("{screen}{suffix}.png")))
                    .await?;
            }
            visit.click("#theme").await?;
            for screen in ["today", "tank", "log"] {
                visit.go(&format!("/{screen}")).await?;
                visit.find("[data-bs-theme=dark] h1").await?;
                visit
                    .picture(&folder.join(format!("{screen}{suffix}-night.png")))
                    .await?;
            }
            Ok(())
        })
        .await;
    }
}
