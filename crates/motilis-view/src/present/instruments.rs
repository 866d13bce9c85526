//! The pages of the boat's instruments, of practice, and of the phone.

use super::boat::figure;
use super::{bare_frame, frame};
use crate::draw::{Path, Px};
use crate::forms::boat as form;
use crate::screens::{Choice, Field, Instruments, LiveFigure, Phone, Practice, Screen};
use crate::seen::Device;
use crate::units::System;
use crate::words::boat as say;
use jiff::Timestamp;
use motilis_core::boat::Cell;
use motilis_core::evidence::{Angler, Record};
use motilis_core::units::{Metres, MetresPerSecond};
use motilis_formats::nmea::Counts;
use motilis_helm::{Boat, Book, Error, practice_score};
use motilis_live::Told;
use motilis_live::simulator::Truth;
use motilis_store::{bottoms, events, passes};
use serde::{Deserialize, Serialize};
use std::path::PathBuf;

/// Forms that came back because something in them cannot be, and what else the page is asked.
#[derive(Default)]
pub struct InstrumentsAsk {
    /// The recording that is being made.
    pub recording: Option<PathBuf>,
    /// Recordings there are.
    pub rides: Vec<String>,
    /// The wire as typed.
    pub wire: Option<form::WireForm>,
    /// The reel as typed.
    pub reel: Option<Vec<Field>>,
    /// The current as typed.
    pub current: Option<Vec<Field>>,
    /// The helm as typed.
    pub helm: Option<Vec<Field>>,
    /// Throttle of a simulated boat.
    pub throttle: Option<MetresPerSecond>,
    /// Whether something was just set.
    pub saved: bool,
}

/// What became of sentences, in words.
fn counted(counts: &Counts) -> Vec<(&'static str, u64, &'static str)> {
    vec![
        ("Sentences", counts.sentences, "lines that came"),
        ("Good", counts.good, "taken"),
        ("Bad checksum", counts.bad_checksum, "damaged on the way"),
        ("Cut short", counts.cut_short, "the end is missing"),
        ("Noise", counts.noise, "no sentence at all"),
        ("Duplicate", counts.duplicate, "the same as the one before"),
        ("Late", counts.late, "older than the last fix"),
        ("Void fix", counts.void_fix, "the receiver had no fix"),
        (
            "Unreadable",
            counts.unreadable,
            "whole, with figures that cannot be",
        ),
    ]
}

/// The page of the instruments.
///
/// # Errors
/// [`Error::NoOuting`], [`Error::Store`].
pub fn instruments(
    book: &Book<'_>,
    device: Device,
    told: &Told,
    ask: InstrumentsAsk,
    at: Timestamp,
) -> Result<Instruments, Error> {
    let boat = Boat::load(book, at)?;
    let (here, system) = (boat.here, device.system);
    let wire = ask.wire.unwrap_or_else(|| form::wire_shown(&boat.set));
    let stands = say::link(told, system);
    let heard = told
        .wire
        .as_ref()
        .map_or_else(|| "nothing is heard".to_owned(), say::wire);
    let chart = bottoms::of_water(book.connection(), here.outing.water)?;
    let cells: Vec<&Cell> = chart.cells().map(|(_, cell)| cell).collect();
    let soundings: u64 = cells.iter().map(|cell| u64::from(cell.count)).sum();
    Ok(Instruments {
        frame: frame(Some(here), Screen::Boat, device, "/boat/instruments"),
        stands: if stands.is_empty() {
            format!("{heard}: all well")
        } else {
            format!("{heard}. {stands}")
        },
        ways: wire.ways,
        fields: wire.fields,
        rides: std::iter::once((String::new(), "none".to_owned()))
            .chain(ask.rides.into_iter().map(|ride| (ride.clone(), ride)))
            .map(|(value, label)| Choice {
                chosen: value == wire.ride,
                value,
                label,
            })
            .collect(),
        counts: counted(&told.counts),
        recording: ask
            .recording
            .and_then(|path| Some(path.file_name()?.to_string_lossy().into_owned())),
        figures: figures(told, system),
        current: current(told, system),
        current_fields: ask
            .current
            .unwrap_or_else(|| form::current_shown(boat.set.current, system)),
        reel_fields: ask
            .reel
            .unwrap_or_else(|| form::reel_shown(boat.set.reel, system)),
        marks: boat
            .marks
            .iter()
            .map(|(id, mark)| {
                let clock = here.local(mark.at).strftime("%H:%M").to_string();
                (id.0, format!("{clock}, {} down", system.depth(mark.depth)))
            })
            .collect(),
        chart: match cells.len() {
            0 => format!("Nothing of {} is sounded yet.", here.water.name),
            count => format!(
                "{count} squares of {} of {} are sounded, {soundings} times in all; each keeps the middle one of its latest. They are shown on the boat’s plan, and look ahead where the sounder has not been on this way.",
                system.depth(Metres(motilis_core::boat::CELL)),
                here.water.name
            ),
        },
        helm: ask
            .throttle
            .map(|speed| ask.helm.unwrap_or_else(|| form::helm_shown(speed, system))),
        saved: ask.saved,
    })
}

/// Every figure with its age, also while it is fresh.
fn figures(told: &Told, system: System) -> Vec<(&'static str, LiveFigure)> {
    let known = &told.known;
    let (aboard, now) = (&known.instruments, known.now);
    let words = |value: String| crate::units::Figure { value, unit: "" };
    let paddle = if aboard.paddle_is_sound(now) {
        "believed"
    } else {
        "not believed"
    };
    let all = [
        (
            "Place",
            aboard.fix.map(|fix| {
                figure(Some(fix), now, "", |fix| {
                    let [latitude, longitude] = fix.place;
                    words(format!("{latitude:.5}, {longitude:.5}"))
                })
            }),
        ),
        (
            "Over ground",
            aboard.ground.map(|ground| {
                figure(Some(ground), now, "", |(speed, course)| {
                    let course = course.map_or(String::new(), |course| format!(" on {course:.0}°"));
                    words(format!("{}{course}", system.speed(speed)))
                })
            }),
        ),
        (
            "Paddle",
            aboard
                .paddle
                .map(|said| figure(Some(said), now, paddle, |(speed, _)| system.speed(speed))),
        ),
        (
            "Bottom",
            aboard
                .depth
                .map(|said| figure(Some(said), now, "", |depth| system.depth(depth))),
        ),
        (
            "Water",
            aboard
                .temperature
                .map(|said| figure(Some(said), now, "", |degrees| system.temperature(degrees))),
        ),
        (
            "Wind",
            aboard.wind.map(|wind| {
                figure(Some(wind), now, "", |(from, speed, felt)| {
                    let how = if felt { "as felt aboard" } else { "true" };
                    words(format!(
                        "{} from {from:.0}° off the bow, {how}",
                        system.speed(speed)
                    ))
                })
            }),
        ),
    ];
    all.into_iter()
        .filter_map(|(name, shown)| Some((name, shown?)))
        .collect()
}

fn current(told: &Told, system: System) -> String {
    let known = &told.known;
    let Some((current, typed)) = known.current else {
        return "Not known: go two legs against each other at one throttle, or type it in."
            .to_owned();
    };
    let [north, east] = current.velocity;
    let towards = east.atan2(north).to_degrees().rem_euclid(360.0);
    let speed = system.slow_speed(MetresPerSecond(north.hypot(east)));
    let age = ((known.now - current.at) / 60.0).max(0.0);
    if typed {
        return format!("{speed} towards {towards:.0}°, typed in {age:.0} min ago.");
    }
    format!(
        "{speed} ± {} towards {towards:.0}°, from {} legs, the last {age:.0} min ago.",
        system
            .slow_speed(MetresPerSecond(1.28 * current.sure.0))
            .value,
        current.legs
    )
}

/// How a practice trip went, as it is kept.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Score {
    /// Rods by name with how the fish like them against the best.
    pub taste: Vec<(String, f64)>,
    /// Rod-hours.
    pub rod_hours: f64,
    /// Fish an hour on a rod, as it was fished.
    pub fished: f64,
    /// Fish an hour on a rod that were possible.
    pub possible: f64,
}

impl From<&Truth> for Score {
    fn from(truth: &Truth) -> Self {
        Self {
            taste: truth.taste.clone(),
            rod_hours: truth.rod_hours,
            fished: truth.fished,
            possible: truth.possible,
        }
    }
}

/// The page of practice.
///
/// # Errors
/// [`Error::NoOuting`], [`Error::Store`].
pub fn practice(
    book: &Book<'_>,
    device: Device,
    form: form::TripForm,
    at: Timestamp,
) -> Result<Practice, Error> {
    let boat = Boat::load(book, at)?;
    let kept = practice_score(book, boat.here.id)?;
    let score = kept.and_then(|kept| serde_json::from_str::<Score>(&kept).ok());
    let told = match &score {
        Some(score) => Some(told(book, &boat, score)?),
        None => None,
    };
    let (rows, taste, lesson) = told.unwrap_or_default();
    Ok(Practice {
        frame: frame(Some(boat.here), Screen::Boat, device, "/boat/practice"),
        running: boat.practice && boat.running,
        paces: form.paces,
        seed: form.seed,
        score: rows,
        taste,
        lesson,
    })
}

type ScoreTold = (Vec<(String, String)>, Vec<(String, String, String)>, String);

fn told(book: &Book<'_>, boat: &Boat<'_>, score: &Score) -> Result<ScoreTold, Error> {
    let connection = book.connection();
    let events = events::of_outing(connection, boat.here.id)?;
    let passes = passes::of_outing(connection, boat.here.id)?;
    let fish = |name: &str| {
        events
            .iter()
            .filter(|(_, event)| event.kind == motilis_core::book::EventKind::Fish)
            .filter(|(_, event)| {
                let named = event.line.and_then(|line| {
                    boat.rods
                        .iter()
                        .find(|aboard| aboard.boat.rod.tackle == line.tackle)
                });
                named.is_some_and(|aboard| aboard.name == name)
            })
            .count() as u32
    };
    let hours = |name: &str| {
        let own = boat.rods.iter().filter(|aboard| aboard.name == name);
        let tackles: Vec<_> = own.map(|aboard| aboard.boat.rod.tackle).collect();
        let of = passes
            .iter()
            .filter(|(_, pass)| tackles.contains(&pass.tackle));
        let seconds: f64 = of
            .filter_map(|(_, pass)| Some(pass.to?.duration_since(pass.from).as_secs_f64()))
            .sum();
        seconds / 3_600.0
    };
    let angler = Angler::of(Record {
        fish: score.taste.iter().map(|(name, _)| fish(name)).sum(),
        rod_hours: score.rod_hours,
    });
    let taste = score
        .taste
        .iter()
        .map(|(name, against)| {
            let record = Record {
                fish: fish(name),
                rod_hours: hours(name),
            };
            let knew = angler.believes(record)?;
            let (low, high) = knew.interval();
            Ok((
                name.clone(),
                format!("{:.0} %", against * 100.0),
                format!(
                    "{}, so {low:.2} to {high:.2} an hour",
                    super::log::known(&record)
                ),
            ))
        })
        .collect::<Result<Vec<_>, motilis_core::Error>>()?;
    let logged = events
        .iter()
        .filter(|(_, event)| event.kind == motilis_core::book::EventKind::Fish)
        .count();
    let share = if score.possible > 0.0 {
        score.fished / score.possible
    } else {
        0.0
    };
    let rows = vec![
        ("Fish logged".to_owned(), logged.to_string()),
        ("Rod-hours".to_owned(), format!("{:.1}", score.rod_hours)),
        (
            "Fish an hour on a rod, expected as you fished".to_owned(),
            format!("{:.2}", score.fished),
        ),
        (
            "Fish an hour on a rod that were possible with the best of these rigs at the depth of the fish".to_owned(),
            format!("{:.2}", score.possible),
        ),
        ("You fished".to_owned(), format!("{:.0} % of that", share * 100.0)),
    ];
    let lesson = "The intervals are what a count of fish can know: where they overlap, the order of the rigs in your record is mostly luck. The column beside is how it really was."
        .to_owned();
    Ok((rows, taste, lesson))
}

/// The page of the phone: each address with its code.
///
/// # Errors
/// [`Error::Store`].
pub fn phone(
    book: &Book<'_>,
    device: Device,
    addresses: &[String],
    secure: bool,
) -> Result<Phone, Error> {
    let codes = codes(addresses);
    let says = if secure {
        vec![
            "This address is https with a certificate that this program made itself: the phone asks once whether to trust it.".to_owned(),
            "Put it among the phone’s own programs (Add to home screen): boat, set-out card and the last call sheet then open without a link, and the screen stays awake on Boat.".to_owned(),
        ]
    } else {
        vec![
            "This address is plain http: taps are kept without a link and sent when it is back, but the phone cannot install it, opens no page without a link, and may let the screen sleep: browsers keep all three for https.".to_owned(),
            "Start it with motilis serve --tls for all of it.".to_owned(),
        ]
    };
    Ok(Phone {
        frame: bare_frame(book, Screen::None, device, "/phone")?,
        codes,
        says,
    })
}

/// Addresses as codes for a camera: text, path of squares, how many squares wide.
pub fn codes(addresses: &[String]) -> Vec<(String, String, usize)> {
    let each = addresses.iter().filter_map(|address| {
        let code = qrcode::QrCode::new(address.as_bytes()).ok()?;
        let wide = code.width();
        let mut path = Path::default();
        for (place, colour) in code.to_colors().into_iter().enumerate() {
            if colour == qrcode::Color::Dark {
                let one = Px(1.0);
                path.push('M', &[Px((place % wide) as f64), Px((place / wide) as f64)]);
                path.push('h', &[one]);
                path.push('v', &[one]);
                path.push('h', &[Px(-1.0)]);
                path.push('z', &[]);
            }
        }
        Some((address.clone(), path.to_string(), wide))
    });
    each.collect()
}
