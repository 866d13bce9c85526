//! Rigs with their parts in threading order.

use crate::Error;
use crate::row::{found, keyed, unreadable};
use motilis_core::blade::{Blade, Family};
use motilis_core::book::{OwnedRig, RigId, SetupId};
use motilis_core::rig::{
    Bait, BeadMaterial, Colour, Dressing, Finish, Hook, HookSize, HookStyle, Kind, Mount, Part, Rig,
};
use motilis_core::units::{Kilograms, KilogramsPerCubicMetre, Metres, NewtonMetres};
use rusqlite::{Connection, Row, named_params};

/// Adds a rig.
///
/// # Errors
/// [`Error::Sqlite`] when a figure is out of its range or the set-up does not exist.
pub fn add(connection: &Connection, owned: &OwnedRig) -> Result<RigId, Error> {
    let rig = &owned.rig;
    let (mount, diameter) = match rig.mount {
        Mount::Wire(diameter) => ("wire", diameter),
        Mount::Leader(diameter) => ("leader", diameter),
    };
    connection.execute(
        "INSERT INTO rigs (name, kind, mount, mount_diameter_m, observed_moment_nm, setup_id)
         VALUES (:name, :kind, :mount, :mount_diameter_m, :observed_moment_nm, :setup_id)",
        named_params! {
            ":name": rig.name,
            ":kind": rig.kind.key(),
            ":mount": mount,
            ":mount_diameter_m": diameter.0,
            ":observed_moment_nm": rig.observed_moment.map(|moment| moment.0),
            ":setup_id": owned.setup.0,
        },
    )?;
    let id = RigId(connection.last_insert_rowid());
    for (place, part) in rig.parts().iter().enumerate() {
        add_part(connection, id, place, part)?;
    }
    Ok(id)
}

/// Every rig, by name.
///
/// # Errors
/// [`Error::Unreadable`] for a rig whose parts make no rig.
pub fn all(connection: &Connection) -> Result<Vec<(RigId, OwnedRig)>, Error> {
    let mut statement = connection
        .prepare_cached("SELECT * FROM rigs WHERE deleted_utc_s IS NULL ORDER BY name")?;
    let heads = statement
        .query_map([], read_head)?
        .collect::<Result<Vec<_>, _>>()?;
    heads
        .into_iter()
        .map(|head| head.with_parts(connection))
        .collect()
}

/// One rig, deleted or not: old events still name it.
///
/// # Errors
/// [`Error::Missing`], [`Error::Unreadable`].
pub fn get(connection: &Connection, id: RigId) -> Result<OwnedRig, Error> {
    let mut statement = connection.prepare_cached("SELECT * FROM rigs WHERE id = ?1")?;
    let head = found(statement.query_row([id.0], read_head), "rig", id.0)?;
    Ok(head.with_parts(connection)?.1)
}

/// A rig's row, before its parts are read.
struct Head {
    id: RigId,
    name: String,
    kind: Kind,
    mount: Mount,
    observed_moment: Option<NewtonMetres>,
    setup: SetupId,
}

impl Head {
    fn with_parts(self, connection: &Connection) -> Result<(RigId, OwnedRig), Error> {
        let mut statement = connection
            .prepare_cached("SELECT * FROM rig_parts WHERE rig_id = ?1 ORDER BY place")?;
        let parts = statement
            .query_map([self.id.0], read_part)?
            .collect::<Result<Vec<_>, _>>()?;
        let mut rig = Rig::new(self.name, self.kind, self.mount, parts).map_err(|error| {
            Error::Unreadable {
                what: "rig",
                id: self.id.0,
                why: error.to_string(),
            }
        })?;
        rig.observed_moment = self.observed_moment;
        let setup = self.setup;
        Ok((self.id, OwnedRig { rig, setup }))
    }
}

fn read_head(row: &Row<'_>) -> rusqlite::Result<Head> {
    let diameter = Metres(row.get("mount_diameter_m")?);
    Ok(Head {
        id: RigId(row.get("id")?),
        name: row.get("name")?,
        kind: keyed(row, "kind", Kind::from_key)?,
        mount: if row.get::<_, String>("mount")? == "wire" {
            Mount::Wire(diameter)
        } else {
            Mount::Leader(diameter)
        },
        observed_moment: row
            .get::<_, Option<f64>>("observed_moment_nm")?
            .map(NewtonMetres),
        setup: SetupId(row.get("setup_id")?),
    })
}

/// The columns of `rig_parts`, of which each kind of part fills its own.
#[derive(Default)]
struct Columns {
    part: &'static str,
    style: Option<&'static str>,
    colour: Option<&'static str>,
    hammered: Option<bool>,
    count: Option<u8>,
    size_code: Option<i8>,
    length_m: Option<f64>,
    width_m: Option<f64>,
    thickness_m: Option<f64>,
    diameter_m: Option<f64>,
    density_kg_m3: Option<f64>,
    mass_kg: Option<f64>,
    bend: Option<f64>,
}

impl From<&Part> for Columns {
    fn from(part: &Part) -> Self {
        let empty = Self::default();
        match *part {
            Part::Swivel { ball_bearing } => Self {
                part: "swivel",
                style: Some(if ball_bearing {
                    "ball_bearing"
                } else {
                    "barrel"
                }),
                ..empty
            },
            Part::Blade {
                blade,
                finish,
                bend,
            } => Self {
                part: "blade",
                style: Some(blade.family.key()),
                colour: Some(finish.colour.key()),
                hammered: Some(finish.hammered),
                length_m: Some(blade.length.0),
                width_m: Some(blade.width.0),
                thickness_m: Some(blade.thickness.0),
                density_kg_m3: Some(blade.density.0),
                bend,
                ..empty
            },
            Part::Beads {
                count,
                diameter,
                material,
                colour,
            } => Self {
                part: "beads",
                style: Some(material.key()),
                colour: Some(colour.key()),
                count: Some(count),
                diameter_m: Some(diameter.0),
                ..empty
            },
            Part::Body { mass, diameter } => Self {
                part: "body",
                mass_kg: Some(mass.0),
                diameter_m: Some(diameter.0),
                ..empty
            },
            Part::Dressing { dressing, colour } => Self {
                part: "dressing",
                style: Some(dressing.key()),
                colour: Some(colour.key()),
                ..empty
            },
            Part::Hook(hook) => Self {
                part: "hook",
                style: Some(hook.style.key()),
                size_code: Some(hook.size.code()),
                ..empty
            },
            Part::Bait(bait) => Self {
                part: "bait",
                style: Some(bait.key()),
                ..empty
            },
        }
    }
}

fn add_part(connection: &Connection, rig: RigId, place: usize, part: &Part) -> Result<(), Error> {
    let columns = Columns::from(part);
    connection
        .prepare_cached(
            "INSERT INTO rig_parts (rig_id, place, part, style, colour, hammered, count, size_code,
                 length_m, width_m, thickness_m, diameter_m, density_kg_m3, mass_kg, bend)
             VALUES (:rig_id, :place, :part, :style, :colour, :hammered, :count, :size_code,
                 :length_m, :width_m, :thickness_m, :diameter_m, :density_kg_m3, :mass_kg, :bend)",
        )?
        .execute(named_params! {
            ":rig_id": rig.0,
            ":place": i64::try_from(place).unwrap_or(i64::MAX),
            ":part": columns.part,
            ":style": columns.style,
            ":colour": columns.colour,
            ":hammered": columns.hammered,
            ":count": columns.count,
            ":size_code": columns.size_code,
            ":length_m": columns.length_m,
            ":width_m": columns.width_m,
            ":thickness_m": columns.thickness_m,
            ":diameter_m": columns.diameter_m,
            ":density_kg_m3": columns.density_kg_m3,
            ":mass_kg": columns.mass_kg,
            ":bend": columns.bend,
        })?;
    Ok(())
}

fn read_part(row: &Row<'_>) -> rusqlite::Result<Part> {
    let colour = || keyed(row, "colour", Colour::from_key);
    Ok(match row.get::<_, String>("part")?.as_str() {
        "swivel" => Part::Swivel {
            ball_bearing: row.get::<_, String>("style")? == "ball_bearing",
        },
        "blade" => Part::Blade {
            blade: Blade::new(
                keyed(row, "style", Family::from_key)?,
                Metres(row.get("length_m")?),
                Metres(row.get("width_m")?),
                Metres(row.get("thickness_m")?),
                KilogramsPerCubicMetre(row.get("density_kg_m3")?),
            )
            .map_err(unreadable)?,
            finish: Finish {
                colour: colour()?,
                hammered: row.get("hammered")?,
            },
            bend: row.get("bend")?,
        },
        "beads" => Part::Beads {
            count: row.get("count")?,
            diameter: Metres(row.get("diameter_m")?),
            material: keyed(row, "style", BeadMaterial::from_key)?,
            colour: colour()?,
        },
        "body" => Part::Body {
            mass: Kilograms(row.get("mass_kg")?),
            diameter: Metres(row.get("diameter_m")?),
        },
        "dressing" => Part::Dressing {
            dressing: keyed(row, "style", Dressing::from_key)?,
            colour: colour()?,
        },
        "hook" => Part::Hook(Hook {
            style: keyed(row, "style", HookStyle::from_key)?,
            size: HookSize::from_code(row.get("size_code")?).map_err(unreadable)?,
        }),
        "bait" => Part::Bait(keyed(row, "style", Bait::from_key)?),
        other => return Err(unreadable(format!("part is {other:?}"))),
    })
}
