//! The page of the bench out of what was computed.

use super::edit::{Refused, counted, stocked};
use super::{Hand, Shop};
use crate::Error;
use motilis_core::bench::{Attitude, Checked, Figures, Level, checks, fits, steps};
use motilis_core::book::{BoxPart, PartId};
use motilis_core::rig::{Knot, Piece, Setting, Spacing, Stack, What};
use motilis_core::units::{INCH, MILE_PER_HOUR, MILLIMETRE, Metres};
use motilis_view::draw::part::{TRUE_SIZE, lying};
use motilis_view::draw::{BenchDrawing, BenchSource, Detail};
use motilis_view::screens::{
    Bay, Bench, BenchNotice, CheckRow, Choice, Dimension, Fact, Field, InHand, Kind, Measure, MendRow,
    Peg, PieceRow, StepRow,
};
use motilis_view::units::{Problem, Quantity, System, show};
use motilis_view::words::{self, bench as say};

/// Trays of the rail: key, name.
const BAYS: [(&str, &str); 8] = [
    ("blade", "Blades"),
    ("clevis", "Clevises"),
    ("bead", "Beads"),
    ("body", "Bodies"),
    ("dressing", "Skirts, floats"),
    ("hook", "Hooks"),
    ("hardware", "Swivels, attractors"),
    ("bait", "Bait"),
];
/// Most parts shown in a tray at once.
const MOST_PEGS: usize = 60;
/// Width of the board on a desk, px.
const BOARD: f64 = 858.0;
/// Most rigs built in one batch.
const MOST_BATCH: f64 = 100.0;

/// The tray of the rail a part lies in.
pub(in crate::screens) fn bay_of(what: What) -> &'static str {
    match what {
        What::Blade(_) => "blade",
        What::Clevis(_) => "clevis",
        What::Bead(_) => "bead",
        What::Body(_) => "body",
        What::Dressing(_) => "dressing",
        What::Hook(_) => "hook",
        What::Bait(_) => "bait",
        What::Swivel(_) | What::Attractor(_) | What::Rudder | What::Tubing => "hardware",
        What::Line(_) | What::Wire => "spool",
    }
}

/// What a measure is called beside its field.
pub(super) fn setting_label(setting: Setting) -> &'static str {
    match setting {
        Setting::Finished => "Leader to the front hook",
        Setting::Clearance => "Free wire above the clevis",
        Setting::HookSpacing => "Hook to hook",
        Setting::LoopDiameter => "Eye inside",
        Setting::Wraps => "Twist wraps",
        Setting::Tail => "Wire tail",
        Setting::SnellWraps => "Snell wraps",
        Setting::KnotUse => "Front knot takes",
    }
}

/// How many to build, as typed; one when nothing is.
pub(super) fn batch(typed: &str) -> Result<u8, String> {
    if typed.trim().is_empty() {
        return Ok(1);
    }
    counted("n", "Number of rigs", typed, MOST_BATCH).map_err(|refused| refused.sentence)
}

/// The whole page.
pub(super) fn bench(
    shop: &Shop,
    hand: &Hand,
    notice: Option<BenchNotice>,
    refused: Option<Refused>,
) -> Result<Bench, Error> {
    let stack = &shop.board.stack;
    let stock = stocked(shop);
    let checked = checks(stack, &stock)?;
    let at = hand.at.filter(|at| *at < stack.pieces.len());
    let settings = settings_of(stack);
    let in_hand = Setting::from_key(&hand.dim)
        .filter(|setting| settings.contains(setting))
        .or_else(|| usual_dimension(stack));
    let order = steps(stack);
    let flags: Vec<(usize, Level)> = worst_of(&checked);
    let step_marks: Vec<(Option<usize>, bool)> = order
        .iter()
        .enumerate()
        .map(|(number, step)| (step.action.piece(), shop.ticks.contains(&number)))
        .collect();
    let drawing = BenchDrawing::new(&BenchSource {
        stack,
        layout: &checked.layout,
        name: &shop.board.name,
        detail: Detail::Full,
        selected: at,
        flags: &flags,
        steps: &step_marks,
        in_hand,
        hanging: false,
        least_width: BOARD,
    });
    let problem = |field: &str| {
        refused
            .as_ref()
            .filter(|refused| refused.field == field)
            .map(|refused| (refused.typed.clone(), Problem(refused.sentence.clone())))
    };
    let page_wide = refused.as_ref().filter(|refused| refused.field.is_empty());
    let notice = notice.or_else(|| {
        page_wide.map(|refused| BenchNotice {
            sentence: refused.sentence.clone(),
            undo: None,
        })
    });
    let number = batch(&hand.n).unwrap_or(1);
    let count_of = |level| {
        checked
            .checks
            .iter()
            .filter(|check| check.level == level)
            .count()
    };
    let next = (0..order.len()).find(|step| !shop.ticks.contains(step));
    let bay = bay(hand, at.map(|at| &stack.pieces[at]), stack);
    let (pegs, fits) = rail(shop, stack, at, bay);
    let tap = if hand.tap == "behind" { "behind" } else { "swap" };
    let address = |hand: &Hand| format!("/bench/{}{}", shop.id.0, hand.query());
    Ok(Bench {
        frame: shop.frame.clone(),
        id: shop.id.0,
        name: field("name", "Name", "", &shop.board.name, problem("name")),
        kind: stack.kind.name(),
        rigs: shop
            .names
            .iter()
            .map(|(id, name)| Choice {
                value: id.0.to_string(),
                label: name.clone(),
                chosen: *id == shop.id,
            })
            .collect(),
        setups: shop
            .setups
            .iter()
            .map(|(id, setup)| Choice {
                value: id.0.to_string(),
                label: setup.name.clone(),
                chosen: *id == shop.board.setup,
            })
            .collect(),
        back_and_forth: (shop.board.can_undo, shop.board.can_redo),
        drawing,
        zooms: Choice::list([("1", "1:1"), ("1.5", "1.5:1"), ("2", "2:1")], "1"),
        block: say::title_block(stack),
        pieces: stack
            .pieces
            .iter()
            .enumerate()
            .map(|(place, piece)| PieceRow {
                at: place,
                words: words::capital(&say::piece(piece)),
                in_hand: at == Some(place),
                flag: flags
                    .iter()
                    .find(|(flagged, level)| *flagged == place && *level != Level::Pass)
                    .map(|(_, level)| say::mark(*level)),
            })
            .collect(),
        in_hand: at.map(|at| piece_in_hand(stack, at, &problem)),
        dimension: in_hand.map(|setting| dimension(stack, setting, &settings)),
        measures: settings
            .iter()
            .map(|setting| measure(stack, *setting, problem(setting.key())))
            .collect(),
        knots: if stack.mount.is_wire() {
            Vec::new()
        } else {
            let all = Knot::ALL.iter().map(|knot| (knot.key(), knot.name()));
            Choice::list(all, stack.build.front_knot.key())
        },
        spacings: Choice::list(
            Spacing::ALL
                .iter()
                .map(|spacing| (spacing.key(), spacing.name())),
            stack.build.spacing.key(),
        ),
        spools: spools(shop, stack),
        counts: (
            count_of(Level::Fail),
            count_of(Level::Warn),
            count_of(Level::Pass),
        ),
        checks: checked
            .checks
            .iter()
            .filter(|check| !shop.by_eye || check.level == Level::Fail)
            .map(|check| {
                let (head, figures) = say::check(check, stack);
                CheckRow {
                    key: check.rule.key(),
                    at: check.at,
                    mark: say::mark(check.level),
                    word: check.level.name(),
                    head,
                    figures,
                    mends: check
                        .mends
                        .iter()
                        .enumerate()
                        .map(|(index, edits)| {
                            let (verb, words) = say::mend(edits);
                            MendRow { index, verb, words }
                        })
                        .collect(),
                }
            })
            .collect(),
        by_eye: shop.by_eye,
        facts: facts(shop, &checked),
        steps: order
            .iter()
            .enumerate()
            .map(|(place, step)| StepRow {
                number: place + 1,
                words: say::step(step, stack),
                tool: step.tool.name(),
                caution: step.caution.map(motilis_core::bench::Caution::name),
                done: shop.ticks.contains(&place),
                next: next == Some(place),
            })
            .collect(),
        done: shop.ticks.len(),
        batch: {
            let typed = if hand.n.trim().is_empty() {
                "1".to_owned()
            } else {
                hand.n.clone()
            };
            let wrong = batch(&typed)
                .err()
                .map(|sentence| (typed.clone(), Problem(sentence)));
            field("n", "How many", "", &typed, problem("n").or(wrong))
        },
        place: field("place", "Put them in", "", "", problem("place")),
        totals: totals(stack, &checked, number),
        notice,
        bays: BAYS
            .into_iter()
            .map(|(key, name)| Bay {
                key,
                name,
                address: address(&Hand {
                    bay: key.to_owned(),
                    ..hand.clone()
                }),
                open: key == bay,
            })
            .collect(),
        pegs,
        fits,
        tap,
        other_tap: address(&Hand {
            tap: if tap == "swap" { "behind" } else { "swap" }.to_owned(),
            ..hand.clone()
        }),
        query: hand.query(),
    })
}

fn field(
    name: &'static str,
    label: &'static str,
    unit: &'static str,
    value: &str,
    wrong: Option<(String, Problem)>,
) -> Field {
    let (value, problem) = match wrong {
        Some((typed, problem)) => (typed, Some(problem)),
        None => (value.to_owned(), None),
    };
    Field {
        name,
        label,
        unit,
        value,
        problem,
    }
}

/// The worst level found for each piece that a check is about.
fn worst_of(checked: &Checked) -> Vec<(usize, Level)> {
    let mut worst: Vec<(usize, Level)> = Vec::new();
    for check in &checked.checks {
        let Some(at) = check.at else { continue };
        if !worst.iter().any(|(known, _)| *known == at) {
            // Checks come the worst first.
            worst.push((at, check.level));
        }
    }
    worst
}

/// Measures that belong to a stack.
fn settings_of(stack: &Stack) -> Vec<Setting> {
    let wire = stack.mount.is_wire();
    let two_hooks = stack.hooks().len() > 1;
    Setting::ALL
        .iter()
        .copied()
        .filter(|setting| {
            setting
                .belongs_to_wire()
                .is_none_or(|belongs| belongs == wire)
        })
        .filter(|setting| *setting != Setting::HookSpacing || two_hooks)
        .collect()
}

/// The dimension that is in hand when nobody took one.
fn usual_dimension(stack: &Stack) -> Option<Setting> {
    if stack.hooks().len() > 1 {
        return Some(Setting::HookSpacing);
    }
    Some(if stack.mount.is_wire() {
        Setting::Clearance
    } else {
        Setting::Finished
    })
}

fn dimension(stack: &Stack, setting: Setting, all: &[Setting]) -> Dimension {
    let now = stack.build.get(setting);
    let (step, words) = if setting.is_count() {
        (1.0, "One")
    } else {
        (1e-3, "1 mm")
    };
    let range = setting.range();
    let at = |by: f64| format!("{:.6}", (now + by).clamp(range.least, range.most));
    Dimension {
        key: setting.key(),
        all: Choice::list(
            all.iter().map(|one| (one.key(), setting_label(*one))),
            setting.key(),
        ),
        less: at(-step),
        more: at(step),
        shown: if setting.is_count() {
            format!("{now:.0}")
        } else {
            say::both(Metres(now))
        },
        step: words,
    }
}

fn measure(stack: &Stack, setting: Setting, wrong: Option<(String, Problem)>) -> Measure {
    let now = stack.build.get(setting);
    let (unit, value, inches) = if setting.is_count() {
        ("", format!("{now:.0}"), String::new())
    } else {
        let shown = show(Quantity::Bench, now, System::Metric);
        ("mm", shown.typed(), say::inches(Metres(now)))
    };
    Measure {
        key: setting.key(),
        field: field(setting.key(), setting_label(setting), unit, &value, wrong),
        inches,
    }
}

fn piece_in_hand(
    stack: &Stack,
    at: usize,
    problem: &impl Fn(&str) -> Option<(String, Problem)>,
) -> InHand {
    let piece = &stack.pieces[at];
    let own = say::measured(&piece.part.own_figures());
    let bends = matches!(
        piece.part.what(),
        What::Blade(motilis_core::blade::Family::SoftWing)
    );
    InHand {
        at,
        ahead: at.checked_sub(1),
        behind: Some(at + 1).filter(|next| *next < stack.pieces.len()),
        words: words::capital(&say::piece(piece)),
        figures: format!(
            "{}{}",
            part_figures(&piece.part),
            if own.is_empty() {
                ", from the table".to_owned()
            } else {
                format!("; measured: {own}")
            }
        ),
        count: field(
            "count",
            "Count",
            "",
            &piece.count.to_string(),
            problem("count"),
        ),
        bend: bends.then(|| {
            let bend = piece.bend.unwrap_or(0.6);
            field(
                "bend",
                "Bend, 0 flat to 1 bent in",
                "",
                &format!("{bend}"),
                problem("bend"),
            )
        }),
        part: piece.stock.map(|id| id.0),
    }
}

/// The figures of a part that matter for its kind.
pub(in crate::screens) fn part_figures(part: &motilis_core::rig::Part) -> String {
    let mm = |length: Metres| format!("{:.1}", length / MILLIMETRE);
    match part.what() {
        What::Blade(_) => format!(
            "{} × {} × {:.2} mm, {}",
            mm(part.length()),
            mm(part.width()),
            part.thickness() / MILLIMETRE,
            say::grams(part.mass())
        ),
        What::Hook(_) => format!(
            "shank {} mm, gap {} mm, {}",
            mm(part.length()),
            mm(part.width()),
            say::grams(part.mass())
        ),
        What::Line(_) | What::Wire => format!("{:.2} mm thick", part.diameter() / MILLIMETRE),
        What::Clevis(_) => {
            let (from, to) = part.carries().unwrap_or_default();
            format!(
                "carries blades {}–{to}, hole {} mm",
                from.max(0.0),
                mm(part.bore())
            )
        }
        What::Bait(_) => format!("{} mm", mm(part.length())),
        _ => format!(
            "{} mm long, {} mm thick, hole {} mm, {}",
            mm(part.length()),
            mm(part.diameter()),
            mm(part.bore()),
            say::grams(part.mass())
        ),
    }
}

fn spools(shop: &Shop, stack: &Stack) -> Vec<Choice> {
    shop.stock
        .iter()
        .filter(|(_, boxed)| boxed.part.what().is_by_length())
        .map(|(id, boxed)| Choice {
            value: id.0.to_string(),
            label: format!(
                "{}, {:.2} mm, {} left",
                words::capital(&say::part_name(&boxed.part)),
                boxed.part.diameter() / MILLIMETRE,
                say::left(&boxed.part, boxed.left)
            ),
            chosen: stack.mount.stock == Some(*id),
        })
        .collect()
}

/// The tray that is open: the one asked for, or that of the piece in hand, or the first a rig lacks.
fn bay(hand: &Hand, in_hand: Option<&Piece>, stack: &Stack) -> &'static str {
    let known = |key: &str| {
        BAYS.iter()
            .find(|(bay, _)| *bay == key)
            .map(|(bay, _)| *bay)
    };
    known(&hand.bay)
        .or_else(|| in_hand.and_then(|piece| known(bay_of(piece.part.what()))))
        .unwrap_or(if stack.blades().count() == 0 {
            "blade"
        } else {
            "bead"
        })
}

fn rail(shop: &Shop, stack: &Stack, at: Option<usize>, bay: &str) -> (Vec<Peg>, String) {
    let of_bay: Vec<&(PartId, BoxPart)> = shop
        .stock
        .iter()
        .filter(|(_, boxed)| bay_of(boxed.part.what()) == bay)
        .collect();
    let place = |part: &motilis_core::rig::Part| match at {
        Some(at) if bay_of(stack.pieces[at].part.what()) == bay => at,
        Some(at) => at + 1,
        None => stack.natural_place(part),
    };
    let on = |id: PartId| stack.pieces.iter().any(|piece| piece.stock == Some(id));
    let mut fitting: Vec<&(PartId, BoxPart)> = of_bay
        .iter()
        .copied()
        .filter(|(_, boxed)| fits(stack, place(&boxed.part), &boxed.part))
        .collect();
    let (shown, all) = (fitting.len().min(MOST_PEGS), of_bay.len());
    // What the box holds comes first; what it only knows comes last.
    fitting.sort_by_key(|(id, boxed)| (!on(*id), boxed.left <= 0.0));
    let pegs = fitting
        .into_iter()
        .take(MOST_PEGS)
        .map(|(id, boxed)| {
            let part = &boxed.part;
            let state = if on(*id) {
                "on"
            } else if boxed.left > 0.0 || part.bait().is_some() {
                "in"
            } else {
                "none"
            };
            Peg {
                id: id.0,
                drawing: lying(part, TRUE_SIZE),
                upright: part.blade().is_some() || part.hook().is_some(),
                name: words::capital(&say::part_name(part)),
                looks: say::part_looks(part),
                left: match state {
                    "on" => format!("on the rig, {} left", say::left(part, boxed.left)),
                    "none" => "none left".to_owned(),
                    _ if part.bait().is_some() => "fresh".to_owned(),
                    _ => format!("{} left", say::left(part, boxed.left)),
                },
                state,
            }
        })
        .collect();
    let where_to = match at {
        Some(at) => format!("at {}", say::part_name(&stack.pieces[at].part)),
        None => "in its natural place".to_owned(),
    };
    (pegs, format!("{shown} of {all} fit {where_to}"))
}

fn totals(stack: &Stack, checked: &Checked, number: u8) -> Vec<String> {
    let what = if stack.mount.is_wire() {
        "wire"
    } else {
        "line"
    };
    let pieces = if number == 1 {
        "one piece".to_owned()
    } else {
        format!("{number} pieces")
    };
    let cut = checked.cut.whole;
    let mut totals = vec![format!(
        "Cut {pieces} of {} of {what}, {:.2} m together",
        say::mm(cut),
        f64::from(number) * cut.0
    )];
    let counted = stack
        .pieces
        .iter()
        .filter(|piece| piece.part.bait().is_none());
    totals.extend(counted.map(|piece| {
        format!(
            "{} × {}",
            u32::from(piece.count) * u32::from(number),
            say::part(&piece.part)
        )
    }));
    totals
}

/// What one rig costs, as far as costs are known, and how many of its kinds of part have none.
fn cost(shop: &Shop, checked: &Checked) -> (f64, usize) {
    let stack = &shop.board.stack;
    let unit = |id: Option<PartId>| {
        shop.stock
            .iter()
            .find(|(known, _)| Some(*known) == id)
            .and_then(|(_, boxed)| boxed.unit_cost)
    };
    let mut parts: Vec<(f64, Option<f64>)> = stack
        .pieces
        .iter()
        .map(|piece| (f64::from(piece.count), unit(piece.stock)))
        .collect();
    parts.push((checked.cut.whole.0, unit(stack.mount.stock)));
    let unknown = parts.iter().filter(|(_, cost)| cost.is_none()).count();
    let sum = parts
        .iter()
        .filter_map(|(count, cost)| Some(count * (*cost)?))
        .sum();
    (sum, unknown)
}

fn facts(shop: &Shop, checked: &Checked) -> Vec<Fact> {
    let stack = &shop.board.stack;
    let figures: &Figures = &checked.figures;
    let layout = &checked.layout;
    let fact = |label, value: String, from: String| Fact {
        label,
        value,
        kind: Kind::Computed,
        from,
    };
    let mut facts = vec![
        fact(
            "Length over all",
            format!(
                "{:.1} in, {}",
                layout.overall() / INCH,
                say::mm(layout.overall())
            ),
            "parts in their places".into(),
        ),
        fact(
            "Mass",
            say::grams(figures.mass),
            "sizes and densities of the parts, without line".into(),
        ),
    ];
    if let Some(running) = figures.running {
        let speed = running.at_speed;
        let mph = |value: f64| format!("{:.2} mph", value / MILE_PER_HOUR.0);
        facts.push(fact(
            "Starts",
            mph(speed.start.0),
            "the blade's thickness and density; a model of ours, fresh water of 59 °F".into(),
        ));
        facts.push(fact(
            "Usable",
            running.window.to.map_or_else(
                || format!("from {}", mph(running.window.from.0)),
                |to| {
                    format!(
                        "{:.1}–{:.1} mph",
                        running.window.from / MILE_PER_HOUR,
                        to / MILE_PER_HOUR
                    )
                },
            ),
            "1.2 times the start to 0.9 times the roll-over".into(),
        ));
        if let Some(roll) = speed.roll_over {
            facts.push(fact(
                "Rolls over",
                mph(roll.0),
                "clevis friction against what hooks, bait and rudder hold upright".into(),
            ));
        }
        facts.push(fact(
            "Drag area",
            format!("{:.1} cm²", running.drag_area.0 * 1e4),
            "blade turning at its favourite speed, hooks, dressing, bait".into(),
        ));
        facts.push(fact(
            "Turns a minute",
            words::turns_a_minute(speed.turns),
            "at its favourite speed".into(),
        ));
    }
    facts.push(fact(
        "Sinks",
        match figures.attitude {
            Attitude::Floats => "floats".to_owned(),
            _ => format!(
                "{:.2} ft/s, {:.2} m/s",
                figures.sink_speed.0 / 0.3048,
                figures.sink_speed.0
            ),
        },
        "weight under water against drag, blade hanging".into(),
    ));
    let balance = figures.centre_of_mass - figures.centre_of_drag;
    facts.push(fact(
        "Balance",
        match figures.attitude {
            Attitude::TailFirst => format!("tail heavy by {}", say::mm(balance)),
            Attitude::NoseFirst => format!("nose heavy by {}", say::mm(-balance)),
            Attitude::Level => "level".to_owned(),
            Attitude::Floats => "floats".to_owned(),
        },
        "centre of mass behind the centre of drag area".into(),
    ));
    let (sum, unknown) = cost(shop, checked);
    facts.push(fact(
        "Cost of one",
        format!("{sum:.2}"),
        if unknown == 0 {
            "unit costs in the box".into()
        } else {
            format!("unit costs in the box; {unknown} kinds of part have none")
        },
    ));
    let cut = &checked.cut;
    facts.push(fact(
        "To cut",
        say::both(cut.whole),
        if stack.mount.is_wire() {
            format!(
                "{} straight, two eyes of {} with wraps and tail",
                say::mm(cut.straight),
                cut.eyes
                    .first()
                    .map_or_else(String::new, |eye| say::mm(*eye))
            )
        } else {
            format!(
                "{} finished, {} between hooks, snells {}, front knot {}",
                say::mm(cut.straight),
                say::mm(cut.between_hooks),
                cut.snells
                    .iter()
                    .map(|snell| say::mm(*snell))
                    .collect::<Vec<_>>()
                    .join(" and "),
                say::mm(cut.knot)
            )
        },
    ));
    facts
}
