use super::Record;
use crate::entry::{check_clock, plain_text};
use crate::error::Error;
use crate::fields;
use crate::ids::SetupId;
use crate::spread::Tackle;
use crate::units::{Kilograms, Metres, MetresPerSecond};
use jiff::{SignedDuration, Timestamp};
use std::collections::BTreeMap;

/// The longest an outing lasts: what lies later belongs to another one (common practice, no source).
pub const LONGEST: SignedDuration = SignedDuration::from_hours(24);
/// An outing left open ends so long after its last sign of life.
pub const AFTER_LAST: SignedDuration = SignedDuration::from_mins(15);
/// An entry typed in within this of its happening was made on the water, and shows that somebody was there.
const LIVE: SignedDuration = SignedDuration::from_hours(2);

/// A rod's stretch of time in the water without a change, whether or not anything bit.
#[derive(Debug, Clone, PartialEq)]
pub struct Pass {
    /// The rod, by its number; `None` from before rods were kept.
    pub rod: Option<u8>,
    /// What was on it.
    pub tackle: Tackle,
    /// From when.
    pub from: Timestamp,
    /// Until when; `None` while it is out.
    pub to: Option<Timestamp>,
    /// How it ran.
    pub ran: Ran,
}

/// How a rig ran on a pass; nothing of it is known of passes from before it was kept.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Ran {
    /// The version of its rig.
    pub version: Option<i64>,
    /// The set-up it started from.
    pub setup: Option<SetupId>,
    /// Line out.
    pub out: Option<Metres>,
    /// Lead behind the weight.
    pub lead: Option<Metres>,
    /// Mass of the weight.
    pub weight: Option<Kilograms>,
    /// Depth it ran at.
    pub depth: Option<Metres>,
    /// Speed through the water.
    pub speed: Option<MetresPerSecond>,
    /// What was on the hook.
    pub bait: String,
}

impl Pass {
    /// Whether it is in the water.
    pub fn is_open(&self) -> bool {
        self.to.is_none()
    }

    /// Whether every figure can be, and it does not end before it begins.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        check_clock("from_utc", self.from)?;
        if self.to.is_some_and(|to| to < self.from) {
            return Err(Error::contradiction(
                "to_utc",
                "the pass ends before it begins; correct one of the two",
            ));
        }
        let ran = &self.ran;
        let figures = [
            (fields::OUT, ran.out.map(|out| out.0)),
            (fields::LEAD, ran.lead.map(|lead| lead.0)),
            (fields::WEIGHT, ran.weight.map(|mass| mass.0)),
            (fields::DEPTH, ran.depth.map(|depth| depth.0)),
            (fields::SPEED, ran.speed.map(|speed| speed.0)),
        ];
        for (field, figure) in figures {
            if let Some(figure) = figure {
                field.check(figure)?;
            }
        }
        plain_text("bait", &ran.bait, 60)
    }
}

/// What an entry of the log says of hours.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Entry {
    /// The rod, by its number, where it is known.
    pub rod: Option<u8>,
    /// What it happened on, if it happened on a line.
    pub tackle: Option<Tackle>,
    /// When it happened.
    pub at: Timestamp,
    /// When it was typed in.
    pub entered: Timestamp,
    /// Whether it is a fish.
    pub fish: bool,
    /// Whether it is a strike.
    pub strike: bool,
}

/// How the end of an outing is known.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum End {
    /// The angler said so.
    Said,
    /// It was left open: a quarter of an hour after the last sign of life.
    Reckoned,
    /// It was left open: later than that, when the boat's instruments were last heard.
    Heard,
}

/// The hours of an outing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Span {
    /// Its beginning.
    pub from: Timestamp,
    /// Its end.
    pub to: Timestamp,
    /// How the end is known.
    pub end: End,
}

/// An outing as its log has it.
#[derive(Debug, Clone, PartialEq)]
pub struct Logged {
    /// When it began.
    pub started: Timestamp,
    /// When it ended, if the angler said so.
    pub ended: Option<Timestamp>,
    /// When the boat's instruments were last heard on it.
    pub heard: Option<Timestamp>,
    /// Its entries.
    pub entries: Vec<Entry>,
    /// What was in the water; empty where nobody kept it.
    pub passes: Vec<Pass>,
}

impl Span {
    /// Whether an instant lies in it.
    pub fn holds(&self, at: Timestamp) -> bool {
        (self.from..=self.to).contains(&at)
    }

    /// Its length, h; never below zero.
    pub fn hours(&self) -> f64 {
        hours(self.from, self.to)
    }

    /// Hours of a stretch that lie in it.
    fn shared(&self, from: Timestamp, to: Timestamp) -> f64 {
        hours(from.max(self.from), to.min(self.to))
    }
}

fn hours(from: Timestamp, to: Timestamp) -> f64 {
    (to.duration_since(from).as_secs_f64() / 3_600.0).max(0.0)
}

impl Logged {
    /// An outing out of its log. A rod is in the water once: where two of its passes overlap, since one was corrected or
    /// never closed, the earlier one ends where the later one begins.
    pub fn new(
        started: Timestamp,
        ended: Option<Timestamp>,
        entries: Vec<Entry>,
        mut passes: Vec<Pass>,
    ) -> Self {
        passes.sort_by_key(|pass| pass.from);
        let mut next: BTreeMap<Option<u8>, Timestamp> = BTreeMap::new();
        for pass in passes.iter_mut().rev() {
            if let Some(later) = next.insert(pass.rod, pass.from)
                && pass.to.is_none_or(|to| to > later)
            {
                pass.to = Some(later);
            }
        }
        Self {
            started,
            ended,
            heard: None,
            entries,
            passes,
        }
    }

    /// The same, with the boat's instruments heard on it until then.
    #[must_use]
    pub fn heard(self, heard: Option<Timestamp>) -> Self {
        Self { heard, ..self }
    }

    /// The hours of the outing; `None` when nobody said when it ended and nothing shows it.
    ///
    /// An end that was said holds, up to [`LONGEST`]. Otherwise the outing ends [`AFTER_LAST`] after its last
    /// sign of life: an entry made on the water, or a line put out or taken in; or, if that is later, when the boat's
    /// instruments were last heard. Entries typed in later stretch nothing, and what lies more than a day after the beginning
    /// belongs to another outing.
    pub fn span(&self) -> Option<Span> {
        let latest = self.started + LONGEST;
        if let Some(ended) = self.ended {
            return Some(Span {
                from: self.started,
                to: ended.clamp(self.started, latest),
                end: End::Said,
            });
        }
        let made = self.entries.iter().filter(|entry| entry.was_live());
        let moved = self
            .passes
            .iter()
            .flat_map(|pass| [Some(pass.from), pass.to]);
        let within = |at: &Timestamp| (self.started..=latest).contains(at);
        let last = made
            .map(|entry| entry.at)
            .chain(moved.flatten())
            .filter(within)
            .max()
            .map(|last| last + AFTER_LAST);
        let heard = self.heard.filter(within);
        Some(Span {
            from: self.started,
            to: last.max(heard)?.min(latest),
            end: if heard > last {
                End::Heard
            } else {
                End::Reckoned
            },
        })
    }

    /// Whether an instant lies beyond the outing's hours, so that it counts for no rate.
    pub fn is_beyond(&self, at: Timestamp) -> bool {
        match self.span() {
            Some(span) => !span.holds(at),
            None => !(self.started..=self.started + LONGEST).contains(&at),
        }
    }

    /// Fish and rod-hours of everything that was fished on this outing.
    ///
    /// Hours are those of passes. Where none were kept, from before there were passes, nobody knows them: its fish are
    /// fish, and count for no rate ([`Self::fish_of_unknown_hours`]). So it is with what lies beyond the outing.
    fn records(&self) -> BTreeMap<Tackle, Record> {
        let mut records: BTreeMap<Tackle, Record> = BTreeMap::new();
        let Some(span) = self.span() else {
            return records;
        };
        for pass in &self.passes {
            let shared = span.shared(pass.from, pass.to.unwrap_or(span.to));
            if shared > 0.0 {
                records.entry(pass.tackle).or_default().rod_hours += shared;
            }
        }
        for entry in self.entries.iter().filter(|entry| span.holds(entry.at)) {
            if let Some(pass) = self.pass_of(entry)
                && let Some(record) = records.get_mut(&pass.tackle)
            {
                record.fish += u32::from(entry.fish);
            }
        }
        records
    }

    /// The pass an entry happened on: of its tackle, out at its time; its own rod's before another's, one that it ends
    /// before one that goes on.
    fn pass_of(&self, entry: &Entry) -> Option<&Pass> {
        let holds = |pass: &&Pass| {
            let out = pass.from <= entry.at && pass.to.is_none_or(|to| entry.at <= to);
            Some(pass.tackle) == entry.tackle && out
        };
        let passes = self.passes.iter().filter(holds);
        passes.min_by_key(|pass| (pass.rod != entry.rod, pass.to != Some(entry.at)))
    }

    /// Fish that no pass holds, since nobody kept its hours or its rod was aboard, or that lie beyond the outing: they
    /// count for no rate.
    pub fn fish_of_unknown_hours(&self) -> u32 {
        let fish = self.entries.iter().filter(|entry| entry.fish).count();
        let counted: u32 = self.records().values().map(|record| record.fish).sum();
        u32::try_from(fish).unwrap_or(u32::MAX) - counted
    }
}

impl Entry {
    /// Whether it was made on the water rather than typed in later.
    fn was_live(&self) -> bool {
        self.entered.duration_since(self.at).abs() <= LIVE
    }
}

/// Fish and rod-hours of everything fished over some outings.
pub fn records<'a>(outings: impl IntoIterator<Item = &'a Logged>) -> BTreeMap<Tackle, Record> {
    let mut sums: BTreeMap<Tackle, Record> = BTreeMap::new();
    for (tackle, record) in outings.into_iter().flat_map(Logged::records) {
        let sum = sums.entry(tackle).or_default();
        *sum = sum.and(record);
    }
    sums
}

/// All of it together.
pub fn whole(records: &BTreeMap<Tackle, Record>) -> Record {
    records
        .values()
        .fold(Record::default(), |sum, record| sum.and(*record))
}

#[cfg(test)]
mod tests {
    use super::super::Traits;
    use super::*;
    use crate::ids::{OutingId, RigId, WaterId};
    use crate::units::Celsius;
    use approx::assert_abs_diff_eq;
    use proptest::prelude::*;
    use rstest::rstest;

    fn bare() -> Traits {
        Traits {
            rig: None,
            bait: String::new(),
            depth: None,
            bottom: Metres(8.0),
            speed: MetresPerSecond(0.5),
            lead: None,
            clarity: Metres(2.0),
            temperature: Celsius(15.0),
            water: WaterId(1),
            dawn: None,
            light: None,
        }
    }

    fn at(hour: f64) -> Timestamp {
        let began: Timestamp = "2026-09-05T11:20:00Z".parse().unwrap();
        began + SignedDuration::from_secs((hour * 3_600.0) as i64)
    }

    fn rig(number: i64) -> Tackle {
        Tackle::Rig(RigId(number))
    }

    fn entry(rig: i64, hour: f64, fish: bool) -> Entry {
        Entry {
            rod: Some(1),
            tackle: Some(Tackle::Rig(RigId(rig))),
            at: at(hour),
            entered: at(hour),
            fish,
            strike: false,
        }
    }

    fn logged(entries: Vec<Entry>, passes: Vec<Pass>) -> Logged {
        Logged {
            started: at(0.0),
            ended: None,
            heard: None,
            entries,
            passes,
        }
    }

    fn pass(rig: i64, from: f64, to: Option<f64>) -> Pass {
        Pass {
            rod: Some(1),
            tackle: Tackle::Rig(RigId(rig)),
            from: at(from),
            to: to.map(at),
            ran: Ran::default(),
        }
    }

    #[test]
    fn a_fish_tapped_months_later_makes_no_hours() {
        let sound = logged(vec![entry(1, 3.0, true)], vec![pass(1, 0.0, None)]);
        let mut late = sound.clone();
        late.entries.push(entry(1, 24.0 * 84.0, true));
        assert_eq!(late.span(), sound.span());
        assert_eq!(records([&late]), records([&sound]));
        assert_abs_diff_eq!(records([&late])[&rig(1)].rod_hours, 3.25, epsilon = 1e-9);
        assert!(late.is_beyond(at(24.0 * 84.0)));
    }

    #[test]
    fn an_entry_typed_in_that_evening_counts_as_fish_and_stretches_nothing() {
        let typed = Entry {
            entered: at(14.0),
            ..entry(1, 4.0, true)
        };
        let with = |typed| logged(vec![entry(1, 2.0, false), typed], vec![pass(1, 0.0, None)]);
        assert_abs_diff_eq!(with(typed).span().unwrap().hours(), 2.25, epsilon = 1e-9);
        let inside = Entry {
            at: at(1.0),
            ..typed
        };
        assert_eq!(records([&with(inside)])[&rig(1)].fish, 1);
        // Nothing but late entries: nobody knows how long it was.
        assert_eq!(logged(vec![typed], vec![]).span(), None);
        assert_eq!(logged(vec![typed], vec![]).fish_of_unknown_hours(), 1);
    }

    #[test]
    fn a_beginning_after_the_entries_subtracts_nothing() {
        let mut moved = logged(vec![entry(1, 2.0, true)], vec![pass(1, 1.0, Some(2.0))]);
        moved.started = at(5.0);
        assert!(records([&moved]).is_empty());
        moved.ended = Some(at(4.0));
        assert_abs_diff_eq!(moved.span().unwrap().hours(), 0.0);
    }

    #[test]
    fn a_rig_that_nothing_bit_counts_its_passes() {
        let day = logged(
            vec![entry(1, 1.0, true)],
            vec![pass(1, 0.0, Some(2.0)), pass(2, 2.0, None)],
        );
        // Its last sign of life is the change at two hours.
        let records = records([&day]);
        assert_abs_diff_eq!(records[&rig(1)].rod_hours, 2.0, epsilon = 1e-9);
        assert_abs_diff_eq!(records[&rig(2)].rod_hours, 0.25, epsilon = 1e-9);
        assert_eq!(records[&rig(2)].fish, 0);
    }

    /// Hours without a fish are hours: a boat that is heard has not gone home.
    #[rstest]
    #[case::heard_on(Some(3.0), 3.0, End::Heard)]
    #[case::not_long_after_the_last_entry(Some(1.1), 1.25, End::Reckoned)]
    #[case::of_another_day(Some(30.0), 1.25, End::Reckoned)]
    #[case::never(None, 1.25, End::Reckoned)]
    fn an_outing_goes_on_while_its_boat_is_heard(
        #[case] heard: Option<f64>,
        #[case] hours: f64,
        #[case] end: End,
    ) {
        let day = logged(vec![entry(1, 1.0, false)], vec![pass(1, 0.0, None)]);
        let span = day.heard(heard.map(at)).span().unwrap();
        assert_eq!(span.end, end);
        assert!((span.hours() - hours).abs() < 1e-9, "{}", span.hours());
    }

    #[rstest]
    #[case(3.0, 3.0)]
    #[case(30.0, 24.0)]
    #[case(-1.0, 0.0)]
    fn an_end_that_was_said_holds_up_to_a_day(#[case] said: f64, #[case] hours: f64) {
        let day = Logged {
            ended: Some(at(said)),
            ..logged(vec![entry(1, 1.0, true)], vec![])
        };
        let span = day.span().unwrap();
        assert_eq!(span.end, End::Said);
        assert_abs_diff_eq!(span.hours(), hours, epsilon = 1e-9);
    }

    #[test]
    fn hours_add_up_over_outings() {
        let day = logged(vec![entry(1, 1.0, true)], vec![pass(1, 0.0, None)]);
        let both = records([&day, &day]);
        assert_eq!(both[&rig(1)].fish, 2);
        assert_abs_diff_eq!(whole(&both).rod_hours, 2.5, epsilon = 1e-9);
    }

    #[rstest]
    // One that nobody closed, one that was drawn over the next, one within another, two at once.
    #[case(vec![pass(1, 0.0, None), pass(2, 1.0, Some(2.0))], [1.0, 1.0])]
    #[case(vec![pass(1, 0.0, Some(1.5)), pass(2, 1.0, Some(2.0))], [1.0, 1.0])]
    #[case(vec![pass(1, 0.0, Some(3.0)), pass(2, 1.0, Some(2.0))], [1.0, 1.0])]
    #[case(vec![pass(1, 1.0, Some(2.0)), pass(2, 1.0, Some(2.0))], [0.0, 1.0])]
    fn a_rod_is_in_the_water_once(#[case] passes: Vec<Pass>, #[case] hours: [f64; 2]) {
        let day = Logged::new(at(0.0), Some(at(4.0)), Vec::new(), passes);
        let records = records([&day]);
        for (number, hours) in [(1, hours[0]), (2, hours[1])] {
            let own = records
                .get(&rig(number))
                .map_or(0.0, |record| record.rod_hours);
            assert_abs_diff_eq!(own, hours, epsilon = 1e-9);
        }
    }

    proptest! {
        /// Late taps, passes over each other, a start moved past entries, a clock set back, an outing left open: the hours
        /// of all rods are never above the rods times the outing's length, and every fish is counted once or said to be
        /// unknown.
        #[test]
        fn hours_stay_true_whatever_was_typed(
            spans in prop::collection::vec((1_u8..5, 1_i64..4, -9.0..30.0_f64, prop::option::of(-9.0..30.0_f64)), 0..14),
            taps in prop::collection::vec((1_u8..5, 1_i64..4, -9.0..60.0_f64, -9.0..60.0_f64, any::<bool>()), 0..14),
            ended in prop::option::of(-3.0..30.0_f64),
        ) {
            let passes: Vec<Pass> = spans
                .iter()
                .map(|(rod, tackle, from, to)| Pass {
                    rod: Some(*rod),
                    ..pass(*tackle, *from, to.map(|to| to.max(*from)))
                })
                .collect();
            let entries: Vec<Entry> = taps
                .iter()
                .map(|(rod, tackle, hour, entered, fish)| Entry {
                    rod: Some(*rod),
                    entered: at(*entered),
                    ..entry(*tackle, *hour, *fish)
                })
                .collect();
            let rods: std::collections::BTreeSet<u8> = spans.iter().map(|span| span.0).collect();
            let caught = taps.iter().filter(|tap| tap.4).count();
            let day = Logged::new(at(0.0), ended.map(at), entries, passes);
            let sums = records([&day]);
            let sum = whole(&sums);
            let length = day.span().map_or(0.0, |span| span.hours());
            prop_assert!(sum.rod_hours <= rods.len() as f64 * length + 1e-6);
            prop_assert!(sums.values().all(|record| record.rod_hours >= 0.0));
            prop_assert_eq!(sum.fish + day.fish_of_unknown_hours(), u32::try_from(caught).unwrap());
            // Cut into pieces it is the same.
            let pieces = day.stretches(OutingId(1), |_, _| bare());
            let pieces = super::super::together(&pieces);
            prop_assert!((pieces.rod_hours - sum.rod_hours).abs() < 1e-6);
            prop_assert_eq!(pieces.fish, sum.fish);
        }
    }

    /// An old outing without passes: its fish are fish, its hours are unknown, and none are invented.
    #[test]
    fn an_outing_without_passes_has_fish_and_no_hours() {
        let old = logged(vec![entry(1, 1.0, true), entry(2, 2.0, false)], vec![]);
        assert!(records([&old]).is_empty());
        assert_eq!(old.fish_of_unknown_hours(), 1);
    }
}
