"""A system's set-up: volume, gear, animals, methods, and what can be observed in it."""
