//! In the hand: a link that drops, quick taps, a finger that scrolls, an empty file, every width, and ears.

use motilis_tests_browser::{Driver, Size, Visit, blank, demo};
use serde_json::json;
use std::time::Duration;
use thirtyfour::prelude::*;

/// Every page of the demo that a door or a link leads to; the crawl of the web's tests opens the same.
fn pages() -> impl Iterator<Item = &'static str> {
    include_str!("../../../crates/motilis-web/tests/pages.txt").lines()
}

async fn entries(visit: &Visit) -> WebDriverResult<usize> {
    visit.go("/log").await?;
    visit.find("#log-head").await?;
    Ok(visit.browser.find_all(By::Css(".entry")).await?.len())
}

async fn pause(milliseconds: u64) {
    tokio::time::sleep(Duration::from_millis(milliseconds)).await;
}

/// The program goes under the taps and comes back: they are kept, shown at once, outlive a reload, and each is done
/// once.
#[tokio::test]
async fn taps_outlive_a_link_that_drops() {
    demo(Size::Phone, async |visit| {
        let before = entries(visit).await?;
        visit.click("#rod-1 .rod-more > summary").await?;
        visit.stop_program();
        for tap in [
            "#fish-on",
            "button[value=strike]",
            "button[value=follow]",
            "#fish-on",
        ] {
            visit.click(tap).await?;
            pause(220).await;
        }
        visit.until("#link-says", "No link since").await?;
        visit.until("#link-says", "4 kept here").await?;
        visit.until("#link-acts", "Strike").await?;
        // The page is still ours, and says so when it is asked for another.
        visit.click(".doors-phone a[href='/spread']").await?;
        visit.until("#link-says", "cannot be opened").await?;
        visit.find("#fish-on").await?;
        visit.start_program_again();
        visit.all_sent().await?;
        assert_eq!(entries(visit).await?, before + 4);
        visit.forget_console().await
    })
    .await;
}

/// What is kept outlives the page it was tapped on.
#[tokio::test]
async fn what_waits_outlives_a_reload() {
    demo(Size::Phone, async |visit| {
        let before = entries(visit).await?;
        // A server that is there but does not answer the tap.
        let held = "localStorage.setItem('motilis-outbox', JSON.stringify([{id: 'reload-1', address: '/log', \
            body: [['_units', 'imperial'], ['kind', 'fish']], says: 'Fish on', tapped: Date.now() - 60000, \
            from: '/log', page: 'gone'}]))";
        visit.browser.execute(held, vec![]).await?;
        visit.go("/log").await?;
        visit.all_sent().await?;
        assert_eq!(entries(visit).await?, before + 1);
        // Asked for again under its number it is the same fish.
        visit.browser.execute(held, vec![]).await?;
        visit.go("/log").await?;
        visit.all_sent().await?;
        assert_eq!(entries(visit).await?, before + 1);
        Ok(())
    })
    .await;
}

/// What is refused later stays with its sentence until it is thrown away.
#[tokio::test]
async fn a_refused_act_stays_with_its_sentence() {
    demo(Size::Phone, async |visit| {
        visit.go("/today").await?;
        let held = "localStorage.setItem('motilis-outbox', JSON.stringify([{id: 'refused-1', address: '/log', \
            body: [['kind', 'dance']], says: 'Dance', tapped: Date.now() - 60000, from: '/log', page: 'gone'}]))";
        visit.browser.execute(held, vec![]).await?;
        visit.go("/today").await?;
        visit.until("#link-acts", "the log takes").await.or(visit.until("#link-acts", "The log takes").await)?;
        visit.click("#link-acts .b").await?;
        visit.all_sent().await?;
        visit.forget_console().await
    })
    .await;
}

/// Six tenths of a second each way, taps two tenths apart: as many fish as taps.
#[tokio::test]
async fn quick_taps_on_a_slow_link_are_each_one_fish() {
    demo(Size::Phone, async |visit| {
        let before = entries(visit).await?;
        let slow = json!({ "offline": false, "latency": 600, "downloadThroughput": -1, "uploadThroughput": -1 });
        let cdp = visit.browser.cdp();
        cdp.send_raw("Network.enable", json!({})).await?;
        cdp.send_raw("Network.emulateNetworkConditions", slow).await?;
        visit.find("#fish-on").await?;
        // By a script's clock: the driver's own clicks are slower than a hand.
        let taps = "const tap = (n) => { if (n) { document.getElementById('fish-on').click(); \
            setTimeout(() => tap(n - 1), 200); } }; tap(5)";
        visit.browser.execute(taps, vec![]).await?;
        visit.until("#link-says", "Kept here").await?;
        pause(1_200).await;
        visit.all_sent().await?;
        let fast = json!({ "offline": false, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1 });
        cdp.send_raw("Network.emulateNetworkConditions", fast).await?;
        assert_eq!(entries(visit).await?, before + 5);
        // A hand that bounces meant one.
        visit
            .browser
            .execute("const b = document.getElementById('fish-on'); b.click(); b.click()", vec![])
            .await?;
        visit.until(".notice", "Fish logged").await?;
        visit.all_sent().await?;
        assert_eq!(entries(visit).await?, before + 6);
        Ok(())
    })
    .await;
}

/// Two phones on one boat: what each logs, both see.
#[tokio::test]
async fn two_phones_log_into_one_book() {
    demo(Size::Phone, async |visit| {
        let before = entries(visit).await?;
        let other = Driver::shared().window((390, 844)).await?;
        other.goto(format!("{}/log", visit.address())).await?;
        for _ in 0..3 {
            visit.click("#fish-on").await?;
            // Scrolled clear of the rule at the foot.
            let tap = "const b = document.getElementById('fish-on'); b.scrollIntoView({block: 'center'}); b.click()";
            other.execute(tap, vec![]).await?;
            pause(400).await;
        }
        visit.all_sent().await?;
        pause(400).await;
        assert_eq!(entries(visit).await?, before + 6);
        Driver::shared().take_back(other).await
    })
    .await;
}

/// Seconds between touch and first move: of a swipe, and of a hold.
const SWIPE: f64 = 1.0 / 60.0;
const HELD: f64 = 0.5;

/// A finger whose touches carry their own times, so that a busy machine makes no hold of a swipe.
struct Finger<'a> {
    visit: &'a Visit,
    time: f64,
}

impl<'a> Finger<'a> {
    fn down(visit: &'a Visit) -> Self {
        let now = std::time::SystemTime::now();
        let time = now
            .duration_since(std::time::UNIX_EPOCH)
            .unwrap()
            .as_secs_f64();
        Self { visit, time }
    }

    async fn touch(
        &mut self,
        kind: &str,
        points: &[(f64, f64)],
        after: f64,
    ) -> WebDriverResult<()> {
        self.time += after;
        let points: Vec<_> = points
            .iter()
            .map(|(x, y)| json!({ "x": x, "y": y }))
            .collect();
        let event = json!({ "type": kind, "touchPoints": points, "timestamp": self.time });
        let cdp = self.visit.browser.cdp();
        cdp.send_raw("Input.dispatchTouchEvent", event).await?;
        Ok(())
    }

    /// Down at the first point, held, moved through the others a sixtieth of a second apart, and up.
    async fn draw(visit: &'a Visit, hold: f64, points: &[(f64, f64)]) -> WebDriverResult<()> {
        let mut finger = Self::down(visit);
        finger.touch("touchStart", &points[..1], 0.0).await?;
        for (step, point) in points.iter().skip(1).enumerate() {
            let after = if step == 0 { hold } else { 1.0 / 60.0 };
            finger.touch("touchMove", &[*point], after).await?;
        }
        finger.touch("touchEnd", &[], 1.0 / 60.0).await
    }
}

/// A finger that scrolls over a slider leaves it; drawn by its thumb it moves.
#[tokio::test]
async fn a_scroll_changes_no_value() {
    demo(Size::Phone, async |visit| {
        let cdp = visit.browser.cdp();
        cdp.send_raw("Emulation.setTouchEmulationEnabled", json!({ "enabled": true }))
            .await?;
        visit.go("/tank").await?;
        visit.until(".state", "Turning").await?;
        let box_of = "const s = document.querySelector('.slider[data-for=speed]'); s.scrollIntoView({block: 'center'}); \
            const b = s.getBoundingClientRect(); const share = (s.value - s.min) / (s.max - s.min); \
            return [b.left, b.top + b.height / 2, b.width, b.left + 7 + share * (b.width - 14)]";
        let [left, y, width, thumb]: [f64; 4] = visit.browser.execute(box_of, vec![]).await?.convert()?;
        for x in [thumb, left + 0.8 * width] {
            let path: Vec<_> = (0..12).map(f64::from).map(|step| (x + 1.5 * step, y - 12.0 * step)).collect();
            Finger::draw(visit, SWIPE, &path).await?;
            pause(200).await;
            assert_eq!(visit.value("#speed").await?, "1.2", "from {x}");
            let slider = visit.value(".slider[data-for=speed]").await?;
            assert_eq!(slider, "1.2");
        }
        // A tap beside the thumb is no drag either.
        let [left, y, width, thumb]: [f64; 4] = visit.browser.execute(box_of, vec![]).await?.convert()?;
        Finger::draw(visit, SWIPE, &[(left + 0.9 * width, y)]).await?;
        pause(200).await;
        assert_eq!(visit.value("#speed").await?, "1.2");
        let path: Vec<_> = (0..12).map(f64::from).map(|step| (thumb + 8.0 * step, y)).collect();
        Finger::draw(visit, SWIPE, &path).await?;
        pause(300).await;
        let speed: f64 = visit.value("#speed").await?.parse().unwrap();
        assert!(speed > 1.5, "drawn by its thumb it stands at {speed}");
        cdp.send_raw("Emulation.setTouchEmulationEnabled", json!({ "enabled": false }))
            .await?;
        Ok(())
    })
    .await;
}

/// On glass a part of the board moves after a hold; a swipe over it moves nothing.
#[tokio::test]
async fn a_part_is_dragged_after_a_hold_only() {
    demo(Size::Phone, async |visit| {
        let cdp = visit.browser.cdp();
        cdp.send_raw(
            "Emulation.setTouchEmulationEnabled",
            json!({ "enabled": true }),
        )
        .await?;
        visit.go("/bench/1").await?;
        visit.find("#bench").await?;
        let order = visit.text(".strip ol").await?;
        let place = "const pieces = [...document.querySelectorAll('.bench-board .piece')]; \
            const board = document.getElementById('board'); const piece = pieces.find((one) => one.dataset.at === '4'); \
            const b = piece.getBoundingClientRect(); board.scrollLeft += b.left - 150; \
            piece.scrollIntoView({block: 'center'}); const c = piece.getBoundingClientRect(); \
            return [c.left + c.width / 2, c.top + c.height / 2]";
        let [x, y]: [f64; 2] = visit.browser.execute(place, vec![]).await?.convert()?;
        // A swipe.
        let path: Vec<_> = (0..10).map(f64::from).map(|step| (x - 9.0 * step, y)).collect();
        Finger::draw(visit, SWIPE, &path).await?;
        pause(500).await;
        assert_eq!(visit.text(".strip ol").await?, order);
        // A hold, then a drag to the front.
        let [x, y]: [f64; 2] = visit.browser.execute(place, vec![]).await?.convert()?;
        let path: Vec<_> = (0..14).map(f64::from).map(|step| (x - 11.0 * step, y)).collect();
        Finger::draw(visit, HELD, &path).await?;
        pause(800).await;
        assert_ne!(visit.text(".strip ol").await?, order);
        cdp.send_raw(
            "Emulation.setTouchEmulationEnabled",
            json!({ "enabled": false }),
        )
        .await?;
        Ok(())
    })
    .await;
}

/// A newcomer with a file of his own: from nothing to a call.
#[tokio::test]
async fn an_empty_file_comes_to_its_first_call() {
    blank(Size::Phone, async |visit| {
        for (door, says) in [
            ("/tank", "Tank tows one rig"),
            ("/log", "Log keeps strikes"),
            ("/column", "light at each depth"),
            ("/", "Today says which rig"),
        ] {
            visit.go(door).await?;
            visit.until("#door", says).await?;
        }
        visit.go("/box").await?;
        visit.until(".empty", "starter box").await?;
        visit.go("/").await?;
        visit.fill("#name", "Lake Vell").await?;
        visit.fill("#latitude", "46 12.5 N").await?;
        visit.fill("#longitude", "95 30").await?;
        // What the position proposes comes first: what is typed then stands in its place.
        visit.find("#zone[value^='Asia/']").await?;
        visit.fill("#zone", "America/Chicago").await?;
        visit.click("#begin").await?;
        visit.until("#problem-zone", "14 hours off").await?;
        visit.fill("#longitude", "95 30 W").await?;
        visit.click("#begin").await?;
        visit.until("#headline", "1 of 1 rigs work").await?;
        visit
            .until(".pick-primary", "First crawler harness")
            .await?;
        // Every door leads somewhere now.
        for door in ["/tank", "/log", "/bench", "/box", "/spread", "/waters"] {
            visit.go(door).await?;
            let title = visit.browser.title().await?;
            assert!(!title.starts_with("Start"), "{door} leads to {title}");
        }
        visit.go("/waters/1").await?;
        assert_eq!(visit.value("#zone").await?, "America/Chicago");
        visit.forget_console().await
    })
    .await;
}

/// A veto is taken back where it was given, with the focus on it.
#[tokio::test]
async fn a_veto_offers_its_undo_where_it_was() {
    demo(Size::Phone, async |visit| {
        visit.go("/today").await?;
        let first = visit.text("#pick-primary").await?;
        visit.click(".pick-primary button[id^=veto]").await?;
        visit
            .until(".notice", &format!("{first} is vetoed"))
            .await?;
        assert_eq!(visit.focused().await?, "undo-mark");
        let place = "return document.getElementById('undo-mark').getBoundingClientRect().top / window.innerHeight";
        let place: f64 = visit.browser.execute(place, vec![]).await?.convert()?;
        assert!((0.0..0.95).contains(&place), "it stands at {place} of the window");
        visit.press(Key::Enter).await?;
        visit.until("#pick-primary", &first).await
    })
    .await;
}

/// No page scrolls sideways, from a small phone to a wide desk at double size.
#[tokio::test]
async fn every_page_fits_every_width() {
    demo(Size::Phone, async |visit| {
        let mut over = Vec::new();
        let cdp = visit.browser.cdp();
        for path in pages() {
            visit.go(path).await?;
            visit.find("h1").await?;
            for (width, height) in [
                (320, 640),
                (390, 844),
                (640, 400),
                (768, 1024),
                (844, 390),
                (1024, 768),
                (1920, 1080),
            ] {
                let metrics = json!({ "width": width, "height": height, "deviceScaleFactor": 1, "mobile": false });
                cdp.send_raw("Emulation.setDeviceMetricsOverride", metrics)
                    .await?;
                let wider = "return document.documentElement.scrollWidth - window.innerWidth";
                let by: i64 = visit.browser.execute(wider, vec![]).await?.convert()?;
                if by > 0 {
                    over.push(format!("{path} at {width}: {by} px"));
                }
            }
        }
        assert!(over.is_empty(), "{over:#?}");
        visit.forget_console().await
    })
    .await;
}

/// What ears and keys need, by axe-core, on every page. By night only the colours are others, and they are one set for both
/// sizes; how each text stands out on the phone is looked at by `every_text_can_be_read_in_both_themes`.
#[rstest::rstest]
#[case(Size::Desk, &[("light", "{}"), ("dark", "{ runOnly: ['color-contrast'] }")])]
#[case(Size::Phone, &[("light", "{ rules: { 'color-contrast': { enabled: false } } }")])]
#[tokio::test]
async fn every_page_can_be_heard(#[case] size: Size, #[case] looks: &[(&str, &str)]) {
    demo(size, async |visit| {
        let mut found = Vec::new();
        for path in pages() {
            visit.go(path).await?;
            visit.find("h1").await?;
            for (theme, options) in looks {
                let wrong = visit.unheard(theme, options).await?;
                found.extend(
                    wrong
                        .into_iter()
                        .map(|what| format!("{theme} {path}: {what}")),
                );
            }
        }
        assert!(found.is_empty(), "{found:#?}");
        visit.forget_console().await
    })
    .await;
}

/// Night where the device is set to it, before anybody chose; the switch then turns what is seen.
#[tokio::test]
async fn a_device_set_to_night_begins_at_night() {
    demo(Size::Phone, async |visit| {
        let night = json!({ "features": [{ "name": "prefers-color-scheme", "value": "dark" }] });
        visit
            .browser
            .cdp()
            .send_raw("Emulation.setEmulatedMedia", night)
            .await?;
        visit.go("/log").await?;
        visit.find("html[data-bs-theme=dark]").await?;
        // A tap changes nothing about that.
        visit.click("#fish-on").await?;
        visit.until(".notice", "Fish logged").await?;
        visit.find("html[data-bs-theme=dark]").await?;
        visit.click("#theme").await?;
        visit.find("html[data-bs-theme=light]").await?;
        visit.go("/log").await?;
        visit.find("html[data-bs-theme=light]").await.map(drop)
    })
    .await;
}

/// After a fish its length and fate are two taps.
#[tokio::test]
async fn a_fish_is_measured_in_its_notice() {
    demo(Size::Phone, async |visit| {
        visit.go("/log").await?;
        visit.click("#fish-on").await?;
        visit.until(".notice", "Fish logged").await?;
        visit.click("[data-step='1']").await?;
        visit.click("[data-step='1']").await?;
        visit.click("#quick-back").await?;
        visit.until(".entry-fish", "19 in, released").await
    })
    .await;
}

/// A browser that stores nothing keeps a tap as long as the page stands, and sends it.
#[tokio::test]
async fn a_full_browser_keeps_its_tap() {
    demo(Size::Phone, async |visit| {
        let before = entries(visit).await?;
        let full = "Storage.prototype.setItem = () => { throw new DOMException('full', 'QuotaExceededError'); }";
        visit.browser.execute(full, vec![]).await?;
        visit.stop_program();
        visit.click("#fish-on").await?;
        visit.until("#link-says", "1 kept here").await?;
        visit.start_program_again();
        for _ in 0..200 {
            if visit.text("#link-says").await?.is_empty() {
                break;
            }
            pause(100).await;
        }
        assert_eq!(entries(visit).await?, before + 1);
        visit.forget_console().await
    })
    .await;
}

/// Figures that are not of what stands in the fields are marked, and computed by themselves once the link is back.
#[tokio::test]
async fn stale_figures_come_back_by_themselves() {
    demo(Size::Desk, async |visit| {
        visit.go("/tank").await?;
        visit.until(".state", "Turning").await?;
        visit.stop_program();
        visit.keys("#speed", Key::Control + "a").await?;
        visit.keys("#speed", "2.4").await?;
        visit.until("#link-says", "Figures are for 1.2 mph").await?;
        visit.find("#run.is-stale").await?;
        visit.start_program_again();
        visit.until(".state", "Rolling over").await?;
        visit.find("#run:not(.is-stale)").await?;
        visit.forget_console().await
    })
    .await;
}

/// On glass the device's own picker sets an hour; what was left alone goes back as it came. Conditions that were
/// carried over say so at their fields until they are changed.
#[tokio::test]
async fn a_new_outing_on_glass_keeps_its_hour_and_marks_what_was_carried() {
    demo(Size::Phone, async |visit| {
        let cdp = visit.browser.cdp();
        let touch = |enabled: bool| {
            let how = json!({ "enabled": enabled });
            cdp.send_raw("Emulation.setTouchEmulationEnabled", how)
        };
        touch(true).await?;
        visit.go("/today").await?;
        visit.click("form[action='/outings'] .b").await?;
        visit
            .until("#carried", "Carried over from the last outing")
            .await?;
        visit.unfold().await?;
        let marked =
            "return getComputedStyle(document.querySelector('.fld-sky'), '::after').content";
        let words: String = visit.browser.execute(marked, vec![]).await?.convert()?;
        assert_eq!(words, "\"carried over\"");
        visit.find("#started[type=datetime-local]").await?;
        let sent = "return new FormData(document.getElementById('conditions')).get('started')";
        let sent: String = visit.browser.execute(sent, vec![]).await?.convert()?;
        assert_eq!((sent.len(), &sent[10..11]), (16, " "), "{sent}");
        let clear = "const list = document.getElementById('sky'); \
            list.value = [...list.options].find((one) => !one.selected).value; \
            list.dispatchEvent(new Event('change', {bubbles: true}))";
        visit.browser.execute(clear, vec![]).await?;
        visit
            .find("#carried [data-carried]:not([data-carried~=sky])")
            .await?;
        let words: String = visit.browser.execute(marked, vec![]).await?.convert()?;
        assert_eq!(words, "none");
        visit.click("#confirm-carried").await?;
        visit.find("#carried:not(:has(form))").await?;
        touch(false).await?;
        Ok(())
    })
    .await;
}

/// The Log by thumb: a rod's strike and fish by a tap each, its hours by the second button, the fish's length, the
/// evidence they make.
#[tokio::test]
async fn rods_are_fished_by_thumb() {
    demo(Size::Phone, async |visit| {
        visit.go("/log").await?;
        visit.click("#rod-2 .taps button[value=strike]").await?;
        visit
            .until("#rod-2 .notice", "Strike logged: rod 2")
            .await?;
        visit.click("#rod-2 .fish-on").await?;
        visit.until("#rod-2 .notice", "Fish logged: rod 2").await?;
        // The fish brought its rod in; the others fish on.
        visit.until("#rod-2", "aboard").await?;
        visit.until("#rod-1", "out since").await?;
        visit.fill("#quick-length", "14").await?;
        visit.click("#quick-kept").await?;
        visit.until(".entry-fish", "14 in, kept").await?;
        visit.click("#rod-2 .rod-move button").await?;
        visit.until(".notice", "Rod 2 out").await?;
        visit.until("#rod-2", "out since").await?;
        visit.click("#all-in").await?;
        visit.until("#rod-1", "aboard").await?;
        visit.click("a[href='/evidence']").await?;
        visit.until("#evidence-whole", "rod-hours").await?;
        choose(visit, "by", "Depth under the surface").await?;
        visit.until(".rate-name", "down").await?;
        visit
            .until("#compared-raw", "Whatever they were fished in")
            .await
    })
    .await;
}

/// Chooses an entry of a list, as a thumb does.
async fn choose(visit: &Visit, list: &str, entry: &str) -> WebDriverResult<()> {
    let script = "const list = document.getElementById(arguments[0]); \
        list.value = [...list.options].find((one) => one.text === arguments[1]).value; \
        list.dispatchEvent(new Event('change', {bubbles: true}))";
    visit
        .browser
        .execute(script, vec![list.into(), entry.into()])
        .await
        .map(drop)
}

/// "That rod catches all the fish": the change is called, made by a tap, and taken back.
#[tokio::test]
async fn a_switch_is_called_and_made() {
    demo(Size::Desk, async |visit| {
        visit.go("/log").await?;
        visit.until("#switch", "change to Leech single").await?;
        let says = visit.text("#switch").await?;
        assert!(
            says.contains("as a probe") && says.contains("it would hold"),
            "{says}"
        );
        visit.click("#switch-no").await?;
        visit.find("#log:not(:has(#switch))").await?;
        visit.click("#rod-2 .fish-on").await?;
        visit.until("#switch", "change to Leech single").await?;
        visit.click("#switch-yes").await?;
        visit.until(".entry", "Change").await?;
        visit.until("#rod-1", "Leech single").await
    })
    .await;
}
