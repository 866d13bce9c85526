//! The page of the log.

use super::{cannot_row, finish_class, frame, recent_outings};
use crate::draw::{Bar, BenchDrawing, BenchSource, DayBars, DaySource, Row, Strip};
use crate::forms::{entry as entry_form, text};
use crate::screens::{
    Choice, Entry, EntryForm, Field, LISTED, Log, Notice, PassForm, PassRow, Playbook, RodRow,
    Screen, SwitchRow, Window,
};
use crate::seen::Device;
use crate::units::{Problem, System};
use crate::words;
use jiff::civil::Date;
use jiff::{SignedDuration, Timestamp};
use motilis_core::bench::Layout;
use motilis_core::book::{
    Event, EventId, EventKind, Given, Measured, PassId, RuleId, Tackle, Touched, Tried,
    check_clock, tried,
};
use motilis_core::evidence::{self, End, Logged, Pass};
use motilis_core::fish::Fish;
use motilis_core::rules::{Landed, LocalRule, Says, of_landed};
use motilis_core::sky::surface_light;
use motilis_core::units::{INCH, Metres};
use motilis_helm::{Aboard, Book, Error, Here, Names, Season, Switching, logged_today, switching};
use motilis_store::{casts, events, passes, photographs, readings, rigs, rules, spreads};
use std::collections::BTreeSet;

/// What the page tells beside the list.
#[derive(Debug, Clone, Default)]
pub struct Told {
    /// An entry that is being corrected.
    pub edit: Option<i64>,
    /// An entry that was just logged.
    pub logged: Option<i64>,
    /// An entry that was just thrown away.
    pub deleted: Option<i64>,
    /// A pass that was just thrown away.
    pub pass_gone: Option<i64>,
    /// A rod that was just set out or taken in, and whether it went out.
    pub moved: Option<String>,
    /// The hour at which the page is looked at; `None` where a form comes back.
    pub now: Option<Timestamp>,
    /// Kind of entry that the list is narrowed to.
    pub only: Option<EventKind>,
    /// Rod that it is narrowed to.
    pub rod: Option<u8>,
    /// An entry that is looked at, wherever it stands.
    pub at: Option<i64>,
    /// How many entries of a long list come before what is shown.
    pub from: Option<usize>,
}

/// Forms that came back because something in them cannot be.
#[derive(Debug, Default)]
pub struct Extra {
    note: Option<Field>,
    form: Option<Box<EntryForm>>,
    pass: Option<(PassId, Box<PassForm>)>,
}

impl Extra {
    /// A note as it was typed, with its problem.
    pub fn note(typed: &str, problem: Problem) -> Self {
        let note = Field {
            problem: Some(problem),
            ..text("note", "Note", typed)
        };
        Self {
            note: Some(note),
            ..Self::default()
        }
    }

    /// An entry's form as it was typed, with its problems.
    pub fn form(form: Box<EntryForm>) -> Self {
        Self {
            form: Some(form),
            ..Self::default()
        }
    }

    /// A pass's form as it was typed, with its problems.
    pub fn pass(id: PassId, form: Box<PassForm>) -> Self {
        Self {
            pass: Some((id, form)),
            ..Self::default()
        }
    }
}

/// What the page is made of.
struct Day<'a> {
    here: &'a Here,
    device: Device,
    events: Vec<(EventId, Event)>,
    passes: Vec<(PassId, Pass)>,
    rods: Vec<Aboard>,
    names: Names,
    rules: Vec<(RuleId, LocalRule)>,
    logged: Logged,
    /// Entries that have a photograph.
    photos: BTreeSet<EventId>,
    /// Fish kept on other outings, with their day.
    kept: Vec<(Fish, Date)>,
}

impl<'a> Day<'a> {
    fn load(book: &'a Book<'_>, device: Device) -> Result<Self, Error> {
        let (here, connection) = (book.here()?, book.connection());
        let events = events::of_outing(connection, here.id)?;
        let passes = passes::of_outing(connection, here.id)?;
        let of_events = events.iter().filter_map(|(_, event)| event.line);
        let of_passes = passes.iter().map(|(_, pass)| pass.tackle);
        let named = of_events.map(|line| line.tackle).chain(of_passes);
        let names = Names::of(connection, named)?;
        let keeps = events.iter().any(|(_, event)| event.kept == Some(true));
        let kept = if keeps {
            kept_elsewhere(book)?
        } else {
            Vec::new()
        };
        Ok(Self {
            photos: photographs::of_outing(connection, here.id)?,
            kept,
            logged: logged_today(book)?,
            rules: rules::of_water(connection, here.outing.water)?,
            rods: Aboard::all(book)?,
            here,
            device,
            events,
            passes,
            names,
        })
    }

    fn clock(&self, at: Timestamp) -> String {
        self.here.local(at).strftime("%H:%M").to_string()
    }

    /// The end of its hours, as far as they are known.
    fn end(&self) -> Option<Timestamp> {
        self.logged.span().map(|span| span.to)
    }

    /// Now, while the outing goes on.
    fn running(&self, now: Option<Timestamp>) -> Option<Timestamp> {
        let outing = &self.here.outing;
        now.filter(|now| {
            let long = now.duration_since(outing.started);
            outing.ended.is_none() && (SignedDuration::ZERO..evidence::LONGEST).contains(&long)
        })
    }

    /// Hours of a pass, up to now while it is out.
    fn hours(&self, pass: &Pass, now: Option<Timestamp>) -> f64 {
        let known = self.running(now).max(self.end());
        let to = match (pass.to, known) {
            (Some(to), Some(known)) => to.min(known),
            (to, known) => to.or(known).unwrap_or(pass.from),
        };
        let from = pass.from.max(self.here.outing.started);
        (to.duration_since(from).as_secs_f64() / 3_600.0).max(0.0)
    }
}

/// Fish kept on other outings than the open one, with their day.
fn kept_elsewhere(book: &Book<'_>) -> Result<Vec<(Fish, Date)>, Error> {
    let here = book.here()?;
    let season = Season::load(book.connection(), None)?;
    let others = season.outings().iter().filter(|told| told.id != here.id);
    let fish = others.flat_map(|told| &told.caught).filter(|one| one.kept);
    Ok(fish.map(|one| (one.fish, one.date)).collect())
}

/// "2 h 05 min".
fn long(hours: f64) -> String {
    let minutes = (hours * 60.0).round() as u64;
    format!("{} h {:02} min", minutes / 60, minutes % 60)
}

/// Casts of the outing with what they brought, on a river.
fn casts_said(book: &Book<'_>, here: &Here) -> Result<Option<String>, Error> {
    if !here.water.river {
        return Ok(None);
    }
    let all = casts::of_outing(book.connection(), here.id)?;
    let bites = all.iter().filter(|(_, cast)| cast.event.is_some()).count();
    Ok(Some(if all.is_empty() {
        "No casts logged on this outing yet: one tap a cast there, one a strike.".to_owned()
    } else {
        format!(
            "{} casts logged, {bites} of them with a bite. Rates per 100 casts, with how sure they are, stand under Evidence.",
            all.len()
        )
    }))
}

/// The place in the list that is looked at: what is being corrected or was just now, where a deleted entry stood, or as asked.
fn looked_at(
    book: &Book<'_>,
    told: &Told,
    shown: &[&(EventId, Event)],
) -> Result<Option<usize>, Error> {
    let at = told.edit.or(told.at);
    if let Some(place) = shown.iter().position(|(id, _)| at == Some(id.0)) {
        return Ok(Some(place));
    }
    let Some(gone) = told.deleted.map(EventId) else {
        return Ok(told.from);
    };
    let hour = events::hour(book.connection(), gone)?;
    Ok(hour.map(|hour| shown.partition_point(|(id, event)| (event.at, id.0) > (hour, gone.0))))
}

/// The whole page.
pub fn log(book: &Book<'_>, device: Device, told: &Told, mut extra: Extra) -> Result<Log, Error> {
    let day = Day::load(book, device)?;
    let here = day.here;
    let asked = |event: &Event| {
        told.only.is_none_or(|kind| event.kind == kind)
            && told.rod.is_none_or(|rod| event.rod == Some(rod))
    };
    let shown = day
        .events
        .iter()
        .filter(|(id, event)| asked(event) || told.edit == Some(id.0));
    let shown: Vec<&(EventId, Event)> = shown.collect();
    let from = Window::from(looked_at(book, told, &shown)?.unwrap_or(0), shown.len());
    let window = Window::of(from, shown.len(), |from| piece(told, from));
    let piece = shown.into_iter().skip(from).take(LISTED);
    let entries = piece.map(|(id, event)| {
        let form = (told.edit == Some(id.0)).then(|| {
            let typed = extra.form.take().map(|form| *form);
            typed.unwrap_or_else(|| entry_form::shown(event, here, device, &day.rods))
        });
        entry(&day, id.0, event, form)
    });
    let entries = entries.collect();
    let rods: Vec<RodRow> = day
        .rods
        .iter()
        .map(|aboard| rod_row(&day, aboard, told.now))
        .collect();
    let passes = day.passes.iter().map(|(id, pass)| {
        let wrong = extra.pass.take_if(|(wrong, _)| wrong == id);
        let form = wrong.map_or_else(|| entry_form::pass_shown(pass, here), |(_, form)| *form);
        pass_row(&day, *id, pass, form, told.now)
    });
    let passes: Vec<PassRow> = passes.collect();
    let spreads = spreads::names(book.connection())?;
    Ok(Log {
        frame: frame(Some(here), Screen::Log, device, "/log"),
        outings: recent_outings(here),
        headline: headline(&day.events),
        casts: casts_said(book, here)?,
        hours: hours(&day),
        has_ended: here.outing.ended.is_some(),
        out: rods.iter().filter(|row| row.fishes).count(),
        switch: switching(book, &day.rods)?.as_ref().map(switch_row),
        experiment: match told.now {
            Some(now) => super::experiment::strip(book, device, now)?,
            None => None,
        },
        rods,
        spreads: spreads
            .into_iter()
            .map(|(id, name)| Choice {
                value: id.0.to_string(),
                label: name,
                chosen: false,
            })
            .collect(),
        note: extra.note.unwrap_or_else(|| text("note", "Note", "")),
        notice: notice(book, &day, told)?,
        bars: bars(book, &day, told.now)?,
        only: Choice::list(
            [("", "everything")]
                .into_iter()
                .chain(EventKind::ALL.iter().map(|kind| (kind.key(), kind.name()))),
            told.only.map_or("", EventKind::key),
        ),
        only_rod: std::iter::once((String::new(), "all rods".to_owned()))
            .chain(day.rods.iter().map(|aboard| {
                let number = aboard.boat.number.to_string();
                (number.clone(), format!("rod {number}"))
            }))
            .map(|(value, label)| Choice {
                chosen: value == told.rod.map_or_else(String::new, |rod| rod.to_string()),
                value,
                label,
            })
            .collect(),
        narrowed: told.only.is_some() || told.rod.is_some(),
        passes_open: passes.iter().any(|row| row.form.is_wrong()),
        passes,
        unknown: day.logged.fish_of_unknown_hours(),
        window,
        entries,
        cautions: words::cautions_of_day(&here.outing, device.system),
    })
}

/// The address of a piece of a long list.
fn piece(told: &Told, from: usize) -> String {
    let rod = told.rod.map(|rod| rod.to_string()).unwrap_or_default();
    format!(
        "/log?only={}&rod={rod}&from={from}#pieces",
        told.only.map_or("", EventKind::key)
    )
}

/// How long the outing was, and how that is known.
fn hours(day: &Day<'_>) -> String {
    let Some(span) = day.logged.span() else {
        return "Nobody knows how long yet.".to_owned();
    };
    let long = long(span.hours());
    match span.end {
        End::Said => format!("It lasted {long}."),
        End::Heard => {
            format!("{long} so far: as long as the boat was heard, until you say it ended.")
        }
        End::Reckoned => format!(
            "{long} so far: reckoned to a quarter of an hour after the last sign of life, until you say it ended."
        ),
    }
}

/// How long the bait has been on: since it was last renewed, or since the rod went out.
fn bait(day: &Day<'_>, aboard: &Aboard, now: Option<Timestamp>) -> Option<String> {
    let rig = aboard.rig.as_ref()?.runs().ok()?;
    let bait = rig
        .stack()
        .pieces
        .iter()
        .find_map(|piece| piece.part.bait())?;
    let number = aboard.boat.number;
    let renewed = day
        .events
        .iter()
        .map(|(_, event)| event)
        .find(|event| event.kind == EventKind::FreshBait && event.rod == Some(number));
    let put_out = day
        .passes
        .iter()
        .map(|(_, pass)| pass)
        .filter(|pass| pass.rod == Some(number) && pass.tackle == aboard.boat.rod.tackle)
        .map(|pass| pass.from)
        .min();
    let since = renewed.map(|event| event.at).or(put_out)?;
    let scent = renewed.map_or("", |event| event.note.as_str());
    let named = if scent.is_empty() {
        words::capital(bait.name())
    } else {
        format!("{} with {scent}", words::capital(bait.name()))
    };
    let at = day.clock(since);
    let Some(fresh) = bait.fresh_minutes() else {
        return Some(format!("{named} on since {at}; it stays."));
    };
    let minutes = now.map(|now| (now.as_second() - since.as_second()) / 60);
    Some(match minutes {
        Some(minutes) if (0..=i64::from(fresh)).contains(&minutes) => {
            format!("{named} on since {at}, {minutes} min; fresh for about {fresh}.")
        }
        _ => format!("{named} on since {at}: renew it, it is fresh for about {fresh} min."),
    })
}

fn rod_row(day: &Day<'_>, aboard: &Aboard, now: Option<Timestamp>) -> RodRow {
    let system = day.device.system;
    let boat = &aboard.boat;
    let cable = if aboard.in_use.setup.lets_out_cable() {
        " of cable"
    } else {
        ""
    };
    let speed = system.speed(day.here.outing.speed);
    let out = format!("{}{cable} out, {speed}", system.depth(boat.rod.out));
    let place = match (&aboard.depth, &aboard.sure) {
        (Ok(depth), _) if depth.0 <= 0.0 => format!("floats, {out}"),
        (Ok(depth), Some(sure)) => {
            let between = system.between(sure.depth.low, sure.depth.high);
            format!("{} down ({between}), {out}", system.depth(*depth))
        }
        (Ok(depth), None) => format!("{} down, {out}", system.depth(*depth)),
        (Err(_), _) => out,
    };
    let passes = day.logged.passes.iter();
    let own = passes.filter(|pass| pass.rod == Some(boat.number));
    let hours: f64 = own.map(|pass| day.hours(pass, now)).sum();
    let fish = day
        .events
        .iter()
        .filter(|(_, event)| event.kind == EventKind::Fish && event.rod == Some(boat.number))
        .count();
    let since = match &aboard.open {
        Some((_, pass)) => format!("out since {}", day.clock(pass.from)),
        None if boat.away => "put away".to_owned(),
        None => "aboard".to_owned(),
    };
    let runs = aboard.rig.as_ref().and_then(|rig| rig.runs().ok());
    let drawing = runs.map(|rig| {
        let stack = rig.stack();
        BenchDrawing::new(&BenchSource {
            least_width: 330.0,
            ..BenchSource::plain(stack, &Layout::new(stack), &aboard.name)
        })
    });
    RodRow {
        number: boat.number,
        holder: format!("{}, {}", boat.rod.holder, boat.rod.stance.name()),
        rig: aboard.name.clone(),
        drawing,
        place,
        hours: format!("{since}; {} today, {fish} fish", long(hours)),
        cannot: aboard.depth.as_ref().err().map(cannot_row),
        bait: bait(day, aboard, now),
        fishes: aboard.fishes(),
        away: boat.away,
        tank: aboard.rig_id().map(|rig| format!("/tank?rig={}", rig.0)),
    }
}

/// Fish and rod-hours: "4 fish in 3.1 rod-hours".
pub(super) fn known(record: &evidence::Record) -> String {
    format!("{} fish in {:.1} rod-hours", record.fish, record.rod_hours)
}

pub(super) fn switch_row(switching: &Switching) -> SwitchRow {
    let call = &switching.call;
    let numbers: Vec<String> = call.rods.iter().map(u8::to_string).collect();
    let rods = match numbers.as_slice() {
        [one] => format!("Rod {one}"),
        many => format!("Rods {}", many.join(" and ")),
    };
    let keep = switching.keep.map_or_else(String::new, |rod| {
        format!(" Keep rod {rod} as it is, as a probe.")
    });
    let behind = if call.rods.len() == 1 {
        "what it carries"
    } else {
        "what they carry"
    };
    SwitchRow {
        rig: call.rig.0,
        sentence: format!(
            "{rods}: change to {}. It has {} today, {behind} has {}. {} better ({:.2}).{keep}",
            switching.name,
            known(&call.ahead.record),
            known(&call.behind.record),
            words::capital(words::surely(call.verdict)),
            call.probability
        ),
    }
}

fn pass_row(
    day: &Day<'_>,
    id: PassId,
    pass: &Pass,
    form: PassForm,
    now: Option<Timestamp>,
) -> PassRow {
    let system = day.device.system;
    let ran = &pass.ran;
    let ran = [
        ran.depth
            .map(|depth| format!("{} down", system.depth(depth))),
        ran.out.map(|out| format!("{} out", system.depth(out))),
        ran.speed.map(|speed| system.speed(speed).to_string()),
        (!ran.bait.is_empty()).then(|| ran.bait.clone()),
    ];
    let ran: Vec<String> = ran.into_iter().flatten().collect();
    PassRow {
        id: id.0,
        rod: pass
            .rod
            .map_or_else(|| "–".to_owned(), |rod| rod.to_string()),
        name: day.names.get(pass.tackle).to_owned(),
        ran: ran.join(", "),
        hours: long(day.hours(pass, now)),
        open: pass.is_open(),
        form,
    }
}

/// Widths of the day's bars: on a desk, on a phone.
const WIDE: f64 = 1_230.0;
const NARROW: f64 = 390.0;
/// Lux that are no light at all, and full sun, on a logarithmic scale.
const LIGHT: (f64, f64) = (-1.0, 5.0);

/// The outing as bars over its hours, for a desk and for a phone.
fn bars(
    book: &Book<'_>,
    day: &Day<'_>,
    now: Option<Timestamp>,
) -> Result<Option<(DayBars, DayBars)>, Error> {
    let here = day.here;
    let Ok(midnight) = here.local(here.outing.started).start_of_day() else {
        return Ok(None);
    };
    let hour = |at: Timestamp| (at.as_second() - midnight.timestamp().as_second()) as f64 / 3_600.0;
    let Some(end) = day.running(now).max(day.end()) else {
        return Ok(None);
    };
    let hours = (hour(here.outing.started), hour(end));
    let mut numbers: Vec<Option<u8>> = day.rods.iter().map(|one| Some(one.boat.number)).collect();
    for (_, pass) in &day.passes {
        if !numbers.contains(&pass.rod) {
            numbers.push(pass.rod);
        }
    }
    let rows: Vec<Row> = numbers
        .into_iter()
        .map(|number| row(book, day, number, (end, &hour)))
        .collect::<Result<_, _>>()?;
    let strips = strips(book, day, hours, &hour)?;
    let fish = day
        .events
        .iter()
        .filter(|(_, event)| event.kind == EventKind::Fish)
        .count();
    let title = format!(
        "The outing from {} to {}: {} rods, {} passes, {fish} fish. The lists below tell each.",
        day.clock(here.outing.started),
        day.clock(end),
        rows.len(),
        day.passes.len()
    );
    let draw = |width| {
        DayBars::new(&DaySource {
            hours,
            strips: strips.clone(),
            rows: rows.clone(),
            width,
            title: title.clone(),
        })
    };
    Ok(draw(WIDE).zip(draw(NARROW)))
}

/// A rod's row; `None` for passes of nobody knows which rod.
fn row(
    book: &Book<'_>,
    day: &Day<'_>,
    number: Option<u8>,
    (end, hour): (Timestamp, &dyn Fn(Timestamp) -> f64),
) -> Result<Row, Error> {
    let mut bars = Vec::new();
    for (_, pass) in day.passes.iter().filter(|(_, pass)| pass.rod == number) {
        // As it was built for that pass, where that was kept.
        let finish = match (pass.tackle, pass.ran.version) {
            (Tackle::Rig(rig), Some(version)) => rigs::board_at(book.connection(), rig, version)
                .ok()
                .and_then(|board| Some(board.rig().ok()?.rig.finish().colour)),
            (Tackle::Rig(rig), None) => book.rig(rig)?.stands.ok().map(|rig| rig.finish().colour),
            (Tackle::Lure(_), _) => None,
        };
        let name = day.names.get(pass.tackle).to_owned();
        let to = pass.to.unwrap_or(end);
        bars.push(Bar {
            from: hour(pass.from),
            to: hour(to.max(pass.from)),
            open: pass.is_open(),
            colour: finish.map_or_else(|| "film-2".to_owned(), finish_class),
            code: finish.map_or_else(String::new, |colour| colour.key().to_owned()),
            title: format!("{name}, {} to {}", day.clock(pass.from), day.clock(to)),
        });
    }
    let own = day.events.iter().filter(|(_, event)| {
        event.rod == number && event.line.is_some() && event.kind != EventKind::Change
    });
    Ok(Row {
        rod: number.map_or_else(|| "?".to_owned(), |rod| rod.to_string()),
        bars,
        marks: own
            .map(|(_, event)| (hour(event.at), event.kind.key()))
            .collect(),
    })
}

/// Light, temperature and speed over the hours.
fn strips(
    book: &Book<'_>,
    day: &Day<'_>,
    (from, to): (f64, f64),
    hour: &dyn Fn(Timestamp) -> f64,
) -> Result<Vec<Strip>, Error> {
    let (here, system) = (day.here, day.device.system);
    let mut strips = Vec::new();
    if let Ok(place) = here.water.place() {
        let steps = 48;
        let points = (0..=steps).filter_map(|step| {
            let at = from + (to - from) * f64::from(step) / f64::from(steps);
            let seconds = ((at - from) * 3_600.0) as i64;
            let then = here.outing.started + SignedDuration::from_secs(seconds);
            let light = surface_light(place, then, here.outing.sky.cloud()).ok()?;
            let lux = light.total().max(1e-3).log10();
            Some((at, (lux - LIGHT.0) / (LIGHT.1 - LIGHT.0)))
        });
        strips.push(Strip {
            label: "light on the surface, night to full sun".to_owned(),
            points: points.collect(),
            stepped: false,
        });
    }
    let inside = |at: f64| (from..=to).contains(&at);
    let mut warm = vec![(from, here.outing.temperature)];
    for (_, reading) in readings::of_outing(book.connection(), here.id)? {
        if inside(hour(reading.at)) {
            warm.push((hour(reading.at), reading.temperature));
        }
    }
    let warm: Vec<(f64, f64)> = warm.into_iter().map(|(at, warm)| (at, warm.0)).collect();
    let say = |figure: f64| {
        system
            .temperature(motilis_core::units::Celsius(figure))
            .to_string()
    };
    strips.push(scaled("water", warm, to, &say));
    let mut deep: Vec<(f64, f64)> = Vec::new();
    for (_, pass) in &day.passes {
        deep.extend(
            pass.ran
                .depth
                .map(|depth| (hour(pass.from).max(from), depth.0)),
        );
    }
    for (_, event) in &day.events {
        let depth = event.line.and_then(|line| line.depth);
        deep.extend(depth.map(|depth| (hour(event.at), depth.0)));
    }
    deep.retain(|(at, _)| inside(*at));
    if !deep.is_empty() {
        let say = |figure: f64| system.depth(Metres(figure)).to_string();
        let strip = scaled("depth of rigs", deep, to, &say);
        // The deeper the lower.
        let points = strip
            .points
            .into_iter()
            .map(|(at, height)| (at, 1.0 - height));
        strips.push(Strip {
            points: points.collect(),
            ..strip
        });
    }
    let mut fast = vec![(from, here.outing.speed.0)];
    for (_, event) in &day.events {
        if inside(hour(event.at)) {
            fast.push((hour(event.at), event.speed.0));
        }
    }
    let say = |figure: f64| {
        system
            .speed(motilis_core::units::MetresPerSecond(figure))
            .to_string()
    };
    strips.push(scaled("speed of entries", fast, to, &say));
    Ok(strips)
}

/// Figures over the hours between their own ends, which its label tells; the last one holds to the end.
fn scaled(what: &str, mut figures: Vec<(f64, f64)>, to: f64, say: &dyn Fn(f64) -> String) -> Strip {
    let of = |least: fn(f64, f64) -> f64| figures.iter().map(|one| one.1).reduce(least);
    let (low, high) = (
        of(f64::min).unwrap_or_default(),
        of(f64::max).unwrap_or_default(),
    );
    let label = if say(low) == say(high) {
        format!("{what}, {}", say(high))
    } else {
        format!("{what}, {} to {}", say(low), say(high))
    };
    figures.sort_by(|a, b| a.0.total_cmp(&b.0));
    if let Some((_, last)) = figures.last().copied() {
        figures.push((to, last));
    }
    let height = |figure: f64| {
        if high > low {
            (figure - low) / (high - low)
        } else {
            0.5
        }
    };
    let points = figures.iter().map(|(at, figure)| (*at, height(*figure)));
    Strip {
        label,
        points: points.collect(),
        stepped: true,
    }
}

fn headline(events: &[(EventId, Event)]) -> String {
    let count = |kind| {
        events
            .iter()
            .filter(|(_, event)| event.kind == kind)
            .count()
    };
    let fish = count(EventKind::Fish);
    let strikes = count(EventKind::Strike);
    let plural = if strikes == 1 { "" } else { "s" };
    format!("{fish} fish, {strikes} strike{plural}")
}

/// What was just done, for a page that shows nothing else of the day.
pub(super) fn notice_of(
    book: &Book<'_>,
    device: Device,
    told: &Told,
) -> Result<Option<Notice>, Error> {
    let quiet = told.logged.is_none() && told.deleted.is_none() && told.moved.is_none();
    if quiet {
        return Ok(None);
    }
    notice(book, &Day::load(book, device)?, told)
}

fn notice(book: &Book<'_>, day: &Day<'_>, told: &Told) -> Result<Option<Notice>, Error> {
    let gone = |what: &str, undo: String| Notice {
        rod: None,
        sentence: format!("{what} deleted."),
        warnings: Vec::new(),
        undo: Some(undo),
        measure: None,
        playbook: None,
    };
    if let Some(id) = told.deleted {
        return Ok(Some(gone("Entry", format!("/log/{id}/undo"))));
    }
    if let Some(id) = told.pass_gone {
        return Ok(Some(gone("Pass", format!("/log/passes/{id}/restore"))));
    }
    if let Some(sentence) = &told.moved {
        return Ok(Some(Notice {
            rod: None,
            sentence: sentence.clone(),
            warnings: Vec::new(),
            undo: None,
            measure: None,
            playbook: None,
        }));
    }
    let logged = told.logged;
    let found = day.events.iter().find(|(id, _)| Some(id.0) == logged);
    let Some((EventId(logged), event)) = found else {
        return Ok(None);
    };
    let logged = *logged;
    let entry = entry(day, logged, event, None);
    let mut warnings: Vec<String> = entry
        .beyond
        .then(|| beyond(day, event))
        .into_iter()
        .collect();
    let fishes = event.rod.is_some_and(|rod| {
        day.logged.passes.iter().any(|pass| {
            let ended = pass.to.is_none_or(|to| event.at <= to);
            pass.rod == Some(rod) && pass.from <= event.at && ended
        })
    });
    if let Some(rod) = event.rod.filter(|_| !fishes) {
        warnings.push(format!(
            "Rod {rod} was aboard by the log: set it out when it goes into the water, so that its hours count."
        ));
    }
    warnings.extend(entry.rules.iter().cloned());
    if event.kind == EventKind::Fish {
        warnings.extend(words::release_cautions(
            &day.here.outing,
            event,
            day.device.system,
        ));
    }
    let rod = event.rod.map(|rod| format!("rod {rod}"));
    let place = [rod.unwrap_or_default(), entry.rig, entry.place]
        .into_iter()
        .filter(|text| !text.is_empty());
    let place: Vec<String> = place.collect();
    let what = if place.is_empty() {
        String::new()
    } else {
        format!(": {}", place.join(", "))
    };
    Ok(Some(Notice {
        playbook: playbook(book, event)?,
        rod: event
            .rod
            .filter(|rod| day.rods.iter().any(|one| one.boat.number == *rod)),
        sentence: format!("{} logged{what}.", event.kind.name()),
        warnings,
        undo: Some(format!("/log/{logged}/delete")),
        measure: (event.kind == EventKind::Fish).then(|| {
            let form = entry_form::shown(event, day.here, day.device, &day.rods);
            let usual = match day.device.system {
                System::Imperial => "18",
                System::Metric => "45",
            };
            (logged, form, usual)
        }),
    }))
}

/// What is tried after what just touched a rod and did not hold, with what each brought so far.
fn playbook(book: &Book<'_>, event: &Event) -> Result<Option<Playbook>, Error> {
    let caught = &event.caught;
    let touched = Touched::of(event.kind, caught.strike, caught.bait_after);
    let Some((touched, rod)) = touched.zip(event.rod) else {
        return Ok(None);
    };
    let season = Season::load(book.connection(), None)?;
    let plays = touched.plays().iter().map(|play| {
        let outings = season.outings().iter();
        let all = outings.map(|told| tried(&told.on_rods, *play));
        let sum = all.fold(Tried::default(), |sum, one| Tried {
            tried: sum.tried + one.tried,
            bit: sum.bit + one.bit,
        });
        let brought = match sum.tried {
            0 => "not tried yet".to_owned(),
            tried => format!("{tried} tried, {} bit", sum.bit),
        };
        (play.key(), words::capital(play.name()), brought)
    });
    Ok(Some(Playbook {
        rod,
        touched: words::capital(touched.name()),
        plays: plays.collect(),
    }))
}

/// What there is to say of an entry that lies beyond the outing.
fn beyond(day: &Day<'_>, event: &Event) -> String {
    if let Err(why) = check_clock("at", event.at) {
        return format!("{}.", words::capital(&why.to_string()));
    }
    let began = day.here.local(day.here.outing.started);
    format!(
        "This outing began on {}: it does not count in its hours. Begin a new outing, or correct the entry’s time.",
        began.strftime("%-d %B %Y")
    )
}

/// What the rules that were typed in say of a fish, in sentences; nothing of fish that nobody measured or kept.
fn sayings(day: &Day<'_>, event: &Event) -> Vec<String> {
    if event.kind != EventKind::Fish || (event.length.is_none() && event.kept.is_none()) {
        return Vec::new();
    }
    let species = |event: &Event| event.caught.species.unwrap_or(day.here.outing.fish);
    let fish = species(event);
    let kept_before = day.events.iter().map(|(_, other)| other).filter(|other| {
        other.kind == EventKind::Fish
            && other.kept == Some(true)
            && species(other) == fish
            && other.at < event.at
    });
    let over = |other: &&Event| {
        day.rules.iter().any(|(_, rule)| match rule.says {
            Says::Slot(slot) => {
                slot.one_over
                    && slot
                        .to
                        .zip(other.length)
                        .is_some_and(|(to, length)| length > to)
            }
            _ => false,
        })
    };
    let kept: Vec<&Event> = kept_before.collect();
    let count = |list: usize| u32::try_from(list).unwrap_or(u32::MAX);
    let date = day.here.local(event.at).date();
    // Other outings of that day count for it, those of the days before for what is possessed.
    let other = |days: std::ops::RangeInclusive<i64>| {
        let of = day.kept.iter().filter(|(other, then)| {
            let ago = date.duration_since(*then).as_hours() / 24;
            *other == fish && days.contains(&ago)
        });
        count(of.count())
    };
    let system = day.device.system;
    let landed = Landed {
        fish,
        length: event.length,
        step: match system {
            System::Imperial => 0.25 * INCH,
            System::Metric => Metres(0.005),
        },
        date,
        kept: count(kept.len()) + other(0..=0),
        over: count(kept.iter().filter(|other| over(other)).count()),
        possessed: Some(other(1..=words::rules::POSSESSED_DAYS)),
    };
    let other = event.caught.measured.filter(|how| *how != Measured::Total);
    let held = event.length.is_some()
        && day.rules.iter().any(|(_, rule)| {
            matches!(rule.says, Says::Slot(_)) && rule.is_of(fish) && rule.holds_on(date)
        });
    let caution = other.filter(|_| held).map(|how| {
        format!(
            "Measured {}: a rule of lengths may count the total length; look how yours counts.",
            how.name()
        )
    });
    let told = of_landed(&landed, &day.rules).into_iter();
    let told = told.filter_map(|(id, saying)| {
        let (_, rule) = day.rules.iter().find(|(known, _)| *known == id)?;
        words::rules::landed(&landed, saying, rule, event.kept == Some(true), system)
    });
    told.chain(caution).collect()
}

fn entry(day: &Day<'_>, id: i64, event: &Event, form: Option<EntryForm>) -> Entry {
    let system = day.device.system;
    let at = day.here.local(event.at);
    let started = day.here.local(day.here.outing.started);
    let time = match (at.date() == started.date(), at.year() == started.year()) {
        (true, _) => "%H:%M",
        (_, true) => "%-d %b, %H:%M",
        _ => "%-d %b %Y, %H:%M",
    };
    let rig = event
        .line
        .map_or_else(String::new, |line| day.names.get(line.tackle).to_owned());
    Entry {
        id,
        kind: event.kind.name(),
        mark: event.kind.key(),
        time: at.strftime(time).to_string(),
        rod: event
            .rod
            .map_or_else(String::new, |rod| format!("Rod {rod}, ")),
        rig,
        place: place(event, system),
        fish: fish(event, system),
        rules: sayings(day, event),
        note: event.note.clone(),
        photo: day.photos.contains(&EventId(id)),
        is_fish: event.kind == EventKind::Fish,
        beyond: day.logged.is_beyond(event.at),
        form,
    }
}

fn place(event: &Event, system: System) -> String {
    let Some(line) = event.line else {
        return String::new();
    };
    let speed = system.speed(event.speed);
    let out = system.depth(line.out);
    let ran = match line.depth {
        Some(down) => format!("{} down, {out} out, {speed}", system.depth(down)),
        None => format!("depth not computed, {out} out, {speed}"),
    };
    let from = match event.given {
        Given::Conditions => return ran,
        Given::Track => "from the track",
        Given::Live => "from the boat’s instruments",
    };
    match (event.ground, event.course_deg) {
        (Some(ground), Some(course)) => {
            format!(
                "{ran}; {} over ground, {course:.0}°, {from}",
                system.speed(ground)
            )
        }
        (Some(ground), None) => format!("{ran}; {} over ground, {from}", system.speed(ground)),
        (None, _) => format!("{ran}; placed {from}"),
    }
}

fn fish(event: &Event, system: System) -> String {
    let caught = &event.caught;
    let words = |text: &String| (!text.is_empty()).then(|| text.clone());
    let said = [
        event.play.map(|play| play.name().to_owned()),
        caught.strike.map(|strike| strike.name().to_owned()),
        caught
            .bait_after
            .map(|bait| format!("bait {}", bait.name())),
        caught.species.map(|fish| fish.name().to_owned()),
        event
            .length
            .map(|length| system.length_in_fractions(length).to_string()),
        caught.measured.map(|how| how.name().to_owned()),
        caught
            .girth
            .map(|girth| format!("girth {}", system.length_in_fractions(girth))),
        caught
            .weight
            .map(|weight| system.fish_weight(weight).to_string()),
        event
            .kept
            .map(|kept| if kept { "kept" } else { "released" }.to_owned()),
        caught.landing.map(|landing| landing.name().to_owned()),
        caught
            .clipped
            .map(|clipped| if clipped { "fin clipped" } else { "fin whole" }.to_owned()),
        words(&caught.sex),
        words(&caught.condition),
        words(&caught.hooked),
    ];
    said.into_iter().flatten().collect::<Vec<_>>().join(", ")
}
