"""The job: pure computation, without interface, database, clock or chance."""
