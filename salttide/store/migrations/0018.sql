-- The least mass in g that the keeper's scale can weigh: a lighter dose is given as mL of a stock solution.
ALTER TABLE keeper ADD COLUMN scale_g REAL NOT NULL DEFAULT 0.05 CHECK (scale_g BETWEEN 0.001 AND 10);

-- Water changes that were ticked off without litres, which the keeper left as they are.
CREATE TABLE change_left (
  entry_id INTEGER PRIMARY KEY REFERENCES entry (id),
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
