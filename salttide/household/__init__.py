"""Every system as it stands at one moment: what is stored, read once, and what the core makes of it."""
