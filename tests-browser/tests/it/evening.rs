//! An evening with four rods on the phone, an experiment to its end, and the log as files: set out, fished, corrected,
//! undone, with the link cut twice, and read.

use motilis_tests_browser::{Size, Visit, demo};
use thirtyfour::prelude::*;

/// Begins an outing now, with the rods of the demo's spread of four lines on it.
async fn put_out(visit: &Visit) -> WebDriverResult<()> {
    visit.go("/today").await?;
    visit.click("form[action='/outings'] .b").await?;
    visit
        .until("#carried", "Carried over from the last outing")
        .await?;
    visit.go("/log").await?;
    visit.click("#take-rods").await?;
    visit.until("#rod-4", "aboard").await?;
    visit.click("#all-out").await?;
    visit.until("#rod-4", "out since").await
}

async fn count(visit: &Visit, css: &str) -> WebDriverResult<usize> {
    Ok(visit.browser.find_all(By::Css(css)).await?.len())
}

#[tokio::test]
async fn four_rods_through_an_evening_with_the_link_cut_twice() {
    demo(Size::Phone, async |visit| {
        put_out(visit).await?;
        // The first fish, measured, and corrected in the list.
        visit.click("#rod-3 .fish-on").await?;
        visit.until("#rod-3 .notice", "Fish logged: rod 3").await?;
        visit.fill("#quick-length", "19").await?;
        visit.click("#quick-back").await?;
        visit.until(".entry-fish", "19 in, released").await?;
        visit.click(".entry .entry-acts a").await?;
        visit.fill(".entry-open #length", "18.5").await?;
        visit.click(".entry-form .b-now").await?;
        visit.until(".entry-fish", "18½ in, released").await?;
        visit.click("#rod-3 .rod-move button").await?;
        visit.until("#rod-3", "out since").await?;
        // The link is cut; what is tapped meanwhile is kept and done.
        for (cut, rod) in [(1, 1), (2, 2)] {
            visit.stop_program();
            visit
                .click(&format!("#rod-{rod} .taps button[value=strike]"))
                .await?;
            visit.until("#link-says", "No link since").await?;
            visit.click("#rod-4 .fish-on").await?;
            visit.until("#link-says", "2 kept here").await?;
            visit.start_program_again();
            visit.until("#link-says", "").await?;
            visit.all_sent().await?;
            visit.go("/log").await?;
            visit.find("#log-head").await?;
            assert_eq!(
                count(visit, ".entry").await?,
                1 + 2 * cut,
                "after cut {cut}"
            );
            visit.click("#rod-4 .rod-move button").await?;
            visit.until("#rod-4", "out since").await?;
        }
        // One tap too many, taken back.
        visit.click("#rod-2 .fish-on").await?;
        visit.until("#rod-2 .notice", "Fish logged: rod 2").await?;
        visit.click("#rod-2 .notice #undo").await?;
        visit.until(".notice", "Entry deleted").await?;
        visit.click("#all-in").await?;
        visit.until("#rod-1", "aboard").await?;
        visit.click("#end-outing").await?;
        visit.until("#outing-hours", "It lasted").await?;
        visit.click("a[href='/evidence']").await?;
        visit.until("#evidence-whole", "rod-hours").await?;
        visit.forget_console().await
    })
    .await;
}

#[tokio::test]
async fn an_experiment_is_run_to_its_end() {
    demo(Size::Phone, async |visit| {
        put_out(visit).await?;
        visit.click("a[href='/log/experiment']").await?;
        visit.fill("#a_lead", "4").await?;
        visit.fill("#b_lead", "8").await?;
        visit.fill("#swap_after", "2").await?;
        visit.click("#begin").await?;
        visit.until("#problem-swap_after", "give 5 to 240").await?;
        assert_eq!(visit.value("#b_lead").await?, "8");
        visit.fill("#swap_after", "20").await?;
        visit.click("#begin").await?;
        visit.until("#dealt", "fish A").await?;
        visit.until("#running", "Cannot tell yet").await?;
        visit.go("/log").await?;
        visit.until("#experiment-strip", "They swap at").await?;
        visit.click("#rod-1 .fish-on").await?;
        visit.until("#rod-1 .notice", "Fish logged").await?;
        visit.go("/log/experiment").await?;
        visit.until("#running", "1 fish in").await?;
        visit.click("#end").await?;
        visit.until(".experiment-over", "1 fish in").await
    })
    .await;
}

/// After a short strike the rod is offered what practice has for it, and what was tried is in the list.
#[tokio::test]
async fn the_playbook_is_tapped_on_the_phone() {
    demo(Size::Phone, async |visit| {
        put_out(visit).await?;
        visit.click("#rod-1 .rod-more > summary").await?;
        visit.click("#rod-1 button[value=short]").await?;
        visit
            .until("#rod-1 .playbook", "Short strike: tap what you try")
            .await?;
        visit
            .click("#rod-1 .playbook button[value='play:feed_line']")
            .await?;
        visit.until(".entry-fish", "feed it line").await
    })
    .await;
}

/// Chooses an entry of a list, as a thumb does.
async fn choose(visit: &Visit, list: &str, entry: &str) -> WebDriverResult<()> {
    let script = "const list = document.getElementById(arguments[0]); \
        list.value = [...list.options].find((one) => one.text.toLowerCase() === arguments[1]).value; \
        list.dispatchEvent(new Event('change', {bubbles: true}))";
    let named = vec![list.into(), entry.into()];
    visit.browser.execute(script, named).await.map(drop)
}

/// A fish is held against the lengths that were entered, and against others when the rule changes.
#[tokio::test]
async fn a_slot_changes_under_a_fish() {
    demo(Size::Desk, async |visit| {
        put_out(visit).await?;
        visit.click("#rod-1 .fish-on").await?;
        visit.fill("#quick-length", "30").await?;
        visit.click("#quick-kept").await?;
        visit.until(".entry-fish", "30 in, kept").await?;
        visit.go("/waters/2").await?;
        choose(visit, "topic", "lengths to keep").await?;
        visit.fill("#slot_to", "29").await?;
        // The demo's own rule of lengths ends in October 2026.
        visit.fill("#rule_from", "2026-11-01").await?;
        visit.fill("#rule_source", "the notice at the ramp").await?;
        visit.click("#save-rule").await?;
        visit.until(".rules", "the notice at the ramp").await?;
        visit.go("/log").await?;
        visit.until(".entry-fish", "goes back").await?;
        visit.until(".entry-fish", "the notice at the ramp").await
    })
    .await;
}
