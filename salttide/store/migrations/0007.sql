-- A salt as its label prints it, how a scoop of it weighs, and whether it was put away.
ALTER TABLE salt ADD COLUMN printed TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(printed));
ALTER TABLE salt ADD COLUMN printed_at REAL NOT NULL DEFAULT 35 CHECK (printed_at BETWEEN 25 AND 42);
ALTER TABLE salt ADD COLUMN bulk_density_g_ml REAL CHECK (bulk_density_g_ml > 0);
ALTER TABLE salt ADD COLUMN away INTEGER NOT NULL DEFAULT 0 CHECK (away IN (0, 1));

CREATE TABLE bucket (
  id INTEGER PRIMARY KEY,
  salt_id INTEGER NOT NULL REFERENCES salt (id),
  opened_on TEXT NOT NULL,
  mass_g REAL NOT NULL CHECK (mass_g > 0),
  lot TEXT NOT NULL DEFAULT '',
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX bucket_by_salt ON bucket (salt_id, opened_on);

-- What a batch came out as: it teaches the bucket's real strength, and what the label leaves out.
CREATE TABLE measured_batch (
  id INTEGER PRIMARY KEY,
  salt_id INTEGER NOT NULL REFERENCES salt (id),
  bucket_id INTEGER REFERENCES bucket (id),
  day TEXT NOT NULL,
  mass_g REAL CHECK (mass_g > 0),
  volume_l REAL CHECK (volume_l > 0),
  salinity REAL NOT NULL,
  holds TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(holds)),
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;

-- An additive: a compound by its formula, or a solution of it.
CREATE TABLE additive (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE COLLATE NOCASE CHECK (length(trim(name)) BETWEEN 1 AND 60),
  formula TEXT NOT NULL,
  purity REAL NOT NULL DEFAULT 1 CHECK (purity > 0 AND purity <= 1),
  strength_g_l REAL CHECK (strength_g_l > 0),
  bulk_density_g_ml REAL CHECK (bulk_density_g_ml > 0),
  expires_on TEXT NOT NULL DEFAULT '',
  away INTEGER NOT NULL DEFAULT 0 CHECK (away IN (0, 1))
) STRICT;

CREATE TABLE food (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE COLLATE NOCASE CHECK (length(trim(name)) BETWEEN 1 AND 60),
  kind TEXT NOT NULL,
  dry_share REAL NOT NULL CHECK (dry_share > 0 AND dry_share <= 1),
  nitrogen_share REAL NOT NULL CHECK (nitrogen_share BETWEEN 0 AND 0.2),
  phosphorus_share REAL NOT NULL CHECK (phosphorus_share BETWEEN 0 AND 0.05),
  portion_g REAL NOT NULL CHECK (portion_g > 0),
  expires_on TEXT NOT NULL DEFAULT '',
  away INTEGER NOT NULL DEFAULT 0 CHECK (away IN (0, 1))
) STRICT;

-- A reagent or buffer that an instrument works with.
CREATE TABLE reagent (
  id INTEGER PRIMARY KEY,
  instrument TEXT NOT NULL,
  parameter TEXT NOT NULL,
  opened_on TEXT NOT NULL,
  expires_on TEXT NOT NULL,
  lot TEXT NOT NULL DEFAULT '',
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1)),
  FOREIGN KEY (instrument, parameter) REFERENCES instrument (name, parameter)
) STRICT;
CREATE INDEX reagent_by_instrument ON reagent (instrument, parameter, opened_on);
