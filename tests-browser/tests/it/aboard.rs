//! Who is aboard, on the phone: a wrong phrase, the right one, a tap made when the session was ended elsewhere.

use motilis_tests_browser::{Size, Visit, asking};
use thirtyfour::prelude::*;

const PHRASE: &str = "four dry oars afloat";

async fn come_aboard(visit: &Visit, phrase: &str) -> WebDriverResult<()> {
    visit.fill("#phrase", phrase).await?;
    visit.click(".sign-form button").await
}

#[tokio::test]
async fn a_tap_outlives_a_session_that_was_ended_elsewhere() {
    asking(Size::Phone, PHRASE, async |visit| {
        visit.go("/log").await?;
        visit.until("h1", "Who is it").await?;
        come_aboard(visit, "four dry oars ashore").await?;
        visit.until(".problem", "neither the captain").await?;
        come_aboard(visit, PHRASE).await?;
        // Where one wanted to go.
        visit.until("h1", "Log").await?;
        visit.until("#rod-1", "Fish on").await?;

        // Signed out from another device; the tap is kept and says so.
        visit.browser.delete_cookie("motilis-session").await?;
        visit.click("#fish-on").await?;
        visit
            .until("#link-says", "Sign in on this device first")
            .await?;
        visit.go("/log").await?;
        visit.until("h1", "Who is it").await?;
        come_aboard(visit, PHRASE).await?;
        visit.until("h1", "Log").await?;
        visit.all_sent().await?;
        visit.go("/log?only=fish&rod=1").await?;
        visit.until(".entries", "beyond the outing").await?;
        visit.forget_console().await
    })
    .await;
}
