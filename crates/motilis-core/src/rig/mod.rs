//! A rig: an ordered stack of parts on wire or line, with one or two blades, as the line feels it.
//!
//! A [`Part`] is one thing out of the box, with the table's figures or the angler's own. A [`Stack`]
//! is what lies on the bench: parts in threading order from the front eye or swivel backwards on a
//! [`Mount`], finished or not. A [`Rig`] is a stack that can run: it has a blade and a hook. From it
//! follow the blade on its [`Shaft`] (with the friction of the bead behind the clevis and the moment
//! by which hooks and bait hold the rig upright) and the [`PointLoad`] at the end of the line.
//!
//! # What holds a rig upright
//! `M` is the sum over hooks and bait of submerged weight times offset from the axis. The offsets are
//! fitted so that rigs of the trade roll over where practice says they do: a number 4–5 Colorado
//! harness near 2 mph, double willows above 2.2, wire trout spinners not before 3, ring-bead spinners
//! a little over 2 (common practice, no source). They stand in `hook.rs` and `soft.rs`.

mod clevis;
mod finish;
mod hook;
mod kind;
mod material;
mod part;
mod rebase;
mod shape;
mod soft;
mod spin;
mod stack;
mod what;

pub use finish::{Colour, Finish};
pub use hook::{Hook, HookSize, HookStyle};
pub use kind::{Kind, Practice};
pub use material::Material;
pub use part::{BARE, Measured, Part};
pub use soft::{Bait, Dressing};
pub use spin::Spin;
pub use stack::{Build, Edit, Knot, Mount, Piece, Setting, Spacing, Stack};
pub use what::{AttractorStyle, BeadStyle, BodyShape, ClevisStyle, SwivelStyle, What};

use crate::blade::{
    Blade, DunkTest, Family, Learned, Observation, POLISHED_BEARING, Shaft, WET_METAL_ON_PLASTIC,
};
use crate::error::Error;
use crate::towline::PointLoad;
use crate::units::{Celsius, MILLIMETRE, MetresPerSecond, NewtonMetres, Newtons, SquareMetres};
use crate::water::Water;

/// A rig that can run: a name and a stack with one blade or a pair, and a hook.
#[derive(Debug, Clone, PartialEq)]
pub struct Rig {
    /// What it is called on the boat.
    pub name: String,
    stack: Stack,
    /// A holding moment observed by the angler, in place of the computed one.
    pub observed_moment: Option<NewtonMetres>,
    /// Coefficients that dunk tests put in place of the family's.
    learned: Vec<Learned>,
}

/// How much more torque a blade starts with on a clevis of the wrong size, or under a bead; from memory.
const BINDING: f64 = 1.3;
/// Drag area of hooks, swivel and beads together; from memory.
const HARDWARE_DRAG: SquareMetres = SquareMetres(0.5e-4);

impl Rig {
    /// A rig of a stack.
    ///
    /// # Errors
    /// [`Error::Contradiction`] without a hook, without a blade, with more than two blades, or with two
    /// that differ: the model knows pairs only.
    pub fn new(name: impl Into<String>, stack: Stack) -> Result<Self, Error> {
        let blades: Vec<Blade> = stack.blades().map(|(_, blade, _)| blade).collect();
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
        if stack.hooks().is_empty() {
            return Err(Error::contradiction("parts", "a rig needs a hook"));
        }
        Ok(Self {
            name: name.into(),
            stack,
            observed_moment: None,
            learned: Vec::new(),
        })
    }

    /// Its parts in threading order.
    pub fn stack(&self) -> &Stack {
        &self.stack
    }

    /// What it is.
    pub fn kind(&self) -> Kind {
        self.stack.kind
    }

    /// The front blade with its finish and, for a soft wing, its bend.
    pub fn front_blade(&self) -> (Blade, Finish, Option<f64>) {
        self.stack
            .blades()
            .next()
            .map(|(_, blade, piece)| (blade, piece.part.finish, piece.bend))
            .expect("`new` refuses a rig without a blade")
    }

    /// How many blades it carries: one or two.
    pub fn blade_count(&self) -> u8 {
        if self.stack.blades().count() == 2 {
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
        let mount = &self.stack.mount;
        let clevis_radius = if mount.is_wire() {
            0.5 * mount.diameter() + 0.3 * MILLIMETRE
        } else {
            0.7 * MILLIMETRE
        };
        let shaft = Shaft::new(
            blade.tuned(bend, temperature)?,
            self.blade_count(),
            Some(self.holding_moment(water)),
            self.bearing_friction(),
            clevis_radius,
        )?
        .starting_harder(if self.stack.binds() { BINDING } else { 1.0 })?;
        Ok(self
            .learned
            .iter()
            .fold(shaft, |shaft, learned| shaft.calibrated(*learned)))
    }

    /// Puts what was seen of its blade in place of the family's coefficients: the start first, then turns, then
    /// the roll-over, since each rests on those before. Of several alike the mean counts; tests of another blade,
    /// and turns counted where this one would not turn, count for nothing.
    pub fn learn(&mut self, tests: &[DunkTest]) {
        self.learned.clear();
        let (blade, ..) = self.front_blade();
        let of_this: Vec<&DunkTest> = tests.iter().filter(|test| test.is_of(&blade)).collect();
        let kinds: [fn(&Observation) -> bool; 3] = [
            |seen| matches!(seen, Observation::Started(_)),
            |seen| matches!(seen, Observation::Turned { .. }),
            |seen| matches!(seen, Observation::RolledOver(_)),
        ];
        for is_one in kinds {
            let learned: Vec<Learned> = of_this
                .iter()
                .filter(|test| is_one(&test.seen))
                .filter_map(|test| {
                    let water = test.water().ok()?;
                    let shaft = self.shaft(&water, test.temperature).ok()?;
                    test.seen.learn(&shaft, &water).ok()
                })
                .collect();
            self.learned.extend(Learned::mean(&learned));
        }
    }

    /// The same rig with its soft wing bent otherwise: 0 flat to 1 bent in; `None` for a rig without one.
    ///
    /// # Errors
    /// As [`Rig::new`].
    pub fn bent(&self, bend: f64) -> Result<Option<Self>, Error> {
        let mut stack = self.stack.clone();
        let mut found = false;
        for piece in &mut stack.pieces {
            if piece.bend.is_some()
                || piece
                    .part
                    .blade()
                    .is_some_and(|blade| blade.family == Family::SoftWing)
            {
                piece.bend = Some(bend.clamp(0.0, 1.0));
                found = true;
            }
        }
        if !found {
            return Ok(None);
        }
        let mut rig = Self::new(self.name.clone(), stack)?;
        rig.observed_moment = self.observed_moment;
        rig.learned.clone_from(&self.learned);
        Ok(Some(rig))
    }

    /// What was learned of it.
    pub fn learned(&self) -> &[Learned] {
        &self.learned
    }

    /// Moment that hooks, bait and rudder hold the rig upright with, or the one the angler observed.
    pub fn holding_moment(&self, water: &Water) -> NewtonMetres {
        self.observed_moment
            .unwrap_or_else(|| NewtonMetres(self.sum(|part| part.moment(water))))
    }

    /// A figure of one part, summed over all.
    fn sum(&self, figure: impl Fn(&Part) -> f64) -> f64 {
        self.stack
            .pieces
            .iter()
            .map(|piece| f64::from(piece.count) * figure(&piece.part))
            .sum()
    }

    /// Friction at the clevis: of the bead or body right behind the blade.
    fn bearing_friction(&self) -> f64 {
        let behind = self
            .stack
            .pieces
            .iter()
            .skip_while(|piece| piece.part.blade().is_none())
            .find(|piece| matches!(piece.part.what(), What::Bead(_) | What::Body(_)));
        match behind {
            Some(piece) if piece.part.material.is_metal() => POLISHED_BEARING,
            _ => WET_METAL_ON_PLASTIC,
        }
    }

    /// Weight of all its parts under water.
    pub fn submerged_weight(&self, water: &Water) -> Newtons {
        Newtons(self.sum(|part| part.submerged_weight(water)))
    }

    /// Drag area of everything but the blades.
    pub fn still_drag_area(&self) -> SquareMetres {
        HARDWARE_DRAG + SquareMetres(self.sum(|part| part.drag_area().0))
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
        let load = PointLoad {
            submerged_weight: self.submerged_weight(water),
            drag_area: self.still_drag_area() + running.drag_area,
            down_area: SquareMetres(0.0),
        };
        Ok((load, running))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn blade(number: f64) -> Piece {
        piece(What::Blade(Family::Colorado), number)
    }

    fn hook() -> Piece {
        piece(What::Hook(HookStyle::Octopus), 2.0)
    }

    fn piece(what: What, size: f64) -> Piece {
        Piece::one(Part::new(what, size, BARE).unwrap())
    }

    fn rig(pieces: Vec<Piece>) -> Result<Rig, Error> {
        let mut stack = Stack::empty(Kind::CrawlerHarness, Mount::leader(17).unwrap());
        stack.pieces = pieces;
        Rig::new("x", stack)
    }

    #[test]
    fn a_rig_without_its_parts_is_refused() {
        let refusal = |pieces| rig(pieces).unwrap_err().to_string();
        assert!(refusal(vec![hook()]).contains("needs a blade"));
        assert!(refusal(vec![blade(4.0)]).contains("needs a hook"));
        assert!(refusal(vec![blade(4.0), blade(5.0), hook()]).contains("one family and size"));
        assert!(refusal(vec![blade(4.0), blade(4.0), blade(4.0), hook()]).contains("one or two"));
    }

    #[test]
    fn a_metal_bead_behind_the_clevis_is_a_better_bearing() {
        let lake = Water::fresh(Celsius(15.0)).unwrap();
        let roll = |material| {
            let bead = Part::new(What::Bead(BeadStyle::Round), 4.0, BARE).unwrap();
            rig(vec![blade(4.0), Piece::one(bead.of(material)), hook()])
                .unwrap()
                .shaft(&lake, Celsius(15.0))
                .unwrap()
                .roll_over(&lake)
                .unwrap()
        };
        assert!(roll(Material::Brass) > roll(Material::Plastic));
    }

    #[test]
    fn a_wrong_clevis_starts_harder() {
        let lake = Water::fresh(Celsius(15.0)).unwrap();
        let start = |clevis: f64| {
            let clevis = piece(What::Clevis(ClevisStyle::Stirrup), clevis);
            let rig = rig(vec![clevis, blade(5.0), hook()]).unwrap();
            rig.shaft(&lake, Celsius(15.0)).unwrap().start(&lake)
        };
        // Number 3 carries blades 4 to 6, number 1 does not: 1.3 times the torque, √1.3 the speed.
        let ratio = start(1.0) / start(3.0);
        assert!((ratio - 1.3_f64.sqrt()).abs() < 1e-12, "{ratio}");
    }

    #[test]
    fn a_rig_twists_its_line_only_when_it_gives_way() {
        let lake = Water::fresh(Celsius(15.0)).unwrap();
        let swivel = |style| piece(What::Swivel(style), 10.0);
        let with = |style| {
            let mut rig = rig(vec![swivel(style), blade(4.0), hook()]).unwrap();
            rig.observed_moment = Some(NewtonMetres(4.2e-5));
            rig
        };
        let barrel = with(SwivelStyle::Barrel);
        let roll = barrel
            .shaft(&lake, Celsius(15.0))
            .unwrap()
            .roll_over(&lake)
            .unwrap();
        let at = |rig: &Rig, share: f64| rig.spin(roll * share, &lake, Celsius(15.0)).unwrap();
        let below = at(&barrel, 0.9);
        assert!(below.twist_an_hour == 0.0 && below.flashes.0 > 0.0);
        // By hand: the torque is 0.81 of what holds it at nine tenths of the speed.
        assert!((below.lean.0.sin() - 0.81).abs() < 1e-9);
        assert!((below.margin.unwrap() - 0.1).abs() < 1e-9);
        let above = at(&barrel, 1.1);
        let bearing = at(&with(SwivelStyle::BallBearing), 1.1);
        assert!(above.twist_an_hour > 1_000.0 && above.lean.degrees() > 89.9);
        // Half the turns against a twentieth (assumed).
        assert!((above.twist_an_hour / bearing.twist_an_hour - 10.0).abs() < 1e-6);
    }

    #[test]
    fn a_wing_bent_in_turns_faster() {
        let lake = Water::fresh(Celsius(15.0)).unwrap();
        let wing = rig(vec![piece(What::Blade(Family::SoftWing), 1.5), hook()]).unwrap();
        let turns = |bend| {
            let bent = wing.bent(bend).unwrap().unwrap();
            bent.at(MetresPerSecond(0.4), &lake, Celsius(15.0))
                .unwrap()
                .1
                .turns
        };
        // CP-02 (common practice, no source).
        assert!(turns(1.0) > turns(0.0));
        assert_eq!(
            rig(vec![blade(4.0), hook()]).unwrap().bent(0.5).unwrap(),
            None
        );
    }

    #[test]
    fn an_observed_moment_takes_the_place_of_the_computed_one() {
        let lake = Water::fresh(Celsius(15.0)).unwrap();
        let mut rig = rig(vec![blade(4.0), hook()]).unwrap();
        rig.observed_moment = Some(NewtonMetres(9e-5));
        assert_eq!(rig.holding_moment(&lake), NewtonMetres(9e-5));
    }
}
