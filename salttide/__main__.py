"""`python -m salttide`."""

import gc
from importlib import import_module

# Nothing that a start loads is garbage: looking for some takes a sixth of it. The server turns it on again.
gc.disable()
import_module("salttide.cli").entry()
