//! The cards of the call sheet.

use crate::draw::{BenchDrawing, BenchSource};
use crate::screens::{FinishLook, LoreRow, PickCard, PickFigure, Swap, TermRow};
use crate::seen::Seen;
use crate::units::System;
use crate::words::{self, advice as say};
use motilis_core::advice::{
    Basis, Call, Judge, Mark, Pick, Ranking, Scored, Sheet, Stand, Term, paint,
};
use motilis_core::bench::Layout;
use motilis_core::column::{Blade, Seen as Look};
use motilis_core::light::{Picture, Target, Verdict, claims};
use motilis_core::line::{Line, OutFor, Start};
use motilis_core::rig::Rig;
use motilis_core::units::{Metres, MetresPerSecond};
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
    ranking: &Ranking,
    sheet: &Sheet,
) -> Result<Vec<PickCard>, Error> {
    // The farthest seen of all candidates, for the lore of the day.
    let farthest = ranking
        .rows
        .iter()
        .max_by(|a, b| a.sighting().score().total_cmp(&b.sighting().score()));
    let farthest = farthest.map(|row| {
        let finish = desk.candidates[row.index].rig.finish();
        (say::finish_name(finish), row.sighting().range)
    });
    sheet
        .picks
        .iter()
        .map(|pick| card(desk, judge, pick, farthest.as_ref()))
        .collect()
}

fn card(
    desk: &Seen<Desk>,
    judge: &Judge<'_>,
    pick: &Pick,
    farthest: Option<&(String, f64)>,
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
        lore: lore(&candidate.rig, &pick.call, farthest, system),
        pinned: desk.mark(pick.index) == Some(Mark::Pin),
        tank: swap
            .is_none()
            .then(|| format!("/tank?rig={}", origin.rig.0)),
        start: swap.is_none().then_some(origin.setup.0),
        swap,
    })
}

fn figures(desk: &Seen<Desk>, pick: &Pick) -> Vec<PickFigure> {
    let (day, system) = (&desk.day, desk.device.system);
    let candidate = &desk.candidates[pick.index];
    let speed = |v: MetresPerSecond| system.speed(v).to_string();
    let length = |metres: Metres| system.depth(metres).to_string();
    let mut figures = vec![PickFigure {
        label: "Speed",
        value: speed(day.speed),
        note: if (pick.call.best_speed - day.speed).0.abs() < 0.02 {
            "its best today".to_owned()
        } else {
            format!("its best today {}", speed(pick.call.best_speed))
        },
    }];
    if let OutFor::Out(run) = &pick.call.out {
        let sure = desk.day.surroundings().ok().and_then(|here| {
            let line = Line::new(&candidate.rig, &candidate.setup, here).ok()?;
            line.sure(day.speed, run.out)
        });
        let down = sure.as_ref().map_or_else(
            || length(run.rig.depth),
            |sure| words::sure(run.rig.depth, &sure.depth, system),
        );
        let cable = candidate.setup.lets_out_cable();
        figures.push(PickFigure {
            label: if cable { "Cable out" } else { "Line out" },
            value: match sure.and_then(|sure| sure.out) {
                Some((low, high)) => {
                    format!("{}, {}", length(run.out), system.between(low, high))
                }
                None => length(run.out),
            },
            note: format!(
                "for {down} down on {}",
                words::weight(&candidate.setup, system)
            ),
        });
    }
    if let Start::Downrigger { drop_back, .. } = candidate.setup.start {
        figures.push(PickFigure {
            label: "Back from the ball",
            value: length(drop_back + candidate.setup.lead),
            note: format!("{} of it the lead", length(candidate.setup.lead)),
        });
    }
    figures.push(PickFigure {
        label: "Lead",
        value: length(candidate.setup.lead),
        note: format!("practice here {}", length(day.lead())),
    });
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
            say::distance(Metres(call.sighting.range), system),
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
            kind: say::kind_of_figure(term.term()),
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
fn lore(rig: &Rig, call: &Call, farthest: Option<&(String, f64)>, system: System) -> Vec<LoreRow> {
    let finish = rig.finish();
    let range = call.sighting.range;
    let metres = |range: f64| say::distance(Metres(range), system);
    let mut rows = Vec::new();
    let sayings = call
        .terms
        .iter()
        .filter(|term| term.term().is_lore_of_finish() && term.points().abs() > 0.01);
    for saying in sayings {
        let Some((best, best_range)) = farthest else {
            continue;
        };
        // A liked finish should be seen farther than the rest, a disliked one less far.
        let verdict = if saying.points() > 0.0 {
            Verdict::on(range, *best_range)
        } else {
            Verdict::on(*best_range, range)
        };
        rows.push(LoreRow {
            lore: words::capital(&say::basis(saying, system)),
            physics: format!(
                "today it is seen from {}, the best here ({best}) from {}",
                metres(range),
                metres(*best_range)
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
