-- The calendar: how the keeper wants it, the address it may be asked for under, and what was given out last.
-- home: part of every entry's identity · token: NULL while there is no address · asked_at: by a calendar program.
CREATE TABLE calendar (
  only INTEGER PRIMARY KEY CHECK (only = 1),
  home TEXT NOT NULL,
  token TEXT,
  told_as TEXT NOT NULL CHECK (told_as IN ('event', 'to_do')),
  begins TEXT NOT NULL,
  alarm_minutes INTEGER CHECK (alarm_minutes BETWEEN 0 AND 1440),
  asked_at TEXT
) STRICT;
CREATE TABLE calendar_entry (
  uid TEXT PRIMARY KEY,
  entry TEXT NOT NULL CHECK (json_valid(entry)),
  sequence INTEGER NOT NULL CHECK (sequence >= 0),
  changed TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- void_by: the import that an absence gave way to.
ALTER TABLE away ADD COLUMN void_by TEXT;

-- Parts of gear: what the keeper told of them. NULL: as usual, or not told. spares: on the shelf at counted_at.
CREATE TABLE part (
  system_id INTEGER NOT NULL REFERENCES system (id),
  part TEXT NOT NULL,
  since TEXT,
  hours_per_day REAL CHECK (hours_per_day > 0 AND hours_per_day <= 24),
  most_hours REAL CHECK (most_hours > 0),
  most_days INTEGER CHECK (most_days > 0),
  spares INTEGER CHECK (spares BETWEEN 0 AND 99),
  counted_at TEXT,
  note TEXT NOT NULL DEFAULT '',
  PRIMARY KEY (system_id, part)
) STRICT, WITHOUT ROWID;
