"""Every system as it is at one moment: what is stored, read once, and what the core makes of it."""
