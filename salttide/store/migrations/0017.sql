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

-- An absence handed over to a carer; token: the secret in the address of the carer's page, NULL while there is none.
CREATE TABLE hand_over (
  away_id INTEGER PRIMARY KEY REFERENCES away (id),
  every_days INTEGER NOT NULL CHECK (every_days BETWEEN 1 AND 7),
  carer TEXT NOT NULL DEFAULT '',
  phone TEXT NOT NULL,
  other_phone TEXT NOT NULL DEFAULT '',
  note TEXT NOT NULL DEFAULT '',
  notes TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(notes)),
  token TEXT UNIQUE
) STRICT;

-- What a carer reports of a visit to one system; taken_by: the command that took it into the record, or set it aside.
CREATE TABLE visit_report (
  id INTEGER PRIMARY KEY,
  away_id INTEGER NOT NULL REFERENCES away (id),
  system_id INTEGER NOT NULL REFERENCES system (id),
  at TEXT NOT NULL,
  done TEXT NOT NULL CHECK (json_valid(done)),
  measured TEXT NOT NULL CHECK (json_valid(measured)),
  found TEXT NOT NULL DEFAULT '',
  used TEXT NOT NULL DEFAULT '',
  advised TEXT NOT NULL DEFAULT '',
  pictures TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(pictures)),
  command TEXT NOT NULL,
  taken_by TEXT,
  aside INTEGER NOT NULL DEFAULT 0 CHECK (aside IN (0, 1))
) STRICT;
CREATE INDEX visit_report_by_away ON visit_report (away_id);

-- Work split over two days: its first part, and the rest on a day. first_by, used_by: the commands that did them.
CREATE TABLE care_split (
  system_id INTEGER NOT NULL REFERENCES system (id),
  task TEXT NOT NULL,
  due TEXT NOT NULL,
  first_minutes REAL NOT NULL CHECK (first_minutes > 0),
  rest_day TEXT NOT NULL,
  first_by TEXT,
  used_by TEXT,
  PRIMARY KEY (system_id, task, due)
) STRICT, WITHOUT ROWID;
