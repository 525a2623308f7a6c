-- What an instrument showed before its checks corrected it, and how the value came about.
ALTER TABLE reading ADD COLUMN raw REAL;
ALTER TABLE reading ADD COLUMN how TEXT NOT NULL DEFAULT '';

-- What one counted drop or division is worth, canonical; 0 where the instrument does not count. An instrument that is
-- put away stays for the readings it made.
ALTER TABLE instrument ADD COLUMN per_count REAL NOT NULL DEFAULT 0 CHECK (per_count >= 0);
ALTER TABLE instrument ADD COLUMN away INTEGER NOT NULL DEFAULT 0 CHECK (away IN (0, 1));

-- Checks against a standard, canonical values. Those of the last calibration count: the latest per standard.
CREATE TABLE instrument_check (
  id INTEGER PRIMARY KEY,
  instrument TEXT NOT NULL,
  parameter TEXT NOT NULL,
  at TEXT NOT NULL,
  standard REAL NOT NULL,
  reading REAL NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1)),
  FOREIGN KEY (instrument, parameter) REFERENCES instrument (name, parameter)
) STRICT;
CREATE INDEX instrument_check_by_instrument ON instrument_check (instrument, parameter, at);
