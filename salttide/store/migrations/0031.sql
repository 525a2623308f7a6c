-- What is watched of a system, canonical; a contact has no low limit.
CREATE TABLE alarm_limit (
  system_id INTEGER NOT NULL REFERENCES system (id),
  signal TEXT NOT NULL,
  low REAL,
  high REAL,
  back REAL NOT NULL CHECK (back >= 0),
  hold_min REAL NOT NULL CHECK (hold_min BETWEEN 0 AND 720),
  wakes INTEGER NOT NULL CHECK (wakes IN (0, 1)),
  PRIMARY KEY (system_id, signal),
  CHECK (low IS NOT NULL OR high IS NOT NULL),
  CHECK (low < high)
) STRICT, WITHOUT ROWID;

-- Who is told, and how: one row.
CREATE TABLE alarm_setup (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  setup TEXT NOT NULL CHECK (json_valid(setup))
) STRICT;

-- How each sensor stands against its limit. Moments are seconds since 1970.
CREATE TABLE alarm_sensor (
  system_id INTEGER NOT NULL REFERENCES system (id),
  signal TEXT NOT NULL,
  sensor TEXT NOT NULL CHECK (length(trim(sensor)) BETWEEN 1 AND 60),
  at INTEGER NOT NULL,
  value REAL NOT NULL CHECK (value BETWEEN -10000 AND 100000),
  every_s REAL NOT NULL CHECK (every_s > 0),
  since INTEGER,
  side TEXT NOT NULL CHECK (side IN ('low', 'high')),
  worst REAL NOT NULL CHECK (worst BETWEEN -10000 AND 100000),
  counts INTEGER NOT NULL CHECK (counts IN (0, 1)),
  PRIMARY KEY (system_id, signal, sensor)
) STRICT, WITHOUT ROWID;

CREATE TABLE alarm (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  signal TEXT NOT NULL,
  sensor TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('limit', 'silent', 'stuck', 'out_of_water', 'drifting')),
  began_at TEXT NOT NULL,
  raised_at TEXT NOT NULL,
  side TEXT NOT NULL CHECK (side IN ('low', 'high')),
  passed REAL NOT NULL CHECK (passed BETWEEN -10000 AND 100000),
  value REAL NOT NULL CHECK (value BETWEEN -10000 AND 100000),
  worst REAL NOT NULL CHECK (worst BETWEEN -10000 AND 100000),
  wakes INTEGER NOT NULL CHECK (wakes IN (0, 1)),
  over_at TEXT,
  ended TEXT CHECK (ended IN ('back', 'limit_changed', 'corrected')),
  seen_at TEXT,
  seen_by TEXT NOT NULL DEFAULT '',
  CHECK ((over_at IS NULL) = (ended IS NULL))
) STRICT;
CREATE UNIQUE INDEX alarm_open ON alarm (system_id, signal, sensor, kind) WHERE over_at IS NULL;
CREATE INDEX alarm_by_time ON alarm (raised_at);
CREATE TRIGGER alarm_is_kept BEFORE DELETE ON alarm BEGIN SELECT RAISE(ABORT, 'alarms are kept'); END;

-- What was sent or waits to be sent; next_at: when it is tried, null once it was sent or given up.
CREATE TABLE alarm_message (
  alarm_id INTEGER NOT NULL REFERENCES alarm (id),
  contact TEXT NOT NULL,
  channel TEXT NOT NULL CHECK (channel IN ('webhook', 'email')),
  occasion TEXT NOT NULL CHECK (occasion IN ('began', 'over')),
  round INTEGER NOT NULL CHECK (round >= 0),
  due_at TEXT NOT NULL,
  next_at TEXT,
  sent_at TEXT,
  tries INTEGER NOT NULL DEFAULT 0 CHECK (tries >= 0),
  fault TEXT NOT NULL DEFAULT '',
  PRIMARY KEY (alarm_id, contact, channel, occasion, round)
) STRICT, WITHOUT ROWID;
CREATE INDEX alarm_message_waits ON alarm_message (next_at) WHERE next_at IS NOT NULL;

-- Where a system's readings come from by themselves. url: asked every minute, empty where it only sends · token: what it
-- sends under, empty where it may not.
CREATE TABLE controller (
  system_id INTEGER PRIMARY KEY REFERENCES system (id),
  url TEXT NOT NULL DEFAULT '',
  token TEXT NOT NULL DEFAULT '',
  asked_at TEXT,
  heard_at TEXT,
  fault TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE UNIQUE INDEX controller_token ON controller (token) WHERE token <> '';
