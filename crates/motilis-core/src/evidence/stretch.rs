use super::{Logged, Pass, Record, Stratum};
use crate::ids::{OutingId, WaterId};
use crate::keyed::keyed;
use crate::rig::Rig;
use crate::spread::Tackle;
use crate::units::{Celsius, FOOT, Metres, MetresPerSecond};
use jiff::{SignedDuration, Timestamp};
use std::collections::{BTreeMap, HashMap};
use std::sync::Arc;

/// Hours that count as one for a comparison.
const BLOCK: SignedDuration = SignedDuration::from_hours(2);
/// Depth that counts as one place, under the surface and over the bottom.
pub const DEPTH_BAND: Metres = Metres(10.0 * FOOT.0);
/// Width of a band of speed: half a knot at trolling speed is two of them.
pub const SPEED_BAND: MetresPerSecond = MetresPerSecond(0.1);
/// Width of a band of temperature, K.
pub const WARMTH_BAND: f64 = 2.5;
/// Width of a band of lead.
pub const LEAD_BAND: Metres = Metres(2.0 * FOOT.0);
/// Upper ends of the bands of clarity: muddy, stained, clear; beyond them very clear.
pub const CLARITY: [Metres; 3] = [Metres(1.0), Metres(3.0), Metres(6.0)];

/// What rates can be grouped by.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Grouping {
    /// The rig.
    Rig,
    /// Family and size of its blade.
    Blade,
    /// Its finish.
    Finish,
    /// Depth under the surface.
    UnderSurface,
    /// Depth over the bottom.
    OverBottom,
    /// Speed through the water.
    Speed,
    /// Hours after dawn.
    AfterDawn,
    /// Clarity of the water.
    Clarity,
    /// Its temperature.
    Temperature,
    /// The water.
    Water,
    /// Lead behind the weight.
    Lead,
    /// What was on the hook.
    Bait,
}

keyed!(Grouping {
    Rig "rig" "rig",
    Blade "blade" "blade",
    Finish "finish" "finish",
    UnderSurface "depth" "depth under the surface",
    OverBottom "over_bottom" "depth over the bottom",
    Speed "speed" "speed",
    AfterDawn "after_dawn" "hours after dawn",
    Clarity "clarity" "clarity",
    Temperature "temperature" "temperature",
    Water "water" "water",
    Lead "lead" "lead",
    Bait "bait" "bait",
});

/// What a group is known by; its words are the views'.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Key {
    /// A band of a figure, by its number; the grouping says of what.
    Band(i32),
    /// A rig or lure.
    Tackle(Tackle),
    /// A water.
    Water(WaterId),
    /// What has a name: a blade, a finish, a bait.
    Named(String),
    /// Nobody knows.
    Unknown,
}

impl Key {
    /// As an address names it: `band:3`, `rig:4`, `named:Colorado 4`.
    pub fn text(&self) -> String {
        match self {
            Self::Band(band) => format!("band:{band}"),
            Self::Tackle(Tackle::Rig(rig)) => format!("rig:{}", rig.0),
            Self::Tackle(Tackle::Lure(lure)) => format!("lure:{}", lure.0),
            Self::Water(water) => format!("water:{}", water.0),
            Self::Named(name) => format!("named:{name}"),
            Self::Unknown => "unknown".to_owned(),
        }
    }
}

/// How and where a stretch was fished, as far as it is known.
#[derive(Debug, Clone, PartialEq)]
pub struct Traits {
    /// The rig as it was built for the pass; `None` for a lure, and where nobody kept the build.
    pub rig: Option<Arc<Rig>>,
    /// What was on the hook, in the angler's words; empty for what the rig was built with.
    pub bait: String,
    /// Depth it ran at.
    pub depth: Option<Metres>,
    /// Depth of the water.
    pub bottom: Metres,
    /// Speed through the water.
    pub speed: MetresPerSecond,
    /// Lead behind the weight.
    pub lead: Option<Metres>,
    /// Clarity.
    pub clarity: Metres,
    /// Temperature.
    pub temperature: Celsius,
    /// The water.
    pub water: WaterId,
    /// When the sun rose that day; `None` where it does not rise.
    pub dawn: Option<Timestamp>,
    /// Light on the surface when it began.
    pub light: Option<Light>,
}

/// Light on the surface, as far as it matters to which rig catches (common practice, no source: the night bite, the hour
/// of dawn and dusk, the day).
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Light {
    /// Night, before nautical twilight ends.
    Dark,
    /// Dawn, dusk, and days as dark as those.
    Dim,
    /// Day.
    Bright,
}

impl Light {
    /// The light of a surface, lux: civil twilight ends at about 3, a low sun gives some 3 000 (from memory).
    pub fn of(lux: f64) -> Self {
        match lux {
            lux if lux < 3.0 => Self::Dark,
            lux if lux < 3_000.0 => Self::Dim,
            _ => Self::Bright,
        }
    }
}

/// How a rig's blade, finish and bait are called: words are the views'.
pub struct Named<'n> {
    /// The blade: "Colorado 4".
    pub blade: &'n dyn Fn(&Rig) -> Option<String>,
    /// The finish: "hammered brass".
    pub finish: &'n dyn Fn(&Rig) -> Option<String>,
    /// The bait.
    pub bait: &'n dyn Fn(&Rig) -> Option<String>,
}

/// Finds the group of a stretch by one grouping. Groups are counted through, and a rig is named once, however often it
/// was fished: of a long log there are a hundred thousand stretches and some dozens of groups.
struct Keys<'n> {
    named: &'n Named<'n>,
    by: Grouping,
    rigs: HashMap<*const Rig, usize>,
    places: HashMap<Key, usize>,
    found: Vec<Key>,
}

impl<'n> Keys<'n> {
    fn new(named: &'n Named<'n>, by: Grouping) -> Self {
        Self {
            named,
            by,
            rigs: HashMap::new(),
            places: HashMap::new(),
            found: Vec::new(),
        }
    }

    fn place(&mut self, key: Key) -> usize {
        let found = &mut self.found;
        *self.places.entry(key).or_insert_with_key(|key| {
            found.push(key.clone());
            found.len() - 1
        })
    }

    /// The place of its key among those found so far.
    fn of(&mut self, stretch: &Stretch) -> usize {
        let traits = &stretch.traits;
        let name = match self.by {
            Grouping::Bait if !traits.bait.is_empty() => {
                return self.place(Key::Named(traits.bait.clone()));
            }
            Grouping::Blade => self.named.blade,
            Grouping::Finish => self.named.finish,
            Grouping::Bait => self.named.bait,
            by => return self.place(stretch.key(by)),
        };
        let Some(rig) = &traits.rig else {
            return self.place(Key::Unknown);
        };
        let at = Arc::as_ptr(rig);
        if let Some(place) = self.rigs.get(&at) {
            return *place;
        }
        let place = self.place(name(rig).map_or(Key::Unknown, Key::Named));
        self.rigs.insert(at, place);
        place
    }
}

/// A piece of a pass within one block of two hours.
#[derive(Debug, Clone, PartialEq)]
pub struct Stretch {
    /// The outing.
    pub outing: OutingId,
    /// What was fished.
    pub tackle: Tackle,
    /// Its block of two hours, counted from the outing's beginning.
    pub block: i64,
    /// When it began.
    pub from: Timestamp,
    /// Fish and rod-hours.
    pub record: Record,
    /// Strikes.
    pub strikes: u32,
    /// How and where.
    pub traits: Traits,
}

fn band(figure: f64, width: f64) -> Key {
    Key::Band((figure / width).floor() as i32)
}

impl Stretch {
    /// Its group by what needs no name.
    fn key(&self, grouping: Grouping) -> Key {
        let traits = &self.traits;
        let deep = |depth: Option<Metres>| {
            depth.map_or(Key::Unknown, |depth| band(depth.0.max(0.0), DEPTH_BAND.0))
        };
        match grouping {
            Grouping::Rig => Key::Tackle(self.tackle),
            Grouping::Blade | Grouping::Finish | Grouping::Bait => Key::Unknown,
            Grouping::UnderSurface => deep(traits.depth),
            Grouping::OverBottom => deep(traits.depth.map(|depth| traits.bottom - depth)),
            Grouping::Speed => band(traits.speed.0, SPEED_BAND.0),
            Grouping::AfterDawn => traits.dawn.map_or(Key::Unknown, |dawn| {
                let after = self.from.duration_since(dawn).as_secs_f64();
                band(after, BLOCK.as_secs_f64())
            }),
            Grouping::Clarity => {
                let under = CLARITY.iter().filter(|end| traits.clarity >= **end).count();
                Key::Band(i32::try_from(under).unwrap_or(i32::MAX))
            }
            Grouping::Temperature => band(traits.temperature.0, WARMTH_BAND),
            Grouping::Water => Key::Water(traits.water),
            Grouping::Lead => traits
                .lead
                .map_or(Key::Unknown, |lead| band(lead.0, LEAD_BAND.0)),
        }
    }

    /// Outing, band of depth and block of hours: what is alike for a fair comparison.
    /// Whether it was fished in the same band of depth and the same light.
    pub fn is_like(&self, depth: Metres, light: Option<Light>) -> bool {
        let here = band(depth.0.max(0.0), DEPTH_BAND.0);
        self.key(Grouping::UnderSurface) == here && self.traits.light == light
    }

    fn stratum(&self) -> (OutingId, Key, i64) {
        (self.outing, self.key(Grouping::UnderSurface), self.block)
    }
}

impl Logged {
    /// The outing's passes cut at every second hour, each piece with what bit on it.
    ///
    /// A fish belongs to the pass of its rod that held it, or else to one of its tackle at that time. What lies beyond
    /// the outing's hours counts for nothing.
    pub fn stretches(
        &self,
        outing: OutingId,
        traits: impl Fn(&Pass, Timestamp) -> Traits,
    ) -> Vec<Stretch> {
        let Some(span) = self.span() else {
            return Vec::new();
        };
        let mut all: Vec<(Option<u8>, Timestamp, Stretch)> = Vec::new();
        for pass in &self.passes {
            let to = pass.to.unwrap_or(span.to).min(span.to);
            let mut from = pass.from.max(span.from);
            while from < to {
                let block = from
                    .duration_since(self.started)
                    .as_secs()
                    .div_euclid(BLOCK.as_secs());
                let next = self.started + SignedDuration::from_secs((block + 1) * BLOCK.as_secs());
                let until = next.min(to);
                let hours = until.duration_since(from).as_secs_f64() / 3_600.0;
                let stretch = Stretch {
                    outing,
                    tackle: pass.tackle,
                    block,
                    from,
                    record: Record {
                        fish: 0,
                        rod_hours: hours,
                    },
                    strikes: 0,
                    traits: traits(pass, from),
                };
                all.push((pass.rod, until, stretch));
                from = until;
            }
        }
        for entry in self.entries.iter().filter(|entry| span.holds(entry.at)) {
            let holds = |(_, until, stretch): &&mut (Option<u8>, Timestamp, Stretch)| {
                Some(stretch.tackle) == entry.tackle && (stretch.from..=*until).contains(&entry.at)
            };
            let own = all
                .iter_mut()
                .filter(holds)
                .min_by_key(|(rod, until, _)| (*rod != entry.rod, *until != entry.at));
            if let Some((_, _, stretch)) = own {
                stretch.record.fish += u32::from(entry.fish);
                stretch.strikes += u32::from(entry.strike);
            }
        }
        all.into_iter().map(|(_, _, stretch)| stretch).collect()
    }
}

/// A group with what it caught.
#[derive(Debug, Clone, PartialEq)]
pub struct Group {
    /// By the first grouping.
    pub key: Key,
    /// By the second, where two are crossed.
    pub other: Option<Key>,
    /// Fish and rod-hours.
    pub record: Record,
    /// Strikes.
    pub strikes: u32,
}

/// Fish and rod-hours of some stretches together.
pub fn together<'s>(stretches: impl IntoIterator<Item = &'s Stretch>) -> Record {
    let records = stretches.into_iter().map(|stretch| stretch.record);
    records.fold(Record::default(), Record::and)
}

/// Stretches drawn together by one grouping, or by two crossed.
pub fn grouped<'s>(
    stretches: impl IntoIterator<Item = &'s Stretch>,
    named: &Named<'_>,
    by: Grouping,
    crossed: Option<Grouping>,
) -> Vec<Group> {
    let mut first = Keys::new(named, by);
    let mut second = crossed.map(|crossed| Keys::new(named, crossed));
    let mut sums: HashMap<(usize, Option<usize>), (Record, u32)> = HashMap::new();
    for stretch in stretches {
        let other = second.as_mut().map(|second| second.of(stretch));
        let sum = sums.entry((first.of(stretch), other)).or_default();
        sum.0 = sum.0.and(stretch.record);
        sum.1 += stretch.strikes;
    }
    let groups = sums
        .into_iter()
        .map(|((place, other), (record, strikes))| Group {
            key: first.found[place].clone(),
            other: second
                .as_ref()
                .zip(other)
                .map(|(second, other)| second.found[other].clone()),
            record,
            strikes,
        });
    let mut groups: Vec<Group> = groups.collect();
    groups.sort_by(|a, b| (&a.key, &a.other).cmp(&(&b.key, &b.other)));
    groups
}

/// Two groups side by side, stratum by stratum: the same outing, depth and hours.
pub fn strata<'s>(
    stretches: impl IntoIterator<Item = &'s Stretch>,
    named: &Named<'_>,
    by: Grouping,
    a: &Key,
    b: &Key,
) -> Vec<Stratum> {
    let mut of = Keys::new(named, by);
    let [a, b] = [a, b].map(|key| of.place(key.clone()));
    let mut strata: BTreeMap<(OutingId, Key, i64), Stratum> = BTreeMap::new();
    for stretch in stretches {
        let key = of.of(stretch);
        if key != a && key != b {
            continue;
        }
        let stratum = strata.entry(stretch.stratum()).or_default();
        if key == a {
            stratum.a = stratum.a.and(stretch.record);
        }
        if key == b {
            stratum.b = stratum.b.and(stretch.record);
        }
    }
    strata.into_values().collect()
}

#[cfg(test)]
mod tests {
    use super::super::{Compared, Entry, Ran, Verdict};
    use super::*;
    use crate::ids::RigId;
    use approx::assert_abs_diff_eq;

    fn at(hour: f64) -> Timestamp {
        let began: Timestamp = "2026-09-05T11:20:00Z".parse().unwrap();
        began + SignedDuration::from_secs((hour * 3_600.0) as i64)
    }

    const NAMED: Named<'_> = Named {
        blade: &|_| Some("Colorado 4".into()),
        finish: &|_| None,
        bait: &|_| None,
    };

    fn traits(pass: &Pass, _: Timestamp) -> Traits {
        Traits {
            rig: None,
            bait: String::new(),
            depth: pass.ran.depth,
            bottom: Metres(8.0),
            speed: MetresPerSecond(0.54),
            lead: None,
            clarity: Metres(2.0),
            temperature: Celsius(15.0),
            water: WaterId(1),
            dawn: Some(at(-0.5)),
            light: Some(Light::Bright),
        }
    }

    fn pass(rod: u8, rig: i64, from: f64, to: f64) -> Pass {
        Pass {
            rod: Some(rod),
            tackle: Tackle::Rig(RigId(rig)),
            from: at(from),
            to: Some(at(to)),
            ran: Ran {
                depth: Some(Metres(6.7)),
                ..Ran::default()
            },
        }
    }

    fn fish(rod: u8, rig: i64, hour: f64) -> Entry {
        Entry {
            rod: Some(rod),
            tackle: Some(Tackle::Rig(RigId(rig))),
            at: at(hour),
            entered: at(hour),
            fish: true,
            strike: false,
        }
    }

    fn day(passes: Vec<Pass>, entries: Vec<Entry>) -> Vec<Stretch> {
        let logged = Logged {
            started: at(0.0),
            ended: Some(at(5.0)),
            heard: None,
            entries,
            passes,
        };
        logged.stretches(OutingId(1), traits)
    }

    #[test]
    fn a_pass_is_cut_at_every_second_hour_and_loses_nothing() {
        let stretches = day(
            vec![pass(1, 1, 0.5, 4.5)],
            vec![fish(1, 1, 2.5), fish(1, 1, 4.5)],
        );
        let blocks: Vec<i64> = stretches.iter().map(|one| one.block).collect();
        assert_eq!(blocks, [0, 1, 2]);
        let hours: f64 = stretches.iter().map(|one| one.record.rod_hours).sum();
        assert_abs_diff_eq!(hours, 4.0, epsilon = 1e-9);
        let fish: Vec<u32> = stretches.iter().map(|one| one.record.fish).collect();
        assert_eq!(fish, [0, 1, 1]);
    }

    #[test]
    fn a_fish_belongs_to_the_rod_that_caught_it() {
        // The same rig on two rods at once.
        let stretches = day(
            vec![pass(1, 1, 0.0, 2.0), pass(2, 1, 0.0, 2.0)],
            vec![fish(2, 1, 1.0)],
        );
        assert_eq!(stretches[0].record.fish, 0);
        assert_eq!(stretches[1].record.fish, 1);
    }

    #[test]
    fn groups_keep_every_hour_and_fish() {
        let stretches = day(
            vec![pass(1, 1, 0.0, 3.0), pass(2, 2, 1.0, 5.0)],
            vec![fish(1, 1, 2.9), fish(2, 2, 4.0)],
        );
        for by in Grouping::ALL {
            let groups = grouped(&stretches, &NAMED, *by, None);
            let whole = groups
                .iter()
                .fold(Record::default(), |sum, one| sum.and(one.record));
            assert_abs_diff_eq!(whole.rod_hours, 7.0, epsilon = 1e-9);
            assert_eq!(whole.fish, 2, "{by:?}");
            let crossed = grouped(&stretches, &NAMED, *by, Some(Grouping::AfterDawn));
            assert!(crossed.len() >= groups.len());
        }
        let dawn = grouped(&stretches, &NAMED, Grouping::AfterDawn, None);
        assert_eq!(dawn[0].key, Key::Band(0));
    }

    #[test]
    fn two_rigs_meet_only_where_both_were_fished() {
        let stretches = day(
            vec![pass(1, 1, 0.0, 2.0), pass(2, 2, 2.0, 4.0)],
            vec![fish(1, 1, 1.0)],
        );
        let (a, b) = (
            Key::Tackle(Tackle::Rig(RigId(1))),
            Key::Tackle(Tackle::Rig(RigId(2))),
        );
        let compared = Compared::of(
            super::super::Angler::default(),
            &strata(&stretches, &NAMED, Grouping::Rig, &a, &b),
        )
        .unwrap();
        // One had the first two hours, the other the next: nothing can be told.
        assert_eq!(compared.stratified, None);
        assert_eq!(compared.verdict, Verdict::CannotTell);
    }
}
