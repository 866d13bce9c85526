//! The figures of every model, pinned: `tests/golden/`, a file a subject. Each row is a place in the answer, the figure
//! with as many digits as it is held to, and what it is. Nothing outside the project is behind them: they notice that a
//! figure changes, and the change of its file is what is reviewed.
//!
//! A line without a tab-separated figure asks: what is asked, and the request.

use super::ask;
use motilis_solve::What;
use rstest::rstest;
use serde_json::Value;

/// A figure as the file writes it.
fn written(answer: &Value, like: &str) -> String {
    let digits = like.rsplit_once('.').map_or(0, |(_, digits)| digits.len());
    match answer.as_f64() {
        Some(figure) if answer.is_number() => format!("{figure:.digits$}"),
        _ => answer.to_string(),
    }
}

#[rstest]
#[case::towline(include_str!("../golden/towline.tsv"), 10)]
#[case::blade(include_str!("../golden/blade.tsv"), 16)]
#[case::rig(include_str!("../golden/rig.tsv"), 16)]
#[case::light(include_str!("../golden/light.tsv"), 15)]
#[case::matching(include_str!("../golden/match.tsv"), 34)]
#[case::spread(include_str!("../golden/spread.tsv"), 27)]
fn every_figure_is_the_one_that_was_reviewed(#[case] file: &str, #[case] rows: usize) {
    let mut answer = Value::Null;
    let (mut checked, mut moved) = (0, Vec::new());
    for line in file
        .lines()
        .filter(|line| !line.is_empty() && !line.starts_with('#'))
    {
        let fields: Vec<&str> = line.split('\t').collect();
        match fields[..] {
            [what, request] => {
                let what = What::from_name(what).unwrap();
                answer = ask(what, &serde_json::from_str(request).unwrap());
            }
            [place, figure, is] => {
                let now = answer
                    .pointer(place)
                    .unwrap_or_else(|| panic!("{place} in {answer}"));
                let now = written(now, figure);
                if now != figure {
                    moved.push(format!("{is} ({place}): {figure} is now {now}"));
                }
                checked += 1;
            }
            _ => panic!("{line}"),
        }
    }
    assert!(moved.is_empty(), "{}", moved.join("\n"));
    assert!(checked >= rows, "{checked}");
}
