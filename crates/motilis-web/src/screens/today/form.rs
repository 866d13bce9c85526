//! The form of the conditions, read and filled in.

use crate::forms::{Typed, instant, problem, text};
use crate::screens::{Context, zone};
use motilis_core::advice::{Fish, Mood, Sky};
use motilis_core::book::{Outing, WaterId, limits};
use motilis_core::units::{Celsius, KILOMETRE_PER_HOUR, MILE_PER_HOUR, Metres, MetresPerSecond};
use motilis_view::screens::{Choice, Conditions, Field};
use motilis_view::units::{Problem, Quantity, System, show};
use serde::Deserialize;

/// The form as it was sent: nothing but texts.
#[derive(Debug, Default, Deserialize)]
#[serde(default)]
pub(crate) struct RawConditions {
    water: String,
    started: String,
    speed: String,
    temperature: String,
    clarity: String,
    sky: String,
    fish: String,
    fish_from: String,
    fish_to: String,
    bottom: String,
    mood: String,
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
    wanted_depth: Typed,
}

impl Figures {
    fn new(raw: &RawConditions, system: System) -> Self {
        use Quantity::{Depth, Speed, Temperature};
        Self {
            speed: Typed::new(
                ("speed", "Speed"),
                (Speed, system),
                limits::SPEED,
                &raw.speed,
            ),
            temperature: Typed::new(
                ("temperature", "Temp."),
                (Temperature, system),
                limits::TEMPERATURE,
                &raw.temperature,
            ),
            clarity: Typed::new(
                ("clarity", "Clarity"),
                (Depth, system),
                limits::CLARITY,
                &raw.clarity,
            ),
            bottom: Typed::new(
                ("bottom", "Bottom"),
                (Depth, system),
                limits::DEPTH,
                &raw.bottom,
            ),
            fish_from: Typed::new(
                ("fish_from", "Fish from"),
                (Depth, system),
                limits::FISH_DEPTH,
                &raw.fish_from,
            ),
            fish_to: Typed::new(
                ("fish_to", "Fish to"),
                (Depth, system),
                limits::FISH_DEPTH,
                &raw.fish_to,
            ),
            wanted_depth: Typed::new(
                ("wanted_depth", "Rig at"),
                (Depth, system),
                limits::DEPTH,
                &raw.wanted_depth,
            ),
        }
    }

    fn all(&mut self) -> [&mut Typed; 7] {
        [
            &mut self.speed,
            &mut self.temperature,
            &mut self.clarity,
            &mut self.bottom,
            &mut self.fish_from,
            &mut self.fish_to,
            &mut self.wanted_depth,
        ]
    }

    fn into_conditions(self, started: Field, lists: Lists) -> Conditions {
        Conditions {
            water: lists.water,
            started,
            speed: self.speed.field,
            temperature: self.temperature.field,
            clarity: self.clarity.field,
            sky: lists.sky,
            fish: lists.fish,
            fish_from: self.fish_from.field,
            fish_to: self.fish_to.field,
            bottom: self.bottom.field,
            mood: lists.mood,
            wanted_depth: self.wanted_depth.field,
        }
    }
}

/// The lists of the form, with what is chosen.
struct Lists {
    water: Vec<Choice>,
    sky: Vec<Choice>,
    fish: Vec<Choice>,
    mood: Vec<Choice>,
}

impl Lists {
    fn new(context: &Context, outing: &Outing) -> Self {
        let water = context.waters.iter().map(|(id, water)| Choice {
            value: id.0.to_string(),
            label: water.name.clone(),
            chosen: *id == outing.water,
        });
        Self {
            water: water.collect(),
            sky: Choice::list(
                Sky::ALL.iter().map(|sky| (sky.key(), sky.name())),
                outing.sky.key(),
            ),
            fish: Choice::list(
                Fish::ALL.iter().map(|fish| (fish.key(), fish.name())),
                outing.fish.key(),
            ),
            mood: Choice::list(
                Mood::ALL.iter().map(|mood| (mood.key(), mood.name())),
                outing.mood.key(),
            ),
        }
    }
}

/// The form filled in with the conditions as they are.
pub(super) fn shown(context: &Context) -> Conditions {
    let outing = &context.outing;
    let mut figures = Figures::new(&RawConditions::default(), context.system);
    figures.speed.fill(outing.speed.0);
    figures.temperature.fill(outing.temperature.0);
    figures.clarity.fill(outing.clarity.0);
    figures.bottom.fill(outing.bottom.0);
    figures.fish_from.fill(outing.fish_depth.0.0);
    figures.fish_to.fill(outing.fish_depth.1.0);
    figures.wanted_depth.fill(outing.wanted_depth.0);
    let started = context
        .local(outing.started)
        .strftime("%Y-%m-%d %H:%M")
        .to_string();
    figures.into_conditions(
        text("started", "Date and hour", &started),
        Lists::new(context, outing),
    )
}

/// The conditions that a form asks for.
///
/// # Errors
/// The form as it was typed, with a sentence beside each field that cannot be.
pub(super) fn read(raw: &RawConditions, context: &Context) -> Result<Outing, Box<Conditions>> {
    let now = &context.outing;
    let mut figures = Figures::new(raw, context.system);
    let water = raw.water.parse().map_or(now.water, WaterId);
    let water = if context.waters.iter().any(|(id, _)| *id == water) {
        water
    } else {
        now.water
    };
    let body = context
        .waters
        .iter()
        .find(|(id, _)| *id == water)
        .map_or(&context.water, |(_, body)| body);
    let mut started = text("started", "Date and hour", &raw.started);
    let at = instant(&raw.started, &zone(body)).unwrap_or_else(|problem| {
        started.problem = Some(problem);
        now.started
    });
    let outing = Outing {
        water,
        started: at,
        speed: stepped(figures.speed.or(now.speed.0), &raw.step, context.system),
        temperature: Celsius(figures.temperature.or(now.temperature.0)),
        clarity: Metres(figures.clarity.or(now.clarity.0)),
        sky: Sky::from_key(&raw.sky).unwrap_or(now.sky),
        fish: Fish::from_key(&raw.fish).unwrap_or(now.fish),
        fish_depth: (
            Metres(figures.fish_from.or(now.fish_depth.0.0)),
            Metres(figures.fish_to.or(now.fish_depth.1.0)),
        ),
        bottom: Metres(figures.bottom.or(now.bottom.0)),
        mood: Mood::from_key(&raw.mood).unwrap_or(now.mood),
        wanted_depth: Metres(figures.wanted_depth.or(now.wanted_depth.0)),
    };
    let sound = started.problem.is_none()
        && figures
            .all()
            .iter()
            .all(|typed| typed.field.problem.is_none());
    if sound {
        // Each figure is sound alone; now whether they agree.
        let Err(error) = outing.check() else {
            return Ok(outing);
        };
        for typed in figures.all() {
            if typed.field.name == error.quantity() {
                typed.field.problem = Some(whole(&error, &outing, context.system));
            }
        }
    }
    Err(Box::new(
        figures.into_conditions(started, Lists::new(context, &outing)),
    ))
}

/// The sentence about figures that do not agree, with the depth it is about.
fn whole(error: &motilis_core::Error, outing: &Outing, system: System) -> Problem {
    let bottom = show(Quantity::Depth, outing.bottom.0, system);
    let Problem(sentence) = problem(error);
    Problem(format!(
        "{} (bottom {bottom}).",
        sentence.trim_end_matches('.')
    ))
}

/// A tenth of the unit shown faster or slower, where a stepper was pressed; never below zero.
pub(in crate::screens) fn stepped(speed: f64, step: &str, system: System) -> MetresPerSecond {
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
    MetresPerSecond((tenths * tenth).clamp(limits::SPEED.least, limits::SPEED.most))
}
