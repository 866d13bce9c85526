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
        last: shown.map_or(0, |recording| recording.frames.len() - 1),
        every_s: shown.map_or(0.0, |recording| recording.every_s),
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

/// The frames of a run for the script that draws them.
pub fn frames(recording: &Recording, system: System) -> Vec<Frame> {
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
                    points: line.points.iter().map(rounded).collect(),
                    depth: system.depth(line.depth).to_string(),
                    mark,
                    says,
                }
            })
            .collect(),
    };
    recording.frames.iter().map(drawn).collect()
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
