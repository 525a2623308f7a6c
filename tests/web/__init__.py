

import os
import unittest
from pathlib import Path

from tests.stage import BROWSER_APART


def load_tests(loader: unittest.TestLoader, found: unittest.TestSuite, pattern: str | None) -> unittest.TestSuite:
    """The tests of this folder, unless they are run by themselves."""
    if not os.environ.get(BROWSER_APART):
        found.addTests(loader.discover(str(Path(__file__).parent), pattern or "test*.py", top_level_dir=None))
    return found
