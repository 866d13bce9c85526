use super::{Eye, Finish, Phases, Scene, Spectrum, dot, each, times};
use crate::error::{Error, Range};
use crate::numeric::root_within;
use rayon::prelude::*;
use std::array::from_fn;
use std::sync::OnceLock;

/// The nearest range looked at, m; below about twice that the answer means "only at the nose".
pub(super) const NEAREST: f64 = 0.05;

/// Ranges of the scan.
const SCAN: usize = 64;

const AREA: Range = Range::above(0.0, 1.0, "m2", "above 0 and at most 1 m2");
const FLASHES: Range = Range::closed(0.0, 200.0, "1/s", "between 0 and 200 flashes a second");
const GLOW: Range = Range::closed(
    0.0,
    100_000.0,
    "min",
    "between 0 and 100000 min since it was charged",
);

/// The lure the eye looks for.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Target {
    /// Area it shows on the mean over a turn, m².
    pub area: f64,
    /// Flashes a second; 0 slow enough to see every phase.
    pub flashes: f64,
    /// Minutes since its glow paint was charged.
    pub glow_min: f64,
}

impl Target {
    /// Area that a turning blade shows on the mean, m², by its length and width, m: its ellipse times the
    /// mean 2/π of a turn.
    pub fn turning(length: f64, width: f64) -> f64 {
        length * width / 2.0
    }

    /// Area of what does not turn: its ellipse, π/4 of length times width.
    pub fn still(length: f64, width: f64) -> f64 {
        std::f64::consts::FRAC_PI_4 * length * width
    }

    fn check(&self) -> Result<(), Error> {
        AREA.check("area", self.area)?;
        FLASHES.check("hz", self.flashes)?;
        GLOW.check("glow_min", self.glow_min)?;
        Ok(())
    }
}

/// How far a finish is seen, and how it then looks.
#[derive(Debug, Clone, PartialEq)]
pub struct Sighting {
    /// Range at which it is lost, m; 0 not seen at all.
    pub range: f64,
    /// The receptor that sees it farthest.
    pub receptor: &'static str,
    /// Colour distance from the water at half that range, in just noticeable steps.
    pub colour: f64,
}

/// Spread of a sighting distance: metres are good to perhaps a third (the beam's attenuation is inferred from a disk
/// reading through assumed shapes of absorption; see the module's limits).
const SPREAD: f64 = 0.25;

/// Ranges between which a sighting lies in eight cases of ten.
pub fn band_of(range: f64) -> (f64, f64) {
    let factor = (crate::towline::TENTH * SPREAD).exp();
    (range / factor, range * factor)
}

impl Sighting {
    /// Metres from which it is seen, up to a quarter more if it is also coloured; the weight of colour is
    /// designed for this project.
    pub fn score(&self) -> f64 {
        self.range * (1.0 + 0.25 * self.colour / (self.colour + 5.0))
    }
}

/// What a receptor catches of a target at no range, photons m⁻² s⁻¹ sr⁻¹.
#[derive(Debug, Clone, PartialEq)]
pub struct Catch {
    /// Its name.
    pub receptor: &'static str,
    /// Of the water behind.
    pub behind: f64,
    /// Of the whole finish, on the whole, bright and dark.
    pub seen: [f64; 3],
    /// Least contrast seen at one metre.
    pub threshold: f64,
}

impl Catch {
    /// Contrast with the water in the same three phases.
    pub fn contrast(&self) -> [f64; 3] {
        self.seen.map(|seen| seen / self.behind - 1.0)
    }
}

/// An eye in a scene.
#[derive(Debug, Clone)]
pub struct Watch {
    scene: Scene,
    eye: Eye,
    scan: Vec<Look>,
}

/// What is the same for every finish seen from a range.
#[derive(Debug, Clone)]
struct Look {
    range: f64,
    /// What each receptor catches of a difference, times the share of it that the path leaves, by band.
    weights: Vec<Spectrum>,
    /// Catch of the water behind, by receptor.
    behind: Vec<f64>,
}

/// A finish as an eye in a scene has it before it: what a target of any size and pace made of it is judged by.
#[derive(Debug, Clone)]
pub struct Shown {
    /// The whole, then its parts where it has several.
    patches: Vec<Patch>,
    /// For each range of the scan that was looked at the difference each receptor catches, by patch.
    scanned: Vec<OnceLock<Vec<[f64; 3]>>>,
}

/// A part of a finish: its share of the area, and its difference from the water.
#[derive(Debug, Clone)]
struct Patch {
    share: f64,
    differs: Phases,
}

impl Watch {
    /// An eye that looks at lures in a scene.
    pub fn new(scene: Scene, eye: Eye) -> Self {
        let mut watch = Self {
            scene,
            eye,
            scan: Vec::new(),
        };
        let span = watch.scene.farthest() / NEAREST;
        watch.scan = (0..SCAN)
            .map(|i| watch.look(NEAREST * span.powf(i as f64 / (SCAN - 1) as f64)))
            .collect();
        watch
    }

    /// The scene.
    pub fn scene(&self) -> &Scene {
        &self.scene
    }

    fn look(&self, range: f64) -> Look {
        let behind = self.scene.behind(range);
        let left = self.scene.beam.map(|c| (-c * range).exp());
        Look {
            range,
            weights: self
                .eye
                .receptors
                .iter()
                .map(|receptor| times(&left, &receptor.weight))
                .collect(),
            behind: self.caught(&behind),
        }
    }

    fn caught(&self, radiance: &Spectrum) -> Vec<f64> {
        self.eye
            .receptors
            .iter()
            .map(|receptor| dot(radiance, &receptor.weight))
            .collect()
    }

    /// How far a finish is seen.
    ///
    /// Duntley (1963), *J. Opt. Soc. Am.* 53:214: the difference decays with the beam attenuation along the
    /// path while the background is the one at the fish.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a target that cannot be.
    pub fn sighting(&self, finish: &Finish, target: &Target) -> Result<Sighting, Error> {
        target.check()?;
        self.sighting_of(&self.show(finish, target.glow_min), target)
    }

    /// A finish set before the eye; glow counts minutes since it was charged.
    pub fn show(&self, finish: &Finish, glow_min: f64) -> Shown {
        let parts = finish.parts_in(&self.scene, glow_min);
        let patch = |share, seen: &Phases| Patch {
            share,
            differs: from_fn(|phase| each(|band| seen[phase][band] - self.scene.background[band])),
        };
        let mut patches = vec![patch(1.0, &super::finish::whole(&parts))];
        if parts.len() > 1 {
            patches.extend(parts.iter().map(|(share, seen)| patch(*share, seen)));
        }
        Shown {
            scanned: vec![OnceLock::new(); self.scan.len()],
            patches,
        }
    }

    /// How far a target is seen whose finish is [`shown`](Self::show); its own minutes of glow are not read.
    ///
    /// # Errors
    /// As [`Self::sighting`].
    pub fn sighting_of(&self, shown: &Shown, target: &Target) -> Result<Sighting, Error> {
        target.check()?;
        let follows: Vec<f64> = self
            .eye
            .receptors
            .iter()
            .map(|receptor| receptor.follows(target.flashes))
            .collect();
        let seen = |look: &Look, caught: &[[f64; 3]], floor| {
            self.visibility(look, caught, shown, target.area, &follows, floor)
        };
        let (range, receptor) = self.lost(
            |at, floor| {
                let look = &self.scan[at];
                let caught = shown.scanned[at].get_or_init(|| caught_of(look, &shown.patches));
                seen(look, caught, floor)
            },
            |range| {
                let look = self.look(range);
                seen(&look, &caught_of(&look, &shown.patches), 0.0)
            },
        );
        Ok(Sighting {
            range,
            receptor: self.eye.receptors[receptor].name,
            colour: self.colour(&shown.patches[0], (range / 2.0).max(NEAREST)),
        })
    }

    /// Ranges, m, at which one target is lost that is in turn of each of several finishes; 0 for what cannot be seen.
    pub fn ranges(&self, shown: &[Shown], target: &Target) -> Vec<f64> {
        shown
            .par_iter()
            .map(|shown| {
                self.sighting_of(shown, target)
                    .map_or(0.0, |sighting| sighting.range)
            })
            .collect()
    }

    /// The last range at which it is seen, m, and the receptor that sees it there.
    ///
    /// - `scanned`: the receptor and visibility at a range of the scan, as far as it is above a floor.
    /// - `afresh`: the same at any range.
    fn lost(
        &self,
        scanned: impl Fn(usize, f64) -> (usize, f64),
        afresh: impl Fn(f64) -> (usize, f64),
    ) -> (f64, usize) {
        let seen = (0..self.scan.len())
            .rev()
            .map(|at| (at, scanned(at, 1.0)))
            .find(|(_, (_, visibility))| *visibility > 1.0);
        let Some((last, (receptor, near))) = seen else {
            return (0.0, scanned(0, 0.0).0);
        };
        let from = self.scan[last].range;
        let Some(beyond) = self.scan.get(last + 1) else {
            return (from, receptor);
        };
        let far = scanned(last + 1, 0.0).1;
        // To a ten-thousandth; visibility falls off nearly like an exponential, so its logarithm is straight.
        let mut tried = vec![(from, receptor)];
        let above = |range: f64| {
            let (receptor, visibility) = afresh(range);
            tried.push((range, receptor));
            visibility.ln()
        };
        let ends = ((from, near.ln()), (beyond.range, far.ln()));
        let range = root_within(above, ends, 1e-4 * from).unwrap_or(from);
        let at = tried.iter().find(|(at, _)| at.to_bits() == range.to_bits());
        (range, at.map_or(receptor, |(_, receptor)| *receptor))
    }

    /// The receptor to which it is most visible, and how much above the threshold; the first one and the floor where none is
    /// above that.
    fn visibility(
        &self,
        look: &Look,
        caught: &[[f64; 3]],
        shown: &Shown,
        area: f64,
        follows: &[f64],
        floor: f64,
    ) -> (usize, f64) {
        let mut best = (0, floor);
        let patches = shown.patches.len();
        for (i, receptor) in self.eye.receptors.iter().enumerate() {
            let behind = look.behind[i];
            if behind <= 0.0 {
                continue;
            }
            for (patch, [mean, bright, dark]) in shown.patches.iter().zip(&caught[i * patches..]) {
                let solid_angle = patch.share * area / look.range.powi(2);
                let flicker = |phase: f64| (mean + follows[i] * (phase - mean)).abs();
                let signal = mean.abs().max(flicker(*bright)).max(flicker(*dark));
                let contrast = signal / behind * receptor.filled(solid_angle);
                // No threshold is below the Weber fraction: most of what is too faint is so at a glance.
                if contrast <= best.1 * receptor.weber() {
                    continue;
                }
                let visibility = contrast / receptor.threshold(behind, solid_angle);
                if visibility > best.1 {
                    best = (i, visibility);
                }
            }
        }
        best
    }

    /// Colour distance between the mean of a finish and the water, seen from a range.
    fn colour(&self, whole: &Patch, range: f64) -> f64 {
        let behind = self.scene.behind(range);
        let left = self.scene.beam.map(|c| (-c * range).exp());
        let seen = each(|band| behind[band] + whole.differs[0][band] * left[band]);
        self.eye
            .colour_distance(&self.caught(&seen), &self.caught(&behind))
    }

    /// What each receptor catches of a finish at no range.
    pub fn catches(&self, finish: &Finish, target: &Target) -> Vec<Catch> {
        let whole = finish.seen_in(&self.scene, target.glow_min);
        let caught = whole.map(|phase| self.caught(&phase));
        let behind = self.caught(&self.scene.background);
        self.eye
            .receptors
            .iter()
            .enumerate()
            .map(|(i, receptor)| Catch {
                receptor: receptor.name,
                behind: behind[i],
                seen: from_fn(|phase| caught[phase][i]),
                threshold: receptor.threshold(behind[i], target.area),
            })
            .collect()
    }
}

/// What each receptor catches of the differences at a range, patch after patch.
fn caught_of(look: &Look, patches: &[Patch]) -> Vec<[f64; 3]> {
    look.weights
        .iter()
        .flat_map(|weight| {
            patches
                .iter()
                .map(move |patch| patch.differs.each_ref().map(|phase| dot(phase, weight)))
        })
        .collect()
}

/// All finishes by how well they are noticed, best first, with their index out of 100.
///
/// # Errors
/// [`Error::OutOfRange`] for a target that cannot be.
pub fn rank(watch: &Watch, target: &Target) -> Result<Vec<(&'static str, Sighting, f64)>, Error> {
    let mut ranked = Finish::names()
        .filter_map(Finish::from_name)
        .map(|finish| Ok((finish.name(), watch.sighting(&finish, target)?, 0.0)))
        .collect::<Result<Vec<_>, Error>>()?;
    ranked.sort_by(|a, b| b.1.score().total_cmp(&a.1.score()));
    let best = ranked
        .first()
        .map_or(0.0, |(_, sighting, _)| sighting.score());
    for (_, sighting, index) in &mut ranked {
        *index = if best > 0.0 {
            100.0 * sighting.score() / best
        } else {
            0.0
        };
    }
    Ok(ranked)
}
