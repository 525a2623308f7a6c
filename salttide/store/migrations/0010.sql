-- How this keeper writes dates and times.
ALTER TABLE keeper ADD COLUMN day_order TEXT NOT NULL DEFAULT 'day_first'
  CHECK (day_order IN ('day_first', 'month_first', 'iso'));
ALTER TABLE keeper ADD COLUMN clock TEXT NOT NULL DEFAULT '24' CHECK (clock IN ('24', '12'));
