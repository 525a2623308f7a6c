"""Plain arithmetic: "40*0.12", "(12 + 3) / 2"."""

from __future__ import annotations

import ast
import operator
import re
from collections.abc import Callable, Mapping

from ..basics.errors import AmbiguousError
from ..basics.number_text import parse_number
from ..basics.phrasing import either
from .answer import Answer, JotContext
from .reader import JotError

_SIGNS = str.maketrans({"×": "*", "x": "*", "X": "*", "÷": "/", "−": "-", ":": "/"})
_SUM = re.compile(r"[\d\s.,+\-−*×xX/÷:()]+")
_NUMBER = re.compile(r"\d[\d.,]*|[.,]\d+")
_OPERATORS: Mapping[type[ast.operator], Callable[[float, float], float]] = {
    ast.Add: operator.add, ast.Sub: operator.sub, ast.Mult: operator.mul, ast.Div: operator.truediv,
}  # fmt: skip
SIDES = 3
"""So many lengths with "x" between them are a box, not a product."""


def is_arithmetic(text: str) -> bool:
    """Whether a line holds numbers and operators alone, two numbers or more."""
    line = text.strip().removeprefix("=").strip()
    if not _SUM.fullmatch(line) or len(_NUMBER.findall(line)) < 2:
        return False
    return bool(re.search(r"[+\-−*/÷:()]", line)) or len(re.split(r"[x×X]", line)) not in (1, SIDES)


def arithmetic(text: str, context: JotContext) -> Answer:
    """The answer to plain arithmetic. Raises JotError where it is no sum, or divides by nothing."""
    shown = text.strip().removeprefix("=").strip()
    sign = context.habits.sign
    begins = text.index(shown[:1]) if shown else 0
    written = re.sub(r"(?<=\d)\s(?=\d{3}(?!\d))", "", shown)
    try:
        plain = _NUMBER.sub(lambda number: repr(parse_number(number.group(), sign)), written).translate(_SIGNS)
        value = _value(ast.parse(plain, mode="eval").body)
    except AmbiguousError as error:
        raise JotError(error.message, begins, len(text), either(error.readings)) from error
    except (SyntaxError, ValueError, OverflowError) as error:
        raise JotError("this is not a sum that can be worked out", begins, len(text), "such as 40 * 0.12") from error
    except ZeroDivisionError as error:
        raise JotError("nothing can be divided by 0", begins, len(text), "a number other than 0") from error
    return Answer(" ".join(shown.split()), value, "", context.digits(value, 8))


def _value(node: ast.expr) -> float:
    match node:
        case ast.Constant(value=int() | float() as value):
            return float(value)
        case ast.UnaryOp(op=ast.USub(), operand=inner):
            return -_value(inner)
        case ast.UnaryOp(op=ast.UAdd(), operand=inner):
            return _value(inner)
        case ast.BinOp(left=left, op=op, right=right) if type(op) in _OPERATORS:
            return _OPERATORS[type(op)](_value(left), _value(right))
    raise ValueError("not arithmetic")
