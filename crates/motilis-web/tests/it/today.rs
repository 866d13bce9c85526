//! The call sheet: what is on it, why, and what is done with it.

use crate::server::{Page, TestServer, conditions};
use rstest::rstest;

fn first(page: &Page) -> String {
    page.text("#pick-primary")
}

/// The number of the rig on the sheet's first card.
fn first_rig(page: &Page) -> String {
    page.attribute(".pick-primary .pick-acts input[name='rig']", "value")
}

#[test]
fn a_call_tells_all_that_is_needed_to_set_it_out() {
    let server = TestServer::start();
    let page = server.get("/today");
    for role in ["primary", "contrast", "probe"] {
        let figures = page.text(&format!(".pick-{role} .pick-figures"));
        for label in ["Speed", "Line out", "Lead", "Bait", "Finish there"] {
            assert!(figures.contains(label), "{role}: {figures}");
        }
        assert!(
            figures.contains("1.2 mph") && figures.contains("for 22 ft, 1"),
            "{figures}"
        );
        assert!(figures.contains("seen from"), "{figures}");
        assert_eq!(page.count(&format!(".pick-{role} .pick-drawing svg")), 1);
    }
    assert_eq!(page.text(".pick-primary .pick-role"), "First call Turning");
}

/// Each row's last figure is the product of the two before it, and the kind of figure is told.
#[test]
fn reasons_add_up() {
    let server = TestServer::start();
    let page = server.get("/today");
    let html = scraper::Html::parse_document(&page.body);
    let rows =
        scraper::Selector::parse(".pick-primary .pick-terms tbody tr[class^='term']").unwrap();
    let cell = scraper::Selector::parse(".num").unwrap();
    let mut checked = 0;
    for row in html.select(&rows) {
        let figures: Vec<f64> = row
            .select(&cell)
            .map(|cell| {
                let text: String = cell.text().collect();
                text.replace('−', "-").replace('+', "").parse().unwrap()
            })
            .collect();
        assert!(
            (figures[0] * figures[1] - figures[2]).abs() < 0.06,
            "{figures:?}"
        );
        let text: String = row.text().collect();
        assert!(text.contains('(') && text.contains(')'), "{text}");
        checked += 1;
    }
    assert!(checked >= 6, "{checked}");
}

#[test]
fn lore_stands_beside_physics_where_a_finish_is_judged() {
    let server = TestServer::start();
    // Clear noon: the first call is a bright metal, of which anglers say much.
    server.post(
        "/today",
        &conditions(&[
            ("clarity", "20"),
            ("stain", "clear"),
            ("sky", "sun"),
            ("started", "2026-06-21 12:00"),
        ]),
    );
    let page = server.get("/today");
    let lore = page.text(".pick-primary .lore");
    assert!(
        lore.contains("Anglers say") && lore.contains("The model says"),
        "{lore}"
    );
    assert!(
        lore.contains("agrees") || lore.contains("disagrees") || lore.contains("no difference")
    );
    let column = server.get("/column");
    assert_eq!(column.count(".lore-sheet tbody tr"), 16);
    assert_eq!(column.count(".lore-disagree"), 4);
    assert_eq!(column.count(".lore-agree"), 7);
}

#[test]
fn a_veto_strikes_a_rig_off_and_can_be_taken_back() {
    let server = TestServer::start();
    let before = server.get("/today");
    let (name, rig) = (first(&before), first_rig(&before));
    server.post("/today/mark", &[("rig", &rig), ("mark", "veto")]);
    let page = server.get("/today");
    assert_ne!(first(&page), name);
    let row = format!("[data-rig='{name}']");
    assert!(
        page.text(&format!("{row} .why-not"))
            .contains("You struck it off")
    );
    server.post("/today/mark", &[("rig", &rig), ("mark", "none")]);
    assert_eq!(first(&server.get("/today")), name);
}

#[test]
fn a_pin_brings_a_rig_up_and_says_when_it_cannot_go_out() {
    let server = TestServer::start();
    let name = "Quick-change two-hook";
    let page = server.get("/today");
    let rig = page.attribute(&format!("[data-rig='{name}'] input[name='rig']"), "value");
    server.post("/today/mark", &[("rig", &rig), ("mark", "pin")]);
    assert_eq!(first(&server.get("/today")), name);
    // Too fast for a Colorado: pinned or not, it is not called.
    server.post("/today", &conditions(&[("speed", "2.6")]));
    let page = server.get("/today");
    assert_ne!(first(&page), name);
    assert!(
        page.text("#calls .notice")
            .contains(&format!("{name} is pinned"))
    );
}

#[test]
fn why_not_names_the_terms_that_were_lost() {
    let server = TestServer::start();
    let page = server.get("/today");
    let why = page.text("[data-rig='Slow wing'] .why-not");
    assert!(
        why.contains("It counts") && why.contains(&first(&page)),
        "{why}"
    );
    assert!(why.contains("Speed −"), "{why}");
    server.post("/today", &conditions(&[("speed", "0.3")]));
    let page = server.get("/today");
    let why = page.text("[data-rig='Tamarin two-hook'] .why-not");
    assert!(why.contains("Blade hangs at this speed"), "{why}");
}

#[test]
fn what_would_change_the_call_is_told_in_words() {
    let server = TestServer::start();
    let page = server.get("/today/changes");
    assert_eq!(page.status, 200);
    let told = page.text("#changes");
    assert!(told.contains("judged again"), "{told}");
    assert!(told.contains("mph") || told.contains("If "), "{told}");
    // Today loads it as a part of itself.
    let today = server.get("/today");
    assert_eq!(today.attribute("#changes", "hx-get"), "/today/changes");
}

#[test]
fn a_swap_becomes_a_rig_on_the_bench() {
    let server = TestServer::start();
    // At a wing's speed the box has a better wing than the ones that are tied.
    let mut found = None;
    for mph in ["0.8", "1.6", "1.0", "1.4", "2.0"] {
        server.post("/today", &conditions(&[("speed", mph)]));
        let page = server.get("/today");
        if page.count(".pick form[action='/today/take']") > 0 {
            found = Some(page);
            break;
        }
    }
    let page = found.expect("at some speed a swap is proposed");
    let form = ".pick form[action='/today/take'] input";
    let rig = page.attribute(&format!("{form}[name='rig']"), "value");
    let blade = page.attribute(&format!("{form}[name='blade']"), "value");
    assert!(page.text(".pick-swap").starts_with("Swap the blade for"));
    let taken = server.post("/today/take", &[("rig", &rig), ("blade", &blade)]);
    assert_eq!(taken.status, 303);
    assert!(taken.location.starts_with("/bench/"), "{}", taken.location);
    let bench = server.get(&taken.location);
    assert_eq!(bench.status, 200);
    // A blade that does not go on that rig is refused.
    let refused = server.post("/today/take", &[("rig", &rig), ("blade", "999999")]);
    assert_eq!(refused.status, 400);
}

#[test]
fn starting_with_a_call_puts_its_line_out() {
    let server = TestServer::start();
    let page = server.get("/today");
    let form = ".pick-primary form[action='/log/line'] input";
    let rig = page.attribute(&format!("{form}[name='rig']"), "value");
    let setup = page.attribute(&format!("{form}[name='setup']"), "value");
    let started = server.post("/log/line", &[("rig", &rig), ("setup", &setup)]);
    assert_eq!(started.status, 303);
    let rods = server.get("/log").texts(".running");
    assert!(
        rods.iter().any(|rod| rod.contains(&first(&page))),
        "{rods:?}"
    );
}

#[test]
fn a_white_blade_stands_in_for_a_disk() {
    let server = TestServer::start();
    server.post("/today", &conditions(&[("started", "2026-09-05 12:00")]));
    let answer = server.post("/today/secchi", &[("blade_lost", "5"), ("blade", "4")]);
    assert_eq!(answer.status, 303);
    let page = server.get(&answer.location);
    assert!(
        page.text(".secchi")
            .contains("A white disk would be lost at 5")
    );
    assert!(page.attribute("#clarity", "value").starts_with('5'));
    let refused = server.post("/today/secchi", &[("blade_lost", "60"), ("blade", "4")]);
    assert_eq!(refused.status, 422);
    let sentence = refused.text("#problem-blade_lost");
    assert!(sentence.contains("tea-stained water"), "{sentence}");
    assert_eq!(refused.attribute("#blade_lost", "value"), "60");
}

#[rstest]
#[case(&[("temperature", "31")], "temperature", "Fresh water of 31 °F is ice; give 32 °F or more.")]
#[case(&[("clarity", "0")], "clarity", "Clarity “0” is too small; give 0.2 ft to 131 ft.")]
#[case(
    &[("clarity", "40")],
    "clarity",
    "A disk is lost between 1 and 20 ft in tea-stained water, not at 40 ft; correct it, or choose another stain."
)]
#[case(
    &[("thermocline", "40")],
    "thermocline",
    "The thermocline lies below the bottom; correct its depth, or leave it empty (bottom 27 ft)."
)]
fn conditions_that_no_water_has_are_answered(
    #[case] changes: &[(&str, &str)],
    #[case] field: &str,
    #[case] sentence: &str,
) {
    let server = TestServer::start();
    let before = server.contents();
    let page = server.post("/today", &conditions(changes));
    assert_eq!(page.status, 422);
    assert_eq!(page.text(&format!("#problem-{field}")), sentence);
    assert_eq!(page.attribute(&format!("#{field}"), "value"), changes[0].1);
    assert_eq!(server.contents(), before);
}

#[test]
fn another_water_brings_its_own_conditions() {
    let server = TestServer::start();
    let page = server.get("/today");
    let html = scraper::Html::parse_document(&page.body);
    let options = scraper::Selector::parse("#water option").unwrap();
    let orrin = html
        .select(&options)
        .find(|option| option.text().collect::<String>() == "Orrin Sound")
        .and_then(|option| option.attr("value").map(str::to_owned))
        .unwrap();
    server.post("/today", &conditions(&[("water", &orrin)]));
    let page = server.get("/today");
    assert_eq!(page.text("#fish option[selected]"), "Chinook");
    assert_eq!(page.text("#stain option[selected]"), "Clear");
    assert!(page.attribute("#clarity", "value") == "20");
    assert!(page.text("#day-side").contains("Barbless hooks"));
}

#[test]
fn typed_in_rules_are_hard_but_never_called_law() {
    let server = TestServer::start();
    server.post(
        "/waters/2/rules",
        &[("topic", "bait"), ("rule_source", "the notice at the ramp")],
    );
    let page = server.get("/today");
    let row = page.text("[data-rig='Tamarin two-hook'] .call-reason");
    assert!(row.contains("Against a rule you entered: no bait"), "{row}");
    assert!(row.contains("check the current regulations"), "{row}");
    let side = page.text("#day-side");
    assert!(
        side.contains("the notice at the ramp") && side.contains("not as law"),
        "{side}"
    );
}

#[test]
fn schools_and_weights_move_the_sheet() {
    let server = TestServer::start();
    let before = server.get("/today");
    server.post(
        "/judging/weights",
        &[("kind", "0"), ("bait", "0"), ("size", "3")],
    );
    let page = server.get("/judging");
    assert_eq!(page.attribute("#kind", "value"), "0");
    let after = server.get("/today");
    assert_ne!(
        before.text(".pick-primary .pick-terms"),
        after.text(".pick-primary .pick-terms")
    );
    // Emptied, the default holds again.
    server.post(
        "/judging/weights",
        &[("kind", ""), ("bait", ""), ("size", "")],
    );
    assert_eq!(
        server.get("/today").text(".pick-primary .pick-terms"),
        before.text(".pick-primary .pick-terms")
    );
    server.post(
        "/judging/schools",
        &[("colour", "rotate"), ("height", "bottom")],
    );
    let page = server.get("/today");
    assert!(
        page.text("#height-hint")
            .contains("on the bottom: at 26 ft")
    );
    // Who counts instead of judging finishes gives them no weight: none of their terms is counted.
    assert!(
        !page
            .text(".pick-primary .pick-terms")
            .contains("finish for the water")
    );
}

#[test]
fn the_sheet_prints_on_half_a_page() {
    let server = TestServer::start();
    let card = server.get("/today/card");
    assert_eq!(card.status, 200);
    assert_eq!(card.count(".call-card .pick"), 3);
    assert_eq!(card.count(".call-card button"), 0);
    let text = card.text(".call-card");
    assert!(
        text.contains("Lake Tamarin, Sat 5 September 2026, 06:20"),
        "{text}"
    );
    assert!(text.contains("Check the current local regulations"));
}

#[test]
fn the_column_is_a_function_of_its_address() {
    let server = TestServer::start();
    let noon = server.get("/column?hour=780&depth=10");
    assert_eq!(noon.status, 200);
    assert!(noon.text("#hour-shown").contains("13:00"));
    assert!(noon.text("#depth-shown").contains("10 ft"));
    assert!(noon.text("#column-side").contains("above the horizon"));
    let dawn = server.get("/column?hour=360&depth=10");
    assert!(dawn.text("#column-side").contains("below the horizon"));
    assert_ne!(noon.text(".sightings"), dawn.text(".sightings"));
    // Ten feet over the fish it is seen from below unless the angler says otherwise.
    let from_below = server.get("/column?hour=780&depth=10&view=up");
    assert_eq!(noon.text(".sightings"), from_below.text(".sightings"));
    let level = server.get("/column?hour=780&depth=10&view=level");
    assert_ne!(noon.text(".sightings"), level.text(".sightings"));
    // Beyond its ends a slider stands at its end.
    let deep = server.get("/column?hour=99999&depth=9999");
    assert!(deep.text("#depth-shown").contains("27 ft"));
}

#[rstest]
#[case("2026-06-21 12:00", "80", "does not set")]
#[case("2026-12-21 12:00", "80", "does not rise")]
fn polar_day_and_night_are_told(#[case] started: &str, #[case] latitude: &str, #[case] word: &str) {
    let server = TestServer::start();
    let polar = [
        ("name", "Lake Tamarin"),
        ("latitude", latitude),
        ("longitude", "-95.61"),
        ("zone", "America/Winnipeg"),
        ("salt", "no"),
        ("clarity", "7"),
        ("stain", "tea"),
        ("fish_walleye", "yes"),
    ];
    assert_eq!(server.post("/waters/2", &polar).status, 303);
    server.post("/today", &conditions(&[("started", started)]));
    assert_eq!(server.get("/today").status, 200);
    let column = server.get("/column");
    assert!(
        column.text("#column-side").contains(word),
        "{}",
        column.text("#column-side")
    );
}

/// CP-29: of the bays whose temperature was read the warmest is named; a reading can be thrown away and taken back.
#[test]
fn the_warmest_bay_is_named() {
    let server = TestServer::start();
    let page = server.get("/today");
    assert!(
        page.text(".fish-facts")
            .contains("look for the warmest bay. The warmest you read is reed bay: 62 °F")
    );
    let wrong = server.post(
        "/today/readings",
        &[
            ("place", " "),
            ("reading_temperature", "250"),
            ("reading_depth", "2"),
            ("taken", "25:99"),
        ],
    );
    assert_eq!(wrong.status, 422);
    for field in ["place", "reading_temperature", "taken"] {
        assert!(
            !wrong.text(&format!("#problem-{field}")).is_empty(),
            "{field}"
        );
    }
    let reading = [
        ("place", "mill bay"),
        ("reading_temperature", "65"),
        ("reading_depth", "3"),
        ("taken", "7:40"),
    ];
    assert_eq!(server.post("/today/readings", &reading).status, 303);
    let page = server.get("/today");
    assert!(
        page.text(".fish-facts")
            .contains("mill bay: 65 °F at 07:40"),
        "{}",
        page.text(".fish-facts")
    );
    let gone = server.post(
        &page.attribute(".readings li:nth-child(2) form", "action"),
        &[],
    );
    let page = server.get(&gone.location);
    assert!(page.text(".fish-facts").contains("reed bay"));
    server.post(&page.attribute(".readings .notice", "action"), &[]);
    assert!(
        server
            .get("/today")
            .text(".fish-facts")
            .contains("mill bay")
    );
}

/// An hour typed after midnight is one of the night that follows the start, not of the morning before it.
#[test]
fn a_reading_after_midnight_belongs_to_the_night() {
    let server = TestServer::start();
    server.post("/today", &conditions(&[("started", "2026-09-05 20:30")]));
    let reading = [
        ("place", "night bay"),
        ("reading_temperature", "60"),
        ("reading_depth", "2"),
        ("taken", "0:20"),
    ];
    assert_eq!(server.post("/today/readings", &reading).status, 303);
    // The newest stands first.
    let page = server.get("/today");
    assert!(page.text(".readings li:first-child").contains("night bay"));
}

/// A river is cast: nothing of line out, lead-core or boat speed; what is trolled stays at home.
#[test]
fn a_river_is_cast_and_never_trolled() {
    let server = TestServer::start();
    assert_eq!(server.post("/today", &[("water", "1")]).status, 303);
    let page = server.get("/today");
    assert!(
        page.text(".river-note")
            .contains("Cassel River is moving water")
    );
    assert!(
        page.text("#headline")
            .contains("can be cast in water of 2.0 mph")
    );
    let picks = page.text(".pick");
    assert!(
        picks.contains("Body")
            && picks.contains("pinch the barbs")
            && picks.contains("square, ")
            && picks.contains("on Boulder run it goes"),
        "{picks}"
    );
    for trolled in ["Line out", "bouncer", "Start with it", "lead-core"] {
        assert!(!page.text("#calls").contains(trolled), "{trolled}");
    }
    assert!(!page.text(".pick-figures").contains("Lead"));
    assert!(
        page.text("[data-keep=idle]")
            .contains("It is trolled, and this water is a river")
    );
    // Fast and shallow: the bell.
    let fast = [
        ("water", "1"),
        ("speed", "4.6"),
        ("bottom", "4"),
        ("fish_from", "1"),
        ("fish_to", "3.5"),
        ("wanted_depth", "2.5"),
    ];
    assert_eq!(server.post("/today", &conditions(&fast)).status, 303);
    assert!(server.get("/today").text(".pick").contains("bell body"));
    for other in [
        "/column",
        "/tank",
        "/spread",
        "/log",
        "/bench",
        "/today/card",
        "/today/changes",
    ] {
        let page = server.get(other);
        let page = if page.location.is_empty() {
            page
        } else {
            server.get(&page.location)
        };
        assert_eq!(page.status, 200, "{other}");
        if other == "/tank" || other == "/spread" {
            assert!(page.text(".river-note").contains("Cassel River is a river"));
        }
    }
}

/// Two follows and no fish on an outing: slow down step by step.
#[test]
fn followers_slow_the_boat() {
    let server = TestServer::start();
    server.post("/outings", &[]);
    assert_eq!(server.get("/today").count(".response-note"), 0);
    for _ in 0..2 {
        assert_eq!(server.post("/log", &[("kind", "follow")]).status, 303);
    }
    let said = server.get("/today").text(".response-note");
    assert!(
        said.contains("slow down step by step, 1.1, 1.0, 0.8 mph"),
        "{said}"
    );
}

/// A tap renews the bait and names its scent; the log tells since when it is on.
#[test]
fn fresh_bait_is_told_with_its_scent() {
    let server = TestServer::start();
    assert!(server.get("/log").text("#bait-on").contains("renew it"));
    let tap = [("kind", "fresh_bait"), ("note", "anise")];
    assert_eq!(server.post("/log", &tap).status, 303);
    let page = server.get("/log");
    let said = page.text("#bait-on");
    assert!(
        said.contains("with anise on since") && said.contains("0 min; fresh for about"),
        "{said}"
    );
    assert!(page.text(".entries").contains("Fresh bait"));
}
