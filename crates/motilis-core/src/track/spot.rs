use super::{Plane, Track};
use crate::book::plain_text;
use crate::error::Error;
use crate::evidence::{Entry, Pass, Record};
use crate::fields;
use crate::ids::WaterId;
use crate::units::Metres;
use jiff::Timestamp;

/// A place that has a name.
#[derive(Debug, Clone, PartialEq)]
pub struct Spot {
    /// On which water.
    pub water: WaterId,
    /// What it is called: "gravel point".
    pub name: String,
    /// Latitude of its middle, degrees north.
    pub latitude: f64,
    /// Longitude of its middle, degrees east.
    pub longitude: f64,
    /// How far it reaches.
    pub radius: Metres,
    /// Depth of the water there, where it is known.
    pub depth: Option<Metres>,
    /// What is there, in a few words: "break from 15 to 30 ft".
    pub structure: String,
}

impl Spot {
    /// Whether every figure can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        if self.name.trim().is_empty() {
            return Err(Error::contradiction(
                "name",
                "a spot needs a name; give the one you use, such as gravel point",
            ));
        }
        plain_text("name", &self.name, 40)?;
        plain_text("structure", &self.structure, 80)?;
        fields::LATITUDE.check(self.latitude)?;
        fields::LONGITUDE.check(self.longitude)?;
        fields::SPOT_RADIUS.check(self.radius.0)?;
        if let Some(depth) = self.depth {
            fields::SPOT_DEPTH.check(depth.0)?;
        }
        Ok(())
    }

    /// Whether a place lies within its reach.
    pub fn holds(&self, latitude: f64, longitude: f64) -> bool {
        let (east, north) = Plane::at(self.latitude, self.longitude).place(latitude, longitude);
        east.hypot(north) <= self.radius.0
    }
}

/// What was fished at a spot.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct At {
    /// Fish and rod-hours there.
    pub record: Record,
    /// Strikes that did not hook.
    pub strikes: u32,
}

/// Seconds of a track that count at most for one step: over a longer gap nobody knows where the boat was.
const STEP: f64 = 60.0;

/// Fish and rod-hours within a spot's reach on an outing with a track: each step of the track counts where its middle
/// lies, for every rod that was out then; each entry where the track was at its time.
pub fn at_spot(
    spot: &Spot,
    track: &Track,
    passes: &[Pass],
    entries: &[Entry],
    end: Timestamp,
) -> At {
    let plane = Plane::at(spot.latitude, spot.longitude);
    let is_in = |(east, north): (f64, f64)| east.hypot(north) <= spot.radius.0;
    let mut sum = At::default();
    for pair in track.points().windows(2) {
        let seconds = pair[1].at.duration_since(pair[0].at).as_secs_f64();
        let [a, b] = [pair[0], pair[1]].map(|point| plane.place(point.latitude, point.longitude));
        let middle = (0.5 * (a.0 + b.0), 0.5 * (a.1 + b.1));
        if seconds > STEP || !is_in(middle) {
            continue;
        }
        let shared = |pass: &Pass| {
            let to = pass.to.unwrap_or(end).min(end).min(pair[1].at);
            to.duration_since(pass.from.max(pair[0].at))
                .as_secs_f64()
                .max(0.0)
        };
        sum.record.rod_hours += passes.iter().map(shared).sum::<f64>() / 3_600.0;
    }
    for entry in entries.iter().filter(|entry| entry.at <= end) {
        let there = track.fix(entry.at);
        if there.is_some_and(|fix| is_in(plane.place(fix.latitude, fix.longitude))) {
            sum.record.fish += u32::from(entry.fish);
            sum.strikes += u32::from(entry.strike);
        }
    }
    sum
}

#[cfg(test)]
mod tests {
    use super::super::tests::{at, north};
    use super::*;
    use crate::evidence::Ran;
    use crate::ids::RigId;
    use crate::spread::Tackle;
    use approx::assert_abs_diff_eq;

    fn spot(north: f64, radius: f64) -> Spot {
        let (latitude, longitude) = Plane::at(50.42, -95.61).back(0.0, north);
        Spot {
            water: WaterId(1),
            name: "gravel point".into(),
            latitude,
            longitude,
            radius: Metres(radius),
            depth: None,
            structure: String::new(),
        }
    }

    fn pass(from: i64, to: Option<i64>) -> Pass {
        Pass {
            rod: Some(1),
            tackle: Tackle::Rig(RigId(1)),
            from: at(from),
            to: to.map(at),
            ran: Ran::default(),
        }
    }

    fn fish(second: i64) -> Entry {
        Entry {
            rod: Some(1),
            tackle: None,
            at: at(second),
            entered: at(second),
            fish: true,
            strike: false,
        }
    }

    /// At 1 m/s through a spot of 100 m radius: 200 s there, for each rod that is out.
    #[test]
    fn hours_at_a_spot_are_those_of_the_rods_that_were_out() {
        let track = north(1, 1_000);
        let passes = [pass(0, None), pass(400, Some(450)), pass(900, Some(950))];
        let entries = [fish(500), fish(700), fish(5_000)];
        let known = at_spot(&spot(500.0, 100.0), &track, &passes, &entries, at(1_000));
        assert_abs_diff_eq!(
            known.record.rod_hours,
            250.0 / 3_600.0,
            epsilon = 2.0 / 3_600.0
        );
        assert_eq!((known.record.fish, known.strikes), (1, 0));
        // Spots that cover all of it together hold all of it.
        let whole = at_spot(&spot(500.0, 600.0), &track, &passes, &entries, at(1_000));
        assert_abs_diff_eq!(whole.record.rod_hours, 1_100.0 / 3_600.0, epsilon = 1e-9);
        assert_eq!(whole.record.fish, 2);
    }

    #[test]
    fn a_spot_that_cannot_be_is_refused() {
        let field = |spot: Spot| spot.check().unwrap_err().quantity().to_owned();
        assert_eq!(spot(0.0, 50.0).check(), Ok(()));
        assert_eq!(field(spot(0.0, 0.0)), "radius_m");
        assert_eq!(
            field(Spot {
                name: " ".into(),
                ..spot(0.0, 50.0)
            }),
            "name"
        );
        assert_eq!(
            field(Spot {
                latitude: 91.0,
                ..spot(0.0, 50.0)
            }),
            "lat"
        );
        assert!(spot(0.0, 50.0).holds(50.42, -95.61));
        assert!(!spot(60.0, 50.0).holds(50.42, -95.61));
    }
}
