"""Run every test: class by class, a process for each core; then what is measured by the clock (`timed_*.py`), one at a
time, so that no other test takes its processor. The last line counts them; the exit code is 1 when one failed."""

from __future__ import annotations

import argparse
import os
import re
import subprocess
import sys
from pathlib import Path

from tests.stage import MADE, demo_database

ROOT = Path(__file__).resolve().parent
TIMED = "timed_*.py"


def main() -> int:
    parser = argparse.ArgumentParser(prog="python -m tests")
    parser.add_argument("folder", nargs="?", default="", help="only this folder of tests, such as core or web")
    parser.add_argument("-k", dest="patterns", action="append", default=[], help="only tests whose name matches")
    parser.add_argument("-j", dest="jobs", default="0", help="so many at a time; 0: as many as there are cores")
    parser.add_argument("-v", dest="verbose", action="store_true")
    choice = parser.parse_args()
    chosen = [part for pattern in choice.patterns for part in ("-k", pattern)] + ["-v"] * choice.verbose
    passes = [run(choice.folder, [*chosen, "-j", choice.jobs]), run(choice.folder, [*chosen, "-j", "1", "-p", TIMED])]
    passed, failed, skipped = (sum(counts) for counts in zip(*passes, strict=True))
    print(f"{passed} passed, {failed} failed, {skipped} skipped", flush=True)
    return 1 if failed or not passed else 0


def run(folder: str, options: list[str]) -> tuple[int, int, int]:
    """Run the tests of a folder, or all; how many passed, failed and were skipped."""
    warnings = [part for option in sys.warnoptions for part in ("-W", option)]
    where = ["-s", str(ROOT / folder), "-t", str(ROOT.parent), "--level", "class"]
    environment = {**os.environ, MADE: str(demo_database())}
    with subprocess.Popen(
        [sys.executable, *warnings, "-m", "unittest_parallel", *where, *options],
        env=environment, cwd=ROOT.parent, stderr=subprocess.PIPE, text=True,
    ) as process:  # fmt: skip
        assert process.stderr
        said = ""
        while part := process.stderr.read(1):
            print(part, end="", flush=True)
            said += part
    passed, failed, skipped = counted(said)
    # A run that broke off says nothing of its tests.
    return passed, failed or int(process.returncode != 0), skipped


def counted(said: str) -> tuple[int, int, int]:
    """How many passed, failed and were skipped, by the last lines of a run.

    >>> counted("Ran 12 tests in 3.1s" + chr(10) * 2 + "FAILED (failures=1, errors=2, skipped=3)")
    (6, 3, 3)
    """
    ran = re.findall(r"^Ran (\d+) tests? in", said, re.MULTILINE)
    last = said.rsplit("Ran ", 1)[-1]
    kinds = {name.strip(): int(number) for name, number in re.findall(r"([a-z ]+)=(\d+)", last)}
    failed = sum(kinds.get(name, 0) for name in ("failures", "errors", "unexpected successes"))
    skipped = kinds.get("skipped", 0)
    return max(0, int(ran[-1] if ran else 0) - failed - skipped), failed, skipped


if __name__ == "__main__":
    sys.exit(main())
