"""Upkeep: kinds of tasks, when each is due, the day it is placed on, wearing parts, rounds and the calendar."""
