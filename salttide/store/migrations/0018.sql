-- The least mass in g that the keeper's scale can weigh: a lighter dose is given as mL of a stock solution.
ALTER TABLE keeper ADD COLUMN scale_g REAL NOT NULL DEFAULT 0.05 CHECK (scale_g BETWEEN 0.001 AND 10);

-- Water changes that were ticked off without litres, which the keeper left as they are.
CREATE TABLE change_left (
  entry_id INTEGER PRIMARY KEY REFERENCES entry (id),
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;

-- What a command asked for: a hash of its method, path and body, so that its key is not taken for something else.
ALTER TABLE command ADD COLUMN asked TEXT NOT NULL DEFAULT '';

-- Every household has its identity from the start: to give the calendar out is not to write.
INSERT INTO calendar (only, home, told_as, begins, alarm_minutes)
  SELECT 1, lower(hex(randomblob(8))), 'event', '18:00', 15 WHERE NOT EXISTS (SELECT 1 FROM calendar);

-- How the rota stood before a command, for the way back: rows of care_placing.
CREATE TABLE placing_before (
  id INTEGER PRIMARY KEY,
  command TEXT NOT NULL UNIQUE,
  placings TEXT NOT NULL CHECK (json_valid(placings))
) STRICT;
