"""Simulated stand-ins: tanks with hidden truth, and the instruments that measure them."""
