"""The household: every system at one moment, from what is stored, read once, and what the core computes from it."""
