//! What the log tells: rates with how sure they are, two held against each other, the season, the fish.

use super::frame;
use crate::draw::{Happening, Lengths, LengthsSource, RateBar, Timeline, TimelineSource};
use crate::screens::{Better, Choice, EvidenceScreen, LengthRow, RateRow, Screen};
use crate::seen::Device;
use crate::units::System;
use crate::words::{self, bench as say, capital};
use jiff::civil::Date;
use motilis_core::book::RuleId;
use motilis_core::evidence::{
    Belief, CLARITY, Compared, DEPTH_BAND, ENOUGH_HOURS, Group, Grouping, Key, LEAD_BAND, Named,
    Record, SPEED_BAND, Verdict, WARMTH_BAND, best_of,
};
use motilis_core::fish::Fish;
use motilis_core::rig::Rig;
use motilis_core::rules::{LocalRule, Says};
use motilis_core::units::{Celsius, Metres, MetresPerSecond};
use motilis_formats::Rate;
use motilis_helm::{Book, Error, Evidence};
use motilis_store::rules;
use std::collections::BTreeMap;

/// What the page is asked for.
#[derive(Debug, Clone, Default)]
pub struct EvidenceLook {
    /// A fish by its key; empty for the one fished for, `all` for every one.
    pub fish: String,
    /// What rates are grouped by.
    pub by: String,
    /// What they are crossed with.
    pub crossed: String,
    /// The first of two groups to compare, by its key's text; the one with the most hours for none.
    pub a: String,
    /// The second.
    pub b: String,
}

/// Groups with fewer rod-hours are left out of the list.
const SHOWN_FROM: f64 = 0.5;
/// Most weeks of the season's list.
const MOST_WEEKS: usize = 80;
/// Most groups of a list.
const MOST: usize = 40;

fn blade(rig: &Rig) -> Option<String> {
    let mut blades = rig.stack().blades();
    let first = blades.next()?;
    let name = capital(&say::part_name(&first.2.part));
    Some(if blades.next().is_some() {
        format!("double {name}")
    } else {
        name
    })
}

fn bait(rig: &Rig) -> String {
    let pieces = rig.stack().pieces.iter();
    let mut baits = pieces.filter_map(|piece| piece.part.bait());
    baits
        .next()
        .map_or("no bait", |bait| bait.name())
        .to_owned()
}

/// What a group is called.
fn name(evidence: &Evidence<'_>, by: Grouping, key: &Key, system: System) -> String {
    let between = |band: i32, width: f64, shown: &dyn Fn(f64) -> crate::units::Figure| {
        let (low, high) = (f64::from(band) * width, f64::from(band + 1) * width);
        format!("{}–{}", shown(low).value, shown(high))
    };
    let depth = |metres: f64| system.depth(Metres(metres));
    match key {
        Key::Unknown => "not known".to_owned(),
        Key::Named(name) => capital(name),
        Key::Tackle(tackle) => evidence.name(*tackle).to_owned(),
        Key::Water(water) => evidence.waters.get(water).cloned().unwrap_or_default(),
        Key::Band(band) => match by {
            Grouping::UnderSurface => format!("{} down", between(*band, DEPTH_BAND.0, &depth)),
            Grouping::OverBottom => {
                format!("{} over the bottom", between(*band, DEPTH_BAND.0, &depth))
            }
            Grouping::Lead => format!("lead {}", between(*band, LEAD_BAND.0, &depth)),
            Grouping::Speed => between(*band, SPEED_BAND.0, &|speed| {
                system.speed(MetresPerSecond(speed))
            }),
            Grouping::Temperature => between(*band, WARMTH_BAND, &|warm| {
                system.temperature(Celsius(warm))
            }),
            Grouping::AfterDawn if *band < 0 => "before dawn".to_owned(),
            Grouping::AfterDawn => format!("{}–{} h after dawn", 2 * band, 2 * band + 2),
            Grouping::Clarity => match usize::try_from(*band).unwrap_or(0) {
                0 => format!("muddy, under {}", depth(CLARITY[0].0)),
                at if at < CLARITY.len() => format!(
                    "{}–{}",
                    depth(CLARITY[at - 1].0).value,
                    depth(CLARITY[at].0)
                ),
                _ => format!("clear, {} and more", depth(CLARITY[CLARITY.len() - 1].0)),
            },
            Grouping::Rig
            | Grouping::Blade
            | Grouping::Finish
            | Grouping::Water
            | Grouping::Bait => band.to_string(),
        },
    }
}

fn per_hour(rate: f64) -> String {
    if rate < 0.095 {
        format!("{rate:.3}")
    } else {
        format!("{rate:.2}")
    }
}

fn rests_on(record: Record, strikes: u32) -> String {
    let plural = if strikes == 1 { "" } else { "s" };
    format!(
        "{} fish, {strikes} strike{plural} in {:.1} rod-hours",
        record.fish, record.rod_hours
    )
}

pub(super) fn rate_row(
    name: String,
    belief: &Belief,
    strikes: u32,
    most: f64,
    best: Option<f64>,
) -> RateRow {
    let (low, high) = belief.interval();
    RateRow {
        name,
        bar: RateBar::new(belief.rate(), (low, high), belief.mean, most),
        rate: format!(
            "{} an hour ({}–{})",
            per_hour(belief.rate()),
            per_hour(low),
            per_hour(high)
        ),
        rests_on: rests_on(belief.record, strikes),
        best: best.map_or_else(String::new, |best| {
            format!("best of these: {:.0} %", best * 100.0)
        }),
    }
}

/// The end of a scale that holds most of the intervals.
pub(super) fn scale<'b>(beliefs: impl Iterator<Item = &'b Belief>) -> f64 {
    let ends = beliefs.map(|belief| belief.interval().1.min(4.0 * belief.rate()));
    ends.fold(0.1, f64::max) * 1.05
}

/// What a look asks for, out of the log.
struct Asked {
    fish: Option<Fish>,
    by: Grouping,
    crossed: Option<Grouping>,
}

impl Asked {
    fn of(book: &Book<'_>, look: &EvidenceLook) -> Result<Self, Error> {
        let usual = book.here_if_any()?.map(|here| here.outing.fish);
        let by = Grouping::from_key(&look.by).unwrap_or(Grouping::Rig);
        Ok(Self {
            fish: match look.fish.as_str() {
                "all" => None,
                key => Fish::from_key(key).or(usual),
            },
            by,
            crossed: Grouping::from_key(&look.crossed).filter(|crossed| *crossed != by),
        })
    }
}

const NAMED: Named<'_> = Named {
    blade: &blade,
    finish: &|rig| Some(say::finish(rig.finish())),
    bait: &|rig| Some(bait(rig)),
};

/// What a group is called, crossed or not.
fn called(evidence: &Evidence<'_>, asked: &Asked, group: &Group, system: System) -> [String; 2] {
    let first = name(evidence, asked.by, &group.key, system);
    let other = asked.crossed.zip(group.other.as_ref());
    let other = other.map(|(crossed, other)| name(evidence, crossed, other, system));
    [first, other.unwrap_or_default()]
}

/// Every rate of a look, for a table that goes out.
///
/// # Errors
/// [`Error::Store`].
pub fn rates(book: &Book<'_>, device: Device, look: &EvidenceLook) -> Result<Vec<Rate>, Error> {
    let asked = Asked::of(book, look)?;
    let evidence = Evidence::load(book, asked.fish, &NAMED)?;
    let rates = evidence.rates(asked.by, asked.crossed)?;
    let rows = rates.iter().map(|(group, belief)| {
        let [group_name, crossed] = called(&evidence, &asked, group, device.system);
        let (low, high) = belief.interval();
        Rate {
            group: group_name,
            crossed,
            fish: group.record.fish,
            strikes: group.strikes,
            rod_hours: group.record.rod_hours,
            rate_per_hour: belief.rate(),
            low_per_hour: low,
            high_per_hour: high,
        }
    });
    Ok(rows.collect())
}

/// The page.
///
/// # Errors
/// [`Error::Store`].
pub fn evidence(
    book: &Book<'_>,
    device: Device,
    look: &EvidenceLook,
) -> Result<EvidenceScreen, Error> {
    let system = device.system;
    let here = book.here_if_any()?;
    let asked = Asked::of(book, look)?;
    let (by, crossed) = (asked.by, asked.crossed);
    let evidence = Evidence::load(book, asked.fish, &NAMED)?;
    let rates = evidence.rates(by, crossed)?;
    let enough = |(group, _): &&(Group, Belief)| group.record.rod_hours >= SHOWN_FROM;
    let shown: Vec<&(Group, Belief)> = rates.iter().filter(enough).take(MOST).collect();
    let most = scale(shown.iter().map(|(_, belief)| belief));
    let best = best_of(&shown.iter().map(|(_, belief)| *belief).collect::<Vec<_>>());
    let called = |group: &Group| {
        let [first, other] = called(&evidence, &asked, group, system);
        if other.is_empty() {
            first
        } else {
            format!("{first}, {other}")
        }
    };
    let choices = |chosen: Option<usize>| -> Vec<Choice> {
        let all = shown.iter().enumerate();
        all.map(|(place, (group, _))| Choice {
            value: group.key.text(),
            label: called(group),
            chosen: chosen == Some(place),
        })
        .collect()
    };
    let place = |key: &str, otherwise| {
        let found = shown.iter().position(|(group, _)| group.key.text() == key);
        found.unwrap_or(otherwise)
    };
    let a = place(&look.a, 0);
    let pair = [a, place(&look.b, usize::from(a == 0))];
    let compared = match (shown.get(pair[0]), shown.get(pair[1])) {
        (Some((a, _)), Some((b, _))) if crossed.is_none() && a.key != b.key => {
            let compared = evidence.compared(by, &a.key, &b.key)?;
            Some(compared_row(&compared, [&called(a), &called(b)]))
        }
        _ => None,
    };
    let rules = match here {
        Some(here) => rules::of_water(book.connection(), here.outing.water)?,
        None => Vec::new(),
    };
    let rules: Vec<(RuleId, LocalRule)> = rules
        .into_iter()
        .filter(|(_, rule)| {
            here.is_some_and(|here| rule.holds_on(here.local(here.outing.started).date()))
        })
        .collect();
    let keys = |none: &'static str| {
        let all = Grouping::ALL.iter().map(|one| (one.key(), one.name()));
        [("", none)]
            .into_iter()
            .filter(|(_, none)| !none.is_empty())
            .chain(all)
    };
    let of = evidence.fish.map_or("all", Fish::key);
    let mut kinds: Vec<(&str, &str)> = vec![("all", "all of them")];
    kinds.extend(Fish::ALL.iter().map(|fish| (fish.key(), fish.name())));
    Ok(EvidenceScreen {
        frame: frame(here, Screen::Log, device, "/evidence"),
        fish: Choice::list(kinds, of),
        by: Choice::list(keys(""), by.key()),
        crossed: Choice::list(keys("nothing"), crossed.map_or("", Grouping::key)),
        is_crossed: crossed.is_some(),
        whole: whole(&evidence),
        unknown: unknown(&evidence),
        rates: shown
            .iter()
            .zip(best)
            .map(|((group, belief), best)| {
                let said = (group.record.rod_hours >= ENOUGH_HOURS).then_some(best);
                rate_row(called(group), belief, group.strikes, most, said)
            })
            .collect(),
        export: format!(
            "fish={of}&by={}&crossed={}",
            by.key(),
            crossed.map_or("", Grouping::key)
        ),
        by_cast: by_cast(&evidence)?,
        more: rates.len() - shown.len(),
        a: choices(Some(pair[0])),
        b: choices(Some(pair[1])),
        compared,
        hours: hours(&evidence, system),
        weeks: weeks(&evidence)?,
        lengths: lengths(&evidence, &rules, system),
    })
}

/// What each rig brought by the cast.
fn by_cast(evidence: &Evidence<'_>) -> Result<Vec<RateRow>, Error> {
    let all = evidence.by_cast()?;
    let most = scale(all.iter().filter_map(|one| one.belief.as_ref()));
    let rows = all.iter().filter_map(|one| {
        let belief = one.belief.as_ref()?;
        let (low, high) = belief.interval();
        Some(RateRow {
            name: evidence.name(one.tackle).to_owned(),
            bar: RateBar::new(belief.rate(), (low, high), belief.mean, most),
            rate: format!("{:.1} per 100 casts ({low:.1}–{high:.1})", belief.rate()),
            rests_on: format!(
                "{} fish, {} strike{} on {} casts",
                one.fish,
                one.strikes,
                if one.strikes == 1 { "" } else { "s" },
                one.casts
            ),
            best: String::new(),
        })
    });
    Ok(rows.collect())
}

fn whole(evidence: &Evidence<'_>) -> String {
    let Record { fish, rod_hours } = evidence.whole;
    let rate = evidence.angler.rate();
    let own = format!(
        "{fish} fish in {rod_hours:.1} rod-hours over {} outings",
        evidence.season.outings().len()
    );
    if rod_hours < 8.0 || fish == 0 {
        return format!(
            "{own}: too little for a mean of your own yet, so a fish in four hours stands for it."
        );
    }
    format!(
        "{own}: your mean is {} an hour, a fish in {:.1} rod-hours.",
        per_hour(rate),
        1.0 / rate
    )
}

fn unknown(evidence: &Evidence<'_>) -> Vec<String> {
    let mut said = Vec::new();
    if evidence.unknown > 0 {
        said.push(format!(
            "{} more fish count for no rate: nobody kept the hours of what they took, or they lie beyond their outing.",
            evidence.unknown
        ));
    }
    if evidence.without_passes > 0 {
        said.push(format!(
            "On {} outings no hours were kept at all.",
            evidence.without_passes
        ));
    }
    said
}

fn compared_row(compared: &Compared, [a, b]: [&str; 2]) -> Better {
    let said = |verdict: Verdict, probability: f64| {
        let (first, second) = if probability >= 0.5 { (a, b) } else { (b, a) };
        let sure = probability.max(1.0 - probability);
        match verdict {
            Verdict::CannotTell => format!("cannot tell ({sure:.2} for {first})"),
            _ => format!(
                "{first} is {} better than {second} ({sure:.2})",
                words::surely(verdict)
            ),
        }
    };
    let fair = match compared.stratified {
        None => format!(
            "{a} and {b} were never fished in the same place and hours with a fish on both: nothing can be told fairly."
        ),
        Some(ratio) => {
            let (low, high) = ratio.interval();
            let places = if ratio.informing == 1 {
                "place"
            } else {
                "places"
            };
            format!(
                "Within the same outing, depth and hours: {}. {a} brought {:.2} times as many an hour as {b} ({low:.2}–{high:.2}), from {} {places} and hours that tell.",
                said(compared.verdict, compared.probability),
                ratio.ratio,
                ratio.informing
            )
        }
    };
    let whole = compared.whole;
    let raw = format!(
        "Whatever they were fished in: {}. {a} has {} fish in {:.1} rod-hours, {b} {} in {:.1}.",
        said(compared.raw_verdict, compared.raw),
        whole.a.fish,
        whole.a.rod_hours,
        whole.b.fish,
        whole.b.rod_hours
    );
    Better {
        fair,
        raw,
        caution: compared
            .misleads()
            .then_some("The two do not agree: the raw figure is probably the depth or the hour."),
    }
}

/// Widths and height of the picture of hours.
const WIDE: (f64, f64) = (1_230.0, 240.0);
const NARROW: (f64, f64) = (390.0, 220.0);

/// Strikes and fish of all outings over the hours of a day.
fn hours(evidence: &Evidence<'_>, system: System) -> Option<(Timeline, Timeline)> {
    let bites = evidence
        .season
        .outings()
        .iter()
        .flat_map(|told| &told.bites);
    let happenings: Vec<Happening> = bites
        .map(|bite| Happening {
            second: bite.second,
            depth: bite.depth,
            mark: bite.kind.key(),
        })
        .collect();
    let deepest = happenings.iter().map(|one| 1.1 * one.depth.0);
    let bottom = Metres(deepest.fold(1.0, f64::max));
    let draw = |size| {
        Timeline::new(&TimelineSource {
            happenings: &happenings,
            bottom,
            system,
            size,
        })
    };
    draw(WIDE).zip(draw(NARROW))
}

/// Rates week by week, the first first.
fn weeks(evidence: &Evidence<'_>) -> Result<Vec<RateRow>, Error> {
    let mut weeks: BTreeMap<Date, (Record, u32)> = BTreeMap::new();
    for told in evidence.season.outings() {
        let monday = i32::from(told.date.weekday().to_monday_zero_offset());
        let Ok(week) = told.date.checked_sub(jiff::Span::new().days(monday)) else {
            continue;
        };
        let sum = weeks.entry(week).or_default();
        sum.0 = sum.0.and(told.whole);
        sum.1 += told.strikes;
    }
    let mut believed = Vec::new();
    for (week, (record, strikes)) in weeks {
        believed.push((week, evidence.angler.believes(record)?, strikes));
    }
    // The last year and a half: of twenty years nobody reads a list of weeks.
    let believed = believed.split_off(believed.len().saturating_sub(MOST_WEEKS));
    let most = scale(believed.iter().map(|(_, belief, _)| belief));
    let rows = believed.iter().map(|(week, belief, strikes)| {
        let name = format!("Week of {}", week.strftime("%-d %b %Y"));
        rate_row(name, belief, *strikes, most, None)
    });
    Ok(rows.collect())
}

/// Lengths at which the rules that hold on the outing's day change what may be kept of a fish.
fn limits_of(fish: Fish, rules: &[(RuleId, LocalRule)]) -> Vec<Metres> {
    let of = rules.iter().filter(|(_, rule)| rule.is_of(fish));
    let ends = of.filter_map(|(_, rule)| match rule.says {
        Says::Slot(slot) => Some([slot.from, slot.to]),
        _ => None,
    });
    ends.flatten().flatten().collect()
}

/// Fish of a kind: their lengths and whether each was kept, how many were kept, how many there are.
type Landed = (Fish, Vec<(Metres, bool)>, u32, u32);

/// Landed fish, species by species.
fn lengths(
    evidence: &Evidence<'_>,
    rules: &[(RuleId, LocalRule)],
    system: System,
) -> Vec<LengthRow> {
    let mut caught: BTreeMap<&'static str, Landed> = BTreeMap::new();
    for one in evidence
        .season
        .outings()
        .iter()
        .flat_map(|told| &told.caught)
    {
        let entry = caught
            .entry(one.fish.name())
            .or_insert((one.fish, Vec::new(), 0, 0));
        entry.1.extend(one.length.map(|length| (length, one.kept)));
        entry.2 += u32::from(one.kept);
        entry.3 += 1;
    }
    let mut rows = Vec::new();
    for (name, (fish, mut lengths, kept, count)) in caught {
        let limits = &limits_of(fish, rules)[..];
        lengths.sort_by(|a, b| a.0.0.total_cmp(&b.0.0));
        let shown = |length: Metres| system.length_in_fractions(length).to_string();
        let middle = lengths.get(lengths.len() / 2).map(|(length, _)| *length);
        let said = match (lengths.first(), lengths.last(), middle) {
            (Some(least), Some(most), Some(middle)) => format!(
                "{} to {}, half of them above {}",
                shown(least.0),
                shown(most.0),
                shown(middle)
            ),
            _ => "none measured".to_owned(),
        };
        let standard = fish.standard_weight(false);
        let weight = middle.and_then(|middle| {
            let standard = standard?;
            let weight = system.fish_weight(standard.of(middle)?);
            Some(format!("{weight} ({}, from memory)", standard.source))
        });
        let draw = |width| {
            Lengths::new(&LengthsSource {
                fish: &lengths,
                limits,
                system,
                width,
                title: format!("Lengths of {} {name}: {said}.", lengths.len()),
            })
        };
        rows.push(LengthRow {
            picture: draw(WIDE.0).zip(draw(NARROW.0)),
            name,
            count: format!("{count}, {} measured, {kept} kept", lengths.len()),
            lengths: said,
            weight: weight.unwrap_or_else(|| "no published equation here".to_owned()),
        });
    }
    rows
}
