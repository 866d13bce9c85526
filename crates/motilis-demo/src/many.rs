//! The scenario many times over, for measuring what thousands of outings cost.

use motilis_store::{Error, Store};

/// Days between one copy of the season and the one before it: odd, so that week days differ.
const APART_DAYS: i64 = 129;

/// Copies of the season, and how often an entry that is no fish stands in each.
const COPIES: i64 = 33;
const DENSE: i64 = 5;
/// Parts and rigs there are at least.
const PARTS: i64 = 10_000;
const RIGS: i64 = 5_000;

/// Puts copies of every outing, with its passes and entries, before the ones there are, each entry that is no fish some
/// times a minute apart: 2 000 outings and 100 000 entries. And a box as large: 10 000 parts and 5 000 rigs.
///
/// # Errors
/// [`Error`] of the store.
pub fn multiply(store: &Store) -> Result<(), Error> {
    store.write(|connection| {
        let most: i64 =
            connection.query_row("SELECT max(id) FROM outings", [], |row| row.get(0))?;
        for copy in 1..=COPIES {
            // Numbers of outings of a copy lie a whole range higher.
            let (up, back) = (copy * most, copy * APART_DAYS * 86_400);
            copy_rows(connection, "outings", (most, up, back))?;
            copy_rows(connection, "passes", (most, up, back))?;
            copy_rows(connection, "events", (most, up, back))?;
        }
        for more in 1..DENSE {
            let names = columns(connection, "events")?;
            let shifted = names.iter().map(|name| match name.as_str() {
                "at_utc_s" | "entered_utc_s" => format!("{name} + 60 * {more}"),
                _ => name.clone(),
            });
            connection.execute_batch(&format!(
                "INSERT INTO events ({}) SELECT {} FROM events
                 WHERE kind IN ('strike', 'follow', 'bottom_touch') AND outing_id > {most} AND note <> 'again'",
                names.join(", "),
                shifted
                    .map(|column| if column == "note" { "'again'".into() } else { column })
                    .collect::<Vec<_>>()
                    .join(", ")
            ))?;
        }
        fill_box(connection)
    })
}

/// Copies of the parts in other colours, and of the rigs made of them.
fn fill_box(connection: &motilis_store::Connection) -> Result<(), Error> {
    let listed =
        |table: &str, change: &dyn Fn(&str) -> String| -> Result<(String, String), Error> {
            let mut statement = connection.prepare("SELECT name FROM pragma_table_info(?1)")?;
            let names: Vec<String> = statement
                .query_map([table], |row| row.get(0))?
                .collect::<Result<_, _>>()?;
            let values: Vec<String> = names.iter().map(|name| change(name)).collect();
            Ok((names.join(", "), values.join(", ")))
        };
    let highest = |table: &str| -> Result<i64, Error> {
        let query = format!("SELECT max(id) FROM {table}");
        Ok(connection.query_row(&query, [], |row| row.get(0))?)
    };
    let (parts, rigs) = (highest("parts")?, highest("rigs")?);
    let part_copies = PARTS / parts;
    for copy in 1..=part_copies {
        let (names, values) = listed("parts", &|name| match name {
            "id" => format!("id + {}", copy * parts),
            // Another colour of those that lie in the same tray; what lies under a lacquer stays.
            "colour" => format!(
                "CASE WHEN cover IS NULL THEN
                   (SELECT colour FROM parts AS o WHERE o.part = parts.part AND o.id <= {parts}
                    ORDER BY (o.id * 7919 + {copy} * 31 + parts.id) % 251 LIMIT 1)
                 ELSE colour END"
            ),
            "place" => format!("place || ', box {}'", copy + 1),
            name => name.to_owned(),
        })?;
        connection.execute_batch(&format!(
            "INSERT INTO parts ({names}) SELECT {values} FROM parts WHERE id <= {parts}"
        ))?;
    }
    for copy in 1..=RIGS / rigs {
        let (up, part) = (copy * rigs, copy % (part_copies + 1) * parts);
        for (table, of) in [
            ("rigs", "id"),
            ("rig_versions", "rig_id"),
            ("rig_pieces", "rig_id"),
        ] {
            let (names, values) = listed(table, &|name| match name {
                name if name == of => format!("{name} + {up}"),
                "name" => format!("name || ', {}'", copy + 1),
                "part_id" | "mount_part_id" => format!("{name} + {part}"),
                name => name.to_owned(),
            })?;
            connection.execute_batch(&format!(
                "INSERT INTO {table} ({names}) SELECT {values} FROM {table} WHERE {of} <= {rigs}"
            ))?;
        }
    }
    Ok(())
}

fn columns(connection: &motilis_store::Connection, table: &str) -> Result<Vec<String>, Error> {
    let mut statement =
        connection.prepare("SELECT name FROM pragma_table_info(?1) WHERE name <> 'id'")?;
    let names = statement.query_map([table], |row| row.get(0))?;
    Ok(names.collect::<Result<_, _>>()?)
}

fn copy_rows(
    connection: &motilis_store::Connection,
    table: &str,
    (most, up, back): (i64, i64, i64),
) -> Result<(), Error> {
    let names = columns(connection, table)?;
    let shifted = names.iter().map(|name| match name.as_str() {
        "outing_id" => format!("outing_id + {up}"),
        name if name.ends_with("_utc_s") => format!("{name} - {back}"),
        name => name.to_owned(),
    });
    let shifted: Vec<String> = shifted.collect();
    let (own, own_value) = if table == "outings" {
        ("id, ", format!("id + {up}, "))
    } else {
        ("", String::new())
    };
    let of = if table == "outings" {
        "id"
    } else {
        "outing_id"
    };
    connection.execute_batch(&format!(
        "INSERT INTO {table} ({own}{}) SELECT {own_value}{} FROM {table} WHERE {of} <= {most}",
        names.join(", "),
        shifted.join(", ")
    ))?;
    Ok(())
}
