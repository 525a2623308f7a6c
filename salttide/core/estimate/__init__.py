"""What the readings tell: rates, forecast, gas exchange, evaporation, what replaces the uptake and when it is given."""
