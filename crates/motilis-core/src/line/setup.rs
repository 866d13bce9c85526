use super::Learned;
use crate::error::{Error, Range};
use crate::fields;
use crate::tackle::{LineStock, Weight};
use crate::towline::LineDrag;
use crate::units::{Kilograms, Metres};

/// Where the line enters the water.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Start {
    /// From a rod tip so high above the water.
    RodTip {
        /// Height of the tip.
        height: Metres,
    },
    /// From a board's release at the surface.
    Board,
    /// From a release on a downrigger's ball.
    Downrigger {
        /// Mass of the ball.
        ball: Kilograms,
        /// Main line between release and leader.
        drop_back: Metres,
        /// Height of the release above the ball; 0 at the ball, more for stacked releases.
        above: Metres,
    },
}

/// What a day or a rod has otherwise than its set-up.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Changes {
    /// Another main line.
    pub main: Option<LineStock>,
    /// Another mass of the weight, for set-ups that have one.
    pub weight: Option<Kilograms>,
    /// Another lead.
    pub lead: Option<Metres>,
    /// Another height of the release above a downrigger's ball.
    pub above: Option<Metres>,
}

/// A length of lead-core or copper between leader and main line.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Core {
    /// What it is.
    pub stock: LineStock,
    /// How much of it is spooled on.
    pub length: Metres,
}

/// A colour of lead-core: 30 ft, dyed so that it can be counted.
pub const COLOUR: Metres = Metres(30.0 * 0.3048);

/// What a rod is rigged with, all but the rig.
#[derive(Debug, Clone, PartialEq)]
pub struct LineSetup {
    /// What it is called on the boat.
    pub name: String,
    /// Where the line enters the water.
    pub start: Start,
    /// The main line; behind a core its backing.
    pub main: LineStock,
    /// A sinking section between leader and main line.
    pub core: Option<Core>,
    /// What takes it down.
    pub weight: Option<Weight>,
    /// Main line between leader and weight; 0 where the leader is tied to it.
    pub ahead: Metres,
    /// The leader between weight and rig.
    pub leader: LineStock,
    /// Its length, the lead.
    pub lead: Metres,
    /// Strumming factor of the main line, the usual one or typed in.
    pub strum: f64,
    /// What its own bottom touches have taught.
    pub learned: Learned,
    /// The most that can be let out.
    pub reel: Metres,
}

/// Strumming factors that lines are computed with.
pub(super) const STRUMS: Range = Range::closed(0.5, 4.0, "", "between 0.5 and 4");

impl LineSetup {
    /// A rod to begin with: an ounce of tin on a bouncer, 10 lb nylon, 5 ft of lead.
    ///
    /// # Errors
    /// Never: the catalogue has these lines.
    pub fn usual() -> Result<Self, crate::Error> {
        use crate::tackle::{LineMaterial, SinkerStyle, WeightMaterial};
        use crate::units::{FOOT, OUNCE};
        let nylon = LineStock::of_test(LineMaterial::Nylon, 10)?;
        Ok(Self {
            name: "Bouncer rod".into(),
            start: Start::RodTip { height: 5.0 * FOOT },
            main: nylon,
            core: None,
            weight: Some(Weight::Sinker(
                SinkerStyle::BottomBouncer,
                OUNCE,
                WeightMaterial::Tin,
            )),
            ahead: Metres(0.0),
            leader: nylon,
            lead: 5.0 * FOOT,
            strum: crate::towline::STRUM,
            learned: Learned::default(),
            reel: 300.0 * FOOT,
        })
    }

    /// Whether every figure of it can be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        match self.start {
            Start::RodTip { height } => {
                fields::TIP.check(height.0)?;
            }
            Start::Board => {}
            Start::Downrigger {
                ball,
                drop_back,
                above,
            } => {
                fields::BALL.check(ball.0)?;
                fields::DROP_BACK.check(drop_back.0)?;
                fields::ABOVE.check(above.0)?;
            }
        }
        if let Some(mass) = self.weight.and_then(|weight| weight.mass()) {
            fields::WEIGHT.check(mass.0)?;
        }
        if let Some(core) = self.core {
            fields::CORE.check(core.length.0)?;
        }
        fields::AHEAD.check(self.ahead.0)?;
        fields::LEAD.check(self.lead.0)?;
        STRUMS.check("strum", self.strum)?;
        fields::REEL.check(self.reel.0)?;
        Ok(())
    }

    /// The set-up with what is otherwise that day or on that rod.
    pub fn changed(&self, changes: &Changes) -> Self {
        let mut setup = self.clone();
        setup.main = changes.main.unwrap_or(self.main);
        setup.lead = changes.lead.unwrap_or(self.lead);
        if let (Some(weight), Some(mass)) = (self.weight, changes.weight) {
            setup.weight = Some(weight.with_mass(mass));
        }
        if let (Start::Downrigger { above, .. }, Some(height)) = (&mut setup.start, changes.above) {
            *above = height;
        }
        setup
    }

    /// How the water holds its main line.
    pub(crate) fn drag(&self) -> LineDrag {
        LineDrag {
            strum: self.strum,
            held: self.learned.held,
            ..LineDrag::default()
        }
    }

    /// Height from which the straight piece in the air comes down; 0 for boards and downriggers.
    pub(super) fn tip_height(&self) -> Metres {
        match self.start {
            Start::RodTip { height } => height,
            Start::Board | Start::Downrigger { .. } => Metres(0.0),
        }
    }

    /// Whether what is let out is the cable of a downrigger.
    pub fn lets_out_cable(&self) -> bool {
        matches!(self.start, Start::Downrigger { .. })
    }
}
