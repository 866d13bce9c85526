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

-- Changes whenever a rig, a part or what was seen of them does, so that a box of thousands is read once and not for each page.
CREATE TABLE box_stamp (
    id INTEGER PRIMARY KEY CHECK (id = 1),
    stamp INTEGER NOT NULL
) STRICT;
INSERT INTO box_stamp VALUES (1, random());
CREATE TRIGGER box_rigs_i AFTER INSERT ON rigs BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_rigs_u AFTER UPDATE ON rigs BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_rigs_d AFTER DELETE ON rigs BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_versions_i AFTER INSERT ON rig_versions BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_versions_u AFTER UPDATE ON rig_versions BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_versions_d AFTER DELETE ON rig_versions BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_pieces_i AFTER INSERT ON rig_pieces BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_pieces_u AFTER UPDATE ON rig_pieces BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_pieces_d AFTER DELETE ON rig_pieces BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_parts_i AFTER INSERT ON parts BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_parts_u AFTER UPDATE ON parts BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_parts_d AFTER DELETE ON parts BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_dunks_i AFTER INSERT ON dunk_tests BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_dunks_u AFTER UPDATE ON dunk_tests BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_dunks_d AFTER DELETE ON dunk_tests BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_settings_i AFTER INSERT ON settings WHEN NEW.name = 'count' BEGIN UPDATE box_stamp SET stamp = random(); END;
CREATE TRIGGER box_settings_u AFTER UPDATE ON settings WHEN NEW.name = 'count' BEGIN UPDATE box_stamp SET stamp = random(); END;
