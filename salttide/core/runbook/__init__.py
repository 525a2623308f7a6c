"""Runbooks: work at the tank step by step, its answers, its texts, and what it leaves in the record."""
