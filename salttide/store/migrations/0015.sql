-- Dosing: containers with their pumps and what happened to them, how the keeper doses, and what is stepped up slowly.
-- additive: as it was when the container was set up, frozen.
CREATE TABLE container (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  name TEXT NOT NULL CHECK (length(trim(name)) BETWEEN 1 AND 60),
  additive TEXT NOT NULL CHECK (json_valid(additive)),
  capacity_ml REAL NOT NULL CHECK (capacity_ml > 0),
  level_sd_ml REAL NOT NULL CHECK (level_sd_ml > 0),
  pump TEXT NOT NULL DEFAULT '',
  set_name TEXT NOT NULL DEFAULT '',
  step_ml REAL NOT NULL CHECK (step_ml > 0),
  least_ml REAL NOT NULL CHECK (least_ml >= 0),
  command TEXT NOT NULL,
  away_by TEXT,
  away_at TEXT,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX container_by_system ON container (system_id) WHERE void = 0;
CREATE INDEX container_by_command ON container (command);

-- ml: contents after 'filled' and 'level', mL a day of 'set', mL/min of 'calibrated' · slots: [[minute, mL], ...].
CREATE TABLE container_event (
  id INTEGER PRIMARY KEY,
  container_id INTEGER NOT NULL REFERENCES container (id),
  at TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('filled', 'level', 'set', 'calibrated', 'tube')),
  ml REAL NOT NULL CHECK (ml >= 0),
  before_ml REAL CHECK (before_ml >= 0),
  slots TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(slots)),
  note TEXT NOT NULL DEFAULT '',
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX container_event_by_container ON container_event (container_id, at);
CREATE INDEX container_event_by_command ON container_event (command);

-- What the keeper chose for the daily dose, as it was adopted; the latest that is not void counts.
CREATE TABLE dosing_wish (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  wish TEXT NOT NULL CHECK (json_valid(wish)),
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX dosing_wish_by_system ON dosing_wish (system_id);

-- amount: g of media, or mmol of carbon for each litre a day · full_g: of media by its own sheet.
CREATE TABLE stepped (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  at TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('media', 'carbon')),
  amount REAL NOT NULL CHECK (amount >= 0),
  full_g REAL CHECK (full_g > 0),
  source TEXT NOT NULL DEFAULT '',
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX stepped_by_system ON stepped (system_id, kind, at);
CREATE INDEX stepped_by_command ON stepped (command);
