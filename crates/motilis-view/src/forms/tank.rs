//! What can be changed in the tank: read from the address, filled in where it says nothing.

use super::Typed;
use super::conditions::stepped;
use crate::present::choices;
use crate::screens::{Choice, Slider, TankForm};
use crate::seen::Seen;
use crate::units::{Problem, Quantity, System};
use motilis_core::blade::Family;
use motilis_core::book::{RigId, RunningLine, SetupId};
use motilis_core::fields;
use motilis_core::line::{Changes, DiveFit, Line, LineSetup, OutFor, Surroundings};
use motilis_core::rig::Rig;
use motilis_core::tackle::LineStock;
use motilis_core::units::{Kilograms, Metres, MetresPerSecond};
use motilis_helm::{Cannot, Error, StandingRig, Tank};
use serde::Deserialize;
use std::sync::Arc;

/// The address or form as it was sent.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub struct RawTank {
    /// The rod it is to go on; empty for the one that carries its rig, or the next that is aboard.
    pub rod: String,
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

    /// Where the rig and set-up it is about are looked at.
    pub fn address(&self) -> String {
        let number = |text: &str| text.parse::<i64>().unwrap_or_default();
        let (rig, setup) = (number(&self.rig), number(&self.setup));
        if setup == 0 {
            return format!("/tank?rig={rig}");
        }
        format!("/tank?rig={rig}&setup={setup}&was_rig={rig}")
    }

    /// Whether it says which rig it is about.
    pub fn names_a_rig(&self) -> bool {
        !self.rig.is_empty()
    }
}

/// What the tank shows once every gap is filled.
pub struct Settled {
    /// The rig as it stands.
    pub rig: StandingRig,
    /// The rig that runs, bent as the tank bends it.
    pub runs: Arc<Rig>,
    /// Number of the set-up.
    pub setup: SetupId,
    /// The set-up as it is in use.
    pub in_use: Arc<LineSetup>,
    /// Speed through the water.
    pub speed: MetresPerSecond,
    /// What is let out.
    pub out: Metres,
    /// Depth wanted.
    pub wanted: Metres,
    /// Whether every field could be read.
    pub sound: bool,
    /// Another rig beside this one.
    pub beside: Option<Arc<Rig>>,
    /// What the bottom taught of this rod, line and weight; it is in use.
    pub fit: Option<DiveFit>,
}

impl Settled {
    /// The line of it, to be put out.
    pub fn line(&self) -> RunningLine {
        RunningLine {
            rig: self.rig.id,
            setup: self.setup,
            main: self.in_use.main,
            weight: self.in_use.weight.and_then(|weight| weight.mass()),
            lead: self.in_use.lead,
            out: self.out,
        }
    }
}

/// The tank as it stands once every gap is filled.
pub enum Settling {
    /// A rig that runs, with the form.
    Runs(Box<(Settled, TankForm)>),
    /// A rig that cannot.
    Cannot(Cannot),
    /// There is no rig yet.
    Empty,
}

/// Rods that a line of the tank can go on: the one that carries its rig, another, or a new one.
fn rods(tank: &Tank<'_, '_>, rig: RigId) -> Vec<Choice> {
    let carries = |line: &RunningLine| line.rig == rig;
    let any = tank.running.iter().any(|(_, line)| carries(line));
    let next = tank.running.iter().map(|(rod, _)| *rod).max().unwrap_or(0) + 1;
    let mut rods: Vec<Choice> = tank
        .running
        .iter()
        .map(|(rod, line)| Choice {
            value: rod.to_string(),
            label: format!("on rod {rod}"),
            chosen: carries(line) || (!any && *rod == 1),
        })
        .collect();
    if next <= 16 {
        rods.push(Choice {
            value: next.to_string(),
            label: format!("on a new rod, {next}"),
            chosen: rods.is_empty(),
        });
    }
    rods
}

/// Fills the gaps and reads the fields.
///
/// # Errors
/// [`Error::Missing`] for a rig or set-up that does not exist.
pub fn settle(raw: &RawTank, tank: &Seen<Tank<'_, '_>>) -> Result<Settling, Error> {
    let Some(start) = Start::new(raw, tank)? else {
        return Ok(Settling::Empty);
    };
    let runs = match start.rig.runs() {
        Ok(runs) => Arc::clone(runs),
        Err(cannot) => return Ok(Settling::Cannot(cannot)),
    };
    let system = tank.device.system;
    let outing = &tank.here.outing;
    let mut fields = Fields::new(raw, &start, &runs, tank);
    let typed_speed = fields.speed.or(outing.speed.0);
    let speed = stepped(typed_speed, &raw.step, system);
    if !raw.step.is_empty() && fields.speed.field.problem.is_none() {
        fields.speed.fill(speed.0);
    }
    // A speed that stands there as it was shown is the outing's own, not its rounding.
    let speed = fields.speed.unless_shown(outing.speed.0, speed.0);
    let lead = Metres(fields.lead.or(start.lead().0));
    let lead = Metres(fields.lead.unless_shown(start.lead().0, lead.0));
    let wanted = fields.depth.or(outing.wanted_depth.0);
    let wanted = Metres(fields.depth.unless_shown(outing.wanted_depth.0, wanted));
    let usual = start.mass().map_or(0.0, |mass| mass.0);
    let mass = fields.weight.as_mut().map(|weight| {
        let typed = weight.or(usual);
        Kilograms(weight.unless_shown(usual, typed))
    });
    let changes = Changes {
        main: Some(start.main),
        weight: mass,
        lead: Some(lead),
        above: None,
    };
    let in_use = tank.book.in_use(start.setup_id, &changes)?;
    let runs = match &mut fields.bend {
        None => runs,
        Some(bend) => {
            let bend = bend.or(bend_of(&runs).unwrap_or(USUAL_BEND));
            runs.bent(bend)?.map_or(runs, Arc::new)
        }
    };
    let beside = raw.beside.parse().ok().map(RigId);
    let mut settled = Settled {
        rig: start.rig.clone(),
        runs,
        setup: start.setup_id,
        in_use: in_use.setup,
        speed: MetresPerSecond(speed),
        out: Metres(0.0),
        wanted,
        sound: true,
        beside: beside.and_then(|id| tank.runs(id).cloned()),
        fit: in_use.fit,
    };
    if let Err(why) = settled
        .runs
        .shaft(&tank.surroundings.water, tank.surroundings.temperature)
    {
        return Ok(Settling::Cannot(Cannot {
            name: settled.rig.name,
            why,
            mend: motilis_helm::Mend::Bench(settled.rig.id),
        }));
    }
    let for_depth = raw.set == "depth" || fields.out.field.value.is_empty() && start.fresh;
    settled.out = if for_depth {
        fields.fill_out(&settled, tank.surroundings, system, raw.set == "depth")?
    } else {
        let usual = start.setup.reel.0 * 0.5;
        let out = fields.out.or(usual);
        let ran = start.running.map_or(usual, |line| line.out.0);
        Metres(fields.out.unless_shown(ran, out))
    };
    settled.sound = fields
        .all()
        .iter()
        .all(|typed| typed.field.problem.is_none());
    let form = fields.into_form(&settled, tank)?;
    Ok(Settling::Runs(Box::new((settled, form))))
}

/// Rig, set-up and main line, with what was known of them before.
struct Start {
    rig: StandingRig,
    setup_id: SetupId,
    setup: Arc<LineSetup>,
    main: LineStock,
    running: Option<RunningLine>,
    /// Whether the figures are to be filled in anew.
    fresh: bool,
}

impl Start {
    fn new(raw: &RawTank, tank: &Tank<'_, '_>) -> Result<Option<Self>, Error> {
        let none = |what: &str| Error::Missing(format!("such {what}"));
        let asked = match raw.rig.as_str() {
            // A rig that runs is looked at even when it was thrown away since.
            "" => match tank
                .running(None)
                .map(|line| line.rig)
                .or(tank.rigs.first().map(|rig| rig.id))
            {
                Some(id) => id,
                None => return Ok(None),
            },
            number => RigId(number.parse().map_err(|_| none("rig"))?),
        };
        let rig = tank.book.rig(asked)?;
        let running = tank.running(Some(rig.id));
        let another_rig = raw.was_rig != rig.id.0.to_string();
        let setup_id = if raw.setup.is_empty() || another_rig {
            running.map_or(rig.setup, |line| line.setup)
        } else {
            SetupId(raw.setup.parse().map_err(|_| none("line set-up"))?)
        };
        let setup = tank.book.setup(setup_id)?;
        let fresh = another_rig || raw.was_setup != setup_id.0.to_string();
        let running = running.filter(|line| fresh && line.setup == setup_id);
        let main = if fresh {
            running.map_or(setup.main, |line| line.main)
        } else {
            LineStock::catalogue()
                .find(|stock| key(stock) == raw.line)
                .unwrap_or(setup.main)
        };
        Ok(Some(Self {
            rig,
            setup_id,
            setup,
            main,
            running,
            fresh,
        }))
    }

    fn lead(&self) -> Metres {
        self.running.map_or(self.setup.lead, |line| line.lead)
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
    fn new(raw: &RawTank, start: &Start, runs: &Rig, tank: &Seen<Tank<'_, '_>>) -> Self {
        let system = tank.device.system;
        let outing = &tank.here.outing;
        let field = |(asked, label), quantity, typed: &Option<String>, otherwise: Option<f64>| {
            let shown = typed.as_deref().unwrap_or("");
            let mut field = Typed::new(asked, label, (quantity, system), shown);
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
        let lead = start.lead();
        Self {
            speed: field(
                (fields::SPEED, "Speed"),
                Quantity::Speed,
                &raw.speed,
                Some(outing.speed.0),
            ),
            out: field(
                (fields::OUT, out_name),
                Quantity::Depth,
                &if raw.was_rig.is_empty() {
                    raw.out.clone()
                } else {
                    kept(&raw.out)
                },
                running.map(|line| line.out.0),
            ),
            weight: start.mass().map(|mass| {
                field(
                    (fields::WEIGHT, "Weight"),
                    Quantity::Mass,
                    &kept(&raw.weight),
                    Some(mass.0),
                )
            }),
            lead: field(
                (fields::LEAD, "Lead"),
                Quantity::Depth,
                &kept(&raw.lead),
                Some(lead.0),
            ),
            depth: field(
                (fields::WANTED_DEPTH, "Rig at"),
                Quantity::Depth,
                &raw.depth,
                Some(outing.wanted_depth.0),
            ),
            bend: bends(runs).then(|| {
                field(
                    (fields::BEND, "Wing bent in, 0 flat to 1"),
                    Quantity::Count,
                    &if raw.was_rig.is_empty() {
                        raw.bend.clone()
                    } else {
                        kept(&raw.bend)
                    },
                    Some(bend_of(runs).unwrap_or(USUAL_BEND)),
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
        let line = Line::new(&settled.runs, &settled.in_use, surroundings)?;
        let depth = |metres: Metres| system.depth(metres);
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
                        let mass = system.mass_in_fractions(mass);
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

    fn into_form(self, settled: &Settled, tank: &Seen<Tank<'_, '_>>) -> Result<TankForm, Error> {
        let system = tank.device.system;
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
        let mut rigs = choices(
            tank.rigs.iter().map(|rig| (rig.id.0, rig.name.as_str())),
            Some(settled.rig.id.0),
        );
        if rigs.iter().all(|rig| !rig.chosen) {
            let label = format!("{} (thrown away)", settled.rig.name);
            rigs.insert(0, choice(settled.rig.id.0, &label, true));
        }
        let setups = tank.book.setups()?.iter();
        Ok(TankForm {
            rig: rigs,
            setup: choices(
                setups.map(|(id, setup)| (id.0, setup.name.as_str())),
                Some(settled.setup.0),
            ),
            was: (settled.rig.id.0, settled.setup.0),
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
            rod: rods(tank, settled.rig.id),
            beside: std::iter::once(Choice {
                value: String::new(),
                label: "no other rig".into(),
                chosen: settled.beside.is_none(),
            })
            .chain(
                tank.rigs
                    .iter()
                    .filter(|rig| rig.id != settled.rig.id && rig.stands.is_ok())
                    .map(|rig| {
                        let beside = settled.beside.as_ref();
                        choice(
                            rig.id.0,
                            &rig.name,
                            beside.is_some_and(|one| one.name == rig.name),
                        )
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
        })
    }
}

/// Whether the rig has a wing that fingers bend.
fn bends(rig: &Rig) -> bool {
    rig.front_blade()
        .is_some_and(|(blade, _)| blade.family == Family::SoftWing)
}

fn bend_of(rig: &Rig) -> Option<f64> {
    rig.front_blade().and_then(|(_, bend)| bend)
}

/// How far in a soft wing is bent as it comes.
const USUAL_BEND: f64 = 0.6;

/// A line of the catalogue as a form names it.
pub(crate) fn key(stock: &LineStock) -> String {
    format!("{}-{}", stock.material.key(), stock.test_lb)
}
