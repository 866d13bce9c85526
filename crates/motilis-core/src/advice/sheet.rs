use super::call::{Call, Verdict};
use super::candidate::{Candidate, Stand};
use super::day::{Day, Mood, Sky};
use super::judge::{Judge, Ranked, Ranking};
use super::outfit::Outfit;
use super::weight::Ways;
use crate::error::Error;
use crate::keyed::keyed;
use crate::line::LineSetup;
use crate::rig::Kind;
use crate::units::{Celsius, MILE_PER_HOUR, Metres, MetresPerSecond};
use std::sync::Arc;

/// What the angler said of a candidate.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Mark {
    /// It shall be on the sheet if it works.
    Pin,
    /// It shall not.
    Veto,
}

/// A place on the sheet.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Role {
    /// The best.
    Primary,
    /// The best that is unlike it.
    Contrast,
    /// For the rest of the rods: unlike both, and least is known of it.
    Probe,
}

keyed!(Mark { Pin "pin" "pinned", Veto "veto" "vetoed" });
keyed!(Role {
    Primary "primary" "first call",
    Contrast "contrast" "contrast",
    Probe "probe" "probe",
});

/// A candidate with its place on the sheet.
#[derive(Debug, Clone, PartialEq)]
pub struct Pick {
    /// Its place.
    pub role: Role,
    /// Which candidate.
    pub index: usize,
    /// Its judgement, on what it goes out on.
    pub call: Call,
    /// That set-up.
    pub setup: Arc<LineSetup>,
    /// What of it is otherwise than its own.
    pub outfit: Outfit,
}

/// The call sheet.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Sheet {
    /// At most one for each role, in their order.
    pub picks: Vec<Pick>,
    /// Why there is no first call.
    pub nothing: Option<Nothing>,
}

/// That nothing fits, and what comes nearest.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Nothing {
    /// The candidate nearest to the speed asked, of those tied for the fish.
    pub nearest: Option<usize>,
    /// The speed at which it is at its best.
    pub best_speed: MetresPerSecond,
    /// What is wrong.
    pub misfit: Misfit,
    /// A kind to build, that practice runs at the speed asked.
    pub build: Option<Kind>,
}

/// Why nothing fits.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Misfit {
    /// The box has nothing that is tied for the fish.
    Fish,
    /// What there is runs at other speeds.
    Speed,
    /// What there is cannot go to the depth, is against a rule, or not sound.
    Depth,
}

/// Share of the speed asked by which a call's best speed may be off.
const NEAR_ENOUGH: f64 = 0.25;
/// Candidates that are tried on other tools for each place on the sheet.
const TRIED: usize = 12;

/// How much it counts for a probe that nothing is known of it.
const UNKNOWN_BONUS: f64 = 0.8;

/// Draws up the call sheet: the best that works, the best that is unlike it, and a probe. Pinned candidates
/// come first, vetoed ones not at all.
///
/// - `mark`: what the angler said of a candidate, by its place.
///
/// A candidate that cannot be judged to the end is called by nobody.
pub fn draw_up(
    judge: &Judge<'_>,
    candidates: &[Candidate],
    ranking: &Ranking,
    mark: impl Fn(usize) -> Option<Mark>,
) -> Sheet {
    let mut sheet = Sheet::default();
    let mut refused = vec![false; candidates.len()];
    for &role in Role::ALL {
        let mut rows: Vec<_> = ranking
            .rows
            .iter()
            .filter(|row| !row.ruled_out && mark(row.index) != Some(Mark::Veto))
            .filter(|row| sheet.picks.iter().all(|pick| pick.index != row.index))
            .collect();
        if role == Role::Probe {
            let worth = |row: &&Ranked| {
                row.score + UNKNOWN_BONUS * (1.0 - certainty(judge, &candidates[row.index]))
            };
            // A stable sort: equal ones stay in the order of rank and name.
            rows.sort_by(|a, b| worth(b).total_cmp(&worth(a)));
        }
        let pinned = |index: usize| mark(index) == Some(Mark::Pin);
        let mut tried = 0;
        // Pinned ones come first, whatever they are like.
        let (first, others): (Vec<_>, Vec<_>) = rows.into_iter().partition(|row| pinned(row.index));
        for row in first.into_iter().chain(others) {
            // A rig is called once, with whatever blade.
            let unlike = sheet.picks.iter().all(|pick| {
                let (picked, other) = (&candidates[pick.index], &candidates[row.index]);
                differences(picked, other) >= 2 && picked.rig.name != other.rig.name
            });
            if !unlike && !pinned(row.index) {
                continue;
            }
            if !pinned(row.index) && !fits(judge, row) {
                continue;
            }
            if refused[row.index] || tried >= TRIED {
                continue;
            }
            // What cannot be computed is called by nobody.
            let Ok((call, setup, outfit)) = judge.outfitted(candidates, ranking, row) else {
                continue;
            };
            if call.verdict == Verdict::Works {
                sheet.picks.push(Pick {
                    role,
                    index: row.index,
                    call,
                    setup,
                    outfit,
                });
                break;
            }
            refused[row.index] = true;
            tried += 1;
        }
    }
    if sheet.picks.is_empty() {
        sheet.nothing = Some(nothing(judge, candidates, ranking, mark));
    }
    sheet
}

/// Whether a candidate may be called: tied for the fish, and at its best near the speed asked, or run at that speed by
/// practice.
fn fits(judge: &Judge<'_>, row: &Ranked) -> bool {
    let speed = judge.day().speed;
    if judge.day().river {
        return is_tied_for_it(judge, row);
    }
    let practice = row.kind().trolled();
    let in_use = practice.from <= speed && speed <= practice.to;
    is_tied_for_it(judge, row) && (in_use || is_near(judge.best_speed_of(row), speed))
}

fn is_near(best: MetresPerSecond, asked: MetresPerSecond) -> bool {
    (best / asked - 1.0).abs() <= NEAR_ENOUGH
}

impl Pick {
    /// Whether it is at its best so far from the speed asked that the call must say so.
    pub fn is_off_its_best(&self, asked: MetresPerSecond) -> bool {
        !is_near(self.call.best_speed, asked)
    }
}

fn is_tied_for_it(judge: &Judge<'_>, row: &Ranked) -> bool {
    judge.day().kinds().contains(&row.kind())
}

/// What comes nearest where nothing fits.
fn nothing(
    judge: &Judge<'_>,
    candidates: &[Candidate],
    ranking: &Ranking,
    mark: impl Fn(usize) -> Option<Mark>,
) -> Nothing {
    let day = judge.day();
    let off = |row: &Ranked| (judge.best_speed_of(row) / day.speed).ln().abs();
    let may = |row: &&Ranked| {
        mark(row.index) != Some(Mark::Veto)
            && !matches!(candidates[row.index].stand, Stand::Short(_))
    };
    let mut tied: Vec<&Ranked> = ranking
        .rows
        .iter()
        .filter(may)
        .filter(|row| is_tied_for_it(judge, row))
        .collect();
    tied.sort_by(|a, b| off(a).total_cmp(&off(b)));
    let nearest = tied.first();
    let at_speed = nearest.is_some_and(|row| fits(judge, row));
    Nothing {
        nearest: nearest.map(|row| row.index),
        best_speed: nearest.map_or(day.speed, |row| judge.best_speed_of(row)),
        misfit: match nearest {
            None => Misfit::Fish,
            Some(_) if at_speed => Misfit::Depth,
            Some(_) => Misfit::Speed,
        },
        build: day.kinds().iter().copied().find(|kind| {
            let practice = kind.trolled();
            day.river || (practice.from <= day.speed && day.speed <= practice.to)
        }),
    }
}

fn certainty(judge: &Judge<'_>, candidate: &Candidate) -> f64 {
    judge
        .ways()
        .angler
        .believes(candidate.record)
        .map_or(0.0, |belief| belief.certainty)
}

/// In how many ways two rigs differ: kind, blade family, finish, size of the blade by a quarter or more.
pub fn differences(a: &Candidate, b: &Candidate) -> usize {
    let [blade_a, blade_b] = [a, b].map(|one| one.rig.front_blade().map(|(blade, _)| blade));
    let sizes = match (blade_a, blade_b) {
        (Some(a), Some(b)) => a.length.0 / b.length.0,
        _ => 1.0,
    };
    [
        a.rig.kind() != b.rig.kind(),
        blade_a.map(|blade| blade.family) != blade_b.map(|blade| blade.family),
        a.rig.finish().colour != b.rig.finish().colour,
        !(0.8..=1.25).contains(&sizes),
    ]
    .into_iter()
    .filter(|differs| *differs)
    .count()
}

/// The order of the list below the sheet: by verdict, then by score from the highest, then by name.
pub fn before(a: (&Call, &str), b: (&Call, &str)) -> std::cmp::Ordering {
    let ((a, a_name), (b, b_name)) = (a, b);
    a.verdict
        .cmp(&b.verdict)
        .then_with(|| b.score.total_cmp(&a.score))
        .then_with(|| a_name.cmp(b_name))
}

/// A condition that is moved to see whether the call holds.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Move {
    /// The sky turns to this.
    Sky(Sky),
    /// The water comes to this temperature.
    Temperature(Celsius),
    /// The disk is lost at this depth.
    Clarity(Metres),
    /// The sun goes to this altitude, degrees.
    Sun(f64),
    /// The fish turn to this mood.
    Mood(Mood),
    /// The boat goes at this speed.
    Speed(crate::units::MetresPerSecond),
}

impl Move {
    /// The day with the condition moved.
    pub fn of(self, day: &Day) -> Day {
        let mut moved = *day;
        match self {
            Self::Sky(sky) => {
                moved.sky = sky;
                moved.overhead.cloud = sky.cloud();
            }
            Self::Temperature(temperature) => moved.temperature = temperature,
            Self::Clarity(clarity) => moved.clarity = clarity,
            Self::Sun(altitude) => moved.overhead.sun_alt = altitude,
            Self::Mood(mood) => moved.mood = mood,
            Self::Speed(speed) => moved.speed = speed,
        }
        moved
    }
}

/// The moves that make sense from a day, each to one that can be.
pub fn moves(day: &Day) -> Vec<Move> {
    let mut moves = Vec::new();
    if day.sky == Sky::Sun || day.sky == Sky::Broken {
        moves.push(Move::Sky(Sky::Cloud));
    } else {
        moves.push(Move::Sky(Sky::Sun));
    }
    if day.overhead.sun_alt > 0.0 {
        moves.push(Move::Sun(-4.0));
    } else {
        moves.push(Move::Sun(30.0));
    }
    for kelvin in [4.0, -4.0] {
        let moved = Celsius(day.temperature.0 + kelvin);
        if (0.0..=30.0).contains(&moved.0) {
            moves.push(Move::Temperature(moved));
        }
    }
    for factor in [2.0, 0.5] {
        let moved = Metres(day.clarity.0 * factor);
        if day.stain.secchi_range().holds(moved.0) {
            moves.push(Move::Clarity(moved));
        }
    }
    moves.extend(
        Mood::ALL
            .iter()
            .filter(|mood| **mood != day.mood)
            .map(|mood| Move::Mood(*mood)),
    );
    for step in [0.4, -0.4] {
        let moved = day.speed + step * MILE_PER_HOUR;
        if (0.15..=4.0).contains(&moved.0) {
            moves.push(Move::Speed(moved));
        }
    }
    moves
}

/// What a move makes of the first call.
#[derive(Debug, Clone, PartialEq)]
pub struct Changed {
    /// What is moved.
    pub moved: Move,
    /// The candidate that would be called first; `None` when nothing works then.
    pub instead: Option<usize>,
}

/// The moves that would change the first call, found by judging all candidates again with each.
///
/// # Errors
/// As [`Judge::new`].
pub fn what_would_change(
    day: &Day,
    ways: &Ways,
    candidates: &[Candidate],
    first: Option<usize>,
    mark: impl Fn(usize) -> Option<Mark> + Copy,
) -> Result<Vec<Changed>, Error> {
    let mut changed = Vec::new();
    for moved in moves(day) {
        let other = moved.of(day);
        let judge = Judge::new(&other, ways)?;
        let ranking = judge.rank(candidates);
        let sheet = draw_up(&judge, candidates, &ranking, mark);
        let instead = sheet.picks.first().map(|pick| pick.index);
        if instead != first {
            changed.push(Changed { moved, instead });
        }
    }
    Ok(changed)
}

#[cfg(test)]
pub(super) mod tests {
    use super::super::day::tests::summer;
    use super::*;
    use crate::bench::starting;
    use crate::blade::Family;
    use crate::fish::Fish;
    use crate::line::LineSetup;
    use crate::rig::{Colour, Edit, Finish, Kind, Part, Piece, Rig, What};
    use crate::tackle::{SinkerStyle, Weight, WeightMaterial};
    use crate::units::OUNCE;

    fn rig(name: &str, kind: Kind, family: Family, number: f64, colour: Colour) -> Candidate {
        let stack = starting(kind, Fish::Walleye, kind.usual_hook_size(), &[]).unwrap();
        let at = stack.blades().next().unwrap().0;
        let blade = Part::new(What::Blade(family), number, Finish::plain(colour)).unwrap();
        let piece = Piece::one(blade);
        let stack = stack.edited(&Edit::Replace { at, piece }).unwrap();
        let setup = LineSetup {
            weight: Some(Weight::Sinker(
                SinkerStyle::BottomBouncer,
                2.0 * OUNCE,
                WeightMaterial::Tin,
            )),
            ..LineSetup::usual().unwrap()
        };
        Candidate::made_up(Rig::new(name, stack).unwrap(), setup)
    }

    pub fn harness(name: &str) -> Candidate {
        rig(
            name,
            Kind::CrawlerHarness,
            Family::Colorado,
            4.0,
            Colour::Brass,
        )
    }

    fn few() -> Vec<Candidate> {
        use Kind::{CrawlerHarness, WingWorm};
        vec![
            harness("plain"),
            rig(
                "copper",
                CrawlerHarness,
                Family::Colorado,
                4.0,
                Colour::Copper,
            ),
            rig(
                "narrow",
                CrawlerHarness,
                Family::Indiana,
                4.0,
                Colour::Chartreuse,
            ),
            rig("wing", WingWorm, Family::SoftWing, 1.5, Colour::Orange),
        ]
    }

    fn sheet(day: &Day, candidates: &[Candidate], mark: impl Fn(usize) -> Option<Mark>) -> Sheet {
        let ways = Ways::usual(day.fish);
        let judge = Judge::new(day, &ways).unwrap();
        let ranking = judge.rank(candidates);
        draw_up(&judge, candidates, &ranking, mark)
    }

    fn indices(sheet: &Sheet) -> Vec<usize> {
        sheet.picks.iter().map(|pick| pick.index).collect()
    }

    #[test]
    fn each_pick_is_unlike_the_others() {
        let candidates = few();
        let sheet = sheet(&summer(), &candidates, |_| None);
        assert!(sheet.picks.len() >= 2, "{:?}", indices(&sheet));
        for (place, pick) in sheet.picks.iter().enumerate() {
            assert_eq!(pick.role, Role::ALL[place]);
            assert_eq!(pick.call.verdict, Verdict::Works);
            for other in &sheet.picks[..place] {
                assert!(differences(&candidates[pick.index], &candidates[other.index]) >= 2);
            }
        }
    }

    #[test]
    fn a_rig_is_called_once_with_whatever_blade() {
        let mut candidates = few();
        let first = indices(&sheet(&summer(), &candidates, |_| None))[0];
        // The same rig again, with a blade that is as unlike as can be.
        let name = candidates[first].rig.name.clone();
        for other in &mut candidates {
            other.rig.name.clone_from(&name);
        }
        assert_eq!(indices(&sheet(&summer(), &candidates, |_| None)), [first]);
    }

    #[test]
    fn a_pin_comes_first_and_a_veto_not_at_all() {
        let candidates = few();
        let free = indices(&sheet(&summer(), &candidates, |_| None));
        let last = (0..candidates.len())
            .find(|index| !free.contains(index))
            .unwrap();
        let pin = |index| (index == last).then_some(Mark::Pin);
        assert_eq!(indices(&sheet(&summer(), &candidates, pin))[0], last);
        let veto = |index| (index == free[0]).then_some(Mark::Veto);
        assert!(!indices(&sheet(&summer(), &candidates, veto)).contains(&free[0]));
    }

    #[test]
    fn what_does_not_work_is_not_called_even_pinned() {
        let fast = Day {
            speed: 3.2 * MILE_PER_HOUR,
            ..summer()
        };
        let called = indices(&sheet(&fast, &few(), |index| {
            (index == 0).then_some(Mark::Pin)
        }));
        assert!(!called.contains(&0));
    }

    #[test]
    fn every_move_leads_to_a_day_that_can_be() {
        let day = summer();
        let moves = moves(&day);
        assert!(moves.len() >= 8, "{moves:?}");
        for moved in moves {
            let other = moved.of(&day);
            assert_ne!(other, day);
            Judge::new(&other, &Ways::usual(day.fish)).unwrap();
        }
    }

    #[test]
    fn a_move_that_changes_the_call_says_to_what() {
        let (day, candidates) = (summer(), few());
        let ways = Ways::usual(day.fish);
        let first = indices(&sheet(&day, &candidates, |_| None))
            .first()
            .copied();
        let changed = what_would_change(&day, &ways, &candidates, first, |_| None).unwrap();
        assert!(!changed.is_empty());
        for change in changed {
            assert_ne!(change.instead, first);
            let other = change.moved.of(&day);
            let again = indices(&sheet(&other, &candidates, |_| None))
                .first()
                .copied();
            assert_eq!(again, change.instead);
        }
    }
}
