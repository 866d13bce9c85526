//! The JSON questions against the reference files, and what they refuse.

use approx::assert_relative_eq;
use motilis_solve::{What, openapi};
use rstest::rstest;
use serde_json::{Value, json};

/// Expected results of independent libraries; see `motilis-core/tests/data/README.md`.
const TOWLINES: &str = include_str!("../../../motilis-core/tests/data/towline_cases.jsonl");
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
        let answer = ask(what, &request);
        assert_eq!(answer["name"], request["name"]);
        for (field, expected) in expected.as_object().unwrap() {
            assert_near(&request["name"], &answer[field], expected, field);
        }
    }
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
            assert!(
                schemas[format!("{schema}Answer")]["properties"][field].is_object(),
                "{field}"
            );
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
#[case::size("pieces", json!([{"part": "blade", "style": "colorado", "size": 9}]), "pieces[0].size", "it comes in 0, 1")]
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
