//! The spread as it is used: speed raised until a line fails, the offered mend taken, a tight turn, the card
//! printed, lines dragged, the whole set in motion; by pointer, touch and keys.

use motilis_tests_browser::{Size, Visit, demo};
use thirtyfour::prelude::*;

/// Raises the speed by the stepper until a line fails; says which speed that is.
async fn raise_until_a_line_fails(visit: &Visit, by_key: bool) -> WebDriverResult<String> {
    for tenths in 13..40 {
        if by_key {
            visit.press("]").await?;
        } else {
            visit.click("#faster").await?;
        }
        let mph = format!("{:.1} mph", f64::from(tenths) / 10.0);
        visit
            .until("#spread-lines .row-state", &format!("at {mph}"))
            .await?;
        let failing = visit.browser.find_all(By::Css(".trouble-cannot")).await?;
        if !failing.is_empty() {
            return Ok(mph);
        }
    }
    panic!("no line fails below 4 mph")
}

#[tokio::test]
async fn a_line_that_fails_is_mended_and_a_turn_looked_at() {
    demo(Size::Desk, async |visit| {
        visit.go("/spread").await?;
        let failed = raise_until_a_line_fails(visit, false).await?;
        assert_eq!(failed, "1.8 mph");
        visit
            .until(".trouble-cannot", "turns instead of its blade above")
            .await?;
        visit.click(".mend").await?;
        visit.until(".notice", "Undo takes it back").await?;
        assert!(
            visit
                .browser
                .find_all(By::Css(".trouble-cannot"))
                .await?
                .is_empty()
        );
        // A tight turn to port: the inside line sinks to the bottom.
        let turn = "const list = document.getElementById('side'); list.value = 'port'; \
            list.dispatchEvent(new Event('input', {bubbles: true}))";
        visit.browser.execute(turn, vec![]).await?;
        visit.fill("#radius", "90").await?;
        visit
            .until(".line-row[data-line='1']", "On the bottom")
            .await?;
        visit
            .until(".line-row[data-line='1']", "Turn no tighter than")
            .await?;
        // A line looked at in one view is marked in the other.
        let script = "document.querySelector(\".line-row[data-line='3'] .row-name\").focus(); \
            return document.querySelectorAll(\"#spread-view .wide-only .sp-hover\").length";
        let marked = visit.browser.execute(script, vec![]).await?;
        assert_eq!(marked.json().as_i64(), Some(2));
        visit.click("#undo").await?;
        visit.until("#spread-lines .row-state", "at 1.2 mph").await
    })
    .await;
}

#[tokio::test]
async fn a_rig_is_dragged_deeper_and_a_rod_to_another_holder() {
    demo(Size::Desk, async |visit| {
        visit.go("/spread").await?;
        let rig = visit
            .find(".wide-only .sp-line[data-line='2'] .sp-rig")
            .await?;
        visit
            .browser
            .action_chain()
            .move_to_element_center(&rig)
            .click_and_hold()
            .move_by_offset(0, -60)
            .move_by_offset(0, -60)
            .release()
            .perform()
            .await?;
        // The setback follows, and the line is in hand.
        visit.until("#line-head", "Slow wing").await?;
        let wanted = visit.value("#wanted").await?;
        let depth: f64 = wanted.parse().unwrap();
        assert!(depth > 5.0 && depth < 20.0, "{depth}");
        let chip = visit.find(".rod-chip[data-line='2']").await?;
        let free = visit.find(".holder[data-holder='P2']").await?;
        chip.scroll_into_view().await?;
        visit
            .browser
            .action_chain()
            .move_to_element_center(&chip)
            .click_and_hold()
            .move_to_element_center(&free)
            .release()
            .perform()
            .await?;
        visit.until(".holder[data-holder='P2']", "2").await?;
        visit
            .until(".line-row[data-line='2']", "P2, corner rod")
            .await
    })
    .await;
}

#[tokio::test]
async fn the_card_is_printed_on_half_a_page() {
    demo(Size::Desk, async |visit| {
        visit.go("/spread").await?;
        visit.click("#set-out").await?;
        visit.until(".set-out", "Set out from the top down").await?;
        assert_eq!(visit.printed(60).await?.len(), 1);
        let height = "return document.querySelector('.set-out').getBoundingClientRect().height";
        let height = visit.browser.execute(height, vec![]).await?;
        // On the screen's larger type it still ends within a screen.
        assert!(height.json().as_f64().unwrap_or(9e9) < 720.0);
        Ok(())
    })
    .await;
}

#[tokio::test]
async fn the_spread_is_set_in_motion_and_replayed() {
    demo(Size::Desk, async |visit| {
        visit.go("/spread").await?;
        visit.fill("#bend", "65").await?;
        visit.click("#set-off").await?;
        visit.find("#motion-done[data-ready]").await?;
        let depth = visit.text(".sp-line[data-line='1'] .sp-depth").await?;
        for _ in 0..60 {
            visit.keys("#replay-at", Key::Right).await?;
        }
        visit.until("#replay-time", "30 s").await?;
        visit.until("#replay-boat", "to").await?;
        assert_ne!(
            visit.text(".sp-line[data-line='1'] .sp-depth").await?,
            depth
        );
        visit.click("#play").await?;
        visit.until("#play", "Pause").await?;
        visit.click("#play").await?;
        visit.until("#play", "Play").await
    })
    .await;
}

#[tokio::test]
async fn the_spread_is_worked_by_keys_alone_and_by_thumb() {
    demo(Size::Phone, async |visit| {
        visit.go("/spread").await?;
        visit.press("g").await?;
        visit.press("s").await?;
        visit.find("#spread-head").await?;
        let failed = raise_until_a_line_fails(visit, true).await?;
        assert_eq!(failed, "1.8 mph");
        visit.click(".mend").await?;
        visit.until(".notice", "Undo takes it back").await?;
        visit.press("u").await?;
        visit
            .until("#spread-lines .row-state", "at 1.2 mph")
            .await?;
        visit.click(".line-row[data-line='2'] .row-name").await?;
        visit.fill("#out", "3").await?;
        visit.click("#save-line").await?;
        visit.until("#problem-out", "let out more").await?;
        visit.fill("#out", "50").await?;
        visit.click("#save-line").await?;
        visit.until(".editor-facts", "50 ft").await
    })
    .await;
}

#[tokio::test]
async fn the_tank_turns_its_blade_and_stands_still_when_asked() {
    demo(Size::Desk, async |visit| {
        for (wish, turning) in [("no-preference", 1), ("reduce", 0)] {
            visit.wishing_motion(wish).await?;
            visit.go("/tank").await?;
            visit.find(".turning-blade").await?;
            let running = "return document.querySelector('.turning').getAnimations().length";
            let turns = visit.browser.execute(running, vec![]).await?;
            assert_eq!(turns.json().as_i64(), Some(turning), "{wish}");
        }
        visit.go("/tank?rig=6").await?;
        // A touch of the bottom becomes part of the curve.
        visit.fill("#touch_depth", "18").await?;
        visit.click("#add-touch").await?;
        visit.until("#dive-curve", "rests on 6 touches").await
    })
    .await;
}
