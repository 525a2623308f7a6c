"""The examples in the core's docstrings run, each module's as one test."""

from __future__ import annotations

import doctest
import importlib
import pkgutil
import unittest
from collections.abc import Callable

import salttide.core


class Examples(unittest.TestCase):
    def test_there_are_many(self) -> None:
        count = sum(
            len(doctest.DocTestFinder().find(importlib.import_module(module.name)))
            for module in pkgutil.walk_packages(salttide.core.__path__, "salttide.core.")
        )
        self.assertGreater(count, 300)


def _runs(name: str) -> Callable[[Examples], None]:
    def test(self: Examples) -> None:
        said: list[str] = []
        runner = doctest.DocTestRunner(verbose=False)
        for each in doctest.DocTestFinder().find(importlib.import_module(name)):
            runner.run(each, out=said.append)
        self.assertEqual(runner.failures, 0, "".join(said))

    return test


for _module in pkgutil.walk_packages(salttide.core.__path__, "salttide.core."):
    _name = _module.name.removeprefix("salttide.core.").replace(".", "_")
    setattr(Examples, f"test_{_name}", _runs(_module.name))
