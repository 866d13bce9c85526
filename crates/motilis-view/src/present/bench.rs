//! The page of the bench out of what was computed.

use super::{choices, facts, frame, rail};
use crate::draw::{BenchDrawing, BenchSource, Detail};
use crate::forms::bench::{Refused, counted};
use crate::screens::{
    Bench, BenchNotice, CheckRow, Choice, Dimension, Field, InHand, Measure, MendRow, PieceRow,
    Screen, StepRow,
};
use crate::seen::Seen;
use crate::units::{Problem, System};
use crate::words::{self, bench as say};
use motilis_core::bench::{Checked, Level, Step, offered, steps};
use motilis_core::rig::{Knot, Setting, Spacing, Stack, What};
use motilis_core::units::{MILLIMETRE, Metres};
use motilis_helm::Shop;
use serde::Deserialize;

/// What is in hand on the bench: part of the address, so that a page can be come back to.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub struct Hand {
    /// The piece.
    #[serde(deserialize_with = "crate::forms::lenient")]
    pub at: Option<usize>,
    /// The tray that is open.
    pub bay: String,
    /// The dimension in hand.
    pub dim: String,
    /// What a tap on a part does.
    pub tap: String,
    /// How many to build.
    pub n: String,
    /// Number of the deed that was just done.
    #[serde(deserialize_with = "crate::forms::lenient")]
    pub built: Option<i64>,
    /// Number of a rig that was thrown away just now.
    #[serde(deserialize_with = "crate::forms::lenient")]
    pub gone: Option<i64>,
}

impl Hand {
    /// The query that comes back to it.
    pub fn query(&self) -> String {
        let at = self.at.map_or_else(String::new, |at| at.to_string());
        let safe = |text: &str| {
            text.chars()
                .filter(|c| c.is_ascii_alphanumeric() || *c == '_')
                .take(24)
                .collect::<String>()
        };
        format!(
            "?at={at}&bay={}&dim={}&tap={}&n={}",
            safe(&self.bay),
            safe(&self.dim),
            safe(&self.tap),
            safe(&self.n)
        )
    }
}

/// Width of the board on a desk, px.
const BOARD: f64 = 858.0;
/// Most rigs built in one batch.
const MOST_BATCH: f64 = 100.0;

/// How many to build, as typed; one when nothing is.
///
/// # Errors
/// The sentence about what is no number.
pub fn batch(typed: &str) -> Result<u8, String> {
    if typed.trim().is_empty() {
        return Ok(1);
    }
    counted("n", "Number of rigs", typed, MOST_BATCH).map_err(|refused| refused.sentence)
}

/// The whole page.
#[allow(
    clippy::too_many_lines,
    reason = "the page's fields, one after the other"
)]
pub fn bench(
    shop: &Seen<Shop>,
    hand: &Hand,
    notice: Option<BenchNotice>,
    refused: Option<Refused>,
) -> Bench {
    let stack = &shop.board.stack;
    let stock = shop.stocked();
    let checked = offered(stack, &stock, &shop.water, shop.temperature);
    let at = hand.at.filter(|at| *at < stack.pieces.len());
    let settings = settings_of(stack);
    let in_hand = Setting::from_key(&hand.dim)
        .filter(|setting| settings.contains(setting))
        .unwrap_or_else(|| usual_dimension(stack));
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
        in_hand: Some(in_hand),
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
            of_build: false,
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
    let bay = rail::open(hand, at.map(|at| &stack.pieces[at]), stack);
    let (pegs, fits) = rail::pegs(shop, stack, at, bay);
    let tap = if hand.tap == "behind" {
        "behind"
    } else {
        "swap"
    };
    let address = |hand: &Hand| format!("/bench/{}{}", shop.id.0, hand.query());
    Bench {
        frame: frame(
            shop.here.as_ref(),
            Screen::Bench,
            shop.device,
            &format!("/bench/{}", shop.id.0),
        ),
        version: shop.board.version,
        id: shop.id.0,
        name: field("name", "Name", "", &shop.board.name, problem("name")),
        kind: stack.kind.name(),
        rigs: choices(
            shop.names.iter().map(|(id, name)| (id.0, name.as_str())),
            Some(shop.id.0),
        ),
        setups: choices(
            shop.setups
                .iter()
                .map(|(id, setup)| (id.0, setup.name.as_str())),
            Some(shop.board.setup.0),
        ),
        back_and_forth: (shop.board.can_undo, shop.board.can_redo),
        drawing,
        zooms: Choice::list([("1", "1:1"), ("1.5", "1.5:1"), ("2", "2:1")], "1"),
        block: say::title_block(stack),
        pieces: piece_rows(stack, at, &flags),
        in_hand: at.map(|at| piece_in_hand(stack, at, &problem)),
        dimension: dimension(stack, in_hand, &settings),
        measures: settings
            .iter()
            .map(|setting| measure(stack, *setting, problem(setting.key())))
            .collect(),
        knots: knots(stack),
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
        checks: check_rows(shop, &checked),
        by_eye: shop.by_eye,
        facts: facts::facts(shop, &checked),
        steps: step_rows(shop, &order),
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
        totals: totals(stack, &checked, number, shop.device.system),
        notice,
        bays: rail::bays(bay, |bay| {
            address(&Hand {
                bay: bay.to_owned(),
                ..hand.clone()
            })
        }),
        pegs,
        fits,
        tap,
        other_tap: address(&Hand {
            tap: if tap == "swap" { "behind" } else { "swap" }.to_owned(),
            ..hand.clone()
        }),
        query: hand.query(),
    }
}

/// Front knots; a wire has none.
fn knots(stack: &Stack) -> Vec<Choice> {
    if stack.mount.is_wire() {
        return Vec::new();
    }
    let all = Knot::ALL.iter().map(|knot| (knot.key(), knot.name()));
    Choice::list(all, stack.build.front_knot.key())
}

fn piece_rows(stack: &Stack, in_hand: Option<usize>, flags: &[(usize, Level)]) -> Vec<PieceRow> {
    let flag = |at: usize| {
        let found = flags
            .iter()
            .find(|(flagged, level)| *flagged == at && *level != Level::Pass);
        found.map(|(_, level)| say::mark(*level))
    };
    let pieces = stack.pieces.iter().enumerate();
    pieces
        .map(|(at, piece)| PieceRow {
            at,
            words: words::capital(&say::piece(piece)),
            in_hand: in_hand == Some(at),
            flag: flag(at),
        })
        .collect()
}

/// The checks; measuring by eye shows those that fail only.
fn check_rows(shop: &Seen<Shop>, checked: &Checked) -> Vec<CheckRow> {
    let mend = |(index, edits): (usize, &Vec<motilis_core::rig::Edit>)| {
        let (verb, words) = say::mend(edits);
        MendRow { index, verb, words }
    };
    let shown = checked
        .checks
        .iter()
        .filter(|check| !shop.by_eye || check.level == Level::Fail);
    shown
        .map(|check| {
            let (head, figures) = say::check(check, &shop.board.stack, shop.device.system);
            CheckRow {
                key: check.rule.key(),
                at: check.at,
                mark: say::mark(check.level),
                word: check.level.name(),
                head,
                figures,
                mends: check.mends.iter().enumerate().map(mend).collect(),
            }
        })
        .collect()
}

fn step_rows(shop: &Shop, order: &[Step]) -> Vec<StepRow> {
    let next = (0..order.len()).find(|step| !shop.ticks.contains(step));
    let steps = order.iter().enumerate();
    steps
        .map(|(at, step)| StepRow {
            number: at + 1,
            words: say::step(step, &shop.board.stack),
            tool: step.tool.name(),
            caution: step.caution.map(motilis_core::bench::Caution::name),
            done: shop.ticks.contains(&at),
            next: next == Some(at),
        })
        .collect()
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
        .filter(|setting| *setting != Setting::Skirt || stack.skirt().is_some())
        .collect()
}

/// The dimension that is in hand when nobody took one.
fn usual_dimension(stack: &Stack) -> Setting {
    if stack.hooks().len() > 1 {
        Setting::HookSpacing
    } else if stack.mount.is_wire() {
        Setting::Clearance
    } else {
        Setting::Finished
    }
}

fn dimension(stack: &Stack, setting: Setting, all: &[Setting]) -> Dimension {
    let now = match (setting, stack.skirt()) {
        // As it is sold, until somebody trims it.
        (Setting::Skirt, Some((at, None))) => stack.pieces[at].part.length().0,
        _ => stack.build.get(setting),
    };
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
            all.iter().map(|one| (one.key(), say::setting_label(*one))),
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
        let shown = System::measure(Metres(now));
        ("mm", shown.typed(), say::inches(Metres(now)))
    };
    Measure {
        key: setting.key(),
        field: field(
            setting.key(),
            say::setting_label(setting),
            unit,
            &value,
            wrong,
        ),
        inches,
    }
}

/// Bend of a bait as the hook or cap gives it.
const BENT_BAIT: f64 = 0.5;

fn piece_in_hand(
    stack: &Stack,
    at: usize,
    problem: &impl Fn(&str) -> Option<(String, Problem)>,
) -> InHand {
    let piece = &stack.pieces[at];
    let own = say::measured(&piece.part.own_figures());
    let wing = matches!(
        piece.part.what(),
        What::Blade(motilis_core::blade::Family::SoftWing)
    );
    let bait = piece.part.bait().is_some() && stack.bends_bait();
    let (usual, label) = if bait {
        (BENT_BAIT, "Bend of the bait, 0 slight to 1 tight")
    } else {
        (0.6, "Bend, 0 flat to 1 bent in")
    };
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
        bend: (wing || bait).then(|| {
            let bend = piece.bend.unwrap_or(usual);
            field("bend", label, "", &format!("{bend}"), problem("bend"))
        }),
        part: piece.stock.map(|id| id.0),
    }
}

/// The figures of a part that matter for its kind.
pub(crate) fn part_figures(part: &motilis_core::rig::Part) -> String {
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

fn spools(shop: &Seen<Shop>, stack: &Stack) -> Vec<Choice> {
    shop.stock
        .iter()
        .filter(|(_, boxed)| boxed.part.what().is_by_length())
        .map(|(id, boxed)| Choice {
            value: id.0.to_string(),
            label: format!(
                "{}, {:.2} mm, {} left",
                words::capital(&say::part_name(&boxed.part)),
                boxed.part.diameter() / MILLIMETRE,
                say::left(&boxed.part, boxed.left, shop.device.system)
            ),
            chosen: stack.mount.stock == Some(*id),
        })
        .collect()
}

fn totals(stack: &Stack, checked: &Checked, number: u8, system: System) -> Vec<String> {
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
        "Cut {pieces} of {} of {what}, {} together",
        say::mm(cut),
        system.depth(f64::from(number) * cut)
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
