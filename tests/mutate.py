"""Change one constant or operator of a formula at a time, and see that a test notices: `python -m tests.mutate [N]`.

Places are taken evenly from all formulas of the core's science (expressions, constants and arithmetic); each is changed
in a copy of the package, never here. Prints every one that no test noticed, and the share that was.
"""

from __future__ import annotations

import ast
import os
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from tests.stage import ROOT

TESTS = {
    "science/additives": "additives",
    "science/ammonia": "carbonate",
    "science/carbonate": "carbonate",
    "science/carbonate_constants": "carbonate",
    "science/dilution": "dilution",
    "science/dosing": "dosing",
    "science/geometry": "geometry",
    "science/instruments": "seawater",
    "science/limewater": "additives",
    "science/mix": "mix",
    "science/ph_effect": "carbonate",
    "science/salts": "mix",
    "science/seawater": "seawater",
    "science/sizing": "dilution",
    "science/solutions": "additives",
    "science/draining": "geometry",
    "science/topoff": "dosing",
    "science/units": "quantities units",
}
"""Module of the core with its package, and the tests that defend it."""
OPERATORS = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.Pow: ast.Mult}
NOT_FORMULAS = {"check_range", "check_ranges", "range", "round", "DomainError", "Given", "Unit", "_linear", "_atoms"}
BY_JUDGEMENT = {"LARGEST_FRACTION", "MAX_CHANGES", "OUTDOOR_PPM", "EARLY_TEST_SHARE"}


class Place(ast.NodeTransformer):
    """Counts the places of a module; changes the one whose turn it is."""

    def __init__(self, turn: int = -1) -> None:
        self.turn, self.count, self.words = turn, 0, ""

    def _mine(self) -> bool:
        self.count += 1
        return self.count - 1 == self.turn

    def visit_Call(self, node: ast.Call) -> ast.AST:
        name = getattr(node.func, "id", getattr(node.func, "attr", ""))
        if name == "Formula":
            text = node.args[2]
            if isinstance(text, ast.Constant):
                inner = ast.parse(text.value, mode="eval")
                before = self.words
                changed = self.visit(inner)
                if self.words != before:
                    node.args[2] = ast.Constant(ast.unparse(changed))
            return node
        return node if name in NOT_FORMULAS else self.generic_visit(node)

    def visit_Assign(self, node: ast.Assign) -> ast.AST:
        return node if getattr(node.targets[0], "id", "") in BY_JUDGEMENT else self.generic_visit(node)

    def visit_FunctionDef(self, node: ast.FunctionDef) -> ast.AST:
        node.body = [self.visit(line) for line in node.body]  # not the defaults of its arguments
        return node

    def visit_JoinedStr(self, node: ast.JoinedStr) -> ast.AST:
        return node

    def visit_BinOp(self, node: ast.BinOp) -> ast.AST:
        self.generic_visit(node)
        other = OPERATORS.get(type(node.op))
        if other and self._mine():
            self.words = f"line {node.lineno}: {ast.unparse(node)[:60]} with {other.__name__}"
            node.op = other()
        return node

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        if (
            isinstance(node.value, float | int)
            and not isinstance(node.value, bool)
            and abs(node.value) > 1e-8
            and self._mine()
        ):
            changed = node.value + 1 if isinstance(node.value, int) and abs(node.value) <= 20 else node.value * 1.03
            self.words = f"line {node.lineno}: {node.value} made {changed:g}"
            return ast.Constant(changed)
        return node


def places() -> list[tuple[str, int]]:
    """Every place: module and number within it."""
    found = []
    for module in TESTS:
        counter = Place()
        counter.visit(ast.parse(source(module)))
        found += [(module, number) for number in range(counter.count)]
    return found


def source(module: str) -> str:
    return (ROOT / "salttide" / "core" / f"{module}.py").read_text("utf-8")


def noticed(place: tuple[str, int], folder: Path) -> tuple[bool, str]:
    """Whether the tests of the module fail once the place is changed, in the copy at `folder`."""
    module, number = place
    change = Place(number)
    tree = change.visit(ast.parse(source(module)))
    target = folder / "salttide" / "core" / f"{module}.py"
    target.write_text(ast.unparse(ast.fix_missing_locations(tree)), "utf-8")
    suites = [f"tests.core.test_{name}" for name in TESTS[module].split()]
    run = [sys.executable, "-m", "unittest", "-f", *suites]
    environment = {**os.environ, "CI": "true", "PYTHONDONTWRITEBYTECODE": "1"}
    try:
        ended = subprocess.run(run, cwd=folder, env=environment, capture_output=True, timeout=120, check=False)
        return ended.returncode != 0, f"{module}, {change.words}"
    except subprocess.TimeoutExpired:
        return True, f"{module}, {change.words}"
    finally:
        target.write_text(source(module), "utf-8")


def mutate(number: int) -> tuple[int, int]:
    """How many of `number` evenly taken places were noticed, and how many were tried."""
    all_places = places()
    step = max(1.0, len(all_places) / number)
    chosen = [all_places[int(i * step)] for i in range(min(number, len(all_places)))]
    with tempfile.TemporaryDirectory() as top:
        halves = [(Path(top) / str(i), chosen[i::2]) for i in range(2)]
        for folder, _ in halves:
            for part in ("salttide", "tests"):
                shutil.copytree(ROOT / part, folder / part, ignore=shutil.ignore_patterns("__pycache__"))
        with ThreadPoolExecutor() as pool:
            results = [found for half in pool.map(lambda half: list(_half(*half)), halves) for found in half]
    return sum(seen for seen, _ in results), len(results)


def _half(folder: Path, chosen: list[tuple[str, int]]) -> Iterator[tuple[bool, str]]:
    for place in chosen:
        seen, words = noticed(place, folder)
        if not seen:
            print(f"  not noticed: {words}", flush=True)
        yield seen, words


if __name__ == "__main__":
    seen, tried = mutate(int(sys.argv[1]) if len(sys.argv) > 1 else 20)
    print(f"{seen} of {tried} changed places noticed, of {len(places())} in all")
