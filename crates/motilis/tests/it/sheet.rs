//! The tying sheet on paper, and the box as a file, by the program itself.

use crate::motilis;
use rstest::rstest;
use std::path::{Path, PathBuf};
use std::process::{Command, Output};

/// A data file with the demo in it.
fn demo() -> (tempfile::TempDir, PathBuf) {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("demo.db");
    let store = motilis_store::Store::open(&path).unwrap();
    motilis_demo::fill(&store, motilis_demo::SEED).unwrap();
    (folder, path)
}

fn run(arguments: &[&str], data: &Path) -> Output {
    motilis()
        .args(arguments)
        .arg("--data")
        .arg(data)
        .output()
        .unwrap()
}

/// A page as grey pixels: width, height, values.
fn rendered(pdf: &Path, dpi: u32) -> (usize, usize, Vec<u8>) {
    let grey = pdf.with_extension("");
    let status = Command::new("pdftoppm")
        .args(["-gray", "-singlefile", "-r", &dpi.to_string()])
        .arg(pdf)
        .arg(&grey)
        .status()
        .expect("pdftoppm is installed; `./test` does it");
    assert!(status.success());
    let bytes = std::fs::read(grey.with_extension("pgm")).unwrap();
    // "P5 width height 255" and then the pixels.
    let mut fields = bytes.splitn(4, u8::is_ascii_whitespace);
    let mut number = || {
        let field = fields.next().unwrap();
        std::str::from_utf8(field)
            .unwrap()
            .trim_start_matches("P5")
            .parse::<usize>()
            .unwrap_or(0)
    };
    let (_, width, height) = (number(), number(), number());
    let pixels = bytes[bytes.len() - width * height..].to_vec();
    (width, height, pixels)
}

/// Lengths of the longest dark runs of all rows, in pixels.
fn dark_runs((width, _, pixels): &(usize, usize, Vec<u8>)) -> Vec<usize> {
    let longest = |row: &[u8]| {
        let (mut best, mut run) = (0, 0);
        for grey in row {
            run = if *grey < 120 { run + 1 } else { 0 };
            best = best.max(run);
        }
        best
    };
    pixels.chunks(*width).map(longest).collect()
}

/// Printed, rendered and measured: 100 mm and 4 in are that long, within 0.3 mm.
#[rstest]
#[case("a4", 297.0, 210.0)]
#[case("letter", 279.4, 215.9)]
fn the_check_bars_measure_true_on_paper(
    #[case] paper: &str,
    #[case] width: f64,
    #[case] height: f64,
) {
    let (folder, data) = demo();
    let pdf = folder.path().join("sheet.pdf");
    let output = pdf.to_str().unwrap();
    let made = run(
        &[
            "export",
            "sheet",
            "Tamarin two-hook",
            "--pdf",
            "--paper",
            paper,
            "-o",
            output,
        ],
        &data,
    );
    assert!(
        made.status.success(),
        "{}",
        String::from_utf8_lossy(&made.stderr)
    );
    let dpi = 300;
    let page = rendered(&pdf, dpi);
    let mm = |pixels: usize| pixels as f64 * 25.4 / f64::from(dpi);
    assert!((mm(page.0) - width).abs() < 0.3 && (mm(page.1) - height).abs() < 0.3);
    let runs = dark_runs(&page);
    for wanted in [100.0, 101.6] {
        let nearest = runs
            .iter()
            .map(|run| (mm(*run) - wanted).abs())
            .fold(f64::INFINITY, f64::min);
        assert!(nearest < 0.3, "{wanted} mm is off by {nearest:.2} mm");
    }
}

#[test]
fn a_sheet_of_every_rig_can_be_printed() {
    let (folder, data) = demo();
    let out = folder.path().join("sheet.svg");
    for rig in 1..=40 {
        let made = run(
            &[
                "export",
                "sheet",
                &rig.to_string(),
                "-o",
                out.to_str().unwrap(),
            ],
            &data,
        );
        assert!(
            made.status.success(),
            "{rig}: {}",
            String::from_utf8_lossy(&made.stderr)
        );
        let svg = std::fs::read_to_string(&out).unwrap();
        assert!(svg.contains("100 mm") && !svg.contains("NaN"), "{rig}");
    }
}

#[test]
fn a_rig_or_paper_that_is_none_is_refused_with_those_there_are() {
    let (_folder, data) = demo();
    let refused = run(&["export", "sheet", "Kite"], &data);
    let says = String::from_utf8_lossy(&refused.stderr).into_owned();
    assert!(
        !refused.status.success() && says.contains("there are") && says.contains("Big thumper"),
        "{says}"
    );
    let refused = run(&["export", "sheet", "1", "--paper", "legal"], &data);
    assert!(String::from_utf8_lossy(&refused.stderr).contains("a4 and letter"));
    let nowhere = data.with_extension("none");
    let refused = run(&["export", "parts"], &nowhere);
    assert!(String::from_utf8_lossy(&refused.stderr).contains("there is no data file"));
    assert!(!nowhere.exists());
}

/// The log goes out as three tables, the same records as CSV and as JSON.
#[rstest]
#[case("log", "entered_utc", 700..1_500)]
#[case("passes", "rig_version", 500..2_000)]
#[case("fish", "species", 250..350)]
fn the_log_goes_out(
    #[case] table: &str,
    #[case] column: &str,
    #[case] count: std::ops::Range<usize>,
) {
    let (_folder, data) = demo();
    let csv = run(&["export", table], &data);
    assert!(
        csv.status.success(),
        "{}",
        String::from_utf8_lossy(&csv.stderr)
    );
    let csv = String::from_utf8(csv.stdout).unwrap();
    assert!(
        csv.lines()
            .next()
            .unwrap()
            .split(',')
            .any(|head| head == column)
    );
    let json = run(&["export", table, "--json"], &data);
    let json: serde_json::Value = serde_json::from_slice(&json.stdout).unwrap();
    // The log goes out whole: outings and passes beside its entries.
    let rows = json.get("entries").unwrap_or(&json).as_array().unwrap();
    assert!(count.contains(&rows.len()), "{} {table}", rows.len());
    assert_eq!(csv.lines().count(), rows.len() + 1);
    assert!(
        rows.iter()
            .all(|row| row[column] != serde_json::Value::Null)
    );
}

#[rstest]
#[case(&[], "box.csv")]
#[case(&["--json"], "box.json")]
fn parts_go_out_and_come_back(#[case] format: &[&str], #[case] name: &str) {
    let (folder, data) = demo();
    let file = folder.path().join(name);
    let path = file.to_str().unwrap();
    let mut arguments = vec!["export", "parts", "-o", path];
    arguments.extend(format);
    assert!(run(&arguments, &data).status.success());
    let first = std::fs::read_to_string(&file).unwrap();
    let back = run(&["import", "parts", path], &data);
    assert!(
        String::from_utf8_lossy(&back.stdout).contains("271 parts"),
        "{}",
        String::from_utf8_lossy(&back.stderr)
    );
    assert!(run(&arguments, &data).status.success());
    assert_eq!(std::fs::read_to_string(&file).unwrap(), first);

    let broken = first.replacen("colorado", "columbo", 1);
    std::fs::write(&file, broken).unwrap();
    let refused = run(&["import", "parts", path], &data);
    let says = String::from_utf8_lossy(&refused.stderr).into_owned();
    assert!(
        !refused.status.success() && says.contains("style:") && says.contains("is not imported"),
        "{says}"
    );
}
