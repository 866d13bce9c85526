use super::outing::begin;
use super::{Doing, Made};
use crate::boat::setting_of;
use crate::error::{Error, Refusal};
use motilis_core::book::FishMark;
use motilis_core::fields;
use motilis_core::units::Metres;
use motilis_store::{Connection, fish_marks, outings, settings};

/// A change of the boat under way and its instruments.
#[derive(Debug, Clone, PartialEq)]
pub enum BoatAct {
    /// The instruments are heard there; empty is nowhere.
    Wire(String),
    /// Line that a turn of the reel lets out; none is not known any more.
    Reel(Option<Metres>),
    /// The current, m/s to the north and east; none is what the legs tell.
    Current(Option<[f64; 2]>),
    /// A fish is seen on the sounder, so deep, where the boat is.
    Mark(Metres),
    /// A practice trip on a simulated lake begins, on such a wire.
    Practice(String),
    /// The open practice trip is over; how it went.
    PracticeOver(String),
}

/// Practice is over, in whatever way its outing is left: the instruments are heard where they were before.
pub(super) fn leave_practice(connection: &Connection) -> Result<(), Error> {
    if let Some(before) = settings::get(connection, setting_of::WIRE_BEFORE)? {
        settings::set(connection, setting_of::WIRE, &before)?;
        settings::forget(connection, setting_of::WIRE_BEFORE)?;
    }
    Ok(())
}

impl BoatAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let connection = doing.book.connection();
        let put = |name: &str, value: Option<String>| match value {
            Some(value) => settings::set(connection, name, &value),
            None => settings::forget(connection, name),
        };
        match self {
            Self::Wire(wire) => put(setting_of::WIRE, Some(wire))?,
            Self::Reel(reel) => {
                if let Some(reel) = reel {
                    fields::REEL_TURN.check(reel.0).map_err(Refusal::Figure)?;
                }
                put(setting_of::REEL, reel.map(|reel| reel.0.to_string()))?;
            }
            Self::Current(current) => {
                let written = current.map(|[north, east]| format!("{north} {east}"));
                put(setting_of::CURRENT, written)?;
            }
            Self::Mark(depth) => {
                let here = doing.book.here()?;
                let place = doing.book.moment().and_then(|moment| moment.position);
                let mark = FishMark {
                    outing: here.id,
                    place: place.ok_or(Refusal::NoPlace)?,
                    depth,
                    at: doing.at,
                };
                mark.check().map_err(Refusal::Figure)?;
                return Ok(Some(fish_marks::add(connection, &mark)?.0));
            }
            Self::Practice(wire) => {
                let made = begin(doing, None)?;
                let before = settings::get(connection, setting_of::WIRE)?.unwrap_or_default();
                if let Some(id) = made {
                    outings::set_practice(connection, motilis_core::book::OutingId(id))?;
                }
                put(setting_of::WIRE_BEFORE, Some(before))?;
                put(setting_of::WIRE, Some(wire))?;
                return Ok(made);
            }
            Self::PracticeOver(score) => {
                let here = doing.book.here()?;
                if !outings::is_practice(connection, here.id)? {
                    return Err(Refusal::NoPractice.into());
                }
                let name = format!("{}{}", setting_of::SCORE, here.id.0);
                put(&name, Some(score))?;
                return super::OutingAct::End(Some(doing.at)).done(doing);
            }
        }
        Ok(None)
    }
}
