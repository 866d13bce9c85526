//! `solve fish`: what a fish should weigh, and what typed-in rules say of it. Nothing of it says what is legal.

use crate::{Refusal, Refused};
use jiff::civil::Date;
use motilis_core::book::RuleId;
use motilis_core::fields;
use motilis_core::fish::{Fish, weight_by_girth};
use motilis_core::rules::{Landed, LocalRule, Saying, Says, Slot, Topic, of_landed};
use motilis_core::units::{Kilograms, Metres};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A fish on the board.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = FishRequest, example = json!({"species": "walleye", "length_m": 0.419, "date": "2026-06-10",
    "rules": [{"topic": "slot", "slot_from_m": 0.4064, "to": "2026-06-30", "source": "the booklet of 2026"}]}))]
pub struct Request {
    /// Comes back with the answer.
    pub name: Option<String>,
    /// Which fish, by its key: `walleye`, `rainbow_trout` ...
    pub species: String,
    /// Total length, m.
    pub length_m: Option<f64>,
    /// Girth, m.
    pub girth_m: Option<f64>,
    /// What a scale says, kg.
    pub weight_kg: Option<f64>,
    /// Whether it comes from a river, where both equations were published.
    #[serde(default)]
    pub river: bool,
    /// How finely it was measured, m; 5 mm when left out.
    pub step_m: Option<f64>,
    /// The day, `YYYY-MM-DD`; needed with rules.
    pub date: Option<String>,
    /// Fish of its kind kept that day before it.
    #[serde(default)]
    pub kept: u32,
    /// Of those, above a slot that allows one over.
    #[serde(default)]
    pub over: u32,
    /// Fish of its kind possessed from the days before.
    pub possessed: Option<u32>,
    /// Rules as they were typed in.
    #[serde(default)]
    pub rules: Vec<Rule>,
}

/// A typed-in rule; of all fish when it names none.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = FishRule)]
pub struct Rule {
    /// slot, daily, possession or closed.
    pub topic: String,
    /// Which fish.
    pub species: Option<String>,
    /// First day.
    pub from: Option<String>,
    /// Last day.
    pub to: Option<String>,
    /// Most, of daily and possession.
    pub most: Option<u8>,
    /// Lower end of a slot, m.
    pub slot_from_m: Option<f64>,
    /// Upper end of a slot, m.
    pub slot_to_m: Option<f64>,
    /// Whether fish within the slot go back.
    #[serde(default)]
    pub slot_protected: bool,
    /// Whether one above the slot may be kept.
    #[serde(default)]
    pub slot_one_over: bool,
    /// Where it was read.
    pub source: String,
}

/// What a fish should weigh and what the rules given say. Check the current regulations.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[schema(as = FishAnswer)]
pub struct Answer {
    /// The request's name.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub name: Option<String>,
    /// Standard weight Ws, kg; null below its least length or where none is published.
    pub standard_weight_kg: Option<f64>,
    /// Shortest fish of the equation, m.
    pub least_length_m: Option<f64>,
    /// Where the equation stands; its figures are from memory.
    pub source: Option<&'static str>,
    /// Relative weight Wr, %.
    pub relative_weight: Option<f64>,
    /// Length times girth squared over 800, kg (common practice).
    pub girth_weight_kg: Option<f64>,
    /// What each rule that holds says, those that send it back first.
    pub rules: Vec<Said>,
}

/// What a rule says of the fish.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Said {
    /// Which of the rules given, counted from 0.
    pub rule: usize,
    /// `goes_back`, `within_slot`, `one_over`, `over_taken`, `too_close`, `too_many`, `counts` or `closed`.
    pub says: &'static str,
    /// Whether, by that rule, it goes back.
    pub forbids: bool,
    /// The limit it is too close to, m.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub limit_m: Option<f64>,
    /// Which one it would be.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub nth: Option<u32>,
    /// First day of the rule that follows.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub next_from: Option<String>,
    /// Lower end of the slot that follows, m.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub next_slot_from_m: Option<f64>,
    /// Upper end of the slot that follows, m.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub next_slot_to_m: Option<f64>,
}

fn fish(key: &str, field: &str) -> Result<Fish, Refusal> {
    Fish::from_key(key).ok_or_else(|| {
        let known: Vec<&str> = Fish::ALL.iter().map(|fish| fish.key()).collect();
        let said = format!(
            "{field} {key:?} is not known; it is one of {}",
            known.join(", ")
        );
        Refusal::new(field, said)
    })
}

fn day(text: Option<&str>, field: &str) -> Result<Option<Date>, Refusal> {
    let read = |text: &str| {
        let said = || format!("{field} {text:?} is not a day like 2026-06-30");
        text.parse().map_err(|_| Refusal::new(field, said()))
    };
    text.map(read).transpose()
}

impl Rule {
    fn read(&self, entered: Date) -> Result<LocalRule, Refusal> {
        let topic = Topic::from_key(&self.topic);
        let says = match (topic, self.most) {
            (Some(Topic::Slot), _) => Says::Slot(Slot {
                from: self.slot_from_m.map(Metres),
                to: self.slot_to_m.map(Metres),
                protected: self.slot_protected,
                one_over: self.slot_one_over,
            }),
            (Some(topic @ (Topic::Daily | Topic::Possession)), Some(most)) => {
                Says::AtMost(topic, most)
            }
            (Some(Topic::Daily | Topic::Possession), None) => {
                return Err(Refusal::new(
                    "most",
                    "most is missing; give how many may be kept",
                ));
            }
            (Some(Topic::Closed), _) => Says::Holds(Topic::Closed),
            _ => {
                let said = format!(
                    "topic {:?} is not of a fish; it is one of slot, daily, possession, closed",
                    self.topic
                );
                return Err(Refusal::new("topic", said));
            }
        };
        let rule = LocalRule {
            says,
            fish: self
                .species
                .as_deref()
                .map(|key| fish(key, "species"))
                .transpose()?,
            from: day(self.from.as_deref(), "from")?,
            to: day(self.to.as_deref(), "to")?,
            source: self.source.clone(),
            entered,
        };
        rule.check()?;
        Ok(rule)
    }
}

fn said(id: RuleId, saying: Saying) -> Said {
    let bare = |says| Said {
        rule: usize::try_from(id.0).unwrap_or_default(),
        says,
        forbids: saying.forbids(),
        limit_m: None,
        nth: None,
        next_from: None,
        next_slot_from_m: None,
        next_slot_to_m: None,
    };
    match saying {
        Saying::GoesBack { next, .. } => {
            let slot = next.and_then(|next| next.slot);
            Said {
                next_from: next.map(|next| next.from.to_string()),
                next_slot_from_m: slot.and_then(|slot| slot.from).map(|end| end.0),
                next_slot_to_m: slot.and_then(|slot| slot.to).map(|end| end.0),
                ..bare("goes_back")
            }
        }
        Saying::WithinSlot(_) => bare("within_slot"),
        Saying::OneOver(_) => bare("one_over"),
        Saying::OverTaken(_) => bare("over_taken"),
        Saying::TooClose(limit) => Said {
            limit_m: Some(limit.0),
            ..bare("too_close")
        },
        Saying::TooMany(_, nth, _) => Said {
            nth: Some(nth),
            ..bare("too_many")
        },
        Saying::Counts(_, nth, _) => Said {
            nth: Some(nth),
            ..bare("counts")
        },
        Saying::Closed => bare("closed"),
    }
}

/// Answers one request.
///
/// # Errors
/// [`Refusal`] with the field.
#[utoipa::path(post, path = "/api/v1/solve/fish", tag = "solve", request_body = Request, responses(
    (status = 200, description = "Weights, and what the rules given say", body = Answer),
    (status = 422, description = "The field that is wrong, and why", body = Refused),
))]
pub fn solve(request: Request) -> Result<Answer, Refusal> {
    let fish = fish(&request.species, "species")?;
    let figures = [
        (fields::FISH_LENGTH, request.length_m),
        (fields::FISH_GIRTH, request.girth_m),
        (fields::FISH_WEIGHT, request.weight_kg),
        (fields::FISH_STEP, request.step_m),
    ];
    for (field, figure) in figures {
        if let Some(figure) = figure {
            field.check(figure)?;
        }
    }
    let length = request.length_m.map(Metres);
    let standard = fish.standard_weight(request.river);
    let weight = request.weight_kg.map(Kilograms);
    let by_equation = standard.zip(length);
    let rules = match (
        request.rules.as_slice(),
        day(request.date.as_deref(), "date")?,
    ) {
        ([], _) => Vec::new(),
        (_, None) => {
            return Err(Refusal::new(
                "date",
                "date is missing; rules hold on days, give one",
            ));
        }
        (typed, Some(date)) => {
            let read = |(at, rule): (i64, &Rule)| {
                let read = rule
                    .read(date)
                    .map_err(|error| error.under(&format!("rules[{at}]")));
                Ok::<_, Refusal>((RuleId(at), read?))
            };
            let rules: Vec<_> = (0..).zip(typed).map(read).collect::<Result<_, _>>()?;
            let landed = Landed {
                fish,
                length,
                step: Metres(request.step_m.unwrap_or(0.005)),
                date,
                kept: request.kept,
                over: request.over,
                possessed: request.possessed,
            };
            let sayings = of_landed(&landed, &rules).into_iter();
            sayings.map(|(id, saying)| said(id, saying)).collect()
        }
    };
    Ok(Answer {
        name: request.name,
        standard_weight_kg: by_equation
            .and_then(|(standard, length)| standard.of(length))
            .map(|weight| weight.0),
        least_length_m: standard.map(|standard| standard.least.0),
        source: standard.map(|standard| standard.source),
        relative_weight: by_equation
            .zip(weight)
            .and_then(|((standard, length), weight)| standard.relative(length, weight)),
        girth_weight_kg: length
            .zip(request.girth_m)
            .map(|(length, girth)| weight_by_girth(length, Metres(girth)).0),
        rules,
    })
}
