use super::{RunningLine, SetupId};
use crate::line::Changes;
use crate::spread::{Holder, PlannedRod, Side, Stance, Tackle, USUAL_ROD};
use crate::tackle::LineStock;
use crate::units::Metres;

/// A rod of an outing with everything on it; whether it is in the water is told by its passes.
#[derive(Debug, Clone, PartialEq)]
pub struct BoatRod {
    /// Its number, from 1.
    pub number: u8,
    /// Where it stands and what it carries.
    pub rod: PlannedRod,
    /// The main line, where it is another than its set-up's.
    pub main: Option<LineStock>,
    /// What is on the hook, in the angler's words: bait and scent.
    pub bait: String,
    /// Whether it was put away for the day.
    pub away: bool,
}

impl BoatRod {
    /// A rod that carries a line of the tank, in the next holder.
    pub fn carrying(number: u8, line: &RunningLine, wanted: Metres) -> Self {
        let side = if number % 2 == 1 {
            Side::Port
        } else {
            Side::Starboard
        };
        Self {
            number,
            rod: PlannedRod {
                holder: Holder {
                    side,
                    number: number.div_ceil(2).min(8),
                },
                stance: Stance::Corner,
                length: USUAL_ROD,
                board: None,
                above: None,
                tackle: Tackle::Rig(line.rig),
                setup: line.setup,
                weight: line.weight,
                lead: line.lead,
                out: line.out,
                wanted,
            },
            main: Some(line.main),
            bait: String::new(),
            away: false,
        }
    }

    /// The same rod in its holder with another line on it.
    pub fn with_line(&self, line: &RunningLine) -> Self {
        let new = Self::carrying(self.number, line, self.rod.wanted);
        let same_setup = self.rod.setup == line.setup;
        Self {
            rod: PlannedRod {
                holder: self.rod.holder,
                stance: self.rod.stance,
                length: self.rod.length,
                board: self.rod.board.filter(|_| same_setup),
                above: self.rod.above.filter(|_| same_setup),
                ..new.rod
            },
            ..new
        }
    }

    /// What it has otherwise than its set-up.
    pub fn changes(&self) -> Changes {
        Changes {
            main: self.main,
            ..self.rod.changes()
        }
    }

    /// Its set-up.
    pub fn setup(&self) -> SetupId {
        self.rod.setup
    }

    /// Whether what is out differs so much that its hours are those of another pass: another tackle, tool, lead or bait,
    /// or a setback by more than a tenth.
    pub fn is_another_pass_than(&self, before: &Self) -> bool {
        let (now, then) = (&self.rod, &before.rod);
        let apart = |a: Metres, b: Metres| (a - b).0.abs() > 0.1 * b.0.max(0.1);
        now.tackle != then.tackle
            || now.setup != then.setup
            || now.weight != then.weight
            || self.bait != before.bait
            || apart(now.out, then.out)
            || apart(now.lead, then.lead)
    }
}

#[cfg(test)]
mod tests {
    use super::super::RigId;
    use super::*;
    use crate::tackle::LineMaterial;

    fn line(rig: i64, out: f64) -> RunningLine {
        RunningLine {
            rig: RigId(rig),
            setup: SetupId(1),
            main: LineStock::catalogue()
                .find(|stock| stock.material == LineMaterial::Nylon)
                .unwrap(),
            weight: None,
            lead: Metres(1.5),
            out: Metres(out),
        }
    }

    #[test]
    fn a_setback_moved_by_more_than_a_tenth_is_another_pass() {
        let rod = BoatRod::carrying(1, &line(1, 20.0), Metres(6.0));
        assert!(!rod.with_line(&line(1, 21.9)).is_another_pass_than(&rod));
        assert!(rod.with_line(&line(1, 22.1)).is_another_pass_than(&rod));
        assert!(rod.with_line(&line(2, 20.0)).is_another_pass_than(&rod));
        let scented = BoatRod {
            bait: "crawler with anise".into(),
            ..rod.clone()
        };
        assert!(scented.is_another_pass_than(&rod));
    }

    #[test]
    fn rods_stand_port_and_starboard_in_turn() {
        let holders: Vec<String> = (1..=4)
            .map(|n| {
                BoatRod::carrying(n, &line(1, 20.0), Metres(6.0))
                    .rod
                    .holder
                    .to_string()
            })
            .collect();
        assert_eq!(holders, ["P1", "S1", "P2", "S2"]);
    }
}
