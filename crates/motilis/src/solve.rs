use motilis_solve::{Refusal, What};
use std::io::{BufRead, Read, Write, stdin, stdout};
use std::process::ExitCode;

/// Exit status of a request that was refused.
const REFUSED: u8 = 2;

/// `motilis solve WHAT [--lines]`
pub(crate) fn solve(what: &str, lines: bool) -> ExitCode {
    let Some(what) = What::from_name(what) else {
        let known: Vec<&str> = What::ALL.iter().map(|(name, _)| *name).collect();
        let message = format!(
            "there is nothing to solve under the name {what:?}; there are {}",
            known.join(", ")
        );
        return refuse(&Refusal::new("", message));
    };
    if lines { each_line(what) } else { one(what) }
}

fn one(what: What) -> ExitCode {
    let mut request = Vec::new();
    if let Err(error) = stdin().read_to_end(&mut request) {
        return refuse(&Refusal::new(
            "",
            format!("standard input cannot be read: {error}"),
        ));
    }
    match what.answer(&request) {
        Ok(answer) => {
            say!("{answer}");
            ExitCode::SUCCESS
        }
        Err(refusal) => refuse(&refusal),
    }
}

/// One answer for each line, in order; a refusal takes its line's place and the run goes on.
fn each_line(what: What) -> ExitCode {
    let mut out = std::io::BufWriter::new(stdout().lock());
    for line in stdin().lock().split(b'\n') {
        let answer = match line {
            Ok(line) if line.trim_ascii().is_empty() => continue,
            Ok(line) => what
                .answer(&line)
                .unwrap_or_else(|refusal| refusal.to_json()),
            Err(error) => {
                return refuse(&Refusal::new(
                    "",
                    format!("standard input cannot be read: {error}"),
                ));
            }
        };
        // A reader that closed its end has what it wanted.
        if writeln!(out, "{answer}").is_err() {
            return ExitCode::SUCCESS;
        }
    }
    match out.flush() {
        Ok(()) => ExitCode::SUCCESS,
        Err(_) => ExitCode::FAILURE,
    }
}

fn refuse(refusal: &Refusal) -> ExitCode {
    eprintln!("{}", refusal.to_json());
    ExitCode::from(REFUSED)
}
