//! The box: parts with what is left of them.

use crate::Error;
use crate::row::{found, readable, unreadable};
use crate::settings;
use motilis_core::bench::{Stocked, UNCOUNTED};
use motilis_core::blade::Family;
use motilis_core::book::{BoxPart, PartId};
use motilis_core::rig::{Colour, Finish, Material, Measured, Over, Part, What};
use motilis_core::tackle::LineStock;
use motilis_core::units::{GRAM, INCH, Kilograms, MILLIMETRE, Metres};
use rusqlite::types::ValueRef;
use rusqlite::{Connection, Row, named_params};

/// Adds a part to the box.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range.
pub fn add(connection: &Connection, boxed: &BoxPart) -> Result<PartId, Error> {
    put(connection, None, boxed)?;
    Ok(PartId(connection.last_insert_rowid()))
}

/// Puts another record in a part's place; rigs that use it follow.
///
/// # Errors
/// [`Error::Missing`].
pub fn update(connection: &Connection, id: PartId, boxed: &BoxPart) -> Result<(), Error> {
    get(connection, id)?;
    put(connection, Some(id), boxed)
}

fn put(connection: &Connection, id: Option<PartId>, boxed: &BoxPart) -> Result<(), Error> {
    let (group, style) = boxed.part.what().keys();
    let own = boxed.part.own_figures();
    let metres = |length: Option<Metres>| length.map(|length| length.0);
    connection
        .prepare_cached(
            "INSERT OR REPLACE INTO parts (id, part, style, size, material, colour, hammered,
                 back_colour, back_hammered, length_m, width_m, thickness_m, diameter_m, bore_m,
                 mass_kg, left_count, low_count, unit_cost, place, cover, back_cover, size_name)
             VALUES (:id, :part, :style, :size, :material, :colour, :hammered,
                 :back_colour, :back_hammered, :length_m, :width_m, :thickness_m, :diameter_m, :bore_m,
                 :mass_kg, :left_count, :low_count, :unit_cost, :place, :cover, :back_cover,
                 :size_name)",
        )?
        .execute(named_params! {
            ":id": id.map(|id| id.0),
            ":part": group,
            ":style": style,
            ":size": boxed.part.size(),
            ":material": boxed.part.material.key(),
            ":colour": boxed.part.finish.colour.key(),
            ":hammered": boxed.part.finish.hammered,
            ":back_colour": boxed.part.back.map(|back| back.colour.key()),
            ":back_hammered": boxed.part.back.map(|back| back.hammered),
            ":length_m": metres(own.length),
            ":width_m": metres(own.width),
            ":thickness_m": metres(own.thickness),
            ":diameter_m": metres(own.diameter),
            ":bore_m": metres(own.bore),
            ":mass_kg": own.mass.map(|mass| mass.0),
            ":left_count": boxed.left,
            ":low_count": boxed.low,
            ":unit_cost": boxed.unit_cost,
            ":place": boxed.place,
            ":cover": boxed.part.finish.over.map(Over::key),
            ":back_cover": boxed.part.back.and_then(|back| back.over).map(Over::key),
            ":size_name": boxed.size_name,
        })?;
    Ok(())
}

/// The number of a part that looks and measures like another; added with nothing left if there is none.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn intern(connection: &Connection, part: &Part) -> Result<PartId, Error> {
    let same = all(connection)?
        .into_iter()
        .find(|(_, boxed)| boxed.part == *part);
    if let Some((id, _)) = same {
        return Ok(id);
    }
    add(connection, &BoxPart::none_left(*part))
}

/// Every part, in the order of the trays.
///
/// # Errors
/// [`Error::Unreadable`] for a row that holds no part.
pub fn all(connection: &Connection) -> Result<Vec<(PartId, BoxPart)>, Error> {
    let mut statement = connection.prepare_cached(&format!(
        "SELECT {COLUMNS}, id FROM parts WHERE deleted_utc_s IS NULL"
    ))?;
    let rows = statement.query_map([], |row| {
        let at: (String, Option<String>, Option<f64>) = (row.get(0)?, row.get(1)?, row.get(2)?);
        Ok((at, (PartId(row.get(AFTER)?), read(row)?)))
    })?;
    let mut placed = readable(rows)?;
    // SQLite would carry whole rows through its sorter.
    placed.sort_unstable_by(|((part, style, size), (id, _)), (other, (other_id, _))| {
        let size = || size.map_or(f64::NEG_INFINITY, |size| size);
        let other_size = || other.2.map_or(f64::NEG_INFINITY, |size| size);
        (part, style)
            .cmp(&(&other.0, &other.1))
            .then_with(|| size().total_cmp(&other_size()))
            .then_with(|| id.cmp(other_id))
    });
    Ok(placed.into_iter().map(|(_, kept)| kept).collect())
}

/// Every part with what is left, as the bench asks for it: plenty of each where no count is kept.
///
/// # Errors
/// As [`all`].
pub fn stocked(connection: &Connection) -> Result<Vec<Stocked>, Error> {
    Ok(as_kept(connection)?
        .into_iter()
        .map(|(id, boxed)| Stocked {
            id,
            part: boxed.part,
            left: boxed.left,
        })
        .collect())
}

/// Every part, with plenty left of it where no count is kept.
///
/// # Errors
/// As [`all`].
pub fn as_kept(connection: &Connection) -> Result<Vec<(PartId, BoxPart)>, Error> {
    let mut parts = all(connection)?;
    if !is_counted(connection)? {
        for (_, boxed) in &mut parts {
            boxed.left = UNCOUNTED;
        }
    }
    Ok(parts)
}

/// Whether a count of the parts is kept; it is, until somebody says otherwise.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn is_counted(connection: &Connection) -> Result<bool, Error> {
    Ok(settings::get(connection, "count")?.is_none_or(|kept| kept != "no"))
}

/// Keeps a count from now on, or none.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn keep_count(connection: &Connection, kept: bool) -> Result<(), Error> {
    settings::set(connection, "count", if kept { "yes" } else { "no" })
}

/// One part, deleted or not: rigs still name it.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: PartId) -> Result<BoxPart, Error> {
    let mut statement =
        connection.prepare_cached(&format!("SELECT {COLUMNS} FROM parts WHERE id = ?1"))?;
    found(statement.query_row([id.0], read), "part", id.0)
}

/// Takes a part in as a file brings it: without a number as a new one, else under that number, in
/// place of the part that has it.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range.
pub fn import(connection: &Connection, id: Option<PartId>, boxed: &BoxPart) -> Result<(), Error> {
    put(connection, id, boxed)
}

/// Puts the box back to what it was: these parts as they were, every other one thrown away.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn put_back(
    connection: &Connection,
    before: &[(PartId, BoxPart)],
    now: jiff::Timestamp,
) -> Result<(), Error> {
    for (id, _) in all(connection)? {
        if !before.iter().any(|(known, _)| *known == id) {
            crate::trash::throw(connection, crate::trash::Record::Part(id), now)?;
        }
    }
    before
        .iter()
        .try_for_each(|(id, boxed)| put(connection, Some(*id), boxed))
}

/// Changes how many are left of a part.
///
/// # Errors
/// [`Error::Sqlite`] when less than nothing would be left.
pub(crate) fn change_left(connection: &Connection, id: PartId, by: f64) -> Result<(), Error> {
    connection
        .prepare_cached(
            // Metres of line add up to a hair less than nothing.
            "UPDATE parts SET left_count = CASE WHEN abs(left_count + ?2) < 1e-9 THEN 0
                 ELSE left_count + ?2 END WHERE id = ?1",
        )?
        .execute((id.0, by))?;
    Ok(())
}

/// The columns of a part, to stand first in a query: [`read`] takes them by their place, which is several
/// times faster than by name.
pub(crate) const COLUMNS: &str = "parts.part, parts.style, parts.size, parts.material, parts.colour,
    parts.hammered, parts.back_colour, parts.back_hammered, parts.length_m, parts.width_m,
    parts.thickness_m, parts.diameter_m, parts.bore_m, parts.mass_kg, parts.left_count, parts.low_count,
    parts.unit_cost, parts.place, parts.cover, parts.back_cover, parts.size_name";

/// The place of the first column behind [`COLUMNS`].
pub(crate) const AFTER: usize = 21;

/// A part out of [`COLUMNS`].
pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<BoxPart> {
    let metres = |column: usize| row.get::<_, Option<f64>>(column).map(|m| m.map(Metres));
    let text = |column: usize| row.get_ref(column)?.as_str().map_err(unreadable);
    let known = |column: usize, what: &str| unreadable(format!("{what} is {:?}", text(column)));
    let what = What::from_keys(text(0)?, text(1)?)
        .ok_or_else(|| unreadable(format!("part is {:?} {:?}", text(0), text(1))))?;
    let material = Material::from_key(text(3)?).ok_or_else(|| known(3, "material"))?;
    let colour = Colour::from_key(text(4)?).ok_or_else(|| known(4, "colour"))?;
    let cover = |column: usize, what: &str| match row.get_ref(column)? {
        ValueRef::Null => Ok(None),
        _ => Over::from_key(text(column)?)
            .map(Some)
            .ok_or_else(|| known(column, what)),
    };
    let back = match row.get_ref(6)? {
        ValueRef::Null => None,
        _ => Some(Finish {
            colour: Colour::from_key(text(6)?).ok_or_else(|| known(6, "back_colour"))?,
            hammered: row.get::<_, Option<bool>>(7)?.unwrap_or_default(),
            over: cover(19, "back_cover")?,
        }),
    };
    let measured = Measured {
        length: metres(8)?,
        width: metres(9)?,
        thickness: metres(10)?,
        diameter: metres(11)?,
        bore: metres(12)?,
        mass: row.get::<_, Option<f64>>(13)?.map(Kilograms),
    };
    let size = match row.get(2)? {
        Some(size) => size,
        None => size_of(what, &measured),
    };
    let finish = Finish {
        colour,
        hammered: row.get(5)?,
        over: cover(18, "cover")?,
    };
    let part = Part::new(what, size, finish)
        .and_then(|part| part.measured(measured))
        .map_err(unreadable)?
        .of(material)
        .backed(back);
    Ok(BoxPart {
        part,
        left: row.get(14)?,
        low: row.get(15)?,
        unit_cost: row.get(16)?,
        place: row.get(17)?,
        size_name: row.get(20)?,
    })
}

/// The trade's size that measured figures of the first slice come nearest to.
fn size_of(what: What, measured: &Measured) -> f64 {
    let diameter = measured.diameter.unwrap_or(MILLIMETRE);
    match what {
        What::Blade(family) => measured.length.map_or_else(
            || Family::numbers(family)[0],
            |length| family.number_near(length),
        ),
        What::Body(_) => measured.mass.map_or(4.0, |mass| mass / GRAM),
        What::Wire => diameter / INCH * 1e3,
        What::Line(material) => LineStock::catalogue()
            .filter(|stock| stock.material == material)
            .min_by(|a, b| {
                let off = |stock: &LineStock| (stock.diameter - diameter).0.abs();
                off(a).total_cmp(&off(b))
            })
            .map_or(10.0, |stock| f64::from(stock.test_lb)),
        _ => what.sizes()[0],
    }
}
