//! A spread set in motion: computed in the background, looked at when it is done.

use super::Look;
use super::deck::Deck;
use super::view::{self, Computed, Paper, Shown, drawing};
use crate::forms::Typed;
use crate::screens::{page, see, theme_of};
use crate::{App, Error};
use actix_web::web::{Data, Form, Path};
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::Range;
use motilis_core::book::SpreadId;
use motilis_core::line::Surroundings;
use motilis_core::motion::{Course, Recording, Scene, record};
use motilis_core::spread::{Side, Spread};
use motilis_core::units::Metres;
use motilis_view::screens::{Choice, CourseForm, MotionScreen, Screen};
use motilis_view::units::{Problem, Quantity, System, show};
use motilis_view::words::spread as say;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use std::ops::ControlFlow;
use std::sync::atomic::{AtomicBool, AtomicU32, AtomicU64, Ordering};
use std::sync::{Arc, Mutex, PoisonError};

/// The replay's drawing: in turns lines swing out.
const PAPER: Paper = Paper {
    size: (1200.0, 620.0),
    room: 1.35,
};
/// Runs kept to be looked at again.
const KEPT: usize = 8;
const RADIUS: Range = Range::closed(5.0, 2_000.0, "m", "between 5 and 2 000 m");
const MINUTES: Range = Range::closed(0.1, 60.0, "min", "between 0.1 and 60 min");

/// The runs of this program: gone when it stops.
#[derive(Default)]
pub(crate) struct Runs {
    next: AtomicU64,
    all: Mutex<BTreeMap<u64, Arc<Run>>>,
}

/// One run, under way or done.
struct Run {
    spread: SpreadId,
    course: Course,
    percent: AtomicU32,
    stop: AtomicBool,
    outcome: Mutex<Option<Outcome>>,
}

#[derive(Clone)]
enum Outcome {
    Done(Arc<Recording>),
    Stopped,
    Refused(String),
}

impl Runs {
    fn start(&self, id: SpreadId, spread: Spread, surroundings: Surroundings, asked: Asked) -> u64 {
        let number = self.next.fetch_add(1, Ordering::Relaxed) + 1;
        let run = Arc::new(Run {
            spread: id,
            course: asked.course,
            percent: AtomicU32::new(0),
            stop: AtomicBool::new(false),
            outcome: Mutex::new(None),
        });
        let mut all = self.all.lock().unwrap_or_else(PoisonError::into_inner);
        while all.len() >= KEPT {
            if let Some((_, oldest)) = all.pop_first() {
                oldest.stop.store(true, Ordering::Relaxed);
            }
        }
        all.insert(number, Arc::clone(&run));
        drop(all);
        // A thread of its own: a run of an hour must not hold the pool that answers pages.
        std::thread::spawn(move || {
            let scene = Scene {
                spread: &spread,
                surroundings: &surroundings,
                course: asked.course,
                seconds: asked.seconds,
            };
            let recorded = record(&scene, |done| {
                run.percent.store((done * 100.0) as u32, Ordering::Relaxed);
                if run.stop.load(Ordering::Relaxed) {
                    ControlFlow::Break(())
                } else {
                    ControlFlow::Continue(())
                }
            });
            let outcome = match recorded {
                Ok(Some(recording)) => Outcome::Done(Arc::new(recording)),
                Ok(None) => Outcome::Stopped,
                Err(error) => Outcome::Refused(crate::forms::problem(&error).0),
            };
            *run.outcome.lock().unwrap_or_else(PoisonError::into_inner) = Some(outcome);
        });
        number
    }

    fn get(&self, spread: SpreadId, number: u64) -> Result<Arc<Run>, Error> {
        let all = self.all.lock().unwrap_or_else(PoisonError::into_inner);
        all.get(&number)
            .filter(|run| run.spread == spread)
            .map(Arc::clone)
            .ok_or_else(|| {
                Error::NotFound("that run is not kept any more; set the spread off again".into())
            })
    }
}

impl Run {
    fn outcome(&self) -> Option<Outcome> {
        self.outcome
            .lock()
            .unwrap_or_else(PoisonError::into_inner)
            .clone()
    }
}

/// The form as it was sent.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub(crate) struct RawCourse {
    course: String,
    bend: String,
    minutes: String,
}

/// What was asked for.
#[derive(Debug, Clone, Copy)]
struct Asked {
    course: Course,
    seconds: f64,
}

const COURSES: [(&str, &str); 7] = [
    ("s_turns", "S-turns"),
    ("port", "circle to port"),
    ("starboard", "circle to starboard"),
    ("pulses", "faster and slower"),
    ("stop", "stop and go"),
    ("fish", "fish on, slowed down"),
    ("straight", "straight on"),
];

/// The form to begin with.
pub(super) fn form(system: System) -> CourseForm {
    read(&RawCourse::default(), system, true).0
}

fn read(raw: &RawCourse, system: System, blank: bool) -> (CourseForm, Option<Asked>) {
    let chosen = if raw.course.is_empty() {
        "s_turns"
    } else {
        &raw.course
    };
    let mut bend = Typed::new(
        ("bend", "Radius of its bends"),
        (Quantity::Depth, system),
        RADIUS,
        &raw.bend,
    );
    let mut minutes = Typed::new(
        ("minutes", "Minutes"),
        (Quantity::Count, system),
        MINUTES,
        &raw.minutes,
    );
    if blank {
        bend.fill(20.0);
        minutes.fill(2.0);
    }
    let radius = Metres(bend.or(20.0));
    let seconds = 60.0 * minutes.or(2.0);
    let course = match chosen {
        "s_turns" => Some(Course::STurns {
            radius,
            angle_deg: 60.0,
        }),
        "port" => Some(Course::Circle {
            radius,
            to: Side::Port,
        }),
        "starboard" => Some(Course::Circle {
            radius,
            to: Side::Starboard,
        }),
        "pulses" => Some(Course::Pulses {
            share: 0.3,
            every_s: 20.0,
        }),
        "stop" => Some(Course::StopAndGo {
            go_s: 30.0,
            stop_s: 15.0,
        }),
        "fish" => Some(Course::FishOn { share: 0.4 }),
        "straight" => Some(Course::Straight),
        _ => None,
    };
    if course.is_none() {
        minutes.field.problem = Some(Problem(
            "There is no such course; choose one of the list.".into(),
        ));
    }
    let sound = bend.field.problem.is_none() && minutes.field.problem.is_none();
    let form = CourseForm {
        course: Choice::list(COURSES, chosen),
        fields: vec![bend.field, minutes.field],
    };
    let asked = course
        .filter(|_| sound)
        .map(|course| Asked { course, seconds });
    (form, asked)
}

/// `POST /spread/{spread}/motion`
pub(crate) async fn set_off(
    app: Data<App>,
    request: HttpRequest,
    id: Path<i64>,
    form: Form<RawCourse>,
) -> Result<HttpResponse, Error> {
    let (id, raw, theme) = (SpreadId(*id), form.into_inner(), theme_of(&request));
    let ready = app
        .read(move |connection| {
            let deck = Deck::load(connection, id)?;
            let (form, asked) = read(&raw, deck.context.system, false);
            let spread = deck.spread(&deck.saved.plan)?;
            if let Some(asked) = asked {
                return Ok(Ok((spread, deck.surroundings, asked)));
            }
            let shown = Shown {
                refusal: Some("It was not set off: see the marked field.".into()),
                course: Some(form),
                editor: None,
            };
            let (screen, _) = view::screen(&deck, &Look::default(), theme, shown)?;
            Ok::<_, Error>(Err(Box::new(screen)))
        })
        .await?;
    match ready {
        Ok((spread, surroundings, asked)) => {
            let run = app.runs().start(id, spread, surroundings, asked);
            Ok(see(&format!("/spread/{}/motion/{run}", id.0)))
        }
        Err(screen) => page(HttpResponse::UnprocessableEntity(), &*screen),
    }
}

/// `GET /spread/{spread}/motion/{run}`
pub(crate) async fn look(
    app: Data<App>,
    request: HttpRequest,
    path: Path<(i64, u64)>,
) -> Result<HttpResponse, Error> {
    let ((id, number), theme) = (path.into_inner(), theme_of(&request));
    let id = SpreadId(id);
    let run = app.runs().get(id, number)?;
    let screen = app
        .read(move |connection| {
            let deck = Deck::load(connection, id)?;
            let system = deck.context.system;
            let outcome = run.outcome();
            let recording = match &outcome {
                Some(Outcome::Done(recording)) => Some(recording),
                _ => None,
            };
            // A spread that was edited since has other lines: the run then no longer belongs to it.
            let lines = recording
                .and_then(|recording| recording.frames.first())
                .map(|frame| frame.lines.len());
            let fits = lines.is_none_or(|lines| lines == deck.saved.plan.rods.len());
            let stopped = match &outcome {
                Some(Outcome::Stopped) => Some("The run was stopped.".to_owned()),
                Some(Outcome::Refused(sentence)) => Some(sentence.clone()),
                Some(Outcome::Done(_)) if !fits => {
                    Some("The spread has other lines now; set it off again.".to_owned())
                }
                _ => None,
            };
            let computed = Computed::new(&deck, deck.saved.plan.speed, None)?;
            let shown = recording.filter(|_| fits);
            Ok::<_, Error>(MotionScreen {
                frame: deck.context.frame(
                    Screen::Spread,
                    theme,
                    &format!("/spread/{}/motion/{number}", id.0),
                ),
                id: id.0,
                name: deck.saved.plan.name.clone(),
                run: number,
                course: say::course(&run.course, system),
                percent: outcome
                    .is_none()
                    .then(|| run.percent.load(Ordering::Relaxed)),
                stopped,
                drawing: shown.map(|_| drawing(&deck, &computed, &Look::default(), None, PAPER)),
                last: shown.map_or(0, |recording| recording.frames.len() - 1),
                every_s: shown.map_or(0.0, |recording| recording.every_s),
                rows: shown.map_or_else(Vec::new, |recording| {
                    computed
                        .spread
                        .rods
                        .iter()
                        .enumerate()
                        .map(|(place, rod)| {
                            let (mark, told) = say::happened(recording, place, system);
                            (place + 1, rod.towed.name().to_owned(), mark, told)
                        })
                        .collect()
                }),
            })
        })
        .await?;
    page(HttpResponse::Ok(), &screen)
}

/// `POST /spread/{spread}/motion/{run}/stop`
pub(crate) async fn stop(app: Data<App>, path: Path<(i64, u64)>) -> Result<HttpResponse, Error> {
    let (id, number) = path.into_inner();
    let run = app.runs().get(SpreadId(id), number)?;
    run.stop.store(true, Ordering::Relaxed);
    Ok(see(&format!("/spread/{id}/motion/{number}")))
}

/// A frame for the script that draws it: a line is points, depth, state, mark.
#[derive(Serialize)]
struct FrameJson {
    boat: String,
    lines: Vec<LineJson>,
}

#[derive(Serialize)]
struct LineJson {
    points: Vec<[f64; 3]>,
    depth: String,
    mark: &'static str,
    says: &'static str,
}

/// `GET /spread/{spread}/motion/{run}/frames.json`
pub(crate) async fn frames(app: Data<App>, path: Path<(i64, u64)>) -> Result<HttpResponse, Error> {
    let (id, number) = path.into_inner();
    let run = app.runs().get(SpreadId(id), number)?;
    let Some(Outcome::Done(recording)) = run.outcome() else {
        return Err(Error::NotFound("that run is not done yet".into()));
    };
    let system = app.read(crate::screens::system).await?;
    let rounded = |point: &[f64; 3]| point.map(|figure| (figure * 100.0).round() / 100.0);
    let frames: Vec<FrameJson> = recording
        .frames
        .iter()
        .map(|frame| FrameJson {
            boat: format!(
                "boat {}, {:.0}° {}",
                show(Quantity::Speed, frame.speed.0, system),
                frame.heading_deg.abs(),
                if frame.heading_deg < -0.5 {
                    "to port"
                } else if frame.heading_deg > 0.5 {
                    "to starboard"
                } else {
                    "off its course"
                }
            ),
            lines: frame
                .lines
                .iter()
                .enumerate()
                .map(|(place, line)| {
                    let near = frame
                        .near
                        .iter()
                        .any(|near| near.lines.0 == place || near.lines.1 == place);
                    let (mark, says) = said(line, near);
                    LineJson {
                        points: line.points.iter().map(rounded).collect(),
                        depth: show(Quantity::Depth, line.depth.0, system).to_string(),
                        mark,
                        says,
                    }
                })
                .collect(),
        })
        .collect();
    Ok(HttpResponse::Ok().json(frames))
}

fn said(line: &motilis_core::motion::LineFrame, near: bool) -> (&'static str, &'static str) {
    use motilis_core::spread::State;
    if line.on_bottom {
        return ("cannot", "on bottom");
    }
    match line.state {
        State::Stalled => ("cannot", "stalled"),
        State::RollingOver => ("cannot", "rolling over"),
        State::TooSlow => ("cannot", "too slow"),
        State::TooFast => ("cannot", "too fast"),
        State::Works if near => ("watch", "near a line"),
        State::Works => ("works", "fishing"),
    }
}
