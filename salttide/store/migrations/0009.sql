-- Pictures: files of their own beside the database, named by their content; kept with their date and what they show.
CREATE TABLE picture (
  id INTEGER PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  at TEXT NOT NULL,
  subject TEXT NOT NULL DEFAULT '' CHECK (length(subject) <= 60),
  note TEXT NOT NULL DEFAULT '',
  digest TEXT NOT NULL CHECK (length(digest) = 64),
  width INTEGER NOT NULL CHECK (width > 0),
  height INTEGER NOT NULL CHECK (height > 0),
  entry_id INTEGER REFERENCES entry (id),
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;
CREATE INDEX picture_by_system ON picture (system_id, at);
CREATE INDEX picture_by_entry ON picture (entry_id) WHERE entry_id IS NOT NULL;
