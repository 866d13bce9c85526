-- The boat book: waters, set-ups, rigs, outings, the line that runs, events. SI units, UTC seconds.
-- `deleted_utc_s` marks what was thrown away: it can be taken back until the file is cleaned.
CREATE TABLE waters (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL CHECK (length(trim(name)) > 0),
    latitude_deg REAL NOT NULL CHECK (latitude_deg BETWEEN -90 AND 90),
    longitude_deg REAL NOT NULL CHECK (longitude_deg BETWEEN -180 AND 180),
    zone TEXT NOT NULL,
    salt INTEGER NOT NULL CHECK (salt IN (0, 1)),
    clarity_m REAL NOT NULL CHECK (clarity_m > 0),
    deleted_utc_s INTEGER
) STRICT;

CREATE TABLE line_setups (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL CHECK (length(trim(name)) > 0),
    start TEXT NOT NULL CHECK (start IN ('rod_tip', 'board', 'downrigger')),
    tip_height_m REAL CHECK (tip_height_m >= 0),
    ball_kg REAL CHECK (ball_kg > 0),
    drop_back_m REAL CHECK (drop_back_m >= 0),
    main_material TEXT NOT NULL,
    main_test_lb INTEGER NOT NULL CHECK (main_test_lb > 0),
    main_diameter_m REAL NOT NULL CHECK (main_diameter_m > 0),
    weight TEXT CHECK (weight IN ('bottom_bouncer', 'sinker', 'clip_on', 'trip_diver')),
    weight_kg REAL CHECK (weight_kg > 0),
    weight_material TEXT,
    diver_size TEXT,
    leader_material TEXT NOT NULL,
    leader_test_lb INTEGER NOT NULL CHECK (leader_test_lb > 0),
    leader_diameter_m REAL NOT NULL CHECK (leader_diameter_m > 0),
    lead_m REAL NOT NULL CHECK (lead_m >= 0),
    strum REAL NOT NULL CHECK (strum > 0),
    reel_m REAL NOT NULL CHECK (reel_m > 0),
    deleted_utc_s INTEGER
) STRICT;

CREATE TABLE rigs (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL CHECK (length(trim(name)) > 0),
    kind TEXT NOT NULL,
    mount TEXT NOT NULL CHECK (mount IN ('wire', 'leader')),
    mount_diameter_m REAL NOT NULL CHECK (mount_diameter_m > 0),
    observed_moment_nm REAL CHECK (observed_moment_nm >= 0),
    setup_id INTEGER NOT NULL REFERENCES line_setups (id),
    deleted_utc_s INTEGER
) STRICT;

-- A rig's parts in threading order. Each kind of part fills the columns it has.
CREATE TABLE rig_parts (
    rig_id INTEGER NOT NULL REFERENCES rigs (id),
    place INTEGER NOT NULL CHECK (place >= 0),
    part TEXT NOT NULL CHECK (part IN ('swivel', 'blade', 'beads', 'body', 'dressing', 'hook', 'bait')),
    style TEXT,
    colour TEXT,
    hammered INTEGER CHECK (hammered IN (0, 1)),
    count INTEGER CHECK (count > 0),
    size_code INTEGER,
    length_m REAL CHECK (length_m > 0),
    width_m REAL CHECK (width_m > 0),
    thickness_m REAL CHECK (thickness_m > 0),
    diameter_m REAL CHECK (diameter_m > 0),
    density_kg_m3 REAL CHECK (density_kg_m3 > 0),
    mass_kg REAL CHECK (mass_kg > 0),
    bend REAL CHECK (bend BETWEEN 0 AND 1),
    PRIMARY KEY (rig_id, place)
) STRICT, WITHOUT ROWID;

CREATE TABLE outings (
    id INTEGER PRIMARY KEY,
    water_id INTEGER NOT NULL REFERENCES waters (id),
    started_utc_s INTEGER NOT NULL,
    speed_mps REAL NOT NULL CHECK (speed_mps >= 0),
    temperature_c REAL NOT NULL,
    clarity_m REAL NOT NULL CHECK (clarity_m > 0),
    sky TEXT NOT NULL,
    fish TEXT NOT NULL,
    fish_from_m REAL NOT NULL CHECK (fish_from_m >= 0),
    fish_to_m REAL NOT NULL CHECK (fish_to_m >= fish_from_m),
    bottom_m REAL NOT NULL CHECK (bottom_m > 0),
    mood TEXT NOT NULL,
    wanted_depth_m REAL NOT NULL CHECK (wanted_depth_m > 0),
    deleted_utc_s INTEGER
) STRICT;

-- The line that is out on an outing, with what was changed from its set-up.
CREATE TABLE running_lines (
    outing_id INTEGER PRIMARY KEY REFERENCES outings (id),
    rig_id INTEGER NOT NULL REFERENCES rigs (id),
    setup_id INTEGER NOT NULL REFERENCES line_setups (id),
    main_material TEXT NOT NULL,
    main_test_lb INTEGER NOT NULL CHECK (main_test_lb > 0),
    main_diameter_m REAL NOT NULL CHECK (main_diameter_m > 0),
    weight_kg REAL CHECK (weight_kg > 0),
    lead_m REAL NOT NULL CHECK (lead_m >= 0),
    out_m REAL NOT NULL CHECK (out_m > 0)
) STRICT;

CREATE TABLE events (
    id INTEGER PRIMARY KEY,
    outing_id INTEGER NOT NULL REFERENCES outings (id),
    kind TEXT NOT NULL,
    at_utc_s INTEGER NOT NULL,
    rig_id INTEGER REFERENCES rigs (id),
    out_m REAL CHECK (out_m > 0),
    depth_m REAL CHECK (depth_m >= 0),
    speed_mps REAL NOT NULL CHECK (speed_mps >= 0),
    length_m REAL CHECK (length_m > 0),
    kept INTEGER CHECK (kept IN (0, 1)),
    note TEXT NOT NULL,
    deleted_utc_s INTEGER,
    CHECK ((rig_id IS NULL) = (out_m IS NULL) AND (rig_id IS NULL) = (depth_m IS NULL))
) STRICT;

CREATE INDEX events_by_outing ON events (outing_id, at_utc_s);
