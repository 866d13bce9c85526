-- Records that cannot be read or name something that is not there, out of the way until somebody puts them back.
CREATE TABLE set_aside (
    id INTEGER PRIMARY KEY,
    record_table TEXT NOT NULL,
    record TEXT NOT NULL CHECK (json_valid(record)),
    why TEXT NOT NULL,
    at_utc_s INTEGER NOT NULL
) STRICT;

-- What is looked for by its rig, by its name, or among twenty years of outings.
CREATE INDEX outings_by_start ON outings (started_utc_s);
CREATE INDEX events_by_rig ON events (rig_id) WHERE rig_id IS NOT NULL;
CREATE INDEX passes_by_rig ON passes (rig_id) WHERE rig_id IS NOT NULL;
CREATE INDEX rig_pieces_by_part ON rig_pieces (part_id);
CREATE INDEX acts_by_undone ON acts (undone_by) WHERE undone_by IS NOT NULL;
CREATE INDEX acts_by_undoes ON acts (undoes) WHERE undoes IS NOT NULL;
