//! A spread in motion, as it is looked at when it was towed.

use super::frame;
use super::spread::{Computed, Paper, drawing};
use crate::forms::look::Look;
use crate::screens::{MotionScreen, Screen};
use crate::seen::Seen;
use crate::units::System;
use crate::words::spread as say;
use motilis_core::motion::{Course, Recording};
use motilis_helm::{Deck, Error};
use serde::Serialize;
use std::sync::Arc;

/// The replay's drawing: in turns lines swing out.
const PAPER: Paper = Paper {
    size: (1200.0, 620.0),
    room: 1.35,
};

/// How a run ended.
#[derive(Debug, Clone)]
pub enum Outcome {
    /// It is done.
    Done(Arc<Recording>),
    /// Somebody stopped it.
    Stopped,
    /// It could not be computed; the sentence says why.
    Refused(String),
}

/// The page of a run: under way (with the per cent done), stopped or done.
///
/// # Errors
/// [`Error::Core`] for a spread that cannot be computed.
pub fn motion(
    deck: &Seen<Deck<'_, '_>>,
    number: u64,
    course: &Course,
    outcome: Option<&Outcome>,
    percent: u32,
) -> Result<MotionScreen, Error> {
    let system = deck.device.system;
    let recording = match outcome {
        Some(Outcome::Done(recording)) => Some(recording),
        _ => None,
    };
    // A spread that was edited since has other lines: the run then no longer belongs to it.
    let lines = recording
        .and_then(|recording| recording.frames.first())
        .map(|frame| frame.lines.len());
    let fits = lines.is_none_or(|lines| lines == deck.saved.plan.rods.len());
    let stopped = match outcome {
        Some(Outcome::Stopped) => Some("The run was stopped.".to_owned()),
        Some(Outcome::Refused(sentence)) => Some(sentence.clone()),
        Some(Outcome::Done(_)) if !fits => {
            Some("The spread has other lines now; set it off again.".to_owned())
        }
        _ => None,
    };
    let computed = Computed::new(deck, deck.saved.plan.speed, None)?;
    let shown = recording.filter(|_| fits);
    let path = format!("/spread/{}/motion/{number}", deck.id.0);
    Ok(MotionScreen {
        frame: frame(Some(deck.here), Screen::Spread, deck.device, &path),
        id: deck.id.0,
        name: deck.saved.plan.name.clone(),
        run: number,
        course: say::course(course, system),
        percent: outcome.is_none().then_some(percent),
        stopped,
        drawing: shown
            .map(|_| drawing(deck, &computed, &Look::default(), None, PAPER))
            .transpose()?,
        last: shown.map_or(0, |recording| {
            (recording.frames.len() - 1) / one_of(recording)
        }),
        every_s: shown.map_or(0.0, |recording| {
            recording.every_s * one_of(recording) as f64
        }),
        rows: shown.map_or_else(Vec::new, |recording| {
            let rods = computed.spread.rods.iter().enumerate();
            rods.map(|(place, rod)| {
                let (mark, told) = say::happened(recording, place, system);
                (place + 1, rod.towed.name().to_owned(), mark, told)
            })
            .collect()
        }),
    })
}

/// A frame for the script that draws it: a line is points, depth, state, mark.
#[derive(Debug, Serialize)]
pub struct Frame {
    boat: String,
    lines: Vec<LineJson>,
}

#[derive(Debug, Serialize)]
struct LineJson {
    points: Vec<[f64; 3]>,
    depth: String,
    mark: &'static str,
    says: &'static str,
}

/// Frames and points that are sent at most: an hour of twelve rods is drawn from a megabyte.
const FRAMES: usize = 600;
const POINTS: usize = 48_000;

/// Of how many frames one is sent.
fn one_of(recording: &Recording) -> usize {
    recording.frames.len().div_ceil(FRAMES).max(1)
}

/// So many points of a line, evenly, with both its ends.
fn thinned(points: &[[f64; 3]], most: usize) -> impl Iterator<Item = &[f64; 3]> {
    let count = points.len().min(most.max(2));
    let last = points.len().saturating_sub(1);
    (0..count).map(move |place| &points[(place * last).checked_div(count - 1).unwrap_or(0)])
}

/// The frames of a run for the script that draws them; of a long one not every frame, and of many lines not every point.
pub fn frames(recording: &Recording, system: System) -> Vec<Frame> {
    let each = one_of(recording);
    let lines: usize = recording
        .frames
        .iter()
        .step_by(each)
        .map(|frame| frame.lines.len())
        .sum();
    let most = POINTS / lines.max(1);
    let rounded = |point: &[f64; 3]| point.map(|figure| (figure * 100.0).round() / 100.0);
    let turned = |degrees: f64| {
        if degrees < -0.5 {
            "to port"
        } else if degrees > 0.5 {
            "to starboard"
        } else {
            "off its course"
        }
    };
    let drawn = |frame: &motilis_core::motion::Frame| Frame {
        boat: format!(
            "boat {}, {:.0}° {}",
            system.speed(frame.speed),
            frame.heading_deg.abs(),
            turned(frame.heading_deg)
        ),
        lines: frame
            .lines
            .iter()
            .enumerate()
            .map(|(place, line)| {
                let near = frame
                    .near
                    .iter()
                    .any(|near| near.lines.0 == place || near.lines.1 == place);
                let (mark, says) = said(line, near);
                LineJson {
                    points: thinned(&line.points, most).map(rounded).collect(),
                    depth: system.depth(line.depth).to_string(),
                    mark,
                    says,
                }
            })
            .collect(),
    };
    recording.frames.iter().step_by(each).map(drawn).collect()
}

fn said(line: &motilis_core::motion::LineFrame, near: bool) -> (&'static str, &'static str) {
    use motilis_core::spread::State;
    if line.on_bottom {
        return ("cannot", "on bottom");
    }
    match line.state {
        State::Stalled => ("cannot", "stalled"),
        State::RollingOver => ("cannot", "rolling over"),
        State::TooSlow => ("cannot", "too slow"),
        State::TooFast => ("cannot", "too fast"),
        State::Works if near => ("watch", "near a line"),
        State::Works => ("works", "fishing"),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use motilis_core::motion::{Frame as Drawn, LineFrame};
    use motilis_core::spread::State;
    use motilis_core::units::{Metres, MetresPerSecond};
    use rstest::rstest;

    fn recording(seconds: usize, lines: usize) -> Recording {
        let line = |at: usize| LineFrame {
            points: (0..40)
                .map(|place: i32| [-123.456 - f64::from(place), 12.345, 6.789 + at as f64 / 1e3])
                .collect(),
            depth: Metres(6.0),
            speed: MetresPerSecond(0.54),
            state: State::Works,
            on_bottom: false,
        };
        let frame = |at: usize| Drawn {
            at_s: at as f64,
            speed: MetresPerSecond(0.54),
            boat: [0.0; 2],
            heading_deg: 0.0,
            lines: (0..lines).map(|_| line(at)).collect(),
            near: Vec::new(),
        };
        Recording {
            every_s: 1.0,
            frames: (0..=seconds).map(frame).collect(),
        }
    }

    #[rstest]
    #[case::a_minute_of_four(60, 4, 61, 40)]
    #[case::an_hour_of_four(3_600, 4, 515, 23)]
    #[case::an_hour_of_twelve(3_600, 12, 515, 7)]
    fn an_hour_is_drawn_from_a_megabyte(
        #[case] seconds: usize,
        #[case] lines: usize,
        #[case] sent: usize,
        #[case] points: usize,
    ) {
        let recording = recording(seconds, lines);
        let frames = frames(&recording, System::Imperial);
        assert_eq!(
            (frames.len(), frames[0].lines[0].points.len()),
            (sent, points)
        );
        assert_eq!((recording.frames.len() - 1) / one_of(&recording), sent - 1);
        let first = &recording.frames[0].lines[0].points;
        let ends = frames[0].lines[0].points.iter();
        assert!((ends.clone().next().unwrap()[0] - first[0][0]).abs() < 0.01);
        assert!((ends.last().unwrap()[0] - first[39][0]).abs() < 0.01);
        let bytes = serde_json::to_vec(&frames).unwrap().len();
        assert!(bytes < 1_500_000, "{bytes}");
    }
}
