//! The form of the casting rod: rod, reel, line, bumper, shot.

use super::{Texts, Typed, problem};
use crate::present::spools;
use crate::screens::GearForm;
use crate::units::{Quantity, System};
use motilis_core::fields;
use motilis_core::river::Gear;
use motilis_core::tackle::LineStock;
use motilis_core::units::{Kilograms, Metres};

/// The figures: what they are asked as, what they are called, what they are figures of.
const FIGURES: [(fields::Field, &str, Quantity); 7] = [
    (fields::ROD_LENGTH, "Rod", Quantity::Depth),
    (fields::LONGEST_CAST, "Longest cast", Quantity::Depth),
    (fields::ON_REEL, "Line on the reel", Quantity::Depth),
    (fields::TAKE_UP, "A turn takes in", Quantity::Length),
    (fields::BUMPER, "Bumper left", Quantity::Depth),
    (
        fields::SHOT,
        "Shot up the line, if no body",
        Quantity::PartMass,
    ),
    (fields::SHOT_LEAD, "Leader behind the shot", Quantity::Depth),
];

fn figures(gear: &Gear) -> [f64; 7] {
    [
        gear.rod.0,
        gear.longest.0,
        gear.on_reel.0,
        gear.take_up.0,
        gear.bumper_length.0,
        gear.shot.0,
        gear.lead.0,
    ]
}

fn form(typed: Vec<Typed>, main: LineStock, bumper: LineStock) -> GearForm {
    let fields: Vec<_> = typed.into_iter().map(|typed| typed.field).collect();
    GearForm {
        wrong: fields.iter().any(|field| field.problem.is_some()),
        fields,
        main: spools(main),
        bumper: spools(bumper),
    }
}

/// The form as the gear is kept.
pub fn shown(gear: &Gear, system: System) -> GearForm {
    let typed = FIGURES
        .iter()
        .zip(figures(gear))
        .map(|((asked, label, quantity), figure)| {
            let mut typed = Typed::new(*asked, label, (*quantity, system), "");
            typed.fill(figure);
            typed
        });
    form(typed.collect(), gear.main, gear.bumper)
}

/// The gear that a form tells of.
///
/// # Errors
/// The form as it was typed, with a sentence beside each field that cannot be.
pub fn read(raw: &Texts, kept: &Gear, system: System) -> Result<Gear, Box<GearForm>> {
    let value = |name: &str| raw.get(name).map_or("", String::as_str);
    let mut typed: Vec<Typed> = FIGURES
        .iter()
        .map(|(asked, label, quantity)| {
            Typed::new(*asked, label, (*quantity, system), value(asked.form))
        })
        .collect();
    let mut read = figures(kept);
    for (figure, typed) in read.iter_mut().zip(&mut typed) {
        let new = typed.or(*figure);
        *figure = typed.unless_shown(*figure, new);
    }
    let [rod, longest, on_reel, take_up, bumper_length, shot, lead] = read;
    let stock = |name: &str, kept: LineStock| super::setup::stock(value(name)).unwrap_or(kept);
    let gear = Gear {
        rod: Metres(rod),
        longest: Metres(longest),
        on_reel: Metres(on_reel),
        take_up: Metres(take_up),
        main: stock("main", kept.main),
        bumper: stock("bumper_line", kept.bumper),
        bumper_length: Metres(bumper_length),
        shot: Kilograms(shot),
        lead: Metres(lead),
    };
    if let Err(error) = gear.check()
        && let Some(typed) = typed.iter_mut().find(|typed| typed.is_meant(&error))
    {
        typed.field.problem.get_or_insert_with(|| problem(&error));
    }
    if typed.iter().any(|typed| typed.field.problem.is_some()) {
        return Err(Box::new(form(typed, gear.main, gear.bumper)));
    }
    Ok(gear)
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    fn texts(form: &GearForm) -> Texts {
        form.fields
            .iter()
            .map(|field| (field.name.to_owned(), field.value.clone()))
            .collect()
    }

    #[rstest]
    #[case(System::Imperial)]
    #[case(System::Metric)]
    fn what_is_shown_reads_back_the_same(#[case] system: System) {
        let gear = Gear::usual();
        let texts = texts(&shown(&gear, system));
        assert_eq!(read(&texts, &gear, system).unwrap(), gear);
    }

    #[rstest]
    #[case("take_up", "0.01", "take_up")]
    #[case("rod_length", "long", "rod_length")]
    #[case("on_reel", "", "on_reel")]
    fn a_figure_that_cannot_be_is_said_beside_it(
        #[case] name: &str,
        #[case] typed: &str,
        #[case] wrong: &str,
    ) {
        let gear = Gear::usual();
        let mut texts = texts(&shown(&gear, System::Metric));
        texts.insert(name.into(), typed.into());
        let form = read(&texts, &gear, System::Metric).unwrap_err();
        let named: Vec<&str> = form
            .fields
            .iter()
            .filter(|field| field.problem.is_some())
            .map(|field| field.name)
            .collect();
        assert_eq!(named, [wrong]);
    }
}
