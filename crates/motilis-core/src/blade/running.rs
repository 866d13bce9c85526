use super::Blade;
use crate::error::{Error, Range};
use crate::keyed::keyed;
use crate::towline::TENTH;
use crate::units::{
    Celsius, Hertz, MILE_PER_HOUR, Metres, MetresPerSecond, NewtonMetres, Newtons, SquareMetres,
};
use crate::water::Water;

/// Share of the speed that reaches the rear one of two blades on a shaft.
pub const WAKE: f64 = 0.85;
/// Friction of a wet metal clevis on a plastic bead; from memory.
pub const WET_METAL_ON_PLASTIC: f64 = 0.35;
/// Friction of a clevis on a polished metal bearing; from memory.
pub const POLISHED_BEARING: f64 = 0.2;
/// Frequencies the lateral line feels best, Hz: from a few to some 100–200 (published range, from memory).
pub const LATERAL_LINE: (Hertz, Hertz) = (Hertz(3.0), Hertz(150.0));

/// So many times its start a spoon sways before it spins (designed: harness spoons are towed from 1 to some 3 mph; from
/// memory).
const SWAY_ENDS: f64 = 2.8;
/// Spread of the start speed; from memory.
const START_SPREAD: f64 = 0.108;

pub(super) const SPEED: Range = Range::closed(0.0, 15.0, "m/s", "between 0 and 15 m/s");
const MOMENT: Range = Range::closed(0.0, 1.0, "N·m", "between 0 and 1 N·m");
const FRICTION: Range = Range::above(0.0, 2.0, "", "above 0 and at most 2");
const CLEVIS_RADIUS: Range = Range::above(0.0, 0.02, "m", "above 0 and at most 0.02 m");
const STIFFNESS: Range = Range::closed(1.0, 10.0, "", "between 1 (free) and 10");

/// What a blade does at a speed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum State {
    /// Too slow: it hangs and flutters.
    Stalled,
    /// There is no blade.
    Bare,
    /// It turns on the shaft.
    Turning,
    /// It sways from side to side: a spoon.
    Swaying,
    /// Too fast: the whole rig turns instead of the blade, or the spoon spins instead of swaying.
    RollingOver,
}

impl State {
    /// Whether a rig fishes in it: its blade turns or sways, or it has none.
    pub fn works(self) -> bool {
        matches!(self, Self::Turning | Self::Swaying | Self::Bare)
    }
}

keyed!(State {
    Stalled "stalled" "stalled",
    Bare "bare" "no blade",
    Turning "turning" "turning",
    Swaying "swaying" "swaying",
    RollingOver "rolling_over" "rolling over",
});

/// One or two equal blades on a clevis, and what keeps the rig from turning with them.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Shaft {
    /// The front blade; a second one is its equal.
    pub blade: Blade,
    /// One blade or two.
    pub count: u8,
    /// Moment that holds the rig upright at a quarter turn; `None` when it is not known.
    pub holding_moment: Option<NewtonMetres>,
    /// Friction of the clevis on its bearing.
    pub friction: f64,
    /// Radius at which that friction acts.
    pub clevis_radius: Metres,
    /// How much more torque the start takes than a free clevis: 1, or 1.3 for a tight one.
    pub start_factor: f64,
    /// So many times its start a spoon sways before it spins.
    pub sway_ends: f64,
}

/// The speeds between which a rig is worth fishing: 1.2 times its start to 0.9 times its roll-over.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Window {
    /// Slowest usable speed.
    pub from: MetresPerSecond,
    /// Fastest usable speed; `None` when nothing is known to end it.
    pub to: Option<MetresPerSecond>,
}

impl Window {
    /// Any speed.
    pub const ANY: Self = Self {
        from: MetresPerSecond(0.0),
        to: None,
    };

    /// Whether a speed lies in the window.
    pub fn holds(&self, speed: MetresPerSecond) -> bool {
        speed >= self.from && self.to.is_none_or(|to| speed <= to)
    }
}

/// A shaft at a speed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Running {
    /// Speed through the water at the blade.
    pub speed: MetresPerSecond,
    /// Stalled, turning or rolling over.
    pub state: State,
    /// Speed at which the blade starts.
    pub start: MetresPerSecond,
    /// Speed at which the rig rolls over, when the holding moment is known.
    pub roll_over: Option<MetresPerSecond>,
    /// Turns of the front blade on the shaft a second; of a spoon, sways there and back.
    pub turns: Hertz,
    /// Radius its tip sweeps.
    pub sweep_radius: Metres,
    /// Side force of the front blade, the strength of its thump.
    pub side_force: Newtons,
    /// Drag area of all blades.
    pub drag_area: SquareMetres,
    /// Drag of all blades.
    pub drag: Newtons,
}

impl Shaft {
    /// A shaft with a free clevis.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a count other than 1 or 2, or a friction, radius or moment that
    /// cannot be.
    pub fn new(
        blade: Blade,
        count: u8,
        holding_moment: Option<NewtonMetres>,
        friction: f64,
        clevis_radius: Metres,
    ) -> Result<Self, Error> {
        if !(1..=2).contains(&count) {
            return Err(Error::OutOfRange {
                quantity: "count".into(),
                value: f64::from(count),
                unit: "blades",
                allowed: "1 or 2",
            });
        }
        if let Some(moment) = holding_moment {
            MOMENT.check("holding_moment_nm", moment.0)?;
        }
        FRICTION.check("friction", friction)?;
        CLEVIS_RADIUS.check("clevis_radius_m", clevis_radius.0)?;
        Ok(Self {
            blade,
            count,
            holding_moment,
            friction,
            clevis_radius,
            start_factor: 1.0,
            sway_ends: SWAY_ENDS,
        })
    }

    /// The same shaft with a clevis that starts harder.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] outside 1–10.
    pub fn starting_harder(self, start_factor: f64) -> Result<Self, Error> {
        STIFFNESS.check("start_factor", start_factor)?;
        Ok(Self {
            start_factor,
            ..self
        })
    }

    /// The same on a short line that is let to twist: its torsion holds the shaft, so the blade turns on and nothing rolls
    /// over (see [`crate::line::Twist`]).
    pub fn held_by_line(self) -> Self {
        Self {
            holding_moment: None,
            ..self
        }
    }

    /// Slowest speed at which the blade turns over, with the clevis it has.
    pub fn start(&self, water: &Water) -> MetresPerSecond {
        self.blade.start_speed(water) * self.start_factor.sqrt()
    }

    /// Speed at which the friction of the clevis turns the rig: `√(2 M / (ρ μ r_c Σ C_D A sin β))`; of a spoon, at which
    /// it spins instead of swaying.
    pub fn roll_over(&self, water: &Water) -> Option<MetresPerSecond> {
        if self.blade.family.sways() {
            return Some(self.sway_ends * self.start(water));
        }
        let moment = self.holding_moment?;
        Some(MetresPerSecond(
            (2.0 * moment.0
                / (water.density().0
                    * self.friction
                    * self.clevis_radius.0
                    * self.turning_drag_area().0))
                .sqrt(),
        ))
    }

    /// Drag area of all blades while they turn, the rear one in the wake of the front one.
    pub fn turning_drag_area(&self) -> SquareMetres {
        self.blade.turning_drag_area() * self.blades_felt()
    }

    /// Drag area of all blades while they hang.
    pub fn hanging_drag_area(&self) -> SquareMetres {
        self.blade.hanging_drag_area() * self.blades_felt()
    }

    /// How many blades the water feels: a rear one counts with the dynamic pressure of the wake.
    fn blades_felt(&self) -> f64 {
        if self.count == 2 {
            1.0 + WAKE * WAKE
        } else {
            1.0
        }
    }

    /// The speeds between which the rig is worth fishing.
    pub fn window(&self, water: &Water) -> Window {
        Window {
            from: 1.2 * self.start(water),
            to: self.roll_over(water).map(|speed| 0.9 * speed),
        }
    }

    /// What the blades do at a speed through the water at the rig.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] for a speed below 0 or above 15 m/s.
    pub fn at(&self, speed: MetresPerSecond, water: &Water) -> Result<Running, Error> {
        SPEED.check("speed_mps", speed.0)?;
        let (start, roll_over) = (self.start(water), self.roll_over(water));
        let state = if speed <= start {
            State::Stalled
        } else if roll_over.is_some_and(|limit| speed > limit) {
            State::RollingOver
        } else {
            self.blade.family.at_work()
        };
        let starts = if start.0 > 0.0 {
            speed / start
        } else {
            f64::INFINITY
        };
        let drag_area = self.blade.drag_area(starts) * self.blades_felt();
        let (turns, side_force) = match state {
            State::Turning | State::Swaying => (
                self.blade.turn_rate(speed, start),
                self.blade.side_force(speed, water),
            ),
            State::Stalled | State::RollingOver | State::Bare => (Hertz(0.0), 0.0),
        };
        Ok(Running {
            speed,
            state,
            start,
            roll_over,
            turns,
            sweep_radius: self.blade.sweep_radius(),
            side_force: Newtons(side_force),
            drag_area,
            drag: Newtons(water.dynamic_pressure(speed) * drag_area.0),
        })
    }
}

impl Running {
    /// A rig without a blade at a speed.
    ///
    /// # Errors
    /// As [`Shaft::at`].
    pub fn bare(speed: MetresPerSecond) -> Result<Self, Error> {
        SPEED.check("speed_mps", speed.0)?;
        Ok(Self {
            speed,
            state: State::Bare,
            start: MetresPerSecond(0.0),
            roll_over: None,
            turns: Hertz(0.0),
            sweep_radius: Metres(0.0),
            side_force: Newtons(0.0),
            drag_area: SquareMetres(0.0),
            drag: Newtons(0.0),
        })
    }

    /// Speeds between which it starts in eight cases of ten: torque coefficient 20 %, thickness 8 %, both under a root.
    pub fn start_band(&self) -> (MetresPerSecond, MetresPerSecond) {
        let factor = (TENTH * START_SPREAD).exp();
        (self.start * (1.0 / factor), self.start * factor)
    }

    /// How strongly a fish feels the blade, as a multiple of a number 4 Colorado at 1.2 mph; 0 for a blade
    /// that does not turn.
    ///
    /// The side force over its frequency: near a small body that is pushed to and fro the water moves at
    /// `F / (2π f ρ r³)`, and it is that motion which the free neuromasts of the lateral line feel below some
    /// 30 Hz (dipole field and neuromasts after Coombs & Montgomery 1999, in *Comparative Hearing: Fish and
    /// Amphibians*, from memory). So a slow, hard beat is felt more than a fast, light one, which is what anglers
    /// mean by thump. Near its start a blade hangs at the bottom of each turn and hurries over the top: only a share of
    /// its push comes as a beat (designed, see `beats`), so that the thump rises from nothing with the turns.
    /// A yardstick of this project, no published scale.
    pub fn thump_index(&self) -> f64 {
        if self.turns.0 <= 0.0 {
            return 0.0;
        }
        thump_index(self.side_force, self.turns) * beats(self.speed, self.start)
    }
}

/// Side force over turns, as a multiple of a number 4 Colorado's at 1.2 mph.
pub(crate) fn thump_index(side_force: Newtons, turns: Hertz) -> f64 {
    side_force.0 / turns.0 / reference_thump()
}

/// Share of a blade's push that comes as a beat: `1 − (U_start/U)⁸`, nothing at its start, a half a tenth above it, nearly
/// all of it from half as fast again (designed).
fn beats(speed: MetresPerSecond, start: MetresPerSecond) -> f64 {
    1.0 - (start / speed).powi(8)
}

/// Side force over frequency of a brass Colorado 4 at 1.2 mph in fresh water of 15 °C, N·s.
fn reference_thump() -> f64 {
    static THUMP: std::sync::OnceLock<f64> = std::sync::OnceLock::new();
    *THUMP.get_or_init(|| {
        let blade =
            Blade::of_size(super::Family::Colorado, 4.0).expect("Colorado 4 is in the table");
        let lake = Water::fresh(Celsius(15.0)).expect("15 °C is in range");
        let speed = 1.2 * MILE_PER_HOUR;
        let start = blade.start_speed(&lake);
        blade.side_force(speed, &lake) / blade.turn_rate(speed, start).0 * beats(speed, start)
    })
}

#[cfg(test)]
mod tests {
    use super::super::Family;
    use super::*;
    use crate::units::MILLIMETRE;
    use approx::assert_relative_eq;
    use rstest::rstest;

    fn lake() -> Water {
        Water::fresh(Celsius(15.0)).unwrap()
    }

    fn harness(moment: Option<f64>) -> Shaft {
        Shaft::new(
            Blade::of_size(Family::Colorado, 4.0).unwrap(),
            1,
            moment.map(NewtonMetres),
            WET_METAL_ON_PLASTIC,
            0.7 * MILLIMETRE,
        )
        .unwrap()
    }

    #[rstest]
    #[case::hangs_when_slow(0.3, State::Stalled)]
    #[case::turns_in_between(1.2, State::Turning)]
    #[case::rolls_when_fast(3.0, State::RollingOver)]
    fn a_harness_goes_through_three_states(#[case] mph: f64, #[case] state: State) {
        let running = harness(Some(4.2e-5))
            .at(mph * MILE_PER_HOUR, &lake())
            .unwrap();
        assert_eq!(running.state, state);
        assert_eq!(running.turns.0 > 0.0, state == State::Turning);
    }

    #[test]
    fn without_a_moment_nothing_is_said_about_rolling_over() {
        let running = harness(None).at(MetresPerSecond(3.0), &lake()).unwrap();
        assert_eq!((running.state, running.roll_over), (State::Turning, None));
        assert_eq!(harness(None).window(&lake()).to, None);
    }

    #[test]
    fn the_reference_blade_has_a_thump_of_one() {
        let running = harness(None).at(1.2 * MILE_PER_HOUR, &lake()).unwrap();
        assert_relative_eq!(running.thump_index(), 1.0, max_relative = 1e-9);
        // Practice: a large Colorado thumps most, a small wing least (common practice, no source).
        let thump = |family, number| {
            let blade = Blade::of_size(family, number).unwrap();
            let shaft = Shaft::new(blade, 1, None, WET_METAL_ON_PLASTIC, 0.7 * MILLIMETRE).unwrap();
            shaft
                .at(1.2 * MILE_PER_HOUR, &lake())
                .unwrap()
                .thump_index()
        };
        let large = thump(Family::Colorado, 5.0);
        for (family, number) in [
            (Family::Indiana, 4.0),
            (Family::French, 4.0),
            (Family::Willow, 4.0),
            (Family::SoftWing, 1.5),
        ] {
            assert!(large > thump(family, number), "{family:?}");
        }
        assert!(
            thump(Family::SoftWing, 1.1) < 0.3,
            "{}",
            thump(Family::SoftWing, 1.1)
        );
    }

    /// From nothing at the start, and ever more with the speed; the drag without a step.
    #[test]
    fn thump_rises_from_nothing_and_drag_has_no_step() {
        for (family, number) in [
            (Family::Colorado, 4.0),
            (Family::Willow, 4.0),
            (Family::SoftWing, 1.5),
        ] {
            let blade = Blade::of_size(family, number).unwrap();
            let shaft = Shaft::new(blade, 1, None, WET_METAL_ON_PLASTIC, 0.7 * MILLIMETRE).unwrap();
            let at = |starts: f64| shaft.at(shaft.start(&lake()) * starts, &lake()).unwrap();
            assert!(at(1.0).thump_index().abs() < 1e-12);
            let grid: Vec<_> = (0..400).map(|i| at(0.9 + 0.005 * f64::from(i))).collect();
            let just = at(1.001).thump_index();
            assert!(just > 0.0 && just < 0.2 * at(1.5).thump_index(), "{just}");
            for pair in grid.windows(2) {
                assert!(pair[0].thump_index() <= pair[1].thump_index());
                let step = (pair[1].drag_area.0 / pair[0].drag_area.0 - 1.0).abs();
                assert!(step < 0.08, "{family:?}: {step}");
            }
        }
    }

    #[test]
    fn a_tight_clevis_starts_later() {
        let tight = harness(None).starting_harder(1.3).unwrap();
        assert_relative_eq!(
            tight.start(&lake()).0,
            harness(None).start(&lake()).0 * 1.3_f64.sqrt()
        );
        assert!(harness(None).starting_harder(0.5).is_err());
    }

    #[test]
    fn the_window_holds_its_ends_and_nothing_beyond() {
        let window = harness(Some(4.2e-5)).window(&lake());
        let to = window.to.unwrap();
        assert!(window.holds(window.from) && window.holds(to));
        assert!(!window.holds(to * 1.01) && !window.holds(window.from * 0.99));
    }

    #[test]
    fn what_cannot_be_is_refused_by_name() {
        let blade = harness(None).blade;
        let refused = |count, moment, friction, radius| {
            Shaft::new(blade, count, moment, friction, Metres(radius))
                .unwrap_err()
                .quantity()
                .to_owned()
        };
        assert_eq!(refused(3, None, 0.3, 1e-3), "count");
        assert_eq!(
            refused(1, Some(NewtonMetres(-1.0)), 0.3, 1e-3),
            "holding_moment_nm"
        );
        assert_eq!(refused(1, None, f64::NAN, 1e-3), "friction");
        assert_eq!(refused(1, None, 0.3, 0.0), "clevis_radius_m");
        let refusal = harness(None)
            .at(MetresPerSecond(-1.0), &lake())
            .unwrap_err();
        assert_eq!(refusal.quantity(), "speed_mps");
    }
}
