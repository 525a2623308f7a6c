"""The household: what is stored and what the core makes of it, at one moment."""
