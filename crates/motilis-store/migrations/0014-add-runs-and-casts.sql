-- Runs of rivers, and casts that were made in them.
CREATE TABLE runs (
    id INTEGER PRIMARY KEY,
    water_id INTEGER NOT NULL REFERENCES waters (id),
    name TEXT NOT NULL CHECK (length(trim(name)) > 0),
    bank TEXT NOT NULL,
    length_m REAL NOT NULL CHECK (length_m > 0),
    wade_m REAL NOT NULL CHECK (wade_m >= 0),
    bed TEXT NOT NULL,
    growth_m REAL NOT NULL CHECK (growth_m >= 0),
    -- A list of [offset_m, depth_m, surface_mps].
    stations TEXT NOT NULL CHECK (json_valid(stations)),
    -- A list of [kind, along_m, across_m].
    marks TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(marks)),
    deleted_utc_s INTEGER
) STRICT;
CREATE INDEX runs_by_water ON runs (water_id);

CREATE TABLE casts (
    id INTEGER PRIMARY KEY,
    outing_id INTEGER NOT NULL REFERENCES outings (id),
    run_id INTEGER NOT NULL REFERENCES runs (id),
    rod INTEGER NOT NULL,
    rig_id INTEGER REFERENCES rigs (id),
    at_utc_s INTEGER NOT NULL,
    presentation TEXT NOT NULL,
    stand_along_m REAL NOT NULL,
    way TEXT,
    far TEXT,
    angle_deg REAL NOT NULL,
    distance_m REAL NOT NULL CHECK (distance_m > 0),
    held TEXT NOT NULL,
    sink_seconds REAL NOT NULL CHECK (sink_seconds >= 0),
    reel_mps REAL NOT NULL CHECK (reel_mps >= 0),
    mend INTEGER NOT NULL,
    follow INTEGER NOT NULL,
    lift_seconds REAL,
    event_id INTEGER REFERENCES events (id),
    deleted_utc_s INTEGER
) STRICT;
CREATE INDEX casts_by_outing ON casts (outing_id);

CREATE TRIGGER stamp_casts_i AFTER INSERT ON casts BEGIN
    INSERT OR REPLACE INTO outing_stamps VALUES (NEW.outing_id, random()); END;
CREATE TRIGGER stamp_casts_u AFTER UPDATE ON casts BEGIN
    INSERT OR REPLACE INTO outing_stamps VALUES (NEW.outing_id, random()); END;
CREATE TRIGGER stamp_casts_d AFTER DELETE ON casts BEGIN
    INSERT OR REPLACE INTO outing_stamps VALUES (OLD.outing_id, random()); END;
