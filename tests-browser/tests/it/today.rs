//! Today as it is used: conditions entered on the phone, the hour pulled along, a call refused, a school
//! changed, the sheet printed.

use motilis_tests_browser::{Size, Visit, demo};
use std::time::Instant;
use thirtyfour::prelude::*;

/// Chooses an entry of a list, as a thumb does: one change, no typing.
async fn choose(visit: &Visit, list: &str, entry: &str) -> WebDriverResult<()> {
    let script = "const list = document.getElementById(arguments[0]); \
        list.value = [...list.options].find((one) => one.text === arguments[1]).value; \
        list.dispatchEvent(new Event('change', {bubbles: true}))";
    let named = vec![list.into(), entry.into()];
    visit.browser.execute(script, named).await?;
    Ok(())
}

/// A dog day: six things are different from last time, and nothing else is asked for.
#[tokio::test]
async fn conditions_are_entered_on_the_phone_in_under_a_minute() {
    demo(Size::Phone, async |visit| {
        visit.go("/today").await?;
        visit.find("#pick-primary").await?;
        let begun = Instant::now();
        visit.click("#fold > summary").await?;
        choose(visit, "mood", "Shy").await?;
        visit
            .until(".pick-primary .pick-figures", "tie 10 ft")
            .await?;
        visit.fill("#temperature", "76").await?;
        visit.until("#day-side", "the water has 76 °F").await?;
        choose(visit, "sky", "Sun").await?;
        choose(visit, "wind", "Calm").await?;
        visit.fill("#speed", "0.8").await?;
        visit.until("#headline", "0.8 mph").await?;
        assert!(begun.elapsed().as_secs() < 60, "{:?}", begun.elapsed());
        // Shy fish and slow water: a wing on a worm hook.
        visit.until(".pick-primary", "Soft wing").await?;
        // All of it is kept.
        visit.go("/today").await?;
        assert_eq!(visit.value("#mood").await?, "shy");
        assert_eq!(visit.value("#sky").await?, "sun");
        assert_eq!(visit.value("#temperature").await?, "76");
        // Without a disk: how deep a white blade is lost.
        visit.click(".secchi summary").await?;
        visit.fill("#blade_lost", "6").await?;
        visit.click(".secchi .b").await?;
        visit
            .until(".secchi", "A white disk would be lost at 6")
            .await
    })
    .await;
}

#[tokio::test]
async fn the_hour_is_pulled_from_dawn_to_dark() {
    demo(Size::Desk, async |visit| {
        visit.go("/today").await?;
        visit.click(".side-note .b").await?;
        visit.until("#column-head", "Water column").await?;
        visit.until("#hour-shown", "06:20").await?;
        visit.until("#column-side", "below the horizon").await?;
        let dawn = visit.text(".sightings").await?;
        for _ in 0..24 {
            visit.keys("#hour", Key::Right).await?;
        }
        visit.until("#hour-shown", "10:20").await?;
        visit.until("#column-side", "above the horizon").await?;
        assert_ne!(visit.text(".sightings").await?, dawn);
        // At the end of the slider it is dark again.
        visit.keys("#hour", Key::End).await?;
        visit.until("#column-side", "below the horizon").await?;
        visit.keys("#depth", Key::Home).await?;
        visit.until("#depth-shown", "1").await?;
        choose(visit, "view", "From below").await?;
        visit.until(".lore-sheet", "Glow wins in the dark").await
    })
    .await;
}

#[tokio::test]
async fn a_call_is_vetoed_and_says_why_when_asked() {
    demo(Size::Desk, async |visit| {
        visit.go("/today").await?;
        visit.unfold().await?;
        let first = visit.text("#pick-primary").await?;
        visit.until("#changes", "judged again").await?;
        // The weights are behind a tap.
        assert!(
            !visit
                .text(".pick-primary")
                .await?
                .contains("common practice")
        );
        visit.click(".pick-primary .pick-terms summary").await?;
        visit
            .until(".pick-primary .pick-terms", "common practice, no source")
            .await?;
        visit
            .click(".pick-primary .pick-acts form:last-child .b")
            .await?;
        let row = format!("[data-rig='{first}']");
        visit.until(&format!("{row} .why-not"), "Vetoed.").await?;
        assert_ne!(visit.text("#pick-primary").await?, first);
        visit.click(&format!("{row} .why-not summary")).await?;
        visit
            .until(&format!("{row} .why-not"), "You struck it off")
            .await?;
        visit.click(&format!("{row} .why-acts .b")).await?;
        visit.until("#pick-primary", &first).await?;
        // Another one: why not, then pinned.
        visit
            .click("[data-rig='Slow wing'] .why-not summary")
            .await?;
        visit
            .until("[data-rig='Slow wing'] .why-not", "Speed −")
            .await?;
        visit.click("[data-rig='Slow wing'] .why-acts .b").await?;
        visit.until("#pick-primary", "Slow wing").await?;
        visit.until(".pick-primary .pick-role", "pinned").await?;
        // And started with: its line is out.
        visit.click(".pick-primary .b-now").await?;
        visit.until(".running", "Slow wing").await
    })
    .await;
}

#[tokio::test]
async fn another_school_is_followed() {
    demo(Size::Desk, async |visit| {
        visit.go("/today").await?;
        visit.unfold().await?;
        visit.click(".pick-primary .pick-terms summary").await?;
        visit
            .until(".pick-primary .pick-terms", "Seen from")
            .await?;
        visit.click("#height-hint a").await?;
        visit.until("#judging-head", "Schools and weights").await?;
        choose(visit, "colour", "Rotate through the box and count").await?;
        choose(visit, "height", "On the bottom").await?;
        visit.click("#set-schools").await?;
        visit.until(".notice", "Set.").await?;
        visit.fill("#evidence", "5").await?;
        visit.click("#set-weights").await?;
        visit
            .until("#problem-evidence", "too large; give 0 to 3")
            .await?;
        visit.go("/today").await?;
        visit.until("#height-hint", "on the bottom").await?;
        visit.click(".pick-primary .pick-terms summary").await?;
        visit.until(".pick-primary .pick-terms", "Your log").await?;
        // Who counts gives finishes no weight.
        assert!(
            !visit
                .text(".pick-primary .pick-terms")
                .await?
                .contains("Seen from")
        );
        Ok(())
    })
    .await;
}

#[tokio::test]
async fn a_rule_is_typed_in_and_holds_the_rigs_to_it() {
    demo(Size::Desk, async |visit| {
        visit.go("/waters/2").await?;
        choose(visit, "topic", "Hooks on a line").await?;
        visit.fill("#rule_count", "1").await?;
        visit.fill("#rule_source", "the notice at the ramp").await?;
        visit.click("#save-rule").await?;
        // Three hooks are entered for all the year already.
        visit
            .until("#problem-rule_from", "This contradicts")
            .await?;
        assert_eq!(visit.value("#rule_source").await?, "the notice at the ramp");
        choose(visit, "topic", "No bait").await?;
        visit.click("#save-rule").await?;
        visit.until(".rules", "the notice at the ramp").await?;
        visit.go("/today").await?;
        visit.unfold().await?;
        visit
            .until(
                "[data-rig='Tamarin two-hook'] .call-reason",
                "Against a rule you entered",
            )
            .await?;
        visit
            .until("#day-side", "Check the current local regulations")
            .await
    })
    .await;
}

/// The printed sheet is one page, and nothing of it stands on the lower half of a Letter or A4.
#[tokio::test]
async fn the_sheet_takes_half_a_page() {
    demo(Size::Desk, async |visit| {
        visit.go("/today").await?;
        visit.find("#pick-primary").await?;
        visit.press("p").await?;
        visit.until(".card-head", "Lake Tamarin").await?;
        let pages = visit.printed(100).await?;
        assert_eq!(pages.len(), 1);
        let rows = pages[0].dark_runs();
        let last = rows.iter().rposition(|run| *run > 0).unwrap();
        let share = last as f64 / rows.len() as f64;
        assert!((0.3..0.55).contains(&share), "{share}");
        Ok(())
    })
    .await;
}
