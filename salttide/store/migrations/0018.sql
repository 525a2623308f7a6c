-- The least mass in g that the keeper's scale can weigh: a lighter dose is given as mL of a stock solution.
ALTER TABLE keeper ADD COLUMN scale_g REAL NOT NULL DEFAULT 0.05 CHECK (scale_g BETWEEN 0.001 AND 10);

-- Water changes that were ticked off without litres, which the keeper left as they are.
CREATE TABLE change_left (
  entry_id INTEGER PRIMARY KEY REFERENCES entry (id),
  command TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1))
) STRICT;

-- What a command asked for: a hash of its method, path and body, so that its key is not taken for something else.
ALTER TABLE command ADD COLUMN asked TEXT NOT NULL DEFAULT '';

-- Every household has its identity from the start: to give the calendar out is not to write.
INSERT INTO calendar (only, home, told_as, begins, alarm_minutes)
  SELECT 1, lower(hex(randomblob(8))), 'event', '18:00', 15 WHERE NOT EXISTS (SELECT 1 FROM calendar);

-- How the rota stood before a command, for the way back: rows of care_placing.
CREATE TABLE placing_before (
  id INTEGER PRIMARY KEY,
  command TEXT NOT NULL UNIQUE,
  placings TEXT NOT NULL CHECK (json_valid(placings))
) STRICT;

-- The last entry of each system at once: whether its ledger is current.
CREATE INDEX entry_latest ON entry (system_id, id);

-- Finite bounds of every stored number and day: a CHECK for tables that were there before it. They stop what no form lets
-- through; what each field takes is said at the edge. An empty text is a day that is not known.
CREATE TRIGGER additive_bounds_insert BEFORE INSERT ON additive WHEN
  NEW.purity NOT BETWEEN 0 AND 1 OR NEW.strength_g_l NOT BETWEEN 0 AND 5000 OR
  NEW.bulk_density_g_ml NOT BETWEEN 0 AND 20 OR NEW.price_kg NOT BETWEEN 0 AND 1000000 OR
  (NEW.expires_on <> '' AND NEW.expires_on NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of additive'); END;
CREATE TRIGGER additive_bounds_update BEFORE UPDATE OF
  purity, strength_g_l, bulk_density_g_ml, price_kg, expires_on
  ON additive WHEN
  NEW.purity NOT BETWEEN 0 AND 1 OR NEW.strength_g_l NOT BETWEEN 0 AND 5000 OR
  NEW.bulk_density_g_ml NOT BETWEEN 0 AND 20 OR NEW.price_kg NOT BETWEEN 0 AND 1000000 OR
  (NEW.expires_on <> '' AND NEW.expires_on NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of additive'); END;
CREATE TRIGGER animal_bounds_insert BEFORE INSERT ON animal WHEN
  NEW.portions NOT BETWEEN 0 AND 10000 OR NEW.air_min NOT BETWEEN 0 AND 100000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of animal'); END;
CREATE TRIGGER animal_bounds_update BEFORE UPDATE OF portions, air_min ON animal WHEN
  NEW.portions NOT BETWEEN 0 AND 10000 OR NEW.air_min NOT BETWEEN 0 AND 100000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of animal'); END;
CREATE TRIGGER animal_turn_bounds_insert BEFORE INSERT ON animal_turn WHEN
  NEW.number NOT BETWEEN 0 AND 1000000 OR (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of animal_turn'); END;
CREATE TRIGGER animal_turn_bounds_update BEFORE UPDATE OF number, day ON animal_turn WHEN
  NEW.number NOT BETWEEN 0 AND 1000000 OR (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of animal_turn'); END;
CREATE TRIGGER away_bounds_insert BEFORE INSERT ON away WHEN
  (NEW.first <> '' AND NEW.first NOT BETWEEN '1970' AND '2200') OR
  (NEW.last <> '' AND NEW.last NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of away'); END;
CREATE TRIGGER away_bounds_update BEFORE UPDATE OF first, last ON away WHEN
  (NEW.first <> '' AND NEW.first NOT BETWEEN '1970' AND '2200') OR
  (NEW.last <> '' AND NEW.last NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of away'); END;
CREATE TRIGGER band_bounds_insert BEFORE INSERT ON band WHEN
  NEW.low NOT BETWEEN -10000 AND 1000000 OR NEW.high NOT BETWEEN -10000 AND 1000000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of band'); END;
CREATE TRIGGER band_bounds_update BEFORE UPDATE OF low, high ON band WHEN
  NEW.low NOT BETWEEN -10000 AND 1000000 OR NEW.high NOT BETWEEN -10000 AND 1000000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of band'); END;
CREATE TRIGGER batch_bounds_insert BEFORE INSERT ON batch WHEN
  (NEW.made_at <> '' AND NEW.made_at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of batch'); END;
CREATE TRIGGER batch_bounds_update BEFORE UPDATE OF made_at ON batch WHEN
  (NEW.made_at <> '' AND NEW.made_at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of batch'); END;
CREATE TRIGGER batch_event_bounds_insert BEFORE INSERT ON batch_event WHEN
  NEW.amount NOT BETWEEN -1000000 AND 10000000 OR (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of batch_event'); END;
CREATE TRIGGER batch_event_bounds_update BEFORE UPDATE OF amount, at ON batch_event WHEN
  NEW.amount NOT BETWEEN -1000000 AND 10000000 OR (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of batch_event'); END;
CREATE TRIGGER bucket_bounds_insert BEFORE INSERT ON bucket WHEN
  NEW.mass_g NOT BETWEEN 0 AND 10000000 OR (NEW.opened_on <> '' AND NEW.opened_on NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of bucket'); END;
CREATE TRIGGER bucket_bounds_update BEFORE UPDATE OF mass_g, opened_on ON bucket WHEN
  NEW.mass_g NOT BETWEEN 0 AND 10000000 OR (NEW.opened_on <> '' AND NEW.opened_on NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of bucket'); END;
CREATE TRIGGER care_bounds_insert BEFORE INSERT ON care WHEN
  NEW.minutes NOT BETWEEN 0 AND 100000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of care'); END;
CREATE TRIGGER care_bounds_update BEFORE UPDATE OF minutes ON care WHEN
  NEW.minutes NOT BETWEEN 0 AND 100000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of care'); END;
CREATE TRIGGER care_choice_bounds_insert BEFORE INSERT ON care_choice WHEN
  NEW.every_days NOT BETWEEN 1 AND 3660 OR NEW.minutes NOT BETWEEN 0 AND 10000 OR
  NEW.most NOT BETWEEN 0 AND 10000000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of care_choice'); END;
CREATE TRIGGER care_choice_bounds_update BEFORE UPDATE OF every_days, minutes, most ON care_choice WHEN
  NEW.every_days NOT BETWEEN 1 AND 3660 OR NEW.minutes NOT BETWEEN 0 AND 10000 OR
  NEW.most NOT BETWEEN 0 AND 10000000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of care_choice'); END;
CREATE TRIGGER care_move_bounds_insert BEFORE INSERT ON care_move WHEN
  (NEW.due <> '' AND NEW.due NOT BETWEEN '1970' AND '2200') OR
  (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of care_move'); END;
CREATE TRIGGER care_move_bounds_update BEFORE UPDATE OF due, day ON care_move WHEN
  (NEW.due <> '' AND NEW.due NOT BETWEEN '1970' AND '2200') OR
  (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of care_move'); END;
CREATE TRIGGER care_placing_bounds_insert BEFORE INSERT ON care_placing WHEN
  NEW.minutes NOT BETWEEN 0 AND 100000 OR (NEW.due <> '' AND NEW.due NOT BETWEEN '1970' AND '2200') OR
  (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of care_placing'); END;
CREATE TRIGGER care_placing_bounds_update BEFORE UPDATE OF minutes, due, day ON care_placing WHEN
  NEW.minutes NOT BETWEEN 0 AND 100000 OR (NEW.due <> '' AND NEW.due NOT BETWEEN '1970' AND '2200') OR
  (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of care_placing'); END;
CREATE TRIGGER care_split_bounds_insert BEFORE INSERT ON care_split WHEN
  NEW.first_minutes NOT BETWEEN 0 AND 100000 OR (NEW.due <> '' AND NEW.due NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of care_split'); END;
CREATE TRIGGER care_split_bounds_update BEFORE UPDATE OF first_minutes, due ON care_split WHEN
  NEW.first_minutes NOT BETWEEN 0 AND 100000 OR (NEW.due <> '' AND NEW.due NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of care_split'); END;
CREATE TRIGGER change_bounds_insert BEFORE INSERT ON change WHEN
  NEW.out_l NOT BETWEEN 0 AND 100000 OR NEW.in_l NOT BETWEEN 0 AND 100000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of change'); END;
CREATE TRIGGER change_bounds_update BEFORE UPDATE OF out_l, in_l ON change WHEN
  NEW.out_l NOT BETWEEN 0 AND 100000 OR NEW.in_l NOT BETWEEN 0 AND 100000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of change'); END;
CREATE TRIGGER container_bounds_insert BEFORE INSERT ON container WHEN
  NEW.capacity_ml NOT BETWEEN 0 AND 1000000 OR NEW.level_sd_ml NOT BETWEEN 0 AND 1000000 OR
  NEW.step_ml NOT BETWEEN 0 AND 10000 OR NEW.least_ml NOT BETWEEN 0 AND 10000 OR
  (NEW.away_at <> '' AND NEW.away_at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of container'); END;
CREATE TRIGGER container_bounds_update BEFORE UPDATE OF
  capacity_ml, level_sd_ml, step_ml, least_ml, away_at
  ON container WHEN
  NEW.capacity_ml NOT BETWEEN 0 AND 1000000 OR NEW.level_sd_ml NOT BETWEEN 0 AND 1000000 OR
  NEW.step_ml NOT BETWEEN 0 AND 10000 OR NEW.least_ml NOT BETWEEN 0 AND 10000 OR
  (NEW.away_at <> '' AND NEW.away_at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of container'); END;
CREATE TRIGGER container_event_bounds_insert BEFORE INSERT ON container_event WHEN
  NEW.ml NOT BETWEEN 0 AND 1000000 OR NEW.before_ml NOT BETWEEN 0 AND 1000000 OR
  (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of container_event'); END;
CREATE TRIGGER container_event_bounds_update BEFORE UPDATE OF ml, before_ml, at ON container_event WHEN
  NEW.ml NOT BETWEEN 0 AND 1000000 OR NEW.before_ml NOT BETWEEN 0 AND 1000000 OR
  (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of container_event'); END;
CREATE TRIGGER daily_plan_bounds_insert BEFORE INSERT ON daily_plan WHEN
  (NEW.since <> '' AND NEW.since NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of daily_plan'); END;
CREATE TRIGGER daily_plan_bounds_update BEFORE UPDATE OF since ON daily_plan WHEN
  (NEW.since <> '' AND NEW.since NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of daily_plan'); END;
CREATE TRIGGER day_minutes_bounds_insert BEFORE INSERT ON day_minutes WHEN
  NEW.minutes NOT BETWEEN 0 AND 1440 OR (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of day_minutes'); END;
CREATE TRIGGER day_minutes_bounds_update BEFORE UPDATE OF minutes, day ON day_minutes WHEN
  NEW.minutes NOT BETWEEN 0 AND 1440 OR (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of day_minutes'); END;
CREATE TRIGGER dose_bounds_insert BEFORE INSERT ON dose WHEN
  NEW.mass_g NOT BETWEEN 0 AND 1000000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of dose'); END;
CREATE TRIGGER dose_bounds_update BEFORE UPDATE OF mass_g ON dose WHEN
  NEW.mass_g NOT BETWEEN 0 AND 1000000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of dose'); END;
CREATE TRIGGER entry_bounds_insert BEFORE INSERT ON entry WHEN
  (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of entry'); END;
CREATE TRIGGER entry_bounds_update BEFORE UPDATE OF at ON entry WHEN
  (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of entry'); END;
CREATE TRIGGER evaporation_bounds_insert BEFORE INSERT ON evaporation WHEN
  NEW.litres NOT BETWEEN 0 AND 100000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of evaporation'); END;
CREATE TRIGGER evaporation_bounds_update BEFORE UPDATE OF litres ON evaporation WHEN
  NEW.litres NOT BETWEEN 0 AND 100000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of evaporation'); END;
CREATE TRIGGER feed_bounds_insert BEFORE INSERT ON feed WHEN
  NEW.portions NOT BETWEEN 0 AND 10000 OR NEW.grams NOT BETWEEN 0 AND 100000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of feed'); END;
CREATE TRIGGER feed_bounds_update BEFORE UPDATE OF portions, grams ON feed WHEN
  NEW.portions NOT BETWEEN 0 AND 10000 OR NEW.grams NOT BETWEEN 0 AND 100000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of feed'); END;
CREATE TRIGGER food_bounds_insert BEFORE INSERT ON food WHEN
  NEW.dry_share NOT BETWEEN 0 AND 1 OR NEW.nitrogen_share NOT BETWEEN 0 AND 1 OR
  NEW.phosphorus_share NOT BETWEEN 0 AND 1 OR NEW.portion_g NOT BETWEEN 0 AND 10000 OR
  (NEW.expires_on <> '' AND NEW.expires_on NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of food'); END;
CREATE TRIGGER food_bounds_update BEFORE UPDATE OF
  dry_share, nitrogen_share, phosphorus_share, portion_g, expires_on
  ON food WHEN
  NEW.dry_share NOT BETWEEN 0 AND 1 OR NEW.nitrogen_share NOT BETWEEN 0 AND 1 OR
  NEW.phosphorus_share NOT BETWEEN 0 AND 1 OR NEW.portion_g NOT BETWEEN 0 AND 10000 OR
  (NEW.expires_on <> '' AND NEW.expires_on NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of food'); END;
CREATE TRIGGER gear_bounds_insert BEFORE INSERT ON gear WHEN
  NEW.cover_cm NOT BETWEEN 0 AND 10000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of gear'); END;
CREATE TRIGGER gear_bounds_update BEFORE UPDATE OF cover_cm ON gear WHEN
  NEW.cover_cm NOT BETWEEN 0 AND 10000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of gear'); END;
CREATE TRIGGER hand_over_bounds_insert BEFORE INSERT ON hand_over WHEN
  NEW.every_days NOT BETWEEN 0 AND 366
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of hand_over'); END;
CREATE TRIGGER hand_over_bounds_update BEFORE UPDATE OF every_days ON hand_over WHEN
  NEW.every_days NOT BETWEEN 0 AND 366
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of hand_over'); END;
CREATE TRIGGER harvest_bounds_insert BEFORE INSERT ON harvest WHEN
  NEW.grams NOT BETWEEN 0 AND 1000000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of harvest'); END;
CREATE TRIGGER harvest_bounds_update BEFORE UPDATE OF grams ON harvest WHEN
  NEW.grams NOT BETWEEN 0 AND 1000000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of harvest'); END;
CREATE TRIGGER instrument_bounds_insert BEFORE INSERT ON instrument WHEN
  NEW.sd NOT BETWEEN 0 AND 100000 OR NEW.per_count NOT BETWEEN 0 AND 100000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of instrument'); END;
CREATE TRIGGER instrument_bounds_update BEFORE UPDATE OF sd, per_count ON instrument WHEN
  NEW.sd NOT BETWEEN 0 AND 100000 OR NEW.per_count NOT BETWEEN 0 AND 100000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of instrument'); END;
CREATE TRIGGER instrument_check_bounds_insert BEFORE INSERT ON instrument_check WHEN
  NEW.standard NOT BETWEEN -10000 AND 1000000 OR NEW.reading NOT BETWEEN -10000 AND 1000000 OR
  (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of instrument_check'); END;
CREATE TRIGGER instrument_check_bounds_update BEFORE UPDATE OF standard, reading, at ON instrument_check WHEN
  NEW.standard NOT BETWEEN -10000 AND 1000000 OR NEW.reading NOT BETWEEN -10000 AND 1000000 OR
  (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of instrument_check'); END;
CREATE TRIGGER kit_tick_bounds_insert BEFORE INSERT ON kit_tick WHEN
  (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of kit_tick'); END;
CREATE TRIGGER kit_tick_bounds_update BEFORE UPDATE OF day ON kit_tick WHEN
  (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of kit_tick'); END;
CREATE TRIGGER light_bounds_insert BEFORE INSERT ON light WHEN
  NEW.ramp_minutes NOT BETWEEN 0 AND 1440 OR (NEW.since <> '' AND NEW.since NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of light'); END;
CREATE TRIGGER light_bounds_update BEFORE UPDATE OF ramp_minutes, since ON light WHEN
  NEW.ramp_minutes NOT BETWEEN 0 AND 1440 OR (NEW.since <> '' AND NEW.since NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of light'); END;
CREATE TRIGGER measured_batch_bounds_insert BEFORE INSERT ON measured_batch WHEN
  NEW.mass_g NOT BETWEEN 0 AND 10000000 OR NEW.volume_l NOT BETWEEN 0 AND 100000 OR
  NEW.salinity NOT BETWEEN 0 AND 100 OR (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of measured_batch'); END;
CREATE TRIGGER measured_batch_bounds_update BEFORE UPDATE OF mass_g, volume_l, salinity, day ON measured_batch WHEN
  NEW.mass_g NOT BETWEEN 0 AND 10000000 OR NEW.volume_l NOT BETWEEN 0 AND 100000 OR
  NEW.salinity NOT BETWEEN 0 AND 100 OR (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of measured_batch'); END;
CREATE TRIGGER own_task_bounds_insert BEFORE INSERT ON own_task WHEN
  NEW.every_days NOT BETWEEN 1 AND 3660 OR NEW.minutes NOT BETWEEN 0 AND 10000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of own_task'); END;
CREATE TRIGGER own_task_bounds_update BEFORE UPDATE OF every_days, minutes ON own_task WHEN
  NEW.every_days NOT BETWEEN 1 AND 3660 OR NEW.minutes NOT BETWEEN 0 AND 10000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of own_task'); END;
CREATE TRIGGER par_bounds_insert BEFORE INSERT ON par WHEN
  NEW.umol NOT BETWEEN 0 AND 100000 OR (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of par'); END;
CREATE TRIGGER par_bounds_update BEFORE UPDATE OF umol, day ON par WHEN
  NEW.umol NOT BETWEEN 0 AND 100000 OR (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of par'); END;
CREATE TRIGGER part_bounds_insert BEFORE INSERT ON part WHEN
  NEW.hours_per_day NOT BETWEEN 0 AND 24 OR NEW.most_hours NOT BETWEEN 0 AND 1000000 OR
  NEW.most_days NOT BETWEEN 0 AND 100000 OR NEW.spares NOT BETWEEN 0 AND 10000 OR
  (NEW.since <> '' AND NEW.since NOT BETWEEN '1970' AND '2200') OR
  (NEW.counted_at <> '' AND NEW.counted_at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of part'); END;
CREATE TRIGGER part_bounds_update BEFORE UPDATE OF
  hours_per_day, most_hours, most_days, spares, since, counted_at
  ON part WHEN
  NEW.hours_per_day NOT BETWEEN 0 AND 24 OR NEW.most_hours NOT BETWEEN 0 AND 1000000 OR
  NEW.most_days NOT BETWEEN 0 AND 100000 OR NEW.spares NOT BETWEEN 0 AND 10000 OR
  (NEW.since <> '' AND NEW.since NOT BETWEEN '1970' AND '2200') OR
  (NEW.counted_at <> '' AND NEW.counted_at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of part'); END;
CREATE TRIGGER picture_bounds_insert BEFORE INSERT ON picture WHEN
  (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of picture'); END;
CREATE TRIGGER picture_bounds_update BEFORE UPDATE OF at ON picture WHEN
  (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of picture'); END;
CREATE TRIGGER plan_step_bounds_insert BEFORE INSERT ON plan_step WHEN
  NEW.minutes NOT BETWEEN 0 AND 100000 OR (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of plan_step'); END;
CREATE TRIGGER plan_step_bounds_update BEFORE UPDATE OF minutes, day ON plan_step WHEN
  NEW.minutes NOT BETWEEN 0 AND 100000 OR (NEW.day <> '' AND NEW.day NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of plan_step'); END;
CREATE TRIGGER probe_bounds_insert BEFORE INSERT ON probe WHEN
  NEW.at NOT BETWEEN 0 AND 7258118400 OR NEW.value NOT BETWEEN -1000000 AND 1000000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of probe'); END;
CREATE TRIGGER probe_bounds_update BEFORE UPDATE OF at, value ON probe WHEN
  NEW.at NOT BETWEEN 0 AND 7258118400 OR NEW.value NOT BETWEEN -1000000 AND 1000000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of probe'); END;
CREATE TRIGGER reading_bounds_insert BEFORE INSERT ON reading WHEN
  NEW.value NOT BETWEEN -10000 AND 1000000 OR NEW.sd NOT BETWEEN 0 AND 100000 OR
  NEW.raw NOT BETWEEN -1000000 AND 1000000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of reading'); END;
CREATE TRIGGER reading_bounds_update BEFORE UPDATE OF value, sd, raw ON reading WHEN
  NEW.value NOT BETWEEN -10000 AND 1000000 OR NEW.sd NOT BETWEEN 0 AND 100000 OR
  NEW.raw NOT BETWEEN -1000000 AND 1000000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of reading'); END;
CREATE TRIGGER reagent_bounds_insert BEFORE INSERT ON reagent WHEN
  (NEW.opened_on <> '' AND NEW.opened_on NOT BETWEEN '1970' AND '2200') OR
  (NEW.expires_on <> '' AND NEW.expires_on NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of reagent'); END;
CREATE TRIGGER reagent_bounds_update BEFORE UPDATE OF opened_on, expires_on ON reagent WHEN
  (NEW.opened_on <> '' AND NEW.opened_on NOT BETWEEN '1970' AND '2200') OR
  (NEW.expires_on <> '' AND NEW.expires_on NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of reagent'); END;
CREATE TRIGGER run_bounds_insert BEFORE INSERT ON run WHEN
  (NEW.started_at <> '' AND NEW.started_at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of run'); END;
CREATE TRIGGER run_bounds_update BEFORE UPDATE OF started_at ON run WHEN
  (NEW.started_at <> '' AND NEW.started_at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of run'); END;
CREATE TRIGGER run_answer_bounds_insert BEFORE INSERT ON run_answer WHEN
  NEW.value NOT BETWEEN -1000000 AND 10000000 OR (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of run_answer'); END;
CREATE TRIGGER run_answer_bounds_update BEFORE UPDATE OF value, at ON run_answer WHEN
  NEW.value NOT BETWEEN -1000000 AND 10000000 OR (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of run_answer'); END;
CREATE TRIGGER salt_bounds_insert BEFORE INSERT ON salt WHEN
  NEW.strength_g_l NOT BETWEEN 0 AND 1000 OR NEW.printed_at NOT BETWEEN 0 AND 100 OR
  NEW.bulk_density_g_ml NOT BETWEEN 0 AND 20 OR NEW.price_kg NOT BETWEEN 0 AND 1000000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of salt'); END;
CREATE TRIGGER salt_bounds_update BEFORE UPDATE OF strength_g_l, printed_at, bulk_density_g_ml, price_kg ON salt WHEN
  NEW.strength_g_l NOT BETWEEN 0 AND 1000 OR NEW.printed_at NOT BETWEEN 0 AND 100 OR
  NEW.bulk_density_g_ml NOT BETWEEN 0 AND 20 OR NEW.price_kg NOT BETWEEN 0 AND 1000000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of salt'); END;
CREATE TRIGGER stepped_bounds_insert BEFORE INSERT ON stepped WHEN
  NEW.amount NOT BETWEEN 0 AND 1000000 OR NEW.full_g NOT BETWEEN 0 AND 1000000 OR
  (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of stepped'); END;
CREATE TRIGGER stepped_bounds_update BEFORE UPDATE OF amount, full_g, at ON stepped WHEN
  NEW.amount NOT BETWEEN 0 AND 1000000 OR NEW.full_g NOT BETWEEN 0 AND 1000000 OR
  (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of stepped'); END;
CREATE TRIGGER system_bounds_insert BEFORE INSERT ON system WHEN
  NEW.length_cm NOT BETWEEN 0 AND 100000 OR NEW.width_cm NOT BETWEEN 0 AND 100000 OR
  NEW.depth_cm NOT BETWEEN 0 AND 100000 OR NEW.displaced_l NOT BETWEEN 0 AND 1000000 OR
  NEW.sump_l NOT BETWEEN 0 AND 1000000 OR NEW.change_fraction NOT BETWEEN 0 AND 1 OR
  NEW.change_every_days NOT BETWEEN 0 AND 3660 OR NEW.largest_fraction NOT BETWEEN 0 AND 1 OR
  NEW.limit_salinity NOT BETWEEN 0 AND 100 OR NEW.limit_alkalinity_meq_l NOT BETWEEN 0 AND 100 OR
  NEW.limit_temperature_c NOT BETWEEN 0 AND 100 OR NEW.bucket_l NOT BETWEEN 0 AND 1000000 OR
  NEW.bow_cm NOT BETWEEN 0 AND 10000 OR NEW.sand_bed_cm NOT BETWEEN 0 AND 1000 OR
  NEW.rock_kg NOT BETWEEN 0 AND 100000 OR (NEW.started_on <> '' AND NEW.started_on NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of system'); END;
CREATE TRIGGER system_bounds_update BEFORE UPDATE OF
  length_cm, width_cm, depth_cm, displaced_l, sump_l, change_fraction, change_every_days, largest_fraction,
  limit_salinity, limit_alkalinity_meq_l, limit_temperature_c, bucket_l, bow_cm, sand_bed_cm, rock_kg, started_on
  ON system WHEN
  NEW.length_cm NOT BETWEEN 0 AND 100000 OR NEW.width_cm NOT BETWEEN 0 AND 100000 OR
  NEW.depth_cm NOT BETWEEN 0 AND 100000 OR NEW.displaced_l NOT BETWEEN 0 AND 1000000 OR
  NEW.sump_l NOT BETWEEN 0 AND 1000000 OR NEW.change_fraction NOT BETWEEN 0 AND 1 OR
  NEW.change_every_days NOT BETWEEN 0 AND 3660 OR NEW.largest_fraction NOT BETWEEN 0 AND 1 OR
  NEW.limit_salinity NOT BETWEEN 0 AND 100 OR NEW.limit_alkalinity_meq_l NOT BETWEEN 0 AND 100 OR
  NEW.limit_temperature_c NOT BETWEEN 0 AND 100 OR NEW.bucket_l NOT BETWEEN 0 AND 1000000 OR
  NEW.bow_cm NOT BETWEEN 0 AND 10000 OR NEW.sand_bed_cm NOT BETWEEN 0 AND 1000 OR
  NEW.rock_kg NOT BETWEEN 0 AND 100000 OR (NEW.started_on <> '' AND NEW.started_on NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of system'); END;
CREATE TRIGGER system_volume_bounds_insert BEFORE INSERT ON system_volume WHEN
  NEW.volume_l NOT BETWEEN 0 AND 1000000 OR (NEW.since <> '' AND NEW.since NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of system_volume'); END;
CREATE TRIGGER system_volume_bounds_update BEFORE UPDATE OF volume_l, since ON system_volume WHEN
  NEW.volume_l NOT BETWEEN 0 AND 1000000 OR (NEW.since <> '' AND NEW.since NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of system_volume'); END;
CREATE TRIGGER top_off_bounds_insert BEFORE INSERT ON top_off WHEN
  NEW.litres NOT BETWEEN 0 AND 100000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of top_off'); END;
CREATE TRIGGER top_off_bounds_update BEFORE UPDATE OF litres ON top_off WHEN
  NEW.litres NOT BETWEEN 0 AND 100000
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of top_off'); END;

-- A set-up as it stood before a command that changed it beside other things, for the way back; salt_id: the salt that
-- was used first, where the command changed that too. version: the last of its versions before.
CREATE TABLE setup_before (
  command TEXT PRIMARY KEY,
  system_id INTEGER NOT NULL REFERENCES system (id),
  version INTEGER NOT NULL,
  setup TEXT NOT NULL CHECK (json_valid(setup)),
  salt_id INTEGER REFERENCES salt (id)
) STRICT, WITHOUT ROWID;
CREATE TRIGGER system_version_bounds_insert BEFORE INSERT ON system_version WHEN
  (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of system_version'); END;
CREATE TRIGGER system_version_bounds_update BEFORE UPDATE OF at ON system_version WHEN
  (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of system_version'); END;
CREATE TRIGGER visit_report_bounds_insert BEFORE INSERT ON visit_report WHEN
  (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of visit_report'); END;
CREATE TRIGGER visit_report_bounds_update BEFORE UPDATE OF at ON visit_report WHEN
  (NEW.at <> '' AND NEW.at NOT BETWEEN '1970' AND '2200')
BEGIN SELECT RAISE(ABORT, 'CHECK constraint failed: bounds of visit_report'); END;
