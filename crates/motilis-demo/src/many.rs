//! The scenario many times over, for measuring what thousands of outings cost.

use motilis_store::{Error, Store};

/// Days between one copy of the season and the one before it: odd, so that week days differ.
const APART_DAYS: i64 = 129;

/// Copies of the season, and how often an entry that is no fish stands in each.
const COPIES: i64 = 33;
const DENSE: i64 = 5;

/// Puts copies of every outing, with its passes and entries, before the ones there are, each entry that is no fish some
/// times a minute apart: 2 000 outings and 100 000 entries.
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
        Ok(())
    })
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
