//! Local rules as the angler typed them in: shown with their dates and source, never judged as law.
//!
//! A [`LocalRule`] says one thing ([`Says`]) for a span of dates. [`clash`] finds two that overlap, and
//! whether they contradict each other; [`Limits::on`] draws together what holds on a date, as far as a rig
//! can be held against it; [`of_landed`] holds a fish on the board against them. Every wording that rests on them names the source and defers to the regulations
//! in force.

mod landed;

pub use landed::{Landed, Next, Saying, of_landed};

use crate::error::Error;
use crate::fields;
use crate::fish::Fish;
use crate::ids::RuleId;
use crate::keyed::keyed;
use crate::units::Metres;
use jiff::civil::Date;

/// What a rule is about.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Topic {
    /// Lines a person may have out.
    Lines,
    /// Hooks on a line.
    Hooks,
    /// Hook points on a line: a treble has three.
    Points,
    /// Whether hooks must be barbless.
    Barbless,
    /// Whether bait may be used.
    Bait,
    /// Whether lead may be used.
    Lead,
    /// Lengths that may be kept.
    Slot,
    /// Fish that may be kept in a day.
    Daily,
    /// Fish that may be possessed.
    Possession,
    /// When the water is closed to a fish.
    Closed,
}

keyed!(Topic {
    Lines "lines" "lines a person",
    Hooks "hooks" "hooks on a line",
    Points "points" "hook points on a line",
    Barbless "barbless" "barbless hooks",
    Bait "bait" "no bait",
    Lead "lead" "no lead",
    Slot "slot" "lengths to keep",
    Daily "daily" "daily limit",
    Possession "possession" "possession limit",
    Closed "closed" "closed to fishing",
});

impl Topic {
    /// Whether the rule is about one fish.
    pub fn is_of_a_fish(self) -> bool {
        matches!(
            self,
            Self::Slot | Self::Daily | Self::Possession | Self::Closed
        )
    }

    /// Whether the rule carries a count.
    pub fn has_count(self) -> bool {
        matches!(
            self,
            Self::Lines | Self::Hooks | Self::Points | Self::Daily | Self::Possession
        )
    }
}

/// Lengths of a slot.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Slot {
    /// Lower end; `None` none.
    pub from: Option<Metres>,
    /// Upper end; `None` none.
    pub to: Option<Metres>,
    /// Whether fish between the two go back, instead of being kept.
    pub protected: bool,
    /// Whether one fish above the slot may be kept.
    pub one_over: bool,
}

/// What a rule says.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Says {
    /// At most so many of the topic: lines, hooks, fish a day, fish possessed.
    AtMost(Topic, u8),
    /// The topic holds: barbless, no bait, no lead, closed.
    Holds(Topic),
    /// Lengths to keep.
    Slot(Slot),
}

impl Says {
    /// What it is about.
    pub fn topic(self) -> Topic {
        match self {
            Self::AtMost(topic, _) | Self::Holds(topic) => topic,
            Self::Slot(_) => Topic::Slot,
        }
    }
}

/// A rule of a water as it was typed in.
#[derive(Debug, Clone, PartialEq)]
pub struct LocalRule {
    /// What it says.
    pub says: Says,
    /// For which fish, where it is about one; `None` for all.
    pub fish: Option<Fish>,
    /// First day it holds; `None` from ever.
    pub from: Option<Date>,
    /// Last day it holds; `None` until somebody changes it.
    pub to: Option<Date>,
    /// Where it was read.
    pub source: String,
    /// When it was typed in.
    pub entered: Date,
}

impl LocalRule {
    /// Whether it holds on a date.
    pub fn holds_on(&self, date: Date) -> bool {
        self.from.is_none_or(|from| date >= from) && self.to.is_none_or(|to| date <= to)
    }

    /// Whether it is about a fish.
    pub fn is_of(&self, fish: Fish) -> bool {
        self.fish.is_none_or(|one| one == fish)
    }

    /// Whether every figure can be, and they agree.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] or [`Error::Contradiction`] with the field.
    pub fn check(&self) -> Result<(), Error> {
        if let (Some(from), Some(to)) = (self.from, self.to)
            && to < from
        {
            return Err(Error::contradiction(
                "rule_to",
                format!("the last day {to} lies before the first day {from}; swap the two"),
            ));
        }
        match self.says {
            Says::AtMost(topic, count) => {
                fields::RULE_COUNT.check(f64::from(count))?;
                if topic == Topic::Lines && count == 0 {
                    return Err(Error::contradiction(
                        fields::RULE_COUNT.key,
                        "no line at all is no rule for trolling; give 1 or more, or choose closed",
                    ));
                }
            }
            Says::Holds(_) => {}
            Says::Slot(slot) => slot.check()?,
        }
        if self.source.trim().is_empty() {
            return Err(Error::contradiction(
                "rule_source",
                "a rule needs its source: where you read it, such as the booklet and its year",
            ));
        }
        crate::entry::plain_text("rule_source", &self.source, 120)
    }
}

impl Slot {
    fn check(&self) -> Result<(), Error> {
        for (field, end) in [(fields::SLOT_FROM, self.from), (fields::SLOT_TO, self.to)] {
            if let Some(end) = end {
                field.check(end.0)?;
            }
        }
        match (self.from, self.to) {
            (None, None) => Err(Error::contradiction(
                fields::SLOT_FROM.key,
                "a slot needs at least one length; give the shortest or the longest that counts",
            )),
            (Some(from), Some(to)) if to <= from => Err(Error::contradiction(
                fields::SLOT_TO.key,
                "the upper end of the slot is not above its lower end; swap the two",
            )),
            _ => Ok(()),
        }
    }

    /// Whether a fish of a length goes back by this slot.
    pub fn goes_back(&self, length: Metres) -> bool {
        let within =
            self.from.is_none_or(|from| length >= from) && self.to.is_none_or(|to| length <= to);
        let over = self.to.is_some_and(|to| length > to);
        within == self.protected && !(over && self.one_over)
    }
}

/// How a new rule stands to one that is there.
#[derive(Debug, Clone, PartialEq)]
pub struct Clash<'a> {
    /// Which it meets.
    pub with: RuleId,
    /// That rule.
    pub rule: &'a LocalRule,
    /// Whether the two say different things; otherwise they only repeat each other.
    pub contradicts: bool,
}

/// The first rule that a new one overlaps in topic, fish and dates.
pub fn clash<'a>(
    new: &LocalRule,
    id: Option<RuleId>,
    rules: &'a [(RuleId, LocalRule)],
) -> Option<Clash<'a>> {
    rules
        .iter()
        .filter(|(other, _)| Some(*other) != id)
        .find(|(_, rule)| {
            rule.says.topic() == new.says.topic()
                && (rule.fish == new.fish || rule.fish.is_none() || new.fish.is_none())
                && overlap(rule, new)
        })
        .map(|(with, rule)| Clash {
            with: *with,
            rule,
            contradicts: rule.says != new.says,
        })
}

fn overlap(a: &LocalRule, b: &LocalRule) -> bool {
    let begins_in_time = |from: Option<Date>, to: Option<Date>| match (from, to) {
        (Some(from), Some(to)) => from <= to,
        _ => true,
    };
    begins_in_time(a.from, b.to) && begins_in_time(b.from, a.to)
}

/// What the rules of a date leave a rig.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Limits {
    /// Lines a person may have out, with the rule.
    pub lines: Option<(u8, RuleId)>,
    /// Hooks on a line, with the rule.
    pub hooks: Option<(u8, RuleId)>,
    /// Hook points on a line, with the rule.
    pub points: Option<(u8, RuleId)>,
    /// The rule that forbids bait.
    pub no_bait: Option<RuleId>,
    /// The rule that forbids lead.
    pub no_lead: Option<RuleId>,
    /// The rule that asks for barbless hooks.
    pub barbless: Option<RuleId>,
    /// The rule that closes the water to the fish wanted.
    pub closed: Option<RuleId>,
}

impl Limits {
    /// What holds on a date for a fish. Of counts that meet, the smaller holds.
    pub fn on(date: Date, fish: Fish, rules: &[(RuleId, LocalRule)]) -> Self {
        let mut limits = Self::default();
        let fewer = |now: Option<(u8, RuleId)>, count: u8, id: RuleId| match now {
            Some((least, _)) if least <= count => now,
            _ => Some((count, id)),
        };
        let holding = rules
            .iter()
            .filter(|(_, rule)| rule.holds_on(date) && rule.is_of(fish));
        for (id, rule) in holding {
            match rule.says {
                Says::AtMost(Topic::Lines, count) => limits.lines = fewer(limits.lines, count, *id),
                Says::AtMost(Topic::Hooks, count) => limits.hooks = fewer(limits.hooks, count, *id),
                Says::AtMost(Topic::Points, count) => {
                    limits.points = fewer(limits.points, count, *id);
                }
                Says::Holds(Topic::Bait) => limits.no_bait = Some(*id),
                Says::Holds(Topic::Lead) => limits.no_lead = Some(*id),
                Says::Holds(Topic::Barbless) => limits.barbless = Some(*id),
                Says::Holds(Topic::Closed) => limits.closed = Some(*id),
                Says::AtMost(..) | Says::Holds(_) | Says::Slot(_) => {}
            }
        }
        limits
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use jiff::civil::date;
    use rstest::rstest;

    fn rule(says: Says, from: Option<Date>, to: Option<Date>) -> LocalRule {
        LocalRule {
            says,
            fish: None,
            from,
            to,
            source: "the booklet of 2026".into(),
            entered: date(2026, 4, 2),
        }
    }

    fn lines(count: u8, from: Option<Date>, to: Option<Date>) -> LocalRule {
        rule(Says::AtMost(Topic::Lines, count), from, to)
    }

    const MAY: Date = date(2026, 5, 1);
    const JUNE: Date = date(2026, 6, 1);
    const JULY: Date = date(2026, 7, 1);

    #[rstest]
    #[case::apart(lines(1, Some(JUNE), None), lines(2, None, Some(MAY)), None)]
    #[case::a_day_in_common(lines(1, Some(MAY), None), lines(2, None, Some(MAY)), Some(true))]
    #[case::the_same_again(
        lines(2, Some(MAY), Some(JULY)),
        lines(2, Some(JUNE), None),
        Some(false)
    )]
    #[case::for_ever(lines(1, None, None), lines(2, Some(JUNE), Some(JULY)), Some(true))]
    #[case::another_topic(rule(Says::Holds(Topic::Lead), None, None), lines(2, None, None), None)]
    fn rules_that_meet_are_found(
        #[case] new: LocalRule,
        #[case] old: LocalRule,
        #[case] contradicts: Option<bool>,
    ) {
        let rules = [(RuleId(1), old)];
        assert_eq!(
            clash(&new, None, &rules).map(|clash| clash.contradicts),
            contradicts
        );
        // A rule never meets itself.
        assert_eq!(clash(&new, Some(RuleId(1)), &rules), None);
    }

    #[rstest]
    #[case::the_day_before(date(2026, 4, 30), false)]
    #[case::the_first_day(MAY, true)]
    #[case::the_last_day(JUNE, true)]
    #[case::the_day_after(date(2026, 6, 2), false)]
    fn a_rule_holds_from_its_first_day_to_its_last(#[case] day: Date, #[case] holds: bool) {
        assert_eq!(lines(1, Some(MAY), Some(JUNE)).holds_on(day), holds);
    }

    #[rstest]
    #[case(0.449, true, false)]
    #[case(0.45, false, true)]
    #[case(0.55, false, true)]
    #[case(0.551, true, false)]
    fn both_ends_belong_to_a_slot(
        #[case] metres: f64,
        #[case] back_from_keep: bool,
        #[case] back_from_protected: bool,
    ) {
        let slot = |protected| Slot {
            from: Some(Metres(0.45)),
            to: Some(Metres(0.55)),
            protected,
            one_over: false,
        };
        assert_eq!(slot(false).goes_back(Metres(metres)), back_from_keep);
        assert_eq!(slot(true).goes_back(Metres(metres)), back_from_protected);
    }

    #[test]
    fn a_rule_for_one_fish_meets_one_for_all() {
        let daily = |count, fish| LocalRule {
            fish,
            ..rule(Says::AtMost(Topic::Daily, count), None, None)
        };
        let rules = [(RuleId(1), daily(4, Some(Fish::Walleye)))];
        assert!(clash(&daily(2, None), None, &rules).unwrap().contradicts);
        assert_eq!(clash(&daily(2, Some(Fish::LakeTrout)), None, &rules), None);
    }

    #[rstest]
    #[case(lines(2, Some(JULY), Some(JUNE)), "rule_to")]
    #[case(lines(0, None, None), "most")]
    #[case(LocalRule { source: " ".into(), ..lines(2, None, None) }, "rule_source")]
    #[case(rule(Says::Slot(Slot { from: None, to: None, protected: false, one_over: false }), None, None), "slot_from_m")]
    #[case(rule(Says::Slot(Slot { from: Some(Metres(0.5)), to: Some(Metres(0.4)), protected: true, one_over: false }), None, None), "slot_to_m")]
    #[case(rule(Says::Slot(Slot { from: Some(Metres(9.0)), to: None, protected: false, one_over: false }), None, None), "slot_from_m")]
    fn a_rule_that_cannot_be_is_refused(#[case] rule: LocalRule, #[case] field: &str) {
        assert_eq!(rule.check().unwrap_err().quantity(), field);
    }

    #[rstest]
    // Keep 38 to 60 cm.
    #[case(0.45, false, false, false)]
    #[case(0.30, false, false, true)]
    #[case(0.70, false, false, true)]
    // The same, with one over.
    #[case(0.70, false, true, false)]
    // Release 38 to 60 cm.
    #[case(0.45, true, false, true)]
    #[case(0.30, true, false, false)]
    fn a_slot_sends_fish_back(
        #[case] length: f64,
        #[case] protected: bool,
        #[case] one_over: bool,
        #[case] back: bool,
    ) {
        let slot = Slot {
            from: Some(Metres(0.38)),
            to: Some(Metres(0.60)),
            protected,
            one_over,
        };
        assert_eq!(slot.goes_back(Metres(length)), back);
    }

    #[test]
    fn the_stricter_count_holds() {
        let rules = [
            (RuleId(1), lines(2, None, None)),
            (RuleId(2), lines(1, Some(JUNE), Some(JULY))),
            (RuleId(3), rule(Says::Holds(Topic::Lead), Some(JULY), None)),
        ];
        let on = |date| Limits::on(date, Fish::Walleye, &rules);
        assert_eq!(on(MAY).lines, Some((2, RuleId(1))));
        assert_eq!(on(JUNE).lines, Some((1, RuleId(2))));
        assert_eq!(on(JUNE).no_lead, None);
        assert_eq!(on(JULY).no_lead, Some(RuleId(3)));
    }
}
