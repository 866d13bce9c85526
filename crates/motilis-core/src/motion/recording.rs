use super::course::{Course, Track};
use super::tow::{LineFrame, Tow};
use crate::error::Error;
use crate::fields;
use crate::line::Surroundings;
use crate::spread::{NEAR, Point, Spread, closest};
use crate::units::{Metres, MetresPerSecond};
use std::ops::ControlFlow;

/// A step, s.
const STEP: f64 = 0.05;
/// A frame, s.
const EVERY: f64 = 0.5;

/// What is set in motion.
#[derive(Debug, Clone, Copy)]
pub struct Scene<'a> {
    /// The lines.
    pub spread: &'a Spread,
    /// Their water.
    pub surroundings: &'a Surroundings,
    /// What the boat does.
    pub course: Course,
    /// For how long.
    pub seconds: f64,
}

/// Two lines that come near each other.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Near {
    /// Which.
    pub lines: (usize, usize),
    /// How near.
    pub distance: Metres,
}

/// The spread at an instant.
#[derive(Debug, Clone, PartialEq)]
pub struct Frame {
    /// Seconds from the start.
    pub at_s: f64,
    /// Speed of the boat.
    pub speed: MetresPerSecond,
    /// Where it is, over the water.
    pub boat: [f64; 2],
    /// Its heading away from the one it began with, degrees to starboard.
    pub heading_deg: f64,
    /// Its lines, in the order of the rods.
    pub lines: Vec<LineFrame>,
    /// Lines nearer than [`NEAR`].
    pub near: Vec<Near>,
}

/// A spread in motion.
#[derive(Debug, Clone, PartialEq)]
pub struct Recording {
    /// Seconds from frame to frame.
    pub every_s: f64,
    /// The frames.
    pub frames: Vec<Frame>,
}

/// Tows a spread along a course. `progress` is told the share that is done and may stop it; then `None`.
///
/// # Errors
/// As [`Spread::check`] and [`Course::check`]; [`Error::OutOfRange`] for the time.
pub fn record(
    scene: &Scene<'_>,
    mut progress: impl FnMut(f64) -> ControlFlow<()>,
) -> Result<Option<Recording>, Error> {
    scene.course.check()?;
    fields::SECONDS.check(scene.seconds)?;
    let spread = scene.spread;
    let running = spread.running(scene.surroundings, None)?;
    if let Some(refusal) = running.lines.iter().find_map(|line| line.refused.clone()) {
        return Err(refusal);
    }
    let track = Track::new(&scene.course, spread.speed, scene.seconds, STEP);
    let mut tow = Tow::new(spread, scene.surroundings, running)?;
    let mut frames = Vec::new();
    let a_frame = (EVERY / STEP).round() as usize;
    for step in 0..=track.steps() {
        if step > 0 {
            tow.step(&track.at(step));
        }
        if step % a_frame == 0 {
            frames.push(frame(scene, &tow, &track, step));
            let done = step as f64 / track.steps() as f64;
            if progress(done).is_break() {
                return Ok(None);
            }
        }
    }
    Ok(Some(Recording {
        every_s: EVERY,
        frames,
    }))
}

fn frame(scene: &Scene<'_>, tow: &Tow, track: &Track, step: usize) -> Frame {
    let (boat, heading) = track.boat(step);
    let lines = 0..tow.count();
    let shown: Vec<LineFrame> = lines.map(|line| tow.line(line, &track.at(step))).collect();
    let mut near = Vec::new();
    for a in 0..shown.len() {
        for b in a + 1..shown.len() {
            let (a_points, b_points) = (wet(&shown[a].points), wet(&shown[b].points));
            let (distance, _) = closest(a_points, b_points);
            if distance < NEAR.0 && !scene.spread.share_a_cable(a, b) {
                near.push(Near {
                    lines: (a, b),
                    distance: Metres(distance),
                });
            }
        }
    }
    Frame {
        at_s: step as f64 * track.dt(),
        speed: track.speed(step),
        boat,
        heading_deg: heading.to_degrees(),
        lines: shown,
        near,
    }
}

/// The part of a line that is under water.
fn wet(points: &[Point]) -> &[Point] {
    let from = points.iter().position(|point| point[2] >= 0.0);
    &points[from.unwrap_or(0)..]
}
