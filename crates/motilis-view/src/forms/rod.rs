//! The line in hand: its fields, and what is made of them.

use super::{Texts, Typed, base, merge, overtaken, problem};
use crate::present::{Computed, SpreadShown as Shown, choices};
use crate::screens::listed;
use crate::screens::{Choice, Editor};
use crate::seen::Seen;
use crate::units::{Problem, Quantity, System};
use crate::words::spread as say;
use motilis_core::book::{LureId, PlannedRod, PlannedSpread, RigId, SetupId, Tackle};
use motilis_core::fields;
use motilis_core::line::{LineSetup, Start};
use motilis_core::spread::{Holder, SetOut, Stance, Towed};
use motilis_core::units::{Kilograms, Metres, MetresPerSecond};
use motilis_helm::{Deck, Error, planned};
use serde::Deserialize;

/// The form as it was sent.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub struct RawLine {
    /// Speed looked at.
    pub speed: String,
    tackle: String,
    setup: String,
    holder: String,
    stance: String,
    rod: String,
    board: String,
    above: String,
    weight: String,
    lead: String,
    out: String,
    wanted: String,
    /// Which button was pressed: `save`, `depth` or `remove`.
    pub act: String,
}

/// The fields of a line.
struct Fields {
    rod: Typed,
    board: Option<Typed>,
    above: Option<Typed>,
    weight: Option<Typed>,
    lead: Typed,
    out: Typed,
    wanted: Typed,
}

impl Fields {
    fn new(setup: &LineSetup, system: System, typed: &dyn Fn(&str) -> String) -> Self {
        let field = |asked: fields::Field, label, quantity| {
            Typed::new(asked, label, (quantity, system), &typed(asked.form))
        };
        let rigger = setup.lets_out_cable();
        let depth = Quantity::Depth;
        Self {
            rod: field(fields::ROD, "Rod length", depth),
            board: (setup.start == Start::Board)
                .then(|| field(fields::BOARD, "Board from the boat", depth)),
            above: rigger.then(|| field(fields::ABOVE, "Release above the ball", depth)),
            weight: setup
                .weight
                .and_then(|weight| weight.mass())
                .map(|_| field(fields::WEIGHT, "Weight", Quantity::Mass)),
            lead: field(fields::LEAD, "Lead", depth),
            out: field(
                fields::OUT,
                if rigger { "Cable out" } else { "Line out" },
                depth,
            ),
            wanted: field(fields::WANTED, "Rig wanted at", depth),
        }
    }

    fn fill(&mut self, rod: &PlannedRod) {
        self.rod.fill(rod.length.0);
        if let (Some(field), Some(board)) = (&mut self.board, rod.board) {
            field.fill(board.0);
        }
        if let (Some(field), Some(above)) = (&mut self.above, rod.above) {
            field.fill(above.0);
        }
        if let (Some(field), Some(mass)) = (&mut self.weight, rod.weight) {
            field.fill(mass.0);
        }
        self.lead.fill(rod.lead.0);
        self.out.fill(rod.out.0);
        self.wanted.fill(rod.wanted.0);
    }

    /// Reads what was typed into a rod; what cannot be read stays as it was kept.
    fn read_into(&mut self, rod: &mut PlannedRod, kept: &PlannedRod) {
        // What was left alone is not rounded by having been shown.
        let figure = |field: &mut Typed, kept: f64| {
            let typed = field.or(kept);
            field.unless_shown(kept, typed)
        };
        let metres = |length: Option<Metres>, usual: f64| length.map_or(usual, |length| length.0);
        let (board, above) = (metres(kept.board, 18.0), metres(kept.above, 0.0));
        let mass = kept.weight.map_or(0.03, |mass| mass.0);
        rod.length = Metres(figure(&mut self.rod, kept.length.0));
        rod.board = self
            .board
            .as_mut()
            .map(|field| Metres(figure(field, board)));
        rod.above = self
            .above
            .as_mut()
            .map(|field| Metres(figure(field, above)));
        rod.weight = self
            .weight
            .as_mut()
            .map(|field| Kilograms(figure(field, mass)));
        rod.lead = Metres(figure(&mut self.lead, kept.lead.0));
        rod.out = Metres(figure(&mut self.out, kept.out.0));
        rod.wanted = Metres(figure(&mut self.wanted, kept.wanted.0));
    }

    fn sound(&mut self) -> bool {
        self.all().iter().all(|typed| typed.field.problem.is_none())
    }

    /// Puts what keeps the line from running beside its field; what has none is said above the page.
    fn blame(&mut self, error: &motilis_core::Error) -> Option<String> {
        let sentence = problem(error);
        let field = match (error.quantity(), &mut self.board) {
            ("setup.lead_m", _) => &mut self.lead,
            ("board_m", Some(board)) => board,
            // A setback shorter than the piece in the air is this line's own fault.
            _ if blamed(error) => &mut self.out,
            _ => return Some(sentence.0),
        };
        field.field.problem = Some(sentence);
        None
    }

    fn all(&mut self) -> Vec<&mut Typed> {
        let mut all = vec![&mut self.wanted, &mut self.out, &mut self.lead];
        all.extend(&mut self.weight);
        all.extend(&mut self.board);
        all.extend(&mut self.above);
        all.push(&mut self.rod);
        all
    }
}

/// Whether what keeps a line from running lies in its own setback, lead or board.
pub(crate) fn blamed(error: &motilis_core::Error) -> bool {
    !matches!(error.quantity(), "parts" | "holder") && !error.quantity().starts_with("setup.")
}

/// The editor of a line as it is kept.
pub(crate) fn editor(
    deck: &Seen<Deck<'_, '_>>,
    computed: &Computed,
    line: usize,
) -> Result<Editor, Error> {
    let rod = &deck.saved.plan.rods[line];
    let mut editor = kept(deck, line, rod)?;
    editor.facts = facts(deck, computed, line);
    Ok(editor)
}

/// The editor of a rod as it is kept, without facts.
fn kept(deck: &Seen<Deck<'_, '_>>, line: usize, rod: &PlannedRod) -> Result<Editor, Error> {
    let setup = deck.setup(rod.setup)?;
    let mut fields = Fields::new(&setup, deck.device.system, &|_| String::new());
    fields.fill(rod);
    bare(deck, line, rod, fields)
}

/// A rod as its form would be typed.
fn texts_of(editor: &Editor) -> Texts {
    let lists = [
        ("holder", &editor.holder),
        ("stance", &editor.stance),
        ("tackle", &editor.tackle),
        ("setup", &editor.setup),
    ];
    let mut texts: Texts = lists
        .into_iter()
        .map(|(name, list)| {
            let chosen = list.iter().find(|choice| choice.chosen);
            let value = chosen.map(|choice| choice.value.clone());
            (name.to_owned(), value.unwrap_or_default())
        })
        .collect();
    let fields = editor.fields.iter();
    texts.extend(fields.map(|field| (field.name.to_owned(), field.value.clone())));
    texts
}

fn bare(
    deck: &Seen<Deck<'_, '_>>,
    line: usize,
    rod: &PlannedRod,
    mut fields: Fields,
) -> Result<Editor, Error> {
    let choice = |value: String, label: String, chosen| Choice {
        value,
        label,
        chosen,
    };
    let rigs = deck.rigs.iter().map(|(id, rig)| {
        choice(
            format!("rig-{}", id.0),
            rig.name.clone(),
            rod.tackle == Tackle::Rig(*id),
        )
    });
    let lures = deck.lures()?.iter().map(|(id, lure)| {
        choice(
            format!("lure-{}", id.0),
            format!("{} (dive table)", lure.name),
            rod.tackle == Tackle::Lure(*id),
        )
    });
    let mut tackle: Vec<Choice> = listed(rigs.collect());
    tackle.extend(lures);
    let title = deck.towed(rod.tackle)?.name().to_owned();
    if tackle.iter().all(|choice| !choice.chosen) {
        // What cannot run or was thrown away is still on this line.
        let value = match rod.tackle {
            Tackle::Rig(id) => format!("rig-{}", id.0),
            Tackle::Lure(id) => format!("lure-{}", id.0),
        };
        tackle.insert(0, choice(value, format!("{title} (cannot run)"), true));
    }
    let mut setups = choices(
        deck.setups()?
            .iter()
            .map(|(id, setup)| (id.0, setup.name.as_str())),
        Some(rod.setup.0),
    );
    if setups.iter().all(|choice| !choice.chosen) {
        let name = format!("{} (thrown away)", deck.setup(rod.setup)?.name);
        setups.insert(0, choice(rod.setup.0.to_string(), name, true));
    }
    Ok(Editor {
        number: line + 1,
        title,
        holder: Holder::all()
            .map(|holder| {
                let taken = deck
                    .saved
                    .plan
                    .rods
                    .iter()
                    .position(|other| other.holder == holder)
                    .filter(|other| *other != line);
                let label = taken.map_or_else(
                    || holder.to_string(),
                    |other| format!("{holder}, line {}", other + 1),
                );
                choice(holder.to_string(), label, holder == rod.holder)
            })
            .collect(),
        stance: Choice::list(
            Stance::ALL
                .iter()
                .map(|stance| (stance.key(), stance.name())),
            rod.stance.key(),
        ),
        tackle,
        setup: setups,
        fields: fields
            .all()
            .into_iter()
            .map(|typed| typed.field.clone())
            .collect(),
        facts: Vec::new(),
        bench: match rod.tackle {
            Tackle::Rig(id) => Some(id.0),
            Tackle::Lure(_) => None,
        },
    })
}

fn facts(
    deck: &Seen<Deck<'_, '_>>,
    computed: &Computed,
    line: usize,
) -> Vec<(&'static str, String)> {
    use motilis_core::line::Bottom;
    let system = deck.device.system;
    let depth = |metres: Metres| system.depth(metres).to_string();
    let rod = &computed.spread.rods[line];
    let runs = &computed.running.lines[line];
    let mut facts = vec![
        ("Runs at", depth(runs.depth(deck.surroundings.bottom))),
        ("Back from the stern", depth(Metres(runs.rig[0]))),
        ("Let out", say::out(rod, system)),
        ("Goes down with", say::tool(rod, system)),
    ];
    match runs.bottom {
        Bottom::Clear(by) => facts.push(("Over the bottom", depth(by))),
        Bottom::Dragging { touching, .. } => {
            facts.push(("Just touches with", depth(touching)));
        }
        Bottom::Unknown => {}
    }
    if let Some(blade) = runs.blade {
        let turns = crate::words::turns_a_minute(blade.turns);
        facts.push((crate::words::beats(blade.state), turns));
    }
    if let Some(lag) = runs.lag {
        facts.push(("Board trails the tip by", depth(lag)));
    }
    if let (Some(weight), true) = (runs.weight, runs.weight.is_some_and(|at| at[1].abs() > 0.5)) {
        let aside = Metres((weight[1] - runs.entry[1]).abs());
        if aside.0 > 0.3 {
            facts.push(("Diver runs out by", depth(aside)));
        }
    }
    if let Towed::Rig(rig) = &rod.towed
        && !rig.learned().is_empty()
    {
        facts.push(("Blade", "calibrated by your dunk tests".into()));
    }
    facts
}

/// The rod as the lists of the form have it; its figures are still the ones kept.
fn chosen(
    deck: &Seen<Deck<'_, '_>>,
    kept: &PlannedRod,
    raw: &RawLine,
) -> Result<PlannedRod, Error> {
    let none = |what: &str| Error::Missing(format!("such {what}; choose one of the list"));
    let number = |prefix: &str| raw.tackle.strip_prefix(prefix)?.parse().ok();
    let tackle = match (number("rig-"), number("lure-")) {
        (Some(rig), _) => Tackle::Rig(RigId(rig)),
        (_, Some(lure)) => Tackle::Lure(LureId(lure)),
        _ => return Err(none("rig")),
    };
    deck.towed(tackle)?;
    Ok(PlannedRod {
        holder: Holder::from_key(&raw.holder).ok_or_else(|| none("holder"))?,
        stance: Stance::from_key(&raw.stance).ok_or_else(|| none("rod"))?,
        tackle,
        setup: SetupId(raw.setup.parse().map_err(|_| none("line set-up"))?),
        ..*kept
    })
}

impl RawLine {
    fn typed(&self, name: &str) -> String {
        match name {
            "rod" => &self.rod,
            "board" => &self.board,
            "above" => &self.above,
            "weight" => &self.weight,
            "lead" => &self.lead,
            "out" => &self.out,
            _ => &self.wanted,
        }
        .clone()
    }
}

/// The line of a form: the rod it is about now, and what the fields make of the plan; or the page as it was typed,
/// with its sentences.
///
/// - `seen`: the rod as somebody saw it when the form was shown; `line`: its place now.
///
/// # Errors
/// [`Error::Missing`] for tackle or a set-up that does not exist.
pub fn read(
    deck: &Seen<Deck<'_, '_>>,
    (seen, line): (&PlannedRod, usize),
    sent: &Texts,
) -> Result<Result<PlannedSpread, Box<Shown>>, Error> {
    let system = deck.device.system;
    let before = deck.saved.plan.rods[line];
    let was = base(&texts_of(&kept(deck, line, seen)?));
    let merged = merge(sent, Some(&was), &texts_of(&kept(deck, line, &before)?));
    let raw: RawLine = super::typed(&merged.texts).unwrap_or_default();
    let mut rod = chosen(deck, &before, &raw)?;
    let setup = deck.setup(rod.setup)?;
    let mut fields = Fields::new(&setup, system, &|name| raw.typed(name));
    if rod.setup != before.setup {
        // Another set-up begins with its own figures.
        let usual = planned(rod.holder, RigId(0), rod.setup, &setup);
        rod = PlannedRod {
            board: before.board.or(usual.board),
            above: usual.above,
            weight: usual.weight,
            lead: usual.lead,
            ..rod
        };
        fields = Fields::new(&setup, system, &|_| String::new());
        fields.fill(&rod);
    }
    fields.read_into(&mut rod, &before);
    let mut refusal = None;
    for (name, theirs) in &merged.conflicts {
        match fields
            .all()
            .into_iter()
            .find(|typed| typed.field.name == name)
        {
            Some(typed) => typed.field.problem = Some(overtaken(typed.field.label, theirs)),
            None => refusal = Some(overtaken("A list of this line", theirs).0),
        }
    }
    let mut plan = deck.saved.plan.clone();
    plan.rods[line] = rod;
    if fields.sound() && refusal.is_none() {
        let out = if raw.act == "depth" {
            for_depth(deck, &plan, line, &raw.speed)?
        } else {
            Ok(rod.out)
        };
        match out {
            Ok(out) => let_out(&mut plan, deck, line, out)?,
            Err(sentence) => fields.wanted.field.problem = Some(Problem(sentence)),
        }
    }
    if fields.sound() && refusal.is_none() {
        let running = deck.spread(&plan)?.running(&deck.surroundings, None)?;
        let refusals = running
            .lines
            .iter()
            .filter_map(|line| line.refused.as_ref());
        let crowded = refusals.clone().find(|why| why.quantity() == "holder");
        match crowded.or(running.lines[line].refused.as_ref()) {
            None => return Ok(Ok(plan)),
            Some(error) => refusal = fields.blame(error),
        }
    }
    Ok(Err(Box::new(Shown {
        refusal: refusal.or_else(|| Some("Nothing was changed: see the marked field.".to_owned())),
        editor: Some(bare(deck, line, &rod, fields)?),
        course: None,
    })))
}

/// Lets out on a line, and with it on all that hang on the same cable.
///
/// # Errors
/// [`Error::Store`].
pub fn let_out(
    plan: &mut PlannedSpread,
    deck: &Deck<'_, '_>,
    line: usize,
    out: Metres,
) -> Result<(), Error> {
    let spread = deck.spread(plan)?;
    for other in 0..plan.rods.len() {
        if other == line || spread.share_a_cable(line, other) {
            plan.rods[other].out = out;
        }
    }
    Ok(())
}

/// What must be out for the wanted depth, or the sentence that says why not.
///
/// # Errors
/// [`Error::Store`].
pub fn for_depth(
    deck: &Seen<Deck<'_, '_>>,
    plan: &PlannedSpread,
    line: usize,
    speed: &str,
) -> Result<Result<Metres, String>, Error> {
    let system = deck.device.system;
    let mut spread = deck.spread(plan)?;
    let mut typed = Typed::new(fields::TOWED, "Speed", (Quantity::Speed, system), speed);
    if let Some(speed) = typed.optional().filter(|speed| *speed > 0.0) {
        spread.speed = MetresPerSecond(speed);
    }
    let depth = |metres: Metres| system.depth(metres).to_string();
    let answer = match spread.out_for(line, &deck.surroundings) {
        Ok(answer) => answer,
        Err(error) => return Ok(Err(problem(&error).0)),
    };
    Ok(match answer {
        SetOut::Out(out) => Ok(out),
        SetOut::BelowBottom { bottom } => Err(format!(
            "The bottom lies at {}; choose less.",
            depth(bottom)
        )),
        SetOut::TooShallow { least } => Err(format!(
            "It runs at {} or deeper; choose more, or go faster.",
            depth(least)
        )),
        SetOut::TooDeep { deepest, enough } => {
            let mend = enough.map_or_else(
                || "slow down or take another set-up".to_owned(),
                |(mass, out)| {
                    format!(
                        "{} would do it with {} out",
                        system.mass_in_fractions(mass),
                        depth(out)
                    )
                },
            );
            Err(format!(
                "It runs no deeper than {}; {mend}.",
                depth(deepest)
            ))
        }
    })
}
