//! Enumerations of the trade that a file names by a key and an angler by a word.

/// Gives an enumeration `ALL`, `key`, `from_key` and `name`: variant, key in files, name to read.
macro_rules! keyed {
    ($type:ident { $($variant:ident $key:literal $name:literal),* $(,)? }) => {
        impl $type {
            /// Every one, in the order a list shows them.
            pub const ALL: &'static [Self] = &[$(Self::$variant),*];

            /// The name in files, forms and the JSON interface.
            pub fn key(self) -> &'static str {
                match self { $(Self::$variant => $key),* }
            }

            /// The one of a key, if there is one.
            pub fn from_key(key: &str) -> Option<Self> {
                Self::ALL.iter().copied().find(|one| one.key() == key)
            }

            /// The name an angler reads.
            pub fn name(self) -> &'static str {
                match self { $(Self::$variant => $name),* }
            }
        }

        #[cfg(test)]
        impl $type {
            /// Every key must lead back to its variant, and no two may share one.
            pub(crate) fn assert_keys_lead_back() {
                for &one in Self::ALL {
                    assert_eq!(Self::from_key(one.key()), Some(one));
                }
                assert_eq!(Self::from_key("no such key"), None);
            }
        }
    };
}
pub(crate) use keyed;

#[cfg(test)]
mod tests {
    use crate::advice::{
        AboveClevisSchool, AttractorSchool, ColourSchool, FlasherBladeSchool, HeightSchool,
        HookSchool, LeaderSchool, Mark, Mood, Question, Role, Sky, Term, WeightSchool, Wind,
    };
    use crate::bench::{Caution, Level, Tool};
    use crate::blade::{Family, State};
    use crate::book::{EventKind, MadeState};
    use crate::fish::{Fish, Forage};
    use crate::light::{Stain, Verdict, View, Viewer};
    use crate::rig::{
        AttractorStyle, Bait, BeadStyle, BodyShape, ClevisStyle, Colour, Dressing, HookStyle, Kind,
        Knot, Material, Setting, Spacing, SwivelStyle,
    };
    use crate::rules::Topic;
    use crate::spread::{Group, Kick, Side, Stance};
    use crate::tackle::{
        DiverSize, LineMaterial, ReleaseHole, SideSetting, SinkerStyle, WeightMaterial,
    };

    #[test]
    fn every_key_leads_back() {
        Family::assert_keys_lead_back();
        Stain::assert_keys_lead_back();
        View::assert_keys_lead_back();
        Viewer::assert_keys_lead_back();
        State::assert_keys_lead_back();
        Kind::assert_keys_lead_back();
        HookStyle::assert_keys_lead_back();
        Level::assert_keys_lead_back();
        Tool::assert_keys_lead_back();
        Caution::assert_keys_lead_back();
        Material::assert_keys_lead_back();
        ClevisStyle::assert_keys_lead_back();
        BeadStyle::assert_keys_lead_back();
        BodyShape::assert_keys_lead_back();
        SwivelStyle::assert_keys_lead_back();
        AttractorStyle::assert_keys_lead_back();
        crate::rig::Stir::assert_keys_lead_back();
        Spacing::assert_keys_lead_back();
        Knot::assert_keys_lead_back();
        Setting::assert_keys_lead_back();
        Dressing::assert_keys_lead_back();
        Bait::assert_keys_lead_back();
        crate::bench::Baiting::assert_keys_lead_back();
        crate::advice::Response::assert_keys_lead_back();
        Colour::assert_keys_lead_back();
        LineMaterial::assert_keys_lead_back();
        WeightMaterial::assert_keys_lead_back();
        DiverSize::assert_keys_lead_back();
        Kick::assert_keys_lead_back();
        Group::assert_keys_lead_back();
        Side::assert_keys_lead_back();
        Stance::assert_keys_lead_back();
        SideSetting::assert_keys_lead_back();
        ReleaseHole::assert_keys_lead_back();
        SinkerStyle::assert_keys_lead_back();
        Fish::assert_keys_lead_back();
        Sky::assert_keys_lead_back();
        Mood::assert_keys_lead_back();
        Wind::assert_keys_lead_back();
        Forage::assert_keys_lead_back();
        Verdict::assert_keys_lead_back();
        Topic::assert_keys_lead_back();
        AboveClevisSchool::assert_keys_lead_back();
        AttractorSchool::assert_keys_lead_back();
        ColourSchool::assert_keys_lead_back();
        FlasherBladeSchool::assert_keys_lead_back();
        HeightSchool::assert_keys_lead_back();
        HookSchool::assert_keys_lead_back();
        LeaderSchool::assert_keys_lead_back();
        WeightSchool::assert_keys_lead_back();
        Question::assert_keys_lead_back();
        Mark::assert_keys_lead_back();
        Role::assert_keys_lead_back();
        Term::assert_keys_lead_back();
        EventKind::assert_keys_lead_back();
        crate::book::Strike::assert_keys_lead_back();
        crate::book::BaitAfter::assert_keys_lead_back();
        crate::book::Landing::assert_keys_lead_back();
        crate::book::Given::assert_keys_lead_back();
        crate::evidence::Grouping::assert_keys_lead_back();
        crate::book::Measured::assert_keys_lead_back();
        crate::book::Play::assert_keys_lead_back();
        crate::book::Touched::assert_keys_lead_back();
        crate::river::Held::assert_keys_lead_back();
        crate::river::Bed::assert_keys_lead_back();
        crate::river::Bank::assert_keys_lead_back();
        crate::river::MarkKind::assert_keys_lead_back();
        crate::river::Pace::assert_keys_lead_back();
        crate::river::Way::assert_keys_lead_back();
        crate::river::Far::assert_keys_lead_back();
        crate::river::School::assert_keys_lead_back();
        crate::river::Presentation::assert_keys_lead_back();
        crate::river::Order::assert_keys_lead_back();
        MadeState::assert_keys_lead_back();
        crate::bench::StarterTray::assert_keys_lead_back();
        crate::bench::StarterRod::assert_keys_lead_back();
    }
}
