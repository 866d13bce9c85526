//! The cards of the call sheet.

use crate::draw::{BenchDrawing, BenchSource};
use crate::screens::{FinishLook, LoreRow, PickCard, PickFigure, Swap, TermRow};
use crate::seen::Seen;
use crate::units::{Quantity, System};
use crate::words::{self, advice as say};
use motilis_core::advice::{
    Basis, Call, GLOW_MIN, Judge, Mark, Outfit, Pick, Scored, Sheet, Stand, Term, paint,
};
use motilis_core::bench::Layout;
use motilis_core::column::{Blade, Seen as Look};
use motilis_core::light::{Picture, Shown, Target, Verdict, claims};
use motilis_core::line::{Line, OutFor, Start};
use motilis_core::rig::{Finish, Rig, What};
use motilis_core::river::{Angler, Fineness, Held, Plan, Scene, Thrown, reel_for};
use motilis_core::units::{Metres, MetresPerSecond};
use motilis_core::water::Water;
use motilis_helm::{Desk, Error};

/// Width of a rig's drawing, px.
const DRAWN: f64 = 420.0;

/// A figure with its sign: "+0.62", "−0.40".
pub(crate) fn signed(figure: f64) -> String {
    let sign = if figure < 0.0 { "−" } else { "+" };
    format!("{sign}{:.2}", figure.abs())
}

/// A card for each pick of the sheet.
pub(crate) fn cards(
    desk: &Seen<Desk>,
    judge: &Judge<'_>,
    sheet: &Sheet,
) -> Result<Vec<PickCard>, Error> {
    let show = |finish: &Finish| judge.watch().show(&paint(*finish, None), GLOW_MIN);
    let shown: Vec<Shown> = desk.finishes.iter().map(show).collect();
    sheet
        .picks
        .iter()
        .map(|pick| card(desk, judge, &shown, pick))
        .collect()
}

/// Ranges from which this finish and the one of the box that is seen farthest are seen, both on this rig's own blade.
fn on_its_blade(
    desk: &Seen<Desk>,
    judge: &Judge<'_>,
    shown: &[Shown],
    (rig, call): (&Rig, &Call),
) -> Option<Beside> {
    let (blade, _) = rig.front_blade()?;
    let target = Target {
        area: f64::from(rig.blade_count()) * Target::turning(blade.length.0, blade.width.0),
        flashes: 2.0 * call.blade.turns.0,
        glow_min: GLOW_MIN,
    };
    let watch = judge.watch();
    let ranges = watch.ranges(shown, &target);
    let (best, farthest) = desk
        .finishes
        .iter()
        .zip(ranges)
        .max_by(|a, b| a.1.total_cmp(&b.1))?;
    let own = watch.show(&paint(rig.finish(), None), GLOW_MIN);
    Some(Beside {
        own: watch.ranges(&[own], &target)[0],
        best: say::finish_name(*best),
        farthest,
    })
}

/// A finish beside the farthest seen, on one blade.
struct Beside {
    own: f64,
    best: String,
    farthest: f64,
}

fn card(
    desk: &Seen<Desk>,
    judge: &Judge<'_>,
    shown: &[Shown],
    pick: &Pick,
) -> Result<PickCard, Error> {
    let system = desk.device.system;
    let (candidate, origin) = (&desk.candidates[pick.index], desk.origins[pick.index]);
    let stack = candidate.rig.stack();
    let layout = Layout::new(stack);
    let swap = match (&candidate.stand, origin.blade) {
        (Stand::Buildable(changes), Some(blade)) => Some(Swap {
            sentence: say::swap(changes),
            blade: blade.0,
        }),
        _ => None,
    };
    let start = if swap.is_none() {
        going_out(desk, pick)
    } else {
        Vec::new()
    };
    Ok(PickCard {
        role: words::capital(pick.role.name()),
        key: pick.role.key(),
        rig: origin.rig.0,
        name: candidate.rig.name.clone(),
        drawing: BenchDrawing::new(&BenchSource {
            least_width: DRAWN,
            ..BenchSource::plain(stack, &layout, &candidate.rig.name)
        }),
        parts: words::capital(&words::parts(&candidate.rig)),
        state: words::state(pick.call.blade.state),
        figures: figures(desk, pick),
        look: look(judge, &candidate.rig, &pick.call, system)?,
        why: why(&pick.call, system),
        terms: terms(&pick.call, system),
        lore: lore(
            &candidate.rig,
            &pick.call,
            on_its_blade(desk, judge, shown, (&candidate.rig, &pick.call)).as_ref(),
            system,
        ),
        pinned: desk.mark(pick.index) == Some(Mark::Pin),
        tank: (!start.is_empty()).then(|| {
            let asked: Vec<String> = start
                .iter()
                .map(|(name, value)| format!("{name}={value}"))
                .collect();
            format!("/tank?{}", asked.join("&"))
        }),
        start,
        swap,
    })
}

/// What the tank is opened and the line is started with: the rig on what the call puts on.
fn going_out(desk: &Seen<Desk>, pick: &Pick) -> Vec<(&'static str, String)> {
    if desk.day.river {
        return Vec::new();
    }
    let origin = desk.origins[pick.index];
    let setup = pick
        .outfit
        .tool
        .map_or(origin.setup, |place| desk.tools[place]);
    let (rig, setup) = (origin.rig.0.to_string(), setup.0.to_string());
    let mut asked = vec![("rig", rig.clone()), ("setup", setup.clone())];
    if pick.outfit == Outfit::default() {
        return asked;
    }
    let typed = |quantity: Quantity, si: f64| {
        let figure = quantity.unit(desk.device.system).from_si(si);
        format!("{}", (figure * 100.0).round() / 100.0)
    };
    asked.extend([
        ("was_rig", rig),
        ("was_setup", setup),
        ("set", "depth".into()),
    ]);
    asked.extend(
        pick.outfit
            .weight
            .map(|mass| ("weight", typed(Quantity::Mass, mass.0))),
    );
    asked.extend(
        pick.outfit
            .lead
            .map(|lead| ("lead", typed(Quantity::Depth, lead.0))),
    );
    asked
}

fn figures(desk: &Seen<Desk>, pick: &Pick) -> Vec<PickFigure> {
    let (day, system) = (&desk.day, desk.device.system);
    let candidate = &desk.candidates[pick.index];
    let speed = |v: MetresPerSecond| system.speed(v).to_string();
    let length = |metres: Metres| system.depth(metres).to_string();
    let mut figures = vec![PickFigure {
        label: if day.river { "Water" } else { "Speed" },
        value: speed(day.speed),
        note: if day.river {
            "past the spinner".to_owned()
        } else if (pick.call.best_speed - day.speed).0.abs() < 0.02 {
            "its best today".to_owned()
        } else {
            let best = speed(pick.call.best_speed);
            if pick.is_off_its_best(day.speed) {
                format!("far from its best today, {best}: go there, or take this as a makeshift")
            } else {
                format!("its best today {best}")
            }
        },
    }];
    if let Some(OutFor::Out(run)) = &pick.call.out {
        let sure = desk.day.surroundings().ok().and_then(|here| {
            let line = Line::new(&candidate.rig, &pick.setup, here).ok()?;
            line.sure(day.speed, run.out)
        });
        let down = sure.as_ref().map_or_else(
            || length(run.rig.depth),
            |sure| words::sure(run.rig.depth, &sure.depth, system),
        );
        let cable = pick.setup.lets_out_cable();
        let on = match say::instead(&pick.outfit, &candidate.setup, system) {
            Some(instead) => format!("{}, {instead}", words::weight(&pick.setup, system)),
            None => words::weight(&pick.setup, system),
        };
        figures.push(PickFigure {
            label: if cable { "Cable out" } else { "Line out" },
            value: match sure.and_then(|sure| sure.out) {
                Some((low, high)) => {
                    format!("{}, {}", length(run.out), system.between(low, high))
                }
                None => length(run.out),
            },
            note: format!("for {down} down on {on}"),
        });
    }
    if day.river {
        figures.push(cast(desk, pick));
        figures.extend(thrown(desk, pick));
    } else {
        figures.extend(behind(desk, pick));
    }
    let bait = candidate
        .rig
        .stack()
        .pieces
        .iter()
        .find_map(|piece| piece.part.bait());
    let first = day.fish.baits().first().map_or("none", |bait| bait.name());
    figures.push(PickFigure {
        label: "Bait",
        value: bait.map_or("none", |bait| bait.name()).to_owned(),
        note: format!("their first: {first}"),
    });
    if desk.ways.limits.barbless.is_some() {
        figures.push(PickFigure {
            label: "Hooks",
            value: "pinch the barbs".to_owned(),
            note: "barbless by the rules you entered".to_owned(),
        });
    }
    figures
}

/// How it is cast in a river: the body and what it is for.
fn cast(desk: &Seen<Desk>, pick: &Pick) -> PickFigure {
    let system = desk.device.system;
    let rig = &desk.candidates[pick.index].rig;
    let body = rig
        .stack()
        .pieces
        .iter()
        .find_map(|piece| match piece.part.what() {
            What::Body(shape) => Some(shape.name()),
            _ => None,
        });
    PickFigure {
        label: "Body",
        value: body.unwrap_or("weight up the line").to_owned(),
        note: format!(
            "for a run of {} at {}{}",
            system.depth(desk.day.bottom),
            system.speed(desk.day.speed),
            if rig
                .stack()
                .pieces
                .iter()
                .any(|piece| piece.part.what() == What::Rudder)
            {
                "; take the rudder off to cast it"
            } else if rig.stack().mount.is_wire() {
                "; it twists the line, let that run out now and then"
            } else {
                ""
            }
        ),
    }
}

/// How it is cast into the first run of the river: square, reeled so that the blade turns, and how deep it goes there.
fn thrown(desk: &Seen<Desk>, pick: &Pick) -> Option<PickFigure> {
    let (_, run) = desk.runs.first()?;
    let system = desk.device.system;
    let rig = &desk.candidates[pick.index].rig;
    let section = run.section().ok()?;
    let water = Water::fresh(desk.day.temperature).ok()?;
    let spool = desk.gear.spool(rig.kind());
    let tackle = spool.tackle(rig, &water, desk.day.temperature).ok()?;
    let angler = desk.gear.angler(run.wade, Angler::knee(&section, run.wade));
    let room = (section.width() - run.wade).0 - 1.0;
    let start = tackle.lure.blade.map_or(0.0, |blade| blade.start.0);
    let current = section.surface(Metres(0.5 * section.width().0));
    // Half as fast again as the blade starts with, across the current.
    let reel = reel_for(MetresPerSecond(1.5 * start), current, 0.0)
        .0
        .max(0.2);
    let plan = Plan {
        thrown: Thrown {
            angle_deg: 90.0,
            distance: Metres(room.min(0.7 * angler.longest.0)),
        },
        held: Held::Level,
        sink: 0.0,
        reel: MetresPerSecond(reel),
        mend: false,
        follow: false,
        lift: None,
    };
    let scene = Scene {
        section: &section,
        water: &water,
        angler: &angler,
        tackle: &tackle,
    };
    let path = scene.path(&plan, Fineness::COMPARED).ok()?;
    let turning = path.working_share();
    Some(PickFigure {
        label: "Cast",
        value: format!("square, {}", system.depth(plan.thrown.distance)),
        note: format!(
            "{}; on {} it goes {} down, the blade turns {:.0} % of the way (computed)",
            words::river::turns(angler.turns(plan.reel)),
            run.name,
            system.shallow(path.deepest()),
            100.0 * turning
        ),
    })
}

/// What is behind release or weight: back from the ball, and the lead.
fn behind(desk: &Seen<Desk>, pick: &Pick) -> Vec<PickFigure> {
    let (day, system) = (&desk.day, desk.device.system);
    let candidate = &desk.candidates[pick.index];
    let length = |metres: Metres| system.depth(metres).to_string();
    let mut figures = Vec::new();
    if let Start::Downrigger { drop_back, .. } = pick.setup.start {
        let twice = if pick.outfit.back.is_some() {
            "; twice the usual for shy fish"
        } else {
            ""
        };
        figures.push(PickFigure {
            label: "Back from the ball",
            value: length(drop_back + pick.setup.lead),
            note: format!("{} of it the lead{twice}", length(pick.setup.lead)),
        });
    }
    figures.push(match pick.outfit.lead {
        Some(lead) => PickFigure {
            label: "Lead",
            value: format!("tie {}", length(lead)),
            note: format!("the set-up has {}", length(candidate.setup.lead)),
        },
        None => PickFigure {
            label: "Lead",
            value: length(pick.setup.lead),
            note: format!("practice here {}", length(day.lead())),
        },
    });
    figures
}

/// Length and width of a bare bait, m.
const BARE: (f64, f64) = (0.065, 6e-3);

fn look(judge: &Judge<'_>, rig: &Rig, call: &Call, system: System) -> Result<FinishLook, Error> {
    let finish = rig.finish();
    let back = rig
        .stack()
        .blades()
        .next()
        .and_then(|(_, _, piece)| piece.part.back);
    let shown = Blade {
        area: rig.front_blade().map_or_else(
            || Target::still(BARE.0, BARE.1),
            |(blade, _)| Target::turning(blade.length.0, blade.width.0),
        ),
        flashes: call.blade.turns.0,
    };
    let seen = Look::by(judge.watch(), finish, back, shown)?;
    let sight = judge.day().fish.sight();
    let whose = if sight.own {
        format!("a {}’s eye", sight.viewer.name())
    } else {
        format!("a {}’s eye, the nearest modelled", sight.viewer.name())
    };
    Ok(FinishLook {
        code: finish.colour.key(),
        name: say::finish_name(finish),
        diver: (
            Picture::hex(seen.picture.finish),
            Picture::hex(seen.picture.behind),
        ),
        fish: (
            Picture::hex(seen.fish.finish),
            Picture::hex(seen.fish.behind),
        ),
        seen: format!(
            "seen from {}, {:.0} of 100 among these",
            say::distance_within(call.sighting.range, system),
            call.noticeability()
        ),
        eye: format!("to a diver, and in false colours to {whose}"),
    })
}

/// The two terms that speak most for it, and the one that speaks most against it.
fn why(call: &Call, system: System) -> String {
    let mut loud: Vec<&Scored> = call
        .terms
        .iter()
        .filter(|term| !goes_without_saying(term))
        .collect();
    loud.sort_by(|a, b| b.weighted().total_cmp(&a.weighted()));
    let said = |term: &&Scored| say::basis(term, system);
    let goods: Vec<String> = loud
        .iter()
        .take(2)
        .filter(|term| term.weighted() > 0.05)
        .map(said)
        .collect();
    let against = loud.last().filter(|term| term.weighted() < -0.2).map(said);
    let good = goods.join("; ");
    words::capital(&match against {
        Some(bad) if good.is_empty() => format!("Least bad of the box: {bad}."),
        Some(bad) => format!("{good}; against it: {bad}."),
        None => format!("{good}."),
    })
}

/// That it is tied for the fish, lies ready, or was fished before says little about today.
fn goes_without_saying(term: &Scored) -> bool {
    match term.basis {
        Basis::Kind { place, .. } => place.is_some(),
        Basis::Novelty { like_the_crowd, .. } => like_the_crowd.is_none(),
        _ => term.term() == Term::Ready,
    }
}

/// Terms that count, the loudest first.
fn terms(call: &Call, system: System) -> Vec<TermRow> {
    let mut counted: Vec<&Scored> = call
        .terms
        .iter()
        .filter(|term| term.weighted().abs() >= 0.005)
        .collect();
    counted.sort_by(|a, b| b.weighted().abs().total_cmp(&a.weighted().abs()));
    counted
        .into_iter()
        .map(|term| TermRow {
            name: term.term().name(),
            sentence: words::capital(&say::basis(term, system)),
            kind: say::kind_of_figure(term),
            points: signed(term.points()),
            weight: format!("{:.1}", term.weight),
            weighted: signed(term.weighted()),
            class: if term.weighted() > 0.0 {
                "for"
            } else {
                "against"
            },
        })
        .collect()
}

/// What anglers say of the finish today, then their sayings of it, each beside the model.
fn lore(rig: &Rig, call: &Call, beside: Option<&Beside>, system: System) -> Vec<LoreRow> {
    let finish = rig.finish();
    let metres = |range: f64| say::distance(Metres(range), system);
    let mut rows = Vec::new();
    let sayings = call
        .terms
        .iter()
        .filter(|term| term.term().is_lore_of_finish() && term.points().abs() > 0.01);
    for saying in sayings {
        let Some(Beside {
            own,
            best,
            farthest,
        }) = beside
        else {
            continue;
        };
        // A liked finish should be seen farther than the rest, a disliked one less far.
        let verdict = if saying.points() > 0.0 {
            Verdict::on(*own, *farthest)
        } else {
            Verdict::on(*farthest, *own)
        };
        rows.push(LoreRow {
            lore: words::capital(&say::basis(saying, system)),
            physics: format!(
                "on this blade it is seen today from {}, the best of the box ({best}) from {}",
                metres(*own),
                metres(*farthest)
            ),
            verdict: verdict.name(),
            key: verdict.key(),
        });
    }
    let painted = paint(finish, None);
    rows.extend(
        claims()
            .iter()
            .filter(|claim| claim.speaks_of(painted.name()))
            .map(|claim| LoreRow {
                lore: claim.lore.to_owned(),
                physics: words::light::claim(claim, system),
                verdict: claim.verdict().name(),
                key: claim.verdict().key(),
            }),
    );
    rows
}
