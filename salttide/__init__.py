"""Salt Tide: planner, calculator and logbook for keepers of reef aquariums."""

__version__ = "0.1.0"
