//! From an empty file on: the start page, a box without a count, what is carried over, what was thrown away.

use crate::server::{TestServer, conditions};
use rstest::rstest;

const START: [(&str, &str); 12] = [
    ("name", "Lake Vell"),
    ("latitude", "46 12.5 N"),
    ("longitude", "95 30 W"),
    ("zone", ""),
    ("river", "no"),
    ("salt", "no"),
    ("stain", "green"),
    ("clarity", "8"),
    ("wanted", "walleye"),
    ("kind", ""),
    ("rod_bouncer", "yes"),
    ("uncounted", "yes"),
];

const TRAYS: [&str; 8] = [
    "blades", "wings", "beads", "metal", "hooks", "dressing", "line", "bait",
];

fn start_with(changes: &[(&'static str, &'static str)]) -> (TestServer, u16) {
    let server = TestServer::empty();
    let trays: Vec<String> = TRAYS.iter().map(|tray| format!("tray_{tray}")).collect();
    let mut form: Vec<(&str, &str)> = START
        .into_iter()
        .filter(|(name, _)| changes.iter().all(|(changed, _)| changed != name))
        .chain(trays.iter().map(|tray| (tray.as_str(), "yes")))
        .collect();
    form.extend(changes);
    let status = server.post("/start", &form).status;
    (server, status)
}

/// Whatever is fished for, lake or river: one form, and the first call stands.
#[rstest]
#[case(&[])]
#[case(&[("wanted", "chinook"), ("salt", "yes"), ("stain", "clear"), ("clarity", "20"), ("rod_downrigger", "yes")])]
#[case(&[("wanted", "landlocked_sockeye"), ("rod_lead_core", "yes")])]
#[case(&[("wanted", "sauger")])]
#[case(&[("wanted", "steelhead"), ("river", "yes")])]
#[case(&[("wanted", "cutthroat"), ("kind", "inline_bell")])]
fn one_form_leads_to_a_first_call(#[case] changes: &[(&'static str, &'static str)]) {
    let (server, status) = start_with(changes);
    assert_eq!(status, 303);
    let today = server.get("/today");
    assert!(
        today.text("#headline").starts_with("1 of 1 rigs"),
        "{}",
        today.text("#headline")
    );
    assert!(today.text(".pick-primary h3").starts_with("First "));
    assert_eq!(server.get("/start").location, "/today");
    // The zone was found by the position.
    assert!(
        server
            .get("/waters/1")
            .body
            .contains("value=\"America/Chicago\"")
    );
}

#[test]
fn a_zone_that_the_position_denies_is_asked_about_and_may_be_kept() {
    let server = TestServer::empty();
    let far = [
        ("name", "Lake Vell"),
        ("latitude", "46"),
        ("longitude", "100"),
        ("zone", "America/Chicago"),
        ("clarity", "8"),
        ("stain", "green"),
    ];
    let page = server.post("/waters/new", &far);
    assert_eq!(page.status, 422);
    assert!(page.text("#problem-zone").contains("14 hours off"));
    assert_eq!(
        page.attribute("[name=zone_sure]", "value"),
        "America/Chicago"
    );
    let mut sure = far.to_vec();
    sure.push(("zone_sure", "America/Chicago"));
    assert_eq!(server.post("/waters/new", &sure).status, 303);
    // A zone next door is nobody's business.
    let near = [("longitude", "-95"), ("zone", "America/Denver")];
    let form: Vec<_> = far
        .into_iter()
        .filter(|(name, _)| *name != "longitude" && *name != "zone")
        .chain(near)
        .collect();
    assert_eq!(server.post("/waters/new", &form).status, 303);
}

/// Where no count is kept nothing runs out, and building takes nothing.
#[test]
fn a_box_without_a_count_is_taken_to_be_full() {
    let (server, _) = start_with(&[]);
    let summary = server.get("/box").text("#box-head");
    assert!(summary.contains("no count kept"), "{summary}");
    let rig = server.get("/bench").location;
    let built = server.post(&format!("{rig}/build"), &[("n", "9"), ("place", "Wrap 1")]);
    assert_eq!(built.status, 303, "{}", built.body);
    assert!(
        server
            .get("/box/shopping")
            .text("main")
            .contains("Nothing runs short")
    );
    server.post("/settings/count", &[("kept", "yes")]);
    assert!(server.get("/box").text("#box-head").contains("stock worth"));
}

/// A rig that cannot be built says what to buy; an import beside its equal makes them more.
#[test]
fn what_a_rig_wants_is_bought_and_lands_on_its_equal() {
    let (server, _) = start_with(&[("uncounted", "no")]);
    server.post("/settings/count", &[("kept", "yes")]);
    let parts = |server: &TestServer| -> i64 {
        server
            .store
            .read(|c| {
                Ok::<_, motilis_store::Error>(
                    c.query_row("SELECT count(*) FROM parts", [], |row| row.get(0))
                        .unwrap(),
                )
            })
            .unwrap()
    };
    server
        .store
        .write(|c| {
            c.execute("UPDATE parts SET left_count = 0 WHERE part = 'hook'", [])
                .unwrap();
            Ok::<_, motilis_store::Error>(())
        })
        .unwrap();
    assert!(server.get("/today").text("#headline").starts_with("0 of 1"));
    let list = server.get("/box/shopping").text("main");
    assert!(list.contains("First crawler harness takes 2"), "{list}");
    let before = parts(&server);
    let csv = "part,style,size,left_count\n\nhook,octopus,2,12\nhook,octopus,1/0,5\n";
    let preview = server.upload(
        "/box/import",
        &[("act", "preview")],
        Some(("box.csv", csv.as_bytes())),
    );
    assert!(
        preview
            .text("#import-summary")
            .contains("0 new, 2 more of what lies there")
    );
    // The lines are the file's own, the empty one counted.
    assert!(preview.text("tbody").trim_start().starts_with('3'));
    let done = server.upload(
        "/box/import",
        &[("act", "import")],
        Some(("box.csv", csv.as_bytes())),
    );
    let came = server.get(&done.location);
    assert!(came.text(".notice").contains("2 parts came in"));
    assert_eq!(came.count(".lot"), 2);
    assert_eq!(parts(&server), before);
    let headline = server.get("/today").text("main");
    assert!(headline.contains("1 of 1"), "{headline}");
    let twin = came.texts(".lot-left").join(" ");
    assert!(
        twin.contains("12 left") && twin.contains("5 left"),
        "{twin}"
    );
}

/// A new outing says which conditions it has from the last one, until they are changed or confirmed.
#[test]
fn carried_over_conditions_are_marked_until_confirmed() {
    let server = TestServer::start();
    assert_eq!(server.get("/today").count("#carried form"), 0);
    server.post("/outings", &[]);
    let carried = || server.get("/today").text("#carried");
    assert!(carried().contains("temperature, clarity"), "{}", carried());
    server.post("/today", &conditions(&[("temperature", "61")]));
    assert!(!carried().contains("temperature") && carried().contains("clarity"));
    server.post("/today/confirm", &[]);
    assert_eq!(server.get("/today").count("#carried form"), 0);
}

#[test]
fn what_was_thrown_away_lies_together_and_comes_back() {
    let server = TestServer::start();
    for path in [
        "/log/1/delete",
        "/waters/1/delete",
        "/bench/3/delete",
        "/setups/9/delete",
        "/spread/2/delete",
        "/box/parts/7/delete",
    ] {
        assert_eq!(server.post(path, &[]).status, 303, "{path}");
    }
    let page = server.get("/deleted");
    assert_eq!(page.count(".made li"), 6);
    for row in 0..6 {
        let action = server.get("/deleted").attribute(".made li form", "action");
        assert_eq!(server.post(&action, &[]).location, "/deleted", "{row}");
    }
    assert_eq!(server.get("/deleted").count(".made li"), 0);
    assert_eq!(server.post("/deleted/acts/1/restore", &[]).status, 404);
}

#[test]
fn todays_calls_become_a_spread_with_one_on_each_side() {
    let server = TestServer::start();
    let picks = server.get("/today").texts(".pick h3");
    let made = server.post("/spread/today", &[]);
    assert_eq!(made.status, 303, "{}", made.body);
    let page = server.get(&made.location);
    let rows = page.texts(".row-name");
    assert!(rows.len() >= 2 && rows.len().is_multiple_of(2), "{rows:?}");
    for pair in rows.chunks(2) {
        let rig = picks
            .iter()
            .find(|name| pair[0].contains(name.trim()))
            .unwrap();
        assert!(pair[1].contains(rig.trim()), "{pair:?}");
    }
    assert_eq!(page.attribute("#speed", "value"), "1.2");
}

/// The table says what the tank says: one answer.
#[test]
fn the_line_out_table_agrees_with_the_tank() {
    let server = TestServer::start();
    let table = server.get("/tank/table?rig=1&speed=1.2");
    let heads = table.texts("thead th");
    let column = heads
        .iter()
        .position(|head| head.starts_with("1.2"))
        .unwrap();
    for depth in ["10", "22"] {
        let rows = table.texts("tbody tr th");
        let row = rows.iter().position(|head| head.trim() == depth).unwrap();
        let cells = table.texts("tbody td");
        let cell = &cells[row * (heads.len() - 1) + column - 1];
        let tank = server.get(&format!("/tank?rig=1&speed=1.2&depth={depth}&set=depth"));
        assert_eq!(tank.attribute("#out", "value"), cell.trim(), "{depth} ft");
    }
}

#[test]
fn a_new_rig_is_picked_from_fourteen_drawings() {
    let server = TestServer::start();
    let page = server.get("/bench/new");
    assert_eq!(page.count(".kind-card"), 14);
    assert_eq!(page.count(".kind-card .bench-drawing"), 14);
    assert!(page.text(".kind-card").contains("mph"));
}

#[test]
fn a_device_can_keep_it_and_knows_the_link_holds() {
    let server = TestServer::start();
    assert_eq!(server.get("/link").status, 204);
    assert_eq!(server.get("/favicon.ico").status, 200);
    let manifest: serde_json::Value =
        serde_json::from_str(&server.get("/manifest.webmanifest").body).unwrap();
    assert_eq!(manifest["start_url"], "/today");
    for icon in manifest["icons"].as_array().unwrap() {
        let png = server.bytes(icon["src"].as_str().unwrap());
        assert_eq!(&png[1..4], b"PNG");
    }
}

/// The order of work speaks of what the rig has: no last hook of one, no blade of none.
#[test]
fn the_order_of_work_speaks_of_what_the_rig_has() {
    let server = TestServer::start();
    for (kind, absent) in [
        ("bare_hook", "blade"),
        ("wing_worm", "last hook"),
        ("wing_worm", "front hook"),
    ] {
        let form = [
            ("name", "Try"),
            ("kind", kind),
            ("fish", "walleye"),
            ("start", "working"),
        ];
        let made = server.post("/bench/new", &form);
        let order = server.get(&made.location).text(".order");
        assert!(!order.contains(absent), "{kind}: {order}");
    }
}
