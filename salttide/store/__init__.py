"""SQLite: numbered migrations, and plain SQL beside the function that runs it."""
