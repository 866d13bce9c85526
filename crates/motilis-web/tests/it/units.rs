//! No metric in feet, no feet in metric: every page, in both.
//!
//! What stays, and why: the bench and the box measure parts in millimetres and grams whatever the boat's units; the
//! trade's own sizes are names (a 12 lb line, a 6 in dodger, an 8 mm bead).

use crate::server::TestServer;
use rstest::rstest;
use scraper::{Html, Node};

/// Units that may not stand behind a figure in feet, and in metric.
const METRIC: &[&str] = &["m", "cm", "km", "km/h", "m/s", "°C", "K", "kg"];
const IMPERIAL: &[&str] = &["ft", "mph", "°F", "oz", "ft/s", "feet"];
/// The same where no part is named.
const ALSO_METRIC: &[&str] = &["mm", "g"];
const ALSO_IMPERIAL: &[&str] = &["in"];
/// Pages that speak of the water, not of parts.
const ON_THE_WATER: [&str; 4] = ["/waters", "/tank/table", "/deleted", "/judging"];
/// Words that no figure stands before.
const WORDS_OF_METRIC: &[&str] = &["metre", "metres", "kilometre", "kilometres"];
const WORDS_OF_IMPERIAL: &[&str] = &["feet", "mph"];

/// Everything a page says: its texts, and the names its marks go by.
fn said(body: &str) -> Vec<String> {
    let page = Html::parse_document(body);
    let named = ["aria-label", "placeholder", "title", "alt"];
    page.tree
        .nodes()
        .filter(|node| {
            let parent = node.parent().and_then(|parent| parent.value().as_element());
            parent.is_none_or(|parent| !["script", "style"].contains(&parent.name()))
        })
        .flat_map(|node| match node.value() {
            Node::Text(text) => vec![text.to_string()],
            Node::Element(element) => {
                let names = named.iter().filter_map(|name| element.attr(name));
                names.map(str::to_owned).collect()
            }
            _ => Vec::new(),
        })
        .collect()
}

fn is_figure(word: &str) -> bool {
    word.ends_with(|last: char| last.is_ascii_digit() || "½¼¾⅛⅜⅝⅞".contains(last))
}

/// A figure with one of some units, or a word that names one.
fn foreign(text: &str, units: &[&str], words: &[&str]) -> bool {
    let bare = |word: &str| {
        word.trim_matches(|c: char| ",.;:()“”".contains(c))
            .to_owned()
    };
    let all: Vec<String> = text.split_whitespace().map(bare).collect();
    all.windows(2)
        .any(|pair| is_figure(&pair[0]) && units.contains(&pair[1].as_str()))
        || all.iter().any(|word| words.contains(&word.as_str()))
}

#[rstest]
#[case::feet("imperial", METRIC, ALSO_METRIC, WORDS_OF_METRIC)]
#[case::metric("metric", IMPERIAL, ALSO_IMPERIAL, WORDS_OF_IMPERIAL)]
fn no_page_mixes_units(
    #[case] system: &str,
    #[case] units: &[&str],
    #[case] also: &[&str],
    #[case] words: &[&str],
) {
    let server = TestServer::start();
    let cookie = format!("motilis-units={system}");
    let mut wrong = Vec::new();
    for path in include_str!("../pages.txt").lines() {
        let page = server.get_bearing(path, &cookie);
        let of_water = ON_THE_WATER.iter().any(|water| path.starts_with(water));
        // The list of keys speaks of the bench on every page.
        let said = said(&page.body).into_iter();
        for text in said.filter(|text| !text.trim_start().starts_with("Bench:")) {
            if foreign(&text, units, words) || (of_water && foreign(&text, also, &[])) {
                wrong.push(format!("{path}: {}", text.trim()));
            }
        }
    }
    wrong.dedup();
    assert!(wrong.is_empty(), "{}\n{}", wrong.len(), wrong.join("\n"));
}

#[rstest]
#[case("16.4 m left", true)]
#[case("an 8 mm bead", false)]
#[case("0.1 mph more", false)]
#[case("Metres are good to a third", false)]
#[case("seen at 4.1\u{a0}m, fades", true)]
#[case("Red is useless below a few metres", true)]
fn metric_in_feet_is_noticed(#[case] text: &str, #[case] noticed: bool) {
    assert_eq!(foreign(text, METRIC, WORDS_OF_METRIC), noticed);
}

/// A spool is counted in the boat's unit, and keeps what it had to the last digit when it is left alone.
#[test]
fn a_spool_is_counted_in_feet_and_kept_in_metres() {
    let server = TestServer::start();
    let spool = server
        .get_bearing("/box?tray=spool", "motilis-units=metric")
        .attribute(".lot-count", "action");
    let path = spool.trim_end_matches("/count").to_owned();
    let left = |system: &str| -> f64 {
        let page = server.get_bearing(&path, &format!("motilis-units={system}"));
        page.attribute("#left", "value").parse().unwrap()
    };
    let (metres, feet) = (left("metric"), left("imperial"));
    assert!(
        (metres / 0.3048 - feet).abs() < 1e-3,
        "{metres} m, {feet} ft"
    );
    let counted = server.post(&spool, &[("left", "100"), ("_units", "imperial")]);
    assert_eq!(counted.status, 303);
    assert!((left("metric") - 30.48).abs() < 1e-9);
    assert!((left("imperial") - 100.0).abs() < 1e-9);
}
