"""`python -m salttide`."""

import gc
from importlib import import_module

# Nothing loaded at start-up is garbage, and looking for some takes a sixth of the start. The server turns collection on
# again.
gc.disable()
import_module("salttide.cli").entry()
