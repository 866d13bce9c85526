//! What the boat under way costs, and how well it foretells: a look ahead and a second of twelve rods, from tap to entry, six phones
//! that listen, a day's memory, and an evening and more of shoals. The figures published in `docs/architecture.md`.

use criterion::{Criterion, criterion_group};
use jiff::Timestamp;
use motilis_benches::serve_under_way;
use motilis_core::boat::Afloat;
use motilis_core::book::OutingId;
use motilis_core::spread::Holder;
use motilis_core::units::MILE_PER_HOUR;
use motilis_formats::nmea::Reader;
use motilis_live::simulator::{Bed, Helm, Order, Simulator};
use motilis_live::{Bridge, Waters};
use motilis_store::{Store, rods, settings};
use std::io::{BufRead, BufReader};
use std::time::{Duration, Instant};

#[path = "../crates/motilis-live/tests/it/ahead.rs"]
mod ahead;

const ORIGIN: [f64; 2] = [50.42, -95.61];

fn waters() -> Waters {
    Waters {
        origin: ORIGIN,
        surroundings: ahead::lake(),
        typed: 1.2 * MILE_PER_HOUR,
    }
}

/// Six rods a side, each a little longer out than the one before.
fn twelve() -> Vec<Afloat> {
    let holders = ["P", "S"]
        .iter()
        .flat_map(|side| (1..=6).map(move |number| format!("{side}{number}")));
    holders
        .zip(1..)
        .map(|(holder, number)| ahead::rod(number, &holder, 55.0 + 4.0 * f64::from(number)))
        .collect()
}

/// A simulated boat with a bridge that listens to it.
struct Sailing {
    boat: Simulator,
    bridge: Bridge,
    reader: Reader,
    seconds: f64,
}

impl Sailing {
    fn new(seed: u64, order: Order, rods: Vec<Afloat>) -> Self {
        let at: Timestamp = "2026-07-11T23:00:00Z".parse().expect("RFC 3339");
        let helm = Helm::new([0.0, 0.0], order, 1.2 * MILE_PER_HOUR);
        let mut bridge = Bridge::new(waters());
        bridge.set(waters(), rods, None);
        Self {
            boat: Simulator::new(Bed::new(seed), helm, ORIGIN, at, seed),
            bridge,
            reader: Reader::default(),
            seconds: 0.0,
        }
    }

    fn second(&mut self) {
        let text = self.boat.second();
        let clock = self.boat.at();
        let mut heard = Vec::new();
        self.reader.read(text.as_bytes(), |one| heard.push(one));
        self.seconds += 1.0;
        for one in heard {
            self.bridge.hear(one, self.seconds, clock);
        }
    }
}

fn twin(c: &mut Criterion) {
    let mut sailing = Sailing::new(27, Order::Straight(20.0), twelve());
    (0..300).for_each(|_| sailing.second());
    c.bench_function(
        "boat/a second of twelve rods, looks ahead among them",
        |b| {
            b.iter(|| sailing.second());
        },
    );
    let twin = sailing.bridge.twin().expect("it has begun");
    c.bench_function("boat/a look ahead for twelve rods", |b| {
        b.iter(|| twin.ahead(&[], None, true));
    });
}

/// The rods of the outing that goes on become twelve, all of them in the water.
fn with_twelve(store: &Store) {
    store
        .write(|connection| {
            let open = settings::get(connection, "open_outing")?.expect("the demo has one");
            let outing = OutingId(open.parse().expect("a number"));
            let aboard = rods::of_outing(connection, outing)?;
            for number in 5..=12_u8 {
                let mut more = aboard[usize::from(number) % aboard.len()].clone();
                more.number = number;
                let side = if number % 2 == 0 { "P" } else { "S" };
                let holder = format!("{side}{}", number / 2);
                more.rod.holder = Holder::from_key(&holder).expect("a holder");
                rods::put(connection, outing, &more)?;
            }
            Ok::<(), motilis_store::Error>(())
        })
        .expect("the rods fit");
}

fn program(c: &mut Criterion) {
    let (_folder, address) = serve_under_way(with_twelve);
    let agent: ureq::Agent = ureq::Agent::config_builder()
        .max_redirects(0)
        .build()
        .into();
    let mut acts = 0_u32;
    let mut post = |path: &str, fields: &[(&str, &str)]| {
        acts += 1;
        let act = acts.to_string();
        let mut fields = fields.to_vec();
        fields.push(("_act", &act));
        agent
            .post(format!("{address}{path}"))
            .header("Origin", &address)
            .send_form(fields)
            .expect("an answer")
    };
    post("/outings", &[("back", "/boat")]);
    post("/boat/instruments", &[("way", "simulated"), ("pace", "1")]);
    for rod in 1..=12 {
        post(
            "/log/rods/out",
            &[("rod", &rod.to_string()), ("screen", "boat")],
        );
    }
    std::thread::sleep(Duration::from_secs(5));
    six_phones(&address);
    c.bench_function("boat/from a tap to its entry, twelve rods in motion", |b| {
        b.iter(|| {
            post(
                "/log",
                &[("rod", "3"), ("kind", "follow"), ("screen", "boat")],
            )
        });
    });
    c.bench_function("boat/the page with twelve rods", |b| {
        b.iter(|| {
            let page = agent.get(format!("{address}/boat")).call();
            page.expect("a page").body_mut().read_to_string()
        });
    });
}

/// Seconds of a processor that this process has used, by the kernel.
fn processor() -> f64 {
    let stat = std::fs::read_to_string("/proc/self/stat").expect("Linux");
    let after = stat.rsplit(')').next().expect("its fields");
    let fields: Vec<&str> = after.split_whitespace().collect();
    let ticks: f64 = [11, 12]
        .iter()
        .map(|&field: &usize| fields[field].parse::<f64>().expect("ticks"))
        .sum();
    ticks / 100.0
}

/// What is held in memory, MB.
fn memory() -> f64 {
    let statm = std::fs::read_to_string("/proc/self/statm").expect("Linux");
    let pages: f64 = statm
        .split_whitespace()
        .nth(1)
        .and_then(|pages| pages.parse().ok())
        .expect("pages");
    pages * 4096.0 / 1e6
}

/// Six phones listen for half a minute; their own reading is in the figure.
fn six_phones(address: &str) {
    let host = address.trim_start_matches("http://").to_owned();
    let until = Instant::now() + Duration::from_secs(30);
    let (began, used) = (Instant::now(), processor());
    let phones: Vec<_> = (0..6)
        .map(|_| {
            let host = host.clone();
            std::thread::spawn(move || {
                use std::io::Write;
                let mut wire = std::net::TcpStream::connect(&host).expect("a stream");
                let ask = format!("GET /boat/live HTTP/1.1\r\nHost: {host}\r\n\r\n");
                wire.write_all(ask.as_bytes()).expect("it is asked for");
                BufReader::new(wire)
                    .lines()
                    .map_while(Result::ok)
                    .take_while(|_| Instant::now() < until)
                    .filter(|line| line.starts_with("data:"))
                    .count()
            })
        })
        .collect();
    let told: usize = phones
        .into_iter()
        .map(|phone| phone.join().expect("a phone"))
        .sum();
    let share = (processor() - used) / began.elapsed().as_secs_f64();
    println!(
        "boat/six phones, twelve rods: {told} updates in 30 s, {:.1} % of a processor",
        share * 100.0
    );
}

/// Eight hours of a boat with four rods, its soundings taken away as the program does.
fn day() {
    let rods = twelve().into_iter().take(4).collect();
    let mut sailing = Sailing::new(27, Order::Straight(20.0), rods);
    (0..1_800).for_each(|_| sailing.second());
    let (before, began) = (memory(), Instant::now());
    for second in 0..8 * 3_600 {
        sailing.second();
        if second % 60 == 0 {
            sailing.bridge.take_sounded();
            sailing.bridge.take_fixes();
        }
    }
    println!(
        "boat/8 h with four rods: {:.1} MB more, {:.0} s of work",
        memory() - before,
        began.elapsed().as_secs_f64()
    );
}

/// Shoals over several beds and courses: how many were told ten seconds ahead, and how many alarms were false.
fn shoals() {
    let four = || -> Vec<Afloat> {
        [("P1", 66.0), ("S1", 75.0), ("P2", 90.0), ("S2", 60.0)]
            .iter()
            .zip(1..)
            .map(|(&(holder, out), number)| ahead::rod(number, holder, out))
            .collect()
    };
    let hours = [
        (27, Order::Straight(20.0)),
        (27, Order::Straight(200.0)),
        (27, Order::Straight(110.0)),
        (3, Order::Straight(75.0)),
        (11, Order::Straight(310.0)),
        (19, Order::Straight(250.0)),
    ];
    let (mut all, mut halves) = (ahead::Told::default(), 0);
    for (seed, order) in hours {
        let told = ahead::sail(seed, 60, order, four());
        println!("boat/an hour over bed {seed}: {told:?}");
        all.shoals += told.shoals;
        all.warned += told.warned;
        all.alarms += told.alarms;
        all.false_alarms += told.false_alarms;
        halves += 2;
    }
    println!("boat/{halves} half hours: {all:?}");
}

criterion_group!(benches, twin, program);

fn main() {
    benches();
    Criterion::default().configure_from_args().final_summary();
    // What takes minutes is counted once, not sampled; only when everything is asked for.
    if std::env::args().skip(1).all(|word| word.starts_with("--")) {
        day();
        shoals();
    }
}
