//! The set-out card, and two spreads side by side.

use super::frame;
use super::spread::{Computed, Paper, depth_of, drawing, names};
use crate::forms::look::Look;
use crate::screens::{CardRow, ComparedRow, Screen, SetOutCard, SpreadCompare};
use crate::seen::Seen;
use crate::words::{self, spread as say};
use motilis_core::units::{Metres, MetresPerSecond};
use motilis_helm::{Deck, Error};

/// Size of each of two drawings beside each other.
const HALF: Paper = Paper {
    size: (640.0, 520.0),
    room: 1.0,
};

/// The set-out card.
///
/// # Errors
/// [`Error::Core`] for a spread that cannot be computed.
pub fn set_out_card(deck: &Seen<Deck<'_, '_>>) -> Result<SetOutCard, Error> {
    let computed = Computed::new(deck, deck.saved.plan.speed, None)?;
    let (here, system) = (deck.here, deck.device.system);
    let order = &computed.order;
    let numbers: Vec<String> = order.bring_in.iter().map(|i| (i + 1).to_string()).collect();
    let started = here.local(here.outing.started);
    let mut foot = words::cautions_of_day(&here.outing, system);
    foot.insert(
        0,
        deck.allowed.map_or_else(
            || "Check the current local regulations.".to_owned(),
            |allowed| {
                format!("By the rules you entered at most {allowed} lines may be out; check the current local regulations.")
            },
        ),
    );
    Ok(SetOutCard {
        frame: frame(
            Some(here),
            Screen::Spread,
            deck.device,
            &format!("/spread/{}/card", deck.id.0),
        ),
        id: deck.id.0,
        name: deck.saved.plan.name.clone(),
        head: format!(
            "{}, {}; {} through the water over {}.",
            here.water.name,
            started.strftime("%a %-d %B %Y"),
            system.speed(deck.saved.plan.speed),
            system.depth(here.outing.bottom)
        ),
        rows: order
            .set_out
            .iter()
            .map(|place| card_row(deck, &computed, *place))
            .collect(),
        bring_in: format!("Bring in {}.", numbers.join(", ")),
        foot,
    })
}

fn card_row(deck: &Seen<Deck<'_, '_>>, computed: &Computed, place: usize) -> CardRow {
    let system = deck.device.system;
    let depth = |metres: Metres| system.depth(metres).to_string();
    let speed = |v: MetresPerSecond| system.speed(v);
    let rod = &computed.spread.rods[place];
    let line = &computed.running.lines[place];
    let refused = line.refused.as_ref();
    CardRow {
        number: place + 1,
        place: say::place(rod, system),
        name: rod.towed.name().to_owned(),
        tool: match refused {
            Some(why) => format!("{}.", words::capital(&why.to_string())),
            None => say::tool(rod, system),
        },
        out: say::out(rod, system),
        lead: depth(rod.setup.lead),
        depth: match refused {
            Some(_) => "cannot run".to_owned(),
            None => depth_of(deck, computed, place),
        },
        window: match (refused, line.window.to) {
            (Some(_), _) => String::new(),
            (None, Some(to)) => format!("{}–{}", speed(line.window.from).value, speed(to)),
            (None, None) => format!("from {}", speed(line.window.from)),
        },
    }
}

/// Two spreads beside each other.
///
/// # Errors
/// [`Error::Core`] for one that cannot be computed.
pub fn compare(decks: &[Seen<Deck<'_, '_>>; 2]) -> Result<SpreadCompare, Error> {
    let [a, b] = decks;
    let computed = [
        Computed::new(a, a.saved.plan.speed, None)?,
        Computed::new(b, b.saved.plan.speed, None)?,
    ];
    let drawn = |i: usize| -> Result<_, Error> {
        let deck = &decks[i];
        let drawing = drawing(deck, &computed[i], &Look::default(), None, HALF)?;
        Ok((deck.saved.plan.name.clone(), drawing))
    };
    Ok(SpreadCompare {
        frame: frame(Some(a.here), Screen::Spread, a.device, "/spread/compare"),
        first: names(a, Some(a.id.0)),
        second: names(a, Some(b.id.0)),
        rows: rows(decks, &computed)?,
        drawings: [drawn(0)?, drawn(1)?],
    })
}

fn rows(
    decks: &[Seen<Deck<'_, '_>>; 2],
    computed: &[Computed; 2],
) -> Result<Vec<ComparedRow>, Error> {
    use motilis_core::spread::Side;
    let system = decks[0].device.system;
    let speed = |v: MetresPerSecond| system.speed(v).to_string();
    let row = |label: &str, [a, b]: [String; 2]| ComparedRow {
        label: label.to_owned(),
        differs: a != b,
        a,
        b,
    };
    let both =
        |figure: &dyn Fn(usize) -> Result<String, Error>| Ok::<_, Error>([figure(0)?, figure(1)?]);
    let turn = |to: Side| {
        move |i: usize| {
            let safe = computed[i].spread.safe_turn(&decks[i].surroundings, to)?;
            Ok(say::safe_turn(to, safe.radius, safe.by, system))
        }
    };
    let mut rows = vec![
        row(
            "Lines",
            both(&|i| Ok(computed[i].spread.rods.len().to_string()))?,
        ),
        row("Speed", both(&|i| Ok(speed(computed[i].spread.speed)))?),
        row(
            "Lines that fish",
            both(&|i| Ok(computed[i].running.fishing().to_string()))?,
        ),
        row(
            "Speed that suits most",
            both(&|i| {
                let shared = computed[i].spread.shared_speed(&decks[i].surroundings)?;
                Ok(format!(
                    "{}, {} lines",
                    speed(shared.at),
                    shared.inside.len()
                ))
            })?,
        ),
        row("Turn to port", both(&turn(Side::Port))?),
        row("Turn to starboard", both(&turn(Side::Starboard))?),
        row(
            "Nearest two lines",
            both(&|i| {
                Ok(computed[i].running.tangles.first().map_or_else(
                    || "all well apart".to_owned(),
                    |near| {
                        format!(
                            "{} between {} and {}",
                            system.depth(near.distance),
                            near.lines.0 + 1,
                            near.lines.1 + 1
                        )
                    },
                ))
            })?,
        ),
    ];
    let most = computed
        .iter()
        .map(|one| one.spread.rods.len())
        .max()
        .unwrap_or(0);
    for place in 0..most {
        rows.push(row(
            &format!("Line {}", place + 1),
            both(&|i| {
                Ok(computed[i]
                    .spread
                    .rods
                    .get(place)
                    .map_or_else(String::new, |rod| {
                        format!(
                            "{}: {}, {} back, {} down",
                            say::place(rod, system),
                            rod.towed.name(),
                            say::out(rod, system),
                            depth_of(&decks[i], &computed[i], place)
                        )
                    }))
            })?,
        ));
    }
    Ok(rows)
}
