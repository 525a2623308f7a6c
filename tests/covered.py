"""Which classes of tests run which line of the program: `python -m tests.covered FILE`; one process, no browser."""

from __future__ import annotations

import json
import sys
import time
import unittest
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import coverage

from tests.stage import ROOT

FOLDERS = ("core", "store", "household", "files", "api")
BESIDE = ("tests.test_fishroom",)


class Watched(unittest.TestResult):
    """Tells the coverage whose turn it is, and how long each class takes."""

    def __init__(self, told: coverage.Coverage) -> None:
        super().__init__()
        self.told, self.seconds = told, defaultdict[str, float](float)
        self.begun = 0.0

    def startTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        super().startTest(test)
        self.told.switch_context(name_of(test))
        self.begun = time.perf_counter()

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        self.seconds[name_of(test)] += time.perf_counter() - self.begun
        super().stopTest(test)


def name_of(test: unittest.TestCase) -> str:
    return f"{type(test).__module__}.{type(test).__qualname__}"


def each_test(suite: Any) -> Iterator[unittest.TestCase]:
    for one in suite:
        if isinstance(one, unittest.TestCase):
            yield one
        else:
            yield from each_test(one)


def main() -> int:
    told = coverage.Coverage(data_file=None, source=[str(ROOT / "salttide")], messages=False)
    told.start()
    load = unittest.defaultTestLoader.discover
    suites = [load(str(ROOT / "tests" / name), top_level_dir=str(ROOT)) for name in FOLDERS]
    suites.append(unittest.defaultTestLoader.loadTestsFromNames(BESIDE))
    result = Watched(told)
    for suite in suites:
        suite.run(result)
    told.stop()
    data = told.get_data()
    lines = {
        Path(name).relative_to(ROOT).as_posix(): {
            line: sorted(context for context in contexts if context)
            for line, contexts in data.contexts_by_lineno(name).items()
            if any(contexts)
        }
        for name in data.measured_files()
    }
    Path(sys.argv[1]).parent.mkdir(parents=True, exist_ok=True)
    Path(sys.argv[1]).write_text(json.dumps({"lines": lines, "seconds": result.seconds}), "utf-8")
    print(f"{result.testsRun} tests watched, {len(result.failures) + len(result.errors)} failed")
    return 0


if __name__ == "__main__":
    sys.exit(main())
