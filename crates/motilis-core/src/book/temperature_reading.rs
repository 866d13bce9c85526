use super::{OutingId, plain_text};
use crate::error::Error;
use crate::fields;
use crate::fish::Preferred;
use crate::units::{Celsius, Metres};
use jiff::Timestamp;

/// A temperature somebody read at a place.
#[derive(Debug, Clone, PartialEq)]
pub struct TemperatureReading {
    /// On which outing.
    pub outing: OutingId,
    /// Where: "east bay".
    pub place: String,
    /// When.
    pub at: Timestamp,
    /// How deep.
    pub depth: Metres,
    /// What was read.
    pub temperature: Celsius,
}

/// Readings within so much of the shallowest are of one layer.
const LAYER: Metres = Metres(1.5);

impl TemperatureReading {
    /// Whether every figure can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        if self.place.trim().is_empty() {
            return Err(Error::contradiction(
                "place",
                "a reading needs its place; give the name you use, such as east bay",
            ));
        }
        plain_text("place", &self.place, 40)?;
        crate::entry::check_clock("taken", self.at)?;
        fields::READING_DEPTH.check(self.depth.0)?;
        fields::TEMPERATURE.check(self.temperature.0)?;
        Ok(())
    }
}

/// Where to fish by the temperatures read: of the last reading at each place, those in one layer with the shallowest, the one
/// nearest to what the fish prefer; of equals the newest. In a cold spring that is the warmest bay (CP-29: common practice, no
/// source). `None` with fewer than two places.
pub fn best_place<'a>(
    readings: &'a [TemperatureReading],
    preferred: &Preferred,
) -> Option<BestPlace<'a>> {
    let is_last = |one: &&TemperatureReading| {
        let later = |other: &TemperatureReading| {
            same_place(one, other) && (other.at > one.at && same_layer(one, other))
        };
        !readings.iter().any(later)
    };
    let mut last: Vec<&TemperatureReading> = readings.iter().filter(is_last).collect();
    let shallowest = last.iter().map(|one| one.depth.0).reduce(f64::min)?;
    last.retain(|one| one.depth.0 <= shallowest + LAYER.0);
    last.sort_by(|a, b| {
        off(a.temperature, preferred)
            .total_cmp(&off(b.temperature, preferred))
            .then(b.at.cmp(&a.at))
    });
    let best = *last.first()?;
    let next = last.iter().find(|one| !same_place(one, best))?;
    Some(BestPlace {
        reading: best,
        by: (best.temperature.0 - next.temperature.0).abs(),
        warmest: best.temperature >= next.temperature,
        suits: off(best.temperature, preferred) <= 0.0,
    })
}

/// The place to fish by its temperature.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BestPlace<'a> {
    /// Its last reading.
    pub reading: &'a TemperatureReading,
    /// By how much it differs from the next best place, K.
    pub by: f64,
    /// Whether it is the warmer of the two.
    pub warmest: bool,
    /// Whether it lies in what the fish prefer.
    pub suits: bool,
}

fn same_place(a: &TemperatureReading, b: &TemperatureReading) -> bool {
    a.place.trim().eq_ignore_ascii_case(b.place.trim())
}

fn same_layer(a: &TemperatureReading, b: &TemperatureReading) -> bool {
    (a.depth - b.depth).0.abs() <= LAYER.0
}

/// How far a temperature lies from what is preferred, K.
fn off(temperature: Celsius, preferred: &Preferred) -> f64 {
    (preferred.from.0 - temperature.0)
        .max(temperature.0 - preferred.to.0)
        .max(0.0)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fish::Fish;
    use rstest::rstest;

    fn read(place: &str, minute: i64, feet: f64, fahrenheit: f64) -> TemperatureReading {
        TemperatureReading {
            outing: OutingId(1),
            place: place.into(),
            at: Timestamp::from_second(1_780_000_000 + 60 * minute).unwrap(),
            depth: feet * crate::units::FOOT,
            temperature: Celsius::from_fahrenheit(fahrenheit),
        }
    }

    /// CP-29: in spring with bays from 48 to 57 °F the warmest bay holds the biting fish (common practice, no source).
    #[test]
    fn in_spring_the_warmest_bay_is_named() {
        let bays = [
            read("main lake", 0, 2.0, 48.0),
            read("north bay", 30, 2.0, 53.0),
            read("reed bay", 60, 2.0, 57.0),
            read("reed bay, deep", 61, 20.0, 60.0),
        ];
        let best = best_place(&bays, &Fish::Walleye.preferred()).unwrap();
        assert_eq!(best.reading.place, "reed bay");
        assert!(best.warmest && !best.suits);
        assert!((best.by - 4.0 / 1.8).abs() < 1e-9);
    }

    #[test]
    fn the_last_reading_of_a_place_counts_and_one_place_is_no_choice() {
        let mut bays = vec![read("bay", 0, 2.0, 57.0), read("lake", 5, 2.0, 50.0)];
        let named = |bays: &[TemperatureReading]| {
            best_place(bays, &Fish::Walleye.preferred()).map(|best| best.reading.place.clone())
        };
        assert_eq!(named(&bays).as_deref(), Some("bay"));
        bays.push(read("Bay ", 90, 2.0, 49.0));
        assert_eq!(named(&bays).as_deref(), Some("lake"));
        assert_eq!(named(&bays[..1]), None);
        assert_eq!(named(&[]), None);
        // Cold-water fish in summer: the coolest.
        let warm = [read("bay", 0, 2.0, 72.0), read("inlet", 1, 2.0, 62.0)];
        let trout = Fish::BrookTrout.preferred();
        assert_eq!(best_place(&warm, &trout).unwrap().reading.place, "inlet");
    }

    #[rstest]
    #[case(TemperatureReading { place: " ".into(), ..read("x", 0, 2.0, 50.0) }, "place")]
    #[case(TemperatureReading { depth: Metres(-1.0), ..read("x", 0, 2.0, 50.0) }, "depth_m")]
    #[case(read("x", 0, 2.0, 250.0), "temperature_c")]
    fn a_reading_that_cannot_be_is_refused(
        #[case] reading: TemperatureReading,
        #[case] field: &str,
    ) {
        assert_eq!(reading.check().unwrap_err().quantity(), field);
    }
}
