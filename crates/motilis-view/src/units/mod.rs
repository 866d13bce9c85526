//! The angler's units: one switch for what is shown, and a reader for what is typed.

mod entry;
mod show;

pub use entry::{Problem, Reader};
pub use show::Figure;
pub(crate) use show::show;

use motilis_core::units::{
    FOOT, GRAM, INCH, KILOMETRE_PER_HOUR, KNOT, MILE_PER_HOUR, OUNCE, POUND,
};

/// Which units a boat uses.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum System {
    /// Feet, miles per hour, ounces, °F.
    #[default]
    Imperial,
    /// Metres, kilometres per hour, grams, °C.
    Metric,
}

impl System {
    /// The name in the data file.
    pub fn key(self) -> &'static str {
        match self {
            Self::Imperial => "imperial",
            Self::Metric => "metric",
        }
    }

    /// The system of a key; imperial for anything else.
    pub fn from_key(key: &str) -> Self {
        if key == "metric" {
            Self::Metric
        } else {
            Self::Imperial
        }
    }

    /// The other one.
    pub fn other(self) -> Self {
        match self {
            Self::Imperial => Self::Metric,
            Self::Metric => Self::Imperial,
        }
    }
}

/// What a figure is a figure of, as far as its units go.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Quantity {
    /// Speed: mph or km/h.
    Speed,
    /// Depth, line out: ft or m, to a tenth where it matters.
    Depth,
    /// Length of a fish or a part: in or cm.
    Length,
    /// Mass of a weight: oz or g.
    Mass,
    /// A measure of the bench: mm, whatever the boat's units.
    Bench,
    /// Mass of a fish: lb or kg.
    FishMass,
    /// Mass of a part: g, whatever the boat's units.
    PartMass,
    /// A count, or money: no unit.
    Count,
    /// Temperature: °F or °C.
    Temperature,
}

/// A unit: its value in SI is `offset + factor · figure`.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Unit {
    /// As shown behind a figure.
    pub symbol: &'static str,
    factor: f64,
    offset: f64,
}

impl Unit {
    const fn new(symbol: &'static str, factor: f64) -> Self {
        Self {
            symbol,
            factor,
            offset: 0.0,
        }
    }

    /// From a figure in this unit to SI.
    pub fn to_si(&self, figure: f64) -> f64 {
        self.offset + self.factor * figure
    }

    /// From SI to a figure in this unit.
    pub fn from_si(&self, si: f64) -> f64 {
        (si - self.offset) / self.factor
    }
}

const FAHRENHEIT: Unit = Unit {
    symbol: "°F",
    factor: 1.0 / 1.8,
    offset: -32.0 / 1.8,
};
const CELSIUS: Unit = Unit::new("°C", 1.0);
const METRE: Unit = Unit::new("m", 1.0);

impl Quantity {
    /// The unit it is shown in.
    pub fn unit(self, system: System) -> Unit {
        match (self, system) {
            (Self::Speed, System::Imperial) => Unit::new("mph", MILE_PER_HOUR.0),
            (Self::Speed, System::Metric) => Unit::new("km/h", KILOMETRE_PER_HOUR.0),
            (Self::Depth, System::Imperial) => Unit::new("ft", FOOT.0),
            (Self::Depth, System::Metric) => METRE,
            (Self::Length, System::Imperial) => Unit::new("in", INCH.0),
            (Self::Length, System::Metric) => Unit::new("cm", 0.01),
            (Self::Mass, System::Imperial) => Unit::new("oz", OUNCE.0),
            (Self::Mass, System::Metric) | (Self::PartMass, _) => Unit::new("g", GRAM.0),
            (Self::FishMass, System::Imperial) => Unit::new("lb", POUND.0),
            (Self::FishMass, System::Metric) => Unit::new("kg", 1.0),
            (Self::Bench, _) => Unit::new("mm", 1e-3),
            (Self::Count, _) => Unit::new("", 1.0),
            (Self::Temperature, System::Imperial) => FAHRENHEIT,
            (Self::Temperature, System::Metric) => CELSIUS,
        }
    }

    /// The units it may be typed in, by what is written behind the figure, in lower case.
    fn typed_units(self) -> &'static [(&'static str, Unit)] {
        const SPEED: &[(&str, Unit)] = &[
            ("mph", Unit::new("mph", MILE_PER_HOUR.0)),
            ("kn", Unit::new("kn", KNOT.0)),
            ("km/h", Unit::new("km/h", KILOMETRE_PER_HOUR.0)),
            ("m/s", Unit::new("m/s", 1.0)),
            ("kt", Unit::new("kn", KNOT.0)),
            ("knots", Unit::new("kn", KNOT.0)),
            ("kmh", Unit::new("km/h", KILOMETRE_PER_HOUR.0)),
        ];
        const LENGTH: &[(&str, Unit)] = &[
            ("ft", Unit::new("ft", FOOT.0)),
            ("in", Unit::new("in", INCH.0)),
            ("m", METRE),
            ("cm", Unit::new("cm", 0.01)),
            ("mm", Unit::new("mm", 1e-3)),
            ("'", Unit::new("ft", FOOT.0)),
            ("\"", Unit::new("in", INCH.0)),
        ];
        const MASS: &[(&str, Unit)] = &[
            ("oz", Unit::new("oz", OUNCE.0)),
            ("g", Unit::new("g", GRAM.0)),
            ("lb", Unit::new("lb", POUND.0)),
            ("kg", Unit::new("kg", 1.0)),
        ];
        const TEMPERATURE: &[(&str, Unit)] = &[
            ("°f", FAHRENHEIT),
            ("°c", CELSIUS),
            ("f", FAHRENHEIT),
            ("c", CELSIUS),
        ];
        match self {
            Self::Speed => SPEED,
            Self::Depth | Self::Length | Self::Bench => LENGTH,
            Self::Mass | Self::PartMass | Self::FishMass => MASS,
            Self::Count => &[],
            Self::Temperature => TEMPERATURE,
        }
    }
}
