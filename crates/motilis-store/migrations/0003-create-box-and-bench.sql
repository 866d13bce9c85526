-- The box: parts with what is left of them. A size is the trade's own count (a number, mm, g, lb, in);
-- NULL sizes come from the first slice and are looked up by their measured figures. A figure that is
-- not NULL was measured and stands in place of the table's.
CREATE TABLE parts (
    id INTEGER PRIMARY KEY,
    part TEXT NOT NULL,
    style TEXT NOT NULL,
    size REAL,
    material TEXT NOT NULL,
    colour TEXT NOT NULL,
    hammered INTEGER NOT NULL DEFAULT 0 CHECK (hammered IN (0, 1)),
    back_colour TEXT,
    back_hammered INTEGER CHECK (back_hammered IN (0, 1)),
    length_m REAL CHECK (length_m > 0),
    width_m REAL CHECK (width_m > 0),
    thickness_m REAL CHECK (thickness_m > 0),
    diameter_m REAL CHECK (diameter_m > 0),
    bore_m REAL CHECK (bore_m > 0),
    mass_kg REAL CHECK (mass_kg > 0),
    left_count REAL NOT NULL DEFAULT 0 CHECK (left_count >= 0),
    low_count REAL NOT NULL DEFAULT 0 CHECK (low_count >= 0),
    unit_cost REAL CHECK (unit_cost >= 0),
    place TEXT NOT NULL DEFAULT '',
    deleted_utc_s INTEGER
) STRICT;

-- A rig is edited in versions, each knowing the one it comes from: undo and redo only move a pointer,
-- and a rig made up to an older version keeps its parts.
CREATE TABLE rig_versions (
    rig_id INTEGER NOT NULL REFERENCES rigs (id),
    version INTEGER NOT NULL CHECK (version >= 0),
    comes_from INTEGER,
    kind TEXT NOT NULL,
    mount_part_id INTEGER NOT NULL REFERENCES parts (id),
    finished_m REAL NOT NULL CHECK (finished_m > 0),
    clearance_m REAL NOT NULL CHECK (clearance_m >= 0),
    hook_spacing_m REAL NOT NULL CHECK (hook_spacing_m > 0),
    loop_diameter_m REAL NOT NULL CHECK (loop_diameter_m > 0),
    wraps INTEGER NOT NULL CHECK (wraps > 0),
    tail_m REAL NOT NULL CHECK (tail_m > 0),
    snell_wraps INTEGER NOT NULL CHECK (snell_wraps > 0),
    front_knot TEXT NOT NULL,
    knot_use_m REAL CHECK (knot_use_m > 0),
    spacing TEXT NOT NULL,
    PRIMARY KEY (rig_id, version)
) STRICT, WITHOUT ROWID;

CREATE TABLE rig_pieces (
    rig_id INTEGER NOT NULL,
    version INTEGER NOT NULL,
    place INTEGER NOT NULL CHECK (place >= 0),
    part_id INTEGER NOT NULL REFERENCES parts (id),
    count INTEGER NOT NULL CHECK (count > 0),
    bend REAL CHECK (bend BETWEEN 0 AND 1),
    PRIMARY KEY (rig_id, version, place),
    FOREIGN KEY (rig_id, version) REFERENCES rig_versions (rig_id, version)
) STRICT, WITHOUT ROWID;

-- Steps of the work that are done, for the version they belong to.
CREATE TABLE rig_ticks (
    rig_id INTEGER NOT NULL,
    version INTEGER NOT NULL,
    step INTEGER NOT NULL CHECK (step >= 0),
    PRIMARY KEY (rig_id, version, step),
    FOREIGN KEY (rig_id, version) REFERENCES rig_versions (rig_id, version)
) STRICT, WITHOUT ROWID;

-- What was done with the box, so that it can be undone: the moves of stock add up to what is left.
CREATE TABLE deeds (
    id INTEGER PRIMARY KEY,
    deed TEXT NOT NULL CHECK (deed IN ('build', 'dismantle', 'break_off', 'count', 'import')),
    rig_id INTEGER REFERENCES rigs (id),
    count INTEGER NOT NULL CHECK (count > 0),
    at_utc_s INTEGER NOT NULL,
    undone INTEGER NOT NULL DEFAULT 0 CHECK (undone IN (0, 1))
) STRICT;

CREATE TABLE stock_moves (
    deed_id INTEGER NOT NULL REFERENCES deeds (id),
    part_id INTEGER NOT NULL REFERENCES parts (id),
    moved REAL NOT NULL,
    PRIMARY KEY (deed_id, part_id)
) STRICT, WITHOUT ROWID;

-- Rigs made up and lying in the box.
CREATE TABLE made_rigs (
    id INTEGER PRIMARY KEY,
    rig_id INTEGER NOT NULL,
    version INTEGER NOT NULL,
    state TEXT NOT NULL CHECK (state IN ('new', 'used', 're_tie')),
    place TEXT NOT NULL,
    made_by INTEGER NOT NULL REFERENCES deeds (id),
    gone_by INTEGER REFERENCES deeds (id),
    FOREIGN KEY (rig_id, version) REFERENCES rig_versions (rig_id, version)
) STRICT;

CREATE INDEX made_rigs_by_rig ON made_rigs (rig_id);

-- The rigs of the first slice: each kind of part they use becomes a part of the box, of which none is left.
INSERT INTO parts (part, style, size, material, colour, hammered, length_m, width_m, thickness_m, diameter_m, mass_kg)
SELECT DISTINCT
    CASE part WHEN 'beads' THEN 'bead' ELSE part END,
    CASE part WHEN 'beads' THEN 'round' WHEN 'body' THEN 'torpedo' ELSE style END,
    CASE part WHEN 'beads' THEN diameter_m * 1000 WHEN 'hook' THEN size_code WHEN 'swivel' THEN 14 END,
    CASE
        WHEN part = 'beads' THEN CASE style WHEN 'metal' THEN 'brass' ELSE style END
        WHEN part = 'blade' THEN CASE density_kg_m3
            WHEN 1390 THEN 'film' WHEN 1200 THEN 'hard_plastic' WHEN 7850 THEN 'steel' ELSE 'brass' END
        WHEN part = 'hook' THEN 'steel'
        WHEN part = 'bait' THEN 'flesh'
        WHEN part = 'dressing' THEN CASE style
            WHEN 'silicone_skirt' THEN 'silicone' WHEN 'tinsel' THEN 'tinsel'
            WHEN 'foam_float' THEN 'foam' ELSE 'vinyl' END
        ELSE 'brass'
    END,
    coalesce(colour, 'NI'), coalesce(hammered, 0),
    length_m, width_m, thickness_m,
    CASE part WHEN 'beads' THEN NULL ELSE diameter_m END, mass_kg
FROM rig_parts;

INSERT INTO parts (part, style, material, colour, diameter_m)
SELECT DISTINCT
    CASE mount WHEN 'wire' THEN 'wire' ELSE 'line' END,
    CASE mount WHEN 'wire' THEN 'spring_wire' ELSE 'nylon' END,
    CASE mount WHEN 'wire' THEN 'steel' ELSE 'line' END,
    'NI', mount_diameter_m
FROM rigs;

INSERT INTO rig_versions
SELECT
    rigs.id, 0, NULL, rigs.kind, parts.id,
    CASE rigs.kind WHEN 'ring_bead' THEN 0.4572 WHEN 'flasher_fly' THEN 0.5842 ELSE 1.524 END,
    0.005,
    CASE rigs.kind WHEN 'flasher_fly' THEN 0.038 WHEN 'leader_squid' THEN 0.038
        WHEN 'ring_bead' THEN 0.020 ELSE 0.089 END,
    0.003, 3, 0.0127, 8, 'improved_clinch', NULL,
    CASE rigs.kind WHEN 'salmon_wire' THEN 'level' WHEN 'bait_spinner' THEN 'cap' ELSE 'clear' END
FROM rigs JOIN parts ON parts.diameter_m = rigs.mount_diameter_m
    AND parts.part = CASE rigs.mount WHEN 'wire' THEN 'wire' ELSE 'line' END;

INSERT INTO rig_pieces
SELECT old.rig_id, 0, old.place, min(parts.id), coalesce(old.count, 1), old.bend
FROM rig_parts AS old JOIN parts ON
    parts.part = CASE old.part WHEN 'beads' THEN 'bead' ELSE old.part END
    AND CASE old.part
        WHEN 'beads' THEN abs(parts.size - old.diameter_m * 1000) < 1e-9
            AND parts.material = CASE old.style WHEN 'metal' THEN 'brass' ELSE old.style END
        WHEN 'hook' THEN parts.style = old.style AND parts.size = old.size_code
        WHEN 'body' THEN parts.mass_kg = old.mass_kg AND parts.diameter_m = old.diameter_m
        WHEN 'blade' THEN parts.style = old.style AND parts.length_m = old.length_m
            AND parts.width_m = old.width_m AND parts.thickness_m = old.thickness_m
            AND parts.hammered = old.hammered
        ELSE parts.style = old.style
    END
    AND parts.colour = coalesce(old.colour, 'NI')
GROUP BY old.rig_id, old.place;

DROP TABLE rig_parts;
ALTER TABLE rigs DROP COLUMN kind;
ALTER TABLE rigs DROP COLUMN mount;
ALTER TABLE rigs DROP COLUMN mount_diameter_m;
ALTER TABLE rigs ADD COLUMN version INTEGER NOT NULL DEFAULT 0;
