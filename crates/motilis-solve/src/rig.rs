//! `solve rig`: a rig with its parts to geometry, checks with mends, cut lengths and steps.

use crate::{Refusal, Refused};
use motilis_core::bench::{Check, Checked, Step, Stocked, checks, steps};
use motilis_core::book::PartId;
use motilis_core::rig::{
    BARE, Build, Colour, Edit, Finish, Kind, Knot, Material, Measured, Mount, Over, Part, Piece,
    Setting, Spacing, Stack, What,
};
use motilis_core::units::{Kilograms, Metres};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// One part: what it is and its trade size; any figure given is a measured one.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PartRequest {
    /// `blade`, `clevis`, `bead`, `body`, `dressing`, `hook`, `swivel`, `tubing`, `attractor`, `rudder`,
    /// `bait`, `line` or `wire`.
    pub part: String,
    /// Its style: `colorado`, `stirrup`, `round`, `octopus`, `nylon` …
    pub style: String,
    /// The trade's size: a number, mm of beads, g of bodies, lb of line, thousandths of an inch of wire;
    /// hooks 1/0 as −1.
    pub size: f64,
    /// What it is made of; the usual when not given.
    pub material: Option<String>,
    /// Two letters of its colour.
    pub colour: Option<String>,
    /// Whether it is hammered.
    #[serde(default)]
    pub hammered: bool,
    /// What lies over it: two letters of a clear lacquer over metal (`RD`), or with the per cent it covers (`BK 30`).
    pub over: Option<String>,
    /// Measured length, m.
    pub length_m: Option<f64>,
    /// Measured width, m.
    pub width_m: Option<f64>,
    /// Measured thickness, m.
    pub thickness_m: Option<f64>,
    /// Measured outer diameter, m.
    pub diameter_m: Option<f64>,
    /// Measured hole, m.
    pub bore_m: Option<f64>,
    /// Measured mass, kg.
    pub mass_kg: Option<f64>,
    /// How many of it, one behind the other; 1 when not given.
    pub count: Option<u8>,
    /// Bend of a soft wing, 0 flat to 1 bent in.
    pub bend: Option<f64>,
    /// Its number in the box.
    pub id: Option<i64>,
    /// In the box: pieces left, or metres.
    pub left_count: Option<f64>,
}

/// A rig on the bench.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = RigRequest, example = json!({
    "kind": "crawler_harness",
    "mount": {"part": "line", "style": "nylon", "size": 17},
    "hook_spacing_m": 0.089,
    "pieces": [
        {"part": "swivel", "style": "barrel", "size": 14},
        {"part": "clevis", "style": "stirrup", "size": 2},
        {"part": "blade", "style": "colorado", "size": 4, "colour": "BR", "hammered": true},
        {"part": "bead", "style": "round", "size": 4},
        {"part": "bead", "style": "round", "size": 6, "count": 4},
        {"part": "hook", "style": "octopus", "size": 2, "count": 2}
    ],
    "box": [{"id": 7, "part": "bead", "style": "round", "size": 6, "left_count": 20}]
}))]
pub struct Request {
    /// Comes back with the answer.
    pub name: Option<String>,
    /// Kind of rig: `crawler_harness`, `salmon_wire` …
    pub kind: String,
    /// The line or wire it is threaded on.
    pub mount: PartRequest,
    /// Its parts from the front backwards.
    pub pieces: Vec<PartRequest>,
    /// Leader from the front knot to the front hook; the kind's usual when not given, as all below.
    pub finished_m: Option<f64>,
    /// Free wire above the clevis.
    pub clearance_m: Option<f64>,
    /// From hook to hook.
    pub hook_spacing_m: Option<f64>,
    /// Inner diameter of a wire eye.
    pub loop_diameter_m: Option<f64>,
    /// Twist wraps of a wire eye.
    pub wraps: Option<f64>,
    /// Wire left at an eye before trimming.
    pub tail_m: Option<f64>,
    /// Wraps of a snell.
    pub snell_wraps: Option<f64>,
    /// `palomar`, `improved_clinch`, `loop` or `uni`.
    pub front_knot: Option<String>,
    /// What the front knot takes, measured.
    pub knot_use_m: Option<f64>,
    /// What is left of a skirt, from its collar.
    pub skirt_m: Option<f64>,
    /// School of blade spacing: `clear`, `level` or `cap`.
    pub spacing: Option<String>,
    /// What the box holds, for mends and bead stacks.
    #[serde(default, rename = "box")]
    pub stock: Vec<PartRequest>,
}

/// One part at its place, metres backwards from where the line is tied.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct SeatAnswer {
    /// Which piece, from 0.
    pub piece: usize,
    /// Which one of it, from 0.
    pub nth: u8,
    /// Its front.
    pub from_m: f64,
    /// Its rear; of a blade its tip pulled straight back.
    pub to_m: f64,
}

/// What to cut.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct CutAnswer {
    /// All of it.
    pub whole_m: f64,
    /// Straight wire, or the finished leader.
    pub straight_m: f64,
    /// Each wire eye.
    pub eyes_m: Vec<f64>,
    /// Each snell, front hook first.
    pub snells_m: Vec<f64>,
    /// From the front hook to the last.
    pub between_hooks_m: f64,
    /// The front knot.
    pub knot_m: f64,
}

/// What it weighs and does.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FiguresAnswer {
    /// Mass without line or wire.
    pub mass_kg: f64,
    /// Weight under fresh water of 15 °C.
    pub submerged_weight_n: f64,
    /// Centre of mass on the axis.
    pub centre_of_mass_m: f64,
    /// Centre of drag area while sinking.
    pub centre_of_drag_m: f64,
    /// Terminal speed sinking; 0 when it floats.
    pub sink_mps: f64,
    /// Speed at which the blade starts; null without blade or hook.
    pub start_mps: Option<f64>,
    /// Speed at which the rig rolls over.
    pub roll_over_mps: Option<f64>,
    /// Drag area at its favourite speed.
    pub drag_area_m2: Option<f64>,
}

/// A change: the `edit` with its figures; parts as they were asked for.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct EditAnswer {
    /// `insert`, `remove`, `move`, `replace`, `splice`, `count`, `bend`, `set` …
    pub edit: &'static str,
    /// Place it is about.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub at: Option<usize>,
    /// Place it goes to, or the first that stays.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub to: Option<usize>,
    /// Parts that come in.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub pieces: Vec<PieceAnswer>,
    /// Measure that changes, and its value.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub setting: Option<&'static str>,
    /// Its value: m, or a count.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub value: Option<f64>,
}

/// A part that comes in.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct PieceAnswer {
    /// Group.
    pub part: &'static str,
    /// Style.
    pub style: &'static str,
    /// Trade size.
    pub size: f64,
    /// How many.
    pub count: u8,
    /// Number in the box; null when the box has none.
    pub id: Option<i64>,
}

/// A check.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct CheckAnswer {
    /// What was checked.
    pub check: &'static str,
    /// `pass`, `warn` or `fail`.
    pub level: &'static str,
    /// The piece it is about.
    pub piece: Option<usize>,
    /// Its figures, SI.
    pub figures: BTreeMap<&'static str, f64>,
    /// Lists of changes, each of which mends it.
    pub mends: Vec<Vec<EditAnswer>>,
}

/// A step of the work.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct StepAnswer {
    /// What is done.
    pub action: &'static str,
    /// The piece it is about.
    pub piece: Option<usize>,
    /// The measure to take.
    pub measure_m: Option<f64>,
    /// With what.
    pub tool: &'static str,
    /// What to mind.
    pub caution: Option<&'static str>,
}

/// The rig, reckoned through.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[schema(as = RigAnswer)]
pub struct Answer {
    /// The request's name.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub name: Option<String>,
    /// Every part at its place.
    pub seats: Vec<SeatAnswer>,
    /// Length of the threaded stack.
    pub stack_m: f64,
    /// From the front of the first part to the rear of the last.
    pub overall_m: f64,
    /// Distance of the blade's tip ahead of the front hook's eye; negative past it.
    pub tip_clearance_m: Option<f64>,
    /// What to cut.
    pub cut: CutAnswer,
    /// What it weighs and does.
    pub figures: FiguresAnswer,
    /// Every check, the worst first.
    pub checks: Vec<CheckAnswer>,
    /// The order of work.
    pub steps: Vec<StepAnswer>,
}

/// Reads a key, or says which there are.
pub(crate) fn keyed<T: Copy>(
    field: &str,
    key: &str,
    from: impl Fn(&str) -> Option<T>,
    known: impl IntoIterator<Item = &'static str>,
) -> Result<T, Refusal> {
    from(key).ok_or_else(|| {
        let known: Vec<&str> = known.into_iter().collect();
        Refusal::new(
            field,
            format!("{field} {key:?} is not one of {}", known.join(", ")),
        )
    })
}

impl PartRequest {
    fn part(&self, path: &str) -> Result<Part, Refusal> {
        let at = |field: &str| format!("{path}.{field}");
        let what = What::from_keys(&self.part, &self.style).ok_or_else(|| {
            let known: Vec<String> = What::all()
                .map(|what| format!("{}/{}", what.keys().0, what.keys().1))
                .collect();
            let message = format!(
                "{}/{} is no part; there are {}",
                self.part,
                self.style,
                known.join(", ")
            );
            Refusal::new(at("style"), message)
        })?;
        let colour = match &self.colour {
            None => BARE.colour,
            Some(key) => keyed(
                &at("colour"),
                key,
                Colour::from_key,
                Colour::ALL.iter().map(|colour| colour.key()),
            )?,
        };
        let finish = Finish {
            colour,
            hammered: self.hammered,
            over: match &self.over {
                None => None,
                Some(key) => Some(Over::from_key(key).ok_or_else(|| {
                    let message =
                        format!("{key:?} is neither a lacquer like RD nor a share like BK 30");
                    Refusal::new(at("over"), message)
                })?),
            },
        };
        let inside =
            |error: motilis_core::Error| Refusal::new(at(error.quantity()), error.to_string());
        let mut part = Part::new(what, self.size, finish).map_err(inside)?;
        if let Some(key) = &self.material {
            part = part.of(keyed(
                &at("material"),
                key,
                Material::from_key,
                Material::ALL.iter().map(|material| material.key()),
            )?);
        }
        let metres = |length: Option<f64>| length.map(Metres);
        part.measured(Measured {
            length: metres(self.length_m),
            width: metres(self.width_m),
            thickness: metres(self.thickness_m),
            diameter: metres(self.diameter_m),
            bore: metres(self.bore_m),
            mass: self.mass_kg.map(Kilograms),
        })
        .map_err(inside)
    }

    fn piece(&self, path: &str) -> Result<Piece, Refusal> {
        Ok(Piece {
            part: self.part(path)?,
            count: self.count.unwrap_or(1),
            bend: self.bend,
            stock: self.id.map(PartId),
        })
    }
}

impl Request {
    pub(crate) fn stack(&self) -> Result<Stack, Refusal> {
        let kind = keyed(
            "kind",
            &self.kind,
            Kind::from_key,
            Kind::ALL.iter().map(|kind| kind.key()),
        )?;
        let mount = Mount::new(self.mount.part("mount")?, self.mount.id.map(PartId))?;
        let mut edits = Vec::new();
        for (at, piece) in self.pieces.iter().enumerate() {
            let piece = piece.piece(&format!("pieces[{at}]"))?;
            // The bend is set by an edit, which checks it.
            let bend = piece.bend;
            edits.push(Edit::Insert {
                at,
                piece: Piece {
                    bend: None,
                    ..piece
                },
            });
            edits.extend(bend.map(|bend| Edit::Bend { at, bend }));
        }
        let measures = [
            (Setting::Finished, self.finished_m),
            (Setting::Clearance, self.clearance_m),
            (Setting::HookSpacing, self.hook_spacing_m),
            (Setting::LoopDiameter, self.loop_diameter_m),
            (Setting::Wraps, self.wraps),
            (Setting::Tail, self.tail_m),
            (Setting::SnellWraps, self.snell_wraps),
        ];
        edits.extend(
            measures
                .into_iter()
                .filter_map(|(setting, value)| Some(Edit::Set(setting, value?))),
        );
        if let Some(key) = &self.front_knot {
            let knots = Knot::ALL.iter().map(|knot| knot.key());
            edits.push(Edit::Tie(keyed("front_knot", key, Knot::from_key, knots)?));
        }
        edits.extend(
            self.knot_use_m
                .map(|value| Edit::Set(Setting::KnotUse, value)),
        );
        edits.extend(self.skirt_m.map(|value| Edit::Set(Setting::Skirt, value)));
        if let Some(key) = &self.spacing {
            let schools = Spacing::ALL.iter().map(|spacing| spacing.key());
            edits.push(Edit::Follow(keyed(
                "spacing",
                key,
                Spacing::from_key,
                schools,
            )?));
        }
        let empty = Stack {
            build: Build::usual(kind),
            ..Stack::empty(kind, mount)
        };
        Ok(empty.edited_by(&edits)?)
    }
}

/// What a box holds.
pub(crate) fn stocked(parts: &[PartRequest]) -> Result<Vec<Stocked>, Refusal> {
    parts
        .iter()
        .enumerate()
        .map(|(at, part)| {
            let path = format!("box[{at}]");
            let left = part.left_count.unwrap_or(1.0);
            motilis_core::fields::LEFT
                .range
                .check(&format!("{path}.left_count"), left)?;
            Ok(Stocked {
                id: PartId(part.id.unwrap_or(at as i64 + 1)),
                part: part.part(&path)?,
                left,
            })
        })
        .collect()
}

pub(crate) fn piece_answer(piece: &Piece) -> PieceAnswer {
    let (part, style) = piece.part.what().keys();
    PieceAnswer {
        part,
        style,
        size: piece.part.size(),
        count: piece.count,
        id: piece.stock.map(|id| id.0),
    }
}

fn edit_answer(edit: &Edit) -> EditAnswer {
    let blank = |edit, at| EditAnswer {
        edit,
        at,
        to: None,
        pieces: Vec::new(),
        setting: None,
        value: None,
    };
    match edit {
        Edit::Insert { at, piece } => EditAnswer {
            pieces: vec![piece_answer(piece)],
            ..blank("insert", Some(*at))
        },
        Edit::Remove { at } => blank("remove", Some(*at)),
        Edit::Move { from, to } => EditAnswer {
            to: Some(*to),
            ..blank("move", Some(*from))
        },
        Edit::Replace { at, piece } => EditAnswer {
            pieces: vec![piece_answer(piece)],
            ..blank("replace", Some(*at))
        },
        Edit::Splice { from, to, pieces } => EditAnswer {
            to: Some(*to),
            pieces: pieces.iter().map(piece_answer).collect(),
            ..blank("splice", Some(*from))
        },
        Edit::Count { at, count } => EditAnswer {
            value: Some(f64::from(*count)),
            ..blank("count", Some(*at))
        },
        Edit::Bend { at, bend } => EditAnswer {
            value: Some(*bend),
            ..blank("bend", Some(*at))
        },
        Edit::Set(setting, value) => EditAnswer {
            setting: Some(setting.key()),
            value: Some(*value),
            ..blank("set", None)
        },
        Edit::Thread(_) => blank("thread", None),
        Edit::Tie(knot) => EditAnswer {
            setting: Some(knot.key()),
            ..blank("tie", None)
        },
        Edit::Follow(spacing) => EditAnswer {
            setting: Some(spacing.key()),
            ..blank("follow", None)
        },
    }
}

fn check_answer(check: &Check) -> CheckAnswer {
    CheckAnswer {
        check: check.rule.key(),
        level: check.level.key(),
        piece: check.at,
        figures: check.rule.figures().into_iter().collect(),
        mends: check
            .mends
            .iter()
            .map(|edits| edits.iter().map(edit_answer).collect())
            .collect(),
    }
}

fn step_answer(step: &Step) -> StepAnswer {
    StepAnswer {
        action: step.action.key(),
        piece: step.action.piece(),
        measure_m: step.action.measure().map(|measure| measure.0),
        tool: step.tool.key(),
        caution: step.caution.map(motilis_core::bench::Caution::key),
    }
}

/// Answers one request.
///
/// # Errors
/// [`Refusal`] with the field.
#[utoipa::path(post, path = "/api/v1/solve/rig", tag = "solve", request_body = Request, responses(
    (status = 200, description = "Geometry, checks with mends, cut lengths, steps", body = Answer),
    (status = 422, description = "The field that is wrong, and why", body = Refused),
))]
pub fn solve(request: Request) -> Result<Answer, Refusal> {
    let stack = request.stack()?;
    let Checked {
        layout,
        cut,
        figures,
        checks,
    } = checks(&stack, &stocked(&request.stock)?);
    let lengths = |lengths: &[Metres]| lengths.iter().map(|length| length.0).collect();
    Ok(Answer {
        name: request.name,
        seats: layout
            .seats
            .iter()
            .map(|seat| SeatAnswer {
                piece: seat.piece,
                nth: seat.nth,
                from_m: seat.from.0,
                to_m: seat.to.0,
            })
            .collect(),
        stack_m: layout.stack_length().0,
        overall_m: layout.overall().0,
        tip_clearance_m: layout.tip_clearance(&stack).map(|clearance| clearance.0),
        cut: CutAnswer {
            whole_m: cut.whole.0,
            straight_m: cut.straight.0,
            eyes_m: lengths(&cut.eyes),
            snells_m: lengths(&cut.snells),
            between_hooks_m: cut.between_hooks.0,
            knot_m: cut.knot.0,
        },
        figures: FiguresAnswer {
            mass_kg: figures.mass.0,
            submerged_weight_n: figures.submerged_weight.0,
            centre_of_mass_m: figures.centre_of_mass.0,
            centre_of_drag_m: figures.centre_of_drag.0,
            sink_mps: figures.sink_speed.0,
            start_mps: figures.running.map(|running| running.at_speed.start.0),
            roll_over_mps: figures
                .running
                .and_then(|running| running.at_speed.roll_over)
                .map(|speed| speed.0),
            drag_area_m2: figures.running.map(|running| running.drag_area.0),
        },
        checks: checks.iter().map(check_answer).collect(),
        steps: steps(&stack).iter().map(step_answer).collect(),
    })
}
