use super::Layout;
use crate::blade::{Running, Window};
use crate::error::Error;
use crate::motion::NodeLoad;
use crate::rig::{Attraction, BaitSpin, Rig, Spin, Stack};
use crate::units::{Celsius, Kilograms, Metres, MetresPerSecond, Newtons, SquareMetres};
use crate::water::Water;

/// How a rig sinks on a slack line.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Attitude {
    /// Tail first: the line stays off the blade.
    TailFirst,
    /// Level, within 2 mm.
    Level,
    /// Nose first: the line falls over the blade.
    NoseFirst,
    /// It floats.
    Floats,
}

/// What a rig weighs, where it balances, and what its blade does.
#[derive(Debug, Clone, PartialEq)]
pub struct Figures {
    /// Mass of all parts, without line or wire.
    pub mass: Kilograms,
    /// Weight under water.
    pub submerged_weight: Newtons,
    /// Centre of mass on the layout's axis.
    pub centre_of_mass: Metres,
    /// Centre of drag area while it sinks, blade hanging.
    pub centre_of_drag: Metres,
    /// Terminal speed of the whole rig sinking freely; 0 when it floats.
    pub sink_speed: MetresPerSecond,
    /// Nose or tail first.
    pub attitude: Attitude,
    /// What the blade does, for a rig that has all it needs to run.
    pub running: Option<Turning>,
    /// Why it cannot run, for one that cannot.
    pub unfit: Option<Error>,
}

/// The blade's part of the figures, at a speed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Turning {
    /// At the speed asked for.
    pub at_speed: Running,
    /// Speeds between which it is worth fishing.
    pub window: Window,
    /// Drag area of the whole rig at that speed.
    pub drag_area: SquareMetres,
    /// How its bait spins there.
    pub bait: Option<BaitSpin>,
    /// What an attractor ahead does there.
    pub attractor: Option<Attraction>,
    /// What turns the rig, and what holds it.
    pub spin: Spin,
}

/// Within this, a rig sinks level.
const LEVEL: f64 = 2e-3;

/// Drag area of a small part that has none in the towing model, on its own frontal area: what turns
/// a sinking rig nose or tail first.
const SMALL_PART: f64 = 0.8;

/// Weighs and balances a stack in water, its blade at a speed.
///
/// Sinking freely, weight under water and drag balance: `v = √(2 W / (ρ C_D A))`, as in a cast ([`NodeLoad::sink_speed`]). The rig points with
/// the end down that lies on the side of its centre of mass, seen from its centre of drag.
/// What its blade does is told only of a rig that can run.
pub fn figures(
    stack: &Stack,
    water: &Water,
    temperature: Celsius,
    speed: MetresPerSecond,
) -> Figures {
    let layout = Layout::new(stack);
    let (mut mass, mut weight, mut drag) = (0.0, 0.0, 0.0);
    let (mut shaft_mass, mut shaft_drag) = (0.0, 0.0);
    let (mut mass_moment, mut drag_moment) = (0.0, 0.0);
    for seat in &layout.seats {
        let part = &stack.pieces[seat.piece].part;
        let middle = 0.5 * (seat.from + seat.to).0;
        let area = part.blade().map_or_else(
            || SMALL_PART * part.diameter().0 * part.width().0.min(part.length().0),
            |blade| blade.hanging_drag_area().0,
        );
        mass += part.mass().0;
        weight += part.submerged_weight(water);
        drag += area;
        // Swivel, rudder and attractor hang on the line, not on the rig's own shaft.
        if seat.piece >= stack.front_hardware() {
            shaft_mass += part.mass().0;
            shaft_drag += area;
            mass_moment += part.mass().0 * middle;
            drag_moment += area * middle;
        }
    }
    let share = |moment: f64, whole: f64| Metres(if whole > 0.0 { moment / whole } else { 0.0 });
    let centre_of_mass = share(mass_moment, shaft_mass);
    let centre_of_drag = share(drag_moment, shaft_drag);
    let sink = if weight > 0.0 && drag > 0.0 {
        (2.0 * weight / (water.density().0 * drag)).sqrt()
    } else {
        0.0
    };
    let behind = (centre_of_mass - centre_of_drag).0;
    let attitude = if weight <= 0.0 {
        Attitude::Floats
    } else if behind > LEVEL {
        Attitude::TailFirst
    } else if behind < -LEVEL {
        Attitude::NoseFirst
    } else {
        Attitude::Level
    };
    let rig = Rig::new("", stack.clone());
    // What runs sinks as it is cast; of what does not, all parts are in the water's way.
    let cast = rig
        .as_ref()
        .ok()
        .and_then(|rig| NodeLoad::of_cast(rig, water, temperature).ok());
    let sink_speed = cast.map_or(MetresPerSecond(sink), |load| load.sink_speed(water));
    let runs = rig.and_then(|rig| turning(&rig, water, temperature, speed));
    let unfit = runs.as_ref().err().cloned();
    Figures {
        mass: Kilograms(mass),
        submerged_weight: Newtons(weight),
        centre_of_mass,
        centre_of_drag,
        sink_speed,
        attitude,
        running: runs.ok(),
        unfit,
    }
}

fn turning(
    rig: &Rig,
    water: &Water,
    temperature: Celsius,
    speed: MetresPerSecond,
) -> Result<Turning, Error> {
    let (load, at_speed) = rig.at(speed, water, temperature)?;
    Ok(Turning {
        at_speed,
        window: rig.window(water, temperature)?,
        drag_area: load.drag_area,
        bait: rig.bait_spin(speed, water),
        attractor: rig.attraction(speed, water),
        spin: rig.spin(speed, water, temperature)?,
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::blade::Family;
    use crate::rig::{
        BARE, BeadStyle, BodyShape, ClevisStyle, Dressing, HookStyle, Kind, Mount, Part, Piece,
        What,
    };
    use rstest::rstest;

    fn one(what: What, size: f64) -> Piece {
        Piece::one(Part::new(what, size, BARE).unwrap())
    }

    fn attitude(pieces: Vec<Piece>) -> Attitude {
        let mut stack = Stack::empty(Kind::TrollingWire, Mount::wire(30.0).unwrap());
        stack.pieces = pieces;
        let lake = Water::fresh(Celsius(15.0)).unwrap();
        figures(&stack, &lake, Celsius(15.0), MetresPerSecond(0.9)).attitude
    }

    fn blade() -> [Piece; 2] {
        [
            one(What::Clevis(ClevisStyle::Stirrup), 2.0),
            one(What::Blade(Family::French), 3.0),
        ]
    }

    fn beads() -> Piece {
        Piece::many(one(What::Bead(BeadStyle::Round), 6.0).part, 4)
    }

    /// CP-20 (common practice, no source): an unweighted or tail-weighted inline sinks tail first, a
    /// nose-weighted one nose first.
    #[rstest]
    #[case::unweighted(vec![], vec![], Attitude::TailFirst)]
    #[case::tail_weighted(
        vec![],
        vec![one(What::Body(BodyShape::TailWeight), 5.0), one(What::Dressing(Dressing::SiliconeSkirt), 50.0)],
        Attitude::TailFirst
    )]
    #[case::nose_weighted(vec![one(What::Body(BodyShape::Torpedo), 7.0)], vec![], Attitude::NoseFirst)]
    fn the_weight_decides_which_end_sinks_first(
        #[case] nose: Vec<Piece>,
        #[case] tail: Vec<Piece>,
        #[case] expected: Attitude,
    ) {
        let mut pieces = nose;
        pieces.extend(blade());
        pieces.push(beads());
        pieces.extend(tail);
        pieces.push(one(What::Hook(HookStyle::Treble), 4.0));
        assert_eq!(attitude(pieces), expected);
    }

    #[test]
    fn what_floats_says_so_and_an_empty_board_weighs_nothing() {
        assert_eq!(
            attitude(vec![one(What::Dressing(Dressing::FoamFloat), 14.0)]),
            Attitude::Floats
        );
        assert_eq!(attitude(Vec::new()), Attitude::Floats);
    }
}
