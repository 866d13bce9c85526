use crate::error::Error;
use crate::fields;
use crate::line::{LineSetup, Rigging, Start};
use crate::numeric::root;
use crate::rig::Practice;
use crate::tackle::LineStock;
use crate::towline::PointLoad;
use crate::units::{Metres, MetresPerSecond, Newtons, SquareMetres};
use crate::water::Water;

/// Most pairs of a table.
const MOST: usize = 60;
/// Shortest setback that is let out.
const SHORTEST: Metres = Metres(0.3);
/// Drag area of a plug or spoon while it works; from memory.
const DRAG: SquareMetres = SquareMetres(6.0e-4);

/// A plug or spoon, known by the angler's own pairs of setback (the leader counted in) and depth.
#[derive(Debug, Clone, PartialEq)]
pub struct Lure {
    /// What it is called.
    pub name: String,
    /// Speeds at which it works, as typed in.
    pub speeds: Practice,
    /// How deep it dives.
    pub dives: DiveTable,
    /// The line it was measured on; on another its depths are converted through the line model. `None` where nobody said:
    /// then the table holds as it stands.
    pub on: Option<LineStock>,
}

impl Lure {
    /// A lure.
    ///
    /// # Errors
    /// [`Error::OutOfRange`], or [`Error::Contradiction`] for speeds in the wrong order.
    pub fn new(name: impl Into<String>, speeds: Practice, dives: DiveTable) -> Result<Self, Error> {
        fields::LURE_FROM.check(speeds.from.0)?;
        fields::LURE_FAVOURITE.check(speeds.favourite.0)?;
        fields::LURE_TO.check(speeds.to.0)?;
        if speeds.favourite < speeds.from || speeds.to < speeds.favourite {
            return Err(Error::contradiction(
                "favourite_mps",
                "the speeds are out of order; give the slowest, the favourite and the fastest",
            ));
        }
        Ok(Self {
            name: name.into(),
            speeds,
            dives,
            on: None,
        })
    }

    /// The same, measured on a line.
    pub fn measured_on(self, line: Option<LineStock>) -> Self {
        Self { on: line, ..self }
    }

    /// Whether a set-up's line is another than the table's.
    pub fn is_converted_on(&self, setup: &LineSetup) -> bool {
        self.on.is_some_and(|on| {
            on.material != setup.main.material
                || (on.diameter - setup.main.diameter).0.abs() > 1e-6
                || setup.core.is_some()
        })
    }

    /// The setback between release and leader at which it dives so deep on a set-up's line; `None` when it does not within
    /// the table.
    ///
    /// # Errors
    /// As [`Self::load`].
    pub fn out_for(
        &self,
        setup: &LineSetup,
        wanted: Metres,
        speed: MetresPerSecond,
        water: &Water,
    ) -> Result<Option<Metres>, Error> {
        // The table counts from the lure, the rod from the leader's end.
        let behind_leader = |out: Metres| Metres((out - setup.lead).0.max(SHORTEST.0));
        if !self.is_converted_on(setup) {
            return Ok(self.dives.out_for(wanted).map(behind_leader));
        }
        let longest = self.dives.pairs.last().map_or(Metres(0.0), |pair| pair.0);
        let flat = LineSetup {
            start: Start::Board,
            ..setup.clone()
        };
        let off = |out: f64| {
            let load = self.load(setup, Metres(out), speed, water);
            load.and_then(|load| Rigging::new(&flat, load, speed, water, &[])?.at(Metres(out)))
                .map_or(f64::NAN, |hung| (hung.shape.tail_depth() - wanted).0)
        };
        let most = behind_leader(longest).0;
        if off(most) < 0.0 {
            return Ok(None);
        }
        Ok(root(off, SHORTEST.0, most, 1e-3)
            .map(Metres)
            .or(Some(SHORTEST)))
    }

    /// The load that stands for it: a drag area from memory and the down-force area with which the line model
    /// gives the table's depth at this setback. So its line can be drawn, turned and set in motion like any other;
    /// that its depth then hardly changes with speed is what the table says too.
    ///
    /// # Errors
    /// [`Error::Contradiction`] for a set-up the table was not made with, or a setback beyond the table.
    pub fn load(
        &self,
        setup: &LineSetup,
        out: Metres,
        speed: MetresPerSecond,
        water: &Water,
    ) -> Result<PointLoad, Error> {
        if setup.weight.is_some() {
            return Err(Error::contradiction(
                "setup",
                format!(
                    "the dive table of {} was made without a weight; take a set-up without one",
                    self.name
                ),
            ));
        }
        let main = match setup.start {
            Start::Downrigger { drop_back, .. } => drop_back,
            Start::Board | Start::RodTip { .. } => out,
        };
        let wanted = self.dives.depth(main + setup.lead)?;
        let load = |down: f64| PointLoad {
            submerged_weight: Newtons(0.02),
            drag_area: DRAG,
            down_area: SquareMetres(down),
        };
        // The table counts from the release; a rod tip only adds its piece in the air. The load is that of the line it was
        // measured on: on another the line model gives another depth with it.
        let flat = LineSetup {
            start: Start::Board,
            main: self.on.unwrap_or(setup.main),
            core: setup.core.filter(|_| self.on.is_none()),
            ..setup.clone()
        };
        let depth = |ln_down: f64| {
            Rigging::new(&flat, load(ln_down.exp()), speed, water, &[])
                .and_then(|rigging| rigging.at(main))
                .map_or(f64::NAN, |hung| hung.shape.tail_depth().0)
        };
        let (least, most): (f64, f64) = (1e-6_f64.ln(), 0.2_f64.ln());
        if wanted.0 <= depth(least) {
            return Ok(load(0.0));
        }
        let found = root(|p| depth(p) - wanted.0, least, most, 1e-4);
        Ok(load(found.unwrap_or(most).exp()))
    }
}

/// Pairs of setback and depth, typed in, with straight pieces between them.
#[derive(Debug, Clone, PartialEq)]
pub struct DiveTable {
    pairs: Vec<(Metres, Metres)>,
}

impl DiveTable {
    /// A table of pairs in any order.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with `dives[3].depth_m` for a figure that cannot be (also one that is no number);
    /// [`Error::Contradiction`] for no pair, too many, two depths at one setback, or a depth beyond its setback.
    pub fn new(mut pairs: Vec<(Metres, Metres)>) -> Result<Self, Error> {
        if pairs.is_empty() || pairs.len() > MOST {
            return Err(Error::contradiction(
                "dives",
                format!(
                    "a dive table has between 1 and {MOST} pairs of setback and depth, not {}",
                    pairs.len()
                ),
            ));
        }
        for (place, (out, depth)) in pairs.iter().enumerate() {
            fields::OUT
                .range
                .check(&format!("dives[{place}].out_m"), out.0)?;
            fields::DEPTH
                .range
                .check(&format!("dives[{place}].depth_m"), depth.0)?;
            if depth > out {
                return Err(Error::contradiction(
                    format!("dives[{place}].depth_m"),
                    "a lure cannot be deeper than its line is long; correct the pair",
                ));
            }
        }
        pairs.sort_by(|a, b| a.0.0.total_cmp(&b.0.0));
        if pairs.windows(2).any(|two| two[0].0 == two[1].0) {
            return Err(Error::contradiction(
                "dives",
                "two depths stand at one setback; keep one of them",
            ));
        }
        Ok(Self { pairs })
    }

    /// The pairs, shortest setback first.
    pub fn pairs(&self) -> &[(Metres, Metres)] {
        &self.pairs
    }

    /// Depth at a setback: straight between pairs, from the surface to the first one.
    ///
    /// # Errors
    /// [`Error::Contradiction`] beyond the last pair: nobody measured there.
    pub fn depth(&self, out: Metres) -> Result<Metres, Error> {
        let mut before = (Metres(0.0), Metres(0.0));
        for pair in &self.pairs {
            if out <= pair.0 {
                let share = (out - before.0) / (pair.0 - before.0);
                return Ok(before.1 + (pair.1 - before.1) * share);
            }
            before = *pair;
        }
        Err(Error::contradiction(
            "out_m",
            format!(
                "the dive table ends at {:.1} m of line; let out less, or add a pair",
                before.0.0
            ),
        ))
    }

    /// The shortest setback with which it dives so deep; `None` when it does not within the table.
    pub fn out_for(&self, wanted: Metres) -> Option<Metres> {
        let mut before = (Metres(0.0), Metres(0.0));
        for pair in &self.pairs {
            if pair.1 >= wanted && pair.1 > before.1 {
                let share = (wanted - before.1) / (pair.1 - before.1);
                return Some(before.0 + (pair.0 - before.0) * share);
            }
            before = *pair;
        }
        None
    }

    /// The deepest of its depths.
    pub fn deepest(&self) -> Metres {
        let depths = self.pairs.iter().map(|pair| pair.1.0);
        Metres(depths.fold(0.0, f64::max))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    fn table(pairs: &[(f64, f64)]) -> Result<DiveTable, Error> {
        DiveTable::new(
            pairs
                .iter()
                .map(|(out, depth)| (Metres(*out), Metres(*depth)))
                .collect(),
        )
    }

    // By hand: straight lines through (0, 0), (10, 3), (30, 7).
    #[rstest]
    #[case(5.0, 1.5)]
    #[case(10.0, 3.0)]
    #[case(20.0, 5.0)]
    #[case(30.0, 7.0)]
    fn between_two_pairs_the_table_is_straight(#[case] out: f64, #[case] depth: f64) {
        let table = table(&[(30.0, 7.0), (10.0, 3.0)]).unwrap();
        assert!((table.depth(Metres(out)).unwrap().0 - depth).abs() < 1e-12);
        assert!((table.out_for(Metres(depth)).unwrap().0 - out).abs() < 1e-12);
    }

    #[test]
    fn beyond_its_last_pair_a_table_says_nothing() {
        let table = table(&[(10.0, 3.0)]).unwrap();
        let refusal = table.depth(Metres(11.0)).unwrap_err();
        assert!(refusal.to_string().contains("ends at 10.0 m"), "{refusal}");
        assert_eq!(table.out_for(Metres(3.1)), None);
    }

    #[rstest]
    #[case(&[], "dives")]
    #[case(&[(10.0, f64::NAN)], "dives[0].depth_m")]
    #[case(&[(10.0, 3.0), (f64::NAN, 3.0)], "dives[1].out_m")]
    #[case(&[(10.0, 12.0)], "dives[0].depth_m")]
    #[case(&[(10.0, 3.0), (10.0, 4.0)], "dives")]
    fn a_table_that_cannot_be_is_refused_by_its_field(
        #[case] pairs: &[(f64, f64)],
        #[case] field: &str,
    ) {
        assert_eq!(table(pairs).unwrap_err().quantity(), field);
    }
}
