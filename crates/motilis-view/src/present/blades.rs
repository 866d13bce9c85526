//! Blades running in the tank, the ladder of all rigs, and what was observed.

use super::stir;
use super::tank::Shown;
use super::today::verdict;
use crate::draw::{Curve, CurveSource, SpeedRule, Stretch, ThumpWave, TurningBlade};
use crate::forms::observed::{dunk_fields, sights, touch_fields, touches};
use crate::forms::tank::Settled;
use crate::screens::{BladePanel, DunkForm, Fact, Kind, LadderRung, TouchForm};
use crate::seen::Seen;
use crate::units::{Quantity, System};
use crate::words;
use motilis_core::advice::Verdict;
use motilis_core::bench::{Attitude, figures};
use motilis_core::blade::{LATERAL_LINE, Observation, Running, dunks_apart};
use motilis_core::book::{BottomTouch, DunkId, DunkTest};
use motilis_core::line::{Learned, Line, LineSetup, Twist};
use motilis_core::rig::{Colour, Rig, What};
use motilis_core::spread::{Passed, kick};
use motilis_core::units::{FOOT, INCH, MILLIMETRE, Metres, MetresPerSecond};
use motilis_helm::{Error, Tank as Stock};
use std::fmt::Write as _;

/// Points of the dive curve.
const POINTS: usize = 32;

/// The class of a finish.
pub(crate) fn colour(colour: Colour) -> String {
    format!("f-{}", colour.key().to_lowercase())
}

/// The blade in the tank, and the one beside it.
pub(crate) fn panels(
    stock: &Seen<Stock<'_, '_>>,
    settled: &Settled,
) -> Result<Vec<BladePanel>, Error> {
    let mut panels = vec![panel(stock, settled, &settled.runs)?];
    if let Some(beside) = &settled.beside {
        panels.push(panel(stock, settled, beside)?);
    }
    Ok(panels)
}

fn standing(
    rig: &Rig,
    stock: &Seen<Stock<'_, '_>>,
    speed: MetresPerSecond,
) -> Result<(Running, Verdict), Error> {
    let surroundings = stock.surroundings;
    let (water, temperature) = (&surroundings.water, surroundings.temperature);
    let running = rig.running(speed, water, temperature)?;
    let inside = rig.window(water, temperature)?.holds(speed);
    let verdict = match (running.state.works(), inside) {
        (true, true) => Verdict::Works,
        (true, false) => Verdict::Watch,
        (false, _) => Verdict::Cannot,
    };
    Ok((running, verdict))
}

fn panel(stock: &Seen<Stock<'_, '_>>, settled: &Settled, rig: &Rig) -> Result<BladePanel, Error> {
    let speed = settled.speed;
    let (running, verdict_of) = standing(rig, stock, speed)?;
    let spun = rig.bait_spin(speed, &stock.surroundings.water);
    let blade = rig.front_blade().map(|(blade, _)| {
        TurningBlade::new(
            &blade,
            rig.blade_count(),
            &running,
            &colour(rig.finish().colour),
            &format!(
                "{}, seen along the shaft: {}, {}.",
                rig.name,
                words::small(words::state(running.state)),
                words::beats_a_minute(&running)
            ),
        )
    });
    let bait = spun.map(|spun| {
        TurningBlade::of_bait(
            &spun,
            &format!(
                "{} of {}, seen along the line: it turns {} times a minute.",
                words::capital(spun.bait.name()),
                rig.name,
                words::turns_a_minute(spun.turns)
            ),
        )
    });
    let (push, beats) = match spun {
        Some(spun) if blade.is_none() => (spun.side_force, spun.turns),
        _ => (running.side_force, running.turns),
    };
    Ok(BladePanel {
        name: rig.name.clone(),
        verdict: verdict(verdict_of),
        state: words::state(running.state),
        front: blade.into_iter().chain(bait).collect(),
        wave: ThumpWave::new(push, beats),
        facts: facts(stock, settled, rig, &running)?,
    })
}

#[allow(clippy::too_many_lines, reason = "a list, one entry a fact")]
fn facts(
    stock: &Seen<Stock<'_, '_>>,
    settled: &Settled,
    rig: &Rig,
    running: &Running,
) -> Result<Vec<Fact>, Error> {
    let (setup, speed) = (&settled.in_use, settled.speed);
    let system = stock.device.system;
    let surroundings = stock.surroundings;
    let (water, temperature) = (&surroundings.water, surroundings.temperature);
    let computed = |label, value: String, from: &str| Fact {
        label,
        value,
        kind: Kind::Computed,
        from: from.to_owned(),
    };
    let shown = |v: MetresPerSecond| system.speed(v).to_string();
    let spin = rig.spin(speed, water, temperature)?;
    let learned = if rig.learned().is_empty() {
        "similarity, coefficient of the family"
    } else {
        "similarity, with what your dunk tests showed"
    };
    let sunk = figures(rig.stack(), water, temperature, speed);
    let mut facts = vec![
        computed(
            words::beats(running.state),
            words::turns_a_minute(running.turns),
            learned,
        ),
        computed(
            "Sweep across",
            format!("{:.0} mm", 2.0 * running.sweep_radius / MILLIMETRE),
            "twice the blade's length times the sine of its cone angle",
        ),
        computed(
            "Thump",
            format!(
                "{:.1} Hz, {}",
                running.turns.0,
                words::force(running.side_force.0, system)
            ),
            &format!(
                "side force at the turn rate; fish feel some {:.0}–{:.0} Hz best (published range, from memory)",
                LATERAL_LINE.0.0, LATERAL_LINE.1.0
            ),
        ),
        computed(
            "Flashes a second",
            format!("{:.1}", spin.flashes.0),
            "each turn shows a face twice",
        ),
        computed(
            "Drag",
            words::force(running.drag.0, system),
            "drag area of the turning blades, speed",
        ),
        computed(
            "Leans over",
            format!("{:.0}°", spin.lean.degrees()),
            "friction of the clevis against what hooks and bait hold it upright with",
        ),
        computed(
            "Room to roll-over",
            spin.margin.map_or_else(
                || "not known".to_owned(),
                |margin| {
                    let percent = format!("{:.0} %", margin.abs() * 100.0);
                    if margin >= 0.0 {
                        percent
                    } else {
                        format!("over by {percent}")
                    }
                },
            ),
            "speed against the one at which it gives way",
        ),
        stir::held(&spin),
        stir::twist(&Twist::of(setup, settled.out, &spin, water), system),
        computed(
            "Sinks",
            sinks(&sunk, system),
            "weight under water against drag area; nose or tail by the balance of the two",
        ),
        computed(
            "Cast upstream",
            format!("wind {} faster than the current", shown(running.start)),
            "the blade knows only the water it meets: retrieve = current + starting speed; held in a current it turns from that speed on",
        ),
    ];
    facts.extend(rig.bait_spin(speed, water).as_ref().map(stir::bait));
    let release = setup.weight.and_then(|weight| weight.release(spin.pull));
    facts.extend(release.map(|release| stir::release(&release, system)));
    if let Some(attractor) = rig.attraction(speed, water) {
        facts.extend(stir::attractor(&attractor, system));
        let leader = rig.stack().mount.part().line().unwrap_or(setup.leader);
        facts.push(stir::stiffness(
            &leader,
            spin.pull,
            rig.stack().build.finished,
        ));
    }
    if let Some(passed) = kicked(rig) {
        facts.push(Fact {
            label: "Behind the attractor",
            value: format!("{}, {:.0}° to each side", passed.kind.name(), passed.tilt_deg),
            kind: Kind::Practice,
            from: "swing of the attractor over the leader; set by common practice: 22–24 in kick quickly, 32–36 in easily".into(),
        });
    }
    Ok(facts)
}

fn kicked(rig: &Rig) -> Option<Passed> {
    let attractor = rig
        .stack()
        .pieces
        .iter()
        .find_map(|piece| match piece.part.what() {
            What::Attractor(_) => Some(piece.part.size() * INCH),
            _ => None,
        })?;
    Some(kick(attractor, rig.stack().build.finished))
}

fn sinks(sunk: &motilis_core::bench::Figures, system: System) -> String {
    let way = match sunk.attitude {
        Attitude::TailFirst => "tail first",
        Attitude::Level => "level",
        Attitude::NoseFirst => "nose first",
        Attitude::Floats => return "it floats".to_owned(),
    };
    let deep = match system {
        System::Imperial => 10.0 * FOOT,
        System::Metric => Metres(3.0),
    };
    let seconds = deep.0 / sunk.sink_speed.0.max(1e-6);
    format!("{way}, {} in {seconds:.0} s", system.depth(deep))
}

/// Every made-up rig by its speeds; one that cannot be computed has none.
pub(crate) fn ladder(
    stock: &Seen<Stock<'_, '_>>,
    settled: &Settled,
    rule: &SpeedRule,
) -> Vec<LadderRung> {
    let surroundings = stock.surroundings;
    let mut rungs = Vec::new();
    for id in &stock.made_up {
        let Some(rig) = stock.runs(*id) else { continue };
        let standing = rig
            .window(&surroundings.water, surroundings.temperature)
            .map_err(Error::from)
            .and_then(|window| Ok((window, standing(rig, stock, settled.speed)?)));
        let Ok((window, (running, verdict_of))) = standing else {
            continue;
        };
        rungs.push((
            window.from.0,
            LadderRung {
                name: rig.name.clone(),
                address: format!("/tank?rig={}", id.0),
                bar: rule.bar(window, settled.speed, stock.device.system),
                state: words::state(running.state),
                verdict: verdict(verdict_of),
                here: *id == settled.rig.id,
            },
        ));
    }
    rungs.sort_by(|a, b| a.0.total_cmp(&b.0).then_with(|| a.1.name.cmp(&b.1.name)));
    rungs.into_iter().map(|(_, rung)| rung).collect()
}

/// The dunk tests of the rig in the tank.
pub(crate) fn dunks(
    stock: &Seen<Stock<'_, '_>>,
    settled: &Settled,
    shown: &mut Shown,
    made: &[(DunkId, DunkTest)],
) -> Result<DunkForm, Error> {
    let system = stock.device.system;
    let (seen, fields) = shown.dunk.take().unwrap_or_else(|| {
        let mut typed = dunk_fields(system, "", "");
        typed[0].fill(settled.speed.0);
        (sights("turned"), typed.map(|one| one.field).into())
    });
    // What the model says without anything learned.
    let mut untaught = (*settled.runs).clone();
    untaught.learn(&[]);
    let blade = untaught.front_blade().map(|(blade, _)| blade);
    let speed = |v: MetresPerSecond| system.speed(v).to_string();
    let counted: Vec<(usize, DunkTest)> = made
        .iter()
        .enumerate()
        .filter(|(_, (_, test))| blade.is_some_and(|blade| test.is_of(&blade)))
        .map(|(at, (_, test))| (at, *test))
        .collect();
    let tests: Vec<DunkTest> = counted.iter().map(|(_, test)| *test).collect();
    let apart = dunks_apart(&tests);
    let made: Vec<(i64, String, String, bool)> = made
        .iter()
        .map(|(id, test)| {
            let water = test.water()?;
            let shaft = untaught.shaft(&water, test.temperature)?;
            let never = || "never".to_owned();
            let (seen, model) = match test.seen {
                Observation::Started(at) => (
                    format!("It started at {}.", speed(at)),
                    shaft.map_or_else(never, |shaft| speed(shaft.start(&water))),
                ),
                Observation::Turned { rate, speed: at } => {
                    let turns = untaught.running(at, &water, test.temperature)?.turns.0;
                    (
                        format!(
                            "{:.0} turns in ten seconds at {}.",
                            rate.0 * 10.0,
                            speed(at)
                        ),
                        format!("{:.0}", turns * 10.0),
                    )
                }
                Observation::RolledOver(at) => (
                    format!("It rolled over at {}.", speed(at)),
                    shaft
                        .and_then(|shaft| shaft.roll_over(&water))
                        .map_or_else(never, speed),
                ),
            };
            let counts = blade.is_some_and(|blade| test.is_of(&blade));
            Ok((id.0, seen, model, counts))
        })
        .collect::<Result<_, Error>>()?;
    let apart = apart.map(|apart| {
        let seen = |place: usize| made[counted[place].0].1.trim_end_matches('.').to_owned();
        format!(
            "Two of these cannot both be right: “{}” and “{}” differ by {:.0} spreads. Keep both? Delete the one you doubt; until then their mean counts.",
            seen(apart.tests.0),
            seen(apart.tests.1),
            apart.spreads
        )
    });
    Ok(DunkForm {
        seen,
        fields,
        apart,
        made,
        undo: shown.dunk_gone,
    })
}

/// The touches of the rod, line and weight in the tank, and the dive curve they teach.
pub(crate) fn dive(
    stock: &Seen<Stock<'_, '_>>,
    settled: &Settled,
    shown: &mut Shown,
) -> Result<TouchForm, Error> {
    let system = stock.device.system;
    let (touched, fields) = shown.touch.take().unwrap_or_else(|| {
        let mut typed = touch_fields(system, settled.in_use.lets_out_cable(), ["", "", ""]);
        typed[0].fill(settled.out.0);
        typed[1].fill(stock.here.outing.bottom.0);
        typed[2].fill(settled.speed.0);
        (touches("yes"), typed.map(|one| one.field).into())
    });
    let seen = stock.book.touches_of(settled.setup, &settled.in_use)?;
    let depth = |metres: Metres| system.depth(metres).to_string();
    let speed = |v: MetresPerSecond| system.speed(v).to_string();
    let made = seen
        .iter()
        .map(|(id, touch)| {
            let day = stock.here.local(touch.at).strftime("%-d %b %Y");
            let what = if touch.touched {
                "Touched"
            } else {
                "Did not touch"
            };
            let words = format!(
                "{what} at {} with {} out at {}, {day}.",
                depth(touch.bottom),
                depth(touch.out),
                speed(touch.speed)
            );
            (id.0, words)
        })
        .collect();
    let mut says = settled.fit.map_or_else(
        || "No touch yet with this rod, line and weight: its depths come from the model, fitted to common practice. Note when the weight touches, and the curve becomes your own.".to_owned(),
        |fit| {
            let misses = match fit.misses {
                0 => String::new(),
                1 => " and 1 pass without one".to_owned(),
                many => format!(" and {many} passes without one"),
            };
            format!(
                "Measured by you: it rests on {} touches{misses}. The water holds this line {:.2} times (80 % between {:.2} and {:.2}) as hard as the model has it; every depth of this rod, line and weight is computed with it, here, in the spread and in the log.",
                fit.touches, fit.held, fit.band.0, fit.band.1
            )
        },
    );
    if let Some(apart) = settled.fit.and_then(|fit| fit.apart) {
        let one =
            |(out, bottom): (Metres, Metres)| format!("{} out at {}", depth(out), depth(bottom));
        let _ = write!(
            says,
            " Two touches cannot both be right: {} and {} differ by {:.0} spreads. Keep both? Delete the one you doubt; until then both count.",
            one(apart.deeper),
            one(apart.shallower),
            apart.spreads
        );
    }
    let touched_at: Vec<BottomTouch> = seen.iter().map(|(_, touch)| *touch).collect();
    Ok(TouchForm {
        fields,
        touched,
        made,
        says,
        curve: curve(stock, settled, &touched_at),
        undo: shown.touch_gone,
    })
}

/// The fitted curve with its band; touches moved to the speed of now by the model's own ratio.
fn curve(stock: &Seen<Stock<'_, '_>>, settled: &Settled, touches: &[BottomTouch]) -> Option<Curve> {
    let fit = settled.fit.filter(|_| settled.sound)?;
    let system = stock.device.system;
    let unit = Quantity::Depth.unit(system);
    let surroundings = motilis_core::line::Surroundings {
        bottom: None,
        ..stock.surroundings
    };
    let rig = &settled.runs;
    let longest = touches
        .iter()
        .map(|touch| touch.out.0)
        .fold(settled.out.0, f64::max)
        * 1.15;
    // The deepest part counts: it is what touches.
    let depths = |held: f64, speed: MetresPerSecond, outs: &[Metres]| -> Option<Vec<Option<f64>>> {
        let setup = LineSetup {
            learned: Learned {
                held,
                ..settled.in_use.learned
            },
            ..(*settled.in_use).clone()
        };
        let line = Line::new(rig, &setup, surroundings).ok()?;
        Some(
            outs.iter()
                .map(|out| {
                    let run = line.run(speed, *out).ok()?;
                    let weight = run.weight.map_or(0.0, |weight| weight.depth.0);
                    Some(run.rig.depth.0.max(weight))
                })
                .collect(),
        )
    };
    let outs: Vec<Metres> = (2..=POINTS)
        .map(|i| Metres(longest * i as f64 / POINTS as f64))
        .collect();
    let middle = depths(fit.held, settled.speed, &outs)?;
    let upper = depths(fit.band.1, settled.speed, &outs)?;
    let lower = depths(fit.band.0, settled.speed, &outs)?;
    let mut points = Vec::new();
    let mut band = Vec::new();
    for (i, out) in outs.iter().enumerate() {
        let x = unit.from_si(out.0);
        if let Some(depth) = middle[i] {
            points.push((x, unit.from_si(depth), Stretch::Turning));
        }
        if let (Some(up), Some(down)) = (upper[i], lower[i]) {
            band.push((x, unit.from_si(up), unit.from_si(down)));
        }
    }
    let mut dots = Vec::new();
    for touch in touches {
        let now = depths(fit.held, settled.speed, &[touch.out])?[0];
        let then = depths(fit.held, touch.speed, &[touch.out])?[0];
        if let (Some(now), Some(then)) = (now, then) {
            let moved = touch.bottom.0 * now / then;
            dots.push((
                unit.from_si(touch.out.0),
                unit.from_si(moved),
                touch.touched,
            ));
        }
    }
    let outing = &stock.here.outing;
    Some(Curve::new(CurveSource {
        head: "Depth by line out, yours".into(),
        x_label: format!("line out, {}", unit.symbol),
        y_unit: unit.symbol,
        x: (0.0, unit.from_si(longest)),
        title: format!(
            "Your own dive curve at {}: a band about the fitted curve, {} touches as points, moved to this speed.",
            system.speed(settled.speed),
            touches.len()
        ),
        points,
        now: None,
        bottom: unit.from_si(outing.bottom.0),
        fish: (
            unit.from_si(outing.fish_depth.0.0),
            unit.from_si(outing.fish_depth.1.0),
        ),
        band,
        dots,
    }))
}
