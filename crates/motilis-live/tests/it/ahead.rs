//! What is foretold against what happens: the rods of a demo evening over the invented bed.

use jiff::Timestamp;
use motilis_core::blade::Family;
use motilis_core::boat::Afloat;
use motilis_core::line::{LineSetup, Surroundings};
use motilis_core::rig::{Kind, Rig};
use motilis_core::spread::{Holder, Rod, Stance, Towed, USUAL_ROD};
use motilis_core::units::{Celsius, FOOT, MILE_PER_HOUR, Metres};
use motilis_core::water::Water;
use motilis_formats::nmea::Reader;
use motilis_live::simulator::{Bed, Helm, Order, Simulator};
use motilis_live::{Bridge, Waters};
use std::collections::HashMap;
use std::sync::Arc;

pub(crate) fn lake() -> Surroundings {
    let temperature = Celsius(14.4);
    Surroundings {
        water: Water::fresh(temperature).unwrap(),
        temperature,
        bottom: None,
    }
}

/// A crawler harness with one Colorado blade.
fn harness(size: f64) -> Rig {
    use motilis_core::rig::{
        Bait, BeadStyle, Colour, Finish, HookStyle, Mount, Part, Piece, Stack, What,
    };
    let one = |what, size| Piece::one(Part::new(what, size, Finish::plain(Colour::Brass)).unwrap());
    let mut stack = Stack::empty(Kind::CrawlerHarness, Mount::leader(17).unwrap());
    stack.pieces = vec![
        one(What::Blade(Family::Colorado), size),
        Piece::many(one(What::Bead(BeadStyle::Round), 5.0).part, 9),
        one(What::Hook(HookStyle::Octopus), 2.0),
        one(What::Hook(HookStyle::Octopus), 2.0),
        one(
            What::Bait(Bait::Crawler),
            What::Bait(Bait::Crawler).sizes()[0],
        ),
    ];
    Rig::new("harness", stack).unwrap()
}

pub(crate) fn rod(number: u8, holder: &str, out: f64) -> Afloat {
    let setup = LineSetup::usual().unwrap();
    Afloat {
        number,
        rod: Rod {
            holder: Holder::from_key(holder).unwrap(),
            stance: Stance::Corner,
            length: USUAL_ROD,
            board: None,
            setup: Arc::new(setup),
            towed: Towed::Rig(Arc::new(harness(3.0))),
            out: out * FOOT,
            wanted: Metres(6.0),
        },
    }
}

#[derive(Default, Debug)]
pub(crate) struct Told {
    /// Rods that touched a shoal, and how many of them were told ten seconds before or more.
    pub(crate) shoals: usize,
    pub(crate) warned: usize,
    /// Rods that were warned of, and how many of them came no nearer than a foot.
    pub(crate) alarms: usize,
    pub(crate) false_alarms: usize,
}

/// A rod's own story.
#[derive(Default)]
struct Story {
    clear: bool,
    since: Option<f64>,
    /// Until when what was warned of should have come, and how near the bottom came meanwhile.
    due: Option<(f64, f64)>,
    /// The true bottom under it, second by second.
    bottoms: Vec<f64>,
}

/// A rise of the bottom under a rig within so many seconds makes it a shoal, m; what a boat in a bend lets down is none.
const RISE: (usize, f64) = (45, 0.6);
/// Seconds until lines and look ahead have settled.
const SETTLED: f64 = 200.0;

/// A boat over the bed of a seed for so many minutes, nobody heeding a thing.
pub(crate) fn sail(seed: u64, minutes: u64, order: Order, rods: Vec<Afloat>) -> Told {
    let origin = [50.42, -95.61];
    let at: Timestamp = "2026-07-11T23:00:00Z".parse().unwrap();
    let helm = Helm::new([0.0, 0.0], order, 1.2 * MILE_PER_HOUR);
    let mut boat = Simulator::new(Bed::new(seed), helm, origin, at, seed);
    let waters = Waters {
        origin,
        surroundings: lake(),
        typed: 1.2 * MILE_PER_HOUR,
    };
    let mut bridge = Bridge::new(waters.clone());
    bridge.set(waters, rods, None);
    let (mut reader, mut told) = (Reader::default(), Told::default());
    let mut stories: HashMap<u8, Story> = HashMap::new();
    for second in 0..minutes * 60 {
        let now = second as f64;
        let text = boat.second();
        let clock = boat.at();
        let mut heard = Vec::new();
        reader.read(text.as_bytes(), |one| heard.push(one));
        // Simulated seconds go by faster than a look may rest.
        if second % 2 == 0 {
            bridge.look_now();
        }
        for one in heard {
            bridge.hear(one, now, clock);
        }
        let known = bridge.known(now);
        for rod in &known.rods {
            let story = stories.entry(rod.number).or_default();
            let warning = known
                .ahead
                .warnings
                .iter()
                .find(|warning| warning.rod == rod.number);
            tell(
                &mut told,
                story,
                boat.bed.depth(rod.place).0,
                rod.lowest.0,
                (now, warning.map(|one| one.in_s)),
            );
        }
    }
    told
}

fn tell(
    told: &mut Told,
    story: &mut Story,
    bottom: f64,
    lowest: f64,
    (now, warned): (f64, Option<f64>),
) {
    story.bottoms.push(bottom);
    let clearance = bottom - lowest;
    if let Some((until, near)) = &mut story.due {
        *near = near.min(clearance);
        if now > *until {
            told.false_alarms += usize::from(*near > 0.3048);
            story.due = None;
        }
    }
    if clearance > 0.3 {
        story.clear = true;
    } else if clearance < 0.1 && story.clear {
        story.clear = false;
        let before = story
            .bottoms
            .iter()
            .rev()
            .take(RISE.0)
            .copied()
            .fold(0.0, f64::max);
        if now > SETTLED && before - bottom > RISE.1 {
            told.shoals += 1;
            told.warned += usize::from(story.since.is_some_and(|since| now - since >= 10.0));
        }
    }
    match warned {
        Some(in_s) if story.since.is_none() => {
            story.since = Some(now);
            if now > SETTLED {
                told.alarms += 1;
                story.due = Some((now + in_s + 20.0, clearance));
            }
        }
        None => story.since = None,
        Some(_) => {}
    }
}

/// boat.md: nine shoals of ten are told ten seconds ahead or more, false alarms are fewer than one in half an hour. The long run
/// over ten and more of them is `cargo bench --bench boat`.
#[test]
fn shoals_are_told_before_the_rods_touch_them() {
    let rods = vec![rod(1, "P1", 66.0), rod(2, "S1", 75.0)];
    let told = sail(27, 30, Order::Straight(20.0), rods);
    assert!(told.shoals >= 1, "{told:?}");
    assert_eq!(told.warned, told.shoals, "{told:?}");
    assert!(told.false_alarms <= 1, "{told:?}");
}
