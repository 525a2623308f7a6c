"""What the core promises at its front door: an answer or a SaltTideError, for every public function."""

import ast
import dataclasses
import enum
import importlib
import inspect
import unittest
import warnings
from collections.abc import Iterator
from datetime import date
from doctest import DocTestFinder
from math import inf, isfinite, nan
from typing import Any

import salttide.core
from salttide.core import (
    DecimalSign,
    Habits,
    after_changes,
    find_unit,
    parse_number,
    salt_left,
    settled_level,
    show_number,
    size_changes,
)
from salttide.core.basics.errors import DomainError, InputError, NumberError, SaltTideError, UnitError
from salttide.core.science.sizing import DayLimit

UNKNOWN = (nan, inf, -inf, 10**400, -(10**400))
HOSTILE = (*UNKNOWN, -1e9, -1.0, 0, 0.0, 1e300, 1e-300, 7.0, None, "x", "", "\0", "\ud800", b"\0", True, [])


def _example(function: Any, name: str) -> tuple[list[Any], dict[str, Any]]:
    """The arguments of the first call in a function's own example."""
    found = DocTestFinder(recurse=False).find(inspect.unwrap(function), name)
    known = {**vars(importlib.import_module(function.__module__)), **found[0].globs}
    for example in found[0].examples:
        tree = ast.parse(example.source)
        for node in ast.walk(tree):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == name:
                values = [_value(part, known) for part in node.args]
                return values, {part.arg: _value(part.value, known) for part in node.keywords if part.arg}
        exec(compile(tree, name, "exec"), known)
    raise AssertionError(f"{name} has no call of itself in its example")


def _value(part: ast.expr, known: dict[str, Any]) -> Any:
    return eval(compile(ast.Expression(part), "example", "eval"), known)


def _spoilt(value: Any, depth: int = 0) -> Iterator[tuple[Any, Any]]:
    """`value` with one thing in it made hostile, and what that was."""
    yield from ((hostile, hostile) for hostile in HOSTILE)
    if depth == 3:
        return
    if dataclasses.is_dataclass(value):
        for field in dataclasses.fields(value):
            for inner, hostile in _spoilt(getattr(value, field.name), depth + 1) if field.init else ():
                if isinstance(value, DayLimit) and hostile == inf:
                    continue  # no limit at all
                with Refused():
                    yield dataclasses.replace(value, **{field.name: inner}), hostile  # type: ignore[type-var]
    elif isinstance(value, tuple | list) and value:
        yield from ((type(value)([inner, *value[1:]]), hostile) for inner, hostile in _spoilt(value[0], depth + 1))
    elif isinstance(value, dict) and value:
        first = next(iter(value))
        yield from (({**value, first: inner}, hostile) for inner, hostile in _spoilt(value[first], depth + 1))


class Refused:
    """A record that refuses the value itself when it is made has kept its promise."""

    def __enter__(self) -> None: ...

    def __exit__(self, kind: type[BaseException] | None, *_: object) -> bool:
        return kind is not None and issubclass(kind, SaltTideError)


def _as_text(value: Any) -> Any:
    return value.value if isinstance(value, enum.Enum) else value


FUNCTIONS = [
    name for names in salttide.core.PUBLIC.values() for name in names if inspect.isroutine(getattr(salttide.core, name))
]


class EveryPublicFunction(unittest.TestCase):
    def test_hostile_values_give_an_answer_or_a_refusal_in_words_and_nothing_else(self):
        tried = 0
        for name in FUNCTIONS:
            function = getattr(salttide.core, name)
            values, named = _example(function, name)
            given = {**dict(enumerate(values)), **named}
            for key, value in given.items():
                for spoilt, hostile in _spoilt(value):
                    tried += 1
                    self._try(function, {**given, key: spoilt}, hostile, f"{name}[{key}]")
        self.assertGreater(tried, 15_000)

    def _try(self, function: Any, given: dict[Any, Any], hostile: Any, where: str) -> None:
        values = [value for key, value in given.items() if isinstance(key, int)]
        named = {key: value for key, value in given.items() if isinstance(key, str)}
        number = isinstance(hostile, int | float) and not isinstance(hostile, bool)
        told = "a 400-digit number" if isinstance(hostile, int) and abs(hostile) > 1e300 else repr(hostile)
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", RuntimeWarning)
            try:
                function(*values, **named)
            except SaltTideError as error:
                self.assertTrue(error.message, f"{where} with {told}")
                return
            except Exception as error:
                self.fail(f"{where} with {told}: {error!r}")
        unreal = number and (abs(hostile) > 1e300 or not isfinite(hostile))
        self.assertFalse(unreal, f"{where} took {told}")

    def test_no_negative_volume_is_taken(self):
        for name in FUNCTIONS:
            function = getattr(salttide.core, name)
            values, named = _example(function, name)
            given = inspect.signature(function).bind(*values, **named).arguments
            for key in (key for key in given if key == "volume_l" or key.endswith("_volume_l")):
                with self.subTest(name=name, key=key), self.assertRaises(SaltTideError):
                    function(**{**given, key: -1.0})

    def test_a_choice_may_be_given_as_its_text(self):
        for name in FUNCTIONS:
            function = getattr(salttide.core, name)
            values, named = _example(function, name)
            if any(isinstance(value, enum.Enum) for value in (*values, *named.values())):
                with self.subTest(name=name):
                    texts = [_as_text(value) for value in values], {key: _as_text(each) for key, each in named.items()}
                    self.assertEqual(repr(function(*texts[0], **texts[1])), repr(function(*values, **named)))


class Promises(unittest.TestCase):
    """Those of docs/core.md that were broken, each by hand."""

    def test_choices_as_text(self):
        self.assertIs(Habits(sign=",").sign, DecimalSign.COMMA)
        self.assertEqual(parse_number("8.2", "."), 8.2)
        self.assertEqual(parse_number("8,2", ","), 8.2)
        self.assertEqual((parse_number("8.25", ","), parse_number("8,25", ".")), (8.25, 8.25))
        self.assertEqual(show_number(-1.25, 2, ","), "−1,25")
        self.assertEqual(find_unit("litres", "volume"), (salttide.core.Kind.VOLUME, "L"))
        with self.assertRaisesRegex(UnitError, r"\., ,"):
            Habits(sign=";")

    def test_whole_numbers_as_7_0(self):
        self.assertEqual(after_changes(20.0, 0.0, 0.1, 7.0), after_changes(20.0, 0.0, 0.1, 7))
        with self.assertRaises(NumberError) as refused:
            after_changes(20.0, 0.0, 0.1, 7.5)
        self.assertEqual((refused.exception.field, refused.exception.accepted), ("count", "a whole number"))

    def test_a_number_of_400_digits_is_refused_also_as_text(self):
        with self.assertRaisesRegex(NumberError, "400 digits"):
            parse_number("9" * 400)

    def test_a_limit_that_lets_nothing_move_is_refused_and_one_without_end_is_not(self):
        for up, down, share in ((0, 0, None), (1.0, 0.0, None), (1.0, 1.0, 0.0), (nan, 1.0, None)):
            with self.subTest(up=up, down=down, share=share), self.assertRaises(DomainError):
                DayLimit(up, down, share)
        sized = size_changes("nitrate", {"nitrate": 20.0}, 18.0, {"nitrate": 0.0}, 100, limit=DayLimit(inf, inf))
        # From 20 to 18 with water of 0: a tenth of 100 L.
        self.assertAlmostEqual(float(sized.litres), 10.0, places=9)

    def test_salt_that_lasts_for_ever_has_no_day_to_buy(self):
        # 6000 g at 0.05 g a week are 840 000 days, beyond the last date there is.
        left = salt_left(10_000.0, 4_000.0, 0.05, date(2026, 11, 24))
        self.assertAlmostEqual(left.days, 840_000.0, places=3)
        self.assertIsNone(left.buy_on)
        self.assertEqual(left.words, "6.0 kg left, enough for more than ten years")

    def test_no_level_settles_below_nothing(self):
        # 5 + (−2 · 7) / 0.1 is −135; a level ends at 0, as `level_with_production` says of the same water.
        self.assertEqual(float(settled_level(5.0, 0.1, -2.0, 7.0)), 0.0)

    def test_what_is_missing_or_not_known_is_told_too(self):
        with self.assertRaises(InputError):
            settled_level(5.0, 0.1)
        with self.assertRaises(InputError):
            settled_level(5.0, 0.1, -2.0, 7.0, weeks=3)
