//! Casting in a river: plan, section, the cast, what comes of it, the grid and the order of presentations.

use super::{choices, frame};
use crate::draw::{CastDrawn, RunPlan, RunPlanSource, RunSection, RunSectionSource};
use crate::forms::Texts;
use crate::forms::river::{KEPT_OVER, REACH, Settled, grid_key, near, settle};
use crate::forms::tank::key as spool_key;
use crate::screens::{
    CastLook, Choice, Counting, Fact, GearForm, GridCell, Kind, LISTED, OrderRow, RiverNone,
    RiverRigs, RiverScreen, Screen, Slider, TriedRow,
};
use crate::seen::Device;
use crate::units::{Quantity, System};
use crate::words::river as say;
use motilis_core::book::{RigId, RiverCast};
use motilis_core::column::{COMPARED, seen_at};
use motilis_core::fields;
use motilis_core::light::View;
use motilis_core::river::Tackle as CastTackle;
use motilis_core::river::{
    Bed, Cover, FIRST, Fineness, Fished, Gear, Held, Moment, Order, Path, Plan, Presentation, STEP,
    STEPS, Scene, School, Tackle, Zone, body_by_practice, rank, stands, whole,
};
use motilis_core::tackle::{LineMaterial, LineStock};
use motilis_core::units::{Metres, MetresPerSecond};
use motilis_helm::{Error, River};
use std::collections::HashMap;

/// Sizes of plan and section: on a desk, on a phone.
const WIDE: [(f64, f64); 2] = [(860.0, 330.0), (860.0, 210.0)];
const NARROW: [(f64, f64); 2] = [(390.0, 250.0), (390.0, 190.0)];

/// What the page is asked to tell beside what it shows.
#[derive(Debug, Default)]
pub struct RiverAsk {
    /// What stands in the address.
    pub raw: Texts,
    /// What was just done, and where it is undone.
    pub done: Option<(String, Option<String>)>,
    /// The form of the gear as it was typed.
    pub gear: Option<GearForm>,
}

/// The page, or what it lacks.
pub enum RiverPage {
    /// Plan, section and all.
    River(Box<RiverScreen>),
    /// There is nothing to cast into.
    None(Box<RiverNone>),
}

/// The page.
///
/// # Errors
/// [`Error::Core`] for a run that cannot be; [`Error::Store`].
pub fn river(question: &River<'_, '_>, device: Device, ask: RiverAsk) -> Result<RiverPage, Error> {
    let system = device.system;
    let Some(settled) = settle(&ask.raw, question, system)? else {
        return Ok(RiverPage::None(Box::new(none(question, device))));
    };
    let state = settled.state(None);
    let query = encoded(&state, system);
    let tackle = tackle(question, &settled)?;
    let (water, name) = question
        .river
        .clone()
        .unwrap_or((settled.run.water, String::new()));
    let fished = match (&tackle, settled.sound) {
        (Some(tackle), true) => scene(question, &settled, tackle)
            .fished(&settled.plan, question.school)
            .unwrap_or_default(),
        _ => Vec::new(),
    };
    let (look, refusal) = looked(question, &settled, tackle.as_ref(), &fished, system)?;
    let fastest = fastest(&settled);
    let sinks = tackle.as_ref().and_then(|tackle| {
        let sinks = tackle.lure.sink_speed(&question.water);
        say::sinks(
            sinks,
            settled.section.deepest(),
            "the deepest bed here",
            system,
        )
    });
    Ok(RiverPage::River(Box::new(RiverScreen {
        frame: frame(
            Some(question.here),
            Screen::River,
            device,
            &format!("/river?{query}"),
        ),
        river: name,
        water: water.0,
        done: ask.done,
        runs: choices(
            question
                .runs
                .iter()
                .map(|(id, run)| (id.0, run.name.as_str())),
            Some(settled.run_id.0),
        ),
        rigs: choices(
            question
                .rigs
                .iter()
                .map(|rig| (rig.id.0, rig.name.as_str())),
            settled.rig.as_ref().map(|(id, ..)| id.0),
        ),
        lies: lies(&settled, system),
        run: settled.run_id.0,
        about: say::about(&settled.run, system),
        sliders: sliders(&settled, system),
        held: Choice::list(
            Held::ALL.iter().map(|held| (held.key(), held.name())),
            settled.plan.held.key(),
        ),
        mend: settled.plan.mend,
        follow: settled.plan.follow,
        school: Choice::list(
            School::ALL.iter().map(|one| (one.key(), one.name())),
            question.school.key(),
        ),
        orders: Choice::list(
            Order::ALL.iter().map(|one| (one.key(), one.name())),
            question.order.key(),
        ),
        at: settled
            .lie
            .filter(|lie| lie.mark.is_none())
            .map_or_else(String::new, |lie| {
                format!("{:.2},{:.2}", lie.along, lie.across)
            }),
        counting: counting(question, &settled, &fished, system),
        gear: ask
            .gear
            .unwrap_or_else(|| gear_form(&question.gear, system)),
        cautions: say::cautions(&settled.run, question.temperature.0, fastest.0),
        fields: settled.fields.clone(),
        look,
        refusal,
        state,
        query,
        sinks,
    })))
}

/// The cast as it is seen, or why there is nothing to see.
fn looked(
    question: &River<'_, '_>,
    settled: &Settled,
    tackle: Option<&Tackle>,
    fished: &[Fished],
    system: System,
) -> Result<(Option<CastLook>, Option<String>), Error> {
    let Some(tackle) = tackle else {
        let sentence = "No rig of the box can be cast: build an inline spinner, or one on a leader with a weight up the line.";
        return Ok((None, Some(sentence.to_owned())));
    };
    if !settled.sound {
        let marked = || "Correct the marked field.".to_owned();
        return Ok((None, settled.refusal.clone().or_else(|| Some(marked()))));
    }
    match cast_look(question, settled, tackle, fished, system) {
        Ok(look) => Ok((Some(look), None)),
        Err(Error::Core(error)) => {
            let sentence = format!("{}.", crate::words::capital(&error.to_string()));
            Ok((None, Some(sentence)))
        }
        Err(error) => Err(error),
    }
}

fn none(question: &River<'_, '_>, device: Device) -> RiverNone {
    let river = question.river.clone().map(|(id, name)| (id.0, name));
    RiverNone {
        frame: frame(Some(question.here), Screen::River, device, "/river"),
        sentence: match &river {
            Some((_, name)) => format!(
                "{name} has no runs yet. A run is a place you cast into: its width, three to seven depths and surface speeds across. A leaf and a watch are enough."
            ),
            None => {
                "There is no river among your waters. Add one, and the runs you fish.".to_owned()
            }
        },
        river,
    }
}

/// State as an address.
pub(crate) fn encoded(state: &[(&'static str, String)], system: System) -> String {
    let pairs = state.iter().map(|(name, value)| (*name, value.as_str()));
    let all: Vec<(&str, &str)> = pairs.chain([("_units", system.key())]).collect();
    serde_urlencoded::to_string(all).unwrap_or_default()
}

fn fastest(settled: &Settled) -> MetresPerSecond {
    let stations = settled.run.stations.iter().map(|station| station.surface.0);
    MetresPerSecond(stations.fold(0.0, f64::max))
}

/// What is on the line; `None` without a rig.
pub(crate) fn tackle(question: &River<'_, '_>, settled: &Settled) -> Result<Option<Tackle>, Error> {
    let Some((_, _, rig)) = &settled.rig else {
        return Ok(None);
    };
    let spool = question.gear.spool(rig.kind());
    Ok(Some(spool.tackle(
        rig,
        &question.water,
        question.temperature,
    )?))
}

/// Where a bite is thought to come: the middle of what is fished in the zone with the blade turning, else of all that turns.
/// Depth and speed; nothing without a rig.
///
/// # Errors
/// As [`river`].
pub fn where_it_bites(
    question: &River<'_, '_>,
    settled: &Settled,
    fineness: Fineness,
) -> Result<Option<(Metres, MetresPerSecond)>, Error> {
    let Some(tackle) = tackle(question, settled)? else {
        return Ok(None);
    };
    let path = scene(question, settled, &tackle).path(&settled.plan, fineness)?;
    let zone = settled.zone();
    let of = |holds: &dyn Fn(&Moment) -> bool| {
        let all: Vec<&Moment> = path.moments.iter().filter(|one| holds(one)).collect();
        all.get(all.len() / 2)
            .map(|moment| (Metres(moment.place[2].max(0.0)), moment.speed))
    };
    let fishes = |moment: &Moment| moment.works() && !moment.on_bed;
    Ok(of(&|moment| fishes(moment) && zone.holds(moment)).or_else(|| of(&fishes)))
}

/// The scene of a settled page.
pub(crate) fn scene<'a>(
    question: &'a River<'_, '_>,
    settled: &'a Settled,
    tackle: &'a Tackle,
) -> Scene<'a> {
    Scene {
        section: &settled.section,
        water: &question.water,
        angler: &settled.angler,
        tackle,
    }
}

/// The cast with its drawings, words and figures.
fn cast_look(
    question: &River<'_, '_>,
    settled: &Settled,
    tackle: &Tackle,
    fished: &[Fished],
    system: System,
) -> Result<CastLook, Error> {
    let scene = scene(question, settled, tackle);
    let path = scene.path(&settled.plan, Fineness::SHOWN)?;
    let zone = settled.zone();
    let mut others = Vec::new();
    for held in Held::ALL.iter().filter(|held| **held != settled.plan.held) {
        let plan = Plan {
            held: *held,
            ..settled.plan
        };
        others.push((scene.path(&plan, Fineness::COMPARED)?, *held));
    }
    let cover = cover(question, settled, &scene, fished);
    let turns = settled.angler.turns(settled.plan.reel);
    let says = say::cast(&settled.plan, turns, lifted_over(settled, &path), system);
    let comes = say::comes(&path, &zone, settled.run.bed, system);
    let in_zone = path.zone_seconds(&zone) >= 0.5 || path.rests_in(&zone);
    let verdict = match (path.touches().is_empty(), in_zone) {
        (true, true) => "works",
        (false, _) if settled.run.bed.snags() => "cannot",
        _ => "watch",
    };
    let drawn: Vec<&Path> = others.iter().map(|(path, _)| path).collect();
    let named: Vec<(&Path, &'static str)> = others
        .iter()
        .map(|(path, held)| (path, held.name()))
        .collect();
    let cast = settled.plan.cast(&settled.angler);
    let plan = |size| {
        RunPlan::new(&RunPlanSource {
            run: &settled.run,
            section: &settled.section,
            stand: Some((settled.stand, settled.angler.stand)),
            cast: Some(CastDrawn {
                path: &path,
                tip: cast.tip,
                lands: cast.start,
            }),
            others: &drawn,
            cover: Some(&cover),
            lie: settled.lie.map(|lie| (lie.along, lie.across, REACH.0)),
            system,
            size,
            title: format!("Plan of {}. {says} {comes}", settled.run.name),
        })
    };
    let band = |moment: &Moment| fish_band(&zone, moment);
    let section = |size| {
        RunSection::new(&RunSectionSource {
            path: &path,
            others: &named,
            zone: &band,
            system,
            size,
            title: format!("The water along the path. {comes}"),
        })
    };
    Ok(CastLook {
        plan: (plan(WIDE[0]), plan(NARROW[0])),
        section: (section(WIDE[1]), section(NARROW[1])),
        facts: facts(question, settled, &scene, &path, &others, system)?,
        says,
        comes,
        verdict,
    })
}

/// Depths between which fish are looked for at a moment.
fn fish_band(zone: &Zone, moment: &Moment) -> Option<(f64, f64)> {
    match zone {
        Zone::Bed => Some((moment.bed.0 - motilis_core::river::ZONE.0, moment.bed.0)),
        Zone::Depth(depth) => Some((depth.0 - 0.3, depth.0 + 0.3)),
        Zone::Over(height) => {
            let middle = moment.bed.0 - height.0;
            Some((middle - 0.15, middle + 0.15))
        }
        Zone::Lie { place, reach } => {
            let off = (moment.place[0] - place[0]).hypot(moment.place[1] - place[1]);
            (off < reach.0).then(|| {
                let half = (reach.0 * reach.0 - off * off).sqrt();
                (place[2] - half, place[2] + half)
            })
        }
    }
}

/// The mark over which the tip goes up.
fn lifted_over(settled: &Settled, path: &Path) -> Option<motilis_core::river::MarkKind> {
    const NEAR: f64 = 2.5;
    let [x, y, _] = path.at(settled.plan.lift?).place;
    let along = settled.stand.0 + x;
    let off =
        |mark: &&motilis_core::river::Mark| (mark.along.0 - along).hypot(mark.across.0 - y) < NEAR;
    settled.run.marks.iter().find(off).map(|mark| mark.kind)
}

/// What the casts of the outing have covered of this run.
fn cover(
    question: &River<'_, '_>,
    settled: &Settled,
    scene: &Scene<'_>,
    fished: &[Fished],
) -> Cover {
    let mut cover = Cover::of(&settled.section, settled.run.length);
    // Casts of one kind go the same way wherever one stands.
    let mut known: HashMap<String, Option<Path>> = HashMap::new();
    for (_, cast) in &question.casts {
        if cast.run != settled.run_id || !cast.presentation.spins() {
            continue;
        }
        let same_as_now = cast.grid.is_some()
            && Plan {
                thrown: settled.plan.thrown,
                ..cast.plan
            } == settled.plan;
        if let Some(one) = cast.grid.filter(|_| same_as_now).and_then(|(way, far)| {
            fished
                .iter()
                .find(|one| one.cast.way == way && one.cast.far == far)
        }) {
            cover.add(&one.path, cast.stand);
            continue;
        }
        let path = known
            .entry(format!("{:?}", cast.plan))
            .or_insert_with(|| scene.path(&cast.plan, Fineness::COMPARED).ok());
        if let Some(path) = path {
            cover.add(path, cast.stand);
        }
    }
    cover
}

fn fact(label: &'static str, value: String, from: impl Into<String>) -> Fact {
    Fact {
        label,
        value,
        kind: Kind::Computed,
        from: from.into(),
    }
}

fn facts(
    question: &River<'_, '_>,
    settled: &Settled,
    scene: &Scene<'_>,
    path: &Path,
    others: &[(Path, Held)],
    system: System,
) -> Result<Vec<Fact>, Error> {
    let (high, low) = scene.deepest_band(&settled.plan, path)?;
    let mut facts = vec![
        fact(
            "Deepest",
            format!(
                "{}, {} to {} in eight cases of ten",
                system.shallow(path.deepest()),
                system.shallow(high),
                system.shallow(low)
            ),
            "lumped masses of line and lure in the current of the run; unsure by the surface speed (10 %), the drag of lure and of line (20 % each, from memory)",
        ),
        fact(
            "Near the bed",
            format!("{:.0} s", path.zone_seconds(&Zone::Bed)),
            format!(
                "seconds within {} of the bed, off it, with the blade turning",
                system.depth(motilis_core::river::ZONE)
            ),
        ),
        fact(
            "Blade turns",
            format!(
                "{:.0} % of {:.0} s",
                100.0 * path.working_share(),
                path.seconds()
            ),
            "speed of the water past it along the path against its start and roll-over; a wire spinner’s line takes up the twist",
        ),
    ];
    let heights: Vec<String> = others
        .iter()
        .map(|(other, held)| format!("{} {}", held.name(), system.shallow(other.deepest())))
        .collect();
    facts.push(fact(
        "Held otherwise",
        heights.join(", "),
        "the same cast, deepest with the rod held so; drawn thin",
    ));
    let slowest = scene.slowest_retrieve(&settled.plan)?;
    facts.push(fact(
        "Slowest retrieve",
        match slowest {
            Some(reel) if reel.0 <= 0.0 => "none: the current turns it".to_owned(),
            Some(reel) => format!(
                "{:.2} turns a second ({})",
                settled.angler.turns(reel),
                system.slow_speed(reel)
            ),
            None => "no hand is fast enough from here".to_owned(),
        },
        "the slowest at which the blade turns, off the bed, through 95 % of this cast",
    ));
    if matches!(settled.run.bed, Bed::Weed | Bed::Wood) {
        facts.push(Fact {
            label: "Between lanes",
            value: "slow the reel, tip down: it drops in; tip up before the next bed of weed"
                .to_owned(),
            kind: Kind::Practice,
            from: "no source; the path above shows how far it drops in the time".to_owned(),
        });
    }
    facts.extend(line_facts(question, settled, scene, path, system)?);
    facts.extend(sight(question, settled, path, system));
    Ok(facts)
}

/// What the line costs of the depth, and what is left of the bumper.
fn line_facts(
    question: &River<'_, '_>,
    settled: &Settled,
    scene: &Scene<'_>,
    path: &Path,
    system: System,
) -> Result<Vec<Fact>, Error> {
    let mut facts = Vec::new();
    let gear = question.gear;
    let words = |stock: LineStock| format!("{} lb {}", stock.test_lb, stock.material.name());
    let thin = LineStock::of_test(LineMaterial::Braid, 10)?;
    if let Some((_, _, rig)) = &settled.rig
        && thin != gear.main
    {
        let spool = Gear { main: thin, ..gear }.spool(rig.kind());
        let tackle = spool.tackle(rig, &question.water, question.temperature)?;
        let other = Scene {
            tackle: &tackle,
            ..*scene
        };
        let deeper = other.path(&settled.plan, Fineness::SHOWN)?.deepest() - path.deepest();
        facts.push(fact(
            "Line",
            if deeper.0 > 0.03 {
                format!(
                    "{}: {} of depth less than on {}",
                    words(gear.main),
                    system.shallow(deeper),
                    words(thin)
                )
            } else {
                format!(
                    "{}: no depth lost against {}",
                    words(gear.main),
                    words(thin)
                )
            },
            "the same cast on the thinner line; thick braid bellies and lifts (CP-32)",
        ));
    }
    if gear.bumper_length.0 > 0.0 {
        facts.push(Fact {
            label: "Bumper",
            value: if gear.bumper_length.0 < 0.3 {
                format!("{} left: tie a new one", system.depth(gear.bumper_length))
            } else {
                format!("{} of {} left", system.depth(gear.bumper_length), words(gear.bumper))
            },
            kind: Kind::Practice,
            from: "typed in below; shorten it when you tie on again (common practice: a new one from a foot down)".into(),
        });
    }
    Ok(facts)
}

/// How far its finish is seen where it fishes.
fn sight(question: &River<'_, '_>, settled: &Settled, path: &Path, system: System) -> Option<Fact> {
    let (_, _, rig) = settled.rig.as_ref()?;
    let day = question.here.day().ok()?;
    let working: Vec<&Moment> = path
        .moments
        .iter()
        .filter(|moment| moment.works())
        .collect();
    let depth = working.get(working.len() / 2)?.place[2].max(0.1);
    let finish = rig.finish();
    let seen = seen_at(day, Metres(depth), View::Level, &[finish], COMPARED).ok()?;
    let range = seen.first()?.sighting.range;
    Some(fact(
        "Seen from",
        format!(
            "{}, {}",
            system.depth(Metres(range)),
            crate::words::bench::finish(finish)
        ),
        format!(
            "the finish at {} in this light and clarity, to the eye of the fish, against the water level with it; shallow water and a low sun change it by the hour",
            system.shallow(Metres(depth))
        ),
    ))
}

fn sliders(settled: &Settled, system: System) -> Vec<(&'static str, Slider)> {
    let far = Quantity::Depth
        .unit(system)
        .from_si(settled.angler.longest.0);
    let along = Quantity::Depth.unit(system).from_si(settled.run.length.0);
    let value = |name: &str| {
        let field = settled.fields.iter().find(|field| field.name == name);
        field
            .and_then(|field| field.value.parse::<f64>().ok())
            .unwrap_or(0.0)
    };
    let slider = |asked: fields::Field, most: f64, step| {
        (asked.form, Slider::new(most, step, value(asked.form)))
    };
    vec![
        slider(fields::CAST_ANGLE, 180.0, "1"),
        slider(fields::CAST_DISTANCE, far.round(), "0.5"),
        slider(fields::SINK, 10.0, "0.5"),
        slider(fields::HANDLE, 3.0, "0.1"),
        slider(fields::STAND_ALONG, along.round(), "0.5"),
    ]
}

fn lies(settled: &Settled, system: System) -> Vec<Choice> {
    let mut lies = vec![Choice {
        value: String::new(),
        label: "Near the bed, all along".to_owned(),
        chosen: settled.lie.is_none() && !settled.over,
    }];
    lies.push(Choice {
        value: "over".to_owned(),
        label: format!(
            "Keep {} over the {}",
            system.depth(KEPT_OVER),
            if settled.run.growth.0 > 0.0 {
                "weed"
            } else {
                "bed"
            }
        ),
        chosen: settled.over,
    });
    for (place, mark) in settled.run.marks.iter().enumerate() {
        lies.push(Choice {
            value: format!("mark-{place}"),
            label: format!(
                "{}, {} down, {} out",
                crate::words::capital(mark.kind.name()),
                system.depth(mark.along),
                system.depth(mark.across)
            ),
            chosen: settled.lie.is_some_and(|lie| lie.mark == Some(*mark)),
        });
    }
    let tapped = settled.lie.filter(|lie| lie.mark.is_none());
    lies.push(Choice {
        value: "at".to_owned(),
        label: tapped.map_or_else(
            || "Where I tap the plan".to_owned(),
            |lie| {
                format!(
                    "Tapped: {} down, {} out",
                    system.depth(Metres(lie.along)),
                    system.depth(Metres(lie.across))
                )
            },
        ),
        chosen: tapped.is_some(),
    });
    lies
}

fn counting(
    question: &River<'_, '_>,
    settled: &Settled,
    fished: &[Fished],
    system: System,
) -> Counting {
    let made = settled.grid_made(question);
    let next = fished
        .iter()
        .map(|one| (one.cast.way, one.cast.far))
        .find(|key| !made.contains(key));
    let cells: Vec<GridCell> = fished
        .iter()
        .enumerate()
        .map(|(place, one)| {
            let key = (one.cast.way, one.cast.far);
            let address = settled.state(Some(&grid_key(key.0, key.1)));
            GridCell {
                label: format!("{}, {}", one.cast.way.name(), one.cast.far.name()),
                far: system.depth(one.cast.thrown.distance).to_string(),
                address: format!("/river?{}", encoded(&address, system)),
                done: made.contains(&key),
                next: settled.grid == Some(key),
                first: place < FIRST,
            }
        })
        .collect();
    let here = settled.made_here(question).count();
    let order: Vec<OrderRow> = order_rows(question, settled);
    let of = |presentation| settled.made_of(question, presentation);
    let on = question.order.next(of);
    let presentation = on.map_or(Presentation::Spinner, |(presentation, _)| presentation);
    Counting {
        counted: format!(
            "{} of {} casts made here",
            made.iter().filter(|key| cells_hold(fished, **key)).count(),
            cells.len()
        ),
        whole: whole_words(settled, fished, question, system),
        step: step(settled, question, system),
        next: next_words(
            settled,
            presentation,
            here,
            next.is_none() && !cells.is_empty(),
        ),
        can_log: question.on_it && settled.sound,
        presentation: presentation.key(),
        grid_key: settled
            .grid
            .map_or_else(String::new, |(way, far)| grid_key(way, far)),
        so_far: so_far(question),
        grid: cells,
        order,
    }
}

fn cells_hold(
    fished: &[Fished],
    key: (motilis_core::river::Way, motilis_core::river::Far),
) -> bool {
    fished.iter().any(|one| (one.cast.way, one.cast.far) == key)
}

fn order_rows(question: &River<'_, '_>, settled: &Settled) -> Vec<OrderRow> {
    let next = question.order.next(|one| settled.made_of(question, one));
    let rows = question.order.steps().iter().map(|(presentation, casts)| {
        let made = settled.made_of(question, *presentation);
        OrderRow {
            name: presentation.name(),
            count: format!("{made} of {casts}"),
            done: made >= *casts,
            next: next.is_some_and(|(one, _)| one == *presentation),
        }
    });
    rows.collect()
}

/// What is next, in a few words.
fn next_words(settled: &Settled, presentation: Presentation, here: usize, all: bool) -> String {
    let what = if presentation.spins() {
        match settled.grid {
            Some((way, far)) => format!("{}, {}", crate::words::capital(way.name()), far.name()),
            None => "Your own cast".to_owned(),
        }
    } else {
        crate::words::capital(presentation.name())
    };
    if all && presentation.spins() {
        return format!("{what}; all made here: two steps on");
    }
    if here < FIRST {
        return format!("{what}. Be ready: the first three matter most");
    }
    what
}

fn whole_words(
    settled: &Settled,
    fished: &[Fished],
    question: &River<'_, '_>,
    system: System,
) -> String {
    if fished.is_empty() {
        return String::new();
    }
    let all = whole(
        &settled.section,
        settled.run.length,
        fished,
        question.school,
    );
    format!(
        "The whole run: {} stands two steps ({}) apart, {} casts, about {:.0} min; {:.0} % of the bed that holds fish covered with this cast. A cell counts where the lure passes within {} of it, its blade turning (designed).",
        all.stands,
        system.depth(STEP * f64::from(STEPS)),
        all.casts,
        all.minutes,
        100.0 * all.share,
        system.depth(REACH)
    )
}

/// The next stand.
fn step(settled: &Settled, question: &River<'_, '_>, system: System) -> Option<(String, String)> {
    let all = stands(settled.run.length, question.school);
    let apart = STEP.0 * f64::from(STEPS);
    let up = question.school.steps_up();
    let to = settled.stand.0 + if up { -apart } else { apart };
    let last = all.last()?.0;
    let beyond = if up { to < last - 0.1 } else { to > last + 0.1 };
    if beyond {
        return None;
    }
    let mut state = settled.state(Some("next"));
    for (name, value) in &mut state {
        if *name == fields::STAND_ALONG.form {
            *value = system.depth(Metres(to.max(0.0))).typed();
        }
    }
    let words = if up { "Two steps up" } else { "Two steps down" };
    Some((
        format!("/river?{}", encoded(&state, system)),
        words.to_owned(),
    ))
}

/// Casts and bites of the outing, in a sentence.
fn so_far(question: &River<'_, '_>) -> String {
    let casts: Vec<&RiverCast> = question.casts.iter().map(|(_, cast)| cast).collect();
    if casts.is_empty() {
        return if question.on_it {
            "No casts logged on this outing yet.".to_owned()
        } else {
            "The open outing is on another water: look and plan here; casts are logged on an outing on this river."
                .to_owned()
        };
    }
    let bites = casts.iter().filter(|cast| cast.event.is_some()).count();
    let mut places: Vec<(i64, Metres)> = Vec::new();
    for cast in &casts {
        if !places
            .iter()
            .any(|(run, stand)| *run == cast.run.0 && near(*stand, cast.stand))
        {
            places.push((cast.run.0, cast.stand));
        }
    }
    format!(
        "{} cast{} from {} stand{} on this outing, {} bite{}.",
        casts.len(),
        if casts.len() == 1 { "" } else { "s" },
        places.len(),
        if places.len() == 1 { "" } else { "s" },
        bites,
        if bites == 1 { "" } else { "s" }
    )
}

/// The form of rod, reel and line as they are kept.
pub fn gear_form(gear: &Gear, system: System) -> GearForm {
    crate::forms::gear::shown(gear, system)
}

/// Lines to choose from.
pub(crate) fn spools(chosen: LineStock) -> Vec<Choice> {
    let cast = |stock: &LineStock| {
        matches!(
            stock.material,
            LineMaterial::Nylon | LineMaterial::Fluorocarbon | LineMaterial::Braid
        )
    };
    LineStock::catalogue()
        .filter(cast)
        .map(|stock| Choice {
            value: spool_key(&stock),
            label: format!("{} lb {}", stock.test_lb, stock.material.name()),
            chosen: spool_key(&stock) == spool_key(&chosen),
        })
        .collect()
}

/// Every rig of the box on the cast in hand.
///
/// # Errors
/// As [`river`].
pub fn river_rigs(
    question: &River<'_, '_>,
    device: Device,
    raw: &Texts,
) -> Result<Option<RiverRigs>, Error> {
    let system = device.system;
    let Some(settled) = settle(raw, question, system)? else {
        return Ok(None);
    };
    let (tackles, tried) = tackles(question);
    let zone = settled.zone();
    let ranked = rank(
        &settled.section,
        &question.water,
        &settled.angler,
        &settled.plan,
        &zone,
        &tackles,
    );
    let most = ranked
        .iter()
        .map(|one| one.zone_seconds)
        .fold(1.0, f64::max);
    let state = settled.state(None);
    let castable: usize = tried.iter().map(Vec::len).sum();
    let each = ranked
        .iter()
        .flat_map(|one| tried[one.place].iter().map(move |rig| (one, *rig)));
    let rows = each.take(LISTED).map(|(one, (id, name, kind))| {
        let other = state.iter().map(|(key, value)| {
            let value = if *key == "rig" {
                id.0.to_string()
            } else {
                value.clone()
            };
            (*key, value)
        });
        let other: Vec<_> = other.collect();
        TriedRow {
            name: name.to_owned(),
            kind,
            zone: format!("{:.0} s", one.zone_seconds),
            why: say::why(one.why, system),
            bar: format!("{:.0}", 100.0 * one.zone_seconds / most),
            address: format!("/river?{}", encoded(&other, system)),
            here: settled.rig.as_ref().is_some_and(|(own, ..)| *own == id),
        }
    });
    let query = encoded(&state, system);
    Ok(Some(RiverRigs {
        frame: frame(
            Some(question.here),
            Screen::River,
            device,
            &format!("/river/rigs?{query}"),
        ),
        says: say::cast(
            &settled.plan,
            settled.angler.turns(settled.plan.reel),
            None,
            system,
        ),
        rows: rows.collect(),
        all: castable,
        practice: practice(&settled, ranked.first().map(|one| tried[one.place][0].2)),
        back: format!("/river?{query}"),
    }))
}

/// Casts that are computed for one page.
const COMPUTED: usize = 100;

/// A rig that can be cast: number, name, kind.
type Castable<'a> = (RigId, &'a str, &'static str);

/// What can be cast, alike rigs together: they fly, sink and turn as one.
fn tackles<'a>(question: &'a River<'_, '_>) -> (Vec<CastTackle>, Vec<Vec<Castable<'a>>>) {
    let (mut tackles, mut tried): (Vec<CastTackle>, Vec<Vec<Castable<'a>>>) =
        (Vec::new(), Vec::new());
    for rig in &question.rigs {
        let Ok(runs) = &rig.stands else { continue };
        let spool = question.gear.spool(runs.kind());
        let Ok(tackle) = spool.tackle(runs, &question.water, question.temperature) else {
            continue;
        };
        let one = (rig.id, rig.name.as_str(), runs.kind().name());
        match tackles.iter().position(|known| *known == tackle) {
            Some(place) => tried[place].push(one),
            None if tackles.len() < COMPUTED => {
                tackles.push(tackle);
                tried.push(vec![one]);
            }
            None => {}
        }
    }
    (tackles, tried)
}

/// What practice puts on, and whether the computation agrees.
fn practice(settled: &Settled, first: Option<&'static str>) -> String {
    let body = body_by_practice(settled.section.deepest(), fastest(settled));
    let says = say::practice(body);
    let (Some(body), Some(first)) = (body, first) else {
        return says.to_owned();
    };
    let of = body.name().split(' ').next().unwrap_or_default();
    if first.contains(of) {
        return format!("{says} The computation agrees on this cast.");
    }
    let article = if first.starts_with(['a', 'e', 'i', 'o', 'u']) {
        "an"
    } else {
        "a"
    };
    format!(
        "{says} On this cast the computation puts {article} {first} first: between bodies of one weight it finds centimetres, between weights and blades far more."
    )
}
