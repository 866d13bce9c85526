//! What is done with a spread beside its line in hand.

use super::Look;
use super::deck::{Deck, planned};
use super::line::for_depth;
use super::view::{self, Computed, Scene, Shown, address};
use crate::screens::{page, see, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Form, Path, Query};
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::book::{PlannedSpread, SpreadId, Tackle, limits};
use motilis_core::spread::{Holder, MOST_LINES, Mend};
use motilis_core::units::Metres;
use motilis_store::trash::{Record, take_back, throw};
use motilis_store::{Connection, settings, spreads};
use motilis_view::screens::SpreadScreen;
use motilis_view::units::{Quantity, show};
use serde::Deserialize;

/// A change that was made, and where to look at it; or the page with the sentence that says why not.
type Done = Result<String, Box<SpreadScreen>>;

async fn change(
    app: &App,
    request: &HttpRequest,
    id: i64,
    look: Look,
    make: impl FnOnce(&Connection, &Deck) -> Result<Result<(PlannedSpread, String), String>, Error>
    + Send
    + 'static,
) -> Result<HttpResponse, Error> {
    let (id, theme) = (SpreadId(id), theme_of(request));
    let done: Done = app
        .write(move |connection| {
            let deck = Deck::load(connection, id)?;
            match make(connection, &deck)? {
                Ok((plan, to)) => {
                    if plan != deck.saved.plan {
                        spreads::save(connection, id, &plan)?;
                    }
                    Ok(Ok(to))
                }
                Err(sentence) => {
                    let shown = Shown {
                        refusal: Some(sentence),
                        ..Shown::default()
                    };
                    let (screen, _) = view::screen(&deck, &look, theme, shown)?;
                    Ok::<_, Error>(Err(Box::new(screen)))
                }
            }
        })
        .await?;
    match done {
        Ok(to) => Ok(see(&to)),
        Err(screen) => page(HttpResponse::UnprocessableEntity(), &*screen),
    }
}

/// The place of a line by its number.
pub(super) fn line_of(deck: &Deck, number: usize) -> Result<usize, Error> {
    let lines = deck.saved.plan.rods.len();
    number
        .checked_sub(1)
        .filter(|line| *line < lines)
        .ok_or_else(|| {
            Error::NotFound(format!(
                "there is no line {number}; this spread has {lines}"
            ))
        })
}

/// Lets out on a line, and with it on all that hang on the same cable.
pub(super) fn let_out(
    plan: &mut PlannedSpread,
    deck: &Deck,
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

/// `POST /spread/{spread}/add`: one more rod in the next free holder, with a rig that is free.
pub(crate) async fn add(
    app: Data<App>,
    request: HttpRequest,
    id: Path<i64>,
) -> Result<HttpResponse, Error> {
    change(&app, &request, *id, Look::default(), |_, deck| {
        let mut plan = deck.saved.plan.clone();
        if plan.rods.len() >= MOST_LINES {
            return Ok(Err(format!(
                "A spread has at most {MOST_LINES} lines; take one in first."
            )));
        }
        let taken: Vec<Holder> = plan.rods.iter().map(|rod| rod.holder).collect();
        // From the stern forwards, on both sides in turn.
        let mut holders: Vec<Holder> = Holder::all().collect();
        holders.sort_by_key(|holder| (holder.number, holder.side));
        let holder = holders.into_iter().find(|holder| !taken.contains(holder));
        let free = deck.free_rigs();
        let rig = free.first().or(deck.rigs.first()).map(|(id, _)| *id);
        let (Some(holder), Some(rig), Some((setup_id, setup))) = (holder, rig, deck.setups.first())
        else {
            return Ok(Err(
                "There is no rig or no line set-up to put on; build one on the bench first.".into(),
            ));
        };
        plan.rods.push(planned(holder, rig, *setup_id, setup));
        let number = plan.rods.len();
        Ok(Ok((
            plan,
            format!("/spread/{}?line={number}&said=added", deck.id.0),
        )))
    })
    .await
}

/// `POST /spread/{spread}/set`: every line for its own wanted depth; those that cannot are said.
pub(crate) async fn set_all(
    app: Data<App>,
    request: HttpRequest,
    id: Path<i64>,
) -> Result<HttpResponse, Error> {
    change(&app, &request, *id, Look::default(), |_, deck| {
        let mut plan = deck.saved.plan.clone();
        let mut refused = Vec::new();
        for line in 0..plan.rods.len() {
            match for_depth(deck, &plan, line, "")? {
                Ok(out) => let_out(&mut plan, deck, line, out)?,
                Err(sentence) => refused.push(format!("Line {}: {sentence}", line + 1)),
            }
        }
        if refused.is_empty() {
            Ok(Ok((plan, format!("/spread/{}?said=set", deck.id.0))))
        } else {
            Ok(Err(format!("Nothing was changed. {}", refused.join(" "))))
        }
    })
    .await
}

/// `POST /spread/{spread}/sort`: the boards in the order of practice.
pub(crate) async fn sort(
    app: Data<App>,
    request: HttpRequest,
    id: Path<i64>,
) -> Result<HttpResponse, Error> {
    change(&app, &request, *id, Look::default(), |_, deck| {
        let computed = Computed::new(deck, deck.saved.plan.speed, None)?;
        let mut plan = deck.saved.plan.clone();
        for way in &computed.order.moves {
            plan.rods[way.rod].board = Some(way.board);
        }
        Ok(Ok((plan, format!("/spread/{}?said=sorted", deck.id.0))))
    })
    .await
}

/// A line and the holder it was dragged to.
#[derive(Debug, Deserialize)]
pub(crate) struct ToHolder {
    line: usize,
    holder: String,
}

/// `POST /spread/{spread}/holder`: a rod to another holder; one that stands there changes places with it.
pub(crate) async fn holder(
    app: Data<App>,
    request: HttpRequest,
    id: Path<i64>,
    form: Form<ToHolder>,
) -> Result<HttpResponse, Error> {
    change(&app, &request, *id, Look::default(), move |_, deck| {
        let line = line_of(deck, form.line)?;
        let Some(holder) = Holder::from_key(&form.holder) else {
            return Ok(Err(
                "There is no such holder; drop the rod on one of the row.".into(),
            ));
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
        Ok(Ok((
            plan,
            format!("/spread/{}?line={}", deck.id.0, form.line),
        )))
    })
    .await
}

/// A line and the depth its rig was dragged to, in the unit shown.
#[derive(Debug, Deserialize)]
pub(crate) struct ToDepth {
    line: usize,
    wanted: f64,
    #[serde(default)]
    speed: String,
}

/// `POST /spread/{spread}/depth`: the setback follows.
pub(crate) async fn to_depth(
    app: Data<App>,
    request: HttpRequest,
    id: Path<i64>,
    form: Form<ToDepth>,
) -> Result<HttpResponse, Error> {
    let form = form.into_inner();
    let look = Look {
        line: Some(form.line),
        speed: Some(form.speed.clone()).filter(|speed| !speed.is_empty()),
        ..Look::default()
    };
    let kept = look.clone();
    change(&app, &request, *id, look, move |_, deck| {
        let line = line_of(deck, form.line)?;
        let wanted = Quantity::Depth.unit(deck.context.system).to_si(form.wanted);
        if let Err(error) = limits::DEPTH.check("wanted depth", wanted) {
            return Ok(Err(crate::forms::problem(&error).0));
        }
        let mut plan = deck.saved.plan.clone();
        plan.rods[line].wanted = Metres(wanted);
        Ok(match for_depth(deck, &plan, line, &form.speed)? {
            Ok(out) => {
                let_out(&mut plan, deck, line, out)?;
                Ok((plan, address(deck, &kept, Some(form.line))))
            }
            Err(sentence) => Err(format!("Line {}: {sentence}", form.line)),
        })
    })
    .await
}

/// The speed to keep.
#[derive(Debug, Deserialize)]
pub(crate) struct ToSpeed {
    to: String,
}

/// `POST /spread/{spread}/speed`
pub(crate) async fn keep_speed(
    app: Data<App>,
    request: HttpRequest,
    id: Path<i64>,
    form: Form<ToSpeed>,
) -> Result<HttpResponse, Error> {
    change(&app, &request, *id, Look::default(), move |_, deck| {
        let look = Look {
            speed: Some(form.to.clone()),
            ..Look::default()
        };
        let scene = Scene::read(&look, deck);
        if let Some(problem) = scene.speed.field.problem {
            return Ok(Err(problem.0));
        }
        let mut plan = deck.saved.plan.clone();
        plan.speed = scene.at;
        Ok(Ok((plan, format!("/spread/{}", deck.id.0))))
    })
    .await
}

/// Which line, and which of its mends.
#[derive(Debug, Deserialize)]
pub(crate) struct Which {
    at: usize,
    mend: usize,
}

/// `POST /spread/{spread}/mend?at=&mend=` with the scene in the form.
pub(crate) async fn mend(
    app: Data<App>,
    request: HttpRequest,
    id: Path<i64>,
    which: Query<Which>,
    form: Form<Look>,
) -> Result<HttpResponse, Error> {
    let (which, mut look) = (which.into_inner(), form.into_inner());
    look.step.clear();
    let kept = look.clone();
    change(&app, &request, *id, look, move |_, deck| {
        let line = line_of(deck, which.at)?;
        let scene = Scene::read(&kept, deck);
        let computed = Computed::new(deck, scene.at, scene.turn)?;
        let Some(mend) = computed.mends(deck, line)?.into_iter().nth(which.mend) else {
            return Ok(Err(
                "That mend does not apply any more; look at the line as it runs now.".into(),
            ));
        };
        let mut plan = deck.saved.plan.clone();
        let mut next = kept.clone();
        next.said = "mended".into();
        match mend {
            Mend::Speed(speed) => {
                plan.speed = speed;
                next.speed = None;
            }
            Mend::Swap(number) => {
                let free = deck.free_rigs();
                let Some((rig, _)) = free.get(number) else {
                    return Ok(Err("That rig is not free any more.".into()));
                };
                plan.rods[line].tackle = Tackle::Rig(*rig);
            }
            Mend::Out(out) => let_out(&mut plan, deck, line, out)?,
            Mend::Board(board) => plan.rods[line].board = Some(board),
            Mend::Lead(lead) => plan.rods[line].lead = lead,
            Mend::Radius(radius) => {
                let shown = show(Quantity::Depth, radius.0, deck.context.system);
                next.radius = Some(shown.typed());
            }
            Mend::TakeIn => {
                plan.rods.remove(line);
            }
        }
        let said = format!("{}&said=mended", address(deck, &next, None));
        Ok(Ok((plan, said)))
    })
    .await
}

/// `POST /spread/{spread}/undo`
pub(crate) async fn undo(app: Data<App>, id: Path<i64>) -> Result<HttpResponse, Error> {
    let id = SpreadId(*id);
    app.write(move |connection| Ok::<_, Error>(spreads::undo(connection, id)?))
        .await?;
    Ok(see(&format!("/spread/{}", id.0)))
}

/// `POST /spread/{spread}/redo`
pub(crate) async fn redo(app: Data<App>, id: Path<i64>) -> Result<HttpResponse, Error> {
    let id = SpreadId(*id);
    app.write(move |connection| Ok::<_, Error>(spreads::redo(connection, id)?))
        .await?;
    Ok(see(&format!("/spread/{}", id.0)))
}

/// `POST /spread/{spread}/duplicate`
pub(crate) async fn duplicate(app: Data<App>, id: Path<i64>) -> Result<HttpResponse, Error> {
    let id = SpreadId(*id);
    let copy = app
        .write(move |connection| {
            let mut plan = spreads::get(connection, id)?.plan;
            let name: String = plan.name.chars().take(50).collect();
            plan.name = format!("{name}, copy");
            Ok::<_, Error>(spreads::add(connection, &plan)?)
        })
        .await?;
    Ok(see(&format!("/spread/{}", copy.0)))
}

/// `POST /spread/{spread}/delete`
pub(crate) async fn delete(app: Data<App>, id: Path<i64>) -> Result<HttpResponse, Error> {
    let (id, now) = (SpreadId(*id), app.now());
    app.write(move |connection| Ok::<_, Error>(throw(connection, Record::Spread(id), now)?))
        .await?;
    Ok(see(&format!("/spread?deleted={}", id.0)))
}

/// `POST /spread/{spread}/restore`
pub(crate) async fn restore(app: Data<App>, id: Path<i64>) -> Result<HttpResponse, Error> {
    let id = SpreadId(*id);
    app.write(move |connection| Ok::<_, Error>(take_back(connection, Record::Spread(id))?))
        .await?;
    Ok(see(&format!("/spread/{}", id.0)))
}

/// `POST /spread/{spread}/rename`
pub(crate) async fn rename(
    app: Data<App>,
    request: HttpRequest,
    id: Path<i64>,
    form: Form<super::Named>,
) -> Result<HttpResponse, Error> {
    let name = form.into_inner().name;
    change(&app, &request, *id, Look::default(), move |_, deck| {
        if let Err(error) = PlannedSpread::check_name(&name) {
            return Ok(Err(crate::forms::problem(&error).0));
        }
        let mut plan = deck.saved.plan.clone();
        name.trim().clone_into(&mut plan.name);
        Ok(Ok((plan, format!("/spread/{}", deck.id.0))))
    })
    .await
}

/// How many anglers are aboard.
#[derive(Debug, Deserialize)]
pub(crate) struct Crew {
    crew: u32,
    spread: i64,
}

/// `POST /spread/crew`
pub(crate) async fn crew(app: Data<App>, form: Form<Crew>) -> Result<HttpResponse, Error> {
    let Crew { crew, spread } = form.into_inner();
    app.write(move |connection| {
        if !(1..=12).contains(&crew) {
            return Err(Error::BadRequest(format!(
                "{crew} anglers cannot be aboard; give 1 to 12"
            )));
        }
        Ok(settings::set(connection, "crew", &crew.to_string())?)
    })
    .await?;
    Ok(see(&format!("/spread/{spread}")))
}
