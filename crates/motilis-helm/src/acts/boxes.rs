use super::{Doing, Made};
use jiff::Timestamp;
use motilis_core::book::{BoxPart, DeedId, MadeId, MadeState, PartId};
use motilis_formats::{Format, read, write};
use motilis_store::{Connection, made, parts, settings};

/// A change of the box.
#[derive(Debug, Clone, PartialEq)]
pub enum BoxAct {
    /// A new part.
    Add(Box<BoxPart>),
    /// A part as it really is.
    Change(PartId, Box<BoxPart>),
    /// So many are left of a part.
    Count(PartId, f64),
    /// Whether a count of the parts is kept.
    KeepCount(bool),
    /// What money is counted in; empty for nothing said.
    CountIn(String),
    /// What a made-up rig is fit for, and where it lies.
    State(MadeId, MadeState, String),
    /// A made-up rig is taken apart.
    Dismantle(MadeId),
    /// A made-up rig is lost; this came back.
    BreakOff(MadeId, Vec<(PartId, f64)>),
    /// A deed is undone; what it brought may have been used, then nothing is.
    Undo(DeedId),
    /// The parts of a file go in.
    Import(Vec<(Option<PartId>, BoxPart)>),
    /// The box as it was before the last import; nothing when that is not kept any more.
    UndoImport,
}

/// The setting that keeps the box as it was before the last import.
const BEFORE: &str = "box_before_import";
/// The setting that says which parts came in then.
pub const LAST_CAME: &str = "box_came_in";

impl BoxAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let (connection, now) = (doing.book.connection(), doing.now);
        match self {
            Self::Add(boxed) => Ok(Some(parts::add(connection, &boxed)?.0)),
            Self::Change(id, boxed) => {
                parts::update(connection, id, &boxed)?;
                Ok(Some(id.0))
            }
            Self::Count(id, left) => Ok(Some(made::count(connection, id, left, now)?.0)),
            Self::KeepCount(kept) => {
                parts::keep_count(connection, kept)?;
                Ok(None)
            }
            Self::CountIn(currency) => {
                settings::set(connection, "currency", &currency)?;
                Ok(None)
            }
            Self::State(id, state, place) => {
                made::set_state(connection, id, state, &place)?;
                Ok(Some(id.0))
            }
            Self::Dismantle(id) => Ok(Some(made::dismantle(connection, id, now)?.0)),
            Self::BreakOff(id, back) => Ok(Some(made::break_off(connection, id, &back, now)?.0)),
            Self::Undo(deed) => Ok(made::undo(connection, deed)?.then_some(deed.0)),
            Self::Import(records) => import(connection, &records),
            Self::UndoImport => undo_import(connection, now),
        }
    }
}

/// Every part into the box, one without a number onto its equal there; what was there before is kept aside.
fn import(connection: &Connection, records: &[(Option<PartId>, BoxPart)]) -> Made {
    let mut known = parts::all(connection)?;
    settings::set(connection, BEFORE, &write(&known, Format::Json))?;
    let mut came = Vec::new();
    for (id, boxed) in records {
        let twin = known.iter().position(|(_, lies)| lies.is_alike(boxed));
        match (id, twin) {
            (None, Some(twin)) => {
                let (id, lies) = &mut known[twin];
                *lies = lies.with(boxed);
                parts::import(connection, Some(*id), lies)?;
                came.push(id.0);
            }
            (None, None) => {
                let id = parts::add(connection, boxed)?;
                known.push((id, boxed.clone()));
                came.push(id.0);
            }
            (Some(id), _) => {
                parts::import(connection, Some(*id), boxed)?;
                came.push(id.0);
            }
        }
    }
    let came: Vec<String> = came.iter().map(i64::to_string).collect();
    settings::set(connection, LAST_CAME, &came.join(","))?;
    Ok(i64::try_from(came.len()).ok())
}

fn undo_import(connection: &Connection, now: Timestamp) -> Made {
    let kept = settings::get(connection, BEFORE)?.unwrap_or_default();
    let Ok(reading) = read(kept.as_bytes(), Format::Json) else {
        return Ok(None);
    };
    let records = reading.records.into_iter();
    let before: Vec<(PartId, BoxPart)> = records
        .filter_map(|record| Some((record.id?, record.part.ok()?)))
        .collect();
    parts::put_back(connection, &before, now)?;
    settings::set(connection, BEFORE, "")?;
    Ok(i64::try_from(before.len()).ok())
}
