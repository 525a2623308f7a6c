-- A dosing routine is stored in canonical units: it no longer follows the unit that the keeper has chosen.
UPDATE dosing_routine SET routine = json_remove(
  json_set(
    routine,
    '$.uptake_meq_l', routine ->> '$.uptake' / unit.per_meq_l,
    '$.effluent_meq_l', routine ->> '$.effluent' / unit.per_meq_l
  ),
  '$.uptake', '$.effluent'
)
FROM (
  SELECT CASE (SELECT units ->> '$.alkalinity' FROM keeper)
    WHEN 'meq/L' THEN 1.0 WHEN 'mg/L CaCO3' THEN 50.0435 ELSE 2.80385
  END AS per_meq_l
) AS unit
WHERE json_type(routine, '$.uptake') IS NOT NULL;
