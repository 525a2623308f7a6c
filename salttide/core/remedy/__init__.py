"""Remedies: what can be done about a cause, with this system's amounts, and the case that follows it to its result."""
