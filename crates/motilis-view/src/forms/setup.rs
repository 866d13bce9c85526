//! A line set-up: what a rod is rigged with, every depth tool among it.

use super::{Texts, Typed, base, merge, overtaken, problem, text};
use crate::screens::{Choice, Field, SetupForm, SetupGroup};
use crate::seen::Device;
use crate::units::{Problem, Quantity, System};
use motilis_core::book::plain_text;
use motilis_core::fields;
use motilis_core::line::{Core, LineSetup, Start};
use motilis_core::tackle::{
    DiverSize, LineMaterial, LineStock, ReleaseHole, SideSetting, SinkerStyle, Weight,
    WeightMaterial,
};
use motilis_core::units::{Kilograms, Metres};
use serde::Deserialize;

/// A set-up as typed.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
struct RawSetup {
    name: String,
    start: String,
    tip: String,
    ball: String,
    drop_back: String,
    above: String,
    main: String,
    reel: String,
    core: String,
    core_length: String,
    weight: String,
    mass: String,
    material: String,
    size: String,
    side: String,
    #[serde(default)]
    hole: String,
    ahead: String,
    leader: String,
    lead: String,
}

/// The figures of a set-up, each read only where it counts.
struct Fields {
    name: Field,
    tip: Typed,
    ball: Typed,
    drop_back: Typed,
    above: Typed,
    reel: Typed,
    core: Typed,
    mass: Typed,
    ahead: Typed,
    lead: Typed,
}

impl Fields {
    fn new(raw: &RawSetup, system: System) -> Self {
        let depth =
            |asked, label, typed: &str| Typed::new(asked, label, (Quantity::Depth, system), typed);
        let mass =
            |asked, label, typed: &str| Typed::new(asked, label, (Quantity::Mass, system), typed);
        // `weight` is what hangs there; this is how heavy.
        let heavy = fields::Field {
            form: "mass",
            ..fields::WEIGHT
        };
        Self {
            name: text("name", "Name", raw.name.trim()),
            tip: depth(fields::TIP, "Tip above the water", &raw.tip),
            ball: mass(fields::BALL, "Ball", &raw.ball),
            drop_back: depth(fields::DROP_BACK, "Line behind the release", &raw.drop_back),
            above: depth(fields::ABOVE, "Release above the ball", &raw.above),
            reel: depth(fields::REEL, "Line on the reel", &raw.reel),
            core: depth(fields::CORE, "Length of it", &raw.core_length),
            mass: mass(heavy, "Weight", &raw.mass),
            ahead: depth(fields::AHEAD, "Line ahead of the leader", &raw.ahead),
            lead: depth(fields::LEAD, "Lead", &raw.lead),
        }
    }

    fn filled(setup: &LineSetup, system: System) -> Self {
        let mut fields = Self::new(
            &RawSetup {
                name: setup.name.clone(),
                ..RawSetup::default()
            },
            system,
        );
        match setup.start {
            Start::RodTip { height } => fields.tip.fill(height.0),
            Start::Board => {}
            Start::Downrigger {
                ball,
                drop_back,
                above,
            } => {
                fields.ball.fill(ball.0);
                fields.drop_back.fill(drop_back.0);
                fields.above.fill(above.0);
            }
        }
        if let Some(core) = setup.core {
            fields.core.fill(core.length.0);
        }
        if let Some(mass) = setup.weight.and_then(|weight| weight.mass()) {
            fields.mass.fill(mass.0);
        }
        fields.ahead.fill(setup.ahead.0);
        fields.lead.fill(setup.lead.0);
        fields.reel.fill(setup.reel.0);
        fields
    }

    fn sound(&self) -> bool {
        let typed = [
            &self.tip,
            &self.ball,
            &self.drop_back,
            &self.above,
            &self.reel,
            &self.core,
            &self.mass,
            &self.ahead,
            &self.lead,
        ];
        self.name.problem.is_none() && typed.iter().all(|one| one.field.problem.is_none())
    }
}

/// A line of the catalogue as a form names it.
fn spool(stock: &LineStock) -> String {
    format!("{}-{}", stock.material.key(), stock.test_lb)
}

pub(super) fn stock(key: &str) -> Option<LineStock> {
    LineStock::catalogue().find(|stock| spool(stock) == key)
}

pub(super) fn spools(
    chosen: &str,
    is_one: impl Fn(LineMaterial) -> bool,
    none: Option<&str>,
) -> Vec<Choice> {
    let nothing = none.map(|label| Choice {
        value: String::new(),
        label: label.to_owned(),
        chosen: chosen.is_empty(),
    });
    let all = LineStock::catalogue().filter(|stock| is_one(stock.material));
    nothing
        .into_iter()
        .chain(all.map(|stock| Choice {
            value: spool(&stock),
            label: format!("{} lb {}", stock.test_lb, stock.material.name()),
            chosen: spool(&stock) == chosen,
        }))
        .collect()
}

/// What the lists of a set-up say.
fn lists_of(setup: &LineSetup) -> RawSetup {
    let (material, size, side, hole) = match setup.weight {
        Some(Weight::Sinker(_, _, material)) => (material.key(), "", "", ""),
        Some(Weight::TripDiver(size, side, hole)) => ("", size.key(), side.key(), hole.key()),
        Some(Weight::FloatDiver(size)) => ("", size.key(), "", ""),
        None => ("", "", "", ""),
    };
    RawSetup {
        start: match setup.start {
            Start::RodTip { .. } => "rod_tip",
            Start::Board => "board",
            Start::Downrigger { .. } => "downrigger",
        }
        .into(),
        main: spool(&setup.main),
        leader: spool(&setup.leader),
        core: setup
            .core
            .map_or_else(String::new, |core| spool(&core.stock)),
        weight: setup
            .weight
            .map_or_else(String::new, |weight| weight.key().to_owned()),
        material: material.into(),
        size: size.into(),
        side: side.into(),
        hole: hole.into(),
        ..RawSetup::default()
    }
}

type List = (&'static str, &'static str, Vec<Choice>);

fn group(
    head: &'static str,
    hint: &'static str,
    lists: Vec<List>,
    fields: Vec<Typed>,
) -> SetupGroup {
    SetupGroup {
        head,
        hint,
        lists,
        fields: fields.into_iter().map(|typed| typed.field).collect(),
    }
}

/// Tools, materials, sizes and side settings.
fn tool_lists(raw: &RawSetup) -> Vec<List> {
    let named = |key: &'static str| {
        let name = SinkerStyle::from_key(key)
            .map_or_else(|| key.replace('_', " "), |style| style.name().to_owned());
        (key, name)
    };
    let tools: Vec<(&str, String)> = std::iter::once(("", "none".to_owned()))
        .chain(Weight::keys().map(named))
        .collect();
    let tools = tools.iter().map(|(key, name)| (*key, name.as_str()));
    let materials = WeightMaterial::ALL
        .iter()
        .map(|one| (one.key(), one.name()));
    let sizes = DiverSize::ALL.iter().map(|one| (one.key(), one.name()));
    let sides = SideSetting::ALL.iter().map(|one| (one.key(), one.name()));
    let holes = ReleaseHole::ALL.iter().map(|one| (one.key(), one.name()));
    vec![
        ("weight", "Tool", Choice::list(tools, &raw.weight)),
        (
            "material",
            "Made of",
            Choice::list(materials, &raw.material),
        ),
        ("size", "Size of a diver", Choice::list(sizes, &raw.size)),
        ("side", "Turned out", Choice::list(sides, &raw.side)),
        ("hole", "Release", Choice::list(holes, &raw.hole)),
    ]
}

fn form(
    action: String,
    head: String,
    raw: &RawSetup,
    fields: Fields,
    problem: String,
) -> SetupForm {
    let starts = [
        ("rod_tip", "a rod tip"),
        ("board", "a board"),
        ("downrigger", "a downrigger"),
    ];
    let sinks = |one| matches!(one, LineMaterial::LeadCore | LineMaterial::Copper);
    let leads = |one| {
        matches!(
            one,
            LineMaterial::Nylon | LineMaterial::Fluorocarbon | LineMaterial::Braid
        )
    };
    let main = spools(&raw.main, |_| true, None);
    let core = spools(&raw.core, sinks, Some("none"));
    let leader = spools(&raw.leader, leads, None);
    let starts = ("start", "Starts from", Choice::list(starts, &raw.start));
    let name = SetupGroup {
        head: "Name",
        hint: "",
        lists: Vec::new(),
        fields: vec![fields.name],
    };
    let groups = vec![
        name,
        group("Where it starts", "", vec![starts], vec![fields.tip]),
        group(
            "Downrigger",
            "counts only with one; stacked releases stand above the ball",
            Vec::new(),
            vec![fields.ball, fields.drop_back, fields.above],
        ),
        group(
            "Main line",
            "",
            vec![("main", "Main line", main)],
            vec![fields.reel],
        ),
        group(
            "Sinking section",
            "between leader and main line, which is then its backing",
            vec![("core", "Core", core)],
            vec![fields.core],
        ),
        group(
            "What takes it down",
            "material and weight for sinkers, size for divers, side setting and release hole for trip divers",
            tool_lists(raw),
            vec![fields.mass, fields.ahead],
        ),
        group(
            "Leader",
            "",
            vec![("leader", "Leader", leader)],
            vec![fields.lead],
        ),
    ];
    SetupForm {
        action,
        head,
        groups,
        problem,
        base: String::new(),
    }
}

/// A form filled in with a set-up.
pub fn shown(setup: &LineSetup, action: String, head: String, device: Device) -> SetupForm {
    let fields = Fields::filled(setup, device.system);
    let mut form = form(action, head, &lists_of(setup), fields, String::new());
    form.base = base(&texts_of(&form));
    form
}

/// The form as it would be typed.
fn texts_of(form: &SetupForm) -> Texts {
    let mut texts = Texts::new();
    for group in &form.groups {
        for (name, _, list) in &group.lists {
            let chosen = list.iter().find(|choice| choice.chosen).or(list.first());
            let value = chosen
                .map(|choice| choice.value.clone())
                .unwrap_or_default();
            texts.insert((*name).to_owned(), value);
        }
        let fields = group.fields.iter();
        texts.extend(fields.map(|field| (field.name.to_owned(), field.value.clone())));
    }
    texts
}

/// A set-up as it was typed, held against the one that is kept.
///
/// # Errors
/// The form as it was typed, with a sentence beside each field that cannot be.
pub fn read(
    sent: &Texts,
    shown_before: Option<&str>,
    kept: Option<&LineSetup>,
    (action, head): (String, String),
    device: Device,
) -> Result<LineSetup, Box<SetupForm>> {
    let now = kept.map(|kept| shown(kept, String::new(), String::new(), device));
    let now_texts = now.as_ref().map(texts_of).unwrap_or_default();
    let merged = match now {
        Some(_) => merge(sent, shown_before, &now_texts),
        None => merge(sent, None, sent),
    };
    let raw: RawSetup = super::typed(&merged.texts).unwrap_or_default();
    let refused = match (typed(&raw, device.system), merged.conflicts.first()) {
        (Ok(setup), None) => return Ok(exactly(setup, kept, &merged.texts, &now_texts)),
        (Ok(_), Some((name, theirs))) => {
            let fields = Fields::new(&raw, device.system);
            (fields, overtaken(label_of(name), theirs).0)
        }
        (Err(refused), _) => *refused,
    };
    let mut form = form(action, head, &raw, refused.0, refused.1);
    form.base = base(&now_texts);
    Err(Box::new(form))
}

fn label_of(name: &str) -> &'static str {
    match name {
        "name" => "Name",
        "lead" => "Lead",
        "reel" => "Line on the reel",
        "mass" => "Weight",
        _ => "A figure or list",
    }
}

/// Figures that were left alone stay as they are kept, not as they were rounded for the page.
fn exactly(typed: LineSetup, kept: Option<&LineSetup>, sent: &Texts, shown: &Texts) -> LineSetup {
    let Some(kept) = kept else { return typed };
    let same = |name: &str| sent.get(name) == shown.get(name);
    let all = |names: &[&str]| names.iter().all(|name| same(name));
    LineSetup {
        start: if all(&["start", "tip", "ball", "drop_back", "above"]) {
            kept.start
        } else {
            typed.start
        },
        core: if all(&["core", "core_length"]) {
            kept.core
        } else {
            typed.core
        },
        weight: if all(&["weight", "mass", "material", "size", "side", "hole"]) {
            kept.weight
        } else {
            typed.weight
        },
        ahead: if same("ahead") {
            kept.ahead
        } else {
            typed.ahead
        },
        lead: if same("lead") { kept.lead } else { typed.lead },
        reel: if same("reel") { kept.reel } else { typed.reel },
        main: if same("main") { kept.main } else { typed.main },
        leader: if same("leader") {
            kept.leader
        } else {
            typed.leader
        },
        ..typed
    }
}

/// What was typed as a set-up; or its fields with their sentences.
fn typed(raw: &RawSetup, system: System) -> Result<LineSetup, Box<(Fields, String)>> {
    let mut fields = Fields::new(raw, system);
    if raw.name.trim().is_empty() {
        fields.name.problem = Some(Problem("A set-up needs a name; give the rod's.".into()));
    } else if let Err(error) = plain_text("name", raw.name.trim(), 60) {
        fields.name.problem = Some(problem(&error));
    }
    let start = match raw.start.as_str() {
        "board" => Start::Board,
        "downrigger" => Start::Downrigger {
            ball: Kilograms(fields.ball.or(4.5)),
            drop_back: Metres(fields.drop_back.or(6.0)),
            above: Metres(fields.above.optional().unwrap_or(0.0)),
        },
        _ => Start::RodTip {
            height: Metres(fields.tip.or(1.5)),
        },
    };
    let mut trouble = String::new();
    let mut list = |key: &str, what: &str| {
        let found = stock(key);
        if found.is_none() {
            trouble = format!("Choose the {what} from the list.");
        }
        found
    };
    let (main, leader) = (list(&raw.main, "main line"), list(&raw.leader, "leader"));
    let core = stock(&raw.core).map(|stock| Core {
        stock,
        length: Metres(fields.core.or(27.4)),
    });
    let size = DiverSize::from_key(&raw.size).unwrap_or(DiverSize::Medium);
    let weight = match raw.weight.as_str() {
        "trip_diver" => Some(Weight::TripDiver(
            size,
            SideSetting::from_key(&raw.side).unwrap_or(SideSetting::Straight),
            ReleaseHole::from_key(&raw.hole).unwrap_or(ReleaseHole::Middle),
        )),
        "float_diver" => Some(Weight::FloatDiver(size)),
        key => SinkerStyle::from_key(key).map(|style| {
            let material = WeightMaterial::from_key(&raw.material).unwrap_or(WeightMaterial::Lead);
            Weight::Sinker(style, Kilograms(fields.mass.or(0.03)), material)
        }),
    };
    let ahead = Metres(fields.ahead.optional().unwrap_or(0.0));
    let (lead, reel) = (Metres(fields.lead.or(1.5)), Metres(fields.reel.or(90.0)));
    if let (Some(main), Some(leader), true) = (main, leader, fields.sound()) {
        let setup = LineSetup {
            name: raw.name.trim().to_owned(),
            start,
            main,
            core,
            weight,
            ahead,
            leader,
            lead,
            strum: motilis_core::towline::STRUM,
            learned: motilis_core::line::Learned::default(),
            reel,
        };
        match setup.check() {
            Ok(()) => return Ok(setup),
            Err(error) => trouble = problem(&error).0,
        }
    }
    Err(Box::new((fields, trouble)))
}
