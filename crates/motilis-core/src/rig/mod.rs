//! A rig: an ordered stack of parts on wire or line, with one or two blades, as the line feels it.
//!
//! A [`Rig`] is its [`Kind`], its [`Mount`] and its [`Part`]s in threading order, from the front
//! eye or swivel backwards. From them follow the blade on its [`Shaft`] (with the friction of the
//! bead behind the clevis and the moment by which hooks and bait hold the rig upright) and the
//! [`PointLoad`] at the end of the line.
//!
//! # What holds a rig upright
//! `M` is the sum over hooks and bait of submerged weight times offset from the axis. The offsets are
//! fitted so that rigs of the trade roll over where practice says they do: a number 4–5 Colorado
//! harness near 2 mph, double willows above 2.2, wire trout spinners not before 3, ring-bead spinners
//! a little over 2 (common practice, no source). They stand in `hook.rs` and `part.rs`.

mod hook;
mod kind;
mod part;

pub use hook::{Hook, HookSize, HookStyle};
pub use kind::{Kind, Practice};
pub use part::{Bait, BeadMaterial, Colour, Dressing, Finish, Part};

use crate::blade::{Blade, POLISHED_BEARING, Shaft, WET_METAL_ON_PLASTIC};
use crate::error::Error;
use crate::towline::PointLoad;
use crate::units::{
    Celsius, MILLIMETRE, Metres, MetresPerSecond, NewtonMetres, Newtons, SquareMetres,
};
use crate::water::Water;

/// What the parts are threaded on.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Mount {
    /// A shaft of spring wire of a diameter.
    Wire(Metres),
    /// A leader of line of a diameter.
    Leader(Metres),
}

/// A rig as built.
#[derive(Debug, Clone, PartialEq)]
pub struct Rig {
    /// What it is called on the boat.
    pub name: String,
    /// Its kind.
    pub kind: Kind,
    /// Wire or leader.
    pub mount: Mount,
    /// Its parts from the front eye or swivel backwards.
    parts: Vec<Part>,
    /// A holding moment observed by the angler, in place of the computed one.
    pub observed_moment: Option<NewtonMetres>,
}

/// Drag area of hooks, swivel and beads together; from memory.
const HARDWARE_DRAG: SquareMetres = SquareMetres(0.5e-4);

impl Rig {
    /// A rig of parts in threading order.
    ///
    /// # Errors
    /// [`Error::Contradiction`] without a hook, without a blade, with more than two blades, or with two
    /// that differ: the model knows pairs only.
    pub fn new(
        name: impl Into<String>,
        kind: Kind,
        mount: Mount,
        parts: Vec<Part>,
    ) -> Result<Self, Error> {
        let blades: Vec<&Blade> = parts.iter().filter_map(Part::blade).collect();
        let message = match blades.as_slice() {
            [_] => None,
            [a, b] if a == b => None,
            [] => Some("a rig needs a blade; thread one behind its clevis"),
            [_, _] => Some("the two blades of a rig must be of one family and size"),
            _ => Some("a rig carries one or two blades; take the others off"),
        };
        if let Some(message) = message {
            return Err(Error::contradiction("parts", message));
        }
        if !parts.iter().any(|part| matches!(part, Part::Hook(_))) {
            return Err(Error::contradiction("parts", "a rig needs a hook"));
        }
        Ok(Self {
            name: name.into(),
            kind,
            mount,
            parts,
            observed_moment: None,
        })
    }

    /// The parts from the front eye or swivel backwards.
    pub fn parts(&self) -> &[Part] {
        &self.parts
    }

    /// The front blade with its finish and, for a soft wing, its bend.
    pub fn front_blade(&self) -> (&Blade, Finish, Option<f64>) {
        self.parts
            .iter()
            .find_map(|part| match part {
                Part::Blade {
                    blade,
                    finish,
                    bend,
                } => Some((blade, *finish, *bend)),
                _ => None,
            })
            .expect("`new` refuses a rig without a blade")
    }

    /// How many blades it carries: one or two.
    pub fn blade_count(&self) -> u8 {
        if self
            .parts
            .iter()
            .filter(|part| part.blade().is_some())
            .count()
            == 2
        {
            2
        } else {
            1
        }
    }

    /// The blade on its shaft, with the friction and the moment that the other parts give it.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a part whose figures cannot be.
    pub fn shaft(&self, water: &Water, temperature: Celsius) -> Result<Shaft, Error> {
        let (blade, _, bend) = self.front_blade();
        let clevis_radius = match self.mount {
            Mount::Wire(diameter) => 0.5 * diameter + 0.3 * MILLIMETRE,
            Mount::Leader(_) => 0.7 * MILLIMETRE,
        };
        Shaft::new(
            blade.tuned(bend, temperature)?,
            self.blade_count(),
            Some(self.holding_moment(water)),
            self.bearing_friction(),
            clevis_radius,
        )
    }

    /// Moment that hooks and bait hold the rig upright with, or the one the angler observed.
    pub fn holding_moment(&self, water: &Water) -> NewtonMetres {
        self.observed_moment
            .unwrap_or_else(|| NewtonMetres(self.parts.iter().map(|part| part.moment(water)).sum()))
    }

    /// Friction at the clevis: of the bead right behind the blade.
    fn bearing_friction(&self) -> f64 {
        let behind = self
            .parts
            .iter()
            .skip_while(|part| part.blade().is_none())
            .find(|part| matches!(part, Part::Beads { .. } | Part::Body { .. }));
        match behind {
            Some(
                Part::Body { .. }
                | Part::Beads {
                    material: BeadMaterial::Metal,
                    ..
                },
            ) => POLISHED_BEARING,
            _ => WET_METAL_ON_PLASTIC,
        }
    }

    /// The rig as the line feels it at a speed, with what its blade does there.
    ///
    /// # Errors
    /// As [`Shaft::at`].
    pub fn at(
        &self,
        speed: MetresPerSecond,
        water: &Water,
        temperature: Celsius,
    ) -> Result<(PointLoad, crate::blade::Running), Error> {
        let running = self.shaft(water, temperature)?.at(speed, water)?;
        let rest: f64 = self.parts.iter().map(|part| part.drag_area().0).sum();
        let weight: f64 = self
            .parts
            .iter()
            .map(|part| part.submerged_weight(water))
            .sum();
        let load = PointLoad {
            submerged_weight: Newtons(weight),
            drag_area: HARDWARE_DRAG + SquareMetres(rest) + running.drag_area,
            down_area: SquareMetres(0.0),
        };
        Ok((load, running))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::blade::Family;

    fn blade(number: f64) -> Part {
        Part::Blade {
            blade: Blade::of_size(Family::Colorado, number).unwrap(),
            finish: Finish::plain(Colour::Brass),
            bend: None,
        }
    }

    fn hook() -> Part {
        Part::Hook(Hook {
            style: HookStyle::Octopus,
            size: HookSize::number(2).unwrap(),
        })
    }

    fn refusal(parts: Vec<Part>) -> String {
        Rig::new(
            "x",
            Kind::CrawlerHarness,
            Mount::Leader(Metres(4e-4)),
            parts,
        )
        .unwrap_err()
        .to_string()
    }

    #[test]
    fn a_rig_without_its_parts_is_refused() {
        assert!(refusal(vec![hook()]).contains("needs a blade"));
        assert!(refusal(vec![blade(4.0)]).contains("needs a hook"));
        assert!(refusal(vec![blade(4.0), blade(5.0), hook()]).contains("one family and size"));
        assert!(refusal(vec![blade(4.0), blade(4.0), blade(4.0), hook()]).contains("one or two"));
    }

    #[test]
    fn a_metal_bead_behind_the_clevis_is_a_better_bearing() {
        let lake = Water::fresh(Celsius(15.0)).unwrap();
        let rig = |material| {
            let beads = Part::Beads {
                count: 1,
                diameter: 4.0 * MILLIMETRE,
                material,
                colour: Colour::Nickel,
            };
            Rig::new(
                "x",
                Kind::CrawlerHarness,
                Mount::Leader(Metres(4e-4)),
                vec![blade(4.0), beads, hook()],
            )
            .unwrap()
        };
        let roll = |rig: Rig| {
            rig.shaft(&lake, Celsius(15.0))
                .unwrap()
                .roll_over(&lake)
                .unwrap()
        };
        assert!(roll(rig(BeadMaterial::Metal)) > roll(rig(BeadMaterial::Plastic)));
    }

    #[test]
    fn an_observed_moment_takes_the_place_of_the_computed_one() {
        let lake = Water::fresh(Celsius(15.0)).unwrap();
        let mut rig = Rig::new(
            "x",
            Kind::CrawlerHarness,
            Mount::Leader(Metres(4e-4)),
            vec![blade(4.0), hook()],
        )
        .unwrap();
        rig.observed_moment = Some(NewtonMetres(9e-5));
        assert_eq!(rig.holding_moment(&lake), NewtonMetres(9e-5));
    }
}
