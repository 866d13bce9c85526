//! The page: the call sheet, the rest of the box, and the day beside them.

use super::{cannot_row, frame, pick, recent_outings};
use crate::draw::{ColumnSource, SpeedRule, WaterColumn};
use crate::forms::reading as form;
use crate::screens::{
    Calls, CannotRow, Conditions, DaySide, Marked, ReadingForm, ReadingRow, Screen, Today, TodayRow,
};
use crate::seen::{Device, Seen};
use crate::units::System;
use crate::words::{self, advice as say, rules as rule_words};
use motilis_core::advice::{Call, Mark, Sheet, Verdict, before};
use motilis_core::book::{TemperatureReading, best_place as place_to_fish};
use motilis_core::column::{COMPARED, ladder, seen_at};
use motilis_core::fish::Fish;
use motilis_core::line::OutFor;
use motilis_core::rig::Finish;
use motilis_core::units::Metres;
use motilis_helm::{Cannot, Desk, Error, Here, Mend};

/// What was thrown away just now.
#[derive(Debug, Default, Clone, Copy)]
pub struct Thrown {
    /// An outing.
    pub outing: Option<i64>,
    /// A temperature reading.
    pub reading: Option<i64>,
    /// A mark that was set: rig, its key, and the place it was tapped at.
    pub marked: Option<(i64, Option<Mark>, Option<usize>)>,
}

/// The whole page; while a condition cannot be, without calls, and says which.
pub fn today(
    here: &Here,
    desk: Result<Desk, motilis_core::Error>,
    device: Device,
    conditions: Box<Conditions>,
    thrown: Thrown,
    reading: Option<ReadingForm>,
) -> Result<Today, Error> {
    let (calls, side) = match desk {
        Ok(desk) => {
            let desk = Seen::new(desk, device);
            let reading = reading.unwrap_or_else(|| form::blank(device.system));
            let calls = Calls {
                marked: thrown.marked.and_then(|marked| say_marked(&desk, marked)),
                ..calls(&desk)?
            };
            (calls, Some(side(&desk, reading, thrown.reading)?))
        }
        Err(why) => (no_calls(here, &why, device), None),
    };
    Ok(Today {
        frame: frame(Some(here), Screen::Today, device, "/today"),
        outings: recent_outings(here),
        conditions: *conditions,
        calls,
        side,
        undo: thrown.outing,
        outing: here.id.0,
    })
}

/// What was just said of a rig.
fn say_marked(
    desk: &Seen<Desk>,
    (rig, mark, place): (i64, Option<Mark>, Option<usize>),
) -> Option<Marked> {
    let index = desk.origins[..desk.own]
        .iter()
        .position(|origin| origin.rig.0 == rig)?;
    let name = &desk.candidates[index].name;
    let (sentence, back) = match mark {
        Some(Mark::Veto) => (format!("{name} is vetoed for this outing."), "none"),
        Some(Mark::Pin) => (format!("{name} is pinned to the sheet."), "none"),
        None => return None,
    };
    Some(Marked {
        rig,
        sentence,
        back,
        place,
    })
}

fn no_calls(here: &Here, why: &motilis_core::Error, device: Device) -> Calls {
    Calls {
        headline: "No calls yet".to_owned(),
        rule: SpeedRule::new(here.outing.speed, device.system),
        search: None,
        river: None,
        response: None,
        picks: Vec::new(),
        rows: Vec::new(),
        nothing: None,
        pinned_out: Vec::new(),
        unfit: Vec::new(),
        marked: None,
        refusal: Some(format!(
            "The day cannot be judged: {why}. Correct the conditions above."
        )),
    }
}

fn calls(desk: &Seen<Desk>) -> Result<Calls, Error> {
    let system = desk.device.system;
    let (judge, ranking, sheet) = desk.sheet()?;
    let mut settled = Vec::new();
    let mut unfit: Vec<CannotRow> = desk.unfit.iter().map(cannot_row).collect();
    let mut cannot = |index: usize, why: motilis_core::Error| {
        unfit.push(cannot_row(&Cannot {
            name: desk.candidates[index].name.clone(),
            why,
            mend: Mend::Bench(desk.origins[index].rig),
        }));
    };
    for (index, why) in ranking.unfit.iter().filter(|(index, _)| *index < desk.own) {
        cannot(*index, why.clone());
    }
    for (index, call) in judge.settle_first(&desk.candidates, &ranking, desk.own) {
        match call {
            Ok(call) => settled.push((index, call)),
            Err(why) => cannot(index, why),
        }
    }
    settled.sort_by(|(a, a_call), (b, b_call)| {
        let name = |index: &usize| desk.candidates[*index].name.as_str();
        before((a_call, name(a)), (b_call, name(b)))
    });
    let working = settled
        .iter()
        .filter(|(_, call)| call.verdict != Verdict::Cannot)
        .count();
    let rule = SpeedRule::new(desk.day.speed, system);
    let listed = |index: usize| sheet.picks.iter().any(|pick| pick.index == index);
    let pinned_out = settled
        .iter()
        .filter(|(index, _)| desk.mark(*index) == Some(Mark::Pin) && !listed(*index))
        .map(|(index, _)| desk.candidates[*index].name.clone())
        .collect();
    let judged = settled.len() + unfit.len();
    let sought = desk.sought.as_ref();
    let rows = settled
        .iter()
        .filter(|(index, _)| match sought {
            Some(sought) => sought.contains(index),
            None => !listed(*index),
        })
        .take(ROWS)
        .map(|(index, call)| row(desk, *index, call, &sheet, &rule))
        .collect();
    Ok(Calls {
        headline: headline(desk, working, judged),
        search: (desk.in_box > ROWS).then(|| say_search(desk, judged)),
        river: desk.day.river.then(|| {
            format!(
                "{} is moving water: rigs are ranked for casting, not trolled, with body by practice (no source) and blade by the \
                 water past it. {}",
                desk.here.water.name,
                match desk.runs.first() {
                    Some((_, run)) => format!("Casts are computed for {}; others on River.", run.name),
                    None => "Add a run of it, and each call says how it is cast.".to_owned(),
                }
            )
        }),
        response: say::response(&desk.day, system),
        rule,
        picks: pick::cards(desk, &judge, &sheet)?,
        rows,
        nothing: nothing(desk, &sheet),
        pinned_out,
        unfit,
        marked: None,
        refusal: None,
    })
}

/// Rows that are listed below the sheet.
const ROWS: usize = 80;

fn headline(desk: &Seen<Desk>, working: usize, judged: usize) -> String {
    let speed = desk.device.system.speed(desk.day.speed);
    let of = if judged < desk.in_box {
        format!("the {judged} nearest")
    } else {
        format!("{judged} rigs")
    };
    if desk.day.river {
        format!("{working} of {of} can be cast in water of {speed}")
    } else {
        format!("{working} of {of} work at {speed}")
    }
}

/// What was looked for, and what is said of a box too large to list.
fn say_search(desk: &Seen<Desk>, judged: usize) -> (String, String) {
    let (words, in_box) = (desk.words.clone(), desk.in_box);
    let said = match desk.sought.as_deref() {
        Some([]) => "No rig of the box has these words in its name.".to_owned(),
        Some(sought) => format!("{} found, judged as the others are.", sought.len()),
        None if judged < in_box => format!(
            "All {in_box} rigs of the box were ranked; the {judged} that come nearest were judged to the end, and the first {ROWS} stand here."
        ),
        None => format!("The first {ROWS} of {in_box} stand here."),
    };
    (words, said)
}

/// Why there is no first call, and what would make one.
pub(crate) fn nothing(desk: &Seen<Desk>, sheet: &Sheet) -> Option<String> {
    let nothing = sheet.nothing?;
    let name = |index: usize| desk.candidates[index].name.as_str();
    let nearest = nothing.nearest.map(name);
    Some(say::nothing(
        &nothing,
        nearest,
        &desk.day,
        desk.device.system,
    ))
}

fn row(desk: &Seen<Desk>, index: usize, call: &Call, sheet: &Sheet, rule: &SpeedRule) -> TodayRow {
    let (candidate, system) = (&desk.candidates[index], desk.device.system);
    let origin = desk.origins[index];
    TodayRow {
        rig: origin.rig.0,
        name: candidate.name.clone(),
        tank: format!("/tank?rig={}", origin.rig.0),
        parts: words::capital(&words::parts(&candidate.rig)),
        weight: (!desk.day.river).then(|| words::weight(&candidate.setup, system)),
        verdict: verdict(call.verdict),
        glyph: call.blade.state.key(),
        state: words::state(call.blade.state),
        reason: say::reason(call, &candidate.rig, system),
        why_not: why_not(desk, index, call, sheet),
        vetoed: desk.mark(index) == Some(Mark::Veto),
        pinned: desk.mark(index) == Some(Mark::Pin),
        bar: rule.bar(call.window, desk.day.speed, system),
        cable: candidate.setup.lets_out_cable(),
        out: match &call.out {
            Some(OutFor::Out(run)) if call.blade.state.works() => Some(system.depth(run.out)),
            _ => None,
        },
    }
}

/// Terms that are named in an answer to "why not this one".
const NAMED: usize = 4;

/// Where a rig loses against the first call, the largest losses first.
fn why_not(desk: &Seen<Desk>, index: usize, call: &Call, sheet: &Sheet) -> Vec<String> {
    let system = desk.device.system;
    if call.verdict != Verdict::Works {
        return vec![format!(
            "Only rigs that work come on the sheet. {}",
            say::reason(call, &desk.candidates[index].rig, system)
        )];
    }
    let Some(first) = sheet.picks.first() else {
        return Vec::new();
    };
    if desk.mark(index) == Some(Mark::Veto) {
        return vec!["You struck it off this outing’s sheet.".to_owned()];
    }
    let mut losses: Vec<_> = call
        .terms
        .iter()
        .zip(&first.call.terms)
        .map(|(mine, firsts)| (mine.weighted() - firsts.weighted(), mine))
        .filter(|(loss, _)| *loss < -0.005)
        .collect();
    losses.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut said = vec![format!(
        "It counts {:.2} where {} counts {:.2}.",
        call.score, desk.candidates[first.index].name, first.call.score
    )];
    said.extend(losses.into_iter().take(NAMED).map(|(loss, term)| {
        format!(
            "{} {}: {}.",
            words::capital(term.term().name()),
            pick::signed(loss),
            say::basis(term, system)
        )
    }));
    if call.score > first.call.score - 0.3 && said.len() > 1 {
        said.push("It is near, but too like what is on the sheet already.".to_owned());
    }
    said
}

/// The class of a verdict.
pub(crate) fn verdict(verdict: Verdict) -> &'static str {
    match verdict {
        Verdict::Works => "works",
        Verdict::Watch => "watch",
        Verdict::Cannot => "cannot",
    }
}

/// Steps in which the water's colour is drawn.
const WASHES: usize = 48;
/// Rungs of the ladder and finishes on it, on Today.
const RUNGS: usize = 8;
const LADDER: usize = 6;

fn side(
    desk: &Seen<Desk>,
    reading_form: ReadingForm,
    reading_gone: Option<i64>,
) -> Result<DaySide, Error> {
    let (here, system) = (&desk.here, desk.device.system);
    let outing = &here.outing;
    let view = desk.day.view_at(outing.wanted_depth);
    let seen = seen_at(
        &desk.day,
        outing.wanted_depth,
        view,
        &desk.finishes,
        COMPARED,
    )?;
    let best = ladder_of(seen.iter().map(|one| one.finish), LADDER);
    Ok(DaySide {
        column: column(desk, &desk.day, outing.wanted_depth, "rig at", 400.0, &best)?,
        column_at: "/column".to_owned(),
        fish: fish_facts(desk),
        readings: readings(desk),
        reading: reading_form,
        reading_gone,
        rules: rules_of(desk),
        water_at: format!("/waters/{}", outing.water.0),
        cautions: words::cautions_of_day(outing, system),
    })
}

/// The first finishes of a list, each colour once: their two letters stand over the ladder.
pub(crate) fn ladder_of(finishes: impl Iterator<Item = Finish>, most: usize) -> Vec<Finish> {
    let mut ladder: Vec<Finish> = Vec::new();
    for finish in finishes {
        if ladder.iter().all(|other| other.colour != finish.colour) {
            ladder.push(finish);
        }
    }
    ladder.truncate(most);
    ladder
}

/// The water of a day with finishes down it.
pub(crate) fn column(
    desk: &Seen<Desk>,
    day: &motilis_core::advice::Day,
    at: Metres,
    word: &str,
    width: f64,
    finishes: &[Finish],
) -> Result<WaterColumn, Error> {
    let (outing, system) = (&desk.here.outing, desk.device.system);
    let even = |count: usize| -> Vec<Metres> {
        let step = outing.bottom.0 / count as f64;
        (0..count)
            .map(|place| Metres((place as f64 + 0.5) * step))
            .collect()
    };
    let water: Vec<[f64; 3]> = ladder(day, &even(WASHES), &[])?
        .into_iter()
        .map(|rung| rung.water)
        .collect();
    let rungs = even(RUNGS);
    let climbed = ladder(day, &rungs, finishes)?;
    let finishes: Vec<(Finish, Vec<[f64; 3]>)> = finishes
        .iter()
        .enumerate()
        .map(|(place, finish)| {
            (
                *finish,
                climbed.iter().map(|rung| rung.finishes[place]).collect(),
            )
        })
        .collect();
    Ok(WaterColumn::new(&ColumnSource {
        width,
        bottom: outing.bottom,
        clarity: outing.clarity,
        fish: outing.fish_depth,
        fish_name: outing.fish.name(),
        wanted: at,
        wanted_word: word,
        thermocline: outing.thermocline,
        temperature: system.temperature(outing.temperature).to_string(),
        water: &water,
        rungs: &rungs,
        finishes: &finishes,
        system,
    }))
}

fn fish_facts(desk: &Seen<Desk>) -> Vec<(String, String)> {
    let here = &desk.here;
    let (fish, system) = (here.outing.fish, desk.device.system);
    let preferred = fish.preferred();
    let name = words::capital(fish.name());
    let mut facts = vec![
        (
            format!(
                "{name} like {}–{}; the water has {}.",
                system.temperature(preferred.from).value,
                system.temperature(preferred.to),
                system.temperature(here.outing.temperature)
            ),
            format!("Published: {}, figures from memory.", preferred.source),
        ),
        (
            format!("{name} {}.", habit(fish)),
            "Common practice, no source.".to_owned(),
        ),
    ];
    let best = best_place(desk);
    facts.extend(desk.day.practice_of_temperature().map(|said| {
        let said = say::sentence(said);
        (
            match &best {
                Some(place) if desk.day.temperature < preferred.from => format!("{said} {place}"),
                _ => said,
            },
            "Common practice, no source.".to_owned(),
        )
    }));
    if desk.day.temperature >= preferred.from {
        facts.extend(best.map(|place| (place, "Of the temperatures you read.".to_owned())));
    }
    facts
}

fn best_place(desk: &Seen<Desk>) -> Option<String> {
    let readings = desk.readings.iter().map(|(_, reading)| reading.clone());
    place_by_temperature(
        &desk.here,
        &readings.collect::<Vec<_>>(),
        desk.device.system,
    )
}

/// Which of the places whose temperature was read is the one to fish, in words.
pub(super) fn place_by_temperature(
    here: &Here,
    readings: &[TemperatureReading],
    system: System,
) -> Option<String> {
    let preferred = here.outing.fish.preferred();
    let best = place_to_fish(readings, &preferred)?;
    let at = here.local(best.reading.at).strftime("%H:%M").to_string();
    let which = if best.warmest { "warmest" } else { "coolest" };
    Some(format!(
        "The {which} you read is {}: {} at {at}, {} {} than the next{}.",
        best.reading.place,
        system.temperature(best.reading.temperature),
        system.warmth(best.by),
        if best.warmest { "warmer" } else { "cooler" },
        if best.by >= 2.2 {
            "; that is a lot"
        } else {
            ""
        }
    ))
}

/// The temperatures read, as rows.
fn readings(desk: &Seen<Desk>) -> Vec<ReadingRow> {
    let system = desk.device.system;
    desk.readings
        .iter()
        .map(|(id, reading)| ReadingRow {
            id: id.0,
            place: reading.place.clone(),
            said: format!(
                "{} at {}, {} down",
                system.temperature(reading.temperature),
                desk.here.local(reading.at).strftime("%H:%M"),
                system.depth(reading.depth)
            ),
        })
        .collect()
}

/// The habit of a fish in the plural its name is used in.
fn habit(fish: Fish) -> String {
    let said = fish.habit();
    // "feeds" of the one becomes "feed" of the many.
    let plural = said
        .strip_prefix("feeds ")
        .map(|rest| format!("feed {rest}"))
        .or_else(|| {
            said.strip_prefix("takes ")
                .map(|rest| format!("take {rest}"))
        })
        .or_else(|| {
            said.strip_prefix("chases ")
                .map(|rest| format!("chase {rest}"))
        });
    plural.unwrap_or_else(|| format!("are {said}"))
}

/// Rules that hold on the outing's date, as far as they are about every fish or the one wanted.
pub(crate) fn rules_of(desk: &Seen<Desk>) -> Vec<(String, String)> {
    let (fish, system): (Fish, System) = (desk.here.outing.fish, desk.device.system);
    desk.rules
        .iter()
        .filter(|(_, rule)| rule.holds_on(desk.date) && rule.fish.is_none_or(|one| one == fish))
        .map(|(_, rule)| {
            let source = format!("{}, {}", rule_words::span(rule), rule_words::source(rule));
            (rule_words::says(rule, system), source)
        })
        .collect()
}
