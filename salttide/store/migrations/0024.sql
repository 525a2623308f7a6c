-- A daily dose by hand counts as given only where it is recorded. Of plans from before, the days up to now were counted
-- as given and stay so; from today on, what no container gives is by hand, where there is no dosing pump.
INSERT INTO daily_plan (system_id, since, doses, command)
SELECT
  plan.system_id,
  max(plan.since, date('now')),
  (
    SELECT json_group_array(json_set(dose.value, '$.by_hand', json(iif(dose.value ->> '$.mass_g' > 0, 'true', 'false'))))
    FROM json_each(plan.doses) AS dose
  ),
  'migration-0024'
FROM daily_plan AS plan
WHERE plan.id IN (SELECT max(id) FROM daily_plan WHERE void = 0 GROUP BY system_id)
  AND json_array_length(plan.doses) > 0
  AND plan.system_id NOT IN (SELECT system_id FROM gear WHERE kind = 'dosing_pump');
