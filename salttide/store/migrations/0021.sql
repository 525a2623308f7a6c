-- The keeper's word on what moved a parameter between two tests and is not in the record: an amount (meq or mg) that
-- nobody can name, or 0 where nothing happened. It is not asked about again.
INSERT INTO entry_kind VALUES ('unexplained');
CREATE TABLE unexplained (
  entry_id INTEGER PRIMARY KEY REFERENCES entry (id),
  parameter TEXT NOT NULL,
  since TEXT NOT NULL CHECK (since BETWEEN '1970' AND '2200'),
  until TEXT NOT NULL CHECK (until BETWEEN '1970' AND '2200' AND until > since),
  amount REAL NOT NULL CHECK (amount BETWEEN -1e9 AND 1e9)
) STRICT;
CREATE TRIGGER unexplained_is_kept BEFORE DELETE ON unexplained
  BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
CREATE TRIGGER unexplained_stays BEFORE UPDATE ON unexplained
  BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
