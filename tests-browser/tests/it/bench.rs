//! The bench as its users work it: by keyboard, by pointer, on the phone.

use motilis_tests_browser::{Size, Visit, demo};
use thirtyfour::prelude::*;

/// Puts an empty board on the bench.
async fn empty_board(visit: &Visit) -> WebDriverResult<()> {
    visit.go("/bench/new").await?;
    visit.fill("#name", "Winter harness").await?;
    visit.click("#start-empty").await?;
    visit.until(".strip .empty", "Start with a blade").await
}

/// Waits until nothing is left to fix or to watch.
async fn all_good(visit: &Visit) -> WebDriverResult<()> {
    visit.until("#tally-fix", "0").await?;
    visit.until("#tally-watch", "0").await
}

/// How many are left of a part, as the box says.
async fn left(visit: &Visit, sought: &str) -> WebDriverResult<String> {
    visit.go(&format!("/box?q={sought}")).await?;
    visit.text(".lot-left").await
}

/// Presses a key where no field has the focus.
async fn key(visit: &Visit, key: impl Into<thirtyfour::TypingData>) -> WebDriverResult<()> {
    visit
        .browser
        .execute("document.activeElement?.blur?.()", vec![])
        .await?;
    visit.press(key).await
}

/// Opens a tray by its key, walks along it to the first peg with a name, and takes it.
async fn take(visit: &Visit, tray: &str, bay: &str, name: &str) -> WebDriverResult<()> {
    let before = visit.browser.find_all(By::Css(".piece-pick")).await?.len();
    key(visit, tray).await?;
    visit
        .until(&format!("#bay-{bay}[aria-current]"), "")
        .await?;
    visit.until(".pegs", name).await?;
    visit
        .browser
        .execute("document.querySelector('.peg').focus()", vec![])
        .await?;
    for _ in 0..60 {
        let words = "return document.activeElement.textContent";
        let words: String = visit.browser.execute(words, vec![]).await?.convert()?;
        if words.contains(name) {
            break;
        }
        visit.press(Key::Right).await?;
    }
    visit.press(Key::Enter).await?;
    visit
        .until(&format!(".strip li:nth-child({})", before + 1), "")
        .await
}

#[tokio::test]
async fn a_two_hook_harness_is_built_from_an_empty_board_by_keyboard() {
    demo(Size::Desk, async |visit| {
        empty_board(visit).await?;
        take(visit, "b", "blade", "Colorado 4").await?;
        take(visit, "c", "clevis", "Stirrup clevis 2").await?;
        take(visit, "d", "bead", "6 mm bead").await?;
        // One more of what is in hand, until the blade clears the hook.
        for beads in 2..=6 {
            key(visit, "+").await?;
            visit
                .until(".strip", &format!("{beads} × 6 mm bead"))
                .await?;
        }
        take(visit, "h", "hook", "Octopus 2").await?;
        key(visit, "+").await?;
        visit.until(".strip", "2 × octopus 2").await?;
        all_good(visit).await?;
        // The dimension in hand by the arrows: a millimetre, five with Shift.
        visit.until(".dim-shown", "89 mm").await?;
        key(visit, Key::Right).await?;
        visit.until(".dim-shown", "90 mm").await?;
        key(visit, Key::Shift + Key::Right).await?;
        visit.until(".dim-shown", "95 mm").await?;
        // Undo and redo, and a part moved and put back.
        key(visit, "u").await?;
        visit.until(".dim-shown", "90 mm").await?;
        key(visit, "r").await?;
        visit.until(".dim-shown", "95 mm").await?;
        key(visit, ".").await?;
        visit.until(".piece-pick[aria-current]", "").await?;
        all_good(visit).await
    })
    .await;
}

#[tokio::test]
async fn a_two_hook_harness_is_built_from_an_empty_board_by_pointer() {
    demo(Size::Desk, async |visit| {
        empty_board(visit).await?;
        let peg = async |bay: &str, name: &str| -> WebDriverResult<()> {
            visit.click(&format!("#bay-{bay}")).await?;
            visit
                .until(&format!("#bay-{bay}[aria-current]"), "")
                .await?;
            visit.until(".pegs", name).await?;
            for peg in visit.browser.find_all(By::Css(".peg")).await? {
                if peg.text().await?.contains(name) {
                    peg.scroll_into_view().await?;
                    peg.click().await?;
                    break;
                }
            }
            visit.until(".piece-pick[aria-current]", name).await
        };
        peg("blade", "Indiana 4").await?;
        peg("clevis", "Stirrup clevis 3").await?;
        peg("bead", "5 mm bead").await?;
        visit.fill("#count", "8").await?;
        visit.click(".hand-count .b").await?;
        visit.until(".strip", "8 × 5 mm bead").await?;
        peg("hook", "Octopus 2").await?;
        visit.click("#more").await?;
        visit.until(".strip", "2 × octopus 2").await?;
        all_good(visit).await?;
        // A bead dragged behind the hooks no longer keeps the blade off, and undo brings it back.
        let bead = visit.find(".piece[data-at='2'] .hit").await?;
        let hook = visit.find(".piece[data-at='3'] .hit").await?;
        visit
            .browser
            .action_chain()
            .click_and_hold_element(&bead)
            .move_by_offset(40, 0)
            .move_to_element_center(&hook)
            .move_by_offset(60, 0)
            .release()
            .perform()
            .await?;
        visit.until(".strip li:last-child", "8 × 5 mm bead").await?;
        visit.until("[data-check=tip]", "fouls").await?;
        visit.click("#undo").await?;
        all_good(visit).await
    })
    .await;
}

#[tokio::test]
async fn too_few_beads_are_mended_by_the_proposal() {
    demo(Size::Desk, async |visit| {
        visit.go("/bench/1?at=4").await?;
        all_good(visit).await?;
        // Faster than the board is drawn; none is lost.
        key(visit, "---").await?;
        visit.until(".strip", "2 × 6 mm bead").await?;
        visit
            .until("[data-check=tip]", "Blade fouls the front hook")
            .await?;
        visit.click("#mend-tip").await?;
        visit
            .until("[data-check=tip]", "Blade clears front hook")
            .await?;
        all_good(visit).await
    })
    .await;
}

#[tokio::test]
async fn three_are_built_the_stock_falls_and_undo_brings_it_back() {
    demo(Size::Desk, async |visit| {
        let before = left(visit, "6+mm+bead+chartreuse").await?;
        visit.go("/bench/1").await?;
        visit.fill("#n", "3").await?;
        visit.until(".totals", "Cut 3 pieces").await?;
        visit.until("#build", "Build 3").await?;
        visit.fill("#place", "Winder 20").await?;
        visit.click("#build").await?;
        visit.until(".notice", "Built").await?;
        let undo = visit.find("#undo-deed").await?;
        assert!(undo.is_displayed().await?);
        let page = visit.browser.current_url().await?;
        let after = left(visit, "6+mm+bead+chartreuse").await?;
        assert_ne!(before, after);
        visit.browser.goto(page.as_str()).await?;
        visit.click("#undo-deed").await?;
        visit.until("#tally-fix", "0").await?;
        assert_eq!(left(visit, "6+mm+bead+chartreuse").await?, before);
        Ok(())
    })
    .await;
}

#[tokio::test]
async fn steps_ticked_off_survive_a_reload() {
    demo(Size::Desk, async |visit| {
        visit.go("/bench/1").await?;
        visit.click("#step-1").await?;
        visit.until("#order-head", "1 of 11 done").await?;
        visit.click("#step-2").await?;
        visit.until("#order-head", "2 of 11 done").await?;
        visit.browser.refresh().await?;
        visit.until("#order-head", "2 of 11 done").await?;
        assert_eq!(visit.attr("#step-2", "aria-pressed").await?, "true");
        Ok(())
    })
    .await;
}

/// The browser's own print of the sheet, rendered and measured.
#[tokio::test]
async fn the_browser_prints_the_sheet_at_true_size() {
    demo(Size::Desk, async |visit| {
        visit.go("/bench/1").await?;
        visit.click("#print-sheet").await?;
        visit.until("#sheet-head", "Tying sheet").await?;
        for (paper, width) in [("a4", 297.0), ("letter", 279.4)] {
            visit.click(&format!("#paper-{paper}")).await?;
            visit.find(&format!(".tying-sheet-{paper}")).await?;
            let pages = visit.printed(300).await?;
            assert_eq!(pages.len(), 1, "{paper} takes {} pages", pages.len());
            let mm = |pixels: usize| pixels as f64 * 25.4 / 300.0;
            assert!(
                (mm(pages[0].width) - width).abs() < 0.5,
                "{paper}: {}",
                mm(pages[0].width)
            );
            let runs = pages[0].dark_runs();
            for wanted in [100.0, 101.6] {
                let off = runs
                    .iter()
                    .map(|run| (mm(*run) - wanted).abs())
                    .fold(f64::INFINITY, f64::min);
                assert!(off < 0.3, "{paper}: {wanted} mm is off by {off:.2} mm");
            }
        }
        Ok(())
    })
    .await;
}

#[tokio::test]
async fn the_drawing_is_scaled_by_a_bank_card_and_zoomed() {
    demo(Size::Desk, async |visit| {
        visit.go("/bench/1").await?;
        let width = async || -> WebDriverResult<f64> {
            let drawn = visit.attr(".board-scroll svg", "width").await?;
            Ok(drawn.parse().unwrap_or(0.0))
        };
        let one = width().await?;
        visit.click("[data-zoom='2']").await?;
        assert!((width().await? / one - 2.0).abs() < 1e-3);
        visit.click("[data-zoom='1']").await?;
        visit.click("#card").await?;
        let script = "const bar = document.getElementById('card-bar'); bar.value = 400; bar.dispatchEvent(new Event('input', {bubbles: true}));";
        visit.browser.execute(script, vec![]).await?;
        visit.click("#card-keep").await?;
        // 400 px on 85.6 mm of card.
        let factor = 400.0 / (85.6 * 96.0 / 25.4);
        assert!((width().await? / one - factor).abs() < 1e-3);
        visit.until("#card", "1:1 checked").await
    })
    .await;
}

#[tokio::test]
async fn a_part_is_measured_in_the_box_and_a_file_imported() {
    demo(Size::Desk, async |visit| {
        visit.go("/box").await?;
        visit.click("#new-part").await?;
        visit.keys("#what", "Indiana").await?;
        visit.fill("#size", "99").await?;
        visit.click("#save-part").await?;
        visit
            .until("#problem-size", "it comes in 1, 1.5, 2")
            .await?;
        visit.fill("#size", "5").await?;
        visit.fill("#length", "35.4").await?;
        visit.fill("#left", "6").await?;
        visit.click("#save-part").await?;
        visit.until(".notice", "Saved").await?;
        visit.until(".tray", "measured").await?;
        visit.go("/box/import").await?;
        visit
            .fill("#text", "part,style,size\nbead,round,-6\n")
            .await?;
        visit.click("#preview").await?;
        visit.until("tbody", "size:").await?;
        visit.until("#import-summary", "1 wrong").await?;
        visit
            .fill("#text", "part,style,size,left_count\nbead,round,6,12\n")
            .await?;
        visit.click("#preview").await?;
        visit.until("#import-summary", "1 new").await?;
        visit.click("#import-all").await?;
        visit.until(".notice", "came in").await
    })
    .await;
}

#[tokio::test]
async fn the_bench_on_a_phone_scrolls_its_drawing_and_nothing_else() {
    demo(Size::Phone, async |visit| {
        for path in ["/bench/1?at=2", "/box", "/box?tray=made", "/bench/new"] {
            visit.go(path).await?;
            visit.find("h1").await?;
            let wider = "return document.documentElement.scrollWidth - window.innerWidth";
            let over: i64 = visit.browser.execute(wider, vec![]).await?.convert()?;
            assert!(over <= 0, "{path} is {over} px wider than the phone");
        }
        visit.go("/bench/1?at=2").await?;
        let inside =
            "const b = document.getElementById('board'); return b.scrollWidth - b.clientWidth";
        let more: i64 = visit.browser.execute(inside, vec![]).await?.convert()?;
        assert!(more > 100, "the drawing keeps its true size");
        visit.click("#more").await?;
        visit.until(".strip", "2 × Colorado 4").await
    })
    .await;
}
