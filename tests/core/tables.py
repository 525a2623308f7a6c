"""Tables of cases: what is called, what must come out, how near, and where the expected value is from."""

from __future__ import annotations

import unittest
from collections.abc import Callable, Iterable
from typing import Any

from salttide.core.basics.errors import SaltTideError

Case = tuple[Callable[..., Any], tuple[Any, ...], float, float]
"""Function, arguments, expected value, most deviation."""


class TableTest(unittest.TestCase):
    """Checks tables row by row; the comment beside a row says where its value is from."""

    def check(self, cases: Iterable[Case]) -> None:
        """Every row's value within its deviation."""
        for function, arguments, expected, delta in cases:
            with self.subTest(function=function.__name__, arguments=arguments):
                self.assertAlmostEqual(float(function(*arguments)), expected, delta=delta)

    def refused(self, cases: Iterable[tuple[Callable[..., Any], tuple[Any, ...], type[SaltTideError]]]) -> None:
        """Every row is refused with its error, in words, and never with another exception."""
        for function, arguments, error in cases:
            with self.subTest(function=function.__name__, arguments=arguments):
                with self.assertRaises(error) as raised:
                    function(*arguments)
                self.assertGreater(len(raised.exception.message), 10)
