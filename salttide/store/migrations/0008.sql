-- Fresh water that replaced what evaporated, and food: two more kinds of entries.
INSERT INTO entry_kind VALUES ('top_off'), ('feed');

CREATE TABLE top_off (
  entry_id INTEGER PRIMARY KEY REFERENCES entry (id),
  litres REAL NOT NULL CHECK (litres > 0)
) STRICT;

-- brought: mg of nitrate and phosphate once all is broken down, as the food stood on the shelf then.
CREATE TABLE feed (
  entry_id INTEGER PRIMARY KEY REFERENCES entry (id),
  food TEXT NOT NULL,
  portions REAL NOT NULL CHECK (portions > 0),
  grams REAL NOT NULL CHECK (grams > 0),
  brought TEXT NOT NULL CHECK (json_valid(brought))
) STRICT;

CREATE TRIGGER top_off_is_kept BEFORE DELETE ON top_off BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER top_off_stays BEFORE UPDATE ON top_off BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER feed_is_kept BEFORE DELETE ON feed BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER feed_stays BEFORE UPDATE ON feed BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
