use super::school::{ColourSchool, Schools};
use super::term::Term;
use crate::error::{Error, Range};
use crate::evidence::Angler;
use crate::fish::Fish;
use crate::line::LineSetup;
use crate::rules::Limits;
use std::sync::Arc;

/// How much each term counts.
#[derive(Debug, Clone, PartialEq)]
pub struct Weights([f64; Term::ALL.len()]);

/// What a weight may be.
pub const WEIGHT: Range = Range::closed(0.0, 3.0, "", "between 0 and 3");

impl Weights {
    /// The weights that go with a fish and the schools followed; designed for this project, so that the
    /// situations of the trade come out as practice has them.
    pub fn usual(fish: Fish, schools: &Schools) -> Self {
        let mut weights = Self([0.0; Term::ALL.len()]);
        for (place, &term) in Term::ALL.iter().enumerate() {
            weights.0[place] = usual(term, fish, schools);
        }
        weights
    }

    /// How much a term counts.
    pub fn of(&self, term: Term) -> f64 {
        self.0[term as usize]
    }

    /// The same with the angler's own weight of a term.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] outside 0–3.
    pub fn with(mut self, term: Term, weight: f64) -> Result<Self, Error> {
        WEIGHT.check(&format!("weight_{}", term.key()), weight)?;
        self.0[term as usize] = weight;
        Ok(self)
    }
}

fn usual(term: Term, fish: Fish, schools: &Schools) -> f64 {
    let salmonid = fish.is_salmonid();
    let by_confidence = schools.colour == ColourSchool::Rotate;
    match term {
        _ if by_confidence && term.is_of_finish() => 0.0,
        Term::Kind => 1.2,
        Term::Speed => 1.0,
        Term::Thump if salmonid => 0.6,
        Term::Novelty if by_confidence => 1.5,
        Term::Evidence if by_confidence => 1.2,
        Term::Bait if salmonid => 0.3,
        Term::Bait if fish != Fish::YellowPerch => 0.7,
        Term::Thump | Term::Novelty | Term::Bait => 0.9,
        Term::Seen if salmonid => 0.8,
        Term::Evidence | Term::Line => 0.8,
        Term::Seen | Term::Clarity => 0.6,
        Term::Attractor
            if matches!(
                fish,
                Fish::LandlockedSockeye
                    | Fish::LandlockedChinook
                    | Fish::Coho
                    | Fish::Chinook
                    | Fish::Pink
                    | Fish::Chum
            ) =>
        {
            0.9
        }
        Term::Light | Term::Warmth => 0.5,
        Term::Size | Term::Ready | Term::Attractor => 0.4,
        Term::Forage | Term::Cold | Term::Leader | Term::FlasherBlade => 0.3,
        Term::Hooks | Term::AboveClevis | Term::Weight => 0.2,
    }
}

/// How the angler wants to be advised.
#[derive(Debug, Clone, PartialEq)]
pub struct Ways {
    /// The schools followed.
    pub schools: Schools,
    /// What each term counts.
    pub weights: Weights,
    /// What the typed-in rules of the date leave.
    pub limits: Limits,
    /// What the angler catches on the whole.
    pub angler: Angler,
    /// Line set-ups of the box, for rigs that their own does not take where they shall run.
    pub tools: Vec<Arc<LineSetup>>,
}

impl Ways {
    /// The usual ones for a fish: default schools, usual weights, no rules, no log.
    pub fn usual(fish: Fish) -> Self {
        let schools = Schools::default();
        Self {
            weights: Weights::usual(fish, &schools),
            schools,
            limits: Limits::default(),
            angler: Angler::default(),
            tools: Vec::new(),
        }
    }
}

impl Term {
    /// Why it counts as much as it does where nobody says otherwise.
    pub fn reason_of_weight(self, fish: Fish, schools: &Schools) -> &'static str {
        match self {
            _ if schools.colour == ColourSchool::Rotate && self.is_of_finish() => {
                "nothing: you follow the school that rotates colours and counts"
            }
            Self::Speed => "a blade at the wrong speed catches nothing, whatever its finish",
            Self::Line => "the more line, the more a little speed moves it; a tool has its depths",
            Self::Kind => "most: what is tied for the fish carries the bait and the hook it takes",
            Self::Thump if fish.is_salmonid() => "less than for walleye: these hunt by eye",
            Self::Thump => "much: in stained water it is felt before it is seen",
            Self::Seen if fish.is_salmonid() => "much: they hunt by eye in open water",
            Self::Seen => "computed, but good to a third only; order among finishes is steadier",
            Self::Clarity => "the rule most anglers begin with",
            Self::Light => "a rule of dawn, dusk and sun; the light model is asked besides",
            Self::Forage => "helps where fish are fixed on one forage",
            Self::Warmth => "one finish, in a narrow band of temperature",
            Self::Size => "large lures are refused sooner than small ones",
            Self::Bait if fish.is_salmonid() => "a spinner catches them without",
            Self::Bait => "much: most are caught on bait",
            Self::Cold => "for wings only, in cold water",
            Self::Leader => "shy fish and clear water; else little",
            Self::Hooks => "a question of landing and releasing more than of strikes",
            Self::Attractor => "much for salmon: they follow one, and shy ones flee it",
            Self::FlasherBlade => "only behind a rotating flasher",
            Self::AboveClevis => "little: drag against pull",
            Self::Weight => "little: how an inline spinner sinks",
            Self::Ready => "what lies made up is in the water in a minute",
            Self::Evidence => "your own fish, as far as their number can tell",
            Self::Novelty => {
                "counts when everybody drags the same; else a little, for what was never tried"
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_school_that_counts_gives_finish_no_weight() {
        let rotate = Schools {
            colour: ColourSchool::Rotate,
            ..Schools::default()
        };
        let (usual, rotating) = (
            Weights::usual(Fish::Walleye, &Schools::default()),
            Weights::usual(Fish::Walleye, &rotate),
        );
        for &term in Term::ALL {
            assert!(
                WEIGHT.holds(usual.of(term)) && usual.of(term) > 0.0,
                "{term:?}"
            );
            if term.is_of_finish() {
                assert!(rotating.of(term).abs() < 1e-12, "{term:?}");
            }
            assert!(!term.reason_of_weight(Fish::Walleye, &rotate).is_empty());
        }
        assert!(rotating.of(Term::Evidence) > usual.of(Term::Evidence));
    }

    #[test]
    fn a_weight_of_ones_own_takes_the_place() {
        let weights = Weights::usual(Fish::Coho, &Schools::default());
        let own = weights.clone().with(Term::Seen, 2.5).unwrap();
        assert!((own.of(Term::Seen) - 2.5).abs() < 1e-12);
        let refusal = weights.with(Term::Seen, 9.0).unwrap_err();
        assert_eq!(refusal.quantity(), "weight_seen");
    }
}
