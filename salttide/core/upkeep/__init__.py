"""The work: kinds of tasks, when each is due, the day it is put on, gear that wears, rounds and the calendar."""
