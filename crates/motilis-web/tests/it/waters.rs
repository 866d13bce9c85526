//! Waters and their typed-in rules.

use crate::server::TestServer;
use rstest::rstest;

const POND: [(&str, &str); 9] = [
    ("name", "Heron Pond"),
    ("latitude", "50.1"),
    ("longitude", "-95.2"),
    ("zone", "America/Winnipeg"),
    ("salt", "no"),
    ("clarity", "1.5 m"),
    ("stain", "green"),
    ("fish_brook_trout", "yes"),
    ("forage_insects", "yes"),
];

fn with(changes: &[(&'static str, &'static str)]) -> Vec<(&'static str, &'static str)> {
    let mut form: Vec<_> = POND
        .iter()
        .copied()
        .filter(|(name, _)| changes.iter().all(|(changed, _)| changed != name))
        .collect();
    form.extend(changes);
    form
}

#[test]
fn the_waters_of_the_scenario_are_listed_with_what_matters() {
    let server = TestServer::start();
    let page = server.get("/waters");
    assert_eq!(page.count(".waters li"), 3);
    let text = page.text(".waters");
    for word in [
        "50.42° N, 95.61° W",
        "America/Winnipeg",
        "Salt water, clear",
        "5 rules",
        "Walleye",
    ] {
        assert!(text.contains(word), "{word}: {text}");
    }
    assert!(
        page.text(".sheet")
            .contains("Check the current local regulations")
    );
}

#[test]
fn a_water_is_added_changed_thrown_away_and_taken_back() {
    let server = TestServer::start();
    let added = server.post("/waters/new", &POND);
    assert_eq!(added.status, 303);
    let path = added.location.split('?').next().unwrap().to_owned();
    let page = server.get(&added.location);
    assert_eq!(page.text("h1"), "Heron Pond");
    assert_eq!(page.attribute("#clarity", "value"), "4.9");
    assert_eq!(page.count("input[name='fish_brook_trout'][checked]"), 1);
    assert_eq!(page.count("input[type='checkbox'][checked]"), 2);
    server.post(&path, &with(&[("name", "Heron Lake")]));
    assert_eq!(server.get(&path).text("h1"), "Heron Lake");
    let gone = server.post(&format!("{path}/delete"), &[]);
    let list = server.get(&gone.location);
    assert_eq!(list.count(".waters li"), 3);
    assert!(list.text(".notice").contains("Heron Lake is thrown away"));
    server.post(&format!("{path}/restore"), &[]);
    assert_eq!(server.get("/waters").count(".waters li"), 4);
    // The water of the open outing stays.
    assert_eq!(server.post("/waters/2/delete", &[]).status, 400);
}

#[rstest]
#[case(("latitude", "91"), "Latitude “91” is off the globe; give between -90 and 90°.")]
#[case(("longitude", "-181"), "Longitude “-181” is off the globe; give between -180 and 180°.")]
#[case(("zone", "Atlantis/Deep"), "“Atlantis/Deep” is no time zone; choose one of the list, such as America/Winnipeg.")]
#[case(("clarity", "0"), "Clarity “0” is too small; give 0.2 ft to 131 ft.")]
#[case(("clarity", "90"), "A disk is lost between 1 and 20 ft in green with algae water; correct it, or choose another stain.")]
#[case(("name", " "), "A water needs a name; give the one you use on the boat.")]
fn a_water_that_cannot_be_is_answered_beside_its_field(
    #[case] (field, typed): (&'static str, &'static str),
    #[case] sentence: &str,
) {
    let server = TestServer::start();
    let before = server.contents();
    let page = server.post("/waters/new", &with(&[(field, typed)]));
    assert_eq!(page.status, 422);
    assert_eq!(page.text(&format!("#problem-{field}")), sentence);
    assert_eq!(page.attribute(&format!("#{field}"), "value"), typed);
    assert_eq!(server.contents(), before);
}

#[test]
fn a_rule_is_entered_changed_thrown_away_and_taken_back() {
    let server = TestServer::start();
    let rule = [
        ("topic", "slot"),
        ("rule_fish", "lake_trout"),
        ("slot_from", "15"),
        ("slot_to", "26"),
        ("protected", "yes"),
        ("one_over", "no"),
        ("rule_from", "2026-05-09"),
        ("rule_to", ""),
        ("rule_source", "booklet of 2026, page 12"),
    ];
    assert_eq!(server.post("/waters/2/rules", &rule).status, 303);
    let page = server.get("/waters/2");
    let rules = page.text(".rules ul");
    assert!(
        rules.contains("Lake trout: release 15 in to 26 in"),
        "{rules}"
    );
    assert!(
        rules.contains("from 9 May 2026") && rules.contains("booklet of 2026, page 12"),
        "{rules}"
    );
    let id = server
        .store
        .read(|c| {
            let rules = motilis_store::rules::of_water(c, motilis_core::book::WaterId(2))?;
            let slot = |rule: &motilis_core::rules::LocalRule| rule.source.contains("page 12");
            let found = rules.iter().find(|(_, rule)| slot(rule)).unwrap();
            Ok::<_, motilis_store::Error>(found.0.0)
        })
        .unwrap();
    let open = server.get(&format!("/waters/2?rule={id}"));
    assert_eq!(open.attribute("#slot_from", "value"), "15");
    let mut changed = rule.to_vec();
    changed[2] = ("slot_from", "16");
    assert_eq!(
        server
            .post(&format!("/waters/2/rules/{id}"), &changed)
            .status,
        303
    );
    assert!(
        server
            .get("/waters/2")
            .text(".rules ul")
            .contains("release 16 in")
    );
    let gone = server.post(&format!("/waters/2/rules/{id}/delete"), &[]);
    let page = server.get(&gone.location);
    assert!(!page.text(".rules ul").contains("page 12"));
    assert!(page.text(".notice").contains("Rule thrown away"));
    server.post(&format!("/waters/2/rules/{id}/restore"), &[]);
    assert!(
        server
            .get("/waters/2")
            .text(".rules ul")
            .contains("page 12")
    );
    // A rule is changed on its own water only.
    assert_eq!(
        server
            .post(&format!("/waters/1/rules/{id}/delete"), &[])
            .status,
        404
    );
}

const LINES: [(&str, &str); 3] = [
    ("topic", "lines"),
    ("rule_count", "1"),
    ("rule_source", "the booklet"),
];

#[rstest]
// Two lines a person are entered for all the year.
#[case(&[], "rule_from", "This contradicts “2 lines a person” (all year) on days that both cover; end the one before the other begins, or change it.")]
#[case(&[("rule_count", "2")], "rule_from", "“2 lines a person” (all year) says the same already; change its dates instead of entering it again.")]
#[case(&[("rule_count", "1.5")], "rule_count", "At most 1.5 cannot be; give a whole number.")]
#[case(&[("rule_count", "0")], "rule_count", "No line at all is no rule for trolling; give 1 or more, or choose closed.")]
#[case(&[("rule_source", " ")], "rule_source", "A rule needs its source: where you read it, such as the booklet and its year.")]
#[case(&[("rule_from", "May")], "rule_from", "First day “May” is no day; write it like 2026-05-09, or leave it empty.")]
#[case(&[("rule_from", "2026-06-01"), ("rule_to", "2026-05-01")], "rule_to", "The last day 2026-05-01 lies before the first day 2026-06-01; swap the two.")]
#[case(&[("topic", "slot")], "slot_from", "A slot needs at least one length; give the shortest or the longest that counts.")]
fn a_rule_that_cannot_be_is_answered_beside_its_field(
    #[case] changes: &[(&str, &str)],
    #[case] field: &str,
    #[case] sentence: &str,
) {
    let server = TestServer::start();
    let before = server.contents();
    let mut form: Vec<(&str, &str)> = LINES
        .iter()
        .copied()
        .filter(|(name, _)| changes.iter().all(|(changed, _)| changed != name))
        .collect();
    form.extend(changes);
    let page = server.post("/waters/2/rules", &form);
    assert_eq!(page.status, 422);
    assert_eq!(page.text(&format!("#problem-{field}")), sentence);
    assert_eq!(server.contents(), before);
}

#[test]
fn a_fresh_file_gets_its_first_water_and_outing() {
    let server = TestServer::empty();
    let empty = server.get("/today");
    assert_eq!(empty.status, 303);
    let start = server.get(&empty.location);
    assert!(
        start
            .text("#door")
            .contains("Today says which rig to run now")
    );
    assert!(
        server
            .get("/waters")
            .text(".empty")
            .contains("Add the one you fish most")
    );
    assert_eq!(server.post("/outings", &[]).status, 400);
    let added = server.post("/waters/new", &POND);
    let id = added
        .location
        .trim_start_matches("/waters/")
        .split('?')
        .next()
        .unwrap()
        .to_owned();
    assert_eq!(server.post("/outings", &[("water", &id)]).status, 303);
    let page = server.get("/today");
    assert_eq!(page.status, 200);
    assert_eq!(page.text("#fish option[selected]"), "Brook trout");
    assert!(page.text("#calls .empty").contains("No rigs yet"));
    assert_eq!(server.get("/column").status, 200);
    assert_eq!(server.get("/judging").status, 200);
}
