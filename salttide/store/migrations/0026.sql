-- Water poured in by hand to move salinity is planned work; a remedy that was chosen is a case, with what was expected of it.
CREATE TABLE plan_step_new (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  plan TEXT NOT NULL,
  day TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('change', 'dose', 'water', 'look')),
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
CREATE TRIGGER plan_step_bounds_insert BEFORE INSERT ON plan_step WHEN
  NEW.minutes NOT BETWEEN 0 AND 100000 OR (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of plan_step'); END;
CREATE TRIGGER plan_step_bounds_update BEFORE UPDATE OF minutes, day ON plan_step WHEN
  NEW.minutes NOT BETWEEN 0 AND 100000 OR (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of plan_step'); END;

-- cause: the rule whose finding it is for · plan: the steps on the rota that belong to it · chosen: the remedy as it was
-- chosen, with its expected course.
CREATE TABLE remedy_case (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  cause TEXT NOT NULL,
  parameter TEXT NOT NULL,
  plan TEXT NOT NULL,
  opened_at TEXT NOT NULL CHECK (opened_at BETWEEN '1970' AND '2200'),
  chosen TEXT NOT NULL CHECK (json_valid(chosen)),
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX remedy_case_by_system ON remedy_case (system_id, id);

CREATE TABLE case_turn (
  id INTEGER PRIMARY KEY,
  case_id INTEGER NOT NULL REFERENCES remedy_case (id),
  at TEXT NOT NULL CHECK (at BETWEEN '1970' AND '2200'),
  kind TEXT NOT NULL CHECK (kind IN ('paused', 'resumed', 'ended', 'abandoned', 'replaced')),
  because TEXT NOT NULL DEFAULT '' CHECK (length(because) <= 500),
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX case_turn_by_case ON case_turn (case_id, id);

-- Which kind of remedy a keeper chose for a cause: offered first from then on. Empty: taken back.
CREATE TABLE remedy_preference (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  cause TEXT NOT NULL,
  remedy TEXT NOT NULL,
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX remedy_preference_by_system ON remedy_preference (system_id, id);
