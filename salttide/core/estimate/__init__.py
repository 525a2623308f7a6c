"""Estimates from readings: rates, forecast, gas exchange, evaporation, what replaces the uptake and when to dose it."""
