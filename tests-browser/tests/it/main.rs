//! What a newcomer does, in a real browser, on the demo. One script a behaviour; each also fails on
//! an error in the console or a request to another host.

mod aboard;
mod bench;
mod boat;
mod evening;
mod hand;
mod river;
mod spread;
mod today;

use motilis_tests_browser::{Size, Visit, contrast_below, demo, targets_below};
use rstest::rstest;
use thirtyfour::prelude::*;

/// Waits for the state that a rig's row shows.
async fn shows(visit: &Visit, rig: &str, state: &str) -> WebDriverResult<()> {
    visit
        .until(&format!("[data-rig='{rig}'] .call-state"), state)
        .await
}

async fn set_speed(visit: &Visit, typed: &str, shown: &str) -> WebDriverResult<()> {
    visit.fill("#speed", typed).await?;
    visit.until("#headline", shown).await
}

#[rstest]
#[case::desk_by_day(Size::Desk, false)]
#[case::desk_by_night(Size::Desk, true)]
#[case::phone_by_day(Size::Phone, false)]
#[case::phone_by_night(Size::Phone, true)]
#[tokio::test]
async fn a_newcomer_goes_the_whole_way(#[case] size: Size, #[case] night: bool) {
    demo(size, async |visit| {
        visit.go("/").await?;
        if night {
            visit.click("#theme").await?;
            visit.find("html[data-bs-theme=dark]").await?;
        }
        // The states change with the speed.
        visit.find("#idle-summary").await?;
        visit.unfold().await?;
        shows(visit, "Big thumper", "Turning").await?;
        set_speed(visit, "2.1", "2.1 mph").await?;
        shows(visit, "Big thumper", "Rolling over").await?;
        shows(visit, "Double willow", "Turning").await?;
        set_speed(visit, "0,3", "0.3 mph").await?;
        shows(visit, "Slow wing", "Turning").await?;
        shows(visit, "Tamarin two-hook", "Stalling").await?;
        set_speed(visit, "1.2", "1.2 mph").await?;

        // 22 ft, and how much line that takes.
        visit.click("[data-rig='Tamarin two-hook'] a").await?;
        visit.until("#tank-head", "Tamarin two-hook").await?;
        visit.fill("#depth", "22").await?;
        visit.click("#set-depth").await?;
        visit.until(".facts", "22 ft").await?;
        let out: f64 = visit.value("#out").await?.parse().unwrap();
        assert!((60.0..=80.0).contains(&out), "{out} ft out for 22 ft");
        visit.click("#run-line").await?;
        visit.until(".running", "Tamarin two-hook").await?;
        visit.until(".running", "22 ft down").await?;

        // One tap logs a fish; it is there after a reload, goes and comes back.
        visit.click("#fish-on").await?;
        visit
            .until(
                ".notice",
                "Fish logged: rod 1, Tamarin two-hook, 22 ft down",
            )
            .await?;
        visit.go("/log").await?;
        let words = visit.text(".entry").await?;
        assert!(
            words.contains("Fish") && words.contains("Tamarin two-hook"),
            "{words}"
        );
        let id = visit.attr(".entry", "id").await?;
        visit
            .click(&format!("#{id} form[action$=delete] button"))
            .await?;
        visit.until(".notice", "Entry deleted.").await?;
        assert_eq!(
            visit.browser.find_all(By::Id(&id)).await?.len(),
            0,
            "the entry is gone"
        );
        visit.click("#undo").await?;
        visit.find(&format!("#{id}")).await?;
        Ok(())
    })
    .await;
}

#[tokio::test]
async fn a_fish_is_measured_and_a_wrong_length_is_answered_beside_its_field() {
    demo(Size::Phone, async |visit| {
        visit.go("/log").await?;
        visit.click("#fish-on").await?;
        visit.until(".notice", "Fish logged").await?;
        visit.click(".entry a[href*=edit]").await?;
        visit.fill("#length", "huge").await?;
        visit.click(".entry-form .b-now").await?;
        visit
            .until("#problem-length", "Length “huge” is not a number")
            .await?;
        assert_eq!(visit.value("#length").await?, "huge");
        visit.fill("#length", "21 3/4").await?;
        visit.keys("#kept", "Released").await?;
        visit.click(".entry-form .b-now").await?;
        visit.until(".entry-fish", "21¾ in, released").await
    })
    .await;
}

/// From the address bar to a logged fish without touching the pointer.
#[tokio::test]
async fn the_keyboard_alone_can_do_it() {
    demo(Size::Desk, async |visit| {
        visit.go("/today").await?;
        visit.find("#headline").await?;
        visit.unfold().await?;
        for _ in 0..9 {
            visit.press("]").await?;
        }
        visit.until("#headline", "2.1 mph").await?;
        shows(visit, "Big thumper", "Rolling over").await?;
        visit.press("[").await?;
        visit.until("#headline", "2.0 mph").await?;

        visit.press("gk").await?;
        visit.until("#tank-head", "Tamarin two-hook").await?;
        // Tab from field to field until the depth is reached, type, and press Enter.
        for _ in 0..40 {
            visit.press(Key::Tab).await?;
            if visit.focused().await? == "depth" {
                break;
            }
        }
        visit.press("15").await?;
        assert_eq!(visit.value("#depth").await?, "15");
        visit.press(Key::Enter).await?;
        visit.until(".facts", "15 ft").await?;

        visit.go("/log").await?;
        visit.find("#fish-on").await?;
        visit.press("f").await?;
        visit.until(".notice", "Fish logged").await?;
        visit.press("n").await?;
        visit.find("html[data-bs-theme=dark]").await?;
        visit.press("?").await?;
        visit.until("#keys", "Speed down and up").await?;
        visit.press(Key::Escape).await?;
        Ok(())
    })
    .await;
}

#[tokio::test]
async fn a_wrong_entry_keeps_what_was_typed_and_the_sheet_as_it_was() {
    demo(Size::Desk, async |visit| {
        visit.go("/today").await?;
        for (typed, sentence) in [
            ("fast", "Speed “fast” is not a number"),
            ("-2", "too small"),
            ("1e308", "too large"),
            ("", "Speed is empty"),
        ] {
            visit.fill("#speed", typed).await?;
            if typed.is_empty() {
                visit.keys("#speed", Key::Control + "a").await?;
                visit.keys("#speed", Key::Delete + Key::Tab).await?;
            }
            visit.until("#problem-speed", sentence).await?;
            assert_eq!(visit.value("#speed").await?, typed);
            assert!(visit.text("#headline").await?.contains("1.2 mph"));
        }
        visit.fill("#speed", "1.5").await?;
        visit.until("#headline", "1.5 mph").await?;
        assert_eq!(visit.text("#problem-speed").await?, "");
        Ok(())
    })
    .await;
}

#[tokio::test]
async fn the_tank_answers_while_a_figure_is_typed() {
    demo(Size::Desk, async |visit| {
        visit.go("/tank").await?;
        visit.until(".state", "Turning").await?;
        for _ in 0..12 {
            visit.keys(".slider[data-for=speed]", Key::Right).await?;
        }
        visit.until(".state", "Rolling over").await?;
        assert_eq!(visit.value("#speed").await?, "2.4");
        visit.keys("#speed", Key::Control + "a").await?;
        visit.keys("#speed", "0.4").await?;
        visit.until(".state", "Stalling").await?;
        visit.keys("#speed", Key::Control + "a").await?;
        visit.keys("#speed", "1.2").await?;
        visit.until(".state", "Turning").await?;
        visit.fill("#weight", "1 1/2").await?;
        visit.until("#tank-head", "oz bottom bouncer").await?;
        visit.fill("#out", "120").await?;
        visit.until(".facts", "drags").await?;
        // The picture says in words what it shows.
        let words = visit.attr(".wide-only .side-view", "aria-label").await?;
        assert!(words.contains("The line drags"), "{words}");
        // Another rig brings its own line and keeps the speed.
        visit.fill("#speed", "1.4").await?;
        visit.until(".speed-rule", "1.4").await?;
        // Typing a name into the list would stop at every rig on the way; the driver's own click on an
        // option fires no input event, as a hand's does.
        let choose = "const list = document.getElementById('rig'); \
            list.value = [...list.options].find((one) => one.text === arguments[0]).value; \
            list.dispatchEvent(new Event('input', {bubbles: true}))";
        visit
            .browser
            .execute(choose, vec!["Orrin magnum".into()])
            .await?;
        visit.until("#tank-head", "downrigger ball").await?;
        visit.until("label[for=out]", "Cable out").await?;
        assert_eq!(visit.value("#speed").await?, "1.4");
        Ok(())
    })
    .await;
}

#[tokio::test]
async fn the_units_switch_for_the_whole_boat() {
    demo(Size::Desk, async |visit| {
        visit.go("/today").await?;
        visit.click(".units-b").await?;
        visit.until("#headline", "km/h").await?;
        visit.until(".pick-primary .pick-figures", "km/h").await?;
        visit.fill("#speed", "1.2 mph").await?;
        visit.until("#headline", "1.9 km/h").await?;
        visit.go("/tank").await?;
        visit.until(".facts", " m").await
    })
    .await;
}

#[rstest]
#[case(Size::Desk)]
#[case(Size::Phone)]
#[tokio::test]
async fn every_text_can_be_read_in_both_themes(#[case] size: Size) {
    demo(size, async |visit| {
        let mut poor = Vec::new();
        for path in [
            "/today",
            "/today/card",
            "/column",
            "/judging",
            "/waters",
            "/waters/2",
            "/tank",
            "/spread/2?speed=2.4&line=1",
            "/spread/1/card",
            "/lures",
            "/setups/8",
            "/log",
            "/bench/1?at=2",
            "/bench/34",
            "/bench/new",
            "/bench/compare",
            "/bench/1/sheet",
            "/box",
            "/box?tray=made",
            "/box/parts/1",
            "/box/shopping",
            "/river?lie=mark-0&stand_along=30",
            "/runs/1",
            "/evidence",
            "/boat",
            "/boat/instruments",
            "/data",
        ] {
            visit.go(path).await?;
            visit.find("h1").await?;
            for theme in ["light", "dark"] {
                let turn = format!("document.documentElement.dataset.bsTheme = '{theme}'");
                visit.browser.execute(turn, vec![]).await?;
                for text in contrast_below(&visit.browser, 4.5).await? {
                    poor.push(format!("{theme} {path} {text}"));
                }
            }
        }
        assert!(poor.is_empty(), "{poor:#?}");
        Ok(())
    })
    .await;
}

#[tokio::test]
async fn everything_on_the_phone_can_be_hit_with_a_thumb() {
    demo(Size::Phone, async |visit| {
        let mut small = Vec::new();
        for path in [
            "/today",
            "/column",
            "/judging",
            "/waters",
            "/waters/2",
            "/tank",
            "/spread/2?speed=2.4&line=1",
            "/spread/1/card",
            "/lures",
            "/setups/8",
            "/log",
            "/log?edit=1",
            "/bench/1?at=2",
            "/bench/34",
            "/box",
            "/box?tray=made",
            "/river?lie=mark-0&stand_along=30",
            "/runs/1",
        ] {
            visit.go(path).await?;
            visit.find("h1").await?;
            for target in targets_below(&visit.browser, 44).await? {
                small.push(format!("{path} {target}"));
            }
            let wider = "return document.documentElement.scrollWidth - screen.width";
            let over: i64 = visit.browser.execute(wider, vec![]).await?.convert()?;
            assert!(over <= 0, "{path} is {over} px wider than the phone");
        }
        assert!(small.is_empty(), "{small:#?}");
        Ok(())
    })
    .await;
}
