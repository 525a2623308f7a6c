-- What volumes, lengths and masses are read in, and where the week begins.
ALTER TABLE keeper ADD COLUMN volume TEXT NOT NULL DEFAULT 'L' CHECK (volume IN ('L', 'US gal', 'imp gal'));
ALTER TABLE keeper ADD COLUMN length TEXT NOT NULL DEFAULT 'cm' CHECK (length IN ('cm', 'in'));
ALTER TABLE keeper ADD COLUMN mass TEXT NOT NULL DEFAULT 'g' CHECK (mass IN ('g', 'oz'));
ALTER TABLE keeper ADD COLUMN week TEXT NOT NULL DEFAULT 'monday' CHECK (week IN ('monday', 'sunday', 'saturday'));

-- A keeper's remark on anything in the ledger, added later.
CREATE TABLE remark (
  id INTEGER PRIMARY KEY,
  entry_id INTEGER NOT NULL REFERENCES entry (id),
  text TEXT NOT NULL CHECK (length(text) BETWEEN 1 AND 500),
  at TEXT NOT NULL CHECK (at BETWEEN '1970' AND '2200'),
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX remark_by_entry ON remark (entry_id);
CREATE INDEX remark_by_command ON remark (command);

-- What was written is found again by its words.
CREATE INDEX entry_said ON entry (at) WHERE note <> '';
CREATE INDEX care_said ON care (entry_id) WHERE reason <> '';
