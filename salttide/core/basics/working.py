"""Derivations shown to the keeper. A `Formula` holds one expression as text: the number and the display both come from
it, so that they cannot differ.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from types import CodeType
from typing import Any


@dataclass(frozen=True)
class FormulaInput:
    """One input of a formula: its value, its unit, and its origin (may be empty)."""

    value: float
    unit: str
    note: str = ""


@dataclass(frozen=True)
class Step:
    """One line of a derivation: symbol = formula(inputs) = value unit, with its source."""

    symbol: str
    name: str
    formula: str
    inputs: tuple[tuple[str, FormulaInput], ...]
    value: float
    unit: str
    source: str

    def given(self, note: str = "") -> FormulaInput:
        """This step's result as the input of a later one."""
        return FormulaInput(self.value, self.unit, note or self.name)


Working = tuple[Step, ...]


class Result(float):
    """A number with its derivation. It behaves as a plain float; its last step is its own.

    >>> half = Formula("v", "half of a volume", "V / 2", "L", "definition").result(V=FormulaInput(45.0, "L"))
    >>> half + 1, half.unit, half.working[-1].formula
    (23.5, 'L', 'V / 2')
    """

    working: Working

    def __new__(cls, working: Working) -> Result:
        """The value of the last step."""
        number = super().__new__(cls, working[-1].value)
        number.working = working
        return number

    def __reduce__(self) -> tuple[type[Result], tuple[Working]]:
        return Result, (self.working,)

    @property
    def unit(self) -> str:
        """The unit of the last step."""
        return self.working[-1].unit

    def given(self, note: str = "") -> FormulaInput:
        """This result as the input of a later step."""
        return self.working[-1].given(note)


@dataclass(frozen=True)
class Formula:
    """A named expression over symbols, written in plain arithmetic.

    `functions`: what the expression may call besides min, max and abs. `display` replaces the shown
    text only where the expression holds a function call that is clearer in words.

    >>> half = Formula("v", "half of a volume", "V / 2", "L", "definition")
    >>> half.compute(V=FormulaInput(45.0, "L")).value
    22.5
    >>> half.compute(V=FormulaInput(45.0, "L")).formula
    'V / 2'
    """

    symbol: str
    name: str
    expression: str
    unit: str
    source: str
    functions: dict[str, Callable[..., float]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        object.__setattr__(self, "_code", compile(self.expression, f"<{self.name}>", "eval"))

    def array(self, **inputs: Any) -> Any:
        """The expression over numbers or arrays, as it comes out."""
        code: CodeType = self._code  # type: ignore[attr-defined]
        return eval(code, {"__builtins__": {}, "min": min, "max": max, "abs": abs, **self.functions}, inputs)

    def value(self, **inputs: float) -> float:
        """The number alone, for loops that show no working."""
        return float(self.array(**inputs))

    def result(self, *before: Step | Result, **inputs: FormulaInput) -> Result:
        """The number with its derivation, after the steps that led to its inputs."""
        earlier: list[Step] = []
        for item in before:
            earlier += [step for step in (item.working if isinstance(item, Result) else (item,)) if step not in earlier]
        return Result((*earlier, self.compute(**inputs)))

    def compute(self, **inputs: FormulaInput) -> Step:
        """The number with its derivation."""
        value = self.value(**{symbol: given.value for symbol, given in inputs.items()})
        return Step(self.symbol, self.name, self.displayed, tuple(inputs.items()), value, self.unit, self.source)

    @property
    def displayed(self) -> str:
        """The expression as a person would write it."""
        return self.expression.replace("**", "^").replace(" * ", " · ").replace(" - ", " − ")
