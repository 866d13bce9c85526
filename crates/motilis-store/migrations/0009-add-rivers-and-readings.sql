-- Which waters are rivers, fished by casting; and temperatures read at several places on an outing; what is
-- left of a trimmed skirt; the line a dive table was measured on; what lies over a
-- finish (`RD` clear red lacquer, `BK 30` black on 30 per cent), and the angler's own name of a size.
ALTER TABLE waters ADD COLUMN river INTEGER NOT NULL DEFAULT 0 CHECK (river IN (0, 1));
ALTER TABLE rig_versions ADD COLUMN skirt_m REAL CHECK (skirt_m > 0);
ALTER TABLE lures ADD COLUMN line_material TEXT;
ALTER TABLE lures ADD COLUMN line_test_lb INTEGER CHECK (line_test_lb > 0);
ALTER TABLE lures ADD COLUMN line_diameter_m REAL CHECK (line_diameter_m > 0);
ALTER TABLE parts ADD COLUMN cover TEXT;
ALTER TABLE parts ADD COLUMN back_cover TEXT;
ALTER TABLE parts ADD COLUMN size_name TEXT NOT NULL DEFAULT '';

CREATE TABLE temperature_readings (
    id INTEGER PRIMARY KEY,
    outing_id INTEGER NOT NULL REFERENCES outings (id),
    place TEXT NOT NULL CHECK (length(trim(place)) > 0),
    at_utc_s INTEGER NOT NULL,
    depth_m REAL NOT NULL CHECK (depth_m >= 0),
    temperature_c REAL NOT NULL,
    deleted_utc_s INTEGER
) STRICT;
CREATE INDEX temperature_readings_by_outing ON temperature_readings (outing_id);
