//! A new rig, and two rigs side by side.

use super::{bare_frame, choices};
use crate::draw::{BenchDrawing, BenchSource};
use crate::forms::bench::Refused;
use crate::forms::{self, Texts};
use crate::screens::{BenchNew, Choice, Compare, CompareRow, KindCard, Screen};
use crate::seen::Device;
use crate::units::{Problem, System};
use crate::words::{self, bench as say};
use motilis_core::bench::{Layout, checks, starting};
use motilis_core::book::Board;
use motilis_core::fish::Fish;
use motilis_core::rig::{HookSize, Kind};
use motilis_core::units::INCH;
use motilis_helm::{Book, Error};
use motilis_store::parts;

/// The form of a new rig, as typed before or as it begins.
///
/// # Errors
/// [`Error::Store`].
pub fn new_rig(
    book: &Book<'_>,
    device: Device,
    typed: &Texts,
    wrong: Option<Refused>,
) -> Result<BenchNew, Error> {
    let text = |name: &str| typed.get(name).map_or("", String::as_str);
    let mut named = forms::text("name", "Name", text("name"));
    let mut refusal = None;
    if let Some(wrong) = wrong {
        if wrong.field == "name" {
            named.problem = Some(Problem(wrong.sentence));
        } else {
            refusal = Some(wrong.sentence);
        }
    }
    let kind = if text("kind").is_empty() {
        Kind::CrawlerHarness.key()
    } else {
        text("kind")
    };
    let mut hook = vec![Choice {
        value: String::new(),
        label: "As usual for the kind".into(),
        chosen: text("hook").is_empty(),
    }];
    hook.extend(HookSize::all().map(|size| Choice {
        value: size.code().to_string(),
        label: format!("No. {size}"),
        chosen: text("hook") == size.code().to_string(),
    }));
    Ok(BenchNew {
        frame: bare_frame(book, Screen::Bench, device, "/bench/new")?,
        name: named,
        kind: kinds(kind, device.system)?,
        fish: Choice::list(
            Fish::ALL.iter().map(|fish| (fish.key(), fish.name())),
            text("fish"),
        ),
        hook,
        setup: choices(
            book.setups()?
                .iter()
                .map(|(id, setup)| (id.0, setup.name.as_str())),
            text("setup").parse().ok(),
        ),
        refusal,
    })
}

/// The kinds of rig, each drawn as practice ties it.
fn kinds(chosen: &str, system: System) -> Result<Vec<KindCard>, Error> {
    Kind::ALL
        .iter()
        .map(|kind| {
            let tied = |fish: &&Fish| fish.kinds().contains(kind);
            let fish = Fish::ALL.iter().filter(tied);
            let names: Vec<&str> = fish.clone().map(|fish| fish.name()).collect();
            let wanted = fish.copied().next().unwrap_or(Fish::Walleye);
            let stack = starting(*kind, wanted, kind.usual_hook_size(), &[])?;
            let layout = Layout::new(&stack);
            let trolled = kind.trolled();
            Ok(KindCard {
                key: kind.key(),
                name: words::capital(kind.name()),
                fish: names.join(", "),
                speed: format!(
                    "{}–{}, best {}",
                    system.speed(trolled.from).value,
                    system.speed(trolled.to),
                    system.speed(trolled.favourite).value
                ),
                drawing: BenchDrawing::new(&BenchSource::plain(&stack, &layout, kind.name())),
                chosen: kind.key() == chosen,
            })
        })
        .collect()
}

/// Two rigs side by side; `None` while there are none.
///
/// # Errors
/// [`Error::Store`].
pub fn compare(
    book: &Book<'_>,
    device: Device,
    (left, right): (Option<i64>, Option<i64>),
) -> Result<Option<Compare>, Error> {
    let boards = book.boards()?;
    if boards.is_empty() {
        return Ok(None);
    }
    let place = |asked: Option<i64>, otherwise: usize| {
        asked
            .and_then(|asked| boards.iter().position(|(id, _)| id.0 == asked))
            .unwrap_or(otherwise)
    };
    let a = place(left, 0);
    let b = place(right, if a == 0 { boards.len().min(2) - 1 } else { 0 });
    let all = |chosen: usize| {
        let names = boards.iter().map(|(id, board)| (id.0, board.name.as_str()));
        choices(names, Some(boards[chosen].0.0))
    };
    let stock = parts::stocked(book.connection())?;
    let (one, other) = (&boards[a].1, &boards[b].1);
    Ok(Some(Compare {
        frame: bare_frame(book, Screen::Bench, device, "/bench/compare")?,
        left: all(a),
        right: all(b),
        names: (one.name.clone(), other.name.clone()),
        drawings: (drawn(one), drawn(other)),
        rows: rows(one, other, &stock, device.system),
    }))
}

fn drawn(board: &Board) -> BenchDrawing {
    let layout = motilis_core::bench::Layout::new(&board.stack);
    BenchDrawing::new(&BenchSource::plain(&board.stack, &layout, &board.name))
}

/// Part by part, then measures and figures.
fn rows(
    one: &Board,
    other: &Board,
    stock: &[motilis_core::bench::Stocked],
    system: System,
) -> Vec<CompareRow> {
    let mut rows = vec![CompareRow {
        label: "Kind".into(),
        left: one.stack.kind.name().into(),
        right: other.stack.kind.name().into(),
    }];
    let spool = |board: &Board| say::part(board.stack.mount.part());
    rows.push(CompareRow {
        label: "Line or wire".into(),
        left: spool(one),
        right: spool(other),
    });
    let piece = |board: &Board, at: usize| {
        board
            .stack
            .pieces
            .get(at)
            .map_or_else(|| "nothing".to_owned(), say::piece)
    };
    for at in 0..one.stack.pieces.len().max(other.stack.pieces.len()) {
        rows.push(CompareRow {
            label: format!("Part {}", at + 1),
            left: piece(one, at),
            right: piece(other, at),
        });
    }
    let (a, b) = (checks(&one.stack, stock), checks(&other.stack, stock));
    let mut figure = |label: &str, show: &dyn Fn(&motilis_core::bench::Checked) -> String| {
        rows.push(CompareRow {
            label: label.into(),
            left: show(&a),
            right: show(&b),
        });
    };
    figure("Length over all", &|checked| {
        format!(
            "{:.1} in, {}",
            checked.layout.overall() / INCH,
            say::mm(checked.layout.overall())
        )
    });
    figure("Stack", &|checked| say::mm(checked.layout.stack_length()));
    figure("To cut", &|checked| say::both(checked.cut.whole));
    figure("Mass", &|checked| say::grams(checked.figures.mass));
    let speed = |value: motilis_core::units::MetresPerSecond| system.speed(value).to_string();
    figure("Starts", &|checked| {
        checked.figures.running.map_or_else(
            || "no blade".into(),
            |running| speed(running.at_speed.start),
        )
    });
    figure("Rolls over", &|checked| {
        let running = checked.figures.running;
        running
            .and_then(|running| running.at_speed.roll_over)
            .map_or_else(|| "not".into(), speed)
    });
    figure("Drag area", &|checked| {
        checked.figures.running.map_or_else(
            || "no blade".into(),
            |running| format!("{:.1} cm²", running.drag_area.0 * 1e4),
        )
    });
    figure("Sink speed", &|checked| {
        system.sinking(checked.figures.sink_speed)
    });
    figure("Checks to fix or watch", &|checked| {
        let open = checked
            .checks
            .iter()
            .filter(|check| check.level != motilis_core::bench::Level::Pass);
        open.count().to_string()
    });
    rows.into_iter().map(capitals).collect()
}

fn capitals(row: CompareRow) -> CompareRow {
    CompareRow {
        left: words::capital(&row.left),
        right: words::capital(&row.right),
        ..row
    }
}
