-- What a probe wrote: raw, and rolled up by hour, six hours, day, week and four weeks, so that ten years open like a week.
CREATE TABLE probe_series (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  parameter TEXT NOT NULL,
  instrument TEXT NOT NULL CHECK (length(trim(instrument)) BETWEEN 1 AND 60),
  every_s REAL NOT NULL CHECK (every_s > 0),
  UNIQUE (system_id, parameter, instrument)
) STRICT;

-- at: seconds since 1970-01-01T00:00Z · import_number: 0, or the import that brought it; it counts while that is done.
CREATE TABLE probe (
  series_id INTEGER NOT NULL REFERENCES probe_series (id),
  at INTEGER NOT NULL,
  import_number INTEGER NOT NULL DEFAULT 0,
  value REAL NOT NULL,
  PRIMARY KEY (series_id, at, import_number)
) STRICT, WITHOUT ROWID;
-- dense: which series of the file are a probe's, with their first and last moment.
ALTER TABLE import ADD COLUMN number INTEGER;
ALTER TABLE import ADD COLUMN dense TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(dense));
UPDATE import SET number = (SELECT count(*) FROM import AS earlier WHERE earlier.command <= import.command);

CREATE TABLE probe_roll (
  series_id INTEGER NOT NULL REFERENCES probe_series (id),
  span_s INTEGER NOT NULL,
  at INTEGER NOT NULL,
  count INTEGER NOT NULL,
  low REAL NOT NULL,
  mean REAL NOT NULL,
  high REAL NOT NULL,
  PRIMARY KEY (series_id, span_s, at)
) STRICT, WITHOUT ROWID;

CREATE TRIGGER probe_is_kept BEFORE DELETE ON probe BEGIN SELECT RAISE(ABORT, 'what a probe wrote is kept'); END;
CREATE TRIGGER probe_stays BEFORE UPDATE ON probe BEGIN SELECT RAISE(ABORT, 'what a probe wrote is kept'); END;

-- What is dosed every day from a day on, as the keeper planned it: the latest that is not void is in force.
CREATE TABLE daily_plan (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  since TEXT NOT NULL,
  doses TEXT NOT NULL CHECK (json_valid(doses)),
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX daily_plan_by_system ON daily_plan (system_id, id);
