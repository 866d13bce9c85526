//! What a wire can do: lost, flooded, garbage, clocks that differ, places that leap. Each is a sentence, none a wrong warning.

use crate::ahead::{lake, rod};
use jiff::Timestamp;
use motilis_core::boat::{Freshness, Remark, Source};
use motilis_core::units::MILE_PER_HOUR;
use motilis_formats::nmea::Reader;
use motilis_live::simulator::{Bed, Faults, Fishery, Helm, Order, Simulator};
use motilis_live::{BoatServer, Bridge, Clock, Known, Link, Live, Setting, Told, Waters, Wire};
use rstest::rstest;
use std::collections::HashMap;
use std::net::UdpSocket;
use std::sync::Arc;
use std::thread;
use std::time::{Duration, Instant};

fn waters() -> Waters {
    Waters {
        origin: [50.42, -95.61],
        surroundings: lake(),
        typed: 1.2 * MILE_PER_HOUR,
    }
}

fn boat() -> Simulator {
    let helm = Helm::new([0.0; 2], Order::Straight(20.0), 1.2 * MILE_PER_HOUR);
    Simulator::new(Bed::new(27), helm, waters().origin, Timestamp::now(), 27)
}

/// A bridge that heard a boat for so many seconds, the last of them with faults.
fn after(sound: u64, faulty: u64, faults: Faults) -> (Known, u64) {
    let mut bridge = Bridge::new(waters());
    bridge.set(waters(), vec![rod(1, "P1", 60.0)], None);
    let (mut boat, mut reader) = (boat(), Reader::default());
    let mut warned = 0;
    for second in 0..sound + faulty {
        if second == sound {
            boat.faults = faults;
        }
        let text = boat.second();
        let clock = boat.at();
        reader.read(text.as_bytes(), |heard| {
            bridge.hear(heard, second as f64, clock);
        });
        if second >= sound {
            bridge.look_now();
            warned += bridge.ahead().warnings.len() as u64;
        }
    }
    (bridge.known((sound + faulty - 1) as f64), warned)
}

#[test]
fn a_place_that_leaps_is_remarked_and_warns_of_nothing() {
    let leap = Faults {
        leap: true,
        ..Faults::default()
    };
    let (known, warned) = after(60, 2, leap);
    assert!(
        matches!(known.remark, Some(Remark::Leap(_))),
        "{:?}",
        known.remark
    );
    assert_eq!(warned, 0);
    let (known, warned) = after(60, 10, leap);
    assert!(matches!(known.remark, Some(Remark::Elsewhere(_))));
    assert!(known.rods.iter().all(|rod| {
        rod.strip
            .iter()
            .filter(|point| point.bottom.is_some())
            .count()
            < 20
    }));
    assert_eq!(warned, 0);
}

#[rstest]
#[case::lost(Faults { no_bottom: true, ..Faults::default() })]
#[case::nought(Faults { depth_nought: true, ..Faults::default() })]
fn a_sounder_that_lost_the_bottom_goes_and_nobody_warns(#[case] faults: Faults) {
    let (known, _) = after(60, 40, faults);
    let depth = known.instruments.depth.unwrap();
    assert_eq!(depth.freshness(known.now), Freshness::Gone);
    assert!(known.ahead.warnings.is_empty());
    assert_eq!(known.rods.len(), 1);
}

#[test]
fn a_clock_an_hour_fast_is_told_and_the_lines_go_on() {
    let (known, _) = after(
        30,
        30,
        Faults {
            fast_clock: true,
            ..Faults::default()
        },
    );
    assert!((known.clock_off.unwrap() - 3_600.0).abs() < 5.0);
    assert_eq!(known.rods.len(), 1);
}

#[test]
fn without_a_paddle_the_speed_is_that_over_ground_and_says_so() {
    let (known, _) = after(
        20,
        40,
        Faults {
            no_paddle: true,
            ..Faults::default()
        },
    );
    assert_eq!(known.through.unwrap().source, Source::Ground);
    let (known, _) = after(
        20,
        10,
        Faults {
            no_fix: true,
            ..Faults::default()
        },
    );
    assert_eq!(known.through.unwrap().source, Source::Paddle);
}

#[test]
fn damaged_sentences_are_dropped_and_the_twin_goes_on() {
    let (known, _) = after(
        20,
        60,
        Faults {
            damaged: true,
            ..Faults::default()
        },
    );
    assert_eq!(known.rods.len(), 1);
    assert!(known.rods[0].line.depth.0 > 3.0);
}

/// Waits until what is told is as it should be.
fn until(live: &Live, what: &str, holds: impl Fn(&Told) -> bool) -> Arc<Told> {
    let began = Instant::now();
    loop {
        let told = live.told();
        if holds(&told) {
            return told;
        }
        assert!(
            began.elapsed() < Duration::from_secs(40),
            "never {what}: {:?} {:?}",
            told.link,
            told.counts
        );
        thread::sleep(Duration::from_millis(50));
    }
}

fn live() -> Live {
    let live = Live::start(Clock::new(Timestamp::now));
    live.set(Setting {
        waters: waters(),
        rods: vec![rod(1, "P1", 60.0)],
        names: HashMap::from([(1, "harness".to_owned())]),
        chart: None,
    });
    live
}

#[test]
fn a_boat_is_heard_over_tcp_lost_and_found_again() {
    let server = BoatServer::bind("127.0.0.1:0").unwrap();
    let address = server.address();
    let live = live();
    live.listen(Wire::Tcp(address.to_string()));
    until(&live, "open", |told| told.link == Link::Open);
    let mut boat = boat();
    for _ in 0..4 {
        server.say(&boat.second());
        thread::sleep(Duration::from_millis(300));
    }
    let told = until(&live, "heard", |told| told.known.rods.len() == 1);
    assert!(told.counts.good > 8 && told.counts.dropped() == 0);
    // What was known then can be asked for by an entry that comes late.
    let moment = live.moment(Timestamp::now()).unwrap();
    assert!(moment.position.is_some() && moment.rod(1).is_some());
    live.listen(Wire::Tcp("127.0.0.1:9".into()));
    let told = until(&live, "lost", |told| matches!(told.link, Link::Trying(_)));
    assert!(told.known.rods.is_empty());
    live.listen(Wire::Tcp(address.to_string()));
    until(&live, "found", |told| told.link == Link::Open);
}

/// One that listens to datagrams, and what sends them.
fn by_radio() -> (Live, UdpSocket, u16) {
    let bind = || UdpSocket::bind("127.0.0.1:0").unwrap();
    let port = bind().local_addr().unwrap().port();
    let live = live();
    live.listen(Wire::Udp(port));
    until(&live, "open", |told| told.link == Link::Open);
    (live, bind(), port)
}

#[test]
fn a_flood_of_datagrams_is_borne() {
    let (live, sender, port) = by_radio();
    let garbage = [b'%'; 1_000];
    // A hundred kilobytes a second of garbage for a second, then a boat.
    for _ in 0..2_000 {
        sender.send_to(&garbage, ("127.0.0.1", port)).unwrap();
    }
    let mut boat = boat();
    let began = Instant::now();
    while live.told().known.rods.is_empty() && began.elapsed() < Duration::from_secs(20) {
        sender
            .send_to(
                format!("\r\n{}", boat.second()).as_bytes(),
                ("127.0.0.1", port),
            )
            .unwrap();
        thread::sleep(Duration::from_millis(200));
    }
    let told = live.told();
    assert_eq!(told.known.rods.len(), 1);
    assert!(told.counts.noise > 0);
}

/// A radio that was away sends what it kept in one piece: the track has each place at its own second.
#[test]
fn fixes_that_come_in_one_piece_stay_apart() {
    let (live, sender, port) = by_radio();
    let mut boat = boat();
    let piece: String = (0..6).map(|_| boat.second()).collect();
    let began = Instant::now();
    let mut track = Vec::new();
    while track.is_empty() && began.elapsed() < Duration::from_secs(20) {
        sender
            .send_to(piece.as_bytes(), ("127.0.0.1", port))
            .unwrap();
        thread::sleep(Duration::from_millis(200));
        track = live.track_since(Timestamp::UNIX_EPOCH);
    }
    assert!(track.len() >= 6, "{track:?}");
    for two in track[..6].windows(2) {
        assert_eq!(two[1].at.duration_since(two[0].at).as_secs(), 1, "{two:?}");
    }
}

#[test]
fn a_simulated_boat_sets_the_clock_and_is_recorded_and_replayed() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("ride.nmea");
    let live = live();
    live.record(Some(file.clone())).unwrap();
    // A second tap is the same recording; what is there is not written over.
    live.record(Some(folder.path().join("second.nmea")))
        .unwrap();
    assert!(!folder.path().join("second.nmea").exists());
    live.sail(boat(), Some(Fishery::new(3)), 20.0);
    assert!((live.clock().pace() - 20.0).abs() < 1e-9);
    let told = until(&live, "sailed", |told| told.counts.good > 200);
    assert!(told.truth.is_some() && live.recording().as_ref() == Some(&file));
    assert!(!live.take_sounded().is_empty());
    assert!(live.track_since(Timestamp::UNIX_EPOCH).len() > 20);
    live.record(None).unwrap();
    assert!(live.record(Some(file.clone())).is_err());
    live.listen(Wire::Replay(file, 20.0));
    assert!((live.clock().pace() - 1.0).abs() < 1e-9);
    until(&live, "replayed", |told| {
        told.counts.good > 60 && told.counts.dropped() == 0
    });
}

#[test]
fn a_setting_is_a_wire_and_no_way_out_of_the_folder() {
    let folder = std::path::Path::new("/rides");
    assert_eq!(
        Wire::of("tcp 10.0.0.1:10110", folder),
        Some(Wire::Tcp("10.0.0.1:10110".into()))
    );
    assert_eq!(Wire::of("udp 10110", folder), Some(Wire::Udp(10_110)));
    assert_eq!(
        Wire::of("practice 20 5", folder),
        Some(Wire::Simulated(20.0))
    );
    assert_eq!(
        Wire::of("replay 5 ../../etc/passwd", folder),
        Some(Wire::Replay("/rides/passwd".into(), 5.0))
    );
    for nonsense in ["", "simulated", "simulated 900", "udp seven", "tin cans"] {
        assert_eq!(Wire::of(nonsense, folder), None);
    }
}
