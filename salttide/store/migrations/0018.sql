-- The least mass in g that the keeper's scale can weigh: a lighter dose is given as mL of a stock solution.
ALTER TABLE keeper ADD COLUMN scale_g REAL NOT NULL DEFAULT 0.05 CHECK (scale_g BETWEEN 0.001 AND 10);
