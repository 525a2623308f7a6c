-- What the first databases of version 18 were made without.
CREATE INDEX IF NOT EXISTS entry_latest ON entry (system_id, id);
CREATE TABLE IF NOT EXISTS setup_before (
  command TEXT PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  version INTEGER NOT NULL,
  setup TEXT NOT NULL CHECK (json_valid(setup)),
  salt_id INTEGER REFERENCES salt (id)
) STRICT, WITHOUT ROWID;

-- Names as the field has them: methods, the routine of doses, and what is ramped up slowly.
ALTER TABLE system RENAME COLUMN schools TO methods;
UPDATE system_version SET setup = json_remove(json_set(setup, '$.methods', json(setup -> '$.schools')), '$.schools')
  WHERE json_type(setup, '$.schools') IS NOT NULL;
UPDATE setup_before SET setup = json_remove(json_set(setup, '$.methods', json(setup -> '$.schools')), '$.schools')
  WHERE json_type(setup, '$.schools') IS NOT NULL;
ALTER TABLE dosing_wish RENAME TO dosing_routine;
ALTER TABLE dosing_routine RENAME COLUMN wish TO routine;
ALTER TABLE stepped RENAME TO ramp;
ALTER TABLE sight RENAME TO sign;
ALTER TABLE calendar RENAME COLUMN told_as TO entry_type;
UPDATE picture SET subject = replace(subject, 'parts: steriliser', 'parts: UV steriliser')
  WHERE subject LIKE 'parts: steriliser%';
