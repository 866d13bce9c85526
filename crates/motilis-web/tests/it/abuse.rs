//! Several hundred bad requests to every route: never a server error, nothing stored, nothing lost.

use crate::server::{TestServer, conditions};

/// What may be typed, pasted or sent by mistake or on purpose.
const NONSENSE: [&str; 24] = [
    "",
    " ",
    "abc",
    "NaN",
    "nan",
    "inf",
    "-inf",
    "Infinity",
    "-1",
    "1e308",
    "-1e308",
    "1e999",
    "0x10",
    "1/0",
    "99999999999999999999",
    "1.2.3",
    "1,2,3",
    "' OR 1=1 --",
    "<script>alert(1)</script>",
    "🐟🐟🐟",
    "\u{0}",
    "../../etc/passwd",
    "%00%ff",
    "½½",
];

/// A third of it for a field by its number: each field gets some, and all of it is typed somewhere.
fn some(field: usize) -> impl Iterator<Item = &'static str> {
    NONSENSE.into_iter().skip(field % 3).step_by(3)
}

#[test]
fn nonsense_in_any_figure_is_answered_and_nothing_is_stored() {
    let server = TestServer::start();
    let before = server.contents();
    let mut asked = 0;
    for (number, field) in [
        "speed",
        "temperature",
        "clarity",
        "fish_from",
        "fish_to",
        "bottom",
        "wanted_depth",
        "started",
    ]
    .into_iter()
    .enumerate()
    {
        for typed in some(number) {
            let page = server.post("/today", &conditions(&[(field, typed)]));
            // A few of these are figures, for some fields: "-1" is a temperature, "99…" is none.
            let sound = field == "temperature" && ["-1"].contains(&typed);
            assert!(
                [303, 422].contains(&page.status),
                "{field} {typed:?}: {}",
                page.status
            );
            if page.status == 422 {
                assert!(
                    !page.text(&format!("#problem-{field}")).is_empty(),
                    "{field} {typed:?}"
                );
                // A browser drops what HTML cannot hold; everything else stays as typed.
                if !typed.contains('\u{0}') {
                    assert_eq!(page.attribute(&format!("#{field}"), "value"), typed);
                }
                assert_eq!(server.contents(), before, "{field} {typed:?}");
            } else {
                assert!(sound, "{field} took {typed:?}");
            }
            asked += 1;
        }
    }
    for (number, field) in [
        "speed", "out", "weight", "lead", "depth", "line", "set", "step",
    ]
    .into_iter()
    .enumerate()
    {
        for typed in some(number) {
            let form = [
                ("rig", "1"),
                ("was_rig", "1"),
                ("setup", "1"),
                ("was_setup", "1"),
                ("speed", "1.2"),
                ("out", "68"),
                ("weight", "1"),
                ("lead", "5"),
                ("line", "nylon-10"),
                ("depth", "22"),
                (field, typed),
            ];
            let mut form: Vec<_> = form.to_vec();
            if let Some(first) = form
                .iter()
                .position(|(name, _)| *name == field)
                .filter(|at| *at < 10)
            {
                form.remove(first);
            }
            let query: Vec<String> = form
                .iter()
                .map(|(name, value)| format!("{name}={}", encoded(value)))
                .collect();
            let page = server.get(&format!("/tank?{}", query.join("&")));
            assert!(
                [200, 422].contains(&page.status),
                "{field} {typed:?}: {}",
                page.status
            );
            if page.status == 422 {
                assert!(
                    !page.text(&format!("#problem-{field}")).is_empty(),
                    "{field} {typed:?}"
                );
            }
            asked += 1;
        }
    }
    assert_eq!(server.contents(), before);
    assert!(asked > 120, "{asked}");
}

#[test]
fn nonsense_in_the_log_is_answered_and_nothing_is_lost() {
    let server = TestServer::start();
    let before = server.contents();
    for typed in NONSENSE {
        for (field, form) in [
            (
                "length",
                [
                    ("kind", "fish"),
                    ("at", "2026-09-05 08:00"),
                    ("length", typed),
                    ("kept", ""),
                    ("note", ""),
                ],
            ),
            (
                "at",
                [
                    ("kind", "fish"),
                    ("at", typed),
                    ("length", ""),
                    ("kept", ""),
                    ("note", ""),
                ],
            ),
        ] {
            let page = server.post("/log/40", &form);
            assert!(
                [303, 404, 422].contains(&page.status),
                "{field} {typed:?}: {}",
                page.status
            );
        }
        for path in [
            "/log",
            "/log/line",
            "/outings/open",
            "/settings/units",
            "/settings/theme",
        ] {
            if path == "/settings/units" || path == "/settings/theme" {
                // These take no figures: they switch whatever comes with them, twice is as before.
                server.post(path, &[("back", typed)]);
            }
            let page = server.post(
                path,
                &[
                    ("kind", typed),
                    ("outing", typed),
                    ("rig", typed),
                    ("back", typed),
                ],
            );
            assert!(page.status < 500, "{path} {typed:?}: {}", page.status);
        }
    }
    let after = server.contents();
    // Emptying a length is a correction; all else is as it was.
    assert_eq!(after.lines().count(), before.lines().count());
}

/// Addresses that are asked with every kind of broken body.
const ROUTES: [&str; 74] = [
    "/",
    "/today",
    "/today/mark",
    "/today/take",
    "/today/card",
    "/today/changes",
    "/column",
    "/judging",
    "/waters",
    "/waters/99999",
    "/waters/x",
    "/waters/99999/delete",
    "/waters/x/restore",
    "/waters/2/rules/99999/delete",
    "/waters/2/rules/x",
    "/tank",
    "/log",
    "/log/line",
    "/log/1",
    "/log/0/delete",
    "/log/99999/delete",
    "/log/99999/undo",
    "/log/-1/delete",
    "/log/9223372036854775808/delete",
    "/log/x/undo",
    "/log/99999",
    "/outings/open",
    "/outings/0/delete",
    "/outings/99999/undo",
    "/outings/x/delete",
    "/bench/x/edit",
    "/bench/99999/edit",
    "/bench/99999/undo",
    "/bench/99999/build",
    "/bench/99999/tick",
    "/bench/99999/duplicate",
    "/bench/1/sheet",
    "/box/parts/99999",
    "/box/parts/x/count",
    "/box/made/99999/dismantle",
    "/box/made/99999/break-off",
    "/box/deeds/99999/undo",
    "/box/import",
    "/api/v1/solve/towline",
    "/api/v1/solve/blade",
    "/api/v1/solve/rig",
    "/api/v1/solve/sun",
    "/api/v1/solve/light",
    "/api/v1/solve/match",
    "/api/v1/solve/spread",
    "/spread/99999/add",
    "/spread/99999/line/1",
    "/spread/1/line/99",
    "/spread/x/set",
    "/spread/1/holder",
    "/spread/1/depth",
    "/spread/1/speed",
    "/spread/1/mend",
    "/spread/99999/undo",
    "/spread/99999/delete",
    "/spread/1/motion/99",
    "/spread/1/motion/99/stop",
    "/spread/crew",
    "/setups/99999",
    "/setups/x/delete",
    "/lures/99999/delete",
    "/lures/x/restore",
    "/tank/dunk/99999/delete",
    "/tank/touch/x/restore",
    "/api/v1/solve/%00",
    "/api/v1/openapi.json",
    "/static/x/y",
    "/%ff",
    "/today/../../x",
];

#[test]
fn broken_requests_to_every_route_are_refused() {
    let server = TestServer::start();
    let before = server.contents();
    let form = "application/x-www-form-urlencoded";
    let bodies: [&[u8]; 9] = [
        b"",
        b"=",
        b"&&&&",
        b"%",
        b"\xff\xfe\x00",
        b"{\"speed\":1}",
        b"speed=1&speed=2",
        b"kind=fish&kind=note",
        b"outing=9223372036854775808",
    ];
    let mut asked = 0;
    for path in ROUTES {
        for body in bodies {
            for kind in [
                form,
                "application/json",
                "text/plain",
                "multipart/form-data",
            ] {
                let page = server.send(path, &[("content-type", kind)], body);
                let refused = (400..500).contains(&page.status);
                assert!(refused, "{path} {kind} {body:?}: {}", page.status);
                asked += 1;
            }
        }
        assert!(server.get(path).status < 500, "{path}");
    }
    assert_eq!(server.contents(), before);
    assert!(asked > 800, "{asked}");
}

#[test]
fn what_is_too_large_is_refused() {
    let server = TestServer::start();
    let form = [("content-type", "application/x-www-form-urlencoded")];
    let large = format!("kind=note&note={}", "x".repeat(200_000));
    assert_eq!(server.send("/log", &form, large.as_bytes()).status, 413);
    let large = vec![b' '; 2 << 20];
    let page = server.send("/api/v1/solve/blade", &[], &large);
    assert_eq!(page.status, 413);
    assert!(page.body.contains("\"error\""));
}

#[test]
fn addresses_with_nonsense_are_answered() {
    let server = TestServer::start();
    for (number, address) in [
        "/tank?rig=",
        "/tank?setup=",
        "/tank?beside=",
        "/tank?bend=",
        "/spread?spread=",
        "/spread/1?line=",
        "/spread/1?speed=",
        "/spread/1?side=port&radius=",
        "/spread/1?up=1&down=",
        "/spread/compare?a=",
        "/lures?deleted=",
        "/log?edit=",
        "/log?logged=",
        "/log?deleted=",
        "/today?deleted=",
        "/today?disk=",
        "/column?hour=",
        "/column?depth=",
        "/column?view=",
        "/waters?deleted=",
        "/waters/2?rule=",
        "/waters/2?deleted_rule=",
    ]
    .into_iter()
    .enumerate()
    {
        for typed in some(number) {
            let page = server.get(&format!("{address}{}", encoded(typed)));
            assert!(page.status < 500, "{address}{typed:?}: {}", page.status);
        }
    }
}

#[test]
fn nonsense_on_the_bench_is_answered_and_the_rig_is_unharmed() {
    let server = TestServer::start();
    let before = server.contents();
    let edits: [(&str, &[&str]); 9] = [
        ("set", &["setting", "hook_spacing", "si"]),
        ("count", &["at", "count"]),
        ("bend", &["at", "bend"]),
        ("put", &["part"]),
        ("move", &["at", "to"]),
        ("spool", &["mount"]),
        ("knot", &["knot"]),
        ("mend", &["check", "mend"]),
        ("fly", &["at"]),
    ];
    for typed in NONSENSE {
        for (edit, fields) in edits {
            let mut form = vec![("edit", edit)];
            if edit == "set" && typed.len() % 2 == 0 {
                form.push(("setting", "hook_spacing"));
                form.push(("hook_spacing", typed));
            } else {
                form.extend(fields.iter().map(|field| (*field, typed)));
            }
            let page = server.post("/bench/1/edit", &form);
            assert_eq!(page.status, 422, "{edit} {typed:?}");
            assert!(
                page.count(".notice, .problem:not(:empty)") > 0,
                "{edit} {typed:?}"
            );
        }
        for (path, field) in [
            ("/bench/1/tick", "step"),
            ("/bench/1/setup", "setup"),
            ("/bench/1/build", "n"),
        ] {
            let page = server.post(path, &[(field, typed), ("done", typed), ("place", "=1+1")]);
            assert!(
                (400..500).contains(&page.status),
                "{path} {typed:?}: {}",
                page.status
            );
        }
        for address in [
            "/bench/1?at=",
            "/bench/1?bay=",
            "/bench/1?dim=",
            "/bench/1?n=",
            "/bench?rig=",
            "/bench/compare?left=",
            "/bench/1/sheet?paper=",
            "/box?tray=",
            "/box?q=",
            "/box?gone=",
            "/box?deed=",
        ] {
            let page = server.get(&format!("{address}{}", encoded(typed)));
            assert!(page.status < 500, "{address}{typed:?}: {}", page.status);
        }
    }
    // Opening the bench remembers which rig was opened; nothing else changed.
    let remembered = |contents: &str| {
        contents
            .lines()
            .filter(|line| !line.contains("open_rig"))
            .collect::<Vec<_>>()
            .join("\n")
    };
    assert_eq!(remembered(&server.contents()), remembered(&before));
}

#[test]
fn nonsense_about_a_part_is_answered_beside_its_field() {
    let server = TestServer::start();
    let before = server.contents();
    let sound = [
        ("what", "bead/round"),
        ("size", "6"),
        ("colour", "OR"),
        ("left", "3"),
        ("low", "1"),
        ("cost", "0.1"),
        ("place", "Tray"),
    ];
    for (number, field) in [
        "size", "length", "bore", "mass", "left", "low", "cost", "what",
    ]
    .into_iter()
    .enumerate()
    {
        for typed in some(number) {
            let may_be_empty = typed.trim().is_empty() && field != "size" && field != "what";
            if may_be_empty {
                continue;
            }
            let mut form: Vec<_> = sound
                .iter()
                .copied()
                .filter(|(name, _)| *name != field)
                .collect();
            form.push((field, typed));
            let page = server.post("/box/parts/new", &form);
            assert_eq!(page.status, 422, "{field} {typed:?}");
            assert!(
                page.count(".notice, .problem:not(:empty)") > 0,
                "{field} {typed:?}"
            );
        }
    }
    assert_eq!(server.contents(), before);
}

#[test]
fn nonsense_about_a_water_or_a_rule_is_answered_beside_its_field() {
    let server = TestServer::start();
    let before = server.contents();
    let water = [
        ("name", "Pond"),
        ("latitude", "50"),
        ("longitude", "-95"),
        ("zone", "America/Winnipeg"),
        ("salt", "no"),
        ("clarity", "7"),
        ("stain", "tea"),
    ];
    let rule = [
        ("topic", "slot"),
        ("slot_from", "15"),
        ("slot_to", "22"),
        ("rule_count", "2"),
        ("rule_from", "2031-05-01"),
        ("rule_to", "2031-06-01"),
        ("rule_source", "the booklet"),
    ];
    let mut asked = 0;
    let mut ask =
        |path: &str, sound: &[(&'static str, &'static str)], field: &'static str, typed| {
            let mut form: Vec<_> = sound
                .iter()
                .copied()
                .filter(|(name, _)| *name != field)
                .collect();
            form.push((field, typed));
            let page = server.post(path, &form);
            assert_eq!(page.status, 422, "{path} {field} {typed:?}");
            assert!(
                !page.text(&format!("#problem-{field}")).is_empty(),
                "{field} {typed:?}"
            );
            asked += 1;
        };
    for typed in NONSENSE {
        let empty = typed.trim().is_empty();
        for field in ["latitude", "longitude", "zone", "clarity"] {
            // −1 is a latitude and a longitude; an empty zone is found by the position.
            let found = field == "zone" && empty;
            if !found && (typed != "-1" || field == "zone" || field == "clarity") {
                ask("/waters/new", &water, field, typed);
            }
        }
        // An end of a slot and a day may be left empty.
        for field in ["slot_from", "slot_to", "rule_from", "rule_to"] {
            if !empty {
                ask("/waters/2/rules", &rule, field, typed);
            }
        }
    }
    assert!(asked > 150, "{asked}");
    assert_eq!(server.contents(), before);
}

#[test]
fn nonsense_about_schools_weights_and_marks_changes_nothing() {
    let server = TestServer::start();
    let before = server.contents();
    for typed in NONSENSE {
        // An empty weight is the default, a blank one too.
        if !typed.trim().is_empty() {
            let page = server.post("/judging/weights", &[("thump", typed)]);
            assert_eq!(page.status, 422, "{typed:?}");
            assert!(!page.text("#problem-thump").is_empty(), "{typed:?}");
        }
        let page = server.post("/judging/schools", &[("colour", typed)]);
        assert_eq!(page.status, 422, "{typed:?}");
        assert!(
            page.text(".notice").contains("No school answers"),
            "{typed:?}"
        );
        for path in ["/today/mark", "/today/take"] {
            let form = [("rig", typed), ("mark", "pin"), ("blade", typed)];
            let page = server.post(path, &form);
            assert!(
                (400..500).contains(&page.status),
                "{path} {typed:?}: {}",
                page.status
            );
        }
        let page = server.post("/today/secchi", &[("blade_lost", typed), ("blade", typed)]);
        assert_eq!(page.status, 422, "{typed:?}");
        assert!(!page.text("#problem-blade_lost").is_empty(), "{typed:?}");
    }
    assert_eq!(server.contents(), before);
}

/// Percent-encodes every byte.
fn encoded(text: &str) -> String {
    use std::fmt::Write;
    text.bytes().fold(String::new(), |mut all, byte| {
        write!(all, "%{byte:02X}").unwrap();
        all
    })
}

#[test]
fn nonsense_in_a_spread_is_answered_and_it_is_unharmed() {
    let server = TestServer::start();
    let before = server.contents();
    let forms: [(&str, &[&str]); 9] = [
        (
            "/spread/1/line/2",
            &["out", "lead", "wanted", "rod", "weight"],
        ),
        ("/spread/1/holder", &["line", "holder"]),
        ("/spread/1/depth", &["line", "wanted"]),
        ("/spread/1/speed", &["to"]),
        ("/spread/1/mend?at=1&mend=9", &["speed"]),
        ("/spread/1/motion", &["course", "bend", "minutes"]),
        ("/lures", &["name", "from", "pairs"]),
        ("/tank/dunk", &["dunk_speed", "turns"]),
        ("/tank/touch", &["touch_out", "touch_depth", "touch_speed"]),
    ];
    for (number, (path, fields)) in forms.into_iter().enumerate() {
        for typed in some(number) {
            let form: Vec<_> = fields.iter().map(|field| (*field, typed)).collect();
            let page = server.post(path, &form);
            assert!(
                (400..500).contains(&page.status),
                "{path} {typed:?}: {}",
                page.status
            );
        }
    }
    assert_eq!(server.contents(), before);
}
