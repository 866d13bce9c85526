//! The start page, read and filled in: a water, a box, rods and a rig at once.

use super::{Texts, water};
use crate::screens::{Choice, StartForm};
use crate::units::System;
use motilis_core::bench::{StarterRod, StarterTray};
use motilis_core::fish::Fish;
use motilis_core::light::Stain;
use motilis_core::rig::Kind;
use motilis_helm::StartAct;

/// The form as typed, and what it asks for if all of it is sound.
pub struct Read {
    /// The form.
    pub form: StartForm,
    /// The act.
    pub act: Option<StartAct>,
}

/// The texts of a page nobody has typed in yet: everything ticked, no count kept.
pub fn untouched(system: System) -> Texts {
    let mut texts: Texts = [
        ("stain", Stain::Green.key().to_owned()),
        (
            "clarity",
            match system {
                System::Imperial => "8",
                System::Metric => "2.5",
            }
            .to_owned(),
        ),
        ("wanted", Fish::Walleye.key().to_owned()),
        ("uncounted", "yes".to_owned()),
    ]
    .map(|(name, value)| (name.to_owned(), value))
    .into();
    for tray in StarterTray::ALL {
        texts.insert(format!("tray_{}", tray.key()), "yes".to_owned());
    }
    for rod in [
        StarterRod::Bouncer,
        StarterRod::FlatLine,
        StarterRod::Downrigger,
    ] {
        texts.insert(format!("rod_{}", rod.key()), "yes".to_owned());
    }
    texts
}

/// Reads the form; every wrong field gets its sentence.
pub fn read(raw: &Texts, system: System) -> Read {
    let value = |name: &str| raw.get(name).map_or("", String::as_str);
    let fish = Fish::from_key(value("wanted")).unwrap_or(Fish::Walleye);
    let mut texts = raw.clone();
    texts.insert(format!("fish_{}", fish.key()), "yes".to_owned());
    let water = water::read(&texts, system);
    let trays = ticked(raw, "tray", StarterTray::ALL, StarterTray::key);
    let rods = ticked(raw, "rod", StarterRod::ALL, StarterRod::key);
    let kinds = match &water.water {
        Some(water) if water.river => fish.cast_kinds(),
        _ => fish.kinds(),
    };
    let chosen = Kind::from_key(value("kind"));
    let counted = value("uncounted") != "yes";
    let usual = std::iter::once(("", "the usual one for it"));
    Read {
        act: water.water.map(|water| StartAct {
            water,
            trays: trays.clone(),
            rods: rods.clone(),
            kind: chosen.unwrap_or(kinds[0]),
            counted,
        }),
        form: StartForm {
            water: water.form,
            wanted: Choice::list(
                Fish::ALL.iter().map(|fish| (fish.key(), fish.name())),
                fish.key(),
            ),
            trays: choices(
                StarterTray::ALL,
                &trays,
                StarterTray::key,
                StarterTray::name,
            ),
            rods: choices(StarterRod::ALL, &rods, StarterRod::key, StarterRod::name),
            kind: Choice::list(
                usual.chain(Kind::ALL.iter().map(|kind| (kind.key(), kind.name()))),
                chosen.map_or("", Kind::key),
            ),
            uncounted: !counted,
        },
    }
}

fn ticked<T: Copy>(raw: &Texts, group: &str, all: &[T], key: fn(T) -> &'static str) -> Vec<T> {
    let is_ticked = |one: &&T| raw.contains_key(&format!("{group}_{}", key(**one)));
    all.iter().filter(is_ticked).copied().collect()
}

fn choices<T: Copy + PartialEq>(
    all: &[T],
    chosen: &[T],
    key: fn(T) -> &'static str,
    name: fn(T) -> &'static str,
) -> Vec<Choice> {
    all.iter()
        .map(|one| Choice {
            value: key(*one).to_owned(),
            label: crate::words::capital(name(*one)),
            chosen: chosen.contains(one),
        })
        .collect()
}
