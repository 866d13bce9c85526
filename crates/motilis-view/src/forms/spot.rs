//! The form of a spot.

use super::place::axis;
use super::{Texts, Typed, problem, text};
use crate::screens::{Field, SpotForm};
use crate::units::{Quantity, System};
use motilis_core::book::WaterId;
use motilis_core::fields;
use motilis_core::track::Spot;
use motilis_core::units::{FOOT, Metres};

const NAME: &str = "Name";
const STRUCTURE: &str = "What is there";

fn figures(radius: &str, depth: &str, system: System) -> [Typed; 2] {
    let figure =
        |asked, label, typed: &str| Typed::new(asked, label, (Quantity::Depth, system), typed);
    [
        figure(fields::SPOT_RADIUS, "Reaches", radius),
        figure(fields::SPOT_DEPTH, "Water’s depth, if known", depth),
    ]
}

fn form(name: Field, place: [Field; 2], figures: [Typed; 2], structure: Field) -> SpotForm {
    let [latitude, longitude] = place;
    let [radius, depth] = figures.map(|typed| typed.field);
    SpotForm {
        fields: vec![name, latitude, longitude, radius, depth, structure],
    }
}

fn axes(latitude: &str, longitude: &str) -> [(Field, Option<f64>); 2] {
    [
        axis(fields::LATITUDE, "Latitude", ['N', 'S'], latitude),
        axis(fields::LONGITUDE, "Longitude", ['E', 'W'], longitude),
    ]
}

/// The form with nothing typed but a place, where one is known.
pub fn blank(place: Option<(f64, f64)>, system: System) -> SpotForm {
    let mut figures = figures("", "", system);
    figures[0].fill((250.0 * FOOT).0);
    let degrees = |figure: Option<f64>| figure.map_or_else(String::new, |it| format!("{it:.5}"));
    let at = axes(
        &degrees(place.map(|(latitude, _)| latitude)),
        &degrees(place.map(|(_, longitude)| longitude)),
    );
    let at = at.map(|(field, _)| Field {
        problem: None,
        ..field
    });
    form(
        text("name", NAME, ""),
        at,
        figures,
        text("structure", STRUCTURE, ""),
    )
}

/// The form of a spot as it is.
pub fn shown(spot: &Spot, system: System) -> SpotForm {
    let mut figures = figures("", "", system);
    figures[0].fill(spot.radius.0);
    if let Some(depth) = spot.depth {
        figures[1].fill(depth.0);
    }
    let at = axes(&spot.latitude.to_string(), &spot.longitude.to_string());
    form(
        text("name", NAME, &spot.name),
        at.map(|(field, _)| field),
        figures,
        text("structure", STRUCTURE, &spot.structure),
    )
}

/// The spot that a form tells of.
///
/// # Errors
/// The form as it was typed, with a sentence beside each field that cannot be.
pub fn read(
    raw: &Texts,
    water: WaterId,
    kept: Option<&Spot>,
    system: System,
) -> Result<Spot, Box<SpotForm>> {
    let value = |name: &str| raw.get(name).map_or("", String::as_str);
    let mut name = text("name", NAME, value("name"));
    let mut structure = text("structure", STRUCTURE, value("structure"));
    let [(latitude_field, latitude), (longitude_field, longitude)] =
        axes(value(fields::LATITUDE.form), value(fields::LONGITUDE.form));
    let mut figures = figures(
        value(fields::SPOT_RADIUS.form),
        value(fields::SPOT_DEPTH.form),
        system,
    );
    let [radius, depth] = &mut figures;
    let mut reach = radius.or(75.0);
    let mut deep = depth.optional();
    if let Some(kept) = kept {
        reach = radius.unless_shown(kept.radius.0, reach);
        deep = deep.map(|typed| depth.unless_shown(kept.depth.map_or(typed, |it| it.0), typed));
    }
    let spot = Spot {
        water,
        name: value("name").trim().to_owned(),
        latitude: latitude.unwrap_or_default(),
        longitude: longitude.unwrap_or_default(),
        radius: Metres(reach),
        depth: deep.map(Metres),
        structure: value("structure").trim().to_owned(),
    };
    let read = latitude.is_some() && longitude.is_some();
    let sound = read && figures.iter().all(|typed| typed.field.problem.is_none());
    match spot.check() {
        Ok(()) if sound => return Ok(spot),
        Err(error) if error.quantity() == "name" => name.problem = Some(problem(&error)),
        Err(error) if error.quantity() == "structure" => structure.problem = Some(problem(&error)),
        _ => {}
    }
    Err(Box::new(form(
        name,
        [latitude_field, longitude_field],
        figures,
        structure,
    )))
}

#[cfg(test)]
mod tests {
    use super::*;
    use motilis_helm::Error;
    use rstest::rstest;

    fn typed(name: &str, latitude: &str, radius: &str) -> Texts {
        [
            ("name", name),
            ("latitude", latitude),
            ("longitude", "95 36.6 W"),
            ("spot_radius", radius),
            ("spot_depth", ""),
            ("structure", "break"),
        ]
        .map(|(name, value)| (name.to_owned(), value.to_owned()))
        .into()
    }

    #[rstest]
    #[case("bay", "50.42", "250", None)]
    #[case(" ", "50.42", "250", Some("name"))]
    #[case("bay", "fifty", "250", Some("latitude"))]
    #[case("bay", "50.42", "1", Some("spot_radius"))]
    fn a_spot_is_read_or_says_where_it_is_wrong(
        #[case] name: &str,
        #[case] latitude: &str,
        #[case] radius: &str,
        #[case] wrong: Option<&str>,
    ) -> Result<(), Error> {
        match (
            read(
                &typed(name, latitude, radius),
                WaterId(1),
                None,
                System::Imperial,
            ),
            wrong,
        ) {
            (Ok(spot), None) => {
                assert!((spot.longitude + 95.61).abs() < 1e-9 && spot.depth.is_none());
                // What is shown reads back the same.
                let form = shown(&spot, System::Imperial);
                let again: Texts = form
                    .fields
                    .iter()
                    .map(|field| (field.name.to_owned(), field.value.clone()))
                    .collect();
                let back = read(&again, WaterId(1), Some(&spot), System::Imperial)
                    .map_err(|_| Error::NoOuting)?;
                assert_eq!(back, spot);
            }
            (Err(form), Some(field)) => {
                let wrong: Vec<&str> = form
                    .fields
                    .iter()
                    .filter(|one| one.problem.is_some())
                    .map(|one| one.name)
                    .collect();
                assert_eq!(wrong, [field]);
            }
            (other, wrong) => panic!("{other:?} instead of {wrong:?}"),
        }
        Ok(())
    }
}
