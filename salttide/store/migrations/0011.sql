-- The whole balance of water: another system's water, limewater and salt water, evaporation, and what was harvested.
INSERT INTO entry_kind VALUES ('evaporation'), ('harvest');
ALTER TABLE change ADD COLUMN source_id INTEGER REFERENCES system (id);
-- What a litre of top-off holds (canonical); fresh water holds nothing.
ALTER TABLE top_off ADD COLUMN holds TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(holds));

CREATE TABLE evaporation (
  entry_id INTEGER PRIMARY KEY REFERENCES entry (id),
  litres REAL NOT NULL CHECK (litres > 0)
) STRICT;

-- bound: mg of nitrate and phosphate that were taken out with it.
CREATE TABLE harvest (
  entry_id INTEGER PRIMARY KEY REFERENCES entry (id),
  what TEXT NOT NULL,
  grams REAL NOT NULL CHECK (grams > 0),
  bound TEXT NOT NULL CHECK (json_valid(bound))
) STRICT;

CREATE TRIGGER evaporation_is_kept BEFORE DELETE ON evaporation
  BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER evaporation_stays BEFORE UPDATE ON evaporation
  BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER harvest_is_kept BEFORE DELETE ON harvest BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER harvest_stays BEFORE UPDATE ON harvest BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
