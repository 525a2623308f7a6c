-- The whole of a set-up: shapes beside the box, a sump by its measures, a volume measured by salt, sand and rock.
ALTER TABLE system ADD COLUMN shape TEXT NOT NULL DEFAULT 'box'
  CHECK (shape IN ('box', 'bow_front', 'cylinder', 'quarter_round', 'hexagon'));
ALTER TABLE system ADD COLUMN bow_cm REAL NOT NULL DEFAULT 0 CHECK (bow_cm >= 0);
-- displaced_l is what was stated, or what follows from rock and sand where `reckoned` says so.
ALTER TABLE system ADD COLUMN reckoned INTEGER NOT NULL DEFAULT 0 CHECK (reckoned IN (0, 1));
ALTER TABLE system ADD COLUMN sand_bed_cm REAL NOT NULL DEFAULT 0 CHECK (sand_bed_cm >= 0);
ALTER TABLE system ADD COLUMN rock_kg REAL NOT NULL DEFAULT 0 CHECK (rock_kg >= 0);
ALTER TABLE system ADD COLUMN sump TEXT CHECK (sump IS NULL OR json_valid(sump));
ALTER TABLE system ADD COLUMN salt_test TEXT CHECK (salt_test IS NULL OR json_valid(salt_test));
ALTER TABLE system ADD COLUMN clean_panels TEXT NOT NULL DEFAULT '["front"]' CHECK (json_valid(clean_panels));
ALTER TABLE system ADD COLUMN source_water TEXT NOT NULL DEFAULT 'purified'
  CHECK (source_water IN ('purified', 'membrane', 'distilled', 'tap'));
ALTER TABLE system ADD COLUMN schools TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(schools));
ALTER TABLE system ADD COLUMN archived_at TEXT;

-- Where gear sits, and how much water stands over its top with the pumps off.
ALTER TABLE gear ADD COLUMN place TEXT NOT NULL DEFAULT 'display' CHECK (place IN ('display', 'sump', 'outside'));
ALTER TABLE gear ADD COLUMN cover_cm REAL CHECK (cover_cm >= 0);

-- Each set-up as it was stored, with its volume, so that an edit does not rewrite the past. since: '' for always.
CREATE TABLE system_version (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  at TEXT NOT NULL,
  setup TEXT NOT NULL CHECK (json_valid(setup))
) STRICT;
CREATE INDEX system_version_by_system ON system_version (system_id, id);
CREATE TRIGGER system_version_is_kept BEFORE DELETE ON system_version
  BEGIN SELECT RAISE(ABORT, 'what was set up is kept'); END;
CREATE TABLE system_volume (
  system_id INTEGER NOT NULL REFERENCES system (id),
  since TEXT NOT NULL,
  volume_l REAL NOT NULL CHECK (volume_l > 0),
  PRIMARY KEY (system_id, since)
) STRICT, WITHOUT ROWID;
INSERT INTO system_volume
  SELECT id, '', length_cm * width_cm * depth_cm / 1000.0 - displaced_l + sump_l FROM system;

CREATE TABLE animal (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  name TEXT NOT NULL CHECK (length(trim(name)) BETWEEN 1 AND 60),
  demand TEXT NOT NULL CHECK (demand IN ('hardy', 'moderate', 'demanding')),
  tolerances TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(tolerances)),
  limits TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(limits)),
  portions REAL NOT NULL DEFAULT 0 CHECK (portions >= 0),
  away INTEGER NOT NULL DEFAULT 0 CHECK (away IN (0, 1))
) STRICT;
-- How the number of an animal came about: the last count, and what came and went since.
CREATE TABLE animal_turn (
  id INTEGER PRIMARY KEY,
  animal_id INTEGER NOT NULL REFERENCES animal (id),
  day TEXT NOT NULL,
  turn TEXT NOT NULL CHECK (turn IN ('added', 'born', 'lost', 'given away', 'counted')),
  number INTEGER NOT NULL CHECK (number >= 0),
  cause TEXT NOT NULL DEFAULT '',
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX animal_turn_by_animal ON animal_turn (animal_id, id);

-- Light is a managed quantity: each setting from a day on, and what was measured at named points.
CREATE TABLE light (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  since TEXT NOT NULL,
  on_at TEXT NOT NULL,
  off_at TEXT NOT NULL,
  ramp_minutes REAL NOT NULL CHECK (ramp_minutes >= 0),
  spectrum TEXT NOT NULL DEFAULT '',
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE TABLE par (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  day TEXT NOT NULL,
  point TEXT NOT NULL CHECK (length(trim(point)) BETWEEN 1 AND 60),
  umol REAL NOT NULL CHECK (umol >= 0),
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
