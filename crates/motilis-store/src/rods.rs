//! The rods of an outing, with what they carry.

use crate::Error;
use crate::row::{line_stock, readable, unreadable};
use crate::spreads::{read_rod, tackle_columns};
use motilis_core::book::{BoatRod, OutingId};
use rusqlite::{Connection, Row, named_params};

/// Puts a rod in its place; the one of its number gives way.
///
/// # Errors
/// [`Error::Sqlite`] when the outing, what it carries or its set-up do not exist.
pub fn put(connection: &Connection, outing: OutingId, boat: &BoatRod) -> Result<(), Error> {
    let rod = &boat.rod;
    let (rig, lure) = tackle_columns(rod.tackle);
    connection.execute(
        "INSERT INTO rods (outing_id, number, holder, rod, rod_m, board_m, above_m, rig_id, lure_id, setup_id,
             main_material, main_test_lb, main_diameter_m, weight_kg, lead_m, out_m, wanted_m, bait, away)
         VALUES (:outing_id, :number, :holder, :rod, :rod_m, :board_m, :above_m, :rig_id, :lure_id, :setup_id,
             :main_material, :main_test_lb, :main_diameter_m, :weight_kg, :lead_m, :out_m, :wanted_m, :bait, :away)
         ON CONFLICT (outing_id, number) DO UPDATE SET holder = excluded.holder, rod = excluded.rod,
             rod_m = excluded.rod_m, board_m = excluded.board_m, above_m = excluded.above_m,
             rig_id = excluded.rig_id, lure_id = excluded.lure_id, setup_id = excluded.setup_id,
             main_material = excluded.main_material, main_test_lb = excluded.main_test_lb,
             main_diameter_m = excluded.main_diameter_m, weight_kg = excluded.weight_kg,
             lead_m = excluded.lead_m, out_m = excluded.out_m, wanted_m = excluded.wanted_m,
             bait = excluded.bait, away = excluded.away",
        named_params! {
            ":outing_id": outing.0,
            ":number": boat.number,
            ":holder": rod.holder.to_string(),
            ":rod": rod.stance.key(),
            ":rod_m": rod.length.0,
            ":board_m": rod.board.map(|board| board.0),
            ":above_m": rod.above.map(|above| above.0),
            ":rig_id": rig,
            ":lure_id": lure,
            ":setup_id": rod.setup.0,
            ":main_material": boat.main.map(|main| main.material.key()),
            ":main_test_lb": boat.main.map(|main| main.test_lb),
            ":main_diameter_m": boat.main.map(|main| main.diameter.0),
            ":weight_kg": rod.weight.map(|mass| mass.0),
            ":lead_m": rod.lead.0,
            ":out_m": rod.out.0,
            ":wanted_m": rod.wanted.0,
            ":bait": boat.bait,
            ":away": boat.away,
        },
    )?;
    Ok(())
}

/// Takes every rod off an outing.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn clear(connection: &Connection, outing: OutingId) -> Result<(), Error> {
    connection.execute("DELETE FROM rods WHERE outing_id = ?1", [outing.0])?;
    Ok(())
}

/// The rods of an outing, by number.
///
/// # Errors
/// [`Error::Sqlite`].
pub fn of_outing(connection: &Connection, outing: OutingId) -> Result<Vec<BoatRod>, Error> {
    let mut statement =
        connection.prepare_cached("SELECT * FROM rods WHERE outing_id = ?1 ORDER BY number")?;
    readable(statement.query_map([outing.0], read)?)
}

pub(crate) fn read(row: &Row<'_>) -> rusqlite::Result<BoatRod> {
    let main = match row.get::<_, Option<String>>("main_material")? {
        None => None,
        Some(_) => Some(line_stock(row, "main")?),
    };
    Ok(BoatRod {
        number: row
            .get::<_, i64>("number")?
            .try_into()
            .map_err(unreadable)?,
        rod: read_rod(row)?,
        main,
        bait: row.get("bait")?,
        away: row.get("away")?,
    })
}
