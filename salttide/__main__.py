"""`python -m salttide`."""

from salttide.cli import entry

entry()
