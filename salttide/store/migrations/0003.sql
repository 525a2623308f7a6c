-- The kinds of entries become rows, so that a later kind is a row and no rebuilt table. Look-rounds and happenings are new.
CREATE TABLE entry_kind (kind TEXT PRIMARY KEY) STRICT, WITHOUT ROWID;
INSERT INTO entry_kind VALUES ('reading'), ('change'), ('dose'), ('care'), ('void'), ('look'), ('happening');

DROP VIEW effective;
DROP TRIGGER entry_is_kept;
DROP TRIGGER entry_stays;
CREATE TABLE entry_anew (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  kind TEXT NOT NULL REFERENCES entry_kind (kind),
  at TEXT NOT NULL,
  recorded_at TEXT NOT NULL,
  command TEXT NOT NULL,
  supersedes INTEGER REFERENCES entry (id),
  note TEXT NOT NULL DEFAULT '',
  CHECK ((kind = 'void') <= (supersedes IS NOT NULL))
) STRICT;
INSERT INTO entry_anew SELECT id, system_id, kind, at, recorded_at, command, supersedes, note FROM entry;
DROP TABLE entry;
ALTER TABLE entry_anew RENAME TO entry;
CREATE INDEX entry_by_system ON entry (system_id, kind, at);
-- Rows of an import share one command and supersede nothing: they have no place in these two indexes.
CREATE UNIQUE INDEX entry_superseded ON entry (supersedes) WHERE supersedes IS NOT NULL;
CREATE INDEX entry_by_command ON entry (command) WHERE command NOT LIKE 'import-%';
CREATE TRIGGER entry_is_kept BEFORE DELETE ON entry BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER entry_stays BEFORE UPDATE ON entry BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE VIEW effective AS
  SELECT entry.* FROM entry
  WHERE kind <> 'void' AND NOT EXISTS (SELECT 1 FROM entry AS later WHERE later.supersedes = entry.id);

-- What one look-round found; a look with no row found nothing.
CREATE TABLE sight (
  entry_id INTEGER NOT NULL REFERENCES entry (id),
  kind TEXT NOT NULL,
  amount TEXT CHECK (amount IN ('trace', 'patches', 'much')),
  place TEXT CHECK (place IN ('sand', 'rock', 'panels', 'gear', 'animals', 'everywhere')),
  PRIMARY KEY (entry_id, kind)
) STRICT, WITHOUT ROWID;

CREATE TABLE happening (
  entry_id INTEGER PRIMARY KEY REFERENCES entry (id),
  kind TEXT NOT NULL
) STRICT;

CREATE TRIGGER sight_is_kept BEFORE DELETE ON sight BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER sight_stays BEFORE UPDATE ON sight BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER happening_is_kept BEFORE DELETE ON happening BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER happening_stays BEFORE UPDATE ON happening BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;

-- Rules of judgement that the keeper has switched off.
CREATE TABLE rule_off (
  system_id INTEGER NOT NULL REFERENCES system (id),
  rule TEXT NOT NULL,
  PRIMARY KEY (system_id, rule)
) STRICT, WITHOUT ROWID;
