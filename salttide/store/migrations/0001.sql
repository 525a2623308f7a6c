CREATE TABLE keeper (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  zone TEXT NOT NULL,
  units TEXT NOT NULL CHECK (json_valid(units)),
  salt_id INTEGER REFERENCES salt (id),
  additive TEXT NOT NULL DEFAULT 'soda_ash' CHECK (additive IN ('soda_ash', 'baking_soda'))
) STRICT;

CREATE TABLE system (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE COLLATE NOCASE CHECK (length(trim(name)) BETWEEN 1 AND 40),
  stock TEXT NOT NULL,
  stage TEXT NOT NULL CHECK (stage IN ('breaking_in', 'running')),
  panel TEXT NOT NULL CHECK (panel IN ('glass', 'acrylic')),
  length_cm REAL NOT NULL CHECK (length_cm > 0),
  width_cm REAL NOT NULL CHECK (width_cm > 0),
  depth_cm REAL NOT NULL CHECK (depth_cm > 0),
  displaced_l REAL NOT NULL CHECK (displaced_l >= 0),
  sump_l REAL NOT NULL CHECK (sump_l >= 0),
  sand TEXT NOT NULL CHECK (sand IN ('bare', 'siphoned', 'stirred', 'deep')),
  change_fraction REAL NOT NULL CHECK (change_fraction > 0 AND change_fraction <= largest_fraction),
  change_every_days INTEGER NOT NULL CHECK (change_every_days > 0),
  largest_fraction REAL NOT NULL CHECK (largest_fraction > 0 AND largest_fraction <= 1),
  method_note TEXT NOT NULL DEFAULT '',
  limit_salinity REAL NOT NULL CHECK (limit_salinity > 0),
  limit_alkalinity_meq_l REAL NOT NULL CHECK (limit_alkalinity_meq_l > 0),
  limit_temperature_c REAL NOT NULL CHECK (limit_temperature_c > 0),
  bucket_l REAL NOT NULL CHECK (bucket_l > 0),
  started_on TEXT NOT NULL
) STRICT;

CREATE TABLE band (
  system_id INTEGER NOT NULL REFERENCES system (id),
  parameter TEXT NOT NULL,
  low REAL NOT NULL,
  high REAL NOT NULL CHECK (high > low),
  PRIMARY KEY (system_id, parameter)
) STRICT, WITHOUT ROWID;

CREATE TABLE gear (
  system_id INTEGER NOT NULL REFERENCES system (id),
  kind TEXT NOT NULL,
  PRIMARY KEY (system_id, kind)
) STRICT, WITHOUT ROWID;

CREATE TABLE care_rule (
  system_id INTEGER NOT NULL REFERENCES system (id),
  task TEXT NOT NULL,
  every_days INTEGER NOT NULL CHECK (every_days > 0),
  minutes REAL NOT NULL CHECK (minutes > 0),
  PRIMARY KEY (system_id, task)
) STRICT, WITHOUT ROWID;

CREATE TABLE care_move (
  system_id INTEGER NOT NULL REFERENCES system (id),
  task TEXT NOT NULL,
  due TEXT NOT NULL,
  day TEXT NOT NULL,
  PRIMARY KEY (system_id, task, due)
) STRICT, WITHOUT ROWID;

CREATE TABLE salt (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE,
  strength_g_l REAL NOT NULL CHECK (strength_g_l > 0),
  basis TEXT NOT NULL CHECK (basis IN ('finished_water', 'fresh_water')),
  holds TEXT NOT NULL CHECK (json_valid(holds)),
  holds_from TEXT NOT NULL
) STRICT;

CREATE TABLE instrument (
  name TEXT NOT NULL,
  parameter TEXT NOT NULL,
  sd REAL NOT NULL CHECK (sd > 0),
  PRIMARY KEY (name, parameter)
) STRICT, WITHOUT ROWID;

-- Every command that records carries a key made by the client, so that a repeated request records once.
CREATE TABLE command (
  key TEXT PRIMARY KEY,
  done_at TEXT NOT NULL,
  answer TEXT NOT NULL CHECK (json_valid(answer))
) STRICT, WITHOUT ROWID;

-- The ledger of water. Append-only: a correction supersedes an entry and keeps it; a void takes it back.
CREATE TABLE entry (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  kind TEXT NOT NULL CHECK (kind IN ('reading', 'change', 'dose', 'care', 'void')),
  at TEXT NOT NULL,
  recorded_at TEXT NOT NULL,
  command TEXT NOT NULL,
  supersedes INTEGER UNIQUE REFERENCES entry (id),
  note TEXT NOT NULL DEFAULT '',
  CHECK ((kind = 'void') <= (supersedes IS NOT NULL))
) STRICT;
CREATE INDEX entry_by_system ON entry (system_id, kind, at);
CREATE INDEX entry_by_command ON entry (command);

CREATE TABLE reading (
  entry_id INTEGER PRIMARY KEY REFERENCES entry (id),
  parameter TEXT NOT NULL,
  value REAL NOT NULL,
  sd REAL NOT NULL CHECK (sd > 0),
  instrument TEXT NOT NULL
) STRICT;

CREATE TABLE change (
  entry_id INTEGER PRIMARY KEY REFERENCES entry (id),
  out_l REAL NOT NULL CHECK (out_l >= 0),
  in_l REAL NOT NULL CHECK (in_l >= 0),
  incoming TEXT NOT NULL CHECK (json_valid(incoming))
) STRICT;

CREATE TABLE dose (
  entry_id INTEGER PRIMARY KEY REFERENCES entry (id),
  additive TEXT NOT NULL,
  mass_g REAL NOT NULL CHECK (mass_g > 0),
  amounts TEXT NOT NULL CHECK (json_valid(amounts)),
  routine INTEGER NOT NULL CHECK (routine IN (0, 1))
) STRICT;

CREATE TABLE care (
  entry_id INTEGER PRIMARY KEY REFERENCES entry (id),
  task TEXT NOT NULL,
  minutes REAL NOT NULL CHECK (minutes >= 0),
  skipped INTEGER NOT NULL CHECK (skipped IN (0, 1)),
  reason TEXT NOT NULL DEFAULT '',
  CHECK (skipped = 0 OR length(reason) > 0)
) STRICT;

CREATE TRIGGER entry_is_kept BEFORE DELETE ON entry BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER entry_stays BEFORE UPDATE ON entry BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER reading_is_kept BEFORE DELETE ON reading BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER reading_stays BEFORE UPDATE ON reading BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER change_is_kept BEFORE DELETE ON change BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER change_stays BEFORE UPDATE ON change BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER dose_is_kept BEFORE DELETE ON dose BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER dose_stays BEFORE UPDATE ON dose BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER care_is_kept BEFORE DELETE ON care BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER care_stays BEFORE UPDATE ON care BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;

CREATE VIEW effective AS
  SELECT entry.* FROM entry
  WHERE kind <> 'void' AND NOT EXISTS (SELECT 1 FROM entry AS later WHERE later.supersedes = entry.id);

-- Plans: what the keeper put on the rota. A step is the job frozen as it was planned.
CREATE TABLE plan_step (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  plan TEXT NOT NULL,
  day TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('change', 'dose')),
  name TEXT NOT NULL,
  minutes REAL NOT NULL,
  job TEXT NOT NULL CHECK (json_valid(job)),
  withdrawn_by TEXT,
  done_command TEXT
) STRICT;
CREATE INDEX plan_step_open ON plan_step (system_id, day) WHERE withdrawn_by IS NULL AND done_command IS NULL;

CREATE TABLE run (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  step_id INTEGER NOT NULL REFERENCES plan_step (id),
  runbook TEXT NOT NULL,
  job TEXT NOT NULL CHECK (json_valid(job)),
  started_at TEXT NOT NULL,
  ended_at TEXT,
  abandoned_because TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE UNIQUE INDEX run_open ON run (step_id) WHERE ended_at IS NULL;

CREATE TABLE run_answer (
  id INTEGER PRIMARY KEY,
  run_id INTEGER NOT NULL REFERENCES run (id),
  step TEXT NOT NULL,
  kind TEXT NOT NULL,
  item TEXT NOT NULL,
  value REAL,
  text TEXT NOT NULL,
  at TEXT NOT NULL
) STRICT;
CREATE INDEX run_answer_by_run ON run_answer (run_id, id);
