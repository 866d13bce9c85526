//! A river on the phone: from a timed leaf to the best cast for a boulder, nine casts ticked off, two steps, a strike logged.

use motilis_tests_browser::{Size, Visit, demo};
use thirtyfour::prelude::*;

async fn count(visit: &Visit, css: &str) -> WebDriverResult<usize> {
    Ok(visit.browser.find_all(By::Css(css)).await?.len())
}

/// Types a row of a run: out from the bank, depth.
async fn row(visit: &Visit, place: usize, out: &str, depth: &str) -> WebDriverResult<()> {
    visit.fill(&format!("#offset_{place}"), out).await?;
    visit.fill(&format!("#depth_{place}"), depth).await
}

/// A tap whose own time is told, so that a busy machine changes nothing.
async fn tap_at(visit: &Visit, css: &str, milliseconds: f64) -> WebDriverResult<()> {
    let tap = "const event = new MouseEvent('click', {bubbles: true}); \
        Object.defineProperty(event, 'timeStamp', {value: arguments[1]}); \
        document.querySelector(arguments[0]).dispatchEvent(event)";
    visit
        .browser
        .execute(tap, vec![css.into(), milliseconds.into()])
        .await?;
    Ok(())
}

#[tokio::test]
async fn from_a_timed_leaf_to_a_strike_on_the_phone() {
    demo(Size::Phone, async |visit| {
        // A run, its speeds by a leaf and the watch.
        visit.go("/waters/1/runs/new").await?;
        visit.fill("#name", "Willow pool").await?;
        visit.fill("#run_length", "90 ft").await?;
        visit.fill("#stand", "5 ft").await?;
        for (place, out, depth, seconds) in [
            (0, "0", "1", 14.0),
            (1, "25", "5", 8.0),
            (2, "55", "2", 12.0),
        ] {
            row(visit, place, out, depth).await?;
            tap_at(visit, "#leaf-go", 1_000.0).await?;
            visit.until("#leaf-go", "Stop").await?;
            tap_at(visit, "#leaf-go", 1_000.0 + 1_000.0 * seconds).await?;
            visit
                .until("#leaf-time", &format!("30 ft in {seconds:.1} s"))
                .await?;
        }
        visit.keys("[name=mark_0]", "Boulder").await?;
        visit.fill("#along_0", "40").await?;
        visit.fill("#across_0", "28").await?;
        visit.click("#save-run").await?;
        visit
            .until("#discharge-check", "cfs flow through it")
            .await?;
        assert_eq!(visit.value("#surface_1").await?, "2.6");
        visit.click("#cast-here").await?;

        // An outing on the river, then the best cast for the boulder.
        visit
            .until("#casting", "Begin an outing on Cassel River")
            .await?;
        visit.until("#river-rigs", "common practice").await?;
        visit.click("#casting form .b").await?;
        visit.until("h1", "Today").await?;
        visit.go("/river?run=4&stand_along=25&lie=mark-0").await?;
        visit.until(".casting-next", "Be ready").await?;
        // The list of rigs comes a moment later and moves what stands below it.
        visit.until("#river-rigs", "common practice").await?;
        visit.click("#best-cast").await?;
        visit.until(".notice", "this cast").await?;
        visit.until("#cast-says", "turn").await?;

        // Nine casts of the grid, ticked off, with one hand.
        visit.go("/river?run=4&stand_along=25&lie=mark-0").await?;
        for made in 1..=9 {
            visit.find("#cast-done").await?;
            visit.click("#cast-done").await?;
            visit.until(".notice", "Cast logged").await?;
            visit
                .until("#cast-grid-done", &format!("{made} of 9"))
                .await?;
        }
        assert_eq!(count(visit, ".cast-grid .cell-done").await?, 9);
        assert!(count(visit, ".narrow-only .covered").await? > 20);
        visit.until(".casting-next", "two steps on").await?;
        visit.click("#two-steps").await?;
        visit.until("#cast-grid-done", "0 of 9").await?;
        visit.click("#cast-strike").await?;
        visit.until(".notice", "Strike logged").await?;
        // One tap too many is taken back.
        visit.click("#cast-done").await?;
        visit.until("#cast-grid-done", "2 of 9").await?;
        visit.click("#undo").await?;
        visit.until("#cast-grid-done", "1 of 9").await?;
        visit.go("/log").await?;
        visit.until(".entry", "in Willow pool").await
    })
    .await;
}

/// The landing point follows the hand; a slider moves the cast under it, and the grid's cast becomes one's own.
#[tokio::test]
async fn a_cast_is_drawn_where_one_wants_it() {
    demo(Size::Desk, async |visit| {
        visit.go("/river?run=1&stand_along=40").await?;
        let before = visit.text("#cast-says").await?;
        let drag = "const landing = document.querySelector('.wide-only .landing circle'); \
            const box = landing.getBoundingClientRect(); \
            const [x, y] = [box.left + box.width / 2, box.top + box.height / 2]; \
            const send = (kind, dx, dy) => landing.dispatchEvent(new PointerEvent(kind, \
                {bubbles: true, cancelable: true, pointerId: 7, clientX: x + dx, clientY: y + dy})); \
            send('pointerdown', 0, 0); send('pointermove', 60, -20); send('pointerup', 90, -30);";
        visit.browser.execute(drag, vec![]).await?;
        visit.until(".casting-next", "Your own cast").await?;
        assert_ne!(visit.text("#cast-says").await?, before);
        visit.fill("#distance", "900").await?;
        visit.until("#problem-distance", "too large").await?;
        assert_eq!(visit.value("#distance").await?, "900");
        visit.fill("#distance", "30").await?;
        visit.until("#problem-distance", "").await?;
        visit.until("#cast-says", "30 ft").await?;
        // A tap on the water is where the fish lies.
        let tap = "const plan = document.querySelector('.wide-only svg.run-plan'); \
            const box = plan.getBoundingClientRect(); \
            plan.dispatchEvent(new MouseEvent('click', {bubbles: true, clientX: box.left + box.width / 2, \
                clientY: box.top + box.height / 2}))";
        visit.browser.execute(tap, vec![]).await?;
        visit.until("#cast-says", "lie").await?;
        visit.until("#river-rigs", "common practice").await?;
        // The sink is counted down.
        visit.click("#sink-count").await?;
        visit.until("#sink-left", "reel").await?;
        visit.forget_console().await
    })
    .await;
}
