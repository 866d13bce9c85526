//! The log as CSV and JSON: outings, passes, entries, fish; one record each, the same fields in both, there and back.

use crate::quoted;
use crate::{FieldProblem, Format};
use jiff::Timestamp;
use motilis_core::book::{
    BaitAfter, CastId, Caught, Event, EventId, EventKind, Given, Landing, Measured, OnLine, Outing,
    OutingId, PassId, Play, RiverCast, SetupId, Strike, Tackle, WaterId,
};
use motilis_core::evidence::{Pass, Ran};
use motilis_core::fish::Fish;
use motilis_core::units::{Celsius, Kilograms, Metres, MetresPerSecond};
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// Largest log that is read, bytes: some 300 000 entries.
pub const MOST_LOG_BYTES: usize = 256 * 1024 * 1024;

/// An entry or a pass with the names of what it speaks of.
#[derive(Debug, Clone, Copy)]
pub struct Of<'n> {
    /// Its outing.
    pub outing: OutingId,
    /// When that began.
    pub started: Timestamp,
    /// The water.
    pub water: &'n str,
    /// What was fished; empty for a note.
    pub tackle: &'n str,
    /// The set-up of a pass; empty where none is known.
    pub setup: &'n str,
    /// The fish that was fished for.
    pub fish: Fish,
}

/// What names the things of a record that stand elsewhere in the book.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Names {
    /// Number of its outing.
    pub outing: Option<i64>,
    /// When that began.
    pub started: Option<Timestamp>,
    /// The water's name.
    pub water: String,
    /// What was fished; empty for none.
    pub tackle: String,
    /// Its number among the rigs.
    pub rig: Option<i64>,
    /// Its number among the lures.
    pub lure: Option<i64>,
    /// Name and number of the set-up.
    pub setup: (String, Option<i64>),
}

macro_rules! row {
    ($(#[$doc:meta])* $name:ident { $($field:ident: $type:ty),* $(,)? }) => {
        $(#[$doc])*
        #[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
        #[serde(deny_unknown_fields, default)]
        struct $name { $($field: $type),* }
    };
}

row!(OutingRow {
    id: Option<i64>,
    water: String,
    started_utc: String,
    ended_utc: Option<String>,
    speed_mps: f64,
    temperature_c: f64,
    clarity_m: f64,
    stain: String,
    sky: String,
    wind: String,
    fish: String,
    fish_from_m: f64,
    fish_to_m: f64,
    bottom_m: f64,
    thermocline_m: Option<f64>,
    mood: String,
    forage: String,
    nibblers: bool,
    crowd: Option<String>,
    wanted_depth_m: f64,
});

row!(EntryRow {
    id: Option<i64>,
    outing: Option<i64>,
    outing_started_utc: String,
    water: String,
    kind: String,
    at_utc: String,
    entered_utc: Option<String>,
    rod: Option<u8>,
    tackle: String,
    rig_id: Option<i64>,
    lure_id: Option<i64>,
    out_m: Option<f64>,
    depth_m: Option<f64>,
    speed_mps: f64,
    strike: Option<String>,
    bait_after: Option<String>,
    species: Option<String>,
    landing: Option<String>,
    length_m: Option<f64>,
    measured: Option<String>,
    girth_m: Option<f64>,
    weight_kg: Option<f64>,
    kept: Option<bool>,
    clipped: Option<bool>,
    sex: String,
    condition: String,
    hooked: String,
    play: Option<String>,
    given: Option<String>,
    lat: Option<f64>,
    lon: Option<f64>,
    ground_mps: Option<f64>,
    course_deg: Option<f64>,
    temperature_c: Option<f64>,
    bottom_m: Option<f64>,
    note: String,
});

row!(PassRow {
    id: Option<i64>,
    outing: Option<i64>,
    outing_started_utc: String,
    water: String,
    rod: Option<u8>,
    tackle: String,
    rig_id: Option<i64>,
    lure_id: Option<i64>,
    rig_version: Option<i64>,
    setup: String,
    setup_id: Option<i64>,
    from_utc: String,
    to_utc: Option<String>,
    out_m: Option<f64>,
    lead_m: Option<f64>,
    weight_kg: Option<f64>,
    depth_m: Option<f64>,
    speed_mps: Option<f64>,
    bait: String,
});

#[derive(Debug, Serialize)]
struct FishRow<'a> {
    id: i64,
    outing: i64,
    water: &'a str,
    at_utc: String,
    rod: Option<u8>,
    tackle: &'a str,
    depth_m: Option<f64>,
    speed_mps: f64,
    species: &'static str,
    landing: Option<&'static str>,
    length_m: Option<f64>,
    girth_m: Option<f64>,
    weight_kg: Option<f64>,
    kept: Option<bool>,
    clipped: Option<bool>,
    sex: &'a str,
    condition: &'a str,
    hooked: &'a str,
    note: &'a str,
}

/// The whole log as one JSON document.
#[derive(Debug, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct Document<O, P, E> {
    /// What it is, and of which make.
    motilis_log: u32,
    outings: Vec<O>,
    passes: Vec<P>,
    entries: Vec<E>,
}

/// Make of the document that is written and read.
const MAKE: u32 = 1;

pub(crate) fn written<R: Serialize>(rows: impl Iterator<Item = R>, format: Format) -> String {
    match format {
        Format::Json => {
            let rows: Vec<R> = rows.collect();
            serde_json::to_string_pretty(&rows).expect("rows hold texts and finite figures") + "\n"
        }
        Format::Csv => {
            let mut writer = csv::Writer::from_writer(Vec::new());
            for row in rows {
                writer
                    .serialize(row)
                    .expect("a flat record goes into memory");
            }
            let bytes = writer.into_inner().expect("memory takes everything");
            String::from_utf8(bytes).expect("texts stay texts")
        }
    }
}

fn text(key: &str) -> String {
    key.to_owned()
}

fn outing_row(id: OutingId, outing: &Outing, water: &str) -> OutingRow {
    OutingRow {
        id: Some(id.0),
        water: text(water),
        started_utc: outing.started.to_string(),
        ended_utc: outing.ended.map(|ended| ended.to_string()),
        speed_mps: outing.speed.0,
        temperature_c: outing.temperature.0,
        clarity_m: outing.clarity.0,
        stain: text(outing.stain.key()),
        sky: text(outing.sky.key()),
        wind: text(outing.wind.key()),
        fish: text(outing.fish.key()),
        fish_from_m: outing.fish_depth.0.0,
        fish_to_m: outing.fish_depth.1.0,
        bottom_m: outing.bottom.0,
        thermocline_m: outing.thermocline.map(|depth| depth.0),
        mood: text(outing.mood.key()),
        forage: text(outing.forage.key()),
        nibblers: outing.nibblers,
        crowd: outing.crowd.map(|kind| text(kind.key())),
        wanted_depth_m: outing.wanted_depth.0,
    }
}

fn numbers(tackle: Option<Tackle>) -> (Option<i64>, Option<i64>) {
    match tackle {
        Some(Tackle::Rig(rig)) => (Some(rig.0), None),
        Some(Tackle::Lure(lure)) => (None, Some(lure.0)),
        None => (None, None),
    }
}

fn entry_row(id: EventId, event: &Event, of: &Of<'_>) -> EntryRow {
    let (rig_id, lure_id) = numbers(event.line.map(|line| line.tackle));
    let caught = &event.caught;
    let key = |key: Option<&'static str>| key.map(text);
    EntryRow {
        id: Some(id.0),
        outing: Some(of.outing.0),
        outing_started_utc: of.started.to_string(),
        water: text(of.water),
        kind: text(event.kind.key()),
        at_utc: event.at.to_string(),
        entered_utc: Some(event.entered.to_string()),
        rod: event.rod,
        tackle: text(of.tackle),
        rig_id,
        lure_id,
        out_m: event.line.map(|line| line.out.0),
        depth_m: event.line.and_then(|line| line.depth).map(|depth| depth.0),
        speed_mps: event.speed.0,
        strike: key(caught.strike.map(Strike::key)),
        bait_after: key(caught.bait_after.map(BaitAfter::key)),
        species: key(caught.species.map(Fish::key)),
        landing: key(caught.landing.map(Landing::key)),
        length_m: event.length.map(|length| length.0),
        measured: key(caught.measured.map(Measured::key)),
        girth_m: caught.girth.map(|girth| girth.0),
        weight_kg: caught.weight.map(|weight| weight.0),
        kept: event.kept,
        clipped: caught.clipped,
        sex: caught.sex.clone(),
        condition: caught.condition.clone(),
        hooked: caught.hooked.clone(),
        play: key(event.play.map(Play::key)),
        given: Some(text(event.given.key())),
        lat: event.place.map(|(lat, _)| lat),
        lon: event.place.map(|(_, lon)| lon),
        ground_mps: event.ground.map(|speed| speed.0),
        course_deg: event.course_deg,
        temperature_c: event.temperature.map(|degrees| degrees.0),
        bottom_m: event.bottom.map(|bottom| bottom.0),
        note: event.note.clone(),
    }
}

fn pass_row(id: PassId, pass: &Pass, of: &Of<'_>) -> PassRow {
    let (rig_id, lure_id) = numbers(Some(pass.tackle));
    let ran = &pass.ran;
    PassRow {
        id: Some(id.0),
        outing: Some(of.outing.0),
        outing_started_utc: of.started.to_string(),
        water: text(of.water),
        rod: pass.rod,
        tackle: text(of.tackle),
        rig_id,
        lure_id,
        rig_version: ran.version,
        setup: text(of.setup),
        setup_id: ran.setup.map(|setup| setup.0),
        from_utc: pass.from.to_string(),
        to_utc: pass.to.map(|to| to.to_string()),
        out_m: ran.out.map(|out| out.0),
        lead_m: ran.lead.map(|lead| lead.0),
        weight_kg: ran.weight.map(|mass| mass.0),
        depth_m: ran.depth.map(|depth| depth.0),
        speed_mps: ran.speed.map(|speed| speed.0),
        bait: ran.bait.clone(),
    }
}

/// Every entry, as CSV.
pub fn write_entries(entries: &[(EventId, Event, Of<'_>)]) -> String {
    let rows = entries
        .iter()
        .map(|(id, event, of)| entry_row(*id, event, of));
    written(rows, Format::Csv)
}

/// Everything that was logged, as one JSON document: outings with their conditions and their water's name, passes,
/// entries.
pub fn write_log(
    outings: &[(OutingId, Outing, &str)],
    passes: &[(PassId, Pass, Of<'_>)],
    entries: &[(EventId, Event, Of<'_>)],
) -> String {
    let outings = outings.iter();
    let whole = Document {
        motilis_log: MAKE,
        outings: outings
            .map(|(id, outing, water)| outing_row(*id, outing, water))
            .collect(),
        passes: passes
            .iter()
            .map(|(id, pass, of)| pass_row(*id, pass, of))
            .collect(),
        entries: entries
            .iter()
            .map(|(id, event, of)| entry_row(*id, event, of))
            .collect(),
    };
    serde_json::to_string(&whole).expect("rows hold texts and finite figures") + "\n"
}

/// Every fish.
pub fn write_fish(entries: &[(EventId, Event, Of<'_>)], format: Format) -> String {
    let fish = entries
        .iter()
        .filter(|(_, event, _)| event.kind == EventKind::Fish);
    let rows = fish.map(|(id, event, of)| {
        let caught = &event.caught;
        FishRow {
            id: id.0,
            outing: of.outing.0,
            water: of.water,
            at_utc: event.at.to_string(),
            rod: event.rod,
            tackle: of.tackle,
            depth_m: event.line.and_then(|line| line.depth).map(|depth| depth.0),
            speed_mps: event.speed.0,
            species: caught.species.unwrap_or(of.fish).key(),
            landing: caught.landing.map(Landing::key),
            length_m: event.length.map(|length| length.0),
            girth_m: caught.girth.map(|girth| girth.0),
            weight_kg: caught.weight.map(|weight| weight.0),
            kept: event.kept,
            clipped: caught.clipped,
            sex: &caught.sex,
            condition: &caught.condition,
            hooked: &caught.hooked,
            note: &event.note,
        }
    });
    written(rows, format)
}

/// Every pass.
pub fn write_passes(passes: &[(PassId, Pass, Of<'_>)], format: Format) -> String {
    let rows = passes.iter().map(|(id, pass, of)| pass_row(*id, pass, of));
    written(rows, format)
}

/// Every cast in a river; each with what it is of and what its run is called.
pub fn write_casts(casts: &[(CastId, RiverCast, Of<'_>, &str)], format: Format) -> String {
    let rows = casts.iter().map(|(id, cast, of, run)| {
        let plan = &cast.plan;
        CastRow {
            id: id.0,
            outing: of.outing.0,
            water: of.water,
            run,
            at_utc: cast.at.to_string(),
            rod: cast.rod,
            presentation: cast.presentation.key(),
            tackle: of.tackle,
            stand_along_m: cast.stand.0,
            angle_deg: plan.thrown.angle_deg,
            distance_m: plan.thrown.distance.0,
            held: plan.held.key(),
            sink_seconds: plan.sink,
            reel_mps: plan.reel.0,
            mend: plan.mend,
            follow: plan.follow,
            lift_seconds: plan.lift,
            entry: cast.event.map(|event| event.0),
        }
    });
    written(rows, format)
}

#[derive(Serialize)]
struct CastRow<'a> {
    id: i64,
    outing: i64,
    water: &'a str,
    run: &'a str,
    at_utc: String,
    rod: u8,
    presentation: &'static str,
    tackle: &'a str,
    stand_along_m: f64,
    angle_deg: f64,
    distance_m: f64,
    held: &'static str,
    sink_seconds: f64,
    reel_mps: f64,
    mend: bool,
    follow: bool,
    lift_seconds: Option<f64>,
    entry: Option<i64>,
}

/// A rate as it goes out: of a group, or of two crossed.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Rate {
    /// The group.
    pub group: String,
    /// The one it is crossed with; empty for none.
    pub crossed: String,
    /// Fish.
    pub fish: u32,
    /// Strikes.
    pub strikes: u32,
    /// Hours of its rods.
    pub rod_hours: f64,
    /// Fish an hour of a rod, as believed.
    pub rate_per_hour: f64,
    /// Where eight cases of ten begin.
    pub low_per_hour: f64,
    /// Where they end.
    pub high_per_hour: f64,
}

/// Rates.
pub fn write_rates(rates: &[Rate], format: Format) -> String {
    written(rates.iter(), format)
}

/// Why a log is not read at all.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[non_exhaustive]
pub enum LogRefusal {
    /// Too large.
    #[error("the file has {0} bytes; at most {MOST_LOG_BYTES} are read")]
    TooLarge(usize),
    /// No text.
    #[error("the file is no text: byte {0} is not UTF-8; save it as CSV in UTF-8, or as JSON")]
    NotText(usize),
    /// Nothing in it.
    #[error(
        "the file is empty; a log begins with the names of its fields, or is JSON as it was exported"
    )]
    Empty,
    /// Columns of neither entries nor passes.
    #[error(
        "line 1: this is no log: entries have the fields kind and at_utc, passes from_utc and tackle"
    )]
    NoLog,
    /// A column nobody knows, twice, or missing.
    #[error("line 1: {0}")]
    Heads(String),
    /// JSON that cannot be read.
    #[error("{at}: {what}")]
    Json {
        /// Where: `entries[3].kind`, or a line.
        at: String,
        /// What is wrong.
        what: String,
    },
}

/// One record of a file: what it is, and what names the things around it.
#[derive(Debug, Clone, PartialEq)]
pub struct LogRecord<T> {
    /// Line of a CSV file; place in its list of a JSON file, from 1.
    pub line: u64,
    /// Its number in the book it came from.
    pub id: Option<i64>,
    /// What it names.
    pub names: Names,
    /// The record, or what is wrong; numbers of what it names are not set yet.
    pub what: Result<T, Vec<FieldProblem>>,
}

/// A whole file.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct LogReading {
    /// Its outings.
    pub outings: Vec<LogRecord<Outing>>,
    /// Its passes.
    pub passes: Vec<LogRecord<Pass>>,
    /// Its entries.
    pub entries: Vec<LogRecord<Event>>,
}

/// Reads a log: the JSON document of the whole, or a CSV of entries or of passes, told apart by its first line.
///
/// # Errors
/// [`LogRefusal`] for a file that holds no records to look at.
pub fn read_log(bytes: &[u8], format: Format) -> Result<LogReading, LogRefusal> {
    if bytes.len() > MOST_LOG_BYTES {
        return Err(LogRefusal::TooLarge(bytes.len()));
    }
    let text =
        std::str::from_utf8(bytes).map_err(|error| LogRefusal::NotText(error.valid_up_to() + 1))?;
    let text = text.strip_prefix('\u{feff}').unwrap_or(text);
    if text.trim().is_empty() {
        return Err(LogRefusal::Empty);
    }
    match format {
        Format::Json => from_json(text),
        Format::Csv => from_csv(text),
    }
}

fn from_json(text: &str) -> Result<LogReading, LogRefusal> {
    let reader = &mut serde_json::Deserializer::from_str(text);
    let whole: Document<OutingRow, PassRow, EntryRow> = serde_path_to_error::deserialize(reader)
        .map_err(|error| {
            let path = error.path().to_string();
            let inner = error.inner();
            LogRefusal::Json {
                at: match path.as_str() {
                    "." => format!("line {}", inner.line()),
                    _ => path,
                },
                what: inner.to_string(),
            }
        })?;
    if whole.motilis_log != MAKE {
        return Err(LogRefusal::Json {
            at: "motilis_log".into(),
            what: format!(
                "make {} of the log is not known here, only {MAKE}",
                whole.motilis_log
            ),
        });
    }
    Ok(LogReading {
        outings: placed(whole.outings, OutingRow::read),
        passes: placed(whole.passes, PassRow::read),
        entries: placed(whole.entries, EntryRow::read),
    })
}

/// Rows in their order, counted from 1.
fn placed<R, T>(rows: Vec<R>, read: impl Fn(u64, R) -> LogRecord<T>) -> Vec<LogRecord<T>> {
    let placed = (1..).zip(rows);
    placed.map(|(line, row)| read(line, row)).collect()
}

fn from_csv(text: &str) -> Result<LogReading, LogRefusal> {
    let mut reader = csv::Reader::from_reader(text.as_bytes());
    let heads = reader
        .headers()
        .map_err(|error| LogRefusal::Heads(error.to_string()))?
        .clone();
    let has = |name: &str| heads.iter().any(|head| head == name);
    if has("kind") && has("at_utc") {
        let entries = rows(reader, &heads, EntryRow::read)?;
        Ok(LogReading {
            entries,
            ..LogReading::default()
        })
    } else if has("from_utc") && has("tackle") {
        let passes = rows(reader, &heads, PassRow::read)?;
        Ok(LogReading {
            passes,
            ..LogReading::default()
        })
    } else {
        Err(LogRefusal::NoLog)
    }
}

fn rows<R: DeserializeOwned, T>(
    mut reader: csv::Reader<&[u8]>,
    heads: &csv::StringRecord,
    read: impl Fn(u64, R) -> LogRecord<T>,
) -> Result<Vec<LogRecord<T>>, LogRefusal> {
    let mut records = Vec::new();
    for (place, row) in reader.records().enumerate() {
        let row = row.map_err(|error| LogRefusal::Heads(error.to_string()))?;
        let line = row.position().map_or(0, csv::Position::line);
        match row.deserialize::<R>(Some(heads)) {
            Ok(row) => records.push(read(line, row)),
            Err(error) => {
                let (field, message) = told(&error, &row, heads);
                // A column that nobody knows is wrong in every line: it is said once.
                if place == 0 && field.is_empty() {
                    return Err(LogRefusal::Heads(message));
                }
                records.push(LogRecord {
                    line,
                    id: None,
                    names: Names::default(),
                    what: Err(vec![FieldProblem { field, message }]),
                });
            }
        }
    }
    Ok(records)
}

/// Which field of a line is wrong, and why.
fn told(
    error: &csv::Error,
    row: &csv::StringRecord,
    heads: &csv::StringRecord,
) -> (String, String) {
    let csv::ErrorKind::Deserialize { err, .. } = error.kind() else {
        return (String::new(), error.to_string());
    };
    let place = err.field().and_then(|place| usize::try_from(place).ok());
    match place.and_then(|place| Some((heads.get(place)?, row.get(place)?))) {
        Some((head, typed)) => (
            head.to_owned(),
            format!("{} cannot be: {}", quoted(typed), err.kind()),
        ),
        None => (String::new(), err.kind().to_string()),
    }
}

/// Gathers what is wrong with the fields of one record.
#[derive(Default)]
struct Wrong(Vec<FieldProblem>);

impl Wrong {
    fn say(&mut self, field: &str, message: impl Into<String>) {
        self.0.push(FieldProblem {
            field: field.to_owned(),
            message: message.into(),
        });
    }

    fn time(&mut self, field: &str, typed: &str) -> Option<Timestamp> {
        let at = typed.trim().parse().ok();
        if at.is_none() {
            self.say(
                field,
                format!(
                    "{} is no instant; write it like 2026-06-04T10:12:00Z",
                    quoted(typed)
                ),
            );
        }
        at
    }

    fn time_or_none(&mut self, field: &str, typed: Option<&str>) -> Option<Timestamp> {
        typed.and_then(|typed| self.time(field, typed))
    }

    fn keyed<T: Copy>(
        &mut self,
        field: &str,
        typed: &str,
        all: &[T],
        key: impl Fn(T) -> &'static str,
    ) -> Option<T> {
        let found = all.iter().copied().find(|one| key(*one) == typed.trim());
        if found.is_none() {
            let known: Vec<&str> = all.iter().map(|one| key(*one)).collect();
            self.say(
                field,
                format!("{} is not one of {}", quoted(typed), known.join(", ")),
            );
        }
        found
    }

    fn keyed_or_none<T: Copy>(
        &mut self,
        field: &str,
        typed: Option<&str>,
        all: &[T],
        key: impl Fn(T) -> &'static str,
    ) -> Option<T> {
        typed.and_then(|typed| self.keyed(field, typed, all, key))
    }

    /// The record, when nothing is wrong with it.
    fn or<T>(
        mut self,
        record: Option<T>,
        check: impl Fn(&T) -> Result<(), motilis_core::Error>,
    ) -> Result<T, Vec<FieldProblem>> {
        match record {
            Some(record) if self.0.is_empty() => match check(&record) {
                Ok(()) => Ok(record),
                Err(error) => {
                    self.say(error.quantity(), error.to_string());
                    Err(self.0)
                }
            },
            _ => Err(self.0),
        }
    }
}

/// The figures of a line that nobody let out: a record without tackle has none.
const NOWHERE: Tackle = Tackle::Rig(motilis_core::book::RigId(0));

impl OutingRow {
    fn read(line: u64, row: Self) -> LogRecord<Outing> {
        let mut wrong = Wrong::default();
        let outing = row.outing(&mut wrong);
        LogRecord {
            line,
            id: row.id,
            names: Names {
                outing: row.id,
                started: row.started_utc.parse().ok(),
                water: row.water,
                ..Names::default()
            },
            what: wrong.or(outing, Outing::check),
        }
    }

    fn outing(&self, wrong: &mut Wrong) -> Option<Outing> {
        use motilis_core::advice::{Mood, Sky, Wind};
        use motilis_core::fish::Forage;
        use motilis_core::light::Stain;
        use motilis_core::rig::Kind;
        let started = wrong.time("started_utc", &self.started_utc);
        let ended = wrong.time_or_none("ended_utc", self.ended_utc.as_deref());
        let stain = wrong.keyed("stain", &self.stain, Stain::ALL, Stain::key);
        let sky = wrong.keyed("sky", &self.sky, Sky::ALL, Sky::key);
        let wind = wrong.keyed("wind", &self.wind, Wind::ALL, Wind::key);
        let fish = wrong.keyed("fish", &self.fish, Fish::ALL, Fish::key);
        let mood = wrong.keyed("mood", &self.mood, Mood::ALL, Mood::key);
        let forage = wrong.keyed("forage", &self.forage, Forage::ALL, Forage::key);
        let crowd = wrong.keyed_or_none("crowd", self.crowd.as_deref(), Kind::ALL, Kind::key);
        Some(Outing {
            water: WaterId(0),
            started: started?,
            ended,
            speed: MetresPerSecond(self.speed_mps),
            temperature: Celsius(self.temperature_c),
            clarity: Metres(self.clarity_m),
            stain: stain?,
            sky: sky?,
            wind: wind?,
            fish: fish?,
            fish_depth: (Metres(self.fish_from_m), Metres(self.fish_to_m)),
            bottom: Metres(self.bottom_m),
            thermocline: self.thermocline_m.map(Metres),
            mood: mood?,
            forage: forage?,
            nibblers: self.nibblers,
            crowd,
            wanted_depth: Metres(self.wanted_depth_m),
        })
    }
}

impl EntryRow {
    fn read(line: u64, row: Self) -> LogRecord<Event> {
        let mut wrong = Wrong::default();
        let started = wrong.time("outing_started_utc", &row.outing_started_utc);
        let event = row.event(&mut wrong);
        LogRecord {
            line,
            id: row.id,
            names: Names {
                outing: row.outing,
                started,
                water: row.water,
                tackle: row.tackle,
                rig: row.rig_id,
                lure: row.lure_id,
                ..Names::default()
            },
            what: wrong.or(event, Event::check),
        }
    }

    fn event(&self, wrong: &mut Wrong) -> Option<Event> {
        let kind = wrong.keyed("kind", &self.kind, EventKind::ALL, EventKind::key);
        let at = wrong.time("at_utc", &self.at_utc);
        let entered = wrong.time_or_none("entered_utc", self.entered_utc.as_deref());
        let strike =
            wrong.keyed_or_none("strike", self.strike.as_deref(), Strike::ALL, Strike::key);
        let bait = self.bait_after.as_deref();
        let bait_after = wrong.keyed_or_none("bait_after", bait, BaitAfter::ALL, BaitAfter::key);
        let species = wrong.keyed_or_none("species", self.species.as_deref(), Fish::ALL, Fish::key);
        let landed = self.landing.as_deref();
        let landing = wrong.keyed_or_none("landing", landed, Landing::ALL, Landing::key);
        let how = self.measured.as_deref();
        let measured = wrong.keyed_or_none("measured", how, Measured::ALL, Measured::key);
        let play = wrong.keyed_or_none("play", self.play.as_deref(), Play::ALL, Play::key);
        let given = wrong.keyed_or_none("given", self.given.as_deref(), Given::ALL, Given::key);
        if self.tackle.is_empty() != self.out_m.is_none() {
            wrong.say(
                "out_m",
                "what happened on a line has its tackle and its line out, a note has neither",
            );
        }
        let line = self.out_m.map(|out| OnLine {
            tackle: NOWHERE,
            out: Metres(out),
            depth: self.depth_m.map(Metres),
        });
        let at = at?;
        Some(Event {
            outing: OutingId(0),
            kind: kind?,
            at,
            entered: entered.unwrap_or(at),
            rod: self.rod,
            line,
            speed: MetresPerSecond(self.speed_mps),
            length: self.length_m.map(Metres),
            kept: self.kept,
            caught: Caught {
                species,
                landing,
                girth: self.girth_m.map(Metres),
                weight: self.weight_kg.map(Kilograms),
                sex: self.sex.clone(),
                condition: self.condition.clone(),
                hooked: self.hooked.clone(),
                clipped: self.clipped,
                strike,
                bait_after,
                measured,
            },
            play,
            given: given.unwrap_or_default(),
            place: self.lat.zip(self.lon),
            ground: self.ground_mps.map(MetresPerSecond),
            course_deg: self.course_deg,
            temperature: self.temperature_c.map(Celsius),
            bottom: self.bottom_m.map(Metres),
            note: self.note.clone(),
        })
    }
}

impl PassRow {
    fn read(line: u64, row: Self) -> LogRecord<Pass> {
        let mut wrong = Wrong::default();
        let started = wrong.time("outing_started_utc", &row.outing_started_utc);
        let from = wrong.time("from_utc", &row.from_utc);
        let to = wrong.time_or_none("to_utc", row.to_utc.as_deref());
        if row.tackle.is_empty() {
            wrong.say(
                "tackle",
                "tackle is empty; a pass names what was in the water",
            );
        }
        if from.zip(to).is_some_and(|(from, to)| to < from) {
            wrong.say(
                "to_utc",
                "the pass ends before it begins; correct one of the two",
            );
        }
        let pass = from.map(|from| Pass {
            rod: row.rod,
            tackle: NOWHERE,
            from,
            to,
            ran: Ran {
                version: row.rig_version,
                setup: row.setup_id.map(SetupId),
                out: row.out_m.map(Metres),
                lead: row.lead_m.map(Metres),
                weight: row.weight_kg.map(Kilograms),
                depth: row.depth_m.map(Metres),
                speed: row.speed_mps.map(MetresPerSecond),
                bait: row.bait,
            },
        });
        LogRecord {
            line,
            id: row.id,
            names: Names {
                outing: row.outing,
                started,
                water: row.water,
                tackle: row.tackle,
                rig: row.rig_id,
                lure: row.lure_id,
                setup: (row.setup, row.setup_id),
            },
            what: wrong.or(pass, Pass::check),
        }
    }
}
