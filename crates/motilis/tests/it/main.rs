//! The program itself: its answers, its refusals, and what survives when it is killed.

mod acts;
mod boat;
mod files;
mod iron;
mod ride;
mod sheet;

use rstest::rstest;
use serde_json::Value;
use std::io::{BufRead, BufReader, Write};
use std::path::Path;
use std::process::{Child, Command, Output, Stdio};

fn motilis() -> Command {
    Command::new(env!("CARGO_BIN_EXE_motilis"))
}

fn solve(arguments: &[&str], request: &str) -> Output {
    let mut program = motilis()
        .arg("solve")
        .args(arguments)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    program
        .stdin
        .take()
        .unwrap()
        .write_all(request.as_bytes())
        .unwrap();
    program.wait_with_output().unwrap()
}

const BLADES: &str = include_str!("../../../motilis-core/tests/data/blade_cases.jsonl");

/// The reference blades as requests, with the state expected of each.
fn blades() -> Vec<(String, String)> {
    BLADES
        .lines()
        .map(|line| {
            let mut case: Value = serde_json::from_str(line).unwrap();
            let expected = case.as_object_mut().unwrap().remove("expected").unwrap();
            (
                case.to_string(),
                expected["state"].as_str().unwrap().to_owned(),
            )
        })
        .collect()
}

#[test]
fn one_request_is_answered() {
    let (request, state) = blades().remove(0);
    let output = solve(&["blade"], &request);
    assert_eq!(output.status.code(), Some(0));
    let answer: Value = serde_json::from_slice(&output.stdout).unwrap();
    assert_eq!(answer["state"], Value::String(state));
    assert_eq!(answer["name"], "colorado-00");
}

#[test]
fn lines_are_answered_in_order_and_a_bad_one_takes_its_place() {
    let blades = blades();
    let mut requests: Vec<String> = blades.iter().map(|(request, _)| request.clone()).collect();
    requests.insert(2, "{\"family\":\"spoon\"}".into());
    requests.insert(5, "nonsense".into());
    let output = solve(&["blade", "--lines"], &requests.join("\n"));
    assert_eq!(output.status.code(), Some(0));
    let answers: Vec<Value> = String::from_utf8(output.stdout)
        .unwrap()
        .lines()
        .map(|line| serde_json::from_str(line).unwrap())
        .collect();
    assert_eq!(answers.len(), blades.len() + 2);
    assert_eq!(answers[2]["error"]["field"], "length_m");
    assert_eq!(answers[5]["error"]["field"], "");
    let good = answers
        .iter()
        .filter(|answer| answer.get("error").is_none());
    for (answer, (_, state)) in good.zip(&blades) {
        assert_eq!(answer["state"], Value::String(state.clone()), "{answer}");
    }
}

#[rstest]
#[case(&["blade"], "{}", "family")]
#[case(&["towline"], "{\"speed_mps\":\"fast\"}", "speed_mps")]
#[case(&["towline"], "", "")]
#[case(&["weather"], "{}", "")]
fn a_refusal_is_one_object_on_standard_error(
    #[case] arguments: &[&str],
    #[case] request: &str,
    #[case] field: &str,
) {
    let output = solve(arguments, request);
    assert_eq!(output.status.code(), Some(2));
    assert!(output.stdout.is_empty());
    let refusal: Value = serde_json::from_slice(&output.stderr).unwrap();
    assert_eq!(refusal["error"]["field"], field);
    assert!(refusal["error"]["message"].as_str().unwrap().len() > 10);
}

/// The program on a data file; killed on drop, as the kernel would.
struct Running {
    process: Child,
    address: String,
}

impl Running {
    fn start(arguments: &[&str], data: &Path) -> Self {
        Self::start_with(arguments, data, &[])
    }

    fn start_with(arguments: &[&str], data: &Path, environment: &[(&str, &str)]) -> Self {
        let mut process = motilis()
            .envs(environment.iter().copied())
            .args(arguments)
            .args(["--listen", "127.0.0.1:0", "--data"])
            .arg(data)
            .stdout(Stdio::piped())
            .spawn()
            .unwrap();
        let mut first = String::new();
        BufReader::new(process.stdout.take().unwrap())
            .read_line(&mut first)
            .unwrap();
        let address = first.trim().rsplit(' ').next().unwrap().to_owned();
        assert!(
            address.starts_with("http://127.0.0.1:"),
            "it listens on {address:?}"
        );
        Self { process, address }
    }
}

impl Drop for Running {
    fn drop(&mut self) {
        // A test may have ended it already.
        let _ = self.process.kill();
        let _ = self.process.wait();
    }
}

#[test]
fn a_file_that_is_no_data_file_is_refused_with_a_sentence() {
    let folder = tempfile::tempdir().unwrap();
    let diary = folder.path().join("diary.txt");
    std::fs::write(
        &diary,
        "Dear diary, today the walleye did not bite, and tomorrow they may.",
    )
    .unwrap();
    let output = motilis()
        .args(["serve", "--listen", "127.0.0.1:0", "--data"])
        .arg(&diary)
        .output()
        .unwrap();
    assert_eq!(output.status.code(), Some(1));
    let said = String::from_utf8(output.stderr).unwrap();
    assert!(said.contains("is not a Motilis data file"), "{said}");
    assert!(
        std::fs::read_to_string(&diary)
            .unwrap()
            .starts_with("Dear diary")
    );
}
