-- More depth tools, typed-in dive tables, spreads in versions, and what was observed on the water. The set-ups are
-- copied into a table that knows the new tools; nothing of them is lost.
CREATE TABLE line_setups_new (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL CHECK (length(trim(name)) > 0),
    start TEXT NOT NULL CHECK (start IN ('rod_tip', 'board', 'downrigger')),
    tip_height_m REAL CHECK (tip_height_m >= 0),
    ball_kg REAL CHECK (ball_kg > 0),
    drop_back_m REAL CHECK (drop_back_m >= 0),
    above_m REAL CHECK (above_m >= 0),
    main_material TEXT NOT NULL,
    main_test_lb INTEGER NOT NULL CHECK (main_test_lb > 0),
    main_diameter_m REAL NOT NULL CHECK (main_diameter_m > 0),
    core_material TEXT,
    core_test_lb INTEGER CHECK (core_test_lb > 0),
    core_diameter_m REAL CHECK (core_diameter_m > 0),
    core_m REAL CHECK (core_m > 0),
    weight TEXT CHECK (weight IN ('bottom_bouncer', 'bullet', 'egg', 'split_shot', 'clip_on', 'diving_weight',
        'trip_diver', 'float_diver')),
    weight_kg REAL CHECK (weight_kg > 0),
    weight_material TEXT,
    diver_size TEXT,
    side_setting TEXT,
    ahead_m REAL NOT NULL DEFAULT 0 CHECK (ahead_m >= 0),
    leader_material TEXT NOT NULL,
    leader_test_lb INTEGER NOT NULL CHECK (leader_test_lb > 0),
    leader_diameter_m REAL NOT NULL CHECK (leader_diameter_m > 0),
    lead_m REAL NOT NULL CHECK (lead_m >= 0),
    strum REAL NOT NULL CHECK (strum > 0),
    reel_m REAL NOT NULL CHECK (reel_m > 0),
    deleted_utc_s INTEGER
) STRICT;

INSERT INTO line_setups_new (id, name, start, tip_height_m, ball_kg, drop_back_m, above_m, main_material,
    main_test_lb, main_diameter_m, weight, weight_kg, weight_material, diver_size, side_setting, leader_material,
    leader_test_lb, leader_diameter_m, lead_m, strum, reel_m, deleted_utc_s)
SELECT id, name, start, tip_height_m, ball_kg, drop_back_m, iif(start = 'downrigger', 0, NULL), main_material,
    main_test_lb, main_diameter_m, iif(weight = 'sinker', 'egg', weight), weight_kg, weight_material, diver_size,
    iif(weight = 'trip_diver', '0', NULL), leader_material, leader_test_lb, leader_diameter_m, lead_m, strum, reel_m,
    deleted_utc_s
FROM line_setups;

DROP TABLE line_setups;
ALTER TABLE line_setups_new RENAME TO line_setups;

-- A plug or spoon with the angler's own pairs of setback and depth.
CREATE TABLE lures (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL CHECK (length(trim(name)) > 0),
    from_mps REAL NOT NULL CHECK (from_mps > 0),
    favourite_mps REAL NOT NULL CHECK (favourite_mps >= from_mps),
    to_mps REAL NOT NULL CHECK (to_mps >= favourite_mps),
    deleted_utc_s INTEGER
) STRICT;

CREATE TABLE lure_dives (
    lure_id INTEGER NOT NULL REFERENCES lures (id),
    out_m REAL NOT NULL CHECK (out_m > 0),
    depth_m REAL NOT NULL CHECK (depth_m >= 0),
    PRIMARY KEY (lure_id, out_m)
) STRICT, WITHOUT ROWID;

CREATE TABLE spreads (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL CHECK (length(trim(name)) > 0),
    version INTEGER NOT NULL,
    deleted_utc_s INTEGER
) STRICT;

-- Every edit is a version that knows the one it comes from: undo and redo move a pointer.
CREATE TABLE spread_versions (
    spread_id INTEGER NOT NULL REFERENCES spreads (id),
    version INTEGER NOT NULL CHECK (version >= 0),
    comes_from INTEGER,
    speed_mps REAL NOT NULL CHECK (speed_mps > 0),
    PRIMARY KEY (spread_id, version)
) STRICT, WITHOUT ROWID;

CREATE TABLE spread_lines (
    spread_id INTEGER NOT NULL,
    version INTEGER NOT NULL,
    place INTEGER NOT NULL CHECK (place >= 0),
    holder TEXT NOT NULL,
    rod TEXT NOT NULL,
    rod_m REAL NOT NULL CHECK (rod_m > 0),
    board_m REAL CHECK (board_m > 0),
    above_m REAL CHECK (above_m >= 0),
    rig_id INTEGER REFERENCES rigs (id),
    lure_id INTEGER REFERENCES lures (id),
    setup_id INTEGER NOT NULL REFERENCES line_setups (id),
    weight_kg REAL CHECK (weight_kg > 0),
    lead_m REAL NOT NULL CHECK (lead_m >= 0),
    out_m REAL NOT NULL CHECK (out_m > 0),
    wanted_m REAL NOT NULL CHECK (wanted_m > 0),
    PRIMARY KEY (spread_id, version, place),
    FOREIGN KEY (spread_id, version) REFERENCES spread_versions (spread_id, version),
    CHECK ((rig_id IS NULL) <> (lure_id IS NULL))
) STRICT, WITHOUT ROWID;

-- What was seen of a blade beside the boat, as it was seen; the blade it was seen of is noted with it.
CREATE TABLE dunk_tests (
    id INTEGER PRIMARY KEY,
    rig_id INTEGER NOT NULL REFERENCES rigs (id),
    seen TEXT NOT NULL CHECK (seen IN ('started', 'turned', 'rolled_over')),
    speed_mps REAL NOT NULL CHECK (speed_mps > 0),
    turns_hz REAL CHECK (turns_hz > 0),
    temperature_c REAL NOT NULL,
    salt INTEGER NOT NULL CHECK (salt IN (0, 1)),
    family TEXT NOT NULL,
    length_m REAL NOT NULL CHECK (length_m > 0),
    at_utc_s INTEGER NOT NULL,
    deleted_utc_s INTEGER,
    CHECK ((seen = 'turned') = (turns_hz IS NOT NULL))
) STRICT;

CREATE INDEX dunk_tests_by_rig ON dunk_tests (rig_id);

-- Touches of the bottom, and passes that did not touch, with the line that was out.
CREATE TABLE bottom_touches (
    id INTEGER PRIMARY KEY,
    rig_id INTEGER NOT NULL REFERENCES rigs (id),
    setup_id INTEGER NOT NULL REFERENCES line_setups (id),
    main_material TEXT NOT NULL,
    main_test_lb INTEGER NOT NULL CHECK (main_test_lb > 0),
    main_diameter_m REAL NOT NULL CHECK (main_diameter_m > 0),
    weight_kg REAL CHECK (weight_kg > 0),
    lead_m REAL NOT NULL CHECK (lead_m >= 0),
    out_m REAL NOT NULL CHECK (out_m > 0),
    bottom_m REAL NOT NULL CHECK (bottom_m > 0),
    speed_mps REAL NOT NULL CHECK (speed_mps > 0),
    touched INTEGER NOT NULL CHECK (touched IN (0, 1)),
    at_utc_s INTEGER NOT NULL,
    deleted_utc_s INTEGER
) STRICT;

CREATE INDEX bottom_touches_by_setup ON bottom_touches (setup_id);
