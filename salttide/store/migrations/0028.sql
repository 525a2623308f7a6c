-- A programme is a case with phases: the keeper may choose another phase, by its key.
CREATE TABLE case_turn_new (
  id INTEGER PRIMARY KEY,
  case_id INTEGER NOT NULL REFERENCES remedy_case (id),
  at TEXT NOT NULL CHECK (at BETWEEN '1970' AND '2200'),
  kind TEXT NOT NULL CHECK (kind IN ('paused', 'resumed', 'ended', 'abandoned', 'replaced', 'handed', 'phase')),
  because TEXT NOT NULL DEFAULT '' CHECK (length(because) <= 500),
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
INSERT INTO case_turn_new SELECT * FROM case_turn;
DROP TABLE case_turn;
ALTER TABLE case_turn_new RENAME TO case_turn;
CREATE INDEX case_turn_by_case ON case_turn (case_id, id);
