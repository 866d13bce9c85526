-- The boat under way: fish seen on the sounder, the angler's own bottom of a water, what a moment was like, and outings that
-- are practice on a simulated lake and count for nothing; when the boat's instruments were last heard on an outing.
CREATE TABLE fish_marks (
    id INTEGER PRIMARY KEY,
    outing_id INTEGER NOT NULL REFERENCES outings (id),
    lat REAL NOT NULL CHECK (lat BETWEEN -90 AND 90),
    lon REAL NOT NULL CHECK (lon BETWEEN -180 AND 180),
    depth_m REAL NOT NULL CHECK (depth_m > 0),
    at_utc_s INTEGER NOT NULL,
    deleted_utc_s INTEGER
) STRICT;
CREATE INDEX fish_marks_by_outing ON fish_marks (outing_id);

-- Cells of ten metres, by their number to the north and east of the water's position at the time it was first sounded.
CREATE TABLE bottom_charts (
    water_id INTEGER PRIMARY KEY REFERENCES waters (id),
    lat REAL NOT NULL,
    lon REAL NOT NULL
) STRICT;
CREATE TABLE bottom_cells (
    water_id INTEGER NOT NULL REFERENCES bottom_charts (water_id),
    north INTEGER NOT NULL,
    east INTEGER NOT NULL,
    -- The latest soundings in metres, as a list.
    depths TEXT NOT NULL CHECK (json_valid(depths)),
    median_m REAL NOT NULL CHECK (median_m > 0),
    count INTEGER NOT NULL CHECK (count > 0),
    latest_utc_s INTEGER NOT NULL,
    PRIMARY KEY (water_id, north, east)
) STRICT, WITHOUT ROWID;

ALTER TABLE outings ADD COLUMN practice INTEGER NOT NULL DEFAULT 0;
ALTER TABLE outings ADD COLUMN heard_utc_s INTEGER;
ALTER TABLE events ADD COLUMN temperature_c REAL;
ALTER TABLE events ADD COLUMN bottom_m REAL;
