-- What was tried after a strike; how a fish was measured; how the boat went over ground at an entry; photographs; tracks,
-- kept whole; spots; experiments.
ALTER TABLE events ADD COLUMN play TEXT;
ALTER TABLE events ADD COLUMN measured TEXT;
ALTER TABLE events ADD COLUMN ground_mps REAL CHECK (ground_mps >= 0);
ALTER TABLE events ADD COLUMN course_deg REAL CHECK (course_deg >= 0 AND course_deg <= 360);

CREATE TABLE photographs (
    event_id INTEGER PRIMARY KEY REFERENCES events (id),
    kind TEXT NOT NULL CHECK (kind IN ('image/jpeg', 'image/png', 'image/webp')),
    bytes BLOB NOT NULL
) STRICT;

-- Points: a list of [seconds UTC, latitude, longitude].
CREATE TABLE tracks (
    id INTEGER PRIMARY KEY,
    outing_id INTEGER NOT NULL REFERENCES outings (id),
    name TEXT NOT NULL,
    points TEXT NOT NULL CHECK (json_valid(points)),
    deleted_utc_s INTEGER
) STRICT;
CREATE INDEX tracks_by_outing ON tracks (outing_id);

CREATE TABLE spots (
    id INTEGER PRIMARY KEY,
    water_id INTEGER NOT NULL REFERENCES waters (id),
    name TEXT NOT NULL CHECK (length(trim(name)) > 0),
    lat REAL NOT NULL CHECK (lat BETWEEN -90 AND 90),
    lon REAL NOT NULL CHECK (lon BETWEEN -180 AND 180),
    radius_m REAL NOT NULL CHECK (radius_m > 0),
    depth_m REAL CHECK (depth_m > 0),
    structure TEXT NOT NULL DEFAULT '',
    deleted_utc_s INTEGER
) STRICT;
CREATE INDEX spots_by_water ON spots (water_id);

-- Who fishes what follows from rods, periods and seed. A lead or bait that is empty is left as it is on the rod.
CREATE TABLE experiments (
    id INTEGER PRIMARY KEY,
    outing_id INTEGER NOT NULL REFERENCES outings (id),
    began_utc_s INTEGER NOT NULL,
    until_utc_s INTEGER NOT NULL CHECK (until_utc_s > began_utc_s),
    ended_utc_s INTEGER,
    period_s INTEGER NOT NULL CHECK (period_s > 0),
    seed INTEGER NOT NULL,
    rods TEXT NOT NULL,
    a_rig_id INTEGER NOT NULL REFERENCES rigs (id),
    a_lead_m REAL CHECK (a_lead_m >= 0),
    a_bait TEXT,
    b_rig_id INTEGER NOT NULL REFERENCES rigs (id),
    b_lead_m REAL CHECK (b_lead_m >= 0),
    b_bait TEXT
) STRICT;
CREATE INDEX experiments_by_outing ON experiments (outing_id);

-- A stamp that changes whenever something of an outing does, so that what was reckoned from it can be kept.
-- A later step that puts a new table in the place of events, passes, outings or waters makes these triggers anew.
CREATE TABLE outing_stamps (
    outing_id INTEGER PRIMARY KEY,
    stamp INTEGER NOT NULL
) STRICT;
INSERT INTO outing_stamps (outing_id, stamp) SELECT id, random() FROM outings;

CREATE TRIGGER stamp_events_i AFTER INSERT ON events BEGIN
    INSERT OR REPLACE INTO outing_stamps VALUES (NEW.outing_id, random()); END;
CREATE TRIGGER stamp_events_u AFTER UPDATE ON events BEGIN
    INSERT OR REPLACE INTO outing_stamps VALUES (OLD.outing_id, random());
    INSERT OR REPLACE INTO outing_stamps VALUES (NEW.outing_id, random()); END;
CREATE TRIGGER stamp_events_d AFTER DELETE ON events BEGIN
    INSERT OR REPLACE INTO outing_stamps VALUES (OLD.outing_id, random()); END;
CREATE TRIGGER stamp_passes_i AFTER INSERT ON passes BEGIN
    INSERT OR REPLACE INTO outing_stamps VALUES (NEW.outing_id, random()); END;
CREATE TRIGGER stamp_passes_u AFTER UPDATE ON passes BEGIN
    INSERT OR REPLACE INTO outing_stamps VALUES (OLD.outing_id, random());
    INSERT OR REPLACE INTO outing_stamps VALUES (NEW.outing_id, random()); END;
CREATE TRIGGER stamp_passes_d AFTER DELETE ON passes BEGIN
    INSERT OR REPLACE INTO outing_stamps VALUES (OLD.outing_id, random()); END;
CREATE TRIGGER stamp_outings_i AFTER INSERT ON outings BEGIN
    INSERT OR REPLACE INTO outing_stamps VALUES (NEW.id, random()); END;
CREATE TRIGGER stamp_outings_u AFTER UPDATE ON outings BEGIN
    INSERT OR REPLACE INTO outing_stamps VALUES (NEW.id, random()); END;
CREATE TRIGGER stamp_outings_d AFTER DELETE ON outings BEGIN
    DELETE FROM outing_stamps WHERE outing_id = OLD.id; END;
CREATE TRIGGER stamp_waters_u AFTER UPDATE ON waters BEGIN
    UPDATE outing_stamps SET stamp = random()
    WHERE outing_id IN (SELECT id FROM outings WHERE water_id = NEW.id); END;
