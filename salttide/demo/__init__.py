"""The demo household, generated from a seed."""
