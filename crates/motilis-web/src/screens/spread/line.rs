//! The line in hand: its fields, and what is made of them.

use super::deck::Deck;
use super::view::{self, Computed, Shown, address};
use super::{Look, edit};
use crate::forms::{Typed, problem};
use crate::screens::{page, see, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Form, Path};
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::Range;
use motilis_core::book::{
    LureId, PlannedRod, PlannedSpread, RigId, SetupId, SpreadId, Tackle, limits,
};
use motilis_core::line::{LEAD, LineSetup, MASS, Start};
use motilis_core::spread::{Holder, SetOut, Stance, Towed};
use motilis_core::units::{Kilograms, Metres, MetresPerSecond};
use motilis_store::spreads;
use motilis_view::screens::{Choice, Editor};
use motilis_view::units::{Problem, Quantity, System, show};
use motilis_view::words::spread as say;
use serde::Deserialize;

const ROD: Range = Range::closed(0.5, 6.0, "m", "between 0.5 and 6 m");
const BOARD: Range = Range::closed(2.0, 80.0, "m", "between 2 and 80 m");

/// The form as it was sent.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub(crate) struct RawLine {
    speed: String,
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
    act: String,
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
        let field = |name: &'static str, label, quantity, range| {
            Typed::new((name, label), (quantity, system), range, &typed(name))
        };
        let rigger = setup.lets_out_cable();
        let depth = Quantity::Depth;
        Self {
            rod: field("rod", "Rod length", depth, ROD),
            board: (setup.start == Start::Board)
                .then(|| field("board", "Board from the boat", depth, BOARD)),
            above: rigger.then(|| field("above", "Release above the ball", depth, LEAD)),
            weight: setup
                .weight
                .and_then(|weight| weight.mass())
                .map(|_| field("weight", "Weight", Quantity::Mass, MASS)),
            lead: field("lead", "Lead", depth, LEAD),
            out: field(
                "out",
                if rigger { "Cable out" } else { "Line out" },
                depth,
                limits::OUT,
            ),
            wanted: field("wanted", "Rig wanted at", depth, limits::DEPTH),
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
        rod.length = Metres(self.rod.or(kept.length.0));
        rod.board = self.board.as_mut().map(|field| Metres(field.or(18.0)));
        rod.above = self.above.as_mut().map(|field| Metres(field.or(0.0)));
        rod.weight = self.weight.as_mut().map(|field| Kilograms(field.or(0.03)));
        rod.lead = Metres(self.lead.or(kept.lead.0));
        rod.out = Metres(self.out.or(kept.out.0));
        rod.wanted = Metres(self.wanted.or(kept.wanted.0));
    }

    fn sound(&mut self) -> bool {
        self.all().iter().all(|typed| typed.field.problem.is_none())
    }

    /// Puts a refusal beside its field; what has none is said above the page.
    fn blame(&mut self, error: &motilis_core::Error) -> Option<String> {
        let sentence = problem(error);
        let field = error.quantity().rsplit('.').next().unwrap_or_default();
        match (field, &mut self.board) {
            ("lead_m", _) => self.lead.field.problem = Some(sentence),
            ("board_m", Some(board)) => board.field.problem = Some(sentence),
            _ => return Some(sentence.0),
        }
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

/// The editor of a line as it is kept.
pub(super) fn editor(deck: &Deck, computed: &Computed, line: usize) -> Result<Editor, Error> {
    let rod = &deck.saved.plan.rods[line];
    let setup = deck.setup(rod.setup)?;
    let mut fields = Fields::new(setup, deck.context.system, &|_| String::new());
    fields.fill(rod);
    let mut editor = bare(deck, line, rod, fields);
    editor.facts = facts(deck, computed, line);
    Ok(editor)
}

fn bare(deck: &Deck, line: usize, rod: &PlannedRod, mut fields: Fields) -> Editor {
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
    let lures = deck.lures.iter().map(|(id, lure)| {
        choice(
            format!("lure-{}", id.0),
            format!("{} (dive table)", lure.name),
            rod.tackle == Tackle::Lure(*id),
        )
    });
    Editor {
        number: line + 1,
        title: deck
            .towed(rod.tackle)
            .map(|towed| towed.name().to_owned())
            .unwrap_or_default(),
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
        tackle: rigs.chain(lures).collect(),
        setup: deck
            .setups
            .iter()
            .map(|(id, setup)| choice(id.0.to_string(), setup.name.clone(), *id == rod.setup))
            .collect(),
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
    }
}

fn facts(deck: &Deck, computed: &Computed, line: usize) -> Vec<(&'static str, String)> {
    use motilis_core::line::Bottom;
    let system = deck.context.system;
    let depth = |metres: Metres| show(Quantity::Depth, metres.0, system).to_string();
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
        let turns = motilis_view::words::turns_a_minute(blade.turns);
        facts.push(("Turns a minute", turns));
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

/// `POST /spread/{spread}/line/{line}`
pub(crate) async fn save(
    app: Data<App>,
    request: HttpRequest,
    path: Path<(i64, usize)>,
    form: Form<RawLine>,
) -> Result<HttpResponse, Error> {
    let ((id, number), raw, theme) = (path.into_inner(), form.into_inner(), theme_of(&request));
    let id = SpreadId(id);
    let answer = app
        .write(move |connection| {
            let deck = Deck::load(connection, id)?;
            let line = edit::line_of(&deck, number)?;
            let look = Look {
                speed: Some(raw.speed.clone()).filter(|speed| !speed.is_empty()),
                line: Some(number),
                ..Look::default()
            };
            if raw.act == "remove" {
                let mut plan = deck.saved.plan.clone();
                if plan.rods.len() == 1 {
                    let shown =
                        refused("This is the only line; add another before you take it in.");
                    return Ok(Err(view::screen(&deck, &look, theme, shown)?.0));
                }
                plan.rods.remove(line);
                spreads::save(connection, id, &plan)?;
                return Ok(Ok(format!("/spread/{}?said=taken-in", id.0)));
            }
            match read(&deck, line, &raw)? {
                Ok(plan) => {
                    if plan != deck.saved.plan {
                        spreads::save(connection, id, &plan)?;
                    }
                    Ok(Ok(address(&deck, &look, Some(number))))
                }
                Err(shown) => Ok::<_, Error>(Err(view::screen(&deck, &look, theme, *shown)?.0)),
            }
        })
        .await?;
    match answer {
        Ok(to) => Ok(see(&to)),
        Err(screen) => page(HttpResponse::UnprocessableEntity(), &screen),
    }
}

fn refused(sentence: &str) -> Shown {
    Shown {
        refusal: Some(sentence.to_owned()),
        ..Shown::default()
    }
}

/// The rod as the lists of the form have it; its figures are still the ones kept.
fn chosen(deck: &Deck, kept: &PlannedRod, raw: &RawLine) -> Result<PlannedRod, Error> {
    let none =
        |what: &str| Error::BadRequest(format!("there is no such {what}; choose one of the list"));
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

/// What the fields make of the plan; or the page as it was typed, with its sentences.
fn read(
    deck: &Deck,
    line: usize,
    raw: &RawLine,
) -> Result<Result<PlannedSpread, Box<Shown>>, Error> {
    let kept = deck.saved.plan.rods[line];
    let mut rod = chosen(deck, &kept, raw)?;
    let setup = deck.setup(rod.setup)?;
    let mut fields = Fields::new(setup, deck.context.system, &|name| raw.typed(name));
    if rod.setup != kept.setup {
        // Another set-up begins with its own figures.
        let usual = super::deck::planned(rod.holder, RigId(0), rod.setup, setup);
        rod = PlannedRod {
            board: kept.board.or(usual.board),
            above: usual.above,
            weight: usual.weight,
            lead: usual.lead,
            ..rod
        };
        fields = Fields::new(setup, deck.context.system, &|_| String::new());
        fields.fill(&rod);
    }
    fields.read_into(&mut rod, &kept);
    let mut plan = deck.saved.plan.clone();
    plan.rods[line] = rod;
    let mut refusal = None;
    if fields.sound() {
        let out = if raw.act == "depth" {
            for_depth(deck, &plan, line, &raw.speed)?
        } else {
            Ok(rod.out)
        };
        match out {
            Ok(out) => edit::let_out(&mut plan, deck, line, out)?,
            Err(sentence) => fields.wanted.field.problem = Some(Problem(sentence)),
        }
    }
    if fields.sound() {
        let running = deck.spread(&plan)?.running(&deck.surroundings, None);
        match running.map(|running| running.lines[line].refused.clone()) {
            Ok(None) => return Ok(Ok(plan)),
            // A setback shorter than the piece in the air is this line's own fault.
            Ok(Some(error)) => fields.out.field.problem = Some(problem(&error)),
            Err(error) => refusal = fields.blame(&error),
        }
    }
    Ok(Err(Box::new(Shown {
        refusal: refusal.or_else(|| Some("Nothing was changed: see the marked field.".to_owned())),
        editor: Some(bare(deck, line, &rod, fields)),
        course: None,
    })))
}

/// What must be out for the wanted depth, or the sentence that says why not.
pub(super) fn for_depth(
    deck: &Deck,
    plan: &PlannedSpread,
    line: usize,
    speed: &str,
) -> Result<Result<Metres, String>, Error> {
    let system = deck.context.system;
    let mut spread = deck.spread(plan)?;
    let mut typed = Typed::new(
        ("speed", "Speed"),
        (Quantity::Speed, system),
        limits::SPEED,
        speed,
    );
    if let Some(speed) = typed.optional().filter(|speed| *speed > 0.0) {
        spread.speed = MetresPerSecond(speed);
    }
    let depth = |metres: Metres| show(Quantity::Depth, metres.0, system).to_string();
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
                        say::mass(mass.0, system),
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
