//! The page of a spread.

use super::{bare_frame, cannot_row, choices, finish_class, frame};
use crate::draw::{LineLabel, Mark, SpeedRule, SpreadDrawing, SpreadSource};
use crate::forms::conditions::stepped;
use crate::forms::course;
use crate::forms::look::Look;
use crate::forms::rod::{blamed, editor};
use crate::forms::{Typed, text};
use crate::screens::{
    Choice, CourseForm, Editor, Field, HolderBox, LineRow, Screen, Slider, SpreadHead, SpreadNew,
    SpreadScreen, Trouble, TurnForm,
};
use crate::seen::{Device, Seen};
use crate::units::{Quantity, System};
use crate::words::{self, spread as say};
use motilis_core::line::{Bottom, Start};
use motilis_core::rig::Rig;
use motilis_core::spread::{
    Current, Fault, Gravity, Holder, Mend, Order, Running, SafeTurn, Side, Spread, Towed, Turn,
    mends,
};
use motilis_core::units::{FOOT, Metres, MetresPerSecond};
use motilis_core::{Error as Refusal, fields};
use motilis_helm::{Book, Deck, Error};
use std::sync::Arc;

/// What a spread is drawn on.
#[derive(Clone, Copy)]
pub(crate) struct Paper {
    /// Its size, px.
    pub size: (f64, f64),
    /// Room abreast, as a multiple of what the lines need straight on.
    pub room: f64,
}

/// The drawing on a desk and on a phone.
const WIDE: Paper = Paper {
    size: (900.0, 700.0),
    room: 1.0,
};
const NARROW: Paper = Paper {
    size: (390.0, 620.0),
    room: 1.0,
};
/// Radius to begin with.
fn usual_radius(system: System) -> Metres {
    match system {
        System::Imperial => 130.0 * FOOT,
        System::Metric => Metres(40.0),
    }
}

/// What a page shows beside the spread as it is kept.
#[derive(Default)]
pub struct Shown {
    /// What could not be done.
    pub refusal: Option<String>,
    /// The editor as it was typed.
    pub editor: Option<Editor>,
    /// Fields of the motion as they were typed.
    pub course: Option<CourseForm>,
}

/// Speed and turn as the address asks for them.
pub struct Scene {
    /// The field of the speed.
    pub speed: Typed,
    /// The field of the radius.
    pub radius: Typed,
    /// The speed; never still.
    pub at: MetresPerSecond,
    /// The turn, if one is looked at.
    pub turn: Option<Turn>,
}

impl Scene {
    /// Reads it.
    pub fn read(look: &Look, deck: &Seen<Deck<'_, '_>>) -> Self {
        let system = deck.device.system;
        let kept = deck.saved.plan.speed;
        let typed = |text: &Option<String>| text.clone().unwrap_or_default();
        let mut speed = Typed::new(
            fields::SPEED,
            "Speed",
            (Quantity::Speed, system),
            &typed(&look.speed),
        );
        if look.speed.is_none() {
            speed.fill(kept.0);
        }
        let read = speed.or(kept.0);
        let read = speed.unless_shown(kept.0, read);
        let at = stepped(read, &look.step, system);
        if !look.step.is_empty() && speed.field.problem.is_none() {
            speed.fill(at.0);
        }
        let mut radius = Typed::new(
            fields::TURN_RADIUS,
            "Radius",
            (Quantity::Depth, system),
            &typed(&look.radius),
        );
        if look.radius.is_none() {
            radius.fill(usual_radius(system).0);
        }
        let round = radius.or(usual_radius(system).0);
        let turn = Side::from_key(&look.side).map(|to| Turn {
            radius: Metres(round),
            to,
        });
        Self {
            // A spread that stands still has no picture.
            at: if at.0 > 0.0 { at } else { kept },
            speed,
            radius,
            turn,
        }
    }
}

/// Everything computed for a page.
pub struct Computed {
    /// The spread made up.
    pub spread: Spread,
    /// As it runs.
    pub running: Running,
    /// Its order.
    pub order: Order,
    /// What is wrong with each line.
    pub faults: Vec<Vec<Fault>>,
}

impl Computed {
    /// Computes it at a speed.
    ///
    /// # Errors
    /// [`Error::Core`] for a speed or turn that cannot be.
    pub fn new(
        deck: &Deck<'_, '_>,
        at: MetresPerSecond,
        turn: Option<Turn>,
    ) -> Result<Self, Error> {
        let mut spread = deck.spread(&deck.saved.plan)?;
        spread.speed = at;
        let running = spread.running(&deck.surroundings, turn)?;
        let order = spread.order(&running);
        let faults = (0..spread.rods.len())
            .map(|place| spread.faults(&running, place, deck.allowed))
            .collect();
        Ok(Self {
            spread,
            running,
            order,
            faults,
        })
    }

    pub(crate) fn mark(&self, place: usize) -> Mark {
        match self.faults[place].first().map(Fault::gravity) {
            None => Mark::Works,
            Some(Gravity::Watch) => Mark::Watch,
            Some(Gravity::Fails) => Mark::Cannot,
        }
    }

    /// The mends of a line with the rig that each swap puts on.
    ///
    /// # Errors
    /// As [`Computed::new`].
    pub fn mends(&self, deck: &Deck<'_, '_>, place: usize) -> Result<Vec<Mend>, Error> {
        let rigs: Vec<Arc<Rig>> = deck.free_rigs().into_iter().map(|(_, rig)| rig).collect();
        let computed = mends(
            &self.spread,
            &deck.surroundings,
            &self.running,
            place,
            deck.allowed,
            &rigs,
        )?;
        Ok(computed)
    }
}

/// The page, and whether every field of it could be read.
///
/// # Errors
/// As [`Computed::new`].
#[allow(
    clippy::too_many_lines,
    reason = "the page's fields, one after the other"
)]
pub fn spread(
    deck: &Seen<Deck<'_, '_>>,
    look: &Look,
    shown: Shown,
) -> Result<(SpreadScreen, bool), Error> {
    let system = deck.device.system;
    let scene = Scene::read(look, deck);
    let computed = Computed::new(deck, scene.at, scene.turn)?;
    let lines = computed.spread.rods.len();
    let line = look
        .line
        .and_then(|line| line.checked_sub(1))
        .filter(|line| *line < lines);
    let rule = SpeedRule::new(scene.at, system);
    let shared = computed.spread.shared_speed(&deck.surroundings)?;
    let speed_shown = |v: MetresPerSecond| system.speed(v);
    let fails = |faults: &[Fault]| faults.iter().any(|fault| fault.gravity() == Gravity::Fails);
    let fishing = computed
        .faults
        .iter()
        .filter(|faults| !fails(faults))
        .count();
    let better = shared.inside.len() > fishing;
    let outside: Vec<String> = shared.outside.iter().map(|i| (i + 1).to_string()).collect();
    let left_out = match outside.len() {
        0 => String::new(),
        1 => format!(" Line {} is outside of it.", outside[0]),
        _ => format!(" Lines {} are outside of it.", outside.join(", ")),
    };
    let (ground, ground_says) = ground(look, scene.at, system);
    let editor = match (shown.editor, line) {
        (Some(typed), _) => Some(typed),
        (None, Some(line)) => Some(editor(deck, &computed, line)?),
        (None, None) => None,
    };
    let speed_differs = (scene.at.0 - deck.saved.plan.speed.0).abs() > 1e-4;
    let sound = scene.speed.field.problem.is_none()
        && scene.radius.field.problem.is_none()
        && ground.iter().all(|field| field.problem.is_none())
        && shown.refusal.is_none();
    let safe = [Side::Port, Side::Starboard]
        .iter()
        .map(|to| computed.spread.safe_turn(&deck.surroundings, *to))
        .collect::<Result<Vec<SafeTurn>, Refusal>>()?;
    let widest = safe
        .iter()
        .filter_map(|turn| turn.radius)
        .max_by(|a, b| a.0.total_cmp(&b.0));
    let turn = turn_form(deck, &safe, look, &scene);
    let speed_unit = Quantity::Speed.unit(system);
    let page = SpreadScreen {
        frame: frame(
            Some(deck.here),
            Screen::Spread,
            deck.device,
            &format!("/spread/{}", deck.id.0),
        ),
        head: head(deck),
        drawing: drawing(deck, &computed, look, line, WIDE)?,
        drawing_narrow: drawing(deck, &computed, look, line, NARROW)?,
        slider: Slider::new(
            if system == System::Imperial { 4.0 } else { 6.0 },
            "0.1",
            speed_unit.from_si(scene.at.0),
        ),
        shared: format!(
            "{} of {lines} share {}–{}",
            shared.inside.len(),
            speed_shown(shared.from).value,
            speed_shown(shared.to)
        ),
        best: better.then(|| speed_shown(shared.at).typed()),
        best_says: if better {
            format!(
                "At {} {} of {lines} lines lie in their windows.{left_out}",
                speed_shown(shared.at),
                shared.inside.len()
            )
        } else {
            let near = computed.running.tangles.len();
            let beside = match near {
                0 => String::new(),
                1 => " Two lines come near each other.".to_owned(),
                many => format!(" Lines come near each other in {many} places."),
            };
            format!(
                "{fishing} of {lines} lines fish at {}.{beside}",
                speed_shown(scene.at)
            )
        },
        speed_differs,
        rows: rows(deck, &computed, look, &rule, line)?,
        turn,
        speed: scene.speed.field,
        rule,
        ground,
        ground_says,
        editor,
        holders: [Side::Port, Side::Starboard].map(|side| holders(deck, look, side)),
        notes: notes(deck, &computed),
        can_sort: !computed.order.moves.is_empty(),
        crew: (1..=8)
            .map(|count: u32| Choice {
                value: count.to_string(),
                label: count.to_string(),
                chosen: count == deck.crew,
            })
            .collect(),
        course: shown.course.unwrap_or_else(|| course::form(system, widest)),
        refusal: shown.refusal,
        notice: notice(look),
        cautions: cautions(deck, &computed),
    };
    Ok((page, sound))
}

/// What is said of a fault for which nothing was found.
const NO_MEND: &str = " Another speed, depth, place and rig were tried: each leaves it wrong or stops another line. Take the line in, or put on another rig yourself.";

fn turn_form(deck: &Seen<Deck<'_, '_>>, safe: &[SafeTurn], look: &Look, scene: &Scene) -> TurnForm {
    let system = deck.device.system;
    let unit = Quantity::Depth.unit(system);
    TurnForm {
        side: Choice::list(
            [
                ("", "straight on"),
                ("port", "to port"),
                ("starboard", "to starboard"),
            ],
            &look.side,
        ),
        slider: Slider::new(
            unit.from_si(120.0).ceil(),
            if system == System::Imperial { "5" } else { "1" },
            unit.from_si(
                scene
                    .turn
                    .map_or(usual_radius(system), |turn| turn.radius)
                    .0,
            ),
        ),
        radius: scene.radius.field.clone(),
        safe: safe
            .iter()
            .map(|turn| say::safe_turn(turn.to, turn.radius, turn.by, system))
            .collect(),
    }
}

fn head(deck: &Seen<Deck<'_, '_>>) -> SpreadHead {
    SpreadHead {
        id: deck.id.0,
        name: deck.saved.plan.name.clone(),
        spreads: names(deck, Some(deck.id.0)),
        version: deck.saved.version,
        can_undo: deck.saved.can_undo,
        can_redo: deck.saved.can_redo,
    }
}

/// Every spread, to choose from.
pub(crate) fn names(deck: &Deck<'_, '_>, chosen: Option<i64>) -> Vec<Choice> {
    choices(
        deck.names.iter().map(|(id, name)| (id.0, name.as_str())),
        chosen,
    )
}

/// The drawing of a spread as it runs.
pub(crate) fn drawing(
    deck: &Seen<Deck<'_, '_>>,
    computed: &Computed,
    look: &Look,
    selected: Option<usize>,
    paper: Paper,
) -> Result<SpreadDrawing, Error> {
    let system = deck.device.system;
    let outing = &deck.here.outing;
    let labels = computed
        .spread
        .rods
        .iter()
        .enumerate()
        .map(|(place, rod)| LineLabel {
            mark: computed.mark(place),
            colour: colour(&rod.towed),
            out: if rod.setup.lets_out_cable() {
                format!("cable {}", system.depth(rod.out))
            } else {
                format!("back {}", system.depth(rod.out))
            },
            name: rod.towed.name().to_owned(),
            trouble: computed.faults[place]
                .first()
                .map(|fault| say::trouble(fault).to_owned())
                .unwrap_or_default(),
            address: look.at_line(Some(place + 1)).address(deck.id.0),
        })
        .collect();
    let fading = deck.here.day()?.fading()?;
    let light = [0.5, 0.25, 0.1, 0.05, 0.01]
        .iter()
        .map(|share: &f64| {
            let depth = fading.depth_of(*share);
            (depth, format!("{:.0} %", share * 100.0))
        })
        .filter(|(depth, _)| *depth < outing.bottom)
        .collect();
    Ok(SpreadDrawing::new(&SpreadSource {
        running: &computed.running,
        labels,
        selected,
        bottom: outing.bottom,
        fading: &fading,
        fish: outing.fish_depth,
        light,
        system,
        size: paper.size,
        room: paper.room,
    }))
}

fn colour(towed: &Towed) -> String {
    match towed {
        Towed::Lure(_) | Towed::Unfit(_) => "film-2".to_owned(),
        Towed::Rig(rig) => finish_class(rig.finish().colour),
    }
}

fn rows(
    deck: &Seen<Deck<'_, '_>>,
    computed: &Computed,
    look: &Look,
    rule: &SpeedRule,
    selected: Option<usize>,
) -> Result<Vec<LineRow>, Error> {
    let system = deck.device.system;
    let free = deck.free_rigs();
    computed
        .spread
        .rods
        .iter()
        .enumerate()
        .map(|(place, rod)| {
            let line = &computed.running.lines[place];
            let mut troubles: Vec<Trouble> = computed.faults[place]
                .iter()
                .map(|fault| Trouble {
                    mark: match fault.gravity() {
                        Gravity::Watch => "watch",
                        Gravity::Fails => "cannot",
                    },
                    sentence: say::fault(fault, system),
                    mends: Vec::new(),
                    door: match fault {
                        Fault::Unsolved(why) if !blamed(why) => {
                            let row = cannot_row(&deck.mend(place, why));
                            Some((row.address, row.mend))
                        }
                        _ => None,
                    },
                })
                .collect();
            let door = |one: &Trouble| one.door.is_some();
            if let Some(worst) = troubles.first_mut().filter(|one| one.mark == "cannot") {
                worst.mends = computed
                    .mends(deck, place)?
                    .iter()
                    .enumerate()
                    .map(|(number, mend)| {
                        let rig = match mend {
                            Mend::Swap(rig) => free.get(*rig).map(|(_, rig)| rig.name.as_str()),
                            _ => None,
                        };
                        (say::mend(mend, rig, system), number)
                    })
                    .collect();
                if worst.mends.is_empty() && !door(worst) {
                    worst.sentence.push_str(NO_MEND);
                }
            }
            Ok(LineRow {
                number: place + 1,
                place: say::place(rod, system),
                name: rod.towed.name().to_owned(),
                mark: computed.mark(place).key(),
                state: match line.refused {
                    Some(_) => "Cannot run".to_owned(),
                    None => format!(
                        "{} at {}{}",
                        say::state(line),
                        system.speed(line.speed),
                        say::converted(rod)
                    ),
                },
                depth: match line.refused {
                    Some(_) => String::new(),
                    None => depth_of(deck, computed, place),
                },
                bar: match line.refused {
                    Some(_) => None,
                    None => Some(rule.bar(line.window, line.speed, system)),
                },
                troubles,
                address: look.at_line(Some(place + 1)).address(deck.id.0),
                selected: selected == Some(place),
            })
        })
        .collect()
}

/// How deep a line runs, with its band while the boat goes straight; what lies on the bottom or floats, says so.
pub(super) fn depth_of(deck: &Seen<Deck<'_, '_>>, computed: &Computed, place: usize) -> String {
    let system = deck.device.system;
    let line = &computed.running.lines[place];
    let depth = line.depth(deck.surroundings.bottom);
    if line.rig[2] <= 0.0 {
        return "floats".to_owned();
    }
    if matches!(line.bottom, Bottom::Dragging { .. }) {
        return "drags".to_owned();
    }
    let straight = computed.running.turn.is_none();
    let sure = computed
        .spread
        .sure(place, &deck.surroundings)
        .filter(|_| straight);
    sure.map_or_else(
        || system.depth(depth).to_string(),
        |sure| words::sure(depth, &sure.depth, system),
    )
}

fn holders(deck: &Seen<Deck<'_, '_>>, look: &Look, side: Side) -> Vec<HolderBox> {
    Holder::all()
        .filter(|holder| holder.side == side)
        .map(|holder| {
            let line = deck
                .saved
                .plan
                .rods
                .iter()
                .position(|rod| rod.holder == holder);
            HolderBox {
                key: holder.to_string(),
                line: line.map(|line| line + 1),
                address: look.at_line(line.map(|line| line + 1)).address(deck.id.0),
            }
        })
        .collect()
}

/// Order, boards and crossings, in sentences.
fn notes(deck: &Seen<Deck<'_, '_>>, computed: &Computed) -> Vec<String> {
    let system = deck.device.system;
    let order = &computed.order;
    let list = |lines: &[usize]| {
        let numbers: Vec<String> = lines.iter().map(|line| (line + 1).to_string()).collect();
        numbers.join(", ")
    };
    let mut notes = vec![format!(
        "Set out {}; bring in {} (common practice: outside first, longest first).",
        list(&order.set_out),
        list(&order.bring_in)
    )];
    for way in &order.moves {
        notes.push(format!(
            "By practice the board of line {} runs at {}: lines without a weight farthest out, then weighted ones, divers nearest (common practice, no source).",
            way.rod + 1,
            system.depth(way.board)
        ));
    }
    for (place, crossed) in order.crossed.iter().enumerate() {
        if !crossed.is_empty() {
            notes.push(format!(
                "A fish on line {} crosses line {} on its way in: clear that first.",
                place + 1,
                list(crossed)
            ));
        }
    }
    let second: Vec<usize> = (0..computed.running.lines.len())
        .filter(|&place| computed.running.lines[place].row == 2)
        .collect();
    if !second.is_empty() {
        notes.push(format!(
            "The board of line {} is pulled back into a second row.",
            list(&second)
        ));
    }
    notes
}

/// The current on the run: by speeds over ground of one throttle, or by its own speed, set and the heading.
fn ground(look: &Look, at: MetresPerSecond, system: System) -> (Vec<Field>, String) {
    let speed =
        |asked, label, typed: &str| Typed::new(asked, label, (Quantity::Speed, system), typed);
    let rose =
        |asked, label, typed: &str| Typed::new(asked, label, (Quantity::Count, system), typed);
    let mut up = speed(fields::GROUND_UP, "Over ground, up the run", &look.up);
    let mut down = speed(
        fields::GROUND_DOWN,
        "Down the run, same throttle",
        &look.down,
    );
    let mut flow = speed(fields::CURRENT, "Or: the current runs", &look.flow);
    let mut set = rose(fields::SET, "It sets toward, degrees", &look.set);
    let mut heading = rose(fields::HEADING, "The run heads, degrees", &look.heading);
    let shown = |v: MetresPerSecond| system.speed(v);
    let told = [
        up.optional(),
        down.optional(),
        flow.optional(),
        set.optional(),
        heading.optional(),
    ];
    let current = match told {
        [Some(up), Some(down), ..] => {
            let found = Current::between(MetresPerSecond(up), MetresPerSecond(down));
            Some(found.map(|(current, through)| (current, Some(through))))
        }
        [_, _, Some(flow), Some(set), Some(heading)] => {
            let found = Current::setting(MetresPerSecond(flow), set, heading);
            Some(found.map(|current| (current, None)))
        }
        _ => None,
    };
    let says = match current {
        None => "Type in both speeds over ground, or the current with its set and the run's heading, and the blades' speed on each leg is worked out.".to_owned(),
        Some(found) => match found.and_then(|(current, through)| Ok((current, through, current.legs(at)?))) {
            Ok((current, through, legs)) => {
                let went = through.map_or_else(String::new, |through| {
                    format!("; you went {} through the water", shown(through))
                });
                let crab = if legs.crab_deg.abs() > 0.5 {
                    format!(" Point {:.0}° into it.", legs.crab_deg.abs())
                } else {
                    String::new()
                };
                format!(
                    "The current runs at {} along the run{went}. For {} on both legs go {} over ground up the run and {} down.{crab}",
                    shown(MetresPerSecond(current.along.0.abs())),
                    shown(at),
                    shown(legs.up),
                    shown(legs.down)
                )
            }
            Err(refusal) => format!("{}.", words::capital(&refusal.to_string())),
        },
    };
    let fields = [up, down, flow, set, heading].map(|typed| typed.field);
    (fields.into(), says)
}

fn notice(look: &Look) -> Option<(String, Option<i64>)> {
    if let Some(id) = look.deleted {
        return Some(("The spread was thrown away.".into(), Some(id)));
    }
    let sentence = match look.said.as_str() {
        "set" => "Every line is set for its depth.",
        "sorted" => "The boards stand in the order of practice.",
        "mended" => "Done. Undo takes it back.",
        "added" => "A rod was added. Choose what it tows.",
        "taken-in" => "The line is in. Undo puts it out again.",
        _ => return None,
    };
    Some((sentence.into(), None))
}

fn cautions(deck: &Seen<Deck<'_, '_>>, computed: &Computed) -> Vec<String> {
    let mut cautions = Vec::new();
    let lead = computed
        .spread
        .rods
        .iter()
        .find_map(|rod| words::caution_of_setup(&rod.setup));
    cautions.extend(lead);
    cautions.push(
        "Life jacket on and cut-off lanyard clipped while lines are out; look round for other boats before every turn."
            .to_owned(),
    );
    if let Some(allowed) = deck.allowed {
        cautions.push(format!(
            "By the rules you entered {} aboard may have {allowed} lines out; check the current regulations.",
            match deck.crew {
                1 => "one angler".to_owned(),
                crew => format!("{crew} anglers"),
            }
        ));
    }
    if computed
        .spread
        .rods
        .iter()
        .any(|rod| matches!(rod.setup.start, Start::Board))
    {
        cautions.push("Boards stand far out: others may not see your lines.".to_owned());
    }
    cautions
}

/// The page of a new spread.
///
/// # Errors
/// [`Error::Store`].
pub fn new_spread(
    book: &Book<'_>,
    device: Device,
    name: Option<(&str, Refusal)>,
) -> Result<SpreadNew, Error> {
    let mut field = text("name", "Name", "Evening spread");
    if let Some((typed, refusal)) = name {
        typed.clone_into(&mut field.value);
        field.problem = Some(crate::forms::problem(&refusal));
    }
    Ok(SpreadNew {
        frame: bare_frame(book, Screen::Spread, device, "/spread/new")?,
        name: field,
        can_begin: book.rigs()?.iter().any(|rig| rig.stands.is_ok()),
    })
}
