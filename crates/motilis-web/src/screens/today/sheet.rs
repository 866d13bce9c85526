//! The call sheet: every rig judged, best first.

use super::Boxed;
use crate::Error;
use crate::screens::Context;
use motilis_core::advice::{Call, Day, Verdict, before, call};
use motilis_core::blade::State;
use motilis_core::line::OutFor;
use motilis_view::draw::{ColumnSource, SpeedRule, WaterColumn};
use motilis_view::screens::{Conditions, Screen, Theme, Today, TodayRow};
use motilis_view::units::{Quantity, System, show};
use motilis_view::words;

/// The whole page.
pub(super) fn today(
    context: &Context,
    theme: Theme,
    conditions: impl Into<Box<Conditions>>,
    boxed: &[Boxed],
    deleted: Option<i64>,
) -> Result<Today, Error> {
    let (outing, system) = (&context.outing, context.system);
    let day = outing.day(context.water.salt);
    let mut calls = judged(&day, boxed)?;
    calls.sort_by(|(a, a_rig), (b, b_rig)| before((a, &a_rig.1.rig.name), (b, &b_rig.1.rig.name)));
    let rule = SpeedRule::new(day.speed, system);
    let working = calls
        .iter()
        .filter(|(call, _)| call.verdict != Verdict::Cannot)
        .count();
    let rows = calls
        .iter()
        .map(|(call, rig)| row(call, rig, &rule, &day, system))
        .collect();
    Ok(Today {
        frame: context.frame(Screen::Today, theme, "/today"),
        outings: context.outing_choices(),
        conditions: *conditions.into(),
        headline: format!(
            "{working} of {} rigs work at {}",
            calls.len(),
            show(Quantity::Speed, day.speed.0, system)
        ),
        rule,
        rows,
        column: WaterColumn::new(&ColumnSource {
            bottom: outing.bottom,
            clarity: outing.clarity,
            fish: outing.fish_depth,
            fish_name: outing.fish.name(),
            wanted: outing.wanted_depth,
            temperature: show(Quantity::Temperature, outing.temperature.0, system).to_string(),
            system,
        }),
        cautions: words::cautions_of_day(outing, system),
        undo: deleted,
        outing: context.id.0,
    })
}

fn judged<'a>(day: &Day, boxed: &'a [Boxed]) -> Result<Vec<(Call, &'a Boxed)>, Error> {
    boxed
        .iter()
        .map(|rig| Ok((call(day, &rig.1.rig, &rig.2)?, rig)))
        .collect()
}

fn row(call: &Call, boxed: &Boxed, rule: &SpeedRule, day: &Day, system: System) -> TodayRow {
    let (id, owned, setup) = boxed;
    let rig = &owned.rig;
    TodayRow {
        name: rig.name.clone(),
        tank: format!("/tank?rig={}", id.0),
        parts: words::capital(&words::parts(rig)),
        weight: words::weight(setup, system),
        verdict: verdict(call.verdict),
        glyph: call.blade.state.key(),
        state: words::state(call.blade.state),
        reason: words::reason(call, rig, day.speed, system),
        bar: rule.bar(call.window, day.speed, system),
        out: match (&call.out, call.blade.state) {
            (OutFor::Out(run), State::Turning) => Some(show(Quantity::Depth, run.out.0, system)),
            _ => None,
        },
    }
}

/// The class of a verdict.
pub(in crate::screens) fn verdict(verdict: Verdict) -> &'static str {
    match verdict {
        Verdict::Works => "works",
        Verdict::Watch => "watch",
        Verdict::Cannot => "cannot",
    }
}
