use super::blade::outline;
use super::kit::{Path, Px};
use askama::Template;
use motilis_core::blade::{Blade, Running, State};
use motilis_core::rig::BaitSpin;
use motilis_core::units::{Hertz, Newtons};
use std::f64::consts::TAU;

const SIZE: f64 = 220.0;
const CENTRE: f64 = 0.5 * SIZE;
/// Radius of the sweep on the paper.
const SWEEP: f64 = 84.0;
/// How much slower than it turns the blade is drawn, so that the eye can follow.
pub const SLOWED: f64 = 6.0;

/// A blade seen along its shaft, as a fish behind it does; the script turns it at its computed rate, slowed.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/turning.svg")]
pub struct TurningBlade {
    face: Path,
    /// A second blade, half a turn on.
    second: bool,
    ghosts: Vec<u32>,
    colour: String,
    turns: f64,
    hanging: bool,
    sways: bool,
    title: String,
}

impl TurningBlade {
    /// A blade as it runs; `colour` is the class of its finish, `says` its text equivalent.
    pub fn new(blade: &Blade, count: u8, running: &Running, colour: &str, says: &str) -> Self {
        let radius = running.sweep_radius.0.max(1e-4);
        let scale = SWEEP / radius;
        let whole = outline(blade, scale);
        // Seen from behind, the length is foreshortened to the radius it sweeps.
        let wing = blade.family.is_wing();
        let face = if wing {
            whole.at(CENTRE - whole.hole.0, CENTRE - whole.hole.1)
        } else {
            let share = radius / blade.length.0;
            whole.foreshortened(share, CENTRE, CENTRE)
        };
        let turning = matches!(running.state, State::Turning | State::Swaying);
        Self {
            face,
            second: count == 2 && !wing,
            ghosts: if turning {
                if blade.family.sways() {
                    vec![50, 70, 110, 130]
                } else {
                    vec![60, 120, 240, 300]
                }
            } else {
                Vec::new()
            },
            colour: colour.to_owned(),
            turns: running.turns.0,
            hanging: !turning,
            sways: blade.family.sways(),
            title: says.to_owned(),
        }
    }
}

impl TurningBlade {
    /// A bait that spins, its free half out on the circle it sweeps.
    pub fn of_bait(spun: &BaitSpin, says: &str) -> Self {
        let scale = SWEEP / spun.radius.0.max(1e-4);
        let half = (0.5 * THICK * scale).clamp(5.0, 0.3 * SWEEP);
        let end = CENTRE + SWEEP;
        let mut face = Path::through([(Px(CENTRE), Px(CENTRE - half))]);
        face.push('H', &[Px(end - half)]);
        face.push('Q', &[Px(end), Px(CENTRE - half), Px(end), Px(CENTRE)]);
        face.push(
            'Q',
            &[
                Px(end),
                Px(CENTRE + half),
                Px(end - half),
                Px(CENTRE + half),
            ],
        );
        face.push('H', &[Px(CENTRE)]);
        Self {
            face: face.closed(),
            second: false,
            ghosts: vec![60, 120, 180, 240, 300],
            colour: "bait".to_owned(),
            turns: spun.turns.0,
            hanging: false,
            sways: false,
            title: says.to_owned(),
        }
    }
}

/// A worm across, m.
const THICK: f64 = 5e-3;

const WAVE: (f64, f64) = (300.0, 84.0);
/// Side force that fills the height, N: that of a large Colorado at full speed.
const LOUD: f64 = 0.6;

/// The push of a blade's beat on the water over one second.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/thump.svg")]
pub struct ThumpWave {
    wave: Path,
    title: String,
}

impl ThumpWave {
    /// The wave of a beat of so much push, so often a second.
    pub fn new(push: Newtons, beats: Hertz) -> Self {
        let (width, height) = WAVE;
        let middle = 0.5 * height;
        // The root keeps a small wing's wave to be seen beside a large Colorado's.
        let share = (push.0 / LOUD).clamp(0.0, 1.0).sqrt();
        let high = share * (middle - 12.0);
        let points = (0..=300).map(|i| {
            let at = f64::from(i) / 300.0;
            let y = middle - high * (TAU * beats.0 * at).sin();
            (Px(at * width), Px(y))
        });
        Self {
            wave: Path::through(points),
            title: format!(
                "Side push over one second: {:.1} beats of {:.2} N.",
                beats.0, push.0
            ),
        }
    }
}
