use super::kit::{Px, Scale, Tick, ticks};
use crate::units::{Quantity, System};
use askama::Template;
use motilis_core::units::Metres;
use std::collections::BTreeMap;

const SIDE: f64 = 16.0;
const FOOT: f64 = 26.0;
/// A fish is a dot; dots of one width stand on each other.
const DOT: f64 = 9.0;
/// Most dots on each other; beyond them each stands for several.
const MOST: usize = 12;

/// Lengths of one species.
pub struct LengthsSource<'a> {
    /// Length of each fish, and whether it was kept.
    pub fish: &'a [(Metres, bool)],
    /// Lengths at which a rule of today changes what may be kept.
    pub limits: &'a [Metres],
    /// The boat's units.
    pub system: System,
    /// Width of the drawing.
    pub width: f64,
    /// What a reader who does not see it is told.
    pub title: String,
}

/// Lengths as dots on a rule: filled for a fish that was kept.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/lengths.svg")]
pub struct Lengths {
    width: Px,
    height: Px,
    rule: Px,
    dots: Vec<(Px, Px, bool)>,
    limits: Vec<Px>,
    ticks: Vec<Tick>,
    /// Unit of the ticks.
    pub unit: &'static str,
    each: usize,
    title: String,
}

impl Lengths {
    /// What a dot stands for.
    pub fn each_said(&self) -> String {
        match self.each {
            1 => "a dot a fish".to_owned(),
            each => format!("a dot for up to {each} fish"),
        }
    }

    /// Draws them; `None` with fewer than three.
    pub fn new(source: &LengthsSource<'_>) -> Option<Self> {
        if source.fish.len() < 3 {
            return None;
        }
        let unit = Quantity::Length.unit(source.system);
        let shown = || source.fish.iter().map(|(length, _)| unit.from_si(length.0));
        let ends = (
            shown().fold(f64::INFINITY, f64::min).floor() - 1.0,
            shown().fold(f64::NEG_INFINITY, f64::max).ceil() + 1.0,
        );
        let x = Scale::new(ends, (SIDE, source.width - SIDE));
        let mut piles: BTreeMap<i64, Vec<bool>> = BTreeMap::new();
        for (length, kept) in source.fish {
            let at = x.at(unit.from_si(length.0)).0;
            piles
                .entry((at / DOT).floor() as i64)
                .or_default()
                .push(*kept);
        }
        let highest = piles.values().map(Vec::len).max().unwrap_or(1);
        let each = highest.div_ceil(MOST);
        let height = DOT * (highest.div_ceil(each) + usize::from(each > 1)) as f64 + FOOT + 8.0;
        let rule = height - FOOT;
        let mut dots = Vec::new();
        for (pile, mut fish) in piles {
            fish.sort_unstable_by(|a, b| b.cmp(a));
            // A dot is never of kept and released fish together.
            let alike = fish.chunk_by(|a, b| a == b);
            let piled = alike.flat_map(|group| group.chunks(each));
            for (level, kept) in piled.map(|some| some[0]).enumerate() {
                dots.push((
                    Px((pile as f64 + 0.5) * DOT),
                    Px(rule - (level as f64 + 0.6) * DOT),
                    kept,
                ));
            }
        }
        let inside = |limit: &f64| (ends.0..=ends.1).contains(limit);
        let limits = source.limits.iter().map(|limit| unit.from_si(limit.0));
        Some(Self {
            width: Px(source.width),
            height: Px(height),
            rule: Px(rule),
            dots,
            limits: limits.filter(inside).map(|limit| x.at(limit)).collect(),
            ticks: ticks(ends.0, ends.1, (source.width / 60.0) as usize)
                .into_iter()
                .map(|figure| Tick {
                    at: x.at(figure),
                    label: format!("{figure}"),
                })
                .collect(),
            unit: unit.symbol,
            each,
            title: source.title.clone(),
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn drawn(fish: &[(Metres, bool)]) -> Option<Lengths> {
        Lengths::new(&LengthsSource {
            fish,
            limits: &[Metres(0.4064), Metres(3.0)],
            system: System::Imperial,
            width: 390.0,
            title: String::new(),
        })
    }

    #[test]
    fn every_fish_has_its_dot_on_the_paper() {
        let fish: Vec<(Metres, bool)> = (0..60)
            .map(|n| (Metres(0.3 + 0.005 * f64::from(n)), n % 3 == 0))
            .collect();
        let drawn = drawn(&fish).unwrap();
        assert_eq!(drawn.each, 1);
        assert_eq!(drawn.dots.len(), 60);
        assert_eq!(drawn.dots.iter().filter(|dot| dot.2).count(), 20);
        for (x, y, _) in &drawn.dots {
            assert!((0.0..390.0).contains(&x.0) && (0.0..drawn.rule.0).contains(&y.0));
        }
        assert_eq!(
            drawn.limits.len(),
            1,
            "a limit beyond the rule is not drawn"
        );
    }

    #[test]
    fn a_thousand_of_a_length_stand_for_several_and_two_are_no_picture() {
        let many = vec![(Metres(0.4), false); 1_000];
        let drawn = drawn(&many).unwrap();
        assert!(drawn.dots.len() <= MOST && drawn.each > 80);
        assert!(super::tests::drawn(&many[..2]).is_none());
        // Of a hundred with one kept exactly one dot is filled, and it lies on the paper.
        let mut mixed = vec![(Metres(0.4), false); 99];
        mixed.push((Metres(0.4), true));
        let drawn = super::tests::drawn(&mixed).unwrap();
        assert_eq!(drawn.dots.iter().filter(|dot| dot.2).count(), 1);
        assert!(drawn.dots.iter().all(|dot| dot.1.0 > 0.0));
    }
}
