-- Every change is an act with a number made by the one who asked for it: done once, however often it is asked for.
CREATE TABLE acts (
    n INTEGER PRIMARY KEY,
    id TEXT NOT NULL CHECK (length(id) > 0),
    asked TEXT NOT NULL,
    act TEXT NOT NULL,
    at_utc_s INTEGER NOT NULL,
    entered_utc_s INTEGER NOT NULL,
    made INTEGER,
    undoes INTEGER REFERENCES acts (n),
    undone_by INTEGER REFERENCES acts (n),
    UNIQUE (id, asked)
) STRICT;

-- What takes an act back, statement by statement, the last first; and which records it touched.
CREATE TABLE act_traces (
    act_n INTEGER NOT NULL REFERENCES acts (n),
    place INTEGER NOT NULL CHECK (place >= 0),
    record TEXT NOT NULL,
    back TEXT NOT NULL,
    PRIMARY KEY (act_n, place)
) STRICT, WITHOUT ROWID;

CREATE INDEX act_traces_by_record ON act_traces (record);

-- An outing has an end; NULL while nobody said so.
ALTER TABLE outings ADD COLUMN ended_utc_s INTEGER;

-- An entry has the time it happened and the time it was entered, and may lie on a line that cannot be computed.
CREATE TABLE events_new (
    id INTEGER PRIMARY KEY,
    outing_id INTEGER NOT NULL REFERENCES outings (id),
    kind TEXT NOT NULL,
    at_utc_s INTEGER NOT NULL,
    entered_utc_s INTEGER NOT NULL,
    rig_id INTEGER REFERENCES rigs (id),
    out_m REAL CHECK (out_m > 0),
    depth_m REAL CHECK (depth_m >= 0),
    speed_mps REAL NOT NULL CHECK (speed_mps >= 0),
    length_m REAL CHECK (length_m > 0),
    kept INTEGER CHECK (kept IN (0, 1)),
    note TEXT NOT NULL,
    deleted_utc_s INTEGER,
    CHECK ((rig_id IS NULL) = (out_m IS NULL)),
    CHECK (depth_m IS NULL OR rig_id IS NOT NULL)
) STRICT;

INSERT INTO events_new (id, outing_id, kind, at_utc_s, entered_utc_s, rig_id, out_m, depth_m, speed_mps, length_m,
    kept, note, deleted_utc_s)
SELECT id, outing_id, kind, at_utc_s, at_utc_s, rig_id, out_m, depth_m, speed_mps, length_m, kept, note, deleted_utc_s
FROM events;

DROP TABLE events;
ALTER TABLE events_new RENAME TO events;
CREATE INDEX events_by_outing ON events (outing_id, at_utc_s);

-- A rig in the water from when to when, whether or not anything bit.
CREATE TABLE passes (
    id INTEGER PRIMARY KEY,
    outing_id INTEGER NOT NULL REFERENCES outings (id),
    rig_id INTEGER NOT NULL REFERENCES rigs (id),
    from_utc_s INTEGER NOT NULL,
    to_utc_s INTEGER CHECK (to_utc_s >= from_utc_s)
) STRICT;

CREATE INDEX passes_by_outing ON passes (outing_id, from_utc_s);
