//! The quantities of every public signature, all SI, and the trade's units as SI values.
//!
//! A quantity is a bare `f64` with a name: `Metres(0.3)`. Feet, miles per hour and ounces exist
//! only as constants of those types, so a table of the trade reads `1.2 * MILE_PER_HOUR` and
//! cannot be mistaken for metres per second.
//!
//! # Source
//! NIST Special Publication 811 (2008), appendix B.8: the international foot 0.3048 m, the
//! statute mile 1 609.344 m, the nautical mile 1 852 m and the avoirdupois pound 0.453 592 37 kg,
//! all exact; standard gravity 9.806 65 m/s² (appendix B.8, exact).

use std::ops::{Add, Div, Mul, Neg, Sub};

macro_rules! quantities {
    ($($(#[$doc:meta])* $name:ident)*) => { $(
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Default)]
        pub struct $name(pub f64);

        impl Add for $name { type Output = Self; fn add(self, other: Self) -> Self { Self(self.0 + other.0) } }
        impl Sub for $name { type Output = Self; fn sub(self, other: Self) -> Self { Self(self.0 - other.0) } }
        impl Neg for $name { type Output = Self; fn neg(self) -> Self { Self(-self.0) } }
        impl Mul<f64> for $name { type Output = Self; fn mul(self, times: f64) -> Self { Self(self.0 * times) } }
        impl Mul<$name> for f64 { type Output = $name; fn mul(self, one: $name) -> $name { $name(self * one.0) } }
        impl Div for $name { type Output = f64; fn div(self, other: Self) -> f64 { self.0 / other.0 } }
    )* };
}

quantities! {
    /// A length, depth, height or distance, m.
    Metres
    /// An area, m².
    SquareMetres
    /// A speed, m/s.
    MetresPerSecond
    /// A mass, kg.
    Kilograms
    /// A density, kg/m³.
    KilogramsPerCubicMetre
    /// A force, tension or submerged weight, N.
    Newtons
    /// A submerged weight per length of line, N/m.
    NewtonsPerMetre
    /// A moment or torque, N·m.
    NewtonMetres
    /// An angle, rad.
    Radians
    /// A frequency or turn rate, 1/s.
    Hertz
    /// A temperature, °C.
    Celsius
    /// A kinematic viscosity, m²/s.
    SquareMetresPerSecond
    /// A salinity, grams of salt per kilogram of water.
    GramsPerKilogram
}

/// The international foot.
pub const FOOT: Metres = Metres(0.3048);
/// The international inch.
pub const INCH: Metres = Metres(0.0254);
/// One millimetre.
pub const MILLIMETRE: Metres = Metres(1e-3);
/// The statute mile.
pub const MILE: Metres = Metres(1_609.344);
/// One statute mile an hour.
pub const MILE_PER_HOUR: MetresPerSecond = MetresPerSecond(1_609.344 / 3_600.0);
/// One kilometre an hour.
pub const KILOMETRE_PER_HOUR: MetresPerSecond = MetresPerSecond(1.0 / 3.6);
/// One knot, a nautical mile an hour.
pub const KNOT: MetresPerSecond = MetresPerSecond(1_852.0 / 3_600.0);
/// The avoirdupois ounce, a sixteenth of the pound.
pub const OUNCE: Kilograms = Kilograms(0.453_592_37 / 16.0);
/// The avoirdupois pound.
pub const POUND: Kilograms = Kilograms(0.453_592_37);
/// One gram.
pub const GRAM: Kilograms = Kilograms(1e-3);

/// Standard gravity, m/s².
pub const GRAVITY: f64 = 9.806_65;

impl Celsius {
    /// The temperature that a Fahrenheit thermometer shows as `degrees`.
    pub fn from_fahrenheit(degrees: f64) -> Self {
        Self((degrees - 32.0) / 1.8)
    }

    /// What a Fahrenheit thermometer shows.
    pub fn fahrenheit(self) -> f64 {
        self.0 * 1.8 + 32.0
    }
}

impl Radians {
    /// The angle of so many degrees.
    pub fn from_degrees(degrees: f64) -> Self {
        Self(degrees.to_radians())
    }

    /// The angle in degrees.
    pub fn degrees(self) -> f64 {
        self.0.to_degrees()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;
    use rstest::rstest;

    // NIST SP 811, appendix B.8, exact factors.
    #[rstest]
    #[case::mile_per_hour(MILE_PER_HOUR.0, 0.447_04)]
    #[case::knot(KNOT.0, 0.514_444_444_444)]
    #[case::kilometre_per_hour(KILOMETRE_PER_HOUR.0, 0.277_777_777_778)]
    #[case::ounce(OUNCE.0, 0.028_349_523_125)]
    #[case::twelve_inches_make_a_foot(12.0 * INCH.0, FOOT.0)]
    #[case::sixteen_ounces_make_a_pound(16.0 * OUNCE.0, POUND.0)]
    fn trade_units_have_their_exact_si_value(#[case] ours: f64, #[case] published: f64) {
        assert_relative_eq!(ours, published, max_relative = 1e-11);
    }

    #[rstest]
    #[case(32.0, 0.0)]
    #[case(212.0, 100.0)]
    #[case(-40.0, -40.0)]
    fn fahrenheit_and_celsius_meet(#[case] fahrenheit: f64, #[case] celsius: f64) {
        assert_relative_eq!(
            Celsius::from_fahrenheit(fahrenheit).0,
            celsius,
            epsilon = 1e-12
        );
        assert_relative_eq!(Celsius(celsius).fahrenheit(), fahrenheit, epsilon = 1e-12);
    }

    #[test]
    fn arithmetic_keeps_the_quantity() {
        assert_relative_eq!((2.0 * FOOT + FOOT * 1.0 - FOOT).0, 0.6096, epsilon = 1e-12);
        assert_relative_eq!((3.0 * FOOT) / FOOT, 3.0, epsilon = 1e-12);
        assert_eq!(-Newtons(1.0), Newtons(-1.0));
    }
}
