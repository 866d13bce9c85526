-- Which hole of a trip diver's arm its release is set in.
ALTER TABLE line_setups ADD COLUMN release_hole TEXT;
UPDATE line_setups SET release_hole = 'middle' WHERE weight = 'trip_diver';
