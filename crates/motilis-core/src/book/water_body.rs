use super::plain_text;
use crate::error::Error;
use crate::fish::{Fish, Forage};
use crate::light::Stain;
use crate::sky::Place;
use crate::units::{Celsius, Metres};

/// A lake, river or sea area.
#[derive(Debug, Clone, PartialEq)]
pub struct WaterBody {
    /// Its name.
    pub name: String,
    /// Latitude, degrees north.
    pub latitude_deg: f64,
    /// Longitude, degrees east.
    pub longitude_deg: f64,
    /// Time zone, as the tz database names it.
    pub zone: String,
    /// Whether it is salt water.
    pub salt: bool,
    /// Whether it is a river or stream, fished by casting.
    pub river: bool,
    /// Depth at which a white disk is usually lost to sight.
    pub clarity: Metres,
    /// What usually colours it.
    pub stain: Stain,
    /// Fish that live in it.
    pub fish: Vec<Fish>,
    /// What they feed on.
    pub forage: Vec<Forage>,
}

impl WaterBody {
    /// Where it lies.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] off the globe.
    pub fn place(&self) -> Result<Place, Error> {
        Place::new(self.latitude_deg, self.longitude_deg)
    }

    /// The coldest it gets before it freezes (sea water: UNESCO 1983, from memory).
    pub fn freezes_at(&self) -> Celsius {
        Celsius(if self.salt { -1.9 } else { 0.0 })
    }

    /// Whether every figure can be, and they agree with each other.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        if self.name.trim().is_empty() {
            return Err(Error::contradiction(
                "name",
                "a water needs a name; give the one you use on the boat",
            ));
        }
        plain_text("name", &self.name, 60)?;
        self.place()?;
        self.stain
            .secchi_range()
            .check(crate::fields::CLARITY.key, self.clarity.0)
            .map(|_| ())
    }
}

#[cfg(test)]
pub(super) mod tests {
    use super::*;
    use rstest::rstest;

    pub(in crate::book) fn tamarin() -> WaterBody {
        WaterBody {
            name: "Lake Tamarin".into(),
            latitude_deg: 50.42,
            longitude_deg: -95.61,
            zone: "America/Winnipeg".into(),
            salt: false,
            river: false,
            clarity: Metres(2.1),
            stain: Stain::Tea,
            fish: vec![Fish::Walleye],
            forage: vec![Forage::YellowPerch],
        }
    }

    #[rstest]
    #[case(WaterBody { name: "  ".into(), ..tamarin() }, "name")]
    #[case(WaterBody { name: "=SUM(A1)".into(), ..tamarin() }, "name")]
    #[case(WaterBody { latitude_deg: 91.0, ..tamarin() }, "lat")]
    #[case(WaterBody { longitude_deg: f64::NAN, ..tamarin() }, "lon")]
    #[case(WaterBody { clarity: Metres(0.0), ..tamarin() }, "clarity_m")]
    fn a_water_that_cannot_be_is_refused(#[case] water: WaterBody, #[case] field: &str) {
        assert_eq!(water.check().unwrap_err().quantity(), field);
        assert_eq!(tamarin().check(), Ok(()));
    }
}
