//! What is done with a spread: each change is a version that can be taken back.

use super::spread::Named;
use super::{Nothing, follow, made, see};
use crate::app::{Outcome, Reading};
use crate::device::Sent;
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Path, Query};
use motilis_core::book::{PlannedRod, PlannedSpread, SpreadId, Tackle};
use motilis_core::fields;
use motilis_core::spread::{Holder, MOST_LINES, Mend};
use motilis_core::units::Metres;
use motilis_helm::{Act, Deck, SpreadAct};
use motilis_store::spreads;
use motilis_view::Seen;
use motilis_view::forms::look::Look;
use motilis_view::forms::rod::{self, for_depth, let_out};
use motilis_view::forms::{Texts, problem};
use motilis_view::present::{self, Computed, Scene, SpreadShown};
use motilis_view::screens::SpreadScreen;
use motilis_view::units::{Quantity, System};
use serde::Deserialize;
use std::sync::{Arc, OnceLock};

type Question<'b, 'c> = Seen<Deck<'b, 'c>>;

/// A plan as it shall be; or what to show instead.
type Planned = Result<PlannedSpread, SpreadShown>;

fn refused(sentence: impl Into<String>) -> SpreadShown {
    SpreadShown {
        refusal: Some(sentence.into()),
        ..SpreadShown::default()
    }
}

/// Keeps what `make` makes of the plan, or shows the spread with the sentence that says why not.
async fn change<T>(
    app: &App,
    sent: &Sent<T>,
    id: i64,
    look: Look,
    make: impl FnOnce(&Question<'_, '_>) -> Result<Planned, Error> + Send + 'static,
) -> Result<Outcome<SpreadScreen>, Error> {
    let (id, device) = (SpreadId(id), sent.device);
    app.act(&sent.borne, move |book| {
        let deck = Seen::new(Deck::load(book, id)?, device);
        Ok(match make(&deck)? {
            Ok(plan) => Reading::Act(Act::Spread(SpreadAct::Keep(id, plan))),
            Err(shown) => Reading::Page(present::spread(&deck, &look, shown)?.0),
        })
    })
    .await
}

/// The rod that a line number named when the page was shown, and its place now.
fn line_of(
    deck: &Deck<'_, '_>,
    number: usize,
    seen: Option<i64>,
) -> Result<(PlannedRod, usize), Error> {
    let rods = deck.rods_seen(seen)?;
    let rod = number
        .checked_sub(1)
        .and_then(|line| rods.get(line))
        .copied();
    let rod = rod.ok_or_else(|| {
        let lines = rods.len();
        Error::NotFound(format!(
            "there is no line {number}; this spread has {lines}"
        ))
    })?;
    let place = deck.place_of(&rod).ok_or_else(|| {
        Error::NotFound(format!(
            "line {number} was taken in meanwhile, on another page or device"
        ))
    })?;
    Ok((rod, place))
}

/// `POST /spread/{spread}/add`: one more rod in the next free holder, with a rig that is free.
pub(crate) async fn add(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let outcome = change(&app, &sent, *id, Look::default(), |deck| {
        let mut plan = deck.saved.plan.clone();
        if plan.rods.len() >= MOST_LINES {
            return Ok(Err(refused(format!(
                "A spread has at most {MOST_LINES} lines; take one in first."
            ))));
        }
        let taken: Vec<Holder> = plan.rods.iter().map(|rod| rod.holder).collect();
        // From the stern forwards, on both sides in turn.
        let mut holders: Vec<Holder> = Holder::all().collect();
        holders.sort_by_key(|holder| (holder.number, holder.side));
        let holder = holders.into_iter().find(|holder| !taken.contains(holder));
        let free = deck.free_rigs();
        let rig = free.first().or(deck.rigs.first()).map(|(id, _)| *id);
        let rod = match (holder, rig) {
            (Some(holder), Some(rig)) => deck.new_rod(holder, rig)?,
            _ => None,
        };
        let Some(rod) = rod else {
            return Ok(Err(refused(
                "There is no rig or no line set-up to put on; build one on the bench first.",
            )));
        };
        plan.rods.push(rod);
        Ok(Ok(plan))
    })
    .await?;
    let spread = *id;
    let number = app
        .ask(move |book| {
            Ok(spreads::get(book.connection(), SpreadId(spread))?
                .plan
                .rods
                .len())
        })
        .await?;
    follow(outcome, |_| {
        let look = Look {
            line: Some(number),
            said: "added".into(),
            ..Look::default()
        };
        look.address(spread)
    })
}

/// `POST /spread/{spread}/set`: every line for its own wanted depth; those that cannot are said.
pub(crate) async fn set_all(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let outcome = change(&app, &sent, *id, Look::default(), |deck| {
        let mut plan = deck.saved.plan.clone();
        let mut cannot = Vec::new();
        for line in 0..plan.rods.len() {
            match for_depth(deck, &plan, line, "")? {
                Ok(out) => let_out(&mut plan, deck, line, out)?,
                Err(sentence) => cannot.push(format!("Line {}: {sentence}", line + 1)),
            }
        }
        Ok(if cannot.is_empty() {
            Ok(plan)
        } else {
            Err(refused(format!(
                "Nothing was changed. {}",
                cannot.join(" ")
            )))
        })
    })
    .await?;
    follow(outcome, |_| format!("/spread/{id}?said=set"))
}

/// `POST /spread/{spread}/sort`: the boards in the order of practice.
pub(crate) async fn sort(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let outcome = change(&app, &sent, *id, Look::default(), |deck| {
        let computed = Computed::new(deck, deck.saved.plan.speed, None)?;
        let mut plan = deck.saved.plan.clone();
        for way in &computed.order.moves {
            plan.rods[way.rod].board = Some(way.board);
        }
        Ok(Ok(plan))
    })
    .await?;
    follow(outcome, |_| format!("/spread/{id}?said=sorted"))
}

/// A line and the holder it was dragged to.
#[derive(Debug, Clone, Deserialize)]
pub(crate) struct ToHolder {
    line: usize,
    holder: String,
}

/// `POST /spread/{spread}/holder`: a rod to another holder; one that stands there changes places with it.
pub(crate) async fn holder(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<ToHolder>,
) -> Result<HttpResponse, Error> {
    let (form, seen) = (sent.form.clone(), sent.borne.seen);
    let outcome = change(&app, &sent, *id, Look::default(), move |deck| {
        let (_, line) = line_of(deck, form.line, seen)?;
        let Some(holder) = Holder::from_key(&form.holder) else {
            return Ok(Err(refused(
                "There is no such holder; drop the rod on one of the row.",
            )));
        };
        let mut plan = deck.saved.plan.clone();
        let own = plan.rods[line].holder;
        if let Some(other) = plan.rods.iter().position(|rod| rod.holder == holder) {
            plan.rods[other].holder = own;
        }
        plan.rods[line].holder = holder;
        // Lines that come to hang on one cable have one length of it.
        let out = plan.rods[line].out;
        let_out(&mut plan, deck, line, out)?;
        Ok(Ok(plan))
    })
    .await?;
    follow(outcome, |_| format!("/spread/{id}?line={}", sent.form.line))
}

/// A line and the depth its rig was dragged to, in the unit shown.
#[derive(Debug, Clone, Deserialize)]
pub(crate) struct ToDepth {
    line: usize,
    wanted: f64,
    #[serde(default)]
    speed: String,
}

/// `POST /spread/{spread}/depth`: the setback follows.
pub(crate) async fn to_depth(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<ToDepth>,
) -> Result<HttpResponse, Error> {
    let (form, seen) = (sent.form.clone(), sent.borne.seen);
    let look = Look {
        line: Some(form.line),
        speed: Some(form.speed.clone()).filter(|speed| !speed.is_empty()),
        ..Look::default()
    };
    let address = look.address(*id);
    let outcome = change(&app, &sent, *id, look, move |deck| {
        let (_, line) = line_of(deck, form.line, seen)?;
        let wanted = Quantity::Depth.unit(deck.device.system).to_si(form.wanted);
        if let Err(error) = fields::WANTED.check(wanted) {
            return Ok(Err(refused(problem(&error).0)));
        }
        let mut plan = deck.saved.plan.clone();
        plan.rods[line].wanted = Metres(wanted);
        Ok(match for_depth(deck, &plan, line, &form.speed)? {
            Ok(out) => {
                let_out(&mut plan, deck, line, out)?;
                Ok(plan)
            }
            Err(sentence) => Err(refused(format!("Line {}: {sentence}", form.line))),
        })
    })
    .await?;
    follow(outcome, |_| address)
}

/// The speed to keep.
#[derive(Debug, Clone, Deserialize)]
pub(crate) struct ToSpeed {
    to: String,
}

/// `POST /spread/{spread}/speed`
pub(crate) async fn keep_speed(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<ToSpeed>,
) -> Result<HttpResponse, Error> {
    let look = Look {
        speed: Some(sent.form.to.clone()),
        ..Look::default()
    };
    let outcome = change(&app, &sent, *id, Look::default(), move |deck| {
        let scene = Scene::read(&look, deck);
        if let Some(problem) = scene.speed.field.problem {
            return Ok(Err(refused(problem.0)));
        }
        let mut plan = deck.saved.plan.clone();
        plan.speed = scene.at;
        Ok(Ok(plan))
    })
    .await?;
    follow(outcome, |_| format!("/spread/{id}"))
}

/// Which line, and which of its mends.
#[derive(Debug, Clone, Deserialize)]
pub(crate) struct Which {
    at: usize,
    mend: usize,
}

/// `POST /spread/{spread}/mend?at=&mend=` with the scene in the form.
pub(crate) async fn mend(
    app: Data<App>,
    id: Path<i64>,
    which: Query<Which>,
    sent: Sent<Look>,
) -> Result<HttpResponse, Error> {
    let (which, seen) = (which.into_inner(), sent.borne.seen);
    let look = Look {
        step: String::new(),
        ..sent.form.clone()
    };
    let (kept, sent_look) = (look.clone(), look.clone());
    // Where to look afterwards, known once the mend is; a mend sent twice is not made twice and keeps what was sent.
    let after = Arc::new(OnceLock::new());
    let found = Arc::clone(&after);
    let outcome = change(&app, &sent, *id, look, move |deck| {
        let (_, line) = line_of(deck, which.at, seen)?;
        let scene = Scene::read(&kept, deck);
        let computed = Computed::new(deck, scene.at, scene.turn)?;
        let Some(mend) = computed.mends(deck, line)?.into_iter().nth(which.mend) else {
            return Ok(Err(refused(
                "That mend does not apply any more; look at the line as it runs now.",
            )));
        };
        found.get_or_init(|| looked_at(&mend, &kept, deck.device.system));
        mended(deck, line, mend)
    })
    .await?;
    follow(outcome, |_| {
        let mut next = after.get().unwrap_or(&sent_look).at_line(None);
        next.said = "mended".into();
        next.address(*id)
    })
}

/// Where to look once a mend is made: at the speed or in the turn that it sets.
fn looked_at(mend: &Mend, look: &Look, system: System) -> Look {
    match mend {
        Mend::Speed(_) => Look {
            speed: None,
            ..look.clone()
        },
        Mend::Radius(radius) => Look {
            radius: Some(system.depth(*radius).typed()),
            ..look.clone()
        },
        _ => look.clone(),
    }
}

/// The plan with a mend made on a line.
fn mended(deck: &Question<'_, '_>, line: usize, mend: Mend) -> Result<Planned, Error> {
    let mut plan = deck.saved.plan.clone();
    match mend {
        Mend::Speed(speed) => plan.speed = speed,
        Mend::Swap(number) => {
            let free = deck.free_rigs();
            let Some((rig, _)) = free.get(number) else {
                return Ok(Err(refused("That rig is not free any more.")));
            };
            plan.rods[line].tackle = Tackle::Rig(*rig);
        }
        Mend::Out(out) => let_out(&mut plan, deck, line, out)?,
        Mend::Board(board) => plan.rods[line].board = Some(board),
        Mend::Lead(lead) => plan.rods[line].lead = lead,
        Mend::Radius(_) => {}
        Mend::TakeIn => {
            plan.rods.remove(line);
        }
    }
    Ok(Ok(plan))
}

/// `POST /spread/{spread}/line/{line}`
pub(crate) async fn save_line(
    app: Data<App>,
    path: Path<(i64, usize)>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    let (id, number) = path.into_inner();
    let (form, seen) = (sent.form.clone(), sent.borne.seen);
    let text = |name: &str| form.get(name).cloned().unwrap_or_default();
    let removes = text("act") == "remove";
    let look = Look {
        speed: Some(text("speed")).filter(|speed| !speed.is_empty()),
        line: Some(number),
        ..Look::default()
    };
    let address = if removes {
        format!("/spread/{id}?said=taken-in")
    } else {
        look.address(id)
    };
    let outcome = change(&app, &sent, id, look, move |deck| {
        let (rod, line) = line_of(deck, number, seen)?;
        if !removes {
            return Ok(rod::read(deck, (&rod, line), &form)?.map_err(|shown| *shown));
        }
        let mut plan = deck.saved.plan.clone();
        if plan.rods.len() == 1 {
            return Ok(Err(refused(
                "This is the only line; add another before you take it in.",
            )));
        }
        plan.rods.remove(line);
        Ok(Ok(plan))
    })
    .await?;
    follow(outcome, |_| address)
}

async fn versions(app: &App, sent: &Sent<Nothing>, act: SpreadAct) -> Result<HttpResponse, Error> {
    let done = app.do_act(&sent.borne, Act::Spread(act)).await?;
    Ok(see(&format!("/spread/{}", made(done))))
}

/// `POST /spread/{spread}/undo`
pub(crate) async fn undo(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    versions(&app, &sent, SpreadAct::Undo(SpreadId(*id))).await
}

/// `POST /spread/{spread}/redo`
pub(crate) async fn redo(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    versions(&app, &sent, SpreadAct::Redo(SpreadId(*id))).await
}

/// `POST /spread/{spread}/duplicate`
pub(crate) async fn duplicate(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Nothing>,
) -> Result<HttpResponse, Error> {
    let id = SpreadId(*id);
    let outcome: Outcome<SpreadScreen> = app
        .act(&sent.borne, move |book| {
            let plan = spreads::get(book.connection(), id)?.plan;
            let name: String = plan.name.chars().take(50).collect();
            let act = SpreadAct::Duplicate(id, format!("{name}, copy"));
            Ok(Reading::Act(Act::Spread(act)))
        })
        .await?;
    follow(outcome, |done| format!("/spread/{}", made(done)))
}

/// `POST /spread/{spread}/rename`
pub(crate) async fn rename(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Named>,
) -> Result<HttpResponse, Error> {
    let name = sent.form.name.clone();
    let outcome = change(&app, &sent, *id, Look::default(), move |deck| {
        if let Err(error) = PlannedSpread::check_name(&name) {
            return Ok(Err(refused(problem(&error).0)));
        }
        let mut plan = deck.saved.plan.clone();
        name.trim().clone_into(&mut plan.name);
        Ok(Ok(plan))
    })
    .await?;
    follow(outcome, |_| format!("/spread/{id}"))
}

/// How many anglers are aboard.
#[derive(Debug, Deserialize)]
pub(crate) struct Crew {
    crew: u32,
    spread: i64,
}

/// `POST /spread/crew`
pub(crate) async fn crew(app: Data<App>, sent: Sent<Crew>) -> Result<HttpResponse, Error> {
    let act = SpreadAct::Crew(sent.form.crew);
    app.do_act(&sent.borne, Act::Spread(act)).await?;
    Ok(see(&format!("/spread/{}", sent.form.spread)))
}
