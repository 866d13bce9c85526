-- What belongs to the boat rather than to a device: its units, and the outing that is open.
CREATE TABLE settings (
    name TEXT PRIMARY KEY,
    value TEXT NOT NULL
) STRICT, WITHOUT ROWID;
