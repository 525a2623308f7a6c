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
