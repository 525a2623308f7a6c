-- How this keeper writes numbers, and which gallon a bare "gal" is; no gallon means it is asked back.
ALTER TABLE keeper ADD COLUMN decimal_sign TEXT NOT NULL DEFAULT '.' CHECK (decimal_sign IN ('.', ','));
ALTER TABLE keeper ADD COLUMN gallon TEXT CHECK (gallon IN ('us', 'imperial'));
