"""Every number of `docs/judgements.md` is the one that the program goes by."""

from __future__ import annotations

import ast
import re
import unittest
from functools import cache

from tests.stage import ROOT

NUMBER = re.compile(r"(?<![A-Za-z])\d+(?:\.\d+)?")


def rows() -> list[tuple[str, list[str], list[float]]]:
    """Module, names and numbers of every row."""
    found = []
    for line in (ROOT / "docs" / "judgements.md").read_text("utf-8").splitlines():
        if match := re.match(r"\| `([\w.]+)\.(\w+(?: \w+)*)` \| (.+?) \|", line):
            module, names, value = match.groups()
            found.append((module, names.split(), [float(number) for number in NUMBER.findall(value)]))
    return found


@cache
def assigned(module: str) -> list[tuple[list[str], list[float], str]]:
    """What a module assigns at its top: names, numbers in their order, and what is said of it."""
    body = ast.parse((ROOT / "salttide/core" / f"{module.replace('.', '/')}.py").read_text("utf-8")).body
    found = []
    for node, after in zip(body, [*body[1:], None], strict=True):
        if isinstance(node, ast.Assign | ast.AnnAssign) and node.value is not None:
            targets = node.targets if isinstance(node, ast.Assign) else [node.target]
            names = [each.id for one in targets for each in ast.walk(one) if isinstance(each, ast.Name)]
            said = ast.unparse(after) if isinstance(after, ast.Expr) else ""
            found.append((names, numbers(node.value), said))
    return found


def numbers(value: ast.expr) -> list[float]:
    """Numbers of an expression as they are read."""
    found = [each for each in ast.walk(value) if isinstance(each, ast.Constant) and type(each.value) in (int, float)]
    return [float(each.value) for each in sorted(found, key=lambda each: (each.lineno, each.col_offset))]  # type: ignore[arg-type]


class Judgements(unittest.TestCase):
    def test_each_number_is_the_programs(self) -> None:
        self.assertGreater(len(rows()), 200)
        for module, names, value in rows():
            with self.subTest(f"{module}.{names[0]}"):
                (found,) = [known for called, known, _ in assigned(module) if called == names]
                self.assertEqual(found, value)

    def test_none_that_is_called_a_judgement_is_missing(self) -> None:
        told = {(module, names[0]) for module, names, _ in rows()}
        for path in sorted((ROOT / "salttide/core").rglob("*.py")):
            module = path.relative_to(ROOT / "salttide/core").with_suffix("").as_posix().replace("/", ".")
            for names, value, said in assigned(module):
                if "judgement" in said.lower() and value and min(value) > 1e-3:
                    self.assertTrue((module, names[0]) in told, f"{module}.{names[0]} is not in docs/judgements.md")


if __name__ == "__main__":
    unittest.main()
