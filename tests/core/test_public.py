"""What the core offers to callers: every name can be had, is documented in full, and stands in docs/core.md."""

import doctest
import importlib
import inspect
import re
import unittest
from pathlib import Path

import salttide.core
from salttide.core.basics.errors import InputError
from tests.core_index import PAGE, page

NUMERIC = re.compile(r"_(l|ml|g|c|cm|kg|meq_l|mg_l|g_l)$|^(salinity|value|days)$")
FUNCTIONS = [
    (module, name)
    for module, names in salttide.core.PUBLIC.items()
    for name in names
    if inspect.isroutine(getattr(salttide.core, name))
]


class Public(unittest.TestCase):
    def test_every_name_can_be_had_from_the_core_and_no_other(self):
        for name in (name for names in salttide.core.PUBLIC.values() for name in names):
            with self.subTest(name=name):
                self.assertIn(name, dir(salttide.core))
        with self.assertRaises(AttributeError):
            salttide.core.no_such_name  # noqa: B018

    def test_no_name_is_also_a_module_which_would_hide_it_once_loaded(self):
        folder = Path(salttide.core.__file__).parent
        packages = {path.name for path in folder.iterdir() if path.is_dir()}
        self.assertEqual({name for names in salttide.core.PUBLIC.values() for name in names} & packages, set())
        for module in salttide.core.PUBLIC:
            with self.subTest(module=module):
                self.assertTrue((folder / f"{module.replace('.', '/')}.py").is_file())

    def test_docs_core_md_is_what_the_code_says(self):
        self.assertEqual(PAGE.read_text("utf-8"), page(), "run `make docs` and commit it")
        for names in salttide.core.PUBLIC.values():
            for name in names:
                with self.subTest(name=name):
                    self.assertRegex(page(), rf"`{name}[(`]")

    def test_every_function_has_an_example_that_runs(self):
        for module, name in FUNCTIONS:
            function = getattr(importlib.import_module(f"salttide.core.{module}"), name)
            with self.subTest(name=name):
                self.assertTrue(doctest.DocTestFinder(recurse=False).find(function, name)[0].examples)

    def test_every_numeric_argument_refuses_what_is_not_a_number(self):
        for module, name in FUNCTIONS:
            function = getattr(salttide.core, name)
            parameters = inspect.signature(function).parameters.values()
            first = next(iter(parameters), None)
            needed = [item for item in parameters if item.default is inspect.Parameter.empty]
            if first is None or not needed or module == "basics.number_text" or not NUMERIC.search(first.name):
                continue
            for wrong in (float("nan"), float("inf"), -1e9, None):
                with self.subTest(name=name, wrong=wrong), self.assertRaises(InputError):
                    function(*[wrong] * len(needed))
