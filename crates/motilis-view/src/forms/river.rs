//! What can be set on the page of a river: read from the address, filled in where it says nothing.

use super::{Texts, Typed, problem};
use crate::screens::Field;
use crate::units::{Quantity, System};
use motilis_core::book::{RigId, RunId};
use motilis_core::fields;
use motilis_core::rig::Rig;
use motilis_core::river::{
    Angler, Far, GridCast, Held, Mark, Plan, Presentation, Run, Section, Thrown, Way, Zone, grid,
};
use motilis_core::units::{FOOT, Metres, MetresPerSecond};
use motilis_helm::{Error, River};
use std::sync::Arc;

/// How high over the bed a fish lies, and how far it moves, m (designed).
const LIES_OVER: f64 = 0.3;
pub(crate) const REACH: Metres = Metres(1.0);
/// Height over weed or bed that a cast can be asked to keep (designed: a foot).
pub(crate) const KEPT_OVER: Metres = FOOT;
/// Turns of the handle a second to begin with; from memory.
const TURNS: f64 = 0.6;
/// Two stands nearer than this are one, m.
const SAME_STAND: f64 = 0.6;

/// A place where a fish lies, from the head of the run.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Lie {
    /// Down from the head.
    pub along: f64,
    /// Out from the bank.
    pub across: f64,
    /// The mark it is, if it is one.
    pub mark: Option<Mark>,
}

/// The page as it stands once every gap is filled.
pub struct Settled {
    /// The run.
    pub run_id: RunId,
    /// The run.
    pub run: Run,
    /// Its water.
    pub section: Section,
    /// What is cast.
    pub rig: Option<(RigId, String, Arc<Rig>)>,
    /// Who casts.
    pub angler: Angler,
    /// How far below the head one stands.
    pub stand: Metres,
    /// How it is cast.
    pub plan: Plan,
    /// Which cast of the grid it is.
    pub grid: Option<(Way, Far)>,
    /// Where a fish lies.
    pub lie: Option<Lie>,
    /// Whether a height over weed or bed is to be kept instead.
    pub over: bool,
    /// The fields.
    pub fields: Vec<Field>,
    /// Whether every field could be read, and the cast can be made.
    pub sound: bool,
    /// What cannot be, where it belongs to no field.
    pub refusal: Option<String>,
}

impl Settled {
    /// Where fish are looked for: round a lie, or near the bed.
    pub fn zone(&self) -> Zone {
        match self.lie {
            None if self.over => Zone::Over(KEPT_OVER),
            None => Zone::Bed,
            Some(lie) => {
                let floor = self.section.floor(Metres(lie.across)).0;
                Zone::Lie {
                    place: [
                        lie.along - self.stand.0,
                        lie.across,
                        (floor - LIES_OVER).max(0.1),
                    ],
                    reach: REACH,
                }
            }
        }
    }

    /// Casts of the outing that were made from here.
    pub fn made_here<'r>(
        &'r self,
        river: &'r River<'_, '_>,
    ) -> impl Iterator<Item = &'r motilis_core::book::RiverCast> {
        river
            .casts
            .iter()
            .map(|(_, cast)| cast)
            .filter(|cast| cast.run == self.run_id && near(cast.stand, self.stand))
    }

    /// Casts of the grid that were made from here.
    pub fn grid_made(&self, river: &River<'_, '_>) -> Vec<(Way, Far)> {
        let casts = self.made_here(river);
        casts
            .filter(|cast| cast.presentation.spins())
            .filter_map(|cast| cast.grid)
            .collect()
    }

    /// How many casts of a presentation were made from here.
    pub fn made_of(&self, river: &River<'_, '_>, presentation: Presentation) -> u32 {
        let of = |cast: &&motilis_core::book::RiverCast| cast.presentation == presentation;
        u32::try_from(self.made_here(river).filter(of).count()).unwrap_or(u32::MAX)
    }

    /// The state as an address says it: with the cast as it is, or with another one.
    pub fn state(&self, thrown: Option<&str>) -> Vec<(&'static str, String)> {
        let value = |name: &str| {
            let field = self.fields.iter().find(|field| field.name == name);
            field.map_or_else(String::new, |field| field.value.clone())
        };
        let mut state = vec![("run", self.run_id.0.to_string())];
        if let Some((id, ..)) = &self.rig {
            state.push(("rig", id.0.to_string()));
        }
        for name in [
            fields::STAND_ALONG.form,
            fields::STAND.form,
            fields::SINK.form,
            fields::HANDLE.form,
            fields::LIFT.form,
        ] {
            let value = value(name);
            if !value.is_empty() {
                state.push((name, value));
            }
        }
        state.push(("held", self.plan.held.key().to_owned()));
        if self.plan.mend {
            state.push(("mend", "yes".to_owned()));
        }
        if self.plan.follow {
            state.push(("follow", "yes".to_owned()));
        }
        match self.lie {
            Some(lie) if lie.mark.is_some() => {
                let mark = self
                    .run
                    .marks
                    .iter()
                    .position(|mark| Some(*mark) == lie.mark);
                state.push(("lie", format!("mark-{}", mark.unwrap_or_default())));
            }
            Some(lie) => {
                state.push(("lie", "at".to_owned()));
                state.push(("at", format!("{:.2},{:.2}", lie.along, lie.across)));
            }
            None if self.over => state.push(("lie", "over".to_owned())),
            None => {}
        }
        match (thrown, self.grid) {
            (Some("next"), _) => {}
            (Some(other), _) => state.push(("g", other.to_owned())),
            (None, Some((way, far))) => state.push(("g", grid_key(way, far))),
            (None, None) => {
                let angle = fields::CAST_ANGLE.form;
                state.push((angle, value(angle)));
                let distance = fields::CAST_DISTANCE.form;
                state.push((distance, value(distance)));
            }
        }
        state
    }
}

/// Whether two stands are one.
pub(crate) fn near(a: Metres, b: Metres) -> bool {
    (a - b).0.abs() < SAME_STAND
}

/// A cast of the grid as an address names it.
pub(crate) fn grid_key(way: Way, far: Far) -> String {
    format!("{}-{}", way.key(), far.key())
}

/// The cast of the grid of a key.
pub fn grid_of(key: &str) -> Option<(Way, Far)> {
    let (way, far) = key.split_once('-')?;
    Some((Way::from_key(way)?, Far::from_key(far)?))
}

/// The fields of the page as they are typed.
struct Fields {
    angle: Typed,
    distance: Typed,
    sink: Typed,
    turns: Typed,
    lift: Typed,
    stand: Typed,
    out: Typed,
}

impl Fields {
    fn new(raw: &Texts, system: System) -> Self {
        let typed = |asked: fields::Field, label, quantity| {
            let text = raw.get(asked.form).map_or("", String::as_str);
            Typed::new(asked, label, (quantity, system), text)
        };
        Self {
            angle: typed(
                fields::CAST_ANGLE,
                "Angle, ° from straight downstream",
                Quantity::Count,
            ),
            distance: typed(fields::CAST_DISTANCE, "Distance", Quantity::Depth),
            sink: typed(fields::SINK, "Let sink, s", Quantity::Count),
            turns: typed(fields::HANDLE, "Reel, turns a second", Quantity::Count),
            lift: typed(fields::LIFT, "Lift the tip after, s", Quantity::Count),
            stand: typed(
                fields::STAND_ALONG,
                "Stand, down from the head",
                Quantity::Depth,
            ),
            out: typed(fields::STAND, "Out from the bank", Quantity::Depth),
        }
    }

    fn each(&mut self) -> [&mut Typed; 7] {
        [
            &mut self.angle,
            &mut self.distance,
            &mut self.sink,
            &mut self.turns,
            &mut self.lift,
            &mut self.stand,
            &mut self.out,
        ]
    }
}

/// The value of a field; filled with what it would be where nothing stands in it.
fn value_or(typed: &mut Typed, usual: f64) -> f64 {
    if typed.field.value.trim().is_empty() {
        typed.fill(usual);
        return usual;
    }
    let read = typed.or(usual);
    typed.unless_shown(usual, read)
}

/// What the page shows; `None` where the river has no runs.
///
/// # Errors
/// [`Error::Core`] for a run of the file that cannot be.
pub fn settle(
    raw: &Texts,
    river: &River<'_, '_>,
    system: System,
) -> Result<Option<Settled>, Error> {
    let value = |name: &str| raw.get(name).map_or("", String::as_str);
    let number = |name: &str| value(name).parse::<i64>().ok();
    let last = river.casts.last().map(|(_, cast)| cast);
    let known = |id: RunId| river.runs.iter().find(|(known, _)| *known == id);
    let chosen = number("run")
        .and_then(|id| known(RunId(id)))
        .or_else(|| known(last?.run))
        .or_else(|| river.runs.first());
    let Some((run_id, run)) = chosen else {
        return Ok(None);
    };
    let section = run.section()?;
    let rig = number("rig")
        .map(RigId)
        .or_else(|| last?.rig)
        .filter(|id| river.rig(*id).is_some())
        .or_else(|| first_rig(river));
    let rig = rig.and_then(|id| {
        let rig = river.rig(id)?;
        Some((id, rig.name.clone(), Arc::clone(rig)))
    });
    let mut typed = Fields::new(raw, system);
    let here = last.filter(|cast| cast.run == *run_id);
    let usual_stand = here.map_or_else(
        || {
            if river.school.steps_up() {
                run.length.0
            } else {
                0.0
            }
        },
        |cast| cast.stand.0,
    );
    let stand = Metres(value_or(&mut typed.stand, usual_stand));
    let out = Metres(value_or(&mut typed.out, run.wade.0));
    within(run, stand, out, &mut typed, system);
    let angler = river.gear.angler(out, Angler::knee(&section, out));
    let mut settled = Settled {
        run_id: *run_id,
        run: run.clone(),
        angler,
        stand,
        rig,
        grid: None,
        lie: lie(raw, run),
        over: value("lie") == "over",
        plan: Plan {
            thrown: Thrown {
                angle_deg: 90.0,
                distance: Metres(10.0),
            },
            held: Held::from_key(value("held")).unwrap_or(Held::Level),
            sink: value_or(&mut typed.sink, 0.0),
            reel: MetresPerSecond(value_or(&mut typed.turns, TURNS) * angler.take_up.0),
            mend: value("mend") == "yes",
            follow: value("follow") == "yes",
            lift: typed.lift.optional(),
        },
        fields: Vec::new(),
        sound: false,
        refusal: None,
        section,
    };
    throw(&mut settled, &mut typed, river, value("g"), system);
    judge(&mut settled, &mut typed);
    settled.sound = settled.refusal.is_none()
        && typed
            .each()
            .iter()
            .all(|typed| typed.field.problem.is_none());
    let Fields {
        angle,
        distance,
        sink,
        turns,
        lift,
        stand,
        out,
    } = typed;
    settled.fields = [angle, distance, sink, turns, lift, stand, out]
        .map(|typed| typed.field)
        .into();
    Ok(Some(settled))
}

/// One stands in the run, and no farther out than one can wade.
fn within(run: &Run, stand: Metres, out: Metres, typed: &mut Fields, system: System) {
    if stand > run.length {
        typed.stand.field.problem = Some(crate::units::Problem(format!(
            "Stand {} lies beyond the tail-out; the run is {} long.",
            system.depth(stand),
            system.depth(run.length)
        )));
    }
    if out > run.wade {
        typed.out.field.problem = Some(crate::units::Problem(format!(
            "Out {} is farther than you said one can wade here, {}; stand nearer the bank.",
            system.depth(out),
            system.depth(run.wade)
        )));
    }
}

/// Puts what cannot be beside its field.
fn judge(settled: &mut Settled, typed: &mut Fields) {
    let Err(error) = settled.plan.check(&settled.angler) else {
        return;
    };
    let key = error.quantity().to_owned();
    let sentence = problem(&error);
    let field = match key.as_str() {
        key if key == fields::CAST_REEL.key => Some(&mut typed.turns),
        _ => typed
            .each()
            .into_iter()
            .find(|typed| typed.is_meant(&error)),
    };
    match field {
        Some(typed) if typed.field.problem.is_none() => typed.field.problem = Some(sentence),
        Some(_) => {}
        None => settled.refusal = Some(sentence.0),
    }
}

/// Where it is thrown: as typed or dragged, else the cast of the grid that is asked for, else the next one.
fn throw(
    settled: &mut Settled,
    typed: &mut Fields,
    river: &River<'_, '_>,
    asked: &str,
    system: System,
) {
    let casts = grid(&settled.section, &settled.angler, river.school);
    let made = settled.grid_made(river);
    let find = |(way, far): (Way, Far)| casts.iter().find(|one| one.way == way && one.far == far);
    let next = casts
        .iter()
        .find(|one| !made.contains(&(one.way, one.far)))
        .or(casts.first());
    let asked: Option<&GridCast> = grid_of(asked).and_then(find);
    let is_typed = |typed: &Typed| !typed.field.value.trim().is_empty();
    let free = is_typed(&typed.angle) || is_typed(&typed.distance);
    // What stands in the fields as the grid filled them is still the grid's.
    let stands = |one: &&GridCast| {
        let shown = system.depth(one.thrown.distance).typed();
        typed.angle.field.value.trim() == one.thrown.angle_deg.to_string()
            && typed.distance.field.value.trim() == shown
    };
    let of_grid = if free {
        asked.filter(stands).or(casts.iter().find(stands))
    } else {
        asked.or(next)
    };
    if let Some(one) = of_grid {
        typed.angle.fill(one.thrown.angle_deg);
        typed.distance.fill(one.thrown.distance.0);
        settled.plan.thrown = one.thrown;
        settled.grid = Some((one.way, one.far));
        return;
    }
    let usual = asked.or(next).map_or(settled.plan.thrown, |one| one.thrown);
    settled.plan.thrown = Thrown {
        angle_deg: value_or(&mut typed.angle, usual.angle_deg),
        distance: Metres(value_or(&mut typed.distance, usual.distance.0)),
    };
}

/// Where a fish lies: at a mark, or at a place that was tapped.
fn lie(raw: &Texts, run: &Run) -> Option<Lie> {
    let value = raw.get("lie").map_or("", String::as_str);
    if let Some(place) = value.strip_prefix("mark-") {
        let mark = *run.marks.get(place.parse::<usize>().ok()?)?;
        return Some(Lie {
            along: mark.along.0,
            across: mark.across.0,
            mark: Some(mark),
        });
    }
    if value != "at" {
        return None;
    }
    let (along, across) = raw.get("at")?.split_once(',')?;
    let figure = |text: &str| text.trim().parse::<f64>().ok().filter(|it| it.is_finite());
    let width = run.stations.last().map_or(0.0, |station| station.offset.0);
    Some(Lie {
        along: figure(along)?.clamp(0.0, run.length.0),
        across: figure(across)?.clamp(0.0, width),
        mark: None,
    })
}

/// The address of the best cast for what the page is asked for: the page itself where nothing better is found.
///
/// # Errors
/// As [`settle`].
pub fn found(raw: &Texts, river: &River<'_, '_>, system: System) -> Result<String, Error> {
    let Some(settled) = settle(raw, river, system)? else {
        return Ok("/river".to_owned());
    };
    let mut state = settled.state(None);
    let tackle = crate::present::tackle(river, &settled)?;
    let best = tackle.filter(|_| settled.sound).and_then(|tackle| {
        let zone = settled.zone();
        crate::present::scene(river, &settled, &tackle).best_cast(&zone)
    });
    if let Some(best) = best {
        let plan = best.plan;
        let mut put = |name: &'static str, value: String| {
            state.retain(|(known, _)| *known != name);
            state.push((name, value));
        };
        state_of_plan(&plan, &settled.angler, system, &mut put);
        let stays = best.path.rests_in(&settled.zone());
        put(
            "done",
            if stays || best.zone_seconds >= 0.5 {
                "best"
            } else {
                "none"
            }
            .to_owned(),
        );
    }
    state.retain(|(name, _)| *name != "g");
    Ok(format!(
        "/river?{}",
        crate::present::river_query(&state, system)
    ))
}

fn state_of_plan(
    plan: &Plan,
    angler: &Angler,
    system: System,
    put: &mut impl FnMut(&'static str, String),
) {
    let tenths = |figure: f64| format!("{figure:.1}");
    put(
        fields::CAST_ANGLE.form,
        format!("{:.0}", plan.thrown.angle_deg),
    );
    put(
        fields::CAST_DISTANCE.form,
        system.depth(plan.thrown.distance).typed(),
    );
    put(fields::SINK.form, tenths(plan.sink));
    put(
        fields::HANDLE.form,
        format!("{:.2}", angler.turns(plan.reel)),
    );
    put("held", plan.held.key().to_owned());
    if let Some(lift) = plan.lift {
        put(fields::LIFT.form, tenths(lift));
    } else {
        put(fields::LIFT.form, String::new());
    }
}

/// What is cast where nothing was said: something with a body, if the box has one.
fn first_rig(river: &River<'_, '_>) -> Option<RigId> {
    let of = |rig: &&&motilis_helm::StandingRig| {
        rig.stands.as_ref().is_ok_and(|rig| rig.kind().has_body())
    };
    let body = river.rigs.iter().find(of);
    body.or(river.rigs.first()).map(|rig| rig.id)
}
