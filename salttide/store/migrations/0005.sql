-- Imports of readings. Their entries count only once the whole import is done; taken back, none of them counts.
CREATE TABLE import (
  command TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  path TEXT NOT NULL,
  started_at TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  header TEXT NOT NULL CHECK (json_valid(header)),
  mapping TEXT NOT NULL CHECK (json_valid(mapping)),
  state TEXT NOT NULL CHECK (state IN ('new', 'checking', 'checked', 'keeping', 'done', 'stopped', 'taken_back', 'failed')),
  share REAL NOT NULL DEFAULT 0,
  good INTEGER NOT NULL DEFAULT 0,
  twice INTEGER NOT NULL DEFAULT 0,
  bad INTEGER NOT NULL DEFAULT 0,
  bad_rows TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(bad_rows)),
  first_rows TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(first_rows)),
  said TEXT NOT NULL DEFAULT ''
) STRICT, WITHOUT ROWID;

CREATE TABLE import_mapping (
  name TEXT PRIMARY KEY CHECK (length(trim(name)) BETWEEN 1 AND 60),
  mapping TEXT NOT NULL CHECK (json_valid(mapping))
) STRICT, WITHOUT ROWID;

DROP VIEW effective;
CREATE VIEW effective AS
  SELECT entry.* FROM entry
  WHERE kind <> 'void' AND NOT EXISTS (SELECT 1 FROM entry AS later WHERE later.supersedes = entry.id)
  AND NOT EXISTS (SELECT 1 FROM import WHERE import.command = entry.command AND import.state <> 'done');
