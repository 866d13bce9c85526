use super::{LocalRule, Says, Slot, Topic};
use crate::fish::Fish;
use crate::ids::RuleId;
use crate::units::Metres;
use jiff::civil::Date;

/// A fish on the board, and what was kept before it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Landed {
    /// What it is.
    pub fish: Fish,
    /// Its length.
    pub length: Option<Metres>,
    /// How finely it was measured: within so much of a limit nobody can tell.
    pub step: Metres,
    /// The day, in the water's own calendar.
    pub date: Date,
    /// Fish of its kind kept that day before it.
    pub kept: u32,
    /// Of those, how many above a slot that allows one over it.
    pub over: u32,
    /// Fish of its kind possessed from the days before; `None` when nobody counts them.
    pub possessed: Option<u32>,
}

/// What a rule makes of it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Saying {
    /// A fish of this length goes back.
    GoesBack {
        /// The lengths of the rule.
        slot: Slot,
        /// What follows when the rule ends.
        next: Option<Next>,
    },
    /// It is one of the lengths to keep.
    WithinSlot(Slot),
    /// Above the slot; one such fish may be kept, and none was.
    OneOver(Slot),
    /// Above the slot, and the one that may be kept was kept.
    OverTaken(Slot),
    /// Within a step of a limit: to be measured again.
    TooClose(Metres),
    /// Kept, it would be one more than the rule says.
    TooMany(Topic, u32, u8),
    /// Kept, it would be so many of those the rule allows.
    Counts(Topic, u32, u8),
    /// The water is closed to it.
    Closed,
}

/// The rule that takes over.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Next {
    /// Its first day.
    pub from: Date,
    /// Its lengths; `None` when no rule follows.
    pub slot: Option<Slot>,
}

impl Saying {
    /// Whether, by that rule, the fish goes back.
    pub fn forbids(&self) -> bool {
        matches!(
            self,
            Self::GoesBack { .. } | Self::OverTaken(_) | Self::TooMany(..) | Self::Closed
        )
    }
}

/// What the typed-in rules say of a fish, those that send it back first. Nothing of it says what is legal.
pub fn of_landed(landed: &Landed, rules: &[(RuleId, LocalRule)]) -> Vec<(RuleId, Saying)> {
    let holding = rules
        .iter()
        .filter(|(_, rule)| rule.holds_on(landed.date) && rule.is_of(landed.fish));
    let mut all: Vec<(RuleId, Saying)> = holding
        .filter_map(|(id, rule)| Some((*id, saying(landed, rule, rules)?)))
        .collect();
    all.sort_by_key(|(_, saying)| !saying.forbids());
    all
}

fn saying(landed: &Landed, rule: &LocalRule, rules: &[(RuleId, LocalRule)]) -> Option<Saying> {
    match rule.says {
        Says::Holds(Topic::Closed) => Some(Saying::Closed),
        Says::AtMost(Topic::Daily, most) => Some(counted(Topic::Daily, landed.kept, most)),
        Says::AtMost(Topic::Possession, most) => Some(counted(
            Topic::Possession,
            landed.kept + landed.possessed?,
            most,
        )),
        Says::Slot(slot) => {
            let length = landed.length?;
            let near = |limit: &Metres| (length - *limit).0.abs() < landed.step.0 - 1e-9;
            if let Some(limit) = [slot.from, slot.to].into_iter().flatten().find(near) {
                return Some(Saying::TooClose(limit));
            }
            let over = slot.to.is_some_and(|to| length > to);
            if over && slot.one_over {
                return Some(if landed.over == 0 {
                    Saying::OneOver(slot)
                } else {
                    Saying::OverTaken(slot)
                });
            }
            Some(if slot.goes_back(length) {
                Saying::GoesBack {
                    slot,
                    next: next(landed.fish, rule, rules),
                }
            } else {
                Saying::WithinSlot(slot)
            })
        }
        Says::AtMost(..) | Says::Holds(_) => None,
    }
}

fn counted(topic: Topic, before: u32, most: u8) -> Saying {
    let nth = before + 1;
    if nth > u32::from(most) {
        Saying::TooMany(topic, nth, most)
    } else {
        Saying::Counts(topic, nth, most)
    }
}

/// What holds of lengths from the day after a rule's last.
fn next(fish: Fish, rule: &LocalRule, rules: &[(RuleId, LocalRule)]) -> Option<Next> {
    let from = rule.to?.tomorrow().ok()?;
    let follows = rules.iter().map(|(_, other)| other).find_map(|other| {
        let Says::Slot(slot) = other.says else {
            return None;
        };
        (other.holds_on(from) && other.is_of(fish)).then_some(slot)
    });
    Some(Next {
        from,
        slot: follows,
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::INCH;
    use jiff::civil::date;
    use rstest::rstest;

    fn slot(from: Option<f64>, to: Option<f64>, protected: bool, one_over: bool) -> Slot {
        let inches = |figure: f64| figure * INCH;
        Slot {
            from: from.map(inches),
            to: to.map(inches),
            protected,
            one_over,
        }
    }

    fn rule(says: Says, from: Option<Date>, to: Option<Date>) -> LocalRule {
        LocalRule {
            says,
            fish: Some(Fish::Walleye),
            from,
            to,
            source: "the booklet of 2026".into(),
            entered: date(2026, 6, 2),
        }
    }

    /// Sixteen inches until the end of June, twelve from then on.
    fn rules() -> Vec<(RuleId, LocalRule)> {
        let least = |inches| Says::Slot(slot(Some(inches), None, false, false));
        vec![
            (RuleId(1), rule(least(16.0), None, Some(date(2026, 6, 30)))),
            (RuleId(2), rule(least(12.0), Some(date(2026, 7, 1)), None)),
            (RuleId(3), rule(Says::AtMost(Topic::Daily, 4), None, None)),
        ]
    }

    fn landed(inches: f64, on: Date) -> Landed {
        Landed {
            fish: Fish::Walleye,
            length: Some(inches * INCH),
            step: 0.25 * INCH,
            date: on,
            kept: 0,
            over: 0,
            possessed: None,
        }
    }

    #[test]
    fn a_rule_that_changes_on_a_date_says_what_follows() {
        let june = of_landed(&landed(14.5, date(2026, 6, 30)), &rules());
        let Saying::GoesBack { next, .. } = june[0].1 else {
            panic!("{june:?}");
        };
        let next = next.unwrap();
        assert_eq!(next.from, date(2026, 7, 1));
        assert_eq!(next.slot.unwrap().from, Some(12.0 * INCH));
        let july = of_landed(&landed(14.5, date(2026, 7, 1)), &rules());
        assert!(july.iter().all(|(_, saying)| !saying.forbids()), "{july:?}");
        assert_eq!(july[0].0, RuleId(2));
    }

    #[rstest]
    #[case(15.75, false)]
    #[case(15.8, true)]
    #[case(16.0, true)]
    #[case(16.2, true)]
    #[case(16.25, false)]
    fn within_a_step_of_a_limit_nobody_can_tell(#[case] inches: f64, #[case] close: bool) {
        let said = of_landed(&landed(inches, date(2026, 6, 10)), &rules());
        let too_close = |(_, saying): &(RuleId, Saying)| matches!(saying, Saying::TooClose(_));
        assert_eq!(said.iter().any(too_close), close, "{said:?}");
    }

    #[test]
    fn the_fifth_is_one_more_than_four() {
        let fifth = Landed {
            kept: 4,
            ..landed(20.0, date(2026, 6, 10))
        };
        let said = of_landed(&fifth, &rules());
        assert_eq!(said[0], (RuleId(3), Saying::TooMany(Topic::Daily, 5, 4)));
    }

    #[test]
    fn one_over_the_slot_is_one() {
        let over = Says::Slot(slot(Some(15.0), Some(20.0), false, true));
        let rules = [(RuleId(1), rule(over, None, None))];
        let first = landed(24.0, date(2026, 6, 10));
        assert!(matches!(of_landed(&first, &rules)[0].1, Saying::OneOver(_)));
        let second = Landed { over: 1, ..first };
        assert!(matches!(
            of_landed(&second, &rules)[0].1,
            Saying::OverTaken(_)
        ));
    }

    #[test]
    fn another_fish_and_an_unmeasured_one_are_left_alone() {
        let trout = Landed {
            fish: Fish::RainbowTrout,
            ..landed(10.0, date(2026, 6, 10))
        };
        assert_eq!(of_landed(&trout, &rules()), []);
        let unmeasured = Landed {
            length: None,
            ..landed(10.0, date(2026, 6, 10))
        };
        assert_eq!(
            of_landed(&unmeasured, &rules()),
            [(RuleId(3), Saying::Counts(Topic::Daily, 1, 4))]
        );
    }
}
