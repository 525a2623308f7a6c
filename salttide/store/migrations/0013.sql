-- What a kilogram costs, in the keeper's money, where it is known.
ALTER TABLE salt ADD COLUMN price_kg REAL CHECK (price_kg >= 0);
ALTER TABLE additive ADD COLUMN price_kg REAL CHECK (price_kg >= 0);
