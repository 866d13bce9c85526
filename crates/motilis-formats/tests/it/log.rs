//! The log as files: what cannot be is named by line and field, and nothing is read by halves.

use motilis_formats::{Format, LogRefusal, read_log};
use rstest::rstest;

const ENTRIES: &str = "kind,at_utc,outing_started_utc,water,speed_mps,tackle,out_m,note\n";

fn entry(line: &str) -> Vec<(String, String)> {
    let text = format!("{ENTRIES}{line}\n");
    let reading = read_log(text.as_bytes(), Format::Csv).unwrap();
    let record = reading.entries.into_iter().next().unwrap();
    assert_eq!(record.line, 2);
    let problems = record.what.err().unwrap_or_default().into_iter();
    problems
        .map(|problem| (problem.field, problem.message))
        .collect()
}

const SOUND: &str = "note,2026-06-04T11:00:00Z,2026-06-04T10:12:00Z,Lake Tamarin,0.5,,,fog lifts";

#[test]
fn a_note_with_the_fields_it_needs_is_an_entry() {
    assert_eq!(entry(SOUND), []);
}

#[rstest]
#[case("note", "nte", "kind", "is not one of strike, fish")]
#[case("2026-06-04T11:00:00Z", "yesterday", "at_utc", "write it like")]
#[case("0.5", "fast", "speed_mps", "“fast” cannot be")]
#[case("0.5", "50", "speed_mps", "between 0 and 4.5")]
#[case(",,fog", ",20,fog", "out_m", "a note has neither")]
fn what_cannot_be_is_named_by_its_field(
    #[case] from: &str,
    #[case] to: &str,
    #[case] field: &str,
    #[case] says: &str,
) {
    let wrong = SOUND.replacen(from, to, 1);
    assert_ne!(wrong, SOUND);
    let problems = entry(&wrong);
    let found = problems.iter().find(|(name, _)| name == field);
    let (_, message) = found.unwrap_or_else(|| panic!("{problems:?}"));
    assert!(message.contains(says), "{message}");
}

#[rstest]
#[case("", Format::Csv, "empty")]
#[case("a,b\n1,2\n", Format::Csv, "this is no log")]
#[case("kind,at_utc,colour\nnote,x,y\n", Format::Csv, "colour")]
#[case("{", Format::Json, "line 1")]
#[case(
    "{\"motilis_log\":7,\"outings\":[],\"passes\":[],\"entries\":[]}",
    Format::Json,
    "make 7"
)]
#[case(
    "{\"motilis_log\":1,\"outings\":[],\"passes\":[],\"entries\":[{\"kind\":4}]}",
    Format::Json,
    "entries[0].kind"
)]
#[case(
    "{\"motilis_log\":1,\"outings\":[{\"moon\":1}],\"passes\":[],\"entries\":[]}",
    Format::Json,
    "outings[0].moon"
)]
fn what_is_no_log_is_refused_in_a_sentence(
    #[case] text: &str,
    #[case] format: Format,
    #[case] says: &str,
) {
    let refusal = read_log(text.as_bytes(), format).unwrap_err().to_string();
    assert!(refusal.contains(says), "{refusal}");
}

#[test]
fn bytes_that_are_no_text_are_refused_by_their_place() {
    let refusal = read_log(b"kind\xff", Format::Csv).unwrap_err();
    assert_eq!(refusal, LogRefusal::NotText(5));
}

/// A pass that ends before it begins, or names nothing.
#[test]
fn a_pass_is_held_to_its_own_rules() {
    let text = "from_utc,to_utc,tackle,outing_started_utc,water\n\
        2026-06-04T11:00:00Z,2026-06-04T10:00:00Z,,2026-06-04T10:12:00Z,Lake Tamarin\n";
    let reading = read_log(text.as_bytes(), Format::Csv).unwrap();
    let problems = reading.passes[0].what.clone().unwrap_err();
    let fields: Vec<&str> = problems
        .iter()
        .map(|problem| problem.field.as_str())
        .collect();
    assert_eq!(fields, ["tackle", "to_utc"]);
}
