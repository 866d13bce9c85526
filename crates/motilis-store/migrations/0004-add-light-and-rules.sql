-- Light, forage and rules: what colours a water, who lives in it, what the angler typed in of its law; and
-- what Today needs of an outing. The hour says when it is twilight, so the sky no longer does.
ALTER TABLE waters ADD COLUMN stain TEXT NOT NULL DEFAULT 'tea';
UPDATE waters SET stain = 'clear' WHERE clarity_m >= 4;
UPDATE waters SET stain = 'muddy' WHERE clarity_m < 0.3;

-- Lists keep the order they were typed in: the first is the usual one.
CREATE TABLE water_fish (
    water_id INTEGER NOT NULL REFERENCES waters (id),
    place INTEGER NOT NULL CHECK (place >= 0),
    fish TEXT NOT NULL,
    PRIMARY KEY (water_id, place)
) STRICT, WITHOUT ROWID;

CREATE TABLE water_forage (
    water_id INTEGER NOT NULL REFERENCES waters (id),
    place INTEGER NOT NULL CHECK (place >= 0),
    forage TEXT NOT NULL,
    PRIMARY KEY (water_id, place)
) STRICT, WITHOUT ROWID;

-- Rules as they were typed in, with their source: shown, never judged as law. Dates are civil dates of the
-- water, `YYYY-MM-DD`; NULL is open.
CREATE TABLE local_rules (
    id INTEGER PRIMARY KEY,
    water_id INTEGER NOT NULL REFERENCES waters (id),
    topic TEXT NOT NULL,
    fish TEXT,
    from_date TEXT,
    to_date TEXT,
    most INTEGER CHECK (most >= 0),
    slot_from_m REAL CHECK (slot_from_m > 0),
    slot_to_m REAL CHECK (slot_to_m > 0),
    slot_protected INTEGER CHECK (slot_protected IN (0, 1)),
    slot_one_over INTEGER CHECK (slot_one_over IN (0, 1)),
    source TEXT NOT NULL CHECK (length(trim(source)) > 0),
    entered_date TEXT NOT NULL,
    deleted_utc_s INTEGER
) STRICT;

CREATE INDEX local_rules_by_water ON local_rules (water_id);

ALTER TABLE outings ADD COLUMN stain TEXT NOT NULL DEFAULT 'tea';
UPDATE outings SET stain = 'clear' WHERE clarity_m >= 4;
UPDATE outings SET stain = 'muddy' WHERE clarity_m < 0.3;
UPDATE outings SET clarity_m = 0.05 WHERE clarity_m < 0.05;
UPDATE outings SET clarity_m = 30 WHERE clarity_m > 30;
UPDATE waters SET clarity_m = 0.05 WHERE clarity_m < 0.05;
UPDATE waters SET clarity_m = 30 WHERE clarity_m > 30;
ALTER TABLE outings ADD COLUMN wind TEXT NOT NULL DEFAULT 'ripple';
ALTER TABLE outings ADD COLUMN thermocline_m REAL CHECK (thermocline_m > 0);
ALTER TABLE outings ADD COLUMN forage TEXT NOT NULL DEFAULT 'shiner';
ALTER TABLE outings ADD COLUMN nibblers INTEGER NOT NULL DEFAULT 0 CHECK (nibblers IN (0, 1));
ALTER TABLE outings ADD COLUMN crowd TEXT;
UPDATE outings SET sky = 'broken' WHERE sky = 'twilight';
UPDATE outings SET fish = 'landlocked_sockeye' WHERE fish = 'landlocked_salmon';

-- What was pinned to an outing's call sheet, or struck off it.
CREATE TABLE outing_marks (
    outing_id INTEGER NOT NULL REFERENCES outings (id),
    rig_id INTEGER NOT NULL REFERENCES rigs (id),
    mark TEXT NOT NULL CHECK (mark IN ('pin', 'veto')),
    PRIMARY KEY (outing_id, rig_id)
) STRICT, WITHOUT ROWID;
