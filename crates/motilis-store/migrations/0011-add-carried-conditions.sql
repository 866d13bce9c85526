-- Which conditions of an outing were carried over from the one before and have not been confirmed yet, by their names in
-- the form, with commas between.
ALTER TABLE outings ADD COLUMN carried TEXT NOT NULL DEFAULT '';
