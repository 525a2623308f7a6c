-- The litres a tank is sold by, where nothing else is known of it.
ALTER TABLE system ADD COLUMN stated_l REAL CHECK (stated_l IS NULL OR stated_l > 0);
