//! Figures of the light model in words.

use crate::units::System;
use crate::words::advice::distance;
use motilis_core::light::Claim;
use motilis_core::units::Metres;

/// The model's two figures of a claim with their situation: "copper 12.9 ft, silver 13.3 ft (tea, …)".
pub fn claim(claim: &Claim, system: System) -> String {
    let figure = |figure: f64| {
        if claim.unit == "m" {
            distance(Metres(figure), system)
        } else {
            format!("{figure:.2}")
        }
    };
    format!(
        "{} {}, {} {} ({})",
        lengths(claim.claimed_what, system),
        figure(claim.claimed),
        lengths(claim.other_what, system),
        figure(claim.other),
        lengths(claim.situation, system)
    )
}

/// A text with its lengths, metres in braces, in the boat's unit.
fn lengths(text: &str, system: System) -> String {
    let mut pieces = text.split(['{', '}']);
    let mut said = pieces.next().unwrap_or_default().to_owned();
    while let (Some(metres), after) = (pieces.next(), pieces.next().unwrap_or_default()) {
        let length = metres.parse().map_or_else(
            |_| metres.to_owned(),
            |metres| system.depth(Metres(metres)).to_string(),
        );
        said.push_str(&length);
        said.push_str(after);
    }
    said
}

/// Light in lux, in two figures.
pub fn lux(lux: f64) -> String {
    match lux {
        bright if bright >= 1_000.0 => format!("{:.0} 000 lux", bright / 1_000.0),
        plain if plain >= 10.0 => format!("{plain:.0} lux"),
        dim if dim >= 0.01 => format!("{dim:.2} lux"),
        dark => format!("{dark:.5} lux"),
    }
}

/// An altitude of the sun: "31° above the horizon".
pub fn altitude(degrees: f64) -> String {
    if degrees >= 0.0 {
        format!("{degrees:.0}° above the horizon")
    } else {
        format!("{:.0}° below the horizon", -degrees)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use motilis_core::light::claims;

    #[test]
    fn a_claim_speaks_in_the_units_of_the_boat() {
        for one in claims() {
            for system in [System::Imperial, System::Metric] {
                let said = claim(one, system);
                assert!(!said.contains(['{', '}']), "{said}");
                let other = if system == System::Imperial {
                    " m "
                } else {
                    " ft"
                };
                assert!(!said.contains(other), "{said}");
            }
        }
        let red = claims().iter().find(|one| one.id == "red_useless").unwrap();
        assert_eq!(
            claim(red, System::Metric),
            "red 12.8 m, white 16.5 m (clear, 15.0 m deep, walleye, level)"
        );
    }

    #[test]
    fn light_is_told_in_two_figures() {
        assert_eq!(lux(54_321.0), "54 000 lux");
        assert_eq!(lux(321.0), "321 lux");
        assert_eq!(lux(0.16), "0.16 lux");
        assert_eq!(altitude(-4.2), "4° below the horizon");
    }
}
