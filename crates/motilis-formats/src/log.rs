//! The log as CSV and JSON: entries, passes, fish; one record each, the same fields in both.

use crate::Format;
use motilis_core::book::{BaitAfter, Event, EventId, EventKind, Landing, OutingId, PassId, Strike};
use motilis_core::evidence::Pass;
use motilis_core::fish::Fish;
use serde::Serialize;

/// An entry or a pass with the names of what it speaks of.
#[derive(Debug, Clone, Copy)]
pub struct Of<'n> {
    /// Its outing.
    pub outing: OutingId,
    /// The water.
    pub water: &'n str,
    /// What was fished; empty for a note.
    pub tackle: &'n str,
    /// The fish that was fished for.
    pub fish: Fish,
}

#[derive(Debug, Serialize)]
struct EntryRow<'a> {
    id: i64,
    outing: i64,
    water: &'a str,
    kind: &'static str,
    at_utc: String,
    entered_utc: String,
    rod: Option<u8>,
    tackle: &'a str,
    out_m: Option<f64>,
    depth_m: Option<f64>,
    speed_mps: f64,
    strike: Option<&'static str>,
    bait_after: Option<&'static str>,
    given: &'static str,
    lat: Option<f64>,
    lon: Option<f64>,
    note: &'a str,
}

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

#[derive(Debug, Serialize)]
struct PassRow<'a> {
    id: i64,
    outing: i64,
    water: &'a str,
    rod: Option<u8>,
    tackle: &'a str,
    rig_version: Option<i64>,
    from_utc: String,
    to_utc: Option<String>,
    out_m: Option<f64>,
    lead_m: Option<f64>,
    weight_kg: Option<f64>,
    depth_m: Option<f64>,
    speed_mps: Option<f64>,
    bait: &'a str,
}

fn written<R: Serialize>(rows: impl Iterator<Item = R>, format: Format) -> String {
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

/// Every entry.
pub fn write_log(entries: &[(EventId, Event, Of<'_>)], format: Format) -> String {
    let rows = entries.iter().map(|(id, event, of)| EntryRow {
        id: id.0,
        outing: of.outing.0,
        water: of.water,
        kind: event.kind.key(),
        at_utc: event.at.to_string(),
        entered_utc: event.entered.to_string(),
        rod: event.rod,
        tackle: of.tackle,
        out_m: event.line.map(|line| line.out.0),
        depth_m: event.line.and_then(|line| line.depth).map(|depth| depth.0),
        speed_mps: event.speed.0,
        strike: event.caught.strike.map(Strike::key),
        bait_after: event.caught.bait_after.map(BaitAfter::key),
        given: event.given.key(),
        lat: event.place.map(|(lat, _)| lat),
        lon: event.place.map(|(_, lon)| lon),
        note: &event.note,
    });
    written(rows, format)
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
    let rows = passes.iter().map(|(id, pass, of)| {
        let ran = &pass.ran;
        PassRow {
            id: id.0,
            outing: of.outing.0,
            water: of.water,
            rod: pass.rod,
            tackle: of.tackle,
            rig_version: ran.version,
            from_utc: pass.from.to_string(),
            to_utc: pass.to.map(|to| to.to_string()),
            out_m: ran.out.map(|out| out.0),
            lead_m: ran.lead.map(|lead| lead.0),
            weight_kg: ran.weight.map(|mass| mass.0),
            depth_m: ran.depth.map(|depth| depth.0),
            speed_mps: ran.speed.map(|speed| speed.0),
            bait: &ran.bait,
        }
    });
    written(rows, format)
}
