//! An evening on the simulated boat at twenty times life, by thumb and beside the tiller: rods set out, a shoal that was told
//! kept off, strikes with the link cut, the change that is called made, all taken in, and the log read.

use motilis_tests_browser::{Size, Visit, sailing};
use rstest::rstest;
use std::time::{Duration, Instant};
use thirtyfour::prelude::*;

/// How long a simulated lake may take until something happens on it: two hours of the boat's time.
const EVENING: Duration = Duration::from_mins(6);

async fn asked(visit: &Visit, script: &str) -> WebDriverResult<Option<String>> {
    let answer = visit.browser.execute(script, vec![]).await?;
    Ok(answer.json().as_str().map(str::to_owned))
}

async fn pause() {
    tokio::time::sleep(Duration::from_millis(60)).await;
}

/// A clock of a form three hours earlier.
const EARLIER: &str = "const earlier = (clock) => { const then = new Date(clock.replace(' ', 'T') + 'Z'); \
    then.setUTCHours(then.getUTCHours() - 3); return then.toISOString().slice(0, 16).replace('T', ' '); };";

/// They had been fishing for three hours before anybody took the phone out: hours that tell.
async fn since_the_afternoon(visit: &Visit) -> WebDriverResult<()> {
    visit.go("/today").await?;
    visit.find("#started").await?;
    let began = "const field = document.getElementById('started'); field.value = earlier(field.value); \
        field.dispatchEvent(new Event('change', { bubbles: true })); return field.value";
    let began = asked(visit, &format!("{EARLIER}{began}")).await?;
    visit.all_sent().await?;
    let began = began.unwrap_or_default();
    let earlier = format!(
        "{EARLIER} const form = [...document.querySelectorAll('.pass-form')].find((form) => \
         earlier(form.elements.from.value) >= '{began}'); if (!form) return null; \
         form.elements.from.value = earlier(form.elements.from.value); form.querySelector('button').click(); return 'one'"
    );
    let mut corrected = 0;
    loop {
        visit.go("/log").await?;
        visit.find(".pass-form").await?;
        if asked(visit, &earlier).await?.is_none() {
            break;
        }
        corrected += 1;
        assert!(corrected < 12, "the hours of a pass do not keep");
        pause().await;
        visit.all_sent().await?;
    }
    assert!(corrected >= 4, "{corrected}");
    visit.go("/boat").await
}

/// Taps what keeps the rods off as soon as it is offered; tells whether no rod touched what was told.
async fn kept_off(visit: &Visit, until: Instant) -> WebDriverResult<bool> {
    // By a script's clock: at twenty times life a warning of half a minute is there for a second and a half.
    let tap = "const form = document.getElementById('line-form'), act = document.getElementById('line-act'), \
        says = document.getElementById('line-text').textContent; \
        if (!form || form.hidden || !/touch/.test(says) || !/^Set |is in by/.test(act.textContent)) return null; \
        act.click(); return says;";
    let told = loop {
        assert!(
            Instant::now() < until,
            "no shoal was told with what keeps the rods off"
        );
        if let Some(told) = asked(visit, tap).await? {
            break told;
        }
        pause().await;
    };
    assert!(told.contains("go up to") || told.contains("wind"), "{told}");
    // What is offered next, until nothing is told any more.
    let calm =
        "return document.getElementById('boat-line').dataset.mark === 'cannot' ? 'told' : 'calm'";
    let grounded = "const words = [...document.querySelectorAll('.boat-word')].map((word) => word.textContent); \
        return words.some((word) => /on the bottom|touches now/.test(word)) ? 'touched' : null";
    let mut quiet = Instant::now();
    while quiet.elapsed() < Duration::from_secs(3) {
        if asked(visit, grounded).await?.is_some() {
            return Ok(false);
        }
        asked(visit, tap).await?;
        if asked(visit, calm).await?.as_deref() == Some("told") {
            quiet = Instant::now();
        }
        pause().await;
    }
    Ok(true)
}

/// A shoal of those the boat comes over is kept off by what is advised.
async fn past_a_shoal(visit: &Visit) -> WebDriverResult<()> {
    let until = Instant::now() + EVENING;
    while !kept_off(visit, until).await? {
        // Too late on a busy machine: at the old speed on to the next.
        for _ in 0..8 {
            let slower = "const by = document.querySelector('.boat-helm button[value=\"-0.1\"]'); \
                const fast = parseFloat(document.querySelector('.boat-helm span').textContent.match(/[\\d.]+/)[0]); \
                if (fast < 1.25) return 'slow'; by.click(); return null";
            if asked(visit, slower).await?.is_some() {
                break;
            }
            tokio::time::sleep(Duration::from_millis(500)).await;
        }
    }
    Ok(())
}

/// A tap in the dialog of a rod.
async fn tap(visit: &Visit, rod: u8, kind: &str) -> WebDriverResult<()> {
    visit.click(&format!("#rod-{rod} .boat-open")).await?;
    visit
        .click(&format!("#acts-{rod} button[value={kind}]"))
        .await
}

#[rstest]
#[case::by_thumb(Size::Phone)]
#[case::beside_the_tiller(Size::Tablet)]
#[tokio::test]
async fn an_evening_on_the_simulated_boat(#[case] size: Size) {
    sailing(size, 20, async |visit| {
        visit.set_out_all().await?;
        past_a_shoal(visit).await?;
        since_the_afternoon(visit).await?;
        // Strikes while the boat's network is gone: kept, shown, sent, each with its own figures.
        visit.cut_link(true).await?;
        tap(visit, 1, "strike").await?;
        visit.until("#link-says", "1 kept here").await?;
        tap(visit, 3, "strike").await?;
        visit.until("#link-says", "2 kept here").await?;
        visit.cut_link(false).await?;
        visit.all_sent().await?;
        // One rod catches all the fish: when the hours say so, a change is called.
        for _ in 0..4 {
            visit.until("#rod-2 .boat-fish", "Fish on").await?;
            visit.click("#rod-2 .boat-fish").await?;
            visit.until(".boat-notice", "Fish logged: rod 2").await?;
            tap_out(visit, 2).await?;
        }
        let called = "const form = document.getElementById('line-form'); if (!form || form.hidden || \
            form.getAttribute('action') !== '/log/switch') return null; \
            const says = document.getElementById('line-text').textContent; document.getElementById('line-act').click(); \
            return says";
        let until = Instant::now() + EVENING;
        let says = loop {
            assert!(Instant::now() < until, "no change of rods was called");
            if let Some(says) = asked(visit, called).await? {
                break says;
            }
            pause().await;
        };
        assert!(says.contains("change to"), "{says}");
        visit.until(".boat-notice", "Rods changed").await?;
        // Home: all in, the outing's end, and what the log has of it.
        visit.click(".boat-ways form[action='/log/rods/in'] button").await?;
        visit.until("#rod-4", "aboard").await?;
        visit.click(".boat-ways form[action='/outings/end'] button").await?;
        visit.until("#line-text", "No outing goes on").await?;
        visit.go("/log").await?;
        visit.until("#outing-hours", "It lasted").await?;
        let entries = "return [...document.querySelectorAll('.entry')].map((entry) => entry.textContent).join('|')";
        let entries = asked(visit, entries).await?.unwrap_or_default();
        let of = |word: &str| entries.split('|').filter(|entry| entry.trim().starts_with(word)).count();
        assert_eq!((of("Strike"), of("Fish"), of("Change")), (2, 4, 1), "{entries}");
        visit.forget_console().await
    })
    .await;
}

/// A rod that had a fish goes out again.
async fn tap_out(visit: &Visit, rod: u8) -> WebDriverResult<()> {
    visit.until(&format!("#rod-{rod} .boat-in"), "In").await?;
    visit.click(&format!("#rod-{rod} .boat-in")).await
}
