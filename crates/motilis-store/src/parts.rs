//! The box: parts with what is left of them.

use crate::Error;
use crate::row::{found, keyed, unreadable};
use motilis_core::bench::Stocked;
use motilis_core::blade::Family;
use motilis_core::book::{BoxPart, PartId};
use motilis_core::rig::{Colour, Finish, Material, Measured, Part, What};
use motilis_core::tackle::LineStock;
use motilis_core::units::{GRAM, INCH, Kilograms, MILLIMETRE, Metres};
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
                 mass_kg, left_count, low_count, unit_cost, place)
             VALUES (:id, :part, :style, :size, :material, :colour, :hammered,
                 :back_colour, :back_hammered, :length_m, :width_m, :thickness_m, :diameter_m, :bore_m,
                 :mass_kg, :left_count, :low_count, :unit_cost, :place)",
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
    let mut statement = connection.prepare_cached(
        "SELECT * FROM parts WHERE deleted_utc_s IS NULL ORDER BY part, style, size, id",
    )?;
    let rows = statement.query_map([], |row| Ok((PartId(row.get("id")?), read(row)?)))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// Every part with what is left, as the bench asks for it.
///
/// # Errors
/// As [`all`].
pub fn stocked(connection: &Connection) -> Result<Vec<Stocked>, Error> {
    Ok(all(connection)?
        .into_iter()
        .map(|(id, boxed)| Stocked {
            id,
            part: boxed.part,
            left: boxed.left,
        })
        .collect())
}

/// One part, deleted or not: rigs still name it.
///
/// # Errors
/// [`Error::Missing`].
pub fn get(connection: &Connection, id: PartId) -> Result<BoxPart, Error> {
    let mut statement = connection.prepare_cached("SELECT * FROM parts WHERE id = ?1")?;
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

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<BoxPart> {
    let metres = |column: &str| row.get::<_, Option<f64>>(column).map(|m| m.map(Metres));
    let measured = Measured {
        length: metres("length_m")?,
        width: metres("width_m")?,
        thickness: metres("thickness_m")?,
        diameter: metres("diameter_m")?,
        bore: metres("bore_m")?,
        mass: row.get::<_, Option<f64>>("mass_kg")?.map(Kilograms),
    };
    let (group, style): (String, String) = (row.get("part")?, row.get("style")?);
    let what = What::from_keys(&group, &style)
        .ok_or_else(|| unreadable(format!("part is {group:?} {style:?}")))?;
    let size = match row.get("size")? {
        Some(size) => size,
        None => size_of(what, &measured),
    };
    let finish = Finish {
        colour: keyed(row, "colour", Colour::from_key)?,
        hammered: row.get("hammered")?,
    };
    let back = match row.get::<_, Option<String>>("back_colour")? {
        None => None,
        Some(_) => Some(Finish {
            colour: keyed(row, "back_colour", Colour::from_key)?,
            hammered: row
                .get::<_, Option<bool>>("back_hammered")?
                .unwrap_or_default(),
        }),
    };
    let part = Part::new(what, size, finish)
        .and_then(|part| part.measured(measured))
        .map_err(unreadable)?
        .of(keyed(row, "material", Material::from_key)?)
        .backed(back);
    Ok(BoxPart {
        part,
        left: row.get("left_count")?,
        low: row.get("low_count")?,
        unit_cost: row.get("unit_cost")?,
        place: row.get("place")?,
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
