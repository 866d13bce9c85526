//! The forms of the boat's instruments.

use super::{Texts, Typed, text};
use crate::screens::{Choice, Field};
use crate::units::{Problem, Quantity, System};
use motilis_core::fields;
use motilis_core::units::{FOOT, Metres, MetresPerSecond};
use motilis_helm::BoatSettings;
use motilis_live::{PACES, PORT};

/// Ways to listen.
const WAYS: [(&str, &str); 5] = [
    ("", "nowhere: depths of a steady run"),
    ("tcp", "call up an address (TCP)"),
    ("udp", "whoever sends to a port of this machine (UDP)"),
    ("replay", "a recording"),
    ("simulated", "a simulated boat"),
];
/// The longest address that is taken.
const ADDRESS: usize = 120;
/// The length by which turns are counted once.
const COUNTED: [(Metres, &str); 2] = [
    (
        Metres(30.0 * FOOT.0),
        "or: turns that you counted for 30 ft",
    ),
    (Metres(10.0), "or: turns that you counted for 10 m"),
];

/// The form of the wire: ways and fields.
pub struct WireForm {
    /// Ways to listen.
    pub ways: Vec<Choice>,
    /// Address, port, pace.
    pub fields: Vec<Field>,
    /// Name of the recording.
    pub ride: String,
}

fn wire_fields(way: &str, address: &str, port: &str, pace: &str, ride: &str) -> WireForm {
    let mut ways = Choice::list(WAYS, way);
    for way in &mut ways {
        way.label = WAYS
            .iter()
            .find(|(key, _)| *key == way.value)
            .map_or_else(String::new, |(_, label)| crate::words::capital(label));
    }
    WireForm {
        ways,
        fields: vec![
            text("address", "Address, host:port", address),
            text("port", "Port", port),
            text(
                "pace",
                "Times as fast as life, of recordings and simulated boats",
                pace,
            ),
        ],
        ride: ride.to_owned(),
    }
}

/// The form as the setting is kept.
pub fn wire_shown(settings: &BoatSettings) -> WireForm {
    let (way, rest) = settings.wire.split_once(' ').unwrap_or_default();
    let (first, name) = rest.split_once(' ').unwrap_or((rest, ""));
    let port = PORT.to_string();
    let address = format!("127.0.0.1:{PORT}");
    match way {
        "tcp" => wire_fields(way, rest, &port, "1", ""),
        "udp" => wire_fields(way, &address, rest, "1", ""),
        "replay" => wire_fields(way, &address, &port, first, name),
        "simulated" | "demo" | "practice" => wire_fields("simulated", &address, &port, first, ""),
        _ => wire_fields("", &address, &port, "1", ""),
    }
}

/// Reads the form of the wire: the setting, or the form with what is wrong.
///
/// # Errors
/// The form as typed.
pub fn wire_read(sent: &Texts, rides: &[String]) -> Result<String, WireForm> {
    let typed = |name: &str| sent.get(name).map_or("", |text| text.trim());
    let way = typed("way");
    let mut form = wire_fields(
        way,
        typed("address"),
        typed("port"),
        typed("pace"),
        typed("ride"),
    );
    let mut wrong =
        |place: usize, why: &str| form.fields[place].problem = Some(Problem(why.to_owned()));
    let address = typed("address");
    let (host, port) = address.rsplit_once(':').unwrap_or((address, "10110"));
    let sound = !host.is_empty()
        && address.len() <= ADDRESS
        && !address.contains(char::is_whitespace)
        && port.parse::<u16>().is_ok_and(|port| port > 0);
    let udp = typed("port").parse::<u16>().ok().filter(|port| *port > 0);
    let pace = typed("pace")
        .replace(',', ".")
        .parse::<f64>()
        .ok()
        .filter(|pace| PACES.contains(pace));
    let paced = matches!(way, "replay" | "simulated");
    let mut setting = Some(match way {
        "tcp" => format!("tcp {address}"),
        "udp" => format!("udp {}", typed("port")),
        "replay" => format!("replay {} {}", pace.unwrap_or(1.0), typed("ride")),
        "simulated" => format!("simulated {}", pace.unwrap_or(1.0)),
        _ => String::new(),
    });
    if way == "tcp" && !sound {
        wrong(
            0,
            "Address is not a host and a port; type one such as 192.168.4.1:10110",
        );
        setting = None;
    }
    if way == "udp" && udp.is_none() {
        wrong(1, "Port is not one; type a number between 1 and 65535");
        setting = None;
    }
    if paced && pace.is_none() {
        wrong(
            2,
            "Times is not between 0.5 and 20; type 1 for as fast as life",
        );
        setting = None;
    }
    if way == "replay" && !rides.iter().any(|ride| ride == typed("ride")) {
        wrong(
            2,
            "There is no such recording; choose one of the list, or record one first",
        );
        setting = None;
    }
    setting.ok_or(form)
}

/// What the reel lets out a turn, by the three ways to say it: shown.
pub fn reel_shown(reel: Option<Metres>, system: System) -> Vec<Field> {
    let mut typed = reel_typed(&Texts::new(), system);
    if let Some(reel) = reel {
        typed.0.fill(reel.0);
    }
    vec![typed.0.field, typed.1.field, typed.2]
}

fn reel_typed(sent: &Texts, system: System) -> (Typed, Typed, Field) {
    let typed = |name: &str| sent.get(name).map_or("", String::as_str);
    let turn = Typed::new(
        fields::REEL_TURN,
        "A turn lets out",
        (Quantity::Length, system),
        typed("reel_turn"),
    );
    let mut spool = Typed::new(
        fields::REEL_TURN,
        "or: diameter of the line on the spool",
        (Quantity::Length, system),
        typed("reel_spool"),
    );
    spool.field.name = "reel_spool";
    let counted = text(
        "reel_counted",
        COUNTED[usize::from(system == System::Metric)].1,
        typed("reel_counted"),
    );
    (turn, spool, counted)
}

/// Reads them; the form with what is wrong.
///
/// # Errors
/// The fields as typed.
pub fn reel_read(sent: &Texts, system: System) -> Result<Option<Metres>, Vec<Field>> {
    let (mut turn, mut spool, mut counted) = reel_typed(sent, system);
    let told = turn.optional();
    // A diameter is a third of what a turn lets out.
    let across = spool.field.value.trim().to_owned();
    let by_spool = if across.is_empty() {
        None
    } else {
        let unit = Quantity::Length.unit(system);
        let round = across
            .replace(',', ".")
            .parse::<f64>()
            .ok()
            .map(|across| unit.to_si(across) * std::f64::consts::PI);
        let round = round.filter(|metres| fields::REEL_TURN.check(*metres).is_ok());
        if round.is_none() {
            let range = match system {
                System::Imperial => "0.7 and 18 in",
                System::Metric => "1.6 and 47 cm",
            };
            spool.field.problem = Some(Problem(format!(
                "The diameter is not between {range}; measure across the line on the spool"
            )));
        }
        round
    };
    let (long, _) = COUNTED[usize::from(system == System::Metric)];
    let by_count = if counted.value.trim().is_empty() {
        None
    } else {
        let turns = counted
            .value
            .trim()
            .parse::<f64>()
            .ok()
            .filter(|turns| *turns > 0.0);
        let each = turns
            .map(|turns| long.0 / turns)
            .filter(|metres| fields::REEL_TURN.check(*metres).is_ok());
        if each.is_none() {
            counted.problem = Some(Problem(
                "The turns are not between 7 and 200; count once while you let it out".to_owned(),
            ));
        }
        each
    };
    let wrong =
        turn.field.problem.is_some() || spool.field.problem.is_some() || counted.problem.is_some();
    if wrong {
        return Err(vec![turn.field, spool.field, counted]);
    }
    Ok(told.or(by_spool).or(by_count).map(Metres))
}

fn current_typed(sent: &Texts, system: System) -> (Typed, Typed) {
    let typed = |name: &str| sent.get(name).map_or("", String::as_str);
    (
        Typed::new(
            fields::CURRENT,
            "The water goes",
            (Quantity::Speed, system),
            typed("flow"),
        ),
        Typed::new(
            fields::SET,
            "towards, degrees from north",
            (Quantity::Count, system),
            typed("set"),
        ),
    )
}

/// The current, as it was typed in.
pub fn current_shown(current: Option<[f64; 2]>, system: System) -> Vec<Field> {
    let (mut flow, mut set) = current_typed(&Texts::new(), system);
    if let Some([north, east]) = current {
        flow.fill(north.hypot(east));
        set.fill(east.atan2(north).to_degrees().rem_euclid(360.0));
    }
    vec![flow.field, set.field]
}

/// Reads it.
///
/// # Errors
/// The fields as typed.
pub fn current_read(sent: &Texts, system: System) -> Result<[f64; 2], Vec<Field>> {
    let (mut flow, mut set) = current_typed(sent, system);
    let (speed, towards) = (flow.or(0.0), set.or(0.0));
    if flow.field.problem.is_some() || set.field.problem.is_some() {
        return Err(vec![flow.field, set.field]);
    }
    let (sin, cos) = towards.to_radians().sin_cos();
    Ok([speed * cos, speed * sin])
}

/// Throttle and course of a simulated boat.
pub fn helm_shown(speed: MetresPerSecond, system: System) -> Vec<Field> {
    let mut typed = helm_typed(&Texts::new(), system);
    typed.0.fill(speed.0);
    vec![typed.0.field, typed.1.field]
}

fn helm_typed(sent: &Texts, system: System) -> (Typed, Typed) {
    let typed = |name: &str| sent.get(name).map_or("", String::as_str);
    (
        Typed::new(
            fields::SPEED,
            "Throttle",
            (Quantity::Speed, system),
            typed("speed"),
        ),
        Typed::new(
            fields::HEADING,
            "Heading, degrees from north",
            (Quantity::Count, system),
            typed("heading"),
        ),
    )
}

/// Reads them; a heading may stay empty.
///
/// # Errors
/// The fields as typed.
pub fn helm_read(sent: &Texts, system: System) -> Result<(Option<f64>, Option<f64>), Vec<Field>> {
    let (mut speed, mut heading) = helm_typed(sent, system);
    let read = (speed.optional(), heading.optional());
    if speed.field.problem.is_some() || heading.field.problem.is_some() {
        return Err(vec![speed.field, heading.field]);
    }
    Ok(read)
}

/// The depth at which a fish is seen.
///
/// # Errors
/// The field as typed.
pub fn mark_read(sent: &Texts, system: System) -> Result<Metres, Field> {
    let typed = sent.get("mark_depth").map_or("", String::as_str);
    let mut depth = Typed::new(fields::DEPTH, "Fish at", (Quantity::Depth, system), typed);
    depth.field.name = "mark_depth";
    let read = depth.or(1.0);
    if depth.field.problem.is_none() && read > 0.0 {
        return Ok(Metres(read));
    }
    if depth.field.problem.is_none() {
        depth.field.problem = Some(Problem(
            "Fish at is not above 0; type how deep the sounder shows it".to_owned(),
        ));
    }
    Err(depth.field)
}

/// Paces of a practice trip.
const TRIP_PACES: [(&str, &str); 3] = [
    ("5", "5 times as fast as life"),
    ("10", "10 times"),
    ("20", "20 times"),
];
/// Lakes of practice have numbers up to this.
const SEEDS: u64 = 999_999;

/// The form of a practice trip.
pub struct TripForm {
    /// How fast.
    pub paces: Vec<Choice>,
    /// The lake's number.
    pub seed: Field,
}

impl TripForm {
    /// It as it was typed.
    pub fn new(pace: &str, seed: &str) -> Self {
        Self {
            paces: Choice::list(TRIP_PACES, pace),
            seed: text("seed", "Lake number", seed),
        }
    }
}

impl Default for TripForm {
    fn default() -> Self {
        Self::new("10", "27")
    }
}

/// A practice trip: times as fast as life, and its lake.
///
/// # Errors
/// The form as typed.
pub fn trip_read(sent: &Texts) -> Result<(f64, u64), TripForm> {
    let typed = |name: &str| sent.get(name).map_or("", String::as_str).trim();
    let pace = typed("pace").parse().ok();
    let seed = typed("seed").parse().ok().filter(|seed| *seed <= SEEDS);
    if let (Some(pace), Some(seed)) = (pace.filter(|pace| PACES.contains(pace)), seed) {
        return Ok((pace, seed));
    }
    let mut form = TripForm::new(typed("pace"), typed("seed"));
    // A pace that is none of those offered leaves none chosen: the usual one is.
    if form.paces.iter().all(|pace| !pace.chosen) {
        form.paces = TripForm::default().paces;
    }
    if seed.is_none() {
        form.seed.problem = Some(Problem(format!(
            "Lake number is no whole number from 0 to {SEEDS}; type one, such as 27"
        )));
    }
    Err(form)
}
