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
                let name = format!("{screen}{suffix}.png");
                visit.picture(&folder.join(name)).await?;
            }
            let more: &[(&str, &str)] = if size == Size::Desk { &DESK } else { &PHONE };
            for (path, name) in more {
                visit.go(path).await?;
                visit.find("h1").await?;
                visit.picture(&folder.join(format!("{name}.png"))).await?;
            }
            if size == Size::Desk {
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

/// Pages and the names of their pictures, beside the three of the water.
const DESK: [(&str, &str); 10] = [
    ("/column?hour=700", "column"),
    ("/waters/2", "waters"),
    ("/judging", "judging"),
    ("/today/card", "call-sheet"),
    ("/bench/1?at=2", "bench"),
    ("/bench/13", "bench-salmon"),
    ("/bench/34", "bench-faults"),
    ("/bench/1/sheet", "sheet"),
    ("/box", "box"),
    ("/box?tray=made", "box-made"),
];
const PHONE: [(&str, &str); 1] = [("/bench/1?at=2", "bench-phone")];
