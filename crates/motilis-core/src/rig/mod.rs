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

mod attractor;
mod bait_spin;
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

pub use attractor::{Attraction, Stir};
pub use bait_spin::BaitSpin;
pub use finish::{Colour, Finish, Over};
pub use hook::{Hook, HookSize, HookStyle};
pub use kind::{Kind, Practice};
pub use material::Material;
pub use part::{BARE, Measured, Part};
pub use soft::{Bait, Dressing};
pub use spin::{Holder, Spin};
pub use stack::{Build, Edit, Knot, Mount, Piece, Setting, Spacing, Stack};
pub use what::{AttractorStyle, BeadStyle, BodyShape, ClevisStyle, SwivelStyle, What};

use crate::blade::{
    Blade, DunkTest, Family, Learned, Observation, POLISHED_BEARING, Running, Shaft,
    WET_METAL_ON_PLASTIC, Window,
};
use crate::error::Error;
use crate::towline::PointLoad;
use crate::units::{
    Celsius, Kilograms, MILLIMETRE, MetresPerSecond, NewtonMetres, Newtons, SquareMetres,
};
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
            [] if stack.kind.may_go_bare() => None,
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

    /// The front blade and, for a soft wing, its bend; `None` for a bare hook.
    pub fn front_blade(&self) -> Option<(Blade, Option<f64>)> {
        let (_, blade, piece) = self.stack.blades().next()?;
        Some((blade, piece.bend))
    }

    /// The finish that is looked at: of the front blade, without one of the attractor, of what dresses it, of the hook.
    pub fn finish(&self) -> Finish {
        let of = |is: fn(What) -> bool| {
            let mut pieces = self.stack.pieces.iter();
            pieces
                .find(|piece| is(piece.part.what()))
                .map(|piece| piece.part.finish)
        };
        of(|what| matches!(what, What::Blade(_)))
            .or_else(|| of(|what| matches!(what, What::Attractor(_))))
            .or_else(|| of(|what| matches!(what, What::Dressing(_))))
            .or_else(|| of(|what| matches!(what, What::Hook(_))))
            .unwrap_or(BARE)
    }

    /// How many blades it carries: none, one or two.
    pub fn blade_count(&self) -> u8 {
        self.stack.blades().count().min(2) as u8
    }

    /// The blade on its shaft, with the friction and the moment that the other parts give it; `None` without a blade.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a part whose figures cannot be.
    pub fn shaft(&self, water: &Water, temperature: Celsius) -> Result<Option<Shaft>, Error> {
        let Some((blade, bend)) = self.front_blade() else {
            return Ok(None);
        };
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
        let learned = self.learned.iter();
        Ok(Some(
            learned.fold(shaft, |shaft, learned| shaft.calibrated(*learned)),
        ))
    }

    /// Its shaft when it is cast: one on wire carries no rudder, its line takes the twist up, and the blade turns on.
    ///
    /// # Errors
    /// As [`Rig::shaft`].
    pub fn cast_shaft(&self, water: &Water, temperature: Celsius) -> Result<Option<Shaft>, Error> {
        let shaft = self.shaft(water, temperature)?;
        Ok(if self.stack.mount.is_wire() {
            shaft.map(Shaft::held_by_line)
        } else {
            shaft
        })
    }

    /// What its blade does at a speed; a bare hook has none, and runs at any.
    ///
    /// # Errors
    /// As [`Shaft::at`].
    pub fn running(
        &self,
        speed: MetresPerSecond,
        water: &Water,
        temperature: Celsius,
    ) -> Result<Running, Error> {
        match self.shaft(water, temperature)? {
            Some(shaft) => shaft.at(speed, water),
            None => Running::bare(speed),
        }
    }

    /// The speeds between which it is worth fishing.
    ///
    /// # Errors
    /// As [`Rig::shaft`].
    pub fn window(&self, water: &Water, temperature: Celsius) -> Result<Window, Error> {
        let shaft = self.shaft(water, temperature)?;
        Ok(shaft.map_or(Window::ANY, |shaft| shaft.window(water)))
    }

    /// How strongly a fish feels blade and bait together, by the measure of [`Running::thump_index`].
    pub fn thump_index(&self, running: &Running, water: &Water) -> f64 {
        let bait = self.bait_spin(running.speed, water);
        running
            .thump_index()
            .hypot(bait.map_or(0.0, |bait| bait.thump_index()))
    }

    /// Puts what was seen of its blade in place of the family's coefficients: the start first, then turns, then
    /// the roll-over, since each rests on those before. Of several alike the mean counts; tests of another blade,
    /// and turns counted where this one would not turn, count for nothing.
    pub fn learn(&mut self, tests: &[DunkTest]) {
        self.learned.clear();
        let Some((blade, _)) = self.front_blade() else {
            return;
        };
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
                    let shaft = self.shaft(&water, test.temperature).ok()??;
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
            let blade = piece.part.blade();
            if blade.is_some_and(|blade| blade.family == Family::SoftWing) {
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

    /// Mass of all its parts, without wire and line.
    pub fn mass(&self) -> Kilograms {
        Kilograms(self.sum(|part| part.mass().0))
    }

    /// Weight of all its parts under water.
    pub fn submerged_weight(&self, water: &Water) -> Newtons {
        Newtons(self.sum(|part| part.submerged_weight(water)))
    }

    /// Drag area of everything but the blades at a speed, the attractor stirring as it does then.
    pub fn towed_drag_area(&self, speed: MetresPerSecond, water: &Water) -> SquareMetres {
        let attractor = self.attraction(speed, water);
        HARDWARE_DRAG
            + SquareMetres(self.sum(|part| part.drag_area().0))
            + attractor.map_or(SquareMetres(0.0), |attractor| attractor.drag_area)
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
    ) -> Result<(PointLoad, Running), Error> {
        let running = self.running(speed, water, temperature)?;
        Ok((self.load(&running, water), running))
    }

    /// The rig as the line feels it while its blade does this.
    pub(crate) fn load(&self, running: &Running, water: &Water) -> PointLoad {
        let lift = self
            .attraction(running.speed, water)
            .map_or(Newtons(0.0), |attractor| attractor.lift);
        PointLoad {
            submerged_weight: self.submerged_weight(water) - lift,
            drag_area: self.towed_drag_area(running.speed, water) + running.drag_area,
            down_area: SquareMetres(0.0),
        }
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
            rig.shaft(&lake, Celsius(15.0))
                .unwrap()
                .unwrap()
                .start(&lake)
        };
        // Number 3 carries blades 4 to 6, number 1 does not: 1.3 times the torque, √1.3 the speed.
        let ratio = start(1.0) / start(3.0);
        assert!((ratio - 1.3_f64.sqrt()).abs() < 1e-12, "{ratio}");
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
