-- The work at the tank: batches of new water with what happened to them, runbooks on anything, and what is come back to.
CREATE TABLE plan_step_new (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  plan TEXT NOT NULL,
  day TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('change', 'dose', 'look')),
  name TEXT NOT NULL,
  minutes REAL NOT NULL,
  job TEXT NOT NULL CHECK (json_valid(job)),
  withdrawn_by TEXT,
  done_command TEXT
) STRICT;
INSERT INTO plan_step_new SELECT * FROM plan_step;
DROP TABLE plan_step;
ALTER TABLE plan_step_new RENAME TO plan_step;
CREATE INDEX plan_step_open ON plan_step (system_id, day) WHERE withdrawn_by IS NULL AND done_command IS NULL;

-- job: the batch as it was planned, frozen.
CREATE TABLE batch (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  salt_id INTEGER NOT NULL REFERENCES salt (id),
  job TEXT NOT NULL CHECK (json_valid(job)),
  portions TEXT NOT NULL CHECK (json_valid(portions)),
  made_at TEXT NOT NULL,
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;

-- amount: grams or litres · held: measured values (canonical).
CREATE TABLE batch_event (
  id INTEGER PRIMARY KEY,
  batch_id INTEGER NOT NULL REFERENCES batch (id),
  at TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN
    ('salted', 'resting', 'measured', 'salt', 'fresh', 'dosed', 'out', 'matched', 'used', 'thrown')),
  amount REAL NOT NULL CHECK (amount >= 0),
  held TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(held)),
  item TEXT NOT NULL DEFAULT '',
  system_id INTEGER REFERENCES system (id),
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX batch_event_by_batch ON batch_event (batch_id, at);
CREATE INDEX batch_event_by_command ON batch_event (command);
CREATE INDEX batch_by_command ON batch (command);

-- A run works on a planned step, on a batch, or on a system as it is.
CREATE TABLE run_new (
  id INTEGER PRIMARY KEY,
  system_id INTEGER REFERENCES system (id),
  step_id INTEGER REFERENCES plan_step (id),
  batch_id INTEGER REFERENCES batch (id),
  runbook TEXT NOT NULL,
  job TEXT NOT NULL CHECK (json_valid(job)),
  started_at TEXT NOT NULL,
  ended_at TEXT,
  abandoned_because TEXT NOT NULL DEFAULT '',
  CHECK (system_id IS NOT NULL OR batch_id IS NOT NULL)
) STRICT;
INSERT INTO run_new (id, system_id, step_id, runbook, job, started_at, ended_at, abandoned_because)
  SELECT id, system_id, step_id, runbook, job, started_at, ended_at, abandoned_because FROM run;
DROP TABLE run;
ALTER TABLE run_new RENAME TO run;
CREATE UNIQUE INDEX run_of_step ON run (step_id) WHERE ended_at IS NULL AND step_id IS NOT NULL;
CREATE UNIQUE INDEX run_of_batch ON run (batch_id) WHERE ended_at IS NULL AND batch_id IS NOT NULL;
CREATE UNIQUE INDEX run_of_system ON run (system_id, runbook)
  WHERE ended_at IS NULL AND step_id IS NULL AND batch_id IS NULL;

-- ticked_at: by the machine's clock, which timers go by also where the keeper's is pinned.
ALTER TABLE run_answer ADD COLUMN ticked_at TEXT;
UPDATE run_answer SET ticked_at = at;
-- Steps of the one runbook there was have got other names since.
UPDATE run SET ended_at = started_at, abandoned_because = 'the steps of this runbook were written anew'
  WHERE ended_at IS NULL;

-- What was ticked of the kit for a day's visit.
CREATE TABLE kit_tick (
  system_id INTEGER NOT NULL REFERENCES system (id),
  day TEXT NOT NULL,
  item TEXT NOT NULL,
  PRIMARY KEY (system_id, day, item)
) STRICT, WITHOUT ROWID;

-- Hoses, pumps and levels for work at the tank, and how long an animal bears the air.
ALTER TABLE system ADD COLUMN service TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(service));
ALTER TABLE animal ADD COLUMN air_min REAL CHECK (air_min > 0);
