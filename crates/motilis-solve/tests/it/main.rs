//! The JSON questions against the reference files, and what they refuse.

mod golden;
mod hostile;

use approx::assert_relative_eq;
use motilis_solve::{What, openapi};
use rstest::rstest;
use serde_json::{Value, json};

/// Expected results of independent libraries; see `motilis-core/tests/data/README.md`.
const TOWLINES: &str = include_str!("../../../motilis-core/tests/data/towline_cases.jsonl");
const BANDS: &str = include_str!("../../../motilis-core/tests/data/band_cases.jsonl");
const BLADES: &str = include_str!("../../../motilis-core/tests/data/blade_cases.jsonl");

fn ask(what: What, request: &Value) -> Value {
    let answer = what.answer(request.to_string().as_bytes());
    serde_json::from_str(&answer.unwrap_or_else(|refusal| panic!("{refusal:?}"))).unwrap()
}

fn refusal(what: What, request: &str) -> (String, String) {
    let refusal = what.answer(request.as_bytes()).expect_err(request);
    (refusal.field, refusal.message)
}

/// Every case of a reference file as a request, with what is expected of it.
fn cases(file: &str) -> Vec<(Value, Value, Value)> {
    file.lines()
        .map(|line| {
            let mut request: Value = serde_json::from_str(line).unwrap();
            let fields = request.as_object_mut().unwrap();
            let expected = fields.remove("expected").unwrap();
            let inverse = fields.remove("inverse").unwrap_or_default();
            (request, expected, inverse)
        })
        .collect()
}

fn assert_near(name: &Value, ours: &Value, expected: &Value, field: &str) {
    match expected {
        Value::Number(expected) => {
            let expected = expected.as_f64().unwrap();
            let ours = ours
                .as_f64()
                .unwrap_or_else(|| panic!("{name}: {field} is {ours}"));
            let near = (ours - expected).abs() <= 1e-3 + 1e-3 * expected.abs();
            assert!(near, "{name}: {field} {ours} not {expected}");
        }
        Value::Array(expected) => {
            assert_eq!(
                ours.as_array().unwrap().len(),
                expected.len(),
                "{name}: {field}"
            );
            for (ours, expected) in ours.as_array().unwrap().iter().zip(expected) {
                assert_near(name, ours, expected, field);
            }
        }
        other => assert_eq!(ours, other, "{name}: {field}"),
    }
}

#[rstest]
#[case(What::Towline, TOWLINES, 40)]
#[case(What::Blade, BLADES, 27)]
fn a_script_gets_the_reference_answers(
    #[case] what: What,
    #[case] file: &str,
    #[case] rows: usize,
) {
    let cases = cases(file);
    assert_eq!(cases.len(), rows);
    for (request, expected, _) in cases {
        let mut answer = ask(what, &request);
        assert_eq!(answer["name"], request["name"]);
        if let Some(bend) = request["bend"].as_f64() {
            // The reference has a bent wing turn as one that is not; here its turns go with the cosine of its cone.
            let cosine = |degrees: f64| degrees.to_radians().cos();
            let turns = answer["turns_per_s"].as_f64().unwrap();
            answer["turns_per_s"] = json!(turns * cosine(40.0) / cosine(55.0 - 25.0 * bend));
        }
        for (field, expected) in expected.as_object().unwrap() {
            assert_near(&request["name"], &answer[field], expected, field);
        }
    }
}

/// Bands of 3 000 drawn lines: either end within 5 % of the band's width.
#[test]
fn spreads_are_answered_with_a_band() {
    for (request, expected, _) in cases(BANDS) {
        let answer = ask(What::Towline, &request);
        let ends = ["tail_depth_low_m", "tail_depth_high_m"];
        let [low, high] = ends.map(|end| expected[end].as_f64().unwrap());
        for end in ends {
            let off =
                (answer[end].as_f64().unwrap() - expected[end].as_f64().unwrap()) / (high - low);
            assert!(
                off.abs() < 0.05,
                "{}: {end} off by {off:.3}",
                request["name"]
            );
        }
    }
    let (mut request, ..) = cases(BANDS).remove(0);
    request.as_object_mut().unwrap().remove("spreads");
    assert!(
        ask(What::Towline, &request)
            .get("tail_depth_low_m")
            .is_none()
    );
}

#[test]
fn a_target_is_answered_with_a_length() {
    for (mut request, _, inverse) in cases(TOWLINES) {
        request["target_tail_depth_m"] = inverse["tail_depth_m"].clone();
        let answer = ask(What::Towline, &request);
        let length = answer["top_length_m"].as_f64().unwrap();
        assert_relative_eq!(
            length,
            inverse["top_length_m"].as_f64().unwrap(),
            max_relative = 1e-3
        );
        assert!(answer.get("reason").is_none());
    }
}

#[test]
fn a_target_out_of_reach_is_answered_with_a_reason() {
    let (mut request, ..) = cases(TOWLINES)
        .into_iter()
        .find(|(request, ..)| request["name"] == "bouncer-mono-39")
        .unwrap();
    request["target_tail_depth_m"] = json!(300.0);
    let answer = ask(What::Towline, &request);
    assert!(answer["top_length_m"].is_null() && answer.get("top_length_m").is_some());
    assert!(
        answer["reason"].as_str().unwrap().contains("N under water"),
        "{answer}"
    );
    request["target_tail_depth_m"] = json!(0.01);
    let answer = ask(What::Towline, &request);
    assert!(
        answer["reason"].as_str().unwrap().contains("alone already"),
        "{answer}"
    );
}

#[test]
fn a_profile_comes_when_asked_for() {
    let (mut request, expected, _) = cases(TOWLINES).remove(0);
    assert!(ask(What::Towline, &request).get("profile").is_none());
    request["profile"] = json!(true);
    let profile = ask(What::Towline, &request)["profile"].clone();
    let points = profile.as_array().unwrap();
    assert!(points.len() > 10);
    assert_near(
        &request["name"],
        &points[0][0],
        &expected["run_m"],
        "first run",
    );
    assert_near(
        &request["name"],
        &points[0][1],
        &expected["tail_depth_m"],
        "first depth",
    );
}

/// What a hurried script may send, the field that is to blame, and a word of the answer.
#[rstest]
#[case::text_for_a_number(r#"{"speed_mps":"fast"}"#, "speed_mps", "expected a number")]
#[case::nothing("", "", "not one JSON object")]
#[case::a_list("[1]", "", "not one JSON object")]
#[case::cut_off(r#"{"speed_mps":1"#, "", "not one JSON object")]
#[case::infinity(r#"{"speed_mps":1e999}"#, "", "out of range")]
#[case::nan(r#"{"speed_mps":NaN}"#, "", "")]
#[case::unknown(r#"{"sped":1}"#, "sped", "unknown field")]
#[case::missing(r#"{"speed_mps":1}"#, "water", "missing field")]
#[case::unknown_deeper(
    r#"{"speed_mps":1,"water":{"colour":"green"}}"#,
    "water.colour",
    "unknown field"
)]
fn a_bad_towline_is_refused_by_field(
    #[case] request: &str,
    #[case] field: &str,
    #[case] word: &str,
) {
    let (at, message) = refusal(What::Towline, request);
    assert_eq!(at, field, "{message}");
    assert!(message.contains(word), "{message}");
}

#[rstest]
#[case("speed_mps", json!(-1.0), "speed_mps")]
#[case("speed_mps", json!(1e308), "speed_mps")]
#[case("speed_mps", Value::Null, "speed_mps")]
#[case("segments", json!([]), "segments")]
#[case("segments", json!([{"length_m": -2.0, "diameter_m": 1e-4, "submerged_weight_n_per_m": 0}]), "segments[0].length_m")]
#[case("segments", json!([{"length_m": 2.0, "diameter_m": 0, "submerged_weight_n_per_m": 0}]), "segments[0].diameter_m")]
#[case("segments", json!([{"length_m": "2", "diameter_m": 1, "submerged_weight_n_per_m": 0}]), "segments[0].length_m")]
#[case("segments", json!([{"length_m": 2.0}]), "segments[0].diameter_m")]
#[case("tail", json!({"submerged_weight_n": 1, "drag_area_m2": -1}), "tail.drag_area_m2")]
#[case("drag", json!({"normal": "turbulent"}), "drag.normal")]
#[case("drag", json!({"normal": -1}), "drag.normal")]
#[case("drag", json!({"strum": 0}), "drag.strum")]
#[case("spreads", json!({"strum": 2}), "spreads.strum")]
#[case("spreads", json!({"speed_mps": -1}), "spreads.speed_mps")]
#[case("water", json!({}), "water")]
#[case("water", json!({"temperature_c": 90}), "water.temperature_c")]
#[case("target_tail_depth_m", json!(-3), "target_tail_depth_m")]
fn a_towline_with_one_bad_field_names_it(
    #[case] field: &str,
    #[case] value: Value,
    #[case] blamed: &str,
) {
    let (mut request, ..) = cases(TOWLINES).remove(5);
    request[field] = value;
    assert_eq!(refusal(What::Towline, &request.to_string()).0, blamed);
}

#[rstest]
#[case("family", json!("spoon"), "family")]
#[case("count", json!(3), "count")]
#[case("count", json!(-1), "count")]
#[case("bend", json!(0.5), "bend")]
#[case("friction", json!(0), "friction")]
#[case("thickness_m", json!(0), "thickness_m")]
#[case("sharpness", json!(0), "sharpness")]
fn a_blade_with_one_bad_field_names_it(
    #[case] field: &str,
    #[case] value: Value,
    #[case] blamed: &str,
) {
    let (mut request, ..) = cases(BLADES).remove(0);
    request[field] = value;
    assert_eq!(refusal(What::Blade, &request.to_string()).0, blamed);
}

#[test]
fn more_than_one_object_is_refused() {
    let (request, ..) = cases(BLADES).remove(0);
    let (_, message) = refusal(What::Blade, &format!("{request} {request}"));
    assert!(message.contains("not one JSON object"), "{message}");
}

/// Fields that a schema of the document tells of, with those of the schemas it is put together from.
fn told_fields(schemas: &Value, schema: &Value) -> Vec<String> {
    let own = schema["properties"].as_object().into_iter().flatten();
    let mut told: Vec<String> = own.map(|(field, _)| field.clone()).collect();
    for part in ["allOf", "oneOf"]
        .iter()
        .filter_map(|all| schema[all].as_array())
        .flatten()
    {
        let part = match part["$ref"].as_str() {
            Some(path) => &schemas[path.rsplit('/').next().unwrap()],
            None => part,
        };
        told.extend(told_fields(schemas, part));
    }
    told
}

/// The examples of the document are answered, and the document names every field of the answers.
#[test]
fn the_document_tells_the_truth() {
    let document: Value = serde_json::from_str(&openapi()).unwrap();
    for (name, what) in What::ALL {
        assert!(document["paths"][format!("/api/v1/solve/{name}")]["post"].is_object());
        let mut schema = name.to_owned();
        schema[..1].make_ascii_uppercase();
        let schemas = &document["components"]["schemas"];
        let example = &schemas[format!("{schema}Request")]["example"];
        let answer = ask(what, example);
        for field in answer.as_object().unwrap().keys() {
            let told = told_fields(schemas, &schemas[format!("{schema}Answer")]);
            assert!(told.contains(field), "{field}");
        }
        assert_eq!(What::from_name(name), Some(what));
    }
    assert_eq!(What::from_name("weather"), None);
}

/// The harness of the document, hand-worked: clevis 3.2 + beads 4 + 4 · 6 = 31.2 mm of stack; the blade's
/// tip at 1.6 + 4.5 − 0.06 · 25.5 + 25.5 = 30.07 mm; so it stays 1.13 mm ahead of the eye.
#[test]
fn a_rig_is_reckoned_as_by_hand_and_mended_out_of_its_box() {
    let document: Value = serde_json::from_str(&openapi()).unwrap();
    let request = document["components"]["schemas"]["RigRequest"]["example"].clone();
    let answer = ask(What::Rig, &request);
    let near = |field: &str, expected: f64| {
        assert_relative_eq!(answer[field].as_f64().unwrap(), expected, epsilon = 1e-9);
    };
    near("stack_m", 0.0312);
    near("tip_clearance_m", 0.001_13);
    let check = |key: &str| -> Value {
        let checks = answer["checks"].as_array().unwrap();
        checks
            .iter()
            .find(|check| check["check"] == key)
            .cloned()
            .unwrap()
    };
    assert_eq!(check("tip")["level"], "warn");
    let mend = &check("tip")["mends"][0][0];
    assert_eq!(
        (&mend["edit"], &mend["at"], &mend["to"]),
        (&json!("splice"), &json!(4), &json!(5))
    );
    assert_eq!(mend["pieces"][0]["id"], 7);
    assert_eq!(mend["pieces"][0]["count"], 5);
    assert_eq!(answer["steps"][0]["action"], "cut");
    assert_eq!(answer["cut"]["snells_m"].as_array().unwrap().len(), 2);
}

#[rstest]
#[case::kind("kind", json!("kite"), "kind", "is not one of inline_torpedo")]
#[case::style("mount", json!({"part": "line", "style": "string", "size": 17}), "mount.style", "is no part")]
#[case::mount("mount", json!({"part": "bead", "style": "round", "size": 6}), "mount", "line or wire")]
#[case::size("pieces", json!([{"part": "blade", "style": "colorado", "size": 9}]), "pieces[0].size", "it comes in 0, 0.5, 1")]
#[case::count("pieces", json!([{"part": "bead", "style": "round", "size": 6, "count": 0}]), "count", "between 1 and 60")]
#[case::bend("pieces", json!([{"part": "blade", "style": "colorado", "size": 4, "bend": 0.5}]), "bend", "belongs to a soft wing")]
#[case::hole("pieces", json!([{"part": "bead", "style": "round", "size": 6, "bore_m": 0.007}]), "pieces[0].bore_m", "as wide as the part")]
#[case::spacing("hook_spacing_m", json!(-1), "hook_spacing", "between 0.005 and 0.4 m")]
#[case::stock("box", json!([{"part": "bead", "style": "round", "size": 6, "left_count": -2}]), "box[0].left_count", "between 0 and")]
#[case::unknown("colour", json!("red"), "colour", "unknown field")]
fn a_rig_that_cannot_be_is_refused_by_field(
    #[case] field: &str,
    #[case] value: Value,
    #[case] named: &str,
    #[case] says: &str,
) {
    let document: Value = serde_json::from_str(&openapi()).unwrap();
    let mut request = document["components"]["schemas"]["RigRequest"]["example"].clone();
    request[field] = value;
    let (at, message) = refusal(What::Rig, &request.to_string());
    assert_eq!(at, named, "{message}");
    assert!(message.contains(says), "{message}");
}

/// A row of the reference sightings as a request, with the columns expected of the answer.
fn sighting(id: &str) -> (Value, Value) {
    const INPUTS: [&str; 16] = [
        "sun_alt",
        "moon_alt",
        "moon_phase",
        "cloud",
        "wind",
        "cls",
        "zsd",
        "salt",
        "depth",
        "view",
        "species",
        "finish",
        "area",
        "hz",
        "glow_min",
        "name",
    ];
    let file = include_str!("../../../motilis-core/tests/data/light/expected_vision.csv");
    let mut lines = file.lines().skip(1);
    let columns = lines.next().unwrap().split(',');
    let row = lines.find(|line| line.starts_with(id)).unwrap().split(',');
    let (mut request, mut expected) = (json!({}), json!({}));
    for (column, text) in columns.zip(row) {
        let value = match text {
            "True" => json!(true),
            "False" => json!(false),
            text => text
                .parse::<f64>()
                .map_or_else(|_| json!(text), |figure| json!(figure)),
        };
        let to = if INPUTS.contains(&column) {
            &mut request
        } else {
            &mut expected
        };
        to[column] = value;
    }
    expected.as_object_mut().unwrap().remove("id");
    (request, expected)
}

#[rstest]
#[case("v01")]
#[case("v02")]
#[case("v05")]
fn a_sighting_answers_with_the_columns_of_its_file(#[case] id: &str) {
    let (mut request, expected) = sighting(id);
    request["receptors"] = json!(true);
    let answer = ask(What::Light, &request);
    for (column, expected) in expected.as_object().unwrap() {
        assert_near(&json!(id), &answer[column], expected, column);
    }
    let receptors = answer["receptors"].as_array().unwrap();
    assert!(
        receptors
            .iter()
            .any(|one| one["receptor"] == answer["best_receptor"])
    );
    assert!(receptors[0]["threshold_at_1m"].as_f64().unwrap() > 0.0);
}

#[test]
fn a_star_ranks_all_finishes() {
    let (mut request, _) = sighting("v02");
    request["finish"] = json!("*");
    let answer = ask(What::Light, &request);
    assert!(answer.get("sight_m").is_none());
    let ranking = answer["ranking"].as_array().unwrap();
    assert_eq!(ranking.len(), 50);
    assert_eq!(
        (&ranking[0]["rank"], &ranking[0]["noticeability"]),
        (&json!(1), &json!(100.0))
    );
    for pair in ranking.windows(2) {
        assert!(pair[0]["score"].as_f64() >= pair[1]["score"].as_f64());
    }
}

#[test]
fn time_and_place_stand_in_for_the_angles() {
    // Row 2 of expected_end_to_end.csv.
    let mut request = json!({
        "utc": "2035-05-28T10:42:17Z", "lat": 45.0988, "lon": -96.1795, "cloud": 0.5, "wind": 3,
        "cls": "green", "zsd": 2.2, "salt": false, "depth": 2, "view": "level",
        "species": "rainbow_adult", "finish": "copper_hammered", "area": 0.0006, "hz": 12,
        "glow_min": 10
    });
    let answer = ask(What::Light, &request);
    assert_relative_eq!(answer["sun_alt"].as_f64().unwrap(), -1.0176, epsilon = 0.01);
    assert_relative_eq!(
        answer["sight_m"].as_f64().unwrap(),
        1.8307,
        max_relative = 0.03
    );
    request["sun_alt"] = json!(10.0);
    let (field, message) = refusal(What::Light, &request.to_string());
    assert_eq!(field, "sun_alt");
    assert!(message.contains("none of the other"), "{message}");
}

#[test]
fn the_sun_over_a_place() {
    // Row 1 of expected_sun.csv.
    let answer = ask(
        What::Sun,
        &json!({"utc": "2027-06-20T13:16:16Z", "lat": 41.4431, "lon": -82.7881}),
    );
    for (field, expected) in [
        ("alt_true_deg", 34.29736),
        ("az_deg", 87.71346),
        ("alt_apparent_deg", 34.32195),
    ] {
        assert_relative_eq!(answer[field].as_f64().unwrap(), expected, epsilon = 2e-3);
    }
    assert!(answer["lux_clear"].as_f64().unwrap() > 50_000.0);
}

/// What cannot be, the field that is to blame, and a word of the answer.
#[rstest]
#[case::off_the_globe("lat", json!(95.0), "between -90 and 90")]
#[case::no_such_place("lon", json!(181.0), "between -180 and 180")]
#[case::no_time("utc", json!("tomorrow"), "is not a time like")]
#[case::too_long_ago("utc", json!("-009000-01-01T00:00:00Z"), "cannot be computed for that time")]
fn a_sun_that_cannot_be_is_refused(#[case] field: &str, #[case] value: Value, #[case] word: &str) {
    let mut request = json!({"utc": "2026-06-04T10:12:00Z", "lat": 50.42, "lon": -95.61});
    request[field] = value;
    let (at, message) = refusal(What::Sun, &request.to_string());
    assert_eq!(at, field);
    assert!(message.contains(word), "{message}");
}

#[rstest]
#[case("zsd", json!(0.0), "between 0.3 and 6 m in green water")]
#[case("cls", json!("pink"), "not one of clear, green, tea, muddy")]
#[case("view", json!("sideways"), "not one of level, up, down")]
#[case("species", json!("perch"), "not one of walleye")]
#[case("finish", json!("plaid"), "not one of silver_polished")]
#[case("cloud", json!(1.5), "between 0 (clear) and 1")]
#[case("wind", json!(-1.0), "between 0 and 40 m/s")]
#[case("depth", json!(-2.0), "between 0 and 300 m")]
#[case("area", json!(0.0), "above 0 and at most 1 m2")]
#[case("hz", json!(1e9), "flashes a second")]
#[case("glow_min", json!(-1.0), "since it was charged")]
#[case("sun_alt", json!(100.0), "between -90 and 90")]
#[case("moon_phase", json!(200.0), "between 0 (full moon)")]
#[case("sun_alt", json!(null), "all three of the one")]
fn a_sighting_that_cannot_be_is_refused(
    #[case] field: &str,
    #[case] value: Value,
    #[case] word: &str,
) {
    let (mut request, _) = sighting("v02");
    request[field] = value;
    let (at, message) = refusal(What::Light, &request.to_string());
    assert_eq!(at, field);
    assert!(message.contains(word), "{message}");
}

#[test]
fn where_no_light_is_left_nothing_is_seen_and_every_figure_can_be_written() {
    let (mut request, _) = sighting("v04");
    request["zsd"] = json!(0.05);
    request["depth"] = json!(300.0);
    request["receptors"] = json!(true);
    let answer = ask(What::Light, &request);
    assert_eq!(
        (&answer["sight_m"], &answer["hex"]),
        (&json!(0.0), &json!("#000000"))
    );
    assert!(answer["receptors"][0]["c_mean"].is_null());
    request["finish"] = json!("*");
    assert_eq!(
        ask(What::Light, &request)["ranking"][0]["noticeability"],
        json!(0.0)
    );
}

/// The example of the document.
fn example(schema: &str) -> Value {
    let document: Value = serde_json::from_str(&openapi()).unwrap();
    document["components"]["schemas"][schema]["example"].clone()
}

/// One harness and one blade of the box: the sheet calls what the schools and the log say, and every score is
/// the sum of its terms.
#[test]
fn a_match_calls_a_rig_and_says_why() {
    let request = example("MatchRequest");
    let answer = ask(What::Match, &request);
    let (sheet, rigs) = (&answer["sheet"], &answer["rigs"]);
    assert_eq!(rigs.as_array().unwrap().len(), 1);
    assert_eq!(sheet[0]["role"], "primary");
    assert_eq!(rigs[0]["verdict"], "works");
    for call in sheet
        .as_array()
        .unwrap()
        .iter()
        .chain(rigs.as_array().unwrap())
    {
        let terms = call["terms"].as_array().unwrap();
        assert_eq!(terms.len(), 21);
        let counted =
            |term: &Value| term["points"].as_f64().unwrap() * term["weight"].as_f64().unwrap();
        let sum: f64 = terms.iter().map(counted).sum();
        assert_relative_eq!(sum, call["score"].as_f64().unwrap(), epsilon = 1e-9);
    }
    // The swap that the box allows is judged too.
    let swapped = sheet
        .as_array()
        .unwrap()
        .iter()
        .find(|call| !call["swap"].as_array().unwrap().is_empty());
    if let Some(swapped) = swapped {
        assert_eq!(swapped["swap"][0]["id"], 7);
    }
    let mut vetoed = request.clone();
    vetoed["rigs"][0]["mark"] = json!("veto");
    let answer = ask(What::Match, &vetoed);
    assert!(answer["sheet"].as_array().unwrap().is_empty());
}

/// Each change is found by asking again: with that condition in the request the other rig comes first.
#[test]
fn what_would_change_is_what_asking_again_gives() {
    let mut request = example("MatchRequest");
    let mut wing = request["rigs"][0].clone();
    wing["rig"] = json!({"name": "wing", "kind": "wing_worm",
        "mount": {"part": "line", "style": "nylon", "size": 8},
        "pieces": [
            {"part": "swivel", "style": "barrel", "size": 14},
            {"part": "blade", "style": "soft_wing", "size": 1.1, "colour": "CH"},
            {"part": "bead", "style": "round", "size": 4},
            {"part": "hook", "style": "bent_shank", "size": 2},
            {"part": "bait", "style": "half_crawler", "size": 65}]});
    wing["fish"] = json!(0);
    wing["rod_hours"] = json!(0);
    request["rigs"].as_array_mut().unwrap().push(wing);
    request["box"] = json!([]);
    request["changes"] = json!(true);
    let answer = ask(What::Match, &request);
    let first = answer["sheet"][0]["rig"].clone();
    let changes = answer["changes"].as_array().unwrap();
    let mut checked = 0;
    for change in changes {
        assert_ne!(change["rig"], first);
        let field = change["moved"].as_str().unwrap();
        // The sun's altitude is no field of a request.
        if field != "sun_alt_deg" {
            let mut moved = request.clone();
            moved["day"][field] = change["to"].clone();
            assert_eq!(
                ask(What::Match, &moved)["sheet"][0]["rig"],
                change["rig"],
                "{field}"
            );
            checked += 1;
        }
    }
    assert!(checked >= 1, "{changes:?}");
}

#[test]
fn typed_in_rules_and_the_box_are_hard() {
    let reason = |field: &str, value: Value| {
        let mut request = example("MatchRequest");
        request["rigs"][0]["made_up"] = json!(1);
        request["limits"] = json!({});
        match field {
            "made_up" => request["rigs"][0]["made_up"] = value,
            "speed_mps" => request["day"]["speed_mps"] = value,
            _ => request["limits"][field] = value,
        }
        ask(What::Match, &request)["rigs"][0]["reason"].clone()
    };
    assert_eq!(reason("hooks", json!(1)), "against_rule");
    assert_eq!(reason("no_bait", json!(true)), "against_rule");
    assert_eq!(reason("no_lead", json!(true)), "practice");
    assert_eq!(reason("made_up", json!(0)), "short");
    assert_eq!(reason("speed_mps", json!(0.1)), "stalls");
    assert_eq!(reason("speed_mps", json!(1.6)), "rolls_over");
}

#[rstest]
#[case("/day/lat", json!(91.0), "day.lat", "between -90 and 90")]
#[case("/day/utc", json!("dawn"), "day.utc", "is not a time")]
#[case("/day/clarity_m", json!(0.0), "day.clarity_m", "tea-stained")]
#[case("/day/temperature_c", json!(-9.0), "day.temperature_c", "between -2 and 45")]
#[case("/day/stain", json!("brown"), "day.stain", "clear, green, tea, muddy")]
#[case("/day/fish", json!("pike"), "day.fish", "walleye")]
#[case("/day/fish_to_m", json!(1.0), "day.fish_to_m", "upper end first")]
#[case("/day/speed_mps", json!(-1.0), "day.speed_mps", "between 0 and 15")]
#[case("/day/bottom_m", json!(0.0), "day.bottom_m", "above 0")]
#[case("/schools/colour", json!("both"), "schools.colour", "conditions, rotate")]
#[case("/weights/thump", json!(9), "weights.thump", "between 0 and 3")]
#[case("/rigs/0/mark", json!("maybe"), "rigs[0].mark", "pin, veto")]
#[case("/rigs/0/rod_hours", json!(-1.0), "rigs[0].rod_hours", "between 0")]
#[case("/rigs/0/setup/start", json!("kite"), "rigs[0].setup.start", "rod_tip, board, downrigger")]
#[case("/rigs/0/setup/weight/kind", json!("anvil"), "rigs[0].setup.weight.kind", "bottom_bouncer")]
#[case("/rigs/0/setup/main/test_lb", json!(11), "rigs[0].setup.main.test_lb", "lb")]
#[case("/rigs/0/setup/tip_height_m", json!(99.0), "rigs[0].setup.tip_height_m", "between 0 and 10")]
#[case("/rigs/0/rig/kind", json!("kite"), "rigs[0].rig.kind", "crawler_harness")]
#[case("/rigs/0/rig/pieces/2/size", json!(99), "rigs[0].rig.pieces[2].size", "comes in")]
#[case("/rigs", json!([]), "rigs", "between 1 and 2000")]
fn a_match_with_one_bad_field_names_it(
    #[case] place: &str,
    #[case] value: Value,
    #[case] blamed: &str,
    #[case] word: &str,
) {
    let mut request = example("MatchRequest");
    *request.pointer_mut(place).unwrap() = value;
    let (field, message) = refusal(What::Match, &request.to_string());
    assert_eq!(field, blamed, "{message}");
    assert!(message.contains(word), "{message}");
}

/// A downrigger and a diver are set-ups too, each with what it needs.
#[test]
fn other_set_ups_say_what_they_need() {
    let mut request = example("MatchRequest");
    request["rigs"][0]["setup"]["start"] = json!("downrigger");
    let (field, message) = refusal(What::Match, &request.to_string());
    assert_eq!(
        (field.as_str(), message.contains("ball_kg")),
        ("rigs[0].setup.ball_kg", true)
    );
    request["rigs"][0]["setup"]["ball_kg"] = json!(4.5);
    request["rigs"][0]["setup"]["drop_back_m"] = json!(6.0);
    request["rigs"][0]["setup"]["weight"] = Value::Null;
    assert_eq!(ask(What::Match, &request)["rigs"][0]["verdict"], "works");
    request["rigs"][0]["setup"]["start"] = json!("board");
    request["rigs"][0]["setup"]["weight"] = json!({"kind": "trip_diver", "size": "large"});
    assert!(ask(What::Match, &request)["rigs"][0]["out_m"].is_number());
}

/// The example of the document: two lines, one set for its depth, one by its dive table, in a turn.
#[test]
fn a_spread_is_solved_ordered_and_checked() {
    let request = example("SpreadRequest");
    let answer = ask(What::Spread, &request);
    let lines = answer["lines"].as_array().unwrap();
    assert_eq!(lines.len(), 2);
    assert_eq!(answer["order"]["set_out"], json!([0, 1]));
    let number = |value: &Value| value.as_f64().unwrap();
    // The port board runs on the inside of a turn to port: slower, and deeper than it was set.
    assert!(number(&lines[0]["speed_mps"]) < 0.54 && number(&lines[1]["speed_mps"]) > 0.54);
    assert!(number(&lines[0]["depth_m"]) > 5.0);
    let mut straight = request.clone();
    straight.as_object_mut().unwrap().remove("turn");
    straight["paths"] = json!(true);
    straight["current"] = json!({"along_mps": 0.2});
    let answer = ask(What::Spread, &straight);
    let lines = answer["lines"].as_array().unwrap();
    assert_relative_eq!(number(&lines[0]["depth_m"]), 5.0, epsilon = 5e-3);
    let path = lines[0]["path"].as_array().unwrap();
    assert_relative_eq!(number(&path.last().unwrap()[2]), 5.0, epsilon = 5e-3);
    // By hand: 0.54 ± 0.2.
    assert_relative_eq!(number(&answer["legs"]["up_mps"]), 0.34, epsilon = 1e-9);
    assert_relative_eq!(number(&answer["legs"]["down_mps"]), 0.74, epsilon = 1e-9);
    // The smallest safe turn is one: nothing fails in it that did not fail straight on.
    let failing = |answer: &Value| {
        let lines = answer["lines"].as_array().unwrap().clone();
        let faults = lines
            .iter()
            .flat_map(|line| line["faults"].as_array().unwrap().clone());
        faults.filter(|fault| fault["fails"] == json!(true)).count()
    };
    let mut safe = request;
    safe["turn"]["radius_m"] = json!(number(&answer["safe_port_m"]) * 1.01);
    assert_eq!(failing(&ask(What::Spread, &safe)), failing(&answer));
}

/// Set in motion and towed straight on, the lines stay where the steady answer has them.
#[test]
fn a_spread_in_motion_keeps_its_depths_straight_on() {
    let mut request = example("SpreadRequest");
    request.as_object_mut().unwrap().remove("turn");
    request["motion"] = json!({"course": {"kind": "straight"}, "seconds": 30});
    let answer = ask(What::Spread, &request);
    let frames = answer["frames"].as_array().unwrap();
    assert_eq!(frames.len(), 61);
    let last = &frames[60];
    for (line, steady) in answer["lines"].as_array().unwrap().iter().enumerate() {
        let (moving, steady) = (
            last["depths_m"][line].as_f64().unwrap(),
            steady["depth_m"].as_f64().unwrap(),
        );
        assert_relative_eq!(moving, steady, max_relative = 0.02, epsilon = 0.05);
    }
    request["motion"] = json!({"course": {"kind": "circle", "radius_m": 40}, "seconds": 60});
    let turned = ask(What::Spread, &request);
    let last = turned["frames"].as_array().unwrap().last().unwrap().clone();
    assert!(last["heading_deg"].as_f64().unwrap() < -30.0);
}

#[rstest]
#[case("/speed_mps", json!(0.0), "speed_mps", "above 0")]
#[case("/bottom_m", json!(-1.0), "bottom_m", "above 0")]
#[case("/rods", json!([]), "rods", "not 0")]
#[case("/rods/0/holder", json!("Q9"), "rods[0].holder", "P1 to P8")]
#[case("/rods/1/holder", json!("P4"), "rods[1].holder", "two rods stand in holder P4")]
#[case(
    "/rods/0/board_m",
    Value::Null,
    "rods[0].board_m",
    "distance from the boat"
)]
#[case("/rods/0/wanted_m", json!(12.0), "rods[0].wanted_m", "the bottom lies at 12.00 m")]
#[case("/rods/0/setup/lead_m", json!(13.0), "rods[0].setup.lead_m", "longer than the water is deep")]
#[case("/rods/0/rig/pieces/1/size", json!(99), "rods[0].rig.pieces[1].size", "comes in")]
#[case("/rods/1/lure/dives", json!([[10.0, 12.0]]), "rods[1].lure.dives[0].depth_m", "cannot be deeper")]
#[case("/rods/1/lure/dives", json!([]), "rods[1].lure.dives", "between 1 and 60")]
#[case("/rods/1/lure/to_mps", json!(0.1), "rods[1].lure.favourite_mps", "out of order")]
#[case(
    "/rods/1/out_m",
    Value::Null,
    "rods[1].out_m",
    "needs out_m, or wanted_m"
)]
#[case("/turn/radius_m", json!(1.0), "turn.radius_m", "between 5 and 2 000")]
#[case("/turn/to", json!("up"), "turn.to", "port, starboard")]
#[case("/current", json!({"along_mps": 2.0}), "current.along_mps", "stronger than the boat")]
#[case("/motion", json!({"course": {"kind": "straight"}, "seconds": 1}), "motion.seconds", "between 5 and 3 600")]
fn a_spread_with_one_bad_field_names_it(
    #[case] place: &str,
    #[case] value: Value,
    #[case] blamed: &str,
    #[case] word: &str,
) {
    let mut request = example("SpreadRequest");
    let (parent, last) = place.rsplit_once('/').unwrap();
    match request.pointer_mut(parent) {
        Some(Value::Object(fields)) => drop(fields.insert(last.to_owned(), value)),
        _ => *request.pointer_mut(place).unwrap() = value,
    }
    let (field, message) = refusal(What::Spread, &request.to_string());
    assert_eq!(field, blamed, "{message}");
    assert!(message.contains(word), "{message}");
}

#[test]
fn forty_rods_are_too_many() {
    let mut request = example("SpreadRequest");
    let rod = request["rods"][0].clone();
    request["rods"] = json!(vec![rod; 40]);
    let (field, message) = refusal(What::Spread, &request.to_string());
    assert_eq!(field, "rods");
    assert!(
        message.contains("between 1 and 16 lines, not 40"),
        "{message}"
    );
}

const RATES: &str = include_str!("../../../motilis-core/tests/data/rate_cases.jsonl");

/// The reference's own lines, asked as a script would.
#[test]
fn every_season_of_the_reference_is_answered() {
    let mut rows = 0;
    for line in RATES.lines() {
        let mut case: Value = serde_json::from_str(line).unwrap();
        let expected = case.as_object_mut().unwrap().remove("expected").unwrap();
        let answer = What::Rate.answer(case.to_string().as_bytes()).unwrap();
        let answer: Value = serde_json::from_str(&answer).unwrap();
        for (field, theirs) in expected.as_object().unwrap() {
            let list = |value: &Value| value.as_array().cloned().unwrap_or(vec![value.clone()]);
            let pairs = list(&answer[field]).into_iter().zip(list(theirs));
            for (ours, theirs) in pairs {
                match (ours.as_f64(), theirs.as_f64()) {
                    (Some(ours), Some(theirs)) => {
                        let off = (ours - theirs).abs() / theirs.abs().max(1e-3);
                        assert!(off < 1e-5, "{field}: {ours} for {theirs}");
                    }
                    (ours, theirs) => assert_eq!(ours, theirs, "{field}"),
                }
            }
        }
        rows += 1;
    }
    assert_eq!(rows, 40);
}

#[rstest]
#[case(json!({"rigs": []}), "rigs", "give 1 to 200")]
#[case(json!({"rigs": [{"fish": 1, "rod_hours": -1}]}), "rigs[0].rod_hours", "between 0 and 1000000 h")]
#[case(json!({"rigs": [{"fish": -1, "rod_hours": 1}]}), "rigs[0].fish", "")]
#[case(json!({"rigs": [{"fish": 4_000_000_000_u32, "rod_hours": 1}]}), "rigs[0].fish", "at most so many")]
#[case(json!({"mean_per_hour": 0, "rigs": [{"fish": 1, "rod_hours": 1}]}), "mean_per_hour", "above 0")]
#[case(json!({"rigs": [{"fish": 1, "rod_hours": 1}], "strata": [{"a_fish": 1, "a_hours": 1, "b_fish": 0, "b_hours": -2}]}), "strata[0].b_hours", "between 0")]
#[case(json!({"rigs": [{"fish": 1, "rod_hours": 1}], "weather": 1}), "weather", "weather")]
fn a_season_that_cannot_be_is_refused(
    #[case] request: Value,
    #[case] field: &str,
    #[case] word: &str,
) {
    let refusal = What::Rate
        .answer(request.to_string().as_bytes())
        .unwrap_err();
    assert_eq!(refusal.field, field, "{}", refusal.message);
    assert!(refusal.message.contains(word), "{}", refusal.message);
}

fn on_the_board(changes: &Value) -> Result<Value, motilis_solve::Refusal> {
    let mut request = json!({"species": "walleye", "length_m": 0.4191, "date": "2026-06-10", "rules": [
        {"topic": "slot", "species": "walleye", "slot_from_m": 0.4572, "to": "2026-06-30", "source": "booklet"},
        {"topic": "slot", "species": "walleye", "slot_from_m": 0.3048, "from": "2026-07-01", "source": "booklet"},
        {"topic": "daily", "most": 4, "source": "booklet"}
    ]});
    let fields = request.as_object_mut().unwrap();
    fields.extend(changes.as_object().unwrap().clone());
    let answer = What::Fish.answer(request.to_string().as_bytes())?;
    Ok(serde_json::from_str(&answer).unwrap())
}

#[test]
fn a_fish_is_held_against_the_rules_of_its_day() {
    let june = on_the_board(&json!({})).unwrap();
    assert_eq!(june["rules"][0]["says"], "goes_back");
    assert_eq!(june["rules"][0]["next_from"], "2026-07-01");
    assert_eq!(june["rules"][0]["next_slot_from_m"], 0.3048);
    assert_eq!(june["rules"][1]["says"], "counts");
    let july = on_the_board(&json!({"date": "2026-07-01", "kept": 4})).unwrap();
    assert_eq!(july["rules"][0]["says"], "too_many");
    assert_eq!(july["rules"][1]["says"], "within_slot");
    let close = on_the_board(&json!({"length_m": 0.455})).unwrap();
    assert_eq!(close["rules"][0]["says"], "too_close");
    let weighed = on_the_board(&json!({"weight_kg": 0.77, "girth_m": 0.2})).unwrap();
    assert!(
        (weighed["relative_weight"].as_f64().unwrap() - 100.0).abs() < 2.0,
        "{weighed}"
    );
    assert!(weighed["girth_weight_kg"].as_f64().unwrap() > 0.4);
}

#[rstest]
#[case(json!({"species": "pike"}), "species", "walleye")]
#[case(json!({"length_m": 0.0}), "length_m", "between 0.03 and 2.5 m")]
#[case(json!({"weight_kg": -1}), "weight_kg", "at most 80 kg")]
#[case(json!({"date": null}), "date", "give one")]
#[case(json!({"date": "30 June"}), "date", "is not a day like")]
#[case(json!({"rules": [{"topic": "lead", "source": "x"}]}), "rules[0].topic", "slot, daily")]
#[case(json!({"rules": [{"topic": "daily", "source": "x"}]}), "rules[0].most", "how many")]
#[case(json!({"rules": [{"topic": "slot", "source": "x"}]}), "rules[0].slot_from_m", "at least one length")]
fn a_fish_that_cannot_be_is_refused(
    #[case] changes: Value,
    #[case] field: &str,
    #[case] word: &str,
) {
    let refusal = on_the_board(&changes).unwrap_err();
    assert_eq!(refusal.field, field, "{}", refusal.message);
    assert!(refusal.message.contains(word), "{}", refusal.message);
}

const RIVERS: &str = include_str!("../../../motilis-core/tests/data/river_cases.jsonl");

/// A case of the reference without what is expected is a request; with ten rows its answer is at the reference's times.
#[test]
fn every_cast_of_the_reference_is_answered() {
    let mut count = 0;
    for (mut request, expected, _) in cases(RIVERS) {
        request["rows"] = json!(10);
        let answer = ask(What::River, &request);
        let is_chain = request["line"].is_object();
        let key = if is_chain {
            "t_x_y_z_through_water"
        } else {
            "t_x_y_z_through_water_tension"
        };
        let line = request["line_m"].as_f64().unwrap();
        let rows = answer["path"].as_array().unwrap();
        let theirs = expected[key].as_array().unwrap();
        assert_eq!(rows.len(), theirs.len());
        for (ours, theirs) in rows.iter().zip(theirs) {
            let off: f64 = (1..=3)
                .map(|axis| (ours[axis].as_f64().unwrap() - theirs[axis].as_f64().unwrap()).powi(2))
                .sum();
            let deep = (ours[3].as_f64().unwrap() - theirs[3].as_f64().unwrap()).abs();
            let (place, depth) = if is_chain { (0.05, 0.15) } else { (0.02, 0.03) };
            assert!(
                off.sqrt() < place * line,
                "{}: {ours} {theirs}",
                request["name"]
            );
            assert!(deep < depth, "{}: {ours} {theirs}", request["name"]);
            if !is_chain {
                let (a, b) = (ours[4].as_f64().unwrap(), theirs[4].as_f64().unwrap());
                assert!((a - b).abs() < (0.03 * b).max(0.03), "{ours} {theirs}");
            }
        }
        count += 1;
    }
    assert_eq!(count, 28);
}

fn run_of_cassel() -> Value {
    json!({
        "run": {"stations": [
            {"offset_m": 0, "depth_m": 0.4, "surface_mps": 0.4},
            {"offset_m": 10, "depth_m": 1.8, "surface_mps": 1.2},
            {"offset_m": 20, "depth_m": 0.9, "surface_mps": 0.8}
        ]},
        "water": {"temperature_c": 9},
        "angler": {"stand_m": 2, "rod_m": 2.7, "longest_m": 18, "on_reel_m": 120, "take_up_m": 0.7},
        "spool": {"material": "braid", "test_lb": 20},
        "rig": {
            "kind": "inline_torpedo",
            "mount": {"part": "wire", "style": "spring_wire", "size": 30},
            "pieces": [
                {"part": "clevis", "style": "folded", "size": 2},
                {"part": "blade", "style": "french", "size": 3},
                {"part": "bead", "style": "round", "size": 4},
                {"part": "body", "style": "torpedo", "size": 7},
                {"part": "hook", "style": "treble", "size": 6}
            ]
        },
        "cast": {"angle_deg": 110, "distance_m": 11, "held": "low", "reel_mps": 0.4}
    })
}

#[test]
fn a_river_is_asked_for_best_slowest_and_grid() {
    let mut request = run_of_cassel();
    let plain = ask(What::River, &request);
    assert_eq!(plain["path"].as_array().unwrap().len(), 51);
    let (discharge, sinks) = (&plain["discharge_m3s"], &plain["sink_speed_mps"]);
    assert!(discharge.as_f64().unwrap() > 10.0 && sinks.as_f64().unwrap() > 0.3);
    request["ask"] = json!("slowest");
    let slowest = ask(What::River, &request)["slowest_mps"].as_f64();
    assert!(slowest.is_some_and(|slowest| slowest < 2.0), "{slowest:?}");
    request["ask"] = json!("grid");
    request["school"] = json!("down_and_across");
    assert_eq!(
        ask(What::River, &request)["grid"].as_array().unwrap().len(),
        6
    );
    request["ask"] = json!("best");
    request["zone"] = json!({"lie_m": [3.0, 9.0, -1.3]});
    let best = ask(What::River, &request);
    assert!(best["zone_s"].as_f64().unwrap() > 0.5, "{best}");
    let plan = &best["best"];
    let turns = plan["turns_per_s"].as_f64().unwrap();
    let reel = plan["reel_mps"].as_f64().unwrap();
    assert!((turns - reel / 0.7).abs() < 1e-9);
    // The cast that was found, asked for again, is as good as was said.
    request["ask"] = Value::Null;
    let mut cast = plan.clone();
    cast.as_object_mut().unwrap().remove("turns_per_s");
    request["cast"] = cast;
    assert_eq!(ask(What::River, &request)["zone_s"], best["zone_s"]);
}

#[rstest]
#[case::no_depth(json!({"run": {"stations": [{"offset_m": 0, "depth_m": 0, "surface_mps": 1}, {"offset_m": 5, "depth_m": 1, "surface_mps": 1}, {"offset_m": 9, "depth_m": 1, "surface_mps": 1}]}}), "run.stations[0].depth_m", "between 0.05 and 15 m")]
#[case::a_torrent(json!({"run": {"stations": [{"offset_m": 0, "depth_m": 1, "surface_mps": 5}, {"offset_m": 5, "depth_m": 1, "surface_mps": 1}, {"offset_m": 9, "depth_m": 1, "surface_mps": 1}]}}), "run.stations[0].surface_mps", "between 0 and 4 m/s")]
#[case::one_station(json!({"run": {"stations": [{"offset_m": 0, "depth_m": 1, "surface_mps": 1}]}}), "run.stations", "three to seven stations")]
#[case::too_far(json!({"on_reel_m": 10}), "distance_m", "line on the reel")]
#[case::paid_out(json!({"cast": {"angle_deg": 90, "distance_m": 9, "reel_mps": -0.5}}), "reel_mps", "cannot be paid out")]
#[case::drowned(json!({"angler": null, "tip_height_m": -0.5, "cast": {"angle_deg": 90, "distance_m": 9}}), "tip_height_m", "over the water")]
#[case::ashore(json!({"cast": {"angle_deg": 90, "distance_m": 60}}), "start_m", "the water reaches")]
#[case::twice(json!({"stations": []}), "run", "once")]
#[case::nobody(json!({"angler": null, "tip_height_m": 1, "ask": "best"}), "angler", "stands somewhere")]
#[case::nothing_to_ask(json!({"ask": "luck"}), "ask", "`best`, `slowest` or `grid`")]
#[case::two_hands(json!({"tip_height_m": 1.0}), "angler", "leave `tip_height_m`")]
#[case::no_rows(json!({"rows": 0}), "rows", "between 1 and 2000")]
#[case::two_zones(json!({"zone": {"depth_m": 1, "over_m": 1}}), "zone", "one of")]
#[case::no_lure(json!({"rig": null}), "lure", "once")]
fn a_cast_that_cannot_be_is_answered_by_its_field(
    #[case] change: Value,
    #[case] field: &str,
    #[case] says: &str,
) {
    let mut request = run_of_cassel();
    for (key, value) in change.as_object().unwrap() {
        request[key] = value.clone();
    }
    let (refused, message) = refusal(What::River, &request.to_string());
    assert_eq!(refused, field, "{message}");
    assert!(message.contains(says), "{message}");
}
