use super::cast::{Act, Cast, Place, Tackle, Thrown};
use super::section::Section;
use crate::error::{Error, Range};
use crate::fields;
use crate::keyed::keyed;
use crate::motion::NodeLoad;
use crate::rig::{Kind, Rig};
use crate::tackle::{LineMaterial, LineStock, SinkerStyle, Weight, WeightMaterial};
use crate::towline::LineDrag;
use crate::units::{Celsius, GRAVITY, Kilograms, Metres, MetresPerSecond};
use crate::water::Water;

/// Height of the hand over the ground one stands on, m; from memory.
const HAND: f64 = 1.1;
/// Depth at the waist, m; from memory.
const WAIST: f64 = 1.0;
/// A tip is not held lower than this over the water, m.
const LOWEST_TIP: f64 = 0.1;

/// How the rod is held.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Held {
    /// Up: it lifts line and lure.
    High,
    /// Level with the water.
    Level,
    /// Down to the water: the lure runs deeper.
    Low,
}

keyed!(Held { High "high" "tip high", Level "level" "tip level", Low "low" "tip low" });

impl Held {
    /// Its angle over the horizon, rad (designed).
    fn angle(self) -> f64 {
        match self {
            Self::High => 60.0_f64,
            Self::Level => 0.0,
            Self::Low => -25.0,
        }
        .to_radians()
    }
}

/// Rod, reel and how the angler stands.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Angler {
    /// How far out from the bank.
    pub stand: Metres,
    /// How deep the water is there.
    pub knee: Metres,
    /// Length of the rod.
    pub rod: Metres,
    /// The farthest cast.
    pub longest: Metres,
    /// Line on the reel.
    pub on_reel: Metres,
    /// Line that a turn of the handle takes in.
    pub take_up: Metres,
}

impl Angler {
    /// Checks every figure.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        fields::STAND.check(self.stand.0)?;
        fields::ROD_LENGTH.check(self.rod.0)?;
        fields::LONGEST_CAST.check(self.longest.0)?;
        fields::ON_REEL.check(self.on_reel.0)?;
        fields::TAKE_UP.check(self.take_up.0)?;
        Ok(())
    }

    /// How deep one stands somewhere, m: never deeper than the waist, there one is out of depth.
    pub fn knee(section: &Section, stand: Metres) -> Metres {
        if stand.0 <= 0.0 {
            return Metres(0.0);
        }
        Metres(section.depth(stand).0.min(WAIST))
    }

    /// Where the tip is with the rod held so, pointing so many degrees from downstream.
    pub fn tip(&self, held: Held, angle_deg: f64) -> Place {
        let (up, out) = held.angle().sin_cos();
        let (across, down) = angle_deg.to_radians().sin_cos();
        let reach = self.rod.0 * out;
        let height = (HAND - self.knee.0 + self.rod.0 * up).max(LOWEST_TIP);
        [reach * down, self.stand.0 + reach * across, -height]
    }

    /// Turns of the handle a second for a speed.
    pub fn turns(&self, reel: MetresPerSecond) -> f64 {
        reel.0 / self.take_up.0
    }
}

/// What is done with a cast, as an angler thinks of it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Plan {
    /// Where it goes.
    pub thrown: Thrown,
    /// How the rod is held while it fishes.
    pub held: Held,
    /// Seconds that it is let sink before line is taken in.
    pub sink: f64,
    /// Speed of the reel after that.
    pub reel: MetresPerSecond,
    /// Whether the line is mended as it lands.
    pub mend: bool,
    /// Whether the tip follows the swing.
    pub follow: bool,
    /// When the tip goes up over something, seconds after it landed.
    pub lift: Option<f64>,
}

/// Seconds in which a rod is lifted, or follows round; designed.
const LIFT: f64 = 1.0;
const FOLLOW: f64 = 6.0;
/// How long a cast is followed at most, s.
pub const FOLLOWED: f64 = 30.0;

impl Plan {
    /// Checks every figure.
    ///
    /// # Errors
    /// [`Error::OutOfRange`], [`Error::Contradiction`] with the field.
    pub fn check(&self, angler: &Angler) -> Result<(), Error> {
        angler.check()?;
        fields::CAST_ANGLE.check(self.thrown.angle_deg)?;
        fields::CAST_DISTANCE.check(self.thrown.distance.0)?;
        fields::CAST_REEL.check(self.reel.0)?;
        fields::SINK.check(self.sink)?;
        if self.thrown.distance > angler.on_reel {
            return Err(Error::contradiction(
                fields::CAST_DISTANCE.key,
                format!(
                    "a cast of {:.1} m is longer than the {:.1} m of line on the reel; throw shorter, or fill the reel",
                    self.thrown.distance.0, angler.on_reel.0
                ),
            ));
        }
        Ok(())
    }

    /// The cast of it. One held level is thrown like any other; what differs is where the tip is.
    pub fn cast(&self, angler: &Angler) -> Cast {
        let angle = self.thrown.angle_deg;
        let tip = angler.tip(self.held, angle);
        let mut acts = Vec::new();
        let mut at = 0.0;
        let mut push = |act: Act| {
            at += act.seconds;
            acts.push(act);
            at
        };
        if self.mend {
            for act in Act::mend(tip) {
                push(act);
            }
        }
        if self.sink > 0.0 {
            push(Act::reel(self.sink, MetresPerSecond(0.0)));
        }
        let mut now = tip;
        if self.follow {
            now = angler.tip(self.held, 0.5 * angle);
            push(Act {
                tip: Some(now),
                ..Act::reel(FOLLOW, self.reel)
            });
        }
        let so_far = push(Act::reel(1e-3, self.reel));
        if let Some(lift) = self.lift {
            if lift > so_far {
                push(Act::reel(lift - so_far, self.reel));
            }
            let up = angler.tip(Held::High, if self.follow { 0.5 * angle } else { angle });
            now = [now[0], now[1], up[2].min(now[2])];
            push(Act {
                tip: Some(now),
                ..Act::reel(LIFT, self.reel)
            });
        }
        push(Act::reel(FOLLOWED, self.reel));
        Cast {
            tip,
            start: self.lands(angler),
            line: None,
            acts,
            seconds: FOLLOWED,
            until_rest: true,
        }
    }

    /// Where the lure lands: as far from the stand as it is thrown.
    pub fn lands(&self, angler: &Angler) -> Place {
        self.thrown.lands([0.0, angler.stand.0, 0.0])
    }
}

/// Line and weight of a rod that casts.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Spool {
    /// The main line.
    pub main: LineStock,
    /// A bumper at its end.
    pub bumper: Option<(LineStock, Metres)>,
    /// A weight up the line, with the leader behind it.
    pub weight: Option<(Weight, LineStock, Metres)>,
}

impl Spool {
    /// The tackle of a rig on this line.
    ///
    /// # Errors
    /// As [`Rig::at`].
    pub fn tackle(&self, rig: &Rig, water: &Water, at: Celsius) -> Result<Tackle, Error> {
        Ok(self.hang(NodeLoad::of_cast(rig, water, at)?, water))
    }

    /// The tackle of a lure on this line.
    pub fn hang(&self, lure: NodeLoad, water: &Water) -> Tackle {
        let segment = |stock: LineStock, length| stock.segment(length, None, water);
        Tackle {
            lure,
            leader: self.weight.map(|(weight, stock, length)| {
                let load = NodeLoad {
                    mass: weight.inertia(),
                    ..NodeLoad::of(weight.load(water))
                };
                (segment(stock, length), load)
            }),
            bumper: self.bumper.map(|(stock, length)| segment(stock, length)),
            main: Some(segment(self.main, Metres(0.0))),
            virtual_mass: None,
            drag: LineDrag::default(),
        }
    }
}

/// The casting rod of an angler, kept from outing to outing.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Gear {
    /// Length of the rod.
    pub rod: Metres,
    /// The farthest cast.
    pub longest: Metres,
    /// Line on the reel.
    pub on_reel: Metres,
    /// Line that a turn of the handle takes in.
    pub take_up: Metres,
    /// The main line.
    pub main: LineStock,
    /// A bumper at its end; none where it has no length left.
    pub bumper: LineStock,
    /// What is left of it.
    pub bumper_length: Metres,
    /// Mass of the shot up the line of what has no body of its own; none where it has no mass.
    pub shot: Kilograms,
    /// Leader behind that shot.
    pub lead: Metres,
}

impl Gear {
    /// What people begin with: nine feet of rod, 20 lb braid, a yard of 12 lb bumper (from memory).
    ///
    /// # Panics
    /// Never: both lines are in the catalogue.
    pub fn usual() -> Self {
        let stock =
            |material, test| LineStock::of_test(material, test).expect("a line of the catalogue");
        Self {
            rod: Metres(2.7),
            longest: Metres(22.0),
            on_reel: Metres(120.0),
            take_up: Metres(0.7),
            main: stock(LineMaterial::Braid, 20),
            bumper: stock(LineMaterial::Nylon, 12),
            bumper_length: Metres(0.9),
            shot: Kilograms(0.004),
            lead: Metres(0.6),
        }
    }

    /// Checks every figure.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        self.angler(Metres(0.0), Metres(0.0)).check()?;
        fields::BUMPER.check(self.bumper_length.0)?;
        fields::SHOT.check(self.shot.0)?;
        fields::SHOT_LEAD.check(self.lead.0)?;
        Ok(())
    }

    /// The angler with it, standing so far out and so deep.
    pub fn angler(&self, stand: Metres, knee: Metres) -> Angler {
        Angler {
            stand,
            knee,
            rod: self.rod,
            longest: self.longest,
            on_reel: self.on_reel,
            take_up: self.take_up,
        }
    }

    /// The line for a rig: with the shot for one that has no body.
    pub fn spool(&self, kind: Kind) -> Spool {
        let shot = Weight::Sinker(SinkerStyle::SplitShot, self.shot, WeightMaterial::Tin);
        Spool {
            main: self.main,
            bumper: (self.bumper_length.0 > 0.0).then_some((self.bumper, self.bumper_length)),
            weight: (!kind.has_body() && self.shot.0 > 0.0).then_some((
                shot,
                self.bumper,
                self.lead,
            )),
        }
    }
}

const LURE_WEIGHT: Range = Range::closed(-1.0, 20.0, "N", "between -1 and 20 N");
const LURE_DRAG: Range = Range::above(0.0, 0.1, "m²", "above 0 and at most 0.1 m²");
const LURE_MASS: Range = Range::above(0.0, 3.0, "kg", "above 0 and at most 3 kg");
const LINE_DIAMETER: Range = Range::above(0.0, 0.01, "m", "above 0 and at most 0.01 m");
const LINE_WEIGHT: Range = Range::closed(-0.1, 1.0, "N/m", "between -0.1 and 1 N/m");
const LINE_MASS: Range = Range::above(0.0, 0.1, "kg/m", "above 0 and at most 0.1 kg/m");
const LINE_STRUM: Range = Range::above(0.0, 10.0, "", "above 0 and at most 10");

/// Checks a lure that is given by its figures.
///
/// # Errors
/// [`Error::OutOfRange`] with the field, [`Error::Contradiction`] where its mass is less than its weight asks for.
pub fn lure_fields(weight_n: f64, drag_m2: f64, virtual_mass_kg: Option<f64>) -> Result<(), Error> {
    LURE_WEIGHT.check("submerged_weight_n", weight_n)?;
    LURE_DRAG.check("drag_area_m2", drag_m2)?;
    if let Some(mass) = virtual_mass_kg {
        LURE_MASS.check("virtual_mass_kg", mass)?;
        if mass < weight_n / GRAVITY {
            return Err(Error::contradiction(
                "virtual_mass_kg",
                "the mass is less than the weight under water asks for; give the mass with the water that is carried along",
            ));
        }
    }
    if virtual_mass_kg.is_none() && weight_n <= 0.0 {
        return Err(Error::contradiction(
            "virtual_mass_kg",
            "the mass of what floats does not follow from its weight; give it",
        ));
    }
    Ok(())
}

/// Checks a line that is given by its figures.
///
/// # Errors
/// [`Error::OutOfRange`] with the field.
pub fn line_fields(
    diameter_m: f64,
    weight_n_per_m: f64,
    strum: Option<f64>,
    virtual_kg_per_m: Option<f64>,
) -> Result<(), Error> {
    LINE_DIAMETER.check("diameter_m", diameter_m)?;
    LINE_WEIGHT.check("submerged_weight_n_per_m", weight_n_per_m)?;
    if let Some(strum) = strum {
        LINE_STRUM.check("strum", strum)?;
    }
    if let Some(mass) = virtual_kg_per_m {
        LINE_MASS.check("virtual_kg_per_m", mass)?;
    }
    Ok(())
}
