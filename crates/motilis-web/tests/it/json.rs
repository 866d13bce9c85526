//! The JSON interface gives what the command line gives.

use crate::server::TestServer;
use motilis_solve::What;
use rstest::rstest;

const TOWLINES: &str = include_str!("../../../motilis-core/tests/data/towline_cases.jsonl");

/// A reference line without what is expected of it.
fn request() -> String {
    let mut case: serde_json::Value =
        serde_json::from_str(TOWLINES.lines().next().unwrap()).unwrap();
    let fields = case.as_object_mut().unwrap();
    fields.remove("expected");
    fields.remove("inverse");
    case.to_string()
}

#[test]
fn an_answer_is_the_command_lines_answer() {
    let server = TestServer::start();
    let page = server.send("/api/v1/solve/towline", &[], request().as_bytes());
    assert_eq!(page.status, 200);
    assert_eq!(page.headers["content-type"], "application/json");
    assert_eq!(
        page.body,
        What::Towline.answer(request().as_bytes()).unwrap()
    );
}

#[rstest]
#[case("/api/v1/solve/towline", "{}", 422, "\"field\":\"speed_mps\"")]
#[case("/api/v1/solve/blade", "not json", 422, "not one JSON object")]
#[case("/api/v1/solve/weather", "{}", 404, "there are towline, blade")]
#[case("/api/v1/nothing", "{}", 404, "\"error\"")]
fn a_refusal_is_json_too(
    #[case] path: &str,
    #[case] body: &str,
    #[case] status: u16,
    #[case] word: &str,
) {
    let server = TestServer::start();
    let page = server.send(path, &[], body.as_bytes());
    assert_eq!(page.status, status);
    assert!(page.body.contains(word), "{}", page.body);
    assert!(
        serde_json::from_str::<serde_json::Value>(&page.body).unwrap()["error"]["message"]
            .is_string()
    );
}

#[test]
fn the_document_is_served() {
    let server = TestServer::start();
    let page = server.get("/api/v1/openapi.json");
    let document: serde_json::Value = serde_json::from_str(&page.body).unwrap();
    assert!(document["paths"]["/api/v1/solve/blade"].is_object());
}

/// A figure goes by one name: that of its row is a column of the file or a name of the JSON interface, and the few that
/// are neither are only ever typed.
#[test]
fn every_figure_of_the_table_is_kept_or_sent_by_its_name() {
    const ONLY_TYPED: &[&str] = &[
        "across_m",
        "reel_turn_m",
        "along_m",
        "blade_lost_m",
        "bumper_m",
        "current_across_mps",
        "current_along_mps",
        "current_mps",
        "ground_down_mps",
        "ground_up_mps",
        "minutes",
        "set_deg",
        "shot_kg",
        "shot_lead_m",
        "swap_after_min",
        "time_seconds",
        "turns",
        "way_m",
    ];
    let server = TestServer::start();
    let interface = server.get("/api/v1/openapi.json").body;
    let columns: Vec<String> = server
        .store
        .read(|connection| {
            let mut statement = connection.prepare(
                "SELECT name FROM (SELECT DISTINCT column.name FROM sqlite_schema, pragma_table_info(sqlite_schema.name) AS column)",
            )?;
            let names = statement.query_map([], |row| row.get(0))?;
            Ok::<_, motilis_store::Error>(names.collect::<Result<_, _>>()?)
        })
        .unwrap();
    let mut wrong = Vec::new();
    for field in motilis_core::fields::ALL {
        let kept = columns.iter().any(|column| column == field.key);
        let sent = interface.contains(&format!("\"{}\"", field.key));
        let typed = ONLY_TYPED.contains(&field.key);
        if (kept || sent) == typed {
            wrong.push(field.key);
        }
    }
    assert_eq!(wrong, [""; 0]);
}
