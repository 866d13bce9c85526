//! What can be changed in the tank: read from the address, filled in where it says nothing.

use super::Stock;
use crate::Error;
use crate::forms::Typed;
use crate::screens::today::stepped;
use motilis_core::Range;
use motilis_core::blade::Family;
use motilis_core::book::{OwnedRig, RigId, RunningLine, SetupId, limits};
use motilis_core::line::{DiveFit, LEAD, Line, LineSetup, MASS, OutFor, Surroundings};
use motilis_core::rig::Rig;
use motilis_core::tackle::LineStock;
use motilis_core::units::{Kilograms, Metres, MetresPerSecond};
use motilis_view::screens::{Choice, Slider, TankForm};
use motilis_view::units::{Problem, Quantity, System, show};
use serde::Deserialize;
use std::sync::Arc;

/// The address or form as it was sent.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub(crate) struct RawTank {
    rig: String,
    setup: String,
    speed: Option<String>,
    out: Option<String>,
    weight: Option<String>,
    line: String,
    lead: Option<String>,
    depth: Option<String>,
    step: String,
    set: String,
    was_rig: String,
    was_setup: String,
    beside: String,
    bend: Option<String>,
    dunk_gone: String,
    touch_gone: String,
}

impl RawTank {
    /// A dunk test that was just thrown away.
    pub fn dunk_gone(&self) -> Option<i64> {
        self.dunk_gone.parse().ok()
    }

    /// A touch that was just thrown away.
    pub fn touch_gone(&self) -> Option<i64> {
        self.touch_gone.parse().ok()
    }

    /// Whether it says which rig it is about.
    pub fn names_a_rig(&self) -> bool {
        !self.rig.is_empty()
    }
}

/// What the tank shows once every gap is filled.
pub(crate) struct Settled {
    /// The rig.
    pub rig: (RigId, OwnedRig),
    /// Number of the set-up.
    pub setup: SetupId,
    /// The set-up as it is in use.
    pub in_use: LineSetup,
    /// Speed through the water.
    pub speed: MetresPerSecond,
    /// What is let out.
    pub out: Metres,
    /// Depth wanted.
    pub wanted: Metres,
    /// Whether every field could be read.
    pub sound: bool,
    /// Another rig beside this one.
    pub beside: Option<Rig>,
    /// What the bottom taught of this rod, line and weight; it is in use.
    pub fit: Option<DiveFit>,
}

impl Settled {
    /// The line of it, to be put out.
    pub fn line(&self) -> RunningLine {
        RunningLine {
            rig: self.rig.0,
            setup: self.setup,
            main: self.in_use.main,
            weight: self.in_use.weight.and_then(|weight| weight.mass()),
            lead: self.in_use.lead,
            out: self.out,
        }
    }
}

/// Fills the gaps and reads the fields.
///
/// # Errors
/// [`Error::NotFound`] for a rig or set-up that does not exist.
pub(crate) fn settle(raw: &RawTank, stock: &Stock) -> Result<(Settled, TankForm), Error> {
    let start = Start::new(raw, stock)?;
    let system = stock.context.system;
    let outing = &stock.context.outing;
    let mut fields = Fields::new(raw, &start, stock);
    let typed_speed = fields.speed.or(outing.speed.0);
    let speed = stepped(typed_speed, &raw.step, system);
    if !raw.step.is_empty() && fields.speed.field.problem.is_none() {
        fields.speed.fill(speed.0);
    }
    let lead = Metres(fields.lead.or(start.setup.lead.0));
    let wanted = Metres(fields.depth.or(outing.wanted_depth.0));
    let mass = fields
        .weight
        .as_mut()
        .map(|weight| Kilograms(weight.or(start.mass().map_or(0.0, |m| m.0))));
    let in_use = LineSetup {
        main: start.main,
        weight: match (start.setup.weight, mass) {
            (Some(weight), Some(mass)) => Some(weight.with_mass(mass)),
            (weight, _) => weight,
        },
        lead,
        ..start.setup.clone()
    };
    let fit = stock
        .calibrations
        .fit(start.setup_id, &in_use, stock.surroundings()?, &|id| {
            let rig = stock.rigs.iter().find(|(known, ..)| *known == id);
            rig.map(|(_, owned, _)| Arc::new(owned.rig.clone()))
        });
    let in_use = LineSetup {
        strum: fit.map_or(in_use.strum, |fit| fit.strum),
        ..in_use
    };
    let mut rig = start.rig.clone();
    if let Some(bend) = &mut fields.bend {
        let usual = rig.1.rig.front_blade().2.unwrap_or(USUAL_BEND);
        if let Some(bent) = rig.1.rig.bent(bend.or(usual))? {
            rig.1.rig = bent;
        }
    }
    let beside = raw.beside.parse().ok().map(RigId).and_then(|id| {
        let other = stock.rigs.iter().find(|(known, ..)| *known == id);
        other.map(|(_, owned, _)| owned.rig.clone())
    });
    let mut settled = Settled {
        rig,
        setup: start.setup_id,
        in_use,
        speed,
        out: Metres(0.0),
        wanted,
        sound: true,
        beside,
        fit,
    };
    let for_depth = raw.set == "depth" || fields.out.field.value.is_empty() && start.fresh;
    settled.out = if for_depth {
        let surroundings = stock.surroundings()?;
        fields.fill_out(&settled, surroundings, system, raw.set == "depth")?
    } else {
        Metres(fields.out.or(start.setup.reel.0 * 0.5))
    };
    settled.sound = fields
        .all()
        .iter()
        .all(|typed| typed.field.problem.is_none());
    let form = fields.into_form(&settled, stock);
    Ok((settled, form))
}

/// Rig, set-up and main line, with what was known of them before.
struct Start {
    rig: (RigId, OwnedRig),
    setup_id: SetupId,
    setup: LineSetup,
    main: LineStock,
    running: Option<RunningLine>,
    /// Whether the figures are to be filled in anew.
    fresh: bool,
}

impl Start {
    fn new(raw: &RawTank, stock: &Stock) -> Result<Self, Error> {
        let none = |what: &str| Error::NotFound(format!("there is no such {what}"));
        let running = stock.running;
        let rig_id = match raw.rig.as_str() {
            "" => running
                .map(|line| line.rig)
                .or(stock.rigs.first().map(|(id, ..)| *id)),
            number => number.parse().ok().map(RigId),
        };
        let rig = stock
            .rigs
            .iter()
            .find(|(id, ..)| Some(*id) == rig_id)
            .map(|(id, owned, _)| (*id, owned.clone()))
            .ok_or_else(|| none("rig"))?;
        let running = running.filter(|line| line.rig == rig.0);
        let another_rig = raw.was_rig != rig.0.0.to_string();
        let setup_id = if raw.setup.is_empty() || another_rig {
            running.map_or(rig.1.setup, |line| line.setup)
        } else {
            SetupId(raw.setup.parse().map_err(|_| none("line set-up"))?)
        };
        let setup = stock
            .setups
            .iter()
            .find(|(id, _)| *id == setup_id)
            .map(|(_, setup)| setup.clone())
            .ok_or_else(|| none("line set-up"))?;
        let fresh = another_rig || raw.was_setup != setup_id.0.to_string();
        let running = running.filter(|line| fresh && line.setup == setup_id);
        let main = if fresh {
            running.map_or(setup.main, |line| line.main)
        } else {
            LineStock::catalogue()
                .find(|stock| key(stock) == raw.line)
                .unwrap_or(setup.main)
        };
        Ok(Self {
            rig,
            setup_id,
            setup,
            main,
            running,
            fresh,
        })
    }

    fn mass(&self) -> Option<Kilograms> {
        let usual = self.setup.weight.and_then(|weight| weight.mass());
        self.running.and_then(|line| line.weight).or(usual)
    }
}

/// The fields as they were typed, or filled in.
struct Fields {
    speed: Typed,
    out: Typed,
    weight: Option<Typed>,
    lead: Typed,
    depth: Typed,
    bend: Option<Typed>,
}

impl Fields {
    fn new(raw: &RawTank, start: &Start, stock: &Stock) -> Self {
        let system = stock.context.system;
        let outing = &stock.context.outing;
        let field = |names, quantity, range, typed: &Option<String>, otherwise: Option<f64>| {
            let mut field = Typed::new(
                names,
                (quantity, system),
                range,
                typed.as_deref().unwrap_or(""),
            );
            if let (None, Some(figure)) = (typed, otherwise) {
                field.fill(figure);
            }
            field
        };
        // Figures of another rig or set-up do not belong to this one.
        let kept = |typed: &Option<String>| if start.fresh { None } else { typed.clone() };
        let out_name = if start.setup.lets_out_cable() {
            "Cable out"
        } else {
            "Line out"
        };
        let running = start.running;
        let lead = running.map_or(start.setup.lead, |line| line.lead);
        Self {
            speed: field(
                ("speed", "Speed"),
                Quantity::Speed,
                limits::SPEED,
                &raw.speed,
                Some(outing.speed.0),
            ),
            out: field(
                ("out", out_name),
                Quantity::Depth,
                limits::OUT,
                &if raw.was_rig.is_empty() {
                    raw.out.clone()
                } else {
                    kept(&raw.out)
                },
                running.map(|line| line.out.0),
            ),
            weight: start.mass().map(|mass| {
                field(
                    ("weight", "Weight"),
                    Quantity::Mass,
                    MASS,
                    &kept(&raw.weight),
                    Some(mass.0),
                )
            }),
            lead: field(
                ("lead", "Lead"),
                Quantity::Depth,
                LEAD,
                &kept(&raw.lead),
                Some(lead.0),
            ),
            depth: field(
                ("depth", "Rig at"),
                Quantity::Depth,
                limits::DEPTH,
                &raw.depth,
                Some(outing.wanted_depth.0),
            ),
            bend: (start.rig.1.rig.front_blade().0.family == Family::SoftWing).then(|| {
                field(
                    ("bend", "Wing bent in, 0 flat to 1"),
                    Quantity::Count,
                    BEND,
                    &if raw.was_rig.is_empty() {
                        raw.bend.clone()
                    } else {
                        kept(&raw.bend)
                    },
                    Some(start.rig.1.rig.front_blade().2.unwrap_or(USUAL_BEND)),
                )
            }),
        }
    }

    fn all(&self) -> Vec<&Typed> {
        let mut all = vec![&self.speed, &self.out, &self.lead, &self.depth];
        all.extend(&self.weight);
        all.extend(&self.bend);
        all
    }

    /// Lets out what the wanted depth needs; says beside the depth why it cannot be had.
    fn fill_out(
        &mut self,
        settled: &Settled,
        surroundings: Surroundings,
        system: System,
        asked: bool,
    ) -> Result<Metres, Error> {
        let sound = self.all().iter().all(|typed| typed.field.problem.is_none());
        let reel = settled.in_use.reel;
        let fallback = Metres(0.5 * reel.0);
        let otherwise = |fields: &mut Self, sentence: String| {
            if asked {
                fields.depth.field.problem = Some(Problem(sentence));
            }
            if fields.out.field.value.is_empty() {
                fields.out.fill(fallback.0);
            }
            Metres(fields.out.or(fallback.0))
        };
        if !sound {
            return Ok(otherwise(
                self,
                "Correct the other fields first, then set the depth.".into(),
            ));
        }
        let line = Line::new(&settled.rig.1.rig, &settled.in_use, surroundings)?;
        let depth = |metres: Metres| show(Quantity::Depth, metres.0, system);
        Ok(match line.out_for(settled.speed, settled.wanted)? {
            OutFor::Out(run) => {
                self.out.fill(run.out.0);
                run.out
            }
            OutFor::BelowBottom { bottom } => otherwise(
                self,
                format!("The bottom lies at {}; choose less.", depth(bottom)),
            ),
            OutFor::TooShallow { least } => otherwise(
                self,
                format!(
                    "This rig runs at {} or deeper; choose more, or go faster.",
                    depth(least)
                ),
            ),
            OutFor::TooDeep { deepest, enough } => {
                let mend = enough.map_or_else(
                    || "slow down or take another set-up".to_owned(),
                    |(mass, out)| {
                        let mass =
                            motilis_view::units::show_fraction(Quantity::Mass, mass.0, system);
                        format!("{mass} would do it with {} out", depth(out))
                    },
                );
                otherwise(
                    self,
                    format!("It runs no deeper than {}; {mend}.", depth(deepest)),
                )
            }
        })
    }

    fn into_form(self, settled: &Settled, stock: &Stock) -> TankForm {
        let system = stock.context.system;
        let choice = |id: i64, name: &str, chosen| Choice {
            value: id.to_string(),
            label: name.to_owned(),
            chosen,
        };
        let speed_unit = Quantity::Speed.unit(system);
        let out_unit = Quantity::Depth.unit(system);
        let most_speed = match system {
            System::Imperial => 4.0,
            System::Metric => 6.0,
        };
        let main = settled.in_use.main;
        TankForm {
            rig: stock
                .rigs
                .iter()
                .map(|(id, owned, _)| choice(id.0, &owned.rig.name, *id == settled.rig.0))
                .collect(),
            setup: stock
                .setups
                .iter()
                .map(|(id, setup)| choice(id.0, &setup.name, *id == settled.setup))
                .collect(),
            was: (settled.rig.0.0, settled.setup.0),
            speed: self.speed.field,
            out: self.out.field,
            weight: self.weight.map(|weight| weight.field),
            main: LineStock::catalogue()
                .map(|stock| Choice {
                    value: key(&stock),
                    label: format!("{} lb {}", stock.test_lb, stock.material.name()),
                    chosen: key(&stock) == key(&main),
                })
                .collect(),
            lead: self.lead.field,
            depth: self.depth.field,
            beside: std::iter::once(Choice {
                value: String::new(),
                label: "no other rig".into(),
                chosen: settled.beside.is_none(),
            })
            .chain(
                stock
                    .rigs
                    .iter()
                    .filter(|(id, ..)| *id != settled.rig.0)
                    .map(|(id, owned, _)| {
                        let name = &owned.rig.name;
                        let beside = settled.beside.as_ref();
                        choice(id.0, name, beside.is_some_and(|rig| rig.name == *name))
                    }),
            )
            .collect(),
            bend: self.bend.map(|bend| {
                let value = bend.field.value.parse().unwrap_or(USUAL_BEND);
                (bend.field, Slider::new(1.0, "0.05", value))
            }),
            speed_slider: Slider::new(most_speed, "0.1", speed_unit.from_si(settled.speed.0)),
            out_slider: Slider::new(
                out_unit.from_si(settled.in_use.reel.0).floor(),
                if system == System::Imperial {
                    "1"
                } else {
                    "0.5"
                },
                out_unit.from_si(settled.out.0),
            ),
        }
    }
}

/// How far in a soft wing is bent as it comes.
const USUAL_BEND: f64 = 0.6;
const BEND: Range = Range::closed(0.0, 1.0, "", "between 0 (flat) and 1 (bent in)");

/// A line of the catalogue as a form names it.
pub(super) fn key(stock: &LineStock) -> String {
    format!("{}-{}", stock.material.key(), stock.test_lb)
}
