"""Change one constant, comparison or operator of the program at a time, and see that a test notices.

`python -m tests.mutate [N] [--module PART]`: N places are taken evenly from all modules of the program but the made-up
data of the demo; each is changed in a copy, never here, and the tests that run its line are run. Prints every one that
no test noticed, and the share that was. What stands in `equal.toml` cannot be noticed: it says why.
"""

from __future__ import annotations

import argparse
import ast
import json
import os
import shutil
import subprocess
import sys
import tempfile
import tomllib
from collections import defaultdict
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from tests.stage import MADE, ROOT, demo_database

OPERATORS = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.Pow: ast.Mult}
BOUNDS: dict[type[ast.cmpop], type[ast.cmpop]] = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
}  # fmt: skip
SWAPPED = {"min": "max", "max": "min", "any": "all", "all": "any"}
NOT_CHANGED = {
    "check_range", "check_ranges", "DomainError", "Unit", "_linear", "_atoms", "Field", "Query", "Path", "Header",
    "phrase", "dataclass",
}  # fmt: skip
"""What refuses, describes or declares: a bound of a field, a text, a unit's row."""
OF_CONSTANTS = "tests.core.test_judgements.Judgements"
"""Holds what stands outside of functions to its page."""
IN_PROCESSES = ["tests.test_start"]
"""The tests of what runs in processes of its own, where no line is watched."""
WORTH_TESTS_S = 90.0
"""So long a place's tests may run, those of its own name first."""
QUICK_S = 2.0
"""Classes no longer than this come before all others."""
TIMEOUT_S = 240.0
"""A change that makes them run for longer has made them go round in circles: it is noticed."""


@dataclass(frozen=True)
class Spot:
    """A place: its module, its number there, and its first and last line."""

    module: str
    number: int
    first: int
    last: int


class Change(ast.NodeTransformer):
    """Counts the places of a module; changes the one whose turn it is."""

    def __init__(self, turn: int = -1) -> None:
        self.turn, self.words = turn, ""
        self.lines: list[tuple[int, int]] = []
        self.top: list[ast.stmt] = []

    def visit_Module(self, node: ast.Module) -> ast.AST:
        node.body = [self._top(one) for one in node.body]
        return node

    def _top(self, node: ast.stmt) -> ast.stmt:
        return node if isinstance(node, ast.Import | ast.ImportFrom) else self.visit(node)

    def _mine(self, node: ast.expr) -> bool:
        self.lines.append((node.lineno, node.end_lineno or node.lineno))
        return len(self.lines) - 1 == self.turn

    def visit_Call(self, node: ast.Call) -> ast.AST:
        name = getattr(node.func, "id", getattr(node.func, "attr", ""))
        if name == "Formula":
            return self._formula(node)
        if name in NOT_CHANGED:
            return node
        if isinstance(node.func, ast.Name) and name in SWAPPED and self._mine(node):
            self.words = f"line {node.lineno}: {name} made {SWAPPED[name]}"
            node.func = ast.Name(SWAPPED[name], ast.Load())
            return node
        return self.generic_visit(node)

    def _formula(self, node: ast.Call) -> ast.AST:
        """A formula's text is what is computed."""
        text = node.args[2]
        if isinstance(text, ast.Constant):
            before = self.words
            inner = ast.parse(text.value, mode="eval")
            for each in ast.walk(inner):
                if hasattr(each, "lineno"):
                    each.lineno = each.end_lineno = text.lineno
            changed = self.visit(inner)
            if self.words != before:
                node.args[2] = ast.Constant(ast.unparse(changed))
        return node

    def visit_FunctionDef(self, node: ast.FunctionDef) -> ast.AST:
        node.body = [self.visit(line) for line in node.body]  # not its decorators, nor the defaults of its arguments
        return node

    def visit_AnnAssign(self, node: ast.AnnAssign) -> ast.AST:
        if node.value is not None:
            node.value = self.visit(node.value)
        return node

    def visit_JoinedStr(self, node: ast.JoinedStr) -> ast.AST:
        return node

    def visit_Subscript(self, node: ast.Subscript) -> ast.AST:
        return node

    def visit_BinOp(self, node: ast.BinOp) -> ast.AST:
        self.generic_visit(node)
        other = OPERATORS.get(type(node.op))
        if other and self._mine(node):
            self.words = f"line {node.lineno}: {ast.unparse(node)[:60]} with {other.__name__}"
            node.op = other()
        return node

    def visit_Compare(self, node: ast.Compare) -> ast.AST:
        self.generic_visit(node)
        if not _has_margin(node) and self._mine(node):
            other = BOUNDS[type(node.ops[0])]
            self.words = f"line {node.lineno}: {ast.unparse(node)[:60]} with {other.__name__}"
            node.ops[0] = other()
        return node

    def visit_BoolOp(self, node: ast.BoolOp) -> ast.AST:
        self.generic_visit(node)
        if self._mine(node):
            other = ast.Or if isinstance(node.op, ast.And) else ast.And
            self.words = f"line {node.lineno}: {ast.unparse(node)[:60]} with {other.__name__}"
            node.op = other()
        return node

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        number = isinstance(node.value, float | int) and not isinstance(node.value, bool)
        if not number or abs(node.value) <= 1e-6 or not self._mine(node):
            return node
        changed = node.value + 1 if isinstance(node.value, int) and abs(node.value) <= 20 else node.value * 1.1
        self.words = f"line {node.lineno}: {node.value} made {changed:g}"
        return ast.Constant(changed)


def _has_margin(node: ast.Compare) -> bool:
    """Whether a comparison leaves a margin for rounding (1e-9): where it ends to the last digit says nothing."""
    numbers = (each.value for each in ast.walk(node) if isinstance(each, ast.Constant))
    return any(isinstance(number, float) and 0 < number <= 1e-6 for number in numbers)


def modules(part: str = "") -> list[str]:
    """The program's modules, by their paths."""
    found = sorted(path.relative_to(ROOT).as_posix() for path in (ROOT / "salttide").rglob("*.py"))
    return [path for path in found if part in path and "/demo/" not in path]


def spots(part: str = "") -> list[Spot]:
    """Every place of the program."""
    found = []
    for module in modules(part):
        change = Change()
        change.visit(ast.parse(source(module)))
        found += [Spot(module, number, *lines) for number, lines in enumerate(change.lines)]
    return found


def source(module: str) -> str:
    return (ROOT / module).read_text("utf-8")


Covered = dict[str, dict[int, list[str]]]


def covered() -> tuple[Covered, dict[str, float]]:
    """Which classes of tests run which line of the program, and how long each takes; told once, by tests.covered."""
    kept = ROOT / "build" / "covered.json"
    if not kept.exists():
        subprocess.run([sys.executable, "-m", "tests.covered", str(kept)], cwd=ROOT, check=True)
    told = json.loads(kept.read_text("utf-8"))
    lines = {module: {int(line): names for line, names in each.items()} for module, each in told["lines"].items()}
    return lines, told["seconds"]


def tests_of(spot: Spot, lines: Covered, seconds: dict[str, float]) -> list[str]:
    """The classes of tests that run a place, quick ones first and its own before others, as many as are worth it."""
    here = lines.get(spot.module, {})
    names = {name for line in range(spot.first, spot.last + 1) for name in here.get(line, [])}
    apart = [] if names else [OF_CONSTANTS]
    names = names or {name for line in users(spot) for name in here.get(line, [])}
    names = names or {name for each in here.values() for name in each}
    own = Path(spot.module).stem
    chosen, spent = apart, 0.0
    for name in sorted(names, key=lambda name: (seconds[name] > QUICK_S, f"test_{own}." not in name, seconds[name])):
        if spent and spent + seconds[name] > WORTH_TESTS_S:
            break
        chosen.append(name)
        spent += seconds[name]
    return chosen or IN_PROCESSES


def users(spot: Spot) -> list[int]:
    """The lines of a module that use what a place outside of any function defines."""
    tree = ast.parse(source(spot.module))
    names: set[str] = set()
    for node in tree.body:
        if isinstance(node, ast.Assign) and node.lineno <= spot.first <= (node.end_lineno or 0):
            names = {each.id for target in node.targets for each in ast.walk(target) if isinstance(each, ast.Name)}
    found = defaultdict(list)
    for each in ast.walk(tree):
        if isinstance(each, ast.Name) and isinstance(each.ctx, ast.Load):
            found[each.id].append(each.lineno)
    return [line for name in names for line in found[name]]


def noticed(spot: Spot, folder: Path, suites: list[str]) -> tuple[bool, str]:
    """Whether a test fails once the place is changed, in the copy at `folder`."""
    change = Change(spot.number)
    tree = change.visit(ast.parse(source(spot.module)))
    target = folder / spot.module
    target.write_text(ast.unparse(ast.fix_missing_locations(tree)), "utf-8")
    run = [sys.executable, "-m", "unittest", "-f", *suites]
    environment = {**os.environ, "CI": "true", "PYTHONDONTWRITEBYTECODE": "1", MADE: str(demo_database())}
    words = f"{spot.module}, {change.words}"
    try:
        ended = subprocess.run(run, cwd=folder, env=environment, capture_output=True, timeout=TIMEOUT_S, check=False)
        return ended.returncode != 0, words
    except subprocess.TimeoutExpired:
        return True, words
    finally:
        target.write_text(source(spot.module), "utf-8")


@dataclass(frozen=True)
class Tried:
    """What came of a place: noticed, or equal for a reason that is known; else neither."""

    seen: bool
    equal: bool


def why_equal(spot: Spot, words: str) -> str:
    """Why a changed place does just the same; empty where nothing says so."""
    known = tomllib.loads((ROOT / "tests" / "equal.toml").read_text("utf-8"))
    text = source(spot.module).splitlines()[spot.first - 1]
    for one in known["equal"]:
        if spot.module.endswith(one["module"]) and one["code"] in text and words.endswith(one["change"]):
            return str(one["why"])
    return ""


def mutate(number: int, part: str = "", show: bool = False) -> list[Tried]:
    """What came of `number` evenly taken places."""
    lines, seconds = covered()
    found = spots(part)
    step = max(1.0, len(found) / number)
    chosen = [found[int(i * step)] for i in range(min(number, len(found)))]
    work = [(spot, tests_of(spot, lines, seconds)) for spot in chosen]
    demo_database()
    with tempfile.TemporaryDirectory() as top:
        halves = [(Path(top) / str(i), work[i::2]) for i in range(2)]
        for folder, _ in halves:
            for each in ("salttide", "tests"):
                shutil.copytree(ROOT / each, folder / each, ignore=shutil.ignore_patterns("__pycache__"))
            for each in ("web", "docs"):
                (folder / each).symlink_to(ROOT / each)
        with ThreadPoolExecutor() as pool:
            results = [one for half in pool.map(lambda half: list(_half(*half, show)), halves) for one in half]
    return results


def _half(folder: Path, work: list[tuple[Spot, list[str]]], show: bool) -> Iterator[Tried]:
    for spot, suites in work:
        seen, words = noticed(spot, folder, suites)
        why = "" if seen else why_equal(spot, words)
        if not seen or show:
            print(f"  {'noticed' if seen else f'equal, {why}' if why else 'not noticed'}: {words}", flush=True)
        yield Tried(seen, bool(why))


if __name__ == "__main__":
    parser = argparse.ArgumentParser(prog="python -m tests.mutate")
    parser.add_argument("number", nargs="?", type=int, default=20)
    parser.add_argument("--module", default="", help="only modules whose path holds this")
    parser.add_argument("--show", action="store_true", help="tell those that were noticed too")
    asked = parser.parse_args()
    tried = mutate(asked.number, asked.module, asked.show)
    print(
        f"{sum(one.seen for one in tried)} of {len(tried)} changed places noticed, "
        f"{sum(one.equal for one in tried)} equal, of {len(spots(asked.module))} in all"
    )
