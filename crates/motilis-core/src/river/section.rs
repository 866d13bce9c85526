use crate::error::{Error, Range};
use crate::fields;
use crate::motion::Flow;
use crate::units::{Metres, MetresPerSecond};

/// Speed over the whole depth as a share of that at the surface (Rantz and others 1982, from memory).
pub const SURFACE_COEFFICIENT: f64 = 0.85;
/// The usual root of the power law.
pub const EXPONENT: f64 = 6.0;

/// Friction of metal and hooks on stones; from memory.
const GRIP: f64 = 0.6;

const ROOT: Range = Range::closed(2.0, 12.0, "", "between 2 and 12");

/// Depth and surface speed at a distance from the angler's bank.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Station {
    /// Distance from the bank.
    pub offset: Metres,
    /// Depth of the water there.
    pub depth: Metres,
    /// Speed of the surface there.
    pub surface: MetresPerSecond,
}

/// How much water flows through a section, m³/s.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd)]
pub struct CubicMetresPerSecond(pub f64);

/// The water of a run: three to seven stations across it.
#[derive(Debug, Clone, PartialEq)]
pub struct Section {
    stations: Vec<Station>,
    exponent: f64,
    growth: f64,
}

impl Section {
    /// A section of stations in order from the angler's bank, with the root `m` of its power law.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field: fewer than three or more than seven stations, a
    /// depth or a speed that cannot be, stations that do not follow each other.
    pub fn new(stations: Vec<Station>, exponent: f64) -> Result<Self, Error> {
        if !(3..=7).contains(&stations.len()) {
            return Err(Error::contradiction(
                "stations",
                format!(
                    "a run has three to seven stations across; {} given",
                    stations.len()
                ),
            ));
        }
        for (place, station) in stations.iter().enumerate() {
            let path = format!("stations[{place}]");
            for (field, figure) in [
                (fields::STATION_OFFSET, station.offset.0),
                (fields::STATION_DEPTH, station.depth.0),
                (fields::STATION_SPEED, station.surface.0),
            ] {
                field.check(figure).map_err(|error| error.under(&path))?;
            }
        }
        for (place, pair) in stations.windows(2).enumerate() {
            if pair[1].offset <= pair[0].offset {
                return Err(Error::contradiction(
                    format!("stations[{}].offset_m", place + 1),
                    "the stations do not follow each other; give them in order from the bank, each farther out than the last",
                ));
            }
        }
        ROOT.check("profile_exponent", exponent)?;
        Ok(Self {
            stations,
            exponent,
            growth: 0.0,
        })
    }

    /// The same water with weed or wood that stands so high over its bed, where a lure stops.
    #[must_use]
    pub fn grown(self, growth: Metres) -> Self {
        Self {
            growth: growth.0,
            ..self
        }
    }

    /// Depth at which a lure is stopped: by the bed, or by what stands on it.
    pub fn floor(&self, across: Metres) -> Metres {
        Metres((self.depth(across).0 - self.growth).max(0.0))
    }

    /// Its stations, in order from the bank.
    pub fn stations(&self) -> &[Station] {
        &self.stations
    }

    /// Root of the power law.
    pub fn exponent(&self) -> f64 {
        self.exponent
    }

    /// Distance of its last station.
    pub fn width(&self) -> Metres {
        self.stations[self.stations.len() - 1].offset
    }

    /// A figure between the stations, linear; beyond them that of the last.
    fn between(&self, across: f64, figure: impl Fn(&Station) -> f64) -> f64 {
        let stations = &self.stations;
        let after = stations.partition_point(|station| station.offset.0 <= across);
        if after == 0 {
            return figure(&stations[0]);
        }
        let Some(far) = stations.get(after) else {
            return figure(&stations[after - 1]);
        };
        let near = &stations[after - 1];
        let share = (across - near.offset.0) / (far.offset - near.offset).0;
        figure(near) + (figure(far) - figure(near)) * share
    }

    /// Depth of the bed at a distance from the bank.
    pub fn depth(&self, across: Metres) -> Metres {
        Metres(self.between(across.0, |station| station.depth.0))
    }

    /// Speed of the surface at a distance from the bank.
    pub fn surface(&self, across: Metres) -> MetresPerSecond {
        MetresPerSecond(self.between(across.0, |station| station.surface.0))
    }

    /// Speed of the water at a distance from the bank and a depth; none at the bed and below.
    pub fn speed(&self, across: Metres, depth: Metres) -> MetresPerSecond {
        let left = 1.0 - depth.0.max(0.0) / self.depth(across).0;
        if left <= 0.0 {
            return MetresPerSecond(0.0);
        }
        self.surface(across) * left.powf(1.0 / self.exponent)
    }

    /// How much water flows through it: between two stations their mean depth times their mean speed.
    pub fn discharge(&self) -> CubicMetresPerSecond {
        let strips = self.stations.windows(2).map(|pair| {
            let width = (pair[1].offset - pair[0].offset).0;
            let depth = 0.5 * (pair[0].depth + pair[1].depth).0;
            let speed = 0.5 * (pair[0].surface + pair[1].surface).0;
            width * depth * SURFACE_COEFFICIENT * speed
        });
        CubicMetresPerSecond(strips.sum())
    }

    /// The same run with all its speeds in proportion.
    #[must_use]
    pub fn faster(&self, factor: f64) -> Self {
        let stations = self.stations.iter().map(|station| Station {
            surface: station.surface * factor,
            ..*station
        });
        Self {
            stations: stations.collect(),
            ..*self
        }
    }

    /// The deepest it gets.
    pub fn deepest(&self) -> Metres {
        let depths = self.stations.iter().map(|station| station.depth.0);
        Metres(depths.fold(0.0, f64::max))
    }

    /// The same water seen from the other bank.
    #[must_use]
    pub fn mirrored(&self) -> Self {
        let width = self.width();
        let stations = self.stations.iter().rev();
        let stations = stations.map(|station| Station {
            offset: width - station.offset,
            ..*station
        });
        Self {
            stations: stations.collect(),
            ..*self
        }
    }
}

impl Flow for Section {
    fn velocity(&self, place: [f64; 3], _: f64) -> [f64; 3] {
        let [_, across, depth] = place;
        [self.speed(Metres(across), Metres(depth)).0, 0.0, 0.0]
    }

    /// It flows along itself, and is the same all along: nothing that drifts in it is hurried.
    fn acceleration(&self, _: [f64; 3], _: f64) -> [f64; 3] {
        [0.0; 3]
    }

    fn bed(&self, place: [f64; 3]) -> f64 {
        self.floor(Metres(place[1])).0
    }

    fn grip(&self) -> f64 {
        GRIP
    }
}
