//! What the log learns: it comes back as it went out, a track tells entries where they were, experiments are dealt, and
//! what is reckoned of outings holds while nothing of them changes.

use crate::{Boat, boat, log, now, refusal, seal};
use jiff::{SignedDuration, Timestamp};
use motilis_core::book::{EventKind, Given, OutingId, RigId};
use motilis_core::evidence::{Experiment, Way};
use motilis_core::fish::Fish;
use motilis_core::track::{Plane, Point, Spot, Track};
use motilis_core::units::Metres;
use motilis_formats::{Format, LogReading, read_log, write_entries, write_log, write_passes};
use motilis_helm::{
    Aboard, Act, Book, ExperimentAct, Fate, LogAct, LogImport, Refusal, Season, TrackLook,
    WaterAct, WholeLog, carry_out, tried,
};
use motilis_store::trash::Record;
use motilis_store::{events, outings, passes};
use rstest::rstest;

impl Boat {
    /// The log as JSON, entries and passes as CSV.
    fn files(&self) -> [(String, Format); 3] {
        self.ask(|book| {
            let log = WholeLog::load(book.connection()).unwrap();
            let whole = write_log(&log.outings(), &log.passes(), &log.entries());
            [
                (whole, Format::Json),
                (write_entries(&log.entries()), Format::Csv),
                (write_passes(&log.passes(), Format::Csv), Format::Csv),
            ]
        })
    }

    fn planned(&self, reading: LogReading) -> LogImport {
        self.ask(|book| LogImport::of(book.connection(), reading).unwrap())
    }

    fn take_in(&self, id: &str, import: LogImport) {
        self.act(id, log(LogAct::Import(Box::new(import)))).unwrap();
    }
}

fn read(file: &(String, Format)) -> LogReading {
    read_log(file.0.as_bytes(), file.1).unwrap()
}

#[rstest]
fn a_log_that_went_out_is_the_same_when_it_comes_back(boat: Boat) {
    for file in boat.files() {
        let import = boat.planned(read(&file));
        assert!(!import.records.is_empty());
        assert_eq!(import.count(Fate::Same), import.records.len());
        assert!(!import.is_sound(), "there is nothing to do");
    }
}

#[rstest]
fn what_was_thrown_away_or_changed_comes_back_to_the_last_digit(boat: Boat) {
    let before = boat.files();
    let thrown = boat.store.write(|connection| {
        // Every entry and pass of one outing, and a figure of another.
        let all = outings::all(connection)?;
        for (id, _) in events::of_outing(connection, all[3].0)? {
            motilis_store::trash::throw(connection, Record::Event(id), now())?;
        }
        for (id, _) in passes::of_outing(connection, all[3].0)? {
            motilis_store::trash::throw(connection, Record::Pass(id), now())?;
        }
        let (id, event) = events::of_outing(connection, all[5].0)?.remove(0);
        let event = motilis_core::book::Event {
            note: "otherwise".into(),
            ..event
        };
        events::update(connection, id, &event)
    });
    thrown.unwrap();
    assert!(boat.files() != before);
    let import = boat.planned(read(&before[0]));
    assert!(import.is_sound() && import.count(Fate::New) > 5);
    assert_eq!(import.count(Fate::Changed), 1);
    boat.take_in("back", import);
    assert!(boat.files() == before, "something came back otherwise");
}

/// Into a book that knows the rigs and waters but none of the outings.
#[rstest]
fn a_whole_log_goes_into_another_book(boat: Boat) {
    let before = boat.files();
    let gone = boat.store.write(|connection| {
        for table in [
            "casts",
            "rods",
            "passes",
            "events",
            "tracks",
            "temperature_readings",
            "outing_marks",
            "outings",
        ] {
            connection.execute(&format!("DELETE FROM {table}"), [])?;
        }
        Ok::<_, motilis_store::Error>(())
    });
    gone.unwrap();
    let import = boat.planned(read(&before[0]));
    assert_eq!(import.count(Fate::New), import.records.len());
    boat.take_in("all", import);
    // Numbers of outings are the new book's; all else is as it was.
    let plain = |text: &str| {
        let numbered = |field: &&str| field.contains("\"id\":") || field.starts_with("\"outing\":");
        let record = |one: &str| -> String {
            let fields = one.split(',').filter(|field| !numbered(field));
            fields.collect::<Vec<_>>().join(",")
        };
        let mut records: Vec<String> = text.split("},{").map(record).collect();
        records.sort_unstable();
        records
    };
    let same = plain(&boat.files()[0].0) == plain(&before[0].0);
    assert!(same, "something did not come over");
    // Entries alone need their outings.
    boat.store
        .write(|connection| {
            let all = outings::all(connection)?;
            motilis_store::trash::throw(connection, Record::Outing(all[0].0), now())
        })
        .unwrap();
    let import = boat.planned(read(&before[1]));
    assert!(import.count(Fate::Wrong) > 0);
    let wrong = import
        .records
        .iter()
        .find(|one| one.fate == Fate::Wrong)
        .unwrap();
    assert!(wrong.problems[0].1.contains("begin it first"), "{wrong:?}");
}

#[rstest]
#[case("kind,at_utc", "fish", "fsh", "kind")]
#[case("kind,at_utc", "Lake Tamarin", "Lake Nowhere", "outing_started_utc")]
#[case("kind,at_utc", "Leech single", "No such rig", "tackle")]
#[case("kind,at_utc", ",conditions,", ",guess,", "given")]
fn a_record_that_cannot_be_is_named_by_its_field(
    boat: Boat,
    #[case] heads: &str,
    #[case] from: &str,
    #[case] to: &str,
    #[case] field: &str,
) {
    let [_, (entries, format), _] = boat.files();
    assert!(entries.starts_with("id,outing") && entries.contains(heads));
    let reading = read(&(entries.replace(from, to), format));
    let import = boat.planned(reading);
    let wrong: Vec<_> = import
        .records
        .iter()
        .filter(|one| one.fate == Fate::Wrong)
        .collect();
    assert!(!wrong.is_empty() && !import.is_sound());
    assert!(
        wrong.iter().all(|one| one.problems[0].0 == field),
        "{:?}",
        wrong[0]
    );
}

fn began() -> Timestamp {
    "2026-09-05T11:20:00Z".parse().unwrap()
}

/// East at 1 m/s past Lake Tamarin's middle, for five hours from an instant.
fn eastward(from: Timestamp) -> Track {
    let plane = Plane::at(50.42, -95.61);
    let points = (0..18_000).step_by(10).map(|second| {
        let (latitude, longitude) = plane.back(f64::from(second), 0.0);
        Point {
            at: from + SignedDuration::from_secs(i64::from(second)),
            latitude,
            longitude,
        }
    });
    Track::new("east", points.collect()).unwrap()
}

fn track(track: Track) -> Act {
    log(LogAct::Track(Box::new(track), None))
}

#[rstest]
fn a_track_tells_entries_where_they_were_and_is_taken_back(boat: Boat) {
    let entries = |boat: &Boat| {
        boat.ask(|book| {
            let here = book.here().unwrap().id;
            events::of_outing(book.connection(), here).unwrap()
        })
    };
    let before = entries(&boat);
    let done = boat.act("track", track(eastward(began()))).unwrap();
    let after = entries(&boat);
    assert_eq!(before.len(), after.len());
    for (_, event) in &after {
        let (latitude, longitude) = event.place.unwrap();
        let (east, _) = Plane::at(50.42, -95.61).place(latitude, longitude);
        let gone = event.at.duration_since(began()).as_secs_f64();
        assert!((east - gone).abs() <= 5.0, "{east} after {gone} s");
        assert_eq!(event.given, Given::Track);
        assert!((event.ground.unwrap().0 - 1.0).abs() < 0.01);
        assert!((event.course_deg.unwrap() - 90.0).abs() < 0.1);
    }
    boat.undo("undo", done.act);
    assert_eq!(entries(&boat), before);
    // Thrown away instead, it says nothing any more: the demo's own track of that day holds again.
    let done = boat.act("again", track(eastward(began()))).unwrap();
    let id = motilis_core::book::TrackId(done.made.unwrap());
    boat.act("throw", Act::Throw(Record::Track(id))).unwrap();
    assert_eq!(entries(&boat), before);
    boat.act("back", Act::TakeBack(Record::Track(id))).unwrap();
    assert_eq!(entries(&boat), after);
}

#[rstest]
fn a_track_of_no_outing_is_refused(boat: Boat) {
    let lost = eastward("2019-01-01T00:00:00Z".parse().unwrap());
    let refused = refusal(boat.act("track", track(lost)));
    assert!(matches!(refused, Refusal::NoOutingThen(..)), "{refused:?}");
}

/// A spot that everything passes through holds all hours of the outings that have a track.
#[rstest]
fn a_spot_counts_what_was_fished_within_its_reach(boat: Boat) {
    let water = boat.ask(|book| book.here().unwrap().outing.water);
    let spot = |radius| Spot {
        water,
        name: "everywhere".into(),
        latitude: 50.42,
        longitude: -95.61,
        radius: Metres(radius),
        depth: None,
        structure: String::new(),
    };
    let act = |radius| Act::Water(WaterAct::Spot(None, Box::new(spot(radius))));
    boat.act("small", act(60.0)).unwrap();
    boat.act("large", act(4_900.0)).unwrap();
    assert!(matches!(
        refusal(boat.act("none", act(0.0))),
        Refusal::Figure(error) if error.quantity() == "radius_m"
    ));
    let (hours, fish) = boat.ask(|book| {
        let look = TrackLook::of(book, None).unwrap();
        let of = |radius: f64| {
            let told = look
                .spots
                .iter()
                .find(|told| (told.spot.radius.0 - radius).abs() < 1e-9)
                .unwrap();
            (told.at.record.rod_hours, told.at.record.fish)
        };
        let (small, large) = (of(60.0), of(4_900.0));
        ((small.0, large.0), (small.1, large.1))
    });
    assert!(hours.0 < 0.5 * hours.1 && hours.1 > 8.0, "{hours:?}");
    assert!(fish.0 <= fish.1 && fish.1 >= 5, "{fish:?}");
}

fn experiment(rods: Vec<u8>) -> Experiment {
    let way = |lead| Way {
        rig: RigId(1),
        lead: Some(Metres(lead)),
        bait: None,
    };
    Experiment {
        outing: OutingId(0),
        began: now(),
        until: now() + SignedDuration::from_hours(3),
        ended: None,
        period: SignedDuration::from_mins(30),
        seed: 3,
        rods,
        ways: [way(1.2), way(2.4)],
    }
}

#[rstest]
fn an_experiment_deals_its_rods_and_swaps_them(boat: Boat) {
    let here = boat.ask(|book| book.here().unwrap().id);
    let experiment = Experiment {
        outing: here,
        ..experiment(vec![1, 2, 3, 4])
    };
    let leads = |boat: &Boat| -> Vec<f64> {
        boat.ask(|book| {
            let all = Aboard::all(book).unwrap();
            all.iter().map(|one| one.boat.rod.lead.0).collect()
        })
    };
    let done = boat
        .act(
            "begin",
            Act::Experiment(ExperimentAct::Begin(Box::new(experiment))),
        )
        .unwrap();
    let id = motilis_core::book::ExperimentId(done.made.unwrap());
    let first = leads(&boat);
    assert_eq!(
        first
            .iter()
            .filter(|lead| (**lead - 1.2).abs() < 1e-9)
            .count(),
        2
    );
    let later = now() + SignedDuration::from_mins(31);
    let stands = |at| boat.ask(|book| tried(book, at).unwrap().remove(0));
    assert!(!stands(now()).due && stands(later).due);
    // Half an hour on, the other way round; hours and fish of each count for its own.
    let swap = |id_of: &str, at: Timestamp| {
        let seal = motilis_helm::Seal {
            at,
            now: at,
            ..seal(id_of)
        };
        let act = Act::Experiment(ExperimentAct::Swap(id));
        boat.store
            .write(|connection| carry_out(&Book::new(connection), &seal, act))
    };
    swap("swap", later).unwrap();
    let second = leads(&boat);
    assert!(first.iter().zip(&second).all(|(a, b)| (a - b).abs() > 1.0));
    assert!(!stands(later).due);
    let hour = now() + SignedDuration::from_mins(61);
    let told = stands(hour);
    let hours: Vec<f64> = told.records.iter().map(|one| one.rod_hours).collect();
    assert!(
        hours.iter().all(|hours| (hours - 2.0).abs() < 0.1),
        "{hours:?}"
    );
    boat.act("end", Act::Experiment(ExperimentAct::End(id)))
        .unwrap();
    assert!(!stands(hour).runs);
    assert!(swap("late", hour).is_err());
}

#[rstest]
fn an_experiment_needs_two_rods_and_an_outing_that_goes_on(boat: Boat) {
    let here = boat.ask(|book| book.here().unwrap().id);
    let of = |rods| {
        let experiment = Experiment {
            outing: here,
            ..experiment(rods)
        };
        Act::Experiment(ExperimentAct::Begin(Box::new(experiment)))
    };
    let one = refusal(boat.act("one", of(vec![1])));
    assert!(matches!(one, Refusal::Figure(error) if error.quantity() == "rods"));
    let mut late = seal("late");
    late.at = now() + SignedDuration::from_hours(200);
    let act = of(vec![1, 2]);
    let done = boat
        .store
        .write(|connection| carry_out(&Book::new(connection), &late, act));
    assert!(matches!(refusal(done), Refusal::Over));
}

/// What is kept of an outing is what would be reckoned anew, after every kind of change and its undoing.
#[rstest]
fn what_is_kept_of_an_outing_is_never_stale(boat: Boat) {
    let told = |boat: &Boat| {
        boat.ask(|book| {
            let season = Season::load(book.connection(), Some(Fish::Walleye)).unwrap();
            let whole = season.whole();
            (
                whole.fish,
                (whole.rod_hours * 3_600.0).round() as i64,
                season.outings().len(),
            )
        })
    };
    // The same file under another connection string has stamps of its own only when it changed.
    let first = told(&boat);
    let fish = LogAct::Tap {
        kind: EventKind::Fish,
        rod: Some(1),
        note: String::new(),
        caught: Box::default(),
        play: None,
    };
    let done = boat.act("fish", log(fish)).unwrap();
    let second = told(&boat);
    assert_eq!(second.0, first.0 + 1);
    boat.undo("undo", done.act);
    assert_eq!(told(&boat), first);
    let (id, _) = boat.ask(|book| outings::all(book.connection()).unwrap().remove(1));
    boat.act("throw", Act::Throw(Record::Outing(id))).unwrap();
    let without = told(&boat);
    assert_eq!(without.2, first.2 - 1);
    boat.act("back", Act::TakeBack(Record::Outing(id))).unwrap();
    assert_eq!(told(&boat), first);
    // Hours moved by hand are seen at once.
    let (pass, kept) = boat.ask(|book| {
        let here = book.here().unwrap().id;
        passes::of_outing(book.connection(), here)
            .unwrap()
            .into_iter()
            .find(|(_, pass)| {
                let to = pass.to.unwrap_or(now());
                to.duration_since(pass.from) > SignedDuration::from_mins(40)
            })
            .unwrap()
    });
    let later = kept.from + SignedDuration::from_mins(30);
    boat.act("hours", log(LogAct::Hours(pass, later, kept.to)))
        .unwrap();
    assert_eq!(told(&boat).1, first.1 - 1_800);
}

/// Rods that were never taken in on an outing of weeks ago are aboard when the next one begins: they have no hours.
#[rstest]
fn an_outing_left_open_for_weeks_puts_nothing_into_the_water(boat: Boat) {
    let begin = |id: &str, at: Timestamp| {
        let seal = motilis_helm::Seal {
            at,
            now: at,
            ..seal(id)
        };
        let act = Act::Outing(motilis_helm::OutingAct::Begin(None));
        let done = |connection: &_| carry_out(&Book::new(connection), &seal, act);
        boat.store.write(done).unwrap();
        boat.ask(|book| {
            let all = Aboard::all(book).unwrap();
            (all.len(), all.iter().filter(|one| one.fishes()).count())
        })
    };
    // The same evening the lines stay out.
    assert_eq!(begin("soon", now()), (4, 4));
    assert_eq!(
        begin("weeks", now() + SignedDuration::from_hours(24 * 40)),
        (4, 0)
    );
}
