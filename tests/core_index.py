"""Write docs/core.md from the core's own signatures and docstrings: `make docs`. A test keeps it current."""

from __future__ import annotations

import enum
import importlib
import inspect
from collections.abc import Iterable
from typing import Any

import salttide.core
from salttide.core.jot.sums import EXAMPLES
from salttide.core.system import catalogue
from salttide.core.system.inspection import Amount, Where
from tests.stage import ROOT

PAGE = ROOT / "docs" / "core.md"
HEAD = """# The core's public functions

All of them are in `salttide.core`: `from salttide.core import salt_mass_g`. They take plain numbers and text and
return plain numbers (`Result` is a `float` that also carries `.working` and `.unit`) or small frozen dataclasses.
One line each: name with its arguments, what it gives, in which unit. This page is written from the code (`make
docs`).

**Units are in the names.** `_l` litres · `_ml` millilitres · `_g` grams · `_kg` kilograms · `_cm` centimetres ·
`_mm` millimetres · `_c` or `temperature_c` °C · `_meq_l` meq/L · `_mg_l` mg/L · `_g_l` g/L · `_kg_l` kg/L ·
`_ms_cm` mS/cm · `_uatm` µatm · `_mmol_l` mmol/L · `_minutes` minutes · `_l_min`, `_l_h` litres a minute, an hour.
Where a name has none: `salinity` practical salinity (shown as ppt) · `fraction`, `share`, `purity`, `porosity` from
0 to 1, never percent · `rise`, `target`, `uptake` in mg/L, for alkalinity meq/L, for salinity ppt · `value`,
`incoming`, `before`, `after` in any one unit of concentration · `days`, `every_days` days · `ph_nbs`, `ph_total` pH
on that scale.

**Errors.** What is not a number, not possible, or another scale or unit raises an `InputError` (a `ValueError`):
`NumberError`, `DomainError` (with value, unit and range), `UnitError`, `ScaleError`, `AmbiguousError` (with its
readings). What no water, salt or dose can do raises `PlanError`, a fault in the app's own data files
`RuleError`; all are a `SaltTideError`.

"""


def page() -> str:
    """The whole page."""
    return (
        HEAD
        + "**Choices** are given as their text or as the enumeration:\n\n"
        + "".join(_choices())
        + "\n**Records** that some functions take:\n\n"
        + "".join(_records())
        + "".join(_module(name) for name in salttide.core.PUBLIC if name != "basics.errors")
    )


def _choices() -> list[str]:
    kinds = [kind for kind in _classes() if issubclass(kind, enum.Enum)]
    return [f"- `{kind.__name__}` " + ", ".join(str(member.value) for member in kind) + "\n" for kind in kinds]


def _records() -> list[str]:
    return [_line(kind.__name__) for kind in _classes() if not issubclass(kind, enum.Enum | Exception)]


def _classes() -> list[type]:
    return [found for found in map(_public, _names()) if inspect.isclass(found)]


def _names() -> list[str]:
    return [name for names in salttide.core.PUBLIC.values() for name in names]


def _public(name: str) -> Any:
    return getattr(salttide.core, name)


def _module(name: str) -> str:
    functions = [_line(each) for each in salttide.core.PUBLIC[name] if inspect.isroutine(_public(each))]
    if not functions:
        return ""
    text = inspect.getdoc(importlib.import_module(f"salttide.core.{name}")) or ""
    more = {"jot.sums": _indented(EXAMPLES), "judgement.scenario": _told(), "judgement.findings": _heard()}.get(
        name, ""
    )
    return f"\n## {name}\n\n{_first(text)}\n\n" + "".join(functions) + (f"\n{more}" if more else "")


def _indented(lines: Iterable[str]) -> str:
    return "".join(f"    {line}\n" for line in lines)


def _told() -> str:
    """How a situation is told: what stands in each argument, and the words that are known."""
    doc = inspect.getdoc(_public("situation_described")) or ""
    return (
        "".join(f"{line}\n" for line in doc.split("\n\n")[1].splitlines() if not line.startswith("Raises"))
        + f"\nSights: {', '.join(catalogue.signs())}. Amounts: {', '.join(Amount)}. Places: {', '.join(Where)}.\n"
        + f"Happenings: {', '.join(catalogue.event_kinds())}. Presets of bands: {', '.join(catalogue.presets())}.\n"
    )


def _heard() -> str:
    """The rules in the order in which they are heard."""
    rules = (f"- `{kind.key}` ({kind.move}): {kind.about}" for kind in catalogue.rule_kinds().values())
    return "Rules, in the order in which they are heard:\n\n" + "".join(f"{line}\n" for line in rules)


def _line(name: str) -> str:
    function = _public(name)
    arguments = ", ".join(_argument(item) for item in inspect.signature(function).parameters.values())
    return f"- `{name}({arguments})`: {_first(inspect.getdoc(function) or '')}\n"


def _argument(item: inspect.Parameter) -> str:
    if item.default is inspect.Parameter.empty:
        return item.name
    default = item.default.value if isinstance(item.default, enum.Enum) else item.default
    return f"{item.name}={default!r}" if isinstance(default, int | float | str | None) else f"{item.name}=…"


def _first(text: str) -> str:
    """The first paragraph on one line."""
    return " ".join(text.split("\n\n")[0].split())


if __name__ == "__main__":
    PAGE.write_text(page(), "utf-8")
