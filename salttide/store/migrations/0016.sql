-- The rota: what the keeper chose for each task, tasks of their own, minutes and absences, where work is placed, and what
-- was found when it was done. A task without a choice is kept as its kind says.
CREATE TABLE care_choice (
  system_id INTEGER NOT NULL REFERENCES system (id),
  task TEXT NOT NULL,
  off INTEGER NOT NULL DEFAULT 0 CHECK (off IN (0, 1)),
  every_days INTEGER CHECK (every_days > 0),
  minutes REAL CHECK (minutes > 0),
  weekdays TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(weekdays)),
  zones TEXT CHECK (zones IS NULL OR json_valid(zones)),
  most REAL CHECK (most > 0),
  PRIMARY KEY (system_id, task)
) STRICT, WITHOUT ROWID;
INSERT INTO care_choice (system_id, task, every_days)
  SELECT system_id, task, every_days FROM care_rule
  WHERE (task = 'scrape_front' AND every_days <> 6) OR (task = 'skimmer_cup' AND every_days <> 4);
DROP TABLE care_rule;

CREATE TABLE own_task (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  name TEXT NOT NULL CHECK (length(trim(name)) BETWEEN 2 AND 40),
  every_days INTEGER NOT NULL CHECK (every_days > 0),
  minutes REAL NOT NULL CHECK (minutes > 0),
  note TEXT NOT NULL DEFAULT '',
  phase TEXT NOT NULL,
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX own_task_by_system ON own_task (system_id) WHERE void = 0;
CREATE INDEX own_task_by_command ON own_task (command);

-- week_minutes: from Monday on · day_minutes: single days that differ.
ALTER TABLE keeper ADD COLUMN week_minutes TEXT CHECK (week_minutes IS NULL OR json_valid(week_minutes));
CREATE TABLE day_minutes (
  day TEXT PRIMARY KEY,
  minutes REAL NOT NULL CHECK (minutes BETWEEN 0 AND 1440)
) STRICT, WITHOUT ROWID;

-- uid: of the entry it was imported from, empty where it was typed.
CREATE TABLE away (
  id INTEGER PRIMARY KEY,
  first TEXT NOT NULL,
  last TEXT NOT NULL CHECK (last >= first),
  note TEXT NOT NULL DEFAULT '',
  uid TEXT NOT NULL DEFAULT '',
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX away_by_command ON away (command);

-- used_by: the command that did or skipped what was moved.
ALTER TABLE care_move ADD COLUMN used_by TEXT;

-- live: it stands so now; what does not is remembered for when something is taken back.
CREATE TABLE care_placing (
  system_id INTEGER NOT NULL REFERENCES system (id),
  task TEXT NOT NULL,
  due TEXT NOT NULL,
  day TEXT NOT NULL,
  minutes REAL NOT NULL CHECK (minutes >= 0),
  live INTEGER NOT NULL DEFAULT 1 CHECK (live IN (0, 1)),
  PRIMARY KEY (system_id, task, due)
) STRICT, WITHOUT ROWID;

-- timed: the minutes were measured · zone: the part that was done · found: what was found, by key.
ALTER TABLE care ADD COLUMN timed INTEGER NOT NULL DEFAULT 0 CHECK (timed IN (0, 1));
ALTER TABLE care ADD COLUMN zone TEXT NOT NULL DEFAULT '';
ALTER TABLE care ADD COLUMN found TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(found));
CREATE INDEX care_by_task ON care (task, entry_id);
