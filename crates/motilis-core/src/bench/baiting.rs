//! How a bait goes on its hooks, step by step (common practice, no source).

use crate::keyed::keyed;
use crate::rig::{Bait, Dressing, HookStyle, Stack, What};

/// One step of baiting.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Baiting {
    /// The front hook lightly through the head or nose.
    Nose,
    /// The second hook at the middle of the body, with no pull between the two.
    SecondAtMiddle,
    /// Over the point, along the shank and past its bend.
    AlongShank,
    /// Up the leader over the eye of the hook, so that it lies straight.
    UpTheLeader,
    /// On the point, lightly, its end free.
    Lightly,
    /// Through the sucker at its broad end.
    Sucker,
    /// On the bend, one beside the other, the point free.
    OnTheBend,
    /// Kneaded about the bend, the point covered.
    Kneaded,
    /// The thin end on the hook, the skin outside.
    ThinEnd,
    /// Its head pushed into the cap.
    IntoCap,
    /// The pin through cap and head, behind the eyes.
    Pin,
    /// A wedge pushed in until the bait is bent as it shall turn.
    Wedge,
    /// The trailing hook behind the back fin.
    BehindBackFin,
    /// Towed beside the boat: it must turn evenly, or lie straight.
    Tow,
}

keyed!(Baiting {
    Nose "nose" "hook it lightly through the nose",
    SecondAtMiddle "second_at_middle" "set the second hook at mid-body, without pull between the two",
    AlongShank "along_shank" "thread it over the point, along the shank and past its bend",
    UpTheLeader "up_the_leader" "thread it over the hook’s eye and up the leader, so that it lies straight",
    Lightly "lightly" "hook it lightly, its end free",
    Sucker "sucker" "hook it through the sucker at its broad end",
    OnTheBend "on_the_bend" "put it on the bend, the point free",
    Kneaded "kneaded" "knead it about the bend, the point covered",
    ThinEnd "thin_end" "hook its thin end, the skin outside",
    IntoCap "into_cap" "push its head into the cap",
    Pin "pin" "pin cap and head together behind the eyes",
    Wedge "wedge" "push the wedge in until the bait bends as it shall turn",
    BehindBackFin "behind_back_fin" "set the trailing hook behind the back fin",
    Tow "tow" "tow it beside the boat: it must turn evenly, or lie straight",
});

/// The steps that put a bait on the hooks of a stack.
pub fn baiting(stack: &Stack, bait: Bait) -> Vec<Baiting> {
    let has = |what: What| stack.pieces.iter().any(|piece| piece.part.what() == what);
    let two = stack
        .hooks()
        .iter()
        .map(|&at| stack.pieces[at].count)
        .sum::<u8>()
        > 1;
    let second = two.then_some(Baiting::SecondAtMiddle);
    let mut steps = match bait {
        _ if has(What::Dressing(Dressing::BaitHeadCap)) => {
            let mut steps = vec![Baiting::IntoCap, Baiting::Pin, Baiting::Wedge];
            steps.extend(two.then_some(Baiting::BehindBackFin));
            steps
        }
        _ if bait.is_worm() && has(What::Hook(HookStyle::BentShank)) => vec![Baiting::AlongShank],
        Bait::ThreadedCrawler => vec![Baiting::UpTheLeader],
        Bait::Crawler | Bait::MostCrawler | Bait::HalfCrawler => {
            std::iter::once(Baiting::Nose).chain(second).collect()
        }
        Bait::WormPiece | Bait::HalfInch | Bait::QuarterInch => vec![Baiting::Lightly],
        Bait::Leech => vec![Baiting::Sucker],
        Bait::Corn | Bait::Egg => vec![Baiting::OnTheBend],
        Bait::Dough => vec![Baiting::Kneaded],
        Bait::Strip => vec![Baiting::ThinEnd],
        Bait::GrubTail => vec![Baiting::AlongShank],
        Bait::BaitFish => {
            let tail = two.then_some(Baiting::BehindBackFin);
            std::iter::once(Baiting::Nose).chain(tail).collect()
        }
    };
    steps.push(Baiting::Tow);
    steps
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::bench::starting;
    use crate::fish::Fish;
    use crate::rig::Kind;
    use rstest::rstest;

    /// Whole crawler two hooks with the second at mid-body, half crawler on bent-shank, a capped bait pinned, wedged and hooked
    /// behind the back fin (common practice, no source).
    #[rstest]
    #[case(Kind::CrawlerHarness, Bait::Crawler, &[Baiting::Nose, Baiting::SecondAtMiddle, Baiting::Tow])]
    #[case(Kind::WingWorm, Bait::HalfCrawler, &[Baiting::AlongShank, Baiting::Tow])]
    #[case(Kind::BaitSpinner, Bait::BaitFish, &[Baiting::IntoCap, Baiting::Pin, Baiting::Wedge, Baiting::BehindBackFin, Baiting::Tow])]
    #[case(Kind::RingBead, Bait::WormPiece, &[Baiting::Lightly, Baiting::Tow])]
    fn each_bait_has_its_order(#[case] kind: Kind, #[case] bait: Bait, #[case] steps: &[Baiting]) {
        let stack = starting(kind, Fish::Walleye, kind.usual_hook_size(), &[]).unwrap();
        assert_eq!(baiting(&stack, bait), steps);
        for &bait in Bait::ALL {
            assert!(baiting(&stack, bait).len() >= 2);
        }
    }
}
