use super::{Belief, Verdict, best_of};
use crate::ids::RigId;

/// From which probability on a change is called.
const LIKELY: f64 = 0.8;

/// A rod that is out with its rig.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct OnRod {
    /// The rod's number.
    pub rod: u8,
    /// What is on it.
    pub rig: RigId,
}

/// Rods that should carry what out-fishes them.
#[derive(Debug, Clone, PartialEq)]
pub struct SwitchCall {
    /// The rig that is ahead.
    pub rig: RigId,
    /// Rods to change, the worst first.
    pub rods: Vec<u8>,
    /// What is known of that rig.
    pub ahead: Belief,
    /// Fish and rod-hours of what those rods carry, together.
    pub behind: Belief,
    /// Probability that the one is better than the other.
    pub probability: f64,
    /// The word for it.
    pub verdict: Verdict,
}

/// The change that the day's fish call for; `None` while no rig is likely ahead, or all rods but the probe carry it.
///
/// How many rods go over follows their Thompson share, the number of rods times the probability that the rig is the best
/// of those out (Thompson 1933, Biometrika 25, from memory); one rod always stays different as a probe. A rod is changed
/// when its own rig is likely the worse one. `spare` says how many more of a rig lie made up.
pub fn switch(
    rods: &[OnRod],
    beliefs: &[(RigId, Belief)],
    spare: impl Fn(RigId) -> usize,
) -> Option<SwitchCall> {
    let known: Vec<Belief> = beliefs.iter().map(|(_, belief)| *belief).collect();
    let (best, share) = best_of(&known)
        .into_iter()
        .enumerate()
        .max_by(|a, b| a.1.total_cmp(&b.1).then(b.0.cmp(&a.0)))?;
    let (rig, ahead) = beliefs[best];
    let of = |rig: RigId| beliefs.iter().find(|(known, _)| *known == rig);
    let mut behind: Vec<(OnRod, Belief)> = rods
        .iter()
        .filter(|on| on.rig != rig)
        .filter_map(|on| Some((*on, of(on.rig)?.1)))
        .filter(|(_, belief)| ahead.verdict_over(belief) >= Verdict::Likely)
        .collect();
    behind.sort_by(|a, b| {
        a.1.rate()
            .total_cmp(&b.1.rate())
            .then(a.0.rod.cmp(&b.0.rod))
    });
    let carrying = rods.iter().filter(|on| on.rig == rig).count();
    let wanted = (rods.len() as f64 * share).round() as usize;
    let room = wanted
        .min(rods.len().saturating_sub(1))
        .saturating_sub(carrying);
    behind.truncate(room.min(spare(rig)));
    let (_, first) = behind.first()?;
    let mut together = *first;
    let mut counted = vec![behind[0].0.rig];
    for (on, belief) in &behind[1..] {
        if !counted.contains(&on.rig) {
            counted.push(on.rig);
            together = together.with(belief.record);
        }
    }
    let probability = ahead.beats(&together);
    (probability >= LIKELY).then(|| SwitchCall {
        rig,
        rods: behind.iter().map(|(on, _)| on.rod).collect(),
        ahead,
        behind: together,
        probability,
        verdict: ahead.verdict_over(&together),
    })
}

#[cfg(test)]
mod tests {
    use super::super::{Angler, Record};
    use super::*;

    fn believed(fish: u32, rod_hours: f64) -> Belief {
        let record = Record { fish, rod_hours };
        Angler::default().believes(record).unwrap()
    }

    fn rods(rigs: &[i64]) -> Vec<OnRod> {
        let numbered = (1..).zip(rigs);
        numbered
            .map(|(rod, rig)| OnRod {
                rod,
                rig: RigId(*rig),
            })
            .collect()
    }

    /// The saying of the notes: 4 fish in 3.1 rod-hours against 1 in 6.4.
    #[test]
    fn the_rod_that_catches_everything_is_followed_by_all_but_a_probe() {
        let beliefs = [
            (RigId(1), believed(1, 3.2)),
            (RigId(2), believed(0, 3.2)),
            (RigId(3), believed(4, 3.1)),
            (RigId(4), believed(0, 3.2)),
        ];
        let call = switch(&rods(&[1, 2, 3, 4]), &beliefs, |_| 9).unwrap();
        assert_eq!(call.rig, RigId(3));
        assert!(call.rods.len() <= 2 && !call.rods.contains(&3), "{call:?}");
        assert!(call.rods.contains(&2) || call.rods.contains(&4));
        assert!(call.probability > 0.8 && call.verdict >= Verdict::Likely);
        // Only as many as lie made up.
        let one = switch(&rods(&[1, 2, 3, 4]), &beliefs, |_| 1).unwrap();
        assert_eq!(one.rods.len(), 1);
        assert_eq!(switch(&rods(&[1, 2, 3, 4]), &beliefs, |_| 0), None);
    }

    #[test]
    fn nothing_is_called_on_too_few_hours_or_on_luck() {
        let early = [(RigId(1), believed(3, 1.0)), (RigId(2), believed(0, 1.0))];
        assert_eq!(switch(&rods(&[1, 2]), &early, |_| 9), None);
        let even = [(RigId(1), believed(3, 6.0)), (RigId(2), believed(2, 6.0))];
        assert_eq!(switch(&rods(&[1, 2]), &even, |_| 9), None);
    }

    #[test]
    fn with_two_rods_one_stays_the_probe() {
        let clear = [(RigId(1), believed(9, 6.0)), (RigId(2), believed(0, 6.0))];
        assert_eq!(switch(&rods(&[1, 2]), &clear, |_| 9), None);
        let call = switch(&rods(&[1, 2, 2]), &clear, |_| 9).unwrap();
        assert_eq!(call.rods, [2]);
    }
}
