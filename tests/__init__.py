"""Tests of Salt Tide: `python -m tests` runs them all."""

import os

from hypothesis import settings

# No deadline: a slow machine is no fault of the code. On a CI machine the same examples each time; elsewhere new ones.
settings.register_profile("salttide", deadline=None, derandomize=bool(os.environ.get("CI")))
settings.load_profile("salttide")
