//! The drawing of each screen as it is written for the demo, so that a change of one is seen and reviewed
//! (`cargo insta review`, or look at the file beside this one).

use crate::server::TestServer;
use rstest::rstest;
use scraper::{Html, Selector};

#[rstest]
#[case("today_column", "/today", "svg.column")]
#[case("today_look", "/today", "svg.look")]
#[case("today_speed", "/today", "svg.speed-bar")]
#[case("column_day", "/column?hour=700", "svg.day-curve")]
#[case("bench", "/bench/1", "svg.bench-drawing")]
#[case("sheet", "/bench/1/sheet", "svg.tying-sheet")]
#[case("tank_side", "/tank?rig=1", "svg.side-view")]
#[case("tank_curve", "/tank?rig=1", "svg.curve")]
#[case("tank_blade", "/tank?rig=1", "svg.turning-blade")]
#[case("tank_rule", "/tank?rig=1", "svg.speed-rule")]
#[case("spread", "/spread/1", "svg.spread-drawing")]
#[case(
    "spread_turn",
    "/spread/2?side=starboard&radius=260",
    "svg.spread-drawing"
)]
#[case("log", "/log", "svg.day-bars")]
#[case("log_mark", "/log", "svg.entry-mark")]
fn a_drawing_is_as_it_was_reviewed(#[case] name: &str, #[case] path: &str, #[case] css: &str) {
    let page = TestServer::start().get(path);
    let html = Html::parse_document(&page.body);
    let drawing = html.select(&Selector::parse(css).unwrap()).next();
    // A tag a line, so that a difference shows where it is.
    let drawing = drawing.unwrap().html().replace("><", ">\n<");
    insta::assert_snapshot!(name, drawing);
}
