//! From answers to view models: a module for each screen.

mod bench;
mod blades;
mod boat;
mod boxes;
mod call_card;
mod card;
mod column;
mod data;
mod deleted;
mod evidence;
mod experiment;
mod facts;
mod files;
mod import;
mod instruments;
mod judging;
mod line_table;
mod log;
mod lures;
mod made;
mod motion;
mod pick;
mod rail;
mod rigs;
mod river;
mod runs;
mod setups;
mod sheet;
mod shopping;
mod spread;
mod start;
mod stir;
mod tank;
mod today;
mod track;
mod waters;

pub use bench::{Hand, batch, bench};
pub use boat::{Beside, BoatAsk, boat, boat_plan, now as boat_now, set_out};
pub use boxes::{Look as BoxLook, boxes};
pub use call_card::{call_card, changes};
pub use card::{compare as compare_spreads, set_out_card};
pub use column::{Ask as ColumnAsk, column as water_column};
pub use data::{DataLook, data};
pub use deleted::deleted;
pub use evidence::{EvidenceLook, evidence, rates};
pub use experiment::experiments;
pub use files::{files, log_preview};
pub use import::{blank as import_form, preview};
pub use instruments::{InstrumentsAsk, Score, codes, instruments, phone, practice};
pub use judging::judging;
pub use line_table::line_table;
pub use log::{Extra as LogExtra, Told, log};
pub use lures::lures;
pub use made::broken;
pub use motion::{Outcome, frames, motion};
pub use rail::bay_of;
pub use rigs::{compare as compare_rigs, new_rig};
pub use river::{RiverAsk, RiverPage, river, river_rigs, where_it_bites};
pub(crate) use river::{encoded as river_query, scene, spools, tackle};
pub use runs::{RunExtra, run_page};
pub use setups::setups;
pub use sheet::sheet;
pub use shopping::{rows as shopping_rows, shopping};
pub use spread::{Computed, Scene, Shown as SpreadShown, new_spread, spread};
pub use start::{half_typed, start};
pub use tank::{Shown as TankShown, cannot as tank_cannot, tank};
pub use today::{Thrown, today};
pub use track::{TrackTold, gpx, track};
pub use waters::{Extra as WaterExtra, new_water, water, waters};

use crate::screens::{
    CannotRow, Choice, Frame, Here as HereShown, LISTED, Message, Screen, listed,
};
use crate::seen::Device;
use crate::words::{self, capital};
use motilis_core::book::{Outing, OutingId, WaterBody};
use motilis_helm::{Book, Cannot, Error, Here, Mend, zone};
use std::collections::HashMap;

/// The frame around a screen.
pub(crate) fn frame(here: Option<&Here>, screen: Screen, device: Device, path: &str) -> Frame {
    Frame {
        screen,
        theme: device.theme,
        system: device.system,
        here: here.map_or_else(HereShown::default, |here| where_and_when(here, device)),
        path: path.to_owned(),
        page: device.page,
        file: device.file,
        role: device.role,
    }
}

/// The frame around a screen that needs no outing.
pub(crate) fn bare_frame(
    book: &Book<'_>,
    screen: Screen,
    device: Device,
    path: &str,
) -> Result<Frame, Error> {
    Ok(frame(book.here_if_any()?, screen, device, path))
}

/// The frame around a page that asks nothing of the book.
pub fn frame_without_book(device: Device, path: &str) -> Frame {
    frame(None, Screen::None, device, path)
}

/// The frame around a part's own page.
///
/// # Errors
/// [`Error::Store`].
pub fn box_frame(book: &Book<'_>, device: Device) -> Result<Frame, Error> {
    bare_frame(book, Screen::Box, device, "/box")
}

fn where_and_when(here: &Here, device: Device) -> HereShown {
    let started = here.local(here.outing.started);
    let temperature = device.system.temperature(here.outing.temperature);
    HereShown {
        water: here.water.name.clone(),
        when: format!("{}, {temperature}", started.strftime("%a %-d %B")),
        river: here.water.river,
    }
}

/// A page that says one thing.
pub fn message(
    device: Device,
    head: &str,
    sentence: String,
    door: Option<(String, &'static str)>,
) -> Message {
    Message {
        frame: frame_without_book(device, "/today"),
        head: head.to_owned(),
        sentence,
        door: door.unwrap_or_else(|| ("/today".to_owned(), "Go to Today")),
        others: None,
    }
}

/// The outings to choose from: the latest, and the one that is open.
pub(crate) fn recent_outings(here: &Here) -> Vec<Choice> {
    let all = here.outings.iter().enumerate();
    let shown = all.filter(|(place, (id, _))| *place < LISTED || *id == here.id);
    outings_said(here, shown.map(|(_, outing)| outing))
}

/// Every outing.
pub fn outing_choices(here: &Here) -> Vec<Choice> {
    outings_said(here, here.outings.iter())
}

fn outings_said<'a>(
    here: &Here,
    outings: impl Iterator<Item = &'a (OutingId, Outing)>,
) -> Vec<Choice> {
    let names: HashMap<i64, &WaterBody> = here
        .waters
        .iter()
        .map(|(id, water)| (id.0, water))
        .collect();
    let said = outings.map(|(id, outing)| {
        let water = names.get(&outing.water.0).copied().unwrap_or(&here.water);
        let day = outing.started.to_zoned_datetime(zone(water));
        Choice {
            value: id.0.to_string(),
            label: format!("{}, {}", day.strftime("%a %-d %b %Y"), water.name),
            chosen: *id == here.id,
        }
    });
    said.collect()
}

/// A list to choose from by number.
pub(crate) fn choices<'a>(
    all: impl Iterator<Item = (i64, &'a str)>,
    chosen: Option<i64>,
) -> Vec<Choice> {
    let all = all.map(|(id, label)| Choice {
        value: id.to_string(),
        label: label.to_owned(),
        chosen: Some(id) == chosen,
    });
    listed(all.collect())
}

/// A stored thing that cannot run, with the door to where it is mended.
pub(crate) fn cannot_row(cannot: &Cannot) -> CannotRow {
    let (address, mend) = mend_door(cannot.mend);
    CannotRow {
        name: cannot.name.clone(),
        sentence: format!("{}.", capital(&cannot.why.to_string())),
        address,
        mend,
    }
}

/// Where a thing is mended, and what the door there says.
pub fn mend_door(mend: Mend) -> (String, &'static str) {
    match mend {
        Mend::Bench(rig) => (format!("/bench/{}", rig.0), "Open it on the bench"),
        Mend::Setup(setup) => (format!("/setups/{}", setup.0), "Change the line set-up"),
        Mend::Conditions(_) => ("/today".to_owned(), "Change the conditions"),
    }
}

/// The class of a finish.
pub(crate) fn finish_class(colour: motilis_core::rig::Colour) -> String {
    blades::colour(colour)
}

/// What is said of a refusal, as a page of its own.
pub fn refusal_sentence(refusal: &motilis_helm::Refusal) -> String {
    words::refusal(refusal)
}
