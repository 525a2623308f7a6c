"""Run every test, and the doctests of the core. The last line counts them; the exit code is 1 when one failed."""

from __future__ import annotations

import argparse
import doctest
import importlib
import pkgutil
import sys
import unittest
from pathlib import Path

import salttide.core

ROOT = Path(__file__).resolve().parent


def doctests() -> unittest.TestSuite:
    """The examples in the core's docstrings."""
    suite = unittest.TestSuite()
    for module in pkgutil.walk_packages(salttide.core.__path__, "salttide.core."):
        suite.addTests(doctest.DocTestSuite(importlib.import_module(module.name)))
    return suite


def main() -> int:
    parser = argparse.ArgumentParser(prog="python -m tests")
    parser.add_argument("folder", nargs="?", default="", help="only this folder of tests, such as core or web")
    parser.add_argument("-k", dest="pattern", action="append", help="only tests whose name matches")
    parser.add_argument("-v", dest="verbosity", action="store_const", const=2, default=1)
    choice = parser.parse_args()
    loader = unittest.TestLoader()
    if choice.pattern:
        loader.testNamePatterns = [f"*{part}*" for part in choice.pattern]
    suite = loader.discover(str(ROOT / choice.folder), top_level_dir=str(ROOT.parent))
    if choice.folder in ("", "core") and not choice.pattern:
        suite.addTests(doctests())
    result = unittest.TextTestRunner(verbosity=choice.verbosity, stream=sys.stdout).run(suite)
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    skipped = len(result.skipped)
    passed = result.testsRun - failed - skipped - len(result.expectedFailures)
    print(f"{max(passed, 0)} passed, {failed} failed, {skipped} skipped", flush=True)
    return 1 if failed or not result.testsRun else 0


if __name__ == "__main__":
    sys.exit(main())
