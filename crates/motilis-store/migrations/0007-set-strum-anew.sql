-- The usual strumming factor of a line nobody has calibrated: it counts only where vortices are shed now, and is fitted
-- to practice anew.
UPDATE line_setups SET strum = 1.3 WHERE abs(strum - 1.2) < 1e-9;
