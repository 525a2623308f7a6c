-- The aim of a parameter inside its band, where the keeper chose one, and why.
ALTER TABLE band ADD COLUMN aim REAL CHECK (aim BETWEEN low AND high);
ALTER TABLE band ADD COLUMN aim_reason TEXT NOT NULL DEFAULT '' CHECK (length(aim_reason) <= 200);
