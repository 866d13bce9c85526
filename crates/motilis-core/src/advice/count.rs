//! What each term is counted from: the figures of a rig on a day, term by term.

use super::candidate::{Candidate, Stand, Traits};
use super::day::{Clearness, Lighting, Mood, Response};
use super::judge::{Judge, Prepared};
use super::school::{HookSchool, LeaderSchool};
use super::term::{Basis, Scored, Term};
use crate::blade::Window;
use crate::error::Error;
use crate::fish::Fish;
use crate::rig::{AttractorStyle, Kind};
use crate::units::{MILE_PER_HOUR, Metres, MetresPerSecond};

/// Thump an active, a neutral and a shy fish want, as a multiple of a number 4 Colorado's at the same speed;
/// fitted so that practice comes out.
const WANTED_THUMP: (f64, f64, f64) = (1.6, 0.6, 0.25);

/// Length wanted of what trails for fish that strike short, over the forage's; designed.
const SHORTER: f64 = 0.7;
/// End of a river's speeds where a blade has none of its own; from memory.
const FASTEST_RIVER: MetresPerSecond = MetresPerSecond(3.0);

impl Judge<'_> {
    /// The favourite of practice, slower in cold water and for shy fish, inside the window.
    pub(super) fn best_speed(&self, prepared: &Prepared) -> MetresPerSecond {
        if self.day().river {
            // The water sets the pace: what the blade bears of it.
            let window = prepared.window;
            let least = self.day().speed.0.max(window.from.0);
            return MetresPerSecond(window.to.map_or(least, |to| least.min(to.0)));
        }
        let practice = prepared.traits.kind.trolled();
        let pace = self.day().pace();
        let reach = if pace < 0.0 {
            practice.favourite - practice.from
        } else {
            practice.to - practice.favourite
        };
        let best = practice.favourite + pace * reach;
        // Inside its blade's window, and in that its attractor's as far as they meet.
        let within = |speed: f64, window: Window| {
            let least = speed.max(window.from.0);
            window.to.map_or(least, |to| least.min(to.0))
        };
        let stirred = prepared.stirs.map_or(best.0, |stirs| within(best.0, stirs));
        MetresPerSecond(within(stirred, prepared.window))
    }

    /// Thump the day asks for.
    fn wanted_thump(&self) -> f64 {
        let day = self.day();
        let (active, neutral, shy) = WANTED_THUMP;
        let mood = match day.mood {
            Mood::Active => active,
            Mood::Neutral => neutral,
            Mood::Shy => shy,
        };
        // A thump grows with the speed; they want it louder or softer than the others there.
        let speed = day.speed / (1.2 * MILE_PER_HOUR);
        let fish = match day.fish {
            Fish::LandlockedSockeye | Fish::YellowPerch | Fish::BrookTrout | Fish::Pink => 0.5,
            _ => 1.0,
        };
        let dirt = 1.0 + 0.8 * day.clearness_shares().of(Clearness::Dirty);
        let lit = day.lighting_shares();
        let dark = 1.0 + 0.2 * (lit.of(Lighting::Dark) + lit.of(Lighting::Low));
        let cold = 1.0 - 0.4 * day.cold();
        mood * speed * fish * dirt * dark * cold
    }

    #[allow(clippy::too_many_lines, reason = "a list, one entry a term")]
    pub(super) fn terms(
        &self,
        candidate: &Candidate,
        prepared: &Prepared,
        best_seen: f64,
    ) -> Result<[Scored; Term::ALL.len()], Error> {
        let (day, schools, traits) = (self.day(), &self.ways().schools, &prepared.traits);
        let practice = traits.kind.trolled();
        let (from, to) = if day.river {
            let window = prepared.window;
            (window.from, window.to.unwrap_or(FASTEST_RIVER))
        } else {
            (practice.from, practice.to)
        };
        let colour = traits.finish.said();
        let belief = self.ways().angler.believes(candidate.record)?;
        let bases = [
            Basis::Speed {
                now: day.speed,
                from,
                to,
                best: self.best_speed(prepared),
            },
            Basis::Kind {
                kind: traits.kind,
                place: self.place_of(traits),
            },
            if day.river {
                Basis::Run {
                    body: traits.body,
                    depth: day.bottom,
                    flow: day.speed,
                }
            } else {
                Basis::Line {
                    out: prepared.out,
                    depth: day.wanted_depth,
                    tool: prepared.tool,
                }
            },
            Basis::Thump {
                index: prepared.thump,
                wanted: self.wanted_thump(),
            },
            Basis::Seen {
                range: prepared.sighting.range,
                score: prepared.sighting.score(),
                best: best_seen,
            },
            Basis::Clarity {
                clearness: day.clearness_shares(),
                colour,
            },
            Basis::Light {
                lighting: day.lighting_shares(),
                finish: traits.finish,
            },
            Basis::Forage {
                forage: day.forage,
                colour,
            },
            Basis::Warmth {
                temperature: day.temperature,
                colour,
            },
            self.size(traits),
            self.bait(traits),
            Basis::Cold {
                span: traits
                    .blade
                    .filter(|blade| blade.family.is_wing())
                    .map(|blade| blade.length),
                cold: day.cold(),
            },
            self.leader(traits),
            Basis::Hooks {
                treble: is_spinner(traits.kind).then_some(traits.treble),
                school: match day.response {
                    // A treble is for short strikers, whatever the school (common practice, no source).
                    Response::Short => HookSchool::Treble,
                    _ => schools.hooks,
                },
            },
            self.attractor(traits),
            Basis::FlasherBlade {
                family: traits
                    .blade
                    .filter(|_| behind_a_flasher(traits))
                    .map(|blade| blade.family),
                school: schools.flasher_blade,
            },
            Basis::AboveClevis {
                // A fast harness has two by nature.
                blades: if traits.kind == Kind::FastHarness {
                    1
                } else {
                    traits.blades
                },
                school: schools.above_clevis,
            },
            Basis::Weight {
                place: traits.weight(),
                school: schools.weight,
            },
            ready(&candidate.stand),
            Basis::Evidence(belief),
            Basis::Novelty {
                like_the_crowd: day.crowd.map(|kind| kind == traits.kind),
                certainty: belief.certainty,
            },
        ];
        Ok(bases.map(|basis| Scored {
            weight: self.ways().weights.of(basis.term()),
            basis,
        }))
    }

    /// Its place among the kinds tied for the fish; in a river the body decides among spinners, not their order.
    fn place_of(&self, traits: &Traits) -> Option<usize> {
        let place = place(self.day().kinds(), traits.kind)?;
        let by_body = self.day().river && traits.is_inline();
        Some(if by_body { 0 } else { place })
    }

    fn size(&self, traits: &Traits) -> Basis {
        let blade = traits.blade.map_or(Metres(0.0), |blade| blade.length);
        Basis::Size {
            length: if traits.trailing > blade {
                traits.trailing
            } else {
                blade
            },
            // Short strikers get a shorter bite.
            forage: match self.day().response {
                Response::Short => SHORTER * self.day().forage.length(),
                _ => self.day().forage.length(),
            },
        }
    }

    fn bait(&self, traits: &Traits) -> Basis {
        let fish = self.day().fish;
        Basis::Bait {
            bait: traits.bait,
            place: traits.bait.and_then(|bait| place(fish.baits(), bait)),
            wanted: !fish.is_salmonid() && !traits.is_inline(),
            stripped: self.day().nibblers && traits.bait.is_some() && traits.hooks > 1,
        }
    }

    fn leader(&self, traits: &Traits) -> Basis {
        let day = self.day();
        let shy = if day.mood == Mood::Shy {
            1.0
        } else {
            day.clearness_shares().of(Clearness::Clear)
        };
        let large = matches!(
            day.fish,
            Fish::Chinook | Fish::LandlockedChinook | Fish::Coho | Fish::Chum
        );
        let wanted_lb = match (self.ways().schools.leader, large) {
            // What swings behind a flasher needs the stiff leader.
            (_, true) => 30.0,
            (LeaderSchool::Heavy, false) => 25.0,
            (LeaderSchool::Light, false) => 12.0 - 4.0 * shy,
        };
        Basis::Leader {
            test_lb: traits.leader_lb,
            wanted_lb,
            school: self.ways().schools.leader,
        }
    }

    fn attractor(&self, traits: &Traits) -> Basis {
        // A flasher fly is run behind its flasher; others may carry one.
        let has = traits.attractor.is_some() || traits.kind == Kind::FlasherFly;
        Basis::Attractor {
            has: self.day().fish.is_salmonid().then_some(has),
            school: self.ways().schools.attractor,
            mood: self.day().mood,
        }
    }
}

fn place<T: PartialEq>(list: &[T], one: T) -> Option<usize> {
    list.iter().position(|other| *other == one)
}

fn ready(stand: &Stand) -> Basis {
    let (made_up, changes) = match stand {
        Stand::MadeUp(_) => (true, 0),
        Stand::Buildable(changes) => (false, changes.len() as u8),
        Stand::Short(_) => (false, 2),
    };
    Basis::Ready { made_up, changes }
}

fn is_spinner(kind: Kind) -> bool {
    kind.is_on_wire()
}

fn behind_a_flasher(traits: &Traits) -> bool {
    traits.kind == Kind::FlasherFly || traits.attractor == Some(AttractorStyle::RotatingFlasher)
}
