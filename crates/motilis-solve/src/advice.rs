//! `solve match`: rigs and a box against the conditions of a day, to a call sheet with its reasons.

use crate::rig::{self, PartRequest, PieceAnswer, piece_answer, stocked};
use crate::setup::{SetupRequest, key};
use crate::sun::instant;
use crate::{Refusal, Refused};
use motilis_core::advice::{
    Call, Candidate, Changed, Day, Judge, Mark, Misfit, Mood, Move, Outfit, Question, Response,
    Role, Schools, Sky, Stand, Term, Verdict, Ways, Weights, Wind, before, draw_up, overhead,
    variants, what_would_change,
};
use motilis_core::bench::left_of;
use motilis_core::book::RuleId;
use motilis_core::evidence::{Angler, Record};
use motilis_core::fish::{Fish, Forage};
use motilis_core::light::Stain;
use motilis_core::line::OutFor;
use motilis_core::rig::{Kind, Part, Rig};
use motilis_core::rules::Limits;
use motilis_core::sky::Place;
use motilis_core::units::{Celsius, Metres, MetresPerSecond};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use std::sync::Arc;
use utoipa::ToSchema;

/// The conditions of the day.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DayRequest {
    /// Instant, RFC 3339.
    pub utc: String,
    /// Latitude, degrees, north positive.
    pub lat: f64,
    /// Longitude, degrees, east positive.
    pub lon: f64,
    /// Speed through the water asked for.
    pub speed_mps: f64,
    /// Water temperature.
    pub temperature_c: f64,
    /// Whether the water is salt.
    #[serde(default)]
    pub salt: bool,
    /// Whether it is a river, fished by casting; the speed is then that of the water past the spinner.
    #[serde(default)]
    pub river: bool,
    /// Secchi depth.
    pub clarity_m: f64,
    /// `clear`, `green`, `tea` or `muddy`.
    pub stain: String,
    /// `sun`, `broken`, `cloud` or `rain`.
    pub sky: String,
    /// `calm`, `ripple`, `chop` or `rough`.
    pub wind: String,
    /// The fish wanted: `walleye`, `rainbow_trout` …
    pub fish: String,
    /// Upper end of the depths the fish hold at.
    pub fish_from_m: f64,
    /// Lower end.
    pub fish_to_m: f64,
    /// `active`, `neutral` or `shy`.
    pub mood: String,
    /// What they feed on; the fish's usual when not given.
    pub forage: Option<String>,
    /// Whether weeds or panfish take the bait.
    #[serde(default)]
    pub nibblers: bool,
    /// Kind of rig that every other boat drags.
    pub crowd: Option<String>,
    /// What the fish did so far: unknown, follow, short.
    pub response: Option<String>,
    /// Depth of the water.
    pub bottom_m: f64,
    /// Depth at which the rig shall run.
    pub wanted_depth_m: f64,
}

/// A rig with how it stands in the box and in the log.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CandidateRequest {
    /// The rig, as `solve rig` takes it; its name comes back.
    pub rig: rig::Request,
    /// The set-up it goes on.
    pub setup: SetupRequest,
    /// How many lie made up; 0 when not given.
    #[serde(default)]
    pub made_up: u32,
    /// Fish the log has on it.
    #[serde(default)]
    pub fish: u32,
    /// Rod-hours the log has on it.
    #[serde(default)]
    pub rod_hours: f64,
    /// `pin` or `veto`.
    pub mark: Option<String>,
}

/// What typed-in rules leave.
#[derive(Debug, Clone, Copy, Default, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LimitsRequest {
    /// Hooks on a line.
    pub hooks: Option<u8>,
    /// Hook points on a line, a treble counting three.
    pub points: Option<u8>,
    /// Whether bait is forbidden.
    #[serde(default)]
    pub no_bait: bool,
    /// Whether lead is forbidden.
    #[serde(default)]
    pub no_lead: bool,
}

/// Rigs and a box against a day.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = MatchRequest, example = json!({
    "day": {"utc": "2026-09-05T15:00:00Z", "lat": 50.42, "lon": -95.61, "speed_mps": 0.536,
        "temperature_c": 14.4, "clarity_m": 2.1, "stain": "tea", "sky": "cloud", "wind": "ripple",
        "fish": "walleye", "fish_from_m": 6.1, "fish_to_m": 7.6, "mood": "neutral",
        "bottom_m": 8.2, "wanted_depth_m": 6.7},
    "schools": {"colour": "conditions"}, "weights": {"thump": 1.0},
    "rigs": [{
        "rig": {"name": "two-hook", "kind": "crawler_harness",
            "mount": {"part": "line", "style": "nylon", "size": 17}, "hook_spacing_m": 0.089,
            "pieces": [
                {"part": "swivel", "style": "barrel", "size": 14},
                {"part": "clevis", "style": "stirrup", "size": 2},
                {"part": "blade", "style": "colorado", "size": 4, "colour": "BR", "hammered": true},
                {"part": "bead", "style": "round", "size": 4},
                {"part": "bead", "style": "round", "size": 6, "count": 4},
                {"part": "hook", "style": "octopus", "size": 2, "count": 2},
                {"part": "bait", "style": "crawler", "size": 125}]},
        "setup": {"start": "rod_tip", "tip_height_m": 1.5, "main": {"material": "nylon", "test_lb": 10},
            "weight": {"kind": "bottom_bouncer", "mass_kg": 0.0567, "material": "tin"},
            "leader": {"material": "nylon", "test_lb": 12}, "lead_m": 1.5, "reel_m": 90},
        "made_up": 1, "fish": 4, "rod_hours": 9, "mark": null}],
    "box": [{"id": 7, "part": "blade", "style": "indiana", "size": 4, "colour": "CH", "left_count": 3}]
}))]
pub struct Request {
    /// Comes back with the answer.
    pub name: Option<String>,
    /// The conditions.
    pub day: DayRequest,
    /// Schools followed, by question: `colour`, `hooks`, `leader`, `flasher_blade`, `attractor`,
    /// `above_clevis`, `weight`, `height`; the defaults for those not named.
    #[serde(default)]
    pub schools: BTreeMap<String, String>,
    /// Weights of terms, 0 to 3, by term; the fish's usual for those not named.
    #[serde(default)]
    pub weights: BTreeMap<String, f64>,
    /// What typed-in rules leave.
    #[serde(default)]
    pub limits: LimitsRequest,
    /// Every rig, 1 to 2000 of them.
    pub rigs: Vec<CandidateRequest>,
    /// Whether to tell what would change the first call.
    #[serde(default)]
    pub changes: bool,
    /// Blades and clevises that could be swapped in, and parts to build from.
    #[serde(default, rename = "box")]
    pub stock: Vec<PartRequest>,
}

/// A term: points times weight.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct TermAnswer {
    /// The term.
    pub term: &'static str,
    /// −1 against it to 1 for it.
    pub points: f64,
    /// What it counts.
    pub weight: f64,
}

/// A rig judged.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct CallAnswer {
    /// Place of the rig among the request's.
    pub rig: usize,
    /// Its name.
    pub name: String,
    /// What is swapped on it first: the blade, then a clevis.
    pub swap: Vec<PieceAnswer>,
    /// `primary`, `contrast` or `probe`; null for what is not on the sheet.
    pub role: Option<&'static str>,
    /// `works`, `watch` or `cannot`.
    pub verdict: &'static str,
    /// Why it is not on the sheet, or `practice`.
    pub reason: &'static str,
    /// Sum of the terms.
    pub score: f64,
    /// The speed practice would run it at.
    pub best_speed_mps: f64,
    /// Slowest usable speed.
    pub from_mps: f64,
    /// Fastest usable speed; null when nothing ends it.
    pub to_mps: Option<f64>,
    /// What to let out; null when the depth cannot be had.
    pub out_m: Option<f64>,
    /// From how far the fish sees its finish there.
    pub seen_m: f64,
    /// That with its colour out of 100, the best being 100.
    pub noticeability: f64,
    /// Every term.
    pub terms: Vec<TermAnswer>,
    /// On the sheet: what is put on instead of what the rig's set-up has.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub instead: Option<InsteadAnswer>,
}

/// What a call puts on instead of what the set-up has.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct InsteadAnswer {
    /// Another mass of the weight, kg.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub weight_kg: Option<f64>,
    /// Another lead, m.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lead_m: Option<f64>,
    /// More line between release and leader, m.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub back_m: Option<f64>,
}

/// Why there is no first call, and what comes nearest.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct NothingAnswer {
    /// `fish`: nothing is tied for it; `speed`: what there is runs at others; `depth`: none goes there, or each is against a
    /// rule or unsound.
    pub misfit: &'static str,
    /// Place of the nearest rig; null when none is tied for the fish.
    pub nearest: Option<usize>,
    /// The speed at which that is at its best.
    pub best_speed_mps: f64,
    /// A kind to build that practice runs at the speed asked.
    pub build: Option<&'static str>,
}

/// A condition moved, and what would be called first then.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ChangeAnswer {
    /// What is moved: `sky`, `temperature_c`, `clarity_m`, `sun_alt_deg`, `mood` or `speed_mps`.
    pub moved: &'static str,
    /// To what: a figure, or the word of a list.
    #[schema(value_type = Object)]
    pub to: Moved,
    /// Place of the rig called then; null when nothing would work.
    pub rig: Option<usize>,
    /// What is swapped on it first.
    pub swap: Vec<PieceAnswer>,
}

/// A figure or a word.
#[derive(Debug, Clone, Serialize)]
#[serde(untagged)]
pub enum Moved {
    /// A figure.
    Figure(f64),
    /// A word of a list.
    Word(&'static str),
}

fn moved(moved: Move) -> (&'static str, Moved) {
    match moved {
        Move::Sky(sky) => ("sky", Moved::Word(sky.key())),
        Move::Temperature(celsius) => ("temperature_c", Moved::Figure(celsius.0)),
        Move::Clarity(depth) => ("clarity_m", Moved::Figure(depth.0)),
        Move::Sun(altitude) => ("sun_alt_deg", Moved::Figure(altitude)),
        Move::Mood(mood) => ("mood", Moved::Word(mood.key())),
        Move::Speed(speed) => ("speed_mps", Moved::Figure(speed.0)),
    }
}

/// The call sheet and every rig of the request.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[schema(as = MatchAnswer)]
pub struct Answer {
    /// The request's name.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub name: Option<String>,
    /// True altitude of the sun, degrees.
    pub sun_alt_deg: f64,
    /// First call, contrast and probe, as far as something works.
    pub sheet: Vec<CallAnswer>,
    /// Why the sheet is empty; left out when it is not.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub nothing: Option<NothingAnswer>,
    /// The request's rigs as they are, best first.
    pub rigs: Vec<CallAnswer>,
    /// What would change the first call, when it was asked for.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub changes: Option<Vec<ChangeAnswer>>,
}

/// Most rigs of a request.
const MOST_RIGS: usize = 2_000;

impl DayRequest {
    fn day(&self) -> Result<Day, Refusal> {
        let path = |field: &str| format!("day.{field}");
        let sky = key(&path("sky"), &self.sky, Sky::from_key, Sky::ALL, Sky::key)?;
        let wind = key(
            &path("wind"),
            &self.wind,
            Wind::from_key,
            Wind::ALL,
            Wind::key,
        )?;
        let fish = key(
            &path("fish"),
            &self.fish,
            Fish::from_key,
            Fish::ALL,
            Fish::key,
        )?;
        let forage = match &self.forage {
            None => fish.usual_forage(),
            Some(word) => key(
                &path("forage"),
                word,
                Forage::from_key,
                Forage::ALL,
                Forage::key,
            )?,
        };
        let response = match &self.response {
            None => Response::Unknown,
            Some(word) => key(
                &path("response"),
                word,
                Response::from_key,
                Response::ALL,
                Response::key,
            )?,
        };
        let crowd = match &self.crowd {
            None => None,
            Some(word) => Some(key(
                &path("crowd"),
                word,
                Kind::from_key,
                Kind::ALL,
                Kind::key,
            )?),
        };
        let inside =
            |error: motilis_core::Error| Refusal::new(path(error.quantity()), error.to_string());
        let place = Place::new(self.lat, self.lon).map_err(inside)?;
        let at = instant(&self.utc).map_err(|refusal| Refusal {
            field: path(&refusal.field),
            ..refusal
        })?;
        if self.fish_to_m < self.fish_from_m {
            return Err(Refusal::new(
                path("fish_to_m"),
                "fish_to_m lies above fish_from_m; give the upper end first",
            ));
        }
        let day = Day {
            speed: MetresPerSecond(self.speed_mps),
            temperature: Celsius(self.temperature_c),
            salt: self.salt,
            clarity: Metres(self.clarity_m),
            stain: key(
                &path("stain"),
                &self.stain,
                Stain::from_key,
                Stain::ALL,
                Stain::key,
            )?,
            sky,
            overhead: overhead(place, at, sky, wind).map_err(inside)?,
            fish,
            fish_depth: (Metres(self.fish_from_m), Metres(self.fish_to_m)),
            mood: key(
                &path("mood"),
                &self.mood,
                Mood::from_key,
                Mood::ALL,
                Mood::key,
            )?,
            forage,
            river: self.river,
            response,
            nibblers: self.nibblers,
            crowd,
            bottom: Metres(self.bottom_m),
            wanted_depth: Metres(self.wanted_depth_m),
        };
        day.optics().map_err(|error| {
            Refusal::new(
                path("clarity_m"),
                error.to_string().replace("zsd", "clarity_m"),
            )
        })?;
        Ok(day)
    }
}

impl Request {
    fn ways(&self, fish: Fish, records: &[Record]) -> Result<Ways, Refusal> {
        let mut schools = Schools::default();
        for (question, school) in &self.schools {
            let field = format!("schools.{question}");
            let asked = key(
                &field,
                question,
                Question::from_key,
                Question::ALL,
                Question::key,
            )?;
            schools = schools.following(asked, school).ok_or_else(|| {
                let known: Vec<_> = asked.schools().into_iter().map(|(key, _)| key).collect();
                Refusal::new(
                    field,
                    format!("school {school:?} is not one of {}", known.join(", ")),
                )
            })?;
        }
        let mut weights = Weights::usual(fish, &schools);
        for (term, weight) in &self.weights {
            let field = format!("weights.{term}");
            let term = key(&field, term, Term::from_key, Term::ALL, Term::key)?;
            weights = weights
                .with(term, *weight)
                .map_err(|error| Refusal::new(field, error.to_string()))?;
        }
        let all = records.iter().fold(Record::default(), |sum, one| Record {
            fish: sum.fish.saturating_add(one.fish),
            rod_hours: sum.rod_hours + one.rod_hours,
        });
        let rule = RuleId(0);
        Ok(Ways {
            schools,
            weights,
            limits: Limits {
                hooks: self.limits.hooks.map(|most| (most, rule)),
                points: self.limits.points.map(|most| (most, rule)),
                no_bait: self.limits.no_bait.then_some(rule),
                no_lead: self.limits.no_lead.then_some(rule),
                ..Limits::default()
            },
            angler: Angler::of(all),
            tools: Vec::new(),
        })
    }
}

/// Why a rig stands where it stands, in a word.
fn reason(call: &Call) -> &'static str {
    use motilis_core::advice::Reason;
    match call.reason {
        Reason::Short(_) => "short",
        Reason::AgainstRule { .. } => "against_rule",
        Reason::Stalls { .. } => "stalls",
        Reason::RollsOver { .. } => "rolls_over",
        Reason::Trips(_) => "trips",
        Reason::NearStall { .. } => "near_stall",
        Reason::NearRollOver { .. } => "near_roll_over",
        Reason::BelowBottom { .. } => "below_bottom",
        Reason::TooDeep { .. } => "too_deep",
        Reason::TooShallow { .. } => "too_shallow",
        Reason::NotCast => "not_cast",
        Reason::Drags => "drags",
        Reason::LongLine { .. } => "long_line",
        Reason::BallForShallow { .. } => "ball_for_shallow",
        Reason::AttractorIdle { .. } => "attractor_idle",
        Reason::Unsound { .. } => "unsound",
        Reason::Practice(_) => "practice",
    }
}

/// The parts that are swapped on a candidate first, as they stand on it.
fn swap(candidate: &Candidate) -> Vec<PieceAnswer> {
    let Stand::Buildable(changes) = &candidate.stand else {
        return Vec::new();
    };
    let pieces = &candidate.rig.stack().pieces;
    let on_it = |part: &Part| pieces.iter().find(|piece| piece.part == *part);
    changes.iter().filter_map(on_it).map(piece_answer).collect()
}

fn call_answer(rig: usize, candidate: &Candidate, call: &Call, role: Option<Role>) -> CallAnswer {
    CallAnswer {
        rig,
        name: candidate.rig.name.clone(),
        swap: swap(candidate),
        role: role.map(Role::key),
        verdict: match call.verdict {
            Verdict::Works => "works",
            Verdict::Watch => "watch",
            Verdict::Cannot => "cannot",
        },
        reason: reason(call),
        score: call.score,
        best_speed_mps: call.best_speed.0,
        from_mps: call.window.from.0,
        to_mps: call.window.to.map(|to| to.0),
        out_m: match &call.out {
            Some(OutFor::Out(run)) => Some(run.out.0),
            _ => None,
        },
        seen_m: call.sighting.range,
        noticeability: call.noticeability(),
        terms: call
            .terms
            .iter()
            .map(|term| TermAnswer {
                term: term.term().key(),
                points: term.points(),
                weight: term.weight,
            })
            .collect(),
        instead: None,
    }
}

/// A rig of the request as a candidate, with its mark.
fn candidate(
    at: usize,
    asked: &CandidateRequest,
    stock: &[motilis_core::bench::Stocked],
) -> Result<(Candidate, Option<Mark>), Refusal> {
    let path = format!("rigs[{at}]");
    let under = |refusal: Refusal| Refusal {
        field: format!("{path}.rig.{}", refusal.field),
        ..refusal
    };
    let stack = asked.rig.stack().map_err(under)?;
    let name = asked
        .rig
        .name
        .clone()
        .unwrap_or_else(|| format!("rig {at}"));
    let mark = match &asked.mark {
        None => None,
        Some(word) => Some(key(
            &format!("{path}.mark"),
            word,
            Mark::from_key,
            Mark::ALL,
            Mark::key,
        )?),
    };
    let record = Record {
        fish: asked.fish,
        rod_hours: asked.rod_hours,
    };
    Angler::default()
        .believes(record)
        .map_err(|error| Refusal::new(format!("{path}.rod_hours"), error.to_string()))?;
    let stand = Stand::of(&stack, asked.made_up, |piece| left_of(stock, piece));
    let rig = Rig::new(name.clone(), stack).map_err(|error| under(error.into()))?;
    let setup = Arc::new(asked.setup.setup(&format!("{path}.setup"))?);
    let candidate = Candidate {
        name,
        rig,
        setup,
        stand,
        record,
    };
    Ok((candidate, mark))
}

/// A refusal of the core, which knows the conditions by shorter names.
fn of_the_day(error: motilis_core::Error) -> Refusal {
    let field = match error.quantity() {
        "water.temperature_c" => "temperature_c",
        "depth" => "wanted_depth_m",
        "water_depth_m" => "bottom_m",
        other => other,
    };
    Refusal::new(format!("day.{field}"), error.to_string())
}

/// Answers one request.
///
/// # Errors
/// [`Refusal`] with the field.
#[utoipa::path(post, path = "/api/v1/solve/match", tag = "solve", request_body = Request, responses(
    (status = 200, description = "The call sheet and every rig judged", body = Answer),
    (status = 422, description = "The field that is wrong, and why", body = Refused),
))]
pub fn solve(request: Request) -> Result<Answer, Refusal> {
    if request.rigs.is_empty() || request.rigs.len() > MOST_RIGS {
        let message = format!(
            "{} rigs are not between 1 and {MOST_RIGS}",
            request.rigs.len()
        );
        return Err(Refusal::new("rigs", message));
    }
    let day = request.day.day()?;
    let stock = stocked(&request.stock)?;
    let (mut candidates, mut marks) = (Vec::new(), Vec::new());
    for (at, asked) in request.rigs.iter().enumerate() {
        let (candidate, mark) = candidate(at, asked, &stock)?;
        candidates.push(candidate);
        marks.push(mark);
    }
    let records: Vec<Record> = candidates.iter().map(|one| one.record).collect();
    let ways = request.ways(day.fish, &records)?;
    let own = candidates.len();
    let mut bases: Vec<usize> = (0..own).collect();
    for base in 0..own {
        let swapped = variants(&candidates[base], &stock)?;
        bases.extend(swapped.iter().map(|_| base));
        candidates.extend(swapped);
    }
    let judge = Judge::new(&day, &ways).map_err(of_the_day)?;
    let ranking = judge.rank(&candidates);
    let mark = |index: usize| match marks[bases[index]] {
        Some(Mark::Pin) if index >= own => None,
        mark => mark,
    };
    let sheet = draw_up(&judge, &candidates, &ranking, mark);
    let changes = if request.changes {
        let first = sheet.picks.first().map(|pick| pick.index);
        let changed =
            what_would_change(&day, &ways, &candidates, first, mark).map_err(of_the_day)?;
        let told = |change: &Changed| {
            let (what, to) = moved(change.moved);
            ChangeAnswer {
                moved: what,
                to,
                rig: change.instead.map(|index| bases[index]),
                swap: change
                    .instead
                    .map_or_else(Vec::new, |index| swap(&candidates[index])),
            }
        };
        Some(changed.iter().map(told).collect())
    } else {
        None
    };
    let mut rigs = Vec::new();
    for row in ranking.rows.iter().filter(|row| row.index < own) {
        rigs.push((row.index, judge.settle(&candidates, &ranking, row)?));
    }
    rigs.sort_by(|(a, a_call), (b, b_call)| {
        before(
            (a_call, &candidates[*a].name),
            (b_call, &candidates[*b].name),
        )
    });
    let role_of = |index: usize| {
        let pick = sheet.picks.iter().find(|pick| pick.index == index);
        pick.map(|pick| pick.role)
    };
    Ok(Answer {
        name: request.name,
        sun_alt_deg: day.overhead.sun_alt,
        changes,
        rigs: rigs
            .iter()
            .map(|(index, call)| call_answer(*index, &candidates[*index], call, role_of(*index)))
            .collect(),
        sheet: sheet
            .picks
            .iter()
            .map(|pick| {
                let candidate = &candidates[pick.index];
                let instead = (pick.outfit != Outfit::default()).then(|| InsteadAnswer {
                    weight_kg: pick.outfit.weight.map(|mass| mass.0),
                    lead_m: pick.outfit.lead.map(|lead| lead.0),
                    back_m: pick.outfit.back.map(|back| back.0),
                });
                CallAnswer {
                    instead,
                    ..call_answer(bases[pick.index], candidate, &pick.call, Some(pick.role))
                }
            })
            .collect(),
        nothing: sheet.nothing.map(|nothing| NothingAnswer {
            misfit: match nothing.misfit {
                Misfit::Fish => "fish",
                Misfit::Speed => "speed",
                Misfit::Depth => "depth",
            },
            nearest: nothing.nearest.map(|index| bases[index]),
            best_speed_mps: nothing.best_speed.0,
            build: nothing.build.map(Kind::key),
        }),
    })
}
