"""A system as it was set up: its volume, gear, animals, methods, and what can be seen or found in it."""
