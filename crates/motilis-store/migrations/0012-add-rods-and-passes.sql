-- Several rods on an outing instead of one line that runs; passes that know their rod and how it ran; entries that know
-- their rod and what else there is to say of a fish or a strike. What old files do not know stays unknown: no rod, no
-- depth and no hours are invented.
CREATE TABLE rods (
    id INTEGER PRIMARY KEY,
    outing_id INTEGER NOT NULL REFERENCES outings (id),
    number INTEGER NOT NULL CHECK (number >= 1),
    holder TEXT NOT NULL,
    rod TEXT NOT NULL,
    rod_m REAL NOT NULL CHECK (rod_m > 0),
    board_m REAL CHECK (board_m > 0),
    above_m REAL CHECK (above_m >= 0),
    rig_id INTEGER REFERENCES rigs (id),
    lure_id INTEGER REFERENCES lures (id),
    setup_id INTEGER NOT NULL REFERENCES line_setups (id),
    main_material TEXT,
    main_test_lb INTEGER CHECK (main_test_lb > 0),
    main_diameter_m REAL CHECK (main_diameter_m > 0),
    weight_kg REAL CHECK (weight_kg > 0),
    lead_m REAL NOT NULL CHECK (lead_m >= 0),
    out_m REAL NOT NULL CHECK (out_m > 0),
    wanted_m REAL NOT NULL CHECK (wanted_m > 0),
    bait TEXT NOT NULL DEFAULT '',
    away INTEGER NOT NULL DEFAULT 0 CHECK (away IN (0, 1)),
    UNIQUE (outing_id, number),
    CHECK ((rig_id IS NULL) <> (lure_id IS NULL)),
    CHECK ((main_material IS NULL) = (main_test_lb IS NULL) AND (main_material IS NULL) = (main_diameter_m IS NULL))
) STRICT;

INSERT INTO rods (outing_id, number, holder, rod, rod_m, rig_id, setup_id, main_material, main_test_lb, main_diameter_m,
    weight_kg, lead_m, out_m, wanted_m)
SELECT outing_id, 1, 'P1', 'corner', 2.1336, rig_id, setup_id, main_material, main_test_lb, main_diameter_m, weight_kg,
    lead_m, out_m, wanted_depth_m
FROM running_lines JOIN outings ON outings.id = outing_id;

CREATE TABLE passes_new (
    id INTEGER PRIMARY KEY,
    outing_id INTEGER NOT NULL REFERENCES outings (id),
    rod INTEGER CHECK (rod >= 1),
    rig_id INTEGER REFERENCES rigs (id),
    lure_id INTEGER REFERENCES lures (id),
    rig_version INTEGER,
    setup_id INTEGER REFERENCES line_setups (id),
    out_m REAL CHECK (out_m > 0),
    lead_m REAL CHECK (lead_m >= 0),
    weight_kg REAL CHECK (weight_kg > 0),
    depth_m REAL CHECK (depth_m >= 0),
    speed_mps REAL CHECK (speed_mps >= 0),
    bait TEXT NOT NULL DEFAULT '',
    from_utc_s INTEGER NOT NULL,
    to_utc_s INTEGER CHECK (to_utc_s >= from_utc_s),
    deleted_utc_s INTEGER,
    CHECK ((rig_id IS NULL) <> (lure_id IS NULL))
) STRICT;

-- The one that is still out is out on the line that ran.
INSERT INTO passes_new (id, outing_id, rod, rig_id, from_utc_s, to_utc_s)
SELECT passes.id, passes.outing_id, iif(to_utc_s IS NULL AND running_lines.rig_id = passes.rig_id, 1, NULL),
    passes.rig_id, from_utc_s, to_utc_s
FROM passes LEFT JOIN running_lines ON running_lines.outing_id = passes.outing_id;

DROP TABLE passes;
ALTER TABLE passes_new RENAME TO passes;
CREATE INDEX passes_by_outing ON passes (outing_id, from_utc_s);
-- What put such a line out can no longer be taken back.
DELETE FROM act_traces WHERE act_n IN (SELECT act_n FROM act_traces WHERE record LIKE 'running_lines%');
DROP TABLE running_lines;

CREATE TABLE events_new (
    id INTEGER PRIMARY KEY,
    outing_id INTEGER NOT NULL REFERENCES outings (id),
    kind TEXT NOT NULL,
    at_utc_s INTEGER NOT NULL,
    entered_utc_s INTEGER NOT NULL,
    rod INTEGER CHECK (rod >= 1),
    rig_id INTEGER REFERENCES rigs (id),
    lure_id INTEGER REFERENCES lures (id),
    out_m REAL CHECK (out_m > 0),
    depth_m REAL CHECK (depth_m >= 0),
    speed_mps REAL NOT NULL CHECK (speed_mps >= 0),
    length_m REAL CHECK (length_m > 0),
    kept INTEGER CHECK (kept IN (0, 1)),
    species TEXT,
    landing TEXT,
    girth_m REAL CHECK (girth_m > 0),
    weight_kg REAL CHECK (weight_kg > 0),
    sex TEXT NOT NULL DEFAULT '',
    condition TEXT NOT NULL DEFAULT '',
    hooked TEXT NOT NULL DEFAULT '',
    clipped INTEGER CHECK (clipped IN (0, 1)),
    strike TEXT,
    bait_after TEXT,
    given TEXT NOT NULL DEFAULT 'conditions',
    lat REAL CHECK (lat BETWEEN -90 AND 90),
    lon REAL CHECK (lon BETWEEN -180 AND 180),
    note TEXT NOT NULL,
    deleted_utc_s INTEGER,
    CHECK (rig_id IS NULL OR lure_id IS NULL),
    CHECK ((rig_id IS NULL AND lure_id IS NULL) = (out_m IS NULL)),
    CHECK (depth_m IS NULL OR out_m IS NOT NULL),
    CHECK ((lat IS NULL) = (lon IS NULL))
) STRICT;

INSERT INTO events_new (id, outing_id, kind, at_utc_s, entered_utc_s, rig_id, out_m, depth_m, speed_mps, length_m, kept,
    note, deleted_utc_s)
SELECT id, outing_id, kind, at_utc_s, entered_utc_s, rig_id, out_m, depth_m, speed_mps, length_m, kept, note,
    deleted_utc_s
FROM events;

DROP TABLE events;
ALTER TABLE events_new RENAME TO events;
CREATE INDEX events_by_outing ON events (outing_id, at_utc_s);
