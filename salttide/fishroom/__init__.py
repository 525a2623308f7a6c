"""Simulated stand-ins: tanks with hidden truth and what can be measured of them."""
