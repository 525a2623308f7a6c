"""Judgement of one system at one moment: the rules and their findings, when to test again, and cycling."""
