//! The page of the tank out of what was computed.

use super::facts::usable;
use super::today::verdict;
use super::{blades, cannot_row, choices, frame};
use crate::draw::{
    BenchDrawing, BenchSource, Curve, CurveSource, SideSource, SideView, SpeedRule, Stretch,
};
use crate::forms::tank::{Settled, key};
use crate::screens::{Choice, Fact, Field, Kind, Message, Screen, Tank, TankForm};
use crate::seen::Seen;
use crate::units::{Quantity, System};
use crate::words;
use motilis_core::advice::Verdict;
use motilis_core::bench::Layout;
use motilis_core::blade::{LATERAL_LINE, Running, State};
use motilis_core::book::{DunkId, DunkTest};
use motilis_core::line::{Bottom, Line, Run, Start, Sure};
use motilis_core::motion::NodeLoad;
use motilis_core::rig::Rig;
use motilis_core::towline::Band;
use motilis_core::units::{Hertz, KILOMETRE_PER_HOUR, MILE_PER_HOUR, Metres, MetresPerSecond};
use motilis_core::water::Water;
use motilis_helm::{Cannot, Error, Tank as Question};

/// Points of the depth curves.
const CURVE_POINTS: usize = 48;
/// Places along them at which the band is computed.
const BAND_POINTS: usize = 10;
/// Sizes of the side view: on a desk, on a phone.
const WIDE: (f64, f64) = (860.0, 430.0);
const NARROW: (f64, f64) = (390.0, 400.0);

/// What the page shows beside the tank as it is kept: forms as they were typed, what was thrown away.
#[derive(Debug, Default)]
pub struct Shown {
    /// The dunk test as it was typed.
    pub dunk: Option<(Vec<Choice>, Vec<Field>)>,
    /// The touch as it was typed.
    pub touch: Option<(Vec<Choice>, Vec<Field>)>,
    /// A dunk test that was just thrown away.
    pub dunk_gone: Option<i64>,
    /// A touch that was just thrown away.
    pub touch_gone: Option<i64>,
}

/// The page of a rig that cannot run: what is wrong, and the way to mend it.
pub fn cannot(tank: &Seen<Question<'_, '_>>, cannot: &Cannot) -> Message {
    let row = cannot_row(cannot);
    let own = tank.rigs.iter().find(|rig| rig.name == cannot.name);
    let rigs = tank.rigs.iter().map(|rig| (rig.id.0, rig.name.as_str()));
    Message {
        frame: frame(Some(tank.here), Screen::Tank, tank.device, "/tank"),
        head: format!("{} cannot run", row.name),
        sentence: row.sentence,
        door: (row.address, row.mend),
        others: Some(("/tank", choices(rigs, own.map(|rig| rig.id.0)))),
    }
}

/// The whole page.
#[allow(clippy::too_many_lines, reason = "one page, field by field")]
pub fn tank(
    stock: &Seen<Question<'_, '_>>,
    settled: &Settled,
    form: TankForm,
    path: &str,
    mut shown: Shown,
    dunks: &[(DunkId, DunkTest)],
) -> Result<Tank, Error> {
    let (here, system) = (stock.here, stock.device.system);
    let surroundings = stock.surroundings;
    let rig = &settled.runs;
    let line = Line::new(rig, &settled.in_use, surroundings)?;
    let (_, blade) = rig.at(settled.speed, &surroundings.water, surroundings.temperature)?;
    let run = if settled.sound {
        line.run(settled.speed, settled.out)
    } else {
        Err(not_sound())
    };
    let refusal = match &run {
        Ok(_) => None,
        Err(_) if !settled.sound => Some("Correct the marked field.".to_owned()),
        Err(_) => Some("So little line does not reach the water. Let out more.".to_owned()),
    };
    let run = run.ok();
    let window = line.window()?;
    let inside = window.holds(settled.speed);
    let verdict_of = match (blade.state.works(), inside) {
        (true, true) => Verdict::Works,
        (true, false) => Verdict::Watch,
        (false, _) => Verdict::Cannot,
    };
    let sure = run
        .as_ref()
        .and_then(|run| line.sure(settled.speed, run.out));
    let rule = SpeedRule::new(settled.speed, system);
    let fading = here.day()?.fading()?;
    let side = |size| {
        SideView::new(&SideSource {
            run: run.as_ref(),
            tip_height: match settled.in_use.start {
                Start::RodTip { height } => height,
                Start::Board | Start::Downrigger { .. } => Metres(0.0),
            },
            board: settled.in_use.start == Start::Board,
            bottom: here.outing.bottom,
            fading: &fading,
            fish: here.outing.fish_depth,
            system,
            sure: sure.as_ref(),
            cable: settled.in_use.lets_out_cable(),
            size,
            stretched: size == NARROW,
        })
    };
    let mut cautions = words::cautions_of_day(&here.outing, system);
    cautions.extend(words::caution_of_setup(&settled.in_use));
    Ok(Tank {
        frame: frame(Some(here), Screen::Tank, stock.device, path),
        name: rig.name.clone(),
        kind: format!(
            "{}, {}",
            rig.kind().name(),
            words::weight(&settled.in_use, system)
        ),
        verdict: verdict(verdict_of),
        glyph: blade.state.key(),
        state: if settled.sound {
            words::state(blade.state)
        } else {
            "Not known"
        },
        turns: if settled.sound {
            turns(&blade, inside, system)
        } else {
            "until the marked field can be read".to_owned()
        },
        bar: rule.bar(window, settled.speed, system),
        blades: blades::panels(stock, settled)?,
        rungs: blades::ladder(stock, settled, &rule),
        dunk: blades::dunks(stock, settled, &mut shown, dunks)?,
        touch: blades::dive(stock, settled, &mut shown)?,
        state_of: state_of(settled, &form),
        rule,
        side: side(WIDE),
        side_narrow: side(NARROW),
        sketch: BenchDrawing::new(&BenchSource {
            hanging: !blade.state.works(),
            ..BenchSource::plain(rig.stack(), &Layout::new(rig.stack()), &rig.name)
        }),
        by_out: by_out(&line, settled, stock, run.as_ref())?,
        by_speed: by_speed(&line, settled, stock, run.as_ref()),
        facts: std::iter::once(usable(
            &window,
            &words::water(&here.water, surroundings.temperature, system),
            system,
        ))
        .chain(facts(
            &line,
            settled,
            &blade,
            run.as_ref(),
            sure.as_ref(),
            stock,
        ))
        .collect(),
        sinks: words::river::sinks(
            NodeLoad::of_cast(rig, &surroundings.water, surroundings.temperature)?
                .sink_speed(&surroundings.water),
            settled.wanted,
            "the depth wanted",
            system,
        ),
        form,
        refusal,
        cautions,
    })
}

/// What the tank shows, as its address says it: for forms that come back to it.
fn state_of(settled: &Settled, form: &TankForm) -> Vec<(&'static str, String)> {
    let mut state = vec![
        ("rig", settled.rig.id.0.to_string()),
        ("setup", settled.setup.0.to_string()),
        ("was_rig", settled.rig.id.0.to_string()),
        ("was_setup", settled.setup.0.to_string()),
        ("line", key(&settled.in_use.main)),
    ];
    let fields = form.fields();
    state.extend(fields.iter().map(|field| (field.name, field.value.clone())));
    state
}

fn not_sound() -> motilis_core::Error {
    motilis_core::Error::contradiction("form", "a field could not be read")
}

/// What the blade does, in one line under its state.
fn turns(blade: &Running, inside: bool, system: System) -> String {
    let speed = |value: MetresPerSecond| system.speed(value);
    match blade.state {
        State::Turning | State::Swaying => {
            let beats = words::beats_a_minute(blade);
            if inside {
                beats
            } else {
                format!("{beats}, outside its safe speeds")
            }
        }
        State::Bare => "the bait fishes at any speed".to_owned(),
        State::Stalled => format!("0 turns a minute, starts at {}", speed(blade.start)),
        State::RollingOver => format!(
            "0 turns on the shaft, rolls over above {}",
            blade
                .roll_over
                .map_or_else(String::new, |limit| speed(limit).to_string())
        ),
    }
}

fn by_out(
    line: &Line<'_>,
    settled: &Settled,
    stock: &Seen<Question<'_, '_>>,
    run: Option<&Run>,
) -> Result<Curve, Error> {
    let system = stock.device.system;
    let unit = Quantity::Depth.unit(system);
    let longest = Metres(
        (settled.out.0 * 1.5)
            .max(20.0)
            .min(settled.in_use.reel.0.max(settled.out.0)),
    );
    let (_, blade) = settled.runs.at(
        settled.speed,
        &stock.surroundings.water,
        stock.here.outing.temperature,
    )?;
    let stretch = stretch(&blade);
    let points = if settled.sound {
        line.depth_against_out(settled.speed, longest, CURVE_POINTS)?
    } else {
        Vec::new()
    };
    let points: Vec<_> = points
        .into_iter()
        .map(|(out, depth)| (unit.from_si(out.0), unit.from_si(depth.0), stretch))
        .collect();
    let what = if settled.in_use.lets_out_cable() {
        "cable out"
    } else {
        "line out"
    };
    Ok(Curve::new(CurveSource {
        head: format!("Depth by {what}"),
        x_label: format!("{what}, {}", unit.symbol),
        title: listing(
            &format!("Depth against {what} at this speed"),
            &points,
            unit.symbol,
            unit.symbol,
        ),
        band: banded(
            settled,
            |share| {
                let out = longest * share;
                let sure = line.sure(settled.speed, out)?;
                Some((unit.from_si(out.0), sure))
            },
            unit,
        ),
        ..source(
            settled,
            stock,
            run,
            (0.0, unit.from_si(longest.0)),
            points,
            |run| unit.from_si(run.out.0),
        )
    }))
}

fn by_speed(
    line: &Line<'_>,
    settled: &Settled,
    stock: &Seen<Question<'_, '_>>,
    run: Option<&Run>,
) -> Curve {
    let system = stock.device.system;
    let (speed_unit, unit) = (Quantity::Speed.unit(system), Quantity::Depth.unit(system));
    let (tenth, usual) = match system {
        System::Imperial => (0.1 * MILE_PER_HOUR.0, 3.0),
        System::Metric => (0.1 * KILOMETRE_PER_HOUR.0, 5.0),
    };
    let most = f64::max(usual, speed_unit.from_si(settled.speed.0) * 1.1);
    let count = (most * 10.0).round() as usize;
    let speeds = (3..=count).map(|i| MetresPerSecond(i as f64 * tenth));
    let points = if settled.sound {
        line.against_speed(settled.out, speeds)
    } else {
        Vec::new()
    };
    let points: Vec<_> = points
        .into_iter()
        .map(|(speed, depth, blade)| {
            (
                speed_unit.from_si(speed.0),
                unit.from_si(depth.0),
                stretch(&blade),
            )
        })
        .collect();
    Curve::new(CurveSource {
        head: "Depth by speed".into(),
        x_label: format!("speed, {}", speed_unit.symbol),
        title: listing(
            "Depth against speed with this line out",
            &points,
            speed_unit.symbol,
            unit.symbol,
        ),
        band: banded(
            settled,
            |share| {
                let speed = MetresPerSecond(speed_unit.to_si(most * share));
                let sure = line.sure(speed, settled.out)?;
                Some((most * share, sure))
            },
            unit,
        ),
        ..source(settled, stock, run, (0.0, most), points, |_| {
            speed_unit.from_si(settled.speed.0)
        })
    })
}

/// The 80 % band along a curve, at some places of its length; `at` takes the share of it.
fn banded(
    settled: &Settled,
    at: impl Fn(f64) -> Option<(f64, Sure)>,
    unit: crate::units::Unit,
) -> Vec<(f64, f64, f64)> {
    if !settled.sound {
        return Vec::new();
    }
    (0..=BAND_POINTS)
        .filter_map(|i| {
            let (x, sure) = at(0.08 + 0.92 * i as f64 / BAND_POINTS as f64)?;
            let Band { low, high, .. } = sure.depth;
            Some((x, unit.from_si(low.0), unit.from_si(high.0)))
        })
        .collect()
}

/// What both curves share.
fn source(
    settled: &Settled,
    stock: &Seen<Question<'_, '_>>,
    run: Option<&Run>,
    x: (f64, f64),
    points: Vec<(f64, f64, Stretch)>,
    now: impl Fn(&Run) -> f64,
) -> CurveSource {
    let unit = Quantity::Depth.unit(stock.device.system);
    let outing = &stock.here.outing;
    CurveSource {
        head: String::new(),
        x_label: String::new(),
        y_unit: unit.symbol,
        x,
        points,
        now: run
            .filter(|_| settled.sound)
            .map(|run| (now(run), unit.from_si(run.rig.depth.0))),
        bottom: unit.from_si(outing.bottom.0),
        fish: (
            unit.from_si(outing.fish_depth.0.0),
            unit.from_si(outing.fish_depth.1.0),
        ),
        band: Vec::new(),
        dots: Vec::new(),
        title: String::new(),
    }
}

fn stretch(blade: &Running) -> Stretch {
    if blade.state.works() {
        Stretch::Turning
    } else {
        Stretch::NotTurning
    }
}

/// A curve for those who cannot see it: some of its points, read out.
fn listing(what: &str, points: &[(f64, f64, Stretch)], x_unit: &str, y_unit: &str) -> String {
    let every = (points.len() / 6).max(1);
    let read: Vec<String> = points
        .iter()
        .step_by(every)
        .map(|(x, depth, _)| format!("{x:.1} {x_unit}: {depth:.0} {y_unit}"))
        .collect();
    format!("{what}: {}.", read.join("; "))
}

fn facts(
    line: &Line<'_>,
    settled: &Settled,
    blade: &Running,
    run: Option<&Run>,
    sure: Option<&Sure>,
    stock: &Seen<Question<'_, '_>>,
) -> Vec<Fact> {
    let (system, water) = (stock.device.system, &stock.surroundings.water);
    let depth = |metres: Metres| system.depth(metres).to_string();
    let force = |newtons| words::force(newtons, system);
    let computed = |label, value, from: &str| Fact {
        label,
        value,
        kind: Kind::Computed,
        from: from.to_owned(),
    };
    let mut facts = Vec::new();
    if let Some(run) = run {
        const LINE: &str = "steady shape of the line from weight, drag, speed and water";
        let drags = matches!(run.bottom, Bottom::Dragging { .. });
        // Below the bottom the computed depth means nothing.
        let runs_at = match sure {
            _ if drags => "on the bottom".to_owned(),
            _ if run.floats() => "floats".to_owned(),
            Some(sure) => words::sure(run.rig.depth, &sure.depth, system),
            None => depth(run.rig.depth),
        };
        let from = sure.map_or_else(
            || LINE.to_owned(),
            |sure| words::because(run.rig.depth, sure, settled.in_use.learned.touches, system),
        );
        facts.push(computed("Rig runs at", runs_at, &from));
        if let Some((low, high)) = sure.and_then(|sure| sure.out).filter(|_| !drags) {
            facts.push(computed(
                "Line for that depth",
                format!("{}, {}", depth(run.out), system.between(low, high)),
                "the line that this depth may take, 80 %, from the same spreads",
            ));
        }
        if let Some(weight) = run.weight.filter(|_| !drags) {
            facts.push(computed("Weight at", depth(weight.depth), LINE));
        }
        facts.push(computed(
            "Over the bottom",
            match run.bottom {
                Bottom::Clear(by) => depth(by),
                Bottom::Dragging { touching, .. } => {
                    format!("drags; {} just touches", depth(touching))
                }
                Bottom::Unknown => "not known".into(),
            },
            "deepest point of the line against the water's depth",
        ));
        let tenth = line.sensitivity(settled.speed, settled.out);
        if let Some(change) = tenth.ok().filter(|_| !drags) {
            facts.push(computed(
                match system {
                    System::Imperial => "0.1 mph more",
                    System::Metric => "0.16 km/h more",
                },
                rise(change, system),
                "the same line solved again, so much faster",
            ));
        }
        facts.push(computed(
            "Line at the surface",
            format!("{:.0}°, {}", run.angle.degrees(), force(run.tension.0)),
            "angle to the water and tension where the line enters",
        ));
    }
    facts.push(computed(
        "Blade drag",
        force(blade.drag.0),
        "drag coefficient of the family, blade area, speed",
    ));
    facts.push(computed(
        "Thump",
        thump(&settled.runs, blade, water),
        &format!(
            "side force over turns: the push of each beat; 1.0 is a number 4 Colorado at {}. Fish feel some {:.0}–{:.0} Hz best (published range, from memory)",
            system.speed(1.2 * MILE_PER_HOUR),
            LATERAL_LINE.0.0, LATERAL_LINE.1.0
        ),
    ));
    if let Some(practice) = settled.runs.kind().practice() {
        let speed = |value: MetresPerSecond| system.speed(value);
        facts.push(Fact {
            label: "Practice runs it at",
            value: format!("{}–{}", speed(practice.from).value, speed(practice.to)),
            kind: Kind::Practice,
            from: "what trollers run this kind of rig at; no source".to_owned(),
        });
    }
    facts
}

fn rise(change: Metres, system: System) -> String {
    let unit = Quantity::Depth.unit(system);
    let figure = unit.from_si(change.0.abs());
    let way = if change.0 < 0.0 {
        "shallower"
    } else {
        "deeper"
    };
    format!("{figure:.1} {} {way}", unit.symbol)
}

fn thump(rig: &Rig, blade: &Running, water: &Water) -> String {
    let spun = rig.bait_spin(blade.speed, water);
    let turns = if blade.turns.0 > 0.0 {
        blade.turns
    } else {
        spun.map_or(Hertz(0.0), |spun| spun.turns)
    };
    if turns <= Hertz(0.0) {
        return "none".into();
    }
    format!("{:.1} Hz, {:.1}", turns.0, rig.thump_index(blade, water))
}
