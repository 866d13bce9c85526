//! `solve rate`: what fish and rod-hours say of rigs, and of two of them within the same places and hours.

use crate::{Refusal, Refused};
use motilis_core::evidence::{Angler, Belief, Record, Stratum, best_of, stratified};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Most rigs, and most strata, of one question.
const MOST: usize = 10_000;
/// Most fish of a rig: more would only be waited for.
const MOST_FISH: u32 = 100_000;
/// Most rigs that are held against each other at once.
const MOST_RIGS: usize = 200;

/// Rigs with what they caught, and strata of two.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = RateRequest, example = json!({"mean_per_hour": 0.25, "rigs": [{"fish": 4, "rod_hours": 3.1}, {"fish": 1, "rod_hours": 6.4}],
    "strata": [{"a_fish": 4, "a_hours": 3.1, "b_fish": 1, "b_hours": 2.0}]}))]
pub struct Request {
    /// Comes back with the answer.
    pub name: Option<String>,
    /// What the angler catches on the whole, fish per rod-hour; a fish in four hours when it is left out.
    pub mean_per_hour: Option<f64>,
    /// The rigs; 1 to 200.
    pub rigs: Vec<Rig>,
    /// Outing, band of depth and hours, in which the first (a) and the second (b) rig were fished.
    #[serde(default)]
    pub strata: Vec<Both>,
}

/// What a rig caught.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Rig {
    /// Fish on, at most 100 000.
    pub fish: u32,
    /// Hours a rod carried it, 0 to 1 000 000.
    pub rod_hours: f64,
}

/// Two rigs in one place at one time.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Both {
    /// Fish on the first.
    pub a_fish: u32,
    /// Rod-hours of the first.
    pub a_hours: f64,
    /// Fish on the second.
    pub b_fish: u32,
    /// Rod-hours of the second.
    pub b_hours: f64,
}

/// Rates with their 80 % intervals, in the order of the rigs, and how they stand to each other.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[schema(as = RateAnswer)]
pub struct Answer {
    /// The request's name.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub name: Option<String>,
    /// Posterior mean, fish per rod-hour.
    pub rates: Vec<f64>,
    /// Its 10 % point.
    pub low: Vec<f64>,
    /// Its 90 % point.
    pub high: Vec<f64>,
    /// Probability that the first rate is above the second; null with one rig.
    pub p_first_over_second: Option<f64>,
    /// Probability of each to be the best of all.
    pub p_best: Vec<f64>,
    /// The word for the better of the first two: cannot tell, leaning, likely, clear; null with one rig.
    pub verdict: Option<&'static str>,
    /// Mantel–Haenszel rate ratio of first over second; null where the strata leave nothing to compare.
    pub stratified_ratio: Option<f64>,
    /// Standard error of its logarithm (Greenland & Robins).
    pub stratified_log_se: Option<f64>,
    /// Strata in which both were fished and something bit.
    pub informing_strata: usize,
}

/// Answers one request.
///
/// # Errors
/// [`Refusal`] with the field.
#[utoipa::path(post, path = "/api/v1/solve/rate", tag = "solve", request_body = Request, responses(
    (status = 200, description = "Rates, intervals and comparisons", body = Answer),
    (status = 422, description = "The field that is wrong, and why", body = Refused),
))]
pub fn solve(request: Request) -> Result<Answer, Refusal> {
    let angler = match request.mean_per_hour {
        Some(rate) => Angler::with_rate(rate)?,
        None => Angler::default(),
    };
    if request.rigs.is_empty() || request.rigs.len() > MOST_RIGS {
        let said = format!(
            "rigs has {} entries; give 1 to {MOST_RIGS}",
            request.rigs.len()
        );
        return Err(Refusal::new("rigs", said));
    }
    if request.strata.len() > MOST {
        let said = format!(
            "strata has {} entries; give at most {MOST}",
            request.strata.len()
        );
        return Err(Refusal::new("strata", said));
    }
    let record = |fish, rod_hours, path: &dyn Fn() -> String| {
        if fish > MOST_FISH {
            let said = format!("{fish} fish are more than {MOST_FISH}; give at most so many");
            return Err(Refusal::new(
                path().replace("hours", "fish").replace("rod_", ""),
                said,
            ));
        }
        let record = Record { fish, rod_hours };
        let believed = angler.believes(record);
        believed.map_err(|error| Refusal::new(path(), Refusal::from(error).message))
    };
    let beliefs: Vec<Belief> = (0..)
        .zip(&request.rigs)
        .map(|(at, rig): (usize, _)| {
            record(rig.fish, rig.rod_hours, &|| format!("rigs[{at}].rod_hours"))
        })
        .collect::<Result<_, _>>()?;
    let strata: Vec<Stratum> = (0..)
        .zip(&request.strata)
        .map(|(at, one): (usize, _)| {
            let side =
                |fish, hours, name: &str| record(fish, hours, &|| format!("strata[{at}].{name}"));
            Ok(Stratum {
                a: side(one.a_fish, one.a_hours, "a_hours")?.record,
                b: side(one.b_fish, one.b_hours, "b_hours")?.record,
            })
        })
        .collect::<Result<_, Refusal>>()?;
    let ratio = stratified(&strata);
    let intervals = beliefs.iter().map(Belief::interval);
    let (low, high) = intervals.unzip();
    let pair = beliefs.first().zip(beliefs.get(1));
    Ok(Answer {
        name: request.name,
        rates: beliefs.iter().map(Belief::rate).collect(),
        low,
        high,
        p_first_over_second: pair.map(|(first, second)| first.beats(second)),
        p_best: best_of(&beliefs),
        verdict: pair.map(|(first, second)| {
            let verdict = first.verdict_over(second).max(second.verdict_over(first));
            verdict.name()
        }),
        stratified_ratio: ratio.map(|ratio| ratio.ratio),
        stratified_log_se: ratio.map(|ratio| ratio.log_error),
        informing_strata: ratio.map_or(0, |ratio| ratio.informing),
    })
}
