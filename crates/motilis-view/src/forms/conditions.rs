//! The form of the conditions, read and filled in.

use super::{Texts, Typed, base, instant, merge, overtaken, problem, text};
use crate::screens::{Choice, Conditions, Field};
use crate::seen::Device;
use crate::units::{Problem, Quantity, System};
use jiff::Timestamp;
use motilis_core::advice::{Mood, Schools, Sky, Wind};
use motilis_core::book::{Outing, WaterBody, WaterId};
use motilis_core::fields;
use motilis_core::fish::{Fish, Forage};
use motilis_core::light::Stain;
use motilis_core::rig::Kind;
use motilis_core::units::{Celsius, KILOMETRE_PER_HOUR, MILE_PER_HOUR, Metres, MetresPerSecond};
use motilis_helm::{Here, zone};
use serde::Deserialize;

/// The form as it was sent: nothing but texts.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
struct RawConditions {
    water: String,
    started: String,
    ended: String,
    speed: String,
    temperature: String,
    clarity: String,
    stain: String,
    sky: String,
    wind: String,
    fish: String,
    fish_from: String,
    fish_to: String,
    bottom: String,
    thermocline: String,
    mood: String,
    forage: String,
    nibblers: String,
    crowd: String,
    wanted_depth: String,
    /// `-1` or `1` when a stepper of the speed was pressed.
    step: String,
}

/// The figures of the form, in one place for reading and for showing.
struct Figures {
    speed: Typed,
    temperature: Typed,
    clarity: Typed,
    bottom: Typed,
    fish_from: Typed,
    fish_to: Typed,
    thermocline: Typed,
    wanted_depth: Typed,
}

impl Figures {
    fn new(raw: &RawConditions, river: bool, system: System) -> Self {
        use Quantity::{Depth, Speed, Temperature};
        let speed = if river { "Water past it" } else { "Speed" };
        Self {
            speed: Typed::new(fields::SPEED, speed, (Speed, system), &raw.speed),
            temperature: Typed::new(
                fields::TEMPERATURE,
                "Temp.",
                (Temperature, system),
                &raw.temperature,
            ),
            clarity: Typed::new(fields::CLARITY, "Clarity", (Depth, system), &raw.clarity),
            bottom: Typed::new(fields::BOTTOM, "Bottom", (Depth, system), &raw.bottom),
            fish_from: Typed::new(
                fields::FISH_FROM,
                "Fish from",
                (Depth, system),
                &raw.fish_from,
            ),
            fish_to: Typed::new(fields::FISH_TO, "Fish to", (Depth, system), &raw.fish_to),
            thermocline: Typed::new(
                fields::THERMOCLINE,
                "Thermocline",
                (Depth, system),
                &raw.thermocline,
            ),
            wanted_depth: Typed::new(
                fields::WANTED_DEPTH,
                "Rig at",
                (Depth, system),
                &raw.wanted_depth,
            ),
        }
    }

    fn all(&mut self) -> [&mut Typed; 8] {
        [
            &mut self.speed,
            &mut self.temperature,
            &mut self.clarity,
            &mut self.bottom,
            &mut self.fish_from,
            &mut self.fish_to,
            &mut self.thermocline,
            &mut self.wanted_depth,
        ]
    }

    fn into_conditions(
        self,
        [started, ended]: [Field; 2],
        lists: Lists,
        height: String,
        system: System,
    ) -> Conditions {
        Conditions {
            water: lists.water,
            started,
            ended,
            base: String::new(),
            refusal: None,
            carried: Vec::new(),
            speed: self.speed.field,
            temperature: self.temperature.field,
            clarity: self.clarity.field,
            stain: lists.stain,
            sky: lists.sky,
            wind: lists.wind,
            fish: lists.fish,
            fish_from: self.fish_from.field,
            fish_to: self.fish_to.field,
            bottom: self.bottom.field,
            thermocline: self.thermocline.field,
            mood: lists.mood,
            forage: lists.forage,
            nibblers: lists.nibblers,
            crowd: lists.crowd,
            wanted_depth: self.wanted_depth.field,
            height,
            helper: super::secchi::helper(system),
        }
    }
}

/// The lists of the form, with what is chosen.
struct Lists {
    water: Vec<Choice>,
    stain: Vec<Choice>,
    sky: Vec<Choice>,
    wind: Vec<Choice>,
    fish: Vec<Choice>,
    mood: Vec<Choice>,
    forage: Vec<Choice>,
    nibblers: Vec<Choice>,
    crowd: Vec<Choice>,
}

/// Choices out of an enumeration's keys and names.
macro_rules! list {
    ($all:expr, $chosen:expr) => {
        Choice::list($all.map(|one| (one.key(), one.name())), $chosen)
    };
}

impl Lists {
    fn new(here: &Here, outing: &Outing) -> Self {
        let body = body_of(here, outing.water);
        let water = here.waters.iter().map(|(id, water)| Choice {
            value: id.0.to_string(),
            label: water.name.clone(),
            chosen: *id == outing.water,
        });
        Self {
            water: water.collect(),
            stain: list!(Stain::ALL.iter(), outing.stain.key()),
            sky: list!(Sky::ALL.iter(), outing.sky.key()),
            wind: list!(Wind::ALL.iter(), outing.wind.key()),
            fish: list!(in_order(Fish::ALL, &body.fish), outing.fish.key()),
            mood: list!(Mood::ALL.iter(), outing.mood.key()),
            forage: list!(in_order(Forage::ALL, &body.forage), outing.forage.key()),
            nibblers: Choice::list(
                [("no", "none that matter"), ("yes", "taking bait")],
                if outing.nibblers { "yes" } else { "no" },
            ),
            crowd: {
                let chosen = outing.crowd.map_or("", Kind::key);
                let kinds = Kind::ALL.iter().map(|kind| (kind.key(), kind.name()));
                Choice::list(std::iter::once(("", "this and that")).chain(kinds), chosen)
            },
        }
    }
}

/// Everything, those of the water first.
fn in_order<T: Copy + PartialEq>(all: &[T], first: &[T]) -> impl Iterator<Item = T> {
    let others = all.iter().filter(|one| !first.contains(one));
    first
        .iter()
        .chain(others)
        .copied()
        .collect::<Vec<_>>()
        .into_iter()
}

/// The depth that the school of height would choose, in words.
fn height(outing: &Outing, schools: &Schools, system: System) -> String {
    let wanted = schools.height.depth(outing.fish_depth, outing.bottom);
    format!(
        "By your school the rig runs {}: at {}.",
        schools.height.name(),
        system.depth(wanted)
    )
}

/// The conditions as their form would be typed.
fn texts_of(conditions: &Conditions) -> Texts {
    let fields = conditions.fields().into_iter();
    let mut texts: Texts = fields
        .map(|field| (field.name.to_owned(), field.value.clone()))
        .collect();
    for (name, list) in conditions.lists() {
        let chosen = list.iter().find(|choice| choice.chosen);
        let value = chosen
            .map(|choice| choice.value.clone())
            .unwrap_or_default();
        texts.insert(name.to_owned(), value);
    }
    texts
}

/// The form filled in with the conditions as they are.
pub fn shown(here: &Here, schools: &Schools, device: Device) -> Conditions {
    let (outing, system) = (&here.outing, device.system);
    let mut figures = Figures::new(&RawConditions::default(), here.water.river, system);
    figures.speed.fill(outing.speed.0);
    figures.temperature.fill(outing.temperature.0);
    figures.clarity.fill(outing.clarity.0);
    figures.bottom.fill(outing.bottom.0);
    figures.fish_from.fill(outing.fish_depth.0.0);
    figures.fish_to.fill(outing.fish_depth.1.0);
    figures.wanted_depth.fill(outing.wanted_depth.0);
    if let Some(depth) = outing.thermocline {
        figures.thermocline.fill(depth.0);
    }
    let local = |at| here.local(at).strftime("%Y-%m-%d %H:%M").to_string();
    let ended = outing.ended.map(local).unwrap_or_default();
    let mut conditions = figures.into_conditions(
        [
            text("started", STARTED, &local(outing.started)),
            text("ended", ENDED, &ended),
        ],
        Lists::new(here, outing),
        height(outing, schools, system),
        system,
    );
    conditions.base = base(&texts_of(&conditions));
    conditions.carried.clone_from(&here.carried);
    conditions
}

const STARTED: &str = "Date and hour";
const ENDED: &str = "Ended, or empty";

fn body_of(here: &Here, water: WaterId) -> &WaterBody {
    here.waters
        .iter()
        .find(|(id, _)| *id == water)
        .map_or(&here.water, |(_, body)| body)
}

/// The conditions to begin with on another water: its usual clarity and life, and what the last outing there
/// had.
fn on_another_water(here: &Here, water: WaterId) -> Outing {
    let body = body_of(here, water);
    let now = &here.outing;
    let last = here
        .outings
        .iter()
        .find(|(_, outing)| outing.water == water);
    if last.is_none() && body.river != here.water.river {
        // A lake's depths and trolling speed say nothing of a river.
        return Outing {
            ended: now.ended,
            ..Outing::first_on(water, body, now.started)
        };
    }
    let before = last.map_or(now, |(_, outing)| outing);
    let fish = |fish: Fish| body.fish.is_empty() || body.fish.contains(&fish);
    let wanted = if fish(before.fish) {
        before.fish
    } else {
        body.fish[0]
    };
    Outing {
        water,
        started: now.started,
        ended: now.ended,
        clarity: body.clarity,
        stain: body.stain,
        fish: wanted,
        forage: body
            .forage
            .first()
            .copied()
            .unwrap_or(wanted.usual_forage()),
        ..before.clone()
    }
}

/// The conditions that a form asks for, with what others changed meanwhile.
///
/// # Errors
/// The form as it was typed, with a sentence beside each field that cannot be.
pub fn read(
    sent: &Texts,
    shown_before: Option<&str>,
    here: &Here,
    schools: &Schools,
    device: Device,
) -> Result<Outing, Box<Conditions>> {
    let (now, system) = (&here.outing, device.system);
    let asked = sent.get("water").and_then(|id| id.parse().ok());
    let asked = asked.map_or(now.water, WaterId);
    let known = here.waters.iter().any(|(id, _)| *id == asked);
    if known && asked != now.water {
        return Ok(on_another_water(here, asked));
    }
    let mut kept = shown(here, schools, device);
    let merged = merge(sent, shown_before, &texts_of(&kept));
    let raw: RawConditions = super::typed(&merged.texts).unwrap_or_default();
    let body = body_of(here, now.water);
    let mut figures = Figures::new(&raw, body.river, system);
    let mut started = text("started", STARTED, &raw.started);
    let mut ended = text("ended", ENDED, &raw.ended);
    let at = instant(&raw.started, &zone(body)).unwrap_or_else(|problem| {
        started.problem = Some(problem);
        now.started
    });
    let end = if raw.ended.trim().is_empty() {
        None
    } else {
        instant(&raw.ended, &zone(body)).map_or_else(
            |problem| {
                ended.problem = Some(problem);
                now.ended
            },
            Some,
        )
    };
    let outing = typed(&raw, now, (at, end), &mut figures, system);
    let mut refusal = None;
    for (name, theirs) in &merged.conflicts {
        let field = figures
            .all()
            .into_iter()
            .find(|typed| typed.field.name == name);
        let field = match field {
            Some(typed) => Some(&mut typed.field),
            None => [&mut started, &mut ended]
                .into_iter()
                .find(|field| field.name == name),
        };
        match field {
            Some(field) => field.problem = Some(overtaken(field.label, theirs)),
            None => refusal = Some(overtaken("A list", theirs).0),
        }
    }
    let sound = [&started, &ended]
        .iter()
        .all(|field| field.problem.is_none())
        && refusal.is_none()
        && figures
            .all()
            .iter()
            .all(|typed| typed.field.problem.is_none());
    if sound {
        // Each figure is sound alone; now whether they agree.
        if outing.temperature < body.freezes_at() {
            figures.temperature.field.problem = Some(frozen(body, outing.temperature, system));
        } else if let Err(error) = outing.check() {
            for field in [&mut started, &mut ended] {
                if field.name == error.quantity() {
                    field.problem = Some(problem(&error));
                }
            }
            for typed in figures.all() {
                if typed.is_meant(&error) {
                    typed.field.problem = Some(whole(&error, &outing, system));
                }
            }
        } else {
            return Ok(figures_left_alone(
                outing,
                now,
                &merged.texts,
                &texts_of(&kept),
            ));
        }
    }
    let base = std::mem::take(&mut kept.base);
    Err(Box::new(Conditions {
        base,
        refusal,
        carried: kept.carried,
        ..figures.into_conditions(
            [started, ended],
            Lists::new(here, &outing),
            height(now, schools, system),
            system,
        )
    }))
}

/// A figure that was left alone stays as it is kept, not as it was rounded for the page.
fn figures_left_alone(typed: Outing, now: &Outing, sent: &Texts, shown: &Texts) -> Outing {
    let same = |name: &str| {
        sent.get(name).map(|text| text.trim()) == shown.get(name).map(|text| text.trim())
    };
    // A stepper changes the speed whatever stands in its field.
    let stepped = sent.get("step").is_some_and(|step| !step.is_empty());
    Outing {
        speed: left(same("speed") && !stepped, now.speed, typed.speed),
        temperature: left(same("temperature"), now.temperature, typed.temperature),
        clarity: left(same("clarity"), now.clarity, typed.clarity),
        bottom: left(same("bottom"), now.bottom, typed.bottom),
        fish_depth: (
            left(same("fish_from"), now.fish_depth.0, typed.fish_depth.0),
            left(same("fish_to"), now.fish_depth.1, typed.fish_depth.1),
        ),
        wanted_depth: left(same("wanted_depth"), now.wanted_depth, typed.wanted_depth),
        started: left(same("started"), now.started, typed.started),
        ended: left(same("ended"), now.ended, typed.ended),
        ..typed
    }
}

/// The figure as it is where its field was left alone, and as typed otherwise.
fn left<T>(alone: bool, now: T, typed: T) -> T {
    if alone { now } else { typed }
}

/// The conditions as typed, those that cannot be read as they were.
fn typed(
    raw: &RawConditions,
    now: &Outing,
    (started, ended): (Timestamp, Option<Timestamp>),
    figures: &mut Figures,
    system: System,
) -> Outing {
    let fish = Fish::from_key(&raw.fish).unwrap_or(now.fish);
    Outing {
        water: now.water,
        started,
        ended,
        speed: stepped(figures.speed.or(now.speed.0), &raw.step, system),
        temperature: Celsius(figures.temperature.or(now.temperature.0)),
        clarity: Metres(figures.clarity.or(now.clarity.0)),
        stain: Stain::from_key(&raw.stain).unwrap_or(now.stain),
        sky: Sky::from_key(&raw.sky).unwrap_or(now.sky),
        wind: Wind::from_key(&raw.wind).unwrap_or(now.wind),
        fish,
        fish_depth: (
            Metres(figures.fish_from.or(now.fish_depth.0.0)),
            Metres(figures.fish_to.or(now.fish_depth.1.0)),
        ),
        bottom: Metres(figures.bottom.or(now.bottom.0)),
        thermocline: figures.thermocline.optional().map(Metres),
        mood: Mood::from_key(&raw.mood).unwrap_or(now.mood),
        forage: Forage::from_key(&raw.forage).unwrap_or(now.forage),
        nibblers: match raw.nibblers.as_str() {
            "yes" => true,
            "no" => false,
            _ => now.nibblers,
        },
        crowd: Kind::from_key(&raw.crowd),
        wanted_depth: Metres(figures.wanted_depth.or(now.wanted_depth.0)),
    }
}

/// The sentence about water that would be ice.
fn frozen(body: &WaterBody, typed: Celsius, system: System) -> Problem {
    let kind = if body.salt { "Sea" } else { "Fresh" };
    Problem(format!(
        "{kind} water of {} is ice; give {} or more.",
        system.temperature(typed),
        system.temperature(body.freezes_at())
    ))
}

/// The sentence about figures that do not agree, with the depth or the stain it is about.
fn whole(error: &motilis_core::Error, outing: &Outing, system: System) -> Problem {
    if error.quantity() == fields::CLARITY.key {
        let range = outing.stain.secchi_range();
        return Problem(format!(
            "A disk is lost between {} and {} in {} water, not at {}; correct it, or choose another stain.",
            system.depth(Metres(range.least)).value,
            system.depth(Metres(range.most)),
            outing.stain.name(),
            system.depth(outing.clarity)
        ));
    }
    let Problem(sentence) = problem(error);
    Problem(format!(
        "{} (bottom {}).",
        sentence.trim_end_matches('.'),
        system.depth(outing.bottom)
    ))
}

/// A tenth of the unit shown faster or slower, where a stepper was pressed; never below zero.
pub fn stepped(speed: f64, step: &str, system: System) -> MetresPerSecond {
    let tenth = 0.1
        * match system {
            System::Imperial => MILE_PER_HOUR.0,
            System::Metric => KILOMETRE_PER_HOUR.0,
        };
    let steps = match step {
        "1" => 1.0,
        "-1" => -1.0,
        _ => return MetresPerSecond(speed),
    };
    // Land on whole tenths, whatever the speed was before.
    let tenths = (speed / tenth).round() + steps;
    MetresPerSecond((tenths * tenth).clamp(fields::SPEED.range.least, fields::SPEED.range.most))
}
