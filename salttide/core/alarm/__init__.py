"""Alarms: what is watched, when it counts, when a sensor itself is at fault, and who is told."""
