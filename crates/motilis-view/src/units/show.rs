use super::{Quantity, System, Unit};
use motilis_core::units::{
    Celsius, FOOT, INCH, Kilograms, MILE, MILLIMETRE, Metres, MetresPerSecond,
};
use std::fmt;

/// A figure ready to be shown: value and unit apart, so that a page may set them in two sizes.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Figure {
    /// The value, rounded as the trade rounds it.
    pub value: String,
    /// The unit's symbol.
    pub unit: &'static str,
}

impl fmt::Display for Figure {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if self.unit.is_empty() {
            return f.write_str(&self.value);
        }
        write!(f, "{} {}", self.value, self.unit)
    }
}

impl Figure {
    /// The value as it stands in an input: plain digits with a point.
    pub fn typed(&self) -> String {
        self.value.replace('−', "-")
    }
}

impl System {
    /// A speed.
    pub fn speed(self, speed: MetresPerSecond) -> Figure {
        show(Quantity::Speed, speed.0, self)
    }

    /// A slow speed, to the hundredth.
    pub fn slow_speed(self, speed: MetresPerSecond) -> Figure {
        let unit = Quantity::Speed.unit(self);
        Figure {
            value: decimals(unit.from_si(speed.0), 2),
            unit: unit.symbol,
        }
    }

    /// How fast something sinks, to the hundredth: ft/s or m/s.
    pub fn sinking(self, speed: MetresPerSecond) -> String {
        match self {
            Self::Imperial => format!("{:.2} ft/s", speed.0 / FOOT.0),
            Self::Metric => format!("{:.2} m/s", speed.0),
        }
    }

    /// Two depths between which a third lies, without their unit.
    pub fn between(self, low: Metres, high: Metres) -> String {
        format!("{}–{}", self.depth(low).value, self.depth(high).value)
    }

    /// A depth, line out, or any distance on the water.
    pub fn depth(self, depth: Metres) -> Figure {
        show(Quantity::Depth, depth.0, self)
    }

    /// A depth of shallow water: metres to a hundredth.
    pub fn shallow(self, depth: Metres) -> Figure {
        match self {
            Self::Imperial => self.depth(depth),
            Self::Metric => Figure {
                value: decimals(depth.0, 2),
                unit: "m",
            },
        }
    }

    /// The unit of a way over ground: feet or metres, from a quarter of a mile or a kilometre on miles or kilometres.
    pub fn way_unit(self, length: Metres) -> Unit {
        match self {
            Self::Imperial if length < 0.25 * MILE => Quantity::Depth.unit(self),
            Self::Imperial => Unit::new("mi", MILE.0),
            Self::Metric if length.0 < 1_000.0 => Quantity::Depth.unit(self),
            Self::Metric => Unit::new("km", 1_000.0),
        }
    }

    /// A way over ground.
    pub fn way(self, length: Metres) -> Figure {
        let unit = self.way_unit(length);
        let places = if unit == Quantity::Depth.unit(self) {
            0
        } else {
            2
        };
        Figure {
            value: decimals(unit.from_si(length.0), places),
            unit: unit.symbol,
        }
    }

    /// The size of bait or forage: inches to a tenth, or whole millimetres.
    pub fn size(self, length: Metres) -> String {
        match self {
            Self::Imperial => format!("{} in", short(decimals(length / INCH, 1))),
            Self::Metric => format!("{} mm", decimals(length / MILLIMETRE, 0)),
        }
    }

    /// The length of a fish.
    pub fn length(self, length: Metres) -> Figure {
        show(Quantity::Length, length.0, self)
    }

    /// The same in quarters, for reading.
    pub fn length_in_fractions(self, length: Metres) -> Figure {
        show_fraction(Quantity::Length, length.0, self)
    }

    /// The mass of a weight in quarters, for reading.
    pub fn mass_in_fractions(self, mass: Kilograms) -> Figure {
        show_fraction(Quantity::Mass, mass.0, self)
    }

    /// The weight of a fish.
    pub fn fish_weight(self, weight: Kilograms) -> Figure {
        show(Quantity::FishMass, weight.0, self)
    }

    /// A temperature.
    pub fn temperature(self, temperature: Celsius) -> Figure {
        show(Quantity::Temperature, temperature.0, self)
    }

    /// A difference of temperatures, given in K.
    pub fn warmth(self, kelvin: f64) -> String {
        match self {
            Self::Imperial => format!("{:.0} °F", 1.8 * kelvin),
            Self::Metric => format!("{kelvin:.1} K"),
        }
    }

    /// A measure of the bench, in millimetres whatever the boat's units.
    pub fn measure(length: Metres) -> Figure {
        show(Quantity::Bench, length.0, Self::Metric)
    }
}

/// A figure in the boat's unit.
///
/// Speeds to a tenth, depths to the foot from 10 ft on and to a tenth below, metres to a tenth,
/// temperatures to the degree (half degrees Celsius to a tenth), inches and ounces to a hundredth
/// without idle zeros.
pub(crate) fn show(quantity: Quantity, si: f64, system: System) -> Figure {
    let unit = quantity.unit(system);
    let figure = unit.from_si(si);
    let value = match (quantity, system) {
        (Quantity::Speed, _) | (Quantity::Depth | Quantity::Temperature, System::Metric) => {
            decimals(figure, 1)
        }
        (Quantity::Depth, System::Imperial) if figure.abs() < 9.95 => short(decimals(figure, 1)),
        (Quantity::Depth | Quantity::Temperature, System::Imperial) => decimals(figure, 0),
        (Quantity::Length | Quantity::Mass, System::Imperial)
        | (Quantity::FishMass | Quantity::Bench | Quantity::PartMass | Quantity::Count, _) => {
            short(decimals(figure, 2))
        }
        (Quantity::Length, System::Metric) => short(decimals(figure, 1)),
        (Quantity::Mass, System::Metric) => short(decimals(figure, 0)),
    };
    Figure {
        value,
        unit: unit.symbol,
    }
}

/// The same with quarters as the trade writes them, `1½ oz`, `21¾ in`; for reading, not for an input.
fn show_fraction(quantity: Quantity, si: f64, system: System) -> Figure {
    let unit = quantity.unit(system);
    let figure = unit.from_si(si);
    let quarters = (figure * 4.0).round();
    if system == System::Metric || (figure * 4.0 - quarters).abs() > 0.04 {
        return show(quantity, si, system);
    }
    let sign = match quarters.rem_euclid(4.0) as u8 {
        1 => "¼",
        2 => "½",
        3 => "¾",
        _ => "",
    };
    let whole = (quarters / 4.0).floor();
    let value = if whole == 0.0 && !sign.is_empty() {
        sign.to_owned()
    } else {
        format!("{whole:.0}{sign}")
    };
    Figure {
        value,
        unit: unit.symbol,
    }
}

fn decimals(figure: f64, places: usize) -> String {
    let text = format!("{figure:.places$}");
    // Rounding may leave a minus before nothing.
    if text
        .trim_start_matches('-')
        .chars()
        .all(|c| c == '0' || c == '.')
    {
        return text.trim_start_matches('-').to_owned();
    }
    text.replace('-', "−")
}

/// Without idle zeros behind the point.
fn short(text: String) -> String {
    if !text.contains('.') {
        return text;
    }
    text.trim_end_matches('0').trim_end_matches('.').to_owned()
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case(Quantity::Speed, 0.536_448, "1.2 mph", "1.9 km/h")]
    #[case(Quantity::Depth, 6.7056, "22 ft", "6.7 m")]
    #[case(Quantity::Depth, 1.524, "5 ft", "1.5 m")]
    #[case(Quantity::Depth, 0.5, "1.6 ft", "0.5 m")]
    #[case(Quantity::Depth, -0.9144, "−3 ft", "−0.9 m")]
    #[case(Quantity::Depth, -0.001, "0 ft", "0.0 m")]
    #[case(Quantity::Length, 0.5461, "21.5 in", "54.6 cm")]
    #[case(Quantity::Mass, 0.042_524, "1.5 oz", "43 g")]
    #[case(Quantity::Temperature, 14.444, "58 °F", "14.4 °C")]
    fn figures_read_as_the_trade_rounds(
        #[case] quantity: Quantity,
        #[case] si: f64,
        #[case] imperial: &str,
        #[case] metric: &str,
    ) {
        assert_eq!(show(quantity, si, System::Imperial).to_string(), imperial);
        assert_eq!(show(quantity, si, System::Metric).to_string(), metric);
    }

    #[test]
    fn shallow_water_is_told_to_the_centimetre() {
        assert_eq!(System::Metric.shallow(Metres(1.284)).to_string(), "1.28 m");
        assert_eq!(
            System::Imperial.shallow(Metres(1.284)).to_string(),
            "4.2 ft"
        );
    }

    #[rstest]
    #[case(0.021_262, "¾ oz")]
    #[case(0.028_350, "1 oz")]
    #[case(0.042_524, "1½ oz")]
    #[case(0.030_000, "1.06 oz")]
    fn ounces_read_in_quarters_where_they_are(#[case] si: f64, #[case] shown: &str) {
        assert_eq!(
            show_fraction(Quantity::Mass, si, System::Imperial).to_string(),
            shown
        );
    }

    #[test]
    fn an_input_takes_back_what_it_shows() {
        assert_eq!(
            show(Quantity::Depth, -0.9144, System::Imperial).typed(),
            "-3"
        );
    }
}
