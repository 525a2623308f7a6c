-- The household's RO/DI unit, as it is: one row.
CREATE TABLE ro_unit (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  setup TEXT NOT NULL CHECK (json_valid(setup))
) STRICT;
