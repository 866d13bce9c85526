//! The boat under way: its page, what changes every second, and the pages of its instruments.

use super::log::{Told as LogTold, notice_of, switch_row};
use super::{cannot_row, finish_class, frame};
use crate::draw::{BoatPlan, BoatPlanSource, Path, Px, Scale};
use crate::forms::text;
use crate::screens::{
    Boat as BoatPage, BoatPlanPart, BoatRow, Choice, Line, LineAct, LiveFigure, Notice, Now,
    Playbook, RodNow as RodShown, Rule, Screen, SetOutAssistant,
};
use crate::seen::Device;
use crate::units::{Quantity, System};
use crate::words::{self, boat as say};
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp};
use motilis_core::boat::{Chart, Figure, Freshness, Heed, RodNow, Source};
use motilis_core::book::{EventKind, WaterId};
use motilis_core::column::hours;
use motilis_core::fish::Fish;
use motilis_core::spread::Spread;
use motilis_core::track::Plane;
use motilis_core::units::{Metres, MetresPerSecond};
use motilis_helm::{Aboard, Boat, Book, Error, afloat, zone};
use motilis_live::Told;
use motilis_store::{bottoms, events, passes};

/// Width and height of a strip of bottom.
const STRIP: (f64, f64) = (96.0, 44.0);
/// Width of the speed rule, and the speeds at its ends in miles or kilometres an hour.
const RULE: f64 = 390.0;
const ENDS: [(f64, f64, f64); 2] = [(0.3, 2.7, 0.5), (0.5, 4.3, 1.0)];
/// Half of an 80 % band, in standard deviations.
const EIGHTY: f64 = 1.2816;
/// A rig that clears the bottom by less is looked at, m.
const CLOSE: f64 = 0.6;

/// What is known of the boat beside its instruments: kept until something of the data file changes.
#[derive(Debug, Clone)]
pub struct Beside {
    /// The water's time zone.
    pub zone: TimeZone,
    /// When there is no light to fish by any more.
    pub dusk: Option<Timestamp>,
    /// Speed of the outing, as it was typed in.
    pub typed: MetresPerSecond,
    /// Whether the outing goes on.
    pub running: bool,
    /// Rods that lie aboard, in the order in which they are set out, with what is on them and how much is let out.
    pub aboard: Vec<(u8, String, Metres)>,
    /// Line that a turn of the reel lets out.
    pub reel: Option<Metres>,
    /// The change of rods that is called: its rig, and its sentence.
    pub switch: Option<(i64, String)>,
    /// Whether the boat is simulated and can be steered from here.
    pub steered: bool,
    /// Whether a practice trip goes on.
    pub practice: bool,
    /// Changes of the data file.
    pub version: u64,
}

impl Default for Beside {
    fn default() -> Self {
        Self {
            zone: TimeZone::UTC,
            dusk: None,
            typed: MetresPerSecond(0.0),
            running: false,
            aboard: Vec::new(),
            reel: None,
            switch: None,
            steered: false,
            practice: false,
            version: 0,
        }
    }
}

impl Beside {
    /// Reads it.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub fn load(book: &Book<'_>, now: Timestamp, version: u64) -> Result<Self, Error> {
        if book.here_if_any()?.is_none() {
            return Ok(Self {
                version,
                ..Self::default()
            });
        }
        Ok(Self::of(&Boat::load(book, now)?, now, version))
    }

    fn of(boat: &Boat<'_>, now: Timestamp, version: u64) -> Self {
        let here = boat.here;
        let zone = zone(&here.water);
        let midnight = now.to_zoned_datetime(zone.clone()).start_of_day();
        let dusk = here
            .water
            .place()
            .ok()
            .zip(midnight.ok())
            .and_then(|(place, midnight)| {
                let begins = midnight.timestamp();
                let day = hours(place, begins, begins + SignedDuration::from_hours(24)).ok()?;
                Some(day.to)
            });
        let lies = |number: &u8| {
            let aboard = boat.rods.iter().find(|one| one.boat.number == *number)?;
            let idle = !aboard.fishes() && !aboard.boat.away && aboard.depth.is_ok();
            idle.then(|| (*number, aboard.name.clone(), aboard.boat.rod.out))
        };
        Self {
            zone,
            dusk,
            typed: here.outing.speed,
            running: boat.running,
            aboard: boat.order.iter().filter_map(lies).collect(),
            reel: boat.set.reel,
            switch: boat.switching.as_ref().map(|called| {
                let row = switch_row(called);
                (row.rig, row.sentence)
            }),
            steered: matches!(
                boat.set.wire.split(' ').next(),
                Some("simulated" | "demo" | "practice")
            ),
            practice: boat.practice && boat.running,
            version,
        }
    }
}

fn state(freshness: Freshness) -> &'static str {
    match freshness {
        Freshness::Fresh => "fresh",
        Freshness::Stale => "stale",
        Freshness::Gone => "gone",
    }
}

/// A figure with its age, as it is shown: its value, its unit, and by whom.
pub(super) fn figure<T: Copy>(
    said: Option<Figure<T>>,
    now: f64,
    of: &str,
    show: impl Fn(T) -> crate::units::Figure,
) -> LiveFigure {
    let Some(said) = said else {
        return LiveFigure {
            value: "–".to_owned(),
            state: "gone",
            ..LiveFigure::default()
        };
    };
    let freshness = said.freshness(now);
    let shown = show(said.value);
    let old = format!("{:.0} s ago", said.age(now));
    LiveFigure {
        value: if freshness == Freshness::Gone {
            "–".to_owned()
        } else {
            shown.value
        },
        unit: shown.unit,
        of: if freshness == Freshness::Fresh {
            of.to_owned()
        } else {
            old
        },
        state: state(freshness),
    }
}

fn through(told: &Told, beside: &Beside, system: System) -> LiveFigure {
    let known = &told.known;
    let Some(through) = known.through else {
        let shown = system.speed(beside.typed);
        return LiveFigure {
            value: shown.value,
            unit: shown.unit,
            of: say::source(Source::Typed).to_owned(),
            state: "fresh",
        };
    };
    let age = through.age_s.unwrap_or(0.0);
    let said = Figure {
        value: through.speed,
        at: known.now - age,
    };
    let shown = figure(
        Some(said),
        known.now,
        say::source(through.source),
        |speed| system.speed(speed),
    );
    if age > 3.0 {
        return LiveFigure {
            of: format!("{}, {}", say::source(through.source), shown.of),
            ..shown
        };
    }
    shown
}

/// "dark in 1 h 10".
fn dark(beside: &Beside, now: Timestamp) -> String {
    let Some(dusk) = beside.dusk else {
        return String::new();
    };
    let minutes = (dusk.as_second() - now.as_second()) / 60;
    match minutes {
        ..0 => "dark".to_owned(),
        0..60 => format!("dark in {minutes} min"),
        _ => format!("dark in {} h {:02}", minutes / 60, minutes % 60),
    }
}

/// All that changes from second to second.
pub fn now(told: &Told, beside: &Beside, now: Timestamp, system: System) -> Now {
    let known = &told.known;
    let aboard = &known.instruments;
    let local = now.to_zoned_datetime(beside.zone.clone());
    let speed = through(told, beside, system);
    Now {
        at: (speed.state != "gone").then(|| {
            let metres = known.through.map_or(beside.typed, |through| through.speed);
            let unit = Quantity::Speed.unit(system);
            (unit.from_si(metres.0) * 100.0).round() / 100.0
        }),
        speed,
        ground: figure(aboard.ground, known.now, "over ground", |(speed, _)| {
            system.speed(speed)
        }),
        depth: figure(aboard.depth, known.now, "bottom", |depth| {
            system.depth(depth)
        }),
        temperature: figure(aboard.temperature, known.now, "water", |degrees| {
            system.temperature(degrees)
        }),
        clock: local.strftime("%H:%M").to_string(),
        second: now.as_second(),
        dark: dark(beside, now),
        link: say::link(told, system),
        line: line(told, beside, now, system),
        rods: known
            .rods
            .iter()
            .map(|rod| rod_now(rod, told, system))
            .collect(),
        version: beside.version,
    }
}

/// The most urgent thing there is to say.
fn line(told: &Told, beside: &Beside, now: Timestamp, system: System) -> Line {
    let known = &told.known;
    if let Some(text) = say::warning(&known.ahead, system) {
        return Line {
            mark: "cannot",
            text,
            act: known
                .ahead
                .heed
                .first()
                .and_then(|heed| heed_act(heed, beside, system)),
        };
    }
    if let Some(text) = say::grounded(&known.rods) {
        return Line {
            mark: "watch",
            text,
            act: None,
        };
    }
    let bending = |bend: &&motilis_live::Bend| {
        let fishes = known.rods.iter().any(|rod| rod.number == bend.rod);
        fishes && now.duration_since(bend.at) < SignedDuration::from_mins(5)
    };
    if let Some(bend) = told.bends.iter().rev().find(bending) {
        let text = if bend.hooked {
            format!(
                "Rod {} bends and stays down: a fish of {} by the simulated board.",
                bend.rod,
                system.length_in_fractions(bend.length)
            )
        } else {
            format!("Rod {} bends and springs back: a strike.", bend.rod)
        };
        return Line {
            mark: "watch",
            text,
            act: None,
        };
    }
    if let Some(text) = say::passing(&known.ahead, system) {
        return Line {
            mark: "watch",
            text,
            act: None,
        };
    }
    if !beside.running {
        return Line {
            mark: "",
            text: "No outing goes on.".to_owned(),
            act: Some(LineAct {
                label: "Begin one now".to_owned(),
                address: "/outings",
                fields: vec![("back", "/boat".to_owned())],
            }),
        };
    }
    if let Some((rig, sentence)) = &beside.switch {
        return Line {
            mark: "watch",
            text: sentence.clone(),
            act: Some(LineAct {
                label: "Change".to_owned(),
                address: "/log/switch",
                fields: vec![
                    ("rig", rig.to_string()),
                    ("do", "yes".to_owned()),
                    ("screen", "boat".to_owned()),
                ],
            }),
        };
    }
    if let Some((number, name, out)) = beside.aboard.first() {
        return Line {
            mark: "",
            text: format!(
                "Next: rod {number}, {name}: {}.",
                let_out(*out, beside.reel, system)
            ),
            act: Some(LineAct {
                label: "In".to_owned(),
                address: "/log/rods/out",
                fields: vec![("rod", number.to_string()), ("screen", "boat".to_owned())],
            }),
        };
    }
    Line {
        text: say::clear(told, system).unwrap_or_default().to_owned(),
        ..Line::default()
    }
}

/// What can be done about a touch with one tap.
fn heed_act(heed: &Heed, beside: &Beside, system: System) -> Option<LineAct> {
    match heed {
        Heed::Speed(speed) if beside.steered => Some(LineAct {
            label: format!("Set {}", system.speed(*speed)),
            address: "/boat/helm",
            fields: vec![("speed_mps", format!("{:.4}", speed.0))],
        }),
        // A hand at the throttle needs no button.
        Heed::Speed(_) => None,
        Heed::WindIn(rods) => {
            let (number, length) = rods.first()?;
            Some(LineAct {
                label: format!("Rod {number} is in by {}", system.depth(*length)),
                address: "/boat/wind",
                fields: vec![
                    ("rod", number.to_string()),
                    ("by_m", format!("{:.4}", length.0)),
                ],
            })
        }
    }
}

/// "let out 68 ft, about 95 turns".
fn let_out(out: Metres, reel: Option<Metres>, system: System) -> String {
    let turns = reel.map_or(String::new(), |a_turn| {
        format!(", about {:.0} turns of your reel", out / a_turn)
    });
    format!("let out {}{turns}", system.depth(out))
}

fn rod_now(rod: &RodNow, told: &Told, system: System) -> RodShown {
    let depth = system.depth(rod.line.depth);
    let half = rod
        .half
        .map_or(String::new(), |half| plus_minus(half, system));
    let (sign, word) = say::state(rod.line.state);
    let warned = told
        .known
        .ahead
        .warnings
        .iter()
        .find(|warning| warning.rod == rod.number);
    let works = sign == "turning";
    let clear = rod.clearance.map(|clear| {
        let bottom = rod.bottom.map_or(0.0, |under| EIGHTY * under.sure.0);
        let half = rod
            .half
            .map_or(bottom, |half| Metres(half.0.hypot(bottom)).0);
        let figure = system.depth(Metres(clear.0.max(0.0)));
        let half = plus_minus(Metres(half), system);
        (
            clear,
            format!("{} {half} {} clear", figure.value, figure.unit),
        )
    });
    let (word, grade) = match (warned, rod.line.on_bottom, clear) {
        (Some(warning), ..) if warning.in_s < 1.0 => ("touches now".to_owned(), "no"),
        (Some(warning), ..) => (format!("touches in {:.0} s", warning.in_s), "no"),
        (None, true, _) => ("on the bottom".to_owned(), "watch"),
        (None, false, _) if !works => (
            word.to_owned(),
            if sign == "rolling" { "no" } else { "watch" },
        ),
        (None, false, Some((clear, words))) => {
            (words, if clear.0 < CLOSE { "watch" } else { "ok" })
        }
        (None, false, None) => (word.to_owned(), "ok"),
    };
    let (bottom, rig) = strip(rod);
    RodShown {
        number: rod.number,
        half,
        state: sign,
        told: format!("Rod {}: {depth} down, {word}", rod.number),
        word,
        grade,
        depth: depth.value,
        bottom,
        rig,
    }
}

/// "± 2": whole feet, or tenths of a metre, and never nought.
fn plus_minus(half: Metres, system: System) -> String {
    let unit = Quantity::Depth.unit(system);
    match system {
        System::Imperial => format!("± {:.0}", unit.from_si(half.0).max(1.0)),
        System::Metric => format!("± {:.1}", half.0.max(0.1)),
    }
}

/// The bottom from the boat on the left to the rig on the right, as a path, and where the rig hangs in it.
fn strip(rod: &RodNow) -> (String, [f64; 2]) {
    let (width, height) = STRIP;
    let depths = rod
        .strip
        .iter()
        .filter_map(|point| Some(point.bottom?.depth.0));
    let deepest = depths.fold(rod.lowest.0, f64::max).max(1.0) * 1.12;
    let right = width - 8.0;
    let across = Scale::new((0.0, (rod.strip.len().max(2) - 1) as f64), (right, 0.0));
    let down = Scale::new((0.0, deepest), (1.0, height - 1.0));
    let floor = Px(height);
    let mut path = Path::default();
    let known = rod.strip.iter().enumerate();
    let known: Vec<Option<(Px, Px)>> = known
        .map(|(place, point)| {
            let under = point.bottom?;
            Some((across.at(place as f64), down.at(under.depth.0)))
        })
        .collect();
    for run in known.split(Option::is_none) {
        let run: Vec<(Px, Px)> = run.iter().copied().flatten().collect();
        let (Some(first), Some(last)) = (run.first(), run.last()) else {
            continue;
        };
        path.push('M', &[first.0, floor]);
        for (x, y) in &run {
            path.push('L', &[*x, *y]);
        }
        path.push('L', &[last.0, floor]);
        path.push('Z', &[]);
    }
    let tenth = |px: Px| (px.0 * 10.0).round() / 10.0;
    (path.to_string(), [right, tenth(down.at(rod.lowest.0))])
}

/// What the page is asked for.
#[derive(Debug, Clone, Default)]
pub struct BoatAsk {
    /// What was just done in the log.
    pub told: LogTold,
    /// The act that can be taken back.
    pub act: Option<i64>,
    /// A fish that another device tapped a moment ago: its rod, and when.
    pub twice: Option<(u8, Timestamp)>,
    /// Throttle of a simulated boat.
    pub throttle: Option<MetresPerSecond>,
    /// A depth that was typed, with what is wrong with it.
    pub mark: Option<crate::screens::Field>,
}

/// The whole page.
///
/// # Errors
/// [`Error::NoOuting`], [`Error::Store`].
pub fn boat(
    book: &Book<'_>,
    device: Device,
    told: &Told,
    ask: &BoatAsk,
    (at, version): (Timestamp, u64),
) -> Result<BoatPage, Error> {
    let boat = Boat::load(book, at)?;
    let beside = Beside::of(&boat, at, version);
    let (here, system) = (boat.here, device.system);
    let now = now(told, &beside, at, system);
    let usual = system.depth(here.outing.fish_depth.0).typed();
    let mut mark = ask
        .mark
        .clone()
        .unwrap_or_else(|| text("mark_depth", "Fish at", &usual));
    mark.unit = Quantity::Depth.unit(system).symbol;
    let counted = counted(book, &boat, at)?;
    Ok(BoatPage {
        frame: frame(Some(here), Screen::Boat, device, "/boat"),
        rods: boat
            .rods
            .iter()
            .map(|aboard| row(aboard, &counted, (&now, told), &boat, system))
            .collect(),
        rule: rule(book, &boat, now.at, system)?,
        notice: notice_of(book, device, &ask.told)?.map(|notice| Notice {
            undo: ask.act.map(|act| format!("/acts/{act}/undo")),
            // What was taken, in short; all of it stands in the log.
            sentence: in_short(&notice.sentence),
            // On the water the next step alone: all of them stand in the log.
            playbook: notice.playbook.map(|book| Playbook {
                plays: book.plays.into_iter().take(1).collect(),
                ..book
            }),
            ..notice
        }),
        species: species(here.outing.fish),
        switch: boat.switching.as_ref().map(switch_row),
        twice: ask
            .twice
            .map(|(rod, at)| (rod, here.local(at).strftime("%H:%M:%S").to_string())),
        running: boat.running,
        practice: boat.practice,
        aboard: beside.aboard.len(),
        mark,
        plan: plan(book, here.outing.water, told, &boat, system)?,
        helm: ask.throttle.map(|speed| system.speed(speed).to_string()),
        cautions: words::cautions_of_day(&here.outing, system),
        now,
    })
}

/// The plan alone.
///
/// # Errors
/// [`Error::NoOuting`], [`Error::Store`].
pub fn boat_plan(
    book: &Book<'_>,
    told: &Told,
    at: Timestamp,
    system: System,
) -> Result<BoatPlanPart, Error> {
    let boat = Boat::load(book, at)?;
    let water = boat.here.outing.water;
    Ok(BoatPlanPart {
        plan: plan(book, water, told, &boat, system)?,
    })
}

/// The first clause of a sentence.
fn in_short(sentence: &str) -> String {
    match sentence.split_once(';') {
        Some((first, _)) => format!("{first}."),
        None => sentence.to_owned(),
    }
}

fn species(wanted: Fish) -> Vec<Choice> {
    Choice::list(
        Fish::ALL.iter().map(|fish| (fish.key(), fish.name())),
        wanted.key(),
    )
}

/// Rod-hours and fish of each rod on this outing.
fn counted(
    book: &Book<'_>,
    boat: &Boat<'_>,
    at: Timestamp,
) -> Result<Vec<(u8, f64, usize)>, Error> {
    let connection = book.connection();
    let passes = passes::of_outing(connection, boat.here.id)?;
    let events = events::of_outing(connection, boat.here.id)?;
    let until = if boat.running { Some(at) } else { None };
    let each = boat.rods.iter().map(|aboard| {
        let number = aboard.boat.number;
        let own = passes.iter().filter(|(_, pass)| pass.rod == Some(number));
        let seconds: f64 = own
            .map(|(_, pass)| {
                let to = pass.to.or(until).unwrap_or(pass.from);
                to.duration_since(pass.from).as_secs_f64().max(0.0)
            })
            .sum();
        let fish = events
            .iter()
            .filter(|(_, event)| event.kind == EventKind::Fish && event.rod == Some(number))
            .count();
        (number, seconds / 3_600.0, fish)
    });
    Ok(each.collect())
}

fn row(
    aboard: &Aboard,
    counted: &[(u8, f64, usize)],
    (now, told): (&Now, &Told),
    boat: &Boat<'_>,
    system: System,
) -> BoatRow {
    let (number, running) = (aboard.boat.number, boat.running);
    let fishes = aboard.fishes() && running;
    // The instruments may not know yet that it came in.
    let live = now.rods.iter().find(|rod| fishes && rod.number == number);
    let unfit = told.known.unfit.iter().any(|one| one.number == number);
    let hours = counted.iter().find(|(one, ..)| *one == number);
    let (long, fish) = hours.map_or((0.0, 0), |(_, long, fish)| (*long, *fish));
    let since = aboard.open.as_ref().filter(|_| fishes).map(|(_, pass)| {
        let second = pass.from.as_second();
        (second, in_for((now.second - second) / 60))
    });
    let runs = aboard.rig.as_ref().and_then(|rig| rig.runs().ok());
    BoatRow {
        number,
        rig: aboard.name.clone(),
        finish: runs.map(|rig| {
            let colour = rig.finish().colour;
            (finish_class(colour), colour.key())
        }),
        out: format!("{} out", system.depth(aboard.boat.rod.out)),
        hours: format!("{}, {fish} fish", in_for((long * 60.0).round() as i64)),
        since,
        let_out: let_out(aboard.boat.rod.out, boat.set.reel, system),
        fishes,
        away: aboard.boat.away,
        cannot: aboard.depth.as_ref().err().map(cannot_row),
        now: live
            .cloned()
            .unwrap_or_else(|| steady(aboard, fishes, unfit, system)),
    }
}

/// "1 h 02", of minutes.
fn in_for(minutes: i64) -> String {
    let minutes = minutes.max(0);
    format!("{} h {:02}", minutes / 60, minutes % 60)
}

/// A rod of which the instruments say nothing: as it runs straight on at the outing's speed.
fn steady(aboard: &Aboard, fishes: bool, unfit: bool, system: System) -> RodShown {
    let number = aboard.boat.number;
    let depth = aboard.depth.as_ref().ok();
    let half = aboard.sure.as_ref().map_or(String::new(), |sure| {
        let half = Metres(0.5 * (sure.depth.high.0 - sure.depth.low.0));
        plus_minus(half, system)
    });
    let word = match (unfit, fishes) {
        (true, _) => "cannot be towed along",
        (false, true) => "steady run",
        (false, false) => "aboard",
    };
    RodShown {
        number,
        depth: depth.map_or(String::new(), |depth| system.depth(*depth).value),
        half,
        state: "out",
        word: word.to_owned(),
        grade: "ok",
        told: format!("Rod {number}: {word}"),
        // Nobody knows where in the strip it hangs: out of it.
        rig: [-9.0, -9.0],
        ..RodShown::default()
    }
}

fn rule(book: &Book<'_>, boat: &Boat<'_>, at: Option<f64>, system: System) -> Result<Rule, Error> {
    let (low, high, whole) = ENDS[usize::from(system == System::Metric)];
    let slope = RULE / (high - low);
    let x = |speed: f64| ((speed - low) * slope * 10.0).round() / 10.0;
    let tenths = (low * 10.0).round() as i32..=(high * 10.0).round() as i32;
    let ticks = tenths.map(|tenth| {
        let speed = f64::from(tenth) / 10.0;
        let long = (speed / whole).fract().abs() < 1e-9;
        let label = if long {
            format!("{speed:.1}")
        } else {
            String::new()
        };
        (x(speed), long, label)
    });
    let rods = afloat(book, &boat.rods)?;
    let spread = Spread {
        speed: boat.here.outing.speed,
        rods: rods.into_iter().map(|afloat| afloat.rod).collect(),
    };
    let unit = Quantity::Speed.unit(system);
    let shared = boat
        .here
        .surroundings()
        .ok()
        .filter(|_| !spread.rods.is_empty())
        .and_then(|surroundings| spread.shared_speed(&surroundings).ok())
        .map(|shared| {
            let end = |speed: MetresPerSecond| x(unit.from_si(speed.0).clamp(low, high));
            let words = format!("{} of {} work", shared.inside.len(), spread.rods.len());
            let (from, to) = (end(shared.from), end(shared.to));
            (Px(from), Px((to - from).max(2.0)), words)
        });
    Ok(Rule {
        ticks: ticks.collect(),
        shared,
        slope: (slope, x(0.0)),
        rider: at.map(|at| x(at.clamp(low, high))),
    })
}

fn plan(
    book: &Book<'_>,
    water: WaterId,
    told: &Told,
    boat: &Boat<'_>,
    system: System,
) -> Result<BoatPlan, Error> {
    // A practice lake lies under no water of this book.
    let chart = if boat.practice {
        Chart::default()
    } else {
        bottoms::of_water(book.connection(), water)?
    };
    let origin = bottoms::origin(book.connection(), water)?;
    let body = &boat.here.water;
    let [latitude, longitude] = origin.unwrap_or([body.latitude_deg, body.longitude_deg]);
    let plane = Plane::at(latitude, longitude);
    let marks: Vec<[f64; 2]> = boat
        .marks
        .iter()
        .map(|(_, mark)| {
            let (east, north) = plane.place(mark.place[0], mark.place[1]);
            [north, east]
        })
        .collect();
    let known = &told.known;
    let lines: Vec<(u8, Vec<[f64; 3]>)> = known
        .rods
        .iter()
        .map(|rod| (rod.number, rod.line.points.clone()))
        .collect();
    Ok(BoatPlan::new(&BoatPlanSource {
        boat: known.boat.map(|boat| (boat.place, boat.heading)),
        way: &known.way,
        chart: &chart,
        lines: &lines,
        marks: &marks,
        system,
    }))
}

/// One rod after the other.
///
/// # Errors
/// [`Error::NoOuting`], [`Error::Store`].
pub fn set_out(
    book: &Book<'_>,
    device: Device,
    told: &Told,
    at: Timestamp,
) -> Result<SetOutAssistant, Error> {
    let boat = Boat::load(book, at)?;
    let (here, system) = (boat.here, device.system);
    let now = now(told, &Beside::of(&boat, at, 0), at, system);
    let counted = counted(book, &boat, at)?;
    let next = boat
        .order
        .iter()
        .filter(|_| boat.running)
        .find_map(|number| {
            let aboard = boat.rods.iter().find(|one| one.boat.number == *number)?;
            (!aboard.fishes() && !aboard.boat.away && aboard.depth.is_ok()).then_some(aboard)
        });
    let is_in = |aboard: &Aboard| aboard.fishes() && boat.running;
    let inside = boat.rods.iter().filter(|aboard| is_in(aboard)).count();
    let stays = |aboard: &&Aboard| !aboard.boat.away;
    Ok(SetOutAssistant {
        frame: frame(Some(here), Screen::Boat, device, "/boat/set-out"),
        holder: next.map_or(String::new(), |aboard| {
            format!(
                "{}, {}",
                aboard.boat.rod.holder,
                aboard.boat.rod.stance.name()
            )
        }),
        wanted: next.map_or(String::new(), |aboard| {
            let runs = aboard
                .depth
                .as_ref()
                .ok()
                .copied()
                .unwrap_or(aboard.boat.rod.wanted);
            format!("{} down", system.depth(runs))
        }),
        next: next.map(|aboard| row(aboard, &counted, (&now, told), &boat, system)),
        speed: system.speed(here.outing.speed).to_string(),
        running: boat.running,
        count: (inside, boat.rods.iter().filter(stays).count()),
        others: boat
            .order
            .iter()
            .filter_map(|number| {
                let aboard = boat.rods.iter().find(|one| one.boat.number == *number)?;
                Some((*number, aboard.name.clone(), is_in(aboard)))
            })
            .collect(),
        cautions: words::cautions_of_day(&here.outing, system),
    })
}
