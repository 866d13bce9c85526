use super::boat::leave_practice;
use super::log::{set_out, take_in};
use super::{Doing, Made};
use crate::aboard::Aboard;
use crate::book::Book;
use crate::error::{Error, Refusal};
use jiff::Timestamp;
use motilis_core::advice::Mark;
use motilis_core::book::{Outing, OutingId, RigId, TemperatureReading, WaterId, check_clock};
use motilis_core::evidence::LONGEST;
use motilis_core::units::Metres;
use motilis_store::{Connection, outings, passes, readings, rigs, rods, settings, waters};

/// A change of outings and their conditions.
#[derive(Debug, Clone, PartialEq)]
pub enum OutingAct {
    /// A new one from now on, on a water or on that of the open one, with the conditions of the last one there.
    Begin(Option<WaterId>),
    /// Another one is opened.
    Open(OutingId),
    /// The conditions of the open one.
    Set(Box<Outing>),
    /// What was carried over to the open one holds.
    Confirm,
    /// The open one ended then, or its end is not known after all.
    End(Option<Timestamp>),
    /// The clarity of the open one.
    Clarity(Metres),
    /// A temperature was read on it.
    Read(Box<TemperatureReading>),
    /// What is said of a rig on its call sheet.
    Mark(RigId, Option<Mark>),
}

impl OutingAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let (book, connection) = (doing.book, doing.book.connection());
        match self {
            Self::Begin(water) => begin(doing, water),
            Self::Open(id) => {
                outings::get(connection, id)?;
                leave_practice(connection)?;
                open(connection, id)?;
                Ok(Some(id.0))
            }
            Self::Set(outing) => {
                outing.check().map_err(Refusal::Figure)?;
                waters::get(connection, outing.water)?;
                let here = book.here()?;
                outings::update(connection, here.id, &outing)?;
                let still = |name: &String| !differ(&here.outing, &outing).contains(&name.as_str());
                let carried: Vec<String> = here
                    .carried
                    .iter()
                    .filter(|name| still(name))
                    .cloned()
                    .collect();
                outings::set_carried(connection, here.id, &carried)?;
                Ok(Some(here.id.0))
            }
            Self::Confirm => {
                let id = book.here()?.id;
                outings::set_carried(connection, id, &[])?;
                Ok(Some(id.0))
            }
            Self::End(ended) => {
                if ended.is_some() {
                    leave_practice(connection)?;
                    let here = book.here()?;
                    for (id, pass) in passes::of_outing(connection, here.id)? {
                        if pass.is_open() {
                            let to = Some(doing.at.max(pass.from));
                            passes::set_hours(connection, id, pass.from, to)?;
                        }
                    }
                }
                change(doing, |outing| outing.ended = ended)
            }
            Self::Clarity(clarity) => change(doing, |outing| outing.clarity = clarity),
            Self::Read(reading) => {
                reading.check().map_err(Refusal::Figure)?;
                outings::get(connection, reading.outing)?;
                Ok(Some(readings::add(connection, &reading)?.0))
            }
            Self::Mark(rig, mark) => {
                rigs::name(connection, rig)?;
                outings::set_mark(connection, book.here()?.id, rig, mark)?;
                Ok(Some(rig.0))
            }
        }
    }
}

/// A condition by its name in the form, and whether two outings have it alike.
type Condition = (&'static str, fn(&Outing, &Outing) -> bool);

/// What an outing takes over from the last one on its water.
const CARRIED: [Condition; 12] = [
    ("temperature", |a, b| a.temperature == b.temperature),
    ("clarity", |a, b| a.clarity == b.clarity),
    ("wanted_depth", |a, b| a.wanted_depth == b.wanted_depth),
    ("stain", |a, b| a.stain == b.stain),
    ("sky", |a, b| a.sky == b.sky),
    ("wind", |a, b| a.wind == b.wind),
    ("bottom", |a, b| a.bottom == b.bottom),
    ("fish_from", |a, b| a.fish_depth.0 == b.fish_depth.0),
    ("fish_to", |a, b| a.fish_depth.1 == b.fish_depth.1),
    ("mood", |a, b| a.mood == b.mood),
    ("forage", |a, b| a.forage == b.forage),
    ("thermocline", |a, b| a.thermocline == b.thermocline),
];

/// Names of the conditions in which two outings differ.
fn differ(a: &Outing, b: &Outing) -> Vec<&'static str> {
    let differing = CARRIED.iter().filter(|(_, same)| !same(a, b));
    differing.map(|(name, _)| *name).collect()
}

fn change(doing: &Doing<'_, '_>, how: impl FnOnce(&mut Outing)) -> Made {
    let here = doing.book.here()?;
    let mut outing = here.outing.clone();
    how(&mut outing);
    outing.check().map_err(Refusal::Figure)?;
    outings::update(doing.book.connection(), here.id, &outing)?;
    let changed = differ(&here.outing, &outing);
    let still = here
        .carried
        .iter()
        .filter(|name| !changed.contains(&name.as_str()));
    let still: Vec<String> = still.cloned().collect();
    outings::set_carried(doing.book.connection(), here.id, &still)?;
    Ok(Some(here.id.0))
}

pub(super) fn begin(doing: &Doing<'_, '_>, asked: Option<WaterId>) -> Made {
    let (book, connection) = (doing.book, doing.book.connection());
    check_clock("started", doing.at).map_err(Refusal::Clock)?;
    leave_practice(connection)?;
    let open = book.here_if_any()?;
    let id = asked
        .or(open.map(|here| here.outing.water))
        .ok_or(Refusal::NoWater)?;
    let water = waters::get(connection, id)?;
    let last = open.and_then(|here| {
        let on_it = |outing: &&Outing| outing.water == id;
        // The open one first: it is what the angler was looking at.
        let others = here.outings.iter().map(|(_, outing)| outing);
        std::iter::once(&here.outing).chain(others).find(on_it)
    });
    let outing = match last {
        Some(last) => Outing {
            started: doing.at,
            ended: None,
            ..last.clone()
        },
        None => Outing::first_on(id, &water, doing.at),
    };
    let new = outings::add(connection, &outing)?;
    if last.is_some() {
        let carried: Vec<String> = CARRIED.iter().map(|(name, _)| (*name).to_owned()).collect();
        outings::set_carried(connection, new, &carried)?;
    }
    // Trolling rods stay at home where one casts.
    let rods = match open {
        Some(here) if here.water.river == water.river => Aboard::all(book)?,
        Some(_) | None => Vec::new(),
    };
    // An outing that was left open days ago has nothing in the water any more.
    let goes_on = open.is_some_and(|here| {
        here.outing.ended.is_none() && doing.at.duration_since(here.outing.started) < LONGEST
    });
    self::open(connection, new)?;
    // What fished goes on fishing, on the new outing; the book is looked into anew, for another outing is open.
    let book = Book::new(connection);
    let doing = &Doing {
        book: &book,
        ..*doing
    };
    for aboard in rods {
        take_in(doing, &aboard)?;
        rods::put(connection, new, &aboard.boat)?;
        if aboard.fishes() && goes_on {
            set_out(doing, Aboard::of(&book, aboard.boat, None)?)?;
        }
    }
    Ok(Some(new.0))
}

pub(super) fn open(connection: &Connection, id: OutingId) -> Result<(), Error> {
    Ok(settings::set(connection, "open_outing", &id.0.to_string())?)
}
