//! What an attractor ahead of the rig does at a speed.
//!
//! A dodger swings from side to side between two speeds and rolls over above; a rotating flasher swings, then turns full
//! circles, then skips; a string of blades turns. Windows, drag, lift and side force are designed: no published model is known
//! to us. The speeds of a 6 in dodger (from about 1 mph, rolling over above some 2) and of a rotating flasher (about 2 to
//! 3.5) are from memory, those of the others are judged from these; with the length they go as its square root, as the
//! speed does at which a swinging plate's weight and the water's push keep their ratio.

use super::{AttractorStyle, Material, Part, Rig, What};
use crate::blade::Window;
use crate::keyed::keyed;
use crate::units::{
    Hertz, INCH, MILE_PER_HOUR, MILLIMETRE, Metres, MetresPerSecond, Newtons, SquareMetres,
};
use crate::water::Water;

/// What an attractor does.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Stir {
    /// It trails, nearly still.
    Trails,
    /// It swings from side to side.
    Swings,
    /// It turns, or its blades do.
    Turns,
    /// It goes too fast: it rolls over or skips.
    RollsOver,
}

keyed!(Stir {
    Trails "trails" "trails",
    Swings "swings" "swings",
    Turns "turns" "turns",
    RollsOver "rolls_over" "rolls over",
});

/// An attractor at a speed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Attraction {
    /// Which it is.
    pub style: AttractorStyle,
    /// Its length.
    pub length: Metres,
    /// What it does.
    pub stir: Stir,
    /// Speeds between which it does what it is made for.
    pub window: Window,
    /// Swings or turns a second.
    pub beat: Hertz,
    /// Push to the side at each.
    pub side_force: Newtons,
    /// Drag area.
    pub drag_area: SquareMetres,
    /// How much of its weight the water carries.
    pub lift: Newtons,
}

/// A style's figures: length and speeds (mph) they are known for, drag area over plan area trailing, working and beyond,
/// side force over plan area, largest lift over plan area, and lengths travelled in one beat.
struct Row {
    length: Metres,
    from: f64,
    to: f64,
    drag: [f64; 3],
    side: f64,
    lift: f64,
    stride: f64,
}

/// Share of a speed over which one behaviour passes into the next.
const PASSES_WITHIN: f64 = 0.15;

impl AttractorStyle {
    /// Thickness of its sheet; from memory.
    pub(super) fn sheet(self) -> Metres {
        match self {
            Self::Dodger => 0.6 * MILLIMETRE,
            Self::RotatingFlasher => 2.5 * MILLIMETRE,
            Self::BladeString => 0.4 * MILLIMETRE,
            Self::Wing => 0.9 * MILLIMETRE,
        }
    }

    /// What it is made of: thin metal, or plastic hardly heavier than water.
    pub(super) fn material(self) -> Material {
        match self {
            Self::Dodger => Material::Steel,
            Self::RotatingFlasher => Material::LightPlastic,
            Self::BladeString => Material::Brass,
            Self::Wing => Material::HardPlastic,
        }
    }

    fn row(self) -> Row {
        let row = |inches: f64, (from, to), drag, [side, lift, stride]: [f64; 3]| Row {
            length: inches * INCH,
            from,
            to,
            drag,
            side,
            lift,
            stride,
        };
        match self {
            // 1.1 on the third of it that a swing turns to the water.
            Self::Dodger => row(6.0, (1.0, 2.0), [0.15, 0.385, 0.55], [0.6, 0.8, 3.2]),
            // 1.2 on the half of it that a turn shows.
            Self::RotatingFlasher => row(11.0, (2.0, 3.5), [0.30, 0.60, 0.70], [0.5, 0.5, 3.3]),
            Self::BladeString => row(11.0, (0.9, 3.0), [0.40, 0.60, 0.70], [0.1, 0.1, 0.35]),
            Self::Wing => row(4.0, (0.6, 2.2), [0.15, 0.385, 0.55], [0.4, 0.8, 3.2]),
        }
    }

    fn working(self) -> Stir {
        match self {
            Self::Dodger | Self::Wing => Stir::Swings,
            Self::RotatingFlasher | Self::BladeString => Stir::Turns,
        }
    }

    /// What it does too slow for its window: a flasher swings like a dodger.
    fn idle(self) -> Stir {
        match self {
            Self::RotatingFlasher => Stir::Swings,
            Self::Dodger | Self::Wing | Self::BladeString => Stir::Trails,
        }
    }
}

/// 0 well below a limit to 1 well above it.
fn past(speed: MetresPerSecond, limit: MetresPerSecond) -> f64 {
    let along = ((speed / limit - 1.0) / (2.0 * PASSES_WITHIN) + 0.5).clamp(0.0, 1.0);
    along * along * (3.0 - 2.0 * along)
}

impl Attraction {
    /// An attractor at a speed through the water.
    fn of(style: AttractorStyle, part: &Part, speed: MetresPerSecond, water: &Water) -> Self {
        let row = style.row();
        let scale = (part.length() / row.length).sqrt();
        let [from, to] = [row.from, row.to].map(|mph| mph * scale * MILE_PER_HOUR);
        let area = plan_area(part);
        let (works, over) = (past(speed, from), past(speed, to));
        let [trailing, working, beyond] = row.drag;
        // It hangs from its head and falls until it planes: what it weighs it comes to carry, up to what it can.
        let weight = part.submerged_weight(water);
        let can = water.dynamic_pressure(speed) * row.lift * area / weight.abs().max(1e-6);
        let share = trailing + (working - trailing) * works + (beyond - working) * over;
        let stir = if speed < from {
            style.idle()
        } else if speed <= to {
            style.working()
        } else {
            Stir::RollsOver
        };
        Self {
            style,
            length: part.length(),
            stir,
            window: Window { from, to: Some(to) },
            beat: Hertz(speed.0 / (row.stride * part.length().0) * works),
            side_force: Newtons(
                water.dynamic_pressure(speed) * row.side * area * works * (1.0 - over),
            ),
            drag_area: SquareMetres(share * area),
            lift: Newtons(weight * can * can / (1.0 + can * can)),
        }
    }
}

/// Three quarters of length times width; of a string of blades the third of it that is blade.
pub(super) fn plan_area(part: &Part) -> f64 {
    let filled = if part.what() == What::Attractor(AttractorStyle::BladeString) {
        0.3
    } else {
        0.75
    };
    filled * part.length().0 * part.width().0
}

impl Rig {
    /// What the attractor ahead of it does at a speed; `None` without one.
    pub fn attraction(&self, speed: MetresPerSecond, water: &Water) -> Option<Attraction> {
        self.stack()
            .pieces
            .iter()
            .find_map(|piece| match piece.part.what() {
                What::Attractor(style) => Some(Attraction::of(style, &piece.part, speed, water)),
                _ => None,
            })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::rig::BARE;
    use crate::units::Celsius;
    use rstest::rstest;

    fn at(style: AttractorStyle, inches: f64, mph: f64) -> Attraction {
        let part = Part::new(What::Attractor(style), inches, BARE).unwrap();
        let lake = Water::fresh(Celsius(15.0)).unwrap();
        Attraction::of(style, &part, mph * MILE_PER_HOUR, &lake)
    }

    /// From memory: a 6 in dodger swings from about 1 mph and rolls over above some 2; a rotating flasher wants 2 to 3.5.
    #[rstest]
    #[case(AttractorStyle::Dodger, 6.0, [0.7, 1.5, 2.4], [Stir::Trails, Stir::Swings, Stir::RollsOver])]
    #[case(AttractorStyle::RotatingFlasher, 11.0, [1.5, 2.5, 4.0], [Stir::Swings, Stir::Turns, Stir::RollsOver])]
    fn each_has_its_speeds(
        #[case] style: AttractorStyle,
        #[case] inches: f64,
        #[case] mph: [f64; 3],
        #[case] stirs: [Stir; 3],
    ) {
        assert_eq!(mph.map(|mph| at(style, inches, mph).stir), stirs);
        let [slow, working, _] = mph.map(|mph| at(style, inches, mph));
        assert!(slow.drag_area < working.drag_area && working.side_force.0 > 0.0);
        assert!((0.5..4.0).contains(&working.beat.0), "{:?}", working.beat);
    }

    #[test]
    fn a_longer_one_wants_more_speed_and_nothing_steps() {
        for &style in AttractorStyle::ALL {
            assert!(at(style, 8.0, 1.0).window.from > at(style, 6.0, 1.0).window.from);
            let drags: Vec<f64> = (1..250)
                .map(|i| at(style, 8.0, 0.02 * f64::from(i)).drag_area.0)
                .collect();
            for pair in drags.windows(2) {
                assert!(
                    (pair[1] / pair[0] - 1.0).abs() < 0.25,
                    "{style:?}: {pair:?}"
                );
            }
        }
    }
}
