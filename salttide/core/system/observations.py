"""Observations made with a task: flow before and after, the colour in the cup, what was broken. One data file."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from typing import Any

from ..basics.errors import AmbiguousError, InputError
from ..basics.locale import writing
from ..basics.measures import Measure, measure_of, measure_words
from ..basics.number_text import DecimalSign, parse_number, show_number
from ..basics.phrasing import listed
from ..basics.quantities import Habits, Kind, parse_quantity
from .catalogue import data_file, reading_data

TEXT_MOST = 300


class InputType(StrEnum):
    """How an observation is entered."""

    NUMBER = "number"
    CHOICE = "choice"
    TEXT = "text"


@dataclass(frozen=True)
class ObservationKind:
    """A kind of observation: a number with its unit and range, one of several choices, or words."""

    key: str
    name: str
    input_type: InputType
    unit: str = ""
    low: float = 0.0
    high: float = 1e6
    digits: int = 0
    choices: tuple[str, ...] = ()


@cache
def found_kinds() -> dict[str, ObservationKind]:
    """All kinds of observations by key."""
    with reading_data("found"):
        return {key: _kind(key, row) for key, row in data_file("found").items()}


def _kind(key: str, row: Mapping[str, Any]) -> ObservationKind:
    return ObservationKind(
        **{"key": key, **row, "input_type": InputType(row["input_type"]), "choices": tuple(row.get("choices", ()))}
    )


def read_found(key: str, text: str, sign: DecimalSign = DecimalSign.POINT) -> float | str:
    """An observation as typed: a number, a choice, or words. Raises InputError at `found.<key>` with what is accepted.

    >>> read_found("cup_level", "70")
    70.0
    """
    field = f"found.{key}"
    if key not in found_kinds():
        raise InputError(f"“{key}” is not something that is found", field=field)
    kind, text = found_kinds()[key], text.strip()
    if kind.input_type == InputType.CHOICE and text not in kind.choices:
        choices = listed(list(kind.choices))
        raise InputError(f"choose one: {choices}", field=field, accepted=choices)
    if kind.input_type == InputType.TEXT and not 1 <= len(text) <= TEXT_MOST:
        raise InputError(
            f"say it in up to {TEXT_MOST} characters", field=field, accepted=f"up to {TEXT_MOST} characters"
        )
    if kind.input_type != InputType.NUMBER:
        return text
    accepted = f"{show_number(kind.low, kind.digits)} to {show_number(kind.high, kind.digits)} {kind.unit}".strip()
    try:
        value = _number(text, kind, sign)
    except InputError as error:
        error.field = field
        if isinstance(error, AmbiguousError):
            raise
        raise InputError(f"“{text}” is not a number: {accepted}", field=field, accepted=accepted) from error
    if not kind.low <= value <= kind.high:
        raise InputError(f"{text} cannot be: {accepted}", field=field, accepted=accepted)
    return value


def read_in(kind: ObservationKind) -> Measure:
    """How this keeper reads a kind's numbers; in °C there are differences only."""
    return Measure("°F", 1 / 1.8) if kind.unit == "°C" and writing().fahrenheit else measure_of(kind.unit)


def asked_in(kind: ObservationKind) -> str:
    """The unit that a bare number typed for it is in."""
    return read_in(kind).unit if kind.unit == "°C" else kind.unit


_MEASURES = {"L": Kind.VOLUME, "g": Kind.MASS, "L/h": Kind.FLOW}


def _number(text: str, kind: ObservationKind, sign: DecimalSign) -> float:
    if kind.unit in _MEASURES:
        return parse_quantity(text, _MEASURES[kind.unit], Habits(sign, writing().gallon), kind.unit).value
    read = read_in(kind)
    if read.unit != kind.unit and not text.endswith(kind.unit):
        return parse_number(text.removesuffix(read.unit).strip(), sign) * read.per
    return parse_number(text.removesuffix(kind.unit).strip(), sign)


def number_found(found: Mapping[str, float | str], key: str) -> float | None:
    """An observation as a number; None where it is not one or was not made.

    >>> number_found({"cup_level": 70, "spots": "left"}, "cup_level")
    70.0
    """
    value = found.get(key)
    return None if value is None or isinstance(value, str) else float(value)


def found_text(key: str, value_text: float | str) -> str:
    """An observation as it would be typed: a number with its digits, without its unit.

    >>> found_text("slope", 97.5)
    '97.5'
    """
    kind = found_kinds()[key]
    if isinstance(value_text, str):
        return value_text
    return show_number(value_text / (read_in(kind).per if kind.unit == "°C" else 1), kind.digits)


def _shown(value: float, kind: ObservationKind) -> str:
    if kind.unit != "°C":
        return measure_words(value, kind.unit, kind.digits).strip()
    return f"{show_number(value / read_in(kind).per, kind.digits)} {read_in(kind).unit}"


def found_words(found: Mapping[str, float | str]) -> list[str]:
    """Observations, one line each, with units.

    >>> found_words({"cup_level": 70.0, "cup_colour": "dark and dry"})
    ['Cup filled: 70 %', 'In the cup: dark and dry']
    """
    lines = []
    for key, value in found.items():
        kind = found_kinds().get(key)
        if kind is None:
            continue
        value_text = value if isinstance(value, str) else _shown(value, kind)
        lines.append(f"{kind.name}: {value_text}")
    return lines
