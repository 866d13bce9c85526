//! The water column of a day: what each finish of the box looks like at a depth, to a diver and to the fish,
//! how far it is seen, and how that goes through the day.

use crate::advice::{Day, GLOW_MIN, paint};
use crate::error::Error;
use crate::light::{
    Exposure, Eye, FalseColours, Picture, Scene, Sighting, Target, Verdict, View, Watch,
};
use crate::rig::Finish;
use crate::sky::{Place, sun};
use crate::units::Metres;
use jiff::{SignedDuration, Timestamp};

/// A finish as it is seen at a depth.
#[derive(Debug, Clone, PartialEq)]
pub struct Seen {
    /// The finish.
    pub finish: Finish,
    /// How far it is seen.
    pub sighting: Sighting,
    /// As a diver's camera shows it.
    pub picture: Picture,
    /// As the fish's receptors divide it.
    pub fish: FalseColours,
}

/// The blade that finishes are compared on.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Blade {
    /// Area it shows on the mean over a turn, m².
    pub area: f64,
    /// Flashes a second.
    pub flashes: f64,
}

/// A number 4 Colorado at 1.2 mph: 25.5 by 20 mm, about four turns a second.
pub const COMPARED: Blade = Blade {
    area: 0.0255 * 0.020 / 2.0,
    flashes: 4.0,
};

impl Seen {
    /// A blade as an eye sees it.
    ///
    /// - `back`: the finish of its back where it differs.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a blade that cannot be.
    pub fn by(
        watch: &Watch,
        finish: Finish,
        back: Option<Finish>,
        blade: Blade,
    ) -> Result<Self, Error> {
        let (painted, target) = (paint(finish, back), blade.target());
        let sighting = watch.sighting(&painted, &target)?;
        let catches = watch.catches(&painted, &target);
        Ok(Self {
            finish,
            picture: Picture::of(&painted, watch.scene(), GLOW_MIN),
            fish: FalseColours::of(&catches, sighting.receptor == "rod"),
            sighting,
        })
    }
}

impl Blade {
    fn target(self) -> Target {
        Target {
            area: self.area,
            flashes: self.flashes,
            glow_min: GLOW_MIN,
        }
    }
}

/// Finishes at a depth, the most noticeable first; ties in the order given.
///
/// # Errors
/// [`Error::OutOfRange`] for conditions that cannot be.
pub fn seen_at(
    day: &Day,
    depth: Metres,
    view: View,
    finishes: &[Finish],
    blade: Blade,
) -> Result<Vec<Seen>, Error> {
    let scene = Scene::new(&day.daylight()?, &day.optics()?, depth.0, view)?;
    let watch = Watch::new(scene, Eye::of(day.fish.sight().viewer));
    let mut seen = finishes
        .iter()
        .map(|&finish| Seen::by(&watch, finish, None, blade))
        .collect::<Result<Vec<_>, Error>>()?;
    seen.sort_by(|a, b| b.sighting.score().total_cmp(&a.sighting.score()));
    Ok(seen)
}

/// One depth of the column as a camera shows it, sRGB 0–1.
#[derive(Debug, Clone, PartialEq)]
pub struct Rung {
    /// The water.
    pub water: [f64; 3],
    /// Each finish before it.
    pub finishes: Vec<[f64; 3]>,
}

/// Water and finishes at some depths as one camera shows them, set for white just under the surface.
///
/// # Errors
/// [`Error::OutOfRange`] for conditions that cannot be.
pub fn ladder(day: &Day, depths: &[Metres], finishes: &[Finish]) -> Result<Vec<Rung>, Error> {
    let (daylight, optics) = (day.daylight()?, day.optics()?);
    let scene = |depth: f64| Scene::new(&daylight, &optics, depth, View::Level);
    let exposure = Exposure::for_white(&scene(0.1)?);
    let painted: Vec<_> = finishes.iter().map(|&finish| paint(finish, None)).collect();
    depths
        .iter()
        .map(|depth| {
            let scene = scene(depth.0)?;
            let colours = painted
                .iter()
                .map(|finish| Picture::exposed(finish, &scene, GLOW_MIN, exposure).finish);
            Ok(Rung {
                water: Picture::of_water(&scene, exposure),
                finishes: colours.collect(),
            })
        })
        .collect()
}

/// Whether the sun rises and sets on a day.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Course {
    /// It rises and sets.
    RisesAndSets,
    /// It does not set.
    NeverSets,
    /// It does not rise.
    NeverRises,
}

/// The hours of a day between which there is light to speak of.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hours {
    /// Nautical dawn, or the day's beginning.
    pub from: Timestamp,
    /// Nautical dusk, or the day's end.
    pub to: Timestamp,
    /// What the sun does.
    pub course: Course,
}

/// Between which altitudes of the sun there is light to speak of, degrees.
const NAUTICAL: f64 = -12.0;
/// At which the sun rises and sets: its radius and refraction, degrees.
const HORIZON: f64 = -0.833;
/// Minutes between two looks at the sun.
const LOOKS: i64 = 10;

/// The hours of light of a day that begins at an instant and lasts to another.
///
/// # Errors
/// [`Error`] for years the sun's theory does not reach.
pub fn hours(place: Place, begins: Timestamp, ends: Timestamp) -> Result<Hours, Error> {
    let mut lit: Option<(Timestamp, Timestamp)> = None;
    let (mut up, mut down) = (false, false);
    let mut at = begins;
    while at <= ends {
        let altitude = sun(place, at)?.altitude;
        up |= altitude > HORIZON;
        down |= altitude <= HORIZON;
        if altitude > NAUTICAL {
            lit = Some((lit.map_or(at, |(from, _)| from), at));
        }
        at += SignedDuration::from_mins(LOOKS);
    }
    let (from, to) = lit.unwrap_or((begins, ends));
    Ok(Hours {
        from,
        to,
        course: match (up, down) {
            (true, false) => Course::NeverSets,
            (false, _) => Course::NeverRises,
            (true, true) => Course::RisesAndSets,
        },
    })
}

/// How far some finishes are seen through a day: for each instant the ranges in the order of the finishes.
///
/// - `day_at`: the conditions at an instant.
///
/// # Errors
/// [`Error::OutOfRange`] for conditions that cannot be.
pub fn over_the_day(
    instants: &[Timestamp],
    day_at: impl Fn(Timestamp) -> Result<Day, Error>,
    depth: Metres,
    view: View,
    finishes: &[Finish],
) -> Result<Vec<Vec<f64>>, Error> {
    let painted: Vec<_> = finishes.iter().map(|&finish| paint(finish, None)).collect();
    // The water stays what it is while the sun goes over it.
    let optics = instants
        .first()
        .map(|&at| day_at(at)?.optics())
        .transpose()?;
    let Some(optics) = optics else {
        return Ok(Vec::new());
    };
    instants
        .iter()
        .map(|&at| {
            let day = day_at(at)?;
            let scene = Scene::new(&day.daylight()?, &optics, depth.0, view)?;
            let watch = Watch::new(scene, Eye::of(day.fish.sight().viewer));
            painted
                .iter()
                .map(|finish| Ok(watch.sighting(finish, &COMPARED.target())?.range))
                .collect()
        })
        .collect()
}

/// How the saying that one finish beats another stands in the water of the day.
pub fn beats(claimed: &Seen, other: &Seen) -> Verdict {
    Verdict::on(claimed.sighting.range, other.sighting.range)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::rig::Colour;
    use rstest::rstest;

    fn place(latitude: f64) -> Place {
        Place::new(latitude, 20.0).unwrap()
    }

    fn day_of(latitude: f64, date: &str) -> Hours {
        let begins: Timestamp = format!("{date}T00:00:00Z").parse().unwrap();
        let ends = begins + SignedDuration::from_hours(24);
        hours(place(latitude), begins, ends).unwrap()
    }

    #[rstest]
    #[case::temperate(50.0, "2026-03-20", Course::RisesAndSets)]
    #[case::midnight_sun(75.0, "2026-06-21", Course::NeverSets)]
    #[case::polar_night(75.0, "2026-12-21", Course::NeverRises)]
    #[case::the_other_pole(-80.0, "2026-12-21", Course::NeverSets)]
    fn the_sun_has_its_course(#[case] latitude: f64, #[case] date: &str, #[case] course: Course) {
        let hours = day_of(latitude, date);
        assert_eq!(hours.course, course);
        assert!(hours.from < hours.to);
    }

    /// At the equinox day and night are equal, and nautical twilight adds 12° / (15° cos φ) hours at each end
    /// of a day near the equator.
    #[test]
    fn an_equinox_at_the_equator_has_its_hours() {
        let hours = day_of(0.0, "2026-03-20");
        let length = hours.to.duration_since(hours.from).as_secs_f64() / 3_600.0;
        assert!(
            (length - (12.0 + 2.0 * 12.0 / 15.0)).abs() < 0.4,
            "{length}"
        );
    }

    #[test]
    fn finishes_stand_in_the_order_of_their_reach() {
        let day = crate::advice::tests_support::summer();
        let finishes: Vec<Finish> = Colour::ALL.iter().map(|c| Finish::plain(*c)).collect();
        let seen = seen_at(&day, day.wanted_depth, View::Level, &finishes, COMPARED).unwrap();
        assert_eq!(seen.len(), finishes.len());
        assert!(seen.is_sorted_by(|a, b| a.sighting.score() >= b.sighting.score()));
        assert_eq!(beats(&seen[0], seen.last().unwrap()), Verdict::Agree);
        assert_eq!(beats(&seen[0], &seen[0]), Verdict::NoDifference);
    }

    #[test]
    fn the_column_darkens_with_depth() {
        let day = crate::advice::tests_support::summer();
        let depths: Vec<Metres> = (0..8).map(|i| Metres(0.1 + f64::from(i))).collect();
        let rungs = ladder(&day, &depths, &[Finish::plain(Colour::White)]).unwrap();
        let brightness = |colour: [f64; 3]| colour.iter().sum::<f64>();
        assert!(rungs.is_sorted_by(|a, b| brightness(a.water) > brightness(b.water)));
        assert!(rungs.is_sorted_by(|a, b| brightness(a.finishes[0]) > brightness(b.finishes[0])));
    }

    #[test]
    fn sight_follows_the_sun() {
        let day = crate::advice::tests_support::summer();
        let at = |hour: &str| -> Timestamp { format!("2026-06-21T{hour}:00:00Z").parse().unwrap() };
        let instants = [at("00"), at("12")];
        let day_at = |instant: Timestamp| {
            let mut day = day;
            day.overhead.sun_alt = if instant == at("12") { 50.0 } else { -30.0 };
            Ok(day)
        };
        let finishes = [Finish::plain(Colour::White), Finish::plain(Colour::Glow)];
        let ranges = over_the_day(&instants, day_at, Metres(4.0), View::Level, &finishes).unwrap();
        assert!(ranges[0][0] < ranges[1][0], "white is seen by day");
        assert!(ranges[0][1] > ranges[0][0], "glow is seen by night");
    }
}
