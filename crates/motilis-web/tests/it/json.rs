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
