//! Where anglers disagree: each question with its schools, the default first.

use crate::keyed::keyed;
use crate::units::{FOOT, Metres};

/// Colour: what decides.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub enum ColourSchool {
    /// Light, water and forage decide.
    #[default]
    Conditions,
    /// Confidence matters most: rotate through the box and count.
    Rotate,
}

/// Hooks on spinners.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub enum HookSchool {
    /// A single siwash, barbless where fish are released.
    #[default]
    Single,
    /// A treble, as rudder and for short strikers.
    Treble,
}

/// Weight of the leader.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub enum LeaderSchool {
    /// As light as handling allows.
    #[default]
    Light,
    /// Heavy and stiff: lasts, and passes the attractor's kick on.
    Heavy,
}

/// The blade behind a rotating flasher.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub enum FlasherBladeSchool {
    /// Indiana as the middle way.
    #[default]
    Indiana,
    /// Colorado for pull.
    Colorado,
    /// Magnum willow for speed.
    MagnumWillow,
}

/// Attractors ahead of the rig.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub enum AttractorSchool {
    /// Half the lines with, half without.
    #[default]
    Half,
    /// Always.
    Always,
    /// Never: subtle.
    Never,
}

/// Parts above the clevis.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub enum AboveClevisSchool {
    /// None: least drag.
    #[default]
    None,
    /// A second blade for more pull when trolling.
    SecondBlade,
}

/// Where the weight sits on inline spinners.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub enum WeightSchool {
    /// A torpedo at the front.
    #[default]
    Front,
    /// A weight at the tail.
    Tail,
    /// None on the spinner: the weight is up the line.
    UpTheLine,
}

/// How high over the fish.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub enum HeightSchool {
    /// Just above them.
    #[default]
    Above,
    /// On the bottom.
    Bottom,
}

keyed!(ColourSchool {
    Conditions "conditions" "conditions decide",
    Rotate "rotate" "rotate through the box and count",
});
keyed!(HookSchool {
    Single "single" "single siwash",
    Treble "treble" "treble",
});
keyed!(LeaderSchool {
    Light "light" "as light as handling allows",
    Heavy "heavy" "heavy and stiff",
});
keyed!(FlasherBladeSchool {
    Indiana "indiana" "Indiana, the middle way",
    Colorado "colorado" "Colorado for pull",
    MagnumWillow "magnum_willow" "magnum willow for speed",
});
keyed!(AttractorSchool {
    Half "half" "half the lines with, half without",
    Always "always" "always",
    Never "never" "never",
});
keyed!(AboveClevisSchool {
    None "none" "nothing, least drag",
    SecondBlade "second_blade" "a second blade for more pull",
});
keyed!(WeightSchool {
    Front "front" "torpedo at the front",
    Tail "tail" "weight at the tail",
    UpTheLine "up_the_line" "none, weight up the line",
});
keyed!(HeightSchool {
    Above "above" "just above them",
    Bottom "bottom" "on the bottom",
});

impl HeightSchool {
    /// The depth it runs rigs at: a foot over the upper end of the fish, or a foot over the bottom (common
    /// practice, no source); never above a foot.
    pub fn depth(self, fish: (Metres, Metres), bottom: Metres) -> Metres {
        let foot = FOOT;
        let wanted = match self {
            Self::Above => fish.0 - foot,
            Self::Bottom => bottom - foot,
        };
        if wanted < foot { foot } else { wanted }
    }
}

/// The schools an angler follows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Schools {
    /// What decides the colour.
    pub colour: ColourSchool,
    /// Hooks on spinners.
    pub hooks: HookSchool,
    /// Weight of the leader.
    pub leader: LeaderSchool,
    /// The blade behind a rotating flasher.
    pub flasher_blade: FlasherBladeSchool,
    /// Attractors ahead of the rig.
    pub attractor: AttractorSchool,
    /// Parts above the clevis.
    pub above_clevis: AboveClevisSchool,
    /// Where the weight sits on inline spinners.
    pub weight: WeightSchool,
    /// How high over the fish.
    pub height: HeightSchool,
}

/// A question on which anglers disagree.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Question {
    /// What decides the colour.
    Colour,
    /// Hooks on spinners.
    Hooks,
    /// Weight of the leader.
    Leader,
    /// The blade behind a rotating flasher.
    FlasherBlade,
    /// Attractors ahead of the rig.
    Attractor,
    /// Parts above the clevis.
    AboveClevis,
    /// Where the weight sits on inline spinners.
    Weight,
    /// How high over the fish.
    Height,
}

keyed!(Question {
    Colour "colour" "colour",
    Hooks "hooks" "hooks on spinners",
    Leader "leader" "leader weight",
    FlasherBlade "flasher_blade" "blade behind a rotating flasher",
    Attractor "attractor" "attractor",
    AboveClevis "above_clevis" "above the clevis",
    Weight "weight" "weight on inline spinners",
    Height "height" "height over the fish",
});

/// Answers of a school as keys and names.
macro_rules! answers {
    ($school:ty) => {
        <$school>::ALL
            .iter()
            .map(|school| (school.key(), school.name()))
            .collect()
    };
}

impl Question {
    /// The schools that answer it, the default first: key and name.
    pub fn schools(self) -> Vec<(&'static str, &'static str)> {
        match self {
            Self::Colour => answers!(ColourSchool),
            Self::Hooks => answers!(HookSchool),
            Self::Leader => answers!(LeaderSchool),
            Self::FlasherBlade => answers!(FlasherBladeSchool),
            Self::Attractor => answers!(AttractorSchool),
            Self::AboveClevis => answers!(AboveClevisSchool),
            Self::Weight => answers!(WeightSchool),
            Self::Height => answers!(HeightSchool),
        }
    }
}

impl Schools {
    /// The key of the school followed on a question.
    pub fn answer(&self, question: Question) -> &'static str {
        match question {
            Question::Colour => self.colour.key(),
            Question::Hooks => self.hooks.key(),
            Question::Leader => self.leader.key(),
            Question::FlasherBlade => self.flasher_blade.key(),
            Question::Attractor => self.attractor.key(),
            Question::AboveClevis => self.above_clevis.key(),
            Question::Weight => self.weight.key(),
            Question::Height => self.height.key(),
        }
    }

    /// The same with another school on a question; `None` for a key that is none of its schools.
    pub fn following(mut self, question: Question, key: &str) -> Option<Self> {
        match question {
            Question::Colour => self.colour = ColourSchool::from_key(key)?,
            Question::Hooks => self.hooks = HookSchool::from_key(key)?,
            Question::Leader => self.leader = LeaderSchool::from_key(key)?,
            Question::FlasherBlade => self.flasher_blade = FlasherBladeSchool::from_key(key)?,
            Question::Attractor => self.attractor = AttractorSchool::from_key(key)?,
            Question::AboveClevis => self.above_clevis = AboveClevisSchool::from_key(key)?,
            Question::Weight => self.weight = WeightSchool::from_key(key)?,
            Question::Height => self.height = HeightSchool::from_key(key)?,
        }
        Some(self)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_school_chooses_the_height() {
        let fish = (20.0 * FOOT, 25.0 * FOOT);
        let at = |school: HeightSchool, fish| school.depth(fish, 27.0 * FOOT) / FOOT;
        assert!((at(HeightSchool::Above, fish) - 19.0).abs() < 1e-9);
        assert!((at(HeightSchool::Bottom, fish) - 26.0).abs() < 1e-9);
        assert!((at(HeightSchool::Above, (0.0 * FOOT, fish.1)) - 1.0).abs() < 1e-9);
    }

    #[test]
    fn every_school_can_be_followed_and_the_first_is_the_default() {
        for &question in Question::ALL {
            let schools = question.schools();
            assert_eq!(Schools::default().answer(question), schools[0].0);
            for (key, _) in schools {
                let followed = Schools::default().following(question, key).unwrap();
                assert_eq!(followed.answer(question), key);
            }
            assert_eq!(Schools::default().following(question, "no such"), None);
        }
    }
}
