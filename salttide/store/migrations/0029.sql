-- What the failure board goes by: heating and top-off as they are built. An empty object is what is usual.
ALTER TABLE system ADD COLUMN heating TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(heating));
ALTER TABLE system ADD COLUMN top_off TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(top_off));
